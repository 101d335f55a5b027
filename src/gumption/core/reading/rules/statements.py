"""Statements that people rate, as in a survey: how each is rated, which they agree with least, where opinions are divided."""

from __future__ import annotations

from gumption.core.plan.expressions import AggregateName
from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Agreed, Counted, Grouped, Noun, Part, Shared, Statements, Top, Worked

_MARKS = "score|scores|rating|ratings|mark|marks|answer|answers|value|result|results|agreement"
_THEY = "people|they|we|you|staff|respondents|everyone|everybody|our|the|all"
_JUDGE = "agree|agrees|rate|rates|rated|score|scores|scored|answer|answers|mark|marks|marked"
_OPINIONS = "opinions|answers|people|views|ratings|scores|they|we|staff|respondents"
_VERBS = "do|does|did|are|is|were|was"
_DIVIDED = "divided|split|apart|mixed|polarised|varied|varying|differing"
_DIFFER = "differ|differs|disagree|vary|varies|diverge"


def _told(parts: tuple[object, ...]) -> tuple[Statements, AggregateName]:
    rated = next(p for p in parts if isinstance(p, Statements))
    function = next((p for p in parts if isinstance(p, str)), "mean")
    return rated, function  # type: ignore[return-value]


def _worked(rated: Statements, function: AggregateName) -> Worked:
    return Worked(m.Aggregated(function, m.Col(rated.rating)))


def _each(parts: tuple[object, ...]) -> tuple[object, ...]:
    """So much of each statement."""
    rated, function = _told(parts)
    return (_worked(rated, function), Grouped(Noun(key=rated.statement)))


def _leading(
    parts: tuple[object, ...], down: bool, function: AggregateName, *, of_all: bool = False
) -> tuple[object, ...]:
    """The statement that is rated highest or lowest, or on which opinions lie furthest apart; or the first so many."""
    rated = next(p for p in parts if isinstance(p, Statements))
    said = next((int(p) for p in parts if isinstance(p, float)), None)
    number = 1 if of_all or (said is None and not rated.several) else said
    return (Grouped(Noun(key=rated.statement)), _worked(rated, function), Top(down, number))


def _as_defined(agreed: Agreed, numbers: tuple[object, ...]) -> Agreed | None:
    """Agree, which is 4 or 5: from the lesser to the greater."""
    told = [p for p in numbers if isinstance(p, float)]
    if len(told) != 2:
        return None
    rating = m.Col(agreed.rating)
    low, high = m.Compared(">=", rating, m.Number(min(told))), m.Compared("<=", rating, m.Number(max(told)))
    return Agreed(m.All((low, high)), agreed.rating)


def _left_blank(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How often each statement was left blank, and which of them most."""
    blank = next((p for p in parts if isinstance(p, m.ColumnKey)), None)
    if blank is None:
        return None
    each = (Counted(Noun(table=blank.table)), Grouped(Noun(key=blank)))
    top = next((p for p in parts if isinstance(p, Top)), None)
    most = top.descending if top is not None else next((p == "+" for p in parts if p in ("+", "-")), None)
    return (*each, Top(most, 1)) if most is not None else each


RULES = (
    *(
        Rule("BESX", pattern, lambda *p: _each(p), (example,), weight=weight)
        for pattern, example, weight in (
            (f"AGG {_MARKS}? of|for|per|by|on|in each|every|the|all? of? the? N? STMTS", "average score of each statement", 1.0),
            (f"AGG {_MARKS}? of|for|per|on each|every of? the? STMT", "average score of each statement", 1.0),
            (f"STMT by|with their? AGG {_MARKS}?", "statements by average score", 0.9),
        )
    ),
    Rule("Q", f"overall|total AGG {_MARKS}? of|over|across|on all of? the? N? STMTS", lambda *p: _worked(*_told(p)), ("overall average of all statements",), weight=1.4),
    Rule("Q", f"AGG {_MARKS}? of|over|across|on all of? the? N? STMTS together|combined", lambda *p: _worked(*_told(p)), ("average of all statements together",), weight=1.2),
    *(
        Rule("BESX", pattern, lambda *p, d=down, f=function: _leading(p, d, f), (example,), weight=1.0)
        for down, most, function, said in (
            (True, "most|highest|best|higher|top", "mean", "most"),
            (False, "least|lowest|worst|fewest|less|bottom", "mean", "least"),
        )
        for pattern, example in (
            (f"WHICH N? STMT do|does|did|is|are|was|were? {_THEY}? {_THEY}? {_JUDGE} with? the? {most}", f"which statement do people agree with {said}"),
            (f"WHICH N? STMT is|are|was|were? {_THEY}? {_THEY}? {_JUDGE} the? {most}", f"which statement is rated {said}"),
            (f"WHICH N? STMT has|have|had|gets|got the? {most} AGG? {_MARKS}", f"which statement has the {said} score"),
            (f"the? N? {most} scoring|rated|scored N? STMT", f"the {said} rated statement"),
            (f"STMT with the? {most} AGG? {_MARKS}", f"statement with the {said} score"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, d=down: _leading(p, d, "deviation"), (example,), weight=1.0)
        for down, most in ((True, "most|furthest|widest"), (False, "least"))
        for word in (most.split("|")[0],)
        for pattern, example in (
            (f"on|over|about? WHICH N? STMT do|does|did|are|is|were the? {_OPINIONS} the? {most}? {_DIVIDED}|{_DIFFER}|agree the? {most}?", f"on which statement do opinions differ the {word}"),
            (f"WHICH STMT divides|splits|polarises {_OPINIONS}|opinion the? {most}", f"which statement divides people the {word}"),
        )
    ),
    *(
        Rule("BESX", f"on|over|about? WHICH of the|all N? STMTS {_VERBS} the? {_OPINIONS}? {told}", lambda *p, d=down, f=function: _leading(p, d, f, of_all=True), (f"on which of the 4 statements are the opinions {said}",), weight=1.6)
        for down, function, told, said in (
            (True, "deviation", f"the? most|furthest? {_DIVIDED}|{_DIFFER}|agree the? most|furthest?", "most divided"),
            (True, "mean", f"{_JUDGE}? with? the? most|highest|best", "rated highest"),
            (False, "mean", f"{_JUDGE}? with? the? least|lowest|worst", "rated lowest"),
        )
    ),
    Rule("G", "for|of|on|by|with? each|every of the? N? STMTS", lambda *p: Grouped(Noun(key=_told(p)[0].statement)), ("for each of the 4 statements",), weight=0.9),
    *(
        Rule("BESX", pattern, lambda *p: _each(p), (example,), weight=0.9)
        for pattern, example in (
            ("how do|does|did STMTS compare|score|rank|do", "how do the statements compare"),
            ("compare|rank|list all|the? STMTS", "compare all statements"),
        )
    ),
    *(
        Rule("SHR", pattern, lambda *p: Shared(None, p[-1].condition), (example,), weight=0.9)
        for pattern, example in (
            ("SHARE of? our|the|all? T|people|staff|everyone|respondents? who|that? AGREE with|that?", "share of people who agree"),
            ("SHARE AGREE with|that?", "share agree with"),
        )
    ),
    *(
        Rule(kind, f"answers|responses|replies|ratings to|for|on the? {kind}", lambda n: n, ("answers to q3",), weight=0.6)
        for kind in ("M", "C")
    ),
    *(
        Rule("BESX", pattern, lambda *p: _left_blank(p), (example,), weight=0.9)
        for pattern, example in (
            ("COUNT? of? BLANKS for|by|per|of|in|on each|every|the? of? the? STMT", "number of blank answers for each statement"),
            ("WHICH STMT has|have|had|got|with the? SUP|MOST number? of? BLANKS", "which statement has the most blank answers"),
        )
    ),
    Rule("CNT", "COUNT of? BLANKS", lambda *p: Counted(Noun(table=p[-1].table)), ("how many blank answers",), weight=0.5),
    Rule("K", "who|that? AGREE with|that?", lambda a: Part(a.condition, "state"), ("who agree",), weight=0.3),
    *(
        Rule("AGREE", pattern, lambda *p: _as_defined(p[0], p), (example,), weight=0.6)
        for pattern, example in (
            ("AGREE ( N OR|and|to|- N )", "agree ( 4 or 5 )"),
            ("AGREE ( a|that|which? is|scores|score|rating|meaning|i.e? a? N OR|and|to|- N )", "agree ( a score of 4 or 5 )"),
            ("AGREE , i.e|meaning|that|so is? N OR|and|to|- N ,?", "agree , meaning 4 or 5"),
        )
    ),
)  # fmt: skip
