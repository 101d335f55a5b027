"""A question for a description as plans of the facts that it is made of."""

from __future__ import annotations

from gumption.core.model.types import Role
from gumption.core.plan.steps import Plan
from gumption.core.reading import meaning as m
from gumption.core.reading.flow import event_time
from gumption.core.reading.looking import field_of, look_of
from gumption.core.reading.studies import Planner
from gumption.core.reading.suggesting import called, named
from gumption.core.reading.taking_apart import kinds_of
from gumption.core.study.described import Described, Kinds
from gumption.core.study.look import Figure

_MOST_FIGURES, _MOST_KINDS = 3, 2


def described_of(ask: m.Ask, planner: Planner) -> tuple[Described, Plan] | None:
    """What is to be described, with the plan of its main facts; None where a question names no rows. Raises CannotPlan."""
    catalogue = planner.nouns.catalogue
    found = look_of(ask, planner)
    if found is None:
        return None
    look, counted = found
    keys = m.columns_in(ask.quantities) or m.columns_in(ask.shows)
    column = None
    if keys and _is_of_one(ask):
        column = catalogue.table(keys[0].table).column(keys[0].column)
    name = keys[0].table if column is not None else _table(ask, look.rows, planner)
    table = catalogue.table(name)
    measures = [c for c in table.columns if c.is_measure][:_MOST_FIGURES] if column is None else [column]
    measures = [c for c in measures if c.is_measure]
    time = event_time(catalogue, name)
    timed = time is not None and time.table == name
    rows = m.Aggregated("count", None, name)
    quantities: list[m.Quantity] = [rows]
    if timed:
        assert time is not None
        quantities += [m.Aggregated("min", m.Col(time)), m.Aggregated("max", m.Col(time))]
    figures = []
    for measure in measures:
        of = m.Col(m.ColumnKey(name, measure.name))
        # A score is added up by nobody: its mean stands in the sum's place.
        summed = measure.role.is_summed and measure.default_aggregate == "sum"
        quantities += [m.Aggregated("count", of), m.Aggregated("sum" if summed else "mean", of)]
        quantities += [m.Aggregated("mean", of)] if summed else []
        quantities += [m.Aggregated("median", of), m.Aggregated("min", of), m.Aggregated("max", of)]
        title = named(measure)
        figures.append((Figure(title, "sum" if summed else "mean", field_of(measure)), summed))
    facts = planner.plan_of(m.Ask(name, where=ask.where, quantities=tuple(quantities)))
    kinds = [k for k in kinds_of(name, catalogue) if catalogue.table(k.table).column(k.column).role is not Role.FLAG]
    if column is not None:
        kinds = [k for k in kinds if k.column == column.name and k.table == name]
    told = []
    for key in kinds[:_MOST_KINDS]:
        title = named(catalogue.table(key.table).column(key.column))
        plan = planner.plan_of(m.Ask(name, where=ask.where, quantities=(rows,), groups=(m.Col(key),)))
        told.append(Kinds(title, plan))
    study = Described(
        look, facts, timed, tuple(f for f, _ in figures), tuple(s for _, s in figures), tuple(told), column is None
    )
    return study, counted


def _is_of_one(ask: m.Ask) -> bool:
    """True where one column is described, and not rows by the figure that a word for all of them was taken for."""
    return not ask.lists and not ask.groups


def _table(ask: m.Ask, rows: str, planner: Planner) -> str:
    """The table of the rows that are looked at."""
    return next((t.name for t in planner.nouns.catalogue.tables if called(t) == rows), ask.head)
