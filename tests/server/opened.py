"""A shelf over a real database with one workspace in it, and a client of the application over it."""

from __future__ import annotations

import base64
import tempfile
import unittest
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from gumption.engines.limits import Limits
from gumption.intake.sources import Allowed
from gumption.server.app import Settings, create_app
from gumption.server.shelf import House, Shelf
from gumption.store.records import Records
from tests.databases import mariadb
from tests.support import DEMO

TUS = {"Tus-Resumable": "1.0.0"}
AT = "/api/v1/workspaces/1"
"""Where the first workspace is."""


def shelf_with(
    case: type[unittest.TestCase],
    files: dict[str, str],
    limits: Limits | None = None,
    allowed: Allowed | None = None,
) -> Shelf:
    """A shelf whose first workspace has these files, by their names; it lasts as long as the tests of the class run."""
    scratch = tempfile.TemporaryDirectory()
    case.addClassCleanup(scratch.cleanup)
    folder = Path(scratch.name)
    records = Records(mariadb(case))
    records.migrate()
    (folder / "data").mkdir()
    shelf = Shelf(records, House(folder / "data", DEMO / "data", limits or Limits(), allowed or Allowed()))
    workspace = shelf.room(shelf.shelved.make("Test")).workspace
    for name, text in files.items():
        (folder / name).write_text(text)
        workspace.add_file(folder / name, name, lambda _what, _share: None)
    return shelf


def client_of(case: type[unittest.TestCase], shelf: Shelf, settings: Settings | None = None) -> TestClient:
    """A client that gets answers where an error would be raised, as a person does."""
    app = create_app(shelf, settings)
    client = TestClient(app, base_url="http://127.0.0.1", raise_server_exceptions=False)
    client.__enter__()
    case.addClassCleanup(client.__exit__, None, None, None)
    return client


def announced(client: TestClient, at: str, name: str, size: int, replaces: str = "") -> Any:
    """The answer to a file announced by the tus protocol."""
    told = {"filename": name, **({"replaces": replaces} if replaces else {})}
    metadata = ",".join(f"{k} {base64.b64encode(v.encode()).decode()}" for k, v in told.items())
    return client.post(f"{at}/uploads", headers={**TUS, "Upload-Length": str(size), "Upload-Metadata": metadata})


def piece_sent(client: TestClient, place: str, offset: int, content: bytes) -> Any:
    """The answer to a piece of it."""
    headers = {**TUS, "Upload-Offset": str(offset), "Content-Type": "application/offset+octet-stream"}
    return client.patch(place, content=content, headers=headers)
