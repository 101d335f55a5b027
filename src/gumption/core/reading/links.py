"""Every span of a question's words and what it may stand for."""

from __future__ import annotations

import heapq
from dataclasses import dataclass
from typing import Literal

from gumption.core.model.types import Role
from gumption.core.reading.lexicon import CONCEPTS, DEMONYMS, FILLERS, OPERATIONS, Operation
from gumption.core.reading.times import Span, TimeMention
from gumption.core.reading.tokens import Token, stem
from gumption.core.reading.vocabulary import LONGEST_VALUE, ColumnKey, Vocabulary, is_common, word_stems

LinkKind = Literal["operation", "column", "table", "value", "time", "number", "quoted"]

LONGEST = 6
KEPT_PER_SPAN = 4
BEAM = 24
UNREAD_COST = 0.75
GROUPING_COST = 0.2


@dataclass(frozen=True)
class Link:
    """Tokens [start, end) read as one thing; only the field that its kind names is set."""

    start: int
    end: int
    kind: LinkKind
    score: float
    operation: Operation | None = None
    column: ColumnKey | None = None
    table: str | None = None
    values: tuple[str, ...] = ()
    span: Span | None = None
    number: float | None = None
    text: str = ""
    whole: bool = True
    """For a value: the words are all of it, not a part."""


@dataclass(frozen=True)
class Chain:
    """Links that do not overlap, in order, and the places of content words that none of them reads."""

    links: tuple[Link, ...]
    unread: tuple[int, ...]
    score: float


def mended(tokens: list[Token], vocabulary: Vocabulary) -> tuple[list[Token], dict[int, str]]:
    """Tokens with misspelled words put right against the workspace's words, and what was put for which place."""
    found, changes = list(tokens), {}
    for place, token in enumerate(tokens):
        if (
            token.kind != "word"
            or token.lower in FILLERS
            or token.stem in vocabulary.known
            or token.lower in vocabulary.known
        ):
            continue
        if (
            token.stem in vocabulary.partial
            or (token.stem,) in vocabulary.values
            or (token.text[:1].isupper() and place > 0)
        ):
            continue
        if token.stem in CONCEPTS or is_common(token.stem) or token.stem in DEMONYMS:
            continue
        better = vocabulary.spelled(token.lower)
        if better is not None:
            changes[place] = better
            found[place] = Token(token.text, "word", token.start, token.end, better, stem(better))
    return found, changes


def links_of(tokens: list[Token], vocabulary: Vocabulary, times: list[TimeMention]) -> list[Link]:
    """All candidates, at most a few of each kind for a span."""
    found: list[Link] = [Link(m.start, m.end, "time", 1.0 if m.firm else 0.5, span=m.span) for m in times]
    for start, token in enumerate(tokens):
        if token.kind == "quoted":
            found.append(Link(start, start + 1, "quoted", 1.0, text=token.text))
        if token.kind == "number" and token.number is not None:
            found.append(Link(start, start + 1, "number", 0.9, number=token.number))
        for end in range(start + 1, min(start + LONGEST, len(tokens)) + 1):
            found.extend(_span_links(tokens, start, end, vocabulary))
    return found


def _span_links(tokens: list[Token], start: int, end: int, vocabulary: Vocabulary) -> list[Link]:
    span = tokens[start:end]
    lowers = tuple(t.lower for t in span)
    found: list[Link] = []
    operation = OPERATIONS.get(lowers)
    if operation is not None:
        found.append(
            Link(
                start,
                end,
                "operation",
                0.95 if len(lowers) > 1 or lowers[0] not in FILLERS else 0.6,
                operation=operation,
            )
        )
    if any(t.kind == "quoted" for t in span):
        return found
    stems = tuple(t.stem for t in span)
    capital = start > 0 and span[0].text[:1].isupper()
    if operation is None or capital:
        # "Total" inside a question is an operation, unless it is written as a name.
        values = tuple(part for token in span for part in word_stems(token.text))
        found.extend(_value_links(span, values, start, end, vocabulary))
    if span[0].lower in FILLERS or span[-1].lower in FILLERS or any(t.kind in ("date",) for t in span):
        return found
    content = tuple(s for s, t in zip(stems, span, strict=True) if t.lower not in FILLERS)
    columns = [(vocabulary.column_score(key, content), key) for key in vocabulary.columns]
    best = heapq.nlargest(KEPT_PER_SPAN, [c for c in columns if c[0] >= 0.45], key=lambda pair: pair[0])
    tables = [(vocabulary.table_score(name, content), name) for name in vocabulary.tables]
    found.extend(Link(start, end, "table", score, table=name) for score, name in tables if score >= 0.5)
    named = max((score for score, _ in tables), default=0.0)
    for score, key in best:
        role = vocabulary.catalogue.table(key.table).column(key.column).role
        # Whoever names a table means its rows, not the number that tells them apart, nor a column that only sounds alike.
        numbered = role in (Role.IDENTIFIER, Role.LINK, Role.CODE, Role.QUANTITY) and score < 1.0
        if not (named >= 0.9 and (numbered or score < 0.8)):
            found.append(Link(start, end, "column", score, column=key))
    return found


def _value_links(span: list[Token], stems: tuple[str, ...], start: int, end: int, vocabulary: Vocabulary) -> list[Link]:
    if len(span) == 1 and span[0].text in ("US", "UK"):
        return _named_places(span[0], start, end, vocabulary)
    if len(span) == 1 and (span[0].lower in FILLERS or (span[0].kind != "word" and len(span[0].text) < 3)):
        # A filler word is a value only where it is written as the value is, such as the state code IN.
        hits = vocabulary.values.get(stems, {})
        return [
            Link(start, end, "value", 0.8, column=key, values=(span[0].text,))
            for key, values in hits.items()
            if span[0].text in values and span[0].text.isupper() and len(span[0].text) > 1
        ]
    found = []
    if len(span) <= LONGEST_VALUE:
        for key, values in vocabulary.values.get(stems, {}).items():
            role = vocabulary.catalogue.table(key.table).column(key.column).role
            score = 0.97 if role.is_category or role in (Role.NAME, Role.IDENTIFIER) else 0.9
            if role is Role.LINK:
                score = 0.86
            found.append(Link(start, end, "value", score, column=key, values=tuple(values)))
    if len(span) == 1 and span[0].kind == "word" and not found:
        found.extend(_named_places(span[0], start, end, vocabulary) or _partial_values(span[0], start, end, vocabulary))
    found.sort(key=lambda link: (-link.score, len(link.values)))
    return found[:KEPT_PER_SPAN]


def _named_places(token: Token, start: int, end: int, vocabulary: Vocabulary) -> list[Link]:
    """French for the value France, US for the value United States, where the data has them."""
    found = []
    for name in DEMONYMS.get(token.lower, ()):
        for key, values in vocabulary.values.get(word_stems(name), {}).items():
            found.append(Link(start, end, "value", 0.9, column=key, values=tuple(values)))
    return found


def _partial_values(token: Token, start: int, end: int, vocabulary: Vocabulary) -> list[Link]:
    """A part of longer values, such as a surname. An everyday word is one only where it has a capital inside the question."""
    capital = token.text[:1].isupper() and start > 0
    if (is_common(token.stem) or token.stem in CONCEPTS or token.stem in vocabulary.known_names) and not capital:
        return []
    return [
        Link(
            start,
            end,
            "value",
            0.72 if capital or len(values) <= 3 else 0.62,
            column=key,
            values=tuple(values),
            whole=False,
        )
        for key, values in vocabulary.partial.get(token.stem, {}).items()
    ]


def chains(tokens: list[Token], links: list[Link]) -> list[Chain]:
    """The best ways to cover the words with links that do not overlap, by beam search from left to right."""
    starting: dict[int, list[Link]] = {}
    for link in links:
        starting.setdefault(link.start, []).append(link)
    beams: list[list[tuple[float, tuple[Link, ...], tuple[int, ...]]]] = [[] for _ in range(len(tokens) + 1)]
    beams[0] = [(0.0, (), ())]
    for place, token in enumerate(tokens):
        best = heapq.nlargest(BEAM, beams[place], key=lambda state: state[0])
        filler = token.kind == "word" and token.lower in FILLERS
        # Small words that group carry more than other small words do.
        cost = UNREAD_COST if not filler else GROUPING_COST if token.lower in ("by", "per", "each", "every") else 0.0
        for score, chosen, unread in best:
            beams[place + 1].append((score - cost, chosen, unread if filler else (*unread, place)))
            for link in starting.get(place, ()):
                width = sum(1 for t in tokens[link.start : link.end] if t.lower not in FILLERS) or 0.3
                # One link over several words beats as many links over one word each.
                gain = link.score * width + 0.12 * (link.end - link.start - 1)
                beams[link.end].append((score + gain, (*chosen, link), unread))
    done = heapq.nlargest(BEAM, beams[-1], key=lambda state: state[0])
    return [Chain(chosen, unread, score) for score, chosen, unread in done]
