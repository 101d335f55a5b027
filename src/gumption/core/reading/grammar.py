"""Rules as data, and a chart that keeps every way in which words can be put together.

A rule is a pattern of literal words and categories, the category it builds, and what it builds from the values of
its parts. The chart is bottom-up: an edge is a category over words [start, end) with a value and a score, and the
best few edges of every cell are kept. See M. Kay, "Algorithm schemata and data structures in syntactic processing",
1980, for active charts.
"""

from __future__ import annotations

import functools
import re
from collections import Counter, defaultdict, deque
from collections.abc import Callable, Hashable, Iterable, Sequence
from dataclasses import dataclass, field
from typing import Any, NamedTuple

KEPT_PER_CELL = 6
SKIP_COST = 0.02
PAUSE_COST = 0.12
"""What passing over a comma costs, or over a word that turns what is said: what is out of stock is no stock."""
_PAUSES = frozenset([",", ";", ":", ".", "?", "!", "out"])
RULE_COST = 0.03
"""What putting together costs, so that of two ways to the same the shorter wins."""


@dataclass(frozen=True)
class Rule:
    """A pattern such as "AGG of? NUM", the category that it builds, and what it builds.

    Words in small letters are literal, `a|b` are alternatives, `?` makes an element optional, and words in capitals
    are categories; what `~` stands in front of follows at once. `build` takes the values of the categories in order,
    and gives None where they do not fit.
    """

    builds: str
    pattern: str
    build: Callable[..., object]
    examples: tuple[str, ...] = ()
    weight: float = 0.0
    """What the rule adds to the score of what it builds."""


@dataclass(frozen=True)
class Edge:
    """A category over words [start, end)."""

    category: str
    start: int
    end: int
    value: Any
    score: float
    rule: str = ""
    children: tuple[Edge, ...] = ()

    @property
    def width(self) -> int:
        return self.end - self.start


class _Element(NamedTuple):
    category: str | None
    words: frozenset[str] = frozenset()
    at_once: bool = False
    """True where no word may be passed over before it."""


class _Compiled(NamedTuple):
    rule: Rule
    elements: tuple[_Element, ...]
    literal: tuple[frozenset[str], ...]
    """For each element that is a word, the words that it may be."""

    def may_stand(self, words: frozenset[str]) -> bool:
        """True where every word that it needs is among some words."""
        return not any(map(words.isdisjoint, self.literal))


class _Active(NamedTuple):
    compiled: _Compiled
    dot: int
    start: int
    end: int
    children: tuple[Edge, ...]
    score: float


@functools.cache
def compiled(rule: Rule) -> tuple[_Compiled, ...]:
    """Every way to match a rule's pattern: with each optional element or without, and one for each category of several."""
    options: list[tuple[_Element, ...]] = [()]
    for part in rule.pattern.split():
        elements = _elements(part.removesuffix("?"))
        options = [
            longer
            for done in options
            for longer in [*([done] if part[-1] == "?" else []), *((*done, e) for e in elements)]
        ]
    return tuple(_Compiled(rule, o, tuple(e.words for e in o if e.category is None)) for o in options if o)


@functools.cache
def _elements(part: str) -> tuple[_Element, ...]:
    """What may stand in one place of a pattern."""
    at_once, names = part.startswith("~"), part.removeprefix("~").split("|")
    categories = [name for name in names if re.fullmatch(r"[A-Z_]+", name)]
    words = frozenset(names).difference(categories)
    return (
        *(_Element(category, at_once=at_once) for category in categories),
        *([_Element(None, words, at_once)] if words else []),
    )


@dataclass
class Grammar:
    """Rules made ready; build it once."""

    rules: Sequence[Rule]
    literals: set[str] = field(default_factory=set)
    """Every word that a rule names."""
    _free: dict[str, dict[int, _Compiled]] = field(default_factory=lambda: defaultdict(dict))
    """Those that name no word, by their first category and their place among all."""
    _by_rarest: dict[str, dict[int, _Compiled]] = field(default_factory=lambda: defaultdict(dict))
    """The others, by each word that the element may be which the fewest of them name."""

    def __post_init__(self) -> None:
        made = [one for rule in self.rules for one in compiled(rule)]
        named = Counter(word for one in made for words in one.literal for word in words)
        self.literals.update(named)
        often = {words: sum(map(named.__getitem__, words)) for words in {w for one in made for w in one.literal}}
        for number, one in enumerate(made):
            if not one.literal:
                assert one.elements[0].category is not None
                self._free[one.elements[0].category][number] = one
                continue
            for word in min(one.literal, key=often.__getitem__):
                self._by_rarest[word][number] = one

    @functools.cached_property
    def _always(self) -> dict[str, list[_Compiled]]:
        """Those that name no word, by their first category."""
        return {category: [rules[number] for number in sorted(rules)] for category, rules in self._free.items()}

    def standing(self, said: frozenset[str]) -> tuple[dict[str, list[_Compiled]], dict[str, list[_Compiled]]]:
        """The rules of which every word is among some words: by their first category, and by the first word they name."""
        found = {
            number: one for word in said for number, one in self._by_rarest.get(word, {}).items() if one.may_stand(said)
        }
        besides: dict[str, dict[int, _Compiled]] = defaultdict(dict)
        by_word: dict[str, list[_Compiled]] = defaultdict(list)
        for number, one in sorted(found.items()):
            first = one.elements[0]
            if first.category is not None:
                besides[first.category][number] = one
            for word in first.words & said:
                by_word[word].append(one)
        merged = {}
        for category, these in besides.items():
            every = {**self._free.get(category, {}), **these}
            merged[category] = [every[number] for number in sorted(every)]
        return {**self._always, **merged}, by_word


class Chart:
    """All edges over one question's words."""

    def __init__(self, grammar: Grammar, words: Sequence[str], skippable: Sequence[bool]) -> None:
        self.grammar, self.words, self.skippable = grammar, words, skippable
        self.edges: dict[tuple[str, int], list[Edge]] = defaultdict(list)
        self._waiting: dict[tuple[str, int], list[_Active]] = defaultdict(list)
        self._cells: dict[tuple[str, int, int], dict[Hashable, float]] = defaultdict(dict)
        self._agenda: deque[Edge] = deque()

    def run(self, terminals: Iterable[Edge]) -> None:
        """Put together whatever the rules allow."""
        by_category, by_word = self.grammar.standing(frozenset(self.words))
        for place, word in enumerate(self.words):
            for compiled in by_word.get(word, ()):
                self._advance(_Active(compiled, 1, place, place + 1, (), 0.0))
        for edge in sorted(terminals, key=lambda e: (e.end - e.start, -e.score)):
            self._add(edge)
        while self._agenda:
            edge = self._agenda.popleft()
            self.edges[edge.category, edge.start].append(edge)
            for active in self._waiting.get((edge.category, edge.start), ()):
                self._extend(active, edge)
            for compiled in by_category.get(edge.category, ()):
                self._advance(_Active(compiled, 1, edge.start, edge.end, (edge,), edge.score))

    def _add(self, edge: Edge) -> None:
        cell = self._cells[edge.category, edge.start, edge.end]
        known = cell.get(edge.value)
        if known is not None and known >= edge.score:
            return
        if known is None and len(cell) >= KEPT_PER_CELL:
            worst = min(cell.values())
            if edge.score <= worst:
                return
        cell[edge.value] = edge.score
        self._agenda.append(edge)

    def _passing(self, start: int, end: int) -> float:
        """What passing over the words between two elements of a rule costs."""
        if start == end:
            return 0.0
        return sum(PAUSE_COST if word in _PAUSES else SKIP_COST for word in self.words[start:end])

    def _extend(self, active: _Active, edge: Edge) -> None:
        score = active.score + edge.score - self._passing(active.end, edge.start)
        self._advance(_Active(active.compiled, active.dot + 1, active.start, edge.end, (*active.children, edge), score))

    def _advance(self, active: _Active) -> None:
        elements = active.compiled.elements
        if active.dot == len(elements):
            self._finish(active)
            return
        category, words, at_once = elements[active.dot]
        for place in range(active.end, len(self.words)):
            if category is not None:
                self._waiting[category, place].append(active)
                if known := self.edges.get((category, place)):
                    for edge in tuple(known):
                        self._extend(active, edge)
            elif self.words[place] in words:
                score = active.score - self._passing(active.end, place)
                self._advance(active._replace(dot=active.dot + 1, end=place + 1, score=score))
            if at_once or not self.skippable[place]:
                break

    def _finish(self, active: _Active) -> None:
        rule = active.compiled.rule
        value = rule.build(*(child.value for child in active.children))
        if value is None:
            return
        parts = len(active.children) or 1
        score = active.score / parts + rule.weight - RULE_COST
        self._add(Edge(rule.builds, active.start, active.end, value, score, rule.pattern, active.children))
