/** A strip with each column's role, what is missing, and its distribution. */
import type { Column, TableEntry } from "../../api/client";
import { dateWords, whole } from "../../ui/format";

const ROLE: Record<Column["role"], string> = {
  identifier: "identifier",
  link: "link to another table",
  name: "name",
  category: "category",
  date: "date",
  money: "money, summed",
  quantity: "quantity, summed",
  score: "measure, averaged",
  percentage: "per cent, averaged",
  code: "code",
  flag: "yes or no",
  text: "free text",
};

export function ColumnStrip({ table }: { table: TableEntry["table"] }) {
  return (
    <div className="mt-3 flex shrink-0 overflow-x-auto border-t border-ink" role="list" aria-label="Columns" tabIndex={0}>
      {table.columns.map((column) => (
        <div role="listitem" key={column.name} className="w-[128px] shrink-0 border-r border-rule px-2.5 py-2 last:border-r-0">
          <div className="truncate font-semibold" title={column.name}>{column.name}</div>
          <div className="text-xs text-soft">{column.type === "timestamp" ? "date and time" : ROLE[column.role]}</div>
          <div className="text-xs text-pen">{note(column, table.rows)}</div>
          <Distribution column={column} rows={table.rows} />
        </div>
      ))}
    </div>
  );
}

function note(column: Column, rows: number): string {
  const missing = (column.missing ?? 0) / Math.max(rows, 1);
  if (missing > 0) return missing < 0.001 ? `${whole(column.missing ?? 0)} missing` : `${(100 * missing).toFixed(missing < 0.01 ? 1 : 0)}% missing`;
  if (column.distinct === rows) return "all different";
  if (["integer", "decimal", "float"].includes(column.type) && column.median != null) return `median ${column.median.toLocaleString("en-GB", { maximumFractionDigits: 2 })}`;
  return `${whole(column.distinct ?? 0)} different`;
}

function Distribution({ column, rows }: { column: Column; rows: number }) {
  const bars = column.bars ?? [];
  if (bars.length === 0 || column.role === "identifier") return null;
  if (column.type === "text" || column.type === "boolean") {
    return (
      <ul className="mt-1.5 space-y-0.5 text-xs">
        {bars.map((bar) => (
          <li key={bar.label} className="relative flex justify-between gap-1 px-1">
            <span aria-hidden className="absolute inset-y-0 left-0 bg-pen-light/50" style={{ width: `${(100 * bar.rows) / rows}%` }} />
            <span className="relative truncate" title={bar.label}>{bar.label}</span>
            <span className="relative">{((100 * bar.rows) / rows).toFixed(0)}%</span>
          </li>
        ))}
      </ul>
    );
  }
  const most = Math.max(...bars.map((b) => b.rows));
  const ends = [column.low, column.high].map((v) => (v == null ? "" : column.type === "date" || column.type === "timestamp" ? dateWords(v) : Number(v).toLocaleString("en-GB", { maximumFractionDigits: 1 })));
  return (
    <svg viewBox={`0 0 ${bars.length * 8} 40`} className="mt-1.5 h-10 w-full" preserveAspectRatio="none" role="img" aria-label={`Distribution from ${ends[0]} to ${ends[1]}`}>
      <title>{`${ends[0]} to ${ends[1]}`}</title>
      {bars.map((bar, i) => {
        const height = Math.max((38 * bar.rows) / most, bar.rows ? 1 : 0);
        return <rect key={bar.label} x={8 * i} y={40 - height} width={7.2} height={height} fill="#8FB0D6" />;
      })}
    </svg>
  );
}
