"""How long from one row of a thing to its next: days between visits of an animal, the longest gap between orders."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from gumption.core.model.types import Role, Type
from gumption.core.plan.expressions import AggregateName
from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Edge
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.pieces import Measured, Noun, Top, Worked
from gumption.core.reading.tokens import Token
from gumption.core.reading.vocabulary import BUYERS, Vocabulary

_TELLING: dict[str, m.LengthUnit] = {
    "days": "days", "time": "days", "gap": "days", "gaps": "days", "interval": "days", "intervals": "days",
    "long": "days", "hours": "hours", "months": "months",
}  # fmt: skip
"""Words for how long, and in what it is told."""
_ENDS: dict[str, AggregateName] = {
    "longest": "max", "largest": "max", "biggest": "max", "maximum": "max", "greatest": "max",
    "shortest": "min", "smallest": "min", "minimum": "min", "least": "min",
}  # fmt: skip
_WHOSE = frozenset(["which", "who", "with", "has", "had", "have", "whose"])
_PASSED_OVER = frozenset(
    ["is", "are", "was", "were", "there", "on", "average", "usually", "normally", "in", "the", "typically", "it", "do",
     "does", "pass", "passes", "go", "goes", "by", "of"]
)  # fmt: skip
_EACH = frozenset(
    ["two", "each", "consecutive", "successive", "subsequent", "their", "his", "her", "its", "one", "a", "an", "the",
     "repeat", "any"]
)  # fmt: skip
_SAME = frozenset(["same", "per", "by", "each", "every", "an", "a", "of", "for", "the", "at", "in", "from"])


def between_rows(tokens: Sequence[Token], found: Sequence[Edge], vocabulary: Vocabulary) -> Iterator[Edge]:
    """The measure of such words, over them and over those that say of whom the rows must be."""
    lowers = [t.lower for t in tokens]
    for place, word in enumerate(lowers):
        if word != "between":
            continue
        start = place - 1
        while start >= 0 and lowers[start] in _PASSED_OVER:
            start -= 1
        if start < 0 or lowers[start] not in _TELLING:
            continue
        begin = place + 1
        while begin < len(lowers) and lowers[begin] in _EACH:
            begin += 1
        for rows in found:
            if rows.category != "T" or rows.start != begin or not isinstance(rows.value, Noun) or rows.score < 0.7:
                continue
            if not lowers[rows.end - 1].endswith("s") and lowers[rows.end : rows.end + 1] != ["and"]:
                continue
            yield from _edges(tokens, found, vocabulary, (start, rows), _TELLING[lowers[start]])


def _edges(
    tokens: Sequence[Token],
    found: Sequence[Edge],
    vocabulary: Vocabulary,
    told: tuple[int, Edge],
    unit: m.LengthUnit,
) -> Iterator[Edge]:
    """The measure between rows of one table, as what was asked about it: itself, its mean, or its end."""
    start, rows = told
    table = vocabulary.table(rows.value.table)
    time = table.time_column
    lowers = [t.lower for t in tokens]
    end = rows.end
    following = lowers[end : end + 3]
    if following[:1] in (["and"], ["to"]):
        if following[1:] not in (["the", "next"], ["the", "following"]) and following[1:2] != ["next"]:
            # Between a visit and its payment are two dates of one row.
            return
        end += 3 if following[1:2] == ["the"] else 2
    if time is None:
        return
    thing, end = _thing_said(tokens, found, vocabulary, rows, end)
    thing = thing or _usual_thing(vocabulary, table.name)
    if thing is None:
        return
    since = m.Since(unit, ColumnKey(table.name, time.name), thing)
    end_of_all = _ENDS.get(lowers[start - 1]) if start else None
    if end_of_all is not None:
        worked = Worked(m.Aggregated(end_of_all, since))
        if _WHOSE & {*lowers[:start]}:
            # Which pub has the longest gap between orders is asked of pubs.
            yield Edge("TOPX", start - 1, end, (Top(end_of_all == "max"), worked), 1.2)
        else:
            yield Edge("Q", start - 1, end, worked, 1.2)
    elif "average" in lowers[start:end]:
        yield Edge("Q", start, end, Worked(m.Aggregated("mean", since)), 1.1)
    else:
        yield Edge("E", start, end, Measured(since), 1.1)


def _thing_said(
    tokens: Sequence[Token], found: Sequence[Edge], vocabulary: Vocabulary, rows: Edge, end: int
) -> tuple[ColumnKey | None, int]:
    """Whose rows they are, where it is said, and where the words for it end that ask for nothing else."""
    best: tuple[float, ColumnKey, Edge] | None = None
    for edge in found:
        if (
            edge.category not in ("T", "C")
            or not isinstance(edge.value, Noun)
            or edge.score < 0.7
            or edge.start == rows.start
        ):
            continue
        key = _key_of(vocabulary, rows.value.table, edge.value)
        before = tokens[edge.start - 1].lower if edge.start else ""
        if key is None or before not in _SAME:
            continue
        if best is None or edge.score > best[0]:
            best = edge.score, key, edge
    if best is None:
        return None, end
    _, key, edge = best
    between = [t.lower for t in tokens[end : edge.start]]
    # "Of the same animal" says no more; "by owner" asks for each of them too.
    only = bool(between) and ({"same"} & {*between} or between[:1] == ["of"]) and "each" not in between
    return key, edge.end if only else end


def _key_of(vocabulary: Vocabulary, rows: str, noun: Noun) -> ColumnKey | None:
    """The column by which rows of a table are told to be of the same thing."""
    catalogue = vocabulary.catalogue
    if noun.table is not None and noun.table != rows:
        link = next((r for r in catalogue.parents(rows) if r.other == noun.table), None)
        if link is not None:
            return ColumnKey(rows, link.column)
        own = catalogue.table(noun.table).key
        reached = catalogue.path(rows, noun.table) is not None
        return ColumnKey(noun.table, own.name) if own is not None and reached else None
    if noun.key is not None and noun.key.table == rows:
        column = vocabulary.column(noun.key)
        things = column.role in (Role.NAME, Role.PERSON, Role.LINK, Role.CODE, Role.IDENTIFIER)
        things = things or bool(BUYERS & {*vocabulary.columns[noun.key].parts})
        return noun.key if things and column is not catalogue.table(rows).key else None
    return None


def _usual_thing(vocabulary: Vocabulary, rows: str) -> ColumnKey | None:
    """Of whom rows are where nobody says: of who came or bought, else of the things of which there are most."""
    catalogue = vocabulary.catalogue
    links = sorted(catalogue.parents(rows), key=lambda r: -catalogue.table(r.other).rows)
    buyers = [r for r in links if BUYERS & {*vocabulary.tables[r.other].parts}]
    if links:
        return ColumnKey(rows, (buyers or links)[0].column)
    for column in catalogue.table(rows).columns:
        key = ColumnKey(rows, column.name)
        if column.type is Type.TEXT and BUYERS & {*vocabulary.columns[key].parts}:
            return key
    return None
