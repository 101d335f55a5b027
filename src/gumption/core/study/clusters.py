"""Groups that form themselves: things that are alike in some numbers, how many groups there are, and what sets each apart.

K-means (MacQueen 1967, scikit-learn's) on numbers that were brought to one scale, skewed ones by their logarithm. How many
groups is decided by the silhouette (Rousseeuw 1987): how much nearer each thing lies to its own group than to the next.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

import numpy as np
from numpy.typing import NDArray
from threadpoolctl import threadpool_limits

from gumption.core.checks.check import Check
from gumption.core.model.names import plural, singular
from gumption.core.model.style import written
from gumption.core.model.types import Role, Type, Value
from gumption.core.plan.fields import Field, Schema
from gumption.core.plan.words import listed
from gumption.core.present.marks import SERIES, Spec, caption, frame
from gumption.core.study.telling import amount

Floats = NDArray[np.float64]
MOST_GROUPS = 6
LEAST_THINGS = 20
CLEAR = 0.08
"""How much better the silhouette must be than that of one cloud of the same shape, cut in the same way."""
_SAMPLE, _DRAWN = 2_000, 600
FITTED = 40_000
"""Things, drawn by chance, by which the middles of groups are found; more of them move none."""
_SKEWED = 1.0
_SETS_APART = 0.35
"""Deviations from the mean of all from which on a group is set apart by a number."""
_MOST_TOLD = 2


@dataclass(frozen=True)
class Feature:
    """A number by which things are alike or not."""

    name: str
    field: Field
    none_is_nought: bool = False
    """True for what is counted or added up, of which a thing without rows has none."""


@dataclass(frozen=True)
class Clusters:
    """Things to be put into groups; the last columns of the plan are the features."""

    things: str
    features: tuple[Feature, ...]


@dataclass(frozen=True)
class Group:
    """A group: how many things, their mean of each feature, and how far that lies from all, in deviations."""

    size: int
    means: Floats
    far: Floats


@dataclass(frozen=True)
class Grouped:
    """The groups, the largest first, how clear they are, and each thing's group."""

    groups: tuple[Group, ...]
    silhouette: float
    cloud: float
    """The silhouette of one cloud of the same shape, cut into as many."""
    tried: tuple[tuple[int, float], ...]
    values: Floats
    member: NDArray[np.int64]
    overall: Floats

    @property
    def is_clear(self) -> bool:
        return self.silhouette >= self.cloud + CLEAR


def grouped(study: Clusters, rows: Sequence[Sequence[Value]]) -> Grouped | None:
    """The things of a plan's rows in groups; None where they are too few, or alike in everything."""
    size = len(study.features)
    cells = np.array(
        [[float(v) if isinstance(v, (int, float, Decimal)) else math.nan for v in row[-size:]] for row in rows]
    ).reshape(-1, size)
    if len(cells) < LEAST_THINGS:
        return None
    for i, feature in enumerate(study.features):
        if feature.none_is_nought:
            cells[:, i] = np.nan_to_num(cells[:, i])
    middle = np.nanmedian(np.where(np.isnan(cells).all(axis=0), 0.0, cells), axis=0)
    values = np.where(np.isnan(cells), middle, cells)
    scaled = np.column_stack([_scaled(values[:, i]) for i in range(size)])
    if not np.any(scaled):
        return None
    with threadpool_limits(1):
        (member, silhouette), tried = _best(scaled)
        cloud = _cut_cloud(scaled, int(member.max()) + 1)
    order = np.argsort(-np.bincount(member))
    place = np.empty_like(order)
    place[order] = np.arange(len(order))
    member = place[member]
    overall, deviation = values.mean(axis=0), np.where(values.std(axis=0) > 0, values.std(axis=0), 1.0)
    groups = []
    for g in range(len(order)):
        mean = values[member == g].mean(axis=0)
        groups.append(Group(int((member == g).sum()), mean, (mean - overall) / deviation))
    return Grouped(tuple(groups), silhouette, cloud, tried, values, member, overall)


def _scaled(column: Floats) -> Floats:
    """A number with mean nought and deviation one, of a skewed one its logarithm; a constant is nought."""
    if np.ptp(column) == 0:
        return np.zeros(len(column))
    centred = column - column.mean()
    skew = float((centred**3).mean() / max(column.std(), 1e-12) ** 3)
    told = np.log1p(column) if skew > _SKEWED and column.min() >= 0 else column
    return np.asarray((told - told.mean()) / (told.std() or 1.0), dtype=np.float64)


def _best(scaled: Floats) -> tuple[tuple[NDArray[np.int64], float], tuple[tuple[int, float], ...]]:
    """The number of groups with the best silhouette, and what each came to."""
    from sklearn.cluster import KMeans
    from sklearn.metrics import silhouette_score

    drawn = np.random.default_rng(0).permutation(len(scaled))
    sample, fitted = drawn[:_SAMPLE], scaled if len(scaled) <= FITTED else scaled[drawn[:FITTED]]
    tried: list[tuple[int, float]] = []
    best: tuple[NDArray[np.int64], float] | None = None
    for k in range(2, min(MOST_GROUPS, len(scaled) // 5) + 1):
        member = KMeans(k, n_init=5, random_state=0).fit(fitted).predict(scaled).astype(np.int64)
        if len(set(member[sample])) < 2:
            continue
        silhouette = float(silhouette_score(scaled[sample], member[sample]))
        tried.append((k, silhouette))
        if best is None or silhouette > best[1]:
            best = (member, silhouette)
    assert best is not None
    return best, tuple(tried)


def _cut_cloud(scaled: Floats, k: int) -> float:
    """The silhouette of one normal cloud with the same spread in every direction, cut into as many groups."""
    from sklearn.cluster import KMeans
    from sklearn.metrics import silhouette_score

    chance = np.random.default_rng(0)
    spread = np.atleast_2d(np.cov(scaled, rowvar=False))
    cloud = chance.multivariate_normal(np.zeros(scaled.shape[1]), spread, min(len(scaled), _SAMPLE))
    member = KMeans(k, n_init=5, random_state=0).fit_predict(cloud)
    return float(silhouette_score(cloud, member)) if len(set(member)) > 1 else 0.0


# --- what is said


def clusters_words(study: Clusters) -> str:
    return f"groups of {study.things} that are alike in {listed([f.name for f in study.features])}"


def clusters_finding(study: Clusters, found: Grouped | None) -> str:
    """How many groups there are, and what sets the first of them apart."""
    if found is None:
        return f"There are too few {study.things}, or they are all alike, to be put into groups."
    told = [f"{group.size:,} with {_apart(group, study, found)}" for group in found.groups[:3]]
    more = f", and {plural(len(found.groups) - 3, 'more')}".replace("mores", "more") if len(found.groups) > 3 else ""
    name = f"{study.things[:1].upper()}{study.things[1:]}"
    if not found.is_clear:
        return f"{name} do not fall into groups by themselves: they are one cloud. Cut into {len(found.groups)} there are {listed(told)}{more}."
    return f"{name} fall into {len(found.groups)} groups: {listed(told)}{more}."


def _apart(group: Group, study: Clusters, found: Grouped) -> str:
    """What sets a group apart: its mean beside that of all."""
    return " and ".join(
        f"{way} {feature.name} ({_number(group.means[i], feature)}, of all {_number(found.overall[i], feature)})"
        for way, feature, i in _told_apart(group, study)
    )


def _told_apart(group: Group, study: Clusters) -> list[tuple[str, Feature, int]]:
    """Of what a group has more or less than all, what lies farthest first."""
    order = np.argsort(-np.abs(group.far))
    told = [int(i) for i in order if abs(group.far[i]) >= _SETS_APART][:_MOST_TOLD] or [int(order[0])]
    parts = []
    for i in told:
        feature = study.features[i]
        counted = feature.field.type is Type.INTEGER and feature.name.endswith("s")
        parts.append(("more" if group.far[i] > 0 else "fewer" if counted else "less", feature, i))
    return parts


def _number(value: float, feature: Feature) -> str:
    field = feature.field if feature.field.role is Role.MONEY else Field(Type.FLOAT, feature.field.role)
    return amount(float(value), field)


def clusters_method(study: Clusters, found: Grouped | None) -> tuple[str, ...]:
    if found is None:
        return ()
    tried = ", ".join(f"{k}: {written(s, '.2f')}" for k, s in found.tried)
    return (
        "K-means on the numbers brought to one scale, skewed ones by their logarithm; gaps are taken as the median.",
        f"How many groups: the best silhouette of those tried ({tried}); one cloud of the same shape, cut so, has {written(found.cloud, '.2f')}.",
        "Groups are a way to look at things; others would come of other numbers.",
    )


def clusters_checks(found: Grouped | None) -> tuple[Check, ...]:
    if found is None:
        return ()
    smallest = min(g.size for g in found.groups)
    if smallest < 0.02 * len(found.member):
        return (Check("small group", "caution", f"One group has only {smallest:,}"),)
    return ()


def clusters_table(study: Clusters, found: Grouped) -> tuple[Schema, tuple[str, ...], list[tuple[Value, ...]]]:
    """A row a group: how many, what share, and the mean of each feature."""
    schema: Schema = {
        "group": Field(Type.INTEGER, Role.CATEGORY),
        "number": Field(Type.INTEGER, Role.QUANTITY),
        "share": Field(Type.FLOAT, Role.PERCENTAGE),
    }
    for feature in study.features:
        name = feature.name if feature.name.startswith("average ") else f"average {feature.name}"
        schema[name] = Field(Type.FLOAT, feature.field.role, 0, feature.field.unit)
    rows: list[tuple[Value, ...]] = [
        (place, group.size, group.size / len(found.member), *(float(v) for v in group.means))
        for place, group in enumerate(found.groups, 1)
    ]
    return schema, tuple(schema), rows


def clusters_kept(study: Clusters) -> tuple[str, str]:
    """What the column of the groups is called, and a question that goes by it."""
    column = f"{singular(study.things)} group"
    return column, f"number of {study.things} by {column}"


def clusters_members(
    study: Clusters, found: Grouped, schema: Schema, columns: Sequence[str], rows: Sequence[Sequence[Value]]
) -> tuple[Schema, tuple[str, ...], list[tuple[Value, ...]]]:
    """The group of each thing beside its key, as a table."""
    key, column = columns[0], clusters_kept(study)[0].replace(" ", "_")
    names = [f"Group {i}: {_in_short(group, study)}" for i, group in enumerate(found.groups, 1)]
    told: Schema = {key: schema[key], column: Field(Type.TEXT, Role.CATEGORY)}
    members = zip(rows, found.member, strict=True)
    return told, (key, column), [(row[0], names[int(member)]) for row, member in members]


def _in_short(group: Group, study: Clusters) -> str:
    """What sets a group apart, without its numbers."""
    return " and ".join(f"{way} {feature.name}" for way, feature, _ in _told_apart(group, study))


def clusters_chart(study: Clusters, found: Grouped) -> Spec | None:
    """Things as dots over the two numbers that set groups apart most, a colour a group."""
    spread = np.array([g.far for g in found.groups])
    if spread.shape[1] < 2:
        return None
    one, other = (int(i) for i in np.argsort(-np.ptp(spread, axis=0))[:2])
    drawn = np.random.default_rng(1).permutation(len(found.member))[:_DRAWN]
    rows: list[Spec] = [
        {"x": float(found.values[i, one]), "y": float(found.values[i, other]), "group": f"Group {found.member[i] + 1}"}
        for i in drawn
    ]

    def axis(name: str, place: int) -> Spec:
        skewed = bool(found.values[:, place].min() >= 0 and np.ptp(found.values[:, place]) > 0)
        column = found.values[:, place]
        log = skewed and float(((column - column.mean()) ** 3).mean() / max(column.std(), 1e-12) ** 3) > _SKEWED
        scale: Spec = {"type": "symlog", "nice": True} if log else {"zero": False, "nice": True}
        feature = study.features[place]
        # Of what is counted there are no halves.
        ticks: Spec = {"tickMinStep": 1, "format": ",d"} if feature.field.type is Type.INTEGER else {}
        return {"field": name, "type": "quantitative", "axis": {"title": feature.name} | ticks, "scale": scale}

    names = [f"Group {i + 1}" for i in range(len(found.groups))]
    colour: Spec = {"field": "group", "type": "nominal", "scale": {"domain": names, "range": SERIES[: len(names)]}}
    mark = {"type": "point", "filled": True, "size": 26, "opacity": 0.6}
    spec = frame(mark, rows, 280) | {"encoding": {"x": axis("x", one), "y": axis("y", other), "color": colour}}
    few = (
        f"{len(rows):,} of {len(found.member):,} are drawn"
        if len(rows) < len(found.member)
        else "Each dot is one of them"
    )
    spec["title"] = caption(f"{few}.")
    return spec


def clusters_code(study: Clusters, found: Grouped | None, python: str) -> str:
    """The script of the things with their groups behind it."""
    if found is None:
        return python
    fitted = "scaled"
    if len(found.member) > FITTED:
        fitted = f"scaled[np.random.default_rng(0).permutation(len(scaled))[:{FITTED}]]"
    noughts = [i - len(study.features) for i, f in enumerate(study.features) if f.none_is_nought]
    return (
        python.rstrip("\n")
        + f"""

import numpy as np
from sklearn.cluster import KMeans

told = answer.iloc[:, -{len(study.features)}:].astype(float)
for place in {noughts}:
    told.isetitem(told.shape[1] + place, told.iloc[:, place].fillna(0))
told = told.fillna(told.median())
skew = ((told - told.mean()) ** 3).mean() / told.std(ddof=0) ** 3
skewed = (skew > 1) & (told.min() >= 0)
scaled = told.where(~skewed, np.log1p(told))
scaled = ((scaled - scaled.mean()) / scaled.std(ddof=0)).fillna(0).to_numpy()
answer['group'] = KMeans({len(found.groups)}, n_init=5, random_state=0).fit({fitted}).predict(scaled)
print(answer.groupby('group').size().sort_values(ascending=False))
print(told.groupby(answer['group']).mean().round(2))
"""
    )
