"""Whether the periods of a plan are over, whole, and as long as what they are compared with."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from gumption.core.checks import words
from gumption.core.checks.check import Check
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Expression, children
from gumption.core.plan.fields import Schema
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import MONTH_NAMES, day_words, spoken

_LACKING = 0.1
"""A period that lacks more than this share of its days is not whole."""
_LONGER = 1.2
"""Months differ by a tenth; periods that differ by more are of different length."""


@dataclass(frozen=True)
class Span:
    """Days from the first to the last, both included."""

    first: dt.date
    last: dt.date

    @property
    def days(self) -> int:
        return (self.last - self.first).days + 1


def periods(plan: Plan, typed: list[Schema], catalogue: Catalogue, as_of: dt.date) -> list[Check]:
    """Spans that are not over, periods along a time line that are not whole, and spans of different length."""
    return [*_not_over(plan, as_of), *_not_whole(plan, typed, catalogue, as_of), *_unequal(plan)]


def _spans(expression: Expression) -> list[tuple[str, Span]]:
    """Spans of days a condition names, with the column."""
    match expression:
        case ex.Between(value=value, low=low, high=high) if low.type is Type.DATE:
            names = ex.columns_of(value)
            return [(names[0] if names else "", Span(_day(low.value), _day(high.value)))]
        case _:
            return [span for child in children(expression) for span in _spans(child)]


def _day(value: object) -> dt.date:
    return dt.date.fromisoformat(str(value)[:10])


def _not_over(plan: Plan, as_of: dt.date) -> list[Check]:
    found = []
    for step in plan.steps:
        if isinstance(step, st.Keep):
            for _, span in _spans(step.condition):
                if span.first <= as_of < span.last:
                    name = str(span.first.year) if span.days > 360 else ""
                    found.append(words.period_is_not_over(name, (as_of - span.first).days + 1, span.days))
    return found


def _unequal(plan: Plan) -> list[Check]:
    """Spans held against each other, by `or`, in cases or in conditions of aggregates, should be as long as each other."""
    compared: list[Span] = []
    for step in plan.steps:
        match step:
            case st.Keep(condition=condition):
                compared += [span for group in _alternatives(condition) for span in group]
            case st.Group(aggregates=aggregates):
                compared += [span for a in aggregates if a.where is not None for _, span in _spans(a.where)]
            case st.Derive(expression=ex.Case(branches=branches)):
                compared += [span for b in branches for _, span in _spans(b.when)]
            case _:
                pass
    if len(compared) < 2:
        return []
    short, long = min(compared, key=lambda s: s.days), max(compared, key=lambda s: s.days)
    if long.days <= _LONGER * short.days:
        return [words.PERIODS_AS_LONG]
    return [words.periods_differ(short.days, long.days)]


def _alternatives(condition: Expression) -> list[list[Span]]:
    match condition:
        case ex.AnyOf(items=items):
            return [[span for item in items for _, span in _spans(item)]]
        case ex.AllOf(items=items):
            return [group for item in items for group in _alternatives(item)]
        case _:
            return []


def _covered(
    plan: Plan, name: str, place: int, typed: Sequence[Schema], catalogue: Catalogue, as_of: dt.date
) -> Span | None:
    """The days that rows of a date column can be of: the data's, within the conditions, up to today.

    A time of day is of no day, so its column covers none.
    """
    field = typed[place].get(name)
    if field is None or field.table is None or field.column is None or not field.type.is_time:
        return None
    column = catalogue.table(field.table).column(field.column)
    if column.low is None or column.high is None:
        return None
    first, last = _day(column.low), _day(column.high)
    if first <= as_of < last:
        last = as_of
    for step in plan.steps[: place + 1]:
        if isinstance(step, st.Keep) and not isinstance(step.condition, (ex.AnyOf, ex.Negated)):
            for named, span in _spans(step.condition):
                if named == name:
                    first, last = max(first, span.first), min(last, span.last)
        elif isinstance(step, st.Keep) and isinstance(step.condition, ex.Negated):
            # Without its last year, what is left ends before that.
            for named, span in _spans(step.condition):
                if named == name and span.first <= last <= span.last:
                    last = span.first - dt.timedelta(days=1)
                if named == name and span.first <= first <= span.last:
                    first = span.last + dt.timedelta(days=1)
    return Span(first, last) if first <= last else None


@dataclass(frozen=True)
class _TimeLine:
    """A column of periods that rows are grouped by, and the days that they are of."""

    name: str
    expression: ex.DateFloor | ex.DatePart
    span: Span

    @property
    def unit(self) -> str:
        return self.expression.unit if isinstance(self.expression, ex.DateFloor) else self.expression.part

    @property
    def runs_on(self) -> bool:
        """False for periods that come again, such as months of any year."""
        return isinstance(self.expression, ex.DateFloor) or self.unit in ("year", "fiscal_year")

    @property
    def ends(self) -> tuple[Span, Span] | None:
        """Its first and its last period, whole; None for a unit without any."""
        first, last = (_period(self.unit, self.expression.first_month, d) for d in (self.span.first, self.span.last))
        return None if first is None or last is None else (first, last)

    @property
    def in_part(self) -> tuple[Span | None, Span | None]:
        """The first period where the rows begin well within it, and the last where they end so; None where they do not."""
        if self.ends is None:
            return None, None
        first, last = self.ends
        begins = (self.span.first - first.first).days > _LACKING * first.days
        ends = (last.last - self.span.last).days > _LACKING * last.days
        return first if begins else None, last if ends else None


def _time_lines(plan: Plan, typed: Sequence[Schema], catalogue: Catalogue, as_of: dt.date) -> Iterator[_TimeLine]:
    by = {name for step in plan.steps if isinstance(step, (st.Group, st.Pivot)) for name in step.by}
    by |= {step.column for step in plan.steps if isinstance(step, st.Pivot)}
    for place, step in enumerate(plan.steps):
        if not isinstance(step, st.Derive) or step.name not in by:
            continue
        expression = step.expression
        if not isinstance(expression, (ex.DateFloor, ex.DatePart)) or not isinstance(expression.value, ex.ColumnRef):
            continue
        span = _covered(plan, expression.value.name, place, typed, catalogue, as_of)
        if span is not None:
            yield _TimeLine(step.name, expression, span)


def _not_whole(plan: Plan, typed: Sequence[Schema], catalogue: Catalogue, as_of: dt.date) -> list[Check]:
    """A time line whose first or last period the rows do not fill, or months of the year that come unequally often."""
    found: list[Check] = []
    for line in _time_lines(plan, typed, catalogue, as_of):
        found += _ends(line) if line.runs_on else _unequally_often(line.unit, line.span)
    return found


def periods_in_part(
    plan: Plan, typed: Sequence[Schema], catalogue: Catalogue, as_of: dt.date
) -> dict[str, frozenset[dt.date | int]]:
    """Periods that the rows do not fill, as they stand in the answer, by the column of each time line."""
    found = {}
    for line in _time_lines(plan, typed, catalogue, as_of):
        if line.runs_on:
            dated = isinstance(line.expression, ex.DateFloor)
            lacking = (end for end in line.in_part if end is not None)
            found[line.name] = frozenset(end.first if dated else end.last.year for end in lacking)
    return found


def _ends(line: _TimeLine) -> list[Check]:
    if line.ends is None:
        return []
    span, unit = line.span, line.unit
    begins, ends = line.in_part
    if begins is None and ends is None:
        return [words.ends_are_whole(unit)]
    return [
        words.ends_are_parts(
            unit,
            (_name(unit, begins), span.first) if begins is not None else None,
            (_name(unit, ends), span.last) if ends is not None else None,
        )
    ]


def _period(unit: str, first_month: int, day: dt.date) -> Span | None:
    months = {"year": 12, "fiscal_year": 12, "quarter": 3, "fiscal_quarter": 3, "month": 1}.get(unit)
    if unit == "week":
        first = day - dt.timedelta(days=day.weekday())
        return Span(first, first + dt.timedelta(days=6))
    if months is None:
        return None
    shift = first_month - 1 if unit.startswith("fiscal") else 0
    count = day.year * 12 + day.month - 1 - shift
    start = count // months * months + shift
    first, after = (dt.date(n // 12, n % 12 + 1, 1) for n in (start, start + months))
    return Span(first, after - dt.timedelta(days=1))


def _name(unit: str, period: Span) -> str:
    match unit:
        case "year":
            return str(period.first.year)
        case "fiscal_year":
            return f"The fiscal year {period.last.year}"
        case "month":
            return f"{MONTH_NAMES[period.first.month - 1]} {period.first.year}"
        case _:
            return f"The {spoken(unit)} from {day_words(period.first)}"


def _unequally_often(part: str, span: Span) -> list[Check]:
    """January to October of three years, and November and December of two: sums of months cannot be compared."""
    if part not in ("month", "quarter", "fiscal_quarter", "week", "day_of_year"):
        return []
    years = span.days / 365.25
    if abs(years - round(years)) * 365.25 <= _LACKING * 30 or years >= 10:
        return []
    return [words.parts_unequally_often(part, span.first, span.last)]
