"""What is measured of a table's columns once they are typed."""

from __future__ import annotations

import datetime as dt
import itertools
import re
from collections.abc import Collection
from decimal import Decimal
from typing import TypeAlias

import duckdb
import numpy as np
import numpy.typing as npt

from gumption.core.model.catalogue import Bar, Column
from gumption.core.model.types import Role, Type
from gumption.intake.column import Kind
from gumption.intake.roles import beside_its_name, parts_of, role_of
from gumption.intake.several import items_of, several_key
from gumption.intake.sql import quoted

MOST_VALUES = 20_000
"""Distinct values of a text column that are kept for questions to name."""
_MANY = frozenset(["qty", "quantity", "units", "pieces", "pcs", "copies", "items"])
"""Words of a column's name that say how many of something there are."""
_SALES = frozenset(["sales", "sale", "sold"])
_PARTS_OF_A_BILL = tuple(
    [word] for word in ["parts", "labour", "labor", "materials", "sundries", "consumables", "callout"]
)
_PRICES = frozenset(["price", "rate", "fee", "cost", "charge"])
_GROWS = 0.35
"""How alike, 0 to 1, the logarithms of how many and of how much must be for the one to come of the other."""
_FEW_PRICES, _ENOUGH_ROWS = 20, 50
_FEW_DIFFERENT, _MOST_TRIED, _MOST_MOMENTS = 5, 4, 6
_ROUNDED = 0.005
"""How far nine in ten products may be off what is written, as a share of it, by rounding alone."""
_ONE_EACH = 0.9
"""Different days for each row, counted roughly in long tables, from which on there may be one of each."""
_EXTENTS = frozenset(
    [
        "area",
        "floorspace",
        "sqm",
        "sqft",
        "m2",
        "hectares",
        "acres",
        "population",
        "electorate",
        "inhabitants",
        "residents",
        "households",
        "headcount",
        "employees",
    ]
)
"""Words for how large or how many a thing is, which is so once however often it is said."""
_THINGS = (Role.CATEGORY, Role.PERSON, Role.PLACE, Role.NAME, Role.IDENTIFIER, Role.LINK, Role.CODE)
_SAID_AGAIN = 0.5
"""Things that there are at most, as a share of the rows, for a fact of theirs to be said again."""
_STANDING = frozenset(["balance", "value", "assets", "savings", "debt", "loan", "outstanding", "owed", "net", "worth"])
"""Words for money that is there, and does not come in."""
_FEW_LEVELS, _ENOUGH_DAYS, _NEXT_DAYS = 20, 60, 3
_ROUGH, _STEP = 0.1, 0.02
"""The variance of the steps from day to day, held against that of the values (von Neumann's ratio), and half of the steps as
shares of the value, that a level has at most: a walk's ratio is a few hundredths, that of days on their own is two."""
_MOST_OF_ONE = 1.5
"""The largest value that a column of shares counted in ones may have."""
_EXACT_ROWS = 300_000
_SAMPLED_FROM = 1_000_000
_NUMBER_BINS, _DATE_BINS, _COMMON = 14, 12, 3
_HELD_CELLS = 3_000_000
"""Numbers of a table up to which they are held all at once to be counted."""
Floats: TypeAlias = npt.NDArray[np.float64]


def _text(value: object) -> str | None:
    if value is None:
        return None
    if isinstance(value, (dt.datetime, dt.date, dt.time)):
        return value.isoformat()
    return str(value)


def profile(
    connection: duckdb.DuckDBPyConnection,
    source: str,
    kinds: dict[str, Kind],
    table: str,
    *,
    leading: bool = True,
    declined: Collection[str] = (),
) -> tuple[int, list[Column]]:
    """Rows, and every column with its measures. `source` is a relation of typed columns, the table's first ones where `leading`.

    Acts that a person `declined` are not done: no cells taken for lists that are named in it.
    """
    names = list(kinds)
    size = connection.execute(f"SELECT count(*) FROM {source}").fetchone()
    assert size is not None
    rows = int(size[0])
    distinct = "count(DISTINCT {0})" if rows <= _EXACT_ROWS else "approx_count_distinct({0})"
    few = (
        _few_valued(connection, source, [n for n in names if kinds[n].type is Type.TEXT])
        if rows > _EXACT_ROWS
        else set()
    )
    wanted = []
    for name in names:
        cell = quoted(name)
        ends = ["NULL", "NULL"] if kinds[name].type is Type.TEXT else [f"min({cell})", f"max({cell})"]
        # Values that are few are counted one by one below, so that here nothing need be guessed of them.
        wanted += [f"count({cell})", "0" if name in few else distinct.format(cell), *ends]
    measured = connection.execute(f"SELECT {', '.join(wanted)} FROM {source}").fetchone()
    numbers = [n for n in names if kinds[n].type.is_number]
    # The median of a very long column is told from a twentieth of its rows, taken from all over it.
    part = _part_of(rows)
    middles = ", ".join(f"median(CAST({quoted(n)} AS DOUBLE))" for n in numbers) or "NULL"
    found = connection.execute(f"SELECT {middles} FROM {source} {part}").fetchone()
    assert measured is not None and found is not None
    medians = dict(zip(numbers, found, strict=False))
    held = _held(connection, source, numbers) if rows * len(numbers) <= _HELD_CELLS else {}
    columns = []
    for place, name in enumerate(names):
        filled, different, low, high = measured[4 * place : 4 * place + 4]
        kind = kinds[name]
        counted, bars = _distribution(connection, source, name, kind, int(different), low, high, rows, held.get(name))
        lists = items_of(counted) if kind.type is Type.TEXT and several_key(name) not in declined else None
        if lists is not None:
            counted = list(lists.kinds)
            bars = tuple(Bar(label=item, rows=n) for item, n in counted[:_COMMON])
        values = tuple(v for v, _ in counted)
        column = Column(
            name=name,
            type=kind.type,
            role=Role.TEXT,
            missing=rows - int(filled),
            distinct=len(values) if 0 < len(values) < MOST_VALUES else min(int(different), rows),
            low=_text(low),
            high=_text(high),
            median=None if (median := medians.get(name)) is None else float(median),
            scale=kind.scale,
            unit=kind.unit,
            values=values,
            separator=lists.separator if lists is not None else "",
            bars=bars,
        )
        role = role_of(column, rows, leading and place == 0, table)
        columns.append(column.model_copy(update={"role": role, "unit": _of_hundred(column, role)}))
    columns = _with_totals(connection, source, _with_sales_counted(_told_by_their_kin(columns, table)), rows)
    columns = _with_facts(connection, source, _with_lags(connection, source, columns, rows), rows)
    return rows, _with_levels(connection, source, columns, rows)


def _part_of(rows: int) -> str:
    """What is read of a table to measure what need not be exact: a long one by a sample."""
    return "" if rows <= _EXACT_ROWS else "TABLESAMPLE system(5%)"


def _with_facts(connection: duckdb.DuckDBPyConnection, source: str, columns: list[Column], rows: int) -> list[Column]:
    """The columns, each extent that is one of every thing told of which: a building's floor area in each of its months."""
    extents = [c for c in columns if c.type.is_number and c.is_measure and _EXTENTS & set(parts_of(c.name))]
    things = [c for c in columns if c.role in _THINGS and not c.missing and 1 < c.distinct <= rows * _SAID_AGAIN]
    things.sort(key=lambda c: c.distinct)
    times = [c for c in columns if (c.role is Role.DATE or parts_of(c.name) == ["year"]) and not c.missing]
    found: dict[str, tuple[str, ...]] = {}
    for column in extents:
        alone = [(t,) for t in things if column.distinct <= t.distinct][:_MOST_TRIED]
        dated = [(t, d) for t in things if t not in times for d in times if column.distinct <= t.distinct * d.distinct]
        for told in (*alone, *dated[:_MOST_TRIED]):
            by = ", ".join(quoted(c.name) for c in told)
            each = f"SELECT count(DISTINCT {quoted(column.name)}) AS many FROM {source} GROUP BY {by}"
            seen = connection.execute(f"SELECT max(many), count(*) FROM ({each})").fetchone()
            if seen is not None and seen[0] == 1 and seen[1] <= rows * _SAID_AGAIN:
                found[column.name] = tuple(c.name for c in told)
                break
    return [c.model_copy(update={"told_of": found[c.name]}) if c.name in found else c for c in columns]


def _with_lags(connection: duckdb.DuckDBPyConnection, source: str, columns: list[Column], rows: int) -> list[Column]:
    """The columns, each of moments told how far from the others it lies."""
    moments = [c.name for c in columns if c.type is Type.TIMESTAMP][:_MOST_MOMENTS]
    if len(moments) < 2:
        return columns
    pairs = list(itertools.combinations(moments, 2))
    apart = ", ".join(f"median(abs(epoch({quoted(a)}) - epoch({quoted(b)})))" for a, b in pairs)
    part = _part_of(rows)
    told = connection.execute(f"SELECT {apart} FROM {source} {part}").fetchone()
    assert told is not None
    found = dict(zip(pairs, told, strict=True))
    lags: dict[str, list[tuple[str, float]]] = {name: [] for name in moments}
    for (one, other), seconds in found.items():
        if seconds is not None:
            lags[one].append((other, float(seconds)))
            lags[other].append((one, float(seconds)))
    return [c.model_copy(update={"lags": tuple(lags[c.name])}) if c.name in lags else c for c in columns]


def _told_by_their_kin(columns: list[Column], table: str) -> list[Column]:
    """The columns, those that their names alone do not tell taken for what the columns beside them are.

    Parts and labour to the penny are what a job came to, red cards of which there is never more than one are a number of
    cards, as the yellow ones are, the balance beside what came in and went out is what there was then, and the capital of
    a country names it no more where the country itself stands beside it.
    """
    parts = [c for c in columns if c.scale == 2 and c.role.is_summed and parts_of(c.name) in _PARTS_OF_A_BILL]
    billed = {c.name for c in parts} if len(parts) > 1 else set()
    counted = {parts_of(c.name)[-1] for c in columns if c.role is Role.QUANTITY and len(parts_of(c.name)) > 1}
    flags = [c for c in columns if c.role is Role.FLAG and c.type is Type.INTEGER and c.name.endswith("s")]
    kin = {c.name for c in flags if parts_of(c.name)[-1] in counted}
    money = [c for c in columns if c.role is Role.MONEY]
    moved = [c for c in money if c.is_signed and parts_of(c.name)[-1] != "balance"]
    stood = {c.name for c in money if moved and parts_of(c.name)[-1] == "balance"}
    told = dict.fromkeys(billed, Role.MONEY) | dict.fromkeys(kin, Role.QUANTITY) | dict.fromkeys(stood, Role.SCORE)
    told |= {
        c.name: kind
        for c in columns
        if c.role is Role.NAME and (kind := beside_its_name(c, columns, table)) is not None
    }
    return [c.model_copy(update={"role": told[c.name]}) if c.name in told else c for c in columns]


def _with_sales_counted(columns: list[Column]) -> list[Column]:
    """The columns, whole numbers of sales that are less than what one of them costs taken for how many there were."""
    prices = [c.median for c in columns if c.median is not None and "price" in parts_of(c.name)]
    if not prices:
        return columns
    return [
        c.model_copy(update={"role": Role.QUANTITY})
        if c.role is Role.MONEY
        and c.type is Type.INTEGER
        and not c.unit
        and _SALES & set(parts_of(c.name))
        and c.median is not None
        and 0 < c.median < min(prices) / 4
        else c
        for c in columns
    ]


def _with_totals(connection: duckdb.DuckDBPyConnection, source: str, columns: list[Column], rows: int) -> list[Column]:
    """The columns, each amount of money that grows with how many there are marked as their total."""

    def says(column: Column, words: frozenset[str]) -> bool:
        return bool(words & {*re.split(r"[^a-z]+", column.name.lower())})

    counts = [c for c in columns if c.role is Role.QUANTITY and says(c, _MANY)]
    priced = [c for c in columns if c.role is Role.MONEY or (c.role is Role.SCORE and says(c, _PRICES))]
    amounts = [c for c in priced if c.distinct > _FEW_PRICES]
    columns = _with_products(connection, source, columns, rows)
    if len(counts) != 1 or not amounts or rows < _ENOUGH_ROWS:
        return columns
    many = quoted(counts[0].name)
    likeness = ", ".join(
        f"corr(ln(CAST({many} AS DOUBLE)), ln(CAST({cell} AS DOUBLE))) FILTER ({many} > 0 AND {cell} > 0)"
        for cell in (quoted(c.name) for c in amounts)
    )
    part = _part_of(rows)
    found = connection.execute(f"SELECT {likeness} FROM {source} {part}").fetchone() or ()
    totals = {c.name for c, r in zip(amounts, found, strict=False) if r is not None and r >= _GROWS}
    # A total is added up, whatever it is called.
    told = {"grows_with": counts[0].name, "role": Role.MONEY}
    return [c.model_copy(update=told) if c.name in totals else c for c in columns]


def _with_products(
    connection: duckdb.DuckDBPyConnection, source: str, columns: list[Column], rows: int
) -> list[Column]:
    """The columns, each amount of money that is a number of something times its price marked as their total."""
    numbers = [c for c in columns if c.type.is_number and c.distinct > _FEW_DIFFERENT]
    many = [c for c in numbers if c.role is Role.QUANTITY][:_MOST_TRIED]
    prices = [c for c in numbers if _PRICES & {*parts_of(c.name)} and not c.role.is_summed][:_MOST_TRIED]
    amounts = [c for c in numbers if c.role is Role.MONEY][:_MOST_TRIED]
    tried = [(a, q, p) for a in amounts for q in many for p in prices]
    if not tried or rows < _FEW_PRICES:
        return columns
    part = _part_of(rows)
    off = ", ".join(
        f"quantile_cont(abs({a} - {q} * {p}) / greatest(abs({a}), 1), 0.9)"
        for a, q, p in (tuple(f"CAST({quoted(c.name)} AS DOUBLE)" for c in columns_) for columns_ in tried)
    )
    found = connection.execute(f"SELECT {off} FROM {source} {part}").fetchone() or ()
    made = {a.name: q.name for (a, q, _), r in zip(tried, found, strict=False) if r is not None and r <= _ROUNDED}
    return [c.model_copy(update={"grows_with": made[c.name]}) if c.name in made else c for c in columns]


def _with_levels(connection: duckdb.DuckDBPyConnection, source: str, columns: list[Column], rows: int) -> list[Column]:
    """The columns, numbers of which there is one a day that hardly moves to the next taken for levels, as rates and indices are.

    What is added up, such as a day's sales, comes and goes from day to day.
    """
    days = [c for c in columns if c.type is Type.DATE]
    numbers = [
        c
        for c in columns
        if c.is_measure
        and c.role.is_summed
        and not c.grows_with
        and c.distinct > _FEW_LEVELS
        # What is called takings or sales comes in day by day, however alike the days are.
        and (c.role is not Role.MONEY or _STANDING & set(parts_of(c.name)))
    ]
    if len(days) != 1 or days[0].missing or days[0].distinct < _ENOUGH_DAYS or not numbers:
        return columns
    if days[0].distinct < _ONE_EACH * rows:
        # Many rows a day need not be put in order to see that they are no levels.
        return columns
    day = quoted(days[0].name)
    seen = ", ".join(
        f"sum(({now} - {before}) ** 2) / nullif(var_pop({now}) * count({now}), 0), "
        f"median(abs({now} - {before}) / nullif(abs({before}), 0))"
        for now, before in ((f"now_{i}", f"before_{i}") for i in range(len(numbers)))
    )
    pairs = ", ".join(
        f"CAST({cell} AS DOUBLE) AS now_{i}, lag(CAST({cell} AS DOUBLE)) OVER (ORDER BY {day}) AS before_{i}"
        for i, cell in enumerate(quoted(c.name) for c in numbers)
    )
    found = connection.execute(
        f"SELECT count(DISTINCT day) = count(*), median(gap), {seen} FROM "
        f"(SELECT {day} AS day, {day} - lag({day}) OVER (ORDER BY {day}) AS gap, {pairs} FROM {source})"
    ).fetchone()
    assert found is not None
    one_a_day, gap, *told = found
    if not one_a_day or gap is None or gap > _NEXT_DAYS:
        return columns
    levels = {
        c.name
        for c, rough, step in zip(numbers, told[::2], told[1::2], strict=True)
        if rough is not None and step is not None and rough <= _ROUGH and step <= _STEP
    }
    return [c.model_copy(update={"role": Role.SCORE}) if c.name in levels else c for c in columns]


def _few_valued(connection: duckdb.DuckDBPyConnection, source: str, names: list[str]) -> set[str]:
    """Columns whose first rows hold few different values."""
    if not names:
        return set()
    counts = ", ".join(f"approx_count_distinct({quoted(n)}) < 2000" for n in names)
    cells = ", ".join(map(quoted, names))
    row = connection.execute(f"SELECT {counts} FROM (SELECT {cells} FROM {source} LIMIT 50000)").fetchone()
    return {n for n, few in zip(names, row or (), strict=False) if few}


def _distribution(
    connection: duckdb.DuckDBPyConnection,
    source: str,
    name: str,
    kind: Kind,
    distinct: int,
    low: object,
    high: object,
    rows: int,
    held: Floats | None,
) -> tuple[list[tuple[str, int]], tuple[Bar, ...]]:
    """The values of a column of text with their rows, and its bars; `held` are a column's numbers where they are at hand."""
    cell = quoted(name)
    if kind.type in (Type.TEXT, Type.BOOLEAN):
        if distinct > 1.1 * MOST_VALUES:
            return [], ()
        counted = connection.execute(
            f"SELECT {cell}, count(*) FROM {source} WHERE {cell} IS NOT NULL GROUP BY 1 ORDER BY 2 DESC, 1 LIMIT {MOST_VALUES}"
        ).fetchall()
        common = [Bar(label=_label(v), rows=int(n)) for v, n in counted[:_COMMON]] if distinct < 1000 else []
        return ([(str(v), int(n)) for v, n in counted] if kind.type is Type.TEXT else []), tuple(common)
    if low is None or high is None or low == high:
        return [], ()
    if isinstance(low, dt.time) and isinstance(high, dt.time):
        place, first, last, bins, labels = f"epoch({cell})", 0.0, 86400.0, 12, "hour"
    elif isinstance(low, (dt.date, dt.datetime)) and isinstance(high, (dt.date, dt.datetime)):
        place = f"epoch({cell})"
        first, last = _epoch(low), _epoch(high)
        bins, labels = _DATE_BINS, "date"
    else:
        assert isinstance(low, (int, float, Decimal)) and isinstance(high, (int, float, Decimal))
        place, first, last, bins, labels = f"CAST({cell} AS DOUBLE)", float(low), float(high), _NUMBER_BINS, "number"
    if first == last:
        # Numbers too large to be told apart have no shape.
        return [], ()
    width = (last - first) / bins
    if held is not None:
        binned = np.minimum(np.floor((held - first) / width).astype(np.int64), bins - 1)
        sizes = dict(enumerate(np.bincount(binned).tolist()))
    else:
        # The shape of a very long column is told from a tenth of its rows, taken from all over it.
        part, times = ("TABLESAMPLE system(10%)", 10) if rows > _SAMPLED_FROM else ("", 1)
        counted = connection.execute(
            f"SELECT least(CAST(floor(({place} - {first!r}) / {width!r}) AS INTEGER), {bins - 1}) AS bin, {times} * count(*) FROM {source} {part} WHERE {cell} IS NOT NULL GROUP BY 1"
        ).fetchall()
        sizes = {int(b): int(n) for b, n in counted}
    starts = [first + width * i for i in range(bins)]
    names = [_bin_label(s, labels) for s in starts]
    return [], tuple(Bar(label=names[i], rows=sizes.get(i, 0)) for i in range(bins))


def _held(connection: duckdb.DuckDBPyConnection, source: str, numbers: list[str]) -> dict[str, Floats]:
    """The values of all columns of numbers, those that are missing left out."""
    if not numbers:
        return {}
    cells = ", ".join(f"CAST({quoted(n)} AS DOUBLE) AS {quoted(n)}" for n in numbers)
    found = connection.execute(f"SELECT {cells} FROM {source}").fetchnumpy()
    return {name: np.ma.compressed(found[name]) for name in numbers}


def _bin_label(start: float, labels: str) -> str:
    if labels == "number":
        return f"{start:g}"
    if labels == "hour":
        return f"{int(start) // 3600:02d}:00"
    return dt.datetime.fromtimestamp(start, dt.UTC).date().isoformat()


def _label(value: object) -> str:
    return {True: "yes", False: "no"}[value] if isinstance(value, bool) else str(value)


def _epoch(value: dt.date) -> float:
    moment = value if isinstance(value, dt.datetime) else dt.datetime(value.year, value.month, value.day)
    return moment.replace(tzinfo=dt.UTC).timestamp()


def _of_hundred(column: Column, role: Role) -> str | None:
    """The unit, which is per cent where a column of shares has values beyond one: they are counted in hundredths already."""
    if role is not Role.PERCENTAGE or column.unit is not None:
        return column.unit
    largest = max((abs(float(end)) for end in (column.low, column.high) if end is not None), default=0.0)
    return "%" if largest > _MOST_OF_ONE else None
