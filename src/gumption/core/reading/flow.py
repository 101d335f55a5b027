"""Rows under way to a plan: joins brought in as they are needed, expressions and conditions as a plan says them."""

from __future__ import annotations

import datetime as dt
import math
import re
from collections.abc import Callable
from typing import Literal, assert_never

from gumption.core.model.catalogue import Catalogue, Column, Relationship
from gumption.core.model.names import free_name, spaced
from gumption.core.model.types import Role, Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.constants import number_constant
from gumption.core.plan.expressions import AllOf, AnyOf, ColumnRef, Constant, Expression, IsMissing, Negated
from gumption.core.plan.steps import KeyPair, Pick, Picked, Plan, SortKey, Step, Take
from gumption.core.plan.typing import schema_of
from gumption.core.plan.words import DAY_NAMES, MONTH_NAMES, spoken
from gumption.core.reading import meaning as m
from gumption.core.reading.histories import history_of
from gumption.core.reading.meaning import ColumnKey, columns_in
from gumption.core.reading.times import (
    are_periods,
    are_whole_years,
    are_years,
    months_later,
    period_of,
    written_in_order,
)


class CannotPlan(Exception):
    """What was meant cannot be worked out of these tables; says why, for a person."""


def all_of(items: list[Expression]) -> Expression:
    """One condition that holds where every item does."""
    return items[0] if len(items) == 1 else AllOf(items=tuple(items))


FEWEST_BINNED = 15
"""Whole numbers of no more different values than this are told one by one."""


def round_width(width: float) -> float:
    """The next 1, 2 or 5 times a power of ten."""
    if width <= 0:
        return 1.0
    power = 10.0 ** math.floor(math.log10(width))
    return float(f"{next(f for f in (1, 2, 5, 10) if f * power >= width * 0.999) * power:.12g}")


def lowest_table(tables: list[str], catalogue: Catalogue) -> str | None:
    """The table from whose rows all the others are found: one of them where there is one, else the nearest that reaches all."""
    for table in tables:
        if all(catalogue.path(table, other) is not None for other in tables):
            return table
    bridging = []
    for candidate in catalogue.tables:
        paths = [catalogue.path(candidate.name, other) for other in tables]
        if all(path is not None for path in paths):
            bridging.append((sum(len(p) for p in paths if p is not None), candidate.name))
    return min(bridging)[1] if bridging else None


TILES = {2: "half", 3: "third", 4: "quartile", 5: "quintile", 10: "decile", 100: "percentile"}
"""What groups of as many rows each are called."""


def told_by(where: tuple[m.Condition, ...]) -> str:
    """What a figure of some rows alone is called after: cash, 2024, 2024_03; nothing where that takes many words."""
    match where:
        case (m.Is(values=(str(value),)),):
            return re.sub(r"\W+", "_", value).strip("_").lower()
        case (m.Is(column=column, values=(bool(met),)),):
            return column.column.lower() if met else f"not_{column.column.lower()}"
        case (m.Missing(column=column),):
            return f"without_{column.column.lower()}"
        case (m.Not(item=m.Missing(column=column)),):
            return f"with_{column.column.lower()}"
        case (m.Within(low=dt.date() as low, high=dt.date() as high),):
            if (low, high) == (dt.date(low.year, 1, 1), dt.date(low.year, 12, 31)):
                return str(low.year)
            whole = low.day == 1 and high == months_later(low, 1) - dt.timedelta(days=1)
            return f"{low:%Y_%m}" if whole else ""
        case (m.PartIs(unit="weekday", numbers=(day,)),):
            return DAY_NAMES[day - 1].lower()
        case (m.PartIs(unit="month", numbers=(month,)),):
            return MONTH_NAMES[month - 1].lower()
        case _:
            return ""


def _called_below(quantity: m.Aggregated, table: str, catalogue: Catalogue) -> str:
    """What a column is called that tells of the rows below: the first visit date, the count of visits."""
    end = {"min": "first", "max": "last"}.get(quantity.function)
    if end is not None and isinstance(quantity.expr, m.Col):
        key = quantity.expr.key
        if catalogue.table(key.table).column(key.column).type.is_time:
            return f"{end}_{key.column}"
    told = told_by(quantity.where)
    called = table if quantity.function == "count" else f"{quantity.function}_of_{table}"
    return f"{called}_{told}" if told else called


def _own_names(catalogue: Catalogue, table: str) -> dict[ColumnKey, str]:
    """What a table's own columns are called."""
    columns = catalogue.table(table).columns
    return catalogue.once("names of columns", table, lambda: {ColumnKey(table, c.name): c.name for c in columns})


class Flow:
    """The rows of one table on their way: the steps so far, and the names that columns go by."""

    def __init__(
        self, catalogue: Catalogue, base: str, day: dt.date, scalar: Callable[[m.Quantity, str], Plan]
    ) -> None:
        self.catalogue, self.base, self.day, self.scalar = catalogue, base, day, scalar
        self.steps: list[Step] = [Take(table=base)]
        self.names: dict[ColumnKey, str] = dict(_own_names(catalogue, base))
        self.taken = set(self.names.values())
        self._joined: set[str] = {base}
        self._derived: dict[object, str] = {}
        self._kept_among: dict[m.Among, Expression] = {}
        self._spread: set[ColumnKey] = set()

    def plan(self) -> Plan:
        return Plan(steps=tuple(self.steps))

    def column(self, key: ColumnKey) -> Column:
        return self.catalogue.table(key.table).column(key.column)

    def free(self, base: str) -> str:
        name = free_name(base, self.taken)
        self.taken.add(name)
        return name

    # --- joins

    def reaches(self, table: str) -> bool:
        return self.catalogue.path(self.base, table) is not None

    def bring(self, keys: list[ColumnKey], *, kept: bool = True) -> None:
        """Join the tables of these columns; rows without a partner stay where `kept`."""
        wanted: dict[str, list[str]] = {}
        links: dict[str, Relationship] = {}
        for key in keys:
            if key in self.names:
                continue
            path = self.catalogue.path(self.base, key.table)
            if path is None:
                raise CannotPlan(f"{spoken(self.base)} do not lead to {spoken(key.table)}")
            for link in path:
                links.setdefault(link.other, link)
                wanted.setdefault(link.other, [])
                if link.table != self.base:
                    wanted.setdefault(link.table, []).extend(here for here, _ in link.pairs)
            wanted[key.table].append(key.column)
        for table, link in links.items():
            missing = [c for c in wanted[table] if ColumnKey(table, c) not in self.names]
            # Columns further out are reached by this table's keys, which must come along with it.
            onward = [h for other in links.values() if other.table == table for h, _ in other.pairs]
            needed = list(dict.fromkeys([*missing, *(h for h in onward if ColumnKey(table, h) not in self.names)]))
            if needed or table not in self._joined:
                self._join(table, link, needed, kept=kept)

    def _join(self, table: str, link: Relationship, columns: list[str], *, kept: bool) -> None:
        picked = []
        local: dict[str, str] = {}
        for column in dict.fromkeys([*(there for _, there in link.pairs), *columns]):
            name = self.free(self._beside(table, column))
            picked.append(Picked(column=column, name=name))
            local[column] = name
            self.names.setdefault(ColumnKey(table, column), name)
        pairs = tuple(
            KeyPair(left=self.names[ColumnKey(link.table, here)], right=local[there]) for here, there in link.pairs
        )
        nearer = self.catalogue.table(link.table)
        gaps = link.unmatched > 0 or any(nearer.column(here).missing > 0 for here, _ in link.pairs)
        other = Plan(steps=(Take(table=table), Pick(columns=tuple(picked))))
        self.steps.append(st.Join(other=other, on=pairs, how="left" if gaps and kept else "inner"))
        self._joined.add(table)

    def _beside(self, table: str, column: str) -> str:
        if column not in self.taken:
            return column
        return f"{spoken(table).removesuffix('s')} {column}".replace(" ", "_")

    # --- expressions

    def expression(self, expr: m.Expr, *, kept: bool = True) -> Expression:
        """The expression over this flow's columns, joined in where they are of other tables."""
        self.bring(columns_in(expr), kept=kept)
        return self._expression(expr)

    def _expression(self, expr: m.Expr) -> Expression:
        match expr:
            case m.Col(key=key):
                return ColumnRef(name=self.names[key])
            case m.Number(value=value):
                return number_constant(value)
            case m.Today(day=day):
                return Constant(type=Type.DATE, value=day.isoformat())
            case m.Now():
                return Constant(type=Type.DATE, value=self.day.isoformat())
            case m.EventTime():
                time = event_time(self.catalogue, self.base)
                if time is None:
                    raise CannotPlan(f"{spoken(self.base)} have no date")
                self.bring([time])
                return self._dated(time)
            case m.Arithmetic(op="+", left=left, right=right):
                return ex.Arithmetic(op="+", left=self._or_nothing(left), right=self._or_nothing(right))
            case m.Arithmetic(op=op, left=left, right=right):
                return ex.Arithmetic(op=op, left=self._expression(left), right=self._expression(right))
            case m.Length(unit=unit, start=start, end=end):
                return self._length(unit, start, end)
            case m.PartOf(unit=unit, of=of):
                return self._part_of(unit, of)
            case m.Band(of=of, width=None, edges=()):
                wide = self._bin_width(of)
                inner = self._expression(of)
                return inner if wide is None else ex.Bin(value=inner, width=wide)
            case m.Band(of=of, edges=(first, *edges)) if first == -math.inf:
                least = self._least(of, edges[0])
                return ex.Bin(value=self._expression(of), edges=(least, *(self._edge(of, e) for e in edges)))
            case m.Band(of=of, width=width, edges=edges):
                placed = tuple(self._edge(of, e) for e in edges)
                return ex.Bin(value=self._expression(of), width=width, edges=placed)
            case m.Tile():
                return ColumnRef(name=self._tile(expr))
            case m.Test(condition=condition):
                return self.test(condition)
            case m.Given(of=of, condition=condition):
                return ex.Case(branches=(ex.Branch(when=self.test(condition), then=self._expression(of)),))
            case m.Below():
                return ColumnRef(name=self._below(expr))
            case m.AsAt():
                return ColumnRef(name=self._as_at(expr))
            case m.Since():
                return ColumnRef(name=self._since(expr))
            case _:
                assert_never(expr)

    def _since(self, since: m.Since) -> str:
        """The column that tells how long ago the row before of the same thing was."""
        if since not in self._derived:
            self.bring([since.time, since.key])
            time, key = self.names[since.time], self.names[since.key]
            self.steps.append(st.Keep(condition=Negated(item=IsMissing(value=ColumnRef(name=key)))))
            before, name = self.free(f"{time}_before"), self.free(f"{since.unit}_between_{since.time.table}")
            order = (SortKey(column=time),)
            self.steps.append(st.Window(name=before, function="lag", column=time, order=order, within=(key,)))
            value = ex.DateDifference(unit=since.unit, start=ColumnRef(name=before), end=ColumnRef(name=time))
            self.steps.append(st.Derive(name=name, expression=value))
            self._derived[since] = name
        return self._derived[since]

    def _tile(self, tile: m.Tile) -> str:
        """The column that numbers so many groups of as many rows each, of the rows on which the number stands."""
        if tile not in self._derived:
            of = self.named(tile.of, "value")
            self.steps.append(st.Keep(condition=Negated(item=IsMissing(value=ColumnRef(name=of)))))
            name = self.free(TILES.get(tile.number, f"group of {tile.number}"))
            self.steps.append(st.Window(name=name, function="quantile_bin", column=of, bins=tile.number))
            self._derived[tile] = name
        return self._derived[tile]

    def _bin_width(self, of: m.Expr) -> float | None:
        """A round width that gives about ten bins; None where the few whole values are bins of their own."""
        if not isinstance(of, m.Col):
            return {"days": 7.0, "years": 10.0, "whole_years": 10.0, "minutes": 10.0}.get(getattr(of, "unit", ""), 10.0)
        column = self.column(of.key)
        if not column.type.is_number or column.low is None or column.high is None:
            raise CannotPlan(f"{spoken(column.name)} is no number that can be put in bands")
        if column.distinct <= FEWEST_BINNED and column.type is Type.INTEGER:
            return None
        return round_width((float(column.high) - float(column.low)) / 10)

    def _least(self, of: m.Expr, first: float) -> float:
        """Where a band begins that has no lower end: at nought, or at what is less."""
        low = self.column(of.key).low if isinstance(of, m.Col) else None
        return min(0.0, first - 1, math.floor(float(low)) if low is not None else 0.0)

    def _edge(self, of: m.Expr, edge: float) -> float:
        """An edge among a column's own values: right behind 10 comes 11 of whole numbers, and 10.01 of cents."""
        behind = math.nextafter(edge, -math.inf)
        if not behind.is_integer() or edge.is_integer():
            return edge
        column = self.column(of.key) if isinstance(of, m.Col) else None
        if column is not None and column.type is Type.DECIMAL:
            return round(behind + 10.0**-column.scale, column.scale)
        return edge if column is not None and column.type is Type.FLOAT else behind + 1

    def _length(self, unit: m.LengthUnit, start: m.Expr, end: m.Expr) -> Expression:
        if self.is_clock(start):
            minutes = [
                ex.Arithmetic(
                    op="+",
                    left=ex.Arithmetic(
                        op="*",
                        left=ex.DatePart(part="hour", value=self._expression(part)),
                        right=number_constant(60),
                    ),
                    right=ex.DatePart(part="minute", value=self._expression(part)),
                )
                for part in (end, start)
            ]
            difference: Expression = ex.Arithmetic(op="-", left=minutes[0], right=minutes[1])
            return ex.Arithmetic(op="/", left=difference, right=number_constant(60)) if unit == "hours" else difference
        if isinstance(start, m.Col) and self.column(start.key).type.is_number:
            if isinstance(end, m.Today):
                last: Expression = number_constant(end.day.year)
            elif isinstance(end, m.Col) and self.column(end.key).type.is_number:
                last = self._expression(end)
            else:
                last = ex.DatePart(part="year", value=self._expression(end))
            return ex.Arithmetic(op="-", left=last, right=self._expression(start))
        return ex.DateDifference(unit=unit, start=self._expression(start), end=self._expression(end))

    def _dated(self, key: ColumnKey) -> Expression:
        """A time as a date: of quarters written as text their first days."""
        plain = ColumnRef(name=self.names[key])
        column = self.column(key)
        if column.type is not Type.TEXT:
            return plain
        if ("date", key) not in self._derived:
            name = self.free(f"{key.column} date")
            cases = tuple(
                ex.Branch(
                    when=ex.Compare(op="=", left=plain, right=Constant(type=Type.TEXT, value=v)),
                    then=Constant(type=Type.DATE, value=ends[0].isoformat()),
                )
                for v in column.values
                if (ends := period_of(v)) is not None
            )
            self.steps.append(st.Derive(name=name, expression=ex.Case(branches=cases)))
            self._derived["date", key] = name
        return ColumnRef(name=self._derived["date", key])

    def is_clock(self, expr: m.Expr) -> bool:
        return isinstance(expr, m.Col) and self.column(expr.key).type is Type.TIME

    def _part_of(self, unit: m.Unit, of: m.Expr) -> Expression:
        if isinstance(of, (m.EventTime, m.Col)):
            key = event_time(self.catalogue, self.base) if isinstance(of, m.EventTime) else of.key
            if unit == "year" and isinstance(of, m.EventTime):
                key = year_of_rows(self.catalogue, self.base) or key
            if key is not None and self.column(key).type is Type.TEXT:
                self.bring([key])
                values = self.column(key).values
                own = "year" if are_years(values) else "quarter"
                plain = unit == own and written_in_order(values)
                return ColumnRef(name=self.names[key]) if plain else self._part(unit, self._dated(key))
            if key is not None and self.column(key).type.is_number and unit == "year":
                self.bring([key])
                return ColumnRef(name=self.names[key])
            clock = self._clock_column(of) if unit == "hour" else None
            if clock is not None:
                self.bring([clock])
                return ex.DatePart(part="hour", value=ColumnRef(name=self.names[clock]))
        return self._part(unit, self._expression(of))

    def _or_nothing(self, expr: m.Expr) -> Expression:
        """What is added up with something else adds nothing where it is missing: the extras of a stay without any."""
        value = self._expression(expr)
        if isinstance(expr, m.Col) and self.column(expr.key).missing and self.column(expr.key).role.is_summed:
            return ex.FirstKnown(items=(value, number_constant(0)))
        return value

    def _clock_column(self, time: m.Expr) -> ColumnKey | None:
        """The column of times of day beside a date that has none."""
        key = event_time(self.catalogue, self.base) if isinstance(time, m.EventTime) else None
        if isinstance(time, m.Col):
            key = time.key
        if key is not None and self.column(key).type is not Type.DATE:
            return None
        table = key.table if key is not None else self.base
        clock = next((c for c in self.catalogue.table(table).columns if c.type is Type.TIME), None)
        return ColumnKey(table, clock.name) if clock is not None else None

    def _part(self, unit: m.Unit, value: Expression) -> Expression:
        match unit:
            case "weekday" | "hour":
                return ex.DatePart(part=unit, value=value)
            case "month_of_year" | "quarter_of_year":
                return ex.DatePart(part="month" if unit == "month_of_year" else "quarter", value=value)
            case "year":
                return ex.DatePart(part="year", value=value)
            case "quarter" | "month" | "week" | "day":
                return ex.DateFloor(unit=unit, value=value)

    def spread(self, key: ColumnKey, conditions: tuple[m.Condition, ...]) -> None:
        """A row for each item of a cell that holds several; of what is asked about by its items, only those items."""
        separator = self.column(key).separator
        if not separator or key in self._spread:
            return
        self.bring([key])
        if self.column(key).missing:
            self._keep([Negated(item=IsMissing(value=ColumnRef(name=self.names[key])))])
        self.steps.append(st.Spread(column=self.names[key], separator=separator))
        self._spread.add(key)
        self._keep([self.test(c) for c in conditions if isinstance(c, m.Is) and c.column == key])

    def named(self, expr: m.Expr, label: str) -> str:
        """The name of a column that holds the expression, derived under the label where there is none yet."""
        value = self.expression(expr)
        if isinstance(value, ColumnRef):
            return value.name
        if expr not in self._derived:
            time = self.catalogue.table(self.base).time_column
            of = [k.column for k in columns_in(expr)] or ([time.name] if time is not None else [])
            # The month of the date, where a column is called the month; the start of it, where that is the date itself.
            if len(of) == 1 and free_name(label, self.taken) != label:
                label = f"{label}_start" if of[0].lower() == label.lower() else f"{label}_of_{of[0]}"
            name = self.free(label)
            self.steps.append(st.Derive(name=name, expression=value))
            self._derived[expr] = name
        return self._derived[expr]

    # --- conditions

    def keep(self, conditions: tuple[m.Condition, ...]) -> None:
        """Leave out the rows that do not meet every condition."""
        plain: list[m.Condition] = []
        below: dict[str, list[m.Condition]] = {}
        without: list[m.Has] = []
        for condition in conditions:
            carrier = self.carrier(condition)
            if carrier is None:
                plain.append(condition)
            elif isinstance(condition, m.Not) and not isinstance(condition.item, m.Missing):
                # What is not so of rows below: there are no such rows.
                without.append(m.Has(m.Rows(carrier, (condition.item,))))
            elif isinstance(condition, m.Missing) and not self.column(condition.column).missing:
                # What stands on every row is missing only where there is no row; else there is a row without it.
                without.append(m.Has(m.Rows(carrier)))
            else:
                below.setdefault(carrier, []).append(condition)
        own = [c for c in plain if all(k.table == self.base for k in columns_in((c,))) and not _related(c)]
        self._keep([self.test(c) for c in own])
        for condition in plain:
            if condition not in own:
                self._keep_one(condition)
        for table, group in below.items():
            self._with(m.Has(m.Rows(table, tuple(group))), held=True)
        for has in without:
            self._with(has, held=False)

    def _keep(self, items: list[Expression]) -> None:
        if items:
            self.steps.append(st.Keep(condition=all_of(items)))

    def _keep_one(self, condition: m.Condition) -> None:
        match condition:
            case m.Has():
                self._with(condition, held=True)
            case m.Not(item=m.Has() as inner):
                self._with(inner, held=False)
            case m.Among(column=column, ask=ask):
                self.bring([column], kept=False)
                self._among(column, ask)
            case m.All(items=items):
                for item in items:
                    self._keep_one(item)
            case _:
                # A condition on a joined row drops the rows without a partner anyway, unless it is a negation.
                positive = not any(isinstance(p, (m.Not, m.Missing, m.Any)) for p in m.parts(condition))
                self.bring(columns_in(condition), kept=not positive)
                self._keep([self.test(condition)])

    def carrier(self, condition: m.Condition) -> str | None:
        """The table whose rows must be tested for a condition that no row here decides; None where one does."""
        if is_of_other_rows(condition, self.base):
            # The times and columns in it are those of the rows that are or are not there.
            return None
        tables = list(dict.fromkeys(k.table for k in columns_in((condition,))))
        if not tables and any(isinstance(p, m.EventTime) for p in m.parts(condition)):
            clocks = all(
                isinstance(p, m.Clock) for p in m.parts(condition) if isinstance(p, (m.Clock, m.Within, m.PartIs))
            )
            if event_time(self.catalogue, self.base) is not None or (clocks and self._clock_column(m.EventTime())):
                return None
            dated = [
                r.table
                for r in self.catalogue.relationships
                if r.other == self.base and event_time(self.catalogue, r.table) is not None
            ]
            return dated[0] if dated else None
        if all(self.reaches(t) for t in tables):
            return None
        found = lowest_table([*tables, self.base], self.catalogue) or lowest_table(tables, self.catalogue)
        if found is None:
            raise CannotPlan(f"no chain of joins brings together {', '.join(spoken(t) for t in tables)}")
        return found

    def _among(self, column: ColumnKey, ask: m.Ask) -> None:
        from gumption.core.reading.lowering import plan_of

        plan = plan_of(ask, self.catalogue, self.day)
        on = (KeyPair(left=self.names[column], right=self._given_by(plan, column)),)
        self.steps.append(st.Join(other=plan, on=on, how="with"))

    def _given_by(self, plan: Plan, column: ColumnKey) -> str:
        """Under which name an inner question's plan gives a column; one brought from another table has its name too."""
        held = list(schema_of(plan, self.catalogue))
        ends = (n for n in held if n.endswith(f"_{column.column}"))
        return column.column if column.column in held else next(ends, held[0])

    def _is_among(self, among: m.Among) -> Expression:
        """Whether a row is of those that another question gives, as an expression."""
        from gumption.core.reading.lowering import plan_of

        if among not in self._kept_among:
            self.bring([among.column])
            plan = plan_of(among.ask, self.catalogue, self.day)
            name = self._given_by(plan, among.column)
            limit = among.ask.limit if not among.ask.skip and not among.ask.per else None
            keys = next((s.keys for s in reversed(plan.steps) if isinstance(s, st.Sort)), ()) if limit else ()
            column = among.column.column
            key, mark = self.free(f"{column}_of_the_first"), self.free(f"{column}_rank" if keys else f"such_{column}")
            picked = Pick(columns=(Picked(column=name, name=key), Picked(column=mark, name=mark)))
            told: Step = (
                st.Window(name=mark, function="place", column=keys[0].column, order=keys)
                if keys
                else st.Derive(name=mark, expression=number_constant(1))
            )
            on = (KeyPair(left=self.names[among.column], right=key),)
            self.steps.append(st.Join(other=plan.then(told).then(picked), on=on, how="left"))
            value = ColumnRef(name=mark)
            ranked = ex.Compare(op="<=", left=value, right=number_constant(limit)) if limit and keys else None
            self._kept_among[among] = ranked or Negated(item=IsMissing(value=value))
        return self._kept_among[among]

    def _related_keys(self, table: str) -> tuple[Flow, tuple[str, ...], tuple[str, ...]]:
        """A flow of another table's rows, and the names here and there that say which rows belong together."""
        below = self.catalogue.path(table, self.base)
        if not below:
            # Those who bought a beer are told by the lines that name both.
            bridge = lowest_table([table, self.base], self.catalogue)
            if bridge not in (None, table, self.base):
                table, below = bridge, self.catalogue.path(bridge, self.base)
        other = Flow(self.catalogue, table, self.day, self.scalar)
        if below:
            last = below[-1]
            other.bring([ColumnKey(last.table, here) for here, _ in last.pairs])
            return (
                other,
                tuple(self.names[ColumnKey(self.base, there)] for _, there in last.pairs),
                tuple(other.names[ColumnKey(last.table, here)] for here, _ in last.pairs),
            )
        shared = []
        for meeting in self.catalogue.tables:
            one, two = self.catalogue.path(self.base, meeting.name), self.catalogue.path(table, meeting.name)
            if one is not None and two is not None:
                shared.append((len(one) + len(two), meeting.name))
        if not shared:
            raise CannotPlan(f"{spoken(table)} and {spoken(self.base)} do not lead to each other")
        meeting_name = min(shared)[1]
        if meeting_name == table:
            return self._of_parent(other)
        mine, theirs = self.catalogue.path(self.base, meeting_name), self.catalogue.path(table, meeting_name)
        assert mine and theirs
        here = [ColumnKey(mine[-1].table, a) for a, _ in mine[-1].pairs]
        there = [ColumnKey(theirs[-1].table, a) for a, _ in theirs[-1].pairs]
        self.bring(here)
        other.bring(there)
        return other, tuple(self.names[k] for k in here), tuple(other.names[k] for k in there)

    @staticmethod
    def _count(other: Flow, table: str, by: tuple[str, ...], name: str) -> None:
        """Count the rows of a table by keys: of customers with two brokers each broker, which rows between tell, once."""
        path = other.catalogue.path(other.base, table) if other.base != table else None
        counted = ex.Aggregate(name=name, function="count")
        if path:
            key = ColumnKey(path[-1].table, path[-1].pairs[0][0])
            other.bring([key])
            counted = ex.Aggregate(name=name, function="distinct", column=other.names[key])
        other.steps.append(st.Group(by=by, aggregates=(counted,)))

    def _of_parent(self, other: Flow) -> tuple[Flow, tuple[str, ...], tuple[str, ...]]:
        path = self.catalogue.path(self.base, other.base)
        if not path:
            raise CannotPlan(f"{spoken(self.base)} cannot be counted for each of themselves")
        here = [ColumnKey(path[-1].table, a) for a, _ in path[-1].pairs]
        self.bring(here)
        return (
            other,
            tuple(self.names[k] for k in here),
            tuple(other.names[ColumnKey(other.base, b)] for _, b in path[-1].pairs),
        )

    def _with(self, has: m.Has, *, held: bool) -> None:
        """Keep the rows that have such rows, or that have not."""
        if has.rows.table == self.base:
            raise CannotPlan(f"{spoken(self.base)} cannot be counted for themselves")
        if has.op in ("=", "<=", "<") and _nought_fits(has):
            if (has.op, has.number) in (("=", 0), ("<", 1), ("<=", 0)):
                self._with(m.Has(has.rows), held=not held)
            else:
                item = self.test(has)
                self._keep([item if held else Negated(item=item)])
            return
        other, here, there = self._related_keys(has.rows.table)
        other.keep(has.rows.where)
        if (has.op, has.number) not in ((">=", 1), (">", 0)):
            count = free_name("rows", other.taken)
            self._count(other, has.rows.table, there, count)
            other.steps.append(
                st.Keep(condition=ex.Compare(op=has.op, left=ColumnRef(name=count), right=number_constant(has.number)))
            )
        on = tuple(KeyPair(left=a, right=b) for a, b in zip(here, there, strict=True))
        self.steps.append(st.Join(other=other.plan(), on=on, how="with" if held else "without"))

    def _as_at(self, told: m.AsAt) -> str:
        """The column of what held when each row happened, of the thing that the row is of."""
        if told not in self._derived:
            history = history_of(self.catalogue, told.value.table)
            time = event_time(self.catalogue, self.base)
            if history is None or time is None or told.value.table == self.base:
                raise CannotPlan(f"{spoken(told.value.table)} does not say what held when")
            thing = ColumnKey(history.link.other, history.link.other_column)
            if not self.reaches(thing.table):
                raise CannotPlan(f"{spoken(self.base)} do not lead to {spoken(told.value.table)}")
            self.bring([thing, time])
            names = {
                c: self.free(self._beside(told.value.table, c)) for c in (history.link.column, history.since.column)
            }
            value = self.free(f"{told.value.column} then")
            picked = (
                *(Picked(column=c, name=n) for c, n in names.items()),
                Picked(column=told.value.column, name=value),
            )
            day = self._dated(time)
            assert isinstance(day, ColumnRef)
            self.steps.append(
                st.AsOf(
                    other=Plan(steps=(Take(table=told.value.table), Pick(columns=picked))),
                    on=(KeyPair(left=self.names[thing], right=names[history.link.column]),),
                    at=KeyPair(left=day.name, right=names[history.since.column]),
                )
            )
            self._derived[told] = value
        return self._derived[told]

    def _below(self, below: m.Below) -> str:
        """The column that holds what the rows below each thing come to; counts and sums are nought where there are none."""
        if below in self._derived:
            return self._derived[below]
        quantity = below.quantity
        table = quantity.table or next(k.table for k in columns_in((quantity.expr,)))
        other = Flow(self.catalogue, table, self.day, self.scalar)
        other.keep(quantity.where)
        links = self.catalogue.relationships
        told = (below.key.table, below.key.column)
        # The rows that point at a thing say themselves which one that is.
        direct = next((r for r in links if r.table == table and (r.other, r.other_column) == told and not r.also), None)
        by = other.named(m.Col(ColumnKey(table, direct.column) if direct is not None else below.key), "of")
        column = other.named(quantity.expr, "value") if quantity.expr is not None else None
        called, filled = (
            _called_below(quantity, table, self.catalogue),
            quantity.function in ("count", "distinct", "sum"),
        )
        value, of = self.free(f"{called}_or_none" if filled else called), self.free(f"{by}_of_{table}")
        other.steps.append(st.Keep(condition=Negated(item=IsMissing(value=ColumnRef(name=by)))))
        aggregate = ex.Aggregate(name=value, function=quantity.function, column=column)
        other.steps.append(st.Group(by=(by,), aggregates=(aggregate,)))
        other.steps.append(Pick(columns=(Picked(column=by, name=of), Picked(column=value, name=value))))
        self.bring([below.key])
        on = (KeyPair(left=self.names[below.key], right=of),)
        self.steps.append(st.Join(other=other.plan(), on=on, how="left"))
        if filled:
            name = self.free(called)
            known = ex.FirstKnown(items=(ColumnRef(name=value), number_constant(0)))
            self.steps.append(st.Derive(name=name, expression=known))
            value = name
        self._derived[below] = value
        return value

    def counted(self, rows: m.Rows) -> Expression:
        """How many rows of another table belong to each row here, 0 where there is none."""
        if rows in self._derived:
            return ColumnRef(name=self._derived[rows])
        other, here, there = self._related_keys(rows.table)
        other.keep(rows.where)
        count = self.free(rows.table)
        keys = [self.free(f"{name}_of_{rows.table}") for name in there]
        known = [Negated(item=IsMissing(value=ColumnRef(name=n))) for n in there]
        other.steps.append(st.Keep(condition=all_of(list(known))))
        self._count(other, rows.table, there, count)
        picked = [Picked(column=a, name=b) for a, b in zip(there, keys, strict=True)]
        other.steps.append(Pick(columns=(*picked, Picked(column=count, name=count))))
        on = tuple(KeyPair(left=a, right=b) for a, b in zip(here, keys, strict=True))
        self.steps.append(st.Join(other=other.plan(), on=on, how="left"))
        told = told_by(tuple(c for c in rows.where if not isinstance(c, m.Is)))
        filled = self.free(f"{rows.table}_{told}_count" if told else f"{rows.table}_count")
        self.steps.append(
            st.Derive(name=filled, expression=ex.FirstKnown(items=(ColumnRef(name=count), number_constant(0))))
        )
        self._derived[rows] = filled
        return ColumnRef(name=filled)

    def test(self, condition: m.Condition) -> Expression:
        """The condition as one expression over this flow's columns."""
        match condition:
            case m.Is(column=key, values=values):
                self.bring([key])
                return self._is(key, values)
            case m.Compared(op=op, left=left, right=right):
                return self._compared(op, left, right)
            case m.Within(time=m.EventTime(), low=low, high=high) if (
                year := year_of_rows(self.catalogue, self.base)
            ) is not None and are_whole_years(low, high):
                self.bring([year])
                return self._within(ColumnRef(name=self.names[year]), Type.INTEGER, low, high)
            case m.Within(time=m.EventTime(), low=low, high=high) if (
                not are_whole_years(low, high) and (year := self._bare_year()) is not None
            ):
                return self._within_year(year, low, high)
            case m.Within(time=m.Col(key=key), low=low, high=high) if self.column(key).type is Type.TEXT:
                self.bring([key])
                return self._within(self._dated(key), Type.DATE, low, high)
            case m.Within(time=time, low=low, high=high):
                return self._within(self.expression(time), self._type_of(time), low, high)
            case m.PartIs(unit="month" | "quarter" as unit, time=m.EventTime(), numbers=numbers) if (
                year := self._bare_year()
            ) is not None:
                return self._in_parts(year, unit, numbers)
            case m.PartIs(unit=unit, time=time, numbers=numbers):
                part = ex.DatePart(part=unit, value=self.expression(time))
                return ex.OneOf(value=part, options=tuple(number_constant(n) for n in numbers))
            case m.Clock(time=time, op=op, at=at):
                clock = self._clock_column(time)
                if clock is not None:
                    self.bring([clock])
                    return self._clock(ColumnRef(name=self.names[clock]), Type.TIME, op, at)
                return self._clock(self.expression(time), self._type_of(time), op, at)
            case m.Missing(column=key):
                self.bring([key])
                return IsMissing(value=ColumnRef(name=self.names[key]))
            case m.Says(column=key, how=how, pattern=pattern):
                self.bring([key])
                return ex.TextMatch(how=how, value=ColumnRef(name=self.names[key]), pattern=pattern)
            case m.Has(rows=rows, op=op, number=number):
                return ex.Compare(op=op, left=self.counted(rows), right=number_constant(number))
            case m.Among():
                return self._is_among(condition)
            case m.All(items=items):
                return AllOf(items=tuple(self.test(i) for i in items))
            case m.Any(items=items):
                return AnyOf(items=tuple(self.test(i) for i in items))
            case m.Not(item=item):
                return Negated(item=self.test(item))
            case _:
                assert_never(condition)

    def _bare_year(self) -> ColumnKey | None:
        """The column of years that says when the rows happened, where no date does."""
        key = event_time(self.catalogue, self.base)
        return key if key is not None and self.column(key).type is Type.INTEGER else None

    def _within_year(self, year: ColumnKey, low: dt.date | None, high: dt.date | None) -> Expression:
        """A month or a quarter of a year, where the month or the quarter stands in a column of its own."""
        if low is None or high is None or low.year != high.year:
            raise CannotPlan(f"{spoken(year.table)} tell no more than the year")
        after = high + dt.timedelta(days=1)
        if low.day != 1 or after.day != 1:
            raise CannotPlan(f"{spoken(year.table)} tell no days")
        months = tuple(range(low.month, high.month + 1))
        self.bring([year])
        same = ex.Compare(op="=", left=ColumnRef(name=self.names[year]), right=number_constant(low.year))
        if part_beside(self.catalogue, year.table, "month") is not None:
            return AllOf(items=(same, self._in_parts(year, "month", months)))
        if months[0] % 3 == 1 and len(months) % 3 == 0:
            quarters = tuple(dict.fromkeys((month + 2) // 3 for month in months))
            return AllOf(items=(same, self._in_parts(year, "quarter", quarters)))
        raise CannotPlan(f"{spoken(year.table)} tell no months")

    def _in_parts(self, year: ColumnKey, unit: Literal["month", "quarter"], numbers: tuple[int, ...]) -> Expression:
        key = part_beside(self.catalogue, year.table, unit)
        if key is None:
            raise CannotPlan(f"{spoken(year.table)} tell no {unit}s")
        self.bring([key])
        column = self.column(key)
        if column.type is Type.INTEGER:
            options = [number_constant(n) for n in numbers]
        else:
            options = [Constant(type=Type.TEXT, value=v) for v in column.values if part_number(v, unit) in numbers]
        return ex.OneOf(value=ColumnRef(name=self.names[key]), options=tuple(options))

    def _type_of(self, time: m.Expr) -> Type:
        match time:
            case m.Col(key=key):
                return self.column(key).type
            case m.EventTime():
                found = event_time(self.catalogue, self.base)
                kind = self.column(found).type if found is not None else Type.DATE
                return Type.DATE if kind is Type.TEXT else kind
            case m.Below(quantity=m.Aggregated(expr=m.Col(key=key))):
                return self.column(key).type
            case _:
                return Type.DATE

    def _is(self, key: ColumnKey, values: tuple[str | int | float | bool, ...]) -> Expression:
        kind = self.column(key).type
        column = ColumnRef(name=self.names[key])
        constants = []
        for value in values:
            if kind is Type.INTEGER:
                constants.append(Constant(type=kind, value=int(value)))
            elif kind is Type.DECIMAL:
                constants.append(Constant(type=kind, value=f"{float(value):.{self.column(key).scale}f}"))
            else:
                constants.append(Constant(type=kind, value=value))
        separator = self.column(key).separator
        if separator and key not in self._spread:
            return ex.Holds(value=column, separator=separator, items=tuple(str(c.value) for c in constants))
        if len(constants) == 1:
            return ex.Compare(op="=", left=column, right=constants[0])
        return ex.OneOf(value=column, options=tuple(constants))

    def _compared(self, op: m.Comparison, left: m.Expr, right: m.Expr | m.Quantity) -> Expression:
        one = self.expression(left)
        if isinstance(right, m.QUANTITIES):
            name = self._beside_scalar(right)
            return ex.Compare(op=op, left=one, right=ColumnRef(name=name))
        return ex.Compare(op=op, left=one, right=self.expression(right))

    def _beside_scalar(self, quantity: m.Quantity) -> str:
        if quantity not in self._derived:
            plan = self.scalar(quantity, self.base)
            group = next(s for s in reversed(plan.steps) if isinstance(s, (st.Group, st.Derive, Pick)))
            source = (
                group.name
                if isinstance(group, st.Derive)
                else (group.columns[0].name if isinstance(group, Pick) else group.aggregates[0].name)
            )
            name = self.free(f"overall_{source}")
            plan = plan.then(Pick(columns=(Picked(column=source, name=name),)))
            self.steps.append(st.Join(other=plan, on=()))
            self._derived[quantity] = name
        return self._derived[quantity]

    def _within(self, value: Expression, kind: Type, low: dt.date | None, high: dt.date | None) -> Expression:
        if kind.is_number:
            bounds: list[Expression] = []
            if low is not None:
                bounds.append(ex.Compare(op=">=", left=value, right=number_constant(low.year)))
            if low is not None and high is not None and low.year == high.year:
                return ex.Compare(op="=", left=value, right=number_constant(low.year))
            if high is not None:
                bounds.append(ex.Compare(op="<=", left=value, right=number_constant(high.year)))
            return all_of(bounds)
        if kind is Type.TIMESTAMP:
            items: list[Expression] = []
            if low is not None:
                items.append(ex.Compare(op=">=", left=value, right=Constant(type=Type.DATE, value=low.isoformat())))
            if high is not None:
                after = (high + dt.timedelta(days=1)).isoformat()
                items.append(ex.Compare(op="<", left=value, right=Constant(type=Type.DATE, value=after)))
            return all_of(items)
        if low is not None and high is not None:
            first, last = (Constant(type=Type.DATE, value=d.isoformat()) for d in (low, high))
            return ex.Between(value=value, low=first, high=last)
        if low is not None:
            return ex.Compare(op=">=", left=value, right=Constant(type=Type.DATE, value=low.isoformat()))
        assert high is not None
        return ex.Compare(op="<=", left=value, right=Constant(type=Type.DATE, value=high.isoformat()))

    def _clock(self, value: Expression, kind: Type, op: m.Comparison, at: str) -> Expression:
        if kind is Type.TIME:
            return ex.Compare(op=op, left=value, right=Constant(type=Type.TIME, value=at))
        hour, minute = int(at[:2]), int(at[3:5])
        moment = ex.Arithmetic(
            op="+",
            left=ex.Arithmetic(op="*", left=ex.DatePart(part="hour", value=value), right=number_constant(60)),
            right=ex.DatePart(part="minute", value=value),
        )
        return ex.Compare(op=op, left=moment, right=number_constant(60 * hour + minute))


_SCHOOL_YEARS = 14
"""The last year of school: whole numbers up to it are no years of the calendar."""


def tells_when(column: Column) -> bool:
    """True for a column of years, or of quarters written as text, in which the rows happened."""
    if column.type is Type.TEXT:
        return are_periods(column.values)
    words = set(re.findall(r"[a-z]+", spaced(column.name).lower()))
    yearly = (
        column.type is Type.INTEGER
        and column.role is Role.CODE
        and column.low is not None
        and column.high is not None
        and int(column.high) > _SCHOOL_YEARS
    )
    told = column.description.lower()
    said = bool(words & {"year", "yr", "fy", "season"}) or re.match(r"(the )?year\b", told) is not None
    own = {"birth", "born", "built", "group", "joined", "since", "member", "membership", "founded"}
    return yearly and said and not (words | set(re.findall(r"[a-z]+", told))) & own


def last_day(column: Column) -> dt.date | None:
    """The last day that a column of times tells of: a date, a year, or a period as it is written."""
    if column.type is Type.TEXT:
        ends = [ends[1] for value in column.values if (ends := period_of(value)) is not None]
        return max(ends, default=None)
    if column.high is None:
        return None
    if column.type is Type.INTEGER:
        year = int(column.high)
        return dt.date(year, 12, 31) if dt.MINYEAR <= year < dt.MAXYEAR else None
    return dt.date.fromisoformat(column.high[:10]) if column.type.is_time else None


def year_of_rows(catalogue: Catalogue, table: str) -> ColumnKey | None:
    """The column of years that rows have beside their dates: the harvest of 2024 was sown in 2023."""
    found = catalogue.table(table)
    if found.time_column is None:
        return None
    return next((ColumnKey(table, c.name) for c in found.columns if c.type is Type.INTEGER and tells_when(c)), None)


def part_beside(catalogue: Catalogue, table: str, unit: Literal["month", "quarter"]) -> ColumnKey | None:
    """The column of months, or of quarters, that a table has beside its years."""
    for column in catalogue.table(table).columns:
        words = re.findall(r"[a-z]+", column.name.lower())
        if words and words[-1] in ({"month", "mth", "mon"} if unit == "month" else {"quarter", "qtr", "q"}):
            numbered = column.type is Type.INTEGER and column.high is not None and int(column.high) <= 12
            if numbered or (column.type is Type.TEXT and all(part_number(v, unit) for v in column.values)):
                return ColumnKey(table, column.name)
    return None


def part_number(value: str, unit: Literal["month", "quarter"]) -> int | None:
    """Which month or quarter of the year a text stands for: Q3, 3rd quarter, Jan, September; None for any other."""
    plain = value.strip().lower()
    if unit == "quarter":
        found = re.fullmatch(r"(?:q|qtr|quarter)\s*([1-4])|([1-4])(?:st|nd|rd|th)?(?:\s*(?:q|qtr|quarter))?", plain)
        return int(found[1] or found[2]) if found is not None else None
    names = [
        n for n, name in enumerate(MONTH_NAMES, 1) if len(plain) >= 3 and name.lower().startswith(plain.rstrip("."))
    ]
    return names[0] if len(names) == 1 else None


def is_of_other_rows(condition: m.Condition, base: str) -> bool:
    """True for a condition that asks only whether there are rows of other tables."""
    match condition:
        case m.Not(item=item):
            return is_of_other_rows(item, base)
        case m.All(items=items) | m.Any(items=items):
            return all(is_of_other_rows(item, base) for item in items)
        case m.Has(rows=rows):
            return rows.table != base
        case _:
            return False


def _related(condition: m.Condition) -> bool:
    return any(isinstance(p, (m.Has, m.Among)) for p in m.parts(condition))


def _nought_fits(has: m.Has) -> bool:
    match has.op:
        case "=":
            return has.number == 0
        case "<":
            return has.number > 0
        case "<=":
            return has.number >= 0
        case _:
            return False


_JOINED = frozenset(
    ["joined", "join", "since", "registered", "hired", "born", "birth", "dob", "enrolled", "founded", "signup"]
)


def is_since(name: str) -> bool:
    """True for a date by whose name somebody is there since then: what belongs to them did not happen on it."""
    return bool(_JOINED & set(re.findall(r"[a-z]+", name.lower())))


def event_time(catalogue: Catalogue, table: str) -> ColumnKey | None:
    """When the rows of a table happened: its own date, that of what it belongs to, or a column of years.

    Of several tables that they belong to it is the one whose rows happened too, an order and not a list of goods: it
    points at others in turn, and has more rows.
    """
    return catalogue.once("event time", table, lambda: _event_time(catalogue, table))


def _event_time(catalogue: Catalogue, table: str) -> ColumnKey | None:
    level, seen = [table], {table}
    while level:
        level.sort(key=lambda name: (bool(catalogue.parents(name)), catalogue.table(name).rows), reverse=True)
        for name in level:
            found = catalogue.table(name)
            time = found.time_column
            if time is not None and (name == table or not is_since(time.name)):
                return ColumnKey(name, time.name)
            for column in found.columns if time is None else ():
                if tells_when(column):
                    return ColumnKey(name, column.name)
        above = dict.fromkeys(link.other for name in level for link in catalogue.parents(name))
        level = [name for name in above if name not in seen]
        seen.update(level)
    return None


def may_be_missing(key: ColumnKey, base: str, catalogue: Catalogue) -> bool:
    """True where a column is missing on some row of the base table: by itself, or for want of a partner."""
    if catalogue.table(key.table).column(key.column).missing:
        return True
    links = catalogue.path(base, key.table) or ()
    return any(link.unmatched or catalogue.table(link.table).column(link.column).missing for link in links)


def names_rows(key: ColumnKey, catalogue: Catalogue) -> ColumnKey | None:
    """The key that tells apart what a naming column names, where two may have the same name; else None."""
    table = catalogue.table(key.table)
    column = table.column(key.column)
    identity = table.key
    if column.role is not Role.NAME or identity is None or identity.name == column.name:
        return None
    return ColumnKey(table.name, identity.name) if column.distinct < table.rows - column.missing else None
