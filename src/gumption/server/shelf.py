"""The workspaces of this installation: each is taken up when somebody comes to it, and put down when nobody has for a while."""

from __future__ import annotations

import datetime as dt
import json
import shutil
import tempfile
import threading
import time
from collections.abc import AsyncIterator, Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager, nullcontext
from dataclasses import dataclass, field
from pathlib import Path
from typing import Annotated

from anyio.to_thread import run_sync
from fastapi import Depends, Request

from gumption.engines.limits import Limits
from gumption.intake.sources import Allowed
from gumption.server.jobs import Jobs, Places
from gumption.server.problems import ApiProblem
from gumption.server.runs import Runs
from gumption.server.secrets import Secrets
from gumption.server.uploads import Uploads
from gumption.server.workers import Here, Workers
from gumption.server.working import Asking
from gumption.server.workspace import WORTH_ASKING, Workspace, same_file
from gumption.store.folio import FolioRecords
from gumption.store.records import Records
from gumption.store.shelf import ShelfRecords, Shelved

DEMO_TITLE, DEMO_DAY = "Brackenfold Vets", dt.date(2026, 10, 31)
_LONGEST_BASE = 95
"""Letters of a title that a number may stand behind."""
DEMO_ORDER = ("visits.csv", "animals.csv", "owners.csv", "vets.csv", "clinics.csv", "budget_2026.xlsx", "supplies.csv")
SQL_AT_ONCE = 2
"""How many people's own SQL runs at once; the others wait."""
MOST_OPEN = 12
"""Workspaces that stay open although nobody is busy in them."""
REST_SECONDS = 60.0
"""How long nobody must have been busy in a workspace before it is put down."""


@dataclass
class Room:
    """An open workspace with what goes on in it."""

    workspace: Workspace
    jobs: Jobs
    uploads: Uploads
    asking: Asking
    users: int = 0
    """Requests under way in it."""
    used: float = field(default_factory=time.monotonic)

    @property
    def incoming(self) -> Path:
        """The folder of files on their way in."""
        return self.uploads.folder

    def resume(self) -> None:
        """Go on with what a stop of the server held up."""
        self.uploads.resume()
        self.jobs.resume()

    def close(self) -> None:
        """End what is under way; it goes on when the workspace is taken up again."""
        self.jobs.close()
        self.workspace.close()


@dataclass(frozen=True)
class House:
    """What all workspaces share: the folder of their files, and what may be done."""

    folder: Path
    demo: Path
    """The folder of the demo's files, with what their columns mean beside it."""
    limits: Limits
    allowed: Allowed


class Shelf:
    """Opens, makes, copies and deletes workspaces."""

    def __init__(self, records: Records, house: House, workers: Callable[[int], Workers] | None = None) -> None:
        """Questions are worked on by the workers for a workspace's number; without any in this process."""
        self.house, self.runs = house, Runs()
        self._records, self._workers = records, workers or (lambda _number: Here())
        self.shelved = ShelfRecords(records)
        self._secrets = Secrets(house.folder / "secret.key")
        self._places = Places()
        self._sql = ThreadPoolExecutor(SQL_AT_ONCE, "sql")
        self._rooms: dict[int, Room] = {}
        self._lock = threading.Lock()
        self._one_by_one: dict[int, threading.Lock] = {}
        self._into_rooms()

    def _into_rooms(self) -> None:
        """Files stood in the house's folder itself as long as there was one workspace; each has a folder of its own."""
        first = min((w.id for w in self.shelved.all()), default=None)
        for part in ("tables", "incoming"):
            before = self.house.folder / part
            if first is not None and before.exists():
                after = self.folder_of(first) / part
                self.shelved.files_moved(first, before, after)
                after.parent.mkdir(parents=True, exist_ok=True)
                before.rename(after)

    def records_of(self, number: int) -> Records:
        """The records of a workspace."""
        return self._records.of(number)

    def folder_of(self, number: int) -> Path:
        """The folder of a workspace's files."""
        return self.house.folder / "workspaces" / str(number)

    # -- taking up and putting down ----------------------------------------------------------

    def begin(self) -> None:
        """Have a workspace, go on with what was under way in any, and take up the one that was opened last."""
        if not self.shelved.all():
            self.make_demo()
        for number in self.shelved.with_work():
            self.room(number)
        latest = next((w.id for w in self.shelved.all() if not w.archived), None)
        if latest is not None:
            self.room(latest)

    def open_room(self, number: int) -> Room | None:
        """The workspace where it is open."""
        room = self._rooms.get(number)
        if room is not None:
            room.used = time.monotonic()
        return room

    def open_rooms(self) -> list[Room]:
        """The workspaces that are open."""
        with self._lock:
            return list(self._rooms.values())

    def room(self, number: int) -> Room:
        """The workspace, taken up where it is not open. Raises ApiProblem where there is none."""
        with self._alone(number):
            room = self.open_room(number)
            if room is None:
                room = self._taken_up(number)
        self._put_down_idle(number)
        return room

    def _taken_up(self, number: int) -> Room:
        if not self.shelved.exists(number):
            raise ApiProblem(404, "There is no such workspace.", "It may have been deleted; see which there are.")
        folder = self.folder_of(number)
        folder.mkdir(parents=True, exist_ok=True)
        workspace = Workspace(self.records_of(number), folder, self.house.limits, self._workers(number), self._secrets)
        jobs = Jobs(workspace, self.house.allowed, self._places)
        uploads = Uploads(workspace.records, jobs, folder / "incoming", self.house.allowed.most_bytes)
        room = Room(workspace, jobs, uploads, Asking(workspace, self.runs, self._sql))
        with self._lock:
            self._rooms[number] = room
        room.resume()
        workspace.prepare()
        return room

    @contextmanager
    def _alone(self, number: int) -> Iterator[None]:
        """One at a time opens, closes or deletes a workspace."""
        with self._lock:
            lock = self._one_by_one.setdefault(number, threading.Lock())
        with lock:
            yield

    def _put_down_idle(self, but: int) -> None:
        """Close those that nobody has been busy in for a while, the longest first, where too many are open."""
        with self._lock:
            now = time.monotonic()
            idle = sorted(
                (room.used, number)
                for number, room in self._rooms.items()
                if number != but and not room.users and now - room.used > REST_SECONDS and not room.jobs.busy
            )
            gone = [self._rooms.pop(number) for _, number in idle[: max(len(self._rooms) - MOST_OPEN, 0)]]
        for room in gone:
            room.close()

    def put_down(self, number: int) -> None:
        """Close a workspace where it is open."""
        with self._lock:
            room = self._rooms.pop(number, None)
        if room is not None:
            room.close()

    def close(self) -> None:
        """Close all."""
        with self._lock:
            rooms, self._rooms = list(self._rooms.values()), {}
        for room in rooms:
            room.jobs.close()
        self._places.close()
        for room in rooms:
            room.workspace.close()

    # -- making and deleting -----------------------------------------------------------------

    def known(self, number: int) -> Shelved:
        """A workspace among the others. Raises ApiProblem where there is none."""
        found = self.shelved.one(number)
        if found is None:
            raise ApiProblem(404, "There is no such workspace.", "It may have been deleted; see which there are.")
        return found

    def free_title(self, title: str) -> str:
        """The title itself, or with the first number from 2 behind it that no other workspace has: two are told apart."""
        taken = {w.title.casefold() for w in self.shelved.all()}
        free, copy = title, 2
        while free.casefold() in taken:
            free, copy = f"{title[:_LONGEST_BASE]} ({copy})", copy + 1
        return free

    def make_demo(self, title: str | None = None) -> int:
        """The demo as it was made, in a workspace of its own, called by a free title where none is given; its number."""
        number = self.shelved.make(title or self.free_title(DEMO_TITLE), DEMO_DAY, demo=True)
        workspace = self.room(number).workspace
        descriptions: dict[str, object] = json.loads((self.house.demo.parent / "columns.json").read_text())
        with tempfile.TemporaryDirectory() as scratch:
            for name in DEMO_ORDER:
                copy = Path(scratch) / name
                shutil.copy(self.house.demo / name, copy)
                workspace.add_file(copy, name, lambda _what, _share: None, descriptions)
        return number

    def demo_afresh(self, number: int) -> int:
        """The demo as it was made in place of what became of it; its number."""
        if not self.known(number).demo:
            raise ApiProblem(409, "This workspace is not the demo.", "Have the demo as a workspace of its own.")
        new = self.make_demo(self.known(number).title)
        self.delete(number)
        return new

    def copy(self, number: int, title: str) -> int:
        """All of a workspace once more, under another name; its number. What is under way there stays behind."""
        self.known(number)
        room = self.open_room(number)
        with self._alone(number), room.workspace.unchanging() if room is not None else nullcontext():
            new = self.shelved.copy(number, self.free_title(title), self.folder_of)
            try:
                for part in ("tables", "pictures"):
                    source, target = (self.folder_of(n) / part for n in (number, new))
                    if source.exists():
                        shutil.copytree(source, target, copy_function=lambda a, b: same_file(Path(a), Path(b)))
                worth = self.folder_of(number) / WORTH_ASKING
                if worth.exists():
                    shutil.copy(worth, self.folder_of(new) / WORTH_ASKING)
                day = self.known(number).as_of or dt.date.today()
                FolioRecords(self.records_of(number)).copy_to(FolioRecords(self.records_of(new)), day)
            except BaseException:
                self.shelved.delete(new)
                shutil.rmtree(self.folder_of(new), ignore_errors=True)
                raise
        return new

    def rename(self, number: int, title: str) -> None:
        """Give a workspace another name."""
        self.known(number)
        self.shelved.rename(number, title)
        room = self.open_room(number)
        if room is not None:
            room.workspace.title = title

    def archive(self, number: int, archived: bool) -> None:
        """Put a workspace away, or take it out again; nothing of it is lost."""
        self.known(number)
        self.shelved.archive(number, archived)

    def delete(self, number: int) -> None:
        """Delete a workspace with all that it has, for good."""
        self.known(number)
        with self._alone(number):
            room = self.open_room(number)
            if room is not None:
                room.jobs.cancel_all()
                self.put_down(number)
            self.shelved.delete(number)
            shutil.rmtree(self.folder_of(number), ignore_errors=True)


async def _at(workspace: int, request: Request) -> AsyncIterator[Room]:
    shelf: Shelf = request.app.state.shelf
    room = shelf.open_room(workspace)
    if room is None:
        room = await run_sync(shelf.room, workspace)
    room.users += 1
    try:
        yield room
    finally:
        room.users -= 1


At = Annotated[Room, Depends(_at)]
"""The workspace that a request names in its path, taken up for it."""
