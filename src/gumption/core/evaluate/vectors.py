"""Columns as NumPy arrays with a mask of what is missing.

Text is dictionary-encoded against sorted distinct values, so that codes order as the text does.
Decimals are integers scaled by 10**scale, dates days and timestamps microseconds since
1970-01-01, times microseconds since midnight, durations seconds.
"""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, TypeAlias

import numpy as np
import numpy.typing as npt

from gumption.core.model.types import Type, Value

Ints: TypeAlias = npt.NDArray[np.int64]
Floats: TypeAlias = npt.NDArray[np.float64]
Mask: TypeAlias = npt.NDArray[np.bool_]

EPOCH = dt.date(1970, 1, 1)
EPOCH_TIME = dt.datetime(1970, 1, 1)
MICROSECONDS_A_DAY = 86_400_000_000


@dataclass(frozen=True, eq=False)
class Vector:
    """A column of n values. `values` at missing places is arbitrary and never read."""

    type: Type
    values: npt.NDArray[Any]
    missing: Mask
    scale: int = 0
    words: npt.NDArray[np.object_] | None = None
    """The sorted distinct values that text codes point at."""

    def __len__(self) -> int:
        return len(self.values)

    def at(self, rows: Ints | Mask) -> Vector:
        """The rows chosen by index or mask, in that order."""
        return Vector(self.type, self.values[rows], self.missing[rows], self.scale, self.words)

    def floats(self) -> Floats:
        """Numbers as floats, NaN where missing."""
        found = self.values.astype(np.float64)
        if self.type is Type.DECIMAL:
            found = found / 10.0**self.scale
        return np.where(self.missing, np.nan, found)

    def to_values(self) -> list[Value]:
        """Python values, None where missing."""
        return [None if gone else self._value(value) for value, gone in zip(self.values, self.missing, strict=True)]

    def _value(self, value: Any) -> Value:
        match self.type:
            case Type.TEXT:
                assert self.words is not None
                return str(self.words[value])
            case Type.INTEGER:
                return int(value)
            case Type.DECIMAL:
                return Decimal(int(value)).scaleb(-self.scale)
            case Type.FLOAT | Type.DURATION:
                return float(value)
            case Type.BOOLEAN:
                return bool(value)
            case Type.DATE:
                return EPOCH + dt.timedelta(days=int(value))
            case Type.TIMESTAMP:
                return EPOCH_TIME + dt.timedelta(microseconds=int(value))
            case Type.TIME:
                return (EPOCH_TIME + dt.timedelta(microseconds=int(value))).time()


def float_vector(values: Floats) -> Vector:
    """Floats with NaN standing for missing."""
    return Vector(Type.FLOAT, values, np.isnan(values))


def condition(values: Mask) -> Vector:
    """A two-valued condition: never missing."""
    return Vector(Type.BOOLEAN, values, np.zeros(len(values), dtype=np.bool_))


def days_of(vector: Vector) -> Ints:
    """Dates or timestamps as whole days since 1970-01-01."""
    if vector.type is Type.TIMESTAMP:
        return np.asarray(np.floor_divide(vector.values, MICROSECONDS_A_DAY), dtype=np.int64)
    return np.asarray(vector.values, dtype=np.int64)


def microseconds_of(vector: Vector) -> Ints:
    """Dates or timestamps as microseconds since 1970-01-01."""
    if vector.type is Type.DATE:
        return vector.values * MICROSECONDS_A_DAY
    return vector.values


def order_keys(vector: Vector, descending: bool) -> list[npt.NDArray[Any]]:
    """Keys for numpy.lexsort, least important first: the values, then whether they are missing (last)."""
    values = np.where(vector.missing, vector.values.dtype.type(0), vector.values)
    if values.dtype == np.bool_:
        values = values.astype(np.int64)
    return [-values if descending else values, vector.missing]
