/** The cells of a table that a person marked. */
import { useState } from "react";

type Place = readonly [row: number, column: number];

/** The cells that a person marked, by mouse or by Shift and the arrows. */
export function useSelection(rows: number, columns: number) {
  const [ends, setEnds] = useState<{ start: Place; end: Place } | null>(null);
  const span = ends && {
    rows: [Math.min(ends.start[0], ends.end[0]), Math.max(ends.start[0], ends.end[0])] as const,
    columns: [Math.min(ends.start[1], ends.end[1]), Math.max(ends.start[1], ends.end[1])] as const,
  };
  const step: Record<string, Place> = {
    ArrowDown: [1, 0],
    ArrowUp: [-1, 0],
    ArrowRight: [0, 1],
    ArrowLeft: [0, -1],
  };
  return {
    span,
    end: ends?.end,
    has: (row: number, column: number) =>
      span !== null &&
      row >= span.rows[0] &&
      row <= span.rows[1] &&
      column >= span.columns[0] &&
      column <= span.columns[1],
    begin: (row: number, column: number, further: boolean) =>
      setEnds(further && ends ? { ...ends, end: [row, column] } : { start: [row, column], end: [row, column] }),
    extend: (row: number, column: number) => ends && setEnds({ ...ends, end: [row, column] }),
    /** Whether the key moves what is marked. */
    move: (key: string, further: boolean): boolean => {
      if (key === "Escape" && ends) {
        setEnds(null);
        return true;
      }
      const by = step[key];
      if (!by || !ends) return false;
      const end: Place = [
        Math.min(rows - 1, Math.max(0, ends.end[0] + by[0])),
        Math.min(columns - 1, Math.max(0, ends.end[1] + by[1])),
      ];
      setEnds({ start: further ? ends.start : end, end });
      return true;
    },
  };
}
