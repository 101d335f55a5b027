"""Rows listed with the columns that are asked for: the fee and the date of every visit."""

from __future__ import annotations

from typing import Literal

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Counted, Listing, Measured, Moment, Noun, Shown

_EACH = "each|every|all"
_COLUMNS = "columns|column|fields|field"
_DONE = "here|in|seen|visited|back|active|treated|served"
_NOT_DONE = "T that|who|which? have|has|had|haven't|hasn't|havent|hasnt NEG?"
_NOT_THEY = "T that|who|which? haven't|hasn't|havent|hasnt|have|has NEG? been|come?"
_SHOWS = "columns|fields|showing|just|only|giving|with|having"


def listed(*parts: object) -> Listing | None:
    """The rows of a table with columns, each named once; what is measured beside them stands on each."""
    told = [p for part in parts for p in (part if isinstance(part, tuple) else (part,))]
    columns = [p.noun if isinstance(p, Shown) else p for p in told if isinstance(p, (Noun, Shown, Measured))]
    rows = [c for c in columns if isinstance(c, Noun) and c.table is not None]
    if not rows:
        return None
    beside = tuple(dict.fromkeys(c for c in columns if c != rows[-1]))
    return Listing(rows[-1], beside) if beside else None


def _rows_first(rows: Noun, *parts: object) -> Listing | None:
    return listed(*parts, rows)


def _one_by_one(columns: object, rows: Noun, again: Noun) -> Listing | None:
    """Fee and date visit by visit."""
    return listed(columns, rows) if rows == again else None


def _who_and_what(parts: tuple[object, ...]) -> Listing | None:
    """Who the owner was and what the fee was, for some visits."""
    return listed(*parts)


def _when(rows: Noun, *columns: object) -> Listing | None:
    """When each of them was, with more of it."""
    listing = listed(*columns, rows)
    return Listing(rows, (Measured(m.EventTime()), *listing.columns)) if listing is not None else None


def _taking(rows: Noun, start: Noun, end: Noun) -> Listing | None:
    """How long each of the rows took from one day to another."""
    if start.key is None or end.key is None or start == end:
        return None
    return Listing(rows, (Measured(m.Length("days", m.Col(start.key), m.Col(end.key))),))


def _figures_per(columns: object, rows: Noun) -> Listing | None:
    """Several figures per visit, which stand on each; one alone is what a visit comes to on average."""
    listing = _each_ones(rows, columns)
    return listing if listing is not None and len(listing.columns) > 1 else None


def _with_count(rows: Noun, *parts: object) -> Listing | None:
    """Owners with how many visits each of them has."""
    counted = next(p for p in reversed(parts) if isinstance(p, Noun))
    columns = tuple(p.noun for part in parts if isinstance(part, tuple) for p in part if isinstance(p, Shown))
    return Listing(rows, (*columns, Counted(counted))) if counted != rows else None


def _including_none(parts: tuple[object, ...]) -> Listing | None:
    """How many visits each owner has, nought where there are none."""
    counted, rows = (p for p in parts if isinstance(p, Noun))
    return Listing(rows, (Counted(counted),)) if counted != rows else None


def _moments(rows: Noun, of: Noun, *ends: Literal["min", "max"], since: bool = False) -> Listing | None:
    """Owners with when their first or last visit was, or how long ago that is."""
    if rows == of or of.table is None:
        return None
    return Listing(rows, tuple(Moment(of, end, since) for end in ends))


def _moment_of_what_is_done(rows: Noun, end: Literal["min", "max"], *, ranks: bool = False) -> Listing | None:
    """Owners with when they were last here, by what is done with them."""
    return Listing(rows, (Moment(None, end, ranks=ranks),)) if rows.table is not None else None


def _each_ones(rows: Noun, columns: object) -> Listing | None:
    """Every visit's fee, told of its own rows."""
    listing = listed(columns, rows)
    own = listing and all(isinstance(c, Noun) and c.key and c.key.table == rows.table for c in listing.columns)
    return listing if own else None


def _of_own(*parts: object) -> Listing | None:
    """One column of each of the rows that it stands on."""
    column, rows = (p for p in parts if isinstance(p, Noun))
    return listed(column, rows) if column.key is not None and column.key.table == rows.table else None


RULES = (
    *(
        Rule("BESX", pattern, listed, (example,), weight=weight)
        for pattern, example, weight in (
            ("E is|are|was|were each|every T", "weight is each animal", 0.6),
            (f"SHL of|from|for|on|in {_EACH} of? the? T", "fee and rating of every visit", 0.35),
            (f"SHL {_COLUMNS} of|from|for|on|in {_EACH}? the? T", "fee and rating columns from visits", 0.45),
            (f"only|just SHL of|from|for|on|in {_EACH}? the? T", "only fee and rating for the visits", 0.4),
            (f"SHL , {_EACH} of? the? T", "fee and rating, all visits", 0.3),
            (f"SHL - {_EACH} of? the? T", "fee and rating - all visits", 0.35),
            (f"SHL shown|listed for|of|on {_EACH}? the? T", "fee and rating shown for all visits", 0.45),
            (
                f"put|show|list SHI next|beside to? SHI for|of|on {_EACH}? the? T",
                "put fee next to rating for all visits",
                0.5,
            ),
            (f"SHI against|versus|vs SHI for|of|on {_EACH}? the? T", "fee against rating for visits", 0.35),
            (
                f"which|what SHI does|do|did {_EACH} the? T fall|belong|come|go|have under|into|to|in?",
                "which species does each visit have",
                0.5,
            ),
            (f"which|what SHI is|are|was|were {_EACH} the? T in|under|of|on?", "which species is each visit in", 0.5),
            (
                "which|what SHI did|do|does the? different|various T have , and|& in|of? which|what SHI were|was|are|is they|it",
                "what fee did the different visits have, and in which species were they",
                0.6,
            ),
        )
    ),
    *(
        Rule("BESX", pattern, _of_own, (example,), weight=weight)
        for pattern, example, weight in (
            (f"WHICH C|D|F of|on|for|in {_EACH} the? T", "what's the clinic of each visit", 0.6),
            (
                f"what|which is|are|was|were the? C|D|F of|on|for|in {_EACH} the? T",
                "what is the clinic of each visit",
                0.5,
            ),
            (f"how much was|is|were|are the? M on|of|for|in {_EACH} the? T", "how much was the fee on each visit", 0.3),
        )
    ),
    *(
        Rule("BESX", pattern, _rows_first, (example,), weight=weight)
        for pattern, example, weight in (
            (f"T , {_SHOWS} =|: SHL", "visits, columns = fee, rating", 0.5),
            (f"T having|with {_COLUMNS} SHL", "visits having columns fee, rating", 0.5),
            ("T : just|only SHL", "visits: just fee and rating", 0.45),
            ("T incl|incl.|including SHL", "visits incl. fee and rating", 0.4),
            ("T HAVING their|its SHI", "visits with their fee", 0.45),
            ("each|every|all T HAVING SHL", "each visit with fee and rating", 0.35),
            (
                "T HAVING|including|showing the? SHI each|they|it one? got|has|had|have|gets|made|took",
                "visits including the rating each one got",
                0.5,
            ),
            ("T together|along with their|its|the SHI|SHL", "visits together with their fee", 0.4),
            (
                "T along|together with the? T they|it belong|belongs to",
                "visits along with the owner they belong to",
                0.5,
            ),
            ("T and|with the? T they|it belong|belongs to", "visits and the owner they belong to", 0.5),
        )
    ),
    Rule(
        "BESX",
        "SHL T by T",
        _one_by_one,
        ("fee and rating visit by visit",),
        weight=0.5,
    ),
    Rule(
        "BESX",
        f"who|what|which or? what? is|was|are|were the? T on|of|for|in|behind {_EACH} the? T",
        lambda one, rows: listed(one, rows) if one != rows else None,
        ("who was the owner on each visit",),
        weight=0.5,
    ),
    *(
        Rule("BESX", pattern, lambda *p: _who_and_what(p), (example,), weight=0.8)
        for pattern, example in (
            (
                "who|what|which was|were|is|are the? C|T and|, what was|were|is|are the? SHI , for|on|of|in the? T",
                "who was the species and what was the fee, for visits",
            ),
            (
                "SHI plus|and whatever|which SHI they|it|each|they've|it's has|have? got|has|have? , for|of all|every|each|the? T",
                "fee plus whatever species they've got, for all visits",
            ),
        )
    ),
    Rule(
        "BESX",
        f"when was|were|is|are {_EACH} the? T , and|& what|how? much? was|were|is|are the? SHI",
        _when,
        ("when was each visit, and what was the fee",),
        weight=0.5,
    ),
    Rule(
        "BESX",
        "T and|with|, how long each|it|they|these one? took|takes|take|lasted|was|were from? D to|until|till D",
        _taking,
        ("visits and how long each took from opened to closed",),
        weight=0.6,
    ),
    *(
        Rule(
            "BESX",
            pattern,
            _with_count,
            (example,),
            weight=weight,
        )
        for pattern, example, weight in (
            ("T HAVING|and|, their|its COUNT of? T", "owners with their number of visits", 0.6),
            ("T HAVING COUNT of? T", "owners with number of visits", 0.4),
            (
                "T and|with|next|beside to? COUNT of? T they|each|it|they've|they'd have|has|had|'ve|got?",
                "owners and how many visits they have",
                0.6,
            ),
            ("T HAVING|and|, their|its T COUNT", "owners and their visits count", 0.6),
            (
                "T , SHL , and how often|frequently they turn|turned|come|came|appear|appeared|occur up? in T",
                "clinics, rating, fee, and how often they turn up in visits",
                0.7,
            ),
            (
                "T , SHI , and how often|frequently they turn|turned|come|came|appear|appeared|occur up? in T",
                "clinics, rating, and how often they turn up in visits",
                0.7,
            ),
            (
                "T and|, how often|frequently they turn|turned|come|came|appear|appeared|occur up? in T",
                "clinics and how often they turn up in visits",
                0.6,
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _including_none(p), (example,), weight=0.9)
        for pattern, example in (
            (
                "including those|ones? with none|zero|no|0 , COUNT? T for|of|per every|each? T",
                "including those with none, visits for every owner",
            ),
            (
                "COUNT? T for|of|per every|each? T , including|with? also|even? those|ones|the with|of? none|zero|zeros|noughts",
                "visits per owner, including those with none",
            ),
            (
                "COUNT T does|do|did|has|have each|every T have|had|got? , including|with? also|even? those|ones|the with|of? none|zero|zeros|noughts",
                "how many visits does each owner have, including those with none",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda t, *p: _moments(t, p[-1], "min", "max"), (example,), weight=0.9)
        for pattern, example in (
            (
                "T HAVING|and|, the? date|dates|day of? their|its|the? first and|& last|latest T",
                "owners with date of first and last visit",
            ),
            (
                "T HAVING|and|, their|its first and|& last|latest T date|dates",
                "owners with their first and last visit dates",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda t, *p, e=end: _moments(t, p[-1], e), (example,), weight=0.9)
        for words, end in (("first|earliest", "min"), ("last|latest|newest", "max"))
        for pattern, example in (
            (
                f"T HAVING|and|, the? date|day|time of their|its|the? {words} T",
                f"owners with the date of their {words.split('|')[0]} visit",
            ),
            (
                f"T and|with|, when|day|date they|it {words} had|got|made|have|has a|an? T",
                f"owners and when they {words.split('|')[0]} had a visit",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda t, *_, e=end: _moment_of_what_is_done(t, e), (example,), weight=0.9)
        for words, end in (("first|originally", "min"), ("last|lately", "max"))
        for pattern, example in (
            (
                f"T and|with|plus|, and|with? the? date|day|when that? they|it|each|he|she? was|were|are|is {words} {_DONE}",
                f"owners with the date they were {words.split('|')[0]} here",
            ),
            (
                f"T and|with|plus|, and|with? the? date|day|when that? they|it|each|he|she? {words} came|visited|appeared|dropped in|by|back|round?",
                f"owners and when they {words.split('|')[0]} came",
            ),
            (
                f"T and|with|plus|, and|with? the? date|day|when that? we {words} saw|served|treated|heard from|of? them|it|each?",
                f"owners with when we {words.split('|')[0]} saw them",
            ),
            (f"when each|every T was {words} {_DONE}", f"when each owner was {words.split('|')[0]} here"),
            (
                f"when was|were each|every|all the|of? T {words} {_DONE}",
                f"when was each owner {words.split('|')[0]} seen",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda t, *_: _moment_of_what_is_done(t, "max", ranks=True), (example,), weight=0.9)
        for pattern, example in (
            (
                f"{_NOT_DONE} we|i {_DONE} for the? longest time|while|period?",
                "owners haven't we seen for the longest time",
            ),
            (
                f"{_NOT_THEY} {_DONE} for the? longest time|while|period?",
                "owners have not been here for the longest time",
            ),
        )
    ),
    Rule(
        "BESX",
        "how long since the|their? last|latest T , by|per|for T",
        lambda of, t: _moments(t, of, "max", since=True),
        ("how long since the last visit, by owner",),
        weight=0.9,
    ),
    Rule("BESX", "SHL per|by T", _figures_per, ("fee and rating per visit",), weight=0.15),
    Rule("BESX", "each|every T SHI|SHL", _each_ones, ("every visit's fee",), weight=0.3),
    Rule("BESX", f"N? {_COLUMNS} :|= SHL", lambda *p: p[-1], ("three columns: fee, rating",), weight=0.5),
)
