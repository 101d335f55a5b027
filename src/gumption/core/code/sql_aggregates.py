"""Aggregates and windows as SQL."""

from __future__ import annotations

from collections.abc import Sequence
from typing import assert_never

from sqlglot import exp

from gumption.core.code.dialects import Tree, bracketed, cast, is_known, is_null
from gumption.core.code.sql_expressions import ExpressionWriter, float_sql, number_sql
from gumption.core.model.types import Type
from gumption.core.plan.expressions import Aggregate, Expression
from gumption.core.plan.steps import SortKey, Window


def where_column(writer: ExpressionWriter, name: str, where: Expression | None) -> Tree:
    """A column, missing on the rows where the condition does not hold."""
    column = writer.columns[name].copy()
    return column if where is None else exp.Case().when(writer.tree(where), column, copy=False)


def aggregate_sql(aggregate: Aggregate, writer: ExpressionWriter) -> Tree:
    """One aggregate, as an expression over a group."""
    write, where = writer.dialect.write, aggregate.where
    if aggregate.function == "share":
        assert where is not None
        return write("share", writer.tree(where))
    if aggregate.column is None:
        if where is None:
            return exp.Count(this=exp.Star())
        return exp.Count(this=exp.Case().when(writer.tree(where), exp.Literal.number(1), copy=False))
    column = where_column(writer, aggregate.column, where)
    other = writer.columns[aggregate.other].copy() if aggregate.other else None
    kind = writer.schema[aggregate.column].type
    floating = column if kind in (Type.FLOAT, Type.DURATION) else cast(column, "double")
    match aggregate.function:
        case "count":
            return exp.Count(this=column)
        case "distinct":
            return exp.Count(this=exp.Distinct(expressions=[column]))
        case "sum":
            return exp.Sum(this=column)
        case "min" | "max" if kind is Type.BOOLEAN:
            return write("least flag" if aggregate.function == "min" else "greatest flag", column)
        case "min":
            return exp.Min(this=column)
        case "max":
            return exp.Max(this=column)
        case "mean" | "mode" | "deviation" | "variance" | "list":
            return write(aggregate.function, column)
        case "median":
            return write("percentile", floating, number_sql(0.5))
        case "percentile":
            assert aggregate.percent is not None
            return write("percentile", floating, number_sql(aggregate.percent / 100))
        case "correlation" | "covariance" | "slope":
            assert other is not None
            return write(aggregate.function, floating, cast(other, "double"))
        case "weighted_mean" | "latest" | "earliest":
            assert other is not None
            return write(aggregate.function, column, other)
        case _:
            assert_never(aggregate.function)


def times_of_value(aggregate: Aggregate, writer: ExpressionWriter, by: list[Tree]) -> Tree:
    """How often each row's value stands in its group."""
    assert aggregate.column is not None
    column = where_column(writer, aggregate.column, aggregate.where)
    return exp.Window(this=exp.Count(this=column), partition_by=[*_copies(by), column.copy()])


def first_of_ranked(aggregate: Aggregate, writer: ExpressionWriter, by: list[Tree], times: Tree | None) -> Tree:
    """A row number within each group, 1 on the row whose value is the aggregate's: for dialects without it.

    `times` is how often each row's value stands in its group, for a mode.
    """
    assert aggregate.column is not None
    column = where_column(writer, aggregate.column, aggregate.where)
    keys: list[tuple[Tree, bool]] = [(_gap_flag(column), False)]
    if times is not None:
        keys += [(times, True)]
    else:
        assert aggregate.other is not None
        when = writer.columns[aggregate.other].copy()
        keys += [(_gap_flag(when), False), (when, aggregate.function == "latest")]
    keys += [(column.copy(), False)]
    order = exp.Order(expressions=[exp.Ordered(this=t, desc=d) for t, d in keys])
    return exp.Window(this=exp.RowNumber(), partition_by=_copies(by), order=order)


def _gap_flag(tree: Tree) -> Tree:
    """1 where a value is missing, else 0: a key that puts gaps last."""
    return exp.Case().when(is_null(tree), exp.Literal.number(1), copy=False).else_(exp.Literal.number(0), copy=False)


def percentile_places(aggregate: Aggregate, writer: ExpressionWriter, by: list[Tree]) -> tuple[Tree, Tree]:
    """Each row's place among the values of its group, and how many there are: for dialects without percentiles."""
    assert aggregate.column is not None
    column = where_column(writer, aggregate.column, aggregate.where)
    order = exp.Order(expressions=[exp.Ordered(this=_gap_flag(column)), exp.Ordered(this=column.copy())])
    place = exp.Window(this=exp.RowNumber(), partition_by=_copies(by), order=order)
    return place, exp.Window(this=exp.Count(this=column.copy()), partition_by=_copies(by))


def placed_percentile(aggregate: Aggregate, writer: ExpressionWriter, place: Tree, count: Tree) -> Tree:
    """The percentile from what `percentile_places` made."""
    assert aggregate.column is not None
    percent = 50.0 if aggregate.percent is None else aggregate.percent
    column = cast(where_column(writer, aggregate.column, aggregate.where), "double")
    return writer.dialect.write("placed percentile", column, place, count, number_sql(percent / 100))


def _copies(trees: list[Tree]) -> list[Tree]:
    return [tree.copy() for tree in trees]


class WindowWriter:
    """Writes one window over columns that stand for trees."""

    def __init__(self, step: Window, writer: ExpressionWriter, ties: Sequence[SortKey]) -> None:
        self.step, self.writer, self.ties = step, writer, ties
        self.within = [writer.columns[name].copy() for name in step.within]
        self.column = writer.columns[step.column].copy()

    def _ordered(self, *, ties: bool, descending: bool = False) -> exp.Order:
        columns = self.writer.columns
        keys = self.step.order or (SortKey(column=self.step.column, descending=descending),)
        ordered: list[Tree] = []
        for key in (*keys, *(self.ties if ties else ())):
            column = columns[key.column]
            flagged = self.writer.dialect.gaps_first and not key.descending
            if flagged:
                ordered.append(exp.Ordered(this=_gap_flag(column), nulls_first=True))
            ordered.append(exp.Ordered(this=column.copy(), desc=key.descending, nulls_first=flagged))
        return exp.Order(expressions=ordered)

    def _over(self, function: Tree, order: exp.Order | None = None, spec: exp.WindowSpec | None = None) -> Tree:
        return exp.Window(this=function, partition_by=_copies(self.within), order=order, spec=spec)

    def _rows(self, start: Tree | str) -> exp.WindowSpec:
        return exp.WindowSpec(kind="ROWS", start=start, start_side="PRECEDING", end="CURRENT ROW")

    def tree(self) -> Tree:
        """The new column."""
        step, column, write = self.step, self.column, self.writer.dialect.write
        match step.function:
            case "share":
                return write("divide", column, self._over(exp.Sum(this=cast(column.copy(), "double"))))
            case "rank":
                return self._over(exp.Anonymous(this="RANK"), self._ordered(ties=False, descending=True))
            case "place":
                return self._over(exp.RowNumber(), self._ordered(ties=True, descending=True))
            case "running_total":
                return self._over(exp.Sum(this=column), self._ordered(ties=True), self._rows("UNBOUNDED"))
            case "moving_total":
                return self._over(exp.Sum(this=column), self._ordered(ties=True), self._moving())
            case "moving_average":
                return self._mean(self._ordered(ties=True), self._moving())
            case "lag":
                return self._back()
            case "lead":
                return self._shifted(exp.Lead)
            case "change":
                return exp.Sub(this=column, expression=bracketed(self._back()))
            case "change_percent":
                before = self._back()
                change = exp.paren(exp.Sub(this=column, expression=bracketed(before)))
                return write("divide", change, exp.Abs(this=before.copy()))
            case "total":
                return self._over(exp.Sum(this=column))
            case "average":
                return self._mean()
            case "lowest" | "highest" if self.writer.schema[step.column].type is Type.BOOLEAN:
                return self._over(write("least flag" if step.function == "lowest" else "greatest flag", column))
            case "lowest":
                return self._over(exp.Min(this=column))
            case "highest":
                return self._over(exp.Max(this=column))
            case "quantile_bin":
                return self._quantile_bin()
            case "width_bin":
                return self._width_bin()
            case _:
                assert_never(step.function)

    def _moving(self) -> exp.WindowSpec:
        return self._rows(exp.Literal.number((self.step.rows or 1) - 1))

    def _mean(self, order: exp.Order | None = None, spec: exp.WindowSpec | None = None) -> Tree:
        mean = self.writer.dialect.write("mean", self.column)
        return self._over(mean, order, spec)

    def _shifted(self, function: type[exp.Lag] | type[exp.Lead]) -> Tree:
        offset = exp.Literal.number(self.step.back) if self.step.back > 1 else None
        return self._over(function(this=self.column.copy(), offset=offset), self._ordered(ties=True))

    def _back(self) -> Tree:
        """The value so many rows, or so much time, before."""
        step = self.step
        if step.unit == "row":
            return self._shifted(exp.Lag)
        write, when = self.writer.dialect.write, self.writer.columns[step.order[0].column]
        if step.unit == "day":
            epoch = cast(exp.Literal.string("1970-01-01"), "date")
            along = write("days", epoch, cast(when.copy(), "date"))
        else:
            along = write("month count", write("year", when), write("month", when))
        back = exp.Literal.number(step.back * (12 if step.unit == "year" else 1))
        spec = exp.WindowSpec(kind="RANGE", start=back, start_side="PRECEDING", end=back.copy(), end_side="PRECEDING")
        # Where a moment is missing it does not matter, so that each dialect may put it where it does.
        order = exp.Order(expressions=[exp.Ordered(this=along, nulls_first=self.writer.dialect.gaps_first)])
        seen = self._over(exp.Min(this=self.column.copy()), order, spec)
        return exp.Case().when(is_known(when), seen, copy=False)

    def _quantile_bin(self) -> Tree:
        # NTILE counts every row; rows without a value are set apart so that they take no place in a bin.
        bins = exp.Anonymous(this="NTILE", expressions=[exp.Literal.number(self.step.bins or 2)])
        tile = exp.Window(
            this=bins, partition_by=[*_copies(self.within), _gap_flag(self.column)], order=self._ordered(ties=True)
        )
        return exp.Case().when(is_known(self.column), tile, copy=False)

    def _width_bin(self) -> Tree:
        bins = self.step.bins or 2
        value = cast(self.column.copy(), "double")
        low, high = (self._over(kind(this=value.copy())) for kind in (exp.Min, exp.Max))
        width = exp.paren(
            exp.Div(this=exp.paren(exp.Sub(this=high.copy(), expression=low.copy())), expression=float_sql(bins))
        )
        place = exp.Floor(this=exp.Div(this=exp.paren(exp.Sub(this=value, expression=low.copy())), expression=width))
        least = exp.Least(
            this=exp.Add(this=cast(place, "bigint"), expression=exp.Literal.number(1)),
            expressions=[exp.Literal.number(bins)],
        )
        known = is_known(self.column)
        same = exp.and_(known, exp.EQ(this=low, expression=high))
        return exp.Case().when(same, exp.Literal.number(1), copy=False).when(known.copy(), least, copy=False)


def ranked_value(aggregate: Aggregate, writer: ExpressionWriter, number: Tree) -> Tree:
    """The aggregate from a row number of `first_of_ranked`."""
    assert aggregate.column is not None
    first = exp.EQ(this=number, expression=exp.Literal.number(1))
    conditions: list[Tree] = [first]
    if aggregate.other is not None:
        conditions.append(is_known(writer.columns[aggregate.other]))
    column = where_column(writer, aggregate.column, aggregate.where)
    return exp.Max(this=exp.Case().when(exp.and_(*conditions), column, copy=False))
