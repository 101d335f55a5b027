"""Answers whose steps were changed by hand."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from gumption.core.editing.draft import Draft, History, plan_up_to
from gumption.core.editing.edits import Edit, edited, form_at
from gumption.core.editing.forms import Form, StepKind
from gumption.core.model.wish import ChartWish
from gumption.core.plan.fields import PlanError
from gumption.core.plan.steps import Plan
from gumption.core.plan.typing import schema_of
from gumption.core.plan.words import plan_words
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.limits import Stop
from gumption.server.desk import Chain, Desk
from gumption.server.problems import ApiProblem
from gumption.server.schemas import AnsweredOut, AnswerOut, ByHandOut, DeclinedOut, WorkedOut
from gumption.server.sending import summary, worked_out
from gumption.store.records import TrailEntry


@contextmanager
def _for_the_person() -> Iterator[None]:
    """A step that does not fit is told as it is: the person made it here, with a form of ours."""
    try:
        yield
    except PlanError as error:
        raise ApiProblem.of(422, error, f"{error.problem}.") from error


def plan_of(desk: Desk, chain: Chain, day: dt.date) -> Plan | None:
    """The plan of a chain's last answer; None where it has none."""
    if chain[-1].by_hand:
        return _fitting(desk, history_of(desk, chain, day))
    found = desk.understood_entry(chain, day)
    return found.readings[0].plan if found.status == "answered" else None


def history_of(desk: Desk, chain: Chain, day: dt.date) -> History:
    """All that the plan of a chain's last answer was. Raises ApiProblem where it has none."""
    if chain[-1].by_hand:
        return History.model_validate_json(chain[-1].by_hand)
    plan = plan_of(desk, chain, day)
    if plan is None:
        raise ApiProblem(404, "There are no steps to change.", "Ask the question in other words.")
    return History(drafts=(Draft(plan=plan),))


def _fitting(desk: Desk, history: History) -> Plan:
    """The plan as it was changed by hand. Raises CannotAnswer where the tables are no longer those that it was made for."""
    try:
        plan = history.now.worked(desk.catalogue)
        schema_of(plan, desk.catalogue)
    except PlanError as error:
        problem = f"The steps changed by hand no longer fit the tables: {error}."
        raise CannotAnswer(problem) from error
    return plan


def by_hand_out(
    desk: Desk,
    entry: TrailEntry,
    history: History,
    day: dt.date,
    stop: Stop,
    *,
    twice: bool = False,
    wish: ChartWish | None = None,
) -> AnswerOut:
    """An answer whose steps were changed by hand, as it is sent."""
    draft = history.now
    asked: dict[str, Any] = {
        "id": entry.id,
        "question": entry.question,
        "follows": entry.parent,
        "own_terms": [],
        "glosses": [],
        "unread": [],
        "alternatives": [],
    }
    try:
        answered = desk.answer_plan(_fitting(desk, history), day, stop=stop, twice=twice, wish=wish)
    except WasStopped:
        raise
    except CannotAnswer as error:
        return DeclinedOut(**asked, problem=str(error))
    return AnsweredOut(
        **asked,
        **worked_out(answered, draft).model_dump(),
        goes_on=True,
        sure=1.0,
        lesson=None,
        terms=[],
        doubt=None,
        by_hand=ByHandOut(undo=history.at > 0, redo=history.at + 1 < len(history.drafts), said=draft.said),
    )


def step_form(
    desk: Desk, _stop: Stop, chain: Chain, day: dt.date, path: tuple[int, ...], added: StepKind | None
) -> Form:
    """The form of a step of the last answer of a chain, or of one to be `added` before it. Raises ApiProblem."""
    with _for_the_person():
        return form_at(history_of(desk, chain, day).now, path, desk.catalogue, added)


def step_rows(desk: Desk, stop: Stop, chain: Chain, day: dt.date, path: tuple[int, ...]) -> WorkedOut:
    """The rows as they come out of a step of the last answer of a chain. Raises ApiProblem."""
    with _for_the_person():
        plan = plan_up_to(history_of(desk, chain, day).now, path, desk.catalogue)
    return worked_out(desk.answer_plan(plan, day, stop=stop))


def edited_by_hand(desk: Desk, stop: Stop, said: Edit, chain: Chain, day: dt.date) -> tuple[TrailEntry, AnswerOut]:
    """The last answer of a chain with its steps changed by hand. Raises ApiProblem, CannotAnswer, and WasStopped."""
    before = chain[-1]
    history = history_of(desk, chain, day)
    with _for_the_person():
        after = edited(history, said, desk.catalogue)
        plan = after.now.worked(desk.catalogue)
    answered = desk.answer_plan(plan, day, stop=stop)
    # What a person called it stays.
    own = before.by_hand and before.title not in {d.said for d in history.drafts}
    entry = TrailEntry(
        before.id if before.by_hand else 0,
        before.parent if before.by_hand else before.id,
        before.question,
        None,
        "answered",
        answered.cautions,
        summary(answered),
        plan_words(plan),
        holds=sum(check.weight == "holds" for check in answered.proof.checks),
        finding=answered.finding,
        title=before.title if own else after.now.said,
        by_hand=after.model_dump_json(),
    )
    return entry, by_hand_out(desk, entry, after, day, stop)
