"""A grid of cells: what kinds of cells stand where."""

from __future__ import annotations

import functools
import re
from collections import Counter
from collections.abc import Sequence
from operator import itemgetter

from gumption.intake.missing import MISSING_WORDS, TYPED_MISSING
from gumption.intake.moments import read_moment
from gumption.intake.numbers import is_code, looks_numeric

Rows = Sequence[Sequence[str]]


LOOKED = 400


_BLANK = frozenset(MISSING_WORDS)


@functools.lru_cache(maxsize=200_000)
def kind_of_cell(cell: str) -> str:
    """number, date, text or nothing."""
    if cell in _BLANK or cell.lower() in TYPED_MISSING:
        return ""
    if looks_numeric(cell):
        return "number" if not is_code(cell) else "code"
    if cell[0].isdigit() or cell[-1].isdigit():
        if (m := read_moment(cell, "day") or read_moment(cell, "month")) is not None and m.value is not None:
            return "date"
        if read_moment(cell, "month") is not None:
            return "date"
        if re.fullmatch(r"\d{1,2}:\d{2}(:\d{2})?", cell):
            return "date"
    return "text"


def filled_cells(row: Sequence[str]) -> int:
    return sum(1 for c in row if c)


def first_cell(row: Sequence[str]) -> str:
    """The first cell that says something; empty where none does."""
    return next(filter(None, row), "")


def cell_at(row: Sequence[str], place: int) -> str:
    return row[place] if place < len(row) else ""


def cells_between(row: Sequence[str], left: int, right: int) -> list[str]:
    """The cells from left to right, blank where the row ends before."""
    cells = list(row[left:right])
    return cells if len(cells) == right - left else [*cells, *[""] * (right - left - len(cells))]


def usual_width(rows: Rows, start: int, end: int) -> int:
    counts = Counter(filled_cells(rows[i]) for i in range(start, min(end, start + LOOKED)))
    return max(counts.items(), key=lambda p: (p[1] * (p[0] > 1), p[0]))[0] if counts else 0


def column_kinds(rows: Rows, start: int, end: int, places: Sequence[int]) -> dict[int, tuple[str, float]]:
    """For each place the commonest kind of its cells and its share."""
    step = max((end - start) // LOOKED, 1)
    looked = range(start, end, step)
    kinds = {}
    chosen = [rows[i] for i in looked]
    narrowest = min(map(len, chosen), default=0)
    for place in places:
        cells = map(itemgetter(place), chosen) if place < narrowest else (cell_at(row, place) for row in chosen)
        counts = Counter(map(kind_of_cell, cells))
        del counts[""]
        if counts:
            kind, number = counts.most_common(1)[0]
            kinds[place] = (kind, number / counts.total())
        else:
            kinds[place] = ("", 0.0)
    return kinds


class KindsBelow:
    """What kinds the cells of each column are in some rows, counted anew only for rows that come and go."""

    def __init__(self, rows: Rows, width: int) -> None:
        self.rows, self.low, self.high = rows, 0, 0
        self.counts: list[Counter[str]] = [Counter() for _ in range(width)]

    def move(self, low: int, high: int) -> None:
        """Look at the rows from low on, before high; neither is less than it was."""
        self._count(range(self.high, high), 1)
        self._count(range(self.low, low), -1)
        self.low, self.high = low, high

    def _count(self, rows: range, by: int) -> None:
        for place in rows:
            for counts, cell in zip(self.counts, self.rows[place], strict=False):
                if kind := kind_of_cell(cell):
                    counts[kind] += by

    def typed(self) -> dict[int, str]:
        """The columns of which most cells are of one kind that is no words, and that kind."""
        found = {}
        for place, counts in enumerate(self.counts):
            whole = sum(counts.values())
            for kind in ("number", "date", "code"):
                if whole and counts[kind] >= 0.6 * whole:
                    found[place] = kind
        return found
