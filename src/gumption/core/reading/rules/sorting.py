"""What an answer is sorted by, and which way: by fee, highest first; in date order; A to Z."""

from __future__ import annotations

import dataclasses

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Asking, Basis, Direction, Grouped, Measured, Noun, Sorted, Top

_SORT = "sort|order|arrange|list|put|show|give|sequence"
_GIVE = "give|show|keep|take|list"
_SORTED = "sorted|ordered|arranged|ranked|sequenced|listed|ordinated|laid"
_BY = "by|on|after|according"
_SORT_BY = "by|after|according"
"""Listing those on hold sorts by nothing."""


def _by_time(*, newest: bool) -> Sorted:
    return Sorted(Measured(m.EventTime()), newest)


def _own_rows(by: Measured) -> Noun | None:
    """The rows that a measure stands on."""
    tables = {key.table for key in m.columns_in(by.expr)}
    return Noun(table=tables.pop()) if len(tables) == 1 else None


def _rows_by(rows: Noun, by: Measured, way: Direction) -> tuple[object, ...] | None:
    """Visits by fee, highest first: the visits one by one, where the fee stands on each."""
    return (rows, Asking("list"), Sorted(by, way.descending)) if _own_rows(by) == rows else None


def _first_of_all(top: Top, rows: Noun) -> tuple[object, ...] | None:
    """Newest visits first: all of them; richest countries first is said of what is worked out of each."""
    if top.noun is not None or top.number is not None or rows.table is None or top.by is None:
        return None
    return rows, Asking("list"), Direction(top.descending, top.by)


def _rows_sorted(*parts: object) -> tuple[object, ...] | None:
    """Sort visits by species, then fee descending: a way that is said last holds for what it stands beside."""
    rows = next((p for p in parts if isinstance(p, Noun) and p.table is not None), None)
    keys: list[Sorted] = []
    for part in parts:
        match part:
            case Noun(key=key) if key is not None and all(k.by != part for k in keys):
                keys.append(Sorted(part, False))
            case Measured() if rows is None or not rows.table or _own_rows(part) == rows:
                keys.append(Sorted(part, False))
            case Measured():
                return None
            case Direction(descending=descending) if keys:
                keys[-1] = dataclasses.replace(keys[-1], descending=descending)
            case _:
                pass
    if rows is None or not keys:
        return None
    return rows, Asking("list"), *keys


def _turned(order: object, way: Direction) -> object:
    """An order turned about; of several keys the last one is, which the direction stands behind."""
    if isinstance(order, Sorted):
        return dataclasses.replace(order, descending=way.descending)
    if not isinstance(order, tuple):
        return None
    *first, last = order
    return (*first, dataclasses.replace(last, descending=way.descending)) if isinstance(last, Sorted) else None


def _as_sorted(*parts: object) -> tuple[Sorted, ...] | None:
    """Several keys, each with its own way."""
    found = _rows_sorted(Noun(table=""), *parts)
    return tuple(p for p in found if isinstance(p, Sorted)) if found is not None else None


def _so_many_sorted(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Sort the visits by fee, highest first, and give me three: the three that come first so."""
    rows = next((p for p in parts if isinstance(p, Noun) and p.table is not None), None)
    way = next((p.descending for p in parts if isinstance(p, Direction)), False)
    keys = (m.Col(p.key) for p in parts if isinstance(p, Noun) and p.key is not None)
    expr = next((p.expr for p in parts if isinstance(p, Measured)), None) or next(keys)
    number = next(p for p in parts if isinstance(p, float))
    if rows is None or not number.is_integer() or not 1 <= number <= 1000:
        return None
    return (Top(way, int(number), by=expr, noun=rows),)


def _to_the_front(top: Top) -> Direction | None:
    return Direction(top.descending, top.by) if top.noun is None and top.number is None else None


def _from_the_end(top: Top) -> Direction | None:
    return Direction(not top.descending, top.by) if top.noun is None and top.number is None else None


RULES = (
    Rule("DIR", "DESC", lambda _: Direction(True), ("highest first",), weight=0.05),
    Rule("DIR", "ASC", lambda _: Direction(False), ("lowest first",), weight=0.05),
    *(
        Rule("DIR", pattern, lambda d=down: Direction(d), (example,), weight=1.4)
        for pattern, example, down in (
            ("from? high|large|big to low|small", "from high to low", True),
            ("from? low|small to high|large|big", "from small to big", False),
            ("from? worst|best to best|worst", "from worst to best", True),
            ("from? most to least|fewest", "from most to least", True),
            ("from? least|fewest to most", "from least to most", False),
            ("from? smallest|lowest to largest|biggest|highest|greatest", "from smallest to largest", False),
            ("from? largest|biggest|highest|greatest to smallest|lowest", "from largest to smallest", True),
        )
    ),
    Rule(
        "DIR",
        "TOP first|ahead",
        _to_the_front,
        ("heaviest first",),
        weight=0.15,
    ),
    Rule(
        "DIR",
        "TOP at|on|to the? top",
        _to_the_front,
        ("heaviest at the top",),
        weight=0.2,
    ),
    Rule(
        "DIR",
        "TOP one|ones at|on the? top",
        _to_the_front,
        ("best one at the top",),
        weight=0.25,
    ),
    Rule(
        "DIR",
        "TOP number|numbers|amount|amounts|value|total|totals|share|shares|growth|change|increase|figure first",
        lambda t: Direction(t.descending) if t.noun is None and t.number is None else None,
        ("highest number first",),
        weight=0.3,
    ),
    Rule(
        "DIR",
        "TOP NP|UNIT first",
        lambda t, _: _to_the_front(t),
        ("worst clinics first",),
        weight=0.3,
    ),
    Rule(
        "BESX",
        ", TOP C first",
        lambda t, n: (Grouped(n), Direction(t.descending, t.by)) if t.noun is None and t.number is None else None,
        (", heaviest species first",),
        weight=0.35,
    ),
    Rule("DIR", "worst NP|UNIT first", lambda _: Direction(True), ("worst clinics first",), weight=0.5),
    Rule("DIR", "MOST first", lambda s: Direction(s == "+"), ("most first",), weight=0.2),
    Rule("DIR", "MOST at the? top", lambda s: Direction(s == "+"), ("most at the top",), weight=0.2),
    *(
        Rule("ORD", pattern, lambda by: Basis(by), (example,), weight=0.0)
        for pattern, example in (
            ("by E", "by fee"),
            ("by CNT", "by number of visits"),
            ("by Q", "by average fee"),
            ("by RATIO", "by fee per visit"),
        )
    ),
    Rule("ORD", "ORDERBY RATIO", lambda _, r: Basis(r), ("going by fee per visit",), weight=0.2),
    Rule(
        "ORD",
        "ORDERBY SHR",
        lambda _, s: Basis(s) if s.condition is not None else None,
        ("sorted by share of dogs",),
        weight=0.2,
    ),
    Rule("ORD", "ORDERBY E", lambda _, e: Sorted(e), ("sorted by fee",), weight=0.2),
    Rule("ORD", "ORDERBY CNT", lambda _, c: Sorted(c), ("sorted by number of visits",), weight=0.2),
    Rule("ORD", "ORDERBY Q", lambda _, q: Sorted(q), ("sorted by total fee",), weight=0.2),
    Rule("ORD", "ORDERBY NP", lambda _, n: Sorted(n), ("sorted by species",), weight=0.15),
    *(
        Rule(
            "ORD",
            pattern,
            lambda _, a, *b: (Sorted(a), Sorted(b[-1])) if a != b[-1] else None,
            (example,),
            weight=weight,
        )
        for pattern, example, weight in (
            ("ORDERBY NP|E|D and|then|, then? by? NP|E|D", "sorted by species then by fee", 0.3),
            ("ORDERBY NP|E , ties|equals|equal? ones? by NP|E", "sorted by species, ties by fee", 0.3),
            (
                "ORDERBY NP|E and|, within|inside a|each|every|the? NP|that ,? by NP|E|D",
                "sorted by species and, within a species, by fee",
                0.9,
            ),
        )
    ),
    *(
        Rule(
            "ORD",
            pattern,
            lambda t, *_: Sorted(Measured(t.by), t.descending) if t.by is not None else None,
            (example,),
            weight=0.5,
        )
        for pattern, example in (("SUP to SUP", "newest to oldest"), ("from SUP to SUP", "from oldest to newest"))
    ),
    Rule("ORD", "sort by NP", lambda n: Sorted(n), ("sort by species",), weight=0.15),
    Rule(
        "ORD",
        "ORD DIR",
        _turned,
        ("sorted by fee, highest first", "sorted by species then by fee, highest first"),
        weight=0.1,
    ),
    *(
        Rule(
            "ORD",
            pattern,
            lambda v, *_: Sorted(Measured(m.Test(m.Is(v.column, v.values))), True),
            (example,),
            weight=0.2,
        )
        for pattern, example in (
            ("V first", "dogs first"),
            ("V T first", "dog visits first"),
            ("V at the? top", "dogs at the top"),
        )
    ),
    Rule("ORD", "ALPHA", lambda _: Sorted(None, False), ("alphabetically",)),
    Rule("ORD", "ties|equals broken? ALPHA", lambda *_: Sorted(None, False), ("ties by name",), weight=0.5),
    Rule("ORD", "ties|equals broken? by NP|E", lambda *p: Sorted(p[-1]), ("ties by species",), weight=0.5),
    # in order of time
    *(
        Rule("ORD", pattern, lambda *_, d=newest: _by_time(newest=d), (example,), weight=0.9)
        for pattern, example, newest in (
            ("in|by? a? chronological|date|time order|sequence", "in date order", False),
            ("sorted|ordered|arranged? chronologically|chronological", "chronologically", False),
            ("in|by order|sequence of date|time", "in order of date", False),
            (
                "in|by? reverse|reversed|descending chronological|date|time order|sequence?",
                "reverse chronological",
                True,
            ),
            (
                "in|by? chronological|date|time order|sequence , newest|latest|most-recent first",
                "date order, newest first",
                True,
            ),
            ("sorted|ordered? reverse chronologically", "reverse chronologically", True),
        )
    ),
    # by name, from either end of the alphabet
    *(
        Rule("ORD", pattern, lambda *p, d=down: Sorted(p[-1] if p else None, d), (example,), weight=0.9)
        for pattern, example, down in (
            ("z to|- a by C|T", "z to a by species", True),
            ("a to|- z by C|T", "a to z by species", False),
            ("a-z|alphabetical by C|T", "a-z by species", False),
            ("z-a by C|T", "z-a by species", True),
            ("alphabetically|alphabetical|alphabeticaly by C|T", "alphabetically by species", False),
            ("in|by? reverse|reversed alphabetical|alphabetic order", "in reverse alphabetical order", True),
            ("z to|- a", "z to a", True),
            ("from? z-a", "z-a", True),
        )
    ),
    # rows one by one
    *(
        Rule("BESX", pattern, lambda t, e, d: _rows_by(t, e, d), (example,), weight=weight)
        for pattern, example, weight in (
            ("T by E , DIR", "visits by fee, highest first", 0.6),
            ("T by E DIR", "visits by fee descending", 0.6),
            ("T E DIR", "visits fee descending", 0.2),
            ("T , E DIR", "visits, fee highest first", 0.6),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _rows_sorted(*p), (example,), weight=0.6)
        for pattern, example in (
            (f"{_SORT} me? the|all? T {_SORT_BY} C|E|D DIR?", "sort the visits by fee"),
            (f"{_SORT} me? the|all? T in order of C|E|D DIR?", "put the visits in order of fee"),
            (
                f"{_SORT} me? the|all? T in order of C|E|D and|,|then then? by? C|E|D DIR?",
                "put the visits in order of species and fee",
            ),
            (f"{_SORT} me? the|all? T {_SORT_BY} C|E|D , DIR", "sort the visits by fee, highest first"),
            (f"T {_SORTED} {_BY} C|E|D DIR?", "visits ordinated by fee"),
            (
                f"{_SORT} me? the|all? T {_SORT_BY} C|E|D and|,|then then? by? C|E|D DIR?",
                "sort visits by species then fee descending",
            ),
            (
                f"{_SORT} me? the|all? T {_SORT_BY} C|E|D and|, and? by? C|E|D inside|within each|every|the? C",
                "arrange the visits by species, and by fee inside each species",
            ),
            (
                f"T ,? {_SORTED} {_BY} C|E|D and|,|then then? by? C|E|D DIR?",
                "visits, sorted by species and fee",
            ),
            ("T so? that? the? SUP E comes|come|is|are|goes first", "visits so that the lowest fee comes first"),
            (
                f"T {_SORTED} so|such that? the? SUP E comes|come|is|are|goes first|ahead",
                "visits arranged so the lowest fee comes first",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _so_many_sorted(p), (example,), weight=0.9)
        for pattern, example in (
            (
                f"{_SORT} me? the|all? T {_SORT_BY} C|E|D , DIR , and? {_GIVE} me|us? the? first|top? N of? them?",
                "sort the visits by fee, highest first, and give me 3",
            ),
            (
                f"{_SORT} me? the|all? T {_SORT_BY} C|E|D , DIR and {_GIVE} me|us? the? first|top? N of? them?",
                "sort the visits by fee, highest first and give me 3",
            ),
            (
                f"{_SORT} me? the|all? T {_SORT_BY} C|E|D , DIR , the? first|top|just|only N",
                "sort visits by fee, highest first, first 3",
            ),
        )
    ),
    *(
        Rule("ORD", pattern, lambda *p: _as_sorted(*p), (example,), weight=0.6)
        for pattern, example in (
            ("C|E|D DIR , C|E|D DIR", "species ascending, fee descending"),
            ("first by C|E|D , then by C|E|D DIR?", "first by species, then by fee descending"),
            ("ORDERBY C|E|D , and|then? by? C|E|D DIR", "sorted by species, fee descending"),
            ("ORDERBY C|E|D and|then then? by? C|E|D DIR", "sorted by species then fee descending"),
        )
    ),
    *(
        Rule("ORD", pattern, lambda c, *e: (Sorted(c, False), Sorted(e[-1], True)), (example,), weight=0.9)
        for pattern, example in (("within|inside|in each|every C ,? ORDERBY E", "within each species, order by fee"),)
    ),
    Rule("BESX", "TOP T first", lambda t, n: _first_of_all(t, n), ("newest visits first",), weight=1.0),
    # the other end
    *(
        Rule("DIR", pattern, lambda t, *_: _from_the_end(t), (example,), weight=0.6)
        for pattern, example in (
            ("TOP one|ones? at|on the? bottom|end|foot", "biggest at the bottom"),
            ("TOP one|ones? last", "biggest last"),
        )
    ),
    *(
        Rule("DIR", pattern, lambda t: _to_the_front(t), (example,), weight=0.6)
        for pattern, example in (
            ("TOP one|ones? comes|come|goes|go|to first|front", "lowest comes first"),
            (
                "start|starting|begin|beginning with|from|at the? TOP and|, work|working|go|going? down|up|on",
                "starting with the highest and work down",
            ),
        )
    ),
)
