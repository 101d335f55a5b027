"""Reading a table's file by pandas, the way it was read when it was brought in: only the columns that are wanted."""

from __future__ import annotations

import functools
import keyword
from collections.abc import Collection
from typing import assert_never

from gumption.core.model.catalogue import Column, Table
from gumption.core.model.files import CellReading, FileReading
from gumption.core.model.types import Type

_ISO = ("%Y-%m-%d", "%Y-%m-%d %H:%M:%S", "%Y-%m-%dT%H:%M:%S", "%Y-%m-%d %H:%M")
_HELD = {Type.DATE: "datetime64[us]", Type.DECIMAL: "float"}
"""What pandas works with, of types that it reads from Parquet as objects."""
_TAKEN = frozenset(["#N/A", "#NA", "<NA>", "N/A", "NA", "NULL", "NaN", "n/a", "nan", "null"])
"""Of the words that say missing here those that pandas takes so by itself."""
_UTF8 = ("utf-8", "utf-8-sig")


def load_lines(table: Table, reading: FileReading, wanted: Collection[str]) -> list[str]:
    """The lines that read the wanted columns of a table, as its file was read when it was brought in."""
    frame = frame_name(table.name)
    if reading.kind == "cleaned":
        picked = [c for c in table.columns if c.name in wanted]
        kinds = {c.name: _HELD[c.type] for c in picked if c.type in _HELD}
        return [
            f"# The cleaned table, as Tables gives it out; {reading.file} itself takes more reading than a few lines.",
            f"{frame} = pd.read_parquet(FOLDER / {table.name + '.parquet'!r}, columns={[c.name for c in picked]!r})"
            + (f".astype({kinds!r})" if kinds else ""),
        ]
    made = [c for c in reading.columns if c.parts and c.name in wanted]
    needed = {*wanted, *(part for c in made for _, part in c.parts)}
    written = [c for c in reading.columns if not c.parts]
    columns = [c for c in written if c.name in needed]
    # Rows that are empty or none of the table are counted over all columns.
    whole = reading.empty_rows or bool(reading.dropped_rows)
    read = written if whole else columns
    lines = [_read(table, reading, frame, read)]
    if reading.empty_rows:
        lines.append(f"{frame} = {frame}.dropna(how='all').reset_index(drop=True)")
    if reading.dropped_rows:
        lines.append(f"{frame} = {frame}.drop(index={sorted(reading.dropped_rows)!r})  # {reading.dropped_why}s")
    for column in columns:
        if (code := _typed(column, reading, frame, table)) is not None:
            lines.append(f"{frame}[{column.name!r}] = {code}")
    lines += [f"{frame}[{c.name!r}] = {_put_together(c, frame, table)}" for c in made]
    kept = [c.name for c in (*columns, *made) if c.name in wanted]
    if (whole and len(columns) < len(read)) or len(kept) < len(columns) + len(made):
        lines.append(f"{frame} = {frame}[{kept!r}]")
    return lines


def _put_together(column: CellReading, frame: str, table: Table) -> str:
    """The date that other columns tell in parts."""
    told = {unit: f"{frame}[{name!r}]" for unit, name in column.parts}
    for unit, name in column.parts:
        if table.column(name).type is Type.TEXT:
            told[unit] += f".map({dict(column.words)!r})"
    if "week" in told:
        week = f"{told['week']}.astype('Int64').astype('string').str.zfill(2)"
        weeks = f"{told['year']}.astype('Int64').astype('string') + '-W' + {week} + '-1'"
        return f"pd.to_datetime({weeks}, format='%G-W%V-%u', errors='coerce')"
    month = told.get("month", f"3 * {told.get('quarter')} - 2")
    parts = f"{{'year': {told['year']}, 'month': {month}, 'day': {told.get('day', 1)}}}"
    return f"pd.to_datetime(pd.DataFrame({parts}), errors='coerce')"


def _read(table: Table, reading: FileReading, frame: str, columns: list[CellReading]) -> str:
    """The call that reads the file."""
    options = [f"FOLDER / {reading.file!r}"]
    every = len(columns) == sum(not c.parts for c in reading.columns)
    names = [c.name for c in columns]
    if reading.kind == "workbook":
        options.append(f"sheet_name={reading.sheet!r}")
    elif reading.delimiter != ",":
        options.append(f"sep={reading.delimiter!r}")
    above = reading.skip_rows - reading.named
    options += [f"skiprows={above}"] if above else []
    if reading.named:
        options += [] if every else [f"usecols={names!r}"]
    else:
        options += ["header=None", f"names={names!r}", f"usecols={[c.place for c in columns]!r}"]
    options += _missing(reading)
    if reading.kind == "workbook":
        return f"{frame} = pd.read_excel({', '.join(options)}, engine='calamine')"
    if reading.encoding not in _UTF8:
        options.append(f"encoding={reading.encoding!r}")
    texts = [c.name for c in columns if _as_text(c, reading, table)]
    if texts:
        options.append(f"dtype={dict.fromkeys(texts, str)!r}".replace("<class 'str'>", "str"))
    dates = [c.name for c in columns if _is_plain_date(c, reading)]
    return f"{frame} = pd.read_csv({', '.join(options)}{f', parse_dates={dates!r}' if dates else ''})"


def _missing(reading: FileReading) -> list[str]:
    """What is said of the words for missing values: nothing where pandas takes them so."""
    words = [w for w in reading.missing_words if w]
    if reading.keeps_words or reading.kind == "workbook":
        return ["keep_default_na=False", f"na_values={['', *words]!r}"]
    further = [w for w in words if w not in _TAKEN]
    return [f"na_values={further!r}"] if further else []


def _is_odd(column: CellReading, reading: FileReading) -> bool:
    return column.odd or bool(reading.dropped_rows)


def _is_marked(column: CellReading) -> bool:
    """True for numbers that pandas does not know as they are written."""
    return bool(column.strip or column.thousands or column.decimal_comma)


def _is_plain_date(column: CellReading, reading: FileReading) -> bool:
    return column.type.is_time and column.date_format in _ISO and not _is_odd(column, reading) and not reading.padded


def _as_text(column: CellReading, reading: FileReading, table: Table) -> bool:
    """True where cells must be read as the text that they are, and not as what they look like."""
    if column.type.is_time or (column.type.is_number and not _is_marked(column)):
        return False
    return (
        column.type is not Type.TEXT or reading.dropped_rows != () or _may_look_like_numbers(table.column(column.name))
    )


def _may_look_like_numbers(column: Column) -> bool:
    """True unless every one of the column's values is known, and none is a number or true or false."""
    return len(column.values) < column.distinct or _any_is_number_or_truth(column.values)


@functools.lru_cache(maxsize=500)
def _any_is_number_or_truth(values: tuple[str, ...]) -> bool:
    return any(map(_is_number_or_truth, values))


def _is_number_or_truth(text: str) -> bool:
    try:
        float(text.replace("_", "x"))
    except ValueError:
        return text.lower() in ("true", "false")
    return True


def _typed(column: CellReading, reading: FileReading, frame: str, table: Table) -> str | None:
    """The column made what it is; None where it is read so."""
    cell = f"{frame}[{column.name!r}]"
    book = reading.kind == "workbook"
    text = f"{cell}.astype(object)" if book else cell
    match column.type:
        case Type.TEXT:
            if book:
                return f"{cell}.map(lambda v: v if pd.isna(v) else str(v).strip())"
            return f"{cell}.str.strip()" if reading.padded else None
        case Type.INTEGER | Type.DECIMAL | Type.FLOAT:
            if not _is_marked(column):
                return f"pd.to_numeric({text}, errors='coerce')" if _is_odd(column, reading) or book else None
            text += ".astype(str)" if book else ""
            for mark in column.strip:
                text += f".str.replace({mark!r}, '', regex=False)"
            if column.thousands:
                text += f".str.replace({column.thousands!r}, '', regex=False)"
            if column.decimal_comma:
                text += ".str.replace(',', '.', regex=False)"
            return f"pd.to_numeric({text}, errors='coerce')"
        case Type.BOOLEAN:
            text += ".astype(str)" if book else ""
            return f"{text}.str.strip().str.lower().map({dict(column.booleans)!r})"
        case Type.DATE | Type.TIMESTAMP:
            if not book and _is_plain_date(column, reading):
                return None
            style = f", format={column.date_format!r}" if column.date_format else ""
            return f"pd.to_datetime({text}{style}, errors='coerce')"
        case Type.TIME | Type.DURATION:
            raise AssertionError(f"{table.name}.{column.name} is read from the cleaned table")
        case _:
            assert_never(column.type)


def frame_name(table: str) -> str:
    """A name for a table's frame that Python takes."""
    cleaned = "".join(c if c.isalnum() and c.isascii() else "_" for c in table.lower()).strip("_") or "table"
    if keyword.iskeyword(cleaned) or cleaned in _SPOKEN_FOR:
        return f"{cleaned}_table"
    return cleaned if not cleaned[0].isdigit() else f"t_{cleaned}"


_SPOKEN_FOR = frozenset(
    [
        "absent",
        "answer",
        "before",
        "crossed",
        "datetime",
        "each",
        "earlier",
        "groups",
        "held",
        "high",
        "known",
        "low",
        "matched",
        "np",
        "ntile",
        "pd",
        "re",
        "related",
        "rows",
        "wanted",
        "whole",
        "whole_months",
        "working_days",
    ]
)
"""Names that a script has another use for."""
