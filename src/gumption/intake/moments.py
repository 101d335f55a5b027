"""Dates, times of day and durations as people write them. Order of day and month is an argument: a column decides it."""

from __future__ import annotations

import datetime as dt
import functools
import itertools
import re
from unicodedata import combining, normalize

from babel import Locale

from gumption.core.model.files import DateOrder

_LANGUAGES = ("en", "de", "fr", "es", "it", "nl", "pt", "pl", "cs", "sv", "da", "nb", "fi", "ro")
"""Languages whose months are known by name; no name stands for different months in two of them."""


def _month_names() -> dict[str, int]:
    """The number of each month by its names, long and short, also where their accents are left out."""
    found = {"fév": 2, "mrz": 3}
    for language in _LANGUAGES:
        months = Locale(language).months
        for form, width in itertools.product(("format", "stand-alone"), ("wide", "abbreviated")):
            for number, name in months[form][width].items():
                plain = name.lower().rstrip(".")
                found.setdefault(plain, number)
                found.setdefault("".join(c for c in normalize("NFD", plain) if not combining(c)), number)
    return found


MONTHS = _month_names()
_WEEKDAYS = (
    r"(?:(?:mon|tues?|wed(?:nes)?|thu(?:rs)?|fri|sat(?:ur)?|sun)(?:day)?|"
    r"(?:montag|dienstag|mittwoch|donnerstag|freitag|samstag|sonntag|mo|di|mi|do|fr|sa|so))\.?,?\s+"
)
_MONTH = r"([^\W\d_]{3,12})\.?"
_YEAR = r"(\d{4}|'?\d{2})"
_CLOCK = (
    r"(?:t|,?\s+|,?\s+at\s+|,?\s+um\s+|,?\s+kl\.?\s+)(\d{1,2})[:.h](\d{2})(?:[:.](\d{2})(?:[.,](\d{1,9}))?)?\s*([ap])?\.?(?:m\.?)?\s*"
    r"(uhr|z|utc|gmt|[+-]\d{2}:?\d{2}|[+-]\d{2})?"
)
_SHAPES = (
    ("ymd", re.compile(rf"(\d{{4}})[-/. ](\d{{1,2}})[-/. ](\d{{1,2}})(?:{_CLOCK})?")),
    ("two", re.compile(rf"(\d{{1,2}})\s?([-/. ])\s?(\d{{1,2}})\2\s?{_YEAR}(?:{_CLOCK})?")),
    ("dmy", re.compile(rf"(\d{{1,2}})(?:st|nd|rd|th|\.)?(?:\s+of)?[-/. ]*{_MONTH},?[-/. ]*{_YEAR}(?:{_CLOCK})?")),
    ("mdy", re.compile(rf"{_MONTH}[-/. ]*(\d{{1,2}})(?:st|nd|rd|th)?,?[-/. ]+{_YEAR}(?:{_CLOCK})?")),
    ("ybd", re.compile(rf"(\d{{4}})[-/. ]{_MONTH}[-/. ](\d{{1,2}})(?:{_CLOCK})?")),
    ("compact", re.compile(r"((?:19|20)\d{2})(\d{2})(\d{2})(?:t?(\d{2})(\d{2})(\d{2})?z?)?")),
    ("my", re.compile(rf"{_MONTH}[-/. ]*{_YEAR}")),
    ("ym", re.compile(r"(\d{4})[-/](\d{1,2})")),
    ("mny", re.compile(r"(\d{1,2})[-/](\d{4})")),
    ("yb", re.compile(rf"(\d{{4}})[-/. ]{_MONTH}")),
)
_WEEKDAY = re.compile(_WEEKDAYS)
_TURN = 30
"""Two-digit years below this are of this century, as spreadsheets have it."""


def _year(text: str) -> int:
    text = text.removeprefix("'")
    return int(text) if len(text) == 4 else (2000 if int(text) < _TURN else 1900) + int(text)


def _clock(parts: tuple[str | None, ...]) -> tuple[dt.time, int | None] | None:
    """The time of day and the minutes that its zone is ahead of UTC."""
    hour, minute, second, fraction, half, zone = parts
    h = int(hour or 0)
    if half is not None:
        if not 1 <= h <= 12:
            return None
        h = h % 12 + (12 if half == "p" else 0)
    micro = int((fraction or "0")[:6].ljust(6, "0"))
    try:
        time = dt.time(h, int(minute or 0), int(second or 0), micro)
    except ValueError:
        return None
    if zone is None or zone == "uhr":
        return time, None
    if zone in ("z", "utc", "gmt"):
        return time, 0
    digits = zone[1:].replace(":", "").ljust(4, "0")
    return time, (-1 if zone[0] == "-" else 1) * (60 * int(digits[:2]) + int(digits[2:]))


class Moment:
    """A date or moment read from text: the shape it was written in, and whether a time and a zone came with it."""

    __slots__ = ("shape", "timed", "value", "zone")

    def __init__(self, value: dt.datetime | None, shape: str, timed: bool, zone: int | None) -> None:
        self.value, self.shape, self.timed, self.zone = value, shape, timed, zone


def read_moment(text: str, order: DateOrder) -> Moment | None:
    """A date as written, or None where it has no shape of one. A shape that names no day of the calendar has value None."""
    lowered = text.strip().lower()
    if len(lowered) < 4 or len(lowered) > 60 or not any(c.isdigit() for c in lowered):
        return None
    lowered = _WEEKDAY.sub("", lowered, count=1) if lowered[0].isalpha() else lowered
    for shape, pattern in _SHAPES:
        found = pattern.fullmatch(lowered)
        if found is None:
            continue
        date = _date(shape, found, order)
        if date is None:
            continue
        clock: tuple[dt.time, int | None] | None = (dt.time(), None)
        timed = False
        if shape in ("ymd", "two", "dmy", "mdy", "ybd"):
            parts = found.groups()[-6:]
            timed = parts[0] is not None
            clock = _clock(parts) if timed else clock
        elif shape == "compact" and found[4] is not None:
            timed = True
            clock = _clock((found[4], found[5], found[6], None, None, None))
        year, month, day = date
        try:
            value = dt.datetime.combine(dt.date(year, month, day), clock[0]) if clock else None
        except ValueError:
            value = None
        return Moment(value, shape, timed, clock[1] if clock else None)
    return None


def _date(shape: str, found: re.Match[str], order: DateOrder) -> tuple[int, int, int] | None:
    """Year, month and day, which need not exist together; None where a word is no month."""
    match shape:
        case "ymd" | "compact":
            return int(found[1]), int(found[2]), int(found[3])
        case "two":
            first, second, year = int(found[1]), int(found[3]), _year(found[4])
            return (year, second, first) if order == "day" else (year, first, second)
        case "dmy":
            month = MONTHS.get(found[2])
            return None if month is None else (_year(found[3]), month, int(found[1]))
        case "mdy":
            month = MONTHS.get(found[1])
            return None if month is None else (_year(found[3]), month, int(found[2]))
        case "ybd":
            month = MONTHS.get(found[2])
            return None if month is None else (int(found[1]), month, int(found[3]))
        case "my":
            month = MONTHS.get(found[1])
            return None if month is None else (_year(found[2]), month, 1)
        case "yb":
            month = MONTHS.get(found[2])
            return None if month is None else (int(found[1]), month, 1)
        case "ym":
            return int(found[1]), int(found[2]), 1
        case _:
            return int(found[2]), int(found[1]), 1


WHOLE_MONTHS = ("my", "ym", "mny", "yb")

_TIME = re.compile(r"(\d{1,2})[:.h](\d{2})(?:[:.](\d{2})(?:[.,](\d{1,6}))?)?\s*([ap])?\.?(?:m\.?)?()", re.I)
_BARE_HOUR = re.compile(r"(\d{1,2})\s*([ap])\.?m\.?", re.I)


def read_time(text: str) -> dt.time | None:
    """A time of day: 9:30, 09:30:15, 9.30 pm, 5pm."""
    lowered = text.strip().lower()
    if bare := _BARE_HOUR.fullmatch(lowered):
        clock = _clock((bare[1], "0", None, None, bare[2], None))
        return clock[0] if clock else None
    found = _TIME.fullmatch(lowered)
    if found is None or ("." in lowered and ":" not in lowered and found[5] is None):
        return None
    clock = _clock((*found.groups()[:5], None))
    return clock[0] if clock else None


_COLONS = re.compile(r"(-)?(?:(\d+)\s*(?:days?|d),?\s+)?(\d+):(\d{2})(?::(\d{2})(?:[.,](\d+))?)?")
_LAP = re.compile(r"(\d{1,3}):(\d{2})[.,](\d{1,3})")
_ISO = re.compile(r"(-)?p(?:(\d+)w)?(?:(\d+)d)?(?:t(?:(\d+)h)?(?:(\d+)m)?(?:(\d+(?:\.\d+)?)s)?)?", re.I)
_WORDS = re.compile(
    r"(-)?(?:(\d+(?:\.\d+)?)\s*(?:weeks?|wks?|w)[\s,]*)?(?:(\d+(?:\.\d+)?)\s*(?:days?|d)[\s,]*)?(?:(\d+(?:\.\d+)?)\s*(?:hours?|hrs?|h)[\s,]*)?"
    r"(?:(\d+(?:\.\d+)?)\s*(?:minutes?|mins?|m)[\s,]*)?(?:(\d+(?:\.\d+)?)\s*(?:seconds?|secs?|s))?",
    re.I,
)


_MINUTES_AND_SECONDS = re.compile(r"(\d{1,4}):(\d{2})")


def read_minutes_and_seconds(text: str) -> float | None:
    """Seconds of a duration whose two parts are minutes and seconds: 4:05; any other is read as durations are."""
    found = _MINUTES_AND_SECONDS.fullmatch(text.strip())
    if found is None:
        return read_duration(text)
    return 60.0 * int(found[1]) + int(found[2]) if int(found[2]) < 60 else None


def read_duration(text: str) -> float | None:
    """Seconds of a duration: 36:15, 1:02:03, 2h 30m, 1 day 4:00, PT45M."""
    lowered = text.strip().lower()
    if not lowered or not any(c.isdigit() for c in lowered):
        return None
    if found := _COLONS.fullmatch(lowered):
        sign, days, hours, minutes, seconds, fraction = found.groups()
        if int(minutes) > 59 or int(seconds or 0) > 59:
            return None
        total = (
            86400 * int(days or 0) + 3600 * int(hours) + 60 * int(minutes) + float(f"{seconds or 0}.{fraction or 0}")
        )
        return -total if sign else total
    if found := _LAP.fullmatch(lowered):
        return 60 * int(found[1]) + float(f"{found[2]}.{found[3]}") if int(found[2]) < 60 else None
    if (found := _ISO.fullmatch(lowered)) or (found := _WORDS.fullmatch(lowered)):
        parts = found.groups()
    else:
        return None
    sizes = (604800, 86400, 3600, 60, 1)
    if not any(parts[1:]):
        return None
    total = sum(float(p or 0) * size for p, size in zip(parts[1:], sizes, strict=True))
    return -total if parts[0] else total


def mixes_units(text: str) -> bool:
    """True for a duration of several parts or with colons, which no plain number with a unit is."""
    return ":" in text or len(re.findall(r"\d+(?:\.\d+)?\s*[a-z]+", text.lower())) > 1 or text.upper().startswith("P")


_STYLE_SHAPES = {
    "%Y": r"\d{4}",
    "%m": r"\d{1,2}",
    "%d": r"\d{1,2}",
    "%H": r"\d{1,2}",
    "%M": r"\d{2}",
    "%S": r"\d{2}",
    "%f": r"\d{1,6}",
    "%b": r"[A-Za-z]{3}",
}
_DATE_STYLES = (
    "%Y-%m-%d",
    "%d/%m/%Y",
    "%m/%d/%Y",
    "%d.%m.%Y",
    "%d-%m-%Y",
    "%m-%d-%Y",
    "%Y/%m/%d",
    "%d-%b-%Y",
    "%d %b %Y",
)
_TIME_STYLES = ("", " %H:%M:%S", " %H:%M", "T%H:%M:%S", "T%H:%M", " %H:%M:%S.%f", "T%H:%M:%S.%f")


@functools.cache
def _shape(style: str) -> re.Pattern[str]:
    return re.compile("".join(_STYLE_SHAPES.get(p, re.escape(p)) for p in re.findall(r"%[A-Za-z]|[^%]", style)))


def styles_of(sample: list[str]) -> list[str]:
    """The `strptime` styles that every value of the sample is written in: none, one, or two that differ in order."""
    found = []
    for date in _DATE_STYLES:
        for time in _TIME_STYLES:
            shape = _shape(date + time)
            if shape.fullmatch(sample[0]) and all(shape.fullmatch(v) for v in sample):
                found.append(date + time)
    return found
