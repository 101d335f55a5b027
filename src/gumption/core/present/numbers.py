"""Numbers and dates as people read them."""

from __future__ import annotations

import datetime as dt
import functools
import math
from collections.abc import Sequence
from decimal import Decimal

from babel.numbers import get_currency_symbol, is_currency

from gumption.core.model.style import trimmed, written
from gumption.core.model.types import Grain, Role, Type, Value
from gumption.core.plan.fields import Field
from gumption.core.plan.words import DAY_NAMES, MONTH_NAMES, day_words, spoken

_PLAIN = (Role.CODE, Role.IDENTIFIER, Role.LINK, Role.CATEGORY)
"""Roles of whole numbers that tell apart and count nothing."""


def is_measure(field: Field) -> bool:
    """True for numbers that are held against each other; others tell apart, or name a period."""
    return field.type.is_number and field.grain is None and field.role not in _PLAIN


def shown(value: Value, field: Field | None = None) -> str:
    """A value as it reads in a sentence: with thousands separators, its unit, and no more digits than help."""
    text = cell(value, field)
    if field is None or field.unit is None or not isinstance(value, (int, float, Decimal)) or isinstance(value, bool):
        return text
    return f"{text}{_behind(field.unit, float(value))}"


def head(name: str, field: Field) -> str:
    """A column's name over its cells, with the unit that these do not show and the name does not say."""
    told = spoken(name)
    unit = _behind(field.unit, 0.0).strip() if field.unit and field.type is not Type.DURATION else ""
    named = {unit.lower(), unit.lower().removesuffix("s"), *(("percent", "percentage") if unit == "%" else ())}
    said = not unit or named & set(told.lower().split())
    return told if said else f"{told} ({unit})"


def _behind(unit: str, value: float) -> str:
    """What of a unit stands behind a number: all but the sign of a currency before it."""
    first, _, rest = unit.partition(" ")
    if currency_sign(first):
        return f" {rest}" if rest else ""
    if unit == "%":
        return unit
    # "1 day", but "1 kg per day" and "1 hrs/week" as they are.
    return f" {unit[:-1] if abs(value) == 1 and unit.endswith('s') and unit.isalpha() and len(unit) > 2 else unit}"


def cell(value: Value, field: Field | None = None) -> str:
    """A value as it stands under its column's head: like `shown`, without what the head says."""
    if value is None:
        return "missing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, dt.datetime):
        return f"{day_words(value.date())} {value:%H:%M}"
    if isinstance(value, dt.date):
        return _period(value, field.grain if field else None)
    if isinstance(value, dt.time):
        return value.isoformat("seconds" if value.second else "minutes")
    if isinstance(value, (int, float, Decimal)):
        return _number(value, field)
    return value


def _period(first: dt.date, grain: Grain | None) -> str:
    """A period by its first day."""
    match grain:
        case Grain.YEAR:
            return str(first.year)
        case Grain.QUARTER:
            return f"Q{(first.month + 2) // 3} {first.year}"
        case Grain.MONTH:
            return f"{MONTH_NAMES[first.month - 1]} {first.year}"
        case _:
            return day_words(first)


def _numbered(place: int, grain: Grain | None) -> str | None:
    """A period by its number; None for a number that is none of a period."""
    match grain:
        case Grain.YEAR_NUMBER:
            return str(place)
        case Grain.QUARTER_OF_YEAR:
            return f"Q{place}"
        case Grain.MONTH_OF_YEAR:
            return MONTH_NAMES[place - 1]
        case Grain.WEEKDAY:
            return DAY_NAMES[place - 1]
        case _:
            return None


def duration(seconds: float) -> str:
    """Hours, minutes and seconds: 90 as 0:01:30."""
    whole = round(abs(seconds))
    return f"{'−' if seconds < 0 else ''}{whole // 3600}:{whole // 60 % 60:02d}:{whole % 60:02d}"


def _number(value: int | float | Decimal, field: Field | None) -> str:
    """A number by itself, with no more digits than help."""
    if field and field.type is Type.DURATION:
        return duration(float(value))
    if field and isinstance(value, int) and field.role in _PLAIN:
        # A number that tells apart has no thousands.
        return _numbered(value, field.grain) or str(value)
    if isinstance(value, int):
        return _fixed(value, field, 0)
    if field and is_share(field):
        return _fixed(value, field, 1)
    if field and field.role is Role.MONEY:
        return _fixed(value, field, 2)
    size = abs(float(value))
    text = _fixed(value, field, 0 if size >= 10000 else _fine(size, field))
    return trimmed(text)


_MOST_DIGITS = 9
"""Digits behind the point at most: beyond them a computer's numbers are noise."""


def _fine(size: float, field: Field | None) -> int:
    """Digits behind the point of numbers as large as that: rates are written with as many as they are quoted in."""
    if size < 1:
        # What is next to nothing is told by its first three digits, and is not nought.
        return 4 if size >= 0.01 or size == 0 else min(2 - math.floor(math.log10(size)), _MOST_DIGITS)
    return 4 if field is not None and field.scale >= 4 and size < 100 else 2


def is_share(field: Field) -> bool:
    """True for parts of one, which are shown in percent."""
    return field.role is Role.PERCENTAGE and field.type is Type.FLOAT and field.unit is None


def _fixed(value: int | float | Decimal, field: Field | None, digits: int) -> str:
    """A number with so many digits behind the point, its sign, and the sign of its currency."""
    share = field is not None and is_share(field)
    text = written(100 * value if share else value, f",.{digits}f").removeprefix("-")
    # What is shown as zero is not below it.
    sign = "−" if value < 0 and set(text) & set("123456789") else ""
    return f"{sign}{_before(field)}{text}{'%' if share else ''}"


def _before(field: Field | None) -> str:
    """The sign of a currency, which stands before its amounts."""
    return currency_sign((field.unit or "").partition(" ")[0]) if field else ""


@functools.cache
def currency_sign(unit: str) -> str:
    """The sign of a currency that has one of its own; none for other units, and for those known by their code."""
    sign = get_currency_symbol(unit, "en") if is_currency(unit) else unit
    return "" if sign == unit else sign


def column_cells(values: Sequence[Value], field: Field) -> list[str | None]:
    """The cells of a column, missing ones None; of numbers all with as many digits behind the point."""
    numbers = [float(v) for v in values if isinstance(v, (float, Decimal))]
    if not numbers or field.type is Type.DURATION:
        return [None if v is None else cell(v, field) for v in values]
    digits = 1 if is_share(field) else field.scale if field.type is Type.DECIMAL else _digits(numbers, field)
    # Zeros that every number ends in say nothing; of money two digits stay.
    least = min(digits, 2 if field.role is Role.MONEY else 0)
    while True:
        texts = [_cell(v, field, digits) for v in values]
        if digits <= least or not all(t is None or t.rstrip("%").endswith("0") for t in texts):
            return texts
        digits -= 1


def _cell(value: Value, field: Field, digits: int) -> str | None:
    if isinstance(value, (int, float, Decimal)) and not isinstance(value, bool):
        return _fixed(value, field, digits)
    return None if value is None else cell(value, field)


def _digits(numbers: list[float], field: Field) -> int:
    """How many digits behind the point tell the floats of a column apart well enough."""
    if field.role is Role.MONEY:
        return 2
    sizes = [abs(v) for v in numbers if v]
    if sizes and max(sizes) >= 10_000 and min(sizes) >= 100:
        return 0
    return _fine(max(sizes), field) if sizes else 4
