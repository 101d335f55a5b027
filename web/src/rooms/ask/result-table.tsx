/** Rows of an answer on ruled paper: the first of them, and all on demand. */
import { useState } from "react";
import type { Cell, Field } from "../../api/client";
import { cell, isNumber, whole } from "../../ui/format";
import { Link } from "../../ui/primitives";

const FIRST_ROWS = 60;

export function ResultTable({ fields, rows, total }: { fields: Field[]; rows: Cell[][]; total: number }) {
  const [all, setAll] = useState(false);
  const shown = all ? rows : rows.slice(0, FIRST_ROWS);
  if (shown.length === 0) return null;
  return (
    <div className="mt-4 overflow-x-auto">
      <table className="w-full border-collapse" data-testid="answer-table">
        <thead>
          <tr className="border-b border-ink text-xs text-soft">
            {fields.map((f) => <th key={f.name} scope="col" className={`px-2 py-2 font-medium ${isNumber(f) ? "text-right" : "text-left"}`}>{f.label}</th>)}
          </tr>
        </thead>
        <tbody>
          {shown.map((row, r) => (
            <tr key={r} className={r % 2 === 1 ? "bg-band" : ""}>
              {fields.map((f, c) => {
                const value = row[c] ?? null;
                return (
                  <td key={f.name} className={`px-2 py-1 ${isNumber(f) ? "text-right font-mono text-[12.5px]" : ""}`}>
                    {value === null ? <span className="font-sans text-soft">missing</span> : cell(value, f)}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > shown.length && <div className="py-2"><Link onClick={() => setAll(true)}>Show all {whole(rows.length)} rows</Link></div>}
      {total > rows.length && <p className="py-2 text-soft">The first {whole(rows.length)} of {whole(total)} rows are shown.</p>}
    </div>
  );
}
