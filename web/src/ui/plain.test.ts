import { expect, test } from "vitest";
import { bytes, dateWords, duration, plural, when } from "./format";
import { placeOf } from "./location";

test("numbers, dates and plurals", () => {
  expect([plural(1, "row"), plural(1200, "row"), plural(2, "entry", "entries")]).toEqual([
    "1 row",
    "1,200 rows",
    "2 entries",
  ]);
  expect(dateWords("2026-10-05 09:00")).toBe("5 Oct 2026");
  expect([bytes(12), bytes(3_400), bytes(2_500_000), bytes(4e9)]).toEqual(["12 B", "3 kB", "2.5 MB", "4.0 GB"]);
  expect([duration(5400), duration(-61)]).toEqual(["1:30:00", "−0:01:01"]);
});

test("places in the address", () => {
  expect(placeOf("/w/3/tables/a%2Fb")).toEqual({ room: "tables", workspace: 3, table: "a/b" });
  expect(placeOf("/w/3/ask/12")).toEqual({ room: "ask", workspace: 3, entry: 12, draft: null });
  expect(placeOf("/w/3/ask", "?how%20many")).toEqual({ room: "ask", workspace: 3, entry: null, draft: "how many" });
  expect(placeOf("/w/3/ask/x")).toEqual({ room: "ask", workspace: 3, entry: null, draft: null });
  expect(placeOf("/w/3/glossary/%2Fnew%20wait", "?over%2040")).toEqual({
    room: "glossary",
    workspace: 3,
    word: "/new wait",
    text: "over 40",
  });
  expect(placeOf("/w/3/report/12+13", "?13=Waits+in+March")).toEqual({
    room: "report",
    workspace: 3,
    entries: [12, 13],
    headings: { 13: "Waits in March" },
  });
  expect(placeOf("/w/12")).toEqual({ room: "open", workspace: 12 });
  expect(placeOf("/workspaces")).toEqual({ room: "workspaces" });
  expect(placeOf("/")).toEqual({ room: "start" });
});

test("moments are told as people say them", () => {
  const now = new Date(2026, 9, 31, 15, 0);
  const at = (...parts: [number, number, number, number, number]) => new Date(...parts).toISOString();
  expect(when(at(2026, 9, 31, 14, 12), now)).toBe("today 14:12");
  expect(when(at(2026, 9, 30, 23, 59), now)).toBe("yesterday 23:59");
  expect(when(at(2026, 8, 4, 9, 0), now)).toBe("4 Sept");
  expect(when(at(2025, 8, 4, 9, 0), now)).toBe("4 Sept 2025");
});
