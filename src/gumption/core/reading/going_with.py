"""A question of what goes with a figure or a condition, as plans of the columns that may."""

from __future__ import annotations

import datetime as dt
import math

from gumption.core.model.catalogue import Column as TableColumn
from gumption.core.plan.steps import Plan
from gumption.core.reading import meaning as m
from gumption.core.reading.flow import event_time
from gumption.core.reading.schema import tables_of
from gumption.core.reading.studies import CannotStudy, Planner
from gumption.core.reading.suggesting import named
from gumption.core.reading.taking_apart import kinds_of
from gumption.core.reading.words import ask_words, quantity_words
from gumption.core.study.goes_with import Column, GoesWith

_MOST_KINDS, _MOST_NUMBERS = 6, 3
_MOST_MISSING = 0.5
"""The share of gaps that a number may have to go with another."""
_FEW_ROWS, _MOST_COMBINED = 150_000, 50_000
"""Rows up to which all columns are taken, since combinations are no more than these; and combinations of more rows."""
_HELD_BACK = 0.2


def goes_with_of(ask: m.Ask, planner: Planner) -> tuple[GoesWith, Plan] | None:
    """What is asked to go with something, with the plan of its figure; None where no figure or condition is named.

    Raises CannotStudy and CannotPlan.
    """
    catalogue = planner.nouns.catalogue
    figure = ask.quantities[0] if len(ask.quantities) == 1 else None
    target: tuple[m.Condition, ...] = ()
    where = ask.where
    if figure is None and ask.lists and ask.where and not ask.shows:
        # A no-show is a visit of a kind: what goes with being one is asked of all visits.
        target, where = ask.where[:1], ask.where[1:]
        table, expr = ask.head, None
    elif isinstance(figure, m.ShareOf) and figure.expr is None:
        target, where = figure.condition, (*ask.where, *figure.among)
        table, expr = figure.table or ask.head, None
    elif isinstance(figure, m.Aggregated) and figure.function == "count" and figure.expr is None and ask.where:
        target, where = ask.where[:1], ask.where[1:]
        table, expr = figure.table or ask.head, None
    elif isinstance(figure, m.Aggregated) and figure.function in ("sum", "mean", "median") and figure.expr is not None:
        expr, where = figure.expr, (*ask.where, *figure.where)
        table = next(iter(tables_of(expr)), ask.head)
    elif figure is None:
        return None
    else:
        raise CannotStudy(f"{quantity_words(figure, ask.head, catalogue)} is no number and no condition of single rows")
    used = set(m.columns_in(expr)) | {k for c in (*target, *where) for k in m.columns_in(c, nested=True)}
    kinds = [k for k in kinds_of(table, catalogue) if k not in used and not _is_of_the_same(k, used, planner)]
    numbers = [
        m.ColumnKey(table, c.name)
        for c in catalogue.table(table).columns
        if c.is_measure
        and m.ColumnKey(table, c.name) not in used
        # Rows without a number are in none of its fifths: of a condition none may be lost.
        and c.missing <= (_MOST_MISSING if expr is not None else 0.0) * catalogue.table(table).rows
    ]
    late = _latest(table, planner)
    chosen, tiled = _few_enough(kinds[:_MOST_KINDS], numbers[:_MOST_NUMBERS], table, planner)
    if not chosen and not tiled:
        raise CannotStudy("there is no column beside it that could go with it")
    rows = m.Aggregated("count", None, table) if expr is None else m.Aggregated("count", expr)
    quantities: tuple[m.Quantity, ...] = (rows, m.Aggregated("count", None, table, where=target))
    if expr is not None:
        quantities = (rows, m.Aggregated("mean", expr), m.Aggregated("deviation", expr))
    # To put millions of rows in order takes long; what lies below and above the middle is seen row by row.
    many = catalogue.table(table).rows > _FEW_ROWS
    parts = [(k, _column(k, planner).median if many else None) for k in tiled]
    cut = [
        m.Tile(m.Col(k), 5) if middle is None else m.Band(m.Col(k), edges=(-math.inf, middle)) for k, middle in parts
    ]
    groups: tuple[m.Expr, ...] = (*(m.Col(k) for k in chosen), *cut)
    combinations = planner.plan_of(m.Ask(table, where=where, quantities=quantities, groups=(*groups, late)))
    columns = (
        *(Column(_name(k, planner)) for k in chosen),
        *(Column(_name(k, planner), middle is None, middle) for k, middle in parts),
    )
    if expr is None:
        share = m.ShareOf(target, table)
        words = (
            ask_words(m.Ask(table, where=target), catalogue) if not where else quantity_words(share, table, catalogue)
        )
        shown: m.Quantity = share
    else:
        shown = m.Aggregated("mean", expr)
        words = quantity_words(shown, table, catalogue)
    plan = planner.plan_of(m.Ask(table, where=where, quantities=(shown,)))
    timed = event_time(catalogue, table) is not None
    return GoesWith("share" if expr is None else "mean", words, table, columns, combinations, timed), plan


def _few_enough(
    kinds: list[m.ColumnKey], numbers: list[m.ColumnKey], table: str, planner: Planner
) -> tuple[list[m.ColumnKey], list[m.ColumnKey]]:
    """The kinds and the numbers, the nearest first, whose combinations can be held."""
    if planner.nouns.catalogue.table(table).rows <= _FEW_ROWS:
        return kinds, numbers
    together, chosen = 1, []
    for key in kinds:
        distinct = max(_column(key, planner).distinct, 1)
        if together * distinct <= _MOST_COMBINED:
            together *= distinct
            chosen.append(key)
    tiled = []
    for key in numbers:
        if together * 5 <= _MOST_COMBINED:
            together *= 5
            tiled.append(key)
    return chosen, tiled


def _name(key: m.ColumnKey, planner: Planner) -> str:
    return named(_column(key, planner))


def _column(key: m.ColumnKey, planner: Planner) -> TableColumn:
    return planner.nouns.catalogue.table(key.table).column(key.column)


def _is_of_the_same(key: m.ColumnKey, used: set[m.ColumnKey], planner: Planner) -> bool:
    """True for what is told of a thing that the question names: of Millbeck its region."""
    catalogue = planner.nouns.catalogue
    for other in used:
        table = catalogue.table(other.table)
        if other.table == key.table and table.column(other.column).distinct == table.rows:
            return True
    return False


def _latest(table: str, planner: Planner) -> m.Expr:
    """Whether a row is of the latest fifth of the time; without a time no row is."""
    time = event_time(planner.nouns.catalogue, table)
    column = _column(time, planner) if time is not None else None
    if column is None or column.low is None or column.high is None:
        return m.Test(m.Compared("<", m.Number(1.0), m.Number(0.0)))
    low, high = (dt.date.fromisoformat(text[:10]) for text in (column.low, column.high))
    high = min(high, planner.day)
    cut = high - dt.timedelta(days=max(1, round((high - low).days * _HELD_BACK)))
    return m.Test(m.Within(m.EventTime(), cut, None))
