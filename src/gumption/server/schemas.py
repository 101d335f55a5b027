"""What the HTTP API sends and takes; the front end's types are generated from these."""

from __future__ import annotations

import datetime as dt
from typing import Any, Literal

from pydantic import BaseModel, Field

from gumption.core.model.catalogue import Relationship, Table
from gumption.core.model.types import Role, Type

Cell = str | int | float | bool | None


class Problem(BaseModel):
    """An error for a person: what is wrong and what to do."""

    problem: str
    advice: str = ""


class TableOut(BaseModel):
    """A table with where it came from; distinct values are left out, they may be many."""

    table: Table
    bytes: int
    seconds: float
    examples: list[str]
    """Questions worth asking of it."""


class WorkspaceOut(BaseModel):
    title: str
    as_of: dt.date
    rows: int
    tables: list[TableOut]
    relationships: list[Relationship]
    upload_limit: int


class AsOfIn(BaseModel):
    as_of: dt.date | None


class RowsOut(BaseModel):
    columns: list[str]
    rows: list[list[Cell]]
    total: int


class FileProgress(BaseModel):
    file: str
    status: Literal["waiting", "reading", "done", "failed"]
    what: str
    share: float
    problem: str | None = None


class JobOut(BaseModel):
    id: str
    files: list[FileProgress]
    finished: bool


class GlossOut(BaseModel):
    start: int
    end: int
    kind: Literal["measure", "column", "value", "time", "operation", "unread"]
    note: str


class QuestionIn(BaseModel):
    question: str = Field(max_length=100_000)
    follows: int | None = None
    choice: int = Field(default=0, ge=0, le=5)


class GlossResult(BaseModel):
    glosses: list[GlossOut]
    reading: str
    status: Literal["answered", "asks", "declined"]


class FieldOut(BaseModel):
    name: str
    label: str
    type: Type
    role: Role
    unit: str | None
    scale: int


class StepOut(BaseModel):
    verb: str
    rest: str
    rows_in: int | None
    rows_out: int | None


class CheckOut(BaseModel):
    name: str
    weight: Literal["holds", "caution", "stop"]
    sentence: str
    detail: str


class AlternativeOut(BaseModel):
    choice: int
    reading: str


class AnswerOut(BaseModel):
    """An answer with its proof, or why there is none."""

    id: int
    question: str
    follows: int | None
    status: Literal["answered", "asks", "declined"]
    problem: str
    glosses: list[GlossOut]
    unread: list[str]
    doubt: bool
    reading: str
    alternatives: list[AlternativeOut]
    finding: str
    fields: list[FieldOut]
    rows: list[list[Cell]]
    total: int
    chart: dict[str, Any] | None
    sql: str
    python: str
    plan: dict[str, Any] | None
    steps: list[StepOut]
    checks: list[CheckOut]
    seconds: float
    second_to_come: bool
    """True while only the engine has worked it; ask for the entry with `twice` to have it checked."""


class TrailOut(BaseModel):
    id: int
    parent: int | None
    question: str
    status: Literal["answered", "asks", "declined"]
    cautions: int
    summary: str
