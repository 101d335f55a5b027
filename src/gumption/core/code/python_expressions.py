"""An expression as pandas code over one frame."""

from __future__ import annotations

import re
from typing import assert_never

from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan.expression_types import type_of
from gumption.core.plan.expressions import Constant, Expression
from gumption.core.plan.fields import Schema
from gumption.core.plan.words import MONTH_NAMES

MONTHS = tuple(name[:3].upper() for name in MONTH_NAMES)

HELPERS = {
    "each": '''def each(groups, work):
    """What is worked out of each group's rows, the groups as its index."""
    return pd.Series([work(rows) for _, rows in groups], index=groups.size().index)''',
    "related": '''def related(y, x, how):
    """How two columns go together over the rows that have both; missing where they do not vary."""
    both = pd.DataFrame({"y": y, "x": x}).dropna().astype(float)
    if both["x"].nunique() < 2 or (how == "correlation" and both["y"].nunique() < 2):
        return np.nan
    return both["y"].corr(both["x"]) if how == "correlation" else both["y"].cov(both["x"]) / both["x"].var()''',
    "whole_months": '''def whole_months(start, end):
    """The most months that can be added to the start without passing the end."""
    start, end = start.dt.normalize(), end.dt.normalize()
    short = (end.dt.day < start.dt.day) & ~end.dt.is_month_end
    return (end.dt.year - start.dt.year) * 12 + end.dt.month - start.dt.month - short''',
    "working_days": '''def working_days(start, end):
    """Mondays to Fridays from the start up to the day before the end."""
    monday = pd.Timestamp("1900-01-01")
    counts = []
    for side in (start, end):
        weeks, rest = (side.dt.normalize() - monday).dt.days.divmod(7)
        counts.append(5 * weeks + rest.clip(upper=5))
    return counts[1] - counts[0]''',
    "ntile": '''def ntile(values, bins):
    """The number of each value's bin, of as many bins with as many rows each; values come in order."""
    size, extra = divmod(int(values.notna().sum()), bins)
    place = pd.Series(range(len(values)), index=values.index)
    large = extra * (size + 1)
    number = (place // (size + 1)).where(place < large, extra + (place - large) // max(size, 1))
    return (number + 1).where(values.notna())''',
}
"""Functions that a script gets when it needs them."""


def constant_code(constant: Constant) -> str:
    """A value of the script; dates as timestamps, which is what pandas holds them as."""
    match constant.type:
        case Type.DATE | Type.TIMESTAMP:
            return f"pd.Timestamp({str(constant.value)!r})"
        case Type.TIME:
            return f"datetime.time.fromisoformat({str(constant.value)!r})"
        case Type.DECIMAL:
            return str(constant.value)
        case Type.TEXT | Type.INTEGER | Type.FLOAT | Type.BOOLEAN | Type.DURATION:
            return repr(constant.value)
        case _:
            assert_never(constant.type)


class ExpressionCoder:
    """Writes expressions over the columns of one frame."""

    def __init__(self, frame: str, schema: Schema) -> None:
        self.frame, self.schema = frame, schema

    def type(self, expression: Expression) -> Type:
        return type_of(expression, self.schema).type

    def series(self, expression: Expression) -> str:
        """The expression as a column even where it is one value."""
        code = self.code(expression)
        return f"pd.Series({code}, index={self.frame}.index)" if isinstance(expression, Constant) else code

    def numbers(self, expression: Expression) -> str:
        """A column of whole numbers as floats, so that gaps are gaps."""
        return f"{self.series(expression)}.astype(float)"

    def code(self, expression: Expression) -> str:
        """The expression; conditions are yes or no, never missing."""
        match expression:
            case ex.ColumnRef(name=name):
                return f"{self.frame}[{name!r}]"
            case Constant():
                return constant_code(expression)
            case ex.Compare(op=op, left=left, right=right):
                if isinstance(left, Constant):
                    a, b = self.series(left), self.code(right)
                else:
                    a, b = self.code(left), self.code(right)
                return self._compare(op, a, b, left, right)
            case ex.Between(value=value, low=low, high=high):
                return f"{self.series(value)}.between({constant_code(low)}, {constant_code(high)})"
            case ex.OneOf(value=value, options=options):
                return f"{self.series(value)}.isin([{', '.join(constant_code(o) for o in options)}])"
            case ex.TextMatch(how=how, value=value, pattern=pattern):
                text = f"{self.series(value)}.str.lower().str"
                if how == "contains":
                    return f"{text}.contains({pattern.lower()!r}, regex=False, na=False)"
                return f"{text}.{how}with({pattern.lower()!r}, na=False)"
            case ex.PatternMatch(value=value, pattern=pattern):
                # Groups that are not taken out would be warned of.
                plain = re.sub(r"(?<!\\)\((?!\?)", "(?:", pattern)
                return f"{self.series(value)}.str.contains({plain!r}, regex=True, flags=re.ASCII, na=False)"
            case ex.Holds():
                return self.code(expression.as_pattern)
            case ex.IsMissing(value=value):
                return f"{self.series(value)}.isna()"
            case ex.AllOf(items=items):
                return "(" + " & ".join(self.condition(i) for i in items) + ")"
            case ex.AnyOf(items=items):
                return "(" + " | ".join(self.condition(i) for i in items) + ")"
            case ex.Negated(item=item):
                return f"~{self.condition(item)}"
            case ex.Case(branches=branches, otherwise=otherwise):
                cases = ", ".join(f"({self.condition(b.when)}, {self._then(b.then, expression)})" for b in branches)
                last = self._gap(expression) if otherwise is None else self._then(otherwise, expression)
                text = ".astype('str')" if self.type(expression) is Type.TEXT else ""
                return f"pd.Series({last}, index={self.frame}.index).case_when([{cases}]){text}"
            case ex.FirstKnown(items=items):
                first, *rest = items
                return self.series(first) + "".join(f".fillna({self.code(item)})" for item in rest)
            case ex.Arithmetic():
                return self._arithmetic(expression)
            case ex.NumberFunction():
                return self._number_function(expression)
            case ex.TextFunction(function=function, value=value):
                method = {"lower": "lower()", "upper": "upper()", "trim": "strip(' ')", "length": "len()"}[function]
                return f"{self.series(value)}.str.{method}"
            case ex.Concatenate(parts=parts):
                return "(" + " + ".join([self.series(parts[0]), *(self.code(p) for p in parts[1:])]) + ")"
            case ex.Replace(value=value, old=old, new=new):
                return f"{self.series(value)}.str.replace({old!r}, {new!r}, regex=False)"
            case ex.SplitPart(value=value, separator=separator, part=part):
                split = f"{self.series(value)}.str.split({separator!r}, regex=False, expand=True)"
                return f"{split}.reindex(columns=range({part}))[{part - 1}].replace('', np.nan).astype('str')"
            case ex.Slice(value=value, start=start, length=length):
                return f"{self.series(value)}.str.slice({start - 1}, {start - 1 + length})"
            case ex.Extract(value=value, pattern=pattern):
                grouped = pattern if re.compile(pattern).groups else f"({pattern})"
                return f"{self.series(value)}.str.extract({grouped!r}, flags=re.ASCII, expand=False).replace('', np.nan).astype('str')"
            case ex.Bin(value=value, width=width, start=start, edges=edges):
                if width is not None:
                    return f"({start!r} + np.floor(({self.series(value)} - {start!r}) / {width!r}) * {width!r})"
                bins = ", ".join([*map(repr, edges), "np.inf"])
                return f"pd.cut({self.series(value)}, [{bins}], right=False, labels={list(edges)!r}).astype(float)"
            case ex.DatePart():
                return self._date_part(expression)
            case ex.DateFloor():
                return self._date_floor(expression)
            case ex.DateDifference():
                return self._difference(expression)
            case ex.DateShift(unit=unit, count=count, value=value):
                return f"({self.series(value)} + pd.DateOffset({unit}={count}))"
            case _:
                assert_never(expression)

    def condition(self, expression: Expression) -> str:
        """A condition; a column of yes and no takes a missing value for no."""
        code = self.code(expression)
        plain = isinstance(expression, (ex.ColumnRef, ex.Case, ex.FirstKnown, Constant))
        return f"({self.series(expression)} == True)" if plain else code

    def _compare(self, op: ex.Expression | str, a: str, b: str, left: Expression, right: Expression) -> str:
        if op == "!=":
            # Two missing values are not unlike each other.
            if isinstance(left, Constant) or isinstance(right, Constant):
                return f"({a} != {b})"
            return f"(({a} != {b}) & ({a}.notna() | {b}.notna()))"
        if Type.TIME in (self.type(left), self.type(right)) and op != "=":
            keyed = [
                f"{side}.astype(str).where({side}.notna())" if not side.startswith("datetime") else f"str({side})"
                for side in (a, b)
            ]
            return f"({keyed[0]} {op} {keyed[1]})"
        return f"({a} {'==' if op == '=' else op} {b})"

    def _then(self, value: Expression, case: ex.Case) -> str:
        code = self.code(value)
        if isinstance(value, Constant) or self.type(value) is self.type(case):
            return code
        return f"{code}.astype(float)" if self.type(case) in (Type.FLOAT, Type.DECIMAL) else code

    def _gap(self, expression: Expression) -> str:
        kind = self.type(expression)
        return "pd.NaT" if kind.is_time else "np.nan" if kind.is_number else "None"

    def _divisor(self, expression: Expression) -> str:
        if isinstance(expression, Constant):
            return "float('nan')" if not float(expression.value) else constant_code(expression)
        return f"{self.code(expression)}.replace(0, np.nan)"

    def _arithmetic(self, expression: ex.Arithmetic) -> str:
        left, right = expression.left, expression.right
        a = self.series(left) if isinstance(right, Constant) else self.code(left)
        match expression.op:
            case "+" | "-" | "*":
                return f"({a} {expression.op} {self.code(right)})"
            case "/":
                return f"({a} / {self._divisor(right)})"
            case "//":
                return f"np.trunc({a} / {self._divisor(right)})"
            case "%":
                return f"np.fmod({a}, {self._divisor(right)})"
            case "^":
                power = self.code(right)
                return f"({self.numbers(left)} ** {power}).replace([np.inf, -np.inf], np.nan)"
            case _:
                assert_never(expression.op)

    def _number_function(self, expression: ex.NumberFunction) -> str:
        value = self.series(expression.value)
        match expression.function:
            case "abs":
                return f"{value}.abs()"
            case "sign" | "floor" | "exp":
                return f"np.{expression.function}({value})"
            case "ceiling":
                return f"np.ceil({value})"
            case "round":
                step = 10**expression.digits
                exact = self.type(expression.value) in (Type.INTEGER, Type.DECIMAL)
                # Cents are floats here: what lies a hair under a half is a half.
                scaled = f"({value}.abs() * {step})" + (".round(6)" if exact else "")
                return f"(np.sign({value}) * np.floor({scaled} + 0.5) / {step})"
            case "sqrt":
                return f"np.sqrt({value}.where({value} >= 0))"
            case "ln" | "log10":
                name = "log" if expression.function == "ln" else "log10"
                return f"np.{name}({value}.where({value} > 0))"
            case _:
                assert_never(expression.function)

    def _date_part(self, expression: ex.DatePart) -> str:
        value, first = self.series(expression.value), expression.first_month
        if self.type(expression.value) is Type.TIME:
            return f"{value}.map(lambda at: at.{expression.part}, na_action='ignore').astype(float)"
        match expression.part:
            case "weekday":
                return f"({value}.dt.day_of_week + 1)"
            case "week":
                return f"{value}.dt.isocalendar().week.astype(float)"
            case "fiscal_year":
                return f"({value}.dt.year + ({value}.dt.month >= {first}))" if first > 1 else f"{value}.dt.year"
            case "fiscal_quarter":
                return f"(({value}.dt.month + 12 - {first}) % 12 // 3 + 1)"
            case "year" | "quarter" | "month" | "day" | "day_of_year" | "hour" | "minute":
                return f"{value}.dt.{expression.part}"
            case _:
                assert_never(expression.part)

    def _date_floor(self, expression: ex.DateFloor) -> str:
        value, last = self.series(expression.value), MONTHS[expression.first_month - 2]
        match expression.unit:
            case "day":
                return f"{value}.dt.normalize()"
            case "hour":
                return f"{value}.dt.floor('h')"
            case "year" | "quarter" | "month" | "week":
                period = {"year": "Y", "quarter": "Q", "month": "M", "week": "W"}[expression.unit]
                return f"{value}.dt.to_period({period!r}).dt.start_time"
            case "fiscal_year" | "fiscal_quarter":
                return (
                    f"{value}.dt.to_period('{'Y' if expression.unit == 'fiscal_year' else 'Q'}-{last}').dt.start_time"
                )
            case _:
                assert_never(expression.unit)

    def _difference(self, expression: ex.DateDifference) -> str:
        start, end = self.series(expression.start), self.series(expression.end)
        match expression.unit:
            case "days":
                return f"({end}.dt.normalize() - {start}.dt.normalize()).dt.days"
            case "hours" | "minutes" | "years":
                seconds = {"hours": 3600, "minutes": 60, "years": 365.25 * 86400}[expression.unit]
                return f"(({end} - {start}).dt.total_seconds() / {seconds})"
            case "months":
                return f"whole_months({start}, {end})"
            case "whole_years":
                return f"(whole_months({start}, {end}) // 12)"
            case "working_days":
                return f"working_days({start}, {end})"
            case _:
                assert_never(expression.unit)
