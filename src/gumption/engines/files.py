"""An answer as Parquet, or as JSON."""

from __future__ import annotations

import datetime as dt
import json
from collections.abc import Iterable, Sequence
from decimal import Decimal
from pathlib import Path

import pyarrow as pa
import pyarrow.parquet as pq

from gumption.core.model.types import Type, Value
from gumption.core.plan.fields import Field, Schema
from gumption.engines.answering import json_value

Rows = Iterable[Sequence[Sequence[Value]]]
"""Rows, some at a time."""


def write_json(path: Path, schema: Schema, batches: Rows) -> None:
    """All rows of an answer as a list of objects, in JSON: exact decimals as numbers, times as ISO text."""
    names = list(schema)
    with path.open("w", encoding="utf-8") as file:
        file.write("[")
        begun = False
        for rows in batches:
            for row in rows:
                told = {name: json_value(value) for name, value in zip(names, row, strict=True)}
                file.write((",\n" if begun else "\n") + json.dumps(told, ensure_ascii=False))
                begun = True
        file.write("\n]\n")


def write_parquet(path: Path, schema: Schema, batches: Rows) -> None:
    """All rows of an answer as Parquet, with the types that they have."""
    kinds = pa.schema([(name, _arrow(field)) for name, field in schema.items()])
    with pq.ParquetWriter(path, kinds) as writer:
        for rows in batches:
            columns = [
                pa.array([_as_arrow(row[place], field) for row in rows], kind.type)
                for place, (field, kind) in enumerate(zip(schema.values(), kinds, strict=True))
            ]
            writer.write_table(pa.Table.from_arrays(columns, schema=kinds))


def _arrow(field: Field) -> pa.DataType:
    match field.type:
        case Type.INTEGER:
            return pa.int64()
        case Type.DECIMAL:
            return pa.decimal128(38, field.scale)
        case Type.FLOAT:
            return pa.float64()
        case Type.BOOLEAN:
            return pa.bool_()
        case Type.DATE:
            return pa.date32()
        case Type.TIMESTAMP:
            return pa.timestamp("us")
        case Type.TIME:
            return pa.time64("us")
        case Type.DURATION:
            return pa.duration("us")
        case Type.TEXT:
            return pa.string()


def _as_arrow(value: Value, field: Field) -> object:
    if value is None:
        return None
    if field.type is Type.DURATION and isinstance(value, (int, float, Decimal)):
        return dt.timedelta(seconds=float(value))
    if field.type is Type.DATE and isinstance(value, dt.datetime):
        return value.date()
    if field.type is Type.DECIMAL and isinstance(value, (int, Decimal)):
        return Decimal(value)
    return value
