"""The different values that there are: what kinds a column has, which pairs of two occur."""

from __future__ import annotations

from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Kinds, Noun

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


RULES = (
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
