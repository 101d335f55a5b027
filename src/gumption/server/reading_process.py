"""Files are read in processes of their own: they can be stopped, their memory is bounded, and the server stays quick."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any, TypeVar

from gumption.core.model.files import Recipe
from gumption.core.model.origin import Appended, Origin
from gumption.engines.limits import Stop
from gumption.intake.append import appended
from gumption.intake.errors import UnreadableFile
from gumption.intake.making import Progress, ReadTable
from gumption.intake.read import read_file
from gumption.intake.sources import Allowed, fetch
from gumption.server.apart import BrokeOff, Tell, apart

Result = TypeVar("Result")
MOST_MEMORY = 6_000_000_000
"""Bytes of address space a reading may take; the engine's threads reserve far more than they use."""


class Cancelled(Exception):
    """A person stopped the reading."""


@dataclass(frozen=True)
class Task:
    """What to read, a file that is here or other tables; and where to put it."""

    path: Path | None
    file: str
    out: Path
    recipes: Mapping[str, Recipe]
    appended: Appended | None
    parquet: Mapping[str, Path]
    """Where the tables to be appended stand."""


@dataclass(frozen=True)
class Read:
    """What a reading gave: its tables, and the file they were read from."""

    tables: list[ReadTable]
    original: Path
    file: str


def fetch_apart(
    origin: Origin, secret: str | None, out: Path, allowed: Allowed, progress: Progress, stop: Stop
) -> tuple[Path, str]:
    """Bring rows from elsewhere into a folder, in a process of its own. Raises UnreadableFile and Cancelled."""
    return _apart(_fetch, (origin, secret, out, allowed), "what is fetched", progress, stop)


def read_apart(task: Task, progress: Progress, stop: Stop) -> Read:
    """Do the task in a process of its own. Raises UnreadableFile, or Cancelled where it was stopped."""
    return _apart(_read, (task,), task.file, progress, stop)


def _apart(work: Callable[..., Result], given: tuple[Any, ...], file: str, progress: Progress, stop: Stop) -> Result:
    try:
        found: Result = apart(work, given, MOST_MEMORY, stop, lambda told: progress(*told))
    except BrokeOff as error:
        if stop.asked():
            raise Cancelled from error
        raise UnreadableFile(
            file, "reading it took more memory than there is, or broke off.", "Send less of it, or as CSV."
        ) from error
    return found


def _fetch(tell: Tell, origin: Origin, secret: str | None, out: Path, allowed: Allowed) -> tuple[Path, str]:
    return fetch(origin, secret, out, allowed, lambda what, share: tell((what, 0.4 * share)))


def _read(tell: Tell, task: Task) -> Read:
    if task.appended is not None:
        found = appended(task.file, task.appended, task.parquet, task.out)
        return Read([found], found.parquet, task.file)
    assert task.path is not None
    tables = read_file(task.path, task.file, task.out, lambda what, share: tell((what, share)), task.recipes)
    return Read(tables, task.path, task.file)
