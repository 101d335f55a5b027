"""Pages of the folio as Markdown, as a notebook, and as scripts: text, tables and the code of every answer."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterator
from typing import Any

from gumption.core.folio.document import SIGNS, Document, Shown, columns_shown, first_rows
from gumption.core.folio.working import Working

_MOST_ROWS = 60


def as_markdown(document: Document) -> str:
    """Text and tables; charts are left out."""
    parts = [f"# {document.title}", document.told]
    for shown in document.parts:
        parts += _markdown_of(shown)
    return "\n\n".join(filter(None, parts)) + "\n"


def _markdown_of(shown: Shown) -> Iterator[str]:
    match shown.part.kind:
        case "heading":
            yield f"## {shown.part.text}"
        case "text":
            yield shown.part.text.strip()
        case "answer":
            yield f"### {escaped(shown.question)}"
            if shown.working is None:
                yield f"**Not worked:** {escaped(shown.problem)}"
                return
            working = shown.working
            yield f"**{escaped(working.finding)}**"
            yield escaped(f"Read as {working.reading}.")
            if working.doubt:
                yield escaped(working.doubt)
            if shown.changed and shown.since:
                yield escaped(f"Since {shown.since}: {shown.changed}")
            if shown.seen is not None:
                told = "met" if shown.seen.met else "not met"
                yield escaped(f"Watched for {shown.seen.condition}: {told}, {shown.seen.words}.")
            yield _table(working)
            yield first_rows(working, _MOST_ROWS)
            checks = [f"- {SIGNS[c.weight]} {escaped(c.sentence)}" for c in working.checks if c.weight != "holds"]
            yield "\n".join(checks)


def escaped(text: str) -> str:
    """A text in which no character says how it looks."""
    return "".join(f"\\{c}" if c in "\\`*_[]<>#|" else c for c in text.replace("\n", " "))


def _table(working: Working) -> str:
    places = columns_shown(working)
    if (working.is_one_figure and len(places) == 1) or not working.rows:
        return ""
    heads = working.heads
    measures = set(working.measures)
    lines = [
        "| " + " | ".join(escaped(heads[p]) for p in places) + " |",
        "| " + " | ".join("---:" if p in measures else "---" for p in places) + " |",
    ]
    for row in working.cells()[:_MOST_ROWS]:
        lines.append("| " + " | ".join(escaped(row[p] or "") for p in places) + " |")
    return "\n".join(lines)


def as_notebook(document: Document) -> str:
    """A notebook that works the whole page again from its files (nbformat 4.5)."""
    cells: list[dict[str, Any]] = [_cell("markdown", f"# {document.title}\n\n{document.told}", 0)]
    for shown in document.parts:
        if shown.working is None:
            cells.append(_cell("markdown", "\n\n".join(filter(None, _markdown_of(shown))), len(cells)))
            continue
        told = f"### {escaped(shown.question)}\n\n{escaped(shown.working.finding)}"
        cells.append(_cell("markdown", told, len(cells)))
        cells.append(_cell("code", shown.working.python.strip(), len(cells)))
    python = {"kernelspec": {"display_name": "Python 3", "language": "python", "name": "python3"}}
    book = {"cells": cells, "metadata": python, "nbformat": 4, "nbformat_minor": 5}
    return json.dumps(book, ensure_ascii=False, indent=1)


def _cell(kind: str, source: str, place: int) -> dict[str, Any]:
    number = hashlib.sha256(f"{place} {source}".encode()).hexdigest()[:12]
    cell: dict[str, Any] = {"cell_type": kind, "id": number, "metadata": {}, "source": source}
    return cell | ({"execution_count": None, "outputs": []} if kind == "code" else {})


def as_python(document: Document) -> str:
    """One script that works every answer of the page again from its files."""
    parts = [f'"""{_plain(document.title)}. {_plain(document.told)}"""']
    for shown in document.answers:
        if shown.working is not None:
            parts.append(f"# {_plain(shown.question)}\n# {_plain(shown.working.finding)}\n{shown.working.python}")
    return "\n\n".join(part.strip() for part in parts) + "\n"


def as_sql(document: Document) -> str:
    """The statement of every answer of the page, one after the other."""
    parts = [f"-- {_plain(document.title)}"]
    for shown in document.answers:
        if shown.working is not None:
            sql = shown.working.sql.strip().rstrip(";")
            parts.append(f"-- {_plain(shown.question)}\n-- {_plain(shown.working.finding)}\n{sql};")
    return "\n\n".join(parts) + "\n"


def _plain(text: str) -> str:
    """A text on one line that ends no string and no comment."""
    return " ".join(text.split()).replace("\\", "\\\\").replace('"""', "“”")
