"""What a working notes on its way for the checks: rows dropped and why, and what the groups of an aggregate were like."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

import numpy as np

from gumption.core.evaluate.aggregates import Groups, aggregate
from gumption.core.evaluate.relation import Relation
from gumption.core.evaluate.vectors import Vector
from gumption.core.model.types import Type, Value
from gumption.core.plan import expressions as ex
from gumption.core.plan.expressions import Aggregate, Expression, children, columns_of

GroupName = tuple[tuple[str, Value], ...]
"""The columns that a group goes by, and its values."""
FEW_VALUES = 5
"""A group with fewer values than this says little about its kind."""
_MOST_GROUPS, _MOST_ROWS = 200, 2_000_000
"""Beyond these medians are not worked out beside means: nobody looks at so many, or waits for them."""


@dataclass(frozen=True)
class Dropped:
    """Rows that a step left out: they `fail` a condition, `lack` a value, `find` no partner, or `come` behind a cut."""

    verb: Literal["fail", "lack", "find", "have", "come"]
    what: str
    rows: int


@dataclass(frozen=True)
class Pulled:
    """A group's mean beside its median."""

    aggregate: str
    group: GroupName
    mean: float
    median: float
    values: int


@dataclass(frozen=True)
class GroupFacts:
    """What the groups of a step were like."""

    groups: int
    whole: dict[str, Value]
    """Sums, counts and distinct counts over all groups together, by the aggregate's name."""
    missing: dict[str, int]
    """Rows that an aggregate left out because its column is missing there, by the column's name."""
    few: int
    """Groups with fewer than FEW_VALUES rows."""
    fewest: tuple[tuple[GroupName, int], ...]
    """Some of them, with their rows."""
    means: tuple[Pulled, ...]


@dataclass(frozen=True)
class StepRows:
    """How many rows went into a step and came out, and what else is known of them."""

    rows_in: int
    rows_out: int
    dropped: tuple[Dropped, ...] = ()
    undefined: int = 0
    """Rows on which an expression has no value though all it reads is there: divisions by zero, roots of less than nothing."""
    tied: int | None = None
    """Rows beyond a limit that equal its last row in everything the rows are sorted by."""
    group: GroupFacts | None = None
    other: tuple[StepRows, ...] = ()
    """The rows through the steps of the other plan, of a step that has one."""


_GOES_ON = ("sum", "count", "distinct")


def may_be_undefined(expression: Expression) -> bool:
    """True for an expression that may have no value where all it reads is there."""
    if isinstance(expression, ex.Arithmetic) and expression.op in ("/", "//", "%", "^"):
        return True
    if isinstance(expression, ex.NumberFunction) and expression.function in ("sqrt", "ln", "log10"):
        return True
    return any(may_be_undefined(part) for part in children(expression))


def undefined_rows(expression: Expression, relation: Relation, found: Vector) -> int:
    """Rows where the value is missing and nothing it was worked out from is."""
    if found.is_complete:
        return 0
    gone = found.missing
    for name in columns_of(expression):
        column = relation.column(name)
        if not column.is_complete:
            gone = gone & ~column.missing
    return int(np.count_nonzero(gone))


def tied_rows(relation: Relation, sorted_by: tuple[str, ...], rows: int) -> int | None:
    """Rows behind a cut that equal the last one before it in the columns sorted by; None where these are gone."""
    if not sorted_by or relation.size <= rows:
        return None
    equal = np.ones(relation.size - rows, dtype=np.bool_)
    for name in sorted_by:
        column = relation.column(name)
        gone = column.missing[rows - 1]
        alike = (
            column.missing[rows:]
            if gone
            else (column.values[rows:] == column.values[rows - 1]) & ~column.missing[rows:]
        )
        equal &= alike
    return int(np.count_nonzero(equal))


def group_facts(
    by: tuple[str, ...], aggregates: tuple[Aggregate, ...], relation: Relation, groups: Groups, found: dict[str, Vector]
) -> GroupFacts:
    """What the groups were like; `found` has their keys and the aggregates' results."""
    missing = {
        a.column: int(np.count_nonzero(column.missing))
        for a in aggregates
        if a.column and a.where is None and not (column := relation.column(a.column)).is_complete
    }
    whole: dict[str, Value] = {}
    one = Groups(None, 1, relation.size)
    for wanted in aggregates:
        if by and wanted.where is None and wanted.function in _GOES_ON:
            values = relation.column(wanted.column) if wanted.column else None
            if wanted.function == "sum" and values is not None and values.values.dtype.kind == "i":
                whole[wanted.name] = _exact_whole(values, found[wanted.name])
            else:
                whole[wanted.name] = aggregate(wanted, values, None, one, None).to_values()[0]
    small = np.flatnonzero(groups.sizes < FEW_VALUES) if by else np.zeros(0, dtype=np.int64)
    names = [(_label(by, found, int(g)), int(groups.sizes[g])) for g in small[:3]]
    return GroupFacts(
        groups.count, whole, missing, len(small), tuple(names), _means(by, aggregates, relation, groups, found)
    )


def _exact_whole(column: Vector, groups: Vector) -> Value:
    """The sum of all rows. One pass may wrap at 64 bits: it is held against the groups' sums, which did not, up to that."""
    wrapped = int(column.filled().sum(dtype=np.int64))
    together = sum(int(value) for value in groups.values[~groups.missing])
    whole = together if (together - wrapped) % (1 << 64) == 0 else wrapped
    return Decimal(whole).scaleb(-column.scale) if column.type is Type.DECIMAL else whole


def _label(by: tuple[str, ...], found: dict[str, Vector], group: int) -> GroupName:
    return tuple((n, None if (v := found[n]).missing[group] else v.value(v.values[group])) for n in by)


def _means(
    by: tuple[str, ...], aggregates: tuple[Aggregate, ...], relation: Relation, groups: Groups, found: dict[str, Vector]
) -> tuple[Pulled, ...]:
    if groups.count > _MOST_GROUPS or relation.size > _MOST_ROWS:
        return ()
    means = []
    for wanted in aggregates:
        if wanted.function != "mean" or wanted.where is not None or wanted.column is None:
            continue
        column = relation.column(wanted.column)
        middle = aggregate(Aggregate(name="m", function="median", column=wanted.column), column, None, groups, None)
        counted = aggregate(Aggregate(name="n", function="count", column=wanted.column), column, None, groups, None)
        mean = found[wanted.name]
        for group in np.flatnonzero(~mean.missing):
            pair = float(mean.values[group]), float(middle.values[group])
            means.append(Pulled(wanted.name, _label(by, found, int(group)), *pair, int(counted.values[group])))
    return tuple(means)
