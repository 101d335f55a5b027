"""What a question may take, how it is stopped, and what of a person's own SQL may run."""

from __future__ import annotations

import tempfile
import threading
import time
import unittest
from pathlib import Path

import duckdb

from gumption.engines.duck import DuckEngine
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.limits import Limits, Stop
from gumption.engines.theirs import run_theirs

TABLES = ["sales", "odd name"]
ENDLESS = "SELECT count(*) FROM range(100000000) a, range(100000000) b WHERE a.range + b.range = 7"
LARGE = "SELECT count(DISTINCT w) FROM (SELECT repeat('x', 100) || hash(i) AS w FROM range(3000000) t(i))"


class LimitsCase(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.folder = Path(folder.name)
        cls.paths = {name: cls.folder / f"{number}.parquet" for number, name in enumerate(TABLES)}
        for path in cls.paths.values():
            duckdb.execute(
                f"COPY (SELECT i AS id, (i / 4)::DECIMAL(8, 2) AS fee, DATE '2025-01-01' + i::INTEGER AS day, [i] AS several "
                f"FROM range(40) t(i)) TO '{path}' (FORMAT parquet)"
            )
        (cls.folder / "secret.csv").write_text("word\nsesame\n")

    def engine(self, **limits: float) -> DuckEngine:
        engine = DuckEngine(self.paths, Limits(**limits))  # type: ignore[arg-type]
        self.addCleanup(engine.close)
        return engine


class TheirSql(LimitsCase):
    def test_one_select_over_the_tables_runs(self) -> None:
        engine = self.engine()
        for sql, rows in (
            ("SELECT * FROM sales", 40),
            ('SELECT count(*) FROM "odd name" AS o JOIN sales USING (id);', 1),
            ("WITH a AS (SELECT id FROM sales), b AS (SELECT * FROM a WHERE id < 5) SELECT * FROM b", 5),
            ("SELECT id FROM sales UNION ALL SELECT 1", 41),
            ("SELECT s.id, u.x FROM sales s, UNNEST(s.several) AS u(x)", 40),
            (
                "SELECT id, sum(fee) OVER (ORDER BY id) FROM sales WHERE day BETWEEN DATE '2025-01-03' AND DATE '2025-01-04'",
                2,
            ),
        ):
            with self.subTest(sql):
                self.assertEqual(len(run_theirs(sql, TABLES, engine, Stop()).rows), rows)
        kinds = run_theirs("SELECT id, fee, day, several FROM sales", TABLES, engine, Stop()).schema
        self.assertEqual([str(f.type) for f in kinds.values()], ["integer", "decimal", "date", "text"])

    def test_nothing_else_runs(self) -> None:
        engine, secret = self.engine(), self.folder / "secret.csv"
        for sql in (
            "DROP TABLE sales",
            "SELECT 1; SELECT 2",
            "SELECT * FROM sales; DELETE FROM sales",
            "INSERT INTO sales VALUES (1)",
            "CREATE TABLE x AS SELECT 1",
            "COPY sales TO '/tmp/out.csv'",
            "COPY (SELECT 1) TO '/tmp/out.csv'",
            "ATTACH '/tmp/x.db'",
            "SET memory_limit = '1TB'",
            "PRAGMA database_list",
            "INSTALL httpfs",
            "LOAD httpfs",
            "CALL pragma_version()",
            "EXPLAIN SELECT 1",
            f"SELECT * FROM '{secret}'",
            f"SELECT * FROM read_csv('{secret}')",
            f"SELECT * FROM read_text('{secret}')",
            "SELECT * FROM glob('/etc/*')",
            "SELECT * FROM duckdb_settings()",
            "SELECT * FROM duckdb_settings",
            "SELECT * FROM information_schema.tables",
            "SELECT * FROM query('SELECT 1')",
            "SELECT current_setting('temp_directory')",
            "SELECT getenv('HOME')",
            "SELECT (SELECT content FROM read_text('/etc/passwd'))",
            "SELECT * FROM elsewhere",
            "SELECT * FROM duckdb_settings, (WITH duckdb_settings AS (SELECT 1) SELECT * FROM duckdb_settings)",
            "SELECT * FROM main.sales2",
            "SELECT $1",
            "SELEC id FROM sales",
            "",
        ):
            with self.subTest(sql), self.assertRaises(CannotAnswer) as caught:
                run_theirs(sql, TABLES, engine, Stop())
            self.assertGreater(len(str(caught.exception)), 20)

    def test_the_engine_itself_reads_no_other_file(self) -> None:
        """A second fence, should something pass the first."""
        with self.assertRaises(duckdb.Error):
            self.engine().run(f"SELECT * FROM read_csv('{self.folder / 'secret.csv'}')")
        with self.assertRaises(duckdb.Error):
            self.engine().run("SET memory_limit = '1TB'")

    def test_faults_are_told_in_words(self) -> None:
        for sql, words in (("SELECT nothing FROM sales", "nothing"), ("SELECT * FROM ales", "sales, odd name")):
            with self.assertRaises(CannotAnswer) as caught:
                run_theirs(sql, TABLES, self.engine(), Stop())
            self.assertIn(words, str(caught.exception))


class Limited(LimitsCase):
    def test_stopping(self) -> None:
        stop, ended = Stop(), []

        def work() -> None:
            try:
                self.engine().run(ENDLESS, stop)
            except WasStopped:
                ended.append(time.monotonic())

        thread = threading.Thread(target=work)
        thread.start()
        time.sleep(0.4)
        asked = time.monotonic()
        stop.now()
        thread.join(5)
        self.assertLess(ended[0] - asked, 1)
        with self.assertRaises(WasStopped):
            self.engine().run("SELECT 1", stop)

    def test_memory_goes_to_disk_and_ends_with_words(self) -> None:
        roomy, narrow = self.engine(memory_gb=0.3, disk_gb=4), self.engine(memory_gb=0.3, disk_gb=0.01)
        self.assertEqual(roomy.run(LARGE)[1], [(3_000_000,)])
        with self.assertRaises(CannotAnswer) as caught:
            narrow.run(LARGE)
        self.assertIn("0.3 GB of memory and 0.01 GB of disk", str(caught.exception))
        self.assertEqual(narrow.run("SELECT count(*) FROM sales")[1], [(40,)])

    def test_numbers_too_large_are_told(self) -> None:
        for sql in ("SELECT 9223372036854775807::BIGINT + id FROM sales", "SELECT exp(1000 + id) FROM sales"):
            with self.assertRaises(CannotAnswer) as caught:
                self.engine().run(sql)
            self.assertIn("too large" if "exp" not in sql else "grew too large", str(caught.exception))


class Stopping(unittest.TestCase):
    def test_a_stop_that_comes_before_the_work_has_begun_is_not_lost(self) -> None:
        """The call does nothing until the work is under way, as an engine's does between two of its queries."""
        stop, begun, ended = Stop(), threading.Event(), threading.Event()
        with stop.interrupting(lambda: ended.set() if begun.is_set() else None):
            stop.now()
            time.sleep(0.02)
            begun.set()
            self.assertTrue(ended.wait(5))
        self.assertTrue(stop.asked())
