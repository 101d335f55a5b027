"""Rows that point at others of their own table: staff and their managers, animals and their mothers."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import (
    Beyond,
    Counted,
    Grouped,
    Held,
    Measured,
    Noun,
    OwnLink,
    Part,
    Shown,
    Top,
    Values,
    Worked,
)

_THEIR = "their|his|her|its|the|a|an|our|own"
_REPORT = "report|reports|reporting|reported|answer|answers|work|works|working|worked"
_PEOPLE = "people|reports|subordinates|staff|members|ones|others|direct|employees|colleagues"
_DOES = "does|do|did|is|was|has|have|earns|gets|makes"


def _moved(expr: m.Expr, link: OwnLink, there: bool) -> m.Expr:
    """An expression of a row's own columns, or of those of the row that it points at."""
    one, other = (link.own, link.role) if there else (link.role, link.own)
    change: dict[object, object] = {k: m.ColumnKey(other, k.column) for k in m.columns_in(expr) if k.table == one}
    swapped = m.replaced(expr, {m.Col(k): m.Col(v) for k, v in change.items()})  # type: ignore[arg-type]
    return swapped  # type: ignore[return-value]


def _than_theirs(parts: tuple[object, ...]) -> Part | None:
    """Who earns more than their manager: a row by the row that it points at."""
    beyond = next(p for p in parts if isinstance(p, Beyond))
    link = next(p for p in parts if isinstance(p, OwnLink))
    match beyond.what:
        case Measured(expr=expr) | Worked(quantity=m.Aggregated(expr=m.Col() | m.Length() as expr)):
            pass
        case _:
            return None
    if beyond.judged or not {k.table for k in m.columns_in(expr)} <= {link.own, link.role}:
        return None
    return Part(m.Compared(beyond.op, _moved(expr, link, False), _moved(expr, link, True)), "number")


def _before_theirs(op: m.Comparison, day: Noun, link: OwnLink) -> Part | None:
    """Who joined before their manager."""
    if day.key is None or day.key.table not in (link.own, link.role):
        return None
    one, other = (m.Col(m.ColumnKey(table, day.key.column)) for table in (link.own, link.role))
    return Part(m.Compared(op, one, other), "number")


def _under(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Those who report to somebody who is named."""
    link = next(p for p in parts if isinstance(p, OwnLink))
    who = next(p for p in parts if isinstance(p, Values))
    if who.column.table not in (link.own, link.role) or who.column.column != link.name.column:
        return None
    return (Noun(table=link.own), Part(m.Is(link.name, who.values), "value"))


def _whose(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """The manager of somebody who is named."""
    link = next(p for p in parts if isinstance(p, OwnLink))
    who = next(p for p in parts if isinstance(p, Values))
    if who.column.table not in (link.own, link.role) or who.column.column != link.name.column:
        return None
    own = m.Is(m.ColumnKey(link.own, who.column.column), who.values)
    return (Noun(table=link.own), Shown(Noun(key=link.name)), Part(own, "value"))


def _each(link: OwnLink) -> Grouped:
    return Grouped(Noun(key=link.name))


def _counted(link: OwnLink) -> Counted:
    return Counted(Noun(table=link.own))


RULES = (
    *(
        Rule("K", pattern, lambda *p: _than_theirs(p), (example,), weight=0.9)
        for pattern, example in (
            (f"HAVING? BEYOND_THAN {_THEIR}? {_THEIR}? ROLE {_DOES}?", "with a higher wage than their boss"),
        )
    ),
    *(
        Rule("K", f"D {word} {_THEIR}? {_THEIR}? ROLE", lambda d, r, o=op: _before_theirs(o, d, r), (f"hired {said} their boss",), weight=0.9)
        for op, word, said in (("<", "before|earlier than?", "before"), (">", "after|later than?", "after"))
    ),
    *(
        Rule("BESX", pattern, lambda *p: _under(p), (example,), weight=0.9)
        for pattern, example in (
            (f"{_PEOPLE} {_REPORT} directly? REPORTED V", "people reporting to Ann Bo"),
            (f"{_REPORT} directly? REPORTED V", "report to Ann Bo"),
            (f"{_PEOPLE} REPORTED V", "people under Ann Bo"),
            (f"whose|with|where {_THEIR}? ROLE is|was|: V", "whose boss is Ann Bo"),
            ("with V as their|the|his|her? ROLE", "with Ann Bo as their boss"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _whose(p), (example,), weight=0.9)
        for pattern, example in (
            ("who|whom is|was? V 's? ROLE", "who is Ann Bo 's boss"),
            ("who|whom is|was? the? ROLE of|for V", "who is the boss of Ann Bo"),
            (f"who|whom does|did|do V {_REPORT} REPORTED", "who does Ann Bo report to"),
        )
    ),
    *(
        Rule("G", f"{pattern} ROLE", lambda *p: _each(p[-1]), (f"{example} boss",), weight=0.5)
        for pattern, example in (("BY", "by"), ("under|for each|every", "under each"))
    ),
    *(
        Rule("BESX", pattern, lambda *p: (_counted(p[-1]), _each(p[-1])), (example,), weight=0.9)
        for pattern, example in (
            (f"how many {_PEOPLE} people|reports? {_REPORT}|are|is directly? to|for|under each|every ROLE", "how many people report to each boss"),
            (f"how many {_PEOPLE} people|reports? does|do|has|have each|every ROLE has|have|got?", "how many people does each boss have"),
            (f"number|count of direct? {_PEOPLE} by|per|for|of each|every? ROLE", "number of reports per boss"),
            ("direct? reports by|per|for|of each|every? ROLE", "direct reports per boss"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, d=down: (_each(p[-1]), _counted(p[-1]), Top(d)), (example,), weight=0.9)
        for down, most, said in ((True, "most|largest|biggest", "most"), (False, "fewest|least|smallest", "fewest"))
        for pattern, example in (
            (f"who|which has|have|got the? {most} direct? {_PEOPLE} {_REPORT} directly? REPORTED them|him|her", f"who has the {said} people reporting to them"),
            (f"which|what ROLE has|have|got|manages|leads the? {most} direct? {_PEOPLE}", f"which boss has the {said} people"),
            (f"ROLE with|having the? {most} direct? {_PEOPLE}", f"boss with the {said} people"),
            (f"who|which does|do the? {most} {_PEOPLE} {_REPORT} REPORTED", f"who do the {said} people report to"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _many_under(p), (example,), weight=0.9)
        for pattern, example in (
            (f"ROLE with|having|who? has|have? CMP N direct? {_PEOPLE}", "bosses with more than 2 reports"),
            (f"ROLE with|having|who? has|have? N ORMORE direct? {_PEOPLE}", "bosses with 2 or more reports"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: (Noun(table=p[-1].own), Shown(Noun(key=p[-1].name))), (example,), weight=0.8)
        for pattern, example in (
            (f"everyone|everybody|all? with|and|, {_THEIR} name|names? of|for? {_THEIR}? ROLE", "with their boss"),
            (f"everyone|everybody|all? with|and|, {_THEIR} ROLE 's? name", "with their boss name"),
        )
    ),
    *(
        Rule("K", pattern, lambda *p: Part(m.Missing(p[-1].link), "state"), (example,), weight=0.8)
        for pattern, example in (
            ("WITHOUT a|an|any? ROLE", "without a boss"),
            ("who|that? has|have|with no ROLE", "who has no boss"),
        )
    ),
)  # fmt: skip


def _many_under(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Managers with more than five people."""
    link = next(p for p in parts if isinstance(p, OwnLink))
    number = next(p for p in parts if isinstance(p, (int, float)))
    op = next(p for p in parts if isinstance(p, str))
    return (_each(link), _counted(link), Held(_counted(link), op, float(number)))  # type: ignore[arg-type]
