"""`gumption start`: the private database, the demo, and the server, until Ctrl-C."""

from __future__ import annotations

import datetime as dt
import json
import logging
import os
import shutil
import socket
import sys
import tempfile
from pathlib import Path

import uvicorn

from gumption.engines.limits import Limits
from gumption.server.app import Settings, create_app
from gumption.server.workspace import Workspace
from gumption.store.private_server import DatabaseUnavailable, PrivateServer
from gumption.store.records import Records

DEMO_TITLE, DEMO_DAY = "Brackenfold Vets", dt.date(2026, 10, 31)
DEMO_ORDER = ("visits.csv", "animals.csv", "owners.csv", "vets.csv", "clinics.csv", "budget_2026.xlsx", "supplies.csv")


def home() -> Path:
    """The repository's folder."""
    return Path(os.environ.get("GUMPTION_HOME", Path(__file__).resolve().parents[3]))


def load_demo(workspace: Workspace, demo: Path) -> None:
    """Read the demo's files into an empty workspace."""
    descriptions: dict[str, object] = json.loads((demo.parent / "columns.json").read_text())
    with tempfile.TemporaryDirectory() as scratch:
        for name in DEMO_ORDER:
            copy = Path(scratch) / name
            shutil.copy(demo / name, copy)
            workspace.add_file(copy, name, lambda _what, _share: None, descriptions)


def open_workspace(records: Records, folder: Path, demo: Path, limits: Limits) -> Workspace:
    """The workspace of a data folder, with the demo in it where it is new."""
    records.migrate()
    made = records.open_workspace(DEMO_TITLE, DEMO_DAY)
    workspace = Workspace(records, folder, limits)
    if made:
        load_demo(workspace, demo)
    workspace.prepare()
    return workspace


def _port_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
        return True


def serve(
    port: int, data: str | None, upload_limit: float, folders: list[str], inner_addresses: bool, limits: Limits
) -> int:
    """Serve until interrupted; files may have `upload_limit` gigabytes. 1 where it could not start, with one line that says why."""
    logging.basicConfig(level=logging.WARNING, format="%(levelname)s %(name)s: %(message)s")
    if not _port_free(port):
        sys.stderr.write(
            f"gumption: port {port} is taken; stop what uses it, or choose another with --port {port + 1}\n"
        )
        return 1
    folder = Path(data) if data else home() / ".data"
    database = PrivateServer(folder)
    try:
        try:
            records = Records(database.start())
        except DatabaseUnavailable as error:
            sys.stderr.write(f"gumption: {error}\n")
            return 1
        workspace = open_workspace(records, folder, home() / "demo" / "data", limits)
        app = create_app(
            workspace,
            Settings(
                folder,
                home() / "web" / "dist",
                int(upload_limit * 1e9),
                tuple(Path(f).resolve() for f in folders),
                inner_addresses,
            ),
        )
        print(f"Gumption is at http://127.0.0.1:{port}  (Ctrl-C stops it)", flush=True)
        uvicorn.run(app, host="127.0.0.1", port=port, log_level="warning")
    finally:
        database.stop()
    return 0
