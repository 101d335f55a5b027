"""Changes of a table's shape that a person asks for: each a step of its recipe."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field


class _Step(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class Unpivot(_Step):
    """Columns become rows: their names go to `names_to`, their values to `values_to`."""

    kind: Literal["unpivot"] = "unpivot"
    columns: tuple[str, ...] = Field(min_length=2)
    names_to: str
    values_to: str
    as_month: int | None = None
    """The year that month names belong to, where they are to become dates; 0 where the names hold their year."""


class Split(_Step):
    """A text column parted at a separator into new columns."""

    kind: Literal["split"] = "split"
    column: str
    separator: str = Field(min_length=1)
    into: tuple[str, ...] = Field(min_length=2)


class Formula(_Step):
    """A new column worked out from others, row by row."""

    kind: Literal["formula"] = "formula"
    name: str = Field(min_length=1)
    formula: str = Field(min_length=1)


class LeaveOut(_Step):
    """Rows left out for what stands in a column, such as a clinic named “All clinics”."""

    kind: Literal["leave_out"] = "leave_out"
    column: str
    values: tuple[str, ...] = Field(min_length=1)


class FillDown(_Step):
    """Gaps take the value above them."""

    kind: Literal["fill_down"] = "fill_down"
    column: str


class Repair(_Step):
    """Values of a column written as their near-match in another table's key is, so that the two join."""

    kind: Literal["repair"] = "repair"
    column: str
    values: dict[str, str]


class DropRepeats(_Step):
    """Rows that stand more than once are kept once."""

    kind: Literal["drop_repeats"] = "drop_repeats"


ShapeStep = Annotated[
    Unpivot | Split | Formula | LeaveOut | FillDown | Repair | DropRepeats, Field(discriminator="kind")
]
