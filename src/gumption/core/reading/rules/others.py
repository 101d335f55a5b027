"""Those that are so beside the rest of them, however the rest is said: the others, shorter ones, those that don't."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Joined, Marker, Measured, Noun, Part, Ratio, Versus, Worked
from gumption.core.reading.rules.comparisons import held_on_average
from gumption.core.reading.rules.groups import yes_or_no

_OPPOSITE = (
    "shorter|longer|younger|older|cheaper|dearer|smaller|bigger|larger|lighter|heavier|newer|lower|higher|slower|faster|quicker"
    "|thinner|thicker|earlier|later|richer|poorer|busier|quieter|weaker|stronger|other|remaining|ordinary|normal|regular"
)
_NOT_SO = "don't|doesn't|didn't|aren't|isn't|weren't|wasn't|haven't|hasn't|hadn't|dont|doesnt|didnt|arent|isnt|werent|wasnt|havent|hasnt"
_FIRST = "of|for|in|by|among|on|from|at"
_TO = "with|to|against|and|versus|vs"
_MORE = "more|less|higher|lower|longer|shorter|bigger|smaller|larger|better|worse|dearer|cheaper|heavier|lighter|greater|faster|slower"
_DO = "do|does|did|is|are|was|were|have|has"


def _such(parts: tuple[object, ...]) -> Part | None:
    return next((p for p in parts if isinstance(p, Part)), None)


def _beside_rest(*parts: object) -> object:
    """Those that are so and those that are not, each with a figure of theirs."""
    group = yes_or_no(_such(parts))
    figures = tuple(p for p in parts if isinstance(p, (Measured, Worked, Ratio)))
    return (group, *figures) if group is not None and figures else group


def _more_than_rest(*parts: object) -> tuple[object, ...] | None:
    """Whether those that are so come to more than the rest on average."""
    group, measured = yes_or_no(_such(parts)), next((p for p in parts if isinstance(p, Measured)), None)
    rows = tuple(p for p in parts if isinstance(p, Noun) and p.table is not None)[:1]
    if group is None or measured is None:
        return None
    return (group, Worked(m.Aggregated("mean", measured.expr)), *rows)


def _far_from_rest(*parts: object) -> tuple[object, ...] | None:
    """How much more those that are so come to than the rest."""
    part = _such(parts)
    if part is None or part.kind == "time":
        return None
    figures = (p for p in parts if isinstance(p, (Measured, Worked)))
    held = tuple(Joined(p.expr, each=True) if isinstance(p, Measured) else p for p in figures)
    return ("more", Versus(part.condition, m.turned(part.condition)), *held) if held else None


RULES = (
    *(
        Rule("REST", pattern, lambda *_: Marker("others"), (example,), weight=0.5)
        for pattern, example in (
            ("OTHERS T?", "the rest"),
            ("all|every|any? the? other|others|rest|remaining of? the|our? T", "all other visits"),
            (f"the? {_OPPOSITE} ones|T", "cheaper ones"),
            (
                f"the? those|ones|T|people|everyone|everybody|anyone|anybody who|that|which {_NOT_SO}",
                "those that don't",
            ),
            (
                "the? those|ones|T|people who|that|which do|does|did|are|is|were|was|have|has not",
                "people who do not",
            ),
            ("the? those|ones|T|people without it|one|any|them?", "those without"),
            ("the? those|ones|T below|under|above|over it|that", "those below it"),
        )
    ),
    *(
        Rule("G", pattern, _beside_rest, (example,), weight=0.5)
        for pattern, example in (
            (f"{_FIRST}? K T? ,? VERSUS with|to? REST", "overdue visits against cheaper ones"),
            (f"{_FIRST} T K ,? VERSUS with|to? REST", "for visits overdue against cheaper ones"),
        )
    ),
    *(
        Rule("BESX", pattern, _beside_rest, (example,), weight=0.9)
        for pattern, example in (
            (
                f"compare|comparing E|Q|RATIO {_FIRST} T? K T? {_TO} REST",
                "compare average fee of Dog visits with all the others",
            ),
            (
                f"{_FIRST} T? of|with? K T? ,? E|Q|RATIO ,? VERSUS with|to? REST",
                "for Dog visits, average fee, against cheaper ones",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, _more_than_rest, (example,), weight=0.6)
        for pattern, example in (
            (
                f"{_DO} the? T? K T? have|get|bring|take|cost|make? a|an? {_MORE} E on? AGG? than REST",
                "do Dog visits have a higher fee than the others",
            ),
            (
                f"{_DO} the? T? K T? E on? AGG? {_MORE} on? AGG? than REST",
                "do Dog visits cost more on average than cheaper ones",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: held_on_average(p), (example,), weight=0.9)
        for pattern, example in (
            (
                f"{_DO} the? T? K T? E on? AGG? {_MORE} on? AGG? than the? ones|those|T K T?",
                "do Dog visits cost more than those of Cat",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, _far_from_rest, (example,), weight=0.9)
        for pattern, example in (
            ("DIFF in|of E|Q between T? K T? and REST", "difference in average fee between Dog visits and the rest"),
            (
                "DIFF between E|Q of|for|in T? K T? and|& that? of? REST",
                "difference between average fee of Dog visits and the rest",
            ),
        )
    ),
)
