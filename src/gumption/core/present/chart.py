"""The chart that fits an answer's shape, as a Vega-Lite specification."""

from __future__ import annotations

import datetime as dt
from decimal import Decimal
from typing import Any

from gumption.core.model.types import Value
from gumption.core.plan.words import spoken
from gumption.core.present.answer import Answer
from gumption.core.present.finding import label_value
from gumption.core.present.numbers import shown

Spec = dict[str, Any]

PEN, LIGHT, INK, SOFT, RULE = "#22458C", "#8FB0D6", "#16211B", "#5B6C62", "#CFDACF"
_SERIES = [PEN, "#8A5A00", "#1C7A4C", "#7A3E8E", "#5B6C62", LIGHT]
MOST_BARS, MOST_SERIES, MOST_POINTS = 15, 6, 800
_PLAIN_TICKS = "abs(datum.value) < 10000 ? format(datum.value, ',') : format(datum.value, '~s')"
"""Ticks below ten thousand as they are: 800, not 0.8k."""
_NARROW = 0.75
"""Where the smallest value is at least this share of the largest, bars from zero would all look alike."""


def chart(answer: Answer) -> Spec | None:
    """Bars for categories, a line for time; None where one number or a table says it better."""
    if answer.group is None and not _named_ranking(answer):
        return None
    numbers, labels = answer.numbers, answer.labels
    if not numbers or not labels or len(answer.rows) < 2 or len(labels) > 2:
        return None
    times = [i for i in labels if answer.schema[answer.columns[i]].type.is_time]
    number = numbers[0]
    if len(labels) == 1:
        return _line(answer, times[0], number, None) if times else _bars(answer, labels[0], number)
    if times:
        return _line(answer, times[0], number, next(i for i in labels if i != times[0]))
    return _grouped_bars(answer, labels, number)


def _named_ranking(answer: Answer) -> bool:
    return answer.sorted_by is not None and answer.limited is not None and len(answer.numbers) >= 1


def _plain(value: Value) -> str | int | float | bool | None:
    if isinstance(value, Decimal):
        return float(value)
    if isinstance(value, (dt.date, dt.datetime, dt.time)):
        return value.isoformat()
    return value


def _frame(answer: Answer, marks: Spec | list[Spec], height: int, rows: list[Spec]) -> Spec:
    spec: Spec = {
        "$schema": "https://vega.github.io/schema/vega-lite/v6.json",
        "data": {"values": rows},
        "width": "container",
        "height": height,
        "autosize": {"type": "fit-x", "contains": "padding"},
        # The numbers behind bars are a little wider than the fit takes them for.
        "padding": {"left": 5, "top": 5, "right": 16, "bottom": 5},
        "config": {
            "background": None,
            "font": "Schibsted Grotesk, sans-serif",
            "view": {"stroke": None},
            "axis": {
                "labelColor": INK,
                "titleColor": SOFT,
                "labelFontSize": 12,
                "titleFontSize": 11,
                "titleFontWeight": "normal",
                "domainColor": INK,
                "tickColor": RULE,
                "gridColor": RULE,
                "labelLimit": 180,
            },
            "legend": {"labelColor": INK, "titleColor": SOFT, "labelFontSize": 12, "orient": "top", "title": None},
        },
    }
    spec["layer" if isinstance(marks, list) else "mark"] = marks
    return spec


def _bars(answer: Answer, label: int, number: int) -> Spec | None:
    name = answer.columns[number]
    field = answer.schema[name]
    entries = [
        {
            "label": label_value(answer.columns[label], row[label]),
            "value": _plain(row[number]),
            "text": shown(row[number], field),
        }
        for row in answer.rows
        if row[number] is not None
    ][:MOST_BARS]
    if not entries:
        return None
    for place, entry in enumerate(entries):
        entry["first"] = place == 0
    y: Spec = {
        "field": "label",
        "type": "nominal",
        "sort": None,
        "axis": {"title": None, "ticks": False, "labelPadding": 8},
    }
    sizes = [float(value) for entry in entries if isinstance(value := entry["value"], (int, float))]
    narrow = len(entries) > 4 and min(sizes) > 0 and min(sizes) >= _NARROW * max(sizes) and not _adds_up(answer, name)
    # Dots may leave zero out, which bars may not: their length would lie.
    scale: Spec = {"zero": False, "nice": True, "padding": 14} if narrow else {"zero": True}
    axis: Spec | None = {"title": None, "grid": True, "tickCount": 6} if narrow else None
    mark: Spec = {"type": "point", "filled": True, "size": 110} if narrow else {"type": "bar", "height": {"band": 0.74}}
    x: Spec = {"field": "value", "type": "quantitative", "axis": axis, "scale": scale}
    marks: list[Spec] = [
        {
            "mark": mark,
            "encoding": {
                "y": y,
                "x": x,
                "color": {"condition": {"test": "datum.first", "value": PEN}, "value": LIGHT},
                "tooltip": [
                    {"field": "label", "title": spoken(answer.columns[label])},
                    {"field": "text", "title": spoken(name)},
                ],
            },
        },
        {
            "mark": {"type": "text", "align": "left", "dx": 11 if narrow else 6, "color": INK, "fontSize": 12},
            "encoding": {"y": y, "x": x, "text": {"field": "text"}},
        },
    ]
    spec = _frame(answer, marks, 30 * len(entries) + 10, entries)
    cut = f", first {MOST_BARS} of {len(answer.rows)}" if len(answer.rows) > MOST_BARS else ""
    spec["title"] = {
        "text": spoken(name) + cut,
        "orient": "bottom",
        "anchor": "start",
        "color": SOFT,
        "fontSize": 11,
        "fontWeight": "normal",
    }
    return spec


def _adds_up(answer: Answer, name: str) -> bool:
    """True for counts and sums, whose bars are compared from zero."""
    aggregates = answer.group.aggregates if answer.group else ()
    return any(a.name == name and a.function in ("count", "distinct", "sum") for a in aggregates)


def _line(answer: Answer, time: int, number: int, series: int | None) -> Spec | None:
    name = answer.columns[number]
    if len(answer.rows) > MOST_POINTS:
        return None
    rows: list[Spec] = [
        {
            "when": _plain(row[time]),
            "value": _plain(row[number]),
            "text": shown(row[number], answer.schema[name]),
            "at": label_value(answer.columns[time], row[time]),
            **({} if series is None else {"series": label_value(answer.columns[series], row[series])}),
        }
        for row in answer.rows
    ]
    if series is not None and len({row["series"] for row in rows}) > MOST_SERIES:
        return None
    encoding: Spec = {
        "x": {"field": "when", "type": "temporal", "axis": {"title": spoken(answer.columns[time]), "grid": False}},
        "y": {
            "field": "value",
            "type": "quantitative",
            "axis": {"title": spoken(name), "labelExpr": _PLAIN_TICKS},
            "scale": {"zero": True},
        },
        "tooltip": [{"field": "at", "title": spoken(answer.columns[time])}, {"field": "text", "title": spoken(name)}],
    }
    mark: Spec = {"type": "line", "point": {"size": 36}, "strokeWidth": 2}
    if series is None:
        mark["color"], mark["point"]["color"] = PEN, PEN
    else:
        encoding["color"] = {"field": "series", "type": "nominal", "scale": {"range": _SERIES}}
    spec = _frame(answer, mark, 240, rows)
    spec["encoding"] = encoding
    return spec


def _grouped_bars(answer: Answer, labels: list[int], number: int) -> Spec | None:
    counts = [len({row[i] for row in answer.rows}) for i in labels]
    outer, inner = (labels[0], labels[1]) if counts[0] >= counts[1] else (labels[1], labels[0])
    if min(counts) > MOST_SERIES or max(counts) > 12:
        return None
    name = answer.columns[number]
    rows = [
        {
            "label": label_value(answer.columns[outer], row[outer]),
            "series": label_value(answer.columns[inner], row[inner]),
            "value": _plain(row[number]),
            "text": shown(row[number], answer.schema[name]),
        }
        for row in answer.rows
    ]
    spec = _frame(answer, {"type": "bar"}, 34 * max(counts) + 30, rows)
    spec["encoding"] = {
        "y": {"field": "label", "type": "nominal", "sort": None, "axis": {"title": None, "ticks": False}},
        "yOffset": {"field": "series"},
        "x": {"field": "value", "type": "quantitative", "axis": {"title": spoken(name), "labelExpr": _PLAIN_TICKS}},
        "color": {"field": "series", "type": "nominal", "scale": {"range": _SERIES}},
        "tooltip": [{"field": "label"}, {"field": "series"}, {"field": "text", "title": spoken(name)}],
    }
    return spec
