"""A workspace over a real database with files in it, and a client of the application over it."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

from fastapi.testclient import TestClient

from gumption.engines.limits import Limits
from gumption.server.app import Settings, create_app
from gumption.server.workspace import Workspace
from gumption.store.records import Records
from tests.databases import mariadb


def workspace_with(case: type[unittest.TestCase], files: dict[str, str], limits: Limits | None = None) -> Workspace:
    """A workspace with these files, by their names; it lasts as long as the tests of the class run."""
    scratch = tempfile.TemporaryDirectory()
    case.addClassCleanup(scratch.cleanup)
    folder = Path(scratch.name)
    records = Records(mariadb(case))
    records.migrate()
    records.open_workspace("Test", None)
    workspace = Workspace(records, folder / "data", limits)
    for name, text in files.items():
        (folder / name).write_text(text)
        workspace.add_file(folder / name, name, lambda _what, _share: None)
    return workspace


def client_of(case: type[unittest.TestCase], workspace: Workspace, settings: Settings) -> TestClient:
    """A client that gets answers where an error would be raised, as a person does."""
    app = create_app(workspace, settings)
    client = TestClient(app, base_url="http://127.0.0.1", raise_server_exceptions=False)
    client.__enter__()
    case.addClassCleanup(client.__exit__, None, None, None)
    return client
