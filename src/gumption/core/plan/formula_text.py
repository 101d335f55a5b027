"""Expressions as the formulas that people type, which `parse_formula` reads again."""

from __future__ import annotations

import re

from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan.expressions import Constant, Expression
from gumption.core.plan.formula import DIFFERENCES, FLOORS, NUMBERS, PARTS

_UNITS = {unit: name for name, unit in DIFFERENCES.items()}
_PLAIN = re.compile(r"[A-Za-z_][A-Za-z0-9_]*")
_WORDS = {
    *("and", "or", "not", "case", "when", "then", "else", "end", "in", "is", "null", "between", "like", "as", "date"),
    *("time", "timestamp", "true", "false", "select", "from", "where", "order", "group", "by", "on", "join", "interval"),
}  # fmt: skip
"""What a column may not be called without quotes."""
_HOW = {"contains": "contains", "starts": "starts_with", "ends": "ends_with"}


def formula_text(expression: Expression) -> str | None:
    """The formula for an expression; None where formulas cannot say it."""
    try:
        return _text(expression)
    except _Unsayable:
        return None


class _Unsayable(Exception):
    """A part that formulas have no words for."""


def _text(expression: Expression) -> str:
    match expression:
        case ex.ColumnRef(name=name):
            plain = _PLAIN.fullmatch(name) and name.lower() not in _WORDS
            return name if plain else '"' + name.replace('"', '""') + '"'
        case Constant():
            return _constant(expression)
        case ex.Compare(op=op, left=left, right=right) | ex.Arithmetic(op=op, left=left, right=right):
            return f"{_inner(left)} {op} {_inner(right)}"
        case ex.Between(value=value, low=low, high=high):
            return f"{_inner(value)} between {_constant(low)} and {_constant(high)}"
        case ex.OneOf(value=value, options=options):
            return f"{_inner(value)} in ({', '.join(map(_constant, options))})"
        case ex.AllOf(items=items):
            return " and ".join(map(_inner, items))
        case ex.AnyOf(items=items):
            return " or ".join(map(_inner, items))
        case ex.Negated(item=item):
            return f"not {_inner(item)}"
        case ex.IsMissing(value=value):
            return f"missing({_text(value)})"
        case ex.TextMatch(how=how, value=value, pattern=pattern):
            return f"{_HOW[how]}({_text(value)}, {_quoted(pattern)})"
        case ex.Case(branches=branches, otherwise=otherwise):
            cases = " ".join(f"when {_text(b.when)} then {_text(b.then)}" for b in branches)
            return f"case {cases}{'' if otherwise is None else f' else {_text(otherwise)}'} end"
        case ex.FirstKnown(items=(one, other)):
            return f"coalesce({_text(one)}, {_text(other)})"
        case ex.Concatenate(parts=parts):
            return " || ".join(map(_inner, parts))
        case ex.NumberFunction(function="round", value=value, digits=digits):
            return f"round({_text(value)}, {digits})" if digits else f"round({_text(value)})"
        case ex.NumberFunction(function=function, value=value) if function in NUMBERS:
            return f"{function}({_text(value)})"
        case ex.TextFunction(function=function, value=value):
            return f"{function}({_text(value)})"
        case ex.Replace(value=value, old=old, new=new):
            return f"replace({_text(value)}, {_quoted(old)}, {_quoted(new)})"
        case ex.SplitPart(value=value, separator=separator, part=part):
            return f"split_part({_text(value)}, {_quoted(separator)}, {part})"
        case ex.Slice(value=value, start=start, length=length):
            return f"substring({_text(value)}, {start}, {length})"
        case ex.Bin(value=value, width=float(width), start=0.0, edges=()):
            return f"bin({_text(value)}, {width:g})"
        case ex.DatePart(part=name, value=value, first_month=1) if name in PARTS:
            return f"{name}({_text(value)})"
        case ex.DateFloor(unit=unit, value=value, first_month=1) if unit in FLOORS:
            return f"start_of_{unit}({_text(value)})"
        case ex.DateDifference(unit=unit, start=start, end=end):
            return f"{_UNITS[unit]}({_text(start)}, {_text(end)})"
        case _:
            raise _Unsayable


def _inner(expression: Expression) -> str:
    """A part between signs: bracketed where it has signs of its own."""
    signs = (ex.Compare, ex.Arithmetic, ex.Between, ex.OneOf, ex.AllOf, ex.AnyOf, ex.Negated, ex.Concatenate)
    return f"({_text(expression)})" if isinstance(expression, signs) else _text(expression)


def _constant(constant: Constant) -> str:
    match constant.type:
        case Type.TEXT:
            return _quoted(str(constant.value))
        case Type.DATE | Type.TIME | Type.TIMESTAMP:
            return f"{constant.type} '{constant.value}'"
        case Type.BOOLEAN:
            return "true" if constant.value else "false"
        case Type.INTEGER | Type.FLOAT:
            return repr(constant.value)
        case _:
            raise _Unsayable


def _quoted(text: str) -> str:
    return "'" + text.replace("'", "''") + "'"
