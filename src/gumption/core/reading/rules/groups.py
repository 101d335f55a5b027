"""For each of something: by town, monthly, per owner, by age band of ten years."""

from __future__ import annotations

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Grouped, Measured, Noun, Part

UNITS: dict[str, m.Unit] = {
    "year": "year", "years": "year", "yearly": "year", "annual": "year", "annually": "year",
    "quarter": "quarter", "quarters": "quarter", "quarterly": "quarter",
    "month": "month", "months": "month", "monthly": "month",
    "week": "week", "weeks": "week", "weekly": "week",
    "day": "day", "days": "day", "daily": "day",
    "weekday": "weekday", "weekdays": "weekday",
    "hour": "hour", "hours": "hour", "hourly": "hour",
}  # fmt: skip


def _unit(unit: m.Unit, of: m.Expr | None = None) -> Grouped:
    return Grouped(m.PartOf(unit, of or m.EventTime()))


def _of_column(unit: m.Unit):  # type: ignore[no-untyped-def]
    def build(*parts: object) -> Grouped | None:
        noun = parts[-1]
        if not isinstance(noun, Noun) or noun.key is None:
            return None
        return _unit(unit, m.Col(noun.key))

    return build


def _band(measured: Measured, width: float) -> Grouped | None:
    return Grouped(m.Band(measured.expr, width)) if width > 0 else None


_SIMPLE: tuple[tuple[m.Unit, str, str], ...] = (
    ("year", "year|years", "yearly|annual|annually"),
    ("quarter", "quarter|quarters", "quarterly"),
    ("month", "month|months", "monthly"),
    ("week", "week|weeks", "weekly"),
    ("day", "day|days|date", "daily"),
    ("weekday", "weekday|weekdays", "weekday"),
    ("hour", "hour|hours", "hourly"),
)


def _time_rules() -> tuple[Rule, ...]:
    rules: list[Rule] = []
    for unit, nouns, adverbs in _SIMPLE:
        noun = nouns.split("|")[0]
        rules += [
            Rule("UNIT", nouns, lambda u=unit: u, (noun,)),
            Rule("G", f"{adverbs}", lambda u=unit: _unit(u), (adverbs.split("|")[0],), weight=0.9),
            Rule("G", f"BY {nouns}", lambda _, u=unit: _unit(u), (f"by {noun}",), weight=0.1),
            Rule(
                "G",
                f"BY {nouns} of D",
                lambda _, d, u=unit: _of_column(u)(d),
                (f"by {noun} of visit date",),
                weight=0.2,
            ),
            Rule("G", f"BY D {nouns}", lambda _, d, u=unit: _of_column(u)(d), (f"by visit {noun}",), weight=0.12),
            Rule("G", f"{noun} by {noun}", lambda u=unit: _unit(u), (f"{noun} by {noun}",), weight=1.0),
            Rule(
                "G",
                f"over|through|during|along the? {noun}s",
                lambda u=unit: _unit(u),
                (f"over the {noun}s",),
                weight=0.9,
            ),
        ]
    return tuple(rules)


RULES = (
    *_time_rules(),
    Rule("G", "BY day|days of the? week", lambda _: _unit("weekday"), ("by day of the week",), weight=0.2),
    Rule("UNIT", "day|days of the? week", lambda: "weekday", ("day of the week",), weight=0.95),
    Rule("UNIT", "hour|hours|time of the? day", lambda: "hour", ("hour of the day",), weight=0.95),
    Rule("UNIT", "calendar? month|months of the? year", lambda: "month_of_year", ("month of the year",), weight=0.95),
    Rule("G", "BY hour|hours|time of the? day", lambda _: _unit("hour"), ("by hour of the day",), weight=0.2),
    Rule("G", "BY calendar month|months", lambda _: _unit("month_of_year"), ("by calendar month",), weight=0.2),
    Rule("G", "BY month of the? year", lambda _: _unit("month_of_year"), ("by month of the year",), weight=0.2),
    Rule(
        "G", "BY months of the? year", lambda _: _unit("month_of_year"), ("each of the months of the year",), weight=0.2
    ),
    Rule("G", "WHICH UNIT", lambda _, u: _unit(u), ("which weekday",), weight=-0.02),
    Rule("G", "over time", lambda: _unit("month"), ("over time",), weight=0.8),
    Rule("G", "BY C", lambda _, n: Grouped(n), ("by species",), weight=0.1),
    Rule("G", "BY T", lambda _, n: Grouped(n), ("by clinic",), weight=0.08),
    Rule("G", "BY F", lambda _, n: Grouped(n), ("by attended",), weight=0.1),
    Rule("G", "BY D", lambda _, n: Grouped(n), ("by visit date",), weight=0.0),
    Rule("G", "BY U", lambda _, n: Grouped(n), ("by colour",), weight=-0.2),
    Rule("G", "BY kind|kinds|type|types|sort of C", lambda _, n: Grouped(n), ("by type of species",), weight=0.12),
    Rule("G", "whether F", lambda n: Grouped(n), ("whether attended",), weight=0.3),
    Rule(
        "G",
        "BY whether? K",
        lambda _, k: Grouped(m.Test(k.condition)) if isinstance(k, Part) and k.kind in ("state", "number") else None,
        ("by overdue",),
        weight=-0.1,
    ),
    Rule("G", "G OR C", lambda g, _, n: (g, Grouped(n)), ("by species and breed",), weight=0.08),
    Rule("G", "G OR T", lambda g, _, n: (g, Grouped(n)), ("by species and clinic",), weight=0.05),
    Rule("G", "G OR F", lambda g, _, n: (g, Grouped(n)), ("by species and attended",), weight=0.05),
    Rule("G", "G OR UNIT", lambda g, _, u: (g, _unit(u)), ("by species and year",), weight=0.1),
    Rule("G", "G OR G", lambda g, _, h: (g, h) if g != h else None, ("by species and by year",), weight=0.05),
    Rule(
        "G",
        "BY E in? band|bands|bin|bins|group|groups of N",
        lambda _, e, n: _band(e, n),
        ("by age in bands of 10",),
        weight=0.3,
    ),
    Rule("G", "BY E band|bands|bin|bins of N", lambda _, e, n: _band(e, n), ("by age band of 10",), weight=0.3),
)
