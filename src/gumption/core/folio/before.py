"""A chart of bars with a stroke on each for what it was the time before."""

from __future__ import annotations

import copy
from typing import Any

from gumption.core.folio.working import Working
from gumption.core.present.marks import INK, Spec

_LONG = 24
"""Pixels of a stroke, a little more than a bar has."""


def with_strokes(now: Working, before: Working) -> Spec | None:
    """The chart of a working with what its bars were before; the chart as it is where it has none, or none of them is known."""
    chart = now.chart
    if chart is None or now.kind != "bar" or before.kind != "bar" or before.chart is None or now.names != before.names:
        return chart
    was = {entry["label"]: entry for entry in _entries(before.chart)}
    layers = chart.get("layer")
    known = [e["label"] for e in _entries(chart) if e["label"] in was]
    if not isinstance(layers, list) or not known or len(known) != len(set(known)) or not _is_plain(layers[0]):
        return chart
    drawn = copy.deepcopy(chart)
    for entry in _entries(drawn):
        earlier = was.get(entry["label"])
        if earlier is not None:
            entry["before"], entry["before_text"] = earlier["value"], earlier.get("text", "")
        # Numbers stand behind whichever reaches farther.
        entry["end"] = max((v for v in (entry["value"], entry.get("before")) if v is not None), default=None)
    encoding = drawn["layer"][0]["encoding"]
    along, across = ("y", "x") if encoding["x"].get("field") == "label" else ("x", "y")
    stroke: Spec = {
        "mark": {"type": "tick", "color": INK, "thickness": 2, "size": _LONG},
        "encoding": {
            across: encoding[across],
            along: {**encoding[along], "field": "before"},
            "tooltip": [
                {"field": "label", "title": now.heads[now.labels[0]]},
                {"field": "before_text", "title": "the time before"},
            ],
        },
    }
    for layer in drawn["layer"]:
        if layer["mark"].get("type") == "text":
            layer["encoding"][along] = {**encoding[along], "field": "end"}
    drawn["layer"].insert(1, stroke)
    if isinstance(title := drawn.get("title"), dict) and isinstance(title.get("text"), str):
        title["text"] = f"{title['text']}; the stroke on a bar is the time before"
    return drawn


def _entries(chart: Spec) -> list[dict[str, Any]]:
    """The rows of a chart that have a name and a value."""
    values = (chart.get("data") or {}).get("values") or []
    return [v for v in values if isinstance(v, dict) and "label" in v and "value" in v]


def _is_plain(layer: Spec) -> bool:
    """True for bars, or dots in their place, each of one name along one number."""
    mark, encoding = layer.get("mark"), layer.get("encoding") or {}
    kind = mark.get("type") if isinstance(mark, dict) else mark
    fields = {encoding.get("x", {}).get("field"), encoding.get("y", {}).get("field")}
    return kind in ("bar", "point") and fields == {"label", "value"}
