/** The rows behind one row of an answer, in a window of their own. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Answered } from "../../api/client";
import { plural } from "../../ui/format";
import { Busy, ProblemNote, Window } from "../../ui/primitives";
import { ResultTable } from "./result-table";

/** True for an answer whose rows are groups of others. */
export const hasGroups = (answer: Answered): boolean =>
  (answer.plan.steps as { step: string; by?: string[] }[]).some((s) => s.step === "group" && (s.by?.length ?? 0) > 0);

export function Behind({ answer, row }: { answer: Answered; row: number }) {
  const [open, setOpen] = useState(false);
  const name = answer.fields
    .flatMap((f, place) => (f.measures ? [] : [answer.cells[row]?.[place] ?? "missing"]))
    .join(", ");
  return (
    <>
      <button
        type="button"
        aria-label={`The rows behind ${name}`}
        onClick={() => setOpen(true)}
        className="text-xs text-pen underline underline-offset-2 opacity-0 focus:opacity-100 group-hover:opacity-100"
      >
        rows
      </button>
      {open && <Rows answer={answer} row={row} name={name} onClose={() => setOpen(false)} />}
    </>
  );
}

function Rows({ answer, row, name, onClose }: { answer: Answered; row: number; name: string; onClose: () => void }) {
  const rows = useQuery({ queryKey: ["behind", answer.id, row], queryFn: () => api.behind(answer.id, row) });
  return (
    <Window
      open
      onClose={onClose}
      title={name}
      about={rows.data ? `${plural(rows.data.total, "row")} behind it` : ""}
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
