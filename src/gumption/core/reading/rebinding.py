"""What else words of a question could mean: what a person chooses from who clicks on them."""

from __future__ import annotations

import datetime as dt
import difflib
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from gumption.core.model.catalogue import Column
from gumption.core.model.names import plural
from gumption.core.model.term import Term
from gumption.core.model.types import Role
from gumption.core.plan.words import spoken
from gumption.core.reading import meaning as m
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.pieces import Noun, Values
from gumption.core.reading.read import QuestionReader, Reading
from gumption.core.reading.schema import tables_of
from gumption.core.reading.tokens import Token, tokenise
from gumption.core.reading.vocabulary import name_parts

MOST = 7
_ALIKE = 0.66
"""How like a name words must be written for it to be offered."""
_AGGREGATES = ("total", "average", "median", "highest", "lowest", "number of")
_SHOWN_VALUES = 3
_MOST_KINDS = 60
_MOST_COUNTED = 2
_LINKED = 0.45
"""How well words must be linked to a thing for it to be offered."""


@dataclass(frozen=True)
class Option:
    """One thing that words could mean, and what there is of it."""

    term: Term
    note: str


def options(
    reader: QuestionReader, question: str, start: int, end: int, as_of: dt.date, reading: Reading | None
) -> list[Option]:
    """What characters [start, end) could mean, the likeliest first, other than what `reading` takes them for.

    Raises ValueError where there is no word between them.
    """
    words = " ".join(question[start:end].split())
    span = [t for t in tokenise(words) if t.kind != "symbol"]
    if not span:
        raise ValueError("no word")
    now = {g.note for g in reading.glosses if (g.start, g.end) == (start, end)} if reading is not None else set()
    found: dict[str, Option] = {}
    for term in _meant(reader, words, span, as_of, reading):
        if term.meaning not in now and term.meaning not in found:
            found[term.meaning] = Option(term, _note(reader, term))
        if len(found) == MOST:
            break
    return [*found.values(), Option(Term(words=(words,)), "as if it were not there")]


def _meant(
    reader: QuestionReader, words: str, span: list[Token], as_of: dt.date, reading: Reading | None
) -> Iterator[Term]:
    linker = reader.linker(as_of)
    edges = [e for e in linker.edges(span) if (e.start, e.end) == (0, len(span))]
    if any(e.category in ("AGG", "HOWMUCH", "COUNT") for e in edges):
        yield from (Term(words=(words,), text=other) for other in _AGGREGATES if other != words.lower())
    for edge in sorted((e for e in edges if e.score >= _LINKED), key=lambda e: -e.score):
        match edge.value:
            case Noun(table=str() as table) if table not in reader.roles:
                yield Term(words=(words,), table=table)
            case Noun(key=ColumnKey() as key):
                yield from _column(reader, words, key)
            case Values(column=key, values=(str() as value, *_)) if not edge.value.partly:
                yield from (term.model_copy(update={"value": value}) for term in _column(reader, words, key))
    for key in _written_alike(reader, span):
        yield from _column(reader, words, key)
    rows = any(e.category == "T" and e.score >= _LINKED for e in edges)
    yield from (Term(words=(words,), table=t.name) for t in reader.catalogue.tables if rows)
    named = rows or any(e.category in ("AGG", "V") and e.score >= _LINKED for e in edges)
    if reading is not None and not named:
        yield from _beside(reader, words, reading)


def _column(reader: QuestionReader, words: str, key: ColumnKey) -> Iterator[Term]:
    """The column as a meaning, where it stands in a table as it is."""
    table = reader.roles.get(key.table, key.table)
    if key.column in _columns(reader).get(table, {}):
        yield Term(words=(words,), table=table, column=key.column)


def _columns(reader: QuestionReader) -> dict[str, dict[str, Column]]:
    """The columns of the tables as they are, by name."""
    return {t.name: {c.name: c for c in t.columns} for t in reader.catalogue.tables}


def _written_alike(reader: QuestionReader, span: Iterable[Token]) -> list[ColumnKey]:
    """Columns with a word that is written like one of these, the likest first."""
    said = [t.stem for t in span]
    likeness: dict[ColumnKey, float] = {}
    for table, columns in _columns(reader).items():
        for name, column in columns.items():
            if column.role in (Role.LINK, Role.IDENTIFIER):
                continue
            named = [*name_parts(name), *name_parts(column.display)]
            pairs = (difflib.SequenceMatcher(None, one, other).ratio() for one in said for other in named)
            best = max(pairs, default=0.0)
            if best >= _ALIKE:
                likeness[ColumnKey(table, name)] = best
    return sorted(likeness, key=lambda key: -likeness[key])


def _beside(reader: QuestionReader, words: str, reading: Reading) -> Iterator[Term]:
    """What else there is of what the question is of: how many rows, figures, then kinds."""
    ask = reading.ask
    tables = dict.fromkeys([*tables_of((*ask.quantities, *ask.where, *ask.groups)), *m.counted_in(ask.quantities)])
    known = _columns(reader)
    columns = [(ColumnKey(t, n), c) for t in tables for n, c in known.get(t, {}).items()]
    below = [link.table for link in reader.catalogue.relationships if link.other in tables]
    counted = [t for t in dict.fromkeys((*tables, *below)) if t in known]
    yield from (Term(words=(words,), text=f"number of {spoken(t)}") for t in counted[:_MOST_COUNTED])
    kinds = (k for k, c in columns if c.role is Role.CATEGORY and 1 < c.distinct <= _MOST_KINDS)
    for key in (*(k for k, c in columns if c.is_measure), *kinds):
        yield from _column(reader, words, key)


def _note(reader: QuestionReader, term: Term) -> str:
    if term.text:
        return ""
    if not term.column:
        return plural(reader.catalogue.table(term.table).rows, "row")
    column = _columns(reader)[term.table][term.column]
    return f"a {spoken(term.column)}" if term.value else _column_note(column)


def _column_note(column: Column) -> str:
    """What stands in a column, in a few words."""
    if column.description:
        return column.description[:60]
    if column.low and column.high and (column.type.is_number or column.type.is_time):
        low, high = (end[:10] if column.type.is_time else end for end in (column.low, column.high))
        return f"{low} to {high}"
    return ", ".join(column.values[:_SHOWN_VALUES]) + ("…" if column.distinct > _SHOWN_VALUES else "")
