"""How a file was read, and what a person decided about the reading: enough for anyone to read it again in the same way."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

from gumption.core.model.shape import ShapeStep
from gumption.core.model.types import Type

DateOrder = Literal["day", "month"]
"""Which comes first in a date written in digits."""
CalendarPart = Literal["year", "month", "quarter", "week", "day"]
"""What of a date a column of its own may tell."""


class CellReading(BaseModel):
    """How one column's cells become values."""

    model_config = ConfigDict(frozen=True)

    name: str
    type: Type
    place: int
    """Its place in the file, from 0; -1 where it was put together from others."""
    strip: tuple[str, ...] = ()
    """Marks taken off before a number is read: currency signs and codes, per cent signs."""
    thousands: str = ""
    decimal_comma: bool = False
    date_format: str | None = None
    booleans: tuple[tuple[str, bool], ...] = ()
    odd: bool = True
    """True where some cells may be of no such type, and became missing."""
    parts: tuple[tuple[CalendarPart, str], ...] = ()
    """The columns that it was put together from, the year first, each with what it tells."""
    words: tuple[tuple[str, int], ...] = ()
    """The words by which these tell a part, such as a month's name, each with its number."""


class FileReading(BaseModel):
    """How a table's file or sheet was read."""

    model_config = ConfigDict(frozen=True)

    file: str
    kind: Literal["delimited", "workbook", "cleaned"]
    """"cleaned" where the file cannot be read again by a few lines of code: these start from the cleaned table."""
    part: str = ""
    """Which table of the file: a sheet, a member of an archive, a block of a sheet; empty where there is only one."""
    delimiter: str = ","
    encoding: str = "utf-8"
    quoted: bool = True
    sheet: str | None = None
    skip_rows: int = 1
    """Rows above the first row of data: titles and the header."""
    named: bool = False
    """True where the row above the first row of data names the columns just as they are called."""
    missing_words: tuple[str, ...] = ("",)
    """The words that stand for a missing value in it."""
    keeps_words: bool = True
    """True where a text may be a word that programs take for a missing value, such as None."""
    padded: bool = True
    """True where blanks may stand around cells."""
    empty_rows: bool = True
    """True where rows of delimiters alone may stand among the others."""
    columns: tuple[CellReading, ...] = ()
    dropped_rows: tuple[int, ...] = ()
    """Places of rows left out, counted from 0 after the header among rows that are not wholly empty."""
    dropped_why: str = ""


class Recipe(BaseModel):
    """What a person decided about how a table is read; it is applied again to every newer file."""

    model_config = ConfigDict(frozen=True)

    declined: tuple[str, ...] = ()
    """Keys of the notes whose act was undone."""
    orders: dict[str, DateOrder] = {}
    """For columns of dates in digits, which number comes first."""
    types: dict[str, Type] = {}
    """Types set by the person, by column."""
    steps: tuple[ShapeStep, ...] = ()
    """Changes of shape, in order, after the cells are typed."""
