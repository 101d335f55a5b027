/** All rows of a table; only those in sight are fetched and drawn. */
import { useQueries } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";
import { api, type Cell, type TableEntry } from "../../api/client";
import { ProblemNote } from "../../ui/primitives";

const PAGE = 200;
const ROW = 27;
/* Browsers cannot draw an element taller than about 33 million pixels. */
const MOST_ROWS = 1_000_000;

export function RowsGrid({ table }: { table: TableEntry["table"] }) {
  const scroller = useRef<HTMLDivElement>(null);
  const shown = Math.min(table.rows, MOST_ROWS);
  const rows = useVirtualizer({ count: shown, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 12 });
  const items = rows.getVirtualItems();
  const pages = [...new Set(items.map((item) => Math.floor(item.index / PAGE)))];
  const loaded = useQueries({
    queries: pages.map((page) => ({ queryKey: ["rows", table.name, page], queryFn: () => api.rows(table.name, page * PAGE, PAGE) })),
  });
  const failed = loaded.find((q) => q.isError);
  const row = (index: number): Cell[] | undefined => loaded[pages.indexOf(Math.floor(index / PAGE))]?.data?.rows[index % PAGE];
  const widths = table.columns.map((c) => Math.min(240, Math.max(84, 8.2 * c.name.length + 24, c.type === "timestamp" ? 160 : 0, c.role === "name" || c.role === "text" ? 170 : 0)));
  const template = widths.map((w) => `minmax(${w}px,${w}fr)`).join(" ");
  const minWidth = widths.reduce((sum, w) => sum + w, 0);
  const numeric = (i: number) => ["integer", "decimal", "float"].includes(table.columns[i]?.type ?? "") && !["identifier", "link", "code"].includes(table.columns[i]?.role ?? "");
  return (
    <div ref={scroller} className="mt-3 min-h-0 flex-1 overflow-auto" tabIndex={0} role="table" aria-label={`Rows of ${table.name}`} aria-rowcount={table.rows}>
      <div className="sticky top-0 z-10 grid border-b border-ink bg-paper text-xs font-medium text-soft" role="row" style={{ gridTemplateColumns: template, minWidth }}>
        {table.columns.map((c, i) => <span role="columnheader" key={c.name} className={`truncate px-2.5 py-2 ${numeric(i) ? "text-right" : ""}`}>{c.name}</span>)}
      </div>
      {failed && <ProblemNote error={failed.error} again={() => void failed.refetch()} />}
      <div style={{ height: rows.getTotalSize(), position: "relative", minWidth }}>
        {items.map((item) => (
          <div
            role="row"
            key={item.key}
            className={`absolute left-0 grid w-full items-center ${item.index % 2 === 0 ? "bg-band" : ""}`}
            style={{ gridTemplateColumns: template, height: ROW, transform: `translateY(${item.start}px)` }}
          >
            {table.columns.map((c, i) => {
              const value = row(item.index)?.[i];
              const text = value == null ? "" : typeof value === "boolean" ? (value ? "yes" : "no") : c.type === "decimal" ? Number(value).toFixed(c.scale ?? 2) : String(value);
              return <span role="cell" key={c.name} title={text.length > 20 ? text : undefined} className={`truncate px-2.5 ${numeric(i) ? "text-right font-mono text-[12.5px]" : ""}`}>{text}</span>;
            })}
          </div>
        ))}
      </div>
      {table.rows > shown && <p className="p-2 text-soft">The first million rows are shown here; questions read all of them.</p>}
    </div>
  );
}
