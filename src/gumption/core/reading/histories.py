"""Tables of what held from when on: price lists, rates, grades, each with the day from which a row holds."""

from __future__ import annotations

import re
from dataclasses import dataclass

from gumption.core.model.catalogue import Catalogue, Relationship
from gumption.core.reading.meaning import ColumnKey

_FROM = re.compile(
    r"(?:^|[_\W])(?:from|since|valid|effective|starts?|starting|begins?|beginning|changed|as_of)(?:$|[_\W])"
)
_MOST_COLUMNS = 8


@dataclass(frozen=True)
class History:
    """How a row finds what held for it: by the thing that both are of, and the day."""

    link: Relationship
    since: ColumnKey


def history_of(catalogue: Catalogue, name: str) -> History | None:
    """How a table tells what held when; None for one that does not.

    It has a day from which a row holds, several rows for most things, and nothing that points at it.
    """
    table = catalogue.table(name)
    since = next((c for c in table.columns if c.type.is_time and _FROM.search(c.name.lower())), None)
    if since is None or len(table.columns) > _MOST_COLUMNS or any(r.other == name for r in catalogue.relationships):
        return None
    links = [r for r in catalogue.parents(name) if not r.one_to_one]
    if len(links) != 1 or sum(c.type.is_time for c in table.columns) > 2:
        return None
    things = table.column(links[0].column).distinct
    if not things or table.rows < 1.5 * things:
        return None
    return History(links[0], ColumnKey(name, since.name))
