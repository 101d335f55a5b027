"""A plan to a checked answer: run on the engine, worked again, compared, and presented."""

from __future__ import annotations

import datetime as dt
import logging
import os
import threading
import time
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from decimal import Decimal
from itertools import count

import duckdb
import sqlglot
from sqlglot import exp

from gumption.core.checks import words
from gumption.core.checks.after import check_after
from gumption.core.checks.before import check_before
from gumption.core.checks.check import Check
from gumption.core.checks.periods import periods_in_part
from gumption.core.checks.twice import check_agreement
from gumption.core.code.dialects import DialectName, is_known
from gumption.core.code.python import plan_python
from gumption.core.code.sql import plan_sql, render
from gumption.core.evaluate.facts import StepRows
from gumption.core.evaluate.relation import Doubled
from gumption.core.evaluate.run import Stopped, Worked, work
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.files import FileReading
from gumption.core.model.types import Value
from gumption.core.model.wish import ChartWish, Kind
from gumption.core.plan.expressions import columns_of
from gumption.core.plan.fields import Schema
from gumption.core.plan.keys import unproven_joins
from gumption.core.plan.steps import Keep, Pick, Plan, Take, all_steps, other_plan, tables_of
from gumption.core.plan.typing import schemas
from gumption.core.plan.words import StepWords, step_words
from gumption.core.present.answer import Answer
from gumption.core.present.chart import Drawing, chart, kinds_for
from gumption.core.present.csv_out import csv_pieces
from gumption.core.present.finding import InPart, finding
from gumption.core.present.marks import Spec
from gumption.core.study.studied import Fetch, Studied, Study, looks_of, studied
from gumption.engines.duck import DuckEngine
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.kept import Kept
from gumption.engines.limits import GIGABYTE, Stop

log = logging.getLogger(__name__)

MOST_ROWS = 200_000
"""Rows of an answer that are kept; a listing of more is counted and cut, so that it cannot fill the memory."""
_SIDE_BY_SIDE = 200_000
"""Rows read from which the two workings are worth a thread each, and up to which the second is the quicker one."""
_KEPT_WORKED = 500
_BYTES_A_CELL = 24
"""What a cell takes in the second working at its height: values, a copy, and what stands between."""


@dataclass(frozen=True)
class ProofStep:
    """A step in words, and the rows through it, which are None until it was worked a second time."""

    words: StepWords
    kind: str
    """As plans call it: keep, group."""
    rows: StepRows | None
    path: tuple[int, ...]
    """Where it stands: (3,) is the plan's fourth step, (3, 0) the first of the plan that it brings in."""


@dataclass(frozen=True)
class Proof:
    """The plan's steps with their rows, and every check."""

    steps: tuple[ProofStep, ...]
    checks: tuple[Check, ...]


def proof_steps(plan: Plan, flow: Sequence[StepRows] | None, outer: tuple[int, ...] = ()) -> Iterator[ProofStep]:
    """The steps of a plan; those of another plan stand before the step that brings it in, unless it is only looked up."""
    first = plan.steps[0]
    assert isinstance(first, Take)
    for place, step in enumerate(plan.steps):
        rows = flow[place] if flow is not None else None
        other = other_plan(step)
        if other is not None and not all(isinstance(s, (Take, Pick)) for s in other.steps):
            yield from proof_steps(other, rows.other if rows is not None else None, (*outer, place))
        yield ProofStep(step_words(step, first.table), step.step, rows, (*outer, place))


@dataclass(frozen=True)
class Answered:
    """A plan's answer with all that is shown beside it."""

    plan: Plan
    schema: Schema
    columns: tuple[str, ...]
    rows: list[tuple[Value, ...]]
    total: int
    """How many rows there are, also where not all are kept."""
    finding: str
    chart: Spec | None
    chart_note: str
    """What of the chart that was asked for could not be drawn."""
    chart_kind: Kind | None
    chart_kinds: tuple[Kind, ...]
    """The kinds of chart that it can be drawn as."""
    sql: str
    python: str
    proof: Proof
    second_to_come: bool
    """True while only the engine has worked it, and the second working is left for later."""
    seconds: float
    studied: Studied | None = None
    """What a study says of the rows, where one was asked for."""

    @property
    def has_own_rows(self) -> bool:
        """True where the rows are a study's own, and not those of the plan."""
        return self.studied is not None and self.studied.table is not None

    @property
    def cautions(self) -> int:
        return sum(check.weight != "holds" for check in self.proof.checks)


class Answerer:
    """Answers plans over the tables of one workspace."""

    def __init__(self, catalogue: Catalogue, engine: DuckEngine, readings: dict[str, FileReading]) -> None:
        self.catalogue, self.engine, self.readings = catalogue, engine, readings
        # More of them at once than there are cores would only take turns, and memory.
        self._second_workings = threading.Semaphore(os.cpu_count() or 2)
        self.sizes = {t.name: (t.rows, tuple(c.name for c in t.columns)) for t in catalogue.tables}
        self._worked: Kept[Plan, Worked] = Kept(_KEPT_WORKED)
        """Second workings done for a glance, whose whole answer is kept."""

    def take_over(self, earlier: Answerer, same: frozenset[str]) -> None:
        """Keep what an earlier one worked out over tables that are the same here."""
        self.engine.take_over(earlier.engine)
        for plan, worked in earlier._worked.items():
            if same.issuperset(tables_of(plan)):
                self._worked.put(plan, worked)

    def rows(self, plan: Plan, most: int = MOST_ROWS) -> tuple[tuple[str, ...], list[tuple[Value, ...]]]:
        """The engine's answer alone, at most so many rows of it."""
        return self._run(self.code(plan), None, most)

    def page(self, plan: Plan, offset: int, limit: int, stop: Stop | None = None) -> list[tuple[Value, ...]]:
        """Rows of the engine's answer from `offset` on, at most `limit` of them. Raises CannotAnswer, and WasStopped."""
        whole = plan_sql(plan, self.catalogue)
        if whole.args.get("limit") is not None:
            whole = exp.select("*").from_(whole.subquery("answer"))
        return self._run(render(whole.limit(limit).offset(offset)), stop)[1]

    def glance(self, plan: Plan, most: int, stop: Stop | None = None) -> list[tuple[Value, ...]]:
        """At most so many rows of an answer that is only looked at: over few rows by the second working, which is the quicker.

        Raises CannotAnswer.
        """
        if self.rows_read(plan) < _SIDE_BY_SIDE:
            try:
                worked = self._worked.get(plan) or work(plan, self.engine.column, self.sizes, most=most)
            except (Doubled, OverflowError):
                return self._run(self.code(plan), stop, most)[1]
            if worked.total <= most:
                self._worked.put(plan, worked)
            return worked.rows[:most]
        return self._run(self.code(plan), stop, most)[1]

    def _fetching(self, study: Study, stop: Stop) -> Fetch:
        """What gives a study the rows of its further plans, and tells how far it is."""
        wanted, numbers = looks_of(study), count(1)

        def fetch(plan: Plan) -> list[tuple[Value, ...]] | None:
            of = f" of {wanted}" if wanted else ""
            stop.tell(f"looking at it, {next(numbers)}{of}")
            return self._held(plan, stop)

        return fetch

    def _held(self, plan: Plan, stop: Stop) -> list[tuple[Value, ...]] | None:
        """All rows of a plan that a study needs; None where they are more than are kept. Raises CannotAnswer, and WasStopped."""
        if stop.asked():
            raise WasStopped
        found = self.glance(plan, MOST_ROWS + 1, stop)
        return None if len(found) > MOST_ROWS else found

    def csv(self, answered: Answered) -> Iterator[str]:
        """All rows of an answer as CSV, a piece at a time. Raises CannotAnswer."""
        columns = [(n, answered.schema[n].type) for n in answered.columns]
        yield from csv_pieces(columns, [answered.rows] if answered.has_own_rows else self.batches(answered.plan))

    def batches(self, plan: Plan, stop: Stop | None = None) -> Iterator[Sequence[Sequence[Value]]]:
        """All rows of an answer, some at a time. Raises CannotAnswer, and WasStopped."""
        sql = self.code(plan)
        try:
            yield from self.engine.batches(sql, stop)
        except duckdb.Error as error:
            raise self._refused(sql) from error

    def rows_read(self, plan: Plan) -> int:
        """Rows of all tables that a plan reads."""
        return sum(self.sizes[step.table][0] for step in all_steps(plan) if isinstance(step, Take))

    def waits(self, plan: Plan) -> bool:
        """True for a plan over so many rows that its answer is shown before it is worked again."""
        return self.rows_read(plan) > self.engine.limits.twice_rows

    def code(self, plan: Plan, dialect: DialectName = "duckdb") -> str:
        """The plan as SQL of a dialect. Raises CannotAnswer where that cannot say it."""
        try:
            return render(plan_sql(plan, self.catalogue, dialect), dialect)
        except sqlglot.UnsupportedError as error:
            raise CannotAnswer(f"This cannot be said in the dialect {dialect}: {error}.") from error

    def script(self, plan: Plan) -> str:
        """The plan as a script of pandas over the files."""
        return plan_python(plan, self.catalogue, {n: self.readings[n] for n in tables_of(plan)})

    def answer(
        self,
        plan: Plan,
        as_of: dt.date,
        *,
        wish: ChartWish | None = None,
        study: Study | None = None,
        twice: bool = True,
        stop: Stop | None = None,
    ) -> Answered:
        """The answer of a typed plan, or what a study says of its rows.

        Without `twice` the second working, and with it the row counts, are still to come.

        Raises CannotAnswer, and WasStopped where `stop` stopped it.
        """
        start = time.perf_counter()
        stop = stop or Stop()
        typed = tuple(schemas(plan, self.catalogue))
        checks = check_before(plan, self.catalogue, as_of)
        sql = self.code(plan)
        worked: Worked | None = None
        problem: Check | None = words.SECOND_FOLLOWS
        stop.tell("working it out")
        if not twice:
            columns, rows, total = self._first(sql, stop)
            problem = self._doubling(plan, stop) or problem
        elif self.rows_read(plan) < _SIDE_BY_SIDE:
            columns, rows, total = self._first(sql, stop)
            worked, problem = self._second(plan, stop)
        else:
            with ThreadPoolExecutor(1) as beside:
                second = beside.submit(self._second, plan, stop)
                columns, rows, total = self._first(sql, stop)
                worked, problem = second.result()
        if worked is not None:
            agreement = check_agreement(columns, rows, total, worked, plan)
            if agreement.weight == "stop":
                log.error("the two workings disagree on %s", _without_values(sql))
            checks = [agreement, *checks]
        elif problem is not None:
            checks = [problem, *checks]
        answer = Answer(plan, typed, columns, rows, total)
        checks += check_after(answer, worked, self.catalogue)
        drawing = chart(answer, wish)
        found = studied(study, answer, as_of, self._fetching(study, stop)) if study is not None and rows else None
        kinds = kinds_for(answer)
        if found is not None:
            # What a study looks at more closely is said once.
            closer = {check.name for check in found.checks}
            checks = [*(c for c in checks if c.name not in closer), *found.checks]
            if found.table is not None:
                kinds = ()
            if found.chart is not None and (wish is None or wish.kind == found.kind or not kinds):
                drawing = Drawing(found.chart, kind=found.kind)
            if found.kind in ("bridge", "spans") and found.chart is not None:
                kinds = (found.kind, *kinds)
        own = found.table if found is not None else None
        python = self.script(plan)
        if found is not None and found.code is not None:
            python = found.code(python, self.script)
        return Answered(
            plan=plan,
            schema=own.schema if own is not None else answer.schema,
            columns=own.columns if own is not None else columns,
            rows=own.rows if own is not None else rows,
            total=len(own.rows) if own is not None else total,
            finding=_found(answer, checks, found, periods_in_part(plan, typed, self.catalogue, as_of)),
            chart=drawing.spec,
            chart_note=drawing.note,
            chart_kind=drawing.kind,
            chart_kinds=kinds,
            sql=sql,
            python=python,
            second_to_come=not twice and problem is words.SECOND_FOLLOWS,
            proof=Proof(tuple(proof_steps(plan, worked.flow if worked else None)), tuple(checks)),
            seconds=time.perf_counter() - start,
            studied=found,
        )

    def _first(self, sql: str, stop: Stop) -> tuple[tuple[str, ...], list[tuple[Value, ...]], int]:
        """The engine's working: columns, the rows that are kept, and how many there are."""
        columns, rows = self._run(sql, stop, MOST_ROWS + 1)
        if len(rows) <= MOST_ROWS:
            return columns, rows, len(rows)
        total = self._run(f"SELECT count(*) FROM (\n{sql}\n) AS answer", stop)[1][0][0]
        assert isinstance(total, int)
        return columns, rows[:MOST_ROWS], total

    def _run(
        self, sql: str, stop: Stop | None, most: int | None = None
    ) -> tuple[tuple[str, ...], list[tuple[Value, ...]]]:
        try:
            return self.engine.run(sql, stop, most)
        except duckdb.Error as error:
            raise self._refused(sql) from error

    def _refused(self, sql: str) -> CannotAnswer:
        log.exception("the engine refused %s", _without_values(sql))
        return CannotAnswer("The engine could not work this plan; the log has the details.")

    def _second(self, plan: Plan, stop: Stop) -> tuple[Worked | None, Check | None]:
        needed = _BYTES_A_CELL * self._cells(plan)
        if needed > self.engine.limits.memory_gb * GIGABYTE:
            size = f"it would take about {needed / GIGABYTE:.0f} GB of memory"
            return None, words.worked_once(size)
        while not self._second_workings.acquire(timeout=0.05):
            if stop.asked():
                raise WasStopped
        try:
            known = self._worked.get(plan)
            return known or work(plan, self.engine.column, self.sizes, stop.asked, MOST_ROWS), None
        except Doubled as error:
            return None, words.join_would_double(str(error))
        except OverflowError as error:
            return None, words.worked_once(str(error))
        except Stopped as error:
            raise WasStopped from error
        finally:
            self._second_workings.release()

    def _cells(self, plan: Plan) -> int:
        """Cells that the second working holds: the rows of each table, and a few columns of each."""
        named = {n for step in all_steps(plan) if isinstance(step, Keep) for n in columns_of(step.condition)}
        return self.rows_read(plan) * (4 + len(named))

    def _doubling(self, plan: Plan, stop: Stop) -> Check | None:
        """Joins whose keys do not prove that rows stay single, looked at on the engine while the second working is to come."""
        for step in unproven_joins(plan, self.catalogue):
            other = plan_sql(step.other, self.catalogue)
            keys = [exp.column(p.right, quoted=True) for p in step.on]
            known = [is_known(key) for key in keys]
            twice = exp.select(*keys).from_(other.subquery("o")).where(*known).group_by(*keys)
            twice = twice.having("COUNT(*) > 1").limit(1)
            if self._run(render(twice), stop)[1]:
                detail = f"rows find several partners by {', '.join(p.right for p in step.on)}"
                return words.join_would_double(detail)
        return None


def _found(answer: Answer, checks: Sequence[Check], study: Studied | None, in_part: InPart) -> str:
    """The finding, or why nothing can be said to have been found."""
    stopped = next((check for check in checks if check.weight == "stop"), None)
    if stopped is None or not answer.rows:
        return study.finding if study is not None else finding(answer, in_part)
    return f"{stopped.sentence}."


def _without_values(sql: str) -> str:
    """A query as the log may tell it."""
    tree = sqlglot.parse_one(sql, dialect="duckdb")
    return tree.transform(lambda n: exp.Placeholder() if isinstance(n, exp.Literal) else n).sql(dialect="duckdb")


def json_value(value: Value) -> str | int | float | bool | None:
    """A cell for JSON: exact decimals as numbers, dates as ISO text."""
    if isinstance(value, Decimal):
        return float(value)
    if isinstance(value, dt.datetime):
        return value.isoformat(sep=" ")
    if isinstance(value, (dt.date, dt.time)):
        return value.isoformat()
    if isinstance(value, float) and value != value:
        return None
    return value
