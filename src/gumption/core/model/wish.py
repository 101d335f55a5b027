"""What a person said about the chart."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

Kind = Literal[
    "any", "bar", "line", "area", "pie", "dots", "heat", "histogram", "box", "map", "bridge", "spans", "table"
]
Look = Literal[
    "stacked", "whole", "grouped", "panels", "upright", "lying", "labels", "points", "log", "zero", "trend", "average",
    "two_axes", "ordered", "rest"
]  # fmt: skip
Part = Literal["measure", "across", "colour", "size"]
"""What a column of the answer may be in a chart: how high, how far across, which colour, how large."""
_COLUMN = re.compile(r"(measure|across|colour|size)=(\d{1,3})")
_INSTEAD: tuple[frozenset[str], ...] = (
    frozenset(["stacked", "whole", "grouped", "panels"]),
    frozenset(["upright", "lying"]),
    frozenset(["log", "zero"]),
)
"""Looks of which a chart has one."""
KIND_WORDS: dict[Kind, str] = {
    "any": "a chart", "bar": "bars", "line": "a line", "area": "an area", "pie": "a pie", "dots": "dots",
    "heat": "a heat map", "histogram": "a histogram", "box": "boxes", "map": "a map", "bridge": "a bridge", "spans": "dots with intervals",
    "table": "a table only"
}  # fmt: skip
LOOK_WORDS: dict[Look, str] = {
    "stacked": "stacked", "whole": "stacked to 100%", "grouped": "side by side", "panels": "a panel each",
    "upright": "upright", "lying": "lying", "labels": "with labels", "points": "with points", "log": "on a log scale",
    "zero": "from zero", "trend": "with a trend line", "average": "with the average drawn in",
    "two_axes": "on two axes", "ordered": "largest first", "rest": "with the rest as one"
}  # fmt: skip


@dataclass(frozen=True)
class ChartWish:
    """The kind of chart that was asked for, "any" where only that there be one, and how it is to look."""

    kind: Kind = "any"
    looks: tuple[Look, ...] = ()
    columns: tuple[tuple[Part, int], ...] = ()
    """Which columns of the answer, by their places in it, are which part of the chart."""

    @classmethod
    def of(cls, written: str) -> ChartWish:
        """From words such as "bar stacked measure=2", a kind, looks and columns in any order."""
        kinds: dict[str, Kind] = {k: k for k in get_args(Kind)}
        looks: dict[str, Look] = {k: k for k in get_args(Look)}
        words = written.split()
        kind: Kind = next((kinds[w] for w in words if w in kinds), "any")
        parts: dict[str, Part] = {p: p for p in get_args(Part)}
        told = [found for w in words if (found := _COLUMN.fullmatch(w))]
        columns = tuple((parts[found[1]], int(found[2])) for found in told)
        return cls(kind, tuple(looks[w] for w in words if w in looks), columns)

    def beside(self, further: ChartWish) -> ChartWish:
        """This wish with what a further one says in place of it; of another kind of chart only labels stay."""
        base = self
        if self.kind == "table" or (further.kind != "any" and self.kind not in ("any", further.kind)):
            base = ChartWish("any", tuple(look for look in self.looks if look == "labels"))
        looks = [
            own for own in base.looks if not any(own in group and group & set(further.looks) for group in _INSTEAD)
        ]
        kind = further.kind if further.kind != "any" else base.kind
        if kind == "table":
            return ChartWish(kind)
        return ChartWish(kind, tuple(dict.fromkeys((*looks, *further.looks))), further.columns or base.columns)

    def has(self, look: Look) -> bool:
        return look in self.looks

    def column(self, part: Part, names: Sequence[str]) -> str | None:
        """The column that is a part of the chart, of an answer's columns; None where none was chosen."""
        place = dict(self.columns).get(part)
        return names[place] if place is not None and place < len(names) else None

    @property
    def words(self) -> str:
        """As it is said in a reading: as bars, stacked, with labels."""
        return "as " + ", ".join([KIND_WORDS[self.kind], *(LOOK_WORDS[look] for look in self.looks)])
