"""The steps of a recipe worked on a table's Parquet file, one after the other."""

from __future__ import annotations

import re
from dataclasses import replace
from pathlib import Path
from typing import assert_never

import duckdb
from sqlglot import exp

from gumption.core.code.dialects import dialect_of
from gumption.core.code.sql_expressions import ExpressionWriter
from gumption.core.model.catalogue import Note
from gumption.core.model.names import plural
from gumption.core.model.shape import DropRepeats, FillDown, Formula, LeaveOut, Repair, ShapeStep, Split, Unpivot
from gumption.core.model.types import Role, Type
from gumption.core.plan.expression_types import type_of
from gumption.core.plan.fields import Field, PlanError
from gumption.core.plan.formula import parse_formula
from gumption.intake.column import Kind
from gumption.intake.errors import UnreadableFile
from gumption.intake.moments import MONTHS, read_moment
from gumption.intake.sql import literal, quoted


def reshaped(
    connection: duckdb.DuckDBPyConnection,
    parquet: Path,
    kinds: dict[str, Kind],
    steps: tuple[ShapeStep, ...],
    folder: Path,
) -> tuple[dict[str, Kind], list[Note]]:
    """Work the steps on the file, in place; the new columns' kinds, and a note on each step. Raises UnreadableFile."""
    notes: list[Note] = []
    for number, step in enumerate(steps):
        try:
            sql, kinds, note = _worked(connection, parquet, kinds, step)
            after = folder / f".{parquet.stem}.shaped"
            connection.execute(f"COPY ({sql}) TO {literal(str(after))} (FORMAT parquet)")
            after.replace(parquet)
        except (PlanError, KeyError) as error:
            problem = error.clause if isinstance(error, PlanError) else f"there is no column {error.args[0]} any more"
            raise UnreadableFile(
                parquet.stem,
                f"step {number + 1} of its recipe does not fit: {problem}.",
                "Take the step out, or change it.",
            ) from error
        notes.append(note.model_copy(update={"key": f"step:{number}"}))
    return kinds, notes


def _count(connection: duckdb.DuckDBPyConnection, sql: str) -> int:
    row = connection.execute(sql).fetchone()
    return int(row[0]) if row else 0


def _need(kinds: dict[str, Kind], *names: str) -> None:
    for name in names:
        if name not in kinds:
            raise KeyError(name)


def _worked(
    connection: duckdb.DuckDBPyConnection, parquet: Path, kinds: dict[str, Kind], step: ShapeStep
) -> tuple[str, dict[str, Kind], Note]:
    """SQL for the table after the step, the kinds of its columns, and what to say of it."""
    source = f"read_parquet({literal(str(parquet))})"
    match step:
        case Unpivot():
            return _unpivot(source, kinds, step)
        case Split(column=column, separator=separator, into=into):
            _need(kinds, column)
            parts = []
            for place, name in enumerate(into, 1):
                if name in kinds:
                    raise PlanError(f"there is a column {name} already")
                piece = f"string_split({quoted(column)}, {literal(separator)})"
                if place == len(into):
                    piece = f"array_to_string(list_slice({piece}, {place}, len({piece})), {literal(separator)})"
                else:
                    piece = f"list_extract({piece}, {place})"
                parts.append(f"nullif(trim({piece}), '') AS {quoted(name)}")
            added = {name: Kind(Type.TEXT, quoted(name), simple=False) for name in into}
            note = Note(act=f"{column} was split at “{separator}” into {', '.join(into)}")
            return f"SELECT *, {', '.join(parts)} FROM {source}", {**kinds, **added}, note
        case Formula(name=name, formula=formula):
            if name in kinds:
                raise PlanError(f"there is a column {name} already")
            schema = {n: Field(k.type, Role.QUANTITY, k.scale, k.unit) for n, k in kinds.items()}
            expression = parse_formula(formula, schema)
            field = type_of(expression, schema)
            columns: dict[str, exp.Expr] = {n: exp.column(n, quoted=True) for n in kinds}
            sql = ExpressionWriter(dialect_of("duckdb"), columns, schema).value(expression).sql(dialect="duckdb")
            if field.type is Type.DECIMAL:
                sql = f"CAST({sql} AS DECIMAL(18, {min(field.scale, 8)}))"
            kind = Kind(field.type, quoted(name), scale=field.scale, unit=field.unit, simple=False)
            note = Note(act=f"{name} is worked out as {formula}", column=name)
            return f"SELECT *, {sql} AS {quoted(name)} FROM {source}", {**kinds, name: kind}, note
        case LeaveOut(column=column, values=values):
            _need(kinds, column)
            test = f"coalesce(CAST({quoted(column)} AS VARCHAR) IN ({', '.join(map(literal, values))}), false)"
            gone = _count(connection, f"SELECT count(*) FROM {source} WHERE {test}")
            note = Note(
                act=f"{plural(gone, 'row')} where {column} is {' or '.join(values)} left out", rows=gone, column=column
            )
            return f"SELECT * FROM {source} WHERE NOT {test}", kinds, note
        case FillDown(column=column):
            _need(kinds, column)
            filled = _count(connection, f"SELECT count(*) FROM {source} WHERE {quoted(column)} IS NULL")
            value = f"last_value({quoted(column)} IGNORE NULLS) OVER (ORDER BY file_row_number)"
            sql = (
                f"SELECT * EXCLUDE (file_row_number) REPLACE ({value} AS {quoted(column)}) "
                f"FROM read_parquet({literal(str(parquet))}, file_row_number=true) ORDER BY file_row_number"
            )
            return (
                sql,
                kinds,
                Note(act=f"{plural(filled, 'gap')} in {column} took the value above", rows=filled, column=column),
            )
        case Repair(column=column, values=values):
            _need(kinds, column)
            cases = " ".join(f"WHEN {literal(a)} THEN {literal(b)}" for a, b in values.items())
            listed = ", ".join(map(literal, values))
            changed = _count(
                connection, f"SELECT count(*) FROM {source} WHERE CAST({quoted(column)} AS VARCHAR) IN ({listed})"
            )
            sql = f"SELECT * REPLACE (CASE {quoted(column)} {cases} ELSE {quoted(column)} END AS {quoted(column)}) FROM {source}"
            note = Note(
                act=f"{plural(changed, 'value')} of {column} written as the table it joins has them",
                rows=changed,
                column=column,
                examples=tuple(f"{a} → {b}" for a, b in list(values.items())[:3]),
            )
            return sql, kinds, note
        case DropRepeats():
            names = ", ".join(map(quoted, kinds))
            before = _count(connection, f"SELECT count(*) FROM {source}")
            sql = (
                f"SELECT {names} FROM (SELECT *, row_number() OVER (PARTITION BY {names} ORDER BY file_row_number) AS copy "
                f"FROM read_parquet({literal(str(parquet))}, file_row_number=true)) WHERE copy = 1 ORDER BY file_row_number"
            )
            gone = before - _count(connection, f"SELECT count(*) FROM ({sql})")
            return sql, kinds, Note(act=f"{plural(gone, 'row')} that stood twice left out", rows=gone)
        case _:
            assert_never(step)


def _unpivot(source: str, kinds: dict[str, Kind], step: Unpivot) -> tuple[str, dict[str, Kind], Note]:
    _need(kinds, *step.columns)
    kept = {n: k for n, k in kinds.items() if n not in step.columns}
    for name in (step.names_to, step.values_to):
        if name in kept:
            raise PlanError(f"there is a column {name} already")
    types = {kinds[c].type for c in step.columns}
    numeric = all(t.is_number for t in types)
    if len(types) > 1 and not numeric:
        raise PlanError("the columns to be laid out as rows are of different types")
    scale = max(kinds[c].scale for c in step.columns)
    value_type = next(iter(types)) if len(types) == 1 else Type.FLOAT if Type.FLOAT in types else Type.DECIMAL
    cast = {Type.DECIMAL: f"DECIMAL(18, {scale})", Type.FLOAT: "DOUBLE"}.get(value_type)
    values = [f"CAST({quoted(c)} AS {cast})" if cast else quoted(c) for c in step.columns]
    labels = [_label(c, step.as_month) for c in step.columns]
    label_type = Type.DATE if step.as_month is not None else Type.TEXT
    pairs = ", ".join(
        f"{{'place': {place}, 'label': {label}, 'value': {value}}}"
        for place, (label, value) in enumerate(zip(labels, values, strict=True))
    )
    names = "".join(f"{quoted(n)}, " for n in kept)
    sql = (
        f"SELECT {names}pair.label AS {quoted(step.names_to)}, pair.value AS {quoted(step.values_to)} "
        f"FROM (SELECT *, unnest([{pairs}]) AS pair FROM {source})"
    )
    first = kinds[step.columns[0]]
    kind = replace(first, type=value_type, scale=scale, sql=quoted(step.values_to), notes=(), simple=False, bad=0)
    added = {step.names_to: Kind(label_type, quoted(step.names_to), simple=False), step.values_to: kind}
    note = Note(
        act=f"{len(step.columns)} columns, {step.columns[0]} to {step.columns[-1]}, were laid out as rows: {step.names_to} and {step.values_to}"
    )
    return sql, {**kept, **added}, note


def _label(column: str, as_month: int | None) -> str:
    """A column's name as a value: text, or the first day of the month it names."""
    if as_month is None:
        return literal(column)
    words = re.findall(r"[^\W\d_]+", column.lower())
    month = next((MONTHS[w] for w in words if w in MONTHS), None)
    year = next((int(y) for y in re.findall(r"(?:19|20)\d{2}", column)), as_month)
    if month is None:
        moment = read_moment(column, "day")
        if moment is None or moment.value is None:
            raise PlanError(f"{column} names no month")
        return f"DATE {literal(moment.value.date().isoformat())}"
    return f"DATE '{year:04d}-{month:02d}-01'"
