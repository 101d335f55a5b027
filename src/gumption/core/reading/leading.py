"""Those that lead in something, and all, some or none of the rows of each, as conditions on rows."""

from __future__ import annotations

from collections.abc import Sequence

from gumption.core.model.catalogue import Catalogue
from gumption.core.reading import meaning as m
from gumption.core.reading.flow import lowest_table
from gumption.core.reading.pieces import Bounded, Counted, EndWas, Leading, Measured, Noun, Part
from gumption.core.reading.rules.quantifiers import such_rows
from gumption.core.reading.schema import Nouns, tables_of


def as_condition(leading: Leading, nouns: Nouns) -> Part | None:
    """What belongs to those that lead, or to all the others; None where nothing here tells who they are."""
    led = those_that_lead(leading, nouns)
    if led is None:
        return None
    return Part(m.Not(led) if leading.others else led, "related")


def those_that_lead(leading: Leading, nouns: Nouns) -> m.Among | None:
    """The things of a kind that come first in something, as a condition on what belongs to them."""
    kind = leading.kind
    own = nouns.catalogue.table(kind.table).key if kind.table is not None else None
    key = m.ColumnKey(kind.table, own.name) if kind.table is not None and own is not None else kind.key
    if key is None:
        return None
    limit, skip = leading.number, leading.skip
    if isinstance(leading.by, Measured) and tables_of(leading.by.expr) == [kind.table]:
        order = (m.Order(leading.by.expr, leading.descending),)
        return m.Among(key, m.Ask(key.table, shows=(m.Col(key),), order=order, limit=limit, skip=skip))
    quantity: m.Quantity
    match leading.by:
        case Counted(noun=Noun(table=str(rows))):
            quantity = nouns.counted(rows)
        case Measured(expr=expr):
            quantity = nouns.aggregate(expr)
        case None:
            main = nouns.main_measure(key.table)
            quantity = nouns.aggregate(main) if main is not None else nouns.counted(key.table)
        case _:
            return None
    tables = [key.table, *tables_of(quantity), *m.counted_in(quantity)]
    head = lowest_table(list(dict.fromkeys(tables)), nouns.catalogue)
    if head is None:
        return None
    order = (m.Order(quantity, leading.descending),)
    return m.Among(key, m.Ask(head, (), (quantity,), (m.Col(key),), order=order, limit=limit, skip=skip))


def within_bounds(bounded: Bounded, nouns: Nouns) -> Part | None:
    """Rows of which what one comes to is held against a number: all of them, some or none."""
    measure = nouns.main_measure(bounded.rows.table) if bounded.rows.table is not None else None
    if measure is None:
        return None
    bound = m.Compared(bounded.op, measure, m.Number(bounded.number))
    return such_rows(bounded.how, bounded.rows, Part(bound, "number"))


def whose_end_was(was: EndWas, named: Sequence[str], catalogue: Catalogue) -> Part | None:
    """Their first row is the one of the earliest day among the rows that point at the same thing, which is named."""
    rows = was.rows.table
    time = catalogue.table(rows).time_column if rows is not None else None
    link = next((r for r in catalogue.relationships if r.table == rows and r.other in named), None)
    if rows is None or time is None or link is None or {*tables_of(was.was)} != {rows}:
        return None
    when = m.Col(m.ColumnKey(rows, time.name))
    own = m.Compared("=", when, m.Below(m.Aggregated(was.end, when), m.ColumnKey(rows, link.column)))
    return Part(m.Has(m.Rows(rows, (own, was.was))), "related")
