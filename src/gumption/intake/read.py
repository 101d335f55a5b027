"""A file in, typed tables out: Parquet on disk, with notes on everything found and done."""

from __future__ import annotations

import bisect
import gc
import logging
import operator
import re
import tempfile
from collections.abc import Callable, Iterator, Mapping
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass, replace
from pathlib import Path

import duckdb
import pyarrow as pa
import pyarrow.parquet as pq

from gumption.core.model.catalogue import Column, Note, Table
from gumption.core.model.files import CellReading, DateOrder, FileReading, Recipe
from gumption.core.model.names import free_name
from gumption.core.model.types import Type
from gumption.intake.body import drop_empty, drop_repeated_headers, empty_note, judge_totals, set_totals_aside
from gumption.intake.cells import MISSING_WORDS, Context, Kind, kind_of, values_of
from gumption.intake.delimited import SAMPLE_BYTES, as_utf8, decoded, encoding_words, rows_of_text
from gumption.intake.encoding import NotText, encoding_of
from gumption.intake.errors import UnreadableFile
from gumption.intake.fast import read_fast
from gumption.intake.furniture import page_lines, page_note
from gumption.intake.json_text import json_tables
from gumption.intake.layout import Block, blocks
from gumption.intake.native import native_kind, native_sql
from gumption.intake.numbers import decimal_commas, looks_numeric
from gumption.intake.profile import profile
from gumption.intake.ragged import evened
from gumption.intake.raw_rows import bring_rows, columns_of, connect, selected_values
from gumption.intake.reread import WordsUsed, is_padded, words_used
from gumption.intake.sql import literal, quoted
from gumption.intake.structured import html_tables, parquet_table
from gumption.intake.unwrap import Piece, unwrapped
from gumption.intake.workbook import ENDINGS as WORKBOOKS
from gumption.intake.workbook import sheets

TEXTS = (".csv", ".tsv", ".txt", ".tab", ".psv", ".dat", ".asc", ".prn", ".md", ".log", "")
LARGE = 20_000_000
"""Bytes from which a text file is read by the engine rather than cell by cell."""
BROAD = 60
"""Columns up to which a table is worked on as a whole."""
_LOOKED_CELLS = 60_000
"""Cells by which it is told whether commas are decimal ones."""
_SIDE_BY_SIDE = 2
_TABLE_LIMIT = 400

log = logging.getLogger(__name__)

Progress = Callable[[str, float], None]
"""What is being done, and how far it is, 0 to 1."""


def silent(_what: str, _share: float) -> None:
    """Progress that nobody looks at."""


@dataclass(frozen=True)
class ReadTable:
    """A table as read: its description, how its file was read, and its rows as Parquet."""

    table: Table
    reading: FileReading
    parquet: Path


@dataclass(frozen=True)
class _Source:
    """One table's raw cells on their way in."""

    file: str
    name: str
    part: str
    names: tuple[str, ...]
    header: tuple[str, ...]
    units: tuple[str | None, ...]
    reading: FileReading
    decimal_comma: bool
    notes: tuple[Note, ...]
    described: tuple[str, ...] = ()


@dataclass(frozen=True)
class _Batch:
    """Some columns of a table: their kinds, their values and what was measured of them."""

    kinds: dict[str, Kind]
    typed: pa.Table
    columns: list[Column]


def table_name(text: str) -> str:
    """A file or sheet name as a table's name: letters, digits and underscores."""
    return re.sub(r"\W+", "_", text, flags=re.UNICODE).strip("_").lower()[:100] or "table"


def read_file(
    path: Path, file: str, out: Path, progress: Progress = silent, recipes: Mapping[str, Recipe] | None = None
) -> list[ReadTable]:
    """Read every table of a file into Parquet files in `out`, by the recipes given for its parts.

    Raises UnreadableFile; then `out` is as before.
    """
    if path.stat().st_size == 0:
        raise UnreadableFile(file, "the file is empty.", "Export it again, or send another file.")
    with tempfile.TemporaryDirectory(dir=out) as scratch:
        reader = _Reader(file, out, Path(scratch), progress, recipes or {})
        try:
            with _no_collection():
                return reader.read(path)
        except duckdb.Error as error:
            for parquet in reader.written:
                parquet.unlink(missing_ok=True)
            log.exception("reading %s failed", file)
            raise UnreadableFile(
                file, "reading it ran into a fault of ours; the log has the details.", "Send it in another form."
            ) from error
        except BaseException:
            for parquet in reader.written:
                parquet.unlink(missing_ok=True)
            raise


@contextmanager
def _no_collection() -> Iterator[None]:
    """Cells make millions of small objects without a cycle among them; looking for cycles takes a fifth of the time."""
    enabled = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if enabled:
            gc.enable()


class _Reader:
    def __init__(self, file: str, out: Path, scratch: Path, progress: Progress, recipes: Mapping[str, Recipe]) -> None:
        self.file, self.out, self.scratch, self.progress, self.recipes = file, out, scratch, progress, recipes
        self.written: list[Path] = []
        self.folders = 0

    def _folder(self) -> Path:
        self.folders += 1
        folder = self.scratch / f"work{self.folders}"
        folder.mkdir()
        return folder

    def _recipe(self, part: str) -> Recipe:
        return self.recipes.get(part, Recipe())

    def _declined(self) -> frozenset[str]:
        """Acts on the file as a whole that any of its tables had undone."""
        return frozenset(key for recipe in self.recipes.values() for key in recipe.declined)

    def read(self, path: Path) -> list[ReadTable]:
        """Every table; a piece of an archive that cannot be read is told on the first that can."""
        pieces = unwrapped(path, self.file, self._folder())
        found: list[ReadTable] = []
        failed: list[UnreadableFile] = []
        for number, piece in enumerate(pieces):
            base, share = number / len(pieces), 1 / len(pieces)
            outer = self.progress

            def inner(
                what: str, done: float, base: float = base, share: float = share, outer: Progress = outer
            ) -> None:
                outer(what, base + share * done)

            self.progress = inner
            try:
                found.extend(self._piece(piece))
            except UnreadableFile as error:
                if len(pieces) == 1:
                    raise
                failed.append(UnreadableFile(piece.name, error.problem, error.advice))
            finally:
                self.progress = outer
        if not found:
            if len(failed) > 1:
                named = ", ".join(e.file for e in failed[:3])
                raise UnreadableFile(self.file, f"there is no table in it, but {named}.", "Send the tables themselves.")
            raise failed[0]
        if failed:
            notes = tuple(
                Note(act=f"{e.file} in the archive could not be read: {e.problem}", caution=True) for e in failed
            )
            first = found[0]
            table = first.table.model_copy(update={"notes": (*first.table.notes, *notes)})
            found[0] = replace(first, table=table)
        return found

    def _piece(self, piece: Piece) -> list[ReadTable]:
        path, name = self._plain_path(piece.path), piece.name
        if path.stat().st_size == 0:
            raise UnreadableFile(name, "the file is empty.", "Export it again, or send another file.")
        with path.open("rb") as stream:
            head = stream.read(2048)
        ending = Path(name).suffix.lower()
        start = head.removeprefix(b"\xef\xbb\xbf").lstrip()[:512].lower()
        if head.startswith((b"PK\x03\x04", b"\xd0\xcf\x11\xe0")):
            return list(self._workbook(path, piece))
        if head.startswith(b"PAR1"):
            return [self._parquet(path, piece)]
        if ending == ".parquet":
            raise UnreadableFile(name, "it is named as Parquet but is none.", "Write it again, or send it as CSV.")
        if ending in (".json", ".jsonl", ".ndjson", ".geojson") or (
            start[:1] in (b"[", b"{") and ending in (*TEXTS, ".json")
        ):
            return list(self._json(path, piece))
        if re.match(rb"<(!doctype html|html|table|meta|div|body|head|\?xml[^>]*>\s*<(!doctype )?html)", start):
            return list(self._html(path, piece))
        if ending in WORKBOOKS and ending != ".xls":
            raise UnreadableFile(
                name,
                "it is named as a workbook but is none.",
                "Open it in your spreadsheet program and save it as XLSX or CSV.",
            )
        if ending not in (*TEXTS, ".xls", ".html", ".htm"):
            raise UnreadableFile(
                name,
                f"files ending in “{ending}” cannot be read.",
                "Send CSV or other delimited text, a workbook, JSON or Parquet.",
            )
        if path.stat().st_size >= LARGE:
            return [self._large_text(path, piece)]
        return list(self._text(path, piece))

    def _plain_path(self, path: Path) -> Path:
        """The file under a name that has no meaning to the engine, whose readers take patterns."""
        link = self._folder() / "source"
        link.symlink_to(path.resolve())
        return link

    # -- kinds of file -----------------------------------------------------------------------

    def _text(self, path: Path, piece: Piece) -> Iterator[ReadTable]:
        self.progress("Looking at the layout", 0.05)
        text, encoding, notes = decoded(path, piece.name)
        found = rows_of_text(text, piece.name, declined=self._declined())
        rows, ragged = evened(found.rows, found.delimiter) if found.delimiter != "aligned" else (found.rows, [])
        plain = found.plain and not ragged and not any(n.about == "odd characters" for n in notes)
        reading = FileReading(
            file=piece.name,
            kind="delimited" if plain and found.delimiter in (",", ";", "\t", "|") else "cleaned",
            delimiter=found.delimiter,
            encoding="utf-8-sig" if encoding == "utf-8" else encoding,
            quoted=found.quoted,
            padded=is_padded(text, found.delimiter),
        )
        yield from self._grid(
            rows, piece, piece.member, Path(piece.name).stem, reading, (*notes, *found.notes, *ragged), ""
        )

    def _html(self, path: Path, piece: Piece) -> Iterator[ReadTable]:
        text, _, notes = decoded(path, piece.name)
        grids = html_tables(text)
        if not grids:
            raise UnreadableFile(
                piece.name, "the page has no table with rows.", "Save the table itself, or send it as CSV."
            )
        note = Note(
            act="A table of a web page was read" if len(grids) == 1 else f"{len(grids)} tables of a web page were read"
        )
        read = 0
        for number, grid in enumerate(grids):
            part = piece.member if number == 0 else f"{piece.member}#page{number + 1}"
            reading = FileReading(file=piece.name, kind="cleaned")
            try:
                yield from self._grid(grid, piece, part, Path(piece.name).stem, reading, (*notes, note), "")
                read += 1
            except UnreadableFile:
                if number == len(grids) - 1 and not read:
                    raise

    def _workbook(self, path: Path, piece: Piece) -> Iterator[ReadTable]:
        self.progress("Opening the workbook", 0.02)
        read = 0
        empty: UnreadableFile | None = None
        for share, sheet in sheets(path, piece.name, self._declined()):
            self.progress(f"Reading sheet {sheet.name}", share)
            if sum(any(row) for row in sheet.rows) < 2:
                continue
            reading = FileReading(file=piece.name, kind="cleaned" if sheet.shifted else "workbook", sheet=sheet.name)
            part = f"{piece.member}/{sheet.name}" if piece.member else sheet.name
            try:
                # The only sheet is what the file is called; its own name is often none.
                stem = Path(piece.name).stem if sheet.alone else ""
                rows, notes = self._without_pages(sheet.rows)
                if notes:
                    reading = reading.model_copy(update={"kind": "cleaned"})
                yield from self._grid(rows, piece, part, stem, reading, (*sheet.notes, *notes), sheet.name)
                read += 1
            except UnreadableFile as error:
                # A sheet of remarks is no table; the others may be.
                empty = error if sheet.alone else None
                continue
        if not read:
            raise empty or UnreadableFile(
                piece.name, "no sheet has a header with rows below it.", "Check that the right workbook was saved."
            )

    def _without_pages(self, rows: list[list[str]]) -> tuple[list[list[str]], list[Note]]:
        """A sheet that was printed to pages, without what each further one repeats."""
        pages = page_lines(["\t".join(filter(None, row)) for row in rows]) if "pages" not in self._declined() else set()
        if not pages:
            return rows, []
        kept = [row for place, row in enumerate(rows) if place not in pages]
        return kept, [page_note(sum(any(rows[place]) for place in pages))]

    def _json(self, path: Path, piece: Piece) -> Iterator[ReadTable]:
        stem = table_name(Path(piece.name).stem)
        for number, found in enumerate(json_tables(path, piece.name, stem)[:_TABLE_LIMIT]):
            part = piece.member if number == 0 else f"{piece.member}#{number + 1}"
            source = _Source(
                piece.name,
                table_name(found.name),
                part,
                found.names,
                ("",) * len(found.names),
                (None,) * len(found.names),
                FileReading(file=piece.name, kind="cleaned", part=part),
                False,
                found.notes,
            )
            yield self._cells(source, found.rows)

    def _parquet(self, path: Path, piece: Piece) -> ReadTable:
        table, notes = parquet_table(path, piece.name)
        connection = connect(self._folder())
        try:
            connection.register("arriving", table)
            names = [re.sub(r"\s+", " ", n).strip() or f"column_{i + 1}" for i, n in enumerate(table.column_names)]
            taken: dict[str, None] = {}
            for name in names:
                taken[free_name(name, taken)] = None
            names = list(taken)
            kinds: dict[str, Kind] = {}
            selected = []
            types = {str(r[0]): str(r[1]) for r in connection.execute("DESCRIBE arriving").fetchall()}
            for place, (given, kind) in enumerate(types.items()):
                cell = quoted(given)
                if kind == "VARCHAR" or kind.startswith("ENUM"):
                    selected.append(f"nullif(trim(CAST({cell} AS VARCHAR)), '') AS c{place}")
                else:
                    selected.append(f"{native_sql(cell, kind)} AS c{place}")
            connection.execute(
                f"CREATE TABLE raw AS SELECT row_number() OVER () AS n, {', '.join(selected)} FROM arriving"
            )
            for place, (name, kind) in enumerate(zip(names, types.values(), strict=True)):
                if kind == "VARCHAR" or kind.startswith("ENUM"):
                    kinds[name] = kind_of(connection, "raw", f"c{place}", name, self._context(piece.member, False))
                else:
                    kinds[name] = native_kind(f"c{place}", kind)
            reading = FileReading(file=piece.name, kind="cleaned", part=piece.member)
            source = _Source(
                piece.name,
                table_name(Path(piece.name).stem),
                piece.member,
                tuple(names),
                (),
                (),
                reading,
                False,
                tuple(notes),
            )
            return self._written(connection, source, kinds, [])
        finally:
            connection.close()

    def _large_text(self, path: Path, piece: Piece) -> ReadTable:
        """Text read by the engine: in one pass where it is clean, else as text first."""
        self.progress("Looking at the layout", 0.02)
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
            path = as_utf8(path, encoding, self._folder())
            with path.open("rb") as stream:
                sample = stream.read(SAMPLE_BYTES)
        found = rows_of_text(sample.decode("utf-8-sig", errors="ignore"), piece.name, cut=True)
        rows, _ = evened(found.rows, found.delimiter)
        block = next(iter(blocks(rows, self._declined())), None)
        if block is None or found.delimiter == "aligned":
            raise UnreadableFile(
                piece.name, "no table could be found in it.", "Check its delimiters, or send it as CSV."
            )
        notes = [n for n in block.notes if n.key != "notes_below"]
        if encoding != "utf-8":
            notes.insert(0, Note(act=f"Read as {encoding_words(encoding)} text"))
        told = sum(n.about == "delimiter line" for n in found.notes)
        skip = block.first + told
        recipe = self._recipe(piece.member)
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
        source = _Source(
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
        connection = connect(self._folder(), large=True)
        try:
            if recipe == Recipe() and not any(block.units) and not comma:
                self.progress("Reading the rows", 0.1)
                parquet = self._free_path(source.name)
                kinds = read_fast(connection, path, found.delimiter, found.quoted, list(block.names), skip, parquet)
                if kinds is not None:
                    self.progress("Measuring the columns", 0.6)
                    words = WordsUsed(MISSING_WORDS, True, frozenset())
                    return self._measured(connection, source, kinds, parquet, [], words=words)
            if encoding == "utf-8" and (encoding := encoding_of(path, sample)) != "utf-8":
                path = as_utf8(path, encoding, self._folder())
                note = Note(act=f"Read as {encoding_words(encoding)} text")
                source = replace(source, notes=(note, *source.notes))
            return self._thorough(connection, path, source, found.delimiter, found.quoted, skip)
        finally:
            connection.close()

    def _thorough(
        self,
        connection: duckdb.DuckDBPyConnection,
        path: Path,
        source: _Source,
        delimiter: str,
        has_quotes: bool,
        skip: int,
    ) -> ReadTable:
        """All cells as text first, lines too long or too short among them; then as small files are read."""
        self.progress("Reading the rows as text", 0.1)
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
        self._cut_foot(connection, width, notes)
        return self._body(connection, replace(source, notes=tuple(notes)))

    @staticmethod
    def _cut_foot(connection: duckdb.DuckDBPyConnection, width: int, notes: list[Note]) -> None:
        """Take notes below the table off, judged by the last rows."""
        cells = ", ".join(f"coalesce(c{i}, '')" for i in range(width))
        tail = connection.execute(f"SELECT n, {cells} FROM raw ORDER BY n DESC LIMIT 60").fetchall()[::-1]
        found = blocks([("#",) * width, *(r[1:] for r in tail)])
        if found and found[-1].last - 1 < len(tail):
            first = tail[found[-1].last - 1][0]
            connection.execute(f"DELETE FROM raw WHERE n >= {first}")
            notes.extend(n for n in found[-1].notes if n.key == "notes_below")

    # -- from a grid to tables ---------------------------------------------------------------

    def _grid(
        self,
        rows: list[list[str]],
        piece: Piece,
        part: str,
        stem: str,
        reading: FileReading,
        notes: tuple[Note, ...],
        sheet: str,
    ) -> Iterator[ReadTable]:
        """Every table of a grid, the first with the notes on the whole of it."""
        found = blocks(rows, self._declined())
        if not found:
            raise self._no_table(rows, piece.name)
        if len(found) == 1 and found[0].last - found[0].first < 1:
            raise self._no_table(rows, piece.name)
        if len(found[0].names) < 3 and not sheet and _prose(rows):
            raise self._no_table(rows, piece.name)
        for number, block in enumerate(found[:_TABLE_LIMIT]):
            own_part = part if number == 0 else f"{part}#{number + 1}"
            name = table_name(stem or sheet)
            if len(found) > 1:
                name = table_name(block.title) if block.title and len(block.title) <= 40 else name
            whole = notes if number == 0 else ()
            if len(found) > 1:
                whole = (
                    *whole,
                    Note(
                        act=f"{len(found)} tables stand on this sheet; each became a table"
                        if sheet
                        else f"{len(found)} tables stand in this file; each became a table",
                        key="tables",
                    ),
                )
            own = block.plain_header and len(found) == 1 and block.last >= _last_filled(rows)
            kept = reading.model_copy(
                update={
                    "kind": reading.kind if own else "cleaned",
                    "part": own_part,
                    "skip_rows": block.first,
                    "named": own and block.has_header and block.names == block.header,
                    "missing_words": MISSING_WORDS,
                }
            )
            body = _chosen(rows[block.first : block.last], block.places)
            looked = body[: max(20, min(300, _LOOKED_CELLS // len(block.names)))]
            comma = decimal_commas([c for row in looked for c in row if c], reading.delimiter)
            source = _Source(
                piece.name,
                name,
                own_part,
                block.names,
                block.header,
                block.units,
                kept,
                comma,
                (*whole, *block.notes),
                block.described,
            )
            yield self._cells(source, body, block)

    @staticmethod
    def _no_table(rows: list[list[str]], file: str) -> UnreadableFile:
        filled = [row for row in rows if any(row)]
        if not filled:
            return UnreadableFile(file, "the file is empty.", "Export it again, or send another file.")
        *titles, head = filled
        worded = [c for c in head if c and not looks_numeric(c)]
        if len(worded) > 1 and all(sum(map(bool, row)) == 1 for row in titles):
            return _no_rows(file)
        return UnreadableFile(
            file, "no table could be found in it.", "It needs columns parted by commas, semicolons, tabs or bars."
        )

    def _cells(self, source: _Source, rows: list[list[str]], block: Block | None = None) -> ReadTable:
        if len(source.names) > BROAD:
            return self._broad(source, rows, block.places if block else None)
        connection = connect(self._folder())
        try:
            bring_rows(connection, list(range(len(rows))), columns_of(rows, len(source.names)))
            return self._body(connection, source, block.places if block else None)
        finally:
            connection.close()

    def _broad(self, source: _Source, rows: list[list[str]], places: tuple[int, ...] | None) -> ReadTable:
        """A table of very many columns, worked on a few columns at a time, so that its width costs time and not memory.

        Which rows are none of the table is judged by the first columns.
        """
        width = len(source.names)
        notes = list(source.notes)
        declined = set(self._recipe(source.part).declined)
        numbers = [n for n, row in enumerate(rows) if any(row)]
        if len(numbers) < len(rows):
            notes.append(empty_note(len(rows) - len(numbers)))
        front = slice(0, BROAD)
        dropped: list[int] = []
        connection = connect(self._folder())
        try:
            leading = replace(source, names=source.names[front], header=source.header[front], units=source.units[front])
            raw = [f"c{i}" for i in range(BROAD)]
            bring_rows(connection, numbers, columns_of([rows[n][front] for n in numbers], BROAD))
            if "repeated_headers" not in declined and source.header:
                dropped += drop_repeated_headers(connection, raw, leading.header, notes)
            if "totals" not in declined and set_totals_aside(connection, raw):
                kinds = self._kinds(connection, leading, raw)
                dropped += judge_totals(connection, raw, list(kinds.values()), notes)
            numbers = [int(n) for (n,) in connection.execute("SELECT n FROM raw ORDER BY n").fetchall()]
        finally:
            connection.close()
        if not numbers:
            raise _no_rows(source.file)
        columns = columns_of([rows[n] for n in numbers], width)
        rows.clear()
        name = self._free_path(source.name)

        def batch(first: int, order: DateOrder | None) -> _Batch:
            here = slice(first, first + BROAD)
            part = replace(source, names=source.names[here], units=source.units[here])
            self.progress("Finding the types of the columns", 0.3 + 0.5 * first / width)
            return self._batch(part, numbers, columns[here], name.stem, order, leading=first == 0)

        starts = range(0, width, BROAD)
        with ThreadPoolExecutor(_SIDE_BY_SIDE) as threads:
            batches = list(threads.map(lambda first: batch(first, None), starts))
            decided = {k.order for b in batches for k in b.kinds.values() if k.order and not k.undecided}
            if len(decided) == 1:
                order = decided.pop()
                for place, first in enumerate(starts):
                    if any(k.undecided for k in batches[place].kinds.values()):
                        batches[place] = batch(first, order)
        self.progress("Writing the table", 0.85)
        typed = [(n, b.typed.column(n)) for b in batches for n in b.typed.column_names]
        pq.write_table(pa.table([c for _, c in typed], names=[n for n, _ in typed]), name)
        before = [bisect.bisect_left(numbers, n) + place for place, n in enumerate(sorted(dropped))]
        whole = {n: k for b in batches for n, k in b.kinds.items()}
        profiled = len(numbers), [c for b in batches for c in b.columns]
        connection = connect(self._folder())
        try:
            told = replace(source, notes=tuple(notes))
            return self._measured(connection, told, whole, name, before, places, profiled)
        finally:
            connection.close()

    def _batch(
        self,
        source: _Source,
        numbers: list[int],
        columns: list[pa.Array],
        table: str,
        order: DateOrder | None,
        *,
        leading: bool,
    ) -> _Batch:
        """Some columns typed and measured."""
        with duckdb.connect() as connection:
            connection.execute("SET TimeZone = 'UTC'")
            # Several batches are worked side by side.
            connection.execute("SET threads = 1")
            bring_rows(connection, numbers, columns)
            kinds = self._kinds(connection, source, [f"c{i}" for i in range(len(columns))], order)
            selected, kinds = selected_values(kinds)
            connection.execute(f"CREATE TABLE typed AS SELECT {', '.join(selected)} FROM raw ORDER BY raw.n")
            _, measured = profile(connection, "typed", kinds, table, leading=leading)
            names = ", ".join(map(quoted, kinds))
            return _Batch(kinds, connection.sql(f"SELECT {names} FROM typed").to_arrow_table(), measured)

    def _context(self, part: str, decimal_comma: bool, order: DateOrder | None = None) -> Context:
        recipe = self._recipe(part)
        return Context(decimal_comma, order, recipe.orders, recipe.types, frozenset(recipe.declined))

    def _body(
        self, connection: duckdb.DuckDBPyConnection, source: _Source, places: tuple[int, ...] | None = None
    ) -> ReadTable:
        """From rows of text to a table: rows that are none are left out, columns typed, the rest written."""
        raw = [f"c{i}" for i in range(len(source.names))]
        notes = list(source.notes)
        declined = set(self._recipe(source.part).declined)
        empty = drop_empty(connection, raw, notes)
        source = replace(source, reading=source.reading.model_copy(update={"empty_rows": empty}))
        dropped: list[int] = []
        if "repeated_headers" not in declined and source.header:
            dropped += drop_repeated_headers(connection, raw, source.header, notes)
        aside = set_totals_aside(connection, raw) if "totals" not in declined else 0
        self.progress("Finding the types of the columns", 0.4)
        kinds = self._kinds(connection, source, raw)
        if aside:
            before = connection.execute("SELECT count(*) FROM raw").fetchone()
            dropped += judge_totals(connection, raw, list(kinds.values()), notes)
            after = connection.execute("SELECT count(*) FROM raw").fetchone()
            if before != after:
                kinds = self._kinds(connection, source, raw)
        size = connection.execute("SELECT count(*) FROM raw").fetchone()
        if not size or not size[0]:
            raise _no_rows(source.file)
        self.progress("Writing the table", 0.65)
        return self._written(connection, replace(source, notes=tuple(notes)), kinds, dropped, places)

    def _kinds(
        self,
        connection: duckdb.DuckDBPyConnection,
        source: _Source,
        raw: list[str],
        order: DateOrder | None = None,
    ) -> dict[str, Kind]:
        """Every column's kind; dates that could be either way round go by those of the same file that could not."""
        context = self._context(source.part, source.decimal_comma, order)
        values = values_of(connection, "raw", raw)
        kinds = {
            name: kind_of(connection, "raw", cell, name, context, values.get(cell))
            for name, cell in zip(source.names, raw, strict=True)
        }
        decided = {k.order for k in kinds.values() if k.order and not k.undecided}
        if len(decided) == 1 and any(k.undecided for k in kinds.values()):
            context = replace(context, order=decided.pop())
            for name, cell in zip(source.names, raw, strict=True):
                if kinds[name].undecided:
                    kinds[name] = kind_of(connection, "raw", cell, name, context, values.get(cell))
        for name, unit in zip(source.names, source.units, strict=False):
            told = unit or _unit_in(name)
            if told and kinds[name].type.is_number and kinds[name].unit is None:
                kinds[name] = replace(kinds[name], unit=_known_unit(told))
        return kinds

    def _free_path(self, name: str) -> Path:
        path = self.out / f"{free_name(name, {p.stem for p in self.out.glob('*.parquet')})}.parquet"
        self.written.append(path)
        return path

    def _written(
        self,
        connection: duckdb.DuckDBPyConnection,
        source: _Source,
        kinds: dict[str, Kind],
        dropped: list[int],
        places: tuple[int, ...] | None = None,
    ) -> ReadTable:
        selected, kinds = selected_values(kinds)
        order = (
            " ORDER BY raw.n" if connection.execute("SELECT count(*) < 3000000 FROM raw").fetchone() == (True,) else ""
        )
        parquet = self._free_path(source.name)
        connection.execute(
            f"COPY (SELECT {', '.join(selected)} FROM raw{order}) TO {literal(str(parquet))} (FORMAT parquet)"
        )
        self.progress("Measuring the columns", 0.8)
        before = [
            int(row[0]) + place
            for place, n in enumerate(sorted(dropped))
            if (row := connection.execute(f"SELECT count(*) FROM raw WHERE n < {n}").fetchone())
        ]
        plain = source.reading.kind == "delimited" and all(k.currency is None for k in kinds.values())
        words = words_used(connection, kinds) if plain else None
        return self._measured(connection, source, kinds, parquet, before, places, words=words)

    def _measured(
        self,
        connection: duckdb.DuckDBPyConnection,
        source: _Source,
        kinds: dict[str, Kind],
        parquet: Path,
        dropped: list[int],
        places: tuple[int, ...] | None = None,
        profiled: tuple[int, list[Column]] | None = None,
        words: WordsUsed | None = None,
    ) -> ReadTable:
        recipe = self._recipe(source.part)
        notes = [*source.notes, *(n for k in kinds.values() for n in k.notes)]
        simple = all(k.simple and k.type not in (Type.TIME, Type.DURATION) for k in kinds.values())
        cells = tuple(
            CellReading(
                name=column,
                type=kind.type,
                place=places[place] if places and place < len(places) else place,
                strip=kind.strip,
                thousands=kind.thousands,
                decimal_comma=kind.decimal_comma,
                date_format=kind.date_format,
                booleans=kind.booleans,
                odd=words is None or column in words.odd,
            )
            for place, (column, kind) in enumerate(kinds.items())
        )
        if recipe.steps:
            # Few tables have steps, and what works them takes as long to load as a small file to read.
            from gumption.intake.reshape import reshaped

            kinds, shaped = reshaped(connection, parquet, kinds, recipe.steps, self.out)
            notes += shaped
            simple, profiled = False, None
        if profiled is None:
            profiled = profile(connection, f"read_parquet({literal(str(parquet))})", kinds, parquet.stem)
        rows, columns = profiled
        reading = source.reading.model_copy(
            update={
                "kind": source.reading.kind if simple else "cleaned",
                "columns": cells,
                "dropped_rows": tuple(dropped),
                "dropped_why": "total row" if dropped else "",
                **({"missing_words": words.missing, "keeps_words": words.kept} if words is not None else {}),
            }
        )
        said = dict(zip(source.names, source.described, strict=False))
        columns = [c.model_copy(update={"description": said.get(c.name, "")}) for c in columns]
        table = Table(name=parquet.stem, source=source.file, rows=rows, columns=tuple(columns), notes=tuple(notes))
        return ReadTable(table, reading, parquet)


def _no_rows(file: str) -> UnreadableFile:
    return UnreadableFile(file, "there is a header but no row below it.", "Export it again with its rows.")


def _chosen(rows: list[list[str]], places: tuple[int, ...]) -> list[list[str]]:
    """The cells at those places, blank where a row ends before."""
    width = max(places) + 1
    full = (row if len(row) >= width else [*row, *[""] * (width - len(row))] for row in rows)
    if places == tuple(range(width)):
        return [row if len(row) == width else row[:width] for row in full]
    if len(places) == 1:
        return [[row[places[0]]] for row in full]
    chosen = operator.itemgetter(*places)
    return [list(chosen(row)) for row in full]


def _unit_in(name: str) -> str | None:
    """The currency that a column's name gives in brackets: Umsatz (in €)."""
    found = re.search(r"[(\[](?:in )?(£|€|\$|GBP|EUR|USD|CHF)[)\]]", name)
    return found[1] if found else None


def _known_unit(unit: str) -> str:
    return {"£": "GBP", "€": "EUR", "$": "USD", "per cent": "%", "percent": "%"}.get(unit.lower(), unit)


def _last_filled(rows: list[list[str]]) -> int:
    """The row behind the last that is not blank."""
    return next((i + 1 for i in range(len(rows) - 1, -1, -1) if any(rows[i])), 0)


def _prose(rows: list[list[str]]) -> bool:
    """True for lines of running text rather than a column of values."""
    cells = [cell for row in rows for cell in row if cell]
    return not cells or (len(rows) < 200 and sum(cell.count(" ") for cell in cells) / len(cells) > 4)


def _new_line(path: Path) -> str:
    with path.open("rb") as stream:
        sample = stream.read(1 << 16)
    if b"\r\n" in sample:
        return "\\r\\n"
    return "\\n" if b"\n" in sample or b"\r" not in sample else "\\r"
