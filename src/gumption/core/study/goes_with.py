"""What goes with a figure or a condition: which columns tell most of it, and how well all of them do on rows not seen.

A tree of few leaves (Breiman 1984) and a linear model (of conditions a logistic one), both scikit-learn's, are fitted to
the earlier rows and held against the latest ones; the better one is told, beside the guess that knows no column. What a
column brings is what the model loses without it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from gumption.core.checks.check import Check
from gumption.core.model.style import written
from gumption.core.model.types import Role, Type, Value
from gumption.core.plan.fields import Field, Schema
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import listed, set_apart
from gumption.core.present.marks import INK, PEN, Spec, caption, frame
from gumption.core.present.numbers import shown
from gumption.core.study.telling import amount

Floats = NDArray[np.float64]
_LEAST_ROWS = 30
"""Rows of a value from which on it may be the highest or the lowest."""
_LEAST_HELD = 100
_TREE = {"max_depth": 4, "min_weight_fraction_leaf": 0.02, "random_state": 0}
_RIDGE_PULL, _LOGISTIC_ROUNDS = 5.0, 300
"""What the models are fitted with, here and in the script."""
_SUSPICIOUS = 0.97
"""How well columns may tell a condition before one of them must be thought a part of it."""
_FIFTHS = ("the lowest fifth", "the second fifth", "the middle fifth", "the fourth fifth", "the highest fifth")


@dataclass(frozen=True)
class Column:
    """A column that may go with it; `in_fifths` where its numbers stand in five groups of as many rows, or in halves."""

    name: str
    in_fifths: bool = False
    middle: float | None = None
    """What parts the halves."""


@dataclass(frozen=True)
class GoesWith:
    """A figure or condition, the columns that may go with it, and the plan of their combinations.

    Columns of that plan: one a column, whether the rows are of the latest, then how many rows and how many met the
    condition; or of a number how many, their mean and deviation.
    """

    kind: Literal["mean", "share"]
    figure: str
    rows: str
    columns: tuple[Column, ...]
    combinations: Plan
    timed: bool
    """True where the rows that are held back are the latest."""


@dataclass(frozen=True)
class Part:
    """What a column tells: the share that it explains by itself, what is lost without it, and its ends."""

    column: Column
    explained: float
    lost: float
    high: tuple[str, float]
    low: tuple[str, float]


@dataclass(frozen=True)
class Found:
    """The parts, the largest first, and how well all of them tell what was held back."""

    parts: tuple[Part, ...]
    skill: float
    """Of a condition the chance that a row that met it is ranked before one that did not; of a number the share explained."""
    model: str
    right: float
    trivial: float
    """Of a condition the share told rightly, and by always saying the commoner."""
    held: float
    """Rows that were held back."""
    after: tuple[str, ...] = ()
    """Columns that were left out, as they are told of what met the condition alone."""


@dataclass(frozen=True)
class _Data:
    columns: tuple[Column, ...]
    codes: NDArray[np.int64]
    names: list[list[str]]
    late: NDArray[np.bool_]
    weight: Floats
    y: Floats
    spread: Floats
    """Within a combination, the sum of squares around its mean."""


def found_in(study: GoesWith, rows: Sequence[Sequence[Value]]) -> Found | None:
    """What goes with it, by the combinations of the columns; None where there is too little to hold back."""
    data = _data(study, rows)
    if data is None:
        return None
    # Where all that met the condition are alike in a column, this is told of them afterwards, and tells nothing before.
    after = [i for i in range(len(study.columns)) if study.kind == "share" and _is_told_after(data, i)]
    shown = [i for i in range(len(study.columns)) if i not in after]
    if not shown:
        return None
    design = _design(data, shown)
    train, test = ~data.late, data.late
    if data.weight[test].sum() < _LEAST_HELD or data.weight[train].sum() < _LEAST_HELD or np.ptp(data.y) == 0:
        return None
    skill, model, right = max((_skill(study, data, design, name) for name in ("tree", "linear")), key=lambda s: s[0])
    parts = []
    for place in shown:
        column = study.columns[place]
        without = [i for i in shown if i != place]
        less = _skill(study, data, _design(data, without), model)[0] if without else _no_skill(study)
        parts.append(Part(column, _alone(data, place), max(0.0, skill - less), *_ends(data, place)))
    # A column of which the rows that are known have one value tells nothing.
    ordered = sorted((p for p in parts if p.high[0] != p.low[0]), key=lambda p: -(p.lost + p.explained))
    common = float(np.average(data.y[train], weights=data.weight[train]))
    told = np.average(data.y[test], weights=data.weight[test])
    trivial = float(told if common > 0.5 else 1 - told) if study.kind == "share" else 0.0
    return Found(
        tuple(ordered),
        skill,
        model,
        right,
        trivial,
        float(data.weight[test].sum()),
        tuple(study.columns[i].name for i in after),
    )


def _data(study: GoesWith, rows: Sequence[Sequence[Value]]) -> _Data | None:
    size = len(study.columns)
    kept = []
    for row in rows:
        n, figures = _float(row[size + 1]), [_float(v) for v in row[size + 2 :]]
        if n and figures[0] is not None:
            kept.append((row[:size], bool(row[size]), n, figures))
    if len(kept) < 2:
        return None
    names: list[list[str]] = []
    codes = np.zeros((len(kept), size), dtype=np.int64)
    for place, column in enumerate(study.columns):
        known: dict[str, int] = {}
        for i, (labels, *_) in enumerate(kept):
            codes[i, place] = known.setdefault(_called(labels[place], column), len(known))
        names.append(list(known))
    weight = np.array([n for _, _, n, _ in kept])
    late = np.array([at for _, at, _, _ in kept])
    if not study.timed:
        # Without a time every fifth combination is held back.
        late = np.arange(len(kept)) % 5 == 0
    first = np.array([f[0] for *_, f in kept])
    if study.kind == "share":
        y = first / weight
        spread = weight * y * (1 - y)
    else:
        y = first
        spread = (weight - 1) * np.square(np.array([f[1] or 0.0 for *_, f in kept]))
    return _Data(study.columns, codes, names, late, weight, y, spread)


def _float(value: Value) -> float | None:
    return float(value) if isinstance(value, (int, float, Decimal)) else None


def _called(value: Value, column: Column) -> str:
    if column.in_fifths and isinstance(value, int) and not isinstance(value, bool) and 1 <= value <= len(_FIFTHS):
        return _FIFTHS[value - 1]
    if column.middle is not None and isinstance(value, (int, float, Decimal)):
        return "the lower half" if float(value) < column.middle else "the upper half"
    return shown(value)


def _design(data: _Data, places: Sequence[int]) -> Floats:
    """A column of noughts and ones for each value of some columns."""
    return np.column_stack([np.eye(len(data.names[p]))[data.codes[:, p]] for p in places])


def _skill(study: GoesWith, data: _Data, design: Floats, name: str) -> tuple[float, str, float]:
    """How well a model tells the rows held back, its name, and the share that it tells rightly of a condition."""
    from sklearn.linear_model import LogisticRegression, Ridge
    from sklearn.tree import DecisionTreeRegressor

    train, test = ~data.late, data.late
    if name == "tree":
        model = DecisionTreeRegressor(**_TREE)
        told = model.fit(design[train], data.y[train], sample_weight=data.weight[train]).predict(design[test])
    elif study.kind == "mean":
        told = (
            Ridge(alpha=_RIDGE_PULL)
            .fit(design[train], data.y[train], sample_weight=data.weight[train])
            .predict(design[test])
        )
    else:
        both = np.vstack([design[train], design[train]])
        met = np.concatenate([np.ones(train.sum()), np.zeros(train.sum())])
        weights = np.concatenate([data.weight[train] * data.y[train], data.weight[train] * (1 - data.y[train])])
        fitted = LogisticRegression(max_iter=_LOGISTIC_ROUNDS).fit(both, met, sample_weight=weights)
        told = fitted.predict_proba(design[test])[:, 1]
    y, weight = data.y[test], data.weight[test]
    if study.kind == "share":
        return (
            _ranked(told, y * weight, (1 - y) * weight),
            name,
            float(np.average(np.where(told > 0.5, y, 1 - y), weights=weight)),
        )
    common = np.average(data.y[train], weights=data.weight[train])
    within = data.spread[test].sum()
    rest, whole = (weight * (y - told) ** 2).sum() + within, (weight * (y - common) ** 2).sum() + within
    return (float(1 - rest / whole) if whole > 0 else 0.0), name, 0.0


def _is_told_after(data: _Data, place: int) -> bool:
    """True for a column in which all that met the condition have one value, and others have several."""
    weight, mean = _by_value(data, place)
    met = (mean * weight) > 0
    return int(met.sum()) == 1 and len(weight) > 2


def _ranked(told: Floats, met: Floats, other: Floats) -> float:
    """The chance that a row that met the condition is told to be likelier than one that did not; ties count half."""
    order = np.argsort(told, kind="stable")
    told, met, other = told[order], met[order], other[order]
    _, start = np.unique(told, return_index=True)
    met, other = np.add.reduceat(met, start), np.add.reduceat(other, start)
    before = np.cumsum(other) - other
    whole = met.sum() * other.sum()
    return float((met * (before + other / 2)).sum() / whole) if whole > 0 else 0.5


def _no_skill(study: GoesWith) -> float:
    return 0.5 if study.kind == "share" else 0.0


def _by_value(data: _Data, place: int) -> tuple[Floats, Floats]:
    """The weight and mean of each value of a column."""
    size = len(data.names[place])
    weight = np.zeros(size)
    total = np.zeros(size)
    np.add.at(weight, data.codes[:, place], data.weight)
    np.add.at(total, data.codes[:, place], data.weight * data.y)
    return weight, total / np.maximum(weight, 1e-12)


def _alone(data: _Data, place: int) -> float:
    """The share of all variance that a column explains by itself (eta squared)."""
    weight, mean = _by_value(data, place)
    overall = float(np.average(data.y, weights=data.weight))
    whole = float((data.weight * (data.y - overall) ** 2).sum() + data.spread.sum())
    return float((weight * (mean - overall) ** 2).sum()) / whole if whole > 0 else 0.0


def _ends(data: _Data, place: int) -> tuple[tuple[str, float], tuple[str, float]]:
    """The values with the highest and the lowest mean, of those with enough rows."""
    weight, mean = _by_value(data, place)
    known = [i for i in range(len(mean)) if weight[i] >= _LEAST_ROWS] or list(range(len(mean)))
    high, low = max(known, key=lambda i: mean[i]), min(known, key=lambda i: mean[i])
    names = data.names[place]
    return (names[high], float(mean[high])), (names[low], float(mean[low]))


# --- what is said


def goes_with_words(study: GoesWith) -> str:
    """How a question was understood that asks what goes with something."""
    return set_apart(f"what goes with {study.figure}")


def _told(value: float, study: GoesWith, field: Field) -> str:
    return f"{written(100 * value, '.1f')}%" if study.kind == "share" else amount(value, field)


def _how_well(study: GoesWith, found: Found) -> str:
    bounds = (0.55, 0.65, 0.8) if study.kind == "share" else (0.02, 0.1, 0.3)
    words = ("hardly better than a guess", "a little", "fairly well", "well")
    return words[sum(found.skill >= b for b in bounds)]


def goes_with_finding(study: GoesWith, found: Found | None, field: Field) -> str:
    """Which columns tell most, and how well all of them together tell rows that were held back."""
    figure = set_apart(study.figure.removeprefix("the ")[:1].upper() + study.figure.removeprefix("the ")[1:])
    if found is None or not found.parts:
        return f"{figure}: there are too few rows, or too few columns beside it, to say what goes with it."
    first = found.parts[0]
    held = "the latest fifth" if study.timed else "a fifth held back"
    if study.kind == "share":
        how = f"they rank {held} {_how_well(study, found)} ({written(found.skill, '.2f')}, where 0.50 is a guess and 1 is certain)"
    else:
        how = f"of {held} they tell {_how_well(study, found)} ({_percent(found.skill)} of how it varies)"
    by = (
        f"{figure} goes most with {first.column.name}: {_told(first.high[1], study, field)} for {first.high[0]}, "
        f"{_told(first.low[1], study, field)} for {first.low[0]}"
    )
    others = [p.column.name for p in found.parts[1:3] if p.explained >= 0.25 * first.explained and p.explained > 0.001]
    more = f", then with {listed(others)}" if others else ""
    return f"{by}{more}. All {len(found.parts)} columns together: {how}."


def _percent(share: float) -> str:
    return f"{written(100 * max(share, 0.0), '.1f')}%"


def goes_with_method(study: GoesWith, found: Found | None) -> tuple[str, ...]:
    if found is None:
        return ()
    model = (
        "a tree of at most four levels"
        if found.model == "tree"
        else "a linear model"
        if study.kind == "mean"
        else "a logistic model"
    )
    held = "the latest fifth of the time" if study.timed else "every fifth combination"
    told = [
        f"A tree and a linear model were fitted to all but {held} ({round(found.held):,} rows held back); the better was {model}.",
        "What a column brings is what that model loses without it; what it explains alone is its share of the variance.",
        "That something goes with it does not make it a cause: both may come of a third thing.",
    ]
    if study.kind == "share":
        right, trivial = _percent(found.right), _percent(found.trivial)
        told.insert(1, f"It told {right} of the rows held back rightly; always saying the commoner, {trivial}.")
    return tuple(told)


def goes_with_checks(study: GoesWith, found: Found | None) -> tuple[Check, ...]:
    if found is None:
        return ()
    checks = [Check("no cause", "caution", "What goes with it is not what causes it")]
    if found.after:
        told = listed(list(found.after))
        checks.append(Check("told afterwards", "caution", f"Left out, as all that met it are alike there: {told}"))
    if study.kind == "share" and found.skill >= _SUSPICIOUS:
        name = found.parts[0].column.name
        checks.append(
            Check(
                "too good",
                "caution",
                f"{set_apart(name[:1].upper() + name[1:])} may only be known once it has happened",
            )
        )
    return tuple(checks)


def goes_with_table(
    study: GoesWith, found: Found, field: Field
) -> tuple[Schema, tuple[str, ...], list[tuple[Value, ...]]]:
    """A row a column: what it explains alone, what it brings, and its highest and lowest values."""
    text, share = Field(Type.TEXT, Role.TEXT), Field(Type.FLOAT, Role.PERCENTAGE)
    told = share if study.kind == "share" else Field(Type.FLOAT, field.role, field.scale, field.unit)
    schema: Schema = {
        "column": text, "explains_alone": share, "brings": share, "highest": text, "highest_figure": told,
        "lowest": text, "lowest_figure": told,
    }  # fmt: skip
    rows: list[tuple[Value, ...]] = [
        (p.column.name, p.explained, p.lost, p.high[0], p.high[1], p.low[0], p.low[1]) for p in found.parts
    ]
    return schema, tuple(schema), rows


def goes_with_chart(study: GoesWith, found: Found, field: Field) -> Spec | None:
    """From the lowest to the highest value of each column, on one scale."""
    if len(found.parts) < 1:
        return None
    scale = 100.0 if study.kind == "share" else 1.0
    rows: list[Spec] = []
    for part in found.parts:
        rows.append(
            {
                "column": part.column.name, "low": scale * part.low[1], "high": scale * part.high[1],
                "low_text": part.low[0], "high_text": part.high[0],
                "text": f"{_told(part.low[1], study, field)} to {_told(part.high[1], study, field)}",
            }
        )  # fmt: skip
    if not all(math.isfinite(r["low"]) and math.isfinite(r["high"]) for r in rows):
        return None
    y: Spec = {
        "field": "column",
        "type": "nominal",
        "sort": None,
        "axis": {"title": None, "ticks": False, "domain": False},
    }
    title = study.figure.removeprefix("the ") + (" (%)" if study.kind == "share" else "")
    x: Spec = {
        "field": "low",
        "type": "quantitative",
        "axis": {"title": title},
        "scale": {"zero": False, "nice": True, "padding": 115},
    }
    tooltip = [{"field": "column", "title": "Column"}, {"field": "text", "title": "From, to"}]
    text: Spec = {"type": "text", "fontSize": 11, "color": INK, "limit": 150}
    layers: list[Spec] = [
        {"mark": {"type": "rule", "color": PEN, "strokeWidth": 5, "opacity": 0.35},
         "encoding": {"y": y, "x": x, "x2": {"field": "high"}, "tooltip": tooltip}},
        {"mark": {"type": "point", "filled": True, "size": 50, "color": PEN}, "encoding": {"y": y, "x": x}},
        {"mark": {"type": "point", "filled": True, "size": 50, "color": PEN}, "encoding": {"y": y, "x": {**x, "field": "high"}}},
        {"mark": {**text, "align": "right", "dx": -8}, "encoding": {"y": y, "x": x, "text": {"field": "low_text"}}},
        {"mark": {**text, "align": "left", "dx": 8}, "encoding": {"y": y, "x": {**x, "field": "high"}, "text": {"field": "high_text"}}},
    ]  # fmt: skip
    spec = frame(layers, rows, {"step": 30})
    spec["title"] = caption("Each column from its lowest to its highest value.")
    return spec


def goes_with_code(study: GoesWith, found: Found | None, python: str, script: Callable[[Plan], str]) -> str:
    """The script of the combinations, with the model that was taken fitted and held against the rows held back."""
    if found is None:
        return python
    size = len(study.columns)
    shown = [i for i, c in enumerate(study.columns) if c.name not in found.after]
    halves = {i: study.columns[i].middle for i in shown if study.columns[i].middle is not None}
    halved = "".join(
        f"kinds.isetitem({shown.index(i)}, told.iloc[:, {i}].astype(float) < {middle})\n"
        for i, middle in halves.items()
    )
    late = f"told.iloc[:, {size}].astype(bool).to_numpy()" if study.timed else "np.arange(len(told)) % 5 == 0"
    linear = f"from sklearn.linear_model import {'Ridge' if study.kind == 'mean' else 'LogisticRegression'}"
    imports = linear if found.model == "linear" else "from sklearn.tree import DecisionTreeRegressor"
    if study.kind == "share":
        imports += "\nfrom sklearn.metrics import roc_auc_score"
    tree = f"DecisionTreeRegressor({', '.join(f'{name}={value}' for name, value in _TREE.items())})"
    # The combinations are many, and nobody reads them.
    combined = "\n".join(line for line in script(study.combinations).splitlines() if not line.startswith("print("))
    begun = f"""{combined.rstrip()}

import numpy as np
{imports}

told = answer[(answer.iloc[:, {size + 1}] > 0) & answer.iloc[:, {size + 2}].notna()]
kinds = told.iloc[:, {shown}].astype(object)
{halved}design = pd.get_dummies(kinds.fillna('missing').astype(str)).astype(float).to_numpy()
rows = told.iloc[:, {size + 1}].astype(float).to_numpy()
late = {late}
"""
    if study.kind == "mean":
        model = f"Ridge(alpha={_RIDGE_PULL})" if found.model == "linear" else tree
        return f"""{begun}y = told.iloc[:, {size + 2}].astype(float).to_numpy()
within = ((rows - 1) * told.iloc[:, {size + 3}].astype(float).fillna(0).to_numpy() ** 2)[late].sum()
model = {model}.fit(design[~late], y[~late], sample_weight=rows[~late])
rest = (rows * (y - model.predict(design)) ** 2)[late].sum() + within
whole = (rows * (y - np.average(y[~late], weights=rows[~late])) ** 2)[late].sum() + within
print(1 - rest / whole)
"""
    if found.model == "linear":
        fitted = f"""both = np.vstack([design[~late], design[~late]])
is_met = np.concatenate([np.ones((~late).sum()), np.zeros((~late).sum())])
weights = np.concatenate([met[~late], (rows - met)[~late]])
model = LogisticRegression(max_iter={_LOGISTIC_ROUNDS}).fit(both, is_met, sample_weight=weights)
ranked = model.predict_proba(design[late])[:, 1]"""
    else:
        fitted = f"""model = {tree}.fit(design[~late], (met / rows)[~late], sample_weight=rows[~late])
ranked = model.predict(design[late])"""
    return f"""{begun}met = told.iloc[:, {size + 2}].astype(float).to_numpy()
{fitted}
is_met = np.concatenate([np.ones(late.sum()), np.zeros(late.sum())])
weights = np.concatenate([met[late], (rows - met)[late]])
print(roc_auc_score(is_met, np.concatenate([ranked, ranked]), sample_weight=weights))
"""
