"""The learned part of reading: what each feature of a meaning weighs, and how sure the first one is.

The weights stand in weights.json, made by tools/train_reading.py from question packs; that file says from what.
A feature the file does not name weighs one.
"""

from __future__ import annotations

import functools
import json
import math
from collections.abc import Iterable
from pathlib import Path

_FILE = Path(__file__).parent / "weights.json"


@functools.cache
def _weights() -> tuple[dict[str, float], dict[str, float], float, float]:
    held = json.loads(_FILE.read_text(encoding="utf-8"))
    return held["ranking"], held["confidence"], held["doubt_below"], held["decline_below"]


def ranked_score(features: Iterable[tuple[str, float]]) -> float:
    """The score of a meaning: the weighed sum of its features."""
    ranking = _weights()[0]
    return sum(ranking.get(name, 1.0) * value for name, value in features)


def signs(
    features: Iterable[tuple[str, float]], words: int, unread: int, gap: float | None, follows: bool, switched: bool
) -> dict[str, float]:
    """What tells how sure a reading is: its features, its score for each word, and how far behind the next one is."""
    given = dict(features)
    pieces = given.pop("pieces", 0.0)
    found = {f"cost of {name}": -value for name, value in given.items() if value < 0}
    found["score a word"] = pieces / max(words, 1)
    found["words"] = math.log(max(words, 1))
    found["unread"] = float(unread)
    found["gap"] = min(gap, 1.0) if gap is not None else 1.0
    found["alone"] = float(gap is None)
    found["follows"] = float(follows)
    found["switched"] = float(switched)
    found["one"] = 1.0
    return found


def confidence(found: dict[str, float]) -> float:
    """The chance, 0 to 1, that a reading with these signs is what was meant."""
    weights = _weights()[1]
    total = sum(weights.get(name, 0.0) * value for name, value in found.items())
    return 1.0 / (1.0 + math.exp(-max(-30.0, min(30.0, total))))


def doubtful(sure: float) -> bool:
    """True where an answer is given with a doubt."""
    return sure < _weights()[2]


def too_doubtful(sure: float) -> bool:
    """True where so little speaks for a reading that it is named and not answered."""
    return sure < _weights()[3]
