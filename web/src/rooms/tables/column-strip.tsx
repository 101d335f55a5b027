/** A strip with each column's role, what is missing, and its distribution; a click says more of it, or changes it. */
import { useState } from "react";
import type { Column, TableEntry } from "../../api/client";
import { dateWords, duration, whole } from "../../ui/format";
import { numberWords } from "../../ui/style";
import { ColumnWindow } from "./meaning";
import { ROLE_WORDS } from "./roles";

export function ColumnStrip({ entry }: { entry: TableEntry }) {
  const { table } = entry;
  const [open, setOpen] = useState<Column | null>(null);
  return (
    <>
      <div className="mt-3 flex shrink-0 overflow-x-auto border-t border-ink" role="list" aria-label="Columns">
        {table.columns.map((column) => (
          <div role="listitem" key={column.name} className="w-[128px] shrink-0 border-r border-rule last:border-r-0">
            <button
              type="button"
              className="flex h-full w-full flex-col px-2.5 py-2 text-left hover:bg-band"
              title={column.description || `Say what ${column.name} means`}
              onClick={() => setOpen(column)}
            >
              <span className="block w-full truncate font-semibold">{column.name}</span>
              <span className="block w-full truncate text-xs text-soft">{kind(column)}</span>
              <span
                className={`block w-full truncate text-xs ${entry.guesses[column.name]?.dark && !column.description && !column.display ? "text-caution" : "text-pen"}`}
              >
                {entry.guesses[column.name]?.dark && !column.description && !column.display
                  ? "what does it mean?"
                  : note(column, table)}
              </span>
              <Distribution column={column} rows={table.rows} />
            </button>
          </div>
        ))}
      </div>
      {open && <ColumnWindow entry={entry} column={open} onClose={() => setOpen(null)} />}
    </>
  );
}

function kind(column: Column): string {
  if (column.type === "timestamp") return "date and time";
  if (column.type === "time") return "time of day";
  if (column.type === "duration") return "duration";
  const unit = column.unit && column.role === "money" ? column.unit : null;
  return unit
    ? `money in ${unit}`
    : column.unit && !["money", "percentage"].includes(column.role)
      ? `${ROLE_WORDS[column.role]}, ${column.unit}`
      : ROLE_WORDS[column.role];
}

function note(column: Column, table: TableEntry["table"]): string {
  const { rows } = table;
  if (table.time === column.name) return "the table's date";
  const missing = (column.missing ?? 0) / Math.max(rows, 1);
  if (missing > 0)
    return missing < 0.001
      ? `${whole(column.missing ?? 0)} missing`
      : `${(100 * missing).toFixed(missing < 0.01 ? 1 : 0)}% missing`;
  if (column.distinct === rows) return "all different";
  if (column.type === "duration" && column.median != null) return `median ${duration(column.median)}`;
  const measured = !["identifier", "link", "code"].includes(column.role);
  if (measured && ["integer", "decimal", "float"].includes(column.type) && column.median != null)
    return `median ${numberWords(column.median, 2)}`;
  return `${whole(column.distinct ?? 0)} different`;
}

function Distribution({ column, rows }: { column: Column; rows: number }) {
  const bars = column.bars ?? [];
  if (bars.length === 0 || column.role === "identifier") return null;
  if (column.type === "text" || column.type === "boolean") {
    return (
      <ul className="mt-1.5 w-full space-y-0.5 text-xs">
        {bars.map((bar) => (
          <li key={bar.label} className="relative flex justify-between gap-1 px-1">
            <span
              aria-hidden
              className="absolute inset-y-0 left-0 bg-pen-light/50"
              style={{ width: `${(100 * bar.rows) / rows}%` }}
            />
            <span className="relative truncate" title={bar.label}>
              {bar.label}
            </span>
            <span className="relative">{((100 * bar.rows) / rows).toFixed(0)}%</span>
          </li>
        ))}
      </ul>
    );
  }
  const most = Math.max(...bars.map((b) => b.rows));
  const ends = [column.low, column.high].map((v) =>
    v == null
      ? ""
      : column.type === "date" || column.type === "timestamp"
        ? dateWords(v)
        : column.type === "time"
          ? v.slice(0, 5)
          : numberWords(Number(v), 1),
  );
  return (
    <svg
      viewBox={`0 0 ${bars.length * 8} 40`}
      className="mt-1.5 h-10 w-full"
      preserveAspectRatio="none"
      role="img"
      aria-label={`Distribution from ${ends[0]} to ${ends[1]}`}
    >
      <title>{`${ends[0]} to ${ends[1]}`}</title>
      {bars.map((bar, i) => {
        const height = Math.max((38 * bar.rows) / most, bar.rows ? 1 : 0);
        return <rect key={bar.label} x={8 * i} y={40 - height} width={7.2} height={height} fill="#8FB0D6" />;
      })}
    </svg>
  );
}
