"""Two times that are held against each other where one span says both: its ends, or it and the one before."""

from __future__ import annotations

import dataclasses
import datetime as dt

from gumption.core.reading import meaning as m
from gumption.core.reading.pieces import Versus
from gumption.core.reading.times import Span, months_later, unit_span

SHORTEST_STRETCH = 27
"""Days that a stretch must have, less one, for its ends to be held against each other."""


def unit_of(span: Span) -> m.Unit | None:
    """The unit of which a span is one whole: a year, a quarter or a month."""
    if span.low is None or span.high is None or span.part is not None:
        return None
    units: tuple[m.Unit, ...] = ("month", "quarter", "year")
    return next((u for u in units if unit_span(u, span.low, 0) == span), None)


def days_of(span: Span) -> tuple[dt.date, dt.date] | None:
    """First and last day of a span that has both."""
    return None if span.part is not None or span.low is None or span.high is None else (span.low, span.high)


def days_against(later: tuple[dt.date, dt.date], base: tuple[dt.date, dt.date]) -> Versus:
    """What happened on some days held against what did on earlier ones."""
    return Versus(m.Within(m.EventTime(), *later), m.Within(m.EventTime(), *base))


def ends_of(span: Span) -> Versus | None:
    """The last year of a longer time held against the first; or the last month, within a year."""
    if span.part == "month" and span.ends is not None:
        # From August to September, of whatever year.
        of_first, of_last = (m.PartIs("month", m.EventTime(), end.numbers) for end in span.ends)
        return Versus(of_last, of_first) if of_first != of_last else None
    if span.part is not None or span.low is None or span.high is None:
        return None
    low, high = span.low, span.high
    units = {unit_of(end) for end in span.ends or ()}
    if span.ends is not None and len(units) == 1 and None not in units:
        # From the first quarter of one year to the last of another.
        days = [days_of(end) for end in span.ends]
        return days_against(days[1], days[0]) if days[0] and days[1] and days[0] != days[1] else None
    if low.year == high.year and (high - low).days > 300:
        return None
    if low.year < high.year and (low.month, low.day) == (1, 1) and (high.month, high.day) == (12, 31):
        first, last = (dt.date(d.year, 1, 1) for d in (low, high))
        ends = (dt.date(low.year, 12, 31), high)
    elif (
        low.year == high.year
        and low.day == 1
        and months_later(low, 1) <= high
        and months_later(high, 1) - dt.timedelta(days=1) == high
    ):
        first, last = low, high.replace(day=1)
        ends = (months_later(low, 1) - dt.timedelta(days=1), high)
    else:
        return None
    base, later = (m.Within(m.EventTime(), a, b) for a, b in zip((first, last), ends, strict=True))
    return Versus(later, base)


def the_next_after(span: Span) -> Versus | None:
    """A period held against the one that follows it."""
    days = days_of(span)
    if days is None:
        return None
    length = days[1] - days[0] + dt.timedelta(days=1)
    low = days[1] + dt.timedelta(days=1)
    months = (low.year - days[0].year) * 12 + low.month - days[0].month
    whole = days[0].day == 1 and low.day == 1 and months > 0
    high = months_later(low, months) - dt.timedelta(days=1) if whole else low + length - dt.timedelta(days=1)
    return days_against((low, high), days)


def to_the_last(span: Span) -> Versus | None:
    """A time held against the last that there is: the one that something began with, or a stretch that ends today."""
    if span.part is not None or span.low is None:
        return None
    unit: m.Unit = "year" if (span.low.month, span.low.day) == (1, 1) else "month"
    base = unit_span(unit, span.low, 0) if span.high is None else span
    days = days_of(base)
    if days is None or (span.high is None and span.low.day != 1) or (days[1] - days[0]).days < SHORTEST_STRETCH:
        return None
    return Versus(m.at_end("max"), m.Within(m.EventTime(), *days))


def over_time(span: Span) -> Versus | None:
    """What changed over a time: from its beginning to its end, or, of one period, on the one before."""
    unit = unit_of(span)
    if unit is None:
        return ends_of(span) or to_the_last(span)
    days = days_of(span)
    before = days_of(unit_span(unit, days[0], -1)) if days is not None else None
    if days is None or before is None:
        return None
    return dataclasses.replace(days_against(days, before), implied=True)
