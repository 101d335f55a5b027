"""Numbers as people write them: thousands marks of either style, currencies, per cent, brackets, units behind."""

from __future__ import annotations

import re
from dataclasses import dataclass

from gumption.intake.sql import literal

_SIGNS = {
    "US$": "USD",
    "A$": "AUD",
    "C$": "CAD",
    "R$": "BRL",
    "£": "GBP",
    "€": "EUR",
    "$": "USD",
    "¥": "JPY",
    "₹": "INR",
    "₽": "RUB",
    "₩": "KRW",
    "₺": "TRY",
    "zł": "PLN",
    "kr.": "SEK",
    "kr": "SEK",
    "Rs.": "INR",
    "Rs": "INR",
    "Ft": "HUF",
}
CURRENCIES = frozenset(
    [
        "USD",
        "EUR",
        "GBP",
        "CHF",
        "JPY",
        "CAD",
        "AUD",
        "NZD",
        "SEK",
        "NOK",
        "DKK",
        "PLN",
        "CZK",
        "HUF",
        "RON",
        "INR",
        "CNY",
        "RUB",
        "BRL",
        "MXN",
        "ZAR",
        "SGD",
        "HKD",
        "TRY",
        "ILS",
        "KRW",
        "THB",
        "AED",
    ]
)
UNITS = frozenset(
    [
        "kg",
        "g",
        "mg",
        "t",
        "lb",
        "lbs",
        "oz",
        "km",
        "m",
        "cm",
        "mm",
        "mi",
        "miles",
        "ft",
        "in",
        "l",
        "ml",
        "cl",
        "litres",
        "liters",
        "h",
        "hr",
        "hrs",
        "hour",
        "hours",
        "min",
        "mins",
        "minutes",
        "s",
        "sec",
        "secs",
        "seconds",
        "ms",
        "day",
        "days",
        "week",
        "weeks",
        "month",
        "months",
        "year",
        "years",
        "yrs",
        "°C",
        "°F",
        "C",
        "F",
        "K",
        "pcs",
        "pc",
        "units",
        "items",
        "mph",
        "km/h",
        "kmh",
        "kWh",
        "kW",
        "MW",
        "W",
        "V",
        "A",
        "m2",
        "m²",
        "m3",
        "m³",
        "sqm",
        "sqft",
        "ha",
        "MB",
        "GB",
        "KB",
        "TB",
        "pts",
        "points",
        "bps",
        "%",
        "people",
        "persons",
    ]
)
_FACTORS = {
    "k": 10**3,
    "K": 10**3,
    "thousand": 10**3,
    "M": 10**6,
    "m": 10**6,
    "mn": 10**6,
    "million": 10**6,
    "B": 10**9,
    "bn": 10**9,
    "billion": 10**9,
    **dict.fromkeys(("CR", "Cr", "cr"), 1),
    **dict.fromkeys(("DR", "Dr", "dr"), -1),
}
"""What stands behind a number and multiplies it; of books, what comes in and what goes out."""
_CURRENCY = "|".join(re.escape(s) for s in (*sorted(_SIGNS, key=len, reverse=True), *sorted(CURRENCIES)))
_SUFFIX = r"%|°[CF]|[A-Za-zµ²³/]{1,8}[²³23]?|[*†‡§^]{1,3}"
_FLAG = re.compile(r"[a-z]{1,2}|[*†‡§^]{1,3}")
"""Marks that statistics put behind a number to say that it is provisional, estimated or has a footnote."""
_PLAIN = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")

BODIES = {
    "point": r"[1-9]\d{0,2}(?:,\d{3})+(?:\.\d+)?|[1-9]\d?(?:,\d{2})+,\d{3}(?:\.\d+)?|\d+(?:\.\d*)?|\.\d+",
    "comma": r"[1-9]\d{0,2}(?:\.\d{3})+(?:,\d+)?|\d+(?:,\d*)?|,\d+",
    "space point": r"[1-9]\d{0,2}(?: \d{3})+(?:\.\d+)?|\d+(?:\.\d*)?",
    "space comma": r"[1-9]\d{0,2}(?: \d{3})+(?:,\d+)?|\d+(?:,\d*)?",
    "apostrophe": r"[1-9]\d{0,2}(?:['’]\d{3})+(?:\.\d+)?|\d+(?:\.\d*)?",
}
"""How the digits may be grouped, by style; a group never starts with a nought, so that 0,125 is no thousand."""
THOUSANDS = {"point": ",", "comma": ".", "space point": " ", "space comma": " ", "apostrophe": "'"}
_MINUS = "[-−–]"


def _whole(body: str) -> str:
    return (
        rf"(?:\(\s*)?[+]?{_MINUS}?\s*(?:(?:{_CURRENCY})\s*)?{_MINUS}?\s*(?:{body})(?:[eE][-+]?\d+)?\s*"
        rf"(?:{_CURRENCY}|{_SUFFIX})?\s*{_MINUS}?(?:\s*\))?"
    )


_WHOLE = {style: re.compile(_whole(body)) for style, body in BODIES.items()}
_LIKE_NUMBER = re.compile("|".join(f"(?:{_whole(body)})" for body in BODIES.values()))
_TAIL = re.compile(rf"\d\.?,?\s*({_CURRENCY}|{_SUFFIX})\s*{_MINUS}?\s*\)?$")
_HEAD = re.compile(rf"^\(?[+]?{_MINUS}?\s*({_CURRENCY})")


@dataclass(frozen=True)
class NumberStyle:
    """How a column's numbers are written, and the SQL for them as plain text: digits, a point, a minus in front."""

    style: str
    plain: bool
    currencies: tuple[str, ...]
    suffixes: tuple[str, ...]
    unit: str | None
    exponent: bool
    brackets: bool

    def text(self, cell: str) -> str:
        """SQL for the number as digits with a point; null where it is not written in this style."""
        if self.plain:
            return cell
        comma = self.style.endswith("comma")
        bare = cell
        for mark in (*self.currencies, *self.suffixes):
            bare = f"replace({bare}, {literal(mark)}, '')"
        digits = f"regexp_replace({bare}, '[^0-9{',' if comma else '.'}eE]', '', 'g')"
        if comma:
            digits = f"replace({digits}, ',', '.')"
        negative = rf"regexp_matches({cell}, '^\(.*\)$|^[^0-9]*{_MINUS}|{_MINUS}\s*\)?$')"
        factor = self._factor(cell)
        written = f"concat(CASE WHEN {negative} THEN '-' ELSE '' END, {digits})"
        if factor:
            exact = f"CAST(TRY_CAST({written} AS DECIMAL(18, 6)) * {factor} AS VARCHAR)"
            written = f"regexp_replace({exact}, '\\.?0+$', '')"
        shape = literal(_whole(BODIES[self.style]))
        marks = "" if not self.exponent else f"WHEN regexp_full_match({cell}, {literal(_PLAIN.pattern)}) THEN {cell} "
        return f"(CASE {marks}WHEN regexp_full_match({cell}, {shape}) THEN {written} END)"

    def _factor(self, cell: str) -> str:
        used = [s for s in self.suffixes if s in _FACTORS]
        if not used or self.unit in used:
            return ""
        cases = " ".join(f"WHEN ends_with({cell}, {literal(s)}) THEN {_FACTORS[s]}" for s in used)
        return f"(CASE {cases} ELSE 1 END)"

    @property
    def strip(self) -> tuple[str, ...]:
        return (*self.currencies, *self.suffixes)

    @property
    def is_flagged(self) -> bool:
        """True where what stands behind some numbers is neither a unit nor a factor."""
        return any(s not in UNITS and s not in _FACTORS for s in self.suffixes)

    @property
    def simple(self) -> bool:
        """True where taking off marks and replacing separators is all there is to it."""
        return self.plain or not (self.brackets or any(s in _FACTORS for s in self.suffixes) or self.exponent)


def looks_numeric(value: str) -> bool:
    return bool(_LIKE_NUMBER.fullmatch(value))


def is_code(value: str) -> bool:
    """True for digits that are no amount: noughts that must stay, telephone numbers, cards."""
    return bool(re.fullmatch(r"0\d+|\+\d[\d ()/-]{6,}|\(?0\d{1,4}\)?[ /-]\d[\d -]{3,}", value))


def number_styles(sample: dict[str, int], decimal_comma: bool) -> list[NumberStyle]:
    """The styles that the sample's numbers (by how often they stand) could be written in, likeliest first."""
    numbers = [v for v in sample if looks_numeric(v)]
    if all(_PLAIN.fullmatch(v) for v in numbers):
        pointed = [v for v in numbers if "." in v]
        grouped = bool(pointed) and all(re.fullmatch(r"[-+]?[1-9]\d{0,2}\.\d{3}", v) for v in pointed)
        exponent = any(re.search(r"[eE]", v) for v in numbers)
        plain = NumberStyle("point", True, (), (), None, exponent, False)
        if grouped and decimal_comma:
            return [NumberStyle("comma", False, (), (), None, False, False), plain]
        return [plain]
    currencies: list[str] = []
    suffixes: dict[str, int] = {}
    for value in numbers:
        if head := _HEAD.search(value):
            currencies.append(head[1])
        if tail := _TAIL.search(value):
            if tail[1] in _SIGNS or tail[1] in CURRENCIES:
                currencies.append(tail[1])
            elif not re.fullmatch(r".*\d[eE]", value):
                suffixes[tail[1]] = suffixes.get(tail[1], 0) + sample[value]
    known = {s: n for s, n in suffixes.items() if s in UNITS or s in _FACTORS}
    rows = sum(sample[v] for v in numbers)
    flags = {s for s in suffixes if _FLAG.fullmatch(s)}
    if flags == set(suffixes) and flags and sum(suffixes.values()) <= 0.7 * rows and not flags <= set(known):
        return _flagged(numbers, tuple(sorted(flags, key=lambda f: (-len(f), f))), decimal_comma)
    if sum(known.values()) < 0.9 * sum(suffixes.values()):
        return []
    unit = max(known, key=lambda s: known[s], default=None)
    factors = [s for s in known if s in _FACTORS]
    if factors and len(factors) < len(known):
        # A unit on some and a factor on others: 7A and 7B are names of classes.
        return []
    if factors == ["B"] and not currencies and not any("." in v or "," in v for v in numbers):
        # Whole billions without a currency are flats and classes: 2B, 14B.
        return []
    if unit is not None and unit not in _FACTORS and known[unit] < 0.9 * rows:
        unit = None if unit != "%" else "%"
        if unit is None:
            return []
    if unit == "m" and len(known) == 1 and not currencies:
        factors = []
    if unit in _FACTORS and factors:
        unit = None
    if unit is not None and unit != "%" and len(known) > 1:
        return []
    codes = {_SIGNS.get(c, c) for c in currencies}
    shared = {
        "currencies": tuple(sorted(set(currencies), key=lambda c: (-len(c), c))),
        "suffixes": tuple(sorted(known, key=lambda c: (-len(c), c))),
        "unit": unit or (next(iter(codes)) if len(codes) == 1 else None),
        "exponent": any(_PLAIN.fullmatch(v) and re.search(r"[eE]", v) for v in numbers),
        "brackets": any(v.startswith("(") or re.search(rf"{_MINUS}\)?$", v) or v[0] in "−–" for v in numbers),
    }
    order = ["comma", "space comma", "point", "space point", "apostrophe"]
    if not decimal_comma:
        order = ["point", "space point", "apostrophe", "comma", "space comma"]
    fitting = [s for s in order if any(_WHOLE[s].fullmatch(v) for v in numbers)]
    return [NumberStyle(style=s, plain=False, **shared) for s in fitting]  # type: ignore[arg-type]


def _flagged(numbers: list[str], flags: tuple[str, ...], decimal_comma: bool) -> list[NumberStyle]:
    """Numbers of which some have a mark behind them that is no unit."""
    styles = ["comma", "space comma", "point", "space point"]
    order = styles if decimal_comma else [*styles[2:], *styles[:2]]
    return [
        NumberStyle(s, False, (), flags, None, False, True)
        for s in order
        if any(_WHOLE[s].fullmatch(v) for v in numbers)
    ]


def currency_codes(style: NumberStyle) -> dict[str, str]:
    """The currency that each mark of the column stands for."""
    return {mark: _SIGNS.get(mark, mark) for mark in style.currencies}


def decimal_commas(cells: list[str], delimiter: str = ",") -> bool:
    """True where the cells of a file show commas as the decimal mark, and none shows a point.

    Where neither shows, semicolons between the cells tell: they are used where the comma is taken.
    """
    commas = sum(
        bool(re.fullmatch(r"\D{0,4}\d+,\d{1,2}\D{0,4}|\D{0,4}\d{1,3}(?:\.\d{3})+,\d+\D{0,4}", c)) for c in cells
    )
    points = sum(
        bool(re.fullmatch(r"\D{0,4}\d+\.\d{1,2}\D{0,4}|\D{0,4}\d{1,3}(?:,\d{3})+\.\d+\D{0,4}", c)) for c in cells
    )
    return commas > points or (delimiter == ";" and points == 0)
