"""A study worked over an answer's rows: what it says and draws in place of the plain answer."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from gumption.core.checks.check import Check
from gumption.core.present.answer import Answer
from gumption.core.present.marks import Spec
from gumption.core.study.bridge import bridge
from gumption.core.study.change import Change
from gumption.core.study.pieces import pieces_of
from gumption.core.study.telling import change_checks, change_finding, method_words

Study = Change
MOST_PAIRS = 2
"""Pairs of columns that a change is offered to be taken apart by."""


@dataclass(frozen=True)
class Studied:
    """What a study found, how it was worked, and what must hold of it."""

    finding: str
    chart: Spec | None
    checks: tuple[Check, ...]
    method: tuple[str, ...]
    ways: tuple[str, ...] = ()
    """What else it can be taken apart by, the way that was taken first."""


def studied(study: Study, answer: Answer, day: dt.date) -> Studied:
    """A study over the rows of its plan, on a day."""
    pieces = pieces_of(study, answer.schema, answer.columns, answer.rows)
    field = answer.schema[study.columns.change]
    single = [w for w in study.ways[1:] if len(w.called) == 1]
    paired = [w for w in study.ways[1:] if len(w.called) > 1]
    ways = tuple(dict.fromkeys(" and ".join(w.called) for w in (study.way, *single, *paired[:MOST_PAIRS])))
    return Studied(
        change_finding(pieces, field),
        bridge(pieces, field),
        change_checks(pieces, field, day),
        method_words(study),
        ways,
    )
