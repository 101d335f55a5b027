/** How the person who reads has numbers and days written: kept in this browser, and told to the server with every request. */

export type Numbers = "comma" | "point" | "space" | "apostrophe";
export type Days = "words" | "day/month" | "month/day" | "day.month" | "year-month";
export type Style = { numbers: Numbers; days: Days };

const KEPT = "gumption style";
const HOUSE: Style = { numbers: "comma", days: "words" };

/** Each way to write numbers, by the tongue that the browser knows it from. */
const TONGUES: Record<Numbers, string> = { comma: "en-GB", point: "de-DE", space: "fr-FR", apostrophe: "de-CH" };

export const NUMBERS: Record<Numbers, string> = {
  comma: "1,234.5",
  point: "1.234,5",
  space: "1 234,5",
  apostrophe: "1’234.5",
};
export const DAYS: Record<Days, string> = {
  words: "5 Mar 2026",
  "day/month": "05/03/2026 (day first)",
  "month/day": "03/05/2026 (month first)",
  "day.month": "05.03.2026",
  "year-month": "2026-03-05",
};

const kept = (): Style => {
  const said = typeof localStorage === "undefined" ? null : localStorage.getItem(KEPT);
  const [numbers = "", days = ""] = (said ?? "").split(" ");
  return {
    numbers: numbers in NUMBERS ? (numbers as Numbers) : HOUSE.numbers,
    days: days in DAYS ? (days as Days) : HOUSE.days,
  };
};

let style = kept();

export const styleNow = () => style;

export function setStyle(next: Style): void {
  style = next;
  localStorage.setItem(KEPT, `${next.numbers} ${next.days}`);
}

/** A request that says how its answer is to be written, where that is not the way of the house. */
export function inStyle(init?: RequestInit): RequestInit | undefined {
  const { numbers, days } = style;
  if (numbers === HOUSE.numbers && days === HOUSE.days) return init;
  return { ...init, headers: { ...init?.headers, "X-Style": `${numbers} ${days}` } };
}

/** A number as it is written here, with at most so many digits behind the point. */
export const numberWords = (n: number, digits = 0): string =>
  n.toLocaleString(TONGUES[style.numbers], { maximumFractionDigits: digits });

/** A day, by its parts, as it is written here; null where that is in words. */
export function dayNumbers(year: string, month: string, day: string): string | null {
  switch (style.days) {
    case "words":
      return null;
    case "day/month":
      return `${day}/${month}/${year}`;
    case "month/day":
      return `${month}/${day}/${year}`;
    case "day.month":
      return `${day}.${month}.${year}`;
    case "year-month":
      return `${year}-${month}-${day}`;
  }
}
