"""A plan to a checked answer: run on the engine, worked again, compared, and presented."""

from __future__ import annotations

import datetime as dt
import logging
import time
from dataclasses import dataclass
from decimal import Decimal

import duckdb

from gumption.core.checks.after import check_after, check_agreement
from gumption.core.checks.before import check_before, groups_many
from gumption.core.checks.check import Check
from gumption.core.code.python import plan_python
from gumption.core.code.sql import plan_sql, render
from gumption.core.evaluate.joins import JoinMultiplies
from gumption.core.evaluate.run import StepRows, Worked, work
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.files import FileReading
from gumption.core.model.types import Value
from gumption.core.plan.steps import Plan, Take, tables_of
from gumption.core.plan.typing import Schema, schema_of
from gumption.core.plan.words import StepWords, step_words
from gumption.core.present.answer import Answer
from gumption.core.present.chart import Spec, chart
from gumption.core.present.finding import finding
from gumption.engines.duck import DuckEngine

log = logging.getLogger(__name__)

TWICE_AT_ONCE = 2_000_000
"""Rows read up to which both workings are done before the answer is shown."""


@dataclass(frozen=True)
class Proof:
    """The plan's steps in words with their rows, and every check."""

    steps: tuple[tuple[StepWords, StepRows | None], ...]
    """Each step in words; its rows are None until it was worked a second time."""
    checks: tuple[Check, ...]


@dataclass(frozen=True)
class Answered:
    """A plan's answer with all that is shown beside it."""

    plan: Plan
    schema: Schema
    columns: tuple[str, ...]
    rows: list[tuple[Value, ...]]
    finding: str
    chart: Spec | None
    sql: str
    python: str
    proof: Proof
    seconds: float

    @property
    def cautions(self) -> int:
        return sum(check.weight != "holds" for check in self.proof.checks)


class CannotAnswer(Exception):
    """A plan that the engine could not work, in words for a person."""


class Answerer:
    """Answers plans over the tables of one workspace."""

    def __init__(self, catalogue: Catalogue, engine: DuckEngine, readings: dict[str, FileReading]) -> None:
        self.catalogue, self.engine, self.readings = catalogue, engine, readings
        self.sizes = {t.name: (t.rows, tuple(c.name for c in t.columns)) for t in catalogue.tables}

    def rows(self, plan: Plan) -> tuple[tuple[str, ...], list[tuple[Value, ...]]]:
        """The engine's answer alone, for the readings that stand behind the first."""
        return self._run(render(plan_sql(plan, self.catalogue)))

    def waits(self, plan: Plan) -> bool:
        """True for a plan over so many rows that its answer is shown before it is worked again."""
        return sum(self.sizes[name][0] for name in tables_of(plan)) > TWICE_AT_ONCE

    def answer(self, plan: Plan, as_of: dt.date, *, twice: bool = True) -> Answered:
        """The answer of a typed plan; without `twice` the second working, and with it the row counts, are still to come."""
        start = time.perf_counter()
        schema = schema_of(plan, self.catalogue)
        checks = check_before(plan, self.catalogue, as_of)
        sql = render(plan_sql(plan, self.catalogue))
        columns, rows = self._run(sql)
        worked, problem = (
            self._second(plan) if twice else (None, Check("worked twice", "caution", "The second working follows"))
        )
        flow = worked.flow if worked else (None,) * len(plan.steps)
        if worked is not None:
            agreement = check_agreement(rows, worked)
            if agreement.weight == "stop":
                log.error("the two workings disagree: %s", plan.model_dump_json())
            checks = [agreement, *checks, *check_after(plan, worked, self.catalogue)]
        elif problem is not None:
            checks = [problem, *checks]
        answer = Answer(plan, schema, columns, rows)
        if answer.group is not None and answer.group.by:
            checks += groups_many(len(rows))
        first = plan.steps[0]
        assert isinstance(first, Take)
        steps = tuple((step_words(s, first.table), f) for s, f in zip(plan.steps, flow, strict=True))
        return Answered(
            plan=plan,
            schema=schema,
            columns=columns,
            rows=rows,
            finding=finding(answer),
            chart=chart(answer),
            sql=sql,
            python=plan_python(plan, self.catalogue, {n: self.readings[n] for n in tables_of(plan)}),
            proof=Proof(steps, tuple(checks)),
            seconds=time.perf_counter() - start,
        )

    def _run(self, sql: str) -> tuple[tuple[str, ...], list[tuple[Value, ...]]]:
        try:
            return self.engine.run(sql)
        except duckdb.Error as error:
            log.exception("the engine refused: %s", sql)
            raise CannotAnswer("The engine could not work this plan; the log has the details.") from error

    def _second(self, plan: Plan) -> tuple[Worked | None, Check | None]:
        try:
            return work(plan, self.engine.column, self.sizes), None
        except JoinMultiplies as error:
            return None, Check("worked twice", "stop", "A join would double rows; do not use this answer", str(error))
        except OverflowError as error:
            return None, Check("worked twice", "caution", "Worked once only", str(error))


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
