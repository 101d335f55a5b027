"""Calendars on NumPy columns: days are counted from 1970-01-01, moments in microseconds from its beginning."""

from __future__ import annotations

from typing import Any, assert_never

import numpy as np
import numpy.typing as npt

from gumption.core.evaluate.vectors import (
    MICROSECONDS_A_DAY,
    Ints,
    Vector,
    days_of,
    either_missing,
    microseconds_of,
)
from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex

_HOUR, _MINUTE = 3_600_000_000, 60_000_000
_MONDAY = 4
"""1970-01-05, the first Monday, as a count of days."""
_TABLE_DAYS = 100_000


class Calendar:
    """Years, months and days of an array of day numbers."""

    def __init__(self, days: Ints) -> None:
        self.days = days.astype("datetime64[D]")
        self.month_count = self.days.astype("datetime64[M]").astype(np.int64)
        """Months since January 1970."""

    @property
    def year(self) -> Ints:
        return np.asarray(self.month_count // 12 + 1970)

    @property
    def month(self) -> Ints:
        return np.asarray(self.month_count % 12 + 1)

    @property
    def day(self) -> Ints:
        return np.asarray((self.days - self.days.astype("datetime64[M]")).astype(np.int64) + 1)

    @property
    def year_start(self) -> Ints:
        return np.asarray(self.days.astype("datetime64[Y]").astype("datetime64[D]").astype(np.int64))


def first_day(month_count: Ints) -> Ints:
    """The first day of a month counted from January 1970."""
    return np.asarray(month_count.astype("datetime64[M]").astype("datetime64[D]").astype(np.int64))


def month_end(month_count: Ints) -> Ints:
    """The number of days of a month counted from January 1970."""
    return first_day(month_count + 1) - first_day(month_count)


def _by_day(days: Ints, work: Any) -> Ints:
    """A function of days, worked once for each day between the first and the last where that is fewer than rows."""
    if not len(days):
        return days
    low, high = int(days.min()), int(days.max())
    if high - low >= min(len(days), _TABLE_DAYS):
        return np.asarray(work(days), dtype=np.int64)
    table = np.asarray(work(np.arange(low, high + 1)), dtype=np.int64)
    return np.asarray(table[days - low])


def _filled_days(vector: Vector) -> Ints:
    days = days_of(vector)
    return days if vector.is_complete else np.where(vector.missing, 0, days)


def date_part(expression: ex.DatePart, vector: Vector) -> Vector:
    """A part of each date as an integer."""
    if expression.part in ("hour", "minute"):
        within = np.mod(vector.filled(), MICROSECONDS_A_DAY)
        found = within // _HOUR if expression.part == "hour" else within // _MINUTE % 60
        return Vector(Type.INTEGER, found, vector.missing)
    return Vector(Type.INTEGER, _by_day(_filled_days(vector), lambda d: _part(expression, d)), vector.missing)


def _part(expression: ex.DatePart, days: Ints) -> Ints:
    at = Calendar(days)
    shift = (expression.first_month - 1) % 12
    match expression.part:
        case "year":
            return at.year
        case "quarter":
            return (at.month + 2) // 3
        case "month":
            return at.month
        case "week":
            # ISO: a week belongs to the year that holds its Thursday.
            thursday = days - (days - _MONDAY) % 7 + 3
            return np.asarray((thursday - Calendar(thursday).year_start) // 7 + 1)
        case "day":
            return at.day
        case "weekday":
            return np.asarray((days - _MONDAY) % 7 + 1)
        case "day_of_year":
            return days - at.year_start + 1
        case "fiscal_year":
            # Called after the calendar year in which it ends.
            return at.year + (at.month > shift if shift else 0)
        case "fiscal_quarter":
            return (at.month - 1 - shift) % 12 // 3 + 1
        case "hour" | "minute":
            raise AssertionError("a part of a day, not of a date")
        case _:
            assert_never(expression.part)


def date_floor(expression: ex.DateFloor, vector: Vector) -> Vector:
    """The first day, or the hour, of the unit that holds each date."""
    if expression.unit == "hour":
        return Vector(Type.TIMESTAMP, vector.filled() // _HOUR * _HOUR, vector.missing)
    return Vector(Type.DATE, _by_day(_filled_days(vector), lambda d: _floor(expression, d)), vector.missing)


def _floor(expression: ex.DateFloor, days: Ints) -> Ints:
    at = Calendar(days)
    shift = (expression.first_month - 1) % 12
    match expression.unit:
        case "year":
            return at.year_start
        case "quarter":
            return first_day(at.month_count // 3 * 3)
        case "month":
            return first_day(at.month_count)
        case "week":
            return np.asarray(days - (days - _MONDAY) % 7)
        case "day":
            return days
        case "fiscal_year":
            return first_day((at.month_count - shift) // 12 * 12 + shift)
        case "fiscal_quarter":
            return first_day((at.month_count - shift) // 3 * 3 + shift)
        case "hour":
            raise AssertionError("an hour is no day")
        case _:
            assert_never(expression.unit)


def date_difference(expression: ex.DateDifference, start: Vector, end: Vector) -> Vector:
    """End minus start in the unit asked for."""
    missing = either_missing(start, end)
    unit = expression.unit
    if unit in ("hours", "minutes", "years"):
        size = {"hours": _HOUR, "minutes": _MINUTE, "years": 365.25 * MICROSECONDS_A_DAY}[unit]
        return Vector(Type.FLOAT, (microseconds_of(end) - microseconds_of(start)) / size, missing)
    first, last = _filled_days(start), _filled_days(end)
    if unit == "days":
        found: npt.NDArray[Any] = last - first
    elif unit == "working_days":
        found = _working_days(last) - _working_days(first)
    else:
        found = _whole_months(first, last)
        if unit == "whole_years":
            found = found // 12
    return Vector(Type.INTEGER, found, missing)


def _working_days(days: Ints) -> Ints:
    """Mondays to Fridays before a day, counted from a Monday."""
    weeks, rest = np.divmod(days - _MONDAY, 7)
    return np.asarray(5 * weeks + np.minimum(rest, 5))


def _whole_months(first: Ints, last: Ints) -> Ints:
    """The most months that can be added to the first day without passing the last."""
    a, b = Calendar(first), Calendar(last)
    short = (b.day < a.day) & (b.day < month_end(b.month_count))
    return b.month_count - a.month_count - short


def date_shift(expression: ex.DateShift, vector: Vector) -> Vector:
    """Each date so many days, weeks, months or years on."""
    if expression.unit in ("days", "weeks"):
        step = expression.count * (7 if expression.unit == "weeks" else 1)
        size = MICROSECONDS_A_DAY if vector.type is Type.TIMESTAMP else 1
        return Vector(vector.type, vector.values + step * size, vector.missing)
    days = _filled_days(vector)
    months = expression.count * (12 if expression.unit == "years" else 1)
    at = Calendar(days)
    there = at.month_count + months
    found = first_day(there) + np.minimum(at.day, month_end(there)) - 1
    if vector.type is Type.TIMESTAMP:
        found = found * MICROSECONDS_A_DAY + np.mod(vector.filled(), MICROSECONDS_A_DAY)
    return Vector(vector.type, found, vector.missing)
