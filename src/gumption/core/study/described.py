"""A table, a column or some rows in about a hundred words: facts that were worked out, each with the question that shows it."""

from __future__ import annotations

import datetime as dt
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from decimal import Decimal

from gumption.core.model.names import plural
from gumption.core.model.style import written
from gumption.core.model.types import Type, Value
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import listed, set_apart
from gumption.core.present.numbers import shown
from gumption.core.study.look import Figure, Look, Remark
from gumption.core.study.looked import look_at
from gumption.core.study.sparks import spark_bars
from gumption.core.study.telling import amount

Rows = Sequence[Sequence[Value]]
_MOST_REMARKS = 3
_MOST_KINDS = 3
_PULLED = 1.25
"""How far the mean must lie from the median for that to be said."""


@dataclass(frozen=True)
class Kinds:
    """How many rows each value of a kind has; the plan's columns: value, rows."""

    name: str
    plan: Plan


@dataclass(frozen=True)
class Described:
    """What is described: rows by their main figures and kinds, with what stands out in them.

    The columns of `facts` are how many rows, the first and the last day where there is a time, and of each figure how
    many are known, its sum, mean, median, lowest and highest.
    """

    look: Look
    facts: Plan
    timed: bool
    figures: tuple[Figure, ...]
    summed: tuple[bool, ...]
    """Which of them are added up; of the others the sum is left out."""
    kinds: tuple[Kinds, ...]
    whole: bool
    """True where a table or some of its rows are described, and not one column."""


def facts_of(study: Described, fetch: Callable[[Plan], Rows | None]) -> list[Remark]:
    """What is said of it, in order."""
    rows = fetch(study.facts)
    if not rows:
        return []
    cells = list(rows[0])
    count = _float(cells[0])
    found = []
    called, where = study.look.rows, study.look.where
    at = 1
    if study.whole and not math.isnan(count):
        span = ""
        if study.timed:
            first, last = (c.date() if isinstance(c, dt.datetime) else c for c in cells[1:3])
            if isinstance(first, dt.date) and isinstance(last, dt.date):
                span = f", from {shown(first)} to {shown(last)}"
        told = f"There are {written(round(count))} {called}{f' {where}' if where else ''}{span}"
        found.append(_fact(told, f"how many {called} {where}".strip()))
    at += 2 * study.timed
    for figure, summed in zip(study.figures, study.summed, strict=True):
        size = 6 if summed else 5
        known, *rest = cells[at : at + size]
        fact = _of_figure(study, figure, [known, *([] if summed else [None]), *rest], count)
        found += [fact] if fact is not None else []
        at += size
    for kinds in study.kinds:
        fact = _of_kinds(study, kinds, fetch(kinds.plan))
        found += [fact] if fact is not None else []
    remarks, _, _ = look_at(study.look, fetch)
    said = " ".join(f.sentence for f in found)
    return [*found, *[r for r in remarks if r.sentence not in said][:_MOST_REMARKS]]


def _float(value: Value) -> float:
    return float(value) if isinstance(value, (int, float, Decimal)) else math.nan


def _fact(sentence: str, question: str, chart: dict[str, object] | None = None) -> Remark:
    return Remark("difference", sentence, question, 0.0, 0.0, sentence, chart)


def _of_figure(study: Described, figure: Figure, cells: Sequence[Value], count: float) -> Remark | None:
    known, total, mean, median, low, high = (_float(c) for c in cells)
    if not known or math.isnan(mean):
        return None
    name, where = figure.name, study.look.where
    title = name[:1].upper() + name[1:]
    number = _number(figure)
    told = f"{title} is {number(mean)} on average"
    if figure.kind == "sum":
        told = f"{title} comes to {number(total)} in all, {number(mean)} on average"
    told += f", between {number(low)} and {number(high)}"
    if min(abs(mean), abs(median)) > 0 and max(mean / median, median / mean) >= _PULLED:
        told += f"; extremes pull the mean, half are below {number(median)}"
    if known < count:
        told += f"; {_percent(1 - known / count)} have none"
    question = f"{'total' if figure.kind == 'sum' else 'average'} {figure.name} {where}".strip()
    return _fact(told, question)


def _number(figure: Figure) -> Callable[[float], str]:
    def number(value: float) -> str:
        if figure.field.type is Type.INTEGER and value == int(value):
            return written(int(value))
        return amount(value, figure.field) if figure.field.type is not Type.INTEGER else written(value, ",.2f")

    return number


def _percent(share: float) -> str:
    return f"{written(100 * share, '.1f' if share < 0.1 else '.0f')}%"


def _of_kinds(study: Described, kinds: Kinds, rows: Rows | None) -> Remark | None:
    """The commonest values of a kind, and what share they have."""
    counts = sorted(((shown(r[0]), _float(r[-1])) for r in rows or () if r[0] is not None), key=lambda c: -c[1])
    whole = math.fsum(n for _, n in counts)
    if len(counts) < 2 or not whole:
        return None
    first = [f"{name} ({_percent(n / whole)})" for name, n in counts[:_MOST_KINDS]]
    more = f" of {len(counts)}" if len(counts) > _MOST_KINDS else ""
    told = f"By {kinds.name}, the commonest{more} are {listed(first)}"
    question = f"share of {study.look.rows} by {kinds.name} {study.look.where}".strip()
    marked = list(range(min(_MOST_KINDS, len(counts))))
    return _fact(told, question, spark_bars([n for _, n in counts[:20]], marked))


def described_words(study: Described) -> str:
    where = f" {study.look.where}" if study.look.where else ""
    return set_apart(f"a description of {study.look.subject}{where}")


def described_finding(study: Described, facts: Sequence[Remark]) -> str:
    """All of it in one text."""
    if not facts:
        return f"There is nothing to describe: no {study.look.rows} fit."
    return " ".join(f"{f.sentence}." for f in facts)


def described_method(facts: Sequence[Remark]) -> tuple[str, ...]:
    return (f"{plural(len(facts), 'fact')}, each worked out; its question shows it.",)
