"""Cross tables: which values of a group stand as columns of their own, and what these are called."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator

from gumption.core.model.catalogue import Catalogue, Column
from gumption.core.model.names import free_name
from gumption.core.model.types import Type
from gumption.core.plan.expressions import Constant
from gumption.core.plan.steps import PivotColumn
from gumption.core.plan.words import DAY_NAMES, MONTH_NAMES
from gumption.core.reading import meaning as m
from gumption.core.reading.flow import event_time
from gumption.core.reading.times import MONTHS_IN, months_later

MOST_ACROSS = 26
"""Columns that still make a table that can be read; more stay rows."""


def across(ask: m.Ask, catalogue: Catalogue, taken: set[str]) -> tuple[PivotColumn, ...]:
    """A column for each value of the last group that can occur; none where these are not known or too many."""
    group = ask.groups[-1]
    found: list[tuple[Type, str | int | bool, str]] = []
    match group:
        case m.Col(key=key):
            column = catalogue.table(key.table).column(key.column)
            found = list(_values(column, ask.where, key))
        case m.PartOf(unit=unit, of=of):
            found = list(_periods(unit, of, ask, catalogue))
        case m.Test():
            found = [(Type.BOOLEAN, True, "yes"), (Type.BOOLEAN, False, "no")]
        case _:
            pass
    if not 1 < len(found) <= MOST_ACROSS:
        return ()
    names = set(taken)
    columns = []
    for kind, value, told in found:
        name = free_name(told, names)
        names.add(name)
        columns.append(PivotColumn(value=Constant(type=kind, value=value), name=name))
    return tuple(columns)


def _values(
    column: Column, where: tuple[m.Condition, ...], key: m.ColumnKey
) -> Iterator[tuple[Type, str | int | bool, str]]:
    """The values that a column has, those alone that a condition of the question leaves."""
    left = [set(c.values) for c in where if isinstance(c, m.Is) and c.column == key]
    if column.type is Type.BOOLEAN:
        yield Type.BOOLEAN, True, "yes"
        yield Type.BOOLEAN, False, "no"
    elif column.type is Type.INTEGER and column.low is not None and column.high is not None:
        for number in range(int(column.low), min(int(column.high), int(column.low) + MOST_ACROSS) + 1):
            if all(number in values for values in left):
                yield Type.INTEGER, number, str(number)
    elif column.type is Type.TEXT and column.distinct == len(column.values):
        for value in sorted(column.values):
            if all(value in values for values in left):
                yield Type.TEXT, value, value


def _periods(
    unit: m.Unit, of: m.Expr, ask: m.Ask, catalogue: Catalogue
) -> Iterator[tuple[Type, str | int | bool, str]]:
    parts: dict[str, tuple[int, int]] = {
        "weekday": (1, 7), "month_of_year": (1, 12), "quarter_of_year": (1, 4), "hour": (0, 23)
    }  # fmt: skip
    if unit in parts:
        first, last = parts[unit]
        for number in range(first, last + 1):
            told = {"weekday": DAY_NAMES, "month_of_year": MONTH_NAMES}.get(unit)
            yield Type.INTEGER, number, told[number - 1] if told else f"Q{number}" if last == 4 else str(number)
        return
    span = _span(of, ask, catalogue)
    if span is None:
        return
    day, last_day = span
    if unit == "year":
        for year in range(day.year, min(last_day.year, day.year + MOST_ACROSS) + 1):
            yield Type.INTEGER, year, str(year)
    elif unit in ("quarter", "month"):
        months = MONTHS_IN[unit]
        at = day.replace(day=1, month=(day.month - 1) // months * months + 1)
        for _ in range(MOST_ACROSS + 1):
            if at > last_day:
                return
            told_at = f"Q{(at.month + 2) // 3}" if unit == "quarter" else MONTH_NAMES[at.month - 1][:3]
            yield Type.DATE, at.isoformat(), f"{told_at} {at.year}"
            at = months_later(at, months)


def _span(of: m.Expr, ask: m.Ask, catalogue: Catalogue) -> tuple[dt.date, dt.date] | None:
    """The first and the last day that a time can fall on, given the question's conditions."""
    key = of.key if isinstance(of, m.Col) else event_time(catalogue, ask.head) if isinstance(of, m.EventTime) else None
    column = catalogue.table(key.table).column(key.column) if key is not None else None
    if column is None or column.low is None or column.high is None or not column.type.is_time:
        return None
    low, high = (dt.date.fromisoformat(v[:10]) for v in (column.low, column.high))
    for c in ask.where:
        if isinstance(c, m.Within) and c.time == of:
            low, high = max(low, c.low or low), min(high, c.high or high)
    return low, high
