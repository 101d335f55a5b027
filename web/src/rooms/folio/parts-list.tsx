/** What stands on a page, in its order, which dragging and Alt with an arrow change. */
import { useState } from "react";
import { api, type FolioPage, type Part } from "../../api/client";
import { Heading, ProblemNote } from "../../ui/primitives";
import { usePageChange } from "./use-page";

export const placeOfPart = (id: number) => `part-${id}`;

/** Bring a part of the page into sight. */
export const toPart = (id: number) => document.getElementById(placeOfPart(id))?.scrollIntoView({ block: "start" });

const named = (part: Part) =>
  part.kind === "answer" ? part.question : part.text.replace(/[#*_>`]/g, "").trim() || "an empty text";

/** The numbers with one of them at another place. */
export function movedTo(ids: number[], from: number, to: number): number[] {
  const rest = ids.filter((_, n) => n !== from);
  const one = ids[from];
  return one === undefined ? ids : [...rest.slice(0, to), one, ...rest.slice(to)];
}

export function PartsList({ page }: { page: FolioPage }) {
  const [carried, setCarried] = useState<number | null>(null);
  const [over, setOver] = useState<number | null>(null);
  const order = usePageChange((parts: number[]) => api.orderParts(page.id, parts));
  const ids = page.parts.map((p) => p.id);
  const move = (from: number, to: number) => {
    if (to >= 0 && to < ids.length && to !== from) order.mutate(movedTo(ids, from, to));
  };
  if (page.parts.length === 0) return null;
  return (
    <section className="pt-5" aria-label="On this page">
      <div className="px-3.5">
        <Heading>On this page</Heading>
      </div>
      <ol className="mt-1">
        {page.parts.map((part, n) => (
          <li
            key={part.id}
            draggable
            onDragStart={(e) => {
              e.dataTransfer.setData("text/plain", named(part));
              setCarried(n);
            }}
            onDragOver={(e) => {
              e.preventDefault();
              setOver(n);
            }}
            onDragEnd={() => {
              setCarried(null);
              setOver(null);
            }}
            onDrop={(e) => {
              e.preventDefault();
              if (carried !== null) move(carried, n);
            }}
            className={over === n && carried !== null && carried !== n ? "bg-band" : ""}
          >
            <button
              type="button"
              onClick={() => toPart(part.id)}
              onKeyDown={(e) => {
                if (!e.altKey || (e.key !== "ArrowUp" && e.key !== "ArrowDown")) return;
                e.preventDefault();
                move(n, n + (e.key === "ArrowUp" ? -1 : 1));
              }}
              className="flex w-full cursor-grab items-baseline gap-2 border-b border-rule px-3.5 py-1 text-left"
            >
              <span className="w-4 shrink-0 font-mono text-xs text-soft">{n + 1}</span>
              <span
                className={`min-w-0 flex-1 truncate ${part.kind === "heading" ? "font-semibold" : part.kind === "text" ? "text-soft" : ""}`}
              >
                {named(part)}
              </span>
              {part.seen?.met ? (
                <span className="shrink-0 text-xs text-caution">watch met</span>
              ) : (
                part.beside && <span className="shrink-0 text-xs text-soft">beside {n}</span>
              )}
            </button>
          </li>
        ))}
      </ol>
      <p className="px-3.5 pt-1 text-xs text-soft">Drag, or Alt+↑, Alt+↓</p>
      {order.isError && <ProblemNote error={order.error} />}
    </section>
  );
}
