"""Aggregates of groups, on NumPy columns. `groups` gives each row's group, 0 to count - 1."""

from __future__ import annotations

from typing import assert_never

import numpy as np

from gumption.core.evaluate.vectors import Floats, Ints, Vector, float_vector
from gumption.core.model.types import Type
from gumption.core.plan.expressions import Aggregate

_HALF = 1 << 26


def aggregate(wanted: Aggregate, vector: Vector | None, other: Vector | None, groups: Ints, count: int) -> Vector:
    """One value a group. Of no values: count and distinct are 0, all else is missing."""
    none = np.zeros(count, dtype=np.bool_)
    if vector is None:
        return Vector(Type.INTEGER, np.bincount(groups, minlength=count).astype(np.int64), none)
    present = ~vector.missing
    inside, values = groups[present], vector.at(present)
    sizes = np.bincount(inside, minlength=count)
    match wanted.function:
        case "count":
            return Vector(Type.INTEGER, sizes.astype(np.int64), none)
        case "distinct":
            return Vector(Type.INTEGER, _distinct(values, inside, count), none)
        case "sum":
            if vector.type is Type.FLOAT:
                return Vector(Type.FLOAT, np.bincount(inside, weights=values.values, minlength=count), sizes == 0)
            return Vector(vector.type, exact_sums(values.values, inside, count), sizes == 0, vector.scale)
        case "mean":
            return float_vector(_means(values, inside, sizes, count))
        case "min" | "max":
            return _extreme(wanted.function, values, inside, sizes, count)
        case "median":
            return float_vector(_percentiles(values.floats(), inside, sizes, 50.0))
        case "percentile":
            assert wanted.percent is not None
            return float_vector(_percentiles(values.floats(), inside, sizes, wanted.percent))
        case "deviation":
            return float_vector(_deviations(values.floats(), inside, sizes, count))
        case "correlation":
            assert other is not None
            return float_vector(_correlations(vector, other, groups, count))
        case _:
            assert_never(wanted.function)


def exact_sums(values: Ints, groups: Ints, count: int) -> Ints:
    """Sums of integers, exact: high and low halves are added as floats, which hold them without loss.

    Raises OverflowError where a sum does not fit 64 bits.
    """
    if not len(values):
        return np.zeros(count, dtype=np.int64)
    # Floats add integers exactly as long as no partial sum can reach 2**53.
    if max(abs(int(values.max())), abs(int(values.min()))) * len(values) < 1 << 53:
        return np.bincount(groups, weights=values, minlength=count).astype(np.int64)
    high, low = np.floor_divide(values, _HALF), np.mod(values, _HALF)
    highs = np.bincount(groups, weights=high, minlength=count)
    lows = np.bincount(groups, weights=low, minlength=count)
    if np.abs(highs).max() * _HALF > 9e18:
        raise OverflowError("a sum is too large for exact numbers")
    return highs.astype(np.int64) * _HALF + lows.astype(np.int64)


def _means(values: Vector, groups: Ints, sizes: Ints, count: int) -> Floats:
    if values.type is Type.FLOAT:
        sums = np.bincount(groups, weights=values.values, minlength=count).astype(np.float64)
    else:
        sums = exact_sums(values.values, groups, count) / 10.0**values.scale
    with np.errstate(invalid="ignore", divide="ignore"):
        return np.asarray(np.where(sizes == 0, np.nan, sums / sizes))


def _distinct(values: Vector, groups: Ints, count: int) -> Ints:
    if not len(values):
        return np.zeros(count, dtype=np.int64)
    _, codes = np.unique(values.values, return_inverse=True)
    pairs = np.unique(groups * (codes.max() + 1) + codes)
    return np.bincount(pairs // (codes.max() + 1), minlength=count).astype(np.int64)


def _extreme(which: str, values: Vector, groups: Ints, sizes: Ints, count: int) -> Vector:
    order = np.lexsort((values.values, groups))
    ends = np.cumsum(sizes)
    places = ends - 1 if which == "max" else ends - sizes
    chosen = np.zeros(count, dtype=values.values.dtype)
    has = sizes > 0
    chosen[has] = values.values[order[places[has]]]
    return Vector(values.type, chosen, ~has, values.scale, values.words)


def _percentiles(values: Floats, groups: Ints, sizes: Ints, percent: float) -> Floats:
    """Linear interpolation between the two nearest ranks (Hyndman and Fan, 1996, definition 7)."""
    ordered = values[np.lexsort((values, groups))]
    starts = np.cumsum(sizes) - sizes
    place = (sizes - 1) * (percent / 100.0)
    below = np.floor(place)
    found = np.full(len(sizes), np.nan)
    has = sizes > 0
    low = ordered[(starts + below.astype(np.int64))[has]]
    high = ordered[(starts + np.minimum(below.astype(np.int64) + 1, sizes - 1))[has]]
    found[has] = low + (high - low) * (place - below)[has]
    return found


def _deviations(values: Floats, groups: Ints, sizes: Ints, count: int) -> Floats:
    """Sample standard deviation (n - 1) by two passes; missing for fewer than two values."""
    with np.errstate(invalid="ignore", divide="ignore"):
        means = np.bincount(groups, weights=values, minlength=count) / sizes
        squares = np.bincount(groups, weights=(values - means[groups]) ** 2, minlength=count)
        return np.asarray(np.where(sizes < 2, np.nan, np.sqrt(squares / (sizes - 1))))


def _correlations(left: Vector, right: Vector, groups: Ints, count: int) -> Floats:
    """Pearson's correlation over rows where both are present; missing where either does not vary."""
    both = ~(left.missing | right.missing)
    inside, a, b = groups[both], left.at(both).floats(), right.at(both).floats()
    sizes = np.bincount(inside, minlength=count)
    with np.errstate(invalid="ignore", divide="ignore"):
        a = a - (np.bincount(inside, weights=a, minlength=count) / sizes)[inside]
        b = b - (np.bincount(inside, weights=b, minlength=count) / sizes)[inside]
        together = np.bincount(inside, weights=a * b, minlength=count)
        spread = np.bincount(inside, weights=a * a, minlength=count) * np.bincount(
            inside, weights=b * b, minlength=count
        )
        return np.asarray(np.where(spread > 0, together / np.sqrt(spread), np.nan))
