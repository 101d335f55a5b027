"""A question for groups of things that are alike, as a plan of the numbers that tell of each."""

from __future__ import annotations

from collections.abc import Iterator

from gumption.core.model.catalogue import Table
from gumption.core.model.style import written
from gumption.core.model.types import Role, Type
from gumption.core.plan.fields import Field
from gumption.core.plan.steps import Plan
from gumption.core.reading import meaning as m
from gumption.core.reading.looking import field_of
from gumption.core.reading.schema import Nouns, tables_of
from gumption.core.reading.studies import CannotStudy, Planner
from gumption.core.reading.suggesting import called, named
from gumption.core.reading.words import quantity_words
from gumption.core.study.clusters import Clusters, Feature

_MOST_FEATURES, _MOST_BELOW = 6, 3
MOST_THINGS = 200_000
"""Things that are put into groups: more are not held."""


def clusters_of(ask: m.Ask, planner: Planner) -> tuple[Clusters, Plan] | None:
    """Things to be put into groups, with the numbers that the question names or that tell of each; None where none are named.

    Raises CannotStudy and CannotPlan.
    """
    catalogue = planner.nouns.catalogue
    named_by = numbers_named(ask, planner.nouns)
    by = next((g for g in ask.groups if isinstance(g, m.Col)), None)
    of = by.key.table if by is not None else ask.head
    table = catalogue.table(of)
    # Kinds of what happened are things of their own: the shops of sales, where shops have no table. Rows that others
    # point at are things themselves, whichever of their columns they were called by.
    pointed_at = any(r.other == table.name for r in catalogue.relationships)
    kinds = by if by is not None and not pointed_at and _is_kind(table, by) else None
    things = _many(named(table.column(kinds.key.column))) if kinds is not None else called(table)
    if kinds is None and table.key is None:
        raise CannotStudy(f"nothing tells one of the {things} from another")
    if kinds is None and table.rows > MOST_THINGS and not ask.where:
        raise CannotStudy(f"there are more than {written(MOST_THINGS)} {things}; ask for some of them")
    key = kinds or m.Col(m.ColumnKey(table.name, table.key.name if table.key is not None else ""))
    told_of = _told_of_kinds(table) if kinds is not None else _told_of(table, planner)
    quantities = named_by if len(named_by) > 1 or (named_by and ask.groups) else list(told_of)
    if len(quantities) < 2:
        raise CannotStudy(f"there are no two numbers that tell of each of the {things}")
    quantities = quantities[:_MOST_FEATURES]
    # Things that nothing belongs to are things all the same.
    themselves = m.Aggregated("count", None, table.name)
    told = tuple(q for q in quantities if q != themselves)
    plan = planner.plan_of(m.Ask(table.name, where=ask.where, quantities=(themselves, *told), groups=(key,)))
    one_each = "" if kinds is not None else of
    features = tuple(Feature(_name(q, one_each, planner), _field(q, planner), _is_nought(q)) for q in told)
    return Clusters(things, features), plan


def _is_kind(table: Table, by: m.Col) -> bool:
    """True for a column whose values are shared by rows, and that points at no table of its own."""
    column = table.column(by.key.column)
    return column != table.key and column.role.is_category and 0 < column.distinct < table.rows


def _many(noun: str) -> str:
    return noun if noun.endswith("s") else f"{noun}s"


def _told_of_kinds(table: Table) -> Iterator[m.Aggregated]:
    """The numbers of a kind of rows: what these come to, and what they are on average."""
    measures = [c for c in table.columns if c.is_measure]
    yield from (m.Aggregated("sum", m.Col(m.ColumnKey(table.name, c.name))) for c in measures if c.role.is_summed)
    yield from (m.Aggregated("mean", m.Col(m.ColumnKey(table.name, c.name))) for c in measures if not c.role.is_summed)


def numbers_named(ask: m.Ask, nouns: Nouns) -> list[m.Quantity]:
    """The figures of each thing that a question names, and the numbers of things that it shows."""
    figures: list[m.Quantity] = [q for q in ask.quantities if isinstance(q, (m.Aggregated, m.Combined, m.ShareOf))]
    shown = [e for e in ask.shows if isinstance(e, m.Col) and nouns.column(e.key).is_measure]
    return [*figures, *(m.Aggregated("max", e) for e in shown)]


def _told_of(table: Table, planner: Planner) -> Iterator[m.Aggregated]:
    """The numbers of a thing: its own, and how many rows belong to it, what these come to, and what they are on average."""
    catalogue = planner.nouns.catalogue
    for column in [c for c in table.columns if c.is_measure][:2]:
        yield m.Aggregated("max", m.Col(m.ColumnKey(table.name, column.name)))
    alongside = {r.table for r in catalogue.relationships if r.other == table.name and r.one_to_one}
    below = [
        t
        for t in catalogue.tables
        if t.name not in {table.name, *alongside} and catalogue.path(t.name, table.name) is not None
    ]
    for other in sorted(below, key=lambda t: -t.rows)[:_MOST_BELOW]:
        yield m.Aggregated("count", None, other.name)
        money = [c for c in other.columns if c.is_measure and c.role.is_summed]
        scores = [c for c in other.columns if c.is_measure and c.role is Role.SCORE]
        yield from (m.Aggregated("sum", m.Col(m.ColumnKey(other.name, c.name))) for c in money[:1])
        yield from (m.Aggregated("mean", m.Col(m.ColumnKey(other.name, c.name))) for c in scores[:1])


def _name(quantity: m.Quantity, of: str, planner: Planner) -> str:
    catalogue = planner.nouns.catalogue
    match quantity:
        case m.Aggregated(function="count", expr=None, table=str() as table):
            return called(catalogue.table(table))
        case m.Aggregated(function="max" | "mean", expr=m.Col(key=key)) if key.table == of:
            return named(catalogue.table(key.table).column(key.column))
        case m.Aggregated(function="mean", expr=m.Length()) if {*tables_of(quantity)} <= {of}:
            # Each thing has one age, and no average of several.
            return quantity_words(quantity, of, catalogue).removeprefix("the average ").split(" by ")[0]
        case _:
            head = next(iter([*m.counted_in(quantity), *tables_of(quantity)]), catalogue.tables[0].name)
            return quantity_words(quantity, head, catalogue).removeprefix("the ")


def _is_nought(quantity: m.Quantity) -> bool:
    return isinstance(quantity, m.Aggregated) and quantity.function in ("count", "sum")


def _field(quantity: m.Quantity, planner: Planner) -> Field:
    match quantity:
        case m.Aggregated(expr=m.Col(key=key)):
            return field_of(planner.nouns.catalogue.table(key.table).column(key.column))
        case _:
            return Field(Type.INTEGER, Role.QUANTITY)
