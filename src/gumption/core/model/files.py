"""How an uploaded file was read: enough for anyone to read it again in the same way."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

from gumption.core.model.types import Type


class CellReading(BaseModel):
    """How one column's cells become values."""

    model_config = ConfigDict(frozen=True)

    name: str
    type: Type
    place: int
    """Its place in the file, from 0."""
    strip: tuple[str, ...] = ()
    """Marks taken off before a number is read: currency signs and codes, per cent signs."""
    thousands: str = ""
    decimal_comma: bool = False
    date_format: str | None = None
    booleans: tuple[tuple[str, bool], ...] = ()


class FileReading(BaseModel):
    """How a table's file or sheet was read."""

    model_config = ConfigDict(frozen=True)

    file: str
    kind: Literal["delimited", "workbook"]
    delimiter: str = ","
    encoding: str = "utf-8"
    quoted: bool = True
    sheet: str | None = None
    skip_rows: int = 1
    """Rows above the first row of data: titles and the header."""
    missing_words: tuple[str, ...] = ("",)
    columns: tuple[CellReading, ...] = ()
    dropped_rows: tuple[int, ...] = ()
    """Places of rows left out, counted from 0 after the header among rows that are not wholly empty."""
    dropped_why: str = ""
