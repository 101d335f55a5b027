"""How each column of a plan was made, as far as a check must know: an average, a ratio, a share."""

from __future__ import annotations

from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Expression, children
from gumption.core.plan.steps import Plan, Step, other_plan

Making = dict[str, str]
"""Column name to what made it: the name of an aggregate or window, or `ratio`; nothing for plain columns."""


def makings(plan: Plan) -> list[Making]:
    """How the columns after each step were made."""
    found: list[Making] = []
    now: Making = {}
    for step in plan.steps:
        now = _after(step, now)
        found.append(now)
    return found


def _after(step: Step, before: Making) -> Making:
    other = other_plan(step)
    if other is not None:
        return {**makings(other)[-1], **before}
    match step:
        case st.Derive(name=name, expression=expression):
            return {**before, name: _made(expression, before)}
        case st.Group(by=by, aggregates=aggregates):
            kept = {name: before[name] for name in by if name in before}
            worked: Making = {a.name: a.function for a in aggregates}
            return {**kept, **worked}
        case st.Pivot(into=into, aggregate=aggregate):
            return dict.fromkeys([*(c.name for c in into), aggregate.name], str(aggregate.function))
        case st.Window(name=name, function=function):
            return {**before, name: function}
        case st.Pick(columns=columns):
            return {c.name: before[c.column] for c in columns if c.column in before}
        case _:
            return before


def _made(expression: Expression, before: Making) -> str:
    """A ratio stays one under rounding and the like; a column under another name is what it was."""
    if isinstance(expression, ex.Arithmetic) and expression.op == "/":
        return "ratio"
    if isinstance(expression, ex.ColumnRef):
        return before.get(expression.name, "")
    inside = children(expression)
    return _made(inside[0], before) if len(inside) == 1 else ""
