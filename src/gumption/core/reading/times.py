"""Spans of time in a question: in 2025, last month, since March, between May and July 2024."""

from __future__ import annotations

import datetime as dt
import functools
import itertools
import re
from dataclasses import dataclass, field
from typing import Literal

from gumption.core.plan.words import DAY_NAMES, MONTH_NAMES
from gumption.core.reading import meaning as m
from gumption.core.reading.tokens import Token


@dataclass(frozen=True)
class Span:
    """Whole days from `low` to `high`, either open where None; or the same month or weekday of any year."""

    low: dt.date | None = None
    high: dt.date | None = None
    part: Literal["month", "quarter", "weekday"] | None = None
    numbers: tuple[int, ...] = ()
    ends: tuple[Span, Span] | None = field(default=None, compare=False)
    """The two times from one of which to the other it reaches, where both are said."""


@dataclass(frozen=True)
class TimeMention:
    """A span and the tokens that said it, [start, end); `firm` where the words can hardly mean anything else."""

    start: int
    end: int
    span: Span
    firm: bool = True


UNITS = {"day": 1, "week": 7, "month": 30, "quarter": 91, "year": 365}
MONTHS_IN = {"month": 1, "quarter": 3, "year": 12}
_SHORT_UNITS = {"mo": "month", "mth": "month", "yr": "year", "wk": "week", "qtr": "quarter"}
RECENT_DAYS = 30
"""How many days back is recent."""
_NOT_OF_LATE = frozenset(["most", "more", "less", "least", "how", "very"])
A_FEW = 3
"""How many the last few weeks or months are taken to be."""
_SEASONS = {"spring": 3, "summer": 6, "autumn": 9, "winter": 12}
"""The month in which each begins, in the north."""
_BY_PERIODS = frozenset(["monthly", "weekly", "quarterly", "daily", "yearly", "line", "trend"])
_HALVES = {"first": 1, "second": 2, "1st": 1, "2nd": 2, "latter": 2, "last": 2}
_ORDINALS = {
    word: number
    for number, word in enumerate(
        ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth"], 1
    )
}
_DECADES = {
    "twenties": 1920, "thirties": 1930, "forties": 1940, "fifties": 1950, "sixties": 1960, "seventies": 1970,
    "eighties": 1980, "nineties": 1990, "noughties": 2000
}  # fmt: skip
_A_MONTH = dt.timedelta(days=31)
_BEFORE = frozenset(["last", "previous", "preceding", "prior", "foregoing"])
_RUNNING = frozenset(["this", "current", "ongoing", "running", "present"])
_WHOLE = frozenset(["full", "complete", "whole", "entire", "completed", "finished", "calendar"])
_NAMED_DAYS = {
    ("christmas", "eve"): (12, 24),
    ("christmas", "day"): (12, 25),
    ("christmas",): (12, 25),
    ("boxing", "day"): (12, 26),
    ("new", "year's", "eve"): (12, 31),
    ("new", "years", "eve"): (12, 31),
    ("new", "year's", "day"): (1, 1),
    ("new", "years", "day"): (1, 1),
    ("valentine's", "day"): (2, 14),
    ("halloween",): (10, 31),
}
_CAME = frozenset(
    ["is", "are", "was", "were", "in", "back", "out", "came", "arrived", "delivered", "shipped", "returned", "paid", "finished",
     "completed", "sent", "closed", "ran"]
)  # fmt: skip
"""What goes before late where it says how something came, and not when: came in late in 2024."""
_MONTHS = (
    {name.lower(): i for i, name in enumerate(MONTH_NAMES, 1)}
    | {name[:3].lower(): i for i, name in enumerate(MONTH_NAMES, 1)}
    | {f"{name.lower()}s": i for i, name in enumerate(MONTH_NAMES, 1)}
    | {"sept": 9}
)
_DAYS = {name.lower(): i for i, name in enumerate(DAY_NAMES, 1)} | {
    f"{name.lower()}s": i for i, name in enumerate(DAY_NAMES, 1)
}


TIME_WORDS = frozenset(
    {
        *_MONTHS,
        *_DAYS,
        *UNITS,
        *[
            "last",
            "past",
            "previous",
            "this",
            "current",
            "today",
            "yesterday",
            "since",
            "before",
            "after",
            "until",
            "till",
            "during",
            "weekend",
            "weekends",
            "starting",
            "prior",
            "through",
            "throughout",
            "first",
            "second",
            "third",
            "fourth",
            "tomorrow",
            "next",
            "ytd",
            "half",
        ],
    }
)
"""Words that say when; none of them is a misspelling."""


def months_later(day: dt.date, months: int) -> dt.date:
    """The first of the month so many months on."""
    place = day.year * 12 + day.month - 1 + months
    return dt.date(place // 12, place % 12 + 1, 1)


def in_year(day: dt.date, year: int) -> dt.date:
    """The same day of another year; of the end of a February the 28th."""
    return day.replace(year=year, day=min(day.day, 28) if day.month == 2 else day.day)


_PERIODS = (
    re.compile(r"(?P<year>(?:19|20)\d{2})[-_/ ]?q(?P<quarter>[1-4])"),
    re.compile(r"q(?P<quarter>[1-4])[-_/ ]?(?P<year>(?:19|20)\d{2})"),
    re.compile(r"(?P<year>(?:19|20)\d{2})[-_/ ]?h(?P<half>[12])"),
    re.compile(r"h(?P<half>[12])[-_/ ]?(?P<year>(?:19|20)\d{2})"),
)


_FINANCIAL = re.compile(r"(?:fy ?)?(?P<year>(?:19|20)\d{2}) ?[-/–] ?(?P<last>(?:19|20)?\d{2})")
"""A financial year, from April to March."""


_MONTHS_OF_YEAR = re.compile(
    r"(?P<first>[a-z]{3,9}) ?(?P<year>(?:19|20)\d{2})? ?(?:to|-|–) ?(?P<last>[a-z]{3,9}) (?P<ends>(?:19|20)\d{2})"
)
"""Jan-Mar 2021, April 2023 to June 2023."""
_SEVERAL_YEARS = re.compile(r"(?P<year>(?:19|20)\d{2}) ?(?:to|-|–) ?(?P<last>(?:19|20)\d{2})")
_YEAR_ENDING = re.compile(r"(?:year ending|year ended|ye|12 months to) (?P<month>[a-z]{3,9}) (?P<year>(?:19|20)\d{2})")


def _stretch_of(text: str) -> tuple[dt.date, dt.date] | None:
    """First and last day of a stretch of months or of several years."""
    if found := _SEVERAL_YEARS.fullmatch(text):
        low, high = int(found["year"]), int(found["last"])
        return (dt.date(low, 1, 1), dt.date(high, 12, 31)) if 1 <= high - low <= 9 else None
    if found := _YEAR_ENDING.fullmatch(text):
        month = _MONTHS.get(found["month"])
        if month is None:
            return None
        after = months_later(dt.date(int(found["year"]), month, 1), 1)
        return months_later(after, -12), after - dt.timedelta(days=1)
    if found := _MONTHS_OF_YEAR.fullmatch(text):
        first, last = _MONTHS.get(found["first"]), _MONTHS.get(found["last"])
        if first is None or last is None:
            return None
        ends = int(found["ends"])
        low_day = dt.date(int(found["year"] or (ends if first <= last else ends - 1)), first, 1)
        return low_day, months_later(dt.date(ends, last, 1), 1) - dt.timedelta(days=1)
    return None


def financial_year(text: str) -> int | None:
    """The year in which a financial year begins, where a text is one."""
    found = _FINANCIAL.fullmatch(text.strip().lower())
    year = int(found["year"]) if found is not None else 0
    return year if found is not None and int(found["last"]) in (year + 1, (year + 1) % 100) else None


@functools.lru_cache(maxsize=10_000)
def period_of(text: str) -> tuple[dt.date, dt.date] | None:
    """First and last day of a period as written: 2021Q1, Q1 2021, 2021-H2, 2021/22, Jan-Mar 2021, 2018 to 2020."""
    if (year := financial_year(text)) is not None:
        return dt.date(year, 4, 1), dt.date(year + 1, 3, 31)
    if (stretch := _stretch_of(" ".join(text.lower().split()))) is not None:
        return stretch
    for pattern in _PERIODS:
        found = pattern.fullmatch(text.strip().lower())
        if found is not None:
            parts = found.groupdict()
            length = 3 if parts.get("quarter") else 6
            low = dt.date(int(parts["year"]), (int(parts.get("quarter") or parts["half"]) - 1) * length + 1, 1)
            return low, months_later(low, length) - dt.timedelta(days=1)
    return None


@functools.lru_cache(maxsize=2_000)
def are_periods(values: tuple[str, ...]) -> bool:
    """True where all values are quarters, half years, financial years or other such periods."""
    return len(values) >= 2 and all(period_of(v) is not None for v in values)


def written_in_order(values: tuple[str, ...]) -> bool:
    """True for periods whose order as text is that in which they follow each other: 2021 Q1, and not Q1 2021."""
    begun = [ends[0] for v in sorted(values) if (ends := period_of(v)) is not None]
    return begun == sorted(begun)


def are_years(values: tuple[str, ...]) -> bool:
    """True where all values are financial years, or other periods of a year or longer."""
    ends = [period_of(v) for v in values] if are_periods(values) else []
    return bool(ends) and all(e is not None and (e[1] - e[0]).days >= 364 for e in ends)


_HELD_AGAINST = frozenset(["than", "vs", "versus", "against", "with", "to"])
_SHIFTS = {"this": 0, "last": -1, "previous": -1, "next": 1}
"""How many units from the one that runs a word points."""


def is_short_unit(word: str) -> bool:
    """True for a unit of time cut short: mths, yrs, wk."""
    return word.removesuffix("s") in _SHORT_UNITS


def unit_span(unit: str, day: dt.date, shift: int) -> Span:
    """The calendar unit that holds the day, moved by whole units."""
    one = dt.timedelta(days=1)
    match unit:
        case "year":
            return Span(dt.date(day.year + shift, 1, 1), dt.date(day.year + shift, 12, 31))
        case "quarter":
            first = months_later(dt.date(day.year, (day.month - 1) // 3 * 3 + 1, 1), 3 * shift)
            return Span(first, months_later(first, 3) - one)
        case "month":
            first = months_later(day.replace(day=1), shift)
            return Span(first, months_later(first, 1) - one)
        case "week":
            first = day - dt.timedelta(days=day.weekday()) + dt.timedelta(weeks=shift)
            return Span(first, first + 6 * one)
        case _:
            return Span(day + shift * one, day + shift * one)


def _year(token: Token | None, since: int = 1900) -> int | None:
    if token is not None and re.fullmatch(r"(?:1[5-9]|20)\d\d", token.text) and int(token.text) >= since:
        return int(token.text)
    return None


class _Reader:
    def __init__(self, tokens: list[Token], as_of: dt.date, since: int) -> None:
        self.tokens, self.as_of, self.since = tokens, as_of, since
        self.words = tuple(t.lower for t in tokens)

    def at(self, place: int) -> Token | None:
        return self.tokens[place] if 0 <= place < len(self.tokens) else None

    def word(self, place: int) -> str:
        return self.words[place] if 0 <= place < len(self.words) else ""

    def unit(self, place: int) -> str:
        """The unit of time that stands at a place, however it is written, or nothing."""
        word = self.word(place).removesuffix("'s").removesuffix("s'").removesuffix("s")
        return word if word in UNITS else _SHORT_UNITS.get(word, "")

    def in_periods(self) -> bool:
        """True where things are asked for period by period."""
        return any(t.lower in _BY_PERIODS for t in self.tokens)

    def day_of_next(self, at: int) -> tuple[int, Span] | None:
        """The 3 of "3 and 16 March 2025" or "3 to 16 March"."""
        token = self.at(at)
        if (
            token is None
            or token.number is None
            or not 1 <= token.number <= 31
            or self.word(at + 1) not in ("and", "to")
        ):
            return None
        last = self.whole(at + 2 + (self.word(at + 2) == "the"))
        if last is None or last[1].low is None or last[1].low != last[1].high:
            return None
        day = _safe(last[1].low.year, last[1].low.month, int(token.number))
        return None if day is None else (at + 1, Span(day, day))

    def ordinal(self, at: int) -> int | None:
        """First, 2nd, third: the number that it says."""
        word = self.word(at)
        if found := re.fullmatch(r"(\d{1,2})(?:st|nd|rd|th)", word):
            return int(found[1])
        return _ORDINALS.get(word)

    def inner(self, at: int) -> tuple[int, Span] | None:
        """What stands behind "of the" or "in": a span with two ends."""
        if self.word(at) not in ("of", "in"):
            return None
        found = self.whole(at + 1 + (self.word(at + 1) == "the"))
        return found if found is not None and found[1].low is not None and found[1].high is not None else None

    def numbered(self, at: int) -> tuple[int, Span] | None:
        """A counted part of a longer span: the second week of March, the last 10 days of 2025, week 12 of 2025."""
        one = dt.timedelta(days=1)
        word, unit = self.word(at), self.unit(at)
        token = self.at(at + 1)
        if unit in ("week", "quarter") and token is not None and token.number and float(token.number).is_integer():
            number, of = int(token.number), self.inner(at + 2)
            year = of[1].low.year if of is not None and of[1].low is not None else _year(self.at(at + 2), self.since)
            end = of[0] if of is not None else at + 2 + (year is not None)
            if unit == "quarter" and 1 <= number <= 4:
                if year is None:
                    return end, Span(part="quarter", numbers=(number,))
                return end, unit_span("quarter", dt.date(year, 3 * number - 2, 1), 0)
            if unit == "week" and 1 <= number <= 53:
                try:
                    first = dt.date.fromisocalendar(year or self.as_of.year, number, 1)
                except ValueError:
                    return None
                return end, Span(first, first + 6 * one)
        ends = word in ("last", "final", "closing")
        number_of = -1 if ends else self.ordinal(at) or (1 if word == "opening" else None)
        if number_of is None:
            return None
        counted = self.at(at + 1)
        several = counted is not None and counted.kind == "number" and counted.number is not None
        length = int(counted.number) if several and counted is not None and counted.number else 1
        place = at + 1 + several
        unit = self.unit(place)
        of = self.inner(place + 1)
        if not unit or of is None or length < 1 or (several and number_of not in (1, -1)):
            return None
        low, high = of[1].low, of[1].high
        assert low is not None and high is not None
        skip = 0 if ends else number_of - 1
        if unit in ("day", "week"):
            days = UNITS[unit]
            first = high - dt.timedelta(days=days * length - 1) if ends else low + dt.timedelta(days=days * skip)
            last = high if ends else first + dt.timedelta(days=days * length - 1)
        else:
            months = MONTHS_IN[unit]
            begin = months_later(high.replace(day=1), 1 - months * length) if ends else months_later(low, months * skip)
            first, last = begin, months_later(begin, months * length) - one
        return (of[0], Span(first, last)) if low <= first and last <= high else None

    def end_of(self, at: int) -> tuple[int, Span] | None:
        """The start, the middle or the end of a year or a month: a third of it."""
        if self.word(at + 1) in (
            "in",
            "on",
            "by",
            "within",
            "during",
            "after",
            "before",
            "this",
            "next",
            "last",
            "until",
        ):
            # Those that end next month do so, and lie not at the end of it.
            return None
        third = {"start": 0, "beginning": 0, "middle": 1, "end": 2}.get(self.word(at))
        of = self.inner(at + 1) if third is not None else None
        if of is None or third is None:
            return None
        low, high = of[1].low, of[1].high
        assert low is not None and high is not None
        if (high - low).days > 360:
            first = months_later(low, 4 * third)
            return of[0], Span(first, months_later(first, 4) - dt.timedelta(days=1))
        if (high - low).days < 27:
            return None
        starts = [low, low + dt.timedelta(days=10), low + dt.timedelta(days=20)]
        lasts = [starts[1] - dt.timedelta(days=1), starts[2] - dt.timedelta(days=1), high]
        return of[0], Span(starts[third], lasts[third])

    def short(self, at: int) -> tuple[int, Span] | None:
        """1Q25, Q3'24, 3Q 2025, the nineties."""
        word = self.word(at)
        if (decade := _DECADES.get(word)) is not None:
            return at + 1, Span(dt.date(decade, 1, 1), dt.date(decade + 9, 12, 31))
        found = re.fullmatch(r"(?:([1-4])q|q([1-4]))['’]?(\d\d|(?:19|20)\d\d)?", word)
        if found is None or not (found[3] or found[1]):
            return None
        quarter, end = int(found[1] or found[2]), at + 1
        year = int(found[3]) + (2000 if len(found[3]) == 2 else 0) if found[3] else _year(self.at(at + 1), self.since)
        if year is None:
            return end, Span(part="quarter", numbers=(quarter,))
        return end + (not found[3]), unit_span("quarter", dt.date(year, 3 * quarter - 2, 1), 0)

    def weekday(self, at: int) -> tuple[int, Span] | None:
        """Last Monday, this Friday, next Tuesday."""
        number = _DAYS.get(self.word(at + 1)) if not self.word(at + 1).endswith("days") else None
        if number is None or self.word(at) not in ("last", "this", "next", "past", "coming"):
            return None
        back = (self.as_of.isoweekday() - number) % 7
        days = {"last": -(back or 7), "past": -(back or 7), "this": number - self.as_of.isoweekday()}.get(
            self.word(at), 7 - back
        )
        day = self.as_of + dt.timedelta(days=days)
        return at + 2, Span(day, day)

    def called_by_weekday(self, at: int) -> tuple[int, Span] | None:
        """Monday 5 January is that day, whichever of the week it is called."""
        if self.word(at) not in _DAYS:
            return None
        named = self.whole(at + 1 + (self.word(at + 1) in (",", "the")))
        return named if named is not None and named[1].low is not None and named[1].low == named[1].high else None

    def up_to_now(self, at: int) -> tuple[int, Span] | None:
        """So far this year, the rest of the month: the part of a running period until today, or from tomorrow."""
        one = dt.timedelta(days=1)
        so_far = self.words_at(at, ("so", "far"))
        rest = self.word(at) in ("rest", "remainder") and self.word(at + 1) == "of"
        unit = self.unit(at + 3)
        running = self.word(at + 2) in _RUNNING or (self.word(at + 2) == "the" and rest)
        if not (so_far or rest) or not unit or not running or _year(self.at(at + 4)) is not None:
            return None
        span = unit_span(unit, self.as_of, 0)
        return at + 4, Span(span.low, self.as_of) if so_far else Span(self.as_of + one, span.high)

    def running_up_to(self, at: int) -> tuple[int, Span] | None:
        """The six months to June 2025, the year ending March 2025: so long until the end of what is named."""
        count = self.at(at)
        several = count is not None and count.kind == "number" and count.number is not None
        length = int(count.number) if several and count is not None and count.number else 1
        place = at + several
        unit = self.unit(place)
        if unit not in MONTHS_IN or length < 1 or (several and _year(count) is not None):
            return None
        led = self.word(place + 1) in ("to", "ending", "ended")
        last = self.whole(place + 2 + (self.word(place + 2) == "the")) if led else None
        if last is None or last[1].high is None or last[1].low is None or last[1].high - last[1].low > _A_MONTH:
            return None
        after = last[1].high + dt.timedelta(days=1)
        if after.day != 1 and last[1].low != last[1].high:
            return None
        first = months_later(after.replace(day=1), -MONTHS_IN[unit] * length)
        begin = _safe(first.year, first.month, after.day)
        return None if begin is None else (last[0], Span(begin, last[1].high))

    def beside_today(self, at: int) -> tuple[int, Span] | None:
        """The day before yesterday, the day after tomorrow, last weekend."""
        if self.words_at(at, ("day", "before", "yesterday")) or self.words_at(at, ("day", "after", "tomorrow")):
            day = self.as_of + dt.timedelta(days=-2 if self.word(at + 1) == "before" else 2)
            return at + 3, Span(day, day)
        weeks = {"last": -1, "past": -1, "previous": -1, "this": 0, "coming": 0, "next": 1}.get(self.word(at))
        if weeks is None or self.word(at + 1) != "weekend":
            return None
        saturday = self.as_of + dt.timedelta(days=6 - self.as_of.isoweekday() + 7 * weeks)
        return at + 2, Span(saturday, saturday + dt.timedelta(days=1))

    def one_before(self, at: int) -> tuple[int, Span] | None:
        """More last month than the month before, yesterday against the day before: before the one that was said."""
        unit, end = self.unit(at), at + 2
        if not unit or self.word(at + 1) != "before" or self.whole(end) is not None:
            return None
        joined = self.word(at - 1 - (self.word(at - 1) == "the"))
        said = [self.word(p) for p in range(at)]
        if unit == "day":
            back = -1 if "yesterday" in said else 0 if "today" in said else None
            joining = _HELD_AGAINST
        else:
            backs = {"last": -1, "previous": -1, "this": 0, "current": 0}
            back = next((backs[w] for p, w in enumerate(said) if w in backs and self.unit(p + 1) == unit), None)
            joining = frozenset(["than"])
        if back is None or joined not in joining:
            return None
        return end, unit_span(unit, self.as_of, back - 1)

    def month_beside(self, at: int) -> tuple[int, Span] | None:
        """Last December, this March, next June: the one that is nearest."""
        month = _MONTHS.get(self.word(at + 1))
        if month is None or self.word(at + 1).endswith("s") or _year(self.at(at + 2)) is not None:
            return None
        year = {
            "last": self.as_of.year - (month >= self.as_of.month),
            "this": self.as_of.year,
            "next": self.as_of.year + (month <= self.as_of.month),
        }.get(self.word(at))
        return None if year is None else (at + 2, unit_span("month", dt.date(year, month, 1), 0))

    def same_before(self, at: int) -> tuple[int, Span] | None:
        """The same month last year, this time last year."""
        unit = "month" if self.word(at + 1) == "time" else self.unit(at + 1)
        if self.word(at) not in ("same", "this") or not unit or unit == "year":
            return None
        if self.word(at) == "this" and self.word(at + 1) != "time":
            return None
        if not self.words_at(at + 2, ("last", "year")) and not self.words_at(at + 2, ("a", "year", "ago")):
            return None
        day = in_year(self.as_of, self.as_of.year - 1)
        return at + 4 + (self.word(at + 2) == "a"), unit_span(unit, day, 0)

    def whole(self, at: int) -> tuple[int, Span] | None:
        """A point or unit of time without its preposition: its end and span."""
        token = self.at(at)
        if token is None:
            return None
        for read in (
            self.up_to_now, self.running_up_to, self.beside_today, self.one_before, self.month_beside, self.numbered, self.end_of,
            self.short, self.weekday, self.called_by_weekday, self.same_before,
        ):  # fmt: skip
            if (part := read(at)) is not None:
                return part
        if token.kind == "date":
            day = _day(token.text)
            return None if day is None else (at + 1, Span(day, day))
        year = _year(token, self.since)
        if year and self.word(at + 1) in ("a", "per", "each", "every") and self.unit(at + 2):
            # 2000 a month is an amount.
            return None
        if year and (financial := self.financial_year(at)):
            return financial
        if year:
            if quarter := re.fullmatch(r"q([1-4])", self.word(at + 1)):
                return at + 2, unit_span("quarter", dt.date(year, 3 * int(quarter[1]) - 2, 1), 0)
            dash, month_of = self.at(at + 1), self.at(at + 2)
            if dash is not None and month_of is not None and dash.text in ("-", "/", "."):
                numbered = re.fullmatch(r"0[1-9]|1[0-2]", month_of.text)
                if numbered and dash.start == token.end and int(month_of.text) != (year + 1) % 100:
                    # 2025-06
                    return at + 3, unit_span("month", dt.date(year, int(month_of.text), 1), 0)
            return at + 1, Span(dt.date(year, 1, 1), dt.date(year, 12, 31))
        if decade := re.fullmatch(r"((?:19|20)\d)0s", token.text):
            return at + 1, Span(dt.date(int(decade[1]) * 10, 1, 1), dt.date(int(decade[1]) * 10 + 9, 12, 31))
        if month := _MONTHS.get(token.lower):
            return self.month(at, month)
        day_word = self.ordinal(at) if token.kind != "number" else int(token.number or 0)
        of_it = self.word(at + 1) == "of" and token.lower != str(day_word)
        if day_word and 1 <= day_word <= 31 and self.word(at + 1 + of_it) in _MONTHS:
            # 5 March 2025, the 5th of March, the first of March
            place = at + 2 + of_it
            month, year = _MONTHS[self.word(place - 1)], _year(self.at(place), self.since)
            day = _safe(year or self.as_of.year, month, day_word)
            return None if day is None else (place + bool(year), Span(day, day))
        if token.kind == "number" and self.word(at + 1) in ("-", "–") and token.number and 1 <= token.number <= 31:
            # 1-15 March 2025
            last = self.whole(at + 2)
            if last is not None and last[1].low is not None and last[1].low == last[1].high:
                first_day = _safe(last[1].low.year, last[1].low.month, int(token.number))
                if first_day is not None and first_day <= last[1].low:
                    return last[0], Span(first_day, last[1].high)
        if quarter := re.fullmatch(r"q([1-4])", token.lower):
            return self.quarter(at + 1, int(quarter[1]))
        if token.lower in ("last", "final") and self.word(at + 1) == "quarter" and self.word(at + 2) == "of":
            return self.quarter(at + 2, 4)
        if self.word(at + 1) == "quarter" and (number := self.ordinal(at)) is not None and number <= 4:
            return self.quarter(at + 2, number)
        if token.lower == "today":
            return at + 1, Span(self.as_of, self.as_of)
        if token.lower in ("yesterday", "tomorrow"):
            day = self.as_of + dt.timedelta(days=1 if token.lower == "tomorrow" else -1)
            return at + 1, Span(day, day)
        if token.lower == "ytd":
            return at + 1, Span(dt.date(self.as_of.year, 1, 1), self.as_of)
        if token.lower == "mtd":
            return at + 1, Span(self.as_of.replace(day=1), self.as_of)
        for phrase, unit in ((("year", "to", "date"), "year"), (("month", "to", "date"), "month")):
            if self.words_at(at, phrase):
                return at + 3, Span(unit_span(unit, self.as_of, 0).low, self.as_of)
        if half := self.half(at) or self.part_of(at):
            return half
        if (found := re.fullmatch(r"fy ?((?:19|20)\d\d|\d\d)", token.lower)) and self.word(at + 1) not in ("/", "-"):
            year = int(found[1]) + (2000 if len(found[1]) == 2 else 0)
            return at + 1, Span(dt.date(year, 1, 1), dt.date(year, 12, 31))
        if token.number is not None and 1 <= token.number <= 12 and self.word(at + 1) == "/":
            # 03/2025
            year_of = _year(self.at(at + 2), self.since)
            if year_of is not None and token.number.is_integer():
                return at + 3, unit_span("month", dt.date(year_of, int(token.number), 1), 0)
        if financial := self.financial_year(at):
            return financial
        if named := self.named_day(at) or self.season(at) or self.ago(at):
            return named
        if self.word(at + 1) in _WHOLE and self.unit(at + 2):
            if token.lower in _RUNNING:
                return at + 3, unit_span(self.unit(at + 2), self.as_of, 0)
            if token.lower in _BEFORE or token.lower == "latest":
                return at + 3, unit_span(self.unit(at + 2), self.as_of, -1)
        unit = self.unit(at + 1)
        several = self.word(at + 1).endswith("s") and not self.word(at + 1).endswith("'s")
        if unit and token.lower in _RUNNING and not several:
            return at + 2, unit_span(unit, self.as_of, 0)
        if unit and token.lower in _BEFORE and (token.lower not in ("preceding", "prior") or not several):
            return at + 2, unit_span(unit, self.as_of, -1)
        if unit and token.lower == "past":
            return at + 2, self.past(1, unit)
        if token.lower in ("next", "coming") and self.word(at + 1).removesuffix("'s") in UNITS:
            return at + 2, unit_span(unit, self.as_of, 1)
        if token.lower in ("last", "past", "previous") and self.word(at + 1) == "fortnight":
            return at + 2, self.past(14, "day")
        if (
            token.lower in ("last", "past", "previous")
            and self.words_at(at + 1, ("couple", "of"))
            and self.unit(at + 3)
        ):
            return at + 4, self.past(2, self.unit(at + 3))
        if token.lower == "recent" and (at == 0 or self.word(at - 1) not in _NOT_OF_LATE):
            return at + 1, self.past(RECENT_DAYS, "day")
        if token.lower in ("next", "coming"):
            count = self.at(at + 1)
            unit = self.word(at + 2).removesuffix("s")
            if count is not None and count.number and unit in UNITS:
                return at + 3, self.ahead(int(count.number), unit)
        if token.lower in ("last", "past", "previous"):
            count = self.at(at + 1)
            unit = self.unit(at + 2)
            if self.word(at + 1) in ("few", "several") and unit:
                return at + 3, self.past(A_FEW, unit)
            if count is not None and count.number and unit:
                return at + 3, self.past(int(count.number), unit)
        return None

    def words_at(self, at: int, phrase: tuple[str, ...]) -> bool:
        return self.words[max(at, 0) : at + len(phrase)] == phrase

    def financial_year(self, at: int) -> tuple[int, Span] | None:
        """2024/25, FY 2024-25, the financial year 2024/25: from April to March."""
        place = at + (self.word(at) == "fy")
        if self.word(at) in ("financial", "fiscal", "tax") and self.word(at + 1) == "year":
            place = at + 2
        first, sign, last = self.at(place), self.word(place + 1), self.at(place + 2)
        year = _year(first, self.since)
        dashed = self.at(place + 1)
        if year is not None and dashed is not None and dashed.text == f"-{(year + 1) % 100:02d}":
            return place + 2, Span(dt.date(year, 4, 1), dt.date(year + 1, 3, 31))
        if year is None or last is None or last.number is None or sign not in ("/", "-", "–"):
            return None
        if int(last.number) not in (year + 1, (year + 1) % 100):
            return None
        if sign != "/" and last.number > 100 and place == at:
            # 2024-25 is a financial year, 2024-2025 are two years.
            return place + 3, Span(dt.date(year, 1, 1), dt.date(year + 1, 12, 31))
        return place + 3, Span(dt.date(year, 4, 1), dt.date(year + 1, 3, 31))

    def half(self, at: int) -> tuple[int, Span] | None:
        """H1 2024, or the first half of 2024."""
        number, place = 0, at
        if self.word(at) in ("h1", "h2"):
            number, place = int(self.word(at)[1]), at + 1
        elif self.word(at) in _HALVES and self.word(at + 1) == "half":
            number, place = _HALVES[self.word(at)], at + 2
        if not number:
            return None
        place += self.word(place) == "of"
        place += self.word(place) == "the"
        if month := self._month_at(place):
            first, middle = month[1], month[1].replace(day=16)
            last = months_later(first, 1) - dt.timedelta(days=1)
            return month[0], Span(first, middle - dt.timedelta(days=1)) if number == 1 else Span(middle, last)
        year = _year(self.at(place), self.since)
        end = place + 1
        if year is None and self.word(place) in ("this", "last") and self.word(place + 1) == "year":
            year, end = self.as_of.year - (self.word(place) == "last"), place + 2
        if year is None and self.word(place) == "year":
            year, end = self.as_of.year, place + 1
        if year is None:
            return None
        low = dt.date(year, 1 if number == 1 else 7, 1)
        return end, Span(low, months_later(low, 6) - dt.timedelta(days=1))

    def _month_at(self, at: int) -> tuple[int, dt.date] | None:
        """The first day of the month of a year that stands at a place."""
        found = self.month(at, _MONTHS[self.word(at)]) if self.word(at) in _MONTHS else None
        if found is None or found[1].low is None or found[1].low == found[1].high:
            return None
        return found[0], found[1].low

    def part_of(self, at: int) -> tuple[int, Span] | None:
        """Early, mid or late in a year or a month: a third of it; halfway through a year: its first half."""
        if self.words_at(at, ("halfway", "through")):
            year = _year(self.at(at + 2), self.since)
            return (at + 3, Span(dt.date(year, 1, 1), dt.date(year, 6, 30))) if year is not None else None
        if self.word(at) not in ("early", "mid", "late"):
            return None
        if self.word(at) == "late" and self.word(at + 1) == "in" and self.word(at - 1) in _CAME:
            # Those that were late in 2024 were so at any time of it.
            return None
        third = ("early", "mid", "late").index(self.word(at))
        place = at + 1 + (self.word(at + 1) == "in")
        year = _year(self.at(place), self.since)
        if year is not None:
            low = dt.date(year, 4 * third + 1, 1)
            return place + 1, Span(low, months_later(low, 4) - dt.timedelta(days=1))
        if month := self._month_at(place):
            first = month[1]
            last = months_later(first, 1) - dt.timedelta(days=1)
            ends = ((1, 10), (11, 20), (21, last.day))[third]
            return month[0], Span(first.replace(day=ends[0]), first.replace(day=ends[1]))
        return None

    def named_day(self, at: int) -> tuple[int, Span] | None:
        """A day with a name of its own, of the year that stands behind it or of the one before today."""
        for words, (month, day) in _NAMED_DAYS.items():
            if self.words_at(at, words):
                end = at + len(words)
                year = _year(self.at(end), self.since)
                if year is not None:
                    found = dt.date(year, month, day)
                    return end + 1, Span(found, found)
                found = dt.date(self.as_of.year, month, day)
                if found > self.as_of:
                    found = found.replace(year=self.as_of.year - 1)
                return end, Span(found, found)
        return None

    def season(self, at: int) -> tuple[int, Span] | None:
        """Summer 2024, last winter, this spring; a winter ends in the year after it began."""
        shift = {"last": -1, "this": 0, "next": 1}.get(self.word(at))
        name = self.word(at + (shift is not None))
        begin = _SEASONS.get(name)
        if begin is None:
            return None
        end = at + (shift is not None) + 1
        said = {(one.lower, other.lower) for one, other in itertools.pairwise(self.tokens)}
        if shift is None and self.word(end) == "before" and ("last", name) in said:
            # Last winter against the winter before.
            low = dt.date(self._last_season(begin) - 1, begin, 1)
            return end + 1, Span(low, months_later(low, 3) - dt.timedelta(days=1))
        place = end + (self.word(end) == "of")
        year = _year(self.at(place), self.since)
        if shift is None and year is None:
            return end, Span(part="month", numbers=tuple((begin + i - 1) % 12 + 1 for i in range(3)))
        if year is None:
            year = self.as_of.year
            if shift == -1:
                # Beside this spring, last spring is the one before it, though this one is over.
                year = year - 1 if ("this", name) in said else self._last_season(begin)
            elif shift == 1 and dt.date(year, begin, 1) <= self.as_of:
                year += 1
        else:
            end = place + 1
        low = dt.date(year, begin, 1)
        return end, Span(low, months_later(low, 3) - dt.timedelta(days=1))

    def _last_season(self, begin: int) -> int:
        """The year in which the last season of those that begin in a month began, of all that are over."""
        return self.as_of.year - (months_later(dt.date(self.as_of.year, begin, 1), 3) > self.as_of)

    def ago(self, at: int) -> tuple[int, Span] | None:
        """Two months ago, the year before last."""
        count, unit = self.at(at), self.unit(at + 1)
        if count is not None and count.number and unit in UNITS and self.word(at + 2) in ("ago", "back"):
            return at + 3, unit_span(unit, self.as_of, -int(count.number))
        if self.word(at) == "a" and unit and self.word(at + 2) == "ago":
            return at + 3, unit_span(unit, self.as_of, -1)
        if self.word(at) in UNITS and self.words_at(at + 1, ("before", "last")):
            return at + 3, unit_span(self.word(at), self.as_of, -2)
        return None

    def ahead(self, count: int, unit: str) -> Span:
        """So many units that begin tomorrow."""
        first = self.as_of + dt.timedelta(days=1)
        if unit in ("day", "week"):
            return Span(first, self.as_of + dt.timedelta(days=count * UNITS[unit]))
        months = MONTHS_IN[unit] * count
        month = months_later(self.as_of.replace(day=1), months)
        last = _safe(month.year, month.month, self.as_of.day) or months_later(month, 1) - dt.timedelta(days=1)
        return Span(first, last)

    def past(self, count: int, unit: str) -> Span:
        """So many units that end on today."""
        if unit in ("day", "week"):
            return Span(self.as_of - dt.timedelta(days=count * UNITS[unit] - 1), self.as_of)
        months = MONTHS_IN[unit] * count
        first = months_later(self.as_of.replace(day=1), -months)
        start = _safe(first.year, first.month, self.as_of.day) or months_later(first, 1) - dt.timedelta(days=1)
        return Span(start + dt.timedelta(days=1), self.as_of)

    def month(self, at: int, month: int) -> tuple[int, Span] | None:
        after = self.at(at + 1)
        day_of = (
            int(after.number)
            if after is not None and after.number and after.number <= 31 and not _year(after, self.since)
            else None
        )
        place = at + (2 if day_of else 1)
        if self.word(place) == "of" or (day_of and self.word(place) == "," and _year(self.at(place + 1), self.since)):
            place += 1
        year = _year(self.at(place), self.since)
        if day_of:
            day = _safe(year or self.as_of.year, month, day_of)
            return None if day is None else (place + bool(year), Span(day, day))
        end = place + 1
        if year is None and self.word(place) in ("this", "last") and self.word(place + 1) == "year":
            year, end = self.as_of.year - (self.word(place) == "last"), place + 2
        if year:
            first = dt.date(year, month, 1)
            return end, Span(first, months_later(first, 1) - dt.timedelta(days=1))
        return at + 1, Span(part="month", numbers=(month,))

    def quarter(self, at: int, quarter: int) -> tuple[int, Span]:
        place = at + (self.word(at) == "of")
        year = _year(self.at(place), self.since)
        if year:
            return place + 1, unit_span("quarter", dt.date(year, 3 * quarter - 2, 1), 0)
        if self.word(place) in ("this", "last") and self.word(place + 1) == "year":
            year = self.as_of.year - (self.word(place) == "last")
            return place + 2, unit_span("quarter", dt.date(year, 3 * quarter - 2, 1), 0)
        return at, Span(part="quarter", numbers=(quarter,))

    def mention(self, at: int) -> TimeMention | None:
        word = self.word(at)
        if word in _SHIFTS and self.word(at - 1) in ("and", "or", "vs", "versus", "against") and not self.unit(at + 1):
            # This year and last: the unit is said once.
            unit, other = self.unit(at - 2), self.word(at - 3)
            next_one = self.at(at + 1)
            if unit and other in _SHIFTS and other != word and (next_one is None or next_one.number is None):
                return TimeMention(at, at + 1, unit_span(unit, self.as_of, _SHIFTS[word]))
        if word in ("between", "from"):
            start = at + 1 + (self.word(at + 1) == "the")
            first = self.whole(start) or self.day_of_next(start)
            if first and self.word(first[0]) in ("and", "to", "until", "till", "through"):
                now = self.word(first[0] + 1) in ("now", "present")
                then = first[0] + 1 + (self.word(first[0] + 1) == "the")
                last = (first[0] + 2, Span(self.as_of, self.as_of)) if now else self.whole(then)
                if last:
                    span = _joined(first[1], last[1])
                    if span:
                        return TimeMention(at, last[0], span)
        if word == "by" and self.word(at + 1) in _MONTHS and (month := self._month_at(at + 1)) is not None:
            return TimeMention(at, month[0], Span(high=months_later(month[1], 1) - dt.timedelta(days=1)))
        if word == "by" and (day := self.whole(at + 1)) and day[1].low is not None and day[1].low == day[1].high:
            # By a day is until then.
            return TimeMention(at, day[0], self.bounded("until", day[1]))
        if word == "since" and self.word(at + 2) in ("start", "beginning") and self.word(at + 4) == "the":
            if self.unit(at + 5) and _year(self.at(at + 6)) is None:
                # Since the beginning of the year that runs.
                return TimeMention(at, at + 6, Span(low=unit_span(self.unit(at + 5), self.as_of, 0).low))
        for phrase, kind in (
            (("no", "later", "than"), "until"),
            (("not", "later", "than"), "until"),
            (("not", "after"), "until"),
            (("no", "earlier", "than"), "since"),
            (("not", "earlier", "than"), "since"),
            (("not", "before"), "since"),
            (("more", "recent", "than"), "after"),
            (("newer", "than"), "after"),
            (("up", "to", "and", "including"), "until"),
            (("as", "of"), "until"),
            (("as", "at"), "until"),
            (("untill",), "until"),
            (("since", "from"), "since"),
            (("since", "the", "start", "of"), "since"),
            (("since", "the", "beginning", "of"), "since"),
            (("from", "the", "start", "of"), "since"),
            (("from", "the", "beginning", "of"), "since"),
            (("as", "from"), "since"),
            (("since",), "since"),
            (("starting", "from"), "since"),
            (("starting", "on"), "since"),
            (("starting", "in"), "since"),
            (("starting",), "since"),
            (("beginning", "from"), "since"),
            (("beginning", "in"), "since"),
            (("beginning", "on"), "since"),
            (("beginning",), "since"),
            (("by", "the", "end", "of"), "until"),
            (("ending", "in"), "until"),
            (("ending", "on"), "until"),
            (("ending",), "until"),
            (("after", "the", "end", "of"), "after"),
            (("after",), "after"),
            (("later", "than"), "after"),
            (("from", "before"), "before"),
            (("earlier", "than"), "before"),
            (("before",), "before"),
            (("until", "the", "end", "of"), "until"),
            (("until",), "until"),
            (("till",), "until"),
            (("up", "to"), "until"),
            (("prior", "to"), "before"),
            (("leading", "up", "to"), "before"),
            (("older", "than"), "before"),
            (("younger", "than"), "after"),
            (("pre",), "before"),
            (("post",), "after"),
            (("from", "the", "start", "through"), "until"),
            (("from", "the", "start", "until"), "until"),
            (("from", "the", "start", "to"), "until"),
            (("from", "the", "beginning", "to"), "until"),
            (("from",), "from"),
        ):
            if word == phrase[0] and tuple(self.word(at + i) for i in range(len(phrase))) == phrase:
                if self.ends_itself(at, phrase):
                    # Contracts ending in the next six months end in them; months ending in June go on until then.
                    continue
                found = self.whole(at + len(phrase) + (self.word(at + len(phrase)) == "the"))
                yearly = bool({"year", "years", "annual", "annually"} & {t.lower for t in self.tokens[:at]})
                if kind == "from" and found and found[1].low and (self.in_periods() or yearly):
                    # Loans by month from January 2024 go on from there.
                    return TimeMention(at, found[0], self.bounded("since", found[1]))
                if kind == "from" and found:
                    # "From 2021" alone is since 2021 only where it says "on"; else it is "of 2021".
                    if self.word(found[0]) in ("on", "onwards", "onward", "forward", "forwards"):
                        return TimeMention(at, found[0] + 1, self.bounded("since", self.dated(found[1])))
                    return TimeMention(at, found[0], found[1])
                if kind == "since" and found is None and self.word(at + len(phrase)) in _DAYS:
                    # Since Monday: the last one that there was.
                    back = (self.as_of.isoweekday() - _DAYS[self.word(at + len(phrase))]) % 7
                    found = at + len(phrase) + 1, Span(self.as_of - dt.timedelta(days=back), self.as_of)
                if found and (found[1].low or found[1].part == "month"):
                    return TimeMention(at, found[0], self.bounded(kind, self.dated(found[1])))
        plain = word == "in" and self.word(at + 1) == "the" and self.word(at + 2) in ("future", "past")
        after = self.at(at + 3)
        counted = self.word(at + 3).removesuffix("s") in UNITS or self.word(at + 3) in (
            "fortnight",
            "couple",
            "weekend",
        )
        if plain and (after is None or after.number is None) and not counted:
            one = dt.timedelta(days=1)
            ahead = self.word(at + 2) == "future"
            return TimeMention(at, at + 3, Span(low=self.as_of + one) if ahead else Span(high=self.as_of - one))
        if word in ("within", "inside") and self.word(at + 1) in ("the", "next", "coming", "last", "past"):
            inner = self.found(at + 1 + (self.word(at + 1) == "the"))
            if inner is not None:
                return TimeMention(at, inner.end, inner.span)
        past = self.word(at + 1 + (self.word(at + 1) == "the")) in (*_BEFORE, "past", "next", "course")
        if word in ("in", "during", "on", "for", "of", "at", "throughout", "through", "across") or (
            word == "over" and past
        ):
            skip = 1
            while self.word(at + skip) in (
                "the",
                "all",
                "of",
                "whole",
                "year",
                "month",
                "entire",
                "calendar",
                "course",
            ):
                skip += 1
            inner = self.found(at + skip)
            return None if inner is None else TimeMention(at, inner.end, inner.span, inner.firm)
        return self.found(at)

    def found(self, at: int) -> TimeMention | None:
        if (named := self.called_by_weekday(at)) is not None:
            return TimeMention(at, named[0], named[1])
        if self.word(at) in _DAYS:
            return TimeMention(at, at + 1, Span(part="weekday", numbers=(_DAYS[self.word(at)],)))
        if self.word(at) in ("weekend", "weekends"):
            return TimeMention(at, at + 1, Span(part="weekday", numbers=(6, 7)))
        if (first := self.day_of_next(at)) is not None and self.word(first[0]) == "to":
            # 1 to 14 September
            last = self.whole(first[0] + 1)
            if last is not None and (joined := _joined(first[1], last[1])) is not None:
                return TimeMention(at, last[0], joined)
        whole = self.whole(at)
        if whole is None:
            return None
        end, span = whole
        if self.words_at(end, ("so", "far")) and span.low is not None and span.low <= self.as_of:
            # This year so far.
            return TimeMention(at, end + 2, Span(span.low, self.as_of))
        if (listed := self.listed(end, span)) is not None:
            return TimeMention(at, listed[0], listed[1])
        after = self.at(end)
        dashed = re.fullmatch(r"[-–]((?:19|20)\d\d)", after.text) if after is not None else None
        if dashed and span.low is not None and int(dashed[1]) >= span.low.year:
            return TimeMention(at, end + 1, Span(span.low, dt.date(int(dashed[1]), 12, 31)))
        if (
            self.word(end) in ("to", "through", "-", "–", "thru")
            and (last := self.whole(end + 1))
            and (joined := _joined(span, last[1]))
        ):
            return TimeMention(at, last[0], joined)
        opened = self.opened(end, span)
        if opened is not None:
            return TimeMention(at, opened[0], opened[1])
        # "may" is a verb more often than a month, unless it is written as a name.
        token = self.tokens[at]
        firm = not (token.lower in ("may", "march", "mar", "second") and span.part and token.text.islower())
        return TimeMention(at, end, span, firm)

    def listed(self, end: int, span: Span) -> tuple[int, Span] | None:
        """March, April and May 2025, or 2023, 2024 and 2025: three or more that follow each other."""
        spans = [span]
        while self.word(end) == ",":
            further = self.whole(end + 1)
            if further is None:
                break
            spans.append(further[1])
            end = further[0]
        comma = self.word(end) == ","
        last = self.whole(end + comma + 1) if self.word(end + comma) in ("and", "or", "&") else None
        if last is None or len(spans) < 2:
            return None
        spans.append(last[1])
        if all(s.part == spans[0].part is not None for s in spans):
            return last[0], Span(part=spans[0].part, numbers=tuple(n for s in spans for n in s.numbers))
        if last[1].low is not None and all(s.part == "month" for s in spans[:-1]):
            year = last[1].low.year
            spans = [*(unit_span("month", dt.date(year, s.numbers[0], 1), 0) for s in spans[:-1]), last[1]]
        one = dt.timedelta(days=1)
        follow = all(
            a.high is not None and b.low is not None and a.high + one == b.low for a, b in itertools.pairwise(spans)
        )
        return (last[0], Span(spans[0].low, spans[-1].high)) if follow else None

    def opened(self, end: int, span: Span) -> tuple[int, Span] | None:
        """2024 or later, March 2025 and before, 2020 onwards: a span that is open to one side, and where it ends."""
        span = self.dated(span)
        if span.low is None or span.high is None:
            return None
        if self.word(end) in ("onward", "onwards"):
            return end + 1, self.bounded("since", span)
        if self.word(end) not in ("or", "and"):
            return None
        if self.word(end + 1) in ("later", "after", "newer", "since", "onwards", "onward", "afterwards", "beyond"):
            return end + 2, self.bounded("since", span)
        if self.word(end + 1) in ("earlier", "before", "older", "previously"):
            return end + 2, self.bounded("until", span)
        return None

    def dated(self, span: Span) -> Span:
        """A month without a year, in an open span, is the latest one that has begun."""
        if span.part != "month":
            return span
        year = self.as_of.year - (span.numbers[0] > self.as_of.month)
        return unit_span("month", dt.date(year, span.numbers[0], 1), 0)

    def ends_itself(self, at: int, phrase: tuple[str, ...]) -> bool:
        """True where what is named before ends, or begins, in a time: contracts ending in May, starting in the next week."""
        before = self.word(at - 1) if at else ""
        if phrase[1:] not in (("in",), ("on",)) or not before or before.removesuffix("s") in UNITS:
            return False
        coming = self.word(at + 2 + (self.word(at + 2) == "the")) in ("next", "coming", "last", "past", "this")
        return phrase[0] == "ending" or (phrase[0] in ("starting", "beginning") and coming)

    def bounded(self, kind: str, span: Span) -> Span:
        one = dt.timedelta(days=1)
        assert span.low is not None and span.high is not None
        match kind:
            case "since":
                return Span(low=span.low)
            case "after":
                return Span(low=span.high + one)
            case "before":
                return Span(high=span.low - one)
            case _:
                return Span(high=span.high)


def _joined(first: Span, last: Span) -> Span | None:
    if first.low and last.high and first.low > last.high:
        # From 1 February to 15 March 2024 is of that year.
        earlier = _safe(last.high.year - (first.low.month > last.high.month), first.low.month, first.low.day)
        ordered = earlier is not None and earlier <= last.high and first.low == first.high
        return Span(earlier, last.high) if ordered else None
    if first.low and last.high:
        return Span(first.low, last.high, ends=(first, last))
    if first.part == "month" and last.low and last.high:
        return Span(dt.date(last.high.year, first.numbers[0], 1), last.high)
    if first.part == "month" and last.part == "month":
        a, b = first.numbers[0], last.numbers[0]
        months = tuple(range(a, b + 1)) if a <= b else (*range(a, 13), *range(1, b + 1))
        return Span(part="month", numbers=months, ends=(first, last))
    return None


def _safe(year: int, month: int, day: int) -> dt.date | None:
    try:
        return dt.date(year, month, day)
    except ValueError:
        return None


def _day(text: str) -> dt.date | None:
    parts = [int(p) for p in re.split(r"[-./]", text)]
    return _safe(*parts) if parts[0] > 31 else _safe(parts[2], parts[1], parts[0])


def time_mentions(tokens: list[Token], as_of: dt.date, since: int = 1900) -> list[TimeMention]:
    """Every span of time in a question, the longest at each place first; one may stand inside another.

    A bare number is a year from `since` on.
    """
    reader = _Reader(tokens, as_of, since)
    found: list[TimeMention] = []
    for at in range(len(tokens)):
        try:
            mention, inner = reader.mention(at), reader.whole(at)
        except (ValueError, OverflowError):
            # A time beyond the calendar's years is none.
            continue
        if mention is not None and _in_calendar(mention.span):
            found.append(mention)
            if inner is not None and inner[0] < mention.end and _in_calendar(inner[1]):
                found.append(TimeMention(at, inner[0], inner[1], mention.firm))
    return [_with_year_beside(mention, found, tokens) for mention in found]


_YEARS = range(1000, 9000)
"""The years in which something may have happened, with room on both sides to step on from them."""


def _in_calendar(span: Span) -> bool:
    return all(day is None or day.year in _YEARS for day in (span.low, span.high))


_BESIDE = frozenset(
    ["and", "or", "v", "vs", "vs.", "versus", "against", "to", "with", "than", "from", "in", ",", "&", "/", "compared", "on"]
)  # fmt: skip
"""What stands between two times of which one says the year for both."""


def _with_year_beside(mention: TimeMention, found: list[TimeMention], tokens: list[Token]) -> TimeMention:
    """Q1 in "Q1 v Q2 2025" is of the year that the other has."""
    span = mention.span
    if span.part not in ("month", "quarter") or len(span.numbers) != 1:
        return mention
    month = span.numbers[0] if span.part == "month" else 3 * span.numbers[0] - 2
    for other in found:
        low = other.span.low
        first, last = sorted((mention, other), key=lambda t: t.start)
        between = [t.lower for t in tokens[first.end : last.start]]
        joined = 1 <= len(between) <= 3 and _BESIDE.issuperset(between)
        if joined and low is not None and other.span == unit_span(span.part, low, 0):
            own = unit_span(span.part, dt.date(low.year, month, 1), 0)
            return TimeMention(mention.start, mention.end, own, mention.firm)
    return mention


_THEN = frozenset(["time", "point", "stage", "stretch", "period", "day", "date", "moment"])


def same_days_last_year(tokens: list[Token], as_of: dt.date) -> list[tuple[int, int, Span]]:
    """Where "this time last year", "the same point last year" or "YTD last year" stands, and those days."""
    words = [t.lower for t in tokens]
    span = Span(dt.date(as_of.year - 1, 1, 1), in_year(as_of, as_of.year - 1))
    found = []
    for at, word in enumerate(words):
        if word in ("last", "previous", "prior"):
            # Last year to date.
            later = words[at + 1 : at + 4]
            if later[:1] == ["ytd"] or later == ["year", "to", "date"]:
                found.append((at, at + (2 if later[0] == "ytd" else 4), span))
            continue
        if word == "ytd":
            when = 1
        elif words[at : at + 3] == ["year", "to", "date"]:
            when = 3
        elif word in ("this", "same") and words[at + 1 : at + 2] and words[at + 1] in _THEN:
            when = 2
        else:
            continue
        end = at + when
        end += words[end : end + 1] in (["in"], ["of"])
        end += words[end : end + 1] == ["the"]
        if words[end : end + 2] in (["last", "year"], ["previous", "year"], ["prior", "year"], ["year", "before"]):
            found.append((at, end + 2, span))
        elif words[end : end + 1] in (["ly"], ["py"]):
            found.append((at, end + 1, span))
    return found


def are_whole_years(low: dt.date | None, high: dt.date | None) -> bool:
    """True where a stretch begins and ends with a year, as far as it has ends."""
    begins = low is None or (low.month, low.day) == (1, 1)
    return begins and (high is None or (high.month, high.day) == (12, 31))


def span_condition(span: Span, time: m.Expr) -> m.Condition:
    """A time that falls in a span."""
    if span.part is not None:
        return m.PartIs(span.part, time, span.numbers)
    return m.Within(time, span.low, span.high)
