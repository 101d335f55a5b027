"""The different values that there are: what kinds a column has, which pairs of two occur."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Counted, Grouped, Kinds, Measured, Noun, Worked

_VALUES = "values|options|choices|labels|categories|kinds|types|entries"
_PAIRS = "combinations|combination|combos|combo|pairs|pairings|mixes"
_DIFFERENT = "different|distinct|unique|possible|existing|various|all|actual|observed"
_OCCUR = "that? actually|really? occur|occurs|exist|exists|appear|appears|arise"


def _kinds(*parts: object) -> Kinds | None:
    columns = tuple(dict.fromkeys(p for p in parts if isinstance(p, Noun) and p.key is not None))
    return Kinds(columns) if columns else None


def _pairs(*parts: object) -> Kinds | None:
    kinds = _kinds(*parts)
    return kinds if kinds is not None and len(kinds.columns) > 1 else None


def _how_many(*parts: object) -> Worked | None:
    """How many different values there are."""
    for part in parts:
        match part:
            case Noun(key=key) if key is not None:
                return Worked(m.Aggregated("distinct", m.Col(key)))
            case Measured(expr=m.Col() as expr):
                return Worked(m.Aggregated("distinct", expr))
            case _:
                pass
    return None


def _how_often(one: Noun, other: Noun) -> tuple[object, ...] | None:
    """Which species go with which reasons, and how often: how many there are of each pair."""
    if one.key is None or other.key is None or one == other or one.key.table != other.key.table:
        return None
    return Counted(Noun(table=one.key.table)), Grouped(one), Grouped(other)


def _how_many_by(kinds: Noun, group: Noun) -> tuple[object, ...] | None:
    """Different breeds by species: how many of each."""
    counted = _how_many(kinds)
    return (counted, Grouped(group)) if counted is not None and kinds != group else None


RULES = (
    *(
        Rule("Q", pattern, lambda *p: _how_many(*p), (example,), weight=0.9)
        for pattern, example in (
            (
                f"COUNT different|distinct|unique? {_VALUES} does|do|can the? C column? take|have|hold|contain",
                "how many values does species take",
            ),
            (
                f"COUNT different|distinct|unique {_VALUES}|amounts|numbers do|does|are|have we|you|they|there? see|have|get|find|got? for|of|in|under the? C|E|D",
                "how many different amounts do we see for fee",
            ),
            (
                "COUNT different|distinct|unique names|ones|entries come|show|turn|appear up? under|in|for the? C",
                "how many distinct names come up under species",
            ),
            (
                "across|over|among COUNT C is|are|were|was our|the? T spread|distributed|split|shared?",
                "across how many species are our visits spread",
            ),
            (
                "COUNT C appear|appears|occur|occurs|feature|features|come up? among|in|across|over the? T",
                "how many species appear among the visits",
            ),
            (
                "COUNT C without|WITHOUT repeating|repeats|repetition|duplicates|duplication",
                "how many species without repeating",
            ),
            ("C ,|- each|every one? counted|counting once|one?", "species - each one counted once"),
            ("COUNT C ,|- no double counting|counts?", "how many species, no double counting"),
            ("is it all one C or are|is there several|many|more|others?", "is it all one species or are there several"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _how_many_by(p[-2], p[-1]), (example,), weight=0.9)
        for pattern, example in (
            ("different|distinct|unique C by|per|for each|every? C", "different breeds by species"),
            ("different|distinct|unique C in each|every C", "different breeds in each species"),
            ("DISTINCT C BY C", "distinct breeds for each species"),
        )
    ),
    *(
        Rule("KDX", pattern, _kinds, (example,), weight=weight)
        for pattern, example, weight in (
            (f"LIST|WHICH? the? {_DIFFERENT} {_VALUES} of|for|in the? C column?", "possible values of species", 0.7),
            (f"LIST|WHICH? the? {_VALUES} of|for|in the? C column?", "what are the options for species", 0.5),
            (
                f"WHICH {_VALUES} does|do|can the? C column? take|have|hold|contain|include",
                "what values does breed take",
                0.9,
            ),
            ("LIST? the? C names? , no|without repeats|duplicates|repetition|repetitions", "species, no repeats", 0.9),
            (
                "LIST? the? C names? WITHOUT repeats|duplicates|repetition|repetitions",
                "species without duplicates",
                0.9,
            ),
            ("LIST? every|each C , once|one each|only|time?", "every species, once each", 0.9),
            ("LIST? each|every C only|just? once|one time?", "each species only once", 0.7),
            (
                "LIST? the? DISTINCT C in|of|from|among|across|for|on the|our|all? T table|sheet|file|list?",
                "unique species in visits",
                0.5,
            ),
            ("WHICH range|spread|variety|assortment|mix of C", "what range of species", 0.6),
            (
                "a|the? range|variety|assortment of C we|they|you have|sell|offer|keep|use",
                "the range of species we have",
                0.6,
            ),
            ("LIST? the? C in use|play|existence", "species in use", 0.6),
        )
    ),
    *(
        Rule("BESX", pattern, lambda _, a, b: _how_often(a, b), (example,), weight=1.1)
        for pattern, example in (
            (
                "WHICH C go|goes|occur|occurs|come|comes with|alongside|together which|what C , and? how often|many|frequently times?",
                "which species go with which breed, and how often",
            ),
        )
    ),
    *(
        Rule("KDX", pattern, _pairs, (example,), weight=0.9)
        for pattern, example in (
            (
                f"LIST|WHICH? the? {_DIFFERENT}? {_PAIRS} of|between C and|&|with C {_OCCUR}?",
                "different combinations of species and breed",
            ),
            (
                f"LIST|WHICH? the? {_DIFFERENT}? C and|/|&|- C {_PAIRS} {_OCCUR}?",
                "species/breed pairs that actually occur",
            ),
            (f"LIST|WHICH? the? {_DIFFERENT}? C C {_PAIRS} {_OCCUR}?", "species breed combinations"),
            (
                "WHICH C go|goes|occur|occurs|come|comes with|alongside|together which C",
                "which species go with which breed",
            ),
        )
    ),
)
