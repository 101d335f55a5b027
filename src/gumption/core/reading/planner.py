"""A frame as a plan: which table to start from, which joins reach the rest, and the steps in order."""

from __future__ import annotations

from typing import Literal

from gumption.core.model.catalogue import Catalogue, Column, Relationship
from gumption.core.model.names import free_name
from gumption.core.model.types import Role, Type
from gumption.core.plan.expressions import (
    Aggregate,
    AllOf,
    ColumnRef,
    Compare,
    Constant,
    DateFloor,
    DatePart,
    Expression,
    IsMissing,
    Negated,
    children,
)
from gumption.core.plan.steps import (
    Derive,
    Fill,
    Group,
    Join,
    Keep,
    KeyPair,
    Limit,
    Pick,
    Picked,
    Plan,
    Sort,
    SortKey,
    Step,
    Take,
    Window,
)
from gumption.core.reading.frame import CannotPlan, Condition, Frame, GroupKey, Measure, Order
from gumption.core.reading.meeting import measured_tables, meeting_steps
from gumption.core.reading.vocabulary import ColumnKey, name_parts


def renamed(expression: Expression, name: str) -> Expression:
    """The expression with its one column under another name."""
    if isinstance(expression, ColumnRef):
        return ColumnRef(name=name)
    if not children(expression):
        return expression
    changes: dict[str, object] = {}
    for field in type(expression).model_fields:
        part = getattr(expression, field)
        if isinstance(part, tuple):
            changes[field] = tuple(renamed(p, name) for p in part)
        elif hasattr(part, "kind"):
            changes[field] = renamed(part, name)
    return expression.model_copy(update=changes)


_ALONG = ("change", "change_percent", "running_total")
_LINES: dict[str | None, Literal["number", "quarter", "month", "week", "day"]] = {
    "year": "number",
    "quarter": "quarter",
    "month": "month",
    "week": "week",
    "day": "day",
}
"""How the periods of a group by time follow each other; a year is a whole number."""
_MULTIPLIED = ("sum", "mean", "median", "deviation", "percentile", "count")
"""Aggregates that change where a row is met several times."""


def meets(frame: Frame, catalogue: Catalogue) -> bool:
    """True where measures of several tables cannot be worked out row by row of one of them."""
    tables = measured_tables(frame)
    if len(tables) < 2 or any(m.other is not None for m in frame.measures):
        return False
    lowest = [t for t in tables if all(catalogue.path(t, other) is not None for other in tables)]
    return not lowest or any(
        m.column is not None and m.column.table != lowest[0] and m.function in _MULTIPLIED for m in frame.measures
    )


class Planner:
    """Builds one plan; keeps the names under which joined columns are known."""

    def __init__(self, frame: Frame, catalogue: Catalogue) -> None:
        self.frame, self.catalogue = frame, catalogue
        self.base = measured_tables(frame)[0] if meets(frame, catalogue) else self._base()
        self.names: dict[ColumnKey, str] = {
            ColumnKey(self.base, c.name): c.name for c in catalogue.table(self.base).columns
        }
        self.steps: list[Step] = [Take(table=self.base)]
        self.joined: dict[str, str] = {}

    def _column(self, key: ColumnKey) -> Column:
        return self.catalogue.table(key.table).column(key.column)

    def _needed(self) -> list[ColumnKey]:
        frame = self.frame
        keys = [m.column for m in frame.measures if m.column]
        keys += [m.other for m in frame.measures if m.other]
        keys += [g.column for g in frame.groups] + list(frame.shown)
        if frame.order and frame.order.column:
            keys.append(frame.order.column)
        return keys

    def _base(self) -> str:
        """The table whose rows are counted, measured or listed: the one from which the others are reached."""
        frame = self.frame
        tables = [m.column.table if m.column else m.table for m in frame.measures]
        tables += [frame.subject, *(key.table for key in self._needed()), *(c.column.table for c in frame.conditions)]
        ordered = list(dict.fromkeys(t for t in tables if t))
        if not ordered:
            raise CannotPlan("the question names no table or column")
        wanted = {key.table for key in self._needed()}
        if frame.measures:
            counted = measured_tables(frame)
            if len(counted) > 1:
                # Only reached where all are measured row by row of one of them; see `meets`.
                return next(t for t in counted if all(self.catalogue.path(t, o) is not None for o in counted))
        for table in ordered:
            if all(self.catalogue.path(table, other) is not None for other in wanted):
                return table
        raise CannotPlan(f"no chain of joins brings together {', '.join(sorted(wanted))}")

    def plan(self) -> Plan:
        frame = self.frame
        if meets(frame, self.catalogue):
            return self._meeting()
        own = [c for c in frame.conditions if c.column.table == self.base]
        others = [c for c in frame.conditions if c.column.table != self.base]
        if own:
            self._keep(own)
        for table, present in frame.presence:
            self._presence(table, present)
        upward = [c for c in others if self.catalogue.path(self.base, c.column.table) is not None]
        for condition in others:
            if condition not in upward:
                self._having_partner(condition)
        self._join_all([*self._needed(), *(c.column for c in upward)], {c.column for c in upward})
        if upward:
            self._keep(upward)
        if frame.measures or frame.groups:
            self._group()
        else:
            self._listing()
        return Plan(steps=tuple(self.steps))

    def _meeting(self) -> Plan:
        """Measures of several tables: each at its own grain, together by group."""
        self.steps, by, aggregates = meeting_steps(self.frame, self.catalogue, lambda f: plan_of(f, self.catalogue))
        self._after_group(by, aggregates)
        return Plan(steps=tuple(self.steps))

    def _keep(self, conditions: list[Condition]) -> None:
        items = tuple(renamed(c.expression, self.names[c.column]) for c in conditions)
        self.steps.append(Keep(condition=items[0] if len(items) == 1 else AllOf(items=items)))

    def _presence(self, table: str, present: bool) -> None:
        path = self.catalogue.path(table, self.base)
        if path is None or len(path) != 1:
            raise CannotPlan(f"rows of {table} do not point at rows of {self.base}")
        link = path[0]
        on = tuple(KeyPair(left=there, right=here) for here, there in link.pairs)
        self.steps.append(Join(other=Plan(steps=(Take(table=table),)), on=on, how="with" if present else "without"))

    def _having_partner(self, condition: Condition) -> None:
        """A condition on rows that point here: those with, or without, such a row."""
        path = self.catalogue.path(condition.column.table, self.base)
        if path is None or len(path) != 1:
            raise CannotPlan(
                f"{condition.column.column} of {condition.column.table} cannot be tested on rows of {self.base}"
            )
        link = path[0]
        inner = renamed(condition.expression, condition.column.column)
        if condition.negated and isinstance(inner, Negated):
            inner = inner.item
        other = Plan(steps=(Take(table=condition.column.table), Keep(condition=inner)))
        on = tuple(KeyPair(left=there, right=here) for here, there in link.pairs)
        self.steps.append(Join(other=other, on=on, how="without" if condition.negated else "with"))

    def _join_all(self, keys: list[ColumnKey], filters: set[ColumnKey]) -> None:
        """Join every table on the way to the columns, nearest first, bringing only the columns that are used."""
        chains = {key.table: self.catalogue.path(self.base, key.table) for key in keys if key.table != self.base}
        brought: dict[str, list[str]] = {}
        links: dict[str, Relationship] = {}
        for key in keys:
            for link in chains.get(key.table) or ():
                links.setdefault(link.other, link)
                brought.setdefault(link.other, [])
                if link.table != self.base:
                    brought[link.table].extend(here for here, _ in link.pairs)
            if key.table != self.base:
                brought[key.table].append(key.column)
        shown = {key.table for key in keys if key not in filters}
        for table, link in links.items():
            self._join(table, link, brought[table], kept=self._shown_beyond(table, shown))

    def _shown_beyond(self, table: str, shown: set[str]) -> bool:
        return any(
            table == s or any(link.other == table for link in self.catalogue.path(self.base, s) or ()) for s in shown
        )

    def _join(self, table: str, link: Relationship, columns: list[str], *, kept: bool) -> None:
        taken = set(self.names.values())
        # The keys come along once, under names of their own, since the other side already has their equals.
        picked = []
        for column in dict.fromkeys([*(there for _, there in link.pairs), *columns]):
            name = self._free(table, column, taken)
            picked.append(Picked(column=column, name=name))
            self.names[ColumnKey(table, column)] = name
        pairs = tuple(
            KeyPair(left=self.names[ColumnKey(link.table, here)], right=self.names[ColumnKey(table, there)])
            for here, there in link.pairs
        )
        nearer = self.catalogue.table(link.table)
        gaps = link.unmatched > 0 or any(nearer.column(here).missing > 0 for here, _ in link.pairs)
        other = Plan(steps=(Take(table=table), Pick(columns=tuple(picked))))
        self.steps.append(Join(other=other, on=pairs, how="left" if gaps and kept else "inner"))

    def _free(self, table: str, column: str, taken: set[str]) -> str:
        single = "_".join(name_parts(table)).removesuffix("s")
        name = column
        if name in taken:
            name = f"{single}_{column}" if f"{single}_{column}" not in taken else f"{table}.{column}"
        taken.add(name)
        return name

    def _group(self) -> None:
        frame = self.frame
        by = []
        for group in frame.groups:
            by.append(self._group_name(group))
        measures = frame.measures or ()
        aggregates: list[Aggregate] = []
        for measure in measures:
            aggregates.append(self._aggregate(measure, {a.name for a in aggregates} | set(by)))
        extras = self._extra_keys(by)
        self._single_rows((*by, *extras), aggregates)
        self.steps.append(Group(by=(*by, *extras), aggregates=tuple(aggregates)))
        self._after_group(by, aggregates)

    def _single_rows(self, by: tuple[str, ...], aggregates: list[Aggregate]) -> None:
        """Measures of another table than the rows are of: each of its rows once a group, however many rows point at it."""
        measured = {m.column.table for m in self.frame.measures if m.column and m.function in _MULTIPLIED}
        for table in measured - {self.base}:
            path = self.catalogue.path(self.base, table)
            if (
                not path
                or all(link.one_to_one for link in path)
                or any(m.other is not None for m in self.frame.measures)
            ):
                continue
            key = self.names.get(ColumnKey(table, path[-1].other_column))
            if key is None:
                continue
            columns = dict.fromkeys(a.column for a in aggregates if a.column and a.column not in (*by, key))
            carried = tuple(Aggregate(name=c, function="max", column=c) for c in columns)
            self.steps.append(Group(by=tuple(dict.fromkeys((*by, key))), aggregates=carried))

    def _after_group(self, by: list[str], aggregates: list[Aggregate]) -> None:
        frame = self.frame
        for having in frame.having:
            left = ColumnRef(name=aggregates[having.measure].name)
            whole = float(having.number).is_integer()
            right = Constant(
                type=Type.INTEGER if whole else Type.FLOAT, value=int(having.number) if whole else having.number
            )
            self.steps.append(Keep(condition=Compare(op=having.op, left=left, right=right)))
        if frame.within and frame.order is not None and frame.limit is not None:
            self._first_within(by, aggregates, frame.order, frame.limit)
            return
        timed = [n for n, g in zip(by, frame.groups, strict=True) if g.unit]
        if any(function in _ALONG for function in frame.windows):
            self._fill(by, aggregates)
        for function in frame.windows:
            self._window(function, aggregates[0].name, timed, by)
        self._sort_groups(by, aggregates)

    def _fill(self, by: list[str], aggregates: list[Aggregate]) -> None:
        """The one before a month is the month before, also where that has no rows: its counts and sums are nought."""
        lines = [(n, _LINES[g.unit]) for n, g in zip(by, self.frame.groups, strict=True) if g.unit in _LINES]
        if len(lines) != 1:
            return
        name, unit = lines[0]
        zeros = tuple(
            a.name
            for a, m in zip(aggregates, self.frame.measures, strict=True)
            if m.function in ("count", "distinct", "sum")
        )
        within = tuple(other for other in by if other != name)
        self.steps.append(Fill(column=name, unit=unit, within=within, zeros=zeros))

    def _first_within(self, by: list[str], aggregates: list[Aggregate], order: Order, limit: int) -> None:
        """The first rows of each outer group, ties at the last place included."""
        outer = tuple(by[: self.frame.within])
        measure = aggregates[order.measure or 0].name
        self._keep_known([n for n, g in zip(by, self.frame.groups, strict=True) if self._gaps(g.column)])
        key = SortKey(column=measure, descending=order.descending)
        self.steps.append(Window(name="place", function="rank", column=measure, order=(key,), within=outer))
        place = Compare(op="<=", left=ColumnRef(name="place"), right=Constant(type=Type.INTEGER, value=limit))
        self.steps.append(Keep(condition=place))
        self.steps.append(Sort(keys=(*(SortKey(column=n) for n in outer), SortKey(column="place"))))

    def _extra_keys(self, by: list[str]) -> tuple[str, ...]:
        """Columns asked to be shown beside the groups, which a group's key decides."""
        return tuple(n for key in self.frame.shown if (n := self.names[key]) not in by)

    def _group_name(self, group: GroupKey) -> str:
        source = self.names[group.column]
        column = self._column(group.column)
        if group.unit is None or not column.type.is_time:
            return source
        name = {"month_of_year": "month"}.get(group.unit, group.unit)
        if name in self.names.values():
            name = f"{name}_of_{source}"
        value = ColumnRef(name=source)
        expression: Expression
        match group.unit:
            case "weekday" | "hour":
                expression = DatePart(part=group.unit, value=value)
            case "month_of_year":
                expression = DatePart(part="month", value=value)
            case "year":
                expression = DatePart(part="year", value=value)
            case "quarter" | "month" | "week" | "day":
                expression = DateFloor(unit=group.unit, value=value)
        if column.missing and not any(c.column == group.column for c in self.frame.conditions):
            self.steps.append(Keep(condition=Negated(item=IsMissing(value=value))))
        self.steps.append(Derive(name=name, expression=expression))
        return name

    def _aggregate(self, measure: Measure, taken: set[str]) -> Aggregate:
        if measure.column is None:
            name = free_name(measure.table or "rows", taken)
            if measure.table and measure.table != self.base:
                path = self.catalogue.path(self.base, measure.table)
                if not path or len(path) != 1:
                    raise CannotPlan(f"rows of {measure.table} cannot be counted from {self.base}")
                return Aggregate(name=name, function="distinct", column=path[0].column)
            return Aggregate(name=name, function="count")
        source = self.names[measure.column]
        prefix = {
            "sum": "total",
            "mean": "average",
            "median": "median",
            "min": "lowest",
            "max": "highest",
            "count": "count",
            "distinct": "different",
            "deviation": "deviation",
            "percentile": f"percentile_{measure.percent or 0:g}",
            "correlation": "correlation",
        }[measure.function]
        other = self.names[measure.other] if measure.other else None
        joined = "correlation" if measure.function == "correlation" else f"{prefix}_{source}".replace(" ", "_")
        return Aggregate(
            name=free_name(joined, taken),
            function=measure.function,
            column=source,
            percent=measure.percent,
            other=other,
        )

    def _window(self, function: str, measure: str, timed: list[str], by: list[str]) -> None:
        if function in ("running_total", "change", "change_percent") and not timed:
            raise CannotPlan("a change or a running total needs a time to go along")
        within = tuple(n for n in by if n not in timed) if timed and function not in ("share", "rank") else ()
        order = (
            tuple(SortKey(column=n) for n in timed) if function in ("running_total", "change", "change_percent") else ()
        )
        if function == "rank":
            order = (SortKey(column=measure, descending=True),)
        name = {"share": "share_of_total", "change_percent": "change_percent"}.get(function, function)
        self.steps.append(Window(name=name, function=function, column=measure, order=order, within=within))  # type: ignore[arg-type]

    def _sort_groups(self, by: list[str], aggregates: list[Aggregate]) -> None:
        frame, order = self.frame, self.frame.order
        if not by:
            return
        timed = [n for n, g in zip(by, frame.groups, strict=True) if g.unit]
        keys: tuple[SortKey, ...]
        if order is not None and order.measure is not None and order.measure < len(aggregates):
            keys = (SortKey(column=aggregates[order.measure].name, descending=order.descending),)
            if frame.limit is not None:
                gaps = [n for n, g in zip(by, frame.groups, strict=True) if self._gaps(g.column)]
                measure = frame.measures[order.measure]
                if (
                    measure.column is not None
                    and measure.function not in ("count", "distinct")
                    and self._column(measure.column).missing
                ):
                    gaps.insert(0, keys[0].column)
                self._keep_known(gaps)
        elif order is not None and order.column is not None and self.names.get(order.column) in by:
            keys = (SortKey(column=self.names[order.column], descending=order.descending),)
        elif timed:
            keys = tuple(SortKey(column=n) for n in [*timed, *(b for b in by if b not in timed)])
        elif len(by) == 1 and aggregates and self._unordered(frame.groups[0]):
            keys = (SortKey(column=aggregates[0].name, descending=True),)
        else:
            keys = tuple(SortKey(column=n) for n in by)
        self.steps.append(Sort(keys=keys))
        if frame.limit is not None:
            self.steps.append(Limit(rows=frame.limit))
        self._shown_sort()

    def _gaps(self, key: ColumnKey) -> bool:
        """True where a column may be missing on some row: by itself, or for want of a partner."""
        if self._column(key).missing:
            return True
        links = self.catalogue.path(self.base, key.table) or ()
        return any(link.unmatched or self.catalogue.table(link.table).column(link.column).missing for link in links)

    def _keep_known(self, names: list[str]) -> None:
        known = tuple(Negated(item=IsMissing(value=ColumnRef(name=n))) for n in names)
        if known:
            self.steps.append(Keep(condition=known[0] if len(known) == 1 else AllOf(items=known)))

    def _shown_sort(self) -> None:
        order = self.frame.shown_order
        if order is not None and order.column in self.names:
            self.steps.append(Sort(keys=(SortKey(column=self.names[order.column], descending=order.descending),)))

    def _unordered(self, group: GroupKey) -> bool:
        return self._column(group.column).type in (Type.TEXT, Type.BOOLEAN)

    def _listing(self) -> None:
        frame = self.frame
        table = self.catalogue.table(self.base)
        chosen = list(frame.shown)
        naming = table.naming_column
        if (
            naming is not None
            and ColumnKey(self.base, naming.name) not in chosen
            and (frame.subject == self.base or not chosen or chosen[0].table == self.base)
        ):
            chosen.insert(0, ColumnKey(self.base, naming.name))
        if frame.order and frame.order.column and frame.order.column not in chosen:
            chosen.append(frame.order.column)
        if len(chosen) == 1 and naming is not None and naming.role is Role.IDENTIFIER:
            chosen = [ColumnKey(self.base, c.name) for c in table.columns]
        chosen = chosen or [ColumnKey(self.base, c.name) for c in table.columns]
        if frame.order and frame.order.column and frame.limit is not None and self._gaps(frame.order.column):
            self._keep_known([self.names[frame.order.column]])
        self.steps.append(Pick(columns=tuple(Picked(column=self.names[k], name=self.names[k]) for k in chosen)))
        if frame.order and frame.order.column:
            keys = (SortKey(column=self.names[frame.order.column], descending=frame.order.descending),)
        else:
            keys = (SortKey(column=self.names[chosen[0]]),)
        self.steps.append(Sort(keys=keys))
        if frame.limit is not None:
            self.steps.append(Limit(rows=frame.limit))
        self._shown_sort()


def plan_of(frame: Frame, catalogue: Catalogue) -> Plan:
    """The plan of a frame. Raises CannotPlan, with words for a person."""
    return Planner(frame, catalogue).plan()
