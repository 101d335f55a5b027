"""A plan as SQL, built as a syntax tree: consecutive steps fold into one SELECT wherever that keeps their meaning."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from itertools import count
from typing import assert_never

from sqlglot import exp

from gumption.core.code.dialects import Dialect, DialectName, Tree, cast, dialect_of, is_known, is_null
from gumption.core.code.sql_aggregates import (
    WindowWriter,
    aggregate_sql,
    first_of_ranked,
    percentile_places,
    placed_percentile,
    ranked_value,
    times_of_value,
)
from gumption.core.code.sql_expressions import ExpressionWriter, constant_sql
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.names import free_name
from gumption.core.model.types import Type
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Aggregate, columns_of
from gumption.core.plan.fields import Field, Schema
from gumption.core.plan.keys import Keys, keys_after, tie_breakers
from gumption.core.plan.steps import KeyPair, Plan, SortKey, Step, Take
from gumption.core.plan.typing import schemas
from gumption.core.plan.words import step_words

_MOST_NODES = 60
"""A worked-out column larger than this is given a name before it is used again, not written out twice."""


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
    keys: Keys = ()
    """What tells every row apart, where known; then ties need no further keys."""
    words: list[str] = field(default_factory=list)
    """The steps that are folded into it, for the comment above it."""

    @property
    def is_plain(self) -> bool:
        return self.group is None and not self.windows and self.limit is None


class _Compiler:
    def __init__(self, catalogue: Catalogue, dialect: Dialect) -> None:
        self.catalogue, self.dialect = catalogue, dialect
        self.parts: list[tuple[str, exp.Query]] = []
        self.recursive: set[str] = set()
        self.aliases: set[str] = set()
        self.names = {table.name.lower() for table in catalogue.tables}

    def alias(self, name: str) -> str:
        letters = "".join(c for c in name.lower() if c.isalpha() and c.isascii()) or "t"
        tries = (f"{letters[0]}{number}" if number > 1 else letters[0] for number in count(1))
        chosen = next(t for t in tries if t not in self.aliases)
        self.aliases.add(chosen)
        return chosen

    def part(self, base: str, tree: exp.Query) -> str:
        """A query under a name of its own, put before the one that reads it."""
        plain = "".join(c if c.isalnum() and c.isascii() else "_" for c in base.lower()).strip("_")
        plain = plain[:40].strip("_") or "part"
        if plain in _WORDS or not plain[0].isalpha():
            plain = f"part_{plain}"
        name = free_name(plain, self.names)
        self.names.add(name)
        self.parts.append((name, tree))
        return name

    def reading(self, name: str, columns: list[str], keys: Keys = ()) -> _Query:
        """A query over a named part."""
        alias = self.alias(name)
        found: dict[str, Tree] = {column: _column(alias, column) for column in columns}
        return _Query(found, exp.alias_(exp.to_table(name), alias, table=True, copy=False), keys=keys)

    def wrapped(self, query: _Query, base: str = "") -> _Query:
        """The query as a part of its own, so that further steps work on its result; its order goes on."""
        hidden: list[tuple[str, bool]] = []
        inner = dict(query.columns)
        for number, (name, tree, descending) in enumerate(query.order):
            if query.columns.get(name) is tree:
                hidden.append((name, descending))
            else:
                own = free_name(f"sort_{number + 1}", inner)
                inner[own] = tree
                hidden.append((own, descending))
        shown = list(query.columns)
        keep_order = query.limit is not None
        whole = _Query(
            inner,
            query.source,
            query.joins,
            query.where,
            query.group,
            query.having,
            query.windows,
            query.order if keep_order else [],
            query.limit,
            query.keys,
            query.words,
        )
        name = self.part(base or _part_name(query), self.select(whole))
        outer = self.reading(name, list(inner), query.keys)
        outer.order = [(own, outer.columns[own], descending) for own, descending in hidden]
        outer.columns = {column: outer.columns[column] for column in shown}
        return outer

    def query(self, plan: Plan) -> _Query:
        query: _Query | None = None
        before: Schema = {}
        rows_of = "rows"
        for step, after in zip(plan.steps, schemas(plan, self.catalogue), strict=True):
            if isinstance(step, Take):
                rows_of = step.table
                alias = self.alias(step.table)
                source = exp.alias_(exp.Table(this=identifier(step.table)), alias, table=True, copy=False)
                query = _Query({n: _column(alias, n) for n in after}, source)
            else:
                assert query is not None
                keys = query.keys
                query = self.step(step, query, before, after)
                if not isinstance(step, (st.Derive, st.Pick, st.Join, st.AsOf)):
                    words = step_words(step, rows_of)
                    query.words.append(f"{words.verb} {words.rest}")
            query.keys = keys_after(step, () if isinstance(step, Take) else keys, self.catalogue)
            before = after
        assert query is not None
        return query

    def writer(self, query: _Query, schema: Schema) -> ExpressionWriter:
        return ExpressionWriter(self.dialect, query.columns, schema)

    def step(self, step: Step, query: _Query, schema: Schema, after: Schema) -> _Query:
        match step:
            case st.Keep(condition=condition):
                if query.windows or query.limit is not None:
                    query = self.wrapped(query)
                tree = self.writer(query, schema).tree(condition)
                (query.where if query.group is None else query.having).append(tree)
            case st.Derive(name=name, expression=expression):
                used = columns_of(expression)
                # MariaDB misjudges IS NULL of an aggregate that stands in the same SELECT.
                misjudged = self.dialect.name == "mariadb" and query.group is not None
                if (
                    misjudged
                    or query.windows.intersection(used)
                    or sum(_size(query.columns[n]) for n in used) > _MOST_NODES
                ):
                    query = self.wrapped(query)
                query.columns[name] = self.writer(query, schema).value(expression)
            case st.Join():
                query = self.join(step, query if query.is_plain else self.wrapped(query))
            case st.AsOf():
                query = self.as_of(step, query if query.is_plain else self.wrapped(query))
            case st.Append(other=other):
                query = self.append(query, self.query(other), after)
            case st.Group(by=by, aggregates=aggregates):
                query = self.group(query, by, aggregates, schema)
            case st.Pivot():
                query = self.pivot(step, query, schema)
            case st.Unpivot():
                query = self.unpivot(step, query, schema)
            case st.Spread():
                query = self.spread(step, query)
            case st.Window():
                if not query.is_plain:
                    query = self.wrapped(query)
                order = step.order or (SortKey(column=step.column),)
                ties = tie_breakers(order, query.columns, query.keys)
                query.columns[step.name] = WindowWriter(step, self.writer(query, schema), ties).tree()
                query.windows.add(step.name)
            case st.Fill():
                query = self.fill(step, query, schema)
            case st.Sort(keys=keys):
                if query.limit is not None:
                    query = self.wrapped(query)
                full = (*keys, *tie_breakers(keys, query.columns, query.keys))
                query.order = [(key.column, query.columns[key.column], key.descending) for key in full]
            case st.Limit(rows=rows):
                query.limit = rows if query.limit is None else min(rows, query.limit)
            case st.Pick(columns=columns):
                if query.group == [] and not any(_has_aggregate(query.columns[c.column]) for c in columns):
                    query = self.wrapped(query)
                windows = {c.name for c in columns if c.column in query.windows}
                names = {c.column: c.name for c in columns}
                shown = {c.name: query.columns[c.column] for c in columns}
                query.order = [(names.get(n, n) if query.columns.get(n) is t else n, t, d) for n, t, d in query.order]
                query.columns, query.windows = shown, windows
            case Take():
                raise AssertionError("a plan begins with its only take")
            case _:
                assert_never(step)
        return query

    def join(self, step: st.Join, query: _Query) -> _Query:
        other = self.query(step.other)
        simple = other.is_plain and not other.joins and not (other.where and step.how == "left") and step.on
        if not simple:
            other = self.wrapped(other)
        if not step.on:
            query.joins.append(exp.Join(this=other.source, kind="CROSS"))
            query.columns.update(other.columns)
            return query
        on = self._equal(step.on, query, other)
        if step.how in ("with", "without"):
            found = exp.Exists(this=exp.select("1").from_(other.source).where(on, *other.where))
            query.where.append(found if step.how == "with" else exp.Not(this=found))
            return query
        query.joins.append(exp.Join(this=other.source, on=on, side="LEFT" if step.how == "left" else None))
        query.where.extend(other.where)
        query.columns.update(other.columns)
        return query

    def _equal(self, on: tuple[KeyPair, ...], query: _Query, other: _Query) -> Tree:
        pairs = (exp.EQ(this=query.columns[p.left].copy(), expression=other.columns[p.right].copy()) for p in on)
        return exp.and_(*pairs, copy=False)

    def as_of(self, step: st.AsOf, query: _Query) -> _Query:
        """In DuckDB's own words; elsewhere each row of the other holds until the next one begins."""
        other = self.wrapped(self.query(step.other))
        if self.dialect.name != "duckdb":
            since, keys = other.columns[step.at.right], [other.columns[p.right] for p in step.on]
            order = exp.Order(expressions=[exp.Ordered(this=since.copy())])
            until = exp.Window(this=exp.Lead(this=since.copy()), partition_by=[k.copy() for k in keys], order=order)
            names = list(other.columns)
            own = free_name("held_until", other.columns)
            other.columns[own] = until
            other.windows.add(own)
            known = [is_known(k) for k in (since, *keys)]
            other.where.extend(known)
            other = self.wrapped(other, "held")
            ends = other.columns.pop(own)
            moment, since = query.columns[step.at.left], other.columns[step.at.right]
            since_then = exp.LTE(this=since.copy(), expression=moment.copy())
            open_end = is_null(ends)
            lasting = exp.paren(exp.or_(open_end, exp.LT(this=moment.copy(), expression=ends.copy())))
            equal = [self._equal(step.on, query, other)] if step.on else []
            query.joins.append(exp.Join(this=other.source, side="LEFT", on=exp.and_(*equal, since_then, lasting)))
            query.columns.update({n: other.columns[n] for n in names})
            return query
        begun = exp.GTE(this=query.columns[step.at.left].copy(), expression=other.columns[step.at.right].copy())
        on = exp.and_(*([self._equal(step.on, query, other)] if step.on else []), begun)
        query.joins.append(exp.Join(this=other.source, method="ASOF", side="LEFT", on=on))
        query.columns.update(other.columns)
        return query

    def group(self, query: _Query, by: tuple[str, ...], aggregates: tuple[Aggregate, ...], schema: Schema) -> _Query:
        if not query.is_plain or any(query.columns[n].find(exp.Column) is None for n in by):
            query = self.wrapped(query)
        percentiles = {a.name: a for a in aggregates if self._windowed(a) and a.function in ("median", "percentile")}
        ranked = {a.name: a for a in aggregates if self._windowed(a) and a.name not in percentiles}
        numbers: dict[str, str] = {}
        counts: dict[str, str] = {}
        if percentiles or ranked:
            query, times = self._counted(query, by, [a for a in ranked.values() if a.function == "mode"], schema)
            writer, keys = self.writer(query, schema), [query.columns[n] for n in by]
            own: dict[str, Tree] = {}
            for name, aggregate in {**percentiles, **ranked}.items():
                numbers[name] = free_name(f"worked_{len(numbers) + 1}", query.columns)
                if name in percentiles:
                    counts[name] = free_name(f"counted_{len(numbers)}", query.columns)
                    own[numbers[name]], own[counts[name]] = percentile_places(aggregate, writer, keys)
                else:
                    own[numbers[name]] = first_of_ranked(aggregate, writer, keys, times.get(name))
            query = self._with_windows(query, own, "rows_ranked")
        writer = self.writer(query, schema)
        trees: dict[str, Tree] = {}
        for aggregate in aggregates:
            if aggregate.name in percentiles:
                place, size = query.columns[numbers[aggregate.name]], query.columns[counts[aggregate.name]]
                trees[aggregate.name] = placed_percentile(aggregate, writer, place, size)
            elif aggregate.name in ranked:
                trees[aggregate.name] = ranked_value(aggregate, writer, query.columns[numbers[aggregate.name]].copy())
            else:
                trees[aggregate.name] = aggregate_sql(aggregate, writer)
        query.group = [query.columns[name] for name in by]
        query.columns = {**{name: query.columns[name] for name in by}, **trees}
        query.order = []
        return query

    def _counted(
        self, query: _Query, by: tuple[str, ...], modes: list[Aggregate], schema: Schema
    ) -> tuple[_Query, dict[str, Tree]]:
        """The rows with how often each one's value stands in its group, for the modes among the aggregates."""
        writer, keys = self.writer(query, schema), [query.columns[n] for n in by]
        names = {mode.name: free_name(f"times_{place + 1}", query.columns) for place, mode in enumerate(modes)}
        if not names:
            return query, {}
        query = self._with_windows(
            query, {names[m.name]: times_of_value(m, writer, keys) for m in modes}, "rows_counted"
        )
        return query, {mode: query.columns[name] for mode, name in names.items()}

    def _with_windows(self, query: _Query, own: dict[str, Tree], base: str) -> _Query:
        query.columns.update(own)
        query.windows.update(own)
        query.order = []
        return self.wrapped(query, base)

    def _windowed(self, aggregate: Aggregate) -> bool:
        return aggregate.function in self.dialect.windowed

    def pivot(self, step: st.Pivot, query: _Query, schema: Schema) -> _Query:
        if not step.totals:
            return self.group(query, step.by, step.cells, schema)
        cells = (*step.cells, step.aggregate)
        base = self.wrapped(query)
        name = base.source.this.name
        rows = self.group(self.reading(name, list(base.columns)), step.by, cells, schema)
        whole = self.group(self.reading(name, list(base.columns)), (), cells, schema)
        rows.columns["total_row"], whole.columns["total_row"] = exp.false(), exp.true()
        whole.columns = {n: self.null(schema[n]) for n in step.by} | whole.columns
        joint = exp.union(self.select(rows), self.select(whole), distinct=False)
        return self.reading(self.part("crossed", joint), list(rows.columns))

    def unpivot(self, step: st.Unpivot, query: _Query, schema: Schema) -> _Query:
        base = self.wrapped(query)
        name = base.source.this.name
        branches = []
        for column in step.columns:
            branch = self.reading(name, list(base.columns))
            value = branch.columns[column]
            branch.columns = {n: t for n, t in branch.columns.items() if n not in step.columns}
            branch.columns |= {step.name: exp.Literal.string(column), step.value: value}
            branches.append(branch)
        joint = _union([self.select(b) for b in branches])
        return self.reading(self.part("turned", joint), list(branches[0].columns))

    def spread(self, step: st.Spread, query: _Query) -> _Query:
        """Each row beside the items of its cell, which stand in a table of its own."""
        found = query if query.is_plain and not query.order else self.wrapped(query)
        cell = found.columns[step.column]
        held = self.alias("held")
        items = self.dialect.write("items", cell, exp.Literal.string(step.separator))
        if isinstance(items, exp.JSONTable):
            there = exp.alias_(exp.Table(this=items), held, table=True)
        else:
            inner = exp.Select(expressions=[exp.alias_(items, "item")])
            there = exp.Lateral(this=exp.Subquery(this=inner), alias=exp.TableAlias(this=exp.to_identifier(held)))
        item = self.dialect.write("item", exp.column("item", table=held))
        found.joins.append(exp.Join(this=there, side="LEFT", on=exp.true()))
        found.where.append(exp.or_(is_null(cell), exp.NEQ(this=item.copy(), expression=exp.Literal.string(""))))
        found.columns[step.column] = item
        return found

    def append(self, query: _Query, below: _Query, after: Schema) -> _Query:
        sides = []
        for side in (query, below):
            side = self.wrapped(side) if side.limit is not None else side
            # Constants of the one side stand in the place of the other's columns.
            side.columns = {n: side.columns[n] if n in side.columns else self.null(f) for n, f in after.items()}
            side.order = []
            sides.append(self.select(side))
        return self.reading(self.part("together", _union(sides)), list(after))

    def fill(self, step: st.Fill, query: _Query, schema: Schema) -> _Query:
        base = self.wrapped(query)
        name = base.source.this.name
        periods = self.periods(step, name)
        line = exp.column("period", table="p")
        absent = exp.select().from_(exp.alias_(exp.to_table(periods), "p", table=True))
        values: dict[str, Tree] = {step.column: line}
        matches: list[Tree] = [_column("x", step.column).eq(line)]
        if step.within:
            parts = exp.select(*(exp.column(identifier(n)) for n in step.within)).distinct().from_(name)
            absent = absent.join(parts.subquery("w"), join_type="cross")
            for column in step.within:
                values[column] = _column("w", column)
                matches.append(exp.NullSafeEQ(this=_column("x", column), expression=_column("w", column)))
        known = exp.select("1").from_(exp.alias_(exp.to_table(name), "x", table=True)).where(*matches)
        absent = absent.where(is_known(line), exp.Not(this=exp.Exists(this=known)))
        for column, kind in schema.items():
            tree = values.get(column) or (exp.Literal.number(0) if column in step.zeros else self.null(kind))
            absent = absent.select(exp.alias_(tree.copy(), identifier(column)))
        there = self.reading(name, list(base.columns))
        joint = _union([self.select(there), absent])
        return self.reading(self.part("filled", joint), list(base.columns))

    def periods(self, step: st.Fill, name: str) -> str:
        """A part with every period from the first to the last, one worked out from the other."""
        own = free_name("periods", self.names)
        column = exp.column(identifier(step.column))
        low, high = (
            constant_sql(end)
            if end is not None
            else exp.Subquery(this=exp.select(kind(this=column.copy())).from_(name))
            for end, kind in ((step.low, exp.Min), (step.high, exp.Max))
        )
        period = exp.column("period")
        if step.unit == "number":
            following: Tree = exp.Add(this=period.copy(), expression=exp.Literal.number(1))
        else:
            units, unit = {"week": (7, "DAY"), "quarter": (3, "MONTH")}.get(step.unit, (1, step.unit.upper()))
            interval = exp.Interval(this=exp.Literal.string(str(units)), unit=exp.var(unit))
            following = cast(exp.Add(this=period.copy(), expression=interval), "date")
        first = exp.select(exp.alias_(low, "period"))
        rest = exp.select(following).from_(own).where(exp.LTE(this=following.copy(), expression=high))
        self.recursive.add(own)
        return self.part(own, _union([first, rest]))

    def null(self, kind: Field) -> Tree:
        """A missing value of a type; MariaDB takes the type from the rows beside it."""
        if self.dialect.name == "mariadb":
            return exp.null()
        names = {Type.INTEGER: "bigint", Type.FLOAT: "double", Type.DURATION: "double", Type.TEXT: "text"}
        name = f"decimal(18, {kind.scale})" if kind.type is Type.DECIMAL else names.get(kind.type, kind.type.value)
        return cast(exp.null(), name)

    def select(self, query: _Query) -> exp.Select:
        named = [
            tree.copy()
            if isinstance(tree, exp.Column) and tree.name == name
            else exp.alias_(tree.copy(), identifier(name), copy=False)
            for name, tree in query.columns.items()
        ]
        select = exp.select(*named, copy=False).from_(query.source.copy(), copy=False)
        for join in query.joins:
            select.append("joins", join.copy())
        if query.where:
            select = select.where(*query.where, copy=False)
        if query.group:
            select = select.group_by(*(key.copy() for key in query.group), copy=False)
        if query.having:
            select = select.having(*query.having, copy=False)
        for name, tree, descending in query.order:
            shown = query.columns.get(name)
            key = exp.column(identifier(name)) if shown is tree else tree.copy()
            select = select.order_by(exp.Ordered(this=key, desc=descending, nulls_first=False), copy=False)
        if query.limit is not None:
            if self.dialect.name == "ansi":
                select.set("limit", exp.Fetch(direction="FIRST", count=exp.Literal.number(query.limit)))
            else:
                select = select.limit(query.limit, copy=False)
        if query.words:
            select.add_comments(["\n   ".join(query.words).replace("*/", "* /")])
        return select


def _union(queries: list[exp.Select]) -> exp.Query:
    joint: exp.Query = queries[0]
    for query in queries[1:]:
        joint = exp.union(joint, query, distinct=False, copy=False)
    return joint


def _size(tree: Tree) -> int:
    return 1 if isinstance(tree, exp.Column) else sum(1 for _ in tree.walk())


def _part_name(query: _Query) -> str:
    """What a part of its own is called: by its groups, or by what its rows are of."""
    if query.group is not None:
        names = [name for name, tree in query.columns.items() if any(tree is key for key in query.group)]
        return f"by_{'_'.join(names)}" if names else "totals"
    if query.windows:
        return sorted(query.windows)[0]
    return f"some_{query.source.this.name}" if query.where or query.limit else "part"


def plan_sql(plan: Plan, catalogue: Catalogue, dialect: DialectName = "duckdb") -> exp.Select:
    """The plan as one SELECT over tables of the workspace's names."""
    compiler = _Compiler(catalogue, dialect_of(dialect))
    query = compiler.query(plan)
    select = compiler.select(query)
    for name, part in compiler.parts:
        alias: exp.Expr = exp.to_identifier(name)
        if name in compiler.recursive:
            alias = exp.TableAlias(this=alias, columns=[exp.to_identifier("period")])
        select = select.with_(alias, as_=part, recursive=bool(compiler.recursive), copy=False)
    return select


def render(tree: exp.Select, dialect: DialectName = "duckdb") -> str:
    """The query as text, laid out for reading."""
    return dialect_of(dialect).render(tree)


def identifier(name: str) -> exp.Identifier:
    """A name, in quotes only where it needs them."""
    plain = name.isidentifier() and name.isascii() and name == name.lower() and name not in _WORDS
    return exp.to_identifier(name, quoted=not plain)


_WORDS = frozenset(
    re.findall(
        r"\w+",
        """all and any as asc between by case cast check column cross date day default desc distinct else end exists
    false from full group having hour in inner interval is join key left like limit minute month not null on or
    order outer over partition position primary quarter rank read references right rows row second select set
    share table then time timestamp to true union unique user using values when where window with year
    analyze array condition current_date desc div do fetch for foreign grant index into lag lateral lead leading
    level lock match mod month natural no offset only option percent_rank procedure range rename repeat replace
    return schema show signal some system text trigger usage use varying view week write zone""",
    )
)


def _column(alias: str, name: str) -> exp.Column:
    return exp.Column(this=identifier(name), table=exp.to_identifier(alias))


def _has_aggregate(tree: Tree) -> bool:
    return tree.find(exp.AggFunc) is not None or any(isinstance(n, exp.AnonymousAggFunc) for n in tree.walk())
