"""The typed columns that every step gives, found before anything runs."""

from __future__ import annotations

from dataclasses import replace
from typing import assert_never

from gumption.core.model.catalogue import Catalogue, Column, Table
from gumption.core.model.types import Role, Type
from gumption.core.plan import steps as st
from gumption.core.plan.expression_types import CONDITION, type_of
from gumption.core.plan.expressions import Aggregate
from gumption.core.plan.fields import Field, PlanError, Schema, common, comparable, need
from gumption.core.plan.steps import Plan, Step, Take, is_one_row


def schemas(plan: Plan, catalogue: Catalogue) -> list[Schema]:
    """The schema after each step. Raises PlanError that names the first step at fault."""
    found: list[Schema] = []
    ordered = False
    for number, step in enumerate(plan.steps):
        try:
            if isinstance(step, Take) != (number == 0):
                raise PlanError("a plan begins with one take, and only there")
            if isinstance(step, st.Limit) and not ordered:
                raise PlanError("which rows are first is not said", "put a sort before the limit")
            ordered = isinstance(step, st.Sort) or (ordered and not _reorders(step))
            found.append(_step_schema(step, found[-1] if found else {}, catalogue))
        except PlanError as error:
            raise error.at(number) from error
    return found


def schema_of(plan: Plan, catalogue: Catalogue) -> Schema:
    """The schema of the plan's answer."""
    return schemas(plan, catalogue)[-1]


def _reorders(step: Step) -> bool:
    return isinstance(step, (st.Group, st.Pivot, st.Unpivot, st.Append, st.Fill, st.AsOf))


def _number(schema: Schema, name: str | None, what: str) -> Field:
    if name is None:
        raise PlanError(f"{what} needs a column of numbers")
    field = need(schema, name)
    if not field.type.is_number:
        raise PlanError(
            f"{name} is {field.type}",
            f"{what} needs a number",
            found=field.type,
            accepted=[t for t in Type if t.is_number],
        )
    return field


def _add(schema: Schema, name: str, field: Field) -> Schema:
    if name in schema:
        raise PlanError(f"there is already a column {name}", "give the new one another name", found=name)
    return {**schema, name: field}


def _field_of(table: str, column: Column) -> Field:
    return Field(
        column.type,
        column.role,
        column.scale,
        column.unit,
        table=table,
        column=column.name,
        separator=column.separator,
    )


def _schema_of_table(table: Table) -> Schema:
    return {c.name: _field_of(table.name, c) for c in table.columns}


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
                grouped = _add(grouped, name, need(before, name))
            for aggregate in aggregates:
                grouped = _add(grouped, aggregate.name, aggregate_field(aggregate, before))
            return grouped
        case st.Pivot():
            return _pivot_schema(step, before)
        case st.Unpivot(columns=columns, name=name, value=value):
            fields = [need(before, c) for c in columns]
            if len(set(columns)) < len(columns):
                raise PlanError("a column is named twice")
            rest = {n: f for n, f in before.items() if n not in columns}
            rest = _add(rest, name, Field(Type.TEXT, Role.CATEGORY))
            return _add(rest, value, common(fields, f"the columns {', '.join(columns)}"))
        case st.Spread(column=column):
            if need(before, column).type is not Type.TEXT:
                raise PlanError(f"{column} holds no text", "only text has several items in a cell", found=column)
            return {**before, column: replace(before[column], separator="")}
        case st.Window():
            return _window_schema(step, before)
        case st.Fill():
            return _fill_schema(step, before)
        case st.Sort(keys=keys):
            for key in keys:
                need(before, key.column)
            return before
        case st.Limit():
            return before
        case st.Pick(columns=columns):
            picked: Schema = {}
            for chosen in columns:
                picked = _add(picked, chosen.name, need(before, chosen.column))
            return picked
        case _:
            assert_never(step)


def _keys_fit(on: tuple[st.KeyPair, ...], before: Schema, beside: Schema) -> None:
    for pair in on:
        left, right = need(before, pair.left), need(beside, pair.right)
        if not comparable(left.type, right.type):
            raise PlanError(
                f"{pair.left} is {left.type} and {pair.right} is {right.type}",
                "keys must match",
                found=right.type,
                accepted=[left.type],
            )


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
            raise PlanError("a test for a partner needs keys", "name the columns that must be equal")
        return before
    if not step.on and not is_one_row(step.other):
        raise PlanError(
            "without keys every row would meet every other",
            "name the columns that must be equal, "
            "or let the other plan end in a group without columns, which gives one row",
        )
    return _beside(before, beside)


def _pivot_schema(step: st.Pivot, before: Schema) -> Schema:
    crossed = need(before, step.column)
    if step.aggregate.function == "share":
        raise PlanError("a share has a condition of its own", "cross a count, and take window shares of it")
    cell = aggregate_field(step.aggregate, before)
    found: Schema = {}
    for name in step.by:
        found = _add(found, name, need(before, name))
    for place in step.into:
        if not comparable(crossed.type, place.value.type):
            raise PlanError(
                f"{step.column} is {crossed.type} and cannot be the {place.value.type} {place.value.value}",
                found=crossed.type,
            )
        found = _add(found, place.name, cell)
    if step.totals:
        found = _add(found, step.aggregate.name, cell)
        found = _add(found, "total_row", CONDITION)
    return found


def _window_schema(step: st.Window, before: Schema) -> Schema:
    function = step.function
    field = need(before, step.column)
    if function not in ("rank", "place", "lag", "lead", "lowest", "highest") and not field.type.is_number:
        raise PlanError(f"{step.column} is {field.type}", f"{function} needs a number", found=field.type)
    for needed in (*(k.column for k in step.order), *step.within):
        need(before, needed)
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
    field = need(before, step.column)
    if step.unit == "number" and field.type is not Type.INTEGER:
        raise PlanError(f"{step.column} is {field.type}", "filling by number needs whole numbers", found=field.type)
    if step.unit != "number" and field.type is not Type.DATE:
        raise PlanError(
            f"{step.column} is {field.type}", f"filling by {step.unit} needs the first day of each", found=field.type
        )
    for name in (*step.within, *step.zeros):
        need(before, name)
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
    field = need(before, name)
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
            need(before, aggregate.other)
            return field
        case "list":
            if field.type is not Type.TEXT:
                raise PlanError(f"{name} is {field.type}", "only text is listed", found=field.type)
            return Field(Type.TEXT, Role.TEXT)
        case "sum":
            return _number(before, name, function)
        case "correlation" | "covariance" | "slope":
            _number(before, name, function)
            return Field(Type.FLOAT, Role.SCORE)
        case "mean" | "median" | "percentile" | "deviation" | "weighted_mean":
            _number(before, name, function)
            return Field(field.type.averaged, field.role, field.scale, field.unit)
        case "variance":
            _number(before, name, function)
            return Field(Type.FLOAT, Role.SCORE, 0, None if field.unit is None else f"{field.unit}²")
        case _:
            assert_never(function)
