"""What a question cannot do without and nothing here is: what is counted, asked for, or split by.

An answer without such a word would be of something else, whatever doubt was told with it: the number of visits is no
number of accidents, and all that was spent is not what was spent on equipment.
"""

from __future__ import annotations

from collections.abc import Container, Iterator, Sequence
from dataclasses import dataclass

from gumption.core.reading import lexicon
from gumption.core.reading.assemble import word_weight
from gumption.core.reading.tokens import Token, stems
from gumption.core.reading.vocabulary import PERSON_WORDS, is_noun

_COUNTING = frozenset(["many", "much"])
_AMOUNTS = frozenset(["number", "count", "amount", "numbers", "total"])
_AVERAGING = frozenset(["average", "mean", "median", "avg"])
_SPLITTING = frozenset(["by", "per", "each", "every", "which", "whose"])
_SPLIT_BY = frozenset(["by", "per"])
_ON = frozenset(["on", "from", "for", "with", "without", "about", "of"])
_BEING = frozenset(["was", "were", "is", "are", "been", "got"])
_OF_NOUNS = ("ance", "ence", "ment", "ments", "tion", "tions", "sion", "sions", "ship", "ness", "ity", "ities")
"""Ends of words that are nouns, whatever else their stem is."""
_DOING = frozenset(["did", "do", "does"])
_SMALL = frozenset(["the", "a", "an", "our", "their", "your", "my", "its", "this", "any", "such", "different"])
_JOINING = frozenset(["whether", "although", "though", "because", "unless", "whereas", "among", "onto", "upon", "via"])
_OF_ALL = stems(
    "world register catalogue catalog list file data dataset table sheet system database book record company firm"
    " organisation organization business house team moment time total stock practice place group question part way"
    " end beginning start last same one other case fact detail name number order figure result picture chart graph"
    " overview page report all today now past future whole rest average share percentage row column"
)
"""Words of where all of it stands, and of how it is to be told: to leave them out leaves out nothing."""
_ANY_ROWS = stems(
    "piece item thing unit record row entry case line transaction article object one instance"
    " child adult man woman boy girl kid people person individual"
)
"""What rows may be called, whatever they are of, and whoever they are of."""
_SAYS_NOTHING = stems("data sheet export list table file report log extract dump master main info detail all full view")
"""Parts of a table's name that do not tell what its rows are."""


@dataclass(frozen=True)
class Missed:
    """The words of a question, and which of them a meaning does nothing with."""

    tokens: Sequence[Token]
    unread: frozenset[int]
    """Places of words that were not read."""
    stood_in: frozenset[int]
    """Places of words that were taken for rows of another name."""
    figures: frozenset[int]
    """Places where what is measured is named."""

    def lacking(self) -> Iterator[int]:
        """The places of nouns that the question is of, and that were not read or taken for something else."""
        for place in sorted(self.unread | self.stood_in):
            token = self.tokens[place]
            if token.kind == "word" and token.lower not in _SPLITTING and self._is_of_it(place):
                yield place

    def _is_of_it(self, place: int) -> bool:
        """True for a word without which the question would be another one."""
        token, unread = self.tokens[place], place in self.unread
        if self._says_which_figure(place) or (unread and self._says_what_was_done(place)):
            return True
        several = token.lower.endswith("s") and token.stem not in _OF_ALL
        if (several or _is_a_thing(token)) and token.stem not in _ANY_ROWS and self._is_asked(place):
            return True
        alone = all(t.kind != "word" or word_weight(t) < 1.0 for t in self.tokens[place + 1 : place + 2])
        return unread and (
            (_is_a_thing(token, doing=alone) and self._is_what_for(place))
            or (_is_a_thing(token) and self._does_it(place))
        )

    def _says_which_figure(self, place: int) -> bool:
        """True for insurance in what it costs: the cost of insurance is no cost of all."""
        if place + 1 not in self.figures or not _is_a_thing(self.tokens[place], doing=True):
            return False
        figure = self.tokens[place + 1]
        return is_noun(figure.stem) or figure.stem in lexicon.concepts()

    def _says_what_was_done(self, place: int) -> bool:
        """True for what is known to happen: loaves that were returned are not all loaves."""
        word, before = self.tokens[place].lower, self._before(place)
        return bool(before) and before[-1] in _BEING and word.endswith("ed") and (word,) in lexicon.states()

    def _is_asked(self, place: int) -> bool:
        """True for what is counted, averaged or split by, and for what is split itself."""
        before = self._before(place)
        if not before:
            return self._is_split(place, _SPLITTING)
        if before[-1] in _SPLITTING | _COUNTING | _AVERAGING:
            return True
        if before[-1] == "of" and before[-2:-1] and before[-2] in _AMOUNTS:
            return True
        return place in self.unread and self._is_split(place, _SPLIT_BY) and min(self.figures, default=place) >= place

    def _is_split(self, place: int, words: Container[str]) -> bool:
        """True for employees in employees per supplier, and for fuel in fuel used by vehicle."""
        after = self.tokens[place + 1 : place + 3]
        if after and after[0].lower.endswith("ed"):
            after = after[1:]
        return bool(after) and after[0].lower in words

    def _is_what_for(self, place: int) -> bool:
        """True for equipment in what was spent on equipment."""
        return place > 0 and self.tokens[place - 1].lower in _ON

    def _does_it(self, place: int) -> bool:
        """True for who or what does what is asked: how much did the minibar bring in."""
        before = self._before(place)
        return bool(before) and before[-1] in _DOING and self.tokens[place - 1].lower in _SMALL

    def _before(self, place: int) -> list[str]:
        """The words before a place, without small ones and strange ones right before it."""
        end = place
        while end and (self.tokens[end - 1].lower in _SMALL or end - 1 in self.unread | self.stood_in):
            end -= 1
        return [t.lower for t in self.tokens[:end]]


def tells_its_rows(parts: Sequence[str]) -> bool:
    """True for a table whose name, in stems, says what its rows are."""
    return any(part not in _SAYS_NOTHING for part in parts)


def _is_a_thing(token: Token, *, doing: bool = False) -> bool:
    """True for a noun that leaves something out where it is left out, one of what is done among them if told so."""
    word = token.lower
    if token.stem in _OF_ALL or word in _JOINING or word.endswith("ly"):
        return False
    if word.endswith("ing"):
        return doing
    named = is_noun(token.stem) or token.stem in PERSON_WORDS
    return word.endswith(_OF_NOUNS) or (named and not word.endswith("ed"))
