"""A file in, typed tables out: Parquet on disk, with notes on everything found and done."""

from __future__ import annotations

import gc
import logging
import operator
import re
import tempfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path

import duckdb

from gumption.core.model.catalogue import Note
from gumption.core.model.files import FileReading, Recipe
from gumption.core.model.names import free_name
from gumption.intake.cells import kind_of
from gumption.intake.column import Kind
from gumption.intake.delimited import decoded, rows_of_text
from gumption.intake.errors import UnreadableFile
from gumption.intake.furniture import page_lines, page_note
from gumption.intake.json_text import json_tables
from gumption.intake.large import large_text
from gumption.intake.layout import blocks
from gumption.intake.making import Progress, ReadTable, Source, TableMaker, no_rows, silent, table_name
from gumption.intake.missing import MISSING_WORDS
from gumption.intake.native import native_kind, native_sql
from gumption.intake.numbers import decimal_commas, looks_numeric
from gumption.intake.ragged import evened
from gumption.intake.raw_rows import connect
from gumption.intake.reread import is_padded
from gumption.intake.sql import quoted
from gumption.intake.structured import html_tables, parquet_table
from gumption.intake.unwrap import Piece, unwrapped
from gumption.intake.workbook import ENDINGS as WORKBOOKS
from gumption.intake.workbook import sheets

TEXTS = (".csv", ".tsv", ".txt", ".tab", ".psv", ".dat", ".asc", ".prn", ".md", ".log", "")
LARGE = 20_000_000
"""Bytes from which a text file is read by the engine rather than cell by cell."""
_LOOKED_CELLS = 60_000
"""Cells by which it is told whether commas are decimal ones."""
_TABLE_LIMIT = 400

log = logging.getLogger(__name__)


def read_file(
    path: Path, file: str, out: Path, progress: Progress = silent, recipes: Mapping[str, Recipe] | None = None
) -> list[ReadTable]:
    """Read every table of a file into Parquet files in `out`, by the recipes given for its parts.

    Raises UnreadableFile; then `out` is as before.
    """
    if path.stat().st_size == 0:
        raise UnreadableFile(file, "the file is empty.", "Export it again, or send another file.")
    with tempfile.TemporaryDirectory(dir=out) as scratch:
        maker = TableMaker(file, out, Path(scratch), progress, recipes or {})
        try:
            with _no_collection():
                return _Reader(maker).read(path)
        except duckdb.Error as error:
            for parquet in maker.written:
                parquet.unlink(missing_ok=True)
            log.exception("reading %s failed", file)
            raise UnreadableFile(
                file, "reading it ran into a fault of ours; the log has the details.", "Send it in another form."
            ) from error
        except BaseException:
            for parquet in maker.written:
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
    """Finds the tables of a file, whatever kind of file it is."""

    def __init__(self, maker: TableMaker) -> None:
        self.maker, self.file = maker, maker.file

    def read(self, path: Path) -> list[ReadTable]:
        """Every table; a piece of an archive that cannot be read is told on the first that can."""
        pieces = unwrapped(path, self.file, self.maker.folder())
        found: list[ReadTable] = []
        failed: list[UnreadableFile] = []
        for number, piece in enumerate(pieces):
            base, share = number / len(pieces), 1 / len(pieces)
            outer = self.maker.progress

            def inner(
                what: str, done: float, base: float = base, share: float = share, outer: Progress = outer
            ) -> None:
                outer(what, base + share * done)

            self.maker.progress = inner
            try:
                found.extend(self._piece(piece))
            except UnreadableFile as error:
                if len(pieces) == 1:
                    raise
                error.where = piece.name
                failed.append(error)
            finally:
                self.maker.progress = outer
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
                found=ending,
                accepted=sorted((*TEXTS, ".xlsx", ".xls", ".json", ".parquet", ".html", ".zip", ".gz")),
            )
        if path.stat().st_size >= LARGE:
            return [large_text(self.maker, path, piece)]
        return list(self._text(path, piece))

    def _plain_path(self, path: Path) -> Path:
        """The file under a name that has no meaning to the engine, whose readers take patterns."""
        link = self.maker.folder() / "source"
        link.symlink_to(path.resolve())
        return link

    # -- kinds of file -----------------------------------------------------------------------

    def _text(self, path: Path, piece: Piece) -> Iterator[ReadTable]:
        self.maker.progress("Looking at the layout", 0.05)
        text, encoding, notes = decoded(path, piece.name)
        found = rows_of_text(text, piece.name, declined=self.maker.declined())
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
        self.maker.progress("Opening the workbook", 0.02)
        read = 0
        empty: UnreadableFile | None = None
        for share, sheet in sheets(path, piece.name, self.maker.declined()):
            self.maker.progress(f"Reading sheet {sheet.name}", share)
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
        pages = (
            page_lines(["\t".join(filter(None, row)) for row in rows])
            if "pages" not in self.maker.declined()
            else set()
        )
        if not pages:
            return rows, []
        kept = [row for place, row in enumerate(rows) if place not in pages]
        return kept, [page_note(sum(any(rows[place]) for place in pages))]

    def _json(self, path: Path, piece: Piece) -> Iterator[ReadTable]:
        stem = table_name(Path(piece.name).stem)
        for number, found in enumerate(json_tables(path, piece.name, stem)[:_TABLE_LIMIT]):
            part = piece.member if number == 0 else f"{piece.member}#{number + 1}"
            source = Source(
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
            yield self.maker.table_of(source, found.rows)

    def _parquet(self, path: Path, piece: Piece) -> ReadTable:
        table, notes = parquet_table(path, piece.name)
        connection = connect(self.maker.folder())
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
                    kinds[name] = kind_of(connection, "raw", f"c{place}", name, self.maker.context(piece.member, False))
                else:
                    kinds[name] = native_kind(f"c{place}", kind)
            reading = FileReading(file=piece.name, kind="cleaned", part=piece.member)
            source = Source(
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
            return self.maker.saved(connection, source, kinds, [])
        finally:
            connection.close()

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
        found = blocks(rows, self.maker.declined())
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
            source = Source(
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
            yield self.maker.table_of(source, body, block)

    @staticmethod
    def _no_table(rows: list[list[str]], file: str) -> UnreadableFile:
        filled = [row for row in rows if any(row)]
        if not filled:
            return UnreadableFile(file, "the file is empty.", "Export it again, or send another file.")
        *titles, head = filled
        worded = [c for c in head if c and not looks_numeric(c)]
        if len(worded) > 1 and all(sum(map(bool, row)) == 1 for row in titles):
            return no_rows(file)
        return UnreadableFile(
            file, "no table could be found in it.", "It needs columns parted by commas, semicolons, tabs or bars."
        )


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


def _last_filled(rows: list[list[str]]) -> int:
    """The row behind the last that is not blank."""
    return next((i + 1 for i in range(len(rows) - 1, -1, -1) if any(rows[i])), 0)


def _prose(rows: list[list[str]]) -> bool:
    """True for lines of running text rather than a column of values."""
    cells = [cell for row in rows for cell in row if cell]
    return not cells or (len(rows) < 200 and sum(cell.count(" ") for cell in cells) / len(cells) > 4)
