"""Relationships between tables, found by names, types and the values themselves."""

from __future__ import annotations

from pathlib import Path

import duckdb

from gumption.core.model.catalogue import Column, Relationship, Table
from gumption.core.model.types import Role, Type
from gumption.intake.roles import parts_of
from gumption.intake.sql import literal, quoted

_SURE, _NAMED = 0.9, 0.5
"""Shares of different values that must find a partner: without and with a likeness of names."""
_FEW = 3


def relate(tables: list[Table], parquet: dict[str, Path]) -> list[Relationship]:
    """Every many-to-one and one-to-one relationship between the tables, surest first."""
    found: list[Relationship] = []
    with duckdb.connect() as connection:
        for other in tables:
            for key in other.columns:
                if not _could_be_key(key, other):
                    continue
                for table in tables:
                    candidates = [c for c in table.columns if _could_point(c, table, key, other)]
                    found.extend(r for c in candidates if (r := _measured(connection, table, c, other, key, parquet)))
    return _best(found, {t.name: t for t in tables})


def linked(table: Table, relationships: list[Relationship]) -> Table:
    """The table with the columns that point elsewhere marked as links."""
    pointing = {r.column for r in relationships if r.table == table.name}
    columns = tuple(
        c.model_copy(update={"role": Role.LINK}) if c.name in pointing and c.role is not Role.IDENTIFIER else c
        for c in table.columns
    )
    return table.model_copy(update={"columns": columns})


def _could_be_key(column: Column, table: Table) -> bool:
    return (
        column.type in (Type.TEXT, Type.INTEGER)
        and column.distinct >= _FEW
        and column.distinct >= 0.999 * (table.rows - column.missing)
        and column.missing <= 0.01 * table.rows
        and column.role in (Role.IDENTIFIER, Role.NAME, Role.CODE, Role.CATEGORY)
    )


def _alike(column: Column, key: Column, other: Table) -> bool:
    a, b, t = parts_of(column.name), parts_of(key.name), parts_of(other.name)
    if "".join(a) == "".join(b):
        return True
    singular = {p.rstrip("s") for p in t} | set(t)
    return bool(singular & {p.rstrip("s") for p in a})


def _could_point(column: Column, table: Table, key: Column, other: Table) -> bool:
    if column.type is not key.type or column.distinct < 2 or column.is_measure:
        return False
    if table.name == other.name:
        return (
            column.name != key.name
            and column.type is Type.TEXT
            and key.role is Role.IDENTIFIER
            and column.distinct < 0.9 * table.rows
        )
    if column.type is Type.INTEGER:
        return _alike(column, key, other) and column.role is not Role.QUANTITY
    return column.role is not Role.TEXT or _alike(column, key, other)


def _measured(
    connection: duckdb.DuckDBPyConnection,
    table: Table,
    column: Column,
    other: Table,
    key: Column,
    parquet: dict[str, Path],
) -> Relationship | None:
    if column.values and key.values and not set(column.values[:200]) & set(key.values):
        return None
    left, right = quoted(column.name), quoted(key.name)
    row = connection.execute(
        f"""SELECT count(*), count(k), sum(n), sum(CASE WHEN k IS NOT NULL THEN n ELSE 0 END)
            FROM (SELECT {left} AS v, count(*) AS n FROM read_parquet({literal(str(parquet[table.name]))}) WHERE {left} IS NOT NULL GROUP BY 1) a
            LEFT JOIN (SELECT DISTINCT {right} AS k FROM read_parquet({literal(str(parquet[other.name]))}) WHERE {right} IS NOT NULL) b ON a.v = b.k"""
    ).fetchone()
    assert row is not None
    values, matched, rows, rows_matched = (int(n or 0) for n in row)
    needed = _NAMED if _alike(column, key, other) else _SURE
    if not values or matched < 2 or matched / values < needed:
        return None
    return Relationship(
        table=table.name,
        column=column.name,
        other=other.name,
        other_column=key.name,
        match_rate=rows_matched / rows,
        unmatched=rows - rows_matched,
        one_to_one=column.distinct >= table.rows - column.missing,
    )


def _best(found: list[Relationship], tables: dict[str, Table]) -> list[Relationship]:
    """For each column and each other table the surest key; a column points at one table unless it matches others as well."""
    best: dict[tuple[str, str, str], Relationship] = {}

    def sureness(r: Relationship) -> tuple[bool, float, bool]:
        key = tables[r.other].column(r.other_column)
        return (parts_of(r.column) == parts_of(r.other_column), r.match_rate, key.role is Role.IDENTIFIER)

    for relationship in found:
        where = (relationship.table, relationship.column, relationship.other)
        if where not in best or sureness(relationship) > sureness(best[where]):
            best[where] = relationship
    return sorted(best.values(), key=lambda r: (r.table, *(not v for v in sureness(r)[:1]), -r.match_rate, r.column))
