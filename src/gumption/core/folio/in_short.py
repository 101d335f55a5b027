"""A page in about a hundred words: what its answers found and what is different, each told by the answer that it is of."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from pydantic import BaseModel, ConfigDict

from gumption.core.folio.changes import UNCHANGED
from gumption.core.folio.document import Shown

MOST_WORDS = 100


class Told(BaseModel):
    """A sentence, and the place on the page of the answer that it is of."""

    model_config = ConfigDict(frozen=True)

    place: int
    sentence: str


def in_short(parts: Sequence[Shown]) -> list[Told]:
    """What is met of what is watched, then what changed, then what was found, as far as a hundred words go.

    An answer that changed is told by its change alone, until every answer is told of.
    """
    told: list[Told] = []
    left = MOST_WORDS
    for place, sentence in (*_met(parts), *_changed(parts), *_found(parts)):
        if any(one.place == place for one in told):
            continue
        words = len(sentence.split())
        if words <= left:
            told.append(Told(place=place, sentence=sentence))
            left -= words
    return sorted(told, key=lambda one: one.place)


def _met(parts: Sequence[Shown]) -> Iterator[tuple[int, str]]:
    for place, shown in enumerate(parts):
        if shown.seen is not None and shown.seen.met:
            yield place, f"{shown.seen.condition[:1].upper()}{shown.seen.condition[1:]}: {shown.seen.words}."


def _changed(parts: Sequence[Shown]) -> Iterator[tuple[int, str]]:
    for place, shown in enumerate(parts):
        if shown.working is not None and shown.since and shown.changed != UNCHANGED:
            question = shown.question[:1].upper() + shown.question[1:]
            yield place, f"{question}: {shown.changed}"


def _found(parts: Sequence[Shown]) -> Iterator[tuple[int, str]]:
    for place, shown in enumerate(parts):
        if shown.working is not None:
            yield place, shown.working.finding
