"""Two things held against each other: 2025 against 2024, dogs versus cats, how much more in May than in April."""

from __future__ import annotations

import datetime as dt

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Counted, Grouped, Measured, Moved, Noun, Part, Values, Versus, Worked
from gumption.core.reading.rules.groups import each_of
from gumption.core.reading.rules.quantities import sums
from gumption.core.reading.times import Span, months_later


def _versus(one: Part, two: Part) -> Versus | None:
    if (
        not isinstance(one, Part)
        or not isinstance(two, Part)
        or one == two
        or one.kind != two.kind
        or one.kind not in ("time", "value")
    ):
        return None
    if len(m.times_in((one.condition, two.condition))) > 1:
        # Raised in May and completed in June is both.
        return None
    return Versus(one.condition, two.condition)


def _from_to(one: Part, two: Part) -> Versus | None:
    """From one year to another; from January to May is a stretch of time and no change."""
    if any(isinstance(p.condition, m.PartIs) or p.kind != "time" for p in (one, two)):
        # From one place to another is a way, and no comparison.
        return None
    return _versus(two, one)


def ends_of(span: Span) -> Versus | None:
    """The last year of a longer time held against the first; or the last month, within a year."""
    if span.part is not None or span.low is None or span.high is None:
        return None
    low, high = span.low, span.high
    if low.year == high.year and (high - low).days > 300:
        return None
    if low.year < high.year and (low.month, low.day) == (1, 1) and (high.month, high.day) == (12, 31):
        first, last = (dt.date(d.year, 1, 1) for d in (low, high))
        ends = (dt.date(low.year, 12, 31), high)
    elif (
        low.year == high.year
        and low.day == 1
        and months_later(low, 1) <= high
        and months_later(high, 1) - dt.timedelta(days=1) == high
    ):
        first, last = low, high.replace(day=1)
        ends = (months_later(low, 1) - dt.timedelta(days=1), high)
    else:
        return None
    base, later = (m.Within(m.EventTime(), a, b) for a, b in zip((first, last), ends, strict=True))
    return Versus(later, base)


def _moved(measured: Measured | None, sign: str, span: Span) -> Moved | None:
    versus = ends_of(span)
    return Moved(measured, sign == "+", versus) if versus is not None else None


def _since(span: Span) -> Versus | None:
    """A period held against the one that follows it."""
    if span.part is not None or span.low is None or span.high is None:
        return None
    length = span.high - span.low + dt.timedelta(days=1)
    low = span.high + dt.timedelta(days=1)
    months = (low.year - span.low.year) * 12 + low.month - span.low.month
    whole = span.low.day == 1 and low.day == 1 and months > 0
    high = months_later(low, months) - dt.timedelta(days=1) if whole else low + length - dt.timedelta(days=1)
    base, later = (m.Within(m.EventTime(), a, b) for a, b in ((span.low, span.high), (low, high)))
    return Versus(later, base)


def to_the_last(span: Span) -> Versus | None:
    """A year held against the last that there is."""
    if span.part is not None or span.low is None or (span.low.month, span.low.day) != (1, 1):
        return None
    if span.high is not None and (span.high.year != span.low.year or (span.high.month, span.high.day) != (12, 31)):
        return None
    last = m.at_end("max")
    base = m.Within(m.EventTime(), span.low, dt.date(span.low.year, 12, 31))
    return Versus(last, base)


def _which_moved(noun: Noun, sign: str, span: Span) -> tuple[Grouped, Moved] | None:
    moved = _moved(None, sign, span)
    return (Grouped(noun), moved) if moved is not None else None


def _more_in(noun: Noun, what: Noun | Measured, one: Part, two: Part, up: bool) -> tuple[object, ...] | None:
    """Clinics with more visits in one year than in another."""
    versus = _versus(one, two)
    if versus is None or one.kind != "time":
        return None
    return Grouped(noun), Counted(what) if isinstance(what, Noun) else what, Moved(None, up, versus)


def _compared_in(what: object, one: Part, two: Part) -> tuple[Versus, object] | None:
    versus = _versus(two, one)
    return (versus, Counted(what) if isinstance(what, Noun) else what) if versus is not None else None


def _such_compared(values: Values, one: Part, two: Part) -> tuple[object, ...] | None:
    versus = _versus(two, one)
    if versus is None or versus.one == m.Is(values.column, values.values):
        return None
    return versus, Counted(Noun(table=values.column.table)), Part(m.Is(values.column, values.values))


def _year_on(span: Span) -> Versus | None:
    """A time held against the same days a year before."""
    if span.part is not None or span.low is None or span.high is None:
        return None
    before = [d.replace(year=d.year - 1, day=min(d.day, 28) if d.month == 2 else d.day) for d in (span.low, span.high)]
    base, later = (m.Within(m.EventTime(), a, b) for a, b in (before, (span.low, span.high)))
    return Versus(later, base)


def _held_against(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether one or the other has more of something."""
    one, two = (p for p in parts if isinstance(p, Part))
    versus = _versus(one, two)
    return (versus, *(p for p in parts if isinstance(p, (Measured, Worked)))) if versus is not None else None


def _on_average(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether the one has a higher something than the other: each of them, and not all of them together."""
    averaged = tuple(Worked(m.Aggregated("mean", p.expr)) if isinstance(p, Measured) else p for p in parts)
    return _held_against(averaged)


def _such_pay_more(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether those that are so come to more than the rest, on average."""
    part = next((p for p in parts if isinstance(p, Part)), None)
    measured = next((p for p in parts if isinstance(p, Measured)), None)
    noun = next((p for p in parts if isinstance(p, Noun) and p.key is None), None)
    flag = next((p for p in parts if isinstance(p, Noun) and p.key is not None), None)
    if measured is None or (part is not None and part.kind == "time"):
        return None
    group = Grouped(flag) if part is None and flag is not None else None
    if group is None and part is not None:
        condition = part.condition.item if isinstance(part.condition, m.Not) else part.condition
        flagged = isinstance(condition, m.Is) and condition.values in ((True,), (False,))
        group = Grouped(m.Col(condition.column) if flagged and isinstance(condition, m.Is) else m.Test(condition))
    if group is None:
        return None
    return (group, Worked(m.Aggregated("mean", measured.expr)), *((noun,) if noun is not None else ()))


def _how_much_more(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """By how much the one comes to more than the other."""
    held = _held_against(parts)
    return ("more", *held) if held is not None else None


_MORE = "more|less|higher|lower|longer|shorter|bigger|smaller"
_IS = "is|are|was|were|do|does|did"

RULES = (
    *(
        Rule("BESX", pattern, lambda *p: _such_pay_more(p), (example,), weight=0.42)
        for pattern, example in (
            (f"do|does|did|is|are T K E {_MORE}", "do visits overdue cost more"),
            (f"do|does|did|is|are T K have|has|had? a? {_MORE} E", "do visits overdue have a higher fee"),
            (f"do|does|did|is|are K E {_MORE} than the? others|rest|other", "do overdue cost more than the others"),
        )
    ),
    Rule("VERSUS_", "K VERSUS K", lambda a, _, b: _versus(a, b), ("2025 against 2024",), weight=0.15),
    Rule("VERSUS_", "VERSUS K OR K", lambda _, a, __, b: _versus(a, b), ("compare dogs and cats",), weight=0.15),
    Rule(
        "VERSUS_", "VERSUS K with|to|against K", lambda _, a, b: _versus(a, b), ("compare 2025 with 2024",), weight=0.2
    ),
    Rule(
        "VERSUS_",
        "K VERSUS same month|months|period|quarter|week|time of|in|from? K",
        lambda a, _, b: _versus(a, b),
        ("2025 against the same month of 2024",),
        weight=0.35,
    ),
    Rule("VERSUS_", "K than K", _versus, ("more in 2025 than in 2024",), weight=0.15),
    Rule(
        "VERSUS_",
        "K do|does|did? better|worse|more|less|higher|lower|well|badly than|as? K",
        _versus,
        ("dogs do better than cats",),
        weight=0.2,
    ),
    Rule("VERSUS_", "from K to K", _from_to, ("from 2024 to 2025",), weight=0.1),
    Rule("VERSUS_", "K to K", _from_to, ("2024 to 2025",), weight=0.0),
    Rule(
        "VERSUS_", "K and K", lambda a, b: _versus(b, a) if a.kind == "time" else None, ("2024 and 2025",), weight=0.05
    ),
    Rule("VERSUS_", "between K and K", lambda a, b: _versus(b, a), ("between 2024 and 2025",), weight=-0.05),
    Rule(
        "VERSUS_",
        "up|down|higher|lower|more|fewer|rising|falling|better|worse|changed on|than|since|over|against|compared TIME",
        lambda s: to_the_last(s) or _since(s),
        ("up on last month",),
        weight=0.35,
    ),
    Rule(
        "VERSUS_",
        "since TIME how NP has|have changed",
        lambda s, _: _since(s),
        ("since last month how visits have changed",),
        weight=0.35,
    ),
    Rule(
        "VERSUS_",
        "change|changed since|from|on|over TIME",
        lambda s: ends_of(s) or to_the_last(s) or _since(s),
        ("change since last month",),
        weight=0.35,
    ),
    Rule(
        "VERSUS_",
        "changed between|from|over? TIME",
        lambda s: ends_of(s) or to_the_last(s),
        ("changed between 2018 and 2024",),
        weight=0.35,
    ),
    Rule(
        "VERSUS_", "GREW between|from|over? TIME", lambda _, s: ends_of(s), ("rose between 2015 and 2024",), weight=0.12
    ),
    Rule(
        "VERSUS_",
        "GREW by? most|least|fastest|slowest between|from|over? TIME",
        lambda _, s: ends_of(s),
        ("grew most from 2018 to 2024",),
        weight=-0.2,
    ),
    Rule(
        "VERSUS_", "GROWTH of? between|from|over? TIME", lambda _, s: ends_of(s), ("growth 2010 to 2024",), weight=0.12
    ),
    Rule(
        "VERSUS_",
        "GROWTH of? E between|from|over? TIME",
        lambda _, e, s: (v, e) if (v := ends_of(s)) else None,
        ("growth of fee 2010 to 2024",),
        weight=0.15,
    ),
    Rule(
        "MOVED",
        "where|whose|that|which|with E GREW TIME",
        lambda e, g, s: _moved(e, g, s),
        ("where fee fell between 2015 and 2024",),
        weight=0.45,
    ),
    Rule("MOVED", "E GREW TIME", lambda e, g, s: _moved(e, g, s), ("fee fell between 2015 and 2024",), weight=-0.1),
    Rule(
        "MOVED", "where|whose|that|which E GREW", lambda e, g: Moved(e, g == "+", None), ("whose fee fell",), weight=0.2
    ),
    Rule(
        "MOVED",
        "that|which|who? GREW TIME",
        lambda g, s: _moved(None, g, s),
        ("that fell from 2024 to 2025",),
        weight=0.0,
    ),
    Rule(
        "MOVED",
        "WHICH C|T GREW between|from|over|in? TIME",
        lambda _, n, g, s: _which_moved(n, g, s),
        ("which clinics rose from 2024 to 2025",),
        weight=0.3,
    ),
    *(
        Rule(
            "VERSUS_",
            f"VERSUS {what} in|of|for|from? K and|with|to|against|, K",
            lambda _, q, a, b: _compared_in(q, a, b),
            (example,),
            weight=0.4,
        )
        for what, example in (
            ("E", "compare fee in 2024 and 2025"),
            ("Q", "compare average fee in 2024 and 2025"),
            ("CNT", "compare number of visits in 2024 and 2025"),
            ("T", "compare visits in 2024 and 2025"),
        )
    ),
    Rule(
        "VERSUS_",
        "VERSUS VS in|of|for|from? K and|with|to|against|, K",
        lambda _, v, a, b: _such_compared(v, a, b),
        ("compare dogs in 2024 and 2025",),
        weight=0.4,
    ),
    *(
        Rule(
            "MOVED",
            f"WHICH C|T had|have|has|did|does|do|with? {word} {what} K than K",
            lambda _, n, q, a, b, u=up: _more_in(n, q, a, b, u),
            (f"which clinics had {word.split('|')[0]} {said} in 2025 than in 2024",),
            weight=0.45,
        )
        for word, up in (("more|higher", True), ("fewer|less|lower", False))
        for what, said in (("T", "visits"), ("E", "fee"))
    ),
    *(
        Rule("VERSUS_", pattern, lambda a, _, b: _versus(a, b), (example,), weight=weight)
        for pattern, example, weight in (
            (
                "more|less|fewer|higher|lower|better|worse|busier|quieter|bigger|larger|smaller|longer|shorter|slower|faster|older|cheaper in|at|on|for|from|with? ,? K OR K",
                "more in 2025 or 2024",
                0.3,
            ),
            (
                "more|less|fewer|higher|lower|better|worse|busier|quieter|bigger|larger|smaller|longer|shorter|slower|faster|older|cheaper ,? K OR K",
                "better, dogs or cats",
                0.3,
            ),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _held_against(p), (example,), weight=0.45)
        for pattern, example in (
            (
                "does|do|did|is|are|was|were K OR K E in? more|most|less|least|better|higher",
                "does France or Spain pay more",
            ),
            (
                "does|do|did|is|are|was|were K or K VERB|W? more|most|less|least|better|worse|higher|bigger|cheaper|busier",
                "are dogs or cats more",
            ),
        )
    ),
    Rule(
        "G",
        "V VERSUS V VERSUS V",
        lambda a, _, b, __, c: each_of(a, b, c),
        ("France vs Spain vs Italy",),
        weight=0.4,
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _held_against(p), (example,), weight=0.3)
        for pattern, example in (
            ("K E than K", "dogs pay than cats"),
            ("E at|in|for|of|on? K than at|in|for|of|on? K", "fee in 2025 than in 2024"),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _how_much_more(p), (example,), weight=0.4)
        for pattern, example in (
            (f"how much RELADJ {_IS} K C|T|U? VERB|W? than K C|T|U?", "how much older are dogs than cats"),
            (f"how much|many {_MORE} {_IS} K C|T|U? E than K C|T|U?", "how much more do dogs cost than cats"),
            (f"how much|many {_MORE} E {_IS} K C|T|U? VERB? than K C|T|U?", "how much more fee do dogs pay than cats"),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _held_against(p), (example,), weight=0.4)
        for pattern, example in (
            (f"{_IS} K C|T|U? RELADJ than K C|T|U?", "are dogs older than cats"),
            (f"{_IS} K C|T|U? VERB|W RELADJ than K C|T|U?", "do dogs live longer than cats"),
            (f"{_IS} K C|T|U? E {_MORE} than K C|T|U?", "do dogs cost more than cats"),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _on_average(p), (example,), weight=0.4)
        for pattern, example in (
            (f"{_IS} K C|T|U? HAVING a? {_MORE} E than K C|T|U?", "do dogs have a higher fee than cats"),
            (f"{_IS} K C|T|U? E {_MORE} E than K C|T|U?", "do dogs pay a higher fee than cats"),
            (f"{_IS} E {_MORE} in|at|for|on|of K C|T|U? than K C|T|U?", "is fee higher for dogs than cats"),
        )
    ),
    *(
        Rule("Q", pattern, sums("-"), (example,), weight=0.35)
        for pattern, example in (
            (f"how much|many {_MORE} E {_IS}? than E", "how much more profit than fee"),
            (f"how much {_MORE} {_IS} E than E", "how much higher was profit than fee"),
        )
    ),
    Rule("VERSUS_", "K next to K", lambda a, b: _versus(a, b), ("2025 next to 2024",), weight=0.15),
    Rule("VERSUS_", "VERSUS K , K", lambda _, a, b: _versus(a, b), ("compare 2025, 2024",), weight=0.1),
    Rule(
        "VERSUS_",
        "TIME VERSUS same period|time|months|month|dates|days|stretch|quarter|week last|previous|prior year",
        lambda s, _: _year_on(s),
        ("this year vs the same period last year",),
        weight=0.4,
    ),
    Rule(
        "VERSUS_",
        "TIME VERSUS same period|time|months|month|dates|days|stretch|quarter|week a|one|the year before|earlier|ago",
        lambda s, _: _year_on(s),
        ("2025 vs the same period a year before",),
        weight=0.4,
    ),
    Rule("MORE", "INCREASE", lambda _: "change", ("how much more",)),
    Rule("MORE", "DIFF", lambda _: "change", ("difference",)),
    Rule(
        "MORE", "rise|fall|drop|growth|decline|decrease|jump|increase in|of", lambda: "change", ("rise in",), weight=0.5
    ),
)
