"""A column of text while its kind is being found: a sample of its values, and what holds a kind to all of its rows."""

from __future__ import annotations

import itertools
import re
from collections import Counter
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace

import duckdb
import pyarrow as pa

from gumption.core.model.catalogue import Note
from gumption.core.model.files import DateOrder
from gumption.core.model.types import Type
from gumption.intake.missing import MISSING_WORDS, TYPED_MISSING
from gumption.intake.numbers import looks_numeric
from gumption.intake.sql import literal, quoted

AT_MOST_BAD = 0.02
"""The share of a column's values that may not fit its kind before it stays text."""
_AT_MOST_IMPOSSIBLE = 0.1
"""The same for values of the right shape, such as a 31st of February."""
_FIRST, _DIFFERENT = 30_000, 1500
"""Rows from the beginning, and different values among them and others, that a sample has."""
_MOST_CELLS = 3_000_000
"""Cells of a table up to which the values of its columns are counted all at once."""
_BARE = re.compile(r"-?[0-9]{1,15}(?:\.[0-9]{1,15})?")
"""Numbers of which no reader can think otherwise."""


@dataclass(frozen=True)
class Context:
    """What is known of a column before its cells are looked at: by the file, by other columns, by the person."""

    decimal_comma: bool = False
    order: DateOrder | None = None
    """Which comes first in the file's other dates in digits, where that is plain."""
    orders: Mapping[str, DateOrder] = field(default_factory=dict)
    types: Mapping[str, Type] = field(default_factory=dict)
    declined: frozenset[str] = frozenset()


@dataclass(frozen=True)
class Kind:
    """What a column of text is, and the SQL that turns its trimmed text into values."""

    type: Type
    sql: str
    scale: int = 0
    unit: str | None = None
    strip: tuple[str, ...] = ()
    thousands: str = ""
    decimal_comma: bool = False
    date_format: str | None = None
    booleans: tuple[tuple[str, bool], ...] = ()
    bad: int = 0
    order: DateOrder | None = None
    """Which comes first, for a column of dates in digits that says so itself."""
    undecided: bool = False
    simple: bool = True
    """False where reading the cells takes more than the fields here tell."""
    notes: tuple[Note, ...] = field(default=())
    currency: str | None = None
    """SQL for the currency of each row, where a column mixes several."""


def cleaned(cell: str, words: tuple[str, ...] = MISSING_WORDS) -> str:
    """SQL for a cell's text, null where it says missing. Cells are trimmed already."""
    return f"(CASE WHEN {quoted(cell)} IN ({', '.join(map(literal, words))}) THEN NULL ELSE {quoted(cell)} END)"


Values = Mapping[str, int]
"""The different values of a column, each with its rows, the commonest first."""


def values_of(connection: duckdb.DuckDBPyConnection, table: str, cells: list[str]) -> dict[str, Values]:
    """The values of those columns of a table of few rows that have few of them."""
    ((size,),) = connection.execute(f"SELECT count(*) FROM {table}").fetchall()
    if size > _FIRST or size * len(cells) > _MOST_CELLS:
        return {}
    found = connection.sql(f"SELECT {', '.join(map(quoted, cells))} FROM {table}").to_arrow_table()
    known: dict[str, Values] = {}
    for cell in cells:
        rows = Counter(found.column(cell).to_pylist())
        del rows[None]
        if len(rows) < _DIFFERENT:
            known[cell] = dict(sorted(rows.items(), key=lambda value: (-value[1], value[0])))
    return known


_BRACKETED = re.compile(r"\[[A-Za-z]{1,4}\]")
"""What official figures write for a number that is not told, however few numbers stand beside it."""


def marks_among(sample: dict[str, int]) -> frozenset[str]:
    """The few marks that stand among many different numbers for those that are not told, such as c or [x]."""
    filled = {v: n for v, n in sample.items() if v.lower() not in TYPED_MISSING}
    numbers = {v: n for v, n in filled.items() if looks_numeric(v)}
    others = [v for v in filled if v not in numbers]
    bracketed = all(_BRACKETED.fullmatch(v.strip()) for v in others)
    if not 0 < len(others) <= _MOST_MARKS or len(numbers) < (2 if bracketed else _FEWEST_NUMBERS):
        return frozenset()
    if 2 * sum(numbers.values()) < sum(filled.values()) or not all(_MARK.fullmatch(v.strip()) for v in others):
        return frozenset()
    return frozenset(v.lower() for v in others)


_MARK = re.compile(
    r"\[?[a-z]{1,3}\]?|[-–—.:*~#^†‡]+|[<≤]\s?\d{1,2}|suppressed|confidential|withheld|not shown|unreliable|low|nil",
    re.I,
)
"""What statistics write in place of a number that is not told."""
_MOST_MARKS, _FEWEST_NUMBERS = 5, 40


class Column:
    """A column of a table of text, with its name and a sample of its values."""

    def __init__(
        self,
        connection: duckdb.DuckDBPyConnection,
        table: str,
        cell: str,
        name: str,
        context: Context,
        values: Values | None,
    ) -> None:
        self.connection, self.table, self.cell, self.name, self.context = connection, table, cell, name, context
        raw, self.whole = (values, True) if values is not None else self._sampled()
        words = MISSING_WORDS
        if self._codes_of_two(raw):
            words = tuple(w for w in words if w != "NA")
        self.words = words
        # Where all values are known and none says missing, each row is asked for nothing but a blank.
        silent = values is not None and values.keys().isdisjoint(words)
        self.text = cleaned(cell, ("",) if silent else words)
        self.sample = {v: int(n) for v, n in raw.items() if v not in words}
        self.notes: list[Note] = []
        if words is not MISSING_WORDS and "NA" in raw:
            self.notes.append(self.note("missing", f"{name}: “NA” is kept, as a code among codes"))
        self.missing_words = TYPED_MISSING | marks_among(self.sample)
        self.typed = {v: n for v, n in self.sample.items() if v.lower() not in self.missing_words}
        """Values that say something whatever the column's type is."""
        self.rows = sum(self.typed.values())
        self.bare = self.whole and bool(self.typed) and all(map(_BARE.fullmatch, self.typed))

    def _sampled(self) -> tuple[Values, bool]:
        """Values from the beginning and from all over the column, and whether they are all that there are."""
        c, table = quoted(self.cell), self.table
        row = self.connection.execute(f"SELECT count(*) FROM {table}").fetchone()
        further = ""
        if row and row[0] > _FIRST:
            further = f"UNION ALL SELECT {c}, 1 FROM (SELECT {c} FROM {table} USING SAMPLE reservoir(20000 ROWS) REPEATABLE (7))"
        raw: dict[str, int] = dict(
            self.connection.execute(
                f"SELECT v, sum(n) FROM (SELECT {c} AS v, 1 AS n FROM (SELECT {c} FROM {table} LIMIT {_FIRST}) "
                f"{further}) "
                f"WHERE v IS NOT NULL GROUP BY v ORDER BY sum(n) DESC, v LIMIT {_DIFFERENT}"
            ).fetchall()
        )
        return raw, not further and len(raw) < _DIFFERENT

    @staticmethod
    def _codes_of_two(values: Mapping[str, int]) -> bool:
        """True where NA stands among other codes of two capitals, as Namibia does among countries."""
        codes = [v for v in values if re.fullmatch(r"[A-Z]{2}", v)]
        return (
            "NA" in values
            and len(codes) >= 4
            and len(codes) >= 0.8 * len([v for v in values if v not in MISSING_WORDS])
        )

    def note(self, what: str, act: str, **more: object) -> Note:
        return Note(act=act, key=f"{what}:{self.name}", column=self.name, **more)  # type: ignore[arg-type]

    def rows_of(self, values: list[str]) -> int:
        """How many rows hold those values; nought where only a sample is known."""
        return sum(self.sample[v] for v in values) if self.whole else 0

    def declined(self, what: str) -> bool:
        return f"{what}:{self.name}" in self.context.declined

    # -- holding a kind to the rows ----------------------------------------------------------

    def share(self, fits: Callable[[str], bool]) -> float:
        """The share of the sample's rows that fit; nought where none of the commonest sixty values does."""
        if not any(fits(v) for v in itertools.islice(self.typed, 60)):
            return 0.0
        return sum(n for v, n in self.typed.items() if fits(v)) / self.rows

    def _filled(self) -> str:
        """SQL for how many rows say something."""
        if self.whole:
            return str(self.rows)
        words = ", ".join(map(literal, sorted(self.missing_words)))
        return f"count(CASE WHEN lower({self.text}) NOT IN ({words}) THEN 1 END)"

    def count(self, *expressions: str) -> list[int]:
        row = self.connection.execute(
            f"SELECT {self._filled()}, {', '.join(f'count({e})' for e in expressions)} FROM {self.table}"
        ).fetchone()
        assert row is not None
        return [int(n) for n in row]

    def held(self, kind: Kind, filled: int, fits: int, shaped: Callable[[str], bool]) -> Kind | None:
        """The kind with a note on what does not fit it; None where too much does not."""
        bad = filled - fits
        if filled == 0 or fits == 0:
            return None
        if bad == 0:
            return replace(kind, bad=0)
        words = ", ".join(map(literal, sorted(self.missing_words)))
        wrong = self.connection.execute(
            f"SELECT v, count(*) FROM (SELECT {self.text} AS v, {kind.sql} AS k FROM {self.table}) "
            f"WHERE v IS NOT NULL AND k IS NULL AND lower(v) NOT IN ({words}) GROUP BY v ORDER BY count(*) DESC, v LIMIT 2000"
        ).fetchall()
        strange = sum(int(n) for v, n in wrong if not shaped(v))
        if strange > max(AT_MOST_BAD * filled, 1 if filled >= 8 else 0):
            return None
        if bad - strange > max(_AT_MOST_IMPOSSIBLE * filled, 1 if filled >= 4 else 0):
            return None
        if kind.type is Type.INTEGER and any(
            re.fullmatch(r"[A-Za-z]{0,4}[-/]?\d+[-/]?[A-Za-z]{0,3}\d*", v) and re.search("[A-Za-z]", v)
            for v, _ in wrong
        ):
            return None
        noun = (
            "dates"
            if kind.type.is_time
            else "numbers"
            if kind.type.is_number
            else "times"
            if kind.type is Type.TIME
            else "yes or no"
        )
        examples = tuple(str(v) for v, _ in wrong[:3])
        verb, no = ("value is", "no " + noun.removesuffix("s")) if bad == 1 else ("values are", "no " + noun)
        if kind.type is Type.BOOLEAN:
            no = "neither yes nor no"
        note = self.note(
            "type",
            f"{bad:,} {self.name} {verb} {no}, such as “{examples[0]}”",
            detail="kept as missing",
            rows=bad,
            examples=examples,
            caution=True,
        )
        return replace(kind, bad=bad, notes=(*kind.notes, note))

    def with_missing_words(self, kind: Kind) -> Kind:
        """Say which words were taken as missing only because the others are values of another type."""
        used = {v: n for v, n in self.sample.items() if v.lower() in self.missing_words}
        if not used:
            return kind
        words = ", ".join(f"“{w}”" for w in list(used)[:3])
        note = self.note(
            "type", f"{self.name}: {words} read as missing", rows=self.rows_with(list(used)), examples=tuple(used)[:3]
        )
        return replace(kind, notes=(*kind.notes, note), simple=False)

    def rows_with(self, values: list[str]) -> int:
        """How many rows hold one of those values, as it is written."""
        if self.whole:
            return sum(self.sample.get(v, 0) for v in values)
        written = ", ".join(map(literal, values))
        row = self.connection.execute(
            f"SELECT count(*) FROM {self.table} WHERE {quoted(self.cell)} IN ({written})"
        ).fetchone()
        return int(row[0]) if row else 0

    def put(self, name: str, rows: pa.Table) -> None:
        self.connection.register("arriving", rows)
        self.connection.execute(f"CREATE OR REPLACE TABLE {name} AS SELECT * FROM arriving")
        self.connection.unregister("arriving")

    def plain(self) -> Kind:
        return Kind(Type.TEXT, self.text, notes=tuple(self.notes), simple=self.words is MISSING_WORDS)
