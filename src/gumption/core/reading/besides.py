"""What stands beside an answer because of how it was asked for, and in which order it stands."""

from __future__ import annotations

from gumption.core.model.catalogue import Catalogue
from gumption.core.reading import meaning as m


def with_their_counts(ask: m.Ask, catalogue: Catalogue, *, all_of_them: bool = False) -> m.Ask:
    """Those with more than three visits, and how many each has: what they were chosen by stands beside them.

    That something belongs to a thing at all says no number; with `all_of_them` its number is told as well.
    """
    key = catalogue.table(ask.head).key
    if not ask.lists or key is None:
        return ask
    own = m.ColumnKey(ask.head, key.name)
    counts = [
        m.Below(m.Aggregated("count", table=c.rows.table, where=c.rows.where), own)
        for c in ask.where
        if isinstance(c, m.Has)
        and catalogue.path(c.rows.table, ask.head) is not None
        and (c.op, c.number) not in (("=", 0), ("<", 1), ("<=", 0))
        and (all_of_them or (c.op, c.number) not in ((">=", 1), (">", 0)))
    ]
    return ask.but(shows=tuple(dict.fromkeys((*ask.shows, *counts))))


def over_time_on_two_axes(ask: m.Ask) -> m.Ask:
    """Two figures on axes of their own are drawn month by month where nothing says along what."""
    drawn = ask.chart is not None and "two_axes" in ask.chart.looks
    if not drawn or ask.groups or ask.lists or len(ask.quantities) < 2:
        return ask
    return ask.but(groups=(m.PartOf("month", m.EventTime()),))


def with_ends_of_tiles(ask: m.Ask) -> m.Ask:
    """Each quartile of the fee with the fees that it goes from and to."""
    tiles = [g for g in ask.groups if isinstance(g, m.Tile)]
    if not ask.quantities or len(tiles) != 1:
        return ask
    ends = (m.Aggregated("min", tiles[0].of), m.Aggregated("max", tiles[0].of))
    # As many rows as each other they have by their making: what tells them apart comes first.
    counted = all(isinstance(q, m.Aggregated) and q.function == "count" for q in ask.quantities)
    mean = (m.Aggregated("mean", tiles[0].of),) if counted else ()
    return ask.but(quantities=tuple(dict.fromkeys((*mean, *ask.quantities, *ends))))


def ordered_by_groups(ask: m.Ask, catalogue: Catalogue) -> m.Ask:
    """What is told by month in date order is so by its months, and by clinic from A to Z by its clinics."""
    if not ask.groups:
        own = catalogue.table(ask.head).time_column
        when = m.Col(m.ColumnKey(ask.head, own.name)) if own is not None else m.EventTime()
        return ask.but(order=tuple(m.Order(when, o.descending) if o.by == m.EventTime() else o for o in ask.order))
    period = next((g for g in ask.groups if isinstance(g, m.PartOf)), None)
    order: list[m.Order] = []
    for one in ask.order:
        if isinstance(one.by, m.EventTime):
            if period is not None:
                order.append(m.Order(period, one.descending))
            elif not ask.quantities:
                order.append(one)
        elif isinstance(one.by, m.Col) and one.by not in ask.groups and ask.quantities:
            order.append(m.Order(ask.groups[0], one.descending))
        else:
            order.append(one)
    return ask.but(order=tuple(dict.fromkeys(order)))
