"""What must hold of a plan before it runs."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator

from rapidfuzz import process

from gumption.core.checks import words
from gumption.core.checks.check import Check
from gumption.core.checks.operations import operations
from gumption.core.checks.periods import periods
from gumption.core.model.catalogue import Catalogue, Relationship
from gumption.core.model.types import Type
from gumption.core.plan.expressions import (
    ColumnRef,
    Compare,
    Constant,
    Expression,
    OneOf,
    children,
    columns_of,
)
from gumption.core.plan.fields import Field, Schema
from gumption.core.plan.keys import unproven_joins
from gumption.core.plan.steps import Derive, Group, Join, Keep, Plan, all_steps, other_plan
from gumption.core.plan.typing import schema_of, schemas


def check_before(plan: Plan, catalogue: Catalogue, as_of: dt.date) -> list[Check]:
    """Operations, values, joins and periods, of the plan and of those that it brings in."""
    found: list[Check] = []
    for each in _plans(plan):
        typed = schemas(each, catalogue)
        found += operations(each, typed, catalogue)
        found += _values_occur(each, typed, catalogue)
        found += _joins_fit(each, typed, catalogue)
        found += periods(each, typed, catalogue, as_of)
        found += _dates_decided(each, typed, catalogue)
    found += _joins_single(plan, catalogue)
    spoken_of = {check.name for check in found if check.weight != "holds"}
    return [
        c for c in dict.fromkeys(found) if c.weight != "holds" or c.name not in spoken_of or c.name == "join keys fit"
    ]


def _plans(plan: Plan) -> Iterator[Plan]:
    """A plan, and those that its steps bring in."""
    yield plan
    for step in plan.steps:
        other = other_plan(step)
        if other is not None:
            yield from _plans(other)


def _comparisons(expression: Expression) -> list[tuple[str, tuple[Constant, ...]]]:
    """Each column held equal to constants, anywhere inside."""
    match expression:
        case Compare(op="=", left=ColumnRef(name=name), right=Constant() as constant):
            return [(name, (constant,))]
        case OneOf(value=ColumnRef(name=name), options=options):
            return [(name, options)]
        case _:
            return [pair for child in children(expression) for pair in _comparisons(child)]


def _values_occur(plan: Plan, typed: list[Schema], catalogue: Catalogue) -> list[Check]:
    found, looked = [], 0
    for step, schema in zip(plan.steps, typed, strict=True):
        if not isinstance(step, Keep):
            continue
        for name, constants in _comparisons(step.condition):
            field = schema.get(name)
            if field is None or field.table is None or field.column is None or field.type is not Type.TEXT:
                continue
            known = catalogue.table(field.table).column(field.column).values
            for constant in constants:
                looked += 1
                if known and constant.value not in known:
                    near = [str(match[0]) for match in process.extract(str(constant.value), known, limit=3)]
                    found.append(words.value_is_not_there(constant.value, name, near))
    if not looked:
        return []
    return found or [words.VALUES_OCCUR]


def _joins_fit(plan: Plan, typed: list[Schema], catalogue: Catalogue) -> list[Check]:
    """Rows without a partner, as was measured when the tables were brought in."""
    found = []
    for step, before in zip(plan.steps[1:], typed, strict=False):
        if not isinstance(step, Join) or step.how in ("with", "without") or not step.on:
            continue
        link = _relationship(step, before, catalogue)
        if link is not None and link.unmatched:
            left_out = step.how == "inner"
            found.append(
                words.without_partners(link.unmatched, link.table, link.other, link.match_rate, left_out=left_out)
            )
        elif link is not None:
            found.append(words.every_row_has_a_partner(link.column, link.other))
    return found


def _relationship(step: Join, before: Schema, catalogue: Catalogue) -> Relationship | None:
    """The relationship that a join goes by: the one of just these columns of just these tables."""
    beside = schema_of(step.other, catalogue)
    met = {(_origin(before[pair.left]), _origin(beside[pair.right])) for pair in step.on}
    return next(
        (r for r in catalogue.relationships if met == {((r.table, here), (r.other, there)) for here, there in r.pairs}),
        None,
    )


def _origin(field: Field) -> tuple[str | None, str | None]:
    return field.table, field.column


def _joins_single(plan: Plan, catalogue: Catalogue) -> list[Check]:
    """No measure is multiplied by a join: the keys prove it, or the rows have to."""
    joins = [s for s in all_steps(plan) if isinstance(s, Join) and s.how in ("inner", "left") and s.on]
    if not joins:
        return []
    if next(unproven_joins(plan, catalogue), None) is None:
        return [words.ROWS_STAY_SINGLE]
    return []


def _dates_decided(plan: Plan, typed: list[Schema], catalogue: Catalogue) -> list[Check]:
    """Dates that the file left open, day or month first, when the plan goes by them."""
    used: dict[tuple[str, str], None] = {}
    for step, before in zip(plan.steps[1:], typed, strict=False):
        match step:
            case Keep(condition=expression) | Derive(expression=expression):
                names = columns_of(expression)
            case Group(by=by):
                names = list(by)
            case _:
                names = []
        for name in names:
            field = before.get(name)
            if field is not None and field.table is not None and field.column is not None:
                used.setdefault((field.table, field.column))
    return [
        words.dates_decided(note.act)
        for table, column in used
        for note in catalogue.table(table).notes
        if note.choices and note.caution and note.column == column
    ]
