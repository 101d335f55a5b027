/** A chart drawn by Vega-Lite from the specification that came with the answer. */
import { useEffect, useRef, useState } from "react";
import type { View } from "vega";
import { useNight } from "../../ui/look";
import { ProblemNote } from "../../ui/primitives";
import { atNight } from "./night";

/** What a person pointed at: a mark, by the answer's row that it is of, or a span along a time; and where that is on the chart. */
export type Marked = {
  of: { row: number; column?: string } | { from: string; to: string };
  at: { x: number; y: number };
};

/** A chart that is drawn, for what can be saved of it. */
export type Drawn = { picture: (form: "png" | "svg") => Promise<string>; svg: () => Promise<string> };

export function Chart({
  spec,
  label,
  onDrawn,
  onMarked,
}: {
  spec: Record<string, unknown>;
  label: string;
  onDrawn?: (drawn: Drawn | null) => void;
  onMarked?: (marked: Marked) => void;
}) {
  const place = useRef<HTMLDivElement>(null);
  const night = useNight();
  const [error, setError] = useState<unknown>(null);
  const told = useRef({ onDrawn, onMarked });
  useEffect(() => {
    told.current = { onDrawn, onMarked };
  });
  useEffect(() => {
    let gone = false;
    let finish: (() => void) | undefined;
    // The drawing library is large; it is fetched once the first chart is wanted.
    import("vega-embed")
      .then(async ({ default: embed }) => {
        if (gone || !place.current) return;
        const result = await embed(place.current, night ? atNight(spec) : spec, DRAWN);
        finish = () => result.finalize();
        // The span that can be drawn over a time is no mark of the data, and has nothing to be read out.
        place.current.querySelectorAll("[class*=brush_brush]").forEach((mark) => {
          mark.removeAttribute("role");
          mark.removeAttribute("aria-roledescription");
        });
        if (gone) finish();
        else {
          // What leaves is for white paper, whatever the page looks like.
          const byDay = async <T,>(taken: (view: View) => Promise<T>): Promise<T> => {
            const apart = night && place.current ? await drawnApart(embed, spec, place.current.clientWidth) : null;
            const found = await taken(apart ?? result.view);
            apart?.finalize();
            return found;
          };
          told.current.onDrawn?.({
            picture: (form) => byDay((view) => view.toImageURL(form, form === "png" ? 2 : 1)),
            svg: () => byDay((view) => view.toSVG()),
          });
          watch(result.view, place.current, spec, (marked) => told.current.onMarked?.(marked));
        }
      })
      .catch(setError);
    return () => {
      gone = true;
      told.current.onDrawn?.(null);
      finish?.();
    };
  }, [spec, night]);
  if (error) return <ProblemNote error={error} />;
  return <div ref={place} role="img" aria-label={`Chart. ${label}`} className="mt-4 w-full" data-testid="chart" />;
}

/* Expressions are interpreted, since the page's rules let no script be made of text. */
const DRAWN = { actions: false, renderer: "svg", ast: true } as const;

/** The chart by day, out of sight. */
async function drawnApart(
  embed: (at: HTMLElement, spec: Record<string, unknown>, options: typeof DRAWN) => Promise<{ view: View }>,
  spec: Record<string, unknown>,
  width: number,
): Promise<View> {
  const at = document.createElement("div");
  return (await embed(at, { ...spec, width: spec.width === "container" ? width : spec.width }, DRAWN)).view;
}

/** Tell of marks that are clicked, and of spans that are drawn over a time once they are drawn. */
function watch(view: View, place: HTMLElement, spec: Record<string, unknown>, tell: (marked: Marked) => void): void {
  const at = (event: { clientX: number; clientY: number }) => {
    const box = place.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  view.addEventListener("click", (event, item) => {
    const datum = item?.datum as { row?: number; column?: string } | undefined;
    if (typeof datum?.row === "number" && event instanceof MouseEvent)
      tell({ of: { row: datum.row, ...(datum.column ? { column: datum.column } : {}) }, at: at(event) });
  });
  if (!JSON.stringify(spec).includes('"brush"')) return;
  let span: readonly [number, number] | null = null;
  view.addSignalListener("brush", (_, value: { when?: [number, number] }) => {
    const [from, to] = value.when ?? [0, 0];
    span = to !== from ? [Math.min(from, to), Math.max(from, to)] : null;
  });
  place.addEventListener("pointerup", (event) => {
    const marked = span && within(spec, span);
    span = null;
    if (marked) tell({ of: marked, at: at(event) });
  });
}

/** The first and the last point of a time that lie in a span, as they are told there. */
export function within(
  spec: Record<string, unknown>,
  [from, to]: readonly [number, number],
): { from: string; to: string } | null {
  const { values } = (spec.data ?? { values: [] }) as { values: { when?: string; at?: string }[] };
  const inside = values
    .filter((v) => v.when !== undefined && Date.parse(`${v.when}Z`) >= from && Date.parse(`${v.when}Z`) <= to)
    .sort((a, b) => (a.when ?? "").localeCompare(b.when ?? ""));
  const [first, last] = [inside[0]?.at, inside.at(-1)?.at];
  return first && last ? { from: first, to: last } : null;
}
