"""A question of what stands out as plans: what there is to look at in a table, a column or some of its rows."""

from __future__ import annotations

import contextlib
import datetime as dt
import itertools
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

from gumption.core.model.catalogue import Catalogue, Column, Table
from gumption.core.model.types import Role, Type
from gumption.core.plan import steps as st
from gumption.core.plan.constants import number_constant
from gumption.core.plan.expressions import Aggregate, AggregateName, Arithmetic, ColumnRef
from gumption.core.plan.fields import Field, PlanError
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import spoken
from gumption.core.reading import meaning as m
from gumption.core.reading.derived import is_birth
from gumption.core.reading.flow import CannotPlan, event_time
from gumption.core.reading.foretelling import last_whole
from gumption.core.reading.schema import Nouns
from gumption.core.reading.studies import Planner
from gumption.core.reading.suggesting import called, named
from gumption.core.reading.taking_apart import kinds_of, where_it_happens
from gumption.core.reading.words import quantity_words
from gumption.core.study.differences import PERCENTILES
from gumption.core.study.look import (
    CorrelationProbe,
    Figure,
    GroupsProbe,
    Look,
    Probe,
    RepeatProbe,
    SeriesProbe,
    ShareProbe,
    SpreadProbe,
    TieProbe,
)
from gumption.core.study.periods import Step, between

_MOST_KINDS, _MOST_MEASURES, _MOST_GAPS, _MOST_PAIRED, _MOST_TIED = 7, 5, 4, 4, 4
_MOST_COLUMNS = 40
"""Columns of a table up to which its rows are looked through for repeats."""
_LEAST_THINGS = 40
_PERIODS: tuple[Step, ...] = ("month", "week", "day")
_LEAST_PERIODS = 12
_MOST_TABLES = 8
"""Further tables that are looked at where none is named."""


def look_of(ask: m.Ask, planner: Planner) -> tuple[Look, Plan] | None:
    """What there is to look at where a question names a table, a column or some rows; None where it names none of them.

    Raises CannotPlan.
    """
    catalogue = planner.nouns.catalogue
    keys = m.columns_in(ask.quantities) or m.columns_in(ask.shows) or m.columns_in(ask.groups)
    focus = keys[0] if keys else None
    name = focus.table if focus is not None else next(iter(m.counted_in(ask.quantities)), ask.head)
    if focus is None and ask.lists:
        name = where_it_happens(ask.where, name, catalogue)
    table = catalogue.table(name)
    reckoned = _reckoned(ask, planner.nouns)
    probes = tuple(_Probes(table, ask.where, focus, planner, reckoned).all())
    rows = called(table)
    subject = (
        reckoned.name if reckoned is not None else named(table.column(focus.column)) if focus is not None else rows
    )
    values = [str(v) for c in ask.where if isinstance(c, m.Is) for v in c.values]
    look = Look(rows, subject, f"for {' and '.join(values)}" if values else "", probes)
    return look, planner.plan_of(m.Ask(name, where=ask.where, quantities=(m.Aggregated("count", None, name),)))


def all_looks(look: Look, planner: Planner) -> Look:
    """A look that goes on to the other tables, the largest first, where nothing is named to look at."""
    others = sorted(planner.nouns.catalogue.tables, key=lambda t: -t.rows)
    further: list[Look] = []
    for table in others:
        if called(table) != look.rows and table.rows >= _LEAST_THINGS and len(further) < _MOST_TABLES:
            with contextlib.suppress(CannotPlan, PlanError):
                found = look_of(m.Ask(table.name), planner)
                further += [found[0]] if found is not None and found[0].probes else []
    return replace(look, further=tuple(further))


@dataclass(frozen=True)
class _Measure:
    """A number of each row: a column, or what is reckoned of several."""

    name: str
    expr: m.Expr
    field: Field
    summed: bool


def _measure(table: Table, column: Column) -> _Measure:
    summed = column.role.is_summed and column.default_aggregate == "sum"
    return _Measure(named(column), m.Col(m.ColumnKey(table.name, column.name)), field_of(column), summed)


def _reckoned(ask: m.Ask, nouns: Nouns) -> _Measure | None:
    """What a question wants looked at that is reckoned of several columns, such as fee minus cost; None where it is none."""
    match ask.quantities:
        case (m.Aggregated(function="sum" | "mean", expr=m.Arithmetic() as expr, where=()),):
            columns = [nouns.column(key) for key in m.columns_in(expr)]
            told = quantity_words(m.Aggregated("sum", expr), ask.head, nouns.catalogue)
            name = told.removeprefix("the total ").removeprefix("the sum of ")
            # Signs of reckoning are said in words, which a question can be asked with.
            for sign, word in ((" − ", " minus "), (" + ", " plus "), (" × ", " times ")):
                name = name.replace(sign, word)
            return _Measure(name, expr, field_of(columns[0]), all(c.role.is_summed for c in columns))
        case _:
            return None


class _Probes:
    """The plans by which a table's rows are looked at."""

    def __init__(
        self,
        table: Table,
        where: tuple[m.Condition, ...],
        focus: m.ColumnKey | None,
        planner: Planner,
        reckoned: _Measure | None = None,
    ) -> None:
        self.table, self.where, self.focus, self.planner = table, where, focus, planner
        self.catalogue = planner.nouns.catalogue
        column = table.column(focus.column) if focus is not None and focus.table == table.name else None
        measures = [c for c in table.columns if c.is_measure and not c.separator]
        if column is not None and column.is_measure:
            measures = [column]
        elif column is not None:
            measures = measures[:2]
        self.measures = [_measure(table, c) for c in measures[:_MOST_MEASURES]] if reckoned is None else [reckoned]
        kinds = [k for k in kinds_of(table.name, self.catalogue) if not self._is_fixed(k)]
        self.kinds = ([focus] if focus in kinds else kinds)[:_MOST_KINDS]
        gaps = [c for c in table.columns if 0 < c.missing < table.rows and c is not table.key]
        self.gaps = [c for c in gaps if column is None or c is column][:_MOST_GAPS]
        self.column = column

    def all(self) -> Iterator[Probe]:
        for make in (self.courses, self.groups, self.spread, self.correlations, self.ties, self.repeats, self.shares):
            yield from self._planned(make)

    @staticmethod
    def _planned(make: Callable[[], Iterator[Probe]]) -> Iterator[Probe]:
        """The probes of a kind as far as they can be planned."""
        probes = make()
        while True:
            try:
                yield next(probes)
            except StopIteration:
                return
            except (CannotPlan, PlanError):
                return

    def _is_fixed(self, key: m.ColumnKey) -> bool:
        return any(isinstance(p, m.Is) and p.column == key for c in self.where for p in m.parts(c))

    def _plan(
        self, *quantities: m.Quantity, groups: tuple[m.Expr, ...] = (), more: tuple[m.Condition, ...] = ()
    ) -> Plan:
        ask = m.Ask(self.table.name, where=(*self.where, *more), quantities=quantities, groups=groups)
        return self.planner.plan_of(ask)

    def _of(self, column: Column) -> m.Col:
        return m.Col(m.ColumnKey(self.table.name, column.name))

    @property
    def _rows(self) -> m.Aggregated:
        return m.Aggregated("count", None, self.table.name)

    def _figures(self) -> Iterator[tuple[Figure, m.Aggregated]]:
        """What is followed over time: how many rows there are, money and amounts added up, scores on average."""
        rows = called(self.table)
        hidden = self.column is not None and self.column.is_measure
        yield Figure(rows, "count", Field(Type.INTEGER, Role.QUANTITY), hidden), self._rows
        if self.column is not None and not self.column.is_measure:
            return
        for one in self.measures[:3]:
            if one.summed:
                yield Figure(f"total {one.name}", "sum", one.field), m.Aggregated("sum", one.expr)
            else:
                yield Figure(f"average {one.name}", "mean", one.field), m.Aggregated("mean", one.expr)
                yield Figure("", "mean", one.field, hidden=True), m.Aggregated("deviation", one.expr)

    def courses(self) -> Iterator[Probe]:
        time = event_time(self.catalogue, self.table.name)
        if time is None or time.table != self.table.name or is_birth(self.planner.nouns.vocabulary, time):
            return
        told = self.table.column(time.column)
        if told.low is None:
            return
        low = dt.date.fromisoformat(told.low[:10])
        for step in _PERIODS:
            last = last_whole(self.catalogue, time, step, self.planner.day)
            if last is not None and between(low, last, step) >= _LEAST_PERIODS:
                break
        else:
            return
        figures = list(self._figures())
        period = m.PartOf(step, m.EventTime())
        yield SeriesProbe(
            self._plan(*(q for _, q in figures), groups=(period,)), step, last, tuple(f for f, _ in figures)
        )
        for key in self.kinds:
            plan = self._plan(*(q for _, q in figures), groups=(period, m.Col(key)))
            yield SeriesProbe(plan, step, last, tuple(f for f, _ in figures), self._called(key))

    def _called(self, key: m.ColumnKey) -> str:
        return named(self.catalogue.table(key.table).column(key.column))

    def groups(self) -> Iterator[Probe]:
        measures = tuple(Figure(one.name, "mean", one.field) for one in self.measures)
        quantities: list[m.Quantity] = [self._rows]
        for one in self.measures:
            functions: tuple[AggregateName, ...] = ("count", "mean", "deviation")
            quantities += [m.Aggregated(f, one.expr) for f in functions]
        gaps: list[tuple[str, int]] = []
        for column in self.gaps:
            known = m.Aggregated("count", self._of(column))
            if known not in quantities:
                quantities.append(known)
            gaps.append((named(column), 1 + quantities.index(known)))
        for key in self.kinds:
            plan = self._plan(*quantities, groups=(m.Col(key),))
            yield GroupsProbe(plan, self._called(key), measures, tuple(gaps), key.table == self.table.name)

    def spread(self) -> Iterator[Probe]:
        measures = tuple(Figure(one.name, "mean", one.field) for one in self.measures)
        quantities: list[m.Quantity] = []
        for of in (one.expr for one in self.measures):
            quantities.append(m.Aggregated("min", of))
            quantities += [m.Aggregated("percentile", of, percent=p) for p in PERCENTILES]
            quantities.append(m.Aggregated("max", of))
        if quantities:
            yield SpreadProbe(self._plan(*quantities), measures)

    def correlations(self) -> Iterator[Probe]:
        pairs = list(itertools.combinations(self.measures[:_MOST_PAIRED], 2))
        if not pairs:
            return
        quantities = [m.Aggregated("correlation", a.expr, other=b.expr) for a, b in pairs]
        names = tuple((a.name, b.name) for a, b in pairs)
        yield CorrelationProbe(self._plan(self._rows, *quantities), names)

    def ties(self) -> Iterator[Probe]:
        """Two kinds of the rows, of which one is their own or each is of another thing that they belong to."""
        if self.column is not None and self.column.is_measure:
            return
        kinds = self.kinds[:_MOST_TIED]
        if self.focus in self.kinds:
            kinds = [self.focus, *(k for k in kinds_of(self.table.name, self.catalogue) if k != self.focus)][
                :_MOST_TIED
            ]
        for one, other in itertools.combinations(kinds, 2):
            if self.focus not in (None, one, other) or (one.table == other.table != self.table.name):
                continue
            plan = self._plan(self._rows, groups=(m.Col(one), m.Col(other)))
            yield TieProbe(plan, self._called(one), self._called(other))

    def repeats(self) -> Iterator[Probe]:
        """Rows that are alike in everything but a key of their own."""
        if self.where or self.focus is not None or len(self.table.columns) > _MOST_COLUMNS:
            return
        taken, *others = self.planner.plan_of(m.Ask(self.table.name)).steps
        if not isinstance(taken, st.Take) or not all(isinstance(s, (st.Pick, st.Sort)) for s in others):
            # A wide table, or one in a role of its own, is no table of the plan.
            return
        key = self.table.key
        alone = key is not None and key.tells_apart(self.table.rows)
        columns = tuple(c.name for c in self.table.columns if not (alone and c is key))
        if len(columns) < 3:
            return
        more = Arithmetic(op="-", left=ColumnRef(name="rows_alike"), right=number_constant(1))
        plan = Plan(
            steps=(
                taken,
                st.Group(by=columns, aggregates=(Aggregate(name="rows_alike", function="count"),)),
                st.Derive(name="more", expression=more),
                st.Group(
                    aggregates=(
                        Aggregate(name="repeated", function="sum", column="more"),
                        Aggregate(name="rows", function="sum", column="rows_alike"),
                    )
                ),
            )
        )
        yield RepeatProbe(plan, spoken(key.name) if alone and key is not None else "")

    def shares(self) -> Iterator[Probe]:
        """What belongs to each of many things."""
        if self.focus is not None and not (self.column is not None and self.column.is_measure):
            return
        for link in self.catalogue.relationships:
            if (
                link.table != self.table.name
                or link.one_to_one
                or self.catalogue.table(link.other).rows < _LEAST_THINGS
            ):
                continue
            figures = [(f, q) for f, q in self._figures() if f.kind != "mean" and not f.hidden]
            if not figures:
                return
            group = m.Col(m.ColumnKey(self.table.name, link.column))
            things = called(self.catalogue.table(link.other))
            plan = self._plan(*(q for _, q in figures), groups=(group,))
            yield ShareProbe(plan, things, tuple(f for f, _ in figures))


def main_table(catalogue: Catalogue) -> Table:
    """The table that a question is about which names none: of what happens, the one with most rows."""
    return max(catalogue.tables, key=lambda t: (t.time_column is not None, t.rows))


def field_of(column: Column) -> Field:
    """How a figure of a column is written."""
    return Field(column.type, column.role, column.scale, column.unit)
