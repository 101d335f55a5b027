"""`gumption bench`, the engine's part: plans against hand-written queries, the benchmark TPC-H, many questions at once."""

from __future__ import annotations

import datetime as dt
import statistics
import tempfile
import threading
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import duckdb

from gumption.cli.brief import compare, day, derive, group, join, keep, plan, sort, value, work
from gumption.cli.files import Opened, open_files
from gumption.core.checks.twice import rows_agree
from gumption.core.code.sql import plan_sql, render
from gumption.core.evaluate.run import work as work_again
from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan.expressions import Constant
from gumption.core.plan.steps import Limit, Plan
from gumption.core.plan.words import plan_words, step_words
from gumption.engines.answering import Answerer
from gumption.engines.duck import DuckEngine
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.limits import Limits, Stop
from gumption.intake.sql import literal
from tools.bench.tpch.data import make_tables
from tools.bench.tpch.plans import plans
from tools.bench.tpch.queries import queries

_RUNS = 5
_DAY = dt.date(2026, 10, 31)
_AT_ONCE = 10


@dataclass(frozen=True)
class Kind:
    """A kind of question: its plan, and the query a person would write for it."""

    name: str
    plan: Plan
    by_hand: str


def kinds() -> list[Kind]:
    """Ten kinds of questions of the large table; its file stands as {large} in the queries, the customers' as {customers}."""
    total = work("t", "sum", "amount")
    month = derive("month", ex.DateFloor(unit="month", value=value("order_date")))
    seven = ex.TextMatch(how="contains", value=value("product"), pattern="7")
    year = ex.Between(value=value("order_date"), low=day("2023-01-01"), high=day("2023-12-31"))
    paid = compare("=", "paid", Constant(type=Type.BOOLEAN, value=True))
    measures = (work("q", "sum", "quantity"), *(work(f, f, "amount") for f in ("mean", "min", "max")))
    return [
        Kind(
            "total of groups",
            plan("large", group("region", total), sort("-t")),
            "SELECT region, sum(amount) AS t FROM {large} GROUP BY region ORDER BY t DESC",
        ),
        Kind(
            "count under a condition",
            plan("large", keep(compare(">", "amount", 5000)), group("", work("n", "count"))),
            "SELECT count(*) FROM {large} WHERE amount > 5000",
        ),
        Kind(
            "mean and median",
            plan("large", group("channel", *(work(f, f, "amount") for f in ("mean", "median"))), sort("channel")),
            "SELECT channel, avg(amount), median(amount) FROM {large} GROUP BY channel ORDER BY channel",
        ),
        Kind(
            "top ten",
            plan("large", group("product", total), sort("-t"), Limit(rows=10)),
            "SELECT product, sum(amount) AS t FROM {large} GROUP BY product ORDER BY t DESC LIMIT 10",
        ),
        Kind(
            "time line",
            plan("large", month, group("month", total), sort("month")),
            "SELECT date_trunc('month', order_date) AS m, sum(amount) FROM {large} GROUP BY m ORDER BY m",
        ),
        Kind(
            "distinct count",
            plan("large", group("region", work("n", "distinct", "customer_id")), sort("region")),
            "SELECT region, count(DISTINCT customer_id) FROM {large} GROUP BY region ORDER BY region",
        ),
        Kind(
            "text and dates",
            plan(
                "large",
                keep(seven, year),
                group("channel", work("n", "count"), work("q", "sum", "quantity")),
                sort("channel"),
            ),
            "SELECT channel, count(*), sum(quantity) FROM {large} WHERE contains(lower(product), '7') "
            "AND order_date BETWEEN DATE '2023-01-01' AND DATE '2023-12-31' GROUP BY channel ORDER BY channel",
        ),
        Kind(
            "share of rows",
            plan("large", group("channel", work("paid_share", "share", where=paid)), sort("channel")),
            "SELECT channel, avg(CASE WHEN paid THEN 1 ELSE 0 END) FROM {large} GROUP BY channel ORDER BY channel",
        ),
        Kind(
            "two groups, five measures",
            plan("large", group("region channel", work("n", "count"), *measures), sort("region", "channel")),
            "SELECT region, channel, count(*), sum(quantity), avg(amount), min(amount), max(amount) "
            "FROM {large} GROUP BY region, channel ORDER BY region, channel",
        ),
        Kind(
            "joined",
            plan("large", join("customers", "customer_id=customer_no"), group("tier", total), sort("tier")),
            "SELECT c.tier, sum(l.amount) FROM {large} l JOIN {customers} c ON l.customer_id = c.customer_no "
            "GROUP BY c.tier ORDER BY c.tier",
        ),
    ]


def make_customers(path: Path) -> None:
    """A CSV of the customers that the large table names."""
    duckdb.execute(
        f"""COPY (SELECT 'C' || lpad(i::VARCHAR, 6, '0') AS customer_no,
            (['Gold', 'Silver', 'Bronze'])[1 + (hash(i) % 3)::INTEGER] AS tier, 'Town ' || (hash(i + 1) % 300) AS town
            FROM range(90000) t(i)) TO '{path}' (HEADER)"""
    )


def _seconds(work: Callable[[], object], runs: int = _RUNS) -> float:
    """The median of some runs behind one that warms up."""
    work()
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return statistics.median(times)


def bench_plans(large: Path) -> None:
    """Ten kinds of questions on the large file: plan to result, and the second working, against hand-written queries."""
    with tempfile.TemporaryDirectory() as scratch:
        customers, out = Path(scratch) / "customers.csv", Path(scratch) / "tables"
        out.mkdir()
        make_customers(customers)
        opened = open_files([str(large), str(customers)], None, out)
        files = {
            t.name: f"read_parquet({literal(str(opened.answerer.engine.path(t.name)))})"
            for t in opened.catalogue.tables
        }
        yardstick = duckdb.connect()
        yardstick.execute("SET enable_progress_bar = false")
        ratios: dict[str, list[float]] = {"plan": [], "second": [], "first": []}
        answerer = opened.answerer
        for kind in kinds():
            query = kind.by_hand.format(**files)
            hand = _seconds(lambda q=query: yardstick.execute(q).fetchall())  # type: ignore[misc]
            plan = _seconds(lambda p=kind.plan: answerer.rows(p))  # type: ignore[misc]
            start = time.perf_counter()
            worked = work_again(kind.plan, answerer.engine.column, answerer.sizes)
            first = time.perf_counter() - start
            second = _seconds(lambda p=kind.plan: work_again(p, answerer.engine.column, answerer.sizes), 3)  # type: ignore[misc]
            agree = rows_agree(worked.rows, answerer.rows(kind.plan)[1])
            for name, value in (("plan", plan), ("second", second), ("first", first)):
                ratios[name].append(value / hand)
            print(
                f"  {kind.name}: by hand {1000 * hand:.0f} ms; plan to result {plan / hand:.2f}; "
                f"second working {second / hand:.2f}, columns not yet in memory {first / hand:.2f}"
                f"{'' if agree else '; THE TWO DISAGREE'}"
            )
        medians = {name: statistics.median(values) for name, values in ratios.items()}
        print(
            f"ten kinds of questions, median: plan to result {medians['plan']:.2f} times the hand-written query; "
            f"second working {medians['second']:.2f} times, columns not yet in memory {medians['first']:.2f} times"
        )
        _at_once(opened)
        _narrow(opened)


def _at_once(opened: Opened) -> None:
    """Ten different questions together, each worked twice; and how soon each stops when it is told to."""
    answerer, asked = opened.answerer, kinds()
    # The mean: together the ten take what they take one after another, of which the long ones are the most.
    alone = statistics.mean([_seconds(lambda p=k.plan: answerer.answer(p, _DAY), 1) for k in asked])  # type: ignore[misc]
    with ThreadPoolExecutor(_AT_ONCE) as pool:
        start = time.perf_counter()

        def timed(plan: Plan) -> float:
            answerer.answer(plan, _DAY)
            return time.perf_counter() - start

        ended = list(pool.map(timed, [k.plan for k in asked]))
    print(
        f"ten questions at once, worked twice each: slowest {max(ended) / alone:.1f} times the mean one alone "
        f"({1000 * alone:.0f} ms), fastest {min(ended) / alone:.1f}"
    )
    stops = [Stop() for _ in asked]
    waits: list[float] = []

    def stopped(plan: Plan, stop: Stop) -> None:
        try:
            while True:
                answerer.answer(plan, _DAY, stop=stop)
        except WasStopped:
            waits.append(time.perf_counter())

    threads = [threading.Thread(target=stopped, args=(k.plan, s)) for k, s in zip(asked, stops, strict=True)]
    for thread in threads:
        thread.start()
    time.sleep(0.5)
    start = time.perf_counter()
    for stop in stops:
        stop.now()
    for thread in threads:
        thread.join()
    print(f"ten questions stopped together: the last one {max(waits) - start:.2f} s after")


def _narrow(opened: Opened) -> None:
    """A question whose groups do not fit into a small memory: put on disk, and ended with words where that is too small."""
    note = plan(
        "large",
        derive("key", ex.Concatenate(parts=(value("note"), value("customer_id")))),
        group("key", work("n", "count"), work("hi", "max", "amount"), work("product", "max", "product")),
        sort("-n", "key"),
        Limit(rows=3),
    )
    engine = opened.answerer.engine
    paths = {t.name: engine.path(t.name) for t in opened.catalogue.tables}
    wide = _seconds(lambda: opened.answerer.rows(note), 1)
    small = Answerer(opened.catalogue, DuckEngine(paths, Limits(memory_gb=0.5)), {})
    slow = _seconds(lambda: small.rows(note), 1)
    nothing = Answerer(opened.catalogue, DuckEngine(paths, Limits(memory_gb=0.5, disk_gb=0.01)), {})
    try:
        nothing.rows(note)
        end = "NO ERROR at the end of the disk allowance"
    except CannotAnswer:
        end = "a clear error at the end of the disk allowance"
    print(
        f"millions of groups in 0.5 GB instead of {engine.limits.memory_gb:g}: {slow / wide:.1f} times as long; {end}"
    )


def bench_tpch(scale: float) -> None:
    """The benchmark's queries as plans against its own SQL, and both workings against its answers."""
    with tempfile.TemporaryDirectory() as scratch:
        opened = make_tables(Path(scratch), scale)
        answerer, own = opened.answerer, queries(scale)
        total, theirs, second, wrong = 0.0, 0.0, 0.0, []
        written: list[float] = []
        for number, plan in plans(scale).items():
            sql = render(plan_sql(plan, opened.catalogue))
            start = time.perf_counter()
            render(plan_sql(plan, opened.catalogue))
            plan_words(plan), [step_words(step, "rows") for step in plan.steps]
            written.append(time.perf_counter() - start)
            want = answerer.engine.run(own[number])[1]
            theirs += _seconds(lambda q=own[number]: answerer.engine.run(q), 3)  # type: ignore[misc]
            total += _seconds(lambda q=sql: answerer.engine.run(q), 3)  # type: ignore[misc]
            start = time.perf_counter()
            worked = work_again(plan, answerer.engine.column, answerer.sizes)
            second += time.perf_counter() - start
            if not (rows_agree(answerer.rows(plan)[1], want) and rows_agree(worked.rows, want)):
                wrong.append(number)
        print(
            f"TPC-H, scale {scale:g}: plans take {total / theirs:.2f} times the benchmark's own SQL ({theirs:.1f} s); "
            f"second working {second / theirs:.1f} times; {22 - len(wrong)} of 22 answered rightly by both"
            f"{f', wrong: {wrong}' if wrong else ''}"
        )
        print(
            f"plan to SQL and words, over its 22 plans: median {1000 * statistics.median(written):.1f} ms, "
            f"longest {1000 * max(written):.1f} ms"
        )
