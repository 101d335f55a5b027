"""Work in processes of its own: limits of the kernel, stopping at once, and processes that end under their work."""

from __future__ import annotations

import os
import signal
import tempfile
import time
import unittest
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import duckdb

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.lesson import Lesson
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.limits import Limits, Stop
from gumption.server.desk import Desk, Opening, Taught
from gumption.server.problems import WorkBroke
from gumption.server.runs import Runs
from gumption.server.their_process import run_theirs_apart
from gumption.server.workers import Here, Processes, stoppable

ENDLESS = "SELECT count(*) FROM range(100000000) a, range(100000000) b WHERE a.range + b.range = 7"
GREEDY = "SELECT len(list(i)) FROM range(200000000) t(i)"


class TheirSql(unittest.TestCase):
    def setUp(self) -> None:
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)
        self.parquet = {"sales": self.folder / "sales.parquet"}
        duckdb.execute(
            f"COPY (SELECT i AS id, repeat('x', 300) AS note FROM range(40) t(i)) TO '{self.parquet['sales']}'"
        )

    def run_sql(self, sql: str, stop: Stop | None = None, limits: Limits | None = None) -> list[tuple[object, ...]]:
        found = run_theirs_apart(sql, self.parquet, limits or Limits(), self.folder, stop or Stop())
        return list(found.rows)

    def refused(self, sql: str, limits: Limits) -> tuple[str, float]:
        start = time.monotonic()
        with self.assertRaises(CannotAnswer) as caught:
            self.run_sql(sql, limits=limits)
        return str(caught.exception), time.monotonic() - start

    def test_limits_hold_whatever_the_query_does(self) -> None:
        self.assertEqual(self.run_sql("SELECT sum(id) FROM sales"), [(780,)])
        said, took = self.refused(ENDLESS, Limits(seconds=1))
        self.assertIn("longer than 1 seconds", said)
        self.assertLess(took, 3)
        said, _ = self.refused(GREEDY, Limits(memory_gb=0.5))
        self.assertIn("0.5 GB", said)
        said, took = self.refused(GREEDY, Limits(seconds=0.5))
        self.assertLess(took, 3, "what cannot be interrupted is ended")
        self.assertIn("Only one SELECT", self.refused("DROP TABLE sales", Limits())[0])
        self.assertIn("too large to be shown", self.refused("SELECT repeat('x', 30000000)", Limits())[0])
        self.assertEqual([p.name for p in self.folder.iterdir()], ["sales.parquet"], "nothing is left behind")

    def test_it_is_stopped_at_once_even_while_it_waits_for_its_turn(self) -> None:
        threads, stops = ThreadPoolExecutor(1), [Stop(), Stop()]
        futures = [stoppable(threads, s, lambda s=s: self.run_sql(GREEDY, s)) for s in stops]  # type: ignore[misc]
        time.sleep(0.5)
        for stop, future in zip(reversed(stops), reversed(futures), strict=True):
            start = time.monotonic()
            stop.now()
            with self.assertRaises(WasStopped):
                future.result(timeout=2)
            self.assertLess(time.monotonic() - start, 1)
        threads.shutdown()


def number(desk: Desk, _stop: Stop) -> int:
    return os.getpid()


def lessons(desk: Desk, _stop: Stop) -> int:
    return len(desk.reader.lessons._held)


def sleep(desk: Desk, stop: Stop, seconds: float) -> str:
    end = time.monotonic() + seconds
    while time.monotonic() < end and not stop.asked():
        time.sleep(0.02)
    return "slept"


def deaf(desk: Desk, _stop: Stop, seconds: float) -> str:
    time.sleep(seconds)
    return "slept"


def tell(desk: Desk, stop: Stop) -> str:
    stop.tell("half of it")
    return sleep(desk, stop, 30.0)


def fall_once(desk: Desk, _stop: Stop, mark: Path) -> str:
    if not mark.exists():
        mark.touch()
        os.kill(os.getpid(), signal.SIGKILL)
    return "done"


def fall(desk: Desk, _stop: Stop) -> str:
    os.kill(os.getpid(), signal.SIGKILL)
    return "never"


def break_down(desk: Desk, _stop: Stop) -> str:
    raise KeyError("Lindqvist")


class Working(unittest.TestCase):
    def setUp(self) -> None:
        processes = Processes(answering=2)
        self.addCleanup(processes.close)
        self.workers = processes.of(1)
        self.workers.open(Opening(Catalogue(tables=(), relationships=()), {}, {}, Taught(), Limits()))

    def test_long_work_holds_up_nobody(self) -> None:
        stop = Stop()
        long = [self.workers.submit("answer", stop, 60, sleep, 50.0) for _ in range(20)]
        start = time.monotonic()
        self.assertNotEqual(self.workers.submit("read", Stop(), 60, number).result(timeout=10), os.getpid())
        self.assertLess(time.monotonic() - start, 3)
        stop.now()
        for future in long:
            with self.assertRaises(WasStopped):
                future.result(timeout=2)
        self.assertGreater(self.workers.submit("answer", Stop(), 60, number).result(timeout=5), 0)

    def test_how_far_it_is_comes_out_of_its_process(self) -> None:
        runs = Runs()
        with runs.running("r1") as stop:
            future = self.workers.submit("answer", stop, 60, tell)
            end = time.monotonic() + 20
            while not runs.told("r1") and time.monotonic() < end:
                time.sleep(0.02)
            self.assertEqual(runs.told("r1"), "half of it")
            runs.stop("r1")
            with self.assertRaises(WasStopped):
                future.result(timeout=5)
        self.assertIsNone(runs.told("r1"))

    def test_a_time_limit_ends_what_does_not_listen(self) -> None:
        start = time.monotonic()
        with self.assertRaises(CannotAnswer) as caught:
            self.workers.submit("read", Stop(), 0.5, deaf, 60.0).result(timeout=5)
        self.assertIn("longer than 0.5 seconds", str(caught.exception))
        with self.assertLogs("gumption.server.workers"):
            found = self.workers.submit("read", Stop(), 30, number).result(timeout=20)
            self.assertGreater(found, 0)
            while time.monotonic() - start < 8:
                time.sleep(0.1)
        self.assertNotEqual(self.workers.submit("read", Stop(), 30, number).result(timeout=10), found)

    def test_a_process_that_ends_is_replaced_and_its_work_done_once_more(self) -> None:
        with tempfile.TemporaryDirectory() as folder, self.assertLogs("gumption.server.workers"):
            future = self.workers.submit("answer", Stop(), 60, fall_once, Path(folder) / "mark")
            self.assertEqual(future.result(timeout=20), "done")
            with self.assertRaises(CannotAnswer):
                self.workers.submit("answer", Stop(), 60, fall).result(timeout=30)
            self.assertGreater(self.workers.submit("answer", Stop(), 60, number).result(timeout=20), 0)

    def test_what_is_learned_before_a_desk_is_made_is_not_lost(self) -> None:
        opening = Opening(Catalogue(tables=(), relationships=()), {}, {}, Taught(), Limits())
        learned = Taught((Lesson("right", "how many", "how many", "count", "the number"),))
        for workers in (Here(), self.workers):
            self.addCleanup(workers.close)
            workers.open(opening)
            workers.learn(learned)
            self.assertEqual(workers.submit("read", Stop(), 60, lessons).result(timeout=10), 1)
            workers.learn(Taught())
            self.assertEqual(workers.submit("read", Stop(), 60, lessons).result(timeout=10), 0)

    def test_a_fault_is_logged_without_what_it_was_about(self) -> None:
        with self.assertLogs("gumption.server.workers") as logged, self.assertRaises(WorkBroke):
            self.workers.submit("answer", Stop(), 60, break_down).result(timeout=10)
        from gumption.server.log import AsJson

        line = AsJson().format(logged.records[0])
        self.assertIn("KeyError", line)
        self.assertIn("break_down", line)
        self.assertNotIn("Lindqvist", line)
