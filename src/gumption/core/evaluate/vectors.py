"""Columns as NumPy arrays with a mask of what is missing.

Text is dictionary-encoded against sorted distinct values, so that codes order as the text does.
Decimals are integers scaled by 10**scale, dates days and timestamps microseconds since
1970-01-01, times microseconds since midnight, durations seconds.
"""

from __future__ import annotations

import datetime as dt
import weakref
from collections.abc import Callable, Sequence
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
LARGEST = (1 << 63) - 1


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

    @property
    def is_complete(self) -> bool:
        """True where it is known without looking that no value is missing."""
        return is_gapless(self.missing)

    def at(self, rows: Ints | Mask) -> Vector:
        """The rows chosen by index or mask, in that order."""
        values = self.values[rows]
        missing = no_missing(len(values)) if self.is_complete else self.missing[rows]
        return Vector(self.type, values, missing, self.scale, self.words)

    def floats(self) -> Floats:
        """Numbers as floats, NaN where missing."""
        found = self.values.astype(np.float64)
        if self.type is Type.DECIMAL and self.scale:
            found /= 10.0**self.scale
        if not self.is_complete:
            found[self.missing] = np.nan
        return found

    def filled(self) -> npt.NDArray[Any]:
        """The values with zeros where they are missing."""
        return self.values if self.is_complete else np.where(self.missing, self.values.dtype.type(0), self.values)

    def to_values(self) -> list[Value]:
        """Python values, None where missing."""
        return [None if gone else self.value(value) for value, gone in zip(self.values, self.missing, strict=True)]

    def value(self, value: Any) -> Value:
        """One of `values` as a Python value."""
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


def no_missing(rows: int) -> Mask:
    """The mask of a column without gaps: one cell seen many times, so that it costs nothing and is known at sight."""
    return np.broadcast_to(np.False_, (rows,))


def is_gapless(missing: Mask) -> bool:
    """True for a mask of which it is known without looking that nothing is missing."""
    return missing.strides == (0,) and not (len(missing) and missing[0])


def either_missing(*vectors: Vector) -> Mask:
    """Where at least one of the columns is missing."""
    gaps = [v.missing for v in vectors if not v.is_complete]
    return no_missing(len(vectors[0])) if not gaps else np.logical_or.reduce(gaps)


def float_vector(values: Floats, type: Type = Type.FLOAT) -> Vector:
    """Floats with NaN standing for missing. Raises OverflowError for a number too large for a float."""
    missing = np.isnan(values)
    if np.isinf(values).any():
        raise OverflowError("a number grew too large for a float")
    return Vector(type, values, missing if missing.any() else no_missing(len(values)))


def condition(values: Mask) -> Vector:
    """A two-valued condition: never missing."""
    return Vector(Type.BOOLEAN, values, no_missing(len(values)))


def truth(vector: Vector) -> Mask:
    """Where a condition holds."""
    found = vector.values.astype(np.bool_, copy=False)
    return found if vector.is_complete else np.asarray(found & ~vector.missing)


def text_vector(words: Sequence[str | None], codes: Ints, missing: Mask) -> Vector:
    """Text from codes into any list of words, which may repeat and have None for missing ones."""
    known = np.array([w for w in words if w is not None], dtype=object)
    ordered = np.array(sorted(set(known)), dtype=object)
    gone = np.array([w is None for w in words], dtype=np.bool_)
    if not len(ordered):
        return Vector(Type.TEXT, np.zeros(len(codes), np.int64), np.ones(len(codes), np.bool_), words=ordered)
    place = np.zeros(len(words), dtype=np.int64)
    place[~gone] = np.searchsorted(ordered, known)
    safe = codes if is_gapless(missing) else np.where(missing, 0, codes)
    if gone.any():
        missing = missing | gone[safe]
    return Vector(Type.TEXT, place[safe], missing, words=ordered)


def mapped(vector: Vector, change: Callable[[str], str | None]) -> Vector:
    """Text with every word changed; the work is done once a word."""
    assert vector.words is not None
    return text_vector([change(word) for word in vector.words], vector.values, vector.missing)


def by_word(vector: Vector, look: Callable[[str], Any], dtype: Any) -> npt.NDArray[Any]:
    """A number or truth about each row's text; what stands at missing rows is arbitrary."""
    assert vector.words is not None
    if not len(vector.words):
        return np.zeros(len(vector), dtype=dtype)
    table = np.array([look(word) for word in vector.words], dtype=dtype)
    return np.asarray(table[vector.filled()])


def shared_codes(*vectors: Vector) -> tuple[list[Ints], npt.NDArray[np.object_]]:
    """Codes of several text columns against one sorted dictionary, and the dictionary."""
    dictionaries = [v.words for v in vectors]
    first = dictionaries[0]
    assert first is not None
    if all(words is first for words in dictionaries):
        return [v.values for v in vectors], first
    places, words = _merged([w for w in dictionaries if w is not None])
    found = [
        place[vector.filled()] if len(place) else np.zeros(len(vector), dtype=np.int64)
        for vector, place in zip(vectors, places, strict=True)
    ]
    return found, words


_Merged: TypeAlias = tuple[list[Ints], npt.NDArray[np.object_]]
_MERGED: dict[tuple[int, ...], _Merged] = {}
"""What was merged of dictionaries that still are, by their identities: every join of two tables merges the same ones."""


def _merged(dictionaries: Sequence[npt.NDArray[np.object_]]) -> _Merged:
    """Sorted dictionaries as one, and where each one's words stand in it."""
    key = tuple(id(words) for words in dictionaries)
    known = _MERGED.get(key)
    if known is None:
        words = np.array(sorted(set().union(*dictionaries)), dtype=object)
        known = _MERGED[key] = [np.searchsorted(words, own) for own in dictionaries], words
        for own in dictionaries:
            # An identity is given again once its array has gone.
            weakref.finalize(own, _MERGED.pop, key, None)
    return known


def comparable(left: Vector, right: Vector) -> tuple[npt.NDArray[Any], npt.NDArray[Any]]:
    """Two columns as arrays that order and equal as their values do; what is missing is arbitrary."""
    if left.type is Type.TEXT:
        return _texts(left, right)
    if left.type.is_time and left.type is not right.type:
        return microseconds_of(left), microseconds_of(right)
    kinds = {left.type, right.type}
    if Type.DECIMAL in kinds and kinds <= {Type.DECIMAL, Type.INTEGER}:
        scale = max(left.scale, right.scale)
        return rescaled(left, scale), rescaled(right, scale)
    if Type.DECIMAL in kinds:
        return left.floats(), right.floats()
    return left.values, right.values


def _texts(left: Vector, right: Vector) -> tuple[npt.NDArray[Any], npt.NDArray[Any]]:
    """Against one word, places in the longer dictionary do: twice the code, odd where the word stands between two."""
    for one, many, turned in ((right, left, False), (left, right, True)):
        if one.words is not None and many.words is not None and len(one.words) == 1 < len(many.words):
            word = one.words[0]
            place = int(np.searchsorted(many.words, word))
            exact = place < len(many.words) and many.words[place] == word
            codes, key = many.values * 2, np.broadcast_to(np.int64(2 * place if exact else 2 * place - 1), (len(many),))
            return (key, codes) if turned else (codes, key)
    (a, b), _ = shared_codes(left, right)
    return a, b


def rescaled(vector: Vector, scale: int) -> Ints:
    """Integers or decimals as integers scaled by 10**scale. Raises OverflowError where they do not fit 64 bits."""
    factor = 10 ** (scale - vector.scale)
    if factor == 1:
        return np.asarray(vector.values, dtype=np.int64)
    values = vector.filled().astype(np.int64, copy=False)
    if len(values) and max(int(values.max()), -int(values.min())) * factor > LARGEST:
        raise OverflowError("a number is too large for exact working")
    return np.asarray(values * factor)


def stacked(vectors: Sequence[Vector]) -> Vector:
    """Columns of one kind one behind another, numbers widened to the widest."""
    kinds = {v.type for v in vectors}
    rows = sum(len(v) for v in vectors)
    complete = all(v.is_complete for v in vectors)
    missing = no_missing(rows) if complete else np.concatenate([v.missing for v in vectors])
    if kinds == {Type.TEXT}:
        codes, words = shared_codes(*vectors)
        return Vector(Type.TEXT, np.concatenate(codes), missing, words=words)
    if len(kinds) == 1 and Type.DECIMAL not in kinds:
        return Vector(vectors[0].type, np.concatenate([v.values for v in vectors]), missing)
    if Type.FLOAT in kinds:
        return Vector(Type.FLOAT, np.concatenate([np.nan_to_num(v.floats()) for v in vectors]), missing)
    if kinds <= {Type.DATE, Type.TIMESTAMP}:
        return Vector(Type.TIMESTAMP, np.concatenate([microseconds_of(v) for v in vectors]), missing)
    scale = max(v.scale for v in vectors)
    return Vector(Type.DECIMAL, np.concatenate([rescaled(v, scale) for v in vectors]), missing, scale)


def all_missing(like: Vector, rows: int) -> Vector:
    """A column of the same kind in which everything is missing."""
    return Vector(like.type, np.zeros(rows, like.values.dtype), np.ones(rows, np.bool_), like.scale, like.words)


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
    values = vector.filled()
    if values.dtype == np.bool_:
        values = values.astype(np.int64)
    keys = [-values if descending else values]
    return keys if vector.is_complete else [*keys, vector.missing]
