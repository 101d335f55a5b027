/** Numbers, dates and plurals as people read them. */
import { dayNumbers, numberWords } from "./style";

export const whole = (n: number) => numberWords(n);

export const plural = (n: number, one: string, many = `${one}s`) => `${whole(n)} ${n === 1 ? one : many}`;

const monthName = new Intl.DateTimeFormat("en", { month: "short", timeZone: "UTC" });

/** 2026-10-31 as 31 Oct 2026, or as the person has days written. */
export function dateWords(iso: string): string {
  const [year = "", month = "", day = ""] = iso.slice(0, 10).split("-");
  const first = Date.UTC(2000, Number(month) - 1);
  if (Number.isNaN(first) || !day) return iso;
  return dayNumbers(year, month, day) ?? `${Number(day)} ${monthName.format(first)} ${year}`;
}

export function bytes(n: number): string {
  return n < 1e3
    ? `${n} B`
    : n < 1e6
      ? `${(n / 1e3).toFixed(0)} kB`
      : n < 1e9
        ? `${(n / 1e6).toFixed(1)} MB`
        : `${(n / 1e9).toFixed(1)} GB`;
}

/** Seconds as hours, minutes and seconds: 5400 as 1:30:00. */
export function duration(seconds: number): string {
  const whole = Math.round(Math.abs(seconds));
  const two = (n: number) => String(n).padStart(2, "0");
  return `${seconds < 0 ? "−" : ""}${Math.floor(whole / 3600)}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`;
}

const dayAndMonth = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });
const withYear = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
const time = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });

/** A moment as the day it was: 4 Sep, or 4 Sep 2025 in another year. */
export function dayOf(iso: string, now = new Date()): string {
  const at = new Date(iso);
  return (at.getFullYear() === now.getFullYear() ? dayAndMonth : withYear).format(at);
}

/** The time of day of a moment: 14:12. */
export const timeOf = (iso: string) => time.format(new Date(iso));

/** A moment as people say it: today 14:12, yesterday 16:40, 29 Oct. */
export function when(iso: string, now = new Date()): string {
  const at = new Date(iso);
  const midnight = (d: Date) => new Date(d.getFullYear(), d.getMonth(), d.getDate()).getTime();
  const days = Math.round((midnight(now) - midnight(at)) / 86_400_000);
  if (days === 0) return `today ${time.format(at)}`;
  return days === 1 ? `yesterday ${time.format(at)}` : dayOf(iso, now);
}
