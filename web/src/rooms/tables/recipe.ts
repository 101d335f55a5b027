/** Edits of a table's recipe, each a new recipe. */
import type { Recipe, ShapeStep, TableEntry, Type } from "../../api/client";

const of = (entry: TableEntry): Recipe => entry.recipe;

export const undone = (entry: TableEntry, key: string): Recipe => {
  const recipe = of(entry);
  if (key.startsWith("step:")) {
    const place = Number(key.slice(5));
    return { ...recipe, steps: (recipe.steps ?? []).filter((_, i) => i !== place) };
  }
  return { ...recipe, declined: [...(recipe.declined ?? []), key] };
};

export const redone = (entry: TableEntry, key: string): Recipe => ({
  ...of(entry),
  declined: (of(entry).declined ?? []).filter((k) => k !== key),
});

export const ordered = (entry: TableEntry, column: string, order: "day" | "month"): Recipe => ({
  ...of(entry),
  orders: { ...of(entry).orders, [column]: order },
});

export const withStep = (entry: TableEntry, step: ShapeStep): Recipe => ({
  ...of(entry),
  steps: [...(of(entry).steps ?? []), step],
});

export const typed = (entry: TableEntry, column: string, type: Type | null): Recipe => {
  const { [column]: _gone, ...rest } = of(entry).types ?? {};
  return { ...of(entry), types: type === null ? rest : { ...rest, [column]: type } };
};

const ACTS: Record<string, string> = {
  titles: "lines above the header are skipped",
  totals: "rows of totals are left out",
  header: "the first row is the header",
  units: "the row of units is taken off",
  two_headers: "two header rows are joined",
  notes_below: "notes below the table are left out",
  remarks: "lines of remarks are left out",
  pages: "lines that every page repeats are left out",
  repeated_headers: "repeated headers are left out",
  merged: "merged cells are filled",
  hidden_sheets: "hidden sheets are left out",
  tables: "tables are told apart",
};

/** What an undone act would do, for the offer to do it again. */
export function actWords(key: string): string {
  const [act = "", column = ""] = key.split(/:(.*)/);
  if (act === "type") return `${column} is read as more than text`;
  if (act === "sentinel") return `far-out nines in ${column} are missing`;
  if (act === "several") return `cells of ${column} hold several items`;
  return ACTS[act] ?? act.replaceAll("_", " ");
}
