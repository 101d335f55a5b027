"""The bank's meanings as ours: a syntax tree with its slots filled, as the questions that may be meant."""

from __future__ import annotations

import datetime as dt
import math
import re
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Literal, cast

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Type
from gumption.core.reading import meaning as m
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.schema import Nouns
from gumption.core.reading.times import time_mentions
from gumption.core.reading.tokens import tokenise
from tools.bench import wordings_notation as wn
from tools.bench.wordings_notation import NotWritten

_FUNCTIONS = {
    "Sum": "sum", "Mean": "mean", "Median": "median", "Min": "min", "Max": "max", "StdDev": "deviation",
    "Distinct": "distinct", "Variance": "variance", "Mode": "mode",
}  # fmt: skip
_UNITS: dict[str, m.Unit] = {
    "year": "year", "quarter": "quarter", "month": "month", "week": "week", "day": "day", "date": "day",
    "weekday": "weekday", "hour": "hour", "month_of_year": "month_of_year",
}  # fmt: skip
_LENGTHS: dict[str, m.LengthUnit] = {
    "days": "days", "hours": "hours", "minutes": "minutes", "years": "years", "months": "months",
    "weekdays": "working_days",
}  # fmt: skip
_MONTHS = [
    "january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november",
    "december",
]  # fmt: skip
_DAYS = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"]
_OPPOSITE: dict[str, m.Comparison] = {"<": ">", "<=": ">=", ">": "<", ">=": "<=", "=": "=", "!=": "!="}


SLOT = re.compile(r"\{([a-z_0-9]+)\}")


@dataclass
class Filling:
    """What stands in the slots of a wording: words to say, and what they mean."""

    said: dict[str, str] = field(default_factory=dict)
    tables: dict[str, str] = field(default_factory=dict)
    columns: dict[str, ColumnKey] = field(default_factory=dict)
    values: dict[str, str] = field(default_factory=dict)
    numbers: dict[str, float] = field(default_factory=dict)

    def told(self, text: str) -> str:
        """The text with its slots filled. Raises NotWritten where one has no filling."""
        missing = set(SLOT.findall(text)) - set(self.said)
        if missing:
            raise NotWritten(f"{text} has no filling for {', '.join(sorted(missing))}")
        return SLOT.sub(lambda found: self.said[found[1]], text)


class Meanings:
    """Turns syntax trees into questions over one catalogue."""

    def __init__(self, catalogue: Catalogue, nouns: Nouns, day: dt.date, filling: Filling) -> None:
        self.catalogue, self.nouns, self.day, self.filling = catalogue, nouns, day, filling

    # --- questions

    def ask(self, node: wn.Node) -> m.Ask:
        """A question. Raises NotWritten where it says more than our meanings hold."""
        if not isinstance(node, wn.Call) or node.name != "Ask":
            raise NotWritten("no question")
        unknown = {n for n, _ in node.named} - {
            "rows",
            "show",
            "quantities",
            "by",
            "having",
            "order",
            "limit",
            "per",
            "chart",
            "skip",
        }
        if unknown or (node.arguments and node.get("order") is None):
            raise NotWritten(f"{unknown} is not known")
        rows = self.rows(node.get("rows")) if node.get("rows") is not None else None
        heads: list[str] = [rows.table] if rows is not None else []
        sets: list[tuple[m.Condition, ...]] = []
        written = self.items(node.get("quantities"))
        for quantity in written:
            self._gather(quantity, heads, sets)
        common = tuple(c for c in (sets[0] if sets else ()) if all(c in s for s in sets))
        where = (rows.where if rows is not None else ()) + common
        quantities = tuple(self.quantity(q, common) for q in written)
        groups = tuple(self.expr(g) for g in self.items(node.get("by")))
        named = tuple(c for g in self.items(node.get("by")) if (c := self.named_values(g)) is not None)
        where += tuple(c for c in named if c not in where)
        shows = tuple(self.expr(s) for s in self.items(node.get("show")))
        if rows is not None and shows == groups:
            shows = ()
        if not heads:
            heads = [self.filling.tables["rows"]]
        having = self.having(node.get("having"), common)
        if having and not quantities and not groups:
            raise NotWritten("a condition on no group")
        if having and groups and not quantities:
            quantities = (having[0].quantity,)
        written_order = node.get("order")
        if written_order is not None:
            # What stands behind an order with no name of its own goes on with it.
            written_order = wn.Items((*self.items(written_order), *node.arguments))
        order = self.order(written_order, quantities, common, of_rows=rows is not None)
        per = self.items(node.get("per"))
        if per:
            each = tuple(self.expr(p) for p in per)
            if quantities or groups:
                if groups[: len(each)] != each:
                    groups = (*each, *(g for g in groups if g not in each))
            else:
                own = shows or (self.called(heads[0]),)
                shows = (*each, *(s for s in own if s not in each))
        limit, skip = self.limit(node.get("limit")), self.limit(node.get("skip"))
        return m.Ask(
            heads[0], where, quantities, groups, shows, having, order, limit, skip or 0, per=len(per)
        )  # fmt: skip

    def called(self, table: str) -> m.Expr:
        """What tells the rows of a table from each other: their name, else their key."""
        naming = self.nouns.naming(table)
        key = self.catalogue.table(table).key
        if naming is not None:
            return naming
        if key is None:
            raise NotWritten("rows without names")
        return m.Col(ColumnKey(table, key.name))

    def below(self, node: wn.Call) -> m.Below:
        """What the rows beside come to for a row. Raises NotWritten for what is worked of the rows themselves."""
        quantity = self.quantity(node, ())
        of = {
            found.arguments[0].name
            for found in wn.inside(node)
            if isinstance(found, wn.Call) and found.name == "Rows" and isinstance(found.arguments[0], wn.Slot)
        }
        beside = {frozenset({"related"}): "rows", frozenset({"rows"}): "related"}.get(frozenset(of))
        table = self.filling.tables.get(beside or "")
        key = self.catalogue.table(table).key if table is not None else None
        if not isinstance(quantity, m.Aggregated) or table is None or key is None:
            raise NotWritten(f"{node} is no value of a row")
        return m.Below(quantity, ColumnKey(table, key.name))

    def named_values(self, node: wn.Node) -> m.Condition | None:
        """Only the values that a group names."""
        match node:
            case wn.Call(name="values", arguments=(wn.Slot(name=name), wn.Items(items=items))):
                return m.Is(self.column(name), tuple(v for item in items for v in self.spelled(name, item)))
            case _:
                return None

    def items(self, node: wn.Node | None) -> tuple[wn.Node, ...]:
        if node is None:
            return ()
        return node.items if isinstance(node, wn.Items) else (node,)

    def limit(self, node: wn.Node | None) -> int | None:
        if node is None:
            return None
        return int(self.number(node))

    def number(self, node: wn.Node) -> float:
        match node:
            case wn.Figure(value=value):
                return value
            case wn.Slot(name=name) if name in self.filling.numbers:
                return self.filling.numbers[name]
            case wn.Infix(op="-", left=left, right=right):
                return self.number(left) - self.number(right)
            case _:
                raise NotWritten(f"{node} is no number")

    def rows(self, node: wn.Node | None) -> m.Rows:
        if not isinstance(node, wn.Call) or node.name != "Rows":
            raise NotWritten("no rows")
        table = self.table(node.arguments[0])
        where = node.get("where")
        return m.Rows(table, () if where is None else self.conditions(where, table))

    def table(self, node: wn.Node) -> str:
        if not isinstance(node, wn.Slot) or node.name not in self.filling.tables:
            raise NotWritten(f"{node} is no table")
        return self.filling.tables[node.name]

    # --- values

    def expr(self, node: wn.Node) -> m.Expr:
        match node:
            case wn.Slot(name=name) if name in self.filling.columns:
                return m.Col(self.filling.columns[name])
            case wn.Slot(name=name) if name in self.filling.tables:
                naming = self.nouns.naming(self.filling.tables[name])
                if naming is None:
                    raise NotWritten("rows without names")
                return naming
            case wn.Slot(name="row"):
                return self.called(self.filling.tables["rows"])
            case wn.Slot() | wn.Figure():
                return m.Number(self.number(node))
            case wn.Word(text="today"):
                return m.Today(self.day)
            case wn.Call(name=name, arguments=(inner,)) if name in _UNITS:
                return m.PartOf(_UNITS[name], self.expr(inner))
            case wn.Call(name=name, arguments=(wn.Infix(op="-", left=end, right=start),)) if name in _LENGTHS:
                return m.Length(_LENGTHS[name], self.expr(start), self.expr(end))
            case wn.Call(name="duration", arguments=(start, end)):
                return m.Length("days", self.expr(start), self.expr(end))
            case wn.Call(name="duration", arguments=(start, end, wn.Word(text=unit))) if unit in _LENGTHS:
                return m.Length(_LENGTHS[unit], self.expr(start), self.expr(end))
            case wn.Call(name="Count" | "Distinct" | "Sum" | "Min" | "Max" | "Mean"):
                return self.below(node)
            case wn.Call(name="flag", arguments=(condition,)):
                found = self.conditions(condition, self.filling.tables["rows"])
                return m.Test(found[0] if len(found) == 1 else m.All(found))
            case wn.Call(name="values", arguments=(column, *_)):
                return self.expr(column)
            case wn.Call(name="bins", arguments=(column, *_), named=named):
                told = dict(named)
                if "count" in told:
                    raise NotWritten("bands of equal width, so many of them")
                if "quantiles" in told:
                    return m.Tile(self.expr(column), int(self.number(told["quantiles"])))
                if "edges" in told:
                    # The first band ends before the first edge, and the last begins behind the last.
                    said = told["edges"]
                    edges = [self.number(e) for e in (said.items if isinstance(said, wn.Items) else (said,))]
                    last = math.nextafter(edges[-1], math.inf) if len(edges) > 1 else edges[-1]
                    return m.Band(self.expr(column), None, (-math.inf, *edges[:-1], last))
                width = told.get("width")
                return m.Band(self.expr(column), self.number(width) if width is not None else None)
            case wn.Infix(op="-", left=left, right=right) if self.is_time(left) and self.is_time(right):
                return m.Length("days", self.expr(right), self.expr(left))
            case wn.Infix(op=op, left=left, right=right) if op in "+-*/":
                return m.Arithmetic(cast(Literal["+", "-", "*", "/"], op), self.expr(left), self.expr(right))
            case _:
                raise NotWritten(f"{node} is no value of a row")

    def is_time(self, node: wn.Node) -> bool:
        if isinstance(node, wn.Word):
            return node.text == "today"
        if isinstance(node, wn.Call) and node.name in ("Min", "Max"):
            return self.is_time(node.arguments[0])
        return isinstance(node, wn.Slot) and node.name in ("date", "start", "end", "day")

    # --- conditions

    def conditions(self, node: wn.Node, table: str) -> tuple[m.Condition, ...]:
        if isinstance(node, wn.Infix) and node.op == "and":
            return self.conditions(node.left, table) + self.conditions(node.right, table)
        return (self.condition(node, table),)

    def condition(self, node: wn.Node, table: str) -> m.Condition:
        match node:
            case wn.Infix(op="or", left=left, right=right):
                sides = [self.conditions(side, table) for side in (left, right)]
                return m.Any(tuple(s[0] if len(s) == 1 else m.All(s) for s in sides))
            case wn.Infix(op="and"):
                return m.All(self.conditions(node, table))
            case wn.Postfix(op="not", of=inner):
                return m.Not(self.condition(inner, table))
            case wn.Postfix(op="missing", of=wn.Slot(name=name)) if name in self.filling.columns:
                return m.Missing(self.filling.columns[name])
            case wn.Postfix(op="present", of=wn.Slot(name=name)) if name in self.filling.columns:
                return m.Not(m.Missing(self.filling.columns[name]))
            case wn.Infix(
                op="contains" | "starts" | "ends" as how, left=wn.Slot(name=name), right=wn.Text() | wn.Slot() as right
            ):
                pattern = right.text if isinstance(right, wn.Text) else self.filling.values.get(right.name, "")
                return m.Says(self.column(name), how, pattern)
            case wn.Infix(op="in", left=left, right=wn.Call(name="span", raw=raw)):
                return self.span(self.expr(left), raw)
            case wn.Infix(op="in", left=wn.Call(name=unit, arguments=(time,)), right=wn.Items(items=items)) if (
                unit in _UNITS
            ):
                return self.part(unit, self.expr(time), items)
            case wn.Infix(op="=" | "!=" as op, left=wn.Call(name=unit, arguments=(time,)), right=right) if (
                unit in _UNITS
            ):
                part = self.part(unit, self.expr(time), (right,))
                return part if op == "=" else m.Not(part)
            case wn.Infix(op="in", left=wn.Slot(name=name), right=wn.Items(items=items)):
                return m.Is(self.column(name), tuple(s for v in items for s in self.spelled(name, v)))
            case wn.Call(name="among", arguments=(inner,)):
                return self.among_rows(self.ask(inner))
            case wn.Infix(op="among", left=wn.Slot(name="row"), right=right) if "row" not in self.filling.tables:
                return self.among_rows(self.ask(right))
            case wn.Infix(op=">" | ">=" as op, left=wn.Call(name="abs", arguments=(inner,)), right=right):
                far = self.number(right)
                beyond = m.Compared(op, self.expr(inner), m.Number(far))
                return m.Any((beyond, m.Compared(_OPPOSITE[op], self.expr(inner), m.Number(-far))))
            case wn.Infix(
                op="=" | "!=" as op, left=wn.Slot(name="row" | "related_one" as name), right=wn.Slot() as right
            ):
                named = self.expr(wn.Slot(name))
                if not isinstance(named, m.Col) or right.name not in self.filling.values:
                    raise NotWritten(f"{right} names no row")
                same = m.Is(named.key, (self.filling.values[right.name],))
                return same if op == "=" else m.Not(same)
            case wn.Infix(op="among", left=wn.Slot(name=name), right=right):
                key = self.column(name) if name in self.filling.columns else cast(m.Col, self.expr(wn.Slot(name))).key
                return m.Among(key, self.ask(right))
            case wn.Infix(
                op="=" | "!=" as op, left=wn.Slot(name=name), right=wn.Slot() | wn.Word() | wn.Text() as right
            ) if self.is_value(name, right):
                found = m.Is(self.column(name), self.spelled(name, right))
                return found if op == "=" else m.Not(found)
            case wn.Infix(op=op, left=left, right=right) if op in _OPPOSITE:
                return self.compared(cast(m.Comparison, op), left, right, table)
            case wn.Call(
                name="has" | "has_no" | "has_at_least" | "has_at_most" | "has_exactly" as name, arguments=arguments
            ):
                rows = self.rows(arguments[-1])
                if rows.table == table:
                    raise NotWritten("rows held against their own table")
                held = {"has": (">=", 1), "has_no": ("=", 0)}.get(name)
                if held is None:
                    held = (
                        {"has_at_least": ">=", "has_at_most": "<=", "has_exactly": "="}[name],
                        int(self.number(arguments[0])),
                    )
                return m.Has(rows, cast(m.Comparison, held[0]), held[1])
            case _:
                raise NotWritten(f"{node} is no condition")

    def among_rows(self, ask: m.Ask) -> m.Among:
        """Of those rows that another question lists."""
        table = self.catalogue.table(ask.head)
        if not ask.lists or table.key is None:
            raise NotWritten("rows that nothing tells apart")
        key = ColumnKey(table.name, table.key.name)
        return m.Among(key, ask.but(shows=(m.Col(key),)))

    def compared(self, op: m.Comparison, left: wn.Node, right: wn.Node, table: str) -> m.Condition:
        if isinstance(left, wn.Call) and left.name == "Count":
            rows = self.rows(left.arguments[0])
            if rows.table != table:
                return m.Has(rows, op, int(self.number(right)))
        if (
            self.is_time(left)
            and isinstance(right, (wn.Slot, wn.Word, wn.Text, wn.Figure))
            and not self.is_time_column(right)
        ):
            low, high = self.days(self.raw(right))
            time = self.expr(left)
            match op:
                case "<":
                    return m.Within(time, None, low - dt.timedelta(days=1) if low else None)
                case "<=":
                    return m.Within(time, None, high)
                case ">":
                    return m.Within(time, high + dt.timedelta(days=1) if high else None, None)
                case ">=":
                    return m.Within(time, low, None)
                case "=":
                    return m.Within(time, low, high)
                case "!=":
                    return m.Not(m.Within(time, low, high))
        if isinstance(right, wn.Call) and right.name in (*_FUNCTIONS, "Percentile"):
            return m.Compared(op, self.expr(left), self.quantity(right, ()))
        return m.Compared(op, self.expr(left), self.expr(right))

    def is_time_column(self, node: wn.Node) -> bool:
        return isinstance(node, wn.Slot) and node.name in ("date", "start", "end")

    def raw(self, node: wn.Node) -> str:
        match node:
            case wn.Slot(name=name):
                return "{" + name + "}"
            case wn.Word(text=text) | wn.Text(text=text):
                return text
            case wn.Figure(value=value):
                return f"{value:g}"
            case _:
                raise NotWritten(f"{node} is no time")

    def span(self, time: m.Expr, raw: str) -> m.Condition:
        raw = raw.replace('"', "").rstrip(")").strip()
        if raw.lower() in ("{month}", "{month2}"):
            name = self.filling.told(raw).lower()
            return m.PartIs("month", time, (_MONTHS.index(name) + 1,))
        low, high = self.days(raw)
        return m.Within(time, low, high)

    def days(self, raw: str) -> tuple[dt.date | None, dt.date | None]:
        """The first and the last day of a span in words."""
        text = self.filling.told(raw).lower().strip()
        year = self.day.year
        to_date = {
            "year to date": dt.date(year, 1, 1),
            "this year to date": dt.date(year, 1, 1),
            "month to date": self.day.replace(day=1),
        }
        if text in to_date:
            return to_date[text], self.day
        if text == "year to date, a year back":
            return dt.date(year - 1, 1, 1), self.day.replace(year=year - 1)
        if text in ("up to today", "to today"):
            return None, self.day
        if text == "the day before yesterday":
            return self.day - dt.timedelta(days=2), self.day - dt.timedelta(days=2)
        if text == "last year to the same day":
            return dt.date(year - 1, 1, 1), self.day.replace(year=year - 1)
        if text.startswith(("start of ", "end of ")):
            low, high = self.days(text.split(" of ", 1)[1])
            return (low, low) if text.startswith("start") else (high, high)
        if text.startswith("since "):
            return self.days(text[6:])[0], None
        if text.startswith("to "):
            return None, self.days(text[3:])[1]
        for joint in ("..", " to "):
            if joint in text:
                first, last = text.split(joint, 1)
                return self.days(first)[0], self.days(last)[1]
        tokens = tokenise(text)
        for found in time_mentions(tokens, self.day):
            if found.start == 0 and found.end == len(tokens) and found.span.part is None:
                return found.span.low, found.span.high
        raise NotWritten(f"“{text}” is no span")

    def part(self, unit: str, time: m.Expr, items: tuple[wn.Node, ...]) -> m.Condition:
        numbers = []
        for item in items:
            text = self.filling.told(self.raw(item)).lower()
            if text in _MONTHS:
                numbers.append(_MONTHS.index(text) + 1)
            elif text in _DAYS:
                numbers.append(_DAYS.index(text) + 1)
            else:
                numbers.append(int(float(text)))
        known = {"month_of_year": "month", "month": "month", "quarter": "quarter", "weekday": "weekday", "hour": "hour"}
        if unit not in known:
            raise NotWritten(f"{unit} of a time is no condition")
        return m.PartIs(cast(Literal["month", "quarter", "weekday", "hour"], known[unit]), time, tuple(numbers))

    def column(self, name: str) -> ColumnKey:
        if name not in self.filling.columns:
            raise NotWritten(f"{name} is no column")
        return self.filling.columns[name]

    def is_value(self, name: str, node: wn.Node) -> bool:
        if name not in self.filling.columns:
            return False
        if isinstance(node, wn.Slot):
            return node.name.startswith("value")
        return name == "flag" or isinstance(node, wn.Text)

    def spelled(self, name: str, node: wn.Node) -> tuple[str | bool | int, ...]:
        """A value in every spelling that stands in its column: names are compared without regard to case."""
        value = self.value(name, node)
        if not isinstance(value, str):
            return (value,)
        column = self.nouns.column(self.column(name))
        return tuple(v for v in column.values if v.lower() == value.lower()) or (value,)

    def value(self, name: str, node: wn.Node) -> str | bool | int:
        if isinstance(node, wn.Slot) and node.name in self.filling.values:
            return self.filling.values[node.name]
        if isinstance(node, (wn.Word, wn.Text)):
            column = self.nouns.column(self.column(name))
            if node.text in ("yes", "no"):
                if column.type is Type.BOOLEAN:
                    return node.text == "yes"
                words = {v.lower(): v for v in column.values}
                for word in ("yes", "y", "true", "1") if node.text == "yes" else ("no", "n", "false", "0"):
                    if word in words:
                        return words[word]
        raise NotWritten(f"{node} is no value")

    # --- quantities

    def _gather(self, node: wn.Node, heads: list[str], sets: list[tuple[m.Condition, ...]]) -> None:
        """The rows that quantities are of, and what all of them have to meet."""
        if isinstance(node, wn.Call):
            if node.name == "Rows":
                rows = self.rows(node)
                heads.append(rows.table)
                sets.append(rows.where)
                return
            for inner in (*node.arguments, *(v for _, v in node.named)):
                self._gather(inner, heads, sets)
        elif isinstance(node, wn.Infix):
            self._gather(node.left, heads, sets)
            self._gather(node.right, heads, sets)

    def own(self, rows: m.Rows, common: tuple[m.Condition, ...]) -> tuple[m.Condition, ...]:
        return tuple(c for c in rows.where if c not in common)

    def quantity(self, node: wn.Node, common: tuple[m.Condition, ...]) -> m.Quantity:
        match node:
            case wn.Call(name="Count", arguments=(of,)):
                rows = self.rows(of)
                return m.Aggregated("count", table=rows.table, where=self.own(rows, common))
            case wn.Call(name="Mean" | "Median" | "Max" | "Min" as name, arguments=(inner,), named=named) if (
                "per" in dict(named)
            ):
                quantity = self.quantity(inner, common)
                if not isinstance(quantity, m.Aggregated):
                    raise NotWritten("an average of no plain quantity")
                return m.OverGroups(_FUNCTIONS[name], quantity, self.expr(dict(named)["per"]))  # type: ignore[arg-type]
            case wn.Call(name="Mean" | "Median" | "Max" | "Min" as name, arguments=(wn.Call(name="Ask") as inner,)):
                ask = self.ask(inner)
                if len(ask.quantities) != 1 or len(ask.groups) != 1 or not isinstance(ask.quantities[0], m.Aggregated):
                    raise NotWritten("an average of no plain quantity")
                return m.OverGroups(_FUNCTIONS[name], ask.quantities[0], ask.groups[0])  # type: ignore[arg-type]
            case wn.Call(name=name, arguments=(of, rows_of)) if name in _FUNCTIONS:
                rows = self.rows(rows_of)
                return m.Aggregated(_FUNCTIONS[name], self.expr(of), rows.table, self.own(rows, common))  # type: ignore[arg-type]
            case wn.Call(name=name, arguments=(of,)) if name in _FUNCTIONS:
                return m.Aggregated(_FUNCTIONS[name], self.expr(of))  # type: ignore[arg-type]
            case wn.Call(name="Percentile", arguments=(percent, of, rows_of)):
                rows = self.rows(rows_of)
                return m.Aggregated(
                    "percentile", self.expr(of), rows.table, self.own(rows, common), percent=self.number(percent)
                )
            case wn.Call(name="Correlation", arguments=(one, other, rows_of)):
                rows = self.rows(rows_of)
                return m.Aggregated(
                    "correlation", self.expr(one), rows.table, self.own(rows, common), other=self.expr(other)
                )
            case wn.Call(name="Share", arguments=(condition,)) if node.get("of") is not None:
                rows = self.rows(node.get("of"))
                if self.own(rows, common):
                    raise NotWritten("a share of some rows beside others")
                return m.ShareOf(self.conditions(condition, rows.table), rows.table)
            case wn.Call(name="Ratio", arguments=(left, right)):
                return m.Combined("/", self.quantity(left, common), self.quantity(right, common))
            case wn.Call(name="Diff", arguments=(left, right)):
                return m.Combined("-", self.quantity(left, common), self.quantity(right, common))
            case wn.Infix(op="+" | "-" | "*" | "/" as op, left=left, right=right):
                second = m.Number(right.value) if isinstance(right, wn.Figure) else self.quantity(right, common)
                return m.Combined(op, self.quantity(left, common), second)
            case wn.Call(name="Between", arguments=(quantity, base, compared, *_)):
                counted = self.quantity(quantity, common)
                if not isinstance(counted, m.Aggregated):
                    raise NotWritten("a comparison of no plain quantity")
                table = counted.table or self.filling.tables["rows"]
                sides = [self.conditions(side, table) for side in (base, compared)]
                before, after = (s[0] if len(s) == 1 else m.All(s) for s in sides)
                return m.Between(counted, before, "", after, "")
            case wn.Call(name="Along", arguments=(quantity, how)):
                return self.along(self.quantity(quantity, common), how)
            case _:
                raise NotWritten(f"{node} is no quantity")

    def along(self, quantity: m.Quantity, how: wn.Node) -> m.Quantity:
        match how:
            case wn.Word(text="share_of_total"):
                return m.Along(quantity, "share")
            case wn.Word(text="running" | "rank" as kind):
                return m.Along(quantity, kind)
            case wn.Word(text="previous"):
                return m.Along(quantity, "change")
            case wn.Word(text="year_before"):
                return m.Along(quantity, "year_before")
            case wn.Call(name="moving", arguments=(n,)):
                return m.Along(quantity, "moving", int(self.number(n)))
            case wn.Call(name="moving_sum", arguments=(n,)):
                return m.Along(quantity, "moving_total", int(self.number(n)))
            case wn.Call(name="share_within"):
                return m.Along(quantity, "share_within")
            case _:
                raise NotWritten(f"{how} is not told along")

    def having(self, node: wn.Node | None, common: tuple[m.Condition, ...]) -> tuple[m.Having, ...]:
        match node:
            case None:
                return ()
            case wn.Infix(op="and", left=left, right=right):
                return self.having(left, common) + self.having(right, common)
            case wn.Infix(op=op, left=left, right=right) if op in _OPPOSITE:
                quantity = self.quantity(left, common)
                if isinstance(right, (wn.Slot, wn.Figure)):
                    return (m.Having(quantity, cast(m.Comparison, op), m.Number(self.number(right))),)
                return (m.Having(quantity, cast(m.Comparison, op), self.quantity(right, common)),)
            case _:
                raise NotWritten(f"{node} is no condition on groups")

    def order(
        self,
        node: wn.Node | None,
        quantities: tuple[m.Quantity, ...],
        common: tuple[m.Condition, ...],
        *,
        of_rows: bool = False,
    ) -> tuple[m.Order, ...]:
        if node is None:
            return ()
        if isinstance(node, wn.Items):
            return tuple(o for item in node.items for o in self.order(item, quantities, common, of_rows=of_rows))
        descending = isinstance(node, wn.Postfix) and node.op == "desc"
        of = node.of if isinstance(node, wn.Postfix) else node
        if isinstance(of, wn.Word):
            return (m.Order(quantities[0], descending),) if quantities else ()
        by: Callable[[], m.Quantity | m.Expr] = lambda: self.quantity(of, common)  # noqa: E731
        if of_rows or not (
            isinstance(of, wn.Call)
            and of.name in (*_FUNCTIONS, "Count", "Share", "Ratio", "Between", "Percentile", "Diff")
        ):
            by = lambda: self.expr(of)  # noqa: E731
        return (m.Order(by(), descending),)
