import { expect, test } from "vitest";
import { bytes, dateWords, duration, plural } from "./format";
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
  expect(placeOf("#tables/a%2Fb")).toEqual({ room: "tables", table: "a/b" });
  expect(placeOf("#ask/12")).toEqual({ room: "ask", entry: 12, draft: null });
  expect(placeOf("#ask/?how%20many")).toEqual({ room: "ask", entry: null, draft: "how many" });
  expect(placeOf("")).toEqual({ room: "ask", entry: null, draft: null });
  expect(placeOf("#ask/x")).toEqual({ room: "ask", entry: null, draft: null });
});
