"""The learned part of reading: what each feature of a meaning weighs, and how sure the first one is.

The weights stand in weights.json, made by tools/train_reading.py from question packs; that file says from what.
A feature the file does not name weighs one.
"""

from __future__ import annotations

import functools
import json
import math
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path
from typing import NamedTuple

_FILE = Path(__file__).parent / "weights.json"


class _Weights(NamedTuple):
    ranking: dict[str, float]
    confidence: dict[str, float]
    doubt_below: float
    ask_below: float
    decline_below: float


@functools.cache
def _weights() -> _Weights:
    held = json.loads(_FILE.read_text(encoding="utf-8"))
    return _Weights(*(held[name] for name in _Weights._fields))


def ranked_score(features: Iterable[tuple[str, float]]) -> float:
    """The score of a meaning: the weighed sum of its features."""
    ranking = _weights().ranking
    return sum(ranking.get(name, 1.0) * value for name, value in features)


@dataclass(frozen=True)
class Evidence:
    """What there is to tell how sure a reading is."""

    features: tuple[tuple[str, float], ...] = ()
    words: int = 1
    """How many words of the question carry meaning."""
    unread: int = 0
    links: tuple[float, ...] = ()
    """How surely each of its names, values and measures is what the words call so."""
    disagreements: tuple[str, ...] = ()
    """What is said and not meant, or meant and not said."""
    follows: bool = False
    earlier: float = 1.0
    """How sure the reading was that a follow-up builds on."""
    others_behind: bool = False
    """True where other meanings may lie too far behind to be looked at."""
    gap: float | None = None
    """How far behind the next reading with another answer is; None where there is none."""
    switched: bool = False
    """True where the best reading had no answer and the next one was taken."""
    rows: int | None = None
    """Rows of the answer; None where nobody looked."""
    empty: bool = False


MANY_ROWS = 200
"""More rows than these are seldom what a person asks for."""
NEARLY_A_TIE = 0.1
NOTHING_KNOWN = Evidence()


def signs(evidence: Evidence) -> dict[str, float]:
    """What tells how sure a reading is, as numbers."""
    given = dict(evidence.features)
    pieces = given.pop("pieces", 0.0)
    found = {f"cost of {name}": -value for name, value in given.items() if value < 0}
    found["score a word"] = pieces / max(evidence.words, 1)
    found["words"] = math.log(max(evidence.words, 1))
    found["unread"] = float(evidence.unread)
    found["gap"] = min(evidence.gap, 1.0) if evidence.gap is not None else 1.0
    found["alone"] = float(evidence.gap is None and not evidence.others_behind)
    found["nearly a tie"] = float(evidence.gap is not None and evidence.gap < NEARLY_A_TIE)
    found["follows"] = float(evidence.follows)
    found["leans on a doubt"] = 1.0 - evidence.earlier if evidence.follows else 0.0
    found["switched"] = float(evidence.switched)
    links = evidence.links
    found["weakest link"] = min(links, default=0.0)
    found["links"] = float(len(links))
    found["mean link"] = sum(links) / len(links) if links else 0.0
    found["weak links"] = float(sum(link < 0.75 for link in links))
    found["weaker links"] = float(sum(link < 0.6 for link in links))
    found.update((f"disagrees: {name}", 1.0) for name in evidence.disagreements)
    found["disagreements"] = float(len(evidence.disagreements))
    if evidence.rows is not None:
        found["no rows"] = float(evidence.rows == 0)
        found["one row"] = float(evidence.rows == 1)
        found["very many rows"] = float(evidence.rows > MANY_ROWS)
        found["nothing in it"] = float(evidence.empty)
    found["one"] = 1.0
    return found


def confidence(found: dict[str, float]) -> float:
    """The chance, 0 to 1, that a reading with these signs is what was meant."""
    weights = _weights().confidence
    total = sum(weights.get(name, 0.0) * value for name, value in found.items())
    return 1.0 / (1.0 + math.exp(-max(-30.0, min(30.0, total))))


def doubtful(sure: float) -> bool:
    """True where an answer is given with a doubt."""
    return sure < _weights().doubt_below


def worth_asking(sure: float) -> bool:
    """True where a person is asked which reading is meant, if another one is near."""
    return sure < _weights().ask_below


def too_doubtful(sure: float) -> bool:
    """True where so little speaks for a reading that it is named and not answered."""
    return sure < _weights().decline_below
