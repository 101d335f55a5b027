"""Shares, running totals, changes and ranks."""

from __future__ import annotations

from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Beside, Charted, Measured, Noun, Part, Shared


def _of(of: Noun | Measured) -> Shared:
    return Shared(of)


def _met(shared: Shared, part: Part) -> Shared | None:
    if not isinstance(part, Part) or shared.condition is not None or part.kind == "time":
        return None
    return Shared(shared.of, part.condition)


def _both(one: Part, two: Part) -> bool:
    return isinstance(one, Part) and isinstance(two, Part) and two.kind != "time" and one != two


RULES = (
    Rule("SHR", "SHARE", lambda _: Shared(), ("what share",), weight=-0.1),
    Rule("SHR", "SHARE of? NP", lambda _, n: _of(n), ("share of visits",), weight=0.08),
    Rule("SHR", "SHARE of? E", lambda _, e: _of(e), ("share of fee",), weight=0.08),
    Rule(
        "SHR",
        "SHARE K NP",
        lambda _, k, n: Shared(n, k.condition) if isinstance(k, Part) and k.kind != "time" else None,
        ("% of attended visits",),
        weight=0.12,
    ),
    Rule(
        "SHR",
        "SHR that|which|who is|are|was|were|have|has|had|went|came|done|gets|got|comes K",
        _met,
        ("share of visits that are attended",),
        weight=0.2,
    ),
    Rule(
        "SHR",
        "SHR is|are|was|were|have|has|had|went|came|done|gets|got|comes|come|by|with|lost|made|goes|go from|to|out|for|by|in|on? K",
        _met,
        ("share of visits are attended",),
        weight=0.15,
    ),
    Rule(
        "SHR",
        "K rate",
        lambda k: Shared(None, k.condition) if isinstance(k, Part) and k.kind != "time" else None,
        ("attended rate",),
        weight=0.2,
    ),
    Rule(
        "SHR",
        "rate of K",
        lambda k: Shared(None, k.condition) if isinstance(k, Part) and k.kind != "time" else None,
        ("rate of attended",),
        weight=0.2,
    ),
    Rule(
        "SHRX",
        "SHARE of? K NP that|which|who? is|are|was|were|have|has|had|came|went|got|get|made|done|rated K",
        lambda _, j, n, k: (Shared(n, k.condition), j) if _both(j, k) else None,
        ("share of French visits that were attended",),
        weight=0.3,
    ),
    Rule(
        "SHRX",
        "SHARE of? K NP K",
        lambda _, j, n, k: (Shared(n, k.condition), j) if _both(j, k) else None,
        ("share of French visits attended",),
        weight=0.12,
    ),
    Rule("BES", "ASSHARE", lambda _: Beside("share"), ("as a percentage",), weight=0.05),
    Rule("BES", "RUNNING", lambda _: Beside("running"), ("running total",), weight=0.05),
    Rule("BES", "RUNNING of", lambda _: Beside("running"), ("running total of",), weight=0.07),
    Rule("BES", "GROWTH", lambda kind: Beside(kind), ("growth",), weight=0.05),
    Rule(
        "BES",
        "GROWTH in? percent|%",
        lambda kind: Beside("change_percent"),
        ("change on the month before in percent",),
        weight=0.15,
    ),
    Rule("BES", "YOY", lambda _: Beside("year_before"), ("against the same month last year",), weight=0.05),
    Rule("BES", "RANK", lambda _: Beside("rank"), ("rank",), weight=0.0),
    Rule(
        "BES",
        "N month|months|day|days|week|weeks MOVING",
        lambda n, _: Beside("moving", int(n)) if n >= 1 else None,
        ("3 month moving average",),
        weight=0.2,
    ),
    Rule(
        "BES",
        "MOVING over|of N months|days|weeks",
        lambda _, n: Beside("moving", int(n)) if n >= 1 else None,
        ("moving average of 3 months",),
        weight=0.2,
    ),
    Rule("CHT", "CHART", lambda kind: Charted(kind), ("as a line",), weight=0.05),
)
