"""`gumption start`: the private database, the demo, and the server, until Ctrl-C."""

from __future__ import annotations

import os
import re
import resource
import shutil
import signal
import socket
import sys
import tempfile
from collections.abc import Callable
from contextlib import ExitStack
from dataclasses import dataclass
from pathlib import Path
from types import FrameType

import uvicorn

from gumption.engines.limits import Limits
from gumption.feed.service import feed_beside
from gumption.intake.sources import Allowed
from gumption.server.app import Settings, create_app
from gumption.server.clockwork import Clockwork
from gumption.server.listening import PatientOnlySoLong
from gumption.server.log import keep_log
from gumption.server.shelf import House, Shelf
from gumption.server.workers import Processes
from gumption.store.private_server import DatabaseUnavailable, PrivateServer
from gumption.store.records import Records


class CannotStart(Exception):
    """The server cannot start as it was told to; says why in one line."""


def home() -> Path:
    """The repository's folder."""
    return Path(os.environ.get("GUMPTION_HOME", Path(__file__).resolve().parents[3]))


def _port_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
        return True


@dataclass(frozen=True)
class Serving:
    """What `gumption start` was told."""

    port: int
    data: str | None
    upload_limit: float
    """Gigabytes of a file that is sent."""
    folders: tuple[str, ...]
    inner_addresses: bool
    hosts: tuple[str, ...]
    frames: tuple[str, ...]
    feed: str | None
    """The address of a feed of series; None for the stand-in."""
    limits: Limits


class _Server(uvicorn.Server):
    """Ends in order at the first signal, and at once at the second."""

    def __init__(self, config: uvicorn.Config, ending: Callable[[], None]) -> None:
        super().__init__(config)
        self._ending = ending

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        if self.should_exit:
            _end_at_once()
        # Work in threads would hold up the end of the requests that wait for it.
        self._ending()
        super().handle_exit(sig, frame)


def _end_at_once(*_: object) -> None:
    """The kernel ends the database and the readings with us; what was acknowledged is recorded."""
    os._exit(130)


def _interrupted(*_: object) -> None:
    raise KeyboardInterrupt


def _sweep_leftovers() -> None:
    """Take away what programs of ours that were killed left in the system's folder; their number stands in the name."""
    for left in Path(tempfile.gettempdir()).glob("gumption-*"):
        made = re.match(r"gumption-(?:spill-)?(\d+)-", left.name)
        if made is None or Path("/proc", made[1]).exists():
            continue
        if left.is_dir():
            shutil.rmtree(left, ignore_errors=True)
        else:
            left.unlink(missing_ok=True)


def serve(told: Serving) -> int:
    """Serve until interrupted; 1 where it could not start, with one line that says why."""
    try:
        return _serve(told)
    except (DatabaseUnavailable, CannotStart) as error:
        sys.stderr.write(f"gumption: {error}\n")
    except OSError as error:
        where = error.filename or "the folder"
        sys.stderr.write(f"gumption: {where} cannot be used: {error.strerror}; choose another folder with --data\n")
    return 1


def _serve(told: Serving) -> int:
    if not 0 < told.port < 65_536:
        raise CannotStart(f"{told.port} is no port; choose one between 1 and 65535")
    if not _port_free(told.port):
        raise CannotStart(f"port {told.port} is taken; stop what uses it, or choose another with --port")
    # Nobody else on this machine reads what is kept here.
    os.umask(0o077)
    # Connections that say nothing yet are to take no place from those that do.
    most = resource.getrlimit(resource.RLIMIT_NOFILE)[1]
    resource.setrlimit(resource.RLIMIT_NOFILE, (most, most))
    folder = Path(told.data) if told.data else home() / ".data"
    folder.mkdir(parents=True, exist_ok=True)
    folder.chmod(0o700)
    _sweep_leftovers()
    signal.signal(signal.SIGTERM, _interrupted)
    database = PrivateServer(folder)
    workers: Processes | None = None
    beside = ExitStack()
    try:
        records = Records(database.start())
        keep_log(folder / "logs")
        records.migrate()
        workers = Processes(os.cpu_count() or 2)
        allowed = Allowed(
            tuple(Path(f).resolve() for f in told.folders),
            told.inner_addresses,
            int(told.upload_limit * 1e9),
            told.feed or beside.enter_context(feed_beside()),
        )
        shelf = Shelf(records, House(folder, home() / "demo" / "data", told.limits, allowed), workers.of)
        shelf.begin()
        clockwork = Clockwork(shelf)
        clockwork.start()
        beside.callback(clockwork.close)
        app = create_app(shelf, Settings(home() / "web" / "dist", told.hosts, told.frames))
        config = uvicorn.Config(
            app,
            host="127.0.0.1",
            port=told.port,
            http=PatientOnlySoLong,
            ws="none",
            lifespan="on",
            log_config=None,
            access_log=False,
            server_header=False,
            backlog=2048,
            timeout_keep_alive=30,
            timeout_graceful_shutdown=1,
        )
        print(f"Gumption is at http://127.0.0.1:{told.port}  (Ctrl-C stops it)", flush=True)
        _Server(config, app.state.ending).run()
    except KeyboardInterrupt:
        pass
    finally:
        beside.close()
        if workers is not None:
            workers.close()
        signal.signal(signal.SIGINT, _end_at_once)
        signal.signal(signal.SIGTERM, _end_at_once)
        database.stop()
    return 0
