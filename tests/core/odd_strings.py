"""Whatever may be typed: words of the data and of questions in any order, signs, numbers, other scripts, and noise."""

from __future__ import annotations

import random
from collections.abc import Iterator

from gumption.core.model.catalogue import Catalogue
from gumption.core.reading import lexicon

_SIGNS = [*"()[]{}<>=!?%#&*+-/\\,.;:'\"“”’`~^|@$£€_", "...", "--", "<=", ">=", "->", "w/", "n/a"]
_NUMBERS = [
    "0",
    "-1",
    "1e9",
    "3.5",
    "1,000,000",
    "007",
    "½",
    "2024",
    "31/02/2025",
    "24:61",
    "99999999999999999999",
    "9999",
    "40000",
    "0001",
    "5",
    "12",
    "-0",
]
_TIMES = [
    *("in the last {} years", "next {} months", "{} days ago", "within {} weeks", "in {}", "since {}", "before {}"),
    *("between {} and {}", "31 Dec {}", "Q3 {}", "week {}", "{} quarters before", "for {} hours", "older than {}"),
    *("at {}", "from {} to {}", "{}-12-31", "0001-01-01", "9999-12-31", "until year {}", "day {} of {}"),
]
_ASKED = ["how many", "average", "total", "top {}", "more than {}", "fewer than {}", "per", "by", "only", "with no",
          "share of", "compared with", "each", "over {}", "at least {}", "{} or more", "highest", "is it", "and what about"]  # fmt: skip
_OTHERS = ["Ünïcødé", "数据", "данные", "عدد", "🐶", "\u200b", "\ufeff", "e\u0301", "ß", "İ", "\x00", "\t", "\n", " "]


def odd_strings(catalogue: Catalogue, number: int, seed: int) -> Iterator[str]:
    """So many strings of up to forty words, the same for the same seed."""
    chance = random.Random(seed)
    names = [n for t in catalogue.tables for n in (t.name, *(c.name for c in t.columns))]
    values = [v for t in catalogue.tables for c in t.columns for v in c.values[:5]]
    phrases = [" ".join(p) for p in (*lexicon.phrases(), *lexicon.states())]
    verbs = [*lexicon.verbs(), *(w for forms in lexicon.adjectives() for w in forms)]
    several = [names, names, _ASKED, _TIMES]
    kinds = [*several, values, phrases, phrases, verbs, sorted(lexicon.fillers()), _SIGNS, _NUMBERS, _OTHERS]
    for _ in range(number):
        words = [chance.choice(chance.choice(kinds)) for _ in range(int(chance.expovariate(0.12)) % 40 + 1)]
        words = [w.replace("{}", chance.choice(_NUMBERS)) for w in words]
        if chance.random() < 0.1:
            word = chance.choice(words)
            words = [word] * len(words)
        text = chance.choice([" ", " ", " ", ""]).join(words)
        if chance.random() < 0.2 and text:
            place = chance.randrange(len(text))
            text = text[:place] + chr(chance.randrange(1, 0x2FFF)) + text[place + 1 :]
        yield text
