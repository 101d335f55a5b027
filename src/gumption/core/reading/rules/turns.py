"""Turns of phrase: what other rules say plainly, said as people say it in passing."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import (
    Asking,
    Beside,
    Counted,
    Direction,
    Held,
    Marker,
    Measured,
    Noun,
    Part,
    Shared,
    Sorted,
    Top,
    Values,
    Worked,
    Worth,
    as_counted,
)
from gumption.core.reading.rules.conditions import compared, than_average
from gumption.core.reading.rules.groups import by_one, comes_again, each_of, over_periods, yes_or_no
from gumption.core.reading.rules.listing import listed
from gumption.core.reading.rules.order import top_by
from gumption.core.reading.rules.told_by import VARIES, figure_of
from gumption.core.reading.times import Span, span_condition

_ON = "on|in|for|by|over"
_FARES = "compares|compare|fares|fare|stacks|measures|does|differs|performs up? with|to|against|from|than"
_DEVELOPED = "developed|evolved|progressed|moved|changed|gone|grown"
_BUILDING = "built|building|build|builds|piled|piling|pile|added|adding|mounted|mounting|stacked|stacking"
_MOST_SHOWN = 1000
_COME_TO = "come|comes|came|add|adds|added|amount|amounts|amounted up? to"


def _beside_all_others(*parts: object) -> tuple[object, ...] | None:
    """What those that are so come to, and all others."""
    such = next(p for p in parts if isinstance(p, Part))
    group = yes_or_no(such)
    return (figure_of(parts), group) if group is not None else None


def _on_such_days(*parts: object) -> tuple[object, ...] | None:
    """How many come on a Monday, of one Monday and another."""
    rows = next(p for p in parts if isinstance(p, Noun))
    such = next(p for p in parts if isinstance(p, Part))
    if rows.table is None or not comes_again(such.condition):
        return None
    return over_periods("mean", rows, "day"), such


def _by_month(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What something came to in each month of a time."""
    when = tuple(p for p in parts if isinstance(p, Part))
    if any(p.kind != "time" for p in when):
        return None
    return figure_of(parts), by_one("month"), *when


def _shared_out(measured: Measured, rows: Noun) -> Worked | None:
    """A sum divided by how many rows there are, also by those on which it is not known."""
    if rows.table is None:
        return None
    return Worked(m.Combined("/", m.in_all(measured.expr), m.Aggregated("count", table=rows.table)))


def _for_so_much(rows: Noun, number: float, measured: Measured) -> Worked | None:
    """How many rows there are for every so much of something."""
    if rows.table is None or number <= 1:
        return None
    each = m.Combined("/", m.Aggregated("count", table=rows.table), m.in_all(measured.expr))
    return Worked(m.Combined("*", each, m.Number(number)))


def _counted_over(rows: Noun, op: m.Comparison, number: float) -> tuple[object, ...] | None:
    """How many of the rows come to more than so much."""
    return (Counted(rows), Held(Worth("sum", rows), op, number)) if rows.table is not None else None


def _first_of_rows(rows: Noun, counted: Noun, descending: bool) -> tuple[object, ...] | None:
    """Which of them has most rows of something."""
    return (Top(descending, counts=True, noun=rows), Counted(counted)) if rows != counted else None


def _so_many(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """So many rows, whichever: ten where no number is said."""
    rows = next(p for p in parts if isinstance(p, Noun))
    number = next((p for p in parts if isinstance(p, float)), 10.0)
    if rows.table is None or not number.is_integer() or not 1 <= number <= _MOST_SHOWN:
        return None
    return rows, Marker("so many", str(int(number)))


def _own_above(rows: Noun, measured: Measured, op: m.Comparison) -> tuple[object, ...] | None:
    """Rows whose own figure is above what all have on average, and no kinds of them."""
    if rows.table is None or {k.table for k in m.columns_in(measured.expr)} != {rows.table}:
        return None
    above = than_average(op, measured)
    return (rows, above) if above is not None else None


def _how_long_each(took: Measured, one: Values, two: Values) -> tuple[object, ...] | None:
    """How long the ones take, and the others."""
    each = each_of(one, two)
    return (Worked(m.Aggregated("mean", took.expr)), *each) if each is not None else None


def _by_day(parts: tuple[object, ...], last: bool) -> tuple[object, ...] | None:
    """Rows in the order of a day of theirs."""
    rows, day = (p for p in parts if isinstance(p, Noun))
    if rows.table is None or day.key is None or day.key.table != rows.table:
        return None
    return rows, Sorted(day, last)


def _that_row(parts: tuple[object, ...], descending: bool) -> tuple[object, ...] | None:
    """The highest that there was, and which row has it."""
    measured = next(p for p in parts if isinstance(p, Measured))
    tables = {k.table for k in m.columns_in(measured.expr)}
    rows = next((p for p in parts if isinstance(p, Noun)), None)
    if len(tables) != 1 or (rows is not None and rows.table not in tables):
        return None
    return Noun(table=tables.pop()), Top(descending, 1, by=measured.expr)


def _rows_where(one: Measured, op: m.Comparison, other: Measured) -> tuple[object, ...] | None:
    """Whether one figure ever lies below another: how many rows there are on which it does."""
    tables = {k.table for e in (one, other) for k in m.columns_in(e.expr)}
    if len(tables) != 1 or one.expr == other.expr:
        return None
    return Counted(Noun(table=tables.pop())), Part(m.Compared(op, one.expr, other.expr), "number")


def _built_up(parts: tuple[object, ...]) -> tuple[object, ...]:
    """What it had come to by the end of each month of a time."""
    span = next((p for p in parts if isinstance(p, Span)), None)
    when = (Part(span_condition(span, m.EventTime()), "time"),) if span is not None else ()
    return as_counted(figure_of(parts)), by_one("month"), Beside("running"), *when


def _by_both_ways(parts: tuple[object, ...], first: bool, second: bool) -> tuple[object, ...] | None:
    """Rows in the order of two columns, each its own way."""
    one, two = (p for p in parts if isinstance(p, (Noun, Measured)))
    if one == two or not isinstance(one, Noun) or one.key is None:
        return None
    return Noun(table=one.key.table), Asking("list"), Sorted(one, first), Sorted(two, second)


RULES = (
    *(
        Rule("BESX", pattern, _beside_all_others, (example,), weight=0.9)
        for pattern, example in (
            (f"how K {_FARES} OTHERS {_ON} E|Q", "how cats compares with everyone else on fee"),
            (f"how K T|C? {_FARES} OTHERS T|C? {_ON} E|Q", "how cats compare with the others on fee"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: (figure_of(p), by_one("weekday")), (example,), weight=0.9)
        for pattern, example in (
            (
                f"how E|Q|T {VARIES} from|between monday to|through|till|until|and sunday",
                "how does fee differ from Monday through Sunday",
            ),
            (f"how E|Q|T {VARIES} through|over|across|during|within the? week", "how does fee differ through the week"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _by_month(p), (example,), weight=0.8)
        for pattern, example in (
            (f"how E|Q|T has|have|had {_DEVELOPED}", "how fee has developed"),
            (f"how E|Q {_DEVELOPED} over the? time|years|months", "how fee developed over the years"),
            ("how E|Q|T developed|evolved|progressed K", "how visits developed during 2025"),
        )
    ),
    *(
        Rule("BESX", pattern, _on_such_days, (example,), weight=0.9)
        for pattern, example in (
            (
                "COUNT T come|came|arrive|arrived|start|happen in? K , AGG",
                "how many visits come in on Mondays, on average",
            ),
            ("COUNT T K , AGG", "how many visits on Mondays, on average"),
        )
    ),
    *(
        Rule("Q", pattern, lambda _, t: over_periods("mean", t, "month"), (example,), weight=0.9)
        for pattern, example in (
            ("COUNT T happen|happens|occur|occurs|arise|arises", "how often do visits happen"),
            ("COUNT T take|takes place", "how often do visits take place"),
        )
    ),
    Rule(
        "Q",
        "divide|dividing E by COUNT T",
        lambda e, _, t: _shared_out(e, t),
        ("divide the fee by the number of visits",),
        weight=0.9,
    ),
    Rule(
        "Q",
        "T per|for|to each|every? N of E",
        lambda *p: _for_so_much(*p),
        ("visits per 1000 of fee",),
        weight=0.9,
    ),
    Rule(
        "BESX",
        f"COUNT T {_COME_TO} CMP N",
        lambda _, *p: _counted_over(*p),
        ("how many visits came to more than 80",),
        weight=0.9,
    ),
    *(
        Rule(
            "TOPX",
            f"T|C HAVING COUNT T {words}",
            lambda n, _, __, t, d=down: _first_of_rows(n, t, d),
            (f"owner with number of visits {words.split('|')[0]}",),
            weight=0.9,
        )
        for words, down in (("highest|biggest|largest|greatest", True), ("lowest|smallest|fewest", False))
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p: (figure_of(p), *(by_one(x) for x in p if isinstance(x, Noun))),
            (example,),
            weight=0.5,
        )
        for pattern, example in (
            ("slice|slicing|cut|carve|chop up? E|Q by|per|along C", "slice fee by species"),
            ("E|Q sliced|cut|carved|chopped up? by|per|along C", "fee sliced by species"),
        )
    ),
    Rule(
        "BESX",
        "for|of each|every|all the? T ,? give|show|tell|list|get|send me|us? SHL",
        lambda rows, *p: listed(p[-1], rows),
        ("for every visit, give me the species and the fee",),
        weight=0.9,
    ),
    *(
        Rule("BESX", pattern, lambda *p: _so_many(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("LIST N random|arbitrary? T", "show me 5 visits", 0.5),
            ("any|random N T", "any 5 visits", 0.6),
            ("LIST? N example|sample|random|arbitrary T", "3 example visits", 0.6),
            ("LIST? a? sample|selection|handful of N? T", "a sample of 5 visits", 0.9),
            ("LIST? N? examples|samples|instances of T", "some examples of visits", 0.9),
            ("LIST? N? rows|records|lines from|of|in T", "10 rows from visits", 0.5),
        )
    ),
    Rule(
        "BESX",
        "an|one? example|instance|specimen|sample row|record? of a|an|one? T",
        lambda t: _so_many((1.0, t)),
        ("an example of a visit",),
        weight=0.95,
    ),
    Rule("DIR", "in order", lambda: Direction(True), ("in order",), weight=0.3),
    Rule(
        "BESX",
        "T where|whose|with|having the? E is|are|was|were|lies? CMP AVGOF",
        lambda t, e, op, _: _own_above(t, e, op),
        ("visits where fee is above the average",),
        weight=0.4,
    ),
    Rule(
        "BESX",
        "go|going|look|run|running through|over|at each|every|all the? T one by one",
        lambda t: (t, Asking("list")) if t.table is not None else None,
        ("go through each visit one by one",),
        weight=1.5,
    ),
    Rule(
        "K",
        "E from N upwards|up|upward|onwards",
        lambda e, n: compared(">=", e.expr, n),
        ("fee from 50 upwards",),
        weight=0.6,
    ),
    Rule(
        "BESX",
        "V TOOK longer|less|shorter|quicker|faster|more time? than V",
        lambda one, took, two: _how_long_each(took, one, two),
        ("does Dog take longer than Cat",),
        weight=0.9,
    ),
    *(
        Rule("BESX", pattern, lambda *p, d=last: _by_day(p, d), (example,), weight=0.9)
        for words, last in (("soonest|earliest|nearest|oldest", False), ("latest|furthest|newest", True))
        for pattern, example in (
            (f"T with|by the? {words} D on? first|top", f"visits with the {words.split('|')[0]} closed first"),
            (f"T {words} D on? first|top", f"visits {words.split('|')[0]} closed first"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, d=top: _that_row(p, d), (example,), weight=0.9)
        for words, ever, top in (
            ("record|highest|biggest|largest|top|longest|maximum", "high", True),
            ("lowest|smallest|shortest|minimum", "low", False),
        )
        for pattern, example in (
            (
                f"{words} E , and? WHICH T holds|hold|has|had|set|is|was it|that",
                f"what's the {words.split('|')[0]} fee, and which visit holds it",
            ),
            (f"{words} E , and when was|is? it|that?", f"{words.split('|')[0]} fee, and when"),
            (f"all-time {ever} for|of|in E , and when was|is? it|that?", f"all-time {ever} for fee, and when"),
        )
    ),
    Rule(
        "BESX",
        "what do|does|did all|both? the|our? T come|came|add|added|amount|amounted up? to",
        lambda t: Worth("sum", t) if t.table is not None else None,
        ("what did all the visits come to",),
        weight=0.6,
    ),
    Rule(
        "BESX",
        "do|does|did|has|have E ever? fall|fallen|fell|drop|go|come|run|get below|under|beneath E",
        lambda a, b: _rows_where(a, "<", b),
        ("does fee ever fall below cost",),
        weight=0.9,
    ),
    Rule(
        "BESX",
        "do|does|did|has|have E ever? rise|go|come|run|get|exceed above|over|beyond|past? E",
        lambda a, b: _rows_where(a, ">", b),
        ("does cost ever exceed fee",),
        weight=0.9,
    ),
    *(
        Rule("BESX", pattern, lambda *p: _built_up(p), (example,), weight=1.2)
        for pattern, example in (
            (f"E|Q|T {_BUILDING} up? over|through|during|across TIME", "how has fee built up over 2025"),
            (f"E|Q|T {_BUILDING} up over the? time|months", "how has fee built up over time"),
        )
    ),
    *(
        Rule(
            "TOPX",
            f"{words} UNIT",
            lambda u, d=busy: (Top(d, counts=True), by_one(u)),
            (f"{words.split('|')[0]} months",),
            weight=0.9,
        )
        for words, busy in (("quiet|slow|slack|lean|dead", False), ("busy|hectic", True))
    ),
    *(
        Rule("BESX", pattern, lambda *p: _so_many((p[-1],)), (example,), weight=1.2)
        for pattern, example in (
            ("LIST? the? first few|couple T", "show me the first few visits"),
            ("LIST a few|couple T", "show me a few visits"),
        )
    ),
    Rule("TOP", "TOP ,? E wise|-wise", top_by, ("top 5 clinics, fee-wise",), weight=0.5),
    Rule("G", "UNIT wise|-wise", lambda u: by_one(u), ("month wise",), weight=0.8),
    Rule(
        "G",
        "one|a figure|number|value|total|row|line|bar|point per|for|by each? C|UNIT",
        lambda *p: by_one(p[-1]),
        ("one figure per species",),
        weight=0.6,
    ),
    *(
        Rule("Q", pattern, lambda of, u=unit: over_periods("mean", of, u), (example,), weight=0.9)
        for unit in ("day", "week", "month", "quarter", "year")
        for pattern, example in (
            (f"average|typical|usual|normal {unit} for|of|in T|E", f"the average {unit} for visits"),
            (f"average|typical|usual|normal {unit} in|by terms|respect of T|E", f"the average {unit} in terms of fees"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, a=down, b=other: _by_both_ways(p, a, b), (example,), weight=0.9)
        for one, down in (("asc|ascending", False), ("desc|descending", True))
        for two, other in (("asc|ascending", False), ("desc|descending", True))
        for pattern, example in (
            (f"C|D {one} ,|then|and C|E|D {two}", f"species {one.split('|')[0]}, fee {two.split('|')[0]}"),
        )
    ),
    Rule(
        "BESX",
        "T CMP N ASSHARE of|to? all? the? T?",
        lambda t, op, n, *_: (Shared(t), Held(None, op, n)) if t.table is not None else None,
        ("visits over 50 as a percentage of all visits",),
        weight=0.9,
    ),
)
