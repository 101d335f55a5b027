"""What in the data makes a word such as late, unpaid or active true of a row; lexicon/states.txt has the patterns."""

from __future__ import annotations

import datetime as dt
import functools
from collections import defaultdict
from collections.abc import Iterator

from gumption.core.model.catalogue import Column
from gumption.core.model.types import Role, Type
from gumption.core.reading import meaning as m
from gumption.core.reading.derived import PROMISED, filled_below, filled_beside, undecided
from gumption.core.reading.lexicon import State
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.planned import plans
from gumption.core.reading.tokens import stem
from gumption.core.reading.vocabulary import Vocabulary, name_parts, word_stems

_DESCRIBED = 0.25
"""How much less sure a state is that is told by what was said of a column, and not by its name."""
_SIGNS: dict[str, m.Comparison] = {
    "after": ">", "notafter": "<=", "before": "<",
    "over": ">", "nought": "=", "below": "<", "whole": ">=", "part": "<",
    "under": "<", "reach": ">=", "beyond": ">", "level": "=",
}  # fmt: skip
"""How one date is held against another, a number against nought or one, and one number against another."""

_PRICED = frozenset(stem(w) for w in ["price", "cost", "rate"])
_AGAINST_PLANS = ("under", "reach", "beyond")
"""Patterns of a number held against another, which may be a plan and what came of it on the rows below."""
_BRIMS: dict[str, m.Comparison] = {"brimful": ">=", "overbrim": ">", "underbrim": "<"}


class StateFinder:
    """Finds what makes states true in the tables of one vocabulary, as of a day."""

    def __init__(self, vocabulary: Vocabulary, day: dt.date) -> None:
        self.vocabulary, self.day = vocabulary, day
        self._columns: dict[tuple[str, bool], dict[str, list[Column]]] = {}
        self._kinds: dict[str, dict[ColumnKey, dict[tuple[str, ...], list[str]]]] = {}
        self._things = {p for words in vocabulary.tables.values() for p in words.parts}
        self._calling: dict[str, set[str]] = defaultdict(set)
        """The tables that have a word, or the beginning of one, in a column's name or description."""
        self._standing: dict[tuple[str, ...], set[str]] = defaultdict(set)
        """The tables in which a value stands, by its stems."""
        self._unended = {table for table in vocabulary.tables if self._last_of(table) is not None}
        for table in vocabulary.tables:
            for described in (False, True):
                for start in self._called(table, described):
                    self._calling[start].add(table)
            for standing in self._kinds_of(table).values():
                for said in standing:
                    self._standing[said].add(table)
        self._undecided = {t: rest for t in vocabulary.tables if (rest := undecided(vocabulary, t)) is not None}
        self._filling = {
            t: both
            for t in vocabulary.tables
            if (both := filled_beside(vocabulary, t) or filled_below(vocabulary, t)) is not None
        }
        self._come_below = {plan: value for plan, value in plans(vocabulary) if isinstance(value, m.Below)}
        self._order = {table: place for place, table in enumerate(vocabulary.tables)}

    def _may_say(self, pattern: tuple[str, ...]) -> set[str]:
        """The tables that have what a pattern begins with; in most there is nothing of it."""
        kind, *names = pattern[: pattern.index("+")] if "+" in pattern else pattern
        match kind:
            case "unended":
                return self._unended
            case "undecided":
                return set(self._undecided)
            case "brimful" | "overbrim" | "underbrim":
                return set(self._filling)
            case "value":
                return set().union(*(self._standing.get(said, ()) for said in _spoken(names[0])))
            case _:
                called = set().union(*(self._calling.get(first, ()) for first, *_ in _spoken(names[0])))
                return called | ({key.table for key in self._come_below} if kind in _AGAINST_PLANS else set())

    def conditions(self, state: State) -> Iterator[tuple[str, m.Condition, float]]:
        """(table, condition, how sure) for each way in which a table can say the state, the surest pattern first."""
        tables = set().union(*map(self._may_say, state.patterns))
        for table in sorted(tables, key=self._order.__getitem__):
            score = 0.9
            for pattern in state.patterns:
                found = list(self._pattern(table, pattern, described=False))
                less = 0.0 if found else _DESCRIBED
                found = found or list(self._pattern(table, pattern, described=True))
                for condition in found[:2]:
                    yield table, condition, score - less
                if not found:
                    for above, condition in self._held_against_above(table, pattern):
                        yield table, condition, score
                        yield above, m.Has(m.Rows(table, (condition,))), score
                if found:
                    score -= 0.12
                score -= 0.02

    def _pattern(self, table: str, pattern: tuple[str, ...], *, described: bool) -> Iterator[m.Condition]:
        if "+" in pattern:
            place = pattern.index("+")
            for left in self._pattern(table, pattern[:place], described=described):
                for right in self._pattern(table, pattern[place + 1 :], described=described):
                    yield m.All((left, right))
            return
        kind, *names = pattern
        if kind == "undecided":
            if not described and table in self._undecided:
                yield self._undecided[table]
            return
        if kind in _BRIMS:
            if not described and table in self._filling:
                taken, places = self._filling[table]
                yield m.Compared(_BRIMS[kind], taken, places)
            return
        if kind == "unended":
            if not described and (last := self._last_of(table)) is not None:
                key = ColumnKey(table, last.name)
                yield self._begun(_gap(last, key, self.day), key)
            return
        if kind == "value":
            yield from self._values(table, names[0])
            return
        first, *rest = (self._named(table, name, described) for name in names)
        pairs = [(one, two) for one in first for second in rest for two in second if one is not two]
        match kind:
            case "flag" | "no":
                for column in first:
                    if column.type is Type.BOOLEAN:
                        yield m.Is(ColumnKey(table, column.name), (kind == "flag",))
                    elif _is_yes_no(column):
                        yield m.Is(ColumnKey(table, column.name), (int(kind == "flag"),))
            case "filled" | "gap":
                ends = [(c, ColumnKey(table, c.name)) for c in first if c.type.is_time and c.missing]
                if kind == "filled":
                    yield from (_filled(column, key, self.day) for column, key in ends)
                    return
                gaps = [_gap(column, key, self.day) for column, key in ends]
                if len(gaps) > 1:
                    # What can end in several ways goes on where it ended in none: neither sold nor dead.
                    gaps = [m.All(tuple(gaps))]
                yield from (self._begun(gap, ends[0][1]) for gap in gaps)
            case "gaptext" | "filledtext":
                for column in first:
                    if column.type is Type.TEXT and column.missing:
                        gap = m.Missing(ColumnKey(table, column.name))
                        yield gap if kind == "gaptext" else m.Not(gap)
            case "past" | "ahead":
                for column in first:
                    if column.type.is_time:
                        time = m.Col(ColumnKey(table, column.name))
                        held = m.Compared("<" if kind == "past" else ">", time, m.Today(self.day))
                        yield self._begun(held, time.key) if kind == "ahead" else held
            case "over" | "nought" | "below" | "whole" | "part":
                for column in first:
                    lasting = {"days", "weeks", "months", "age"} & {*name_parts(column.name)}
                    bound = {"minimum", "maximum", "reorder", "target"} & {*name_parts(column.name)}
                    if lasting or (bound and not bound & {*names[0].split("|")}):
                        # Days in stock say how long it has been there, and the least stock what is to be there.
                        continue
                    if column.type.is_number and column.role is not Role.IDENTIFIER:
                        number = m.Number(1 if kind in ("whole", "part") else 0)
                        yield m.Compared(_SIGNS[kind], m.Col(ColumnKey(table, column.name)), number)
            case "during":
                for one, two in pairs:
                    if one.type.is_time and two.type.is_time:
                        since, until = (m.Col(ColumnKey(table, c.name)) for c in (one, two))
                        still: m.Condition = m.Within(until, self.day, None)
                        if two.missing:
                            # What has no end yet goes on.
                            still = m.Any((m.Missing(until.key), still))
                        yield m.All((m.Within(since, None, self.day), still))
            case "after" | "notafter" | "before":
                yield from (_held(table, kind, *p) for p in pairs if _tell_time_alike(*p))
            case "under" | "reach" | "beyond" | "level":
                # The cost of a unit is no number of units.
                priced = {c.name for c in first if _PRICED & {*self.vocabulary.columns[ColumnKey(table, c.name)].parts}}
                priced = set() if _PRICED & {stem(w) for said in _spoken(names[0]) for w in said} else priced
                numbers = [p for p in pairs if all(c.type.is_number for c in p) and p[0].name not in priced]
                yield from (_held(table, kind, *p) for p in numbers)
                if not numbers and not described:
                    for planned in (ColumnKey(table, c.name) for second in rest for c in second):
                        if planned in self._come_below:
                            yield m.Compared(_SIGNS[kind], self._come_below[planned], m.Col(planned))

    def _held_against_above(self, table: str, pattern: tuple[str, ...]) -> Iterator[tuple[str, m.Condition]]:
        """When it came stands on the delivery, and when it was due on the order that it belongs to: that, and the condition."""
        kind, *names = pattern
        if kind not in ("after", "notafter", "before") or "+" in pattern:
            return
        for link in self.vocabulary.catalogue.parents(table):
            for one in self._named(table, names[0], False):
                for two in (c for name in names[1:] for c in self._named(link.other, name, False)):
                    if _tell_time_alike(one, two):
                        due = m.Col(ColumnKey(link.other, two.name))
                        yield link.other, m.Compared(_SIGNS[kind], m.Col(ColumnKey(table, one.name)), due)

    def _last_of(self, table: str) -> Column | None:
        """The one date of a table that comes after another on its rows and is not yet there on some."""
        dates = [c for c in self.vocabulary.table(table).columns if c.type.is_time]
        rows = self.vocabulary.table(table).rows
        late = [c for c in dates[1:] if 0 < c.missing < rows]
        begun = late and dates[0].low is not None and late[0].low is not None and dates[0].low[:10] <= late[0].low[:10]
        return late[0] if len(late) == 1 and begun else None

    def _begun(self, gap: m.Condition, key: ColumnKey) -> m.Condition:
        """What has not ended goes on only where it has begun: of some the start is still to come."""
        for column in self.vocabulary.table(key.table).columns:
            words = self.vocabulary.columns[own := ColumnKey(key.table, column.name)]
            if column.type.is_time and _BEGINNING & {*words.full} and own != key and _lies_ahead(column, self.day):
                return m.All((m.Within(m.Col(own), None, self.day), gap))
        return gap

    def _named(self, table: str, names: str, described: bool) -> list[Column]:
        """Columns of a table that are called one of the names, the first name first; or those that are described so too."""
        return self._matching(table, names, False) or (self._matching(table, names, True) if described else [])

    def _matching(self, table: str, names: str, described: bool) -> list[Column]:
        found: dict[str, Column] = {}
        called = self._called(table, described)
        for first, *rest in _spoken(names):
            for column in called.get(first, ()):
                by_then = column.type.is_time and name_parts(column.name)[-1:] == ["by"]
                if by_then and not rest and first not in PROMISED:
                    # By when a job is to be completed says nothing of when it was.
                    continue
                if all(column in called.get(other, ()) for other in rest):
                    found.setdefault(column.name, column)
        return list(found.values())

    def _called(self, table: str, described: bool) -> dict[str, list[Column]]:
        """The columns of a table by each word of their names, or descriptions, and by how long words begin."""
        if (table, described) not in self._columns:
            found = self._columns[table, described] = {}
            for column in self.vocabulary.table(table).columns:
                words = self.vocabulary.columns[ColumnKey(table, column.name)]
                said = words.described if described else words.full
                for start in {part[:end] for part in said for end in (*range(4, len(part)), len(part))}:
                    found.setdefault(start, []).append(column)
        return self._columns[table, described]

    def _values(self, table: str, names: str) -> Iterator[m.Condition]:
        for key, standing in self._kinds_of(table).items():
            if hits := tuple(dict.fromkeys(v for said in _spoken(names) for v in standing.get(said, ()))):
                yield m.Is(key, hits)

    def _kinds_of(self, table: str) -> dict[ColumnKey, dict[tuple[str, ...], list[str]]]:
        """The values of each category of a table by their stems."""
        if table not in self._kinds:
            found = self._kinds[table] = {}
            for column in self.vocabulary.table(table).columns:
                if column.type is Type.TEXT and column.distinct <= 60 and column.role is not Role.TEXT:
                    for value in column.values:
                        standing = found.setdefault(ColumnKey(table, column.name), {})
                        said = word_stems(value)
                        standing.setdefault(said, []).append(value)
                        # Pupil absent says of a pupil that he was absent.
                        bare = tuple(s for s in said if s not in self._things)
                        if len(bare) == 1 < len(said) and bare[0] not in _SAYS_NO:
                            standing.setdefault(bare, []).append(value)
        return self._kinds[table]


_SAYS_NO = frozenset(["no", "not", "non", "never", "without", "new", "old"])


def _held(table: str, kind: str, one: Column, two: Column) -> m.Condition:
    return m.Compared(_SIGNS[kind], *(m.Col(ColumnKey(table, c.name)) for c in (one, two)))


def _lies_ahead(column: Column, day: dt.date) -> bool:
    """True where some of a column's dates are still to come."""
    return column.high is not None and column.high[:10] > day.isoformat()


def _filled(column: Column, key: ColumnKey, day: dt.date) -> m.Condition:
    """It has happened: the date is there, and is not one to come."""
    return m.Within(m.Col(key), None, day) if _lies_ahead(column, day) else m.Not(m.Missing(key))


def _gap(column: Column, key: ColumnKey, day: dt.date) -> m.Condition:
    """It has not happened yet: no date is there, or one to come."""
    missing = m.Missing(key)
    if not _lies_ahead(column, day):
        return missing
    return m.Any((missing, m.Within(m.Col(key), day + dt.timedelta(days=1), None)))


_BEGINNING = frozenset(stem(w) for w in ["start", "starts", "begin", "begins", "opens", "launch", "launched"])


def _is_yes_no(column: Column) -> bool:
    return column.type is Type.INTEGER and column.low == "0" and column.high == "1"


@functools.cache
def _spoken(names: str) -> tuple[tuple[str, ...], ...]:
    """The stems of each of several names."""
    return tuple(tuple(stem(w) for w in name.split("_")) for name in names.split("|"))


def _tell_time_alike(one: Column, other: Column) -> bool:
    """True for two dates, or two times of one day."""
    return (one.type.is_time and other.type.is_time) or one.type is other.type is Type.TIME
