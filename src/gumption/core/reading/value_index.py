"""Which values words stand in: from the stems of a whole value, or from one of its words, to columns and values.

A workspace may hold millions of values, and a question asks for a few. So nothing is kept for a value but the hash of
its stems and where it stands (16 bytes), sorted; what is found is compared with the value itself.
"""

from __future__ import annotations

from array import array
from collections.abc import Callable, Hashable

import numpy as np

from gumption.core.reading.meaning import ColumnKey

MOST_REMEMBERED = 20_000

Found = dict[ColumnKey, list[str]]


class ValueIndex:
    """Columns and values by a key; fill it with `add`, then `close` it."""

    def __init__(self, says: Callable[[Hashable, str], bool]) -> None:
        """`says` tells whether a value has a key indeed, which equal hashes alone do not."""
        self._says = says
        self._columns: list[tuple[ColumnKey, tuple[str, ...]]] = []
        self._hashes, self._places, self._owners = array("q"), array("I"), array("I")
        self._sorted: np.ndarray = np.empty(0, dtype=np.int64)
        self._order: np.ndarray = np.empty(0, dtype=np.int64)
        self._remembered: dict[Hashable, Found] = {}
        self._told: dict[Hashable, Found] = {}

    def tell(self, said: Hashable, key: ColumnKey, value: str) -> None:
        """A value has another key than its own words give: Mon is Monday."""
        self._told.setdefault(said, {}).setdefault(key, []).append(value)

    def column(self, key: ColumnKey, values: tuple[str, ...]) -> int:
        """The number under which a column's values are added."""
        self._columns.append((key, values))
        return len(self._columns) - 1

    def add(self, said: Hashable, column: int, place: int) -> None:
        """The value at a place of a column has a key."""
        self._hashes.append(hash(said))
        self._owners.append(column)
        self._places.append(place)

    def close(self) -> None:
        hashes = np.frombuffer(self._hashes, dtype=np.int64) if self._hashes else self._sorted
        order = np.argsort(hashes, kind="stable")
        self._sorted, self._order = hashes[order], order.astype(np.uint32)
        self._hashes = array("q")

    def get(self, said: Hashable) -> Found:
        """The columns in which a value with the key stands, and those values, in the order in which they were added."""
        known = self._remembered.get(said)
        if known is not None:
            return known
        found: Found = {key: list(values) for key, values in self._told.get(said, {}).items()}
        wanted = hash(said)
        first = int(np.searchsorted(self._sorted, wanted, side="left"))
        last = int(np.searchsorted(self._sorted, wanted, side="right"))
        for entry in self._order[first:last]:
            key, values = self._columns[self._owners[entry]]
            value = values[self._places[entry]]
            if self._says(said, value):
                found.setdefault(key, []).append(value)
        if len(self._remembered) < MOST_REMEMBERED:
            self._remembered[said] = found
        return found

    def __contains__(self, said: Hashable) -> bool:
        return bool(self.get(said))
