"""What moved a figure: its change from one set of rows to another, cut into pieces that add up to it.

The pieces are the rows of an ordinary plan, so that they are worked twice, checked and shown as code like any answer.
For sums a piece's change is split into volume (rows more or fewer, each at the mean of all rows before), mix (rows of
a kind with a higher or lower mean) and rate (what a row of the same kind comes to now); for averages and ratios into
mix and rate. The split is the usual one of price, volume and mix in management accounting.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from gumption.core.model.names import free_name
from gumption.core.model.types import Type
from gumption.core.plan.constants import number_constant
from gumption.core.plan.expressions import (
    Arithmetic,
    ArithmeticOp,
    ColumnRef,
    Constant,
    Expression,
    FirstKnown,
    NumberFunction,
)
from gumption.core.plan.fields import Schema
from gumption.core.plan.steps import Derive, Pick, Picked, Plan, Sort, SortKey, Step, Window

ChangeKind = Literal["count", "sum", "ratio"]
_FLOAT_DIGITS = 2
"""Digits behind the point that parts of a sum without exact ones are told in."""


@dataclass(frozen=True)
class Side:
    """The rows before or after: what they are called, and their first and last day where they are a span of time."""

    name: str
    low: dt.date | None = None
    high: dt.date | None = None

    @property
    def days(self) -> int | None:
        return (self.high - self.low).days + 1 if self.low is not None and self.high is not None else None


@dataclass(frozen=True)
class Columns:
    """The names of a change's columns, in the order of its rows; those that a kind of change lacks are empty."""

    before: str
    after: str
    rows_before: str = ""
    rows_after: str = ""
    change: str = "change"
    volume: str = ""
    mix: str = ""
    rate: str = ""

    @property
    def worked(self) -> tuple[str, ...]:
        names = (
            self.change, self.before, self.after, self.volume, self.mix, self.rate, self.rows_before, self.rows_after
        )  # fmt: skip
        return tuple(n for n in names if n)


@dataclass(frozen=True)
class Way:
    """One way to take a change apart: what its pieces are told by, and a plan of groups with the figure on both sides.

    Its last columns are the figure before and after, or of a ratio what stands above its line; of all but counts two
    more behind them are the rows before and after, or what stands below the line.
    """

    called: tuple[str, ...]
    grouped: Plan


@dataclass(frozen=True)
class Change:
    """A figure's change; of the ways to take it apart the first is the one that is taken."""

    kind: ChangeKind
    figure: str
    """The figure as it is told: the total fee net."""
    rows: str
    """What its rows are called: visits."""
    before: Side
    after: Side
    columns: Columns
    ways: tuple[Way, ...]
    percent: bool = False
    """True for a ratio that is told in per cent."""
    among: int = 1
    """Among how many things what was before is shared out: the others, where one is held against them."""
    supposed: Literal["up", "down", ""] = ""
    """Which way the question takes it to have gone."""
    fixed: bool = False
    """True where the question says what it is to be taken apart by."""

    @property
    def way(self) -> Way:
        return self.ways[0]

    def taken(self, way: Way) -> Change:
        return replace(self, ways=(way, *(w for w in self.ways if w != way)))


def columns_of_change(kind: ChangeKind, rows: str, before: Side, after: Side, *, percent: bool = False) -> Columns:
    """What the columns of a change are called: the sides by their names."""
    one, other = _plain(before.name), _plain(after.name)
    if one == other or not one or not other:
        one, other = "before", "after"
    counted, figure = _plain(rows), "percent_" if percent else ""
    split = Columns(
        f"{figure}{one}", f"{figure}{other}", f"{counted}_{one}", f"{counted}_{other}", mix="mix", rate="rate"
    )
    match kind:
        case "count":
            return Columns(one, other)
        case "sum":
            return replace(split, volume="volume")
        case "ratio":
            return split


def _plain(name: str) -> str:
    return "_".join("".join(c if c.isalnum() else " " for c in name.lower()).split())


# --- the plan of the pieces


def parts_of(change: Change, names: Sequence[str]) -> tuple[list[str], list[str]]:
    """The columns of a way's groups: those that tell the pieces, and the figures behind them."""
    numbers = 2 if change.kind == "count" else 4
    return list(names[:-numbers]), list(names[-numbers:])


def pieces_plan(change: Change, schema: Schema) -> Plan:
    """The plan whose rows are the pieces of a change; `schema` is of the groups of the way that is taken."""
    kind, columns, scale = change.kind, change.columns, 100.0 if change.percent else 1.0
    share = change.among if kind != "ratio" else 1
    labels, numbers = parts_of(change, list(schema))
    grouped = change.way.grouped
    if isinstance(grouped.steps[-1], Sort):
        # The pieces have an order of their own.
        grouped = Plan(steps=grouped.steps[:-1])
    taken = set(schema)
    steps: list[Step] = []

    def derived(base: str, expression: Expression) -> str:
        name = free_name(base, taken)
        taken.add(name)
        steps.append(Derive(name=name, expression=expression))
        return name

    def whole(base: str, column: str) -> str:
        name = free_name(base, taken)
        taken.add(name)
        steps.append(Window(name=name, function="total", column=column))
        return name

    ours = [_known(n, 1 if at % 2 else share) for at, n in enumerate(numbers)]
    bases = ("part_before", "part_after", "rows_before", "rows_after")
    before, after, *counted = (derived(base, e) for base, e in zip(bases, ours, strict=False))
    digits = _digits(schema, numbers[0], share)
    found: dict[str, str] = {}
    if kind == "count":
        found = {columns.before: before, columns.after: after}
        found[columns.change] = derived("change", _minus(after, before))
    else:
        rows_before, rows_after = counted
        all_before, all_rows = whole("all_before", before), whole("all_rows_before", rows_before)
        mean: Expression = _over(before, rows_before)
        overall: Expression = _over(all_before, all_rows)
        found = {columns.rows_before: rows_before, columns.rows_after: rows_after}
        if kind == "sum":
            found |= {columns.before: before, columns.after: after}
            moved = derived("change", _minus(after, before))
            more = _minus(rows_after, rows_before)
            volume = derived("volume", _rounded(FirstKnown(items=(_times(more, overall), _NOUGHT)), digits))
            # What was not there before has no mean of its own: all that it brings is mix.
            own = _rounded(_math("-", _times(more, mean), ColumnRef(name=volume)), digits)
            new = _math("-", ColumnRef(name=moved), ColumnRef(name=volume))
            mix = derived("mix", FirstKnown(items=(own, _rounded(new, digits))))
            rate = derived("rate", _rounded(_math("-", new, ColumnRef(name=mix)), digits))
            found |= {columns.change: moved, columns.volume: volume, columns.mix: mix, columns.rate: rate}
        else:
            all_rows_after = whole("all_rows_after", rows_after)
            one, other = (
                derived(f"weight_{side}", _over(rows, together))
                for side, rows, together in (
                    ("before", rows_before, all_rows),
                    ("after", rows_after, all_rows_after),
                )
            )
            mean = ColumnRef(name=derived("mean_before", mean))
            now = ColumnRef(name=derived("mean_after", _over(after, rows_after)))
            overall = ColumnRef(name=derived("overall_mean_before", overall))
            shift = _minus(other, one)
            # Where there are no rows on one side the mean there weighs nothing.
            own = _times(shift, _math("-", mean, overall))
            new = _times(shift, _math("-", now, overall))
            mix = derived("mix_share", FirstKnown(items=(own, new, _NOUGHT)))
            rated = FirstKnown(items=(_times(ColumnRef(name=other), _math("-", now, mean)), _NOUGHT))
            rate = derived("rate_share", rated)
            total = _math("+", ColumnRef(name=mix), ColumnRef(name=rate))
            scaled = {
                columns.before: mean,
                columns.after: now,
                columns.change: total,
                columns.mix: ColumnRef(name=mix),
                columns.rate: ColumnRef(name=rate),
            }
            for name, expression in scaled.items():
                told = expression if scale == 1.0 else _math("*", expression, number_constant(scale))
                found[name] = derived(name, told)
    size = derived("size", NumberFunction(function="abs", value=ColumnRef(name=found[columns.change])))
    steps.append(Sort(keys=(SortKey(column=size, descending=True), *(SortKey(column=n) for n in labels))))
    shown = [Picked(column=n, name=n) for n in labels]
    shown += [Picked(column=found[n], name=n) for n in columns.worked]
    return grouped.then(*steps, Pick(columns=tuple(shown)))


_NOUGHT = Constant(type=Type.INTEGER, value=0)


def _digits(schema: Schema, column: str, share: int) -> int | None:
    """Digits in which the parts of a sum are told, so that they add up to the last of them; None for no rounding."""
    field = schema[column]
    if share > 1:
        return None
    return field.scale if field.type is Type.DECIMAL else _FLOAT_DIGITS if field.type is Type.INTEGER else None


def _known(column: str, share: int) -> Expression:
    value = FirstKnown(items=(ColumnRef(name=column), _NOUGHT))
    return value if share == 1 else _math("/", value, number_constant(share))


def _math(op: ArithmeticOp, left: Expression, right: Expression) -> Expression:
    return Arithmetic(op=op, left=left, right=right)


def _minus(left: str, right: str) -> Expression:
    return _math("-", ColumnRef(name=left), ColumnRef(name=right))


def _over(left: str, right: str) -> Expression:
    return _math("/", ColumnRef(name=left), ColumnRef(name=right))


def _times(left: Expression, right: Expression) -> Expression:
    return _math("*", left, right)


def _rounded(value: Expression, digits: int | None) -> Expression:
    return value if digits is None else NumberFunction(function="round", value=value, digits=digits)
