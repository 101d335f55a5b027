"""DuckDB over the tables' Parquet files: runs SQL, and hands columns to the second working."""

from __future__ import annotations

import os
import shutil
import tempfile
import threading
import weakref
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from math import isfinite
from pathlib import Path
from typing import Any

import duckdb
import numpy as np
import pyarrow as pa
import pyarrow.compute as pc
import pyarrow.parquet as pq

from gumption.core.evaluate.vectors import Ints, Mask, Vector, no_missing
from gumption.core.model.types import Type, Value
from gumption.engines.driver_errors import meaning_of
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.kept import Kept
from gumption.engines.limits import GIGABYTE, Limits, Stop
from gumption.intake.sql import literal, quoted

_CACHE_SHARE = 0.25
"""Of the memory that questions may take, what columns of the second working keep between them."""
_KEPT_ANSWERS, _KEPT_ROWS = 500, 500
"""How many answers are kept, and how many rows one may have: the same readings are looked at, told and followed."""
_THEIR_BATCH = 500
_BATCH = 20_000
_GONE = "A table was changed or deleted while this was worked on. Ask it again."
Found = tuple[tuple[str, ...], list[tuple[Value, ...]]]


class DuckEngine:
    """The tables of a workspace as views of one in-memory database that reads their files and nothing else."""

    def __init__(self, parquet: Mapping[str, Path], limits: Limits | None = None, scratch: Path | None = None) -> None:
        """`scratch` is a folder for rows that do not fit into memory; without one the system's is used."""
        self.parquet = dict(parquet)
        self.limits = limits = limits or Limits()
        spill = tempfile.mkdtemp(prefix=f"gumption-spill-{os.getpid()}-", dir=scratch)
        self._sweep = weakref.finalize(self, shutil.rmtree, spill, ignore_errors=True)
        self._connection = duckdb.connect()
        self._lock = threading.Lock()
        self._cache: dict[tuple[str, str], Vector] = {}
        self._answers: Kept[str, Found] = Kept(_KEPT_ANSWERS)
        for setting, value in (
            ("memory_limit", f"'{limits.memory_gb:g}GB'"),
            ("temp_directory", literal(spill)),
            ("max_temp_directory_size", f"'{limits.disk_gb:g}GB'"),
            ("enable_progress_bar", "false"),
            ("allowed_paths", f"[{', '.join(literal(str(path)) for path in self.parquet.values())}]"),
            ("enable_external_access", "false"),
        ):
            self._connection.execute(f"SET {setting} = {value}")
        for name, path in self.parquet.items():
            self._connection.execute(f"CREATE VIEW {quoted(name)} AS SELECT * FROM read_parquet({literal(str(path))})")
        self._connection.execute("SET lock_configuration = true")

    def take_over(self, earlier: DuckEngine) -> None:
        """Keep the columns that an earlier engine had of the very same files."""
        with earlier._lock:
            known = dict(earlier._cache)
        same = {name for name, path in self.parquet.items() if earlier.parquet.get(name) == path}
        with self._lock:
            self._cache.update((key, vector) for key, vector in known.items() if key[0] in same)

    def close(self) -> None:
        self._connection.close()
        self._sweep()

    def run(self, sql: str, stop: Stop | None = None, most: int | None = None) -> Found:
        """Column names and rows of a query, at most so many of them. Raises CannotAnswer.

        The files never change under an engine, so that an answer given once is the answer.
        """
        kept = self._answers.get(sql)
        if kept is not None:
            return kept[0], kept[1][:most]
        with self._cursor(stop) as cursor:
            cursor.execute(sql)
            names = tuple(str(d[0]) for d in cursor.description or ())
            rows = cursor.fetchall() if most is None else cursor.fetchmany(most)
            found = names, [tuple(_known(value) for value in row) for row in rows]
        if len(rows) <= _KEPT_ROWS and (most is None or len(rows) < most):
            self._answers.put(sql, found)
        return found

    def run_theirs(
        self, sql: str, most_rows: int, most_bytes: int, stop: Stop
    ) -> tuple[tuple[tuple[str, str], ...], list[tuple[Any, ...]], bool]:
        """Names and DuckDB types of the columns, the first rows of a person's SELECT that `theirs` let pass, and whether they are all."""
        with self._cursor(stop) as cursor:
            statements = cursor.extract_statements(sql)
            if len(statements) != 1 or statements[0].type != duckdb.StatementType.SELECT:
                raise CannotAnswer("Only one SELECT can be run here.")
            cursor.execute(statements[0])
            columns = tuple((str(d[0]), str(d[1])) for d in cursor.description or ())
            rows: list[tuple[Any, ...]] = []
            size = 0
            while batch := cursor.fetchmany(_THEIR_BATCH):
                for row in batch:
                    size += sum(len(v) if isinstance(v, str) else len(str(v)) for v in row)
                    if len(rows) >= most_rows or size > most_bytes:
                        return columns, rows, False
                    rows.append(row)
            return columns, rows, True

    @contextmanager
    def _cursor(self, stop: Stop | None) -> Iterator[duckdb.DuckDBPyConnection]:
        """A cursor that can be stopped; the engine's errors in words."""
        with self._connection.cursor() as cursor, (stop or Stop()).interrupting(cursor.interrupt):
            try:
                if stop is not None and stop.asked():
                    raise WasStopped
                yield cursor
            except duckdb.Error as error:
                told = self._told(error)
                if told is None:
                    raise
                raise told from error

    def _told(self, error: duckdb.Error) -> CannotAnswer | None:
        """What an error of the engine means to a person; None for what only the log may tell."""
        match meaning_of(error):
            case "stopped":
                return WasStopped()
            case "no room":
                return CannotAnswer(
                    f"This needs more than the {self.limits.memory_gb:g} GB of memory and {self.limits.disk_gb:g} GB of disk "
                    "that questions may take.",
                    "Ask for fewer groups or a shorter time, or start with a larger --memory or --disk.",
                )
            case "gone" if not all(path.exists() for path in self.parquet.values()):
                return CannotAnswer(_GONE)
            case "number":
                first = str(error).splitlines()[0]
                return CannotAnswer(f"A number on the way is too large for exact numbers, or is not one: {first}")
            case _:
                return None

    def batches(self, sql: str, stop: Stop | None = None) -> Iterator[list[tuple[Value, ...]]]:
        """All rows of a query, some thousands at a time. Raises CannotAnswer."""
        with self._cursor(stop) as cursor:
            cursor.execute(sql)
            while batch := cursor.fetchmany(_BATCH):
                yield [tuple(_known(value) for value in row) for row in batch]

    def numbers(self, sql: str) -> Ints:
        """The one column of whole numbers that a query gives."""
        with self._cursor(None) as cursor:
            found = cursor.execute(sql).fetchnumpy()
            return np.asarray(next(iter(found.values())), dtype=np.int64)

    def path(self, table: str) -> Path:
        """The file that a table's rows stand in."""
        return self.parquet[table]

    def numbered(self, table: str) -> str:
        """A table as a relation whose `file_row_number` counts its rows from 0."""
        return f"read_parquet({literal(str(self.parquet[table]))}, file_row_number=true)"

    def column(self, table: str, name: str) -> Vector:
        """All values of a column, in the file's order; recently read ones are kept."""
        with self._lock:
            found = self._cache.get((table, name))
        if found is not None:
            return found
        try:
            vector = read_vector(self.parquet[table], name)
        except OSError as error:
            raise CannotAnswer(_GONE) from error
        kept = _CACHE_SHARE * self.limits.memory_gb * GIGABYTE
        with self._lock:
            while self._cache and 8 * (sum(len(v) for v in self._cache.values()) + len(vector)) > kept:
                self._cache.pop(next(iter(self._cache)))
            self._cache[(table, name)] = vector
        return vector


def _known(value: Value) -> Value:
    """NaN, which some aggregates give for want of spread, is a missing value; what is infinite overflowed."""
    if isinstance(value, float) and not isfinite(value):
        if value != value:
            return None
        raise CannotAnswer("A number grew too large to be held.", "No answer is better than a wrong one.")
    return value


def read_vector(path: Path, name: str) -> Vector:
    """A Parquet column as a vector."""
    file = pq.ParquetFile(path, read_dictionary=[name])
    column = file.read(columns=[name]).column(0)
    return vector_of(column)


def vector_of(column: pa.ChunkedArray) -> Vector:
    """An Arrow column as a vector of ours."""
    kind = column.type
    if pa.types.is_dictionary(kind) or pa.types.is_string(kind):
        return _text(column)
    array: pa.Array[Any] = column.combine_chunks()
    if isinstance(array, pa.ChunkedArray):
        array = array.chunk(0) if array.num_chunks else pa.array([], kind)
    missing = _gaps(array)
    if pa.types.is_decimal(kind):
        words = np.frombuffer(array.buffers()[1], dtype=np.int64)[
            2 * array.offset : 2 * (array.offset + len(array)) : 2
        ]
        return Vector(Type.DECIMAL, words, missing, scale=kind.scale)
    if pa.types.is_boolean(kind):
        return Vector(Type.BOOLEAN, pc.fill_null(array, False).to_numpy(zero_copy_only=False), missing)
    if pa.types.is_date(kind):
        return Vector(Type.DATE, pc.fill_null(array.cast(pa.int32()), 0).to_numpy().astype(np.int64), missing)
    if pa.types.is_timestamp(kind):
        return Vector(
            Type.TIMESTAMP, pc.fill_null(array.cast(pa.timestamp("us")).cast(pa.int64()), 0).to_numpy(), missing
        )
    if pa.types.is_time(kind):
        return Vector(Type.TIME, pc.fill_null(array.cast(pa.time64("us")).cast(pa.int64()), 0).to_numpy(), missing)
    if pa.types.is_integer(kind):
        return Vector(Type.INTEGER, pc.fill_null(array, 0).to_numpy().astype(np.int64), missing)
    return Vector(Type.FLOAT, pc.fill_null(array.cast(pa.float64()), 0.0).to_numpy(), missing)


def _text(column: pa.ChunkedArray) -> Vector:
    encoded = (
        column.unify_dictionaries()
        if pa.types.is_dictionary(column.type)
        else column.dictionary_encode().unify_dictionaries()
    )
    if not encoded.num_chunks or not len(encoded):
        return Vector(Type.TEXT, np.zeros(0, np.int64), np.zeros(0, np.bool_), words=np.array([], dtype=object))
    # All chunks share one dictionary, which Arrow sorts by bytes: the order of code points.
    dictionary = encoded.chunk(0).dictionary
    order = pc.sort_indices(dictionary)
    place = np.empty(len(dictionary), dtype=np.int64)
    place[order.to_numpy()] = np.arange(len(dictionary))
    words = np.array(dictionary.take(order).to_pylist(), dtype=object)
    codes = np.concatenate([pc.fill_null(c.indices, 0).to_numpy() for c in encoded.chunks])
    missing = no_missing(len(codes)) if not column.null_count else np.concatenate([_gaps(c) for c in encoded.chunks])
    if not len(words):
        return Vector(Type.TEXT, codes.astype(np.int64), missing, words=words)
    return Vector(Type.TEXT, place[codes], missing, words=words)


def _gaps(array: pa.Array[Any]) -> Mask:
    """Where an array is null."""
    if not array.null_count:
        return no_missing(len(array))
    return np.asarray(pc.is_null(array).to_numpy(zero_copy_only=False), dtype=np.bool_)
