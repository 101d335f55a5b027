"""What in the data makes a word such as late, unpaid or active true of a row; lexicon/states.txt has the patterns."""

from __future__ import annotations

import datetime as dt
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
            found = list(_pattern(vocabulary, table, pattern, day))
            for condition in found[:2]:
                yield table, condition, score
            if found:
                score -= 0.12
            score -= 0.02


def _pattern(vocabulary: Vocabulary, table: str, pattern: tuple[str, ...], day: dt.date) -> Iterator[m.Condition]:
    if "+" in pattern:
        place = pattern.index("+")
        for left in _pattern(vocabulary, table, pattern[:place], day):
            for right in _pattern(vocabulary, table, pattern[place + 1 :], day):
                yield m.All((left, right))
        return
    kind, *names = pattern
    first = _named(vocabulary, table, names[0])
    second = _named(vocabulary, table, names[1]) if len(names) > 1 else []
    today = m.Today(day)
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
                    sign: m.Comparison = {"after": ">", "notafter": "<=", "before": "<"}[kind]  # type: ignore[assignment]
                    yield m.Compared(sign, *ends)
        case "over" | "nought" | "below":
            op: m.Comparison = {"over": ">", "nought": "=", "below": "<"}[kind]  # type: ignore[assignment]
            for column in first:
                if column.type.is_number and column.role is not Role.IDENTIFIER:
                    yield m.Compared(op, m.Col(ColumnKey(table, column.name)), m.Number(0))
        case "under":
            for one in (c for c in first if c.type.is_number):
                for two in (c for c in second if c.type.is_number and c is not one):
                    yield m.Compared("<", m.Col(ColumnKey(table, one.name)), m.Col(ColumnKey(table, two.name)))


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


def _named(vocabulary: Vocabulary, table: str, names: str) -> list[Column]:
    """Columns of a table that are called one of the names, the first name first; else those that are described so."""
    return _matching(vocabulary, table, names, described=False) or _matching(vocabulary, table, names, described=True)


def _matching(vocabulary: Vocabulary, table: str, names: str, *, described: bool) -> list[Column]:
    found: dict[str, Column] = {}
    for name in names.split("|"):
        wanted = tuple(stem(w) for w in name.split("_"))
        for column in vocabulary.table(table).columns:
            words = vocabulary.columns[ColumnKey(table, column.name)]
            if all(
                any(w == p or (len(w) >= 4 and p.startswith(w)) for p in (words.described if described else words.full))
                for w in wanted
            ):
                found.setdefault(column.name, column)
    return list(found.values())


def _values(vocabulary: Vocabulary, table: str, names: str) -> Iterator[m.Condition]:
    for column in vocabulary.table(table).columns:
        if column.type is not Type.TEXT or column.distinct > 60 or column.role is Role.TEXT:
            continue
        key = ColumnKey(table, column.name)
        wanted = [word_stems(name.replace("_", " ")) for name in names.split("|")]
        hits = tuple(v for v in column.values if word_stems(v) in wanted)
        if hits:
            yield m.Is(key, hits)
