"""What a question means: a small recursive value from which a plan and the words “Read as …” are made.

Everything is frozen and compares by value, so that two ways of reading a question that mean the same are one.
"""

from __future__ import annotations

import dataclasses
import datetime as dt
import functools
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal, NamedTuple, TypeAlias

from gumption.core.model.wish import ChartWish
from gumption.core.plan.expressions import AggregateName


class ColumnKey(NamedTuple):
    """A column of a table of the workspace."""

    table: str
    column: str


Comparison: TypeAlias = Literal["=", "!=", "<", "<=", ">", ">="]
Unit: TypeAlias = Literal[
    "year", "quarter", "month", "week", "day", "weekday", "hour", "month_of_year", "quarter_of_year"
]
LengthUnit: TypeAlias = Literal["days", "hours", "minutes", "years", "months", "whole_years", "working_days"]


# --- expressions: one value a row


@dataclass(frozen=True)
class Col:
    """The value of a column."""

    key: ColumnKey


@dataclass(frozen=True)
class Number:
    """A number that the question names."""

    value: float


@dataclass(frozen=True)
class Today:
    """The day the question is asked."""

    day: dt.date


@dataclass(frozen=True)
class Now:
    """The day the question is asked, where the words do not know it yet."""


@dataclass(frozen=True)
class EventTime:
    """When the rows happened: the one time axis of a question, chosen once everything else is known."""


@dataclass(frozen=True)
class Arithmetic:
    """Two values put together."""

    op: Literal["+", "-", "*", "/"]
    left: Expr
    right: Expr


@dataclass(frozen=True)
class Length:
    """How long from one time to another."""

    unit: LengthUnit
    start: Expr
    end: Expr


@dataclass(frozen=True)
class PartOf:
    """A period or a part of a time."""

    unit: Unit
    of: Expr


@dataclass(frozen=True)
class Band:
    """The low edge of the bin that holds a number; without a width or edges, of about ten bins of a round width."""

    of: Expr
    width: float | None = None
    edges: tuple[float, ...] = ()


@dataclass(frozen=True)
class Tile:
    """Which of so many groups of as many rows each a number falls in, 1 the lowest: its quartile, its decile."""

    of: Expr
    number: int


@dataclass(frozen=True)
class Test:
    """A condition as a group of two: those that meet it and the rest."""

    condition: Condition


@dataclass(frozen=True)
class Given:
    """The value of an expression on the rows that meet a condition, and none on the others."""

    of: Expr
    condition: Condition


@dataclass(frozen=True)
class Below:
    """What the rows that belong to one thing come to: a customer's first order, how many orders there are of it."""

    quantity: Aggregated
    key: ColumnKey
    """The column that tells the things apart, on their own rows or, where they have none, on those that are counted."""


@dataclass(frozen=True)
class AsAt:
    """The value of a table of what held from when on, as it was when the row happened: the price in force then."""

    value: ColumnKey


@dataclass(frozen=True)
class Since:
    """How long since the row before of the same thing: the days between one visit of an animal and its next."""

    unit: LengthUnit
    time: ColumnKey
    key: ColumnKey
    """The column that tells whose row it is."""


Expr: TypeAlias = (
    Col
    | Number
    | Today
    | Now
    | EventTime
    | Arithmetic
    | Length
    | PartOf
    | Band
    | Tile
    | Test
    | Given
    | Below
    | AsAt
    | Since
)


# --- conditions on rows


@dataclass(frozen=True)
class Is:
    """A column has one of these values."""

    column: ColumnKey
    values: tuple[str | int | float | bool, ...]


@dataclass(frozen=True)
class Compared:
    """One value held against another, or against a quantity over all rows."""

    op: Comparison
    left: Expr
    right: Expr | Quantity


@dataclass(frozen=True)
class Within:
    """A time that falls on whole days from low to high, either open where None."""

    time: Expr
    low: dt.date | None
    high: dt.date | None


@dataclass(frozen=True)
class PartIs:
    """A month, quarter, weekday or hour of any year or day."""

    unit: Literal["month", "quarter", "weekday", "hour"]
    time: Expr
    numbers: tuple[int, ...]


@dataclass(frozen=True)
class Clock:
    """A time of day before or after another; `at` is ISO text."""

    time: Expr
    op: Comparison
    at: str


@dataclass(frozen=True)
class Missing:
    """Nothing stands in a column."""

    column: ColumnKey


@dataclass(frozen=True)
class Says:
    """Text that contains, starts or ends with a pattern."""

    column: ColumnKey
    how: Literal["contains", "starts", "ends"]
    pattern: str


@dataclass(frozen=True)
class Has:
    """So many rows of another table belong to the row."""

    rows: Rows
    op: Comparison = ">="
    number: int = 1


@dataclass(frozen=True)
class Among:
    """A column's value is among those that another question gives."""

    column: ColumnKey
    ask: Ask


@dataclass(frozen=True)
class All:
    items: tuple[Condition, ...]


@dataclass(frozen=True)
class Any:
    items: tuple[Condition, ...]


@dataclass(frozen=True)
class Not:
    item: Condition


Condition: TypeAlias = Is | Compared | Within | PartIs | Clock | Missing | Says | Has | Among | All | Any | Not


@dataclass(frozen=True)
class Rows:
    """A set of things: the rows of a table that meet every condition."""

    table: str
    where: tuple[Condition, ...] = ()


# --- quantities: one value from many rows


@dataclass(frozen=True)
class Aggregated:
    """An aggregate of an expression over rows, or their count where there is none; `where` leaves other rows out."""

    function: AggregateName
    expr: Expr | None = None
    table: str | None = None
    """The table whose rows are counted; None where the expression says it."""
    where: tuple[Condition, ...] = ()
    percent: float | None = None
    other: Expr | None = None


@dataclass(frozen=True)
class ShareOf:
    """The share of the rows that meet conditions, in per cent; of a sum where there is an expression."""

    condition: tuple[Condition, ...]
    table: str | None = None
    expr: Expr | None = None
    among: tuple[Condition, ...] = ()
    """What holds of the rows that it is a share of; all of them where nothing does."""


@dataclass(frozen=True)
class Combined:
    """Two quantities put together; a ratio may be told as a percentage."""

    op: Literal["+", "-", "*", "/"]
    left: Quantity
    right: Quantity | Number
    percent: bool = False


@dataclass(frozen=True)
class Between:
    """A quantity under two conditions, the first the base, with what changed."""

    quantity: Aggregated | ShareOf | Combined
    base: Condition
    base_name: str
    compared: Condition
    compared_name: str
    absolute: bool = False
    """True where it is sorted and held by the difference, and not by the change in per cent."""


@dataclass(frozen=True)
class Along:
    """A quantity seen beside the other rows of the answer."""

    quantity: Quantity
    kind: Literal[
        "share",
        "share_within",
        "running",
        "change",
        "change_percent",
        "rank",
        "rank_within",
        "moving",
        "moving_total",
        "year_before",
        "from_average",
    ]
    number: int = 1


@dataclass(frozen=True)
class OverGroups:
    """An aggregate of a quantity that is first worked out for each thing: the average number of visits an owner."""

    function: AggregateName
    quantity: Aggregated
    each: Expr
    percent: float | None = None
    held: tuple[tuple[Comparison, float], ...] = ()
    """What the quantity of a thing must come to for it to be taken."""
    change: Literal["", "change", "change_percent"] = ""
    """Where it is the change of it on the period before that must come to so much."""


def is_cumulative_share(quantity: Along) -> bool:
    """True for a share that is added up, along bands or from the largest on."""
    return quantity.kind == "running" and isinstance(quantity.quantity, Along) and quantity.quantity.kind == "share"


ALONG_TIME = ("running", "change", "change_percent", "moving", "moving_total", "year_before")
"""What is seen beside the answer's other rows in the order of time."""

Quantity: TypeAlias = Aggregated | ShareOf | Combined | Between | Along | OverGroups


# --- the question


@dataclass(frozen=True)
class Having:
    """A condition on a quantity of each group, against a number, another quantity, or its value over all rows."""

    quantity: Quantity
    op: Comparison
    right: Number | Quantity | Col
    overall: bool = False
    """True where the right side is worked over all groups together."""


@dataclass(frozen=True)
class Order:
    """What to sort by."""

    by: Quantity | Expr
    descending: bool = True


@dataclass(frozen=True)
class Ask:
    """A question understood: rows listed, or quantities worked for groups of them."""

    head: str
    where: tuple[Condition, ...] = ()
    quantities: tuple[Quantity, ...] = ()
    groups: tuple[Expr, ...] = ()
    shows: tuple[Expr, ...] = ()
    having: tuple[Having, ...] = ()
    order: tuple[Order, ...] = ()
    limit: int | None = None
    skip: int = 0
    then: tuple[Order, ...] = ()
    """In what order the rows that the limit left are shown, where it is another than that they were chosen in."""
    kept: tuple[Is, ...] = ()
    """The groups that are shown once all are worked: where one stands among all the others."""
    per: int = 0
    """How many of the first groups, or of a list's first shown values, the limit holds for each of."""
    chart: ChartWish | None = None
    across: bool = False
    """True where the values of the last group stand as columns of their own."""
    totals: bool = False
    """True where a cross table has a total for each row and each column."""
    stacked: tuple[Expr | Quantity, ...] = ()
    """Those shown columns or quantities that stand one under the other, with their names beside them."""

    @property
    def lists(self) -> bool:
        """True where rows themselves are shown."""
        return not self.quantities and not self.groups

    def but(self, **changes: object) -> Ask:
        """The same with some fields changed. It is made by the hundred for a question, and `replace` takes five times as long."""
        made = object.__new__(Ask)
        for name in _fields(Ask) or ():
            made.__dict__[name] = changes.pop(name) if name in changes else self.__dict__[name]
        if changes:
            raise TypeError(f"a question has no {', '.join(changes)}")
        return made


Meaning: TypeAlias = Expr | Condition | Quantity | Rows | Having | Order | Ask


EXPRESSIONS = (
    Col,
    Number,
    Today,
    Now,
    EventTime,
    Arithmetic,
    Length,
    PartOf,
    Band,
    Tile,
    Test,
    Given,
    Below,
    AsAt,
    Since,
)
QUANTITIES = (Aggregated, ShareOf, Combined, Between, Along, OverGroups)


def added_up(exprs: Iterable[Expr]) -> Expr:
    """Several values of a row, at least one, put together by plus."""
    return functools.reduce(lambda one, other: Arithmetic("+", one, other), exprs)


def under(quantity: Aggregated | ShareOf | Combined, condition: Condition) -> Aggregated | Combined:
    """A quantity of those rows alone that meet a condition."""
    match quantity:
        case Aggregated():
            return dataclasses.replace(quantity, where=(*quantity.where, condition))
        case ShareOf(condition=met, table=table, expr=expr, among=among):
            function: AggregateName = "count" if expr is None else "sum"
            part, whole = (
                Aggregated(function, expr, table if expr is None else None, where=(*said, condition))
                for said in ((*among, *met), among)
            )
            return Combined("/", part, whole, percent=True)
        case Combined(left=left, right=right):
            return dataclasses.replace(
                quantity,
                left=under(left, condition) if isinstance(left, (Aggregated, ShareOf, Combined)) else left,
                right=under(right, condition) if isinstance(right, (Aggregated, ShareOf, Combined)) else right,
            )


def mirrored(op: Comparison) -> Comparison:
    """Below for above, and above for below."""
    other: dict[Comparison, Comparison] = {"<": ">", "<=": ">=", ">": "<", ">=": "<="}
    return other.get(op, op)


def turned(condition: Condition) -> Condition:
    """What holds where a condition does not."""
    match condition:
        case Not(item=item):
            return item
        case Is(column=column, values=(bool() as one,)):
            return Is(column, (not one,))
        case _:
            return Not(condition)


def over_average(quantity: Aggregated | Combined | ShareOf, op: Comparison, group: Expr) -> Having:
    """Above the average: of all rows where it is averaged, of the groups where it is added up."""
    if isinstance(quantity, Aggregated) and quantity.function in ("sum", "count", "distinct"):
        return Having(quantity, op, OverGroups("mean", quantity, group), overall=True)
    return Having(quantity, op, quantity, overall=True)


def of_any_year(group: Expr) -> Expr:
    """The same month, or quarter, of every year as one."""
    units: dict[Unit, Unit] = {"month": "month_of_year", "quarter": "quarter_of_year"}
    if isinstance(group, PartOf) and group.unit in units:
        return dataclasses.replace(group, unit=units[group.unit])
    return group


def parts_of_time(part: float) -> tuple[int, str] | None:
    """How many minutes or seconds make the whole that such a part is of, and what it is: a sixtieth turns them to hours."""
    wholes = {60: "hours", 1440: "days", 3600: "hours", 86400: "days"}
    return next(((many, name) for many, name in wholes.items() if abs(part * many - 1) < 1e-6), None)


def in_all(expr: Expr) -> Aggregated:
    """What an expression comes to over all rows: as many visits as each owner has are, of all of them, the visits."""
    return counted_below(expr) or Aggregated("sum", expr)


def counted_below(expr: Expr) -> Aggregated | None:
    """The number of rows, of an expression that is how many of them belong to each thing."""
    of_each = expr.quantity if isinstance(expr, Below) else None
    return of_each if of_each is not None and of_each.function == "count" else None


def counts(quantity: Quantity) -> bool:
    """True where rows are counted in it."""
    return any(isinstance(p, Aggregated) and p.expr is None for p in parts(quantity))


def adds_up(quantity: Quantity | Number) -> bool:
    """True for what the parts of a whole add up to it: counts, sums, and sums and differences of these."""
    match quantity:
        case Aggregated(function=function):
            return function in ("sum", "count")
        case Combined(op="+" | "-", left=left, right=right):
            return adds_up(left) and adds_up(right)
        case _:
            return False


_FIELDS: dict[type, tuple[str, ...] | None] = {}


def _fields(kind: type) -> tuple[str, ...] | None:
    """The fields of a kind of node, looked up once; None for what is no node."""
    if kind not in _FIELDS:
        _FIELDS[kind] = tuple(f.name for f in dataclasses.fields(kind)) if dataclasses.is_dataclass(kind) else None
    return _FIELDS[kind]


def parts(node: object) -> tuple[object, ...]:
    """A node and everything inside it, outermost first."""
    if isinstance(node, (tuple, list)):
        found: list[object] = [node]
        _put_inside(node, found)
        return tuple(found)
    return _parts(node) if _fields(type(node)) is not None else (node,)


def _parts(node: object) -> tuple[object, ...]:
    """All parts of what is a node; it never changes, and keeps what was found for the next look."""
    kept: tuple[object, ...] | None = node.__dict__.get("_parts")
    if kept is None:
        found: list[object] = [node]
        _put_inside([getattr(node, name) for name in _fields(type(node)) or ()], found, bare=False)
        kept = node.__dict__["_parts"] = tuple(found)
    return kept


def _put_inside(items: Iterable[object], found: list[object], *, bare: bool = True) -> None:
    """Add the parts of each item; what is no node is one of them only where it stands `bare` among others."""
    if type(items) is ColumnKey:
        return
    for item in items:
        if isinstance(item, (tuple, list)):
            found.append(item)
            _put_inside(item, found)
        elif _fields(type(item)) is not None:
            found += _parts(item)
        elif bare:
            found.append(item)


def counted_in(node: object) -> list[str]:
    """The tables whose rows a node counts, each once."""
    return list(dict.fromkeys(p.table for p in parts(node) if isinstance(p, Aggregated) and p.table is not None))


def tables_in(node: object) -> set[str]:
    """Every table that a node reads, counts or tests for, also inside conditions on other rows."""
    tested = {p.table for p in parts(node) if isinstance(p, Rows)}
    return {k.table for k in columns_in(node, nested=True)} | tested | {*counted_in(node)}


def times_in(node: object) -> set[Expr]:
    """What the times in a node's conditions are of: when things happened, or a date of theirs."""
    return {p.time for p in parts(node) if isinstance(p, (Within, PartIs))}


def at_end(function: Literal["min", "max"], time: Expr | None = None) -> Compared:
    """The condition of being of the first or the last time that there is; `time` where it is no plain moment."""
    of = time if time is not None else EventTime()
    return Compared("=", of, Aggregated(function, of))


def columns_in(node: object, *, nested: bool = False) -> list[ColumnKey]:
    """The columns a node reads, each once; those of other rows (has, among) only where `nested`."""
    return list(_columns(node, nested, whole=True))


def _columns(node: object, nested: bool, *, whole: bool = False) -> tuple[ColumnKey, ...]:
    """The columns inside a node, the whole one or a part of it, each once; it keeps them for the next look."""
    kind = type(node)
    if kind is ColumnKey:
        return (node,)  # type: ignore[return-value]
    if isinstance(node, (tuple, list)):
        return _columns_of(node, nested)
    fields = _fields(kind)
    if fields is None:
        return ()
    if not nested and (kind is AsAt or (not whole and kind in (Has, Ask))):
        # What is asked of other rows is passed over inside of something else.
        return ()
    place = "_nested_columns" if nested else "_columns"
    kept: tuple[ColumnKey, ...] | None = node.__dict__.get(place)
    if kept is None:
        if not nested and isinstance(node, Among):
            kept = (node.column,)
        elif not nested and isinstance(node, Below):
            kept = (node.key,)
        else:
            kept = _columns_of(map(node.__dict__.get, fields), nested)
        node.__dict__[place] = kept
    return kept


def _columns_of(items: Iterable[object], nested: bool) -> tuple[ColumnKey, ...]:
    found: list[ColumnKey] = []
    for item in items:
        if isinstance(item, (tuple, list)) or _fields(type(item)) is not None:
            found += _columns(item, nested)
    return tuple(dict.fromkeys(found))


def replaced(node: object, change: dict[object, object]) -> object:
    """The node with parts put in place of others, innermost last."""
    if not isinstance(node, (list, dict)) and node in change:
        return change[node]
    if isinstance(node, tuple) and not isinstance(node, ColumnKey):
        return tuple(replaced(item, change) for item in node)
    changes = {}
    for name in _fields(type(node)) or ():
        inner = getattr(node, name)
        if isinstance(inner, tuple) or _fields(type(inner)) is not None:
            new = replaced(inner, change)
            if new is not inner and new != inner:
                changes[name] = new
    return dataclasses.replace(node, **changes) if changes else node  # type: ignore[type-var]


def timed_by(node: object, time: Expr) -> object:
    """The node with a time at which things happened; what runs from when they did until that time still does.

    Other rows that are asked for by the way, such as the loans of readers who joined then, happened at times of their own.
    """
    kept: dict[object, object] = {
        p: p
        for p in parts(node)
        if (isinstance(p, Length) and {EventTime(), time} == {p.start, p.end})
        or (isinstance(p, Has) and isinstance(time, Col) and p.rows.table != time.key.table)
    }
    return replaced(node, {**kept, EventTime(): time})
