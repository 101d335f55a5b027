"""What the API sends and takes of the folio."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Any

from pydantic import BaseModel, Field

from gumption.core.folio.changes import Changed
from gumption.core.folio.page import MOST_PARTS, MOST_TEXT, PageTitle, PartKind, Watch
from gumption.core.folio.watching import Seen
from gumption.core.folio.working import CheckLine
from gumption.server.schemas import Cell, FieldOut
from gumption.store.folio import PageWorking, Schedule


class PageTitleIn(BaseModel):
    title: PageTitle


class PageBriefOut(BaseModel):
    """A page among the others."""

    id: int
    title: str
    answers: int
    worked_at: dt.datetime | None
    """When any of its answers was worked last."""
    older_than: list[str]
    """Tables that have changed since."""
    met: list[Seen]
    """Watches that are met."""
    failed: int
    """Answers that could not be worked."""
    schedule: Schedule | None
    next_at: dt.datetime | None


class DeletedPageOut(BaseModel):
    id: int
    title: str
    deleted_at: dt.datetime


class FolioOut(BaseModel):
    """All pages, and those that were deleted and can be had back."""

    pages: list[PageBriefOut]
    deleted: list[DeletedPageOut]


class KeptOut(BaseModel):
    """What an answer on a page came to."""

    reading: str
    doubt: str
    finding: str
    fields: list[FieldOut]
    rows: list[list[Cell]]
    cells: list[list[str | None]]
    total: int
    is_one_figure: bool
    chart: dict[str, Any] | None
    steps: list[str]
    checks: list[CheckLine]
    sql: str
    note: str


class PartOut(BaseModel):
    """A part of a page, and what it came to where it is an answer."""

    id: int
    kind: PartKind
    text: str
    html: str
    """A text's Markdown as HTML in which nothing runs."""
    beside: bool
    question: str
    watch: Watch | None
    answer: KeptOut | None
    problem: str
    """Why it could not be worked."""
    mend: str
    """How it could be kept from now on, as a sentence; empty where there is nothing to mend."""
    changed: Changed
    seen: Seen | None
    worked_at: dt.datetime | None
    since: dt.datetime | None
    """When it was worked before."""


class LinkOut(BaseModel):
    """A link by which others read a page, or one of its answers."""

    token: str
    part: int | None
    ends_at: dt.datetime


class InShortOut(BaseModel):
    """A sentence of a page in about a hundred words, and the part that it is of."""

    part: int
    sentence: str


class FolioPageOut(PageBriefOut):
    """A page with all that stands on it."""

    told: str
    in_short: list[InShortOut]
    parts: list[PartOut]
    workings: list[PageWorking]
    """The latest first."""
    shown: int | None
    """The working that it is shown as of; None for the last."""
    links: list[LinkOut]


class NewPartIn(BaseModel):
    """A text, a heading, or the answer of a question of the trail, to be put on a page."""

    kind: PartKind
    text: Annotated[str, Field(max_length=MOST_TEXT)] = ""
    beside: bool = False
    entry: int | None = None
    """The question of the trail whose answer is kept."""
    drawn: Annotated[str, Field(max_length=200)] = ""
    """Which chart of it is wanted; empty for the one that fits."""
    after: int | None = None
    """The part that it comes after; the last where None."""


class PartIn(BaseModel):
    """What a person says of a part; what is left out stays."""

    text: Annotated[str, Field(max_length=MOST_TEXT)] | None = None
    beside: bool | None = None
    watch: Watch | None = None
    unwatch: bool = False


class OrderIn(BaseModel):
    parts: Annotated[list[int], Field(max_length=MOST_PARTS)]


class FromTrailIn(BaseModel):
    """Answers of the trail that become a page, with the headings that some of them stand under."""

    title: PageTitle
    entries: Annotated[list[int], Field(min_length=1, max_length=MOST_PARTS)]
    headings: dict[int, Annotated[str, Field(max_length=1_000)]] = {}


class WorkIn(BaseModel):
    """What is to be worked again: some parts of a page, or all where None."""

    parts: Annotated[list[int], Field(max_length=MOST_PARTS)] | None = None
    run: Annotated[str, Field(max_length=64)] = ""


class ScheduleIn(BaseModel):
    schedule: Schedule | None


class LinkIn(BaseModel):
    """A link that is wanted: to a page or one answer of it, for so many days."""

    days: Annotated[int, Field(ge=1, le=366)] = 30
    part: int | None = None


class OpenedOut(BaseModel):
    """The question of the trail that a kept answer was opened as."""

    entry: int
