"""Expressions over one row, and the aggregates over many. `docs/plan-format.md` says what each means.

Conditions are two-valued: a comparison with a missing value is false, and its negation is true.
Everything else is missing where a part of it is missing, but for `case` and `first_known`.
"""

from __future__ import annotations

import re
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
    """A value written in the plan; dates, times and timestamps as ISO text, exact decimals as digits in text."""

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


class PatternMatch(Node):
    """Text in which a regular expression is found, case mattering."""

    kind: Literal["pattern_match"] = "pattern_match"
    value: Expression
    pattern: str


class Holds(Node):
    """Text that holds one of several items, between separators with or without spaces around them."""

    kind: Literal["holds"] = "holds"
    value: Expression
    separator: str = Field(min_length=1, max_length=1)
    items: tuple[str, ...] = Field(min_length=1)

    @property
    def as_pattern(self) -> PatternMatch:
        """The same as a regular expression."""
        separator, *items = (re.sub(r"([^\w\s])", r"\\\1", text) for text in (self.separator, *self.items))
        told = items[0] if len(items) == 1 else f"({'|'.join(items)})"
        return PatternMatch(value=self.value, pattern=f"(^|{separator}) *{told} *({separator}|$)")


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


class Branch(Node):
    """What a `case` gives where its condition is the first that holds."""

    when: Expression
    then: Expression


class Case(Node):
    """The value of the first branch whose condition holds; without one, `otherwise`, or missing."""

    kind: Literal["case"] = "case"
    branches: tuple[Branch, ...] = Field(min_length=1)
    otherwise: Expression | None = None


class FirstKnown(Node):
    """The first of several values that is not missing."""

    kind: Literal["first_known"] = "first_known"
    items: tuple[Expression, ...] = Field(min_length=1)


ArithmeticOp: TypeAlias = Literal["+", "-", "*", "/", "//", "%", "^"]


class Arithmetic(Node):
    """Two numbers. `/` and `^` give floats; `//` and `%` are of integers and cut towards zero.

    Missing where a divisor is zero, or where a power is no real number.
    """

    kind: Literal["arithmetic"] = "arithmetic"
    op: ArithmeticOp
    left: Expression
    right: Expression


class NumberFunction(Node):
    """A function of one number; a root or logarithm that does not exist is missing. `digits` is for `round` alone."""

    kind: Literal["number"] = "number"
    function: Literal["abs", "sign", "round", "floor", "ceiling", "sqrt", "ln", "log10", "exp"]
    value: Expression
    digits: int = Field(default=0, ge=0, le=12)


class TextFunction(Node):
    """Text in small or capital letters, without spaces around it, or its length in characters."""

    kind: Literal["text"] = "text"
    function: Literal["lower", "upper", "trim", "length"]
    value: Expression


class Concatenate(Node):
    """Texts one behind another."""

    kind: Literal["concatenate"] = "concatenate"
    parts: tuple[Expression, ...] = Field(min_length=1)


class Replace(Node):
    """Text with every `old` turned into `new`, case mattering."""

    kind: Literal["replace"] = "replace"
    value: Expression
    old: str = Field(min_length=1)
    new: str


class SplitPart(Node):
    """The part of a text between separators, counted from 1; missing where there is none, or where it is empty."""

    kind: Literal["split"] = "split"
    value: Expression
    separator: str = Field(min_length=1)
    part: int = Field(ge=1)


class Slice(Node):
    """Characters of a text from `start`, counted from 1, at most `length` of them."""

    kind: Literal["slice"] = "slice"
    value: Expression
    start: int = Field(ge=1)
    length: int = Field(ge=1)


class Extract(Node):
    """What a regular expression finds first, its group where it has one; missing where it finds nothing."""

    kind: Literal["extract"] = "extract"
    value: Expression
    pattern: str


class Bin(Node):
    """The low edge of the bin that holds a number: bins of a width counted from a start, or between given edges.

    With edges, what lies under the first is missing, and the last bin has no end.
    """

    kind: Literal["bin"] = "bin"
    value: Expression
    width: float | None = Field(default=None, gt=0)
    start: float = 0.0
    edges: tuple[float, ...] = ()


DatePartName: TypeAlias = Literal[
    "year",
    "quarter",
    "month",
    "week",
    "day",
    "weekday",
    "day_of_year",
    "hour",
    "minute",
    "fiscal_year",
    "fiscal_quarter",
]
DateUnit: TypeAlias = Literal["year", "quarter", "month", "week", "day", "hour", "fiscal_year", "fiscal_quarter"]


class DatePart(Node):
    """A part of a date as an integer; Monday is weekday 1, a week is ISO's.

    `first_month` begins the fiscal year, which is called after the calendar year in which it ends.
    """

    kind: Literal["date_part"] = "date_part"
    part: DatePartName
    value: Expression
    first_month: int = Field(default=1, ge=1, le=12)


class DateFloor(Node):
    """The first day of the year, quarter, month, week (from Monday) or fiscal period that holds a date; its day; or the hour."""

    kind: Literal["date_floor"] = "date_floor"
    unit: DateUnit
    value: Expression
    first_month: int = Field(default=1, ge=1, le=12)


class DateDifference(Node):
    """End minus start: whole calendar days, hours or minutes with fractions, years of 365.25 days,
    months or whole years that are complete (an age), or working days (Monday to Friday, the start counted, the end not).
    """

    kind: Literal["date_difference"] = "date_difference"
    unit: Literal["days", "hours", "minutes", "years", "months", "whole_years", "working_days"]
    start: Expression
    end: Expression


class DateShift(Node):
    """A date so many days, weeks, months or years on; a day that the month lacks becomes the month's last."""

    kind: Literal["date_shift"] = "date_shift"
    unit: Literal["days", "weeks", "months", "years"]
    count: int
    value: Expression


Expression: TypeAlias = Annotated[
    ColumnRef
    | Constant
    | Compare
    | Between
    | OneOf
    | TextMatch
    | PatternMatch
    | Holds
    | IsMissing
    | AllOf
    | AnyOf
    | Negated
    | Case
    | FirstKnown
    | Arithmetic
    | NumberFunction
    | TextFunction
    | Concatenate
    | Replace
    | SplitPart
    | Slice
    | Extract
    | Bin
    | DatePart
    | DateFloor
    | DateDifference
    | DateShift,
    Field(discriminator="kind"),
]

AggregateName: TypeAlias = Literal[
    "count",
    "distinct",
    "sum",
    "mean",
    "median",
    "min",
    "max",
    "mode",
    "deviation",
    "variance",
    "percentile",
    "correlation",
    "covariance",
    "slope",
    "weighted_mean",
    "latest",
    "earliest",
    "list",
    "share",
]


class Aggregate(Node):
    """One value from the rows of a group. Missing values are left out; `count` without a column counts rows.

    `percent` is for `percentile` alone (0 to 100, linear interpolation). `other` is the second column of
    `correlation` and `covariance`, the x of `slope`, the weight of `weighted_mean`, and what orders `latest`
    and `earliest`. `where` leaves all other rows out; of `share` it is what is counted against all rows.
    """

    name: str
    function: AggregateName
    column: str | None = None
    percent: float | None = Field(default=None, ge=0, le=100)
    other: str | None = None
    where: Expression | None = None

    @property
    def carries(self) -> bool:
        """True where it only carries a column's one value on, and works nothing out."""
        return self.function == "max" and self.name == self.column and self.where is None


for _node in list(Node.__subclasses__()):
    _node.model_rebuild()


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
        case AllOf(items=items) | AnyOf(items=items) | FirstKnown(items=items) | Concatenate(parts=items):
            return items
        case Negated(item=item):
            return (item,)
        case Case(branches=branches, otherwise=otherwise):
            inside = tuple(part for branch in branches for part in (branch.when, branch.then))
            return inside if otherwise is None else (*inside, otherwise)
        case DateDifference(start=start, end=end):
            return (start, end)
        case (
            TextMatch()
            | PatternMatch()
            | Holds()
            | IsMissing()
            | NumberFunction()
            | TextFunction()
            | Replace()
            | SplitPart()
            | Slice()
            | Extract()
            | Bin()
            | DatePart()
            | DateFloor()
            | DateShift()
        ):
            return (expression.value,)


def conjuncts(condition: Expression) -> tuple[Expression, ...]:
    """The parts of a condition that must all hold."""
    return condition.items if isinstance(condition, AllOf) else (condition,)


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
