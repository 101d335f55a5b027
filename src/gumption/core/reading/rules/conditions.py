"""Conditions on rows: values, numbers, times, gaps, text, states, and rows of other tables."""

from __future__ import annotations

import dataclasses
import datetime as dt
from collections.abc import Callable, Sequence
from typing import TypeAlias

from gumption.core.reading import lexicon
from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import (
    Amount,
    Counted,
    Did,
    Function,
    Grouped,
    Held,
    InEvery,
    Lapsed,
    Measured,
    Never,
    Noun,
    Part,
    Rated,
    Ratio,
    Reached,
    Shared,
    Values,
    Worked,
    Worth,
    as_counted,
)
from gumption.core.reading.rules.groups import UNITS_OF_TIME
from gumption.core.reading.times import Span, span_condition


def _is(values: Values) -> Part:
    return Part(m.Is(values.column, values.values))


def _not(part: Part) -> Part | None:
    if not isinstance(part, Part):
        return None
    if isinstance(part.condition, m.Not):
        # Not dealt with, where what is dealt with has a day on which it was.
        return Part(part.condition.item, part.kind) if part.kind == "state" else None
    return Part(m.Not(part.condition), part.kind)


def _so_many_there(parts: tuple[object, ...]) -> Held | None:
    """Where the number of visits is over thirty: so many rows of each."""
    counted = next(p for p in parts if isinstance(p, (Counted, Noun)))
    op = next(p for p in parts if p in ("<", "<=", ">", ">=", "=", "!="))
    number = next(p for p in parts if isinstance(p, float))
    if isinstance(counted, Noun):
        counted = Counted(counted)
    return Held(counted, op, number) if counted.noun.table is not None else None  # type: ignore[arg-type]


def outside(span: Span) -> Part:
    """At any other time."""
    return Part(m.Not(span_condition(span, m.EventTime())), "time")


def _for_one(values: Values, noun: Noun) -> tuple[Part, Worked] | None:
    """What a dental costs is what one costs, the mean of them all."""
    return (_is(values), Worked(m.Aggregated("mean", m.Col(noun.key)))) if noun.key is not None else None


def _of_own(values: Values, noun: Noun) -> Part | None:
    return Part(m.Is(values.column, values.values)) if noun.key == values.column else None


def _either(one: Values, two: Values) -> Values | None:
    if one.column != two.column or one == two or one.partly != two.partly:
        return None
    return Values(one.column, tuple(dict.fromkeys((*one.values, *two.values))), one.partly)


def _either_part(one: Part, two: Part) -> Part | None:
    if not isinstance(one, Part) or not isinstance(two, Part) or one == two:
        return None
    if (one.kind == "time") != (two.kind == "time"):
        return None
    if len(m.times_in((one.condition, two.condition))) > 1:
        # Raised in May and completed in June is both, and stands as two conditions.
        return None
    return Part(m.Any((one.condition, two.condition)), one.kind)


def compared(op: m.Comparison, expr: m.Expr, number: float) -> Part:
    return Part(m.Compared(op, expr, m.Number(number)), "number")


def _more_of_it(op: m.Comparison, expr: m.Expr, number: float) -> Part | None:
    """Heavier than 20; what is older than 2015 is no 2015 years old."""
    aged = isinstance(expr, m.Length) and expr.unit in ("years", "whole_years")
    return compared(op, expr, number) if not aged or not is_year(number) else None


def _both_ends(measured: Measured, one: m.Comparison, a: float, two: m.Comparison, b: float) -> Part | None:
    """At least so much and less than so much."""
    if one[0] == two[0] or "=" in (one, two):
        return None
    ends = tuple(m.Compared(op, measured.expr, m.Number(n)) for op, n in ((one, a), (two, b)))
    return Part(m.All(ends), "number")


def is_year(number: float) -> bool:
    """True for a number that is rather the name of a year."""
    return number.is_integer() and 1950 <= number <= 2050


def between(expr: m.Expr, low: float, high: float) -> Part | None:
    if high < low or (is_year(low) and is_year(high)):
        return None
    return Part(m.All((m.Compared(">=", expr, m.Number(low)), m.Compared("<=", expr, m.Number(high)))), "number")


def _at(noun: Noun, span: Span) -> Part | None:
    if noun.key is None:
        return None
    return Part(span_condition(span, m.Col(noun.key)), "time")


def _known(noun: Noun) -> Part | None:
    """That something stands in a column."""
    return Part(m.Not(m.Missing(noun.key)), "gap") if noun.key is not None else None


def _missing(noun: Noun) -> Part | None:
    return Part(m.Missing(noun.key), "gap") if noun.key is not None else None


def _on_off_on(parts: tuple[object, ...], places: tuple[int, int, int] = (0, 1, 2)) -> tuple[object, ...] | None:
    """With a visit in one year, none in the next and one again in the one after."""
    rows = next((p for p in parts if isinstance(p, Noun)), None)
    spans = [p for p in parts if isinstance(p, Span)]
    if rows is None or len(spans) != 3:
        return None
    found = []
    for place, there in zip(places, (True, False, True), strict=True):
        part = rows_having(">=", 1, rows, Part(span_condition(spans[place], m.EventTime()), "time"))
        if part is None:
            return None
        found.append(part if there else Part(m.Not(part.condition), part.kind))
    return tuple(found)


def _first_then(parts: tuple[object, ...]) -> Part | None:
    """Those whose first order fell in a time."""
    below, span = parts[0], parts[-1]
    if not isinstance(below, m.Below) or not isinstance(span, Span) or span.part is not None:
        return None
    return Part(span_condition(span, below), "first")


def _done_within(part: Part, stretch: tuple[m.LengthUnit, float]) -> Part | None:
    """Done within a week: from when it happened to the day that says it is done."""
    known = part.condition.item if isinstance(part.condition, m.Not) else None
    if not isinstance(known, m.Missing):
        return None
    length = m.Length(stretch[0], m.EventTime(), m.Col(known.column))
    return Part(m.Compared("<=", length, m.Number(stretch[1])), "state")


def _done_days_later(part: Part, op: m.Comparison, days: float) -> Part | None:
    """Done the same day: so many days after it happened."""
    known = part.condition.item if isinstance(part.condition, m.Not) else None
    if not isinstance(known, m.Missing):
        return None
    length = m.Length("days", m.PartOf("day", m.EventTime()), m.PartOf("day", m.Col(known.column)))
    return Part(m.Compared(op, length, m.Number(days)), "state")


def _rows_dated(rows: Noun, date: Noun, span: Span) -> tuple[Noun, Part] | None:
    """Absences that began in 2024: by a date of their own."""
    if rows.table is None or date.key is None or date.key.table != rows.table:
        return None
    return rows, Part(span_condition(span, m.Col(date.key)), "time")


def _never_so(part: Part) -> Part | None:
    """Those of whose rows none is so; homes that were never let have no tenancy at all, and not only none at present."""
    has = part.condition
    if isinstance(has, m.Has):
        at_present = (m.Missing, m.Today, m.Now)
        ever = tuple(c for c in has.rows.where if not any(isinstance(p, at_present) for p in m.parts(c)))
        return Part(m.Not(m.Has(m.Rows(has.rows.table, ever))), "related")
    tables = {k.table for k in m.columns_in(part.condition)}
    if len(tables) != 1:
        return None
    return Part(m.Not(m.Has(m.Rows(tables.pop(), (part.condition,)))), "related")


def _so_many_unknown(op: m.Comparison, number: float, noun: Noun) -> Held:
    """Members with more than ten visits: so many rows, whatever these are called."""
    return Held(Counted(noun), op, number)


def _flag(noun: Noun, value: bool = True) -> Part | None:
    if noun.key is None:
        return None
    return Part(m.Is(noun.key, (value,)), "flag")


def _neither(one: Noun, two: Noun) -> Part | None:
    """Without the one and without the other."""
    if one.key is None or two.key is None or one == two:
        return None
    return Part(m.All((m.Missing(one.key), m.Missing(two.key))), "gap")


def _flags(join: type[m.All] | type[m.Any], value: bool = True):  # type: ignore[no-untyped-def]
    def build(one: Noun, two: Noun) -> Part | None:
        if one.key is None or two.key is None or one == two:
            return None
        return Part(join((m.Is(one.key, (value,)), m.Is(two.key, (value,)))), "flag")

    return build


def _says(how: str, *, quoted: bool = True):  # type: ignore[no-untyped-def]
    """What a text says; a bare word may be a small one that only stands there."""

    def build(noun: Noun, text: str) -> Part | None:
        if not quoted and text.lower() in lexicon.fillers():
            return None
        return Part(m.Says(noun.key, how, text), "text") if noun.key is not None else None  # type: ignore[arg-type]

    return build


def _clock(op: m.Comparison):  # type: ignore[no-untyped-def]
    def build(noun: Noun, at: str) -> Part | None:
        return Part(m.Clock(m.Col(noun.key), op, at), "number") if noun.key is not None else None

    return build


def _hour(hour: float, later: int) -> str | None:
    """A time of day told by its hour, so many hours later than it says."""
    if not float(hour).is_integer() or not 0 <= hour <= (12 if later else 24):
        return None
    return f"{int(hour) % 12 + later if later else int(hour):02d}:00:00"


def rows_having(op: m.Comparison, number: float, noun: Noun, *parts: Part) -> Part | None:
    """So many rows of another table, of those that meet conditions."""
    if noun.table is None or not float(number).is_integer() or any(p.kind == "related" for p in parts):
        return None
    return Part(m.Has(m.Rows(noun.table, tuple(p.condition for p in parts)), op, int(number)), "related")


def _has_having(noun: Noun, part: Part, op: m.Comparison = ">=", number: float = 1.0) -> Part | None:
    """Owners with animals that had no visits: rows of another table that themselves have some of a third, or none."""
    if noun.table is None or part.kind != "related" or not number.is_integer():
        return None
    has = part.condition.item if isinstance(part.condition, m.Not) else part.condition
    if not isinstance(has, m.Has) or has.rows.table == noun.table:
        return None
    return Part(m.Has(m.Rows(noun.table, (part.condition,)), op, int(number)), "related")


def _whose_have(noun: Noun, part: Part) -> Part | None:
    """Owners whose animals had no visits: none of them had any."""
    some = _has_having(noun, part)
    if some is None or noun.table is None or not isinstance(part.condition, m.Not):
        return some
    none = m.Not(m.Has(m.Rows(noun.table, (part.condition.item,))))
    return Part(m.All((m.Has(m.Rows(noun.table)), none)), "related")


def _across(found: Noun, op: m.Comparison, number: float, noun: Noun, *parts: Part) -> Part | None:
    """Owners with visits of more than one animal: so many of one kind of rows that have some of another."""
    inner = rows_having(">=", 1, found, *parts)
    return _has_having(noun, inner, op, number) if inner is not None else None


def _such_rows(part: Part, op: m.Comparison, number: float, noun: Noun) -> Part | None:
    """Missed more than two appointments: so many that were missed."""
    if part.kind not in ("value", "state", "flag") or {k.table for k in m.columns_in(part.condition)} != {noun.table}:
        return None
    return rows_having(op, number, noun, part)


_DONE_SO = frozenset(
    [
        "been",
        "came",
        "come",
        "went",
        "gone",
        "took",
        "taken",
        "sold",
        "bought",
        "seen",
        "saw",
        "won",
        "lost",
        "paid",
        "met",
        "made",
        "ran",
        "sat",
        "gave",
        "given",
        "spent",
        "sent",
    ]
)


def _in_every(parts: tuple[object, ...]) -> InEvery | None:
    """Of every one of some things, or in every period, those that are meant have rows."""
    done = next((p for p in reversed(parts[:-1]) if isinstance(p, str)), "")
    if not done.endswith("ed") and done not in _DONE_SO:
        return None
    return every_one(parts[-1])


_OTHERWISE: dict[m.Comparison, m.Comparison] = {">": "<=", ">=": "<", "<": ">=", "<=": ">", "=": "!=", "!=": "="}


def _so_then_no_more(parts: tuple[object, ...]) -> Part | None:
    """Awarded in 2024 but not in 2025: rows that were so at the one time, and none at the other."""
    such = next(p for p in parts if isinstance(p, Values))
    first, last = (Part(span_condition(p, m.EventTime()), "time") for p in parts if isinstance(p, Span))
    rows, state = Noun(table=such.column.table), Part(m.Is(such.column, such.values), "value")
    then, no_more = rows_having(">=", 1, rows, state, first), has_none(rows, state, last)
    if then is None or no_more is None:
        return None
    return Part(m.All((then.condition, no_more.condition)), "related")


def _so_in_every(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Were awarded something in every year: of what was, there is some in every period."""
    such, held = parts[0], every_one(parts[-1])
    if held is None or not isinstance(such, Part) or such.kind not in ("value", "state", "flag", "gap"):
        return None
    return held, such


def every_one(of: object, rows: Noun | None = None) -> InEvery | None:
    """Every one of some things, or every period, of which there are rows."""
    match of:
        case Noun() if not of.unknown:
            return InEvery(of, rows)
        case str() if of in UNITS_OF_TIME:
            return InEvery(of, rows)
        case _:
            return None


def _by_sign(noun: Noun, op: str, values: Values) -> Part | None:
    """A column with or without a value, said by a sign."""
    if noun.key != values.column or op not in ("=", "!="):
        return None
    told = m.Is(values.column, values.values)
    return Part(told if op == "=" else m.Not(told), "value")


def _gone_by(noun: Noun) -> Part | None:
    """Those whose day has gone by."""
    return Part(m.Compared("<", m.Col(noun.key), m.Now()), "time") if noun.key is not None else None


def has_none(noun: Noun, *parts: Part) -> Part | None:
    found = rows_having(">=", 1, noun, *parts)
    return Part(m.Not(found.condition), "related") if found is not None else None


def _none_of_those(parts: tuple[object, ...]) -> Part | None:
    """All but those with visits in 2024."""
    noun = next(p for p in parts if isinstance(p, Noun))
    return has_none(noun, *(p for p in parts if isinstance(p, Part)))


def _then_none(parts: tuple[object, ...]) -> Part | None:
    """Rows of another table at one time, and none at another."""
    return _at_two_times(parts, lambda noun, last: has_none(noun, last))


def _at_two_times(parts: tuple[object, ...], other: Callable[[Noun, Part], Part | None]) -> Part | None:
    """Rows of another table at one time, and what is said of them at another."""
    noun = next(p for p in parts if isinstance(p, Noun))
    first, last = (Part(span_condition(p, m.EventTime()), "time") for p in parts if isinstance(p, Span))
    had, then = rows_having(">=", 1, noun, first), other(noun, last)
    if had is None or then is None or first == last:
        return None
    return Part(m.All((had.condition, then.condition)), "related")


def only_such(noun: Noun, part: Part) -> Part | None:
    """Rows of another table there are, and none that is otherwise."""
    if noun.table is None or part.kind in ("time", "related"):
        return None
    other = part.condition.item if isinstance(part.condition, m.Not) else m.Not(part.condition)
    every = m.All((m.Has(m.Rows(noun.table)), m.Not(m.Has(m.Rows(noun.table, (other,))))))
    return Part(every, "related")


def _rows_and_part(parts: tuple[object, ...]) -> tuple[Noun, Part]:
    rows = next(p for p in parts if isinstance(p, Noun))
    told = next(p for p in parts if isinstance(p, (Part, Values)))
    return rows, _is(told) if isinstance(told, Values) else told


def both(one: Values, two: Values) -> Part | None:
    """Rows of the values' table with the one, and others with the other."""
    if one.column != two.column or one == two:
        return None
    table = one.column.table
    sides = (m.Has(m.Rows(table, (m.Is(v.column, v.values),))) for v in (one, two))
    return Part(m.All(tuple(sides)), "related")


def _done_with(part: Part) -> Part | None:
    return part if part.kind in ("value", "related") else None


def _all_held(*kinds: Values) -> Part | None:
    """Rows with each of several values, whichever rows these are."""
    if len({v.column for v in kinds}) != 1 or len(set(kinds)) != len(kinds):
        return None
    return Part(m.All(tuple(_holds(v).condition for v in kinds)), "related")


def _one_not_other(one: Values, other: Values) -> Part | None:
    """Rows with the one, and none with the other."""
    if one.column != other.column or one == other:
        return None
    return Part(m.All((_holds(one).condition, m.Not(_holds(other).condition))), "related")


def _just_one_of(one: Values, other: Values) -> Part | None:
    """Rows with one of two values, and not with both."""
    if one.column != other.column or one == other:
        return None
    first, second = _holds(one).condition, _holds(other).condition
    return Part(m.Any((m.All((first, m.Not(second))), m.All((second, m.Not(first))))), "related")


def _neither_held(one: Values, other: Values) -> Part | None:
    """No rows with the one, and none with the other."""
    both = _either(one, other)
    return Part(m.Not(_holds(both).condition), "related") if both is not None else None


def _held_by(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How many have both of two values."""
    both = _all_held(*(p for p in parts if isinstance(p, Values)))
    noun = next(p for p in parts if isinstance(p, Noun))
    return (Counted(noun), both) if both is not None else None


def _so_many(op: m.Comparison, parts: tuple[object, ...]) -> Part | None:
    """So many rows of another table, however that is said."""
    noun = next(p for p in parts if isinstance(p, Noun))
    return rows_having(op, next(p for p in parts if isinstance(p, float)), noun)


def _so_many_only(parts: tuple[object, ...]) -> Part | None:
    """Two or more animals, every one a dog."""
    held = _so_many(next(p for p in parts if p in (">=", "<=")), parts)
    only = _only_values(next(p for p in parts if isinstance(p, Values)))
    return Part(m.All((held.condition, only.condition)), "related") if held is not None else None


def _only_values(values: Values) -> Part:
    """Rows with a value there are, and none with another."""
    such = m.Is(values.column, values.values)
    rows = (m.Rows(values.column.table, (c,)) for c in (such, m.Not(such)))
    has, lacks = (m.Has(r) for r in rows)
    return Part(m.All((has, m.Not(lacks))), "related")


def _none_of(values: Values) -> Part:
    return Part(m.Not(m.Is(values.column, values.values)), "value")


def _so_many_of(op: m.Comparison, number: float, values: Values) -> Part | None:
    """At least two dogs: so many rows with that value."""
    if (op, number) == (">=", 1):
        return None
    return _so_many_so(op, number, Part(m.Is(values.column, values.values), "value"))


def _so_many_so(op: m.Comparison, number: float, part: Part) -> Part | None:
    """With more than three overdue: so many rows of which that is so."""
    tables = {k.table for k in m.columns_in(part.condition)}
    if not float(number).is_integer() or number < 1 or len(tables) != 1:
        return None
    return Part(m.Has(m.Rows(next(iter(tables)), (part.condition,)), op, int(number)), "related")


def _one_without(one: Values, two: Values) -> Part | None:
    if one.column != two.column or one == two:
        return None
    has, lacks = (m.Has(m.Rows(v.column.table, (m.Is(v.column, v.values),))) for v in (one, two))
    return Part(m.All((has, m.Not(lacks))), "related")


def _beyond(op: m.Comparison, noun: Noun, span: Span) -> Part | None:
    """A date held against a day or a period by a sign."""
    if noun.key is None or span.part is not None or span.low is None or span.high is None:
        return None
    day = dt.timedelta(days=1)
    time = m.Col(noun.key)
    match op:
        case "<":
            return Part(m.Within(time, None, span.low - day), "time")
        case "<=":
            return Part(m.Within(time, None, span.high), "time")
        case ">":
            return Part(m.Within(time, span.high + day, None), "time")
        case ">=":
            return Part(m.Within(time, span.low, None), "time")
        case "=" | "!=":
            found: m.Condition = m.Within(time, span.low, span.high)
            return Part(found if op == "=" else m.Not(found), "time")


def _workdays() -> Part:
    return Part(m.PartIs("weekday", m.EventTime(), (1, 2, 3, 4, 5)), "time")


def _lacks(values: Values, span: Span | None = None) -> Part:
    """No row of the values' table with one of them."""
    return Part(m.Not(_holds(values, span).condition), "related")


def _holds(values: Values, span: Span | None = None) -> Part:
    where: tuple[m.Condition, ...] = (m.Is(values.column, values.values),)
    if span is not None:
        where = (*where, span_condition(span, m.EventTime()))
    return Part(m.Has(m.Rows(values.column.table, where)), "related")


def _lasting(unit: m.LengthUnit, size: float = 1.0):  # type: ignore[no-untyped-def]
    """How long something took, held against so many of a unit, each of `size` of the unit it is measured in."""

    def build(took: Measured, op: m.Comparison, number: float = 1.0) -> Part | None:
        if not isinstance(took.expr, m.Length):
            return None
        return compared(op, dataclasses.replace(took.expr, unit=unit), size * number)

    return build


def _stretched(op: m.Comparison, start: Noun | None, end: Noun, stretch: tuple[m.LengthUnit, float]) -> Part | None:
    """So long from one date to another; from when things happened where only one is named."""
    if end.key is None or start == end or (start is not None and start.key is None):
        return None
    first = m.Col(start.key) if start is not None and start.key is not None else m.EventTime()
    return compared(op, m.Length(stretch[0], first, m.Col(end.key)), stretch[1])


def _times_the_mean(parts: tuple[object, ...], times: float) -> Part | None:
    """More than twice what is usual."""
    measured = next(p for p in parts if isinstance(p, Measured))
    op = next(p for p in parts if isinstance(p, str) and p in ("<", "<=", ">", ">=", "="))
    said = next((p for p in parts if isinstance(p, float)), times)
    function = next((p for p in parts if isinstance(p, Function)), None)
    if function is not None and function.function not in ("mean", "median"):
        return None
    usual = m.Aggregated(function.function if function is not None else "mean", measured.expr)  # type: ignore[arg-type]
    return Part(m.Compared(op, measured.expr, m.Combined("*", usual, m.Number(said))), "number")  # type: ignore[arg-type]


Live: TypeAlias = tuple[m.Col, m.Col | None, bool, m.Col | None]
"""What tells from when to when something is in force: its first and last day, whether the last may be missing, and
the day on which it was given up before that, where there is one. What has no last day is there from its first day on."""


def _running_then(live: Live, span: Span, end: str) -> Part | None:
    """In force on a day: it had begun by then, and had not ended."""
    first, last, gone, given_up = live
    if span.low is None or span.high is None or span.part is not None or (not end and span.low != span.high):
        return None
    day = span.high if end == "high" else span.low
    if last is None:
        return Part(m.Within(first, None, day), "state")
    ended: m.Condition = m.Within(last, day, None)
    if gone:
        # What was done with on the last day was not open any more at its end.
        later = m.Within(last, day + dt.timedelta(days=1), None) if end == "high" else ended
        ended = m.Any((m.Missing(last.key), later))
    return Part(m.All((m.Within(first, None, day), ended, *_not_given_up(given_up, day))), "state")


def _not_given_up(on: m.Col | None, day: dt.date) -> tuple[m.Condition, ...]:
    """What was not given up by a day: not at all, or later."""
    if on is None:
        return ()
    return (m.Any((m.Missing(on.key), m.Within(on, day + dt.timedelta(days=1), None))),)


def _running_within(live: Live, span: Span) -> Part | None:
    """Open at any time of a year: it had begun before that ended, and had not ended before that began."""
    first, last, gone, given_up = live
    if span.low is None or span.high is None or span.part is not None or last is None:
        return None
    ended: m.Condition = m.Within(last, span.low, None)
    if gone:
        ended = m.Any((m.Missing(last.key), ended))
    return Part(m.All((m.Within(first, None, span.high), ended, *_not_given_up(given_up, span.low))), "state")


def _such_running_then(live: Live, noun: Noun, span: Span, end: str) -> tuple[Noun, Part] | None:
    """Active policies at the end of a year."""
    part = _running_then(live, span, end)
    return (noun, part) if part is not None and noun.table == live[0].key.table else None


def _how_many_then(parts: tuple[object, ...], end: str) -> tuple[Counted, Part] | None:
    """How many there were of them at the end of a year."""
    noun, live = next(p for p in parts if isinstance(p, tuple) and isinstance(p[0], Noun))
    span = next(p for p in parts if isinstance(p, Span))
    such = _such_running_then(live, noun, span, end)
    return (Counted(noun), such[1]) if such is not None else None


def _after(date: Noun, op: m.Comparison, stretch: tuple[m.LengthUnit, float]) -> Part | None:
    """So long after a date: from then to when things happened."""
    if date.key is None or stretch[0] in ("minutes", "hours"):
        return None
    length = m.Length(stretch[0], m.Col(date.key), m.EventTime())
    held = _as_long(op, length, stretch[1]).condition
    if op in ("<", "<="):
        return Part(m.All((m.Compared(">=", length, m.Number(0.0)), held)), "number")
    return Part(held, "number")


def _member_for(parts: tuple[object, ...]) -> Part | None:
    """For so long with the house: from the day they joined until today."""
    date = next(p for p in parts if isinstance(p, Noun))
    op = next(p for p in parts if isinstance(p, str))
    stretch = next(p for p in parts if isinstance(p, tuple))
    return _ago(date, op, stretch)  # type: ignore[arg-type]


def _from_to(part: Part) -> tuple[m.Expr, m.Expr] | None:
    """From when to when something is late: from the day it was due."""
    for condition in m.parts(part.condition):
        if isinstance(condition, m.Compared) and isinstance(condition.left, m.Col):
            if isinstance(condition.right, m.Col) and condition.op == ">":
                return condition.right, condition.left
            if isinstance(condition.right, m.Today) and condition.op == "<":
                return condition.left, condition.right
    return None


def _later_by(part: Part, op: m.Comparison, stretch: tuple[m.LengthUnit, float]) -> Part | None:
    ends = _from_to(part)
    if ends is None:
        return None
    longer = m.Compared(op, m.Length(stretch[0], *ends), m.Number(stretch[1]))
    return Part(m.All((part.condition, longer)), "number")


def _lateness(unit: m.LengthUnit, part: Part) -> Measured | None:
    ends = _from_to(part)
    return Measured(m.Length(unit, *ends)) if ends is not None else None


def _now(noun: Noun, part: Part, none: bool) -> Part | None:
    """Rows of another table that are so at present, or none."""
    tables = {k.table for k in m.columns_in(part.condition)}
    if noun.table is None or tables != {noun.table}:
        return None
    has = m.Has(m.Rows(noun.table, (part.condition,)))
    return Part(m.Not(has) if none else has, "related")


def _aged(op: m.Comparison, stretch: tuple[m.LengthUnit, float]) -> Part:
    """So long ago."""
    return _as_long(op, m.Length(stretch[0], m.EventTime(), m.Now()), stretch[1])


_WHOLE_MONTHS: dict[m.Comparison, m.Comparison] = {">": ">=", "<=": "<"}


def _as_long(op: m.Comparison, length: m.Length, number: float) -> Part:
    """A length held against a number: months are counted whole, so that six of them and a day are more than six."""
    return compared(_WHOLE_MONTHS.get(op, op) if length.unit == "months" else op, length, number)


def _ago(noun: Noun, op: m.Comparison, stretch: tuple[m.LengthUnit, float]) -> Part | None:
    """Joined more than two years ago: of that day."""
    if noun.key is None:
        return None
    return _as_long(op, m.Length(stretch[0], m.Col(noun.key), m.Now()), stretch[1])


def _not_done_since(noun: Noun, span: Span) -> Part | None:
    """Not serviced since March, of when it was last done."""
    if noun.key is None or span.low is None or span.part is not None:
        return None
    return Part(m.Not(m.Within(m.Col(noun.key), span.low, None)), "time")


def _soon(noun: Noun, stretch: tuple[m.LengthUnit, float]) -> Part | None:
    """Ends within a year: from today on, and no later."""
    if noun.key is None or stretch[0] in ("minutes", "hours"):
        return None
    ahead = m.Length(stretch[0], m.Now(), m.Col(noun.key))
    last = _as_long("<=", ahead, stretch[1]).condition
    return Part(m.All((m.Compared(">=", ahead, m.Number(0.0)), last)), "time")


def _lasting_till_now(part: Part, op: m.Comparison, stretch: tuple[m.LengthUnit, float]) -> Part | None:
    """Open for more than two weeks: from when it happened until today."""
    if (due := _fell_due(part)) is not None:
        since = _as_long(op, m.Length(stretch[0], due, m.Now()), stretch[1])
        return Part(m.All((part.condition, since.condition)), "state")
    if _from_to(part) is not None or not any(isinstance(p, (m.Missing, m.Is)) for p in m.parts(part.condition)):
        return None
    return Part(m.All((part.condition, _aged(op, stretch).condition)), "state")


def _fell_due(part: Part) -> m.Col | None:
    """The day by which something should have been done, of what is overdue."""
    for p in m.parts(part.condition):
        match p:
            case m.Compared(op="<", left=m.Col() as due, right=m.Today()):
                return due
            case _:
                pass
    return None


def _such_overdue(
    part: Part, rows: Noun, op: m.Comparison, stretch: tuple[m.LengthUnit, float]
) -> tuple[object, ...] | None:
    """Overdue invoices over 30 days: so long after the day on which they fell due."""
    since = _lasting_till_now(part, op, stretch) if _fell_due(part) is not None else None
    return (rows, since) if since is not None else None


def _lasted(part: Part, op: m.Comparison, stretch: tuple[m.LengthUnit, float]) -> Part | None:
    """Were open for more than 90 days: from when it happened until it was so no longer."""
    gaps = [p for p in m.parts(part.condition) if isinstance(p, m.Missing)]
    if len(gaps) != 1:
        return None
    return _as_long(op, m.Length(stretch[0], m.EventTime(), m.Col(gaps[0].column)), stretch[1])


def _held_ratio(op: m.Comparison, number: float, ratio: Ratio) -> Held | None:
    """Fewer than eight people a session, of each thing."""
    top = ratio.top.expr if isinstance(ratio.top, Measured) else None
    if isinstance(top, m.Length) and isinstance(top.end, m.Today):
        # Over ten years old per clinic: ages are nobody's to share.
        return None
    return Held(ratio, op, number)


def _hours(first: str, last: str) -> Part | None:
    if first == last:
        return None
    ends = (m.Clock(m.EventTime(), ">=", first), m.Clock(m.EventTime(), "<", last))
    # From ten at night to two in the morning is either end of the day.
    return Part(m.All(ends) if first < last else m.Any(ends), "number")


def _either_hours(parts: tuple[object, ...]) -> Part | None:
    """In the one stretch of the day or in the other."""
    clocks = [p for p in parts if isinstance(p, str) and ":" in p]
    made = [_hours(a, b) for a, b in zip(clocks[::2], clocks[1::2], strict=True)]
    conditions = tuple(p.condition for p in made if p is not None)
    return Part(m.Any(conditions), "number") if len(conditions) == 2 else None


def _part_of_day(first: str, last: str, kind: str = "time") -> Part:
    """In the morning, in the evening or at night, by the time of day; the night is either end of it."""
    ends: list[m.Condition] = [m.Clock(m.EventTime(), ">=", first)] if first else []
    ends += [m.Clock(m.EventTime(), "<", last)] if last else []
    if len(ends) == 1:
        return Part(ends[0], kind)
    return Part(m.All(tuple(ends)) if first < last else m.Any(tuple(ends)), kind)


def _numbered(noun: Noun, *numbers: float) -> Part | None:
    """Room 5, year 9: a thing told by its number."""
    if noun.key is None:
        return None
    parts = tuple(m.Compared("=", m.Col(noun.key), m.Number(n)) for n in numbers)
    return Part(parts[0] if len(parts) == 1 else m.Any(parts), "number")


def _one_of(measured: Measured, *numbers: float) -> Part:
    """A rating of 4 or 5."""
    return Part(m.Any(tuple(m.Compared("=", measured.expr, m.Number(n)) for n in numbers)), "number")


def _told_with(noun: Noun, part: Part | None) -> tuple[Noun, Part] | None:
    return (noun, part) if part is not None else None


def _two_compared(op: m.Comparison, number: float, one: Measured, two: Measured) -> Part | None:
    return _each_compared(op, number, one, two) if one != two else None


def _each_compared(op: m.Comparison, number: float, *measured: Measured) -> Part:
    return Part(m.All(tuple(m.Compared(op, e.expr, m.Number(number)) for e in measured)), "number")


def _not_zero(measured: Measured) -> Part:
    return Part(m.Compared("!=", measured.expr, m.Number(0)), "number")


def _in_the_latest(parts: tuple[object, ...]) -> Part:
    """Of the last period that there is, of a length that is said or of their own."""
    unit = next((p for p in parts if isinstance(p, str) and p), None)
    time = m.PartOf(unit, m.EventTime()) if unit is not None else m.EventTime()  # type: ignore[arg-type]
    return Part(m.at_end("max", time), "time")


def _done_so_often(rows: Noun, op: m.Comparison, number: float) -> Part | None:
    """Those who have claimed so often: of whom there are so many claims."""
    if rows.table is None or not float(number).is_integer():
        return None
    return Part(m.Has(m.Rows(rows.table), op, int(number)), "related")


def _so_often_done(parts: tuple[object, ...], op: m.Comparison, number: float) -> Part | None:
    """Renewed twice or more, where a column says how often each was."""
    done = next(p for p in parts if isinstance(p, Noun))
    if done.key is None or not float(number).is_integer():
        return None
    return Part(m.Compared(op, m.Col(done.key), m.Number(float(number))), "number")


def _in_both(parts: tuple[object, ...]) -> Part:
    """Seven or more in maths and in English."""
    one, two = (p for p in parts if isinstance(p, Measured))
    number = next(p for p in parts if isinstance(p, float))
    op = next(p for p in parts if isinstance(p, str) and p in _SIGNS)
    return _each_compared(op, number, one, two)  # type: ignore[arg-type]


def _as_many_of(number: float, noun: Noun) -> Part | None:
    """A two bed flat: as many of what each has few of."""
    whole = noun.key is not None and float(number).is_integer() and 0 <= number <= _FEW
    return Part(m.Compared("=", m.Col(noun.key), m.Number(number)), "number") if whole and noun.key else None


def _both_so(flag: Noun, values: Values) -> Part | None:
    """Pets-allowed houses are both."""
    part = _flag(flag)
    return Part(m.All((part.condition, _is(values).condition))) if part is not None else None


def than_average(op: m.Comparison, measured: Measured, function: str = "mean") -> Part | None:
    """Held against what is in the middle of all: the rows, and no figure that is put together of them."""
    if function not in ("mean", "median") or measured.function:
        return None
    return Part(m.Compared(op, measured.expr, m.Aggregated(function, measured.expr)), "number")  # type: ignore[arg-type]


def _than_its_own(parts: tuple[object, ...], times: float) -> Part | None:
    """Held against the average of those of the same kind, or so many times that: a number that is said where `times` is 0."""
    times = times or next((p for p in parts if isinstance(p, float)), 0.0)
    compared = next((p for p in parts if isinstance(p, tuple)), None)
    measured = next((p for p in parts if isinstance(p, Measured)), None)
    expr = compared[1] if compared is not None else measured.expr if measured is not None else None
    op = compared[0] if compared is not None else next(p for p in parts if isinstance(p, str) and p in _SIGNS)
    function = next(p for p in parts if isinstance(p, str) and p not in _SIGNS)
    kind = [p for p in parts if isinstance(p, Noun) and p.key is not None][-1]
    if expr is None or kind.key is None or function not in ("mean", "median"):
        return None
    usual: m.Expr = m.Below(m.Aggregated(function, expr), kind.key)  # type: ignore[arg-type]
    right = usual if times == 1.0 else m.Arithmetic("*", usual, m.Number(times))
    return Part(m.Compared(op, expr, right), "number") if times > 0 else None  # type: ignore[arg-type]


def _of_itself(measured: Measured, state: Part) -> Part | None:
    """The reading lies outside its limits: what is told of a measure is told by that measure."""
    return state if {*m.columns_in(measured.expr)} & {*m.columns_in(state.condition)} else None


def _of_its_limits(measured: Measured, state: Part) -> Part | None:
    """Readings out of range are the rows whose reading is so."""
    return _of_itself(measured, state) if isinstance(state.condition, (m.Any, m.All)) else None


def _two(op: m.Comparison, one: Measured, two: Measured, times: float = 1.0) -> Part | None:
    """One measure above another, or above so many times it."""
    if one == two:
        return None
    right = two.expr if times == 1.0 else m.Arithmetic("*", two.expr, m.Number(times))
    return Part(m.Compared(op, one.expr, right), "number")


def _dates(op: m.Comparison):  # type: ignore[no-untyped-def]
    def build(one: Noun, two: Noun) -> Part | None:
        if one == two or one.key is None or two.key is None:
            return None
        return Part(m.Compared(op, m.Col(one.key), m.Col(two.key)), "number")

    return build


def _kept_on(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Of those who did so at one time, the share that did again at another."""
    spans = [p for p in parts if isinstance(p, Span)]
    words = [p for p in parts if isinstance(p, str) and p]
    noun = next((p for p in parts if isinstance(p, Noun)), None)
    # Retention names no doing of its own.
    kept = _lapsed(words[0] if words else "came", *spans, again=True, share=True) if len(spans) == 2 else None
    if kept is None:
        return None
    return (kept, noun) if noun is not None else (kept,)


def _of_those_more(parts: tuple[object, ...], *, share: bool) -> tuple[object, ...] | None:
    """Of owners with at least one visit, the share with two or more: so many of the same rows."""
    noun = next(p for p in parts if isinstance(p, Noun))
    some = next(p for p in parts if isinstance(p, Part))
    held = next(p for p in parts if isinstance(p, Held))
    has = some.condition
    if not isinstance(has, m.Has) or held.quantity is not None or not isinstance(held.right, float):
        return None
    more = m.Has(has.rows, held.op, int(held.right))
    return (Shared(noun, more), some) if share else (Counted(noun), some, Part(more, "related"))


def _than_overall(op: m.Comparison, parts: tuple[object, ...]) -> tuple[object, ...]:
    """More than the average of all, of a time where one is said."""
    what = next(p for p in parts if isinstance(p, (Noun, Measured)))
    times = (Part(span_condition(p, m.EventTime()), "time") for p in parts if isinstance(p, Span))
    return Held(as_counted(what), op, Function("mean")), *times  # type: ignore[arg-type]


def _outdone(op: m.Comparison, noun: Noun, measured: Measured) -> Held | None:
    """More tickets than they have seats."""
    return Held(Counted(noun), op, measured) if noun.table is not None else None


def _lapsed(verb: str, one: Span, two: Span, *, again: bool = False, share: bool = False) -> Lapsed | None:
    """Did so at one time, and not at another, or again at that."""
    if one == two:
        return None
    return Lapsed(verb, span_condition(one, m.EventTime()), span_condition(two, m.EventTime()), again, share)


def _lapsed_at(verb: str, spans: Sequence[Span]) -> Lapsed | None:
    """Did so at one time and not at another; where one alone is said, not since that."""
    one = spans[0]
    if len(spans) == 1 and one.high is not None and one.part is None:
        return _lapsed(verb, one, Span(one.high + dt.timedelta(days=1), None))
    return _lapsed(verb, one, spans[1]) if len(spans) == 2 else None


def _last_before(span: Span) -> Lapsed | None:
    """Owners last seen before 2025: there was something up to then, and nothing since."""
    if span.high is None or span.low is not None or span.part is not None:
        return None
    since = Span(span.high + dt.timedelta(days=1), None)
    return Lapsed("came", span_condition(span, m.EventTime()), span_condition(since, m.EventTime()))


def _quiet_for(unit: m.LengthUnit, number: float) -> Lapsed:
    """Owners dormant for a year: there was something, and nothing for so long."""
    ago = m.Length(unit, m.EventTime(), m.Now())
    return Lapsed("came", m.Compared(">=", ago, m.Number(number)), m.Compared("<", ago, m.Number(number)))


def _had_one_for(parts: tuple[object, ...]) -> Part | None:
    """Those for whom there was one: owners that a payment by cash was recorded for."""
    rows = next(p for p in parts if isinstance(p, Noun))
    such = [p for p in parts if isinstance(p, Values)]
    if rows.table is None or any(v.column.table != rows.table for v in such):
        return None
    return Part(m.Has(m.Rows(rows.table, tuple(m.Is(v.column, v.values) for v in such))), "related")


def _averaging(op: m.Comparison, number: float, measured: Measured) -> Held | None:
    """Averaging over five on the fee; averaging over 2024 is said of a year."""
    return None if 1990 <= number <= 2040 else Held(Worked(m.Aggregated("mean", measured.expr)), op, number)


def _of_the_same(kind: Noun, rows: Noun) -> Held | None:
    """One method for all their payments."""
    return Held(Counted(kind, distinct=True), "=", 1.0) if kind.key is not None and rows.table is not None else None


_LAST_SEEN = "last|lately seen|active|here|in|visited|came|heard|treated|served of|from?"
_QUIET = "dormant|inactive|quiet|silent|idle|absent"
_WAS_MADE = "was|were|has|have been? recorded|made|booked|logged|entered|raised|taken|placed|issued|registered|opened for|on|against|by|to"
_USING = "use|used|uses|using|have|has|had|with|having|stick|sticks|keep|keeps to?"
_LED = "led|lead|leading|leads|turned|turning|turn|resulted|resulting|result to|into|in"
"""What says that one thing came of another: viewings that led to an offer."""


def _of_each_held(parts: tuple[object, ...], right: Function | None) -> tuple[object, ...] | None:
    """Agents with a rating above the overall mean; clinics that have three or more."""
    noun = next(p for p in parts if isinstance(p, Noun))
    op = next(p for p in parts if isinstance(p, str) and p in _SIGNS)
    measured = next((p for p in parts if isinstance(p, Measured)), None)
    if measured is not None and measured.function:
        return None
    if right is not None and measured is not None and {k.table for k in m.columns_in(measured.expr)} == {noun.table}:
        # Visits with a fee above the average have it on their own rows.
        own = than_average(op, measured)  # type: ignore[arg-type]
        return (noun, own) if own is not None else None
    bound = right if right is not None else next(p for p in parts if isinstance(p, float))
    return Grouped(noun), Held(measured, op, bound)  # type: ignore[arg-type]


_SIGNS = frozenset([">", ">=", "<", "<=", "=", "!="])

_PARTS_OF_DAY = (
    ("morning", "", "12:00:00"),
    ("afternoon", "12:00:00", "17:00:00"),
    ("evening", "17:00:00", ""),
    ("night", "22:00:00", "06:00:00"),
)
"""The parts of a day, each from a time of day until another."""


def _of_two_kinds(parts: tuple[object, ...]) -> Part | None:
    """Those with unpaid invoices and an open complaint have rows of both tables."""
    such = [p for p in parts if isinstance(p, Part)]
    rows = [p for p in parts if isinstance(p, Noun)]
    if len(rows) != 2 or rows[0] == rows[1]:
        return None
    both = [rows_having(">=", 1, t, k) for t, k in zip(rows, such, strict=True)]
    conditions = tuple(p.condition for p in both if p is not None)
    return Part(m.All(conditions), "related") if len(conditions) == 2 else None


_IN_ONE = "by|at|in|with|through|via|from|on|for|about"
_ADDS_UP = (
    "total|totals|totalled|totaled|totalling",
    "come|comes|came|add|adds|added|sum|sums|amount|amounts|amounted up? to",
)


def _adding_up(parts: tuple[object, ...]) -> Held | None:
    """Those whose rows come to so much in all: in the unit that is said, else in what they mainly tell."""
    op = next(p for p in parts if isinstance(p, str) and p in ("<", "<=", ">", ">=", "="))
    match parts[-1]:
        case Amount(expr=expr, number=number):
            return Held(Worked(m.Aggregated("sum", expr)), op, number)  # type: ignore[arg-type]
        case float() as number:
            rows = next(p for p in parts if isinstance(p, Noun))
            return Held(Worth("sum", rows), op, number)  # type: ignore[arg-type]
        case _:
            return None


_FEW = 12
"""As many of something as a thing is called after: a two bed flat, a six seat table."""
RULES = (
    *(
        Rule("H", pattern, lambda *p: _so_many_there(p), (example,), weight=0.1)
        for pattern, example in (
            ("where the? CNT is|are|was|were? CMP N", "where the number of visits is over 30"),
            ("HAVING a|the? CNT is|are|was|were? CMP N", "with number of visits over 30"),
            ("whose CNT is|are|was|were? CMP N", "whose number of visits is over 30"),
            ("where T is|are|was|were? CMP|SIGN N", "where visits > 30"),
        )
    ),
    Rule(
        "K",
        "no|not VS please? , just|only|but? OTHERS",
        lambda *p: Part(m.Not(m.Is(v.column, v.values)), "value") if isinstance(v := p[0], Values) else None,
        ("no Dog please, just the rest",),
        weight=0.9,
    ),
    Rule(
        "K",
        "on|in|at|for? every|any|all|each day|days|month|months|weekday|year|years but|except|excluding|save|besides|bar|without for|on? TIME",
        lambda span: outside(span),
        ("on every day but Sunday",),
        weight=0.8,
    ),
    Rule("VS", "V", lambda v: v, ("Dog",)),
    Rule("VS", "VS OR V", lambda a, _, b: _either(a, b), ("Dog or Cat",), weight=0.08),
    Rule("VS", "VS OR OR V", lambda a, _, __, b: _either(a, b), ("Dog, and Cat",), weight=0.08),
    Rule("K", "VS", _is, ("Dog",)),
    Rule("K", "in|at|from|on|of|for|to|by|with|is|are|was|were|as VS", _is, ("in Dog",), weight=0.0),
    Rule("K", "VS C", lambda v, n: _of_own(v, n), ("Dog species",), weight=0.08),
    Rule("K", "C NEG VS", lambda n, _, v: _not(_is(v)) if n.key == v.column else None, ("species not Dog",)),
    Rule("NPX", "C|T NEG VS", lambda n, _, v: (n, _not(_is(v))) if n.key != v.column else None, ("visits not Dog",)),
    Rule(
        "K",
        "take|leave|leaving|taking VS|STATE out",
        lambda p: _not(_is(p) if isinstance(p, Values) else p),
        ("take cats out",),
        weight=0.3,
    ),
    Rule(
        "K", "either VS or V", lambda a, b: _is(v) if (v := _either(a, b)) else None, ("either Dog or Cat",), weight=0.1
    ),
    Rule("K", "any of|from VS", _is, ("any of Dog or Cat",), weight=0.05),
    Rule("K", "C in|among|either VS", lambda n, v: _of_own(v, n), ("species in Dog",), weight=0.12),
    Rule(
        "K",
        "NEG K nor|or K",
        lambda _, a, b: Part(m.Not(m.Any((a.condition, b.condition))), a.kind) if a.kind == b.kind != "time" else None,
        ("not Dog or overdue",),
        weight=0.02,
    ),
    Rule(
        "K",
        "neither VS nor V",
        lambda a, b: _not(_is(v)) if (v := _either(a, b)) else None,
        ("neither Dog nor Cat",),
        weight=0.3,
    ),
    Rule(
        "K",
        "neither in|from|at|to|with|a|an? K nor in|from|at|to|with|a|an? K",
        lambda a, b: Part(m.Not(m.Any((a.condition, b.condition))), a.kind) if a.kind == b.kind != "time" else None,
        ("neither in Dog nor in Cat",),
        weight=0.3,
    ),
    Rule(
        "K",
        "NEG anything|everything|those|any|all|ones|one with|that|which|where|is|are|was|were|has|have|had? K",
        lambda _, k: _not(k),
        ("ignoring anything overdue",),
        weight=0.2,
    ),
    Rule("K", "U|STATE , DEF K", lambda _, __, k: k, ("slow, meaning overdue",), weight=0.35),
    Rule("K", "U|STATE DEF|( K", lambda *p: p[-1], ("slow (overdue",), weight=0.35),
    Rule("K", "who|that|which U|STATE|MV|W : K", lambda *p: p[-1], ("that overran: overdue",), weight=0.35),
    *(
        Rule("K", pattern, lambda *p: _then_none(p), (example,), weight=0.6)
        for pattern, example in (
            ("HAVING T TIME but|and nothing|none|not|never|no any? TIME", "with visits in 2024 but none in 2025"),
            ("HAVING T TIME but|and WITHOUT TIME", "with visits in 2024 but none in 2025"),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: _at_two_times(p, lambda n, t: rows_having(">=", 1, n, t)), (example,), weight=0.6)
        for pattern, example in (
            ("HAVING T both? TIME and|& again|also TIME", "with visits in 2024 and again in 2025"),
            ("HAVING T in|during? both TIME and|& TIME", "had visits both in 2024 and in 2025"),
            ("HAVING T TIME and|& TIME both", "with visits in 2024 and in 2025 both"),
        )
    ),
    Rule("K", "NEG T|NP K", lambda _, __, k: _not(k), ("ignoring visits overdue",), weight=0.12),
    Rule("K", "NEG those|the? K", lambda _, k: _not(k), ("excluding those overdue",), weight=0.14),
    Rule(
        "K",
        "ended|ending|resulted|resulting|led|leading|turned|finished up? in|to|into|with|as VS",
        lambda v: Part(m.Is(v.column, v.values), "state"),
        ("ended in a Dog",),
        weight=0.3,
    ),
    Rule("K", "C VS", lambda n, v: _of_own(v, n), ("species Dog",), weight=0.08),
    Rule("K", "C is|are|was|were|=|: VS", lambda n, v: _of_own(v, n), ("species is Dog",), weight=0.12),
    Rule("K", "C of VS", lambda n, v: _of_own(v, n), ("species of Dog",), weight=0.0),
    Rule(
        "K", "C NEG VS", lambda n, _, v: _not(p) if (p := _of_own(v, n)) else None, ("species is not Dog",), weight=0.12
    ),
    *(
        Rule("QX", f"{asked} do|does|did? a|an|each|one VS MV", lambda v, n: _for_one(v, n), (example,), weight=0.45)
        for asked, example in (("what", "what does a Dog cost"), ("how much", "how much does a Dog cost"))
    ),
    Rule("K", "VS ones|one", _is, ("the French ones",), weight=0.1),
    Rule(
        "K",
        "registered|flagged|marked|listed|classed|recorded|signed|tagged|labelled|set for|as|with|up|to? K",
        lambda k: k if isinstance(k, Part) and k.kind != "time" else None,
        ("marked as overdue",),
        weight=0.02,
    ),
    Rule("K", "HAVING STATE", lambda _, s: s, ("have closed",), weight=0.1),
    Rule("K", "STATE ones|one", lambda s: s, ("the overdue ones",), weight=0.1),
    Rule("K", "STATE", lambda s: s, ("overdue",), weight=0.0),
    Rule(
        "K",
        "E is|are|was|were|lies|lie|lay|falls|fall|fell|being|stood STATE",
        lambda e, s: _of_itself(e, s),
        ("gauge lies outside its limits",),
        weight=0.5,
    ),
    Rule("K", "E STATE", lambda e, s: _of_its_limits(e, s), ("gauge outside its limits",), weight=0.4),
    Rule(
        "BESX",
        "K although|though|whereas|yet|despite|whilst the? K",
        lambda one, other: (one, other),
        ("Dog although overdue",),
        weight=0.5,
    ),
    Rule(
        "BESX",
        "K even though|if|when the? K",
        lambda one, other: (one, other),
        ("Dog even though overdue",),
        weight=0.5,
    ),
    Rule("K", "NEG K", lambda _, k: _not(k), ("not Dog", "excluding cats"), weight=0.1),
    Rule("K", "K excluded|ignored|aside|omitted", _not, ("cats excluded",), weight=0.15),
    Rule("K", "K left out|aside", _not, ("cats left out",), weight=0.15),
    Rule("K", "K not counted", _not, ("cats not counted",), weight=0.15),
    Rule("K", "K or K", _either_part, ("Dog or overdue",), weight=-0.02),
    Rule(
        "K",
        "K and|& K",
        lambda a, b: _either_part(a, b) if isinstance(a, Part) and a.kind == "time" else None,
        ("2024 and 2025",),
        weight=-0.03,
    ),
    Rule("K", "ONLY K", lambda _, k: k, ("only dogs",), weight=0.05),
    Rule("K", "K ONLY", lambda k, _: k, ("dogs only",), weight=0.05),
    Rule("K", "STATE today|now|yet", lambda s: s, ("overdue today",), weight=0.05),
    Rule(
        "N",
        "N pounds|pound|euros|euro|dollars|dollar|quid|gbp|eur|usd|kg|kgs|kilos|kilo|g|grams|km|miles|mile|ft|feet|foot|m|metres|meters|cm|mm|litres|liters|l|tonnes|tons|stone|lbs|lb|percent|%|pct|points|units|minutes|mins",
        lambda n: n,
        ("50 pounds",),
        weight=0.04,
    ),
    # numbers
    Rule(
        "K",
        "E CMP N a|per|each|every month|week|year|day|hour|night",
        lambda e, op, n: compared(op, e.expr, n),
        ("fee over 50 a month",),
        weight=0.2,
    ),
    Rule("H", "CMP N", lambda op, n: Held(None, op, n), ("more than 5",), weight=-0.1),
    Rule("H", "N ORMORE", lambda n, op: Held(None, op, n), ("5 or more",), weight=-0.1),
    *(
        Rule("H", pattern, lambda op, k: Held(Counted(k[1], True), op, k[0]), (example,), weight=0.4)
        for pattern, example in (
            (
                "have|has|had|was|were? been? seen|done|used|made|treated|visited? by CMP KINDS",
                "been seen by more than 2 clinics",
            ),
            ("have|has|had|was|were? been? at|in|from|through|across|to CMP KINDS", "been in more than 2 clinics"),
        )
    ),
    Rule("H", "CMP KINDS", lambda op, k: Held(Counted(k[1], True), op, k[0]), ("more than 2 clinics",), weight=0.15),
    Rule("K", "E CMP N", lambda e, op, n: compared(op, e.expr, n), ("fee over 50",), weight=0.15),
    Rule(
        "K",
        "HAVING a|the? number of E CMP N",
        lambda *p: compared(p[-2], p[-3].expr, p[-1]),
        ("with a number of fee over 50",),
        weight=0.2,
    ),
    Rule(
        "K",
        "E is|are|was|were|went|rose|got|been ever? CMP N",
        lambda e, op, n: compared(op, e.expr, n),
        ("fee was ever over 50",),
        weight=0.2,
    ),
    *(
        # Insurance that runs out in March: the date by which it ends.
        Rule("K", pattern, lambda n, s: _at(n, s), (example,), weight=0.5)
        for pattern, example in (
            ("whose|where|that|with? D runs|run|ran|running out TIME", "whose opened date runs out in March"),
            (
                "whose|where|that|with? D expires|expire|expired|expiring|lapses|ends|ended TIME",
                "whose opened date ends in March",
            ),
            (
                "whose|where|that|with? D is|are|was|were|falls|fell due|up|over TIME",
                "whose opened date is up in March",
            ),
        )
    ),
    Rule("K", "REACHED E of N", lambda op, e, n: compared(op, e.expr, n), ("missed a fee of 40",), weight=0.4),
    Rule("K", "E ever CMP N", lambda e, op, n: compared(op, e.expr, n), ("fee ever over 50",), weight=0.3),
    Rule(
        "K",
        "E is|are|was|of|=|: CMP? N",
        lambda e, *r: compared(r[0] if len(r) == 2 else "=", e.expr, r[-1]),
        ("fee of 50",),
        weight=0.02,
    ),
    Rule("K", "CMP N E", lambda op, n, e: compared(op, e.expr, n), ("more than 5 minutes wait",), weight=0.12),
    Rule("K", "E N ORMORE", lambda e, n, op: compared(op, e.expr, n), ("fee 50 or more",), weight=0.15),
    Rule("K", "E of N ORMORE", lambda e, n, op: compared(op, e.expr, n), ("fee of 50 or more",), weight=0.18),
    Rule("K", "N ORMORE E", lambda n, op, e: compared(op, e.expr, n), ("5 or more minutes wait",), weight=0.15),
    Rule("K", "N E ORMORE", lambda n, e, op: compared(op, e.expr, n), ("20 seats or more",), weight=0.15),
    Rule("K", "N E", lambda n, e: compared("=", e.expr, n), ("3 seats",), weight=-0.12),
    *(
        Rule("K", pattern, lambda op, n, e: compared(op, e.expr, n), (example,), weight=weight)
        for pattern, example, weight in (
            ("CMP N in|for|at|on E", "under 40 in rating", 0.0),
            (
                "scored|score|scoring|got|gets|get|achieved|gained|reached|marked CMP N marks|points|%?"
                " in|for|at|on the|their? E",
                "scored under 40 in rating",
                0.5,
            ),
        )
    ),
    Rule("K", "CMP N in|for|on both|all? of? E and|& E", _two_compared, ("over 80 in both fee and cost",), weight=0.25),
    Rule(
        "K",
        "E and|& E both? CMP N",
        lambda a, b, op, n: _two_compared(op, n, a, b),
        ("fee and cost both over 80",),
        weight=0.15,
    ),
    Rule("K", "C N", lambda c, n: _numbered(c, n), ("seats 3",), weight=0.02),
    Rule("K", "C N OR N", lambda c, n, _, k: _numbered(c, n, k), ("seats 3 or 2",), weight=0.05),
    Rule("K", "E ( N OR N )", lambda e, n, _, k: _one_of(e, n, k), ("fee (3 or 2)",), weight=0.4),
    *(
        Rule("K", pattern, lambda e, one, a, two, b: _both_ends(e, one, a, two, b), (example,), weight=0.5)
        for pattern, example in (
            ("E CMP N and|&|but|, CMP N", "fee >= 2 & < 4"),
            ("E SIGN N and|&|but|, SIGN N", "fee > 2 and < 4"),
        )
    ),
    Rule("K", "E of? N -|to N", lambda e, a, b: between(e.expr, a, b), ("fee 20-50",), weight=0.2),
    Rule("K", "N -|to N E", lambda a, b, e: between(e.expr, a, b), ("2-4 seats",), weight=0.2),
    Rule("K", "E ( N -|to N )", lambda e, a, b: between(e.expr, a, b), ("fee (20-50)",), weight=0.4),
    Rule("K", "E ( N ORMORE )", lambda e, n, op: compared(op, e.expr, n), ("fee (20 or more)",), weight=0.4),
    Rule("NPX", "E T ( N OR N )", lambda e, t, n, _, k: (t, _one_of(e, n, k)), ("fee visits (3 or 2)",), weight=0.5),
    Rule(
        "NPX",
        "E T ( N -|to N )",
        lambda e, t, a, b: _told_with(t, between(e.expr, a, b)),
        ("fee visits (3-5)",),
        weight=0.5,
    ),
    Rule(
        "K",
        "WITHOUT M",
        lambda _, n: compared("=", m.Col(n.key), 0.0) if n.key else None,
        ("with no fee",),
        weight=-0.12,
    ),
    Rule(
        "K", "HAVING M", lambda _, n: compared(">", m.Col(n.key), 0.0) if n.key else None, ("with fee",), weight=-0.12
    ),
    Rule(
        "K",
        "that|which|where|who? with|having|had|has|have|got a|an ONEOF",
        lambda n: compared(">", m.Col(n.key), 0.0),
        ("with a seat", "that had a unit"),
        weight=0.4,
    ),
    Rule(
        "K",
        "that|which|where|who? with|having|had|has|have|got any|some? SOMEOF",
        lambda n: compared(">", m.Col(n.key), 0.0),
        ("with shots",),
        weight=0.3,
    ),
    Rule("K", "for|of|with|having|in a|an|any|all? N M", _as_many_of, ("for a 2 seat",), weight=0.45),
    Rule(
        "K",
        "got|gets|scored|scores|received|achieved|has|have|had|with a|an? N in|for|at M",
        lambda n, noun: Part(m.Compared("=", m.Col(noun.key), m.Number(n)), "number") if noun.key is not None else None,
        ("got a 5 in rating",),
        weight=0.5,
    ),
    *(
        Rule("K", pattern, lambda *p: _in_both(p), (example,), weight=0.7)
        for pattern, example in (
            ("N ORMORE in|for|on both? E and E", "5 or more in both fee and cost"),
            ("CMP N in|for|on both? E and E", "more than 5 in both fee and cost"),
        )
    ),
    Rule("K", "a|an|all N M", _as_many_of, ("a 2 seat",), weight=0.1),
    *(
        Rule(
            "K", pattern, lambda *p, so=so: _flag(next(n for n in p if isinstance(n, Noun)), so), (example,), weight=0.6
        )
        for so, words in ((False, "off"), (True, "on"))
        for pattern, example in (
            (f"HAVING F switched|turned|set|left {words}", f"with attended switched {words}"),
            (f"F is|are|was|were? switched|turned|set|left {words}", f"attended is switched {words}"),
        )
    ),
    *(
        Rule("K", f"{lead} T {pattern}", lambda *p, b=build: b(p), (f"{start} visits {example}",), weight=0.7)
        for lead, start in (("who|that|which have|has|had?", "who"), ("have|has|had", "have"))
        for pattern, build, example in (
            ("more than once", lambda p: _done_so_often(p[0], ">", 1), "more than once"),
            ("more than twice", lambda p: _done_so_often(p[0], ">", 2), "more than twice"),
            ("twice ORMORE", lambda p: _done_so_often(p[0], p[-1], 2), "twice or more"),
            ("at least twice", lambda p: _done_so_often(p[0], ">=", 2), "at least twice"),
            ("only|just once", lambda p: _done_so_often(p[0], "=", 1), "only once"),
            ("CMP N times", lambda p: _done_so_often(p[0], p[1], p[2]), "more than 3 times"),
            ("N ORMORE times", lambda p: _done_so_often(p[0], p[2], p[1]), "3 or more times"),
            ("N times ORMORE", lambda p: _done_so_often(p[0], p[2], p[1]), "3 times or more"),
        )
    ),
    *(
        Rule(
            "K",
            f"is|are|was|were|been|get|got? TIMES {often}",
            lambda *p, b=build: b(p),
            (f"sold {example}",),
            weight=0.6,
        )
        for often, build, example in (
            ("N ORMORE times", lambda p: _so_often_done(p, p[-1], p[-2]), "3 or more times"),
            ("CMP N times", lambda p: _so_often_done(p, p[-2], p[-1]), "at least 3 times"),
            ("N times", lambda p: _so_often_done(p, "=", p[-1]), "3 times"),
            ("CMP once", lambda p: _so_often_done(p, p[-1], 1), "at least once"),
            ("CMP twice", lambda p: _so_often_done(p, p[-1], 2), "more than twice"),
            ("twice ORMORE", lambda p: _so_often_done(p, p[-1], 2), "twice or more"),
            ("only|just|exactly once", lambda p: _so_often_done(p, "=", 1), "only once"),
        )
    ),
    Rule("H", "twice ORMORE", lambda op: Held(Counted(Noun()), op, 2.0), ("twice or more",), weight=0.6),
    Rule(
        "K",
        "HAVING C",
        lambda _, n: _known(n),
        ("with a breed",),
        weight=-0.12,
    ),
    Rule("NPX", "F T", lambda f, n: (n, p) if (p := _flag(f)) is not None else None, ("attended visits",), weight=0.1),
    Rule("K", "F VS", lambda f, v: _both_so(f, v), ("attended dogs",), weight=0.1),
    Rule("K", "on|under|in|for|getting|receiving F", _flag, ("on attended",), weight=0.0),
    Rule("K", "COMP N", lambda c, n: _more_of_it(c[0], c[1], n), ("heavier than 20",), weight=0.15),
    Rule(
        "K", "E BETWEEN N and|to N", lambda e, _, a, b: between(e.expr, a, b), ("fee between 20 and 50",), weight=0.25
    ),
    Rule("K", "BETWEEN N and|to N E", lambda _, a, b, e: between(e.expr, a, b), ("between 2 and 5 seats",), weight=0.2),
    Rule("K", "E from? N to|- N", lambda e, a, b: between(e.expr, a, b), ("fee 20 to 50",), weight=0.2),
    Rule("K", "E CMP average|mean|typical", lambda e, op: than_average(op, e), ("fee above average",), weight=0.2),
    Rule("K", "E CMP AVGOF", lambda e, op, _: than_average(op, e), ("fee above the overall average",), weight=0.2),
    *(
        Rule("K", f"{held} {of}", lambda *p, n=times: _than_its_own(p, n), (f"{start} {example}",), weight=weight)
        for held, start, times, weight in (
            ("E is|are|was|were|lies? CMP the?", "fee above the", 1.0, 0.8),
            ("COMP than? the?", "heavier than the", 1.0, 0.8),
            ("E is|are|was|were|lies? CMP twice|double the?", "fee more than twice the", 2.0, 1.0),
            ("E is|are|was|were|lies? CMP triple|thrice the?", "fee more than triple the", 3.0, 1.0),
            ("E is|are|was|were|lies? CMP half the?", "fee less than half the", 0.5, 1.0),
            ("E is|are|was|were|lies? CMP N times the?", "fee more than 3 times the", 0.0, 1.0),
        )
        for of, example in (
            (
                "AGG E? of|for|in|at|within|among|across all|other? T? of|in|at? the? the|their|its|his|her|that|own|same|respective kind|type|sort? of? C",
                "average for their breed",
            ),
            ("C AGG", "breed average"),
            ("AGG T|C|U of|in|at|for its|their|the same|own|that C", "average visits of the same breed"),
        )
    ),
    *(
        Rule("K", pattern, lambda e, a, b: between(e.expr, a, b), (example,), weight=0.3)
        for pattern, example in (
            ("E in|within the range of? N and|to|- N", "fee in the range 20 to 50"),
            ("E within N and|to N", "fee within 20 and 50"),
            ("E in between N and N", "fee in between 20 and 50"),
        )
    ),
    Rule("K", "E of? N , N or|and N", _one_of, ("rating of 1, 2 or 3",), weight=0.35),
    *(
        Rule("K", pattern, lambda *p, o=op: compared(o, p[-2].expr, p[-1]), (example,), weight=0.4)
        for pattern, example, op in (
            ("a minimum|min E of N", "a minimum fee of 100", ">="),
            ("a maximum|max E of N", "a maximum fee of 100", "<="),
        )
    ),
    Rule(
        "K",
        "E about|around|roughly|approximately|circa|nearly N",
        lambda e, n: between(e.expr, 0.9 * n, 1.1 * n) if n > 0 else None,
        ("fee of about 50",),
        weight=0.4,
    ),
    Rule("K", "zero E", lambda e: compared("=", e.expr, 0.0), ("zero fee",), weight=0.45),
    Rule("K", "a? nonzero|non-zero E", _not_zero, ("a nonzero fee",), weight=0.45),
    Rule("K", "a? N star|stars E", lambda n, e: compared("=", e.expr, n), ("a 5 star rating",), weight=0.4),
    *(
        Rule("K", pattern, lambda one, two, o=op, n=times: _two(o, one, two, n), (example,), weight=0.4)
        for word, times in (("twice|double", 2.0), ("triple|thrice", 3.0))
        for pattern, example, op in (
            (f"E of? {word} the? E", f"fee of {word.split('|')[0]} the cost", ">="),
            (f"E is|was {word} the? E", f"fee is {word.split('|')[0]} the cost", ">="),
        )
    ),
    *(
        Rule("K", pattern, lambda one, op, two, n=times: _two(op, one, two, n), (example,), weight=0.45)
        for word, times in (("twice|double", 2.0), ("triple|thrice", 3.0), ("half", 0.5))
        for pattern, example in ((f"E CMP {word} the? E", f"fee more than {word.split('|')[0]} the cost"),)
    ),
    *(
        Rule("K", f"E CMP {words} AVGOF|AGG", lambda *p, n=times: _times_the_mean(p, n), (example,), weight=0.5)
        for words, times, example in (
            ("twice|double the?", 2.0, "fee more than twice the average"),
            ("triple|thrice the?", 3.0, "fee more than triple the average"),
            ("half the?", 0.5, "fee less than half the average"),
            ("N times the?", 0.0, "fee more than 3 times the average"),
        )
    ),
    Rule(
        "K",
        "E CMP N times the? E",
        lambda one, op, n, two: _two(op, one, two, n),
        ("fee more than 3 times the cost",),
        weight=0.45,
    ),
    *(
        Rule(
            "K",
            f"{lead}{word} {was}E than {was}E",
            lambda a, b, o=op: _two(o, a, b),
            (f"{said} {is_}fee than cost",),
            weight=weight,
        )
        for lead, was, is_, weight in (("", "", "", 0.2), ("", "was|were|is|are|got|gets? ", "was ", 0.25))
        for op, word, said in (
            (">", "more|higher|larger|greater|bigger", "higher"),
            ("<", "fewer|less|lower|smaller", "lower"),
        )
    ),
    *(
        Rule(
            "H",
            f"HAVING {word} E than E",
            lambda _, a, b, o=op: Held(Worked(m.in_all(a.expr)), o, b),
            (f"owners with {word.split('|')[0]} fee than cost",),
            weight=0.35,
        )
        for op, word in ((">", "more|higher|larger|greater|bigger"), ("<", "fewer|less|lower|smaller"))
    ),
    Rule("K", "E CMP E", lambda e, op, f: _two(op, e, f), ("cost more than fee",), weight=0.15),
    *(
        Rule(
            "K",
            f"E in|for|out|up|at CMP {of} E",
            lambda e, op, f, n=times: _two(op, e, f, n),
            (example,),
            weight=0.5,
        )
        for of, times, example in (
            ("their|its|the|our? own?", 1.0, "cost in less than their fee"),
            ("half their|its|the|our? own?", 0.5, "cost for less than half their fee"),
            ("twice|double their|its|the|our? own?", 2.0, "cost up over twice their fee"),
        )
    ),
    *(
        Rule(
            "K",
            f"E CMP {word} of? their|its|our own? E",
            lambda e, op, f, n=times: _two(op, e, f, n),
            (f"cost less than {word.split('|')[0]} their fee",),
            weight=0.9,
        )
        for word, times in (("half", 0.5), ("twice|double", 2.0), ("triple|thrice", 3.0))
    ),
    Rule("K", "with|where|whose|having E CMP E", lambda e, op, f: _two(op, e, f), ("with cost over fee",), weight=0.4),
    Rule("K", "D after|past D", _dates(">"), ("closed after due",), weight=0.2),
    Rule("K", "D before D", _dates("<"), ("closed before due",), weight=0.2),
    Rule("K", "D later than D", _dates(">"), ("closed later than due",), weight=0.25),
    Rule(
        "H",
        "Q is|are|was|were? CMP average|mean|typical",
        lambda q, op: Held(q, op, Function("mean")),
        ("total fee above average",),
        weight=0.25,
    ),
    Rule(
        "H",
        "Q|CNT is|are|was|were? CMP AVGOF",
        lambda q, op, _: Held(q, op, Function("mean")),
        ("average fee is above the overall average",),
        weight=0.3,
    ),
    Rule(
        "H",
        "CNT is|are|was|were? CMP average|mean|typical",
        lambda q, op: Held(q, op, Function("mean")),
        ("number of visits above average",),
        weight=0.25,
    ),
    Rule(
        "H",
        "CMP average|typical number|amount of? T",
        lambda op, n: Held(Counted(n), op, Function("mean")),
        ("more than average number of visits",),
        weight=0.3,
    ),
    Rule("K", "CMP average|mean|typical E", lambda op, e: than_average(op, e), ("above average fee",), weight=0.2),
    Rule(
        "K",
        "E is|are|was|were CMP average|mean|typical",
        lambda e, op: than_average(op, e),
        ("fee is above average",),
        weight=0.2,
    ),
    Rule(
        "K",
        "E is|are|was|were CMP AVGOF",
        lambda e, op, _: than_average(op, e),
        ("fee is above the overall average",),
        weight=0.2,
    ),
    *(
        Rule("H", pattern, lambda *p: _held_ratio(p[-3], p[-2], p[-1]), (example,), weight=weight)
        for pattern, example, weight in (
            ("HAVING CMP N RATIO", "with more than 20 visits per 100 owners", 0.5),
            ("CMP N RATIO", "more than 20 visits per 100 owners", 0.3),
        )
    ),
    *(
        Rule("H", pattern, lambda t, op, e: Held(Worth("sum", t), op, e), (example,), weight=weight)
        for pattern, example, weight in (
            ("T is|are|was|were CMP E", "visits are more than the seats", 0.2),
            (
                "T come|comes|came|add|adds|added|amount|amounts|amounted to|up to? CMP E",
                "visits came to over the seats",
                0.6,
            ),
            ("T CMP E", "visits over the seats", -0.1),
        )
    ),
    *(
        Rule(
            "H",
            pattern,
            lambda f, *p: Held(Worth("mean", Noun()), p[-2], p[-1]) if f == "mean" else None,
            (example,),
            weight=0.3,
        )
        for pattern, example in (
            ("AGG is|are|was|were CMP N", "average is below 50"),
            ("AGG CMP N", "average under 50"),
            ("AGG of CMP N", "average of under 50"),
        )
    ),
    Rule(
        "H",
        "CMP N E AGG",
        lambda op, n, e, f: Held(Worked(m.Aggregated(f, e.expr)), op, n) if f in ("mean", "median") else None,
        ("less than 20 fee on average",),
        weight=0.35,
    ),
    Rule(
        "K",
        "CMP M N",
        lambda op, n, k: Part(m.Compared(op, m.Col(n.key), m.Number(k)), "number"),
        ("above fee 5",),
        weight=-0.3,
    ),
    Rule("K", "E CMP N times", lambda e, op, n: compared(op, e.expr, n), ("fee over 5 times",), weight=0.12),
    Rule("H", "CMP N times", lambda op, n: Held(Counted(Noun()), op, n), ("more than 5 times",), weight=0.4),
    Rule(
        "H",
        "T us|them? CMP N times",
        lambda t, op, n: Held(Counted(t), op, n),
        ("visited us more than 5 times",),
        weight=0.0,
    ),
    Rule("H", "N ORMORE times", lambda n, op: Held(Counted(Noun()), op, n), ("5 or more times",), weight=0.1),
    Rule("H", "N times ORMORE", lambda n, op: Held(Counted(Noun()), op, n), ("5 times or more",), weight=0.1),
    Rule("H", "only|just|exactly once", lambda: Held(Counted(Noun()), "=", 1.0), ("only once",), weight=1.0),
    Rule("H", "only|just|exactly N times", lambda n: Held(Counted(Noun()), "=", n), ("exactly 2 times",), weight=0.5),
    *(
        Rule("H", f"{words} {word}", lambda o=op, n=n: Held(Counted(Noun()), o, n), (f"{words} {word}",), weight=sure)
        for word, n in (("once", 1.0), ("twice", 2.0))
        for words, op, sure in (("more than", ">", 0.9), ("at least", ">=", 0.4))
    ),
    Rule(
        "H",
        "HAVING Q",
        lambda _, q: Held(q, ">", 0.0) if isinstance(q.quantity, m.Combined) and q.quantity.op == "-" else None,
        ("with total fee less total cost",),
        weight=-0.1,
    ),
    Rule(
        "H",
        "E CMP N %|percent|pct",
        lambda e, op, n: Held(Rated(e.expr), op, n),
        ("seats under 30 %",),
        weight=0.2,
    ),
    Rule(
        "H",
        "CMP N %|percent|pct of? their|its|the|all? E",
        lambda op, n, e: Held(Rated(e.expr), op, n),
        ("more than 25 % of seats",),
        weight=0.2,
    ),
    *(
        Rule(
            "H",
            f"CMP {word} of? their|its|the|all? E",
            lambda op, e, s=size: Held(Rated(e.expr), op, s),
            (f"less than {word.split()[-1]} of seats",),
            weight=0.3,
        )
        for word, size in (("half", 50.0), ("quarter", 25.0), ("third", 33.333333))
    ),
    Rule("H", "Q CMP N", lambda q, op, n: Held(q, op, n), ("an average fee over 100",), weight=0.12),
    Rule(
        "H",
        "Q CMP NU",
        lambda q, op, a: Held(q, op, a.number) if a.expr == getattr(q.quantity, "expr", None) else None,
        ("an average weight over 10 kg",),
        weight=0.2,
    ),
    Rule(
        "K",
        "never W to|from|in|at|on|for|with|by a|an|the|any? VS",
        lambda _, v: _lacks(v),
        ("never went to Dog",),
        weight=0.35,
    ),
    Rule("K", "never W VS", lambda _, v: _lacks(v), ("never booked Dog",), weight=0.3),
    Rule(
        "K",
        "HAVING? never W to|from|in|at|on|for|with|by? a|an|the|any? VS T",
        lambda *p: _lacks(p[-2]),
        ("have never worked with a Dog visit",),
        weight=0.75,
    ),
    Rule("K", "never been? VS", lambda v: _lacks(v), ("never been Dog",), weight=0.2),
    *(
        Rule("AVGOF", pattern, lambda *_: "", (example,), weight=0.2)
        for pattern, example in (
            ("the T|U|C as a whole", "the clinic as a whole"),
            ("T|U|C overall", "clinics overall"),
            ("the? average|mean|typical T|U|C does|do|did|has|gives|gave|pays|earns|spends?", "the average owner does"),
            ("all|the others|rest", "the others"),
        )
    ),
    *(
        Rule(
            "H",
            f"{what} {word} with|from|for|to|in|of|on? us|we|them|it? TIME? than AVGOF",
            lambda *p, o=op: _than_overall(o, p),
            (example,),
            weight=0.35,
        )
        for op, word in (
            (">", "more|higher|larger|bigger|better|longer"),
            ("<", "less|fewer|lower|smaller|worse|shorter"),
        )
        for what, example in (("E", f"fee {word.split('|')[0]} than the average owner"),)
    ),
    *(
        Rule(
            "H",
            f"E {word} on average than AVGOF T|C|U? does|do|did|is|are?",
            lambda e, *_, o=op: Held(Worked(m.Aggregated("mean", e.expr)), o, Function("mean")),
            (f"fee {word.split('|')[0]} on average than the average visit does",),
            weight=0.45,
        )
        for op, word in ((">", "more|higher|larger|bigger|longer"), ("<", "less|fewer|lower|smaller|shorter"))
    ),
    *(
        Rule(
            "H",
            f"{word} {what} TIME? than AVGOF",
            lambda *p, o=op: _than_overall(o, p),
            (f"{word.split('|')[0]} {said} than the average owner",),
            weight=0.35,
        )
        for op, word in ((">", "more|higher|larger|bigger|longer"), ("<", "less|fewer|lower|smaller|shorter"))
        for what, said in (("T", "visits"), ("E", "fee"))
    ),
    Rule(
        "H", "CMP AVGOF", lambda op, _: Held(None, op, Function("mean")), ("above the overall average",), weight=-0.05
    ),
    Rule(
        "H",
        "RATIO CMP AVGOF",
        lambda r, op, _: Held(r, op, Function("mean")),
        ("fee per visit above the overall average",),
        weight=0.25,
    ),
    *(
        Rule(
            "H",
            f"{lead}{word} {what} than {whose}E",
            lambda *p, o=op: _outdone(o, p[-2], p[-1]),
            (f"{start}{example}",),
            weight=0.4,
        )
        for lead, start, whose in (
            ("", "", "they|it|he|she|we have|has|had|got|is|are? "),
            ("HAVING ", "with ", ""),
        )
        for op, word in ((">", "more"), ("<", "fewer|less"))
        for what, example in (("T", f"{word.split('|')[0]} visits than they have seats"),)
    ),
    Rule("H", "CNT CMP N", lambda c, op, n: Held(c, op, n), ("number of visits over 100",), weight=-0.1),
    # times
    *(
        Rule(
            "K",
            f"in|for|at|of|from|during? the? {words} {what}",
            lambda *p: _in_the_latest(p),
            (example,),
            weight=1.0,
        )
        for words in ("latest|newest", "most recent", "last available")
        for what, example in (
            ("UNIT", f"in the {words.split('|')[0]} month"),
            ("period|figures|data|numbers|release|wave|round", f"in the {words.split('|')[0]} period"),
        )
    ),
    Rule(
        "K",
        "opened|raised|made|logged|started|begun|received|taken|placed|entered|created|recorded|submitted out|up|in? TIME",
        lambda s: Part(span_condition(s, m.EventTime()), "time"),
        ("made in 2025",),
        weight=-0.12,
    ),
    Rule(
        "K",
        f"{_LED} C|M|D",
        _known,
        ("led to a rating",),
        weight=0.25,
    ),
    Rule(
        "K",
        f"{_LED} VS",
        lambda v: Part(m.Is(v.column, v.values)),
        ("turned into dogs",),
        weight=0.35,
    ),
    Rule("K", "TIME", lambda s: Part(span_condition(s, m.EventTime()), "time"), ("in 2025",)),
    Rule("K", "WITHOUT the? TIME", lambda _, s: outside(s), ("without March 2025",), weight=0.25),
    # Payments due next month are those of next month, where no day of theirs is called so.
    Rule("K", "due TIME", lambda s: Part(span_condition(s, m.EventTime()), "time"), ("due in 2025",), weight=-0.2),
    Rule("K", "D TIME", _at, ("visit date in 2025",), weight=0.06),
    Rule(
        "K",
        "D their|his|her|its|a|an T TIME",
        lambda d, t, s: _at(d, s) if d.key is not None and d.key.table == t.table else None,
        ("opened their visit in 2025",),
        weight=0.35,
    ),
    Rule("K", "TIME ~D", lambda s, d: _at(d, s), ("in 2025 visited",), weight=-0.05),
    Rule("K", "D after|past|later|over than? CLOCK", _clock(">"), ("start after 18:00",), weight=0.2),
    Rule("K", "D before|until|by|earlier|sooner than? CLOCK", _clock("<"), ("start before 9am",), weight=0.2),
    Rule("CLOCK", "N in the? morning", lambda n: _hour(n, 0), ("7 in the morning",), weight=0.3),
    Rule("CLOCK", "N in the? afternoon|evening", lambda n: _hour(n, 12), ("3 in the afternoon",), weight=0.3),
    Rule("CLOCK", "N o'clock", lambda n: _hour(n, 0), ("9 o'clock",), weight=0.3),
    Rule(
        "K",
        "before|until CLOCK",
        lambda at: Part(m.Clock(m.EventTime(), "<", at), "number"),
        ("before 9am",),
        weight=0.1,
    ),
    Rule(
        "K",
        "before|until N",
        lambda n: Part(m.Clock(m.EventTime(), "<", at), "number") if (at := _hour(n, 0)) else None,
        ("before 9",),
        weight=-0.05,
    ),
    Rule(
        "K",
        "after|past|from|since CLOCK",
        lambda at: Part(m.Clock(m.EventTime(), ">", at), "number"),
        ("after 18:00",),
        weight=0.1,
    ),
    *(
        Rule(
            "K",
            f"in|on|during the|a|an|day? {word}|{word}s",
            lambda a=low, b=high: _part_of_day(a, b, "number"),
            (f"in the {word}",),
            weight=0.5,
        )
        for word, low, high in _PARTS_OF_DAY[:3]
    ),
    Rule("K", "between|from CLOCK and|to|until CLOCK", lambda a, b: _hours(a, b), ("between 5pm and 7pm",), weight=0.1),
    Rule("K", "CLOCK to|- CLOCK", lambda a, b: _hours(a, b), ("7am to 9am",), weight=0.05),
    Rule(
        "K",
        "between|from? CLOCK to|and|- CLOCK and|or|, between|from? CLOCK to|and|- CLOCK",
        lambda *p: _either_hours(p),
        ("from 7am to 9am and 4pm to 6pm",),
        weight=0.5,
    ),
    # numbers with units
    *(
        Rule("H", pattern, lambda *p: _adding_up(p), (example,), weight=weight)
        for pattern, example, weight in (
            (f"whose|where|with? T {_ADDS_UP[0]} CMP NU", "whose visits total more than 10 kg", 0.9),
            (f"whose|where|with? T {_ADDS_UP[1]} CMP NU", "whose visits come to more than 10 kg", 0.9),
            (f"whose|where|with? T {_ADDS_UP[0]} CMP N", "whose visits total over 500", 0.4),
            (f"whose|where|with? T {_ADDS_UP[1]} CMP N", "whose visits come to over 500", 0.4),
        )
    ),
    Rule(
        "K",
        "ACT|VERB|MV CMP NU",
        lambda _, op, a: compared(op, a.expr, a.number),
        ("bought over 10 kg",),
        weight=0.15,
    ),
    Rule("K", "CMP NU", lambda op, a: compared(op, a.expr, a.number), ("over 10 kg",), weight=0.12),
    Rule(
        "K",
        "CMP NU of|in? E",
        lambda op, a, e: compared(op, a.expr, a.number) if a.expr == e.expr else None,
        ("over 10 kg weight",),
        weight=0.45,
    ),
    Rule("K", "NU ORMORE", lambda a, op: compared(op, a.expr, a.number), ("10 kg or more",), weight=0.12),
    Rule(
        "K",
        "COMP than? their|its|the|his|her|our|your E",
        lambda c, e: Part(m.Compared(c[0], c[1], e.expr), "number") if c[1] != e.expr else None,
        ("heavier than their cost",),
        weight=0.25,
    ),
    Rule("K", "COMP NU", lambda c, a: compared(c[0], a.expr, a.number), ("heavier than 10 kg",), weight=0.2),
    Rule(
        "K",
        "E CMP NU",
        lambda e, op, a: compared(op, a.expr, a.number) if e.expr == a.expr else None,
        ("weight over 10 kg",),
        weight=0.2,
    ),
    Rule(
        "K", "BETWEEN N and|to NU", lambda _, n, a: between(a.expr, n, a.number), ("between 5 and 10 kg",), weight=0.15
    ),
    Rule("K", "between N and|to NU", lambda n, a: between(a.expr, n, a.number), ("between 5 and 10 kg",), weight=0.15),
    Rule("K", "NU", lambda a: compared("=", a.expr, a.number), ("20 kg",), weight=-0.1),
    Rule(
        "K",
        "NU M",
        lambda a, n: compared("=", a.expr, a.number) if n.key and a.expr == m.Col(n.key) else None,
        ("20 kg weight",),
        weight=0.15,
    ),
    Rule(
        "K",
        "when|where there was|is|were|are C",
        lambda n: _not(p) if (p := _missing(n)) else None,
        ("when there was a breed",),
        weight=0.4,
    ),
    # stretches of time between two dates
    Rule("K", "D within DUR", lambda d, s: _stretched("<=", None, d, s), ("closed within 3 days",), weight=0.3),
    Rule(
        "K",
        "D within DUR of|after|from D",
        lambda d, s, e: _stretched("<=", e, d, s),
        ("closed within 3 days of opened",),
        weight=0.35,
    ),
    Rule(
        "K",
        "D CMP DUR after|past|later|following|from than? D",
        lambda d, op, s, e: _stretched(op, e, d, s),
        ("closed more than 3 days after opened",),
        weight=0.35,
    ),
    Rule(
        "K",
        "D CMP DUR before|ahead of? D",
        lambda d, op, s, e: _stretched(op, d, e, s),
        ("opened more than 3 days before closed",),
        weight=0.35,
    ),
    Rule(
        "K",
        "D DUR ORMORE before|ahead of? D",
        lambda d, s, op, e: _stretched(op, d, e, s),
        ("opened 3 days or more before closed",),
        weight=0.35,
    ),
    Rule(
        "K",
        "D DUR ORMORE after|past|later than? D",
        lambda d, s, op, e: _stretched(op, e, d, s),
        ("closed 3 days or more after opened",),
        weight=0.35,
    ),
    *(
        Rule("K", pattern, build, (example,), weight=weight)
        for pattern, build, example, weight in (
            (
                "within|inside DUR of|after|from|since D",
                lambda s, d: _after(d, "<=", s),
                "within 3 days of closed",
                0.4,
            ),
            (
                "CMP DUR after|past|from than? D",
                lambda op, s, d: _after(d, op, s),
                "more than 3 days after closed",
                0.3,
            ),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: _member_for(p), (example,), weight=0.45)
        for pattern, example in (
            ("has|have|had been? WITHUS for? CMP DUR", "have been with us for more than 2 years"),
            ("has|have|had been? WITHUS for? DUR ORMORE", "have been with us for 2 years or more"),
            ("WITHUS for? CMP DUR", "with us for more than 2 years"),
            ("WITHUS for? DUR ORMORE", "with us for 2 years or more"),
        )
    ),
    *(
        Rule("K", pattern, lambda live, span, e=end: _running_then(live, span, e), (example,), weight=0.6)
        for pattern, end, example in (
            ("LIVE at|by|as the|of? end of TIME", "high", "active at the end of 2025"),
            ("LIVE at|by the? start|beginning of TIME", "low", "active at the start of 2025"),
            ("LIVE on|at|as of? TIME", "", "active on 5 January 2025"),
        )
    ),
    Rule(
        "CNTX",
        "on|at|as? of? TIME , COUNT T was|were|is|are LIVE",
        lambda span, _, noun, live: (
            (Counted(noun), such[1]) if (such := _such_running_then(live, noun, span, "")) is not None else None
        ),
        ("on 5 January 2025, how many visits were active",),
        weight=0.9,
    ),
    *(
        Rule("K", pattern, lambda live, span, e=end: _running_then(live, span, e), (example,), weight=0.9)
        for pattern, end, example in (
            ("HAD at|by|as the|of? end|close of TIME", "high", "visits we had at the end of 2025"),
            ("HAD at|by the? start|beginning of TIME", "low", "visits we had at the start of 2025"),
            ("HAD on|as of? TIME", "", "visits we had on 5 January 2025"),
        )
    ),
    *(
        Rule("CNTX", pattern, lambda *p, e=end: _how_many_then(p, e), (example,), weight=0.9)
        for pattern, end, example in (
            (
                "at|by|as the|of? end|close of TIME ,? HADC HAD?",
                "high",
                "at the end of 2025 how many visits were there",
            ),
            (
                "at|by the? start|beginning of TIME ,? HADC HAD?",
                "low",
                "at the start of 2025 how many visits were there",
            ),
            ("HADC at|by|as the|of? end|close of TIME", "high", "number of visits at the end of 2025"),
            ("HADC at|by the? start|beginning of TIME", "low", "number of visits at the start of 2025"),
        )
    ),
    *(
        Rule(
            "NPX", pattern, lambda had, span, e=end: _such_running_then(had[1], had[0], span, e), (example,), weight=0.5
        )
        for pattern, end, example in (
            ("HADT at|by|as the|of? end|close of TIME", "high", "visits at the end of 2025"),
            ("HADT at|by the? start|beginning of TIME", "low", "visits at the start of 2025"),
        )
    ),
    *(
        Rule("K", pattern, _running_within, (example,), weight=0.6)
        for pattern, example in (
            ("LIVE at|on any time|point|stage|day|moment in|during|within|of? TIME", "active at any time during 2025"),
            ("LIVE sometime|somewhen in|during|within? TIME", "active sometime in 2025"),
            ("LIVE during|throughout TIME", "active during 2025"),
        )
    ),
    *(
        Rule("NPX", pattern, lambda live, t, span, e=end: _such_running_then(live, t, span, e), (example,), weight=0.6)
        for pattern, end, example in (
            ("LIVE T at|by|as the|of? end of TIME", "high", "active visits at the end of 2025"),
            ("LIVE T at|by the? start|beginning of TIME", "low", "active visits at the start of 2025"),
            ("LIVE T on|as of? TIME", "", "active visits on 5 January 2025"),
        )
    ),
    Rule(
        "H",
        "always|invariably K",
        lambda k: Held(Worked(m.ShareOf((k.condition,))), ">=", 1.0) if k.kind != "time" else None,
        ("always overdue",),
        weight=0.5,
    ),
    Rule("K", "STATE after DUR", lambda k, s: _lasting_till_now(k, ">", s), ("open after 3 days",), weight=0.3),
    Rule("K", "STATE by? CMP DUR", lambda k, op, s: _later_by(k, op, s), ("late by more than 3 days",), weight=0.35),
    Rule("K", "CMP DUR STATE", lambda op, s, k: _later_by(k, op, s), ("more than 3 days late",), weight=0.35),
    Rule("K", "DUR ORMORE STATE", lambda s, op, k: _later_by(k, op, s), ("3 days or more late",), weight=0.35),
    *(
        Rule("E", f"{word} STATE", lambda k, u=unit: _lateness(u, k), (f"{word.split('|')[0]} late",), weight=0.25)
        for word, unit in (("days|day", "days"), ("hours|hour|hrs", "hours"), ("minutes|mins", "minutes"))
    ),
    Rule("E", "how STATE", lambda k: _lateness("days", k), ("how late",), weight=0.3),
    *(
        Rule("E", pattern, lambda k: _lateness("days", k), (example,), weight=0.7)
        for pattern, example in (
            ("STATE by how much", "late by how much"),
            ("by how much|many days? STATE", "by how much late"),
        )
    ),
    *(
        Rule(
            "E",
            pattern,
            lambda *p: _lateness("days", next(k for k in p if isinstance(k, Part))),
            (example,),
            weight=0.7,
        )
        for pattern, example in (
            (
                "how many days|day STATE do|does|did|are|is|was|were we|they|you|us? W|MV|VERB|PP?",
                "how many days late do we pay",
            ),
            (
                "how many days|day STATE is|are|was|were|do|does|did T|E|C PP|MV|VERB|W",
                "how many days late are visits paid",
            ),
            (
                "number of? days|day that|by which? E|T|C is|are|was|were STATE",
                "number of days that visits are late",
            ),
            ("days|day that|by which? E|T|C is|are|was|were STATE", "days that visits are late"),
        )
    ),
    Rule("E", "how far STATE", lambda k: _lateness("days", k), ("how far overdue",), weight=0.35),
    # at present
    Rule("K", "STATE NOW", lambda k, _: k, ("overdue at the moment",), weight=0.05),
    Rule("K", "NOW", lambda k: k, ("at the moment",), weight=-0.1),
    Rule("K", "WITHOUT T NOW", lambda _, t, k: _now(t, k, none=True), ("with no visits at the moment",), weight=0.3),
    Rule("K", "HAVING T NOW", lambda _, t, k: _now(t, k, none=False), ("with visits at the moment",), weight=0.2),
    Rule(
        "K",
        "STATE for CMP DUR",
        lambda k, op, s: _lasting_till_now(k, op, s),
        ("open for more than 14 days",),
        weight=0.35,
    ),
    Rule(
        "K",
        "STATE by CMP DUR",
        lambda k, op, s: _lasting_till_now(k, op, s),
        ("overdue by more than 14 days",),
        weight=0.5,
    ),
    Rule(
        "NPX",
        "STATE T by|for? CMP DUR old?",
        lambda *p: _such_overdue(*p[:4]),
        ("overdue visits over 14 days",),
        weight=0.6,
    ),
    Rule("K", "was|were STATE for CMP DUR", _lasted, ("were open for more than 14 days",), weight=0.8),
    Rule("K", "was|were STATE CMP DUR", _lasted, ("were open more than 14 days",), weight=0.6),
    Rule("K", "STATE CMP DUR", lambda k, op, s: _lasting_till_now(k, op, s), ("open more than 14 days",), weight=0.2),
    Rule(
        "K",
        "STATE for DUR ORMORE",
        lambda k, s, op: _lasting_till_now(k, op, s),
        ("open for 14 days or more",),
        weight=0.35,
    ),
    *(
        Rule("K", f"for|by|from|among|with T {aged}", build, (f"for visits {example}",), weight=0.75)
        for aged, build, example in (
            ("older than DUR", lambda n, s: (n, _aged(">", s)), "older than 60 days"),
            ("younger|newer than DUR", lambda n, s: (n, _aged("<", s)), "younger than 60 days"),
            ("CMP DUR old", lambda n, op, s: (n, _aged(op, s)), "more than 60 days old"),
            ("aged? DUR ORMORE", lambda n, s, op: (n, _aged(op, s)), "60 days or older"),
        )
    ),
    Rule("K", "older than DUR", lambda s: _aged(">", s), ("older than 60 days",), weight=0.35),
    Rule("K", "newer|younger than DUR", lambda s: _aged("<", s), ("newer than 60 days",), weight=0.35),
    Rule("K", "CMP DUR old", lambda op, s: _aged(op, s), ("more than 60 days old",), weight=0.35),
    # From two years ago is of that year, which a time says better.
    Rule("K", "CMP DUR ago", lambda op, s: _aged(op, s), ("more than 60 days ago",), weight=0.05),
    *(
        Rule("K", pattern, lambda d: _gone_by(d), (example,), weight=-0.15)
        for pattern, example in (
            ("past|beyond their|its|his|her|the D", "past their due"),
            ("whose D has|have|had? gone|passed|lapsed|expired by|already?", "whose due has passed"),
            ("that|which are|is past|beyond D", "that are past due"),
        )
    ),
    Rule("K", "aged? DUR ORMORE", lambda s, op: _aged(op, s), ("60 days or older",), weight=0.3),
    Rule("K", "aged? DUR old ORMORE", lambda s, op: _aged(op, s), ("60 days old or more",), weight=0.4),
    Rule(
        "K",
        "D is|was|were? CMP DUR ago",
        lambda d, op, s: _ago(d, op, s),
        ("closed more than 60 days ago",),
        weight=0.5,
    ),
    Rule("K", "LATERD within the? next? DUR", lambda d, s: _soon(d, s), ("due within 60 days",), weight=0.45),
    *(
        Rule("K", f"{start} been|had? LASTD {what}", lambda *p, b=build: b(*p[1:]), (example,), weight=0.5)
        for start in ("NEG", "WITHOUT")
        for what, build, example in (
            ("for|in? CMP DUR", _ago, "not last seen for more than 60 days"),
            ("for DUR", lambda d, s: _ago(d, ">", s), "not last seen for 60 days"),
            ("TIME", _not_done_since, "not last seen since May 2025"),
        )
    ),
    # what was planned
    Rule(
        "MET", "REACHED their|its|the|our|his|her? E", lambda op, e: Reached(op, e), ("reached their fee",), weight=0.0
    ),
    Rule(
        "MET",
        "is|are|was|were|went|gone|ran|have|has|had gone|been|run? REACHED their|its|the|our|his|her? E",
        lambda *p: Reached(p[-2], p[-1]),
        ("have reached their fee",),
        weight=0.4,
    ),
    Rule(
        "MET",
        "is|are|was|were|have|has|had|do|did|does not gone|been|run? REACHED their|its|the|our|his|her? E",
        lambda *p: Reached(_OTHERWISE[p[-2]], p[-1]),
        ("have not reached their fee",),
        weight=0.5,
    ),
    # gaps
    *(
        Rule("K", pattern, lambda *p: _missing(p[-1]), (example,), weight=0.9)
        for pattern, example in (
            ("left|leave|leaves|leaving the|their? C|M|D|F blank|empty|open|unanswered|out", "left the breed blank"),
            ("did|do|does not answer|fill|complete in|out? the? C|M|D|F", "did not answer breed"),
            ("C|M|D|F was|were|is|are? left blank|empty|open|unanswered", "breed was left blank"),
        )
    ),
    Rule(
        "K",
        "left|leave|leaves|wrote|write|added|posted a|an|any|some C",
        lambda n: Part(m.Not(m.Missing(n.key)), "state") if n.key is not None else None,
        ("left a breed",),
        weight=0.7,
    ),
    Rule("K", "WITHOUT C", lambda _, n: _missing(n), ("without a breed",), weight=0.12),
    *(
        Rule("K", pattern, lambda *p: _missing(p[-1]), (example,), weight=weight)
        for pattern, example, weight in (
            ("NEG D", "not closed", 0.06),
            ("NEG D yet|already", "not closed yet", 0.2),
            ("NEG yet|been D", "not yet closed", 0.2),
            ("still|yet to be D", "still to be closed", 0.3),
            ("still not D", "still not closed", 0.3),
        )
    ),
    Rule(
        "K",
        "WITHOUT known|recorded|given|stated C|D|M",
        lambda _, n: _missing(n),
        ("with no known rating",),
        weight=0.35,
    ),
    Rule("K", "WITHOUT D", lambda _, n: _missing(n), ("without a visit date",), weight=0.08),
    Rule("K", "WITHOUT M", lambda _, n: _missing(n), ("without a rating",), weight=0.08),
    Rule("K", "MISSING C", lambda _, n: _missing(n), ("missing breed",), weight=0.12),
    Rule("K", "MISSING D", lambda _, n: _missing(n), ("missing date",), weight=0.12),
    Rule("K", "MISSING M", lambda _, n: _missing(n), ("missing rating",), weight=0.12),
    Rule("K", "C MISSING", lambda n, _: _missing(n), ("breed is missing",), weight=0.12),
    Rule("K", "D MISSING", lambda n, _: _missing(n), ("date missing",), weight=0.12),
    Rule("K", "M MISSING", lambda n, _: _missing(n), ("rating missing",), weight=0.12),
    Rule("K", "nobody|no-one has|had|have? been? ever? DOER|C", _missing, ("nobody owns",), weight=0.3),
    Rule("K", "no one has|had|have? been? ever? DOER|C", _missing, ("no one has owned",), weight=0.35),
    Rule("K", "NEG know|known who has|had? DOER", lambda _, n: _missing(n), ("we do not know who owned",), weight=0.4),
    Rule(
        "K", "without|WITHOUT anyone|anybody? DOER", lambda *p: _missing(p[-1]), ("without anyone owned",), weight=0.2
    ),
    Rule("K", "NEG been? DOER", lambda _, n: _missing(n), ("not been owned",), weight=0.02),
    Rule(
        "K",
        "whose|where the? C|D|M we|i|you|they|is|are|was? NEG know|have|known|hold|given|recorded",
        lambda *p: _missing(next(n for n in p if isinstance(n, Noun))),
        ("whose breed we don't know",),
        weight=0.6,
    ),
    Rule("K", "NEG know|known the? C", lambda _, n: _missing(n), ("we do not know the breed",), weight=0.2),
    Rule(
        "K",
        "HAVING C known|given|filled|recorded",
        lambda _, n: _known(n),
        ("with breed known",),
        weight=0.2,
    ),
    Rule(
        "K",
        "HAVING M|D",
        lambda _, n: _known(n),
        ("with a rating",),
        weight=-0.12,
    ),
    # flags
    Rule("K", "F", _flag, ("attended",), weight=-0.02),
    Rule("K", "HAVING F", lambda _, n: _flag(n), ("with attended",), weight=0.08),
    Rule("K", "F on|yes|true|= yes?", _flag, ("attended yes",), weight=0.1),
    Rule("K", "F off|no|false", lambda n: _flag(n, False), ("attended no",), weight=0.15),
    Rule("K", "NEG F", lambda _, n: _flag(n, False), ("not attended",), weight=0.15),
    *(
        Rule("K", pattern, lambda *p, b=build: b(p[1], p[-1]), (example,), weight=0.4)
        for pattern, build, example in (
            ("WITHOUT F OR F", _flags(m.All, False), "without attended or vaccinated"),
            ("WITHOUT C|D|M OR C|D|M", _neither, "without a breed or a rating"),
            ("HAVING F and|& F", _flags(m.All), "with attended and vaccinated"),
            ("HAVING F or F", _flags(m.Any), "with attended or vaccinated"),
        )
    ),
    Rule("K", "WITHOUT STATE", lambda _, s: _not(s), ("without closed",), weight=0.1),
    Rule("K", "WITHOUT F", lambda _, n: _flag(n, False), ("without attended",), weight=0.15),
    # text
    Rule("K", "C CONTAINS QUOTED", lambda n, _, t: _says("contains")(n, t), ("name containing 'x'",), weight=0.2),
    Rule("K", "HAVING QUOTED in C", lambda _, t, n: _says("contains")(n, t), ("with 'x' in the name",), weight=0.2),
    Rule(
        "K",
        "HAVING the? word|words|phrase|term|letters W in C",
        lambda _, t, n: _says("contains")(n, t),
        ("with the word x in the name",),
        weight=0.5,
    ),
    Rule(
        "K",
        "HAVING W in C",
        lambda _, t, n: _says("contains", quoted=False)(n, t),
        ("with x in the name",),
        weight=0.35,
    ),
    Rule("K", "QUOTED in C", lambda t, n: _says("contains")(n, t), ("'x' in the name",), weight=0.2),
    Rule(
        "K", "C CONTAINS W", lambda n, _, t: _says("contains", quoted=False)(n, t), ("name containing x",), weight=0.35
    ),
    Rule("K", "C STARTS QUOTED", lambda n, _, t: _says("starts")(n, t), ("name starting with 'x'",), weight=0.2),
    Rule("K", "C STARTS W", lambda n, _, t: _says("starts", quoted=False)(n, t), ("name starting with x",), weight=0.4),
    Rule("K", "C ENDS QUOTED", lambda n, _, t: _says("ends")(n, t), ("name ending in 'x'",), weight=0.2),
    Rule("K", "C ENDS W", lambda n, _, t: _says("ends", quoted=False)(n, t), ("name ending in x",), weight=0.4),
    Rule(
        "K",
        "C NEG CONTAINS QUOTED",
        lambda n, _, __, t: _not(p) if (p := _says("contains")(n, t)) else None,
        ("name not containing 'x'",),
        weight=0.25,
    ),
    Rule(
        "K",
        "WITHOUT QUOTED in C",
        lambda _, t, n: _not(p) if (p := _says("contains")(n, t)) else None,
        ("with no 'x' in the name",),
        weight=0.35,
    ),
    Rule("K", "C HAVING QUOTED in it?", lambda n, _, t: _says("contains")(n, t), ("name with 'x' in it",), weight=0.2),
    Rule(
        "K",
        "C HAVING W in it",
        lambda n, _, t: _says("contains", quoted=False)(n, t),
        ("name with x in it",),
        weight=0.4,
    ),
    Rule(
        "K",
        "QUOTED somewhere|anywhere? in C",
        lambda t, n: _says("contains")(n, t),
        ("'x' somewhere in the name",),
        weight=0.2,
    ),
    Rule("K", "C like QUOTED", lambda n, t: _says("contains")(n, t), ("name like 'x'",), weight=0.2),
    *(
        Rule("K", pattern, lambda op, f, e: than_average(op, e, f), (example,), weight=0.35)
        for pattern, example in (
            ("CMP AGG in|on|for|by? E", "above average fee"),
            ("CMP the? AGG in|on|for|by E", "above the median in fee"),
        )
    ),
    Rule(
        "K",
        "sub AGG E",
        lambda f, e: than_average("<", e) if f == "mean" else None,
        ("sub-average fee",),
        weight=0.4,
    ),
    *(
        Rule("K", pattern, lambda *p: _missing(p[-1]), (example,), weight=0.4)
        for pattern, example in (
            (
                "NEG linked|tied|attached|connected|matched|assigned|allocated|allotted to|with a|an|any? C|D",
                "not linked to a species",
            ),
            ("without|no link|tie|connection to|with a|an|any? C|D", "without link to a species"),
        )
    ),
    Rule("K", "MISSING a|an|their|its|the? F", lambda _, n: _flag(n, False), ("missing a attended",), weight=0.35),
    Rule(
        "NEVER",
        "we|they|i? still have|has|need|needs to W for?",
        lambda w: Never(w),
        ("we still have to book",),
        weight=0.35,
    ),
    Rule(
        "K",
        "done|made|covered|taken|held|run|handled|given|staffed|worked|carried|seen|served|fixed|placed|led|taught|written on|out|over? by a|an|the? F",
        lambda n: _flag(n),
        ("done by attended",),
        weight=0.7,
    ),
    # days and signs
    Rule("K", "D CMP TIME", lambda d, op, s: _beyond(op, d, s), ("visit date past 5 May 2025",), weight=-0.05),
    Rule("K", "D SIGN TIME", lambda d, op, s: _beyond(op, d, s), ("visit date > 5 May 2025",), weight=0.2),
    Rule("K", "weekday|weekdays ONLY", lambda _: _workdays(), ("weekdays only",), weight=0.35),
    Rule("K", "ONLY weekday|weekdays", lambda _: _workdays(), ("only weekdays",), weight=0.35),
    Rule("K", "on|during weekday|weekdays", _workdays, ("on weekdays",), weight=0.75),
    Rule("K", "mon-fri|monday-friday", _workdays, ("Mon-Fri",), weight=0.95),
    *(
        Rule(
            "K",
            f"{pattern} {what}",
            lambda *p: _none_of_those(p),
            (said,),
            weight=0.5,
        )
        for pattern in (
            "minus|less|except|excepting|without|leaving|but|bar out|for|not? those|ones|any HAVING",
            "NEG those|ones HAVING",
        )
        for what, said in (("T", "minus those with animals"), ("T K", "minus those with visits in 2024"))
    ),
    Rule("K", "NEG those|ones HAVING T", lambda _, __, t: has_none(t), ("excluding those with animals",), weight=0.3),
    Rule(
        "K",
        "NEG T WITHOUT C|D|M",
        lambda _, __, ___, n: _not(p) if (p := _missing(n)) else None,
        ("ignoring visits with no rating",),
        weight=0.35,
    ),
    Rule("K", "monday to|-|through friday", _workdays, ("Monday to Friday",), weight=0.95),
    Rule("NPX", "weekday|weekdays T", lambda t: (t, _workdays()), ("weekday visits",), weight=0.1),
    # nought
    Rule("K", "non|no|not|without zero E", _not_zero, ("non zero fee",), weight=0.3),
    Rule("K", "negative E", lambda e: compared("<", e.expr, 0.0), ("negative fee",), weight=0.3),
    Rule("K", "positive E", lambda e: compared(">", e.expr, 0.0), ("positive fee",), weight=0.3),
    Rule("K", "WITHOUT E", lambda _, e: None if e.verb else compared("=", e.expr, 0.0), ("without fee",), weight=0.02),
    # What never flew has no flights, before it is what flew no distance.
    Rule(
        "K",
        "WITHOUT MV",
        lambda _, n: compared("=", m.Col(n.key), 0.0) if n.key else None,
        ("without paid",),
        weight=-0.3,
    ),
    Rule("K", "E not|above zero", _not_zero, ("fee not zero",), weight=0.2),
    Rule("H", "NEG zeros|zeroes|zero|nil|0", lambda _: Held(None, "!=", 0.0), ("excluding zeros",), weight=0.3),
    Rule(
        "H",
        "zeros|zeroes excluded|ignored|out|aside|removed|skipped",
        lambda: Held(None, "!=", 0.0),
        ("zeros excluded",),
        weight=0.9,
    ),
    Rule("H", "zeros|zeroes left|taken|kept out", lambda: Held(None, "!=", 0.0), ("zeros left out",), weight=0.9),
    # rows of other tables, with what is said of them
    Rule("K", "WITHOUT VS", lambda _, v: _lacks(v), ("without Dog",), weight=0.12),
    Rule("K", "C SIGN VS", lambda c, op, v: _by_sign(c, op, v), ("species != Dog",), weight=0.9),
    Rule(
        "BESX",
        "E minus|less VS",
        lambda e, v: (e, Part(m.Not(m.Is(v.column, v.values)), "value")) if isinstance(e.expr, m.Col) else None,
        ("fee minus Dog",),
        weight=0.6,
    ),
    Rule("K", "WITHOUT VS TIME", lambda _, v, s: _lacks(v, s), ("without Dog in 2024",), weight=0.12),
    Rule("K", "HAVING VS TIME", lambda _, v, s: _holds(v, s), ("with Dog in 2024",), weight=0.05),
    Rule("K", "in M", lambda n: compared(">", m.Col(n.key), 0.0) if n.key else None, ("in rating",), weight=-0.15),
    Rule(
        "K",
        "took|take|takes|taking|lasted|lasts|lasting CMP NU",
        # A column that tells how long it took goes before any two days.
        lambda op, a: compared(op, a.expr, a.number) if isinstance(a.expr, m.Col) else None,
        ("took over 10 kg",),
        weight=0.24,
    ),
    Rule("K", "TOOK CMP N weeks|week", _lasting("days", 7), ("took more than 2 weeks",), weight=0.35),
    Rule("K", "TOOK CMP N days|day", _lasting("days"), ("took more than 2 days",), weight=0.35),
    Rule("K", "TOOK CMP N hours|hour|hrs", _lasting("hours"), ("took more than 2 hours",), weight=0.35),
    Rule("K", "TOOK CMP N minutes|minute|mins", _lasting("minutes"), ("took more than 20 minutes",), weight=0.35),
    Rule("K", "TOOK CMP a|an|one hour", _lasting("hours"), ("took more than an hour",), weight=0.35),
    Rule("K", "TOOK CMP a|one week", _lasting("days", 7), ("took more than a week",), weight=0.35),
    Rule("K", "TOOK CMP a|one month", _lasting("months"), ("took more than a month",), weight=0.35),
    Rule(
        "K",
        "WITHOUT K T TIME",
        lambda _, k, t, s: has_none(t, k, Part(span_condition(s, m.EventTime()), "time")),
        ("owners with no Dog animals in 2025",),
        weight=0.3,
    ),
    Rule("K", "WITHOUT K T", lambda _, k, t: has_none(t, k), ("owners with no Dog animals",), weight=0.28),
    *(
        Rule("K", pattern, lambda *p: has_none(p[1], p[-1]), (example,), weight=0.22)
        for pattern, example in (
            ("WITHOUT T where|which|that|when? K", "owners with no animals where Dog"),
            ("WITHOUT T at all K", "owners with no visits at all in 2025"),
            ("WITHOUT T whatsoever K", "owners with no visits whatsoever in 2025"),
        )
    ),
    Rule(
        "K",
        "WITHOUT T K K",
        lambda _, t, *k: has_none(t, *k),
        ("owners with no animals in 2025 overdue",),
        weight=0.25,
    ),
    Rule(
        "K",
        "HAVING a|an|any|some? K T and|& also? a|an|any|some|at? least? one? K T",
        lambda *p: _of_two_kinds(p),
        ("with overdue visits and a Dog animal",),
        weight=0.5,
    ),
    Rule("K", "HAVING K T", lambda _, k, t: rows_having(">=", 1, t, k), ("owners with Dog animals",), weight=0.08),
    Rule(
        "K",
        "HAVING T where|which|that|when? K",
        lambda _, t, k: rows_having(">=", 1, t, k),
        ("owners with animals in 2025",),
        weight=0.05,
    ),
    Rule(
        "K",
        "HAVING CMP N K T",
        lambda _, op, n, k, t: rows_having(op, n, t, k),
        ("owners with more than 2 Dog animals",),
        weight=0.3,
    ),
    Rule(
        "K",
        "HAVING CMP N T where|which|that|when? K",
        lambda _, op, n, t, k: rows_having(op, n, t, k),
        ("owners with more than 2 animals in 2025",),
        weight=0.3,
    ),
    Rule(
        "K",
        "HAVING N ORMORE T where|which|that|when? K",
        lambda _, n, op, t, k: rows_having(op, n, t, k),
        ("owners with 2 or more animals in 2025",),
        weight=0.3,
    ),
    Rule(
        "K",
        "HAVING N ORMORE K T",
        lambda _, n, op, k, t: rows_having(op, n, t, k),
        ("owners with 2 or more Dog animals",),
        weight=0.3,
    ),
    *(
        Rule("K", pattern, build, (example,), weight=0.3)
        for pattern, build, example in (
            ("K CMP N T", lambda k, op, n, t: _such_rows(k, op, n, t), "overdue more than 2 visits"),
            ("K N ORMORE T", lambda k, n, op, t: _such_rows(k, op, n, t), "overdue 2 or more visits"),
        )
    ),
    Rule("K", "HAVING N T", lambda _, n, t: rows_having("=", n, t), ("owners with 2 animals",), weight=0.1),
    Rule(
        "K", "HAVING ONLY N T", lambda _, __, n, t: rows_having("=", n, t), ("owners with only 1 animal",), weight=0.3
    ),
    Rule(
        "K",
        "HAVING? several|multiple T",
        lambda *p: rows_having(">=", 2, p[-1]),
        ("owners with several animals",),
        weight=0.25,
    ),
    Rule(
        "K",
        "HAVING more than one T",
        lambda _, t: rows_having(">=", 2, t),
        ("owners with more than one animal",),
        weight=0.4,
    ),
    Rule(
        "NEVER",
        "nobody|no-one|noone|never has|have|had|been? ever? W",
        lambda w: Never(w),
        ("never booked",),
        weight=0.25,
    ),
    Rule("NEVER", "no one has|have|had? ever? W", lambda w: Never(w), ("no one ever booked",), weight=0.35),
    Rule(
        "K",
        "never has|have|had|been? W us|with|for|at? a|an|any|one? T",
        lambda _, t: has_none(t),
        ("never made a visit",),
        weight=0.35,
    ),
    Rule(
        "K",
        "HAVING never|not W us|with|for|at? a|an|any|one? T",
        lambda *p: has_none(p[-1]),
        ("who have never made a visit",),
        weight=0.35,
    ),
    Rule(
        "NEVER",
        "never has|have|had|been? W us? a? anything|something|penny|cent|thing",
        lambda w: Never(w),
        ("never sent anything",),
        weight=0.4,
    ),
    *(
        Rule(
            "NPX",
            f"{start} been|had? W TIME",
            lambda *p: (Never(p[-2]), Part(span_condition(p[-1], m.EventTime()), "time")),
            (example,),
            weight=0.42,
        )
        for start, example in (
            ("NEG", "have not been booked since May 2024"),
            ("WITHOUT", "haven't been booked since May 2024"),
        )
    ),
    *(
        Rule(
            "NEVER",
            pattern,
            lambda w, *p: _lapsed_at(w, [s for s in p if isinstance(s, Span)]),
            (example,),
            weight=0.5,
        )
        for pattern, example in (
            ("W W? TIME ,? but|and NEG W|VERB? W? TIME", "bought in 2024 but not in 2025"),
            ("W W? TIME ,? but|and NEG W|VERB? since|after|afterwards|later", "bought in 2024 but not since"),
            ("W W? TIME ,? but|and never again|since|afterwards|after", "bought in 2024 but never again"),
            ("W TIME do|does|did|have|has|had NEG W|VERB? at? all? TIME", "bought in 2024 did not buy in 2025"),
            ("W TIME didn't|haven't|hasn't|don't W|VERB? at? all? TIME", "bought in 2024 didn't buy in 2025"),
            (
                "W something|anything? TIME but|and nothing|none|never at? all? W|VERB? TIME",
                "gave in 2024 but nothing in 2025",
            ),
        )
    ),
    Rule(
        "NEVER",
        "NEG W on|in|for|to|with? anything",
        lambda _, w: Never(w),
        ("haven't visited anything",),
        weight=0.9,
    ),
    *(
        Rule("AGAIN", pattern, lambda *_: "", (example,), weight=0.3)
        for pattern, example in (
            ("again|also|back", "again"),
            ("have|has|had|are|were? W|VERB again|also|back", "bought again"),
            ("have|has|had|are|were? come|came|coming|gone|been back|again", "have come back"),
            ("have|has? returned", "returned"),
        )
    ),
    *(
        Rule("NEVER", pattern, lambda w, one, *rest: _lapsed(w, one, rest[-1], again=True), (example,), weight=0.45)
        for pattern, example in (
            ("W TIME and|&|also? AGAIN TIME", "bought in 2024 and again in 2025"),
            ("W both in|during? TIME and|& TIME", "bought both in 2024 and in 2025"),
            ("W TIME and|as well? as? TIME both|too|alike", "bought in 2024 and in 2025 both"),
            ("W TIME as well as AGAIN? TIME", "bought in 2024 as well as in 2025"),
        )
    ),
    *(
        Rule(
            "BESX",
            f"of|among|from the|all|our? T K ,? {asked} HAVING? H",
            lambda *p, s=share: _of_those_more(p, share=s),
            (example,),
            weight=0.8,
        )
        for asked, share, example in (
            ("SHARE", True, "of the owners with at least 1 visit , what share have more than 2"),
            ("COUNT", False, "of the owners with at least 1 visit , how many have more than 2"),
        )
    ),
    *(
        Rule("SHRX", pattern, lambda *p: _kept_on(p), (example,), weight=0.5)
        for pattern, example in (
            (
                "of everybody|everyone|all|those|people who|that W TIME , SHARE W|VERB|AGAIN TIME",
                "of everybody who gave in 2024 , what percentage gave again in 2025",
            ),
            (
                "of the T who|that W TIME , SHARE W|VERB|AGAIN TIME",
                "of the owners who gave in 2024 , what percentage gave again in 2025",
            ),
            (
                "SHARE of? the? T who|that? W TIME W|VERB|AGAIN TIME",
                "share of the owners who gave in 2024 gave again in 2025",
            ),
            ("T retention from|between? TIME to|and|into|until? TIME", "owner retention from 2024 to 2025"),
            (
                "retention rate|share? of|for? the? T from|between? TIME to|and|into|until? TIME",
                "retention of owners from 2024 to 2025",
            ),
            (
                "SHARE of? TIME T W|VERB|AGAIN TIME",
                "share of 2024 owners came back in 2025",
            ),
        )
    ),
    *(
        Rule("H", pattern, lambda *p: _in_every(p), (example,), weight=0.6 + 0.2 * ("that|" in pattern))
        for pattern, example in (
            ("HAVING W to|at|in|on|for|from? every single? C|D|T|UNIT", "who have been to every clinic"),
            ("W to|at|in|on|for|from? every single? C|D|T|UNIT", "came in every month"),
            ("that|who|which W to|at|in|on|for|from? every single? C|D|T|UNIT", "who came in every month"),
        )
    ),
    *(
        Rule("H", pattern, lambda *p: _so_in_every(p), (example,), weight=0.7)
        for pattern, example in (
            ("K to|by|with? something|anything|one in|during? every single? UNIT", "attended something in every month"),
            ("K to|by|with|for? in|during? every single? UNIT", "attended in every month"),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: _so_then_no_more(p), (example,), weight=0.55)
        for pattern, example in (
            ("VS TIME but|and NEG W|VERB|VS? at? all? TIME", "Dog in 2024 but not in 2025"),
            (
                "VS something|anything? TIME but|and nothing|none|never at? all? TIME",
                "Dog something in 2024 but nothing in 2025",
            ),
        )
    ),
    Rule(
        "NEVER",
        "has|have|had|did? W nothing|nowt TIME",
        lambda w, s: (Never(w), Part(span_condition(s, m.EventTime()), "time")),
        ("booked nothing in May 2025",),
        weight=0.75,
    ),
    Rule("NEVER", "has|have|had|did? W nothing|nowt", lambda w: Never(w), ("has booked nothing",), weight=0.45),
    Rule("NEVER", "NEG been? W", lambda _, w: Never(w), ("not been booked",), weight=0.0),
    Rule(
        "NEVER",
        f"{_LAST_SEEN} TIME",
        lambda s: _last_before(s),
        ("last seen before 5 January 2025",),
        weight=0.9,
    ),
    *(
        Rule("NEVER", pattern, lambda *p: _quiet_for(*p[-1]), (example,), weight=0.9)
        for pattern, example in (
            (f"{_QUIET} for? over|more|at|the? than|least|last|past? DUR", "dormant for over 60 days"),
            (
                f"that|who|which have|has gone|been|become {_QUIET} for? over|more|at|the? than|least|last|past? DUR",
                "that have gone quiet for 60 days",
            ),
        )
    ),
    Rule(
        "KB",
        f"that|which|who? a|an|some VS? T {_WAS_MADE}",
        lambda *p: _had_one_for(p),
        ("that a visit was recorded for", "that a Dog animal was recorded for"),
        weight=0.8,
    ),
    *(
        Rule("H", pattern, lambda c, t: _of_the_same(c, t), (example,), weight=0.7)
        for pattern, example in (
            (
                f"{_USING} a|one|the single|one|same|only C for|in|on|with|across all|every of? their|its|the T",
                "using a single species for all their animals",
            ),
            (
                f"{_USING} one|only|single C for|in|on|with|across all|every of? their|its|the T",
                "using one species for all their animals",
            ),
        )
    ),
    *(
        Rule("H", pattern, lambda op, n, e: _averaging(op, n, e), (example,), weight=0.9)
        for pattern, example in (
            ("that|which|who? averaging|average|averaged|averages CMP N on|in|for|of? E", "averaging over 5 on fee"),
            ("averaging|average|averaged|averages CMP N E", "averaging over 5 fee"),
        )
    ),
    Rule(
        "H",
        "that|which|who? pass|passed|passing|reach|reached|hit|top|topped|cross|crossed the? N T mark",
        lambda n, t: Held(Counted(t), ">=", n),
        ("that passed the 5 visits mark",),
        weight=0.9,
    ),
    Rule(
        "H",
        "with|having|HAVING only|just|exactly? a? single|one|lone T",
        lambda *p: Held(Counted(p[-1]), "=", 1.0),
        ("with a single visit",),
        weight=0.6,
    ),
    *(
        Rule("KB", pattern, lambda *p: only_such(*_rows_and_part(p)), (example,), weight=0.7)
        for pattern, example in (
            (
                "where|whose no|none of? the|their|its? T is|are|was|were|has|have|had|been|being|in|for|on|of anything|something? other than|but VS",
                "where no animal was anything other than Dog",
            ),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: both(*(x for x in p if isinstance(x, Values))), (example,), weight=0.6)
        for pattern, example in (
            ("HAVING VS plus VS", "having Dog plus Cat"),
            ("HAVING VS as well as VS", "having Dog as well as Cat"),
            ("HAVING a|an VS T and a|an VS one|T? too|also|as|both well?", "with a Dog animal and a Cat one too"),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: _known(p[-1]), (example,), weight=0.7)
        for pattern, example in (
            ("have|has|had|with|having C|D|M filled|entered|put|written|typed in|down", "have rating filled in"),
            ("have|has|had|with|having C|D|M entered|recorded|given|present", "have rating recorded"),
            ("whose|where C|D|M is|was|are|were filled|entered|put|written in|down", "where rating is filled in"),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: _missing(p[-1]), (example,), weight=0.5)
        for pattern, example in (
            ("n/a|nulls|blanks|gaps|holes|nothing in|under|for the? C|D|M column?", "blanks in rating"),
        )
    ),
    *(
        Rule(
            "NEVER",
            pattern,
            lambda *p: (Never("came"), Part(span_condition(p[-1], m.EventTime()), "time")),
            (example,),
            weight=0.8,
        )
        for pattern, example in (
            ("has|have|had NEG been back|in|here|seen? TIME", "have not been since May 2025"),
            ("has|have|had NEG come|visited|returned|attended|appeared back|in? TIME", "have not come since May 2025"),
            ("haven't|hasn't|havent|hasnt been back|in|here|seen? TIME", "haven't been since May 2025"),
            ("haven't|hasn't|havent|hasnt come|visited|returned|attended back|in? TIME", "haven't come since May 2025"),
        )
    ),
    # only ever, and both
    Rule(
        "K",
        "whose every|all|only T is|are|was|were|in|for? K",
        only_such,
        ("whose every visit was overdue",),
        weight=0.35,
    ),
    Rule(
        "K",
        "whose T is|are|was|were|have|has|had all|only|always K",
        only_such,
        ("whose visits are all overdue",),
        weight=0.35,
    ),
    Rule(
        "K",
        "all|every of? their|its|his|her|whose T is|are|was|were|in|for|from? K",
        only_such,
        ("all their visits are Dog",),
        weight=0.35,
    ),
    Rule("K", "ONLY had|have|has|ever|got K T", lambda _, k, t: only_such(t, k), ("only ever Dog visits",), weight=0.4),
    *(
        Rule("K", pattern, lambda *p: only_such(*_rows_and_part(p)), (example,), weight=0.6)
        for pattern, example in (
            ("HAVING T of|from|for|with|in VS ONLY|exclusively|alone", "with animals of Dog only"),
            ("HAVING T of|from|for|with|in ONLY VS", "with animals of only Dog"),
            (
                "for|of whom|which every|all T is|are|was|were|took place? in|at|of? K",
                "for which all visits were overdue",
            ),
            ("where|that no T is|was|were|are anything other than VS", "where no animal was anything other than Dog"),
        )
    ),
    Rule("K", "HAVING ONLY K T", lambda _, __, k, t: only_such(t, k), ("with only Dog animals",), weight=0.4),
    Rule("K", "HAVING K T ONLY", lambda _, k, t, __: only_such(t, k), ("with Dog animals only",), weight=0.4),
    Rule(
        "K",
        "HAVING K T and nothing|none else",
        lambda _, k, t: only_such(t, k),
        ("with Dog animals and nothing else",),
        weight=0.35,
    ),
    Rule(
        "K",
        "HAVING K and no other T",
        lambda _, k, t: only_such(t, k),
        ("with Dog and no other animals",),
        weight=0.35,
    ),
    *(
        Rule("K", pattern, lambda k, t, *_: only_such(t, k), (example,), weight=0.35)
        for pattern, example in (
            (
                "STATE every|all single? of? their|its|his|her? T they|he|she|it? have|has|had|ever? W?",
                "overdue every single visit",
            ),
            ("STATE all of? their|its|his|her T", "overdue all their visits"),
        )
    ),
    # both of two, in rows of their own
    *(
        Rule("K", pattern, lambda *p: _all_held(*(v for v in p if isinstance(v, Values))), (example,), weight=weight)
        for pattern, example, weight in (
            ("doubling|doubled|double up on V and|& V", "doubling up on Dog and Cat", 0.6),
            (
                "that|who took|had|have|has|did|bought|got|booked V together|along|combined with V",
                "who had Dog together with Cat",
                0.6,
            ),
            ("not just|only|merely V but also? V", "not only Dog but also Cat", 0.7),
            (
                "that? had|have|has|took|did V at one time|point and V at another",
                "had Dog at one time and Cat at another",
                0.7,
            ),
            ("on both lists , V and|& V", "on both lists, Dog and Cat", 0.7),
            ("V on the? one hand and with|also? V on the? other", "Dog on one hand and Cat on the other", 0.7),
            ("HAVING V , V and|& V ,? all three of? them?", "with France, Spain and Italy, all three", 0.7),
            (
                "did|took|visited V , V and|& V ,? all three of? them?",
                "visited France, Spain and Italy, all three",
                0.7,
            ),
            ("V +|and|& V both|together , COUNT", "Dog and Cat both, how many", 0.3),
            ("HAVING V as? well as V", "with Dog as well as Cat", 0.5),
            ("common to V and|& V", "common to Dog and Cat", 0.7),
            ("in V and|& in? V at the same time", "in Dog and Cat at the same time", 0.7),
            ("V and|& V alike", "Dog and Cat alike", 0.5),
            ("HAVING V and|& HAVING V", "have Dog and have Cat", 0.5),
            ("not just V but V on top|too|also|as? well?", "not just Dog but Cat on top", 0.7),
            ("V and|& V in one|the and? the? same", "Dog and Cat in one and the same", 0.7),
            ("listed|found|filed|recorded under V and|& under? V", "listed under Dog and under Cat", 0.6),
            ("V and|& in? V together|both", "Dog and in Cat both", 0.3),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: _one_not_other(*(v for v in p if isinstance(v, Values))), (example,), weight=0.7)
        for pattern, example in (
            ("V yes , V no", "Dog yes, Cat no"),
            ("HAVING V but|and not|no V T?", "with Dog but not Cat"),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: _just_one_of(*(v for v in p if isinstance(v, Values))), (example,), weight=0.9)
        for pattern, example in (
            ("either V or V but|and|, not both", "either Dog or Cat but not both"),
            ("V or V but|and|, not|never both", "Dog or Cat but not both"),
            ("only one of V and|or|& V", "only one of Dog and Cat"),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: _neither_held(*(v for v in p if isinstance(v, Values))), (example,), weight=0.8)
        for pattern, example in (
            ("HAVING neither VS nor V T", "with neither Dog nor Cat animals"),
            ("HAVING no VS nor|or V T", "with no Dog or Cat animals"),
        )
    ),
    *(
        Rule("NPX", pattern, lambda *p: _held_by(p), (example,), weight=0.6)
        for pattern, example in (
            ("overlap between|of V and|& V T", "overlap between Dog and Cat owners"),
            ("V +|and|& V : COUNT T have|has|had|did|took the? two|both", "Dog and Cat: how many owners have both"),
        )
    ),
    # one and nothing else
    *(
        Rule("K", pattern, lambda *p: _only_values(next(v for v in p if isinstance(v, Values))), (example,), weight=0.6)
        for pattern, example in (
            ("with|having|have|has|had|took|did purely|exclusively|solely|entirely VS T?", "with purely Dog animals"),
            (
                "whose|their T is|are|were purely|exclusively|solely|entirely|all with|of? VS",
                "whose animals are exclusively Dog",
            ),
            (
                "HAVING their? T purely|exclusively|solely|entirely with|of|on? VS",
                "with their animals entirely Dog",
            ),
            ("ran|run|live|lived on|off VS and nothing|no-one|nobody else", "ran on Dog and nothing else"),
            ("HAVING VS and nothing|none else|other", "with Dog and nothing else"),
            ("have|has|had? never mixed VS with anything|others else?", "have never mixed Dog with anything"),
            ("WITHOUT exception|exceptions VS", "without exception Dog"),
            ("HAVING 100 % VS T", "with 100 % Dog animals"),
            ("nothing but VS T?", "nothing but Dog"),
            ("not once anything|anyone|anybody but|except VS", "not once anything but Dog"),
            ("never anything|anyone|anybody but|except VS", "never anything but Dog"),
            ("never strayed|strays|stray|moved|deviated from VS", "never strayed from Dog"),
            ("VS from start|beginning to finish|end", "Dog from start to finish"),
        )
    ),
    Rule(
        "K",
        "HAVING? N ORMORE T , every|each one of? them? VS",
        lambda *p: _so_many_only(p),
        ("with 2 or more animals, every one Dog",),
        weight=0.7,
    ),
    # none at all, in other words
    *(
        Rule("K", pattern, lambda *p: has_none(next(t for t in p if isinstance(t, Noun))), (example,), weight=0.6)
        for pattern, example in (
            (
                "that|which don't|doesn't|didn't|never appear|show|turn|occur|feature|figure up? among|in|under the? T at? all?",
                "that don't appear among the visits at all",
            ),
            (
                "that? nothing|no-one|nobody in|among the? T refers|points|leads|belongs to",
                "that nothing in visits refers to",
            ),
            ("not|never had|seen|got one|a single? T from|of?", "not had one visit from"),
            (
                "has|have|had yet to make|have|place|get|see|book|bring|do their|his|her|a|the|any first|single? T",
                "has yet to make their first visit",
            ),
        )
    ),
    *(
        Rule("NPX", pattern, lambda *p: (p[0], has_none(p[1])), (example,), weight=0.6)
        for pattern, example in (
            (
                "is|are each|every|all the? T covered|matched|served|met by some|a|any T , or|and are|is there gaps|holes",
                "is every animal covered by some visit, or are there gaps",
            ),
            (
                "are|is all|every the? T accounted for in|by|among the? T or do|does|are some match|have nothing|none",
                "are all animals accounted for in visits or do some match nothing",
            ),
        )
    ),
    # so many, in other words
    *(
        Rule("K", pattern, lambda *p, o=op: _so_many(o, p), (example,), weight=weight)
        for pattern, op, example, weight in (
            ("HAVING N T at? least|minimum|min", ">=", "with 3 animals minimum", 0.5),
            ("that|which|who is|are having N T at least|minimum", ">=", "which are having 3 animals at least", 0.6),
            (
                "where count|number of? the? T is|was N at|as a? minimum|least",
                ">=",
                "where count of animals is 3 at minimum",
                0.8,
            ),
            ("didn't|don't|never|not even? make|made it? to|past N T", "<", "didn't even make it to 4 visits", 0.7),
            ("linked|tied|attached to N ORMORE T", ">=", "linked to 3 or more visits", 0.5),
            (", T >= N", ">=", ", visits >= 4", 0.5),
            (", T > N", ">", ", visits > 4", 0.5),
            (
                "HAVING loads|lots|plenty|heaps of T , say N and|or above|more|up",
                ">=",
                "with loads of animals, say 4 and above",
                0.7,
            ),
        )
    ),
    Rule(
        "NPX",
        "the? T needs|need|must have? N T to qualify ,|;|: who|which qualifies|qualify",
        lambda a, n, b: (a, rows_having(">=", n, b)),
        ("the owner needs 3 animals to qualify; who qualifies",),
        weight=0.8,
    ),
    Rule("K", "never T but|except|other K", only_such, ("never animals but Dog",), weight=0.4),
    Rule("K", "WITHOUT T but|except|besides K", lambda _, t, k: only_such(t, k), ("no animals but Dog",), weight=0.4),
    Rule("K", "WITHOUT T NEG K", lambda _, t, __, k: only_such(t, k), ("no animals other than Dog",), weight=0.4),
    Rule(
        "K",
        "WITHOUT T CMP N E",
        lambda _, t, op, n, e: has_none(t, compared(op, e.expr, n)),
        ("never a visit under 5 wait",),
        weight=0.3,
    ),
    *(
        Rule("K", pattern, lambda _, v, *__: _only_values(v), (example,), weight=0.3)
        for pattern, example in (
            ("ONLY ever VS U?", "only ever Dog"),
            (
                "ONLY ever had|have|has|bought|ordered|used|visited|buy|order|use|take|taken|booked VS U?",
                "only ever bought Dog",
            ),
            ("ONLY bought|ordered|used|visited|buy|order|use|take|taken|booked VS U?", "only bought Dog"),
            (
                "ONLY ever? come|comes|came|go|goes|went|travel|travels|pay|pays|paid|book|books|shop|shops|deal|deals"
                " by|at|in|with|through|via|from|on|for VS U?",
                "only come from France",
            ),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: _only_values(next(v for v in p if isinstance(v, Values))), (example,), weight=0.4)
        for pattern, example in (
            (f"who|that have|has? ever? W {_IN_ONE} VS ONLY|exclusively|alone", "who pay by Dog only"),
            (f"who|that have|has? ever? W ONLY {_IN_ONE} VS", "who pay only by Dog"),
            (f"who|that have|has? ONLY ever? W {_IN_ONE} VS", "who only complained about Dog"),
        )
    ),
    Rule(
        "K",
        "never W any|anything? but|except VS",
        lambda *p: _only_values(p[-1]),
        ("never booked anything but Dog",),
        weight=0.35,
    ),
    *(
        # Owners who bought toys: what they did it with is what tells them.
        Rule("K", pattern, lambda *p: _done_with(p[-1]), (example,), weight=0.1)
        for pattern, example in (
            ("that|who|which ACT K", "who bought Dog"),
            ("that|who|which do|did|does|have|has|had ACT K", "who did buy Dog"),
            ("ACT K", "bought Dog"),
        )
    ),
    Rule("K", "both VS and|& V", both, ("both Dog and Cat",), weight=0.25),
    Rule("K", "VS and|& V both", both, ("Dog and Cat both",), weight=0.25),
    Rule("K", "VS and|but|& also|too V", both, ("Dog and also Cat",), weight=0.3),
    Rule("K", "VS as well as V", both, ("Dog as well as Cat",), weight=0.2),
    Rule("K", "VS but|and not|never|no|without V", _one_without, ("Dog but not Cat",), weight=0.3),
    Rule("K", "VS without V", _one_without, ("Dog without Cat",), weight=0.1),
    *(
        Rule("K", pattern, lambda *p: _first_then(p), (example,), weight=0.35)
        for pattern, example in (
            ("BD is|was|were|fell|came|dates|in|falls TIME", "whose first visit was in 2025"),
            ("BD TIME", "whose first visit in 2025"),
            ("BD D TIME", "whose first visit closed in 2025"),
        )
    ),
    Rule(
        "K",
        "BD is|was|were|lies? CMP DUR ago",
        lambda b, op, s: _as_long(op, m.Length(s[0], b, m.Now()), s[1]),
        ("whose last visit was more than 60 days ago",),
        weight=0.8,
    ),
    Rule(
        "BESX",
        "HAVING a|an|any? T TIME ,? and|but? none|no|nothing T? TIME ,? and|but then? again|one|some|more again? TIME",
        lambda *p: _on_off_on(p),
        ("had a visit in 2024, none in 2025 and one again in 2026",),
        weight=0.9,
    ),
    Rule(
        "BESX",
        "HAVING a|an|any? T TIME and|& TIME ,? but|and none|no|nothing T? TIME",
        lambda *p: _on_off_on(p, (0, 2, 1)),
        ("had visits in 2024 and 2026 but none in 2025",),
        weight=0.9,
    ),
    Rule("K", "paid|pay|paying|charged|billed by|in? VS", _is, ("paid by Dog",), weight=0.25),
    *(
        Rule("K", pattern, lambda k, op=op, n=n: _done_days_later(k, op, n), (example,), weight=0.9)
        for words, op, n in (("the? same", "=", 0.0), ("the? next|following", "=", 1.0))
        for pattern, example in (
            (f"STATE on|in|within? {words} day", f"closed the {words.split()[-1].split('|')[0]} day"),
        )
    ),
    Rule("K", "STATE within|in DUR", _done_within, ("closed within 3 days",), weight=0.35),
    Rule(
        "NPX",
        "T that|which|who ACT TIME",
        lambda t, verb, span: (t, Did(verb, str(t.table), span_condition(span, m.EventTime()))),
        ("visits that began in 2025",),
        weight=0.3,
    ),
    Rule(
        "NPX",
        "T that|which|who D TIME",
        lambda t, d, s: _rows_dated(t, d, s),
        ("visits that closed in 2025",),
        weight=0.25,
    ),
    Rule("K", "never ever|once? STATE", lambda k: _never_so(k), ("never overdue",), weight=0.3),
    *(
        Rule(
            category,
            pattern,
            lambda *p, a=low, b=high: (*p, _part_of_day(a, b)) if p else _part_of_day(a, b),
            (example,),
            weight=w,
        )
        for word, low, high in _PARTS_OF_DAY
        for category, pattern, example, w in (
            ("K", f"in|during the {word}", f"in the {word}", 0.9),
            (
                "K",
                f"{word}s" if word != "night" else "at|by|through night",
                f"{word}s" if word != "night" else "at night",
                0.72,
            ),
            ("NPX", f"{word}|{word}-time T|C", f"{word} visits", 0.25),
            ("NPX", f"{word} time T", f"{word} time visits", 0.9),
            ("K", f"{word} ones|one|only|time", f"{word} ones", 0.72),
        )
    ),
    Rule("K", "overnight|night-time", lambda: _part_of_day(*_PARTS_OF_DAY[3][1:]), ("overnight",), weight=0.6),
    Rule(
        "NPX",
        "repeat|returning|recurring T|C",
        lambda t: (t, Held(Counted(Noun()), ">", 1.0)),
        ("repeat owners",),
        weight=0.25,
    ),
    Rule(
        "H", "HAVING CMP N U", lambda _, op, n, u: _so_many_unknown(op, n, u), ("with more than 10 jobs",), weight=0.15
    ),
    Rule(
        "H", "HAVING N ORMORE U", lambda _, n, op, u: _so_many_unknown(op, n, u), ("with 10 or more jobs",), weight=0.15
    ),
    *(
        Rule(
            "H",
            pattern,
            lambda *p: _of_each_held(p, None),
            (example,),
            weight=0.4,
        )
        for pattern, example in (
            ("C|T that|which|who HAVING N ORMORE", "clinics that have 3 or more"),
            ("C|T that|which|who HAVING CMP N", "clinics that have at least 3"),
        )
    ),
    Rule(
        "H",
        "C|T HAVING a|an|the? E CMP AVGOF",
        lambda *p: _of_each_held(p, Function("mean")),
        ("clinics with a fee above the overall mean",),
        weight=0.4,
    ),
    *(
        Rule("K", pattern, lambda *p: _none_of(p[-1]), (example,), weight=0.75)
        for pattern, example in (
            ("all|everything|anything|any|anyone|everyone but|except|besides VS", "all but Dog"),
            ("all|every|any C|T but|except|besides VS", "every species but Dog"),
            ("all|every|any C|T other than VS", "all species other than Dog"),
            ("all|every|any C|T apart|aside from VS", "all species apart from Dog"),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: _is(next(v for v in p if isinstance(v, Values))), (example,), weight=weight)
        for pattern, example, weight in (
            ("due|owing to VS problems|issues|trouble|reasons|matters|complaints", "due to Dog problems", 0.8),
            ("missed|lost|off|absent|away|out due|owing to VS", "missed due to Dog", 0.8),
            ("missed|lost|off|absent|away|out because of VS", "missed because of Dog", 0.9),
            ("missed|off|absent|away|out through|to VS", "missed through Dog", 0.6),
            ("due|owing to VS", "due to Dog", 0.6),
            ("has|have|had VS VERB on|in|at|for|with|to?", "have Dog worked on", 0.5),
            (
                "did|do|does|has|have|had VS win|won|get|got|gain|gained|score|scored|earn|earned|receive|received|collect|collected",
                "did Dog win",
                0.4,
            ),
            ("for|with|of VS problems|issues|trouble|reasons|matters|complaints", "for Dog problems", 0.5),
            ("called|named VS", "called Dog", 0.6),
            ("living|based|located|residing|situated in|at VS", "living in Alder", 0.6),
            ("working|employed at|in|for VS", "working at Alder House", 0.6),
        )
    ),
    *(
        Rule(
            "K",
            pattern,
            _known,
            (example,),
            weight=0.6,
        )
        for pattern, example in (
            ("a? known C|D|M", "a known rating"),
            ("C|D|M is|are|was not|n't missing|empty|blank|null|unknown", "rating is not missing"),
            ("C|D|M is|are|was present|filled|given", "rating is present"),
            ("C|D|M not missing|empty|blank|null|unknown", "rating not missing"),
        )
    ),
    *(
        Rule("K", pattern, build, (example,), weight=0.45)
        for pattern, build, example in (
            ("HAVING CMP N VS", lambda _, op, n, v: _so_many_of(op, n, v), "with at least 2 Dog"),
            ("HAVING CMP N STATE", lambda _, op, n, part: _so_many_so(op, n, part), "with more than 3 overdue"),
            ("HAVING N ORMORE VS", lambda _, n, op, v: _so_many_of(op, n, v), "with 2 or more Dog"),
            ("HAVING ONLY VS", lambda _, __, v: _only_values(v), "with only Dog"),
            ("HAVING VS ONLY", lambda _, v, __: _only_values(v), "with Dog only"),
        )
    ),
    # rows of other tables
    Rule("K", "WITHOUT T", lambda _, n: has_none(n), ("owners without animals",), weight=0.1),
    Rule("K", "WITHOUT single|one T", lambda _, n: has_none(n), ("owners without a single visit",), weight=0.4),
    *(
        Rule("K", pattern, lambda *p: has_none(p[-1]), (example,), weight=0.45)
        for pattern, example in (
            ("NEG in|on|at any|a|the T", "owners not in any visit"),
            ("missing|absent from|in the? T list|table|register|file?", "owners missing from the visits"),
            ("NEG part|member of any|a|the T", "owners not part of any visit"),
            ("NEG belong|belonging to any|a T", "owners not belonging to any visit"),
        )
    ),
    *(
        Rule("K", pattern, lambda t: rows_having(">=", 1, t), (example,), weight=weight)
        for pattern, example, weight in (
            ("in any T", "owners in any visit", 0.15),
            ("who|that is|are|were in a T", "owners who are in a visit", 0.3),
            ("in a T", "owners in a visit", -0.3),
        )
    ),
    Rule("K", "HAVING T", lambda _, n: rows_having(">=", 1, n), ("owners with animals",), weight=-0.1),
    Rule(
        "K",
        "that|who|which W CMP N T",
        lambda _, op, n, t: rows_having(op, n, t),
        ("owners who made more than 3 visits",),
        weight=0.15,
    ),
    Rule(
        "K",
        "W CMP N T",
        lambda w, op, n, t: rows_having(op, n, t) if w.lower() in lexicon.verbs() else None,
        ("which owners paid more than 3 visits",),
        weight=0.05,
    ),
    Rule("K", "whose T K", lambda n, k: _whose_have(n, k), ("whose animals had no visits",), weight=0.35),
    Rule(
        "K",
        "HAVING T on|across|for|under|from|of|with|in CMP N T",
        lambda _, t, op, n, u: _across(t, op, n, u),
        ("owners with visits for more than one animal",),
        weight=0.35,
    ),
    Rule(
        "K",
        "HAVING K T on|across|for|under|from|of|with|in CMP N T",
        lambda _, k, t, op, n, u: _across(t, op, n, u, k),
        ("owners with overdue visits for more than one animal",),
        weight=0.45,
    ),
    Rule(
        "K",
        "HAVING T which|that|who? K",
        lambda _, t, k: _has_having(t, k),
        ("owners with animals without visits",),
        weight=0.25,
    ),
    Rule(
        "K",
        "HAVING CMP N T",
        lambda _, op, n, t: rows_having(op, n, t),
        ("owners with more than 3 animals",),
        weight=0.2,
    ),
    Rule(
        "K",
        "HAVING N ORMORE T",
        lambda _, n, op, t: rows_having(op, n, t),
        ("owners with 3 or more animals",),
        weight=0.25,
    ),
    Rule("K", "CMP N T", lambda op, n, t: rows_having(op, n, t), ("more than 3 animals",), weight=0.1),
    Rule("K", "N ORMORE T", lambda n, op, t: rows_having(op, n, t), ("3 or more animals",), weight=0.1),
    Rule("K", "N T ORMORE", lambda n, t, op: rows_having(op, n, t), ("3 animals or more",), weight=0.1),
)
