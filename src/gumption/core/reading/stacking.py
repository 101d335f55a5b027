"""Columns to rows: which of the shown columns stand one under the other."""

from __future__ import annotations

from gumption.core.model.catalogue import Catalogue
from gumption.core.reading import meaning as m
from gumption.core.reading.meaning import ColumnKey

NAMES, VALUES = "measure", "value"
"""What the two columns that come of it are called."""


def stacked(ask: m.Ask, catalogue: Catalogue) -> m.Ask:
    """A question whose quantities, or whose measures where it is a list, stand in rows; as it is where these are fewer than two."""
    if not ask.lists:
        several = len(ask.quantities) > 1 and not ask.across
        return ask.but(stacked=ask.quantities) if several else ask
    if ask.stacked:
        return ask
    shown = tuple(
        e for e in ask.shows if isinstance(e, m.Col) and catalogue.table(e.key.table).column(e.key.column).is_measure
    )
    return with_columns_in_rows(ask, shown if len(shown) > 1 else _measures(ask.head, catalogue), catalogue)


def with_columns_in_rows(ask: m.Ask, columns: tuple[m.Expr, ...], catalogue: Catalogue) -> m.Ask:
    """A list of rows, each once for each of some columns, beside all that stands on the row otherwise."""
    if len(columns) < 2:
        return ask
    own = (m.Col(ColumnKey(ask.head, c.name)) for c in catalogue.table(ask.head).columns)
    shows = dict.fromkeys((*(c for c in own if c not in columns), *(e for e in ask.shows if e not in columns)))
    return ask.but(shows=(*shows, *columns), stacked=columns)


def is_long(ask: m.Ask, catalogue: Catalogue) -> bool:
    """True for a list of rows that have one measure at most: nothing of them is left to put in rows."""
    return ask.lists and len(_measures(ask.head, catalogue)) < 2


def rows_of_periods(unit: m.Unit, catalogue: Catalogue) -> tuple[str, ...]:
    """Tables whose columns for each month, quarter or year are read as rows already."""
    return tuple(t.name for t in catalogue.tables if any(c.name == unit for c in t.columns))


def _measures(table: str, catalogue: Catalogue) -> tuple[m.Expr, ...]:
    return tuple(m.Col(ColumnKey(table, c.name)) for c in catalogue.table(table).columns if c.is_measure)
