"""A forecast of a figure: its series made whole, told on, and said with what speaks for and against it."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from gumption.core.checks.check import Check
from gumption.core.model.names import free_name, plural
from gumption.core.model.style import written
from gumption.core.model.types import Grain, Role, Type, Value
from gumption.core.plan.fields import Field, Schema
from gumption.core.plan.words import listed, set_apart, spoken
from gumption.core.present.numbers import shown
from gumption.core.study.periods import SEASONS, Step, begin_of, between, later, working_days
from gumption.core.study.series import COVERAGE, LEAST, NAIVE, Told, forecast

MOST_SERIES = 12
"""Groups that are forecast; the largest ones, where there are more."""
MOST_STEPS = 120
_FEW_SEASONS = 3
"""Seasons from which on they are well known."""
_GAPS = 0.2
"""The share of periods without a row from which on a series is thin."""


@dataclass(frozen=True)
class Forecast:
    """A figure to be told on, period by period, behind the last one that is over."""

    figure: str
    step: Step
    steps: int
    last: dt.date
    """The first day of the last period that is over."""
    adds_up: bool
    """True where periods without rows had none of it, and several add up."""
    first: dt.date | None = None
    """The first day of the first period that is asked for, where it is not the next one."""
    whether: bool = False
    """True where it is only asked whether it can be told at all."""

    @property
    def asked(self) -> range:
        """Which of the steps are asked for."""
        start = between(self.last, self.first, self.step) - 1 if self.first is not None else 0
        return range(max(0, min(start, self.steps - 1)), self.steps)

    def period(self, place: int) -> dt.date:
        """The first day of a step."""
        return later(self.last, self.step, place + 1)

    def period_name(self, place: int) -> str:
        told = shown(self.period(place), time_field(self.step))
        return f"the week of {told}" if self.step == "week" else told

    def at(self, place: int) -> str:
        """When a step is, in a sentence."""
        return f"{'on' if self.step == 'day' else 'in'} {self.period_name(place)}"


@dataclass(frozen=True)
class Line:
    """One series: what it is of, its values from its first period to the last one that is over, and what follows."""

    label: tuple[str, ...]
    begin: dt.date
    values: tuple[float, ...]
    gaps: int
    told: Told | None

    @property
    def is_told(self) -> bool:
        return self.told is not None and self.told.beats


@dataclass(frozen=True)
class Lines:
    """All series of a forecast, and the column that they are of."""

    forecast: Forecast
    time: str
    labels: tuple[str, ...]
    value: str
    field: Field
    all: tuple[Line, ...]
    left_out: int
    """Groups that are too small to be among those that are told."""

    @property
    def told(self) -> list[Line]:
        return [line for line in self.all if line.is_told]


def time_field(step: Step) -> Field:
    grains: dict[Step, Grain] = {"year": Grain.YEAR, "quarter": Grain.QUARTER, "month": Grain.MONTH}
    return Field(Type.DATE, Role.DATE, grain=grains.get(step))


def lines_of(wanted: Forecast, schema: Schema, columns: Sequence[str], rows: Sequence[Sequence[Value]]) -> Lines:
    """The rows of a plan as series, each told on."""
    fields = [schema[n] for n in columns]
    time = next(i for i, f in enumerate(fields) if f.type.is_time or f.grain is Grain.YEAR_NUMBER)
    value = max(i for i, f in enumerate(fields) if f.type.is_number and i != time)
    labels = [i for i in range(len(columns)) if i not in (time, value)]
    series: dict[tuple[str, ...], dict[dt.date, float]] = {}
    for row in rows:
        at, number = _period(row[time]), row[value]
        if at is None or at > wanted.last or not isinstance(number, (int, float, Decimal)):
            continue
        key = tuple(shown(row[i], fields[i]) for i in labels)
        series.setdefault(key, {})[begin_of(at, wanted.step)] = float(number)
    ordered = sorted(series.items(), key=lambda item: -math.fsum(item[1].values()))
    kept = ordered[:MOST_SERIES]
    return Lines(
        wanted,
        columns[time],
        tuple(columns[i] for i in labels),
        columns[value],
        fields[value],
        tuple(_line(wanted, key, known) for key, known in kept),
        len(ordered) - len(kept),
    )


def _period(value: Value) -> dt.date | None:
    match value:
        case dt.datetime():
            return value.date()
        case dt.date():
            return value
        case int() if not isinstance(value, bool) and 1 <= value <= 9998:
            return dt.date(value, 1, 1)
        case _:
            return None


def _line(wanted: Forecast, label: tuple[str, ...], known: dict[dt.date, float]) -> Line:
    """A series without gaps: nothing happened in a period without rows, or it lay between those beside it."""
    begin = min(known)
    size = between(begin, wanted.last, wanted.step) + 1
    periods = [later(begin, wanted.step, i) for i in range(size)]
    found = [known.get(p) for p in periods]
    gaps = sum(v is None for v in found)
    values = [v if v is not None else 0.0 for v in found] if wanted.adds_up else _between_known(found)
    days = [float(working_days(later(begin, wanted.step, i), wanted.step)) for i in range(size + wanted.steps)]
    told = forecast(values, SEASONS[wanted.step], wanted.steps, days)
    return Line(label, begin, tuple(values), gaps, told)


def _between_known(values: Sequence[float | None]) -> list[float]:
    at = [i for i, v in enumerate(values) if v is not None]
    found = []
    for i, value in enumerate(values):
        if value is None:
            before = max((k for k in at if k < i), default=at[0])
            after = min((k for k in at if k > i), default=at[-1])
            one, other = values[before] or 0.0, values[after] or 0.0
            value = one if after == before else one + (other - one) * (i - before) / (after - before)
        found.append(value)
    return found


# --- what is shown


def forecast_table(lines: Lines) -> tuple[Schema, tuple[str, ...], list[tuple[Value, ...]]]:
    """What is to come as a table: a row a period of each series, with its interval and what it was a year before."""
    wanted = lines.forecast
    taken = {lines.time, *lines.labels, lines.value}
    season_before = "a_week_before" if wanted.step == "day" else "a_year_before"
    low, high, before = (free_name(n, taken) for n in ("low", "high", season_before))
    plain = replace(lines.field, table=None, column=None)
    text = Field(Type.TEXT, Role.CATEGORY)
    schema: Schema = {lines.time: time_field(wanted.step), **dict.fromkeys(lines.labels, text)}
    schema |= dict.fromkeys((lines.value, low, high, before), plain)
    rows: list[tuple[Value, ...]] = []
    season = SEASONS[wanted.step]
    for line in lines.told:
        told = line.told
        assert told is not None
        for i in wanted.asked:
            past = len(line.values) - season + i % season
            earlier = line.values[past] if season > 1 and past >= 0 else None
            cells = (float(told.values[i]), float(told.low[i]), float(told.high[i]), earlier)
            numbers = (None if v is None else _as_value(v, lines.field) for v in cells)
            rows.append((wanted.period(i), *line.label, *numbers))
    return schema, tuple(schema), rows


def _as_value(value: float, field: Field) -> Value:
    match field.type:
        case Type.INTEGER:
            return round(value)
        case Type.DECIMAL:
            return Decimal(f"{value:.{field.scale}f}")
        case _:
            return value


def forecast_words(wanted: Forecast) -> str:
    """How a question was understood that asks what is to come."""
    asked = wanted.asked
    first, last = wanted.period_name(asked[0]), wanted.period_name(asked[-1])
    span = first if first == last else f"{first} to {last}"
    if wanted.whether:
        return set_apart(f"whether {wanted.figure}, {wanted.step} by {wanted.step}, can be forecast")
    return set_apart(f"a forecast of {wanted.figure}, {wanted.step} by {wanted.step}, {span}")


def forecast_finding(lines: Lines) -> str:
    """What is to come, or why that cannot be said."""
    wanted = lines.forecast
    figure = wanted.figure.removeprefix("the ")
    figure = figure[:1].upper() + figure[1:]
    if ", " in figure and not lines.labels:
        figure += ","
    if not lines.all:
        return f"{figure}: no rows of a time that is over fit, so there is nothing to go on with."
    if not lines.told:
        return f"{figure} cannot be forecast: {_why_not(lines.all[0], wanted)}."
    if len(lines.all) == 1:
        line = lines.all[0]
        return _told(line, lines, f"{figure} can be forecast: it" if wanted.whether else figure)
    parts = [f"{', '.join(line.label)} {_brief(line, lines)}" for line in lines.told[:3]]
    missing = [line for line in lines.all if not line.is_told]
    more = f", and {len(lines.told) - 3} more in the table" if len(lines.told) > 3 else ""
    left = f"; {listed([', '.join(x.label) for x in missing[:3]])} could not be told" if missing else ""
    return f"{figure}: {listed(parts)}{more}{left}."


def _why_not(line: Line, wanted: Forecast) -> str:
    told = line.told
    n = len(line.values)
    if told is None:
        return f"there {'is' if n == 1 else 'are'} {plural(n, wanted.step)} to go by, and at least {LEAST} are needed"
    naive = told.naive.model.told
    return f"nothing was nearer to what came than saying that it {naive}"


def _told(line: Line, lines: Lines, figure: str) -> str:
    wanted, told = lines.forecast, line.told
    assert told is not None
    asked = wanted.asked
    first, last = wanted.period_name(asked[0]), wanted.period_name(asked[-1])
    of = lines.field
    if len(asked) == 1:
        i = asked[0]
        return (
            f"{figure} is forecast at {_number(told.values[i], of)} {wanted.at(i)}, eight times in ten between "
            f"{_number(told.low[i], of)} and {_number(told.high[i], of)}{_beside(line, lines)}."
        )
    values = [float(told.values[i]) for i in asked]
    if wanted.adds_up:
        return (
            f"{figure} is forecast at {_number(math.fsum(values), of)} from {first} to {last}, "
            f"{_number(math.fsum(values) / len(values), of)} a {wanted.step}{_beside(line, lines)}."
        )
    return (
        f"{figure} is forecast at {_number(values[0], of)} {wanted.at(asked[0])} and "
        f"{_number(values[-1], of)} {wanted.at(asked[-1])}"
        f"{_beside(line, lines)}."
    )


def _beside(line: Line, lines: Lines) -> str:
    """How what is asked for compares with the same periods a season before."""
    wanted, told = lines.forecast, line.told
    assert told is not None
    season, n = SEASONS[wanted.step], len(line.values)
    asked = [i for i in wanted.asked if i < season]
    if season == 1 or len(asked) < len(wanted.asked) or n < season:
        return ""
    before = math.fsum(line.values[n - season + i] for i in asked)
    now = math.fsum(float(told.values[i]) for i in asked)
    if not before:
        return ""
    share = now / before - 1
    year = "a week" if wanted.step == "day" else "a year"
    if abs(share) < 0.005:
        return f", about as {year} before"
    return f", {abs(share) * 100:.1f}% {'above' if share > 0 else 'below'} the same {plural(len(asked), wanted.step).split(' ')[-1]} {year} before"


def _brief(line: Line, lines: Lines) -> str:
    told, asked = line.told, lines.forecast.asked
    assert told is not None
    values = [float(told.values[i]) for i in asked]
    whole = math.fsum(values) if lines.forecast.adds_up else math.fsum(values) / len(values)
    return f"at {_number(whole, lines.field)}{_beside(line, lines).replace(', ', ' (', 1)})".replace("))", ")")


def _number(value: float, field: Field) -> str:
    if field.type is Type.INTEGER or abs(value) >= 1000:
        return shown(round(value), replace(field, type=Type.INTEGER))
    return shown(round(value, 2), field)


def forecast_method(lines: Lines) -> tuple[str, ...]:
    """How it was told, and how well that went before."""
    told_lines = lines.told or [line for line in lines.all if line.told is not None]
    if not told_lines:
        return ()
    line = told_lines[0]
    told = line.told
    assert told is not None
    origins = told.best.errors.shape[0]
    mean = math.fsum(line.values) / len(line.values) or 1.0
    one, other = told.best.error, told.naive.error
    of = f" ({', '.join(line.label)})" if line.label else ""
    found = [
        f"{len(told.tried)} models were held against what came in {origins} trials, each begun one {lines.forecast.step} "
        f"later (a rolling origin); nearest{of} was {told.best.model.told}.",
        f"It was {_number(one, lines.field)} off on average ({_percent(one / mean)}); to say that it {told.naive.model.told} "
        f"{_number(other, lines.field)} ({_percent(other / mean)}).",
        f"The band is as wide as these errors were, to hold {COVERAGE:.0%} of what comes.",
        "It takes things to go on as they went: it knows of no plan, no price and no event to come.",
    ]
    if told.best.model in NAIVE:
        found.pop(2)
    return tuple(found)


def _percent(share: float) -> str:
    return f"{written(abs(share) * 100, '.1f')}%"


def forecast_checks(lines: Lines) -> tuple[Check, ...]:
    """What speaks for a forecast, and against it."""
    found = []
    wanted = lines.forecast
    told = [line.told for line in lines.told if line.told is not None]
    if told:
        worst = max(t.relative_error for t in told)
        found.append(
            Check(
                "beats the naive",
                "holds",
                f"It erred {_percent(1 - worst)} less than the naive forecast, in trials of the past",
            )
        )
    season = SEASONS[wanted.step]
    short = [line for line in lines.told if season > 1 and len(line.values) < _FEW_SEASONS * season]
    if short:
        fewest = min(len(line.values) for line in short)
        year = "week" if wanted.step == "day" else "year"
        found.append(
            Check(
                "few seasons",
                "caution",
                f"{plural(fewest, wanted.step)} of history are few to know the {year}'s course by",
            )
        )
    thin = [line for line in lines.told if line.gaps > _GAPS * len(line.values)]
    if thin:
        how = "were taken as 0" if wanted.adds_up else "were put between those beside them"
        found.append(Check("gaps", "caution", f"{plural(thin[0].gaps, wanted.step)} without rows {how}"))
    if lines.left_out:
        found.append(
            Check(
                "largest only",
                "caution",
                f"{plural(lines.left_out, 'smaller group')} of {spoken(lines.labels[0])} are not told",
            )
        )
    far = wanted.steps > min((len(line.values) for line in lines.told), default=wanted.steps)
    if far:
        found.append(Check("far ahead", "caution", "It goes further ahead than there is history to go by"))
    return tuple(found)


def forecast_code(lines: Lines, python: str) -> str:
    """The script of the series with the forecast behind it."""
    if len(lines.told) != 1 or len(lines.all) != 1:
        return python
    line, wanted = lines.told[0], lines.forecast
    told = line.told
    assert told is not None
    step = {"year": "YS", "quarter": "QS", "month": "MS", "week": "W-MON", "day": "D"}[wanted.step]
    filled = ", fill_value=0" if wanted.adds_up else ""
    between_known = "" if wanted.adds_up else ".interpolate()"
    time = f"pd.to_datetime(answer[{lines.time!r}].astype(str))"
    body = [
        "",
        f"series = answer.set_index({time})[{lines.value!r}].astype(float).asfreq({step!r}{filled}){between_known}",
    ]
    model = told.best.model
    season = SEASONS[wanted.step]
    match model:
        case _ if model.smoothing is not None:
            said = model.smoothing | ({"seasonal_periods": season} if "seasonal" in model.smoothing else {})
            start = "heuristic" if model.smoothing else "estimated"
            told_as = "".join(f", {k}={v!r}" for k, v in said.items())
            body += [
                "from statsmodels.tsa.holtwinters import ExponentialSmoothing",
                f"fitted = ExponentialSmoothing(series, initialization_method={start!r}{told_as}).fit(use_brute=False)",
                f"print(fitted.forecast({wanted.steps}).round(2).to_string())",
            ]
        case _:
            # As `series.regressed` has it.
            body += [
                "import numpy as np",
                f"first = pd.date_range(series.index[0], periods=len(series) + {wanted.steps + 1}, freq={step!r})",
                "days = np.busday_count(first[:-1].values.astype('datetime64[D]'), first[1:].values.astype('datetime64[D]'))",
                f"at, season = np.arange(len(days)), {season}",
                "columns = [np.ones(len(days)), at / len(series)]",
                "if np.ptp(days):",
                "    columns.append((days - days.mean()) / days.std())",
                "columns += [(at % season == place) - 1 / season for place in range(season)]",
                "design = np.column_stack(columns)",
                "held = np.diag([0.0, 0.0] + [0.5] * (design.shape[1] - 2)) + 1e-9 * np.eye(design.shape[1])",
                "known = design[:len(series)]",
                "weights = np.linalg.solve(known.T @ known + held, known.T @ series.values)",
                "print(pd.Series(design[len(series):] @ weights, index=first[len(series):-1]).round(2).to_string())",
            ]
    return python.rstrip("\n") + "\n" + "\n".join(body) + "\n"
