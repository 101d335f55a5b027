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


def rows_behind(plan: Plan, typed: Sequence[Schema], row: Mapping[str, Value], column: str = "") -> Plan | None:
    """The plan up to its last group, of the rows that fell into the group that a row of the answer tells of.

    Of a cross table those of one cell, where its `column` is given. None where the answer has no groups, or no longer
    shows which one a row is of.
    """
    places = [n for n, s in enumerate(plan.steps) if isinstance(s, st.Pivot) or (isinstance(s, st.Group) and s.by)]
    if not places:
        return None
    place = places[-1]
    group = plan.steps[place]
    assert isinstance(group, (st.Group, st.Pivot))
    after = plan.steps[place + 1 :]
    if any(isinstance(step, (st.Unpivot, st.Spread, st.Append)) for step in after):
        return None
    conditions: list[Expression] = []
    for key in group.by:
        shown = key
        for step in after:
            if isinstance(step, st.Pick):
                named = next((p.name for p in step.columns if p.column == shown), None)
                if named is None:
                    return None
                shown = named
        if shown not in row:
            return None
        # The row of totals is of all groups.
        if row.get("total_row") is not True:
            conditions.append(_equals(key, typed[place - 1], row[shown]))
    if isinstance(group, st.Pivot):
        conditions += [
            ex.Compare(op="=", left=ex.ColumnRef(name=group.column), right=into.value)
            for into in group.into
            if into.name == column
        ]
    if not conditions:
        return Plan(steps=plan.steps[:place])
    condition = conditions[0] if len(conditions) == 1 else ex.AllOf(items=tuple(conditions))
    return Plan(steps=(*plan.steps[:place], st.Keep(condition=condition)))


def _equals(column: str, schema: Schema, value: Value) -> Expression:
    here = ex.ColumnRef(name=column)
    if value is None:
        return ex.IsMissing(value=here)
    return ex.Compare(op="=", left=here, right=constant_of(value, schema[column].type))
