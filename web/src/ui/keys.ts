/** Keys that work anywhere on the page, and what they do. */
import { useEffect, useRef } from "react";

/** Words for the window that lists them, in the order of use. */
export const SHORTCUTS: readonly (readonly [string, string])[] = [
  ["/", "to the question, from any room"],
  ["Enter", "ask; after an answer, follow on from it"],
  ["Shift+Enter", "ask afresh"],
  ["Tab", "take the completion that is marked; ↓ and ↑ mark another, Escape puts them away"],
  ["↑ and ↓", "in an empty question, walk through those asked before"],
  ["Alt+→ and ←", "along the words of a question; Enter opens what else they could mean"],
  ["Alt+1 … 3", "take another reading of the question"],
  [
    "Alt+B L A P D H G X I V",
    "draw bars, a line, an area, a pie, dots, a heat map, a histogram, boxes, a bridge, intervals",
  ],
  ["Alt+S W M N O", "stacked, to 100%, a panel each, with labels, on a log scale"],
  ["Alt+T", "the table only, or the chart again"],
  ["Alt+K", "keep the answer on the page of the folio that was used last"],
  ["W", "in the folio: work the page again"],
  ["Alt+↑ and ↓", "in the folio's list: move what stands on a page"],
  ["Ctrl+Z, Ctrl+Shift+Z", "undo a change made to the steps by hand, do it again"],
  ["?", "this list"],
];

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Call for a key pressed anywhere; one without Alt does not count while somebody types. */
export function useKeys(keys: Record<string, () => void>): void {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const pressed = (e: KeyboardEvent) => {
      if (e.defaultPrevented) return;
      if (!e.altKey && isTyping(e.target)) return;
      // With Alt some keyboards give another letter; the key itself is what is meant.
      const code = e.code.replace(/^(Key|Digit)/, "");
      const held = e.ctrlKey || e.metaKey ? `Ctrl+${e.shiftKey ? "Shift+" : ""}` : e.altKey ? "Alt+" : null;
      const name = held === null ? e.key : `${held}${code}`;
      const act = latest.current[name];
      if (act) {
        e.preventDefault();
        act();
      }
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);
}
