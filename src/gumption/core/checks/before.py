"""What must hold of a plan before it runs."""

from __future__ import annotations

import datetime as dt

from rapidfuzz import process

from gumption.core.checks.check import Check
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.names import plural
from gumption.core.model.types import Role, Type
from gumption.core.plan.expressions import (
    Between,
    ColumnRef,
    Compare,
    Constant,
    Expression,
    OneOf,
    children,
    columns_of,
)
from gumption.core.plan.steps import Derive, Group, Join, Keep, Plan, Take
from gumption.core.plan.typing import Schema, schemas
from gumption.core.plan.words import listed, spoken


def check_before(plan: Plan, catalogue: Catalogue, as_of: dt.date) -> list[Check]:
    """Types, values, joins, and periods that are not over."""
    typed = schemas(plan, catalogue)
    return [
        *_operations_fit(plan, typed),
        *_values_occur(plan, typed, catalogue),
        *_joins_fit(plan, catalogue),
        *_periods_over(plan, typed, catalogue, as_of),
        *_dates_decided(plan, typed, catalogue),
    ]


def _operations_fit(plan: Plan, typed: list[Schema]) -> list[Check]:
    """No sum of scores, rates or codes; no mean of codes."""
    found = []
    for step, before in zip(plan.steps[1:], typed, strict=False):
        if not isinstance(step, Group):
            continue
        for aggregate in step.aggregates:
            field = before.get(aggregate.column or "")
            if field is None or not field.type.is_number:
                continue
            if aggregate.function == "sum" and field.role in (Role.SCORE, Role.PERCENTAGE):
                found.append(
                    Check(
                        "operation fits",
                        "caution",
                        f"{spoken(aggregate.column or '')} is a score or rate; its sum may mean nothing",
                        "an average is usual",
                    )
                )
            if aggregate.function in ("sum", "mean", "median") and field.role in (
                Role.IDENTIFIER,
                Role.LINK,
                Role.CODE,
            ):
                found.append(
                    Check(
                        "operation fits",
                        "caution",
                        f"{spoken(aggregate.column or '')} is a code; adding or averaging codes may mean nothing",
                    )
                )
    return found or [Check("operation fits", "holds", "Every operation fits the kind of its column")]


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
                    found.append(
                        Check(
                            "values occur",
                            "stop",
                            f"“{constant.value}” does not occur in {spoken(name)}",
                            f"near it: {', '.join(near)}",
                        )
                    )
    if not looked:
        return []
    return found or [Check("values occur", "holds", "Every value asked for occurs in the data")]


def _joins_fit(plan: Plan, catalogue: Catalogue) -> list[Check]:
    found = []
    for step in plan.steps:
        if not isinstance(step, Join) or step.how in ("with", "without"):
            continue
        first = step.other.steps[0]
        assert isinstance(first, Take)
        link = next(
            (
                r
                for r in catalogue.relationships
                if r.other == first.table and any(p.left.endswith(r.column) for p in step.on)
            ),
            None,
        )
        if link is not None and link.unmatched:
            lost = "they are left out" if step.how == "inner" else "they are kept under “missing”"
            found.append(
                Check(
                    "join keys fit",
                    "caution",
                    f"{plural(link.unmatched, 'row')} of {spoken(link.table)} find no partner in {spoken(link.other)}",
                    f"{100 * link.match_rate:.1f}% find one; {lost}",
                )
            )
        elif link is not None:
            found.append(
                Check("join keys fit", "holds", f"Every {spoken(link.column)} finds its row in {spoken(link.other)}")
            )
    return found


def _spans(expression: Expression) -> list[Between]:
    if isinstance(expression, Between) and expression.low.type is Type.DATE:
        return [expression]
    return [span for child in children(expression) for span in _spans(child)]


def _periods_over(plan: Plan, typed: list[Schema], catalogue: Catalogue, as_of: dt.date) -> list[Check]:
    """A period that runs past today is not complete."""
    found = []
    for step in plan.steps:
        if isinstance(step, Keep):
            for span in _spans(step.condition):
                low, high = dt.date.fromisoformat(str(span.low.value)), dt.date.fromisoformat(str(span.high.value))
                if low <= as_of < high:
                    name = str(low.year) if (high - low).days > 360 else "The period"
                    found.append(
                        Check(
                            "periods complete",
                            "caution",
                            f"{name} is not over",
                            f"{(as_of - low).days + 1} of {(high - low).days + 1} days; do not compare with a whole one",
                        )
                    )
    return found


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
        Check("dates decided", "caution", note.act, "choose which is right in Tables")
        for table, column in used
        for note in catalogue.table(table).notes
        if note.choices and note.caution and note.column == column
    ]


def groups_many(rows: int) -> list[Check]:
    """So many groups that nobody can look at them all."""
    if rows <= 500:
        return []
    return [
        Check(
            "groups to look at",
            "caution",
            f"{rows:,} groups are more than anyone reads",
            listed(["ask for the top 20", "group more coarsely"], "or"),
        )
    ]
