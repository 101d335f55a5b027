"""Cells that hold several values, such as the tags of a ticket: told by what stands between them, and taken apart."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from gumption.core.model.catalogue import Column, Note
from gumption.core.model.names import plural

_SEPARATORS = {";": 0.1, "|": 0.1, "\n": 0.3, ",": 0.5, "/": 0.5}
"""What stands between the items of a cell, the surest first, each with the share of the items, counted as often as they
occur, that must stand in the first place and in others too: a town and its state never change places."""
_MOST_KINDS = 300
_FEWEST_CELLS = 4
_LEAST_SHARE = 0.04
"""The share of the cells that must hold several."""
_OFTEN = 2.5
"""How often an item must occur at the mean."""
_LONGEST, _MOST_WORDS = 40, 5
_NO_ITEM = re.compile(r"[\d.,:%\s-]+|.?")


@dataclass(frozen=True)
class Items:
    """How the cells of a column hold several: what separates them, and the different ones, most common first."""

    separator: str
    kinds: tuple[tuple[str, int], ...]
    """Each with the number of rows that hold it."""


def several_key(column: str) -> str:
    """The key of the act of taking a column's cells for lists, by which it is undone."""
    return f"several:{column}"


def several_note(column: Column) -> Note:
    """What is told of a column whose cells hold several."""
    cells = plural(len(column.values), "different item")
    told = {"\n": "line breaks"}.get(column.separator, f"“{column.separator}”")
    return Note(
        act=f"Cells of {column.name} hold several items between {told}; each is asked about by itself",
        key=several_key(column.name),
        column=column.name,
        detail=f"{cells}, such as {', '.join(column.values[:3])}",
    )


def items_of(cells: Sequence[tuple[str, int]]) -> Items | None:
    """The items that different cells, each with its number of rows, hold; None where a cell holds one value."""
    for separator in _SEPARATORS:
        found = _held(cells, separator)
        if found is not None:
            return Items(separator, found)
    return None


def _held(cells: Sequence[tuple[str, int]], separator: str) -> tuple[tuple[str, int], ...] | None:
    several = sum(rows for cell, rows in cells if separator in cell.strip(f"{separator} "))
    if several < _LEAST_SHARE * sum(rows for _, rows in cells):
        return None
    counted: Counter[str] = Counter()
    first: set[str] = set()
    later: set[str] = set()
    sizes: set[int] = set()
    rows_of_several = 0
    for cell, rows in cells:
        items = [item for part in cell.split(separator) if (item := part.strip(" "))]
        if not items:
            continue
        if len(set(items)) < len(items):
            return None
        sizes.add(len(items))
        rows_of_several += rows if len(items) > 1 else 0
        first.add(items[0])
        later.update(items[1:])
        for item in items:
            counted[item] += rows
        if len(counted) > _MOST_KINDS:
            return None
    if rows_of_several < _FEWEST_CELLS or len(sizes) < 2 or len(counted) < 2:
        return None
    if any(not _may_be_item(item) for item in counted):
        return None
    total = counted.total()
    moving = sum(counted[item] for item in first & later)
    if total < _OFTEN * len(counted) or moving < _SEPARATORS[separator] * total:
        return None
    return tuple(sorted(counted.items(), key=lambda pair: (-pair[1], pair[0])))


def _may_be_item(text: str) -> bool:
    short = len(text) <= _LONGEST and len(text.split()) <= _MOST_WORDS
    return short and _NO_ITEM.fullmatch(text) is None
