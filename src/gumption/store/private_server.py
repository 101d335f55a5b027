"""A MariaDB of our own: its data in a folder of ours, on a free port of the loopback, gone when we are."""

from __future__ import annotations

import ctypes
import fcntl
import logging
import os
import secrets
import shutil
import signal
import socket
import subprocess
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import IO

log = logging.getLogger(__name__)

_START_SECONDS = 40.0
_ROOM = 20_000_000
"""Bytes without which no database starts."""
_STOP_SECONDS = 30.0
_AGAIN = (0.0, 0.5, 1.0, 2.0, 5.0)
"""Seconds before it is started again, the more the oftener it ended; then the last for ever."""
_LASTED = 60.0
"""Seconds after which a database has run well, and a next end of it is a first one again."""
_PR_SET_PDEATHSIG = 1
USER = "gumption"


class DatabaseUnavailable(Exception):
    """The private database could not be started; says what to do."""


@dataclass(frozen=True)
class Address:
    """Where the database listens. The password never shows in a print."""

    port: int
    password: str = field(repr=False)
    host: str = "127.0.0.1"
    user: str = USER
    database: str = "gumption"


def _die_with_parent() -> None:
    # prctl(2): the kernel ends the database when we end, however we end.
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)


def free_port() -> int:
    """A port of the loopback that nobody uses just now."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def running_at(folder: Path) -> Address | None:
    """Where the database of a data folder listens, if one runs there."""
    try:
        with (folder / "lock").open("r") as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except BlockingIOError:
                return Address(int((folder / "port").read_text()), (folder / "password").read_text())
    except (FileNotFoundError, ValueError):
        return None
    return None


class PrivateServer:
    """Start, stop and reach one MariaDB over one data folder; the folder is locked while it runs.

    Where it ends without being asked to, it is started again at the same address.
    """

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self._process: subprocess.Popen[bytes] | None = None
        self._lock: IO[str] | None = None
        self._watcher: threading.Thread | None = None
        self._ending = threading.Event()

    def start(self) -> Address:
        """Start it and wait until it answers. Raises DatabaseUnavailable."""
        self.folder.mkdir(parents=True, exist_ok=True)
        self._take_lock()
        program = shutil.which("mariadbd")
        if program is None:
            raise DatabaseUnavailable("MariaDB is not installed; run: sudo apt-get install -y mariadb-server")
        data = self.folder / "mariadb"
        output = self.folder / "mariadb.log"
        if not (data / "mysql").is_dir():
            self._create(data, output)
        address = Address(free_port(), self._password())
        (self.folder / "port").write_text(str(address.port))
        begin = self.folder / "begin.sql"
        begin.touch(mode=0o600)
        begin.write_text(
            "CREATE DATABASE IF NOT EXISTS gumption CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;\n"
            f"CREATE OR REPLACE USER '{USER}'@'127.0.0.1' IDENTIFIED BY '{address.password}';\n"
            f"GRANT ALL ON gumption.* TO '{USER}'@'127.0.0.1';\n"
        )
        # Sockets have short paths only, so the file goes where they are short.
        arguments = [
            program,
            "--no-defaults",
            f"--datadir={data}",
            f"--port={address.port}",
            "--bind-address=127.0.0.1",
            f"--socket=/tmp/gumption-{os.getpid()}-{address.port}.sock",
            f"--init-file={begin}",
            "--skip-name-resolve",
            "--skip-log-bin",
            "--innodb-buffer-pool-size=64M",
            "--max-allowed-packet=256M",
            f"--pid-file={self.folder / 'mariadb.pid'}",
            *(["--user=root"] if os.getuid() == 0 else []),
        ]
        started = threading.Event()
        # The kernel ends the database with the thread that began it: so that is the one that watches over it.
        self._watcher = threading.Thread(target=self._watch, args=(arguments, output, started), daemon=True)
        self._watcher.start()
        started.wait()
        self._wait(address, output)
        return address

    def stop(self) -> None:
        """Stop it in order, and let go of the folder."""
        self._ending.set()
        if self._process is not None:
            self._process.terminate()
        if self._watcher is not None:
            self._watcher.join(_STOP_SECONDS)
            if self._watcher.is_alive() and self._process is not None:
                self._process.kill()
                self._watcher.join()
            self._watcher = None
        if self._lock is not None:
            self._lock.close()
            self._lock = None

    def _watch(self, arguments: list[str], output: Path, started: threading.Event) -> None:
        """Run it, and again whenever it ends unasked; what was recorded stands in its own log of changes."""
        ended = 0
        while not self._ending.wait(_AGAIN[min(ended, len(_AGAIN) - 1)]):
            began = time.monotonic()
            with output.open("ab") as stream:
                process = subprocess.Popen(
                    arguments, stdout=stream, stderr=stream, preexec_fn=_die_with_parent, start_new_session=True
                )
            self._process = process
            started.set()
            if self._ending.is_set():
                process.terminate()
            process.wait()
            if not self._ending.is_set():
                ended = 1 if time.monotonic() - began > _LASTED else ended + 1
                log.error("the database ended by itself (%s); it is started again", process.returncode)

    def _take_lock(self) -> None:
        self._lock = (self.folder / "lock").open("w")
        deadline = time.monotonic() + 5
        while True:
            try:
                fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
                return
            except BlockingIOError as error:
                if time.monotonic() > deadline:
                    self._lock.close()
                    self._lock = None
                    raise DatabaseUnavailable(
                        f"another Gumption is running on {self.folder}; stop it, or give this one its own folder with --data"
                    ) from error
                time.sleep(0.2)

    def _create(self, data: Path, log: Path) -> None:
        shutil.rmtree(data, ignore_errors=True)
        with log.open("ab") as output:
            done = subprocess.run(
                [
                    "mariadb-install-db",
                    "--no-defaults",
                    f"--datadir={data}",
                    "--skip-test-db",
                    "--auth-root-authentication-method=socket",
                    *(["--user=root"] if os.getuid() == 0 else []),
                ],
                stdout=output,
                stderr=output,
                check=False,
            )
        if done.returncode:
            shutil.rmtree(data, ignore_errors=True)
            raise DatabaseUnavailable(f"the database folder could not be made; {log} says why")

    def _password(self) -> str:
        path = self.folder / "password"
        if not path.exists():
            path.touch(mode=0o600)
            path.write_text(secrets.token_hex(16))
        return path.read_text()

    def _wait(self, address: Address, output: Path) -> None:
        deadline = time.monotonic() + _START_SECONDS
        while time.monotonic() < deadline:
            if self._process is None or self._process.poll() is not None:
                break
            try:
                socket.create_connection((address.host, address.port), timeout=1).close()
                return
            except OSError:
                time.sleep(0.05)
        self.stop()
        if shutil.disk_usage(self.folder).free < _ROOM:
            raise DatabaseUnavailable(f"the disk that {self.folder} is on is full; make room, then start again")
        raise DatabaseUnavailable(f"the database did not start; {output} says why")
