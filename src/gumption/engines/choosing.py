"""The choice among a question's readings with a look at their answers.

An answer without rows, or with nothing but gaps, is nearly always a misreading where another reading has an answer;
readings with the same answer are one.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from gumption.core.model.types import Value
from gumption.core.reading.differing import asked_back
from gumption.core.reading.glossing import respelled
from gumption.core.reading.judgement import MANY_ROWS, doubtful, too_doubtful, worth_asking
from gumption.core.reading.meaning import Aggregated, Among, Condition, Has, Missing, Not, PartOf
from gumption.core.reading.read import Reading, Understanding
from gumption.engines.answering import Answerer
from gumption.engines.errors import CannotAnswer
from gumption.engines.studying import settled

MOST_READINGS = 3
MOST_LOOKED_AT = 4
FAR = 0.25
"""How far behind in score a reading may be and still be taken for its answer."""
NEAR = 0.6
"""How far behind in score a reading may be and still be offered as a choice."""
ENOUGH = 0.5
"""How sure a reading must be before its answer is seen, for an answer of nothing to be given all the same."""
_COMPARED_ROWS = 500
_OF_ROWS = ("dots", "box", "histogram")
"""Kinds of charts that are drawn of rows, however many there are."""

Looked = tuple[Reading, tuple[tuple[Value, ...], ...]]


def chosen(found: Understanding, answerer: Answerer) -> Understanding:
    """The understanding with its readings in the order of trust, each answer once, at most three."""
    found = _chosen(found, answerer)
    return replace(found, readings=tuple(settled(r, answerer) for r in found.readings))


def _chosen(found: Understanding, answerer: Answerer) -> Understanding:
    if found.status != "answered" or not found.readings or answerer.waits(found.readings[0].plan):
        return replace(found, readings=found.readings[:MOST_READINGS])
    looked = list(_looked(found.readings, answerer))
    if not looked:
        return replace(found, readings=found.readings[:MOST_READINGS])
    first = looked[0][0]
    told = [pair for pair in looked if not says_nothing(pair[1]) and first.score - pair[0].score <= FAR]
    switched = says_nothing(looked[0][1]) and not _may_be_nought(looked[0]) and bool(told)
    ordered = [*told[:1], *(p for p in looked if p is not told[0])] if switched else looked
    kept: list[Looked] = []
    for reading, rows in ordered:
        if not any(_says_the_same((reading, rows), other) for other in kept):
            kept.append((reading, rows))
    first, rows = kept[0]
    gap = first.score - kept[1][0].score if len(kept) > 1 else None
    lacking = not rows and any(_lacks(c) for c in first.ask.where)
    looked_at = None if lacking else _telling(first, len(rows))
    best = first.seen(gap, looked_at, switched=switched, empty=says_nothing(rows) and not lacking)
    readings = (best, *(reading for reading, _ in kept[1:MOST_READINGS]))
    if too_doubtful(best.trust) and not (says_nothing(rows) and first.trust >= ENOUGH):
        return replace(
            found,
            status="declined",
            problem="This was not understood well enough to answer.",
            readings=readings,
            glosses=best.glosses,
            unread=best.unread,
        )
    near = [r for r in readings if best.score - r.score <= NEAR]
    if worth_asking(best.trust) and len(near) > 1:
        return replace(
            found,
            status="asks",
            problem=asked_back([r.ask for r in near]),
            readings=tuple(near),
            glosses=best.glosses,
            unread=best.unread,
        )
    return replace(
        found,
        readings=readings,
        doubt=best.doubtful or doubtful(best.trust) or bool(respelled(best.glosses)),
        glosses=best.glosses,
        unread=best.unread,
    )


def taken(found: Understanding, reading: Reading) -> Understanding:
    """The understanding once a person took one of its readings: that one first, and answered without a doubt."""
    others = tuple(r for r in found.readings if r.plan != reading.plan)
    return replace(
        found, status="answered", problem="", readings=(reading, *others), doubt=False, unread=reading.unread
    )


def _looked(readings: tuple[Reading, ...], answerer: Answerer) -> Iterator[Looked]:
    for reading in readings[:MOST_LOOKED_AT]:
        try:
            rows = answerer.glance(reading.plan, _COMPARED_ROWS)
        except CannotAnswer:
            continue
        yield reading, tuple(rows)


def _says_the_same(one: Looked, other: Looked) -> bool:
    """True where two answers are one, or tell the same of the same things, here by their name and there by their number."""
    (first, rows), (second, others) = one, other
    if rows == others:
        return True
    a, b = first.ask, second.ask
    alike = (a.quantities, a.where, a.having, a.limit, a.per) == (b.quantities, b.where, b.having, b.limit, b.per)
    if not alike or not a.groups or len(a.groups) != len(b.groups):
        return False
    return sorted(repr(row[-1]) for row in rows) == sorted(repr(row[-1]) for row in others)


def _may_be_nought(looked: Looked) -> bool:
    """True for what may well be nought: the lowest value of a column, or of how many something rose or fell."""
    first = looked[0].ask.quantities[:1]
    if any(isinstance(c, Among) and c.ask.having for c in looked[0].ask.where):
        return True
    ends = bool(first) and isinstance(first[0], Aggregated) and first[0].function in ("min", "max")
    return ends and all(value is not None for row in looked[1] for value in row)


def _lacks(condition: Condition) -> bool:
    """True where what lacks something is asked for, of which there may well be none."""
    return isinstance(condition, Missing) or (isinstance(condition, Not) and isinstance(condition.item, (Has, Among)))


def _telling(reading: Reading, rows: int) -> int:
    """So many rows as tell how sure a reading is: of a list of what fits, of dots that were asked for, and month by month
    for each clinic, many are no sign of a slip."""
    ask = reading.ask
    if ask.lists and ask.chart is not None and ask.chart.kind in _OF_ROWS:
        return min(rows, MANY_ROWS)
    timed = len(ask.groups) > 1 and any(isinstance(g, PartOf) for g in ask.groups)
    return min(rows, MANY_ROWS) if timed or (ask.lists and ask.where) or reading.study is not None else rows


def says_nothing(rows: tuple[tuple[Value, ...], ...]) -> bool:
    """True for an answer without rows, or of one row of nothing but gaps and noughts."""
    if not rows:
        return True
    return len(rows) == 1 and all(value is None or value == 0 for value in rows[0])
