"""What must hold of a result."""

from __future__ import annotations

from decimal import Decimal

from gumption.core.checks import words
from gumption.core.checks.check import Check
from gumption.core.checks.twice import FLOAT_BOUND
from gumption.core.evaluate.facts import FEW_VALUES, GroupFacts, GroupName, StepRows
from gumption.core.evaluate.run import Worked
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Type
from gumption.core.plan.expressions import Aggregate
from gumption.core.plan.steps import (
    Append,
    Derive,
    Fill,
    Group,
    Join,
    Keep,
    Limit,
    Plan,
    Spread,
    Step,
    Unpivot,
    other_plan,
)
from gumption.core.plan.typing import schemas
from gumption.core.plan.words import expression_words, spoken
from gumption.core.present import numbers
from gumption.core.present.answer import Answer


def check_after(answer: Answer, worked: Worked | None, catalogue: Catalogue) -> list[Check]:
    """What must hold of an answer; without a second working only what the answer itself shows."""
    plan = answer.plan
    found = _many_groups(answer)
    if worked is None:
        return found + _missing_in_catalogue(plan, catalogue)
    flow = worked.flow
    return [
        *_rows_accounted(plan, flow),
        *_under_several(plan, flow),
        *_groups_add_up(answer, flow),
        *_missing_left_out(plan, flow),
        *_undefined(plan, flow),
        *_pulled_means(flow, answer),
        *_small_groups(answer, flow),
        *_tie_at_cut(plan, flow),
        *_emptied(plan, flow),
        *found,
    ]


def _steps(plan: Plan, flow: tuple[StepRows, ...]) -> list[tuple[Step, StepRows]]:
    """Every step with its rows, those of another plan before the step that brings it in."""
    found: list[tuple[Step, StepRows]] = []
    for step, rows in zip(plan.steps, flow, strict=True):
        other = other_plan(step)
        found += [*(_steps(other, rows.other) if other is not None else ()), (step, rows)]
    return found


def _rows_accounted(plan: Plan, flow: tuple[StepRows, ...]) -> list[Check]:
    """Rows in are rows out and rows left out, at every step."""
    for step, rows in _steps(plan, flow):
        if isinstance(step, Join) and rows.rows_out > rows.rows_in:
            return [words.rows_went_wrong(rows, doubled=True)]
        if isinstance(step, Keep) and rows.rows_in != rows.rows_out + sum(d.rows for d in rows.dropped):
            return [words.rows_went_wrong(rows, doubled=False)]
    joined = [(s, r) for s, r in _steps(plan, flow) if isinstance(s, Join) and s.how in ("inner", "left") and s.on]
    if not joined:
        return [words.ROWS_ACCOUNTED]
    lost = sum(r.rows_in - r.rows_out for _, r in joined)
    if lost:
        return [words.join_left_out(lost, [d for _, r in joined for d in r.dropped])]
    return [words.joins_are_sound(len(joined))]


def _under_several(plan: Plan, flow: tuple[StepRows, ...]) -> list[Check]:
    """Rows that stand once for each of their items, and so count in several groups."""
    spread = [(s, r) for s, r in _steps(plan, flow) if isinstance(s, Spread) and r.rows_out > r.rows_in]
    return [words.rows_under_several(s.column, r.rows_in, r.rows_out) for s, r in spread]


def _last_group(plan: Plan, flow: tuple[StepRows, ...]) -> tuple[int, Group, GroupFacts] | None:
    for place in range(len(plan.steps) - 1, -1, -1):
        step, facts = plan.steps[place], flow[place].group
        if isinstance(step, Group) and facts is not None:
            return place, step, facts
    return None


def _groups_add_up(answer: Answer, flow: tuple[StepRows, ...]) -> list[Check]:
    """Sums and counts of the groups shown, held against those of all rows together."""
    last = _last_group(answer.plan, flow)
    if last is None or not last[1].by or answer.total > len(answer.rows):
        return []
    place, step, facts = last
    before, after = answer.plan.steps[:place], answer.plan.steps[place + 1 :]
    several = any(isinstance(s, Spread) for s in before)
    if several or any(isinstance(s, (Append, Unpivot, Fill, Join)) for s in after):
        return []
    found = []
    for aggregate in step.aggregates:
        whole = facts.whole.get(aggregate.name)
        if aggregate.name not in answer.columns or not isinstance(whole, (int, float, Decimal)):
            continue
        column = answer.columns.index(aggregate.name)
        values = [row[column] for row in answer.rows]
        total = sum((Decimal(str(v)) for v in values if isinstance(v, (int, float, Decimal))), Decimal(0))
        found.append(_adds_up(aggregate, total, Decimal(str(whole)), len(answer.rows), facts, answer))
    return found[:1]


def _adds_up(
    aggregate: Aggregate, total: Decimal, whole: Decimal, shown: int, facts: GroupFacts, answer: Answer
) -> Check:
    name, field = aggregate.name, answer.schema[aggregate.name]
    said, shown_total = numbers.shown(whole, field), numbers.shown(total, field)
    exact = field.type in (Type.INTEGER, Type.DECIMAL)
    if abs(total - whole) <= (0 if exact else Decimal(FLOAT_BOUND) * max(Decimal(1), abs(whole))):
        return words.groups_add_up(said)
    if shown < facts.groups:
        share = float(total / whole) if whole > 0 and total >= 0 else None
        return words.some_groups_are_shown(shown, facts.groups, name, said, shown_total, share)
    if aggregate.function == "distinct":
        return words.some_are_in_several_groups(name, shown_total, said)
    return words.groups_do_not_add_up(shown_total, said)


def _missing_left_out(plan: Plan, flow: tuple[StepRows, ...]) -> list[Check]:
    found = []
    for step, rows in _steps(plan, flow):
        if rows.group is None or not isinstance(step, Group):
            continue
        looked = {a.column for a in step.aggregates if a.function not in ("count", "distinct") and not a.carries}
        for name, missing in rows.group.missing.items():
            if missing and name in looked:
                found.append(words.missing_values(name, missing, missing / max(rows.rows_in, 1), "the rows"))
    return list(dict.fromkeys(found))


def _missing_in_catalogue(plan: Plan, catalogue: Catalogue) -> list[Check]:
    """The same from what was measured of the tables, where the rows themselves are still to be worked."""
    typed = schemas(plan, catalogue)
    found = []
    for place, step in enumerate(plan.steps):
        for aggregate in step.aggregates if isinstance(step, Group) else ():
            field = typed[place - 1].get(aggregate.column or "")
            if field is None or field.table is None or field.column is None:
                continue
            table = catalogue.table(field.table)
            column = table.column(field.column)
            if column.missing and aggregate.function not in ("count", "distinct"):
                share = column.missing / max(table.rows, 1)
                found.append(words.missing_values(column.name, column.missing, share, spoken(table.name)))
    return list(dict.fromkeys(found))


def _undefined(plan: Plan, flow: tuple[StepRows, ...]) -> list[Check]:
    return [
        words.undefined(step.name, rows.undefined)
        for step, rows in _steps(plan, flow)
        if isinstance(step, Derive) and rows.undefined
    ]


_PULLED, _ENOUGH = 0.5, 20
"""A mean further than this share of the median from it is not what is usual, where there are values enough to tell."""


def _pulled_means(flow: tuple[StepRows, ...], answer: Answer) -> list[Check]:
    facts = next((rows.group for rows in reversed(flow) if rows.group is not None), None)
    if facts is None or not facts.means:
        return []
    far = [m for m in facts.means if m.values >= _ENOUGH and abs(m.mean - m.median) > _PULLED * abs(m.median)]
    if not far:
        enough = any(m.values >= _ENOUGH for m in facts.means)
        return [words.MEANS_ARE_USUAL] if enough else []
    worst = max(far, key=lambda m: abs(m.mean - m.median) / max(abs(m.median), 1e-12))
    field = answer.schema.get(worst.aggregate)
    mean, median = numbers.shown(worst.mean, field), numbers.shown(worst.median, field)
    return [words.mean_is_pulled(worst.aggregate, _named(worst.group, answer), mean, median, len(far) - 1)]


def _named(group: GroupName, answer: Answer) -> str:
    fields = {name: field for schema in answer.typed for name, field in schema.items()}
    return ", ".join(numbers.shown(value, fields.get(name)) for name, value in group)


_OF_FEW = (
    "mean",
    "median",
    "percentile",
    "deviation",
    "variance",
    "share",
    "correlation",
    "covariance",
    "slope",
    "weighted_mean",
)


def _small_groups(answer: Answer, flow: tuple[StepRows, ...]) -> list[Check]:
    """Averages and the like of a handful of rows; counts and sums are what they are."""
    found = []
    for step, rows in _steps(answer.plan, flow):
        facts = rows.group
        if facts is None or not isinstance(step, Group) or not any(a.function in _OF_FEW for a in step.aggregates):
            continue
        # Where every group is one row, nothing was averaged.
        if step.by and rows.rows_in == facts.groups:
            continue
        if not step.by:
            if rows.rows_in < FEW_VALUES:
                found.append(words.of_few_rows(rows.rows_in))
        elif facts.few:
            fewest = [(_named(name, answer), size) for name, size in facts.fewest]
            found.append(words.small_groups(facts.few, facts.groups, fewest))
        else:
            found.append(words.GROUPS_LARGE_ENOUGH)
    return found


def _tie_at_cut(plan: Plan, flow: tuple[StepRows, ...]) -> list[Check]:
    """A top N whose last row equals rows that were left out."""
    for step, rows in _steps(plan, flow):
        if isinstance(step, Limit) and rows.tied is not None:
            return [words.tie_at_the_cut(rows.tied)]
    return []


def _emptied(plan: Plan, flow: tuple[StepRows, ...]) -> list[Check]:
    for step, rows in zip(plan.steps, flow, strict=True):
        if rows.rows_in and not rows.rows_out:
            what = "the join" if not isinstance(step, Keep) else expression_words(step.condition)
            if rows.dropped:
                what = rows.dropped[-1].what
            return [words.emptied_by(what)]
    return []


MOST_GROUPS = 500


def _many_groups(answer: Answer) -> list[Check]:
    """So many groups that nobody can look at them all."""
    rows = answer.total
    if answer.group is None or not answer.group.by or rows <= MOST_GROUPS:
        return []
    return [words.too_many_groups(rows)]
