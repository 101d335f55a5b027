"""Data dictionaries: what columns mean, read from a file or pasted, and names spelled out by a guess."""

from __future__ import annotations

import re
import tempfile
from collections.abc import Mapping
from pathlib import Path

import pyarrow.parquet as pq

from gumption.core.model.catalogue import Column, Table
from gumption.core.model.meaning import ColumnMeaning
from gumption.core.model.names import plain
from gumption.core.model.types import Type
from gumption.core.reading.lexicon import expanded
from gumption.intake.describe import described_as
from gumption.intake.errors import UnreadableFile
from gumption.intake.read import read_file
from gumption.intake.roles import parts_of

_SYNONYMS = re.compile(r"synonym|also|other name|alias", re.I)
_DISPLAY = re.compile(r"display|label|title|full name|business name|readable", re.I)
_MEANING = re.compile(r"meaning|description|definition|desc|explanation|notes?|comment", re.I)
_MOST_CODES = 5_000
_NAME = re.compile(r"column|field|variable|name|attribute|feld|spalte", re.I)


def dictionary_of(path: Path, file: str, table: Table) -> dict[str, ColumnMeaning]:
    """What a two- or three-column file says of the table's columns. Raises UnreadableFile where it names none of them."""
    with tempfile.TemporaryDirectory() as scratch:
        found: dict[str, ColumnMeaning] = {}
        for read in read_file(path, file, Path(scratch)):
            rows = pq.read_table(read.parquet)
            columns = {
                n: [None if v is None else str(v) for v in rows.column(n).to_pylist()] for n in rows.column_names
            }
            found.update(_meanings(columns, table))
    if not found:
        raise UnreadableFile(
            file,
            f"it names no column of {table.name}.",
            f"Its first column must hold names such as {table.columns[0].name}, the second what they mean.",
        )
    return found


def explained(tables: list[Table], parquet: Mapping[str, Path]) -> list[Table]:
    """Tables whose columns another of the tables describes, row by row, with what it says of them."""
    found = []
    for table in tables:
        for other in tables:
            if other is table or other.rows > 2_000 or len(other.columns) > 8 or not other.lists_columns_of(table):
                continue
            rows = pq.read_table(parquet[other.name])
            columns = {
                n: [None if v is None else str(v) for v in rows.column(n).to_pylist()] for n in rows.column_names
            }
            meanings = _whole_meanings(columns, table)
            table = table.model_copy(
                update={
                    "columns": tuple(
                        described_as(c, meanings[c.name]) if c.name in meanings and not c.description else c
                        for c in table.columns
                    )
                }
            )
        found.append(table)
    return spelled(found, parquet)


def spelled(tables: list[Table], parquet: Mapping[str, Path]) -> list[Table]:
    """Tables whose codes are listed in another: which column, the code, and what it stands for, a row for each."""
    lists = [found for t in tables if (found := _code_list(t, tables, parquet)) is not None]
    if not lists:
        return tables

    def told(table: Table, column: Column) -> Column:
        for name, codes in lists:
            said = codes.get(plain(column.name), {}) if table.name != name else {}
            standing = [v for v in column.values if v in said]
            if standing and len(standing) >= 0.5 * len(column.values):
                stands_for = "; ".join(f"{v} = {said[v]}" for v in standing)
                return column.model_copy(
                    update={"description": "; ".join(filter(None, (column.description, stands_for)))}
                )
        return column

    told_of = []
    for table in tables:
        columns = tuple(told(table, c) for c in table.columns)
        told_of.append(table if columns == table.columns else table.model_copy(update={"columns": columns}))
    return told_of


def _code_list(
    table: Table, tables: list[Table], parquet: Mapping[str, Path]
) -> tuple[str, dict[str, dict[str, str]]] | None:
    """The name of a table of codes and, by the plain name of each column told of, what each code stands for."""
    texts = [c for c in table.columns if c.type is Type.TEXT]
    if not 3 <= len(texts) == len(table.columns) <= 5 or table.rows > _MOST_CODES:
        return None
    others = {plain(c.name) for t in tables if t is not table for c in t.columns}
    naming = next((c for c in texts if len(c.values) > 1 and {plain(v) for v in c.values} <= others), None)
    if naming is None or naming.distinct == table.rows:
        return None
    held = {plain(c.name): {*c.values} for t in tables if t is not table for c in t.columns}
    rows = pq.read_table(parquet[table.name]).to_pylist()
    rest = [c.name for c in texts if c is not naming]
    fits = {n: sum(row[n] in held[plain(row[naming.name])] for row in rows if row[naming.name]) for n in rest}
    code = max(rest, key=lambda n: fits[n])
    if 2 * fits[code] < len(rows):
        return None
    label = max((n for n in rest if n != code), key=lambda n: sum(len(row[n] or "") for row in rows))
    found: dict[str, dict[str, str]] = {}
    for row in rows:
        if row[naming.name] and row[code] and row[label]:
            # A comma or a stop would end what a code stands for.
            meant = re.sub(r"[,;.=(].*", "", row[label]).strip()
            found.setdefault(plain(row[naming.name]), {})[row[code]] = meant
    return table.name, found


def _whole_meanings(columns: dict[str, list[str | None]], table: Table) -> dict[str, str]:
    """All that a dictionary's row says of each column, one clause behind the other."""
    known = {plain(c.name): c.name for c in table.columns}
    naming = max(columns, key=lambda n: sum(plain(v or "") in known for v in columns[n]))
    found = {}
    for place, value in enumerate(columns[naming]):
        name = known.get(plain(value or ""))
        if name is not None:
            said = [columns[n][place] or "" for n in columns if n != naming]
            found[name] = "; ".join(s.strip() for s in said if s.strip())[:2000]
    return found


def _meanings(columns: dict[str, list[str | None]], table: Table) -> dict[str, ColumnMeaning]:
    known = {plain(c.name): c.name for c in table.columns}
    # A file without a header has its first row taken as names; these are a row like the others then.
    lists = {n: [n, *values] if plain(n) in known else values for n, values in columns.items()}
    hits = {n: sum(plain(v or "") in known for v in values) for n, values in lists.items()}
    naming = max(hits, key=lambda n: hits[n])
    if not hits[naming]:
        return {}
    headed = plain(naming) not in known
    rest = [n for n in columns if n != naming]
    display = next((n for n in rest if headed and _DISPLAY.search(n)), None)
    synonyms = next((n for n in rest if headed and n != display and _SYNONYMS.search(n)), None)
    meaning = next((n for n in rest if headed and n not in (display, synonyms) and _MEANING.search(n)), None)
    if meaning is None:
        left = [n for n in rest if n not in (display, synonyms)]
        meaning = max(left, key=lambda n: sum(len(v or "") for v in columns[n]), default=None)
    found = {}
    for place, value in enumerate(lists[naming]):
        name = known.get(plain(value or ""))
        if name is None:
            continue

        def cell(column: str | None, place: int = place) -> str:
            if column is None:
                return ""
            values = columns[column] if headed else [column, *columns[column]]
            return (values[place] or "").strip() if place < len(values) else ""

        said = tuple(s.strip() for s in re.split(r"[;,/|]", cell(synonyms)) if s.strip())
        found[name] = ColumnMeaning(display=cell(display)[:200], description=cell(meaning)[:2000], synonyms=said)
    return found


def spelled_out(name: str) -> tuple[str, bool]:
    """A column's name in whole words by a guess, and whether any part of it stays dark."""
    words = []
    dark = False
    for part in parts_of(name):
        words.append(expanded(part))
        if words[-1] == part:
            consonants = len(part) > 1 and not re.search(r"[aeiouyäöü]", part) and not part.isdigit()
            dark = dark or consonants or (len(part) <= 2 and not part.isdigit() and part not in _SHORT)
    return " ".join(words), dark


_SHORT = frozenset(
    [
        "ok",
        "id",
        "no",
        "on",
        "at",
        "in",
        "by",
        "of",
        "is",
        "to",
        "km",
        "kg",
        "cm",
        "mm",
        "to",
        "it",
        "us",
        "uk",
        "eu",
        "gb",
        "hr",
        "pc",
        "tv",
        "ip",
        "vat",
        "net",
    ]
)
