"""Where a table's rows came from, so that they can be fetched again."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field


class _Origin(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class Uploaded(_Origin):
    """A file that a person sent, or cells pasted."""

    kind: Literal["upload"] = "upload"


class FromFolder(_Origin):
    """A file in a folder of the server's machine that the administrator allowed."""

    kind: Literal["folder"] = "folder"
    path: str = Field(min_length=1, max_length=4000)


class FromAddress(_Origin):
    """An HTTP or HTTPS address."""

    kind: Literal["address"] = "address"
    url: str = Field(max_length=4000)


class FromDatabase(_Origin):
    """A table or a SELECT of a database server; its password stands in the secrets."""

    kind: Literal["database"] = "database"
    system: Literal["mysql", "postgresql"]
    host: str = Field(max_length=300)
    port: int = Field(ge=1, le=65535)
    database: str = Field(max_length=300)
    user: str = Field(max_length=300)
    query: str = Field(min_length=1, max_length=20_000)
    """A table's name, or a SELECT."""
    name: str = Field(min_length=1, max_length=100)


class FromStore(_Origin):
    """An object of a store that speaks the S3 protocol; its secret key stands in the secrets."""

    kind: Literal["store"] = "store"
    endpoint: str = Field(max_length=1000)
    bucket: str = Field(min_length=1, max_length=300)
    key: str = Field(min_length=1, max_length=2000)
    access_key: str = Field(max_length=300)


class FromFeed(_Origin):
    """A series of the feed that the administrator chose, by its code."""

    kind: Literal["feed"] = "feed"
    code: str = Field(min_length=1, max_length=100)
    begin: dt.date | None = None
    """The first day that is wanted; None for all there are."""


class Appended(_Origin):
    """Rows of other tables of the workspace, one under the other."""

    kind: Literal["append"] = "append"
    tables: tuple[str, ...] = Field(min_length=2, max_length=1000)
    column: str = Field(max_length=200)


Origin = Annotated[
    Uploaded | FromFolder | FromAddress | FromDatabase | FromStore | FromFeed | Appended, Field(discriminator="kind")
]
