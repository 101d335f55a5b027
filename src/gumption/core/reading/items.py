"""What is asked of cells that hold several items: all of those that are named, or any one of them."""

from __future__ import annotations

from collections.abc import Collection

from gumption.core.reading import meaning as m
from gumption.core.reading.schema import Nouns
from gumption.core.reading.tokens import stem

_ANY = frozenset(["or", "either", "any", "versus", "vs"])


def holding_all(ask: m.Ask, words: Collection[str], nouns: Nouns) -> m.Ask:
    """Jobs tagged urgent and refund hold both, where nothing says that one will do and neither is told by itself."""
    where: list[m.Condition] = []
    for condition in ask.where:
        held = _held(condition, ask.head)
        apart = all(nouns.column(c.column).separator and m.Col(c.column) not in ask.groups for c in held)
        said = isinstance(condition, m.All) or not _ANY & set(words)
        if held and apart and said:
            where += [m.Is(c.column, values) for c in held for values in _by_item(c.values)]
        else:
            where.append(condition)
    return ask.but(where=tuple(where))


def _held(condition: m.Condition, head: str) -> list[m.Is]:
    """The items that a condition asks a row for, also where it is worded as rows of its own; none where it is no such thing."""
    match condition:
        case m.Is():
            return [condition]
        case m.All(items=items):
            found = [_held(item, head) for item in items]
            return [c for held in found for c in held] if all(found) else []
        case m.Has(rows=m.Rows(table=table, where=(m.Is() as inner,)), op=">=", number=1) if table == head:
            return [inner]
        case _:
            return []


def _by_item(values: tuple[str | int | float | bool, ...]) -> list[tuple[str | int | float | bool, ...]]:
    """The values of each item, of which some may be spelled in several ways."""
    found: dict[str, list[str | int | float | bool]] = {}
    for value in values:
        found.setdefault(" ".join(stem(w) for w in str(value).casefold().split()), []).append(value)
    return [tuple(spelled) for spelled in found.values()]
