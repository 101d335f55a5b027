"""Those that are so beside those that are not: open against closed, spoiled or not."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Counted, Grouped, Noun, Part

_IS = "is|are|was|were|has|have|had|got|been"
_NOT = "not|haven't|hasn't|hadn't|aren't|isn't|weren't|wasn't|don't|doesn't|didn't|other|others|otherwise"


def _so_or_so(*parts: object) -> tuple[object, ...] | None:
    """Those of two states, told apart; where one of the two is always so, nothing else is left out."""
    told = [p for p in parts if isinstance(p, Part)]
    one, two = told[0].condition, told[-1].condition
    if isinstance(one, m.Is) and isinstance(two, m.Is) and not isinstance(one.values[0], bool):
        # Men and women are values, and stand each for itself.
        return None
    if one == two or {k.table for k in m.columns_in(one)} != {k.table for k in m.columns_in(two)}:
        return None
    sides = [set(c.items) if isinstance(c, m.All) else {c} for c in (one, two)]
    if sides[0] <= sides[1] or sides[1] <= sides[0]:
        # What is overdue is out too: they are some of the others, and no other side.
        return None
    rest = () if two in (m.turned(one), m.Not(one)) or one == m.Not(two) else (Part(m.Any((one, two)), "state"),)
    rows = next((Counted(p) for p in parts if isinstance(p, Noun)), None)
    return (*((rows,) if rows is not None else ()), *rest, Grouped(m.Test(one)))


def _so_or_not(*parts: object) -> tuple[object, ...] | None:
    """Those that are so, and those that are not."""
    rows = next((p for p in parts if isinstance(p, Noun) and p.table is not None and p.key is None), None)
    such = next(p for p in parts if p is not rows and isinstance(p, (Noun, Part)))
    if isinstance(such, Part) and such.kind == "time":
        return None
    group = Grouped(m.Test(such.condition)) if isinstance(such, Part) else Grouped(such)
    return (Counted(rows), group) if rows is not None else (group,)


RULES = (
    *(
        Rule("BESX", pattern, _so_or_so, (example,), weight=weight)
        for pattern, example, weight in (
            ("STATE VERSUS STATE T", "open vs closed visits", 0.6),
            ("STATE VERSUS STATE", "open vs closed", 0.45),
            ("T STATE VERSUS STATE", "visits open vs closed", 0.6),
            (f"COUNT T {_IS} STATE , and? COUNT {_IS}? STATE", "how many visits are open, how many are closed", 0.9),
            (f"COUNT T {_IS} STATE and COUNT {_IS}? STATE", "how many visits are open and how many closed", 0.9),
            (f"COUNT {_IS} STATE , and? COUNT {_IS}? STATE", "how many are open, how many closed", 0.9),
            (f"COUNT {_IS} STATE and COUNT {_IS}? STATE", "how many are open and how many closed", 0.9),
        )
    ),
    *(
        Rule("BESX", pattern, _so_or_not, (example,), weight=weight)
        for pattern, example, weight in (
            (f"COUNT T {_IS} F|STATE , and|or? COUNT {_NOT}", "how many visits have attended, how many haven't", 0.9),
            (f"COUNT T {_IS} F|STATE ,? or {_NOT}", "how many visits have attended, or haven't", 0.9),
            (f"COUNT T {_IS} F|STATE and|or COUNT {_NOT}", "how many visits are closed and how many are not", 0.9),
            # What follows a bare "and not" may be denied by it.
            (f"COUNT T {_IS} F|STATE ,? and {_NOT}", "how many visits have attended and haven't", -0.2),
            (f"F|STATE VERSUS {_NOT}", "attended vs not", 0.6),
            (f"F|STATE / {_NOT}", "attended / not", 0.6),
            ("F|STATE or not", "closed or not", 0.3),
        )
    ),
)
