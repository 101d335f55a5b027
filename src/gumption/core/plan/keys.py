"""Which columns tell the rows of a plan apart, as far as the plan and what was measured of its tables prove it."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Iterator, Sequence

from gumption.core.model.catalogue import Catalogue
from gumption.core.plan import steps as st
from gumption.core.plan.steps import Join, Plan, SortKey, Step, Take, all_steps

Keys = tuple[frozenset[str], ...]
"""Sets of columns, each of which tells every row apart."""


def keys_after(step: Step, keys: Keys, catalogue: Catalogue) -> Keys:
    """The keys of a step's rows, given those of the rows before it."""
    match step:
        case Take(table=name):
            return _table_keys(name, catalogue)
        case st.Group(by=by):
            return (frozenset(by),)
        case st.Pivot(by=by, totals=totals):
            return () if totals else (frozenset(by),)
        case st.Pick(columns=columns):
            names = {c.column: c.name for c in columns}
            return tuple(frozenset(names[n] for n in key) for key in keys if key <= set(names))
        case st.Append() | st.Unpivot() | st.Spread():
            return ()
        case st.Fill(column=column, within=within):
            # Filling adds one row a period and combination, so that only a key made of these stays one.
            line = frozenset({column, *within})
            return tuple(key for key in keys if key == line)
        case st.Join() | st.AsOf() | st.Keep() | st.Derive() | st.Window() | st.Sort() | st.Limit():
            return keys


def _table_keys(name: str, catalogue: Catalogue) -> Keys:
    table = catalogue.table(name)
    single = [frozenset({c.name}) for c in table.columns if c.tells_apart(table.rows)]
    targets = [frozenset(there for _, there in r.pairs) for r in catalogue.relationships if r.other == name]
    return tuple(dict.fromkeys([*single, *targets]))


def keys_of(plan: Plan, catalogue: Catalogue) -> Keys:
    """The keys of a plan's answer."""
    keys: Keys = ()
    for step in plan.steps:
        keys = keys_after(step, keys, catalogue)
    return keys


def order_after(step: Step, order: tuple[str, ...]) -> tuple[str, ...]:
    """The columns that a step's rows are in the order of, the first one first, given those of the rows before it.

    Behind a column that is gone the order of the others cannot be seen.
    """
    match step:
        case st.Sort(keys=keys):
            return tuple(key.column for key in keys)
        case st.Pick(columns=columns):
            names = {c.column: c.name for c in columns}
            return tuple(names[n] for n in itertools.takewhile(names.__contains__, order))
        case Take() | st.Group() | st.Pivot() | st.Unpivot() | st.Spread() | st.Append() | st.Fill():
            return ()
        case st.Join() | st.AsOf() | st.Keep() | st.Derive() | st.Window() | st.Limit():
            return order


def tie_breakers(order: Sequence[SortKey], names: Iterable[str], keys: Keys) -> list[SortKey]:
    """The remaining of the columns, which break ties of an order, as far as they are needed to tell every row apart."""
    named = {key.column for key in order}
    found: list[SortKey] = []
    for name in names:
        if any(key <= named for key in keys):
            break
        if name not in named:
            found.append(SortKey(column=name))
            named.add(name)
    return found


def meets_once(step: Join, catalogue: Catalogue) -> bool:
    """True where the other plan's keys prove that no row finds a second partner."""
    if step.how in ("with", "without") or not step.on:
        return True
    right = {pair.right for pair in step.on}
    return any(key <= right for key in keys_of(step.other, catalogue))


def unproven_joins(plan: Plan, catalogue: Catalogue) -> Iterator[Join]:
    """Joins of a plan, those inside other plans too, of which only the rows can tell whether they double any."""
    return (s for s in all_steps(plan) if isinstance(s, Join) and not meets_once(s, catalogue))
