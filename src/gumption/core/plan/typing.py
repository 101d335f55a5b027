"""The typed columns that every step gives, found before anything runs."""

from __future__ import annotations

import datetime as dt
import re
from dataclasses import dataclass, replace
from decimal import Decimal, InvalidOperation
from typing import assert_never

from gumption.core.model.catalogue import Catalogue, Table
from gumption.core.model.types import Grain, Role, Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Aggregate, Constant, Expression
from gumption.core.plan.steps import Plan, Step, Take, is_one_row


@dataclass(frozen=True)
class Field:
    """A column of a step's result; `table` and `column` say where it came from unchanged."""

    type: Type
    role: Role
    scale: int = 0
    unit: str | None = None
    table: str | None = None
    column: str | None = None
    grain: Grain | None = None


Schema = dict[str, Field]
MOST_SCALE = 18
"""Digits after the point that exact decimals may have: more leave no room before it in 64 bits."""


class PlanError(ValueError):
    """A plan that cannot run: which step, what is wrong, and what would do."""

    def __init__(self, problem: str, step: int | None = None) -> None:
        self.problem = problem
        self.step = step
        super().__init__(problem if step is None else f"step {step + 1}: {problem}")


def schemas(plan: Plan, catalogue: Catalogue) -> list[Schema]:
    """The schema after each step. Raises PlanError that names the first step at fault."""
    found: list[Schema] = []
    ordered = False
    for number, step in enumerate(plan.steps):
        try:
            if isinstance(step, Take) != (number == 0):
                raise PlanError("a plan begins with one take, and only there")
            if isinstance(step, st.Limit) and not ordered:
                raise PlanError("which rows are first is not said; put a sort before the limit")
            ordered = isinstance(step, st.Sort) or (ordered and not _reorders(step))
            found.append(_step_schema(step, found[-1] if found else {}, catalogue))
        except PlanError as error:
            # A step inside another plan has a number of its own, which would mislead here.
            inside = "" if error.step is None else f"its other plan, step {error.step + 1}: "
            raise PlanError(inside + error.problem, number) from error
    return found


def schema_of(plan: Plan, catalogue: Catalogue) -> Schema:
    """The schema of the plan's answer."""
    return schemas(plan, catalogue)[-1]


def _reorders(step: Step) -> bool:
    return isinstance(step, (st.Group, st.Pivot, st.Unpivot, st.Append, st.Fill, st.AsOf))


def _need(schema: Schema, name: str) -> Field:
    if name not in schema:
        raise PlanError(f"there is no column {name}; there are {', '.join(schema)}")
    return schema[name]


def _number(schema: Schema, name: str | None, what: str) -> Field:
    if name is None:
        raise PlanError(f"{what} needs a column of numbers")
    field = _need(schema, name)
    if not field.type.is_number:
        raise PlanError(f"{name} is {field.type}; {what} needs a number")
    return field


def _add(schema: Schema, name: str, field: Field) -> Schema:
    if name in schema:
        raise PlanError(f"there is already a column {name}; give the new one another name")
    return {**schema, name: field}


def _schema_of_table(table: Table) -> Schema:
    return {c.name: Field(c.type, c.role, c.scale, c.unit, table=table.name, column=c.name) for c in table.columns}


def _step_schema(step: Step, before: Schema, catalogue: Catalogue) -> Schema:
    match step:
        case Take(table=name):
            try:
                table = catalogue.table(name)
            except KeyError as error:
                raise PlanError(str(error.args[0])) from error
            return catalogue.once("schema", name, lambda: _schema_of_table(table))
        case st.Keep(condition=condition):
            if type_of(condition, before).type is not Type.BOOLEAN:
                raise PlanError("a condition must be true or false")
            return before
        case st.Derive(name=name, expression=expression):
            return _add(before, name, type_of(expression, before))
        case st.Join():
            return _join_schema(step, before, catalogue)
        case st.AsOf(other=other, on=on, at=at):
            beside = schema_of(other, catalogue)
            _keys_fit((*on, at), before, beside)
            if not (before[at.left].type.is_time and beside[at.right].type.is_time):
                raise PlanError(f"{at.left} and {at.right} must both be dates")
            return _beside(before, beside)
        case st.Append(other=other):
            below = schema_of(other, catalogue)
            joint: Schema = {}
            for name in dict.fromkeys([*before, *below]):
                sides = [s[name] for s in (before, below) if name in s]
                joint[name] = common(sides, f"the two columns {name}")
            return joint
        case st.Group(by=by, aggregates=aggregates):
            if not by and not aggregates:
                raise PlanError("a group needs columns to group by or something to work out")
            grouped: Schema = {}
            for name in by:
                grouped = _add(grouped, name, _need(before, name))
            for aggregate in aggregates:
                grouped = _add(grouped, aggregate.name, aggregate_field(aggregate, before))
            return grouped
        case st.Pivot():
            return _pivot_schema(step, before)
        case st.Unpivot(columns=columns, name=name, value=value):
            fields = [_need(before, c) for c in columns]
            if len(set(columns)) < len(columns):
                raise PlanError("a column is named twice")
            rest = {n: f for n, f in before.items() if n not in columns}
            rest = _add(rest, name, Field(Type.TEXT, Role.CATEGORY))
            return _add(rest, value, common(fields, f"the columns {', '.join(columns)}"))
        case st.Window():
            return _window_schema(step, before)
        case st.Fill():
            return _fill_schema(step, before)
        case st.Sort(keys=keys):
            for key in keys:
                _need(before, key.column)
            return before
        case st.Limit():
            return before
        case st.Pick(columns=columns):
            picked: Schema = {}
            for chosen in columns:
                picked = _add(picked, chosen.name, _need(before, chosen.column))
            return picked
        case _:
            assert_never(step)


def _keys_fit(on: tuple[st.KeyPair, ...], before: Schema, beside: Schema) -> None:
    for pair in on:
        left, right = _need(before, pair.left), _need(beside, pair.right)
        if not _comparable(left.type, right.type):
            raise PlanError(f"{pair.left} is {left.type} and {pair.right} is {right.type}; keys must match")


def _beside(before: Schema, beside: Schema) -> Schema:
    joined = before
    for name, field in beside.items():
        joined = _add(joined, name, field)
    return joined


def _join_schema(step: st.Join, before: Schema, catalogue: Catalogue) -> Schema:
    beside = schema_of(step.other, catalogue)
    _keys_fit(step.on, before, beside)
    if step.how in ("with", "without"):
        if not step.on:
            raise PlanError("a test for a partner needs keys; name the columns that must be equal")
        return before
    if not step.on and not is_one_row(step.other):
        raise PlanError(
            "without keys every row would meet every other; name the columns that must be equal, "
            "or let the other plan end in a group without columns, which gives one row"
        )
    return _beside(before, beside)


def _pivot_schema(step: st.Pivot, before: Schema) -> Schema:
    crossed = _need(before, step.column)
    if step.aggregate.function == "share":
        raise PlanError("a share has a condition of its own; cross a count, and take window shares of it")
    cell = aggregate_field(step.aggregate, before)
    found: Schema = {}
    for name in step.by:
        found = _add(found, name, _need(before, name))
    for place in step.into:
        if not _comparable(crossed.type, place.value.type):
            raise PlanError(f"{step.column} is {crossed.type} and cannot be the {place.value.type} {place.value.value}")
        found = _add(found, place.name, cell)
    if step.totals:
        found = _add(found, step.aggregate.name, cell)
        found = _add(found, "total_row", _CONDITION)
    return found


def _window_schema(step: st.Window, before: Schema) -> Schema:
    function = step.function
    field = _need(before, step.column)
    if function not in ("rank", "place", "lag", "lead", "lowest", "highest") and not field.type.is_number:
        raise PlanError(f"{step.column} is {field.type}; {function} needs a number")
    for needed in (*(k.column for k in step.order), *step.within):
        _need(before, needed)
    along = ("running_total", "lag", "lead", "change", "change_percent", "moving_average", "moving_total")
    if function in along and not step.order:
        raise PlanError(f"{function} needs an order")
    if (step.rows is None) != (function not in ("moving_average", "moving_total")):
        raise PlanError("moving averages and totals, and they alone, need the number of rows they go over")
    if (step.bins is None) != (function not in ("quantile_bin", "width_bin")):
        raise PlanError("bins, and they alone, need their number")
    if step.unit != "row":
        if function not in ("lag", "change", "change_percent"):
            raise PlanError(f"{function} goes by rows, not by {step.unit}s")
        if len(step.order) != 1 or not before[step.order[0].column].type.is_time or step.order[0].descending:
            raise PlanError(f"looking back by {step.unit}s needs one date to go along, earliest first")
    match function:
        case "share" | "change_percent":
            found = Field(Type.FLOAT, Role.PERCENTAGE)
        case "rank" | "place" | "quantile_bin" | "width_bin":
            found = Field(Type.INTEGER, Role.SCORE)
        case "running_total" | "moving_total" | "total" | "change":
            found = replace(field, table=None, column=None)
        case "lag" | "lead" | "lowest" | "highest":
            found = replace(field, table=None, column=None)
        case "moving_average" | "average":
            found = Field(field.type.averaged, field.role, 0, field.unit)
        case _:
            assert_never(function)
    return _add(before, step.name, found)


def _fill_schema(step: st.Fill, before: Schema) -> Schema:
    field = _need(before, step.column)
    if step.unit == "number" and field.type is not Type.INTEGER:
        raise PlanError(f"{step.column} is {field.type}; filling by number needs whole numbers")
    if step.unit != "number" and field.type is not Type.DATE:
        raise PlanError(f"{step.column} is {field.type}; filling by {step.unit} needs the first day of each")
    for name in (*step.within, *step.zeros):
        _need(before, name)
    if step.column in step.within:
        raise PlanError(f"{step.column} cannot be filled within itself")
    for name in step.zeros:
        _number(before, name, "a nought")
    for end in (step.low, step.high):
        if end is not None and end.type is not field.type:
            raise PlanError(f"the time line's ends must be {field.type}, as {step.column} is")
    return before


def aggregate_field(aggregate: Aggregate, before: Schema) -> Field:
    """The type of what an aggregate gives. Raises PlanError where it does not fit its columns."""
    name, function = aggregate.column, aggregate.function
    if aggregate.where is not None and type_of(aggregate.where, before).type is not Type.BOOLEAN:
        raise PlanError(f"what {aggregate.name} is of must be true or false")
    if function == "share":
        if aggregate.where is None or name is not None:
            raise PlanError("a share of rows needs the condition they meet, and no column")
        return Field(Type.FLOAT, Role.PERCENTAGE)
    if function == "percentile" and aggregate.percent is None:
        raise PlanError("a percentile needs its per cent")
    if name is None:
        if function != "count":
            raise PlanError(f"{function} needs a column")
        return Field(Type.INTEGER, Role.QUANTITY)
    field = _need(before, name)
    if function in ("correlation", "covariance", "slope", "weighted_mean"):
        if aggregate.other is None:
            raise PlanError(f"{function} needs a second column")
        _number(before, aggregate.other, function)
    match function:
        case "count" | "distinct":
            return Field(Type.INTEGER, Role.QUANTITY)
        case "min" | "max" | "mode":
            return field
        case "latest" | "earliest":
            if aggregate.other is None:
                raise PlanError(f"{function} needs the column that says when")
            _need(before, aggregate.other)
            return field
        case "list":
            if field.type is not Type.TEXT:
                raise PlanError(f"{name} is {field.type}; only text is listed")
            return Field(Type.TEXT, Role.TEXT)
        case "sum":
            return _number(before, name, function)
        case "correlation" | "covariance" | "slope":
            _number(before, name, function)
            return Field(Type.FLOAT, Role.SCORE)
        case "mean" | "median" | "percentile" | "deviation" | "weighted_mean":
            _number(before, name, function)
            return Field(field.type.averaged, field.role, 0, field.unit)
        case "variance":
            _number(before, name, function)
            return Field(Type.FLOAT, Role.SCORE, 0, None if field.unit is None else f"{field.unit}²")
        case _:
            assert_never(function)


def _comparable(left: Type, right: Type) -> bool:
    return left is right or (left.is_number and right.is_number) or (left.is_time and right.is_time)


def common(fields: list[Field], what: str) -> Field:
    """One type for the values of several fields: numbers widen, the rest must be alike."""
    first = fields[0]
    kinds = {f.type for f in fields}
    units = {f.unit for f in fields}
    if len({u for u in units if u}) > 1:
        raise PlanError(f"{what} are in {' and '.join(sorted(u for u in units if u))}; convert one first")
    unit = next((u for u in units if u), None)
    role = (
        first.role
        if all(f.role is first.role for f in fields)
        else next((f.role for f in fields if f.role.is_summed), first.role)
    )
    same = {(f.table, f.column) for f in fields}
    source = (first.table, first.column) if len(same) == 1 else (None, None)
    if len(kinds) == 1:
        grain = first.grain if len({f.grain for f in fields}) == 1 else None
        return Field(first.type, role, max(f.scale for f in fields), unit, *source, grain)
    if all(k.is_number for k in kinds):
        if Type.DURATION in kinds:
            raise PlanError(f"{what} mix durations and plain numbers")
        if Type.FLOAT in kinds:
            return Field(Type.FLOAT, role, 0, unit)
        return Field(Type.DECIMAL, role, max(f.scale for f in fields), unit)
    if kinds == {Type.DATE, Type.TIMESTAMP}:
        return Field(Type.TIMESTAMP, first.role)
    raise PlanError(f"{what} are {' and '.join(sorted(kinds))}; they must be of one type")


_CONDITION = Field(Type.BOOLEAN, Role.FLAG)
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
        raise PlanError(f"{kind} {what}; only text does")


def _moment(value: Expression, schema: Schema, what: str) -> Type:
    kind = type_of(value, schema).type
    if not kind.is_time:
        raise PlanError(f"{kind} {what}; only dates do")
    return kind


def type_of(expression: Expression, schema: Schema) -> Field:
    """The type of an expression's value. Raises PlanError where the parts do not fit."""
    match expression:
        case ex.ColumnRef(name=name):
            return _need(schema, name)
        case Constant():
            return _constant_field(expression)
        case ex.Compare(left=left, right=right):
            _held_together(type_of(left, schema), type_of(right, schema))
            return _CONDITION
        case ex.Between(value=value, low=low, high=high):
            kind = type_of(value, schema).type
            if not (_comparable(kind, low.type) and _comparable(kind, high.type)):
                raise PlanError(f"{kind} cannot lie between {low.type} and {high.type}")
            _constant_field(low), _constant_field(high)
            return _CONDITION
        case ex.OneOf(value=value, options=options):
            kind = type_of(value, schema).type
            if not all(_comparable(kind, _constant_field(option).type) for option in options):
                raise PlanError(f"{kind} cannot be one of values of another type")
            return _CONDITION
        case ex.TextMatch(value=value):
            _text(value, schema, "does not contain, start or end with text")
            return _CONDITION
        case ex.PatternMatch(value=value, pattern=pattern):
            _text(value, schema, "does not match a pattern")
            check_pattern(pattern)
            return _CONDITION
        case ex.IsMissing(value=value):
            type_of(value, schema)
            return _CONDITION
        case ex.AllOf(items=items) | ex.AnyOf(items=items):
            _conditions(items, schema, "only conditions can be joined by and, or")
            return _CONDITION
        case ex.Negated(item=item):
            _conditions((item,), schema, "only a condition can be negated")
            return _CONDITION
        case ex.Case(branches=branches, otherwise=otherwise):
            _conditions(tuple(b.when for b in branches), schema, "what a case goes by must be true or false")
            thens = [b.then for b in branches] + ([otherwise] if otherwise is not None else [])
            return common([type_of(t, schema) for t in thens], "the values of a case")
        case ex.FirstKnown(items=items):
            return common([type_of(i, schema) for i in items], "the values to choose the first from")
        case ex.Arithmetic(op=op, left=left, right=right):
            return _arithmetic_field(op, type_of(left, schema), type_of(right, schema))
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
                    f"the pattern “{pattern}” has several groups; mark the one to take and leave the others"
                )
            return Field(Type.TEXT, Role.TEXT)
        case ex.Bin(value=value, width=width, edges=edges):
            field = type_of(value, schema)
            if not field.type.is_number:
                raise PlanError(f"{field.type} has no bins; only numbers do")
            if (width is None) == (not edges) or list(edges) != sorted(set(edges)):
                raise PlanError("bins need either a width or edges, the edges rising")
            return Field(Type.FLOAT, Role.CATEGORY, 0, field.unit)
        case ex.DatePart(part=part, value=value):
            kind = type_of(value, schema).type
            if not (kind is Type.TIMESTAMP or (part in ("hour", "minute")) is (kind is Type.TIME)) or not (
                kind.is_time or kind is Type.TIME
            ):
                raise PlanError(f"{kind} has no {part.replace('_', ' ')}")
            return Field(Type.INTEGER, Role.CATEGORY, grain=_PARTS.get(part))
        case ex.DateFloor(unit=unit, value=value):
            kind = _moment(value, schema, "has no months and years")
            if unit == "hour":
                if kind is Type.DATE:
                    raise PlanError("a date has no hours; only timestamps do")
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
    if not _comparable(a.type, b.type):
        raise PlanError(f"{a.type} cannot be compared with {b.type}")
    if a.role is b.role is Role.MONEY and a.unit and b.unit and a.unit != b.unit:
        raise PlanError(f"{a.unit} and {b.unit} cannot be compared; convert one first")


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
            f'“{value}” is no {kind}; dates are written 2026-03-31, times 14:30, decimals "12.50"'
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
            f"the pattern “{pattern}” uses what not every engine knows, or repeats a repeat; "
            "use characters, sets, repeats, | and ( ) only"
        )
    return groups


def _function_field(expression: ex.NumberFunction, field: Field) -> Field:
    if not field.type.is_number:
        raise PlanError(f"{field.type} has no {expression.function}; only numbers do")
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
                raise PlanError(f"{a.unit} and {b.unit} do not add; convert one first")
            if durations:
                return Field(Type.DURATION, role)
            return _exact(op, a, b, role, a.unit or b.unit)
        case "*":
            if a.role is b.role is Role.MONEY and a.unit and b.unit:
                raise PlanError(f"{a.unit} times {b.unit} is no amount of money; multiply by a count or a rate")
            if durations == 2:
                raise PlanError("a duration times a duration is nothing; multiply by a number")
            if durations:
                return Field(Type.DURATION, role)
            return _exact(op, a, b, role, _product_unit(a.unit, b.unit))
        case "/":
            if durations == 1 and a.type is Type.DURATION:
                return Field(Type.DURATION, Role.SCORE)
            return Field(Type.FLOAT, Role.SCORE, unit=_quotient_unit(a.unit, b.unit))
        case "//" | "%":
            if not a.type is b.type is Type.INTEGER:
                raise PlanError(f"{a.type} {op} {b.type}: whole division is of integers; use / or floor")
            return Field(Type.INTEGER, a.role if op == "%" else Role.QUANTITY)
        case "^":
            return Field(Type.FLOAT, Role.SCORE)
        case _:
            assert_never(op)


def _product_unit(a: str | None, b: str | None) -> str | None:
    """A rate or a count leaves the other's unit as it is."""
    plain = [u for u in (a, b) if u and u != "%"]
    return " × ".join(plain) if plain else a or b


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
            raise PlanError(f"a product with {scale} digits after the point is too fine; round one of the two first")
        return Field(Type.DECIMAL, role, scale, unit)
    return Field(Type.INTEGER, role, unit=unit)
