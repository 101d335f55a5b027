"""Which word a misspelled one stands for: the nearest of those that mean something here, by how few slips make it."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator

from rapidfuzz import process
from rapidfuzz.distance import OSA

SHORTEST = 4
"""Letters that a word has at least that is put right: of shorter ones too many are near."""
_LONG = 9
"""Letters from which on two slips may stand in a word of the workspace."""
_NEAREST = 12
"""Words looked at for each misspelled one."""
_LESS_OWN = 0.35
"""How much farther a word is that only asks, or is only an idea, than one of the workspace."""
_OF_THE_COMMONEST = 0.4
"""Of that, for the words that questions are full of."""
_APART = 0.15
"""How much nearer a word has to be than the next one."""
_COMMONEST = frozenset(
    [
        "which",
        "what",
        "when",
        "where",
        "many",
        "much",
        "total",
        "average",
        "month",
        "year",
        "last",
        "this",
        "each",
        "with",
    ]
)
"""Words that questions begin with and are full of."""
_SMALL = ("how", "the", "and", "for", "who", "are", "many", "much", "what", "last", "this", "each", "with")
"""Words that three letters may stand for."""
_ENDINGS = frozenset(
    ["", "s", "e", "es", "ed", "d", "ing", "er", "ers", "or", "ors", "r", "rs", "ly", "y", "ies", "ied", "ion", "ions",
     "ation", "ations", "ment", "ments", "ness", "al", "ally", "ive", "ous", "able", "ible", "ance", "ances", "ence",
     "ences", "ity", "ities", "ial", "ist", "ists", "ful", "less", "age", "ages", "ant", "ants", "ent", "ents", "ar",
     "ary", "ory", "ure", "ures", "ic", "ical", "ate", "ates", "ated", "ating", "ator", "ators", "ship", "ships",
     "le", "les", "led", "en", "ens", "ened", "est", "ier", "iest", "t", "ern", "uous", "ality", "ively"]
)  # fmt: skip
"""What may stand behind the stem of an everyday word."""


def is_regular(word: str, stem: str) -> bool:
    """True where a word is its stem and an ending that words have: "departements" is not."""
    if not word.startswith(stem):
        # A y that became an i, a doubled letter: whatever makes another stem of a word is regular.
        return True
    return word[len(stem) :] in _ENDINGS


def forms(word: str) -> Iterator[str]:
    """A word as it stands, of one and of several, and what those do that are called after it: handler, handles."""
    yield word
    if word.endswith("ies"):
        yield f"{word[:-3]}y"
    elif word.endswith("s") and not word.endswith("ss"):
        yield word[:-1]
    elif word.endswith("y") and word[-2:-1] not in "aeiou":
        yield f"{word[:-1]}ies"
    elif word.endswith(("s", "x", "ch", "sh")):
        yield f"{word}es"
    else:
        yield f"{word}s"
    if word.endswith("er") and len(word) > 5:
        yield from (f"{word[:-2]}es", f"{word[:-1]}s", f"{word[:-1]}d", f"{word[:-2]}ed")


class Speller:
    """Words in order of how much they mean here: those of the workspace first, then those that ask, then all ideas."""

    def __init__(self, own: Iterable[str], asking: Iterable[str], ideas: Iterable[str]) -> None:
        self._rank: dict[str, int] = {}
        for rank, words in enumerate((own, asking, ideas)):
            for word in words:
                plain = re.fullmatch(r"[a-z]{3,}", word) is not None
                for form in (forms(word) if rank != 1 else (word,)) if plain else ():
                    if len(form) >= SHORTEST:
                        self._rank.setdefault(form, rank)
        self._words = sorted(self._rank)
        self._mended: dict[str, str | None] = {}

    def is_own(self, word: str) -> bool:
        """True for a word of the workspace: of its names or its values."""
        return self._rank.get(word) == 0

    def mended(self, word: str) -> str | None:
        """The word that a misspelled one stands for; None where none is near, or several are equally so."""
        if word not in self._mended:
            long = len(word) >= SHORTEST
            self._mended[word] = (self._nearest(word) if long else _short(word)) if word.isalpha() else None
        return self._mended[word]

    def _nearest(self, word: str) -> str | None:
        slips = 2 if len(word) >= _LONG else 1
        near = process.extract(word, self._words, scorer=OSA.distance, score_cutoff=slips, limit=_NEAREST)
        ranked = sorted(
            (
                _far(word, found, slips)
                + _LESS_OWN * (_OF_THE_COMMONEST if found in _COMMONEST else self._rank[found]),
                found,
            )
            for found, slips, _ in near
            if slips < 2 or self.is_own(found)
        )
        if not ranked or ranked[0][1] == word:
            return None
        # Of two words about as near, the one that questions are full of is meant.
        close = [one for one in ranked if one[0] - ranked[0][0] < _APART]
        far, best = next((one for one in close if one[1] in _COMMONEST), ranked[0])
        rivals = [one for one, other in ranked if not _are_one(other, best)]
        sure = self.is_own(best) or best in _COMMONEST or not rivals or rivals[0] - far >= _APART
        return best if sure else None


def _short(word: str) -> str | None:
    """The small word of a question that three letters stand for, where two of them changed places or a vowel is lacking."""
    if len(word) != 3:
        return None
    swapped = [w for w in _SMALL if sorted(w) == sorted(word) and OSA.distance(w, word) == 1]
    near = swapped or [w for w in _SMALL if re.sub(r"[aeiou]", "", w) == word]
    return near[0] if len(near) == 1 else None


def _far(word: str, other: str, slips: int) -> float:
    """How far a word is from another: two letters that changed places are the commonest slip, a wrong first letter the rarest."""
    far = float(slips)
    if slips == 1 and len(word) == len(other):
        far = 0.5 if sorted(word) == sorted(other) else 1.2
    elif slips == 1:
        longer, shorter = (word, other) if len(word) > len(other) else (other, word)
        twice = any(longer[i] == longer[i + 1] and longer[:i] + longer[i + 1 :] == shorter for i in range(len(shorter)))
        far = 0.5 if twice else 0.8 if len(other) > len(word) else 1.0
    return far + (0.0 if word[0] == other[0] else 0.6)


def _are_one(one: str, other: str) -> bool:
    """True for a word and its plural."""
    return one.startswith(other) or other.startswith(one)
