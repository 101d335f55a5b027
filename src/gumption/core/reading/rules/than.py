"""What is more or less than something else: more dogs than cats, dearer per visit than the house as a whole.

What is held and what it is held against are pieces of their own, so that each way of saying the one goes with each
way of saying the other.
"""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import (
    Beyond,
    Counted,
    Function,
    Grouped,
    Held,
    Measured,
    Noun,
    Part,
    Ratio,
    Shared,
    Worked,
)

_MORE: tuple[tuple[m.Comparison, str], ...] = (
    (">", "more|higher|larger|bigger|greater"),
    ("<", "less|fewer|lower|smaller"),
)
_LONGER: tuple[tuple[m.Comparison, str], ...] = ((">", "longer"), ("<", "shorter"))
_JUDGED: tuple[tuple[m.Comparison, str], ...] = ((">", "better"), ("<", "worse|poorer"))
"""What is better or worse, which says more or less only once it is known whether more of it is good."""
_IS = "is|are|was|were|lies|runs"
_OWN = "they|it|he|she|we have|has|had|got|is|are|were?"
_USUAL = "the? average|usual|mean|norm|normal|most|overall"


def _more(op: m.Comparison, parts: tuple[object, ...], judged: bool = False) -> Beyond | None:
    """So much of what is named: rows are counted, also such rows, and a measure is what it is for each."""
    said = [p for p in parts if isinstance(p, (Counted, Measured, Noun, Part, Ratio, Shared, Worked))]
    if len(said) != 1:
        return None
    match said[0]:
        case Noun(table=str()) as rows:
            return Beyond(Counted(rows), op, judged)
        case Noun(key=m.ColumnKey()) as rows:
            return Beyond(Counted(rows, distinct=True), op, judged)
        case Part(kind="value" | "state") as such:
            return Beyond(such, op, judged)
        case Counted() | Measured() | Ratio() | Shared() | Worked() as what:
            return Beyond(what, op, judged)
        case _:
            return None


def _done_more(op: m.Comparison, noun: Noun) -> Beyond | None:
    """Sold more, brought in less: so much of the column that tells of it."""
    return Beyond(Measured(m.Col(noun.key)), op) if noun.key is not None else None


def _more_per(op: m.Comparison, parts: tuple[object, ...]) -> Beyond | None:
    """So much for each of something."""
    what, each = parts
    if isinstance(each, tuple):
        # Per hour: of the column that tells the hours.
        each = Measured(each[1])
    bottom = Counted(each) if isinstance(each, Noun) else each
    if isinstance(what, Noun):
        what = Measured(m.Col(what.key)) if what.key is not None else Counted(what)
    if not isinstance(what, (Measured, Counted)) or not isinstance(bottom, (Measured, Counted)) or what == bottom:
        return None
    return Beyond(Ratio(what, bottom), op)


def _by_nature(compared: tuple[m.Comparison, m.Expr]) -> Beyond:
    """Heavier, older: each on average."""
    op, expr = compared
    return Beyond(Worked(m.Aggregated("mean", expr)), op)


def _of_the_row(parts: tuple[object, ...]) -> Part | None:
    """Visits that cost more than average: each by what stands on its own row."""
    beyond = next(p for p in parts if isinstance(p, Beyond))
    match beyond.what:
        case Measured(expr=expr) | Worked(quantity=m.Aggregated(function="mean", expr=m.Col() as expr)):
            own = m.Compared(beyond.op, expr, m.Aggregated("mean", expr))
            return Part(own, "number") if not beyond.judged else None
        case _:
            return None


def _than_of_the_row(parts: tuple[object, ...]) -> Part | None:
    """Schools with more pupils than places: each row by two of its own columns."""
    beyond, other = parts[-2:]
    one = beyond.what if isinstance(beyond, Beyond) else None
    if not isinstance(beyond, Beyond) or not isinstance(one, Measured) or not isinstance(other, Measured):
        return None
    if one.expr == other.expr or beyond.judged:
        return None
    return Part(m.Compared(beyond.op, one.expr, other.expr), "number")


def _than_all(parts: tuple[object, ...]) -> tuple[object, ...]:
    """More than all of them come to, or than one of them does on average."""
    beyond = next(p for p in parts if isinstance(p, Beyond))
    # What a share is of may be said elsewhere.
    shared = (beyond.what,) if isinstance(beyond.what, Shared) else ()
    what = None if shared else beyond.what
    return *shared, Held(what, beyond.op, Function("mean"), judged=beyond.judged)


def _than_all_of_theirs(parts: tuple[object, ...]) -> tuple[object, ...]:
    """Authors whose books are longer than average: each by what is theirs."""
    return Grouped(next(p for p in parts if isinstance(p, Noun))), *_than_all(parts)


def _than_others_like_them(parts: tuple[object, ...]) -> tuple[object, ...]:
    """Who spends more than the average owner: owners, each by what is theirs."""
    return next(p for p in parts if isinstance(p, Noun)), *_than_all(parts)


def _than_other(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """More of one thing than of another."""
    beyond, said = parts[-2:]
    other = Counted(said, distinct=said.table is None) if isinstance(said, Noun) else said
    if not isinstance(beyond, Beyond) or not isinstance(other, (Measured, Worked, Counted, Part)):
        return None
    if beyond.what == other or beyond.judged or isinstance(beyond.what, Shared):
        return None
    if isinstance(beyond.what, Part) and isinstance(other, Part):
        if {k.table for k in m.columns_in(beyond.what.condition)} != {k.table for k in m.columns_in(other.condition)}:
            return None
    counted = [isinstance(p, (Counted, Part)) for p in (beyond.what, other)]
    if any(counted) and not all(counted) and not isinstance(other, Measured):
        # What is paid is not held against how many there are.
        return None
    if isinstance(other, Part) and other.kind not in ("value", "state"):
        return None
    return (Held(beyond.what, beyond.op, other),)


def _than_one(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """More than one that is named: a higher rating than Harrow Street has."""
    beyond, one = (p for p in parts if isinstance(p, (Beyond, Part)))
    assert isinstance(beyond, Beyond) and isinstance(one, Part)
    if one.kind != "value" or isinstance(beyond.what, (Part, Shared)) or not isinstance(one.condition, m.Is):
        return None
    return (Held(beyond.what, beyond.op, one, judged=beyond.judged),)


RULES = (
    *(
        Rule("BEYOND", pattern, lambda *p, o=op, j=judged: _more(o, p, j), (example,), weight=weight)
        for judged, kinds in ((False, _MORE), (False, _LONGER), (True, _JUDGED))
        for op, words in kinds
        for said in (words.split("|")[0],)
        for pattern, example, weight in (
            (f"a|an? {words} Q|E|SHR|RATIO", f"a {said} average fee", 0.1),
            (f"Q|E|SHR|RATIO {_IS} {words}", f"average fee is {said}", 0.1),
            *(
                (
                    (f"VERB? {words} T", f"{said} visits", 0.1),
                    (f"CNT {_IS} {words}", f"number of visits is {said}", 0.1),
                    (f"T us|them? {words}", f"visited {said}", 0.0),
                    (f"{words} K T?", f"{said} dogs", 0.05),
                    (f"a|an? {words} CNT", f"a {said} number of visits", 0.1),
                    (f"E|Q us|them? {words}", f"paid {said}", 0.05),
                )
                if kinds is _MORE
                else ()
            ),
        )
    ),
    *(
        Rule("BEYOND", pattern, lambda *p, o=op: _more_per(o, p), (example,), weight=0.2)
        for op, words in _MORE
        for said in (words.split("|")[0],)
        for pattern, example in (
            (f"E|MV us|them? {words} per|a|an|for each|every|one? T|E|TOLD", f"paid {said} per visit"),
            (f"{words} E|MV|T per|for each|every|one? T|E|TOLD", f"{said} fee per visit"),
        )
    ),
    *(
        Rule("BEYOND", f"E|Q {word}", lambda *p, o=op: _more(o, p), (f"fee {word}",), weight=0.05)
        for op, word in ((">", "later"), (">", "longer"), ("<", "earlier"), ("<", "shorter"))
    ),
    *(
        Rule("BEYOND", f"MV us|them? {words}", lambda n, o=op: _done_more(o, n), (f"sold {said}",), weight=0.05)
        for op, words in _MORE
        for said in (words.split("|")[0],)
    ),
    Rule("BEYOND_THAN", "BEYOND than", lambda beyond: beyond, ("more visits than",)),
    Rule("BEYOND_THAN", "VERB? COMP", lambda *p: _by_nature(p[-1]), ("heavier than",), weight=-0.1),
    *(
        Rule("K", pattern, lambda *p: _of_the_row(p), (example,), weight=0.35)
        for pattern, example in (
            (f"HAVING? BEYOND_THAN {_USUAL}", "with a higher fee than average"),
            ("HAVING? BEYOND_THAN the? AVGOF", "with a higher fee than the average visit"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _than_all(p), (example,), weight=weight)
        for pattern, example, weight in (
            (f"HAVING? BEYOND_THAN {_USUAL}", "with more visits than average", 0.35),
            ("HAVING? BEYOND_THAN the? AVGOF", "with more visits than the whole clinic", 0.4),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _than_all_of_theirs(p), (example,), weight=0.6)
        for pattern, example in (
            (f"T|C|U whose T {_IS} BEYOND_THAN {_USUAL}", "owners whose visits are dearer than average"),
            (f"T|C|U whose T {_IS} BEYOND_THAN the? AVGOF", "owners whose visits are dearer than the whole clinic"),
        )
    ),
    Rule(
        "BESX",
        "who BEYOND_THAN the? average|mean|typical|usual T|C|U does|do|did?",
        lambda *p: _than_others_like_them(p),
        ("who paid more than the average owner",),
        weight=0.6,
    ),
    *(
        Rule("K", pattern, lambda *p: _than_of_the_row(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("HAVING? BEYOND_THAN E", "with a higher fee than cost", 0.4),
            (f"HAVING? BEYOND_THAN {_OWN} E", "with a higher fee than they have cost", 0.5),
            ("HAVING? BEYOND_THAN their|its|his|her|our own? E", "with a higher fee than their cost", 0.5),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _than_other(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("HAVING? BEYOND_THAN T|E|Q|CNT|K", "with more visits than dogs", 0.4),
            (f"HAVING? BEYOND_THAN {_OWN} T|E|Q|CNT|K", "with more visits than they have dogs", 0.5),
            ("HAVING? BEYOND_THAN their|its|his|her|our own? T|E|Q|CNT", "with more visits than their dogs", 0.5),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _than_one(p), (example,), weight=0.4)
        for pattern, example in (("HAVING? BEYOND_THAN K do|does|did|has|have|had?", "with more visits than Spain"),)
    ),
)
