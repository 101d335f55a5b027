"""How many people a place has, where they stand in a column for each band of age, or for each sex."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator

from gumption.core.model.types import Role
from gumption.core.reading import meaning as m
from gumption.core.reading.bands import band_of
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.tokens import stem
from gumption.core.reading.vocabulary import Vocabulary, name_parts

_SEXES = (frozenset(["male", "males", "men"]), frozenset(["female", "females", "women"]))
_ALL = frozenset(["total", "all", "population", "people", "persons", "residents", "inhabitants", "everyone"])
_CALLED = (
    "population", "people", "inhabitants", "residents", "persons", "total population", "number of people", "inhabitant",
    "resident", "person", "head", "capita", "head of population",
)  # fmt: skip


def residing(vocabulary: Vocabulary, table: str) -> m.Expr | None:
    """All of them together, where no column of a table says so; else None."""
    counts = [c for c in vocabulary.table(table).columns if c.role is Role.QUANTITY]
    if any(set(name_parts(c.name)) <= _ALL for c in counts):
        return None
    banded = sorted((band, c.name) for c in counts if (band := band_of(c.name)) is not None)
    if len(banded) > 1 and banded[0][0][0] <= 1 and banded[-1][0][1] == math.inf:
        follow = all(one[1] + 1 == other[0] for (one, _), (other, _) in itertools.pairwise(banded))
        return _joint(table, [name for _, name in banded]) if follow else None
    sexes = [[c.name for c in counts if words & set(name_parts(c.name))] for words in _SEXES]
    return _joint(table, [s[0] for s in sexes]) if all(len(s) == 1 for s in sexes) else None


def _joint(table: str, names: list[str]) -> m.Expr:
    return m.added_up(m.Col(ColumnKey(table, name)) for name in names)


def residents(vocabulary: Vocabulary) -> Iterator[tuple[str, m.Expr, float]]:
    """(phrase, what it means, how sure) for each table that tells of people so."""
    for table in vocabulary.tables:
        joint = residing(vocabulary, table)
        if joint is not None:
            own = _ALL & set(vocabulary.tables[table].parts) or {stem(w) for w in _ALL} & {
                *vocabulary.tables[table].parts
            }
            yield from ((phrase, joint, 1.06 if own else 0.95) for phrase in _CALLED)
