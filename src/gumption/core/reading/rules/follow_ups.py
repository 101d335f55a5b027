"""What is done to the question before: a step back, another time, a condition dropped, a group rolled up.

These rules are read where there is a question before, and only there.
"""

from __future__ import annotations

from typing import cast

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import (
    SEVERAL,
    Beside,
    Change,
    Changed,
    Counted,
    Function,
    Grouped,
    Marker,
    Measured,
    Noun,
    Part,
    Shifted,
    Sorted,
    Top,
    Values,
    Worked,
)
from gumption.core.reading.rules.conditions import outside
from gumption.core.reading.rules.groups import by_one, each_of
from gumption.core.reading.times import MONTHS_IN, Span, span_condition

_DROP = "drop|remove|lose|delete|cancel|forget|hide|omit|lift|ignore"
_BAR = "bar|limit|threshold|cut-off|cutoff|minimum|maximum|number|figure|it|that"
_ORDINALS = (("second|2nd", 2), ("third|3rd", 3), ("fourth|4th", 4), ("fifth|5th", 5))


def _kind(written: str) -> Changed:
    return Changed(cast(Change, written))


def _noun(parts: tuple[object, ...]) -> Noun | None:
    """The noun of some parts; of a measure or a value the column that it is of."""
    for part in parts:
        match part:
            case Noun():
                return part
            case Measured(expr=m.Col(key=key)):
                return Noun(key=key)
            case Counted(noun=noun):
                return noun
            case Values(column=key):
                return Noun(key=key)
            case _:
                pass
    return None


def _of_noun(kind: Change, parts: tuple[object, ...]) -> Changed | None:
    noun = _noun(parts)
    return Changed(kind, noun) if noun is not None else None


def _shift(unit: str, count: float) -> Shifted | None:
    if unit not in MONTHS_IN and unit not in ("week", "day"):
        return None
    return Shifted(unit, int(count))


def _instead(grouped: Grouped | Noun | m.Unit) -> tuple[object, ...]:
    return (grouped if isinstance(grouped, Grouped) else by_one(grouped), Marker("instead"))


def _beside(told: Span | Values) -> Changed:
    if isinstance(told, Values):
        return Changed("beside", condition=m.Is(told.column, told.values))
    return Changed("beside", condition=span_condition(told, m.EventTime()))


def _by(part: Measured | Worked | Noun) -> Changed:
    return Changed("over", by=Counted(part) if isinstance(part, Noun) else part)


def _also(functions: tuple[object, ...]) -> Changed | None:
    told = tuple(f for f in functions if isinstance(f, Function))
    tops = tuple(Function("max" if t.descending else "min") for t in functions if isinstance(t, Top))
    return Changed("also", functions=told or tops) if told or tops else None


RULES = (
    *(
        # How much of that is overdue: the same of those alone.
        Rule("K", pattern, lambda *p: p[-1], (example,), weight=0.9)
        for pattern, example in (
            (
                "how much|many of that|it|this|these|those|them is|was|are|were|has|have been? K",
                "how much of that is Dog",
            ),
            (
                "how much|many of that|it|this|these|those|them is|was|are|were|has|have been? VERB K",
                "how much of it was spent in 2025",
            ),
        )
    ),
    Rule(
        "ED",
        "VERSUS with|to? the UNIT before|previous|prior that|it?",
        lambda *p: Changed("earlier", unit=p[-1]),
        ("vs the month before",),
        weight=0.9,
    ),
    Rule(
        "ED",
        "VERSUS the? prev|previous|prior|last|preceding UNIT",
        lambda *p: Changed("earlier", unit=p[-1]),
        ("vs prev year",),
        weight=0.9,
    ),
    *(
        Rule("ED", pattern, lambda *p: _of_noun("drop", p), (example,), weight=0.9)
        for pattern, example in (
            (
                "i|we don't|dont|needn't need|want|care about|for|see? the? C|T|E any? more|longer|anymore?",
                "i don't need species",
            ),
            ("no need for the? C|T|E any? more|longer|anymore?", "no need for the breed"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *_: _instead(Grouped(m.PartOf("month", m.EventTime()))), (example,), weight=0.9)
        for pattern, example in (
            (
                "what|how does|do|did|has it|that|this|they look|develop|change|go|move like? over time",
                "what does it look like over time",
            ),
            ("how has it|that|this|they looked|developed|changed|gone|moved over time", "how has it changed over time"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *_: (Beside("share"), Marker("also")), (example,), weight=0.9)
        for pattern, example in (
            (
                "both , number|numbers|count|counts|value|values and|& %|percent|percentage|percentages|share|shares",
                "both, number and %",
            ),
            (
                "both number|numbers|count|counts|value|values and|& %|percent|percentage|percentages|share|shares",
                "both number and %",
            ),
        )
    ),
    *(
        Rule("TOP", pattern, lambda *_, u=up: Top(u, SEVERAL), (example,), weight=0.9)
        for words, up in (("last|bottom|lowest", False), ("first|top|highest", True))
        for pattern, example in (
            (
                f"which|what|the ones|those come|came|are|finish|finished|rank {words}",
                f"which ones come {words.split('|')[0]}",
            ),
        )
    ),
    *(
        Rule("ED", pattern, lambda e, n: (Sorted(e, True), Changed("limit", number=n)), (example,), weight=0.9)
        for pattern, example in (
            (
                "order|sort|rank the? same|it|them|that|those? by E and|, only|just N of? them|those?",
                "order the same by fee and only 3 of them",
            ),
        )
    ),
    Rule("ED", "EDIT", _kind, ("undo",), weight=0.3),
    Rule("ED", "WITHOUT it|that|one|them|any?", lambda *_: Changed("negated"), ("without that",), weight=0.3),
    Rule(
        "ED",
        "lift|drop|remove|no the? date|time|year restriction|filter|condition|limit",
        lambda: Changed("any time"),
        ("lift the date restriction",),
        weight=0.9,
    ),
    *(
        Rule("ED", pattern, lambda *p: _of_noun("drop", p), (example,), weight=0.75)
        for pattern, example in (
            (f"{_DROP} the? C|T|D|E|F|CNT", "drop the species"),
            (
                f"{_DROP} the? C|T|D|E filter|column|condition|restriction|split|group|grouping|breakdown|again",
                "remove the species filter",
            ),
            ("take out|off|away the? C|T|D|E", "take out the breed"),
            ("take the? C|T|D|E out|off|away", "take the breed out"),
            (
                "no filter|restriction|condition|limit on|for the? C|T|D|E any? more|longer|anymore?",
                "no filter on species any more",
            ),
            (
                "not|don't|dont|never want|need|care|mind anymore|longer? about? only|just? VS any? more|longer|anymore?",
                "don't want only Dog any more",
            ),
            (f"keep TIME , {_DROP} the? VS", "keep 2025, drop Dog"),
            (f"keep the? C|T , {_DROP} the? C|T", "keep species, drop breed"),
            (
                "take|cancel|leave|drop out|off? the? C|T|VS again? ,? and? keep|leave the? C|T|TIME",
                "take out breed again, keep species",
            ),
            ("regardless|irrespective of the? C|T|D|E", "regardless of species"),
            ("whatever|whichever the? C|T|D|E", "whatever the fee"),
            ("not by|per C|T", "not by species"),
            ("not just|only VS", "not just Dog"),
            ("not just|only VS , all of? them?", "not just Dog, all of them"),
            (f"{_DROP} the? minimum|maximum|threshold|cut-off|limit on|for the? E", "drop the minimum on fee"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *p: _of_noun("all of", p), (example,), weight=weight)
        for pattern, example, weight in (
            ("all|every|any the? C|T again?", "all species", 0.5),
            ("for|in|at|over|across all|every|any the? C|T", "for all species", 0.55),
            (
                "for|in|at|over|across? all|every|each the? C|T , not just|only VS",
                "for every species, not only Dog",
                0.85,
            ),
            ("all|every the? C|T together|combined|taken", "all species together", 0.9),
        )
    ),
    *(
        Rule("ED", pattern, lambda *_: Changed("any time"), (example,), weight=0.8)
        for pattern, example in (
            ("not just|only TIME", "not just 2025"),
            ("for|in every|all|any UNIT , not just|only TIME", "for every year, not only 2025"),
            ("any time , not just|only TIME", "any time, not just March"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *p: Changed("back in", values=p[-1]), (example,), weight=0.8)
        for pattern, example in (
            ("with VS back in?", "with Dog back in"),
            ("put|bring|take VS back in?", "put Dog back in"),
            ("VS after all", "Dog after all"),
            ("include VS after? all?|again", "include Dog again"),
            ("return|bring|put|take|let VS again|back in", "return Dog again in"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *_: Changed("known"), (example,), weight=0.9)
        for pattern, example in (
            (
                "ignore|skip|exclude|remove|drop|omit|without the? blanks|blank|empties|empty|missing|unknown|unknowns|nulls ones|values|rows?",
                "ignore blanks",
            ),
            (
                "leave out the? blanks|blank|empties|empty|missing|unknown|unknowns|nulls ones|values|rows?",
                "leave out the blanks",
            ),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: Part(m.Is(p[-1].column, p[-1].values), "value"), (example,), weight=0.6)
        for pattern, example in (
            ("how does|do|did|is|are|was|were it|that? VS look|looking|do|doing|fare", "how does Dog look"),
            ("how did|does|is|was it at|in|for|with VS", "how was it at Dog"),
            ("once|one more|again ,? this time with|for|at? VS", "once more, this time Dog"),
            ("this time ,? with|for|at|only? VS", "this time with Dog"),
            ("is|are|was|were VS any? different|similar|alike|better|worse", "is Dog any different"),
            (
                "and? at|in|for|with VS ,? how is|are|was|does the? situation|picture|story|it look?",
                "for Dog how is the situation",
            ),
            ("what|how about|is the? situation|picture|story at|in|for|with VS", "how is the situation for Dog"),
            ("how it was|is|looks at|in|for|with VS", "how it was at Dog"),
            (
                "is|are|was|were VS above|below|over|under|higher|lower|better|worse|more|less than? it|that|this?",
                "is Dog above it",
            ),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: Part(span_condition(p[-1], m.EventTime()), "time"), (example,), weight=0.6)
        for pattern, example in (
            (
                "how did|does|do|was|were that|it|this|they look|go|do|run back? in|on? TIME",
                "how did that look back in March 2025",
            ),
            (
                "extend|change|set|move|shift|widen it|that|this|the? dates|period|range|time? to TIME",
                "extend it to 2025",
            ),
            ("how was|were|is|are TIME overall|altogether|then?", "how was 2025 overall"),
            ("once|one more|again ,? this time for|in|with? TIME", "once more, this time for 2025"),
        )
    ),
    Rule(
        "K",
        "both V and|& V",
        lambda a, b: Part(m.Is(a.column, (*a.values, *b.values)), "value") if a.column == b.column and a != b else None,
        ("both Dog and Cat",),
        weight=0.9,
    ),
    *(
        Rule("ED", pattern, lambda *_: Beside("change"), (example,), weight=0.9)
        for pattern, example in (
            ("is|are|was|were that|it|this|they|these up or down", "is that up or down"),
            ("up or down then?", "up or down"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *_: Changed("last"), (example,), weight=0.85)
        for pattern, example in (
            (f"{_DROP} the? minimum|maximum|threshold|cut-off", "drop the minimum"),
            (f"{_DROP} the? last condition|filter|restriction", "drop the last filter"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *p: (Counted(_noun(p) or Noun()), Marker("instead")), (example,), weight=0.8)
        for pattern, example in (
            ("T in place|lieu of the? T|E", "visits in place of owners"),
            ("COUNT T instead|rather of|than the? T|E", "number of visits rather than owners"),
        )
    ),
    *(
        Rule("ED", pattern, lambda _, n, *__: (Counted(n, distinct=True), Marker("instead")), (example,), weight=0.9)
        for pattern, example in (
            ("DISTINCT T , not the? T|E", "different owners, not visits"),
            ("DISTINCT T in|instead|rather place? of|than the? T|E", "different owners rather than visits"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *_: Changed("count"), (example,), weight=0.8)
        for pattern, example in (
            ("the? count|number|numbers , not the? FN", "the count, not the sum"),
            ("count|counts|number instead|rather", "count instead"),
            ("count|number rather than the? FN", "count rather than total"),
            ("COUNT is|are that|this|it|those|these then?", "how many is that"),
            ("just|only the? number|count", "just the number"),
        )
    ),
    Rule("ED", "and? COUNT each", lambda *_: Changed("count of each"), ("how many each",), weight=0.8),
    *(
        Rule("ED", pattern, lambda *p: Changed("number", number=p[-1]), (example,), weight=0.85)
        for pattern, example in (
            (
                f"raise|lower|increase|reduce|set|make|change|move|put|shift the? {_BAR} to? N",
                "raise the bar to 40",
            ),
            (f"raise|lower|increase|reduce the? {_BAR} by? N", "lower the limit to 40"),
            ("make it|that N", "make it 40"),
            ("with N as the? cut-off|cutoff|threshold|limit|minimum|maximum|bar", "with 40 as the cut-off"),
            ("what if|about it|that|we were|was|is|said|say N", "what if it were 40"),
            ("N instead", "40 instead"),
            ("N rather", "40 rather"),
            ("N instead of that? N?", "40 instead of 30"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *p: Changed("limit", number=p[0]), (example,), weight=0.85)
        for pattern, example in (
            ("only|just show me? N", "only show me 4"),
            ("show|give me? only|just N", "show me only 4"),
            ("cut it|that|them off after|at N", "cut it off after 5"),
            ("make it|that N instead of N", "make it 4 instead of 10"),
            ("keep|take only|just? the? first N", "keep only the first 5"),
        )
    ),
    *(
        Rule("K", pattern, lambda *p, i=place: Part(m.Is(p[i].column, p[i].values), "value"), (example,), weight=0.7)
        for pattern, example, place in (
            ("not the? VS , but? the? VS", "not Dog, Cat", 1),
            ("VS instead|rather of|than VS", "Cat instead of Dog", 0),
            ("from VS to VS", "from Dog to Cat", 1),
        )
    ),
    Rule(
        "ED",
        "E instead|rather of|than E",
        lambda one, other: (one, Marker("instead")) if one != other else None,
        ("fee instead of cost",),
        weight=0.7,
    ),
    *(
        Rule("ED", pattern, lambda *_: Changed("rows"), (example,), weight=0.8)
        for pattern, example in (
            ("the? underlying T", "the underlying visits"),
            ("the? T behind that|it|this", "the visits behind that"),
            ("what|which T is|are that|this number|figure? made|composed of", "which visits is that number made of"),
            ("what|which T are we talking about here?", "what visits are we talking about"),
        )
    ),
    Rule(
        "ED",
        "first by C|T|UNIT , then by? C|T|UNIT",
        lambda *p: (*map(by_one, p), Marker("instead")),
        ("first by species, then by breed",),
        weight=0.7,
    ),
    *(
        Rule("ED", pattern, lambda *p: Changed("next", number=p[-1] if p else 1.0), (example,), weight=0.8)
        for pattern, example in (
            ("the? next|following N", "the next 5"),
            ("next|following N ones|rows|T", "next 5 rows"),
            ("N more", "5 more"),
            ("and? the? next|following one", "the next one"),
            ("and? WHEN is|was|are the? next|following one|ones?", "when is the next one"),
            ("and? WHEN the? next|following one?", "when the next one"),
        )
    ),
    *(
        Rule("ED", pattern, lambda k=number: Changed("place", number=float(k)), (example,), weight=0.8)
        for words, number in _ORDINALS
        for pattern, example in (
            (f"the? {words} one?", f"the {words.split('|')[0]} one"),
            (f"who|what|which comes|came|is|was the? {words}", f"who comes {words.split('|')[0]}"),
            (f"{words} place", f"{words.split('|')[0]} place"),
        )
    ),
    Rule("ED", "the? runner-up", lambda: Changed("place", number=2.0), ("the runner-up",), weight=0.8),
    *(
        Rule("ED", pattern, lambda k=half: Changed("half", number=k), (example,), weight=0.85)
        for pattern, example, half in (
            ("the? second|2nd|latter half", "the second half", 2.0),
            ("the? first|1st half", "the first half", 1.0),
            ("the? other half", "the other half", 0.0),
        )
    ),
    Rule("ED", "the? full|whole|entire|complete year", lambda: Changed("whole year"), ("the full year",), weight=0.8),
    Rule(
        "ED",
        "the? full|whole|entire year instead|not of? just|only? TIME",
        lambda _: Changed("whole year"),
        ("full year instead of only March",),
        weight=0.9,
    ),
    *(
        Rule("SHF", pattern, lambda *p, s=sign: _shift(p[-1], s), (example,), weight=0.85)
        for pattern, example, sign in (
            ("go|step|move|jump back|backwards a|one|another UNIT", "go back another month", -1),
            ("back a|one|another UNIT", "back one month", -1),
            ("a|one|another UNIT earlier|before|ago|previously|prior|back", "a month earlier", -1),
            ("the? UNIT before|prior|previous that|it|this", "the month before that", -1),
            ("the UNIT before|prior|previous", "the month before", -1),
            ("the? previous|preceding|prior UNIT", "the preceding week", -1),
            ("a|one|another UNIT later|after|on|ahead|further", "a month later", 1),
            ("the? next|following|subsequent UNIT", "the following month", 1),
            ("the? UNIT after that|it|this|one?", "the quarter after that", 1),
            ("go|step|move forward|on|ahead a|one|another UNIT", "go on one month", 1),
        )
    ),
    *(
        Rule("SHF", pattern, lambda n, u, s=sign: _shift(u, s * n), (example,), weight=0.85)
        for pattern, example, sign in (
            ("N UNIT earlier|before|ago|back", "2 months earlier", -1),
            ("N UNIT later|after|on|ahead", "2 months later", 1),
        )
    ),
    *(
        Rule("SHF", pattern, lambda *_, s=sign: Shifted("year", s), (example,), weight=1.3)
        for pattern, example, sign in (
            (
                "the? same month|quarter|week|period|time|days|dates a|one year ago|earlier|before",
                "the same month a year ago",
                -1,
            ),
            ("the? same month|quarter|week|period|time|days|dates last year", "the same month last year", -1),
            (
                "the? same month|quarter|week|period|time|days|dates the? previous year",
                "the same quarter the previous year",
                -1,
            ),
            (
                "the? same month|quarter|week|period|time|days|dates a|one year later|on|after",
                "the same month a year later",
                1,
            ),
        )
    ),
    *(
        Rule("ED", pattern, lambda *p: _by(p[-1]), (example,), weight=0.85)
        for pattern, example in (
            ("divide|divided it|that|this|them|those by E|Q", "divide it by the fee"),
            ("divide|divided it|that|this|them|those by the? number|count of T", "divide it by the number of visits"),
            ("divide|divided by E|Q", "divided by the cost"),
            ("per T then|please|now", "per visit please"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *p: _also(p), (example,), weight=0.8)
        for pattern, example in (
            ("along|together|with the? FN and|& FN", "with the median and average"),
            ("add the? FN and|& FN", "add the average and the median"),
            ("along|together with? the? TOP and|& TOP", "along with the highest and lowest"),
            ("add the? TOP and|& TOP", "add the highest and lowest"),
            ("with the? TOP and|& TOP", "with the highest and lowest"),
            ("the? TOP and|& TOP too|also|as", "the highest and lowest too"),
            ("FN too|also", "average too"),
            ("add the? FN", "add the average"),
            ("the? FN as well", "the average as well"),
        )
    ),
    Rule("K", f"{_DROP}|skip|exclude the? TIME", lambda s: outside(s), ("drop 2024",), weight=0.6),
    Rule("FN", "use|try the? FN instead|rather?", lambda f: f, ("use the median instead",), weight=0.6),
    Rule(
        "FN",
        "how much|many is|was|were|are that|it|this|they FN",
        lambda f: f,
        ("how much is that on average",),
        weight=0.9,
    ),
    Rule("FN", "not the? FN , the? FN", lambda _, f: f, ("not average, median",), weight=0.6),
    Rule("FN", "FN rather than the? FN", lambda f, _: f, ("median rather than the average",), weight=0.6),
    *(
        Rule(
            "FN",
            pattern,
            lambda t, *_: Function("max" if t.descending else "min") if t.by is None else None,
            (example,),
            weight=0.9,
        )
        for pattern, example in (("the? TOP instead|rather of|than? the? FN", "the biggest instead of the total"),)
    ),
    *(
        Rule("FN", pattern, lambda *_: Function("median"), (example,), weight=0.8)
        for pattern, example in (("the? middle one|value|figure rather|instead|then|please?", "the middle one rather"),)
    ),
    *(
        Rule("FN", pattern, lambda *_: Function("sum", main=True), (example,), weight=0.9)
        for pattern, example in (
            (
                "value|money|worth ,? not|instead|rather of|than? the? volume|number|numbers|count|counts",
                "value not volume",
            ),
            (
                "in|by value|money not|instead|rather of|than? the? volume|number|numbers|count|counts?",
                "by value instead",
            ),
        )
    ),
    Rule(
        "ED",
        "volume|volumes ,? not|instead|rather of|than? the? value|values|money|amount",
        lambda *_: Changed("count"),
        ("volume not value",),
        weight=0.9,
    ),
    *(
        Rule("ED", pattern, lambda k=op: Changed("against average", op=k), (example,), weight=0.85)
        for words, op in (("above|over|beating|beyond", ">"), ("below|under", "<"))
        for pattern, example in (
            (f"{words} the? average|mean|overall|norm", f"{words.split('|')[0]} the average"),
            (
                f"{words} the? overall|average|mean|general average|mean|figure|value|rate|level",
                f"{words.split('|')[0]} the overall figure",
            ),
        )
    ),
    *(
        Rule("ED", pattern, lambda k=op: Changed("moved", op=k), (example,), weight=0.85)
        for words, op in (
            ("grew|rose|gained|increased|improved|climbed|grow|rise|gain|increase", ">"),
            ("fell|dropped|declined|shrank|shrunk|decreased|lost|fall|drop|decline|shrink|decrease", "<"),
        )
        for pattern, example in (
            (f"ones|those that|which|who {words}", f"the ones that {words.split('|')[0]}"),
            (f"ones|those that|which|who {words} ground", f"the ones that {words.split('|')[0]} ground"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *_: Changed("between"), (example,), weight=0.9)
        for pattern, example in (
            ("the? change|difference|gap|growth between the? two|them|both", "the difference between the two"),
            ("how do|does|did the? two|they|both compare|differ", "how do the two compare"),
            ("compare the? two|them|both", "compare the two"),
            ("by how much more|less|higher|lower?", "by how much"),
            ("how much more|less|fewer|higher|lower is|was that|it", "how much more is that"),
            ("the? difference|change then?", "the difference"),
            ("WHICH the? difference|change|gap", "what is the difference"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *p: _beside(p[-1]), (example,), weight=0.85)
        for pattern, example in (
            ("compare|compared it|that|this with|to|against TIME|V", "compare that with 2025"),
            ("compare|compared with|to|against TIME|V", "compare with 2025"),
            ("against|versus|vs TIME|V", "versus 2025"),
            ("next to TIME|V", "next to 2025"),
            ("side by side with TIME|V", "side by side with Cat"),
            ("beside TIME|V", "beside Cat"),
        )
    ),
    *(
        Rule("ED", pattern, lambda *p: _instead(p[-1]), (example,), weight=0.7)
        for pattern, example in (
            (
                "roll|rolled|aggregate|group|sum|collapse it|that|this|them|everything up? to|into|by|at|per UNIT|C|T",
                "roll it up to species",
            ),
            ("roll|rolled up to|into|by UNIT|C|T", "roll up to months"),
            ("roll|aggregate|collapse the? UNIT up? to|into UNIT", "roll the months up into quarters"),
            ("go|drill|zoom|get down|up|in to|into the? UNIT|C|T", "go down to days"),
            ("at|on the? C|T|UNIT level", "at species level"),
            ("C|T|UNIT level", "species level"),
            ("swap|replace|switch|exchange the? C|T|UNIT for|with|to|by the? C|T|UNIT", "swap species for breed"),
            ("remove|drop the? C|T|UNIT , show|add|put|take the? C|T|UNIT", "remove the species, show breed"),
        )
    ),
    *(
        Rule("G", pattern, lambda *p: each_of(*(v for v in p if isinstance(v, Values))), (example,), weight=0.7)
        for pattern, example in (
            ("separate|split|distinguish|contrast|compare out? V and|from|& V", "separate Dog and Cat"),
            ("separate|split V from V out?", "separate Dog from Cat"),
        )
    ),
    *(
        Rule(
            "G", pattern, lambda *_: Grouped(m.Test(m.PartIs("weekday", m.EventTime(), (6, 7)))), (example,), weight=0.9
        )
        for pattern, example in (
            (
                "compare|split|separate the? weekdays|weekday with|and|from|vs|against the? weekends|weekend there|then?",
                "compare weekdays with weekends there",
            ),
            ("weekdays|weekday vs|versus|against|and|or the? weekends|weekend", "weekdays vs weekends"),
        )
    ),
    *(
        Rule("G", pattern, lambda *p: by_one(p[-1]), (example,), weight=0.8)
        for pattern, example in (
            ("split|break|divide it|that|this|them down? further by|into C|T|UNIT", "break it down further by species"),
            ("further by C|T|UNIT", "further by species"),
            (
                "does|do|did that|it|this|they differ|vary|change by|with|between|across|per C|T|UNIT",
                "does that differ by species",
            ),
            (
                "is|are|was|were that|it|this|they different by|between|across|per C|T|UNIT",
                "is it different by species",
            ),
        )
    ),
    *(
        Rule("ED", pattern, lambda g, _: _instead(g), (example,), weight=0.6)
        for pattern, example in (
            ("G rather than G", "monthly rather than weekly"),
            ("G instead|not of? G", "monthly instead of weekly"),
            ("G rather than UNIT|C|T", "by species rather than breed"),
            ("G instead|not of? UNIT|C|T", "by species instead of breed"),
        )
    ),
    Rule(
        "ED",
        "don't|dont|not group|split by C|T , group|split? G",
        lambda _, g: _instead(g),
        ("don't group by species, group by breed",),
        weight=0.8,
    ),
)
