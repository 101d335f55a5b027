"""Files are read in processes of their own: they can be stopped, their memory is bounded, and the server stays quick."""

from __future__ import annotations

import contextlib
import ctypes
import multiprocessing
import os
import resource
import signal
import threading
from collections.abc import Mapping
from dataclasses import dataclass
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

from gumption.core.model.files import Recipe
from gumption.core.model.origin import Appended, Origin, Uploaded
from gumption.intake.append import appended
from gumption.intake.errors import UnreadableFile
from gumption.intake.read import Progress, ReadTable, read_file
from gumption.intake.sources import Allowed, fetch

MOST_MEMORY = 6_000_000_000
"""Bytes of address space a reading may take; the engine's threads reserve far more than they use."""
_PR_SET_PDEATHSIG = 1


class Cancelled(Exception):
    """A person stopped the reading."""


@dataclass(frozen=True)
class Task:
    """What to read: a file that is here, or rows to fetch first; and where to put it."""

    path: Path | None
    file: str
    out: Path
    recipes: Mapping[str, Recipe]
    origin: Origin
    secret: str | None
    allowed: Allowed
    parquet: Mapping[str, Path]
    """Where the tables to be appended stand."""


@dataclass(frozen=True)
class Read:
    """What a reading gave: its tables, and the file they were read from."""

    tables: list[ReadTable]
    original: Path
    file: str


class Stop:
    """Stops a reading from another thread, before or while it runs."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._process: Any = None
        self.asked = False

    def begin(self, process: Any) -> None:
        with self._lock:
            if self.asked:
                raise Cancelled
            process.start()
            self._process = process

    def now(self) -> None:
        with self._lock:
            self.asked = True
            if self._process is not None:
                self._process.kill()


_context = multiprocessing.get_context("forkserver")
_context.set_forkserver_preload(["gumption.server.reading_process"])


def read_apart(task: Task, progress: Progress, stop: Stop) -> Read:
    """Do the task in a process of its own. Raises UnreadableFile, or Cancelled where it was stopped."""
    here, there = _context.Pipe(duplex=False)
    process = _context.Process(target=_work, args=(task, there), daemon=True)
    stop.begin(process)
    there.close()
    try:
        while True:
            kind, content = here.recv()
            if kind == "progress":
                progress(*content)
            elif kind == "read":
                found: Read = content
                return found
            else:
                raise UnreadableFile(*content)
    except EOFError as error:
        if stop.asked:
            raise Cancelled from error
        raise UnreadableFile(
            task.file, "reading it took more memory than there is, or broke off.", "Send less of it, or as CSV."
        ) from error
    finally:
        here.close()
        process.join(5)


def _work(task: Task, pipe: Connection) -> None:
    # A reading must not outlive the server, whose next start sweeps what it left.
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGKILL)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    os.nice(5)
    # Where nobody listens any more, there is nobody to tell.
    with contextlib.suppress(BrokenPipeError):
        try:
            pipe.send(("read", _read(task, lambda what, share: pipe.send(("progress", (what, share))))))
        except UnreadableFile as error:
            pipe.send(("failed", (error.file, error.problem, error.advice)))
        except MemoryError:
            pipe.send(
                ("failed", (task.file, "reading it takes more memory than there is.", "Send less of it, or as CSV."))
            )
    pipe.close()


def _read(task: Task, progress: Progress) -> Read:
    if isinstance(task.origin, Appended):
        found = appended(task.file, task.origin, task.parquet, task.out)
        return Read([found], found.parquet, task.file)
    path, file = task.path, task.file
    if path is None and not isinstance(task.origin, Uploaded):
        path, file = fetch(task.origin, task.secret, task.out, task.allowed, lambda w, s: progress(w, 0.4 * s))
    assert path is not None
    return Read(read_file(path, file, task.out, progress, task.recipes), path, file)
