import { expect, test } from "vitest";
import type { FolioPage, Part } from "../../api/client";
import { keptTogether } from "./beside";
import { rowsBeside } from "./page";
import { movedTo } from "./parts-list";

const part = (id: number, kind: Part["kind"], beside = false) => ({ id, kind, beside }) as Part;

test("an answer shares a row with the one before it, and with no third", () => {
  const rows = rowsBeside([
    part(1, "answer"),
    part(2, "answer", true),
    part(3, "answer", true),
    part(4, "heading"),
    part(5, "answer", true),
  ]);
  expect(rows.map((row) => row.map((p) => p.id))).toEqual([[1, 2], [3], [4], [5]]);
});

test("a part goes where it is put", () => {
  expect(movedTo([1, 2, 3], 0, 2)).toEqual([2, 3, 1]);
  expect(movedTo([1, 2, 3], 2, 0)).toEqual([3, 1, 2]);
});

test("answers kept one after the other on a day are one step", () => {
  const at = (id: number, cause: "kept" | "asked", day: string) =>
    ({ id, cause, worked_at: `2026-10-${day}T09:00:00Z`, answers: 1 }) as FolioPage["workings"][number];
  const found = keptTogether([at(5, "asked", "12"), at(4, "kept", "11"), at(3, "kept", "11"), at(2, "kept", "10")]);
  expect(found.map((w) => [w.id, w.answers])).toEqual([
    [5, 1],
    [4, 2],
    [2, 1],
  ]);
});
