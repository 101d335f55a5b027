"""Reading a table's file by pandas, the way it was read when it was brought in."""

from __future__ import annotations

from typing import assert_never

from gumption.core.model.files import FileReading
from gumption.core.model.types import Type


def load_lines(table: str, reading: FileReading) -> list[str]:
    """The lines that read a table, as its file was read when it was brought in."""
    frame = frame_name(table)
    if reading.kind == "cleaned":
        return [
            f"# The cleaned table, as Tables gives it out; {reading.file} itself takes more reading than a few lines.",
            f"{frame} = pd.read_parquet({table + '.parquet'!r})",
        ]
    options = [repr(reading.file)]
    if reading.kind == "delimited":
        options += [f"sep={reading.delimiter!r}", f"encoding={reading.encoding!r}", f"skiprows={reading.skip_rows}"]
        options += ["header=None", f"names={[c.name for c in reading.columns]!r}", "dtype=str"]
        options += ["keep_default_na=False", f"na_values={list(reading.missing_words)!r}"]
        if not reading.quoted:
            options.append("quoting=3")
        lines = [f"{frame} = pd.read_csv({', '.join(options)})"]
    else:
        options += [f"sheet_name={reading.sheet!r}", f"skiprows={reading.skip_rows}", "header=None"]
        options += [f"usecols={[c.place for c in reading.columns]!r}", "engine='calamine'"]
        options += [f"na_values={list(reading.missing_words)!r}", "keep_default_na=False"]
        lines = [f"{frame} = pd.read_excel({', '.join(options)})"]
        lines.append(f"{frame}.columns = {[c.name for c in reading.columns]!r}")
    lines.append(f"{frame} = {frame}.dropna(how='all').reset_index(drop=True)")
    for row in sorted(reading.dropped_rows, reverse=True):
        lines.append(f"{frame} = {frame}.drop(index={row}).reset_index(drop=True)  # {reading.dropped_why}")
    for column in reading.columns:
        cell = f"{frame}[{column.name!r}]"
        text = cell if reading.kind == "delimited" else f"{cell}.astype(object)"
        match column.type:
            case Type.TEXT:
                if reading.kind == "delimited":
                    lines.append(f"{cell} = {cell}.str.strip()")
                else:
                    lines.append(f"{cell} = {cell}.map(lambda v: v if pd.isna(v) else str(v).strip())")
            case Type.INTEGER | Type.DECIMAL | Type.FLOAT:
                if column.strip or column.decimal_comma or column.thousands:
                    text += ".astype(str)"
                for mark in column.strip:
                    text += f".str.replace({mark!r}, '', regex=False)"
                if column.thousands:
                    text += f".str.replace({column.thousands!r}, '', regex=False)"
                if column.decimal_comma:
                    text += ".str.replace(',', '.', regex=False)"
                lines.append(f"{cell} = pd.to_numeric({text}, errors='coerce')")
            case Type.BOOLEAN:
                lines.append(f"{cell} = {text}.astype(str).str.strip().str.lower().map({dict(column.booleans)!r})")
            case Type.DATE | Type.TIMESTAMP:
                style = f", format={column.date_format!r}" if column.date_format else ""
                lines.append(f"{cell} = pd.to_datetime({text}{style}, errors='coerce')")
            case Type.TIME | Type.DURATION:
                raise AssertionError(f"{table}.{column.name} is read from the cleaned table")
            case _:
                assert_never(column.type)
    return lines


def frame_name(table: str) -> str:
    """A name for a table's frame that Python takes."""
    cleaned = "".join(c if c.isalnum() and c.isascii() else "_" for c in table.lower()).strip("_") or "table"
    return cleaned if not cleaned[0].isdigit() else f"t_{cleaned}"
