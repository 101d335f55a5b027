"""Kept answers worked over a desk: kept for the first time, worked again as they were read, and mended."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass

from gumption.core.folio.mending import renamed
from gumption.core.folio.page import AskedThen, Kept
from gumption.core.folio.working import Working
from gumption.core.model.wish import ChartWish
from gumption.core.plan.document import read_plan
from gumption.core.plan.fields import PlanError
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import plan_words
from gumption.core.reading.doubts import doubt_of
from gumption.core.reading.read import Reading, Understanding
from gumption.core.study.studied import Study
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.limits import Stop
from gumption.engines.reporting import working_of
from gumption.server.by_hand import plan_of
from gumption.server.desk import Chain, Desk
from gumption.server.problems import ApiProblem
from gumption.store.records import TrailEntry

Versions = Mapping[str, int]
"""Which version each table is."""


@dataclass(frozen=True)
class WorkedAgain:
    """What a kept answer comes to now."""

    kept: Kept
    working: Working | None
    problem: str = ""
    """Why it cannot be worked."""
    mend: str = ""
    """How it could be kept from now on, as a sentence: by other names, or as its question is read now."""


def keep(desk: Desk, stop: Stop, chain: Chain, day: dt.date, drawn: str, versions: Versions) -> WorkedAgain:
    """The last answer of a chain as it can be kept. Raises ApiProblem where it is none, CannotAnswer and WasStopped."""
    asked = tuple(_asked(entry) for entry in chain)
    if chain[-1].by_hand:
        plan = plan_of(desk, chain, day)
        assert plan is not None
        kept = Kept(chain=asked, plan=_document(plan), reading=plan_words(plan), day=day, drawn=drawn)
        return _worked(desk, stop, kept, (plan, None, None), day, versions)
    found = desk.understood_entry(chain, day)
    if found.status != "answered" or not found.readings:
        raise ApiProblem(422, "There is no answer to keep.", "Ask the question in other words first.")
    return _worked(desk, stop, _kept_as(found, asked, day, drawn), _of(found.readings[0]), day, versions, found)


def work_again(desk: Desk, stop: Stop, kept: Kept, day: dt.date, versions: Versions) -> WorkedAgain:
    """A kept answer worked over the tables as they are now. Raises WasStopped.

    Where its question is still read as it was kept, times such as “last week” are those of today; where it is read
    otherwise by now, what was kept is worked, and the other reading offered.
    """
    by_hand = bool(kept.chain[-1].by_hand)
    then = None if by_hand else _read(desk, kept, kept.day)
    now = then if by_hand or day == kept.day else _read(desk, kept, day)
    if then is not None and now is not None and _document(then.readings[0].plan) == kept.plan:
        return _worked(desk, stop, kept, _of(now.readings[0]), day, versions, now)
    mend = f"It could be read as {now.readings[0].words}." if now is not None else ""
    try:
        plan = read_plan(kept.plan, desk.catalogue)
    except PlanError as error:
        named = renamed(kept.plan, desk.catalogue)
        return WorkedAgain(
            kept,
            None,
            f"It no longer fits the tables: {error}.",
            f"It seems that {named.words}." if named is not None else mend,
        )
    study = then.readings[0].study if then is not None else None
    found = _worked(desk, stop, kept, (plan, study, None), day, versions, note=_NOTE if mend else "")
    return WorkedAgain(found.kept, found.working, found.problem, mend)


_NOTE = "Worked as it was kept; its words would be read otherwise now."


def mend(desk: Desk, stop: Stop, kept: Kept, day: dt.date, versions: Versions) -> WorkedAgain:
    """A kept answer by the names that its tables have now, or as its question is read now, and kept so.

    Raises ApiProblem where neither can be, and WasStopped.
    """
    named = renamed(kept.plan, desk.catalogue)
    if named is not None:
        words = plan_words(named.plan)
        renewed = kept.model_copy(update={"plan": _document(named.plan), "reading": words, "day": day})
        return _worked(desk, stop, renewed, (named.plan, None, None), day, versions)
    found = None if kept.chain[-1].by_hand else _read(desk, kept, day)
    if found is None:
        raise ApiProblem(422, "Its question cannot be read over the tables as they are now.", "Ask it anew.")
    last = kept.chain[-1].model_copy(update={"reading": found.readings[0].words, "choice": None})
    anew = _kept_as(found, (*kept.chain[:-1], last), day, kept.drawn)
    return _worked(desk, stop, anew, _of(found.readings[0]), day, versions, found)


def _kept_as(found: Understanding, asked: tuple[AskedThen, ...], day: dt.date, drawn: str) -> Kept:
    reading = found.readings[0]
    return Kept(
        chain=asked,
        plan=_document(reading.plan),
        reading=reading.words,
        day=day,
        drawn=drawn,
        glossary=tuple(reading.terms),
    )


def _asked(entry: TrailEntry) -> AskedThen:
    return AskedThen(
        question=entry.question,
        choice=entry.choice,
        status=entry.status,
        reading=entry.reading,
        terms=entry.terms,
        by_hand=entry.by_hand,
    )


def _chain(kept: Kept) -> Chain:
    """The questions as the trail would have them."""
    return tuple(
        TrailEntry(0, None, a.question, a.choice, a.status, 0, "", a.reading, a.terms, by_hand=a.by_hand)
        for a in kept.chain
    )


def _read(desk: Desk, kept: Kept, day: dt.date) -> Understanding | None:
    """How the question is read on a day; None where it has no answer."""
    found = desk.understood_entry(_chain(kept), day)
    return found if found.status == "answered" and found.readings else None


def _document(plan: Plan) -> dict[str, object]:
    """A plan as it is kept: as JSON has it, so that it is the same after it was."""
    document: dict[str, object] = plan.model_dump(mode="json", exclude_none=True)
    return document


_Worked = tuple[Plan, Study | None, ChartWish | None]


def _of(reading: Reading) -> _Worked:
    return reading.plan, reading.study, reading.ask.chart


def _worked(
    desk: Desk,
    stop: Stop,
    kept: Kept,
    what: _Worked,
    day: dt.date,
    versions: Versions,
    found: Understanding | None = None,
    *,
    note: str = "",
) -> WorkedAgain:
    plan, study, wish = what
    wish = ChartWish.of(kept.drawn) if kept.drawn else wish
    doubt = doubt_of(found) if found is not None else None
    try:
        answered = desk.answer_plan(plan, day, stop=stop, twice=True, wish=wish, study=study)
    except WasStopped:
        raise
    except CannotAnswer as error:
        return WorkedAgain(kept, None, str(error))
    working = working_of(
        answered,
        desk.catalogue,
        question=kept.question,
        reading=found.readings[0].words if found is not None else kept.reading,
        doubt=doubt.words if doubt is not None and doubt.loud else "",
        note=note,
        versions=versions,
    )
    return WorkedAgain(kept, working)
