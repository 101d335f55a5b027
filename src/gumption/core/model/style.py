"""How numbers and days are written for the person who reads them, where that is not the way of the house."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

Numbers = Literal["comma", "point", "space", "apostrophe"]
Days = Literal["words", "day/month", "month/day", "day.month", "year-month"]

NUMBERS: dict[Numbers, tuple[str, str]] = {
    "comma": (",", "."),
    "point": (".", ","),
    "space": ("\u202f", ","),
    "apostrophe": ("’", "."),
}
"""What stands between thousands, and before what is broken."""
DAYS: dict[Days, str] = {
    "words": "",
    "day/month": "%d/%m/%Y",
    "month/day": "%m/%d/%Y",
    "day.month": "%d.%m.%Y",
    "year-month": "%Y-%m-%d",
}
"""How a day is written; in words where nothing stands here."""


@dataclass(frozen=True)
class Style:
    """A reader's own way to write numbers and days."""

    numbers: Numbers = "comma"
    days: Days = "words"


_HOUSE = Style()
_STYLE: ContextVar[Style] = ContextVar("style", default=_HOUSE)


def style_now() -> Style:
    """The style that answers are written in here and now."""
    return _STYLE.get()


@contextmanager
def in_style(style: Style) -> Iterator[None]:
    """Write answers in a style within a block."""
    token = _STYLE.set(style)
    try:
        yield
    finally:
        _STYLE.reset(token)


def trimmed(text: str) -> str:
    """A number without the noughts that it ends in behind its point."""
    point = NUMBERS[_STYLE.get().numbers][1]
    return text.rstrip("0").rstrip(point) if point in text else text


def written(value: int | float | Decimal, form: str = ",") -> str:
    """A number in the style of its reader; `form` says how many digits, as Python's format does."""
    group, point = NUMBERS[_STYLE.get().numbers]
    text = format(value, form)
    return text if (group, point) == (",", ".") else text.translate({ord(","): group, ord("."): point})
