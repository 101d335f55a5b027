"""What a question could be told of where no word says so: each figure of the same things, or other rows counted."""

from __future__ import annotations

from collections.abc import Iterator

from gumption.core.model.types import Role
from gumption.core.reading import lexicon
from gumption.core.reading import meaning as m
from gumption.core.reading.flow import event_time
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.schema import Nouns, tables_of
from gumption.core.reading.vocabulary import COST_PARTS

_FIGURES = (Role.MONEY, Role.SCORE, Role.PERCENTAGE, Role.QUANTITY)


def by_other_figures(ask: m.Ask, nouns: Nouns) -> Iterator[m.Ask]:
    """The same question told by other figures: money, scores and how many rows there are."""
    if len(ask.order) != 1:
        return
    order = ask.order[0]
    if ask.groups and len(ask.quantities) == 1 and order.by == ask.quantities[0]:
        table = next(iter([*tables_of(order.by), *m.counted_in((order.by,))]), None)
        if table is None:
            return
        figures = [nouns.aggregate(expr) for expr in _columns(table, nouns)]
        for quantity in (*figures[:2], nouns.counted(table), *figures[2:]):
            if quantity != order.by:
                yield ask.but(quantities=(quantity,), order=(m.Order(quantity, order.descending),))
    elif ask.lists and isinstance(order.by, m.Col):
        for expr in _columns(order.by.key.table, nouns):
            if expr != order.by:
                yield ask.but(order=(m.Order(expr, order.descending),))


def by_other_rows(ask: m.Ask, nouns: Nouns) -> Iterator[m.Ask]:
    """How many there are of something else, in the same time: of what each other table tells, the largest first."""
    time = event_time(nouns.catalogue, ask.head)
    of_time = (m.Within, m.PartIs)
    if ask.quantities != (nouns.counted(ask.head),) or ask.groups or ask.having or ask.order:
        return
    own = (m.EventTime(), *((m.Col(time),) if time is not None else ()))
    if any(not isinstance(c, of_time) or c.time not in own for c in ask.where):
        return
    for table in sorted(nouns.catalogue.tables, key=lambda t: -t.rows):
        other = event_time(nouns.catalogue, table.name)
        if table.name == ask.head or (ask.where and other is None):
            continue
        change: dict[object, object] = {m.Col(time): m.Col(other)} if time is not None and other is not None else {}
        where = m.replaced(ask.where, change)
        yield ask.but(head=table.name, quantities=(nouns.counted(table.name),), where=where)


def _columns(table: str, nouns: Nouns) -> list[m.Col]:
    """The table's figures of which more is better, one of each kind first."""
    words = nouns.vocabulary.columns
    columns = []
    for column in nouns.catalogue.table(table).columns:
        parts = {*words[ColumnKey(table, column.name)].parts}
        if column.is_measure and not parts & (COST_PARTS | lexicon.troubles()):
            columns.append(column)
    first = {role: next((c for c in columns if c.role is role), None) for role in _FIGURES}
    told = [c for c in first.values() if c is not None]
    return [m.Col(ColumnKey(table, c.name)) for c in (*told, *(c for c in columns if c not in told))]
