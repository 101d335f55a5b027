"""Large, clean text files in one pass: a sample proposes the types, and the reader of the file holds every row to them.

Anything that does not fit (a word among numbers, a ragged line, a total at the foot) gives None, and the file is read
the thorough way instead, so that speed never decides what a column is.
"""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Literal

import duckdb
import pyarrow.parquet as pq

from gumption.core.model.types import Type
from gumption.intake.cells import kind_of
from gumption.intake.column import Kind
from gumption.intake.missing import MISSING_WORDS
from gumption.intake.sql import literal, quoted

_TOTAL_CELL = r"(^|\|)((grand\s+|over\s?all\s+)?(sub)?totals?:?|sum:?)(\||$)"
_SAMPLE_ROWS = 20_000
_SPARE_DIGITS = 4
"""Digits read behind those of the sample, so that a longer number is noticed rather than rounded."""


def read_fast(
    connection: duckdb.DuckDBPyConnection,
    source: Path,
    delimiter: str,
    has_quotes: bool,
    names: list[str],
    skip: int,
    parquet: Path,
) -> dict[str, Kind] | None:
    """Write the file's rows to `parquet`; the columns' kinds, or None where it needs the thorough way.

    Taking blanks off and looking for every word that says missing costs as much again as reading, so the first try leaves
    them to a look at what was written; only where that finds some are they taken off.
    """
    options = (
        f"delim={literal(delimiter)}, quote={literal(chr(34) if has_quotes else '')}, "
        f"escape={literal(chr(34) if has_quotes else '')}, header=false, skip={skip}, auto_detect=false"
    )
    path = literal(str(source))
    texts = "{" + ", ".join(f"'c{i}': 'VARCHAR'" for i in range(len(names))) + "}"
    try:
        connection.execute(
            f"CREATE TABLE sample AS SELECT * FROM read_csv({path}, {options}, columns={texts}) LIMIT {_SAMPLE_ROWS}"
        )
        kinds = {name: kind_of(connection, "sample", f"c{i}") for i, name in enumerate(names)}
        used = _words_used(connection, len(names))
        different = ", ".join(f"approx_count_distinct(c{i}) < 2000" for i in range(len(names)))
        repeats = connection.execute(f"SELECT {different} FROM sample").fetchone() or ()
        connection.execute("DROP TABLE sample")
        if not all(map(_certain, kinds.values())):
            return None
        columns = "{" + ", ".join(f"'c{i}': '{_read_as(kind)}'" for i, kind in enumerate(kinds.values())) + "}"
        for careful in (False, True):
            words = MISSING_WORDS if careful else used
            missing = "[" + ", ".join(map(literal, words)) + "]"
            selected = ", ".join(
                f"{_value(f'c{i}', kind, careful, repeats[i])} AS {quoted(name)}"
                for i, (name, kind) in enumerate(kinds.items())
            )
            cells = ", ".join(
                f"c{i}" if _read_natively(kind) else f"trim(c{i}) AS c{i}" for i, kind in enumerate(kinds.values())
            )
            read = f"(SELECT {cells} FROM read_csv({path}, {options}, columns={columns}, nullstr={missing}))"
            connection.execute(f"COPY (SELECT {selected} FROM {read}) TO {literal(str(parquet))} (FORMAT parquet)")
            found = _found(connection, parquet, kinds, repeats)
            if found == "nothing":
                break
            if found == "rows" or careful:
                parquet.unlink()
                return None
    except duckdb.Error:
        # Not every row is as the sample was; the thorough way finds out which.
        parquet.unlink(missing_ok=True)
        return None
    # The rows that notes count are those of the sample, so they are not told.
    return {
        name: replace(kind, bad=0, notes=tuple(n.model_copy(update={"rows": 0}) for n in kind.notes))
        for name, kind in kinds.items()
    }


def _certain(kind: Kind) -> bool:
    """True for kinds whose SQL says all there is to them, and whose sample left nothing open."""
    return kind.simple and not kind.bad and not kind.undecided and kind.type not in (Type.TIME, Type.DURATION)


def _read_natively(kind: Kind) -> bool:
    """True for columns that the file's reader types by itself."""
    iso = kind.date_format in (None, "%Y-%m-%d", "%Y-%m-%d %H:%M:%S")
    marked = kind.strip or kind.thousands or kind.decimal_comma
    return not marked and iso and {word for word, _ in kind.booleans} <= {"true", "false"}


def _read_as(kind: Kind) -> str:
    if not _read_natively(kind):
        return "VARCHAR"
    match kind.type:
        case Type.INTEGER:
            return "BIGINT"
        case Type.DECIMAL:
            return f"DECIMAL(18, {kind.scale + _SPARE_DIGITS})"
        case Type.FLOAT:
            return "DOUBLE"
        case Type.TEXT:
            return "VARCHAR"
        case Type.TIMESTAMP if kind.date_format is None:
            return "VARCHAR"
        case Type.BOOLEAN | Type.DATE | Type.TIMESTAMP | Type.TIME | Type.DURATION:
            return kind.type.value.upper()


def _value(cell: str, kind: Kind, careful: bool, repeats: bool) -> str:
    """SQL that stops the reading where a value is not as the sample's were."""
    if kind.type is Type.TEXT:
        # Values that repeat are looked at afterwards, each once; trimming the others is cheaper than looking.
        return f"NULLIF(trim({cell}, ' \t\u00a0'), '')" if careful else cell if repeats else f"trim({cell})"
    if kind.type is Type.DECIMAL:
        wide = cell
        if not _read_natively(kind):
            wide = _sure(cell, kind.sql.replace(f"DECIMAL(18, {kind.scale})", f"DECIMAL(18, {kind.scale + 4})"))
        exact = f"CAST({wide} AS DECIMAL(18, {kind.scale}))"
        return f"CASE WHEN {wide} = {exact} OR {wide} IS NULL THEN {exact} ELSE CAST(error('more digits') AS DECIMAL(18, {kind.scale})) END"
    return cell if _read_natively(kind) else _sure(cell, kind.sql)


def _sure(cell: str, sql: str) -> str:
    return f"CASE WHEN {cell} IS NULL OR {cell} = '' OR {sql} IS NOT NULL THEN {sql} ELSE error('odd value') END"


def _words_used(connection: duckdb.DuckDBPyConnection, width: int) -> tuple[str, ...]:
    """The words of the sample that say missing, and the empty one."""
    cells = " UNION ".join(f"SELECT c{i} AS v FROM sample" for i in range(width))
    listed = ", ".join(map(literal, MISSING_WORDS))
    rows = connection.execute(f"SELECT v FROM ({cells}) WHERE v IN ({listed}) AND v <> ''").fetchall()
    return ("", *(str(r[0]) for r in rows))


def _found(
    connection: duckdb.DuckDBPyConnection, parquet: Path, kinds: dict[str, Kind], repeats: tuple[bool, ...]
) -> Literal["nothing", "blanks", "rows"]:
    """Rows that are empty or totals; or cells of text with blanks around them or a word that says missing."""
    source = f"read_parquet({literal(str(parquet))})"
    metadata = pq.ParquetFile(parquet).metadata
    gaps = [
        sum(metadata.row_group(g).column(i).statistics.null_count or 0 for g in range(metadata.num_row_groups))
        for i in range(metadata.num_columns)
    ]
    if all(gaps):
        empty = " AND ".join(f"{quoted(name)} IS NULL" for name in kinds)
        row = connection.execute(f"SELECT count(*) FROM {source} WHERE {empty}").fetchone()
        if row and row[0]:
            return "rows"
    first = ", ".join(f"CAST({quoted(name)} AS VARCHAR)" for name in list(kinds)[:2])
    tail = f"SELECT concat_ws('|', {first}) AS t FROM {source} LIMIT 3 OFFSET {max(metadata.num_rows - 3, 0)}"
    row = connection.execute(
        f"SELECT count(*) FROM ({tail}) WHERE regexp_matches(t, {literal(_TOTAL_CELL)}, 'i')"
    ).fetchone()
    if row and row[0]:
        return "rows"
    words = ", ".join(map(literal, MISSING_WORDS))
    for place, (name, kind) in enumerate(kinds.items()):
        if kind.type is not Type.TEXT:
            continue
        # Most blanks sort before the exclamation mark. Asked one by one, these are answered from the file's statistics.
        tests = [f"SELECT 1 FROM {source} WHERE {quoted(name)} {odd} LIMIT 1" for odd in ("< '!'", f"IN ({words})")]
        if repeats[place]:
            values = f"(SELECT DISTINCT {quoted(name)} AS t FROM {source})"
            tests.append(f"SELECT 1 FROM {values} WHERE t LIKE '% ' OR t LIKE '%\t' OR t LIKE '%\u00a0' LIMIT 1")
        if any(connection.execute(test).fetchone() is not None for test in tests):
            return "blanks"
    return "nothing"
