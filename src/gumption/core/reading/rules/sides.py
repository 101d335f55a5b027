"""Named values and conditions, each by itself: cash and card side by side, with a fee and without, either side of a day."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Counted, Direction, Grouped, Measured, Noun, Part, Values, as_counted
from gumption.core.reading.times import Span, span_condition

_JOIN = "and|&|,|+"
_SEPARATELY = "separately|apart|individually|respectively"
_REST = "rest|others|remainder"


def _each(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Values of one column, each told by itself, with what is asked of them."""
    values = [p for p in parts if isinstance(p, Values)]
    told: list[str | int | float | bool] = [v for p in values for v in p.values]
    if len({p.column for p in values}) != 1 or len(set(told)) < 2 or len(set(told)) < len(told):
        return None
    column = values[0].column
    rest = [as_counted(p) if isinstance(p, Noun) and p.table else p for p in parts if not isinstance(p, (Values, str))]
    return (*rest, Part(m.Is(column, tuple(told)), "value"), Grouped(Noun(key=column)))


def _against_rest(values: Values, *parts: object) -> tuple[object, ...]:
    """One value, and all the others together."""
    return (*parts, Grouped(m.Test(m.Is(values.column, values.values))))


def _present(noun: Noun | Measured, *rows: object) -> tuple[object, ...] | None:
    """Those on which it stands, and those on which it does not."""
    key = noun.expr.key if isinstance(noun, Measured) and isinstance(noun.expr, m.Col) else getattr(noun, "key", None)
    if key is None:
        return None
    counted = tuple(as_counted(r) for r in rows if isinstance(r, Noun) and r.table)
    return (*counted, Grouped(m.Test(m.Not(m.Missing(key)))))


def _around(span: Span, *parts: object) -> tuple[object, ...] | None:
    """What was before a day or a year, and what has been since."""
    if span.low is None or span.part is not None:
        return None
    since = span_condition(Span(span.low, None), m.EventTime())
    return (*(as_counted(p) if isinstance(p, Noun) and p.table else p for p in parts), Grouped(m.Test(since)))


def _around_average(rows: Noun, measured: Measured) -> tuple[object, ...] | None:
    if rows.table is None:
        return None
    above = m.Compared(">", measured.expr, m.Aggregated("mean", measured.expr))
    return Counted(rows), Grouped(m.Test(above))


RULES = (
    *(
        Rule("BESX", pattern, lambda *p: _each(p), (example,), weight=0.9)
        for pattern, example in (
            (f"E side by side|side for V {_JOIN} V", "fee side by side for Dog and Cat"),
            ("E|Q of V , of V and|, of V", "fee of France, of Spain and of Italy"),
            ("E|Q of V , of V", "fee of Dog, of Cat"),
            (f"Q of V {_JOIN} of V", "average fee of Dog and of Cat"),
            (f"V {_JOIN} V {_SEPARATELY}", "Dog and Cat separately"),
            (f"T for|of V {_JOIN} V {_SEPARATELY}", "visits for Dog and Cat separately"),
            ("V : V", "Dog : Cat"),
            ("V VERSUS V comparison|comparision , T|E|Q", "Dog vs Cat comparison, fee"),
            ("V VERSUS? V comparison|comparision , T|E|Q", "Dog Cat comparison, fee"),
            (
                "comparison|comparision of? V with|and|against V about|on|in|for|regarding T|E|Q",
                "comparison of Dog with Cat about fee",
            ),
            (f"just|only the? C V {_JOIN} V , T|E|Q in|for? each", "just the species Dog and Cat, visits in each"),
        )
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p: (*found, Direction(True)) if (found := _each(p)) else None,
            (example,),
            weight=0.9,
        )
        for pattern, example in (
            (
                "WHICH did|does|do|is|was better|best|more|higher|bigger in|on|for? T|E|Q , V or V",
                "which did better in fee, Dog or Cat",
            ),
            ("WHICH has|had|made|brought more|higher|bigger T|E|Q , V or V", "which had more visits, Dog or Cat"),
            (
                "V or V , WHICH is|was|has|had more|bigger|larger|higher|better T|E|Q",
                "Dog or Cat, which had more visits",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _against_rest(*p), (example,), weight=0.9)
        for pattern, example in (
            (
                f"V VERSUS|against|beside all|everything|everyone|everybody the? {_REST}|else put|taken|lumped? together?",
                "Dog against all the others put together",
            ),
            (
                "everyone|everything|everybody|all compared with|to|against V :|,|on|in T|E|Q",
                "everyone compared with Dog: fee",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _present(*p), (example,), weight=0.9)
        for pattern, example in (
            (
                "by whether the? C|D|M is|are|was filled|known|present|there|given|recorded|set|empty|missing|blank",
                "by whether breed is known",
            ),
            (
                "whether the? C|D|M is|are|was filled|known|present|there|given|recorded|set|empty|missing|blank",
                "whether breed is known",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda t, d, *_: _present(d, t), (example,), weight=0.9)
        for pattern, example in (
            (
                "T where the? C|D|M is|are|was known|present|there|given|filled VERSUS|next|beside|against to? T|those|ones where it|that isn't|is|wasn't|was not|missing|unknown?",
                "animals where breed is known next to animals where it isn't",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _around(*p), (example,), weight=0.9)
        for pattern, example in (
            ("before|pre and|/|vs|versus|- after|post TIME :|,? T|E|Q", "before and after 2025: visits"),
            ("pre-|pre / post TIME T|E|Q", "pre/post 2025 average fee"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda p, s: _around(s, p), (example,), weight=0.9)
        for pattern, example in (
            ("T|E|Q before|pre and|/|vs|versus after|post TIME", "visits before and after 2025"),
            ("T|E|Q either|each|both side|sides of TIME", "visits either side of 2025"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda t, e: _around_average(t, e), (example,), weight=0.9)
        for pattern, example in (
            (
                "above average|-average? and|vs|versus|/ below average|-average T by|in|on E",
                "above-average and below-average visits by fee",
            ),
        )
    ),
)
