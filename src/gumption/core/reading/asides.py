"""What a question says beside itself: a greeting, why it is asked, for whom; and what is said again in other words."""

from __future__ import annotations

import itertools
from collections.abc import Collection, Sequence

from gumption.core.reading import lexicon
from gumption.core.reading.bands import OF_AN_AGE
from gumption.core.reading.tokens import Token

_ENDS = (":", ",", ";", "-", "?", "!")
_LEAST_DEFINING = 2
_HOURS = frozenset(["hours", "hour", "times", "time"])
_HOURS_OF = frozenset(
    ["peak", "office", "rush", "opening", "business", "working", "core", "quiet", "off-peak", "busy", "school"]
)
_AT_HOURS = frozenset(["in", "during", "outside", "at", "within", "outwith", "inside", "on"])
_LAST_HOUR = 24
_MOST_NAMED = 4
_IN_WORDS = frozenset([("that", "is"), ("which", "means"), ("taken", "as"), ("being", "the"), ("defined", "as")])
_MOST_BESIDE = 3
"""Words that an aside may have that are neither small nor of asides."""
_WISHES = (
    ("wants", "to", "know"), ("wants", "to", "see"), ("wants",), ("needs", "to", "know"), ("needs", "to", "see"), ("needs",),
    ("is", "asking", "for"), ("is", "asking", "about"), ("asked", "for"), ("asked", "me", "for"), ("would", "like"),
)  # fmt: skip
_ASKING = frozenset(
    ["how", "what", "what's", "which", "who", "whose", "when", "where", "list", "show", "give", "tell", "compare", "plot", "draw",
     "could", "can", "would", "please", "count"]
)  # fmt: skip
_WANTING = (("i", "need"), ("i", "want"), ("we", "need"), ("i'd", "like"))
_AGAIN = (("i", "mean"), ("in", "other", "words"), ("that", "is", "to", "say"), ("or", "rather"))
_OURS = frozenset(["i", "i'm", "i've", "im", "we", "we're", "we've", "my", "our"])
_UNSURE = ("not", "sure")
_FOR_IT = (
    ("need", "it", "for"), ("needed", "for"), ("i", "need", "it"), ("it's", "for", "my"), ("it's", "for", "the"),
    ("it's", "for", "a"), ("this", "is", "for"), ("for", "my"), ("need", "this", "for"), ("i", "need", "this"),
    ("thanks",), ("thank", "you"), ("cheers",), ("asap",),
)  # fmt: skip


def with_hours(tokens: list[Token]) -> list[Token]:
    """In peak hours (7 to 9 and 16 to 18): the times of day that are said in brackets, and no more of what they are called."""
    begin = next(
        (
            p
            for p in range(1, len(tokens) - 2)
            if tokens[p].lower in _HOURS and tokens[p - 1].lower in _HOURS_OF and tokens[p + 1].lower == "("
        ),
        None,
    )
    if begin is None:
        return tokens
    end = next((p for p in range(begin + 2, len(tokens)) if tokens[p].lower == ")"), len(tokens))
    inside = [_as_clock(t) for t in tokens[begin + 2 : end]]
    if not any(t.kind == "clock" for t in inside):
        return tokens
    start = begin - 1 - (begin > 1 and tokens[begin - 2].lower in _AT_HOURS)
    return [*tokens[:start], *inside, *tokens[end + 1 :]]


def _as_clock(token: Token) -> Token:
    """An hour of the day for a whole number of one."""
    if token.number is None or not 0 <= token.number <= _LAST_HOUR or not token.number.is_integer():
        return token
    told = f"{int(token.number):02d}:00"
    return Token(token.text, "clock", token.start, token.end, told, told)


def without_asides(tokens: list[Token], names: Collection[str]) -> list[Token]:
    """The words that ask, where others stand before or after them; words of the data's `names` are never beside them."""
    start = max((_said_again(tokens, at) for at in range(1, len(tokens))), default=0) or _after_lead(tokens, names)
    found = tokens[start:]
    return found[: _before_tail(found)]


def named_here(tokens: list[Token]) -> set[int]:
    """The places of words that the question itself says the meaning of: churn rate: the share of customers who left.

    Such words stand before a colon, "i.e." or "meaning", or before brackets that hold as much as a clause; they are what
    the answer is called, where the rest is read without them.
    """
    found: set[int] = set()
    for at, token in enumerate(tokens):
        before = [p for p in range(at) if tokens[p].kind != "symbol"]
        if token.lower == ":" or tuple(_lowers(tokens[at : at + 2])) in _IN_WORDS or token.lower in ("i.e", "meaning"):
            if _says_more(tokens[at + 1 :]):
                found.update(before[-_MOST_NAMED:])
        elif token.lower == "(":
            inside = list(itertools.takewhile(lambda t: t.lower != ")", tokens[at + 1 :]))
            aged = any(tokens[p].stem in OF_AN_AGE for p in before[-2:]) and any(t.number is not None for t in inside)
            if aged or _says_more(inside) or any(t.kind == "clock" for t in inside):
                found.update(before[-2:])
    return found


def _says_more(tokens: Sequence[Token]) -> bool:
    """True for as many words as a definition takes."""
    small = lexicon.fillers()
    return sum(t.kind == "word" and t.lower not in small for t in tokens) >= _LEAST_DEFINING


def _lowers(tokens: list[Token]) -> list[str]:
    return [t.lower for t in tokens]


def _asks(tokens: list[Token]) -> bool:
    """True where a question begins here."""
    said = itertools.dropwhile(lambda w: w == "but", (t.lower for t in tokens if t.kind != "symbol"))
    words = list(itertools.islice(said, 2))
    return bool(words) and (words[0] in _ASKING or tuple(words) in _WANTING)


def _said_again(tokens: list[Token], at: int) -> int:
    """Where a question is put again, in other words, after this place; 0 where it is not."""
    for words in _AGAIN:
        end = at + len(words)
        if tuple(_lowers(tokens[at:end])) == words:
            end += len([t for t in tokens[end : end + 1] if t.kind == "symbol" and t.lower in _ENDS])
            if _asks(tokens[end:]) and _asks(tokens):
                return end
    return 0


def _after_lead(tokens: list[Token], names: Collection[str]) -> int:
    """Where the question begins, behind what was said before it."""
    start = 0
    for at, token in enumerate(tokens[:-1]):
        ends = token.kind == "symbol" and token.lower in _ENDS
        begins = at + 1 if ends else at
        asks = _asks(tokens[begins:])
        if not ends and not asks:
            continue
        clause = [t for t in tokens[start:at] if t.kind != "symbol"]
        if clause and _is_aside(clause, names, ends=ends, asks=asks):
            start = begins
    return max(start, _after_wish(tokens, start, names))


def _after_wish(tokens: list[Token], start: int, names: Collection[str]) -> int:
    """Where it begins behind whose wish it is, such as my boss wants to know; 0 where nobody's is told."""
    for at in range(start + 1, len(tokens) - 1):
        for words in _WISHES:
            end = at + len(words)
            if tuple(_lowers(tokens[at:end])) == words and _is_aside(tokens[start:at], names, ends=False, asks=True):
                return end
    return 0


def _before_tail(tokens: list[Token]) -> int:
    """Where the question ends, before what is said after it."""
    for at in range(len(tokens) - 1, 1, -1):
        if tokens[at].kind == "symbol" and tokens[at].lower in _ENDS:
            clause = [t for t in tokens[at + 1 :] if t.kind != "symbol"]
            words = tuple(_lowers(clause))
            if any(words[: len(said)] == said for said in _FOR_IT) and _is_aside(clause, (), ends=True, asks=True):
                return at
    return len(tokens)


def _is_aside(clause: list[Token], names: Collection[str], *, ends: bool, asks: bool) -> bool:
    """True where a clause says nothing of the data: its words are of the one who asks.

    `ends` where a sign ends it, `asks` where a question begins behind it.
    """
    if any(t.kind not in ("word", "clock") for t in clause):
        return False
    sure, beside = lexicon.asides()
    told = any(t.stem in sure and t.lower not in names for t in clause)
    small = lexicon.fillers() | lexicon.chatter() | {"by"}
    content = [t for t in clause if t.kind == "word" and t.lower not in small and t.stem not in sure | beside]
    if not content:
        return (told and (asks or ends)) or (asks and ends and not any(t.stem in beside for t in clause))
    named = any((t.text[:1].isupper() and t is not clause[0]) or t.lower in names for t in content)
    ours = bool(_OURS & set(_lowers(clause))) or tuple(_lowers(clause[:2])) == _UNSURE
    return asks and ends and told and not named and ours and len(content) <= _MOST_BESIDE
