"""An answer as a file that other programs open: a workbook with its proof, or Parquet."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable, Sequence
from decimal import Decimal
from pathlib import Path
from typing import Any

import pyarrow as pa
import pyarrow.parquet as pq
import xlsxwriter

from gumption.core.model.types import Role, Type, Value
from gumption.core.plan.fields import Field, Schema
from gumption.core.present.numbers import currency_sign, head, is_measure
from gumption.engines.errors import CannotAnswer

Rows = Iterable[Sequence[Sequence[Value]]]
"""Rows, some at a time."""
MOST_SHEET_ROWS = 1_048_575
"""Rows that a sheet has below its head."""
_TABLE_CELLS = 300_000
"""Cells up to which the rows are a table of the workbook; more are plain cells, which are written as they come."""
_WIDEST, _NARROWEST = 60, 8
_LOOKED_AT = 200


def write_workbook(path: Path, schema: Schema, batches: Rows, total: int, proof: Sequence[tuple[str, str]]) -> None:
    """The answer on one sheet with number formats, and on a second one what proves it. Raises CannotAnswer."""
    if total > MOST_SHEET_ROWS:
        raise CannotAnswer(f"A sheet holds {MOST_SHEET_ROWS:,} rows.", "Save it as CSV or Parquet.", found=total)
    as_table = total * len(schema) <= _TABLE_CELLS and total > 0
    # What looks like a formula, a link or a number stays the text that it is.
    plain = {"strings_to_formulas": False, "strings_to_urls": False, "strings_to_numbers": False}
    with xlsxwriter.Workbook(
        str(path), {"constant_memory": not as_table, "default_date_format": "dd mmm yyyy", **plain}
    ) as book:
        sheet = book.add_worksheet("Answer")
        bold = book.add_format({"bold": True, "bottom": 1})
        heads = _heads(schema)
        formats = [book.add_format({"num_format": shown}) if (shown := _format(f)) else None for f in schema.values()]
        widths = [len(text) + 2 for text in heads]
        for place, text in enumerate(heads):
            sheet.write_string(0, place, text, bold)
        number = 0
        for rows in batches:
            for row in rows:
                number += 1
                for place, (value, field, form) in enumerate(zip(row, schema.values(), formats, strict=True)):
                    _write(sheet, number, place, value, field, form)
                    if number <= _LOOKED_AT and value is not None:
                        widths[place] = max(widths[place], min(len(str(value)) + 2, _WIDEST))
        for place, width in enumerate(widths):
            sheet.set_column(place, place, max(width, _NARROWEST))
        sheet.freeze_panes(1, 0)
        if as_table:
            columns = [{"header": text} for text in heads]
            sheet.add_table(0, 0, number, len(heads) - 1, {"columns": columns, "style": "Table Style Light 1"})
        about = book.add_worksheet("Proof")
        about.set_column(0, 0, 18)
        about.set_column(1, 1, 110)
        label = book.add_format({"bold": True})
        for line, (what, words) in enumerate(proof):
            about.write_string(line, 0, what, label if what else None)
            about.write_string(line, 1, words)


def _heads(schema: Schema) -> list[str]:
    """The columns' heads, each once: a table of a workbook has no two alike, whatever their capitals."""
    heads: list[str] = []
    for name, field in schema.items():
        text, number = head(name, field), 2
        while text.lower() in {h.lower() for h in heads}:
            text, number = f"{head(name, field)} {number}", number + 1
        heads.append(text)
    return heads


def _format(field: Field) -> str:
    """How a workbook shows a column; none for texts."""
    match field.type:
        case Type.DATE:
            return {"month": "mmm yyyy", "year": "yyyy"}.get(field.grain or "", "dd mmm yyyy")
        case Type.TIMESTAMP:
            return "dd mmm yyyy hh:mm"
        case Type.TIME:
            return "hh:mm:ss"
        case Type.DURATION:
            return "[h]:mm:ss"
        case Type.INTEGER | Type.DECIMAL | Type.FLOAT:
            if not is_measure(field):
                return "0"
            if field.role is Role.PERCENTAGE and field.type is Type.FLOAT and field.unit is None:
                return "0.0%"
            digits = "" if field.type is Type.INTEGER else ".00"
            sign = currency_sign((field.unit or "").partition(" ")[0])
            return f'"{sign}"#,##0{digits}' if sign else f"#,##0{digits}"
        case _:
            return ""


def _write(sheet: Any, row: int, column: int, value: Value, field: Field, form: Any) -> None:
    match value:
        case None:
            return
        case bool():
            sheet.write_boolean(row, column, value)
        case int() | float() | Decimal():
            # A workbook counts time in days, and numbers in floats.
            number = float(value) / 86_400 if field.type is Type.DURATION else float(value)
            if abs(number) < 2**53:
                sheet.write_number(row, column, number, form)
            else:
                sheet.write_string(row, column, str(value))
        case dt.datetime() | dt.date() | dt.time():
            # Workbooks know no day before 1900.
            if isinstance(value, dt.time) or value.year >= 1900:
                sheet.write_datetime(row, column, value, form)
            else:
                sheet.write_string(row, column, str(value))
        case _:
            sheet.write_string(row, column, str(value)[:32_767])


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
