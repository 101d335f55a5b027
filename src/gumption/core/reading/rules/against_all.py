"""Some held against all of them together: a higher rate than the house as a whole, sports whose players are taller."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.lexicon import troubles
from gumption.core.reading.pieces import Counted, Function, Grouped, Held, Measured, Noun, Rated, Ratio, Shared, Worked
from gumption.core.reading.tokens import stem
from gumption.core.reading.vocabulary import name_parts

_OPS = (
    (">", "more|higher|larger|bigger|greater|longer|stronger|above"),
    ("<", "less|fewer|lower|smaller|shorter|weaker|below"),
)
_IS = "is|are|was|were|lies|runs"
_ALL_OF_US = "company|house|factory|plant|works|business|firm|organisation|organization|shop|group|fleet|school|charity|trust|club|hospital|practice|office|place"
_THAN = "than the? AVGOF|overall"


def _held(op: m.Comparison, parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What is worked out for each, and that it lies beyond what it is for all."""
    measured = next((p for p in parts if isinstance(p, (Measured, Worked, Shared, Ratio, Rated))), None)
    if isinstance(measured, Measured):
        return (Held(measured, op, Function("mean")),)
    return (measured, Held(None, op, Function("mean"))) if measured is not None else None


def _is_trouble(node: object) -> bool:
    """True for what is worse the more there is of it, by the names and the values that it is made of."""
    names = [p for key in m.columns_in(node) for p in name_parts(key.column)]
    values = [w for p in m.parts(node) if isinstance(p, m.Is) for v in p.values for w in str(v).lower().split()]
    late = any(isinstance(p, m.Compared) for p in m.parts(node))
    missed = any(isinstance(p, m.Is) and p.values == (False,) for p in m.parts(node))
    # Those who were not there are a trouble, and those who were not late are none.
    return late or bool(troubles() & {stem(w) for w in (*names, *values)}) is not missed


def _held_worse(worse: bool, parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """A worse scrap rate is a higher one, and a worse pass rate a lower one."""
    return _held(">" if _is_trouble(parts) is worse else "<", parts)


def _held_per(op: m.Comparison, parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Dearer per claim than the average claim: what each comes to for one of them, beyond what all do."""
    what, each, *_ = (p for p in parts if isinstance(p, (Measured, Noun)))
    if isinstance(what, Noun):
        if what.key is None:
            return None
        what = Measured(m.Col(what.key))
    assert isinstance(each, Noun)
    return _held(op, (Ratio(what, Counted(each)),))


def _beyond(compared: tuple[m.Comparison, m.Expr]) -> tuple[object, ...]:
    """Taller than average: the height of each, beyond that of all."""
    op, expr = compared
    return (Held(Worked(m.Aggregated("mean", expr)), op, Function("mean")),)


def _beyond_usual(op: m.Comparison, function: object = "mean") -> Held | None:
    """The rows whose own main figure is beyond that of all."""
    return Held(None, op, Function(str(function))) if function in ("mean", "median") else None


def _either_side(parts: tuple[object, ...]) -> tuple[object, ...]:
    """How many rows are above what they are on average, and how many are not."""
    rows = next(p for p in parts if isinstance(p, Noun))
    measured = next(p for p in parts if isinstance(p, Measured))
    return Counted(rows), Grouped(m.Test(m.Compared(">", measured.expr, m.Aggregated("mean", measured.expr))))


RULES = (
    *(
        Rule("AVGOF", pattern, lambda *_: "", (example,), weight=0.35)
        for pattern, example in (
            ("overall E|Q|SHR|RATIO", "overall fee"),
            ("overall rate|level|figure|one|share|percentage", "the overall rate"),
            ("that|those of all|every T|C|U", "that of all visits"),
            ("that|those of everybody|everyone|all|others", "that of everybody"),
            ("all the? T|C|U together|combined|overall", "all visits together"),
            (
                "national|company|house|group|team|school|fleet|industry|market|club average|mean|median|figure|level|rate",
                "the company average",
            ),
            ("whole T|U|C", "the whole clinic"),
            (f"{_ALL_OF_US} as a? whole", "the factory as a whole"),
            (f"{_ALL_OF_US} overall|altogether", "the factory overall"),
        )
    ),
    Rule("H", "CMP the? AGG", _beyond_usual, ("above average",), weight=0.1),
    Rule("H", "CMP par|normal|average", _beyond_usual, ("below par",), weight=0.3),
    *(
        Rule("BESX", pattern, lambda *p: _either_side(p), (example,), weight=0.8)
        for pattern, example in (
            (
                "split|divide|sort|separate the? T into above and|or|& below the? average|mean|avg E and? count? them?",
                "split the visits into above and below average fee",
            ),
            ("T above and|or|vs|versus|& below the? average|mean|avg E", "visits above and below average fee"),
            ("T E above and|or|vs|versus|& below the? average|mean|avg", "visits fee above vs below average"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, o=op: _held(o, p), (example,), weight=weight)
        for op, words in _OPS
        for said in (words.split("|")[0],)
        for pattern, example, weight in (
            (f"HAVING a|an|the? {words} Q|E|SHR|RATIO|RATED {_THAN}", f"with {said} average fee than overall", 0.5),
            (f"{words} Q|SHR|RATIO|RATED {_THAN}", f"{said} average fee than overall", 0.5),
            (f"Q|E|SHR|RATIO|RATED {_IS} {words} {_THAN}", f"average fee is {said} than overall", 0.45),
            (f"Q|SHR|RATIO {words} {_THAN}", f"average fee {said} than overall", 0.4),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, w=worse: _held_worse(w, p), (example,), weight=0.5)
        for worse, words in ((True, "worse|poorer"), (False, "better"))
        for said in (words.split("|")[0],)
        for pattern, example in (
            (f"HAVING a|an|the? {words} Q|E|SHR|RATIO|RATED {_THAN}", f"with a {said} share of dogs than overall"),
            (f"{words} Q|SHR|RATIO|RATED {_THAN}", f"{said} share of dogs than overall"),
        )
    ),
    *(
        Rule(
            "BESX",
            pattern,
            lambda *p: _held(next(o for o in p if o in (">", "<", ">=", "<=")), p),
            (example,),
            weight=0.4,
        )
        for pattern, example in (
            (f"SHR|RATIO {_IS}? CMP AVGOF", "share of dogs is above the overall average"),
            (f"whose|where the? Q|E|SHR|RATIO {_IS}? CMP AVGOF", "whose average fee is above the overall average"),
            ("HAVING a|an|the? Q|SHR|RATIO CMP AVGOF", "with an average fee above the overall average"),
        )
    ),
    *(
        Rule(
            "BESX",
            f"{what} {words} per|a|for each|every|one? T than {whole}",
            lambda *p, o=op: _held_per(o, p),
            (f"{said} {words.split('|')[0]} per visit than {example}",),
            weight=0.6,
        )
        for op, words in _OPS
        for what, said in (("E", "fee"), ("MV", "sold"))
        for whole, example in (
            ("the? average|mean|typical|usual T|one|C", "the average visit"),
            ("the? AVGOF|overall", "overall"),
        )
    ),
    Rule(
        "BESX",
        "VERB? COMP AVGOF|overall",
        lambda *p: _beyond(next(c for c in p if isinstance(c, tuple))),
        ("heavier than the average",),
        weight=0.35,
    ),
)
