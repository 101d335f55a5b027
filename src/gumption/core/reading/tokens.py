"""A question as tokens that keep their places."""

from __future__ import annotations

import dataclasses
import functools
import re
from dataclasses import dataclass
from typing import Literal

import snowballstemmer

from gumption.core.plan.words import MONTH_NAMES

_STEMMER = snowballstemmer.stemmer("english")
_STEMMER.maxCacheSize = 0  # `stem` remembers more
_TOKEN = re.compile(
    r"""(?P<quoted>"[^"]+"|“[^”]+”|(?<!\w)'[^']+'(?!\w))
      | (?P<date>\d{4}-\d{1,2}-\d{1,2}|\d{1,2}[./]\d{1,2}[./]\d{4})
      | (?P<clock>\d{1,2}:\d{2}(?::\d{2})?(?:\s?[ap]m\b)?|\d{1,2}(?:\.\d{2})?\s?[ap]m\b|\bnoon\b|\bmidday\b|\bmidnight\b)
      | (?P<year>(?:19|20)\d{2})(?=q[1-4]\b)
      | (?P<short_year>(?<!\w)['’]\d{2}(?![\w'’]))
      | (?P<number>(?:(?<![\w)])[-−])?[£€$]?(?:\d{1,3}(?:,\d{3})+|\d+)(?:\.\d+)?(?:(?:k|m|bn|mn|s)\b|(?:st|nd|rd|th)\b)?(?![^\W_]))
      | (?P<word>(?:w/o|w/|[^\W_](?:[\w&]|[-'’.@](?=\w))*))
      | (?P<symbol>>=|<=|=>|=<|!=|<>|[%≠\#<>=≥≤&,+/;?!×*:~()→↑↓-])""",
    re.VERBOSE | re.IGNORECASE,
)
_SCALES = {"k": 1e3, "m": 1e6, "mn": 1e6, "bn": 1e9}
_GLUED = re.compile(
    r"(\d+(?:[.,]\d+)?)(kgs?|g|lbs?|oz|kms?|cm|mm|ft|mi|l|ml|hr?s?|mins?|secs?|days?|d|yrs?|years?|months?|mths?|weeks?|wks?"
    r"|hours?|minutes?|mph|kph|kwh?|gb|mb|x|pct|pc|stars?|pts|beds?)"
)
"""A number with its unit written to it."""
TokenKind = Literal["word", "number", "date", "clock", "quoted", "symbol", "term"]


@dataclass(frozen=True)
class Token:
    """A word, number, date, time of day, quoted text, sign or word of the house's own, and where it stands in the question."""

    text: str
    kind: TokenKind
    start: int
    end: int
    lower: str
    stem: str
    number: float | None = None
    money: bool = False
    meant: bool = False
    """A small word that says something here: the "up" of went up, IT as the name of a department."""


_IRREGULAR = dict(
    pair.split("=")
    for pair in [
        "spent=spend",
        "satisfied=satisfy",
        "satisfaction=satisfy",
        "skus=sku",
        "departments=department",
        "menus=menu",
        "admission=admit",
        "admissions=admit",
        "readmission=readmit",
        "readmissions=readmit",
        "submission=submit",
        "submissions=submit",
        "transmission=transmit",
        "decision=decide",
        "decisions=decide",
        "ratings=rating",
        "rated=rating",
        "calves=calf",
        "halves=half",
        "wives=wife",
        "knives=knife",
        "lives=life",
        "wolves=wolf",
        "loaves=loaf",
        "shelves=shelf",
        "children=child",
        "men=man",
        "women=woman",
        "feet=foot",
        "geese=goose",
        "mice=mouse",
        "teeth=tooth",
        "indices=index",
        "criteria=criterion",
        "diagnoses=diagnosis",
        "analyses=analysis",
        "sold=sell",
        "bought=buy",
        "paid=pay",
        "gave=give",
        "given=give",
        "brought=bring",
        "took=take",
        "taken=take",
        "made=make",
        "lent=lend",
        "sent=send",
        "held=hold",
        "kept=keep",
        "lost=lose",
        "won=win",
        "ran=run",
        "grew=grow",
        "grown=grow",
        "fell=fall",
        "fallen=fall",
        "rose=rise",
        "risen=rise",
        "began=begin",
        "begun=begin",
        "broke=break",
        "broken=break",
        "chose=choose",
        "chosen=choose",
        "wrote=write",
        "written=write",
        "flew=fly",
        "flown=fly",
        "drove=drive",
        "driven=drive",
        "taught=teach",
        "slept=sleep",
        "built=build",
        "shown=show",
        "showed=show",
        "staves=staff",
        "heard=hear",
        "ate=eat",
        "eaten=eat",
        "drank=drink",
        "fed=feed",
        "caught=catch",
        "rode=ride",
        "ridden=ride",
        "spoke=speak",
        "spoken=speak",
        "stole=steal",
        "stolen=steal",
        "threw=throw",
        "thrown=throw",
        "wore=wear",
        "worn=wear",
        "drew=draw",
        "drawn=draw",
        "shrank=shrink",
        "shrunk=shrink",
        "timer=time",
        "timers=time",
    ]
)


_VOWELS = frozenset("aeiouy")
_WHOLE = frozenset(["rating", "department"])
"""Words whose ending is a part of them: a rating is no rate, and nobody departs from a department."""
_DOER = re.compile(r"[a-z]{3,}(?:ator|tioneer)s?")
"""Those who do something, where the stem would be that of what is done."""


@functools.lru_cache(maxsize=100_000)
def stem(word: str) -> str:
    """The word without its endings, lower case; a possessive 's goes first."""
    plain = word.lower().replace("’", "'")
    plain = plain.removesuffix("'s").removesuffix("'")
    plain = _IRREGULAR.get(plain, plain)
    if plain in _WHOLE:
        return plain
    if _DOER.fullmatch(plain):
        # An auctioneer is no auction, and an operator no operation.
        return plain.removesuffix("s")
    if 3 <= len(plain) <= 4 and plain[-1] == "s" and not _VOWELS & {*plain}:
        # GPs and TVs are several of what is written in capitals.
        return plain[:-1]
    return str(_STEMMER.stemWord(plain)) if plain.isascii() else plain


def stems(words: str) -> frozenset[str]:
    """The stems of some words, parted by blanks."""
    return frozenset(stem(w) for w in words.split())


def tokenise(question: str) -> list[Token]:
    """The tokens of a question, in order."""
    found = []
    for match in _TOKEN.finditer(question):
        text, start, end = match.group(), match.start(), match.end()
        match match.lastgroup:
            case "quoted":
                found.append(Token(text[1:-1], "quoted", start, end, text[1:-1].lower(), text[1:-1].lower()))
            case "number" | "year":
                found.append(_number(text, start, end))
            case "short_year":
                found.append(_year_of(text[1:], start, end))
            case "date":
                found.append(Token(text, "date", start, end, text, text))
            case "clock":
                found.append(Token(text, "clock", start, end, text.lower(), text.lower()))
            case "symbol" if text == "-" and _joins(question, found, start, end):
                # A 7-day average is one over 7 days.
                continue
            case "symbol":
                found.append(Token(text, "symbol", start, end, text, text))
            case _:
                found.extend(_words(text, start, end))
    return _with_countries(_with_turns(_with_scales(_with_number_words(found))))


_GOING = frozenset(["go", "goes", "going", "gone", "went"])
_BEING = frozenset(["is", "are", "was", "were", "being"])
_UNITS = (["year"], ["month"], ["week"], ["quarter"])


def _asks_whether(tokens: list[Token], place: int) -> bool:
    """True for what is said of something: which are up, is the price down."""
    return bool(_BEING & {tokens[0].lower, tokens[place - 1].lower})


def _ends(tokens: list[Token], place: int) -> bool:
    """True for the last word that there is."""
    return all(t.kind == "symbol" for t in tokens[place + 1 :])


def _with_turns(tokens: list[Token]) -> list[Token]:
    """What went up or down changed, and this year is one: there the small word says all of it."""
    return [
        dataclasses.replace(t, meant=True)
        if (t.lower in ("up", "down") and place and tokens[place - 1].lower in _GOING)
        or (t.lower in ("up", "down") and place and _ends(tokens, place) and _asks_whether(tokens, place))
        or (t.lower == "this" and [w.lower for w in tokens[place + 1 : place + 2]] in _UNITS)
        else t
        for place, t in enumerate(tokens)
    ]


def _with_countries(tokens: list[Token]) -> list[Token]:
    """Those in the US, or in the us, are not in us."""
    written_small = any(t.text.islower() for t in tokens)
    return [
        dataclasses.replace(t, text="US", meant=True)
        if t.lower == "us" and ((t.text == "US" and written_small) or (place and tokens[place - 1].lower == "the"))
        else t
        for place, t in enumerate(tokens)
    ]


def _joins(question: str, before: list[Token], start: int, end: int) -> bool:
    """True for a hyphen between a number and a word, with no blank on either side."""
    return (
        bool(before) and before[-1].kind == "number" and before[-1].end == start and question[end : end + 1].isalpha()
    )


def _year_of(digits: str, start: int, end: int) -> Token:
    """A year that may be told by its last two digits: '24 is 2024."""
    year = int(digits)
    full = str(year if len(digits) == 4 else 2000 + year if year <= 50 else 1900 + year)
    return Token(full, "number", start, end, full, full, float(full))


def _words(text: str, start: int, end: int) -> list[Token]:
    """A word as one token, or as two where a hyphen only joins them."""
    # A capital sigma adds up; a small one is the deviation.
    lower = "sum" if text in ("Σ", "∑") else text.lower().replace("’", "'")
    if not text.endswith("D") and (glued := _GLUED.fullmatch(lower)):
        cut = start + len(glued[1])
        return [
            _number(glued[1].replace(",", "."), start, cut),
            Token(text[len(glued[1]) :], "word", cut, end, glued[2], stem(glued[2])),
        ]
    first, hyphen, rest = lower.partition("-")
    if not hyphen:
        return [Token(text, "word", start, end, lower, stem(lower))]
    cut = start + len(first)
    head = Token(text[: len(first)], "word", start, cut, first, stem(first))
    tail = Token(text[len(first) + 1 :], "word", cut + 1, end, rest, stem(rest))
    if first in ("over", "under") and rest.removesuffix("s").isdigit():
        # The over-80s.
        return [head, tail]
    if rest.isdigit() and first in _DATED and (len(rest) == 4 or (len(rest) == 2 and first not in _PARTS_OF_A_YEAR)):
        # Mar-25 is March 2025, and mid-2024 the middle of that year.
        return [head, _year_of(rest, cut, end)]
    if first in _DATED and rest in _DATED and first not in _PARTS_OF_A_YEAR:
        # January-May 2025
        return [head, Token("-", "symbol", cut, cut + 1, "-", "-"), tail]
    if first == "non" and rest.isalpha():
        return [head, tail]
    one, joint, other = lower.partition("-to-")
    if joint and one.isalpha() and other.isalpha() and one != other and one not in _UP_TO:
        # The cost-to-income ratio is of the one to the other.
        middle = start + len(one)
        return [
            Token(text[: len(one)], "word", start, middle, one, stem(one)),
            Token("to", "word", middle + 1, middle + 3, "to", "to"),
            Token(text[len(one) + len(joint) :], "word", middle + len(joint), end, other, stem(other)),
        ]
    # Two-bed has two beds, lowest-calorie the lowest calories, and cost-wise is told by the cost.
    counted = first in _NUMBER_WORDS and first not in _AMBIGUOUS and rest not in _FOLDS
    measured = first in _EXTREMES or rest == "wise" or (first in _BESIDES and rest in _MIDDLES)
    if rest.isalpha() and (counted or measured or (first in _PARTS_OF_A_YEAR and rest in _DATED)):
        return [head, dataclasses.replace(tail, text=text[len(first) :], start=cut)]
    return [Token(text, "word", start, end, lower, stem(lower))]


def _number(text: str, start: int, end: int) -> Token:
    value = text.replace("−", "-").replace(",", "").lower()
    sign = -1.0 if value.startswith("-") else 1.0
    value = value.lstrip("-")
    money = value[:1] in "£€$"
    value = value.lstrip("£€$")
    scale = 1.0
    if ending := re.search(r"[a-z]+$", value):
        scale = _SCALES.get(ending[0], 1.0)
        value = value[: ending.start()]
    return Token(text, "number", start, end, text.lower(), text.lower(), sign * float(value) * scale, money)


_NUMBER_WORDS = {
    w: float(i)
    for i, w in enumerate(
        [
            "zero",
            "one",
            "two",
            "three",
            "four",
            "five",
            "six",
            "seven",
            "eight",
            "nine",
            "ten",
            "eleven",
            "twelve",
            "thirteen",
            "fourteen",
            "fifteen",
            "sixteen",
            "seventeen",
            "eighteen",
            "nineteen",
            "twenty",
        ]
    )
}
_NUMBER_WORDS |= {"thirty": 30.0, "forty": 40.0, "fifty": 50.0, "sixty": 60.0, "eighty": 80.0, "ninety": 90.0}
_NUMBER_WORDS |= {"hundred": 100.0, "thousand": 1000.0, "dozen": 12.0, "once": 1.0, "twice": 2.0, "half": 0.5}
_AMBIGUOUS = frozenset(["one", "once", "twice", "half", "zero"])
"""Number words that are more often something else; they are numbers only where the grammar asks for one."""


_PARTS_OF_A_YEAR = frozenset(["early", "mid", "late", "pre", "post"])
_DATED = _PARTS_OF_A_YEAR | {spelled for name in MONTH_NAMES for spelled in (name.lower(), name[:3].lower())}
"""What stands before a year."""
_BESIDES = frozenset(["above", "below", "over", "under", "sub", "non"])
_UP_TO = frozenset(
    ["year", "month", "week", "day", "up", "end", "how", "start", "down", "business", "made", "ready", "hard"]
)
"""What begins a word of its own: up-to-date, year-to-date, end-to-end, hard-to-fill."""
_MIDDLES = frozenset(["average", "mean", "median", "par", "normal", "avg"])
_EXTREMES = frozenset(["lowest", "highest", "largest", "smallest", "biggest", "longest", "shortest"])
_FOLDS = frozenset(["fold", "way", "thirds", "third", "quarters", "fifths", "tenths", "time", "times", "off"])
"""What makes one word with a number: two-thirds, three-way."""


def _with_number_words(tokens: list[Token]) -> list[Token]:
    found = []
    for token in tokens:
        if token.kind == "word" and token.lower in _NUMBER_WORDS:
            kind: TokenKind = "word" if token.lower in _AMBIGUOUS else "number"
            number = _NUMBER_WORDS[token.lower]
            token = Token(token.text, kind, token.start, token.end, token.lower, token.lower, number)
        found.append(token)
    return found


_PARTS_OF_A_SCALE = (
    (("a", "quarter", "of", "a"), 0.25),
    (("quarter", "of", "a"), 0.25),
    (("half", "a"), 0.5),
    (("a",), 1.0),
    (("one",), 1.0),
)
"""What of a thousand or a million is told before it."""


CURRENCIES = frozenset(["pound", "euro", "dollar", "quid", "buck"])


def _with_scales(tokens: list[Token]) -> list[Token]:
    """`5 million` as one number."""
    scales = {"dozen": 12.0, "hundred": 1e2, "thousand": 1e3, "million": 1e6, "billion": 1e9}
    joined: list[Token] = []
    for token in tokens:
        last = joined[-1] if joined else None
        if token.stem in CURRENCIES and last is not None and last.kind == "number":
            joined[-1] = dataclasses.replace(last, money=True)
        if token.lower == "half" and [t.lower for t in joined[-2:]] == ["and", "a"] and len(joined) > 2:
            whole = joined[-3]
            if whole.number is not None and (whole.kind == "number" or whole.lower == "one"):
                # Two and a half.
                del joined[-3:]
                text = f"{whole.text} and a half"
                joined.append(
                    Token(text, "number", whole.start, token.end, text, text, whole.number + 0.5, whole.money)
                )
                continue
        if token.lower in scales:
            for words, part in _PARTS_OF_A_SCALE:
                if tuple(t.lower for t in joined[-len(words) :]) == words:
                    first, *_ = joined[-len(words) :]
                    del joined[-len(words) :]
                    last = Token(" ".join(words), "number", first.start, token.start, "", "", part)
                    joined.append(last)
                    break
        if last is not None and last.kind == "number" and last.number is not None and token.lower in scales:
            text = f"{last.text} {token.text}"
            number = last.number * scales[token.lower]
            joined[-1] = Token(text, "number", last.start, token.end, text.lower(), text.lower(), number, last.money)
            continue
        joined.append(token)
    return joined


def clock(text: str) -> str | None:
    """A time of day as written in a question, as ISO text: 6pm is 18:00:00."""
    plain = text.lower().replace(" ", "")
    if plain in ("noon", "midday"):
        return "12:00:00"
    if plain == "midnight":
        return "00:00:00"
    found = re.fullmatch(r"(\d{1,2})(?:[:.](\d{2}))?(?::(\d{2}))?([ap]m)?", plain)
    if found is None:
        return None
    hour, minute = int(found[1]), int(found[2] or 0)
    if found[4]:
        hour = hour % 12 + (12 if found[4] == "pm" else 0)
    return f"{hour:02d}:{minute:02d}:00" if hour < 24 and minute < 60 else None
