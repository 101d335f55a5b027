"""What a study leaves open until the data were looked at: by what a change is taken apart."""

from __future__ import annotations

from gumption.core.plan.typing import schema_of
from gumption.core.reading.read import Reading
from gumption.core.study.change import Change
from gumption.core.study.pieces import Pieces, cut_by, tells_most
from gumption.engines.answering import Answerer
from gumption.engines.errors import CannotAnswer

MOST_PIECES = 5_000


def settled(reading: Reading, answerer: Answerer) -> Reading:
    """A reading about a change with the columns that tell most of it, unless the question names them."""
    change = reading.study
    if not isinstance(change, Change) or change.fixed or len(change.ways) < 2:
        return reading
    cut: list[Pieces] = []
    for way in change.ways:
        try:
            rows = answerer.glance(way.grouped, MOST_PIECES)
        except CannotAnswer:
            continue
        cut.append(cut_by(change.taken(way), schema_of(way.grouped, answerer.catalogue), rows))
    return reading.taken_apart(tells_most(cut).change, answerer.catalogue) if cut else reading
