"""Periods in which something rose or fell on the one before: months in which income fell, how many of them did."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Counted, Grouped, Marker, Measured, Noun, Part, Stepped, Worked, as_counted
from gumption.core.reading.times import Span, span_condition

_UP = "up|higher|more|better|greater|larger|bigger"
_DOWN = "down|lower|less|fewer|worse|smaller"
_BEFORE = "previous|preceding|last"
_ROSE = "rise|increase|growth|gain|jump"
_FELL = "fall|drop|decrease|decline|dip|loss"


def _step(parts: tuple[object, ...], up: bool | None = None) -> tuple[object, ...] | None:
    """What it is that rose or fell, and which way."""
    sign = next((p for p in parts if p in ("+", "-")), None)
    such = next((p for p in parts if isinstance(p, Part)), None)
    said = [p for p in parts if isinstance(p, (Counted, Measured, Noun, Worked))]
    if such is not None:
        # No-shows are visits that are so.
        tables = {k.table for k in m.columns_in(such.condition)}
        if such.kind not in ("value", "state", "flag") or len(tables) != 1:
            return None
        said = [Worked(m.Aggregated("count", table=tables.pop(), where=(such.condition,)))]
    if len(said) != 1 or (isinstance(said[0], Noun) and said[0].table is None) or said[0] == Counted(Noun()):
        return None
    return as_counted(said[0]), Stepped(up if up is not None else sign == "+")


def _the_step(parts: tuple[object, ...]) -> object:
    return next(p for p in parts if isinstance(p, tuple))


def _by_percent(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """By so many in a hundred."""
    step = next(p for p in parts if isinstance(p, tuple))
    op: m.Comparison = next((p for p in parts if p in (">", ">=", "<", "<=")), ">=")
    number = next(p for p in parts if isinstance(p, float))
    return (*step[:-1], Stepped(step[-1].up, op, number)) if op in (">", ">=") else None


def _in_periods(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """The periods themselves, shown with what it was in each and how far it had come."""
    unit = next(p for p in parts if isinstance(p, str) and p in _AXES)
    step = next(p for p in parts if isinstance(p, tuple))
    times = [p for p in parts if isinstance(p, Span)]
    asked: tuple[object, ...] = (Marker("counted"),) if "counted" in parts else ()
    told = (Part(span_condition(s, m.EventTime()), "time") for s in times)
    return *asked, Grouped(m.PartOf(_AXES[unit], m.EventTime())), *step, *told


_AXES: dict[str, m.Unit] = {u: u for u in ("year", "quarter", "month", "week", "day")}

RULES = (
    Rule("STEP", "E|Q|T|CNT has|have|had|did? GREW", lambda *p: _step(p), ("fee fell",), weight=0.1),
    Rule(
        "STEP",
        "CNT? K T? has|have|had|did? GREW",
        lambda *p: _step(tuple(x for x in p if isinstance(x, (Part, str)))),
        ("overdue visits fell",),
        weight=0.05,
    ),
    *(
        Rule("STEP", pattern, lambda *p, u=up: _step(p, u), (example,), weight=weight)
        for up, words, nouns in ((True, _UP, _ROSE), (False, _DOWN, _FELL))
        for pattern, example, weight in (
            (f"E|Q|T|CNT is|are|was|were|went|came {words}", f"fee was {words.split('|')[0]}", 0.1),
            (f"a|an? {nouns} in|of the? E|Q|T|CNT", f"a {nouns.split('|')[0]} in fee", 0.2),
            (f"HAVING {words} E|T", f"with {words.split('|')[1]} fee", 0.0),
        )
    ),
    *(
        Rule("STEPX", pattern, lambda *p: _the_step(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("STEP", "fee fell", 0.0),
            (
                f"STEP than|on|from|against|over|compared to|with|on? the? {_BEFORE}? UNIT before|earlier?",
                "fee fell on the month before",
                0.3,
            ),
            (f"STEP than|on|from|against|over the? {_BEFORE} one?", "fee was lower than the previous one", 0.2),
            (
                "STEP than|on|from|against|over the? one|month|year|week|quarter|day before",
                "fee was lower than the one before",
                0.3,
            ),
        )
    ),
    *(
        Rule("STEPX", pattern, lambda *p: _by_percent(p), (example,), weight=0.3)
        for pattern, example in (
            ("STEP by? CMP PCT", "fee fell by more than 10%"),
            ("STEP of|by PCT ORMORE", "fee fell by 10% or more"),
        )
    ),
    *(
        Rule("QX", pattern, lambda *p: _in_periods(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("in|during? WHICH UNIT TIME? did|do|does|has|have|had? STEPX TIME?", "in which months did fee fall", 0.2),
            ("UNIT TIME? in|during|when|where|that|which which? STEPX TIME?", "months in which fee fell", 0.6),
            ("UNIT TIME? HAVING STEPX TIME?", "months with a fall in fee", 0.5),
            ("WHICH UNIT TIME? HAVING|saw STEPX TIME?", "which months saw a fall in fee", 0.6),
        )
    ),
    *(
        Rule("QX", pattern, lambda *p: _in_periods(("counted", *p)), (example,), weight=0.7)
        for pattern, example in (
            (
                "in|during|for? COUNT UNIT TIME? did|do|does|has|have|had? STEPX TIME?",
                "in how many months did fee fall",
            ),
            ("COUNT UNIT TIME? in|during|when|where|that which? STEPX TIME?", "number of months in which fee fell"),
            ("COUNT UNIT TIME? HAVING|saw STEPX TIME?", "how many months saw a fall in fee"),
        )
    ),
)
