/** Rows against pixels of the scroll bar, for tables taller than a browser can draw. */

/** Browsers draw no element taller than some tens of millions of pixels. */
export const TALLEST = 12_000_000;

export type Scale = {
  total: number;
  /** Rows that fit the window. */
  inSight: number;
  /** Pixels that rows have in the window. */
  height: number;
  /** Pixels of a row. */
  row: number;
};

const length = ({ total, height, row }: Scale) => Math.max(1, Math.min(total * row, TALLEST) - height);

/** The row at the top of the window where the bar stands there. */
export function firstRow(scrollTop: number, scale: Scale): number {
  const { total, inSight, row } = scale;
  if (total * row <= TALLEST) return scrollTop / row;
  return Math.min(1, scrollTop / length(scale)) * Math.max(0, total - inSight);
}

/** Where the bar stands when that row is at the top. */
export function scrollTopFor(first: number, scale: Scale): number {
  const { total, inSight, row } = scale;
  if (total * row <= TALLEST) return first * row;
  return (first / Math.max(1, total - inSight)) * length(scale);
}
