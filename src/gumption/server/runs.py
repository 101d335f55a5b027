"""Work that is under way for a person, each piece to be stopped by the number its page gave it."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from gumption.engines.limits import Stop


class Runs:
    """The stops of all work under way."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._all: set[Stop] = set()
        self._stops: dict[str, Stop] = {}

    @contextmanager
    def running(self, run: str) -> Iterator[Stop]:
        """A stop for the work of the block; known by the run's number where it has one."""
        stop = Stop()
        with self._lock:
            self._all.add(stop)
            if run:
                self._stops[run] = stop
        try:
            yield stop
        finally:
            with self._lock:
                self._all.discard(stop)
                if self._stops.get(run) is stop:
                    del self._stops[run]

    def stop_all(self) -> None:
        """Stop everything, where the server is to end."""
        with self._lock:
            stops = list(self._all)
        for stop in stops:
            stop.now()

    def told(self, run: str) -> str | None:
        """How far a run is, as it told last; None where it is over, or was never begun."""
        with self._lock:
            stop = self._stops.get(run)
        return stop.told if stop is not None else None

    def stop(self, run: str) -> bool:
        """Stop a run; False where it is over, or was never begun."""
        with self._lock:
            stop = self._stops.get(run)
        if stop is not None:
            stop.now()
        return stop is not None
