import { describe, expect, it } from "vitest";
import type { TrailEntry } from "../../api/client";
import { within } from "./chart";
import { followers, moved, ordered, putBeside } from "./trail";

const entry = (id: number, parent: number | null, place: number | null = null) =>
  ({ id, parent, place, question: `${id}` }) as TrailEntry;

describe("the trail", () => {
  const entries = [entry(1, null), entry(2, null), entry(3, 1), entry(4, 1), entry(5, 3), entry(6, 99)];
  const shown = (all: TrailEntry[]) => ordered(all).map(({ entry: e, depth }) => `${"-".repeat(depth)}${e.id}`);

  it("hangs what follows under what it followed, and what follows nothing known at the end", () => {
    expect(shown(entries)).toEqual(["1", "-3", "--5", "-4", "2", "6"]);
    expect(followers(entries, 1)).toBe(3);
  });

  it("moves an entry among its neighbours alone, and again after that", () => {
    const four = entries[3] as TrailEntry;
    const up = moved(entries, four, -1);
    const then = entries.map((e) => (e === four ? { ...e, place: up } : e));
    expect(shown(then)).toEqual(["1", "-4", "-3", "--5", "2", "6"]);
    expect(moved(then, then[3] as TrailEntry, -1)).toBeNull();
    const last = then[5] as TrailEntry;
    const between = then.map((e) => (e === last ? { ...e, place: moved(then, last, -1) } : e));
    expect(putBeside(then, last, then[2] as TrailEntry, true)).toBeNull();
    const first = then.map((e) =>
      e === last ? { ...e, place: putBeside(then, last, then[0] as TrailEntry, false) } : e,
    );
    expect(shown(first)[0]).toBe("6");
    expect(shown(between).filter((s) => !s.startsWith("-"))).toEqual(["1", "6", "2"]);
  });
});

describe("a span drawn over a time", () => {
  const spec = {
    data: { values: ["2025-01-01", "2025-02-01", "2025-03-01"].map((when, n) => ({ when, at: `M${n + 1}` })) },
  };
  it("is told by the points in it", () => {
    expect(within(spec, [Date.parse("2025-01-20Z"), Date.parse("2025-03-02Z")])).toEqual({ from: "M2", to: "M3" });
    expect(within(spec, [Date.parse("2025-01-20Z"), Date.parse("2025-01-21Z")])).toBeNull();
  });
});
