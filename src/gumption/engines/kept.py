"""What was worked out lately and is as true as it was."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

K = TypeVar("K", bound=Hashable)
V = TypeVar("V")


class Kept(Generic[K, V]):
    """The latest values by their keys, at most so many; for several threads."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._values: OrderedDict[K, V] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: K) -> V | None:
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
            return self._values.get(key)

    def put(self, key: K, value: V) -> None:
        with self._lock:
            self._values[key] = value
            while len(self._values) > self._most:
                self._values.popitem(last=False)

    def made(self, key: K, make: Callable[[], V]) -> V:
        """The value kept, or made now and kept."""
        found = self.get(key)
        if found is None:
            found = make()
            self.put(key, found)
        return found

    def items(self) -> list[tuple[K, V]]:
        """All that is kept, the longest unused first."""
        with self._lock:
            return list(self._values.items())

    def clear(self) -> None:
        with self._lock:
            self._values.clear()
