"""Timings as ratios against a yardstick in the same run, and the demo's reading times."""

from __future__ import annotations

import datetime as dt
import json
import os
import random
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import duckdb
import xlsxwriter

from gumption.cli.files import Opened, open_files
from gumption.cli.test import HOME
from gumption.core.reading.read import QuestionReader
from tools.bench.engine import bench_plans, bench_tpch

_RUNS = 5
_INTAKE = "import sys, pathlib; from gumption.intake.read import read_file; read_file(pathlib.Path(sys.argv[1]), 'large.csv', pathlib.Path(sys.argv[2]))"
_COPY = "import sys, duckdb; duckdb.execute('SET enable_progress_bar = false'); duckdb.execute(f\"COPY (SELECT * FROM read_csv('{sys.argv[1]}')) TO '{sys.argv[2]}/copy.parquet' (FORMAT parquet)\")"


def _timed(work: Callable[[], object]) -> float:
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def make_large(path: Path, rows: int) -> None:
    """A CSV of twelve columns: identifiers, text, dates, whole and decimal numbers, flags."""
    duckdb.execute("SET enable_progress_bar = false")
    duckdb.execute(
        f"""COPY (SELECT i AS order_id, 'C' || lpad((hash(i) % 90000)::VARCHAR, 6, '0') AS customer_id,
            (DATE '2021-01-01' + (hash(i + 1) % 2000)::INTEGER) AS order_date,
            (['North', 'South', 'East', 'West', 'Centre'])[1 + (hash(i + 2) % 5)::INTEGER] AS region,
            (['Web', 'Shop', 'Phone'])[1 + (hash(i + 3) % 3)::INTEGER] AS channel,
            'Product ' || (hash(i + 4) % 800) AS product, (1 + hash(i + 5) % 40) AS quantity,
            ((hash(i + 6) % 1000000) / 100)::DECIMAL(12, 2) AS amount, ((hash(i + 7) % 500) / 10)::DECIMAL(6, 1) AS weight,
            (hash(i + 8) % 10000000) / 7.0 AS reading, hash(i + 9) % 2 = 0 AS paid, 'note ' || (hash(i + 10) % 100000) AS note
            FROM range({rows}) t(i)) TO '{path}' (HEADER)"""
    )


def _child(code: str, source: Path, out: Path) -> tuple[float, float]:
    """Seconds and peak gigabytes of a Python program of its own."""
    out.mkdir(exist_ok=True)
    start = time.perf_counter()
    process = subprocess.Popen([sys.executable, "-c", code, str(source), str(out)])
    _, status, usage = os.wait4(process.pid, 0)
    if status:
        raise RuntimeError(f"a bench program failed: {code}")
    return time.perf_counter() - start, usage.ru_maxrss / 1024**2


def make_workbook(path: Path, rows: int) -> None:
    """A workbook of twenty columns: text, decimals, whole numbers and dates."""
    chance = random.Random(1)
    book = xlsxwriter.Workbook(str(path), {"constant_memory": True})
    sheet, style = book.add_worksheet("Data"), book.add_format({"num_format": "yyyy-mm-dd"})
    sheet.write_row(0, 0, [f"column {i}" for i in range(20)])
    for row in range(1, rows + 1):
        for place in range(0, 20, 4):
            sheet.write_string(row, place, f"text {chance.randrange(5000)}")
            sheet.write_number(row, place + 1, round(1000 * chance.random(), 2))
            sheet.write_number(row, place + 2, chance.randrange(10_000))
            sheet.write_datetime(
                row, place + 3, dt.datetime(2024, 1, 1) + dt.timedelta(days=chance.randrange(900)), style
            )
    book.close()


PARTS = ("reading", "intake", "plans", "tpch")


def bench(rows: int, scale: float, parts: tuple[str, ...]) -> int:
    """Print every figure of the parts asked for, with what it is held against."""
    if "reading" in parts:
        _reading()
    if "intake" in parts:
        _intake(rows)
    if "plans" in parts:
        with tempfile.TemporaryDirectory() as folder:
            source = Path(folder) / "large.csv"
            make_large(source, rows)
            _large_question(source)
            bench_plans(source)
    if "tpch" in parts:
        bench_tpch(scale)
    print(f"peak memory of this process: {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024**2:.2f} GB")
    return 0


def _intake(rows: int) -> None:
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / "large.xlsx"
        make_workbook(source, rows // 25)
        read, peak = _child(_INTAKE.replace("large.csv", "large.xlsx"), source, Path(folder) / "read")
        print(f"workbook of {rows // 25:,} rows, 20 columns: {read:.1f} s; peak memory {peak:.2f} GB")
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / "large.csv"
        make_large(source, rows)
        print(f"large file: {rows:,} rows, 12 columns, {source.stat().st_size / 1e6:,.0f} MB")
        copied, _ = _child(_COPY, source, Path(folder) / "copy")
        read, peak = _child(_INTAKE, source, Path(folder) / "read")
        print(
            f"intake: {read:.1f} s; DuckDB's own CSV-to-Parquet copy: {copied:.1f} s; ratio {read / copied:.2f}; peak memory {peak:.2f} GB"
        )


def _open(files: list[str], out: Path, describe: str | None = None) -> tuple[Opened, QuestionReader]:
    opened = open_files(files, describe, out)
    return opened, QuestionReader(opened.catalogue)


def _reading() -> None:
    demo = HOME / "demo"
    with tempfile.TemporaryDirectory() as scratch:
        _, reader = _open(
            [str(p) for p in sorted((demo / "data").iterdir())], Path(scratch), str(demo / "columns.json")
        )
        questions = [json.loads(line)["ask"] for line in (demo / "questions.jsonl").read_text().splitlines()]
        day = dt.date(2026, 10, 31)
        reader.read(questions[0], day)
        times = sorted(_timed(lambda q=question: reader.read(q, day)) for question in questions for _ in range(3))  # type: ignore[misc]
    median, late = statistics.median(times), times[int(0.95 * len(times))]
    print(
        f"reading a demo question: median {1000 * median:.0f} ms, 95th percentile {1000 * late:.0f} ms over {len(questions)} questions"
    )


def _large_question(source: Path) -> None:
    with tempfile.TemporaryDirectory() as scratch:
        opened, reader = _open([str(source)], Path(scratch))
        day = dt.date(2026, 10, 31)
        parquet = next(Path(scratch).glob("*.parquet"))
        by_hand = f"SELECT region, sum(amount) FROM read_parquet('{parquet}') GROUP BY region ORDER BY 2 DESC"
        plan = reader.read("total amount by region", day).readings[0].plan
        first = _timed(lambda: opened.answerer.answer(plan, day))
        yardstick = duckdb.connect()
        yardstick.execute("SET enable_progress_bar = false")
        hand = statistics.median(_timed(lambda: yardstick.execute(by_hand).fetchall()) for _ in range(_RUNS))
        shown = statistics.median(_timed(lambda: opened.answerer.rows(plan)) for _ in range(_RUNS))

        def whole(twice: bool) -> float:
            return statistics.median(
                _timed(
                    lambda: opened.answerer.answer(
                        reader.read("total amount by region", day).readings[0].plan, day, twice=twice
                    )
                )
                for _ in range(_RUNS)
            )

        print(
            f"“total amount by region”: hand-written DuckDB {1000 * hand:.0f} ms; engine alone ratio {shown / hand:.2f}; "
            f"read, answered and presented ratio {whole(False) / hand:.2f}; with the second working ratio {whole(True) / hand:.2f}; "
            f"that the first time, columns not yet in memory, ratio {first / hand:.2f}"
        )
