"""Words that may go on where a question breaks off: names of tables and columns, their values, and words of questions."""

from __future__ import annotations

import bisect
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.names import plural
from gumption.core.model.types import Role, Type
from gumption.core.plan.words import spoken
from gumption.core.reading.tokens import stem, tokenise

MOST_COMPLETIONS = 4
MOST_VALUES = 5_000
"""Values a column may have and still have them offered."""
LONGEST_BEGUN = 4
"""Words of a name that may be typed already while it is still offered."""

Kind = Literal["table", "column", "value", "operation"]
_ORDER: dict[Kind, float] = {"table": 0.0, "column": 0.1, "operation": 0.3, "value": 0.5}
_OPERATIONS = (
    "number of", "how many", "total", "average", "median", "highest", "lowest", "percentage of", "share of",
    "for each", "by month", "by year", "by quarter", "by week", "per month", "this year", "last year", "this month",
    "last month", "year to date", "compared with", "more than", "less than", "between", "at least", "at most",
    "not in", "without", "sorted by", "highest first", "as a share of the total", "running total", "top 5", "bottom 5",
)  # fmt: skip

_LEADING_ON = frozenset(
    ["by", "per", "for", "each", "in", "on", "at", "of", "from", "to", "between", "with", "without", "than", "and", "or",
     "not", "more", "less", "fewer", "over", "under", "above", "below", "before", "after", "since", "where", "as"]
)  # fmt: skip
"""Words that say nothing by themselves, and something with what is typed after them."""


def leads_on(words: str) -> bool:
    """True for last words that wait for what is still to be typed."""
    return all(w in _LEADING_ON for w in words.lower().split())


@dataclass(frozen=True)
class Completion:
    """Text that takes the place of a question from `start` on, what it is, and where it is from."""

    text: str
    start: int
    kind: Kind
    note: str


@dataclass(frozen=True)
class _Offer:
    lower: str
    text: str
    kind: Kind
    note: str
    table: str


class Completer:
    """Completes questions over one catalogue; build it once and keep it."""

    def __init__(self, catalogue: Catalogue) -> None:
        self._offers = sorted(set(_offers(catalogue)), key=lambda o: (o.lower, o.kind, o.note))
        self._keys = [o.lower for o in self._offers]
        self._nouns = {stem(w): t.name for t in catalogue.tables for w in _called(t.display, t.name).split()}

    def completions(self, question: str) -> tuple[Completion, ...]:
        """At most a few, the likeliest first; none where the last word is whole or hardly begun."""
        tokens = [t for t in tokenise(question) if t.kind in ("word", "number")]
        if not tokens or not question[-1:].isalnum() or tokens[-1].end != len(question):
            return ()
        named = {self._nouns[t.stem] for t in tokens[:-1] if t.stem in self._nouns}
        found: dict[str, tuple[float, Completion]] = {}
        for width in range(min(LONGEST_BEGUN, len(tokens)), 0, -1):
            start = tokens[-width].start
            begun = " ".join(t.lower for t in tokens[-width:])
            if len(begun) < 2:
                continue
            for offer in self._beginning(begun):
                cost = _ORDER[offer.kind] - 0.5 * (width - 1) - 0.4 * (offer.table in named) + 0.01 * len(offer.text)
                if offer.lower not in found:
                    found[offer.lower] = (cost, Completion(offer.text, start, offer.kind, offer.note))
        ranked = sorted(found.values(), key=lambda pair: (pair[0], pair[1].text))
        return tuple(completion for _, completion in ranked[:MOST_COMPLETIONS])

    def _beginning(self, begun: str) -> Iterator[_Offer]:
        place = bisect.bisect_left(self._keys, begun)
        for offer in self._offers[place : place + 40]:
            if not offer.lower.startswith(begun):
                return
            if offer.lower != begun:
                yield offer


def _called(display: str, name: str) -> str:
    return (display or spoken(name)).lower()


def _offers(catalogue: Catalogue) -> Iterator[_Offer]:
    for words in _OPERATIONS:
        yield _Offer(words, words, "operation", "", "")
    for table in catalogue.tables:
        noun = _called(table.display, table.name)
        yield _Offer(noun, noun, "table", plural(table.rows, "row"), table.name)
        for column in table.columns:
            words = _called(column.display, column.name)
            yield _Offer(words, words, "column", f"in {noun}", table.name)
            kinds = column.type is Type.TEXT and column.role not in (Role.TEXT, Role.IDENTIFIER, Role.LINK)
            for value in column.values if kinds and column.distinct <= MOST_VALUES else ():
                said = value.strip()
                if said and len(said) <= 60:
                    yield _Offer(" ".join(said.lower().split()), said, "value", words, table.name)
