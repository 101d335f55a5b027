"""Words that say that nothing is there."""

from __future__ import annotations

ERROR_CELLS = (
    "#N/A",
    "#DIV/0!",
    "#REF!",
    "#VALUE!",
    "#NAME?",
    "#NUM!",
    "#NULL!",
    "#N/V",
    "#SPILL!",
    "#CALC!",
    "Err:502",
)
MISSING_WORDS: tuple[str, ...] = (
    *("", "NA", "N/A", "n/a", "N.A.", "n.a.", "NULL", "null", "Null", "NaN", "nan", "NAN", "<NA>", "\\N"),
    *("-", "--", "---", "–", "—", "(blank)", "(null)", "(empty)", "NaT", "#NA"),
    *ERROR_CELLS,
)
"""What says missing in a column of any type."""
TYPED_MISSING = frozenset(
    [
        "none",
        "unknown",
        "unk",
        "tbc",
        "tbd",
        "tba",
        "n/k",
        "nk",
        "n.k.",
        "n/d",
        "nd",
        "n.d.",
        "k.a.",
        "nil",
        "missing",
        "pending",
        "blank",
        "empty",
        "void",
        "null",
        "na",
        "n/a",
        "x",
        ".",
        "..",
        "...",
        ":",
        "*",
        "**",
        "?",
        "??",
        "???",
        "not_available",
        "unavailable",
        "#",
    ]
) | {
    "not available",
    "not recorded",
    "not known",
    "not applicable",
    "not stated",
    "no data",
    "not measured",
    "keine angabe",
    "s/o",
    "- -",
}
"""What says missing among numbers, dates and the like, but may be a value among words."""
