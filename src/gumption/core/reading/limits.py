"""What is read off and the two limits between which it should lie: out of tolerance, within range, too high."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from gumption.core.reading import meaning as m
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.tokens import stem, stems
from gumption.core.reading.vocabulary import Vocabulary, name_parts

_LOW = frozenset(["low", "lower", "lowest", "min", "minimum", "floor", "lcl", "lsl", "from", "bottom"])
_HIGH = frozenset(["high", "higher", "upper", "highest", "max", "maximum", "ceiling", "ucl", "usl", "to", "top"])
_KIND = frozenset(
    [
        "limit",
        "tol",
        "tolerance",
        "spec",
        "specification",
        "range",
        "normal",
        "allowed",
        "bound",
        "threshold",
        "target",
        "ok",
    ]
)
_READ = stems("reading value measured measure measurement result level actual score observed reads")
_LIMITS = (
    "limits", "limit", "tolerance", "tolerances", "spec", "specification", "specifications", "range", "bounds",
    "normal range", "allowed range", "permitted range", "target range", "allowed limits", "two limits", "normal limits",
)  # fmt: skip
_WARMTH = frozenset(["temp", "temperature", "degrees"])
_OUTSIDE = ("outside", "outside of", "out of", "beyond", "off", "not within", "not in", "not inside", "exceeding")
_WITHIN = ("within", "inside", "in", "inside of", "between", "not outside", "not out of")
_OWN = ("", "the ", "its ", "their ", "the two ", "both ", "our ", "own ")
_ABOVE = ("above", "over", "exceeding", "beyond", "higher than", "warmer than")
_BELOW = ("below", "under", "beneath", "lower than", "colder than")


@dataclass(frozen=True)
class Limits:
    """A number that is read off and the columns of the two limits between which it should lie."""

    value: ColumnKey
    low: ColumnKey
    high: ColumnKey


def _told(name: str, ends: frozenset[str]) -> frozenset[str] | None:
    """What a limit is called without the word for its end; None for a column that is none."""
    parts = frozenset(name_parts(name))
    return parts - ends if parts & ends else None


def limits_of(vocabulary: Vocabulary, table: str) -> Limits | None:
    """The reading of a table that stands with its two limits on each row, or whose limits stand in the table above."""
    for name in (table, *(r.other for r in vocabulary.catalogue.parents(table))):
        numbers = [c.name for c in vocabulary.table(name).columns if c.type.is_number]
        lows = {rest: c for c in numbers if (rest := _told(c, _LOW)) is not None}
        highs = {rest: c for c in numbers if (rest := _told(c, _HIGH)) is not None}
        for rest in [r for r in lows if r in highs]:
            low, high = ColumnKey(name, lows[rest]), ColumnKey(name, highs[rest])
            value = _reading(vocabulary, table, {low, high}, rest)
            if value is not None:
                return Limits(value, low, high)
    return None


def _reading(vocabulary: Vocabulary, table: str, limits: set[ColumnKey], called: frozenset[str]) -> ColumnKey | None:
    """What lies between two limits: what is called as they are, else, of limits of nothing named, what is read off."""
    here = [ColumnKey(table, c.name) for c in vocabulary.table(table).columns if c.is_measure]
    measured = [k for k in here if k not in limits]
    named = called - _KIND
    if named:
        return next((k for k in measured if named <= {*name_parts(k.column)}), None)
    read = [k for k in measured if _READ & {*vocabulary.columns[k].parts}]
    return read[0] if read else measured[0] if len(measured) == 1 else None


def told_by_limits(vocabulary: Vocabulary) -> Iterator[tuple[tuple[str, ...], str, m.Condition, float]]:
    """(words, table, condition, how sure) for every way to say that a reading is inside or outside of its limits."""
    for table in vocabulary.tables:
        found = limits_of(vocabulary, table)
        if found is None:
            continue
        value, low, high = (m.Col(key) for key in (found.value, found.low, found.high))
        below, above = m.Compared("<", value, low), m.Compared(">", value, high)
        inside: m.Condition = m.All((m.Compared(">=", value, low), m.Compared("<=", value, high)))
        outside: m.Condition = m.Any((below, above))
        own = sorted({*vocabulary.columns[found.low].parts} & {stem(word) for word in _KIND})
        thing = " ".join(sorted(frozenset(name_parts(found.low.column)) - _LOW - _KIND))
        limits = (*_LIMITS, *own, *(f"{thing} {limit}" for limit in _LIMITS if thing))
        for starts, met in ((_OUTSIDE, outside), (_WITHIN, inside)):
            for start in starts:
                for whose in _OWN:
                    yield from ((tuple(f"{start} {whose}{limit}".split()), table, met, 1.0) for limit in limits)
        for beyond, ends, key, much, met in (
            (_ABOVE, _HIGH, found.high, ("high", "warm", "hot"), above),
            (_BELOW, _LOW, found.low, ("low", "cold", "cool"), below),
        ):
            ending = [p for p in name_parts(key.column) if p in ends]
            called = dict.fromkeys((*ending, *(("upper", "maximum") if ends is _HIGH else ("lower", "minimum"))))
            nouns = ("limit", *own, *((thing, f"{thing} limit") if thing else ("",)))
            said = {f"{b} {w}{c} {n}" for b in beyond for w in _OWN for c in called for n in nouns}
            said |= {f"too {word}" for word in (much if thing in _WARMTH else much[:1])}
            yield from ((tuple(one.split()), table, met, 1.0) for one in sorted(said))
