"""Parquet, which says itself what its columns are, and tables of web pages."""

from __future__ import annotations

import html.parser
from pathlib import Path

import pyarrow as pa
import pyarrow.parquet as pq

from gumption.core.model.catalogue import Note
from gumption.intake.errors import UnreadableFile

_MOST_PARQUET_ROWS = 500_000_000


def parquet_table(path: Path, file: str) -> tuple[pa.Table, list[Note]]:
    """The rows of a Parquet file, structures laid out as columns one level deep."""
    notes: list[Note] = []
    try:
        opened = pq.ParquetFile(path)
        if opened.metadata.num_rows > _MOST_PARQUET_ROWS or opened.metadata.num_rows * 1e-4 > max(
            path.stat().st_size, 1
        ):
            raise UnreadableFile(
                file, f"it claims {opened.metadata.num_rows:,} rows, more than its size can hold.", "Write it again."
            )
        table = opened.read()
    except (pa.ArrowException, OSError, ValueError, MemoryError, OverflowError) as error:
        raise UnreadableFile(file, "the Parquet file is broken.", "Write it again, or send it as CSV.") from error
    nested = [f.name for f in table.schema if pa.types.is_struct(f.type)]
    if nested:
        notes.append(Note(act=f"Nested fields were laid out as columns: {', '.join(nested[:4])}"))
        table = table.flatten().rename_columns([n.replace(".", "_") for n in table.flatten().column_names])
    if not table.num_rows or not table.num_columns:
        raise UnreadableFile(file, "it has no rows.", "Write it again with its rows.")
    return table, notes


class _Tables(html.parser.HTMLParser):
    """Collects the cells of every table, a cell over several rows or columns in each of its places."""

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.tables: list[list[list[str]]] = []
        self._open: list[list[list[str]]] = []
        self._cell: list[str] | None = None
        self._span = (1, 1)
        self._below: dict[int, tuple[int, str]] = {}

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        if tag == "table":
            self._open.append([])
            self._below = {}
        elif tag == "tr" and self._open:
            self._end_cell()
            self._open[-1].append([])
            self._carried()
        elif tag in ("td", "th") and self._open:
            self._end_cell()
            if not self._open[-1]:
                self._open[-1].append([])
            found = dict(attrs)
            self._span = (_span(found.get("colspan")), _span(found.get("rowspan")))
            self._cell = []
        elif tag == "br" and self._cell is not None:
            self._cell.append(" ")

    def handle_endtag(self, tag: str) -> None:
        if tag in ("td", "th", "tr"):
            self._end_cell()
        elif tag == "table" and self._open:
            self._end_cell()
            self.tables.append([row for row in self._open.pop() if row])

    def handle_data(self, data: str) -> None:
        if self._cell is not None:
            self._cell.append(data)

    def _carried(self) -> None:
        row = self._open[-1][-1]
        while len(row) in self._below:
            left, text = self._below[len(row)]
            if left <= 1:
                del self._below[len(row)]
            else:
                self._below[len(row)] = (left - 1, text)
            row.append(text)

    def _end_cell(self) -> None:
        if self._cell is None or not self._open:
            return
        text = " ".join("".join(self._cell).split())
        row = self._open[-1][-1]
        across, down = self._span
        for number in range(across):
            if down > 1:
                self._below[len(row)] = (down - 1, text)
            row.append(text if number == 0 else "")
        self._cell = None
        self._carried()


def _span(text: str | None) -> int:
    return min(max(int(text), 1), 500) if text and text.isdigit() else 1


def html_tables(text: str) -> list[list[list[str]]]:
    """The grids of a page's tables that have at least two rows."""
    parser = _Tables()
    parser.feed(text)
    parser.close()
    return [t for t in parser.tables if len(t) > 1]
