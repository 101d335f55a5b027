"""Bands of numbers as they stand in data and as people say them: 0-15, 65+, over 65, under 16s, children."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Sequence
from typing import TypeVar

from gumption.core.model.catalogue import Column
from gumption.core.model.types import Type
from gumption.core.reading.tokens import Token, stems

_BAND = re.compile(
    r"(?:(?:aged?s?|y|years?)[ _]?)?"
    r"(?:(?P<low>\d+)\s*(?:-|–|to|_to_)\s*(?P<high>\d+)"
    r"|(?P<least>\d+)[ _]*(?:\+|and[ _]over|or[ _]over|plus|or[ _]more|and[ _]older|and[ _]above|-max)"
    r"|(?:over|above|>|_?gt)[ _]*(?P<past>\d+)|(?:_?ge|>=)[ _]*(?P<from>\d+)"
    r"|(?:under|below|<|_?lt)[ _]*(?P<most>\d+))(?:[ _]*(?:years?|yrs?))?"
)
"""A band as written; what statistics offices write with a Y before it is one too."""
_BAND_OF_NAME = re.compile(r"(?:aged?s?|y)[ _](?P<low>\d+)[ _](?P<high>\d+)")
"""A band as the name of a column."""
_AGES: dict[tuple[str, ...], tuple[float, float]] = {
    ("children",): (0, 15),
    ("kids",): (0, 15),
    ("pensioners",): (65, math.inf),
    ("elderly",): (65, math.inf),
    ("youth",): (15, 24),
    ("young", "people"): (15, 24),
    ("young", "adults"): (18, 24),
    ("working", "age"): (16, 64),
    ("working-age",): (16, 64),
}
"""What people of some ages are called, the bands that these words stand for within a few years."""
OF_AN_AGE = stems("child children kids juniors adults teenagers youths pensioners seniors infants babies elderly young")
_PEOPLE = frozenset(["people", "persons", "residents", "inhabitants", "those", "adults"])
_LEEWAY = 3
_OVER = frozenset(["over", "above"])
_UNDER = frozenset(["under", "below"])
_OLDER, _YOUNGER = frozenset(["older", "more"]), frozenset(["younger", "less", "fewer"])
_AND_UP = ({"and", "or"}, {"over", "older", "more", "above", "up"})

T = TypeVar("T")
Band = tuple[float, float]


def band_of(text: str) -> Band | None:
    """The ends of a band as written, the last year it holds; None for any other text."""
    written = text.strip().lower()
    named = _BAND_OF_NAME.fullmatch(written)
    if named is not None:
        return float(named["low"]), float(named["high"])
    found = _BAND.fullmatch(written)
    if found is None:
        return None
    if found["low"]:
        return float(found["low"]), float(found["high"])
    if found["most"]:
        return 0.0, float(found["most"]) - 1
    least = float(found["past"]) + 1 if found["past"] else float(found["least"] or found["from"])
    return least, math.inf


def bands_of(column: Column) -> list[tuple[str, Band]]:
    """Each value of a column of bands written as text with its ends; empty for any other column."""
    if column.type is not Type.TEXT or not 2 <= column.distinct <= 60:
        return []
    found = [(v, band) for v in column.values if (band := band_of(v)) is not None]
    return found if len(found) >= max(2, 0.7 * len(column.values)) else []


def within(spoken: Band, bands: Sequence[tuple[T, Band]], *, leeway: int) -> tuple[T, ...]:
    """The bands that lie wholly in the one that is spoken of, where its ends are theirs; empty where they are not."""
    low, high = spoken
    inside = [(t, b) for t, b in bands if b[0] >= low - leeway and b[1] <= high + leeway]
    if not inside or len(inside) == len(bands):
        return ()
    first, last = min(b[0] for _, b in inside), max(b[1] for _, b in inside)
    # Over 65 may begin with 65 or 66.
    begins = low <= 0 or abs(first - low) <= max(leeway, 1)
    ends = high == last or (high < math.inf and last < math.inf and abs(last - high) <= max(leeway, 1))
    return tuple(t for t, _ in inside) if begins and ends else ()


def spoken_bands(tokens: Sequence[Token]) -> Iterator[tuple[int, int, Band, int]]:
    """(start, end, ends, leeway) of each band that a question speaks of, alone and with the people who are of it."""
    for start, end, band, leeway in _bands_in(tokens):
        yield start, end, band, leeway
        if (
            start
            and tokens[start - 1].lower in _PEOPLE
            and tokens[start].lower not in _OVER | _UNDER | _OLDER | _YOUNGER
        ):
            yield start - 1, end, band, leeway


def _bands_in(tokens: Sequence[Token]) -> Iterator[tuple[int, int, Band, int]]:
    """Each band that a question speaks of, without whom it is said of."""
    words = [t.lower for t in tokens]
    for place, word in enumerate(words):
        for said, band in _AGES.items():
            end = place + len(said)
            if tuple(words[place:end]) == said:
                # The elderly population is all who are that old.
                yield place, end + (words[end : end + 1] in (["population"], ["people"], ["residents"])), band, _LEEWAY
        if word == "young" and words[place + 1 : place + 2] in (["women"], ["men"], ["males"], ["females"]):
            yield place, place + 1, _AGES["young", "people"], _LEEWAY
        number = tokens[place].number
        if number is None and word.removesuffix("s").isdecimal() and word.isascii():
            number = float(word.removesuffix("s"))
        if number is None:
            continue
        before = words[max(place - 2, 0) : place]
        after = words[place + 1 : place + 3]
        start = place - 1 if place and words[place - 1] in ("aged", "age", "ages") else place
        if before[-1:] and before[-1] in _OVER:
            yield place - 1, place + 1, (number, math.inf), 0
        elif before[-1:] and before[-1] in _UNDER:
            yield place - 1, place + 1, (0.0, number - 1), 0
        elif len(before) == 2 and before[1] == "than" and before[0] in _OLDER | _YOUNGER:
            yield place - 2, place + 1, (number, math.inf) if before[0] in _OLDER else (0.0, number - 1), 0
        elif after[:1] in (["plus"], ["+"]):
            yield start, place + 2, (number, math.inf), 0
        elif len(after) == 2 and after[0] in _AND_UP[0] and after[1] in _AND_UP[1]:
            yield start, place + 3, (number, math.inf), 0
        elif len(after) == 2 and after[0] in ("to", "-", "–") and (last := tokens[place + 2].number) is not None:
            yield start, place + 3, (number, abs(last)), 0
        elif place + 1 < len(tokens) and (last := tokens[place + 1].number) is not None and last < 0:
            # 16-64, whose sign was read as part of the number.
            yield start, place + 2, (number, -last), 0
