"""How two numbers go together: Pearson's correlation with its interval, Spearman's beside it, and the line through them.

The interval is Fisher's (1915), by the inverse hyperbolic tangent. The line is that of least squares, with the standard
error of its slope.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from decimal import Decimal

import numpy as np
from scipy import stats

from gumption.core.checks.check import Check
from gumption.core.model.style import written
from gumption.core.model.types import Value
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import set_apart
from gumption.core.present.marks import INK, PEN, Spec, caption, frame

_LEAST = 4
_MOST_DRAWN = 1_500
_STRENGTHS = (("hardly", 0.1), ("weakly", 0.3), ("moderately", 0.5), ("strongly", 1.01))
"""What a correlation is called below each size (Cohen 1988)."""
_APART = 0.15
"""How far the two coefficients may lie apart before that is said."""


@dataclass(frozen=True)
class Related:
    """Two numbers held against each other over rows; `pairs` gives each pair of values with how often it occurs."""

    one: str
    other: str
    pairs: Plan


@dataclass(frozen=True)
class Relation:
    """What two numbers show of each other."""

    rows: int
    pearson: float
    low: float
    high: float
    chance: float
    spearman: float
    slope: float
    intercept: float
    error: float
    """Of the slope, its standard error."""
    points: tuple[tuple[float, float], ...]


def relation_of(rows: Sequence[Sequence[Value]]) -> Relation | None:
    """The relation of two columns by their pairs of values; None where they are too few or one of them does not vary."""
    known = [
        (float(a), float(b), int(often))
        for a, b, often in (row[-3:] for row in rows)
        if isinstance(a, (int, float, Decimal)) and isinstance(b, (int, float, Decimal)) and isinstance(often, int)
    ]
    told = np.array([(a, b) for a, b, _ in known]).reshape(-1, 2)
    pairs = np.repeat(told, [often for *_, often in known], axis=0)
    if len(pairs) < _LEAST or np.ptp(pairs[:, 0]) == 0 or np.ptp(pairs[:, 1]) == 0:
        return None
    x, y = pairs[:, 0], pairs[:, 1]
    found = stats.pearsonr(x, y)
    interval = found.confidence_interval(0.95)
    line = stats.linregress(x, y)
    drawn = np.random.default_rng(len(pairs)).permutation(len(pairs))[:_MOST_DRAWN]
    return Relation(
        len(pairs),
        float(found.statistic),
        float(interval.low),
        float(interval.high),
        float(found.pvalue),
        float(stats.spearmanr(x, y).statistic),
        float(line.slope),
        float(line.intercept),
        float(line.stderr),
        tuple((float(a), float(b)) for a, b in pairs[np.sort(drawn)]),
    )


def related_finding(study: Related, found: Relation | None) -> str:
    """How the two go together, how sure that is, and what the line through them says."""
    if found is None:
        return f"There are too few rows with both {study.one} and {study.other} to say how they go together."
    size = abs(found.pearson)
    how = next(word for word, most in _STRENGTHS if size < most)
    way = (
        "the more of the one the more of the other"
        if found.pearson > 0
        else "the more of the one the less of the other"
    )
    said = f"{set_apart(study.one[:1].upper() + study.one[1:])} and {study.other} go together {how}"
    if size < _STRENGTHS[0][1]:
        said = f"{set_apart(study.one[:1].upper() + study.one[1:])} and {study.other} hardly go together"
    number = f"correlation {_r(found.pearson)}, 95 times in 100 between {_r(found.low)} and {_r(found.high)}"
    line = f"; one more of {study.one} goes with {_signed(found.slope)} of {study.other}"
    tail = f"{line}, {way}" if size >= _STRENGTHS[0][1] else ""
    return f"{said} ({number}){tail}."


def _r(value: float) -> str:
    return written(value, ".2f").replace("-", "−")


def _signed(value: float) -> str:
    return f"{'−' if value < 0 else '+'}{written(abs(value), ',.3g')}"


def related_method(found: Relation | None) -> tuple[str, ...]:
    if found is None:
        return ()
    chance = "less than 0.001" if found.chance < 0.001 else written(found.chance, ".3f")
    return (
        f"Pearson’s correlation of {written(found.rows, ',')} rows with both; by chance alone as far from nought with p {chance}.",
        f"Spearman’s, which goes by ranks and is not pulled by extremes: {_r(found.spearman)}.",
        f"The line: {_signed(found.slope)} (standard error {written(found.error, '.3g')}), from {written(found.intercept, ',.4g')} at nought.",
        "That two things go together does not say that one is the cause of the other.",
    )


def related_checks(found: Relation | None) -> tuple[Check, ...]:
    if found is None or abs(found.pearson - found.spearman) < _APART:
        return ()
    detail = f"by ranks it is {_r(found.spearman)}, by values {_r(found.pearson)}"
    return (Check("ranks and values", "caution", "It is no straight line, or extremes pull it", detail),)


def related_chart(study: Related, found: Relation | None) -> Spec | None:
    """The rows as dots, and the line through them."""
    if found is None:
        return None
    rows: list[Spec] = [{"x": a, "y": b} for a, b in found.points]
    ends = (min(a for a, _ in found.points), max(a for a, _ in found.points))
    line = [{"x": x, "y": found.intercept + found.slope * x} for x in ends]
    x: Spec = {
        "field": "x",
        "type": "quantitative",
        "axis": {"title": study.one},
        "scale": {"zero": False, "nice": True},
    }
    y: Spec = {
        "field": "y",
        "type": "quantitative",
        "axis": {"title": study.other},
        "scale": {"zero": False, "nice": True},
    }
    opacity = 0.6 if len(rows) < 300 else 0.25
    layers: list[Spec] = [
        {"mark": {"type": "point", "filled": True, "size": 22, "color": PEN, "opacity": opacity}, "encoding": {"x": x, "y": y}},
        {"data": {"values": line}, "mark": {"type": "line", "color": INK, "strokeDash": [5, 4]}, "encoding": {"x": x, "y": y}},
    ]  # fmt: skip
    spec = frame(layers, rows, 260)
    drawn = (
        f"{written(len(rows), ',')} of {written(found.rows, ',')} rows are drawn; " if len(rows) < found.rows else ""
    )
    spec["title"] = caption(f"{drawn}dashed: the line of least squares.")
    return spec


def related_code(study: Related, found: Relation | None, python: str, script: Callable[[Plan], str]) -> str:
    """The script of the pairs with what is worked out of them behind it."""
    if found is None:
        return python
    return (
        script(study.pairs).rstrip("\n")
        + """

from scipy import stats

x, y, often = (answer.dropna().iloc[:, place].astype(float) for place in (-3, -2, -1))
x, y = x.repeat(often.astype(int)), y.repeat(often.astype(int))
print(stats.pearsonr(x, y), stats.pearsonr(x, y).confidence_interval())
print(stats.spearmanr(x, y))
print(stats.linregress(x, y))
"""
    )
