/** Changing a table's shape: a column by formula, a split, columns as rows, rows left out. */
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type ShapeStep, type TableEntry } from "../../api/client";
import { follow } from "../../api/work";
import { Button, Choose, ProblemNote, TextField, Window } from "../../ui/primitives";
import { withStep } from "./recipe";

type Kind = "formula" | "split" | "unpivot" | "leave_out" | "fill_down";
const KINDS: readonly (readonly [Kind, string])[] = [
  ["formula", "a new column by a formula"],
  ["split", "a column split in two"],
  ["unpivot", "columns laid out as rows"],
  ["leave_out", "rows left out for a value"],
  ["fill_down", "gaps filled from above"],
];

export function ShapeWindow({ entry, onClose }: { entry: TableEntry; onClose: () => void }) {
  const { table } = entry;
  const [kind, setKind] = useState<Kind>("formula");
  const [column, setColumn] = useState(table.columns[0]?.name ?? "");
  const [columns, setColumns] = useState<string[]>([]);
  const [first, setFirst] = useState("");
  const [second, setSecond] = useState("");
  const step = (): ShapeStep => {
    switch (kind) {
      case "formula":
        return { kind, name: first, formula: second };
      case "split":
        return { kind, column, separator: first, into: [`${column}_1`, `${column}_2`] };
      case "unpivot":
        return { kind, columns, names_to: first || "name", values_to: second || "value", as_month: null };
      case "leave_out":
        return { kind, column, values: [first] };
      case "fill_down":
        return { kind, column };
    }
  };
  const apply = useMutation({
    mutationFn: async () => {
      const wanted = step();
      if (wanted.kind === "formula") await api.checkFormula(table.name, wanted.formula);
      return api.setRecipe(table.name, withStep(entry, wanted));
    },
    onSuccess: (job) => {
      follow(job);
      onClose();
    },
  });
  const ready =
    kind === "formula"
      ? first && second
      : kind === "split" || kind === "leave_out"
        ? first
        : kind === "unpivot"
          ? columns.length > 1
          : true;
  const names = table.columns.map((c) => [c.name, c.name] as const);
  return (
    <Window
      open
      onClose={onClose}
      title={`Change the shape of ${table.name}`}
      about="Each change is a step that can be undone, and is done again when a newer file takes this one's place."
    >
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          apply.mutate();
        }}
      >
        <Choose label="Make" value={kind} options={KINDS} onChange={setKind} />
        {kind === "formula" && (
          <>
            <TextField label="Name of the new column" value={first} onChange={(e) => setFirst(e.target.value)} />
            <TextField
              label="Formula"
              value={second}
              onChange={(e) => setSecond(e.target.value)}
              hint={`Columns, numbers, + - * /, comparisons, and year(), month(), weekday(), hour(), days(from, to), years(from, to), missing(). Names with spaces in "quotes".`}
            />
          </>
        )}
        {(kind === "split" || kind === "leave_out" || kind === "fill_down") && (
          <Choose label="Column" value={column} options={names} onChange={setColumn} />
        )}
        {kind === "split" && <TextField label="Split at" value={first} onChange={(e) => setFirst(e.target.value)} />}
        {kind === "leave_out" && (
          <TextField label="Leave out rows where it is" value={first} onChange={(e) => setFirst(e.target.value)} />
        )}
        {kind === "unpivot" && (
          <>
            <label className="block text-soft">
              Columns to lay out as rows
              <select
                multiple
                size={8}
                value={columns}
                onChange={(e) => setColumns([...e.target.selectedOptions].map((o) => o.value))}
                className="mt-0.5 block w-full rounded border border-rule bg-paper px-2 py-1 text-ink"
              >
                {names.map(([n]) => (
                  <option key={n} value={n}>
                    {n}
                  </option>
                ))}
              </select>
            </label>
            <div className="grid grid-cols-2 gap-3">
              <TextField
                label="Their names go to"
                value={first}
                placeholder="name"
                onChange={(e) => setFirst(e.target.value)}
              />
              <TextField
                label="Their values go to"
                value={second}
                placeholder="value"
                onChange={(e) => setSecond(e.target.value)}
              />
            </div>
          </>
        )}
        {apply.isError && <ProblemNote error={apply.error} />}
        <div className="flex justify-end">
          <Button type="submit" disabled={!ready || apply.isPending}>
            Do it
          </Button>
        </div>
      </form>
    </Window>
  );
}
