"""Columns that come typed, from Parquet or from tables of ours, as columns of our types."""

from __future__ import annotations

from gumption.core.model.types import Type
from gumption.intake.column import Kind
from gumption.intake.sql import quoted


def native_sql(cell: str, kind: str) -> str:
    """SQL for a typed column of another program as one of our types."""
    if kind in ("TINYINT", "SMALLINT", "INTEGER", "BIGINT", "UTINYINT", "USMALLINT", "UINTEGER"):
        return f"CAST({cell} AS BIGINT)"
    if kind in ("HUGEINT", "UBIGINT", "UHUGEINT"):
        return f"TRY_CAST({cell} AS BIGINT)"
    if kind in ("FLOAT", "DOUBLE"):
        return f"CASE WHEN isfinite({cell}) THEN CAST({cell} AS DOUBLE) END"
    if kind.startswith("DECIMAL"):
        scale = int(kind.rstrip(")").split(",")[1])
        return f"TRY_CAST({cell} AS DECIMAL(18, {scale}))" if scale <= 6 else f"CAST({cell} AS DOUBLE)"
    if kind.startswith("TIMESTAMP WITH"):
        return f"CAST({cell} AT TIME ZONE 'UTC' AS TIMESTAMP)"
    if kind.startswith("TIMESTAMP"):
        return f"CAST({cell} AS TIMESTAMP)"
    if kind == "INTERVAL":
        return f"epoch({cell})"
    if kind in ("BOOLEAN", "DATE", "TIME"):
        return cell
    return f"CAST({cell} AS VARCHAR)"


def native_kind(cell: str, kind: str) -> Kind:
    """The kind of a column that came typed, after `native_sql`."""
    sql = quoted(cell)
    if kind.startswith("DECIMAL"):
        scale = int(kind.rstrip(")").split(",")[1])
        return Kind(Type.DECIMAL, sql, scale=scale, simple=False) if scale <= 6 else Kind(Type.FLOAT, sql, simple=False)
    if "INT" in kind and kind != "INTERVAL":
        return Kind(Type.INTEGER, sql, simple=False)
    if kind.startswith("TIMESTAMP"):
        return Kind(Type.TIMESTAMP, sql, simple=False)
    types = {"FLOAT": Type.FLOAT, "DOUBLE": Type.FLOAT, "BOOLEAN": Type.BOOLEAN, "DATE": Type.DATE, "TIME": Type.TIME}
    return Kind({**types, "INTERVAL": Type.DURATION}.get(kind, Type.TEXT), sql, simple=False)
