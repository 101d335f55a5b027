"""What a check says: a name, a weight and a plain sentence."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Weight = Literal["holds", "caution", "stop"]


@dataclass(frozen=True)
class Check:
    """One thing that was looked at, and how it stands."""

    name: str
    weight: Weight
    sentence: str
    detail: str = ""
    cure: str = ""
    """A question that follows on and does without what is cautioned against."""
