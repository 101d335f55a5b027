import js from "@eslint/js";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

export default ts.config(
  { ignores: ["dist", "node_modules", "src/api/schema.ts"] },
  js.configs.recommended,
  ...ts.configs.recommendedTypeChecked,
  hooks.configs.flat.recommended,
  a11y.flatConfigs.recommended,
  { languageOptions: { parserOptions: { projectService: { allowDefaultProject: ["eslint.config.js"] }, tsconfigRootDir: import.meta.dirname } } },
);
