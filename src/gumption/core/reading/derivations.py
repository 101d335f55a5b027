"""Words made from others: rowers row, a sunny day has sun, medallists have a medal."""

from __future__ import annotations

from collections.abc import Iterator

from gumption.core.reading.tokens import stem

_AGENTS = ("ists", "ist", "ers", "er", "ors", "or")
_LEAST_BASE = 3


def bases(word: str) -> Iterator[str]:
    """Stems of what a doer does or has, or of what a word in -y is full of; nothing for other words."""
    plain = word.lower()
    found: list[str] = []
    for ending in (*_AGENTS, "y"):
        left = plain.removesuffix(ending)
        if left != plain and len(left) >= _LEAST_BASE:
            found += [left, left + "e"]
            if left[-1] == left[-2]:
                found.append(left[:-1])
            break
    yield from dict.fromkeys(stem(w) for w in found if w != plain)
