"""A question about a figure as one about what it will come to: its periods, and how far ahead they go."""

from __future__ import annotations

import datetime as dt

from gumption.core.model.catalogue import Catalogue
from gumption.core.plan.steps import Plan
from gumption.core.reading import meaning as m
from gumption.core.reading.flow import event_time
from gumption.core.reading.schema import tables_of
from gumption.core.reading.studies import Ahead, CannotStudy, Planner
from gumption.core.reading.words import ask_words, quantity_words
from gumption.core.study.forecast import MOST_STEPS, Forecast
from gumption.core.study.periods import Step, begin_of, between, later

_STEPS: dict[str, Step] = {"year": "year", "quarter": "quarter", "month": "month", "week": "week", "day": "day"}
_USUAL: dict[Step, int] = {"year": 3, "quarter": 4, "month": 6, "week": 8, "day": 14}
"""How far ahead it is told where nothing is said."""
_SLACK: dict[Step, int] = {"year": 15, "quarter": 7, "month": 3, "week": 1, "day": 0}
"""Days before a period's end on which the last row may lie, for the period to be taken as over."""
_MOST_GROUPS = 2


def forecast_of(ask: m.Ask, ahead: Ahead, planner: Planner) -> tuple[Forecast, Plan] | None:
    """What is asked of a figure as its forecast, with the plan of its series; None where it names no figure.

    Raises CannotStudy and CannotPlan.
    """
    catalogue = planner.nouns.catalogue
    quantity = _figure(ask)
    if quantity is None or ask.having or ask.limit is not None:
        return None
    table = next(iter([*m.counted_in(quantity), *tables_of(quantity)]), ask.head)
    time = event_time(catalogue, table)
    words = quantity_words(quantity, ask.head, catalogue)
    if ahead.weak and (time is None or _goes_on(table, planner)):
        return None
    if time is None:
        raise CannotStudy(f"nothing says when the rows of {words} happened")
    periods = [g for g in ask.groups if isinstance(g, m.PartOf)]
    others = tuple(g for g in ask.groups if g not in periods)
    if len(others) > _MOST_GROUPS or len(periods) > 1 or any(p.unit not in _STEPS for p in periods):
        return None
    step = _STEPS[periods[0].unit] if periods else _step_for(ahead)
    last = last_whole(catalogue, time, step, planner.day)
    if last is None:
        raise CannotStudy(f"there is no whole {step} of {words} to go by")
    steps, first = _reach(ahead, step, last)
    if steps < 1:
        return None
    end = later(last, step, 1) - dt.timedelta(days=1)
    where = tuple(c for c in ask.where if not _is_a_span(c))
    inner = m.Ask(
        ask.head,
        where=(*where, m.Within(m.EventTime(), None, end)),
        quantities=(quantity,),
        groups=(m.PartOf(step, m.EventTime()), *others),
    )
    told = ask_words(m.Ask(ask.head, where=where, quantities=(quantity,), groups=others), catalogue)
    study = Forecast(told, step, min(steps, MOST_STEPS), last, m.adds_up(quantity), first, ahead.whether)
    return study, planner.plan_of(inner)


def _goes_on(table: str, planner: Planner) -> bool:
    """True for rows with days to come: what is due, what is booked, what ends."""
    columns = planner.nouns.catalogue.table(table).columns
    ends = [c.high for c in columns if c.type.is_time and c.high is not None and len(c.high) >= 10]
    return any(dt.date.fromisoformat(high[:10]) > planner.day for high in ends)


def _figure(ask: m.Ask) -> m.Quantity | None:
    """The figure that is told on: the one that is asked for, or how many rows there are."""
    if len(ask.quantities) == 1 and isinstance(ask.quantities[0], (m.Aggregated, m.ShareOf, m.Combined)):
        return ask.quantities[0]
    return m.Aggregated("count", None, ask.head) if ask.lists and not ask.shows else None


def _step_for(ahead: Ahead) -> Step:
    """The periods in which something is told that far ahead."""
    if ahead.unit in ("day", "week"):
        return ahead.unit
    if ahead.count is None and ahead.low is not None and ahead.high is not None:
        days = (ahead.high - ahead.low).days + 1
        return "day" if days == 1 else "week" if days <= 7 else "month"
    return "month"


def last_whole(catalogue: Catalogue, time: m.ColumnKey, step: Step, day: dt.date) -> dt.date | None:
    """The first day of the last period that is over, of which there are rows to its end."""
    column = catalogue.table(time.table).column(time.column)
    if column.low is None or column.high is None:
        return None
    low, high = (dt.date.fromisoformat(text[:10]) for text in (column.low, column.high))
    now = min(high, day)
    begun = begin_of(now, step)
    end = later(begun, step, 1) - dt.timedelta(days=1)
    # Rows that all stand on the first day of their period tell of the whole of it.
    whole = begin_of(high, step) == high and begin_of(low, step) == low and step != "day" and high <= day
    over = whole or (end <= day and (end - now).days <= _SLACK[step])
    last = begun if over else later(begun, step, -1)
    return last if last >= begin_of(low, step) else None


def _reach(ahead: Ahead, step: Step, last: dt.date) -> tuple[int, dt.date | None]:
    """How many steps are told, and the first one that is asked for where that is not the next."""
    if ahead.count is not None and ahead.unit is not None:
        end = later(later(last, step, 1), ahead.unit, ahead.count)
        return max(1, between(last, begin_of(end - dt.timedelta(days=1), step), step)), None
    if ahead.high is not None:
        first = begin_of(ahead.low, step) if ahead.low is not None else None
        return between(last, begin_of(ahead.high, step), step), first
    return _USUAL[step], None


def _is_a_span(condition: m.Condition) -> bool:
    """True for a stretch of time, to come or gone by: a forecast goes by all that there was."""
    match condition:
        case m.Within(time=m.EventTime(), low=low, high=high):
            return low is not None and high is not None
        case _:
            return False
