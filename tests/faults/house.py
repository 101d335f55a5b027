"""The real server under faults: what a test did to it, and what must be true of it afterwards."""

from __future__ import annotations

import base64
import contextlib
import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

import httpx

from gumption.store.private_server import free_port
from tests.support import HOME

TUS = {"Tus-Resumable": "1.0.0"}
T = TypeVar("T")


class House:
    """One server over one folder, started, ended in every way, and spoken to."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.process: subprocess.Popen[bytes] | None = None
        self.client = httpx.Client(timeout=60)
        self.stalled: list[socket.socket] = []

    # -- starting and ending -----------------------------------------------------------------

    def start(self) -> None:
        # Between the choice of a port and its use another may take it: then another is chosen.
        for _ in range(3):
            self.port = free_port()
            environment = {**os.environ, "PYTHONPATH": str(HOME / "src"), "GUMPTION_HOME": str(HOME)}
            command = [sys.executable, "-m", "gumption", "start", "--port", str(self.port), "--data", str(self.folder)]
            log = (self.folder.parent / "server.log").open("ab")
            self.process = subprocess.Popen(command, env=environment, stdout=log, stderr=log, start_new_session=True)
            log.close()
            self.address = f"http://127.0.0.1:{self.port}"
            for _ in range(1200):
                with contextlib.suppress(httpx.HTTPError):
                    if self.client.get(f"{self.address}/api/v1/workspaces/1/jobs").status_code == 200:
                        return
                if self.process.poll() is not None:
                    break
                time.sleep(0.05)
            self.end(signal.SIGKILL)
        raise AssertionError((self.folder.parent / "server.log").read_text()[-2000:])

    def end(self, by: signal.Signals) -> float:
        """End the server by a signal; the seconds it took."""
        begun = time.monotonic()
        if self.process is not None:
            self.process.send_signal(by)
            self.process.wait(30)
            self.process = None
        self.client.close()
        self.client = httpx.Client(timeout=60)
        return time.monotonic() - begun

    def close(self) -> None:
        for each in self.stalled:
            each.close()
        self.end(signal.SIGKILL)
        self.client.close()

    def end_database(self) -> None:
        os.kill(int((self.folder / "mariadb.pid").read_text()), signal.SIGKILL)

    def stall(self, number: int) -> None:
        """Open connections, begin a request on each, and say no more."""
        for _ in range(number):
            one = socket.create_connection(("127.0.0.1", self.port), timeout=10)
            one.sendall(b"POST /api/v1/workspaces/1/questions HTTP/1.1\r\nHost: 127")
            self.stalled.append(one)

    # -- speaking ----------------------------------------------------------------------------

    def ask(self, method: str, path: str, body: Any = None, **more: Any) -> httpx.Response:
        """A request under the API. Anything but success or a problem in words fails the test."""
        answer = self.client.request(
            method, f"{self.address}/api/v1/workspaces/1{path and f'/{path}'}", json=body, **more
        )
        if answer.status_code >= 400:
            problem = answer.json()["problem"]
            assert problem and "did not foresee" not in problem, f"{method} {path}: {answer.text}"
        return answer

    def patiently(self, call: Callable[[], T | None], seconds: float = 30) -> T:
        """What a call gives once it gives something."""
        deadline = time.monotonic() + seconds
        while time.monotonic() < deadline:
            with contextlib.suppress(httpx.HTTPError):
                found = call()
                if found is not None:
                    return found
            time.sleep(0.05)
        raise AssertionError("it did not come back")

    def got(self, path: str) -> Any:
        """What stands at a path, as soon as it can be told."""

        def call() -> Any:
            answer = self.ask("GET", path)
            return answer.json() if answer.status_code == 200 else None

        return self.patiently(call)

    def begin_upload(self, name: str, size: int, replaces: str = "") -> str | None:
        """Announce a file; where its pieces go."""
        told = [("filename", name), *([("replaces", replaces)] if replaces else [])]
        metadata = ",".join(f"{key} {base64.b64encode(value.encode()).decode()}" for key, value in told)
        headers = {**TUS, "Upload-Length": str(size), "Upload-Metadata": metadata}
        answer = self.ask("POST", "uploads", headers=headers)
        return answer.headers["Location"].rpartition("/")[2] if answer.status_code == 201 else None

    def send(self, upload: str, content: bytes, offset: int = 0) -> bool:
        headers = {**TUS, "Upload-Offset": str(offset), "Content-Type": "application/offset+octet-stream"}
        return self.ask("PATCH", f"uploads/{upload}", content=content, headers=headers).status_code == 204

    def settled(self) -> list[Any]:
        """Every reading, once all have ended."""

        def call() -> list[Any] | None:
            jobs = self.got("jobs")
            return jobs if all(j["status"] not in ("waiting", "reading") for j in jobs) else None

        return self.patiently(call, 60)

    def job(self, number: str) -> Any:
        """A reading, once it has ended."""
        self.settled()
        return self.got(f"jobs/{number}")

    def tables(self) -> dict[str, Any]:
        return {t["table"]["name"]: t for t in self.got("")["tables"]}
