"""How two numbers go together: Pearson's correlation with its interval, Spearman's beside it, and the line through them.

The interval is Fisher's (1915), by the inverse hyperbolic tangent. The line is that of least squares, with the standard
error of its slope.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from decimal import Decimal

import numpy as np
import numpy.typing as npt
import scipy

from gumption.core.checks.check import Check
from gumption.core.model.names import plural
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
_MANY = 400
"""Rows from which on it can be told of a correlation that may be none that it is next to none."""
_READABLE = 0.001
_LEAST_STEPS = 6
"""Steps from period to period that must be there to be held against each other."""


@dataclass(frozen=True)
class Related:
    """Two numbers held against each other over rows; `pairs` gives each pair of values with how often it occurs.

    Or two figures over the groups that they are worked for, of which `pairs` gives the names first and the figures last.
    """

    one: str
    other: str
    pairs: Plan
    each: str = ""
    """What the groups are, such as month or clinic; empty for rows."""
    in_time: bool = False
    """True where the groups are periods, one after the other."""


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
    steps: float | None = None
    """Of periods, the correlation of the changes from one to the next."""


def relation_of(study: Related, rows: Sequence[Sequence[Value]]) -> Relation | None:
    """The relation of two numbers by the rows of their plan; None where they are too few or one of them does not vary."""
    known = [
        (float(a), float(b), int(often))
        for a, b, often in ((*row[-2:], 1) if study.each else row[-3:] for row in _in_order(study, rows))
        if isinstance(a, (int, float, Decimal)) and isinstance(b, (int, float, Decimal)) and isinstance(often, int)
    ]
    told = np.array([(a, b) for a, b, _ in known]).reshape(-1, 2)
    pairs = np.repeat(told, [often for *_, often in known], axis=0)
    if len(pairs) < _LEAST or np.ptp(pairs[:, 0]) == 0 or np.ptp(pairs[:, 1]) == 0:
        return None
    x, y = pairs[:, 0], pairs[:, 1]
    found = scipy.stats.pearsonr(x, y)
    interval = found.confidence_interval(0.95)
    line = scipy.stats.linregress(x, y)
    drawn = np.random.default_rng(len(pairs)).permutation(len(pairs))[:_MOST_DRAWN]
    return Relation(
        len(pairs),
        float(found.statistic),
        float(interval.low),
        float(interval.high),
        float(found.pvalue),
        float(scipy.stats.spearmanr(x, y).statistic),
        float(line.slope),
        float(line.intercept),
        float(line.stderr),
        tuple((float(a), float(b)) for a, b in pairs[np.sort(drawn)]),
        _of_steps(pairs) if study.in_time else None,
    )


def _in_order(study: Related, rows: Sequence[Sequence[Value]]) -> Sequence[Sequence[Value]]:
    """The rows, periods one after the other."""
    if not study.in_time:
        return rows
    return sorted((row for row in rows if isinstance(row[0], dt.date)), key=lambda row: str(row[0]))


def _of_steps(pairs: npt.NDArray[np.float64]) -> float | None:
    steps = np.diff(pairs, axis=0)
    if len(steps) < _LEAST_STEPS or np.ptp(steps[:, 0]) == 0 or np.ptp(steps[:, 1]) == 0:
        return None
    return float(scipy.stats.pearsonr(steps[:, 0], steps[:, 1]).statistic)


def related_words(study: Related) -> str:
    """How the question was understood."""
    return f"the correlation of {study.one} and {study.other}{f' by {study.each}' if study.each else ''}"


def related_finding(study: Related, found: Relation | None) -> str:
    """How the two go together, how sure that is, and what the line through them says."""
    if found is None:
        these = f"{study.each}s" if study.each else "rows"
        return f"There are too few {these} with both {study.one} and {study.other} to say how they go together."
    number = f"correlation {_r(found.pearson)}, 95 times in 100 between {_r(found.low)} and {_r(found.high)}"
    if found.low <= 0 <= found.high and found.rows < _MANY:
        these = plural(found.rows, study.each) if study.each else plural(found.rows, "row")
        return f"Whether {study.one} and {study.other} go together cannot be told from {these} ({number})."
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
    more, slope = _readable(found.slope)
    line = f"; {more} of {study.one} {'goes' if more == 'one more' else 'go'} with {_signed(slope)} of {study.other}"
    tail = f"{line}, {way}" if size >= _STRENGTHS[0][1] else ""
    return f"{said} ({number}){tail}."


def _readable(slope: float) -> tuple[str, float]:
    """By how much more of the one a change of the other is told, so that it is no number of many noughts, and that change."""
    tens = 1
    while slope and abs(slope) * tens < _READABLE and tens < 10**9:
        tens *= 10
    return (f"{written(tens, ',')} more" if tens > 1 else "one more"), slope * tens


def _r(value: float) -> str:
    return written(value, ".2f").replace("-", "−")


def _signed(value: float) -> str:
    return f"{'−' if value < 0 else '+'}{_significant(abs(value), 3)}"


def _significant(value: float, digits: int) -> str:
    """A number with so many figures that count, written out."""
    rounded = float(f"{abs(value):.{digits}g}")
    text = written(rounded, ",.0f") if rounded >= 1000 else written(rounded, f".{digits}g")
    return f"−{text}" if value < 0 else text


def related_method(study: Related, found: Relation | None) -> tuple[str, ...]:
    """How it was worked out, and what else was."""
    if found is None:
        return ()
    these = plural(found.rows, study.each) if study.each else f"{written(found.rows, ',')} rows"
    chance = "less than 0.001" if found.chance < 0.001 else written(found.chance, ".3f")
    return (
        f"Pearson’s correlation of {these} with both; by chance alone as far from nought with p {chance}.",
        f"Spearman’s, which goes by ranks and is not pulled by extremes: {_r(found.spearman)}.",
        *(
            []
            if found.steps is None
            else [f"Of the changes from one {study.each} to the next it is {_r(found.steps)}."]
        ),
        f"The line: {_signed(found.slope)} (standard error {_significant(found.error, 3)}), from {_significant(found.intercept, 4)} at nought.",
        "That two things go together does not say that one is the cause of the other.",
    )


def related_checks(study: Related, found: Relation | None) -> tuple[Check, ...]:
    """Cautions about what the number does not tell by itself."""
    checks: list[Check] = []
    if found is not None and abs(found.pearson - found.spearman) >= _APART:
        detail = f"by ranks it is {_r(found.spearman)}, by values {_r(found.pearson)}"
        checks.append(Check("ranks and values", "caution", "It is no straight line, or extremes pull it", detail))
    if found is not None and found.steps is not None and abs(found.pearson) - abs(found.steps) > 2 * _APART:
        detail = f"of the changes from one {study.each} to the next it is {_r(found.steps)}"
        said = "Two figures that both rise or fall over the years go together by that alone"
        checks.append(Check("levels and changes", "caution", said, detail))
    return tuple(checks)


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
    dots = f"A dot for each {study.each}; " if study.each else ""
    drawn = (
        f"{written(len(rows), ',')} of {written(found.rows, ',')} rows are drawn; " if len(rows) < found.rows else ""
    )
    spec["title"] = caption(f"{dots}{drawn}dashed: the line of least squares.")
    return spec


def related_code(study: Related, found: Relation | None, python: str, script: Callable[[Plan], str]) -> str:
    """The script of the pairs with what is worked out of them behind it."""
    if found is None:
        return python
    if study.each:
        taken = "x, y = (answer.dropna().iloc[:, place].astype(float) for place in (-2, -1))"
    else:
        taken = """x, y, often = (answer.dropna().iloc[:, place].astype(float) for place in (-3, -2, -1))
x, y = x.repeat(often.astype(int)), y.repeat(often.astype(int))"""
    return (
        f"{script(study.pairs).rstrip()}\n\nfrom scipy import stats\n\n{taken}\n"
        + """print(stats.pearsonr(x, y), stats.pearsonr(x, y).confidence_interval())
print(stats.spearmanr(x, y))
print(stats.linregress(x, y))
"""
    )
