"""A whole plan worked on NumPy columns, with the rows that went through each step and why rows were dropped."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import partial
from typing import assert_never

import numpy as np

from gumption.core.evaluate.aggregates import Groups, aggregate
from gumption.core.evaluate.conditions import compare
from gumption.core.evaluate.dates import first_day
from gumption.core.evaluate.expressions import constant, evaluate
from gumption.core.evaluate.facts import Dropped, StepRows, group_facts, may_be_undefined, tied_rows, undefined_rows
from gumption.core.evaluate.joins import as_of, join
from gumption.core.evaluate.relation import Relation, group_ids, ordered_rows
from gumption.core.evaluate.vectors import (
    Ints,
    Mask,
    Vector,
    all_missing,
    condition,
    no_missing,
    stacked,
    text_vector,
    truth,
)
from gumption.core.evaluate.windows import window
from gumption.core.model.types import Value
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Aggregate, Expression, columns_of, conjuncts
from gumption.core.plan.keys import order_after
from gumption.core.plan.steps import Plan, Step, Take
from gumption.core.plan.words import expression_words, spoken

LoadColumn = Callable[[str, str], Vector]
"""(table, column) to the column's values, all rows in the table's order."""
Sizes = Mapping[str, tuple[int, tuple[str, ...]]]
"""Row count and column names of each table."""


@dataclass(frozen=True)
class Worked:
    """A plan's answer: names, rows of Python values as far as they are kept, and the rows through each step."""

    columns: tuple[str, ...]
    rows: list[tuple[Value, ...]]
    total: int
    flow: tuple[StepRows, ...]


class Stopped(Exception):
    """The working was stopped from outside."""


def _never() -> bool:
    return False


def work(
    plan: Plan, load: LoadColumn, sizes: Sizes, stopped: Callable[[], bool] = _never, most: int | None = None
) -> Worked:
    """Work a typed plan; `stopped` is asked between steps, and at most `most` rows are kept.

    Raises JoinMultiplies and Doubled, OverflowError where exact numbers run out, and Stopped.
    """
    relation, flow = _relation(plan, load, sizes, stopped)
    total = relation.size
    if most is not None and total > most:
        relation = relation.rows(np.arange(most))
    columns = [relation.column(name).to_values() for name in relation.names]
    rows = list(zip(*columns, strict=True)) if columns else []
    return Worked(tuple(relation.names), rows, total, tuple(flow))


def _relation(
    plan: Plan, load: LoadColumn, sizes: Sizes, stopped: Callable[[], bool]
) -> tuple[Relation, list[StepRows]]:
    relation = Relation(0, {})
    flow: list[StepRows] = []
    order: tuple[str, ...] = ()
    keys = 0
    for step in plan.steps:
        if stopped():
            raise Stopped
        other = st.other_plan(step)
        beside, inner = (None, []) if other is None else _relation(other, load, sizes, stopped)
        if isinstance(step, Take):
            size, names = sizes[step.table]
            relation = Relation(size, {n: partial(load, step.table, n) for n in names})
            flow.append(StepRows(size, size))
        else:
            # Rows alike in some of the keys are no tie where the others, which told them apart, are gone.
            told = order if len(order) == keys else ()
            tied = tied_rows(relation, told, step.rows) if isinstance(step, st.Limit) else None
            relation, rows = _step(step, relation, beside)
            flow.append(replace(rows, tied=tied, other=tuple(inner)) if tied is not None or inner else rows)
            order = order_after(step, order)
            keys = len(step.keys) if isinstance(step, st.Sort) else keys
    return relation, flow


def _step(step: Step, relation: Relation, beside: Relation | None) -> tuple[Relation, StepRows]:
    """A step's rows, and how many there were; `beside` is the other plan of a step that has one."""
    before = relation.size
    match step:
        case st.Keep(condition=kept):
            return _keep(kept, relation)
        case st.Join():
            assert beside is not None
            found = join(relation, step, beside)
            return found, StepRows(before, found.size, _partnerless(step, relation, before - found.size))
        case st.AsOf():
            assert beside is not None
            found = as_of(relation, step, beside)
        case st.Limit(rows=rows):
            found = relation.rows(np.arange(min(rows, before)))
            cut = (Dropped("come", f"{rows:,}", before - found.size),) if found.size < before else ()
            return found, StepRows(before, found.size, cut)
        case st.Append():
            assert beside is not None
            found = _append(relation, beside)
        case st.Derive(name=name, expression=expression):
            if may_be_undefined(expression):
                worked = evaluate(expression, relation.column, before)
                lost = undefined_rows(expression, relation, worked)
                return relation.plus({name: lambda: worked}), StepRows(before, before, undefined=lost)
            found = relation.plus({name: partial(evaluate, expression, relation.column, before)})
        case st.Group(by=by, aggregates=aggregates):
            groups, keys = _groups(relation, by)
            columns_found = {**keys, **{a.name: _aggregated(a, relation, groups) for a in aggregates}}
            facts = group_facts(by, aggregates, relation, groups, columns_found)
            return Relation.of(groups.count, columns_found), StepRows(before, groups.count, group=facts)
        case st.Pivot():
            found = _pivot(step, relation)
        case st.Unpivot():
            found = _unpivot(step, relation)
        case st.Spread():
            found = _spread(step, relation)
        case st.Window():
            found = relation.plus({step.name: partial(window, step, relation)})
        case st.Fill():
            found = _fill(step, relation)
        case st.Sort(keys=keys):
            found = relation.rows(ordered_rows(relation, keys, relation.names))
        case st.Pick(columns=columns):
            found = relation.renamed([(c.column, c.name) for c in columns])
        case Take():
            raise AssertionError("a plan begins with its only take")
        case _:
            assert_never(step)
    return found, StepRows(before, found.size)


def _keep(kept: Expression, relation: Relation) -> tuple[Relation, StepRows]:
    """The rows that are left, and how many each part of the condition dropped, in order."""
    holds: Mask | None = None
    left = relation.size
    dropped: list[Dropped] = []
    for part in conjuncts(kept):
        mask = truth(evaluate(part, relation.column, relation.size))
        before, holds = holds, mask if holds is None else holds & mask
        remaining = int(np.count_nonzero(holds))
        if remaining < left:
            dropped += _reasons(part, relation, mask, before, left - remaining)
        left = remaining
    assert holds is not None
    found = relation if left == relation.size else relation.rows(np.flatnonzero(holds))
    return found, StepRows(relation.size, left, tuple(dropped))


def _reasons(part: Expression, relation: Relation, mask: Mask, before: Mask | None, rows: int) -> list[Dropped]:
    """Rows that lack a value the condition looks at, and those that have all and do not meet it."""
    gaps = [v.missing for n in columns_of(part) if not (v := relation.column(n)).is_complete]
    unknown = 0
    if gaps:
        lacking = np.logical_or.reduce(gaps) & ~mask
        unknown = int(np.count_nonzero(lacking if before is None else lacking & before))
    found = [Dropped("lack", _lacking(part), unknown)] if unknown else []
    if rows > unknown:
        found.append(Dropped("fail", expression_words(part), rows - unknown))
    return found


def _lacking(part: Expression) -> str:
    return " or ".join(spoken(n) for n in columns_of(part))


def _partnerless(step: st.Join, relation: Relation, gone: int) -> tuple[Dropped, ...]:
    if not gone:
        return ()
    if step.how == "without":
        return (Dropped("have", "a partner", gone),)
    gaps = [v.missing for p in step.on if not (v := relation.column(p.left)).is_complete]
    unknown = int(np.count_nonzero(np.logical_or.reduce(gaps))) if gaps else 0
    keys = " or ".join(spoken(p.left) for p in step.on)
    found = (Dropped("lack", keys, unknown),) if unknown else ()
    return (*found, Dropped("find", "no partner", gone - unknown)) if gone > unknown else found


def _groups(relation: Relation, by: tuple[str, ...]) -> tuple[Groups, dict[str, Vector]]:
    if not by:
        return Groups(None, 1, relation.size), {}
    ids, first = group_ids(relation, by)
    return Groups(ids, len(first), relation.size), {name: relation.column(name).at(first) for name in by}


def _aggregated(wanted: Aggregate, relation: Relation, groups: Groups) -> Vector:
    holds = None
    if wanted.where is not None:
        holds = truth(evaluate(wanted.where, relation.column, relation.size))
    column = relation.column(wanted.column) if wanted.column else None
    other = relation.column(wanted.other) if wanted.other else None
    return aggregate(wanted, column, other, groups, holds)


def _pivot(step: st.Pivot, relation: Relation) -> Relation:
    """The aggregate of each cell's rows; a cell without rows has what an aggregate of no values gives."""
    crossed = relation.column(step.column)
    masks = [compare("=", crossed, constant(c.value, relation.size)) for c in step.into]
    kept = [relation.rows(np.flatnonzero(mask)) for mask in masks]

    def crossing(by: tuple[str, ...]) -> dict[str, Vector]:
        groups, keys = _groups(relation, by)
        found = dict(keys)
        for place, mask, rows in zip(step.into, masks, kept, strict=True):
            found[place.name] = _aggregated(step.aggregate, rows, groups.only(mask))
        if step.totals:
            found[step.aggregate.name] = _aggregated(step.aggregate, relation, groups)
            found["total_row"] = condition(np.full(groups.count, not by))
        return found

    cells = crossing(step.by)
    if not step.totals:
        return Relation.of(len(next(iter(cells.values()))), cells)
    whole = crossing(())
    joint = {n: stacked([v, whole[n] if n in whole else all_missing(v, 1)]) for n, v in cells.items()}
    return Relation.of(len(joint["total_row"]), joint)


def _unpivot(step: st.Unpivot, relation: Relation) -> Relation:
    rows = np.tile(np.arange(relation.size), len(step.columns))
    columns = {n: partial(relation.column(n).at, rows) for n in relation.names if n not in step.columns}
    codes = np.repeat(np.arange(len(step.columns)), relation.size)
    names = text_vector(step.columns, codes, no_missing(len(codes)))
    values = stacked([relation.column(n) for n in step.columns])
    return Relation(len(rows), {**columns, step.name: lambda: names, step.value: lambda: values})


def _spread(step: st.Spread, relation: Relation) -> Relation:
    column = relation.column(step.column)
    assert column.words is not None
    items: dict[str, int] = {}
    held = []
    for word in column.words:
        parts = (part.strip(" ") for part in word.split(step.separator))
        held.append([items.setdefault(part, len(items)) for part in parts if part])
    # The items of every word behind each other, and where those of each begin; what is missing is one of its own.
    codes = np.where(column.missing, len(held), column.filled())
    flat = np.array([item for word in held for item in word] + [0], dtype=np.int64)
    lengths = np.array([*map(len, held), 1], dtype=np.int64)
    sizes = lengths[codes]
    rows = np.repeat(np.arange(relation.size), sizes)
    place = np.arange(len(rows)) - np.repeat(np.cumsum(sizes) - sizes, sizes)
    found = flat[(np.cumsum(lengths) - lengths)[codes[rows]] + place]
    spread = text_vector(list(items) or [""], found, column.missing[rows])
    columns = {n: partial(relation.column(n).at, rows) for n in relation.names}
    return Relation(len(rows), {**columns, step.column: lambda: spread})


def _append(above: Relation, below: Relation) -> Relation:
    def joint(name: str) -> Vector:
        like = (above if name in above.names else below).column(name)
        return stacked([r.column(name) if name in r.names else all_missing(like, r.size) for r in (above, below)])

    names = dict.fromkeys([*above.names, *below.names])
    return Relation(above.size + below.size, {name: partial(joint, name) for name in names})


def _periods(step: st.Fill, along: Vector) -> Ints:
    """Every period from the first to the last, as the column's own numbers."""
    present = along.values[~along.missing]
    ends = [constant(end, 1).values[0] if end is not None else None for end in (step.low, step.high)]
    if not len(present) and None in ends:
        return np.zeros(0, dtype=np.int64)
    low, high = (
        int(end if end is not None else work(present)) for end, work in zip(ends, (np.min, np.max), strict=True)
    )
    if step.unit in ("day", "week", "number"):
        return np.arange(low, high + 1, 7 if step.unit == "week" else 1)
    months = {"month": 1, "quarter": 3, "year": 12}[step.unit]
    first, last = (int(np.datetime64(end, "D").astype("datetime64[M]").astype(np.int64)) for end in (low, high))
    found = first_day(np.arange(first, last + 1, months))
    return found[(found >= low) & (found <= high)]


def _fill(step: st.Fill, relation: Relation) -> Relation:
    along = relation.column(step.column)
    periods = _periods(step, along)
    _, first = group_ids(relation, step.within)
    parts = len(first) if step.within else 1
    wanted = {n: relation.column(n).at(np.repeat(first, len(periods))) for n in step.within}
    wanted[step.column] = Vector(along.type, np.tile(periods, parts), no_missing(len(periods) * parts))
    candidates = Relation.of(len(periods) * parts, wanted)
    absent = candidates.rows(np.flatnonzero(~_occurring(candidates, relation, (*step.within, step.column))))

    def new(name: str) -> Vector:
        if name in absent.names:
            return absent.column(name)
        like = relation.column(name)
        if name in step.zeros:
            return Vector(like.type, np.zeros(absent.size, like.values.dtype), no_missing(absent.size), like.scale)
        return all_missing(like, absent.size)

    return Relation.of(relation.size + absent.size, {n: stacked([relation.column(n), new(n)]) for n in relation.names})


def _occurring(wanted: Relation, known: Relation, names: tuple[str, ...]) -> Mask:
    """Which of the wanted combinations are known; here a missing value equals a missing one."""
    joint = Relation.of(wanted.size + known.size, {n: stacked([wanted.column(n), known.column(n)]) for n in names})
    ids, first = group_ids(joint, names)
    seen = np.zeros(len(first), dtype=np.bool_)
    seen[ids[wanted.size :]] = True
    return seen[ids[: wanted.size]]
