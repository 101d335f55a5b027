"""A whole plan worked on NumPy columns, with the rows that went through each step."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import partial
from typing import assert_never

import numpy as np

from gumption.core.evaluate.aggregates import aggregate
from gumption.core.evaluate.conditions import evaluate, shared_codes, truth
from gumption.core.evaluate.vectors import Ints, Vector, float_vector, microseconds_of, order_keys
from gumption.core.model.types import Type, Value
from gumption.core.plan.steps import Derive, Group, Join, Keep, Limit, Pick, Plan, Sort, SortKey, Take, Window

LoadColumn = Callable[[str, str], Vector]
"""(table, column) to the column's values, all rows in the table's order."""


class JoinMultiplies(ValueError):
    """A row found more than one partner in a join that promised at most one."""


@dataclass(frozen=True)
class StepRows:
    """How many rows went into a step and came out; `unmatched` without a partner in a join."""

    rows_in: int
    rows_out: int
    unmatched: int = 0


@dataclass(frozen=True)
class Worked:
    """A plan's answer: names, rows of Python values, and the rows through each step."""

    columns: tuple[str, ...]
    rows: list[tuple[Value, ...]]
    flow: tuple[StepRows, ...]


class Relation:
    """Rows with named columns, each loaded when first asked for."""

    def __init__(self, size: int, columns: Mapping[str, Callable[[], Vector]]) -> None:
        self.size = size
        self._loaders = dict(columns)
        self._loaded: dict[str, Vector] = {}

    @property
    def names(self) -> list[str]:
        return list(self._loaders)

    def column(self, name: str) -> Vector:
        if name not in self._loaded:
            self._loaded[name] = self._loaders[name]()
        return self._loaded[name]

    def loader(self, name: str) -> Callable[[], Vector]:
        return partial(self.column, name)

    def rows(self, chosen: Ints) -> Relation:
        """These rows in that order; columns are gathered only when read."""
        return Relation(len(chosen), {n: partial(self._at, n, chosen) for n in self._loaders})

    def _at(self, name: str, chosen: Ints) -> Vector:
        return self.column(name).at(chosen)

    def plus(self, name: str, vector: Vector) -> Relation:
        return Relation(self.size, {**{n: self.loader(n) for n in self.names}, name: lambda: vector})


def _given(vector: Vector) -> Vector:
    return vector


def work(plan: Plan, load: LoadColumn, sizes: Mapping[str, tuple[int, tuple[str, ...]]]) -> Worked:
    """Work a typed plan; `sizes` gives each table's row count and column names.

    Raises JoinMultiplies, and OverflowError where exact numbers run out.
    """
    relation, flow = _relation(plan, load, sizes)
    columns = [relation.column(name).to_values() for name in relation.names]
    rows = list(zip(*columns, strict=True)) if columns else []
    return Worked(tuple(relation.names), rows, tuple(flow))


def _relation(
    plan: Plan, load: LoadColumn, sizes: Mapping[str, tuple[int, tuple[str, ...]]]
) -> tuple[Relation, list[StepRows]]:
    relation = Relation(0, {})
    flow: list[StepRows] = []
    for step in plan.steps:
        before = relation.size
        unmatched = 0
        if isinstance(step, Take):
            size, names = sizes[step.table]
            relation = Relation(size, {n: partial(load, step.table, n) for n in names})
            before = size
        elif isinstance(step, Join):
            relation, unmatched = _join(relation, step, _relation(step.other, load, sizes)[0])
        else:
            relation = _apply(step, relation)
        flow.append(StepRows(before, relation.size, unmatched))
    return relation, flow


def _apply(step: Keep | Derive | Group | Window | Sort | Limit | Pick, relation: Relation) -> Relation:
    match step:
        case Keep(condition=condition):
            return relation.rows(np.flatnonzero(truth(evaluate(condition, relation.column, relation.size))))
        case Derive(name=name, expression=expression):
            return relation.plus(name, evaluate(expression, relation.column, relation.size))
        case Group():
            return _group(step, relation)
        case Window():
            return relation.plus(step.name, _window(step, relation))
        case Sort(keys=keys):
            return relation.rows(_order(relation, keys, relation.names))
        case Limit(rows=rows):
            return relation.rows(np.arange(min(rows, relation.size)))
        case Pick(columns=columns):
            return Relation(relation.size, {c.name: relation.loader(c.column) for c in columns})
        case _:
            assert_never(step)


def _order_arrays(relation: Relation, keys: tuple[SortKey, ...], ties: list[str]) -> list[np.ndarray]:
    """What numpy.lexsort orders rows by: the keys, then the remaining columns that break ties."""
    named = {key.column for key in keys}
    arrays: list[np.ndarray] = []
    for key in reversed([*keys, *(SortKey(column=name) for name in ties if name not in named)]):
        arrays.extend(order_keys(relation.column(key.column), key.descending))
    return arrays


def _order(relation: Relation, keys: tuple[SortKey, ...], ties: list[str]) -> Ints:
    return np.lexsort(_order_arrays(relation, keys, ties))


def _codes(vector: Vector) -> tuple[Ints, int]:
    """Small integers that tell values apart, missing as one more."""
    if vector.type is Type.TEXT and vector.words is not None:
        count = len(vector.words)
        return np.where(vector.missing, count, vector.values), count + 1
    values = np.where(vector.missing, vector.values.dtype.type(0), vector.values)
    distinct, codes = np.unique(values, return_inverse=True)
    return np.where(vector.missing, len(distinct), codes), len(distinct) + 1


def _group_ids(relation: Relation, names: tuple[str, ...]) -> tuple[Ints, Ints]:
    """Each row's group and, for each group, its first row."""
    ids: Ints = np.zeros(relation.size, dtype=np.int64)
    for name in names:
        codes, count = _codes(relation.column(name))
        combined = ids * count + codes
        limit = (int(ids.max()) + 1 if len(ids) else 1) * count
        if limit <= max(4 * relation.size, 1024):
            used = np.bincount(combined, minlength=limit) > 0
            ids = (np.cumsum(used) - 1)[combined]
        else:
            ids = np.unique(combined, return_inverse=True)[1]
    count = int(ids.max()) + 1 if len(ids) else 0
    first = np.zeros(count, dtype=np.int64)
    first[ids[::-1]] = np.arange(relation.size - 1, -1, -1)
    return ids, first


def _group(step: Group, relation: Relation) -> Relation:
    if step.by:
        ids, first = _group_ids(relation, step.by)
    else:
        ids, first = np.zeros(relation.size, dtype=np.int64), np.zeros(1, dtype=np.int64)
    keys = {name: relation.column(name).at(first) for name in step.by}
    found = {
        a.name: aggregate(
            a,
            relation.column(a.column) if a.column else None,
            relation.column(a.other) if a.other else None,
            ids,
            len(first),
        )
        for a in step.aggregates
    }
    return Relation(len(first), {n: partial(_given, v) for n, v in {**keys, **found}.items()})


def _join_ids(left: Relation, right: Relation, step: Join) -> tuple[Ints, Ints]:
    """Keys of both sides as shared integers; -1 on the left and -2 on the right where a part is missing."""
    a, b = np.zeros(left.size, dtype=np.int64), np.zeros(right.size, dtype=np.int64)
    gone_a, gone_b = np.zeros(left.size, dtype=np.bool_), np.zeros(right.size, dtype=np.bool_)
    for pair in step.on:
        x, y = left.column(pair.left), right.column(pair.right)
        if x.type is Type.TEXT:
            p, q = shared_codes(x, y)
        elif x.type.is_time:
            p, q = microseconds_of(x), microseconds_of(y)
        elif x.type is Type.INTEGER and y.type is Type.INTEGER:
            p, q = x.values, y.values
        else:
            p, q = np.nan_to_num(x.floats()), np.nan_to_num(y.floats())
        distinct, codes = np.unique(np.concatenate([p, q]), return_inverse=True)
        both = np.concatenate([a, b]) * (len(distinct) + 1) + codes
        both = np.unique(both, return_inverse=True)[1]
        a, b = both[: left.size], both[left.size :]
        gone_a, gone_b = gone_a | x.missing, gone_b | y.missing
    return np.where(gone_a, -1, a), np.where(gone_b, -2, b)


def _join(left: Relation, step: Join, right: Relation) -> tuple[Relation, int]:
    a, b = _join_ids(left, right, step)
    width = int(max(a.max(initial=0), b.max(initial=0))) + 1
    partner = np.full(width, -1, dtype=np.int64)
    usable = np.flatnonzero(b >= 0)
    partner[b[usable]] = usable
    found = np.where(a >= 0, partner[np.maximum(a, 0)], -1)
    matched = found >= 0
    if step.how == "with":
        return left.rows(np.flatnonzero(matched)), int((~matched).sum())
    if step.how == "without":
        return left.rows(np.flatnonzero(~matched)), int((~matched).sum())
    partners = np.bincount(b[usable], minlength=width)
    if len(a) and (partners[np.maximum(a, 0)][a >= 0] > 1).any():
        raise JoinMultiplies(f"rows find several partners by {', '.join(p.right for p in step.on)}")
    chosen = np.flatnonzero(matched) if step.how == "inner" else np.arange(left.size)
    beside = found[chosen]

    def gather(name: str) -> Vector:
        vector = right.column(name)
        if not len(vector):
            empty = np.zeros(len(beside), dtype=vector.values.dtype)
            return Vector(vector.type, empty, np.ones(len(beside), dtype=np.bool_), vector.scale, vector.words)
        taken = vector.at(np.maximum(beside, 0))
        return Vector(taken.type, taken.values, taken.missing | (beside < 0), taken.scale, taken.words)

    kept = left.rows(chosen)
    columns = {n: kept.loader(n) for n in kept.names}
    columns.update({n: partial(gather, n) for n in right.names})
    return Relation(len(chosen), columns), int((~matched).sum())


def _window(step: Window, relation: Relation) -> Vector:
    vector = relation.column(step.column)
    ids, first = _group_ids(relation, step.within)
    if step.function == "share":
        values = vector.floats()
        totals = np.bincount(ids, weights=np.nan_to_num(values), minlength=len(first))[ids]
        with np.errstate(divide="ignore", invalid="ignore"):
            return float_vector(np.where(totals == 0, np.nan, values / totals))
    keys = step.order or (SortKey(column=step.column, descending=True),)
    ties = [] if step.function == "rank" else relation.names
    order = np.lexsort([*_order_arrays(relation, keys, ties), ids])
    starts = np.ones(relation.size, dtype=np.bool_)
    starts[1:] = ids[order][1:] != ids[order][:-1]
    if step.function == "rank":
        return _ranks(relation, keys, order, starts)
    along = vector.at(order)
    if step.function == "running_total":
        return _running(along, starts, order)
    previous = np.roll(along.floats(), 1)
    gone = starts | np.roll(along.missing, 1) | along.missing
    found = np.empty(relation.size, dtype=np.int64)
    found[order] = np.arange(relation.size)
    if step.function == "change":
        change = np.where(along.missing, 0, along.values) - np.roll(np.where(along.missing, 0, along.values), 1)
        return Vector(vector.type, change, gone, vector.scale).at(found)
    with np.errstate(divide="ignore", invalid="ignore"):
        change = np.where(gone | (previous == 0), np.nan, (along.floats() - previous) / np.abs(previous))
    return float_vector(change).at(found)


def _ranks(relation: Relation, keys: tuple[SortKey, ...], order: Ints, starts: np.ndarray) -> Vector:
    new = starts.copy()
    for key in keys:
        codes = _codes(relation.column(key.column))[0][order]
        new[1:] |= codes[1:] != codes[:-1]
    place = np.arange(relation.size)
    begin = np.maximum.accumulate(np.where(starts, place, 0))
    rank = np.maximum.accumulate(np.where(new, place, 0)) - begin + 1
    found = np.empty(relation.size, dtype=np.int64)
    found[order] = rank
    return Vector(Type.INTEGER, found, np.zeros(relation.size, dtype=np.bool_))


def _running(values: Vector, starts: np.ndarray, order: Ints) -> Vector:
    plain = np.where(values.missing, values.values.dtype.type(0), values.values)
    total = np.cumsum(plain)
    before = np.where(starts, total - plain, 0)
    at_start = np.maximum.accumulate(np.where(starts, np.arange(len(plain)), 0))
    counted = np.cumsum(~values.missing)
    counted_before = (counted - ~values.missing)[at_start] if len(plain) else counted
    found = np.empty(len(order), dtype=np.int64)
    found[order] = np.arange(len(order))
    running = total - before[at_start] if len(plain) else total
    return Vector(values.type, running, counted == counted_before, values.scale).at(found)
