"""So much of something as a condition: more than a tenth of the rent, less than half full."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.derived import room_for
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Held, Measured, Noun, Part, Rated, Worked
from gumption.core.reading.rules.quantities import sums

_OPS = frozenset([">", "<", ">=", "<=", "="])
_IS = "is|are|was|were|has|have|had|been|being|got|get|gets"
_OF = "of all? the|their|its|his|her|your|our|what|all?"
_FRACTIONS = (
    ("half", 50.0),
    ("a|one quarter", 25.0),
    ("three quarters", 75.0),
    ("a|one third", 100 / 3),
    ("two thirds", 200 / 3),
    ("a|one fifth", 20.0),
    ("a|one tenth", 10.0),
)
"""How large a part of something is, in per cent."""


def _of(whole: object, part: object) -> Worked | None:
    """One measure as a percentage of another."""
    if not isinstance(whole, Measured) or not isinstance(part, Measured) or whole == part:
        return None
    made = sums("/")(part, whole)
    if made is None or not isinstance(made.quantity, m.Combined):
        return None
    return Worked(m.Combined("/", made.quantity.left, made.quantity.right, percent=True))


def _held(parts: tuple[object, ...], what: Worked | Rated | None) -> Held | None:
    op = next(p for p in parts if isinstance(p, str) and p in _OPS)
    percent = next(p for p in parts if isinstance(p, float))
    return Held(what, op, percent) if what is not None else None  # type: ignore[arg-type]


_MAKES_UP = (
    "that|who|which? make|makes|making|made|account|accounts|accounting|accounted|contribute|contributes|contributing|bring"
    "|brings|bringing|represent|represents|representing up|for|to|in?"
)


def _making_up(parts: tuple[object, ...]) -> Held | None:
    """Products that make up more than so much of the revenue: their share of all of it."""
    whole = parts[-1]
    if isinstance(whole, Measured):
        return _held(parts, Worked(m.Along(m.in_all(whole.expr), "share")))
    table = whole.table if isinstance(whole, Noun) else None
    return _held(parts, Worked(m.Along(m.Aggregated("count", table=table), "share"))) if table is not None else None


_IN_PERCENT = "as|in a|the? percentage|percent|%|pct|share|proportion"


def _rows_in_percent(parts: tuple[object, ...]) -> Worked | None:
    """Lets that ended within a year, as a percentage: of all the lets."""
    part = next(p for p in parts if isinstance(p, Part))
    rows = next(p for p in parts if isinstance(p, Noun))
    return Worked(m.ShareOf((part.condition,), rows.table)) if part.kind != "time" else None


def _such(parts: tuple[object, ...]) -> Held | None:
    """So much of what each has is so: the share of those that meet a condition, or of one measure in another."""
    part = next(p for p in parts if isinstance(p, Part))
    named = next((p.table for p in parts if isinstance(p, Noun)), None)
    match part.condition:
        case m.Compared(op=">=" | "=", left=m.Col() | m.Arithmetic() as left, right=m.Col() as right) if (
            part.kind == "state" and named is None
        ):
            # Full is having as many booked as there are places.
            return _held(parts, _of(Measured(room_for(left, right)), Measured(left)))
        case _:
            return _held(parts, Worked(m.ShareOf((part.condition,), named))) if part.kind != "time" else None


RULES = (
    Rule(
        "Q",
        "SHARE of? the|our|their? E do|does|did we|they|you|it MV out? again|back|away|on?",
        lambda *p: _of(p[-2], Measured(m.Col(p[-1].key))) if p[-1].key is not None else None,
        ("what share of the fee do we sold",),
        weight=0.4,
    ),
    *(
        Rule("Q", pattern, lambda *p: _rows_in_percent(p), (example,), weight=0.6)
        for pattern, example in (
            (f"T K ,? {_IN_PERCENT}", "visits that were overdue, as a percentage"),
            (f"K T ,? {_IN_PERCENT}", "overdue visits as a percentage"),
        )
    ),
    Rule("PCT", "N %|percent|pct", lambda n: n, ("10 percent",), weight=0.3),
    Rule("PCT", "N per cent", lambda n: n, ("10 per cent",), weight=0.3),
    *(
        Rule("PCT", words, lambda p=percent: p, (words.replace("a|one", "a"),), weight=0.4)
        for words, percent in _FRACTIONS
    ),
    *(
        Rule("H", pattern, lambda *p: _held(p, _of(p[-1], p[0])), (example,), weight=weight)
        for pattern, example, weight in (
            (f"E {_IS}? {_IS}? CMP PCT {_OF} E", "cost is more than 10 percent of their fee", 0.7),
            ("E MV? on|for? CMP PCT of? the|their? E", "cost for more than 10 percent of fee", 0.5),
        )
    ),
    Rule(
        "H",
        f"CMP PCT {_OF} E E",
        lambda *p: _held(p, _of(p[-2], p[-1])),
        ("less than half of the fee cost",),
        weight=0.5,
    ),
    *(
        Rule("H", pattern, lambda *p: _making_up(p), (example,), weight=0.7)
        for pattern, example in (
            ("HAVING CMP PCT of the|our|all|total|overall? E", "with more than 5 percent of the fee"),
            (
                f"{_MAKES_UP} CMP PCT of the|our|all|total|overall? AGG? E|T",
                "that make up over 10 percent of the total fee",
            ),
        )
    ),
    *(
        Rule("H", pattern, lambda *p: _held(p, Rated(p[-1].expr)), (example,), weight=0.6)
        for pattern, example in (
            (f"of which|whom CMP PCT {_IS}? {_IS}? E", "of which more than 10 percent was cost"),
            ("HAVING CMP PCT E", "with more than 10 percent cost"),
        )
    ),
    *(
        Rule("H", pattern, lambda *p: _such(p), (example,), weight=weight)
        for pattern, example, weight in (
            (f"{_IS}? CMP PCT K", "less than half overdue", 0.4),
            (
                f"of which|whom|whose CMP PCT of? the|their|all? T? {_IS}? {_IS}? K",
                "of which more than 10 percent overdue",
                0.7,
            ),
            (
                f"where CMP PCT of? the|their|all? T {_IS}? {_IS}? K",
                "where more than half of the visits were overdue",
                0.6,
            ),
            ("HAVING CMP PCT of the|their|all? T K", "with more than half of their visits overdue", 0.6),
            ("HAVING CMP PCT of the|their|all? K T?", "with more than half of the overdue visits", 0.5),
            ("HAVING CMP PCT K T?", "with over 10 percent overdue visits", 0.6),
            ("K CMP PCT of the|their|all T", "overdue more than a third of their visits", 0.5),
            (f"CMP PCT of whose|which|their T {_IS}? {_IS}? K", "more than half of whose visits were overdue", 0.7),
        )
    ),
)
