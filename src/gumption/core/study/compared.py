"""Whether groups differ: how far apart they are, whether chance alone would give as much, and how much it explains.

Which test is taken is decided by a stated rule, and never by what it finds. For scores, numbers of few values and small
groups those that go by ranks: Mann-Whitney (1947) for two groups, Kruskal-Wallis (1952) for more. For other numbers
Welch's t (1947) and Welch's analysis of variance (1951), which do not take the groups to vary alike. For shares the
chi-squared test, or of two groups with few rows Fisher's exact one. How often something happened is held against the
same number for each group.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

import numpy as np
import scipy
from numpy.typing import NDArray

from gumption.core.checks.check import Check
from gumption.core.model.style import written
from gumption.core.model.types import Type, Value
from gumption.core.plan.fields import Field, Schema
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import set_apart
from gumption.core.present.marks import INK, PEN, Spec, caption, frame
from gumption.core.present.numbers import shown
from gumption.core.study.telling import amount

Floats = NDArray[np.float64]
ComparedKind = Literal["mean", "share", "count", "tied"]
SURE = 0.05
"""The chance up to which a difference is taken to be no accident."""
_ENOUGH = 30
"""Rows of each group from which on its mean is near to normal, whatever the rows are like."""
_EXPECTED = 5.0
"""What a cell must be expected to hold for chi-squared to be near enough."""
_SIZES = (("negligible", 0.01), ("small", 0.06), ("medium", 0.14))
"""Shares explained up to which an effect is called so; above them it is large (Cohen 1988)."""
_SIZES_OF_COUNTS = (("negligible", 0.01), ("small", 0.09), ("medium", 0.25))
"""The same of shares and numbers of rows, by the square of Cramér's V or Cohen's w."""
_FIFTH = 5
"""One in so many pairs may be expected fewer times than that (Cochran 1954)."""
_MOST_DRAWN = 24
_SMALLEST = 2


@dataclass(frozen=True)
class Compared:
    """A figure held against itself from group to group.

    The plan's rows are a group each, with how many rows it has, its mean, deviation and median; or of shares with how
    many rows met the condition, and of how many. `detail` gives how often each value of a group occurs, or its rows.
    Of `tied` the plan's rows are a pair of kinds each, with how many rows are of both.
    """

    kind: ComparedKind
    figure: str
    groups: str
    """What the groups are: clinic."""
    ranked: bool
    """True where the test goes by ranks whatever the groups are like."""
    detail: Plan | None = None


@dataclass(frozen=True)
class Group:
    """One group: its name, how many rows it has, and its figure with what that varies by."""

    name: str
    rows: float
    figure: float
    deviation: float = 0.0
    met: float = 0.0
    pair: tuple[str, str] = ("", "")
    """Of two columns of kinds, the kind of each."""
    expected: float = 0.0
    """How many rows there would be of both if the one said nothing of the other."""


@dataclass(frozen=True)
class Test:
    """A test and what it found: its statistic, the chance of as much by accident, and the share that is explained."""

    name: str
    statistic: float
    chance: float
    explained: float
    reason: str
    interval: tuple[float, float] | None = None
    """Of two groups where their difference lies, 95 times in 100."""

    @property
    def is_sure(self) -> bool:
        return self.chance <= SURE


def groups_of(study: Compared, schema: Schema, columns: Sequence[str], rows: Sequence[Sequence[Value]]) -> list[Group]:
    """The plan's rows as groups, those without a row or a name left out, the highest first."""
    numbers = {"mean": 4, "share": 3, "count": 1, "tied": 1}[study.kind]
    found = []
    for row in rows:
        labels, figures = row[: len(columns) - numbers], [_float(v) for v in row[-numbers:]]
        if any(v is None for v in labels) or figures[0] is None or not figures[0]:
            continue
        name = ", ".join(shown(v, schema[n]) for v, n in zip(labels, columns, strict=False))
        match study.kind:
            case "mean":
                if figures[1] is not None:
                    found.append(Group(name, figures[0], figures[1], figures[2] or 0.0))
            case "share":
                met, whole = figures[0] or 0.0, figures[1] or 0.0
                found.append(Group(name, whole, 100 * met / whole if whole else 0.0, met=met))
            case "count":
                found.append(Group(name, figures[0], figures[0]))
            case "tied":
                one, other = (shown(v, schema[n]) for v, n in zip(labels, columns, strict=False))
                found.append(Group(name, figures[0], figures[0], pair=(one, other)))
    if study.kind == "tied":
        return _against_chance(found)
    return sorted(found, key=lambda g: -g.figure)


def _against_chance(found: Sequence[Group]) -> list[Group]:
    """Pairs of kinds with how many rows were to be expected of both, the furthest above it first."""
    whole = math.fsum(g.rows for g in found)
    ones, others = (_sums(found, place) for place in (0, 1))
    held = (replace(g, expected=ones[g.pair[0]] * others[g.pair[1]] / whole) for g in found)
    return sorted(held, key=lambda g: (g.expected - g.rows) / math.sqrt(g.expected))


def _sums(found: Sequence[Group], place: int) -> dict[str, float]:
    sums: dict[str, float] = {}
    for group in found:
        sums[group.pair[place]] = sums.get(group.pair[place], 0.0) + group.rows
    return sums


def _float(value: Value) -> float | None:
    return float(value) if isinstance(value, (int, float, Decimal)) else None


# --- tests


def test_of(study: Compared, groups: Sequence[Group], detail: Sequence[Sequence[Value]] | None) -> Test | None:
    """The test that the rule takes, worked; None where there are fewer than two groups to hold against each other."""
    if len(groups) < 2:
        return None
    match study.kind:
        case "count":
            return _of_counts([g.rows for g in groups])
        case "tied":
            return _of_pairs(groups)
        case "share":
            return _of_shares(np.array([[g.met, g.rows - g.met] for g in groups]))
        case "mean":
            small = any(g.rows < _ENOUGH for g in groups)
            if detail is not None and (study.ranked or small):
                table = _table({g.name for g in groups}, detail)
                if table is not None:
                    why = "scores and numbers of few values go by ranks" if study.ranked else "small groups go by ranks"
                    return by_ranks(table, why)
            if any(g.rows < _SMALLEST for g in groups):
                return None
            return by_means(groups)


def _of_counts(counts: Sequence[float]) -> Test:
    found = scipy.stats.chisquare(counts)
    whole = math.fsum(counts)
    size = float(found.statistic) / (whole * max(len(counts) - 1, 1)) if whole else 0.0
    return Test(
        "chi-squared",
        float(found.statistic),
        float(found.pvalue),
        size,
        "numbers of rows are held against the same for each",
    )


def _of_pairs(groups: Sequence[Group]) -> Test | None:
    """Two columns of kinds counted together, held against what there would be if the one said nothing of the other."""
    ones, others = (sorted({g.pair[place] for g in groups}) for place in (0, 1))
    smaller = min(len(ones), len(others)) - 1
    if smaller < 1:
        return None
    held = {g.pair: g.rows for g in groups}
    table = np.array([[held.get((a, b), 0.0) for b in others] for a in ones])
    chi = scipy.stats.chi2_contingency(table, correction=False)
    explained = float(chi.statistic) / float(table.sum()) / smaller
    return Test(
        "chi-squared", float(chi.statistic), float(chi.pvalue), explained, "two columns of kinds are counted together"
    )


def _of_shares(table: Floats) -> Test:
    """Rows that met a condition and that did not, a line a group."""
    expected = scipy.stats.contingency.expected_freq(table)
    interval = _between_shares(table) if len(table) == 2 else None
    if not np.all(table.sum(axis=0) > 0):
        return Test("chi-squared", 0.0, 1.0, 0.0, "all groups are alike")
    chi = scipy.stats.chi2_contingency(table, correction=False)
    explained = float(chi.statistic) / float(table.sum())
    if len(table) == 2 and np.min(expected) < _EXPECTED:
        exact = scipy.stats.fisher_exact(table)
        return Test(
            "Fisher’s exact test",
            float(exact.statistic),
            float(exact.pvalue),
            explained,
            "two groups with few rows",
            interval,
        )
    return Test("chi-squared", float(chi.statistic), float(chi.pvalue), explained, "shares of rows", interval)


def _between_shares(table: Floats) -> tuple[float, float]:
    """Where the difference of two shares lies, in points (Newcombe 1998, by Wilson's intervals)."""
    met, whole = table[:, 0], table.sum(axis=1)
    shares = met / whole
    z = float(scipy.stats.norm.ppf(0.975))
    middle = (met + z**2 / 2) / (whole + z**2)
    reach = z / (whole + z**2) * np.sqrt(met * (whole - met) / whole + z**2 / 4)
    low, high = middle - reach, middle + reach
    apart = shares[0] - shares[1]
    return (
        100 * float(apart - math.hypot(shares[0] - low[0], high[1] - shares[1])),
        100 * float(apart + math.hypot(high[0] - shares[0], shares[1] - low[1])),
    )


def by_means(groups: Sequence[Group]) -> Test:
    """Welch's t of two groups, his analysis of variance of more, from how many, how large and how varied they are."""
    n, mean, deviation = (np.array([getattr(g, k) for g in groups]) for k in ("rows", "figure", "deviation"))
    explained = _explained(n, mean, deviation)
    variance = deviation**2 / n
    if not np.all(variance > 0):
        same = bool(np.ptp(mean) == 0)
        return Test("none", 0.0, 1.0 if same else 0.0, explained, "within the groups nothing varies")
    if len(groups) == 2:
        found = scipy.stats.ttest_ind_from_stats(
            mean[0], deviation[0], n[0], mean[1], deviation[1], n[1], equal_var=False
        )
        freedom = variance.sum() ** 2 / (variance**2 / (n - 1)).sum()
        reach = float(scipy.stats.t.ppf(0.975, freedom)) * math.sqrt(variance.sum())
        apart = float(mean[0] - mean[1])
        return Test(
            "Welch’s t", float(found.statistic), float(found.pvalue), explained, "two groups of a number",
            (apart - reach, apart + reach),
        )  # fmt: skip
    k = len(groups)
    weight = 1 / variance
    overall = (weight * mean).sum() / weight.sum()
    between = (weight * (mean - overall) ** 2).sum() / (k - 1)
    lacking = ((1 - weight / weight.sum()) ** 2 / (n - 1)).sum()
    statistic = between / (1 + 2 * (k - 2) / (k**2 - 1) * lacking)
    freedom = (k**2 - 1) / (3 * lacking)
    chance = float(scipy.stats.f.sf(statistic, k - 1, freedom))
    return Test("Welch’s analysis of variance", float(statistic), chance, explained, "several groups of a number")


def _explained(n: Floats, mean: Floats, deviation: Floats) -> float:
    """The share of all variance that lies between the groups (eta squared)."""
    overall = (n * mean).sum() / n.sum()
    between = float((n * (mean - overall) ** 2).sum())
    within = float(((n - 1) * deviation**2).sum())
    return between / (between + within) if between + within > 0 else 0.0


def by_ranks(table: Floats, reason: str) -> Test:
    """Mann-Whitney of two groups, Kruskal-Wallis of more; how often each value, from the lowest, occurs in each group.

    Ties have their mean rank, and the variance is less for them.
    """
    of_value, of_group = table.sum(axis=0), table.sum(axis=1)
    whole = float(of_value.sum())
    rank = np.cumsum(of_value) - (of_value - 1) / 2
    sums = table @ rank
    ties = 1 - float((of_value**3 - of_value).sum()) / (whole**3 - whole) if whole > 1 else 0.0
    if ties <= 0:
        return Test("none", 0.0, 1.0, 0.0, "all values are the same")
    if len(table) == 2:
        one, other = of_group
        u = sums[0] - one * (one + 1) / 2
        spread = math.sqrt(one * other * (whole + 1) / 12 * ties)
        z = (abs(u - one * other / 2) - 0.5) / spread
        chance = min(1.0, 2 * float(scipy.stats.norm.sf(max(z, 0.0))))
        return Test("Mann-Whitney", float(u), chance, float(z**2 / whole), reason)
    statistic = (12 / (whole * (whole + 1)) * float((sums**2 / of_group).sum()) - 3 * (whole + 1)) / ties
    chance = float(scipy.stats.chi2.sf(statistic, len(table) - 1))
    explained = max(0.0, (statistic - len(table) + 1) / (whole - len(table))) if whole > len(table) else 0.0
    return Test("Kruskal-Wallis", statistic, chance, explained, reason)


def _table(names: set[str], detail: Sequence[Sequence[Value]]) -> Floats | None:
    """How often each value occurs in each group."""
    counts: dict[str, dict[float, float]] = {}
    for row in detail:
        labels, value, often = row[:-2], row[-2], row[-1]
        number = _float(value)
        name = ", ".join(shown(v) for v in labels)
        if number is None or name not in names:
            continue
        held = counts.setdefault(name, {})
        held[number] = held.get(number, 0.0) + (_float(often) or 0.0)
    values = sorted({v for held in counts.values() for v in held})
    if len(counts) < 2 or len(counts) < len(names):
        return None
    return np.array([[held.get(v, 0.0) for v in values] for held in counts.values()])


# --- what is said


def compared_words(study: Compared) -> str:
    """How a question was understood that asks whether groups differ."""
    if study.kind == "tied":
        return f"whether {study.groups} go together"
    return set_apart(f"whether {study.figure} differs by {study.groups}")


def compared_finding(study: Compared, groups: Sequence[Group], test: Test | None, field: Field) -> str:
    """How far apart the groups are, whether that is more than chance, and how much it explains."""
    figure = study.figure.removeprefix("the ")
    figure = figure[:1].upper() + figure[1:]
    if test is None:
        return f"{figure}: there are not two groups with enough rows to hold against each other."
    if study.kind == "tied":
        return _tied_finding(study, groups, test)
    high, low = groups[0], groups[-1]
    apart = f"{_told(high, study, field)} at {high.name} and {_told(low, study, field)} at {low.name}"
    far = _apart(high.figure - low.figure, study, field)
    within = ""
    if test.interval is not None:
        one, other = (_apart(abs(x), study, field) for x in sorted(test.interval, key=abs))
        within = f", likely between {one} and {other}" if test.interval[0] * test.interval[1] > 0 else ""
    if len(groups) > 2:
        apart = f"{_told(high, study, field)} at {high.name}, down to {_told(low, study, field)} at {low.name}"
    if not test.is_sure:
        return (
            f"{figure} does not clearly differ by {study.groups}: it is {apart}, {far} apart, and chance alone would "
            f"give as much {_times_in_100(test)} times in 100 ({test.name})."
        )
    size = size_of(test.explained, study.kind)
    explained = f"; {study.groups} explains {_percent(test.explained)} of how it varies" if study.kind == "mean" else ""
    return (
        f"{figure} differs by {study.groups}, a {size} difference: it is {apart}, {far} apart{within}. Chance alone would "
        f"hardly give as much ({test.name}, p {_at(test.chance)}){explained}."
    )


def _tied_finding(study: Compared, groups: Sequence[Group], test: Test) -> str:
    """How closely two columns of kinds go together, and the pair that is furthest above what chance would give."""
    named = study.groups[:1].upper() + study.groups[1:]
    if not test.is_sure:
        return (
            f"{named} show no clear tie: chance alone would give as much "
            f"{_times_in_100(test)} times in 100 ({test.name})."
        )
    most = groups[0]
    above = f"{most.pair[0]} with {most.pair[1]}: {written(round(most.rows))} where {written(round(most.expected))}"
    return (
        f"{named} go together, a {size_of(test.explained, study.kind)} tie (Cramér’s V {math.sqrt(test.explained):.2f}, "
        f"{test.name}, p {_at(test.chance)}). Furthest above chance is {above} were to be expected."
    )


def _times_in_100(test: Test) -> int:
    """How often chance alone would give as much, at least once."""
    return max(round(100 * test.chance), 1)


def size_of(explained: float, kind: ComparedKind = "mean") -> str:
    """What an effect is called that explains such a share."""
    sizes = _SIZES if kind == "mean" else _SIZES_OF_COUNTS
    return next((name for name, most in sizes if explained < most), "large")


def _told(group: Group, study: Compared, field: Field) -> str:
    match study.kind:
        case "share":
            return f"{written(group.figure, '.1f')}%"
        case "count" | "tied":
            return written(round(group.figure))
        case "mean":
            return amount(group.figure, field)


def _apart(size: float, study: Compared, field: Field) -> str:
    return f"{written(size, '.1f')} points" if study.kind == "share" else _told(Group("", 0, size), study, field)


def _percent(share: float) -> str:
    return "less than 0.1%" if share < 0.001 else f"{written(100 * share, '.1f')}%"


def _at(chance: float) -> str:
    return "< 0.001" if chance < 0.001 else f"= {written(chance, '.3f')}"


def compared_method(study: Compared, test: Test | None) -> tuple[str, ...]:
    if test is None:
        return ()
    return (
        f"Taken: {test.name}, as {test.reason}; what decides it is the kind of figure and how many rows there are, and not what is found.",
        "It takes the rows to be independent of each other; several rows of one person are not quite.",
        "A difference says nothing of its cause: what goes with the groups may be behind it.",
    )


def compared_checks(study: Compared, groups: Sequence[Group], test: Test | None) -> tuple[Check, ...]:
    found = []
    thin = [g for g in groups if study.kind == "tied" and g.expected < _EXPECTED]
    if len(thin) > len(groups) / _FIFTH:
        found.append(
            Check(
                "few rows",
                "caution",
                f"{len(thin)} of the pairs were to be expected fewer than 5 times",
                "the test is rough",
            )
        )
    few = [g for g in groups if g.rows < _ENOUGH]
    if few and study.kind not in ("count", "tied"):
        found.append(Check("small groups", "caution", f"{few[-1].name} has only {round(few[-1].rows)} rows", ""))
    if test is not None and len(groups) > 2 and test.is_sure and study.kind != "tied":
        found.append(
            Check(
                "highest and lowest",
                "caution",
                "The highest and the lowest of several groups always look far apart",
                "the test is of all groups together",
            )
        )
    return tuple(found)


def compared_chart(study: Compared, groups: Sequence[Group], field: Field) -> Spec | None:
    """Each group's figure as a dot with the interval in which it lies 95 times in 100."""
    if len(groups) < 2 or len(groups) > _MOST_DRAWN or study.kind in ("count", "tied"):
        return None
    rows: list[Spec] = []
    for group in groups:
        low, high = _interval(group, study)
        rows.append(
            {"group": group.name, "value": group.figure, "low": low, "high": high, "text": _told(group, study, field)}
        )
    y: Spec = {
        "field": "group",
        "type": "nominal",
        "sort": None,
        "axis": {"title": None, "ticks": False, "domain": False},
    }
    title = study.figure.removeprefix("the ")
    x: Spec = {
        "field": "value",
        "type": "quantitative",
        "axis": {"title": title},
        "scale": {"zero": False, "nice": True},
    }
    tooltip = [{"field": "group", "title": study.groups}, {"field": "text", "title": title}]
    layers: list[Spec] = [
        {"mark": {"type": "rule", "color": PEN, "strokeWidth": 1.5},
         "encoding": {"y": y, "x": {**x, "field": "low"}, "x2": {"field": "high"}}},
        {"mark": {"type": "point", "filled": True, "size": 70, "color": PEN},
         "encoding": {"y": y, "x": x, "tooltip": tooltip}},
        {"mark": {"type": "text", "dy": -9, "fontSize": 11, "color": INK},
         "encoding": {"y": y, "x": x, "text": {"field": "text"}}},
    ]  # fmt: skip
    spec = frame(layers, rows, {"step": 30})
    spec["title"] = caption("A line is where the figure of a group lies 95 times in 100.")
    return spec


def _interval(group: Group, study: Compared) -> tuple[float, float]:
    if study.kind == "share":
        found = scipy.stats.binomtest(round(group.met), max(round(group.rows), 1)).proportion_ci(method="wilson")
        return 100 * float(found.low), 100 * float(found.high)
    reach = float(scipy.stats.t.ppf(0.975, max(group.rows - 1, 1))) * group.deviation / math.sqrt(max(group.rows, 1))
    return group.figure - reach, group.figure + reach


def compared_code(study: Compared, test: Test | None, python: str, script: Callable[[Plan], str]) -> str:
    """The script of the groups, or of what the test goes by, with the test behind it."""
    if test is None or test.name == "none":
        return python
    lines = ["", "from scipy import stats", ""]
    match test.name:
        case "Mann-Whitney" | "Kruskal-Wallis" if study.detail is not None:
            python = script(study.detail)
            worked = (
                "mannwhitneyu(*samples, method='asymptotic')" if test.name == "Mann-Whitney" else "kruskal(*samples)"
            )
            lines += [
                "often, value, group = answer.columns[-1], answer.columns[-2], list(answer.columns[:-2])",
                "known = answer.dropna(subset=[value, *group])",
                "rows = known.loc[known.index.repeat(known[often])]",
                "samples = [part[value].astype(float) for _, part in rows.groupby(group)]",
                f"print(stats.{worked})",
            ]
        case "Welch’s t":
            lines += [
                "n, mean, deviation = (answer.dropna().iloc[:, place].astype(float) for place in (-4, -3, -2))",
                "one, other = zip(mean, deviation, n)",
                "print(stats.ttest_ind_from_stats(*one, *other, equal_var=False))",
            ]
        case "Welch’s analysis of variance":
            lines += [
                "from statsmodels.stats.oneway import anova_generic",
                "",
                "n, mean, deviation = (answer.dropna().iloc[:, place].astype(float) for place in (-4, -3, -2))",
                "print(anova_generic(mean, deviation ** 2, n, use_var='unequal').pvalue)",
            ]
        case _ if study.kind == "share":
            worked = (
                "fisher_exact(table)" if test.name.startswith("Fisher") else "chi2_contingency(table, correction=False)"
            )
            lines += [
                "met, whole = answer.iloc[:, -3].astype(int), answer.iloc[:, -2].astype(int)",
                "table = list(zip(met, whole - met))",
                f"print(stats.{worked}.pvalue)",
            ]
        case _ if study.kind == "tied":
            lines += [
                "pairs = answer.dropna()",
                "table = pairs.pivot_table(index=pairs.columns[0], columns=pairs.columns[1], values=pairs.columns[2], aggfunc='sum').fillna(0)",
                "print(stats.chi2_contingency(table.astype(int), correction=False))",
            ]
        case _:
            lines += ["print(stats.chisquare(answer.dropna().iloc[:, -1].astype(int)))"]
    return python.rstrip("\n") + "\n" + "\n".join(lines) + "\n"


def figure_field(study: Compared, schema: Schema, columns: Sequence[str]) -> Field:
    """How the figure of a group is written."""
    return schema[columns[-3]] if study.kind == "mean" else Field(Type.FLOAT, schema[columns[-1]].role)
