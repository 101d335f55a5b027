"""All, some and none: owners whose animals are all over five, clinics where no visit was late."""

from __future__ import annotations

from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Bounded, Held, HowMany, Noun, Part, Values
from gumption.core.reading.rules.conditions import both, every_one, has_none, only_such, rows_having

_BE = "is|are|was|were|has|have|had|been|being|in|for|on|of"
_WHOSE = "whose|their|its|his|her|whom|which"


def such_rows(how: HowMany, rows: Noun, part: Part) -> Part | None:
    """All, some or none of the rows of a table are so."""
    match how:
        case "all":
            return only_such(rows, part)
        case "some":
            return rows_having(">=", 1, rows, part)
        case "none":
            return has_none(rows, part)


def _such(how: HowMany, parts: tuple[object, ...]) -> Part | Bounded | None:
    rows = next(p for p in parts if isinstance(p, Noun))
    match parts[-1]:
        case Part() as part:
            return such_rows(how, rows, part) if part.kind != "related" else None
        case Held(quantity=None, op=op, right=float(number), or_below=None) if rows.table is not None:
            return Bounded(rows, how, op, number)
        case _:
            return None


def _both_of(parts: tuple[object, ...]) -> Part | None:
    """Both a dog and a cat: kinds of the rows that are named, and of no others that are called alike."""
    rows = parts[-1]
    one, two = (p for p in parts if isinstance(p, Values))
    return both(one, two) if isinstance(rows, Noun) and rows.table == one.column.table else None


RULES = (
    *(
        Rule("KB", pattern, lambda *p: _such("all", p), (example,), weight=0.6)
        for pattern, example in (
            (f"where|whose|HAVING every|each single? T {_BE}? K", "where every visit was overdue"),
            (f"where|whose|HAVING every|each single? T {_BE}? H", "where every visit is over 5"),
            (f"where|whose|HAVING all of? the|their|its? T {_BE}? K", "where all visits are overdue"),
            (f"where|whose|HAVING all of? the|their|its? T {_BE}? H", "whose all visits are over 5"),
            (f"where the|their|its? T {_BE} all|always K", "where the visits are all overdue"),
            (f"whose|where the|their|its? T {_BE} all|always H", "whose visits are all over 5"),
            (f"all|every of? {_WHOSE} T {_BE}? H", "all of whose visits are over 5"),
        )
    ),
    *(
        Rule("KB", pattern, lambda *p: _such("none", p), (example,), weight=0.6)
        for pattern, example in (
            (f"WITHOUT T that|which|where|when|costing|worth|{_BE}? H", "with no visits over 5"),
            (f"where|whose no|none of? the|their|its? T {_BE}? K", "where none of their visits was overdue"),
            (f"where|whose no|none of? the|their|its? T {_BE}? H", "where no visit was over 5"),
            (f"none of {_WHOSE} T {_BE}? K", "none of whose visits was overdue"),
            (f"none of {_WHOSE} T {_BE}? H", "none of whose visits is over 5"),
        )
    ),
    *(
        Rule("KB", pattern, lambda *p: _such("some", p), (example,), weight=0.6)
        for pattern, example in (
            (f"where a|one|some|any T {_BE} K", "where a visit was overdue"),
            (f"where at least one|1 T {_BE}? K", "where at least one visit was overdue"),
            (f"where at least one|1 T {_BE}? H", "where at least one visit was over 5"),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: _both_of(p), (example,), weight=0.6)
        for pattern, example in (
            ("HAVING both V and|& V T", "with both Dog and Cat animals"),
            ("HAVING both a|an|some? V and|& a|an|some? V T", "having both a Dog and a Cat animal"),
        )
    ),
    Rule(
        "H",
        "HAVING T in|on|at|for|from|during every|each single|one? of? the? C|T|UNIT",
        lambda *p: every_one(p[-1], p[1]),
        ("with visits in every month",),
        weight=0.5,
    ),
)
