"""Worth a look: what stands out in a table, a column or some of its rows, the most surprising and largest first.

Many things are looked at, so each finding's chance is held against how many there were (Benjamini and Hochberg 1995).
"""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal, TypeAlias

from gumption.core.plan.fields import Field
from gumption.core.plan.steps import Plan
from gumption.core.present.marks import Spec
from gumption.core.study.periods import Step

RemarkKind = Literal[
    "odd period", "shift", "trend", "season", "begins", "stops", "outlier", "difference", "together", "few make most",
    "gaps", "repeated", "mistyped"
]  # fmt: skip
FALSE_SHARE = 0.01
"""The share of findings that may be accidents."""
_WEIGHT: dict[RemarkKind, float] = {
    "odd period": 0.9, "shift": 0.8, "begins": 0.45, "stops": 0.8, "outlier": 1.0, "gaps": 0.7, "repeated": 0.9,
    "mistyped": 0.9, "few make most": 0.5, "difference": 0.35, "together": 0.4, "trend": 0.5, "season": 0.4,
}  # fmt: skip
"""How much a finding of a kind surprises by itself: a fault or a break more than what people of the trade know."""
_SURE = 12.0
"""Powers of ten of a chance, from which on it counts no more."""
_AGAIN = 0.3
"""What a further finding of the same kind loses, so that the first few are of several."""
MOST = 12


@dataclass(frozen=True)
class Figure:
    """A figure that is looked at: how it is called, how it is worked, and how it is written."""

    name: str
    kind: Literal["count", "sum", "mean"]
    field: Field
    hidden: bool = False
    """True where it only says of how many rows the others are, or how these vary around the average before it."""


@dataclass(frozen=True)
class SeriesProbe:
    """Figures by period, and by kind where there is one; columns: period, kind, how many rows, other figures.

    Behind an average stands how rows vary around it.
    """

    plan: Plan
    step: Step
    last: dt.date
    figures: tuple[Figure, ...]
    kind: str | None = None


@dataclass(frozen=True)
class GroupsProbe:
    """Figures by kind; columns: kind, rows, of each measure how many, mean and deviation, of other gaps how many are known."""

    plan: Plan
    kind: str
    measures: tuple[Figure, ...]
    gaps: tuple[tuple[str, int], ...]
    """Columns with gaps, and in which column stands how many of them are known."""
    own: bool
    """True where the kind is a column of the rows themselves, whose values may be mistyped."""


@dataclass(frozen=True)
class CorrelationProbe:
    """Correlations of pairs in one row, behind how many rows there are."""

    plan: Plan
    pairs: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class TieProbe:
    """How many rows each pair of two kinds has; columns: the one, the other, rows."""

    plan: Plan
    one: str
    other: str


@dataclass(frozen=True)
class SpreadProbe:
    """Of each measure its lowest, percentiles and highest in one row."""

    plan: Plan
    measures: tuple[Figure, ...]


@dataclass(frozen=True)
class RepeatProbe:
    """How many rows are alike in all but their key, and how many rows there are."""

    plan: Plan
    but_key: str


@dataclass(frozen=True)
class ShareProbe:
    """Rows, and money where there is any, of each thing that they belong to."""

    plan: Plan
    things: str
    figures: tuple[Figure, ...]


Probe: TypeAlias = SeriesProbe | GroupsProbe | CorrelationProbe | TieProbe | SpreadProbe | RepeatProbe | ShareProbe


@dataclass(frozen=True)
class Look:
    """A look at rows: what they are called, what of them is looked at, and by which plans."""

    rows: str
    subject: str
    where: str
    """What holds of the rows, as a question says it; empty for all."""
    probes: tuple[Probe, ...]
    further: tuple[Look, ...] = ()
    """Looks at other tables, where nothing is named to look at."""


@dataclass(frozen=True)
class Remark:
    """One thing that stands out."""

    kind: RemarkKind
    sentence: str
    question: str
    chance: float
    """Of as much by accident; 0 for a fact that is no matter of chance."""
    size: float
    """How large it is, 0 to 1."""
    about: str = ""
    """What it is of; of several of one kind about the same only the first is told."""
    chart: Spec | None = None
    probe: Probe | None = None
    """What it was found by."""

    @property
    def score(self) -> float:
        sure = _SURE if self.chance <= 0 else min(-math.log10(self.chance), _SURE)
        return _WEIGHT[self.kind] + 0.4 * sure / _SURE + 0.6 * min(self.size, 1.0)


def worth_telling(remarks: Sequence[Remark], looked_at: int) -> list[Remark]:
    """The findings that are no accidents, for so many things that were looked at; ranked, of several kinds."""
    facts = [r for r in remarks if r.chance <= 0]
    guessed = sorted((r for r in remarks if r.chance > 0), key=lambda r: r.chance)
    kept = 0
    for place, remark in enumerate(guessed, 1):
        if remark.chance <= FALSE_SHARE * place / max(looked_at, place):
            kept = place
    rest = [*facts, *guessed[:kept]]
    told: list[Remark] = []
    while rest and len(told) < MOST:
        best = max(rest, key=lambda r: r.score - _AGAIN * sum(t.kind == r.kind for t in told))
        told.append(best)
        rest = [r for r in rest if r is not best and (r.kind, r.about) != (best.kind, best.about)]
    return told


def in_rows(remark: Remark, look: Look) -> Remark:
    """A remark whose question asks of the same rows."""
    return replace(remark, question=f"{remark.question} {look.where}".strip()) if look.where else remark
