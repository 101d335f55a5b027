"""The rows that an answer's row was worked out from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from gumption.core.model.types import Value
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.constants import constant_of
from gumption.core.plan.expressions import Expression
from gumption.core.plan.fields import Schema
from gumption.core.plan.steps import Plan


def rows_behind(plan: Plan, typed: Sequence[Schema], row: Mapping[str, Value]) -> Plan | None:
    """The plan up to its last group, of the rows that fell into the group that a row of the answer tells of.

    None where the answer has no groups, or no longer shows which one a row is of.
    """
    places = [n for n, step in enumerate(plan.steps) if isinstance(step, st.Group) and step.by]
    if not places:
        return None
    place = places[-1]
    group = plan.steps[place]
    assert isinstance(group, st.Group)
    after = plan.steps[place + 1 :]
    if any(isinstance(step, (st.Pivot, st.Unpivot, st.Append)) for step in after):
        return None
    conditions = []
    for column in group.by:
        shown = column
        for step in after:
            if isinstance(step, st.Pick):
                named = next((p.name for p in step.columns if p.column == shown), None)
                if named is None:
                    return None
                shown = named
        if shown not in row:
            return None
        conditions.append(_equals(column, typed[place - 1], row[shown]))
    condition = conditions[0] if len(conditions) == 1 else ex.AllOf(items=tuple(conditions))
    return Plan(steps=(*plan.steps[:place], st.Keep(condition=condition)))


def _equals(column: str, schema: Schema, value: Value) -> Expression:
    here = ex.ColumnRef(name=column)
    if value is None:
        return ex.IsMissing(value=here)
    return ex.Compare(op="=", left=here, right=constant_of(value, schema[column].type))
