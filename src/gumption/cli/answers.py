"""Questions over opened files: the answer as one object, in the forms that `ask` and `batch` write."""

from __future__ import annotations

import datetime as dt
import time
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from gumption.cli.files import BadUsage, Opened
from gumption.core.plan.document import read_plan
from gumption.core.plan.fields import PlanError
from gumption.core.plan.words import plan_words
from gumption.core.reading.read import QuestionReader, Reading, Understanding
from gumption.engines.answering import Answered, json_value
from gumption.engines.choosing import chosen
from gumption.engines.errors import CannotAnswer

MOST_ALTERNATIVES = 2


@dataclass(frozen=True)
class Said:
    """A question's understanding and, where it was answered, its answer."""

    understanding: Understanding
    answered: Answered | None
    alternatives: list[dict[str, Any]]
    seconds: float

    @property
    def reading(self) -> Reading | None:
        """The reading that a follow-up goes on from."""
        return self.understanding.readings[0] if self.understanding.readings else None


def ask(opened: Opened, reader: QuestionReader, question: str, as_of: dt.date, earlier: Reading | None = None) -> Said:
    """Read, plan, work and check one question."""
    start = time.perf_counter()
    understanding = chosen(reader.read(question, as_of, earlier), opened.answerer)
    answered: Answered | None = None
    alternatives: list[dict[str, Any]] = []
    if understanding.status == "answered":
        try:
            first = understanding.readings[0]
            answered = opened.answerer.answer(first.plan, as_of, wish=first.ask.chart, study=first.study)
        except CannotAnswer as error:
            understanding = Understanding("declined", problem=str(error), glosses=understanding.glosses)
        else:
            alternatives = [a for r in understanding.readings[1:] if (a := _alternative(opened, r))][:MOST_ALTERNATIVES]
    else:
        # Each choice, or what is near, with the answer that it would give.
        alternatives = [a for r in understanding.readings if (a := _alternative(opened, r))]
    return Said(understanding, answered, alternatives, time.perf_counter() - start)


def work_plan(opened: Opened, path: str, as_of: dt.date) -> Said:
    """Work and check a plan that stands in a file. Raises BadUsage for one that does not fit."""
    start = time.perf_counter()
    try:
        plan = read_plan(Path(path).read_text(encoding="utf-8"), opened.catalogue)
    except (OSError, UnicodeDecodeError) as error:
        raise BadUsage(f"{path}: the plan could not be opened ({error}).") from error
    except PlanError as error:
        raise BadUsage(f"{path}: {error}.") from error
    try:
        answered = opened.answerer.answer(plan, as_of)
    except CannotAnswer as error:
        return Said(Understanding("declined", problem=str(error)), None, [], time.perf_counter() - start)
    return Said(Understanding("answered"), answered, [], time.perf_counter() - start)


def _alternative(opened: Opened, reading: Reading) -> dict[str, Any] | None:
    try:
        columns, rows = opened.answerer.rows(reading.plan)
    except CannotAnswer:
        return None
    return {"reading": reading.words, "columns": list(columns), "rows": [[json_value(v) for v in row] for row in rows]}


def as_object(said: Said) -> dict[str, Any]:
    """Everything about an answer, for `--format json`."""
    understanding, answered = said.understanding, said.answered
    return {
        "status": "declined" if understanding.status == "told" else understanding.status,
        "reading": _reading_words(said),
        "finding": answered.finding if answered else understanding.problem,
        "columns": list(answered.columns) if answered else [],
        "rows": [[json_value(v) for v in row] for row in answered.rows] if answered else [],
        "total": answered.total if answered else 0,
        "unread": list(understanding.unread),
        "doubt": understanding.doubt,
        "alternatives": said.alternatives,
        "sql": answered.sql if answered else None,
        "python": answered.python if answered else None,
        "checks": [
            {"name": c.name, "weight": c.weight, "sentence": c.sentence, "detail": c.detail}
            for c in (answered.proof.checks if answered else ())
        ],
        "chart": answered.chart if answered else None,
        "seconds": round(said.seconds, 4),
    }


def _reading_words(said: Said) -> str:
    if said.answered is None:
        return said.understanding.problem
    return said.reading.words if said.reading is not None else plan_words(said.answered.plan)


def as_line(question_id: str, said: Said) -> dict[str, Any]:
    """One line of `batch`."""
    whole = as_object(said)
    kept = ("status", "reading", "columns", "rows", "unread", "doubt", "alternatives", "seconds")
    return {"id": question_id, **{key: whole[key] for key in kept}}
