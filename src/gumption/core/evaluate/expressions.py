"""The value of an expression for every row, on NumPy columns."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Sequence
from typing import Any, assert_never

import numpy as np

from gumption.core.evaluate import conditions, dates, numbers, texts
from gumption.core.evaluate.vectors import (
    EPOCH,
    EPOCH_TIME,
    Vector,
    all_missing,
    condition,
    no_missing,
    stacked,
    truth,
)
from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan.expression_types import decimal_of, decimal_scale
from gumption.core.plan.expressions import Constant, Expression

ColumnSource = Callable[[str], Vector]


def evaluate(expression: Expression, column: ColumnSource, rows: int) -> Vector:
    """The expression's value for each of the rows; `column` gives a column by name."""

    def of(part: Expression) -> Vector:
        return evaluate(part, column, rows)

    match expression:
        case ex.ColumnRef(name=name):
            return column(name)
        case Constant():
            return constant(expression, rows)
        case ex.Compare(op=op, left=left, right=right):
            return condition(conditions.compare(op, of(left), of(right)))
        case ex.Between(value=value, low=low, high=high):
            found = of(value)
            above = conditions.compare(">=", found, constant(low, rows))
            return condition(above & conditions.compare("<=", found, constant(high, rows)))
        case ex.OneOf(value=value, options=options):
            return condition(conditions.one_of(of(value), [constant(o, rows) for o in options]))
        case ex.TextMatch(how=how, value=value, pattern=pattern):
            return condition(conditions.text_match(how, of(value), pattern))
        case ex.PatternMatch(value=value, pattern=pattern):
            return condition(conditions.pattern_match(of(value), pattern))
        case ex.Holds():
            return of(expression.as_pattern)
        case ex.IsMissing(value=value):
            return condition(conditions.is_missing(of(value)))
        case ex.AllOf(items=items):
            return condition(np.logical_and.reduce([truth(of(i)) for i in items]))
        case ex.AnyOf(items=items):
            return condition(np.logical_or.reduce([truth(of(i)) for i in items]))
        case ex.Negated(item=item):
            return condition(~truth(of(item)))
        case ex.Case(branches=branches, otherwise=otherwise):
            thens = [of(b.then) for b in branches]
            thens.append(of(otherwise) if otherwise is not None else all_missing(thens[0], rows))
            return _chosen([truth(of(b.when)) for b in branches], thens)
        case ex.FirstKnown(items=items):
            values = [of(i) for i in items]
            return _chosen([~v.missing for v in values[:-1]], values)
        case ex.Arithmetic(op=op, left=left, right=right):
            return numbers.arithmetic(op, of(left), of(right))
        case ex.NumberFunction(value=value):
            return numbers.number_function(expression, of(value))
        case ex.Bin(value=value):
            return numbers.bins(expression, of(value))
        case ex.TextFunction(value=value):
            return texts.text_function(expression, of(value))
        case ex.Concatenate(parts=parts):
            return texts.concatenate([of(p) for p in parts])
        case ex.Replace(value=value):
            return texts.replaced(expression, of(value))
        case ex.SplitPart(value=value):
            return texts.split_part(expression, of(value))
        case ex.Slice(value=value):
            return texts.sliced(expression, of(value))
        case ex.Extract(value=value):
            return texts.extracted(expression, of(value))
        case ex.DatePart(value=value):
            return dates.date_part(expression, of(value))
        case ex.DateFloor(value=value):
            return dates.date_floor(expression, of(value))
        case ex.DateDifference(start=start, end=end):
            return dates.date_difference(expression, of(start), of(end))
        case ex.DateShift(value=value):
            return dates.date_shift(expression, of(value))
        case _:
            assert_never(expression)


def _chosen(tests: Sequence[np.ndarray], values: Sequence[Vector]) -> Vector:
    """Row by row the value whose test is the first to hold; the last value has none."""
    rows = len(values[0])
    column = np.full(rows, len(tests), dtype=np.int64)
    for place in range(len(tests) - 1, -1, -1):
        column[tests[place]] = place
    return stacked(values).at(column * rows + np.arange(rows))


def constant(constant: Constant, rows: int) -> Vector:
    """One value for all rows: a single cell seen many times."""

    def spread(value: Any, dtype: Any, scale: int = 0) -> Vector:
        cell = np.broadcast_to(np.asarray(value, dtype=dtype), (rows,))
        return Vector(constant.type, cell, no_missing(rows), scale)

    match constant.type:
        case Type.TEXT:
            words = np.array([str(constant.value)], dtype=object)
            return Vector(Type.TEXT, np.broadcast_to(np.int64(0), (rows,)), no_missing(rows), words=words)
        case Type.DATE:
            return spread((dt.date.fromisoformat(str(constant.value)) - EPOCH).days, np.int64)
        case Type.TIMESTAMP:
            since = dt.datetime.fromisoformat(str(constant.value)) - EPOCH_TIME
            return spread(since // dt.timedelta(microseconds=1), np.int64)
        case Type.TIME:
            since = dt.datetime.combine(EPOCH, dt.time.fromisoformat(str(constant.value))) - EPOCH_TIME
            return spread(since // dt.timedelta(microseconds=1), np.int64)
        case Type.BOOLEAN:
            return spread(bool(constant.value), np.bool_)
        case Type.INTEGER:
            return spread(int(constant.value), np.int64)
        case Type.DECIMAL:
            scale = decimal_scale(constant)
            return spread(int(decimal_of(constant).scaleb(scale)), np.int64, scale)
        case Type.FLOAT | Type.DURATION:
            return spread(float(constant.value), np.float64)
        case _:
            assert_never(constant.type)
