"""What a question is read against: tables, columns, and how tables join."""

from __future__ import annotations

import functools
import re
from collections import Counter
from collections.abc import Callable
from typing import Any, Literal, Self, TypeVar

from pydantic import BaseModel, ConfigDict

from gumption.core.model.names import plain, spaced
from gumption.core.model.types import Role, Type

Known = TypeVar("Known")
MOST_LISTED = 2_000
"""Values that a column may have that lists the columns of other tables."""
_BIRTH = re.compile(r"birth|born|dob\b", re.IGNORECASE)


class Bar(BaseModel):
    """One bar of a column's distribution: a bin or a common value, and its rows."""

    model_config = ConfigDict(frozen=True)

    label: str
    rows: int


class Column(BaseModel):
    """A typed column with what was measured of its values."""

    model_config = ConfigDict(frozen=True)

    name: str
    type: Type
    role: Role
    missing: int = 0
    distinct: int = 0
    low: str | None = None
    """Smallest value as ISO text or digits; None where all is missing."""
    high: str | None = None
    median: float | None = None
    scale: int = 0
    """Digits after the point of a decimal column."""
    unit: str | None = None
    """A currency code such as GBP, or "%"; None where not known."""
    grows_with: str = ""
    """The column of how many there are with which this money grows: it is a total, and no price of one."""
    told_of: tuple[str, ...] = ()
    """The columns that tell apart the things that each have one of these, said again on all of their rows: the building of
    a floor area, the town and the year of a population."""
    lags: tuple[tuple[str, float], ...] = ()
    """The other moments of the row, each with the seconds that lie between them on half of the rows."""
    values: tuple[str, ...] = ()
    """Distinct values of a text column, most common first, up to the intake's limit; the items, where cells hold several."""
    separator: str = ""
    """What stands between the items of cells that hold several, such as "red; blue"; empty where a cell holds one value."""
    bars: tuple[Bar, ...] = ()
    whole: str = ""
    """The date beside it of which it tells the year, the month or the day; empty where it tells no such part."""
    display: str = ""
    description: str = ""
    synonyms: tuple[str, ...] = ()
    aggregate: str | None = None
    """How a person said its values are put together; None leaves it to the role."""
    digits: int | None = None

    @property
    def default_aggregate(self) -> str:
        """How its values are put together when nothing is said."""
        return self.aggregate or ("sum" if self.role.is_summed else "mean")

    def tells_apart(self, rows: int) -> bool:
        """True where each of a table's rows has a value of its own."""
        return 0 < rows == self.distinct and not self.missing and not self.separator

    @property
    def is_signed(self) -> bool:
        """True for numbers on both sides of nought."""
        return float(self.low or 0) < 0 < float(self.high or 0)

    @property
    def is_measure(self) -> bool:
        return self.type.is_number and self.role in (Role.MONEY, Role.QUANTITY, Role.SCORE, Role.PERCENTAGE)


class Choice(BaseModel):
    """A question that a file left open: the other ways to read it."""

    model_config = ConfigDict(frozen=True)

    label: str
    column: str
    order: Literal["day", "month"]


NoteKind = Literal["", "odd characters", "delimiter line", "mixed currencies"]


class Note(BaseModel):
    """One thing found or done when a file was read."""

    model_config = ConfigDict(frozen=True)

    act: str
    key: str = ""
    """Names the act, so that it can be undone; empty where there is nothing to undo."""
    about: NoteKind = ""
    """What was found, where something goes by it."""
    column: str = ""
    detail: str = ""
    rows: int = 0
    examples: tuple[str, ...] = ()
    caution: bool = False
    choices: tuple[Choice, ...] = ()


class _Remembering(BaseModel):
    """A value that remembers what was worked out of it, but not in copies that differ from it."""

    model_config = ConfigDict(frozen=True)

    def __copy__(self) -> Self:
        copied = super().__copy__()
        for name in copied.__dict__.keys() - type(self).model_fields.keys():
            del copied.__dict__[name]
        return copied


class Table(_Remembering):
    """A table of the workspace: its columns in order and its number of rows."""

    name: str
    source: str
    rows: int
    columns: tuple[Column, ...]
    notes: tuple[Note, ...] = ()
    display: str = ""
    description: str = ""
    synonyms: tuple[str, ...] = ()
    time: str | None = None
    naming: str | None = None

    def column(self, name: str) -> Column:
        """The column of that name; KeyError names those that exist."""
        found = self._named.get(name)
        if found is None:
            raise KeyError(f"{self.name} has no column {name}; it has {', '.join(c.name for c in self.columns)}")
        return found

    @functools.cached_property
    def _named(self) -> dict[str, Column]:
        return {column.name: column for column in reversed(self.columns)}

    @functools.cached_property
    def key(self) -> Column | None:
        """The column that tells rows apart, where one does."""
        return next((c for c in self.columns if c.role is Role.IDENTIFIER), None)

    @functools.cached_property
    def naming_column(self) -> Column | None:
        """What a person would call a row by: its name, else its key."""
        if self.naming is not None:
            return self.column(self.naming)
        return next((c for c in self.columns if c.role is Role.NAME), self.key)

    def lists_columns_of(self, other: Table) -> bool:
        """True for a table that names, in one column, most of another's columns: their data dictionary."""
        return any(_are_listed(len(other._plain_names & values), other) for values in self._listed)

    @functools.cached_property
    def _plain_names(self) -> frozenset[str]:
        return frozenset(plain(c.name) for c in self.columns)

    @functools.cached_property
    def _listed(self) -> list[frozenset[str]]:
        """The values of each column that could list names."""
        texts = (c for c in self.columns if c.type is Type.TEXT and 3 <= len(c.values) <= MOST_LISTED)
        return [frozenset(plain(v) for v in c.values) for c in texts]

    @functools.cached_property
    def time_column(self) -> Column | None:
        """The date a question means when it says only when: that of what the rows are called after (when payments were
        paid), else the first with few gaps that is not a birthday."""
        if self.time is not None:
            return self.column(self.time)
        dates = [c for c in self.columns if c.type.is_time]
        called = _WORDS.findall(self.name.lower())[-1:]
        # An appointment is on its own day, whenever it was booked; and so is a visit whose date is called so.
        own = any(_is_of(w, t) for c in dates for w in _WORDS.findall(spaced(c.name).lower()) for t in called)
        return min(
            dates,
            key=lambda c: (
                bool(_BIRTH.search(c.name)),
                (own and _is_booked(c.name)) or any(_is_put_down_for(c, other) for other in dates),
                not (
                    2 * c.missing <= self.rows
                    and any(_are_kin(w, t) for w in _WORDS.findall(spaced(c.name).lower()) for t in called)
                ),
                c.missing > 0.2 * max(self.rows, 1),
            ),
            default=None,
        )


_WORDS = re.compile(r"[a-z]+")
_DONE = {"paid": "payment", "sold": "sale", "bought": "purchase", "lent": "loan", "refunded": "refund"}


def _are_kin(told: str, rows: str) -> bool:
    """True where a column's word says that what a table is called after was done: paid of payments."""
    return told in _DONE and rows in (_DONE[told], f"{_DONE[told]}s")


def _is_booked(name: str) -> bool:
    """True for the name of a day on which something was booked."""
    return bool({"booked", "reserved"} & {*_WORDS.findall(spaced(name).lower())})


_PUT_DOWN = frozenset(["booked", "reserved", "created", "made", "entered", "logged", "recorded", "added", "registered"])
_OF_THE_DAY = frozenset(
    [
        "visit", "dining", "arrival", "arrive", "appointment", "appt", "event", "class", "session", "stay", "travel", "trip", "slot",
        "checkin", "start", "departure", "performance", "show", "lesson", "flight", "tour", "hire", "pickup", "for", "from",
    ]
)  # fmt: skip
_SAYS_NO_MORE = frozenset(["date", "day", "on", "the", "of", "dated", "time", "at", "booking", "in", "check"])


def _is_put_down_for(one: Column, other: Column) -> bool:
    """True for a day on which something was put down for another, which is the day it was about: booked on, for date."""
    said, told = ({*_WORDS.findall(spaced(c.name).lower())} for c in (one, other))
    if not said & _PUT_DOWN or told & _PUT_DOWN or told - _SAYS_NO_MORE - _OF_THE_DAY:
        return False
    return None in (one.low, other.low, one.high, other.high) or (
        str(one.low)[:10] <= str(other.low)[:10] and str(one.high)[:10] <= str(other.high)[:10]
    )


def _is_of(told: str, rows: str) -> bool:
    """True where a column's word is what a table is called after, or short for it: the appt of appointments."""
    letters = iter(rows)
    return len(told) >= 4 and rows[0] == told[0] and all(letter in letters for letter in told)


def _are_listed(named: int, table: Table) -> bool:
    """True where so many of a table's columns are most of them."""
    return named >= max(3, 0.6 * len(table._plain_names))


class Relationship(BaseModel):
    """Rows of `table` point at rows of `other`: many to one, or one to one."""

    model_config = ConfigDict(frozen=True)

    table: str
    column: str
    other: str
    other_column: str
    match_rate: float
    """Share of the rows with a value in `column` that find a partner, 0 to 1."""
    unmatched: int
    one_to_one: bool = False
    also: tuple[tuple[str, str], ...] = ()
    """Further pairs of columns, here and there, that must be equal too."""
    accepted: bool = False
    """True where a person said so."""

    @property
    def pairs(self) -> tuple[tuple[str, str], ...]:
        """Every pair of columns that must be equal, this table's first."""
        return ((self.column, self.other_column), *self.also)


class Catalogue(_Remembering):
    """All tables of a workspace and the relationships between them."""

    tables: tuple[Table, ...] = ()
    relationships: tuple[Relationship, ...] = ()

    @functools.cached_property
    def _kept(self) -> dict[tuple[str, str], Any]:
        return {}

    def once(self, what: str, table: str, work: Callable[[], Known]) -> Known:
        """What others work out of one of its tables, worked out once: it never changes, so that it stays true."""
        if (what, table) not in self._kept:
            self._kept[what, table] = work()
        known: Known = self._kept[what, table]
        return known

    def table(self, name: str) -> Table:
        """The table of that name; KeyError names those that exist."""
        found = self._named.get(name)
        if found is None:
            raise KeyError(f"there is no table {name}; there are {', '.join(t.name for t in self.tables)}")
        return found

    @functools.cached_property
    def _named(self) -> dict[str, Table]:
        return {table.name: table for table in reversed(self.tables)}

    def parents(self, name: str) -> tuple[Relationship, ...]:
        """Relationships by which a row of that table finds at most one row of another."""
        return self._parents.get(name, ())

    @functools.cached_property
    def _parents(self) -> dict[str, tuple[Relationship, ...]]:
        found: dict[str, tuple[Relationship, ...]] = {}
        for relationship in self.relationships:
            found[relationship.table] = (*found.get(relationship.table, ()), relationship)
        return found

    def dictionaries(self) -> frozenset[str]:
        """The tables that list the columns of others, or that spell out the codes that stand in them."""
        having: dict[str, list[Table]] = {}
        for table in self.tables:
            for name in table._plain_names:
                having.setdefault(name, []).append(table)

        def lists(table: Table, values: frozenset[str]) -> bool:
            named = Counter(other.name for value in values for other in having.get(value, ()))
            return any(name != table.name and _are_listed(n, self.table(name)) for name, n in named.items())

        def spells(table: Table) -> bool:
            others = {name for name, tables in having.items() if any(t is not table for t in tables)}
            naming = [values for values in table._listed if 1 < len(values) < table.rows and values <= others]
            return bool(naming) and 3 <= len(table._listed) == len(table.columns) <= 5

        return frozenset(t.name for t in self.tables if spells(t) or any(lists(t, values) for values in t._listed))

    def reach(self) -> dict[str, frozenset[str]]:
        """For every table all those that its rows lead to, itself among them, found in one walk from each."""
        found: dict[str, frozenset[str]] = {}
        for table in self.tables:
            seen, open_ends = {table.name}, [table.name]
            while open_ends:
                new = [r.other for r in self.parents(open_ends.pop()) if r.other not in seen]
                seen.update(new)
                open_ends += new
            found[table.name] = frozenset(seen)
        return found

    def path(self, start: str, goal: str) -> tuple[Relationship, ...] | None:
        """The shortest chain of many-to-one relationships from start to goal; None where there is none."""
        if (start, goal) not in self._paths:
            self._paths[start, goal] = self._walked(start, goal)
        return self._paths[start, goal]

    @functools.cached_property
    def _paths(self) -> dict[tuple[str, str], tuple[Relationship, ...] | None]:
        return {}

    def _walked(self, start: str, goal: str) -> tuple[Relationship, ...] | None:
        frontier: list[tuple[str, tuple[Relationship, ...]]] = [(start, ())]
        seen = {start}
        while frontier:
            at, chain = frontier.pop(0)
            if at == goal:
                return chain
            for relationship in self.parents(at):
                if relationship.other not in seen:
                    seen.add(relationship.other)
                    frontier.append((relationship.other, (*chain, relationship)))
        return None
