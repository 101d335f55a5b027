"""Whether the operations of a plan mean something on the columns they are done to."""

from __future__ import annotations

import re

from gumption.core.checks import words
from gumption.core.checks.check import Check, Weight
from gumption.core.checks.lineage import Making, makings
from gumption.core.model.catalogue import Catalogue, Column, Table
from gumption.core.model.types import Role, Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.expression_types import type_of
from gumption.core.plan.expressions import Aggregate, Expression, children, columns_of, conjuncts
from gumption.core.plan.fields import Field, Schema
from gumption.core.plan.steps import Plan, Step

_CODES = (Role.IDENTIFIER, Role.LINK, Role.CODE)
_LEVELS = re.compile(r"(^|_)(stocks?|balance|inventory|on_hand|headcount|backlog|outstanding|occupancy)(_|$)")
"""Names of what is counted at a moment; adding it up over moments counts the same things again."""
_CURRENCIES = re.compile(r"(^|_)(currency|ccy)(_|$)")
_UNITS = re.compile(r"(^|_)(unit|units|uom|unit_of_measure)(_|$)")


def operations(plan: Plan, typed: list[Schema], catalogue: Catalogue) -> list[Check]:
    """Sums, averages, ratios and percentages that may not mean what they seem to."""
    made = makings(plan)
    found: list[Check] = []
    for place, step in enumerate(plan.steps[1:], start=1):
        before, making = typed[place - 1], made[place - 1]
        for aggregate in _aggregates(step):
            field = before.get(aggregate.column or "")
            if field is None or not field.type.is_number:
                continue
            found += _fits(aggregate, field)
            found += _of_averages(aggregate, making)
            if aggregate.function in ("sum", "mean"):
                found += _snapshot(aggregate, field, plan, place, step, catalogue)
                found += _mixed_units(aggregate, field, plan, place, step, catalogue)
        found += _percentages(step, before, making)
    return list(dict.fromkeys(found)) or [words.OPERATIONS_FIT]


def _aggregates(step: Step) -> tuple[Aggregate, ...]:
    match step:
        case st.Group(aggregates=aggregates):
            return aggregates
        case st.Pivot(aggregate=aggregate):
            return (aggregate,)
        case _:
            return ()


def _groups(step: Step) -> tuple[str, ...]:
    return step.by if isinstance(step, (st.Group, st.Pivot)) else ()


def _fits(aggregate: Aggregate, field: Field) -> list[Check]:
    name = aggregate.column or ""
    if aggregate.function == "sum" and field.role in (Role.SCORE, Role.PERCENTAGE) and field.column is not None:
        return [words.sum_of_scores(name)]
    if aggregate.function in ("sum", "mean", "median", "weighted_mean") and field.role in _CODES:
        return [words.sum_of_codes(name)]
    return []


def _of_averages(aggregate: Aggregate, making: Making) -> list[Check]:
    if aggregate.function != "mean":
        return []
    name = aggregate.column or ""
    match making.get(name):
        case "mean" | "average" | "moving_average":
            return [words.average_of_averages(name)]
        case "ratio":
            return [words.mean_of_ratios(name)]
        case _:
            return []


def _source(field: Field, catalogue: Catalogue) -> tuple[Table, Column] | None:
    if field.table is None or field.column is None:
        return None
    table = catalogue.table(field.table)
    return table, table.column(field.column)


def _snapshot(
    aggregate: Aggregate, field: Field, plan: Plan, place: int, step: Step, catalogue: Catalogue
) -> list[Check]:
    """Stock levels are not summed over time: 40 on Monday and 40 on Tuesday are not 80."""
    source = _source(field, catalogue)
    if aggregate.function != "sum" or source is None or not _LEVELS.search(source[1].name.lower().replace(" ", "_")):
        return []
    times = {c.name for c in source[0].columns if c.type.is_time and c.distinct > 1}
    if not times or times & set(_groups(step)) or any(_pins(s, times) for s in plan.steps[:place]):
        return []
    return [words.total_over_a_level(source[1].name, sorted(times)[0])]


def _pins(step: Step, times: set[str]) -> bool:
    """True for a condition that leaves one moment only."""
    if not isinstance(step, st.Keep):
        return False
    for part in conjuncts(step.condition):
        if isinstance(part, ex.Compare) and part.op == "=" and times & set(columns_of(part)):
            return True
        if isinstance(part, ex.Between) and part.low.value == part.high.value and times & set(columns_of(part)):
            return True
    return False


def _mixed_units(
    aggregate: Aggregate, field: Field, plan: Plan, place: int, step: Step, catalogue: Catalogue
) -> list[Check]:
    """Amounts of several currencies, or lengths in several units, in one column."""
    source = _source(field, catalogue)
    if source is None:
        return []
    table, column = source
    named = {c.name.lower() for c in table.columns}
    for other in table.columns:
        if other.type is not Type.TEXT or other.distinct < 2:
            continue
        name = other.name.lower().replace(" ", "_")
        # A unit called after a column is of that column alone.
        owner = name.rsplit("_", 1)[0] if "_" in name else ""
        if owner != column.name.lower() and (owner in named or column.role not in (Role.MONEY, Role.QUANTITY)):
            continue
        money = column.role is Role.MONEY or owner == column.name.lower()
        if not ((money and _CURRENCIES.search(name)) or (column.role is not Role.MONEY and _UNITS.search(name))):
            continue
        if other.name in _groups(step) or any(_names_one(s, other.name) for s in plan.steps[:place]):
            continue
        weight: Weight = "stop" if column.role is Role.MONEY else "caution"
        return [words.mixed_units(column.name, other.name, other.values, weight)]
    return []


def _names_one(step: Step, name: str) -> bool:
    if not isinstance(step, st.Keep):
        return False
    return any(
        (isinstance(p, ex.Compare) and p.op == "=" and name in columns_of(p))
        or (isinstance(p, ex.OneOf) and len(p.options) == 1 and name in columns_of(p))
        for p in conjuncts(step.condition)
    )


def _is_percentage(name: str, before: Schema, making: Making) -> bool:
    return before[name].role is Role.PERCENTAGE or making.get(name) in ("share", "change_percent")


def _percentages(step: Step, before: Schema, making: Making) -> list[Check]:
    """A percentage of a percentage: 4% to 5% is one point up, and 25 per cent."""
    match step:
        case st.Window(function="share" | "change_percent" as function, column=column):
            if _is_percentage(column, before, making):
                what = "change" if function == "change_percent" else "share"
                return [words.percentage_of_a_percentage(column, what)]
        case st.Derive(expression=expression):
            for product in _products(expression):
                sides = (product.left, product.right)
                if all(_percent_side(side, before, making) for side in sides):
                    return [words.PRODUCT_OF_PERCENTAGES]
        case _:
            pass
    return []


def _products(expression: Expression) -> list[ex.Arithmetic]:
    found = [expression] if isinstance(expression, ex.Arithmetic) and expression.op in ("*", "/") else []
    return found + [product for child in children(expression) for product in _products(child)]


def _percent_side(side: Expression, before: Schema, making: Making) -> bool:
    if isinstance(side, ex.ColumnRef):
        return _is_percentage(side.name, before, making)
    return type_of(side, before).role is Role.PERCENTAGE
