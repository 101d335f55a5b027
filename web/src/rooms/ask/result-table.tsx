/** Rows of an answer on ruled paper: in any order, as wide and as many of its columns as wanted, and copied as cells. */
import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState, type ReactNode } from "react";
import { api, type Cell, type Field, type Order } from "../../api/client";
import {
  areAddressesOfPictures,
  arePictures,
  arranged,
  asCells,
  namePictures,
  pictureFinder,
} from "../../ui/data-rows";
import { plural, whole } from "../../ui/format";
import { Link, ProblemNote } from "../../ui/primitives";
import { useSelection } from "./cell-selection";
import { ColumnHead } from "./column-head";

type Page = { rows: Cell[][]; cells: (string | null)[][] };

/** Where the rows that did not come with the answer are to be had. */
export type More = {
  key: readonly unknown[];
  page: (offset: number, limit: number, order: Order | null) => Promise<Page>;
  totals: () => Promise<(string | null)[]>;
};

type Props = {
  fields: Field[];
  rows: Cell[][];
  cells: (string | null)[][];
  total: number;
  more?: More;
  behind?: (row: number) => ReactNode;
};

/* Rows up to which all are drawn; more are drawn as they come in sight. */
const DRAWN = 60;
const PAGE = 200;
const ROW = 27;
/* Pixels that a long table has, and rows drawn beyond what is in sight. */
const HEIGHT = 560;
const SPARE = 6;
/* Pixels more than the first rows want, for longer ones to come. */
const SLACK = 14;
/* A head as long as a sentence is cut; its column can be drawn wider. */
const WIDEST = 260;
/* No browser draws much more than this many rows of such a height. */
const MOST = 500_000;

/** Cells are shown as they come; the raw rows are sorted by and copied. */
export function ResultTable({ fields, rows, cells, total, more, behind }: Props) {
  const totalsAt = fields.findIndex((f) => f.name === "total_row");
  const [order, setOrder] = useState<Order | null>(null);
  const [hidden, setHidden] = useState<readonly number[]>([]);
  const [frozen, setFrozen] = useState(0);
  const [widths, setWidths] = useState<readonly number[] | null>(null);
  const [summed, setSummed] = useState(false);
  const [fetched, setFetched] = useState<readonly number[]>([]);
  const [top, setTop] = useState(0);
  const places = fields.map((_, n) => n).filter((n) => n !== totalsAt && !hidden.includes(n));
  const here = rows.length >= total || !more;
  const size = Math.min(here ? rows.length : total, MOST);
  const long = size > DRAWN;
  const from = long ? Math.max(0, Math.floor(top / ROW) - SPARE) : 0;
  const to = long ? Math.min(size, from + Math.ceil(HEIGHT / ROW) + 2 * SPARE) : size;
  const loaded = usePages(more, order, from, to, here || (to <= rows.length && !order));
  const last = totalsAt >= 0 ? rows.findIndex((row) => row[totalsAt] === true) : -1;
  const sortedBy = order ? fields.findIndex((f) => f.name === order.column) : -1;
  const sequence =
    here && sortedBy >= 0 ? arranged(rows, sortedBy, order?.descending ?? false, last < 0 ? null : last) : null;
  const rowAt = (n: number): { row: Cell[]; cells: (string | null)[]; place: number | null } | null => {
    const place = sequence ? (sequence[n] ?? n) : n;
    if (here || (n < rows.length && !order)) return { row: rows[place] ?? [], cells: cells[place] ?? [], place };
    const got = loaded.at(n);
    return got && { ...got, place: null };
  };
  const sums = useQuery({
    queryKey: [...(more?.key ?? []), "totals"],
    queryFn: () => more?.totals() ?? Promise.resolve([]),
    enabled: summed && more !== undefined,
  });
  const first = (n: number) => rows.slice(0, 20).map((row) => row[n] ?? null);
  const naming = places.filter((n) => namePictures(first(n)));
  const sent = useQuery({ queryKey: ["pictures"], queryFn: api.pictures, enabled: naming.length > 0 });
  const pictureOf = pictureFinder(sent.data ?? []);
  const shownAs = (text: string, c: number): string | null => {
    if (fetched.includes(c)) return api.pictureAt(text);
    const name = naming.includes(c) ? pictureOf(text) : undefined;
    return name === undefined ? null : api.pictureNamed(name);
  };
  const box = useRef<HTMLDivElement>(null);
  const heads = useRef<(HTMLTableCellElement | null)[]>([]);
  const measured = () => fields.map((_, n) => widths?.[n] ?? heads.current[n]?.offsetWidth ?? 0);
  // Other rows come in sight as one scrolls: columns keep the width that the first of them gave, once all letters are there.
  useEffect(() => {
    if (!long) return;
    void document.fonts.ready.then(() =>
      setWidths((w) => w ?? fields.map((_, n) => Math.min(WIDEST, (heads.current[n]?.offsetWidth ?? 0) + SLACK))),
    );
  }, [long, fields]);
  const picked = useSelection(size, places.length);
  const [copied, setCopied] = useState("");
  if (size === 0) return null;
  const copy = () => {
    const span = picked.span;
    if (!span) return;
    const taken: Cell[][] = [];
    for (let n = span.rows[0]; n <= span.rows[1]; n++) {
      const row = rowAt(n)?.row;
      if (row) taken.push(places.slice(span.columns[0], span.columns[1] + 1).map((c) => row[c] ?? null));
    }
    void navigator.clipboard.writeText(asCells(taken)).then(() => {
      setCopied(`${plural(taken.length * (taken[0]?.length ?? 0), "cell")} copied`);
      setTimeout(() => setCopied(""), 2000);
    });
  };
  const left = (at: number) => places.slice(0, at).reduce((sum, n) => sum + (widths?.[n] ?? 0), 0);
  const stuck = (at: number) => (at < frozen ? { position: "sticky" as const, left: left(at), zIndex: 1 } : undefined);
  const thumb = `w-auto ${long ? "h-5" : "h-10"}`;
  const pictures = places.filter((n) => arePictures(first(n)));
  return (
    <div className="mt-4">
      <div
        ref={box}
        className="overflow-auto"
        style={long ? { height: HEIGHT } : undefined}
        // A box that scrolls must be reached by the keys that scroll it, and its cells by those that mark them.
        // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        role="region"
        aria-label="Rows of the answer"
        onScroll={(e) => long && setTop(e.currentTarget.scrollTop)}
        onKeyDown={(e) => {
          if ((e.ctrlKey || e.metaKey) && e.key === "c" && picked.span) {
            e.preventDefault();
            copy();
          } else if (picked.move(e.key, e.shiftKey)) {
            e.preventDefault();
            const n = picked.end?.[0] ?? 0;
            const above = n * ROW - e.currentTarget.scrollTop;
            if (long && (above < 0 || above > HEIGHT - 3 * ROW)) e.currentTarget.scrollTop = n * ROW - HEIGHT / 2;
          }
        }}
      >
        <table
          className={`border-separate border-spacing-0 ${widths ? "table-fixed" : long ? "w-max min-w-full" : "w-full"}`}
          style={widths ? { width: places.reduce((sum, n) => sum + (widths[n] ?? 0), behind ? 44 : 0) } : undefined}
          aria-rowcount={total}
          data-testid="answer-table"
        >
          <thead>
            <tr className="text-xs text-soft">
              {places.map((n, at) => {
                const field = fields[n];
                return (
                  field && (
                    <th
                      key={field.name}
                      ref={(cell) => void (heads.current[n] = cell)}
                      scope="col"
                      aria-sort={
                        order?.column !== field.name ? undefined : order.descending ? "descending" : "ascending"
                      }
                      className={`sticky top-0 border-b border-ink bg-paper p-0 font-medium ${field.measures ? "text-right" : "text-left"} ${at < frozen ? "z-[2]" : "z-[1]"}`}
                      style={{
                        ...(stuck(at) ?? {}),
                        ...(widths ? { width: widths[n] } : {}),
                        zIndex: at < frozen ? 3 : 2,
                      }}
                    >
                      <ColumnHead
                        field={field}
                        order={order}
                        onOrder={setOrder}
                        onHide={() => places.length > 1 && setHidden([...hidden, n])}
                        frozen={at < frozen}
                        onFreeze={() => {
                          setWidths(measured());
                          setFrozen(at < frozen ? 0 : at + 1);
                        }}
                        onSum={more && field.measures ? () => setSummed(!summed) : null}
                        onPictures={
                          areAddressesOfPictures(first(n))
                            ? () => setFetched(fetched.includes(n) ? fetched.filter((f) => f !== n) : [...fetched, n])
                            : null
                        }
                        pictured={fetched.includes(n)}
                        onResize={(by) =>
                          setWidths(measured().map((w, c) => (c === n ? Math.max(40, Math.min(900, w + by)) : w)))
                        }
                      />
                    </th>
                  )
                );
              })}
              {behind && <th className="sticky top-0 w-11 border-b border-ink bg-paper" aria-label="Behind it" />}
            </tr>
          </thead>
          <tbody>
            {from > 0 && <tr aria-hidden style={{ height: from * ROW }} />}
            {Array.from({ length: to - from }, (_, i) => from + i).map((n) => {
              const shown = rowAt(n);
              const isTotal = shown?.row[totalsAt] === true;
              return (
                <tr
                  key={n}
                  aria-rowindex={n + 2}
                  className={`group ${isTotal ? "font-semibold" : ""}`}
                  style={long ? { height: ROW } : undefined}
                >
                  {places.map((c, at) => {
                    const text = shown?.cells[c] ?? null;
                    const numeric = fields[c]?.measures;
                    const picture = text === null ? null : shownAs(text, c);
                    return (
                      <td
                        key={fields[c]?.name}
                        onMouseDown={(e) => e.button === 0 && picked.begin(n, at, e.shiftKey)}
                        onMouseEnter={(e) => e.buttons === 1 && picked.extend(n, at)}
                        title={widths && text && text.length > 12 ? text : undefined}
                        style={stuck(at)}
                        className={`px-2 py-1 ${isTotal ? "border-t border-ink" : ""} ${numeric ? "text-right font-mono text-[12.5px]" : ""} ${widths || long ? "max-w-80 truncate" : ""} ${picked.has(n, at) ? "bg-pen-light/40" : !isTotal && n % 2 === 1 ? "bg-band" : "bg-paper"}`}
                      >
                        {shown === null ? (
                          <span className="text-soft">…</span>
                        ) : text === null && isTotal ? (
                          at === 0 && "all"
                        ) : text === null ? (
                          <span className="font-sans text-soft">missing</span>
                        ) : pictures.includes(c) ? (
                          <img src={text} alt={fields[c]?.label} className={thumb} />
                        ) : picture !== null ? (
                          <img src={picture} alt={text} title={text} loading="lazy" className={thumb} />
                        ) : (
                          text
                        )}
                      </td>
                    );
                  })}
                  {behind && (
                    <td className={`px-1 py-1 text-right ${!isTotal && n % 2 === 1 ? "bg-band" : ""}`}>
                      {isTotal || shown?.place == null ? null : behind(shown.place)}
                    </td>
                  )}
                </tr>
              );
            })}
            {to < size && <tr aria-hidden style={{ height: (size - to) * ROW }} />}
          </tbody>
          {summed && (
            <tfoot>
              <tr className="font-semibold">
                {places.map((c, at) => (
                  <td
                    key={fields[c]?.name}
                    style={stuck(at)}
                    className="sticky bottom-0 border-t border-ink bg-paper px-2 py-1 text-right font-mono text-[12.5px]"
                  >
                    {sums.data?.[c] ?? (at === 0 ? <span className="float-left font-sans">total</span> : "")}
                  </td>
                ))}
                {behind && <td className="sticky bottom-0 border-t border-ink bg-paper" />}
              </tr>
            </tfoot>
          )}
        </table>
      </div>
      {loaded.error != null && <ProblemNote error={loaded.error} again={loaded.again} />}
      {sums.isError && <ProblemNote error={sums.error} />}
      <p className="flex flex-wrap gap-x-4 py-1.5 text-xs text-soft" role="status">
        {long && <span>{plural(total, "row")}</span>}
        {here && total > rows.length && <span>The first {whole(rows.length)} are shown.</span>}
        {!here && total > MOST && <span>The first {whole(MOST)} can be scrolled to; a saved file has all.</span>}
        {hidden.length > 0 && <Link onClick={() => setHidden([])}>show {plural(hidden.length, "hidden column")}</Link>}
        {copied && <span>{copied}</span>}
      </p>
    </div>
  );
}

/** The pages of which some rows are in sight. */
function usePages(more: More | undefined, order: Order | null, from: number, to: number, here: boolean) {
  const first = Math.floor(from / PAGE);
  const numbers = here ? [] : Array.from({ length: Math.floor((to - 1) / PAGE) - first + 1 }, (_, n) => first + n);
  const found = useQueries({
    queries: numbers.map((n) => ({
      queryKey: [...(more?.key ?? []), "page", order, n],
      queryFn: () => more?.page(n * PAGE, PAGE, order) ?? Promise.resolve({ rows: [], cells: [] }),
      placeholderData: keepPreviousData,
    })),
  });
  const failed = found.find((q) => q.isError);
  return {
    at: (n: number) => {
      const page = found[Math.floor(n / PAGE) - first]?.data;
      const row = page?.rows[n % PAGE];
      return row ? { row, cells: page.cells[n % PAGE] ?? [] } : null;
    },
    error: failed?.error,
    again: () => void failed?.refetch(),
  };
}
