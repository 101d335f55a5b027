"""The bank's follow-ups: a question before, made from the same slots, and what it is after the edit."""

from __future__ import annotations

import dataclasses
import datetime as dt
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from gumption.core.reading import meaning as m
from gumption.core.reading.times import MONTHS_IN, months_later
from tools.bench import wordings_notation as wn
from tools.bench.wordings_meanings import Filling, Meanings
from tools.bench.wordings_notation import NotWritten

_COLUMNS_CHANGED = ("add_column", "drop_column", "show")
_ORDERED_BY = re.compile(r"order (\[.*\]|\{(?:measure|score|date|cat|name)2?\}) ?(asc|desc)?")
_HELD = re.compile(r"\{\w+\} (?:!= \{\w+\}|present)|\{flag\}")
_SPAN = re.compile(r"span\((.*)\)$")


@dataclass(frozen=True)
class Step:
    """One edit, as the bank writes it: what is done, and to what."""

    what: str
    rest: str


def steps_of(means: str) -> list[Step]:
    """The edits of a meaning such as edit(replace_value {cat} {value2}, limit {n}). Raises NotWritten."""
    if not (means.startswith("edit(") and means.endswith(")")):
        raise NotWritten("no edit")
    found = []
    for part in _split(means[5:-1]):
        what, _, rest = part.strip().partition(" ")
        found.append(Step(what, rest.strip()))
    return found


def slots_before(means: str) -> str:
    """The slots that the question before is made of."""
    what = means.removeprefix("edit(").partition(" ")[0].rstrip(",)")
    if what in _COLUMNS_CHANGED or _of_column(means):
        return "{name} {cat} {value}"
    if what in ("as_change", "drop"):
        return "{date} {measure} {cat}"
    if what == "undo":
        return "{cat}"
    if what in ("order", "limit", "replace_quantity", "add_quantity"):
        return "{measure} {cat}"
    if what in ("replace_group", "add_group", "drop_group", "add_condition"):
        return "{cat} {cat2}"
    dated = "{date}" in means or what == "shift_time" or "span(" in means
    return "{cat} {value} {date} {year}" if dated else "{cat} {value}"


def _of_column(means: str) -> bool:
    """True for rows put in the order of a column of theirs."""
    return _ORDERED_BY.search(means) is not None


def _split(text: str) -> Iterator[str]:
    """At the commas that stand in no brackets."""
    depth, start = 0, 0
    for place, sign in enumerate(text):
        depth += (sign in "([") - (sign in ")]")
        if sign == "," and not depth:
            yield text[start:place]
            start = place + 1
    yield text[start:]


class Edited:
    """A question before and after its edits, over one filling."""

    def __init__(self, meanings: Meanings, filling: Filling) -> None:
        self.meanings, self.filling = meanings, filling
        self.table = filling.tables["rows"]

    def before(self, steps: list[Step]) -> m.Ask:
        """A question that the edits can be made to. Raises NotWritten."""
        told = " ".join(f"{s.what} {s.rest}" for s in steps)
        first = steps[0].what
        if first in _COLUMNS_CHANGED or (first == "order" and _of_column(told)):
            return self._listed(steps)
        cat = self._col("cat")
        counted = m.Aggregated("count", table=self.table)
        if first == "drop_condition" and (held := _HELD.fullmatch(steps[0].rest)) is not None:
            # The condition that is dropped must have been there.
            there = "{flag} = yes" if held[0] == "{flag}" else held[0]
            return m.Ask(self.table, self._conditions(there), (counted,))
        if first in ("replace_value", "same_for", "replace_condition", "drop_condition", "shift_time"):
            dated = "{date}" in told or first == "shift_time" or "span(" in told
            value = self._value()
            return m.Ask(self.table, (value, self._year("{year}")) if dated else (value,), (counted,))
        if first.startswith("rows_behind"):
            return m.Ask(self.table, (self._value(),), (counted,))
        if first in ("replace_group", "add_group", "drop_group"):
            other = self._col("cat2") if "{cat}" in told and "{cat2}" not in told else cat
            return m.Ask(self.table, (), (counted,), (other,))
        if first in ("order", "limit", "replace_quantity", "add_quantity"):
            total = m.Aggregated("sum", self._col("measure"))
            return m.Ask(self.table, (), (total,), (cat,), order=(m.Order(total),))
        if first == "as_share" and steps[0].rest == "off":
            return m.Ask(self.table, (), (m.Along(counted, "share"),), (cat,))
        if first in ("as_share", "undo"):
            return m.Ask(self.table, (), (counted,), (cat,))
        if first == "as_change":
            return m.Ask(self.table, (), (counted,), (m.PartOf("month", m.EventTime()),))
        if first == "drop":
            return m.Ask(self.table, (), (counted,), (cat,), order=(m.Order(counted),))
        if first == "add_condition":
            group = self._col("cat2") if "{cat2}" not in told else cat
            return m.Ask(self.table, (), (counted,), (group,))
        raise NotWritten(f"{first} needs another question before")

    def _listed(self, steps: list[Step]) -> m.Ask:
        """Rows listed by name, with the columns that are to be dropped or sorted by, and none that is to be added."""
        held = [s.rest for s in steps if s.what == "drop_column"]
        held += re.findall(r"\{\w+\}", " ".join(s.rest for s in steps if s.what == "order"))
        shows = dict.fromkeys((self._col("name"), *(e for text in held for e in self._groups(text))))
        return m.Ask(self.table, (self._value(),), shows=tuple(shows))

    def after(self, ask: m.Ask, steps: list[Step]) -> m.Ask:
        """The question with the edits made. Raises NotWritten."""
        for step in steps:
            ask = self._edited(ask, step)
        return ask

    def _edited(self, ask: m.Ask, step: Step) -> m.Ask:
        rest = step.rest
        match step.what:
            case "add_condition":
                return ask.but(where=(*ask.where, *self._conditions(rest)))
            case "replace_value":
                column, _, new = rest.partition(" ")
                return self._replaced(ask, column, new)
            case "same_for" if rest == "{value2}":
                return self._replaced(ask, "{cat}", rest)
            case "same_for" if rest == "{year2}":
                return self._replaced(ask, "{date}", f"span({rest})")
            case "replace_condition":
                (instead,) = self._conditions(rest)
                columns = m.columns_in(instead)
                return ask.but(where=(*(c for c in ask.where if m.columns_in(c) != columns), instead))
            case "drop_condition":
                return self._dropped(ask, rest)
            case "shift_time":
                return self._shifted(ask, rest)
            case "replace_group":
                return ask.but(groups=self._groups(rest), order=())
            case "add_group":
                return ask.but(groups=(*ask.groups, *self._groups(rest)))
            case "drop_group":
                return m.Ask(ask.head, ask.where, ask.quantities)
            case "replace_quantity":
                return ask.but(quantities=(self._quantity(rest, ask),), order=())
            case "add_quantity":
                return ask.but(quantities=(*ask.quantities, self._quantity(rest, ask)))
            case "order" if rest in ("quantity desc", "quantity asc"):
                return ask.but(order=(m.Order(ask.quantities[0], rest.endswith("desc")),))
            case "order" if rest == "reversed":
                return ask.but(order=(m.Order(ask.quantities[0], not ask.order[0].descending),))
            case "order" if (sort := _ORDERED_BY.match(f"order {rest}")) is not None:
                tree = wn.parsed(f"Ask(rows=Rows({{rows}}), order={sort[1]} {sort[2] or ''})")
                return ask.but(order=self.meanings.ask(tree).order)
            case "add_column":
                if ask.groups:
                    return ask.but(quantities=(*ask.quantities, self._quantity(rest)))
                return ask.but(shows=(*ask.shows, *(e for e in self._groups(rest) if e not in ask.shows)))
            case "drop_column":
                return ask.but(shows=tuple(e for e in ask.shows if e not in self._groups(rest)))
            case "show" if rest.startswith("["):
                return ask.but(shows=self._groups(rest))
            case "as_change" if rest in ("previous", "previous diff", "year_before", "year_before diff"):
                kind: Literal["change", "year_before"] = "change" if rest.startswith("previous") else "year_before"
                return ask.but(quantities=(m.Along(ask.quantities[0], kind),))
            case "as_share" if rest == "off":
                return ask.but(quantities=tuple(q.quantity if isinstance(q, m.Along) else q for q in ask.quantities))
            case "drop" if rest == "order":
                return ask.but(order=())
            case "undo" if not rest:
                return ask
            case "limit" if rest.isdigit():
                return ask.but(limit=int(rest))
            case "limit" if rest == "none":
                return ask.but(limit=None)
            case "limit" if rest == "{n}":
                return ask.but(limit=int(self.filling.numbers["n"]))
            case "as_share" if not rest:
                return ask.but(quantities=tuple(m.Along(q, "share") for q in ask.quantities))
            case "rows_behind" if not rest:
                return m.Ask(ask.head, ask.where)
            case "rows_behind" if rest.startswith("where "):
                return m.Ask(ask.head, self._conditions(rest.removeprefix("where ")))
            case _:
                raise NotWritten(f"{step.what} {rest} is not told")

    def _col(self, name: str) -> m.Col:
        return m.Col(self.meanings.column(name))

    def _value(self) -> m.Is:
        return m.Is(self.meanings.column("cat"), self.meanings.spelled("cat", wn.Slot("value")))

    def _year(self, slot: str) -> m.Within:
        year = int(self.filling.told(slot))
        return m.Within(m.EventTime(), dt.date(year, 1, 1), dt.date(year, 12, 31))

    def _conditions(self, text: str) -> tuple[m.Condition, ...]:
        tree = wn.parsed(f"Rows({{rows}}, where={text})")
        return self.meanings.rows(tree).where

    def _quantity(self, text: str, before: m.Ask | None = None) -> m.Quantity:
        """A quantity as written; `quantity` in it, and what a plain function is of, are those of the question before."""
        old = before.quantities[0] if before is not None and before.quantities else None
        if isinstance(old, m.Aggregated) and isinstance(old.expr, m.Col):
            same = re.fullmatch(r"same function of (\{\w+\})", text)
            if same is not None:
                return dataclasses.replace(old, expr=self._groups(same[1])[0])
        if old is None or not re.search(r"\bquantity\b", text):
            return self.meanings.quantity(wn.parsed(text), ())
        ratio = re.fullmatch(r"Ratio\(quantity, (.+)\)", text)
        if ratio is not None:
            return m.Combined("/", old, self._quantity(ratio[1]))
        along = wn.parsed(text)
        if isinstance(along, wn.Call) and along.name == "Along":
            return self.meanings.along(old, along.arguments[1])
        raise NotWritten(f"{text} is not told")

    def _groups(self, text: str) -> tuple[m.Expr, ...]:
        tree = wn.parsed(text)
        return tuple(self.meanings.expr(item) for item in self.meanings.items(tree))

    def _replaced(self, ask: m.Ask, column: str, new: str) -> m.Ask:
        if span := _SPAN.match(new):
            time = m.EventTime()
            told = self.meanings.span(time, span[1])
            if isinstance(told, m.PartIs):
                # A month put in place of a year is that month of it.
                return ask.but(where=(*ask.where, told))
            return ask.but(where=(*(c for c in ask.where if not isinstance(c, m.Within)), told))
        names = re.findall(r"\{(value\w*)\}", new)
        if column != "{cat}" or not names or "then" in new:
            raise NotWritten(f"{column} {new} is not told")
        key = self.meanings.column("cat")
        values = tuple(v for name in names for v in self.meanings.spelled("cat", wn.Slot(name)))
        others = tuple(c for c in ask.where if not (isinstance(c, m.Is) and c.column == key))
        return ask.but(where=(*others, m.Is(key, values)))

    def _dropped(self, ask: m.Ask, rest: str) -> m.Ask:
        if _HELD.fullmatch(rest) is not None:
            return ask.but(where=())
        if rest == "all":
            return ask.but(where=())
        if rest == "last":
            return ask.but(where=ask.where[:-1])
        if rest == "{date}":
            return ask.but(where=tuple(c for c in ask.where if not isinstance(c, m.Within)))
        if rest == "{cat}":
            return ask.but(where=tuple(c for c in ask.where if not isinstance(c, m.Is)))
        raise NotWritten(f"no condition on {rest} was there")

    def _shifted(self, ask: m.Ask, rest: str) -> m.Ask:
        count, _, unit = rest.partition(" ")
        old = next((c for c in ask.where if isinstance(c, m.Within)), None)
        if old is None or old.low is None or unit != "year":
            raise NotWritten(f"no {unit} to move")
        low = months_later(old.low, MONTHS_IN[unit] * int(count))
        new = m.Within(old.time, low, months_later(low, 12) - dt.timedelta(days=1))
        return ask.but(where=tuple(new if c == old else c for c in ask.where))
