"""Small charts that stand beside a finding: a line with the place that is meant, bars with the one that is meant."""

from __future__ import annotations

from collections.abc import Sequence

from gumption.core.present.marks import LIGHT, PEN, SOFT, Spec

_WIDTH, _HEIGHT = 92, 40
MARKED = "#8A5A00"


def spark_line(values: Sequence[float], marked: Sequence[int] = (), expected: Sequence[float] = ()) -> Spec:
    """A line over periods; `marked` places have a dot, and `expected` is dashed behind it."""
    rows: list[Spec] = [{"x": i, "y": v, "marked": i in marked} for i, v in enumerate(values)]
    x: Spec = {"field": "x", "type": "quantitative", "axis": None, "scale": {"nice": False}}
    y: Spec = {
        "field": "y",
        "type": "quantitative",
        "axis": None,
        "scale": {"zero": min(values, default=0) >= 0 and not expected},
    }
    layers: list[Spec] = [
        {"mark": {"type": "line", "color": PEN, "strokeWidth": 1.5}, "encoding": {"x": x, "y": y}},
        {"transform": [{"filter": "datum.marked"}],
         "mark": {"type": "point", "filled": True, "size": 42, "color": MARKED}, "encoding": {"x": x, "y": y}},
    ]  # fmt: skip
    if not marked:
        layers.pop()
    if expected:
        dashed = [{"x": i, "y": v} for i, v in enumerate(expected)]
        layers.insert(
            0,
            {"data": {"values": dashed}, "mark": {"type": "line", "color": SOFT, "strokeDash": [3, 3], "strokeWidth": 1},
             "encoding": {"x": x, "y": y}},
        )  # fmt: skip
    return _spark(layers, rows)


def spark_bars(values: Sequence[float], marked: Sequence[int] = ()) -> Spec:
    """Bars side by side; those that are meant are of another colour."""
    rows: list[Spec] = [{"x": i, "y": v, "colour": MARKED if i in marked else LIGHT} for i, v in enumerate(values)]
    x: Spec = {"field": "x", "type": "ordinal", "axis": None, "scale": {"paddingInner": 0.2}}
    y: Spec = {"field": "y", "type": "quantitative", "axis": None}
    colour: Spec = {"field": "colour", "type": "nominal", "scale": None}
    return _spark([{"mark": "bar", "encoding": {"x": x, "y": y, "color": colour}}], rows)


def _spark(layers: list[Spec], rows: list[Spec]) -> Spec:
    return {
        "$schema": "https://vega.github.io/schema/vega-lite/v6.json",
        "data": {"values": rows},
        "width": _WIDTH,
        "height": _HEIGHT,
        "padding": 2,
        "config": {"background": None, "view": {"stroke": None}},
        "layer": layers,
    }
