"""Sums that a question does with the measures: one times another, with a tax on top, so much per cent of it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Grouped, Measured, Noun, Top, Worked
from gumption.core.reading.rules.quantities import arithmetic

_TIMES = "times|x|×|*|multiplied|multiplicated"
_PERCENT = "%|percent|pct"
_TAX = "tax|vat|gst|surcharge|fee|margin|commission|interest|inflation|increase|rise|top|extra|more"


Op = Literal["+", "-", "*", "/"]
_BY_A_NUMBER: tuple[tuple[Op, str, str], ...] = (
    ("-", "minus|less|-", "minus"),
    ("+", "plus|+", "plus"),
    ("/", "divided|/ by?", "/"),
)

_product, _sum = arithmetic("*"), arithmetic("+")


def _scaled(measured: Measured, by: float) -> Measured | None:
    """A measure by a number, told of what it is by itself."""
    return Measured(m.Arithmetic("*", measured.expr, m.Number(by))) if by > 0 else None


def _by_a_number(op: Op) -> Callable[[Measured, float], Measured | None]:
    """A measure of each row with a number taken from it, added to it, or dividing it."""

    def build(measured: Measured, number: float) -> Measured | None:
        if number <= 0 or isinstance(measured.expr, m.Below):
            return None
        return Measured(m.Arithmetic(op, measured.expr, m.Number(number)))

    return build


def _whole_by_a_number(op: Op) -> Callable[[Worked, float], Worked | None]:
    """What all of it comes to, with a number taken from that, added to it, or dividing it."""

    def build(worked: Worked, number: float) -> Worked | None:
        quantity = worked.quantity
        if number <= 0 or not isinstance(quantity, m.Aggregated):
            return None
        return Worked(m.Combined(op, quantity, m.Number(number)))

    return build


def _more(measured: Measured, percent: float) -> Measured | None:
    """With so much per cent on top."""
    return _scaled(measured, 1 + percent / 100)


def _less(measured: Measured, percent: float) -> Measured | None:
    return _scaled(measured, 1 - percent / 100) if percent < 100 else None


def _percent_of(measured: Measured, percent: float) -> Measured | None:
    return _scaled(measured, percent / 100)


def _without(measured: Measured, percent: float) -> Measured:
    """Without a tax of so much per cent that is in it."""
    return Measured(m.Arithmetic("/", measured.expr, m.Number(1 + percent / 100)))


def _mean_of(made: Measured | None) -> Worked | None:
    return Worked(m.Aggregated("mean", made.expr)) if made is not None else None


def _row_by_row(function: str, one: Measured, two: Measured) -> Worked | None:
    """What is worked out of each row before it is averaged."""
    if one == two or function not in ("mean", "median", "max", "min"):
        return None
    return Worked(m.Aggregated(function, m.Arithmetic("/", one.expr, two.expr)))  # type: ignore[arg-type]


def _amount_of(parts: tuple[object, ...]) -> tuple[Measured, float]:
    measured = next(p for p in parts if isinstance(p, Measured))
    number = next(p for p in parts if isinstance(p, float))
    return measured, number


def _swiftest(*parts: object) -> tuple[object, ...] | None:
    """Which of them is slowest from one day to another: by how long it is on average."""
    by, start, end = (p for p in parts if isinstance(p, Noun))
    top = next(p for p in parts if isinstance(p, Top))
    if start.key is None or end.key is None or start == end or top.by is None:
        return None
    length = m.Length("days", m.Col(start.key), m.Col(end.key))
    return Grouped(by), Worked(m.Aggregated("mean", length)), Top(top.descending)


RULES = (
    *(
        Rule("E", pattern, _product, (example,), weight=weight)
        for pattern, example, weight in (
            (f"E {_TIMES} by|with|and? the? E", "fee × cost", 0.15),
            ("multiply|multiplying E by|with|and E", "multiply fee by cost", 0.5),
            (
                "multiply|multiplying E by|with|and E and add it|them all? up",
                "multiply fee by cost and add it all up",
                0.6,
            ),
            ("product of E and|with|& E", "product of fee and cost", 0.5),
        )
    ),
    *(
        Rule("E", pattern, _sum, (example,), weight=0.6)
        for pattern, example in (
            ("the? two together , E and|& E", "the two together, fee and cost"),
            ("E and|& E together|combined as one figure|number|sum", "fee and cost together as one figure"),
            ("E and|& E as one figure|number|sum", "fee and cost as one figure"),
            ("E plus|and E put|added|taken together", "fee plus cost added together"),
        )
    ),
    *(
        Rule("Q", pattern, lambda one, two: _mean_of(_sum(one, two)), (example,), weight=0.7)
        for pattern, example in (
            ("add E onto|to the? E and average that|it|them", "add cost onto the fee and average that"),
            ("average of E and|plus E together|combined", "average of fee and cost together"),
        )
    ),
    *(
        Rule("Q", pattern, _row_by_row, (example,), weight=0.6)
        for pattern, example in (
            ("AGG of? E divided|over|/ by? E , row|line by row|line", "average of fee divided by cost, row by row"),
            ("AGG of? E divided|over|/ by? E row|line by row|line", "average of fee over cost row by row"),
        )
    ),
    *(
        Rule("E", pattern, lambda *p: _more(*_amount_of(p)), (example,), weight=0.6)
        for pattern, example in (
            (f"E plus|with|incl|including|and|+ an? extra|additional? N {_PERCENT} {_TAX}", "fee plus 20% tax"),
            (f"E plus|+ N {_PERCENT}", "fee plus 20%"),
            (f"E raised|increased|uplifted|up by N {_PERCENT}", "fee increased by 20%"),
            (f"N {_PERCENT} on top of the? E", "20% on top of fee"),
            (f"add|adding N {_PERCENT} to|onto the? E", "add 20% to the fee"),
            (
                f"if every|each|all|the? E went|goes|go|were|was up|raised|increased by? N {_PERCENT}",
                "if every fee went up by 20%",
            ),
        )
    ),
    *(
        Rule("E", pattern, lambda *p: _less(*_amount_of(p)), (example,), weight=0.6)
        for pattern, example in (
            (f"E less|minus|- N {_PERCENT}", "fee less 20%"),
            (f"E reduced|cut|lowered|down by N {_PERCENT}", "fee reduced by 20%"),
            (f"knock|take|taking N {_PERCENT} off|from the? E", "knock 20% off the fee"),
            (
                f"if every|each|all|the? E went|goes|go|were|was down|cut|reduced by? N {_PERCENT}",
                "if every fee went down by 20%",
            ),
        )
    ),
    *(
        Rule("E", pattern, lambda *p: _without(*_amount_of(p)), (example,), weight=0.7)
        for pattern, example in (
            (f"E without|excluding|excl|ex|net of? N {_PERCENT} vat|tax|gst", "fee without 20% vat"),
            (f"E ex-vat|ex-tax|net|ex vat|tax? if|with|at N {_PERCENT} is? in? it?", "fee ex-vat if 20% is in it"),
        )
    ),
    *(
        Rule("E", pattern, lambda *p: _percent_of(*_amount_of(p)), (example,), weight=0.45)
        for pattern, example in (
            (f"commission|bonus|tax|vat|fee|royalty|levy of|at N {_PERCENT} of|on the? E", "commission at 20% of fee"),
            (
                "commission|bonus|tax|vat|fee|royalty|levy of|at N per cent of|on the? E",
                "commission at 20 per cent of fee",
            ),
            (f"WHICH N {_PERCENT} of the? E", "what is 20% of fee"),
            (f"N {_PERCENT} of the? E", "20% of fee"),
            (f"how much is|are|would N {_PERCENT} of the? E", "how much is 20% of fee"),
        )
    ),
    Rule("E", "half of the? E", lambda e: _scaled(e, 0.5), ("half of the fee",), weight=0.35),
    Rule("E", f"E {_TIMES} by? N", lambda e, n: _scaled(e, n), ("fee * 2",), weight=0.4),
    *(
        rule
        for op, pattern, said in _BY_A_NUMBER
        for rule in (
            Rule("E", f"E {pattern} N", _by_a_number(op), (f"fee {said} 2",), weight=0.3),
            Rule("Q", f"Q {pattern} N", _whole_by_a_number(op), (f"total fee {said} 2",), weight=0.45),
        )
    ),
    *(
        Rule("TOPX", pattern, _swiftest, (example,), weight=0.9)
        for pattern, example in (
            (
                "WHICH C is|are|was|were the? SUP from D to|until|till D",
                "which clinic is slowest from opened to closed",
            ),
            ("SUP C from D to|until|till D", "slowest clinic from opened to closed"),
        )
    ),
)
