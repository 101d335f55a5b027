"""Lines with more or fewer cells than the others."""

from __future__ import annotations

import re
from collections import Counter

from gumption.core.model.catalogue import Note
from gumption.core.model.names import plural
from gumption.intake.grid import kind_of_cell

_MANY = 0.1
"""Share of lines that may be too long before they are taken for the table's own shape."""


def evened(rows: list[list[str]], delimiter: str) -> tuple[list[list[str]], list[Note]]:
    """Rows no longer than most are; a cell that an unquoted delimiter broke is put together again where the others then fit."""
    lengths = Counter(len(r) for r in rows if len(r) > 1)
    if not lengths:
        return rows, []
    width, usual = lengths.most_common(1)[0]
    notes: list[Note] = []
    first = next(
        (i for i, r in enumerate(rows) if len(r) >= max(2, width - 1) and sum(map(bool, r)) >= 0.6 * width), None
    )
    if (
        first is not None
        and len(rows[first]) == width - 1
        and usual >= 0.9 * sum(map(any, rows[first + 1 :]))
        and usual > 1
    ):
        body = [r for r in rows[first + 1 :] if len(r) == width]
        if any(r[-1] for r in body):
            rows = [*rows[:first], ["", *rows[first]], *rows[first + 1 :]]
            notes.append(Note(act="The header has one name less than the rows have cells; the first column has none"))
        else:
            rows = [r[:-1] if len(r) == width and not r[-1] else r for r in rows]
            notes.append(Note(act="A delimiter at the end of every line was ignored"))
            width -= 1
    long = [i for i, r in enumerate(rows) if len(r) > width and any(r[width:])]
    trimmed = (
        [r[:width] if len(r) > width and i not in set(long) else r for i, r in enumerate(rows)]
        if any(len(r) > width for r in rows)
        else rows
    )
    if long and len(long) <= max(_MANY * len(rows), 1):
        kinds = _kinds([r for r in trimmed if len(r) == width][:600], width)
        joined = cut = 0
        examples: list[str] = []
        for place in long:
            merged = _rejoined(rows[place], width, kinds, delimiter)
            examples.append(delimiter.join(rows[place])[:80])
            if merged is None:
                cut += 1
                trimmed[place] = rows[place][:width]
            else:
                joined += 1
                trimmed[place] = merged
        if joined:
            notes.append(
                Note(
                    act=f"{plural(joined, 'line')} with an unquoted delimiter {'was' if joined == 1 else 'were'} put together again",
                    rows=joined,
                    examples=tuple(examples[:3]),
                )
            )
        if cut:
            notes.append(
                Note(
                    act=f"{plural(cut, 'line')} {'has' if cut == 1 else 'have'} more cells than the header; the last ones were cut off",
                    rows=cut,
                    examples=tuple(examples[:3]),
                    caution=True,
                )
            )
    short = sum(1 < len(r) < width and any(r) for r in trimmed)
    if short and width > 2:
        notes.append(
            Note(
                act=f"{plural(short, 'line')} {'has' if short == 1 else 'have'} fewer cells than the others; the last ones are missing",
                rows=short,
            )
        )
    return trimmed, notes


def _kinds(rows: list[list[str]], width: int) -> list[str]:
    """The commonest kind of each column's cells."""
    kinds = []
    for place in range(width):
        counts = Counter(k for r in rows if (k := kind_of_cell(r[place])))
        kinds.append(counts.most_common(1)[0][0] if counts else "")
    return kinds


def _rejoined(row: list[str], width: int, kinds: list[str], delimiter: str) -> list[str] | None:
    """The row with neighbouring cells joined so that the others fit their columns; None where nothing fits well."""
    extra = len(row) - width
    best: tuple[int, list[str]] | None = None
    for start in range(width):
        part = row[start : start + extra + 1]
        mark = delimiter if kinds[start] == "number" else delimiter + " "
        thousands = re.fullmatch(r"\D{0,4}\d{1,3}(?:,\d{3})+(?:\.\d+)?", mark.join(part))
        if kinds[start] == "number" and not thousands:
            continue
        candidate = [*row[:start], mark.join(part), *row[start + extra + 1 :]]
        found = [kind_of_cell(c) for c in candidate]
        fit = sum(2 if k == f else 1 if not f or not k else -2 for k, f in zip(kinds, found, strict=True))
        if thousands:
            fit += 2
        if kinds[start] == "text" and all(kind_of_cell(c) == "text" for c in part):
            fit += 1
        if best is None or fit > best[0]:
            best = (fit, candidate)
    if best is None:
        return None
    misfit = sum(bool(k and f and k != f) for k, f in zip(kinds, map(kind_of_cell, best[1]), strict=True))
    return best[1] if misfit == 0 else None
