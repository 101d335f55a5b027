"""A meaning as a plan: which rows each quantity is worked on, how they meet, and the order and limit of what comes out.

Each quantity is worked at the grain of its own expression, so that no join multiplies it; quantities of several
tables meet on the groups they share. A condition on rows below is a test for such rows, never a join.
"""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal, assert_never

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.names import free_name
from gumption.core.model.types import Role, Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.constants import number_constant
from gumption.core.plan.expressions import Aggregate, ColumnRef, Constant, Expression, IsMissing, Negated
from gumption.core.plan.naming import PREFIX, aggregate_name
from gumption.core.plan.steps import Pick, Picked, Plan, SortKey, Step
from gumption.core.plan.typing import schema_of
from gumption.core.plan.words import rows_called, spoken
from gumption.core.reading import meaning as m
from gumption.core.reading.across import across
from gumption.core.reading.flow import (
    TILES,
    CannotPlan,
    Flow,
    all_of,
    event_time,
    lowest_table,
    may_be_missing,
    names_rows,
    told_by,
)
from gumption.core.reading.meaning import ColumnKey, columns_in
from gumption.core.reading.stacking import NAMES, VALUES
from gumption.core.reading.times import UNITS, are_years, period_of, unit_span, written_in_order
from gumption.core.reading.vocabulary import is_in_time_order, name_parts

_MULTIPLIED = ("sum", "mean", "median", "deviation", "percentile", "count", "variance")
_OF_ITEMS = ("distinct", "mode")
"""Aggregates that look at each item of a cell that holds several."""
_LINES: dict[str, Literal["number", "quarter", "month", "week", "day"]] = {
    "year": "number",
    "quarter": "quarter",
    "month": "month",
    "week": "week",
    "day": "day",
}
"""How the periods of a group by time follow each other; a year is a whole number."""


_SIGNS = {"+": "+", "-": "−", "*": "×", "/": "÷"}


def _period_start(day: dt.date, unit: m.Unit) -> dt.date:
    first = unit_span(unit, day, 0).low
    assert first is not None
    return first


def _is_ranked(ask: m.Ask) -> bool:
    return any(isinstance(p, m.Along) and p.kind in ("rank", "rank_within") for p in m.parts(ask.quantities))


def plan_of(
    ask: m.Ask, catalogue: Catalogue, day: dt.date, called: Mapping[object, str] = MappingProxyType({})
) -> Plan:
    """The plan of a question; `called` gives what a house calls its measures. Raises CannotPlan, with words for a person."""
    return Lowering(ask, catalogue, day, called).plan()


@dataclass(frozen=True)
class _Part:
    """Atoms worked on the rows of one table: the plan that ends in their group, and the names of it all."""

    steps: tuple[Step, ...]
    by: tuple[str, ...]
    extra: tuple[str, ...]
    names: dict[m.Aggregated | m.ShareOf | m.OverGroups, str]


_Atom = m.Aggregated | m.ShareOf | m.OverGroups


class Lowering:
    """Builds the plan of one question."""

    def __init__(
        self, ask: m.Ask, catalogue: Catalogue, day: dt.date, called: Mapping[object, str] = MappingProxyType({})
    ) -> None:
        self.called = called
        self.ask, self.late = _seen_late(ask)
        self.catalogue, self.day = catalogue, day
        time = event_time(catalogue, ask.head)
        column = catalogue.table(time.table).column(time.column) if time is not None else None
        self.written: tuple[str, ...] = ()
        """Periods that are written as text, where the question is told by them."""
        if self.late and column is not None and not column.type.is_time:
            # Periods that are text are held against each other as they are written, and years against years alone.
            units = {g.unit for g in ask.groups if isinstance(g, m.PartOf)}
            if column.type is Type.TEXT and written_in_order(column.values):
                self.written = column.values if units == {"year" if are_years(column.values) else "quarter"} else ()
            if not self.written and (column.type is not Type.INTEGER or units != {"year"}):
                self.ask, self.late = ask, ()
        self.steps: list[Step] = []
        self.taken: set[str] = set()
        self.names: dict[object, str] = {}
        self.by: tuple[str, ...] = ()
        self.extra: tuple[str, ...] = ()
        self.several = False
        """True where the quantities are worked on the rows of several tables."""
        self.bases: list[str] = []
        """These tables, or the one."""

    def plan(self) -> Plan:
        if self.ask.lists:
            return self._listing()
        return self._grouped()

    def _flow(self, base: str) -> Flow:
        flow = Flow(self.catalogue, base, self.day, self._scalar)
        asked = (self.ask.quantities, self.ask.where, self.ask.groups, self.ask.shows, self.ask.order, self.ask.having)
        for part in m.parts(asked):
            if isinstance(part, m.Since) and part.time.table == base:
                # The row before is the one before, also where that was in another year.
                flow.expression(part)
        return flow

    def _scalar(self, quantity: m.Quantity, base: str) -> Plan:
        """A quantity over all rows as a plan of one row; the last time there is, that of the rows it is held against."""
        head = self.ask.head if columns_in(quantity) or m.counted_in(quantity) else base
        return Lowering(m.Ask(head, quantities=(quantity,)), self.catalogue, self.day).plan()

    # --- listings

    def _listing(self) -> Plan:
        ask = self.ask
        table = self.catalogue.table(ask.head)
        flow = self._flow(ask.head)
        # So many rows below that both choose the rows and stand beside them are counted once.
        counts = {m.Rows(e.quantity.table or "", e.quantity.where): e for e in ask.shows if isinstance(e, m.Below)}
        implied = [counts[c.rows] for c in ask.where if isinstance(c, m.Has) and c.rows in counts]
        asked = [e for e in ask.shows if e not in implied]
        flow.keep(
            tuple(
                m.Compared(c.op, counts[c.rows], m.Number(float(c.number)))
                if isinstance(c, m.Has) and c.rows in counts
                else c
                for c in ask.where
            )
        )
        shown: list[m.Expr] = list(ask.shows)
        outer = tuple(flow.named(e, self._label(e)) for e in ask.shows[: ask.per])
        naming = table.naming_column
        if naming is not None and m.Col(ColumnKey(table.name, naming.name)) not in shown:
            shown.insert(0, m.Col(ColumnKey(table.name, naming.name)))
        for order in (*ask.order, *ask.then):
            if isinstance(order.by, m.EXPRESSIONS) and order.by not in shown:
                shown.append(order.by)
        told_apart = (Role.CATEGORY, Role.PERSON, Role.PLACE, Role.DATE, Role.NAME, Role.LINK)
        bare = not any(isinstance(e, m.Col) and self._role(e) in told_apart for e in ask.shows)
        if naming is None and (ask.order or asked) and bare:
            # What has no name is told by its kinds: the highest figure by its area, its year and its sex.
            fixed = {c.column for c in ask.where if isinstance(c, m.Is) and len(c.values) == 1}
            kinds = [
                c
                for c in table.columns
                if (c.role in told_apart or is_in_time_order(c)) and ColumnKey(table.name, c.name) not in fixed
            ]
            shown = list(dict.fromkeys([*(m.Col(ColumnKey(table.name, c.name)) for c in kinds), *shown]))
        if not asked and not ask.order and (naming is None or naming.role is Role.IDENTIFIER):
            shown = [*(m.Col(ColumnKey(table.name, c.name)) for c in table.columns), *implied]
        elif naming is not None and naming.role is Role.NAME and naming is not table.key and table.key is not None:
            key = m.Col(ColumnKey(table.name, table.key.name))
            if names_rows(ColumnKey(table.name, naming.name), self.catalogue) and key not in shown:
                shown.append(key)
        shown = shown or [m.Col(ColumnKey(table.name, c.name)) for c in table.columns]
        names = [flow.named(e, self._label(e)) for e in dict.fromkeys(shown)]
        keys = []
        for order in ask.order:
            if not isinstance(order.by, m.EXPRESSIONS):
                raise CannotPlan("rows are sorted by what stands on them")
            name = flow.named(order.by, self._label(order.by))
            keys.append(SortKey(column=name, descending=order.descending))
            if ask.limit is not None and any(may_be_missing(k, ask.head, self.catalogue) for k in columns_in(order.by)):
                flow.steps.append(st.Keep(condition=Negated(item=IsMissing(value=ColumnRef(name=name)))))
        flow.steps.append(Pick(columns=tuple(Picked(column=n, name=n) for n in dict.fromkeys(names))))
        if outer and keys and ask.limit is not None:
            self._limit_within(flow.steps, outer, ask.limit, ask.skip, tuple(keys), free_name("place", {*names}))
            return flow.plan()
        flow.steps.append(st.Sort(keys=tuple(keys) or (SortKey(column=names[0]),)))
        self._limit(flow.steps, ask.limit, ask.skip, tuple(keys), free_name("place", {*names}))
        last = [(o.by, o.descending) for o in ask.then if isinstance(o.by, m.EXPRESSIONS)]
        if last:
            told = (SortKey(column=flow.named(by, self._label(by)), descending=down) for by, down in last)
            flow.steps.append(st.Sort(keys=tuple(told)))
        if ask.stacked:
            below = [flow.named(e, self._label(e)) for e in ask.stacked if isinstance(e, m.EXPRESSIONS)]
            flow.steps += self._in_rows([n for n in dict.fromkeys(names) if n not in below], below)
        return flow.plan()

    def _in_rows(self, beside: list[str], below: list[str]) -> list[Step]:
        """Columns that end up one under the other, and those that stand beside each of them."""
        taken = set(beside)
        told = {}
        for name in below:
            told[name] = free_name(spoken(name), taken)
            taken.add(told[name])
        names, values = free_name(NAMES, taken), free_name(VALUES, {*taken, NAMES})
        steps: list[Step] = [
            Pick(columns=tuple(Picked(column=n, name=told.get(n, n)) for n in (*beside, *below))),
            st.Unpivot(columns=tuple(told.values()), name=names, value=values),
        ]
        if beside and self.ask.limit is None and not self.ask.order:
            steps.append(st.Sort(keys=tuple(SortKey(column=n) for n in (*beside[:1], names))))
        return steps

    def _role(self, shown: m.Col) -> Role:
        return self.catalogue.table(shown.key.table).column(shown.key.column).role

    @staticmethod
    def _limit(steps: list[Step], limit: int | None, skip: int, keys: tuple[SortKey, ...], place: str) -> None:
        if limit is None:
            return
        if not skip:
            if limit < 1:
                raise CannotPlan("fewer than one row is asked for")
            steps.append(st.Limit(rows=limit))
            return
        sort = steps.pop()
        steps.append(st.Window(name=place, function="place", column=keys[0].column, order=keys))
        steps.append(st.Keep(condition=_placed(place, limit, skip)))
        steps.append(sort)

    @staticmethod
    def _limit_within(
        steps: list[Step], outer: tuple[str, ...], limit: int, skip: int, keys: tuple[SortKey, ...], place: str
    ) -> None:
        """The first few of each of something, or those after them, each group in its order."""
        steps.append(st.Window(name=place, function="place", column=keys[0].column, order=keys, within=outer))
        steps.append(st.Keep(condition=_placed(place, limit, skip)))
        steps.append(st.Sort(keys=(*(SortKey(column=n) for n in outer), SortKey(column=place))))

    # --- groups and quantities

    def _grouped(self) -> Plan:
        ask = self.ask
        atoms = list(dict.fromkeys(self._atoms()))
        if atoms:
            bases: dict[tuple[str, tuple[ColumnKey, ...], ColumnKey | None], list[_Atom]] = {}
            for atom in atoms:
                base = self._base(atom)
                apart = (base, self._counted_once(atom, base), self._of_items(atom))
                bases.setdefault(apart, []).append(atom)
            self.several = len(bases) > 1
            self.bases = list(dict.fromkeys(base for base, *_ in bases))
            worked = [self._part(base, group, once) for (base, once, _), group in bases.items()]
        else:
            self.bases = [self._base(None)]
            worked = [self._part(self.bases[0], [], ())]
        if len(worked) == 1:
            self.steps = list(worked[0].steps)
            self.by, self.extra = worked[0].by, worked[0].extra
            self.names.update(worked[0].names.items())
        else:
            self._meet(worked)
        self.taken |= {*self.by, *self.extra, *self.names.values()}
        for expr, name in zip(ask.groups, self.by, strict=True):
            self.names[expr] = name
        along = [p for q in ask.quantities for p in m.parts(q) if isinstance(p, m.Along)]
        if any(p.kind in m.ALONG_TIME for p in along):
            self._fill()
        for having in ask.having:
            told = having.op == "=" and having.right == m.Number(0.0) and having.quantity in self.names
            if told and len(self.by) == 1 and not self.extra:
                self.steps += self._noughts(ask.groups[0], self.by[0], (), (self.names[having.quantity],))
        shown: list[str] = []
        # Those with ten or more are ranked among themselves.
        first = [h for h in ask.having if not isinstance(h.quantity, m.Along)] if _is_ranked(ask) else []
        for having in first:
            self._having(having)
        for quantity in ask.quantities:
            shown += self._quantity(quantity)
        for having in ask.having:
            if having not in first:
                self._having(having)
        for within in self.late:
            self._keep_late(within)
        for kept in ask.kept:
            # Once all are worked: where one stands among them.
            column = ColumnRef(name=self.names[m.Col(kept.column)])
            options = tuple(Constant(type=Type.TEXT, value=v) for v in kept.values)
            self.steps.append(st.Keep(condition=ex.OneOf(value=column, options=options)))
        if ask.across and len(self.by) == 2 and self._cross(shown):
            return Plan(steps=tuple(self.steps))
        self._order(shown)
        if ask.then:
            self.steps.append(st.Sort(keys=tuple(self._sort_key(o) for o in ask.then)))
        if ask.stacked and len(set(shown)) > 1:
            beside = list(dict.fromkeys((*self.by, *self.extra)))
            return Plan(steps=(*self.steps, *self._in_rows(beside, list(dict.fromkeys(shown)))))
        return self._asked_first(Plan(steps=tuple(self.steps)), shown)

    def _cross(self, shown: list[str]) -> bool:
        """The values of the last group as columns; False where they are not known or too many, and rows stay rows."""
        name = shown[-1]
        down, crossed = (*self.by[:-1], *self.extra), self.by[-1]
        into = across(self.ask, self.catalogue, {*down, name, "total_row"})
        if not into:
            return False
        last = self.steps[-1]
        if isinstance(last, st.Group) and [a.name for a in last.aggregates] == [name]:
            # Straight from the rows: a cell without any is a count of nought, and totals are worked on all of them.
            pivot = st.Pivot(
                by=down, column=crossed, into=into, aggregate=last.aggregates[0], totals=self.ask.totals
            )  # fmt: skip
            self.steps[-1] = pivot
        else:
            # Each cell is one row here, whose value it takes and whose name it keeps.
            cell = Aggregate(name=name, function="max", column=name)
            pivot = st.Pivot(by=down, column=crossed, into=into, aggregate=cell)
            self.steps.append(pivot)
        keys = [SortKey(column="total_row")] if pivot.totals else []
        self.steps.append(st.Sort(keys=(*keys, *(SortKey(column=n) for n in down))))
        return True

    def _keep_late(self, within: m.Within) -> None:
        """Of a change on the month before, the months that were asked for: the one before the first counts too."""
        name, group = next((n, g) for n, g in self._times() if g.of == within.time)
        self.steps += self._those_within(within, name, group.unit)

    def _those_within(self, within: m.Within, name: str, unit: m.Unit) -> list[Step]:
        """Only the periods that lie in a span of time."""
        column = ColumnRef(name=name)
        if self.written:
            inside = [v for v in self.written if (ends := period_of(v)) is not None and _lies_in(ends, within)]
            options = tuple(Constant(type=Type.TEXT, value=v) for v in sorted(inside))
            return [st.Keep(condition=ex.OneOf(value=column, options=options))]
        kept: list[Step] = []
        for day, op in ((within.low, ">="), (within.high, "<=")):
            if day is not None:
                bound: Expression = Constant(type=Type.DATE, value=day.isoformat())
                if unit == "year":
                    bound = number_constant(day.year)
                kept.append(st.Keep(condition=ex.Compare(op=op, left=column, right=bound)))  # type: ignore[arg-type]
        return kept

    def _asked_first(self, plan: Plan, shown: list[str]) -> Plan:
        """What was asked for stands before what it was worked out from."""
        held = list(schema_of(plan, self.catalogue))
        first = list(dict.fromkeys(n for n in (*self.by, *self.extra, *shown) if n in held))
        wanted = [*first, *(n for n in held if n not in first)]
        # A column that was brought in under a longer name, beside one of its own name, is called by its own again.
        own: dict[str, str] = {}
        for group, name in zip(self.ask.groups, self.by, strict=True):
            if isinstance(group, m.Col) and group.key.column not in {*held, *own.values()}:
                own[name] = group.key.column
        if wanted == held and not own:
            return plan
        return plan.then(Pick(columns=tuple(Picked(column=n, name=own.get(n, n)) for n in wanted)))

    def _atoms(self) -> list[_Atom]:
        found: list[_Atom] = []

        def look(node: object) -> None:
            match node:
                case m.Aggregated() | m.ShareOf() | m.OverGroups():
                    found.append(node)
                case m.Combined(left=left, right=right):
                    look(left)
                    look(right)
                case m.Between(quantity=quantity, base=base, compared=compared):
                    look(m.under(quantity, base))
                    look(m.under(quantity, compared))
                case m.Along(quantity=quantity):
                    look(quantity)
                case m.Having(quantity=quantity, right=right, overall=overall):
                    look(quantity)
                    if not overall:
                        look(right)
                case m.Order(by=by):
                    look(by)
                case _:
                    pass

        for part in (*self.ask.quantities, *self.ask.having, *self.ask.order):
            look(part)
        return found

    def _base(self, atom: _Atom | None) -> str:
        """The table whose rows an atom is worked on."""
        keys = [k for g in self.ask.groups for k in columns_in(g)]
        tables: list[str] = []
        match atom:
            case m.Aggregated(expr=expr, table=table, other=other):
                tables = [k.table for e in (expr, other) if e is not None for k in columns_in(e)]
                if table is not None:
                    tables.insert(0, table)
            case m.ShareOf(table=table, expr=expr):
                tables = [table] if table is not None else []
                if expr is not None:
                    tables += [k.table for k in columns_in(expr)]
            case m.OverGroups(quantity=inner, each=each):
                tables = [*([inner.table] if inner.table else [])]
                tables += [k.table for e in (inner.expr, each) if e is not None for k in columns_in(e)]
            case None:
                pass
        tables = list(dict.fromkeys([*tables, *(k.table for k in keys)])) or [self.ask.head]
        if atom is None and not keys:
            tables = [self.ask.head]
        found = lowest_table(tables, self.catalogue)
        if found is None:
            raise CannotPlan(f"no chain of joins brings together {' and '.join(spoken(t) for t in tables)}")
        return found

    def _part(self, base: str, atoms: list[_Atom], once: tuple[ColumnKey, ...]) -> _Part:
        flow = self._flow(base)
        where = self.ask.where
        paths = [p for b in self.bases if b != base and (p := self.catalogue.path(b, base))]
        # Homes built in a year beside the people there then are told of the year as they are.
        when = event_time(self.catalogue, base)
        things = any(
            # What is told of each year again is met by the rows of its own year.
            not all(
                link.one_to_one or (when is not None and when.column in {o for _, o in link.pairs}) for link in path
            )
            for path in paths
        )
        told = any(isinstance(p, m.PartOf) and isinstance(p.of, m.EventTime) for p in m.parts(self.ask.groups))
        if self.several and (event_time(self.catalogue, base) is None or (things and not told)):
            # The land of a district is the same in every year, and a policy is there whenever it began.
            where = tuple(c for c in where if not any(isinstance(p, m.EventTime) for p in m.parts(c)))
        flow.keep(where)
        by: list[str] = []
        extra: list[str] = []
        counted = [a.expr for a in atoms if isinstance(a, m.Aggregated) and a.function in _OF_ITEMS]
        for group in (*self.ask.groups, *counted):
            if isinstance(group, m.Col):
                flow.spread(group.key, where)
        for group in self.ask.groups:
            name = self._group_name(flow, group)
            by.append(name)
            if isinstance(group, m.Col):
                identity = names_rows(group.key, self.catalogue)
                if identity is not None and (self.several or base != group.key.table):
                    flow.bring([identity])
                    extra.append(flow.names[identity])
        for shown in self.ask.shows:
            name = flow.named(shown, self._label(shown))
            if name not in by and name not in extra:
                extra.append(name)
        over = [a for a in atoms if isinstance(a, m.OverGroups)]
        if over:
            if len(atoms) > 1:
                raise CannotPlan("an average over groups is asked for by itself")
            return self._over_groups(flow, over[0], tuple(by), tuple(extra))
        aggregates: list[Aggregate] = []
        names: dict[_Atom, str] = {}
        if once:
            self._once_each(flow, once, [a for a in atoms if isinstance(a, m.Aggregated)], (*by, *extra))
        for atom in atoms:
            assert not isinstance(atom, m.OverGroups)
            made = self._aggregates(flow, atom, base, {a.name for a in aggregates} | set(by) | set(extra))
            aggregates += made[0]
            names[atom] = made[1]
        if not aggregates and not by:
            raise CannotPlan("there is nothing to work out")
        # What is derived for a percentage share stands behind the group.
        flow.steps.append(st.Group(by=tuple(dict.fromkeys((*by, *extra))), aggregates=tuple(aggregates)))
        flow.steps += self._ratios(atoms, names, aggregates)
        return _Part(tuple(flow.steps), tuple(by), tuple(extra), names)

    def _group_name(self, flow: Flow, group: m.Expr) -> str:
        if isinstance(group, m.PartOf) and isinstance(group.of, m.Below):
            flow.steps.append(st.Keep(condition=Negated(item=IsMissing(value=flow.expression(group.of)))))
        elif isinstance(group, m.PartOf):
            known = st.Keep(condition=Negated(item=IsMissing(value=flow.expression(group.of))))
            if self._may_be_unnamed(group, flow.base) and known not in flow.steps:
                flow.steps.append(known)
        return flow.named(group, self._label(group))

    def _counted_once(self, atom: _Atom, base: str) -> tuple[ColumnKey, ...]:
        """What tells apart the things that count once a group in an atom, however many rows here tell of each; else nothing.

        They are the rows of a table above, or what a fact is said of again on each of its rows here.
        """
        if not isinstance(atom, m.Aggregated) or atom.expr is None or atom.function not in _MULTIPLIED:
            return ()
        tables = {k.table for k in columns_in(atom.expr)}
        if len(tables) != 1 or atom.where or atom.other is not None:
            return ()
        (above,) = tables
        if above == base:
            fact = isinstance(atom.expr, m.Col) and self.catalogue.table(base).column(atom.expr.key.column).told_of
            return tuple(ColumnKey(base, name) for name in fact or ())
        path = self.catalogue.path(base, above)
        several = path is not None and not all(link.one_to_one for link in path)
        return (ColumnKey(above, path[-1].other_column),) if path and several else ()

    def _of_items(self, atom: _Atom) -> ColumnKey | None:
        """The column of cells with several items that an atom looks at one by one, which no other atom's rows may be."""
        if not isinstance(atom, m.Aggregated) or atom.function not in _OF_ITEMS or not isinstance(atom.expr, m.Col):
            return None
        key = atom.expr.key
        several = bool(self.catalogue.table(key.table).column(key.column).separator)
        return key if several and atom.expr not in self.ask.groups else None

    def _once_each(
        self, flow: Flow, keys: tuple[ColumnKey, ...], atoms: list[m.Aggregated], by: tuple[str, ...]
    ) -> None:
        """Measures of what keys tell apart: each of these once a group."""
        columns = [flow.named(a.expr, self._label(a.expr)) for a in atoms if a.expr is not None]
        flow.bring(list(keys))
        told = (*by, *(flow.names[key] for key in keys))
        carried = tuple(Aggregate(name=c, function="max", column=c) for c in dict.fromkeys(columns) if c not in told)
        flow.steps.append(st.Group(by=tuple(dict.fromkeys(told)), aggregates=carried))

    def _aggregates(
        self, flow: Flow, atom: m.Aggregated | m.ShareOf, base: str, taken: set[str]
    ) -> tuple[list[Aggregate], str]:
        """The aggregates of an atom, and the name its value will have."""
        match atom:
            case m.ShareOf(condition=condition, table=table, expr=expr, among=among):
                where = all_of([flow.test(self._fitted(flow, c)) for c in condition])
                if expr is None:
                    name = free_name("share", taken)
                    if table is not None and table != base:
                        return self._share_of_parents(flow, table, where, taken)
                    if not among:
                        return [Aggregate(name=name, function="share", where=where)], name
                    of = all_of([flow.test(self._fitted(flow, c)) for c in among])
                    # The share itself is derived behind the group, and no other may take its name.
                    taken.add(name)
                    return [
                        Aggregate(name=free_name("matching", taken), function="count", where=where),
                        Aggregate(name=free_name("known", taken), function="count", where=of),
                    ], name
                column = flow.named(expr, self._label(expr))
                met, whole = free_name(f"matching_{column}", taken), free_name(f"total_{column}", taken)
                return [
                    Aggregate(name=met, function="sum", column=column, where=where),
                    Aggregate(name=whole, function="sum", column=column),
                ], free_name("share", taken)
            case m.Aggregated():
                conditions = [flow.test(self._fitted(flow, c)) for c in atom.where]
                where_one = all_of(conditions) if conditions else None
                if atom.expr is None:
                    return self._count(flow, atom, base, where_one, taken)
                source = flow.named(atom.expr, self._label(atom.expr))
                other = flow.named(atom.other, self._label(atom.other)) if atom.other is not None else None
                plain, told = aggregate_name(atom.function, source, atom.percent), told_by(atom.where)
                name = free_name(f"{plain}_{told}" if told else plain, taken)
                function, percent = atom.function, atom.percent
                return [
                    Aggregate(
                        name=name, function=function, column=source, percent=percent, other=other, where=where_one
                    )
                ], name
            case _:
                assert_never(atom)

    def _fitted(self, flow: Flow, condition: m.Condition) -> m.Condition:
        """A condition on rows below as one that tests for them."""
        carrier = flow.carrier(condition)
        return condition if carrier is None else m.Has(m.Rows(carrier, (condition,)))

    def _count(
        self, flow: Flow, atom: m.Aggregated, base: str, where: Expression | None, taken: set[str]
    ) -> tuple[list[Aggregate], str]:
        table = atom.table or base
        plain, told = rows_called(table).replace(" ", "_"), told_by(atom.where)
        name = free_name(f"{plain}_{told}" if told else plain, taken)
        if table == base:
            return [Aggregate(name=name, function="count", where=where)], name
        path = self.catalogue.path(base, table)
        if not path:
            raise CannotPlan(f"{spoken(table)} cannot be counted by {spoken(base)}")
        here = ColumnKey(path[-1].table, path[-1].column)
        flow.bring([here])
        return [Aggregate(name=name, function="distinct", column=flow.names[here], where=where)], name

    def _share_of_parents(
        self, flow: Flow, table: str, where: Expression, taken: set[str]
    ) -> tuple[list[Aggregate], str]:
        path = self.catalogue.path(flow.base, table)
        if not path:
            raise CannotPlan(f"{spoken(table)} cannot be counted by {spoken(flow.base)}")
        here = ColumnKey(path[-1].table, path[-1].column)
        flow.bring([here])
        column = flow.names[here]
        met, of = free_name("matching", taken), free_name("of", taken)
        return [
            Aggregate(name=met, function="distinct", column=column, where=where),
            Aggregate(name=of, function="distinct", column=column),
        ], free_name("share", taken)

    def _ratios(self, atoms: list[_Atom], names: dict[_Atom, str], aggregates: list[Aggregate]) -> list[Step]:
        steps: list[Step] = []
        place = 0
        for atom in atoms:
            if isinstance(atom, m.ShareOf) and aggregates[place].function != "share":
                met, of = aggregates[place], aggregates[place + 1]
                steps.append(st.Derive(name=names[atom], expression=_percent(met.name, of.name)))
                place += 2
            else:
                place += 1
        return steps

    def _over_groups(self, flow: Flow, atom: m.OverGroups, by: tuple[str, ...], extra: tuple[str, ...]) -> _Part:
        each = flow.named(atom.each, self._label(atom.each))
        identity = names_rows(atom.each.key, self.catalogue) if isinstance(atom.each, m.Col) else None
        keys = [each]
        if identity is not None:
            flow.bring([identity])
            keys.append(flow.names[identity])
        if isinstance(atom.each, m.Col) and may_be_missing(atom.each.key, flow.base, self.catalogue):
            flow.steps.append(st.Keep(condition=Negated(item=IsMissing(value=ColumnRef(name=each)))))
        inner, name = self._aggregates(flow, atom.quantity, flow.base, {*by, *keys})
        flow.steps.append(st.Group(by=tuple(dict.fromkeys((*by, *keys))), aggregates=tuple(inner)))
        below = any(op in ("=", "<", "<=") for op, _ in atom.held)
        if (below or atom.change) and atom.quantity.function in ("count", "distinct", "sum"):
            flow.steps += self._noughts(atom.each, each, by, (name,))
        if atom.change:
            step = free_name("change", {*by, *keys, name})
            order = (SortKey(column=each),)
            flow.steps.append(st.Window(name=step, function=atom.change, column=name, order=order, within=by))
            name = step
            if isinstance(atom.each, m.PartOf):
                for within in self.late:
                    flow.steps += self._those_within(within, each, atom.each.unit)
                self.late = ()
        for op, number in atom.held:
            met = ex.Compare(op=op, left=ColumnRef(name=name), right=number_constant(number))
            flow.steps.append(st.Keep(condition=met))
        told = f"{each}s" if atom.function == "count" else f"{PREFIX.get(atom.function, atom.function)}_{name}"
        outer = free_name(told, {*by, *keys, name})
        # Of periods that meet something it is they that are counted, whatever was worked out for each.
        column = None if atom.function == "count" and atom.held else name
        aggregate = Aggregate(name=outer, function=atom.function, column=column, percent=atom.percent)
        flow.steps.append(st.Group(by=by, aggregates=(aggregate,)))
        return _Part(tuple(flow.steps), by, (), {atom: outer})

    def _meet(self, parts: list[_Part]) -> None:
        """Parts of several tables: one row a group with what each worked out."""
        self.by, self.extra = parts[0].by, parts[0].extra
        taken: set[str] = {*self.by, *self.extra}
        steps: list[Step] = []
        counts: list[str] = []
        for place, part in enumerate(parts):
            picked = [Picked(column=a, name=b) for a, b in zip(part.by, self.by, strict=True)]
            picked += [Picked(column=a, name=b) for a, b in zip(part.extra, self.extra, strict=True)]
            for atom, own in part.names.items():
                name = free_name(own, taken)
                taken.add(name)
                self.names[atom] = name
                picked.append(Picked(column=own, name=name))
                if isinstance(atom, m.Aggregated) and atom.function in ("count", "distinct"):
                    counts.append(name)
            part_steps = (*part.steps, Pick(columns=tuple(picked)))
            steps = [*part_steps] if place == 0 else [*steps, st.Append(other=Plan(steps=part_steps))]
        values = [n for k, n in self.names.items()]
        ordered = tuple(Aggregate(name=n, function="max", column=n) for n in dict.fromkeys(values))
        steps.append(st.Group(by=tuple(dict.fromkeys((*self.by, *self.extra))), aggregates=ordered))
        for name in counts:
            filled = free_name(f"{name} or 0", taken)
            steps.append(
                st.Derive(
                    name=filled,
                    expression=ex.FirstKnown(items=(ColumnRef(name=name), Constant(type=Type.INTEGER, value=0))),
                )
            )
            shown = [*self.by, *self.extra, *dict.fromkeys(values)]
            steps.append(Pick(columns=tuple(Picked(column=filled if n == name else n, name=n) for n in shown)))
        self.steps = steps

    # --- behind the group

    def _times(self) -> list[tuple[str, m.PartOf]]:
        return [
            (name, group) for name, group in zip(self.by, self.ask.groups, strict=True) if isinstance(group, m.PartOf)
        ]

    def _noughts(self, of: m.Expr, name: str, by: tuple[str, ...], zeros: tuple[str, ...]) -> list[Step]:
        """The periods in which there is nothing, of those that are asked about and are not still to come."""
        if not isinstance(of, m.PartOf) or of.unit not in _LINES or of.unit == "year":
            return []
        asked = [c for c in self.ask.where if isinstance(c, m.Within) and c.time == of.of]
        low = max((c.low for c in asked if c.low is not None), default=None)
        high = min((c.high for c in asked if c.high is not None), default=None)
        first, last = (
            None if day is None else Constant(type=Type.DATE, value=_period_start(day, of.unit).isoformat())
            for day in (low, None if high is None else min(high, self.day))
        )
        return [st.Fill(column=name, unit=_LINES[of.unit], within=by, zeros=zeros, low=first, high=last)]

    def _fill(self) -> None:
        """The one before a month is the month before, also where that has no rows: its counts and sums are nought."""
        lines = [(name, _LINES[g.unit]) for name, g in self._times() if g.unit in _LINES]
        if len(lines) != 1 or self.extra:
            return
        if schema_of(Plan(steps=tuple(self.steps)), self.catalogue)[lines[0][0]].type is Type.TEXT:
            # Periods that are written as text have no days between them to be filled.
            return
        zeros = tuple(
            n
            for atom, n in self.names.items()
            if isinstance(atom, m.Aggregated) and atom.function in ("count", "distinct", "sum")
        )
        within = tuple(n for n in self.by if n != lines[0][0])
        self.steps.append(st.Fill(column=lines[0][0], unit=lines[0][1], within=within, zeros=zeros))

    def _free(self, label: str) -> str:
        name = free_name(label, self.taken)
        self.taken.add(name)
        return name

    def _derive(self, label: str, expression: Expression) -> str:
        name = self._free(label)
        self.steps.append(st.Derive(name=name, expression=expression))
        return name

    def _quantity(self, quantity: m.Quantity) -> list[str]:
        """Names of the columns that a quantity stands in, worked out behind the group where needed."""
        match quantity:
            case m.Aggregated() | m.ShareOf() | m.OverGroups():
                return [self.names[quantity]]
            case m.Combined(op=op, left=left, right=right, percent=percent):
                if quantity in self.names:
                    return [self.names[quantity]]
                if op == "*" and isinstance(left, m.Combined) and left.op == "/" and isinstance(right, m.Number):
                    # So many for every hundred of them is one figure, and no ratio and its product.
                    sides = [self._quantity(q)[-1] for q in (left.left, left.right) if not isinstance(q, m.Number)]
                    if len(sides) == 2:
                        top, bottom = (ColumnRef(name=n) for n in sides)
                        rate = ex.Arithmetic(op="/", left=top, right=bottom)
                        of_all = ex.Arithmetic(op="*", left=rate, right=number_constant(right.value))
                        self.names[quantity] = self._derive(f"rate_per_{right.value:,.10g}", of_all)
                        return [self.names[quantity]]
                one, two = (
                    number_constant(side.value) if isinstance(side, m.Number) else self._side(side, other, op)
                    for side, other in ((left, right), (right, left))
                )
                value: Expression = ex.Arithmetic(op=op, left=one, right=two)
                if percent:
                    value = ex.Arithmetic(op="*", left=value, right=number_constant(100))
                label = {"+": "sum", "-": "difference", "*": "product", "/": "percentage" if percent else "ratio"}[op]
                self.names[quantity] = self._derive(self.called.get(quantity, label), value)
                return [self.names[quantity]]
            case m.Between():
                return self._between(quantity)
            case m.Along():
                return self._along(quantity)
            case _:
                assert_never(quantity)

    def _side(self, quantity: m.Quantity, other: m.Quantity | m.Number, op: str) -> Expression:
        """A side of a sum or difference; what is added up of rows that the other side's do not point at may have none."""
        value = ColumnRef(name=self._quantity(quantity)[-1])
        here, there = m.tables_in(quantity), m.tables_in(other)
        apart = here != there and not any(self.catalogue.path(t, h) for t in there for h in here)
        if op in "+-" and apart and isinstance(quantity, m.Aggregated) and quantity.function == "sum":
            return ex.FirstKnown(items=(value, number_constant(0)))
        return value

    def _between(self, quantity: m.Between) -> list[str]:
        if quantity not in self.names:
            base, compared = (
                ColumnRef(name=self._quantity(m.under(quantity.quantity, c))[-1])
                for c in (quantity.base, quantity.compared)
            )
            difference = self._derive("change", ex.Arithmetic(op="-", left=compared, right=base))
            ratio = ex.Arithmetic(op="/", left=ColumnRef(name=difference), right=base)
            percent = self._derive("change_percent", ex.Arithmetic(op="*", left=ratio, right=number_constant(100)))
            self.names[quantity] = difference if quantity.absolute else percent
        return [self.names[quantity]]

    def _along(self, quantity: m.Along) -> list[str]:
        source = self._quantity(quantity.quantity)[-1]
        if quantity in self.names:
            return [source, self.names[quantity]]
        times = [name for name, g in self._times()]
        if quantity.kind == "running" and not times:
            # A cumulative distribution runs along the bands.
            times = [n for n, g in zip(self.by, self.ask.groups, strict=True) if isinstance(g, (m.Band, m.Tile))]
        others = tuple(n for n in (*self.by, *self.extra) if n not in times)
        order = tuple(SortKey(column=n) for n in times)
        if not times and m.is_cumulative_share(quantity):
            order, others, times = (SortKey(column=source, descending=True),), (), [source]
        needs_time = quantity.kind in m.ALONG_TIME
        if needs_time and not times:
            raise CannotPlan("a change or a running total needs a time to go along")
        name = self._free(
            {
                "share": "share_of_total",
                "share_within": "share_within",
                "running": "cumulative_share" if m.is_cumulative_share(quantity) else "running_total",
                "change": "change",
                "change_percent": "change_percent",
                "rank": "rank",
                "rank_within": "rank_within",
                "moving": "moving_average",
                "moving_total": "moving_total",
                "year_before": "change_on_year",
                "from_average": "difference_from_average",
            }[quantity.kind]
        )
        match quantity.kind:
            case "share" | "share_within":
                within = self.by[:1] if quantity.kind == "share_within" else ()
                step = st.Window(name=name, function="share", column=source, within=within)
            case "from_average":
                usual = self._usual(quantity.quantity, source)
                apart = ex.Arithmetic(op="-", left=ColumnRef(name=source), right=ColumnRef(name=usual))
                self.steps.append(st.Derive(name=name, expression=apart))
                self.names[quantity] = name
                return [source, usual, name]
            case "running":
                step = st.Window(name=name, function="running_total", column=source, order=order, within=others)
            case "change":
                step = st.Window(name=name, function="change", column=source, order=order, within=others)
            case "change_percent":
                step = st.Window(name=name, function="change_percent", column=source, order=order, within=others)
            case "moving" | "moving_total":
                step = st.Window(
                    name=name,
                    function="moving_average" if quantity.kind == "moving" else "moving_total",
                    column=source,
                    order=order,
                    within=others,
                    rows=quantity.number,
                )
            case "year_before":
                step = st.Window(
                    name=name, function="change_percent", column=source, order=order, within=others, back=1, unit="year"
                )
            case "rank" | "rank_within":
                within = self.by[:1] if quantity.kind == "rank_within" else ()
                order = (SortKey(column=source, descending=True),)
                step = st.Window(name=name, function="rank", column=source, order=order, within=within)
            case _:
                assert_never(quantity.kind)
        self.steps.append(step)
        self.names[quantity] = name
        return [source, name]

    def _having(self, having: m.Having) -> None:
        left = ColumnRef(name=self._quantity(having.quantity)[-1])
        right: Expression
        match having.right:
            case m.Number(value=value):
                right = number_constant(value)
            case m.Col(key=key):
                right = ColumnRef(name=next((n for n in self.extra if n.endswith(key.column)), key.column))
            case other if having.overall:
                right = ColumnRef(name=self._overall(other))
            case other:
                right = ColumnRef(name=self._quantity(other)[-1])
        self.steps.append(st.Keep(condition=ex.Compare(op=having.op, left=left, right=right)))

    def _overall(self, quantity: m.Quantity) -> str:
        """What something comes to over all groups together, beside each of them."""
        where = self.ask.where
        if not isinstance(quantity, m.OverGroups):
            # The average film is one of all films, also of those that are of no genre.
            links = {ColumnKey(r.table, r.column) for r in self.catalogue.parents(self.ask.head)}
            named = {g.key for g in self.ask.groups if isinstance(g, m.Col)} | links
            where = tuple(
                c
                for c in where
                if not (isinstance(c, m.Not) and isinstance(c.item, m.Missing) and c.item.column in named)
            )
        plan = Lowering(m.Ask(self.ask.head, where=where, quantities=(quantity,)), self.catalogue, self.day)
        worked = plan.plan()
        name = self._free("overall")
        picked = Pick(columns=(Picked(column=plan.names[quantity], name=name),))
        self.steps.append(st.Join(other=worked.then(picked), on=()))
        return name

    def _usual(self, quantity: m.Quantity, source: str) -> str:
        """What all come to where that is told of each row, and what one comes to on average where it adds up."""
        if not m.adds_up(quantity):
            return self._overall(quantity)
        name = self._free("average")
        self.steps.append(st.Window(name=name, function="average", column=source))
        return name

    def _sort_key(self, order: m.Order) -> SortKey:
        if isinstance(order.by, m.EXPRESSIONS):
            name = self.names.get(order.by)
            if name is None and isinstance(order.by, m.Col):
                name = next((n for n in self.extra if n.endswith(order.by.key.column)), None)
            if name is None:
                raise CannotPlan("what to sort by is not in the answer")
        else:
            name = self._quantity(order.by)[-1]
        return SortKey(column=name, descending=order.descending)

    def _may_be_unnamed(self, group: m.Expr, base: str) -> bool:
        """True where some rows of a table belong to no group that has a name: for want of a value, or of a partner."""
        told = isinstance(group, m.PartOf) and isinstance(group.of, m.EventTime)
        when = event_time(self.catalogue, base) if told else None
        keys = [when] if when is not None else columns_in(group)
        return any(may_be_missing(key, base, self.catalogue) for key in keys)

    def _order(self, shown: list[str]) -> None:
        ask = self.ask
        if not self.by:
            return
        keys = [self._sort_key(order) for order in ask.order]
        times = [
            n
            for n, g in zip(self.by, ask.groups, strict=True)
            if isinstance(g, m.PartOf)
            or (isinstance(g, m.Col) and is_in_time_order(self.catalogue.table(g.key.table).column(g.key.column)))
        ]
        if ask.limit is not None:
            groups = zip(self.by, ask.groups, strict=True)
            gaps = [n for n, g in groups if any(self._may_be_unnamed(g, base) for base in self.bases)]
            known = [k.column for k in keys if k.column not in gaps]
            conditions: list[Expression] = [
                Negated(item=IsMissing(value=ColumnRef(name=n))) for n in dict.fromkeys([*gaps, *known])
            ]
            if conditions:
                self.steps.append(st.Keep(condition=all_of(conditions)))
        if ask.limit is not None and ask.per and keys:
            self._limit_within(self.steps, self.by[: ask.per], ask.limit, ask.skip, tuple(keys), self._free("place"))
            return
        if not keys:
            if times:
                keys = [SortKey(column=n) for n in [*times, *(b for b in self.by if b not in times)]]
            elif len(self.by) == 1 and shown and isinstance(ask.groups[0], (m.Col, m.Test)):
                keys = [SortKey(column=shown[0], descending=True)]
            else:
                keys = [SortKey(column=n) for n in self.by]
        self.steps.append(st.Sort(keys=tuple(keys)))
        self._limit(self.steps, ask.limit, ask.skip, tuple(keys), self._free("place"))

    def _label(self, expr: m.Expr | None) -> str:
        if expr in self.called:
            return self.called[expr]
        match expr:
            case m.Col(key=key):
                return key.column
            case m.PartOf(unit=unit):
                return {"month_of_year": "month", "quarter_of_year": "quarter"}.get(unit, unit)
            case m.Length(unit=unit):
                return "years" if unit == "whole_years" else unit
            case m.Arithmetic(op="*", left=m.Col(), right=m.Number(value=part)) if (
                whole := m.parts_of_time(part)
            ) is not None:
                return whole[1]
            case m.Arithmetic(op="-", left=m.Number(value=0.0), right=right):
                # What went out, where the sign of an amount says so.
                return f"{self._label(right)} out"
            case m.Arithmetic(op=op, left=m.Col(key=left), right=m.Col(key=right)):
                # Quantity × price says more than a product does.
                return f"{left.column} {_SIGNS[op]} {right.column}"
            case m.Arithmetic(op=op, left=m.Col(key=left), right=m.Number(value=value)):
                return f"{left.column} {_SIGNS[op]} {value:,.10g}"
            case m.Arithmetic(op="*", left=m.Col(), right=m.Arithmetic(op="-", left=m.Col(), right=m.Col())):
                # So many of each at the difference of two prices.
                return "gain"
            case m.Arithmetic(op="*", left=left) if isinstance(left, m.Arithmetic) and _is_priced(expr):
                # So many of each at a price, less a discount: what it comes to.
                return "amount"
            case m.Arithmetic(op=op):
                return {"+": "sum", "-": "difference", "*": "product", "/": "ratio"}[op]
            case m.Band(of=of):
                return f"{self._label(of)}_band"
            case m.Tile(of=of, number=number):
                return f"{self._label(of)}_{TILES.get(number, 'group')}"
            case m.Given(condition=m.Is(values=(str(value),))):
                return re.sub(r"\W+", "_", value).strip("_").lower()
            case m.Given(of=m.Col() as of, condition=m.Compared(op=">", right=m.Number(value=0.0))):
                return f"{self._label(of)} in"
            case m.Given(of=m.Col(key=of), condition=m.Not(item=m.Missing(column=key))) if of.table != key.table:
                # The seats of a screen, for each of its showings.
                return f"{of.column} each time"
            case m.Given(of=of):
                return self._label(of)
            case m.AsAt(value=key):
                return f"{key.column} then"
            case m.Since(unit=unit, time=key):
                return f"{unit}_between_{key.table}"
            case m.Below(quantity=quantity):
                return quantity.table or self._label(quantity.expr)
            case m.Test(condition=condition):
                names = columns_in(condition, nested=True)
                return f"{names[0].column}_group" if names else "group"
            case _:
                return "value"


def _is_priced(expr: m.Expr) -> bool:
    """True for what is made of a price or a cost."""
    return any({"price", "cost", "rate", "fee"} & {*name_parts(key.column)} for key in columns_in(expr))


def _seen_late(ask: m.Ask) -> tuple[m.Ask, tuple[m.Within, ...]]:
    """The question without the times that are only to be shown: a change or a moving average needs what was before."""
    looking_back = ("change", "change_percent", "moving", "moving_total", "year_before")
    parts = m.parts(ask.quantities)
    along = [p for p in parts if isinstance(p, m.Along)]
    stepped = [p.each for p in parts if isinstance(p, m.OverGroups) and p.change]
    times = [g for g in (*ask.groups, *stepped) if isinstance(g, m.PartOf)]
    if not (along or stepped) or len(times) != 1 or any(p.kind not in looking_back for p in along):
        return ask, ()
    unit = times[0].unit
    late = tuple(
        c
        for c in ask.where
        if isinstance(c, m.Within) and c.time == times[0].of and c.low is not None and _begins(unit, c.low)
    )
    return ask.but(where=tuple(c for c in ask.where if c not in late)), late


def _lies_in(ends: tuple[dt.date, dt.date], within: m.Within) -> bool:
    """True for a period that lies in a span of time."""
    return (within.low is None or within.low <= ends[0]) and (within.high is None or ends[1] <= within.high)


def _begins(unit: m.Unit, day: dt.date) -> bool:
    """True where a period of that unit begins with the day."""
    return unit in UNITS and _period_start(day, unit) == day


def _placed(name: str, limit: int, skip: int) -> Expression:
    """That a row is among the first few, or among those after them."""
    place = ColumnRef(name=name)
    if not skip:
        return ex.Compare(op="<=", left=place, right=number_constant(limit))
    return ex.Between(value=place, low=number_constant(skip + 1), high=number_constant(skip + limit))


def _percent(part: str, whole: str) -> Expression:
    ratio = ex.Arithmetic(op="/", left=ColumnRef(name=part), right=ColumnRef(name=whole))
    return ex.Arithmetic(op="*", left=ratio, right=number_constant(100))
