"""Whether two workings of a plan came to the same answer."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from decimal import Decimal
from functools import partial

from gumption.core.checks import words
from gumption.core.checks.check import Check
from gumption.core.evaluate.run import Worked
from gumption.core.model.style import written
from gumption.core.model.types import Value
from gumption.core.plan.keys import order_after
from gumption.core.plan.steps import Plan

FLOAT_BOUND = 1e-9
"""How far two floats may lie apart, of the larger of them; of numbers below 1 the distance itself."""

Rows = Sequence[Sequence[Value]]


def check_agreement(columns: Sequence[str], rows: Rows, total: int, worked: Worked, plan: Plan) -> Check:
    """Both workings gave the same table: columns, how many rows, and the same ones as far as they are kept."""
    if tuple(columns) != worked.columns:
        return words.workings_disagree(f"columns {', '.join(columns)} against {', '.join(worked.columns)}")
    if total != worked.total:
        return words.workings_disagree(f"{written(total)} rows against {written(worked.total)}")
    if not rows_agree(rows, worked.rows, [columns.index(name) for name in rows_ordered_by(plan)]):
        return words.workings_disagree(f"{written(total)} rows each, and not the same ones")
    return words.BOTH_AGREE


def rows_ordered_by(plan: Plan) -> tuple[str, ...]:
    """Columns of a plan's answer whose values come in the order of a sort, the first one first."""
    order: tuple[str, ...] = ()
    for step in plan.steps:
        order = order_after(step, order)
    return order


def rows_agree(one: Rows, other: Rows, in_order: Sequence[int] = ()) -> bool:
    """True where both tables hold the same rows, and the columns `in_order` of both come in the same order.

    Exact values are the same or they are not; floats may differ by `FLOAT_BOUND`.
    """
    if len(one) != len(other):
        return False
    if _pairwise(one, other):
        return True
    if not all(_same(x[place], y[place]) for x, y in zip(one, other, strict=True) for place in in_order):
        return False

    floats = {place for row in (*one, *other) for place, value in enumerate(row) if isinstance(value, float)}

    # Few digits hide what rounding did, many tell large numbers apart: either may be what lays the rows out alike.
    keys = (partial(_key, floats, digits) for digits in (9, 13))
    return any(_pairwise(sorted(one, key=key), sorted(other, key=key)) for key in keys)


def _pairwise(one: Rows, other: Rows) -> bool:
    return all(all(_same(a, b) for a, b in zip(x, y, strict=True)) for x, y in zip(one, other, strict=True))


def _same(one: Value, other: Value) -> bool:
    if isinstance(one, (int, float, Decimal)) and isinstance(other, (int, float, Decimal)):
        if isinstance(one, float) or isinstance(other, float):
            a, b = float(one), float(other)
            return abs(a - b) <= FLOAT_BOUND * max(1.0, abs(a), abs(b))
        return one == other
    if isinstance(one, dt.date) and isinstance(other, dt.date):
        return _moment(one) == _moment(other)
    return one == other


def _moment(value: dt.date) -> dt.datetime:
    return value if isinstance(value, dt.datetime) else dt.datetime(value.year, value.month, value.day)


def _key(floats: set[int], digits: int, row: Sequence[Value]) -> tuple[list[str], list[str]]:
    """A row as texts to sort by: what is exact before what is rounded."""
    exact = [_exact_text(value) for place, value in enumerate(row) if place not in floats]
    return exact, [_rounded_text(row[place], digits) for place in sorted(floats)]


def _rounded_text(value: Value, digits: int) -> str:
    """A number by its first digits; what rounding left of nought is nought."""
    if not isinstance(value, (int, float, Decimal)):
        return str(value)
    number = float(value)
    return f"{0.0 if abs(number) < 1e-12 else number:.{digits}g}"


def _exact_text(value: Value) -> str:
    """A value as a text that is the same for the same value, whatever it is held in."""
    if isinstance(value, dt.date):
        return str(_moment(value))
    if isinstance(value, (int, Decimal)) and not isinstance(value, bool):
        return f"{Decimal(value).normalize():f}"
    return str(value)
