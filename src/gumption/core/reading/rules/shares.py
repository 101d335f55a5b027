"""Shares, running totals, changes and ranks."""

from __future__ import annotations

from collections.abc import Sequence
from typing import get_args

from gumption.core.model.wish import ChartWish
from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import (
    Beside,
    Charted,
    Counted,
    Grouped,
    Measured,
    Noun,
    Part,
    Rated,
    Shared,
    Top,
    Values,
    Worked,
    as_counted,
    said_of_each,
)
from gumption.core.reading.rules.groups import UNITS_OF_TIME, each_of
from gumption.core.reading.times import MONTHS_IN, Span, span_condition
from gumption.core.reading.vocabulary import name_parts


def _of(of: Noun | Measured) -> Shared:
    return Shared(of)


def _met(shared: Shared, part: Part) -> Shared | None:
    if not isinstance(part, Part) or shared.condition is not None:
        return None
    if part.kind == "time" and not (isinstance(part.condition, m.Within) and isinstance(part.condition.time, m.Col)):
        # Only a time of its own, such as that they left in 2024, tells some of them from the others.
        return None
    return Shared(shared.of, part.condition)


def _such_of_such(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Visits that are so as a share of all visits, or of those that are something else."""
    so, *those = (p for p in parts if isinstance(p, Part))
    what, *again = (p for p in parts if isinstance(p, (Noun, Measured)))
    if so.kind in ("time", "related") or any(isinstance(n, Noun) and n.key is not None and n != what for n in again):
        return None
    # Emergency jobs as a share of the total cost are of the cost.
    of = next((n for n in (what, *again) if isinstance(n, Measured)), what)
    return (Shared(of, so.condition), *those)


def _part_of(parts: tuple[object, ...]) -> Worked | None:
    """What one sum is of another in per cent: of the costs those of parts."""
    whole, part = (p for p in parts if isinstance(p, Measured))
    if whole.expr == part.expr:
        return None
    one, all_ = (m.in_all(p.expr) for p in (part, whole))
    return Worked(m.Combined("/", one, all_, True))


def _so_common(*parts: object) -> tuple[object, ...] | None:
    """How common something is: the share of the rows that are so."""
    part = next((p for p in parts if isinstance(p, Part)), None)
    rows = next((p for p in parts if isinstance(p, Noun)), None)
    if part is None or rows is None or part.kind == "time":
        return None
    return (Shared(rows, part.condition),)


def _come_to_by_each(parts: tuple[object, ...]) -> tuple[object, ...]:
    """What it had come to by the end of each month."""
    unit = next(p for p in parts if isinstance(p, str) and p in get_args(m.Unit))
    what = as_counted(next(p for p in parts if isinstance(p, (Measured, Counted, Noun, Worked))))
    return what, Grouped(m.PartOf(unit, m.EventTime())), Beside("running")  # type: ignore[arg-type]


_HAD_BY_THEN = "had|did|have we|they|you|i|there? had|made|taken|sold|seen|got|been|done|have by the|that|then? end|close|finish? of? it|that|then|them?"
_PILING = "piling|building|adding|pile|build|add|accumulating|accumulate|mounting|mount|stacking|growing up"


def _one_in(*parts: object) -> Worked | None:
    """One in how many is so: how many there are for each that is."""
    part = next((p for p in parts if isinstance(p, Part)), None)
    rows = next((p for p in parts if isinstance(p, Noun)), None)
    if part is None or rows is None or rows.table is None or part.kind == "time":
        return None
    count = m.Aggregated("count", table=rows.table)
    return Worked(m.Combined("/", count, m.Aggregated("count", table=rows.table, where=(part.condition,))))


def _complete(said: Noun | Measured) -> Shared | None:
    """How much of a column is filled in."""
    key = said.key if isinstance(said, Noun) else said.expr.key if isinstance(said.expr, m.Col) else None
    return Shared(Noun(table=key.table), m.Not(m.Missing(key))) if key is not None else None


def _of_period(outer: Span | None, of: Noun | Measured, inner: Span) -> object | None:
    """How much of a longer time falls into a shorter."""
    if outer == inner:
        return None
    condition = span_condition(inner, m.EventTime())
    if isinstance(of, Measured):
        share = m.ShareOf((condition,), expr=of.expr)
    elif of.table is not None:
        share = m.ShareOf((condition,), of.table)
    else:
        return None
    if outer is None:
        return (Worked(share),)
    return Worked(share), Part(span_condition(outer, m.EventTime()), "time")


def _share_known(noun: Noun, known: bool = True) -> Worked | None:
    """The share of rows on which a column is known, or is not."""
    if noun.key is None:
        return None
    gap = m.Missing(noun.key)
    return Worked(m.ShareOf((m.Not(gap) if known else gap,), noun.key.table))


def _within(*parts: object) -> tuple[object, ...] | None:
    """How one thing divides up inside each of another."""
    nouns = [p for p in parts if isinstance(p, Noun)]
    if len(nouns) != 2 or nouns[0] == nouns[1]:
        return None
    return Grouped(nouns[1]), Grouped(nouns[0]), Beside("share_within")


def _out_of_its_own(parts: tuple[object, ...]) -> tuple[object, ...]:
    """So many of each species, out of all visits of that species."""
    *rows, by = (p for p in parts if isinstance(p, Noun))
    return *rows[:1], Grouped(by), Beside("share_within")


_IN_PERCENT = "in|as %|percent|percentage|share|proportion"
_AS_SHARE = "as a|the share|percentage|proportion"


def _in_each(parts: tuple[object, ...], inside: int) -> tuple[object, ...] | None:
    """What each of something makes up of each of something else, which is the first or the second that is named."""
    named = [p for p in parts if isinstance(p, Noun) or (isinstance(p, str) and p)]
    outer, inner = named[inside], named[1 - inside]
    if outer == inner or any(isinstance(p, str) and p not in UNITS_OF_TIME for p in (outer, inner)):
        return None
    groups = (Grouped(x if isinstance(x, Noun) else m.PartOf(x, m.EventTime())) for x in (outer, inner))  # type: ignore[arg-type]
    of = next((p for p in parts if isinstance(p, Measured)), named[2] if len(named) > 2 else None)
    return (*groups, Beside("share_within"), *((as_counted(of),) if of is not None else ()))


def _last_of(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Something by one thing and another, as a share within the one."""
    return _in_each((*parts[1:3], parts[0]), 0)


def _of_such(values: Values, measured: Measured, part: Part) -> tuple[Shared, Part] | None:
    """Of what the one made, how much was of the other."""
    base = Part(m.Is(values.column, values.values))
    return (Shared(measured, part.condition), base) if _both(base, part) else None


def _divided(values: Values, noun: Noun, by: Noun) -> tuple[object, ...] | None:
    """In the one, how the rows divide up between others, as shares."""
    if by.key == values.column:
        return None
    return Part(m.Is(values.column, values.values)), Counted(noun), Grouped(by), Beside("share")


def _difference_made(noun: Noun, measured: Measured) -> tuple[object, ...]:
    return Grouped(noun), Worked(m.Aggregated("mean", measured.expr))


def _moving(number: float, unit: m.Unit, kind: str = "moving") -> tuple[Grouped, Beside] | None:
    if number < 2 or not float(number).is_integer():
        return None
    return Grouped(m.PartOf(unit, m.EventTime())), Beside(kind, int(number))


def _rolling(unit: m.Unit) -> tuple[Grouped, Beside] | None:
    """A rolling year: of every month, what the twelve up to it come to."""
    months = MONTHS_IN.get(unit)
    return _moving(months, "month", "moving_total") if months is not None else None


def _from_one_to_the_next(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """The change of something from month to month."""
    kind, *rest = parts
    if rest[-1] != rest[-2]:
        return None
    of = next((p for p in rest if isinstance(p, (Measured, Noun, Counted))), None)
    told = (as_counted(of),) if of is not None else ()
    return (Grouped(m.PartOf(rest[-1], m.EventTime())), Beside(str(kind)), *told)  # type: ignore[arg-type]


def _up_to_each(number: float, unit: m.Unit, of: Noun | Measured) -> tuple[object, ...] | None:
    """Trailing twelve months of something: of every month what the twelve up to it come to."""
    if isinstance(of, Measured) and of.function not in ("", "sum"):
        return None
    moving = _moving(number, unit, "moving_total")
    return (*moving, as_counted(of)) if moving is not None else None


def _smoothed(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """A moving average of sums or counts, over so many months, days or weeks; three months where none are said."""
    number = next((p for p in parts if isinstance(p, float)), 3.0)
    unit: m.Unit = next((p for p in parts if isinstance(p, str) and p in UNITS_OF_TIME), "month")
    of = next((p for p in parts if isinstance(p, (Measured, Noun, Counted))), None)
    moving = _moving(number, unit)
    return (*moving, *((as_counted(of),) if of is not None else ())) if moving is not None else None


def _done_so(*parts: object) -> Shared | None:
    """The share sold to trade: of all, those that are both."""
    match parts:
        case (_, Part() as state, Values() as values) if state.kind == "state":
            return Shared(None, m.All((state.condition, m.Is(values.column, values.values))))
        case _:
            return None


def _both(one: Part, two: Part) -> bool:
    return isinstance(one, Part) and isinstance(two, Part) and two.kind != "time" and one != two


_SHARES = frozenset(["pct", "percent", "percentage", "share", "rate", "ratio", "proportion"])


def _share_of_all(of: Measured) -> Shared | None:
    """The vote share is of all votes; what stands in a column of shares is one already."""
    called = {part for key in m.columns_in(of.expr) for part in name_parts(key.column)}
    return None if called & _SHARES else Shared(of)


def _most_often(noun: Noun, descending: bool) -> tuple[Top, Shared] | None:
    """The highest churn is where the largest share of all has left, and not where most of them are."""
    if noun.key is None:
        return None
    return Top(descending), Shared(None, m.Is(noun.key, (True,)))


def _rate_among(state: Noun | Part, rest: Sequence[object]) -> tuple[object, ...] | None:
    """The share of those that a state holds for among such rows: the rows told, and what is told of them."""
    condition = said_of_each(state)
    such = [p for p in rest if isinstance(p, Part)]
    if condition is None or any(p.kind == "time" or p.condition == condition for p in such):
        return None
    return Shared(next((n for n in rest if isinstance(n, Noun)), None), condition), *such


def _each_share(one: Values, two: Values) -> tuple[object, ...] | None:
    """The shares of two kinds, each by itself."""
    each = each_of(one, two)
    return (each[0], Counted(Noun(table=one.column.table)), Beside("share")) if each is not None else None


def _came_of(of: Measured, came: Noun) -> Worked | None:
    """How much of what was due was paid."""
    if came.key is None or not isinstance(of.expr, m.Col) or of.verb:
        return None
    if of.expr.key.table != came.key.table or of.expr.key == came.key:
        return None
    part, whole = m.Aggregated("sum", m.Col(came.key)), m.in_all(of.expr)
    return Worked(m.Combined("/", part, whole, percent=True))


_BIT = "bit|part|slice|chunk|piece|portion|share|proportion|fraction"


def _told_by(parts: tuple[object, ...]) -> tuple[object, ...]:
    """What is named and the periods that are, each once."""
    return tuple(dict.fromkeys(p for p in parts if isinstance(p, (Noun, Measured)) or p in UNITS_OF_TIME))


def _mixed(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What something is made up of: so much of each kind, and what share that is."""
    by = next((p for p in (parts[-1], parts[0]) if isinstance(p, Noun) and p.key is not None), None)
    of = next((p for p in parts if isinstance(p, (Noun, Measured)) and p != by), None)
    return (as_counted(of), Grouped(by), Beside("share")) if by is not None and of is not None else None


def _portion(parts: tuple[object, ...]) -> Shared | None:
    """How large a part one of a kind is of the rows, or of what they come to."""
    part = next(p for p in parts if isinstance(p, Part))
    of = next(p for p in parts if isinstance(p, (Noun, Measured)))
    return Shared(of, part.condition) if part.kind != "time" else None


def _as_dots(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """One measure against another, a dot for each row."""
    one, other = (p for p in parts if isinstance(p, Measured))
    return (Charted(ChartWish("dots")), one, other) if one != other else None


RULES: tuple[Rule, ...] = (
    *(
        Rule("SHR", pattern, lambda *p: _portion(p), (example,), weight=0.6)
        for pattern, example in (
            (
                "how dependent|reliant is|are? we|they|it? on K is|are? we|they|it? for|in|by the? E|T",
                "how dependent on Dog are we for fee",
            ),
            ("how much do|does we|they depend|rely on K for the? E|T", "how much do we depend on Dog for fee"),
            (
                "what weight|role|part|place|bearing does|do|did K have|has|play|take|carry in|of|on the? total? E|T",
                "what part does Dog play in total fee",
            ),
            (
                f"how big|large|small|much a? {_BIT} of the? E|T does|do|did|is|are K have|make|take|form|account|fill? up|for?",
                "how big a slice of the fee does Dog have",
            ),
            (
                f"is|are|was|were K a|an? big|large|small|important|major|minor {_BIT} of our|the? E|T",
                "is Dog a big chunk of visits",
            ),
            (f"K {_BIT} of the|our? E|T", "Dog's bit of the fee"),
            (
                "out of all? the|our? E|T , what|what's|how much|many? is|are|was|were? down|due|from|for|with to? K",
                "out of all the fee, what is down to Dog",
            ),
            (
                "how many percent|% of the? E|T is|are|comes|come|was|were from|of|by|for|with? K",
                "how many percent of fee is from Dog",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _mixed(p), (example,), weight=0.7)
        for pattern, example in (
            ("mix|makeup|make-up|composition of the? E|T BY C|F", "make-up of fee by species"),
            ("C|F mix|makeup|make-up|composition of|for|in the|our|all? T|E", "species mix of visits"),
            ("relative E|T BY C|F", "relative fee by species"),
        )
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p, i=inside: _in_each(_told_by(p), i),
            (example,),
            weight=1.1,
        )
        for pattern, example, inside in (
            ("C|T|F mix|makeup|make-up|composition|split UNIT by UNIT", "species mix year by year", 1),
            ("C|T|F mix|makeup|make-up|composition by|per|for|in each|every? UNIT", "species mix by year", 1),
            (
                "percentages|shares|proportions of C per|by|in|within each? C ,? adding|summing|totalling up? to 100",
                "percentages of breed per species, adding to 100",
                1,
            ),
            ("SHARE of? the? E by C inside|within|in each|every C", "share of fee by breed inside each species", 1),
            ("each|every UNIT as SHARE of its UNIT , E", "each month as a share of its year, fee", 1),
        )
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p, a="AGG" in pattern: _smoothed(p) if not a or "mean" in p else None,
            (example,),
            weight=0.5,
        )
        for pattern, example in (
            ("MOVING N UNIT AGG of|for|in? E|T|CNT", "trailing 3-week average of fee"),
            ("MOVING N UNIT E|T", "rolling 3 month visits"),
            ("N UNIT MOVING of|for|in? E|T|CNT", "3 month moving average of fee"),
            (
                "N UNIT MOVING of|for|in the? monthly|weekly|daily|quarterly|yearly|annual E|T",
                "3 month moving average of monthly fee",
            ),
            ("N UNIT AGG of|for? E|T", "seven day average fee"),
            ("E|T as a? N UNIT AGG", "fee as a three-month average"),
            ("E|T HAVING its|the|their? N UNIT AGG", "fee with its 4-month average"),
            ("E|T on a? MOVING N UNIT basis", "fee on a rolling 3-month basis"),
            ("MOVING of|for E|T , window of N UNIT", "moving average of fee, window of 3 weeks"),
            ("MOVING of|for E|T over|on|across|of N UNIT", "moving average of fee over 3 weeks"),
            ("MOVING over|on|of? N UNIT of|for E|T", "moving average 3 months for fee"),
            ("AGG of the last|past N UNIT 's? E|T", "average of the last 4 months' fee"),
            ("smooth|smoothed|smoothen out? E|T", "smooth out fee"),
            ("E|T smoothed out?", "fee smoothed"),
            ("iron|ironed|even|evened out the? bumps|peaks|swings in|of E|T", "iron out the bumps in fee"),
            ("noise out of E|T", "take the noise out of fee"),
            ("underlying TREND E|T", "underlying trend in fee"),
        )
    ),
    *(
        Rule("Q", pattern, lambda *p: _part_of(p), (example,), weight=0.4)
        for pattern, example in (
            ("SHARE of? E is|was|were|are|goes|go|went on|for|to|in? E", "what share of the fee is cost"),
            ("SHARE of? T E is|was|were|are|goes|go|went on|for|to|in? E", "what share of the visits fee is cost"),
            ("SHARE of? E that|which is|was|were|are E", "share of the fee that is cost"),
        )
    ),
    Rule(
        "Q",
        "SHARE of? E that? is|was|were|are|has|have|got been? PP|MV",
        lambda _, e, *n: _came_of(e, n[-1]),
        ("what share of the fee was sold",),
        weight=0.4,
    ),
    *(
        Rule("SHR", pattern, lambda n, k: _met(_of(n), k), (example,), weight=0.6)
        for pattern, example in (
            (
                "probability|chance|chances|odds|likelihood|risk that|of? a|an|any? T is|was|has|had|costs|cost|takes|took|gets? K",
                "probability that a visit costs over 50",
            ),
            ("probability|chance|chances|odds|likelihood|risk of a|an|any T being K", "odds of a visit being overdue"),
            (
                "how big|large|great|small a? part|share|portion of the? T is|are|was|were K",
                "how big part of visits is overdue",
            ),
        )
    ),
    Rule(
        "SHR",
        "are|is|were|was most of? the? T F",
        lambda t, f: Shared(t, m.Is(f.key, (True,))) if f.key is not None else None,
        ("are most visits attended",),
        weight=0.6,
    ),
    Rule(
        "SHR",
        "how complete|filled is|are|was the? E|C|D",
        lambda n: _complete(n),
        ("how complete is fee",),
        weight=0.6,
    ),
    Rule("SHR", "SHARE", lambda _: Shared(), ("what share",), weight=-0.1),
    Rule(
        "SHR",
        "SHARE of? UNIT with|of|when|where|that were|was|are? K|VS",
        lambda _, __, k: Shared(None, k.condition if isinstance(k, Part) else m.Is(k.column, k.values)),
        ("share of days with dogs",),
        weight=0.5,
    ),
    Rule("SHR", "SHARE of? NP", lambda _, n: _of(n), ("share of visits",), weight=0.08),
    Rule("SHR", "SHARE of? E", lambda _, e: _of(e), ("share of fee",), weight=0.08),
    Rule(
        "SHR",
        "SHARE K NP",
        lambda _, k, n: Shared(n, k.condition) if isinstance(k, Part) and k.kind != "time" else None,
        ("% of attended visits",),
        weight=0.12,
    ),
    Rule(
        "SHR",
        "SHR that|which? is|are|was|were|has|have|had|got|gets been? PP|MV K",
        lambda shared, *p: _met(shared, p[-1]),
        ("share of visits that were sold overdue",),
        weight=0.6,
    ),
    Rule(
        "SHR",
        "SHR PP|MV K",
        lambda shared, *p: _met(shared, p[-1]) if p[-1].kind == "state" else None,
        ("share of visits sold overdue",),
        weight=0.6,
    ),
    Rule(
        "SHR",
        "SHR that|which|who is|are|was|were|have|has|had|went|came|done|gets|got|comes K",
        _met,
        ("share of visits that are attended",),
        weight=0.2,
    ),
    Rule(
        "SHR",
        "SHR is|are|was|were|have|has|had|went|came|done|gets|got|comes|come|by|with|lost|made|goes|go from|to|out|for|by|in|on? K",
        _met,
        ("share of visits are attended",),
        weight=0.15,
    ),
    Rule(
        "RATED",
        "SHARE of? E|T|U that|which? is|are|was|were|goes|went|going|sent|gone|ends|ended up? to|in|into|for|on M",
        lambda *p: Rated(m.Col(p[-1].key)) if p[-1].key else None,
        ("share of visits that went to fee",),
        weight=0.7,
    ),
    Rule(
        "SHR",
        "K rate",
        lambda k: Shared(None, k.condition) if isinstance(k, Part) and k.kind in ("state", "value", "flag") else None,
        ("attended rate",),
        weight=0.2,
    ),
    Rule(
        # How often what is done is so: the rate of deliveries that are on time.
        "SHR",
        "K delivery|arrival|departure|dispatch|shipping|shipment|completion rate|rates|percentage|%",
        lambda k: Shared(None, k.condition) if isinstance(k, Part) and k.kind == "state" else None,
        ("attended arrival rate",),
        weight=0.3,
    ),
    Rule(
        "SHR",
        "F as a|an percentage|percent|share|proportion",
        lambda n: Shared(None, m.Is(n.key, (True,))) if n.key is not None else None,
        ("attended as a percentage",),
        weight=0.4,
    ),
    Rule(
        "SHR",
        "F rate|rates",
        lambda n: Shared(None, m.Is(n.key, (True,))) if n.key is not None else None,
        ("attended rate",),
        weight=0.15,
    ),
    *(
        Rule("SHRX", pattern, lambda state, *rest: _rate_among(state, rest), (example,), weight=0.7)
        for among, said in (("rate|rates of|for|among|amongst|in|with|within the|our|all|your?", "rate of"),)
        for pattern, example in (
            (f"F|STATE {among} K", f"attended {said} French"),
            (f"F|STATE {among} K T", f"attended {said} French owners"),
            (f"F|STATE {among} K K", f"attended {said} French overdue"),
            (f"F|STATE {among} K K T", f"attended {said} French overdue owners"),
            (f"F|STATE {among} T HAVING|in|on|from|without|who|that? K", f"attended {said} owners in France"),
        )
    ),
    *(
        Rule(
            "TOPX",
            f"{words} level|levels|share|of|for? F rate|rates?",
            lambda n, u=up: _most_often(n, u),
            (example,),
            weight=0.7,
        )
        for words, up, example in (
            ("highest|greatest|biggest|largest", True, "highest attended"),
            ("best", True, "best attended"),
            ("lowest|smallest|least|worst", False, "worst attended"),
        )
    ),
    Rule(
        "SHR",
        "rate of K",
        lambda k: Shared(None, k.condition) if isinstance(k, Part) and k.kind != "time" else None,
        ("rate of attended",),
        weight=0.0,
    ),
    Rule(
        "SHRX",
        "SHARE of? K NP that|which|who? is|are|was|were|have|has|had|came|went|got|get|made|done|rated K",
        lambda _, j, n, k: (Shared(n, k.condition), j) if _both(j, k) else None,
        ("share of French visits that were attended",),
        weight=0.3,
    ),
    Rule(
        "SHRX",
        "SHARE of? K NP K",
        lambda _, j, n, k: (Shared(n, k.condition), j) if _both(j, k) else None,
        ("share of French visits attended",),
        weight=0.12,
    ),
    Rule(
        "SHRX",
        "SHARE of? TIME E VERB|come|came|fell|falls|was|were|happened? TIME",
        lambda _, s, e, *r: _of_period(s, e, r[-1]),
        ("what share of 2025 fee fell in June",),
        weight=0.35,
    ),
    Rule(
        "SHRX",
        "SHARE of? E VERB|come|came|fell|falls|was|were|happened TIME",
        lambda _, e, *r: _of_period(None, e, r[-1]),
        ("what share of fee fell in June",),
        weight=0.2,
    ),
    Rule(
        "SHRX",
        "SHARE of? NP VERB|come|came|fell|falls|was|were|happened TIME",
        lambda _, n, *r: _of_period(None, n, r[-1]),
        ("what share of visits fell in June",),
        weight=0.3,
    ),
    # Beside a group, each group's share is meant, in that time.
    Rule("SHRX", "SHARE of? E TIME", lambda _, e, t: _of_period(None, e, t), ("share of fee in June",), weight=-0.2),
    Rule(
        "SHRX",
        "SHARE of? TIME NP come|came|fell|falls|was|were|happened? TIME",
        lambda _, s, n, *r: _of_period(s, n, r[-1]),
        ("what share of 2025 visits fell in June",),
        weight=0.3,
    ),
    Rule(
        "SHR",
        "SHARE of? NP belongs|belong|goes|go|comes|come|falls|fall|accounted",
        lambda _, n: _of(n),
        ("what share of visits belongs",),
        weight=0.12,
    ),
    Rule(
        "SHR",
        "SHARE of? NP accounted for by K",
        lambda _, n, k: _met(_of(n), k),
        ("share of visits accounted for by dogs",),
        weight=0.3,
    ),
    Rule(
        "SHR",
        "SHARE of? E accounted for by K",
        lambda _, e, k: _met(_of(e), k),
        ("share of fee accounted for by dogs",),
        weight=0.3,
    ),
    Rule(
        "SHR",
        "SHARE of? K among|of|in|within all? the? T",
        lambda _, k, n: Shared(n, k.condition) if k.kind != "time" else None,
        ("percentage of Dog among visits",),
        weight=0.6,
    ),
    Rule(
        "SHRX",
        "SHARE of? K when|if|given|where|among K",
        lambda _, k, j: (Shared(None, k.condition), j) if _both(j, k) else None,
        ("chance of overdue when French",),
        weight=0.3,
    ),
    Rule(
        "SHR",
        "SHARE of? K",
        lambda _, k: Shared(None, k.condition) if isinstance(k, Part) and k.kind not in ("time", "related") else None,
        ("share of overdue",),
        weight=0.06,
    ),
    Rule("SHR", "SHARE of? STATE to|by|via|through|into VS", _done_so, ("share overdue by Dog",), weight=0.5),
    # of columns that hold an age each
    Rule(
        "Q",
        "SHARE of? all|the? population|people|persons|residents|inhabitants? who|that? is|are|was|were? OFAGE",
        lambda _, q: q,
        ("share of people over 65",),
        weight=0.6,
    ),
    Rule("SHR", "K as a? SHARE of? NP", lambda k, _, n: _met(_of(n), k), ("overdue as a share of visits",), weight=0.3),
    Rule("SHR", "K as a? SHARE of? E", lambda k, _, e: _met(_of(e), k), ("dogs as a share of fee",), weight=0.3),
    *(
        Rule(
            "SHR",
            pattern,
            lambda k, *n: (
                Shared(next((x for x in n if isinstance(x, Measured)), n[0]), k.condition)
                if k.kind not in ("time", "related")
                else None
            ),
            (example,),
            weight=0.4,
        )
        for pattern, example in (
            ("K T E as a? SHARE of? all|total|everything NP|E?", "dog visits fee as a share of all fee"),
            ("K NP|E as a? SHARE of? the|each|every total|whole C|T?", "dog visits as a share of the total"),
        )
    ),
    *(
        Rule("SHRX", pattern, lambda *p: _such_of_such(p), (example,), weight=weight)
        for lead, start in (("", ""), ("COUNT ", "how many "))
        for what, said in (
            ("NP|E in|of|for|from|by|with|are|were|was|is|have|has|had? K", "visits of dogs"),
            ("K NP|E", "dog visits"),
        )
        for pattern, example, weight in (
            (
                f"{lead}{what} ,? as a? SHARE of? all|total|everything NP|E?",
                f"{start}{said} as a share of all visits",
                0.4,
            ),
            (f"{lead}{what} ,? as a? SHARE of? those|all K", f"{start}{said} as a share of those overdue", 0.5),
            (
                f"{lead}{what} ,? as a? SHARE of? all|those|the? K NP|E",
                f"{start}{said} as a share of all overdue visits",
                0.7,
            ),
        )
    ),
    Rule(
        "SHRX",
        "K NP|E as a? SHARE of? each|every C|T 's? NP|E|U",
        lambda k, n, _, by, *__: (Shared(n, k.condition), Grouped(by)) if k.kind not in ("time", "related") else None,
        ("dog visits as a share of each clinic visits",),
        weight=0.4,
    ),
    Rule(
        "SHR",
        "SHARE of? K in|of|within the|all|total|overall? T|E",
        lambda _, k, n: Shared(n, k.condition) if k.kind not in ("time", "related") else None,
        ("share of dogs in total visits",),
        weight=0.3,
    ),
    Rule(
        "SHRX",
        "VS SHARE of? VS",
        lambda v, _, w: (
            (Shared(None, m.Is(v.column, v.values)), Part(m.Is(w.column, w.values))) if v.column != w.column else None
        ),
        ("dog share of France",),
        weight=0.3,
    ),
    *(
        Rule("BESX", pattern, _so_common, (example,), weight=0.6)
        for pattern, example in (
            (
                "how common|frequent|usual|rare|prevalent|widespread is|are K among|in|for|with|across the? T",
                "how common is Dog among the visits",
            ),
            ("how common|frequent|usual|rare|prevalent are|is K T", "how common are overdue visits"),
            ("is|are K rare|common|frequent|usual|unusual|uncommon for|among|in|with the? T", "is Dog rare for visits"),
            ("K is|are rare|common|frequent|usual|unusual|uncommon for|among|in|with the? T", "Dog is rare for visits"),
            ("to what extent|degree is|are|was|were T K", "to what extent are visits overdue"),
            ("how far|much is|are|was|were T made? up? of K", "how much are visits made up of Dog"),
            (
                "is it true|right|correct|so that? N %|percent of? T is|are|was|were K",
                "is it true that 80% of visits are Dog",
            ),
            ("do|does|did|is|are N %|percent of? T K", "are 80% of visits overdue"),
            (
                "what are|is the? odds|chances|chance|probability|likelihood of|that a|an|the? T is|being|was? K",
                "what are the odds of a visit being Dog",
            ),
        )
    ),
    *(
        Rule("Q", pattern, _one_in, (example,), weight=0.7)
        for pattern, example in (
            ("one|1 in|of|out how many|of? how? many? T is|are|was|were K", "one in how many visits is Dog"),
            ("one|1 T in how many is|are|was|were K", "one visit in how many is Dog"),
        )
    ),
    Rule("SHR", "E share|shares", lambda e: _share_of_all(e), ("fee share",), weight=0.3),
    Rule("SHR", "K SHARE of? NP", lambda k, _, n: _met(_of(n), k), ("dog share of visits",), weight=0.4),
    Rule("SHR", "K SHARE of? E", lambda k, _, e: _met(_of(e), k), ("dog share of fee",), weight=0.15),
    Rule("Q", "how complete is|are C|D|M", lambda n: _share_known(n), ("how complete is breed",), weight=0.35),
    Rule("Q", "completeness|coverage of C|D|M", lambda n: _share_known(n), ("completeness of breed",), weight=0.35),
    Rule("Q", "C|D|M completeness|coverage", lambda n: _share_known(n), ("breed completeness",), weight=0.3),
    Rule(
        "Q",
        "SHARE of? NP HAVING C|D|M",
        lambda _, __, ___, n: _share_known(n),
        ("share of visits with a rating",),
        weight=0.05,
    ),
    Rule(
        "Q",
        "SHARE of? NP WITHOUT C|D|M",
        lambda _, __, ___, n: _share_known(n, known=False),
        ("share of visits without a rating",),
        weight=0.25,
    ),
    Rule(
        "BES",
        "N period|point|term MOVING",
        lambda n, _: Beside("moving", int(n)) if n >= 1 else None,
        ("3 period moving average",),
        weight=0.25,
    ),
    Rule(
        "BESX",
        "MOVING N UNIT at a? time?",
        lambda _, n, u: _moving(n, u),
        ("averaged over 4 weeks at a time",),
        weight=0.3,
    ),
    Rule("BESX", "trailing N UNIT E|T", _up_to_each, ("trailing 12 months fee",), weight=0.9),
    *(
        Rule("BESX", pattern, lambda n, u, *_, k=kind: _moving(n, u, k), (example,), weight=weight)
        for pattern, example, kind, weight in (
            ("trailing N UNIT", "trailing 12 months", "moving_total", 0.8),
            ("trailing|rolling|moving N UNIT average|avg|mean", "trailing 3 month average", "moving", 1.0),
            (
                "trailing|rolling|moving N UNIT total|totals|sum|sums of?|for?",
                "rolling 3 month total",
                "moving_total",
                0.6,
            ),
            ("trailing|rolling|moving total|sum of|over N UNIT", "rolling total of 3 months", "moving_total", 0.6),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _rolling(p[0] if p else "year"), (example,), weight=0.5)
        for pattern, example in (
            ("rolling|trailing|moving UNIT", "rolling year"),
            ("rolling|trailing|moving annual total", "moving annual total"),
            ("ttm|ltm|mat", "ttm"),
        )
    ),
    Rule("BESX", "MOVING N UNIT", lambda _, n, u: _moving(n, u), ("trailing 12 months",), weight=0.25),
    Rule("BESX", "N UNIT MOVING", lambda n, u, _: _moving(n, u), ("4 week moving average",), weight=0.3),
    Rule(
        "BESX",
        "GROWTH by? UNIT",
        lambda kind, u: (Grouped(m.PartOf(u, m.EventTime())), Beside(kind)),
        ("change by week",),
        weight=0.15,
    ),
    *(
        Rule("BESX", word, lambda u=unit: (Grouped(m.PartOf(u, m.EventTime())), Beside("change")), (word,), weight=0.96)
        for unit, words in (
            ("week", ("wow", "week on week", "week over week", "week-on-week")),
            ("month", ("mom", "month on month", "month over month", "month-on-month")),
            ("quarter", ("qoq", "quarter on quarter", "quarter over quarter", "quarter-on-quarter")),
            ("day", ("dod", "day on day", "day over day", "day-on-day")),
        )
        for word in words
    ),
    Rule(
        "BESX",
        "every|each UNIT against|beside|over|versus|vs the? one? preceding|previous|before|last",
        lambda u: (Grouped(m.PartOf(u, m.EventTime())), Beside("change")),
        ("each quarter against the previous",),
        weight=0.4,
    ),
    Rule(
        "BESX",
        "RUNNING by|per|at|each|every|end|close? UNIT",
        lambda _, *r: (Grouped(m.PartOf(r[-1], m.EventTime())), Beside("running")),
        ("running total by week",),
        weight=0.15,
    ),
    Rule(
        "BESX",
        "to date at|by|for? the? end|close? of? each|every? UNIT",
        lambda u: (Grouped(m.PartOf(u, m.EventTime())), Beside("running")),
        ("to date at the close of each quarter",),
        weight=0.35,
    ),
    Rule("BESX", "SHARE of? V and|& V", lambda _, a, b: _each_share(a, b), ("share of dogs and cats",), weight=0.3),
    *(
        Rule("BESX", pattern, lambda n, *_: (Grouped(n), Beside("share")), (example,), weight=0.3)
        for pattern, example in (
            ("C|T , SHARE of? each|them|all", "species, share of each"),
            ("C|T and? their SHARE of? total|all?", "clinics and their share"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, i=inside: _in_each(p, i), (example,), weight=0.45)
        for pattern, inside, example in (
            ("BY C|T|UNIT , SHARE does|do|is|are|has|have? of? each|every C|T", 0, "by species, share of each breed"),
            ("BY C|T|UNIT SHARE does|do|is|are|has|have? of? each|every C|T", 0, "by species share of each breed"),
            (
                "within|inside BY? C|T , SHARE does|do|is|are|has|have? of? each|every? C|T have|has|make|makes|up?",
                0,
                "within each species, what share does each breed have",
            ),
            ("C|T mix|composition|make-up|makeup by|per|for|in each|every? C|T|UNIT", 1, "breed mix by species"),
            (
                "BY C|T|UNIT , the? C|T mix|composition|make-up|makeup|split|breakdown in|as percent|%|percentages|percentage|shares?",
                0,
                "for each species, the breed mix in percent",
            ),
            (
                "BY C|T|UNIT the? C|T mix|composition|make-up|makeup in|as percent|%|percentages|percentage|shares?",
                0,
                "for each species the breed mix in percent",
            ),
            (
                "percentages|shares of C by|per|for each? C",
                1,
                "percentages of breed per species",
            ),
            (
                "C|T breakdown|split|mix as|in|given|shown? as|in? percentages|percent|%|shares? within|inside BY? C|T",
                1,
                "breed breakdown as percentages within species",
            ),
            ("SHARE HAVING? each|every C|T in|of|within its|their C|T", 1, "share has every breed in its species"),
            ("each|every C|T 's? SHARE of its|their C|T E|T?", 1, "each breed share of its species"),
            (
                "row percentages|percents|% , C|T down and C|T across",
                0,
                "row percentages, breed down and species across",
            ),
            (
                "column|col percentages|percents|% , C|T down and C|T across",
                1,
                "column percentages, breed down and species across",
            ),
            (
                "stacked|100 % stacked bar|bars|chart|column|columns of C|T by C|T",
                1,
                "100% stacked bar of breed by species",
            ),
            (
                "how do|does C|T differ in|by their|its C|T mix|composition|make-up|makeup",
                0,
                "how do species differ in their breed mix",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _last_of(p), (example,), weight=0.45)
        for pattern, example in (
            (
                "% of subtotal|subtotals please? ,? E|T by C|T then|and|, C|T",
                "% of subtotal, fee by species then breed",
            ),
            (
                "E|T by C|T then|and|, C|T , HAVING? each|every figure|number|one? as a? SHARE of? its|the|their C|T",
                "fee by species and breed, each figure as a share of its species",
            ),
        )
    ),
    Rule(
        "SHRX",
        "SHARE of? VS E comes|come|came|is|was|are|were from|by|in|for|with? K",
        lambda _, v, e, k: _of_such(v, e, k),
        ("what share of dogs fee comes from France",),
        weight=0.4,
    ),
    Rule(
        "BESX",
        "in|for|at|of VS , how do|does|did|is|are the? T divide|split|break|spread|divided up|down? between|by|into|across|over C|T",
        _divided,
        ("in France, how do the visits divide up between species",),
        weight=0.5,
    ),
    *(
        Rule("BESX", pattern, _within, (example,), weight=0.3)
        for pattern, example in (
            ("C|T split|breakdown|mix within|inside C|T", "breed split within species"),
            ("C|T SHARE within|inside C|T", "breed share within species"),
            ("SHARE of? C|T within|inside C|T", "share of breed within species"),
            (
                "SHARE of? each|every C|T within|inside|in|at|of|for each|every|their|its? C|T",
                "share of each breed within each species",
            ),
            ("% of? C|T inside|within BY? C|T", "% of breed within species"),
        )
    ),
    Rule(
        "BESX",
        "with|and|plus|as? their|its|the share|percentage|proportion of|in|at that|the|its|their C|T T",
        lambda _, rows: (Counted(rows), Beside("share_within")),
        ("with their share of that clinic visits",),
        weight=0.6,
    ),
    Rule(
        "BES",
        "with|and|plus|as? their|its|the share|percentage|proportion of|in that|its|their C",
        lambda _: Beside("share_within"),
        ("with their share of that species",),
        weight=0.6,
    ),
    Rule(
        "BES",
        "percent|%|percentage|percentages|share|shares within C|T",
        lambda _: Beside("share_within"),
        ("percent within species",),
        weight=0.3,
    ),
    *(
        Rule(
            category,
            f"{lead} of all? {of} of|in|for|at|from {each} C|T",
            lambda *p, k=each: _out_of_its_own(p) if k == "each" else Beside("share_within"),
            (said,),
            weight=0.5,
        )
        for category, each, lead, of, said in (
            ("BES", "that|its|their", _IN_PERCENT, "T", "in percent of all visits of that species"),
            ("BES", "that|its|their", _IN_PERCENT, "those", "as percent of those of that species"),
            ("BES", "that|its|their", _AS_SHARE, "T", "as a share of all visits of that species"),
            ("BESX", "each", _IN_PERCENT, "T", "in percent of all visits of each species"),
            ("BESX", "each", _AS_SHARE, "T", "as a share of all visits of each species"),
        )
    ),
    Rule("BES", "% of subtotal|subtotals", lambda: Beside("share_within"), ("% of subtotal",), weight=0.9),
    Rule(
        "BESX",
        "does|do? being|getting|having F make|makes a? difference to|in|for E",
        _difference_made,
        ("does being attended make a difference to fee",),
        weight=0.4,
    ),
    *(
        Rule("BES", pattern, lambda *_: Beside("change"), (example,), weight=0.35)
        for pattern, example in (
            ("VERSUS the? UNIT before|earlier", "compared with the quarter before"),
            ("VERSUS the? previous|prior|preceding UNIT", "against the previous week"),
            ("VERSUS the? one before", "compared with the one before"),
        )
    ),
    Rule(
        "BES",
        "GROWTH on|from|over|against|versus|to the? previous|prior|preceding|last UNIT",
        lambda kind, _: Beside(kind),
        ("percentage change on the previous month",),
        weight=0.35,
    ),
    *(
        Rule("BES", f"GROWTH on|from|over|against|versus|to {pattern}", lambda k, _: Beside(k), (example,), weight=0.4)
        for pattern, example in (
            ("the? UNIT before|earlier|prior", "change from the month before"),
            ("SHIFT", "change over the previous month"),
        )
    ),
    Rule(
        "BESX",
        "how did|do|does|has|have CNT|E|T change|changed|vary|move|develop from UNIT to UNIT",
        lambda *p: _from_one_to_the_next(("change", *p)),
        ("how did the fee change from month to month",),
        weight=1.2,
    ),
    *(
        Rule("BESX", pattern, lambda *p: _from_one_to_the_next(p), (example,), weight=0.4)
        for pattern, example in (
            ("GROWTH in|of E|T from UNIT to UNIT", "change in visits from month to month"),
            ("GROWTH from UNIT to UNIT", "change from month to month"),
        )
    ),
    *(
        Rule("BES", pattern, lambda *_: Beside("change"), (example,), weight=0.6)
        for pattern, example in (
            (
                "how it|that|this|they|these|each has|have? changed|moved|developed|compares|compared|compare "
                "from|on|since|with|to|against the|a? UNIT before|prior|earlier",
                "how it changed from the month before",
            ),
            (
                "how it|that|this|they|these|each has|have? changed|moved|developed|compares|compared|compare "
                "from|on|since|with|to|against the? last|previous|prior|preceding UNIT",
                "how it compares with the previous month",
            ),
            (
                "how it|that|this|they|these|each has|have? changed|moved|developed from? UNIT on|to|by UNIT",
                "how it changed month on month",
            ),
            (
                "its|their|the change on|from|over|since the? previous|preceding|prior UNIT",
                "its change on the previous month",
            ),
            ("its|their|the change on|from|over|since the UNIT before", "its change from the month before"),
            (
                "with? the? difference|change|gap to|from|on|against the? UNIT|period|one before",
                "the difference to the month before",
            ),
            (
                "with? the? difference|change|gap to|from|on|against the? previous|preceding|prior UNIT|period|one",
                "the change on the preceding period",
            ),
            (
                "next|beside to? the? previous|preceding|prior UNIT|period|one",
                "next to the preceding month",
            ),
        )
    ),
    *(
        Rule("BES", pattern, lambda *_: Beside("year_before"), (example,), weight=0.6)
        for pattern, example in (
            ("what it|they was|were a|one year before|earlier|ago", "what it was a year before"),
            ("what it|they was|were 12|twelve months before|earlier|ago", "what it was 12 months before"),
            (
                "with? the? prior-year|prior|previous|last year|year's? figure|figures|value|values|number|numbers "
                "beside|alongside|next to? each|it|them?",
                "with the prior-year figure beside each",
            ),
            ("with? the? figure|figures|value|number a|one year before|earlier", "with the figure a year earlier"),
        )
    ),
    Rule(
        "BESX",
        "each|every UNIT of|in TIME alongside|against|beside|versus|vs|with|and the? same UNIT of|in the? previous|prior|last|preceding year",
        lambda u, s, _: (
            Grouped(m.PartOf(u, m.EventTime())),
            Beside("year_before"),
            Part(span_condition(s, m.EventTime()), "time"),
        ),
        ("each month of 2025 alongside the same month of the previous year",),
        weight=0.9,
    ),
    Rule("BES", "ASSHARE", lambda _: Beside("share"), ("as a percentage",), weight=0.05),
    Rule(
        "BESX",
        "E|CNT to date at|by|as the? close|end of each|every|the UNIT",
        lambda e, u: (e, Grouped(m.PartOf(u, m.EventTime())), Beside("running")),
        ("fee to date at the close of each quarter",),
        weight=0.7,
    ),
    *(
        Rule("BESX", pattern, lambda *p: _come_to_by_each(p), (example,), weight=0.8)
        for pattern, example in (
            ("E|CNT|T|Q up to|till|until the? end|close of? each|every UNIT", "fee up to the end of each month"),
            ("E|CNT|T|Q up to|till|until each|every UNIT", "fee up to each month"),
            (
                f"for|in|at|by each|every UNIT , how much E|T {_HAD_BY_THEN}",
                "for each month, how much fee had we had by then",
            ),
            (
                f"for|in|at|by each|every UNIT , COUNT T {_HAD_BY_THEN}",
                "for each month, how many visits had we had by then",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda e, *_: (as_counted(e), Beside("running")), (example,), weight=0.8)
        for pattern, example in (
            (
                f"how quickly|fast|rapidly|soon is|are|was|were|does|do|did E|T {_PILING}",
                "how quickly is fee piling up",
            ),
        )
    ),
    Rule("BES", "RUNNING", lambda _: Beside("running"), ("running total",), weight=0.05),
    Rule("BES", "RUNNING of", lambda _: Beside("running"), ("running total of",), weight=0.07),
    Rule("BES", "GROWTH", lambda kind: Beside(kind), ("growth",), weight=0.05),
    Rule(
        "BES",
        "GROWTH in? percent|%",
        lambda kind: Beside("change_percent"),
        ("change on the month before in percent",),
        weight=0.15,
    ),
    Rule(
        "BESX",
        "YOY E|CNT GROWTH",
        lambda _, e, __: (e, Beside("year_before")),
        ("year on year fee growth",),
        weight=0.3,
    ),
    Rule(
        "BESX",
        "YOY T GROWTH",
        lambda _, t, __: (Counted(t), Beside("year_before")),
        ("year on year visits growth",),
        weight=0.3,
    ),
    Rule("BESX", "GROWTH YOY", lambda *_: Beside("year_before"), ("growth year on year",), weight=0.2),
    *(
        Rule(
            "BESX",
            f"SHARE of? {what} by C per|for|within|inside|in each|every? C|T",
            lambda _, t, one, two: (
                (as_counted(t), Grouped(two), Grouped(one), Beside("share_within")) if one != two else None
            ),
            (example,),
            weight=0.45,
        )
        for what, example in (
            ("E", "share of fee by species per clinic"),
            ("T", "share of visits by species per clinic"),
        )
    ),
    Rule(
        "BESX",
        "SHARE of? E by|per C at|in|for|within|of each|every C|T",
        lambda _, e, one, two: (e, Grouped(two), Grouped(one), Beside("share_within")) if one != two else None,
        ("share of fee by species in each clinic",),
        weight=0.4,
    ),
    Rule(
        "BESX",
        "SHARE of? T by|per C at|in|for|within|of each|every C|T",
        lambda _, t, one, two: (Counted(t), Grouped(two), Grouped(one), Beside("share_within")) if one != two else None,
        ("share of visits by species in each clinic",),
        weight=0.4,
    ),
    Rule(
        "BESX",
        "SHARE of? the? T at|in|for|of|by each|every C|T is|are|was|were|has|have each|every C",
        lambda _, t, one, two: (Counted(t), Grouped(one), Grouped(two), Beside("share_within")) if one != two else None,
        ("share of visits at each breed is each species",),
        weight=0.6,
    ),
    Rule("BES", "YOY", lambda _: Beside("year_before"), ("against the same month last year",), weight=0.05),
    Rule("BES", "RANK", lambda _: Beside("rank"), ("rank",), weight=0.0),
    Rule(
        "BES",
        "N month|months|day|days|week|weeks MOVING",
        lambda n, _: Beside("moving", int(n)) if n >= 1 else None,
        ("3 month moving average",),
        weight=0.2,
    ),
    *(
        Rule("BESX", pattern, lambda u, n, *_: _moving(n, u), (example,), weight=0.9)
        for pattern, example in (
            (
                "per|by|each|every UNIT , averaged|smoothed|averaging|smoothing over|across N UNIT at|all? a? time|once?",
                "per week, averaged over 4 weeks at a time",
            ),
        )
    ),
    Rule(
        "BES",
        "MOVING over|of N months|days|weeks",
        lambda _, n: Beside("moving", int(n)) if n >= 1 else None,
        ("moving average of 3 months",),
        weight=0.2,
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p: _as_dots(p),
            (example,),
            weight=0.4,
        )
        for pattern, example in (
            ("plot|scatter|scatterplot|graph|chart plot? of? E VERSUS E", "plot fee against cost"),
            ("E VERSUS E scatterplot|scatter plot|chart|graph?", "fee vs cost scatter"),
            (
                "scatter|scatterplot|dots plot|chart|graph|diagram? , of? E over|by|and|with|to|on E",
                "scatter plot, fee over cost",
            ),
            (
                "E on|along the? y|vertical axis? and|, E on|along the? x|horizontal axis? , a|one dot|point per|for each? T",
                "fee on the y axis and cost on the x, a dot per visit",
            ),
            (
                "E on|along the? y|vertical axis? and|, E on|along the? x|horizontal axis?",
                "fee on the y axis and cost on the x",
            ),
        )
    ),
    *(
        Rule("CHT", pattern, lambda written: Charted(ChartWish.of(written)), (example,), weight=weight)
        for pattern, example, weight in (
            ("CHART with|showing|of|for", "line chart with", 0.06),
            ("CHART", "as a line", 0.05),
            ("LOOK", "with labels", 0.05),
            ("LOOK ,", "stacked,", 0.05),
        )
    ),
)
