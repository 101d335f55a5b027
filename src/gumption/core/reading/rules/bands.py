"""Bands of a number: equal groups of rows, tiers of so much each, either side of a number."""

from __future__ import annotations

import math

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Amount, Counted, Direction, Grouped, Measured, Noun, Top

_BANDS = "bands|bins|steps|buckets|brackets|tiers|slabs|classes|intervals|ranges|groups|bits|pieces|chunks"
_BAND = "band|bin|step|bucket|bracket|tier|slab|class|interval|range"
_INTO = "into|in|to"
_SPLIT = "split|divide|cut|break|put|group|chop|sort|slice"
_QUARTERS = 4
_TILES = (
    ("quartiles|quartile|quarters", "quartiles", _QUARTERS),
    ("quintiles|quintile|fifths", "quintiles", 5),
    ("deciles|decile|tenths", "deciles", 10),
    ("terciles|tercile|thirds", "terciles", 3),
    ("percentiles", "percentiles", 100),
)


def _tile(measured: Measured, number: float) -> Grouped | None:
    if not float(number).is_integer() or not 2 <= number <= 100:
        return None
    return Grouped(m.Tile(measured.expr, int(number)))


def _rows_in(rows: Noun, group: Grouped | None) -> tuple[object, ...] | None:
    return (Counted(rows), group) if group is not None and rows.table is not None else None


def _wide(measured: Measured, width: float) -> Grouped | None:
    return Grouped(m.Band(measured.expr, width)) if width > 0 else None


def _rows_wide(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """So many rows in each band of so much."""
    measured = next(p for p in parts if isinstance(p, Measured))
    width = next((p for p in parts if isinstance(p, float)), 10.0)
    group = _wide(measured, width)
    rows = next((p for p in parts if isinstance(p, Noun)), None)
    if rows is None:
        return (group,) if group is not None else None
    return _rows_in(rows, group)


def _shape_of(parts: tuple[object, ...]) -> tuple[object, ...]:
    """How many rows there are in each band, or at each value where these are few."""
    measured = next(p for p in parts if isinstance(p, Measured))
    rows = next((p for p in parts if isinstance(p, Noun) and p.table is not None), None)
    return (*((Counted(rows),) if rows is not None else ()), Grouped(m.Band(measured.expr)))


def _of_amount(amount: Amount) -> Grouped | None:
    return _wide(Measured(amount.expr), amount.number)


def _either_side(measured: Measured, number: float) -> Grouped:
    return Grouped(m.Band(measured.expr, None, (-math.inf, number)))


def _fullest_of(parts: tuple[object, ...], one: bool) -> tuple[object, ...] | None:
    """Which bands of the fee have the most visits, or which one has."""
    rows = next(p for p in parts if isinstance(p, Noun))
    measured = next(p for p in parts if isinstance(p, Measured))
    told = _rows_in(rows, Grouped(m.Band(measured.expr)))
    return (*told, Top(True, 1) if one else Direction(True)) if told is not None else None


RULES = (
    *(
        Rule(
            "G",
            pattern,
            lambda *p, k=number: _tile(next(x for x in p if isinstance(x, Measured)), k),
            (example,),
            weight=0.9,
        )
        for words, one, number in _TILES
        for pattern, example in (
            (f"{_SPLIT} the? E up? {_INTO} {words}", f"split fee into {one}"),
            (f"BY E {words}", f"by fee {one}"),
            (f"BY {words} of|for E", f"by {one} of fee"),
            (f"E {_INTO} {words}", f"fee in {one}"),
            (f"E {words}", f"fee {one}"),
            # The quartiles of something are where they end.
            *(((f"{words} of|for E", f"{one} of fee"),) if number != _QUARTERS else ()),
            (f"{_INTO} {words} by|of|on E", f"into {one} by fee"),
        )
    ),
    *(
        Rule("G", pattern, lambda *p: _tile(p[-1], p[0]), (example,), weight=0.9)
        for pattern, example in (
            (
                f"{_INTO} N equal|equally|equal-sized|even sized? {_BANDS} by|of|on|for E",
                "in 5 equal-sized groups by fee",
            ),
            (
                f"{_INTO} N {_BANDS} of the? equal|same size|number by|of|on|for E",
                "into 5 groups of equal size by fee",
            ),
        )
    ),
    *(
        Rule("G", pattern, lambda *p: _tile(p[-1], 3), (example,), weight=0.9)
        for pattern, example in (
            ("high / med|medium|mid / low E", "high/med/low fee"),
            ("low / med|medium|mid / high E", "low/med/high fee"),
            ("low , medium and|, high E", "low, medium and high fee"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda t, e: _rows_in(t, _tile(e, 3)), (example,), weight=0.9)
        for pattern, example in (
            ("small , medium and|, large|big T by E", "small, medium and large visits by fee"),
            ("low , medium and|, high T by E", "low, medium and high visits by fee"),
        )
    ),
    *(
        Rule(
            "G", pattern, lambda *p: _wide(next(x for x in p if isinstance(x, Measured)), p[-1]), (example,), weight=0.9
        )
        for pattern, example in (
            (f"{_INTO} E {_BANDS} of|by N", "into fee tiers of 10"),
            (f"E {_BANDS} of|by N", "fee bands of 10"),
            (f"HAVING? intervals|steps|bands of E from N {_INTO}|by N", "with intervals of fee from 10 in 10"),
            ("E DISTRIB , bin|band|bucket size|width of|:|=? N", "fee distribution, bin size 10"),
            ("E DISTRIB HAVING bins|bands|buckets of N", "fee distribution with bins of 10"),
            (f"E in|by {_BANDS}|{_BAND} , width|size of|:|=? N", "fee in bands, width 10"),
            ("E , bin|band|bucket size|width of|:|=? N", "fee, bin size 10"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _rows_wide(p), (example,), weight=0.9)
        for pattern, example in (
            (
                f"{_SPLIT}|bucket|bin|band|tier up? T by|on|after|per|along E ,? N at a time",
                "bucket visits by fee, 50 at a time",
            ),
            (
                f"{_SPLIT}|bucket|bin|band|tier up? T by|on|after|per|along E ,? {_INTO} {_BANDS} of each? N",
                "divide up visits after fee in groups of each 50",
            ),
            (f"COUNT T by|per|in|for each|every? N {_BAND}? of E", "how many visits per 50 of fee"),
            (f"in|for each|every N wide|-wide {_BAND} of E", "in each 50 wide band of fee"),
            (
                f"{_SPLIT} the? E {_INTO} tens and tell|say|show me? COUNT T fall|falls|are|is in|into each",
                "group fee into tens and tell me how many visits fall into each",
            ),
        )
    ),
    *(
        Rule("G", pattern, lambda *p: _wide(p[0], p[-1]), (example,), weight=0.9)
        for pattern, example in (
            (
                f"how the? E is|are distributed|spread , by|in|into {_BANDS} of N",
                "how the fee is distributed, by intervals of 50",
            ),
            (f"E in N wide|-wide {_BANDS}", "fee in 50 wide bands"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _shape_of(p), (example,), weight=0.6)
        for pattern, example in (
            ("shape of the? E", "shape of fee"),
            (
                "what does|do the? spread|shape|distribution|range of the? E look like",
                "what does the spread of fee look like",
            ),
            ("how the? E is|are spread|distributed across|over|among the? T", "how fee is spread across the visits"),
            ("is|are there two|several|any humps|peaks|bumps|clusters in the? E", "are there two humps in fee"),
            ("is|are the? E lopsided|skewed|symmetric|bell-shaped|bunched|long-tailed", "is the fee lopsided"),
        )
    ),
    *(
        Rule("G", pattern, lambda *p: _wide(p[-1], p[0]), (example,), weight=0.9)
        for pattern, example in (
            (f"{_SPLIT}? by|per|for each|every N the? E", "group by each 10 the fee"),
            (f"in each N {_BAND} of E", "in each 10 band of fee"),
        )
    ),
    *(
        Rule("G", pattern, lambda *p: _of_amount(p[-1]), (example,), weight=0.9)
        for pattern, example in (
            (f"in|by|into NU {_BANDS}", "in 5 kg buckets"),
            (f"in|by|per|for each|every NU {_BAND}", "in each 5 kg band"),
            ("tallied|counted for|by each|every NU", "tallied for every 5 kg"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda e, n, t: _rows_in(t, _either_side(e, n)), (example,), weight=0.9)
        for pattern, example in (
            ("cut|split|divide E at N :|,? T either|each|both side|sides", "cut fee at 50: visits either side"),
        )
    ),
    *(
        Rule("G", pattern, lambda e, *_: Grouped(m.Band(e.expr)), (example,), weight=0.7)
        for pattern, example in (
            ("E slab|band|bracket|tier wise|-wise", "fee slab wise"),
            (f"E put|cut|grouped|sorted? {_INTO} {_BANDS}", "fee cut into bands"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, one=top: _fullest_of(p, one), (example,), weight=0.9)
        for pattern, example, top in (
            (f"WHICH E {_BANDS} have|has|had|contain|hold the? most T", "which fee bands have the most visits", False),
            (f"WHICH E {_BAND} has|have|had|contains|holds the? most T", "which fee band has the most visits", True),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _fullest_of(p, False), (example,), weight=0.9)
        for pattern, example in (
            (
                f"WHICH {_BAND} do|does|did most T fall|sit|lie in|into? for|of|by E",
                "what range do most visits fall in for fee",
            ),
            (f"in WHICH {_BAND} do|does most T fall|sit|lie for|of|by E", "in which band do most visits fall by fee"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda _, e, t: _rows_in(t, Grouped(m.Band(e.expr))), (example,), weight=0.9)
        for pattern, example in (
            ("DISTRIB of|for? E over|among|across|for the? T", "distribution of fee over the visits"),
        )
    ),
)
