"""Columns to rows: measures that are to stand one under the other, their names in one column, their values in another."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Laid, Marker, Measured

_COLUMNS = "columns|column|fields|field|measures|figures|numbers"
_PUT = "turn|put|bring|lay|make|convert|change|move|gather|fold|collapse|get|transform|reshape|stack|have"
_INTO = "into|to|in|as|onto"
_ROWS = "rows|row|lines|records"
_UNDER = "under|below|beneath"


def _more(one: tuple[m.Expr, ...], two: Measured) -> tuple[m.Expr, ...] | None:
    return (*one, two.expr) if two.expr not in one else None


def _laid(columns: tuple[m.Expr, ...]) -> Laid | None:
    return Laid(columns) if len(columns) > 1 else None


RULES = (
    Rule("ES", "E", lambda e: (e.expr,) if isinstance(e, Measured) and isinstance(e.expr, m.Col) else None, ("fee",)),
    Rule("ES", "ES ,|and|&|plus E", _more, ("fee and cost",), weight=0.08),
    Rule("ES", "ES , and|& E", _more, ("fee, and cost",), weight=0.08),
    *(
        Rule("STK", pattern, _laid, (example,), weight=0.75)
        for pattern, example in (
            (f"{_PUT} the? ES {_COLUMNS}? {_INTO} separate|own? {_ROWS}", "turn the fee and cost columns into rows"),
            (f"the? ES {_COLUMNS}? {_INTO} separate|own? {_ROWS}", "fee and cost as rows"),
            (f"{_PUT} the? ES {_COLUMNS}? {_INTO} a|one single? column", "put fee and cost into one column"),
            (f"unpivot|melt the? ES {_COLUMNS}?", "unpivot fee and cost"),
            (f"stack the? ES {_COLUMNS}", "stack the fee and cost columns"),
            (
                f"ES {_COLUMNS}? listed|put|shown? one|each {_UNDER} the? other|another",
                "fee and cost one under the other",
            ),
            (f"a|one row|line|record for each of? ES {_COLUMNS}?", "a row for each of fee and cost"),
            (f"the? ES {_COLUMNS}? should|to be {_ROWS}", "the fee and cost columns should be rows"),
            (f"turn|convert|transform|fold|gather the? ES {_COLUMNS}", "turn the fee and cost columns"),
        )
    ),
    *(
        Rule("STK", pattern, lambda unit: Laid((), unit), (example,), weight=0.75)
        for pattern, example in (
            (f"{_PUT} the? UNIT {_COLUMNS} {_INTO} separate|own? {_ROWS}", "turn the month columns into rows"),
            (f"{_PUT} the? UNIT {_COLUMNS} {_INTO} a|one single? column", "put the year columns into one column"),
            (f"unpivot|melt|stack the? UNIT {_COLUMNS}", "unpivot the months columns"),
            (f"the? UNIT {_COLUMNS} should be a|one {_COLUMNS}", "the year columns should be one column"),
            (f"the? UNIT {_COLUMNS} should|to be {_ROWS}", "the month columns should be rows"),
        )
    ),
    *(
        Rule("MRK", pattern, lambda *_: Marker("stacked"), (example,), weight=0.6)
        for pattern, example in (
            ("in|as|into long|tall format|form|shape|table", "in long format"),
            ("long|tall format|form|shape", "long format"),
            ("from? wide to long", "from wide to long"),
            (
                f"listed|put|shown? one|each {_UNDER} the? other|another instead of next|beside to? each|the other",
                "one under the other instead of next to each other",
            ),
            (f"listed|put|shown? one|each {_UNDER} the? other|another", "one under the other"),
            (f"listed|put|shown? {_UNDER} each|one other|another", "under each other"),
            (f"one|a row|line per|for|each T and {_COLUMNS}|measure|figure|number", "one line per visit and measure"),
            (
                f"{_PUT} all the? {_COLUMNS}|measures {_INTO} {_ROWS}",
                "turn all the measures into rows",
            ),
            (f"unpivot|melt all the? {_COLUMNS}|measures", "unpivot all measures"),
            (f"measures|figures|numbers as|in {_ROWS}", "measures as rows"),
            (f"into {_ROWS}", "into rows"),
        )
    ),
)
