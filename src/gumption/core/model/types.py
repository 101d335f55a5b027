"""The types and roles of columns, and the values that stand in them."""

from __future__ import annotations

import datetime as dt
from decimal import Decimal
from enum import StrEnum
from typing import TypeAlias

Value: TypeAlias = str | int | float | bool | Decimal | dt.date | dt.datetime | dt.time | None
"""One cell. A missing value is None; a date is a `date`, a timestamp a `datetime`, a duration a float of seconds."""


class Type(StrEnum):
    """What kind of values a column holds."""

    TEXT = "text"
    INTEGER = "integer"
    DECIMAL = "decimal"
    FLOAT = "float"
    BOOLEAN = "boolean"
    DATE = "date"
    TIME = "time"
    TIMESTAMP = "timestamp"
    DURATION = "duration"
    """Counted in seconds, so that durations add up and average like other numbers."""

    @property
    def is_number(self) -> bool:
        return self in (Type.INTEGER, Type.DECIMAL, Type.FLOAT, Type.DURATION)

    @property
    def averaged(self) -> Type:
        """The type of a mean of such numbers."""
        return Type.DURATION if self is Type.DURATION else Type.FLOAT

    @property
    def is_time(self) -> bool:
        return self in (Type.DATE, Type.TIMESTAMP)


class Grain(StrEnum):
    """The period that a value stands for: as its first day, or as a number that comes round or goes on."""

    YEAR = "year"
    QUARTER = "quarter"
    MONTH = "month"
    YEAR_NUMBER = "year number"
    QUARTER_OF_YEAR = "quarter of the year"
    MONTH_OF_YEAR = "month of the year"
    WEEKDAY = "weekday"


class Role(StrEnum):
    """What a column is for, which decides what may be done with it."""

    IDENTIFIER = "identifier"
    LINK = "link"
    NAME = "name"
    CATEGORY = "category"
    PERSON = "person"
    PLACE = "place"
    DATE = "date"
    MONEY = "money"
    QUANTITY = "quantity"
    SCORE = "score"
    PERCENTAGE = "percentage"
    CODE = "code"
    FLAG = "flag"
    TEXT = "text"

    @property
    def is_summed(self) -> bool:
        """True where adding the values up means something."""
        return self in (Role.MONEY, Role.QUANTITY)

    @property
    def is_category(self) -> bool:
        """True where rows are grouped by it: people and places are categories of their own kind."""
        return self in (Role.CATEGORY, Role.PERSON, Role.PLACE)
