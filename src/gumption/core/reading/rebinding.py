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
    there = _There(reader, words)
    for term in there.meant(span, as_of, reading):
        if term.meaning not in now and term.meaning not in found:
            found[term.meaning] = Option(term, there.note(term))
        if len(found) == MOST:
            break
    return [*found.values(), Option(Term(words=(words,)), "as if it were not there")]


class _There:
    """What there is in the tables as they are, as meanings of some words."""

    def __init__(self, reader: QuestionReader, words: str) -> None:
        self.reader, self.words = reader, words
        self.columns = {t.name: {c.name: c for c in t.columns} for t in reader.catalogue.tables}

    def term(self, **meaning: str) -> Term:
        return Term(words=(self.words,), **meaning)  # type: ignore[arg-type]

    def meant(self, span: list[Token], as_of: dt.date, reading: Reading | None) -> Iterator[Term]:
        """All that the words could mean, the likeliest first."""
        edges = [e for e in self.reader.linker(as_of).edges(span) if (e.start, e.end) == (0, len(span))]
        linked = sorted((e for e in edges if e.score >= _LINKED), key=lambda e: -e.score)
        if any(e.category in ("AGG", "HOWMUCH", "COUNT") for e in edges):
            yield from (self.term(text=other) for other in _AGGREGATES if other != self.words.lower())
        for edge in linked:
            match edge.value:
                case Noun(table=str() as table) if table not in self.reader.roles:
                    yield self.term(table=table)
                case Noun(key=ColumnKey() as key):
                    yield from self._column(key)
                case Values(column=key, values=(str() as value, *_)) if not edge.value.partly:
                    yield from (term.model_copy(update={"value": value}) for term in self._column(key))
        for key in self._written_alike(span):
            yield from self._column(key)
        kinds = {e.category for e in linked}
        if "T" in kinds:
            yield from (self.term(table=name) for name in self.columns)
        elif not {"AGG", "V"} & kinds:
            yield from self._beside(reading)

    def _column(self, key: ColumnKey) -> Iterator[Term]:
        """The column as a meaning, where it stands in a table as it is."""
        table = self.reader.roles.get(key.table, key.table)
        if key.column in self.columns.get(table, {}):
            yield self.term(table=table, column=key.column)

    def _written_alike(self, span: Iterable[Token]) -> list[ColumnKey]:
        """Columns with a word that is written like one of these, the likest first."""
        said = [t.stem for t in span]
        likeness: dict[ColumnKey, float] = {}
        for table, columns in self.columns.items():
            for name, column in columns.items():
                if column.role in (Role.LINK, Role.IDENTIFIER):
                    continue
                named = [*name_parts(name), *name_parts(column.display)]
                pairs = (difflib.SequenceMatcher(None, one, other).ratio() for one in said for other in named)
                best = max(pairs, default=0.0)
                if best >= _ALIKE:
                    likeness[ColumnKey(table, name)] = best
        return sorted(likeness, key=lambda key: -likeness[key])

    def _beside(self, reading: Reading | None) -> Iterator[Term]:
        """What else there is of what the question is of, else of what there is most of: rows, figures, then kinds."""
        tables = dict.fromkeys(self.reader.nouns.facts[:1] if self.reader.nouns is not None else ())
        if reading is not None:
            ask = reading.ask
            read = (*ask.quantities, *ask.where, *ask.groups)
            tables = dict.fromkeys([*tables_of(read), *m.counted_in(ask.quantities)])
        columns = [(ColumnKey(t, n), c) for t in tables for n, c in self.columns.get(t, {}).items()]
        below = [link.table for link in self.reader.catalogue.relationships if link.other in tables]
        counted = [t for t in dict.fromkeys((*tables, *below)) if t in self.columns]
        yield from (self.term(text=f"number of {spoken(t)}") for t in counted[:_MOST_COUNTED])
        kinds = (k for k, c in columns if c.role is Role.CATEGORY and 1 < c.distinct <= _MOST_KINDS)
        for key in (*(k for k, c in columns if c.is_measure), *kinds):
            yield from self._column(key)

    def note(self, term: Term) -> str:
        """What there is of a meaning, in a few words."""
        if term.text:
            return ""
        if not term.column:
            return plural(self.reader.catalogue.table(term.table).rows, "row")
        return f"a {spoken(term.column)}" if term.value else _column_note(self.columns[term.table][term.column])


def _column_note(column: Column) -> str:
    """What stands in a column, in a few words."""
    if column.description:
        return column.description[:60]
    if column.low and column.high and (column.type.is_number or column.type.is_time):
        low, high = (end[:10] if column.type.is_time else end for end in (column.low, column.high))
        return f"{low} to {high}"
    return ", ".join(column.values[:_SHOWN_VALUES]) + ("…" if column.distinct > _SHOWN_VALUES else "")
