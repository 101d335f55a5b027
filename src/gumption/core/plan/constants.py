"""Values as a plan writes them, and as people type them."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Collection
from decimal import Decimal, InvalidOperation

from gumption.core.model.types import Type, Value
from gumption.core.plan.expressions import Constant
from gumption.core.plan.fields import PlanError

_YES, _NO = ("yes", "true", "y", "1"), ("no", "false", "n", "0")


def number_constant(value: float) -> Constant:
    """A number as a plan writes it, whole where it is whole."""
    if float(value).is_integer() and abs(value) < 2**53:
        return Constant(type=Type.INTEGER, value=int(value))
    return Constant(type=Type.FLOAT, value=value)


def constant_of(value: Value, kind: Type) -> Constant:
    """A known value of a column as a plan writes it."""
    assert value is not None
    return Constant(type=kind, value=str(value) if isinstance(value, (Decimal, dt.date, dt.time)) else value)


def typed_constant(text: str, kind: Type, known: Collection[str] = ()) -> Constant:
    """What a person typed for a value of such a column, a text as it is `known` there. Raises PlanError for what is none."""
    text = text.strip()
    if not text:
        raise PlanError("there is no value to hold it against", "write one")
    try:
        match kind:
            case Type.TEXT:
                same = [k for k in known if k.lower() == text.lower()]
                return Constant(type=kind, value=text if text in known or not same else same[0])
            case Type.BOOLEAN:
                if text.lower() not in (*_YES, *_NO):
                    raise ValueError
                return Constant(type=kind, value=text.lower() in _YES)
            case Type.DATE:
                return Constant(type=kind, value=dt.date.fromisoformat(text).isoformat())
            case Type.TIMESTAMP if len(text) == len("2026-03-31"):
                return typed_constant(text, Type.DATE)
            case Type.TIMESTAMP:
                return Constant(type=kind, value=dt.datetime.fromisoformat(text).replace(tzinfo=None).isoformat(" "))
            case Type.TIME:
                return Constant(type=kind, value=dt.time.fromisoformat(text).isoformat())
            case Type.DURATION:
                return Constant(type=kind, value=_seconds(text))
            case Type.INTEGER | Type.FLOAT | Type.DECIMAL:
                return number_constant(float(Decimal(re.sub(r"[,\s_]", "", text))))
    except (ValueError, InvalidOperation, OverflowError) as error:
        raise PlanError(f"“{text}” is no {_CALLED[kind]}", f"write it like {_LIKE[kind]}", found=text) from error


_CALLED = {
    Type.BOOLEAN: "yes or no",
    Type.DATE: "date",
    Type.TIMESTAMP: "date with a time",
    Type.TIME: "time of day",
    Type.DURATION: "duration",
    Type.INTEGER: "number",
    Type.FLOAT: "number",
    Type.DECIMAL: "number",
}
_LIKE = {
    Type.BOOLEAN: "yes or no",
    Type.DATE: "2026-03-31",
    Type.TIMESTAMP: "2026-03-31 14:30",
    Type.TIME: "14:30",
    Type.DURATION: "1:30:00, or as seconds",
    Type.INTEGER: "12 or 0.5",
    Type.FLOAT: "12 or 0.5",
    Type.DECIMAL: "12 or 0.5",
}


def _seconds(text: str) -> float:
    """Hours, minutes and seconds between colons, or seconds alone."""
    parts = [float(p) for p in text.split(":")]
    if len(parts) > 3:
        raise ValueError
    return sum(part * 60.0**place for place, part in enumerate(reversed(parts)))
