"""From text to typed values: the kind of a column is decided by the whole column, never row by row."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import duckdb

from gumption.core.model.types import Type
from gumption.intake.column import Column, Context, Kind, Values
from gumption.intake.moment_columns import as_clock, as_moment
from gumption.intake.number_columns import as_number
from gumption.intake.sql import literal

_YES = {"yes", "y", "true", "t", "ja", "oui", "sí", "si", "on", "wahr", "vrai", "verdadero", "✓", "✔", "checked"}
_NO = {"no", "n", "false", "f", "nein", "non", "off", "falsch", "faux", "falso", "✗", "✘", "unchecked"}
_LONE_LETTERS = ({"y", "n"}, {"t", "f"})


def kind_of(
    connection: duckdb.DuckDBPyConnection,
    table: str,
    cell: str,
    name: str = "",
    context: Context | None = None,
    values: Values | None = None,
) -> Kind:
    """The kind that the whole column fits, tried on a sample first and then counted on every row.

    `values` are all that stand in the column, where they are known; what is found then holds for no other rows.
    """
    return _kind(Column(connection, table, cell, name, context or Context(), values))


def _kind(column: Column) -> Kind:
    forced = column.context.types.get(column.name)
    if not column.sample or column.declined("type") or forced is Type.TEXT:
        return column.plain()
    if (marked := _marks(column)) is not None:
        return marked
    if not column.typed:
        return column.plain()
    for types, way in _WAYS:
        if (forced is None or forced in types) and (found := way(column)) is not None:
            kind = _as(found, forced)
            return replace(kind, notes=(*column.notes, *kind.notes))
    return column.plain()


def _as(kind: Kind, forced: Type | None) -> Kind:
    """The kind as the type a person chose, where values allow it."""
    if forced is None or kind.type is forced:
        return kind
    match forced:
        case Type.INTEGER | Type.FLOAT if kind.type.is_number:
            sql = f"CAST({kind.sql} AS {'BIGINT' if forced is Type.INTEGER else 'DOUBLE'})"
            return replace(kind, type=forced, sql=sql, scale=0, simple=False)
        case Type.DATE if kind.type is Type.TIMESTAMP:
            return replace(kind, type=forced, sql=f"CAST({kind.sql} AS DATE)", simple=False)
        case Type.TIMESTAMP if kind.type is Type.DATE:
            return replace(kind, type=forced, sql=f"CAST({kind.sql} AS TIMESTAMP)", simple=False)
        case _:
            return kind


def _marks(column: Column) -> Kind | None:
    """A tick or a cross where it holds, and blanks where it does not."""
    values = {v.lower() for v in column.sample}
    if not (values <= {"✓", "✔"} or values in ({"x"}, {"y"})):
        return None
    row = column.connection.execute(f"SELECT count(*) FROM {column.table} WHERE {column.text} IS NULL").fetchone()
    if not row or not row[0]:
        return None
    note = column.note(
        "type", f"{column.name}: a mark read as yes, a blank as no", rows=column.rows_of(list(column.sample))
    )
    return Kind(Type.BOOLEAN, f"({column.text} IS NOT NULL)", simple=False, notes=(note,))


def _boolean(column: Column) -> Kind | None:
    lowered = {v.lower() for v in column.typed}
    if not lowered <= _YES | _NO or not lowered & _YES | lowered & _NO:
        return None
    if all(len(v) == 1 for v in lowered) and lowered not in _LONE_LETTERS:
        return None
    if lowered & {"on", "off"} and len(lowered) == 1:
        return None
    if len(lowered) == 1 and not lowered & {"true", "false", "yes", "no"}:
        return None
    pairs = tuple((v, v in _YES) for v in sorted(lowered))
    cases = " ".join(f"WHEN {literal(v)} THEN {str(yes).lower()}" for v, yes in pairs)
    kind = Kind(Type.BOOLEAN, f"(CASE lower({column.text}) {cases} END)", booleans=pairs)
    if lowered - {"true", "false"} and lowered != {"yes", "no"}:
        words = ", ".join(list(column.typed)[:4])
        kind = replace(kind, notes=(column.note("type", f"{column.name}: {words} read as yes or no"),))
    filled, fits = column.count(kind.sql)
    held = column.held(kind, filled, fits, lambda _: False)
    return column.with_missing_words(held) if held else None


_WAYS: tuple[tuple[tuple[Type, ...], Callable[[Column], Kind | None]], ...] = (
    ((Type.BOOLEAN,), _boolean),
    ((Type.DATE, Type.TIMESTAMP), as_moment),
    ((Type.TIME, Type.DURATION), as_clock),
    ((Type.INTEGER, Type.DECIMAL, Type.FLOAT, Type.DATE, Type.TIMESTAMP), as_number),
)
"""Kinds in the order in which they are believed; each is held to every row before it is."""
