"""Measures, aggregates of them, and arithmetic: average fee, profit less refunds, days from booking to arrival."""

from __future__ import annotations

import dataclasses
import itertools
from collections.abc import Callable
from typing import get_args

from gumption.core.plan.expressions import AggregateName
from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import (
    Counted,
    Function,
    Grouped,
    Joined,
    Measured,
    Noun,
    Part,
    Rated,
    Ratio,
    Top,
    Values,
    Worked,
    Worth,
    as_counted,
)
from gumption.core.reading.rules.groups import each_of, numbers_rows
from gumption.core.reading.times import span_condition
from gumption.core.reading.vocabulary import name_parts


def _measure(noun: Noun) -> Measured | None:
    return Measured(m.Col(noun.key)) if noun.key is not None else None


def _both_aggregated(function: str, one: Measured, other: Measured) -> tuple[Worked, Worked | Counted] | None:
    """Two measures under one word; how many rows there are is a number of its own, and no total of numbers."""
    counts = any(isinstance(e.expr, m.Below) and isinstance(e.expr.quantity, m.Aggregated) for e in (one, other))
    if one == other or (function == "sum" and counts):
        return None
    if isinstance(beside := _total(other), Counted):
        # The average battery, and how many devices there are.
        return _aggregate(function, one), beside
    return _aggregate(function, one), _aggregate(function, other)


def _aggregate(function: str, measured: Measured) -> Worked:
    return Worked(m.Aggregated(function, measured.expr))  # type: ignore[arg-type]


def _put_together(function: str, measured: Measured) -> Measured | None:
    """A measure with what is said of how its rows are put together."""
    if measured.function or function not in ("sum", "mean", "median", "min", "max"):
        return None
    return dataclasses.replace(measured, function=function)


def _left_of(*nouns: Noun) -> Worked | None:
    """What is left of one number once another is taken off."""
    match nouns:
        case (Noun(key=m.ColumnKey() as one), Noun(key=m.ColumnKey() as two)) if one.table == two.table and one != two:
            return Worked(m.Aggregated("sum", m.Arithmetic("-", m.Col(one), m.Col(two))))
        case _:
            return None


def _percentile(number: float, measured: Measured) -> Worked | None:
    return Worked(m.Aggregated("percentile", measured.expr, percent=number)) if 0 <= number <= 100 else None


def arithmetic(op: str):  # type: ignore[no-untyped-def]
    def build(one: Measured, two: Measured) -> Measured | None:
        if one == two:
            return None
        return Measured(m.Arithmetic(op, one.expr, two.expr))  # type: ignore[arg-type]

    return build


def _length(unit: str):  # type: ignore[no-untyped-def]
    def build(one: Noun, two: Noun) -> Measured | None:
        if one == two or one.key is None or two.key is None or one.key.table != two.key.table:
            return None
        return Measured(m.Length(unit, m.Col(one.key), m.Col(two.key)))  # type: ignore[arg-type]

    return build


def _length_of(measured: Measured, one: Noun, two: Noun) -> Measured | None:
    expr = measured.expr
    if not isinstance(expr, m.Length) or one.key is None or two.key is None or one == two:
        return None
    if one.key.table != two.key.table:
        return None
    return Measured(m.Length(expr.unit, m.Col(one.key), m.Col(two.key)))


def _until_first(parts: tuple[object, ...]) -> Measured | None:
    """How long from a date of things to the first or last row of theirs."""
    since = next((p.key for p in parts if isinstance(p, Noun) and p.key is not None), None)
    length, below = next((p.expr for p in parts if isinstance(p, Measured)), None), parts[-1]
    if since is None or not isinstance(below, m.Below) or since.table != below.key.table:
        return None
    return Measured(m.Length(length.unit if isinstance(length, m.Length) else "days", m.Col(since), below))


def _correlation(one: Measured, two: Measured) -> Worked | None:
    return Worked(m.Aggregated("correlation", one.expr, other=two.expr)) if one != two else None


def _combined(op: str):  # type: ignore[no-untyped-def]
    def build(one: Worked, two: Worked) -> Worked | None:
        if one == two:
            return None
        return Worked(m.Combined(op, one.quantity, two.quantity))  # type: ignore[arg-type]

    return build


def sums(op: str, percent: bool = False) -> Callable[[Measured, Measured], Worked | None]:
    """The sums of two measures put together by a sign."""

    def build(one: Measured, two: Measured) -> Worked | None:
        if one == two:
            return None
        left, right = m.in_all(one.expr), m.in_all(two.expr)
        return Worked(m.Combined(op, left, right, percent))  # type: ignore[arg-type]

    return build


def _each_so(function: str, measured: tuple[Measured, ...]) -> tuple[Worked, ...] | None:
    """The same of several measures of the same rows."""
    if len({k.table for e in measured for k in m.columns_in(e.expr)}) != 1:
        return None
    found = tuple(_aggregate(function, e) for e in measured)
    return found if all(found) and len(set(measured)) == len(measured) else None


_SIZED = "heavy|tall|long|big|large|expensive|wide|deep|high|fast|short|small|cheap|hot|cold|dear|far|much"


def _is_priced(measured: Measured) -> bool:
    """True for what is told for one of something as it stands, such as a price per litre."""
    names = {p for key in m.columns_in(measured.expr) for p in name_parts(key.column)}
    return bool({"per", "price", "prices", "rate"} & names)


def _is_one(top: object) -> bool:
    """True for the one row that is the most of something."""
    return isinstance(top, Top) and top.number is None and top.noun is not None and top.noun.table is not None


def _of_the_top(top: Top) -> Worked | None:
    """How heavy the heaviest is, where it is told by a figure of its own."""
    if not isinstance(top.by, m.Col) or top.counts or not _is_one(top):
        return None
    return _superlative_value(top, Measured(top.by))


def _rated_of(parts: tuple[object, ...]) -> Rated | None:
    """What share of something is what is done: of what is said, where that is a figure itself."""
    done = parts[-1]
    whole = next((p.expr for p in parts if isinstance(p, Measured) and not p.verb), None)
    if not isinstance(done, Noun) or done.key is None or whole == m.Col(done.key):
        return None
    return Rated(m.Col(done.key), whole)


def _weighted(parts: tuple[object, ...]) -> Worked | None:
    """The mean in which each row counts by as much as a weight says: 10 at 3 and 40 at 1 come to 17.5."""
    function = next((p for p in parts if isinstance(p, str)), "mean")
    one, weight = (p.expr for p in parts if isinstance(p, Measured))
    if function != "mean" or one == weight:
        return None
    # What has no value weighs nothing.
    known = m.Not(m.Missing(one.key)) if isinstance(one, m.Col) else None
    product = m.Aggregated("sum", m.Arithmetic("*", one, weight))
    return Worked(m.Combined("/", product, m.Aggregated("sum", m.Given(weight, known) if known else weight)))


def _weighted_by(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """A weighted mean for each of something that is said between the two."""
    mean = _weighted(parts)
    return (mean, *(p for p in parts if isinstance(p, Grouped))) if mean is not None else None


def _ratio(one: object, two: object) -> Ratio | None:
    return Ratio(one, two) if one != two else None  # type: ignore[arg-type]


def _range(measured: Measured) -> Worked:
    high, low = m.Aggregated("max", measured.expr), m.Aggregated("min", measured.expr)
    return Worked(m.Combined("-", high, low))


def _times(measured: Measured, number: float) -> Measured:
    return Measured(m.Arithmetic("*", measured.expr, m.Number(number)))


def _latest(measured: Measured) -> tuple[Measured, Part]:
    """Of the last time that there is."""
    return measured, Part(m.at_end("max"), "latest")


def _per(top: Measured | Counted | Noun | Part, number: float, bottom: Measured | Noun) -> Ratio | None:
    """So many for every thousand, say."""
    counted = as_counted(top)
    return Ratio(counted, bottom, number) if counted != bottom and number > 0 else None  # type: ignore[arg-type]


_SO_MANY = 10.0
"""From here on a number is one of so many: for every one of them is for each."""


def _such_per(parts: tuple[object, ...], size: float) -> Ratio | None:
    """No-shows for every hundred visits: of those rows that are so."""
    such = next(p for p in parts if isinstance(p, Part))
    bottom = parts[-1]
    times = size or next(p for p in parts if isinstance(p, float))
    rows = [p for p in parts[:-1] if isinstance(p, Noun)]
    if such.kind not in ("value", "state", "flag") or not isinstance(bottom, (Noun, Measured)) or times < _SO_MANY:
        return None
    if any(n.table is not None and {n.table} != {k.table for k in m.columns_in(such.condition)} for n in rows):
        return None
    return _per(such, times, bottom)


def _heads(one: Values, *rest: object) -> Ratio | None:
    """How many of the one there are to so many of the other."""
    two, times = rest[-1], rest[0] if len(rest) == 2 else 1.0
    if not isinstance(two, Values) or not isinstance(times, float) or one.column != two.column or one == two:
        return None
    top, bottom = (Part(m.Is(v.column, v.values)) for v in (one, two))
    return Ratio(top, bottom, times) if times > 0 else None


def _age_at(parts: tuple[object, ...]) -> Measured | None:
    """How old somebody was when something happened: the age on that day, and not today's."""
    aged = next(p for p in parts if isinstance(p, Measured))
    done = parts[-1]
    if not isinstance(done, Noun) or done.key is None or not isinstance(aged.expr, m.Length):
        return None
    born, until = aged.expr.start, aged.expr.end
    if not isinstance(until, m.Today) or born == m.Col(done.key) or not isinstance(born, m.Col):
        return None
    return Measured(dataclasses.replace(aged.expr, end=m.Col(done.key)))


def _lasting_until(parts: tuple[object, ...], *, each: bool = False) -> tuple[object, ...] | None:
    """How long it takes until something is done: to the day on which it was."""
    length, *named, done = (p for p in parts if isinstance(p, (Measured, Noun)))
    if not isinstance(length, Measured) or not isinstance(done, Noun) or done.key is None:
        return None
    if not isinstance(length.expr, m.Length) or length.expr.end != m.Col(done.key):
        return None
    whose = named[0] if named else None
    averaged = Worked(m.Aggregated("mean", length.expr))
    return (averaged, Grouped(whose)) if each and isinstance(whose, Noun) else (averaged,)


def _per_such(top: Measured | Counted, part: Part, noun: Noun) -> tuple[Ratio, Part] | None:
    """Payments per settled claim: both are of those alone."""
    ratio = _ratio(top, noun)
    return (ratio, part) if ratio is not None and part.kind != "time" else None


def _in_unit(measured: Measured, unit: m.LengthUnit) -> Measured | None:
    """A length of time in the unit that is asked for."""
    if not isinstance(measured.expr, m.Length) or isinstance(measured.expr.end, m.Today):
        return None
    return Measured(dataclasses.replace(measured.expr, unit=unit))


def _above_nought(measured: Measured) -> Part:
    return Part(m.Compared(">", measured.expr, m.Number(0)), "number")


def _total(measured: Measured) -> Joined | Counted:
    """A measure named beside others; how many rows there are of a thing is their number there."""
    match measured.expr:
        case m.Below(quantity=m.Aggregated(expr=None, table=str(table))):
            return Counted(Noun(table=table))
        case expr:
            return Joined(expr)


def _in_a_row(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Fee, cost and visits: each by itself."""
    flat = tuple(x for p in parts for x in (p if isinstance(p, tuple) else (p,)))
    return flat if len(set(flat)) == len(flat) else None


def _mean_apart(one: Measured, two: Measured) -> Worked | None:
    """How far two lie apart on average, row by row."""
    return Worked(m.Aggregated("mean", m.Arithmetic("-", one.expr, two.expr))) if one != two else None


def _excess(one: Measured, two: Measured) -> Worked | None:
    """By how much of the second the first is more."""
    if one == two:
        return None
    first, second = (m.in_all(e.expr) for e in (one, two))
    return Worked(m.Combined("/", m.Combined("-", first, second), second, True))


def _of_each(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Several things of the one and of the other."""
    told = next(p for p in parts if isinstance(p, tuple))
    grouped = each_of(*(p for p in parts if isinstance(p, Values)))
    return (*grouped, *told) if grouped is not None else None


def _each(function: str, *parts: object) -> tuple[Worked, ...] | None:
    """One aggregate of several measures."""
    found = [p for p in parts if isinstance(p, Measured)]
    return tuple(_aggregate(function, e) for e in found) if len(set(found)) == len(found) else None


def _as_at(measured: Measured) -> Measured | None:
    """The price that was in force when a row happened."""
    return Measured(m.AsAt(measured.expr.key)) if isinstance(measured.expr, m.Col) else None


def _at_price(one: Measured, two: Measured) -> Measured | None:
    """Units at the price in force; of revenue, which is worked with it anyway, that alone."""
    if not isinstance(two.expr, m.AsAt):
        return None
    if any(isinstance(p, m.AsAt) for p in m.parts(one.expr)):
        return one
    return Measured(m.Arithmetic("*", one.expr, two.expr))


def _every(*parts: object) -> tuple[Worked, ...] | None:
    """Several aggregates of one measure; the words between them are payloads of "and"."""
    measured = parts[-1]
    functions = [p for p in parts[:-1] if isinstance(p, str) and p]
    if not isinstance(measured, Measured) or len(set(functions)) != len(functions):
        return None
    return tuple(_aggregate(f, measured) for f in functions)


def _named_percentile(word: str, measured: Measured) -> Worked | None:
    """P90, p95."""
    percent = _percent_of(word)
    return _percentile(percent, measured) if percent is not None else None


def _percent_of(word: str) -> float | None:
    """The 90 of P90."""
    number = float(word[1:]) if word[:1].lower() == "p" and word[1:].isdigit() else None
    return number if number is not None and number <= 100 else None


def _statistics(measured: Measured) -> tuple[Worked, ...]:
    counted = Worked(m.Aggregated("count", measured.expr))
    return (counted, *(_aggregate(f, measured) for f in ("mean", "median", "min", "max", "deviation")))


def _quartiles(measured: Measured) -> tuple[Worked, Worked, Worked]:
    quarter, most = (Worked(m.Aggregated("percentile", measured.expr, percent=p)) for p in (25, 75))
    return quarter, _aggregate("median", measured), most


def _five(measured: Measured) -> tuple[Worked, ...]:
    return (_aggregate("min", measured), *_quartiles(measured), _aggregate("max", measured))


def _interquartile(measured: Measured, low: float = 25, high: float = 75) -> Worked:
    """How far one percentile lies from another."""
    top, bottom = (m.Aggregated("percentile", measured.expr, percent=p) for p in (high, low))
    return Worked(m.Combined("-", top, bottom))


def _how_long_they_last(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How long tenancies last is how long they do on average."""
    length = next(p for p in parts if isinstance(p, Measured))
    rows = next(p for p in parts if isinstance(p, Noun))
    if rows.table is None or {k.table for k in m.columns_in(length.expr)} != {rows.table}:
        return None
    return Worked(m.Aggregated("mean", length.expr)), *(p for p in parts if isinstance(p, Part))


def _ratio_of_each(one: Measured, other: Measured, values: tuple[Values, ...]) -> tuple[object, ...] | None:
    """More fee per hour on the one or on the other: the ratio of each."""
    each = each_of(*values)
    return (Ratio(one, other), *each) if each is not None and one != other else None


def _end(function: str, noun: Noun) -> Worked | None:
    """The first or the last time of rows, or of a date."""
    if noun.table is not None:
        return Worked(m.Aggregated(function, m.EventTime(), noun.table))  # type: ignore[arg-type]
    return Worked(m.Aggregated(function, m.Col(noun.key))) if noun.key is not None else None  # type: ignore[arg-type]


def _passed(unit: m.LengthUnit, parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How long ago the last of some rows was: the least of what has passed since each."""
    noun = parts[-1]
    if not isinstance(noun, Noun):
        return None
    time = m.Col(noun.key) if noun.key is not None else m.EventTime()
    return (*parts[:-1], Worked(m.Aggregated("min", m.Length(unit, time, m.Now()), noun.table)))


def _when_each(parts: tuple[object, ...], function: str) -> tuple[Worked, Grouped] | None:
    """When something of each of several things happened first or last."""
    nouns = [p for p in parts if isinstance(p, Noun)]
    table = nouns[0].table if len(nouns) > 1 else None
    if len(nouns) > 1 and table is None:
        return None
    return Worked(m.Aggregated(function, m.EventTime(), table)), Grouped(nouns[-1])  # type: ignore[arg-type]


def _covered(noun: Noun) -> tuple[Worked, Worked] | None:
    first, last = _end("min", noun), _end("max", noun)
    return (first, last) if first is not None and last is not None else None


def _difference_of(function: str, one: Measured, two: Measured) -> Worked | None:
    if one == two:
        return None
    return _aggregate(function, Measured(m.Arithmetic("-", one.expr, two.expr)))


def _superlative_value(top: object, measured: Measured) -> Worked | None:
    if not isinstance(top, Top) or top.by not in (None, measured.expr) or top.counts:
        return None
    return Worked(m.Aggregated("max" if top.descending else "min", measured.expr))


def _per_hour_worked(rows: Noun, hours: m.Expr) -> Ratio | None:
    """Drops per hour of the runs they were made on; how long each row took itself is no time in which there were several."""
    apart = all(key.table != rows.table for key in m.columns_in(hours))
    return _ratio(Counted(rows), Measured(hours)) if apart else None


def _so_often(parts: tuple[object, ...]) -> Ratio | tuple[object, ...] | None:
    """How often customers visit: how many visits there are of each."""
    whose, what = (p for p in parts if isinstance(p, Noun))
    such = [p for p in parts if isinstance(p, Part)]
    ratio = _ratio(Counted(what), Counted(whose)) if whose.table != what.table else None
    return (ratio, *such) if ratio is not None and such else ratio


def _told_in(measured: Measured, told: tuple[m.Expr, m.Expr]) -> Measured | None:
    """A measure in another unit than it stands in."""
    return Measured(told[1]) if measured.expr == told[0] and told[0] != told[1] else None


def _is_of(measured: Measured, noun: Noun) -> bool:
    """True for a measure of the rows that a noun names."""
    return {k.table for k in m.columns_in(measured.expr)} == {noun.table}


def _until(measured: Measured, noun: Noun) -> Measured | None:
    """From when things happened until another date of theirs."""
    if not isinstance(measured.expr, m.Length) or noun.key is None:
        return None
    return Measured(m.Length(measured.expr.unit, m.EventTime(), m.Col(noun.key)))


def _most_single(measured: Measured, _: object) -> Worked:
    return _most_value("+", measured)


def _top_single(top: object, measured: Measured, _: object) -> Worked | None:
    return _superlative_value(top, measured)


def _both_ends(one: Top, two: Top, measured: Measured) -> tuple[Worked, Worked] | None:
    """The smallest and the largest."""
    first, second = _superlative_value(one, measured), _superlative_value(two, measured)
    return (first, second) if first is not None and second is not None and first != second else None


def _defined(*parts: object) -> object | None:
    """A word of the asker's own with what it stands for: only that is meant."""
    told = parts[-1]
    said = told.expr if isinstance(told, Measured) else told.quantity if isinstance(told, Worked) else None
    whole = isinstance(said, (m.Arithmetic, m.Length, m.Combined, m.ShareOf))
    return told if whole and told not in parts[:-1] else None


def _most_value(sign: str, measured: Measured) -> Worked:
    return Worked(m.Aggregated("max" if sign == "+" else "min", measured.expr))


def _said(parts: tuple[object, ...]) -> tuple[list[Measured], list[float]]:
    """The measures and the numbers among what was said."""
    return [p for p in parts if isinstance(p, Measured)], [p for p in parts if isinstance(p, float)]


def _below_which(parts: tuple[object, ...], top: bool = False) -> Worked | None:
    """What so many of a hundred stay under, or what the top so many are over."""
    (measured, *_), numbers = _said(parts)
    number = numbers[0] if numbers else 50.0
    return _percentile(100 - number if top else number, measured)


def _functions(*parts: object) -> tuple[str, ...] | None:
    """Several functions of one measure: the largest is the maximum."""
    found: list[str] = []
    for part in parts:
        match part:
            case str():
                found.append(part)
            case Top(by=None, counts=False, number=None, descending=descending):
                found.append("max" if descending else "min")
            case _:
                return None
    return tuple(found) if len(set(found)) == len(found) else None


def _until_done(parts: tuple[object, ...]) -> Measured | None:
    """How long from when things happened to a date of theirs, told by what was done then."""
    thing, date = [p for p in parts if isinstance(p, Noun)]
    if date.key is None or thing.key == date.key or thing.table not in (None, date.key.table):
        return None
    return Measured(m.Length("days", m.EventTime(), m.Col(date.key)))


def _tied(parts: tuple[object, ...]) -> Worked | None:
    """Whether two measures have to do with each other."""
    (one, two), _ = _said(parts)
    return _correlation(one, two)


def _tied_by_degree(parts: tuple[object, ...]) -> Worked | None:
    """Whether the longer ones have a higher rating: what longer is told by, with the rating."""
    told: list[Measured] = []
    for part in parts:
        match part:
            case Measured():
                told.append(part)
            case Worked(m.Aggregated("mean", expr)) if expr is not None:
                told.append(Measured(expr))
            case _:
                pass
    return _correlation(*told) if len(told) == 2 else None


def _each_tied(parts: tuple[object, ...]) -> tuple[Worked, ...] | None:
    """How every two of several measures go together."""
    measured, _ = _said(parts)
    pairs = [_correlation(a, b) for a, b in itertools.combinations(measured, 2)]
    return tuple(p for p in pairs if p is not None) if all(pairs) else None


def _better_tied(one: Measured, two: Measured, to: Measured) -> tuple[Worked, Worked] | None:
    pairs = _correlation(one, to), _correlation(two, to)
    return pairs if all(pairs) and one != two else None  # type: ignore[return-value]


def _for_one(parts: tuple[object, ...]) -> Worked | None:
    (one, two), _ = _said(parts)
    return sums("/")(one, two)


def _under(parts: tuple[object, ...]) -> Worked | None:
    """What the second comes to of the first."""
    (one, two), _ = _said(parts)
    return sums("/", True)(two, one)


def _varying(measured: Measured, function: str) -> Worked:
    """How much something varies, held against how much there is of it."""
    spread = m.Aggregated(function, measured.expr)  # type: ignore[arg-type]
    return Worked(m.Combined("/", spread, m.Aggregated("mean", measured.expr)))


def _apart_at(parts: tuple[object, ...]) -> Worked | None:
    """How far one percentile lies from another."""
    (measured, *_), numbers = _said(parts)
    low, high = sorted(numbers)
    return _interquartile(measured, low, high) if low < high <= 100 else None


def _middle_half(parts: tuple[object, ...]) -> tuple[Worked, Worked]:
    (measured, *_), _ = _said(parts)
    quarter, _median, most = _quartiles(measured)
    return quarter, most


def _both_limits(parts: tuple[object, ...]) -> tuple[Worked, Worked]:
    (measured, *_), _ = _said(parts)
    return _aggregate("min", measured), _aggregate("max", measured)


def _last_such(parts: tuple[object, ...]) -> tuple[Worked, Part] | None:
    """When there last was one that is so."""
    part = next(p for p in parts if isinstance(p, Part))
    end = _end("max", next(p for p in parts if isinstance(p, Noun)))
    return (end, part) if end is not None and part.kind != "time" else None


_TIED = "linked|tied|connected|related|correlated|coupled"
_DOING_IT = "VERB|MV|ACT|PP|have|had|has|get|got|bring|brought|need|needed|hold|held|see|saw|win|won|score|scored"
_EACH_OF_THEM = "each|they|it|them|these|those one? of? them?"
_RISES = "rises|rise|grows|grow|increases|increase|falls|fall|drops|drop|climbs|climb|shrinks|shrink"
_MORE = "more|higher|bigger|longer|larger|older|greater"
_OTHER = "more|higher|bigger|longer|larger|better|lower|less|fewer|worse|shorter|smaller"


def _over_such(parts: tuple[object, ...]) -> tuple[Ratio, Part] | None:
    """How many there are to each one that is so, on average."""
    ratio = _over_one(tuple(p for p in parts if isinstance(p, (Noun, str))))
    such = next((p for p in parts if isinstance(p, (Part, Values))), None)
    if isinstance(such, Values):
        such = Part(m.Is(such.column, such.values))
    return (ratio, such) if ratio is not None and isinstance(such, Part) else None


def _scaled(parts: tuple[object, ...], wide: float) -> Worked | None:
    """A sum told in thousands."""
    function, measured = parts[0] if len(parts) > 1 else "sum", parts[-1]
    if not isinstance(measured, Measured) or function not in get_args(AggregateName):
        return None
    return Worked(m.Combined("/", m.Aggregated(function, measured.expr), m.Number(wide)))  # type: ignore[arg-type]


_DOES_ONE = "does|do|did|can|will a|an|each|every|one|any"
_HAVE = "have|has|get|make|place|buy|do|give|hold|take|receive|see|bring|attend|own|contain"


def _spent_by_one(*parts: object) -> Worth | None:
    """What one of them pays on average."""
    function = next((p for p in parts if p in ("mean", "median")), None)
    nouns = [p for p in parts if isinstance(p, Noun)]
    if function is None or len(nouns) != 2 or nouns[1].key is None:
        return None
    return Worth(str(function), nouns[0], by=nouns[1])


def _over_one(parts: tuple[object, ...]) -> Ratio | None:
    """How many there are to each one, on average."""
    one, two = (p for p in parts if isinstance(p, Noun))
    return _over("mean", one, two) if "mean" in parts else None


def _of_their_own(function: str, measured: Measured, rows: Noun) -> Worked | None:
    """The average length of boats is that of boats, and not that of what they lie in."""
    own = isinstance(measured.expr, m.Col) and measured.expr.key.table == rows.table
    return _aggregate(function, measured) if own else None


def _from_lowest_to_highest(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """The fee range by clinic: from the lowest to the highest fee of each."""
    of = next(p for p in parts if isinstance(p, Measured))
    groups = tuple(p for p in parts if isinstance(p, Grouped))
    return (*(Worked(m.Aggregated(f, of.expr)) for f in ("min", "max")), *groups)


def _over_different(parts: tuple[object, ...]) -> Ratio | None:
    """How many different ones there are of something to each of another, on average."""
    one, two = (p for p in parts if isinstance(p, Noun))
    apart = "mean" in parts and two.table is not None and one.table != two.table
    return Ratio(Counted(one, distinct=True), two) if apart else None


def _and_how_far_beyond(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether something is above a number: what it is, and how far from that."""
    number = m.Number(next(p for p in parts if isinstance(p, float)))
    said = next(p for p in parts if isinstance(p, (Worked, Counted, Noun)))
    rest = tuple(p for p in parts if isinstance(p, Part))
    match said:
        case Worked(quantity=quantity):
            pass
        case Counted(noun=Noun(table=str(table)), distinct=False) | Noun(table=str(table)):
            quantity = m.Aggregated("count", table=table)
        case _:
            return None
    return Worked(quantity), Worked(m.Combined("-", quantity, number)), *rest


def _both_together(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What two kinds come to, taken together."""
    one, two = (p for p in parts if isinstance(p, Values))
    if one.column != two.column or one == two:
        return None
    return Function("sum", main=True), Part(m.Is(one.column, (*one.values, *two.values)))


def _several_of(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """The total, the average and the highest of a figure, and how many rows there are of it."""
    measured = next(p for p in parts if isinstance(p, Measured))
    functions = [p for p in parts if isinstance(p, str) and p in get_args(AggregateName)]
    if len(set(functions)) != len(functions) or measured.verb:
        return None
    table = next((k.table for k in m.columns_in(measured.expr)), None)
    return tuple(
        Counted(Noun(table=table)) if f == "count" else Worked(m.Aggregated(f, measured.expr))  # type: ignore[arg-type]
        for f in functions
    )


RULES = (
    *(
        Rule("BESX", pattern, lambda *p: _and_how_far_beyond(p), (example,), weight=0.5)
        for pattern, example in (
            ("is|are|was|were|does|did|do our|the? Q|CNT CMP N", "is the average fee above 100"),
            ("is|are|was|were|does|did|do our|the? Q|CNT K CMP N", "is the average fee for Dog above 100"),
            ("say|think|believe|guess that? our|the? Q|CNT is|are|was|were CMP N", "say the average fee is above 100"),
            (
                "have|had we|they|you passed|reached|hit|exceeded|topped|crossed CMP? N T yet|already|now?",
                "have we passed 30 visits yet",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _both_together(p), (example,), weight=0.9)
        for pattern, example in (
            (
                "WHICH|HOWMUCH did|do|does V and|& V make|earn|bring|take|come|add|amount|total in|to|up? together|combined|altogether|overall",
                "what did Dog and Cat make together",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _several_of(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("E :|,|-? AGG ,|/|+|and|& AGG", "fee total and average", 0.5),
            ("E :|,|-? AGG ,|/|+ AGG ,|/|+|and|& and? AGG", "fee total, average and max", 0.7),
            ("E :|,|-? AGG ,|/|+ AGG ,|/|+ AGG ,|/|+|and|& and? AGG", "fee total, average, min and max", 0.9),
        )
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p: _several_of(("count", *(x for x in p if x not in ("", "count")))),
            (example,),
            weight=0.6,
        )
        for pattern, example in (
            ("COUNT and|&|+|/|, AGG of? E", "count and sum of fee"),
            ("COUNT ,|/|+ AGG ,|/|+|and|& and? AGG of? E", "count, sum and average of fee"),
        )
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p: (next(x for x in p if isinstance(x, Counted)), Function("sum", main=True, beside=True)),
            (example,),
            weight=0.7,
        )
        for pattern, example in (
            (
                "CNT was|were|is|are? there? ,? and what|how do|did|does they|it|these come|add|amount|sum up? to?",
                "how many visits were there and what did they come to",
            ),
        )
    ),
    *(
        Rule("Q", pattern.format(units), lambda *p, u=unit: _passed(u, p), (example,), weight=0.8)
        for units, unit in (("days", "days"), ("months", "months"), ("years", "years"), ("hours", "hours"))
        for pattern, example in (
            (
                "how? many? {} have? passed|is|it? it? since the|their|its|our last|latest|newest T|D",
                f"how many {units} since the last visit",
            ),
            (
                "how? many? {} have? passed|is|it? it? since the|their|its|our last|latest|newest K T",
                f"{units} since the last Dog visit",
            ),
            (
                "time|how in? {} long? is|it? it? since the|their|its|our last|latest|newest T|D",
                f"time in {units} since the last visit",
            ),
        )
    ),
    *(
        Rule("Q", pattern, lambda *p: _passed("days", p), (example,), weight=0.7)
        for pattern, example in (
            (
                "how long ago was|is|did the|their|its|our last|latest|newest K? T|D be|take|place?",
                "how long ago was the last visit",
            ),
            (
                "how long is|has it? been? since the|their|its|our last|latest|newest T|D",
                "how long is it since the last visit",
            ),
            ("time since the|their|its|our last|latest|newest T|D", "time since the last visit"),
        )
    ),
    *(
        Rule("Q", pattern, lambda *p: _tied(p), (example,), weight=0.4)
        for pattern, example in (
            (f"is|are|was|were|do|does|did? E anyhow|somehow|at? all? {_TIED} to|with|and E", "is fee related to cost"),
            ("E CORR to|with|and E", "fee correlated with cost"),
            ("E vs|versus|/|against|x E CORR", "fee/cost correlation"),
            ("CORR for|of|between? E vs|versus|/|against|,|&|- E", "pearson for fee vs cost"),
            ("r|r-squared of|for|between E and|& E", "r of fee and cost"),
            (
                "effect|impact|influence|bearing|effects does|do|did|has|have|of? E have|has? on E",
                "what effect does fee have on cost",
            ),
            ("does|do|did E drive|affect|influence|impact|predict|explain|determine|shape E", "does fee drive cost"),
            ("E influences|affects|drives|impacts|predicts on|upon? E", "fee influences on cost"),
            ("does|do|did E go|move|come|vary|change up|down|together? with E", "does fee go up with cost"),
            ("does|do|did E go up|down when|as E does|do|goes|go", "does fee go up when cost does"),
            (
                "does|do|did E rise|increase|grow|climb|fall|drop|decline|decrease|improve|worsen with|as|when the? number|amount|level? of? E",
                "does fee rise with the number of seats",
            ),
            (f"the {_MORE} the? E , the {_OTHER} the? E", "the more fee, the more cost"),
            (f"E {_RISES} as|when|with E {_RISES}", "fee falls as cost grows"),
            ("does|do|did|would|say? E matter|matters for|to E", "does fee matter for cost"),
            (
                "has|have|does|do E got|have|has? anything|something to do with E",
                "has fee got anything to do with cost",
            ),
            ("dependence|dependency of E from|on|upon E", "dependence of fee on cost"),
            ("E and|with E : coincidence|connected|related|linked|chance", "fee and cost: connected"),
            ("E hang|hanging|hangs|go|going|goes together with E", "fee hanging together with cost"),
            (
                f"do|does|did T HAVING {_OTHER} E get|have|give|receive|earn|bring|make {_OTHER} E",
                "do visits with a higher fee get better rating",
            ),
            ("do|does big|high|large E and low|small|high|big E CORR", "do big fee and low rating go hand in hand"),
        )
    ),
    *(
        Rule("Q", pattern, lambda *p: _tied_by_degree(p), (example,), weight=0.5)
        for pattern, example in (
            (
                f"do|does|did RELADJ T|C get|have|give|receive|earn|bring|make|see|score|use|attract a? {_OTHER} E",
                "do dearer visits get better rating",
            ),
            (f"do|does|did RELADJ T|C E {_OTHER}", "do dearer visits cost more"),
            (
                f"do|does|did a? {_MORE} E mean|bring|give|lead|make|produce|result in|to? a? {_OTHER} E",
                "does more fee mean more cost",
            ),
            ("is|are RELADJ T|C RELADJ", "are dearer visits dearer"),
        )
    ),
    *(
        Rule("QX", pattern, lambda *p: _each_tied(p), (example,), weight=0.5)
        for pattern, example in (
            ("CORR CROSS of|between|for|among E , E and|,|& E", "correlation matrix of fee, cost and rating"),
            ("CORR of|between|for|among E , E and|,|& E", "correlation between fee, cost and rating"),
        )
    ),
    Rule(
        "QX",
        "which|what of the? E and|or E goes|go|correlates|moves|fits|tracks better|best|more|closer|closely with|to? E",
        _better_tied,
        ("which of fee and cost goes better with rating",),
        weight=0.5,
    ),
    *(
        Rule("Q", pattern, lambda *p: _below_which(p), (example,), weight=0.5)
        for pattern, example in (
            (
                "N %|percent of the? T is|are|have|has|cost|costs? until|below|under|to|beneath which|what E",
                "50 percent of the visits is until which fee",
            ),
            (
                "what|which E do|does|did N %|percent of the? T stay|fall|lie|sit|come|keep under|below|within",
                "what fee do 20% of visits stay under",
            ),
            (
                "half of the? T have|has|had|cost HAVING? E under|below|beneath what|how|which",
                "half of the visits have a fee under what",
            ),
            (
                "cut-off|cutoff|threshold|limit|line|boundary for|of the? bottom|lowest N %|percent on|in|for|of|by E",
                "cut-off for the bottom 50 percent on fee",
            ),
        )
    ),
    *(
        Rule("Q", pattern, lambda *p: _below_which(p, top=True), (example,), weight=0.5)
        for pattern, example in (
            (
                "from|at|above|over which|what E on? are|is|am|do|does you|one|it|i|we in|into|among|make the? top|best|highest N %|percent",
                "from which fee on are you in the top 10%",
            ),
            (
                "cut-off|cutoff|threshold|limit|line|boundary for|of the? top|highest N %|percent on|in|for|of|by E",
                "cut-off for the top 10% on fee",
            ),
        )
    ),
    Rule("Q", "E W", lambda e, w: _named_percentile(w, e), ("fee p90",), weight=0.35),
    Rule("Q", "AGG ( E )", _aggregate, ("sd(fee)",), weight=0.3),
    Rule("Q", "E apiece", lambda e: _aggregate("mean", e), ("fee apiece",), weight=0.4),
    Rule(
        "Q",
        "AGG of? E relative to|against its|the|their AGG",
        lambda f, e, g: _varying(e, f) if g == "mean" else None,
        ("variability of fee relative to its average",),
        weight=0.5,
    ),
    Rule(
        "Q",
        "coefficient of variation of|for|in? E",
        lambda e: _varying(e, "deviation"),
        ("coefficient of variation of fee",),
        weight=0.6,
    ),
    Rule(
        "Q",
        "DIFF|gap|distance|spread|range between? the? N and|to|& the? N PCTILE of|for? E",
        lambda *p: _apart_at(p),
        ("gap between the 10th and the 90th percentile of fee",),
        weight=0.6,
    ),
    *(
        Rule("QX", pattern, lambda *p: _middle_half(p), (example,), weight=0.5)
        for pattern, example in (
            ("typical|usual|normal|common range|spread of|for|in|on E", "typical range for fee"),
            (
                "range does|do|is|are? the? middle half|50 of the? T sit|lie|fall|stay? in? for|on|in|of E",
                "what range does the middle half of the visits sit in for fee",
            ),
            ("middle half of the? E", "middle half of the fee"),
        )
    ),
    Rule("QX", "5|five number summary of|for? E", _five, ("5-number summary of fee",), weight=0.45),
    *(
        Rule("QX", pattern, lambda *p: _both_limits(p), (example,), weight=0.5)
        for pattern, example in (
            ("from what|where to what|where does|do E go|range|run|extend", "from what to what does fee go"),
            ("what|which range does|do E cover|span|have|run|go|fall", "what range does fee cover"),
            ("E lo|low|lowest|smallest / hi|high|highest|biggest", "fee lo/hi"),
            ("how low|little and how high|much does|do|did E get|go|range", "how low and how high does fee get"),
        )
    ),
    *(
        Rule("Q", pattern, lambda e, f=function: _aggregate(f, e), (example,), weight=0.45)
        for function, pattern, example in (
            (
                "max",
                "how high|much|far up? does|do|did|can|has|have E get|got|go|gone|reach|reached|climb",
                "how high does fee get",
            ),
            ("max", "up? to|until which|what E does|do|did it|they|we go|reach|get", "up to what fee does it go"),
            ("max", "up? to|until which|what E it|they|we goes|go|reaches|reach|get", "until which fee it goes"),
            ("max", "record E", "record fee"),
            ("max", "cap on E", "cap on fee"),
            ("min", "how low does|do|did|can|has|have E get|got|go|gone|fall|drop|dip", "how low does fee get"),
            (
                "mean",
                "E should|would|could|can|might i|we|one|you expect|get|see|pay|reckon from|on|for|with?",
                "what fee should I expect from",
            ),
            (
                "mean",
                "E do|does|did we|they|you|people|i tend|use to get|see|pay|have|be",
                "what fee do we tend to get",
            ),
        )
    ),
    *(
        Rule("Q", pattern, lambda n: _end("max", n), (example,), weight=0.4)
        for pattern, example in (
            ("until|till|to when do|does|did|have we|you|i have|got T", "up to when do we have visits"),
            ("how recent is|are|was|were the? last|latest|newest|youngest T", "how recent is the latest visit"),
            ("date|day of|for the? last|latest|newest T", "date of the last visit"),
            ("date|day of|for the? most recent T", "date of the most recent visit"),
        )
    ),
    Rule(
        "Q",
        "date|day of|for the? first|earliest|oldest T",
        lambda n: _end("min", n),
        ("date of the first visit",),
        weight=0.4,
    ),
    Rule(
        "QX",
        "when did|was|were|do|has|have we|they|you|i? last have|see|get|had|take|taken|been|seen|do? a|an|any? K T",
        lambda *p: _last_such(p),
        ("when did we last have an overdue visit",),
        weight=0.45,
    ),
    *(
        Rule("Q", pattern, lambda *p: _for_one(p), (example,), weight=0.45)
        for pattern, example in (
            ("divide E by E", "divide fee by cost"),
            ("quotient of? E and|by|over|to E", "quotient of fee and cost"),
            ("E normalised|normalized|relative|scaled|corrected by|to|for|with E", "fee normalised by cost"),
            ("E expressed|stated|given|shown|reckoned per E", "fee expressed per cost"),
            ("E works|work|comes|come out at|to how much per E", "fee works out at how much per cost"),
            ("how many|much E to|for|per one|each|every E", "how much fee to one cost"),
        )
    ),
    Rule(
        "Q",
        "SHARE of? E does|do|did|is|are|was|were E come|came|amount|add|make to|up?",
        lambda *p: _under(p),
        ("what percentage of the fee does the cost come to",),
        weight=0.5,
    ),
    *(
        Rule("RATIO", pattern, _ratio, (example,), weight=0.4)
        for pattern, example in (
            ("divide E|CNT by CNT|T", "divide the fee by the number of visits"),
            ("E expressed|stated|given|shown per T", "fee expressed per visit"),
            ("E per head of T", "fee per head of visits"),
            ("E / T", "fee / visit"),
        )
    ),
    Rule(
        "RATIO",
        "per head|capita of T , HOWMUCH E",
        lambda t, _, e: _ratio(e, t),
        ("per head of visits, how much fee",),
        weight=0.5,
    ),
    *(
        Rule(
            "RATIO",
            pattern,
            lambda *p, turned=turned: _heads(*(v for v in (p[::-1] if turned else p) if isinstance(v, Values))),
            (example,),
            weight=0.5,
        )
        for pattern, turned, example in (
            (
                "COUNT VS T? are|is|were|was there? to|for|per each|every|one VS one|ones|T?",
                False,
                "how many dogs are there to each cat",
            ),
            ("for each|every|one VS T|one? , COUNT VS", True, "for every dog, how many cats"),
        )
    ),
    *(
        Rule("FI", pattern, lambda p: p, (example,), weight=0.0)
        for pattern, example in (("AGG", "average"), ("SUP", "largest"))
    ),
    Rule("FL", "FI ,|and|&|/ FI", lambda a, b: _functions(a, b), ("smallest, average",), weight=0.05),
    Rule("FL", "FL ,|and|&|/ FI", lambda a, b: _functions(*a, b), ("smallest, average and largest",), weight=0.05),
    Rule("FL", "FL , and|& FI", lambda a, b: _functions(*a, b), ("smallest, average, and largest",), weight=0.05),
    Rule(
        "QX",
        "FL of|for|in? E",
        lambda fs, e: tuple(_aggregate(f, e) for f in fs),
        ("smallest, average and largest fee",),
        weight=0.25,
    ),
    *(
        Rule("E", pattern, lambda a, b, u=unit: _length(u)(a, b), (example,), weight=0.35)
        for words, unit in (
            ("hours|hrs", "hours"),
            ("days", "days"),
            ("minutes|mins", "minutes"),
            ("months", "months"),
            ("years", "years"),
        )
        for pattern, example in (
            (
                f"time|length|gap|delay? from|between D to|and|until|till D in {words}",
                f"from opened to closed in {words.split('|')[0]}",
            ),
            (
                f"time|length|gap|period|delay|wait in {words} from|between D to|and|until|till D",
                f"time in {words.split('|')[0]} from opened to closed",
            ),
        )
    ),
    *(
        Rule("E", pattern, lambda a, b: _length("working_days")(a, b), (example,), weight=0.6)
        for pattern, example in (
            ("working|business|week days from|between D to|and|until|till D", "working days from opened to closed"),
            ("weekdays|workdays from|between D to|and|until|till D", "weekdays from opened to closed"),
        )
    ),
    *(
        Rule(
            "E",
            f"D minus|- D in {words}",
            lambda b, a, u=unit: _length(u)(a, b),
            (f"closed minus opened in {words.split('|')[0]}",),
            weight=0.5,
        )
        for words, unit in (("hours|hrs", "hours"), ("days", "days"), ("minutes|mins", "minutes"))
    ),
    Rule("E", "M", _measure, ("fee", "amount"), weight=0.03),
    *(
        Rule("E", pattern, lambda *p: next(x for x in p if isinstance(x, Measured)), (example,), weight=0.5)
        for pattern, example in (
            (
                f"how many|much|long E did|do|does|has|have|had {_EACH_OF_THEM} {_DOING_IT}",
                "how much fee did each bring",
            ),
            (f"how many|much E they|each|it of? them? {_DOING_IT}", "how much fee they bring"),
            (
                f"how many|much|long E is|are|was|were there for|in|from|at {_EACH_OF_THEM}",
                "how much fee was there for each",
            ),
        )
    ),
    *(
        Rule("CNTX", pattern, lambda n, *_: (Counted(n),), (example,), weight=0.5)
        for pattern, example in (
            (f"how many T did|do|does|has|have|had {_EACH_OF_THEM} {_DOING_IT}", "how many visits did each get"),
            (
                f"how many T there? is|are|was|were there? for|in|from|at {_EACH_OF_THEM}",
                "how many visits were for each",
            ),
        )
    ),
    Rule("E", "years of E", lambda e: e, ("years of age",), weight=0.1),
    Rule("E", "MV", lambda n: Measured(m.Col(n.key), True), ("paid",), weight=-0.03),
    Rule(
        "E",
        "what they|it|these|those|each MV",
        lambda n: Measured(m.Col(n.key)),
        ("what they paid",),
        weight=0.25,
    ),
    Rule(
        "E", "what a|an|the|each|every T|C MV", lambda _, n: Measured(m.Col(n.key)), ("what a visit paid",), weight=0.25
    ),
    Rule(
        "E",
        "what we|you|people|everyone|customers|clients have|has|had? MV|M",
        lambda n: Measured(m.Col(n.key)),
        ("what we paid",),
        weight=0.2,
    ),
    Rule("E", "what did? we|you E", lambda e: e if e.verb else None, ("what did we paid",), weight=0.3),
    Rule(
        "E",
        "what was|were|is|has|got|gets been? MV",
        lambda n: Measured(m.Col(n.key)),
        ("what was paid",),
        weight=0.15,
    ),
    Rule(
        "E", "pounds|pound|euros|euro|dollars|dollar MV", lambda n: Measured(m.Col(n.key)), ("pounds paid",), weight=0.1
    ),
    Rule("E", "OWED", lambda e: e, ("owed",), weight=0.0),
    Rule("E", "M|T still|currently? OWED", lambda _, e: e, ("fee still owed",), weight=0.15),
    Rule("E", "money OWED", lambda e: e, ("money owed",), weight=0.5),
    Rule("E", "OWED in|of M|T", lambda e, _: e, ("owed in fees",), weight=0.1),
    Rule("K", "OWED us|me? money|anything|something", _above_nought, ("owed us money",), weight=0.5),
    Rule(
        "E",
        "days|day until|till|before|to a|an|the|each? T|C is|are|was|were|gets|got D",
        lambda *p: _until_done(p),
        ("days until a visit is closed",),
        weight=0.5,
    ),
    Rule(
        "E",
        "LEN until|till|before|to a|an|the|each? T|C is|are|was|were|gets|got? D",
        lambda *p: _until_done(p),
        ("how long until a visit is closed",),
        weight=0.5,
    ),
    Rule("Q", "WHICH is|was? top E", lambda _, e: _aggregate("max", e), ("what's the top fee",), weight=0.35),
    *(
        Rule("QX", pattern, lambda *p: _how_long_they_last(p), (example,), weight=0.5)
        for pattern, example in (
            ("LEN T last|lasts|lasted|run|runs|ran|go on? on? average?", "how long do visits last"),
            ("LEN T take|takes|took|need|needs|needed on? average?", "how long does a visit take"),
            (
                "LEN K T last|lasts|lasted|run|runs|ran|take|takes|took on? average?",
                "how long did attended visits last",
            ),
        )
    ),
    Rule("E", "LEN", lambda length: length, ("how long does a visit take",), weight=-0.05),
    *(
        Rule("E", pattern, lambda *p: _age_at(p), (example,), weight=0.9)
        for pattern, example in (
            ("E when|at|on|by they|he|she|it|the|their|we? D", "years old when they hired"),
            ("E at|on|by their|the|its? date|day|time|year|moment of D", "years old at the time of hired"),
            (
                "E was|were|are|is|did T|they|people|each when|at they|he|she|it|were|was? D",
                "years old were they when hired",
            ),
            ("E of T when|at|on|by they|he|she|it|the|their? D", "years old of crew when hired"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _lasting_until(p), (example,), weight=0.9)
        for pattern, example in (
            (
                "LEN do|does|did the|our|an|a|most? T|C take|takes|need|wait to|until|before|till be|get|being? D",
                "how long do visits take to be closed",
            ),
            (
                "LEN do|does|did it take us|them|me|you|people|T|C? to|until|before|till be|get|being? D",
                "how long does it take to be closed",
            ),
            ("LEN T|C take|takes|took to|until|before|till be|get|being? D", "how long visits take to be closed"),
        )
    ),
    Rule(
        "BESX",
        "LEN do|does|did each|every T|C take|takes|need|wait to|until|before|till be|get|being? D",
        lambda *p: _lasting_until(p, each=True),
        ("how long does each visit take to be closed",),
        weight=0.9,
    ),
    Rule("E", "E minus|less|- E", arithmetic("-"), ("fee minus cost",), weight=0.15),
    Rule("E", "E plus|+ E", arithmetic("+"), ("fee plus extras",), weight=0.12),
    Rule("E", "E incl|inc|inclusive of? the? E", arithmetic("+"), ("fee incl extras",), weight=0.35),
    Rule("E", "E including the? E", arithmetic("+"), ("fee including extras",), weight=0.12),
    Rule("E", "E ( incl|inc|including E )", arithmetic("+"), ("fee (incl extras)",), weight=0.4),
    Rule("Q", "E divided by E", sums("/"), ("fee divided by cost",), weight=0.15),
    Rule("Q", "E / E", sums("/"), ("fee / cost",), weight=0.1),
    Rule("Q", "E over E", sums("/"), ("cost over fee",), weight=0.1),
    Rule(
        "E",
        "days|time|day from|between D to|and|until|till D",
        _length("days"),
        ("days from opened to closed",),
        weight=0.25,
    ),
    Rule(
        "E",
        "hours from|between D to|and|until|till D",
        _length("hours"),
        ("hours between opened and closed",),
        weight=0.25,
    ),
    Rule(
        "E",
        "minutes from|between D to|and|until|till D",
        _length("minutes"),
        ("minutes from start to end",),
        weight=0.25,
    ),
    Rule("E", "LEN from|between D to|and|until|till D", _length_of, ("how long from opened to closed",), weight=0.25),
    *(
        Rule("E", pattern, lambda *p: next(x for x in p if isinstance(x, Measured)), (example,), weight=0.5)
        for pattern, example in (
            (
                "LEN do|does|did T|IDLE|they|we|one have|has? to? wait|waited on? average?",
                "how long do owners wait",
            ),
            ("LEN is|was the? wait|waiting", "how long is the wait"),
            ("wait|waiting LEN", "waiting time"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _from_lowest_to_highest(p), (example,), weight=0.9)
        for pattern, example in (
            ("E ~range|ranges ~G", "fee range by species"),
            ("what|which E ~range|ranges ~G", "what fee range by species"),
        )
    ),
    Rule(
        "E",
        "LEN to|until|till D|U|W|V ,|:|(|- from|between D to|and|until|till D )?",
        lambda length, _, *ends: _length_of(length, *ends),
        ("time to close, from opened to closed",),
        weight=0.9,
    ),
    *(
        Rule("E", pattern, lambda *p: _until_first(p), (example,), weight=0.3)
        for pattern, example in (
            ("days|time|day from|between D to|and|until|till BD", "days from joined to the first visit"),
            ("LEN from|between D to|and|until|till BD", "how long from joined to the first visit"),
            (
                "LEN after|from|since D do|does|did|will|is|was|comes|until|till|to T? W? their|its|his|her|a|the? BD",
                "how long after joined do owners make their first visit",
            ),
            (
                "LEN do|does|did T W? after D before|until|till W? their|its|a|the? BD",
                "how long do owners wait after joined before their first visit",
            ),
        )
    ),
    Rule("E", "from D to|until D", _length("days"), ("from opened to closed",), weight=0.05),
    Rule(
        "E",
        "E in euro|euros|pounds|dollars|kg|gbp|eur|usd",
        lambda e: e,
        ("weight in kg",),
        weight=0.05,
    ),
    Rule("Q", "AGG of|for? E", _aggregate, ("average fee", "total of the cost"), weight=0.12),
    # Where a rule has a place for a measure alone, it has one for its total: cost as a share of the total fee.
    Rule("E", "AGG of|for? E", _put_together, ("total fee", "average rating"), weight=-0.2),
    Rule(
        "Q",
        "AGG of|for? E of|over|across|for all the? T|C",
        lambda f, e, *_: _aggregate(f, e),
        ("average fee of all clinics",),
        weight=0.05,
    ),
    *(
        Rule("QX", pattern, lambda f, *es: _each_so(f, es), (example,), weight=0.3)
        for pattern, example in (
            ("AGG number|amount of? E , E ,? and E", "average number of seats, fee and cost"),
            ("AGG E , E ,? and E", "average seats, fee and cost"),
        )
    ),
    Rule("Q", "AGG number|amount|value|figure|level of? E", _aggregate, ("average amount of fee",), weight=0.1),
    Rule("Q", "E AGG", lambda e, f: _aggregate(f, e), ("fee on average",), weight=0.05),
    Rule("Q", "E , AGG", lambda e, f: _aggregate(f, e), ("fee, total",), weight=0.03),
    Rule(
        "Q",
        "what do|did|does we|they|i|you MV",
        lambda n: _aggregate("sum", Measured(m.Col(n.key))),
        ("what did we paid",),
        weight=-0.05,
    ),
    Rule("Q", "HOWMUCH E", lambda _, e: _aggregate("sum", e), ("how much fee",), weight=0.06),
    Rule(
        "Q",
        "COUNT E",
        lambda _, e: _aggregate("sum", e) if not isinstance(e.expr, m.Length) else None,
        ("number of units",),
        weight=-0.02,
    ),
    Rule(
        "Q",
        "COUNT E in? AGG",
        lambda _, e, f: _aggregate(f, e) if f in ("sum", "mean") else None,
        ("how many units in total",),
        weight=0.12,
    ),
    Rule("Q", "N PCTILE of? E", lambda n, _, e: _percentile(n, e), ("90th percentile of fee",), weight=0.2),
    Rule(
        "Q", "upper|top|third|3rd quartile of? E", lambda e: _percentile(75, e), ("upper quartile of fee",), weight=0.2
    ),
    Rule(
        "Q",
        "lower|bottom|first|1st quartile of? E",
        lambda e: _percentile(25, e),
        ("lower quartile of fee",),
        weight=0.2,
    ),
    Rule(
        "Q",
        "CORR between|of? E and|with|to E",
        lambda _, a, b: _correlation(a, b),
        ("correlation of fee and rating",),
        weight=0.2,
    ),
    Rule("Q", "CORR E E", lambda _, a, b: _correlation(a, b), ("corr fee rating",), weight=0.1),
    Rule("E", "BC", lambda b: Measured(b), ("number of visits",), weight=-0.3),
    Rule("E", "in terms of E", lambda e: e, ("in terms of fee",), weight=0.1),
    *(
        Rule("E", pattern, lambda b: Measured(b), (example,), weight=0.12)
        for pattern, example in (
            ("date|day|time|when of? BD", "date of their last visit"),
            ("BD date|day|time", "their last visit date"),
        )
    ),
    Rule("Q", "E and|with E CORR", lambda a, b, _: _correlation(a, b), ("do fee and rating correlate",), weight=0.1),
    Rule(
        "Q",
        "how strongly|closely|well|far|much are|is|do|does|did? E and|with|to E CORR|related|linked|connected|together|associated",
        lambda a, b, *_: _correlation(a, b),
        ("how strongly are fee and rating correlated",),
        weight=0.5,
    ),
    Rule("Q", "range|spread of E", _range, ("range of fee",), weight=0.05),
    *(
        Rule("Q", pattern, lambda *p: Worked(m.Aggregated("mean", p[-1].expr)), (example,), weight=0.6)
        for pattern, example in (
            (
                "if i|we|you picked|pick|took|take a|any T at random , what|which E would|do|could i|we|you get|find|see|expect , more or less",
                "if i picked a visit at random, what fee would i get, more or less",
            ),
            (
                "if i|we|you picked|pick|took|take a|any T at random , what|which E would|do|could i|we|you get|find|see|expect",
                "if i picked a visit at random, what fee would i get",
            ),
        )
    ),
    Rule(
        "QX",
        "averaging|averaged over|across TIME , what|which was|is|were the? E",
        lambda s, e: (Part(span_condition(s, m.EventTime()), "time"), Worked(m.Aggregated("mean", e.expr))),
        ("averaging over 2025, what was the fee",),
        weight=0.8,
    ),
    Rule(
        "Q",
        "where's|where|what's|what is? the? cut-off|cutoff|threshold|limit for|of the? bottom|lowest N %|percent|per cent? on|of|in|for E",
        lambda n, e: _percentile(n, e),
        ("where's the cut-off for the bottom 50 per cent on fee",),
        weight=0.9,
    ),
    Rule(
        "Q",
        "where's|where|what's|what is? the? cut-off|cutoff|threshold|limit for|of the? top|highest N %|percent|per cent? on|of|in|for E",
        lambda n, e: _percentile(100 - n, e),
        ("where's the cut-off for the top 10 per cent on fee",),
        weight=0.9,
    ),
    Rule("QX", "lq /|, median /|, uq for|of|on E", _quartiles, ("LQ / median / UQ for fee",), weight=0.8),
    Rule(
        "QX",
        "COUNT T were|was|are|is there? and what did|do they come|came|add|amount|total to|up",
        lambda *p: (Counted(p[1]), Function("sum", main=True)),
        ("how many visits were there and what did they come to",),
        weight=0.7,
    ),
    Rule(
        "QX",
        "COUNT T there? were|was|are|is there? and what they averaged|average in|on|for E",
        lambda *p: (Counted(p[1]), Worked(m.Aggregated("mean", p[2].expr))),
        ("how many visits there were and what they averaged in fee",),
        weight=0.8,
    ),
    Rule(
        "QX",
        "E ( total and|& per T )",
        lambda e, _: (Worked(m.in_all(e.expr)), Worked(m.Aggregated("mean", e.expr))),
        ("fee (total and per visit)",),
        weight=0.8,
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda n, f=function: (_end(f, Noun(table=n.key.table)), Grouped(n)) if n.key else None,
            (example,),
            weight=0.6,
        )
        for function, pattern, example in (
            ("min", "when did each|every C get|got going|started|underway", "when did each species get going"),
            ("max", "when was|did each|every C last seen|active|used", "when was each species last seen"),
        )
    ),
    Rule(
        "Q",
        "cardinality of C",
        lambda n: Worked(m.Aggregated("distinct", m.Col(n.key))),
        ("cardinality of species",),
        weight=0.7,
    ),
    Rule(
        "Q",
        "the? aggregate E across|over the? T",
        lambda e, _: Worked(m.in_all(e.expr)),
        ("the aggregate fee across visits",),
        weight=0.6,
    ),
    *(
        Rule("Q", pattern, lambda a, b: sums("-")(b, a), (example,), weight=0.6)
        for pattern, example in (
            (
                "what? remains|left|is? once|when|after you|we take|took|taken|taking E off|from E",
                "what remains once you take cost off fee",
            ),
            ("remaining|remainder after|of? taking E off|from E", "remainder after taking cost from fee"),
        )
    ),
    *(
        Rule("Q", pattern, lambda a, b: _mean_apart(a, b), (example,), weight=0.6)
        for pattern, example in (
            (
                "how far|much off|apart was|is|were|are E from|and E , on average",
                "how far off was fee from cost, on average",
            ),
            ("average|mean difference between|of E and E", "average difference between fee and cost"),
        )
    ),
    *(
        Rule("Q", pattern, lambda a, b: _excess(a, b), (example,), weight=0.6)
        for pattern, example in (
            (
                "percentage|percent|share|% by which E is|was|are|were above|over|exceeds|below|under than? E",
                "percentage by which fee is above cost",
            ),
            (
                "by what|which percentage|percent|share does|do|did E exceed|exceeds E",
                "by what percentage does fee exceed cost",
            ),
        )
    ),
    Rule("Q", "ratio of E to|and|over E", sums("/"), ("ratio of fee to cost",), weight=0.25),
    Rule("Q", "E to E ratio", sums("/"), ("fee to cost ratio",), weight=0.25),
    Rule(
        "Q",
        "E as a? %|percentage|percent|share|proportion of E",
        sums("/", True),
        ("cost as a percentage of fee",),
        weight=0.3,
    ),
    Rule("Q", "E share|percentage|proportion of E", sums("/", True), ("cost share of fee",), weight=0.3),
    Rule(
        "BESX",
        "E G as a? %|percentage|percent|share|proportion of E",
        lambda e, g, f: None if (of := sums("/", True)(e, f)) is None else (of, g),
        ("cost by clinic as a percentage of fee",),
        weight=0.45,
    ),
    Rule("Q", "Q minus|less Q", _combined("-"), ("total fee less total cost",), weight=0.1),
    Rule("Q", "Q plus Q", _combined("+"), ("total fee plus total cost",), weight=0.1),
    Rule("Q", "Q divided by Q", _combined("/"), ("total fee divided by total cost",), weight=0.1),
    Rule(
        "Q",
        "DIFF between|of? E and|to|from E",
        lambda _, a, b: sums("-")(a, b),
        ("difference between fee and cost",),
        weight=0.2,
    ),
    Rule("Q", "W of|for? E", _named_percentile, ("P90 of fee",), weight=0.35),
    Rule("QX", "STATS of|for|on|about? E", lambda _, e: _statistics(e), ("summary statistics for fee",), weight=0.25),
    Rule("QX", "E STATS", lambda e, _: _statistics(e), ("fee statistics",), weight=0.2),
    Rule("QX", "QUARTILES of|for? E", lambda _, e: _quartiles(e), ("quartiles of fee",), weight=0.25),
    Rule("QX", "five number summary of|for? E", _five, ("five number summary of fee",), weight=0.35),
    Rule("QX", "BOXPLOT of|for? E", lambda _, e: _five(e), ("box plot of fee",), weight=0.3),
    Rule("Q", "interquartile range of|for? E", _interquartile, ("interquartile range of fee",), weight=0.35),
    Rule("Q", "iqr of|for? E", _interquartile, ("iqr of fee",), weight=0.35),
    *(
        Rule("BESX", pattern, lambda *p, f=function: _when_each(p, f), (example,), weight=0.45)
        for pattern, function, example in (
            ("WHEN did|was|were|has each|every T|C last", "max", "when was each clinic last"),
            (
                "WHEN did|is|was|were|has the? last|latest|newest T for|of|at|in|from|by each|every T|C",
                "max",
                "when was the last visit of each clinic",
            ),
            (
                "WHEN did|is|was|were|has the? most recent T for|of|at|in|from|by each|every T|C",
                "max",
                "when was the most recent visit of each clinic",
            ),
            ("WHEN did|was|were|has each|every T|C first", "min", "when was each clinic first"),
            (
                "WHEN did|is|was|were|has the? first|earliest|oldest T for|of|at|in|from|by each|every T|C",
                "min",
                "when was the first visit of each clinic",
            ),
        )
    ),
    Rule("Q", "first|earliest|oldest D", lambda n: _end("min", n), ("first visit date",), weight=0.02),
    Rule("Q", "last|latest|newest D", lambda n: _end("max", n), ("last visit date",), weight=0.02),
    Rule("QX", "date|dates|period range|span|covered of|for|by? T", _covered, ("date range of visits",), weight=0.35),
    Rule("QX", "what|which period|dates do|does T cover|span", _covered, ("what period do visits cover",), weight=0.35),
    *(
        Rule("QX", pattern, _covered, (example,), weight=0.6)
        for pattern, example in (
            (
                "from? when until|till|to when do|does|did the? T run|go|reach|last|cover",
                "from when until when do visits run",
            ),
            ("what|which dates do|does|did the? T run|go|reach from and? to?", "what dates do visits run from and to"),
        )
    ),
    Rule(
        "Q",
        "up|until|till to? what|which date|day do|does|did|have|has we|they|you|it? have|got|go|run|reach? T",
        lambda t: _end("max", t),
        ("up to what date do we have visits",),
        weight=0.7,
    ),
    Rule(
        "Q",
        "since|from when do|did|have|has|does we|they|you|it have|had|has|got? T",
        lambda t: _end("min", t),
        ("since when do we have visits",),
        weight=0.6,
    ),
    Rule(
        "QX",
        "since|from when do|did|have|has|does we|they|you|it have|had|has|got? K T",
        lambda k, t: (k, _end("min", t)) if k.kind != "time" else None,
        ("since when do we have overdue visits",),
        weight=0.6,
    ),
    *(
        Rule("Q", pattern, lambda e, *_: _aggregate("deviation", e), (example,), weight=0.7)
        for pattern, example in (
            (
                "how much does|do the? E vary|fluctuate|differ|swing|change from one T|row|line|day|month to the? next|another|other",
                "how much does the fee vary from one visit to the next",
            ),
            ("how much does|do the? E vary|fluctuate|swing", "how much does the fee vary"),
        )
    ),
    *(
        Rule("QX", pattern, lambda e: (_aggregate("deviation", e), _aggregate("mean", e)), (example,), weight=0.7)
        for pattern, example in (
            (
                "is|are the? E all over the place or? pretty|fairly|quite? steady|stable|even?",
                "is fee all over the place or steady",
            ),
            (
                "is|are the? E steady|stable|even|erratic|volatile or all over the place",
                "is fee steady or all over the place",
            ),
        )
    ),
    Rule(
        "Q",
        "cap|limit|ceiling on the? E : WHICH? the? highest|maximum",
        lambda *p: _aggregate("max", p[0]),
        ("cap on fee: what's the highest",),
        weight=0.9,
    ),
    Rule("QX", "range of D", _covered, ("range of visit date",), weight=0.3),
    Rule("QX", "earliest|first and|& latest|last D", _covered, ("earliest and latest visit date",), weight=0.4),
    Rule(
        "Q",
        "how far back do|does T go|reach|run",
        lambda t: _end("min", t),
        ("how far back do visits go",),
        weight=0.35,
    ),
    Rule("Q", "when do|does|did T start|begin", lambda t: _end("min", t), ("when do visits start",), weight=0.35),
    Rule("Q", "how recent is|are T", lambda t: _end("max", t), ("how recent are visits",), weight=0.35),
    *(
        Rule(builds, f"{named} {sign} {told}{end}", _defined, (example,), weight=weight)
        for named, thing, weight in (
            ("U|E", "fee", 0.3),
            ("U U", "shape form", 0.4),
            ("U U U", "shape form bend", 0.45),
        )
        for builds, told, said in (("E", "E", "fee minus cost"), ("Q", "Q", "ratio of fee to cost"))
        for sign, end, example in (
            (",? DEF", "", f"{thing}, i.e. {said}"),
            ("(", "", f"{thing} ({said})"),
        )
    ),
    Rule("E", "E , in TOLD", _told_in, ("wait, in hours",), weight=0.3),
    Rule("E", "E in TOLD", _told_in, ("wait in hours",), weight=0.3),
    Rule("RATIO", "E per|a|for TOLD", lambda e, t: _ratio(e, Measured(t[1])), ("fee per hour",), weight=0.05),
    Rule("RATIO", "Q per TOLD", lambda q, t: _ratio(q, Measured(t[1])), ("total fee per hour",), weight=0.25),
    *(
        Rule("RATIO", pattern, lambda *p: _so_often(p), (example,), weight=0.5)
        for pattern, example in (
            ("how often do|does|did|have our|the? T T", "how often do owners visits"),
            ("how often do|does|did|have our|the? K T T", "how often do Dog owners visits"),
        )
    ),
    Rule("RATIO", "T per TOLD", lambda n, t: _ratio(Counted(n), Measured(t[1])), ("visits per hour",), weight=0.05),
    *(
        Rule("RATIO", pattern, lambda _, n, t: _per_hour_worked(n, t[1]), (example,), weight=0.6)
        for pattern, example in (
            ("AGG T per|a|each|every TOLD", "average animals per hour"),
            ("AGG number|no of? T per|a|each|every TOLD", "average number of animals per hour"),
        )
    ),
    Rule(
        "RATIO",
        "E on|of|for|from|in T per|to T",
        lambda e, a, b: _ratio(e, b) if _is_of(e, a) else None,
        ("fee of visits per owner",),
        weight=0.25,
    ),
    Rule("QX", "sum of T", lambda t: (Function("sum", main=True), t), ("sum of visits",), weight=0.2),
    Rule(
        "QX",
        "HOWMUCH are|is|do|does? we|they|you? still? STATE",
        lambda _, k: (Function("sum", main=True), k),
        ("how much is still overdue",),
        weight=0.08,
    ),
    Rule("E", "LEN ahead|beforehand|upfront", lambda e: e, ("how many days ahead",), weight=0.1),
    Rule("E", "LEN in advance", lambda e: e, ("how many days in advance",), weight=0.15),
    Rule("E", "LEN to|until|till|before D", _until, ("how many days until closed",), weight=0.15),
    Rule(
        "QX",
        "Q VERSUS Q",
        lambda a, _, b: (a, b) if a != b else None,
        ("average fee vs average cost",),
        weight=0.15,
    ),
    Rule(
        "Q",
        "E of|on|for|from T as a? %|percentage|percent|share|proportion|fraction of E",
        lambda e, n, f: sums("/", True)(e, f) if _is_of(e, n) else None,
        ("cost of visits as a share of fee",),
        weight=0.3,
    ),
    Rule("Q", "E out of E", sums("/", True), ("cost out of fee",), weight=0.25),
    Rule(
        "Q",
        "most E in|on|at|for a|any|one? single|one T|C",
        _most_single,
        ("most units in a single visit",),
        weight=0.4,
    ),
    Rule(
        "Q",
        "SUP E of|in the year|season|period|data|lot",
        _superlative_value,
        ("highest fee of the year",),
        weight=0.45,
    ),
    Rule(
        "Q", "SUP E in|on|at|for a|any|one? single|one T|C", _top_single, ("highest fee in a single visit",), weight=0.4
    ),
    Rule(
        "Q",
        "SUP number|times of? times? a|any? single|one? T|C was|were|is|has? been? E",
        lambda t, _, e: _superlative_value(t, e),
        ("highest number of times a visit was seats",),
        weight=0.4,
    ),
    Rule("QX", "SUP and|& SUP E", _both_ends, ("lowest and highest fee",), weight=0.4),
    Rule(
        "QX",
        "SUP and|& the? SUP number|amount|value|size of? E",
        _both_ends,
        ("lowest and highest value of fee",),
        weight=0.45,
    ),
    Rule("E", "what a|an|the|each T|C|U MV", lambda _, n: _measure(n), ("what a visit costs",), weight=0.35),
    Rule("E", "what it|they MV M", lambda _, n: _measure(n), ("what it costs amount",), weight=0.4),
    Rule("E", "what it|they MV", _measure, ("what it costs",), weight=0.15),
    Rule("E", "U|C PP", lambda c, n: None if numbers_rows(c) else _measure(n), ("tickets sold",), weight=0.2),
    Rule(
        "E",
        "COUNT items|units|pieces|things|goods|parcels|boxes|bits was|were|got|get|been PP|PPX",
        lambda _, n: _measure(n),
        ("how many items were sold",),
        weight=0.3,
    ),
    # Tickets reopened are tickets before they are how often one was; flights sold are the seats of theirs.
    *(
        Rule(
            "E",
            "T PP",
            lambda t, n, own=own: _measure(n) if (n.key is not None and n.key.table == t.table) is own else None,
            (example,),
            weight=weight,
        )
        for own, example, weight in ((False, "owners sold", -0.15), (True, "visits sold", -0.5))
    ),
    *(
        # Booked but not seen: how many fewer were seen than booked.
        Rule(category, pattern, lambda *p: _left_of(*(n for n in p if isinstance(n, Noun))), (example,), weight=weight)
        for category, pattern, example, weight in (
            ("Q", "PP , NEG been? PP", "sold, not seen", 0.3),
            ("Q", "PP NEG been? PP", "sold but not seen", 0.3),
            ("Q", "PP but|and|yet|though NEG been? PP", "sold and never seen", 0.35),
            (
                "Q",
                "COUNT people|persons|individuals|C|T|U who|that? were|was|are|have|had|got|been? PP NEG PP",
                "how many people were sold but not seen",
                0.6,
            ),
            (
                "Q",
                "COUNT people|persons|individuals|C|T|U who|that? were|was|are|have|had|got|been? PP but|and|yet NEG PP",
                "how many people were sold and not seen",
                0.6,
            ),
        )
    ),
    Rule("Q", "E : E", sums("/"), ("fee : cost",), weight=0.12),
    Rule("Q", "how much E per|for E", lambda a, b: sums("/")(a, b), ("how much fee per cost",), weight=0.3),
    Rule("Q", "E as a? multiple|fraction of E", sums("/"), ("cost as a multiple of fee",), weight=0.3),
    Rule(
        "QX",
        "AGG of? E G ,? weighted by|with|for? the? E",
        lambda *p: _weighted_by(p),
        ("average rating by clinic, weighted by fee",),
        weight=0.9,
    ),
    *(
        Rule("Q", pattern, lambda *p: _weighted(p), (example,), weight=0.9)
        for pattern, example in (
            ("AGG E ,? weighted by|with|for? the? E", "average rating, weighted by fee"),
            ("weighted AGG E ,? by|using|with|weighting|weights the? E", "weighted average rating by fee"),
            ("weighted AGG of E ,? by|using|with|weighting|weights the? E", "weighted average of rating by fee"),
            ("E weighted by|with|for? the? E", "rating weighted by fee"),
        )
    ),
    Rule("Q", "E relative to E", sums("/"), ("cost relative to fee",), weight=0.25),
    Rule("Q", "how many times E E", lambda a, b: sums("/")(b, a), ("how many times fee cost",), weight=0.3),
    Rule("Q", "E and|& E together|combined|summed|added", sums("+"), ("fee and cost together",), weight=0.2),
    Rule("Q", "combined|total E and|plus|& E", sums("+"), ("combined fee and cost",), weight=0.05),
    Rule("Q", "E net of E", sums("-"), ("fee net of cost",), weight=0.25),
    Rule("Q", "E after E", sums("-"), ("fee after cost",), weight=0.1),
    Rule("Q", "E exceeds|exceed|exceeded E by how much?", sums("-"), ("fee exceeds cost by how much",), weight=0.2),
    Rule("Q", "how much more E than E", sums("-"), ("how much more fee than cost",), weight=0.3),
    Rule("Q", "what is left of E after E", sums("-"), ("what is left of fee after cost",), weight=0.4),
    Rule(
        "Q",
        "AGG difference|gap|diff between|of E and E",
        _difference_of,
        ("average difference between fee and cost",),
        weight=0.4,
    ),
    Rule("Q", "SUP E", _superlative_value, ("highest fee",), weight=-0.02),
    Rule("Q", "SUP number|amount|value of E", _superlative_value, ("biggest number of seats",), weight=0.15),
    Rule("Q", "most E", lambda e: _most_value("+", e), ("most units on one order",), weight=-0.1),
    Rule("Q", "least|fewest E", lambda e: _most_value("-", e), ("fewest units",), weight=-0.1),
    Rule("RATIO", "E for each|every E", _ratio, ("fee for each seat",), weight=0.1),
    Rule(
        "RATIO",
        "what|how|much do|does|did a|an|one|each|every|our E MV",
        lambda one, mv: _ratio(Measured(m.Col(mv.key)), one),
        ("what does a seat cost",),
        weight=0.6,
    ),
    Rule(
        "RATIO",
        "what is|are a|an|one|each|the average|typical? T E AGG",
        lambda t, e, _: _ratio(e, t),
        ("what is a visit fee on average",),
        weight=0.6,
    ),
    Rule(
        "QX",
        "E of|for our|the|a? SUP VS T?",
        lambda e, t, v, *_: (w, Part(m.Is(v.column, v.values))) if (w := _superlative_value(t, e)) else None,
        ("weight of the heaviest dog",),
        weight=0.5,
    ),
    Rule(
        "RATIO",
        "AGG E of|for a|an|one|each|every E",
        lambda f, e, of: _ratio(e, of) if f == "mean" and not _is_priced(e) else None,
        ("average fee of a seat",),
        weight=0.1,
    ),
    # Weight of the heaviest: the most of it that there is.
    Rule(
        "Q",
        "E of|for our|the|a? TOP",
        lambda e, t: _superlative_value(t, e) if _is_one(t) else None,
        ("fee of the highest visit",),
        weight=0.5,
    ),
    Rule(
        "Q",
        f"how {_SIZED} is|are|was|were our|the? TOP",
        lambda t: _of_the_top(t),
        ("how heavy is the heaviest animal",),
    ),
    *(
        Rule("RATIO", pattern, _ratio, (example,), weight=0.6)
        for pattern, example in (
            ("E|Q|CNT back? per|for each|every|one? COIN", "fee per pound of cost"),
            ("E|Q|CNT for each|every TOLDX", "fee for every hour worked"),
        )
    ),
    Rule(
        "Q",
        "back|return|returns|money|income? for|per each|every|one? BACK",
        lambda back: back,
        ("back for every pound spent",),
        weight=0.9,
    ),
    Rule("TOLDX", "TOLD", lambda t: Measured(t[1]), ("hour",)),
    *(
        Rule("TOLDX", pattern, lambda t: Measured(t[1]), (example,), weight=0.5)
        for pattern, example in (
            ("TOLD worked|spent|booked|logged|recorded", "hour worked"),
            ("TOLD of work|labour|labor|time|effort", "hour of work"),
            ("TOLD that? we|they|you|i|people put|spend|spent|worked|work in|into|on? it|them?", "hour we put in"),
        )
    ),
    *(
        Rule("RATIO", pattern, _ratio, (example,), weight=0.35)
        for pattern, example in (
            ("T|CNT|E divided by T|CNT", "visits divided by clinics"),
            ("T|CNT|E / T|CNT", "visits / clinics"),
            ("T|CNT divided by E", "visits divided by fee"),
            ("T|CNT / E", "visits / fee"),
            ("Q divided by T|CNT", "total fee divided by visits"),
            ("Q / T|CNT", "total fee / visits"),
            ("T|CNT divided by Q", "visits divided by total fee"),
            ("T|CNT / Q", "visits / total fee"),
            ("Q over CNT", "total fee over number of visits"),
            ("ratio of Q|E to|over|and T|CNT", "ratio of total fee to visits"),
            ("ratio of T|CNT to|over|and Q|E|T|CNT", "ratio of visits to clinics"),
        )
    ),
    Rule("Q", "Q / Q", _combined("/"), ("total fee / total cost",), weight=0.15),
    Rule("Q", "Q over Q", _combined("/"), ("total fee over total cost",), weight=0.05),
    Rule("Q", "ratio of Q to|and|over Q", _combined("/"), ("ratio of total fee to total cost",), weight=0.25),
    Rule(
        "Q",
        "SUP difference|gap|spread between|of E and|to E",
        lambda t, one, two: (
            Worked(m.Aggregated("max" if t.descending else "min", m.Arithmetic("-", one.expr, two.expr)))
            if t.by is None and one != two
            else None
        ),
        ("biggest difference between fee and cost",),
        weight=0.5,
    ),
    Rule("Q", "E less|minus E", sums("-"), ("fee less cost",), weight=0.0),
    Rule(
        "WORTH",
        "W of the? T|C value|size|total|totals|worth|amount",
        lambda w, n: Worth("percentile", n, p) if (p := _percent_of(w)) is not None else None,
        ("p90 of visit value",),
        weight=0.6,
    ),
    *(
        Rule("WORTH", pattern, _spent_by_one, (example,), weight=0.25)
        for asked, said in (("what", "what"), ("how much", "how much"), ("HOWMUCH", "how much"))
        for pattern, example in (
            (f"{asked} {_DOES_ONE} T|C MV in? total? on? AGG", f"{said} does a clinic paid on average"),
            (f"AGG ,? {asked} {_DOES_ONE} T|C MV", f"on average {said} does a clinic paid"),
            (f"{asked} does|do|did|will the? AGG T|C MV", f"{said} does the average clinic paid"),
        )
    ),
    *(
        Rule("Q", pattern, lambda *p, w=wide: _scaled(p, w), (example,), weight=0.4)
        for word, wide in (("thousands", 1000.0), ("millions", 1e6), ("billions", 1e9))
        for pattern, example in ((f"E ,? in {word}", f"fee in {word}"), (f"AGG E ,? in {word}", f"total fee in {word}"))
    ),
    Rule(
        "Q",
        "variance|difference of|between|in E vs|versus|against|and|to E",
        lambda a, b: Worked(m.Combined("-", m.in_all(a.expr), m.in_all(b.expr))),
        ("variance of fee vs cost",),
        weight=0.3,
    ),
    Rule(
        "RATIO",
        "T per|for|to every|each? N of E",
        lambda t, n, e: Ratio(Counted(t), e, n) if t.table is not None and n > 0 else None,
        ("visits per 1000 of fee",),
        weight=0.5,
    ),
    Rule("RATIO", "E per E", _ratio, ("fee per seat",), weight=-0.05),
    Rule("RATIO", "E per T", _ratio, ("fee per visit",), weight=0.0),
    Rule(
        "RATIO",
        "M T per T",
        lambda n, rows, each: _ratio(_measure(n), each) if n.key is not None and n.key.table == rows.table else None,
        ("fee visits per clinic",),
        weight=-0.2,
    ),
    Rule("RATIO", "E per CU", _ratio, ("fee per receipt no",), weight=0.05),
    Rule("RATIO", "Q per CU", _ratio, ("total fee per receipt no",), weight=0.05),
    Rule(
        "RATIO",
        "AGG E per CU",
        lambda f, e, n: _ratio(_aggregate(f, e), n) if f == "mean" else None,
        ("average fee per receipt no",),
        weight=0.4,
    ),
    Rule(
        "RATIO",
        "CNT|T per CU",
        lambda a, b: _ratio(as_counted(a), b),
        ("visits per receipt no",),
        weight=0.05,
    ),
    Rule("RATIO", "E each|every T", _ratio, ("fee each visit",), weight=-0.1),
    Rule("RATIO", "Q per|to T", _ratio, ("average fee per visit",), weight=-0.02),
    Rule("RATIO", "CNT per|to T", _ratio, ("visits per owner",), weight=0.0),
    Rule("RATIO", "CNT per|to C", _ratio, ("number of visits per town",), weight=-0.1),
    Rule("RATIO", "T per E", lambda t, e: _ratio(Counted(t), e), ("visits per seats",), weight=0.0),
    Rule("RATIO", "T per T", lambda a, b: _ratio(Counted(a), b), ("visits per owner",), weight=-0.05),
    Rule("RATIO", "Q per E", _ratio, ("visits per seat",), weight=0.0),
    Rule(
        "RATIO",
        "AGG AGG of|for? E per|for T|C",
        lambda f, g, e, n: _ratio(_aggregate(g, e), n) if (f, g) == ("mean", "sum") else None,
        ("average total fee per owner",),
        weight=0.35,
    ),
    Rule(
        "RATIO",
        "AGG number|no of T per|for|to|of|each T|C",
        lambda f, a, b: _over(f, a, b),
        ("average number of visits per owner",),
        weight=0.25,
    ),
    Rule(
        "Q",
        "SHARE of? E is|are|was|were|comes E",
        lambda _, a, b: sums("/", True)(b, a),
        ("what % of fee is cost",),
        weight=0.3,
    ),
    Rule(
        "QX",
        "AGG number|no|amount|value? of? E OR E",
        lambda f, a, _, b: _both_aggregated(f, a, b),
        ("average fee and cost",),
        weight=0.12,
    ),
    Rule(
        "QX", "AGG number|no|amount|value? of? E OR? E OR OR? E", _each, ("average fee, cost and rating",), weight=0.14
    ),
    Rule(
        "QX",
        "AGG OR AGG of? E",
        lambda f, _, g, e: (_aggregate(f, e), _aggregate(g, e)) if f != g else None,
        ("average and median fee",),
        weight=0.14,
    ),
    *(
        Rule("E", pattern, lambda e, *_: _as_at(e), (example,), weight=0.5)
        for pattern, example in (
            ("E in force|effect at|on the? time|day|date|moment", "price in force at the time"),
            ("E in force|effect then", "price in force then"),
            ("E valid|applicable|effective|current at|on the? time|day|date|moment", "price valid at the time"),
            ("E valid|applicable|effective|current then", "price valid then"),
            ("E at the? time|moment of T", "price at the time of visits"),
            ("E at the? time", "price at the time"),
            ("E on the? day|date", "price on the day"),
            ("E of the? day|date|time", "price of the day"),
            ("E at that time|moment", "price at that time"),
            ("E that|which applied|held then|there", "price that applied then"),
            ("the then|then-current|then-valid E", "the then-current price"),
        )
    ),
    *(
        Rule("E", pattern, lambda one, two: _at_price(one, two), (example,), weight=0.45)
        for pattern, example in (
            ("E at|times|by|x|* the? E", "units times the price at the time"),
            ("E multiplied by the? E", "units multiplied by the price at the time"),
        )
    ),
    Rule("QX", "AGG AGG AGG of? E", _every, ("min max average fee",), weight=0.4),
    Rule("QX", "describe|summarise|summarize the? E", _statistics, ("describe the fee",), weight=0.5),
    Rule("QX", "AGG OR? AGG OR OR? AGG of? E", _every, ("minimum, average and maximum fee",), weight=0.16),
    Rule(
        "QX",
        "AGG OR N PCTILE of? E",
        lambda f, _, n, __, e: (_aggregate(f, e), p) if (p := _percentile(n, e)) else None,
        ("average and 90th percentile of fee",),
        weight=0.16,
    ),
    Rule(
        "QX",
        "SUP OR SUP E",
        lambda a, _, b, e: (
            (x, y) if (x := _superlative_value(a, e)) and (y := _superlative_value(b, e)) and x != y else None
        ),
        ("lowest and highest fee",),
        weight=0.14,
    ),
    Rule(
        "QX",
        "E versus|vs|against|v E",
        lambda a, b: (_total(a), _total(b)) if a != b else None,
        ("fee vs cost",),
        weight=0.06,
    ),
    Rule(
        "E",
        "E volume|value|amount|total|figures|figure|level|levels",
        lambda e: e,
        ("fee level",),
        weight=0.02,
    ),
    Rule("E", "E income|takings", lambda e: e, ("fee income",), weight=-0.15),
    # several in a row
    Rule("QLI", "E", lambda e: _total(e), ("fee",)),
    Rule("QLI", "Q", lambda q: q, ("average fee",)),
    Rule("QLI", "CNT", lambda c: c, ("number of visits",)),
    Rule("QLI", "T", lambda t: Counted(t), ("visits",), weight=-0.02),
    Rule("QLS", "QLI ,|and|&|+|; and|&? QLI", lambda *p: _in_a_row(p), ("fee, cost",), weight=0.1),
    Rule("QLS", "QLS ,|and|&|+|; and|&? QLI", lambda *p: _in_a_row(p), ("fee, cost and visits",), weight=0.1),
    Rule("QX", "QLS", lambda p: p if len(p) > 2 else None, ("fee, cost and visits",), weight=0.05),
    *(
        Rule("QX", pattern, lambda *p: _of_each(p), (example,), weight=0.4)
        for pattern, example in (
            (
                "VERSUS V and|with|to|against|vs|&|, V in|on|by|for|regarding|: terms? of? QLS",
                "compare France and Spain in fee, cost and visits",
            ),
            (
                "VERSUS VS and|with|to|against|vs|&|, VS in|on|by|for|regarding|: terms? of? QLS",
                "compare dogs and cats by fee, cost and visits",
            ),
            ("V VERSUS|OR V ,|:|-|in|on|by terms? of? QLS", "France and Spain: fee, cost and visits"),
            ("VS VERSUS|OR VS ,|:|-|in|on|by terms? of? QLS", "dogs vs cats: fee, cost and visits"),
            (
                "VERSUS QLS of|for|in|at|between V and|with|to|against|vs|&|, V",
                "compare fee, cost and visits of France and Spain",
            ),
            ("QLS for|of|in|at V VERSUS|OR V", "fee and cost for France vs Spain"),
        )
    ),
    Rule("QX", "T OR E", lambda t, _, e: (Counted(t), _total(e)), ("visits and fee",), weight=0.04),
    Rule("QX", "CNT OR E", lambda c, _, e: (c, _total(e)), ("number of visits and fee",), weight=0.06),
    Rule("QX", "E OR T", lambda e, _, t: (_total(e), Counted(t)), ("fee and visits",), weight=0.0),
    Rule(
        "QX",
        "E beside|against|next|alongside to? E",
        lambda a, b: (_total(a), _total(b)) if a != b else None,
        ("fee next to cost",),
        weight=0.15,
    ),
    Rule("QX", "E OR E", lambda a, _, b: (_total(a), _total(b)) if a != b else None, ("fee and cost",), weight=0.04),
    Rule("QX", "latest|newest|current|present E", _latest, ("latest fee",), weight=0.2),
    Rule("QX", "most recent E", _latest, ("most recent fee",), weight=0.25),
    Rule("QX", "last recorded|known|measured|reported? E", _latest, ("last fee", "last recorded fee"), weight=0.15),
    *(
        Rule("RATIO", f"{top} rate? per|for every|each? N of? {bottom}", _per, (example,), weight=0.25)
        for top, said in (("E", "fee"), ("T", "visits"), ("CNT", "number of visits"))
        for bottom, example in (("E", f"{said} per 100 units"), ("T", f"{said} per 100 owners"))
    ),
    *(
        Rule(
            "RATIO",
            f"{top} per {word} {bottom}",
            lambda a, b, n=size: _per(a, n, b),
            (f"{said} per {word} {example}",),
            weight=0.4,
        )
        for word, size in (("hundred", 1e2), ("thousand", 1e3), ("million", 1e6), ("billion", 1e9))
        for top, said in (("E", "fee"), ("T", "visits"), ("CNT", "number of visits"))
        for bottom, example in (("of? E", "units"), ("T", "owners"))
    ),
    *(
        Rule("RATIO", pattern, lambda *p, n=size: _such_per(p, n), (example,), weight=0.5)
        for number, size in (("N", 0.0), ("hundred", 1e2), ("thousand", 1e3), ("million", 1e6))
        for said in (number if size else "100",)
        for pattern, example in (
            (f"K T? per|for every|each? {number} of? T|E", f"overdue visits per {said} visits"),
            (f"T K per|for every|each? {number} of? T|E", f"visits overdue per {said} visits"),
        )
    ),
    *(
        Rule(
            "RATIO",
            pattern,
            lambda *p: _such_per((*p, next(n for n in p if isinstance(n, Noun))), 0.0),
            (example,),
            weight=0.45,
        )
        for pattern, example in (
            ("K T per every? N", "overdue visits per 100"),
            ("T K per every? N", "visits overdue per 100"),
        )
    ),
    Rule("RATIO", "VS per|for every|each? N VS", _heads, ("dogs per 100 cats",), weight=0.2),
    Rule("RATIO", "VS per|to|for VS", _heads, ("dogs per cat",), weight=-0.05),
    *(
        Rule(
            "RATIO",
            pattern,
            lambda v, *rest: _per(Part(m.Is(v.column, v.values)), rest[0] if len(rest) == 2 else 1.0, rest[-1]),
            (example,),
            weight=weight,
        )
        for pattern, example, weight in (
            ("VS per|for every|each? N E", "dogs per 100 units", 0.3),
            ("VS per|for every|each? N T", "dogs per 100 owners", 0.3),
            ("VS per T", "dogs per owner", 0.0),
        )
    ),
    Rule(
        "RATIO",
        "E|CNT per VS",
        lambda a, v: _ratio(a, Part(m.Is(v.column, v.values))),
        ("fee per dog",),
        weight=-0.05,
    ),
    Rule("RATIO", "COUNT E per T|C", lambda _, e, b: _ratio(e, b), ("how many seats per visit",), weight=-0.02),
    Rule(
        "RATIO",
        "COUNT E in|for|on each|every|one T|C",
        lambda _, e, b: _ratio(e, b),
        ("how many seats on each visit",),
        weight=-0.02,
    ),
    Rule(
        "WORTH",
        "AGG T|C value|size|total|totals|worth|amount",
        lambda f, n: Worth(f, n) if f != "sum" else None,
        ("average visit value",),
        weight=0.15,
    ),
    Rule(
        "WORTH",
        "N PCTILE of T|C value|size|total|totals|worth|amount",
        lambda n, _, t: Worth("percentile", t, n) if 0 <= n <= 100 else None,
        ("90 percentile of visit value",),
        weight=0.3,
    ),
    Rule(
        "WORTH",
        "AGG value|size|worth of a|an|each|our|the T|C",
        lambda f, n: Worth(f, n) if f != "sum" else None,
        ("average value of a visit",),
        weight=0.2,
    ),
    Rule(
        "RATIO",
        "VS as a? %|percent|percentage|share|proportion of VS",
        lambda a, b: _heads(a, 100.0, b),
        ("dogs as a percentage of cats",),
        weight=0.4,
    ),
    Rule("RATIO", "ratio of VS to VS", _heads, ("ratio of dogs to cats",), weight=0.3),
    Rule("RATIO", "VS to VS ratio", _heads, ("dog to cat ratio",), weight=0.3),
    Rule(
        "BESX",
        "E|CNT per K T",
        _per_such,
        ("fee per overdue visit", "number of visits per French owner"),
        weight=0.25,
    ),
    Rule("Q", "AGG E of T|C", lambda f, e, _: _aggregate(f, e), ("average fee of visits",), weight=0.12),
    Rule("Q", "AGG E of the|our|all? T", _of_their_own, ("average fee of all visits",), weight=0.3),
    Rule(
        "BESX",
        "AGG E of|for|among GAPC",
        lambda f, e, n: (_aggregate(f, e), Part(m.Not(m.Missing(n.key)), "state")),
        ("average fee of breeds",),
        weight=0.2,
    ),
    *(
        Rule(
            "E",
            f"E in {unit}",
            lambda e, u=unit: _in_unit(e, u),
            (f"how long from opened to closed in {unit}",),
            weight=0.1,
        )
        for unit in ("days", "hours", "minutes", "months", "years")
    ),
    Rule(
        "RATED",
        "PP rate|rates|share|percentage|proportion",
        lambda n: Rated(m.Col(n.key)) if n.key else None,
        ("sold share",),
        weight=0.3,
    ),
    Rule(
        "RATED",
        "SHARE of? E|U PP",
        lambda _, __, n: Rated(m.Col(n.key)) if n.key else None,
        ("share of tickets sold",),
        weight=0.25,
    ),
    *(
        Rule(
            "RATED",
            f"SHARE of? the|our|all? {whole} is|are|was|were|gets|get|got|being|has|have|had|that|which {done}",
            lambda *p: _rated_of(p),
            (example,),
            weight=weight,
        )
        for whole, done, example, weight in (
            ("U|T", "is|are|was|were|gets|get|got|been? PP", "share of visits that get sold", 0.3),
            ("E", "is|are|was|were|gets|get|got|been? PP|PPX", "share of the fee that gets sold", 0.42),
            ("E MV", "is|are|was|were|gets|get|got|been? PP|PPX", "share of the fee cost that gets sold", 0.6),
            ("PP PP|T|E", "is|are|was|were|gets|get|got|been? PP|PPX", "share of sold fee that gets sold", 0.5),
        )
    ),
    Rule(
        "RATED",
        "PP|PPX E|U|T as a|an? percentage|percent|share|rate",
        lambda *p: _rated_of(p[::-1]),
        ("sold fee as a percentage",),
        weight=0.4,
    ),
    # The share of bills that are paid may be one of bills as well as one of amounts.
    Rule(
        "RATED",
        "SHARE of? T|C PP",
        lambda _, __, n: Rated(m.Col(n.key)) if n.key else None,
        ("share of visits sold",),
        weight=-0.1,
    ),
    Rule("RATED", "HAVING a|an|the RATED", lambda _, r: r, ("with a sold share",), weight=0.1),
    Rule("RATED", "E rate|rates", lambda e: Rated(e.expr), ("fee rate",), weight=0.1),
    Rule(
        "Q",
        "when did|do|does we|they|you|i first|start|begin D|T",
        lambda n: _end("min", n),
        ("when did we start visits",),
        weight=0.3,
    ),
    Rule(
        "Q",
        "when did|was|were|do|has|have we|they|you|i? last have|see|get|had|take|taken|been|seen? T",
        lambda t: _end("max", t),
        ("when did we last have a visit",),
        weight=0.3,
    ),
    Rule(
        "Q",
        "last time we|they|you|there|i? had|saw|got|took|was|were? T",
        lambda t: _end("max", t),
        ("last time we had a visit",),
        weight=0.3,
    ),
    Rule(
        "Q",
        "when did|was|were|do|has|have we|they|you|i? first have|see|get|had|take|taken|been|seen? T",
        lambda t: _end("min", t),
        ("when did we first have a visit",),
        weight=0.3,
    ),
    *(
        Rule("Q", pattern, lambda e: Worked(m.in_all(e.expr)), (example,), weight=0.5)
        for pattern, example in (
            (
                "what|how much? we|they|i took|made|got|had|earned in|as|by E",
                "what we took in fee",
            ),
            (
                "what|how much? did we|they|i take|make|get|have|earn in|as|by E",
                "what did we take in fee",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda a, b, *v: _ratio_of_each(a, b, v), (example,), weight=0.7)
        for pattern, example in (
            ("E per E on|for|in|at|with|by|from VS or on|for|in|at|with|by|from? VS", "fee per cost on Dog or on Cat"),
        )
    ),
    Rule("FN", "FN instead|not of? FN", lambda one, _: one, ("averages instead of totals",), weight=0.3),
    Rule("FN", "FN , not FN", lambda one, _: one, ("averages, not totals",), weight=0.3),
    Rule("FN", "HOWMUCH", lambda _: Function("sum", main=True), ("how much",), weight=-0.05),
    Rule(
        "Q",
        "COUNT are|were|is|was there? on|in the M",
        lambda _, n: _aggregate("sum", Measured(m.Col(n.key))) if n.key is not None else None,
        ("how many were on the seats",),
        weight=0.5,
    ),
    *(
        Rule("FN", pattern, lambda *_: Function("sum", main=True), (example,), weight=0.6)
        for pattern, example in (
            (
                "what|how do|does|did they|those|these|it|that|all add|come|amount|sum|total up? to|up|in? total|all|altogether?",
                "what do they add up to",
            ),
            ("what|how much do|does|did they|those|these|it|that add|amount|sum up? to", "how much do those add up to"),
        )
    ),
    Rule("RATIO", "AGG T|U per|for T", lambda f, a, b: _over(f, a, b), ("average visits per clinic",), weight=0.12),
    *(
        Rule("RATIO", pattern, lambda *p: _over_one(p), (example,), weight=0.4)
        for pattern, example in (
            (f"COUNT T|U {_DOES_ONE} T on? AGG", "how many visits does a clinic on average"),
            (f"COUNT T|U {_DOES_ONE} T {_HAVE} on? AGG", "how many visits does a clinic have on average"),
            (f"COUNT T|U on? AGG {_DOES_ONE} T {_HAVE}?", "how many visits on average does a clinic have"),
            (f"AGG ,? COUNT T|U {_DOES_ONE} T {_HAVE}?", "on average how many visits does a clinic have"),
            ("AGG ,? COUNT T|U to|per|for|in a|an|each|one? T", "on average, how many visits to a clinic"),
            (f"COUNT T|U does|do|did|will the? AGG T {_HAVE}?", "how many visits does the average clinic have"),
        )
    ),
    *(
        Rule("RATIO", pattern, lambda *p: _over_different(p), (example,), weight=0.8)
        for pattern, example in (
            (
                f"COUNT DISTINCT T|C {_DOES_ONE} T W|VERB? {_HAVE}? on? AGG",
                "how many different vets does an owner see on average",
            ),
            (
                f"COUNT DISTINCT T|C on? AGG {_DOES_ONE} T W|VERB? {_HAVE}?",
                "how many different vets on average does an owner see",
            ),
            (
                f"AGG ,? COUNT DISTINCT T|C {_DOES_ONE} T W|VERB? {_HAVE}?",
                "on average how many different vets does an owner see",
            ),
            (
                f"COUNT DISTINCT T|C does|do|did the? AGG T W|VERB? {_HAVE}?",
                "how many different vets does the average owner see",
            ),
            (
                "AGG number|no of? DISTINCT T|C per|for|by|of each|every|one|a? T",
                "average number of different clinics per owner",
            ),
            ("COUNT DISTINCT T|C per|for|by each|every? T on? AGG", "how many different clinics per owner on average"),
            (
                "number|no of? DISTINCT T|C per|for|by each|every? T on? AGG",
                "number of different clinics per owner on average",
            ),
        )
    ),
    *(
        Rule("QX", pattern, lambda *p: _over_such(p), (example,), weight=0.5)
        for pattern, example in (
            (f"COUNT T|U {_DOES_ONE} K T {_HAVE}? on? AGG", "how many visits does an overdue owner have on average"),
            (f"COUNT T|U {_DOES_ONE} V T {_HAVE}? on? AGG", "how many visits does a Dog owner have on average"),
        )
    ),
    Rule("FN", "AGG", lambda f: Function(f), ("average",), weight=-0.05),
    Rule(
        "FN",
        "N PCTILE",
        lambda n, _: Function("percentile", n) if 0 <= n <= 100 else None,
        ("95th percentile",),
        weight=0.1,
    ),
)


def _over(function: str, one: Noun, two: Noun) -> Ratio | None:
    return Ratio(Counted(one), two) if one != two and function in ("mean", "sum") else None
