"""A plan as SQL, built as a syntax tree: consecutive steps fold into one SELECT wherever that keeps their meaning."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import assert_never

from sqlglot import exp

from gumption.core.model.catalogue import Catalogue
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
    columns_of,
)
from gumption.core.plan.steps import Derive, Group, Join, Keep, Limit, Pick, Plan, Sort, SortKey, Take, Window
from gumption.core.plan.typing import Schema, schemas

Tree = exp.Expr


@dataclass
class _Query:
    """A SELECT in the making: what each column name stands for, and the clauses so far."""

    columns: dict[str, Tree]
    source: Tree
    joins: list[exp.Join] = field(default_factory=list)
    where: list[Tree] = field(default_factory=list)
    group: list[Tree] | None = None
    having: list[Tree] = field(default_factory=list)
    windows: set[str] = field(default_factory=set)
    order: list[tuple[str, Tree, bool]] = field(default_factory=list)
    limit: int | None = None
    unique: frozenset[str] | None = None
    """Columns that together tell every row apart, where known; then ties need no further keys."""

    @property
    def is_plain(self) -> bool:
        return self.group is None and not self.windows and self.limit is None


class _Compiler:
    def __init__(self, catalogue: Catalogue) -> None:
        self.catalogue = catalogue
        self.parts: list[tuple[str, exp.Select]] = []
        self.aliases: set[str] = set()

    def alias(self, name: str) -> str:
        letters = "".join(c for c in name.lower() if c.isalnum()) or "t"
        tries = [letters[0], *(f"{letters[0]}{n}" for n in range(2, 99))]
        chosen = next(t for t in tries if t not in self.aliases)
        self.aliases.add(chosen)
        return chosen

    def wrapped(self, query: _Query) -> _Query:
        """The query as a part of its own, so that further steps work on its result."""
        name = f"part_{len(self.parts) + 1}"
        self.parts.append((name, _select(query)))
        alias = self.alias(name)
        return _Query(
            {column: _column(alias, column) for column in query.columns},
            exp.alias_(exp.to_table(name), alias, table=True),
        )

    def query(self, plan: Plan) -> _Query:
        query: _Query | None = None
        before: Schema = {}
        for step, after in zip(plan.steps, schemas(plan, self.catalogue), strict=True):
            if isinstance(step, Take):
                alias = self.alias(step.table)
                table = exp.Table(this=exp.to_identifier(step.table, quoted=_needs_quotes(step.table)))
                query = _Query(
                    {name: _column(alias, name) for name in after},
                    exp.alias_(table, alias, table=True),
                )
            else:
                assert query is not None
                query = self.step(step, query, before)
            before = after
        assert query is not None
        return query

    def step(
        self, step: Keep | Derive | Join | Group | Window | Sort | Limit | Pick, query: _Query, schema: Schema
    ) -> _Query:
        match step:
            case Keep(condition=condition):
                if query.windows or query.limit is not None:
                    query = self.wrapped(query)
                tree = expression_sql(condition, query.columns, schema)
                (query.where if query.group is None else query.having).append(tree)
            case Derive(name=name, expression=expression):
                if query.windows.intersection(columns_of(expression)):
                    query = self.wrapped(query)
                query.columns[name] = expression_sql(expression, query.columns, schema)
            case Join():
                query = self.join(step, query if query.is_plain else self.wrapped(query))
            case Group(by=by, aggregates=aggregates):
                if not query.is_plain:
                    query = self.wrapped(query)
                trees = {a.name: _aggregate(a, query.columns) for a in aggregates}
                query.group = [query.columns[name] for name in by]
                query.columns = {**{name: query.columns[name] for name in by}, **trees}
                query.order = []
                query.unique = frozenset(by)
            case Window():
                if query.limit is not None or query.windows:
                    query = self.wrapped(query)
                query.columns[step.name] = _window(step, query.columns)
                query.windows.add(step.name)
            case Sort(keys=keys):
                if query.limit is not None:
                    query = self.wrapped(query)
                named = {key.column for key in keys}
                full = list(keys)
                if query.unique is None or not query.unique <= named:
                    full += [SortKey(column=name) for name in query.columns if name not in named]
                query.order = [(key.column, query.columns[key.column], key.descending) for key in full]
            case Limit(rows=rows):
                query.limit = rows if query.limit is None else min(rows, query.limit)
            case Pick(columns=columns):
                windows = {c.name for c in columns if c.column in query.windows}
                query.columns = {c.name: query.columns[c.column] for c in columns}
                query.windows = windows
                query.unique = None
            case _:
                assert_never(step)
        return query

    def join(self, step: Join, query: _Query) -> _Query:
        other = self.query(step.other)
        simple = other.is_plain and not other.joins and not (other.where and step.how == "left")
        if not simple:
            other = self.wrapped(other)
        on = exp.and_(*(query.columns[p.left].eq(other.columns[p.right]) for p in step.on), copy=True)
        if step.how in ("with", "without"):
            inner = exp.select("1").from_(other.source).where(on, *other.where)
            found = exp.Exists(this=inner)
            query.where.append(found if step.how == "with" else exp.Not(this=found))
            return query
        query.joins.append(exp.Join(this=other.source, on=on, side="LEFT" if step.how == "left" else None))
        query.where.extend(other.where)
        query.columns.update(other.columns)
        return query


def plan_sql(plan: Plan, catalogue: Catalogue) -> exp.Select:
    """The plan as one SELECT over tables of the workspace's names."""
    compiler = _Compiler(catalogue)
    select = _select(compiler.query(plan))
    for name, part in compiler.parts:
        select = select.with_(name, as_=part)
    return select


def render(tree: exp.Select, dialect: str = "duckdb") -> str:
    """The query as text, laid out for reading."""
    return tree.sql(dialect=dialect, pretty=True)


def _needs_quotes(name: str) -> bool:
    return not (name.isidentifier() and name.isascii() and name == name.lower()) or name in _WORDS


_WORDS = frozenset(
    [
        "all",
        "and",
        "any",
        "as",
        "asc",
        "between",
        "by",
        "case",
        "cast",
        "cross",
        "date",
        "day",
        "desc",
        "distinct",
        "else",
        "end",
        "exists",
        "false",
        "from",
        "full",
        "group",
        "having",
        "hour",
        "in",
        "inner",
        "is",
        "join",
        "left",
        "like",
        "limit",
        "month",
        "not",
        "null",
        "on",
        "or",
        "order",
        "outer",
        "right",
        "select",
        "table",
        "then",
        "time",
        "timestamp",
        "to",
        "true",
        "union",
        "using",
        "values",
        "when",
        "where",
        "with",
        "year",
        "default",
        "check",
        "column",
        "user",
        "default",
        "references",
    ]
)


def _column(alias: str, name: str) -> Tree:
    return exp.Column(
        this=exp.to_identifier(name, quoted=_needs_quotes(name)),
        table=exp.to_identifier(alias),
    )


def _select(query: _Query) -> exp.Select:
    named = [
        tree.copy()
        if isinstance(tree, exp.Column) and tree.name == name
        else exp.alias_(tree.copy(), exp.to_identifier(name, quoted=_needs_quotes(name)))
        for name, tree in query.columns.items()
    ]
    select = exp.select(*named).from_(query.source.copy())
    for join in query.joins:
        select.append("joins", join.copy())
    if query.where:
        select = select.where(*query.where)
    if query.group:
        select = select.group_by(*query.group)
    elif query.group is not None and not any(_has_aggregate(t) for t in query.columns.values()):
        select = select.distinct()
    if query.having:
        select = select.having(*query.having)
    for name, tree, descending in query.order:
        shown = query.columns.get(name)
        key = exp.column(exp.to_identifier(name, quoted=_needs_quotes(name))) if shown is tree else tree.copy()
        select = select.order_by(exp.Ordered(this=key, desc=descending, nulls_first=False))
    if query.limit is not None:
        select = select.limit(query.limit)
    return select


def _has_aggregate(tree: Tree) -> bool:
    return tree.find(exp.AggFunc) is not None


def _cast(tree: Tree, kind: str) -> Tree:
    return exp.cast(tree, kind)


def constant_sql(constant: Constant) -> Tree:
    """A value as a literal of the library's making."""
    match constant.type:
        case Type.TEXT:
            return exp.Literal.string(str(constant.value))
        case Type.DATE | Type.TIME | Type.TIMESTAMP:
            return _cast(exp.Literal.string(str(constant.value)), constant.type.value)
        case Type.BOOLEAN:
            return exp.true() if constant.value else exp.false()
        case Type.INTEGER | Type.DECIMAL | Type.FLOAT | Type.DURATION:
            return exp.convert(constant.value)
        case _:
            assert_never(constant.type)


def expression_sql(expression: Expression, columns: dict[str, Tree], schema: Schema) -> Tree:
    """An expression with its column names replaced by what they stand for."""

    def inner(part: Expression) -> Tree:
        return expression_sql(part, columns, schema)

    match expression:
        case ColumnRef(name=name):
            return columns[name].copy()
        case Constant():
            return constant_sql(expression)
        case Compare(op=op, left=left, right=right):
            kinds = {
                "=": exp.EQ,
                "!=": exp.NullSafeNEQ,
                "<": exp.LT,
                "<=": exp.LTE,
                ">": exp.GT,
                ">=": exp.GTE,
            }
            return kinds[op](this=_bracketed(inner(left)), expression=_bracketed(inner(right)))
        case Between(value=value, low=low, high=high):
            return exp.Between(this=inner(value), low=constant_sql(low), high=constant_sql(high))
        case OneOf(value=value, options=options):
            return exp.In(this=inner(value), expressions=[constant_sql(option) for option in options])
        case TextMatch(how=how, value=value, pattern=pattern):
            lowered = exp.Lower(this=inner(value))
            text = exp.Literal.string(pattern.lower())
            name = {"contains": "CONTAINS", "starts": "STARTS_WITH", "ends": "ENDS_WITH"}[how]
            return exp.Anonymous(this=name, expressions=[lowered, text])
        case IsMissing(value=value):
            return exp.Is(this=_bracketed(inner(value)), expression=exp.null())
        case AllOf(items=items):
            return exp.and_(*(inner(item) for item in items))
        case AnyOf(items=items):
            return exp.paren(exp.or_(*(inner(item) for item in items)))
        case Negated(item=IsMissing(value=value)):
            return exp.Not(this=exp.Is(this=_bracketed(inner(value)), expression=exp.null()))
        case Negated(item=item):
            return exp.Not(this=exp.Is(this=exp.paren(inner(item)), expression=exp.true()))
        case Arithmetic(op=op, left=left, right=right):
            a, b = _bracketed(inner(left)), _bracketed(inner(right))
            if op == "/":
                return exp.Div(this=a, expression=exp.Nullif(this=b, expression=exp.Literal.number(0)))
            return {"+": exp.Add, "-": exp.Sub, "*": exp.Mul}[op](this=a, expression=b)
        case DatePart(part=part, value=value):
            unit = "ISODOW" if part == "weekday" else part.upper()
            return exp.Extract(this=exp.var(unit), expression=inner(value))
        case DateFloor(unit=unit, value=value):
            if unit == "day":
                return _cast(inner(value), "date")
            floored = exp.Anonymous(this="DATE_TRUNC", expressions=[exp.Literal.string(unit), inner(value)])
            return _cast(floored, "date")
        case DateDifference(unit=unit, start=start, end=end):
            return _difference(unit, inner(start), inner(end))
        case _:
            assert_never(expression)


def _difference(unit: str, start: Tree, end: Tree) -> Tree:
    name, kind = ("day", "date") if unit == "days" else ("microsecond", "timestamp")
    steps = exp.Anonymous(
        this="DATE_DIFF", expressions=[exp.Literal.string(name), _cast(start, kind), _cast(end, kind)]
    )
    if unit == "days":
        return steps
    size = {"hours": "3600000000.0", "minutes": "60000000.0", "years": "31557600000000.0"}[unit]
    return exp.Div(this=_cast(steps, "double"), expression=_cast(exp.Literal.number(size), "double"))


def _bracketed(tree: Tree) -> Tree:
    return exp.paren(tree) if isinstance(tree, exp.Binary) and not isinstance(tree, exp.Dot) else tree


def _aggregate(aggregate: Aggregate, columns: dict[str, Tree]) -> Tree:
    if aggregate.column is None:
        return exp.Count(this=exp.Star())
    column = columns[aggregate.column].copy()
    match aggregate.function:
        case "count":
            return exp.Count(this=column)
        case "distinct":
            return exp.Count(this=exp.Distinct(expressions=[column]))
        case "sum":
            return exp.Sum(this=column)
        case "mean":
            return exp.Avg(this=column)
        case "median":
            return exp.Median(this=_cast(column, "double"))
        case "percentile":
            assert aggregate.percent is not None
            share = exp.Literal.number(repr(aggregate.percent / 100))
            return exp.Anonymous(this="QUANTILE_CONT", expressions=[_cast(column, "double"), share])
        case "min":
            return exp.Min(this=column)
        case "max":
            return exp.Max(this=column)
        case "deviation":
            return exp.StddevSamp(this=column)
        case "correlation":
            assert aggregate.other is not None
            return exp.Corr(this=column, expression=columns[aggregate.other].copy())
        case _:
            assert_never(aggregate.function)


def _window(step: Window, columns: dict[str, Tree]) -> Tree:
    column = columns[step.column].copy()
    within = [columns[name].copy() for name in step.within]
    keys = step.order or (SortKey(column=step.column, descending=True),)
    named = {key.column for key in keys}
    if step.function != "rank":
        keys = (*keys, *(SortKey(column=name) for name in columns if name not in named))
    order = exp.Order(
        expressions=[exp.Ordered(this=columns[k.column].copy(), desc=k.descending, nulls_first=False) for k in keys]
    )

    def over(function: Tree, *, ordered: bool = True) -> Tree:
        spec = None
        if step.function == "running_total":
            spec = exp.WindowSpec(kind="ROWS", start="UNBOUNDED", start_side="PRECEDING", end="CURRENT ROW")
        return exp.Window(this=function, partition_by=within, order=order if ordered else None, spec=spec)

    match step.function:
        case "share":
            total = over(exp.Sum(this=_cast(column, "double")), ordered=False)
            return exp.Div(this=column, expression=exp.Nullif(this=total, expression=exp.Literal.number(0)))
        case "rank":
            return over(exp.Anonymous(this="RANK"))
        case "running_total":
            return over(exp.Sum(this=column))
        case "change" | "change_percent":
            previous = over(exp.Lag(this=column))
            change = exp.Sub(this=column, expression=previous)
            if step.function == "change":
                return change
            size = exp.Nullif(this=exp.Abs(this=previous.copy()), expression=exp.Literal.number(0))
            return exp.Div(this=exp.paren(change), expression=size)
        case _:
            assert_never(step.function)
