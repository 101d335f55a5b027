"""Sending, replacing and deleting tables by several people at once, everything removed in between, and the server ended."""

from __future__ import annotations

import os
import random
import signal
import tempfile
import threading
import time
import unittest
from dataclasses import dataclass
from pathlib import Path

import httpx

from tests.faults.house import House
from tests.faults.test_moments import content

STEPS = int(os.environ.get("GUMPTION_AT_ONCE", "24"))
"""More in the long run, which sets it."""
PEOPLE, EACH = 3, 4
"""How many do something at once, and how many things each between two looks."""


@dataclass(frozen=True)
class Known:
    """What was last acknowledged of a table: its rows, or None where it was deleted; and between which times."""

    rows: int | None
    begun: float
    ended: float


class AtOnce(unittest.TestCase):
    def setUp(self) -> None:
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.house = House(Path(scratch.name) / "data")
        self.house.folder.mkdir()
        self.addCleanup(self.house.close)
        self.known: dict[str, Known] = {}
        self.number = 0
        self.failed: list[str] = []

    def test_nothing_acknowledged_is_lost_and_nothing_is_left_over(self) -> None:
        self.house.start()
        self.assertEqual(self.house.ask("DELETE", "contents").status_code, 204)
        chance = random.Random(20261127)
        for phase in range(-(-STEPS // (PEOPLE * EACH))):
            people = [
                threading.Thread(target=self.person, args=(random.Random(f"{phase} {who}"), f"p{who}"))
                for who in range(PEOPLE)
            ]
            for one in people:
                one.start()
            removed = self.remove_all(chance) if phase % 3 == 1 else None
            for one in people:
                one.join()
            self.assertEqual(self.failed, [])
            if phase % 2:
                self.house.end(chance.choice([signal.SIGKILL, signal.SIGTERM]))
                self.house.start()
            self.check(removed, f"phase {phase}")

    def remove_all(self, chance: random.Random) -> tuple[float, float]:
        """Everything is deleted in the middle of it; between which times."""
        time.sleep(chance.uniform(0, 1.5))
        begun = time.monotonic()
        with httpx.Client(timeout=60) as client:
            self.assertEqual(client.delete(f"{self.house.address}/api/v1/workspaces/1/contents").status_code, 204)
        return begun, time.monotonic()

    def person(self, chance: random.Random, who: str) -> None:
        """Some things one after the other, with tables of one's own."""
        try:
            for _ in range(EACH):
                self.step(chance, who)
        except Exception as error:
            self.failed.append(f"{who}: {error!r}")

    def step(self, chance: random.Random, who: str) -> None:
        house, begun = self.house, time.monotonic()
        own = [n for n, k in self.known.items() if n.startswith(who) and k.rows is not None]
        what = chance.choice(["send", "send", "replace", "delete"]) if own else "send"
        if what == "delete":
            name = chance.choice(own)
            # It may be gone by now with everything else, or not be read yet.
            if house.ask("DELETE", f"tables/{name}").status_code == 204:
                self.known[name] = Known(None, begun, time.monotonic())
            return
        rows = chance.choice([7, 900, 30_000])
        data = content(rows)
        if what == "replace":
            name = chance.choice(own)
            number = house.begin_upload("newer.csv", len(data), name)
            if number is None or not house.send(number, data):
                return
            ended = self.ended(number)
            if ended and house.ask("POST", f"replacements/{number}").status_code == 200:
                self.known[name] = Known(rows, begun, time.monotonic())
            return
        self.number += 1
        name = f"{who}_{chance.randrange(10**9)}"
        number = house.begin_upload(f"{name}.csv", len(data))
        if number is not None and house.send(number, data):
            # That it came is acknowledged; it is read now, or after the next start.
            self.known[name] = Known(rows, begun, time.monotonic())
            if chance.random() < 0.7 and self.ended(number):
                self.known[name] = Known(rows, begun, time.monotonic())

    def ended(self, number: str) -> bool:
        """Wait for a reading; False where everything was removed meanwhile."""
        deadline = time.monotonic() + 60
        while time.monotonic() < deadline:
            answer = self.house.ask("GET", f"jobs/{number}")
            if answer.status_code == 404 or answer.json()["status"] in ("cancelled", "failed"):
                return False
            if answer.json()["status"] == "done":
                return True
            time.sleep(0.03)
        raise AssertionError("it was not read")

    def check(self, removed: tuple[float, float] | None, at: str) -> None:
        self.house.settled()
        tables = {n: t["table"]["rows"] for n, t in self.house.tables().items()}
        for name, known in list(self.known.items()):
            there = tables.get(name)
            fates: set[int | None] = {known.rows}
            if removed is not None and known.begun < removed[1]:
                fates = {None} if known.ended < removed[0] else {None, known.rows}
            self.assertIn(there, fates, f"{name}; {at}")
            self.known[name] = Known(there, known.begun, known.ended)
        self.assertEqual(set(tables) - set(self.known), set(), at)
        versions = sum(len(t["versions"]) for t in self.house.tables().values())
        waiting = sum(j["replacement"] is not None for j in self.house.got("jobs"))
        folders = len(list((self.house.folder / "workspaces" / "1" / "tables").iterdir()))
        self.assertEqual(folders, len(tables) + versions + waiting, f"a folder each, and no stray one; {at}")
        self.assertEqual(list((self.house.folder / "workspaces" / "1" / "incoming").iterdir()), [], at)
