"""What the people of a workspace taught: that a wording means this, or does not.

A lesson is of a wording without its values, numbers and times, and of a meaning without its own, so that what was said
of visits in Millbeck holds for visits in Harrow Street too. It weighs among the readings and decides nothing alone.
"""

from __future__ import annotations

import dataclasses
import datetime as dt
from collections.abc import Iterable, Sequence

from gumption.core.model.lesson import Lesson, LessonKind
from gumption.core.reading import meaning as m
from gumption.core.reading.assemble import Candidate, word_weight
from gumption.core.reading.glossing import leaves
from gumption.core.reading.grammar import Edge
from gumption.core.reading.tokens import Token

_WEIGHTS: dict[LessonKind, float] = {"chosen": 4.0, "right": 1.2, "wrong": -1.6}
TAUGHT = "taught"
"""The feature of a candidate that a lesson speaks for or against."""
_VALUES = frozenset(["V", "N", "TIME", "QUOTED", "CLOCK", "NU", "DUR"])


class Lessons:
    """The lessons of a workspace, the latest of one wording and meaning in force."""

    def __init__(self, lessons: Iterable[Lesson] = ()) -> None:
        self._held = {(lesson.wording, lesson.shape): lesson for lesson in lessons}
        self._wordings = {wording for wording, _ in self._held}

    def __bool__(self) -> bool:
        return bool(self._held)

    def of(self, candidate: Candidate, tokens: Sequence[Token]) -> Lesson | None:
        """The lesson on this meaning of these words."""
        if not self._held:
            return None
        return self.held(wording_of(tokens, candidate.edges, candidate.follows), candidate.ask)

    def held(self, wording: str, ask: m.Ask) -> Lesson | None:
        """The lesson on this meaning of such words."""
        return self._held.get((wording, shape_of(ask))) if wording in self._wordings else None

    def weighed(self, candidate: Candidate, tokens: Sequence[Token]) -> Candidate:
        """The candidate with what a lesson adds to its score, or takes from it."""
        lesson = self.of(candidate, tokens)
        if lesson is None:
            return candidate
        weight = _WEIGHTS[lesson.kind]
        features = (*candidate.features, (TAUGHT, weight))
        return dataclasses.replace(candidate, features=features, score=candidate.score + weight)


def wording_of(tokens: Sequence[Token], edges: Sequence[Edge], follows: bool) -> str:
    """The words that carry a question's meaning, with a mark for each value, number and time."""
    marks = {}
    for edge in edges:
        for leaf in leaves(edge):
            if leaf.category in _VALUES:
                marks.update(dict.fromkeys(range(leaf.start, leaf.end), leaf.category))
    told: list[str] = ["+"] if follows else []
    for place, token in enumerate(tokens):
        mark = marks.get(place)
        if mark is not None:
            if not told or told[-1] != f"<{mark}>":
                told.append(f"<{mark}>")
        elif token.kind == "number" or word_weight(token) == 1.0:
            told.append(token.stem)
    return " ".join(told)[:700]


def shape_of(ask: m.Ask) -> str:
    """A meaning without its values, numbers and times."""
    return _blank(ask)


def _blank(node: object) -> str:
    match node:
        case m.Is(column=column):
            return f"Is({column})"
        case m.Says(column=column, how=how):
            return f"Says({column},{how})"
        case m.Within(time=time):
            return f"Within({_blank(time)})"
        case m.PartIs(unit=unit, time=time):
            return f"PartIs({unit},{_blank(time)})"
        case m.ColumnKey():
            return str(node)
        case str():
            return node
        case bool() | None:
            return str(node)
        case int() | float() | dt.date():
            return "#"
        case tuple() | list():
            return f"[{','.join(_blank(item) for item in node)}]"
        case _ if dataclasses.is_dataclass(node):
            parts = (f"{f.name}={_blank(getattr(node, f.name))}" for f in dataclasses.fields(node))
            return f"{type(node).__name__}({','.join(parts)})"
        case _:
            return str(node)
