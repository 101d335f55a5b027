"""Plans written briefly, for the benchmarks."""

from __future__ import annotations

import datetime as dt
from decimal import Decimal

from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Aggregate, Constant, Expression
from gumption.core.plan.steps import KeyPair, Plan, SortKey, Step, Take

Written = str | int | Decimal | dt.date | Expression
"""A column by its name, a constant by its value, or an expression."""


def text(value: str) -> Constant:
    return Constant(type=Type.TEXT, value=value)


def day(value: str) -> Constant:
    return Constant(type=Type.DATE, value=value)


def value(part: Written) -> Expression:
    """A column, a constant, or the expression itself."""
    match part:
        case str():
            return ex.ColumnRef(name=part)
        case int():
            return Constant(type=Type.INTEGER, value=part)
        case Decimal():
            return Constant(type=Type.DECIMAL, value=str(part))
        case dt.date():
            return day(part.isoformat())
        case _:
            return part


def compare(op: str, left: Written, right: Written) -> Expression:
    return ex.Compare.model_validate({"op": op, "left": value(left), "right": value(right)})


def arithmetic(op: str, left: Written, right: Written) -> Expression:
    return ex.Arithmetic.model_validate({"op": op, "left": value(left), "right": value(right)})


def equal(name: str, value: str) -> Expression:
    return compare("=", name, text(value))


def one_of(name: str, *values: str | int) -> Expression:
    kind = Type.INTEGER if isinstance(values[0], int) else Type.TEXT
    return ex.OneOf(value=value(name), options=tuple(Constant(type=kind, value=v) for v in values))


def within(name: str, low: str, before: str) -> tuple[Expression, Expression]:
    """From a day up to the day before another."""
    return compare(">=", name, day(low)), compare("<", name, day(before))


def keep(*conditions: Expression) -> st.Keep:
    return st.Keep(condition=conditions[0] if len(conditions) == 1 else ex.AllOf(items=conditions))


def plan(table: str, *steps: Step) -> Plan:
    return Plan(steps=(Take(table=table), *steps))


def join(other: str | Plan, *pairs: str, how: str = "inner") -> st.Join:
    """Pairs are written here=there."""
    on = tuple(KeyPair(left=p.split("=")[0], right=p.split("=")[1]) for p in pairs)
    return st.Join.model_validate({"other": plan(other) if isinstance(other, str) else other, "on": on, "how": how})


def derive(name: str, expression: Expression) -> st.Derive:
    return st.Derive(name=name, expression=expression)


def group(by: str, *aggregates: Aggregate) -> st.Group:
    return st.Group(by=tuple(by.split()), aggregates=aggregates)


def work(name: str, function: str, column: str | None = None, where: Expression | None = None) -> Aggregate:
    return Aggregate.model_validate({"name": name, "function": function, "column": column, "where": where})


def sort(*keys: str) -> st.Sort:
    """Keys with a minus before them descend."""
    return st.Sort(keys=tuple(SortKey(column=k.lstrip("-"), descending=k.startswith("-")) for k in keys))


def pick(*names: str) -> st.Pick:
    """Columns, renamed where written column=name."""
    parts = [n.partition("=") for n in names]
    return st.Pick(columns=tuple(st.Picked(column=a, name=b or a) for a, _, b in parts))


def year(name: str, of: str) -> st.Derive:
    return derive(name, ex.DatePart(part="year", value=value(of)))
