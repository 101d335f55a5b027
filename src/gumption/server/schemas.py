"""What the HTTP API sends and takes; the front end's types are generated from these."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field, StringConstraints

from gumption.core.code.dialects import DialectName
from gumption.core.editing.edits import Edit
from gumption.core.model.catalogue import Note, Relationship, Table
from gumption.core.model.files import Recipe
from gumption.core.model.meaning import TableMeaning
from gumption.core.model.origin import Origin
from gumption.core.model.term import Term
from gumption.core.model.types import Role, Type
from gumption.core.model.wish import Kind
from gumption.intake.relate import JoinDetail
from gumption.intake.suggest import Suggestion

Cell = str | int | float | bool | None


class Problem(BaseModel):
    """An error for a person, what is wrong and what to do; and for a program, as fields."""

    problem: str
    advice: str = ""
    where: str = ""
    """The file, or the path of the field, that is at fault."""
    found: str = ""
    """What stands there."""
    accepted: list[str] = []
    """What would do instead."""


class GuessOut(BaseModel):
    words: str
    dark: bool
    """True where a part of the name stays a question to the person."""


class VersionOut(BaseModel):
    """An earlier version of a table."""

    version: int
    source: str
    rows: int
    replaced_at: dt.datetime


class TableOut(BaseModel):
    """A table with where it came from; distinct values are left out, they may be many."""

    table: Table
    found: Table
    """The table as found, before what a person said of it was laid over; without columns' values."""
    bytes: int
    seconds: float
    examples: list[str]
    """Questions worth asking of it."""
    recipe: Recipe
    meaning: TableMeaning
    origin: Origin
    version: int
    versions: list[VersionOut]
    suggestions: list[Suggestion]
    guesses: dict[str, GuessOut]
    """Columns' names spelled out by a guess, where they are abbreviated."""


class LastQuestionOut(BaseModel):
    """The question that was asked last, and how it went."""

    question: str
    status: Literal["answered", "asks", "declined", "told"]
    finding: str
    holds: int
    cautions: int
    asked_at: dt.datetime


class ShelvedOut(BaseModel):
    """A workspace as it stands among the others."""

    id: int
    title: str
    as_of: dt.date | None
    """The day that counts as today; None where it is the real one."""
    demo: bool
    archived: bool
    made_at: dt.datetime
    opened_at: dt.datetime
    tables: list[tuple[str, int]]
    """Their names and rows, the largest first."""
    rows: int
    newer_files: int
    """Files that wait to take the place of a table."""
    terms: int
    lessons: int
    questions: int
    first_asked: dt.datetime | None
    last: LastQuestionOut | None


class WorkspaceIn(BaseModel):
    """A workspace's name."""

    title: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=100)]


class ArchivedIn(BaseModel):
    archived: bool


class WorkspaceOut(BaseModel):
    id: int
    title: str
    demo: bool
    as_of: dt.date
    rows: int
    tables: list[TableOut]
    preparing: bool
    """Whether examples of some of the tables are still being made."""
    relationships: list[Relationship]
    upload_limit: int
    folders: list[str]
    """Folders of the server's machine that files may be read from."""


class AsOfIn(BaseModel):
    as_of: dt.date | None = Field(ge=dt.date(1900, 1, 1), le=dt.date(2200, 12, 31))


class RowsOut(BaseModel):
    columns: list[str]
    rows: list[list[Cell]]
    total: int


class PageOut(BaseModel):
    """Some rows of an answer, raw and as people read them."""

    rows: list[list[Cell]]
    cells: list[list[str | None]]


class ChangeOut(BaseModel):
    column: str
    what: str


class ReplacementOut(BaseModel):
    """A newer file that waits for a person's yes, and what would be different."""

    id: str
    table: str
    file: str
    rows_before: int
    rows_after: int
    changes: list[ChangeOut]
    notes: list[Note]


class JobOut(BaseModel):
    """How far the reading of one file is."""

    id: str
    file: str
    status: Literal["waiting", "reading", "done", "failed", "cancelled"]
    what: str
    share: float
    problem: str | None
    tables: list[str]
    replacement: ReplacementOut | None


class PastedIn(BaseModel):
    name: str = Field(default="pasted", max_length=100)
    content: str = Field(min_length=1, max_length=20_000_000)


class FetchIn(BaseModel):
    """Where to fetch rows from; `secret` is a password or secret key, kept encrypted and never sent back."""

    origin: Origin
    secret: str | None = Field(default=None, repr=False, max_length=1000)
    name: str = Field(default="", max_length=100)


class JoinIn(BaseModel):
    table: str
    columns: tuple[str, ...] = Field(min_length=1, max_length=4)
    other: str
    other_columns: tuple[str, ...] = Field(min_length=1, max_length=4)
    decision: Literal["accepted", "forbidden", "found"]


class JoinsOut(BaseModel):
    """How a table joins, with what does not fit, and what was forbidden."""

    joins: list[JoinDetail]
    forbidden: list[JoinIn]


class MarkOut(BaseModel):
    """One thing that makes a file easy to ask about, and how a table does."""

    name: str
    holds: bool
    words: str


class GuideOut(BaseModel):
    """Every table held against the guide."""

    tables: dict[str, list[MarkOut]]


class GlossOut(BaseModel):
    start: int
    end: int
    kind: Literal["measure", "column", "value", "time", "operation", "unread"]
    note: str


class CompletionOut(BaseModel):
    """Text that may take the place of the question from `start` on."""

    text: str
    start: int
    kind: Literal["table", "column", "value", "operation"]
    note: str


class QuestionIn(BaseModel):
    question: str = Field(max_length=100_000)
    follows: int | None = Field(default=None, ge=0, le=2**31)
    choice: int | None = Field(default=None, ge=0, le=5)
    """Which of the readings is taken; none where the surest is, or where a choice is still to be offered."""
    asked_by: int | None = Field(default=None, ge=0, le=2**31)
    """The question of the trail that asked back, which the choice answers."""
    remember: bool = False
    """True where the choice is to hold for this wording from now on."""
    terms: list[Term] = Field(default=[], max_length=20)
    """What words of this question mean, said for it alone."""
    run: str = Field(default="", max_length=100)
    """A number of the page's own choice, by which the work can be stopped."""


class WordsIn(BaseModel):
    """Characters [start, end) of a question, whose other meanings are wanted."""

    question: str = Field(max_length=2_000)
    follows: int | None = Field(default=None, ge=0, le=2**31)
    terms: list[Term] = Field(default=[], max_length=20)
    start: int = Field(ge=0)
    end: int = Field(ge=1)


class OptionOut(BaseModel):
    """One thing that words could mean."""

    term: Term
    meaning: str
    note: str


class TermOut(BaseModel):
    """A word of the house's own; number 0 where it was said for one question alone."""

    term: Term
    meaning: str


TermKind = Literal["other name", "measure", "condition", "columns", "left out"]


class TermUseOut(BaseModel):
    """A question of the trail with a word in it: what is answered now, and what would be."""

    id: int
    question: str
    before: str
    after: str


class TermLookOut(BaseModel):
    """A word as it would be understood, before it is kept."""

    problem: str
    kind: TermKind
    value: str
    """What it comes to over all rows."""
    share: float | None
    """Of a condition: the share of the rows that meet it."""
    chart: dict[str, Any] | None
    """Of a measure or a condition: a line by month, where it has a time."""
    glosses: list[GlossOut]
    """Of the other words that it is said by."""
    clashes: list[str]
    uses: list[TermUseOut]


class KindOut(BaseModel):
    kind: TermKind
    value: str


class UnreadOut(BaseModel):
    """A word that nothing here is called, in how many of the latest questions, and one of them."""

    word: str
    questions: int
    question: str


class TaskOut(BaseModel):
    """One question of a text that asks several."""

    text: str
    """As it is asked, with what holds for all of them."""
    own: str
    follows: bool
    """True where it leans on the task before."""
    heading: str
    """What it stands under in the text, at the first that does."""
    reading: str
    status: Literal["answered", "asks", "declined", "told"]
    doubt: bool
    unread: list[str]


class BriefOut(BaseModel):
    """A text as questions; one question alone gives one task."""

    tasks: list[TaskOut]
    shared: list[str]
    left: list[str]
    """What asks nothing: greetings, thanks."""


class GlossResult(BaseModel):
    glosses: list[GlossOut]
    reading: str
    status: Literal["answered", "asks", "declined", "told"]
    completions: list[CompletionOut]
    """How the last word may go on, the likeliest first."""
    several: bool
    """True where the text may ask several questions, which /briefs tells."""


class FieldOut(BaseModel):
    name: str
    label: str
    """As it stands over its cells, with its unit."""
    type: Type
    role: Role
    unit: str | None
    scale: int
    measures: bool
    """True for numbers that are held against each other, false for those that tell apart or name a period."""


class StepOut(BaseModel):
    kind: str
    """As plans call it: keep, group."""
    verb: str
    rest: str
    path: list[int]
    """Where it stands: [3] is the plan's fourth step, [3, 0] the first of the plan that it brings in."""
    off: bool = False
    """True for one that a person switched off."""
    rows_in: int | None
    rows_out: int | None
    dropped: list[str]
    """Rows left out and why: 14 lack visit date."""


class CheckOut(BaseModel):
    name: str
    weight: Literal["holds", "caution", "stop"]
    sentence: str
    detail: str
    cure: str
    """A question that follows on and does without what is cautioned against."""


class AlternativeOut(BaseModel):
    choice: int
    reading: str
    finding: str = ""
    """What it would answer, where a person is asked which one is meant."""


class LessonOut(BaseModel):
    """What a person taught of a wording."""

    id: int
    kind: Literal["chosen", "right", "wrong"]
    question: str
    reading: str
    because: str


class MarkIn(BaseModel):
    right: bool
    because: Annotated[str, StringConstraints(strip_whitespace=True, max_length=1_000)] = ""


class RunOut(BaseModel):
    """How far a piece of work is, in words: empty where it told nothing yet, null where it is over."""

    told: str | None


class RemarkOut(BaseModel):
    """One thing that stands out, and the question that shows it."""

    sentence: str
    question: str
    chart: dict[str, Any] | None
    score: float
    """How surprising and large it is; the most comes first."""


class KeepsOut(BaseModel):
    """A column that can be kept, and a question that goes by it."""

    column: str
    question: str


class StudyOut(BaseModel):
    """What a study beyond a plan's steps did with its rows."""

    method: list[str]
    """How it is worked, a sentence each."""
    ways: list[str]
    """What it can be taken apart by; the way that was taken comes first."""
    remarks: list[RemarkOut]
    keeps: KeepsOut | None
    """What each thing came to, where that can be kept as a column."""
    own_rows: bool
    """True where the rows are the study's own, and none of the plan stand behind them."""


class WorkedOut(BaseModel):
    """What was worked out of a plan, with its proof."""

    reading: str
    finding: str
    fields: list[FieldOut]
    rows: list[list[Cell]]
    """Raw values."""
    cells: list[list[str | None]]
    """The same rows as people read them."""
    total: int
    chart: dict[str, Any] | None
    chart_note: str
    chart_kind: Kind | None
    chart_kinds: list[Kind]
    """The kinds of chart that it can be drawn as."""
    sql: str
    python: str
    plan: dict[str, Any]
    steps: list[StepOut]
    checks: list[CheckOut]
    seconds: float
    study: StudyOut | None
    second_to_come: bool
    """True while only the engine has worked it; ask for the entry with `twice` to have it checked."""


class _Asked(BaseModel):
    """A question of the trail, and how its words were read."""

    id: int
    question: str
    follows: int | None
    own_terms: list[Term]
    """What was said of words for this question alone."""
    glosses: list[GlossOut]
    unread: list[str]
    alternatives: list[AlternativeOut]
    """Other readings, or what there is to choose from, or what is near."""


class ByHandOut(BaseModel):
    """What can be done with an answer whose steps were changed by hand."""

    undo: bool
    redo: bool
    said: str
    """What the last change did."""


class EditIn(BaseModel):
    """One thing that a person does to the steps of an answer."""

    edit: Edit
    run: str = Field(default="", max_length=100)


class DoubtOut(BaseModel):
    words: str
    loud: bool
    """True where much speaks for it."""


class AnsweredOut(_Asked, WorkedOut):
    """An answer with its proof."""

    status: Literal["answered"] = "answered"
    goes_on: bool
    """True where the reading changes the question before it, False where the question stands on its own."""
    sure: float
    """The chance, 0 to 1, that the reading is what was meant."""
    lesson: LessonOut | None
    """What was taught of this wording, where the reading goes by it."""
    terms: list[TermOut]
    """The words in it that it goes by: the house's own, and those said for this question alone."""
    doubt: DoubtOut | None
    """Why it may not be what was meant; none where it is sure."""
    by_hand: ByHandOut | None


class AsksOut(_Asked):
    """A question asked back, with what each choice would answer."""

    status: Literal["asks"] = "asks"
    problem: str


class DeclinedOut(_Asked):
    """Why there is no answer."""

    status: Literal["declined"] = "declined"
    problem: str


class ToldOut(_Asked):
    """What was asked of the data themselves, in words."""

    status: Literal["told"] = "told"
    problem: str


AnswerOut = Annotated[AnsweredOut | AsksOut | DeclinedOut | ToldOut, Field(discriminator="status")]


class PlanIn(BaseModel):
    """A plan as docs/plan-format.md describes it."""

    plan: dict[str, Any]
    run: str = Field(default="", max_length=100)


class DialectIn(BaseModel):
    plan: dict[str, Any]
    dialect: DialectName


class DialectOut(BaseModel):
    sql: str


class TheirSqlIn(BaseModel):
    """One SELECT that a person wrote."""

    sql: str = Field(min_length=1, max_length=100_000)
    run: str = Field(default="", max_length=100)
    """A number of the page's own choice, by which it can be stopped."""


class TheirSqlOut(BaseModel):
    """The result of a person's SQL: theirs, and not checked."""

    fields: list[FieldOut]
    rows: list[list[Cell]]
    cells: list[list[str | None]]
    total: int
    whole: bool
    """False where there were more rows than are kept."""
    seconds: float


class TrailIn(BaseModel):
    """What a person says of a question in the trail."""

    starred: bool
    title: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)] = ""
    """What it is called there; the question itself where this is empty."""
    place: Annotated[float, Field(allow_inf_nan=False, ge=-1e15, le=1e15)] | None = None
    """Where it stands among those that follow the same question; by its number where this is None."""


class TrailOut(BaseModel):
    id: int
    parent: int | None
    question: str
    starred: bool
    title: str
    place: float | None
    status: Literal["answered", "asks", "declined", "told"]
    cautions: int
    summary: str
