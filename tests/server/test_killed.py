"""A server killed at any moment of an upload or a reading: the workspace is as before or after, never between."""

from __future__ import annotations

import base64
import os
import random
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

import httpx

from gumption.store.private_server import free_port
from tests.support import HOME

KILLS = 20
ROWS = 40_000
CONTENT = (
    "visit,day,clinic,fee\n" + "".join(f"V{i},2025-{1 + i % 12:02d}-05,C{i % 9},{i % 90}.50\n" for i in range(ROWS))
).encode()
SERVER = """
import sys, uvicorn
from pathlib import Path
from gumption.server.app import Settings, create_app
from gumption.server.workspace import Workspace
from gumption.store.private_server import PrivateServer
from gumption.store.records import Records
folder = Path(sys.argv[2])
records = Records(PrivateServer(folder).start())
records.migrate()
records.open_workspace("Test", None)
uvicorn.run(create_app(Workspace(records, folder), Settings(folder, None)), port=int(sys.argv[1]), log_level="error")
"""
TUS = {"Tus-Resumable": "1.0.0"}
PIECE = 250_000


class Killed(unittest.TestCase):
    def setUp(self) -> None:
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)
        self.process: subprocess.Popen[bytes] | None = None
        self.addCleanup(self.kill)

    def start(self) -> None:
        # Between the choice of a port and its use another may take it: then another is chosen.
        for _ in range(3):
            if self.started():
                return
            self.kill()
        raise AssertionError("the server did not start")

    def started(self) -> bool:
        self.port = free_port()
        environment = {**os.environ, "PYTHONPATH": str(HOME / "src")}
        self.process = subprocess.Popen(
            [sys.executable, "-c", SERVER, str(self.port), str(self.folder)], env=environment
        )
        self.address = f"http://127.0.0.1:{self.port}/api/v1"
        for _ in range(600):
            try:
                httpx.get(f"{self.address}/jobs", timeout=2)
                return True
            except httpx.HTTPError:
                time.sleep(0.05)
            if self.process.poll() is not None:
                break
        return False

    def kill(self) -> None:
        if self.process is not None:
            self.process.send_signal(signal.SIGKILL)
            self.process.wait()
            self.process = None

    def tables(self) -> dict[str, int]:
        found = httpx.get(f"{self.address}/workspace", timeout=20).json()["tables"]
        return {t["table"]["name"]: t["table"]["rows"] for t in found}

    def upload(self, name: str, until: float) -> None:
        """Send a file and follow its reading, until the moment comes to be killed."""
        name64 = base64.b64encode(name.encode()).decode()
        with httpx.Client(timeout=10) as client:
            headers = {**TUS, "Upload-Length": str(len(CONTENT)), "Upload-Metadata": f"filename {name64}"}
            place = client.post(f"{self.address}/uploads", headers=headers).headers["Location"]
            for offset in range(0, len(CONTENT), PIECE):
                if time.perf_counter() > until:
                    return
                headers = {**TUS, "Upload-Offset": str(offset), "Content-Type": "application/offset+octet-stream"}
                piece = CONTENT[offset : offset + PIECE]
                time.sleep(0.05)
                client.patch(f"http://127.0.0.1:{self.port}{place}", content=piece, headers=headers)
        while time.perf_counter() < until:
            time.sleep(0.005)

    def settled(self) -> dict[str, int]:
        """The tables once every reading has ended."""
        for _ in range(400):
            jobs = httpx.get(f"{self.address}/jobs", timeout=20).json()
            if all(j["status"] not in ("waiting", "reading") for j in jobs):
                return self.tables()
            time.sleep(0.05)
        raise AssertionError("the readings did not end")

    def test_at_twenty_moments(self) -> None:
        chance = random.Random(7)
        self.start()
        before = self.tables()
        outcomes = set()
        for number in range(KILLS):
            moment = time.perf_counter() + chance.uniform(0.02, 1.8)
            self.upload(f"sent{number}.csv", moment)
            self.kill()
            self.start()
            # A file that had come whole is read after the restart; one that had not waits for the rest of it.
            after = self.settled()
            new = {n: r for n, r in after.items() if n not in before}
            self.assertIn(list(new.values()), ([], [ROWS]), number)
            self.assertEqual({n: after[n] for n in before}, before)
            outcomes.add(len(new))
            folders = {p.name for p in (self.folder / "tables").iterdir()}
            self.assertEqual(len(folders), len(after), "one folder for each file that was read, and no stray one")
            for name in new:
                httpx.delete(f"{self.address}/tables/{name}", timeout=20)
        self.assertEqual(outcomes, {0, 1}, "moments before and after were both met")
