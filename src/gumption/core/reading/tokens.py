"""A question as tokens that keep their places."""

from __future__ import annotations

import functools
import re
from dataclasses import dataclass
from typing import Literal

import snowballstemmer

_STEMMER = snowballstemmer.stemmer("english")
_TOKEN = re.compile(
    r"""(?P<quoted>"[^"]+"|“[^”]+”|(?<!\w)'[^']+'(?!\w))
      | (?P<date>\d{4}-\d{1,2}-\d{1,2}|\d{1,2}[./]\d{1,2}[./]\d{4})
      | (?P<number>[£€$]?(?:\d{1,3}(?:,\d{3})+|\d+)(?:\.\d+)?(?:%|(?:k|m|bn|mn|s)\b|(?:st|nd|rd|th)\b)?)
      | (?P<word>[^\W\d_](?:[\w&]|[-'’.@](?=\w))*)""",
    re.VERBOSE | re.IGNORECASE,
)
_SCALES = {"k": 1e3, "m": 1e6, "mn": 1e6, "bn": 1e9}


@dataclass(frozen=True)
class Token:
    """A word, number, date or quoted text, and where it stands in the question."""

    text: str
    kind: Literal["word", "number", "date", "quoted"]
    start: int
    end: int
    lower: str
    stem: str
    number: float | None = None
    percent: bool = False


@functools.lru_cache(maxsize=100_000)
def stem(word: str) -> str:
    """The word without its endings, lower case; a possessive 's goes first."""
    plain = word.lower().replace("’", "'")
    plain = plain.removesuffix("'s").removesuffix("'")
    return str(_STEMMER.stemWord(plain)) if plain.isascii() else plain


def tokenise(question: str) -> list[Token]:
    """The tokens of a question, in order."""
    found = []
    for match in _TOKEN.finditer(question):
        kind = match.lastgroup
        text = match.group()
        if kind == "quoted":
            inner = text[1:-1]
            found.append(Token(inner, "quoted", match.start(), match.end(), inner.lower(), inner.lower()))
        elif kind == "number":
            value = text.lstrip("£€$").replace(",", "").lower()
            scale = 1.0
            percent = value.endswith("%")
            ending = re.search(r"[a-z%]+$", value)
            if ending:
                scale = _SCALES.get(ending[0], 1.0)
                value = value[: ending.start()]
            found.append(
                Token(
                    text,
                    "number",
                    match.start(),
                    match.end(),
                    text.lower(),
                    text.lower(),
                    float(value) * scale,
                    percent,
                )
            )
        elif kind == "date":
            found.append(Token(text, "date", match.start(), match.end(), text, text))
        else:
            lower = text.lower().replace("’", "'")
            found.append(Token(text, "word", match.start(), match.end(), lower, stem(lower)))
    return _with_scales(_with_number_words(found))


_NUMBER_WORDS = {
    w: float(i)
    for i, w in enumerate(
        ["zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"]
    )
}
_NUMBER_WORDS |= {"fifteen": 15.0, "twenty": 20.0, "thirty": 30.0, "fifty": 50.0, "hundred": 100.0, "dozen": 12.0}


def _with_number_words(tokens: list[Token]) -> list[Token]:
    return [
        Token(t.text, "number", t.start, t.end, t.lower, t.lower, _NUMBER_WORDS[t.lower])
        if t.kind == "word" and t.lower in _NUMBER_WORDS
        else t
        for t in tokens
    ]


def _with_scales(tokens: list[Token]) -> list[Token]:
    """`5 million` as one number, `30 percent` as 30%."""
    scales = {"hundred": 1e2, "thousand": 1e3, "million": 1e6, "billion": 1e9}
    joined: list[Token] = []
    for token in tokens:
        last = joined[-1] if joined else None
        if last is not None and last.kind == "number" and last.number is not None and last.start != token.start:
            scale = scales.get(token.lower) if token.text != last.text else None
            if scale or token.lower in ("percent", "per-cent"):
                text = f"{last.text} {token.text}"
                joined[-1] = Token(
                    text,
                    "number",
                    last.start,
                    token.end,
                    text.lower(),
                    text.lower(),
                    last.number * (scale or 1),
                    last.percent or not scale,
                )
                continue
        joined.append(token)
    return joined
