"""The workspace's own words: names of tables and columns, what was said of them, and the values that stand in them."""

from __future__ import annotations

import dataclasses
import datetime as dt
import functools
import itertools
import math
import re
from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from gumption.core.model.catalogue import Catalogue, Column, Table
from gumption.core.model.names import spaced
from gumption.core.model.types import Role, Type
from gumption.core.plan.words import DAY_NAMES, MONTH_NAMES, rows_called, spoken
from gumption.core.reading import lexicon
from gumption.core.reading.lexicon import concepts, expanded, related
from gumption.core.reading.meaning import ColumnKey, LengthUnit
from gumption.core.reading.spelling import Speller
from gumption.core.reading.times import TIME_WORDS, are_periods
from gumption.core.reading.tokens import stem, stems
from gumption.core.reading.value_index import ValueIndex

LONGEST_VALUE = 6
_SPELLED_VALUES = 500
"""Different values that a column has at most whose words are known, and put right where they are misspelled."""
_ARTICLES = frozenset(
    ["a", "an", "the", "of", "in", "on", "at", "for", "to", "by", "was", "is", "and", "or", "it", "that"]
)
_ASKED_WITH = frozenset(["how"])
BIRTH = frozenset(stem(w) for w in ["birth", "born", "birthday"])
_LOOSE = frozenset(["id", "key", "code", "number", "no", "ref", "identifi", "flag", "ind", "indic", "yn"])
"""Parts of a name that only say that it tells rows apart."""
_QUALIFIERS = frozenset(
    [
        "net",
        "gross",
        "eur",
        "gbp",
        "usd",
        "kg",
        "km",
        "g",
        "t",
        "ha",
        "l",
        "kwh",
        "mwh",
        "cm",
        "mm",
        "sec",
        "secs",
        "seconds",
        "min",
        "mins",
        "minutes",
        "hours",
        "hrs",
        "days",
        "pct",
        "percent",
        "avg",
        "average",
        "max",
        "name",
    ]
)
"""Words behind the head of a name: its unit, or which of several it is."""
_SHORT_IN_DATES = {
    "exp": "expiry", "rep": "reported", "set": "settled", "inc": "inception", "ren": "renewal", "del": "delivered",
    "comp": "completed", "reg": "registered", "fin": "finished", "st": "start", "iss": "issued", "rec": "received",
}  # fmt: skip
"""What is written in short in the names of dates, where it may be short for something else elsewhere."""
_WHOLES = frozenset(stem(w) for w in ["total", "overall"])
_RATES = frozenset(
    stem(w) for w in ["yield", "rate", "ratio", "margin", "growth", "percentage", "return", "index", "average", "share"]
)
"""Words of what is worked out of a thing, and no other words for it."""
_NUMBERED = frozenset(["age", "hour", "month", "week", "grade", "weekday"])
_OF_ROWS = re.compile(
    r"\b(?:of|is|are) (?:the|a|an|each) ([a-z]{3,})\b(?! (?:of|group|number)\b)|\bthe ([a-z]{3,})'s\b"
)
_HEADS = frozenset(
    stem(w) for w in ["people", "persons", "population", "residents", "inhabitants", "headcount", "citizens"]
)
_NEVER_ADDED = frozenset(stem(w) for w in ["price", "median", "mean", "average", "avg", "rate", "index", "med"])
_PRICE = stem("price")
PAID_FOR_THEM = frozenset(["cost", "costs", "buy", "buying", "bought", "purchase", "purchased", "trade", "wholesale"])
"""What stands in the name of an amount that was paid for a thing, and not asked for it."""
_PRICED = frozenset(stem(w) for w in ["price", "cost", "rate", "value", "charge", "fee"])
_COUNTED_IDEAS = frozenset(stem(w) for w in ["quantity", "units"])
_AMOUNT_WORDS = frozenset(stem(w) for w in ["amount", "value", "sum", "figure", "money", "total"])
_TIME_WORDS = frozenset(stem(w) for w in ["time", "times", "duration", "length"])
_PARTS_OF_TIME = [[w] for w in ("month", "week", "quarter", "day", "weekday", "hour")]
_TIME_UNITS = frozenset(["secs", "seconds", "mins", "min", "minutes", "hours", "hrs", "days"])
_UNIT_STEMS = frozenset(
    stem(w) for w in ["secs", "seconds", "minutes", "weeks", "kg", "gbp", "eur", "usd", "km", "cm", "mm", "each"]
)
"""Units behind a name, which add nothing to it."""
KIND_WORDS = frozenset(
    stem(w) for w in ["type", "kind", "category", "class", "sort", "group", "segment", "sector", "method"]
)
_TELLING_ROLES = frozenset([Role.IDENTIFIER, Role.LINK, Role.CODE])
_MARKED = frozenset(["score", "mark", "marks", "test", "result", "grade", "exam", "points"])
_MARKS = frozenset(stem(w) for w in _MARKED)
FOR_A_HEAD = frozenset(stem(w) for w in ["capita", "percapita", "percap", "head", "person", "inhabitant"])
"""What a column is called, or a question asks for, that stands for each person."""
CAPITA = frozenset(stem(w) for w in ["capita", "percapita", "percap"])
_PER = frozenset([stem("per")])
_OF_MONEY = frozenset(stem(w) for w in ["value", "money"])
_IN_STOCK_PARTS = frozenset(["stock", "soh", "inventory"])
"""Of so many in stock, the value is no number."""
_SHARE_WORDS = frozenset(stem(w) for w in ["share", "percent", "percentage", "rate", "proportion"])
_DATED = frozenset(["date", "day", "on", "at", "dt", "when", "time"])
GENERIC_MONEY = frozenset(["total", "amount", "gross", "net", "valu", "revenu", "sum", "price", "cost", "line"])
INCOME_WORDS = frozenset(
    stem(w) for w in ["sales", "sale", "revenue", "turnover", "income", "takings", "earned", "earnings", "raised"]
)
SPENDING_WORDS = frozenset(stem(w) for w in ["spend", "spending", "spent", "cost", "costs", "outlay", "expenditure"])
COST_PARTS = frozenset(stem(w) for w in ["cost", "cogs", "costs", "spend", "expense", "expenses", "wage", "salary"])
INCOME_PARTS = frozenset(stem(w) for w in ["revenue", "income", "sales", "sale", "turnover", "takings"])
OUTGOING = frozenset(
    stem(w)
    for w in [
        "bought",
        "purchase",
        "purchases",
        "expense",
        "expenses",
        "supply",
        "supplies",
        "supplier",
        "wages",
        "payroll",
    ]
)
"""Words of tables and columns by which their money went out."""
IN_ALL = frozenset(["total", "all", "overall", "gross"])
"""What a column is called that has all of something, beside others that have parts of it."""
PERSON_WORDS = stems(
    "person name user requester caller employee staff customer member guest patient donor owner student pupil contact"
    " resident tenant agent mechanic driver manager player teacher seller rep volunteer worker borrower reader client"
    " handler assignee reporter author reviewer adviser advisor officer consultant technician nurse doctor therapist coach"
    " instructor tutor carer supervisor operator inspector engineer holder subscriber applicant candidate participant buyer"
    " clerk delegate attendee trainee learner runner athlete swimmer rider referee server dentist recipient grantee claimant"
    " beneficiary hirer organiser organizer booker"
)
"""What people are called by what they do, buy or belong to."""
BUYERS = frozenset(
    stem(w)
    for w in [
        "recipient",
        "grantee",
        "claimant",
        "beneficiary",
        "customer",
        "client",
        "guest",
        "patient",
        "donor",
        "member",
        "tenant",
        "hirer",
        "buyer",
        "owner",
        "attendee",
        "borrower",
        "reader",
        "subscriber",
        "passenger",
        "visitor",
        "learner",
        "user",
        "requester",
        "caller",
        "pupil",
        "student",
        "visitor",
        "learner",
        "player",
    ]
)
PLANNED = frozenset(
    stem(w)
    for w in [
        "budget",
        "target",
        "plan",
        "planned",
        "forecast",
        "quota",
        "limit",
        "goal",
        "promised",
        "expected",
        "allowance",
        "cap",
        "est",
        "estimate",
        "estimated",
        "quoted",
        "projected",
    ]
)
"""Words of what was planned, not of what came of it."""
ASKED = stems("asking guide listed list advertised catalogue rrp msrp")
"""Words of what was asked for something, whatever it went for."""
OFFERED = PLANNED | ASKED
"""Words of what was planned or asked for, not of what was reached or paid."""
_NO_PRICE_REACHED = OFFERED | COST_PARTS | {stem(w) for w in PAID_FOR_THEM}
"""Words of prices that are not what a thing sold for."""
MONEY_WORDS = frozenset(
    stem(w)
    for w in [
        "sales",
        "sale",
        "revenue",
        "turnover",
        "income",
        "takings",
        "spend",
        "spending",
        "spent",
        "bill",
        "billing",
        "billed",
        "money",
        "amount",
        "worth",
        "value",
        "claimed",
        "earned",
        "brought",
        "takings",
        "raised",
        "cost",
        "costs",
        "earnings",
        "charged",
        "outlay",
        "expenditure",
        "proceeds",
    ]
)

_CUT_SHORT = 3
"""Letters that a word in a column's name has at least where it stands for the longer one in its table's."""
_COMMON = {
    word: kind == "noun"
    for line in (Path(__file__).parent / "common_stems.txt").read_text(encoding="utf-8").splitlines()
    for word, _, kind in [line.partition(" ")]
}
"""Stems of everyday words, and of which of them are mostly those of nouns."""


_MONEY_HEADS = MONEY_WORDS | frozenset(stem(w) for w in ["price", "cost", "fee", "charge", "rate"])


def is_common(word: str) -> bool:
    """True for an everyday English word, which is a part of a name only where it is written as one."""
    return word in _COMMON


def is_noun(word: str) -> bool:
    """True for a stem that is mostly one of nouns; words that are no everyday ones are mostly names of things."""
    return _COMMON.get(word, True)


def is_short_for(part: str, word: str) -> bool:
    """True where a part of a name may be the beginning of a word, cut short there: mag of magnitude."""
    if not word.startswith(part) or stem(part) in lexicon.concepts() or lexicon.expanded(part) != part:
        return False
    return len(word) > len(part) + (3 if is_common(stem(part)) else 1)


_GENDERS = {
    "f": (
        "female",
        "females",
        "women",
        "woman",
        "girls",
        "girl",
        "ladies",
        "heifer",
        "heifers",
        "mare",
        "mares",
        "ewe",
        "ewes",
    ),
    "m": (
        "male",
        "males",
        "men",
        "man",
        "boys",
        "boy",
        "gentlemen",
        "bull",
        "bulls",
        "ram",
        "rams",
        "stallion",
        "stallions",
    ),
}


_PLACED = frozenset(["pos", "position", "rank", "ranking", "place", "placing", "placed"])
_RACED = frozenset(
    [
        "race",
        "races",
        "lap",
        "laps",
        "heat",
        "heats",
        "runner",
        "swimmer",
        "rower",
        "athlete",
        "bib",
        "finisher",
        "finishers",
    ]
)


def least_is_best(catalogue: Catalogue) -> frozenset[ColumnKey]:
    """The places that were reached, and the times of what is raced: the first has the lowest of them."""
    found: set[ColumnKey] = set()
    for table in catalogue.tables:
        named = [(c, _raw_parts(c.name)) for c in table.columns]
        placed = [c for c, parts in named if c.is_measure and c.type is Type.INTEGER and _PLACED & {*parts[-1:]}]
        found.update(ColumnKey(table.name, c.name) for c in placed)
        if (_RACED | _PLACED) & {*_raw_parts(table.name), *(w for _, parts in named for w in parts)}:
            found.update(ColumnKey(table.name, c.name) for c in table.columns if c.type is Type.DURATION)
    return frozenset(found)


def is_yearly(column: Column) -> bool:
    """True for a column of calendar years written as whole numbers."""
    if column.type is not Type.INTEGER or column.role is not Role.CODE or column.low is None or column.high is None:
        return False
    return int(column.low) >= 1500 and int(column.high) <= 2100


def is_in_time_order(column: Column) -> bool:
    """True for whole numbers that are looked at in their order: years, months of the year, hours of the day."""
    numbered = column.type is Type.INTEGER and column.role is Role.CODE
    return is_yearly(column) or (numbered and name_parts(column.name)[-1:] in _PARTS_OF_TIME)


def name_parts(name: str) -> list[str]:
    """The words of a column's or table's name, abbreviations spelled out."""
    return list(_name_parts(name))


@functools.lru_cache(maxsize=50_000)
def _name_parts(name: str) -> tuple[str, ...]:
    # A question looks at the names of all columns many times over.
    parts = _without_tax(_raw_parts(name))
    # What begins with min is the least of something, and what ends with it is so many minutes.
    least = len(parts) > 1 and parts[0] == "min" and parts[1] not in _WAITED
    return tuple("minimum" if least and place == 0 else expanded(p) for place, p in enumerate(parts))


_TAXES = frozenset(["vat", "tax", "gst", "taxes"])
_COUNTED_IN = frozenset(["inc", "incl", "including", "ex", "exc", "excl", "excluding", "without", "before", "plus"])


def _without_tax(parts: list[str]) -> list[str]:
    """The words of a name but those that say whether tax is in it: a price inc VAT is a price."""
    at = next((p for p, (one, two) in enumerate(itertools.pairwise(parts)) if one in _COUNTED_IN and two in _TAXES), 0)
    return parts[:at] + parts[at + 2 :] if at else parts


_WAITED = frozenset(["late", "waited", "wait", "played", "delay", "delayed", "used", "spent", "per"])


_HOW_IT_IS_WRITTEN = re.compile(
    r"\b(?:h{1,2}:mm(?::ss)?|m{1,2}:ss|dd/mm/y{2,4}|mm/dd/y{2,4}|yyyy-mm-dd|y/n|yes/no)\b", re.I
)
"""What a head says of how its cells are written, which is no part of what they are called."""


_PART = re.compile(r"(?<![^\W_])(?:co2|no2|so2|nh3|ch4|n2o|o3|pm10|pm25)(?![^\W_])|[^\W\d_]+", re.I)
"""A part of a name: letters, and what is written with a number as the world writes it."""


def _raw_parts(name: str) -> list[str]:
    """The words of a name as they stand in it."""
    plain = _HOW_IT_IS_WRITTEN.sub(" ", name) if "/" in name or ":" in name or "-" in name else name
    if "/" in plain:
        plain = _STROKED.sub(lambda found: _STROKES[found[0].lower()], plain)
    if "/" in plain:
        plain = _FOR_EACH.sub(lambda found: f" per {_FOR_ONE[found[1].lower()]}", plain)
    plain = _NTH.sub(lambda found: _NTHS[found[0].lower()], plain)
    return [p.lower() for p in _PART.findall(spaced(plain))]


_BEHIND_VERBS = frozenset(["out", "in", "off", "up", "on", "over", "down", "back"])
_STROKES = {
    "o/t": "overtime", "p/t": "part time", "f/t": "full time", "a/c": "account", "w/e": "week ending",
    "w/c": "week commencing", "y/e": "year end", "s/n": "serial number", "p/n": "part number", "d/d": "direct debit",
}  # fmt: skip
_STROKED = re.compile(r"(?<![^\W_])(?:" + "|".join(_STROKES) + r")(?![^\W_])", re.I)
"""What is written in short with a stroke, and stands for no kind of one thing in another."""
_NTHS = {"1st": "first", "2nd": "second", "3rd": "third"}
_NTH = re.compile(r"(?<![^\W_])(?:1st|2nd|3rd)(?![^\W_])", re.I)
_OVER_DAYS = re.compile(r"^(.*?[a-z])[\s_(]*(?:last )?(\d{1,3}) ?(d|days)\)?$", re.I)
"""What stands in a head that tells how often something was so in the days before: Visits 90d."""


_LASTING_STEMS = frozenset(stem(w) for w in ("hours", "minutes", "miles", "mileage", "days"))
_RATED_OVER = frozenset(["hour", "hr", "day", "week", "month", "minute", "mile", "km", "year", "annum", "night"])
_EACH_TIME = frozenset(["month", "week", "year", "annum", "quarter", "night", "day"])
_UNITS_IN_SHORT = frozenset(
    [
        "kg",
        "g",
        "t",
        "lb",
        "lbs",
        "oz",
        "mm",
        "cm",
        "m",
        "km",
        "mi",
        "ft",
        "l",
        "ml",
        "cl",
        "kwh",
        "mwh",
        "kw",
        "w",
        "mph",
        "kph",
        "kmh",
        "km/h",
        "°c",
        "°f",
        "%",
        "gbp",
        "eur",
        "usd",
        "£",
        "€",
        "$",
        "pcm",
        "pw",
        "pa",
        "pm",
        "ha",
        "sqm",
        "sqft",
        "m2",
        "m²",
        "m3",
        "m³",
        "mins",
        "secs",
        "bpm",
        "£/month",
        "£/week",
        "£/day",
        "£/hour",
        "£/hr",
        "£/year",
        "£/kg",
        "£/t",
        "t/ha",
    ]
)
_OCCASIONS = frozenset(stem(w) for w in ["booking", "reservation", "hire", "rental", "visit", "loan", "sale", "job"])
"""What each time is called that a thing on a list was used."""
_OF_AREA = re.compile(r"(?<!/)(?<!per )\b(?:sq(?:uare)?\.? ?_?(?:m|ft|km|feet|met)|m2|m²|ha|hectares|acres)\b", re.I)


@functools.lru_cache(maxsize=50_000)
def _plain_name(name: str) -> str:
    """A name without what it is measured in and what stands in brackets behind it; empty where there is neither."""
    head = re.split(r"[\s_]*[(\[]", name, maxsplit=1)[0]
    words = [w for w in re.split(r"[\s_]+", head) if w]
    while len(words) > 1 and words[-1].lower().strip(".,£€$") in ("", *_UNITS_IN_SHORT):
        words.pop()
    if len(words) > 2 and words[-2].lower() == "per" and words[-1].lower() in _EACH_TIME:
        words = words[:-2]
    plain = " ".join(w for p in words for w in name_parts(p))
    return plain if words and plain != " ".join(name_parts(name)) else ""


_FOR_ONE = {
    "t": "tonne", "kg": "kilo", "g": "gram", "l": "litre", "ha": "hectare", "ac": "acre", "hr": "hour", "h": "hour",
    "day": "day", "wk": "week", "week": "week", "month": "month", "yr": "year", "unit": "unit", "ea": "unit",
}  # fmt: skip
_FOR_EACH = re.compile(r"(?<=[\w£€$]) ?/ ?(" + "|".join(_FOR_ONE) + r")\b", re.I)
"""What a price is for, as it is written in short: Price/t."""
_WORD = re.compile(r"[^\W_]+(?:['’][^\W\d_]+)?")


def _stems_of(text: str) -> tuple[str, ...]:
    return tuple(stem(w) for w in _WORD.findall(text.lower()))


@functools.lru_cache(maxsize=50_000)
def word_stems(text: str) -> tuple[str, ...]:
    """Stems of all words and numbers of a text."""
    return _stems_of(text)


def _content(stems: tuple[str, ...]) -> tuple[str, ...]:
    return tuple(s for s in stems if s not in _ARTICLES)


@dataclass(frozen=True)
class NameWords:
    """The stems of a name and of what a person wrote about it; `dated` where a date's own words were taken off."""

    parts: tuple[str, ...]
    full: tuple[str, ...]
    described: tuple[str, ...]
    clauses: tuple[tuple[str, ...], ...]
    """What else a description says, clause by clause."""
    synonyms: tuple[tuple[str, ...], ...]
    dated: bool = False
    head: str = ""
    said_of: frozenset[str] = frozenset()
    """What the description is of: the rent of "weekly rent of the home", the date of "date the tenant left"."""
    kind_of: tuple[str, ...] = ()
    """What a column sorts into kinds, such as the homes of "kind of home"."""
    free: frozenset[str] = frozenset()
    """Words that may stand beside the name and add nothing: the amount of the deposit, the forest share."""


def _clauses(description: str) -> list[tuple[str, ...]]:
    parts = re.split(r"[;:(),.]", description)
    return [c for part in parts[:5] if (c := _content(word_stems(part))) and len(c) <= 12]


def _words_of(name: str, description: str, synonyms: tuple[str, ...]) -> NameWords:
    full = tuple(stem(p) for p in name_parts(name))
    parts = _content(full) or full
    said = tuple(_content(word_stems(s)) for s in synonyms)
    # How happy they are is told of happy, and of nothing that is asked with "how".
    clauses = [clause for said in _clauses(description) if (clause := tuple(w for w in said if w not in _ASKED_WITH))]
    first = clauses[0] if clauses else ()
    said_of, kind_of = _said_of(description)
    return NameWords(parts, full, first, tuple(clauses[1:]), said, head=_head(name), said_of=said_of, kind_of=kind_of)


_KINDS = re.compile(r"(?:kind|type|sort|category|class)s? of (?:the |a |an )?([a-z ]+)")
_SAID = re.compile(r"[;:(),.]")
NAME = stem("name")
_TELLING = frozenset(stem(w) for w in ["name", "description", "desc", "title", "label"])
"""Last words of columns that say in words what a row is of."""
_CODED = frozenset(stem(w) for w in ["code", "id", "number", "no", "ref", "reference", "key"])
_NAMING = frozenset(["name", "number", "reference", "code", "id", "title", "identifier", "initials"])


def _said_of(description: str) -> tuple[frozenset[str], tuple[str, ...]]:
    """The stems of what a description is of, and of what it sorts into kinds."""
    first = _SAID.split(description.lower().strip())[0].strip()
    if not first:
        return frozenset(), ()
    kinds = _KINDS.match(first)
    if kinds is not None:
        return frozenset(stem(w) for w in first.split()[:1]), _content(word_stems(kinds[1]))
    _, possessive, owned = first.partition("'s ")
    if possessive and owned and not _NAMING & set(owned.split()):
        return frozenset(word_stems(owned)), ()
    head, of, rest = first.partition(" of ") if " of " in first else (first, "", "")
    if of and not _NAMING & set(head.split()):
        return frozenset(word_stems(head)), ()
    if of:
        return frozenset(word_stems(rest)), ()
    for between in (" in ", " at ", " on ", " for ", " per ", " from ", " the "):
        head, found, _ = first.partition(between)
        if found and head.strip() not in ("", "the"):
            return frozenset(word_stems(head)), ()
    return frozenset(word_stems(first)), ()


def _head(name: str) -> str:
    """The stem that says what a name is of: the last word, or the one before "of"."""
    words = name_parts(name)
    if "of" in words[1:]:
        return stem(words[words.index("of") - 1])
    kept = [w for w in words if stem(w) not in _LOOSE and w not in _QUALIFIERS] or [
        w for w in words if stem(w) not in _LOOSE
    ]
    return stem((kept or words or [name])[-1])


_GIVEN = frozenset(
    [
        "kept",
        "given",
        "held",
        "attached",
        "provided",
        "received",
        "signed",
        "ok",
        "supplied",
        "included",
        "seen",
        "checked",
    ]
)
"""What is said of what somebody has or has not."""
_QUALIFYING = frozenset(["at", "in", "to", "for", "by", "from", "under", "aged", "excluding", "including", "among"])
"""What stands between what a measure is and more about it: life expectancy at birth."""
_IF = re.compile(r"^\s*(?:1|y|yes|true)\s+(?:if|for|when|means|=)\s+", re.I)


def _plainly(column: Column) -> str:
    """A description without what its codes stand for: those are values, and no names of the column."""
    codes = {v.lower() for v in column.values if len(v) <= 12}
    kept = []
    for part in re.split(r"[;:(),.]", _IF.sub("", column.description)):
        first = part.split()[:1]
        if first and (first[0].lower() in codes or (first[0].isdigit() and len(part.split()) > 1)):
            continue
        kept.append(part.strip())
    return "; ".join(p for p in kept if p)


def _column_words(column: Column) -> NameWords:
    words = _words_of(column.name, _plainly(column), column.synonyms)
    if column.role is Role.PERCENTAGE:
        words = dataclasses.replace(words, free=_SHARE_WORDS)
    elif column.is_measure:
        timed = column.type is Type.DURATION or bool({*name_parts(column.name)} & _TIME_UNITS)
        amounts = _AMOUNT_WORDS - _OF_MONEY if _IN_STOCK_PARTS & {*name_parts(column.name)} else _AMOUNT_WORDS
        if (column.role is Role.SCORE and {*name_parts(column.name)} & _MARKED) or (
            column.type is Type.INTEGER and column.role is Role.SCORE
        ):
            # A reading score is the mark in reading, whatever the mark of another subject is called.
            amounts = amounts | _MARKS
        words = dataclasses.replace(words, free=amounts | _TIME_WORDS if timed else amounts)
    raw = _raw_parts(column.name)
    if column.is_measure and raw[-1:] == ["pm"] and len(raw) > 1:
        # The rent pm is that of a month.
        parts = (*words.parts[:-1], stem("monthly"))
        words = dataclasses.replace(words, parts=parts, full=parts, head=_head(" ".join(raw[:-1])))
    if not column.type.is_time and column.type is not Type.TIME:
        return words
    if any(p in _SHORT_IN_DATES for p in raw):
        full = tuple(stem(_SHORT_IN_DATES.get(p) or expanded(p)) for p in raw)
        words = dataclasses.replace(words, full=full, parts=_content(full) or full)
    # Hired on, signup and dt_hired are all a date of hiring or signing up.
    parts = tuple(p for p in words.parts if p not in _DATED) or words.parts
    return dataclasses.replace(words, parts=parts, dated=True, head=parts[-1])


def code_list(column: Column) -> list[tuple[tuple[str, ...], str | int]]:
    """What a description says that the codes in a column stand for: "L large", "1 = under 30", "COL picked up"."""
    found: list[tuple[tuple[str, ...], str | int]] = []
    both = {v.lower() for v in column.values} in ({"m", "f"}, {"male", "female"})
    if both or {"gender", "sex"} & {*name_parts(column.name), *re.findall(r"[a-z]+", column.description.lower())[:2]}:
        for letter, words in _GENDERS.items():
            values = [v for v in column.values if v.lower() in (letter, *words)]
            found += [((stem(word),), v) for v in values for word in words]
    if column.type is Type.TEXT and {v.lower().replace(".", "") for v in column.values} == {"am", "pm"}:
        for value in column.values:
            halves = ("morning", "mornings") if value.lower().startswith("a") else ("afternoon", "evening", "evenings")
            found += [((stem(word),), value) for word in halves]
    if len(column.values) > 2 and all(v.lower() in _COMPASS for v in column.values):
        for value in column.values:
            points = _COMPASS[value.lower()].split()
            found += [(tuple(stem(w) for w in points), value), ((stem("".join(points)),), value)]
    if not column.description:
        return found
    if column.type is Type.TEXT and column.distinct <= 60:
        codes: list[str | int] = [v for v in column.values if len(v) <= 12 and " " not in v]
    elif column.type is Type.INTEGER and column.distinct <= 30 and column.low is not None and column.high is not None:
        codes = list(range(int(column.low), min(int(column.high), int(column.low) + 30) + 1))
    else:
        return found
    for code in codes:
        sign = r"\s*[=:]\s*" if isinstance(code, int) else r"\s*(?:[=:]|is|means|for)?\s+"
        match = re.search(rf"(?<![\w.]){re.escape(str(code))}{sign}([A-Za-z][^,;.=(]*)", column.description)
        if match is None:
            match = re.search(rf"(?<![\w.]){re.escape(str(code))}\s*=\s*([A-Za-z][^,;.=(]*)", column.description)
        if match:
            stems = _content(word_stems(match[1]))
            if 0 < len(stems) <= 6:
                found.append((stems, code))
    return found


_COMPASS = {
    "n": "north", "e": "east", "s": "south", "w": "west",
    "ne": "north east", "nw": "north west", "se": "south east", "sw": "south west",
}  # fmt: skip
_FIGURE_PARTS = frozenset(["value", "obs", "observation", "figure", "amount", "data", "estimate", "number"])
_FIGURE_NAMES = frozenset(
    ["indicator", "measure", "variable", "series", "metric", "statistic", "item", "characteristic", "kpi", "account"]
)
_SEXES = frozenset(["female", "females", "women", "girls", "f", "male", "males", "men", "boys", "m"])
_BOTH_SEXES = frozenset(["persons", "people", "person", "everyone", "all persons", "p", "t"])
_TOTAL = re.compile(
    r"all|total|both|overall|both sexes|all(?: \w+){1,4}\+?|total[ ,:-]\w+|grand total|\w+ total|whole \w+"
)


_COUNTED = frozenset(
    stem(w) for w in ["number", "count", "people", "persons", "population", "households", "total", "recorded", "cases"]
)


def _is_cube(table: Table, told: list[Column]) -> bool:
    """True for a table with one row for every combination of what it is told by: each row is a figure, and no thing."""
    for size in range(2, min(len(told), 6) + 1):
        for chosen in itertools.combinations(told[:8], size):
            cells = math.prod(c.distinct for c in chosen)
            if table.rows <= cells <= table.rows * 1.03:
                return True
    return False


def _is_numbered(column: Column) -> bool:
    """True for whole numbers that sort rows into kinds, such as ages or hours of the day."""
    return column.type is Type.INTEGER and column.distinct <= 130 and bool({*name_parts(column.name)} & _NUMBERED)


def _starts_months(column: Column) -> bool:
    """True for dates that are first days of a month: the row is of a whole period."""
    return all(end is not None and end[8:10] == "01" for end in (column.low, column.high))


def _tells_periods(column: Column) -> bool:
    return is_yearly(column) or (column.type is Type.TEXT and are_periods(column.values))


def _calendar(column: Column) -> dict[str, str] | None:
    """Days or months as a column writes them in short, by what they are called; None for any other column."""
    values = {v.strip().lower() for v in column.values}
    for names in (DAY_NAMES, MONTH_NAMES):
        short = {n[:size].lower(): n.lower() for n in names for size in (2, 3, 4)}
        short = {s: n for s, n in short.items() if s in values}
        if len(values) >= 2 and values <= {*short, *(n.lower() for n in names)}:
            return short
    return None


class Vocabulary:
    """An index of a catalogue, built once and asked for every span of every question."""

    def __init__(
        self,
        catalogue: Catalogue,
        roles: dict[str, str] | None = None,
        copies: dict[str, str] | None = None,
        shared: frozenset[str] = frozenset(),
    ) -> None:
        self.catalogue = catalogue
        self.shared = shared
        """Tables of what others share, which stand in no file."""
        self.copies = copies or {}
        """The table that each table of a further role is."""
        self.role_columns = roles or {}
        self.roles = {t: frozenset(stem(p) for p in name_parts(c)) for t, c in self.role_columns.items()}
        """What says in which role rows point at a table that they point at in several."""
        self.columns: dict[ColumnKey, NameWords] = {}
        self.tables: dict[str, NameWords] = {}
        self.values = ValueIndex(lambda said, value: said == word_stems(value))
        """Values by the stems of all their words."""
        self.partial = ValueIndex(lambda said, value: said in word_stems(value))
        """Values of several words by the stem of one of them."""
        for table in catalogue.tables:
            # A call log is of calls, and last October's deliveries are deliveries.
            kept_in = (table.name,) if rows_called(table.name) != spoken(table.name) else ()
            also = (*table.synonyms, *kept_in)
            self.tables[table.name] = _words_of(rows_called(table.name), table.description, also)
            for column in table.columns:
                key = ColumnKey(table.name, column.name)
                self.columns[key] = _column_words(column)
                self.columns[key] = self._called_after(table.name, column, self.columns[key])
                if (column.type is Type.TEXT and not self._is_prose(column)) or 0 < len(column.values) < 50:
                    self._index_values(key, column)
        self.values.close()
        self.partial.close()
        self.dictionaries = catalogue.dictionaries()
        """Tables that say what the columns of others mean; few questions are about them."""
        rows = {p for words in self.tables.values() for p in words.parts}
        self.row_nouns = {t.name: self._row_nouns(t, rows) for t in catalogue.tables}
        """What the descriptions of a table's columns call its rows: the stone of "weight of the stone"."""
        self.repeated = frozenset(t.name for t in catalogue.tables if self._is_repeated(t))
        """Tables of a row a year for each region, say: whoever says regions means the regions, not the rows."""
        self.figures = [found for t in catalogue.tables if (found := self._long_form(t)) is not None]
        """(the column that names figures, the column that holds them) of each table in long form."""
        self.main_figures = {
            named.table: (named, held, value)
            for named, held in self.figures
            if (value := self._main_figure(named)) is not None
        }
        """The figure that a table in long form is called after: the claimant count of a table of claimants."""
        self.least_is_best = least_is_best(catalogue)
        self.weights = {t.name: number for t in catalogue.tables if (number := self._weight(t)) is not None}
        """The column that says how many in each table that only tells numbers: people by area, year and sex."""
        self.values_of = {
            t.name: ColumnKey(t.name, c.name)
            for t in catalogue.tables
            for c in t.columns
            if c.is_measure and any(word_stems(s) == self.tables[t.name].parts for s in c.synonyms)
        }
        """The column of a table that is called as the table is: the price in a table of house prices."""
        self.values_of |= {t.name: only for t in catalogue.tables if (only := self._only_figure(t)) is not None}
        called = [(o, c) for o in catalogue.tables for c in o.columns if c.synonyms and c.is_measure]
        self.values_of |= {
            t.name: ColumnKey(other.name, c.name)
            for t in catalogue.tables
            for other, c in called
            if other is not t
            and any(word_stems(s) == self.tables[t.name].parts for s in c.synonyms)
            and not any(
                set(self.tables[t.name].parts) & {*self.columns[ColumnKey(t.name, o.name)].parts} for o in t.columns
            )
        }
        self.codes: dict[tuple[str, ...], list[tuple[ColumnKey, str | int]]] = defaultdict(list)
        for table in catalogue.tables:
            for column in table.columns:
                for meaning, code in code_list(column):
                    self.codes[meaning].append((ColumnKey(table.name, column.name), code))
        self.in_codes: dict[str, list[tuple[ColumnKey, str | int]]] = defaultdict(list)
        """What stands for something of several words, by each of them: the water of "WAT escape of water"."""
        for meaning, coded in self.codes.items():
            for word in meaning if len(meaning) > 1 else ():
                if len(word) >= 3:
                    self.in_codes[word].extend(coded)
        self._by_word: dict[str, set[ColumnKey]] = defaultdict(set)
        self._figures: dict[str, ColumnKey | None] = {}
        for key, words in self.columns.items():
            for word in {
                *words.parts,
                *words.full,
                *words.described,
                *(w for s in (*words.synonyms, *words.clauses) for w in s),
            }:
                self._by_word[word].add(key)
        self.names_of_columns = {
            name
            for words in self.columns.values()
            for name in (words.parts, words.full, *words.synonyms)
            # What was booked on Monday is no name in two parts.
            if len(name) > 1 and name[-1] not in lexicon.prepositions()
        }
        """The names of columns that are more than one word."""
        self.names_alone = {words.parts for words in self.columns.values() if len(words.parts) == 1}
        self.known = self._known_words()
        # Kept here and not beside the class, so that they are let go with the vocabulary.
        self._related_columns = functools.lru_cache(maxsize=20_000)(self._columns_related_to)
        self._of_ideas = functools.lru_cache(maxsize=5_000)(self._columns_of_ideas)
        self._column_cache: dict[tuple[str, ...], list[tuple[float, ColumnKey]]] = {}
        self._telling: dict[ColumnKey, ColumnKey] = {}
        self._words_near: dict[str, dict[str, bool]] = {}
        """By table, whether a word says something of its name."""
        self._table_cache: dict[tuple[str, ...], list[tuple[float, str]]] = {}

    def _called_after(self, table: str, column: Column, words: NameWords) -> NameWords:
        """The amount due in a table of rent is the rent due, and beside a max a min is no minute."""
        raw = _raw_parts(column.name)
        if not raw:
            # A year, or a mere sign.
            return words
        if "min" in raw and any("max" in name_parts(c.name) for c in self.catalogue.table(table).columns):
            full = tuple(stem("minimum") if p == "min" else stem(expanded(p)) for p in raw)
            return dataclasses.replace(words, full=full, parts=_content(full) or full)
        if (plain := _plain_name(column.name)) and self._is_only(table, column, plain):
            # The size in square metres is the size, and the area.
            sized = column.is_measure and _OF_AREA.search(column.name) and self._is_only(table, column, "area")
            area = [word_stems(w) for w in ("area", "floor area", "floor space", "footage")] if sized else []
            names = [n for n in (word_stems(plain), *area) if n != words.parts]
            words = dataclasses.replace(words, synonyms=(*words.synonyms, *names))
        if rows_too := self._short_for_their_rows(table, raw):
            words = dataclasses.replace(words, synonyms=(*words.synonyms, rows_too))
        if also := self._also_called(table, column, raw):
            words = dataclasses.replace(words, synonyms=(*words.synonyms, *also))
        priced = bool(re.fullmatch(r"[A-Z]{3}|[£€$]", column.unit or "") or re.search(r"[£€$]", column.name))
        whole = column.is_measure and column.role.is_summed
        if priced and whole and not {stem(p) for p in raw} & (INCOME_WORDS | COST_PARTS | GENERIC_MONEY):
            # So many pounds of fuel are its cost.
            costing = tuple((*(stem(p) for p in raw), stem(w)) for w in ("cost", "spend", "bill", "charge"))
            words = dataclasses.replace(words, synonyms=(*words.synonyms, *costing))
        if over := _OVER_DAYS.match(column.name):
            named = word_stems(f"{' '.join(name_parts(over[1]))} last {over[2]} days")
            words = dataclasses.replace(words, synonyms=(*words.synonyms, named))
        if "per" in raw[1:-1] and column.is_measure and raw[-1] in _RATED_OVER and raw.index("per") == len(raw) - 2:
            # So much per hour is no number of hours.
            rated = tuple(stem(expanded(p)) for p in raw[:-2])
            words = dataclasses.replace(
                words, parts=_content(rated) or rated, head=rated[-1], synonyms=(*words.synonyms, words.full)
            )
        if len(raw) == 1 and raw[0] in ("net", "gross") and column.is_measure:
            # The net pay stands in Net.
            paid = tuple((stem(raw[0]), stem(w)) for w in ("pay", "price", "salary", "wage", "cost", "earnings"))
            words = dataclasses.replace(words, synonyms=(*words.synonyms, *paid))
        if len(raw) == 2 and column.is_measure and raw[1] in _TIME_UNITS and raw[0] not in _TIME_UNITS:
            # The hours to resolve are the time to resolve.
            lasting = (stem("time"), stem(expanded(raw[0])))
            words = dataclasses.replace(words, synonyms=(*words.synonyms, lasting))
        if len(raw) == 2 and raw[1] in _BEHIND_VERBS:
            # What was paid out is the payout.
            joined = tuple((stem("".join((w, raw[1]))),) for w in (raw[0], words.full[0]))
            words = dataclasses.replace(words, synonyms=(*words.synonyms, *joined))
        if len(raw) > 2:
            # Miles per gallon are mpg.
            words = dataclasses.replace(words, synonyms=(*words.synonyms, ("".join(p[0] for p in raw),)))
        said = next((i for i, p in enumerate(raw) if i and p in _QUALIFYING), 0)
        if said and column.is_measure and not self._is_head_of_others(table, column, raw[:said]):
            # Life expectancy at birth is the life expectancy, where there is no other.
            words = dataclasses.replace(words, synonyms=(*words.synonyms, tuple(stem(expanded(p)) for p in raw[:said])))
        if raw[-1] == "at" and len(raw) > 1 and column.is_measure:
            # What is reordered at a number has that as its reorder point.
            ends = (tuple(stem(p) for p in (*raw[:-1], last)) for last in ("point", "level", "threshold", "limit"))
            words = dataclasses.replace(words, synonyms=(*words.synonyms, *ends))
        if column.type is Type.BOOLEAN and len(raw) > 1 and raw[-1] in _GIVEN:
            # Whether a receipt was kept tells who has one.
            words = dataclasses.replace(words, synonyms=(*words.synonyms, tuple(stem(p) for p in raw[:-1])))
        if raw[0] == "how" and len(raw) == 2:
            # How booked is the way of booking.
            done = stem(raw[1])
            ways = (("way", done), ("method", done), (done, "method"), ("mean", done), ("way",), (done, "rout"))
            words = dataclasses.replace(words, synonyms=(*words.synonyms, *ways))
        own = self.tables[table].parts
        if len(own) == 1 and column.is_measure and len(words.parts) == 2 and words.parts[0] in _AMOUNT_WORDS:
            return dataclasses.replace(words, synonyms=(*words.synonyms, (own[0], words.parts[1])))
        return words

    def _also_called(self, table: str, column: Column, raw: list[str]) -> tuple[tuple[str, ...], ...]:
        """What people call a column whose head is written so, where no other column of the table is called that."""
        said, spelled = " ".join(raw), name_parts(column.name)
        known = lexicon.called()
        found = [n for head in dict.fromkeys((said, " ".join(spelled), " ".join(raw[:2]))) for n in known.get(head, ())]
        found += [n for part in raw for n in known.get(part.upper(), ())]
        if 5 * column.missing > self.table(table).rows:
            # What some have not been sold for yet is not their price.
            found = [n for n in found if n != "price"]
        names = (n for n in dict.fromkeys(found) if self._is_only(table, column, n))
        return tuple(stems for n in names if (stems := _content(word_stems(n))))

    def _short_for_their_rows(self, table: str, raw: list[str]) -> tuple[str, ...]:
        """What a column is called in full that begins with what its rows are, cut short: the DEV_TYPE of devices."""
        if len(raw) < 2 or len(raw[0]) < _CUT_SHORT:
            return ()
        for word in name_parts(table):
            if word.startswith(raw[0]) and len(stem(word)) > len(raw[0]) and stem(word) != stem(raw[0]):
                return (stem(word), *(stem(expanded(p)) for p in raw[1:]))
        return ()

    def _is_only(self, table: str, column: Column, plain: str) -> bool:
        """True where no other column is called so, and nothing elsewhere is called after it: rent, and rent payments."""
        said = word_stems(plain)
        for owner, name, named, bare in self._heads_by_word.get(said[0], ()) if said else ():
            if owner == table:
                if name not in ("", column.name) and said in (named, bare):
                    return False
            elif name != column.name and {*said} <= {*named}:
                return False
        return bool(said)

    def natural_unit(self, first: ColumnKey, last: ColumnKey) -> LengthUnit:
        """Minutes or hours where two moments lie so close together, else days."""
        one, two = self.column(first), self.column(last)
        if (
            one.type is Type.TIMESTAMP
            and first.table == last.table
            and (apart := dict(one.lags).get(two.name)) is not None
        ):
            return "minutes" if apart < 2 * 3600 else "hours" if apart < 36 * 3600 else "days"
        if one.type is not Type.TIME or two.type is not Type.TIME:
            return "days"
        gaps = []
        for begin, end in ((one.low, two.low), (one.high, two.high)):
            if begin is None or end is None:
                return "minutes"
            moments = [dt.datetime.fromisoformat(f"2000-01-01T{e}") for e in (begin, end)]
            gaps.append(abs((moments[1] - moments[0]).total_seconds()))
        return "minutes" if max(gaps) < 3 * 3600 else "hours"

    @functools.cached_property
    def _heads_by_word(self) -> dict[str, list[tuple[str, str, tuple[str, ...], tuple[str, ...]]]]:
        """Tables and columns by each stem of their names: the table, the column if it is one, all stems, those of its plain name."""
        found: dict[str, list[tuple[str, str, tuple[str, ...], tuple[str, ...]]]] = {}
        for table in self.catalogue.tables:
            for name in ("", *(c.name for c in table.columns)):
                named, bare = word_stems(spaced(name or table.name)), word_stems(_plain_name(name))
                for word in {*named, *bare}:
                    found.setdefault(word, []).append((table.name, name, named, bare))
        return found

    def _is_head_of_others(self, table: str, column: Column, head: list[str]) -> bool:
        """True where another column of the table is called by the same words and more."""
        names = [_raw_parts(c.name) for c in self.catalogue.table(table).columns if c.name != column.name]
        return any(set(head) <= set(other) for other in names)

    def column(self, key: ColumnKey) -> Column:
        return self.catalogue.table(key.table).column(key.column)

    def has_word(self, key: ColumnKey, word: str) -> bool:
        """True where a stem stands in a column's name or in what was said of it."""
        return key in self._by_word.get(word, ())

    def table(self, name: str) -> Table:
        return self.catalogue.table(name)

    @staticmethod
    def _long_form(table: Table) -> tuple[ColumnKey, ColumnKey] | None:
        """A table in long form: a row for each figure, whose name stands in one column and whose value in another."""
        values = [c for c in table.columns if c.type.is_number and set(name_parts(c.name)) & _FIGURE_PARTS]
        names = [
            c
            for c in table.columns
            if c.type is Type.TEXT and 2 <= c.distinct <= 300 and set(name_parts(c.name)) & _FIGURE_NAMES and c.values
        ]
        if len(values) != 1 or not names:
            return None
        return ColumnKey(table.name, names[0].name), ColumnKey(table.name, values[0].name)

    def _main_figure(self, named: ColumnKey) -> str | None:
        """The shortest name of a figure in which a table's own name stands."""
        own = self.tables[named.table].parts
        fitting = [v for v in self.column(named).values if all(p in word_stems(v) for p in own)]
        return min(fitting, key=lambda v: (len(word_stems(v)), v), default=None)

    def _weight(self, table: Table) -> ColumnKey | None:
        """What is counted on rows that are no single things: of each year, month or not at all dated, told by categories."""
        if table.key is not None or table.rows < 8 or any(k.table == table.name for pair in self.figures for k in pair):
            return None
        told = [c for c in table.columns if not c.is_measure or _is_numbered(c)]
        repeated = [c for c in told if c.distinct * 2 <= table.rows]
        if len(told) < 2 or len(repeated) < len(told) or any(c.role is Role.TEXT for c in told):
            return None
        dated = [c for c in told if c.type.is_time]
        if any(not _starts_months(c) for c in dated) or not (dated or any(_tells_periods(c) for c in told)):
            return None
        own = set(self.tables[table.name].parts)
        numbers = [
            c
            for c in table.columns
            if c.is_measure and c.role is Role.QUANTITY and c.type is Type.INTEGER and c not in told
        ]
        for wanted in (own, _COUNTED):
            for column in numbers:
                words = self.columns[ColumnKey(table.name, column.name)]
                if wanted & {*words.parts, *words.described}:
                    return ColumnKey(table.name, column.name)
        only = len(numbers) == 1 and sum(c.is_measure and c not in told for c in table.columns) == 1
        if only:
            return ColumnKey(table.name, numbers[0].name)
        added = [
            c
            for c in table.columns
            if c.is_measure
            and c not in told
            and c.role.is_summed
            and not _NEVER_ADDED & {*(w := self.columns[ColumnKey(table.name, c.name)]).full, *w.described}
        ]
        # All of it before the parts that it has.
        added.sort(key=lambda c: not IN_ALL & {*name_parts(c.name)})
        return ColumnKey(table.name, added[0].name) if added and _is_cube(table, told) else None

    def _row_nouns(self, table: Table, rows: set[str]) -> dict[str, int]:
        """Nouns that descriptions say something is of, with how often; what has a column or a table (`rows`) is none."""
        own = {p for c in table.columns for p in self.columns[ColumnKey(table.name, c.name)].full}
        found: dict[str, int] = defaultdict(int)
        for column in table.columns:
            for one, other in _OF_ROWS.findall(column.description.lower()):
                word = one or other
                if (word,) not in lexicon.phrases() and word not in lexicon.fillers() and word not in TIME_WORDS:
                    if stem(word) not in own and stem(word) not in rows:
                        found[stem(word)] += 1
        return dict(found)

    def _their_name(self, table: Table) -> Column | None:
        """What the rows of a table are called, though many are called alike: the pet name of what is a pet, and happened at no time."""
        named = [c for c in table.columns if c.type is Type.TEXT and _is_a_name(_raw_parts(c.name))]
        time = table.time_column
        happened = time is not None and not BIRTH & {*self.columns[ColumnKey(table.name, time.name)].full}
        return named[0] if len(named) == 1 and table.key not in (None, named[0]) and not happened else None

    def heads(self) -> Iterator[ColumnKey]:
        """The columns that say how many people there are: those of tables that only tell numbers first."""
        for counted in (True, False):
            for key, words in self.columns.items():
                column, table = self.column(key), self.tables[key.table]
                if (self.weights.get(key.table) == key) is not counted or not column.is_measure:
                    continue
                if column.role is Role.QUANTITY and _HEADS & {*words.parts, *words.described, *table.parts}:
                    yield key

    def _only_figure(self, table: Table) -> ColumnKey | None:
        """The one number of a table of figures, each of a place, a period and a kind of people: rows that nobody counts."""
        figures = [c for c in table.columns if c.is_measure]
        told = [c for c in table.columns if c not in figures]
        again = table.key is None and any(_tells_periods(c) or (c.type.is_time and _starts_months(c)) for c in told)
        if len(figures) != 1 or not again or not _is_cube(table, told):
            return None
        return ColumnKey(table.name, figures[0].name)

    @functools.cached_property
    def figures_alone(self) -> dict[str, ColumnKey]:
        """The figure of each table that tells of nothing else and whose rows nobody counts."""
        return {table: key for table, key in self.values_of.items() if table not in self.weights}

    def is_outgoing(self, name: str) -> bool:
        """True for a table of what was bought, whose money went out."""
        words = {*self.tables[name].parts}
        words.update(p for c in self.table(name).columns for p in self.columns[ColumnKey(name, c.name)].parts)
        return bool(OUTGOING & words)

    def is_of_other_rows(self, key: ColumnKey) -> bool:
        """True for a column called as its table is, the rows of which are numbered as something else: a Booking no."""
        number = self.catalogue.table(key.table).key
        own, rows = self.columns[key].full, self.tables[key.table].parts
        if number is None or own != rows or self.column(key).type is not Type.TEXT:
            return False
        return bool(_OCCASIONS & {*self.columns[ColumnKey(key.table, number.name)].parts} - {*rows})

    def is_told_again(self, name: str) -> bool:
        """True for a table without a key that tells of each of its things once a period."""
        table = self.catalogue.table(name)
        pointed_at = any(r.other == name and not r.also for r in self.catalogue.relationships)
        if table.key is not None or pointed_at:
            return False
        return any(_tells_periods(c) or (c.type.is_time and _starts_months(c)) for c in table.columns)

    def totals(self, key: ColumnKey) -> tuple[str, ...]:
        """The values of a category that stand for all the others together.

        Only figures have such: of things with a key, or what happened on a day, none is all the others, and a class
        for "All" is one class.
        """
        table = self.catalogue.table(key.table)
        if table.key is not None or any(c.type.is_time and not _starts_months(c) for c in table.columns):
            return ()
        if any(c.type is Type.TEXT and c.distinct == table.rows for c in table.columns):
            # Each row is of one thing by itself: a class for all levels is no sum of the others.
            return ()
        column = table.column(key.column)
        if column.type is not Type.TEXT or not 3 <= column.distinct <= 300:
            return ()
        told = {v.strip().lower(): v for v in column.values}
        sexes = len(told) == 3 and len(told.keys() & _SEXES) == 2
        return tuple(v for said, v in told.items() if _TOTAL.fullmatch(said) or (sexes and said in _BOTH_SEXES))

    def _is_repeated(self, table: Table) -> bool:
        """True for a table that tells of each of its things on many rows, and has them in a column of its name."""
        own = self.tables[table.name].parts
        linked = any(c.role is Role.LINK for c in table.columns) and any(c.type is Type.DATE for c in table.columns)
        # What was given to somebody on a day happened, and is told once.
        return (
            not linked
            and table.key is None
            and any(
                c.type is Type.TEXT
                and c.distinct * 2 <= table.rows
                and self.columns[ColumnKey(table.name, c.name)].parts == own
                for c in table.columns
            )
        )

    @staticmethod
    def _is_prose(column: Column) -> bool:
        """True for free text: a word found inside a comment says nothing about the rows."""
        if column.role is not Role.TEXT or not column.values:
            return False
        words = [len(v.split()) for v in column.values[:100]]
        return sum(words) / len(words) > 4

    def _index_values(self, key: ColumnKey, column: Column) -> None:
        spelled = _calendar(column)
        whole, parts = (index.column(key, column.values) for index in (self.values, self.partial))
        for place, value in enumerate(column.values):
            stems, plain = _stems_of(value), value.strip().lower()
            if not stems or len(stems) > 12:
                continue
            if len(stems) <= LONGEST_VALUE:
                self.values.add(stems, whole, place)
            if spelled is not None and plain in spelled:
                self.values.tell((stem(spelled[plain]),), key, value)
            if len(stems) > 1 and column.role is not Role.TEXT and not _TOTAL.fullmatch(plain):
                for word in set(stems):
                    if len(word) >= 3 and not word.isdigit():
                        self.partial.add(word, parts, place)

    def has_money(self, table: str) -> bool:
        """True where amounts of money stand on the rows of a table themselves."""
        return any(c.is_measure and c.role is Role.MONEY and c.role.is_summed for c in self.table(table).columns)

    def only_of(self, word: str) -> ColumnKey | None:
        """The one column in whose name and description a stem stands, if it is only one."""
        keys = self._by_word.get(word, set())
        return next(iter(keys)) if len(keys) == 1 else None

    def _known_words(self) -> frozenset[str]:
        """Every word that means something here, by its spelling and by its stem."""
        known: set[str] = {*TIME_WORDS, *(part for stems in self.codes for part in stems)}
        for words in [*self.columns.values(), *self.tables.values()]:
            known |= {*words.full, *words.described, *(s for group in words.synonyms for s in group)}
        known |= {p for name in (*(k.column for k in self.columns), *self.tables) for p in name_parts(name)}
        known |= {w for phrase in (*lexicon.phrases(), *lexicon.states()) for w in phrase}
        known |= {w for group in lexicon.adjectives() for w in group}
        for key in self.columns:
            if self.column(key).distinct <= _SPELLED_VALUES:
                known |= {part for value in self.column(key).values for part in word_stems(value)}
        return frozenset(known)

    def speller(self, asking: Iterable[str]) -> Speller:
        """What misspelled words are put right against; `asking` are further words that questions are made of."""
        own = {p for name in (*(k.column for k in self.columns), *self.tables) for p in name_parts(name)}
        for key in self.columns:
            column = self.column(key)
            if column.distinct <= _SPELLED_VALUES and column.type is Type.TEXT and column.role is not Role.TEXT:
                own |= {w for value in column.values for w in re.findall(r"[a-z]+", value.lower())}
        words = {w for phrase in (*lexicon.phrases(), *lexicon.states()) for w in phrase} | TIME_WORDS
        words |= {w for group in lexicon.adjectives() for w in group} | {*lexicon.verbs(), *asking}
        words |= {w for gender in _GENDERS.values() for w in gender}
        ideas = {w for names in lexicon.called().values() for name in names for w in name.split()}
        return Speller(own, words, ideas | lexicon.ideas())

    # --- columns

    def columns_for(self, span: tuple[str, ...]) -> list[tuple[float, ColumnKey]]:
        """The columns that a span of stems may name, best first, with how well: 1 for the whole name."""
        if span not in self._column_cache:
            candidates: set[ColumnKey] = set()
            for word in span:
                candidates |= self._related_columns(word)
            scored = [(self._column_score(key, span), key) for key in candidates]
            called = {key for _, key in scored if set(span) <= set(self.columns[key].parts)}
            if called:
                # What is called a fee is the fee before what is only like one.
                own = ((s, k, self.columns[k]) for s, k in scored)
                scored = [
                    (s if k in called or set(span) & {*w.parts, *w.described} or span in w.synonyms else 0.9 * s, k)
                    for s, k, w in own
                ]
            if set(span) & (FOR_A_HEAD if len(span) > 1 else CAPITA):
                # What is asked for each person is no other thing that stands for each person.
                subject = set(span) - FOR_A_HEAD - _PER
                held = {k: {*self.columns[k].parts, *self.columns[k].described} - FOR_A_HEAD for _, k in scored}
                scored = [(s, k) for s, k in scored if any(related(w, h) for w in subject for h in held[k])]
            if len(span) > 1 and (subject := set(span) - _MARKS) != set(span):
                # The reading score is the mark in reading, and not the maths score.
                marked = [(s, k, {*self.columns[k].parts, *self.columns[k].full}) for s, k in scored]
                if any(subject <= held for _, _, held in marked):
                    scored = [(s if subject & held or not _MARKS & held else 0.7 * s, k) for s, k, held in marked]
            self._column_cache[span] = sorted((s for s in scored if s[0] >= 0.4), key=lambda s: (-s[0], s[1]))
        return self._column_cache[span]

    def _columns_related_to(self, word: str) -> frozenset[ColumnKey]:
        return frozenset(key for known, keys in self._by_word.items() if related(word, known) for key in keys)

    def _tells_what(self, key: ColumnKey) -> bool:
        """True for a column that says in words what a row is of: Cust Name, Prod Desc."""
        parts, column = self.columns[key].parts, self.column(key)
        told = column.role in (Role.NAME, Role.CATEGORY, Role.PERSON, Role.PLACE)
        return len(parts) > 1 and parts[-1] in _TELLING and told and column.type is Type.TEXT

    def telling(self, key: ColumnKey) -> ColumnKey:
        """The column that says in words what another says by number, one for one, on the same rows; else that other."""
        if key not in self._telling:
            parts, column = self.columns[key].parts, self.column(key)
            others = (
                ColumnKey(key.table, c.name) for c in self.table(key.table).columns if c.distinct == column.distinct
            )
            # The name of an area is told by its code, and by a column called area.
            bare = parts[:-1] if len(parts) > 1 and parts[-1] in _CODED else parts
            words = (
                o for o in others if o != key and self._tells_what(o) and self.columns[o].parts[:-1] in (parts, bare)
            )
            numbered = not column.is_measure and not column.type.is_time and column.type is not Type.BOOLEAN
            self._telling[key] = next(words, key) if numbered else key
        return self._telling[key]

    def _column_score(self, key: ColumnKey, span: tuple[str, ...]) -> float:
        words = self.columns[key]
        if words.head in _PRICED and _COUNTED_IDEAS.issuperset(span):
            # A unit price is no number of units.
            return 0.0
        described = _described_score(span, words.described)
        if words.said_of and not words.said_of & set(span) and described < 0.95:
            # The tenant's year of birth is a year, and no tenant.
            described = min(described, 0.44)
        if span == words.kind_of:
            # A kind of home is no home.
            described = min(described, 0.3)
        best = max(
            _name_score(span, words),
            described,
            *(0.88 * _described_score(span, c) for c in words.clauses),
            *(0.98 for s in words.synonyms if span == s),
            *(0.6 for s in self.column(key).synonyms if span[-1:] == word_stems(s)[-1:]),
            0.0,
        )
        if span == words.parts[:-1] and words.parts[-1] != NAME and self._tells_what(key):
            # The product is what its description says; a pet is no pet name, which many may share.
            best = max(best, 0.95)
        if words.said_of == set(span) and self.column(key).is_measure:
            # The yield in tonnes per hectare is the yield.
            best = max(best, 0.93)
        if best > 0.5 and span == words.parts[:-1] and self.column(key).role in _TELLING_ROLES:
            beside = (ColumnKey(key.table, c.name) for c in self.table(key.table).columns if c.is_measure)
            if any(self.columns[k].parts == span for k in beside) and span != self.tables[key.table].parts:
                # The stock is how much there is, and not the stock code.
                best = 0.5
        if len(span) > 1 and span[-1] in _LOOSE and self.column(key).role in (Role.IDENTIFIER, Role.LINK, Role.CODE):
            # A claim number is the claim.
            best = max(best, 0.97 * _described_score(span[:-1], words.described))
            if span[:-1] == words.parts:
                best = max(best, 0.97)
        if (
            len(span) > 1
            and span[-1] in _MONEY_HEADS
            and self.column(key).role is Role.QUANTITY
            and span[-1] not in {*words.parts, *words.described}
        ):
            # The price of a ticket is no number of tickets.
            best = min(best, 0.44)
        # "Customer name" and "name of the customer" are the name in the table of customers.
        own = self.tables[key.table].parts
        if len(span) > 1 and self.figure_of(key.table) == key and span in (own, (*words.parts[:-1], *own)):
            # The house price is the price in a table of house prices.
            best = max(best, 0.97)
        if len(span) > 1 and len(words.parts) == 1 and own and span[0] == own[-1] and span[1:] == words.parts:
            best = max(best, 1.0)
        elif len(span) == 2 == len(words.parts) + 1 and own and self.column(key).role is Role.CATEGORY:
            # The type of a client is the kind in the table of clients.
            ours = 1.0 if span[0] == own[-1] else 0.94 if related(span[0], own[-1]) else 0.0
            if related(span[1], words.parts[0]) and span[1] in KIND_WORDS:
                best = max(best, 0.95 * ours)
        return best

    def figure_of(self, table: str) -> ColumnKey | None:
        """The measure that a table is called after: the price in a table of house prices, whose rows are no prices."""
        if table not in self._figures:
            own, found = self.tables[table].parts, self.table(table)
            keys = [ColumnKey(table, c.name) for c in found.columns if c.is_measure]
            called: list[ColumnKey] = []
            if own == ("stock",):
                # The stock in a list of stock is how much there is of each.
                called = [k for k in keys if own in (self.columns[k].parts, *self.columns[k].synonyms)]
            elif found.key is None and len(own) > 1:
                called = [k for k in keys if self.columns[k].parts[-1:] == own[-1:]]
            elif found.key is None and own and own[0] in _LASTING_STEMS:
                lasting = {own[0], stem("time"), stem("duration")}
                words = ((k, {*self.columns[k].parts, *self.columns[k].full}) for k in keys)
                called = [k for k, held in words if held & lasting and stem("rate") not in held]
            self._figures[table] = called[0] if len(called) == 1 else None
        return self._figures[table]

    def columns_of_ideas(
        self, ideas: tuple[str, ...], *, numeric: bool, dated: bool = False
    ) -> list[tuple[float, ColumnKey]]:
        """Columns of numbers (or dates) whose name is one of the ideas, the nearest idea first."""
        return self._of_ideas(ideas, numeric, dated)

    def _columns_of_ideas(self, ideas: tuple[str, ...], numeric: bool, dated: bool) -> list[tuple[float, ColumnKey]]:
        found: dict[ColumnKey, float] = {}
        for place, idea in enumerate(ideas):
            for known, keys in self._by_word.items():
                exact = known == idea or (min(len(known), len(idea)) >= 4 and known.startswith(idea))
                if not (exact or bool(concepts().get(idea, frozenset()) & concepts().get(known, frozenset()))):
                    continue
                for key in keys:
                    column, words = self.column(key), self.columns[key]
                    if (numeric and not column.is_measure) or (
                        dated and not (column.type.is_time or is_yearly(column))
                    ):
                        continue
                    if not numeric and not dated:
                        continue
                    inside = known in words.parts
                    if idea in _MONEY_HEADS | {"pay", "paid"} and (
                        column.type is Type.DURATION or _TIME_UNITS.issuperset(name_parts(key.column)[-1:])
                    ):
                        # Payment terms in days are no payment.
                        continue
                    if words.head in _PRICED and idea in _COUNTED_IDEAS:
                        # A unit price is no number of units.
                        continue
                    score = (0.8 if exact else 0.62) - 0.03 * place - (0 if inside else 0.12)
                    part = idea == _PRICE and not inside
                    if part and all(len(name) > 1 for name in words.synonyms if known in name):
                        # A part of what a column may be called is less than a name for it.
                        score -= 0.15
                    if idea == _PRICE and PAID_FOR_THEM & {*name_parts(key.column)}:
                        # What is expensive is so by its price, and not by what was once paid for it.
                        score -= 0.2
                    if inside and known != words.head:
                        score -= 0.08
                    found[key] = max(found.get(key, 0.0), score)
        reached = {
            key.table
            for key in found
            # Of what is not sold yet it is told what is asked.
            if not _NO_PRICE_REACHED & {*self.columns[key].parts}
            and 5 * self.column(key).missing <= self.table(key.table).rows
        }
        for key in found if not OFFERED & {*ideas[:1]} else ():
            if key.table in reached and OFFERED & {*self.columns[key].parts}:
                # What is dear sold for much, whatever was asked for it.
                found[key] -= 0.2
        return sorted(((s, k) for k, s in found.items()), key=lambda pair: (-pair[0], pair[1]))

    # --- tables

    def tables_for(self, span: tuple[str, ...]) -> list[tuple[float, str]]:
        """The tables that a span names, or what one of their rows is."""
        if span not in self._table_cache:
            # Of several words each says something of the table.
            likely = [name for name in self.tables if len(span) == 1 or self._may_be_called(name, span)]
            found = [(self._table_score(name, span), name) for name in likely]
            self._table_cache[span] = sorted((f for f in found if f[0] >= 0.45), key=lambda f: (-f[0], f[1]))
        return self._table_cache[span]

    def _may_be_called(self, name: str, span: tuple[str, ...]) -> bool:
        """True where each of some words stands in a table's name or is related to one that does, or all of them are another."""
        known = self._words_near.setdefault(name, {})
        words = self.tables[name]
        for word in span:
            if word not in known:
                said = word in words.parts or word in words.free or (words.dated and word in _DATED)
                known[word] = said or any(related(word, part) for part in words.parts)
            if not known[word]:
                return span == words.full or span in words.synonyms
        return True

    @functools.cached_property
    def _heads_of_tables(self) -> Counter[str]:
        """How many tables are called after each last word."""
        return Counter(words.parts[-1] for words in self.tables.values() if words.parts)

    def _table_score(self, name: str, span: tuple[str, ...]) -> float:
        words = self.tables[name]
        best = max(_name_score(span, words), *(0.98 if span == s else 0.0 for s in words.synonyms), 0.0)
        table = self.table(name)
        if len(span) != 1:
            return best
        if words.parts[-1:] == span and self._heads_of_tables[span[0]] == 1:
            # Purchase orders are orders, where no other table is of orders.
            best = max(best, 0.86)
        called = self.row_nouns[name]
        if times := called.get(span[0], 0):
            best = max(best, 0.87 if times > 1 else 0.8)
        elif any(related(span[0], noun) for noun in called):
            best = max(best, 0.72)
        if any(self.columns[ColumnKey(name, c.name)].kind_of == span for c in table.columns):
            # What is of several kinds are the rows themselves.
            best = max(best, 0.86)
        # A table of rows that an identifier or a name tells apart is of what these are called after.
        for column in (table.naming_column, table.key, self._their_name(table)):
            if column is None:
                continue
            known = self.columns[ColumnKey(name, column.name)]
            nouns = [p for p in (*known.parts, *known.described[:1]) if p not in ("name", "titl", "full", *_LOOSE)]
            if span[0] in nouns:
                best = max(best, 0.88)
            elif any(related(span[0], noun) for noun in nouns):
                best = max(best, 0.7)
        return best


def is_out_of(name: str) -> bool:
    """True for a column of what could be reached at most: the marks that a test is out of."""
    parts = name_parts(name)
    return (
        parts[:2] == ["out", "of"] or parts[-2:] == ["out", "of"] or set(parts) in ({"max", "marks"}, {"max", "score"})
    )


def _is_a_name(parts: Sequence[str]) -> bool:
    return len(parts) == 2 and parts[1] == "name"


def _name_score(span: tuple[str, ...], words: NameWords) -> float:
    parts = words.parts
    if not span or not parts:
        return 0.0
    if span in (parts, words.full):
        return 1.0 if span == words.full or not words.dated else 0.72
    marks = _MARKS & words.free
    rest = [p for p in parts if p not in _LOOSE and p not in marks] or list(parts)
    if len(rest) > 1 and rest[-1] in _UNIT_STEMS:
        rest.pop()
    whole = list(rest)
    exact = 0.0
    matched: list[str] = []
    for word in span:
        if (words.dated and word in _DATED) or (word in words.free and len(span) > 1 and word not in rest):
            exact += 1
            continue
        if word in rest:
            exact += 1
            rest.remove(word)
            matched.append(word)
            continue
        if word in _LOOSE and word in parts:
            exact += 1
            continue
        near = words.head if words.head in rest and related(word, words.head) else None
        near = near or next((p for p in rest if related(word, p)), None)
        if near is None and word not in _RATES and any(related(word, known) for known in matched):
            # An email address is the email, and a dividend yield is no dividend.
            exact += 0.5
            continue
        if near is None:
            return 0.0
        rest.remove(near)
        matched.append(near)
    if len(rest) == 1 and rest[0] in _WHOLES and matched:
        # The cost is the total cost before it is one of its parts.
        rest = []
        exact -= 0.3
    # A word of the name itself says more than a word of like meaning does.
    likeness = 1.0 - 0.24 * (len(span) - exact) / len(span)
    if not rest:
        named = any(w in _DATED for w in span) if words.dated else True
        return (0.97 if named else 0.72) * likeness
    if not matched:
        return 0.42 * likeness
    coverage = (len(whole) - len(rest)) / len(whole)
    headed = words.head in matched
    base = 0.66 if headed else 0.46
    return (base + 0.2 * coverage) * likeness - (0.1 if words.dated else 0.0)


def _described_score(span: tuple[str, ...], described: tuple[str, ...]) -> float:
    """How much of a description's first clause a span says; the whole of it is as good as the name."""
    if not span or not described:
        return 0.0
    if span == described:
        return 0.99
    hits = [
        next((d for d in described if w == d), None) or next((d for d in described if related(w, d)), None)
        for w in span
    ]
    if not all(hits):
        return 0.0
    exact = sum(w in described for w in span) / len(span)
    first = 0.06 if span[0] == described[0] else 0.0
    return min(0.9, 0.4 + 0.4 * len(span) / len(described) + 0.14 * exact + first)


_YES = frozenset(["yes", "y"])
_NO = frozenset(["no", "n", "not"])
_NO_ANSWER = frozenset(["unknown", "n/a", "na", "don't know", "refused", "maybe", "partly", "pending", "-"])
_MOST_ANSWERS = 5
"""Values of a column that says yes, no, or why neither."""


def said_yes(column: Column) -> str | None:
    """The yes of a column of words that holds it beside a no and what else there may be no answer by: no internet there."""
    if column.type is not Type.TEXT or not 2 < column.distinct == len(column.values) <= _MOST_ANSWERS:
        return None
    yes = [v for v in column.values if v.lower() in _YES]
    rest = [v.lower() for v in column.values if v not in yes]
    no = all(v.split()[0] in _NO or v in _NO_ANSWER for v in rest if v.strip())
    return yes[0] if len(yes) == 1 and no and _NO & set(rest) else None
