"""A plan as a pandas script that reads the very files that were uploaded."""

from __future__ import annotations

from typing import assert_never

from gumption.core.code.python_expressions import HELPERS, ExpressionCoder, constant_code
from gumption.core.code.python_load import frame_name, load_lines
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.files import FileReading
from gumption.core.model.names import free_name
from gumption.core.model.types import Type
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Aggregate, ColumnRef, Constant, Expression
from gumption.core.plan.steps import Plan, SortKey, Step, Take, tables_of
from gumption.core.plan.typing import Field, Schema, aggregate_field, schema_of, schemas
from gumption.core.plan.words import step_words


def plan_python(plan: Plan, catalogue: Catalogue, readings: dict[str, FileReading]) -> str:
    """The script; its last lines leave the answer in `answer` and print it. `readings` says how each file is read."""
    loads = [line for name in tables_of(plan) for line in load_lines(name, readings[name])]
    writer = _Writer(catalogue)
    writer.plan(plan, "answer")
    body = "\n".join(writer.lines)
    helpers = [text for name, text in HELPERS.items() if f"{name}(" in body]
    imports = [f"import {name}" for name in ("datetime", "re") if f"{name}." in body]
    imports += ["import numpy as np"] if "np." in body or any("np." in h for h in helpers) else []
    parts = ["\n".join([*imports, "import pandas as pd"]), *helpers, "\n".join(loads), body]
    return "\n\n".join(parts) + "\nprint(answer.to_string(index=False))\n"


class _Writer:
    def __init__(self, catalogue: Catalogue) -> None:
        self.catalogue = catalogue
        self.lines: list[str] = []
        self.others = 0

    def plan(self, plan: Plan, frame: str) -> None:
        before: Schema = {}
        first = plan.steps[0]
        rows_of = first.table if isinstance(first, Take) else "rows"
        for step, after in zip(plan.steps, schemas(plan, self.catalogue), strict=True):
            words = step_words(step, rows_of)
            if not isinstance(step, (Take, st.Pick, st.Derive)):
                self.lines.append(f"# {words.verb} {words.rest}".replace("\n", " "))
            self.step(step, frame, before, after)
            before = after

    def step(self, step: Step, frame: str, schema: Schema, after: Schema) -> None:
        add = self.lines.append
        coder = ExpressionCoder(frame, schema)
        match step:
            case Take(table=table):
                add(f"{frame} = {frame_name(table)}.copy()")
            case st.Keep(condition=condition):
                add(f"{frame} = {frame}[{coder.condition(condition)}].copy()")
            case st.Derive(name=name, expression=expression):
                add(f"{frame}[{name!r}] = {coder.code(expression)}{_as_cents(after[name], expression)}")
            case st.Join(other=other):
                self.join(step, frame, self.other(other), list(schema))
            case st.AsOf(other=other):
                self.as_of(step, frame, self.other(other), list(schema))
            case st.Append(other=other):
                beside = self.other(other)
                add(f"{frame} = pd.concat([{frame}, {beside}], ignore_index=True)[{list(after)!r}]")
            case st.Group(by=by, aggregates=aggregates):
                self.group(frame, frame, by, aggregates, schema)
            case st.Pivot():
                self.pivot(step, frame, schema)
            case st.Unpivot(columns=columns, name=name, value=value):
                rest = [n for n in schema if n not in columns]
                add(
                    f"{frame} = {frame}.melt(id_vars={rest!r}, value_vars={list(columns)!r}, "
                    f"var_name={name!r}, value_name={value!r})"
                )
            case st.Window():
                self.window(step, frame, schema)
            case st.Fill():
                self.fill(step, frame, list(schema))
            case st.Sort(keys=keys):
                add(f"{frame} = {self.ordered(frame, keys, list(schema))}")
            case st.Limit(rows=rows):
                add(f"{frame} = {frame}.head({rows})")
            case st.Pick(columns=columns):
                add(f"{frame} = {frame}[{[c.column for c in columns]!r}].copy()")
                if any(c.column != c.name for c in columns):
                    add(f"{frame}.columns = {[c.name for c in columns]!r}")
            case _:
                assert_never(step)

    def other(self, plan: Plan) -> str:
        """The lines of another plan, and the name of its frame."""
        self.others += 1
        beside = f"other_{self.others}"
        self.plan(plan, beside)
        return beside

    def ordered(self, frame: str, keys: tuple[SortKey, ...], names: list[str]) -> str:
        named = {key.column for key in keys}
        full = [*keys, *(SortKey(column=name) for name in names if name not in named)]
        columns = [k.column for k in full]
        if not any(k.descending for k in full):
            return f"{frame}.sort_values({columns!r})"
        return f"{frame}.sort_values({columns!r}, ascending={[not k.descending for k in full]!r})"

    def join(self, step: st.Join, frame: str, beside: str, names: list[str]) -> None:
        add, how = self.lines.append, step.how
        left, right = [p.left for p in step.on], [p.right for p in step.on]
        if not step.on:
            add(f"{frame} = {frame}.merge({beside}, how='cross')")
            return
        if how in ("with", "without"):
            sign = "" if how == "with" else "~"
            if len(left) == 1:
                test = f"{frame}[{left[0]!r}].isin({beside}[{right[0]!r}].dropna())"
            else:
                test = f"pd.MultiIndex.from_frame({frame}[{left!r}]).isin(pd.MultiIndex.from_frame({beside}[{right!r}].dropna()))"
            add(f"{frame} = {frame}[{sign}{test}]")
            return
        columns = [*names, *schema_of(step.other, self.catalogue)]
        # A missing key must not meet another missing key, which merge would allow.
        add(f"{beside} = {beside}.dropna(subset={right!r})")
        add(
            f"{frame} = {frame}.merge({beside}, how={how!r}, left_on={left!r}, right_on={right!r}, "
            f"validate='many_to_one')[{columns!r}]"
        )

    def as_of(self, step: st.AsOf, frame: str, beside: str, names: list[str]) -> None:
        add, at, since = self.lines.append, step.at.left, step.at.right
        by = ""
        if step.on:
            by = f", left_by={[p.left for p in step.on]!r}, right_by={[p.right for p in step.on]!r}"
        columns = [*names, *schema_of(step.other, self.catalogue)]
        add(f"known = {frame}[{frame}[{at!r}].notna()].sort_values({at!r})")
        add(f"{beside} = {beside}.dropna(subset={[since, *(p.right for p in step.on)]!r}).sort_values({since!r})")
        add(f"held = pd.merge_asof(known, {beside}, left_on={at!r}, right_on={since!r}{by})")
        add(f"{frame} = pd.concat([held, {frame}[{frame}[{at!r}].isna()]], ignore_index=True)[{columns!r}]")

    def group(
        self, into: str, frame: str, by: tuple[str, ...], aggregates: tuple[Aggregate, ...], schema: Schema
    ) -> None:
        add = self.lines.append
        if not aggregates:
            add(f"{into} = {frame}[{list(by)!r}].drop_duplicates()")
            return
        taken = set(schema) | {a.name for a in aggregates}
        columns: dict[str, str] = {}
        coder = ExpressionCoder(frame, schema)
        for aggregate in aggregates:
            if aggregate.where is None:
                continue
            columns[aggregate.name] = free_name(f"{aggregate.name} counted", taken)
            condition = coder.condition(aggregate.where)
            value = condition
            if aggregate.function != "share":
                source = f"{frame}[{aggregate.column!r}]" if aggregate.column else f"pd.Series(1, index={frame}.index)"
                value = f"{source}.where({condition})"
            add(f"{frame}[{columns[aggregate.name]!r}] = {value}")
        if not by:
            cells = [f"    {a.name!r}: [{_whole(a, frame, columns.get(a.name), schema)}]," for a in aggregates]
            texts = [a.name for a in aggregates if aggregate_field(a, schema).type is Type.TEXT]
            self.lines += [f"{into} = pd.DataFrame({{", *cells, "})" + _as_text(texts)]
            return
        cells = [f"    {a.name!r}: {_each(a, 'groups', columns.get(a.name), schema)}," for a in aggregates]
        add(f"groups = {frame}.groupby({list(by)!r}, dropna=False)")
        self.lines += [f"{into} = pd.DataFrame({{", *cells, "}).reset_index()"]

    def pivot(self, step: st.Pivot, frame: str, schema: Schema) -> None:
        if not step.totals:
            self.group(frame, frame, step.by, step.cells, schema)
            return
        cells = (*step.cells, step.aggregate)
        self.group("crossed", frame, step.by, cells, schema)
        self.group("whole", frame, (), cells, schema)
        add = self.lines.append
        add("crossed['total_row'], whole['total_row'] = False, True")
        texts = [n for n in step.by if schema[n].type is Type.TEXT]
        add(f"{frame} = pd.concat([crossed, whole], ignore_index=True){_as_text(texts)}")

    def fill(self, step: st.Fill, frame: str, names: list[str]) -> None:
        add, column, within = self.lines.append, step.column, list(step.within)
        low = constant_code(step.low) if step.low is not None else f"{frame}[{column!r}].min()"
        high = constant_code(step.high) if step.high is not None else f"{frame}[{column!r}].max()"
        if step.unit == "number":
            line = f"range(int({low}), int({high}) + 1)"
        else:
            steps = {"day": "days=1", "week": "weeks=1", "month": "months=1", "quarter": "months=3", "year": "years=1"}
            line = f"pd.date_range({low}, {high}, freq=pd.DateOffset({steps[step.unit]}))"
        if step.low is None or step.high is None:
            line += f" if {frame}[{column!r}].notna().any() else []"
        add(f"wanted = pd.DataFrame({{{column!r}: {line}}}).astype({{{column!r}: {frame}[{column!r}].dtype}})")
        if within:
            add(f"wanted = {frame}[{within!r}].drop_duplicates().merge(wanted, how='cross')")
        add(f"known = {frame}[{[*within, column]!r}].drop_duplicates()")
        add("wanted = wanted.merge(known, how='left', indicator=True)")
        add("absent = wanted[wanted.pop('_merge') == 'left_only'].copy()")
        if step.zeros:
            add(f"absent[{list(step.zeros)!r}] = 0")
        add(f"{frame} = pd.concat([{frame}, absent], ignore_index=True)[{names!r}]")

    def window(self, step: st.Window, frame: str, schema: Schema) -> None:
        names = list(schema)
        cents = _as_cents(schema[step.column])
        column, within, function = step.column, list(step.within), step.function
        target, cell = f"{frame}[{step.name!r}]", f"{frame}[{step.column!r}]"
        grouped = f".groupby({within!r}, dropna=False)"
        keys = step.order or (SortKey(column=column, descending=function in ("rank", "place")),)
        rows = self.ordered(frame, keys, names)
        along = f"{rows}{grouped}[{column!r}]" if within else f"{rows}[{column!r}]"
        source = f"{frame}{grouped}[{column!r}]" if within else cell

        def put(code: str) -> None:
            self.lines.append(f"{target} = {code}")

        def part_by_part(work: str) -> str:
            """A method of a column, worked within each part."""
            return f"{along}.transform(lambda part: part.{work})" if within else f"{along}.{work}"

        def whole(work: str) -> str:
            return f"{source}.transform(lambda part: part.{work})" if within else f"{cell}.{work}"

        match function:
            case "share":
                put(f"{cell} / {_nonzero(whole('sum()'), bool(within))}")
            case "total":
                put(whole("sum(min_count=1)") + (cents if within else ""))
            case "average" | "lowest" | "highest":
                put(whole({"average": "mean()", "lowest": "min()", "highest": "max()"}[function]))
            case "rank":
                self.rank(step, frame, keys, within)
            case "place":
                put(f"{rows}{grouped}.cumcount() + 1" if within else f"{rows}.assign(place=1)['place'].cumsum()")
            case "running_total":
                put(part_by_part("expanding().sum()") + cents)
            case "moving_total" | "moving_average":
                work = "sum" if function == "moving_total" else "mean"
                put(part_by_part(f"rolling({step.rows}, min_periods=1).{work}()") + (cents if work == "sum" else ""))
            case "lead":
                put(f"{along}.shift({-step.back})")
            case "lag" | "change" | "change_percent":
                before = "before"
                if step.unit == "row":
                    self.lines.append(f"before = {along}.shift({step.back})")
                else:
                    self.period_back(step, frame, within)
                if function == "lag":
                    put(before)
                elif function == "change":
                    put(f"({cell} - {before}){cents}")
                else:
                    put(f"({cell} - {before}) / {before}.abs().replace(0, np.nan)")
            case "quantile_bin":
                bins = f"lambda part: ntile(part, {step.bins})"
                put(f"{along}.transform({bins})" if within else f"ntile({along}, {step.bins})")
            case "width_bin":
                self.lines.append(f"low, high = {whole('min()')}, {whole('max()')}")
                place = f"np.floor(({cell} - low) / ((high - low) / {step.bins})) + 1"
                put(f"({place}).fillna(1).clip(upper={step.bins}).where({cell}.notna())")
            case _:
                assert_never(function)

    def rank(self, step: st.Window, frame: str, keys: tuple[SortKey, ...], within: list[str]) -> None:
        """The place of the first row among those with equal keys."""
        names = [k.column for k in keys]
        part = f".groupby({within!r}, dropna=False)" if within else ""
        rows = self.ordered(frame, keys, [])
        order = f"{rows}{part}.cumcount() + 1" if within else f"{rows}.assign(place=1)['place'].cumsum()"
        self.lines.append(f"{frame}[{step.name!r}] = {order}")
        alike = list(dict.fromkeys([*within, *names]))
        self.lines.append(
            f"{frame}[{step.name!r}] = {frame}.groupby({alike!r}, dropna=False)[{step.name!r}].transform('min')"
        )

    def period_back(self, step: st.Window, frame: str, within: list[str]) -> None:
        """The value of the same part so many days, months or years before, matched by the period."""
        when, add = step.order[0].column, self.lines.append
        count = step.back * (12 if step.unit == "year" else 1)
        keys = [*within, "period"]
        period = f"{frame}[{when!r}].dt.to_period('{'D' if step.unit == 'day' else 'M'}')"
        add(f"earlier = {frame}.assign(period={period} + {count})[{[*keys, step.column]!r}].dropna(subset=['period'])")
        add(
            f"matched = {frame}.assign(period={period}).merge(earlier, how='left', on={keys!r}, suffixes=('', '_before'))"
        )
        add(f"before = matched[{step.column + '_before'!r}].set_axis({frame}.index)")


def _as_text(names: list[str]) -> str:
    """Text stays text where all of it is missing."""
    return f".astype({dict.fromkeys(names, 'str')!r})" if names else ""


def _nonzero(total: str, many: bool) -> str:
    return f"{total}.replace(0, np.nan)" if many else f"({total} or np.nan)"


def _as_cents(field: Field, expression: Expression | None = None) -> str:
    """Exact decimals are floats here: rounded to their digits they stay equal where they are."""
    plain = isinstance(expression, (ColumnRef, Constant))
    return f".round({field.scale})" if field.type is Type.DECIMAL and not plain else ""


_REDUCTIONS = {
    "count": "count()",
    "distinct": "nunique()",
    "mean": "mean()",
    "median": "median()",
    "min": "min()",
    "max": "max()",
    "deviation": "std()",
    "variance": "var()",
    "sum": "sum(min_count=1)",
}


def _needs_values(aggregate: Aggregate, schema: Schema) -> bool:
    """Least and greatest of what pandas does not order among gaps."""
    kind = schema[aggregate.column or ""].type
    return aggregate.function in ("min", "max") and kind in (Type.TEXT, Type.BOOLEAN, Type.TIME)


def _each(aggregate: Aggregate, groups: str, own: str | None, schema: Schema) -> str:
    """An aggregate as one value a group, the groups as its index."""
    if aggregate.function == "share":
        return f"{groups}[{own!r}].mean()"
    if aggregate.column is None:
        return f"{groups}.size()" if own is None else f"{groups}[{own!r}].count()"
    column = own or aggregate.column
    plain = _REDUCTIONS.get(aggregate.function)
    if plain is not None and not _needs_values(aggregate, schema):
        return f"{groups}[{column!r}].{plain}" + (
            _as_cents(schema[aggregate.column]) if plain.startswith("sum") else ""
        )
    if aggregate.function == "percentile":
        return f"{groups}[{column!r}].quantile({(aggregate.percent or 0) / 100!r})"
    kind = schema[aggregate.column].type
    typed = {Type.TEXT: "str", Type.BOOLEAN: "object", Type.TIME: "object"}.get(
        kind, "datetime64[us]" if kind.is_time else "float"
    )
    if aggregate.other is None:
        work = f"{groups}[{column!r}], lambda values: {_of_values(aggregate, 'values')}"
    else:
        work = f"{groups}, lambda rows: {_of_rows(aggregate, 'rows', column)}"
    return f"each({work}).astype({typed!r})"


def _whole(aggregate: Aggregate, frame: str, own: str | None, schema: Schema) -> str:
    """An aggregate of all rows as one value."""
    if aggregate.function == "share":
        return f"{frame}[{own!r}].mean()"
    if aggregate.column is None:
        return f"len({frame})" if own is None else f"{frame}[{own!r}].count()"
    column = own or aggregate.column
    if aggregate.function == "percentile":
        return f"{frame}[{column!r}].quantile({(aggregate.percent or 0) / 100!r})"
    if aggregate.function in _REDUCTIONS and not _needs_values(aggregate, schema):
        return f"{frame}[{column!r}].{_REDUCTIONS[aggregate.function]}"
    if aggregate.other is None:
        return _of_values(aggregate, f"{frame}[{column!r}]")
    return _of_rows(aggregate, frame, column)


def _of_values(aggregate: Aggregate, values: str) -> str:
    """What needs the values themselves: of none it is missing."""
    match aggregate.function:
        case "mode":
            return f"min({values}.mode(), default=np.nan)"
        case "list":
            return f"', '.join(sorted({values}.dropna().unique())) if {values}.notna().any() else np.nan"
        case "min" | "max":
            return f"{aggregate.function}({values}.dropna(), default=np.nan)"
        case _:
            raise AssertionError(f"{aggregate.function} is a method of columns")


def _of_rows(aggregate: Aggregate, rows: str, column: str) -> str:
    """What needs two columns; only rows that have both count."""
    both = f"{rows}[{list(dict.fromkeys([column, aggregate.other]))!r}].dropna()"
    y, x = f"{rows}[{column!r}]", f"{rows}[{aggregate.other!r}]"
    match aggregate.function:
        case "correlation" | "slope":
            return f"related({y}, {x}, {aggregate.function!r})"
        case "covariance":
            return f"{y}.astype(float).cov({x}.astype(float))"
        case "weighted_mean":
            return f"({y} * {x}).sum() / ({x}.where({y}.notna()).sum() or np.nan)"
        case "latest" | "earliest":
            ascending = aggregate.function == "earliest"
            order = f"sort_values([{aggregate.other!r}, {column!r}], ascending=[{ascending}, True])"
            return f"next(iter({both}.{order}[{column!r}]), np.nan)"
        case _:
            raise AssertionError(f"{aggregate.function} needs one column")
