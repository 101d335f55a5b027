"""Things that several tables tell of and none lists: countries in a table of companies and in one of populations.

A table of them is read beside the others, to which both point, so that what stands in the one can be held against
what stands in the other. A plan made over it takes the values from the tables that have them.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass

from gumption.core.model.catalogue import Catalogue, Column, Relationship, Table
from gumption.core.model.names import free_name
from gumption.core.model.types import Role, Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.steps import Append, Group, Keep, Pick, Picked, Plan, Step, Take
from gumption.core.plan.words import spoken
from gumption.core.reading.tokens import stem
from gumption.core.reading.vocabulary import name_parts

_FEWEST, _ALIKE = 3, 0.6
"""Values that both must have, and the share of the fewer values that must stand in the other."""
_SAID_OF_ANY = frozenset(["name", "code", "id", "no", "type", "kind", "status", "group", "category", "class", "total"])


@dataclass(frozen=True)
class Shared:
    """A column of several tables that tells of the same things."""

    key: str
    columns: tuple[tuple[str, str], ...]
    """The tables and their columns."""

    def steps(self) -> tuple[Step, ...]:
        """Every value once, from all the tables that have some."""
        first, *others = (
            Plan(steps=(Take(table=table), Pick(columns=(Picked(column=column, name=self.key),))))
            for table, column in self.columns
        )
        known = ex.Negated(item=ex.IsMissing(value=ex.ColumnRef(name=self.key)))
        return (*first.steps, *(Append(other=o) for o in others), Keep(condition=known), Group(by=(self.key,)))


def with_shared(catalogue: Catalogue) -> tuple[Catalogue, dict[str, Shared]]:
    """The catalogue with a table for each thing that tables share, and where its values come from."""
    found: dict[str, Shared] = {}
    tables, links = list(catalogue.tables), list(catalogue.relationships)
    taken = {t.name for t in tables}
    for columns in _groups(catalogue):
        key = columns[0][1]
        name = free_name(spoken(key.name), taken)
        taken.add(name)
        values = tuple(dict.fromkeys(v for _, c in columns for v in c.values))
        found[name] = Shared(key.name, tuple((t.name, c.name) for t, c in columns))
        listed = Column(name=key.name, type=key.type, role=Role.IDENTIFIER, distinct=len(values), values=values)
        tables.append(Table(name=name, source="", rows=len(values), columns=(listed,)))
        links += [
            Relationship(
                table=t.name, column=c.name, other=name, other_column=key.name, match_rate=1.0, unmatched=c.missing
            )
            for t, c in columns
        ]
    return (Catalogue(tables=tuple(tables), relationships=tuple(links)), found) if found else (catalogue, {})


def _groups(catalogue: Catalogue) -> Iterator[list[tuple[Table, Column]]]:
    """Columns of tables that nothing joins, that are called alike and have the same values."""
    pointing = {(r.table, r.column) for r in catalogue.relationships}
    loose = [
        (t, c)
        for t in catalogue.tables
        for c in t.columns
        if c.type is Type.TEXT
        and c.role in (Role.CATEGORY, Role.NAME, Role.PLACE, Role.LINK, Role.CODE, Role.TEXT)
        and c.distinct >= _FEWEST
        and c.distinct == len(c.values)
        and (t.name, c.name) not in pointing
    ]
    reach = catalogue.reach()
    grouped: list[list[_Told]] = []
    called: dict[str, set[int]] = defaultdict(set)
    """The groups in which a column is called by a word."""
    for told in (_Told(t, c) for t, c in loose):
        place = len(grouped)
        for alike in sorted(set().union(*(called[word] for word in told.names))):
            group = grouped[alike]
            # Tables of which both lead to a third, or the one to the other, meet without more.
            apart = all(reach[told.table.name].isdisjoint(reach[o.table.name]) for o in group)
            if apart and any(told.is_alike(o) for o in group):
                group.append(told)
                place = alike
                break
        else:
            grouped.append([told])
        for word in told.names:
            called[word].add(place)
    return ([(o.table, o.column) for o in g] for g in grouped if len(g) > 1)


class _Told:
    """A column with what it is compared by."""

    def __init__(self, table: Table, column: Column) -> None:
        self.table, self.column = table, column
        self.names = {stem(p) for p in name_parts(column.name)} - _SAID_OF_ANY
        self.values = frozenset(column.values)

    def is_alike(self, other: _Told) -> bool:
        """True for two that are called alike and have mostly the same values."""
        if not self.names & other.names:
            return False
        both = len(self.values & other.values)
        return both >= max(_FEWEST, _ALIKE * min(len(self.values), len(other.values)))


def as_told(plan: Plan, shared: dict[str, Shared]) -> Plan:
    """The plan over the tables as they are."""
    if not shared:
        return plan
    return st.with_taken(plan, lambda take: shared[take.table].steps() if take.table in shared else (take,))
