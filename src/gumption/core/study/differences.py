"""What stands out beside time: values far from the rest, kinds that differ, gaps, repeats, slips, and who makes most of it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from decimal import Decimal

import numpy as np
import scipy
from rapidfuzz.distance import DamerauLevenshtein

from gumption.core.model.names import plural
from gumption.core.model.style import written
from gumption.core.model.types import Type, Value
from gumption.core.present.numbers import shown
from gumption.core.study.compared import Group, by_means, size_of
from gumption.core.study.look import (
    CorrelationProbe,
    Figure,
    GroupsProbe,
    Remark,
    RepeatProbe,
    ShareProbe,
    SpreadProbe,
    TieProbe,
)
from gumption.core.study.sparks import spark_bars
from gumption.core.study.telling import amount

_FAR = 9.0
"""Robust deviations from the middle from which on a value is far off."""
_ALONE = 0.6
"""How much further the farthest value must lie than all but one in a thousand, of the way to these."""
_LEAST_EXPLAINED = 0.02
_LEAST_CORRELATION = 0.3
_LEAST_ROWS = 20
_LEAST_TIE = 0.15
"""Cramér's V from which on two kinds go together."""
_LEAST_EXPECTED, _MOST_THIN = 5.0, 0.2
"""Pairs that are to be expected less often than that, and how many of all pairs may be (Cochran 1954)."""
_PART = 0.97
"""The share of rows from which on one kind tells the other."""
_LEAST_GAP = 0.1
"""Cramér's V from which on gaps are told by kinds."""
_MOST_REPEATED = 0.05
_RARE, _SELDOM = 0.01, 5
"""The share of all rows, and how seldom beside its twin, up to which a value may be a slip."""
_LEAST_LETTERS = 5
_LEAST_SHARE, _TOP = 0.5, 0.1
"""What share the top tenth must make to be told."""
PERCENTILES = (0.1, 25.0, 50.0, 75.0, 99.9)


def _float(value: Value) -> float:
    return float(value) if isinstance(value, (int, float, Decimal)) else math.nan


def _upper(text: str) -> str:
    return text[:1].upper() + text[1:]


def remarks_of_spread(probe: SpreadProbe, rows: Sequence[Sequence[Value]], called: str) -> tuple[list[Remark], int]:
    """Values so far from the rest that they may be slips; on a scale of powers where the rest is skewed."""
    found = []
    size = len(PERCENTILES) + 2
    for place, measure in enumerate(probe.measures):
        cells = [_float(v) for v in rows[0][place * size : (place + 1) * size]] if rows else []
        if len(cells) < size or any(math.isnan(c) for c in cells):
            continue
        low, least, q1, middle, q3, most, high = cells[0], *cells[1:-1], cells[-1]
        skewed = q3 - middle > 1.25 * (middle - q1) and low > 0
        for value, rest, way in ((high, most, "highest"), (low, least, "lowest")):
            # Towards nought powers have no end, and what lies there is seldom odd.
            scale = math.log if skewed and way == "highest" else float
            spread = (scale(q3) - scale(q1)) / 1.349
            if spread <= 0:
                continue
            far = abs(scale(value) - scale(middle)) / spread
            beyond = abs(scale(value) - scale(rest)) / max(abs(scale(rest) - scale(middle)), spread)
            if far < _FAR or beyond < _ALONE:
                continue
            end = "below" if way == "highest" else "above"
            told = f"The {way} {measure.name} is {_number(value, measure)}; 999 in 1,000 are {end} {_number(rest, measure)}"
            ends = "top" if way == "highest" else "bottom"
            question = f"{ends} 5 {called} by {measure.name}"
            bars = spark_bars(
                [middle, q3, rest, value] if way == "highest" else [value, rest, q1, middle],
                [3 if way == "highest" else 0],
            )
            found.append(Remark("outlier", told, question, 0.0, min(1.0, far / 40), f"{measure.name} {way}", bars))
    return found, 2 * len(probe.measures)


def _number(value: float, measure: Figure) -> str:
    if measure.field.type is Type.INTEGER:
        return f"{round(value):,}"
    return amount(value, measure.field)


def remarks_of_groups(probe: GroupsProbe, rows: Sequence[Sequence[Value]], called: str) -> tuple[list[Remark], int]:
    """Kinds that differ in a measure, kinds whose values are missing more often, and values that look mistyped."""
    found: list[Remark] = []
    known = [row for row in rows if row[0] is not None]
    counts = np.array([_float(row[1]) for row in known])
    names = [
        f"those with {probe.kind}: {shown(row[0])}" if isinstance(row[0], bool) else shown(row[0]) for row in known
    ]
    looked = 0
    if len(known) >= 2:
        for place, measure in enumerate(probe.measures):
            looked += 1
            remark = _differ(probe, known, names, 2 + 3 * place, measure)
            found += [remark] if remark is not None else []
        for gap, place in probe.gaps:
            looked += 1
            present = np.array([_float(row[place]) for row in known])
            remark = _gaps(probe, names, counts, present, gap, f"share of {called} without {gap} by {probe.kind}")
            found += [remark] if remark is not None else []
    if probe.own:
        found += _slips(probe, names, counts, called)
    return found, looked


def _differ(
    probe: GroupsProbe, rows: Sequence[Sequence[Value]], names: list[str], at: int, measure: Figure
) -> Remark | None:
    groups = [
        Group(name, n, mean, deviation)
        for name, row in zip(names, rows, strict=True)
        for n, mean, deviation in [tuple(_float(v) for v in row[at : at + 3])]
        if n >= _LEAST_ROWS and not math.isnan(mean) and not math.isnan(deviation) and deviation > 0
    ]
    if len(groups) < 2:
        return None
    test = by_means(groups)
    if test.explained < _LEAST_EXPLAINED or test.chance > 0.01:
        return None
    groups.sort(key=lambda g: -g.figure)
    high, low = groups[0], groups[-1]
    told = (
        f"{_upper(measure.name)} differs by {probe.kind} ({size_of(test.explained)}): "
        f"{amount(high.figure, measure.field)} for {high.name}, {amount(low.figure, measure.field)} for {low.name}"
    )
    question = f"average {measure.name} by {probe.kind}"
    chance = max(test.chance, 1e-300)
    return Remark(
        "difference", told, question, chance, min(1.0, test.explained * 2), measure.name,
        spark_bars([g.figure for g in groups[:20]], [0, len(groups[:20]) - 1]),
    )  # fmt: skip


def _gaps(
    probe: GroupsProbe, names: list[str], counts: np.ndarray, present: np.ndarray, column: str, question: str
) -> Remark | None:
    missing = counts - present
    share = missing.sum() / counts.sum() if counts.sum() else 0.0
    keep = counts >= _LEAST_ROWS
    if not 0.002 <= share <= 0.98 or keep.sum() < 2:
        return None
    table = np.column_stack([missing[keep], present[keep]])
    if not np.all(table.sum(axis=0) > 0):
        return None
    test = scipy.stats.chi2_contingency(table, correction=False)
    strength = math.sqrt(float(test.statistic) / table.sum())
    shares = missing / np.maximum(counts, 1)
    worst = int(np.argmax(np.where(keep, shares, -1)))
    rest = (missing.sum() - missing[worst]) / max(counts.sum() - counts[worst], 1)
    if strength < _LEAST_GAP or test.pvalue > 0.01:
        return None
    told = (
        f"{_upper(column)} is missing in {_percent(float(shares[worst]))} of {names[worst]}, "
        f"in {_percent(float(rest))} of all others"
    )
    chance = max(float(test.pvalue), 1e-300)
    return Remark("gaps", told, question, chance, min(1.0, strength), column, spark_bars(list(shares[:20]), [worst]))


def _percent(share: float) -> str:
    return f"{written(100 * share, '.1f' if 0 < share < 0.1 else '.0f')}%"


def _slips(probe: GroupsProbe, names: list[str], counts: np.ndarray, called: str) -> list[Remark]:
    """Seldom values that are a letter away from a frequent one: Milbeck beside Millbeck."""
    found = []
    whole = float(counts.sum())
    often = sorted(range(len(names)), key=lambda i: -counts[i])
    for i in range(len(names)):
        name = names[i]
        if counts[i] > max(_RARE * whole, 3) or len(name) < _LEAST_LETTERS or any(c.isdigit() for c in name):
            continue
        twin = next(
            (j for j in often if counts[j] >= _SELDOM * counts[i] and j != i and _is_near(name, names[j])), None
        )
        if twin is not None:
            told = f"{_upper(probe.kind)} {name} ({plural(round(float(counts[i])), 'row')}) may be meant as {names[twin]} ({round(float(counts[twin])):,})"
            question = f"{called} by {probe.kind}"
            found.append(
                Remark(
                    "mistyped",
                    told,
                    question,
                    0.0,
                    0.6,
                    f"{probe.kind} {name}",
                    spark_bars([float(counts[twin]), float(counts[i])], [1]),
                )
            )
    return found


def _is_near(one: str, other: str) -> bool:
    """A slip of one letter, or of case and spaces alone."""
    if one == other or any(c.isdigit() for c in other):
        return False
    if " ".join(one.lower().split()) == " ".join(other.lower().split()):
        return True
    return len(other) >= _LEAST_LETTERS and int(DamerauLevenshtein.distance(one.lower(), other.lower())) == 1


def remarks_of_correlations(probe: CorrelationProbe, rows: Sequence[Sequence[Value]]) -> tuple[list[Remark], int]:
    """Numbers that go together."""
    found = []
    cells = [_float(v) for v in rows[0]] if rows else []
    if not cells:
        return [], 0
    n = cells[0]
    for (one, other), r in zip(probe.pairs, cells[1:], strict=False):
        if math.isnan(r) or n < _LEAST_ROWS or abs(r) < _LEAST_CORRELATION:
            continue
        bounded = min(abs(r), 0.999999)
        chance = 2 * float(scipy.stats.norm.sf(math.atanh(bounded) * math.sqrt(max(n - 3, 1))))
        way = "go up together" if r > 0 else "go opposite ways"
        told = f"{_upper(one)} and {other} {way} (correlation {written(r, '.2f').replace('-', '−')})"
        question = f"correlation between {one} and {other}"
        found.append(Remark("together", told, question, max(chance, 1e-300), abs(r) / 2, f"{one} {other}"))
    return found, len(probe.pairs)


def remarks_of_ties(probe: TieProbe, rows: Sequence[Sequence[Value]]) -> tuple[list[Remark], int]:
    """Two kinds that go together: chi-squared, and Cramér's V without what chance alone gives it (Bergsma 2013).

    Where each of the one has nearly always the same of the other it is a part of it, and that is known.
    """
    found = [(row[0], row[1], _float(row[2])) for row in rows if row[0] is not None and row[1] is not None]
    ones, others = (list(dict.fromkeys(row[i] for row in found)) for i in (0, 1))
    if len(ones) < 2 or len(others) < 2:
        return [], 0
    table = np.zeros((len(ones), len(others)))
    for one, other, count in found:
        table[ones.index(one), others.index(other)] = count
    n = float(table.sum())
    expected = scipy.stats.contingency.expected_freq(table)
    if n < _LEAST_ROWS or (expected < _LEAST_EXPECTED).mean() > _MOST_THIN:
        return [], 1
    if max(table.max(axis=0).sum(), table.max(axis=1).sum()) > _PART * n:
        return [], 1
    squared = float(((table - expected) ** 2 / expected).sum())
    freedom = (len(ones) - 1) * (len(others) - 1)
    sides = [k - (k - 1) ** 2 / (n - 1) for k in table.shape]
    tie = math.sqrt(max(0.0, squared / n - freedom / (n - 1)) / (min(sides) - 1))
    if tie < _LEAST_TIE:
        return [], 1
    most = np.unravel_index(np.argmax((table - expected) / np.sqrt(expected)), table.shape)
    told = (
        f"{_upper(probe.one)} and {probe.other} go together (Cramér’s V {written(tie, '.2f')}): furthest above chance is "
        f"{shown(ones[most[0]])} with {shown(others[most[1]])}, {written(round(table[most]))} where "
        f"{written(round(expected[most]))} were to be expected"
    )
    chance = float(scipy.stats.chi2.sf(squared, freedom))
    question = f"is {probe.one} associated with {probe.other}"
    return [Remark("together", told, question, max(chance, 1e-300), tie, f"{probe.one} {probe.other}")], 1


def remarks_of_repeats(probe: RepeatProbe, rows: Sequence[Sequence[Value]], called: str) -> tuple[list[Remark], int]:
    """Rows that are there twice."""
    again, whole = (_float(v) for v in rows[0][:2]) if rows else (0.0, 0.0)
    if not whole or math.isnan(again) or not 0 < again <= _MOST_REPEATED * whole:
        return [], 1
    but = f" but their {probe.but_key}" if probe.but_key else ""
    one = again == 1
    told = f"{plural(round(again), 'row')} of {called} {'is' if one else 'are'} like another in everything{but}"
    return [Remark("repeated", told, f"duplicate {called}", 0.0, min(1.0, 0.4 + 10 * again / whole), "")], 1


def remarks_of_shares(probe: ShareProbe, rows: Sequence[Sequence[Value]], called: str) -> tuple[list[Remark], int]:
    """Few that make most of it."""
    found = []
    for place, figure in enumerate(probe.figures):
        values = sorted((_float(row[-len(probe.figures) + place]) for row in rows if row[0] is not None), reverse=True)
        values = [v for v in values if not math.isnan(v) and v > 0]
        if len(values) < 2 * _LEAST_ROWS:
            continue
        top = max(1, round(_TOP * len(values)))
        share = math.fsum(values[:top]) / math.fsum(values)
        if share < _LEAST_SHARE:
            continue
        told = (
            f"The top tenth of {probe.things} ({top:,} of {len(values):,}) make up {_percent(share)} of {figure.name}"
        )
        question = f"top {min(top, 20)} {probe.things} by {figure.name}"
        tenth = max(1, len(values) // 20)
        bars = [math.fsum(values[i : i + tenth]) for i in range(0, len(values), tenth)][:20]
        found.append(Remark("few make most", told, question, 0.0, share, probe.things, spark_bars(bars, [0, 1])))
    return found, len(probe.figures)
