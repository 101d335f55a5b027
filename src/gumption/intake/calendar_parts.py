"""Years, months and days in columns of their own, put together into a date beside them."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from pathlib import Path

import duckdb

from gumption.core.model.catalogue import Column, Note
from gumption.core.model.files import CalendarPart, CellReading
from gumption.core.model.names import free_name
from gumption.core.model.types import Type
from gumption.intake.column import Kind
from gumption.intake.moments import MONTHS
from gumption.intake.sql import literal, quoted

_PARTS: dict[str, CalendarPart] = {
    **dict.fromkeys(("year", "yr", "yyyy", "jahr", "año", "ano", "année", "annee", "anno"), "year"),
    **dict.fromkeys(("month", "mth", "mnth", "mon", "mm", "monat", "mes", "mois", "mese"), "month"),
    **dict.fromkeys(("quarter", "qtr", "quartal", "trimestre"), "quarter"),
    **dict.fromkeys(("week", "wk", "woche", "semana", "semaine"), "week"),
    **dict.fromkeys(("day", "dd", "tag", "dia", "día", "jour"), "day"),
}
_MAY_FOLLOW = frozenset(["no", "nr", "num", "number", "of", "the", "name", "iso"])
"""What a head may say besides: the month number, the day of the month."""
_OTHER_YEARS = frozenset(
    ["fiscal", "financial", "fy", "tax", "academic", "school", "season", "budget", "plan", "model"]
)
"""What years that begin in another month, or are none of a calendar, are called."""
_HIGHEST: dict[CalendarPart, int] = {"year": 2100, "month": 12, "quarter": 4, "week": 53, "day": 31}
_EARLIEST = 1500
_DAYS_OF_WEEK = 7
_FITS = 0.98
_MOST_WORDS = 40


@dataclass(frozen=True)
class _Part:
    """A column that tells one part of a date; where it tells it in words, what each of them stands for."""

    column: str
    words: tuple[tuple[str, int], ...] = ()

    @property
    def sql(self) -> str:
        cell = quoted(self.column)
        if not self.words:
            return cell
        cases = " ".join(f"WHEN {literal(word)} THEN {number}" for word, number in self.words)
        return f"(CASE {cell} {cases} END)"


@dataclass(frozen=True)
class Dated:
    """What a date put together adds to a table: the kinds of its columns, how it was made, and what to say of it."""

    kinds: dict[str, Kind]
    cells: tuple[CellReading, ...] = ()
    notes: tuple[Note, ...] = ()
    whole: Mapping[str, str] = field(default_factory=dict)
    """The columns that tell parts of a date, each with the column that tells it whole."""


def with_dates(
    connection: duckdb.DuckDBPyConnection,
    parquet: Path,
    kinds: dict[str, Kind],
    declined: Collection[str],
) -> Dated:
    """Put the dates that columns tell in parts beside them, in the table's file; nothing where a column has them whole."""
    cells: list[CellReading] = []
    notes: list[Note] = []
    whole: dict[str, str] = {}
    for prefix, named in _families(kinds).items():
        source = f"read_parquet({literal(str(parquet))})"
        found = {unit: part for unit, name in named.items() if (part := _part(connection, source, unit, name, kinds))}
        parts = _together(found)
        if not parts:
            continue
        name = free_name("_".join(filter(None, (prefix, "date"))), kinds)
        key = f"parts:{name}"
        if key in declined:
            continue
        told = _told_whole(connection, source, parts, kinds)
        whole |= {part.column: told or name for part in parts.values() if told is not None}
        if told != "":
            continue
        place = list(kinds).index(list(parts.values())[-1].column) + 1
        names = [*list(kinds)[:place], name, *list(kinds)[place:]]
        listed = ", ".join(f"{_date(parts)} AS {quoted(n)}" if n == name else quoted(n) for n in names)
        after = parquet.with_name(f".{parquet.stem}.dated")
        connection.execute(f"COPY (SELECT {listed} FROM {source}) TO {literal(str(after))} (FORMAT parquet)")
        after.replace(parquet)
        kinds = {n: kinds.get(n) or Kind(Type.DATE, quoted(n)) for n in names}
        cells.append(
            CellReading(
                name=name,
                type=Type.DATE,
                place=-1,
                parts=tuple((unit, part.column) for unit, part in parts.items()),
                words=tuple(pair for part in parts.values() for pair in part.words),
            )
        )
        said = " and ".join(part.column for part in parts.values()).replace(" and ", ", ", len(parts) - 2)
        first = {
            "month": ", the month's first day",
            "quarter": ", the quarter's first day",
            "week": ", the week's Monday",
        }
        notes.append(
            Note(
                act=f"{name} was put together from {said}{first.get(list(parts)[-1], '')}",
                key=key,
                column=name,
                detail="so that rows can be asked about by date",
            )
        )
    return Dated(kinds, tuple(cells), tuple(notes), whole)


def told_whole(columns: list[Column], dated: Dated) -> list[Column]:
    """The columns, each knowing which one tells the date whole that it tells a part of."""
    return [c.model_copy(update={"whole": dated.whole[c.name]}) if c.name in dated.whole else c for c in columns]


def _families(kinds: Mapping[str, Kind]) -> dict[str, dict[CalendarPart, str]]:
    """Columns called after parts of a date, by what stands before these: the year and the month of an order."""
    families: dict[str, dict[CalendarPart, str]] = {}
    for name in kinds:
        words = [w for w in re.split(r"[\W_]+|(?<=[a-zà-ÿ])(?=[A-Z])", name) if w]
        plain = [w.lower() for w in words]
        told = [n for n, w in enumerate(plain) if w in _PARTS]
        if not told or _OTHER_YEARS & set(plain):
            continue
        at = told[0]
        if set(plain[at + 1 :]) - _MAY_FOLLOW - {"month", "year"}:
            continue
        families.setdefault("_".join(words[:at]), {}).setdefault(_PARTS[plain[at]], name)
    return {prefix: found for prefix, found in families.items() if "year" in found and len(found) > 1}


def _part(
    connection: duckdb.DuckDBPyConnection, source: str, unit: CalendarPart, name: str, kinds: Mapping[str, Kind]
) -> _Part | None:
    """The column as a part of a date; None where its values are none."""
    kind, cell = kinds[name], quoted(name)
    if kind.type is Type.TEXT and unit in ("month", "quarter"):
        values = connection.execute(
            f"SELECT DISTINCT {cell} FROM {source} WHERE {cell} IS NOT NULL LIMIT {_MOST_WORDS + 1}"
        ).fetchall()
        words = tuple((str(v), number) for (v,) in values if (number := _number_of(str(v), unit)))
        return _Part(name, words) if 0 < len(words) == len(values) <= _MOST_WORDS else None
    if kind.type is not Type.INTEGER:
        return None
    ends = connection.execute(f"SELECT min({cell}), max({cell}) FROM {source}").fetchone()
    if ends is None or ends[0] is None:
        return None
    low, high = int(ends[0]), int(ends[1])
    if low < (_EARLIEST if unit == "year" else 1) or high > _HIGHEST[unit] or (unit == "day" and high <= _DAYS_OF_WEEK):
        return None
    return _Part(name)


def _number_of(word: str, unit: CalendarPart) -> int | None:
    """What a month's name, or a quarter written Q1, stands for."""
    if unit == "month":
        return MONTHS.get(word.strip().rstrip(".").lower())
    found = re.fullmatch(
        r"(?:q|qtr|quarter)\s*([1-4])|([1-4])(?:st|nd|rd|th)?\s*(?:q|qtr|quarter)", word.strip().lower()
    )
    return int(found[1] or found[2]) if found else None


def _together(found: Mapping[CalendarPart, _Part]) -> dict[CalendarPart, _Part]:
    """The parts that make a date, the year first; none where they make no more than a year."""
    wanted: tuple[tuple[CalendarPart, ...], ...] = (
        ("year", "month", "day"),
        ("year", "month"),
        ("year", "week"),
        ("year", "quarter"),
    )
    best = next((units for units in wanted if all(u in found for u in units)), ())
    return {unit: found[unit] for unit in best}


def _date(parts: Mapping[CalendarPart, _Part]) -> str:
    """SQL for the date, null where the parts make none, such as a 31st of April."""
    year = parts["year"].sql
    if "week" in parts:
        text = f"printf('%d-W%02d-1', {year}, {parts['week'].sql})"
        return f"CAST(try_strptime({text}, '%G-W%V-%u') AS DATE)"
    month = parts["month"].sql if "month" in parts else f"(3 * {parts['quarter'].sql} - 2)"
    day = parts["day"].sql if "day" in parts else "1"
    return f"TRY_CAST(printf('%04d-%02d-%02d', {year}, {month}, {day}) AS DATE)"


def _told_whole(
    connection: duckdb.DuckDBPyConnection, source: str, parts: Mapping[CalendarPart, _Part], kinds: Mapping[str, Kind]
) -> str | None:
    """The column that has the dates whole, empty where none has; None where the parts make no dates."""
    filled = " AND ".join(f"{quoted(p.column)} IS NOT NULL" for p in parts.values())
    made = _date(parts)
    unit = "day" if "day" in parts else list(parts)[-1]
    others = [n for n, k in kinds.items() if k.type in (Type.DATE, Type.TIMESTAMP)]
    same = [f"count(*) FILTER (date_trunc('{unit}', {quoted(o)}) = d)" for o in others]
    row = connection.execute(
        f"SELECT count(*), count(d){''.join(f', {s}' for s in same)} "
        f"FROM (SELECT *, {made} AS d FROM {source} WHERE {filled})"
    ).fetchone()
    if row is None:
        return None
    rows, dated, *held = (int(v) for v in row)
    if not rows or dated < _FITS * rows:
        return None
    return next((o for o, h in zip(others, held, strict=True) if h >= _FITS * rows), "")
