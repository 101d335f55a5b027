/** The rows behind one row of an answer, or one mark of its chart, in a window of their own. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Answered, type Worked } from "../../api/client";
import { plural } from "../../ui/format";
import { Busy, ProblemNote, Window } from "../../ui/primitives";
import { ResultTable } from "./result-table";

/** True for an answer whose rows are groups of others. */
export const hasGroups = (answer: Answered): boolean =>
  !answer.study?.own_rows &&
  (answer.plan.steps as { step: string; by?: string[] }[]).some(
    (s) => s.step === "pivot" || (s.step === "group" && (s.by?.length ?? 0) > 0),
  );

/** What a row is about, a text for each column that says so. */
export const labelsOf = (answer: Answered, row: number): string[] =>
  answer.fields.flatMap((f, place) =>
    f.measures || f.name === "total_row" ? [] : [answer.cells[row]?.[place] ?? "missing"],
  );

export function Behind({ answer, row }: { answer: Answered; row: number }) {
  const [open, setOpen] = useState(false);
  const name = labelsOf(answer, row).join(", ");
  return (
    <>
      <button
        type="button"
        aria-label={`The rows behind ${name}`}
        onClick={() => setOpen(true)}
        className="text-xs text-pen underline underline-offset-2 opacity-0 focus:opacity-100 group-hover:opacity-100 [@media(hover:none)]:opacity-100"
      >
        rows
      </button>
      {open && <RowsBehind answer={answer} row={row} name={name} onClose={() => setOpen(false)} />}
    </>
  );
}

export function RowsBehind({
  answer,
  row,
  column = "",
  name,
  onClose,
}: {
  answer: Answered;
  row: number;
  /** Of a cross table, the column of the cell. */
  column?: string;
  name: string;
  onClose: () => void;
}) {
  return (
    <RowsWindow
      title={name}
      told="behind it"
      of={["behind", answer.id, row, column]}
      load={() => api.behind(answer.id, row, column)}
      onClose={onClose}
    />
  );
}

/** Rows that are looked into, in a window; `told` says behind their number what they are. */
export function RowsWindow({
  title,
  told,
  of,
  load,
  onClose,
}: {
  title: string;
  told: string;
  of: readonly unknown[];
  load: () => Promise<Worked>;
  onClose: () => void;
}) {
  const rows = useQuery({ queryKey: of, queryFn: load });
  return (
    <Window
      open
      onClose={onClose}
      title={title}
      about={rows.data ? `${plural(rows.data.total, "row")} ${told}` : ""}
      wide
    >
      {rows.isPending && <Busy>Looking…</Busy>}
      {rows.isError && <ProblemNote error={rows.error} />}
      {rows.data && (
        <ResultTable fields={rows.data.fields} rows={rows.data.rows} cells={rows.data.cells} total={rows.data.total} />
      )}
    </Window>
  );
}
