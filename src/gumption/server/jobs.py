"""Files being read in the background, a few at a time."""

from __future__ import annotations

import logging
import threading
import uuid
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

from gumption.intake.errors import UnreadableFile
from gumption.server.schemas import FileProgress, JobOut
from gumption.server.workspace import Workspace

log = logging.getLogger(__name__)
_MOST_JOBS = 200


@dataclass
class _Job:
    files: list[FileProgress] = field(default_factory=list)


class Jobs:
    """Reads uploaded files into the workspace and tells how far each is."""

    def __init__(self, workspace: Workspace) -> None:
        self.workspace = workspace
        self._pool = ThreadPoolExecutor(2, "intake")
        self._jobs: dict[str, _Job] = {}
        self._lock = threading.Lock()

    def start(self, files: list[tuple[Path, str]], refused: list[FileProgress]) -> JobOut:
        """Read the files, each from where it was put; `refused` ones are only told of."""
        number = uuid.uuid4().hex
        waiting = [FileProgress(file=name, status="waiting", what="Waiting", share=0) for _, name in files]
        with self._lock:
            while len(self._jobs) >= _MOST_JOBS:
                self._jobs.pop(next(iter(self._jobs)))
            self._jobs[number] = _Job([*waiting, *refused])
        for place, (path, name) in enumerate(files):
            self._pool.submit(self._read, number, place, path, name)
        found = self.get(number)
        assert found is not None
        return found

    def get(self, number: str) -> JobOut | None:
        with self._lock:
            job = self._jobs.get(number)
            if job is None:
                return None
            files = list(job.files)
        return JobOut(id=number, files=files, finished=all(f.status in ("done", "failed") for f in files))

    def close(self) -> None:
        self._pool.shutdown(wait=True, cancel_futures=True)

    def _tell(self, number: str, place: int, **changes: object) -> None:
        with self._lock:
            files = self._jobs[number].files
            files[place] = files[place].model_copy(update=changes)

    def _read(self, number: str, place: int, path: Path, name: str) -> None:
        def progress(what: str, share: float) -> None:
            self._tell(number, place, status="reading", what=what, share=share)

        try:
            tables = self.workspace.add_file(path, name, progress)
            self._tell(number, place, status="done", what=f"Read as {', '.join(tables)}", share=1.0)
        except UnreadableFile as error:
            self._tell(
                number, place, status="failed", problem=f"{error.problem[0].upper()}{error.problem[1:]} {error.advice}"
            )
        except Exception:
            log.exception("reading %s failed", name)
            self._tell(
                number,
                place,
                status="failed",
                problem="It could not be read because of a fault of ours; the log has the details. Nothing else was changed.",
            )
        finally:
            path.unlink(missing_ok=True)
