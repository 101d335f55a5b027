"""Rows with named columns, each loaded when first asked for."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import partial

import numpy as np

from gumption.core.evaluate.aggregates import small_codes
from gumption.core.evaluate.vectors import Ints, Mask, Vector, order_keys
from gumption.core.plan.steps import SortKey


class Doubled(ValueError):
    """Where one row was promised, there are several."""


class Relation:
    """Rows with named columns, each loaded when first asked for."""

    def __init__(self, size: int, columns: Mapping[str, Callable[[], Vector]]) -> None:
        self.size = size
        self._loaders = dict(columns)
        self._loaded: dict[str, Vector] = {}

    @classmethod
    def of(cls, size: int, columns: Mapping[str, Vector]) -> Relation:
        """Rows whose columns are there already."""
        return cls(size, {name: partial(_given, vector) for name, vector in columns.items()})

    @property
    def names(self) -> list[str]:
        return list(self._loaders)

    def column(self, name: str) -> Vector:
        if name not in self._loaded:
            self._loaded[name] = self._loaders[name]()
        return self._loaded[name]

    def loader(self, name: str) -> Callable[[], Vector]:
        return partial(self.column, name)

    def rows(self, chosen: Ints) -> Relation:
        """These rows in that order; columns are gathered only when read."""
        return Relation(len(chosen), {n: partial(self._at, n, chosen) for n in self._loaders})

    def _at(self, name: str, chosen: Ints) -> Vector:
        return self.column(name).at(chosen)

    def plus(self, columns: Mapping[str, Callable[[], Vector]]) -> Relation:
        """The same rows with more columns."""
        return Relation(self.size, {**{n: self.loader(n) for n in self.names}, **columns})

    def renamed(self, columns: Sequence[tuple[str, str]]) -> Relation:
        """The same rows with some columns, each a name here and its new name."""
        return Relation(self.size, {name: self.loader(column) for column, name in columns})


def _given(vector: Vector) -> Vector:
    return vector


def ordered_rows(relation: Relation, keys: Sequence[SortKey], ties: Sequence[str], parts: Ints | None = None) -> Ints:
    """Rows by their part, then by the keys; those that are still equal by the remaining columns, one after another.

    A column that breaks ties is only looked at on the rows that are tied by all before it.
    """
    arrays = [array for key in reversed(keys) for array in order_keys(relation.column(key.column), key.descending)]
    if parts is not None:
        arrays.append(parts)
    order = np.lexsort(arrays) if arrays else np.arange(relation.size)
    if not ties:
        return order
    same = _same_as_before(arrays, order)
    places = np.flatnonzero(_tied(same))
    named = {key.column for key in keys}
    for name in (n for n in ties if n not in named):
        if not len(places):
            break
        rows, runs = order[places], np.cumsum(~same[places])
        inner = [*order_keys(relation.column(name).at(rows), descending=False), runs]
        chosen = np.lexsort(inner)
        order[places] = rows[chosen]
        still = _same_as_before(inner, chosen)
        same[places] = still
        places = places[_tied(still)]
    return order


def _same_as_before(arrays: Sequence[np.ndarray], order: Ints) -> Mask:
    """Which rows, laid out in an order, equal the row before in all arrays."""
    same = np.ones(len(order), dtype=np.bool_)
    same[:1] = False
    for array in arrays:
        laid = array[order]
        same[1:] &= laid[1:] == laid[:-1]
    return same


def _tied(same: Mask) -> Mask:
    """Which rows equal the one before or the one behind."""
    tied = same.copy()
    tied[:-1] |= same[1:]
    return tied


def group_ids(relation: Relation, names: Sequence[str]) -> tuple[Ints, Ints]:
    """Each row's group and, for each group, its first row."""
    ids: Ints = np.zeros(relation.size, dtype=np.int64)
    if not names:
        return ids, np.zeros(min(relation.size, 1), dtype=np.int64)
    wide = 1
    for place, name in enumerate(names):
        codes, count = small_codes(relation.column(name))
        combined = codes if place == 0 else ids * count + codes
        wide *= count
        if wide <= max(4 * relation.size, 1024):
            used = np.zeros(wide, dtype=np.bool_)
            used[combined] = True
            ids, wide = (np.cumsum(used) - 1)[combined], int(used.sum())
        else:
            distinct, ids = np.unique(combined, return_inverse=True)
            wide = len(distinct)
    first = np.zeros(wide if relation.size else 0, dtype=np.int64)
    first[ids[::-1]] = np.arange(relation.size - 1, -1, -1)
    return ids, first
