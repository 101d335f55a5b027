"""What a person said a table and its columns mean, kept apart from what was found and laid over it."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from gumption.core.model.catalogue import Column, Table
from gumption.core.model.types import Role

DefaultAggregate = Literal["sum", "mean", "median", "min", "max", "count", "distinct"]


class ColumnMeaning(BaseModel):
    """What was said of a column; what is None or empty was not said."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    display: str = Field(default="", max_length=200)
    description: str = Field(default="", max_length=2000)
    synonyms: tuple[str, ...] = ()
    role: Role | None = None
    aggregate: DefaultAggregate | None = None
    unit: str | None = Field(default=None, max_length=20)
    digits: int | None = Field(default=None, ge=0, le=10)
    """Digits shown after the point."""


class TableMeaning(BaseModel):
    """What was said of a table."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    display: str = Field(default="", max_length=200)
    description: str = Field(default="", max_length=2000)
    synonyms: tuple[str, ...] = ()
    time: str | None = None
    """The column a question means when it says only when."""
    naming: str | None = None
    """The column rows are called by."""
    columns: dict[str, ColumnMeaning] = {}


def meant(table: Table, meaning: TableMeaning) -> Table:
    """The table as found, with what was said of it laid over. What was said of columns that are gone is left aside."""
    columns = tuple(_meant(c, meaning.columns.get(c.name)) for c in table.columns)
    names = {c.name for c in columns}
    return table.model_copy(
        update={
            "columns": columns,
            "display": meaning.display,
            "description": meaning.description or table.description,
            "synonyms": _also(meaning.display, meaning.synonyms) or table.synonyms,
            "time": meaning.time if meaning.time in names else None,
            "naming": meaning.naming if meaning.naming in names else None,
        }
    )


def _also(display: str, synonyms: tuple[str, ...]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(w for w in (display, *synonyms) if w))


def _meant(column: Column, said: ColumnMeaning | None) -> Column:
    if said is None:
        return column
    return column.model_copy(
        update={
            "display": said.display,
            "description": said.description or column.description,
            "synonyms": _also(said.display, said.synonyms) or column.synonyms,
            "role": said.role or column.role,
            "aggregate": said.aggregate,
            "unit": said.unit if said.unit is not None else column.unit,
            "digits": said.digits,
        }
    )
