"""What was worked out, as it is sent."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from math import inf

from gumption.core.checks.words import dropped_words
from gumption.core.editing.draft import Draft, step_at
from gumption.core.model.lesson import Lesson
from gumption.core.model.names import plural
from gumption.core.model.style import written
from gumption.core.model.term import Term
from gumption.core.model.types import Value
from gumption.core.plan.fields import Field
from gumption.core.plan.words import plan_words, step_words
from gumption.core.present.numbers import column_cells, head, is_measure
from gumption.core.study.look import Remark
from gumption.core.study.studied import Studied
from gumption.engines.answering import Answered, json_value
from gumption.server.schemas import (
    CheckOut,
    FieldOut,
    KeepsOut,
    LessonOut,
    RemarkOut,
    StepOut,
    StudyOut,
    TermOut,
    WorkedOut,
)

MOST_ROWS_SENT = 1_000


def with_zone(at: dt.datetime | None) -> dt.datetime | None:
    """A time of the database, which goes by this machine's clock."""
    return None if at is None else at.astimezone()


def term_out(term: Term) -> TermOut:
    """A word of the house's own, as it is sent."""
    return TermOut(term=term, meaning=term.meaning)


def lesson_out(lesson: Lesson) -> LessonOut:
    return LessonOut(
        id=lesson.id, kind=lesson.kind, question=lesson.question, reading=lesson.reading, because=lesson.because
    )


def summary(answered: Answered) -> str:
    """An answer in a few words, for the trail."""
    if len(answered.rows) == 1 and len(answered.columns) == 1:
        value = answered.rows[0][0]
        if value is None:
            return "missing"
        if isinstance(value, int):
            return written(value)
        return (
            written(float(value), ",.2f") if not isinstance(value, str) and hasattr(value, "__float__") else str(value)
        )
    return plural(answered.total, "row")


def fields_out(schema: dict[str, Field]) -> list[FieldOut]:
    return [
        FieldOut(name=n, label=head(n, f), type=f.type, role=f.role, unit=f.unit, scale=f.scale, measures=is_measure(f))
        for n, f in schema.items()
    ]


def rows_out(rows: Sequence[Sequence[Value]]) -> list[list[str | int | float | bool | None]]:
    """Rows as raw values that JSON can hold."""
    return [[json_value(v) for v in row] for row in rows]


def cells_out(rows: Sequence[Sequence[Value]], schema: dict[str, Field]) -> list[list[str | None]]:
    """Rows as people read them."""
    columns = [column_cells([row[i] for row in rows], field) for i, field in enumerate(schema.values())]
    return [list(row) for row in zip(*columns, strict=True)]


def remarks_out(remarks: Sequence[Remark]) -> list[RemarkOut]:
    """What stands out, as it is sent."""
    return [RemarkOut(sentence=r.sentence, question=r.question, chart=r.chart, score=r.score) for r in remarks]


def _study_out(study: Studied) -> StudyOut:
    return StudyOut(
        method=list(study.method),
        ways=list(study.ways),
        remarks=remarks_out(study.remarks),
        keeps=KeepsOut(column=k.column, question=k.question) if (k := study.keeps) is not None else None,
        own_rows=study.table is not None,
    )


def worked_out(answered: Answered, draft: Draft | None = None) -> WorkedOut:
    """An answer with its proof, as it is sent; with the steps that are off where it is of a `draft`."""
    steps = [
        StepOut(
            kind=step.kind,
            verb=step.words.verb,
            rest=step.words.rest,
            path=list(draft.path_of(step.path) if draft is not None else step.path),
            rows_in=step.rows.rows_in if step.rows else None,
            rows_out=step.rows.rows_out if step.rows else None,
            dropped=[dropped_words(d) for d in step.rows.dropped] if step.rows else [],
        )
        for step in answered.proof.steps
    ]
    if draft is not None:
        for path in draft.off:
            step = step_at(draft.plan, path)
            verb, rest = step_words(step, "rows")
            place = list(path)
            off = StepOut(
                kind=step.step, verb=verb, rest=rest, path=place, off=True, rows_in=None, rows_out=None, dropped=[]
            )
            steps.append(off)
    # The steps of another plan stand before the one that brings it in.
    steps.sort(key=lambda s: (*s.path, inf))
    checks = [
        CheckOut(name=c.name, weight=c.weight, sentence=c.sentence, detail=c.detail, cure=c.cure)
        for c in answered.proof.checks
    ]
    schema = {n: answered.schema[n] for n in answered.columns}
    sent = answered.rows[:MOST_ROWS_SENT]
    study = answered.studied
    return WorkedOut(
        reading=plan_words(answered.plan),
        finding=answered.finding,
        fields=fields_out(schema),
        rows=rows_out(sent),
        cells=cells_out(sent, schema),
        total=answered.total,
        chart=answered.chart,
        chart_note=answered.chart_note,
        chart_kind=answered.chart_kind,
        chart_kinds=list(answered.chart_kinds),
        sql=answered.sql,
        python=answered.python,
        plan=answered.plan.model_dump(exclude_none=True),
        steps=steps,
        checks=checks,
        seconds=answered.seconds,
        study=None if study is None else _study_out(study),
        second_to_come=answered.second_to_come,
    )
