"""Files being read in the background, several side by side, each to be followed and stopped."""

from __future__ import annotations

import functools
import logging
import shutil
import threading
import time
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Literal

from pydantic import TypeAdapter

from gumption.core.model.files import Recipe
from gumption.core.model.origin import Appended, Origin, Uploaded
from gumption.core.model.types import Type
from gumption.engines.limits import Stop
from gumption.intake.errors import UnreadableFile
from gumption.intake.making import Progress
from gumption.intake.pictures import is_called_as_picture
from gumption.intake.sources import Allowed
from gumption.server.problems import capital, disk_is_full
from gumption.server.reading_process import Cancelled, Read, Task, fetch_apart, read_apart
from gumption.server.workspace import Workspace
from gumption.store.records import StoreError, Waiting, patiently

log = logging.getLogger(__name__)
_MOST_JOBS = 200
_FETCHES = 8
_FULL = "The disk is full; nothing was changed. Make room, then send it again."
_FAULT = "It could not be read because of a fault of ours; the log has the details. Nothing else was changed."
_AT_ONCE = 3

Status = Literal["waiting", "reading", "done", "failed", "cancelled"]


@dataclass(frozen=True)
class Job:
    """How far the reading of one file is."""

    id: str
    file: str
    status: Status = "waiting"
    what: str = "Waiting"
    share: float = 0.0
    problem: str | None = None
    tables: tuple[str, ...] = ()
    replacement: str | None = None
    """The number of a staged file that waits for a person's yes."""


@dataclass(frozen=True)
class Order:
    """What is to be read, and what becomes of it."""

    file: str
    path: Path | None = None
    origin: Origin = field(default_factory=Uploaded)
    secret: str | None = field(default=None, repr=False)
    replaces: str | None = None
    """The table a newer file is for."""
    upload: str | None = None
    """The upload that brought the file."""
    rereads: str | None = None
    """The table that is read again from its own file, by another recipe."""
    recipe: Recipe = field(default_factory=Recipe)
    descriptions: dict[str, str] = field(default_factory=dict)
    """What its columns are, where it is known before it is read."""
    passing: bool = False
    """True where the file is only there to be read, and is deleted then."""


@dataclass(frozen=True)
class Fetched:
    """Rows brought from elsewhere: the folder they came into, their file, and the name it goes by."""

    folder: Path
    path: Path
    file: str


_ORDERS: TypeAdapter[Order] = TypeAdapter(Order)


class Places:
    """Threads in which files are read, for all workspaces together."""

    def __init__(self) -> None:
        self.reading = ThreadPoolExecutor(_AT_ONCE, "intake")
        # Who waits for an answer from elsewhere takes no place from who has a file here.
        self.fetching = ThreadPoolExecutor(_FETCHES, "fetch")

    def close(self) -> None:
        self.fetching.shutdown(wait=True, cancel_futures=True)
        self.reading.shutdown(wait=True, cancel_futures=True)


class Jobs:
    """Reads files into the workspace and tells how far each is."""

    def __init__(self, workspace: Workspace, allowed: Allowed, places: Places) -> None:
        self.workspace = workspace
        self.allowed = allowed
        self._places = places
        self._stops: dict[str, Stop] = {}
        self._lock = threading.Lock()
        self._closing = False
        self._jobs = {
            number: Job(number, r.file, "done", "Ready to take its place", 1.0, replacement=number)
            for number, r in workspace.replacements().items()
        }

    def files(self) -> set[Path]:
        """The files that readings which were ordered before a stop are of."""
        return {order.path for _, order in self._ordered() if order.path is not None}

    def resume(self) -> None:
        """Begin what was ordered before a stop and had not ended."""
        for number, order in self._ordered():
            self._begin(number, order, lambda: None)

    def _ordered(self) -> list[tuple[str, Order]]:
        found = []
        for waiting in self.workspace.records.waiting("reading_order"):
            secret = None if waiting.secret is None else self.workspace.secrets.opened(waiting.secret, "A reading")
            found.append((waiting.id, replace(_ORDERS.validate_json(waiting.description), secret=secret)))
        return found

    def start(self, number: str, order: Order, done: Callable[[], None] = lambda: None) -> Job:
        """Begin as soon as there is room; `done` is called at the end, whatever it is.

        It is recorded until it has ended, so that a stop of the server does not lose it; an upload is so by itself.
        """
        if order.upload is None:
            secret = None if order.secret is None else self.workspace.secrets.sealed(order.secret)
            described = _ORDERS.dump_json(replace(order, secret=None)).decode()
            self.workspace.records.keep_waiting("reading_order", Waiting(number, described, secret))
        return self._begin(number, order, done)

    def _begin(self, number: str, order: Order, done: Callable[[], None]) -> Job:
        job, stop = Job(number, order.file), Stop()
        with self._lock:
            ended = [n for n, j in self._jobs.items() if self._is_over(j)]
            for old in ended[: max(len(self._jobs) - _MOST_JOBS, 0)]:
                del self._jobs[old]
                self._stops.pop(old, None)
            self._jobs[number], self._stops[number] = job, stop
        elsewhere = order.path is None and not isinstance(order.origin, Appended)
        if elsewhere:
            self._places.fetching.submit(self._fetch, number, order, stop, done)
        else:
            self._places.reading.submit(self._run, number, order, stop, done)
        return job

    def _is_over(self, job: Job) -> bool:
        """True for a job that nothing is to be done about any more; a newer file that waits for a yes is not."""
        waits = job.replacement is not None and self.workspace.staged(job.replacement) is not None
        return job.status in ("done", "failed", "cancelled") and not waits

    def get(self, number: str) -> Job | None:
        with self._lock:
            return self._jobs.get(number)

    def all(self) -> list[Job]:
        """Every job known, oldest first."""
        with self._lock:
            return list(self._jobs.values())

    def cancel(self, number: str) -> bool:
        """Stop a job that has not ended; false where there is none."""
        with self._lock:
            job, stop = self._jobs.get(number), self._stops.get(number)
            if job is None or stop is None or job.status not in ("waiting", "reading"):
                return False
        stop.now()
        return True

    def close(self) -> None:
        """Stop everything; what was not finished is begun anew after the next start."""
        self._closing = True
        with self._lock:
            stops = list(self._stops.values())
        for stop in stops:
            stop.now()

    @property
    def busy(self) -> bool:
        """True while something is being read, or waits for it."""
        return any(job.status in ("waiting", "reading") for job in self.all())

    def cancel_all(self) -> None:
        """Stop every reading for good."""
        for job in self.all():
            self.cancel(job.id)

    def _tell(self, number: str, **changes: object) -> None:
        with self._lock:
            if number in self._jobs:
                self._jobs[number] = replace(self._jobs[number], **changes)  # type: ignore[arg-type]

    def _fetch(self, number: str, order: Order, stop: Stop, done: Callable[[], None]) -> None:
        """Fetch what is elsewhere; only then it takes a place among what is read."""
        folder = self.workspace.new_folder()

        def fetched() -> None:
            self._tell(number, status="reading", what="Fetching", share=0.0)
            path, file = fetch_apart(order.origin, order.secret, folder, self.allowed, self._telling(number), stop)
            self._places.reading.submit(self._run, number, order, stop, done, Fetched(folder, path, file))

        self._doing(number, order, folder, done, fetched, last=False)

    def _run(
        self, number: str, order: Order, stop: Stop, done: Callable[[], None], fetched: Fetched | None = None
    ) -> None:
        folder = fetched.folder if fetched is not None else self.workspace.new_folder()

        def read() -> None:
            if stop.asked():
                raise Cancelled
            self._tell(number, status="reading", what="Opening", share=0.0)
            if order.upload is not None and order.path is not None and is_called_as_picture(order.file):
                self._keep_picture(number, order.file, order.path, order.replaces)
            else:
                self._read(number, order, folder, stop, fetched)

        self._doing(number, order, folder, done, read, last=True)

    def _doing(
        self, number: str, order: Order, folder: Path, done: Callable[[], None], work: Callable[[], None], *, last: bool
    ) -> None:
        """Do a part of a job; where it fails, or was the last one, the job is over."""
        problem: str | None = None
        named = False
        try:
            work()
        except Cancelled:
            problem = ""
        except UnreadableFile as error:
            problem = f"{capital(error.problem)} {error.advice}"
        except StoreError as error:
            # A record may name the folder all the same; where none does, the next start takes it away.
            problem, named = f"{error.problem} {error.advice}", True
        except KeyError as error:
            problem = f"There is no table {error.args[0]} any more."
        except Exception as error:
            full = disk_is_full(error)
            if not full:
                log.exception("a reading failed")
            problem = _FULL if full else _FAULT
        if problem is not None:
            if not named:
                shutil.rmtree(folder, ignore_errors=True)
            if problem:
                self._tell(number, status="failed", problem=problem)
            else:
                self._tell(number, status="cancelled", what="Stopped; nothing was changed")
        if last or problem is not None:
            self.workspace.filled(folder, may_be_named=named)
            if not self._closing:
                self._end(number, order, done)

    def _end(self, number: str, order: Order, done: Callable[[], None]) -> None:
        """Nothing is left of it but what it gave."""

        def end() -> None:
            if order.upload is None:
                self.workspace.records.drop_waiting("reading_order", number)
            if order.passing and order.path is not None:
                order.path.unlink(missing_ok=True)
            done()

        try:
            patiently(end)
        except StoreError:
            # It is as if it had not ended: the next start does it again, or finds that there is nothing left to do.
            log.exception("the end of a reading could not be recorded")

    def _telling(self, number: str) -> Progress:
        return lambda what, share: self._tell(number, what=what, share=share)

    def _keep_picture(self, number: str, file: str, path: Path, replaces: str | None) -> None:
        if replaces is not None:
            raise UnreadableFile(file, f"a picture cannot take the place of {replaces}.", "Send a file of rows.")
        self.workspace.pictures.keep(file, path)
        self._tell(number, status="done", what="Kept; cells that name it show it", share=1.0)

    def _read(self, number: str, order: Order, folder: Path, stop: Stop, fetched: Fetched | None) -> None:
        progress = self._telling(number)
        start = time.perf_counter()
        task = Task(
            fetched.path if fetched is not None else order.path,
            fetched.file if fetched is not None else order.file,
            folder,
            self._recipes(order),
            order.origin if isinstance(order.origin, Appended) else None,
            self._appended_from(order.origin),
        )
        read = read_apart(task, progress, stop)
        seconds = time.perf_counter() - start
        progress("Finding how tables join", 0.95)
        # What was acknowledged is kept, also where the database is away for a moment.
        names = patiently(lambda: self._record(number, read, folder, order, seconds))
        if order.rereads is not None:
            self._tell(number, status="done", what="Read again", share=1.0, tables=(order.rereads,))
        elif order.replaces is not None:
            self._tell(number, status="done", what="Ready to take its place", share=1.0, replacement=number)
        else:
            self._codes_as_text(names, progress, stop)
            self._tell(number, status="done", what=f"Read as {', '.join(names)}", share=1.0, tables=tuple(names))

    def _record(self, number: str, read: Read, folder: Path, order: Order, seconds: float) -> list[str]:
        """Keep what was read; the names of the tables that are new."""
        if order.rereads is not None:
            self.workspace.keep_reread(order.rereads, read, folder, order.recipe, seconds, number)
            return []
        if order.replaces is not None:
            self.workspace.stage(number, order.replaces, read, folder, order.origin, order.secret, seconds)
            return []
        return self.workspace.keep(read, folder, order.origin, order.secret, seconds, order.descriptions, ended=number)

    def _codes_as_text(self, new: Sequence[str], progress: Progress, stop: Stop) -> None:
        """Read tables again whose codes are numbers there and text in another table, of which one is new, so that they meet."""
        for name, columns in self.workspace.codes_to_be_text(new).items():
            stored = self.workspace.stored_table(name)
            types = {**dict.fromkeys(columns, Type.TEXT), **stored.recipe.types}
            recipe = stored.recipe.model_copy(update={"types": types})
            if recipe == stored.recipe or isinstance(stored.origin, Appended):
                # A person has said what it is, or it is made of others.
                continue
            folder, start = self.workspace.new_folder(), time.perf_counter()
            task = Task(stored.original, stored.reading.file, folder, {stored.reading.part: recipe}, None, {})
            try:
                read = read_apart(task, progress, stop)
                took = time.perf_counter() - start
                patiently(functools.partial(self.workspace.keep_reread, name, read, folder, recipe, took))
            except (UnreadableFile, Cancelled):
                # The table stays as it was.
                log.exception("%s could not be read again with its codes as text", name)
                shutil.rmtree(folder, ignore_errors=True)
            finally:
                self.workspace.filled(folder)

    def _recipes(self, order: Order) -> Mapping[str, Recipe]:
        if order.rereads is not None:
            return {self.workspace.stored_table(order.rereads).reading.part: order.recipe}
        if order.replaces is not None:
            before = self.workspace.stored_table(order.replaces)
            return {before.reading.part: before.recipe}
        return {}

    def _appended_from(self, origin: Origin) -> Mapping[str, Path]:
        return self.workspace.parquet if isinstance(origin, Appended) else {}
