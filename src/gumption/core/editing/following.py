"""Steps behind a changed one: they go by new names of columns, and do without those that are gone."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, TypeVar, assert_never, cast

from pydantic import BaseModel

from gumption.core.plan import steps as st
from gumption.core.plan.expressions import ColumnRef
from gumption.core.plan.steps import Picked, Step

N = TypeVar("N", bound=BaseModel)


@dataclass(frozen=True)
class ColumnChange:
    """What became of the columns that a step gives."""

    renamed: Mapping[str, str] = field(default_factory=dict)
    gone: frozenset[str] = frozenset()
    keys: tuple[str, ...] = ()
    """New ones that say what a row is about."""
    figures: tuple[str, ...] = ()
    """Other new ones."""

    def __bool__(self) -> bool:
        return bool(self.renamed or self.gone or self.keys or self.figures)

    @classmethod
    def between(
        cls, before: Sequence[str], after: Sequence[str], renamed: Mapping[str, str], keys: Sequence[str]
    ) -> ColumnChange:
        """What makes the columns before those after, where some are known to be renamed and some to be `keys`."""
        real = {old: new for old, new in renamed.items() if old != new and old in before and new in after}
        added = [n for n in after if n not in before and n not in real.values()]
        return cls(
            real,
            frozenset(n for n in before if n not in after and n not in real),
            tuple(n for n in added if n in keys),
            tuple(n for n in added if n not in keys),
        )


def follow(steps: Sequence[Step], change: ColumnChange) -> tuple[tuple[Step, ...], ColumnChange]:
    """The steps as they go on after the change, and what of it their last one still shows."""
    found: list[Step] = []
    for step in steps:
        kept, change = _followed(step, change) if change else (step, change)
        found.append(kept)
    return tuple(found), change


def _followed(step: Step, change: ColumnChange) -> tuple[Step, ColumnChange]:
    """A step after the change, as it was where nothing would be left for it to do, and the change behind it."""
    new, gone = change.renamed, change.gone

    def name(old: str) -> str:
        return new.get(old, old)

    def names(old: Sequence[str]) -> tuple[str, ...]:
        return tuple(dict.fromkeys(name(n) for n in old if n not in gone))

    match step:
        case st.Take() | st.Limit():
            return step, change
        case st.Keep(condition=condition):
            return st.Keep(condition=renamed(condition, new)), change
        case st.Derive(expression=expression):
            return step.model_copy(update={"expression": renamed(expression, new)}), change
        case st.Join(on=on) | st.AsOf(on=on):
            pairs = tuple(p.model_copy(update={"left": name(p.left)}) for p in on)
            told: dict[str, Any] = {"on": pairs}
            if isinstance(step, st.AsOf):
                told["at"] = step.at.model_copy(update={"left": name(step.at.left)})
            return step.model_copy(update=told), change
        case st.Append():
            return step, change
        case st.Group(by=by, aggregates=aggregates):
            grouped = st.Group(by=tuple(map(name, by)), aggregates=tuple(renamed(a, new) for a in aggregates))
            carried = {a.name for a in aggregates if a.carries}
            return _carrying(grouped, carried, new), _shown(change, {*by, *carried})
        case st.Pivot(by=by):
            crossed = step.model_copy(
                update={
                    "by": tuple(map(name, by)),
                    "column": name(step.column),
                    "aggregate": renamed(step.aggregate, new),
                }
            )
            return crossed, _shown(change, set(by))
        case st.Unpivot(columns=columns):
            return step.model_copy(update={"columns": names(columns) or columns}), change
        case st.Spread(column=column):
            return step.model_copy(update={"column": name(column)}), change
        case st.Window(order=order, within=within):
            update = {"column": name(step.column), "order": _keys(order, change), "within": names(within)}
            return step.model_copy(update=update), change
        case st.Fill(within=within, zeros=zeros):
            update = {"column": name(step.column), "within": names(within), "zeros": names(zeros)}
            return step.model_copy(update=update), change
        case st.Sort(keys=keys):
            return st.Sort(keys=_keys(keys, change) or keys), change
        case st.Pick(columns=columns):
            return _picked(step, change)
        case _:
            assert_never(step)


def _keys(keys: Sequence[st.SortKey], change: ColumnChange) -> tuple[st.SortKey, ...]:
    return tuple(
        key.model_copy(update={"column": change.renamed.get(key.column, key.column)})
        for key in keys
        if key.column not in change.gone
    )


def _carrying(group: st.Group, carried: set[str], new: Mapping[str, str]) -> st.Group:
    """The group with carried columns under their new names."""
    named = (
        a.model_copy(update={"name": new.get(a.name, a.name)}) if a.name in carried else a for a in group.aggregates
    )
    return group.model_copy(update={"aggregates": tuple(named)})


def _shown(change: ColumnChange, kept: set[str]) -> ColumnChange:
    """What of a change is still seen behind a step that keeps only some columns by name."""
    return ColumnChange({o: n for o, n in change.renamed.items() if o in kept}, change.gone & kept)


def _picked(step: st.Pick, change: ColumnChange) -> tuple[Step, ColumnChange]:
    """The columns shown: those gone left out, new ones beside those of their kind."""
    kept: list[Picked] = []
    told: dict[str, str] = {}
    gone: set[str] = set()
    for column in step.columns:
        if column.column in change.gone:
            gone.add(column.name)
            continue
        new = change.renamed.get(column.column, column.column)
        name = new if column.name == column.column else column.name
        if name != column.name:
            told[column.name] = name
        kept.append(Picked(column=new, name=name))
    taken = {c.name for c in kept}
    keys = [n for n in change.keys if n not in taken]
    figures = [n for n in change.figures if n not in taken]
    kept = [*(Picked(column=n, name=n) for n in keys), *kept, *(Picked(column=n, name=n) for n in figures)]
    shown = st.Pick(columns=tuple(kept)) if kept else step
    return shown, ColumnChange(told, frozenset(gone), tuple(keys), tuple(figures))


def renamed(node: N, new: Mapping[str, str]) -> N:
    """An expression or an aggregate with columns under other names."""
    return cast(N, _renamed(node, new)) if new else node


def _renamed(part: object, new: Mapping[str, str]) -> object:
    match part:
        case ColumnRef(name=name):
            return ColumnRef(name=new.get(name, name))
        case tuple():
            return tuple(_renamed(p, new) for p in part)
        case BaseModel():
            told: dict[str, Any] = {}
            for field_name in type(part).model_fields:
                value = getattr(part, field_name)
                if field_name in ("column", "other") and isinstance(value, str):
                    told[field_name] = new.get(value, value)
                else:
                    told[field_name] = _renamed(value, new)
            return part.model_copy(update=told)
        case _:
            return part
