"""Large, clean text files in one pass: a sample proposes the types, and the reader of the file holds every row to them.

Anything that does not fit (a word among numbers, a ragged line, a total at the foot) gives None, and the file is read
the thorough way instead, so that speed never decides what a column is.
"""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import duckdb

from gumption.core.model.types import Type
from gumption.intake.cells import MISSING_WORDS, Kind, kind_of
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
    """Write the file's rows to `parquet`; the columns' kinds, or None where it needs the thorough way."""
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
        connection.execute("DROP TABLE sample")
        if not all(map(_plain, kinds.values())):
            return None
        columns = "{" + ", ".join(f"'c{i}': '{_read_as(kind)}'" for i, kind in enumerate(kinds.values())) + "}"
        missing = "[" + ", ".join(map(literal, MISSING_WORDS)) + "]"
        selected = ", ".join(
            f"{_value(f'c{i}', kind)} AS {quoted(name)}" for i, (name, kind) in enumerate(kinds.items())
        )
        read = f"read_csv({path}, {options}, columns={columns}, nullstr={missing})"
        connection.execute(f"COPY (SELECT {selected} FROM {read}) TO {literal(str(parquet))} (FORMAT parquet)")
    except duckdb.Error:
        # Not every row is as the sample was; the thorough way finds out which.
        parquet.unlink(missing_ok=True)
        return None
    if _needs_a_look(connection, parquet, kinds):
        parquet.unlink(missing_ok=True)
        return None
    return {name: replace(kind, bad=0) for name, kind in kinds.items()}


def _plain(kind: Kind) -> bool:
    """True for columns that the file's reader types by itself, and whose sample left nothing open."""
    iso = kind.date_format in (None, "%Y-%m-%d", "%Y-%m-%d %H:%M:%S")
    words = tuple(word for word, _ in kind.booleans)
    return (
        not (kind.strip or kind.thousands or kind.decimal_comma or kind.bad or kind.undecided or not kind.simple)
        and kind.type not in (Type.TIME, Type.DURATION)
        and iso
        and words in ((), ("true", "false"))
    )


def _read_as(kind: Kind) -> str:
    match kind.type:
        case Type.INTEGER:
            return "BIGINT"
        case Type.DECIMAL:
            return f"DECIMAL(18, {kind.scale + _SPARE_DIGITS})"
        case Type.FLOAT:
            return "DOUBLE"
        case Type.TEXT:
            return "VARCHAR"
        case Type.BOOLEAN | Type.DATE | Type.TIMESTAMP | Type.TIME | Type.DURATION:
            return kind.type.value.upper()


def _value(cell: str, kind: Kind) -> str:
    if kind.type is Type.TEXT:
        return f"NULLIF(trim({cell}), '')"
    if kind.type is Type.DECIMAL:
        exact = f"CAST({cell} AS DECIMAL(18, {kind.scale}))"
        return f"CASE WHEN {cell} = {exact} OR {cell} IS NULL THEN {exact} ELSE CAST(error('more digits') AS DECIMAL(18, {kind.scale})) END"
    return cell


def _needs_a_look(connection: duckdb.DuckDBPyConnection, parquet: Path, kinds: dict[str, Kind]) -> bool:
    """True where a row is wholly empty, or one of the last says it is a total."""
    source = f"read_parquet({literal(str(parquet))})"
    empty = " AND ".join(f"{quoted(name)} IS NULL" for name in kinds)
    # Trimming spaces is quick, other blanks are not; the rare text that ends in one is left to the thorough way.
    texts = [quoted(name) for name, kind in kinds.items() if kind.type is Type.TEXT]
    blanks = [f"{text} LIKE '{mark}'" for text in texts for mark in ("\t%", "%\t", "\u00a0%", "%\u00a0")]
    odd = " OR ".join([f"({empty})", *blanks])
    found = connection.execute(f"SELECT count(*), count(*) FILTER (WHERE {odd}) FROM {source}").fetchone()
    assert found is not None
    if found[1]:
        return True
    first = ", ".join(f"CAST({quoted(name)} AS VARCHAR)" for name in list(kinds)[:2])
    tail = f"SELECT concat_ws('|', {first}) AS t FROM {source} LIMIT 3 OFFSET {max(int(found[0]) - 3, 0)}"
    hits = connection.execute(
        f"SELECT count(*) FROM ({tail}) WHERE regexp_matches(t, {literal(_TOTAL_CELL)}, 'i')"
    ).fetchone()
    return bool(hits and hits[0])
