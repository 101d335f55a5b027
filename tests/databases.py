"""Real databases for a test, each on a free port of the loopback and gone when the test is."""

from __future__ import annotations

import os
import shutil
import subprocess
import tempfile
import time
import unittest
from pathlib import Path
from typing import Any

import psycopg

from gumption.store.private_server import Address, PrivateServer, free_port

_INITDB, _POSTGRES = shutil.which("initdb"), shutil.which("postgres")
POSTGRES_HERE = bool(_INITDB and _POSTGRES)
POSTGRES_LOGIN: dict[str, Any] = {"host": "127.0.0.1", "user": "keeper", "dbname": "postgres", "password": "sesame"}

Case = unittest.TestCase | type[unittest.TestCase]


def _at_end(case: Case, work: Any, *given: Any) -> None:
    if isinstance(case, type):
        case.addClassCleanup(work, *given)
    else:
        case.addCleanup(work, *given)


def _folder(case: Case) -> Path:
    folder = Path(tempfile.mkdtemp())
    _at_end(case, lambda: shutil.rmtree(folder, ignore_errors=True))
    return folder


def mariadb(case: Case) -> Address:
    """A MariaDB that runs until the test, or its class, is over."""
    server = PrivateServer(_folder(case))
    address = server.start()
    _at_end(case, server.stop)
    return address


def postgres(case: Case) -> int:
    """The port of a PostgreSQL that runs until the test, or its class, is over; POSTGRES_LOGIN reaches it."""
    port, base = free_port(), _folder(case)
    password = base / "password"
    password.write_text(POSTGRES_LOGIN["password"])
    password.chmod(0o644)
    # The server refuses to run as root, so that it runs as the user its package made.
    root = os.geteuid() == 0
    if root:
        shutil.chown(base, "postgres")
    quiet: dict[str, Any] = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL, "cwd": base}
    if root:
        quiet["user"] = "postgres"
    make = [str(_INITDB), "-D", str(base / "data"), "-U", "keeper", "-A", "scram-sha-256", f"--pwfile={password}"]
    subprocess.run([*make, "--locale=C.UTF-8", "--encoding=UTF8"], check=True, **quiet)
    run = [str(_POSTGRES), "-D", str(base / "data"), "-p", str(port), "-k", str(base), "-h", "127.0.0.1"]
    server = subprocess.Popen(run, **quiet)
    _at_end(case, server.wait)
    _at_end(case, server.terminate)
    for _ in range(200):
        try:
            with psycopg.connect(port=port, **POSTGRES_LOGIN):
                return port
        except psycopg.OperationalError:
            time.sleep(0.1)
    raise AssertionError("PostgreSQL did not start")
