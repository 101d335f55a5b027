"""The analyst's words, read from the data files beside this one; each file says at its top what a line means."""

from __future__ import annotations

import functools
import re
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

from gumption.core.reading.tokens import stem

_FOLDER = Path(__file__).parent


def _lines(name: str) -> list[str]:
    text = (_FOLDER / name).read_text(encoding="utf-8")
    return [line.strip() for line in text.splitlines() if line.strip() and not line.startswith("# ")]


@functools.cache
def concepts() -> dict[str, frozenset[int]]:
    """The ideas that each stem may stand for, by number."""
    found: dict[str, set[int]] = {}
    for number, line in enumerate(_lines("concepts.txt")):
        for word in line.split():
            found.setdefault(stem(word), set()).add(number)
    return {word: frozenset(numbers) for word, numbers in found.items()}


@functools.cache
def ideas() -> frozenset[str]:
    """Every word of an idea as it is written."""
    return frozenset(word for line in _lines("concepts.txt") for word in line.split())


@functools.cache
def called() -> dict[str, tuple[str, ...]]:
    """What people call columns whose heads are written so; a head in capitals is an acronym, which may stand anywhere."""
    found: dict[str, tuple[str, ...]] = {}
    for line in _lines("called.txt"):
        heads, _, names = line.partition(" = ")
        for head in heads.split(" | "):
            found[head] = (*found.get(head, ()), *(n.strip() for n in names.split(",")))
    return found


@functools.lru_cache(maxsize=200_000)
def related(one: str, other: str) -> bool:
    """True where two stems stand for one idea, or one is the other with an ending more."""
    if one == other:
        return True
    if min(len(one), len(other)) >= 5 and (one.startswith(other) or other.startswith(one)):
        return True
    known = concepts()
    return bool(known.get(one, frozenset()) & known.get(other, frozenset()))


@dataclass(frozen=True)
class Adjective:
    """What a word such as cheap, cheaper, cheapest measures, and which way."""

    up: bool
    ideas: tuple[str, ...]
    counts: bool
    dated: bool
    """True where it may be told by a date too, the other way round: the oldest is born first."""
    plain: bool = False
    """True where it may be of anything: the biggest order is the one of the highest amount."""


@functools.cache
def adjectives() -> tuple[dict[str, Adjective], dict[str, Adjective], dict[str, Adjective]]:
    """Adjectives by their plain form, their comparative and their superlative."""
    plain: dict[str, Adjective] = {}
    more: dict[str, Adjective] = {}
    most: dict[str, Adjective] = {}
    for line in _lines("adjectives.txt"):
        forms, sign, ideas = (part.strip() for part in line.split("|"))
        words = [w for w in ideas.replace(":", " ").split() if w != "*"]
        adjective = Adjective(
            sign == "+", tuple(stem(w) for w in words), "*" in ideas, "date:" in ideas, "size" in words
        )
        for word, group in zip(forms.split(), (plain, more, most), strict=True):
            group.setdefault(word, adjective)
    return plain, more, most


@functools.cache
def superlatives() -> dict[str, str]:
    """The superlative of each comparative."""
    forms = (line.split("|")[0].split() for line in _lines("adjectives.txt"))
    return {more: most for _, more, most in forms}


VerbKind = Literal["money", "count", "quantity", "time"]


@dataclass(frozen=True)
class Verb:
    """What a verb points at."""

    kind: VerbKind
    ideas: tuple[str, ...]


@functools.cache
def verbs() -> dict[str, tuple[Verb, ...]]:
    """Verbs by each of their forms."""
    found: dict[str, tuple[Verb, ...]] = {}
    for line in _lines("verbs.txt"):
        forms, kind, ideas = (part.strip() for part in line.split("|"))
        verb = Verb(kind, tuple(stem(w) for w in ideas.split()))  # type: ignore[arg-type]
        for form in forms.split():
            found[form] = (*found.get(form, ()), verb)
    return found


@functools.cache
def phrases() -> dict[tuple[str, ...], tuple[tuple[str, str], ...]]:
    """Operating words: the categories, each with its payload, of every phrase."""
    found: dict[tuple[str, ...], tuple[tuple[str, str], ...]] = {}
    for line in _lines("phrases.txt"):
        head, _, rest = line.partition(": ")
        category, _, payload = head.partition(" ")
        for phrase in rest.split(" | "):
            words = tuple(phrase.split())
            if words:
                found[words] = (*found.get(words, ()), (category, payload))
    return found


@functools.cache
def edits() -> dict[tuple[str, ...], str]:
    """What is done to the question before, by each of its phrases; none of them says anything in a first question."""
    found: dict[tuple[str, ...], str] = {}
    for line in _lines("edits.txt"):
        kind, _, rest = line.partition(": ")
        for phrase in rest.split(" | "):
            found[tuple(phrase.split())] = kind
    return found


@dataclass(frozen=True)
class UnitOf:
    """A unit of measure: its family, the ideas of columns measured in it, and its size in the family's first unit."""

    family: str
    ideas: tuple[str, ...]
    size: float


@functools.cache
def units() -> dict[str, UnitOf]:
    """Units of measure by each of their words."""
    found: dict[str, UnitOf] = {}
    for line in _lines("units.txt"):
        family, ideas, *sizes = (part.strip() for part in line.split("|"))
        for size in sizes:
            words, _, number = size.partition("=")
            for word in words.split():
                found[word] = UnitOf(family, tuple(stem(w) for w in ideas.split()), float(number))
    return found


@functools.cache
def phrase_words() -> frozenset[str]:
    """Every word of an operating phrase."""
    return frozenset(word for phrase in phrases() for word in phrase)


@functools.cache
def fillers() -> frozenset[str]:
    """Words that carry no meaning of their own; leaving one out is no loss."""
    return frozenset(word for line in _lines("fillers.txt") for word in line.split())


@functools.cache
def prepositions() -> frozenset[str]:
    """Small words that say how things belong together; a rule names those that it takes."""
    return frozenset(
        [
            "in",
            "at",
            "on",
            "from",
            "for",
            "by",
            "with",
            "to",
            "into",
            "within",
            "per",
            "and",
            "or",
            "but",
            "about",
            "between",
            "after",
            "before",
            "than",
            "until",
        ]
    )


@functools.cache
def asides() -> tuple[frozenset[str], frozenset[str]]:
    """Stems of words about the one who asks and not about the data, and those that may stand beside them."""
    lines = _lines("asides.txt")
    sure = frozenset(stem(word) for line in lines if not line.startswith("~") for word in line.split())
    return sure, frozenset(stem(word) for line in lines if line.startswith("~") for word in line[1:].split())


@functools.cache
def chatter() -> frozenset[str]:
    """Words of politeness and of talk about the question, skipped at little cost."""
    return frozenset(word for line in _lines("chatter.txt") for word in line.split())


@functools.cache
def troubles() -> frozenset[str]:
    """Stems of what is worse the more there is of it."""
    return frozenset(stem(word) for line in _lines("troubles.txt") for word in line.split())


@functools.cache
def abbreviations() -> dict[str, str]:
    """Short forms in names, spelled out."""
    return dict(pair.split("=") for line in _lines("abbreviations.txt") for pair in line.split())


def expanded(part: str) -> str:
    """An abbreviation in a column's name spelled out; other words as they are."""
    known = abbreviations()
    if part not in known and len(part) > 3 and part.endswith("s") and part[:-1] in known:
        return known[part[:-1]] + "s"
    return known.get(part, part)


@dataclass(frozen=True)
class State:
    """What may make a word such as overdue or active true of a row; see states.txt."""

    patterns: tuple[tuple[str, ...], ...]


@functools.cache
def states() -> dict[tuple[str, ...], State]:
    """States by the phrases that say them."""
    found: dict[tuple[str, ...], State] = {}
    lists: dict[str, str] = {}
    for line in _lines("states.txt"):
        words, _, rest = line.partition(" = ")
        rest = re.sub(r"@\w+", lambda named: lists[named[0]], rest)
        if words.startswith("@"):
            lists[words] = rest
            continue
        patterns = tuple(tuple(p.split()) for p in rest.split(" / "))
        for phrase in words.split(" | "):
            key = tuple(phrase.split())
            found[key] = State((*found[key].patterns, *patterns) if key in found else patterns)
    return found


@functools.cache
def demonyms() -> dict[str, tuple[str, ...]]:
    """Names of peoples and short names of countries, with the places they stand for."""
    found: dict[str, tuple[str, ...]] = {}
    for line in _lines("places.txt"):
        place, _, words = line.partition(": ")
        for word in words.split(" | "):
            found[word] = (*found.get(word, ()), place)
    return found
