"""Columns of dates, moments, times of day and durations."""

from __future__ import annotations

import datetime as dt
import itertools
import re
from collections.abc import Callable
from dataclasses import replace

import pyarrow as pa

from gumption.core.model.catalogue import Choice, Note
from gumption.core.model.files import DateOrder
from gumption.core.model.types import Type
from gumption.intake.column import Column, Kind
from gumption.intake.moments import (
    WHOLE_MONTHS,
    mixes_units,
    read_duration,
    read_minutes_and_seconds,
    read_moment,
    read_time,
    styles_of,
)
from gumption.intake.sql import literal, quoted

_MAPPED = 400_000
"""Distinct values up to which dates of odd shapes are read one by one."""
_DATE_NAME = re.compile(
    r"date|datum|fecha|dob|birth|born|(^|[_ ])(on|at|day|due|since|until|opened|closed|when)$", re.I
)
_MOMENT_NAME = re.compile(r"time|stamp|epoch|_at$|^ts$|_ts$|created|updated|date", re.I)
_DURATION_NAME = re.compile(r"durat|elaps|length|took|runtime|(^|[_ ])lap|wait|taken|dauer|spent|worked|hours", re.I)


def as_moment(column: Column) -> Kind | None:
    values = list(column.typed)
    styles = styles_of(values)
    digits = [s for s in styles if s.startswith(("%d", "%m")) and "%b" not in s]
    if styles:
        kinds = [_strptime(column, s) for s in styles]
        filled, *fits = column.count(*(k.sql for k in kinds))
        decided = _decided(column, kinds, fits, filled, bool(digits))
        if decided is not None:
            return decided
    if column.share(lambda v: read_moment(v, "day") is not None or read_moment(v, "month") is not None) < 0.88:
        return None
    if all(re.fullmatch(r"\d+", v) for v in values) and not _compact_dates(column, values):
        return None
    mapped = _moments_by_value(column)
    if mapped is None:
        return None
    kinds, fits, filled = mapped
    shapes = {m.shape for v in values if (m := read_moment(v, "day"))}
    return _decided(column, kinds, fits, filled, "two" in shapes)


def _compact_dates(column: Column, values: list[str]) -> bool:
    """True where digits alone are dates: all of them are, and the name says so or there are many."""
    whole = all((m := read_moment(v, "day")) and m.value and 1900 <= m.value.year <= 2100 for v in values)
    return whole and (bool(_DATE_NAME.search(column.name) or _MOMENT_NAME.search(column.name)) or len(values) >= 3)


def _strptime(column: Column, style: str) -> Kind:
    timed = "%H" in style
    if style == "%Y-%m-%d":
        sql = f"TRY_CAST({column.text} AS DATE)"
    elif timed:
        sql = f"try_strptime({column.text}, {literal(style)})"
    else:
        sql = f"CAST(try_strptime({column.text}, {literal(style)}) AS DATE)"
    return Kind(Type.TIMESTAMP if timed else Type.DATE, sql, date_format=style)


def _moments_by_value(column: Column) -> tuple[list[Kind], list[int], int] | None:
    """Dates read one by one, each way round: the kinds, the rows each fits, and all rows."""
    distinct = column.connection.execute(
        f"SELECT v, n FROM (SELECT {column.text} AS v, count(*) AS n FROM {column.table} GROUP BY 1) WHERE v IS NOT NULL LIMIT {_MAPPED + 1}"
    ).fetchall()
    if len(distinct) > _MAPPED:
        return None
    kinds, fits = [], []
    filled = sum(int(n) for v, n in distinct if v.lower() not in column.missing_words)
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
        name = f"moment_{order}_{column.cell}"
        moments = pa.table({"t": [v for v, _ in rows], "v": pa.array([m for _, m in rows], pa.timestamp("us"))})
        column.put(name, moments)
        sql = f"(SELECT v FROM {name} WHERE t = {column.table}.{quoted(column.cell)})"
        notes = _moment_notes(column, {m.shape for _, _, m in read}, zones)
        kind = Kind(
            Type.TIMESTAMP if timed else Type.DATE,
            sql if timed else f"CAST({sql} AS DATE)",
            simple=False,
            notes=notes,
        )
        kinds.append(kind)
        fits.append(sum(n for _, n, _ in read))
    return kinds, fits, filled


def _moment_notes(column: Column, shapes: set[str], zones: set[int]) -> tuple[Note, ...]:
    notes = []
    example = next(iter(column.typed))
    if shapes and shapes <= set(WHOLE_MONTHS):
        notes.append(column.note("type", f"{column.name}: months such as “{example}” read as the month's first day"))
    elif shapes - {"ymd", "two"}:
        notes.append(column.note("type", f"{column.name}: “{example}” read as a date"))
    elif len(shapes) > 1:
        notes.append(column.note("type", f"{column.name}: dates are written in {len(shapes)} ways, all read"))
    if len(zones) > 1:
        notes.append(column.note("type", f"{column.name}: several time zones, all put to UTC"))
    elif zones:
        minutes = next(iter(zones))
        ahead = f"UTC{minutes // 60:+d}" if minutes else "UTC"
        notes.append(column.note("type", f"{column.name}: times are those of {ahead}, as written"))
    return tuple(notes)


def _decided(column: Column, kinds: list[Kind], fits: list[int], filled: int, in_digits: bool) -> Kind | None:
    """The kind that more rows fit; where day and month could be either way round, what else speaks."""
    if len(kinds) == 1 or not in_digits:
        best = max(range(len(kinds)), key=lambda i: (fits[i], -i))
        return _dated(column, kinds[best], filled, fits[best], None)
    order: DateOrder | None = column.context.orders.get(column.name)
    if order is None and fits[0] != fits[1]:
        order = "day" if fits[0] > fits[1] else "month"
    if order is not None:
        place = 0 if order == "day" else 1
        chosen = replace(kinds[place], order=order)
        return _dated(column, chosen, filled, fits[place], order)
    same = column.connection.execute(
        f"SELECT count(*) FROM {column.table} WHERE {kinds[0].sql} <> {kinds[1].sql}"
    ).fetchone()
    if same and not same[0]:
        return _dated(column, kinds[0], filled, fits[0], None)
    order, why = _likelier(column, kinds)
    place = 0 if order == "day" else 1
    found = _dated(column, replace(kinds[place], undecided=not why), filled, fits[place], order)
    if found is None:
        return None
    other: DateOrder = "month" if order == "day" else "day"
    example = next(iter(column.typed))
    note = Note(
        act=f"{column.name}: “{example}” could be either way round; read as {order} first",
        detail=why or "nothing in the file tells; say which is right",
        key=f"order:{column.name}",
        column=column.name,
        caution=not why,
        rows=fits[place],
        examples=tuple(list(column.typed)[:3]),
        choices=(Choice(label=f"read as {other} first", column=column.name, order=other),),
    )
    return replace(found, notes=(note, *(n for n in found.notes if n.caution)))


def _likelier(column: Column, kinds: list[Kind]) -> tuple[DateOrder, str]:
    """Day or month first, and why; no reason where it is only the commoner habit."""
    if column.context.order is not None:
        return column.context.order, "as the file's other dates are"
    sql = ", ".join(k.sql for k in kinds)
    rows = column.connection.execute(f"SELECT {sql} FROM {column.table} ORDER BY n LIMIT 20000").fetchall()
    ordered = []
    for place in (0, 1):
        told = [r[place] for r in rows if r[place] is not None]
        steps = [b >= a for a, b in itertools.pairwise(told)]
        ordered.append(len(told) > 5 and (all(steps) or not any(b > a for a, b in itertools.pairwise(told))))
    if ordered[0] != ordered[1]:
        return ("day" if ordered[0] else "month"), "the rows are in order of time that way"
    if all("." in v.split(" ")[0] for v in column.typed):
        return "day", "dates with points put the day first"
    return "day", ""


def _dated(column: Column, kind: Kind, filled: int, fits: int, order: DateOrder | None) -> Kind | None:
    if kind.type is Type.TIMESTAMP and kind.date_format:
        kind = _whole_days(column, kind, fits)
    held = column.held(kind, filled, fits, lambda v: bool(read_moment(v, "day") or read_moment(v, "month")))
    if held is None:
        return None
    if order is not None and not any(n.key == f"order:{column.name}" for n in held.notes):
        note = column.note("type", f"{column.name}: dates read as {order} first", detail="as the whole column shows")
        held = replace(held, notes=(note, *held.notes))
    return column.with_missing_words(held)


def _whole_days(column: Column, kind: Kind, fits: int) -> Kind:
    """Moments that are all midnight are dates."""
    timed = column.connection.execute(
        f"SELECT count(*) FROM {column.table} WHERE {kind.sql} <> date_trunc('day', {kind.sql})"
    ).fetchone()
    if timed and not timed[0] and fits > 1:
        note = column.note("type", f"{column.name}: every time is midnight, so read as dates")
        return replace(kind, type=Type.DATE, sql=f"CAST({kind.sql} AS DATE)", notes=(*kind.notes, note))
    return kind


def as_clock(column: Column) -> Kind | None:
    if column.bare:
        return None
    named = bool(_DURATION_NAME.search(column.name))
    times = column.share(lambda v: read_time(v) is not None)
    durations = column.share(lambda v: read_duration(v) is not None and mixes_units(v))
    if max(times, durations) < 0.88:
        return None
    long = durations > times or (durations >= 0.88 and (named or _times_taken(column)))
    short = (long or durations >= 0.88) and _in_minutes(column)
    long = long or short
    reader: Callable[[str], object] = read_minutes_and_seconds if short else read_duration if long else read_time
    distinct = column.connection.execute(
        f"SELECT DISTINCT {column.text} FROM {column.table} WHERE {column.text} IS NOT NULL LIMIT {_MAPPED + 1}"
    ).fetchall()
    if len(distinct) > _MAPPED:
        return None
    read = {v: r for (v,) in distinct if (r := reader(v)) is not None}
    name = f"clock_{column.cell}"
    column.put(
        name,
        pa.table({"t": list(read), "v": pa.array(list(read.values()), pa.float64() if long else pa.time64("us"))}),
    )
    what = "minutes and seconds" if short else "durations" if long else "times of day"
    kind = Kind(
        Type.DURATION if long else Type.TIME,
        f"(SELECT v FROM {name} WHERE t = {column.table}.{quoted(column.cell)})",
        simple=False,
        notes=(column.note("type", f"{column.name}: “{next(iter(column.typed))}” and the like read as {what}"),),
    )
    filled, fits = column.count(kind.sql)
    held = column.held(kind, filled, fits, lambda v: bool(re.fullmatch(r"\d{1,2}:\d{2}(:\d{2})?", v)))
    return column.with_missing_words(held) if held else None


_MINUTES_IN_NAME = re.compile(
    r"\bm{1,2}[:.]ss\b|\bmins?\s*[:/&]\s*secs?\b|\bminutes?\s*(?::|/|&|and)\s*seconds?\b", re.I
)
_SHORT_THINGS = re.compile(
    r"\b(call|talk|handle|hold|track|song|lap|split|race|finish|chip|gun|run|swim|pace|video|clip)\b", re.I
)


def _in_minutes(column: Column) -> bool:
    """True for 25:58 that is told in minutes and seconds: the head says so, or no day has so many hours and what is
    told of takes minutes."""
    if _MINUTES_IN_NAME.search(column.name):
        return True
    if not _SHORT_THINGS.search(column.name):
        return False
    told = [v.strip() for v in column.typed if re.fullmatch(r"\d{1,3}:\d{2}", v.strip())]
    return any(int(v.split(":")[0]) > 23 for v in told)


def _times_taken(column: Column) -> bool:
    """True for 1:22:04 and the like: a time of day told to the second has two digits for its hour."""
    told = [v for v in column.typed if re.fullmatch(r"\d{1,2}:\d{2}:\d{2}", v.strip())]
    short = [v for v in told if v.strip()[1] == ":"]
    seconds = [v for v in told if not v.strip().endswith(":00")]
    return len(told) >= 5 and 2 * len(short) > len(column.typed) and 2 * len(seconds) > len(told)


def as_serial(column: Column, kind: Kind) -> Kind:
    """Days since 1900 as spreadsheets count them, and seconds since 1970, where the name says date."""
    if kind.unit or kind.strip or not (_DATE_NAME.search(column.name) or _MOMENT_NAME.search(column.name)):
        return kind
    row = column.connection.execute(
        f"SELECT min(v), max(v), bool_and(v = floor(v)) FROM (SELECT CAST({kind.sql} AS DOUBLE) AS v FROM {column.table})"
    ).fetchone()
    if row is None or row[0] is None:
        return kind
    low, high, whole = row
    number = f"CAST({kind.sql} AS DOUBLE)"
    if low >= 20_000 and high <= 60_000 and (_DATE_NAME.search(column.name) or not whole):
        moment = f"(TIMESTAMP '1899-12-30' + to_microseconds(CAST(round({number} * 86400) AS BIGINT) * 1000000))"
        what = "days counted from 1900"
    elif low >= 631_152_000 and high <= 4_102_444_800 and _MOMENT_NAME.search(column.name):
        moment, whole = f"make_timestamp(CAST({number} * 1000000 AS BIGINT))", False
        what = "seconds counted from 1970, UTC"
    elif low >= 631_152_000_000 and high <= 4_102_444_800_000 and _MOMENT_NAME.search(column.name):
        moment, whole = f"make_timestamp(CAST({number} * 1000 AS BIGINT))", False
        what = "milliseconds counted from 1970, UTC"
    else:
        return kind
    note = column.note("type", f"{column.name}: “{next(iter(column.typed))}” and the like read as dates, {what}")
    return replace(
        kind,
        type=Type.DATE if whole else Type.TIMESTAMP,
        sql=f"CAST({moment} AS DATE)" if whole else moment,
        scale=0,
        simple=False,
        notes=(*kind.notes, note),
    )
