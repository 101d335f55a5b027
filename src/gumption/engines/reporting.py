"""An answer as a page of the folio keeps it."""

from __future__ import annotations

from collections.abc import Mapping

from gumption.core.folio.working import CheckLine, Working, packed
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.style import written
from gumption.core.plan.steps import Limit, tables_of
from gumption.core.plan.typing import schemas
from gumption.core.present.answer import Answer
from gumption.core.present.figures import figures
from gumption.engines.answering import Answered

MOST_KEPT = 1_000
"""Rows of an answer that a page keeps; of more it says so."""


def working_of(
    answered: Answered,
    catalogue: Catalogue,
    *,
    question: str,
    reading: str,
    doubt: str = "",
    note: str = "",
    versions: Mapping[str, int] | None = None,
) -> Working:
    """What an answer came to; `versions` says which version each table is, where it has several."""
    steps = []
    for step in answered.proof.steps:
        rows = f" ({written(step.rows.rows_in)} rows in, {written(step.rows.rows_out)} out)" if step.rows else ""
        steps.append(f"{step.words.verb} {step.words.rest}{rows}")
    tables = {name: (versions or {}).get(name, 1) for name in tables_of(answered.plan)}
    return Working(
        question=question,
        reading=reading,
        doubt=doubt,
        finding=answered.finding,
        fields={name: answered.schema[name] for name in answered.columns},
        rows=tuple(tuple(packed(v) for v in row) for row in answered.rows[:MOST_KEPT]),
        total=answered.total,
        added=_added(answered, catalogue),
        chart=answered.chart,
        kind=answered.chart_kind,
        sql=answered.sql,
        python=answered.python,
        steps=tuple(steps),
        checks=tuple(CheckLine(weight=c.weight, sentence=c.sentence, detail=c.detail) for c in answered.proof.checks),
        tables=tables,
        note=note,
    )


def _added(answered: Answered, catalogue: Catalogue) -> tuple[str, ...]:
    """The columns whose rows add up to something."""
    # What a list that was cut adds up to is no total of anything.
    if answered.has_own_rows or any(isinstance(step, Limit) for step in answered.plan.steps):
        return ()
    typed = tuple(schemas(answered.plan, catalogue))
    answer = Answer(answered.plan, typed, answered.columns, answered.rows, answered.total)
    return tuple(number.name for number in figures(answer).numbers if number.adds_up)
