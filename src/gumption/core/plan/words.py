"""Plans in plain words: each step for the proof, and the whole plan as one reading."""

from __future__ import annotations

import datetime as dt
import re
from typing import NamedTuple, assert_never

from babel import Locale

from gumption.core.model.names import plural
from gumption.core.model.style import DAYS, style_now
from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Aggregate, Constant, Expression
from gumption.core.plan.steps import Plan, SortKey, Step, Take, Window

_NAMES = Locale("en")
MONTH_NAMES: tuple[str, ...] = tuple(name for _, name in sorted(_NAMES.months["format"]["wide"].items()))
DAY_NAMES: tuple[str, ...] = tuple(name for _, name in sorted(_NAMES.days["format"]["wide"].items()))
"""From Monday on."""


class StepWords(NamedTuple):
    """A step's verb, and what follows it."""

    verb: str
    rest: str


def spoken(name: str) -> str:
    """A column's name as it reads in a sentence."""
    return name.replace("_", " ").strip() or name


_KEPT_IN = frozenset(
    [
        "log",
        "logs",
        "list",
        "lists",
        "register",
        "record",
        "records",
        "data",
        "dataset",
        "sheet",
        "table",
        "tbl",
        "export",
        "extract",
        "file",
        "dump",
        "inventory",
        "census",
        "database",
        "db",
        "master",
        "details",
        "history",
        "archive",
        "directory",
        "catalogue",
        "catalog",
        "tracker",
        "spreadsheet",
    ]
)
"""Words of what rows are kept in, which no row is."""
_NO_ROWS = frozenset(["waiting", "mailing", "shopping", "watch", "wish", "to-do", "todo"])
"""What a list is of that no row of it is called by: a waiting list has entries, and no waitings."""
_BOOKS = frozenset(
    [
        "statement",
        "cellar",
        "ledger",
        "portfolio",
        "diary",
        "journal",
        "register",
        "log",
        "cashbook",
        "logbook",
        "daybook",
        "account",
    ]
)
"""What is kept of many things, each with an entry."""
_WHEN = frozenset(
    [*(n.lower() for n in MONTH_NAMES), *(n[:3].lower() for n in MONTH_NAMES), "ytd", "q1", "q2", "q3", "q4"]
)
_MOST_NAMED = 12
_UNCOUNTED = frozenset(
    ["staff", "stock", "inventory", "equipment", "personnel", "people", "mail", "payroll", "spend", "income"]
)


def rows_called(table: str) -> str:
    """What the rows of a table are called in a sentence: the calls of a call log, the jobs of a job list 2026."""
    words = spoken(table).split()
    kept = list(words)
    while len(kept) > 1 and (kept[-1].lower() in _KEPT_IN | _WHEN or kept[-1].isdigit()):
        kept.pop()
    if not {w.lower() for w in words[len(kept) :]} & _KEPT_IN:
        return " ".join([*kept, "entries"] if kept and kept[-1].lower() in _BOOKS else kept)
    last = kept[-1]
    if last.lower() in _NO_ROWS:
        return f"{' '.join(words[: len(kept) + 1])} entries"
    if not last.endswith("s") and last.lower() not in _UNCOUNTED:
        kept[-1] = f"{last[:-1]}ies" if last.endswith("y") and last[-2:-1] not in "aeiou" else f"{last}s"
    return " ".join(kept)


_RIGHT_TO_LEFT = re.compile(
    r"[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc](?:[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc\s]*[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc])?"
)


def set_apart(sentence: str) -> str:
    """A sentence in which names written from right to left stand by themselves, so that what is around them keeps its place."""
    return _RIGHT_TO_LEFT.sub(lambda found: f"\u2068{found[0]}\u2069", sentence)


def listed(parts: list[str], last: str = "and") -> str:
    """a, b and c."""
    return parts[0] if len(parts) == 1 else f"{', '.join(parts[:-1])} {last} {parts[-1]}" if parts else ""


def date_words(value: dt.date) -> str:
    """5 Mar 2026."""
    return f"{value.day} {MONTH_NAMES[value.month - 1][:3]} {value.year}"


def day_words(value: dt.date) -> str:
    """A day as its reader writes it."""
    form = DAYS[style_now().days]
    return value.strftime(form) if form else date_words(value)


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
    after = high + dt.timedelta(days=1) if high < dt.date.max else high
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
        case ex.ColumnRef(name=name):
            return spoken(name)
        case Constant():
            return constant_words(expression)
        case (
            ex.Compare()
            | ex.Between()
            | ex.OneOf()
            | ex.TextMatch()
            | ex.PatternMatch()
            | ex.Holds()
            | ex.IsMissing()
            | ex.AllOf()
            | ex.AnyOf()
            | ex.Negated()
        ):
            return _condition_words(expression)
        case ex.Case(branches=branches, otherwise=otherwise):
            cases = [f"{expression_words(b.then)} where {expression_words(b.when)}" for b in branches]
            return ", ".join([*cases, *([f"else {expression_words(otherwise)}"] if otherwise is not None else [])])
        case ex.FirstKnown(items=items):
            return f"{expression_words(items[0])}, or where missing {' or '.join(map(expression_words, items[1:]))}"
        case ex.Arithmetic(op=op, left=left, right=right):
            if op == "%":
                return f"the rest of {_inner_words(left)} divided by {_inner_words(right)}"
            signs = {"+": "plus", "-": "minus", "*": "times", "/": "divided by"}
            sign = {**signs, "//": "divided whole by", "^": "to the power of"}[op]
            return f"{_inner_words(left)} {sign} {_inner_words(right)}"
        case ex.NumberFunction(function="round", value=value, digits=digits):
            return f"{_inner_words(value)} rounded to {f'{digits} digits' if digits else 'whole numbers'}"
        case ex.NumberFunction(function=function, value=value):
            names = {"abs": "size", "sqrt": "square root", "ln": "natural logarithm", "log10": "logarithm"}
            names |= {
                "sign": "sign",
                "floor": "whole part downwards",
                "ceiling": "next whole number",
                "exp": "exponential",
            }
            return f"the {names[function]} of {_inner_words(value)}"
        case ex.TextFunction(function=function, value=value):
            shape = {"lower": "in small letters", "upper": "in capitals", "trim": "without spaces around it"}
            text = expression_words(value)
            return f"the length of {text}" if function == "length" else f"{text} {shape[function]}"
        case ex.Concatenate(parts=parts):
            return f"{listed([expression_words(p) for p in parts])} put together"
        case ex.Replace(value=value, old=old, new=new):
            return f"{expression_words(value)} with “{old}” turned into “{new}”"
        case ex.SplitPart(value=value, separator=separator, part=part):
            return f"part {part} of {expression_words(value)} between “{separator}”"
        case ex.Slice(value=value, start=start, length=length):
            if start == 1:
                return f"the first {plural(length, 'character')} of {expression_words(value)}"
            return f"{plural(length, 'character')} of {expression_words(value)} from number {start}"
        case ex.Extract(value=value, pattern=pattern):
            return f"what “{pattern}” finds in {expression_words(value)}"
        case ex.Bin(value=value, width=width, edges=edges):
            how = f"of {width:g}" if width is not None else f"from {listed([f'{e:g}' for e in edges])}"
            return f"{_inner_words(value)} in bins {how}"
        case ex.DatePart(part=part, value=value):
            return f"{spoken(part)} of {expression_words(value)}"
        case ex.DateFloor(unit=unit, value=value):
            return f"{spoken(unit)} of {expression_words(value)}"
        case ex.DateDifference(unit=unit, start=start, end=end):
            return f"{spoken(unit)} from {expression_words(start)} to {expression_words(end)}"
        case ex.DateShift(unit=unit, count=count, value=value):
            return f"{plural(abs(count), unit.removesuffix('s'))} {'after' if count >= 0 else 'before'} {expression_words(value)}"
        case _:
            assert_never(expression)


def _inner_words(expression: Expression) -> str:
    """An operand: bracketed where it is itself worked out."""
    words = expression_words(expression)
    return f"({words})" if isinstance(expression, (ex.Arithmetic, ex.Case, ex.FirstKnown)) else words


def _condition_words(
    condition: ex.Compare
    | ex.Between
    | ex.OneOf
    | ex.TextMatch
    | ex.PatternMatch
    | ex.Holds
    | ex.IsMissing
    | ex.AllOf
    | ex.AnyOf
    | ex.Negated,
) -> str:
    match condition:
        case ex.Compare(op=op, left=left, right=Constant(type=Type.BOOLEAN, value=value)) if op in ("=", "!="):
            return f"{expression_words(left)} is {'yes' if value == (op == '=') else 'no'}"
        case ex.Compare(op=op, left=ex.DatePart(part=part, value=value), right=Constant(value=number)) if op == "=":
            return f"{expression_words(value)} is {part_value_words(part, int(number))}"
        case ex.Compare(op=op, left=left, right=right):
            timed = isinstance(right, Constant) and right.type.is_time
            return f"{expression_words(left)} {(_COMPARE_TIME if timed else _COMPARE)[op]} {expression_words(right)}"
        case ex.Between(value=value, low=low, high=high):
            if low.type is Type.DATE:
                span = span_words(dt.date.fromisoformat(str(low.value)), dt.date.fromisoformat(str(high.value)))
                inner = value.value if isinstance(value, ex.DateFloor) and value.unit == "day" else value
                return f"{expression_words(inner)} is {span}"
            return f"{expression_words(value)} is from {constant_words(low)} to {constant_words(high)}"
        case ex.OneOf(value=ex.DatePart(part=part, value=value), options=options):
            names = [part_value_words(part, int(o.value)) for o in options]
            return f"{expression_words(value)} is {listed(names, 'or')}"
        case ex.OneOf(value=value, options=options):
            return f"{expression_words(value)} is {listed([constant_words(o) for o in options], 'or')}"
        case ex.TextMatch(how=how, value=value, pattern=pattern):
            verb = {"contains": "contains", "starts": "starts with", "ends": "ends with"}[how]
            return f"{expression_words(value)} {verb} “{pattern}”"
        case ex.PatternMatch(value=value, pattern=pattern):
            return f"{expression_words(value)} matches “{pattern}”"
        case ex.Holds(value=value, items=items):
            return f"{expression_words(value)} holds {listed(list(items), 'or')}"
        case ex.IsMissing(value=value):
            return f"{expression_words(value)} is missing"
        case ex.AllOf(items=items):
            return listed([expression_words(i) for i in items])
        case ex.AnyOf(items=items):
            return listed([expression_words(i) for i in items], "or")
        case ex.Negated(item=ex.IsMissing(value=value)):
            return f"{expression_words(value)} is known"
        case ex.Negated(item=ex.OneOf(value=value, options=options)):
            return f"{expression_words(value)} is not {listed([constant_words(o) for o in options], 'or')}"
        case ex.Negated(item=ex.TextMatch(how="contains", value=value, pattern=pattern)):
            return f"{expression_words(value)} does not contain “{pattern}”"
        case ex.Negated(item=ex.Holds(value=value, items=items)):
            return f"{expression_words(value)} does not hold {listed(list(items), 'or')}"
        case ex.Negated(item=item):
            return f"not ({expression_words(item)})"
        case _:
            assert_never(condition)


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
    if aggregate.function == "share" and aggregate.where is not None:
        return f"the share of {rows_called(rows_of)} where {expression_words(aggregate.where)}"
    words = _aggregate_words(aggregate, rows_of)
    return words if aggregate.where is None else f"{words} where {expression_words(aggregate.where)}"


def _aggregate_words(aggregate: Aggregate, rows_of: str) -> str:
    column = spoken(aggregate.column) if aggregate.column else ""
    other = spoken(aggregate.other or "")
    match aggregate.function:
        case "count":
            return f"the number of {column or rows_called(rows_of)}"
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
        case "mode":
            return f"the most common {column}"
        case "deviation":
            return f"the standard deviation of {column}"
        case "variance":
            return f"the variance of {column}"
        case "percentile":
            return f"the {aggregate.percent:g}th percentile of {column}"
        case "correlation" | "covariance":
            return f"the {aggregate.function} of {column} and {other}"
        case "slope":
            return f"the slope of {column} along {other}"
        case "weighted_mean":
            return f"the average {column} weighted by {other}"
        case "latest" | "earliest":
            return f"the {column} with the {aggregate.function} {other}"
        case "list":
            return f"the different values of {column}"
        case "share":
            return f"the share of {rows_called(rows_of)}"
        case _:
            assert_never(aggregate.function)


def key_words(key: SortKey) -> str:
    """fee net, highest first."""
    return f"{spoken(key.column)}, {'highest' if key.descending else 'lowest'} first"


def window_words(window: Window) -> str:
    """each total's share of the whole."""
    column = spoken(window.column)
    within = f" within each {listed([spoken(n) for n in window.within])}" if window.within else ""
    return f"{_window_words(window, column)}{within}"


def _window_words(window: Window, column: str) -> str:
    if window.unit != "row":
        before = f"{plural(window.back, window.unit)} before"
    else:
        before = "the one before" if window.back == 1 else f"the one {window.back} before"
    match window.function:
        case "share":
            return f"{column} as a share of the total"
        case "rank":
            return f"the rank by {listed([spoken(k.column) for k in window.order] or [column], 'then')}"
        case "place":
            return f"the place by {listed([spoken(k.column) for k in window.order] or [column], 'then')}"
        case "running_total":
            return f"the running total of {column}"
        case "lag":
            return f"the {column} of {before}"
        case "lead":
            return f"the {column} of the one {f'{window.back} ' if window.back > 1 else ''}after"
        case "change":
            return f"the change in {column} on {before}"
        case "change_percent":
            return f"the percentage change in {column} on {before}"
        case "moving_average":
            return f"the average {column} of {plural(window.rows or 0, 'row')} up to this one"
        case "moving_total":
            return f"the sum of {column} over {plural(window.rows or 0, 'row')} up to this one"
        case "total":
            return f"the total {column}"
        case "average":
            return f"the average {column}"
        case "lowest" | "highest":
            return f"the {window.function} {column}"
        case "quantile_bin":
            return f"which of {window.bins} bins with as many rows each {column} is in"
        case "width_bin":
            return f"which of {window.bins} equally wide bins {column} is in"
        case _:
            assert_never(window.function)


def _table_words(plan: Plan) -> str:
    first = plan.steps[0]
    return spoken(first.table) if isinstance(first, Take) else "another plan"


def step_words(step: Step, rows_of: str) -> StepWords:
    """One step, for the proof; `rows_of` is the table that the rows are of."""
    match step:
        case Take(table=table):
            return StepWords("Take", spoken(table))
        case st.Keep(condition=condition):
            return StepWords("Keep", expression_words(condition))
        case st.Derive(name=name, expression=expression):
            return StepWords("Work out", f"{spoken(name)}: {expression_words(expression)}")
        case st.Join(other=other, on=on, how=how):
            table = _table_words(other)
            keys = listed([spoken(p.left) for p in on])
            if how in ("with", "without"):
                conditions = [expression_words(s.condition) for s in other.steps if isinstance(s, st.Keep)]
                where = f" where {listed(conditions)}" if conditions else ""
                return StepWords("Keep", f"those {how} a partner in {table} by {keys}{where}")
            if not on:
                return StepWords("Bring", f"{plan_words(other)} beside every row")
            if any(isinstance(s, st.Group) for s in other.steps):
                return StepWords("Join", f"{plan_words(other)}, on {keys}")
            return StepWords("Join", f"{table} on {keys}")
        case st.AsOf(other=other, on=on, at=at):
            keys = f" for the same {listed([spoken(p.left) for p in on])}" if on else ""
            return StepWords("Look up", f"what held in {_table_words(other)} at {spoken(at.left)}{keys}")
        case st.Append(other=other):
            return StepWords("Append", f"the rows of {plan_words(other)}")
        case st.Group(by=by, aggregates=aggregates):
            if aggregates and all(a.carries for a in aggregates):
                names = listed([spoken(a.name) for a in aggregates])
                return StepWords("Bring together", f"{names}, for each {listed([spoken(n) for n in by])}")
            work = listed([aggregate_words(a, rows_of) for a in aggregates])
            if not by:
                return StepWords("Work out", work)
            return StepWords("Group by", f"{listed([spoken(n) for n in by])}{': ' + work if work else ''}")
        case st.Pivot(by=by, column=column, aggregate=aggregate, totals=totals):
            across = f"{listed([spoken(n) for n in by])} down, {spoken(column)} across"
            ends = ", with totals" if totals else ""
            return StepWords("Cross", f"{across}: {aggregate_words(aggregate, rows_of)}{ends}")
        case st.Unpivot(columns=columns, name=name, value=value):
            return StepWords(
                "Turn", f"{_some_of([spoken(c) for c in columns])} into rows of {spoken(name)} and {spoken(value)}"
            )
        case st.Spread(column=column, separator=separator):
            return StepWords("Spread", f"{spoken(column)}: a row for each of the items between “{separator}”")
        case Window():
            return StepWords("Add", window_words(step))
        case st.Fill(column=column, unit=unit, within=within):
            each = f" for each {listed([spoken(n) for n in within])}" if within else ""
            return StepWords("Fill in", f"every {spoken(column) if unit == 'number' else unit} without rows{each}")
        case st.Sort(keys=keys):
            return StepWords("Sort by", listed([key_words(k) for k in keys], "then"))
        case st.Limit(rows=rows):
            return StepWords("First", f"{rows}")
        case st.Pick(columns=columns):
            return StepWords("Show", _some_of([spoken(c.name) for c in columns]))
        case _:
            assert_never(step)


def _some_of(names: list[str]) -> str:
    """The columns that a step names; of very many the first ones, and how many more there are."""
    few = names if len(names) <= _MOST_NAMED else [*names[: _MOST_NAMED // 2], f"{len(names) - _MOST_NAMED // 2} more"]
    return listed(few)


def plan_words(plan: Plan) -> str:
    """The whole plan as one phrase, the reading that is shown under the question."""
    first = plan.steps[0]
    table = first.table if isinstance(first, Take) else "rows"
    what, each, order = "", "", ""
    where: list[str] = []
    after: list[str] = []
    derived = {s.name: expression_words(s.expression) for s in plan.steps if isinstance(s, st.Derive)}
    for step in plan.steps:
        match step:
            case st.Keep(condition=condition):
                (after if what else where).append(expression_words(condition))
            case st.Group(aggregates=aggregates) if aggregates and all(a.carries for a in aggregates):
                pass
            case st.Group(by=by, aggregates=aggregates):
                what = listed([aggregate_words(a, table) for a in aggregates])
                groups = [derived.get(n, spoken(n)) for n in by]
                if not aggregates:
                    what = f"the different values of {listed(groups)} in {rows_called(table)}"
                elif groups:
                    each = f", for each {listed(groups)}"
                if aggregates and all(a.column for a in aggregates):
                    what += f" of {rows_called(table)}"
            case st.Join(how=how) if how in ("with", "without"):
                where.append(step_words(step, table).rest)
            case Window():
                what += f", with {window_words(step)}"
            case st.Sort(keys=keys):
                order = listed([key_words(k) for k in keys], "then")
            case st.Limit(rows=rows):
                after.append(f"by {order}: the first {rows}" if rows > 1 else f"by {order}: the first")
            case st.Pivot(by=by, column=column, aggregate=aggregate):
                what = f"{aggregate_words(aggregate, table)} of {rows_called(table)}"
                each = f", {listed([spoken(n) for n in by])} down and {spoken(column)} across"
            case st.Append(other=other) if what:
                what = f"{what}, beside {plan_words(other).removesuffix(each)}"
            case st.Append(other=other):
                table = f"{table} and {_table_words(other)}"
            case _:
                pass
    if not what:
        shown = next((s for s in reversed(plan.steps) if isinstance(s, st.Pick)), None)
        names = f" with {listed([spoken(c.name) for c in shown.columns])}" if shown else ""
        what = f"the {rows_called(table)}{names}"
    words = what + each + (f", where {listed(where)}" if where else "")
    return words + (f"; {'; '.join(after)}" if after else "")
