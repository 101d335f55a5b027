"""A page of the folio as it stands at one working, ready to be written out in any form."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from markdown_it import MarkdownIt

from gumption.core.folio.page import Part
from gumption.core.folio.watching import Seen
from gumption.core.folio.working import Working
from gumption.core.model.names import plural
from gumption.core.model.style import written

SIGNS = {"holds": "✓", "caution": "!", "stop": "✗"}
"""What stands before a check, by its weight."""


@dataclass(frozen=True)
class Shown:
    """A part of a page, and what it came to where it is an answer."""

    part: Part
    working: Working | None = None
    problem: str = ""
    """Why it could not be worked."""
    since: str = ""
    """When it was worked before: 19 Oct 2026; empty where it was not."""
    changed: str = ""
    """What is different from then."""
    seen: Seen | None = None

    @property
    def question(self) -> str:
        """What was asked; empty for what is no answer."""
        return self.part.kept.question if self.part.kept is not None else ""


@dataclass(frozen=True)
class Document:
    """A page with what its answers came to."""

    title: str
    told: str
    """When and from what it was worked, in a sentence."""
    parts: tuple[Shown, ...]

    @property
    def answers(self) -> list[Shown]:
        """The parts that are answers."""
        return [shown for shown in self.parts if shown.part.kind == "answer"]

    @property
    def charted(self) -> list[Shown]:
        """The answers that have a chart."""
        return [shown for shown in self.answers if shown.working is not None and shown.working.chart is not None]


def rows_beside(parts: Sequence[Shown]) -> list[list[Shown]]:
    """The parts by the rows that they stand in: an answer that stands beside the one before it shares its row."""
    rows: list[list[Shown]] = []
    for shown in parts:
        fits = rows and shown.part.beside and len(rows[-1]) == 1
        if fits and shown.part.kind == rows[-1][0].part.kind == "answer":
            rows[-1].append(shown)
        else:
            rows.append([shown])
    return rows


_MARKDOWN = MarkdownIt("commonmark", {"html": False}).enable("table").disable("image")
"""Texts are by people: no tag of theirs is one of the page's, and no picture is fetched from elsewhere."""


def html_of(text: str) -> str:
    """Markdown as HTML in which nothing runs and nothing is loaded."""
    return str(_MARKDOWN.render(text))


def first_rows(working: Working, most: int) -> str:
    """Said where not all rows of an answer are shown; empty where they are."""
    shown = min(most, len(working.rows))
    return f"The first {written(shown)} of {plural(working.total, 'row')}." if shown < working.total else ""


def columns_shown(working: Working) -> list[int]:
    """Places of the columns that are shown: what only marks the row of totals is not."""
    return [place for place, name in enumerate(working.names) if name != "total_row"]
