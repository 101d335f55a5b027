"""Files that say themselves what their columns are: JSON, Parquet, and tables of web pages."""

from __future__ import annotations

import html.parser
import json
from collections.abc import Mapping
from pathlib import Path

import pyarrow as pa
import pyarrow.parquet as pq

from gumption.core.model.catalogue import Note
from gumption.intake.errors import UnreadableFile

_MOST_PARQUET_ROWS = 500_000_000
_LARGE_JSON = 600_000_000


def json_rows(path: Path, file: str) -> tuple[list[str], list[list[str]], list[Note]]:
    """Names, rows of text, and notes: an array of objects, one object a line, or an object that holds one such array."""
    if path.stat().st_size > _LARGE_JSON:
        raise UnreadableFile(file, "it is too large for JSON.", "Send it as CSV or Parquet.")
    notes: list[Note] = []
    text = path.read_text(encoding="utf-8-sig", errors="replace").strip()
    try:
        items = _items(text, notes)
    except RecursionError as error:
        raise UnreadableFile(file, "its JSON is nested too deeply.", "Send an array of flat objects.") from error
    if items is None:
        raise UnreadableFile(
            file, "its JSON is broken or holds no list of objects.", "Send an array of objects, or one object a line."
        )
    names: dict[str, int] = {}
    flat = []
    nested: set[str] = set()
    for item in items:
        row: dict[str, str] = {}
        for key, value in item.items():
            if isinstance(value, Mapping):
                nested.add(key)
                for inner, deeper in value.items():
                    row[f"{key}_{inner}"] = _text(deeper)
            else:
                row[key] = _text(value)
        for key in row:
            names.setdefault(key, len(names))
        flat.append(row)
    if not names:
        raise UnreadableFile(file, "its objects have no fields.", "Send an array of objects with values.")
    if nested:
        listed = ", ".join(sorted(nested)[:4])
        notes.append(Note(act=f"Nested objects were laid out as columns: {listed}", examples=tuple(sorted(nested)[:3])))
    ragged = sum(len(r) < len(names) for r in flat)
    if ragged:
        notes.append(Note(act=f"{ragged:,} objects lack some of the fields; these are missing", rows=ragged))
    return list(names), [[row.get(name, "") for name in names] for row in flat], notes


def _items(text: str, notes: list[Note]) -> list[dict[str, object]] | None:
    try:
        whole = json.loads(text)
    except ValueError:
        return _lines(text, notes)
    if isinstance(whole, dict):
        lists = {k: v for k, v in whole.items() if isinstance(v, list) and v and all(isinstance(i, dict) for i in v)}
        if lists:
            name = max(lists, key=lambda k: len(lists[k]))
            notes.append(Note(act=f"The list “{name}” in the file was read"))
            return lists[name]
        if (deeper := _deeper(whole)) is not None:
            notes.append(Note(act=f"The list “{deeper[0]}” in the file was read"))
            return deeper[1]
        if whole and all(isinstance(v, dict) for v in whole.values()) and len(whole) > 1:
            notes.append(Note(act="Each entry's own name was put in the column key"))
            return [{"key": k, **v} for k, v in whole.items()]
        if whole and all(isinstance(v, list) for v in whole.values()) and len({len(v) for v in whole.values()}) == 1:
            notes.append(Note(act="Lists by column were read as rows"))
            return [dict(zip(whole, row, strict=True)) for row in zip(*whole.values(), strict=True)]
        return [whole] if whole else None
    if isinstance(whole, list) and whole:
        if all(isinstance(i, dict) for i in whole):
            return whole
        if all(isinstance(i, list) for i in whole) and len(whole) > 1 and all(isinstance(c, str) for c in whole[0]):
            notes.append(Note(act="Lists of cells were read as rows, the first as the header"))
            return [dict(zip(whole[0], row, strict=False)) for row in whole[1:]]
        objects = [i for i in whole if isinstance(i, dict)]
        if len(objects) >= 0.5 * len(whole):
            notes.append(
                Note(
                    act=f"{len(whole) - len(objects)} entries that are no objects were left out",
                    rows=len(whole) - len(objects),
                    caution=True,
                )
            )
            return objects
    return None


def _deeper(whole: dict[str, object], levels: int = 3) -> tuple[str, list[dict[str, object]]] | None:
    """The longest list of objects inside objects, and the way to it."""
    found: list[tuple[str, list[dict[str, object]]]] = []
    for key, value in whole.items():
        if isinstance(value, list) and value and all(isinstance(i, dict) for i in value):
            found.append((key, value))
        elif isinstance(value, dict) and levels and (below := _deeper(value, levels - 1)) is not None:
            found.append((f"{key}.{below[0]}", below[1]))
    return max(found, key=lambda f: len(f[1]), default=None)


def _lines(text: str, notes: list[Note]) -> list[dict[str, object]] | None:
    items: list[dict[str, object]] = []
    bad: list[str] = []
    for line in text.splitlines():
        stripped = line.strip().rstrip(",")
        if not stripped or stripped in "[]":
            continue
        try:
            item = json.loads(stripped)
        except ValueError:
            bad.append(line)
            continue
        if isinstance(item, dict):
            items.append(item)
        else:
            bad.append(line)
    if not items or len(bad) > 0.2 * (len(items) + len(bad)):
        return None
    if bad:
        notes.append(
            Note(
                act=f"{len(bad)} {'line is' if len(bad) == 1 else 'lines are'} no object and {'was' if len(bad) == 1 else 'were'} left out",
                rows=len(bad),
                examples=(bad[0][:80],),
                caution=True,
            )
        )
    return items


def _text(value: object) -> str:
    match value:
        case None:
            return ""
        case bool():
            return "true" if value else "false"
        case str():
            return value.strip()
        case int() | float():
            return repr(value)
        case list() if all(isinstance(v, (str, int, float)) for v in value):
            return "; ".join(map(str, value))
        case _:
            return json.dumps(value, ensure_ascii=False)


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
