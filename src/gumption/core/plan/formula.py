"""Formulas as people type them, as expressions: `fee_net - cost`, `days(visit_date, paid_on)`, `round(fee / visits, 2)`."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal, cast, get_args

import sqlglot
from pydantic import ValidationError
from sqlglot import exp
from sqlglot.errors import SqlglotError

from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan.expression_types import type_of
from gumption.core.plan.expressions import Constant, Expression
from gumption.core.plan.fields import PlanError, Schema

_OPERATORS: dict[type[exp.Expr], tuple[str, str]] = {
    exp.EQ: ("compare", "="),
    exp.NEQ: ("compare", "!="),
    exp.LT: ("compare", "<"),
    exp.LTE: ("compare", "<="),
    exp.GT: ("compare", ">"),
    exp.GTE: ("compare", ">="),
    exp.Add: ("arithmetic", "+"),
    exp.Sub: ("arithmetic", "-"),
    exp.Mul: ("arithmetic", "*"),
    exp.Div: ("arithmetic", "/"),
    exp.IntDiv: ("arithmetic", "//"),
    exp.Mod: ("arithmetic", "%"),
    exp.Pow: ("arithmetic", "^"),
}
PARTS = tuple(p for p in get_args(ex.DatePartName) if not p.startswith("fiscal"))
FLOORS = tuple(u for u in get_args(ex.DateUnit) if not u.startswith("fiscal"))
DIFFERENCES = {
    **{unit: unit for unit in ("days", "hours", "minutes", "years", "months", "working_days")},
    "age": "whole_years",
}
NUMBERS = ("abs", "sign", "floor", "ceiling", "sqrt", "ln", "log10", "exp")
_TEXTS = ("lower", "upper", "trim", "length")
_MOMENTS = {
    exp.DType.DATE: Type.DATE,
    exp.DType.TIME: Type.TIME,
    exp.DType.TIMESTAMP: Type.TIMESTAMP,
    exp.DType.TIMESTAMPNTZ: Type.TIMESTAMP,
}
"""Values written like DATE '2026-03-31'."""
_OTHER_NAMES = {
    "day_of_week": "weekday",
    "day_of_month": "day",
    "week_of_year": "week",
    "ceil": "ceiling",
    "substr": "substring",
    "char_length": "length",
}
FUNCTIONS = (
    "year(date) and the like, start_of_month(date) and the like, days(from, to), months(from, to), age(from, to), "
    "working_days(from, to), hours(from, to), minutes(from, to), years(from, to), round(number, digits), abs, floor, ceil, "
    "sqrt, ln, lower, upper, trim, length, replace(text, old, new), split_part(text, separator, number), "
    "substring(text, from, length), bin(number, width), contains(text, part), coalesce(one, other), missing(column), case when … then … else … end"
)


def parse_formula(text: str, schema: Schema) -> Expression:
    """The expression a formula stands for, its types checked. Raises PlanError in words for the person."""
    try:
        tree = sqlglot.parse_one(text, dialect="duckdb")
    except (SqlglotError, RecursionError) as error:
        raise PlanError(
            f"the formula “{text}” cannot be read",
            "write it like fee_net - cost or days(booked, seen)",
            found=text,
        ) from error
    expression = _expression(tree, schema)
    type_of(expression, schema)
    return expression


def _column(name: str, schema: Schema) -> ex.ColumnRef:
    plain = {n.lower().replace(" ", "_"): n for n in schema}
    found = plain.get(name.lower().replace(" ", "_"))
    if found is None:
        raise PlanError(f"there is no column {name}", found=name, accepted=list(schema))
    return ex.ColumnRef(name=found)


def _expression(tree: exp.Expr, schema: Schema) -> Expression:
    def inner(part: exp.Expr) -> Expression:
        return _expression(part, schema)

    if type(tree) in _OPERATORS:
        kind, op = _OPERATORS[type(tree)]
        make = _maker(ex.Compare if kind == "compare" else ex.Arithmetic, "left", "right", op=op)
        return make(inner(tree.this), inner(tree.expression))
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
        case exp.Cast() if isinstance(tree.this, exp.Literal) and tree.this.is_string and tree.to.this in _MOMENTS:
            return Constant(type=_MOMENTS[tree.to.this], value=tree.this.name)
        case exp.Boolean():
            return Constant(type=Type.BOOLEAN, value=bool(tree.this))
        case exp.Neg(this=exp.Literal()) if not tree.this.is_string:
            number = inner(tree.this)
            assert isinstance(number, Constant) and isinstance(number.value, (int, float))
            return Constant(type=number.type, value=-number.value)
        case exp.Neg():
            return ex.Arithmetic(op="-", left=Constant(type=Type.INTEGER, value=0), right=inner(tree.this))
        case exp.And():
            return ex.AllOf(items=tuple(inner(part) for part in tree.flatten()))
        case exp.Or():
            return ex.AnyOf(items=tuple(inner(part) for part in tree.flatten()))
        case exp.Not():
            return ex.Negated(item=inner(tree.this))
        case exp.Is() if isinstance(tree.expression, exp.Null):
            return ex.IsMissing(value=inner(tree.this))
        case exp.In() if tree.expressions:
            return ex.OneOf(value=inner(tree.this), options=tuple(_constant(inner(e), "in") for e in tree.expressions))
        case exp.Between():
            low, high = (_constant(inner(tree.args[end]), "between") for end in ("low", "high"))
            return ex.Between(value=inner(tree.this), low=low, high=high)
        case exp.DPipe():
            return ex.Concatenate(parts=(inner(tree.this), inner(tree.expression)))
        case exp.Case() if tree.this is None:
            branches = tuple(ex.Branch(when=inner(i.this), then=inner(i.args["true"])) for i in tree.args["ifs"])
            last = tree.args.get("default")
            return ex.Case(branches=branches, otherwise=None if last is None else inner(last))
        case exp.Func():
            return _call(tree, schema)
        case _:
            raise PlanError(
                f"“{tree.sql(dialect='duckdb')}” cannot stand in a formula",
                f"use columns, numbers, + - * /, comparisons, and {FUNCTIONS}",
                found=tree.sql(dialect="duckdb"),
            )


def _constant(expression: Expression, what: str) -> Constant:
    if not isinstance(expression, Constant):
        raise PlanError(f"after {what} only values can stand, not columns")
    return expression


def _call(tree: exp.Func, schema: Schema) -> Expression:
    """A function by its name and how many values it is given."""
    name = (tree.name if isinstance(tree, exp.Anonymous) else tree.sql_name()).lower()
    name = _OTHER_NAMES.get(name, name)
    if isinstance(tree, exp.Log) and tree.expression is not None and tree.this.name == "10":
        return ex.NumberFunction(function="log10", value=_expression(tree.expression, schema))
    given: list[exp.Expr] = []
    for part in tree.args.values():
        given += [p for p in (part if isinstance(part, list) else [part]) if isinstance(p, exp.Expr)]
    values = [_expression(a.this if isinstance(a, exp.TsOrDsToDate) else a, schema) for a in given]
    make = _functions().get((name, len(values)))
    if make is None:
        raise PlanError(f"there is no function {name} with {len(values)} values in it", f"there are {FUNCTIONS}")
    try:
        return make(*values)
    except ValidationError as error:
        raise PlanError(f"{name} does not take these values", f"there are {FUNCTIONS}") from error


Make = Callable[..., Expression]


def _functions() -> dict[tuple[str, int], Make]:
    """What each function, with so many values, stands for."""

    def whole(value: Expression) -> int:
        return int(_constant(value, "the text or number").value)

    def words(value: Expression) -> str:
        return str(_constant(value, "the text").value)

    def match(how: Literal["contains", "starts", "ends"]) -> Make:
        return lambda v, p: ex.TextMatch(how=how, value=v, pattern=words(p))

    found: dict[tuple[str, int], Make] = {
        ("missing", 1): lambda v: ex.IsMissing(value=v),
        ("coalesce", 2): lambda a, b: ex.FirstKnown(items=(a, b)),
        ("concat", 2): lambda a, b: ex.Concatenate(parts=(a, b)),
        ("round", 1): lambda v: ex.NumberFunction(function="round", value=v),
        ("round", 2): lambda v, d: ex.NumberFunction(function="round", value=v, digits=whole(d)),
        ("replace", 3): lambda v, a, b: ex.Replace(value=v, old=words(a), new=words(b)),
        ("split_part", 3): lambda v, s, n: ex.SplitPart(value=v, separator=words(s), part=whole(n)),
        ("substring", 3): lambda v, s, n: ex.Slice(value=v, start=whole(s), length=whole(n)),
        ("bin", 2): lambda v, w: ex.Bin(value=v, width=float(_constant(w, "the width").value)),
        ("contains", 2): match("contains"),
        ("starts_with", 2): match("starts"),
        ("ends_with", 2): match("ends"),
    }
    for part in PARTS:
        found[(part, 1)] = _maker(ex.DatePart, "value", part=part)
    for unit in FLOORS:
        found[(f"start_of_{unit}", 1)] = _maker(ex.DateFloor, "value", unit=unit)
    for name, unit in DIFFERENCES.items():
        found[(name, 2)] = _maker(ex.DateDifference, "start", "end", unit=unit)
    for function in NUMBERS:
        found[(function, 1)] = _maker(ex.NumberFunction, "value", function=function)
    for function in _TEXTS:
        found[(function, 1)] = _maker(ex.TextFunction, "value", function=function)
    return found


def _maker(node: type[ex.Node], *fields: str, **fixed: str) -> Make:
    """A function that makes such an expression of the values for its fields."""

    def make(*values: Expression) -> Expression:
        made = node.model_validate({**fixed, **dict(zip(fields, values, strict=True))})
        return cast(Expression, made)

    return make
