"""Which columns of a plan's steps and tables its answer needs."""

from __future__ import annotations

from typing import assert_never

from gumption.core.model.catalogue import Catalogue
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Aggregate, columns_of
from gumption.core.plan.fields import Schema
from gumption.core.plan.keys import Keys, keys_after, tie_breakers
from gumption.core.plan.steps import Plan, SortKey, Step, Take
from gumption.core.plan.typing import schema_of, schemas

Needed = tuple[frozenset[str], ...]
"""The columns needed after each step."""


def needed_columns(plan: Plan, catalogue: Catalogue, wanted: frozenset[str] | None = None) -> Needed:
    """The columns needed after each step for those `wanted` of the answer, which are all unless given."""
    typed = schemas(plan, catalogue)
    keys: list[Keys] = []
    for step in plan.steps:
        keys.append(keys_after(step, keys[-1] if keys else (), catalogue))
    now = frozenset(typed[-1]) if wanted is None else wanted
    found = [now]
    for place in range(len(plan.steps) - 1, 0, -1):
        now = _before(plan.steps[place], now, typed[place - 1], keys[place - 1])
        found.append(now)
    return tuple(reversed(found))


def tables_needed(plan: Plan, catalogue: Catalogue, wanted: frozenset[str] | None = None) -> dict[str, set[str]]:
    """The columns of each table that a plan and those it brings in need."""
    found: dict[str, set[str]] = {}
    needed = needed_columns(plan, catalogue, wanted)
    for place, step in enumerate(plan.steps):
        if isinstance(step, Take):
            found.setdefault(step.table, set()).update(needed[place])
        other = st.other_plan(step)
        if other is not None:
            for table, names in tables_needed(other, catalogue, beside(step, needed[place], catalogue)).items():
                found.setdefault(table, set()).update(names)
    return found


def beside(step: Step, needed: frozenset[str], catalogue: Catalogue) -> frozenset[str] | None:
    """The columns needed of the plan that a step brings in; None for all."""
    match step:
        case st.Join(other=other, on=on):
            keys = frozenset(pair.right for pair in on)
            tests = step.how in ("with", "without")
            return keys if tests else keys | (needed & frozenset(schema_of(other, catalogue)))
        case st.AsOf(other=other, on=on, at=at):
            keys = frozenset(pair.right for pair in (*on, at))
            return keys | (needed & frozenset(schema_of(other, catalogue)))
        case _:
            return None


def _before(step: Step, now: frozenset[str], schema: Schema, keys: Keys) -> frozenset[str]:
    """The columns needed before a step for those needed after it."""
    match step:
        case st.Keep(condition=condition):
            return now | set(columns_of(condition))
        case st.Derive(name=name, expression=expression):
            return now - {name} | set(columns_of(expression)) if name in now else now
        case st.Join(on=on):
            return now & set(schema) | {pair.left for pair in on}
        case st.AsOf(on=on, at=at):
            return now & set(schema) | {pair.left for pair in (*on, at)}
        case st.Append():
            return frozenset(schema)
        case st.Group(by=by, aggregates=aggregates):
            return frozenset(by).union(*map(_looked_at, aggregates))
        case st.Pivot(by=by, column=column, aggregate=aggregate):
            return frozenset((*by, column)) | _looked_at(aggregate)
        case st.Unpivot(columns=columns):
            return now & set(schema) | set(columns)
        case st.Spread(column=column):
            return now | {column}
        case st.Window(name=name):
            return now - {name} | _looked_at_by(step, schema, keys) if name in now else now
        case st.Fill(column=column, within=within, zeros=zeros):
            return now | {column, *within, *zeros}
        case st.Sort(keys=order):
            ties = tie_breakers(order, list(schema), keys)
            return now | {key.column for key in (*order, *ties)}
        case st.Limit():
            return now
        case st.Pick(columns=columns):
            return frozenset(c.column for c in columns if c.name in now)
        case Take():
            raise AssertionError("a plan begins with its only take")
        case _:
            assert_never(step)


def _looked_at(aggregate: Aggregate) -> frozenset[str]:
    where = columns_of(aggregate.where) if aggregate.where is not None else ()
    return frozenset(n for n in (aggregate.column, aggregate.other, *where) if n is not None)


_UNORDERED = ("share", "total", "average", "lowest", "highest", "width_bin", "rank")
"""Windows for which it does not matter in which order rows come that are alike."""


def _looked_at_by(step: st.Window, schema: Schema, keys: Keys) -> set[str]:
    order = step.order or (SortKey(column=step.column),)
    ties = () if step.function in _UNORDERED else tie_breakers(order, list(schema), keys)
    return {step.column, *step.within, *(key.column for key in (*order, *ties))}
