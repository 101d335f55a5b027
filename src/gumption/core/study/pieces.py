"""The pieces of a change as numbers, which of them make most of it, and which way to cut it tells most."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from gumption.core.model.types import Value
from gumption.core.plan.fields import Field, Schema
from gumption.core.plan.words import spoken
from gumption.core.present.numbers import shown
from gumption.core.study.change import Change, parts_of

ENOUGH = 0.6
"""The share of a change from which on the pieces that are named say enough."""
MOST_NAMED = 3
STANDS_OUT = 2.0
"""How far from chance a change must have fallen on its pieces for single ones to be named."""
_PAIRS_TELL = 1.5
"""How much more two columns must tell than one to be taken together."""
_WHOLE = 100.0
_VARIES = 1.5
"""The mean square of a piece's rows beside the square of their mean, as it is taken to be."""


@dataclass(frozen=True)
class Piece:
    """A piece of a change: the answer's row that it is, what it is called, and what it came to."""

    row: int
    label: tuple[str, ...]
    before: float
    after: float
    change: float
    rows_before: float
    rows_after: float
    volume: float
    mix: float
    rate: float


@dataclass(frozen=True)
class Pieces:
    """All pieces of a change, with what they come to together."""

    change: Change
    all: tuple[Piece, ...]

    @property
    def total(self) -> float:
        return math.fsum(p.change for p in self.all)

    @property
    def before(self) -> float:
        """The figure over all rows before."""
        return self._whole([(p.before, p.rows_before) for p in self.all])

    @property
    def after(self) -> float:
        return self._whole([(p.after, p.rows_after) for p in self.all])

    def _whole(self, sides: list[tuple[float, float]]) -> float:
        if self.change.kind != "ratio":
            return math.fsum(value for value, _ in sides)
        rows = math.fsum(n for _, n in sides)
        return math.fsum(value * n for value, n in sides) / rows if rows else 0.0

    @property
    def along(self) -> list[Piece]:
        """Those that went the way of the whole, the largest first."""
        return sorted((p for p in self.all if p.change * self.total > 0), key=lambda p: -abs(p.change))

    @property
    def against(self) -> list[Piece]:
        """Those that went the other way, the largest first."""
        return sorted((p for p in self.all if p.change * self.total < 0), key=lambda p: -abs(p.change))

    @property
    def stand_out(self) -> bool:
        """True where the change fell on its pieces more unevenly than chance would have it."""
        return tells(self) >= STANDS_OUT

    @property
    def named(self) -> list[Piece]:
        """As few of the largest as make up enough of the whole change."""
        found: list[Piece] = []
        for piece in self.along[:MOST_NAMED]:
            found.append(piece)
            if math.fsum(p.change for p in found) / self.total >= ENOUGH:
                break
        return found


def pieces_of(change: Change, schema: Schema, columns: Sequence[str], rows: Sequence[Sequence[Value]]) -> Pieces:
    """The rows of a change's plan as its pieces."""
    at = {name: i for i, name in enumerate(columns)}
    told = change.columns

    def number(row: Sequence[Value], name: str) -> float:
        value = row[at[name]] if name else None
        return float(value) if isinstance(value, (int, float, Decimal)) else 0.0

    found = []
    for place, row in enumerate(rows):
        label = tuple(_called(row[at[n]], schema[n], n) for n in _labels(change, columns))
        worked = (
            told.before, told.after, told.change, told.rows_before, told.rows_after, told.volume, told.mix, told.rate
        )  # fmt: skip
        found.append(Piece(place, label, *(number(row, n) for n in worked)))
    return Pieces(change, tuple(found))


def _called(value: Value, field: Field, name: str) -> str:
    """A piece's value; a yes or a no says of what."""
    return f"{spoken(name)}: {shown(value, field)}" if isinstance(value, bool) else shown(value, field)


def _labels(change: Change, columns: Sequence[str]) -> list[str]:
    """The columns that say what a piece is; a code that stands with its name is told by that."""
    labels = [n for n in columns if n not in change.columns.worked]
    return labels[: len(change.way.called)] if len(labels) > len(change.way.called) else labels


def cut_by(change: Change, schema: Schema, rows: Sequence[Sequence[Value]]) -> Pieces:
    """The groups of the way that is taken as pieces, before the plan of the pieces is made."""
    labels, numbers = parts_of(change, list(schema))
    found = []
    for place, row in enumerate(rows):
        label = tuple(_called(v, schema[n], n) for v, n in zip(row, labels, strict=False))
        one, other, *counted = (float(v) if isinstance(v, (int, float, Decimal)) else 0.0 for v in row[len(labels) :])
        of, then = counted or (0.0, 0.0)
        found.append(Piece(place, label, one, other, other - one, of, then, 0.0, 0.0, 0.0))
    assert len(schema) == len(labels) + len(numbers)
    if change.kind == "ratio":
        found = _weighed(found)
    return Pieces(change, tuple(found))


def _weighed(pieces: list[Piece]) -> list[Piece]:
    """The parts of a ratio as the pieces of its change."""
    one, other = math.fsum(p.rows_before for p in pieces), math.fsum(p.rows_after for p in pieces)
    if not one or not other:
        return []
    whole = math.fsum(p.before for p in pieces) / one
    return [
        replace(
            p,
            before=p.before / p.rows_before if p.rows_before else 0.0,
            after=p.after / p.rows_after if p.rows_after else 0.0,
            change=p.after / other - p.before / one - (p.rows_after / other - p.rows_before / one) * whole,
        )
        for p in pieces
    ]


def tells(pieces: Pieces) -> float:
    """How much more unevenly a change fell on its pieces than chance would have it: a chi-squared statistic against its freedom.

    The rows of a piece are taken to come one by one, and to vary somewhat around what they come to on average.
    """
    all_of = [p for p in pieces.all if p.before or p.after]
    if len(all_of) < 2:
        return -math.inf
    if pieces.change.kind == "ratio":
        spread = max(abs(pieces.before), abs(pieces.after)) or 1.0
        if pieces.change.percent and spread < _WHOLE:
            # A share varies as a coin does.
            spread = math.sqrt(spread * (_WHOLE - spread))
        rows = math.fsum(p.rows_before for p in all_of), math.fsum(p.rows_after for p in all_of)
        if not rows[0] or not rows[1]:
            return -math.inf
        found = 0.0
        for p in all_of:
            weight = max(p.rows_before / rows[0], p.rows_after / rows[1])
            few = 1 / max(p.rows_before, 1.0) + 1 / max(p.rows_after, 1.0)
            found += p.change**2 / max((weight * spread) ** 2 * few, 1e-12)
    else:
        before, after = math.fsum(p.before for p in all_of), math.fsum(p.after for p in all_of)
        grown = after / before if before else 1.0
        found = 0.0
        for p in all_of:
            counts = pieces.change.kind == "count"
            rows = (p.before, p.after) if counts else (p.rows_before, p.rows_after)
            each = abs(p.before + p.after) / sum(rows) if sum(rows) else 0.0
            varies = (1.0 if counts else _VARIES) * each**2 * (abs(rows[0]) * grown**2 + abs(rows[1]))
            found += (p.after - p.before * grown) ** 2 / max(varies, 1e-12)
    freedom = len(all_of) - 1
    return (found - freedom) / math.sqrt(2 * freedom)


def tells_most(cut: Sequence[Pieces]) -> Pieces:
    """Of several ways to cut a change the one that tells most; two columns together where they tell clearly more."""
    if not any(p.stand_out for p in cut):
        # Where nothing stands out the plainest way will do.
        return cut[0]
    single = [p for p in cut if len(p.change.way.called) == 1]
    best = max(single or cut, key=tells)
    paired = [p for p in cut if len(p.change.way.called) > 1]
    if not paired:
        return best
    both = max(paired, key=tells)
    return both if tells(both) > _PAIRS_TELL * max(tells(best), 0.0) and both.named else best
