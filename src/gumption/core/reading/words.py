"""A meaning in words: what stands behind “Read as …”."""

from __future__ import annotations

import datetime as dt
from typing import assert_never

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Type
from gumption.core.model.wish import ChartWish
from gumption.core.plan.words import (
    DAY_NAMES,
    MONTH_NAMES,
    date_words,
    listed,
    rows_called,
    set_apart,
    span_words,
    spoken,
)
from gumption.core.reading import meaning as m
from gumption.core.reading.flow import TILES, event_time, year_of_rows
from gumption.core.reading.roles import said_of
from gumption.core.reading.times import are_whole_years

_AGGREGATES = {
    "sum": "total",
    "mean": "average",
    "median": "median",
    "min": "lowest",
    "max": "highest",
    "distinct": "number of different",
    "count": "number of known",
    "deviation": "standard deviation of",
    "variance": "variance of",
    "mode": "most common",
    "latest": "latest",
    "earliest": "earliest",
}
_COMPARISONS = {"=": "is", "!=": "is not", "<": "is under", "<=": "is at most", ">": "is over", ">=": "is at least"}
_UNITS = {
    "month_of_year": "month of the year",
    "quarter_of_year": "quarter of the year",
    "weekday": "weekday",
    "hour": "hour of the day",
}
_LENGTHS = {"whole_years": "years", "working_days": "working days"}


def ask_words(ask: m.Ask, catalogue: Catalogue) -> str:
    """The question as it was understood, in one phrase."""
    return set_apart(_words_of(ask, catalogue).ask(ask))


def quantity_words(quantity: m.Quantity, head: str, catalogue: Catalogue) -> str:
    """A quantity by itself, in one phrase."""
    return _Words(catalogue, head).quantity(quantity)


def _words_of(ask: m.Ask, catalogue: Catalogue) -> _Words:
    """Words for a question: what is worked out is told by its own times, whatever rows are looked at."""
    tables = dict.fromkeys((*m.counted_in(ask.quantities), *(k.table for k in m.columns_in(ask.quantities))))
    # Owners of whom visits are told are there at all times.
    lowest = [t for t in tables if not any(catalogue.path(other, t) for other in tables if other != t)]
    times = {time: t for t in lowest if (time := event_time(catalogue, t)) is not None}
    head = ask.head if ask.head in tables or not times else next(iter(times.values()))
    return _Words(catalogue, head, several=len({time.column for time in times}) > 1)


class _Words:
    """Words of rows; where quantities of tables with times of their own meet (`several`), each is of its own."""

    def __init__(self, catalogue: Catalogue, head: str, *, several: bool = False) -> None:
        self.catalogue, self.head, self.several = catalogue, head, several

    def _of(self, table: str | None) -> _Words:
        """Words of the rows of a table, whose time is their own."""
        return self if table is None else _Words(self.catalogue, table)

    def column(self, key: m.ColumnKey) -> str:
        column = self.catalogue.table(key.table).column(key.column)
        called = column.display or spoken(key.column)
        role = self._role(key.table)
        return called if not role or role in called.lower() else f"{role} {called}"

    def _role(self, name: str) -> str:
        """In which role rows point at a table, where they do so in several: the start station, and the end station."""
        columns = self.catalogue.table(name).columns
        alike = [t.name for t in self.catalogue.tables if t.columns is columns]
        if len(alike) == 1:
            return ""
        rows = min(alike, key=len)
        link = next((r.column for r in self.catalogue.relationships if r.other == name), None)
        return said_of(link, rows).lower() if link is not None else ""

    def table(self, name: str) -> str:
        return self.catalogue.table(name).display or rows_called(name)

    def ask(self, ask: m.Ask) -> str:
        if ask.lists:
            text = f"the {self.table(ask.head)}"
            if ask.stacked:
                text += f", a row for each of {self._named_below(ask)}"
            else:
                # Of how many there are more than three is said where they are chosen.
                chosen = [c.rows for c in ask.where if isinstance(c, m.Has)]
                shown = [
                    e
                    for e in ask.shows
                    if not isinstance(e, m.Below) or m.Rows(e.quantity.table or "", e.quantity.where) not in chosen
                ]
                text += f" with {listed([self.expr(e) for e in shown])}" if shown else ""
        elif not ask.quantities:
            text = f"each different {listed([self.expr(g) for g in ask.groups])} of {self.table(ask.head)}"
        else:
            text = listed([self.quantity(q) for q in ask.quantities])
            if ask.groups:
                groups = [self.expr(g) for g in ask.groups]
                each = f"{listed(groups[:-1])} (down) and {groups[-1]} (across)" if ask.across else listed(groups)
                text += f", for each {each}"
            if ask.totals:
                text += " with totals"
            if ask.stacked:
                text += ", each on a row of its own"
            if ask.shows:
                text += f", with {listed([self.expr(e) for e in ask.shows])}"
        if ask.where:
            text += f", where {listed([self.condition(c) for c in ask.where])}"
        if ask.kept:
            text += f", shown where {listed([self.condition(c) for c in ask.kept])}"
        for having in ask.having:
            told = self.having(having)
            if len(ask.having) > 1 and isinstance(having.quantity, m.Between):
                told = told.replace("its change", f"the change of {self.quantity(having.quantity.quantity)}", 1)
            text += f", only where {told}"
        if ask.order:
            text += ", by " + ", then by ".join(self._order(o) for o in ask.order)
        if ask.limit is not None:
            if ask.skip and ask.limit > 1:
                text += f": number {ask.skip + 1} to {ask.skip + ask.limit}"
            elif ask.skip:
                text += f": number {ask.skip + 1}"
            else:
                text += ": the first" + (f" {ask.limit}" if ask.limit > 1 else "")
            if ask.per:
                text += f" of each {listed([self.expr(g) for g in (ask.groups or ask.shows)[: ask.per]])}"
        if ask.then:
            text += f", shown by {self._order(ask.then[0])}"
        if ask.chart is not None and ask.chart != ChartWish():
            text += f", {ask.chart.words}"
        return text

    def _order(self, order: m.Order) -> str:
        by = self.expr(order.by) if isinstance(order.by, m.EXPRESSIONS) else self.quantity(order.by)
        return f"{by}, {'highest' if order.descending else 'lowest'} first"

    def _named_below(self, ask: m.Ask) -> str:
        return listed([self.expr(e) for e in ask.stacked if isinstance(e, m.EXPRESSIONS)])

    def having(self, having: m.Having) -> str:
        match having:
            case m.Having(
                quantity=m.Along(quantity=inner, kind="change" | "change_percent" as kind),
                op=op,
                right=m.Number(value=number),
            ):
                return f"{self.quantity(inner)}{_stepped(kind, op, number)}"
            case _:
                pass
        return f"{self.quantity(having.quantity)} {_COMPARISONS[having.op]} {self._right(having)}"

    def moved(self, having: m.Having) -> str:
        """A condition on groups where nothing before it says what it is of."""
        match having:
            case m.Having(quantity=m.Between(quantity=inner, base=base, compared=compared), op=op):
                told = f"{self.condition(base)} to {self.condition(compared)}"
                return f"{self.quantity(inner)} {'rose' if op in ('>', '>=') else 'fell'} from {told}"
            case _:
                return self.having(having)

    def _right(self, having: m.Having) -> str:
        match having.right:
            case m.Number(value=value):
                return f"{value:,.10g}"
            case m.Col(key=key):
                return self.column(key)
            case other:
                return self.quantity(other) + (" over all" if having.overall else "")

    def _operand(self, part: m.Expr, op: str, *, last: bool = False) -> str:
        """A part of a sum or product, in brackets where it would be read otherwise without."""
        said = self.expr(part)
        if isinstance(part, m.Below):
            return f"({said.removeprefix('the ')})"
        if not isinstance(part, m.Arithmetic):
            return said
        loose = (part.op in "+-" and op in "*/") or (last and (op == "/" or (op == "-" and part.op in "+-")))
        return f"({said})" if loose else said

    def expr(self, expr: m.Expr) -> str:
        match expr:
            case m.Col(key=key):
                return self.column(key)
            case m.Number(value=value):
                return f"{value:,.10g}"
            case m.Today() | m.Now():
                return "today"
            case m.EventTime() if self.several:
                return "the time of each"
            case m.EventTime():
                time = event_time(self.catalogue, self.head)
                return spoken(time.column) if time is not None else "date"
            case m.Arithmetic(op="*", left=left, right=m.Number(value=part)) if (
                whole := m.parts_of_time(part)
            ) is not None:
                return f"{self._operand(left, '/')} ÷ {whole[0]}"
            case m.Arithmetic(op="-", left=m.Number(value=0.0), right=right):
                return f"−{self._operand(right, '*')}"
            case m.Arithmetic(op=op, left=left, right=right):
                sign = dict(zip("+-*/", "+−×÷", strict=True))[op]
                return f"{self._operand(left, op)} {sign} {self._operand(right, op, last=True)}"
            case m.Length(unit="whole_years", start=start, end=m.Today()):
                return f"age by {self.expr(start)}"
            case m.Length(unit="days", start=m.PartOf(unit="day", of=start), end=m.PartOf(unit="day", of=end)):
                return f"days from {self.expr(start)} to {self.expr(end)}"
            case m.Length(unit=unit, start=start, end=end):
                return f"{_LENGTHS.get(unit, unit)} from {self.expr(start)} to {self.expr(end)}"
            case m.PartOf(unit=unit, of=of):
                inner = "" if isinstance(of, m.EventTime) else f" of {self.expr(of)}"
                return _UNITS.get(unit, unit) + inner
            case m.Band(of=of, width=width):
                return f"band of {width:g} of {self.expr(of)}" if width else f"band of {self.expr(of)}"
            case m.Tile(of=of, number=number):
                return f"{TILES.get(number, f'of {number} equal groups')} of {self.expr(of)}"
            case m.Given(of=of, condition=m.Is(values=(str(value),))):
                return f"{value} ({self.expr(of)})"
            case m.Given(of=of, condition=condition):
                return f"{self.expr(of)} where {self.condition(condition)}"
            case m.AsAt(value=key):
                return f"{self.column(key)} at the time"
            case m.Since(unit=unit, time=time, key=key):
                told = _LENGTHS.get(unit, unit)
                return f"{told} from one of the {self.table(time.table)} to the next of the same {self.column(key)}"
            case m.Below(quantity=m.Aggregated(function="min" | "max" as function, expr=m.Col(key=key))):
                return f"{'first' if function == 'min' else 'last'} {self.column(key)} of {self.table(key.table)}"
            case m.Below(quantity=m.Aggregated(function="mean" | "median") as quantity, key=key):
                own = self.catalogue.table(key.table).key
                if own is not None and own.name == key.column:
                    return f"their {self.quantity(quantity).removeprefix('the ')}"
                return f"{self.quantity(quantity)} of the same {self.column(key)}"
            case m.Below(quantity=quantity):
                return self.quantity(quantity)
            case m.Test(condition=condition):
                return f"whether {self.condition(condition)}"
            case _:
                assert_never(expr)

    def condition(self, condition: m.Condition) -> str:
        match condition:
            case m.Is(column=key, values=values):
                shown = [("yes" if v else "no") if isinstance(v, bool) else str(v) for v in values]
                if len(shown) > 4:
                    shown = [*shown[:3], f"{len(shown) - 3} more"]
                held = "holds" if self.catalogue.table(key.table).column(key.column).separator else "is"
                return f"{self.column(key)} {held} {listed(shown, 'or')}"
            case m.Compared(left=(m.EventTime() | m.PartOf()) as time) if condition == m.at_end("max", time):
                return f"{self.expr(time)} is the last there is"
            case m.Compared(op=op, left=left, right=right):
                other = self.expr(right) if isinstance(right, m.EXPRESSIONS) else self.quantity(right)
                return f"{self.expr(left)} {_COMPARISONS[op]} {other}"
            case m.Within(time=m.EventTime(), low=low, high=high) if (
                not self.several
                and (year := year_of_rows(self.catalogue, self.head)) is not None
                and are_whole_years(low, high)
            ):
                return f"{self.column(year)} is {_span(low, high)}"
            case m.Within(time=time, low=low, high=high):
                return f"{self.expr(time)} is {_span(low, high)}"
            case m.PartIs(unit=unit, time=time, numbers=numbers):
                if unit == "weekday":
                    return f"{self.expr(time)} is on a {listed([DAY_NAMES[n - 1] for n in numbers], 'or')}"
                if unit == "month":
                    return f"{self.expr(time)} is in {listed([MONTH_NAMES[n - 1] for n in numbers], 'or')}"
                return f"the {unit} of {self.expr(time)} is {listed([str(n) for n in numbers], 'or')}"
            case m.Clock(time=time, op=op, at=at):
                clock = next((c for c in self.catalogue.table(self.head).columns if c.type is Type.TIME), None)
                plain = isinstance(time, m.EventTime) and clock is not None
                told = spoken(clock.name) if plain and clock is not None else self.expr(time)
                return f"{told} is {'before' if op in ('<', '<=') else 'after'} {at[:5]}"
            case m.Missing(column=key):
                return f"{self.column(key)} is missing"
            case m.Says(column=key, how=how, pattern=pattern):
                verb = {"contains": "contains", "starts": "starts with", "ends": "ends with"}[how]
                return f"{self.column(key)} {verb} “{pattern}”"
            case m.Has(rows=m.Rows(table=table, where=(m.Compared("=", m.Col() as when, m.Below() as end), *rest))) if (
                end.quantity.expr == when and end.quantity.function in ("min", "max") and rest
            ):
                which = "first" if end.quantity.function == "min" else "last"
                inside = self._of(table)
                told = listed([inside.condition(c) for c in rest])
                return f"of the {self.table(table)} the {which} by {inside.expr(when)} is one where {told}"
            case m.Has(rows=rows, op=op, number=number):
                below = self._of(rows.table)
                inner = f" where {listed([below.condition(c) for c in rows.where])}" if rows.where else ""
                if (op, number) == (">=", 1):
                    return f"there are {self.table(rows.table)}{inner}"
                if op == "=" and number > 0:
                    return f"the number of {self.table(rows.table)}{inner} is {number:,}"
                count = {">": "more than ", ">=": "at least ", "<": "fewer than ", "<=": "at most "}.get(op, "")
                return f"there are {count}{number:,} {self.table(rows.table)}{inner}"
            case m.Among(column=key, ask=m.Ask(limit=int(limit), order=(m.Order(by=by, descending=most), *_)) as ask):
                first = f"among the {limit}" if limit > 1 else "the one"
                inside = _Words(self.catalogue, ask.head)
                where = f" where {listed([inside.condition(c) for c in ask.where])}" if ask.where else ""
                ranked = inside.expr(by) if isinstance(by, m.EXPRESSIONS) else inside.quantity(by).removeprefix("the ")
                return f"{self.column(key)} is {first} of the {'highest' if most else 'lowest'} {ranked}{where}"
            case m.Among(column=key, ask=ask) if ask.having and not ask.order:
                inside = _words_of(ask, self.catalogue)
                said = [*(inside.moved(h) for h in ask.having), *(inside.condition(c) for c in ask.where)]
                return f"{self.column(key)} is one where {listed(said)}"
            case m.Among(column=key, ask=ask):
                return f"{self.column(key)} is among {_words_of(ask, self.catalogue).ask(ask)}"
            case m.All(items=items):
                return listed([self.condition(i) for i in items])
            case m.Any(items=items):
                return listed([self.condition(i) for i in items], "or")
            case m.Not(item=m.Missing(column=key)):
                return f"{self.column(key)} is known"
            case m.Not(item=m.Is(column=key, values=values)):
                told = self.condition(m.Is(key, values))
                return told.replace(" is ", " is not ", 1).replace(" holds ", " does not hold ", 1)
            case m.Not(item=m.Has() as has):
                return self.condition(has).replace("there are ", "there are no ", 1)
            case m.Not(item=item):
                return f"not ({self.condition(item)})"
            case _:
                assert_never(condition)

    def quantity(self, quantity: m.Quantity) -> str:
        match quantity:
            case m.Aggregated(function=function, expr=expr, table=table, where=where, percent=percent, other=other):
                there = self._of(table or next((k.table for k in m.columns_in(expr)), None))
                inner = f" where {listed([there.condition(c) for c in where])}" if where else ""
                if expr is None:
                    return f"the number of {self.table(table) if table else 'rows'}{inner}"
                if isinstance(expr, m.Below) and function == expr.quantity.function == "sum":
                    return f"{self.expr(expr)}{inner}"
                if isinstance(expr, m.Below) and not isinstance(expr.quantity.expr, m.Col):
                    said = self.expr(expr).removeprefix("the ")
                    return f"the {_AGGREGATES.get(function, function)} {said} of each {self.column(expr.key)}{inner}"
                if function == "correlation" and other is not None:
                    return f"the correlation of {self.expr(expr)} and {self.expr(other)}{inner}"
                if function == "percentile":
                    return f"the {percent:g}th percentile of {self.expr(expr)}{inner}"
                said = self.expr(expr)
                if function == "sum" and said.lower().split()[0] == "total":
                    return f"the {said}{inner}"
                return f"the {_AGGREGATES.get(function, function)} {said}{inner}"
            case m.ShareOf(condition=condition, table=table, expr=expr, among=among):
                of = self.expr(expr) if expr is not None else self.table(table) if table else "rows"
                there = self._of(table)
                whole = f", of those where {listed([there.condition(c) for c in among])}" if among else ""
                return f"the share of {of} where {listed([there.condition(c) for c in condition])}{whole}"
            case m.Combined(op=op, left=left, right=right, percent=percent):
                other_words = f"{right.value:,.10g}" if isinstance(right, m.Number) else self.quantity(right)
                verb = {"+": "plus", "-": "less", "*": "times", "/": "as a percentage of" if percent else "over"}[op]
                return f"{self.quantity(left)} {verb} {other_words}"
            case m.Between(base=m.Is(values=(base_value,)), compared=m.Is(values=(value,))):
                return f"how much more {value} has than {base_value}"
            case m.Between(quantity=inner, base=base, compared=compared):
                return f"its change from {self.condition(base)} to {self.condition(compared)}"
            case m.Along(quantity=m.Along(quantity=inner, kind="share"), kind="running"):
                return f"{self.quantity(inner)} as a cumulative share"
            case m.Along(quantity=inner, kind=kind, number=number):
                said = {
                    "share": "as a share of the total",
                    "share_within": "as a share within the group",
                    "running": "as a running total",
                    "change": "and the change on the one before",
                    "change_percent": "and the change on the one before in per cent",
                    "rank": "with its rank",
                    "rank_within": "with its rank within the group",
                    "moving": f"and its moving average over {number}",
                    "moving_total": f"and its total over the last {number}",
                    "year_before": "and the change on a year before in per cent",
                    "from_average": "and how far it is from the average",
                }[kind]
                return f"{self.quantity(inner)} {said}"
            case m.OverGroups(function=function, quantity=inner, each=each):
                over = self.expr(each)
                if function == "count":
                    held = "".join(f" {_COMPARISONS[op]} {number:,g}" for op, number in quantity.held)
                    if quantity.change:
                        held = _stepped(quantity.change, *quantity.held[0])
                    periods = each.unit.removesuffix("_of_year") if isinstance(each, m.PartOf) else over
                    return f"the number of {periods}s in which {self.quantity(inner)}{held}"
                if function == "percentile":
                    return f"the {quantity.percent or 0:g}th percentile over each {over} of {self.quantity(inner)}"
                return f"the {_AGGREGATES.get(function, function)} over each {over} of {self.quantity(inner)}"
            case _:
                assert_never(quantity)


def _stepped(kind: str, op: m.Comparison, number: float) -> str:
    """How far something came from the one before: fell, rose by over 10%."""
    up = op in (">", ">=")
    if (kind, number) == ("change", 0):
        return f" {'rose' if up else 'fell'} on the one before"
    told = 100 * abs(number) if kind == "change_percent" else abs(number)
    bound = {">": "over", ">=": "at least", "<": "over", "<=": "at least"}.get(op, "exactly")
    of_it = "%" if kind == "change_percent" else ""
    return f" {'rose' if up else 'fell'} by {bound} {told:,.10g}{of_it} on the one before"


def _span(low: dt.date | None, high: dt.date | None) -> str:
    if low is not None and high is not None:
        return span_words(low, high)
    return (
        f"from {date_words(low)} on" if low is not None else f"up to {date_words(high)}" if high is not None else "any"
    )
