"""What a question cannot do without and nothing here is: what is counted, asked for, or split by.

An answer without such a word would be of something else, whatever doubt was told with it: the number of visits is no
number of accidents, and all that was spent is not what was spent on equipment.
"""

from __future__ import annotations

from collections.abc import Container, Iterator, Sequence

from gumption.core.reading import lexicon
from gumption.core.reading.tokens import Token, stems
from gumption.core.reading.vocabulary import is_noun

_COUNTING = frozenset(["many", "much"])
_AMOUNTS = frozenset(["number", "count", "amount", "numbers", "total"])
_SPLITTING = frozenset(["by", "per", "each", "every", "which", "whose"])
_ON = frozenset(["on", "from", "for", "with", "without", "about"])
_BEING = frozenset(["was", "were", "is", "are", "been", "got"])
_OF_NOUNS = ("ance", "ence", "ment", "ments", "tion", "tions", "sion", "sions", "ship", "ness")
"""Ends of words that are nouns, whatever else their stem is."""
_BEING = frozenset(["was", "were", "is", "are", "been", "got"])
_OF_NOUNS = ("ance", "ence", "ment", "ments", "tion", "tions", "sion", "sions", "ship", "ness")
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


def lacking(
    tokens: Sequence[Token], unread: Container[int], stood_in: Container[int], figures: Container[int]
) -> Iterator[int]:
    """The places of nouns that were not read, or taken for rows of another name, and that the question is of.

    `figures` are the places where what is measured is named.
    """
    for place, token in enumerate(tokens):
        if token.kind != "word" or (place not in unread and place not in stood_in):
            continue
        before = _words_before(tokens, place)
        last = before[-1] if before else ""
        if place + 1 in figures and is_noun(tokens[place + 1].stem) and _is_a_thing(token, doing=True):
            # The cost of insurance is no cost of all.
            yield place
        elif place in unread and last in _BEING and token.lower.endswith("ed") and (token.lower,) in lexicon.states():
            # Loaves that were returned are not all loaves.
            yield place
        elif not _is_a_thing(token):
            continue
        elif _is_what_is_asked(tokens, place, before) or (
            place in unread and ((place and tokens[place - 1].lower in _ON) or _does_something(tokens, place))
        ):
            yield place


def _is_what_is_asked(tokens: Sequence[Token], place: int, before: Sequence[str]) -> bool:
    """True for what is counted or split by, unless any rows may be called so."""
    first = all(t.kind != "word" or t.lower in _SMALL for t in tokens[:place])
    ahead = first and any(t.lower in _SPLITTING for t in tokens[place + 1 : place + 2])
    behind = before[-1:] and before[-1] in _SPLITTING
    return tokens[place].stem not in _ANY_ROWS and bool(ahead or behind or _is_counted(before))


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
    return word.endswith(_OF_NOUNS) or (is_noun(token.stem) and not word.endswith("ed"))


def _words_before(tokens: Sequence[Token], place: int) -> list[str]:
    """The words before a place, without the small ones right before it."""
    end = place
    while end and tokens[end - 1].lower in _SMALL:
        end -= 1
    return [t.lower for t in tokens[:end]]


def _is_counted(before: Sequence[str]) -> bool:
    """True behind how many, and behind the number of."""
    if before[-1:] and before[-1] in _COUNTING:
        return True
    return len(before) > 1 and before[-1] == "of" and before[-2] in _AMOUNTS


def _does_something(tokens: Sequence[Token], place: int) -> bool:
    """True for who or what does what is asked: how much did the minibar bring in."""
    before = _words_before(tokens, place)
    return bool(before) and before[-1] in _DOING and tokens[place - 1].lower in _SMALL
