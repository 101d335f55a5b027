"""Expressions over one row, and the aggregates over many.

Conditions are two-valued: a comparison with a missing value is false, and its negation is true.
"""

from __future__ import annotations

from typing import Annotated, Literal, TypeAlias

from pydantic import BaseModel, ConfigDict, Field

from gumption.core.model.types import Type


class Node(BaseModel):
    """A part of a plan: frozen, and refusing fields it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class ColumnRef(Node):
    """The value of a column."""

    kind: Literal["column"] = "column"
    name: str


class Constant(Node):
    """A value written in the plan; dates and timestamps as ISO text."""

    kind: Literal["constant"] = "constant"
    type: Type
    value: bool | int | float | str


class Compare(Node):
    """One value held against another."""

    kind: Literal["compare"] = "compare"
    op: Literal["=", "!=", "<", "<=", ">", ">="]
    left: Expression
    right: Expression


class Between(Node):
    """From low to high, both included."""

    kind: Literal["between"] = "between"
    value: Expression
    low: Constant
    high: Constant


class OneOf(Node):
    """Equal to one of several constants."""

    kind: Literal["one_of"] = "one_of"
    value: Expression
    options: tuple[Constant, ...] = Field(min_length=1)


class TextMatch(Node):
    """Text that contains, starts or ends with a pattern, without regard to case."""

    kind: Literal["text_match"] = "text_match"
    how: Literal["contains", "starts", "ends"]
    value: Expression
    pattern: str


class IsMissing(Node):
    """True where the value is missing."""

    kind: Literal["is_missing"] = "is_missing"
    value: Expression


class AllOf(Node):
    """Every condition holds."""

    kind: Literal["all"] = "all"
    items: tuple[Expression, ...] = Field(min_length=1)


class AnyOf(Node):
    """At least one condition holds."""

    kind: Literal["any"] = "any"
    items: tuple[Expression, ...] = Field(min_length=1)


class Negated(Node):
    """The condition does not hold."""

    kind: Literal["not"] = "not"
    item: Expression


class Arithmetic(Node):
    """Two numbers; division gives a float, and missing where the divisor is zero."""

    kind: Literal["arithmetic"] = "arithmetic"
    op: Literal["+", "-", "*", "/"]
    left: Expression
    right: Expression


class DatePart(Node):
    """A part of a date as an integer; Monday is weekday 1."""

    kind: Literal["date_part"] = "date_part"
    part: Literal["year", "quarter", "month", "day", "weekday", "hour"]
    value: Expression


class DateFloor(Node):
    """The first day of the year, quarter, month or week (from Monday) that holds a date, or its day."""

    kind: Literal["date_floor"] = "date_floor"
    unit: Literal["year", "quarter", "month", "week", "day"]
    value: Expression


class DateDifference(Node):
    """End minus start: whole calendar days, hours with fractions, or years of 365.25 days."""

    kind: Literal["date_difference"] = "date_difference"
    unit: Literal["days", "hours", "minutes", "years"]
    start: Expression
    end: Expression


Expression: TypeAlias = Annotated[
    ColumnRef
    | Constant
    | Compare
    | Between
    | OneOf
    | TextMatch
    | IsMissing
    | AllOf
    | AnyOf
    | Negated
    | Arithmetic
    | DatePart
    | DateFloor
    | DateDifference,
    Field(discriminator="kind"),
]

AggregateName: TypeAlias = Literal[
    "count", "distinct", "sum", "mean", "median", "min", "max", "deviation", "percentile", "correlation"
]


class Aggregate(Node):
    """One number from the rows of a group. Missing values are left out; `count` without a column counts rows.

    `percent` is for `percentile` alone (0 to 100, linear interpolation), `other` for `correlation` alone.
    """

    name: str
    function: AggregateName
    column: str | None = None
    percent: float | None = Field(default=None, ge=0, le=100)
    other: str | None = None


for _node in (Compare, Between, OneOf, TextMatch, IsMissing, AllOf, AnyOf, Negated, Arithmetic):
    _node.model_rebuild()
for _timed in (DatePart, DateFloor, DateDifference):
    _timed.model_rebuild()


def children(expression: Expression) -> tuple[Expression, ...]:
    """The expressions directly inside one."""
    match expression:
        case ColumnRef() | Constant():
            return ()
        case Compare(left=left, right=right) | Arithmetic(left=left, right=right):
            return (left, right)
        case Between(value=value, low=low, high=high):
            return (value, low, high)
        case OneOf(value=value, options=options):
            return (value, *options)
        case TextMatch(value=value) | IsMissing(value=value) | DatePart(value=value) | DateFloor(value=value):
            return (value,)
        case AllOf(items=items) | AnyOf(items=items):
            return items
        case Negated(item=item):
            return (item,)
        case DateDifference(start=start, end=end):
            return (start, end)


def columns_of(expression: Expression) -> list[str]:
    """Names of the columns an expression reads, in order, each once."""
    found: dict[str, None] = {}
    stack = [expression]
    while stack:
        node = stack.pop()
        if isinstance(node, ColumnRef):
            found.setdefault(node.name)
        stack.extend(reversed(children(node)))
    return list(found)
