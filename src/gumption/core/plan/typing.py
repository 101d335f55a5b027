"""The typed columns that every step gives, found before anything runs."""

from __future__ import annotations

from dataclasses import dataclass
from typing import assert_never

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Role, Type
from gumption.core.plan.expressions import (
    Aggregate,
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
from gumption.core.plan.steps import Derive, Group, Join, Keep, Limit, Pick, Plan, Sort, Step, Take, Window


@dataclass(frozen=True)
class Field:
    """A column of a step's result; `table` and `column` say where it came from unchanged."""

    type: Type
    role: Role
    scale: int = 0
    unit: str | None = None
    table: str | None = None
    column: str | None = None


Schema = dict[str, Field]


class PlanError(ValueError):
    """A plan that cannot run: which step, what is wrong, and what would do."""

    def __init__(self, problem: str, step: int | None = None) -> None:
        self.problem = problem
        self.step = step
        super().__init__(problem if step is None else f"step {step + 1}: {problem}")


def schemas(plan: Plan, catalogue: Catalogue) -> list[Schema]:
    """The schema after each step. Raises PlanError that names the first step at fault."""
    found: list[Schema] = []
    for number, step in enumerate(plan.steps):
        if isinstance(step, Take) != (number == 0):
            raise PlanError("a plan begins with one take, and only there", number)
        try:
            found.append(_step_schema(step, found[-1] if found else {}, catalogue))
        except PlanError as error:
            raise PlanError(error.problem, number) from error
    return found


def schema_of(plan: Plan, catalogue: Catalogue) -> Schema:
    """The schema of the plan's answer."""
    return schemas(plan, catalogue)[-1]


def _need(schema: Schema, name: str) -> Field:
    if name not in schema:
        raise PlanError(f"there is no column {name}; there are {', '.join(schema)}")
    return schema[name]


def _add(schema: Schema, name: str, field: Field) -> Schema:
    if name in schema:
        raise PlanError(f"there is already a column {name}; give the new one another name")
    return {**schema, name: field}


def _step_schema(step: Step, before: Schema, catalogue: Catalogue) -> Schema:
    match step:
        case Take(table=name):
            try:
                table = catalogue.table(name)
            except KeyError as error:
                raise PlanError(str(error.args[0])) from error
            return {c.name: Field(c.type, c.role, c.scale, c.unit, table=name, column=c.name) for c in table.columns}
        case Keep(condition=condition):
            if type_of(condition, before).type is not Type.BOOLEAN:
                raise PlanError("a condition must be true or false")
            return before
        case Derive(name=name, expression=expression):
            return _add(before, name, type_of(expression, before))
        case Join(other=other, on=on, how=how):
            beside = schema_of(other, catalogue)
            for pair in on:
                left, right = _need(before, pair.left), _need(beside, pair.right)
                if not _comparable(left.type, right.type):
                    raise PlanError(f"{pair.left} is {left.type} and {pair.right} is {right.type}; keys must match")
            if how in ("with", "without"):
                return before
            joined = before
            for name, field in beside.items():
                joined = _add(joined, name, field)
            return joined
        case Group(by=by, aggregates=aggregates):
            if not by and not aggregates:
                raise PlanError("a group needs columns to group by or something to work out")
            grouped: Schema = {}
            for name in by:
                grouped = _add(grouped, name, _need(before, name))
            for aggregate in aggregates:
                grouped = _add(grouped, aggregate.name, _aggregate_field(aggregate, before))
            return grouped
        case Window(name=name, function=function, column=column, order=order, within=within):
            field = _need(before, column)
            if function != "rank" and not field.type.is_number:
                raise PlanError(f"{column} is {field.type}; {function} needs a number")
            for needed in (*(k.column for k in order), *within):
                _need(before, needed)
            if function == "rank" and len(order) > 1:
                raise PlanError("rank goes by one column; ties share a rank")
            if function in ("running_total", "change", "change_percent") and not order:
                raise PlanError(f"{function} needs an order")
            match function:
                case "share" | "change_percent":
                    return _add(before, name, Field(Type.FLOAT, Role.PERCENTAGE))
                case "rank":
                    return _add(before, name, Field(Type.INTEGER, Role.SCORE))
                case "running_total" | "change":
                    return _add(before, name, Field(field.type, field.role, field.scale, field.unit))
                case _:
                    assert_never(function)
        case Sort(keys=keys):
            for key in keys:
                _need(before, key.column)
            return before
        case Limit():
            return before
        case Pick(columns=columns):
            picked: Schema = {}
            for chosen in columns:
                picked = _add(picked, chosen.name, _need(before, chosen.column))
            return picked
        case _:
            assert_never(step)


def _aggregate_field(aggregate: Aggregate, before: Schema) -> Field:
    if aggregate.column is None:
        if aggregate.function != "count":
            raise PlanError(f"{aggregate.function} needs a column")
        return Field(Type.INTEGER, Role.QUANTITY)
    field = _need(before, aggregate.column)
    match aggregate.function:
        case "count" | "distinct":
            return Field(Type.INTEGER, Role.QUANTITY)
        case "min" | "max":
            return field
        case "sum" | "mean" | "median" | "deviation" | "percentile" | "correlation":
            if not field.type.is_number:
                raise PlanError(f"{aggregate.column} is {field.type}; {aggregate.function} needs a number")
            if aggregate.function == "percentile" and aggregate.percent is None:
                raise PlanError("a percentile needs its per cent")
            if aggregate.function == "correlation":
                if aggregate.other is None or not _need(before, aggregate.other).type.is_number:
                    raise PlanError("a correlation needs a second column of numbers")
                return Field(Type.FLOAT, Role.SCORE)
            if aggregate.function == "sum":
                return field
            return Field(Type.FLOAT, field.role, 0, field.unit)
        case _:
            assert_never(aggregate.function)


def _comparable(left: Type, right: Type) -> bool:
    return left is right or (left.is_number and right.is_number) or (left.is_time and right.is_time)


_CONDITION = Field(Type.BOOLEAN, Role.FLAG)


def type_of(expression: Expression, schema: Schema) -> Field:
    """The type of an expression's value. Raises PlanError where the parts do not fit."""
    match expression:
        case ColumnRef(name=name):
            return _need(schema, name)
        case Constant(type=kind):
            return Field(kind, Role.TEXT)
        case Compare(left=left, right=right):
            a, b = type_of(left, schema), type_of(right, schema)
            if not _comparable(a.type, b.type):
                raise PlanError(f"{a.type} cannot be compared with {b.type}")
            return _CONDITION
        case Between(value=value, low=low, high=high):
            kind = type_of(value, schema).type
            if not (_comparable(kind, low.type) and _comparable(kind, high.type)):
                raise PlanError(f"{kind} cannot lie between {low.type} and {high.type}")
            return _CONDITION
        case OneOf(value=value, options=options):
            kind = type_of(value, schema).type
            if not all(_comparable(kind, option.type) for option in options):
                raise PlanError(f"{kind} cannot be one of values of another type")
            return _CONDITION
        case TextMatch(value=value):
            if type_of(value, schema).type is not Type.TEXT:
                raise PlanError("only text can contain, start or end with text")
            return _CONDITION
        case IsMissing(value=value):
            type_of(value, schema)
            return _CONDITION
        case AllOf(items=items) | AnyOf(items=items):
            if any(type_of(item, schema).type is not Type.BOOLEAN for item in items):
                raise PlanError("only conditions can be joined by and, or")
            return _CONDITION
        case Negated(item=item):
            if type_of(item, schema).type is not Type.BOOLEAN:
                raise PlanError("only a condition can be negated")
            return _CONDITION
        case Arithmetic(op=op, left=left, right=right):
            a, b = type_of(left, schema), type_of(right, schema)
            if not (a.type.is_number and b.type.is_number):
                raise PlanError(f"{a.type} {op} {b.type}: both must be numbers")
            if a.unit and b.unit and a.unit != b.unit and op in "+-":
                raise PlanError(f"{a.unit} and {b.unit} do not add")
            return _arithmetic_field(op, a, b)
        case DatePart(part=part, value=value):
            kind = type_of(value, schema).type
            if not kind.is_time or (part == "hour" and kind is Type.DATE):
                raise PlanError(f"{kind} has no {part}")
            return Field(Type.INTEGER, Role.CATEGORY)
        case DateFloor(value=value):
            if not type_of(value, schema).type.is_time:
                raise PlanError("only dates have months and years")
            return Field(Type.DATE, Role.DATE)
        case DateDifference(unit=unit, start=start, end=end):
            if not (type_of(start, schema).type.is_time and type_of(end, schema).type.is_time):
                raise PlanError("only dates differ by days")
            return Field(Type.INTEGER if unit == "days" else Type.FLOAT, Role.QUANTITY, unit=unit)
        case _:
            assert_never(expression)


def _arithmetic_field(op: str, a: Field, b: Field) -> Field:
    unit = a.unit or b.unit
    role = a.role if a.role.is_summed else b.role if b.role.is_summed else Role.QUANTITY
    if op == "/":
        return Field(Type.FLOAT, Role.SCORE, unit=None if a.unit == b.unit else a.unit)
    if Type.FLOAT in (a.type, b.type):
        return Field(Type.FLOAT, role, unit=unit)
    if Type.DECIMAL in (a.type, b.type):
        return Field(Type.DECIMAL, role, a.scale + b.scale if op == "*" else max(a.scale, b.scale), unit)
    return Field(Type.INTEGER, role, unit=unit)
