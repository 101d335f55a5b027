"""From text to typed values: the kind of a column is decided by the whole column, never row by row."""

from __future__ import annotations

import functools
import re
from dataclasses import dataclass, field

import duckdb

from gumption.core.model.types import Type

MISSING_WORDS = ("", "NA", "N/A", "n/a", "#N/A", "NULL", "null", "NaN", "nan", "-", "--")
BOOLEAN_WORDS = (
    ("true", "false"),
    ("yes", "no"),
    ("y", "n"),
    ("t", "f"),
    ("ja", "nein"),
)
DATE_FORMATS = (
    "%Y-%m-%d",
    "%d/%m/%Y",
    "%m/%d/%Y",
    "%d.%m.%Y",
    "%d-%m-%Y",
    "%m-%d-%Y",
    "%Y/%m/%d",
    "%Y%m%d",
    "%d %b %Y",
    "%d %B %Y",
    "%b %d %Y",
    "%b %d, %Y",
    "%B %d, %Y",
    "%d-%b-%Y",
    "%d/%m/%y",
    "%m/%d/%y",
    "%d-%b-%y",
)
TIME_FORMATS = (
    " %H:%M:%S",
    " %H:%M",
    "T%H:%M:%S",
    "T%H:%M",
    "T%H:%M:%SZ",
    " %H:%M:%S.%f",
    "T%H:%M:%S.%f",
    "T%H:%M:%S.%fZ",
)
AT_MOST_BAD = 0.02
"""The share of a column's values that may not fit its kind before it stays text."""

_SIGNS = {"£": "GBP", "€": "EUR", "$": "USD", "GBP": "GBP", "EUR": "EUR", "USD": "USD"}
_NUMBER = re.compile(
    r"^\(?[-+]?(?:£|€|\$|GBP |EUR |USD )?\s?[-+]?(?P<digits>\d[\d.,' ]*|\.\d+)(?:[eE][-+]?\d+)?\s?(?:%|£|€|\$| GBP| EUR| USD)?\)?$"
)


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
    notes: tuple[str, ...] = field(default=())


def quoted(name: str) -> str:
    """A column's name for DuckDB."""
    return '"' + name.replace('"', '""') + '"'


def literal(text: str) -> str:
    """A text literal for DuckDB."""
    return "'" + text.replace("'", "''") + "'"


def cleaned(name: str) -> str:
    """SQL for a cell's trimmed text, null where it says missing."""
    words = ", ".join(literal(w) for w in MISSING_WORDS)
    text = f"trim({quoted(name)}, ' \t\r\n\u00a0')"
    return f"(CASE WHEN {text} IN ({words}) THEN NULL ELSE {text} END)"


def kind_of(connection: duckdb.DuckDBPyConnection, table: str, name: str) -> Kind:
    """The kind that the whole column fits, tried on a sample first and then counted on every row."""
    text = cleaned(name)
    sample = [
        str(row[0])
        for row in connection.execute(
            f"SELECT v FROM (SELECT DISTINCT {text} AS v FROM (SELECT {quoted(name)} FROM {table} LIMIT 50000)) WHERE v IS NOT NULL LIMIT 2000"
        ).fetchall()
    ]
    plain = Kind(Type.TEXT, text)
    if not sample:
        return plain
    candidates = _candidates(text, sample)
    if not candidates:
        return plain
    counts = ", ".join(f"count({c.sql})" for c in candidates)
    measured = connection.execute(f"SELECT count({text}), {counts} FROM {table}").fetchone()
    assert measured is not None
    filled, *fits = (int(n) for n in measured)
    best = max(range(len(candidates)), key=lambda i: (fits[i], -i))
    chosen, bad = candidates[best], filled - fits[best]
    if bad > AT_MOST_BAD * filled:
        return plain
    notes: list[str] = []
    rivals = [
        i
        for i in range(len(candidates))
        if i != best and fits[i] == fits[best] and chosen.date_format and candidates[i].date_format
    ]
    if rivals and chosen.date_format != candidates[rivals[0]].date_format:
        notes.append("day and month could be either way round; read as day first")
    if chosen.type in (Type.DECIMAL, Type.FLOAT):
        chosen = _exact(connection, table, chosen)
    return Kind(**{**chosen.__dict__, "bad": bad, "notes": tuple(notes)})


def _candidates(text: str, sample: list[str]) -> list[Kind]:
    lowered = {value.lower() for value in sample}
    for yes, no in BOOLEAN_WORDS:
        if lowered <= {yes, no} and (len(lowered) == 2 or yes in ("true", "yes")):
            return [
                Kind(
                    Type.BOOLEAN,
                    f"(CASE lower({text}) WHEN {literal(yes)} THEN true WHEN {literal(no)} THEN false END)",
                    booleans=((yes, True), (no, False)),
                )
            ]
    numeric = sum(1 for value in sample if _NUMBER.match(value))
    coded = sum(1 for value in sample if re.fullmatch(r"0\d+", value))
    dates = _dates(text, sample)
    if dates:
        return dates
    if numeric < 0.9 * len(sample) or coded:
        return []
    return [_number(text, [value for value in sample if _NUMBER.match(value)])]


def _number(text: str, sample: list[str]) -> Kind:
    signs = tuple(s for s in _SIGNS if any(s in value for value in sample))
    percent = any("%" in value for value in sample)
    digits = [re.sub(r"[^\d.,' ]", "", re.sub(r"[eE][-+]?\d+$", "", value)).strip() for value in sample]
    comma = _decimal_comma(digits)
    thousands = ""
    for mark in (".", "'", " ") if comma else (",", "'", " "):
        if any(re.fullmatch(rf"\d{{1,3}}(?:{re.escape(mark)}\d{{3}})+(?:[.,]\d+)?", d) for d in digits):
            thousands = mark
    strip = (*signs, *(("%",) if percent else ()))
    sql = text
    brackets = any(value.startswith("(") for value in sample)
    for mark in (*strip, *((thousands,) if thousands else ())):
        sql = f"replace({sql}, {literal(mark)}, '')"
    if comma:
        sql = f"replace({sql}, ',', '.')"
    if strip:
        sql = f"trim({sql})"
    if brackets:
        sql = f"regexp_replace({sql}, '^\\((.*)\\)$', '-\\1')"
    unit = "%" if percent else next((_SIGNS[s] for s in signs), None)
    shared = {"unit": unit, "strip": strip, "thousands": thousands, "decimal_comma": comma}
    whole = all("." not in d.replace(thousands, "") if thousands else "." not in d for d in digits) and not comma
    exponent = any(re.search(r"\d[eE]", value) for value in sample)
    if whole and not exponent:
        return Kind(Type.INTEGER, f"TRY_CAST({sql} AS BIGINT)", **shared)  # type: ignore[arg-type]
    return Kind(Type.FLOAT, f"TRY_CAST({sql} AS DOUBLE)", **shared)  # type: ignore[arg-type]


def _decimal_comma(digits: list[str]) -> bool:
    """True where a comma is the decimal mark: it comes after the points, or parts off other than three digits."""
    votes = 0
    for d in digits:
        if re.fullmatch(r"\d{1,3}(?:\.\d{3})+,\d+", d) or (
            re.fullmatch(r"\d+,\d+", d) and not re.fullmatch(r"\d{1,3},\d{3}", d)
        ):
            votes += 1
        elif re.fullmatch(r"\d{1,3}(?:,\d{3})+\.\d+", d) or (
            re.fullmatch(r"\d+\.\d+", d) and not re.fullmatch(r"\d{1,3}\.\d{3}", d)
        ):
            votes -= 1
    return votes > 0


def _exact(connection: duckdb.DuckDBPyConnection, table: str, chosen: Kind) -> Kind:
    """Decimals where at most four digits follow the point on every row; whole numbers written as 12.0 as integers."""
    source = re.fullmatch(r"TRY_CAST\((.*) AS DOUBLE\)", chosen.sql, re.S)
    assert source is not None
    text = source[1]
    measured = connection.execute(
        f"SELECT max(length(split_part(t, '.', 2))), bool_and(TRY_CAST(t AS DOUBLE) = floor(TRY_CAST(t AS DOUBLE))), max(length(t)), bool_or(contains(lower(t), 'e')) "
        f"FROM (SELECT {text} AS t FROM {table}) WHERE t IS NOT NULL"
    ).fetchone()
    assert measured is not None
    scale, whole, width, exponent = measured
    if exponent or scale is None or scale > 4 or width > 17:
        if whole and not exponent and width is not None and width <= 17:
            return Kind(
                **{
                    **chosen.__dict__,
                    "type": Type.INTEGER,
                    "sql": f"TRY_CAST(TRY_CAST({text} AS DECIMAL(18, 1)) AS BIGINT)",
                }
            )
        return chosen
    if whole and scale <= 1:
        return Kind(
            **{
                **chosen.__dict__,
                "type": Type.INTEGER,
                "sql": f"TRY_CAST(TRY_CAST({text} AS DECIMAL(18, 1)) AS BIGINT)",
            }
        )
    return Kind(
        **{
            **chosen.__dict__,
            "type": Type.DECIMAL,
            "scale": int(scale),
            "sql": f"TRY_CAST({text} AS DECIMAL(18, {int(scale)}))",
        }
    )


_SHAPES = {
    "%Y": r"\d{4}",
    "%m": r"\d{1,2}",
    "%d": r"\d{1,2}",
    "%y": r"\d{2}",
    "%b": r"[A-Za-z]{3}",
    "%B": r"[A-Za-z]{3,9}",
    "%H": r"\d{1,2}",
    "%M": r"\d{2}",
    "%S": r"\d{2}",
    "%f": r"\d+",
}


@functools.cache
def _shape(style: str) -> re.Pattern[str]:
    return re.compile("".join(_SHAPES.get(part, re.escape(part)) for part in re.findall(r"%[A-Za-z]|[^%]", style)))


def _mostly(style: str, sample: list[str]) -> bool:
    """True where nine in ten values have the style's shape; a look at the first few saves the rest."""
    shape = _shape(style)
    if not any(shape.fullmatch(value) for value in sample[:20]):
        return False
    return sum(bool(shape.fullmatch(value)) for value in sample) >= 0.9 * len(sample)


def _dates(text: str, sample: list[str]) -> list[Kind]:
    found: list[Kind] = []
    for style in DATE_FORMATS:
        if _mostly(style, sample):
            if style == "%Y%m%d" and not all(
                "19000101" <= v <= "20991231" and v[4:6] <= "12" and v[6:] <= "31" for v in sample
            ):
                continue
            sql = (
                f"TRY_CAST({text} AS DATE)"
                if style == "%Y-%m-%d"
                else f"CAST(try_strptime({text}, {literal(style)}) AS DATE)"
            )
            found.append(Kind(Type.DATE, sql, date_format=style))
        for suffix in TIME_FORMATS:
            if _mostly(style + suffix, sample):
                sql = f"try_strptime({text}, {literal(style + suffix)})"
                found.append(Kind(Type.TIMESTAMP, sql, date_format=style + suffix))
    return found
