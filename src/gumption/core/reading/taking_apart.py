"""A question about a figure as one about what moved it: the two sides, and the ways in which the change can be taken apart."""

from __future__ import annotations

import dataclasses
import datetime as dt
import itertools
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from gumption.core.model.catalogue import Catalogue, Column, Table
from gumption.core.model.types import Role
from gumption.core.plan.expressions import AggregateName
from gumption.core.plan.fields import PlanError
from gumption.core.plan.words import MONTH_NAMES, date_words, rows_called, span_words, spoken
from gumption.core.reading import meaning as m
from gumption.core.reading.flow import CannotPlan
from gumption.core.reading.schema import Nouns, tables_of
from gumption.core.reading.studies import CannotStudy, Moved, Planner
from gumption.core.reading.suggesting import above, categories
from gumption.core.reading.times import are_whole_years, months_later, unit_span
from gumption.core.reading.words import ask_words, quantity_words
from gumption.core.study.change import Change, ChangeKind, Side, Way, columns_of_change

MOST_WAYS = 16
"""Ways in which a change is tried to be taken apart."""
MOST_COLUMNS = 9
"""Columns by which it is, one at a time."""
MOST_PAIRED = 4
"""Columns, the nearest ones, that are tried two by two."""
MOST_PIECES = 40
"""Values of a column that pieces are told by; of more each says little."""


@dataclass(frozen=True)
class _Split:
    """A figure as what adds up in it: its parts above and below the line."""

    kind: ChangeKind
    above: m.Aggregated | m.Combined
    below: m.Aggregated | m.Combined | None
    percent: bool = False


def where_it_happens(where: Sequence[m.Condition], name: str, catalogue: Catalogue) -> str:
    """The table of what happens at the one row of a table that conditions name, such as visits at a clinic; else that table."""
    if not any(_is_one(c, name, catalogue) for c in where):
        return name
    below = [t for t in catalogue.tables if t.time_column is not None and catalogue.path(t.name, name) is not None]
    return max(below, key=lambda t: t.rows).name if below else name


def _is_one(condition: m.Condition, name: str, catalogue: Catalogue) -> bool:
    """True for a condition that names one row of a table."""
    match condition:
        case m.Is(column=key, values=(_,)) if key.table == name:
            table = catalogue.table(name)
            return table.column(key.column).distinct == table.rows
        case _:
            return False


def change_of(
    ask: m.Ask, wish: Moved, planner: Planner, most: int = MOST_WAYS, carried: Sequence[m.Condition] = ()
) -> Change | None:
    """What is asked of a figure as its change; None where the question names no figure that can change.

    At most so many ways to take it apart are made ready. What is `carried` over from the question before holds of both
    sides where it is asked why one thing is lower than others.

    Raises CannotStudy.
    """
    catalogue = planner.nouns.catalogue
    figure = _figure(ask)
    if wish.level and figure == m.Aggregated("count", None, ask.head):
        # There is one of what is named; what can be more or less there is what happens.
        there = where_it_happens(ask.where, ask.head, catalogue)
        figure = m.Aggregated("count", None, there)
        ask = ask.but(head=there, quantities=(figure,))
    if figure is None or ask.having or ask.limit is not None:
        return None
    sides = _sides(ask, wish, planner.day, carried)
    if sides is None:
        return None
    (one, before), (other, after), where = sides
    split = _split(figure, ask.head)
    if split is None:
        raise CannotStudy(
            f"{quantity_words(figure, ask.head, catalogue)} is no sum of parts, so its change has no pieces that add up"
        )
    table = _table_of(split, ask.head)
    rows = rows_called(table)
    columns = columns_of_change(split.kind, rows, before, after, percent=split.percent)
    parts = [split.above, *([split.below] if split.below is not None else [])]
    quantities = tuple(m.under(p, c) for p in parts for c in (one, other))
    # Rows of neither side are left out, so that no piece stands there with nothing.
    both = where if isinstance(one, m.Not) else (*where, m.Any((one, other)))
    ways: list[Way] = []
    for keys in itertools.islice(_ways(ask, where, (one, other), table, planner.nouns), most):
        inner = m.Ask(ask.head, where=both, quantities=quantities, groups=tuple(m.Col(k) for k in keys))
        try:
            ways.append(Way(tuple(spoken(k.column) for k in keys), planner.plan_of(inner)))
        except (CannotPlan, PlanError, RecursionError):
            continue
    if not ways:
        return None
    return Change(
        split.kind,
        ask_words(m.Ask(ask.head, where=where, quantities=(figure,)), catalogue),
        rows,
        before,
        after,
        columns,
        tuple(ways),
        split.percent,
        # What one comes to is held against what each of the others comes to on average.
        _others(one, catalogue),
        wish.supposed,
        bool(ways[0].called)
        and tuple(spoken(g.key.column) for g in ask.groups if isinstance(g, m.Col))[:2] == ways[0].called,
    )


def _figure(ask: m.Ask) -> m.Quantity | None:
    """The figure that changes: the one that is asked for, or how many rows there are."""
    between = [q for q in ask.quantities if isinstance(q, m.Between)]
    if between:
        return between[0].quantity
    plain = [q.quantity if isinstance(q, m.Along) and q.kind != "share" else q for q in ask.quantities]
    if len(plain) == 1:
        return plain[0]
    return m.Aggregated("count", None, ask.head) if ask.lists and not ask.shows else None


def _others(before: m.Condition, catalogue: Catalogue) -> int:
    """How many things there are beside one that is held against them; 1 where periods are held against each other."""
    if isinstance(before, m.Not) and isinstance(before.item, m.Is):
        key = before.item.column
        return max(catalogue.table(key.table).column(key.column).distinct - len(before.item.values), 1)
    return 1


Sides = tuple[tuple[m.Condition, Side], tuple[m.Condition, Side], tuple[m.Condition, ...]]


def _sides(ask: m.Ask, wish: Moved, day: dt.date, carried: Sequence[m.Condition]) -> Sides | None:
    """The rows before and after, and what holds of both."""
    between = next((q for q in ask.quantities if isinstance(q, m.Between)), None)
    if between is not None:
        one, other = between.base, between.compared
        return (one, _side(one, between.base_name)), (other, _side(other, between.compared_name)), ask.where
    ask = ask.but(where=tuple(_latest(c, day) for c in ask.where))
    times = [c for c in ask.where if isinstance(c, m.Within) and c.low is not None and c.high is not None]
    if wish.level and any(isinstance(c, m.Is) and c not in carried for c in ask.where):
        times = [c for c in times if c not in carried]
    if times:
        named = times[0]
        where = tuple(c for c in ask.where if c is not named)
        assert named.low is not None and named.high is not None
        if wish.since:
            low, high = _now(named.low, named.high, day)
            later = dataclasses.replace(named, low=low, high=high)
            return (named, _side(named, "")), (later, _side(later, "")), where
        low, high = _span_before(named.low, named.high)
        if named.low <= day < named.high:
            # What has begun is held against as much of what was before.
            high = min(low + (day - named.low), high)
            named = dataclasses.replace(named, high=day)
        earlier = dataclasses.replace(named, low=low, high=high)
        return (earlier, _side(earlier, "")), (named, _side(named, "")), where
    kinds = [c for c in ask.where if isinstance(c, m.Is)]
    if kinds:
        named_kind = kinds[0]
        where = tuple(c for c in ask.where if c is not named_kind)
        if wish.versus and len(named_kind.values) == 2:
            first, second = (dataclasses.replace(named_kind, values=(v,)) for v in named_kind.values)
            return (first, _side(first, "")), (second, _side(second, "")), where
        name = " or ".join(str(v) for v in named_kind.values)
        rest = m.Not(named_kind)
        return (rest, Side("the others")), (named_kind, Side(name)), where
    if wish.level or m.times_in(ask.where):
        return None
    latest = unit_span("month", day, 0)
    if latest.high != day:
        latest = unit_span("month", day, -1)
    now = m.Within(m.EventTime(), latest.low, latest.high)
    assert latest.low is not None and latest.high is not None
    low, high = _span_before(latest.low, latest.high)
    then = m.Within(m.EventTime(), low, high)
    return (then, _side(then, "")), (now, _side(now, "")), ask.where


def _latest(condition: m.Condition, day: dt.date) -> m.Condition:
    """A month or quarter of any year as the last one that has begun."""
    match condition:
        case m.PartIs(unit="month" | "quarter" as unit, time=time, numbers=(number,)):
            first = number if unit == "month" else number * 3 - 2
            year = day.year if first <= day.month else day.year - 1
            span = unit_span(unit, dt.date(year, first, 1), 0)
            return m.Within(time, span.low, span.high)
        case _:
            return condition


def _side(condition: m.Condition, name: str) -> Side:
    match condition:
        case m.Within(low=low, high=high) if low is not None and high is not None:
            return Side(_span_name(low, high), low, high)
        case m.Is(values=values):
            return Side(" or ".join(str(v) for v in values))
        case _:
            return Side(name)


def _span_name(low: dt.date, high: dt.date) -> str:
    """What a span of whole days is called: March 2025, January to October 2025, 1 to 14 Mar 2025."""
    months = MONTH_NAMES[low.month - 1], MONTH_NAMES[high.month - 1]
    whole = low.day == 1 and (high + dt.timedelta(days=1)).day == 1
    told = span_words(low, high)
    if told.startswith("from ") and low.year == high.year:
        if whole:
            return f"{months[0]} to {months[1]} {low.year}"
        if low.month == high.month:
            return f"{low.day} to {date_words(high)}"
    return told.removeprefix("in ").removeprefix("on ").removeprefix("from ")


def _span_before(low: dt.date, high: dt.date) -> tuple[dt.date, dt.date]:
    """The span of the same length before: whole months before whole months."""
    after = high + dt.timedelta(days=1)
    if low.day == 1 and after.day == 1:
        months = (after.year - low.year) * 12 + after.month - low.month
        return months_later(low, -months), low - dt.timedelta(days=1)
    return low - (high - low) - dt.timedelta(days=1), low - dt.timedelta(days=1)


def _now(low: dt.date, high: dt.date, day: dt.date) -> tuple[dt.date, dt.date]:
    """The year, quarter or month that holds the day, as the span that is named is one."""
    months = (high.year - low.year) * 12 + high.month - low.month + 1
    unit = "year" if are_whole_years(low, high) else "quarter" if months == 3 else "month"
    span = unit_span(unit, day, 0)
    assert span.low is not None and span.high is not None
    return span.low, span.high


def _split(figure: m.Quantity, head: str) -> _Split | None:
    match figure:
        case m.Aggregated(function="count"):
            return _Split("count", figure, None)
        case m.Aggregated(function="sum", where=where):
            table = next(iter(tables_of(figure.expr)), head)
            return _Split("sum", figure, m.Aggregated("count", None, table, where=where))
        case m.Aggregated(function="mean"):
            return _Split(
                "ratio", dataclasses.replace(figure, function="sum"), dataclasses.replace(figure, function="count")
            )
        case m.ShareOf(condition=met, table=table, expr=expr, among=among):
            function: AggregateName = "count" if expr is None else "sum"
            rows = table if expr is None else None
            part, whole = (m.Aggregated(function, expr, rows, where=w) for w in ((*among, *met), among))
            return _Split("ratio", part, whole, percent=True)
        case m.Combined(
            op="/", left=m.Aggregated() | m.Combined() as left, right=m.Aggregated() | m.Combined() as right
        ):
            return _Split("ratio", left, right, figure.percent) if m.adds_up(left) and m.adds_up(right) else None
        case m.Combined(op="+" | "-", left=left, right=right) if m.adds_up(left) and m.adds_up(right):
            return _Split("sum", figure, m.Aggregated("count", None, next(iter(tables_of(left)), head)))
        case _:
            return None


def _table_of(split: _Split, head: str) -> str:
    found = [*m.counted_in(split.above), *tables_of(split.above)]
    return next(iter(found), head)


def _ways(
    ask: m.Ask, where: tuple[m.Condition, ...], sides: tuple[m.Condition, ...], table: str, nouns: Nouns
) -> Iterator[tuple[m.ColumnKey, ...]]:
    """The columns, one or two, that pieces may be told by; those that the question names, where it does."""
    fixed = {p.column for c in (*where, *sides) for p in m.parts(c) if isinstance(p, m.Is)}
    # A clinic has one region: what is told of the thing that is named tells no pieces of it.
    told = {k.table for k in fixed if k.table != table and _names(k, nouns.catalogue)}
    named = tuple(g.key for g in ask.groups if isinstance(g, m.Col) and g.key not in fixed)
    if named and len(named) == len(ask.groups):
        yield named[:2]
    found = [k for k in kinds_of(table, nouns.catalogue) if k not in fixed and k.table not in told and (k,) != named]
    yield from ((k,) for k in found[:MOST_COLUMNS])
    yield from itertools.combinations(found[:MOST_PAIRED], 2)


def _names(key: m.ColumnKey, catalogue: Catalogue) -> bool:
    """True for a column that tells the rows of its table apart."""
    table = catalogue.table(key.table)
    return table.column(key.column).distinct == table.rows


def kinds_of(name: str, catalogue: Catalogue) -> list[m.ColumnKey]:
    """What rows are told apart by: their own kinds, what they belong to by its name, and the kinds of that."""
    table = catalogue.table(name)
    beside = above(table, catalogue)
    found = [m.ColumnKey(name, c.name) for c in _told(table)]
    for parent in beside:
        naming = parent.naming_column
        if naming is not None and naming.role is not Role.IDENTIFIER and 1 < naming.distinct <= MOST_PIECES:
            found.append(m.ColumnKey(parent.name, naming.name))
    found += [m.ColumnKey(parent.name, c.name) for parent in beside for c in _told(parent)]
    return list(dict.fromkeys(found))


def _told(table: Table) -> list[Column]:
    flags = [c for c in table.columns if c.role is Role.FLAG and c.distinct == 2]
    return [*(c for c in categories(table) if c.distinct <= MOST_PIECES), *flags]
