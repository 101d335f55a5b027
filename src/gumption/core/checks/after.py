"""What must hold of a result."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from decimal import Decimal
from functools import partial

from gumption.core.checks.check import Check, Weight
from gumption.core.evaluate.run import StepRows, Worked
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.names import plural
from gumption.core.model.types import Value
from gumption.core.plan.steps import Group, Join, Keep, Limit, Plan, Sort
from gumption.core.plan.typing import schemas
from gumption.core.plan.words import expression_words, spoken

_TOLERANCE = 1e-9


def _same(one: Value, other: Value) -> bool:
    if one is None or other is None:
        return one is None and other is None
    if (
        isinstance(one, (int, float, Decimal))
        and isinstance(other, (int, float, Decimal))
        and not isinstance(one, bool)
    ):
        a, b = float(one), float(other)
        return abs(a - b) <= _TOLERANCE * max(1.0, abs(a), abs(b))
    if isinstance(one, dt.date) and isinstance(other, dt.date):
        return _moment(one) == _moment(other)
    return one == other


def _moment(value: dt.date) -> dt.datetime:
    return value if isinstance(value, dt.datetime) else dt.datetime(value.year, value.month, value.day)


def rows_agree(one: Sequence[Sequence[Value]], other: Sequence[Sequence[Value]]) -> bool:
    """True where both tables hold the same rows; order counts only up to rows whose numbers differ by rounding."""
    if len(one) != len(other):
        return False
    if _pairwise(one, other):
        return True

    # Few digits hide what rounding did, many tell large numbers apart: either may be what lays the rows out alike.
    return any(_pairwise(sorted(one, key=key), sorted(other, key=key)) for key in (partial(_key, 9), partial(_key, 13)))


def _key(digits: int, row: Sequence[Value]) -> tuple[str, ...]:
    return tuple(
        f"{float(v):.{digits}g}" if isinstance(v, (int, float, Decimal)) and not isinstance(v, bool) else str(v)
        for v in row
    )


def _pairwise(one: Sequence[Sequence[Value]], other: Sequence[Sequence[Value]]) -> bool:
    return all(all(_same(a, b) for a, b in zip(x, y, strict=True)) for x, y in zip(one, other, strict=True))


def check_agreement(engine: Sequence[Sequence[Value]], worked: Worked) -> Check:
    """Both workings gave the same table."""
    if rows_agree(engine, worked.rows):
        return Check("worked twice", "holds", "Computed twice, both ways agree")
    return Check(
        "worked twice",
        "stop",
        "The two workings disagree; do not use this answer",
        f"{len(engine)} rows against {len(worked.rows)}",
    )


def check_after(plan: Plan, worked: Worked, catalogue: Catalogue) -> list[Check]:
    """Rows accounted for, missing values, ties at a cut, small groups, an empty result."""
    return [
        *_rows_accounted(plan, worked.flow),
        *_missing_left_out(plan, worked.flow, catalogue),
        *_tie_at_cut(plan, worked),
        *_emptied(plan, worked.flow),
    ]


def _rows_accounted(plan: Plan, flow: tuple[StepRows, ...]) -> list[Check]:
    for step, rows in zip(plan.steps, flow, strict=True):
        if isinstance(step, Join) and rows.rows_out > rows.rows_in:
            return [
                Check(
                    "rows accounted", "stop", "A join doubled rows", f"{rows.rows_in:,} rows in, {rows.rows_out:,} out"
                )
            ]
    joined = [
        (s, r) for s, r in zip(plan.steps, flow, strict=True) if isinstance(s, Join) and s.how in ("inner", "left")
    ]
    if not joined:
        return [Check("rows accounted", "holds", "Every row is accounted for at each step")]
    lost = sum(r.rows_in - r.rows_out for _, r in joined)
    if lost:
        return [Check("rows accounted", "caution", f"A join left out {plural(lost, 'row')} without a partner")]
    return [
        Check(
            "rows accounted",
            "holds",
            "The join neither lost nor doubled rows" if len(joined) == 1 else "The joins neither lost nor doubled rows",
        )
    ]


def _missing_left_out(plan: Plan, flow: tuple[StepRows, ...], catalogue: Catalogue) -> list[Check]:
    typed = schemas(plan, catalogue)
    found = []
    for place, step in enumerate(plan.steps):
        if not isinstance(step, Group) or place == 0:
            continue
        before = typed[place - 1]
        for aggregate in step.aggregates:
            field = before.get(aggregate.column or "")
            if field is None or field.table is None or field.column is None:
                continue
            column = catalogue.table(field.table).column(field.column)
            if column.missing and aggregate.function not in ("count", "distinct"):
                share = 100 * column.missing / max(catalogue.table(field.table).rows, 1)
                weight: Weight = "caution" if share >= 5 else "holds"
                found.append(
                    Check(
                        "missing values",
                        weight,
                        f"{spoken(column.name)} is missing on {share:.0f}% of {spoken(field.table)}"
                        if share >= 1
                        else f"{plural(column.missing, 'row')} of {spoken(field.table)} lack {spoken(column.name)}",
                        "missing values are left out",
                    )
                )
    return list(dict.fromkeys(found))


def _tie_at_cut(plan: Plan, worked: Worked) -> list[Check]:
    """A top N whose last rows are equal may have left equal ones out."""
    sort = next((s for s in reversed(plan.steps) if isinstance(s, Sort)), None)
    limit = next((i for i, s in enumerate(plan.steps) if isinstance(s, Limit)), None)
    if sort is None or limit is None or len(worked.rows) < 2 or sort.keys[0].column not in worked.columns:
        return []
    if worked.flow[limit].rows_in == worked.flow[limit].rows_out:
        return []
    place = worked.columns.index(sort.keys[0].column)
    if worked.rows[-1][place] == worked.rows[-2][place]:
        return [Check("ties at the cut", "caution", "The last rows are equal; others left out may equal them too")]
    return []


def _emptied(plan: Plan, flow: tuple[StepRows, ...]) -> list[Check]:
    for step, rows in zip(plan.steps, flow, strict=True):
        if rows.rows_in and not rows.rows_out:
            what = expression_words(step.condition) if isinstance(step, Keep) else "the join"
            return [Check("result not empty", "caution", "No rows are left", f"emptied by: {what}")]
    return []
