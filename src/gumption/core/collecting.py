"""How often a process looks for garbage that only cycles hold."""

from __future__ import annotations

import gc

_MADE_BETWEEN = 50_000
"""Objects between two looks."""


def collect_seldom() -> None:
    """Look seldom from here on.

    Reading a question makes and drops tens of thousands of small values without a cycle among them. At Python's own
    pace, a look every 700, these take a tenth of the time, and a quarter of that of the longest questions.
    """
    gc.set_threshold(_MADE_BETWEEN, 20, 50)
