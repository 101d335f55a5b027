"""The private database and the records in it: started, stopped, crashed, and two side by side."""

from __future__ import annotations

import datetime as dt
import json
import os
import signal
import tempfile
import time
import unittest
from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from gumption.store.keeping import CannotKeep, back_up, restore
from gumption.store.private_server import Address, DatabaseUnavailable, PrivateServer
from gumption.store.records import MIGRATIONS, Records, StoreError, TrailEntry, Waiting
from gumption.store.shelf import ShelfRecords

T = TypeVar("T")


def patiently(call: Callable[[], T], seconds: float = 20) -> T:
    """What a call gives as soon as the records can be reached again."""
    deadline = time.monotonic() + seconds
    while True:
        try:
            return call()
        except StoreError:
            if time.monotonic() > deadline:
                raise
            time.sleep(0.05)


class Database(unittest.TestCase):
    def setUp(self) -> None:
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)

    def started(self, folder: Path) -> tuple[PrivateServer, Records]:
        server = PrivateServer(folder)
        self.addCleanup(server.stop)
        records = Records(server.start())
        records.migrate()
        shelved = ShelfRecords(records)
        number = next((w.id for w in shelved.all()), None) or shelved.make("Test", dt.date(2026, 1, 2))
        return server, records.of(number)

    def test_records_outlast_a_stop_and_a_crash(self) -> None:
        server, records = self.started(self.folder / "a")
        self.assertEqual(records.migrate(), [], "applied once")
        first = records.add_to_trail(TrailEntry(0, None, "how many “visits”? 🐕", 0, "answered", 0, "9"))
        records.add_to_trail(TrailEntry(0, first, "only dogs", 1, "declined", 2, "x" * 500))
        server.stop()
        server, records = self.started(self.folder / "a")
        self.assertEqual(records.workspace_settings(), ("Test", dt.date(2026, 1, 2), False))
        entries = records.trail()
        self.assertEqual(
            [(e.question, e.parent, e.choice) for e in entries],
            [("how many “visits”? 🐕", None, 0), ("only dogs", first, 1)],
        )
        self.assertEqual(len(entries[1].summary), 200)
        process = server._process
        assert process is not None
        with self.assertLogs("gumption.store.private_server"), self.assertRaises(StoreError) as caught:
            os.kill(process.pid, signal.SIGKILL)
            process.wait()
            for _ in range(100):
                records.trail()
        self.assertIn("started again", caught.exception.advice)
        self.assertEqual(len(patiently(records.trail)), 2, "it comes back by itself, with all that was recorded")
        server.stop()
        with self.assertRaises(StoreError):
            records.trail()
        _, records = self.started(self.folder / "a")
        self.assertEqual(len(records.trail()), 2)
        records.clear_trail()
        self.assertEqual(records.trail(), [], "also where one question follows another")

    def test_two_folders_run_side_by_side_and_one_folder_only_once(self) -> None:
        _, one = self.started(self.folder / "a")
        _, two = self.started(self.folder / "b")
        one.add_to_trail(TrailEntry(0, None, "here", 0, "answered", 0, ""))
        self.assertEqual(two.trail(), [])
        with self.assertRaises(DatabaseUnavailable) as caught:
            PrivateServer(self.folder / "a").start()
        self.assertIn("--data", str(caught.exception))

    def test_a_backup_while_it_runs_is_put_back(self) -> None:
        server, records = self.started(self.folder / "a")
        table = self.folder / "a" / "workspaces" / "1" / "tables" / "t" / "visits.parquet"
        table.parent.mkdir(parents=True)
        table.write_text("rows")
        asked = "what of “; DROP TABLE trail_entry; --” and \\ 'quotes'?"
        records.add_to_trail(TrailEntry(0, None, asked, None, "answered", 0, ""))
        records.keep_waiting("replacement", Waiting("1" * 32, json.dumps({"path": str(table)})))
        self.assertGreater(back_up(self.folder / "a", self.folder / "kept.tar"), 1_000)
        records.clear_trail()
        restore(self.folder / "kept.tar", self.folder / "b")
        _, again = self.started(self.folder / "b")
        self.assertEqual([e.question for e in again.trail()], [asked])
        there = self.folder / "b" / "workspaces" / "1" / "tables" / "t" / "visits.parquet"
        self.assertEqual(json.loads(again.waiting("replacement")[0].description)["path"], str(there))
        self.assertEqual(there.read_text(), "rows")
        server.stop()
        self.assertGreater(back_up(self.folder / "a", self.folder / "kept.tar"), 1_000, "also when nothing runs")
        for wrong, words in ((self.folder / "kept.tar", "not empty"), (table, "cannot be read as a backup")):
            with self.assertRaises(CannotKeep) as caught:
                restore(wrong, self.folder / ("a" if words == "not empty" else "c"))
            self.assertIn(words, str(caught.exception))

    def test_the_password_never_shows(self) -> None:
        self.assertNotIn("secret", repr(Address(1, "secret")))

    def test_migrations_are_numbered_in_order(self) -> None:
        numbers = [int(p.name.split("_")[0]) for p in sorted(MIGRATIONS.glob("*.sql"))]
        self.assertEqual(numbers, list(range(1, len(numbers) + 1)))
