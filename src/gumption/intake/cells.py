"""From text to typed values: the kind of a column is decided by the whole column, never row by row."""

from __future__ import annotations

import datetime as dt
import itertools
import re
from collections import Counter
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import NamedTuple

import duckdb
import pyarrow as pa

from gumption.core.model.catalogue import Choice, Note
from gumption.core.model.files import DateOrder
from gumption.core.model.types import Type
from gumption.intake.moments import (
    WHOLE_MONTHS,
    mixes_units,
    read_duration,
    read_moment,
    read_time,
    styles_of,
)
from gumption.intake.numbers import THOUSANDS, NumberStyle, currency_codes, is_code, looks_numeric, number_styles
from gumption.intake.sql import literal, quoted

ERROR_CELLS = (
    "#N/A",
    "#DIV/0!",
    "#REF!",
    "#VALUE!",
    "#NAME?",
    "#NUM!",
    "#NULL!",
    "#N/V",
    "#SPILL!",
    "#CALC!",
    "Err:502",
)
MISSING_WORDS: tuple[str, ...] = (
    *("", "NA", "N/A", "n/a", "N.A.", "n.a.", "NULL", "null", "Null", "NaN", "nan", "NAN", "<NA>", "\\N"),
    *("-", "--", "---", "–", "—", "(blank)", "(null)", "(empty)", "NaT", "#NA"),
    *ERROR_CELLS,
)
"""What says missing in a column of any type."""
TYPED_MISSING = frozenset(
    [
        "none",
        "unknown",
        "unk",
        "tbc",
        "tbd",
        "tba",
        "n/k",
        "nk",
        "n.k.",
        "n/d",
        "nd",
        "n.d.",
        "k.a.",
        "nil",
        "missing",
        "pending",
        "blank",
        "empty",
        "void",
        "null",
        "na",
        "n/a",
        "x",
        ".",
        "..",
        "...",
        ":",
        "*",
        "**",
        "?",
        "??",
        "???",
        "not_available",
        "unavailable",
        "#",
    ]
) | {
    "not available",
    "not recorded",
    "not known",
    "not applicable",
    "not stated",
    "no data",
    "not measured",
    "keine angabe",
    "s/o",
    "- -",
}
"""What says missing among numbers, dates and the like, but may be a value among words."""
_YES = {"yes", "y", "true", "t", "ja", "oui", "sí", "si", "on", "wahr", "vrai", "verdadero", "✓", "✔", "checked"}
_NO = {"no", "n", "false", "f", "nein", "non", "off", "falsch", "faux", "falso", "✗", "✘", "unchecked"}
_LONE_LETTERS = ({"y", "n"}, {"t", "f"})
_MARK = re.compile(
    r"\[?[a-z]{1,3}\]?|[-–—.:*~#^†‡]+|[<≤]\s?\d{1,2}|suppressed|confidential|withheld|not shown|unreliable|low|nil",
    re.I,
)
"""What statistics write in place of a number that is not told."""
_MOST_MARKS, _FEWEST_NUMBERS = 5, 40
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
_MAPPED = 400_000
"""Distinct values up to which dates of odd shapes are read one by one."""
_DATE_NAME = re.compile(
    r"date|datum|fecha|dob|birth|born|(^|[_ ])(on|at|day|due|since|until|opened|closed|when)$", re.I
)
_MOMENT_NAME = re.compile(r"time|stamp|epoch|_at$|^ts$|_ts$|created|updated|date", re.I)
_DURATION_NAME = re.compile(r"durat|elaps|length|took|runtime|(^|[_ ])lap|wait|taken|dauer|spent|worked|hours", re.I)
_SENTINELS = (9999, 99999, 999999, 999, 99, -1, -9, -99, -999, -9999, 9999999)


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


def kind_of(
    connection: duckdb.DuckDBPyConnection,
    table: str,
    cell: str,
    name: str = "",
    context: Context | None = None,
    values: Values | None = None,
) -> Kind:
    """The kind that the whole column fits, tried on a sample first and then counted on every row.

    `values` are all that stand in the column, where they are known; what is found then holds for no other rows.
    """
    return _Column(connection, table, cell, name, context or Context(), values).kind()


_BRACKETED = re.compile(r"\[[A-Za-z]{1,4}\]")
"""What official figures write for a number that is not told, however few numbers stand beside it."""


def _marks(sample: dict[str, int]) -> frozenset[str]:
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


class _Shape(NamedTuple):
    """How the numbers of a column are written, in digits with a point."""

    scale: int
    """The most digits behind the point."""
    whole: bool
    width: int
    """The most characters."""
    exponent: bool
    pointed: bool
    most: float


class _Column:
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
            self.notes.append(self._note("missing", f"{name}: “NA” is kept, as a code among codes"))

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

    def _note(self, what: str, act: str, **more: object) -> Note:
        return Note(act=act, key=f"{what}:{self.name}", column=self.name, **more)  # type: ignore[arg-type]

    def _rows_of(self, values: list[str]) -> int:
        """How many rows hold those values; nought where only a sample is known."""
        return sum(self.sample[v] for v in values) if self.whole else 0

    def _declined(self, what: str) -> bool:
        return f"{what}:{self.name}" in self.context.declined

    def plain(self) -> Kind:
        return Kind(Type.TEXT, self.text, notes=tuple(self.notes), simple=self.words is MISSING_WORDS)

    def kind(self) -> Kind:
        forced = self.context.types.get(self.name)
        if not self.sample or self._declined("type") or forced is Type.TEXT:
            return self.plain()
        if (marked := self._marks()) is not None:
            return marked
        self.missing_words = TYPED_MISSING | _marks(self.sample)
        self.typed = {v: n for v, n in self.sample.items() if v.lower() not in self.missing_words}
        self.rows = sum(self.typed.values())
        self.bare = self.whole and all(map(_BARE.fullmatch, self.typed))
        if not self.typed:
            return self.plain()
        for found in self._candidates(forced):
            if found is not None:
                return replace(found, notes=(*self.notes, *found.notes))
        return self.plain()

    def _candidates(self, forced: Type | None) -> list[Kind | None]:
        """Kinds in the order in which they are believed; each is already held to every row."""
        ways: list[tuple[tuple[Type, ...], Callable[[], Kind | None]]] = [
            ((Type.BOOLEAN,), self._boolean),
            ((Type.DATE, Type.TIMESTAMP), self._moment),
            ((Type.TIME, Type.DURATION), self._clock),
            ((Type.INTEGER, Type.DECIMAL, Type.FLOAT, Type.DATE, Type.TIMESTAMP), self._number),
        ]
        found: list[Kind | None] = []
        for types, way in ways:
            if forced is None or forced in types:
                kind = way()
                if kind is not None:
                    return [self._as(kind, forced)]
                found.append(None)
        return found

    def _as(self, kind: Kind, forced: Type | None) -> Kind:
        """The kind as the type a person chose, where values allow it."""
        if forced is None or kind.type is forced:
            return kind
        match forced:
            case Type.INTEGER | Type.FLOAT if kind.type.is_number:
                sql = f"CAST({kind.sql} AS {'BIGINT' if forced is Type.INTEGER else 'DOUBLE'})"
                return replace(kind, type=forced, sql=sql, scale=0, simple=False)
            case Type.DATE if kind.type is Type.TIMESTAMP:
                return replace(kind, type=forced, sql=f"CAST({kind.sql} AS DATE)", simple=False)
            case Type.TIMESTAMP if kind.type is Type.DATE:
                return replace(kind, type=forced, sql=f"CAST({kind.sql} AS TIMESTAMP)", simple=False)
            case _:
                return kind

    # -- holding a kind to the rows ----------------------------------------------------------

    def _share(self, fits: Callable[[str], bool]) -> float:
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

    def _count(self, *expressions: str) -> list[int]:
        row = self.connection.execute(
            f"SELECT {self._filled()}, {', '.join(f'count({e})' for e in expressions)} FROM {self.table}"
        ).fetchone()
        assert row is not None
        return [int(n) for n in row]

    def _held(self, kind: Kind, filled: int, fits: int, shaped: Callable[[str], bool]) -> Kind | None:
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
        note = self._note(
            "type",
            f"{bad:,} {self.name} {verb} {no}, such as “{examples[0]}”",
            detail="kept as missing",
            rows=bad,
            examples=examples,
            caution=True,
        )
        return replace(kind, bad=bad, notes=(*kind.notes, note))

    def _missing_words_note(self, kind: Kind) -> Kind:
        """Say which words were taken as missing only because the others are values of another type."""
        used = {v: n for v, n in self.sample.items() if v.lower() in self.missing_words}
        if not used:
            return kind
        words = ", ".join(f"“{w}”" for w in list(used)[:3])
        note = self._note(
            "type", f"{self.name}: {words} read as missing", rows=self._rows_with(list(used)), examples=tuple(used)[:3]
        )
        return replace(kind, notes=(*kind.notes, note), simple=False)

    def _rows_with(self, values: list[str]) -> int:
        """How many rows hold one of those values, as it is written."""
        if self.whole:
            return sum(self.sample.get(v, 0) for v in values)
        written = ", ".join(map(literal, values))
        row = self.connection.execute(
            f"SELECT count(*) FROM {self.table} WHERE {quoted(self.cell)} IN ({written})"
        ).fetchone()
        return int(row[0]) if row else 0

    # -- kinds -------------------------------------------------------------------------------

    def _marks(self) -> Kind | None:
        """A tick or a cross where it holds, and blanks where it does not."""
        values = {v.lower() for v in self.sample}
        if not (values <= {"✓", "✔"} or values == {"x"}):
            return None
        row = self.connection.execute(f"SELECT count(*) FROM {self.table} WHERE {self.text} IS NULL").fetchone()
        if not row or not row[0]:
            return None
        note = self._note(
            "type", f"{self.name}: a mark read as yes, a blank as no", rows=self._rows_of(list(self.sample))
        )
        return Kind(Type.BOOLEAN, f"({self.text} IS NOT NULL)", simple=False, notes=(note,))

    def _boolean(self) -> Kind | None:
        lowered = {v.lower() for v in self.typed}
        if not lowered <= _YES | _NO or not lowered & _YES | lowered & _NO:
            return None
        if all(len(v) == 1 for v in lowered) and lowered not in _LONE_LETTERS:
            return None
        if lowered & {"on", "off"} and len(lowered) == 1:
            return None
        if len(lowered) == 1 and not lowered & {"true", "false", "yes", "no"}:
            return None
        pairs = tuple((v, v in _YES) for v in sorted(lowered))
        cases = " ".join(f"WHEN {literal(v)} THEN {str(yes).lower()}" for v, yes in pairs)
        kind = Kind(Type.BOOLEAN, f"(CASE lower({self.text}) {cases} END)", booleans=pairs)
        if lowered - {"true", "false"} and lowered != {"yes", "no"}:
            words = ", ".join(list(self.typed)[:4])
            kind = replace(kind, notes=(self._note("type", f"{self.name}: {words} read as yes or no"),))
        filled, fits = self._count(kind.sql)
        held = self._held(kind, filled, fits, lambda _: False)
        return self._missing_words_note(held) if held else None

    def _moment(self) -> Kind | None:
        values = list(self.typed)
        styles = styles_of(values)
        digits = [s for s in styles if s.startswith(("%d", "%m")) and "%b" not in s]
        if styles:
            kinds = [self._strptime(s) for s in styles]
            filled, *fits = self._count(*(k.sql for k in kinds))
            decided = self._decided(kinds, fits, filled, bool(digits))
            if decided is not None:
                return decided
        if self._share(lambda v: read_moment(v, "day") is not None or read_moment(v, "month") is not None) < 0.88:
            return None
        if all(re.fullmatch(r"\d+", v) for v in values) and not self._compact_dates(values):
            return None
        mapped = self._moments_by_value()
        if mapped is None:
            return None
        kinds, fits, filled = mapped
        shapes = {m.shape for v in values if (m := read_moment(v, "day"))}
        return self._decided(kinds, fits, filled, "two" in shapes)

    def _compact_dates(self, values: list[str]) -> bool:
        """True where digits alone are dates: all of them are, and the name says so or there are many."""
        whole = all((m := read_moment(v, "day")) and m.value and 1900 <= m.value.year <= 2100 for v in values)
        return whole and (bool(_DATE_NAME.search(self.name) or _MOMENT_NAME.search(self.name)) or len(values) >= 3)

    def _strptime(self, style: str) -> Kind:
        timed = "%H" in style
        if style == "%Y-%m-%d":
            sql = f"TRY_CAST({self.text} AS DATE)"
        elif timed:
            sql = f"try_strptime({self.text}, {literal(style)})"
        else:
            sql = f"CAST(try_strptime({self.text}, {literal(style)}) AS DATE)"
        return Kind(Type.TIMESTAMP if timed else Type.DATE, sql, date_format=style)

    def _moments_by_value(self) -> tuple[list[Kind], list[int], int] | None:
        """Dates read one by one, each way round: the kinds, the rows each fits, and all rows."""
        distinct = self.connection.execute(
            f"SELECT v, n FROM (SELECT {self.text} AS v, count(*) AS n FROM {self.table} GROUP BY 1) WHERE v IS NOT NULL LIMIT {_MAPPED + 1}"
        ).fetchall()
        if len(distinct) > _MAPPED:
            return None
        kinds, fits = [], []
        filled = sum(int(n) for v, n in distinct if v.lower() not in self.missing_words)
        orders: tuple[DateOrder, ...] = ("day", "month")
        for order in orders:
            found = [(v, int(n), read_moment(v, order)) for v, n in distinct]
            read = [(v, n, m) for v, n, m in found if m is not None and m.value is not None]
            zones = {m.zone for _, _, m in read if m.zone is not None}
            timed = any(m.timed and m.value.time() != dt.time() for _, _, m in read if m.value) or (
                any(m.timed for _, _, m in read) and len(read) == 1
            )
            rows = []
            for v, _, m in read:
                assert m.value is not None
                moved = m.value - dt.timedelta(minutes=m.zone) if m.zone and len(zones) > 1 else m.value
                rows.append((v, moved))
            name = f"moment_{order}_{self.cell}"
            moments = pa.table({"t": [v for v, _ in rows], "v": pa.array([m for _, m in rows], pa.timestamp("us"))})
            self._put(name, moments)
            sql = f"(SELECT v FROM {name} WHERE t = {self.table}.{quoted(self.cell)})"
            notes = self._moment_notes({m.shape for _, _, m in read}, zones)
            kind = Kind(
                Type.TIMESTAMP if timed else Type.DATE,
                sql if timed else f"CAST({sql} AS DATE)",
                simple=False,
                notes=notes,
            )
            kinds.append(kind)
            fits.append(sum(n for _, n, _ in read))
        return kinds, fits, filled

    def _put(self, name: str, rows: pa.Table) -> None:
        self.connection.register("arriving", rows)
        self.connection.execute(f"CREATE OR REPLACE TABLE {name} AS SELECT * FROM arriving")
        self.connection.unregister("arriving")

    def _moment_notes(self, shapes: set[str], zones: set[int]) -> tuple[Note, ...]:
        notes = []
        example = next(iter(self.typed))
        if shapes and shapes <= set(WHOLE_MONTHS):
            notes.append(self._note("type", f"{self.name}: months such as “{example}” read as the month's first day"))
        elif shapes - {"ymd", "two"}:
            notes.append(self._note("type", f"{self.name}: “{example}” read as a date"))
        elif len(shapes) > 1:
            notes.append(self._note("type", f"{self.name}: dates are written in {len(shapes)} ways, all read"))
        if len(zones) > 1:
            notes.append(self._note("type", f"{self.name}: several time zones, all put to UTC"))
        elif zones:
            minutes = next(iter(zones))
            ahead = f"UTC{minutes // 60:+d}" if minutes else "UTC"
            notes.append(self._note("type", f"{self.name}: times are those of {ahead}, as written"))
        return tuple(notes)

    def _decided(self, kinds: list[Kind], fits: list[int], filled: int, in_digits: bool) -> Kind | None:
        """The kind that more rows fit; where day and month could be either way round, what else speaks."""
        if len(kinds) == 1 or not in_digits:
            best = max(range(len(kinds)), key=lambda i: (fits[i], -i))
            return self._dated(kinds[best], filled, fits[best], None)
        order: DateOrder | None = self.context.orders.get(self.name)
        if order is None and fits[0] != fits[1]:
            order = "day" if fits[0] > fits[1] else "month"
        if order is not None:
            place = 0 if order == "day" else 1
            chosen = replace(kinds[place], order=order)
            return self._dated(chosen, filled, fits[place], order)
        same = self.connection.execute(
            f"SELECT count(*) FROM {self.table} WHERE {kinds[0].sql} <> {kinds[1].sql}"
        ).fetchone()
        if same and not same[0]:
            return self._dated(kinds[0], filled, fits[0], None)
        order, why = self._likelier(kinds)
        place = 0 if order == "day" else 1
        found = self._dated(replace(kinds[place], undecided=not why), filled, fits[place], order)
        if found is None:
            return None
        other: DateOrder = "month" if order == "day" else "day"
        example = next(iter(self.typed))
        note = Note(
            act=f"{self.name}: “{example}” could be either way round; read as {order} first",
            detail=why or "nothing in the file tells; say which is right",
            key=f"order:{self.name}",
            column=self.name,
            caution=not why,
            rows=fits[place],
            examples=tuple(list(self.typed)[:3]),
            choices=(Choice(label=f"read as {other} first", column=self.name, order=other),),
        )
        return replace(found, notes=(note, *(n for n in found.notes if n.caution)))

    def _likelier(self, kinds: list[Kind]) -> tuple[DateOrder, str]:
        """Day or month first, and why; no reason where it is only the commoner habit."""
        if self.context.order is not None:
            return self.context.order, "as the file's other dates are"
        sql = ", ".join(k.sql for k in kinds)
        rows = self.connection.execute(f"SELECT {sql} FROM {self.table} ORDER BY n LIMIT 20000").fetchall()
        ordered = []
        for place in (0, 1):
            column = [r[place] for r in rows if r[place] is not None]
            steps = [b >= a for a, b in itertools.pairwise(column)]
            ordered.append(len(column) > 5 and (all(steps) or not any(b > a for a, b in itertools.pairwise(column))))
        if ordered[0] != ordered[1]:
            return ("day" if ordered[0] else "month"), "the rows are in order of time that way"
        if all("." in v.split(" ")[0] for v in self.typed):
            return "day", "dates with points put the day first"
        return "day", ""

    def _dated(self, kind: Kind, filled: int, fits: int, order: DateOrder | None) -> Kind | None:
        if kind.type is Type.TIMESTAMP and kind.date_format:
            kind = self._whole_days(kind, fits)
        held = self._held(kind, filled, fits, lambda v: bool(read_moment(v, "day") or read_moment(v, "month")))
        if held is None:
            return None
        if order is not None and not any(n.key == f"order:{self.name}" for n in held.notes):
            note = self._note("type", f"{self.name}: dates read as {order} first", detail="as the whole column shows")
            held = replace(held, notes=(note, *held.notes))
        return self._missing_words_note(held)

    def _whole_days(self, kind: Kind, fits: int) -> Kind:
        """Moments that are all midnight are dates."""
        timed = self.connection.execute(
            f"SELECT count(*) FROM {self.table} WHERE {kind.sql} <> date_trunc('day', {kind.sql})"
        ).fetchone()
        if timed and not timed[0] and fits > 1:
            note = self._note("type", f"{self.name}: every time is midnight, so read as dates")
            return replace(kind, type=Type.DATE, sql=f"CAST({kind.sql} AS DATE)", notes=(*kind.notes, note))
        return kind

    def _clock(self) -> Kind | None:
        if self.bare:
            return None
        named = bool(_DURATION_NAME.search(self.name))
        times = self._share(lambda v: read_time(v) is not None)
        durations = self._share(lambda v: read_duration(v) is not None and mixes_units(v))
        if max(times, durations) < 0.88:
            return None
        long = durations > times or (durations >= 0.88 and (named or self._times_taken()))
        reader: Callable[[str], object] = read_duration if long else read_time
        distinct = self.connection.execute(
            f"SELECT DISTINCT {self.text} FROM {self.table} WHERE {self.text} IS NOT NULL LIMIT {_MAPPED + 1}"
        ).fetchall()
        if len(distinct) > _MAPPED:
            return None
        read = {v: r for (v,) in distinct if (r := reader(v)) is not None}
        name = f"clock_{self.cell}"
        self._put(
            name,
            pa.table({"t": list(read), "v": pa.array(list(read.values()), pa.float64() if long else pa.time64("us"))}),
        )
        what = "durations" if long else "times of day"
        kind = Kind(
            Type.DURATION if long else Type.TIME,
            f"(SELECT v FROM {name} WHERE t = {self.table}.{quoted(self.cell)})",
            simple=False,
            notes=(self._note("type", f"{self.name}: “{next(iter(self.typed))}” and the like read as {what}"),),
        )
        filled, fits = self._count(kind.sql)
        held = self._held(kind, filled, fits, lambda v: bool(re.fullmatch(r"\d{1,2}:\d{2}(:\d{2})?", v)))
        return self._missing_words_note(held) if held else None

    def _times_taken(self) -> bool:
        """True for 1:22:04 and the like: a time of day told to the second has two digits for its hour."""
        told = [v for v in self.typed if re.fullmatch(r"\d{1,2}:\d{2}:\d{2}", v.strip())]
        short = [v for v in told if v.strip()[1] == ":"]
        seconds = [v for v in told if not v.strip().endswith(":00")]
        return len(told) >= 5 and 2 * len(short) > len(self.typed) and 2 * len(seconds) > len(told)

    def _number(self) -> Kind | None:
        if not self.bare and self._share(looks_numeric) < 0.88:
            return None
        codes = {v: n for v, n in self.typed.items() if is_code(v)}
        if codes and (sum(codes.values()) >= 0.02 * self.rows or len(codes) > 1 or len(self.typed) < 50):
            if any(re.fullmatch(r"0\d+", v) for v in codes):
                example = next(v for v in codes if v.startswith("0"))
                self.notes.append(
                    self._note("zeros", f"{self.name}: kept as text, since “{example}” would lose its nought")
                )
            return None
        styles = number_styles(self.typed, self.context.decimal_comma)
        if not styles:
            return None
        if self.bare and all(s.plain for s in styles):
            filled, fits = self.rows, [self.rows]
        else:
            doubles = [f"TRY_CAST({s.text(self.text)} AS DOUBLE)" for s in styles]
            filled, *fits = self._count(*(f"CASE WHEN isfinite({d}) THEN 1 END" for d in doubles))
        best = max(range(len(styles)), key=lambda i: (fits[i], -i))
        style = styles[best]
        kind = self._exact(style)
        if kind is None:
            return None
        held = self._held(kind, filled, fits[best], looks_numeric)
        if held is None:
            return None
        held = self._with_style_note(held, style)
        held = self._missing_words_note(held)
        return self._serial(self._without_sentinels(held))

    def _exact(self, style: NumberStyle) -> Kind | None:
        """Whole numbers as integers, decimals where at most four digits follow the point, floats otherwise."""
        text = style.text(self.text)
        shape = self._shape(style, text)
        if shape is None:
            return None
        scale, whole, width, exponent, pointed, most = shape
        shared = {
            "unit": style.unit,
            "strip": () if style.plain else style.strip,
            "thousands": "" if style.plain else self._thousands(style),
            "decimal_comma": style.style.endswith("comma") and not style.plain,
            "simple": style.simple,
        }
        if not pointed and not exponent:
            if most >= 9.2e18:
                self.notes.append(self._note("digits", f"{self.name}: kept as text, its numbers have too many digits"))
                return None
            return Kind(Type.INTEGER, f"TRY_CAST({text} AS BIGINT)", **shared)  # type: ignore[arg-type]
        if whole and scale <= 1 and not exponent and width <= 17:
            sql = f"TRY_CAST(TRY_CAST({text} AS DECIMAL(18, 1)) AS BIGINT)"
            return Kind(Type.INTEGER, sql, **shared)  # type: ignore[arg-type]
        if exponent or scale > 4 or width > 17:
            # What is beyond the range of a float is no number that can be counted with.
            double = f"TRY_CAST({text} AS DOUBLE)"
            return Kind(Type.FLOAT, f"(CASE WHEN isfinite({double}) THEN {double} END)", **shared)  # type: ignore[arg-type]
        sql = f"TRY_CAST({text} AS DECIMAL(18, {int(scale)}))"
        return Kind(Type.DECIMAL, sql, scale=int(scale), **shared)  # type: ignore[arg-type]

    def _shape(self, style: NumberStyle, text: str) -> _Shape | None:
        """How a column's numbers are written, where there are any; `text` is SQL for them in digits."""
        if self.bare and style.plain:
            numbers = [float(v) for v in self.typed]
            return _Shape(
                scale=max(len(v.partition(".")[2]) for v in self.typed),
                whole=all(n.is_integer() for n in numbers),
                width=max(map(len, self.typed)),
                exponent=False,
                pointed=any("." in v for v in self.typed),
                most=max(map(abs, numbers)),
            )
        row = self.connection.execute(
            f"SELECT max(length(split_part(t, '.', 2))), bool_and(TRY_CAST(t AS DOUBLE) = floor(TRY_CAST(t AS DOUBLE))), max(length(t)), "
            f"bool_or(contains(lower(t), 'e')), bool_or(contains(t, '.')), max(abs(TRY_CAST(t AS DOUBLE))) "
            f"FROM (SELECT {text} AS t FROM {self.table}) WHERE TRY_CAST(t AS DOUBLE) IS NOT NULL"
        ).fetchone()
        return None if row is None or row[0] is None else _Shape(*row)

    def _thousands(self, style: NumberStyle) -> str:
        mark = THOUSANDS[style.style]
        return mark if any(mark in v for v in self.typed) else ""

    def _with_style_note(self, kind: Kind, style: NumberStyle) -> Kind:
        if style.plain:
            return kind
        codes = currency_codes(style)
        marked = [v for v in self.typed if looks_numeric(v) and not re.fullmatch(r"-?\d+(\.\d+)?", v)]
        example = max(marked, key=len, default=next(iter(self.typed)))
        rows = self._rows_of(marked)
        if len(set(codes.values())) > 1:
            cases = " ".join(f"WHEN contains({self.text}, {literal(m)}) THEN {literal(c)}" for m, c in codes.items())
            listed = ", ".join(sorted(set(codes.values())))
            note = self._note(
                "type",
                f"{self.name} mixes currencies: {listed}",
                about="mixed currencies",
                detail=f"the currency of each row stands in {self.name}_currency; sums over all rows mean nothing",
                rows=rows,
                examples=tuple(marked[:3]),
                caution=True,
            )
            return replace(kind, unit=None, notes=(*kind.notes, note), currency=f"(CASE {cases} END)", simple=False)
        what = "numbers"
        flagged = [v for v in marked if style.is_flagged and v.endswith(style.suffixes)]
        if flagged:
            note = self._note(
                "type",
                f"{self.name}: marks behind numbers, such as “{flagged[0]}”, were taken off",
                rows=self._rows_of(flagged),
                examples=tuple(flagged[:3]),
                caution=True,
            )
            return replace(kind, notes=(*kind.notes, note), simple=False)
        if codes:
            what = f"money in {next(iter(codes.values()))}"
        elif style.unit == "%":
            what = "per cent"
        elif style.unit:
            what = f"numbers in {style.unit}"
        if what == "numbers":
            what = f"the number {self._value_of(kind, example)}"
        note = self._note("type", f"{self.name}: “{example}” read as {what}", rows=rows, examples=tuple(marked[:3]))
        return replace(kind, notes=(*kind.notes, note))

    def _value_of(self, kind: Kind, example: str) -> str:
        row = self.connection.execute(
            f"SELECT {kind.sql} FROM {self.table} WHERE {quoted(self.cell)} = {literal(example)} LIMIT 1"
        ).fetchone()
        return str(row[0]) if row else example

    def _without_sentinels(self, kind: Kind) -> Kind:
        """Nines that stand for missing, where they stand far outside all other values and more than once."""
        if self._declined("sentinel"):
            return kind
        if kind.simple and not kind.strip and not kind.thousands:
            # Most columns have none of them, which a look at the text tells sooner than one at the values.
            written = [f"{s}{tail}" for s in _SENTINELS for tail in ("", ".0", ".00", ",0", ",00")]
            if self._rows_with(written) < 2:
                return kind
        values = ", ".join(map(str, _SENTINELS))
        rows = self.connection.execute(
            f"SELECT v, count(*) FROM (SELECT {kind.sql} AS v FROM {self.table}) WHERE v IN ({values}) GROUP BY v HAVING count(*) > 1"
        ).fetchall()
        for sentinel, count in rows:
            spread = self.connection.execute(
                f"SELECT min(v), max(v), count(DISTINCT v) FROM (SELECT CAST({kind.sql} AS DOUBLE) AS v FROM {self.table}) WHERE v NOT IN ({values})"
            ).fetchone()
            assert spread is not None
            low, high, different = spread
            if low is None or different < 3:
                continue
            reach = 5 * (high - low)
            below = sentinel < 0 <= low and sentinel <= -99 and sentinel < low - reach
            if sentinel > high + reach or below or (sentinel <= -99 and sentinel < low - reach):
                note = self._note(
                    "sentinel",
                    f"{self.name}: {int(sentinel)} read as missing, far outside all other values",
                    rows=int(count),
                    examples=(str(int(sentinel)),),
                )
                kind = replace(
                    kind, sql=f"nullif({kind.sql}, {int(sentinel)})", notes=(*kind.notes, note), simple=False
                )
        return kind

    def _serial(self, kind: Kind) -> Kind:
        """Days since 1900 as spreadsheets count them, and seconds since 1970, where the name says date."""
        if kind.unit or kind.strip or not (_DATE_NAME.search(self.name) or _MOMENT_NAME.search(self.name)):
            return kind
        row = self.connection.execute(
            f"SELECT min(v), max(v), bool_and(v = floor(v)) FROM (SELECT CAST({kind.sql} AS DOUBLE) AS v FROM {self.table})"
        ).fetchone()
        if row is None or row[0] is None:
            return kind
        low, high, whole = row
        number = f"CAST({kind.sql} AS DOUBLE)"
        if low >= 20_000 and high <= 60_000 and (_DATE_NAME.search(self.name) or not whole):
            moment = f"(TIMESTAMP '1899-12-30' + to_microseconds(CAST(round({number} * 86400) AS BIGINT) * 1000000))"
            what = "days counted from 1900"
        elif low >= 631_152_000 and high <= 4_102_444_800 and _MOMENT_NAME.search(self.name):
            moment, whole = f"make_timestamp(CAST({number} * 1000000 AS BIGINT))", False
            what = "seconds counted from 1970, UTC"
        elif low >= 631_152_000_000 and high <= 4_102_444_800_000 and _MOMENT_NAME.search(self.name):
            moment, whole = f"make_timestamp(CAST({number} * 1000 AS BIGINT))", False
            what = "milliseconds counted from 1970, UTC"
        else:
            return kind
        note = self._note("type", f"{self.name}: “{next(iter(self.typed))}” and the like read as dates, {what}")
        return replace(
            kind,
            type=Type.DATE if whole else Type.TIMESTAMP,
            sql=f"CAST({moment} AS DATE)" if whole else moment,
            scale=0,
            simple=False,
            notes=(*kind.notes, note),
        )
