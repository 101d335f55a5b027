"""What in the data makes a word such as late, unpaid or active true of a row; lexicon/states.txt has the patterns."""

from __future__ import annotations

import datetime as dt
import functools
from collections.abc import Iterator

from gumption.core.model.catalogue import Column
from gumption.core.model.types import Role, Type
from gumption.core.reading import meaning as m
from gumption.core.reading.lexicon import State
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.tokens import stem
from gumption.core.reading.vocabulary import Vocabulary, word_stems


def state_conditions(vocabulary: Vocabulary, state: State, day: dt.date) -> Iterator[tuple[str, m.Condition, float]]:
    """(table, condition, how sure) for each way in which a table can say the state, the surest pattern first."""
    for table in vocabulary.tables:
        score = 0.9
        for pattern in state.patterns:
            found = list(_pattern(vocabulary, table, pattern, day, described=False))
            less = 0.0 if found else _DESCRIBED
            found = found or list(_pattern(vocabulary, table, pattern, day, described=True))
            for condition in found[:2]:
                yield table, condition, score - less
            if found:
                score -= 0.12
            score -= 0.02


_DESCRIBED = 0.25
"""How much less sure a state is that is told by what was said of a column, and not by its name."""


def _pattern(
    vocabulary: Vocabulary, table: str, pattern: tuple[str, ...], day: dt.date, *, described: bool
) -> Iterator[m.Condition]:
    if "+" in pattern:
        place = pattern.index("+")
        for left in _pattern(vocabulary, table, pattern[:place], day, described=described):
            for right in _pattern(vocabulary, table, pattern[place + 1 :], day, described=described):
                yield m.All((left, right))
        return
    kind, *names = pattern
    first = _named(vocabulary, table, names[0], described)
    second = _named(vocabulary, table, names[1], described) if len(names) > 1 else []
    today = m.Today(day)
    sign: m.Comparison
    match kind:
        case "value":
            yield from _values(vocabulary, table, names[0])
        case "flag" | "no":
            for column in first:
                key = ColumnKey(table, column.name)
                if column.type is Type.BOOLEAN:
                    yield m.Is(key, (kind == "flag",))
                elif _is_yes_no(column):
                    yield m.Is(key, (int(kind == "flag"),))
        case "filled" | "gap":
            for column in first:
                if column.type.is_time and column.missing:
                    key = ColumnKey(table, column.name)
                    yield (
                        _begun(vocabulary, _gap(column, key, day), key, day)
                        if kind == "gap"
                        else _filled(column, key, day)
                    )
        case "gaptext":
            for column in first:
                if column.type is Type.TEXT and column.missing:
                    yield m.Missing(ColumnKey(table, column.name))
        case "past" | "ahead":
            for column in first:
                if column.type.is_time:
                    yield m.Compared("<" if kind == "past" else ">", m.Col(ColumnKey(table, column.name)), today)
        case "after" | "notafter" | "before":
            for one in (c for c in first if c.type.is_time):
                for two in (c for c in second if c.type.is_time and c is not one):
                    ends = [m.Col(ColumnKey(table, c.name)) for c in (one, two)]
                    sign = {"after": ">", "notafter": "<=", "before": "<"}[kind]  # type: ignore[assignment]
                    yield m.Compared(sign, *ends)
        case "over" | "nought" | "below":
            op: m.Comparison = {"over": ">", "nought": "=", "below": "<"}[kind]  # type: ignore[assignment]
            for column in first:
                if column.type.is_number and column.role is not Role.IDENTIFIER:
                    yield m.Compared(op, m.Col(ColumnKey(table, column.name)), m.Number(0))
        case "under" | "reach" | "beyond":
            sign = {"under": "<", "reach": ">=", "beyond": ">"}[kind]  # type: ignore[assignment]
            for one in (c for c in first if c.type.is_number):
                for two in (c for c in second if c.type.is_number and c is not one):
                    yield m.Compared(sign, m.Col(ColumnKey(table, one.name)), m.Col(ColumnKey(table, two.name)))


def _lies_ahead(column: Column, day: dt.date) -> bool:
    """True where some of a column's dates are still to come."""
    return column.high is not None and column.high[:10] > day.isoformat()


def _filled(column: Column, key: ColumnKey, day: dt.date) -> m.Condition:
    """It has happened: the date is there, and is not one to come."""
    return m.Within(m.Col(key), None, day) if _lies_ahead(column, day) else m.Not(m.Missing(key))


def _gap(column: Column, key: ColumnKey, day: dt.date) -> m.Condition:
    """It has not happened yet: no date is there, or one to come."""
    missing = m.Missing(key)
    if not _lies_ahead(column, day):
        return missing
    return m.Any((missing, m.Within(m.Col(key), day + dt.timedelta(days=1), None)))


_BEGINNING = frozenset(stem(w) for w in ["start", "starts", "begin", "begins", "opens", "launch", "launched"])


def _begun(vocabulary: Vocabulary, gap: m.Condition, key: ColumnKey, day: dt.date) -> m.Condition:
    """What has not ended goes on only where it has begun: of some the start is still to come."""
    for column in vocabulary.table(key.table).columns:
        words = vocabulary.columns[own := ColumnKey(key.table, column.name)]
        if column.type.is_time and _BEGINNING & {*words.full} and own != key and _lies_ahead(column, day):
            return m.All((m.Within(m.Col(own), None, day), gap))
    return gap


def _is_yes_no(column: Column) -> bool:
    return column.type is Type.INTEGER and column.low == "0" and column.high == "1"


def _named(vocabulary: Vocabulary, table: str, names: str, described: bool) -> list[Column]:
    """Columns of a table that are called one of the names, the first name first; or those that are described so too."""
    return _matching(vocabulary, table, names, False) or (
        _matching(vocabulary, table, names, True) if described else []
    )


def _matching(vocabulary: Vocabulary, table: str, names: str, described: bool) -> list[Column]:
    found: dict[str, Column] = {}
    called = _called(vocabulary, table, described)
    for first, *rest in _spoken(names):
        for column in called.get(first, ()):
            if all(column in called.get(other, ()) for other in rest):
                found.setdefault(column.name, column)
    return list(found.values())


@functools.cache
def _spoken(names: str) -> tuple[tuple[str, ...], ...]:
    """The stems of each of several names."""
    return tuple(tuple(stem(w) for w in name.split("_")) for name in names.split("|"))


@functools.lru_cache(maxsize=5_000)
def _called(vocabulary: Vocabulary, table: str, described: bool) -> dict[str, list[Column]]:
    """The columns of a table by each word of their names, or descriptions, and by how long words begin."""
    found: dict[str, list[Column]] = {}
    for column in vocabulary.table(table).columns:
        words = vocabulary.columns[ColumnKey(table, column.name)]
        said = words.described if described else words.full
        for start in {part[:end] for part in said for end in (*range(4, len(part)), len(part))}:
            found.setdefault(start, []).append(column)
    return found


def _values(vocabulary: Vocabulary, table: str, names: str) -> Iterator[m.Condition]:
    for key, standing in _kinds(vocabulary, table).items():
        if hits := tuple(v for said in _spoken(names) for v in standing.get(said, ())):
            yield m.Is(key, hits)


@functools.lru_cache(maxsize=5_000)
def _kinds(vocabulary: Vocabulary, table: str) -> dict[ColumnKey, dict[tuple[str, ...], list[str]]]:
    """The values of each category of a table by their stems."""
    found: dict[ColumnKey, dict[tuple[str, ...], list[str]]] = {}
    for column in vocabulary.table(table).columns:
        if column.type is Type.TEXT and column.distinct <= 60 and column.role is not Role.TEXT:
            for value in column.values:
                standing = found.setdefault(ColumnKey(table, column.name), {})
                standing.setdefault(word_stems(value), []).append(value)
    return found
