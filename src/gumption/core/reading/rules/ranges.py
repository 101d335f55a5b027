"""Numbers that lie between two others, or outside of them, with and without a word for what they are of."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Held, Measured, Part
from gumption.core.reading.rules.conditions import between, is_year

_TO = "to|and|-|–|til|till|until|thru|through|up"
_OF_MONEY = "pounds|euros|dollars|quid|bucks"
_RANGE = "range|bracket|band|interval|bin|bucket"


def _ends(parts: tuple[object, ...]) -> tuple[float, float] | None:
    """The two numbers in order; nothing for two years, which are a span of time."""
    low, high = sorted(p for p in parts if isinstance(p, float))
    return None if low == high or (is_year(low) and is_year(high)) else (low, high)


def _inside(*parts: object) -> Part | None:
    """A named measure between two numbers, in whichever order they are said."""
    ends = _ends(parts)
    expr = next(p.expr for p in parts if isinstance(p, Measured))
    return between(expr, *ends) if ends is not None else None


def _outside(*parts: object) -> Part | None:
    ends = _ends(parts)
    expr = next(p.expr for p in parts if isinstance(p, Measured))
    if ends is None:
        return None
    return Part(m.Any((m.Compared("<", expr, m.Number(ends[0])), m.Compared(">", expr, m.Number(ends[1])))), "number")


def _strung(low: float, one: m.Comparison, measured: Measured, two: m.Comparison, high: float) -> Part | None:
    """5 < fee < 10, as it is written in sums."""
    if one[0] not in "<>" or one[0] != two[0]:
        return None
    expr = measured.expr
    return Part(
        m.All((m.Compared(m.mirrored(one), expr, m.Number(low)), m.Compared(two, expr, m.Number(high)))), "number"
    )


def _held_inside(*parts: object) -> tuple[Held, Held] | None:
    """Between two numbers, of what nobody names."""
    ends = _ends(parts)
    return (Held(None, ">=", ends[0]), Held(None, "<=", ends[1])) if ends is not None else None


def _held_outside(*parts: object) -> Held | None:
    ends = _ends(parts)
    return Held(None, ">", ends[1], or_below=ends[0]) if ends is not None else None


def _either(op: m.Comparison, number: float, other: m.Comparison, second: float) -> Held | None:
    """Below one number or above another."""
    told = {op[0]: number, other[0]: second}
    if set(told) != {"<", ">"} or told["<"] > told[">"]:
        return None
    return Held(None, ">", told[">"], or_below=told["<"])


RULES = (
    *(
        Rule("K", pattern, _inside, (example,), weight=weight)
        for pattern, example, weight in (
            (
                f"E is|are|was|were|lies|lie|lying|sits|sit|falls|fall? somewhere|anywhere? BETWEEN N {_TO} N",
                "fee lies between 20 and 50",
                0.3,
            ),
            (f"E is|are|lies|lie|sits|falls inside|within|in N {_TO} N", "fee lies inside 20 and 50", 0.4),
            (f"BETWEEN N {_TO} N on|for|in|of the? E", "between 20 and 50 on fee", 0.35),
            (f"E N {_TO} N", "fee 20 thru 50", 0.15),
            ("E min|minimum N ,|and? max|maximum N", "fee min 20 max 50", 0.6),
            ("E max|maximum N ,|and? min|minimum N", "fee max 50 min 20", 0.6),
            (f"E in the? N {_TO} N {_RANGE}", "fee in the 20 to 50 range", 0.5),
        )
    ),
    *(
        Rule("K", pattern, _outside, (example,), weight=0.6)
        for pattern, example in (
            (f"E is|are|was? NEG in? BETWEEN N {_TO} N", "fee not between 20 and 50"),
            (f"E outside|beyond of? the? N {_TO} N {_RANGE}", "fee outside the 20 to 50 range"),
            (f"E outside|beyond of? N {_TO} N", "fee outside 20 to 50"),
        )
    ),
    Rule("K", "N SIGN E SIGN N", _strung, ("20 < fee < 50",), weight=0.9),
    *(
        Rule("BESX", pattern, _held_inside, (example,), weight=weight)
        for pattern, example, weight in (
            (
                f"falling|falls|fall|lying|lies|lie|landing|sitting|sit? somewhere|anywhere? BETWEEN N {_TO} N",
                "between 20 and 50",
                0.2,
            ),
            (f"BETWEEN N {_TO} N {_OF_MONEY}", "between 20 and 50 pounds", 0.3),
            (f"from N up? {_TO} N {_OF_MONEY}?", "from 20 to 50", 0.1),
            (f"at least N and no|not more than N {_OF_MONEY}?", "at least 20 and no more than 50", 0.3),
            (f"N {_TO} N {_OF_MONEY}?", "20 to 50", 0.0),
            (f"in the? N {_TO} N {_RANGE}", "in the 20 to 50 range", 0.5),
            (f"anywhere|somewhere from N {_TO} to? N", "anywhere from 20 up to 50", 0.5),
            (f"somewhere in the middle , N {_TO} N", "somewhere in the middle, 20 to 50", 0.5),
        )
    ),
    *(
        Rule("H", pattern, _held_outside, (example,), weight=0.6)
        for pattern, example in (
            (f"NEG in? BETWEEN N {_TO} N", "not between 20 and 50"),
            (f"outside|beyond of? the? N {_TO} N {_RANGE}", "outside the 20 to 50 range"),
        )
    ),
    Rule("H", "either? CMP N or CMP N", _either, ("either below 20 or above 50",), weight=0.6),
)
