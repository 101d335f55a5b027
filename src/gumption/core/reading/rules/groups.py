"""For each of something: by town, monthly, per owner, by age band of ten years."""

from __future__ import annotations

import dataclasses
import functools
from collections.abc import Iterator
from typing import get_args

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import (
    Axis,
    Beside,
    Counted,
    Direction,
    Grouped,
    Held,
    Marker,
    Measured,
    Noun,
    Part,
    Top,
    Values,
    Worked,
    as_counted,
)
from gumption.core.reading.times import Span, span_condition
from gumption.core.reading.tokens import stem
from gumption.core.reading.vocabulary import name_parts

_WERE = "did|was|were|had|has|have|is|are"


_NUMBERED = frozenset(stem(w) for w in ("id", "no", "nr", "number", "code", "ref", "key"))


def numbers_rows(noun: Noun) -> bool:
    """True for a column by which rows are told apart: called the number of something, or as they are."""
    if noun.key is None:
        return False
    last, rows = (stem(name_parts(name)[-1]) for name in (noun.key.column, noun.key.table))
    return last in _NUMBERED or last == rows


def _unit(unit: m.Unit, of: m.Expr | None = None) -> Grouped:
    return Grouped(m.PartOf(unit, of or m.EventTime()))


def _table_of(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How many rows there are, by one thing down and by another across."""
    rows, *sides = (p for p in parts if isinstance(p, Noun) or p in get_args(m.Unit))
    if isinstance(rows, Noun) and rows.key is not None:
        rows = Noun(table=rows.key.table)
    down, across = (Grouped(p) if isinstance(p, Noun) else _unit(p) for p in sides)  # type: ignore[arg-type]
    return Counted(rows), down, dataclasses.replace(across, across=True), Marker("cross")  # type: ignore[arg-type]


def _periods_counted(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """In how many periods something was so, perhaps of one stretch of time."""
    unit = next(p for p in parts if isinstance(p, str) and p in get_args(m.Unit))
    times = [p for p in parts if isinstance(p, Part)]
    if any(p.kind != "time" for p in times):
        return None
    return _unit(unit), Marker("counted"), *times  # type: ignore[arg-type]


def _when_such_did(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """On how many days there is anything of such; how many hours somebody did are none of the clock."""
    unit = next(p for p in parts if isinstance(p, str) and p in get_args(m.Unit))
    if unit == "hour":
        return None
    such = next(p for p in parts if isinstance(p, Values))
    return _unit(unit), Marker("counted"), Part(m.Is(such.column, such.values))  # type: ignore[arg-type]


def _without_any(parts: tuple[object, ...]) -> tuple[object, ...]:
    """In how many periods there was nothing of something."""
    unit = next(p for p in parts if isinstance(p, str) and p in get_args(m.Unit))
    noun = next((p for p in parts if isinstance(p, Noun)), Noun())
    when = (Axis(m.Col(noun.key)),) if noun.key is not None else ()
    if noun.key is not None:
        # No arrivals are no rows that have a day on which somebody arrived.
        noun = Noun(table=noun.key.table)
    told = [p for p in parts if isinstance(p, Part)]
    told += [Part(span_condition(p, m.EventTime()), "time") for p in parts if isinstance(p, Span)]
    return _unit(unit), Marker("counted"), Held(Counted(noun), "=", 0.0), *told, *when  # type: ignore[arg-type]


def _none_of(parts: tuple[object, ...]) -> tuple[Grouped, Part]:
    """The periods without any of something."""
    noun = next(p for p in parts if isinstance(p, Noun))
    assert noun.table is not None
    return _unit(parts[0]), Part(m.Not(m.Has(m.Rows(noun.table))), "related")  # type: ignore[arg-type]


def _such(values: Values) -> tuple[Counted, Part]:
    """How many rows there are with one of some values."""
    return Counted(Noun(table=values.column.table)), Part(m.Is(values.column, values.values))


def _of_such(parts: tuple[object, ...]) -> tuple[object, ...]:
    """What is counted between two kinds of it."""
    noun = next((p for p in parts if isinstance(p, Noun)), None)
    values = next((p for p in parts if isinstance(p, Values)), None)
    return (Counted(noun),) if noun is not None else _such(values) if values is not None else ()


def _decade(parts: tuple[object, ...]) -> Grouped:
    """Ten years at a time, of a date that is named or of when things happened."""
    named = next((p.key for p in parts if isinstance(p, Noun)), None)
    return Grouped(m.Band(m.PartOf("year", m.Col(named) if named is not None else m.EventTime()), 10.0))


def _by_length(measured: Measured) -> Grouped | None:
    """Each age by itself."""
    return Grouped(measured.expr) if isinstance(measured.expr, m.Length) else None


def _of_column(unit: m.Unit):  # type: ignore[no-untyped-def]
    def build(*parts: object) -> Grouped | None:
        noun = parts[-1]
        if not isinstance(noun, Noun) or noun.key is None:
            return None
        return _unit(unit, m.Col(noun.key))

    return build


def _band(measured: Measured, width: float) -> Grouped | None:
    return Grouped(m.Band(measured.expr, width)) if width > 0 else None


def _edged(parts: tuple[object, ...]) -> Grouped:
    """Bands whose edges are said one by one."""
    measured = next(p for p in parts if isinstance(p, Measured))
    edges = next(p for p in parts if isinstance(p, tuple))
    return Grouped(m.Band(measured.expr, None, edges))


def _auto(measured: Measured) -> Grouped:
    return Grouped(m.Band(measured.expr))


def yes_or_no(part: object) -> Grouped | None:
    """Those that meet a condition and the rest."""
    if not isinstance(part, Part) or (part.kind == "time" and not comes_again(part.condition)):
        return None
    condition = part.condition.item if isinstance(part.condition, m.Not) else part.condition
    return Grouped(m.Test(condition))


def _at_weekends(time: m.Expr) -> Grouped:
    """What was at weekends and what was not."""
    return Grouped(m.Test(m.PartIs("weekday", time, (6, 7))))


def comes_again(condition: m.Condition) -> bool:
    """True for a time that comes again and again: weekends, mornings."""
    weekly = isinstance(condition, m.PartIs) and condition.unit in ("weekday", "hour")
    return weekly or isinstance(condition, m.Clock)


def _kinds_by(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Boys and girls by form: how many of each."""
    each = each_of(*(p for p in parts if isinstance(p, Values)))
    told = parts[-1]
    if each is None or (isinstance(told, Noun) and told.key == next(p for p in parts if isinstance(p, Values)).column):
        return None
    return (*each, by_one(told))  # type: ignore[arg-type]


def _so_many_of_each(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How many of one kind there are, and how many of another."""
    each = each_of(*(p for p in parts if isinstance(p, Values)))
    noun = next(p for p in parts if isinstance(p, Noun))
    return (*(each if isinstance(each, tuple) else (each,)), Counted(noun)) if each is not None else None


def _first_months(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """The same months of every year, year by year."""
    number = next(p for p in parts if isinstance(p, float))
    if not number.is_integer() or not 1 < number < 12:
        return None
    months = tuple(range(1, int(number) + 1))
    return Part(m.PartIs("month", m.EventTime(), months), "time"), _unit("year")


def _averaged_either_way(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What something comes to where it is so and where it is not, on average."""
    group = yes_or_no(next(p for p in parts if isinstance(p, Part)))
    measured = next(p for p in parts if isinstance(p, Measured))
    return (group, Worked(m.Aggregated("mean", measured.expr))) if group is not None else None


def _known_or_not(noun: Noun) -> Grouped | None:
    return Grouped(m.Test(m.Not(m.Missing(noun.key)))) if noun.key is not None else None


def _either_answer(parts: tuple[object, ...]) -> Grouped | None:
    """Those that are so and those that are not, of a yes or no."""
    flags = [p for p in parts if isinstance(p, Noun)]
    return Grouped(flags[0]) if len(set(flags)) == 1 else None


def _some_or_none(noun: Noun) -> Grouped | None:
    return Grouped(m.Test(m.Has(m.Rows(noun.table)))) if noun.table is not None else None


def _higher_or_not(op: m.Comparison, one: Measured, two: Measured) -> Grouped | None:
    return Grouped(m.Test(m.Compared(op, one.expr, two.expr))) if one != two else None


def _crossed(one: Noun, two: Noun) -> tuple[Grouped, Grouped] | None:
    return (Grouped(one), Grouped(two, across=True)) if one != two else None


def by_one(told: Noun | m.Unit) -> Grouped:
    """For each of what a noun names, or of a period."""
    return Grouped(told) if isinstance(told, Noun) else _unit(told)


def _as_columns(told: Noun | m.Unit) -> Grouped:
    return dataclasses.replace(by_one(told), across=True)


def _as_rows_and_columns(*told: Noun | m.Unit) -> tuple[Grouped, ...] | None:
    if told[0] == told[1]:
        return None
    *rows, columns = told
    return (*map(by_one, rows), _as_columns(columns))


_TENS = (("ten", 10.0), ("hundred", 100.0), ("thousand", 1000.0), ("million", 1e6))
_WIDE = "bands|bins|steps|buckets|brackets|increments|chunks|groups|intervals|classes|ranges|slices"
_AUTO = (
    "band|bands|bin|bins|bucket|buckets|bracket|brackets|interval|intervals|range|ranges|size-band|classes|group|groups"
)

_SIMPLE: tuple[tuple[m.Unit, str, str], ...] = (
    ("year", "year|years", "yearly|annual|annually"),
    ("quarter", "quarter|quarters", "quarterly"),
    ("month", "month|months", "monthly"),
    ("week", "week|weeks", "weekly"),
    ("day", "day|days|date", "daily"),
    ("weekday", "weekday|weekdays", "weekday"),
    ("hour", "hour|hours", "hourly"),
)


UNITS_OF_TIME = frozenset(unit for unit, _, _ in _SIMPLE)


_RECURRING: dict[m.Unit, m.Unit] = {"weekday": "day", "month_of_year": "month", "quarter_of_year": "quarter"}
"""What comes again, and the periods of which each is one."""


def over_periods(
    function: str, measured: Measured | Noun, unit: m.Unit
) -> Worked | tuple[Worked | Grouped, ...] | None:
    """The average monthly takings are of the totals of months; what an average Monday brings is of Mondays."""
    if function not in ("mean", "median", "max", "min"):
        return None
    if isinstance(measured, Measured):
        inner = m.in_all(measured.expr)
    elif measured.table is not None:
        inner = m.Aggregated("count", table=measured.table)
    else:
        return None
    over = m.OverGroups(function, inner, m.PartOf(_RECURRING.get(unit, unit), m.EventTime()))  # type: ignore[arg-type]
    return (Worked(over), _unit(unit)) if unit in _RECURRING else Worked(over)


_FLOWS = frozenset(
    stem(w)
    for w in [
        "spend", "spent", "spending", "expense", "outgoings", "income", "earnings", "revenue", "sales", "takings", "turnover", "donations",
        "distance", "mileage", "km", "miles", "output", "production", "usage", "consumption", "rainfall", "receipts", "steps", "hours",
        "downtime", "overtime", "produced", "rejected", "footfall", "visitors", "calories", "units",
    ]
)  # fmt: skip
"""What comes in or goes by from day to day, and is little to each row that tells of a part of it."""


def _is_a_flow(expr: m.Expr) -> bool:
    """True for what was spent or earned, or ran: its average month is of months, and not of rows."""
    return isinstance(expr, m.Given) or any(
        _FLOWS & {stem(part) for part in name_parts(key.column)} for key in m.columns_in(expr)
    )


def _usual_flow(unit: m.Unit, *parts: object) -> tuple[object, ...] | None:
    """What is spent on rent in an average month: the average of what each month comes to."""
    measured = next(
        Measured(m.Col(p.key)) if isinstance(p, Noun) and p.key else p for p in parts if isinstance(p, (Noun, Measured))
    )
    such = tuple(Part(m.Is(p.column, p.values)) for p in parts if isinstance(p, Values))
    function = next((p for p in parts if p in ("mean", "median")), None)
    over = over_periods(str(function), measured, unit) if isinstance(measured, Measured) else None
    return (over, *such) if isinstance(over, Worked) else None


def _on_average(parts: tuple[object, ...], unit: m.Unit) -> Worked | tuple[Worked | Grouped, ...] | None:
    """Visits per day on average, of how many there were each day."""
    of = next(p for p in parts if isinstance(p, (Noun, Measured)))
    function = next((p for p in parts if p in ("mean", "median")), None)
    if function is None or (isinstance(of, Measured) and not _is_a_flow(of.expr)):
        # An average fee per day is one of each day's visits.
        return None
    return over_periods(str(function), of, unit)


_MAKE = (
    "have|had|get|got|make|made|do|done|place|placed|take|taken|see|seen|handle|handled|complete|completed|give|given"
)


def _each_ones_usual(function: str, who: Noun, what: Noun, unit: m.Unit) -> tuple[object, ...] | None:
    """What each of them spends a month on average, or how many there are of something for each: their own months."""
    over = over_periods(function, Measured(m.Col(what.key)) if what.key is not None else what, unit)
    return (over, Grouped(who)) if isinstance(over, Worked) else None


def _usually(parts: tuple[object, ...]) -> Worked | tuple[Worked | Grouped, ...] | None:
    """How much there is in a normal week."""
    of = next(p for p in parts if isinstance(p, (Noun, Measured)))
    return over_periods("mean", of, next(p for p in parts if isinstance(p, str) and p in UNITS_OF_TIME))


def _most_in_one(sign: str, of: Measured | Noun, unit: m.Unit) -> Worked | tuple[Worked | Grouped, ...] | None:
    """The most there was of something in a single day."""
    return over_periods("max" if sign == "+" else "min", of, unit)


def _time_rules() -> tuple[Rule, ...]:
    rules: list[Rule] = []
    for unit, nouns, adverbs in _SIMPLE:
        noun = nouns.split("|")[0]
        rules += [
            Rule("UNIT", nouns, lambda u=unit: u, (noun,)),
            Rule("G", f"{adverbs}", lambda u=unit: _unit(u), (adverbs.split("|")[0],), weight=0.9),
            Rule(
                "Q",
                f"AGG {adverbs} E|T",
                lambda f, e, u=unit: over_periods(f, e, u),
                (f"average {adverbs.split('|')[0]} fee",),
                weight=0.0,
            ),
            Rule(
                "Q",
                f"{adverbs} AGG of? E|T",
                lambda f, e, u=unit: over_periods(f, e, u),
                (f"{adverbs.split('|')[0]} average of the fee",),
                # A monthly average is one for each month; a daily one is seldom asked for day by day.
                weight=0.12 if unit in ("day", "week") else -0.5,
            ),
            Rule(
                "Q",
                f"AGG number|no of? E|T per|a|each|every {noun}",
                lambda f, e, u=unit: over_periods(f, e, u),
                (f"average number of visits per {noun}",),
                weight=0.35,
            ),
            *(
                Rule("Q", pattern, lambda *p, u=unit: _on_average(p, u), (example,), weight=0.45)
                for pattern, example in (
                    (f"AGG E|T per|a|each|every {noun}", f"average visits per {noun}"),
                    (f"E|T per|a|each|every {noun} on? AGG", f"visits per {noun} on average"),
                    (f"COUNT E|T per|a|each|every {noun} on? AGG", f"how many visits per {noun} on average"),
                    (f"COUNT E|T on? AGG per|a|each|every {noun}", f"how many visits on average per {noun}"),
                )
            ),
            Rule("G", f"BY {nouns}", lambda _, u=unit: _unit(u), (f"by {noun}",), weight=0.1),
            Rule(
                "G",
                f"BY {nouns} of D",
                lambda _, d, u=unit: _of_column(u)(d),
                (f"by {noun} of visit date",),
                weight=0.2,
            ),
            Rule(
                "G",
                f"BY {nouns} of DT",
                lambda _, d, u=unit: _of_column(u)(d),
                (f"by {noun} of visit",),
                weight=0.2,
            ),
            Rule("G", f"BY {nouns} D", lambda _, d, u=unit: _of_column(u)(d), (f"by {noun} closed",), weight=0.16),
            Rule("G", f"BY D {nouns}", lambda _, d, u=unit: _of_column(u)(d), (f"by visit {noun}",), weight=0.12),
            Rule("G", f"a|an {noun}", lambda u=unit: _unit(u), (f"a {noun}",), weight=0.1),
            Rule("G", f"{noun} by {noun}", lambda u=unit: _unit(u), (f"{noun} by {noun}",), weight=1.0),
            Rule(
                "G",
                f"over|through|during|along the? {noun}s",
                lambda u=unit: _unit(u),
                (f"over the {noun}s",),
                weight=0.9,
            ),
        ]
        # A day of the week is no stretch of time that comes to something.
        rules += _usual_rules(unit, noun, adverbs) if unit not in _RECURRING else ()
    return tuple(rules)


def _usual_rules(unit: m.Unit, noun: str, adverbs: str) -> Iterator[Rule]:
    """What a month comes to on average: of all, of some, or of each of them."""
    rule = functools.partial(Rule, "BESX")
    flow = functools.partial(_usual_flow, unit)
    each, every = "does|do|did|has|have each|every|a|an T|C", f"per|a|each|every {noun}"
    yield rule(f"AGG {adverbs} VS E", flow, (f"average {adverbs.split('|')[0]} dog fee",), weight=0.7)
    for told, said in ((f"{every} on? AGG", f"per {noun} on average"), (f"on? AGG {every}", f"on average per {noun}")):
        for such, example in (("on|at|in|for|with VS ", "for dogs "), ("", "")):
            asked = f"HOWMUCH do|did|does|have|has i|we|they|you E|MV {such}{told}"
            yield rule(asked, flow, (f"how much do we paid {example}{said}",), weight=0.7)
        yield rule(
            f"what|HOWMUCH {each} MV {told}",
            lambda *p: _each_ones_usual(p[-1], p[-3], p[-2], unit),
            (f"what does each clinic paid {said}",),
            weight=0.9,
        )
        yield rule(
            f"COUNT T {each} {_MAKE} {told}",
            lambda *p: _each_ones_usual(p[-1], p[-2], p[-3], unit),
            (f"how many visits does each clinic have {said}",),
            weight=0.9,
        )


def each_of(*kinds: Values) -> tuple[Grouped, Part] | None:
    """For the one and for the other, each by itself: kinds of one column that differ."""
    column = kinds[0].column
    if any(k.column != column for k in kinds) or len(set(kinds)) != len(kinds):
        return None
    return Grouped(Noun(key=column)), Part(m.Is(column, tuple(v for k in kinds for v in k.values)))


def _added_up(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """A cumulative distribution: what share lies up to the end of each band."""
    measured = next(p for p in parts if isinstance(p, Measured))
    grouped = _auto(measured)
    return (grouped, Beside("share"), Beside("running")) if grouped is not None else None


_BRING = "bring|brought|make|made|earn|earned|take|took|get|got|cost|come|came"
_USUAL = "in|on|during|over a|an|the normal|typical|average|usual|ordinary"

_MADE_UP = "breakdown|split|makeup|make-up|composition|mix|spread|summary"


def _how_many_have_so_many(each: m.Below) -> tuple[object, ...]:
    """How many things have one row of their own, how many have two, and so on."""
    return Counted(Noun(table=each.key.table)), Grouped(each)


def _such_each(such: Part, rows: Noun) -> tuple[object, ...] | None:
    """Each open project: for each of the projects, of those that are open; a number belongs to what comes behind it."""
    return (Grouped(rows), such) if such.kind != "number" else None


def _leading_such(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """The first five countries by something: of the places of that level."""
    top = next((p for p in parts if isinstance(p, Top)), None)
    such = next((p for p in parts if isinstance(p, tuple)), ())
    measured = parts[-1]
    grouped = _by_such(such)
    if top is None or grouped is None:
        return None
    if isinstance(measured, Measured):
        return (*grouped, dataclasses.replace(top, by=measured.expr, number=top.number))
    return (*grouped, dataclasses.replace(top, by=None), measured)


def _by_such(said: tuple[object, ...]) -> tuple[object, ...] | None:
    """By country, where these are the places of one level: for each of the things, of those that are such."""
    things = [p for p in said if isinstance(p, Noun)]
    parts = [p for p in said if isinstance(p, Part)]
    return (Grouped(things[0]), *parts) if len(things) == 1 and len(parts) == len(said) - 1 else None


RULES = (
    *_time_rules(),
    *(
        Rule("Q", pattern, lambda *p: _usually(p), (example,), weight=0.5)
        for pattern, example in (
            (f"COUNT NP VERB|W? {_USUAL} UNIT", "how many visits in a normal week"),
            (f"{_USUAL} UNIT , COUNT NP", "in a normal week, how many visits"),
            (f"{_USUAL} UNIT COUNT NP", "on an average day how many visits"),
            (f"HOWMUCH E {_USUAL} UNIT", "how much fee in a normal week"),
            (f"{_USUAL} UNIT HOWMUCH E", "in a normal week how much fee"),
        )
    ),
    *(
        Rule("Q", pattern, lambda *p: _most_in_one(p[0], p[1], p[-1]), (example,), weight=0.5)
        for pattern, example in (
            ("MOST T|E VERB|W? in|on a|one|any single? UNIT", "most visits in one day"),
            (
                "MOST T|E we've|we|they've|they|you've|have|had|ever ever|have|had? VERB|W in|on a|one|any single? UNIT",
                "most visits we've ever done in one day",
            ),
        )
    ),
    Rule(
        "BESX", "COUNT T a|an UNIT", lambda _, t, u: (Counted(t), _unit(u)), ("how many visits a month",), weight=0.35
    ),
    Rule("G", "BY day|days of the? week", lambda _: _unit("weekday"), ("by day of the week",), weight=0.2),
    Rule("UNIT", "day|days of the? week", lambda: "weekday", ("day of the week",), weight=0.95),
    Rule("UNIT", "hour|hours|time of the? day", lambda: "hour", ("hour of the day",), weight=0.95),
    Rule("UNIT", "time of the? year", lambda: "month", ("time of the year",), weight=0.95),
    Rule("UNIT", "calendar? month|months of the? year", lambda: "month_of_year", ("month of the year",), weight=0.95),
    Rule("G", "BY hour|hours|time of the? day", lambda _: _unit("hour"), ("by hour of the day",), weight=0.2),
    Rule("G", "WHICH calendar month|months", lambda _: _unit("month_of_year"), ("which calendar month",), weight=0.5),
    *(
        Rule(
            "G",
            pattern,
            lambda *p, t=turned: _as_rows_and_columns(*((p[-1], p[-2]) if t else p[-2:])),
            (f"by {example}" if pattern.startswith("BY") else example,),
            weight=0.6,
        )
        for plain, turned, example in (
            (
                "C|T|UNIT|F ( row|rows|down ) and|, C|T|UNIT|F ( column|columns|across )",
                False,
                "species (rows) and years (columns)",
            ),
            (
                "C|T|UNIT|F as|in|for|down|on the? rows|row and|, C|T|UNIT|F as|in|for|across|on the? columns|column",
                False,
                "species as rows and year as columns",
            ),
            (
                "C|T|UNIT|F as|in|for|across|on the? columns|column and|, C|T|UNIT|F as|in|for|down|on the? rows|row",
                True,
                "years as columns, species as rows",
            ),
            (
                "C|T|UNIT|F down the? side|page|left? and|, C|T|UNIT|F across|along the? top|page?",
                False,
                "months down the side, species across the top",
            ),
            (
                "C|T|UNIT|F across|along the? top|page? and|, C|T|UNIT|F down the? side|page|left?",
                True,
                "species across the top, months down the side",
            ),
        )
        for pattern in (plain, f"BY {plain}")
    ),
    *(
        Rule("G", pattern, lambda *p: _as_columns(p[-1]), (example,), weight=0.6)
        for pattern, example in (
            (
                "HAVING the? C|T|UNIT|F as|for|in|across|along|over|on the? columns|column|top",
                "with the years as columns",
            ),
            ("and|, C|T|UNIT|F as|for|across|along|in the? columns|column|top", "and species across the top"),
            ("HAVING one|a column for|per each|every? C|T|UNIT", "with one column per year"),
            ("HAVING a? separate|own column for|per each|every? C|T|UNIT", "with a separate column for each species"),
            ("one|a|separate column for|per each|every? C|T|UNIT", "one column for each year"),
            ("BY C|T|UNIT|F as|for|in|across the? columns|top", "by year as columns"),
            ("C|T|UNIT|F side by side", "years side by side"),
        )
    ),
    Rule("G", "BY calendar month|months", lambda _: _unit("month_of_year"), ("by calendar month",), weight=0.2),
    Rule("G", "BY month of the? year", lambda _: _unit("month_of_year"), ("by month of the year",), weight=0.2),
    Rule(
        "G", "BY months of the? year", lambda _: _unit("month_of_year"), ("each of the months of the year",), weight=0.2
    ),
    Rule("G", "WHICH UNIT", lambda _, u: _unit(u), ("which weekday",), weight=0.2),
    *(
        Rule("G", pattern, lambda *p: _decade(p), (example,), weight=0.3)
        for pattern, example in (("BY decade|decades", "by decade"), ("D BY decade|decades", "visit date per decade"))
    ),
    *(
        Rule("BESX", pattern, lambda *p: _first_months(p), (example,), weight=0.9)
        for pattern, example in (
            (
                "in|for|during|over the? first N months of? each|every|the year|years",
                "in the first three months of each year",
            ),
            (
                "in|for|during|over the? first N months of? each|every|all? years?",
                "for the first 6 months of all years",
            ),
        )
    ),
    Rule("G", "UNIT HAVING", lambda u, _: _unit(u), ("months with",), weight=0.1),
    *(
        Rule("G", pattern, lambda *p: _kinds_by(p), (example,), weight=0.35)
        for pattern, example in (
            ("V and|& V BY C", "dogs and cats by clinic"),
            ("V and|& V BY UNIT", "dogs and cats by month"),
        )
    ),
    Rule("G", "UNIT HAVING? WITHOUT any? T", lambda *p: _none_of(p), ("days without visits",), weight=0.5),
    Rule("G", "UNIT on|in which", lambda u: _unit(u), ("days on which",), weight=0.6),
    Rule("G", "UNIT when|where|that", lambda u: _unit(u), ("months when",), weight=0.3),
    *(
        Rule("G", pattern, lambda *p: _periods_counted(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("COUNT UNIT", "how many months", 0.0),
            ("COUNT UNIT HAVING", "how many months had", 0.2),
            ("COUNT UNIT on|in which", "number of months in which", 0.4),
            ("COUNT UNIT when|where|that", "number of months when", 0.35),
            ("COUNT UNIT K HAVING", "how many months in 2025 had", 0.3),
            ("on|in COUNT UNIT", "in how many months", 0.35),
            ("on|in COUNT UNIT did|was|were|had|has|have there|we|you|they?", "on how many days were there", 0.5),
        )
    ),
    Rule(
        "G",
        "on|in? COUNT UNIT did|has|have|had VS VERB|W",
        lambda *p: _when_such_did(p),
        ("on how many days did Dog come",),
        weight=0.7,
    ),
    Rule(
        "BESX",
        "AGG E per|a UNIT by|for|per|each|every|in each|every|the? C",
        lambda f, e, u, n: (over_periods(f, e, u), Grouped(n)) if f == "mean" else None,
        ("average fee per day by species",),
        weight=0.35,
    ),
    *(
        Rule("G", pattern, lambda *p: _without_any(p), (example,), weight=weight)
        for pattern, example, weight in (
            (
                f"on|in? COUNT UNIT {_WERE} there|we|you|they? no|zero T W?",
                "on how many days were there no visits",
                0.6,
            ),
            ("on|in? COUNT UNIT HAVING? WITHOUT any? T", "number of days with no visits", 0.7),
            ("on|in? COUNT UNIT HAVING? WITHOUT any? new|single? T|D TIME?", "number of days with no visits", 0.75),
            ("on|in? COUNT UNIT TIME? saw|had|brought no T W?", "how many days of 2024 saw no visit start", 0.9),
            ("on|in? COUNT UNIT K HAVING? WITHOUT any? T", "number of days in 2025 with no visits", 0.8),
            (
                "on|in? COUNT UNIT K? HAVING? WITHOUT any? T started|made|booked|begun|recorded|placed|sold|taken|opened",
                "number of days without any visit made",
                0.9,
            ),
            (f"on|in? COUNT UNIT {_WERE} nothing|nobody|no-one|none W", "on how many days was nothing sold", 0.6),
        )
    ),
    *(
        Rule("G", words, lambda u=unit: _unit(u), (words.split("|")[0],), weight=w)
        for unit, w in (("year", 0.8), ("month", 0.77))
        for words in ("develop|developed|evolve|evolved",)
    ),
    Rule("G", "over time", lambda: _unit("month"), ("over time",), weight=0.8),
    Rule("G", "over time", lambda: _unit("year"), ("over time",), weight=0.76),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p, u=unit: (_unit(u), next(x for x in p if isinstance(x, Measured))),
            (example,),
            weight=w,
        )
        for unit, w in (("month", 0.12), ("year", 0.09))
        for pattern, example in (("TREND of|in? E", "trend in fee"), ("E TREND", "fee trend"))
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p, u=unit: (_unit(u), next(Counted(x) for x in p if isinstance(x, Noun))),
            (example,),
            weight=w,
        )
        for unit, w in (("month", 0.12), ("year", 0.09))
        for pattern, example in (("TREND of|in? T", "trend in visits"), ("T TREND", "visits trend"))
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p, u=unit: (_unit(u), *_such(next(x for x in p if isinstance(x, Values)))),
            (example,),
            weight=w,
        )
        for unit, w in (("month", 0.12), ("year", 0.09))
        for pattern, example in (("TREND of|in? VS", "trend in dogs"), ("VS TREND", "dog trend"))
    ),
    *(
        Rule("BESX", f"how {verb} {who} {does}", lambda n, by: (Counted(n), Grouped(by)), (example,), weight=0.25)
        for verb, who, does, example in (
            ("do|does|did|are|is|were", "T", "C", "how do visits country"),
            ("do|does|did|are|is|were", "U", "C", "how do jobs country"),
            ("do|does|did|are|is|were", "T", "DOER", "how are animals breeds"),
            ("do|does|did|are|is|were", "U", "DOER", "how do jobs breeds"),
        )
    ),
    Rule("G", "BY E in? years?", lambda _, e: _by_length(e), ("by days from opened to closed",), weight=0.1),
    Rule("G", "BY E of T", lambda _, e, __: _by_length(e), ("by days from opened to closed of visits",), weight=0.1),
    *(
        Rule("BESX", pattern, lambda t, _, n: (Counted(t), Grouped(n)), (example,), weight=0.3)
        for pattern, example in (
            ("split|break|divide|separate|sort T up|down|out? BY C", "split the visits up by species"),
            ("split|break|divide|separate|sort T up|down|out? BY T", "split the visits up by clinic"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda e, _, n: (as_counted(e), Grouped(n)), (example,), weight=0.45)
        for pattern, example in (
            ("split|break|divide|separate|sort|slice|cut E|CNT|Q up|down|out BY C|T", "break the fee down by species"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda c, e: (Grouped(c), e), (example,), weight=0.6)
        for pattern, example in (
            (
                f"what|how much? did|does|do|has|have each|every C|T {_BRING} in|up|on? by|in way|terms? of? E",
                "what did each species bring in by way of fee",
            ),
        )
    ),
    Rule("G", "BY BC", lambda _, b: Grouped(b), ("by number of visits",), weight=0.05),
    Rule(
        "BESX",
        "C BY CNT",
        lambda n, _, c: None if numbers_rows(n) else (Grouped(n), c, Direction(True)),
        ("species by number of visits",),
        weight=0.3,
    ),
    Rule(
        "BESX",
        "T BY COUNT of? T|U",
        lambda n, _, __, rows: (Grouped(n), Counted(rows), Direction(True)) if n != rows else None,
        ("owners by number of visits",),
        weight=0.35,
    ),
    Rule(
        "BESX",
        "COUNT T BY BC",
        lambda _, n, __, b: (Counted(n), Grouped(b)),
        ("how many owners by number of visits",),
        weight=0.45,
    ),
    Rule(
        "G", "BY BC they|it|each have|has|had", lambda _, b: Grouped(b), ("by how many visits they have",), weight=0.3
    ),
    *(
        Rule("BESX", pattern, lambda *p: _how_many_have_so_many(p[-1]), (example,), weight=weight)
        for pattern, example, weight in (
            ("DISTRIB of? the? BCP", "distribution of visits per owner", 0.5),
            ("how are|is the? BCP", "how are visits spread over the owners", 0.5),
        )
    ),
    Rule(
        "MRK",
        ",? going|counting|counted|judging|judged|based|dated|measured by|from|on|since the? date|day|time? of? BD",
        lambda below: Axis(below),
        (", going by their first visit",),
        weight=0.9,
    ),
    Rule(
        "MRK",
        ", by|using|on|per the? date|day|time? of? D date|day?",
        lambda *p: Axis(m.Col(key)) if (key := next(n.key for n in p if isinstance(n, Noun))) is not None else None,
        (", by the date of visit date",),
        weight=0.75,
    ),
    Rule(
        "BESX",
        "C|T ranking|rankings|league by|on|in E|Q",
        lambda n, by: (Grouped(n), as_counted(by), Direction(True)),
        ("clinic ranking by fee",),
        weight=0.5,
    ),
    Rule("G", "BY UNIT of BD", lambda _, u, b: _unit(u, b), ("by year of their first visit",), weight=0.35),
    Rule("G", "BY C", lambda _, n: Grouped(n), ("by species",), weight=0.1),
    Rule("G", "BY how they|we|you|people C", lambda _, n: Grouped(n), ("by how they species",), weight=0.5),
    Rule("G", "BY T", lambda _, n: Grouped(n), ("by clinic",), weight=0.08),
    Rule(
        "BESX",
        "of|for|in|at|to|from|by|on? each|every K T",
        lambda k, n: _such_each(k, n),
        ("for each attended visit",),
        weight=0.9,
    ),
    Rule(
        "BESX",
        "how|where do|did|does our|most? T HEARD out? about|of|from? us|you|this",
        lambda t, n: (Counted(t), Grouped(n)) if t.table is not None else None,
        ("how do owners hear about us",),
        weight=0.8,
    ),
    Rule(
        "BESX",
        "how|where do|did|does most? people|they|everyone|folk HEARD out? about|of|from? us|you|this",
        lambda n: (Counted(Noun(table=n.key.table)), Grouped(n)) if n.key is not None else None,
        ("where do people hear about us",),
        weight=0.8,
    ),
    Rule("BESX", "BY LEVEL", lambda _, n: _by_such(n), ("by province",), weight=0.35),
    *(
        Rule("BESX", pattern, lambda *p: _leading_such(p), (example,), weight=0.8)
        for pattern, example in (
            ("TOP LEVEL by|in|for|on|with their|the|its? E|Q", "top 2 provinces by people"),
            ("WHICH LEVEL has|have|had|with|having the? SUP E|Q", "which province has the highest people"),
        )
    ),
    Rule("BESX", "BY K T", lambda _, k, n: _such_each(k, n), ("by attended visit",), weight=0.3),
    Rule("G", "BY number|no|count of M", lambda _, n: Grouped(n), ("by number of seats",), weight=0.25),
    Rule("G", "BY F", lambda _, n: Grouped(n), ("by attended",), weight=0.1),
    Rule("G", "BY D", lambda _, n: Grouped(n), ("by visit date",), weight=0.0),
    Rule("G", "BY U", lambda _, n: Grouped(n), ("by colour",), weight=-0.2),
    Rule("G", "BY kind|kinds|type|types|sort of C", lambda _, n: Grouped(n), ("by type of species",), weight=0.12),
    Rule("G", "whether F", lambda n: Grouped(n), ("whether attended",), weight=0.3),
    Rule(
        "G",
        "BY whether? K",
        lambda _, k: Grouped(m.Test(k.condition)) if isinstance(k, Part) and k.kind in ("state", "number") else None,
        ("by overdue",),
        weight=-0.1,
    ),
    Rule("G", "G OR C", lambda g, _, n: (g, Grouped(n)), ("by species and breed",), weight=0.08),
    Rule("G", "G and|&|+|/ T", lambda g, n: (g, Grouped(n)), ("by species and clinic",), weight=0.05),
    Rule(
        "G", "G and|&|, number|no of M", lambda g, n: (g, Grouped(n)), ("by species and number of seats",), weight=0.3
    ),
    Rule("G", "G , T", lambda g, n: (g, Grouped(n)), ("by species, clinic",), weight=-0.2),
    Rule("G", "G OR F", lambda g, _, n: (g, Grouped(n)), ("by species and attended",), weight=0.05),
    Rule("G", "G OR UNIT", lambda g, _, u: (g, _unit(u)), ("by species and year",), weight=0.1),
    Rule("G", "G OR G", lambda g, _, h: (g, h) if g != h else None, ("by species and by year",), weight=0.05),
    # bands of a number
    Rule(
        "G",
        f"BY E , in? {_WIDE} of N years|year|yrs?",
        lambda _, e, n: _band(e, n),
        ("by age, in bands of 10",),
        weight=0.3,
    ),
    Rule(
        "G",
        f"BY E in? {_WIDE}|band|bin|group|bracket|range|interval of N years|year|yrs?",
        lambda _, e, n: _band(e, n),
        ("by age in bands of 10",),
        weight=0.3,
    ),
    Rule("G", f"E , in? {_WIDE} of N years|year|yrs?", _band, ("age, steps of 10",), weight=0.32),
    Rule(
        "G",
        f"E in? {_WIDE}|band|bin|group|bracket|range|interval of N years|year|yrs?",
        _band,
        ("age in steps of 10",),
        weight=0.3,
    ),
    Rule("G", f"BY N E {_AUTO}", lambda _, n, e: _band(e, n), ("by 10 age bands",), weight=0.3),
    Rule("G", f"in? {_WIDE} of N E", lambda n, e: _band(e, n), ("in bands of 10 age",), weight=0.25),
    Rule("G", f"E {_WIDE} N wide", _band, ("age bands 10 wide",), weight=0.3),
    Rule(
        "G",
        f"BY E in? {_WIDE}|band|bin|group|bracket|range|interval of NU",
        lambda _, e, a: _band(e, a.number) if a.expr == e.expr else None,
        ("by weight band of 5 kg",),
        weight=0.35,
    ),
    Rule(
        "G",
        f"E in? {_WIDE}|band|bin|group|bracket|range|interval of NU",
        lambda e, a: _band(e, a.number) if a.expr == e.expr else None,
        ("weight bands of 5 kg",),
        weight=0.35,
    ),
    *(
        Rule("G", pattern, lambda *p: _edged(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("BY E :? EDGES", "by fee: under 10, 10 to 50, over 50", 0.4),
            (f"BY E {_AUTO} :? EDGES", "by fee bands: under 10, 10 to 50, over 50", 0.45),
            ("BY size|amount|level|length of E :? EDGES", "by size of fee: under 10, 10 to 50, over 50", 0.45),
            ("BY E of T|C :? EDGES", "by weight of the animals: under 10, 10 to 50, over 50", 0.45),
            ("E : EDGES", "fee: under 10, 10 to 50, over 50", 0.35),
            (f"E {_AUTO} : EDGES", "fee bands: under 10, 10 to 50, over 50", 0.4),
            ("E EDGES", "fee under 10, 10 to 50, over 50", 0.3),
        )
    ),
    Rule(
        "G",
        "BY NU of? E?",
        lambda _, a, *e: (
            _band(Measured(a.expr), a.number) if a.number > 0 and all(x.expr == a.expr for x in e) else None
        ),
        ("for every 5 kg of weight",),
        weight=0.2,
    ),
    Rule("G", "BY N of? E", lambda _, n, e: _band(e, n), ("for every 10 euros of fee",), weight=0.12),
    *(
        Rule("G", f"E {pattern}", lambda e, w=wide: _band(e, w), (f"fee{example}",), weight=0.4)
        for word, wide in _TENS
        for pattern, example in (
            # In thousands it is told, and by thousands it is put in bands.
            (f", by{'|in' if wide < 1000 else ''} {word}s", f", by {word}s"),
            (f", by the {word}", f", by the {word}"),
            (f"by{'|in' if wide < 1000 else ''} {word}s", f" by {word}s"),
            (f"by the {word}", f" by the {word}"),
        )
    ),
    *(
        Rule(
            "G",
            f"E to the nearest {word}",
            lambda e, w=wide: _band(e, w),
            (f"fee to the nearest {word}",),
            weight=0.4,
        )
        for word, wide in _TENS
    ),
    Rule(
        "G",
        f"E DISTRIB , in? {_WIDE}|band|bin|group|bracket|range|interval of N years|year|yrs?",
        lambda e, _, n: _band(e, n),
        ("fee distribution, in steps of 50",),
        weight=0.35,
    ),
    Rule(
        "G",
        f"E DISTRIB in|by|with? {_WIDE}|band|bin|group|bracket|range|interval of N years|year|yrs?",
        lambda e, _, n: _band(e, n),
        ("fee distribution in steps of 50",),
        weight=0.35,
    ),
    Rule(
        "G",
        f"DISTRIB of|for? E in|by|with|, {_WIDE}|band|bin|group|bracket|range|interval of N years|year|yrs?",
        lambda _, e, n: _band(e, n),
        ("distribution of fee in steps of 50",),
        weight=0.4,
    ),
    Rule("G", f"BY E {_AUTO}", lambda _, e: _auto(e), ("by fee band",), weight=0.3),
    Rule("G", f"E {_AUTO}", _auto, ("fee bands",), weight=0.12),
    Rule("G", f"in? {_AUTO.replace('|range|', '|')} of E", _auto, ("in bands of fee",), weight=0.15),
    *(
        Rule("BESX", pattern, lambda *p: _added_up(p), (example,), weight=0.7)
        for pattern, example in (
            ("RUNNING DISTRIB of|for|in? E", "cumulative distribution of fee"),
            ("DISTRIB of|for|in? E , RUNNING", "distribution of fee, cumulative"),
            ("ecdf|cdf of|for|in? E", "cdf of fee"),
        )
    ),
    Rule("G", "DISTRIB of|for|in? E", lambda _, e: _auto(e), ("distribution of fee",), weight=0.2),
    Rule("G", "E DISTRIB", lambda e, _: _auto(e), ("fee distribution",), weight=0.2),
    Rule("G", "how is|are|was|were E SPREADOUT", lambda e, _: _auto(e), ("how is fee spread out",), weight=0.3),
    Rule(
        "BESX",
        "how is|are|was|were E SPREADOUT over|across|among|between|by the? C|T",
        lambda e, _, n: (e, Grouped(n)),
        ("how is fee spread over the clinics",),
        weight=0.5,
    ),
    Rule("G", "SPREADOUT E", lambda _, e: _auto(e), ("binned fee",), weight=0.15),
    Rule("G", "E SPREADOUT", lambda e, _: _auto(e), ("fee binned",), weight=0.15),
    Rule("G", "DISTRIB of|for|in? C|F|T", lambda _, n: Grouped(n), ("distribution of species",), weight=0.15),
    Rule("G", "C DISTRIB", lambda n, _: Grouped(n), ("species distribution",), weight=0.15),
    Rule("G", f"{_MADE_UP} of|in the|our|all? C|F", lambda n: Grouped(n), ("breakdown of species",), weight=0.25),
    Rule("NP", f"{_MADE_UP} of|in the|our|all? T", lambda n: n, ("breakdown of visits",), weight=0.1),
    Rule("G", "C breakdown|split|makeup|make-up|mix", lambda n: Grouped(n), ("species breakdown",), weight=0.2),
    Rule("G", "C VERSUS C", lambda a, _, b: (Grouped(a), Grouped(b)) if a != b else None, ("breed vs species",)),
    # those that are so and the rest
    Rule("G", "K OR NEG K", lambda k, _, __, j: yes_or_no(k) if k == j else None, ("cats or not cats",), weight=0.2),
    Rule(
        "G", "K VERSUS NEG K", lambda k, _, __, j: yes_or_no(k) if k == j else None, ("cats vs not cats",), weight=0.25
    ),
    *(
        Rule("G", pattern, lambda *p: _either_answer(p), (example,), weight=0.7)
        for pattern, example in (
            ("F VERSUS|OR NEG F", "attended vs not attended"),
            ("F VERSUS|OR NEG", "attended and not"),
            ("F and|& NEG F", "attended and not attended"),
            ("F and|&|/ NEG ,?", "attended and not"),
            ("F and|&|/ no|other|rest|others", "attended / other"),
            ("yes F and|, no F", "yes attended and no attended"),
        )
    ),
    *(
        Rule("G", pattern, lambda: _at_weekends(m.EventTime()), (example,), weight=0.9)
        for pattern, example in (
            (
                "at|on|in? the? midweek|weekdays|weekday or|vs|versus|and|against at|on? the? weekends|weekend",
                "midweek or at the weekend",
            ),
            (
                "at|on|in? the? weekends|weekend or|vs|versus|and|against at|on? the? midweek|weekdays|weekday",
                "weekend vs weekday",
            ),
        )
    ),
    Rule("G", "K or|versus|vs not", yes_or_no, ("attended or not",), weight=0.3),
    Rule("G", "K VERSUS OTHERS", lambda k, *_: yes_or_no(k), ("cats vs the rest",), weight=0.35),
    *(
        Rule("G", pattern, lambda *p: yes_or_no(next(x for x in p if isinstance(x, Part))), (example,), weight=0.5)
        for pattern, example in (
            ("of|for|in|by|among? K T VERSUS with|to? OTHERS T|C?", "of cat owners against the rest"),
            ("of|for|in|by|among? K VERSUS with|to? the? other|rest T|C", "of cats against other visits"),
            ("of|for|in|by|among? K T VERSUS with|to? the? other|rest T|C", "of cat owners against other owners"),
        )
    ),
    Rule("G", "K OR OTHERS", lambda k, *_: yes_or_no(k), ("cats and the rest",), weight=0.25),
    Rule("G", "K / other|others|rest", yes_or_no, ("cats / other",), weight=0.3),
    Rule("G", "BY K / other|others|rest", lambda _, k: yes_or_no(k), ("by cats / other",), weight=0.3),
    *(
        Rule("G", pattern, lambda *p: yes_or_no(next(x for x in p if isinstance(x, Part))), (example,), weight=weight)
        for pattern, example, weight in (
            (
                "K ,? and|& when|where|if it|they|this|that? is|was|are|were|does|did not",
                "overdue, and when it was not",
                0.5,
            ),
            ("K ,? and|& when|where|if not", "overdue and when not", 0.5),
            ("K VERSUS|OR those|ones WITHOUT|HAVING less|fewer|more|it?", "overdue and those without", 0.5),
            (
                "K VERSUS|OR those|ones that|who|which are|is|were|was|do|did not",
                "overdue and those that are not",
                0.55,
            ),
            ("K VERSUS|OR on|at|in? all? other days|times|ones", "on a Monday and on other days", 0.55),
            ("HAVING OR|VERSUS WITHOUT K", "with and without a fee over 50", 0.65),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _averaged_either_way(p), (example,), weight=0.5)
        for pattern, example in (
            (
                "is|are|was|were E higher|lower|longer|shorter|better|worse|bigger|smaller on|at|in? K than on|at|in? all? other "
                "days|times|hours|ones",
                "is the fee higher on Mondays than on other days",
            ),
        )
    ),
    Rule(
        "G",
        "COUNT T of|for|by|with|from V ,? and|& COUNT of|for|by|with|from? V",
        lambda *p: _so_many_of_each(p),
        ("how many visits for dogs and how many for cats",),
        weight=0.6,
    ),
    Rule("G", "whether or not K", yes_or_no, ("whether or not attended",), weight=0.35),
    Rule("G", "F yes|y or|/|and|vs|versus no|n", lambda n: Grouped(n), ("attended yes/no",), weight=0.35),
    Rule("G", "yes|y or|/|and|vs|versus no|n F", lambda n: Grouped(n), ("yes/no attended",), weight=0.35),
    Rule(
        "G",
        "HAVING C|D|M OR|VERSUS WITHOUT",
        lambda _, n, *__: _known_or_not(n),
        ("with breed and without", "with a rating vs none"),
        weight=0.35,
    ),
    Rule(
        "G",
        "HAVING OR|VERSUS WITHOUT C|D|M",
        lambda _, __, ___, n: _known_or_not(n),
        ("with or without a breed",),
        weight=0.35,
    ),
    Rule(
        "G", "HAVING T OR|VERSUS WITHOUT", lambda _, t, *__: _some_or_none(t), ("with animals vs without",), weight=0.3
    ),
    Rule("G", "HAVING OR|VERSUS WITHOUT T", lambda *p: _some_or_none(p[-1]), ("with or without animals",), weight=0.3),
    Rule(
        "G",
        "E CMP E , or? the? other way round|around",
        lambda e, op, f: _higher_or_not(op, e, f),
        ("fee more than cost, or the other way round",),
        weight=0.4,
    ),
    Rule("G", "whether E CMP E", lambda e, op, f: _higher_or_not(op, e, f), ("whether fee over cost",), weight=0.3),
    *(
        Rule("G", pattern, lambda *p: each_of(*(x for x in p if isinstance(x, Values))), (example,), weight=0.6)
        for pattern, example in (
            ("by V and|& by V", "by dogs and by cats"),
            ("by V , by V ,? and|& by V", "by dogs, by cats and by rabbits"),
        )
    ),
    Rule(
        "G", "for|of|in|at V and|& for|of|in|at V", lambda a, b: each_of(a, b), ("for dogs and for cats",), weight=0.25
    ),
    *(
        Rule("G", pattern, build, (example,), weight=0.6)
        for one, other in (("weekday", "weekend"), ("weekend", "weekday"))
        for pattern, build, example in (
            (
                f"{one}|{one}s T|VS? VERSUS|OR {other}|{other}s",
                lambda *p: (_at_weekends(m.EventTime()), *_of_such(p)),
                f"{one}s vs {other}s",
            ),
            (
                f"{one}|{one}s D VERSUS|OR {other}|{other}s D",
                lambda date, *_: _at_weekends(m.Col(date.key)),
                f"{one} opened vs {other} opened",
            ),
        )
    ),
    # two groups crossed
    Rule(
        "CNTX",
        "CROSS ,|:|of|for T|D BY C|UNIT against|versus|vs|x|by|and|down C|UNIT",
        lambda *p: _table_of(p),
        ("cross table: visits by species against breed", "cross table of visits by species against breed"),
        weight=0.7,
    ),
    Rule(
        "CNTX",
        "CROSS of|for T",
        lambda _, noun: (Counted(noun), Marker("cross")),
        ("cross table of visits",),
        weight=1.0,
    ),
    *(
        Rule("G", pattern, lambda _, a, b: _crossed(a, b), (example,), weight=0.35)
        for pattern, example in (
            ("CROSS of|for? C and|by|x|against|versus|vs|with|, C|T|F", "cross table of species and breed"),
            ("CROSS of|for? T|F and|x|against|versus|vs|with|, C|T|F", "cross table of clinics and species"),
        )
    ),
    Rule(
        "G",
        "C|T|F and|by|x|against|versus|vs|with C|T|F CROSS",
        lambda a, b, _: _crossed(a, b),
        ("species by breed matrix",),
        weight=0.35,
    ),
    *(
        Rule("G", pattern, lambda _, n, u: (Grouped(n), _as_columns(u)), (example,), weight=0.35)
        for pattern, example in (
            ("CROSS of|for? C by|x|and UNIT", "crosstab of species by month"),
            ("CROSS of|for? T x|and UNIT", "crosstab of clinics and months"),
        )
    ),
    Rule("G", "C x|against UNIT CROSS?", lambda *p: (Grouped(p[0]), _unit(p[1])), ("species x month",), weight=0.15),
    Rule(
        "G", "UNIT by|x|against C CROSS?", lambda *p: (_unit(p[0]), Grouped(p[1])), ("month by species",), weight=0.15
    ),
    Rule(
        "G",
        "UNIT by|x|against UNIT CROSS?",
        lambda *p: (_unit(p[0]), _unit(p[1])) if p[0] != p[1] else None,
        ("hour by weekday grid",),
        weight=0.2,
    ),
    Rule("G", "C|F x|against C|F", _crossed, ("species x breed",), weight=0.1),
)
