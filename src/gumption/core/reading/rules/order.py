"""Most and least, first and last, order and limit: top five clinics, the heaviest dog, highest first."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable
from typing import get_args

from gumption.core.reading import lexicon
from gumption.core.reading import meaning as m
from gumption.core.reading.ends import ends_of, over_time, to_the_last
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import (
    Asking,
    Beside,
    Counted,
    Direction,
    Function,
    Grouped,
    Held,
    Listing,
    Measured,
    Noun,
    Part,
    Ratio,
    Sorted,
    Top,
    Values,
    Versus,
    Worked,
    as_counted,
)
from gumption.core.reading.rules.groups import UNITS_OF_TIME, each_of
from gumption.core.reading.times import Span, span_condition


def _number(top: Top, number: float) -> Top | None:
    if top.number is not None or not float(number).is_integer() or not 1 <= number <= 1000:
        return None
    return dataclasses.replace(top, number=int(number))


def _of(top: Top, noun: Noun) -> Top | None:
    return dataclasses.replace(top, noun=noun) if top.noun is None else None


def top_by(top: Top, measured: object) -> Top | None:
    if top.by is not None or top.counts:
        return None
    match measured:
        case Measured(expr=expr):
            return dataclasses.replace(top, by=expr)
        case _:
            return None


def _told_by_that(top: Top, measured: Measured) -> Top | None:
    """The cheapest by price per unit: by that, and not by whichever price the word alone would mean."""
    guessed = top.typical and isinstance(top.by, m.Col) and isinstance(measured.expr, m.Col)
    return top_by(dataclasses.replace(top, by=None) if guessed else top, measured)


def _top(word: str, number: float | None = None) -> Top | None:
    if number is not None and (not float(number).is_integer() or not 1 <= number <= 1000):
        return None
    return Top(word != "bottom", int(number) if number is not None else None)


def _slowest(done: Noun, *, descending: bool) -> Top | None:
    """Who takes longest to settle: how long it is on average until a date of what is done."""
    return Top(descending, by=m.Length("days", m.EventTime(), m.Col(done.key)), typical=True) if done.key else None


def _unit_top(top: Top, unit: m.Unit) -> tuple[Top, Grouped]:
    return top, Grouped(m.PartOf(unit, m.EventTime()))


def _doing_most(*parts: object) -> tuple[Top, Counted] | None:
    """The ten firms that sent us the most parcels: what they do is said by what is counted."""
    nouns = [p for p in parts if isinstance(p, Noun)]
    number = next((p for p in parts if isinstance(p, float)), None)
    if nouns[0] == nouns[1] or nouns[1].unknown or (number is not None and not number.is_integer()):
        return None
    top = Top(parts[-2] == "+", counts=True, number=int(number) if number is not None else None, noun=nouns[0])
    return top, Counted(nouns[1])


def _does(parts: tuple[object, ...]) -> bool:
    """True where a word between what is meant and what there is most of says what is done."""
    word = next(p for p in parts if isinstance(p, str) and p not in ("+", "-")).lower()
    measured = any(v.kind != "time" for v in lexicon.verbs().get(word, ()))
    return word.endswith(("ing", "ed")) or (word in lexicon.verbs() and not measured)


def _most_for_it(parts: tuple[object, ...]) -> tuple[Top, Ratio] | None:
    """The five appeals that raised most per pound they cost."""
    rows, *money = (p for p in parts if isinstance(p, Noun))
    number = next(p for p in parts if isinstance(p, float))
    one, other = (p.key for p in money)
    top = _number(Top("+" in parts, noun=rows), number)
    if top is None or one is None or other is None:
        return None
    return top, Ratio(Measured(m.Col(one)), Measured(m.Col(other)))


def _own_end(rows: Noun, by: Noun, descending: bool) -> Top | None:
    """The one at an end of rows, by a column of their own."""
    own = by.key is not None and by.key.table == rows.table
    return Top(descending, by=m.Col(by.key), noun=rows) if own else None  # type: ignore[arg-type]


def _few_of(top: Top, each: Noun) -> bool:
    """True for so many of a kind that may be looked for in each of another."""
    return top.noun is not None and top.number is not None and top.by is None and top.noun != each


def _doing_most_of(*parts: object) -> Top | None:
    """The breed that gives the most milk: what it does is said by what is measured."""
    top, number = _most_measured(parts)
    if number is None:
        return top
    return dataclasses.replace(top, number=int(number)) if number.is_integer() else None


def _most_measured(parts: tuple[object, ...]) -> tuple[Top, float | None]:
    """The most or least of what is measured of something, and how many of them."""
    noun = next(p for p in parts if isinstance(p, Noun))
    measured = next(p for p in parts if isinstance(p, Measured))
    number = next((p for p in parts if isinstance(p, float)), None)
    return Top("+" in parts, by=measured.expr, noun=noun), number


def _done_most(what: object, sign: str) -> tuple[object, ...]:
    """Booked most: of what is booked there are most."""
    top = Top(sign == "+", counts=True)
    return (top, Counted(what)) if isinstance(what, Noun) else (top,)


def _having_most_of_each(*parts: object) -> tuple[object, ...] | None:
    """The clinic with the most visits per vet: the ratio is what there is most of."""
    nouns = [p for p in parts if isinstance(p, Noun)]
    number = next((p for p in parts if isinstance(p, float)), None)
    if number is not None and not number.is_integer():
        return None
    noun = nouns[0] if nouns else None
    top = Top(parts[-2] == "+", number=int(number) if number is not None else None, noun=noun)
    return top, parts[-1]


def _having_most(parts: tuple[object, ...]) -> Top | None:
    """The clinic with the most seats: there is most of what is measured."""
    top, number = _most_measured(parts)
    return top if number is None else _number(top, number)


def _changed_most_since(*parts: object) -> tuple[object, ...] | None:
    """What rose or fell most from one year to the last that there is."""
    return _changed_most_over(*parts, over=to_the_last)


def _changed_most_over(*parts: object, over: Callable[[Span], Versus | None] = over_time) -> tuple[object, ...] | None:
    """What rose or fell most over a time."""
    span = next(p for p in parts if isinstance(p, Span))
    changed = _changed_most(*(p for p in parts if p is not span))
    versus = over(span)
    if changed is None or versus is None:
        return None
    return *(p for p in changed if not isinstance(p, Versus)), versus


def _changed_most(*parts: object) -> tuple[object, ...] | None:
    """What rose or fell most, from one time to another where both are said."""
    times = [p for p in parts if isinstance(p, Part)]
    sign = next(p for p in parts if p in ("+", "-"))
    top = next((p for p in parts if isinstance(p, Top)), None)
    if top is not None and (top.counts or top.by is not None or not top.descending):
        return None
    named = next((p for p in parts if isinstance(p, (Measured, Worked, Counted, Noun, Values))), None)
    said: object = as_counted(named)
    if isinstance(named, Values):
        said = Part(m.Is(named.column, named.values))
    ends = [p.condition for p in times if isinstance(p.condition, m.Is)]
    of_one_kind = len(ends) == len(times) == 2 and ends[0].column == ends[1].column
    if times and any(p.kind != "time" for p in times) and not of_one_kind:
        return None
    pair = (Versus(times[1].condition, times[0].condition),) if len(times) == 2 and times[0] != times[1] else ()
    if not times and (isinstance(said, (Measured, Worked, Counted)) or said is None or top is not None):
        # From the first year that there is to the last.
        pair = (Versus(m.at_end("max"), m.at_end("min")),)
    if len(times) == 2 and not pair:
        return None
    return Top(sign == "+"), *((said,) if said is not None else ()), *pair, *(("more",) if of_one_kind else ())


def _fastest_growing(*parts: object) -> tuple[object, ...] | None:
    """The fastest growing species: of each, from the first year that there is to the last."""
    noun = next((p for p in parts if isinstance(p, Noun)), None)
    sign = next((p for p in parts if p in ("+", "-")), "+")
    if noun is None or noun.key is None:
        return None
    return Top(sign == "+"), Versus(m.at_end("max"), m.at_end("min")), Grouped(noun)


def _participle_most(number: float, noun: Noun, word: str, sign: str) -> tuple[object, ...] | None:
    """The ten books borrowed most: there are most of what was done to them."""
    top = _number(Top(sign == "+", counts=True, noun=noun), number)
    return (top,) if top is not None and word.lower().endswith(("ed", "en", "ld", "nt")) else None


def _such_most(number: float, such: Values, noun: Noun, sign: str) -> tuple[Top, Part] | None:
    """The five junior members who borrowed most: of those of a kind."""
    top = _number(Top(sign == "+", counts=True, noun=noun), number)
    return (top, Part(m.Is(such.column, such.values), "value")) if top is not None else None


def _by_time(number: float, noun: Noun, last: bool) -> Top | None:
    """The last five visits are the newest."""
    return _number(Top(last, by=m.EventTime(), noun=noun), number)


def _percent_of(number: float, noun: Noun, descending: bool) -> Top | None:
    """The best ten per cent of customers."""
    top = _number(Top(descending, noun=noun, percent=True), number)
    return top if number < 100 else None


def _by_ratio(top: Top, measured: Measured, unit: Measured) -> Top | None:
    """The lowest price per kilo."""
    found = top_by(top, measured)
    return _per_unit(found, unit.expr) if found is not None and not _of_two_tables(measured.expr, unit.expr) else None


def _of_two_tables(one: m.Expr, other: m.Expr) -> bool:
    """True for what stands on no row together."""
    if isinstance(one, m.Given) and isinstance(other, m.Given):
        return one.condition != other.condition
    tables = {k.table for k in m.columns_in(one)}, {k.table for k in m.columns_in(other)}
    return bool(tables[0] and tables[1]) and not tables[0] & tables[1]


def _by_ratio_apart(top: Top, measured: Measured, unit: Measured) -> tuple[Top, Ratio] | None:
    """The highest income per head, where people and income are of different tables."""
    if top.by is not None or top.counts or not _of_two_tables(measured.expr, unit.expr):
        return None
    return top, Ratio(measured, unit)


def _per_unit(top: Top, unit: m.Expr) -> Top | None:
    """The cheapest per kilo."""
    if top.by is None or top.counts or top.by == unit:
        return None
    return dataclasses.replace(top, by=m.Arithmetic("/", top.by, unit))


def _noun_per_unit(top: Top, noun: Noun, unit: Measured) -> tuple[Top, Ratio] | None:
    """The cheapest product per copy."""
    if top.by is None or top.counts or top.by == unit.expr:
        return None
    return dataclasses.replace(top, by=None, noun=noun), Ratio(Measured(top.by), unit)


def _standing(word: str, parts: tuple[object, ...]) -> Top | None:
    """Those at one end of a list, by what is measured."""
    top = _top(word, next((p for p in parts if isinstance(p, float)), None))
    noun = next(p for p in parts if isinstance(p, Noun))
    measured = next(p for p in parts if isinstance(p, Measured))
    return dataclasses.replace(top, noun=noun, by=measured.expr) if top is not None else None


def _standing_in(word: str, parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Those with the fewest or the most of what is counted."""
    number = next((p for p in parts if isinstance(p, float)), None)
    noun, rows = (p for p in parts if isinstance(p, Noun))
    top = _top(word, number)
    return (
        (dataclasses.replace(top, noun=noun, counts=True), Counted(rows)) if top is not None and noun != rows else None
    )


def _of_each(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """The top three breeds by species: three of each."""
    top = next(p for p in parts if isinstance(p, Top))
    units = [p for p in parts if isinstance(p, str) and p in get_args(m.Unit)]
    values = [p for p in parts if isinstance(p, Values)]
    nouns = [p for p in parts if isinstance(p, Noun)]
    if top.noun is not None or top.by is not None or top.percent or (top.number is None and not top.counts):
        return None
    if units:
        return dataclasses.replace(top, noun=nouns[0]), Grouped(m.PartOf(units[0], m.EventTime()))  # type: ignore[arg-type]
    if values:
        each = each_of(*values)
        return (dataclasses.replace(top, noun=nouns[0]), *each) if each is not None else None
    by, of = nouns
    return (dataclasses.replace(top, noun=of), Grouped(by)) if of != by else None


def _first_had(parts: tuple[object, ...], last: bool) -> tuple[object, ...]:
    """The first there was of a kind, by when it was."""
    values = next(p for p in parts if isinstance(p, Values))
    noun = next(p for p in parts if isinstance(p, Noun))
    return Top(last, 1, by=m.EventTime(), noun=noun), Part(m.Is(values.column, values.values))


def _leading_in(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Which clinic led on visits, or on the fee."""
    noun, what = (p for p in parts if isinstance(p, (Noun, Measured)))
    if noun == what or not isinstance(noun, Noun):
        return None
    if isinstance(what, Measured):
        return (Top(True, by=what.expr, noun=noun),)
    return Top(True, counts=True, noun=noun), Counted(what)


def _rows_of_each(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Three rows of each clinic, those with the most first."""
    number = next(p for p in parts if isinstance(p, float))
    nouns = [p for p in parts if isinstance(p, Noun)]
    measured = next((p for p in parts if isinstance(p, Measured)), None)
    top = _number(Top(True, by=measured.expr if measured is not None else None), number)
    if top is None:
        return None
    if len(nouns) == 2:
        return dataclasses.replace(top, noun=nouns[0]), Grouped(nouns[1])
    if measured is None:
        return None
    table = next((k.table for k in m.columns_in(measured.expr)), None)
    return dataclasses.replace(top, noun=Noun(table=table)), Grouped(nouns[0])


def _unit_most(unit: m.Unit, rows: Noun, descending: bool) -> tuple[object, ...]:
    """The quarter with the fewest visits."""
    return Top(descending, counts=True), Counted(rows), Grouped(m.PartOf(unit, m.EventTime()))


def _units_having_most(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """The four years with the most of something."""
    number = next(p for p in parts if isinstance(p, float))
    unit = next(p for p in parts if isinstance(p, str) and p in get_args(m.Unit))
    measured = next((p for p in parts if isinstance(p, Measured)), None)
    noun = next((p for p in parts if isinstance(p, Noun)), None)
    values = next((p for p in parts if isinstance(p, Values)), None)
    top = _number(Top("+" in parts, by=measured.expr if measured else None, counts=measured is None), number)
    if top is None:
        return None
    such = (Part(m.Is(values.column, values.values)),) if values is not None else ()
    return (top, *((Counted(noun),) if noun is not None else ()), *such, Grouped(m.PartOf(unit, m.EventTime())))  # type: ignore[arg-type]


def _of_most(most: tuple[object, ...], noun: Noun) -> tuple[object, ...] | None:
    """The most hired tools: of the tools there are most hires."""
    top, counted = most[0], most[1] if len(most) == 2 else None
    if not isinstance(top, Top) or not isinstance(counted, Counted) or counted.noun == noun:
        return None
    named = _of(top, noun)
    return (named, counted) if named is not None else None


def _first_of_each_kind(noun: Noun, rows: Noun, last: bool) -> tuple[object, ...] | None:
    """Which method had a payment first: the one whose first payment lies before those of the others."""
    if noun == rows or rows.table is None:
        return None
    when = Worked(m.Aggregated("max" if last else "min", m.EventTime(), rows.table))
    return Top(last, 1, noun=noun), when


def _best_of_all_years(descending: bool, parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """The worst February on record: of the Februaries of all years."""
    span = next(p for p in parts if isinstance(p, Span))
    measured = next((p for p in parts if isinstance(p, Measured)), None)
    rows = next((p for p in parts if isinstance(p, Noun)), None)
    if span.part != "month":
        return None
    when = Part(span_condition(span, m.EventTime()), "time")
    what: tuple[object, ...] = (Function("sum"), measured) if measured is not None else ()
    if rows is not None:
        what = (Counted(rows),)
    return (*what, Top(descending), Grouped(m.PartOf("year", m.EventTime())), when)


def _which_of_two(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Are most payments cash or card: how many there are of each."""
    each = each_of(*(p for p in parts if isinstance(p, Values)))
    if each is None:
        return None
    column = next(p for p in parts if isinstance(p, Values)).column
    rows = next((p for p in parts if isinstance(p, Noun)), Noun(table=column.table))
    return Counted(rows), *each, Direction(True)


def _when_most(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Which month we visit most in: the one of most visits."""
    unit = next((p for p in parts if isinstance(p, str) and p in UNITS_OF_TIME), None)
    rows = next(p for p in parts if isinstance(p, Noun))
    least = "-" in parts
    return (Grouped(m.PartOf(unit, m.EventTime())), Counted(rows), Top(not least, 1)) if unit is not None else None


def _doing_most_so(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Who gave the most penalties: those rows that were one are counted, and not all of them."""
    noun, flag = (p for p in parts if isinstance(p, Noun))
    sign = next(p for p in parts if p in ("+", "-"))
    if flag.key is None:
        return None
    so = Part(m.Is(flag.key, (True,)), "flag")
    return Top(sign == "+", counts=True, noun=noun), Counted(Noun(table=flag.key.table)), so


def _growing(sign: str, parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What grew or shrank fastest over a time."""
    noun = next(p for p in parts if isinstance(p, Noun))
    span = next(p for p in parts if isinstance(p, Span))
    versus = ends_of(span) or to_the_last(span) or over_time(span)
    return (Top(sign == "+", noun=noun), versus) if versus is not None else None


def _so_many_with(number: float, noun: Noun, what: Noun | Measured, up: bool) -> tuple[object, ...] | None:
    """The four towns with fewer visits than any other."""
    by = what.expr if isinstance(what, Measured) else None
    top = _number(Top(up, by=by, counts=by is None, noun=noun), number)
    if top is None or what == noun:
        return None
    return (top, Counted(what)) if isinstance(what, Noun) else (top,)


def _commonest(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What there is most of: of one kind, of a pair of kinds, or in each of something."""
    nouns = [p for p in parts if isinstance(p, Noun)]
    rest = tuple(p for p in parts if isinstance(p, Part))
    if len(nouns) == 2 and nouns[1].table is None and not rest:
        pair = nouns[0] != nouns[1]
        return (Grouped(nouns[0]), Grouped(nouns[1]), Top(True, counts=True)) if pair else None
    return (Top(True, counts=True, noun=nouns[0]), *rest, *(Counted(n) for n in nouns[1:2] if n.table is not None))


def _highest_and_whose(sign: str, parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """The highest fee, and at which clinic: the row that has it, with what was asked beside it."""
    measured = next(p for p in parts if isinstance(p, Measured))
    beside = parts[-1]
    tables = {k.table for k in m.columns_in(measured.expr)}
    if len(tables) != 1 or not isinstance(beside, Noun) or (beside.table is None and beside.key is None):
        return None
    rows = Noun(table=tables.pop())
    return Listing(rows, (beside, measured)), Top(sign == "+", 1, by=measured.expr)


def _who_and_when(sign: str, parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Which clinic had the highest fee, and when: the row that has it, whose it was, and its day."""
    measured = next(p for p in parts if isinstance(p, Measured))
    whose = next(p for p in parts if isinstance(p, Noun))
    tables = {k.table for k in m.columns_in(measured.expr)}
    if len(tables) != 1:
        return None
    told = whose, Measured(m.EventTime()), measured
    return Listing(Noun(table=tables.pop()), told), Top(sign == "+", 1, by=measured.expr)


def _until_the_end(top: Top, end: Noun) -> Top | None:
    """The slowest decisions are the rows that took longest until they were decided."""
    ended = isinstance(top.by, m.Length) and end.key is not None and top.by.end == m.Col(end.key)
    return dataclasses.replace(top, noun=Noun(table=end.key.table)) if ended and end.key is not None else None


def _whose_and_when(whose: Noun, top: Top, rows: Noun) -> tuple[object, ...] | None:
    """Which vet had the longest visit, and when: the visit that was, whose it was, and its day."""
    if top.by is None or {k.table for k in m.columns_in(top.by)} != {rows.table}:
        return None
    listed = Listing(rows, (whose, Measured(m.EventTime()), Measured(top.by)))
    return listed, Top(top.descending, 1, by=top.by)


_WAS_IT = "was|did? it|that? happen|be?"
_INSIDE = "within|in|inside their|its|each|every|the own? C|T"


def _placed_within(
    noun: Noun, within: Noun, by: Noun | Measured | Worked | Counted | Ratio
) -> tuple[object, ...] | None:
    """The rank of each reason within each clinic."""
    return (Grouped(within), Grouped(noun), as_counted(by), Beside("rank_within")) if noun != within else None


def _placed(noun: Noun, by: Measured | Worked | Counted | Ratio) -> tuple[object, ...]:
    return Grouped(noun), by, Beside("rank"), Direction(True)


_ORDINALS = (("second", 1), ("2nd", 1), ("third", 2), ("3rd", 2), ("fourth", 3), ("fifth", 4))


def _unsteady(sign: str, measured: Measured, uneven: bool) -> tuple[object, ...]:
    """The most erratic in something: where it varies most."""
    return Top((sign == "+") == uneven), Worked(m.Aggregated("deviation", measured.expr))


def _of_rows(top: Top, noun: Noun, rows: Noun) -> tuple[object, ...] | None:
    """The top reasons for visits are those of most visits."""
    if noun.key is None or noun.key.table != rows.table or top.by is not None or top.number is None:
        return None
    return dataclasses.replace(top, noun=noun, counts=True), rows


_USUALLY = "is|are? usually|typically|generally|normally the?"
_HAD = "had|has|got|gets|made|makes|took|saw a|an|its|their|his|her|the?"
_OF_ALL = "on|ever|so record|far|recorded?"
_MORE_OF = "bigger|biggest|larger|largest|more|most|commoner|commonest|higher|highest|common|frequent"
A_HANDFUL = 5
"""How many a handful is taken to be."""


def _last_but_one(noun: Noun, by: Noun | Measured) -> Top | None:
    """The last but one by something."""
    if isinstance(by, Measured):
        return Top(True, 1, by=by.expr, noun=noun, skip=1)
    return Top(True, 1, by=m.Col(by.key), noun=noun, skip=1) if by.key is not None else None


def _handful(word: str, noun: Noun) -> Top | None:
    top = _top(word, A_HANDFUL)
    return _of(top, noun) if top is not None else None


_BOTH_ENDS = (("top|best|highest|biggest|leading", True), ("bottom|worst|lowest|weakest", False))


def _told_in(top: Top, by: Worked) -> tuple[object, ...] | None:
    """Clinics told by what is worked out for each; in the latest year is when, and not by what."""
    ends = isinstance(by.quantity, m.Aggregated) and by.quantity.function in ("min", "max")
    return None if ends else (top, by)


def _things_by(noun: Noun, by: Worked) -> tuple[object, ...] | None:
    """Things told by what is worked for each: of rows that hold it themselves there is one of it each."""
    if noun.table is not None and {k.table for k in m.columns_in(by.quantity)} == {noun.table}:
        return None
    return Grouped(noun), by, Direction(True)


def _most_so(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Where there are most that are so: the most cancellations."""
    sign = next(p for p in parts if p in ("+", "-"))
    noun = next((p for p in parts if isinstance(p, Noun)), None)
    number = next((p for p in parts if isinstance(p, float)), None)
    top = dataclasses.replace(Top(sign == "+", counts=True), noun=noun)
    if number is not None:
        top = _number(top, number) or top
    states = tuple(p for p in parts if isinstance(p, Part))
    tables = {key.table for key in m.columns_in(tuple(p.condition for p in states))}
    return (top, *states, Counted(Noun(table=tables.pop()))) if len(tables) == 1 else None


def _most_such(parts: tuple[object, ...]) -> tuple[object, ...]:
    """The most open high priority tickets: rows of a kind that are so."""
    sign = next(p for p in parts if p in ("+", "-"))
    rows = next(p for p in parts if isinstance(p, Noun))
    values = next(p for p in parts if isinstance(p, Values))
    state = next(p for p in parts if isinstance(p, Part))
    return Top(sign == "+", counts=True), Counted(rows), state, Part(m.Is(values.column, values.values))


def _by_how_many(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Towns by how many owners they have."""
    one, two = (p for p in parts if isinstance(p, Noun))
    return (Grouped(one), Counted(two), Direction(True)) if one != two else None


RULES = (
    *(
        Rule("BESX", pattern, lambda *p, s=sign: _highest_and_whose(s, p), (example,), weight=0.8)
        for sign, words in (
            ("+", "highest|largest|biggest|maximum|longest|greatest"),
            ("-", "lowest|smallest|minimum|shortest|least"),
        )
        for said in (words.split("|")[0],)
        for pattern, example in (
            (
                f"{words} E ever? charged|paid|recorded|made|seen|taken|had|given|so? and|,? for|at|in|by|on|with|from|of|to? which|what|whose T|C|D",
                f"{said} fee and at which species",
            ),
            (
                f"{words} E ever? charged|paid|recorded|made|seen|taken|had|given|so? and|,? who|which was|is the? T|C|D",
                f"{said} fee and who was the species",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, s=sign: _who_and_when(s, p), (example,), weight=0.9)
        for sign, words in (
            ("+", "highest|largest|biggest|maximum|longest|greatest|worst"),
            ("-", "lowest|smallest|minimum|shortest|least"),
        )
        for pattern, example in (
            (
                f"WHICH C|T had|has|took|saw|got|made|recorded the|our|its? {words} E ,? and? when {_WAS_IT}",
                f"which clinic had the {words.split('|')[0]} fee, and when",
            ),
            (
                f"WHICH C|T had|has|took|saw|got|made|recorded the|our|its? {words} E ,? and? on which|what day|date {_WAS_IT}",
                f"which clinic had the {words.split('|')[0]} fee and on which day",
            ),
        )
    ),
    *(
        Rule(
            "BESX",
            f"WHICH C|T had|has|took|saw|got|made|performed|placed the|our|its? SUP T ,? and? {when} {_WAS_IT}",
            lambda *p: _whose_and_when(p[1], p[2], p[3]),
            (example,),
            weight=0.9,
        )
        for when, example in (
            ("when", "which clinic had the dearest visit, and when"),
            ("on which|what day|date", "which clinic had the dearest visit and on which day"),
        )
    ),
    *(
        Rule(
            "TOPX",
            f"MOST|MOSTADJ {words} in|on|for|by|with? E",
            lambda s, e, u=uneven: _unsteady(s, e, u),
            (f"most {words.split('|')[0]} in fee",),
            weight=0.5,
        )
        for words, uneven in (
            ("erratic|volatile|variable|uneven|unpredictable|unstable|inconsistent", True),
            ("consistent|stable|steady|predictable|even|reliable", False),
        )
    ),
    *(
        Rule("TOPX", pattern, lambda s, e, *p: (Top(s == "+"), Ratio(e, p[-1])), (example,), weight=0.5)
        for pattern, example in (
            ("MOST E per|a T", "most fee per visit"),
            ("MOST E for each|every|one T", "most fee for each visit"),
        )
    ),
    Rule(
        "TOPX",
        "MOST E for|per the? least|fewest|lowest|smallest E",
        lambda s, e, f: (Top(s == "+"), Ratio(e, f)) if e != f else None,
        ("most fee for the least cost",),
        weight=0.5,
    ),
    Rule("TOP", "SUP", lambda t: t, ("heaviest",)),
    *(
        Rule(
            "TOP",
            f"take|takes|took|taking|taken|need|needs|needed the? {words} to|until|till|before be|get|being|is|are? D",
            lambda n, d=descending: _slowest(n, descending=d),
            (f"takes the {words.split('|')[0]} to be closed",),
            weight=0.8,
        )
        for words, descending in (("longest|slowest", True), ("shortest|quickest|fastest|least", False))
    ),
    *(
        Rule(
            "TOP",
            f"{word} N T",
            lambda n, t, d=down: _by_time(n, t, d),
            (f"{word.split('|')[0]} 5 visits",),
            weight=1.1,
        )
        for word, down in (("last|latest|newest", True), ("first|earliest|oldest", False))
    ),
    *(
        Rule("TOP", pattern, lambda *p: _doing_most_of(*p), (example,), weight=0.4)
        for pattern, example in (
            ("N NP E MOST often|frequently?", "five clinics fee most"),
            ("N NP that|who|which? have|has|had? E us|to? MOST", "five clinics have fee us most"),
        )
    ),
    *(
        Rule(
            "TOPX",
            f"{words} K E",
            lambda k, e, d=down: (Top(d, by=e.expr), k) if k.kind == "value" else None,
            (f"{words.split('|')[0]} Dog fee",),
            weight=0.35,
        )
        for words, down in (("highest|largest|biggest|greatest", True), ("lowest|smallest", False))
    ),
    Rule("TOP", "TOP E per|a|for each? E", lambda t, e, u: _by_ratio(t, e, u), ("lowest fee per weight",), weight=0.1),
    Rule(
        "TOPX",
        "TOP E per|a|for each? E",
        lambda t, e, u: _by_ratio_apart(t, e, u),
        ("lowest fee per unit",),
        weight=0.1,
    ),
    Rule(
        "TOP",
        "NP HAVING TOP E per|a|for each? E",
        lambda n, _, t, e, u: _of(b, n) if (b := _by_ratio(t, e, u)) else None,
        ("clinic with the lowest fee per weight",),
        weight=0.45,
    ),
    Rule(
        "ORD",
        "by C|D|M then by? C|D|M",
        lambda a, b: (Sorted(a, False), Sorted(b, False)) if a != b else None,
        ("by species then visit date",),
        weight=0.45,
    ),
    *(
        Rule(
            "TOP",
            f"{word} N %|percent|pct|per cent? of? our|the|all? T|C",
            lambda n, t, d=down: _percent_of(n, t, d),
            (f"{word.split('|')[0]} 10% of owners",),
            weight=1.0,
        )
        for word, down in _BOTH_ENDS
    ),
    *(
        Rule(
            "TOP",
            f"in|within|among|of the? {word} N %|percent|pct|per cent?",
            lambda n, d=down: _number(Top(d, percent=True), n) if n < 100 else None,
            (f"in the {word.split('|')[0]} 10 percent",),
            weight=1.3,
        )
        for word, down in _BOTH_ENDS
    ),
    Rule("TOP", "top|first|leading N", lambda n: _top("top", n), ("top 5",), weight=0.95),
    Rule("TOP", "bottom|last N", lambda n: _top("bottom", n), ("bottom 5",), weight=0.9),
    Rule("TOP", "highest|best|biggest|largest|greatest N", lambda n: _top("top", n), ("best 5",), weight=0.35),
    Rule("TOP", "lowest|worst|smallest|weakest N", lambda n: _top("bottom", n), ("worst 5",), weight=0.35),
    Rule(
        "TOP",
        "N at|from|of the? foot|bottom|tail|end of? the? list|table|ranking|rankings",
        lambda n: _top("bottom", n),
        ("5 at the foot of the list",),
        weight=0.35,
    ),
    Rule(
        "TOP",
        "N at|from the? head|top of? the? list|table|ranking|rankings",
        lambda n: _top("top", n),
        ("5 at the top of the list",),
        weight=0.35,
    ),
    Rule(
        "TOP",
        "at|from the? foot|bottom|tail of the? list|table|ranking|rankings",
        lambda: _top("bottom"),
        ("at the foot of the list",),
        weight=0.9,
    ),
    Rule(
        "TOP",
        "at|from the? head|top of the? list|table|ranking|rankings",
        lambda: _top("top"),
        ("at the top of the list",),
        weight=0.9,
    ),
    *(
        Rule("TOP", pattern, lambda *p, w=word: _standing(w, p), (example,), weight=0.6)
        for words, word in (("lower|low|bottom|tail", "bottom"), ("upper|top|high", "top"))
        for pattern, example in (
            (
                f"N? T|C at|from|near the? {words.replace('|top', '')} end for|on|in|by|of? the? E",
                f"5 clinics at the {words.split('|')[0]} end for fee",
            ),
            (
                f"N? T|C furthest|lagging|trailing|falling|most {'behind' if word == 'bottom' else 'ahead'} on|in|for|by the? E",
                f"5 clinics furthest {'behind' if word == 'bottom' else 'ahead'} in fee",
            ),
        )
    ),
    *(
        Rule(
            "TOP",
            f"{words} N by|on|for|of|in E",
            lambda n, e, u=up: _number(Top(u, by=e.expr), n),
            (example,),
            weight=0.7,
        )
        for words, up, example in (("min|minimum", False, "min 4 by fee"), ("max|maximum", True, "max 4 by fee"))
    ),
    *(
        Rule(
            "TOPX",
            f"{words} T WHICH C",
            lambda t, _, c, u=up: (Top(u, counts=True, noun=c), Counted(t)),
            (example,),
            weight=0.8,
        )
        for words, up, example in (
            ("max|maximum|most", True, "max visits which species"),
            ("min|minimum|fewest|least", False, "min visits which species"),
        )
    ),
    *(
        Rule("TOPX", pattern, lambda c, u=up: (Top(u), Counted(c, distinct=True)), (example,), weight=0.6)
        for words, up in (("greatest|widest|biggest|largest|most|richest", True), ("smallest|least|narrowest", False))
        for pattern, example in (
            (
                f"{words} variety|range|diversity|mix|choice|assortment|selection of C",
                f"{words.split('|')[0]} variety of species",
            ),
        )
    ),
    *(
        Rule("TOPX", pattern, lambda u, t, d=up: _unit_most(u, t, d), (example,), weight=0.7)
        for words, up in (
            ("busiest|best|strongest|biggest|top|fullest", True),
            ("slowest|quietest|worst|weakest|slackest|leanest|poorest", False),
        )
        for pattern, example in (
            (f"{words} UNIT in|by terms|respect|number of T", f"{words.split('|')[0]} quarter in terms of visits"),
        )
    ),
    *(
        Rule(
            "TOPX",
            f"{words} UNIT for the|our|all? T",
            lambda u, t, d=up: _unit_most(u, t, d),
            (f"{words.split('|')[0]} month for visits",),
            weight=0.7,
        )
        for words, up in (("busiest|fullest", True), ("slowest|quietest|slackest", False))
    ),
    *(
        Rule("TOPX", pattern, lambda *p: _units_having_most(p), (example,), weight=0.7)
        for pattern, example in (
            ("N UNIT HAVING MOST T", "4 years with most visits"),
            ("N UNIT HAVING MOST VS T", "4 years with most Dog visits"),
            ("N UNIT HAVING MOST E", "4 years with most units"),
        )
    ),
    *(
        Rule("TOP", pattern, lambda *p: _doing_most_of(*p), (example,), weight=0.6)
        for pattern, example in (
            (
                "N? T|C we|you|they get|got|make|made|take|took|earn|earned|have|had|see|do MOST of? our|the|your|their E from|in|at|with|by|through",
                "5 clinics we get most of our fee from",
            ),
        )
    ),
    Rule(
        "TOP",
        "COUNT N - N NP",
        lambda _, a, b, n: _number(Top(True, noun=n), b) if a == 1 else None,
        ("# 1 - 5 clinics",),
        weight=0.9,
    ),
    *(
        Rule(
            "TOPX",
            f"N? T|C {words} on|in|for|by the? T",
            lambda *p, w=word: _standing_in(w, p),
            (f"5 clinics furthest {'behind' if word == 'bottom' else 'ahead'} in visits",),
            weight=0.6,
        )
        for words, word in (("furthest|lagging|trailing|falling|most behind", "bottom"), ("furthest|most ahead", "top"))
    ),
    *(
        Rule("TOPX", pattern, lambda *p: _of_each(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("C wise|-wise TOP C|T", "species wise top 3 breeds", 0.9),
            ("for|in VS and|& for|in? VS ,? TOP C|T", "for Dog and for Cat, top 3 breeds", 0.9),
            ("UNIT by UNIT ,? TOP C|T", "month by month, top 3 breeds", 0.9),
        )
    ),
    Rule(
        "TOP",
        "T|C beats|beat|outdoes|tops|outperforms|exceeds the? others|rest|all|everyone on|in|for|by E",
        lambda n, e: Top(True, by=e.expr, noun=n),
        ("clinic beats the others on fee",),
        weight=0.6,
    ),
    *(
        Rule("TOPX", pattern, lambda *p, d=last: _first_had(p, d), (example,), weight=0.9)
        for words, last in (("first|earliest", False), ("last|latest", True))
        for pattern, example in (
            (
                f"the? {words} one? that|which? we|they|you|i ever? had|got|saw|took|did|made of|for|with? the? VS T",
                f"the {words.split('|')[0]} one we had of the Dog visits",
            ),
        )
    ),
    *(
        Rule(
            "TOPX",
            f"WHICH C|T {_HAD} T {words}",
            lambda _, c, t, d=last: _first_of_each_kind(c, t, d),
            (example,),
            weight=0.7,
        )
        for words, last, example in (
            ("first", False, "which species had a visit first"),
            ("last|latest|most-recently", True, "which species had a visit last"),
        )
    ),
    *(
        Rule(
            "TOP",
            f"WHICH T D {words}",
            lambda _, t, d, e=last: Top(e, 1, by=m.Col(d.key), noun=t) if d.key and d.key.table == t.table else None,
            (example,),
            weight=0.4,
        )
        for words, last, example in (
            ("first", False, "which visit opened first"),
            ("last", True, "which visit opened last"),
        )
    ),
    *(
        Rule("TOPX", pattern, lambda *p, d=down: _best_of_all_years(d, p), (example,), weight=0.8)
        for words, down in (
            ("best|busiest|biggest|strongest", True),
            ("worst|quietest|weakest|slowest", False),
        )
        for said in (words.split("|")[0],)
        for pattern, example in (
            (f"{words} TIME {_OF_ALL}", f"{said} February on record"),
            (f"{words} TIME {_OF_ALL} for|in|by E|T", f"{said} February on record for fee"),
            (f"{words} TIME for|in|by E|T {_OF_ALL}", f"{said} February for visits on record"),
        )
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p: _which_of_two(p),
            (example,),
            weight=0.7,
        )
        for pattern, example in (
            ("is|are|were|was most of? the|our? T VS or VS", "are most visits Dog or Cat"),
            (f"VS or VS , which one? is|are|was|were the? {_MORE_OF}", "Dog or Cat, which is bigger"),
            (f"which is|are|was|were the? {_MORE_OF} , VS or VS", "which is bigger, Dog or Cat"),
        )
    ),
    *(
        Rule(
            "TOPX",
            "number|no one|1 for|in|by|on T",
            lambda t: (Top(True, counts=True), Counted(t)),
            (example,),
            weight=0.8,
        )
        for example in ("number one for visits",)
    ),
    *(
        Rule("TOP", pattern, lambda *p: _standing("top", p), (example,), weight=0.7)
        for pattern, example in (
            ("in terms of E , which|what N? T|C stand|stands out", "in terms of fee, which 4 visits stand out"),
            ("which|what N? T|C stand|stands out on|for|in|by E", "which 4 visits stand out on fee"),
        )
    ),
    *(
        Rule(
            "TOP",
            pattern,
            lambda t, w=word: _handful(w, t),
            (example,),
            weight=0.9,
        )
        for word, words in (("top", "top|best|leading"), ("bottom", "bottom|worst|lowest"))
        for pattern, example in ((f"{words} handful of? T|C", f"{words.split('|')[0]} handful of clinics"),)
    ),
    *(
        Rule("TOP", pattern, lambda t, b: _last_but_one(t, b), (example,), weight=0.9)
        for pattern, example in (
            ("penultimate|second-to-last|last-but-one T by E|D", "penultimate visit by fee"),
            ("second to last T by E|D", "second to last visit by fee"),
            ("last but one T by E|D", "last but one visit by fee"),
        )
    ),
    Rule(
        "TOP",
        "penultimate|second-to-last|last-but-one T",
        lambda t: Top(True, 1, by=m.EventTime(), noun=t, skip=1),
        ("penultimate visit",),
        weight=0.9,
    ),
    *(
        Rule(
            "TOPX",
            f"WHICH {words} {_USUALLY} TOP",
            lambda _, t, u=unit: (t, Grouped(m.PartOf(u, m.EventTime()))) if t.noun is None else None,
            (f"which {words.split('|')[0]} are usually busiest",),
            weight=0.9,
        )
        for words, unit in (
            ("month|months", "month_of_year"),
            ("day|days|weekday|weekdays", "weekday"),
            ("quarter|quarters", "quarter_of_year"),
        )
    ),
    *(
        Rule("TOPX", pattern, lambda *p: _leading_in(p), (example,), weight=0.6)
        for pattern, example in (
            ("WHICH C|T leads|led|lead|won|wins|topped|tops on|in|for|by? the? T|E", "which species led on visits"),
            (
                "WHICH C|T is|was|are|were ahead|leading|top|first on|in|for|by the? T|E",
                "which species was ahead on visits",
            ),
        )
    ),
    *(
        Rule("TOPX", pattern, lambda *p: _rows_of_each(p), (example,), weight=0.9)
        for pattern, example in (
            (
                "first|top|best|highest N of|in|from|for each|every|per T|C on|by|in|for E",
                "first 3 of each clinic on fee",
            ),
            (
                "N from|of|in|for each|every|per T|C , highest|largest|biggest E first",
                "3 from each clinic, highest fee first",
            ),
            (
                "no|not more than N T per|for|from|in each|every? C , biggest|largest|highest ones|first?",
                "no more than 3 visits per species, biggest ones",
            ),
        )
    ),
    Rule("TOP", "number|no one|1 for|in|by|on", lambda: _top("top"), ("number one for",), weight=0.6),
    Rule("TOP", "N names", lambda n: _top("top", n), ("ten names",), weight=0.3),
    Rule("TOP", "TOP RANK", lambda t, _: t, ("top 3 ranked",), weight=0.02),
    Rule("TOP", "RANK TOP", lambda _, t: t, ("league table top 3",), weight=0.02),
    Rule("TOP", "N SUP", lambda n, t: _number(t, n), ("five heaviest",), weight=0.15),
    Rule("TOP", "SUP N", lambda t, n: _number(t, n), ("heaviest five",), weight=0.15),
    Rule("TOP", "N MOST", lambda n, s: _number(Top(s == "+"), n), ("five most",), weight=0.0),
    Rule("TOP", "MOST N", lambda s, n: _number(Top(s == "+"), n), ("most 5",), weight=-0.1),
    Rule("TOP", "N HAVING TOP", lambda n, _, t: _number(t, n), ("5 with the highest fee",), weight=0.3),
    Rule("TOP", "top NP", lambda n: Top(True, noun=n), ("top clinic",), weight=0.5),
    Rule(
        "TOPX", "TOP C for|of T", lambda t, c, rows: _of_rows(t, c, rows), ("top 3 countries for visits",), weight=0.45
    ),
    Rule("TOP", "TOP D", lambda t, d: _until_the_end(t, d), ("slowest closed",), weight=0.12),
    Rule("TOP", "TOP NP", _of, ("heaviest animal", "top 5 clinics"), weight=0.1),
    Rule(
        "TOP",
        "N NP HAVING TOP",
        lambda n, p, _, t: _number(u, n) if (u := _of(t, p)) else None,
        ("five clinics with the highest fee",),
        weight=0.2,
    ),
    Rule("TOP", "TOP E", lambda t, e: top_by(t, e), ("highest fee",), weight=0.08),
    Rule(
        "TOP",
        "TOP by|in|for|on|of|going|measured by? E",
        lambda t, e: _told_by_that(t, e),
        ("top 5 clinics by fee",),
        weight=0.2,
    ),
    Rule(
        "TOP",
        "TOP amount|number|value|level of E",
        lambda t, e: top_by(t, e),
        ("highest number of units",),
        weight=0.15,
    ),
    Rule("TOP", "OWED us|me? MOST", lambda e, s: Top(s == "+", by=e.expr), ("owes us most",), weight=0.15),
    Rule("TOP", "OWED us|me? MOST M|T", lambda e, s, _: Top(s == "+", by=e.expr), ("owes the most fees",), weight=0.2),
    Rule("TOP", "MOST E", lambda s, e: Top(s == "+", by=e.expr), ("most units",), weight=0.2),
    Rule("TOPX", "MOST NP", lambda s, n: (Top(s == "+", counts=True), Counted(n)), ("most visits",), weight=0.1),
    Rule(
        "TOPX",
        "WHO DO MOST C",
        lambda _, __, s, c: (Asking("who"), Top(s == "+", counts=True), Counted(c)),
        ("who saw the most species",),
        weight=0.12,
    ),
    # What is done is called as its date is: who issued the most fines, opened the most accounts.
    Rule(
        "TOPX",
        "D MOST T",
        lambda d, s, t: (
            (Top(s == "+", counts=True), Counted(t)) if d.key is not None and d.key.table == t.table else None
        ),
        ("opened most visits",),
        weight=0.05,
    ),
    Rule(
        "TOPX",
        "N NP HAVING MOST NP",
        lambda n, p, _, s, q: (dataclasses.replace(Top(s == "+", counts=True), number=int(n), noun=p), Counted(q)),
        ("five clinics with the most visits",),
        weight=0.3,
    ),
    Rule(
        "TOPX",
        "NP HAVING MOST NP",
        lambda p, _, s, q: (Top(s == "+", counts=True, noun=p), Counted(q)),
        ("clinic with the most visits",),
        weight=0.2,
    ),
    Rule(
        "TOPX",
        "WHO DOER MOST T",
        lambda _, d, s, t: (Top(s == "+", counts=True, noun=d), Counted(t)),
        ("who owned most visits",),
        weight=0.4,
    ),
    Rule(
        "TOP",
        "WHO DOER MOST E",
        lambda _, d, s, e: Top(s == "+", by=e.expr, noun=d),
        ("who owned most fee",),
        weight=0.4,
    ),
    *(
        Rule("TOPX", pattern, _having_most_of_each, (example,), weight=weight)
        for pattern, example, weight in (
            ("N NP HAVING|DO MOST RATIO", "five clinics with the most visits per owner", 0.45),
            ("NP HAVING|DO MOST RATIO", "clinic with the most visits per owner", 0.35),
            ("MOST RATIO", "most visits per owner", 0.1),
        )
    ),
    *(
        Rule("TOPX", pattern, lambda *p: _by_how_many(p), (example,), weight=0.5)
        for pattern, example in (
            ("T|C by|with COUNT T they|each have|has|had|got|own", "clinics by how many visits they have"),
            ("T|C in|by order of COUNT T they|each? have|has|had|got", "clinics in order of how many visits they have"),
        )
    ),
    *(
        Rule("TOPX", pattern, lambda *p: _most_such(p), (example,), weight=0.6)
        for pattern, example in (
            ("MOST STATE VS T", "most overdue Dog visits"),
            ("MOST VS STATE T", "most Dog overdue visits"),
        )
    ),
    *(
        Rule("TOPX", pattern, lambda *p: _most_so(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("MOST STATE", "most overdue", 0.35),
            ("MOST VS STATE", "most Dog overdue", 0.3),
            ("NP HAVING MOST STATE", "clinics with the most overdue", 0.45),
            ("N NP HAVING MOST STATE", "3 clinics with the most overdue", 0.45),
        )
    ),
    Rule(
        "TOPX",
        "MOST Q",
        lambda s, q: (Top(s == "+"), q) if isinstance(q, Worked) else None,
        ("most average fee",),
        weight=0.2,
    ),
    *(
        Rule(
            "TOP",
            f"{pattern} HAVING MOST E",
            lambda *p: _having_most(p),
            (example,),
            weight=0.2,
        )
        for pattern, example in (("N NP", "five clinics with the most units"), ("NP", "clinic with the most units"))
    ),
    Rule(
        "TOPX",
        "MOST VS",
        lambda s, v: (Top(s == "+", counts=True), Counted(Noun(table=v.column.table)), Part(m.Is(v.column, v.values))),
        ("most dogs",),
        weight=0.02,
    ),
    Rule(
        "TOPX",
        "MOST K NP",
        lambda s, k, n: (Top(s == "+", counts=True), Counted(n), k) if k.kind != "time" else None,
        ("most overdue visits",),
        weight=0.2,
    ),
    Rule("TOPX", "TOP by|in|on|for|of CNT", lambda t, c: (t, c), ("top 5 clinics by number of visits",), weight=0.25),
    Rule(
        "TOPX",
        "TOP C by T",
        lambda t, c, rows: (
            (dataclasses.replace(t, noun=c), Counted(rows))
            if c.key is not None and c.key.table == rows.table and t.noun is None
            else None
        ),
        ("top 5 country by visits",),
        weight=0.4,
    ),
    Rule(
        "TOPX",
        "TOP T by T",
        lambda t, one, rows: (dataclasses.replace(t, noun=one), Counted(rows)) if t.noun is None and t.counts else None,
        ("3 most popular animals by visits",),
        weight=0.4,
    ),
    Rule(
        "TOP",
        "TOP EARNER",
        lambda t, e: dataclasses.replace(t, by=e.by, noun=e.noun) if t.by is None and t.noun is None else None,
        ("top 3 earners",),
        weight=0.3,
    ),
    Rule("TOPX", "peak UNIT", lambda u: _unit_top(Top(True, counts=True), u), ("peak weekday",), weight=0.4),
    Rule("TOPX", "TOP by Q", lambda t, q: (t, q), ("top 5 clinics by average fee",), weight=0.25),
    Rule("TOPX", "TOP in|on|for Q", _told_in, ("top 5 clinics on average fee",), weight=0.25),
    Rule(
        "TOPX",
        "TOP by|in|on|for SHR",
        lambda t, s: (t, s) if s.condition is not None else None,
        ("top 5 clinics by share of dogs",),
        weight=0.27,
    ),
    Rule("TOPX", "TOP by|in|on|for|with RATIO", lambda t, r: (t, r), ("top 5 clinics by fee per visit",), weight=0.27),
    Rule(
        "BESX",
        "RANK T|C by|on|in RATIO",
        lambda _, n, r: _placed(n, r),
        ("rank the clinics by fee per visit",),
        weight=0.33,
    ),
    *(
        Rule("BESX", pattern, lambda *p: _when_most(p), (example,), weight=0.35)
        for pattern, example in (
            (
                "in? WHICH UNIT do|did|does we|they|you|people T MOST|least often? in|on?",
                "which month do we visit most in",
            ),
            ("WHICH UNIT has|had|have|sees|saw the? MOST T", "which month has the most visits"),
        )
    ),
    Rule(
        "TOPX",
        "WHICH? NP that|who|which? DO us|we|me|out|in? MOST F",
        lambda *p: _doing_most_so(p),
        ("clinic gave the most attended",),
        weight=0.35,
    ),
    *(
        Rule(
            "TOPX",
            f"{counted} NP that|who|which? DO us|we|me|out|in? MOST NP",
            lambda *p: _doing_most(*p),
            (example,),
            weight=weight,
        )
        for counted, example, weight in (
            ("N", "five clinics that sent us the most visits", 0.3),
            ("WHICH?", "clinic sent most visits", 0.15),
        )
    ),
    *(
        Rule(
            "TOPX",
            f"{counted} NP that|who|which? W us|we|me|with|for|to|in? MOST NP",
            lambda *p: _doing_most(*p) if _does(p) else None,
            (example,),
            weight=weight,
        )
        for counted, example, weight in (
            ("N", "five clinics raising the most visits", 0.45),
            ("WHICH?", "clinic raising the most visits", 0.3),
        )
    ),
    *(
        Rule(
            "TOPX",
            f"N NP HAVING {word} {what}",
            lambda n, p, _, e, u=up: _so_many_with(n, p, e, u),
            (f"five clinics with {word.split('|')[0]} {said}",),
            weight=0.12,
        )
        for word, up in (("more|bigger|higher|larger|greater", True), ("less|fewer|lower|smaller", False))
        for what, said in (("T", "visits"), ("E", "fee"))
    ),
    *(
        Rule(
            "TOPX",
            pattern,
            lambda e: (
                Top(True, by=e.expr) if isinstance(e, Measured) else Top(True, counts=True),
                *(() if isinstance(e, Measured) else (Counted(e),)),
            ),
            (example,),
            weight=0.25,
        )
        for pattern, example in (
            ("is|are|was|were ahead|leading|top on|in|for|by|of T|E", "is ahead on visits"),
            ("leads|lead|led on|in|for|by T|E", "leads on fee"),
        )
    ),
    Rule(
        "TOP",
        "N NP that? stand|stands|stood out",
        lambda n, p: _number(Top(True, noun=p), n),
        ("five clinics stand out",),
        weight=0.3,
    ),
    *(
        Rule("TOPX", pattern, lambda *p: _commonest(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("the? main|principal|predominant|dominant|usual|favourite|favorite C", "the main species", 0.35),
            ("the? typical C of|for|among K|T", "the typical species of French visits", 0.5),
            ("WHICH C is|are typical|usual|normal for|of|among K|T", "which species is typical for France", 0.6),
            (
                "WHICH C would you|we|one normally|usually|typically expect for|of|from a|an? T",
                "what species would you normally expect for an animal",
                0.8,
            ),
            ("C : no|number 1 by|for frequency|count", "species: no. 1 by frequency", 0.8),
            (
                "the? C and|/|& C pairing|combination|pair|combo we|you|they see|get|have|had most",
                "the species and breed pairing we see most",
                0.8,
            ),
        )
    ),
    Rule(
        "TOPX",
        "the? favourite|favorite|usual|main C of|for|per|in each|every T|C",
        lambda c, t: (Top(True, counts=True, noun=c), Grouped(t)) if c != t else None,
        ("the favourite species of each clinic",),
        weight=0.6,
    ),
    *(
        Rule(
            "TOP",
            f"{word} common|frequent|popular|used N C|T",
            lambda n, c, d=down: _number(Top(d, counts=True, noun=c), n),
            (f"{word} common 5 species",),
            weight=0.6,
        )
        for word, down in (("most", True), ("least", False))
    ),
    *(
        Rule(
            "TOP",
            f"{words} C",
            lambda c, d=down: Top(d, counts=True, noun=c),
            (f"{words.split('|')[0]} species",),
            weight=0.5,
        )
        for words, down in (("prevailing|predominant|dominant|favourite|favorite", True), ("rarest|least-used", False))
    ),
    *(
        Rule(
            "TOPX",
            f"the? {words} T TIME",
            lambda t, k, d=down: (
                (Top(d, by=m.EventTime(), noun=t), Part(span_condition(k, m.EventTime()), "time"))
                if t.table is not None
                else None
            ),
            (f"{words.split('|')[0]} visit before 5 January 2025",),
            weight=0.3,
        )
        for words, down in (("first|earliest", False), ("last|latest|newest", True))
    ),
    *(
        Rule(
            "TOPX",
            f"the {word} T of TIME",
            lambda t, k, d=down: (Top(d, by=m.EventTime(), noun=t), Part(span_condition(k, m.EventTime()), "time")),
            (f"the {word} visit of 2025",),
            weight=0.5,
        )
        for word, down in (("first", False), ("last", True))
    ),
    Rule(
        "TOPX",
        "mode|modal value|values? of? C",
        lambda n: (Grouped(n), Top(True, counts=True)),
        ("mode of species",),
        weight=0.35,
    ),
    Rule(
        "TOPX",
        "mode|modal value|values? of? E",
        lambda e: (Grouped(e.expr), Top(True, counts=True)),
        ("mode of fee",),
        weight=0.3,
    ),
    *(
        Rule("TOPX", pattern, _changed_most_since, (example,), weight=0.5)
        for pattern, example in (
            ("SUP|STEEP CHG in|of? E|Q|CNT|NP|VS since TIME", "biggest drop in fee since 2024"),
            ("GREW by? MOST|RAPID since TIME", "grew the most since 2024"),
            ("E|Q|NP GREW by? MOST|RAPID since TIME", "fee grew the most since 2024"),
            ("GREW MOST in|of? E|Q|T since TIME", "gained the most fee since 2024"),
        )
    ),
    *(
        Rule("TOPX", pattern, _changed_most_over, (example,), weight=0.5)
        for pattern, example in (
            (
                "SUP|STEEP CHG in|of? E|Q|CNT|NP|VS between|from|over|in|during? TIME",
                "biggest drop in fee over the last year",
            ),
            ("GREW by? MOST|RAPID between|from|over|in|during? TIME", "fell the most last year"),
            ("E|Q|NP|VS GREW by? MOST|RAPID between|from|over|in|during? TIME", "fee fell the most last year"),
            ("GREW MOST in|of? E|Q|T between|from|over|in|during? TIME", "gained the most fee last year"),
        )
    ),
    Rule("TOPX", "RAPID GREW C", _fastest_growing, ("fastest growing species",), weight=0.9),
    *(
        Rule("TOPX", pattern, _changed_most, (example,), weight=weight)
        for pattern, example, weight in (
            ("GREW by? MOST|RAPID", "grew the most", 0.1),
            ("E|Q GREW by? MOST|RAPID", "fee grew the most", 0.2),
            ("T GREW by? MOST|RAPID", "visits grew the most", 0.2),
            ("GREW MOST in|of? E|Q", "gained the most fee", 0.35),
            ("GREW its|their|his|her|the E|Q by? the? MOST", "cut their fee the most", 0.3),
            (
                "GREW its|their|his|her|the E|Q by? the? MOST between|from K and|to K",
                "cut their fee most between 2024 and 2025",
                0.45,
            ),
            ("SUP|STEEP CHG in|of? E|Q|CNT|NP|VS", "biggest increase in fee", 0.25),
            ("E|Q|NP GREW by? MOST|RAPID between|from K and|to K", "fee grew the most between 2024 and 2025", 0.4),
            ("GREW by? MOST|RAPID between|from K and|to K", "grew the most between 2024 and 2025", 0.35),
            (
                "GREW by? MOST|RAPID between|from K and|to K in|by|on|for|of E|Q",
                "grew the most between 2024 and 2025 in fee",
                0.6,
            ),
            (
                "GREW by? MOST|RAPID in|at|on|for VS|E between|from K and|to K",
                "grew the most in dogs between 2024 and 2025",
                0.5,
            ),
            ("GREW MOST in|of? E|Q between|from K and|to K", "gained the most fee from 2024 to 2025", 0.45),
            (
                "SUP|STEEP CHG in|of? E|Q|CNT|NP|VS between|from K and|to K",
                "biggest drop in fee from 2024 to 2025",
                0.45,
            ),
        )
    ),
    *(
        Rule(
            "TOPX",
            f"fastest|slowest|quickest {word} {what}",
            lambda *p, s=sign: _growing(s, p),
            (example,),
            weight=0.45,
        )
        for word, sign, what, example in (
            ("growing|rising", "+", "NP between|from|over|since? TIME", "fastest growing clinics from 2024 to 2025"),
            (
                "falling|shrinking|declining",
                "-",
                "NP between|from|over|since? TIME",
                "fastest shrinking clinics from 2024 to 2025",
            ),
        )
    ),
    *(
        Rule(
            "TOP",
            f"{counted} NP that|who|which? DO us|we|me|out|in? MOST E",
            lambda *p: _doing_most_of(*p),
            (example,),
            weight=weight,
        )
        for counted, example, weight in (
            ("N", "five clinics that sent us the most fee", 0.3),
            ("WHICH?", "clinic sent most fee", 0.15),
        )
    ),
    Rule(
        "TOP",
        "N NP that|who|which W us|we|me? MOST",
        lambda n, p, _, s: _number(Top(s == "+", noun=p), n),
        ("five clinics that earned most",),
        weight=0.2,
    ),
    Rule(
        "TOP",
        "SUP per T",
        lambda t, _: dataclasses.replace(t, typical=True) if t.by is not None and t.typical else None,
        ("most expensive per visit",),
        weight=0.2,
    ),
    Rule(
        "TOP",
        "SUP per E|TOLD",
        lambda t, e: _per_unit(t, e.expr if isinstance(e, Measured) else e[1]),
        ("most expensive per seat",),
        weight=0.27,
    ),
    Rule(
        "TOPX",
        "SUP NP per E",
        lambda t, n, e: _noun_per_unit(t, n, e),
        ("most expensive clinic per seat",),
        weight=0.3,
    ),
    Rule(
        "TOPX",
        "MV in|up|out|off? MOST per E|T",
        lambda n, s, e: (Top(s == "+"), Ratio(Measured(m.Col(n.key)), e)),
        ("paid most per visit",),
        weight=0.35,
    ),
    Rule(
        "TOPX",
        "SUP RATIO",
        lambda t, r: (t, r) if t.by is None and not t.counts else None,
        ("highest fee per visit",),
        weight=0.2,
    ),
    Rule("TOP", "SUP at|in E", lambda t, e: top_by(t, e) if t.by is None else None, ("best at fee",), weight=0.2),
    Rule("TOP", "MOSTC", lambda s: Top(s == "+", counts=True), ("most often",)),
    Rule("TOP", "MOST", lambda s: Top(s == "+"), ("most",), weight=-0.05),
    *(
        Rule(
            "TOP",
            f"came|come|comes|finished|placed {words}",
            lambda up=up: Top(up),
            (f"came {words.split('|')[0]}",),
            weight=0.8,
        )
        for words, up in (("top|first|highest", True), ("bottom|last|lowest", False))
    ),
    Rule(
        "TOPX",
        "N NP MOST NP",
        lambda n, p, s, q: (dataclasses.replace(Top(s == "+", counts=True), number=int(n), noun=p), Counted(q)),
        ("five clinics most visits",),
        weight=0.2,
    ),
    *(
        Rule("TOPX", pattern, lambda *p: _done_most(p[-2], p[-1]), (example,), weight=weight)
        for pattern, example, weight in (
            ("is|are|was|were|gets|got|been T MOST", "is visited most", 0.3),
            ("is|are|was|were|gets|got|been DO MOST", "is picked most", 0.3),
        )
    ),
    Rule(
        "TOPX",
        "N TOPX",
        lambda n, t: (u, *t[1:]) if isinstance(t[0], Top) and (u := _number(t[0], n)) else None,
        ("three most visited",),
        weight=0.1,
    ),
    Rule(
        "TOPX",
        "TOPX NP",
        lambda t, n: _of_most(t, n),
        ("most visited clinics",),
        weight=0.1,
    ),
    Rule(
        "TOPX",
        "STATE MOST NP",
        lambda k, s, n: (Top(s == "+", counts=True), Counted(n), k),
        ("overdue the most visits",),
        weight=0.2,
    ),
    Rule(
        "TOPX",
        "N NP W MOST",
        lambda n, p, w, s: _participle_most(n, p, w, s),
        ("five clinics visited most",),
        weight=0.2,
    ),
    Rule(
        "TOPX",
        "N VS NP W|VERB|MV|DONE? MOST",
        lambda n, v, p, *rest: _such_most(n, v, p, rest[-1]),
        ("five dogs animals visited most",),
        weight=0.35,
    ),
    Rule(
        "TOP",
        "T MV MOST",
        lambda t, mv, s: _own_end(t, mv, s == "+"),
        ("visits paid most",),
        weight=0.15,
    ),
    Rule(
        "TOPX",
        "TOP each|every T|C W to|from|at|in|with|for?",
        lambda t, n, *_: (dataclasses.replace(t, counts=True), Grouped(n)) if _few_of(t, n) else None,
        ("top 3 clinics each species visits",),
        weight=0.5,
    ),
    Rule(
        "TOPX",
        "N NP that|which? MV MOST per|for each|every? pound|euro|dollar|unit that? they|it|we? MV",
        lambda *p: _most_for_it(p),
        ("five clinics that paid most per pound they paid",),
        weight=0.6,
    ),
    *(
        Rule(
            "TOP",
            f"T that|which|who D {words}",
            lambda t, d, down=down: _own_end(t, d, down),
            (f"visits that closed {words.split('|')[0]}",),
            weight=0.5,
        )
        for words, down in (("last|latest", True), ("first|earliest", False))
    ),
    Rule(
        "TOP",
        "N NP that|who|which? DO MOST",
        lambda n, p, _, s: _number(Top(s == "+", counts=True, noun=p), n),
        ("five clinics that visit most",),
        weight=0.3,
    ),
    Rule("TOPX", "STATE MOST", lambda k, s: (Top(s == "+", counts=True), k), ("overdue most",), weight=0.2),
    Rule(
        "TOPX",
        "TOP decade",
        lambda t: (t, Grouped(m.Band(m.PartOf("year", m.EventTime()), 10.0))) if t.noun is None else None,
        ("busiest decade",),
        weight=0.3,
    ),
    Rule("TOPX", "TOP UNIT", _unit_top, ("busiest weekday",), weight=0.15),
    *(
        Rule("TOP", f"{word} TOP", lambda t, s=skip: dataclasses.replace(t, skip=s), (f"{word} heaviest",), weight=0.2)
        for word, skip in _ORDINALS
    ),
    *(
        Rule(
            "BESX",
            f"RANK T|C {middle} by|on|in their|its|the? {what}",
            lambda *p: (
                *_placed(next(x for x in p if isinstance(x, Noun)), p[-1]),
                *(x for x in p if isinstance(x, (Part, Held))),
            ),
            (example,),
            weight=0.35,
        )
        for middle, what, example in (
            ("K|H", "Q", "rank the clinics with more than 2 visits by their average fee"),
            ("K|H", "E", "rank the clinics in France by fee"),
            ("K|H", "CNT", "rank the clinics in France by number of visits"),
        )
    ),
    *(
        Rule("BESX", f"RANK by|on|in|for {what}", lambda _, q: (q, Beside("rank")), (example,), weight=0.12)
        for what, example in (("Q", "rank by average fee"), ("CNT", "rank by number of visits"), ("E", "rank by fee"))
    ),
    *(
        Rule(
            "BESX",
            f"RANK of? each|every|all? C|T by|on {what} within|in|inside|per|for each|every? C|T",
            lambda _, n, by, w: _placed_within(n, w, by),
            (f"rank each species by {said} within clinic",),
            weight=0.4,
        )
        for what, said in (("E", "fee"), ("Q", "average fee"), ("CNT", "number of visits"), ("T", "visits"))
    ),
    *(
        Rule(
            "BESX",
            f"RANK of? each|every|all? C|T within|in|inside|per|for each|every|their|its? C|T by|on {what}",
            lambda _, n, w, by: _placed_within(n, w, by),
            (f"rank species within each clinic by {said}",),
            weight=0.4,
        )
        for what, said in (("E", "fee"), ("Q", "average fee"), ("CNT", "number of visits"), ("T", "visits"))
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p: _placed_within(next(x for x in p if isinstance(x, Noun)), p[-1], p[-2]),
            (example,),
            weight=weight,
        )
        for what, said in (("E", "fee"), ("Q", "average fee"), ("CNT", "number of visits"), ("T", "visits"))
        for pattern, example, weight in (
            (f"C|T ORDERBY|RANK by|on? {what} {_INSIDE}", f"species ranked by {said} within each clinic", 0.7),
            (f"RANK of? the? C|T by|on {what} {_INSIDE}", f"rank the species by {said} within their clinic", 0.6),
        )
    ),
    *(
        Rule(
            "BESX",
            f"RANK of the? T|C ,? by|on|in|for? {what}",
            lambda *p: _placed(p[1], p[-1]),
            (example,),
            weight=0.45,
        )
        for what, example in (
            ("E", "league table of the clinics on fee"),
            ("Q", "league table of clinics, average fee"),
            ("CNT", "ranking of clinics by number of visits"),
        )
    ),
    Rule("BESX", "RANK T|C by|on|in E", lambda _, n, e: _placed(n, e), ("rank the clinics by fee",), weight=0.3),
    Rule(
        "BESX", "RANK T|C by|on|in Q", lambda _, n, q: _placed(n, q), ("rank the clinics by average fee",), weight=0.3
    ),
    Rule(
        "BESX",
        "RANK T|C by|on|in RATED|SHR|RATIO",
        lambda _, n, q: _placed(n, q),
        ("rank the clinics by share of dogs",),
        weight=0.4,
    ),
    Rule(
        "BESX",
        "RANK T|C by|on|in CNT",
        lambda _, n, c: _placed(n, c),
        ("rank the clinics by number of visits",),
        weight=0.3,
    ),
    *(
        Rule(
            "BESX",
            f"C|T by|in|on order|terms of? {what}",
            lambda n, by: (Grouped(n), by, Direction(True)),
            (example,),
            weight=0.2,
        )
        for what, example in (("Q", "clinics by order of average fee"), ("CNT", "clinics in terms of number of visits"))
    ),
    Rule("BESX", "C|T by Q", _things_by, ("clinics by average fee",), weight=0.12),
    Rule("Q", "by|on AGG E", lambda f, e: Worked(m.Aggregated(f, e.expr)), ("by average fee",), weight=0.0),
)
