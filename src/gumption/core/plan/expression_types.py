"""The type of an expression's value, and whether its parts fit."""

from __future__ import annotations

import datetime as dt
import re
from dataclasses import replace
from decimal import Decimal, InvalidOperation
from typing import assert_never

from gumption.core.model.types import Grain, Role, Type
from gumption.core.plan import expressions as ex
from gumption.core.plan.expressions import Constant, Expression
from gumption.core.plan.fields import MOST_SCALE, Field, PlanError, Schema, common, comparable, need

CONDITION = Field(Type.BOOLEAN, Role.FLAG)
_PARTS: dict[str, Grain] = {
    "year": Grain.YEAR_NUMBER,
    "fiscal_year": Grain.YEAR_NUMBER,
    "quarter": Grain.QUARTER_OF_YEAR,
    "fiscal_quarter": Grain.QUARTER_OF_YEAR,
    "month": Grain.MONTH_OF_YEAR,
    "weekday": Grain.WEEKDAY,
}
_FLOORS: dict[str, Grain] = {"year": Grain.YEAR, "quarter": Grain.QUARTER, "month": Grain.MONTH}


def _conditions(items: tuple[Expression, ...], schema: Schema, what: str) -> None:
    if any(type_of(item, schema).type is not Type.BOOLEAN for item in items):
        raise PlanError(what)


def _text(value: Expression, schema: Schema, what: str) -> None:
    kind = type_of(value, schema).type
    if kind is not Type.TEXT:
        raise PlanError(f"{kind} {what}", "only text does", found=kind)


def _moment(value: Expression, schema: Schema, what: str) -> Type:
    kind = type_of(value, schema).type
    if not kind.is_time:
        raise PlanError(f"{kind} {what}", "only dates do", found=kind)
    return kind


def type_of(expression: Expression, schema: Schema) -> Field:
    """The type of an expression's value. Raises PlanError where the parts do not fit."""
    match expression:
        case ex.ColumnRef(name=name):
            return need(schema, name)
        case Constant():
            return _constant_field(expression)
        case ex.Compare(left=left, right=right):
            _held_together(type_of(left, schema), type_of(right, schema))
            return CONDITION
        case ex.Between(value=value, low=low, high=high):
            kind = type_of(value, schema).type
            if not (comparable(kind, low.type) and comparable(kind, high.type)):
                raise PlanError(f"{kind} cannot lie between {low.type} and {high.type}", found=kind)
            _constant_field(low), _constant_field(high)
            return CONDITION
        case ex.OneOf(value=value, options=options):
            kind = type_of(value, schema).type
            if not all(comparable(kind, _constant_field(option).type) for option in options):
                raise PlanError(f"{kind} cannot be one of values of another type", found=kind)
            return CONDITION
        case ex.TextMatch(value=value):
            _text(value, schema, "does not contain, start or end with text")
            return CONDITION
        case ex.PatternMatch(value=value, pattern=pattern):
            _text(value, schema, "does not match a pattern")
            check_pattern(pattern)
            return CONDITION
        case ex.Holds(value=value):
            _text(value, schema, "holds no items of text")
            return CONDITION
        case ex.IsMissing(value=value):
            type_of(value, schema)
            return CONDITION
        case ex.AllOf(items=items) | ex.AnyOf(items=items):
            _conditions(items, schema, "only conditions can be joined by and, or")
            return CONDITION
        case ex.Negated(item=item):
            _conditions((item,), schema, "only a condition can be negated")
            return CONDITION
        case ex.Case(branches=branches, otherwise=otherwise):
            _conditions(tuple(b.when for b in branches), schema, "what a case goes by must be true or false")
            thens = [b.then for b in branches] + ([otherwise] if otherwise is not None else [])
            return common([type_of(t, schema) for t in thens], "the values of a case")
        case ex.FirstKnown(items=items):
            return common([type_of(i, schema) for i in items], "the values to choose the first from")
        case ex.Arithmetic(op=op, left=left, right=right):
            field = _arithmetic_field(op, type_of(left, schema), type_of(right, schema))
            return replace(field, unit="%") if _is_of_hundred(expression, schema) else field
        case ex.NumberFunction():
            return _function_field(expression, type_of(expression.value, schema))
        case ex.TextFunction(function=function, value=value):
            _text(value, schema, f"has no {function}")
            return Field(Type.INTEGER, Role.QUANTITY) if function == "length" else Field(Type.TEXT, Role.TEXT)
        case ex.Concatenate(parts=parts):
            for part in parts:
                _text(part, schema, "cannot be put together")
            return Field(Type.TEXT, Role.TEXT)
        case ex.Replace(value=value) | ex.SplitPart(value=value) | ex.Slice(value=value):
            _text(value, schema, "cannot be cut or replaced")
            return Field(Type.TEXT, Role.TEXT)
        case ex.Extract(value=value, pattern=pattern):
            _text(value, schema, "does not match a pattern")
            if check_pattern(pattern) > 1:
                raise PlanError(
                    f"the pattern “{pattern}” has several groups",
                    "mark the one to take and leave the others",
                    found=pattern,
                )
            return Field(Type.TEXT, Role.TEXT)
        case ex.Bin(value=value, width=width, edges=edges):
            field = type_of(value, schema)
            if not field.type.is_number:
                raise PlanError(f"{field.type} has no bins", "only numbers do", found=field.type)
            if (width is None) == (not edges) or list(edges) != sorted(set(edges)):
                raise PlanError("bins need either a width or edges, the edges rising")
            return Field(Type.FLOAT, Role.CATEGORY, 0, field.unit)
        case ex.DatePart(part=part, value=value):
            kind = type_of(value, schema).type
            if not (kind is Type.TIMESTAMP or (part in ("hour", "minute")) is (kind is Type.TIME)) or not (
                kind.is_time or kind is Type.TIME
            ):
                raise PlanError(f"{kind} has no {part.replace('_', ' ')}", found=kind)
            return Field(Type.INTEGER, Role.CATEGORY, grain=_PARTS.get(part))
        case ex.DateFloor(unit=unit, value=value):
            kind = _moment(value, schema, "has no months and years")
            if unit == "hour":
                if kind is Type.DATE:
                    raise PlanError("a date has no hours", "only timestamps do")
                return Field(Type.TIMESTAMP, Role.DATE)
            return Field(Type.DATE, Role.DATE, grain=_FLOORS.get(unit))
        case ex.DateDifference(unit=unit, start=start, end=end):
            for side in (start, end):
                _moment(side, schema, "does not differ by days")
            whole = unit in ("days", "months", "whole_years", "working_days")
            return Field(Type.INTEGER if whole else Type.FLOAT, Role.QUANTITY, unit=unit.replace("_", " "))
        case ex.DateShift(value=value):
            return Field(_moment(value, schema, "cannot be moved by days"), Role.DATE)
        case _:
            assert_never(expression)


def _held_together(a: Field, b: Field) -> None:
    if not comparable(a.type, b.type):
        raise PlanError(f"{a.type} cannot be compared with {b.type}")
    if a.role is b.role is Role.MONEY and a.unit and b.unit and a.unit != b.unit:
        raise PlanError(f"{a.unit} and {b.unit} cannot be compared", "convert one first")


def _constant_field(constant: Constant) -> Field:
    """The type of a constant, whose value must be one of it."""
    value, kind = constant.value, constant.type
    try:
        match kind:
            case Type.DATE:
                dt.date.fromisoformat(str(value))
            case Type.TIME:
                dt.time.fromisoformat(str(value))
            case Type.TIMESTAMP:
                if dt.datetime.fromisoformat(str(value)).tzinfo is not None:
                    raise ValueError
            case Type.BOOLEAN | Type.TEXT:
                if not isinstance(value, bool if kind is Type.BOOLEAN else str):
                    raise ValueError
            case Type.INTEGER:
                if isinstance(value, bool) or not isinstance(value, int) or not -(1 << 63) <= value < 1 << 63:
                    raise ValueError
            case Type.DECIMAL:
                scale = decimal_scale(constant)
                if scale > MOST_SCALE:
                    raise ValueError
                return Field(kind, Role.QUANTITY, scale)
            case Type.FLOAT | Type.DURATION:
                if isinstance(value, (bool, str)) or not abs(float(value)) < float("inf"):
                    raise ValueError
            case _:
                assert_never(kind)
    except (ValueError, InvalidOperation) as error:
        raise PlanError(
            f"“{value}” is no {kind}",
            'dates are written 2026-03-31, times 14:30, decimals "12.50"',
            found=value,
            accepted=[kind],
        ) from error
    return Field(kind, Role.TEXT if kind is Type.TEXT else Role.QUANTITY)


def decimal_of(constant: Constant) -> Decimal:
    """An exact decimal constant's value."""
    return Decimal(str(constant.value))


def decimal_scale(constant: Constant) -> int:
    """Digits after the point of an exact decimal constant."""
    exponent = decimal_of(constant).as_tuple().exponent
    if not isinstance(exponent, int):
        raise InvalidOperation
    return max(-exponent, 0)


_NOT_EVERYWHERE = re.compile(r"\(\?[^:]|\\[1-9bBAZzGKR]|[*+?}]\+|[*+}]\)[*+{]")


def check_pattern(pattern: str) -> int:
    """The number of groups of a regular expression that every engine knows; PlanError for one that some do not."""
    try:
        groups = re.compile(pattern, re.ASCII).groups
    except re.error as error:
        raise PlanError(f"the pattern “{pattern}” cannot be read: {error}") from error
    if _NOT_EVERYWHERE.search(pattern):
        raise PlanError(
            f"the pattern “{pattern}” uses what not every engine knows, or repeats a repeat",
            "use characters, sets, repeats, | and ( ) only",
            found=pattern,
        )
    return groups


def _function_field(expression: ex.NumberFunction, field: Field) -> Field:
    if not field.type.is_number:
        raise PlanError(f"{field.type} has no {expression.function}", "only numbers do", found=field.type)
    match expression.function:
        case "abs":
            return replace(field, table=None, column=None)
        case "sign":
            return Field(Type.INTEGER, Role.SCORE)
        case "round":
            if field.type is Type.DECIMAL:
                return Field(Type.DECIMAL, field.role, min(expression.digits, field.scale), field.unit)
            return replace(field, table=None, column=None)
        case "floor" | "ceiling":
            if field.type is Type.DECIMAL:
                return Field(Type.DECIMAL, field.role, 0, field.unit)
            return replace(field, table=None, column=None)
        case "sqrt" | "ln" | "log10" | "exp":
            return Field(Type.FLOAT, Role.SCORE)
        case _:
            assert_never(expression.function)


def _arithmetic_field(op: ex.ArithmeticOp, a: Field, b: Field) -> Field:
    if not (a.type.is_number and b.type.is_number):
        raise PlanError(f"{a.type} {op} {b.type}: both must be numbers")
    role = a.role if a.role.is_summed else b.role if b.role.is_summed else Role.QUANTITY
    if Role.MONEY in (a.role, b.role):
        role = Role.MONEY
    durations = (a.type is Type.DURATION) + (b.type is Type.DURATION)
    match op:
        case "+" | "-":
            if a.unit and b.unit and a.unit != b.unit:
                raise PlanError(f"{a.unit} and {b.unit} do not add", "convert one first")
            if durations:
                return Field(Type.DURATION, role)
            return _exact(op, a, b, role, a.unit or b.unit)
        case "*":
            if a.role is b.role is Role.MONEY and a.unit and b.unit:
                raise PlanError(f"{a.unit} times {b.unit} is no amount of money", "multiply by a count or a rate")
            if durations == 2:
                raise PlanError("a duration times a duration is nothing", "multiply by a number")
            if durations:
                return Field(Type.DURATION, role)
            return _exact(op, a, b, role, _product_unit(a, b))
        case "/":
            if durations == 1 and a.type is Type.DURATION:
                return Field(Type.DURATION, Role.SCORE)
            return Field(Type.FLOAT, Role.SCORE, unit=_quotient_unit(a.unit, b.unit))
        case "//" | "%":
            if not a.type is b.type is Type.INTEGER:
                raise PlanError(f"{a.type} {op} {b.type}: whole division is of integers", "use / or floor")
            return Field(Type.INTEGER, a.role if op == "%" else Role.QUANTITY)
        case "^":
            return Field(Type.FLOAT, Role.SCORE)
        case _:
            assert_never(op)


def _is_of_hundred(product: ex.Arithmetic, schema: Schema) -> bool:
    """True for an amount over another, times a hundred: so many per cent of it."""
    match product:
        case ex.Arithmetic(op="*", left=ex.Arithmetic(op="/", left=part, right=whole), right=ex.Constant(value=100)):
            return type_of(part, schema).role is type_of(whole, schema).role is Role.MONEY
        case _:
            return False


def _product_unit(a: Field, b: Field) -> str | None:
    """A rate or a count leaves the other's unit as it is; so many per cent of an amount are an amount."""
    plain = [f.unit for f in (a, b) if f.unit and f.unit != "%"]
    amount = any(f.unit is None and f.role.is_summed for f in (a, b))
    return " × ".join(plain) if plain else None if amount else a.unit or b.unit


def _quotient_unit(a: str | None, b: str | None) -> str | None:
    if a == b or b in (None, "%"):
        return None if a == b else a
    return None if a is None else f"{a} per {b.removesuffix('s')}" if b else a


def _exact(op: str, a: Field, b: Field, role: Role, unit: str | None) -> Field:
    if Type.FLOAT in (a.type, b.type):
        return Field(Type.FLOAT, role, unit=unit)
    if Type.DECIMAL in (a.type, b.type):
        scale = a.scale + b.scale if op == "*" else max(a.scale, b.scale)
        if scale > MOST_SCALE:
            raise PlanError(f"a product with {scale} digits after the point is too fine", "round one of the two first")
        return Field(Type.DECIMAL, role, scale, unit)
    return Field(Type.INTEGER, role, unit=unit)
