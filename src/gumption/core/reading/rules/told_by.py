"""One thing told by another: visits / species, a species breakdown of the visits, how the fee varies with the clinic."""

from __future__ import annotations

import dataclasses

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Counted, Measured, Noun, Worked, as_counted
from gumption.core.reading.rules.groups import UNITS_OF_TIME, by_one

_MADE_UP = "breakdown|split|profile|analysis"
VARIES = "vary|varies|varied|differ|differs|differed|change|changes|changed"
_IN = "by|with|between|across|among|amongst|over|per|from"


def _rows_by(*parts: object, rows_last: bool = False) -> tuple[object, ...] | None:
    """How many of the rows there are for each."""
    told = [p for p in parts if isinstance(p, Noun) or p in UNITS_OF_TIME]
    rows, by = reversed(told) if rows_last else told
    return (Counted(rows), by_one(by)) if rows != by and isinstance(rows, Noun) else None


def _for_each(parts: tuple[object, ...]) -> tuple[object, ...]:
    """A figure for each, by its mean where no aggregate is said."""
    figure = next(p for p in parts if isinstance(p, (Measured, Worked)))
    told = next(p for p in parts if isinstance(p, Noun) or p in UNITS_OF_TIME)
    worked = Worked(m.Aggregated("mean", figure.expr)) if isinstance(figure, Measured) else figure
    return worked, by_one(told)


_RUNS = (("week", "weekday"), ("day", "hour"), ("year", "month_of_year"))
"""What a stretch of time is told by, which comes again and again."""


def figure_of(parts: tuple[object, ...]) -> object:
    """What is measured or worked out, or how many rows there are."""
    return as_counted(next(p for p in parts if isinstance(p, (Measured, Worked, Noun))))


def _by_both(parts: tuple[object, ...], crossed: bool = False) -> tuple[object, ...] | None:
    """A figure, or how many rows there are, by two things: one down the side and one within it or across."""
    told = list(dict.fromkeys(p for p in parts if isinstance(p, Noun) or p in UNITS_OF_TIME))
    figure = next((p for p in parts if isinstance(p, (Measured, Worked, Counted))), None)
    rows = next((t for t in told if isinstance(t, Noun) and t.table is not None), None) if figure is None else None
    by = [by_one(t) for t in told if t is not rows]
    if len(by) != 2 or by[0] == by[1] or (figure is None and rows is None):
        return None
    if crossed:
        by[1] = dataclasses.replace(by[1], across=True)
    return (figure if figure is not None else Counted(rows), *by)  # type: ignore[arg-type]


RULES = (
    *(
        Rule("BESX", pattern, lambda *p: _by_both(p), (example,), weight=weight)
        for pattern, example, weight in (
            ("C|T by UNIT ,|: E|Q|CNT", "species by year, total fee", 0.5),
            ("C then|and|& C|UNIT ,|: E|Q|CNT", "species then breed, fee", 0.5),
            ("C by C ,|: E|Q|CNT", "species by breed, fee", 0.1),
            ("E|Q|CNT by C then|within|under|inside C|UNIT", "fee by breed within species", 0.6),
            ("T by C then|within|under|inside C|UNIT", "visits by breed within species", 0.6),
            (
                "T by C with|and subtotals|sub-totals|totals for|by|per C|UNIT",
                "visits by species with subtotals for breed",
                0.7,
            ),
            ("T for|by C and|& C crossing|crossed|combined", "visits for species and breed crossing", 0.7),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _by_both(p, crossed=True), (example,), weight=0.8)
        for pattern, example in (
            (
                "pivot|crosstab|matrix|cross-tab of? T ,|:|of? C rows|down ,|and|x|by? C|UNIT columns|across|cols",
                "pivot visits: species rows, breed columns",
            ),
            (
                "matrix|crosstab|cross-tab|grid of? C and|by|x|*|against|with C|UNIT with|of|for|: E|Q|CNT",
                "matrix of species and breed with total fee",
            ),
        )
    ),
    *(
        Rule("G", pattern, lambda u: by_one(u), (example,), weight=1.0)
        for pattern, example in (
            ("in|for|across|over all|every the? UNIT", "in all months"),
            ("from one UNIT to the? next|other", "from one month to the next"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, u=unit: (figure_of(p), by_one(u)), (example,), weight=0.7)
        for unit, patterns in (
            (
                "month_of_year",
                (
                    (
                        "is|are there any? a? seasonality|seasonal pattern|patterns|swing|effect? in|to|for|of T|E|Q",
                        "is there a seasonal pattern in visits",
                    ),
                    ("seasonality|seasonal pattern|profile? of|in|for T|E|Q", "seasonality of visits"),
                    (
                        "T|E|Q by|per calendar month|months , all years lumped|taken|put? together|combined",
                        "visits by calendar month, all years lumped together",
                    ),
                ),
            ),
            (
                "month",
                (
                    (
                        "has|have|is|are T|E|Q been? going|trending|heading|moving up|down|upwards|downwards",
                        "has fee been going up",
                    ),
                    ("what's our|the E|Q history", "what's our fee history"),
                    ("history of our|the? E|Q", "history of the fee"),
                ),
            ),
            ("year", (("E|Q p.a|pa|annually|annum", "total fee pa"), ("E|Q per annum", "total fee per annum"))),
        )
        for pattern, example in patterns
    ),
    *(
        Rule("BESX", pattern, lambda t, u=unit: (Counted(t), by_one(u)), (example,), weight=0.8)
        for stretch, unit in _RUNS
        for pattern, example in (
            (
                f"how do|does|did|are|is|were|was the? T spread|divided|shared|split|distributed|fall|vary out|up? over|across|through|during|within the? {stretch}",
                f"how do visits spread over the {stretch}",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, _rows_by, (example,), weight=weight)
        for pattern, example, weight in (
            ("T / C|F|UNIT", "visits / species", 0.5),
            (
                "distribution|spread|division of|for? T among|amongst|between|across|over|by C|UNIT",
                "distribution of visits among species",
                0.5,
            ),
            (
                "how are|is|were|was the? T spread|divided|shared|split|distributed out|up? over|across|among|between|by|into the? C|UNIT",
                "how are visits spread over species",
                0.6,
            ),
            ("the? T count|counts|number|numbers|total|totals BY|regarding to? the? C", "visits count by species", 0.4),
            (
                "the? T count|counts|number|numbers regarding|concerning|respecting to? the? C",
                "visits count regarding to the species",
                0.6,
            ),
            ("COUNT T regarding|concerning to? the? C", "number of visits regarding the species", 0.5),
            ("where do|did|are the? T come|coming|came from , C", "where do visits come from, species", 0.6),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _rows_by(*p, rows_last=True), (example,), weight=weight)
        for pattern, example, weight in (
            (f"C|F {_MADE_UP} of|for|in the|our|all? T", "species breakdown of visits", 0.5),
            ("WHICH C had|has|have|got COUNT T", "which species had how many visits", 0.6),
            ("COUNT|HOWMUCH T has|have|had each of the? C", "how much visits has each of species", 0.4),
            ("C and|, COUNT T each has|have|had", "species and how many visits each has", 0.6),
            ("C and|, COUNT T they|it has|have|had", "species and how many visits they have", 0.5),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _for_each(p), (example,), weight=weight)
        for pattern, example, weight in (
            (f"how does|do|did the? E|Q {VARIES} {_IN} the? C|T|F|UNIT", "how does fee vary with species", 0.6),
            (f"does|do|did the? E|Q {VARIES} {_IN} the? C|T|F|UNIT", "does total fee differ between species", 0.6),
            (
                "is|are the? E|Q different|unlike by|with|between|across|among|per|from|for the? C|T|F|UNIT",
                "is the fee different across species",
                0.6,
            ),
            (
                "how do|does|did the? C|T compare|stack on|in|for|by|with up? on|in? E|Q",
                "how do species compare on fee",
                0.6,
            ),
            ("compare the? C|T on|in E|Q", "compare the species on total fee", 0.4),
            (
                "from one C|T to the next|other|another , how different is|are E|Q",
                "from one species to the next, how different is total fee",
                0.6,
            ),
        )
    ),
)
