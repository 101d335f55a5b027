"""Two things held against each other: 2025 against 2024, dogs versus cats, how much more in May than in April."""

from __future__ import annotations

from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Part, Versus


def _versus(one: Part, two: Part) -> Versus | None:
    if (
        not isinstance(one, Part)
        or not isinstance(two, Part)
        or one == two
        or one.kind != two.kind
        or one.kind not in ("time", "value")
    ):
        return None
    return Versus(one.condition, two.condition)


RULES = (
    Rule("VERSUS_", "K VERSUS K", lambda a, _, b: _versus(a, b), ("2025 against 2024",), weight=0.15),
    Rule("VERSUS_", "VERSUS K OR K", lambda _, a, __, b: _versus(a, b), ("compare dogs and cats",), weight=0.15),
    Rule(
        "VERSUS_", "VERSUS K with|to|against K", lambda _, a, b: _versus(a, b), ("compare 2025 with 2024",), weight=0.2
    ),
    Rule("VERSUS_", "K than K", _versus, ("more in 2025 than in 2024",), weight=0.15),
    Rule("VERSUS_", "from K to K", lambda a, b: _versus(b, a), ("from 2024 to 2025",), weight=0.1),
    Rule("VERSUS_", "K to K", lambda a, b: _versus(b, a), ("2024 to 2025",), weight=0.0),
    Rule(
        "VERSUS_", "K and K", lambda a, b: _versus(b, a) if a.kind == "time" else None, ("2024 and 2025",), weight=-0.05
    ),
    Rule("VERSUS_", "between K and K", lambda a, b: _versus(b, a), ("between 2024 and 2025",), weight=-0.05),
    Rule("MORE", "INCREASE", lambda _: "change", ("how much more",)),
    Rule("MORE", "DIFF", lambda _: "change", ("difference",)),
)
