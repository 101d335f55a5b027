"""Why an answer may not be the one that was meant, as a sentence."""

from __future__ import annotations

from dataclasses import dataclass

from gumption.core.plan.words import listed, rows_called
from gumption.core.reading.glossing import respelled
from gumption.core.reading.read import Understanding

LIKELY = 0.6
"""Readings less sure than this are doubted loudly."""


@dataclass(frozen=True)
class Doubt:
    """What is doubted, and whether much speaks for it."""

    words: str
    loud: bool


def doubt_of(found: Understanding) -> Doubt | None:
    """What is to be said beside the answer of a question's first reading; None where it is sure."""
    if not found.doubt or not found.readings:
        return None
    first = found.readings[0]
    if found.unread:
        return Doubt(f"Not used: {', '.join(found.unread)}.", True)
    if first.stand_ins:
        named = listed([f"“{word}”" for word in first.stand_ins])
        they = "it was" if len(first.stand_ins) == 1 else "they were"
        return Doubt(f"Nothing here is called {named}; {they} taken for {rows_called(first.ask.head)}.", True)
    if (near := respelled(found.glosses)) and first.trust >= LIKELY:
        return Doubt(f"Spelled otherwise in the data: {listed(near)}.", False)
    sure = f"readings this sure about {100 * first.trust:.0f} in 100 were right."
    loud = first.trust < LIKELY
    return Doubt(f"This may not be what was meant: of {sure}" if loud else f"Of {sure}", loud)
