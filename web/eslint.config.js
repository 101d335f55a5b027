import js from "@eslint/js";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

export default ts.config(
  { ignores: ["dist", "node_modules", "eslint.config.js", "src/api/schema.ts"] },
  js.configs.recommended,
  ...ts.configs.recommendedTypeChecked,
  hooks.configs.flat.recommended,
  a11y.flatConfigs.recommended,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  {
    rules: {
      // What scrolls must be reached by the keyboard: code, and the rows of a table.
      "jsx-a11y/no-noninteractive-tabindex": ["error", { tags: ["pre"], roles: ["table"] }],
      "jsx-a11y/no-noninteractive-element-interactions": ["error", { handlers: ["onClick", "onMouseDown"] }],
      "@typescript-eslint/no-unused-vars": ["error", { ignoreRestSiblings: true, varsIgnorePattern: "^_" }],
    },
  },
);
