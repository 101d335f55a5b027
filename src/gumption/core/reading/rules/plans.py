"""What is left of a plan, how much of it is used, and by how much it was passed or missed."""

from __future__ import annotations

from collections.abc import Callable

from gumption.core.reading import meaning as m
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import Grouped, Marker, Measured, Noun, Part, Worked
from gumption.core.reading.planned import Plan

_THEIR = "their|its|the|our|his|her|each|this"
_DO = "do|does|did|have|has|had"
_GONE = "spent|used|consumed|gone|exhausted|committed|awarded|granted|allocated|given"


def _left(plan: Plan) -> Measured:
    return Measured(m.Arithmetic("-", plan.planned, plan.came))


def _over(plan: Plan) -> Measured:
    return Measured(m.Arithmetic("-", plan.came, plan.planned))


def _used(plan: Plan) -> Worked:
    came, planned = (m.Aggregated("sum", part) for part in (plan.came, plan.planned))
    return Worked(m.Combined("/", came, planned, percent=True))


def _of(parts: tuple[object, ...], build: Callable[[Plan], Measured | Worked]) -> object:
    """What is told of a plan, with those that have it where they are named between."""
    plan = next((p for p in parts if isinstance(p, Plan)), None)
    if plan is None:
        return None
    named = [Grouped(p) for p in parts if isinstance(p, Noun) and p.table is not None]
    return (build(plan), *named) if named else build(plan)


def _of_each(
    parts: tuple[object, ...], build: Callable[[Plan], Measured | Worked]
) -> tuple[Measured | Worked, Grouped] | None:
    """What is left of each budget: for each of those that have one."""
    plan = next((p for p in parts if isinstance(p, Plan)), None)
    if plan is None or not isinstance(plan.planned, m.Col):
        return None
    return build(plan), Grouped(Noun(table=plan.planned.key.table))


def _than_planned(op: m.Comparison, *parts: object) -> tuple[object, ...] | None:
    """Those that came out smaller than planned: what came of each held against its plan."""
    plan = next((p for p in parts if isinstance(p, Plan)), None)
    rows = tuple(p for p in parts if isinstance(p, Noun) and p.table is not None)
    if plan is None or not isinstance(plan.planned, m.Col) or len(rows) > 1:
        return None
    return (*rows, Part(m.Compared(op, plan.came, plan.planned), "number"))


_CAME_OUT = "came|come|turned|made|produced|were|was|are|is|did|got|had|ran|brought|sold|yielded"

RULES = (
    *(
        Rule("NPX", pattern, lambda *p, o=op: _than_planned(o, *p), (example,), weight=1.2)
        for op, words in (
            ("<", "smaller|less|fewer|lower|worse|shorter|cheaper|under|below"),
            (">", "bigger|larger|more|higher|better|longer|dearer|greater|over|above"),
        )
        for one in (words.split("|")[0],)
        for pattern, example in (
            (f"T that|which|who? {_CAME_OUT} out|in? {words} than what? was|were? originally|first? PLAN", f"visits came out {one} than budget"),
            (f"T {words} than PLAN", f"visits {one} than budget"),
        )
    ),
    *(
        Rule(built, pattern, lambda *p, b=build: _of(p, b), (example,), weight=weight)
        for built, build, pattern, example, weight in (
            ("E", _left, f"how much|many of {_THEIR}? PLAN {_DO}", "how much of their budget do", 0.9),
            ("E", _left, f"how much|many PLAN {_DO} we|they|you|i? have|has|got? still? left|remaining|unspent", "how much budget do we have left", 0.9),
            ("E", _left, "how much|many PLAN is|are|was there? left|remaining|unspent|unused?", "how much budget is left", 0.9),
            ("E", _left, f"what|whatever|how is|was|much left|remaining|remains of|in|from {_THEIR}? PLAN", "what is left of the budget", 1.2),
            ("E", _left, f"left|remaining|remains|unspent|unused of|in|from {_THEIR}? PLAN", "left of the budget", 0.9),
            ("E", _left, "PLAN still? left|remaining|unspent|unused to? spend?", "budget left to spend", 0.6),
            ("E", _left, f"how much|many of? {_THEIR}? PLAN is|are|was|has still? left|remaining|remains|unspent|unused|available|over", "how much of the budget is left", 1.5),
            ("Q", _used, f"how much of {_THEIR} PLAN is|are|was|were|has|have been? {_GONE} up?", "how much of the budget has been spent", 1.5),
            ("Q", _used, f"SHARE of? {_THEIR}? PLAN that|which? is|are|was|were|has|have? been? {_GONE} up?", "share of the budget used", 1.5),
            ("Q", _used, f"PLAN {_GONE} in|as per|a cent|percentage", "budget spent in per cent", 0.9),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, b=build: _of_each(p, b), (example,), weight=1.6)
        for build, pattern, example in (
            (_used, f"SHARE of? each|every PLAN is|are|was|were|has|have? been? {_GONE}", "share of each budget spent"),
            (_used, f"how much of each|every PLAN is|are|was|were|has|have? been? {_GONE}", "how much of each budget is spent"),
            (_left, "how much|many of each|every PLAN is|are|was|has still? left|remaining|remains|unspent|unused|available|over", "how much of each budget is left"),
            (_left, "what|whatever|how is|was|much left|remaining|remains of|in|from each|every PLAN", "what is left of each budget"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p, b=build: _of(p, b), (example,), weight=1.5)
        for build, pattern, example in (
            (_used, f"how much|what|SHARE of? {_THEIR} PLAN has|have|had|did|do|does each|every|a? T {_GONE}|use|spend up?", "how much of its budget has each clinic used"),
            *(
                (build, f"by? how much|many|far M? {_DO} each|every|the|all? T {passed} {_THEIR}? PLAN", f"by how much did each clinic {said} its budget")
                for build, passed, said in (
                    (_over, "go|went|gone|run over|above|past|beyond", "go over"),
                    (_over, "exceed|exceeded|overrun|overshoot|overshot|beat|top|topped|pass|passed", "exceed"),
                    (_left, "miss|missed|undershoot|undershot", "miss"),
                    (_left, "fall|fell|come|came|stay|stayed|remain short|under|below|in|within of|under?", "fall short of"),
                )
            ),
            *(
                (build, f"by? how much|many|far M? {sides} {_THEIR}? PLAN is|are|was|were each|every|the|all? T", f"how far {said} its budget is each clinic")
                for build, sides, said in ((_over, "over|above|past|beyond", "over"), (_left, "under|below|within|short of?", "under"))
            ),
        )
    ),
    *(
        Rule("MRK", pattern, lambda *_: Marker("idle"), (example,), weight=0.6)
        for pattern, example in (
            (f"by how much|many|far {_DO}", "by how much did"),
            ("still? have|has left|remaining|unspent|over", "still have left"),
        )
    ),
)  # fmt: skip
