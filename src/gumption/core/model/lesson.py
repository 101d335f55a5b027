"""What the people of a workspace taught of a wording."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

LessonKind = Literal["chosen", "right", "wrong"]


@dataclass(frozen=True)
class Lesson:
    """What a person said of one reading of one question."""

    kind: LessonKind
    question: str
    wording: str
    """The question's words without its values, numbers and times."""
    shape: str
    """The meaning without its own."""
    reading: str
    id: int = 0
    because: str = ""
    """Why, in the person's own words."""
