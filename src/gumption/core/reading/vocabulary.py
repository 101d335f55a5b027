"""The workspace's own words: names of tables and columns, and the values that stand in text columns."""

from __future__ import annotations

import re
from collections import defaultdict
from dataclasses import dataclass
from pathlib import Path
from typing import NamedTuple

from rapidfuzz import fuzz, process

from gumption.core.model.catalogue import Catalogue, Column
from gumption.core.model.types import Role, Type
from gumption.core.reading.lexicon import FILLERS, OPERATIONS, expanded, related
from gumption.core.reading.times import TIME_WORDS
from gumption.core.reading.tokens import stem

LONGEST_VALUE = 6
_SPELLING_LIKENESS = 82
_ARTICLES = frozenset(["a", "an", "the", "of", "in", "on", "at", "for", "to", "by"])


_COMMON = frozenset((Path(__file__).parent / "common_stems.txt").read_text(encoding="utf-8").split())


def is_common(word: str) -> bool:
    """True for an everyday English word, which is a part of a name only where it is written as one."""
    return word in _COMMON


class ColumnKey(NamedTuple):
    """A column of a table of the workspace."""

    table: str
    column: str


@dataclass(frozen=True)
class NameWords:
    """The stems of a name and of what a person wrote about it."""

    parts: tuple[str, ...]
    described: tuple[str, ...]
    synonyms: tuple[tuple[str, ...], ...]


def name_parts(name: str) -> list[str]:
    """The words of a column's or table's name, abbreviations spelled out."""
    spaced = re.sub(r"([a-z0-9])([A-Z])", r"\1 \2", name)
    return [expanded(p.lower()) for p in re.findall(r"[^\W\d_]+", spaced)]


def word_stems(text: str) -> tuple[str, ...]:
    """Stems of all words and numbers of a text."""
    return tuple(stem(w) for w in re.findall(r"[^\W_]+(?:['’][^\W\d_]+)?", text.lower()))


def _content(stems: tuple[str, ...]) -> tuple[str, ...]:
    return tuple(s for s in stems if s not in _ARTICLES)


def _words_of(name: str, description: str, synonyms: tuple[str, ...]) -> NameWords:
    clause = re.split(r"[;:(]|, (?!and)", description)[0]
    return NameWords(
        tuple(stem(p) for p in name_parts(name)),
        _content(word_stems(clause)),
        tuple(_content(word_stems(s)) for s in synonyms),
    )


def _column_words(column: Column) -> NameWords:
    words = _words_of(column.name, column.description, column.synonyms)
    if not column.type.is_time:
        return words
    # Hired on, signup and dt_hired are all a date of hiring or signing up.
    parts = tuple(p for p in words.parts if p not in ("on", "at"))
    return NameWords(parts if "date" in parts else (*parts, "date"), words.described, words.synonyms)


class Vocabulary:
    """An index of a catalogue, built once and asked for every span of every question."""

    def __init__(self, catalogue: Catalogue) -> None:
        self.catalogue = catalogue
        self.columns: dict[ColumnKey, NameWords] = {}
        self.tables: dict[str, NameWords] = {}
        self.values: dict[tuple[str, ...], dict[ColumnKey, list[str]]] = defaultdict(dict)
        self.partial: dict[str, dict[ColumnKey, list[str]]] = defaultdict(dict)
        for table in catalogue.tables:
            self.tables[table.name] = _words_of(table.name, table.description, table.synonyms)
            for column in table.columns:
                key = ColumnKey(table.name, column.name)
                self.columns[key] = _column_words(column)
                if (column.type is Type.TEXT and column.role is not Role.TEXT) or len(column.values) < 50:
                    self._index_values(key, column)
        self.known_names = {
            p for words in [*self.columns.values(), *self.tables.values()] for p in (*words.parts, *words.described)
        }
        self.known = self._known_words()
        self._spellable = sorted(w for w in self.known if len(w) >= 4)

    def _index_values(self, key: ColumnKey, column: Column) -> None:
        for value in column.values:
            stems = word_stems(value)
            if not stems or len(stems) > 12:
                continue
            if len(stems) <= LONGEST_VALUE:
                self.values[stems].setdefault(key, []).append(value)
            if len(stems) > 1:
                for word in set(stems):
                    if len(word) >= 3 and word not in FILLERS and not word.isdigit():
                        self.partial[word].setdefault(key, []).append(value)

    def _known_words(self) -> dict[str, str]:
        """Every word that means something here, by its spelling, with its stem."""
        known: dict[str, str] = {}
        for words in [*self.columns.values(), *self.tables.values()]:
            for part in (*words.parts, *words.described, *(s for group in words.synonyms for s in group)):
                known.setdefault(part, part)
        for key in self.columns:
            for part in name_parts(key.column):
                known.setdefault(part, stem(part))
        known.update({word: stem(word) for word in TIME_WORDS})
        for phrase in OPERATIONS:
            for word in phrase:
                known.setdefault(word, stem(word))
        for stems, columns in self.values.items():
            if any(self.catalogue.table(k.table).column(k.column).distinct <= 500 for k in columns):
                for part in stems:
                    known.setdefault(part, part)
        return known

    def spelled(self, word: str) -> str | None:
        """The known word that a misspelled one stands for; None where none is near."""
        if len(word) < 4:
            return None
        found = process.extractOne(word, self._spellable, scorer=fuzz.ratio, score_cutoff=_SPELLING_LIKENESS)
        if found is None or abs(len(found[0]) - len(word)) > 2 or found[0][0] != word[0]:
            return None
        return str(found[0])

    def column_score(self, key: ColumnKey, span: tuple[str, ...]) -> float:
        """How well a span of stems names a column: 1 for its whole name, 0 for nothing of it."""
        words = self.columns[key]
        return max(
            _name_score(span, words.parts),
            _described_score(span, words.described),
            *(0.98 if span == s else 0.0 for s in words.synonyms),
            0.0,
        )

    def table_score(self, name: str, span: tuple[str, ...]) -> float:
        """How well a span names a table, or what one of its rows is."""
        words = self.tables[name]
        best = max(_name_score(span, words.parts), *(0.98 if span == s else 0.0 for s in words.synonyms), 0.0)
        table = self.catalogue.table(name)
        if (
            table.naming_column is not None
            and len(self.catalogue.tables) >= 1
            and table.naming_column.role is Role.NAME
        ):
            naming = self.columns[ColumnKey(name, table.naming_column.name)]
            nouns = tuple(p for p in (*naming.parts, *naming.described) if p not in ("name", "titl", "full"))
            if len(span) == 1 and any(related(span[0], noun) for noun in nouns):
                best = max(best, 0.8 if span[0] in nouns else 0.74)
        return best


_LOOSE = frozenset({"id", "key", "code"})


def _name_score(span: tuple[str, ...], parts: tuple[str, ...]) -> float:
    if not span or not parts:
        return 0.0
    if span == parts:
        return 1.0
    rest = [p for p in parts if p not in _LOOSE] or list(parts)
    exact = 0
    for word in span:
        if word in rest:
            exact += 1
            rest.remove(word)
            continue
        near = next((p for p in rest if related(word, p)), None)
        if near is None:
            return 0.0
        rest.remove(near)
    wholly = len(parts) - len(rest)
    # A word of the name itself says more than a word of like meaning does.
    likeness = 1.0 - 0.26 * (len(span) - exact) / len(span)
    if not rest:
        return 0.97 * likeness
    head = 0.05 if rest[-1] != parts[-1] else 0.0
    return (0.58 + 0.3 * wholly / len(parts) + head) * likeness


def _described_score(span: tuple[str, ...], described: tuple[str, ...]) -> float:
    """How much of a description's first clause a span says; the whole of it is as good as the name."""
    if span == described:
        return 0.99
    if not span or not described or not all(any(related(w, d) for d in described) for w in span):
        return 0.0
    exact = sum(w in described for w in span) / len(span)
    return min(0.84, 0.36 + 0.4 * len(span) / len(described) + 0.12 * exact + 0.05 * (span[0] == described[0]))
