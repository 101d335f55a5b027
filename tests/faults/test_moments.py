"""A seeded run of faults at any moment: nothing acknowledged is lost, nothing is there twice, and nothing is left over."""

from __future__ import annotations

import os
import random
import signal
import subprocess
import tempfile
import time
import unittest
from pathlib import Path

import httpx

from tests.faults.house import House

MOMENTS = int(os.environ.get("GUMPTION_MOMENTS", "20"))
"""More in the long run, which sets it."""
MOST_STOP_SECONDS = 5.0
DISK = "700m"
SLOW_SQL = "SELECT count(*) FROM range(100000000) a, range(100000000) b WHERE a.range + b.range = 7"


def content(rows: int) -> bytes:
    """A file of so many rows, large enough to take its time."""
    return (
        "visit,day,clinic,fee\n" + "".join(f"V{i},2025-{1 + i % 12:02d}-05,C{i % 9},{i % 90}.50\n" for i in range(rows))
    ).encode()


class Moments(unittest.TestCase):
    def setUp(self) -> None:
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        base = Path(scratch.name)
        self.disk = base / "disk"
        self.disk.mkdir()
        # A disk of its own can be filled; where none can be mounted, all else is done.
        mount = ["mount", "-t", "tmpfs", "-o", f"size={DISK}", "tmpfs", str(self.disk)]
        self.own_disk = subprocess.run(mount, capture_output=True, check=False).returncode == 0
        if self.own_disk:
            self.addCleanup(subprocess.run, ["umount", "-l", str(self.disk)], check=True)
        self.house = House(self.disk / "data")
        self.house.folder.mkdir()
        self.addCleanup(self.house.close)
        self.chance = random.Random(20261031)
        self.number = 0
        self.kept: dict[str, int] = {}
        """Tables acknowledged, and their rows."""
        self.perhaps: dict[str, int] = {}
        """Tables on their way when a fault came: there once, or not at all."""
        self.asked: list[int] = []
        """Questions acknowledged."""
        self.waiting: set[str] = set()
        """Newer files that wait for a yes."""
        self.partly: set[str] = set()
        """Uploads of which a part came."""

    def test_nothing_is_lost_or_twice_or_left_over(self) -> None:
        self.house.start()
        self.demo = set(self.house.tables())
        moments = [
            *[self.question] * 3,
            *[self.follow] * 2,
            *[self.upload] * 3,
            *[self.upload_and_go] * 3,
            *[self.part_of_an_upload] * 2,
            self.replace,
            self.leave_waiting,
            self.delete,
            self.clear_trail,
            self.stop_sql,
            self.stalled_clients,
            *[self.kill] * 3,
            self.stop,
            *[self.end_database] * 2,
            self.fill_disk,
        ]
        # Each comes at least once where there are enough of them.
        order = self.chance.sample(moments, len(moments))
        while len(order) < MOMENTS:
            order.append(self.chance.choice(moments))
        for number, moment in enumerate(order[:MOMENTS]):
            self.at = f"{number}: {moment.__name__}"
            moment()
            self.check()
        self.stop()
        self.check()
        ended = self.house.end(signal.SIGTERM)
        self.assertLess(ended, MOST_STOP_SECONDS)
        self.assertEqual([p.name for p in Path("/tmp").glob(f"gumption-*-{self.house.port}.sock")], [])

    # -- moments -----------------------------------------------------------------------------

    def name(self) -> str:
        self.number += 1
        return f"sent{self.number}"

    def question(self, follows: int | None = None) -> None:
        body = {"question": self.chance.choice(["visits by clinic", "how many vets", "total fees"]), "follows": follows}
        answer = self.house.ask("POST", "questions", body)
        self.assertEqual(answer.status_code, 200, answer.text)
        self.asked.append(answer.json()["id"])

    def follow(self) -> None:
        self.question(self.chance.choice(self.asked) if self.asked else None)

    def upload(self) -> None:
        name, rows = self.name(), self.chance.randrange(5, 2_000)
        self.sent(name, rows)
        self.kept[name] = rows

    def sent(self, name: str, rows: int, replaces: str = "") -> str:
        data = content(rows)
        number = self.house.begin_upload(f"{name}.csv", len(data), replaces)
        assert number is not None
        self.assertTrue(self.house.send(number, data))
        job = self.house.job(number)
        self.assertEqual(job["status"], "done", job)
        return number

    def upload_and_go(self) -> None:
        """The reading is still under way when the next moment comes."""
        name, rows = self.name(), 60_000
        data = content(rows)
        number = self.house.begin_upload(f"{name}.csv", len(data))
        assert number is not None
        came = self.house.send(number, data)
        self.chance.choice([self.kill, self.end_database, self.delete, lambda: None])()
        if came:
            self.kept[name] = rows

    def part_of_an_upload(self) -> None:
        data = content(3_000)
        number = self.house.begin_upload(f"{self.name()}.csv", len(data))
        assert number is not None
        self.house.send(number, data[: len(data) // 2])
        self.partly.add(number)

    def replace(self) -> None:
        if not self.kept:
            return
        name, rows = self.chance.choice(sorted(self.kept)), self.chance.randrange(5, 500)
        number = self.sent(name, rows, name)
        self.assertEqual(self.house.ask("POST", f"replacements/{number}").status_code, 200)
        self.kept[name] = rows

    def leave_waiting(self) -> None:
        if self.kept:
            self.waiting.add(self.sent("newer", 7, self.chance.choice(sorted(self.kept))))

    def delete(self) -> None:
        if self.kept:
            name = self.chance.choice(sorted(self.kept))
            self.assertEqual(self.house.ask("DELETE", f"tables/{name}").status_code, 204)
            del self.kept[name]
            self.waiting &= {j["replacement"]["id"] for j in self.house.got("jobs") if j["replacement"]}

    def clear_trail(self) -> None:
        self.assertEqual(self.house.ask("DELETE", "trail").status_code, 204)
        self.asked.clear()

    def stop_sql(self) -> None:
        body = {"sql": SLOW_SQL, "run": "slow"}
        with self.assertRaises(httpx.ReadTimeout):
            self.house.client.post(f"{self.house.address}/api/v1/workspaces/1/sql", json=body, timeout=0.5)
        start = time.monotonic()
        self.house.ask("POST", "runs/slow/stop")
        self.question()
        self.assertLess(time.monotonic() - start, 10)

    def stalled_clients(self) -> None:
        self.house.stall(100)

    def kill(self) -> None:
        time.sleep(self.chance.uniform(0, 0.8))
        self.house.end(signal.SIGKILL)
        self.house.start()

    def stop(self) -> None:
        self.assertLess(self.house.end(signal.SIGTERM), MOST_STOP_SECONDS)
        self.house.start()

    def end_database(self) -> None:
        self.house.end_database()
        # Meanwhile what needs no records goes on, and what does says so.
        self.assertEqual(self.house.client.get(self.house.address).status_code, 200)
        read = self.house.ask("POST", "gloss", {"question": "visits by clinic"})
        self.assertEqual(read.status_code, 200, (self.at, read.text))
        self.assertIn(self.house.ask("GET", "trail").status_code, (200, 503))

    def fill_disk(self) -> None:
        if not self.own_disk:
            return
        filler = self.disk / "filler"
        with filler.open("wb", buffering=0) as stream:
            try:
                while True:
                    stream.write(b"x" * 1_000_000)
            except OSError:
                pass
        name, data = self.name(), content(60_000)
        number = self.house.begin_upload(f"{name}.csv", len(data))
        if number is not None:
            self.perhaps[name] = 60_000
            self.assertFalse(self.house.send(number, data), "there is no room for it")
        self.house.ask("POST", "gloss", {"question": "visits by clinic"})
        filler.unlink()
        if number is not None:
            self.partly.add(number)
        self.house.patiently(
            lambda: self.house.ask("POST", "questions", {"question": "how many vets"}).status_code == 200 or None
        )

    # -- what must hold ----------------------------------------------------------------------

    def check(self) -> None:
        jobs = self.house.settled()
        tables = {n: t for n, t in self.house.tables().items() if n not in self.demo}
        rows = {n: t["table"]["rows"] for n, t in tables.items()}
        came = {n: r for n, r in rows.items() if n in self.perhaps}
        self.assertEqual(came, {n: self.perhaps[n] for n in came}, self.at)
        self.kept |= came
        # What may have come has come, or never does: its upload is read after every start.
        self.perhaps.clear()
        self.assertEqual(rows, self.kept, self.at)
        trail = [e["id"] for e in self.house.got("trail")]
        self.assertLessEqual(set(self.asked), set(trail), f"every question acknowledged is there; {self.at}")
        waiting = {j["replacement"]["id"] for j in jobs if j["replacement"]}
        self.assertEqual(waiting, self.waiting, self.at)
        versions = sum(len(t["versions"]) for t in tables.values())
        folders = len(list((self.house.folder / "workspaces" / "1" / "tables").iterdir()))
        self.assertEqual(
            folders, len(self.demo) + len(rows) + versions + len(waiting), "a folder each, and no stray one"
        )
        left = {p.name for p in (self.house.folder / "workspaces" / "1" / "incoming").iterdir()}
        self.assertLessEqual(left, self.partly, f"nothing is left of what has ended; {self.at}")
