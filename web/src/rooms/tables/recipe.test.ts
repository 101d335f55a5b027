import { expect, test } from "vitest";
import type { TableEntry } from "../../api/client";
import { actWords, ordered, redone, typed, withStep } from "./recipe";

const entry = (recipe: object): TableEntry => ({ recipe }) as unknown as TableEntry;

test("what a person decides changes one part of a recipe and keeps the others", () => {
  const before = entry({ declined: ["totals", "units"], types: { fee: "text" }, orders: {}, steps: [] });
  expect(redone(before, "totals").declined).toEqual(["units"]);
  expect(typed(before, "fee", null).types).toEqual({});
  expect(typed(before, "day", "date").types).toEqual({ fee: "text", day: "date" });
  expect(ordered(before, "day", "month").orders).toEqual({ day: "month" });
  expect(withStep(before, { kind: "drop_repeats" } as never)).toMatchObject({
    declined: ["totals", "units"],
    steps: [{ kind: "drop_repeats" }],
  });
});

test("acts are told in words", () => {
  expect(actWords("type:fee")).toBe("fee is read as more than text");
  expect(actWords("pages")).toContain("every page");
});
