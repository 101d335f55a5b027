"""Conditions as rows of a form: a column, how it is held against what, and the values."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Literal, NamedTuple, get_args

from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan.constants import typed_constant
from gumption.core.plan.expressions import Constant, Expression
from gumption.core.plan.fields import Field, PlanError, Schema, need
from gumption.core.plan.words import DAY_NAMES, MONTH_NAMES, spoken

Held = Literal[
    "=", "!=", ">", ">=", "<", "<=", "between", "one of", "none of", "contains", "lacks", "starts", "ends", "missing", "known"
]  # fmt: skip
MANY = 9
"""Stands for any number of values from one on."""
HELD: dict[Held, tuple[str, int]] = {
    "=": ("is", 1),
    "!=": ("is not", 1),
    ">": ("is more than, or after", 1),
    ">=": ("is at least, or from", 1),
    "<": ("is less than, or before", 1),
    "<=": ("is at most, or up to", 1),
    "between": ("is between", 2),
    "one of": ("is one of", MANY),
    "none of": ("is none of", MANY),
    "contains": ("contains", 1),
    "lacks": ("does not contain", 1),
    "starts": ("starts with", 1),
    "ends": ("ends with", 1),
    "missing": ("is missing", 0),
    "known": ("is known", 0),
}
"""How a column is held against values: in words, and how many of them it wants."""
_OF_TEXT = ("contains", "lacks", "starts", "ends")
_PARTS: dict[str, ex.DatePartName] = {"year": "year", "quarter": "quarter", "month": "month", "weekday": "weekday"}
_NAMED: dict[str, tuple[str, ...]] = {"month": MONTH_NAMES, "weekday": DAY_NAMES}
Known = Callable[[Field], Sequence[str]]
"""The values that a column is known to have."""


class Clause(NamedTuple):
    """One row: `column` is a column's name, or a part of it such as month|visit_date."""

    column: str
    held: Held
    values: tuple[str, ...] = ()


class Left(NamedTuple):
    """What a clause is of: its words, the type of its values, and those that it is known to have."""

    label: str
    type: Type
    values: tuple[str, ...] = ()


def lefts(schema: Schema, known: Known) -> dict[str, Left]:
    """All that a clause can be of: columns, and parts of dates."""
    found = {name: Left(spoken(name), f.type, tuple(known(f))) for name, f in schema.items()}
    for name, field in schema.items():
        if field.type is Type.TIMESTAMP:
            found[f"day|{name}"] = Left(f"day of {spoken(name)}", Type.DATE)
        if field.type.is_time:
            for part in _PARTS:
                found[f"{part}|{name}"] = Left(f"{part} of {spoken(name)}", Type.INTEGER, _NAMED.get(part, ()))
    return found


def clauses(condition: Expression) -> tuple[Literal["all", "any"], list[Clause]] | None:
    """A condition as rows of which all, or any, must hold; None for what is no such thing."""
    together: Literal["all", "any"] = "any" if isinstance(condition, ex.AnyOf) else "all"
    items = condition.items if isinstance(condition, (ex.AllOf, ex.AnyOf)) else (condition,)
    found = [_clause(item) for item in items]
    return (together, [c for c in found if c is not None]) if None not in found else None


def condition_of(rows: Sequence[Clause], together: str, schema: Schema, known: Known) -> Expression:
    """The condition that rows stand for. Raises PlanError in words for the person."""
    if not rows:
        raise PlanError("a condition is wanted", "add one, or switch the step off")
    items = tuple(_condition(row, schema, known) for row in rows)
    if len(items) == 1:
        return items[0]
    return ex.AnyOf(items=items) if together == "any" else ex.AllOf(items=items)


def _left(expression: Expression) -> tuple[str, str] | None:
    """The name of a clause's left side, and the part of a date that it is."""
    match expression:
        case ex.ColumnRef(name=name):
            return name, ""
        case ex.DatePart(part=part, value=ex.ColumnRef(name=name)) if part in _PARTS:
            return f"{part}|{name}", part
        case ex.DateFloor(unit="day", value=ex.ColumnRef(name=name)):
            return f"day|{name}", ""
        case _:
            return None


def _clause(item: Expression) -> Clause | None:
    negated, inner = isinstance(item, ex.Negated), item.item if isinstance(item, ex.Negated) else item
    held: Held
    given: tuple[Constant, ...] = ()
    match inner:
        case ex.Compare(op=op, left=value, right=Constant() as right) if not negated:
            held, given = op, (right,)
        case ex.Between(value=value, low=low, high=high) if not negated:
            held, given = "between", (low, high)
        case ex.OneOf(value=value, options=options):
            held, given = "none of" if negated else "one of", options
        case ex.TextMatch(value=value, how="contains", pattern=pattern):
            held, given = "lacks" if negated else "contains", (Constant(type=Type.TEXT, value=pattern),)
        case ex.TextMatch(value=value, how=how, pattern=pattern) if not negated:
            held, given = how, (Constant(type=Type.TEXT, value=pattern),)
        case ex.Holds(value=value, items=items):
            told = tuple(Constant(type=Type.TEXT, value=item) for item in items)
            held, given = ("none of" if negated else "one of" if len(items) > 1 else "="), told
        case ex.IsMissing(value=value):
            held = "known" if negated else "missing"
        case _:
            return None
    left = _left(value)
    return None if left is None else Clause(left[0], held, tuple(_typed(c, left[1]) for c in given))


def _typed(constant: Constant, part: str) -> str:
    """A constant as a person would type it."""
    names = _NAMED.get(part)
    if names and isinstance(constant.value, int) and 1 <= constant.value <= len(names):
        return names[constant.value - 1]
    if constant.type is Type.BOOLEAN:
        return "yes" if constant.value else "no"
    return str(constant.value)


def _condition(row: Clause, schema: Schema, known: Known) -> Expression:
    part, _, name = row.column.partition("|") if row.column not in schema else ("", "", row.column)
    field = need(schema, name)
    value: Expression = ex.ColumnRef(name=name)
    kind, names = field.type, tuple(known(field))
    if part == "day":
        value, kind = ex.DateFloor(unit="day", value=value), Type.DATE
    elif part:
        if part not in _PARTS:
            raise PlanError(f"{spoken(name)} has no {part}", found=part, accepted=list(_PARTS))
        value, kind, names = ex.DatePart(part=_PARTS[part], value=value), Type.INTEGER, _NAMED.get(part, ())
    given = [v for v in row.values if v.strip()]
    wanted = HELD[row.held][1]
    if len(given) < (1 if wanted == MANY else wanted):
        raise PlanError(f"{spoken(name)} {HELD[row.held][0]} … what?", "write a value")
    constants = tuple(_constant(v, Type.TEXT if row.held in _OF_TEXT else kind, names, part) for v in given)
    match row.held:
        case "=" | "one of" if field.separator:
            return ex.Holds(value=value, separator=field.separator, items=tuple(given))
        case "!=" | "none of" if field.separator:
            return ex.Negated(item=ex.Holds(value=value, separator=field.separator, items=tuple(given)))
        case "contains" | "starts" | "ends":
            return ex.TextMatch(how=row.held, value=value, pattern=given[0])
        case "lacks":
            return ex.Negated(item=ex.TextMatch(how="contains", value=value, pattern=given[0]))
        case "missing":
            return ex.IsMissing(value=value)
        case "known":
            return ex.Negated(item=ex.IsMissing(value=value))
        case "between":
            return ex.Between(value=value, low=constants[0], high=constants[1])
        case "one of":
            return ex.OneOf(value=value, options=constants)
        case "none of":
            return ex.Negated(item=ex.OneOf(value=value, options=constants))
        case "=" | "!=" | "<" | "<=" | ">" | ">=":
            return ex.Compare(op=row.held, left=value, right=constants[0])


def _constant(text: str, kind: Type, names: Sequence[str], part: str) -> Constant:
    if part in _NAMED:
        place = next(
            (n for n, name in enumerate(names, start=1) if name.lower().startswith(text.strip().lower())), None
        )
        if place is not None:
            return Constant(type=Type.INTEGER, value=place)
    return typed_constant(text, kind, names)


def as_clause(row: Mapping[str, object]) -> Clause:
    """A row of a filled form. Raises PlanError where it is none."""
    column, held, values = row.get("column"), row.get("held"), row.get("values", ())
    if not isinstance(column, str) or held not in get_args(Held) or not isinstance(values, (list, tuple)):
        raise PlanError("this row is no condition", "choose a column and what it is held against")
    return Clause(column, held, tuple(str(v) for v in values))  # type: ignore[arg-type]
