"""A page of the folio as one file of HTML that needs nothing else: found, drawn, listed and proved."""

from __future__ import annotations

import json
from collections.abc import Iterator
from html import escape
from itertools import count

from gumption.core.folio.document import SIGNS, Document, Shown, columns_shown, first_rows, html_of, rows_beside
from gumption.core.folio.working import Working
from gumption.core.model.names import plural

_MOST_ROWS = 200
_STYLE = """
:root{--ink:#16211b;--soft:#5b6c62;--rule:#cfdacf;--band:#e9f1e6;--pen:#22458c;--caution:#a65a08;--stop:#b3261e}
*{box-sizing:border-box}
body{max-width:56rem;margin:2rem auto;padding:0 1.25rem;font:14px/1.45 "Schibsted Grotesk",system-ui,sans-serif;color:var(--ink);background:#fbfcf9}
h1,h2.head,.found{font-family:Newsreader,Georgia,serif;font-weight:500}
h1{font-size:1.8rem;line-height:1.2;margin:0}h2.head{font-size:1.45rem;margin:2.2rem 0 0}
.soft,small{color:var(--soft)}.caution{color:var(--caution)}.stop{color:var(--stop)}
.row{display:grid;grid-template-columns:minmax(0,1fr);gap:2rem}.row.two{grid-template-columns:repeat(2,minmax(0,1fr))}
.answer{border-top:1px solid var(--ink);margin-top:1.6rem;padding-top:.6rem;break-inside:avoid-page;min-width:0}
.found{font-size:1.3rem;line-height:1.3;margin:0 0 .5rem}.asked{font-family:Newsreader,Georgia,serif;color:var(--pen)}
.since{border-left:3px solid var(--pen);padding-left:.6rem;margin:.5rem 0}.since b{color:var(--pen)}
.figure{font:2rem "JetBrains Mono",ui-monospace,monospace;margin:.4rem 0}
.chart{width:100%;margin:.6rem 0}
.listed{overflow-x:auto}table{border-collapse:collapse;width:100%;font-size:13px}
th{border-bottom:1px solid var(--ink);font-weight:500;color:var(--soft)}th,td{padding:.25rem .5rem;text-align:left;vertical-align:top}
tbody tr:nth-child(even) td{background:var(--band)}.n{text-align:right;font-family:"JetBrains Mono",ui-monospace,monospace;white-space:nowrap}
tr.total td{border-top:1px solid var(--ink);font-weight:600}
pre{overflow:auto;border:1px solid var(--rule);padding:.6rem;font:12px/1.4 "JetBrains Mono",ui-monospace,monospace;white-space:pre-wrap}
.proofs{border-top:1px dashed var(--rule);margin-top:2.5rem}summary{cursor:pointer;color:var(--pen)}
.proofs li{margin:.15rem 0}
@media(max-width:700px){.row.two{grid-template-columns:minmax(0,1fr)}}
@media print{body{background:#fff;margin:0;max-width:none;font-variant-ligatures:none}.proofs{break-before:page}summary{list-style:none;color:var(--ink)}.listed{overflow:visible}}
@page{size:A4;margin:16mm}
"""
"""On paper no two letters are set as one sign, so that what is printed can be searched and copied."""
_DRAW = """document.querySelectorAll("[data-chart]").forEach(function(at){
var spec=JSON.parse(document.getElementById(at.dataset.chart).textContent);
vegaEmbed(at,spec,{actions:false,renderer:"svg",ast:true})});"""
"""What draws the charts once the page is there; expressions are interpreted, so that no script is made of text."""


def as_html(document: Document, library: str, *, open_proof: bool = False) -> str:
    """The page; `library` is the script by which charts are drawn, and answer to a pointer over them."""
    numbers = count(1)
    body = [f"<h1>{escape(document.title)}</h1>", f'<p class="soft">{escape(document.told)}</p>']
    for row in rows_beside(document.parts):
        if row[0].part.kind == "answer":
            inner = "\n".join(_answer(shown, f"chart-{next(numbers)}") for shown in row)
            body.append(f'<div class="row{" two" if len(row) == 2 else ""}">\n{inner}\n</div>')
        elif row[0].part.kind == "heading":
            body.append(f'<h2 class="head">{escape(row[0].part.text)}</h2>')
        else:
            body.append(html_of(row[0].part.text))
    body.append(_proofs(document, open_proof))
    scripts = "\n".join(f"<script>{script}</script>" for script in scripts_of(library)) if document.charted else ""
    return f"""<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>{escape(document.title)}</title><style>{_STYLE}</style></head><body>
{chr(10).join(body)}
{scripts}
</body></html>
"""


def scripts_of(library: str) -> tuple[str, str]:
    """The scripts of a page, as they stand in it."""
    return library.replace("</script", "<\\/script"), _DRAW


def _data(value: object) -> str:
    """A value as JSON that cannot end the script that it stands in."""
    return json.dumps(value, ensure_ascii=False).replace("<", "\\u003c")


def _answer(shown: Shown, number: str) -> str:
    return f'<section class="answer">\n{chr(10).join(filter(None, _lines(shown, number)))}\n</section>'


def _lines(shown: Shown, number: str) -> Iterator[str]:
    working = shown.working
    if working is None:
        yield f'<p class="asked">{escape(shown.question)}</p>'
        yield f'<p class="stop">{escape(shown.problem)}</p>'
        return
    yield f'<p class="found">{escape(working.finding)}</p>'
    if shown.changed and shown.since:
        yield f'<p class="since"><b>Since {escape(shown.since)}</b> {escape(shown.changed)}</p>'
    if shown.seen is not None:
        kind, told = ("caution", "met") if shown.seen.met else ("soft", "not met")
        yield f'<p class="{kind}">Watched for {escape(shown.seen.condition)}: {told}, {escape(shown.seen.words)}.</p>'
    if working.doubt or working.note:
        yield f'<p class="caution">{escape(" ".join(filter(None, (working.doubt, working.note))))}</p>'
    if working.is_one_figure and len(columns_shown(working)) == 1:
        yield f'<p class="figure">{escape(working.cells()[0][columns_shown(working)[0]] or "missing")}</p>'
    elif working.chart is not None:
        data = _data(working.chart)
        yield f'<div class="chart" data-chart="{number}"></div><script type="application/json" id="{number}">{data}</script>'
    if not (working.is_one_figure and len(columns_shown(working)) == 1):
        table = _table(working)
        drawn = working.chart is not None and len(working.measures) == 1
        # What the chart says already is there for who wants the figures.
        yield f"<details><summary>{plural(working.total, 'row')}</summary>{table}</details>" if drawn else table
    asked = f'<span class="asked">{escape(shown.question)}</span>'
    cautions = sum(check.weight != "holds" for check in working.checks)
    holds = len(working.checks) - cautions
    proved = [plural(holds, "check holds", "checks hold"), plural(cautions, "caution") if cautions else ""]
    yield f"<p>{asked} <small>· {', '.join(filter(None, proved))}</small></p>"


def _table(working: Working) -> str:
    places, measures = columns_shown(working), set(working.measures)
    if not working.rows:
        return ""
    heads = working.heads
    head = "".join(f"<th{_side(p in measures)}>{escape(heads[p])}</th>" for p in places)
    total = working.names.index("total_row") if "total_row" in working.fields else None
    rows = []
    for raw, row in zip(working.rows[:_MOST_ROWS], working.cells(), strict=False):
        kind = ' class="total"' if total is not None and raw[total] is True else ""
        rows.append(f"<tr{kind}>{''.join(f'<td{_side(p in measures)}>{_cell(row[p])}</td>' for p in places)}</tr>")
    less = first_rows(working, _MOST_ROWS)
    note = f"<p><small>{less}</small></p>" if less else ""
    body = "\n".join(rows)
    return f'<div class="listed"><table><thead><tr>{head}</tr></thead><tbody>\n{body}\n</tbody></table></div>{note}'


def _side(measures: bool) -> str:
    return ' class="n"' if measures else ""


def _cell(text: str | None) -> str:
    return '<span class="soft">missing</span>' if text is None else escape(text)


def _proofs(document: Document, opened: bool) -> str:
    parts = [_proof(shown, opened) for shown in document.answers]
    proofs = "\n".join(filter(None, parts))
    title = f"The proof of {plural(len(document.answers), 'answer')}"
    return f'<section class="proofs"><h2 class="head">{title}</h2>\n{proofs}\n</section>' if proofs else ""


def _proof(shown: Shown, opened: bool) -> str:
    working = shown.working
    if working is None:
        return ""
    steps = "\n".join(f"<li>{escape(step)}</li>" for step in working.steps)
    checks = "\n".join(
        f"<li>{SIGNS[c.weight]} {escape(c.sentence)}{f' <small>{escape(c.detail)}</small>' if c.detail else ''}</li>"
        for c in working.checks
    )
    return f"""<details{" open" if opened else ""}><summary>{escape(shown.question)}</summary>
<p>Read as {escape(working.reading)}.</p>
<ol>
{steps}
</ol>
<ul>
{checks}
</ul>
<pre>{escape(working.sql)}</pre>
</details>"""
