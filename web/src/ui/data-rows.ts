/** Rows of an answer as a person arranges and takes them: in order, and as cells for a spreadsheet. */
import type { Cell } from "../api/client";

const TEXTS = new Intl.Collator("en", { numeric: true });

/** Places of the rows in the order of one column, missing values last and equal ones as they were; `last` stays at the end. */
export function arranged(rows: Cell[][], column: number, descending: boolean, last: number | null = null): number[] {
  const places = rows.map((_, n) => n).filter((n) => n !== last);
  places.sort((a, b) => {
    const [x, y] = [rows[a]?.[column] ?? null, rows[b]?.[column] ?? null];
    if (x === null || y === null) return x === y ? 0 : x === null ? 1 : -1;
    const order = typeof x === "string" && typeof y === "string" ? TEXTS.compare(x, y) : Number(x) - Number(y);
    return descending ? -order : order;
  });
  return last === null ? places : [...places, last];
}

/** Cells as a spreadsheet takes them from the clipboard: raw values, so that numbers stay numbers. */
export const asCells = (rows: Cell[][]): string => rows.map((row) => row.map(pasted).join("\t")).join("\n");

function pasted(value: Cell): string {
  if (value === null) return "";
  if (typeof value !== "string") return String(value);
  // What a spreadsheet would run as a formula is text, and says so.
  const harmless = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
  return /[\t\n"]/.test(harmless) ? `"${harmless.replaceAll('"', '""')}"` : harmless;
}

/** Tells whether there is something in a column, and all of it looks so. */
const allLook = (like: RegExp) => (values: Cell[]) => {
  const known = values.filter((v) => v !== null);
  return known.length > 0 && known.every((v) => typeof v === "string" && like.test(v));
};

/** True for a column whose cells are pictures themselves. */
export const arePictures = allLook(/^data:image\/(png|jpeg|gif|webp|avif);base64,/);

/** True for a column in which some cell is called as a file of a picture is. */
export const namePictures = (values: Cell[]): boolean =>
  values.some((v) => typeof v === "string" && /\.(png|jpe?g|gif|webp)$/i.test(v));

/** Finds the picture among those that were sent which a cell names, whatever folder and capitals it writes; undefined where there is none. */
export function pictureFinder(names: string[]): (cell: string) => string | undefined {
  const called = new Map(names.map((name) => [name.toLowerCase(), name]));
  return (cell) => (/^https?:/i.test(cell) ? undefined : called.get((cell.split(/[\\/]/).pop() ?? "").toLowerCase()));
}

/** True for a column of addresses of pictures: they are text until somebody wants to see them, for the page loads nothing from elsewhere. */
export const areAddressesOfPictures = allLook(/^https?:\/\/\S+\.(png|jpe?g|gif|webp)(\?\S*)?$/i);
