"""Numbers and dates as people read them."""

from __future__ import annotations

import datetime as dt
from decimal import Decimal

from gumption.core.model.types import Role, Type, Value
from gumption.core.plan.typing import Field
from gumption.core.plan.words import date_words

_SIGNS = {"GBP": "£", "EUR": "€", "USD": "$"}


_PLAIN = (Role.CODE, Role.IDENTIFIER, Role.LINK, Role.CATEGORY)
"""Roles of whole numbers that tell apart and count nothing."""


def shown(value: Value, field: Field | None = None) -> str:
    """A value with thousands separators, its unit, and no more digits than help."""
    if value is None:
        return "missing"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, dt.datetime):
        return f"{date_words(value.date())} {value:%H:%M}"
    if isinstance(value, dt.date):
        return date_words(value)
    if isinstance(value, dt.time):
        return value.isoformat("seconds" if value.second else "minutes")
    if isinstance(value, (int, float, Decimal)):
        return _number(value, field)
    return value


def duration(seconds: float) -> str:
    """Hours, minutes and seconds: 90 as 0:01:30."""
    whole = round(abs(seconds))
    return f"{'−' if seconds < 0 else ''}{whole // 3600}:{whole // 60 % 60:02d}:{whole % 60:02d}"


def _number(value: int | float | Decimal, field: Field | None) -> str:
    if field and field.type is Type.DURATION:
        return duration(float(value))
    if field and isinstance(value, int) and field.role in _PLAIN:
        # A year or a number that tells apart has no thousands.
        return str(value)
    if field and field.role is Role.PERCENTAGE and isinstance(value, float) and field.unit is None:
        return f"{100 * value:,.1f}%"
    if field and field.role is Role.MONEY and not isinstance(value, int):
        text = f"{abs(value):,.2f}"
    elif isinstance(value, int):
        return f"{value:,}"
    else:
        size = abs(float(value))
        digits = 0 if size >= 10000 else 2 if size >= 1 else 4
        text = f"{abs(value):,.{digits}f}"
        if "." in text:
            text = text.rstrip("0").rstrip(".")
    sign = "−" if value < 0 else ""
    unit = _SIGNS.get(field.unit or "", "") if field else ""
    return f"{sign}{unit}{text}"
