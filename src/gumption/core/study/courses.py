"""What stands out in the course of figures over time: odd periods, shifts, trends, seasons, beginnings and ends.

A course is fitted by a straight line and a level for each place in the season, robustly (Tukey's biweight, by weighing
again and again), so that what is odd does not hide itself. A period is odd by its distance from that in robust
deviations; numbers of rows are taken to vary at least as chance events do (Poisson).
"""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

import numpy as np
import scipy
from numpy.typing import NDArray

from gumption.core.model.style import written
from gumption.core.model.types import Type, Value
from gumption.core.plan.words import MONTH_NAMES
from gumption.core.present.numbers import shown
from gumption.core.study.forecast import time_field
from gumption.core.study.look import Figure, Remark, SeriesProbe
from gumption.core.study.periods import SEASONS, begin_of, between, later
from gumption.core.study.sparks import spark_line
from gumption.core.study.telling import amount

Floats = NDArray[np.float64]
_LEAST = 12
"""Periods that a course must have."""
_VARIES = 1.5
"""How much rows are taken to vary beside what they come to on average, at least."""
_FAR = 4.0
"""Robust deviations from which on a period is odd."""
_LEAST_SHIFT, _LEAST_GROWTH, _LEAST_COURSE = 0.15, 0.05, 0.15
"""Shares of the level that a shift, a year's growth and the height of a season must have to be worth a word."""
_SEEN = 3
"""Periods of silence from which on something has begun or stopped."""
_USUAL_ROWS, _SOME_ROWS = 5.0, 10.0
_USUAL_ROWS_OF_MONEY = 30.0
"""Rows a period from which on the money, or the average, of a kind is followed."""
_MOST_KINDS = 40


@dataclass(frozen=True)
class _Course:
    figure: Figure
    kind: str
    """The value of the kind that it is of; empty for all rows."""
    begin: dt.date
    values: Floats
    rows: Floats
    """How many rows each period has."""
    varies: float
    """How rows vary around an average."""
    whole: Floats
    """What all rows of a period come to beside the usual: a kind is held against what all of them did."""

    @property
    def beside(self) -> Floats:
        """The values without what all rows did."""
        return self.values - self.whole if self.figure.kind == "mean" else self.values / self.whole

    def back(self, place: int, value: float) -> float:
        """A value of `beside` as one of the course."""
        return value + float(self.whole[place]) if self.figure.kind == "mean" else value * float(self.whole[place])


def remarks_of_series(probe: SeriesProbe, rows: Sequence[Sequence[Value]]) -> tuple[list[Remark], int]:
    """What stands out in the courses of a probe, and how many things were looked at."""
    found: list[Remark] = []
    looked = 0
    for course in _courses(probe, rows):
        for remark in _remarks(course, probe):
            looked += 1
            if remark is not None:
                found.append(remark)
    return found, looked


def _courses(probe: SeriesProbe, rows: Sequence[Sequence[Value]]) -> Iterator[_Course]:
    """Each figure of each kind from the first period of all to the last that is over; without rows it is 0, or as before."""
    at: dict[str, dict[dt.date, Sequence[Value]]] = {}
    size = len(probe.figures)
    for row in rows:
        first = row[0]
        if isinstance(first, int) and not isinstance(first, bool) and 1 <= first <= 9998:
            first = dt.date(first, 1, 1)
        if isinstance(first, dt.datetime):
            first = first.date()
        if not isinstance(first, dt.date) or first > probe.last:
            continue
        kind = "" if probe.kind is None else "missing" if row[1] is None else shown(row[1])
        at.setdefault(kind, {})[begin_of(first, probe.step)] = row[-size:]
    if not at or len(at) > _MOST_KINDS:
        return
    begin = min(p for periods in at.values() for p in periods)
    periods = [later(begin, probe.step, i) for i in range(between(begin, probe.last, probe.step) + 1)]
    if len(periods) < _LEAST:
        return
    whole = _all_rows(probe, at, periods)
    for kind, known in at.items():
        if kind == "missing":
            continue
        counts = np.array([_float(known[p][0]) if p in known else 0.0 for p in periods])
        for place, figure in enumerate(probe.figures):
            if figure.hidden or (kind and figure.kind != "count" and float(np.mean(counts)) < _USUAL_ROWS_OF_MONEY):
                continue
            values = _values(figure, [known[p][place] if p in known else None for p in periods])
            if values is not None:
                plain = np.zeros(len(periods)) if figure.kind == "mean" else np.ones(len(periods))
                varies = 0.0
                if figure.kind == "mean":
                    spreads = [_float(known[p][place + 1]) for p in periods if p in known]
                    varies = float(np.sqrt(np.mean(np.square(spreads)))) if spreads else 0.0
                yield _Course(figure, kind, begin, values, counts, varies, whole[place] if kind else plain)


def _float(value: Value) -> float:
    return float(value) if isinstance(value, (int, float, Decimal)) else 0.0


def _values(figure: Figure, cells: Sequence[Value]) -> Floats | None:
    """A figure in every period; None for an average of which many periods have none."""
    numbers = [float(c) if isinstance(c, (int, float, Decimal)) else None for c in cells]
    if figure.kind != "mean":
        return np.array([0.0 if n is None else n for n in numbers])
    if sum(n is None for n in numbers) > len(numbers) // 4:
        return None
    usual = float(np.median([n for n in numbers if n is not None]))
    return np.array([usual if n is None else n for n in numbers])


def _all_rows(
    probe: SeriesProbe, at: dict[str, dict[dt.date, Sequence[Value]]], periods: list[dt.date]
) -> list[Floats]:
    """What all kinds together did in each period: of sums and counts beside the mean, of averages less the mean."""
    found = []
    for place, figure in enumerate(probe.figures):
        together = np.zeros(len(periods))
        weight = np.zeros(len(periods))
        for known in at.values():
            rows = np.array([_float(known[p][0]) if p in known else 0.0 for p in periods])
            cells = np.array([_float(known[p][place]) if p in known else 0.0 for p in periods])
            together += cells * rows if figure.kind == "mean" else cells
            weight += rows
        if figure.kind == "mean":
            means = together / np.maximum(weight, 1.0)
            found.append(means - float(np.mean(means)))
        else:
            usual = float(np.mean(together))
            found.append(np.maximum(together / usual, 0.05) if usual > 0 else np.ones(len(periods)))
    return found


@dataclass(frozen=True)
class _Fit:
    fitted: Floats
    deviation: float
    freedom: int


def _design(n: int, season: int, *columns: Floats) -> Floats:
    at = np.arange(n)
    found = [np.ones(n), *columns]
    if season > 1 and n >= 2 * season:
        found += [(at % season == p).astype(np.float64) - (at % season == season - 1) for p in range(season - 1)]
    return np.column_stack(found)


def _robust(y: Floats, design: Floats) -> _Fit:
    """A fit that what is far off has no say in."""
    weight = np.ones(len(y))
    fitted = np.full(len(y), np.median(y))
    for _ in range(8):
        w = np.sqrt(weight)
        solved, *_ = np.linalg.lstsq(design * w[:, None], y * w, rcond=None)
        fitted = design @ solved
        off = np.abs(y - fitted)
        scale = 1.4826 * float(np.median(off)) or 1e-12
        weight = np.where(off < 4.685 * scale, (1 - (off / (4.685 * scale)) ** 2) ** 2, 1e-6)
    freedom = max(len(y) - design.shape[1], 3)
    # The median of what is left of a fit with many terms is too small.
    return _Fit(fitted, scale * math.sqrt(len(y) / freedom), freedom)


def _remarks(course: _Course, probe: SeriesProbe) -> Iterator[Remark | None]:
    y, season = course.beside, SEASONS[probe.step]
    n = len(y)
    # A kind is held against what all did, their season too; one of its own is seen in three of them only.
    season = season if n >= (3 if course.kind else 2) * season else 1
    if course.figure.kind == "count" and course.kind:
        edge = _edges(course, probe)
        if edge is not None:
            yield edge
            return
    if not np.any(y) or np.ptp(y) == 0 or (course.figure.kind != "mean" and np.count_nonzero(y) < 0.9 * n):
        return
    at = (np.arange(n) - n / 2) / n
    fit = _robust(y, _design(n, season, at))
    yield _odd_period(course, probe, fit)
    level, shift, growth = _steady(course, probe, season, at, fit)
    yield shift
    yield growth
    if season > 1 and not course.kind:
        yield _season(course, probe, season, at, level)


def _edges(course: _Course, probe: SeriesProbe) -> Remark | None:
    """A kind that begins late, or stops before the others do."""
    seen = np.nonzero(course.values)[0]
    if len(seen) < _SEEN or float(np.mean(course.values[seen[0] : seen[-1] + 1])) < _USUAL_ROWS:
        return None
    first, last = int(seen[0]), int(seen[-1])
    n = len(course.values)
    spark = spark_line(list(course.values), [first if first >= _SEEN else last])
    if first >= _SEEN and last >= n - _SEEN:
        words = f"{course.kind} begins in {_name(course, probe, first)}: there is none before"
        return Remark("begins", words, _question(course, probe), 0.0, 0.5, course.kind, spark)
    if last < n - _SEEN:
        words = f"{course.kind} stops after {_name(course, probe, last)}: there is none since"
        return Remark("stops", words, _question(course, probe), 0.0, 0.8, course.kind, spark)
    return None


def _odd_period(course: _Course, probe: SeriesProbe, fit: _Fit) -> Remark | None:
    y = course.beside
    usual = float(np.mean(np.abs(y)))
    rows = np.maximum(course.rows, 1.0)
    match course.figure.kind:
        case "count":
            scale = np.maximum(fit.deviation, np.sqrt(np.maximum(fit.fitted, 1.0)))
        case "sum":
            # What a row comes to varies too: with some rows, their sum varies by its root.
            each = float(np.sum(course.values)) / float(rows.sum())
            scale = np.maximum(fit.deviation, _VARIES * abs(each) * np.sqrt(max(float(np.mean(rows)), 1.0)))
        case "mean":
            scale = np.maximum(
                fit.deviation * np.sqrt(np.maximum(float(np.mean(rows)) / rows, 1.0)), course.varies / np.sqrt(rows)
            )
    scale = np.maximum(scale, 1e-9 + 0.005 * usual)
    far = (y - fit.fitted) / scale
    place = int(np.argmax(np.abs(far)))
    if abs(far[place]) < _FAR:
        return None
    chance = min(1.0, 2 * float(scipy.stats.t.sf(abs(far[place]), fit.freedom)) * len(y))
    if (
        course.figure.kind == "count"
        and max(float(course.values[place]), course.back(place, float(fit.fitted[place]))) < _SOME_ROWS
    ):
        return None
    value, expected = float(course.values[place]), course.back(place, float(fit.fitted[place]))
    size = abs(value - expected) / max(abs(expected), float(np.mean(np.abs(course.values))), 1e-9)
    if min(course.values) >= 0:
        expected = max(expected, 0.0)
    about = f"where about {_number(expected, course)} was to be expected"
    only = "only " if value < expected else ""
    when = _name(course, probe, place)
    told = f"{_what(course)} in {when}: {only}{_number(value, course)}, {about}"
    if value == 0 and course.figure.kind == "count":
        told = f"No {course.figure.name}{_of(course)} in {when}, {about}"
    fitted = [course.back(i, float(v)) for i, v in enumerate(fit.fitted)]
    same = (
        f"{course.kind or 'all'} {place}"
        if course.figure.kind != "mean"
        else f"{course.figure.name} {course.kind} {place}"
    )
    spark = spark_line(list(course.values), [place], fitted)
    return Remark("odd period", told, _question(course, probe), chance, float(size), same, spark)


def _steady(
    course: _Course, probe: SeriesProbe, season: int, at: Floats, fit: _Fit
) -> tuple[Floats, Remark | None, Remark | None]:
    """What lies under the season: a shift from one period on, or a trend; the course without what was odd in it too."""
    n = len(course.values)
    odd = np.abs(course.beside - fit.fitted) > _FAR * max(fit.deviation, 1e-12)
    y = np.where(odd, fit.fitted, course.beside)
    usual = float(np.mean(np.abs(y))) or 1.0
    plain = _rest(y, _design(n, season))
    sloped = _rest(y, _design(n, season, at))
    splits = range(max(4, n // 8), n - max(4, n // 8))
    stepped = {k: _rest(y, _design(n, season, (np.arange(n) >= k).astype(np.float64))) for k in splits}
    if not stepped:
        return y, None, None
    best = min(stepped, key=lambda k: stepped[k])
    freedom = n - _design(n, season).shape[1] - 1
    if freedom < 4:
        return y, None, None
    off = y - _design(n, season, at) @ np.linalg.lstsq(_design(n, season, at), y, rcond=None)[0]
    # Neighbours that go together tell less than as many that do not.
    alike = max(0.0, float(np.corrcoef(off[:-1], off[1:])[0, 1])) if np.ptp(off) > 0 else 0.0
    fewer = (1 - alike) / (1 + alike)

    def chance_of(rest: float, tried: int) -> float:
        if rest <= 0 or plain <= rest:
            return 1.0
        found = (plain - rest) / (rest / freedom) * fewer
        return min(1.0, float(scipy.stats.f.sf(found, 1, max(freedom * fewer, 3))) * tried)

    if stepped[best] < 0.8 * sloped:
        solved = np.linalg.lstsq(_design(n, season, (np.arange(n) >= best).astype(np.float64)), y, rcond=None)[0]
        step = float(solved[1])
        chance = chance_of(stepped[best], len(stepped))
        if abs(step) / usual >= _LEAST_SHIFT and chance < 1e-3:
            went = _verb(course, "fall" if step < 0 else "rise")
            beside = " beside all others" if course.kind else ""
            told = f"{_what(course)} {went}{beside} by about {_number(abs(step), course)} from {_name(course, probe, best)} on, and stays there"
            remark = Remark(
                "shift",
                told,
                _question(course, probe),
                chance,
                abs(step) / usual,
                course.kind,
                spark_line(list(course.values), [best]),
            )
            return y, remark, None
    slope = float(np.linalg.lstsq(_design(n, season, at), y, rcond=None)[0][1])
    a_year = slope * SEASONS[probe.step] / n / usual if SEASONS[probe.step] > 1 else slope / n / usual
    chance = chance_of(sloped, 1)
    if abs(a_year) >= _LEAST_GROWTH and chance < 1e-3:
        went = _verb(course, "fall" if slope < 0 else "grow")
        unit = "week" if probe.step == "day" else "year"
        beside = " beside all others" if course.kind else ""
        told = f"{_what(course)} {went}{beside} by about {abs(a_year) * 100:.0f}% a {unit}"
        return (
            y,
            None,
            Remark(
                "trend",
                told,
                _question(course, probe),
                chance,
                min(abs(a_year), 1.0),
                course.kind,
                spark_line(list(course.values)),
            ),
        )
    return y, None, None


def _rest(y: Floats, design: Floats) -> float:
    solved, *_ = np.linalg.lstsq(design, y, rcond=None)
    return float(((y - design @ solved) ** 2).sum())


def _season(course: _Course, probe: SeriesProbe, season: int, at: Floats, y: Floats) -> Remark | None:
    """A course that comes round: its highest and lowest place, of months and quarters by their names."""
    n = len(y)
    bare = _rest(y, np.column_stack([np.ones(n), at]))
    whole = _design(n, season, at)
    rest = _rest(y, whole)
    freedom = n - whole.shape[1]
    if freedom < 3 or rest <= 0:
        return None
    found = (bare - rest) / (season - 1) / (rest / freedom)
    chance = float(scipy.stats.f.sf(found, season - 1, freedom))
    solved = np.linalg.lstsq(whole, y, rcond=None)[0]
    places = np.append(solved[2:], -solved[2:].sum())
    usual = float(np.mean(np.abs(y))) or 1.0
    high, low = int(np.argmax(places)), int(np.argmin(places))
    if (places[high] - places[low]) / usual < _LEAST_COURSE or chance > 1e-3:
        return None

    def called(place: int) -> str:
        first = later(course.begin, probe.step, place)
        if probe.step == "month":
            return MONTH_NAMES[first.month - 1]
        return f"quarter {(first.month + 2) // 3}" if probe.step == "quarter" else first.strftime("%A")

    if probe.step == "week":
        return None
    told = (
        f"{_what(course)} {'have' if course.figure.kind == 'count' else 'has'} a course that comes round: highest in {called(high)} ({_share(places[high] / usual)}), "
        f"lowest in {called(low)} ({_share(places[low] / usual)})"
    )
    size = float((places[high] - places[low]) / usual) / 2
    return Remark("season", told, _question(course, probe), chance, size, "", spark_line(list(course.values)))


def _share(value: float) -> str:
    return f"{'+' if value > 0 else '−'}{abs(value) * 100:.0f}%"


def _verb(course: _Course, verb: str) -> str:
    """Visits fall, income falls."""
    return verb if course.figure.kind == "count" else f"{verb}s"


def _what(course: _Course) -> str:
    name = course.figure.name
    return f"{name[:1].upper()}{name[1:]}{_of(course)}"


def _of(course: _Course) -> str:
    return f" of {course.kind}" if course.kind else ""


def _number(value: float, course: _Course) -> str:
    kind = course.figure.kind
    if kind == "count" or (kind == "sum" and course.figure.field.type is Type.INTEGER) or abs(value) >= 1000:
        return written(round(value))
    field = replace(course.figure.field, type=Type.FLOAT) if kind == "mean" else course.figure.field
    return amount(float(value), field)


def _name(course: _Course, probe: SeriesProbe, place: int) -> str:
    first = later(course.begin, probe.step, place)
    told = shown(first, time_field(probe.step))
    return f"the week of {told}" if probe.step == "week" else told


def _question(course: _Course, probe: SeriesProbe) -> str:
    of = f" for {course.kind}" if course.kind else ""
    return f"{course.figure.name} by {probe.step}{of}"
