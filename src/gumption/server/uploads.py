"""Files sent piece by piece, by the tus 1.0 protocol (https://tus.io/protocols/resumable-upload): a dropped connection
or a restarted server goes on where it stopped, for how much has come is the length of the file on disk."""

from __future__ import annotations

import threading
import time
import uuid
from pathlib import Path

from fastapi import Request
from starlette.requests import ClientDisconnect

from gumption.server.jobs import Jobs, Order
from gumption.server.problems import ApiProblem
from gumption.store.records import Records, Upload

MOST_IDLE_SECONDS = 24 * 3600.0
"""Seconds after which an upload that nothing comes of is over."""


class Uploads:
    """The uploads under way; a complete one is read at once."""

    def __init__(self, records: Records, jobs: Jobs, folder: Path, limit: int) -> None:
        self.records, self.jobs, self.folder, self.limit = records, jobs, folder, limit
        self._known: dict[str, Upload] = {u.id: u for u in records.uploads()}
        self._busy: set[str] = set()
        self._begun: set[str] = set()
        self._lock = threading.Lock()
        folder.mkdir(parents=True, exist_ok=True)
        ordered = jobs.files()
        for left in folder.iterdir():
            if left.name not in self._known and left not in ordered:
                left.unlink()
        self._sweep()

    def resume(self) -> None:
        """Read what had come whole before a restart; forget what has no file."""
        for upload in list(self._known.values()):
            path = self.folder / upload.id
            if not path.exists():
                self._forget(upload.id)
            elif path.stat().st_size == upload.size:
                self._read(upload)

    def create(self, file: str, size: int, replaces: str | None) -> Upload:
        """Begin an upload. Raises ApiProblem for a name with a path in it, and for too large a file."""
        if not file or "/" in file or "\\" in file or file.startswith(".") or len(file) > 250:
            raise ApiProblem(422, "The file's name has a path in it or is too long.", "Rename it and send it again.")
        if size > self.limit:
            raise ApiProblem(
                413,
                f"The file is larger than {self.limit / 1e9:.3g} GB.",
                "Send a smaller one, or start Gumption with a higher --upload-limit.",
            )
        if replaces is not None:
            try:
                self.jobs.workspace.stored_table(replaces)
            except KeyError as error:
                raise ApiProblem(404, "There is no table of that name to replace.", "Reload the page.") from error
        self._sweep()
        upload = Upload(uuid.uuid4().hex, file, size, replaces)
        (self.folder / upload.id).touch()
        self.records.add_upload(upload)
        self._known[upload.id] = upload
        if size == 0:
            self._read(upload)
        return upload

    def get(self, number: str) -> tuple[Upload, int]:
        """An upload and how many of its bytes have come. Raises ApiProblem where it is not known."""
        upload = self._known.get(number)
        path = self.folder / number
        if upload is None or not path.exists():
            raise ApiProblem(404, "That upload is no longer known.", "Send the file again.")
        return upload, path.stat().st_size

    async def append(self, number: str, offset: int, request: Request) -> int:
        """Add a piece at `offset`; how many bytes have come then. What came before a connection broke is kept."""
        with self._lock:
            if number in self._busy:
                raise ApiProblem(423, "A piece of this file is being sent already.", "Wait a moment, then go on.")
            self._busy.add(number)
        try:
            upload, have = self.get(number)
            if offset != have:
                raise ApiProblem(409, f"The next byte wanted is {have}.", "Ask where to go on, then send from there.")
            with (self.folder / number).open("ab") as stream:
                try:
                    async for piece in request.stream():
                        if have + len(piece) > upload.size:
                            raise ApiProblem(413, "More came than was announced.", "Begin the upload again.")
                        stream.write(piece)
                        have += len(piece)
                except ClientDisconnect:
                    pass
        finally:
            with self._lock:
                self._busy.discard(number)
        if have == upload.size:
            self._read(upload)
        return have

    def remove(self, number: str) -> None:
        """Stop an upload for good, and its reading where that has begun."""
        self.get(number)
        # A reading that has begun forgets the upload when it has stopped.
        if not self.jobs.cancel(number):
            self._forget(number)

    def _sweep(self) -> None:
        """Forget uploads that nobody goes on with."""
        for upload in list(self._known.values()):
            path = self.folder / upload.id
            waits = path.exists() and path.stat().st_size < upload.size and upload.id not in self._busy
            if waits and time.time() - path.stat().st_mtime > MOST_IDLE_SECONDS:
                self._forget(upload.id)

    def _read(self, upload: Upload) -> None:
        with self._lock:
            if upload.id in self._begun:
                return
            self._begun.add(upload.id)
        path = self.folder / upload.id
        self.jobs.start(
            upload.id,
            Order(upload.file, path, replaces=upload.replaces, upload=upload.id),
            done=lambda: self._forget(upload.id),
        )

    def _forget(self, number: str) -> None:
        self._known.pop(number, None)
        self._begun.discard(number)
        self.records.drop_upload(number)
        (self.folder / number).unlink(missing_ok=True)
