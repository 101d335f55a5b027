"""What "those", "them", "it" and "there" point at: the things of the answer before, as conditions of a new question."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from gumption.core.reading import meaning as m
from gumption.core.reading.assemble import Assembler, Candidate, Draft, Sequence_
from gumption.core.reading.flow import event_time, names_rows
from gumption.core.reading.pieces import Asking, Marker
from gumption.core.reading.schema import Nouns
from gumption.core.reading.tokens import Token

POINTING = frozenset(
    [
        "those",
        "them",
        "they",
        "these",
        "their",
        "theirs",
        "it",
        "its",
        "there",
        "he",
        "she",
        "his",
        "her",
        "whose",
        "each",
    ]
)
"""Words that point at what was answered."""
_BEING = frozenset(["is", "are", "was", "were", "been", "be", "there's"])


def pointing(words: Sequence[str], pointers: frozenset[str] = POINTING) -> set[str]:
    """The words that point at what was answered; how many were *there*, with a form of be beside it, points nowhere."""
    around = zip(("", *words[:-1]), words, (*words[1:], ""), strict=True)
    return {
        word
        for before, word, behind in around
        if word in pointers and not (word == "there" and ((before in _BEING and behind) or behind in _BEING))
    }


def things(earlier: m.Ask, nouns: Nouns) -> tuple[m.Condition, ...]:
    """The conditions that rows meet which belong to what was answered; none where that was all there is."""
    times = {m.EventTime(): m.Col(key)} if (key := event_time(nouns.catalogue, earlier.head)) is not None else {}
    where: tuple[m.Condition, ...] = tuple(m.replaced(c, times) for c in earlier.where)  # type: ignore[arg-type,misc]
    narrowed = earlier.limit is not None or bool(earlier.having)
    group = next((g for g in earlier.groups if isinstance(g, m.Col)), None)
    if earlier.groups and narrowed:
        if group is None or len(earlier.groups) > 1:
            return ()
        own = names_rows(group.key, nouns.catalogue) or group.key
        return (m.Among(own, earlier.but(groups=(m.Col(own),), shows=(), chart=None, across=False)),)
    if earlier.lists and earlier.limit is not None:
        table = nouns.catalogue.table(earlier.head)
        if table.key is None:
            return ()
        own = m.ColumnKey(earlier.head, table.key.name)
        return (m.Among(own, earlier.but(shows=(m.Col(own),), chart=None)),)
    first = earlier.quantities[0] if earlier.quantities else None
    if isinstance(first, m.Aggregated) and first.where:
        where = (*where, *first.where)
    if isinstance(first, m.ShareOf):
        where = (*where, *first.condition)
    return where


def referring(
    assembler: Assembler, earlier: m.Ask, sequence: Sequence_, tokens: Sequence[Token]
) -> Iterator[Candidate]:
    """New questions about the things of the answer before."""
    words = [t.lower for t in tokens if t.kind != "symbol"]
    if not pointing(words) or words[0] in ("add", "include", "put", "plus", "show"):
        return
    held = things(earlier, assembler.nouns)
    if not held:
        return
    whole = Draft.of_edges(sequence.edges, tokens)
    pointers = frozenset(i for i, v in whole.items if isinstance(v, Marker) and v.kind in ("those", "same", "with"))
    items = tuple((i, v) for i, v in whole.items if i not in pointers)
    if not any(not isinstance(v, (Marker, Asking)) for _, v in items):
        return
    pieces = Draft(whole.edges, items, whole.words, settled=pointers)
    for ask, draft in assembler.asks_of(pieces):
        if ask == earlier or any(c in ask.where for c in held):
            continue
        draft.features["of what was answered"] = 1.0
        new = ask.but(where=(*held, *ask.where))
        if "each" in draft.words and new.quantities and not new.groups and isinstance(held[0], m.Among):
            shown = next((g for g in earlier.groups if isinstance(g, m.Col)), m.Col(held[0].column))
            new = new.but(groups=(shown,), order=(), limit=None)
        yield from assembler.finished([(new, draft)], sequence, tokens, follows=True)
