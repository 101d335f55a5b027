"""A question for groups of things that are alike, as a plan of the numbers that tell of each."""

from __future__ import annotations

from collections.abc import Iterator

from gumption.core.model.catalogue import Table
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


def clusters_of(ask: m.Ask, planner: Planner) -> tuple[Clusters, Plan] | None:
    """Things to be put into groups, with the numbers that the question names or that tell of each; None where none are named.

    Raises CannotStudy and CannotPlan.
    """
    catalogue = planner.nouns.catalogue
    named_by = numbers_named(ask, planner.nouns)
    of = next((g.key.table for g in ask.groups if isinstance(g, m.Col)), ask.head)
    table = catalogue.table(of)
    if table.key is None:
        raise CannotStudy(f"nothing tells one of the {called(table)} from another")
    key = m.Col(m.ColumnKey(table.name, table.key.name))
    quantities = named_by if len(named_by) > 1 or (named_by and ask.groups) else list(_told_of(table, planner))
    if len(quantities) < 2:
        raise CannotStudy(f"there are no two numbers that tell of each of the {called(table)}")
    quantities = quantities[:_MOST_FEATURES]
    # Things that nothing belongs to are things all the same.
    themselves = m.Aggregated("count", None, table.name)
    told = tuple(q for q in quantities if q != themselves)
    plan = planner.plan_of(m.Ask(table.name, where=ask.where, quantities=(themselves, *told), groups=(key,)))
    features = tuple(Feature(_name(q, of, planner), _field(q, planner), _is_nought(q)) for q in told)
    return Clusters(called(table), features), plan


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
