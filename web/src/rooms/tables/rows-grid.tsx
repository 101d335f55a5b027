/** All rows of a table, sorted and filtered as wanted; only those in sight are fetched and drawn. */
import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, type Cell, type Column, type RowsView, type TableEntry } from "../../api/client";
import { duration, plural } from "../../ui/format";
import { ProblemNote } from "../../ui/primitives";
import { firstRow, scrollTopFor, TALLEST } from "./scroll-scale";

const PAGE = 200;
const ROW = 27;
/* Pixels of the row of names. */
const HEAD = 34;
const PAUSE = 250;

export function RowsGrid({ table }: { table: TableEntry["table"] }) {
  const [view, setView] = useState<RowsView>({ sort: null, descending: false, filter: "" });
  const [typed, setTyped] = useState("");
  useEffect(() => {
    const timer = setTimeout(() => setView((v) => (v.filter === typed ? v : { ...v, filter: typed })), PAUSE);
    return () => clearTimeout(timer);
  }, [typed]);
  const first = useQuery({
    queryKey: ["rows", table.name, view, 0],
    queryFn: () => api.rows(table.name, 0, PAGE, view),
    placeholderData: keepPreviousData,
  });
  const total = first.data?.total ?? table.rows;
  const sort = (name: string) =>
    setView((v) =>
      v.sort !== name
        ? { ...v, sort: name, descending: false }
        : v.descending
          ? { ...v, sort: null, descending: false }
          : { ...v, descending: true },
    );
  return (
    <>
      <div className="mt-3 flex shrink-0 items-center gap-3 text-soft">
        <input
          type="search"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          placeholder="Show rows that hold…"
          aria-label="Show rows that hold"
          className="w-56 rounded border border-rule bg-paper px-2 py-0.5 text-ink"
        />
        <span role="status">
          {first.isPlaceholderData
            ? "Looking through the rows…"
            : view.filter
              ? `${plural(total, "row")} of ${plural(table.rows, "row")}`
              : plural(table.rows, "row")}
          {view.sort ? `, by ${view.sort}${view.descending ? " downwards" : ""}` : ""}
        </span>
      </div>
      {first.isError ? (
        <ProblemNote error={first.error} again={() => void first.refetch()} />
      ) : (
        <Rows
          key={`${view.sort}-${view.descending}-${view.filter}`}
          table={table}
          view={view}
          total={total}
          onSort={sort}
        />
      )}
    </>
  );
}

const numeric = (c: Column) =>
  ["integer", "decimal", "float", "duration"].includes(c.type) && !["identifier", "link", "code"].includes(c.role);

function shown(value: Cell | undefined, c: Column): string {
  if (value == null) return "";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (c.type === "duration") return duration(Number(value));
  const digits = c.digits ?? (c.type === "decimal" ? (c.scale ?? 2) : null);
  return digits !== null && typeof value === "number" ? value.toFixed(digits) : String(value);
}

/** Wide enough for its name and its commonest values, within reason. */
function widthOf(c: Column): number {
  const longest = c.type === "text" ? Math.max(0, ...(c.bars ?? []).map((b) => b.label.length)) : 0;
  return Math.min(
    240,
    Math.max(
      84,
      8.2 * c.name.length + 34,
      7.4 * longest + 26,
      c.type === "timestamp" ? 160 : 0,
      c.role === "name" || c.role === "text" ? 170 : 0,
    ),
  );
}

function Rows({
  table,
  view,
  total,
  onSort,
}: {
  table: TableEntry["table"];
  view: RowsView;
  total: number;
  onSort: (name: string) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  const [height, setHeight] = useState(400);
  useEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const watch = new ResizeObserver(() => setHeight(box.clientHeight));
    watch.observe(box);
    return () => watch.disconnect();
  }, []);
  const inSight = Math.max(1, Math.floor((height - HEAD) / ROW));
  const scale = { total, inSight, height: height - HEAD, row: ROW };
  const last = Math.max(0, total - inSight);
  const moveTo = (row: number) => {
    const next = Math.min(last, Math.max(0, row));
    setTop(next);
    if (scroller.current) scroller.current.scrollTop = scrollTopFor(next, scale);
  };
  /* Beyond the tallest element a browser draws, one pixel of the bar is many rows, so the wheel and keys count rows. */
  const squeezed = total * ROW > TALLEST;
  useEffect(() => {
    const box = scroller.current;
    if (!box || !squeezed) return;
    const wheel = (e: WheelEvent) => {
      if (!e.deltaY) return;
      e.preventDefault();
      moveTo(top + Math.sign(e.deltaY) * Math.max(1, Math.round(Math.abs(e.deltaY) / ROW)));
    };
    box.addEventListener("wheel", wheel, { passive: false });
    return () => box.removeEventListener("wheel", wheel);
  });
  const from = Math.floor(top);
  const indexes = Array.from({ length: Math.min(inSight + 2, total - from) }, (_, i) => from + i);
  const pages = [...new Set(indexes.map((i) => Math.floor(i / PAGE)))];
  const loaded = useQueries({
    queries: pages.map((page) => ({
      queryKey: ["rows", table.name, view, page],
      queryFn: () => api.rows(table.name, page * PAGE, PAGE, view),
    })),
  });
  const failed = loaded.find((q) => q.isError);
  const row = (index: number): Cell[] | undefined =>
    loaded[pages.indexOf(Math.floor(index / PAGE))]?.data?.rows[index % PAGE];
  const widths = table.columns.map(widthOf);
  const template = widths.map((w) => `minmax(${w}px,${w}fr)`).join(" ");
  const minWidth = widths.reduce((sum, w) => sum + w, 0);
  const keys: Record<string, number> = {
    PageDown: inSight,
    PageUp: -inSight,
    ArrowDown: 1,
    ArrowUp: -1,
    Home: -total,
    End: total,
  };
  return (
    <div
      ref={scroller}
      className="relative mt-2 min-h-0 flex-1 overflow-auto"
      tabIndex={0}
      role="table"
      aria-label={`Rows of ${table.name}`}
      aria-rowcount={total}
      onScroll={(e) => {
        const next = firstRow(e.currentTarget.scrollTop, scale);
        /* Setting the bar rounds; only a person's own move is followed. */
        if (!squeezed || Math.abs(scrollTopFor(top, scale) - e.currentTarget.scrollTop) > 1) setTop(next);
      }}
      onKeyDown={(e) => {
        const step = keys[e.key];
        if (step === undefined) return;
        e.preventDefault();
        moveTo(Math.round(top) + step);
      }}
    >
      <div
        className="sticky top-0 z-10 grid border-b border-ink bg-paper text-xs font-medium text-soft"
        role="row"
        style={{ gridTemplateColumns: template, minWidth }}
      >
        {table.columns.map((c) => (
          <span
            role="columnheader"
            key={c.name}
            aria-sort={view.sort === c.name ? (view.descending ? "descending" : "ascending") : "none"}
            className={`truncate ${numeric(c) ? "text-right" : ""}`}
          >
            <button
              type="button"
              onClick={() => onSort(c.name)}
              title={`Sort by ${c.name}`}
              className="w-full truncate px-2.5 py-2 text-inherit hover:text-ink"
              style={{ textAlign: "inherit" }}
            >
              {c.name}
              {view.sort === c.name ? (view.descending ? " ↓" : " ↑") : ""}
            </button>
          </span>
        ))}
      </div>
      {failed && <ProblemNote error={failed.error} again={() => void failed.refetch()} />}
      {total === 0 && <p className="p-3 text-soft">No row holds “{view.filter}”.</p>}
      <div style={{ height: Math.min(total * ROW, TALLEST), minWidth }} aria-hidden />
      <div
        className="absolute left-0 w-full"
        style={{ top: HEAD + scrollTopFor(top, scale) - (squeezed ? 0 : scrollTopFor(top, scale) % ROW), minWidth }}
      >
        {indexes.map((index) => (
          <div
            role="row"
            aria-rowindex={index + 1}
            key={index}
            className={`grid w-full items-center ${index % 2 === 0 ? "bg-band" : ""}`}
            style={{ gridTemplateColumns: template, height: ROW }}
          >
            {table.columns.map((c, i) => {
              const text = shown(row(index)?.[i], c);
              return (
                <span
                  role="cell"
                  key={c.name}
                  title={text.length > 20 ? text : undefined}
                  className={`truncate px-2.5 ${numeric(c) ? "text-right font-mono text-[12.5px]" : ""}`}
                >
                  {text}
                </span>
              );
            })}
          </div>
        ))}
      </div>
    </div>
  );
}
