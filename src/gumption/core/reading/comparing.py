"""A question about a figure by groups as one of whether these differ."""

from __future__ import annotations

from collections.abc import Sequence

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Role
from gumption.core.plan.expressions import AggregateName
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import spoken
from gumption.core.reading import meaning as m
from gumption.core.reading.schema import tables_of
from gumption.core.reading.studies import CannotStudy, Differs, Planner, Together
from gumption.core.reading.words import quantity_words
from gumption.core.study.compared import Compared
from gumption.core.study.related import Related

_FEW_VALUES = 20
"""Different values up to which a number goes by ranks."""


def compared_of(ask: m.Ask, wish: Differs, planner: Planner) -> tuple[Compared, Plan] | None:
    """Whether what is asked for differs between its groups, with the plan of these; None where there are none.

    Raises CannotStudy and CannotPlan.
    """
    if len(ask.quantities) != 1 or not ask.groups or ask.having or ask.limit is not None:
        return None
    catalogue = planner.nouns.catalogue
    quantity = ask.quantities[0]
    if wish.total and isinstance(quantity, m.Aggregated) and quantity.function == "sum":
        return None
    called = " and ".join(_called(g) for g in ask.groups)
    if isinstance(quantity, m.Aggregated) and quantity.function == "count" and quantity.where and not wish.counted:
        # Complications, with laminar flow and without, are so many of the operations.
        quantity = m.ShareOf(quantity.where, quantity.table)
    match quantity:
        case m.Aggregated(function="sum" | "mean" | "median", expr=expr, where=where) if expr is not None:
            functions: tuple[AggregateName, ...] = ("count", "mean", "deviation", "median")
            quantities = tuple(m.Aggregated(f, expr, where=where) for f in functions)
            plan = planner.plan_of(ask.but(quantities=quantities, order=(m.Order(quantities[1]),)))
            detail = _detail(ask, expr, where, planner)
            figure = quantity_words(quantities[1], ask.head, catalogue)
            return Compared("mean", figure, called, _goes_by_ranks(expr, planner), detail), plan
        case m.ShareOf(condition=met, table=table, expr=None, among=among):
            part, whole = (m.Aggregated("count", None, table, where=w) for w in ((*among, *met), among))
            plan = planner.plan_of(ask.but(quantities=(part, whole, quantity), order=(m.Order(quantity),)))
            return Compared("share", quantity_words(quantity, ask.head, catalogue), called, False), plan
        case m.Aggregated(function="count") if len(ask.groups) == 2 and all(isinstance(g, m.Col) for g in ask.groups):
            plan = planner.plan_of(ask)
            return Compared("tied", quantity_words(quantity, ask.head, catalogue), called, False), plan
        case m.Aggregated(function="count"):
            plan = planner.plan_of(ask)
            return Compared("count", quantity_words(quantity, ask.head, catalogue), called, False), plan
        case _:
            words = quantity_words(quantity, ask.head, catalogue)
            raise CannotStudy(
                f"{words} is no mean, share or number of rows that groups could be held against each other by"
            )


def _called(group: m.Expr) -> str:
    match group:
        case m.Col(key=key):
            return spoken(key.column)
        case m.PartOf(unit=unit):
            return unit.replace("_", " ")
        case _:
            return "group"


def _goes_by_ranks(expr: m.Expr, planner: Planner) -> bool:
    """True for scores and numbers of few values."""
    if not isinstance(expr, m.Col):
        return False
    column = planner.nouns.catalogue.table(expr.key.table).column(expr.key.column)
    return column.role is Role.SCORE or column.distinct <= _FEW_VALUES


def _detail(ask: m.Ask, expr: m.Expr, where: tuple[m.Condition, ...], planner: Planner) -> Plan:
    """How often each value of a number occurs in each group."""
    often = m.Aggregated("count", None, next(iter(tables_of(expr)), ask.head))
    return planner.plan_of(m.Ask(ask.head, where=(*ask.where, *where), quantities=(often,), groups=(*ask.groups, expr)))


def together_of(ask: m.Ask, wish: Together, planner: Planner) -> tuple[Related, Plan] | None:
    """How two figures go together over the groups that they are worked for; None where they are no two, or of single rows.

    Raises CannotPlan.
    """
    if len(ask.quantities) != 2 or len(ask.groups) != 1 or ask.having or ask.limit is not None or ask.across:
        return None
    catalogue = planner.nouns.catalogue
    one, other = ask.quantities
    if not wish.told and _of_rows(one) and _of_rows(other) and tables_of(one) == tables_of(other):
        # Two columns of the same rows go together row by row, in each of the groups.
        return None
    if not wish.grouped and _are_joined(tables_of(one), tables_of(other), catalogue):
        return None
    group = ask.groups[0]
    in_time = isinstance(group, m.PartOf) and group.unit in ("day", "week", "month", "quarter", "year")
    plan = planner.plan_of(ask.but(order=(), chart=None))
    words = [quantity_words(q, ask.head, catalogue).removeprefix("the ") for q in (one, other)]
    return Related(words[0], words[1], plan, _called(group), in_time), plan


def holds_rows_together(ask: m.Ask) -> bool:
    """True where two columns of the rows are held against each other, for all rows or for those of each group."""
    return any(
        isinstance(q, m.Aggregated)
        and q.function == "correlation"
        and isinstance(q.expr, m.Col)
        and isinstance(q.other, m.Col)
        for q in ask.quantities
    )


def _of_rows(quantity: m.Quantity) -> bool:
    """True for what is worked out of a column of the rows."""
    return isinstance(quantity, m.Aggregated) and isinstance(quantity.expr, m.Col)


def _are_joined(ones: Sequence[str], others: Sequence[str], catalogue: Catalogue) -> bool:
    return any(a == b or catalogue.path(a, b) or catalogue.path(b, a) for a in ones for b in others)


def related_of(ask: m.Ask, planner: Planner) -> Related | None:
    """The two numbers of a question for their correlation alone, with the plan of their rows. Raises CannotPlan."""
    match ask.quantities:
        case (m.Aggregated(function="correlation", expr=m.Col() as one, other=m.Col() as other, where=where),):
            if ask.groups or ask.having:
                return None
            often = m.Aggregated("count", None, one.key.table)
            pairs = m.Ask(ask.head, where=(*ask.where, *where), quantities=(often,), groups=(one, other))
            return Related(spoken(one.key.column), spoken(other.key.column), planner.plan_of(pairs))
        case _:
            return None
