"""Formulas as people type them, as expressions: `fee_net - cost`, `days(visit_date, paid_on)`, `rating >= 4`."""

from __future__ import annotations

from typing import Literal

import sqlglot
from sqlglot import exp
from sqlglot.errors import SqlglotError

from gumption.core.model.types import Type
from gumption.core.plan.expressions import (
    AllOf,
    AnyOf,
    Arithmetic,
    ColumnRef,
    Compare,
    Constant,
    DateDifference,
    DateFloor,
    DatePart,
    Expression,
    IsMissing,
    Negated,
)
from gumption.core.plan.typing import PlanError, Schema, type_of

_COMPARES: dict[type[exp.Expr], Literal["=", "!=", "<", "<=", ">", ">="]] = {
    exp.EQ: "=",
    exp.NEQ: "!=",
    exp.LT: "<",
    exp.LTE: "<=",
    exp.GT: ">",
    exp.GTE: ">=",
}
_ARITHMETIC: dict[type[exp.Expr], Literal["+", "-", "*", "/"]] = {
    exp.Add: "+",
    exp.Sub: "-",
    exp.Mul: "*",
    exp.Div: "/",
}
_PARTS: tuple[Literal["year", "quarter", "month", "day", "weekday", "hour"], ...] = (
    "year",
    "quarter",
    "month",
    "day",
    "weekday",
    "hour",
)
_FLOORS: tuple[Literal["year", "quarter", "month", "week"], ...] = ("year", "quarter", "month", "week")
_DIFFERENCES: tuple[Literal["days", "hours", "minutes", "years"], ...] = ("days", "hours", "minutes", "years")
FUNCTIONS = "year(date), quarter(date), month(date), day(date), weekday(date), hour(time), start_of_month(date), days(from, to), hours(from, to), minutes(from, to), years(from, to), missing(column)"


def parse_formula(text: str, schema: Schema) -> Expression:
    """The expression a formula stands for, its types checked. Raises PlanError in words for the person."""
    try:
        tree = sqlglot.parse_one(text, dialect="duckdb")
    except (SqlglotError, RecursionError) as error:
        raise PlanError(
            f"the formula “{text}” cannot be read; write it like fee_net - cost or days(booked, seen)"
        ) from error
    expression = _expression(tree, schema)
    type_of(expression, schema)
    return expression


def _column(name: str, schema: Schema) -> ColumnRef:
    plain = {n.lower().replace(" ", "_"): n for n in schema}
    found = plain.get(name.lower().replace(" ", "_"))
    if found is None:
        raise PlanError(f"there is no column {name}; there are {', '.join(schema)}")
    return ColumnRef(name=found)


def _expression(tree: exp.Expr, schema: Schema) -> Expression:
    def inner(part: exp.Expr) -> Expression:
        return _expression(part, schema)

    if type(tree) in _ARITHMETIC:
        return Arithmetic(op=_ARITHMETIC[type(tree)], left=inner(tree.this), right=inner(tree.expression))
    if type(tree) in _COMPARES:
        return Compare(op=_COMPARES[type(tree)], left=inner(tree.this), right=inner(tree.expression))
    match tree:
        case exp.Paren():
            return inner(tree.this)
        case exp.Column():
            return _column(tree.name, schema)
        case exp.Literal():
            if tree.is_string:
                return Constant(type=Type.TEXT, value=tree.name)
            whole = tree.name.isdigit()
            return Constant(
                type=Type.INTEGER if whole else Type.FLOAT, value=int(tree.name) if whole else float(tree.name)
            )
        case exp.Boolean():
            return Constant(type=Type.BOOLEAN, value=bool(tree.this))
        case exp.Neg():
            return Arithmetic(op="-", left=Constant(type=Type.INTEGER, value=0), right=inner(tree.this))
        case exp.And():
            return AllOf(items=(inner(tree.this), inner(tree.expression)))
        case exp.Or():
            return AnyOf(items=(inner(tree.this), inner(tree.expression)))
        case exp.Not():
            return Negated(item=inner(tree.this))
        case exp.Func():
            return _call(tree, schema)
        case _:
            raise PlanError(
                f"“{tree.sql(dialect='duckdb')}” cannot stand in a formula; use columns, numbers, + - * /, comparisons, and {FUNCTIONS}"
            )


def _call(tree: exp.Func, schema: Schema) -> Expression:
    name = (tree.name if isinstance(tree, exp.Anonymous) else tree.sql_name()).lower()
    given = (
        tree.expressions
        if isinstance(tree, exp.Anonymous)
        else [a for a in tree.args.values() if isinstance(a, exp.Expr)]
    )
    arguments = [_expression(a.this if isinstance(a, exp.TsOrDsToDate) else a, schema) for a in given]
    name = {"day_of_week": "weekday", "day_of_month": "day"}.get(name, name)
    if name in _PARTS and len(arguments) == 1:
        return DatePart(part=next(p for p in _PARTS if p == name), value=arguments[0])
    floor = next((f for f in _FLOORS if name == f"start_of_{f}"), None)
    if floor is not None and len(arguments) == 1:
        return DateFloor(unit=floor, value=arguments[0])
    unit = next((d for d in _DIFFERENCES if d == name), None)
    if unit is not None and len(arguments) == 2:
        return DateDifference(unit=unit, start=arguments[0], end=arguments[1])
    if name == "missing" and len(arguments) == 1:
        return IsMissing(value=arguments[0])
    raise PlanError(f"there is no function {name} with {len(arguments)} values in it; there are {FUNCTIONS}")
