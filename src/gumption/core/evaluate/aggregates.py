"""Aggregates of groups, on NumPy columns."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any, assert_never

import numpy as np
import numpy.typing as npt

from gumption.core.evaluate.vectors import (
    LARGEST,
    Floats,
    Ints,
    Mask,
    Vector,
    either_missing,
    float_vector,
    is_gapless,
    no_missing,
    text_vector,
)
from gumption.core.model.types import Type
from gumption.core.plan.expressions import Aggregate

_HALF = 1 << 26
_FEW_GROUPS = 2_000
_BITMAP = 64_000_000


@dataclass(eq=False)
class Groups:
    """Which group each row belongs to, 0 to count - 1; None where all rows are of one group."""

    ids: Ints | None
    count: int
    rows: int

    def only(self, kept: Mask) -> Groups:
        """The same groups over fewer rows."""
        return Groups(None if self.ids is None else self.ids[kept], self.count, int(np.count_nonzero(kept)))

    @cached_property
    def sizes(self) -> Ints:
        """Rows of each group."""
        if self.ids is None:
            return np.full(self.count, self.rows, dtype=np.int64)
        return np.bincount(self.ids, minlength=self.count).astype(np.int64)

    @cached_property
    def order(self) -> Ints:
        """Rows group by group, within a group in their own order."""
        assert self.ids is not None
        # Small integers are sorted by their digits, in one pass or two.
        narrow = self.ids.astype(np.uint16) if self.count <= 1 << 16 else self.ids
        return np.argsort(narrow, kind="stable")

    @cached_property
    def starts(self) -> Ints:
        """Where each group begins in `order`."""
        return np.asarray(np.cumsum(self.sizes) - self.sizes)

    def sums(self, values: npt.NDArray[Any]) -> Floats:
        """Sums of floats."""
        if self.ids is None:
            return np.full(self.count, values.sum(dtype=np.float64))
        return np.bincount(self.ids, weights=values, minlength=self.count).astype(np.float64)

    def spread(self, values: npt.NDArray[Any]) -> npt.NDArray[Any]:
        """Each row's value of its group."""
        return np.broadcast_to(values[0], (self.rows,)) if self.ids is None else np.asarray(values[self.ids])

    def sorted(self, values: npt.NDArray[Any]) -> npt.NDArray[Any]:
        """Values group by group, within each ascending."""
        if self.ids is None:
            return np.sort(values)
        if self.count <= _FEW_GROUPS:
            grouped = values[self.order]
            for start, size in zip(self.starts, self.sizes, strict=True):
                grouped[start : start + size].sort()
            return grouped
        return np.asarray(values[np.lexsort((values, self.ids))])

    def extremes(self, values: npt.NDArray[Any], which: str) -> npt.NDArray[Any]:
        """The least or greatest of each group; arbitrary for a group without rows."""
        found = np.zeros(self.count, dtype=values.dtype)
        has = self.sizes > 0
        if not has.any():
            return found
        work = np.minimum if which == "min" else np.maximum
        if self.ids is None:
            found[:] = work.reduce(values)
        else:
            found[has] = work.reduceat(values[self.order], self.starts[has])
        return found


def aggregate(
    wanted: Aggregate, vector: Vector | None, other: Vector | None, groups: Groups, holds: Mask | None
) -> Vector:
    """One value a group. Of no values: count and distinct are 0, all else is missing.

    `holds` says where the aggregate's own condition holds, None where it has none.
    """
    if wanted.function == "share":
        assert holds is not None
        with np.errstate(invalid="ignore"):
            return float_vector(groups.only(holds).sizes / np.where(groups.sizes == 0, np.nan, groups.sizes))
    if holds is not None:
        groups = groups.only(holds)
        vector, other = (None if v is None else v.at(holds) for v in (vector, other))
    complete = no_missing(groups.count)
    if vector is None:
        return Vector(Type.INTEGER, groups.sizes, complete)
    needed = vector.missing if other is None else either_missing(vector, other)
    if not is_gapless(needed):
        groups, vector = groups.only(~needed), vector.at(~needed)
        other = None if other is None else other.at(~needed)
    empty = groups.sizes == 0
    match wanted.function:
        case "count":
            return Vector(Type.INTEGER, groups.sizes, complete)
        case "distinct":
            return Vector(Type.INTEGER, _distinct(vector, groups), complete)
        case "sum":
            if vector.type in (Type.FLOAT, Type.DURATION):
                return float_vector(np.where(empty, np.nan, groups.sums(vector.values)), vector.type)
            return Vector(vector.type, exact_sums(vector.values, groups), empty, vector.scale)
        case "mean":
            return float_vector(_means(vector, groups), vector.type.averaged)
        case "min" | "max":
            return Vector(
                vector.type, groups.extremes(vector.values, wanted.function), empty, vector.scale, vector.words
            )
        case "mode":
            return _modes(vector, groups)
        case "median":
            return float_vector(_percentiles(vector, groups, 50.0), vector.type.averaged)
        case "percentile":
            assert wanted.percent is not None
            return float_vector(_percentiles(vector, groups, wanted.percent), vector.type.averaged)
        case "variance":
            return float_vector(_variances(vector.floats(), groups))
        case "deviation":
            return float_vector(np.sqrt(_variances(vector.floats(), groups)), vector.type.averaged)
        case "correlation" | "covariance" | "slope":
            assert other is not None
            return float_vector(_together(wanted.function, vector.floats(), other.floats(), groups))
        case "weighted_mean":
            assert other is not None
            weights = other.floats()
            with np.errstate(invalid="ignore", divide="ignore"):
                total = groups.sums(weights)
                found = groups.sums(vector.floats() * weights) / total
            return float_vector(np.where(total == 0, np.nan, found), vector.type.averaged)
        case "latest" | "earliest":
            assert other is not None
            return _at_end(wanted.function, vector, other, groups)
        case "list":
            return _lists(vector, groups)
        case _:
            assert_never(wanted.function)


def exact_sums(values: Ints, groups: Groups) -> Ints:
    """Sums of integers, exact: high and low halves are added as floats, which hold them without loss.

    Raises OverflowError where a sum does not fit 64 bits.
    """
    if not len(values):
        return np.zeros(groups.count, dtype=np.int64)
    largest = max(int(values.max()), -int(values.min())) * len(values)
    if groups.ids is None and largest <= LARGEST:
        return np.full(groups.count, values.sum(dtype=np.int64))
    # Floats add integers exactly as long as no partial sum can reach 2**53.
    if largest < 1 << 53:
        return groups.sums(values).astype(np.int64)
    high, low = np.floor_divide(values, _HALF), np.mod(values, _HALF)
    highs, lows = groups.sums(high), groups.sums(low)
    if np.abs(highs).max() * _HALF > 9e18:
        raise OverflowError("a sum is too large for exact numbers")
    return np.asarray(highs.astype(np.int64) * _HALF + lows.astype(np.int64))


def _means(vector: Vector, groups: Groups) -> Floats:
    if vector.type in (Type.FLOAT, Type.DURATION):
        sums = groups.sums(vector.values)
    else:
        sums = exact_sums(vector.values, groups) / 10.0**vector.scale
    with np.errstate(invalid="ignore", divide="ignore"):
        return np.asarray(np.where(groups.sizes == 0, np.nan, sums / groups.sizes))


def small_codes(vector: Vector) -> tuple[Ints, int]:
    """Small integers that tell values apart, ordered as they are, missing as one more; and how many there may be."""
    rows = len(vector)
    if vector.type is Type.TEXT and vector.words is not None:
        codes, count = vector.values, len(vector.words)
    elif vector.values.dtype == np.bool_:
        codes, count = vector.values.astype(np.int64), 2
    elif vector.values.dtype.kind == "i" and rows and _range(vector) <= 2 * rows + 1024:
        low = int(vector.filled().min())
        codes, count = vector.filled() - low, _range(vector)
    else:
        distinct, found = np.unique(vector.filled(), return_inverse=True)
        codes, count = found.astype(np.int64), len(distinct)
    if vector.is_complete:
        return codes, max(count, 1)
    return np.where(vector.missing, count, codes), count + 1


def _range(vector: Vector) -> int:
    values = vector.filled()
    return int(values.max()) - int(values.min()) + 1


def _pairs(vector: Vector, groups: Groups) -> tuple[Ints, int]:
    """One number for each group and value together, and how many values there may be."""
    codes, width = small_codes(vector)
    return (codes if groups.ids is None else groups.ids * width + codes), width


def _distinct(vector: Vector, groups: Groups) -> Ints:
    pairs, width = _pairs(vector, groups)
    if width * groups.count <= max(_BITMAP, 4 * groups.rows):
        seen = np.zeros(width * groups.count, dtype=np.bool_)
        seen[pairs] = True
        return np.asarray(seen.reshape(groups.count, width).sum(axis=1, dtype=np.int64))
    return np.bincount(np.unique(pairs) // width, minlength=groups.count).astype(np.int64)


def _modes(vector: Vector, groups: Groups) -> Vector:
    """The most common value; the least of those equally common."""
    pairs, width = _pairs(vector, groups)
    distinct, first, times = np.unique(pairs, return_index=True, return_counts=True)
    owner = distinct // width
    # The commonest last, and of equals the one of the smallest code.
    order = np.lexsort((-distinct, times, owner))
    last = np.append(owner[order][1:] != owner[order][:-1], True) if len(order) else np.zeros(0, np.bool_)
    chosen = np.zeros(groups.count, dtype=vector.values.dtype)
    chosen[owner[order][last]] = vector.values[first[order][last]]
    return Vector(vector.type, chosen, groups.sizes == 0, vector.scale, vector.words)


def _percentiles(vector: Vector, groups: Groups, percent: float) -> Floats:
    """Linear interpolation between the two nearest ranks (Hyndman and Fan, 1996, definition 7)."""
    place = (groups.sizes - 1) * (percent / 100.0)
    below = np.floor(place).astype(np.int64)
    found = np.full(groups.count, np.nan)
    has = groups.sizes > 0
    if not has.any():
        return found
    values, step = vector.values, 10.0**vector.scale
    if groups.count <= _FEW_GROUPS:
        # Only the two ranks are needed: each group is parted there and not sorted.
        grouped = values if groups.ids is None else values[groups.order]
        for number in np.flatnonzero(has):
            start = groups.starts[number]
            part = grouped[start : start + groups.sizes[number]]
            k = int(below[number])
            ranks = [k, min(k + 1, len(part) - 1)]
            parted = np.partition(part, ranks)
            low, high = parted[ranks[0]] / step, parted[ranks[1]] / step
            found[number] = low + (high - low) * (place[number] - k)
        return found
    ordered = groups.sorted(values)
    low = ordered[(groups.starts + below)[has]] / step
    high = ordered[(groups.starts + np.minimum(below + 1, groups.sizes - 1))[has]] / step
    found[has] = low + (high - low) * (place - below)[has]
    return found


def _centred(values: Floats, groups: Groups) -> Floats:
    with np.errstate(invalid="ignore", divide="ignore"):
        return np.asarray(values - groups.spread(groups.sums(values) / groups.sizes))


def _variances(values: Floats, groups: Groups) -> Floats:
    """Sample variance (n - 1) by two passes; missing for fewer than two values."""
    with np.errstate(invalid="ignore", divide="ignore"):
        found = np.where(groups.sizes < 2, np.nan, groups.sums(_centred(values, groups) ** 2) / (groups.sizes - 1))
    return np.where(_varies(values, groups) | np.isnan(found), found, 0.0)


def _varies(values: Floats, groups: Groups) -> Mask:
    """Groups whose values differ. A mean is not exact, so that what does not vary would seem to, by the last digit."""
    return np.asarray(groups.extremes(values, "min") != groups.extremes(values, "max"))


def _together(function: str, y: Floats, x: Floats, groups: Groups) -> Floats:
    """Pearson's correlation, sample covariance, or the slope of the least-squares line of y along x."""
    varies_y, varies_x = _varies(y, groups), _varies(x, groups)
    y, x = _centred(y, groups), _centred(x, groups)
    both, along = groups.sums(y * x), groups.sums(x * x)
    with np.errstate(invalid="ignore", divide="ignore"):
        if function == "covariance":
            return np.where(groups.sizes < 2, np.nan, both / (groups.sizes - 1))
        if function == "slope":
            return np.where(varies_x, both / along, np.nan)
        return np.where(varies_x & varies_y, both / np.sqrt(along * groups.sums(y * y)), np.nan)


def _at_end(which: str, vector: Vector, when: Vector, groups: Groups) -> Vector:
    """The value of the row that is last, or first, in time; of several the least."""
    moments = when.values if which == "latest" else -when.values.astype(np.int64)
    ids = np.zeros(groups.rows, np.int64) if groups.ids is None else groups.ids
    # Least values last among equals, so that each group's last row is the one wanted.
    order = np.lexsort((-small_codes(vector)[0], moments, ids))
    chosen = np.zeros(groups.count, dtype=vector.values.dtype)
    chosen[ids[order]] = vector.values[order]
    return Vector(vector.type, chosen, groups.sizes == 0, vector.scale, vector.words)


def _lists(vector: Vector, groups: Groups) -> Vector:
    """The different values of each group in order, with commas between."""
    assert vector.words is not None
    pairs, width = _pairs(vector, groups)
    found: list[list[str]] = [[] for _ in range(groups.count)]
    for group, code in zip(*np.divmod(np.unique(pairs), width), strict=True):
        found[group].append(vector.words[code])
    words = [", ".join(names) if names else None for names in found]
    return text_vector(words, np.arange(groups.count), no_missing(groups.count))
