/** Numbers, dates and plurals as people read them. */
import type { Cell, Field } from "../api/client";

export const whole = (n: number) => n.toLocaleString("en-GB");

export const plural = (n: number, one: string, many = `${one}s`) => `${whole(n)} ${n === 1 ? one : many}`;

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const SIGNS: Record<string, string> = { GBP: "£", EUR: "€", USD: "$" };

/** 2026-10-31 as 31 Oct 2026. */
export function dateWords(iso: string): string {
  const [year, month, day] = iso.slice(0, 10).split("-");
  return `${Number(day)} ${MONTHS[Number(month) - 1] ?? month} ${year}`;
}

export function bytes(n: number): string {
  return n < 1e3 ? `${n} B` : n < 1e6 ? `${(n / 1e3).toFixed(0)} kB` : n < 1e9 ? `${(n / 1e6).toFixed(1)} MB` : `${(n / 1e9).toFixed(1)} GB`;
}

export const isNumber = (field: Field) =>
  ["integer", "decimal", "float", "duration"].includes(field.type) && !/^(weekday|month|year)/.test(field.name);

/** Seconds as hours, minutes and seconds: 5400 as 1:30:00. */
export function duration(seconds: number): string {
  const whole = Math.round(Math.abs(seconds));
  const two = (n: number) => String(n).padStart(2, "0");
  return `${seconds < 0 ? "−" : ""}${Math.floor(whole / 3600)}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`;
}

/** A cell of an answer, by its column. */
export function cell(value: Cell, field: Field): string {
  if (value === null) return "";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "string") {
    if (field.type === "date" && /^month/.test(field.name)) return `${MONTHS[Number(value.slice(5, 7)) - 1]} ${value.slice(0, 4)}`;
    if (field.type === "date" && /^quarter/.test(field.name)) return `Q${Math.ceil(Number(value.slice(5, 7)) / 3)} ${value.slice(0, 4)}`;
    return value;
  }
  if (field.type === "duration") return duration(value);
  if (/^month/.test(field.name) && field.type === "integer") return MONTHS[value - 1] ?? String(value);
  if (/^weekday/.test(field.name)) return DAYS[value - 1] ?? String(value);
  if (/^year/.test(field.name) || ["code", "identifier", "link"].includes(field.role)) return String(value);
  if (field.role === "percentage" && field.unit === null && field.type === "float") return `${(100 * value).toFixed(1)}%`;
  const digits = field.type === "integer" ? 0 : field.type === "decimal" ? field.scale : Math.abs(value) >= 1 ? 2 : 4;
  return (SIGNS[field.unit ?? ""] ?? "") + value.toLocaleString("en-GB", { minimumFractionDigits: digits, maximumFractionDigits: digits });
}
