/** Rows of an answer on ruled paper: the first of them, and all on demand. */
import { useState, type ReactNode } from "react";
import type { Cell, Field } from "../../api/client";
import { whole } from "../../ui/format";
import { Link } from "../../ui/primitives";

const FIRST_ROWS = 60;

type Props = {
  fields: Field[];
  rows: Cell[][];
  cells: (string | null)[][];
  total: number;
  rest?: string;
  behind?: (row: number) => ReactNode;
};

/** Cells are shown as they come; `behind` is what stands at the end of a row. the raw rows only say which one is the last of a cross table. */
export function ResultTable({ fields, rows, cells, total, rest = "", behind }: Props) {
  const [all, setAll] = useState(false);
  const shown = all ? rows : rows.slice(0, FIRST_ROWS);
  if (shown.length === 0) return null;
  // The last row of a cross table with totals is that of all rows, which one column says.
  const totals = fields.findIndex((f) => f.name === "total_row");
  const kept = fields.map((f, place) => ({ f, place })).filter(({ place }) => place !== totals);
  return (
    <div className="mt-4 overflow-x-auto">
      <table className="w-full border-collapse" data-testid="answer-table">
        <thead>
          <tr className="border-b border-ink text-xs text-soft">
            {kept.map(({ f }) => (
              <th
                key={f.name}
                scope="col"
                className={`px-2 py-2 font-medium ${f.measures ? "text-right" : "text-left"}`}
              >
                {f.label}
              </th>
            ))}
            {behind && <th className="w-0" aria-label="Behind it" />}
          </tr>
        </thead>
        <tbody>
          {shown.map((row, r) => (
            <tr
              key={r}
              className={`group ${row[totals] === true ? "border-t border-ink font-semibold" : r % 2 === 1 ? "bg-band" : ""}`}
            >
              {kept.map(({ f, place }) => {
                const text = cells[r]?.[place] ?? null;
                if (text === null && row[totals] === true)
                  return (
                    <td key={f.name} className="px-2 py-1">
                      {place === 0 ? "all" : ""}
                    </td>
                  );
                return (
                  <td key={f.name} className={`px-2 py-1 ${f.measures ? "text-right font-mono text-[12.5px]" : ""}`}>
                    {text ?? <span className="font-sans text-soft">missing</span>}
                  </td>
                );
              })}
              {behind && <td className="px-1 py-1 text-right">{row[totals] === true ? null : behind(r)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > shown.length && (
        <div className="py-2">
          <Link onClick={() => setAll(true)}>Show all {whole(rows.length)} rows</Link>
        </div>
      )}
      {total > rows.length && (
        <p className="py-2 text-soft">
          The first {whole(rows.length)} of {whole(total)} rows are shown{rest}.
        </p>
      )}
    </div>
  );
}
