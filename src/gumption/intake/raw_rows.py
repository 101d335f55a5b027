"""Rows of text in the engine, on their way to a table: n is their number, c0, c1 and so on are their cells."""

from __future__ import annotations

from pathlib import Path

import duckdb
import pyarrow as pa

from gumption.core.model.names import free_name
from gumption.core.model.types import Type
from gumption.intake.column import Kind
from gumption.intake.sql import quoted

MEMORY_LIMIT = "1GB"


def columns_of(rows: list[list[str]], width: int) -> list[pa.Array]:
    """The rows' cells column by column, blank ones missing."""
    cells = zip(*rows, strict=True) if rows else ((),) * width
    return [pa.array([v or None for v in values], pa.string()) for values in cells]


def bring_rows(connection: duckdb.DuckDBPyConnection, numbers: list[int], columns: list[pa.Array]) -> None:
    """Put rows into the table `raw`: their number n, and their cells c0, c1 and so on."""
    named = {f"c{place}": column for place, column in enumerate(columns)}
    connection.register("arriving", pa.table({"n": pa.array(numbers, pa.int64()), **named}))
    connection.execute("CREATE TABLE raw AS SELECT * FROM arriving")
    connection.unregister("arriving")


def selected_values(kinds: dict[str, Kind]) -> tuple[list[str], dict[str, Kind]]:
    """SQL for every column's values, and the kinds with a column beside each that mixes currencies."""
    selected = []
    for name, kind in list(kinds.items()):
        selected.append(f"{kind.sql} AS {quoted(name)}")
        if kind.currency is not None:
            beside = free_name(f"{name}_currency", kinds)
            selected.append(f"{kind.currency} AS {quoted(beside)}")
            kinds = {**kinds, beside: Kind(Type.TEXT, kind.currency, simple=False)}
    return selected, {name: kinds[name] for name in in_order(kinds)}


def in_order(kinds: dict[str, Kind]) -> list[str]:
    """Each column's currency beside it."""
    beside = {k: f"{k}_currency" for k in kinds if f"{k}_currency" in kinds and kinds[k].currency}
    return [n for k in kinds if k not in beside.values() for n in ((k, beside[k]) if k in beside else (k,))]


def connect(scratch: Path, *, large: bool = False) -> duckdb.DuckDBPyConnection:
    """A database for one table on its way in; a large one keeps its rows on disk."""
    connection = duckdb.connect(str(scratch / "raw.duckdb") if large else ":memory:")
    connection.execute(f"SET memory_limit = '{MEMORY_LIMIT}'")
    connection.execute("SET enable_progress_bar = false")
    connection.execute("SET TimeZone = 'UTC'")
    connection.execute(f"SET temp_directory = '{scratch}/spill'")
    return connection
