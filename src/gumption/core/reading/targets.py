"""How long something may take by what a target says, on its row or on what it points at: within target, or not."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence

from gumption.core.model.types import Type
from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Edge
from gumption.core.reading.lexicon import UnitOf
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.pieces import Part
from gumption.core.reading.tokens import Token
from gumption.core.reading.vocabulary import Vocabulary, name_parts

_TARGETS = frozenset(["target", "sla", "allowed", "standard", "limit", "promised"])
_UNITS: dict[float, m.LengthUnit] = {1.0: "minutes", 60.0: "hours", 1440.0: "days"}
_THEIR = ("the", "their", "its", "our", "a")
_KEPT = ("within", "inside", "met", "meets", "meeting", "hit", "hits", "hitting", "on", "under", "made")
_BROKEN = (
    "missed", "missing", "misses", "over", "outside", "beyond", "past", "breached", "breaching", "breaches", "exceeded",
    "exceeding", "failed", "above",
)  # fmt: skip


def timed_targets(
    vocabulary: Vocabulary, pairs: Iterable[tuple[str, tuple[ColumnKey, ColumnKey]]], united: Mapping[ColumnKey, UnitOf]
) -> list[tuple[m.Length, ColumnKey]]:
    """How long the rows of a table took, each with the column that says how long they may."""
    told = [
        k for k, u in united.items() if u.family == "time" and u.size in _UNITS and _TARGETS & {*name_parts(k.column)}
    ]
    found = []
    for table, (first, last) in pairs:
        reached = (table, *(r.other for r in vocabulary.catalogue.parents(table)))
        target = next((k for k in told if k.table in reached), None)
        if target is None or first.table != last.table:
            continue
        unit = _UNITS[united[target].size]
        if unit == "days" or vocabulary.column(first).type is not Type.DATE:
            found.append((m.Length(unit, m.Col(first), m.Col(last)), target))
    return found


def by_target(tokens: Sequence[Token], targets: Sequence[tuple[m.Length, ColumnKey]]) -> Iterator[Edge]:
    """Resolved within target, missed the SLA: as long as it says, or longer."""
    lowers = [t.lower for t in tokens]
    for place, word in enumerate(lowers):
        if not targets or word not in ("target", "targets", "sla", "slas"):
            continue
        before = place - 1 - (place > 0 and lowers[place - 1] in _THEIR)
        end = place + 1 + (lowers[place + 1 : place + 2] in (["time"], ["times"], ["hours"], ["deadline"]))
        said = lowers[before] if before >= 0 else ""
        for length, target in targets[:2]:
            if said in _KEPT or said in _BROKEN:
                held = m.Compared("<=" if said in _KEPT else ">", length, m.Col(target))
                yield Edge("STATE", before, end, Part(held, "state"), 1.15)
