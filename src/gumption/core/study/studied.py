"""A study worked over an answer's rows: what it says and draws in place of the plain answer."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TypeAlias

from gumption.core.checks.check import Check
from gumption.core.model.types import Role, Type, Value
from gumption.core.model.wish import Kind
from gumption.core.plan.fields import Field, Schema
from gumption.core.plan.steps import Plan
from gumption.core.present.answer import Answer
from gumption.core.present.marks import Spec
from gumption.core.study.bridge import bridge
from gumption.core.study.change import Change
from gumption.core.study.clusters import (
    Clusters,
    clusters_chart,
    clusters_checks,
    clusters_code,
    clusters_finding,
    clusters_kept,
    clusters_members,
    clusters_method,
    clusters_table,
    clusters_words,
    grouped,
)
from gumption.core.study.coming import coming
from gumption.core.study.compared import (
    Compared,
    compared_chart,
    compared_checks,
    compared_code,
    compared_finding,
    compared_method,
    compared_words,
    figure_field,
    groups_of,
    test_of,
)
from gumption.core.study.described import (
    Described,
    described_finding,
    described_method,
    described_words,
    facts_of,
)
from gumption.core.study.forecast import (
    Forecast,
    forecast_checks,
    forecast_code,
    forecast_finding,
    forecast_method,
    forecast_table,
    forecast_words,
    lines_of,
)
from gumption.core.study.goes_with import (
    GoesWith,
    found_in,
    goes_with_chart,
    goes_with_checks,
    goes_with_code,
    goes_with_finding,
    goes_with_method,
    goes_with_table,
    goes_with_words,
)
from gumption.core.study.look import Look, Remark
from gumption.core.study.look_script import look_code
from gumption.core.study.looked import LOOK_METHOD, look_at, look_checks, look_finding
from gumption.core.study.pieces import pieces_of
from gumption.core.study.related import (
    Related,
    related_chart,
    related_checks,
    related_code,
    related_finding,
    related_method,
    related_words,
    relation_of,
)
from gumption.core.study.telling import change_checks, change_finding, change_words, method_words

Study: TypeAlias = Change | Forecast | Compared | Related | Look | GoesWith | Clusters | Described
Code: TypeAlias = Callable[[str, Callable[[Plan], str]], str]
"""From the plan's script, and what makes one of another plan, the script of a study."""
Fetch: TypeAlias = Callable[[Plan], Sequence[Sequence[Value]] | None]
"""The rows of a further plan that a study needs; None where they are too many to be held."""
MOST_PAIRS = 2
"""Pairs of columns that a change is offered to be taken apart by."""


@dataclass(frozen=True)
class Table:
    """Rows of a study's own, where they are not those of its plan."""

    schema: Schema
    columns: tuple[str, ...]
    rows: list[tuple[Value, ...]]


@dataclass(frozen=True)
class Kept:
    """What each row came to, as a table that may be kept: its column, a question that goes by it, and the rows."""

    column: str
    question: str
    table: Table


@dataclass(frozen=True)
class Studied:
    """What a study found, how it was worked, and what must hold of it."""

    finding: str
    chart: Spec | None
    kind: Kind
    """The kind of the chart."""
    checks: tuple[Check, ...]
    method: tuple[str, ...]
    ways: tuple[str, ...] = ()
    """What else it can be taken apart by, the way that was taken first."""
    table: Table | None = None
    code: Code | None = None
    """The plan's script, or one of a further plan, with what the study does behind it."""
    remarks: tuple[Remark, ...] = ()
    """What stands out, each with a question that shows it."""
    keeps: Kept | None = None


def study_words(study: Study) -> str:
    """How a question was understood that asks for a study."""
    match study:
        case Change():
            return change_words(study)
        case Forecast():
            return forecast_words(study)
        case Compared():
            return compared_words(study)
        case Look(further=(_, *_)):
            return "what stands out in all tables"
        case Look(subject=subject, where=where):
            return f"what stands out in {subject}{f' {where}' if where else ''}"
        case GoesWith():
            return goes_with_words(study)
        case Clusters():
            return clusters_words(study)
        case Described():
            return described_words(study)
        case Related():
            return related_words(study)


def looks_of(study: Study) -> int:
    """How many further plans a study works, where that is known before it does; else nought."""
    return sum(len(one.probes) for one in (study, *study.further)) if isinstance(study, Look) else 0


def studied(study: Study, answer: Answer, day: dt.date, fetch: Fetch) -> Studied | None:
    """A study over the rows of its plan, on a day; `fetch` gives those of further plans. None where these are too many."""
    match study:
        case Change():
            return _changed(study, answer, day)
        case Forecast():
            return _foretold(study, answer)
        case Compared():
            return _compared(study, answer, fetch)
        case Related():
            return _related(study, answer, fetch)
        case Look():
            return _looked(study, fetch)
        case GoesWith():
            return _goes_with(study, answer, fetch)
        case Clusters():
            return _clusters(study, answer)
        case Described():
            return _described(study, fetch)


def _changed(study: Change, answer: Answer, day: dt.date) -> Studied:
    pieces = pieces_of(study, answer.schema, answer.columns, answer.rows)
    field = answer.schema[study.columns.change]
    single = [w for w in study.ways[1:] if len(w.called) == 1]
    paired = [w for w in study.ways[1:] if len(w.called) > 1]
    return Studied(
        change_finding(pieces, field),
        bridge(pieces, field),
        "bridge",
        change_checks(pieces, field, day),
        method_words(study),
        tuple(dict.fromkeys(" and ".join(w.called) for w in (study.way, *single, *paired[:MOST_PAIRS]))),
    )


def _foretold(study: Forecast, answer: Answer) -> Studied:
    lines = lines_of(study, answer.schema, answer.columns, answer.rows)
    return Studied(
        forecast_finding(lines),
        coming(lines),
        "line",
        forecast_checks(lines),
        forecast_method(lines),
        table=Table(*forecast_table(lines)) if lines.told else None,
        code=lambda python, _: forecast_code(lines, python),
    )


def _compared(study: Compared, answer: Answer, fetch: Fetch) -> Studied:
    groups = groups_of(study, answer.schema, answer.columns, answer.rows)
    test = test_of(study, groups, fetch(study.detail) if study.detail is not None else None)
    field = figure_field(study, answer.schema, answer.columns)
    return Studied(
        compared_finding(study, groups, test, field),
        compared_chart(study, groups, field),
        "spans",
        compared_checks(study, groups, test),
        compared_method(study, test),
        code=lambda python, script: compared_code(study, test, python, script),
    )


def _related(study: Related, answer: Answer, fetch: Fetch) -> Studied | None:
    pairs = answer.rows if study.each else fetch(study.pairs)
    if pairs is None:
        return None
    found = relation_of(study, pairs)
    return Studied(
        related_finding(study, found),
        related_chart(study, found),
        "dots",
        related_checks(study, found),
        related_method(study, found),
        code=lambda python, script: related_code(study, found, python, script),
    )


def _table_of(remarks: Sequence[Remark]) -> Table:
    """What was found and the question that shows it, a row each."""
    text = Field(Type.TEXT, Role.TEXT)
    return Table({"found": text, "question": text}, ("found", "question"), [(r.sentence, r.question) for r in remarks])


def _described(study: Described, fetch: Fetch) -> Studied:
    facts = facts_of(study, fetch)
    return Studied(
        described_finding(study, facts),
        None,
        "table",
        (),
        described_method(facts),
        table=_table_of(facts),
        remarks=tuple(facts),
    )


def _looked(study: Look, fetch: Fetch) -> Studied:
    remarks, looked_at, passed = look_at(study, fetch)
    return Studied(
        look_finding(study, remarks, looked_at),
        None,
        "table",
        look_checks(looked_at, passed),
        LOOK_METHOD,
        table=_table_of(remarks),
        remarks=tuple(remarks),
        code=lambda python, script: look_code(remarks, python, script),
    )


def _goes_with(study: GoesWith, answer: Answer, fetch: Fetch) -> Studied:
    rows = fetch(study.combinations)
    found = found_in(study, rows) if rows is not None else None
    field = answer.schema[answer.columns[-1]]
    return Studied(
        goes_with_finding(study, found, field),
        goes_with_chart(study, found, field) if found is not None else None,
        "spans",
        goes_with_checks(study, found),
        goes_with_method(study, found),
        table=Table(*goes_with_table(study, found, field)) if found is not None else None,
        code=lambda python, script: goes_with_code(study, found, python, script),
    )


def _clusters(study: Clusters, answer: Answer) -> Studied:
    found = grouped(study, answer.rows)
    keeps = None
    if found is not None:
        members = Table(*clusters_members(study, found, answer.schema, answer.columns, answer.rows))
        keeps = Kept(*clusters_kept(study), members)
    return Studied(
        clusters_finding(study, found),
        clusters_chart(study, found) if found is not None else None,
        "dots",
        clusters_checks(found),
        clusters_method(study, found),
        table=Table(*clusters_table(study, found)) if found is not None else None,
        code=lambda python, _: clusters_code(study, found, python),
        keeps=keeps,
    )
