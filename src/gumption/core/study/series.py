"""Forecasting one series: several models, chosen by how well they would have told what came next.

Every model is held against the two naive ones, which say that it stays as it was, or as it was a season before. Errors
are of a rolling origin (Tashman 2000): each model is fitted to the beginning of the series, tells what comes next, and
is held against what came; then the beginning grows. Smoothing is fitted anew at every fourth beginning, and follows what
came in between, which is what it is for. Intervals come from these same errors, so that they hold the chosen
model to what it did, and not to what it assumes. Exponential smoothing is statsmodels' (Holt 1957, Winters 1960).
"""

from __future__ import annotations

import dataclasses
import math
import warnings
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import scipy
from numpy.typing import NDArray
from threadpoolctl import threadpool_limits

Floats = NDArray[np.float64]

LEAST = 8
"""Values that a series must have, whatever it is told by."""
MOST_ORIGINS = 12
_FITTED_EVERY = 4
"""Origins from one fit of a smoothing to the next."""
COVERAGE = 0.8
"""The share of times in which what comes is to lie within the interval."""
_CLEARLY = 0.98
"""What share of the better naive model's error a model may have at most, to be worth more than it."""


Rolling = Callable[[Floats, range, int, int, Floats], list[Floats]]
"""What follows a series after each of its first so many values, told for `steps` periods, with a season of `season`; the
working days of each period, of those that follow too, come last."""


@dataclass(frozen=True)
class Model:
    """A way to go on with a series: its name, whether it knows seasons, and how it is fitted in a script."""

    name: str
    told: str
    seasonal: bool
    forecast: Rolling
    smoothing: dict[str, Any] | None = None
    """What statsmodels' ExponentialSmoothing is told, of a model that is one."""


def _anew(once: Callable[[Floats, int, int, Floats], Floats]) -> Rolling:
    """A model that is fitted to each beginning by itself."""

    def told(y: Floats, origins: range, season: int, steps: int, days: Floats) -> list[Floats]:
        return [once(y[:origin], season, steps, days) for origin in origins]

    return told


def _last(y: Floats, season: int, steps: int, days: Floats) -> Floats:
    return np.full(steps, y[-1])


def _season_before(y: Floats, season: int, steps: int, days: Floats) -> Floats:
    return np.array([y[len(y) - season + i % season] for i in range(steps)])


@dataclass(frozen=True)
class _Smoothing:
    """Where exponential smoothing stands after a series, and by how much it follows what comes."""

    level: float
    trend: float
    seasons: tuple[float, ...]
    """What the periods of the season that comes are above the level."""
    of_level: float
    of_trend: float
    of_season: float
    damping: float

    @classmethod
    def fitted(cls, y: Floats, said: dict[str, Any]) -> _Smoothing:
        """Fitted to a series. Raises ValueError where it is too short."""
        from statsmodels.tsa.holtwinters import ExponentialSmoothing

        start = "heuristic" if len(y) >= 10 and ("trend" in said or "seasonal" in said) else "estimated"
        with warnings.catch_warnings():
            # A fit that did not settle shows in its errors.
            warnings.simplefilter("ignore")
            fitted = ExponentialSmoothing(y, initialization_method=start, **said).fit(use_brute=False)
        weights = fitted.params
        trend, seasonal = "trend" in said, "seasonal" in said
        return cls(
            fitted.level[-1],
            fitted.trend[-1] if trend else 0.0,
            tuple(fitted.season[-said["seasonal_periods"] :]) if seasonal else (0.0,),
            weights["smoothing_level"],
            weights["smoothing_trend"] if trend else 0.0,
            weights["smoothing_seasonal"] if seasonal else 0.0,
            weights["damping_trend"] if "damped_trend" in said else 1.0,
        )

    def told(self, steps: int) -> Floats:
        """What follows for so many periods."""
        trends = self.trend * np.cumsum(self.damping ** np.arange(1, steps + 1))
        return np.asarray(self.level + trends + np.resize(self.seasons, steps), dtype=np.float64)

    def after(self, value: float) -> _Smoothing:
        """Where it stands once a further value has come."""
        trend = self.damping * self.trend
        expected = self.level + trend
        first, *later = self.seasons
        level = self.of_level * (value - first) + (1 - self.of_level) * expected
        return dataclasses.replace(
            self,
            level=level,
            trend=self.of_trend * (level - self.level) + (1 - self.of_trend) * trend,
            seasons=(*later, self.of_season * (value - expected) + (1 - self.of_season) * first),
        )


def _smoothed(**said: Any) -> Rolling:
    def told(y: Floats, origins: range, season: int, steps: int, days: Floats) -> list[Floats]:
        model = said | ({"seasonal_periods": season} if "seasonal" in said else {})
        found: list[Floats] = []
        for place, origin in enumerate(origins):
            if place % _FITTED_EVERY == 0:
                state = _Smoothing.fitted(y[:origin], model)
            else:
                state = state.after(float(y[origin - 1]))
            found.append(state.told(steps))
        return found

    return told


def _regressed(y: Floats, season: int, steps: int, days: Floats) -> Floats:
    """A straight line, a level for each place in the season, and working days; the season is held towards none."""
    n = len(y)
    at = np.arange(n + steps)
    columns = [np.ones(n + steps), at / n]
    worked = days[: n + steps]
    if np.ptp(worked) > 0:
        columns.append((worked - worked.mean()) / worked.std())
    places = [(at % season == p).astype(np.float64) - 1 / season for p in range(season)] if season > 1 else []
    design = np.column_stack([*columns, *places])
    held = np.array([0.0] * 2 + [0.5] * (len(columns) - 2) + [0.5] * len(places))
    x = design[:n]
    weights = np.linalg.solve(x.T @ x + np.diag(held) + 1e-9 * np.eye(x.shape[1]), x.T @ y)
    return np.asarray(design[n:] @ weights, dtype=np.float64)


LAST = Model("last value", "stays as it was in the last period", False, _anew(_last))
SEASON_BEFORE = Model("season before", "comes as it did a year before", True, _anew(_season_before))
NAIVE = (LAST, SEASON_BEFORE)
_SAID: tuple[tuple[str, str, bool, dict[str, Any]], ...] = (
    ("smoothed level", "exponential smoothing of its level", False, {}),
    (
        "damped trend",
        "exponential smoothing with a trend that levels off",
        False,
        {"trend": "add", "damped_trend": True},
    ),
    ("level and season", "exponential smoothing of level and season", True, {"seasonal": "add"}),
    ("trend and season", "exponential smoothing with a trend and a season", True, {"trend": "add", "seasonal": "add"}),
    (
        "damped trend and season",
        "exponential smoothing with a trend that levels off and a season",
        True,
        {"trend": "add", "damped_trend": True, "seasonal": "add"},
    ),
)
MODELS = (
    *NAIVE,
    *(Model(name, told, seasonal, _smoothed(**said), said) for name, told, seasonal, said in _SAID),
    Model("regression", "a regression on trend, season and working days", True, _anew(_regressed)),
)


@dataclass(frozen=True)
class Tried:
    """A model and how it would have done: its mean absolute error, and its errors by origin and step."""

    model: Model
    error: float
    errors: Floats


@dataclass(frozen=True)
class Told:
    """What is to come by the model that did best, with the interval of each period, and how it did beside the naive ones."""

    values: Floats
    low: Floats
    high: Floats
    best: Tried
    naive: Tried
    """The better of the naive models."""
    tried: tuple[Tried, ...]

    @property
    def beats(self) -> bool:
        """True where it did better than saying that all stays as it was."""
        return self.best.error < _CLEARLY * self.naive.error

    @property
    def relative_error(self) -> float:
        return self.best.error / self.naive.error if self.naive.error else math.inf


def forecast(y: Sequence[float], season: int, steps: int, days: Sequence[float] | None = None) -> Told | None:
    """What follows a series for so many steps; None where it is too short to tell anything."""
    # So small a piece of work only waits for other threads.
    with threadpool_limits(1):
        return _forecast(np.asarray(y, dtype=np.float64), season, steps, days)


def _forecast(values: Floats, season: int, steps: int, days: Sequence[float] | None) -> Told | None:
    n = len(values)
    worked = np.asarray(days if days is not None else np.zeros(n + steps), dtype=np.float64)
    if n < LEAST:
        return None
    seasonal = season > 1 and n >= season + max(4, season // 3)
    ahead = max(1, min(steps, season if seasonal else 6, n // 4))
    first = season + 2 if seasonal else max(5, n // 2)
    first = max(first, n - MOST_ORIGINS)
    if seasonal and n >= 2 * season + 4:
        # From two whole seasons on all models can be tried.
        first = max(first, 2 * season)
    tried = [
        found
        for model in MODELS
        if (seasonal or not model.seasonal) and (found := _tried(model, values, season, ahead, first, worked))
    ]
    naive = min((t for t in tried if t.model in NAIVE), key=lambda t: t.error)
    best = min(tried, key=lambda t: t.error)
    [told] = best.model.forecast(values, range(n, n + 1), season, steps, worked)
    spread = _spread(best.errors, steps)
    origins = best.errors.shape[0]
    # Errors of origins next to each other tell much the same, and the model was chosen by them.
    reach = float(scipy.stats.t.ppf(0.5 + COVERAGE / 2, max(origins / 3, 2)))
    low, high = told - reach * spread, told + reach * spread
    if np.all(values >= 0):
        told, low, high = (np.maximum(x, 0.0) for x in (told, low, high))
    return Told(told, low, high, best, naive, tuple(sorted(tried, key=lambda t: t.error)))


def _tried(model: Model, y: Floats, season: int, ahead: int, first: int, days: Floats) -> Tried | None:
    """A model's errors from every origin on; None where it cannot be fitted."""
    n = len(y)
    if model.smoothing is not None and model.seasonal and first < 2 * season:
        return None
    try:
        told = model.forecast(y, range(first, n), season, ahead, days)
    except (ValueError, np.linalg.LinAlgError, ZeroDivisionError, FloatingPointError):
        return None
    if not np.all(np.isfinite(told)):
        return None
    rows = []
    for origin, expected in zip(range(first, n), told, strict=True):
        came = y[origin : origin + ahead]
        rows.append(np.concatenate([came - expected[: len(came)], np.full(ahead - len(came), np.nan)]))
    errors = np.array(rows)
    # Each step counts as much as any other, however few origins tell of it.
    return Tried(model, float(np.nanmean(np.abs(errors))), errors)


def _spread(errors: Floats, steps: int) -> Floats:
    """How far off each step is: a variance that grows by the step, fitted to the errors that there were."""
    ahead = errors.shape[1]
    squares = errors**2
    at = np.broadcast_to(np.arange(1, ahead + 1), errors.shape)
    known = ~np.isnan(squares)
    flat, grown = squares[known], at[known].astype(np.float64)
    slope = 0.0
    if ahead > 1 and np.ptp(grown) > 0:
        slope = max(float(np.polyfit(grown, flat, 1)[0]), 0.0)
    base = max(float(np.mean(flat)) - slope * float(np.mean(grown)), 0.25 * float(np.mean(flat)), 1e-12)
    return np.asarray(np.sqrt(base + slope * np.arange(1, steps + 1)), dtype=np.float64)
