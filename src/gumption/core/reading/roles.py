"""Tables that rows point at in several roles, read as one table for each: the airport a flight leaves and the one it reaches.

The tables stay as they are: a plan made over the roles takes the table itself.
"""

from __future__ import annotations

from gumption.core.model.catalogue import Catalogue, Column, Relationship, Table
from gumption.core.model.names import free_name, spaced
from gumption.core.plan import steps as st
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import spoken
from gumption.core.reading.lexicon import related
from gumption.core.reading.tokens import stem
from gumption.core.reading.vocabulary import name_parts

NUMBERING = frozenset(["id", "no", "nr", "number", "code", "key", "ref", "to", "by", "name"])
"""What stands in the name of a column that points at rows and says nothing of what these are."""


def in_roles(catalogue: Catalogue) -> tuple[Catalogue, dict[str, str], dict[str, str]]:
    """The catalogue with a table for each further role, the table that each is, and the column that says each role.

    The column that is called so, else the first that points at a table, keeps it as it is, and is its role;
    rows that point at their own table, such as staff at their manager, always do so in a role.
    """
    tables: list[Table] = list(catalogue.tables)
    links: list[Relationship] = []
    roles: dict[str, str] = {}
    columns: dict[str, str] = {}
    taken = {t.name for t in tables}
    for table in catalogue.tables:
        own = _first_columns_first(sorted(catalogue.parents(table.name), key=lambda r: not _is_called_so(r)), table)
        plain: dict[str, str] = {}
        keys: dict[str, str] = {}
        for link in own:
            known = keys.setdefault(link.other, link.other_column)
            if link.other != table.name and (link.other not in plain or known != link.other_column):
                # The code and the name of one thing point at it in one role.
                plain.setdefault(link.other, link.column)
                links.append(link)
                continue
            name = free_name(f"{said_of(link.column, link.other)} {spoken(link.other)}", taken)
            taken.add(name)
            roles[name] = link.other
            columns[name] = link.column
            if link.other in plain:
                columns.setdefault(link.other, plain[link.other])
            taken_as = catalogue.table(link.other).model_copy(update={"name": name, "synonyms": ()})
            tables.append(_of_another(taken_as, link) if link.other == table.name else taken_as)
            links.append(link.model_copy(update={"other": name}))
    if not roles:
        return catalogue, {}, {}
    return Catalogue(tables=tuple(tables), relationships=tuple(links)), roles, columns


def _first_columns_first(links: list[Relationship], table: Table) -> list[Relationship]:
    """The links in their order, but of several that point at one table that of the first column first."""
    place = {c.name: i for i, c in enumerate(table.columns)}
    in_order = {
        other: iter(
            sorted((r for r in links if r.other == other), key=lambda r: (not _is_called_so(r), place[r.column]))
        )
        for other in {r.other for r in links}
    }
    return [next(in_order[r.other]) for r in links]


def said_of(column: str, rows: str) -> str:
    """What a column says of the rows that it points at, beside what these are: the start of a start station's number."""
    there = {stem(p) for p in name_parts(rows)}
    said = [p for p in spaced(spoken(column)).split() if p.lower() not in NUMBERING and stem(p.lower()) not in there]
    return " ".join(said) or spoken(column)


def _of_another(table: Table, link: Relationship) -> Table:
    """The table that its own rows point at, each column said to be of the one pointed at: the manager's pay."""
    whose = " ".join(p for p in name_parts(link.column) if p not in NUMBERING) or spoken(link.column)

    def called(column: Column) -> str:
        own = column.name == link.other_column
        return spoken(link.column) if own else f"{whose}'s {column.display or spoken(column.name)}"

    columns = tuple(c.model_copy(update={"display": called(c)}) for c in table.columns)
    return table.model_copy(update={"columns": columns})


def _is_called_so(link: Relationship) -> bool:
    """True for a column that is called as the rows are that it points at: the employee of a table of staff."""
    own, there = ([stem(p) for p in name_parts(n)] for n in (link.column, link.other))
    return any(related(one, other) for one in own for other in there)


def as_taken(plan: Plan, roles: dict[str, str]) -> Plan:
    """The plan over the tables as they are."""
    if not roles:
        return plan
    return st.with_taken(plan, lambda take: (take.model_copy(update={"table": roles.get(take.table, take.table)}),))
