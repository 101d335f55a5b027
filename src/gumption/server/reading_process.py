"""Files are read in processes of their own: they can be stopped, their memory is bounded, and the server stays quick."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

from gumption.core.model.files import Recipe
from gumption.core.model.origin import Appended, Origin, Uploaded
from gumption.engines.limits import Stop
from gumption.intake.append import appended
from gumption.intake.errors import UnreadableFile
from gumption.intake.read import Progress, ReadTable, read_file
from gumption.intake.sources import Allowed, fetch
from gumption.server.apart import BrokeOff, Tell, apart

MOST_MEMORY = 6_000_000_000
"""Bytes of address space a reading may take; the engine's threads reserve far more than they use."""


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


def read_apart(task: Task, progress: Progress, stop: Stop) -> Read:
    """Do the task in a process of its own. Raises UnreadableFile, or Cancelled where it was stopped."""
    try:
        read: Read = apart(_read, (task,), MOST_MEMORY, stop, lambda told: progress(*told))
    except BrokeOff as error:
        if stop.asked():
            raise Cancelled from error
        raise UnreadableFile(
            task.file, "reading it took more memory than there is, or broke off.", "Send less of it, or as CSV."
        ) from error
    return read


def _read(tell: Tell, task: Task) -> Read:
    def progress(what: str, share: float) -> None:
        tell((what, share))

    if isinstance(task.origin, Appended):
        found = appended(task.file, task.origin, task.parquet, task.out)
        return Read([found], found.parquet, task.file)
    path, file = task.path, task.file
    if path is None and not isinstance(task.origin, Uploaded):
        path, file = fetch(task.origin, task.secret, task.out, task.allowed, lambda w, s: progress(w, 0.4 * s))
    assert path is not None
    return Read(read_file(path, file, task.out, progress, task.recipes), path, file)
