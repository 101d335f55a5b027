"""A change drawn as a bridge: from the figure before, piece by piece, to the figure after."""

from __future__ import annotations

import math
from dataclasses import dataclass

from gumption.core.plan.fields import Field
from gumption.core.present.marks import INK, LIGHT, PEN, RULE, SOFT, Spec, caption, frame
from gumption.core.study.pieces import Piece, Pieces
from gumption.core.study.telling import amount

AWAY, ADDED = "#8A5A00", "#1C7A4C"
MOST_PIECES = 6
_CUT = 0.55
"""How much of the height of the two whole bars may be cut off, so that what moved between them is seen."""
_HEIGHT = 230


@dataclass(frozen=True)
class _Bar:
    label: str
    start: float
    end: float
    kind: str
    text: str
    row: int | None = None


def bridge(pieces: Pieces, field: Field) -> Spec | None:
    """The chart of a change; None where there is nothing between its two ends."""
    if len(pieces.all) < 2:
        return None
    bars = _bars(pieces, field)
    levels = [b.end for b in bars] + [b.start for b in bars[1:-1]]
    low, high = min(0.0, *levels), max(0.0, *levels)
    moving = [x for b in bars[1:-1] for x in (b.start, b.end)] + [bars[0].end, bars[-1].end]
    floor = min(moving)
    cut = floor - (max(moving) - floor) * _CUT if floor > 0 else low
    cut = cut if floor > 0 and cut > 0.2 * high else low
    span = high - cut
    rows: list[Spec] = []
    for place, bar in enumerate(bars):
        start = max(bar.start, cut) if bar.kind in ("before", "after") else bar.start
        top = max(start, bar.end)
        after = bars[place + 1].label if place + 1 < len(bars) else None
        rows.append(
            {
                "label": bar.label,
                "from": start,
                "to": bar.end,
                "kind": bar.kind,
                "text": bar.text,
                "top": top,
                "next": after,
                **({"row": bar.row} if bar.row is not None else {}),
            }
        )
    x: Spec = {
        "field": "label", "type": "ordinal", "sort": None, "title": None,
        "axis": {"labelAngle": 0, "labelExpr": "split(datum.value, '\\n')", "labelFontSize": 11, "labelLimit": 110,
                 "labelOverlap": False, "ticks": False, "domain": True},
        "scale": {"paddingInner": 0.28, "paddingOuter": 0.1},
    }  # fmt: skip
    y: Spec = {
        "field": "from", "type": "quantitative", "title": None,
        "axis": {"grid": False, "labels": False, "ticks": False, "domain": False},
        "scale": {"domain": [cut, high + 0.08 * span], "zero": False, "nice": False},
    }  # fmt: skip
    colour: Spec = {
        "field": "kind", "type": "nominal", "legend": None,
        "scale": {"domain": ["before", "away", "added", "after"], "range": [LIGHT, AWAY, ADDED, PEN]},
    }  # fmt: skip
    tooltip = [{"field": "label", "title": "Piece"}, {"field": "text", "title": "Change"}]
    layers: list[Spec] = [
        {"mark": {"type": "bar", "cursor": "pointer"},
         "encoding": {"x": x, "y": y, "y2": {"field": "to"}, "color": colour, "tooltip": tooltip}},
        {"transform": [{"filter": "datum.next != null"}],
         "mark": {"type": "rule", "color": SOFT},
         "encoding": {"x": {**x, "bandPosition": 1}, "x2": {"field": "next", "bandPosition": 0}, "y": {**y, "field": "to"}}},
        {"mark": {"type": "text", "dy": -7, "fontSize": 11, "color": INK},
         "encoding": {"x": x, "y": {**y, "field": "top"}, "text": {"field": "text"}}},
    ]  # fmt: skip
    spec = frame(layers, rows, _HEIGHT)
    spec["config"]["axis"]["domainColor"] = RULE
    lines = "Brown took away, green added"
    note = f"; the scale starts at {amount(cut, field)}, so the bars at both ends are cut" if cut > 0 else ""
    spec["title"] = caption(f"{lines}{note}.")
    return spec


def _bars(pieces: Pieces, field: Field) -> list[_Bar]:
    change = pieces.change
    shown = sorted(pieces.all, key=lambda p: -abs(p.change))
    if len(shown) > MOST_PIECES + 1:
        shown = shown[:MOST_PIECES]
    kept = {p.row for p in shown}
    rest = [p for p in pieces.all if p.row not in kept]
    # Those that went the way of the whole come first, so that the bridge goes there and back once.
    shown.sort(key=lambda p: (p.change * pieces.total < 0, -abs(p.change)))
    level = pieces.before
    bars = [_Bar(_label(change.before.name.split()), 0.0, level, "before", amount(level, field))]
    for piece in shown:
        bars.append(_bar(_piece_label(piece), level, piece.change, field, piece.row))
        level += piece.change
    if rest:
        moved = math.fsum(p.change for p in rest)
        bars.append(_bar(f"All else\n{len(rest)} pieces", level, moved, field, None))
    bars.append(_Bar(_label(change.after.name.split()), 0.0, pieces.after, "after", amount(pieces.after, field)))
    return _told_apart(bars)


def _bar(label: str, level: float, moved: float, field: Field, row: int | None) -> _Bar:
    return _Bar(label, level, level + moved, "away" if moved < 0 else "added", amount(moved, field, signed=True), row)


def _piece_label(piece: Piece) -> str:
    return "\n".join(piece.label) if len(piece.label) > 1 else _label(piece.label[0].split())


def _label(words: list[str]) -> str:
    """Words in two lines of about the same length."""
    if len(words) < 2:
        return " ".join(words)
    half = min(range(1, len(words)), key=lambda i: abs(len(" ".join(words[:i])) - len(" ".join(words[i:]))))
    return " ".join(words[:half]) + "\n" + " ".join(words[half:])


def _told_apart(bars: list[_Bar]) -> list[_Bar]:
    """Bars of which no two are called alike: a piece may be called as an end is."""
    seen: dict[str, int] = {}
    found = []
    for bar in bars:
        seen[bar.label] = seen.get(bar.label, 0) + 1
        label = bar.label + "\u200b" * (seen[bar.label] - 1)
        found.append(_Bar(label, bar.start, bar.end, bar.kind, bar.text, bar.row))
    return found
