"""A person's own SQL in a process of its own, so that nothing it does takes from others or outlasts its limits."""

from __future__ import annotations

import shutil
import tempfile
import threading
from pathlib import Path

from gumption.engines.duck import DuckEngine
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.limits import GIGABYTE, Limits, Stop
from gumption.engines.theirs import Theirs, run_theirs
from gumption.server.apart import BrokeOff, Tell, apart
from gumption.server.workers import too_long

_BESIDE = 1.3
"""Of the memory that the engine may take, what its process may."""


def run_theirs_apart(sql: str, parquet: dict[str, Path], limits: Limits, scratch: Path, stop: Stop) -> Theirs:
    """The first rows of a person's SELECT. Raises CannotAnswer, and WasStopped where `stop` was asked."""
    ended, late = Stop(), threading.Event()
    stop.calling(ended.now)

    def end() -> None:
        late.set()
        ended.now()

    timer = threading.Timer(limits.seconds, end)
    timer.start()
    # The process may be ended at any moment, so that its folder is made and taken away here.
    folder = Path(tempfile.mkdtemp(prefix="their-", dir=scratch))
    try:
        # The engine keeps to its own limit; what knows none ends here.
        memory = int(_BESIDE * limits.memory_gb * GIGABYTE)
        theirs: Theirs = apart(_run, (sql, parquet, limits, folder), memory, ended, lambda _: None)
    except BrokeOff as error:
        if late.is_set():
            raise too_long(limits.seconds) from error
        if stop.asked():
            raise WasStopped from error
        raise CannotAnswer(
            f"This needs more than the {limits.memory_gb:g} GB of memory that it may take.",
            "Ask for fewer rows or groups.",
        ) from error
    finally:
        timer.cancel()
        shutil.rmtree(folder, ignore_errors=True)
    return theirs


def _run(_tell: Tell, sql: str, parquet: dict[str, Path], limits: Limits, scratch: Path) -> Theirs:
    return run_theirs(sql, list(parquet), DuckEngine(parquet, limits, scratch), Stop())
