"""Figures of some rows beside figures of others: income from dogs and total income, late loans and all loans.

What such a condition is said of is the figure that it stands with, and not the whole question.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Sequence
from dataclasses import dataclass, field

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Edge
from gumption.core.reading.pieces import Asking, Counted, Grouped, Marker, Measured, Noun, Part, Worked
from gumption.core.reading.rules.groups import comes_again
from gumption.core.reading.schema import Nouns, tables_of

_BETWEEN = frozenset(["and", "&", ",", "plus", "the", "all", "of", "beside", "alongside", "with", "vs", "versus"])
_LINKS = frozenset(["and", "&", ",", "plus", "beside", "alongside", "vs", "versus"])
"""What stands between two figures, of which one at least must be there."""
_NOUNLIKE = ("state", "flag")
"""Conditions that name rows by themselves: no-shows, cancellations."""


@dataclass
class _Side:
    """What stands between two links: its conditions and what it is a figure of."""

    first: int
    joined: bool
    """True where a word joins it to what is before, and no comma alone."""
    conditions: list[m.Condition] = field(default_factory=list)
    kinds: list[str] = field(default_factory=list)
    figures: list[object] = field(default_factory=list)
    places: list[int] = field(default_factory=list)


def parts_beside(
    items: Sequence[tuple[int, object]], edges: Sequence[Edge], words: Sequence[str], nouns: Nouns
) -> tuple[tuple[int, object], ...] | None:
    """The pieces with each figure under the condition that it stands with; None where there are no two such figures."""
    sides = _sides(items, edges, words)
    if sides is None or len(sides) < 2 or not any(s.conditions for s in sides):
        return None
    if all(s.conditions == sides[0].conditions for s in sides):
        return None
    if not any(isinstance(v, Grouped) for _, v in items) and _of_one_column(sides):
        # How many small vans and how many large ones is a row for each.
        return None
    bare = [s for s in sides if not s.figures]
    if bare and (
        len(bare) > 1 or any(s.conditions for s in sides if s.figures) or not all(s.joined for s in sides[1:])
    ):
        # Animals that are neutered and insured are both at once.
        return None
    rows = next((t for s in sides for f in s.figures if (t := _rows_of(f)) is not None), None)
    told = [_figure(s, rows, nouns) for s in sides]
    figures = [f for f in told if f is not None]
    if len(figures) < len(told):
        return None
    alike = len(set(figures)) < len(figures)
    by_name = all(k in _NOUNLIKE for s in sides for k in s.kinds) and all(s.joined for s in sides[1:])
    alike = alike and not (bare and not rows)
    if not alike and (not by_name or sum(bool(s.conditions) for s in sides) > 1):
        # Average fee for dogs and number of visits: the dogs may be meant of both.
        return None
    made: dict[int, object] = {}
    for side, figure in zip(sides, figures, strict=True):
        made[side.first] = Worked(dataclasses.replace(figure, where=(*figure.where, *side.conditions)))
    taken = {p for s in sides for p in s.places}
    kept = [(i, v) for i, v in items if i not in taken or isinstance(v, (Grouped, Asking, Marker)) or _is_time(v)]
    return tuple(sorted([*kept, *made.items()], key=lambda item: item[0]))


def _sides(items: Sequence[tuple[int, object]], edges: Sequence[Edge], words: Sequence[str]) -> list[_Side] | None:
    """The stretches that links divide; None where a piece is of a kind that cannot be told apart so."""
    sides: list[_Side] = []
    before: int | None = None
    for place, value in items:
        if isinstance(value, (Grouped, Asking, Marker)) or _is_time(value):
            before = place
            continue
        start = edges[place].start
        gap = words[edges[before].end if before is not None else start : start]
        if not sides or (_LINKS & set(gap) and set(gap) <= _BETWEEN):
            sides.append(_Side(place, bool(_LINKS & set(gap) - {","})))
        side = sides[-1]
        match value:
            case Part(condition=condition, kind=kind):
                side.conditions.append(condition)
                side.kinds.append(kind)
            case Noun(table=str()) | Counted() | Measured(verb=False) | Worked(quantity=m.Aggregated()):
                side.figures.append(value)
            case _:
                return None
        side.places.append(place)
        before = place
    return sides


def _of_one_column(sides: Sequence[_Side]) -> bool:
    """True where each side is of a value of its own of one column."""
    told = [s.conditions[0] for s in sides if len(s.conditions) == 1]
    columns = {c.column for c in told if isinstance(c, m.Is)}
    return len(told) == len(sides) and len(columns) == 1 and all(isinstance(c, m.Is) for c in told)


def _is_time(value: object) -> bool:
    return isinstance(value, Part) and value.kind == "time" and not comes_again(value.condition)


def _rows_of(figure: object) -> str | None:
    """The table whose rows are counted."""
    match figure:
        case Noun(table=str(rows)) | Counted(noun=Noun(table=str(rows)), distinct=False):
            return rows
        case Worked(quantity=m.Aggregated(function="count", table=str(rows))):
            return rows
        case _:
            return None


def _figure(side: _Side, rows: str | None, nouns: Nouns) -> m.Aggregated | None:
    """What one side is a figure of: `rows` are those that another side counts."""
    named = [f for f in side.figures if not (isinstance(f, Counted) and f.noun == Noun())]
    worked = [f for f in named if not isinstance(f, Noun)]
    if len(worked) == 1:
        # The revenue from newsletter customers is a revenue.
        named = worked
    if len(named) > 1:
        return None
    match named:
        case [Measured(expr=expr)]:
            return nouns.aggregate(expr)
        case [Worked(quantity=m.Aggregated() as quantity)]:
            return quantity
        case [figure]:
            own = _rows_of(figure)
            return nouns.counted(own) if own is not None else None
        case _:
            pass
    if side.figures or all(k in (*_NOUNLIKE, "value") for k in side.kinds):
        # A number of no-shows is one of visits, where it stands beside theirs; else of the rows that say it.
        of = {t for c in side.conditions for t in tables_of(c)}
        if rows is not None and all(nouns.catalogue.path(rows, t) is not None for t in of):
            return nouns.counted(rows)
        return nouns.counted(next(iter(of))) if len(of) == 1 else None
    return None
