"""Where rows lead from one place to another, in two columns: a route is such a pair of places."""

from __future__ import annotations

from collections.abc import Iterator

from gumption.core.model.types import Role
from gumption.core.reading.grammar import Edge
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.pieces import Grouped, Noun
from gumption.core.reading.tokens import Token
from gumption.core.reading.vocabulary import Vocabulary, name_parts

_FROM = frozenset(["from", "origin", "departure", "start", "source", "pickup", "depart", "leaving"])
_TO = frozenset(["to", "destination", "arrival", "end", "dropoff", "arrive", "going"])
_PLACED = frozenset([Role.LINK, Role.CATEGORY, Role.PLACE, Role.NAME, Role.CODE, Role.IDENTIFIER])
_ROUTES = frozenset(["route", "routes", "connection", "connections"])
_SETTING_OUT = frozenset(
    ["left", "leaving", "leaves", "departed", "departing", "departs", "started", "starting", "travelled"]
)
_LEADING = frozenset(["by", "per", "each", "every", "which", "what", "the", "of"])


def routes_of(vocabulary: Vocabulary) -> list[tuple[ColumnKey, ColumnKey]]:
    """The pairs of columns that say where each row of a table begins and where it ends; none where a column is a route."""
    called = [*vocabulary.columns.values(), *vocabulary.tables.values()]
    if any(_ROUTES & {*name_parts(" ".join(w.parts))} for w in called):
        return []
    found = []
    for table in vocabulary.catalogue.tables:
        places = [c for c in table.columns if c.role in _PLACED and not c.type.is_time and not c.type.is_number]
        begins = [c for c in places if _FROM & {*name_parts(c.name)}]
        ends = [c for c in places if _TO & {*name_parts(c.name)} and c not in begins]
        if len(begins) == len(ends) == 1:
            found.append((ColumnKey(table.name, begins[0].name), ColumnKey(table.name, ends[0].name)))
    return found


def set_out(tokens: list[Token], routes: list[tuple[ColumnKey, ColumnKey]]) -> Iterator[Edge]:
    """Passengers who left from a place: from says all of it."""
    for place, token in enumerate(tokens[:-1]) if routes else ():
        if token.lower in _SETTING_OUT and tokens[place + 1].lower == "from":
            yield Edge("IDLE", place, place + 1, "", 0.9)


def by_route(tokens: list[Token], routes: list[tuple[ColumnKey, ColumnKey]]) -> Iterator[Edge]:
    """Passengers by route, the busiest routes: for each pair of places."""
    for place, token in enumerate(tokens) if routes else ():
        if token.lower not in _ROUTES:
            continue
        start = place
        while start and tokens[start - 1].lower in _LEADING:
            start -= 1
        for one, other in routes[:1]:
            both = Grouped(Noun(key=one)), Grouped(Noun(key=other))
            yield Edge("BESX", start, place + 1, both, 1.2)
            if start < place:
                yield Edge("BESX", place, place + 1, both, 1.1)
