"""What stands in the slots of a wording: names, values, numbers and dates of the tables of a workspace."""

from __future__ import annotations

import datetime as dt
import itertools
import random
import re

from gumption.core.model.catalogue import Column, Table
from gumption.core.model.types import Role, Type
from gumption.core.plan.words import MONTH_NAMES, spoken
from gumption.core.reading import meaning as m
from gumption.core.reading.derived import PROMISED
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.schema import Nouns
from gumption.core.reading.tokens import stem
from tools.bench.wordings_meanings import SLOT, Filling

_UNITS = {"GBP": "pounds", "EUR": "euros", "USD": "dollars", "min": "minutes"}
_OF_RELATED = re.compile(
    r"Rows\(\{related\}, where=(?:[^()]|\([^()]*\))*\)|[A-Z][a-z]+\(\{\w+\}, Rows\(\{related\}(?:, [^()]*)?\)\)"
)
"""What is said of the rows beside: what holds of them, and what is worked out of a column of theirs."""
_ASKED_FOR = re.compile(r"Ask\(rows=Rows\(\{related\}")
_ABOVE = re.compile(r"(?:has\w*\([^()]*|of=)Rows\(\{rows\}(?:, where=(?:[^()]|\([^()]*\))*)?\)")
_HELD_TO = re.compile(
    r"\{end\} [<>]=? \{date\}|\{end\} missing and \{date\} <|\{date\} < [^)]*\{end\} missing|duration\(\{date\}, \{end\}"
)
"""What came held against when it was promised."""
_SAYS_NAME = re.compile(r"\{name\} (contains|starts|ends)")
_NAMED = re.compile(r"\{(name|row|related_one)\} !?= \{value\}")


def _slots_below(means: str) -> set[str]:
    """The slots of a meaning that stand for columns of the rows beside."""
    below = set(SLOT.findall(" ".join(_OF_RELATED.findall(means))))
    left = _OF_RELATED.sub("", means)
    if _ASKED_FOR.search(means):
        # The rows beside are what is listed, but for what is said of those that they belong to.
        return (set(SLOT.findall(means)) - set(SLOT.findall(" ".join(_ABOVE.findall(means))))) | below
    return below - set(SLOT.findall(left))


def pluralised(words: str) -> str:
    if re.search(r"[^aeiou]y$", words):
        return words[:-1] + "ies"
    if re.search(r"(s|x|z|ch|sh)$", words):
        return words + "es"
    return words + "s"


def singular(words: str) -> str:
    if words.endswith("ies"):
        return words[:-3] + "y"
    if re.search(r"(x|ch|sh|ss)es$", words):
        return words[:-2]
    return words[:-1] if words.endswith("s") and not words.endswith("ss") else words


class Filler:
    """Fills slots from one table and those beside it."""

    def __init__(self, nouns: Nouns, table: str, day: dt.date) -> None:
        self.nouns, self.catalogue, self.day = nouns, nouns.catalogue, day
        self.table = nouns.catalogue.table(table)

    def filled(self, say: str, means: str, chance: random.Random) -> Filling | None:
        """A filling of a wording's slots and of those of its meanings; None where the tables have nothing for one of them."""
        spoken_slots, slots = set(SLOT.findall(say)), set(SLOT.findall(say + means))
        found, table = Filling(), self.table
        own = [self._key(table, c) for c in table.columns]
        found.tables["rows"] = table.name
        self._noun(found, "rows", "row", table)
        below: set[str] = set()
        if "related" in slots or "related_one" in slots:
            others = self._related(means)
            if not others:
                return None
            related = self.catalogue.table(chance.choice(others))
            found.tables["related"] = found.tables["related_one"] = related.name
            self._noun(found, "related", "related_one", related)
            below = _slots_below(means)
            own += [self._key(related, c) for c in related.columns]
        naming = table.naming_column
        if naming is not None and (naming.type is Type.TEXT or not _SAYS_NAME.search(means)):
            self._column(found, "name", self._key(table, naming))
        kinds = (
            (("measure", "measure2"), [k for k in own if self._summed(k)]),
            (("score",), [k for k in own if self._scored(k)]),
            (("cat", "cat2"), [k for k in own if self._category(k)]),
            (("flag",), [k for k in own if self._flag(k)]),
            (("date",), self._times(own, slots, spoken_slots, by_hour="hour(" in means, below="date" in below)),
        )
        for names, keys in kinds:
            wanted = [
                n
                for n in names
                if n in slots
                or n + "s" in slots
                or (n == "cat" and any(s.startswith("value") for s in slots))
                or (n == "cat2" and ("value_b" in slots or "cats2" in slots))
            ]
            if set(wanted) & below:
                # What holds of the rows beside is told by their own columns.
                near = [k for k in keys if k.table == found.tables["related"]]
                pool = near
            else:
                near = [k for k in keys if k.table == table.name]
                pool = near if len(near) >= len(wanted) else keys
            if "measure" in wanted and "measure" not in spoken_slots:
                # A measure that nobody names is the table's own.
                main = self.nouns.main_measure(found.tables["related"] if "measure" in below else table.name)
                pool = [k for k in pool if m.Col(k) == main]
            if len(pool) < len(wanted):
                return None
            for name, key in zip(wanted, chance.sample(pool, len(wanted)), strict=True):
                self._column(found, name, key)
        if slots & {"start", "end"} and not self._two_times(found, table, said=bool(spoken_slots & {"start", "end"})):
            return None
        if _HELD_TO.search(means) and not spoken_slots & {"date", "start", "end"} and not self._promised(found, table):
            return None
        self._values(found, chance)
        if (of_rows := _NAMED.search(means)) is not None and not self._named(found, of_rows[1], chance):
            return None
        self._numbers(found, slots, chance)
        return found if slots <= set(found.said) else None

    def _related(self, means: str) -> list[str]:
        """The tables beside that a meaning can be of: those below, where it is about what there is or is none of."""
        below = self.nouns.children(self.table.name)
        above = [r.other for r in self.catalogue.parents(self.table.name)]
        if re.search(r"\bhas\w*\(|Count\(Rows\(\{related", means):
            return below
        if re.search(r"(by|per)=\[?\{related_one", means):
            return above
        return below or above

    @staticmethod
    def _key(table: Table, column: Column) -> ColumnKey:
        return ColumnKey(table.name, column.name)

    def _of(self, key: ColumnKey) -> Column:
        return self.catalogue.table(key.table).column(key.column)

    @staticmethod
    def _noun(found: Filling, many: str, one: str, table: Table) -> None:
        words = (table.display or spoken(table.name)).lower()
        found.said[many], found.said[one] = (
            (words, singular(words)) if singular(words) != words else (pluralised(words), words)
        )

    def _column(self, found: Filling, name: str, key: ColumnKey) -> None:
        column = self._of(key)
        words = (column.display or spoken(column.name)).lower()
        found.columns[name], found.said[name] = key, words
        if name.startswith("cat"):
            found.said[{"cat": "cats", "cat2": "cats2"}[name]] = pluralised(words)

    def _plain(self, key: ColumnKey) -> bool:
        """True for a name of whole words: an abbreviation would test other things."""
        return all(len(w) > 2 for w in spoken(key.column).split())

    def _summed(self, key: ColumnKey) -> bool:
        column = self._of(key)
        return column.is_measure and column.default_aggregate == "sum" and self._plain(key)

    def _scored(self, key: ColumnKey) -> bool:
        column = self._of(key)
        return column.is_measure and column.default_aggregate == "mean" and self._plain(key)

    def _category(self, key: ColumnKey) -> bool:
        column, table = self._of(key), self.catalogue.table(key.table)
        if column.type is not Type.TEXT or not self._plain(key) or not column.values:
            return False
        if any(r.table == table.name and r.column == column.name for r in self.catalogue.relationships):
            # A code that points at another table is asked about by the name that stands there.
            return False
        return 3 <= column.distinct <= 60 and column is not table.key and column.role is not Role.IDENTIFIER

    def _flag(self, key: ColumnKey) -> bool:
        return self._of(key).type is Type.BOOLEAN and self._plain(key)

    def _time(self, key: ColumnKey) -> bool:
        return self._of(key).type.is_time and self._of(key).low is not None

    def _times(
        self, own: list[ColumnKey], slots: set[str], spoken_slots: set[str], *, by_hour: bool, below: bool
    ) -> list[ColumnKey]:
        """The dates of a slot: any that is said, else the one that rows happened on; with a time of day `by_hour`."""
        usual = self.table.time_column
        if by_hour:
            return [k for k in own if self._of(k).type is Type.TIMESTAMP]
        beside = {k.table for k in own} - {self.table.name}
        if below and "date" not in spoken_slots:
            usual_beside = {t: self.catalogue.table(t).time_column for t in beside}
            return [ColumnKey(t, column.name) for t, column in usual_beside.items() if column is not None]
        if "date" in spoken_slots or usual is None:
            return [k for k in own if self._time(k)]
        # A date that nobody names is the one on which the rows happened.
        return [self._key(self.table, usual)]

    def _two_times(self, found: Filling, table: Table, *, said: bool) -> bool:
        """When rows began and ended: any two dates that are said, else the ones that are meant where nobody says which."""
        times = [c for c in table.columns if c.type.is_time and c.low is not None]
        pairs = [
            (one, other)
            for one, other in itertools.permutations(times, 2)
            if one.type is other.type and str(one.low) <= str(other.low) and str(one.high) <= str(other.high)
        ]
        if not said and table.time_column is not None:
            pairs = [(one, other) for one, other in pairs if one == table.time_column]
            pairs.sort(key=lambda pair: not pair[1].missing)
        for start, end in pairs[:1]:
            for name, column in (("start", start), ("end", end)):
                self._column(found, name, self._key(table, column))
        return bool(pairs)

    def _promised(self, found: Filling, table: Table) -> bool:
        """The day that was promised, and the one on which it came: what nobody names in asking what is late."""
        times = [c for c in table.columns if c.type.is_time and c.low is not None]
        due = next((c for c in times if PROMISED & {*map(stem, spoken(c.name).lower().split())}), None)
        came = next((c for c in times if c.missing and c != due), None)
        if due is None or came is None or due.type is not came.type:
            return False
        for name, column in (("date", due), ("end", came)):
            self._column(found, name, self._key(table, column))
        return True

    def _values(self, found: Filling, chance: random.Random) -> None:
        for slot, names in (("cat", ("value", "value2", "value3")), ("cat2", ("value_b",))):
            if slot not in found.columns:
                continue
            usual = [v for v in self._of(found.columns[slot]).values[:8] if v.strip()]
            if len(usual) < len(names):
                continue
            for name, value in zip(names, chance.sample(usual, len(names)), strict=True):
                found.said[name], found.values[name] = value, value

    def _named(self, found: Filling, what: str, chance: random.Random) -> bool:
        """A value that is the name of one of the rows."""
        table = found.tables["related"] if what == "related_one" else found.tables["rows"]
        naming = self.nouns.naming(table)
        values = self._of(naming.key).values if isinstance(naming, m.Col) else ()
        if not values:
            return False
        found.said["value"] = found.values["value"] = chance.choice(values[:20])
        return True

    def _numbers(self, found: Filling, slots: set[str], chance: random.Random) -> None:
        n = chance.choice((3, 4, 5))
        found.numbers["n"], found.said["n"] = n, str(n)
        key = found.columns.get("measure") or found.columns.get("score")
        column = self._of(key) if key is not None else None
        middle = column.median if column is not None and column.median is not None else 20.0
        scale = chance.choice((0.6, 1.0, 1.4, 4, 30, 300))
        first = self._round(middle * scale)
        second = self._round(middle * scale * 1.8)
        for name, value in (("num", first), ("num2", max(second, first + 1))):
            found.numbers[name], found.said[name] = value, f"{value:g}"
        if column is not None and column.unit is not None:
            found.said["unit"] = _UNITS.get(column.unit, column.unit)
        time = found.columns.get("date") or found.columns.get("start")
        if time is None and slots & {"year", "year2", "month", "day", "date"}:
            times = [c for c in self.table.columns if c.type.is_time and c.low is not None]
            time = self._key(self.table, times[0]) if times else None
        if time is not None:
            low, high = (dt.date.fromisoformat(str(x)[:10]) for x in (self._of(time).low, self._of(time).high))
            last = min(high, self.day)
            day = low + dt.timedelta(days=chance.randrange(max((last - low).days, 1)))
            year = max(last.year - chance.choice((1, 1, 2)), low.year)
            found.said |= {
                "year": str(year),
                "year2": str(min(year + 1, last.year)),
                "month": MONTH_NAMES[day.month - 1],
                "day": f"{day.day} {MONTH_NAMES[day.month - 1]} {day.year}",
            }
            found.numbers |= {"year": year, "year2": year + 1}

    @staticmethod
    def _round(value: float) -> float:
        if value < 1:
            return round(value, 2)
        digits = len(str(int(value)))
        return float(round(value, -(digits - 1)) or 1)
