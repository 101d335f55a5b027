"""Places in a ranking: who came second, the last but one, who leads in each year."""

from __future__ import annotations

from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Beside, Counted, Direction, Grouped, Measured, Noun, Top, Worked, as_counted
from gumption.core.reading.rules.groups import by_one
from gumption.core.reading.rules.order import top_by

_PLACES = (("second|2nd", 1), ("third|3rd", 2), ("fourth|4th", 3), ("fifth|5th", 4))
_CAME = "came|comes|come|coming|was|is|ranked|ranks|finished|finishes|placed|stood|stands"
_LEADS = "leads|led|lead|leading|tops|topped|heads|headed|dominates|dominated"
_IN = "in|on|for|by|with|at"


def _leading(top: Top, measured: object) -> tuple[object, ...] | None:
    """Who leads on something that is measured, or that is counted."""
    if isinstance(measured, Noun):
        counted = as_counted(measured)
        return (
            (Top(top.descending, top.number, counts=True, skip=top.skip), counted)
            if isinstance(counted, Counted)
            else None
        )
    led = top_by(top, measured)
    return (led,) if led is not None else None


def _the_nth(noun: Noun, by: object, descending: bool, skip: int) -> tuple[object, ...] | None:
    """The second clinic by fee."""
    match by:
        case Measured() | Worked() | Counted():
            return Grouped(noun), as_counted(by), Top(descending, 1, skip=skip)
        case Noun():
            return Grouped(noun), as_counted(by), Top(descending, 1, counts=True, skip=skip)
        case _:
            return None


def _best_to_worst(noun: Noun, by: object, descending: bool) -> tuple[object, ...] | None:
    return (
        (Grouped(noun), as_counted(by), Direction(descending))
        if isinstance(by, (Measured, Worked, Counted, Noun))
        else None
    )


def _with_places(noun: Noun, by: object) -> tuple[object, ...] | None:
    """A league table tells the place of each."""
    told = _best_to_worst(noun, by, True)
    return (*told, Beside("rank")) if told is not None else None


RULES = (
    *(
        Rule("TOPX", pattern, lambda *p, s=skip: _leading(Top(True, 1, skip=s), p[-1]), (example,), weight=0.9)
        for words, skip in _PLACES
        for pattern, example in (
            (f"{_CAME} {words} {_IN} E|CNT|Q|T", f"came {words.split('|')[0]} for fee"),
            (f"in|at {words} place {_IN} E|CNT|Q|T", f"in {words.split('|')[0]} place for fee"),
        )
    ),
    *(
        Rule("TOPX", pattern, lambda *p, d=down: _leading(Top(d, 1), p[-1]), (example,), weight=0.9)
        for pattern, example, down in (
            (f"comes|come|came|coming out? on|at top {_IN} E|CNT|Q|T", "comes out on top in fee", True),
            (f"{_LEADS} the? field|way|table|list? {_IN} E|CNT|Q|T", "leads on fee", True),
            (f"is|was|are? the? number|no|nr one|1 {_IN} E|CNT|Q|T", "is number one for fee", True),
            (f"is|was|are|comes|came|finished? bottom|last {_IN} E|CNT|Q|T", "came last in fee", False),
            (f"is|was|are|comes|came? top {_IN} E|CNT|Q|T", "is top for fee", True),
            (f"is|was|are|comes|came first {_IN} E|CNT|Q|T", "is first for fee", True),
            (f"propping|props up the? table|list|rear {_IN} E|CNT|Q|T", "propping up the table on fee", False),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, d=down, s=skip: _the_nth(p[0], p[-1], d, s), (example,), weight=0.9)
        for pattern, example, down, skip in (
            (f"the? runner-up C|T {_IN} E|CNT|Q|T", "runner-up species by fee", True, 1),
            (f"the? last but one C|T {_IN} E|CNT|Q|T", "last but one species by fee", False, 1),
            (f"the? second to last C|T {_IN} E|CNT|Q|T", "second to last species by fee", False, 1),
            (f"the? second-to-last|penultimate C|T {_IN} E|CNT|Q|T", "penultimate species by fee", False, 1),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, d=down: _best_to_worst(p[0], p[-1], d), (example,), weight=0.9)
        for pattern, example, down in (
            (
                f"C|T from? best|top|first to worst|bottom|last , {_IN}? E|CNT|Q|T",
                "species from best to worst, fee",
                True,
            ),
            (
                f"C|T from? best|top|first to worst|bottom|last {_IN} E|CNT|Q|T",
                "species from best to worst by fee",
                True,
            ),
            (
                f"C|T from? worst|bottom|last to best|top|first ,? {_IN}? E|CNT|Q|T",
                "species from worst to best by fee",
                False,
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _with_places(p[0], p[-1]), (example,), weight=0.9)
        for pattern, example in (
            (f"leaderboard|league|ranking table? ,|of|for|: C|T {_IN} E|CNT|Q|T", "leaderboard, species by fee"),
            ("pecking order|ranking of|for? C|T ,|by? E|CNT|Q|T", "pecking order of species, fee"),
        )
    ),
    # of each year, each clinic
    *(
        Rule("G", pattern, lambda *p: by_one(p[0]), (example,), weight=weight)
        for pattern, example, weight in (
            ("UNIT for|by|after UNIT", "year for year", 0.5),
            ("C wise|-wise", "species wise", 0.8),
            ("out? of|from|for each|every and? every|each? one? of? the? C|T|UNIT", "from each and every species", 0.4),
        )
    ),
    *(
        Rule(
            "G",
            f"each|every {unit}'s|{unit}’s",
            lambda u=unit: by_one(u),
            (f"each {unit}'s",),
            weight=0.8,
        )
        for unit in ("year", "quarter", "month", "week", "day")
    ),
    *(
        Rule("TOP", pattern, lambda n: Top(True, 1, noun=n), (example,), weight=0.9)
        for pattern, example in (
            ("the? no|number|nr 1|one C|T", "the no 1 species"),
            ("the? leading|foremost C|T", "the leading species"),
        )
    ),
)
