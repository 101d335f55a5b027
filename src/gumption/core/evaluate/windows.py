"""Columns that look at other rows, on NumPy columns."""

from __future__ import annotations

from collections.abc import Sequence
from typing import assert_never

import numpy as np

from gumption.core.evaluate.aggregates import Groups, aggregate, small_codes
from gumption.core.evaluate.dates import Calendar
from gumption.core.evaluate.numbers import arithmetic
from gumption.core.evaluate.relation import Doubled, Relation, group_ids, ordered_rows
from gumption.core.evaluate.vectors import (
    Floats,
    Ints,
    Mask,
    Vector,
    days_of,
    float_vector,
    no_missing,
)
from gumption.core.model.types import Type
from gumption.core.plan.expressions import Aggregate, AggregateName
from gumption.core.plan.steps import SortKey, Window

_OF_ALL: dict[str, AggregateName] = {"total": "sum", "average": "mean", "lowest": "min", "highest": "max"}
"""Windows that are an aggregate of all rows, seen from each."""


def window(step: Window, relation: Relation) -> Vector:
    """The new column, in the relation's own order of rows. Raises Doubled where a period stands twice."""
    vector = relation.column(step.column)
    ids, first = group_ids(relation, step.within)
    groups = Groups(ids, len(first), relation.size)

    def of_all(function: AggregateName) -> Vector:
        wanted = Aggregate(name=step.name, function=function, column=step.column)
        return aggregate(wanted, vector, None, groups, None).at(ids)

    match step.function:
        case "share":
            values = vector.floats()
            totals = groups.sums(np.nan_to_num(values))[ids]
            with np.errstate(divide="ignore", invalid="ignore"):
                return float_vector(np.where(totals == 0, np.nan, values / totals))
        case "total" | "average" | "lowest" | "highest":
            return of_all(_OF_ALL[step.function])
        case "width_bin":
            return _width_bins(step.bins or 1, vector.floats(), of_all("min").floats(), of_all("max").floats())
        case _:
            return _along(step, vector, relation, ids)


def _width_bins(bins: int, values: Floats, low: Floats, high: Floats) -> Vector:
    width = (high - low) / bins
    with np.errstate(divide="ignore", invalid="ignore"):
        place = np.where(width == 0, 0, np.floor((values - low) / width))
    number = np.minimum(np.nan_to_num(place), bins - 1).astype(np.int64) + 1
    return Vector(Type.INTEGER, number, np.isnan(values))


def _along(step: Window, vector: Vector, relation: Relation, ids: Ints) -> Vector:
    """Functions that go along an order: rows are laid out part by part, worked, and put back."""
    keys = step.order or (SortKey(column=step.column, descending=step.function in ("rank", "place")),)
    ties = [] if step.function == "rank" else relation.names
    order = ordered_rows(relation, keys, ties, ids)
    starts = np.ones(relation.size, dtype=np.bool_)
    starts[1:] = ids[order][1:] != ids[order][:-1]
    place = np.arange(relation.size)
    begin = np.maximum.accumulate(np.where(starts, place, 0)) if relation.size else place
    back = np.empty(relation.size, dtype=np.int64)
    back[order] = place
    along = vector.at(order)
    match step.function:
        case "place":
            found = _whole(place - begin + 1)
        case "rank":
            found = _whole(_ranks(relation, keys, order, starts, place) - begin + 1)
        case "quantile_bin":
            found = _quantile_bins(step.bins or 1, along, starts, begin, place)
        case "running_total":
            found = _running(along, begin)
        case "moving_total" | "moving_average":
            found = _moving(step, along, begin, place)
        case "lag" | "lead" | "change" | "change_percent":
            found = _looking(step, along, relation, ids[order], order, begin, place)
        case "share" | "total" | "average" | "lowest" | "highest" | "width_bin":
            raise AssertionError("works on all rows at once")
        case _:
            assert_never(step.function)
    return found.at(back)


def _whole(values: Ints) -> Vector:
    return Vector(Type.INTEGER, values, no_missing(len(values)))


def _ranks(relation: Relation, keys: Sequence[SortKey], order: Ints, starts: Mask, place: Ints) -> Ints:
    new = starts.copy()
    for key in keys:
        codes = small_codes(relation.column(key.column))[0][order]
        new[1:] |= codes[1:] != codes[:-1]
    return np.asarray(np.maximum.accumulate(np.where(new, place, 0)) if len(place) else place)


def _quantile_bins(bins: int, along: Vector, starts: Mask, begin: Ints, place: Ints) -> Vector:
    """Bins of as many rows each, the first ones one larger where it does not come out even; missing values have none.

    Missing values stand last in each part, so they are left out by counting the others only.
    """
    present = ~along.missing
    part = np.cumsum(starts) - 1
    sizes = np.bincount(part[present], minlength=int(part[-1]) + 1 if len(part) else 0)
    size = sizes[part] if len(part) else part
    small, extra = size // bins, size % bins
    at = place - begin
    large = extra * (small + 1)
    with np.errstate(divide="ignore", invalid="ignore"):
        found = np.where(at < large, at // (small + 1), extra + (at - large) // np.maximum(small, 1))
    return Vector(Type.INTEGER, found + 1, along.missing)


def _running(along: Vector, begin: Ints) -> Vector:
    plain = along.filled()
    if along.values.dtype.kind == "i" and np.abs(plain.astype(np.float64)).sum() > 9e18:
        raise OverflowError("a running total is too large for exact numbers")
    total = np.cumsum(plain)
    known = np.cumsum(~along.missing)
    if not len(plain):
        return along
    if along.values.dtype.kind == "f":
        # One subtraction from the whole would lose digits where a part is small: add part by part.
        total = _restarted(plain, begin)
    else:
        total = total - (total - plain)[begin]
    counted: Ints = known - (known - ~along.missing)[begin]
    return Vector(along.type, total, counted == 0, along.scale)


def _restarted(values: np.ndarray, begin: Ints) -> np.ndarray:
    found = np.empty_like(values)
    firsts = np.flatnonzero(begin == np.arange(len(values)))
    for start, end in zip(firsts, [*firsts[1:], len(values)], strict=True):
        found[start:end] = np.cumsum(values[start:end])
    return found


def _moving(step: Window, along: Vector, begin: Ints, place: Ints) -> Vector:
    rows = step.rows or 1
    plain = along.filled()
    total, known = np.zeros_like(plain), np.zeros(len(plain), dtype=np.int64)
    if along.values.dtype.kind == "i" and len(plain) and float(np.abs(plain.astype(np.float64)).max()) * rows > 9e18:
        raise OverflowError("a moving total is too large for exact numbers")
    for offset in range(min(rows, len(plain))):
        there = place - offset
        inside = there >= begin
        there = np.maximum(there, 0)
        total += np.where(inside, plain[there], plain.dtype.type(0))
        known += inside & ~along.missing[there]
    if step.function == "moving_total":
        return Vector(along.type, total, known == 0, along.scale)
    with np.errstate(divide="ignore", invalid="ignore"):
        means = np.where(known == 0, np.nan, total / 10.0**along.scale / known)
    return float_vector(means, along.type.averaged)


def _looking(
    step: Window, along: Vector, relation: Relation, ids: Ints, order: Ints, begin: Ints, place: Ints
) -> Vector:
    """Lag and lead, and what a value differs by from the one that is looked at."""
    if step.function == "lead":
        there = place + step.back
        inside = there < len(place)
        inside[inside] = ids[there[inside]] == ids[inside]
    elif step.unit == "row":
        there = place - step.back
        inside = there >= begin
    else:
        there, inside = _period_back(step, relation.column(step.order[0].column).at(order), ids)
    there = np.where(inside, there, 0)
    gone = ~inside if not len(along) else ~inside | along.missing[there]
    seen = Vector(along.type, along.values[there], gone, along.scale, along.words)
    if step.function in ("lag", "lead"):
        return seen
    change = arithmetic("-", along, seen)
    if step.function == "change":
        return change
    size = Vector(seen.type, np.abs(seen.values), seen.missing, seen.scale)
    return arithmetic("/", change, size)


def _period_back(step: Window, when: Vector, ids: Ints) -> tuple[Ints, Mask]:
    """The row of the same part whose day, month or year lies so far back."""
    days = days_of(when) if when.is_complete else np.where(when.missing, 0, days_of(when))
    months = Calendar(days).month_count
    periods = {"day": days, "month": months, "year": months}[step.unit]
    back = step.back * (12 if step.unit == "year" else 1)
    present = np.flatnonzero(~when.missing)
    if not len(present):
        return np.zeros(len(ids), np.int64), np.zeros(len(ids), np.bool_)
    low = int(periods[present].min()) - back
    width = int(periods[present].max()) - low + 1
    keys = ids * width + (periods - low)
    known = keys[present]
    if (known[1:] == known[:-1]).any():
        raise Doubled(f"a {step.unit} stands twice in {step.order[0].column}; group by it first")
    wanted = keys - back
    at = np.minimum(np.searchsorted(known, wanted), len(known) - 1)
    inside = (known[at] == wanted) & ~when.missing
    return present[at], inside
