/** An answer as one page of HTML that needs nothing else: found, drawn, listed and proved. */
import type { Answered } from "../../api/client";
import { whole } from "../../ui/format";

const escaped = (text: string) =>
  text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll('"', "&quot;");

const STYLE = `body{max-width:52rem;margin:2rem auto;padding:0 1rem;font:15px/1.45 system-ui,sans-serif;color:#16211b;background:#fbfcf9}
h1{font:600 1.5rem/1.3 Georgia,serif}.under{font-size:2rem;margin-top:2.5rem}h2{font-size:.95rem;margin-top:1.6rem}.found{font:1.25rem/1.4 Georgia,serif}.soft,small{color:#5b6c62}
table{border-collapse:collapse;width:100%}th,td{padding:.25rem .5rem;text-align:left;vertical-align:top}th{border-bottom:1px solid #16211b;font-weight:500}
tr:nth-child(even) td{background:#e9f1e6}.n{text-align:right;font-family:ui-monospace,monospace}pre{overflow:auto;border:1px solid #cfdacf;padding:.6rem;font-size:12px}
svg{max-width:100%;height:auto}#tip{position:fixed;display:none;background:#fff;border:1px solid #cfdacf;border-radius:4px;padding:.2rem .5rem;font-size:13px;pointer-events:none}
@media print{body{background:#fff}}`;

/** Marks of the chart say what they are of; pointed at, they say it beside the pointer. */
const HOVER = `const t=document.getElementById("tip");document.body.addEventListener("mousemove",e=>{const m=e.target.closest("svg [aria-label]");const s=m&&m.getAttribute("aria-roledescription")!=="axis"&&m.tagName==="path"?m.getAttribute("aria-label"):"",p=s.split("; "),q=p.filter(x=>!/^(value|label|when|series|across|down|low|high|order|told): /.test(x));t.textContent=(q.length?q:p).join("; ");t.style.display=s?"block":"none";t.style.left=e.clientX+12+"px";t.style.top=e.clientY+12+"px"})`;

/** The page of some answers, each with its chart as it is drawn, empty where there is none, and with what it stands under. */
export function pageOf(answers: Answered[], svgs: string[], headings: Record<number, string> = {}): string {
  const title = answers.length === 1 ? (answers[0]?.question ?? "") : `Report: ${answers[0]?.question ?? ""} …`;
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(title)}</title><style>${STYLE}</style></head><body>
${answers.map((answer, n) => under(headings[answer.id]) + part(answer, svgs[n] ?? "")).join("\n<hr>\n")}
<div id="tip"></div><script>${HOVER}</script>
</body></html>
`;
}

const under = (heading: string | undefined) => (heading ? `<h1 class="under">${escaped(heading)}</h1>\n` : "");

function part(answer: Answered, svg: string): string {
  const shown = answer.fields.map((f, n) => ({ f, n })).filter(({ f }) => f.name !== "total_row");
  const cell = (text: string | null | undefined, numeric: boolean) =>
    `<td${numeric ? ' class="n"' : ""}>${text == null ? '<span class="soft">missing</span>' : escaped(text)}</td>`;
  const rows = answer.cells
    .map((row) => `<tr>${shown.map(({ f, n }) => cell(row[n], f.measures)).join("")}</tr>`)
    .join("\n");
  const less = answer.total > answer.cells.length;
  const steps = answer.steps
    .filter((s) => !s.off)
    .map(
      (s) =>
        `<tr>${cell(s.rows_out == null ? "" : whole(s.rows_out), true)}<td><b>${escaped(s.verb)}</b> ${escaped(s.rest)}</td></tr>`,
    )
    .join("\n");
  const sign = { holds: "✓", caution: "!", stop: "✗" };
  const checks = answer.checks
    .map(
      (c) =>
        `<li>${sign[c.weight]} ${escaped(c.sentence)}${c.detail ? ` <small>${escaped(c.detail)}</small>` : ""}</li>`,
    )
    .join("\n");
  return `<h1>${escaped(answer.question)}</h1>
<p class="soft">${answer.by_hand?.undo ? "Changed by hand to" : "Read as"} ${escaped(answer.reading)}.</p>
<p class="found">${escaped(answer.finding)}</p>
${answer.doubt ? `<p class="soft">${escaped(answer.doubt.words)}</p>` : ""}
${svg}
<table><thead><tr>${shown.map(({ f }) => `<th${f.measures ? ' class="n"' : ""}>${escaped(f.label)}</th>`).join("")}</tr></thead>
<tbody>
${rows}
</tbody></table>
${less ? `<p class="soft">The first ${whole(answer.cells.length)} of ${whole(answer.total)} rows.</p>` : ""}
<h2>Steps, with the rows that came out of each</h2>
<table><tbody>
${steps}
</tbody></table>
<h2>Checks</h2>
<ul>
${checks}
</ul>
<h2>SQL</h2>
<pre>${escaped(answer.sql)}</pre>`;
}
