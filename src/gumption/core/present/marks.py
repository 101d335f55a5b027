"""Charts as Vega-Lite specifications, one function a kind."""

from __future__ import annotations

import datetime as dt
from decimal import Decimal
from typing import Any

from gumption.core.model.style import NUMBERS, style_now, written
from gumption.core.model.types import Grain, Role, Type
from gumption.core.model.wish import ChartWish
from gumption.core.present.figures import Figures, Labels, Numbers, plain
from gumption.core.present.numbers import cell, is_share

Spec = dict[str, Any]

PEN, LIGHT, INK, SOFT, RULE = "#22458C", "#8FB0D6", "#16211B", "#5B6C62", "#CFDACF"
SERIES = [PEN, "#8A5A00", "#1C7A4C", "#7A3E8E", "#5B6C62", LIGHT, "#B0413E", "#2E8A99"]
_SHADES = ["#F3F6FB", "#8FB0D6", PEN]
_LARGE = 20_000
"""From here on ticks are told in thousands, millions, billions: 800, not 0.8k."""
_NARROW = 0.75
"""Where the smallest value is at least this share of the largest, bars from zero would all look alike."""
_MOST_TICKS = 24
_PANEL = 172
"""Pixels that a panel is wide, of which three stand beside each other on the narrowest page."""
BRUSH = "brush"
"""The name of the span that a person marks along a time."""
MOST_DOTS = 3_000
MOST_LABELLED = 40
"""Marks that are told their number where that is asked for."""


def frame(marks: Spec | list[Spec], rows: list[Spec], height: int | Spec) -> Spec:
    """A specification with the look of every chart here."""
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
            "locale": {"number": _separators()},
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
            "header": {"labelColor": INK, "labelFontSize": 12, "title": None},
        },
    }
    spec["layer" if isinstance(marks, list) else "mark"] = marks
    return spec


def _separators() -> Spec:
    """What stands between thousands and before what is broken on axes, as d3-format has it."""
    group, point = NUMBERS[style_now().numbers]
    return {"decimal": point, "thousands": group, "grouping": [3], "currency": ["", ""]}


def caption(text: str) -> Spec:
    return {
        "text": text, "orient": "bottom", "anchor": "start", "color": SOFT, "fontSize": 11, "fontWeight": "normal"
    }  # fmt: skip


def _scale(wish: ChartWish, *, zero: bool = True) -> Spec:
    return {"type": "log"} if wish.has("log") else {"zero": zero or wish.has("zero"), "nice": True}


def ticks(number: Numbers) -> Spec:
    if is_share(number.field):
        return {"format": "~%"}
    large = max((abs(v) for v in number.known), default=0) >= _LARGE
    return {"labelExpr": "replace(format(datum.value, '~s'), 'G', 'bn')"} if large else {"format": ",~f"}


def _short(number: Numbers, row: int) -> str:
    """A number as it stands above a narrow bar."""
    value = number.values[row]
    if not isinstance(value, (int, float, Decimal)) or abs(float(value)) < 1000 or number.field.role is Role.PERCENTAGE:
        return number.text(row)
    for size, sign in ((10**9, "bn"), (10**6, "m")):
        if abs(float(value)) >= size:
            return f"{written(float(value) / size, ',.3g')}{sign}"
    return written(float(value), ",.0f")


def _rows(of: Figures, number: Numbers, places: list[int]) -> list[Spec]:
    label = of.labels[0]
    return [
        {
            "label": label.text(i),
            "at": plain(label.values[i]),
            "value": plain(number.values[i]),
            "text": number.text(i),
            **of.place(i),
        }
        for i in places
    ]


def _others(number: Numbers, places: list[int]) -> Spec:
    """The rows of those places as one."""
    values = [v for i in places if isinstance(v := number.values[i], (int, float, Decimal))]
    rest = sum(Decimal(str(v)) for v in values)
    return {"label": f"the other {len(places)}", "at": None, "value": float(rest), "text": cell(rest, number.field)}


def bars(of: Figures, wish: ChartWish, most: int) -> Spec:
    """A bar for each row: lying, with its number behind it, or upright where that was asked for."""
    label, number = of.labels[0], of.numbers[0]
    places = list(of.entries())
    if wish.has("ordered"):
        places.sort(key=lambda i: -float(number.values[i] or 0))  # type: ignore[arg-type]
    beyond = places[most:]
    entries = _rows(of, number, places[:most])
    if wish.has("rest") and number.adds_up and beyond:
        entries.append(_others(number, beyond))
    # What was ranked has its first on top; else that one stands out of which the finding tells.
    known = [e for e, i in zip(entries, places, strict=False) if label.values[i] is not None]
    end = min if of.lowest_first else max
    named = next(iter(known), None) if of.ranked else end(known, key=lambda e: float(e["value"]), default=None)
    for entry in entries:
        entry["first"] = entry is named
    sizes = [float(v) for e in entries if isinstance(v := e["value"], (int, float))]
    narrow = (
        len(entries) > 4
        and min(sizes) > 0
        and min(sizes) >= _NARROW * max(sizes)
        and not number.adds_up
        and wish == ChartWish()
    )
    upright = wish.has("upright")
    category: Spec = {
        "field": "label",
        "type": "nominal",
        "sort": None,
        "axis": {
            "title": None,
            "ticks": False,
            "labelPadding": 8,
            **({"labelAngle": -40, "labelOverlap": True} if upright else {}),
        },
    }
    # Dots may leave zero out, which bars may not: their length would lie. On a log scale there is no zero.
    narrow = narrow or wish.has("log")
    scale = {"zero": False, "nice": True, "padding": 14, **_scale(wish, zero=False)} if narrow else _scale(wish)
    axis: Spec | None = {"title": None, "grid": True, "tickCount": 6, **ticks(number)} if narrow or upright else None
    along: Spec = {"field": "value", "type": "quantitative", "axis": axis, "scale": scale}
    if upright:
        for entry, place in zip(entries, places, strict=False):
            entry["told"] = _short(number, place)
    mark: Spec = {"type": "point", "filled": True, "size": 110} if narrow else {"type": "bar"}
    if not narrow:
        mark["width" if upright else "height"] = {"band": 0.74}
    one, two = ("x", "y") if upright else ("y", "x")
    told: Spec = (
        {"type": "text", "baseline": "bottom", "dy": -4} if upright else {"type": "text", "align": "left", "dx": 6}
    )
    if narrow:
        told["dx"] = 11
    marks: list[Spec] = [
        {
            "mark": mark,
            "encoding": {
                one: category,
                two: along,
                "color": {"condition": {"test": "datum.first", "value": PEN}, "value": LIGHT},
                "tooltip": [{"field": "label", "title": label.title}, {"field": "text", "title": number.title}],
            },
        },
        {
            "mark": {**told, "color": INK, "fontSize": 12},
            "encoding": {one: category, two: along, "text": {"field": "told" if upright else "text"}},
        },
    ]
    if wish.has("average"):
        marks.append(_average(two))
    spec = frame(marks, entries, 280 if upright else 30 * len(entries) + 10)
    cut = f", first {most} of {len(places)}" if beyond else ""
    spec["title"] = caption(number.title + cut)
    return spec


def _average(axis: str) -> Spec:
    return {
        "mark": {"type": "rule", "color": "#8A5A00", "strokeDash": [5, 4], "strokeWidth": 1.5},
        "encoding": {axis: {"aggregate": "mean", "field": "value", "type": "quantitative"}},
    }


def _two_ways(of: Figures) -> tuple[Labels, Labels]:
    """The label with more values, and the one that is told by colour."""
    one, two = of.labels[0], of.labels[1]
    if of.colour == two.name:
        return one, two
    return (one, two) if one.is_time or (one.different >= two.different and not two.is_time) else (two, one)


def grouped_bars(of: Figures, wish: ChartWish) -> Spec:
    """Bars for two labels: one along the axis, the other by colour, side by side or stacked."""
    number = of.numbers[0]
    outer, inner = _two_ways(of)
    rows = [
        {
            "label": outer.text(i),
            "series": inner.text(i),
            "value": plain(number.values[i]),
            "text": number.text(i),
            **of.place(i),
        }
        for i in of.entries()
    ]
    upright = wish.has("upright") or outer.is_time
    one, two = ("x", "y") if upright else ("y", "x")
    stacked = wish.has("stacked") or wish.has("whole")
    value: Spec = {
        "field": "value",
        "type": "quantitative",
        "axis": {"title": number.title, **ticks(number)},
        "scale": _scale(wish),
        "stack": "normalize" if wish.has("whole") else "zero" if stacked else None,
    }
    if wish.has("whole"):
        value["axis"] = {"title": f"{number.title}, share", "format": "%"}
    shared: Spec = {
        one: {
            "field": "label",
            "type": "nominal",
            "sort": None,
            "axis": {"title": None, "ticks": False, **({"labelAngle": -40, "labelOverlap": True} if upright else {})},
        },
        two: value,
        "color": {"field": "series", "type": "nominal", "sort": None, "scale": {"range": SERIES}},
        "tooltip": [
            {"field": "label", "title": outer.title},
            {"field": "series", "title": inner.title},
            {"field": "text", "title": number.title},
        ],
    }
    if stacked:
        shared["order"] = {"field": "series", "sort": None}
    else:
        shared["xOffset" if upright else "yOffset"] = {"field": "series", "sort": None}
    marks: list[Spec] = [{"mark": {"type": "bar"}, "encoding": shared}]
    if wish.has("labels") and len(rows) <= MOST_LABELLED:
        labelled = {k: v for k, v in shared.items() if k != "color"}
        place: Spec = {"type": "text", "fontSize": 11}
        if stacked:
            value["bandPosition"] = 0.5
            place["color"] = "white"
        else:
            place |= {"baseline": "bottom", "dy": -3} if upright else {"align": "left", "dx": 4}
        marks.append({"mark": place, "encoding": {**labelled, "detail": shared["color"], "text": {"field": "text"}}})
    height = 280 if upright else (30 if stacked else 34) * outer.different + 30
    return frame(marks, rows, height)


def lines(of: Figures, wish: ChartWish, numbers: tuple[Numbers, ...]) -> Spec:
    """A line over time, or over the first label: one for each value of the second, or for each number."""
    along, series = of.along, of.lines
    rows: list[Spec] = []
    for number in numbers:
        for i in range(of.size):
            row: Spec = {
                "when": plain(along.values[i]) if along.is_time else along.text(i),
                "value": plain(number.values[i]),
                "text": number.text(i),
                "at": along.text(i),
                **of.place(i),
            }
            if series is not None:
                row["series"] = series.text(i)
            elif len(numbers) > 1:
                row["series"] = number.title
            rows.append(row)
    title = numbers[0].title if len(numbers) == 1 else ""
    number = max(numbers, key=lambda n: max(n.known, default=0))
    x: Spec = time_axis(along)
    if not along.is_time:
        angle = -40 if along.different > 6 else 0
        x = {"field": "when", "type": "ordinal", "sort": None, "axis": {"title": along.title, "labelAngle": angle}}
    y: Spec = {
        "field": "value",
        "type": "quantitative",
        "axis": {"title": title, **ticks(number)},
        "scale": _scale(wish),
    }
    many = series is not None or len(numbers) > 1
    area = wish.kind == "area"
    if area:
        y["stack"] = "normalize" if wish.has("whole") else "zero"
    mark: Spec = (
        {"type": "area", "opacity": 0.75} if area else {"type": "line", "point": {"size": 36}, "strokeWidth": 2}
    )
    if not many:
        mark["color"] = PEN
        if not area:
            mark["point"]["color"] = PEN
    shared: Spec = {
        "x": x,
        "y": y,
        "tooltip": [{"field": "at", "title": along.title}, {"field": "text", "title": title or "value"}],
    }
    if many:
        shared["color"] = {"field": "series", "type": "nominal", "sort": None, "scale": {"range": SERIES}}
    if many and wish.has("panels"):
        shared["color"] = {"value": PEN}
        shared["facet"] = {"field": "series", "type": "nominal", "columns": 3, "sort": None}
        if not area:
            mark["point"] = False
        spec = frame(mark, rows, 130)
        spec["width"] = _PANEL
        del spec["autosize"]
        spec["encoding"] = shared
        return spec
    if many and wish.has("two_axes") and len(numbers) == 2:
        return _two_axes(numbers, rows, mark, x)
    # A span of time is marked by drawing over it, and can then be asked for.
    marked = {"params": [{"name": BRUSH, "select": {"type": "interval", "encodings": ["x"]}}]} if along.is_time else {}
    marks: list[Spec] = [{"mark": mark, "encoding": shared, **marked}]
    if wish.has("labels") and len(rows) <= MOST_LABELLED:
        labelled = {k: v for k, v in shared.items() if k in ("x", "y")}
        text: Spec = {"type": "text", "dy": -10, "fontSize": 11, "color": INK}
        y["axis"] = {"title": title, "labels": False, "ticks": False}
        marks.append({"mark": text, "encoding": {**labelled, "text": {"field": "text"}}})
    if wish.has("trend") and along.is_time:
        marks.append(_trend("when", many))
    if wish.has("average"):
        marks.append(_average("y"))
    if len(marks) > 1:
        return frame(marks, rows, 240)
    spec = frame(mark, rows, 240)
    return spec | {"encoding": shared, **marked}


def time_axis(along: Labels) -> Spec:
    """A tick a period and its name, years under the first months; dates have no time zone."""
    axis: Spec = {"title": along.title, "grid": False}
    days = sorted({v for v in along.values if isinstance(v, dt.date)})
    months = (days[-1].year - days[0].year) * 12 + days[-1].month - days[0].month if days else 0
    grain = along.field.grain
    if grain is Grain.YEAR:
        axis |= {"tickCount": {"interval": "year", "step": months // 12 // _MOST_TICKS + 1}, "format": "%Y"}
    elif grain in (Grain.MONTH, Grain.QUARTER) and months <= 12 * _MOST_TICKS:
        least = 3 if grain is Grain.QUARTER else 1
        step = next((s for s in (1, 3, 6, 12) if s >= least and months <= s * _MOST_TICKS), 12)
        name = "'Q' + utcquarter(datum.value)" if grain is Grain.QUARTER else "utcFormat(datum.value, '%b')"
        year = "utcFormat(datum.value, '%Y')"
        begins = "utcmonth(datum.value) == 0 || datum.index == 0"
        axis |= {"tickCount": {"interval": "month", "step": step}}
        axis["labelExpr"] = f"[{name}, {begins} ? {year} : '']"
    elif days and (days[-1] - days[0]).days <= _MOST_TICKS and along.field.type is Type.DATE:
        axis |= {"tickCount": {"interval": "day", "step": 1}, "format": "%-d %b"}
    return {"field": "when", "type": "temporal", "scale": {"type": "utc"}, "axis": axis}


def _trend(across: str, many: bool) -> Spec:
    groups = {"groupby": ["series"]} if many else {}
    kind = "temporal" if across == "when" else "quantitative"
    color: Spec = {"field": "series", "type": "nominal"} if many else {"value": "#8A5A00"}
    return {
        "transform": [
            *([{"calculate": "+toDate(datum.when)", "as": "when"}] if across == "when" else []),
            {"regression": "value", "on": across, **groups},
        ],
        "mark": {"type": "line", "strokeDash": [5, 4], "strokeWidth": 1.5},
        "encoding": {
            "x": {"field": across, "type": kind, **({"scale": {"type": "utc"}} if across == "when" else {})},
            "y": {"field": "value", "type": "quantitative"},
            "color": color,
        },
    }


def _two_axes(numbers: tuple[Numbers, ...], rows: list[Spec], mark: Spec, x: Spec) -> Spec:
    layers: list[Spec] = []
    for number, color, side in zip(numbers, (PEN, "#8A5A00"), ("left", "right"), strict=True):
        axis: Spec = {"title": number.title, "titleColor": color, "orient": side, **ticks(number)}
        layers.append(
            {
                "transform": [{"filter": {"field": "series", "equal": number.title}}],
                "mark": {**mark, "color": color, "point": {"size": 36, "color": color}},
                "encoding": {
                    "x": x,
                    "y": {"field": "value", "type": "quantitative", "axis": axis},
                    "tooltip": [{"field": "at"}, {"field": "text", "title": number.title}],
                },
            }
        )
    spec = frame(layers, rows, 240)
    spec["resolve"] = {"scale": {"y": "independent"}}
    return spec


def pie(of: Figures, most: int) -> Spec:
    """A slice for each row, all beyond the largest few as one."""
    label, number = of.labels[0], of.numbers[0]
    sized = sorted(
        ((v, i) for i in of.entries() if isinstance(v := plain(number.values[i]), (int, float))), reverse=True
    )
    rows: list[Spec] = [
        {"label": label.text(i), "value": v, "text": number.text(i), **of.place(i)} for v, i in sized[:most]
    ]
    if any(v for v, _ in sized[most:]):
        rows.append(_others(number, [i for _, i in sized[most:]]))
    whole = sum(v for v, _ in sized)
    for place, row in enumerate(rows):
        row["order"], row["share"] = place, f"{100 * row['value'] / whole:.0f}%"
        row["told"] = f"{row['label']} {row['share']}"
    angle: Spec = {"field": "value", "type": "quantitative", "stack": True}
    shared: Spec = {"theta": angle, "order": {"field": "order"}}
    names = [row["told"] for row in rows]
    marks: list[Spec] = [
        {
            "mark": {"type": "arc", "outerRadius": 115, "stroke": "#fff"},
            "encoding": {
                **shared,
                "color": {
                    "field": "told",
                    "type": "nominal",
                    "sort": names,
                    "scale": {"domain": names, "range": SERIES},
                    "legend": {"orient": "right", "title": None},
                },
                "tooltip": [
                    {"field": "label", "title": label.title},
                    {"field": "text", "title": number.title},
                    {"field": "share", "title": "share"},
                ],
            },
        },
    ]
    spec = frame(marks, rows, 250)
    spec["title"] = caption(number.title)
    return spec


def sampled(of: Figures) -> list[int]:
    """The rows of which both numbers are known; of very many evenly some."""
    one, two = of.numbers[0], of.numbers[1]
    known = [i for i in range(of.size) if one.values[i] is not None and two.values[i] is not None]
    return known[:: -(-len(known) // MOST_DOTS) or 1]


def dots(of: Figures, wish: ChartWish) -> Spec:
    """A dot for each row: the first number across, the second up, a third as its size, a kind as its colour."""
    one, two = of.numbers[0], of.numbers[1]
    third = of.numbers[2] if len(of.numbers) > 2 else None
    few = [x for x in of.labels if 1 < x.different <= len(SERIES) and x.different < of.size / 2]
    kinds = next((x for x in few if x.name == of.colour), few[0] if few else None)
    rows = []
    for i in sampled(of):
        row: Spec = {"across": plain(one.values[i]), "value": plain(two.values[i]), **of.place(i)}
        row["label"] = ", ".join(x.text(i) for x in of.labels)
        if third is not None:
            row["size"] = plain(third.values[i])
        if kinds is not None:
            row["series"] = kinds.text(i)
        rows.append(row)
    shared: Spec = {
        "x": {
            "field": "across",
            "type": "quantitative",
            "axis": {"title": one.title, **ticks(one)},
            "scale": {"zero": False},
        },
        "y": {
            "field": "value",
            "type": "quantitative",
            "axis": {"title": two.title, **ticks(two)},
            "scale": {"type": "log"} if wish.has("log") else {"zero": wish.has("zero")},
        },
        "tooltip": [
            *([{"field": "label", "title": of.labels[0].title}] if of.labels else []),
            {"field": "across", "title": one.title},
            {"field": "value", "title": two.title},
        ],
    }
    if kinds is not None:
        shared["color"] = {"field": "series", "type": "nominal", "scale": {"range": SERIES}}
    if third is not None:
        shared["size"] = {"field": "size", "type": "quantitative", "legend": {"title": third.title, "orient": "right"}}
    mark: Spec = {"type": "point", "filled": True, "opacity": 0.4 if len(rows) > 400 else 0.8}
    if third is None:
        mark["size"] = 28 if len(rows) > 100 else 80
    if kinds is None:
        mark["color"] = PEN
    marks: list[Spec] = [{"mark": mark, "encoding": shared}]
    if of.labels and (wish.has("labels") or len(rows) <= 15) and len(rows) <= MOST_LABELLED:
        place = {"x": shared["x"], "y": shared["y"], "text": {"field": "label"}}
        marks.append({"mark": {"type": "text", "dy": -12, "fontSize": 11, "color": INK}, "encoding": place})
    if wish.has("trend"):
        marks.append(_trend("across", False))
    return frame(marks, rows, 320)


def heat(of: Figures, wish: ChartWish) -> Spec:
    """A shaded cell for each pair of labels, with its number where there is room."""
    down, across = of.labels[0], of.labels[1]
    number = of.numbers[0]
    if not of.crossed and across.different > down.different:
        down, across = across, down
    rows = [
        {
            "down": down.text(i),
            "across": across.text(i),
            "value": plain(number.values[i]),
            "text": number.text(i),
            **of.place(i),
        }
        for i in of.entries()
    ]
    low, high = min(number.known, default=0), max(number.known, default=0)
    deep = low + 0.68 * (high - low)
    order = {"sort": None}
    x: Spec = {"field": "across", "type": "nominal", **order, "axis": {"title": None, "orient": "top", "labelAngle": 0}}
    if across.different > 8:
        x["axis"]["labelAngle"] = -40
    y: Spec = {"field": "down", "type": "nominal", **order, "axis": {"title": None}}
    marks: list[Spec] = [
        {
            "mark": {"type": "rect", "stroke": "#fff"},
            "encoding": {
                "x": x,
                "y": y,
                "color": {
                    "field": "value",
                    "type": "quantitative",
                    "scale": {"range": _SHADES, **({"type": "log"} if wish.has("log") else {})},
                    "legend": None,
                },
                "tooltip": [
                    {"field": "down", "title": down.title},
                    {"field": "across", "title": across.title},
                    {"field": "text", "title": number.title},
                ],
            },
        }
    ]
    if across.different <= 10:
        light: Spec = {"condition": {"test": f"datum.value > {deep}", "value": "white"}, "value": INK}
        text: Spec = {"x": x, "y": y, "text": {"field": "text"}, "color": light}
        marks.append({"mark": {"type": "text", "fontSize": 11}, "encoding": text})
    spec = frame(marks, rows, {"step": 28})
    spec["title"] = caption(number.title)
    return spec


def histogram(of: Figures, wish: ChartWish) -> Spec:
    """Upright bars without gaps, a bin each."""
    label, number = of.labels[0], of.numbers[0]
    width = label.width or 1.0
    rows: list[Spec] = [
        {
            "low": float(low),
            "high": float(low) + width,
            "value": plain(number.values[i]),
            "text": number.text(i),
            "label": label.text(i),
            **of.place(i),
        }
        for i in of.entries()
        if isinstance(low := plain(label.values[i]), (int, float))
    ]
    title = label.title.removesuffix(" band")
    shared: Spec = {
        "x": {
            "field": "low",
            "type": "quantitative",
            "bin": {"binned": True, "step": width},
            "axis": {"title": f"{title}, bands of {written(width, ',.10g')}", "grid": False},
        },
        "x2": {"field": "high"},
        "y": {
            "field": "value",
            "type": "quantitative",
            "axis": {"title": number.title, **ticks(number)},
            "scale": _scale(wish),
        },
        "tooltip": [{"field": "label", "title": title}, {"field": "text", "title": number.title}],
    }
    marks: list[Spec] = [{"mark": {"type": "bar", "color": PEN, "binSpacing": 1}, "encoding": shared}]
    if wish.has("labels") and len(rows) <= MOST_LABELLED:
        for row in rows:
            row["middle"] = (row["low"] + row["high"]) / 2
        labelled = {"x": {"field": "middle", "type": "quantitative"}, "y": shared["y"], "text": {"field": "text"}}
        marks.append({"mark": {"type": "text", "dy": -8, "fontSize": 11, "color": INK}, "encoding": labelled})
    return frame(marks, rows, 240)


def boxes(of: Figures, five: tuple[Numbers, ...]) -> Spec:
    """The lowest and highest value as a line, the middle half as a box, the median as a stroke."""
    names = ("low", "first", "median", "third", "high")
    rows = []
    for i in range(of.size):
        row: Spec = {name: plain(n.values[i]) for name, n in zip(names, five, strict=True)} | of.place(i)
        row["label"] = of.labels[0].text(i) if of.labels else "all"
        rows.append(row)
    y: Spec = {"field": "label", "type": "nominal", "sort": None, "axis": {"title": None, "ticks": False}}
    if not of.labels:
        y["axis"] = None
    tooltip = [{"field": n, "title": title} for n, title in zip(names, (f.title for f in five), strict=True)]

    def part(mark: Spec, low: str, high: str | None) -> Spec:
        along: Spec = {"field": low, "type": "quantitative", "axis": {"title": five[2].title.removeprefix("median ")}}
        encoding: Spec = {"y": y, "x": {**along, "scale": {"zero": False}}, "tooltip": tooltip}
        if high is not None:
            encoding["x2"] = {"field": high}
        return {"mark": mark, "encoding": encoding}

    marks = [
        part({"type": "rule", "color": INK}, "low", "high"),
        part({"type": "bar", "color": LIGHT, "height": {"band": 0.5}}, "first", "third"),
        part({"type": "tick", "color": PEN, "thickness": 3, "height": {"band": 0.5}}, "median", None),
    ]
    return frame(marks, rows, 34 * len(rows) + 24)
