"""Periods that follow each other: the next ones, how many lie between, and how many working days each has."""

from __future__ import annotations

import datetime as dt
from typing import Literal

import numpy as np

Step = Literal["year", "quarter", "month", "week", "day"]
SEASONS: dict[Step, int] = {"year": 1, "quarter": 4, "month": 12, "week": 52, "day": 7}
"""How many periods a season has: a year's, and of days a week's."""
_MONTHS: dict[Step, int] = {"year": 12, "quarter": 3, "month": 1}
_DAYS: dict[Step, int] = {"week": 7, "day": 1}


def later(first: dt.date, step: Step, count: int) -> dt.date:
    """The first day of the period so many on, of one that begins on a day."""
    if step in _DAYS:
        return first + dt.timedelta(days=_DAYS[step] * count)
    place = first.year * 12 + first.month - 1 + _MONTHS[step] * count
    return dt.date(place // 12, place % 12 + 1, 1)


def between(first: dt.date, last: dt.date, step: Step) -> int:
    """How many periods lie from the one to the other, both being first days."""
    if step in _DAYS:
        return (last - first).days // _DAYS[step]
    return ((last.year - first.year) * 12 + last.month - first.month) // _MONTHS[step]


def begin_of(day: dt.date, step: Step) -> dt.date:
    """The first day of the period that holds a day."""
    match step:
        case "day":
            return day
        case "week":
            return day - dt.timedelta(days=day.weekday())
        case "month":
            return day.replace(day=1)
        case "quarter":
            return dt.date(day.year, (day.month - 1) // 3 * 3 + 1, 1)
        case "year":
            return dt.date(day.year, 1, 1)


def working_days(first: dt.date, step: Step) -> int:
    """Mondays to Fridays in the period that begins on a day."""
    return int(np.busday_count(first, later(first, step, 1)))
