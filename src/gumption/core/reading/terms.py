"""A house's own words in a question: each stands for what it was said to mean, and for nothing else."""

from __future__ import annotations

import dataclasses
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from gumption.core.model.term import Term
from gumption.core.plan.words import spoken
from gumption.core.reading import meaning as m
from gumption.core.reading.assemble import chart_of, is_skipped
from gumption.core.reading.glossing import Gloss
from gumption.core.reading.grammar import Edge
from gumption.core.reading.links import Linker, typed_value
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.pieces import Listing, Measured, Noun, Shown, Values, Worked
from gumption.core.reading.rules import GRAMMAR
from gumption.core.reading.tokens import Token, tokenise

SURE = 1.05
"""How well a word is linked of which a person said what it means."""
_UNSURE = 0.5
"""Other words that are put together worse than this are read word by word in the question itself."""
_NO_MEANING = frozenset(["W", "U"])


@dataclass(frozen=True)
class Held:
    """A question's tokens with its terms in their places."""

    tokens: list[Token]
    edges: dict[str, tuple[Edge, ...]]
    """For each token that is a term, by its text, what it stands for."""
    found: tuple[tuple[int, int, Term], ...]
    """The characters of each term that was found."""

    @property
    def terms(self) -> tuple[Term, ...]:
        return tuple(dict.fromkeys(term for _, _, term in self.found))

    def glossed(self, glosses: tuple[Gloss, ...]) -> tuple[Gloss, ...]:
        """The glosses with one for each term, which says what it means."""
        if not self.found:
            return glosses
        kinds = {(g.start, g.end): g.kind for g in glosses}
        own = [Gloss(start, end, kinds.get((start, end), "operation"), term.meaning) for start, end, term in self.found]
        others = [g for g in glosses if not any(s <= g.start < e for s, e, _ in self.found)]
        return tuple(sorted([*others, *own], key=lambda g: g.start))


class Terms:
    """The terms of a workspace or of one question, the later of those with the same words in force."""

    def __init__(self, terms: Iterable[Term] = ()) -> None:
        self.all = tuple(terms)
        self._by_stems = {stems: term for term in self.all for words in term.words if (stems := _stems(words))}
        self._longest = max(map(len, self._by_stems), default=0)
        self._called: tuple[Linker, dict[object, str]] | None = None

    def with_own(self, terms: Sequence[Term]) -> Terms:
        """These and those of one question, which go before them."""
        return Terms((*self.all, *terms)) if terms else self

    def called(self, linker: Linker) -> dict[object, str]:
        """The measures that are said by other words, each by the word for it."""
        if self._called is None or self._called[0] is not linker:
            names: dict[object, str] = {}
            for term in self.all:
                word = term.words[0]
                for _, edges in self._meant(term, tokenise(word), linker) if term.text and word.strip() else ():
                    for edge in (e for found in edges.values() for e in found):
                        match edge.value:
                            case Measured(expr=expr) if not isinstance(expr, m.Col):
                                names[expr] = word
                            case Worked(quantity=quantity):
                                names[quantity] = word
                            case _:
                                pass
            self._called = linker, names
        return self._called[1]

    def held(self, tokens: list[Token], linker: Linker) -> Held:
        """The tokens with every term in its place, the longest first."""
        if not self._by_stems:
            return Held(tokens, {}, ())
        made: list[Token] = []
        edges: dict[str, tuple[Edge, ...]] = {}
        found: list[tuple[int, int, Term]] = []
        place = 0
        while place < len(tokens):
            width = self._width(tokens, place)
            if width == 0:
                made.append(tokens[place])
                place += 1
                continue
            span = tokens[place : place + width]
            term = self._by_stems[tuple(t.stem for t in span)]
            found.append((span[0].start, span[-1].end, term))
            for token, meant in self._meant(term, span, linker):
                made.append(token)
                edges.update(meant)
            place += width
        return Held(made, edges, tuple(found))

    def _width(self, tokens: list[Token], place: int) -> int:
        for width in range(min(self._longest, len(tokens) - place), 0, -1):
            if tuple(t.stem for t in tokens[place : place + width]) in self._by_stems:
                return width
        return 0

    def _meant(
        self, term: Term, span: list[Token], linker: Linker
    ) -> Iterator[tuple[Token, dict[str, tuple[Edge, ...]]]]:
        """What stands in a term's place: one token that is it, the tokens of its other words, or none."""
        if not term.text and not term.table:
            return
        first, last = span[0], span[-1]
        # No rule and no word list knows a word in these brackets.
        name = f"‹{' '.join(t.lower for t in span)}›"
        whole = Token(name[1:-1], "term", first.start, last.end, name, name)
        named = tuple(_named(term, linker)) if not term.text else ()
        if named:
            yield whole, {name: named}
            return
        said = tokenise(term.text or spoken(term.value or term.column or term.table))
        others = Terms(t for t in self.all if t is not term).held(said, linker)
        inner = _without_ends(others.tokens)
        edges = tuple(_read(inner, linker, others.edges))
        if edges:
            yield whole, {name: edges}
            return
        for token in inner:
            yield dataclasses.replace(token, start=first.start, end=last.end), others.edges


def spelled_out(tokens: Sequence[Token], terms: Sequence[Term]) -> list[Token]:
    """The tokens with the other words of each term in its place, as if the question had said them."""
    meant = {stems: t for t in terms for words in t.words if (stems := _stems(words))}
    found: list[Token] = []
    for token in tokens:
        term = meant.get(_stems(token.text)) if token.kind == "term" else None
        found += [token] if term is None else tokenise(term.text)
    return found


def _stems(words: str) -> tuple[str, ...]:
    return tuple(t.stem for t in tokenise(words))


def _without_ends(tokens: list[Token]) -> list[Token]:
    """The tokens without small words before the first and after the last that says something."""
    said = [place for place, token in enumerate(tokens) if not is_skipped(token)]
    return tokens[said[0] : said[-1] + 1] if said else tokens


def _named(term: Term, linker: Linker) -> Iterator[Edge]:
    """What of the tables a term names; nothing where they have no such thing."""
    vocabulary = linker.vocabulary
    key = ColumnKey(term.table, term.column)
    if not term.column:
        if term.table in vocabulary.tables:
            yield Edge("T", 0, 1, Noun(table=term.table), SURE)
    elif key in vocabulary.columns and term.value:
        yield Edge("V", 0, 1, Values(key, (typed_value(term.value, vocabulary.column(key)),)), SURE)
    elif key in vocabulary.columns:
        yield from linker.column_edges(key, SURE)


def _read(tokens: list[Token], linker: Linker, edges: dict[str, tuple[Edge, ...]]) -> Iterator[Edge]:
    """What words mean that say one thing, such as a measure or a condition."""
    chart = chart_of(tokens, linker.edges(tokens, edges), GRAMMAR)
    for (category, start), found in chart.edges.items():
        if start == 0 and category not in _NO_MEANING:
            for edge in found:
                if edge.end == len(tokens) and edge.score >= _UNSURE:
                    yield Edge(category, 0, 1, edge.value, edge.score)
                    if category == "SHL":
                        # A set of columns stands beside whatever is listed, as if it had been said to be shown with that.
                        yield Edge("BESX", 0, 1, edge.value, edge.score)
                        yield from (Edge("BESX", 0, 1, own, edge.score) for own in _of_their_own(edge.value))


def _of_their_own(columns: object) -> Iterator[Listing]:
    """Columns of one table as what its rows are listed with, where a question names no other rows."""
    shown = [c.noun for c in columns if isinstance(c, Shown)] if isinstance(columns, tuple) else []
    tables = {n.key.table for n in shown if n.key is not None}
    if len(tables) == 1 and all(n.key is not None for n in shown):
        yield Listing(Noun(table=tables.pop()), tuple(shown))
