"""What a kept answer came to at one time, with all that is shown of it and what proves it."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from decimal import Decimal
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from gumption.core.model.types import Type, Value
from gumption.core.model.wish import Kind
from gumption.core.plan.fields import Field
from gumption.core.present.numbers import cell, column_cells, head, is_measure

Cell = str | int | float | bool | None
"""A value as JSON holds it: exact decimals and times as their text."""
_MOST_LABELS = 3


class CheckLine(BaseModel):
    """A check of an answer, as a sentence."""

    model_config = ConfigDict(frozen=True)

    weight: Literal["holds", "caution", "stop"]
    sentence: str
    detail: str = ""


class Working(BaseModel):
    """One working of an answer: found, drawn, listed and proved."""

    model_config = ConfigDict(frozen=True)

    question: str
    reading: str
    doubt: str = ""
    finding: str
    fields: dict[str, Field]
    """The columns that are shown, by their names."""
    rows: tuple[tuple[Cell, ...], ...]
    total: int
    """How many rows there are, also where not all are kept."""
    added: tuple[str, ...] = ()
    """The columns whose rows add up to something."""
    chart: dict[str, Any] | None
    kind: Kind | None = None
    """How it is drawn."""
    sql: str
    python: str
    steps: tuple[str, ...]
    checks: tuple[CheckLine, ...]
    tables: dict[str, int]
    """The tables that it was worked from, and which version of each."""
    note: str = ""
    """What a person should know of how it was worked this time."""

    @property
    def names(self) -> list[str]:
        """The names of the columns."""
        return list(self.fields)

    @property
    def heads(self) -> list[str]:
        """What stands over the columns."""
        return [head(name, field) for name, field in self.fields.items()]

    def values(self) -> list[list[Value]]:
        """The rows as values of their types."""
        kinds = [field.type for field in self.fields.values()]
        return [[unpacked(raw, kind) for raw, kind in zip(row, kinds, strict=True)] for row in self.rows]

    def cells(self) -> list[list[str | None]]:
        """The rows as people read them."""
        rows = self.values()
        columns = [column_cells([row[n] for row in rows], field) for n, field in enumerate(self.fields.values())]
        return [list(row) for row in zip(*columns, strict=True)]

    @property
    def measures(self) -> list[int]:
        """Places of the columns that are held against each other."""
        return [n for n, field in enumerate(self.fields.values()) if is_measure(field)]

    @property
    def labels(self) -> list[int]:
        """Places of the columns that say what a row is about."""
        return [n for n, (name, f) in enumerate(self.fields.items()) if not is_measure(f) and name != "total_row"]

    @property
    def is_one_figure(self) -> bool:
        """True where there is one row, and figures alone in it."""
        return len(self.rows) == 1 and not self.labels and bool(self.measures)

    def label(self, row: Sequence[Value]) -> str:
        """What a row is about, as people read it."""
        fields = list(self.fields.values())
        return ", ".join(cell(row[n], fields[n]) for n in self.labels[:_MOST_LABELS]) or "all"


def packed(value: Value) -> Cell:
    """A value for JSON, from which `unpacked` makes the same value again."""
    if isinstance(value, float) and value != value:
        return None
    if isinstance(value, (Decimal, dt.date, dt.time)):
        return str(value)
    return value


def unpacked(raw: Cell, kind: Type) -> Value:
    """The value that was packed."""
    if not isinstance(raw, str):
        return float(raw) if kind in (Type.FLOAT, Type.DURATION) and isinstance(raw, int) else raw
    match kind:
        case Type.DECIMAL:
            return Decimal(raw)
        case Type.DATE:
            return dt.date.fromisoformat(raw[:10])
        case Type.TIMESTAMP:
            return dt.datetime.fromisoformat(raw)
        case Type.TIME:
            return dt.time.fromisoformat(raw)
        case Type.DURATION | Type.FLOAT:
            return float(raw)
        case Type.INTEGER:
            return int(raw)
        case Type.BOOLEAN:
            return raw == "True"
        case Type.TEXT:
            return raw
