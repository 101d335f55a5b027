import { describe, expect, it } from "vitest";
import type { Answered } from "../../api/client";
import { atNight } from "./night";
import { pageOf } from "./page-out";

const answer = {
  question: "rows with <b> & “x”",
  reading: "the rows",
  finding: "2 rows < 3.",
  fields: [
    { name: "name", label: "name", measures: false },
    { name: "total_row", label: "total row", measures: false },
    { name: "n", label: "n in £", measures: true },
  ],
  cells: [
    ["<script>alert(1)</script>", null, "1.50"],
    [null, null, "2.00"],
  ],
  total: 5,
  steps: [
    { verb: "Take", rest: "a & b", path: [0], off: false, rows_out: 1200 },
    { verb: "Keep", rest: "n is 1", path: [1], off: true, rows_out: null },
  ],
  checks: [{ weight: "caution", sentence: "One < two", detail: "" }],
  sql: "SELECT 1 < 2",
  doubt: null,
  by_hand: null,
} as unknown as Answered;

describe("an answer as a page", () => {
  const page = pageOf([answer, answer], ["<svg></svg>", ""]);
  it("says all of it and runs nothing of what the data hold", () => {
    expect(page).toContain("&lt;script&gt;alert(1)&lt;/script&gt;");
    expect(page.match(/<script>/g)).toHaveLength(1);
    expect(page.match(/The first 2 of 5 rows\./g)).toHaveLength(2);
    expect(page).toContain("<b>Take</b> a &amp; b");
    expect(page).not.toContain("n is 1");
    expect(page).not.toContain("total row");
    expect(page).toContain('<td class="n">1.50</td>');
  });
});

describe("a chart by night", () => {
  it("changes its colours and nothing of its data", () => {
    const spec = {
      data: { values: [{ label: "white", value: "#fff" }] },
      mark: { color: "#22458C", stroke: "#fff" },
      height: 3,
    };
    expect(atNight(spec)).toEqual({ data: spec.data, mark: { color: "#8fb3f5", stroke: "#141a17" }, height: 3 });
  });
});
