"""Random tables and random well-typed plans over them."""

from __future__ import annotations

import datetime as dt
import random
from collections.abc import Callable, Sequence
from typing import Any, TypeVar, get_args

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Aggregate, Constant, Expression
from gumption.core.plan.fields import PlanError, Schema
from gumption.core.plan.steps import Plan, SortKey, Step, Take
from gumption.core.plan.typing import schema_of

WORDS = ["Tea", "tea", "Coffee", "Ärger", "o'clock", 'a "b"', "NULLs", "x-y-z", "Zürich", "-1", "50% off_1", "a\\b"]
WORDS += ["Tea; Cake ;d(1)", 'ü;"b"; ;c\\d;', "; ;"]
T = TypeVar("T")
_EXACT = (Type.INTEGER, Type.DECIMAL)


def tables(chance: random.Random, rows: int) -> dict[str, str]:
    """Facts with gaps, doubles and odd text; a table of kinds; rates that hold from a day on."""
    lines = ["id,word,kind,day,seen,whole,cents,real,ok"]
    for number in range(rows):
        word = chance.choice(WORDS).replace('"', '""')
        day = dt.date(2019, 12, 28) + dt.timedelta(days=chance.randrange(1500))
        seen = dt.datetime(2020, 2, 27) + dt.timedelta(minutes=chance.randrange(900_000))
        cells = [
            str(number),
            f'"{word}"',
            chance.choice("ABCDE"),
            day.isoformat(),
            f"{seen:%Y-%m-%d %H:%M:%S}",
            str(chance.choice([0, 1, -1, 7, 7, 12, -35, 10**9])),
            f"{chance.choice([0, 5, 1999, -1999, chance.randrange(-99999, 99999)]) / 100:.2f}",
            f"{chance.uniform(-5, 5):.9f}",
            chance.choice(["yes", "no"]),
        ]
        lines.append(",".join(c if i == 0 or chance.random() > 0.12 else "" for i, c in enumerate(cells)))
    kinds = ["code,label,weight", "A,Alpha,1.50", "B,Beta,", "C,,2.25", "Z,Zeta,9.75"]
    rates = ["what,since,rate"]
    for code in "ABC":
        for year in range(2019, 2024):
            rates.append(
                f"{code},{year}-{chance.randrange(1, 13):02d}-15,{chance.randrange(10, 99)}.{chance.randrange(10, 99)}"
            )
    return {
        "facts.csv": "\n".join(lines) + "\n",
        "kinds.csv": "\n".join(kinds) + "\n",
        "rates.csv": "\n".join(rates) + "\n",
    }


class Maker:
    """Makes one plan after another; each is typed before it is given out."""

    def __init__(self, chance: random.Random, catalogue: Catalogue) -> None:
        self.chance, self.catalogue = chance, catalogue
        self.names = 0

    def choice(self, offered: Sequence[T]) -> T:
        """One of them; nothing is drawn where there is none."""
        if not offered:
            raise IndexError
        return self.chance.choice(offered)

    def name(self) -> str:
        self.names += 1
        return f"n{self.names}"

    def plan(self) -> Plan:
        self.names = 0
        plan = Plan(steps=(Take(table="facts"),))
        for make in self._course():
            for _ in range(8):
                try:
                    longer = plan.then(*make(schema_of(plan, self.catalogue)))
                    schema_of(longer, self.catalogue)
                except (PlanError, IndexError):
                    continue
                plan = longer
                break
        return plan

    def _course(self) -> list[Callable[[Schema], list[Step]]]:
        chance = self.chance
        rows = [
            self.keep,
            self.derive,
            self.derive,
            self.join,
            self.as_of,
            self.append,
            self.window,
            self.unpivot,
            self.spread,
            self.scalar,
        ]
        course = chance.sample(rows, chance.randrange(1, 4))
        if chance.random() < 0.8:
            course.append(self.choice([self.group, self.group, self.group, self.pivot, self.timeline]))
            course += chance.sample([self.keep_numbers, self.window, self.derive, self.group], chance.randrange(3))
        if chance.random() < 0.7:
            course.append(self.sort)
            if chance.random() < 0.5:
                course.append(self.limit)
                course += chance.sample([self.derive, self.keep], chance.randrange(2))
        if chance.random() < 0.3:
            course.append(self.pick)
        return course

    def columns(self, schema: Schema, *types: Type) -> list[str]:
        return [n for n, f in schema.items() if f.type in types]

    def one(self, schema: Schema, *types: Type) -> str:
        return self.choice(self.columns(schema, *types))

    def number(self, schema: Schema, depth: int = 2, *, exact: bool = False) -> Expression:
        chance = self.chance
        column = ex.ColumnRef(name=self.one(schema, *(_EXACT if exact else (*_EXACT, Type.FLOAT))))
        if depth == 0 or chance.random() < 0.3:
            return column
        inner = self.number(schema, depth - 1, exact=exact)
        other = self.number(schema, depth - 1, exact=exact)
        whole = ex.ColumnRef(name=self.one(schema, Type.INTEGER))
        # What was worked out as a float may lie a hair off an edge.
        plain = ex.ColumnRef(
            name=self.choice([*self.columns(schema, *_EXACT), *(["real"] if "real" in schema else [])])
        )
        options: list[Callable[[], Expression]] = [
            lambda: ex.Arithmetic(op=self.choice(["+", "-"]), left=inner, right=other),
            lambda: ex.Arithmetic(
                op="*", left=inner, right=Constant(type=Type.INTEGER, value=self.choice([2, -3, 10]))
            ),
            lambda: ex.Arithmetic(op="*", left=inner, right=Constant(type=Type.DECIMAL, value="1.25")),
            lambda: ex.Arithmetic(
                op=self.choice(["//", "%"]),
                left=whole,
                right=Constant(type=Type.INTEGER, value=self.choice([2, -3, 7])),
            ),
            lambda: ex.Arithmetic(
                op=self.choice(["//", "%"]), left=Constant(type=Type.INTEGER, value=100), right=whole
            ),
            lambda: ex.NumberFunction(function=self.choice(["abs", "sign"]), value=inner),
            lambda: ex.NumberFunction(function="round", value=plain, digits=self.choice([0, 1])),
            lambda: ex.NumberFunction(function=self.choice(["floor", "ceiling"]), value=plain),
            lambda: ex.TextFunction(function="length", value=self.text(schema, 1)),
            lambda: ex.DatePart(
                part=self.choice([p for p in get_args(ex.DatePartName) if p not in ("hour", "minute")]),
                value=self.date(schema, 1),
                first_month=self.choice([1, 4, 10]),
            ),
            lambda: ex.DatePart(
                part=self.choice(["hour", "minute"]), value=ex.ColumnRef(name=self.one(schema, Type.TIMESTAMP))
            ),
            lambda: ex.DateDifference(
                unit=self.choice(["days", "months", "whole_years", "working_days"]),
                start=self.date(schema, 1),
                end=self.date(schema, 1),
            ),
            lambda: ex.FirstKnown(items=(inner, other)),
            lambda: self.case(schema, lambda: self.number(schema, depth - 1, exact=exact)),
        ]
        if not exact:
            options += [
                lambda: ex.Arithmetic(op="/", left=inner, right=other),
                lambda: ex.Arithmetic(op="^", left=column, right=Constant(type=Type.INTEGER, value=2)),
                lambda: ex.Arithmetic(
                    op="^",
                    left=ex.ColumnRef(name=self.one(schema, Type.FLOAT)),
                    right=Constant(type=Type.FLOAT, value=self.choice([0.5, -1.0, 2.5])),
                ),
                lambda: ex.NumberFunction(function=self.choice(["sqrt", "ln", "log10"]), value=inner),
                lambda: ex.NumberFunction(function="exp", value=ex.ColumnRef(name=self.one(schema, Type.FLOAT))),
                lambda: ex.Bin(value=plain, width=2.5, start=self.choice([0.0, -1.0])),
                lambda: ex.Bin(value=plain, edges=(-3.0, 0.0, 10.5)),
                lambda: ex.DateDifference(
                    unit=self.choice(["hours", "minutes", "years"]),
                    start=self.date(schema, 1),
                    end=self.date(schema, 1),
                ),
            ]
        return self.choice(options)()

    def text(self, schema: Schema, depth: int = 2) -> Expression:
        chance = self.chance
        column = ex.ColumnRef(name=self.one(schema, Type.TEXT))
        if depth == 0 or chance.random() < 0.3:
            return column
        inner = self.text(schema, depth - 1)
        return self.choice(
            [
                ex.TextFunction(function=self.choice(["lower", "upper", "trim"]), value=inner),
                ex.Concatenate(parts=(inner, Constant(type=Type.TEXT, value=" / "), self.text(schema, depth - 1))),
                ex.Replace(value=inner, old=self.choice(["e", "-", "'"]), new=self.choice(["", "é", "%"])),
                ex.SplitPart(value=inner, separator=self.choice(["-", "e", " "]), part=self.choice([1, 2, 3])),
                ex.Slice(value=inner, start=self.choice([1, 2, 4]), length=self.choice([1, 3])),
                ex.Extract(value=inner, pattern=self.choice(["[a-z]+", "([A-Z])[a-z]", "[0-9]+", "-(.)"])),
                ex.FirstKnown(items=(inner, Constant(type=Type.TEXT, value="none"))),
                self.case(schema, lambda: self.text(schema, depth - 1)),
            ]
        )

    def date(self, schema: Schema, depth: int = 2) -> Expression:
        chance = self.chance
        column = ex.ColumnRef(name=self.one(schema, Type.DATE, Type.TIMESTAMP))
        if depth == 0 or chance.random() < 0.5:
            return column
        inner = self.date(schema, depth - 1)
        return self.choice(
            [
                ex.DateFloor(
                    unit=self.choice([u for u in get_args(ex.DateUnit) if u != "hour"]),
                    value=inner,
                    first_month=self.choice([1, 4, 11]),
                ),
                ex.DateShift(
                    unit=self.choice(["days", "weeks", "months", "years"]),
                    count=self.choice([-13, -1, 1, 2]),
                    value=inner,
                ),
            ]
        )

    def case(self, schema: Schema, value: Callable[[], Expression]) -> Expression:
        branches = tuple(ex.Branch(when=self.condition(schema, 1), then=value()) for _ in range(self.choice([1, 2])))
        return ex.Case(branches=branches, otherwise=value() if self.chance.random() < 0.6 else None)

    def condition(self, schema: Schema, depth: int = 2) -> Expression:
        chance = self.chance
        if depth and chance.random() < 0.25:
            items = tuple(self.condition(schema, depth - 1) for _ in range(2))
            return self.choice([ex.AllOf(items=items), ex.AnyOf(items=items), ex.Negated(item=items[0])])
        day = Constant(type=Type.DATE, value="2021-03-31")
        options: list[Callable[[], Expression]] = [
            lambda: ex.Compare(
                op=self.choice(["=", "!=", "<", "<=", ">", ">="]),
                left=ex.ColumnRef(name=self.one(schema, Type.INTEGER)),
                right=Constant(type=Type.INTEGER, value=self.choice([0, 1, 7])),
            ),
            lambda: ex.Compare(
                op=self.choice(["<", ">", "<=", ">="]),
                left=ex.ColumnRef(name=self.one(schema, Type.DECIMAL, Type.FLOAT)),
                right=Constant(type=Type.FLOAT, value=self.choice([0.12345, -3.7001])),
            ),
            lambda: ex.Compare(
                op=self.choice(["=", "!=", "<"]),
                left=ex.ColumnRef(name="cents"),
                right=Constant(type=Type.DECIMAL, value="19.99"),
            ),
            lambda: ex.Compare(
                op=self.choice(["=", "!=", "<", ">="]),
                left=ex.ColumnRef(name=self.one(schema, Type.TEXT)),
                right=Constant(type=Type.TEXT, value=self.choice(["A", "B", "Tea", "K", ""])),
            ),
            lambda: ex.Compare(
                op=self.choice(["=", "!=", "<"]),
                left=ex.ColumnRef(name=self.one(schema, Type.TEXT)),
                right=ex.ColumnRef(name=self.one(schema, Type.TEXT)),
            ),
            lambda: ex.Compare(op=self.choice(["<", ">="]), left=self.date(schema, 1), right=self.date(schema, 1)),
            lambda: ex.OneOf(
                value=ex.ColumnRef(name=self.one(schema, Type.TEXT)),
                options=(
                    Constant(type=Type.TEXT, value="Tea"),
                    Constant(type=Type.TEXT, value="o'clock"),
                    Constant(type=Type.TEXT, value="B"),
                ),
            ),
            lambda: ex.TextMatch(
                how=self.choice(["contains", "starts", "ends"]),
                value=ex.ColumnRef(name=self.one(schema, Type.TEXT)),
                pattern=self.choice(["e", "TE", "ich", "'", "%", "_"]),
            ),
            lambda: ex.PatternMatch(
                value=ex.ColumnRef(name=self.one(schema, Type.TEXT)),
                pattern=self.choice(["^[A-Z]", "e+$", "[0-9]", "o.c"]),
            ),
            lambda: ex.Holds(
                value=ex.ColumnRef(name=self.one(schema, Type.TEXT)),
                separator=self.choice([";", "e", "|"]),
                items=self.choice([("Tea",), ("Cake", "T"), ("d(1)", "clock")]),
            ),
            lambda: ex.IsMissing(value=ex.ColumnRef(name=self.choice(list(schema)))),
            lambda: ex.Between(
                value=ex.ColumnRef(name=self.one(schema, Type.DATE, Type.TIMESTAMP)),
                low=Constant(type=Type.DATE, value="2020-02-29"),
                high=day,
            ),
            lambda: ex.Compare(
                op="=",
                left=ex.ColumnRef(name=self.one(schema, Type.BOOLEAN)),
                right=Constant(type=Type.BOOLEAN, value=True),
            ),
        ]
        for _ in range(9):
            try:
                return self.choice(options)()
            except IndexError:
                continue
        return ex.IsMissing(value=ex.ColumnRef(name=self.choice(list(schema))))

    def keep(self, schema: Schema) -> list[Step]:
        return [st.Keep(condition=self.condition(schema))]

    def keep_numbers(self, schema: Schema) -> list[Step]:
        name = self.one(schema, Type.INTEGER)
        return [
            st.Keep(
                condition=ex.Compare(op=">", left=ex.ColumnRef(name=name), right=Constant(type=Type.INTEGER, value=2))
            )
        ]

    def derive(self, schema: Schema) -> list[Step]:
        make = self.choice([self.number, self.number, self.text, self.date, self.condition])
        return [st.Derive(name=self.name(), expression=make(schema))]

    def join(self, schema: Schema) -> list[Step]:
        key, label, weight = self.name(), self.name(), self.name()
        picked = tuple(st.Picked(column=c, name=n) for c, n in (("code", key), ("label", label), ("weight", weight)))
        other = Plan(steps=(Take(table="kinds"), st.Pick(columns=picked)))
        how = self.choice(["inner", "left", "with", "without"])
        return [st.Join(other=other, on=(st.KeyPair(left="kind", right=key),), how=how)]

    def as_of(self, schema: Schema) -> list[Step]:
        names = {c: self.name() for c in ("what", "since", "rate")}
        other = Plan(
            steps=(Take(table="rates"), st.Pick(columns=tuple(st.Picked(column=c, name=n) for c, n in names.items())))
        )
        at = st.KeyPair(left=self.choice(["day", "seen"]), right=names["since"])
        return [st.AsOf(other=other, on=(st.KeyPair(left="kind", right=names["what"]),), at=at)]

    def append(self, schema: Schema) -> list[Step]:
        other = Plan(
            steps=(
                Take(table="facts"),
                st.Keep(condition=self.condition(schema_of(Plan(steps=(Take(table="facts"),)), self.catalogue))),
            )
        )
        if self.chance.random() < 0.5:
            other = other.then(st.Pick(columns=tuple(st.Picked(column=c, name=c) for c in ("id", "kind", "cents"))))
        return [st.Append(other=other)]

    def scalar(self, schema: Schema) -> list[Step]:
        name = self.name()
        aggregate = Aggregate(name=name, function=self.choice(["mean", "median", "max"]), column="cents")
        other = Plan(steps=(Take(table="facts"), st.Group(aggregates=(aggregate,))))
        above = ex.Compare(op=">", left=ex.ColumnRef(name="cents"), right=ex.ColumnRef(name=name))
        return [st.Join(other=other), st.Keep(condition=above)]

    def unpivot(self, schema: Schema) -> list[Step]:
        return [
            st.Unpivot(
                columns=tuple(self.chance.sample(["whole", "cents", "real"], 2)), name=self.name(), value=self.name()
            )
        ]

    def spread(self, schema: Schema) -> list[Step]:
        return [st.Spread(column=self.one(schema, Type.TEXT), separator=self.choice([";", "e", "|"]))]

    def aggregate(self, schema: Schema, *, pivot: bool = False) -> Aggregate:
        chance, name = self.chance, self.name()
        kinds: list[tuple[str, tuple[Type, ...]]] = [
            ("count", tuple(Type)),
            ("distinct", tuple(Type)),
            ("min", tuple(Type)),
            ("max", tuple(Type)),
            ("mode", (Type.TEXT, Type.INTEGER, Type.DATE)),
            ("list", (Type.TEXT,)),
            ("sum", _EXACT),
            ("sum", (*_EXACT, Type.FLOAT)),
        ]
        kinds += [
            (f, (*_EXACT, Type.FLOAT))
            for f in (
                "mean",
                "median",
                "percentile",
                "deviation",
                "variance",
                "correlation",
                "covariance",
                "slope",
                "weighted_mean",
            )
        ]
        kinds += [(f, (Type.TEXT, *_EXACT)) for f in ("latest", "earliest")]
        function, types = self.choice(kinds)
        where = self.condition(schema, 1) if chance.random() < 0.2 else None
        if not pivot and chance.random() < 0.1:
            return Aggregate(name=name, function="share", where=self.condition(schema, 1))
        if function == "count" and chance.random() < 0.7:
            return Aggregate(name=name, function="count", where=where)
        fields: dict[str, Any] = {
            "name": name,
            "function": function,
            "column": self.one(schema, *types),
            "where": where,
        }
        if function == "percentile":
            fields["percent"] = self.choice([10.0, 25.0, 75.0])
        if function in ("correlation", "covariance", "slope", "weighted_mean"):
            fields["other"] = self.one(schema, *_EXACT, Type.FLOAT)
        if function in ("latest", "earliest"):
            fields["other"] = self.one(schema, Type.DATE, Type.TIMESTAMP)
        return Aggregate(**fields)

    def keys(self, schema: Schema, most: int) -> tuple[str, ...]:
        names = self.columns(schema, Type.TEXT, Type.BOOLEAN, Type.DATE, Type.INTEGER)
        names = [n for n in names if n not in ("id", "whole")] or names
        return tuple(self.chance.sample(names, min(len(names), self.chance.randrange(most + 1))))

    def group(self, schema: Schema) -> list[Step]:
        by = self.keys(schema, 2)
        found = [
            Aggregate(name=self.name(), function="count"),
            *(self.aggregate(schema) for _ in range(self.chance.randrange(3))),
        ]
        if by and self.chance.random() < 0.1:
            found = []
        return [st.Group(by=by, aggregates=tuple(found))]

    def pivot(self, schema: Schema) -> list[Step]:
        into = tuple(st.PivotColumn(value=Constant(type=Type.TEXT, value=v), name=f"is {v}") for v in "ABZ")
        aggregate = self.aggregate(schema, pivot=True)
        return [
            st.Pivot(
                by=self.keys(schema, 1) or ("word",),
                column="kind",
                into=into,
                aggregate=aggregate,
                totals=self.chance.random() < 0.5,
            )
        ]

    def timeline(self, schema: Schema) -> list[Step]:
        """Periods with rows, the others filled in, and what looks back along them."""
        chance = self.chance
        unit = self.choice(["month", "quarter", "year"])
        period, rows, total, seen = (self.name() for _ in range(4))
        within = ("kind",) if chance.random() < 0.5 else ()
        aggregates = (Aggregate(name=rows, function="count"), Aggregate(name=total, function="sum", column="cents"))
        steps: list[Step] = [st.Derive(name=period, expression=ex.DateFloor(unit=unit, value=ex.ColumnRef(name="day")))]
        steps.append(st.Group(by=(*within, period), aggregates=aggregates))
        if chance.random() < 0.6:
            steps.append(st.Fill(column=period, unit=unit, within=within, zeros=(rows,)))
        function = self.choice(["lag", "change", "change_percent"])
        look: dict[str, Any] = (
            {"back": 1, "unit": "year"} if chance.random() < 0.6 else {"back": self.choice([1, 2]), "unit": "row"}
        )
        order = (SortKey(column=period),)
        steps.append(
            st.Window(
                name=seen, function=function, column=self.choice([rows, total]), order=order, within=within, **look
            )
        )
        return steps

    def window(self, schema: Schema) -> list[Step]:
        chance = self.chance
        function = self.choice(get_args(st.WindowName))
        types = (
            _EXACT
            if function in ("rank", "place", "quantile_bin", "moving_average", "moving_total")
            else (*_EXACT, Type.FLOAT)
        )
        column = self.one(schema, *types)
        keys = self.columns(schema, Type.TEXT, Type.DATE, Type.INTEGER, Type.BOOLEAN, Type.DECIMAL)
        order = tuple(
            SortKey(column=n, descending=chance.random() < 0.5)
            for n in chance.sample(keys, min(len(keys), self.choice([1, 1, 2])))
        )
        if function in ("share", "total", "average", "lowest", "highest", "width_bin", "quantile_bin"):
            order = ()
        within = tuple(n for n in self.keys(schema, 1) if n not in {k.column for k in order})
        rows = self.choice([2, 5]) if function.startswith("moving") else None
        bins = self.choice([3, 4]) if function.endswith("bin") else None
        return [
            st.Window(
                name=self.name(),
                function=function,
                column=column,
                order=order,
                within=within,
                rows=rows,
                bins=bins,
                back=self.choice([1, 1, 2]),
            )
        ]

    def sort(self, schema: Schema) -> list[Step]:
        names = [n for n in schema if schema[n].type is not Type.FLOAT or n == "real"]
        chosen = self.chance.sample(names, min(len(names), self.choice([1, 2])))
        return [st.Sort(keys=tuple(SortKey(column=n, descending=self.chance.random() < 0.5) for n in chosen))]

    def limit(self, schema: Schema) -> list[Step]:
        return [st.Limit(rows=self.choice([1, 3, 50]))]

    def pick(self, schema: Schema) -> list[Step]:
        names = self.chance.sample(list(schema), min(len(schema), 4))
        return [
            st.Pick(
                columns=tuple(st.Picked(column=n, name=n if self.chance.random() < 0.7 else f"{n} too") for n in names)
            )
        ]
