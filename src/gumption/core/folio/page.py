"""A page of the folio: answers that are kept, with what is written between them."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from gumption.core.model.term import Term

PageTitle = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
MOST_TEXT = 100_000
"""Characters of a text between answers."""
MOST_PARTS = 200
"""Parts that a page may have."""


class AskedThen(BaseModel):
    """A question as it was asked: what a person said of it, and how it was read."""

    model_config = ConfigDict(frozen=True)

    question: Annotated[str, Field(max_length=60_000)]
    choice: int | None = None
    status: str = "answered"
    reading: str = ""
    terms: tuple[Term, ...] = ()
    by_hand: str = ""
    """Its steps as they were changed by hand, as the trail keeps them; empty where they were not."""


class Kept(BaseModel):
    """A kept answer: what was asked, how it was read, and the plan of that reading."""

    model_config = ConfigDict(frozen=True)

    chain: Annotated[tuple[AskedThen, ...], Field(min_length=1, max_length=500)]
    """The questions that led to it, each of which the next one follows."""
    plan: dict[str, Any]
    """The plan as a document (docs/plan-format.md)."""
    reading: str
    day: dt.date
    """The day that counted as today when it was read so."""
    drawn: str = ""
    """Which chart of it is wanted, such as "bar stacked"; empty for the one that fits."""
    glossary: tuple[Term, ...] = ()
    """The house's own words that its reading goes by, as they were."""
    entry: int = 0
    """The question of the trail that it was kept from."""

    @classmethod
    def unanswered(cls, question: str, day: dt.date) -> Kept:
        """A question that had no answer on a day."""
        asked = AskedThen(question=question, status="declined")
        return cls(chain=(asked,), plan={}, reading="", day=day)

    @property
    def question(self) -> str:
        """The question itself."""
        return self.chain[-1].question


Comparison = Literal["over", "under", "at least", "at most"]
Watched = Literal["any", "first", "last", "total"]


class Watch(BaseModel):
    """A condition on a kept answer that is told when it is met."""

    model_config = ConfigDict(frozen=True)

    column: Annotated[str, Field(min_length=1, max_length=200)]
    of: Watched = "any"
    """Which rows it is about."""
    comparison: Comparison
    bound: Annotated[float, Field(allow_inf_nan=False)]


PartKind = Literal["answer", "text", "heading"]


class Part(BaseModel):
    """A piece of a page, in its order."""

    model_config = ConfigDict(frozen=True)

    kind: PartKind
    text: Annotated[str, Field(max_length=MOST_TEXT)] = ""
    """Markdown of a text, or the words of a heading."""
    beside: bool = False
    """True for an answer that stands beside the one before it."""
    kept: Kept | None = None
    watch: Watch | None = None


class PageFile(BaseModel):
    """A page as a file that another workspace, or the command for reports, takes up."""

    format: Literal["gumption page"] = "gumption page"
    version: Literal[1] = 1
    title: PageTitle
    as_of: dt.date | None = None
    """The day that counts as today, where it is not the real one."""
    parts: Annotated[list[Part], Field(max_length=MOST_PARTS)]
