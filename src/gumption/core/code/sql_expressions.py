"""An expression as SQL: a syntax tree with column names replaced by what they stand for."""

from __future__ import annotations

from typing import assert_never

from sqlglot import exp

from gumption.core.code.dialects import Dialect, Tree, bracketed, cast, is_known, is_null
from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan.expression_types import type_of
from gumption.core.plan.expressions import Constant, Expression
from gumption.core.plan.fields import Schema

_COMPARE = {"=": exp.EQ, "!=": exp.NullSafeNEQ, "<": exp.LT, "<=": exp.LTE, ">": exp.GT, ">=": exp.GTE}
_CONDITIONS = (
    ex.Compare,
    ex.Between,
    ex.OneOf,
    ex.TextMatch,
    ex.Holds,
    ex.PatternMatch,
    ex.AllOf,
    ex.AnyOf,
)
"""Conditions that SQL leaves unknown where a value is missing."""


def text_sql(value: str) -> Tree:
    return exp.Literal.string(value)


def number_sql(value: int | float) -> Tree:
    return exp.Literal.number(repr(value)) if value >= 0 else exp.Neg(this=exp.Literal.number(repr(-value)))


def float_sql(value: float) -> Tree:
    """A number that is a float in every dialect."""
    return cast(number_sql(value), "double")


def constant_sql(constant: Constant) -> Tree:
    """A value as a literal of the library's making."""
    match constant.type:
        case Type.TEXT:
            return text_sql(str(constant.value))
        case Type.DATE | Type.TIME | Type.TIMESTAMP:
            return cast(text_sql(str(constant.value)), constant.type.value)
        case Type.BOOLEAN:
            return exp.true() if constant.value else exp.false()
        case Type.DECIMAL:
            text = str(constant.value)
            return exp.Neg(this=exp.Literal.number(text[1:])) if text.startswith("-") else exp.Literal.number(text)
        case Type.INTEGER | Type.FLOAT | Type.DURATION:
            assert not isinstance(constant.value, (str, bool))
            return number_sql(constant.value)
        case _:
            assert_never(constant.type)


class ExpressionWriter:
    """Writes expressions over columns that stand for trees, in one dialect."""

    def __init__(self, dialect: Dialect, columns: dict[str, Tree], schema: Schema) -> None:
        self.dialect, self.columns, self.schema = dialect, columns, schema

    def value(self, expression: Expression) -> Tree:
        """A value as it may stand in a column: conditions are yes or no, never unknown."""
        tree = self.tree(expression)
        if isinstance(expression, _CONDITIONS):
            return exp.Is(this=exp.paren(tree, copy=False), expression=exp.true())
        if isinstance(expression, Constant) and expression.type in (Type.FLOAT, Type.DURATION):
            return cast(tree, "double")
        return tree

    def type(self, expression: Expression) -> Type:
        return type_of(expression, self.schema).type

    def tree(self, expression: Expression) -> Tree:
        """The expression; a condition may be unknown, which a WHERE takes for no."""
        write = self.dialect.write
        match expression:
            case ex.ColumnRef(name=name):
                return self.columns[name].copy()
            case Constant():
                return constant_sql(expression)
            case ex.Compare(op=op, left=left, right=right):
                return _COMPARE[op](this=bracketed(self.tree(left)), expression=bracketed(self.tree(right)))
            case ex.Between(value=value, low=low, high=high):
                return exp.Between(this=bracketed(self.tree(value)), low=constant_sql(low), high=constant_sql(high))
            case ex.OneOf(value=value, options=options):
                return exp.In(this=bracketed(self.tree(value)), expressions=[constant_sql(o) for o in options])
            case ex.TextMatch(how=how, value=value, pattern=pattern):
                return write(how, self.tree(value), text_sql(pattern.lower()))
            case ex.PatternMatch(value=value, pattern=pattern):
                return write("pattern_match", self.tree(value), text_sql(pattern))
            case ex.Holds():
                return self.tree(expression.as_pattern)
            case ex.IsMissing(value=value):
                return is_null(self.tree(value))
            case ex.AllOf(items=items):
                return exp.and_(*(self.tree(item) for item in items), copy=False)
            case ex.AnyOf(items=items):
                return exp.paren(exp.or_(*(self.tree(item) for item in items), copy=False), copy=False)
            case ex.Negated(item=ex.IsMissing(value=value)):
                return is_known(self.tree(value))
            case ex.Negated(item=item):
                return exp.Not(this=exp.Is(this=exp.paren(self.tree(item), copy=False), expression=exp.true()))
            case ex.Case(branches=branches, otherwise=otherwise):
                case = exp.Case()
                for branch in branches:
                    case = case.when(self.tree(branch.when), self.value(branch.then), copy=False)
                return case if otherwise is None else case.else_(self.value(otherwise), copy=False)
            case ex.FirstKnown(items=items):
                first, *rest = [self.value(item) for item in items]
                return exp.Coalesce(this=first, expressions=rest)
            case ex.Arithmetic():
                return self._arithmetic(expression)
            case ex.NumberFunction():
                return self._number_function(expression)
            case ex.TextFunction(function=function, value=value):
                return write(function, self.tree(value))
            case ex.Concatenate(parts=parts):
                first, *rest = [bracketed(self.tree(p)) for p in parts]
                for part in rest:
                    first = exp.DPipe(this=first, expression=part)
                return first
            case ex.Replace(value=value, old=old, new=new):
                return write("replace", self.tree(value), text_sql(old), text_sql(new))
            case ex.SplitPart(value=value, separator=separator, part=part):
                return write("split", self.tree(value), text_sql(separator), number_sql(part))
            case ex.Slice(value=value, start=start, length=length):
                return write("slice", self.tree(value), number_sql(start), number_sql(length))
            case ex.Extract(value=value, pattern=pattern):
                operation = "extract group" if "(" in pattern.replace("\\(", "").replace("(?:", "") else "extract"
                return write(operation, self.tree(value), text_sql(pattern))
            case ex.Bin():
                return self._bin(expression)
            case ex.DatePart():
                return self._date_part(expression)
            case ex.DateFloor(unit=unit, value=value, first_month=first_month):
                return self._date_floor(unit, self.tree(value), first_month)
            case ex.DateDifference():
                return self._difference(expression)
            case ex.DateShift(unit=unit, count=count, value=value):
                return self._shifted(self.tree(value), count, unit, self.type(value))
            case _:
                assert_never(expression)

    def as_float(self, expression: Expression) -> Tree:
        """A number as a float, cast only where it is not one."""
        tree = self.value(expression)
        return tree if self.type(expression) in (Type.FLOAT, Type.DURATION) else cast(tree, "double")

    def _arithmetic(self, expression: ex.Arithmetic) -> Tree:
        left, right = expression.left, expression.right
        # A literal with a point is an exact decimal to SQL: beside an exact number it must be said to be a float.
        a, b = (bracketed(self.value(side)) for side in (left, right))
        match expression.op:
            case "+" | "-" | "*":
                return {"+": exp.Add, "-": exp.Sub, "*": exp.Mul}[expression.op](this=a, expression=b)
            case "/":
                return self.dialect.write("divide", a, b)
            case "//":
                return self.dialect.write("divide whole", a, b)
            case "%":
                return self.dialect.write("rest", a, b)
            case "^":
                plain = isinstance(right, Constant) and right.type is Type.INTEGER and int(right.value) > 0
                operation = "power" if plain else "real power"
                return self.dialect.write(operation, self.as_float(left), self.as_float(right))
            case _:
                assert_never(expression.op)

    def _number_function(self, expression: ex.NumberFunction) -> Tree:
        value, function = expression.value, expression.function
        kind = type_of(value, self.schema)
        exact = kind.type in (Type.INTEGER, Type.DECIMAL)
        if function == "round":
            if exact:
                return self.dialect.write(
                    "round exact", self.tree(value), number_sql(min(expression.digits, kind.scale))
                )
            return self.dialect.write("round float", self.tree(value), float_sql(10.0**expression.digits))
        if function in ("sqrt", "ln", "log10", "exp"):
            return self.dialect.write(function, self.as_float(value))
        return self.dialect.write(function, self.tree(value))

    def _bin(self, expression: ex.Bin) -> Tree:
        value = self.as_float(expression.value)
        if expression.width is not None:
            start, width = float_sql(expression.start), float_sql(expression.width)
            return self.dialect.write("bin width", value, start, width)
        case = exp.Case()
        for edge in reversed(expression.edges):
            case = case.when(exp.GTE(this=value.copy(), expression=number_sql(edge)), float_sql(edge), copy=False)
        return case

    def _date_part(self, expression: ex.DatePart) -> Tree:
        write, value, first = self.dialect.write, self.tree(expression.value), expression.first_month
        if expression.part == "fiscal_year":
            if first == 1:
                return write("year", value)
            return write("fiscal_year", write("year", value), write("month", value), number_sql(first))
        if expression.part == "fiscal_quarter":
            return write("fiscal_quarter", write("month", value), number_sql(first))
        return write(expression.part, value)

    def _date_floor(self, unit: ex.DateUnit, value: Tree, first_month: int) -> Tree:
        if unit not in ("fiscal_year", "fiscal_quarter"):
            return self.dialect.write(f"floor {unit}", value)
        months = first_month - 1
        plain = f"floor {unit.removeprefix('fiscal_')}"
        if not months:
            return self.dialect.write(plain, value)
        month = self._shifted(self.dialect.write("floor month", value), -months, "months", Type.DATE)
        return self._shifted(self.dialect.write(plain, month), months, "months", Type.DATE)

    def _shifted(self, value: Tree, count: int, unit: str, kind: Type) -> Tree:
        days = count * 7 if unit == "weeks" else count
        name = {"days": "DAY", "weeks": "DAY", "months": "MONTH", "years": "YEAR"}[unit]
        step = exp.Interval(this=text_sql(str(abs(days))), unit=exp.var(name))
        moved = (exp.Add if days >= 0 else exp.Sub)(this=bracketed(value), expression=step)
        # Adding an interval makes a timestamp of a date.
        return cast(moved, "date") if kind is Type.DATE else moved

    def _difference(self, expression: ex.DateDifference) -> Tree:
        write, unit = self.dialect.write, expression.unit
        start, end = self.tree(expression.start), self.tree(expression.end)
        if unit in ("hours", "minutes", "years"):
            size = {"hours": 3.6e9, "minutes": 6e7, "years": 3.15576e13}[unit]
            return write("hours", start, end, number_sql(size))
        start, end = self._day(expression.start, start), self._day(expression.end, end)
        if unit == "days":
            return write("days", start, end)
        if unit == "working_days":
            monday = cast(text_sql("1900-01-01"), "date")
            return exp.Sub(
                this=write("week days", write("days", monday, end)),
                expression=exp.paren(write("week days", write("days", monday, start))),
            )
        counts = [write("month count", write("year", d), write("month", d)) for d in (end, start)]
        days = [write("day", end), write("day", start), write("last day", end)]
        months = write("months", *counts, days[0], days[1], days[2])
        return months if unit == "months" else write("whole years", exp.paren(months))

    def _day(self, expression: Expression, tree: Tree) -> Tree:
        return tree if self.type(expression) is Type.DATE else cast(tree, "date")
