"""A look carried out: every probe's rows turned into what stands out in them, and what is said of all of it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

from gumption.core.checks.check import Check
from gumption.core.model.names import plural
from gumption.core.model.types import Value
from gumption.core.plan.steps import Plan
from gumption.core.plan.words import listed
from gumption.core.study.courses import remarks_of_series
from gumption.core.study.differences import (
    remarks_of_correlations,
    remarks_of_groups,
    remarks_of_repeats,
    remarks_of_shares,
    remarks_of_spread,
    remarks_of_ties,
)
from gumption.core.study.look import (
    CorrelationProbe,
    GroupsProbe,
    Look,
    Probe,
    Remark,
    RepeatProbe,
    SeriesProbe,
    ShareProbe,
    SpreadProbe,
    TieProbe,
    in_rows,
    worth_telling,
)

Rows = Sequence[Sequence[Value]]

LOOK_METHOD = (
    "Courses over time: a line and a season, fitted robustly (Tukey’s biweight); a period is odd from four robust deviations on.",
    "Kinds: Welch’s analysis of variance, and chi-squared for gaps; told from two hundredths explained on.",
    "Values: told where they lie nine robust deviations off, alone. Pairs: Pearson’s correlation from 0.3 on, of kinds Cramér’s V from 0.15 on.",
    "What may be chance is held against how many things were looked at (Benjamini and Hochberg); one in a hundred may be an accident.",
)


def look_at(look: Look, fetch: Callable[[Plan], Rows | None]) -> tuple[list[Remark], int, int]:
    """What stands out, how many things were looked at, and how many plans gave too much to be looked at."""
    found: list[Remark] = []
    looked_at = passed = 0
    for one in (look, *look.further):
        for probe in one.probes:
            rows = fetch(probe.plan)
            if rows is None:
                passed += 1
                continue
            remarks, looked = _remarks(probe, rows, one.rows)
            found += [replace(in_rows(r, one), probe=probe) for r in remarks]
            looked_at += looked
    return worth_telling(found, looked_at), looked_at, passed


def _remarks(probe: Probe, rows: Rows, called: str) -> tuple[list[Remark], int]:
    match probe:
        case SeriesProbe():
            return remarks_of_series(probe, rows)
        case GroupsProbe():
            return remarks_of_groups(probe, rows, called)
        case CorrelationProbe():
            return remarks_of_correlations(probe, rows)
        case TieProbe():
            return remarks_of_ties(probe, rows)
        case SpreadProbe():
            return remarks_of_spread(probe, rows, called)
        case RepeatProbe():
            return remarks_of_repeats(probe, rows, called)
        case ShareProbe():
            return remarks_of_shares(probe, rows, called)


def look_finding(look: Look, remarks: Sequence[Remark], looked_at: int) -> str:
    """The first of what stands out, and how much there is."""
    if not remarks:
        return f"Nothing stands out in {listed([look.subject, *(f.subject for f in look.further)])}: {plural(looked_at, 'thing')} were looked at."
    more = (
        f" {plural(len(remarks) - 1, 'more thing')} stand{'s' if len(remarks) == 2 else ''} out."
        if len(remarks) > 1
        else ""
    )
    return f"{remarks[0].sentence}.{more}"


def look_checks(looked_at: int, passed: int) -> tuple[Check, ...]:
    found = [Check("held against many", "holds", f"Held against how many things were looked at: {looked_at:,}")]
    if passed:
        found.append(Check("passed over", "caution", f"{plural(passed, 'look')} would have given too many rows", ""))
    return tuple(found)
