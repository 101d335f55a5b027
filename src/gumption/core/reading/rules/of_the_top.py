"""How much of a whole those make up of whom there is the most: the income from the five best customers."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Counted, Measured, Noun, OfTop, Part, Top
from gumption.core.reading.times import Span, span_condition

_COMES = (
    "is|are|was|were|comes|come|came|coming|made|goes|go|went|belongs|belong|hangs|depends|rests|earned|brought|handled"
)
DO = (
    "bring|brings|handle|handles|make|makes|account|accounts|contribute|contributes|generate|generates|take|takes|hold|"
    "holds|have|has|represent|represents|get|gets|produce|produces|sell|sells|earn|earns|deliver|delivers|give|gives|"
    "cover|covers|provide|provides|win|wins|buy|buys|spend|spends|pay|pays|do|does|form|forms|see|sees|treat|treats"
)


def _whole(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What it is a part of, and when."""
    of = next((p for p in parts if isinstance(p, (Measured, Noun))), None)
    if of is None or (isinstance(of, Noun) and of.table is None):
        return None
    return of, *(p for p in parts if isinstance(p, Span))


def _ranked(top: object) -> tuple[Top, Counted | None] | None:
    """The first few of a kind, with what they are counted by where that is said."""
    one, *rank = top if isinstance(top, tuple) else (top,)
    if not isinstance(one, Top) or one.noun is None or one.number is None or one.skip:
        return None
    counted = next((r for r in rank if isinstance(r, Counted)), None)
    if len(rank) != (counted is not None):
        return None
    # The busiest vets are not those of most vets.
    named = {one.noun.table, one.noun.key.table if one.noun.key is not None else None}
    return one, counted if counted is not None and counted.noun.table not in named else None


def _of_top(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How much of the whole is theirs, with the time that is said."""
    pairs = [p for p in parts if isinstance(p, tuple)]
    of, *spans = next(p for p in pairs if not isinstance(p[0], Top))
    top, rank = next(p for p in pairs if isinstance(p[0], Top))
    return OfTop(of, top, rank), *(Part(span_condition(s, m.EventTime()), "time") for s in spans)


def _percent_of_them(parts: tuple[object, ...]) -> OfTop | None:
    """Whether so many in a hundred bring in most of it: how much the best of them do."""
    number = next(p for p in parts if isinstance(p, float))
    noun = next(p for p in parts if isinstance(p, Noun))
    of = next(p for p in parts if isinstance(p, Measured))
    return OfTop(of, Top(True, int(number), noun=noun, percent=True)) if 1 <= number < 100 else None


def _of_what(parts: tuple[object, ...]) -> OfTop | None:
    """Whether a few bring in over half of it: how much of it they do."""
    top, rank = next(p for p in parts if isinstance(p, tuple))
    of = next(p for p in parts if isinstance(p, (Measured, Noun)))
    return None if isinstance(of, Noun) and of.table is None else OfTop(of, top, rank)


_OVER = "over|more|less|under|most|half|at|about|nearly|almost|than|least? a|the|than|least? half|quarter|third|majority|bulk|PCT"
RULES = (
    Rule(
        "OFALL",
        "SHARE|HOWMUCH of? our|all|the? total|whole|entire|overall? TIME? E|T TIME?",
        lambda *p: _whole(p),
        ("share of the total fee",),
    ),
    Rule("FEW", "TOP", _ranked, ("the top 3 clinics",)),
    Rule("FEW", "TOPX", _ranked, ("the three clinics with the most visits",)),
    *(
        Rule("SHRX", pattern, lambda *p: _of_top(p), (example,), weight=weight)
        for pattern, example, weight in (
            (
                f"OFALL VERB|{_COMES} coming|made|from|with|by|on|to|for|up|in|of? from|by|on|in? FEW",
                "what share of fee comes from the top 3 clinics",
                0.45,
            ),
            ("OFALL from|with|by|of|for FEW", "what share of fee from the top 3 clinics", 0.4),
            ("FEW OFALL", "top 3 clinics' share of the fee", 0.5),
            (f"OFALL that|which FEW MV|VERB|W|{DO}", "share of the fee that the top 3 clinics paid", 0.6),
            (f"OFALL do|does|did FEW VERB|W|{DO} for|up|in|to?", "how much fee do the top 3 clinics make up", 0.5),
            (f"FEW VERB|W|{DO} for|up|in|to? OFALL", "the top 3 clinics make up what share of fee", 0.5),
        )
    ),
    *(
        Rule("SHRX", pattern, lambda *p: _of_what(p), (example,), weight=0.7)
        for pattern, example in (
            (
                f"do|does|did|is|are|can the? FEW {DO} for|up|in|to? {_OVER} of? our|all|the? total|whole|entire|overall? E|T",
                "do the 3 heaviest animals bring in over half of the fee",
            ),
        )
    ),
    *(
        Rule("SHRX", pattern, lambda *p: _percent_of_them(p), (example,), weight=0.6)
        for pattern, example in (
            (
                f"do|does|is PCT of the? T|C VERB|MV|W|{DO} for|up|in|to? PCT of? our|all|the? total|whole? E",
                "do 20% of the owners bring in 80% of the fee",
            ),
        )
    ),
)
