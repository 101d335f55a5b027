"""The short question that is asked back where several readings fit: about what they differ in."""

from __future__ import annotations

from collections.abc import Sequence

from gumption.core.reading import meaning as m


def asked_back(asks: Sequence[m.Ask]) -> str:
    """What to ask a person whose question can mean each of these."""
    first, rest = asks[0], asks[1:]
    if any(ask.lists != first.lists for ask in rest):
        return "Are the rows themselves wanted, or a figure worked out of them?"
    differing = [
        name
        for name in ("quantities", "groups", "where", "order", "limit", "shows")
        if any(getattr(ask, name) != getattr(first, name) for ask in rest)
    ]
    if differing[:1] == ["quantities"] and not _same_measure(asks):
        return "Which figure is meant?" if not first.order or first.limit is None else "By which figure?"
    if differing[:1] == ["quantities"]:
        return "How is it worked out?"
    if differing == ["where"] and all(_times(ask) != _times(first) for ask in rest):
        return "Which date is meant?"
    told = {
        "groups": "By what is it split?",
        "where": "Which rows are meant?",
        "order": "By what is it sorted?",
        "limit": "How many are wanted?",
        "shows": "Which columns are wanted?",
    }
    return told.get(differing[0], "Which of these is meant?") if differing else "Which of these is meant?"


def _same_measure(asks: Sequence[m.Ask]) -> bool:
    """True where all work with the same columns, each in its own way."""
    columns = [frozenset(m.columns_in(ask.quantities, nested=True)) for ask in asks]
    return bool(columns[0]) and all(c == columns[0] for c in columns)


def _times(ask: m.Ask) -> frozenset[object]:
    return frozenset(p.time for p in m.parts(ask.where) if isinstance(p, (m.Within, m.PartIs)))
