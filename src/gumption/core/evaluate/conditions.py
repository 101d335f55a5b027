"""The value of an expression for every row, on NumPy columns."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable
from typing import assert_never

import numpy as np

from gumption.core.evaluate.vectors import (
    EPOCH,
    EPOCH_TIME,
    Mask,
    Vector,
    condition,
    days_of,
    float_vector,
    microseconds_of,
)
from gumption.core.model.types import Type
from gumption.core.plan.expressions import (
    AllOf,
    AnyOf,
    Arithmetic,
    Between,
    ColumnRef,
    Compare,
    Constant,
    DateDifference,
    DateFloor,
    DatePart,
    Expression,
    IsMissing,
    Negated,
    OneOf,
    TextMatch,
)

ColumnSource = Callable[[str], Vector]


def evaluate(expression: Expression, column: ColumnSource, rows: int) -> Vector:
    """The expression's value for each of the rows; `column` gives a column by name."""
    match expression:
        case ColumnRef(name=name):
            return column(name)
        case Constant():
            return _constant(expression, rows)
        case Compare(op=op, left=left, right=right):
            return condition(_compare(op, evaluate(left, column, rows), evaluate(right, column, rows)))
        case Between(value=value, low=low, high=high):
            found = evaluate(value, column, rows)
            above = _compare(">=", found, _constant(low, rows))
            return condition(above & _compare("<=", found, _constant(high, rows)))
        case OneOf(value=value, options=options):
            found = evaluate(value, column, rows)
            hit = np.zeros(rows, dtype=np.bool_)
            for option in options:
                hit |= _compare("=", found, _constant(option, rows))
            return condition(hit)
        case TextMatch(how=how, value=value, pattern=pattern):
            return condition(_text_match(how, evaluate(value, column, rows), pattern.lower()))
        case IsMissing(value=value):
            return condition(evaluate(value, column, rows).missing.copy())
        case AllOf(items=items):
            return condition(np.logical_and.reduce([truth(evaluate(i, column, rows)) for i in items]))
        case AnyOf(items=items):
            return condition(np.logical_or.reduce([truth(evaluate(i, column, rows)) for i in items]))
        case Negated(item=item):
            return condition(~truth(evaluate(item, column, rows)))
        case Arithmetic(op=op, left=left, right=right):
            return _arithmetic(op, evaluate(left, column, rows), evaluate(right, column, rows))
        case DatePart(part=part, value=value):
            return _date_part(part, evaluate(value, column, rows))
        case DateFloor(unit=unit, value=value):
            return _date_floor(unit, evaluate(value, column, rows))
        case DateDifference(unit=unit, start=start, end=end):
            return _difference(unit, evaluate(start, column, rows), evaluate(end, column, rows))
        case _:
            assert_never(expression)


def truth(vector: Vector) -> Mask:
    return vector.values.astype(np.bool_) & ~vector.missing


def _constant(constant: Constant, rows: int) -> Vector:
    present = np.zeros(rows, dtype=np.bool_)
    match constant.type:
        case Type.TEXT:
            words = np.array([str(constant.value)], dtype=object)
            return Vector(Type.TEXT, np.zeros(rows, dtype=np.int64), present, words=words)
        case Type.DATE:
            days = (dt.date.fromisoformat(str(constant.value)) - EPOCH).days
            return Vector(Type.DATE, np.full(rows, days, dtype=np.int64), present)
        case Type.TIMESTAMP:
            moment = dt.datetime.fromisoformat(str(constant.value)) - EPOCH_TIME
            return Vector(
                Type.TIMESTAMP, np.full(rows, moment // dt.timedelta(microseconds=1), dtype=np.int64), present
            )
        case Type.BOOLEAN:
            return Vector(Type.BOOLEAN, np.full(rows, bool(constant.value)), present)
        case Type.INTEGER:
            return Vector(Type.INTEGER, np.full(rows, int(constant.value), dtype=np.int64), present)
        case Type.TIME:
            at = dt.time.fromisoformat(str(constant.value))
            since = dt.datetime.combine(EPOCH, at) - EPOCH_TIME
            return Vector(Type.TIME, np.full(rows, since // dt.timedelta(microseconds=1), dtype=np.int64), present)
        case Type.DECIMAL | Type.FLOAT | Type.DURATION:
            return Vector(Type.FLOAT, np.full(rows, float(constant.value)), present)
        case _:
            assert_never(constant.type)


def _compare(op: str, left: Vector, right: Vector) -> Mask:
    present = ~(left.missing | right.missing)
    if left.type is Type.TEXT:
        a, b = shared_codes(left, right)
    elif left.type.is_time:
        a, b = microseconds_of(left), microseconds_of(right)
    elif left.type is Type.DECIMAL or right.type is Type.DECIMAL:
        a, b = left.floats(), right.floats()
    else:
        a, b = left.values, right.values
    match op:
        case "=":
            return np.asarray((a == b) & present)
        case "!=":
            return np.asarray(~((a == b) & present) & ~(left.missing & right.missing))
        case "<":
            return np.asarray((a < b) & present)
        case "<=":
            return np.asarray((a <= b) & present)
        case ">":
            return np.asarray((a > b) & present)
        case _:
            return np.asarray((a >= b) & present)


def shared_codes(left: Vector, right: Vector) -> tuple[np.ndarray, np.ndarray]:
    """Codes of two text columns against one dictionary."""
    assert left.words is not None and right.words is not None
    if left.words is right.words:
        return left.values, right.values
    words = np.unique(np.concatenate([left.words, right.words]))
    if not len(words):
        return left.values, right.values
    places = [np.searchsorted(words, known) for known in (left.words, right.words)]
    return tuple(
        (place[np.where(side.missing, 0, side.values)] if len(place) else np.zeros(len(side), dtype=np.int64))
        for place, side in zip(places, (left, right), strict=True)
    )  # type: ignore[return-value]


def _text_match(how: str, vector: Vector, pattern: str) -> Mask:
    assert vector.words is not None
    match how:
        case "contains":
            hits = [pattern in word.lower() for word in vector.words]
        case "starts":
            hits = [word.lower().startswith(pattern) for word in vector.words]
        case _:
            hits = [word.lower().endswith(pattern) for word in vector.words]
    if not hits:
        return np.zeros(len(vector), dtype=np.bool_)
    return np.asarray(np.array(hits, dtype=np.bool_)[np.where(vector.missing, 0, vector.values)] & ~vector.missing)


def _arithmetic(op: str, left: Vector, right: Vector) -> Vector:
    missing = left.missing | right.missing
    if op == "/":
        divisor = right.floats()
        with np.errstate(divide="ignore", invalid="ignore"):
            return float_vector(np.where(divisor == 0, np.nan, left.floats() / divisor))
    work = {"+": np.add, "-": np.subtract, "*": np.multiply}[op]
    if Type.FLOAT in (left.type, right.type):
        return float_vector(work(left.floats(), right.floats()))
    kind = Type.DECIMAL if Type.DECIMAL in (left.type, right.type) else Type.INTEGER
    a, b = (np.where(v.missing, 0, v.values).astype(np.int64) for v in (left, right))
    scale = left.scale + right.scale
    if op != "*":
        scale = max(left.scale, right.scale)
        a, b = a * 10 ** (scale - left.scale), b * 10 ** (scale - right.scale)
    with np.errstate(over="ignore"):
        rough = work(a.astype(np.float64), b.astype(np.float64))
    if len(rough) and np.abs(rough).max() > 9e18:
        raise OverflowError(f"a result of {op} is too large for exact numbers")
    return Vector(kind, work(a, b), missing, scale)


def _calendar(vector: Vector) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Year, month (1 to 12) and the day as numpy dates."""
    days = np.where(vector.missing, 0, days_of(vector)).astype("datetime64[D]")
    months = days.astype("datetime64[M]").astype(np.int64)
    return months // 12 + 1970, months % 12 + 1, days


def _date_part(part: str, vector: Vector) -> Vector:
    year, month, days = _calendar(vector)
    match part:
        case "year":
            found = year
        case "quarter":
            found = (month + 2) // 3
        case "month":
            found = month
        case "day":
            found = (days - days.astype("datetime64[M]")).astype(np.int64) + 1
        case "weekday":
            # 1970-01-01 was a Thursday.
            found = (days.astype(np.int64) + 3) % 7 + 1
        case _:
            found = np.where(vector.missing, 0, vector.values) // 3_600_000_000 % 24
    return Vector(Type.INTEGER, found.astype(np.int64), vector.missing)


def _date_floor(unit: str, vector: Vector) -> Vector:
    year, month, days = _calendar(vector)
    match unit:
        case "year":
            floored = days.astype("datetime64[Y]").astype("datetime64[D]").astype(np.int64)
        case "quarter":
            months = (year - 1970) * 12 + (month - 1) // 3 * 3
            floored = months.astype("datetime64[M]").astype("datetime64[D]").astype(np.int64)
        case "month":
            floored = days.astype("datetime64[M]").astype("datetime64[D]").astype(np.int64)
        case "week":
            numbers = days.astype(np.int64)
            floored = numbers - (numbers + 3) % 7
        case _:
            floored = days.astype(np.int64)
    return Vector(Type.DATE, floored, vector.missing)


def _difference(unit: str, start: Vector, end: Vector) -> Vector:
    missing = start.missing | end.missing
    if unit == "days":
        return Vector(Type.INTEGER, days_of(end) - days_of(start), missing)
    size = {"hours": 3_600_000_000.0, "minutes": 60_000_000.0, "years": 365.25 * 86_400_000_000.0}[unit]
    return Vector(Type.FLOAT, (microseconds_of(end) - microseconds_of(start)) / size, missing)
