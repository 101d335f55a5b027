"""What belongs to those that lead: visits of the clinic with the most visits, the animals of the oldest owner."""

from __future__ import annotations

from typing import Literal

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Asking, Counted, EndWas, Grouped, Leading, Measured, Noun, Part, Top, Values
from gumption.core.reading.rules.of_the_top import DO

_OF = "of|in|from|at|under|by|for|on"
_THEIR = "their|its|his|her|whose"
_OUTSIDE = "outside|beyond|below|except|besides"


def _led_by(rows: Noun, kind: Noun, sign: str, counted: Noun) -> tuple[object, ...] | None:
    """Visits of the clinic with the most animals."""
    if rows.table is None or counted.table is None or kind == rows:
        return None
    return rows, Asking("list"), Leading(kind, Counted(counted), sign == "+")


def _more_than_others(rows: Noun, kind: Noun, counted: Noun) -> tuple[object, ...] | None:
    return _led_by(rows, kind, "+", counted)


def _of_the_top(rows: Noun, top: Top, *, others: bool = False, theirs: bool = False) -> tuple[object, ...] | None:
    """The top three clinics, all their visits."""
    if rows.table is None or top.noun is None or top.percent or top.noun == rows:
        return None
    by = Measured(top.by) if top.by is not None else Counted(rows) if top.counts else None
    few = Leading(top.noun, by, top.descending, top.number or 1, top.skip, others, rows.table if theirs else None)
    return rows, Asking("list"), few


def _leads(few: tuple[Top, Counted | None]) -> Leading | None:
    """The first few of a kind, by what is said of them."""
    top, rank = few
    if top.noun is None or top.percent or top.number is None:
        return None
    by = rank or (Measured(top.by) if top.by is not None else Counted(Noun()) if top.counts else None)
    return Leading(top.noun, by, top.descending, top.number)


def _for_them(parts: tuple[object, ...], *, each: bool) -> tuple[object, ...] | None:
    """For the three busiest clinics, something of each; or of all of them together."""
    few = next(p for p in parts if isinstance(p, tuple) and len(p) == 2 and isinstance(p[0], Top) and p[0].number)
    led = _leads(few)
    if led is None:
        return None
    most = [p for p in parts if p is not few]
    if any(isinstance(x, Top) and x.noun == led.kind for p in most for x in (p if isinstance(p, tuple) else (p,))):
        return None
    first = [x for p in most for x in (p if isinstance(p, tuple) else (p,)) if not isinstance(x, str)]
    return (*first, led, *((Grouped(led.kind),) if each else ()))


def _how_many_of_the_top(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How many visits the four busiest vets account for: those of them all together."""
    rows = next(p for p in parts if isinstance(p, Noun))
    top, rank = next(p for p in parts if isinstance(p, tuple))
    if rows.table is None or top.noun is None or top.percent or top.number is None or top.noun == rows:
        return None
    by = rank or (Measured(top.by) if top.by is not None else Counted(rows))
    return Counted(rows), Leading(top.noun, by, top.descending, top.number)


def _beyond(rows: Noun, kind: Noun, number: float) -> tuple[object, ...] | None:
    """Visits of clinics outside the top three."""
    return _of_the_top(rows, Top(True, int(number), noun=kind, counts=True), others=True)


def _ended(end: Literal["min", "max"], parts: tuple[object, ...]) -> EndWas | None:
    """Contracts whose first payment was by card, or that ended on one."""
    rows = next(p for p in parts if isinstance(p, Noun))
    told = next(p for p in parts if isinstance(p, (Part, Values)))
    if rows.table is None or (isinstance(told, Part) and told.kind in ("time", "related")):
        return None
    return EndWas(rows, end, m.Is(told.column, told.values) if isinstance(told, Values) else told.condition)


RULES = (
    *(
        Rule("KB", pattern, lambda *p, e=end: _ended(e, p), (example,), weight=0.9)
        for first, began, end in (
            ("first|earliest|initial|opening", "started|began|opened|start|begin", "min"),
            ("last|latest|newest|final|closing", "ended|finished|closed|end|finish", "max"),
        )
        for pattern, example in (
            (
                f"whose very? {first} T was|is|were by|with|for|a|an|at|in|on|of? VS",
                f"whose {first.split('|')[0]} animal was Dog",
            ),
            (f"whose very? {first} T was|is|were K", f"whose {first.split('|')[0]} visit was overdue"),
            (f"{began} on|with|by|at|in a|an VS T", f"{began.split('|')[0]} with a Dog animal"),
            (
                f"is|are|was|were? VS at|in|on|by|of their|its|the {first} T",
                f"were Dog at their {first.split('|')[0]} animal",
            ),
            (
                f"is|are|was|were? K at|in|on|by|of their|its|the {first} T",
                f"were overdue at their {first.split('|')[0]} visit",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _led_by(p[0], p[-3], p[-2], p[-1]), (example,), weight=0.9)
        for pattern, example in (
            (
                f"T {_OF} the? C|T that|which|who? has|have|had|with|having the? MOST T",
                "visits of the clinic with the most visits",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _led_by(p[-1], p[-3], p[-2], p[-1]), (example,), weight=0.9)
        for pattern, example in (
            (
                "WHO is|are|was|were? in the? C that|which? has|with|having the? MOST T",
                "who is in the species with the most animals",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _more_than_others(*p), (example,), weight=0.9)
        for pattern, example in (
            (
                f"T {_OF} the? C|T that|which|who? has|have|had|having|with more T than any|all|the other|others|else",
                "visits of the clinic having more visits than any other",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda t, rows: _of_the_top(rows, t, theirs=True), (example,), weight=0.9)
        for pattern, example in (
            (f"TOP , and|with? all? of? {_THEIR} T", "top 3 clinics, all their visits"),
            (f"TOP and|with|plus all? of? {_THEIR} T", "top 3 clinics and all their visits"),
            (f"TOP , show|list|give? every|all? of? {_THEIR} T", "oldest owner, list their animals"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, e=each: _for_them(p, each=e), (example,), weight=weight)
        for pattern, example, weight, each in (
            ("for|in|at|of|among each of the? FEW ,?", "for each of the 3 heaviest animals", 0.7, True),
            ("for|in|at|of the? FEW ,", "for the 3 heaviest animals ,", 0.5, True),
            (
                "TOP|TOPX in|at|among|of|with|for each of the? FEW",
                "most overdue of each of the 3 heaviest animals",
                0.7,
                True,
            ),
            ("TOP|TOPX in|at|among|across the? FEW", "most overdue among the 3 heaviest animals", 0.5, False),
            ("Q|RATIO in|at|among|across|for|of the? FEW", "average fee among the 3 heaviest animals", 0.5, False),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _how_many_of_the_top(p), (example,), weight=0.9)
        for pattern, example in (
            (
                f"COUNT of? the|our? T do|does|did|are|is|were|was the? FEW {DO} for|up|in|to|by|from?",
                "how many visits do the 3 heaviest animals account for",
            ),
            (
                "COUNT of? the|our? T are|is|were|was|come|came by|from|with the? FEW",
                "how many visits are from the 3 heaviest animals",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _beyond(*p), (example,), weight=0.9)
        for pattern, example in (
            (f"T in|of|from|at C|T {_OUTSIDE} the? top|biggest|largest|first N", "visits at clinics outside the top 3"),
        )
    ),
)
