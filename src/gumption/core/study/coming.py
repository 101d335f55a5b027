"""A forecast drawn: what was, as a line, and what is to come, dashed, in the band that it should keep to."""

from __future__ import annotations

import datetime as dt

from gumption.core.present.figures import Labels, Numbers
from gumption.core.present.marks import INK, LIGHT, PEN, Spec, caption, frame, ticks, time_axis
from gumption.core.present.numbers import cell, shown
from gumption.core.study.forecast import Line, Lines, time_field
from gumption.core.study.periods import SEASONS, later
from gumption.core.study.series import COVERAGE

_SEASONS_SHOWN = 4
_LEAST_SHOWN = 36
_HEIGHT, _PANEL_HEIGHT, _PANEL_WIDTH = 250, 120, 172


def coming(lines: Lines) -> Spec | None:
    """The chart of a forecast, a panel a group; None where nothing was told."""
    told = lines.told
    if not told:
        return None
    rows = [row for line in told for row in _rows(line, lines)]
    days = [dt.date.fromisoformat(r["when"]) for r in rows]
    x = time_axis(Labels(lines.time, tuple(days), time_field(lines.forecast.step)))
    x["axis"]["title"] = None
    numbers = Numbers(lines.value, tuple(r["value"] for r in rows), lines.field, adds_up=False)
    flat = min(r["low"] if r["low"] is not None else r["value"] for r in rows)
    y: Spec = {
        "field": "value", "type": "quantitative",
        "axis": {"title": numbers.title, **ticks(numbers)}, "scale": {"zero": flat >= 0, "nice": True},
    }  # fmt: skip
    tooltip = [
        {"field": "at", "title": "Period"},
        {"field": "text", "title": numbers.title},
        {"field": "span", "title": "Band"},
    ]
    point = {"filled": True, "size": 30}
    layers: list[Spec] = [
        {"transform": [{"filter": "datum.low != null"}], "mark": {"type": "area", "color": LIGHT, "opacity": 0.4},
         "encoding": {"x": x, "y": {**y, "field": "low"}, "y2": {"field": "high"}}},
        {"transform": [{"filter": "datum.part == 'was'"}],
         "mark": {"type": "line", "color": PEN, "strokeWidth": 2, "point": {**point, "color": PEN}},
         "encoding": {"x": x, "y": y, "tooltip": tooltip[:2]}},
        {"transform": [{"filter": "datum.part != 'was' || datum.joint"}],
         "mark": {"type": "line", "color": INK, "strokeWidth": 2, "strokeDash": [5, 4], "point": {**point, "color": INK}},
         "encoding": {"x": x, "y": y, "tooltip": tooltip}},
    ]  # fmt: skip
    if len(told) == 1:
        spec = frame(layers, rows, _HEIGHT)
    else:
        for layer in layers[1:]:
            layer["mark"]["point"] = False
        spec = frame([], rows, _PANEL_HEIGHT)
        del spec["layer"], spec["width"], spec["height"], spec["autosize"]
        spec["facet"] = {"field": "series", "type": "nominal", "sort": None}
        spec["columns"] = 3
        spec["spec"] = {"width": _PANEL_WIDTH, "height": _PANEL_HEIGHT, "layer": layers}
    spec["title"] = caption(f"Dashed: forecast. The band should hold {COVERAGE:.0%} of what comes.")
    return spec


def _rows(line: Line, lines: Lines) -> list[Spec]:
    told, wanted = line.told, lines.forecast
    assert told is not None
    series = ", ".join(line.label)
    most = max(_LEAST_SHOWN, _SEASONS_SHOWN * min(SEASONS[wanted.step], 12), 3 * wanted.steps)
    n = len(line.values)
    rows: list[Spec] = []

    def row(
        day: dt.date, value: float, part: str, low: float | None, high: float | None, *, joint: bool = False
    ) -> None:
        at = shown(day, time_field(wanted.step))
        span = (
            ""
            if low is None or high is None
            else f"{cell(_short(low), lines.field)} to {cell(_short(high), lines.field)}"
        )
        rows.append(
            {
                "when": day.isoformat(),
                "value": value,
                "part": part,
                "low": low,
                "high": high,
                "joint": joint,
                "at": at,
                "text": cell(_short(value), lines.field),
                "span": span,
                "series": series,
            }
        )

    for i in range(max(0, n - most), n):
        last = i == n - 1
        value = line.values[i]
        row(
            later(line.begin, wanted.step, i),
            value,
            "was",
            value if last else None,
            value if last else None,
            joint=last,
        )
    for i in range(wanted.steps):
        row(wanted.period(i), float(told.values[i]), "comes", float(told.low[i]), float(told.high[i]))
    return rows


def _short(value: float) -> float | int:
    return round(value) if abs(value) >= 1000 or value == int(value) else round(value, 2)
