"""A plan as a pandas script that reads the very files that were uploaded."""

from __future__ import annotations

import keyword
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import assert_never

from gumption.core.code.python_aggregates import are_plain, as_cents, named_work, of_all_rows, of_each_group
from gumption.core.code.python_expressions import HELPERS, ExpressionCoder, constant_code
from gumption.core.code.python_load import frame_name, load_lines
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.files import FileReading
from gumption.core.model.names import free_name
from gumption.core.model.types import Type
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Aggregate, ColumnRef, Constant, DateFloor, DatePart, Expression
from gumption.core.plan.fields import Schema
from gumption.core.plan.keys import Keys, keys_after, tie_breakers
from gumption.core.plan.needed import beside, needed_columns, tables_needed
from gumption.core.plan.steps import Plan, SortKey, Step, Take, tables_of
from gumption.core.plan.typing import aggregate_field, schemas
from gumption.core.plan.words import step_words


def plan_python(plan: Plan, catalogue: Catalogue, readings: dict[str, FileReading]) -> str:
    """The script; its last lines leave the answer in `answer` and print it. `readings` says how each file is read."""
    used = tables_needed(plan, catalogue)
    # Rows that are only counted still need a column.
    used = {t: names or {catalogue.table(t).columns[0].name} for t, names in used.items()}
    read = {t: [c.name for c in catalogue.table(t).columns if c.name in names] for t, names in used.items()}
    loads = [line for name in tables_of(plan) for line in load_lines(catalogue.table(name), readings[name], used[name])]
    writer = _Writer(catalogue, read)
    writer.plan(plan, "answer", None)
    body = "\n".join(writer.lines)
    helpers = [text for name, text in HELPERS.items() if f"{name}(" in body]
    imports = [f"import {name}" for name in ("datetime", "re") if f"{name}." in body]
    imports += ["from pathlib import Path\n"]
    imports += ["import numpy as np"] if "np." in body or any("np." in h for h in helpers) else []
    parts = ["\n".join([*imports, "import pandas as pd"]), "FOLDER = Path('.')  # where the files are", *helpers]
    parts += ["\n".join(loads), body]
    return "\n\n".join(parts) + "\nprint(answer.to_string(index=False))\n"


@dataclass(frozen=True)
class _Partner:
    """The frame that rows are joined with."""

    base: str
    columns: list[str]
    """What is wanted of it, as the plan calls it."""
    renamed: dict[str, str]
    """What the frame calls those that have another name in it."""
    gaps: set[str]
    held: list[str]
    """Every column of the frame."""

    def source(self, name: str) -> str:
        return self.renamed.get(name, name)

    @property
    def text(self) -> str:
        """The frame with the wanted columns alone, as the plan calls them."""
        sources = [self.source(n) for n in self.columns]
        chosen = f"[{sources!r}]" if sources != self.held else ""
        names = {self.source(n): n for n in self.columns if n in self.renamed}
        return self.base + chosen + (f".rename(columns={names!r})" if names else "")


@dataclass
class _Chain:
    """A frame on its way: what it begins with, the calls that follow, and what is known of its columns."""

    base: str
    columns: list[str]
    gaps: set[str]
    """Columns that may have missing values."""
    calls: list[str] = field(default_factory=list)

    def choose(self, columns: Sequence[str], then: str = "") -> None:
        """Only these columns, in this order; `then` follows in the same line."""
        chosen = f"{list(columns)!r}"
        self.calls.append((f".loc[:, {chosen}]" if self.calls else f"[{chosen}]") + then)
        self.columns, self.gaps = list(columns), self.gaps & set(columns)

    @property
    def text(self) -> str:
        """The frame as one expression, on several lines where calls follow."""
        if len(self.calls) < 2 and sum(map(len, self.calls)) + len(self.base) < _LINE:
            return self.base + "".join(self.calls)
        return "(\n" + "\n".join(f"    {line}" for line in (self.base, *self.calls)) + "\n)"


_LINE = 110
_ROWS = "rows"
"""What the rows are called inside of a chain's calls."""


class _Writer:
    def __init__(self, catalogue: Catalogue, read: dict[str, list[str]]) -> None:
        """`read` are the columns that the frame of each table has."""
        self.catalogue, self.read = catalogue, read
        self.lines: list[str] = []
        self.names: set[str] = {frame_name(t.name) for t in catalogue.tables} | {"answer"}
        self.known: Keys = ()
        """Sets of columns that tell the rows apart before the step that is written."""
        self.all_names: list[str] = []
        """Every column there is before it, also those that the answer does not need."""

    def plan(self, plan: Plan, into: str, wanted: frozenset[str] | None) -> _Chain:
        """The lines that leave a plan's rows in a variable: their columns in order, all or those that are wanted."""
        needed = needed_columns(plan, self.catalogue, wanted)
        typed = schemas(plan, self.catalogue)
        first = plan.steps[0]
        assert isinstance(first, Take)
        table = self.catalogue.table(first.table)
        gaps = {c.name for c in table.columns if c.missing}
        chain = _Chain(frame_name(first.table), list(self.read[first.table]), gaps)
        keys = keys_after(first, (), self.catalogue)
        for place in range(1, len(plan.steps)):
            step = plan.steps[place]
            before = {n: f for n, f in typed[place - 1].items() if n in needed[place - 1]}
            after = {n: f for n, f in typed[place].items() if n in needed[place]}
            self.known = keys
            self.all_names = list(typed[place - 1])
            if not isinstance(step, (st.Derive, st.Window)) or step.name in needed[place]:
                self.step(step, chain, into, before, after)
            keys = keys_after(step, keys, self.catalogue)
        final = [n for n in typed[-1] if n in needed[-1]]
        if chain.columns != final:
            chain.choose(final)
        if chain.calls or chain.base != into:
            self.lines.append(f"{into} = {chain.text}")
        return chain

    def settled(self, chain: _Chain, into: str) -> str:
        """The chain so far in a variable, which statements can go on with."""
        if chain.calls or chain.base != into:
            copied = chain.text if chain.calls else f"{chain.base}.copy()"
            self.lines.append(f"{into} = {copied}")
            chain.base, chain.calls = into, []
        return into

    def step(self, step: Step, chain: _Chain, into: str, schema: Schema, after: Schema) -> None:
        add = chain.calls.append
        coder = ExpressionCoder(_ROWS, schema)
        match step:
            case st.Keep(condition=condition):
                add(f".loc[lambda {_ROWS}: {coder.condition(condition)}]")
            case st.Derive(name=name, expression=expression):
                code = f"{coder.code(expression)}{as_cents(after[name], expression)}"
                # A value that is the same on every row needs no rows.
                value = f"lambda {_ROWS}: {code}" if _ROWS in code else code
                add(f".assign({_keyword(name, value)})")
                chain.columns = [*(c for c in chain.columns if c != name), name]
                chain.gaps.discard(name)
                if self.may_be_missing(expression, chain):
                    chain.gaps.add(name)
            case st.Join():
                self.join(step, chain, into, schema, after)
            case st.Group(by=by, aggregates=aggregates):
                self.group(chain, into, by, aggregates, schema)
            case st.Sort(keys=keys):
                add(self.ordered("", keys))
            case st.Limit(rows=rows):
                add(f".head({rows})")
            case st.Pick(columns=columns):
                self.pick(tuple(c for c in columns if c.name in after), chain)
            case st.Unpivot(columns=columns, name=name, value=value):
                rest = [n for n in schema if n not in columns]
                add(f".melt(id_vars={rest!r}, value_vars={list(columns)!r}, var_name={name!r}, value_name={value!r})")
                chain.columns, chain.gaps = [*rest, name, value], {*chain.gaps, value}
            case st.Spread(column=column, separator=separator):
                cells = f"lambda {_ROWS}: {_ROWS}[{column!r}]"
                split, stripped = f"{cells}.str.split({separator!r}, regex=False)", f"{cells}.str.strip(' ')"
                add(f".assign({_keyword(column, split)}).explode({column!r}, ignore_index=True)")
                add(f".assign({_keyword(column, stripped)})")
                add(f".loc[{cells} != '']")
            case st.AsOf() | st.Append() | st.Pivot() | st.Window() | st.Fill():
                self.statements(step, chain, into, schema, after)
            case Take():
                raise AssertionError("a plan begins with its only take")
            case _:
                assert_never(step)

    def statements(self, step: Step, chain: _Chain, into: str, schema: Schema, after: Schema) -> None:
        """Steps that take several statements, on the rows so far."""
        frame = self.settled(chain, into)
        words = step_words(step, "rows")
        self.lines.append(f"# {words.verb} {words.rest}".replace("\n", " "))
        names = [n for n in chain.columns if n in schema]
        match step:
            case st.AsOf(other=other):
                wanted = beside(step, frozenset(after), self.catalogue)
                self.as_of(step, frame, self.other(other, wanted).base, names, [n for n in after if n not in schema])
            case st.Append(other=other):
                added = self.other(other, None).base
                self.lines.append(f"{frame} = pd.concat([{frame}, {added}], ignore_index=True)[{list(after)!r}]")
            case st.Pivot():
                self.pivot(step, frame, schema)
            case st.Window():
                self.window(step, frame, schema)
            case st.Fill():
                self.fill(step, frame, names)
            case _:
                raise AssertionError(f"{step.step} is a call")
        match step:
            case st.Pivot(by=by, into=crossed, aggregate=aggregate, totals=totals):
                beyond = (aggregate.name, "total_row") if totals else ()
                chain.columns = [*by, *(c.name for c in crossed), *beyond]
            case st.Append():
                chain.columns = list(after)
            case _:
                chain.columns = [*names, *(n for n in after if n not in names)]
        chain.gaps |= set(after)

    def may_be_missing(self, expression: Expression, chain: _Chain) -> bool:
        """False for what surely has a value on every row."""
        match expression:
            case Constant():
                return False
            case ColumnRef(name=name):
                return name in chain.gaps
            case DatePart(value=value) | DateFloor(value=value):
                return self.may_be_missing(value, chain)
            case _:
                return True

    def other(self, plan: Plan, wanted: frozenset[str] | None) -> _Partner:
        """The lines of another plan, and the frame they leave."""
        first = plan.steps[0]
        assert isinstance(first, Take)
        name = free_name(f"{frame_name(first.table)}_{_DONE.get(plan.steps[-1].step, 'part')}", self.names)
        self.names.add(name)
        chain = self.plan(plan, name, wanted)
        return _Partner(name, chain.columns, {}, chain.gaps, chain.columns)

    def ordered(self, frame: str, keys: tuple[SortKey, ...], *, ties: bool = True) -> str:
        full = [*keys, *(tie_breakers(keys, self.all_names, self.known) if ties else ())]
        columns = [k.column for k in full]
        told = repr(columns[0]) if len(columns) == 1 else repr(columns)
        if not any(k.descending for k in full):
            return f"{frame}.sort_values({told})"
        falling = "False" if len(full) == 1 else repr([not k.descending for k in full])
        return f"{frame}.sort_values({told}, ascending={falling})"

    def pick(self, columns: tuple[st.Picked, ...], chain: _Chain) -> None:
        """Columns under other names; those that are not picked stay until the end, unless they are in the way."""
        sources = [c.column for c in columns]
        renamed = {c.column: c.name for c in columns if c.column != c.name}
        gaps = {c.name for c in columns if c.column in chain.gaps}
        if len(set(sources)) < len(sources):
            copies = {c.name: c.column for c in columns}
            made = ", ".join(_keyword(n, f"lambda {_ROWS}: {_ROWS}[{s!r}]") for n, s in copies.items() if n != s)
            chain.calls.append(f".assign({made}).loc[:, {list(copies)!r}]")
            chain.columns, chain.gaps = list(copies), gaps
            return
        if chain.columns != sources:
            chain.choose(sources)
        if renamed:
            chain.calls.append(f".rename(columns={renamed!r})")
        chain.columns, chain.gaps = [c.name for c in columns], gaps

    def join(self, step: st.Join, chain: _Chain, into: str, schema: Schema, after: Schema) -> None:
        left, right = [p.left for p in step.on], [p.right for p in step.on]
        wanted = beside(step, frozenset(after), self.catalogue)
        if step.how in ("with", "without"):
            self.test(step, chain, wanted)
            return
        partner = self.partner(step.other, wanted)
        if not step.on:
            chain.calls.append(f".merge({partner.text}, how='cross')")
            chain.columns += partner.columns
            chain.gaps |= partner.gaps
            return
        # A key that goes by the same name in both, and is not shown of the other, is one column.
        same = [partner.source(r) == key and r not in after for key, r in zip(left, right, strict=True)]
        taken = set(chain.columns)
        keys = [
            partner.source(r) if one or (r not in after and partner.source(r) not in taken) else r
            for r, one in zip(right, same, strict=True)
        ]
        called = dict(zip(right, keys, strict=True))
        names = [called.get(n, n) for n in partner.columns]
        shared = {key for key, one in zip(keys, same, strict=True) if one}
        if (set(names) - shared) & taken:
            # Columns that nothing needs any more would be in the way.
            chain.choose([n for n in chain.columns if n in schema])
        renamed = {n: partner.source(p) for n, p in zip(names, partner.columns, strict=True) if n != partner.source(p)}
        text = _Partner(partner.base, names, renamed, partner.gaps, partner.held).text
        if partner.gaps & set(right):
            # A missing key must not meet another missing key, which merge would allow.
            text += f".dropna(subset={keys!r})"
        on = f"on={_one(left)}" if all(same) else f"left_on={_one(left)}, right_on={_one(keys)}"
        chain.calls.append(f".merge({text}, how={step.how!r}, {on}, validate='many_to_one')")
        added = [n for n in names if n not in shared]
        chain.columns = [*chain.columns, *added]
        gaps = {called.get(n, n) for n in partner.gaps}
        chain.gaps = (chain.gaps - set(added)) | (set(added) if step.how == "left" else gaps & set(added))

    def test(self, step: st.Join, chain: _Chain, wanted: frozenset[str] | None) -> None:
        """Rows that have a partner, or none."""
        left, right = [p.left for p in step.on], [p.right for p in step.on]
        sign = "" if step.how == "with" else "~"
        partner = self.partner(step.other, wanted)
        right = [partner.source(r) for r in right]
        if len(left) == 1:
            test = f"{_ROWS}[{left[0]!r}].isin({partner.base}[{right[0]!r}].dropna())"
        else:
            found = f"pd.MultiIndex.from_frame({partner.base}[{right!r}].dropna())"
            test = f"pd.MultiIndex.from_frame({_ROWS}[{left!r}]).isin({found})"
        chain.calls.append(f".loc[lambda {_ROWS}: {sign}{test}]")

    def partner(self, plan: Plan, wanted: frozenset[str] | None) -> _Partner:
        """The frame that rows are joined with: a table itself where only columns are chosen of it."""
        first = plan.steps[0]
        assert isinstance(first, Take)
        table = self.catalogue.table(first.table)
        sources = {c.name: c.name for c in table.columns}
        for step in plan.steps[1:]:
            if not isinstance(step, st.Pick):
                return self.other(plan, wanted)
            sources = {c.name: sources[c.column] for c in step.columns}
        final = [n for n in sources if wanted is None or n in wanted]
        if len({sources[n] for n in final}) < len(final):
            return self.other(plan, wanted)
        gaps = {n for n in final if table.column(sources[n]).missing}
        renamed = {n: sources[n] for n in final if sources[n] != n}
        return _Partner(frame_name(first.table), final, renamed, gaps, list(self.read[first.table]))

    def as_of(self, step: st.AsOf, frame: str, other: str, names: list[str], added: list[str]) -> None:
        add, at, since = self.lines.append, step.at.left, step.at.right
        by = ""
        if step.on:
            by = f", left_by={[p.left for p in step.on]!r}, right_by={[p.right for p in step.on]!r}"
        keys = [since, *(p.right for p in step.on)]
        add(f"known = {frame}[{frame}[{at!r}].notna()].sort_values({at!r})")
        add(f"{other} = {other}.dropna(subset={keys!r}).sort_values({since!r})")
        add(f"held = pd.merge_asof(known, {other}, left_on={at!r}, right_on={since!r}{by})")
        add(f"{frame} = pd.concat([held, {frame}[{frame}[{at!r}].isna()]], ignore_index=True)[{[*names, *added]!r}]")

    def group(
        self, chain: _Chain, into: str, by: tuple[str, ...], aggregates: tuple[Aggregate, ...], schema: Schema
    ) -> None:
        keys = set(by)
        if not aggregates:
            chain.choose(by, ".drop_duplicates()")
        elif by and are_plain(by, aggregates, schema):
            self.plain_group(chain, by, aggregates, schema)
        else:
            # Columns that are made for it need a frame of their own.
            made = chain.calls or any(a.where is not None for a in aggregates)
            self.grouped(into, self.settled(chain, into) if made else chain.base, by, aggregates, schema)
            chain.base = into
        surely = {a.name for a in aggregates if a.function in ("count", "distinct", "share")}
        chain.gaps = (chain.gaps & keys) | {a.name for a in aggregates} - surely
        chain.columns = [*by, *(a.name for a in aggregates)]

    def plain_group(
        self, chain: _Chain, by: tuple[str, ...], aggregates: tuple[Aggregate, ...], schema: Schema
    ) -> None:
        """Groups of which every figure is a method of columns."""
        coder = ExpressionCoder(_ROWS, schema)
        taken = set(chain.columns) | set(schema) | {a.name for a in aggregates}
        held = next((a.column for a in aggregates if a.column is not None and a.column not in by), None)
        cells = []
        for aggregate in aggregates:
            column, work = aggregate.column, named_work(aggregate, chain.gaps)
            if aggregate.where is not None:
                column = free_name(f"{aggregate.name} counted", taken)
                taken.add(column)
                value = coder.condition(aggregate.where)
                if aggregate.column is not None:
                    value = f"{_ROWS}[{aggregate.column!r}].where({value})"
                chain.calls.append(f".assign({_keyword(column, f'lambda {_ROWS}: {value}')})")
            elif column is None:
                column, work = held, "'size'"
            cells.append(_keyword(aggregate.name, f"({column!r}, {work})"))
        gaps = ", dropna=False" if set(by) & chain.gaps else ""
        if len(aggregates) == 1 and aggregates[0].column is None and aggregates[0].where is None:
            chain.calls.append(f".groupby({_one(by)}{gaps}).size().reset_index(name={aggregates[0].name!r})")
            return
        chain.calls.append(f".groupby({_one(by)}{gaps}, as_index=False).agg({', '.join(cells)})")
        cents = {
            a.name: schema[a.column].scale
            for a in aggregates
            if a.function == "sum" and a.column is not None and schema[a.column].type is Type.DECIMAL
        }
        if cents:
            chain.calls.append(f".round({cents!r})")

    def grouped(
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
            cells = [f"    {a.name!r}: [{of_all_rows(a, frame, columns.get(a.name), schema)}]," for a in aggregates]
            texts = [a.name for a in aggregates if aggregate_field(a, schema).type is Type.TEXT]
            self.lines += [f"{into} = pd.DataFrame({{", *cells, "})" + _as_text(texts)]
            return
        cells = [f"    {a.name!r}: {of_each_group(a, 'groups', columns.get(a.name), schema)}," for a in aggregates]
        add(f"groups = {frame}.groupby({list(by)!r}, dropna=False)")
        self.lines += [f"{into} = pd.DataFrame({{", *cells, "}).reset_index()"]

    def pivot(self, step: st.Pivot, frame: str, schema: Schema) -> None:
        if not step.totals:
            self.grouped(frame, frame, step.by, step.cells, schema)
            return
        cells = (*step.cells, step.aggregate)
        self.grouped("crossed", frame, step.by, cells, schema)
        self.grouped("whole", frame, (), cells, schema)
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
        cents = as_cents(schema[step.column])
        column, within, function = step.column, list(step.within), step.function
        target, cell = f"{frame}[{step.name!r}]", f"{frame}[{step.column!r}]"
        grouped = f".groupby({within!r}, dropna=False)"
        keys = step.order or (SortKey(column=column, descending=function in ("rank", "place")),)
        rows = self.ordered(frame, keys)
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
        rows = self.ordered(frame, keys, ties=False)
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


_DONE = {"keep": "kept", "group": "grouped", "pick": "part", "sort": "sorted", "limit": "first", "window": "ranked"}
"""What the rows of another plan are called by its last step."""


def _one(names: Sequence[str]) -> str:
    """One name by itself, several as a list."""
    return repr(names[0]) if len(names) == 1 else repr(list(names))


def _keyword(name: str, value: str) -> str:
    """An argument that makes a column, whatever its name."""
    plain = (
        name.isidentifier() and not keyword.iskeyword(name) and name not in ("self", "func", "engine", "engine_kwargs")
    )
    return f"{name}={value}" if plain else f"**{{{name!r}: {value}}}"


def _as_text(names: list[str]) -> str:
    """Text stays text where all of it is missing."""
    return f".astype({dict.fromkeys(names, 'str')!r})" if names else ""


def _nonzero(total: str, many: bool) -> str:
    return f"{total}.replace(0, np.nan)" if many else f"({total} or np.nan)"
