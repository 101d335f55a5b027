"""A kept plan whose columns or tables go by other names by now: the same plan with the new names, where they tell which they are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from rapidfuzz import fuzz

from gumption.core.model.catalogue import Catalogue
from gumption.core.plan.document import read_plan
from gumption.core.plan.fields import PlanError
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import listed, spoken

_ALIKE = 75.0
"""How alike two names must be, of a hundred, and how much more than any other."""
_CLEARLY = 10.0
_MOST = 6


@dataclass(frozen=True)
class Mended:
    """A plan that fits again, and which names became which."""

    plan: Plan
    words: str


def renamed(document: dict[str, Any], catalogue: Catalogue) -> Mended | None:
    """The plan with the names that its tables have now; None where it fits, or none is clearly the one that became another."""
    became: list[str] = []
    for _ in range(_MOST):
        try:
            plan = read_plan(document, catalogue)
        except PlanError as error:
            new = _likest(error.found, error.accepted)
            if new is None:
                return None
            became.append(f"“{error.found}” had become “{new}”")
            document = _with_name(document, error.found, new)
        else:
            return Mended(plan, listed(became)) if became else None
    return None


def _likest(name: str, others: Sequence[str]) -> str | None:
    """The one of some names that is clearly the likest; None where none is."""
    rated = sorted(((_alike(name, other), other) for other in others), reverse=True)
    if not name or not rated or rated[0][0] < _ALIKE:
        return None
    return rated[0][1] if len(rated) == 1 or rated[0][0] - rated[1][0] >= _CLEARLY else None


def _alike(name: str, other: str) -> float:
    """How alike two names are: by their letters, or because one has all words of the other and few besides."""
    a, b = spoken(name).lower(), spoken(other).lower()
    return max(fuzz.ratio(a, b), 0.9 * fuzz.token_set_ratio(a, b) if min(len(a), len(b)) > 2 else 0.0)


def _with_name(part: Any, old: str, new: str) -> Any:
    """A document with a name in place of another, wherever it stands."""
    match part:
        case dict():
            return {key: _with_name(value, old, new) for key, value in part.items()}
        case list():
            return [_with_name(value, old, new) for value in part]
        case _:
            return new if part == old else part
