"""Tables of the same columns as one, with a column that says where each row came from."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

import duckdb

from gumption.core.model.catalogue import Note, Table
from gumption.core.model.files import FileReading
from gumption.core.model.names import free_name
from gumption.core.model.origin import Appended
from gumption.core.model.types import Type
from gumption.intake.calendar_parts import told_whole, with_dates
from gumption.intake.column import Kind
from gumption.intake.errors import UnreadableFile
from gumption.intake.making import ReadTable
from gumption.intake.native import native_kind
from gumption.intake.profile import profile
from gumption.intake.sql import literal, quoted


def appended(name: str, origin: Appended, parquet: Mapping[str, Path], out: Path) -> ReadTable:
    """The tables one under the other. A column that some lack is missing there. Raises UnreadableFile."""
    gone = [t for t in origin.tables if t not in parquet]
    if gone:
        raise UnreadableFile(name, f"there is no table {gone[0]} any more.", "Choose the tables anew.")
    with duckdb.connect() as connection:
        first = connection.execute(f"DESCRIBE SELECT * FROM {_source(parquet[origin.tables[0]])}").fetchall()
        column = free_name(origin.column, {str(r[0]) for r in first})
        parts = [
            f"SELECT {literal(table)} AS {quoted(column)}, * FROM {_source(parquet[table])}" for table in origin.tables
        ]
        path = out / f"{name}.parquet"
        try:
            connection.execute(f"COPY ({' UNION ALL BY NAME '.join(parts)}) TO {literal(str(path))} (FORMAT parquet)")
        except duckdb.Error as error:
            raise UnreadableFile(
                name, "the tables' columns are of different types.", "Give the columns the same type in each first."
            ) from error
        dated = with_dates(connection, path, _kinds(connection, path), ())
        rows, columns = profile(connection, _source(path), dated.kinds, name)
    columns = told_whole(columns, dated)
    listed = ", ".join(origin.tables)
    note = Note(act=f"Made of {len(origin.tables)} tables, one under the other: {listed}", rows=rows)
    table = Table(name=name, source=listed, rows=rows, columns=tuple(columns), notes=(note, *dated.notes))
    return ReadTable(table, FileReading(file=listed, kind="cleaned"), path)


def _source(path: Path) -> str:
    return f"read_parquet({literal(str(path))})"


def _kinds(connection: duckdb.DuckDBPyConnection, path: Path) -> dict[str, Kind]:
    rows = connection.execute(f"DESCRIBE SELECT * FROM {_source(path)}").fetchall()
    kinds = {str(r[0]): native_kind(str(r[0]), str(r[1])) for r in rows}
    return {n: k if k.type is not Type.TEXT else Kind(Type.TEXT, quoted(n), simple=False) for n, k in kinds.items()}
