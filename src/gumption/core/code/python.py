"""A plan as a pandas script that reads the very files that were uploaded."""

from __future__ import annotations

from typing import assert_never

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.files import FileReading
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
)
from gumption.core.plan.steps import (
    Derive,
    Group,
    Join,
    Keep,
    Limit,
    Pick,
    Plan,
    Sort,
    SortKey,
    Step,
    Take,
    Window,
    tables_of,
)
from gumption.core.plan.typing import Schema, schema_of, schemas


def plan_python(plan: Plan, catalogue: Catalogue, readings: dict[str, FileReading]) -> str:
    """The script; its last lines leave the answer in `answer` and print it. `readings` says how each file is read."""
    loads: list[str] = []
    for name in tables_of(plan):
        loads.extend(_load(name, readings[name]))
    writer = _Writer(catalogue)
    writer.plan(plan, "answer")
    needs_numpy = any("np." in line for line in writer.lines)
    head = ["import numpy as np"] if needs_numpy else []
    return (
        "\n".join([*head, "import pandas as pd", "", *loads, "", *writer.lines, "print(answer.to_string(index=False))"])
        + "\n"
    )


def _load(table: str, reading: FileReading) -> list[str]:
    frame = _name(table)
    if reading.kind == "cleaned":
        return [
            f"# The cleaned table, as Tables gives it out; {reading.file} itself takes more reading than a few lines.",
            f"{frame} = pd.read_parquet({table + '.parquet'!r})",
        ]
    options = [repr(reading.file)]
    if reading.kind == "delimited":
        options += [f"sep={reading.delimiter!r}", f"encoding={reading.encoding!r}", f"skiprows={reading.skip_rows}"]
        options += ["header=None", f"names={[c.name for c in reading.columns]!r}", "dtype=str"]
        options += ["keep_default_na=False", f"na_values={list(reading.missing_words)!r}"]
        if not reading.quoted:
            options.append("quoting=3")
        lines = [f"{frame} = pd.read_csv({', '.join(options)})"]
    else:
        options += [f"sheet_name={reading.sheet!r}", f"skiprows={reading.skip_rows}", "header=None"]
        options += [f"usecols={[c.place for c in reading.columns]!r}", "engine='calamine'"]
        options += [f"na_values={list(reading.missing_words)!r}", "keep_default_na=False"]
        lines = [f"{frame} = pd.read_excel({', '.join(options)})"]
        lines.append(f"{frame}.columns = {[c.name for c in reading.columns]!r}")
    lines.append(f"{frame} = {frame}.dropna(how='all').reset_index(drop=True)")
    for row in sorted(reading.dropped_rows, reverse=True):
        lines.append(f"{frame} = {frame}.drop(index={row}).reset_index(drop=True)  # {reading.dropped_why}")
    for column in reading.columns:
        cell = f"{frame}[{column.name!r}]"
        text = cell if reading.kind == "delimited" else f"{cell}.astype(object)"
        match column.type:
            case Type.TEXT:
                if reading.kind == "delimited":
                    lines.append(f"{cell} = {cell}.str.strip()")
                else:
                    lines.append(f"{cell} = {cell}.map(lambda v: v if pd.isna(v) else str(v).strip())")
            case Type.INTEGER | Type.DECIMAL | Type.FLOAT:
                if column.strip or column.decimal_comma or column.thousands:
                    text += ".astype(str)"
                for mark in column.strip:
                    text += f".str.replace({mark!r}, '', regex=False)"
                if column.thousands:
                    text += f".str.replace({column.thousands!r}, '', regex=False)"
                if column.decimal_comma:
                    text += ".str.replace(',', '.', regex=False)"
                lines.append(f"{cell} = pd.to_numeric({text}, errors='coerce')")
            case Type.BOOLEAN:
                lines.append(f"{cell} = {text}.astype(str).str.strip().str.lower().map({dict(column.booleans)!r})")
            case Type.DATE | Type.TIMESTAMP:
                style = f", format={column.date_format!r}" if column.date_format else ""
                lines.append(f"{cell} = pd.to_datetime({text}{style}, errors='coerce')")
            case Type.TIME | Type.DURATION:
                raise AssertionError(f"{table}.{column.name} is read from the cleaned table")
            case _:
                assert_never(column.type)
    return lines


def _name(table: str) -> str:
    cleaned = "".join(c if c.isalnum() and c.isascii() else "_" for c in table.lower()).strip("_") or "table"
    return cleaned if not cleaned[0].isdigit() else f"t_{cleaned}"


class _Writer:
    def __init__(self, catalogue: Catalogue) -> None:
        self.catalogue = catalogue
        self.lines: list[str] = []
        self.others = 0

    def plan(self, plan: Plan, frame: str) -> None:
        before: Schema = {}
        for step, after in zip(plan.steps, schemas(plan, self.catalogue), strict=True):
            self.step(step, frame, before)
            before = after

    def step(self, step: Step, frame: str, schema: Schema) -> None:
        add = self.lines.append
        match step:
            case Take(table=table):
                add(f"{frame} = {_name(table)}.copy()")
            case Keep(condition=condition):
                add(f"{frame} = {frame}[{_expression(condition, frame, schema)}].copy()")
            case Derive(name=name, expression=expression):
                add(f"{frame}[{name!r}] = {_expression(expression, frame, schema)}")
            case Join(other=other, on=on, how=how):
                self.others += 1
                beside = f"other_{self.others}"
                self.plan(other, beside)
                self.join(frame, beside, [(p.left, p.right) for p in on], how, list(schema), other)
            case Group():
                self.group(step, frame)
            case Window():
                self.window(step, frame)
            case Sort(keys=keys):
                full = _with_ties(keys, list(schema))
                add(
                    f"{frame} = {frame}.sort_values({[k.column for k in full]!r}, ascending={[not k.descending for k in full]!r}, na_position='last')"
                )
            case Limit(rows=rows):
                add(f"{frame} = {frame}.head({rows})")
            case Pick(columns=columns):
                add(f"{frame} = {frame}[{[c.column for c in columns]!r}].copy()")
                add(f"{frame}.columns = {[c.name for c in columns]!r}")
            case _:
                assert_never(step)

    def join(self, frame: str, beside: str, on: list[tuple[str, str]], how: str, names: list[str], other: Plan) -> None:
        left, right = [p[0] for p in on], [p[1] for p in on]
        if how in ("with", "without"):
            sign = "" if how == "with" else "~"
            if len(on) == 1:
                test = f"{frame}[{left[0]!r}].isin({beside}[{right[0]!r}].dropna())"
            else:
                test = f"pd.MultiIndex.from_frame({frame}[{left!r}]).isin(pd.MultiIndex.from_frame({beside}[{right!r}].dropna()))"
            self.lines.append(f"{frame} = {frame}[{sign}{test}]")
            return
        columns = [*names, *schema_of(other, self.catalogue)]
        # A missing key must not meet another missing key, which merge would allow.
        self.lines.append(f"{beside} = {beside}.dropna(subset={right!r})")
        self.lines.append(
            f"{frame} = {frame}.merge({beside}, how={how!r}, left_on={left!r}, right_on={right!r}, validate='many_to_one')[{columns!r}]"
        )

    def group(self, step: Group, frame: str) -> None:
        if not step.aggregates:
            self.lines.append(f"{frame} = {frame}[{list(step.by)!r}].drop_duplicates()")
            return
        if not step.by:
            cells = ", ".join(f"{a.name!r}: [{_aggregate(a, frame)}]" for a in step.aggregates)
            self.lines.append(f"{frame} = pd.DataFrame({{{cells}}})")
            return
        cells = ", ".join(f"{a.name!r}: {_aggregate(a, 'rows')}" for a in step.aggregates)
        self.lines.append(f"groups = {frame}.groupby({list(step.by)!r}, dropna=False)")
        self.lines.append(
            f"{frame} = pd.DataFrame([dict(zip({list(step.by)!r}, key)) | {{{cells}}} for key, rows in groups], columns={[*step.by, *(a.name for a in step.aggregates)]!r})"
        )

    def window(self, step: Window, frame: str) -> None:
        cell = f"{frame}[{step.column!r}]"
        target = f"{frame}[{step.name!r}]"
        within = f".groupby({list(step.within)!r}, dropna=False)[{step.column!r}]"
        source = f"{frame}{within}" if step.within else cell
        keys = step.order or (SortKey(column=step.column, descending=True),)
        ordered = f"{frame}.sort_values({[k.column for k in keys]!r}, ascending={[not k.descending for k in keys]!r})"
        source_ordered = f"{ordered}{within}" if step.within else f"{ordered}[{step.column!r}]"
        match step.function:
            case "share":
                total = f"{source}.transform('sum')" if step.within else f"{cell}.sum()"
                self.lines.append(f"{target} = {cell} / {total}")
            case "rank":
                key = keys[0].column
                ranked = (
                    f"{frame}.groupby({list(step.within)!r}, dropna=False)[{key!r}]"
                    if step.within
                    else f"{frame}[{key!r}]"
                )
                self.lines.append(
                    f"{target} = {ranked}.rank(method='min', ascending={not keys[0].descending}, na_option='bottom')"
                )
            case "running_total":
                self.lines.append(f"{target} = {source_ordered}.cumsum()")
            case "change":
                self.lines.append(f"{target} = {source_ordered}.diff()")
            case "change_percent":
                self.lines.append(
                    f"{target} = {source_ordered}.pct_change(fill_method=None).replace([np.inf, -np.inf], np.nan)"
                )
            case _:
                assert_never(step.function)


def _with_ties(keys: tuple[SortKey, ...], names: list[str]) -> list[SortKey]:
    named = {key.column for key in keys}
    return [*keys, *(SortKey(column=name) for name in names if name not in named)]


def _aggregate(aggregate: Aggregate, rows: str) -> str:
    if aggregate.column is None:
        return f"len({rows})"
    cell = f"{rows}[{aggregate.column!r}]"
    match aggregate.function:
        case "count":
            return f"{cell}.count()"
        case "distinct":
            return f"{cell}.nunique()"
        case "sum":
            return f"{cell}.sum(min_count=1)"
        case "mean" | "median" | "min" | "max":
            return f"{cell}.{aggregate.function}()"
        case "deviation":
            return f"{cell}.std()"
        case "percentile":
            assert aggregate.percent is not None
            return f"{cell}.quantile({aggregate.percent / 100!r})"
        case "correlation":
            return f"{cell}.corr({rows}[{aggregate.other!r}])"
        case _:
            assert_never(aggregate.function)


def _constant(constant: Constant) -> str:
    if constant.type.is_time:
        return f"pd.Timestamp({str(constant.value)!r})"
    return repr(constant.value)


def _expression(expression: Expression, frame: str, schema: Schema) -> str:
    def inner(part: Expression) -> str:
        return _expression(part, frame, schema)

    match expression:
        case ColumnRef(name=name):
            return f"{frame}[{name!r}]"
        case Constant():
            return _constant(expression)
        case Compare(op="!=", left=left, right=right):
            return f"~({inner(left)} == {inner(right)})"
        case Compare(op=op, left=left, right=right):
            return f"({inner(left)} {'==' if op == '=' else op} {inner(right)})"
        case Between(value=value, low=low, high=high):
            return f"{inner(value)}.between({_constant(low)}, {_constant(high)})"
        case OneOf(value=value, options=options):
            return f"{inner(value)}.isin([{', '.join(_constant(o) for o in options)}])"
        case TextMatch(how=how, value=value, pattern=pattern):
            text = f"{inner(value)}.str.lower().str"
            if how == "contains":
                return f"{text}.contains({pattern.lower()!r}, regex=False, na=False)"
            return f"{text}.{how}with({pattern.lower()!r}, na=False)"
        case IsMissing(value=value):
            return f"{inner(value)}.isna()"
        case AllOf(items=items):
            return "(" + " & ".join(inner(i) for i in items) + ")"
        case AnyOf(items=items):
            return "(" + " | ".join(inner(i) for i in items) + ")"
        case Negated(item=item):
            return f"~{inner(item)}"
        case Arithmetic(op="/", left=left, right=right):
            return f"({inner(left)} / {inner(right)}.replace(0, float('nan')))"
        case Arithmetic(op=op, left=left, right=right):
            return f"({inner(left)} {op} {inner(right)})"
        case DatePart(part="weekday", value=value):
            return f"({inner(value)}.dt.day_of_week + 1)"
        case DatePart(part=part, value=value):
            return f"{inner(value)}.dt.{part}"
        case DateFloor(unit="day", value=value):
            return f"{inner(value)}.dt.normalize()"
        case DateFloor(unit=unit, value=value):
            return f"{inner(value)}.dt.to_period({ {'year': 'Y', 'quarter': 'Q', 'month': 'M', 'week': 'W'}[unit]!r}).dt.start_time"
        case DateDifference(unit="days", start=start, end=end):
            return f"({inner(end)}.dt.normalize() - {inner(start)}.dt.normalize()).dt.days"
        case DateDifference(unit=unit, start=start, end=end):
            seconds = {"hours": 3600, "minutes": 60, "years": 365.25 * 86400}[unit]
            return f"(({inner(end)} - {inner(start)}).dt.total_seconds() / {seconds})"
        case _:
            assert_never(expression)
