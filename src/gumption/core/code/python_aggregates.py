"""Aggregates as pandas calls."""

from __future__ import annotations

from gumption.core.model.types import Type
from gumption.core.plan.expressions import Aggregate, ColumnRef, Constant, Expression
from gumption.core.plan.fields import Field, Schema

_METHODS = {
    "count": "count",
    "distinct": "nunique",
    "mean": "mean",
    "median": "median",
    "min": "min",
    "max": "max",
    "deviation": "std",
    "variance": "var",
    "sum": "sum",
    "percentile": "quantile",
}
"""The method of a column for each aggregate that is one."""


def are_plain(by: tuple[str, ...], aggregates: tuple[Aggregate, ...], schema: Schema) -> bool:
    """True for figures that are methods of columns which are no keys; rows are counted by any of them."""
    if any(a.column in by or (a.function not in (*_METHODS, "share") or _needs_values(a, schema)) for a in aggregates):
        return False
    bare = [a for a in aggregates if a.column is None and a.where is None]
    return not bare or len(aggregates) == 1 or any(a.column is not None for a in aggregates)


def named_work(aggregate: Aggregate, gaps: set[str]) -> str:
    """What is done to the values of each group, as `agg` takes it."""
    if aggregate.function == "share":
        return "'mean'"
    if aggregate.column is None:
        return "'sum'"
    # The sum of no value at all is none.
    if aggregate.function == "percentile" or (
        aggregate.function == "sum" and (aggregate.where is not None or aggregate.column in gaps)
    ):
        return f"lambda values: values.{_method(aggregate)}"
    return repr(_METHODS[aggregate.function])


def of_each_group(aggregate: Aggregate, groups: str, own: str | None, schema: Schema) -> str:
    """An aggregate as one value a group, the groups as its index; `own` is the column of what it counts, if it has one."""
    column = own or aggregate.column
    if column is None:
        return f"{groups}.size()"
    of_column = _of_column(aggregate, f"{groups}[{column!r}]", schema)
    if of_column is not None:
        summed = aggregate.function == "sum" and aggregate.column is not None
        return of_column + (as_cents(schema[aggregate.column or ""]) if summed else "")
    assert aggregate.column is not None
    kind = schema[aggregate.column].type
    typed = {Type.TEXT: "str", Type.BOOLEAN: "object", Type.TIME: "object"}.get(
        kind, "datetime64[us]" if kind.is_time else "float"
    )
    if aggregate.other is None:
        work = f"{groups}[{column!r}], lambda values: {_of_values(aggregate, 'values')}"
    else:
        work = f"{groups}, lambda rows: {_of_rows(aggregate, 'rows', column)}"
    return f"each({work}).astype({typed!r})"


def of_all_rows(aggregate: Aggregate, frame: str, own: str | None, schema: Schema) -> str:
    """An aggregate of all rows as one value; `own` as for `of_each_group`."""
    column = own or aggregate.column
    if column is None:
        return f"len({frame})"
    of_column = _of_column(aggregate, f"{frame}[{column!r}]", schema)
    if of_column is not None:
        return of_column
    if aggregate.other is None:
        return _of_values(aggregate, f"{frame}[{column!r}]")
    return _of_rows(aggregate, frame, column)


def as_cents(field: Field, expression: Expression | None = None) -> str:
    """Exact decimals are floats here: rounded to their digits they stay equal where they are."""
    plain = isinstance(expression, (ColumnRef, Constant))
    return f".round({field.scale})" if field.type is Type.DECIMAL and not plain else ""


def _of_column(aggregate: Aggregate, column: str, schema: Schema) -> str | None:
    """An aggregate as a method of a column or of its groups; None where it needs the values themselves."""
    if aggregate.function == "share":
        return f"{column}.mean()"
    if aggregate.column is None:
        return f"{column}.count()"
    if aggregate.function not in _METHODS or _needs_values(aggregate, schema):
        return None
    return f"{column}.{_method(aggregate)}"


def _method(aggregate: Aggregate) -> str:
    """The call of a column's method; the sum of no value at all is none."""
    match aggregate.function:
        case "percentile":
            argument = repr((aggregate.percent or 0) / 100)
        case "sum":
            argument = "min_count=1"
        case _:
            argument = ""
    return f"{_METHODS[aggregate.function]}({argument})"


def _needs_values(aggregate: Aggregate, schema: Schema) -> bool:
    """Least and greatest of what pandas does not order among gaps."""
    if aggregate.column is None:
        return False
    kind = schema[aggregate.column or ""].type
    return aggregate.function in ("min", "max") and kind in (Type.TEXT, Type.BOOLEAN, Type.TIME)


def _of_values(aggregate: Aggregate, values: str) -> str:
    """What needs the values themselves: of none it is missing."""
    match aggregate.function:
        case "mode":
            return f"min({values}.mode(), default=np.nan)"
        case "list":
            return f"', '.join(sorted({values}.dropna().unique())) if {values}.notna().any() else np.nan"
        case "min" | "max":
            return f"{aggregate.function}({values}.dropna(), default=np.nan)"
        case _:
            raise AssertionError(f"{aggregate.function} is a method of columns")


def _of_rows(aggregate: Aggregate, rows: str, column: str) -> str:
    """What needs two columns; only rows that have both count."""
    both = f"{rows}[{list(dict.fromkeys([column, aggregate.other]))!r}].dropna()"
    y, x = f"{rows}[{column!r}]", f"{rows}[{aggregate.other!r}]"
    match aggregate.function:
        case "correlation" | "slope":
            return f"related({y}, {x}, {aggregate.function!r})"
        case "covariance":
            return f"{y}.astype(float).cov({x}.astype(float))"
        case "weighted_mean":
            return f"({y} * {x}).sum() / ({x}.where({y}.notna()).sum() or np.nan)"
        case "latest" | "earliest":
            ascending = aggregate.function == "earliest"
            order = f"sort_values([{aggregate.other!r}, {column!r}], ascending=[{ascending}, True])"
            return f"next(iter({both}.{order}[{column!r}]), np.nan)"
        case _:
            raise AssertionError(f"{aggregate.function} needs one column")
