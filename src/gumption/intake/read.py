"""A file in, typed tables out: Parquet on disk, with notes on everything found and done."""

from __future__ import annotations

import datetime as dt
import re
import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import duckdb
import pyarrow as pa
import python_calamine

from gumption.core.model.catalogue import Note, Table
from gumption.core.model.files import CellReading, FileReading
from gumption.core.model.names import free_name
from gumption.intake.cells import MISSING_WORDS, Kind, cleaned, kind_of, literal, quoted
from gumption.intake.delimited import header_place, is_header, sniff
from gumption.intake.errors import UnreadableFile
from gumption.intake.fast import WORTH_IT, read_fast
from gumption.intake.profile import profile

WORKBOOKS = (".xlsx", ".xls", ".xlsb", ".ods")
TEXTS = (".csv", ".tsv", ".txt", ".tab", ".psv")
MEMORY_LIMIT = "1GB"
_TOTAL_CELL = r"(^|\|)((grand\s+|over\s?all\s+)?(sub)?totals?:?|sum:?)(\||$)"
_TOTAL = re.compile(_TOTAL_CELL, re.I)

Progress = Callable[[str, float], None]
"""What is being done, and how far it is, 0 to 1."""


def _silent(_what: str, _share: float) -> None:
    return None


@dataclass(frozen=True)
class ReadTable:
    """A table as read: its description, how its file was read, and its rows as Parquet."""

    table: Table
    reading: FileReading
    parquet: Path


def table_name(text: str) -> str:
    """A file or sheet name as a table's name: letters, digits and underscores."""
    return re.sub(r"\W+", "_", text, flags=re.UNICODE).strip("_").lower() or "table"


def read_file(path: Path, file: str, out: Path, progress: Progress = _silent) -> list[ReadTable]:
    """Read every table of a file into Parquet files in `out`. Raises UnreadableFile; then `out` is as before."""
    ending = Path(file).suffix.lower()
    if path.stat().st_size == 0:
        raise UnreadableFile(file, "the file is empty.", "Export it again, or send another file.")
    with path.open("rb") as stream:
        magic = stream.read(8)
    workbook = magic.startswith((b"PK\x03\x04", b"\xd0\xcf\x11\xe0"))
    if not workbook and ending not in TEXTS:
        if ending in WORKBOOKS:
            raise UnreadableFile(
                file,
                "it is named as a workbook but is none.",
                "Open it in your spreadsheet program and save it as XLSX or CSV.",
            )
        raise UnreadableFile(file, f"files ending in “{ending or 'nothing'}” cannot be read.", "Send CSV or XLSX.")
    written: list[Path] = []
    with tempfile.TemporaryDirectory(dir=out) as scratch:
        try:
            if workbook:
                return _read_workbook(path, file, out, Path(scratch), written, progress)
            return [_read_text(path, file, out, Path(scratch), written, progress)]
        except BaseException:
            for parquet in written:
                parquet.unlink(missing_ok=True)
            raise


def _connect(scratch: Path) -> duckdb.DuckDBPyConnection:
    connection = duckdb.connect(str(scratch / "raw.duckdb"))
    connection.execute(f"SET memory_limit = '{MEMORY_LIMIT}'")
    connection.execute("SET enable_progress_bar = false")
    connection.execute(f"SET temp_directory = '{scratch}/spill'")
    return connection


def _column_names(header: list[str], has_header: bool) -> tuple[list[str], list[Note]]:
    names: list[str] = []
    notes: list[Note] = []
    for place, cell in enumerate(header):
        name = re.sub(r"\s+", " ", cell).strip() if has_header else ""
        if not name:
            name = f"column_{place + 1}"
        base, copy = name, 2
        while name.lower() in {n.lower() for n in names}:
            name, copy = f"{base}_{copy}", copy + 1
        if has_header and name != re.sub(r"\s+", " ", cell).strip():
            what = "had no name" if not cell.strip() else "repeats a name"
            notes.append(Note(act=f"Column {place + 1} {what} and is called {name}"))
        names.append(name)
    if not has_header:
        notes.append(Note(act="There is no header; columns are numbered", caution=True))
    return names, notes


def _read_text(path: Path, file: str, out: Path, scratch: Path, written: list[Path], progress: Progress) -> ReadTable:
    progress("Looking at the layout", 0.05)
    shape = sniff(path, file, scratch)
    names, notes = _column_names(list(shape.header), shape.has_header)
    if shape.header_row and shape.has_header:
        notes.insert(0, Note(act=_lines_above(shape.header_row), rows=shape.header_row))
    if shape.encoding != "utf-8":
        notes.append(Note(act=f"Read as {shape.encoding} text"))
    skip = shape.header_row + shape.has_header
    connection = _connect(scratch)
    try:
        columns = "{" + ", ".join(f"'c{i}': 'VARCHAR'" for i in range(len(names))) + "}"
        arguments = (
            f"delim={literal(shape.delimiter)}, quote={literal(chr(34) if shape.quoted else '')}, escape={literal(chr(34) if shape.quoted else '')}, "
            f"header=false, skip={skip}, columns={columns}, auto_detect=false, null_padding=true, strict_mode=false, "
            f"ignore_errors=true, store_rejects=true, max_line_size=20000000, new_line='{_new_line(shape.path)}'"
        )
        progress("Reading the rows", 0.15)
        reading = FileReading(
            file=file,
            kind="delimited",
            delimiter=shape.delimiter,
            encoding=_pandas_encoding(shape.encoding),
            quoted=shape.quoted,
            skip_rows=skip,
            missing_words=MISSING_WORDS,
        )
        places = list(range(len(names)))
        if shape.path.stat().st_size >= WORTH_IT and len(names) > 1:
            parquet = _free_path(out, table_name(Path(file).stem))
            written.append(parquet)
            kinds = read_fast(connection, shape, names, skip, parquet, _TOTAL_CELL)
            if kinds is not None:
                progress("Measuring the columns", 0.7)
                return _measured(connection, file, parquet, kinds, places, notes, reading, [])
        # A quoted line break cannot be read by several threads where lines may be short, so one reads it then.
        for extra in ("", ", parallel=false"):
            try:
                connection.execute(
                    f"CREATE TABLE raw AS SELECT * FROM read_csv({literal(str(shape.path))}, {arguments}{extra})"
                )
                break
            except duckdb.Error as error:
                if extra:
                    raise UnreadableFile(
                        file,
                        "its rows could not be told apart.",
                        "Check its quotes and delimiters, or send it as XLSX.",
                    ) from error
        rejected = connection.execute("SELECT count(DISTINCT line), min(csv_line) FROM reject_errors").fetchone()
        if rejected and rejected[0]:
            notes.append(
                Note(
                    act=f"{rejected[0]} lines with too many fields were left out",
                    rows=int(rejected[0]),
                    examples=(str(rejected[1])[:80],),
                    caution=True,
                )
            )
        connection.execute("DROP TABLE IF EXISTS reject_errors")
        return _finish(
            connection,
            file,
            table_name(Path(file).stem),
            names,
            places,
            notes,
            reading,
            out,
            written,
            progress,
        )
    finally:
        connection.close()


def _new_line(path: Path) -> str:
    with path.open("rb") as stream:
        sample = stream.read(1 << 16)
    if b"\r\n" in sample:
        return "\\r\\n"
    return "\\n" if b"\n" in sample or b"\r" not in sample else "\\r"


def _pandas_encoding(encoding: str) -> str:
    return "utf-8-sig" if encoding == "utf-8" else encoding


def _lines_above(count: int) -> str:
    return (
        "One title line above the header was skipped"
        if count == 1
        else f"{count} title lines above the header were skipped"
    )


def _read_workbook(
    path: Path, file: str, out: Path, scratch: Path, written: list[Path], progress: Progress
) -> list[ReadTable]:
    locked = UnreadableFile(file, "the workbook is protected by a password.", "Save a copy without one and send that.")
    if _is_encrypted(path):
        raise locked
    try:
        workbook = python_calamine.CalamineWorkbook.from_path(str(path))
    except python_calamine.PasswordError as error:
        raise locked from error
    except Exception as error:
        raise UnreadableFile(
            file,
            "the workbook is broken or of a kind that cannot be read.",
            "Open it in your spreadsheet program and save it again as XLSX.",
        ) from error
    found: list[ReadTable] = []
    for number, sheet in enumerate(workbook.sheet_names):
        progress(f"Reading sheet {sheet}", number / len(workbook.sheet_names))
        try:
            rows = [
                [_cell(value) for value in row]
                for row in workbook.get_sheet_by_name(sheet).to_python(skip_empty_area=False)
            ]
        except Exception as error:
            raise UnreadableFile(
                file,
                f"the sheet “{sheet}” is broken.",
                "Open it in your spreadsheet program and save it again as XLSX.",
            ) from error
        folder = scratch / f"sheet{number}"
        folder.mkdir()
        filled = [row for row in rows if any(row)]
        if len(filled) < 2:
            continue
        alone = len(workbook.sheet_names) == 1
        name = table_name(Path(file).stem if alone else sheet)
        found.append(_read_sheet(rows, file, sheet, name, out, folder, written, progress))
    if not found:
        raise UnreadableFile(
            file, "no sheet has a header with rows below it.", "Check that the right workbook was saved."
        )
    return found


def _is_encrypted(path: Path) -> bool:
    """True for a workbook inside an encrypted container: a compound file with a stream of that name (MS-OFFCRYPTO 1.3.2)."""
    with path.open("rb") as stream:
        return stream.read(8).startswith(b"\xd0\xcf\x11\xe0") and "EncryptedPackage".encode("utf-16-le") in stream.read(
            1 << 20
        )


def _cell(value: object) -> str:
    if value is None or value == "":
        return ""
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, float) and value.is_integer() and abs(value) < 1e15:
        return str(int(value))
    if isinstance(value, dt.datetime):
        return value.date().isoformat() if value.time() == dt.time() else value.isoformat(sep=" ", timespec="seconds")
    return str(value)


def _read_sheet(
    rows: list[list[str]],
    file: str,
    sheet: str,
    name: str,
    out: Path,
    scratch: Path,
    written: list[Path],
    progress: Progress,
) -> ReadTable:
    place = header_place(rows[:300])
    has_header = is_header(rows, place)
    width = max(len(row) for row in rows)
    header = [*rows[place], *[""] * (width - len(rows[place]))]
    body = rows[place + has_header :]
    places = [i for i in range(width) if header[i].strip() or any(len(r) > i and r[i] for r in body)]
    names, notes = _column_names([header[i] for i in places], has_header)
    if place:
        notes.insert(0, Note(act=_lines_above(place), rows=place))
    connection = _connect(scratch)
    try:
        cells = {
            f"c{n}": pa.array([row[i] if i < len(row) else "" for row in body], pa.string())
            for n, i in enumerate(places)
        }
        connection.register("cells", pa.table(cells))
        connection.execute("CREATE TABLE raw AS SELECT * FROM cells")
        reading = FileReading(
            file=file, kind="workbook", sheet=sheet, skip_rows=place + has_header, missing_words=MISSING_WORDS
        )
        return _finish(connection, file, name, names, places, notes, reading, out, written, progress)
    finally:
        connection.close()


def _finish(
    connection: duckdb.DuckDBPyConnection,
    file: str,
    name: str,
    names: list[str],
    places: list[int],
    notes: list[Note],
    reading: FileReading,
    out: Path,
    written: list[Path],
    progress: Progress,
) -> ReadTable:
    raw = [f"c{i}" for i in range(len(names))]
    empty = " AND ".join(f"{cleaned(c)} IS NULL" for c in raw)
    dropped = _drop_rows(connection, raw, empty, notes)
    size = connection.execute("SELECT count(*) FROM raw").fetchone()
    if not size or not size[0]:
        raise UnreadableFile(file, "there is a header but no row below it.", "Export it again with its rows.")
    kinds: dict[str, Kind] = {}
    for number, (column, cell) in enumerate(zip(names, raw, strict=True)):
        progress(f"Finding the type of {column}", 0.3 + 0.3 * number / len(names))
        kinds[column] = kind_of(connection, "raw", cell)
    progress("Writing the table", 0.65)
    parquet = _free_path(out, name)
    written.append(parquet)
    selected = ", ".join(f"{kind.sql} AS {quoted(column)}" for column, kind in kinds.items())
    connection.execute(f"COPY (SELECT {selected} FROM raw) TO {literal(str(parquet))} (FORMAT parquet)")
    for column, kind, cell in zip(names, kinds.values(), raw, strict=True):
        notes.extend(_column_notes(connection, column, kind, cell))
    progress("Measuring the columns", 0.8)
    return _measured(connection, file, parquet, kinds, places, notes, reading, dropped)


def _free_path(out: Path, name: str) -> Path:
    return out / f"{free_name(name, {path.stem for path in out.glob('*.parquet')})}.parquet"


def _measured(
    connection: duckdb.DuckDBPyConnection,
    file: str,
    parquet: Path,
    kinds: dict[str, Kind],
    places: list[int],
    notes: list[Note],
    reading: FileReading,
    dropped: list[int],
) -> ReadTable:
    name = parquet.stem
    rows, columns = profile(connection, f"read_parquet({literal(str(parquet))})", kinds, name)
    cells = tuple(
        CellReading(
            name=column,
            type=kind.type,
            place=place,
            strip=kind.strip,
            thousands=kind.thousands,
            decimal_comma=kind.decimal_comma,
            date_format=kind.date_format,
            booleans=kind.booleans,
        )
        for (column, kind), place in zip(kinds.items(), places, strict=True)
    )
    why = "total row" if dropped else ""
    reading = reading.model_copy(update={"columns": cells, "dropped_rows": tuple(dropped), "dropped_why": why})
    return ReadTable(
        Table(name=name, source=file, rows=rows, columns=tuple(columns), notes=tuple(notes)), reading, parquet
    )


def _drop_rows(connection: duckdb.DuckDBPyConnection, raw: list[str], empty: str, notes: list[Note]) -> list[int]:
    """Leave out wholly empty rows, and a total at the foot; gives the places of the totals."""
    blank = connection.execute(f"SELECT count(*) FROM raw WHERE {empty}").fetchone()
    if blank and blank[0]:
        connection.execute(f"CREATE TABLE filled AS SELECT * FROM raw WHERE NOT ({empty}) ORDER BY rowid")
        connection.execute("DROP TABLE raw")
        connection.execute("ALTER TABLE filled RENAME TO raw")
        notes.append(
            Note(act=f"{blank[0]} empty {'row was' if blank[0] == 1 else 'rows were'} left out", rows=int(blank[0]))
        )
    size = connection.execute("SELECT count(*) FROM raw").fetchone()
    assert size is not None
    looked = ", ".join(raw[:2])
    dropped: list[int] = []
    for row in connection.execute(
        f"SELECT rowid, {looked} FROM raw WHERE rowid >= {max(int(size[0]) - 3, 1)} ORDER BY rowid"
    ).fetchall():
        if any(cell and _TOTAL.search(cell.strip()) for cell in row[1:]):
            dropped.append(int(row[0]))
    for place in dropped:
        connection.execute(f"DELETE FROM raw WHERE rowid = {place}")
    if dropped:
        notes.append(
            Note(
                act="A “Total” row at the foot was left out",
                detail="it would have doubled every sum",
                rows=len(dropped),
            )
        )
    return dropped


def _column_notes(connection: duckdb.DuckDBPyConnection, column: str, kind: Kind, cell: str) -> list[Note]:
    notes = []
    text = cleaned(cell)
    if kind.strip or kind.decimal_comma or kind.thousands:
        example = connection.execute(
            f"SELECT {text} FROM raw WHERE {text} IS NOT NULL ORDER BY length({text}) DESC LIMIT 1"
        ).fetchone()
        what = f"money in {kind.unit}" if kind.unit and kind.unit != "%" else "per cent" if kind.unit else "numbers"
        notes.append(Note(act=f"{column}: “{example[0] if example else ''}” read as {what}"))
    if kind.date_format and kind.type.is_time and kind.date_format[:8] != "%Y-%m-%d":
        notes.append(
            Note(
                act=f"{column}: dates read as {_date_style(kind.date_format)}",
                detail="; ".join(kind.notes),
                caution=bool(kind.notes),
            )
        )
    if kind.bad:
        rows = connection.execute(
            f"SELECT DISTINCT {text} AS v FROM raw WHERE v IS NOT NULL AND {kind.sql} IS NULL ORDER BY v LIMIT 3"
        ).fetchall()
        examples = tuple(str(row[0]) for row in rows)
        noun = "dates" if kind.type.is_time else "numbers" if kind.type.is_number else "values"
        notes.append(
            Note(
                act=f"{kind.bad} {column} values are not {noun}, such as “{examples[0]}”",
                detail="kept as missing",
                rows=kind.bad,
                examples=examples,
                caution=True,
            )
        )
    return notes


def _date_style(style: str) -> str:
    names = {"%Y": "year", "%y": "year", "%m": "month", "%d": "day", "%b": "month", "%B": "month"}
    return ", ".join(names[part] for part in re.findall(r"%[YymdbB]", style))
