"""Measures of several tables in one answer: each is worked out at its own grain, and the results meet on shared groups.

A fee of 100 on a visit with three lines of medicine is 100, not 300: rows of two tables of facts are never
laid beside each other, only what was worked out of each for the same group.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Type
from gumption.core.plan.expressions import Aggregate, ColumnRef, Constant, FirstKnown
from gumption.core.plan.steps import Append, Derive, Group, Pick, Picked, Plan, Sort, Step
from gumption.core.plan.words import listed, spoken
from gumption.core.reading.frame import CannotPlan, Condition, Frame, GroupKey, Measure
from gumption.core.reading.vocabulary import ColumnKey


def measured_tables(frame: Frame) -> tuple[str, ...]:
    """The tables whose rows are measured or counted, in the order asked for."""
    tables = (m.column.table if m.column else m.table for m in frame.measures)
    return tuple(dict.fromkeys(table for table in tables if table))


def meeting_steps(
    frame: Frame, catalogue: Catalogue, plan_one: Callable[[Frame], Plan]
) -> tuple[list[Step], list[str], list[Aggregate]]:
    """Steps that give one row a group with every measure, the names of the groups, and the measures as worked out.

    Raises CannotPlan where a group or condition says nothing about one of the tables.
    """
    if frame.having:
        raise CannotPlan("a condition on a worked-out number cannot be put on measures of several tables yet")
    parts: list[tuple[Plan, list[str], list[Aggregate]]] = []
    for table in measured_tables(frame):
        own = replace(
            frame,
            subject=table,
            measures=tuple(m for m in frame.measures if _table_of(m) == table),
            groups=tuple(_group_of(g, table, catalogue) for g in frame.groups),
            conditions=tuple(_condition_of(c, table, catalogue) for c in frame.conditions),
            having=(),
            shown=(),
            order=None,
            limit=None,
            windows=(),
            within=0,
        )
        plan = plan_one(own)
        while isinstance(plan.steps[-1], Sort):
            plan = Plan(steps=plan.steps[:-1])
        last = plan.steps[-1]
        assert isinstance(last, Group)
        parts.append((plan, list(last.by), list(last.aggregates)))
    return _together(frame, parts)


def _together(
    frame: Frame, parts: list[tuple[Plan, list[str], list[Aggregate]]]
) -> tuple[list[Step], list[str], list[Aggregate]]:
    by = parts[0][1]
    names: dict[Measure, str] = {}
    steps: list[Step] = []
    for (plan, own_by, own), table in zip(parts, measured_tables(frame), strict=True):
        mine = [m for m in frame.measures if _table_of(m) == table]
        picked = [Picked(column=a, name=b) for a, b in zip(own_by, by, strict=True)]
        for measure, aggregate in zip(mine, own, strict=True):
            name = aggregate.name
            while name in names.values() or name in by:
                name = f"{name}_of_{table}"
            names[measure] = name
            picked.append(Picked(column=aggregate.name, name=name))
        part = plan.then(Pick(columns=tuple(picked)))
        steps = [*part.steps] if not steps else [*steps, Append(other=part)]
    # Each group stands at most once in each part, so that the highest of its values is its value.
    ordered = [Aggregate(name=names[m], function="max", column=names[m]) for m in frame.measures]
    steps.append(Group(by=tuple(by), aggregates=tuple(ordered)))
    for measure in frame.measures:
        if measure.function in ("count", "distinct"):
            steps += _counted(names, measure, by, frame)
    return steps, by, ordered


def _counted(names: dict[Measure, str], measure: Measure, by: list[str], frame: Frame) -> list[Step]:
    """A group that a table has no rows of counts nought there, not missing."""
    name = names[measure]
    nought = Constant(type=Type.INTEGER, value=0)
    filled = Derive(name=f"{name} or 0", expression=FirstKnown(items=(ColumnRef(name=name), nought)))
    shown = [*by, *(names[m] for m in frame.measures)]
    columns = tuple(Picked(column=filled.name if n == name else n, name=n) for n in shown)
    return [filled, Pick(columns=columns)]


def _table_of(measure: Measure) -> str | None:
    return measure.column.table if measure.column else measure.table


def _group_of(group: GroupKey, table: str, catalogue: Catalogue) -> GroupKey:
    """The same group seen from a table: a shared column, or for a time its own date."""
    if catalogue.path(table, group.column.table) is not None:
        return group
    own = catalogue.table(table).time_column
    column = catalogue.table(group.column.table).column(group.column.column)
    if group.unit is not None and column.type.is_time and own is not None:
        return replace(group, column=ColumnKey(table, own.name))
    raise CannotPlan(
        f"{spoken(table)} do not point at {spoken(group.column.table)}, so that what is measured of them "
        f"cannot be split by {spoken(group.column.column)}"
    )


def _condition_of(condition: Condition, table: str, catalogue: Catalogue) -> Condition:
    """A condition that holds for a table's rows too; a time is meant of its own date."""
    key = condition.column
    if catalogue.path(table, key.table) is not None:
        return condition
    own = catalogue.table(table).time_column
    if own is not None and catalogue.table(key.table).column(key.column).type.is_time:
        return replace(condition, column=ColumnKey(table, own.name))
    tables = listed([spoken(table), spoken(key.table)])
    raise CannotPlan(f"the condition on {spoken(key.column)} says nothing about {spoken(table)}; ask of {tables} apart")
