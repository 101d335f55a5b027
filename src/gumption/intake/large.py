"""Text files too large to be read cell by cell: the engine reads them, in one pass where they are clean."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import duckdb

from gumption.core.model.catalogue import Note
from gumption.core.model.files import FileReading, Recipe
from gumption.intake.delimited import SAMPLE_BYTES, as_utf8, encoding_words, rows_of_text
from gumption.intake.encoding import NotText, encoding_of
from gumption.intake.errors import UnreadableFile
from gumption.intake.fast import read_fast
from gumption.intake.layout import blocks
from gumption.intake.making import ReadTable, Source, TableMaker, table_name
from gumption.intake.missing import MISSING_WORDS
from gumption.intake.numbers import decimal_commas
from gumption.intake.ragged import evened
from gumption.intake.raw_rows import connect
from gumption.intake.reread import WordsUsed
from gumption.intake.sql import literal
from gumption.intake.unwrap import Piece


def large_text(maker: TableMaker, path: Path, piece: Piece) -> ReadTable:
    """Text read by the engine: in one pass where it is clean, else as text first."""
    maker.progress("Looking at the layout", 0.02)
    with path.open("rb") as stream:
        sample = stream.read(SAMPLE_BYTES)
    try:
        # The engine notices letters that are not UTF-8, so that a look at the beginning is enough for now.
        encoding = encoding_of(path, sample, whole=False)
    except NotText as error:
        raise UnreadableFile(
            piece.name, "this is not text, nor a workbook that can be read.", "Send it as CSV or XLSX."
        ) from error
    if encoding != "utf-8":
        path = as_utf8(path, encoding, maker.folder())
        with path.open("rb") as stream:
            sample = stream.read(SAMPLE_BYTES)
    found = rows_of_text(sample.decode("utf-8-sig", errors="ignore"), piece.name, cut=True)
    rows, _ = evened(found.rows, found.delimiter)
    block = next(iter(blocks(rows, maker.declined())), None)
    if block is None or found.delimiter == "aligned":
        raise UnreadableFile(piece.name, "no table could be found in it.", "Check its delimiters, or send it as CSV.")
    notes = [n for n in block.notes if n.key != "notes_below"]
    if encoding != "utf-8":
        notes.insert(0, Note(act=f"Read as {encoding_words(encoding)} text"))
    told = sum(n.about == "delimiter line" for n in found.notes)
    skip = block.first + told
    recipe = maker.recipe_of(piece.member)
    reading = FileReading(
        file=piece.name,
        kind="delimited" if found.plain and block.plain_header else "cleaned",
        part=piece.member,
        delimiter=found.delimiter,
        encoding="utf-8-sig" if encoding == "utf-8" else encoding,
        quoted=found.quoted,
        skip_rows=skip,
        missing_words=MISSING_WORDS,
    )
    comma = decimal_commas([c for r in rows[block.first : block.first + 200] for c in r], found.delimiter)
    source = Source(
        piece.name,
        table_name(Path(piece.name).stem),
        piece.member,
        block.names,
        block.header,
        block.units,
        reading,
        comma,
        tuple(notes),
    )
    connection = connect(maker.folder(), large=True)
    try:
        if recipe == Recipe() and not any(block.units) and not comma:
            maker.progress("Reading the rows", 0.1)
            parquet = maker.free_path(source.name)
            kinds = read_fast(connection, path, found.delimiter, found.quoted, list(block.names), skip, parquet)
            if kinds is not None:
                maker.progress("Measuring the columns", 0.6)
                words = WordsUsed(MISSING_WORDS, True, frozenset())
                return maker.described(connection, source, kinds, parquet, [], words=words)
        if encoding == "utf-8" and (encoding := encoding_of(path, sample)) != "utf-8":
            path = as_utf8(path, encoding, maker.folder())
            note = Note(act=f"Read as {encoding_words(encoding)} text")
            source = replace(source, notes=(note, *source.notes))
        return _thorough(maker, connection, path, source, found.delimiter, found.quoted, skip)
    finally:
        connection.close()


def _thorough(
    maker: TableMaker,
    connection: duckdb.DuckDBPyConnection,
    path: Path,
    source: Source,
    delimiter: str,
    has_quotes: bool,
    skip: int,
) -> ReadTable:
    """All cells as text first, lines too long or too short among them; then as small files are read."""
    maker.progress("Reading the rows as text", 0.1)
    width = len(source.names)
    columns = "{" + ", ".join(f"'c{i}': 'VARCHAR'" for i in range(width + 3)) + "}"
    mark = literal('"' if has_quotes else "")
    arguments = (
        f"delim={literal(delimiter)}, quote={mark}, escape={mark}, header=false, skip={skip}, columns={columns}, "
        "auto_detect=false, null_padding=true, strict_mode=false, ignore_errors=true, store_rejects=true, "
        f"max_line_size=20000000, new_line='{_new_line(path)}'"
    )
    cells = ", ".join(f"trim(c{i}, ' \t\r\n\u00a0\u202f\ufeff') AS c{i}" for i in range(width))
    spare = " OR ".join(f"coalesce(trim(c{width + i}), '') <> ''" for i in range(3))
    # A quoted line break cannot be read by several threads where lines may be short, so one reads it then.
    for extra in ("", ", parallel=false"):
        try:
            connection.execute(
                f"CREATE OR REPLACE TABLE raw AS SELECT row_number() OVER () AS n, {cells}, ({spare}) AS long "
                f"FROM read_csv({literal(str(path))}, {arguments}{extra})"
            )
            break
        except duckdb.Error as error:
            if extra:
                raise UnreadableFile(
                    source.file,
                    "its rows could not be told apart.",
                    "Check its quotes and delimiters, or send it as XLSX.",
                ) from error
    notes = list(source.notes)
    row = connection.execute("SELECT count(*), min(csv_line) FROM reject_errors").fetchone()
    if row and row[0]:
        notes.append(
            Note(
                act=f"{row[0]:,} lines could not be told apart and were left out",
                rows=int(row[0]),
                examples=(str(row[1])[:80],),
                caution=True,
            )
        )
    row = connection.execute("SELECT count(*) FROM raw WHERE long").fetchone()
    if row and row[0]:
        notes.append(
            Note(
                act=f"{row[0]:,} lines have more cells than the header; the last ones were cut off",
                rows=int(row[0]),
                caution=True,
            )
        )
    connection.execute("ALTER TABLE raw DROP COLUMN long")
    _cut_foot(connection, width, notes)
    return maker.body(connection, replace(source, notes=tuple(notes)))


def _cut_foot(connection: duckdb.DuckDBPyConnection, width: int, notes: list[Note]) -> None:
    """Take notes below the table off, judged by the last rows."""
    cells = ", ".join(f"coalesce(c{i}, '')" for i in range(width))
    tail = connection.execute(f"SELECT n, {cells} FROM raw ORDER BY n DESC LIMIT 60").fetchall()[::-1]
    found = blocks([("#",) * width, *(r[1:] for r in tail)])
    if found and found[-1].last - 1 < len(tail):
        first = tail[found[-1].last - 1][0]
        connection.execute(f"DELETE FROM raw WHERE n >= {first}")
        notes.extend(n for n in found[-1].notes if n.key == "notes_below")


def _new_line(path: Path) -> str:
    with path.open("rb") as stream:
        sample = stream.read(1 << 16)
    if b"\r\n" in sample:
        return "\\r\\n"
    return "\\n" if b"\n" in sample or b"\r" not in sample else "\\r"
