"""Columns of numbers: whole, exact and floating ones, money, per cent, and units behind them."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import NamedTuple

from gumption.core.model.types import Type
from gumption.intake.column import Column, Kind
from gumption.intake.moment_columns import as_serial
from gumption.intake.numbers import THOUSANDS, NumberStyle, currency_codes, is_code, looks_numeric, number_styles
from gumption.intake.sql import literal, quoted

_SENTINELS = (9999, 99999, 999999, 999, 99, -1, -9, -99, -999, -9999, 9999999)


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


def as_number(column: Column) -> Kind | None:
    if not column.bare and column.share(looks_numeric) < 0.88:
        return None
    codes = {v: n for v, n in column.typed.items() if is_code(v)}
    if codes and (sum(codes.values()) >= 0.02 * column.rows or len(codes) > 1 or len(column.typed) < 50):
        if any(re.fullmatch(r"0\d+", v) for v in codes):
            example = next(v for v in codes if v.startswith("0"))
            column.notes.append(
                column.note("zeros", f"{column.name}: kept as text, since “{example}” would lose its nought")
            )
        return None
    styles = number_styles(column.typed, column.context.decimal_comma)
    if not styles:
        return None
    if column.bare and all(s.plain for s in styles):
        filled, fits = column.rows, [column.rows]
    else:
        doubles = [f"TRY_CAST({s.text(column.text)} AS DOUBLE)" for s in styles]
        filled, *fits = column.count(*(f"CASE WHEN isfinite({d}) THEN 1 END" for d in doubles))
    best = max(range(len(styles)), key=lambda i: (fits[i], -i))
    style = styles[best]
    kind = _exact(column, style)
    if kind is None:
        return None
    held = column.held(kind, filled, fits[best], looks_numeric)
    if held is None:
        return None
    held = _with_style_note(column, held, style)
    held = column.with_missing_words(held)
    return as_serial(column, _without_sentinels(column, held))


def _exact(column: Column, style: NumberStyle) -> Kind | None:
    """Whole numbers as integers, decimals where at most four digits follow the point, floats otherwise."""
    text = style.text(column.text)
    shape = _shape(column, style, text)
    if shape is None:
        return None
    scale, whole, width, exponent, pointed, most = shape
    shared = {
        "unit": style.unit,
        "strip": () if style.plain else style.strip,
        "thousands": "" if style.plain else _thousands(column, style),
        "decimal_comma": style.style.endswith("comma") and not style.plain,
        "simple": style.simple,
    }
    if not pointed and not exponent:
        if most >= 9.2e18:
            column.notes.append(column.note("digits", f"{column.name}: kept as text, its numbers have too many digits"))
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


def _shape(column: Column, style: NumberStyle, text: str) -> _Shape | None:
    """How a column's numbers are written, where there are any; `text` is SQL for them in digits."""
    if column.bare and style.plain:
        numbers = [float(v) for v in column.typed]
        return _Shape(
            scale=max(len(v.partition(".")[2]) for v in column.typed),
            whole=all(n.is_integer() for n in numbers),
            width=max(map(len, column.typed)),
            exponent=False,
            pointed=any("." in v for v in column.typed),
            most=max(map(abs, numbers)),
        )
    row = column.connection.execute(
        f"SELECT max(length(split_part(t, '.', 2))), bool_and(TRY_CAST(t AS DOUBLE) = floor(TRY_CAST(t AS DOUBLE))), max(length(t)), "
        f"bool_or(contains(lower(t), 'e')), bool_or(contains(t, '.')), max(abs(TRY_CAST(t AS DOUBLE))) "
        f"FROM (SELECT {text} AS t FROM {column.table}) WHERE TRY_CAST(t AS DOUBLE) IS NOT NULL"
    ).fetchone()
    return None if row is None or row[0] is None else _Shape(*row)


def _thousands(column: Column, style: NumberStyle) -> str:
    mark = THOUSANDS[style.style]
    return mark if any(mark in v for v in column.typed) else ""


def _with_style_note(column: Column, kind: Kind, style: NumberStyle) -> Kind:
    if style.plain:
        return kind
    codes = currency_codes(style)
    marked = [v for v in column.typed if looks_numeric(v) and not re.fullmatch(r"-?\d+(\.\d+)?", v)]
    example = max(marked, key=len, default=next(iter(column.typed)))
    rows = column.rows_of(marked)
    if len(set(codes.values())) > 1:
        cases = " ".join(f"WHEN contains({column.text}, {literal(m)}) THEN {literal(c)}" for m, c in codes.items())
        listed = ", ".join(sorted(set(codes.values())))
        note = column.note(
            "type",
            f"{column.name} mixes currencies: {listed}",
            about="mixed currencies",
            detail=f"the currency of each row stands in {column.name}_currency; sums over all rows mean nothing",
            rows=rows,
            examples=tuple(marked[:3]),
            caution=True,
        )
        return replace(kind, unit=None, notes=(*kind.notes, note), currency=f"(CASE {cases} END)", simple=False)
    what = "numbers"
    flagged = [v for v in marked if style.is_flagged and v.endswith(style.suffixes)]
    if flagged:
        note = column.note(
            "type",
            f"{column.name}: marks behind numbers, such as “{flagged[0]}”, were taken off",
            rows=column.rows_of(flagged),
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
        what = f"the number {_value_of(column, kind, example)}"
    note = column.note("type", f"{column.name}: “{example}” read as {what}", rows=rows, examples=tuple(marked[:3]))
    return replace(kind, notes=(*kind.notes, note))


def _value_of(column: Column, kind: Kind, example: str) -> str:
    row = column.connection.execute(
        f"SELECT {kind.sql} FROM {column.table} WHERE {quoted(column.cell)} = {literal(example)} LIMIT 1"
    ).fetchone()
    return str(row[0]) if row else example


def _without_sentinels(column: Column, kind: Kind) -> Kind:
    """Nines that stand for missing, where they stand far outside all other values and more than once."""
    if column.declined("sentinel"):
        return kind
    if kind.simple and not kind.strip and not kind.thousands:
        # Most columns have none of them, which a look at the text tells sooner than one at the values.
        written = [f"{s}{tail}" for s in _SENTINELS for tail in ("", ".0", ".00", ",0", ",00")]
        if column.rows_with(written) < 2:
            return kind
    values = ", ".join(map(str, _SENTINELS))
    rows = column.connection.execute(
        f"SELECT v, count(*) FROM (SELECT {kind.sql} AS v FROM {column.table}) WHERE v IN ({values}) GROUP BY v HAVING count(*) > 1"
    ).fetchall()
    for sentinel, count in rows:
        spread = column.connection.execute(
            f"SELECT min(v), max(v), count(DISTINCT v) FROM (SELECT CAST({kind.sql} AS DOUBLE) AS v FROM {column.table}) WHERE v NOT IN ({values})"
        ).fetchone()
        assert spread is not None
        low, high, different = spread
        if low is None or different < 3:
            continue
        reach = 5 * (high - low)
        below = sentinel < 0 <= low and sentinel <= -99 and sentinel < low - reach
        if sentinel > high + reach or below or (sentinel <= -99 and sentinel < low - reach):
            note = column.note(
                "sentinel",
                f"{column.name}: {int(sentinel)} read as missing, far outside all other values",
                rows=int(count),
                examples=(str(int(sentinel)),),
            )
            kind = replace(kind, sql=f"nullif({kind.sql}, {int(sentinel)})", notes=(*kind.notes, note), simple=False)
    return kind
