"""Plans in plain words: each step for the proof, and the whole plan as one reading."""

from __future__ import annotations

import datetime as dt
from typing import NamedTuple, assert_never

from gumption.core.model.types import Type
from gumption.core.plan.expressions import (
    Aggregate,
    AllOf,
    AnyOf,
    Arithmetic,
    Between,
    ColumnRef,
    Compare,
    Constant,
    DateDifference,
    DateFloor,
    DatePart,
    Expression,
    IsMissing,
    Negated,
    OneOf,
    TextMatch,
)
from gumption.core.plan.steps import Derive, Group, Join, Keep, Limit, Pick, Plan, Sort, SortKey, Step, Take, Window

MONTH_NAMES = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)
DAY_NAMES = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


class StepWords(NamedTuple):
    """A step's verb, and what follows it."""

    verb: str
    rest: str


def spoken(name: str) -> str:
    """A column's name as it reads in a sentence."""
    return name.replace("_", " ").strip() or name


def listed(parts: list[str], last: str = "and") -> str:
    """a, b and c."""
    return parts[0] if len(parts) == 1 else f"{', '.join(parts[:-1])} {last} {parts[-1]}" if parts else ""


def date_words(value: dt.date) -> str:
    """5 Mar 2026."""
    return f"{value.day} {MONTH_NAMES[value.month - 1][:3]} {value.year}"


def constant_words(constant: Constant) -> str:
    """A constant as a person writes it."""
    match constant.type:
        case Type.DATE:
            return date_words(dt.date.fromisoformat(str(constant.value)))
        case Type.TIMESTAMP:
            moment = dt.datetime.fromisoformat(str(constant.value))
            return f"{date_words(moment.date())} {moment:%H:%M}"
        case Type.TIME:
            return dt.time.fromisoformat(str(constant.value)).isoformat("minutes")
        case Type.BOOLEAN:
            return "yes" if constant.value else "no"
        case Type.TEXT:
            return f"“{constant.value}”" if not str(constant.value).strip() else str(constant.value)
        case _:
            return (
                f"{constant.value:,}"
                if isinstance(constant.value, (int, float)) and abs(constant.value) >= 10000
                else str(constant.value)
            )


def span_words(low: dt.date, high: dt.date) -> str:
    """A span of whole days, shortest way: a year, a month, a day, or from and to."""
    after = high + dt.timedelta(days=1)
    if low.day == 1 and after.day == 1:
        if (low.month, after.month, after.year - low.year) == (1, 1, 1):
            return f"in {low.year}"
        if (after.year * 12 + after.month) - (low.year * 12 + low.month) == 1:
            return f"in {MONTH_NAMES[low.month - 1]} {low.year}"
        if (after.year * 12 + after.month) - (low.year * 12 + low.month) == 3 and low.month % 3 == 1:
            return f"in quarter {(low.month + 2) // 3} of {low.year}"
    if low == high:
        return f"on {date_words(low)}"
    return f"from {date_words(low)} to {date_words(high)}"


_COMPARE = {
    "=": "is",
    "!=": "is not",
    "<": "is less than",
    "<=": "is at most",
    ">": "is more than",
    ">=": "is at least",
}
_COMPARE_TIME = {"=": "is", "!=": "is not", "<": "is before", "<=": "is up to", ">": "is after", ">=": "is from"}


def expression_words(expression: Expression) -> str:
    """An expression in words."""
    match expression:
        case ColumnRef(name=name):
            return spoken(name)
        case Constant():
            return constant_words(expression)
        case Compare(op=op, left=left, right=Constant(type=Type.BOOLEAN, value=value)) if op in ("=", "!="):
            return f"{expression_words(left)} is {'yes' if value == (op == '=') else 'no'}"
        case Compare(op=op, left=DatePart(part=part, value=value), right=Constant(value=number)) if op == "=":
            return f"{expression_words(value)} is {part_value_words(part, int(number))}"
        case Compare(op=op, left=left, right=right):
            timed = isinstance(right, Constant) and right.type.is_time
            return f"{expression_words(left)} {(_COMPARE_TIME if timed else _COMPARE)[op]} {expression_words(right)}"
        case Between(value=value, low=low, high=high):
            if low.type is Type.DATE:
                span = span_words(dt.date.fromisoformat(str(low.value)), dt.date.fromisoformat(str(high.value)))
                inner = value.value if isinstance(value, DateFloor) and value.unit == "day" else value
                return f"{expression_words(inner)} is {span}"
            return f"{expression_words(value)} is from {constant_words(low)} to {constant_words(high)}"
        case OneOf(value=DatePart(part=part, value=value), options=options):
            names = [part_value_words(part, int(o.value)) for o in options]
            return f"{expression_words(value)} is {listed(names, 'or')}"
        case OneOf(value=value, options=options):
            return f"{expression_words(value)} is {listed([constant_words(o) for o in options], 'or')}"
        case TextMatch(how=how, value=value, pattern=pattern):
            verb = {"contains": "contains", "starts": "starts with", "ends": "ends with"}[how]
            return f"{expression_words(value)} {verb} “{pattern}”"
        case IsMissing(value=value):
            return f"{expression_words(value)} is missing"
        case AllOf(items=items):
            return listed([expression_words(i) for i in items])
        case AnyOf(items=items):
            return listed([expression_words(i) for i in items], "or")
        case Negated(item=IsMissing(value=value)):
            return f"{expression_words(value)} is known"
        case Negated(item=OneOf(value=value, options=options)):
            return f"{expression_words(value)} is not {listed([constant_words(o) for o in options], 'or')}"
        case Negated(item=TextMatch(how="contains", value=value, pattern=pattern)):
            return f"{expression_words(value)} does not contain “{pattern}”"
        case Negated(item=item):
            return f"not ({expression_words(item)})"
        case Arithmetic(op=op, left=left, right=right):
            sign = {"+": "plus", "-": "minus", "*": "times", "/": "divided by"}[op]
            return f"{expression_words(left)} {sign} {expression_words(right)}"
        case DatePart(part=part, value=value):
            return f"{part} of {expression_words(value)}"
        case DateFloor(unit=unit, value=value):
            return f"{unit} of {expression_words(value)}"
        case DateDifference(unit=unit, start=start, end=end):
            return f"{unit} from {expression_words(start)} to {expression_words(end)}"
        case _:
            assert_never(expression)


def part_value_words(part: str, number: int) -> str:
    """March, Monday, quarter 2, 14 o'clock."""
    match part:
        case "month":
            return f"in {MONTH_NAMES[number - 1]}"
        case "weekday":
            return f"on a {DAY_NAMES[number - 1]}"
        case "quarter":
            return f"in quarter {number}"
        case "hour":
            return f"at {number} o’clock"
        case _:
            return f"in {part} {number}"


def aggregate_words(aggregate: Aggregate, rows_of: str = "rows") -> str:
    """the sum of fee net."""
    column = spoken(aggregate.column) if aggregate.column else ""
    match aggregate.function:
        case "count":
            return f"the number of {column or spoken(rows_of)}"
        case "distinct":
            return f"the number of different {column} values"
        case "sum":
            return f"the sum of {column}"
        case "mean":
            return f"the average {column}"
        case "median":
            return f"the median {column}"
        case "min":
            return f"the lowest {column}"
        case "max":
            return f"the highest {column}"
        case "deviation":
            return f"the standard deviation of {column}"
        case "percentile":
            return f"the {aggregate.percent:g}th percentile of {column}"
        case "correlation":
            return f"the correlation of {column} and {spoken(aggregate.other or '')}"
        case _:
            assert_never(aggregate.function)


def key_words(key: SortKey) -> str:
    """fee net, highest first."""
    return f"{spoken(key.column)}, {'highest' if key.descending else 'lowest'} first"


def window_words(window: Window) -> str:
    """each total's share of the whole."""
    column, within = (
        spoken(window.column),
        f" within each {listed([spoken(n) for n in window.within])}" if window.within else "",
    )
    match window.function:
        case "share":
            return f"{column} as a share of the total{within}"
        case "rank":
            return f"the rank by {column}{within}"
        case "running_total":
            return f"the running total of {column}{within}"
        case "change":
            return f"the change in {column} on the one before{within}"
        case "change_percent":
            return f"the percentage change in {column} on the one before{within}"
        case _:
            assert_never(window.function)


def step_words(step: Step, rows_of: str) -> StepWords:
    """One step, for the proof; `rows_of` is the table that the rows are of."""
    match step:
        case Take(table=table):
            return StepWords("Take", spoken(table))
        case Keep(condition=condition):
            return StepWords("Keep", expression_words(condition))
        case Derive(name=name, expression=expression):
            return StepWords("Work out", f"{spoken(name)}: {expression_words(expression)}")
        case Join(other=other, on=on, how=how):
            first = other.steps[0]
            table = spoken(first.table) if isinstance(first, Take) else "another plan"
            keys = listed([spoken(p.left) for p in on])
            if how in ("with", "without"):
                conditions = [expression_words(s.condition) for s in other.steps if isinstance(s, Keep)]
                where = f" where {listed(conditions)}" if conditions else ""
                return StepWords("Keep", f"those {how} a partner in {table} by {keys}{where}")
            return StepWords("Join", f"{table} on {keys}")
        case Group(by=by, aggregates=aggregates):
            work = listed([aggregate_words(a, rows_of) for a in aggregates])
            if not by:
                return StepWords("Work out", work)
            return StepWords("Group by", f"{listed([spoken(n) for n in by])}{': ' + work if work else ''}")
        case Window():
            return StepWords("Add", window_words(step))
        case Sort(keys=keys):
            return StepWords("Sort by", listed([key_words(k) for k in keys], "then"))
        case Limit(rows=rows):
            return StepWords("First", f"{rows}")
        case Pick(columns=columns):
            return StepWords("Show", listed([spoken(c.name) for c in columns]))
        case _:
            assert_never(step)


def plan_words(plan: Plan) -> str:
    """The whole plan as one phrase, the reading that is shown under the question."""
    first = plan.steps[0]
    table = first.table if isinstance(first, Take) else "rows"
    what, each, order = "", "", ""
    where: list[str] = []
    after: list[str] = []
    derived = {s.name: expression_words(s.expression) for s in plan.steps if isinstance(s, Derive)}
    for step in plan.steps:
        match step:
            case Keep(condition=condition):
                (after if what else where).append(expression_words(condition))
            case Group(by=by, aggregates=aggregates):
                what = listed([aggregate_words(a, table) for a in aggregates])
                groups = [derived.get(n, spoken(n)) for n in by]
                if not aggregates:
                    what = f"the different values of {listed(groups)} in {spoken(table)}"
                elif groups:
                    each = f", for each {listed(groups)}"
                if aggregates and all(a.column for a in aggregates):
                    what += f" of {spoken(table)}"
            case Join(how=how) if how in ("with", "without"):
                where.append(step_words(step, table).rest)
            case Window():
                what += f", with {window_words(step)}"
            case Sort(keys=keys):
                order = listed([key_words(k) for k in keys], "then")
            case Limit(rows=rows):
                after.append(f"by {order}: the first {rows}" if rows > 1 else f"by {order}: the first")
            case _:
                pass
    if not what:
        shown = next((s for s in reversed(plan.steps) if isinstance(s, Pick)), None)
        names = f" with {listed([spoken(c.name) for c in shown.columns])}" if shown else ""
        what = f"the {spoken(table)}{names}"
    words = what + each + (f", where {listed(where)}" if where else "")
    return words + (f"; {'; '.join(after)}" if after else "")
