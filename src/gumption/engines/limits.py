"""How much a question may take, and how it is stopped."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

GIGABYTE = 1 << 30
_AGAIN = 0.05
"""Seconds between two calls to stop."""


@dataclass(frozen=True)
class Limits:
    """What the questions of one workspace may take together."""

    memory_gb: float = 4.0
    """Memory of the engine; beyond it rows are put on disk."""
    disk_gb: float = 20.0
    """Disk for such rows; beyond it a question fails, and only it."""
    seconds: float = 120.0
    """Time for one question, plan or SQL of a person's own."""
    twice_rows: int = 20_000_000
    """Rows read up to which both workings are done before an answer is shown."""


class Stop:
    """Stops a piece of work from another thread, before or while it runs, and hears from it how far it is."""

    def __init__(self, hear: Callable[[str], None] | None = None) -> None:
        self.told = ""
        """How far the work is, as it told last."""
        self._hear = hear
        self._lock = threading.Lock()
        self._calls: list[Callable[[], None]] = []
        self._once: list[Callable[[], None]] = []
        self._asked = False

    def asked(self) -> bool:
        return self._asked

    def tell(self, words: str) -> None:
        """Say how far the work is."""
        self.told = words
        if self._hear is not None:
            self._hear(words)

    def now(self) -> None:
        """Stop what runs, and what would begin later."""
        with self._lock:
            self._asked, once = True, self._once
        for call in once:
            call()
        threading.Thread(target=self._insist, daemon=True).start()

    def _insist(self) -> None:
        """Call until the work has ended: a call that comes just before a query begins is lost on it."""
        while True:
            with self._lock:
                for call in self._calls:
                    call()
                if not self._calls:
                    return
            time.sleep(_AGAIN)

    def calling(self, call: Callable[[], None]) -> None:
        """Make the call, once, when it is stopped, or now where it is already."""
        with self._lock:
            self._once.append(call)
            asked = self._asked
        if asked:
            call()

    @contextmanager
    def interrupting(self, call: Callable[[], None]) -> Iterator[None]:
        """While the block runs, stopping makes the call."""
        with self._lock:
            self._calls.append(call)
            if self._asked:
                call()
        try:
            yield
        finally:
            with self._lock:
                self._calls.remove(call)
