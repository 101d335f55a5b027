/** The answer: how it was read, the finding, the chart and the table. */
import { useState } from "react";
import type { Answer } from "../../api/client";
import { cell, isNumber, whole } from "../../ui/format";
import { Button, Link } from "../../ui/primitives";
import { Chart } from "./chart";

const FIRST_ROWS = 60;

export function AnswerView({ answer, onChoose }: { answer: Answer; onChoose: (choice: number) => void }) {
  const [charted, setCharted] = useState(true);
  if (answer.status !== "answered") {
    return (
      <div className="mt-6 border-l-2 border-caution py-1 pl-4" role="alert">
        <p className="font-serif text-lg">{answer.problem}</p>
        <p className="mt-1 text-soft">Say it in other words, or name the table, column or value you mean. The Tables room shows what there is.</p>
      </div>
    );
  }
  const single = answer.rows.length === 1 && answer.fields.length === 1 ? answer.fields[0] : undefined;
  return (
    <div className="mt-4 border-t border-rule pt-3">
      <p>
        <b className="font-semibold">Read as</b> <span className="text-soft">{answer.reading}.</span>
      </p>
      {answer.doubt && (
        <p className="mt-1 text-caution">
          {answer.unread.length > 0 ? `Not used: ${answer.unread.join(", ")}. ` : ""}
          {answer.unread.length === 0 && answer.alternatives.length > 0 ? "Another reading is nearly as likely; see below." : ""}
        </p>
      )}
      <p className="mt-4 font-serif text-xl leading-snug" data-testid="finding">{answer.finding}</p>
      {single && answer.rows[0] && <p className="mt-3 font-mono text-4xl">{cell(answer.rows[0][0] ?? null, single) || "missing"}</p>}
      {answer.chart && charted && <Chart spec={answer.chart} label={answer.finding} />}
      {!single && <AnswerTable answer={answer} />}
      <div className="mt-3 flex gap-2">
        {answer.chart && <Button onClick={() => setCharted(!charted)}>{charted ? "Table only" : "Show chart"}</Button>}
        {!single && answer.rows.length > 0 && <Button onClick={() => save(answer)}>Save as CSV</Button>}
      </div>
      {answer.alternatives.length > 0 && (
        <div className="mt-5 text-soft">
          Could also be read as
          <ul className="mt-1 space-y-1">
            {answer.alternatives.map((a) => <li key={a.choice}><Link onClick={() => onChoose(a.choice)}>{a.reading}</Link></li>)}
          </ul>
        </div>
      )}
    </div>
  );
}

function AnswerTable({ answer }: { answer: Answer }) {
  const [all, setAll] = useState(false);
  const rows = all ? answer.rows : answer.rows.slice(0, FIRST_ROWS);
  if (rows.length === 0) return null;
  return (
    <div className="mt-4 overflow-x-auto">
      <table className="w-full border-collapse" data-testid="answer-table">
        <thead>
          <tr className="border-b border-ink text-xs text-soft">
            {answer.fields.map((f) => <th key={f.name} scope="col" className={`px-2 py-2 font-medium ${isNumber(f) ? "text-right" : "text-left"}`}>{f.label}</th>)}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, r) => (
            <tr key={r} className={r % 2 === 1 ? "bg-band" : ""}>
              {answer.fields.map((f, c) => {
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
      {answer.rows.length > rows.length && <div className="py-2"><Link onClick={() => setAll(true)}>Show all {whole(answer.rows.length)} rows</Link></div>}
      {answer.total > answer.rows.length && <p className="py-2 text-soft">The first {whole(answer.rows.length)} of {whole(answer.total)} rows are shown.</p>}
    </div>
  );
}

/** The table as a CSV file, raw values. */
function save(answer: Answer): void {
  const quoted = (value: unknown) => (value === null || value === undefined ? "" : /[",\n]/.test(String(value)) ? `"${String(value).replaceAll('"', '""')}"` : String(value));
  const lines = [answer.fields.map((f) => quoted(f.name)), ...answer.rows.map((row) => row.map(quoted))].map((cells) => cells.join(","));
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([`${lines.join("\r\n")}\r\n`], { type: "text/csv" }));
  link.download = "answer.csv";
  link.click();
  URL.revokeObjectURL(link.href);
}
