"""From raw cells to a table: what is no row left out, columns typed, the rest written and measured."""

from __future__ import annotations

import bisect
import re
from collections.abc import Callable, Mapping
from concurrent.futures import ThreadPoolExecutor
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
from gumption.intake.calendar_parts import Dated, told_whole, with_dates
from gumption.intake.cells import kind_of
from gumption.intake.column import Context, Kind, values_of
from gumption.intake.errors import UnreadableFile
from gumption.intake.layout import Block
from gumption.intake.profile import profile
from gumption.intake.raw_rows import bring_rows, columns_of, connect, selected_values
from gumption.intake.reread import WordsUsed, words_used
from gumption.intake.several import several_note
from gumption.intake.sql import literal, quoted

BROAD = 60
"""Columns up to which a table is worked on as a whole."""
_SIDE_BY_SIDE = 2

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
class Source:
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


def no_rows(file: str) -> UnreadableFile:
    return UnreadableFile(file, "there is a header but no row below it.", "Export it again with its rows.")


class TableMaker:
    """Makes the tables of one file, in a folder of its own; `written` are the files that it has made."""

    def __init__(self, file: str, out: Path, scratch: Path, progress: Progress, recipes: Mapping[str, Recipe]) -> None:
        self.file, self.out, self.scratch, self.progress, self.recipes = file, out, scratch, progress, recipes
        self.written: list[Path] = []
        self.folders = 0

    def folder(self) -> Path:
        self.folders += 1
        folder = self.scratch / f"work{self.folders}"
        folder.mkdir()
        return folder

    def recipe_of(self, part: str) -> Recipe:
        return self.recipes.get(part, Recipe())

    def declined(self) -> frozenset[str]:
        """Acts on the file as a whole that any of its tables had undone."""
        return frozenset(key for recipe in self.recipes.values() for key in recipe.declined)

    def table_of(self, source: Source, rows: list[list[str]], block: Block | None = None) -> ReadTable:
        if len(source.names) > BROAD:
            return self._broad(source, rows, block.places if block else None)
        connection = connect(self.folder())
        try:
            bring_rows(connection, list(range(len(rows))), columns_of(rows, len(source.names)))
            return self.body(connection, source, block.places if block else None)
        finally:
            connection.close()

    def _broad(self, source: Source, rows: list[list[str]], places: tuple[int, ...] | None) -> ReadTable:
        """A table of very many columns, worked on a few columns at a time, so that its width costs time and not memory.

        Which rows are none of the table is judged by the first columns.
        """
        width = len(source.names)
        notes = list(source.notes)
        declined = set(self.recipe_of(source.part).declined)
        numbers = [n for n, row in enumerate(rows) if any(row)]
        if len(numbers) < len(rows):
            notes.append(empty_note(len(rows) - len(numbers)))
        front = slice(0, BROAD)
        dropped: list[int] = []
        connection = connect(self.folder())
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
            raise no_rows(source.file)
        columns = columns_of([rows[n] for n in numbers], width)
        rows.clear()
        name = self.free_path(source.name)

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
        connection = connect(self.folder())
        try:
            told = replace(source, notes=tuple(notes))
            return self.described(connection, told, whole, name, before, places, profiled)
        finally:
            connection.close()

    def _batch(
        self,
        source: Source,
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
            declined = self.recipe_of(source.part).declined
            _, measured = profile(connection, "typed", kinds, table, leading=leading, declined=declined)
            names = ", ".join(map(quoted, kinds))
            return _Batch(kinds, connection.sql(f"SELECT {names} FROM typed").to_arrow_table(), measured)

    def context(self, part: str, decimal_comma: bool, order: DateOrder | None = None) -> Context:
        recipe = self.recipe_of(part)
        return Context(decimal_comma, order, recipe.orders, recipe.types, frozenset(recipe.declined))

    def body(
        self, connection: duckdb.DuckDBPyConnection, source: Source, places: tuple[int, ...] | None = None
    ) -> ReadTable:
        """From rows of text to a table: rows that are none are left out, columns typed, the rest written."""
        raw = [f"c{i}" for i in range(len(source.names))]
        notes = list(source.notes)
        declined = set(self.recipe_of(source.part).declined)
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
            raise no_rows(source.file)
        self.progress("Writing the table", 0.65)
        return self.saved(connection, replace(source, notes=tuple(notes)), kinds, dropped, places)

    def _kinds(
        self,
        connection: duckdb.DuckDBPyConnection,
        source: Source,
        raw: list[str],
        order: DateOrder | None = None,
    ) -> dict[str, Kind]:
        """Every column's kind; dates that could be either way round go by those of the same file that could not."""
        context = self.context(source.part, source.decimal_comma, order)
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

    def free_path(self, name: str) -> Path:
        path = self.out / f"{free_name(name, {p.stem for p in self.out.glob('*.parquet')})}.parquet"
        self.written.append(path)
        return path

    def saved(
        self,
        connection: duckdb.DuckDBPyConnection,
        source: Source,
        kinds: dict[str, Kind],
        dropped: list[int],
        places: tuple[int, ...] | None = None,
    ) -> ReadTable:
        selected, kinds = selected_values(kinds)
        order = (
            " ORDER BY raw.n" if connection.execute("SELECT count(*) < 3000000 FROM raw").fetchone() == (True,) else ""
        )
        parquet = self.free_path(source.name)
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
        return self.described(connection, source, kinds, parquet, before, places, words=words)

    def described(
        self,
        connection: duckdb.DuckDBPyConnection,
        source: Source,
        kinds: dict[str, Kind],
        parquet: Path,
        dropped: list[int],
        places: tuple[int, ...] | None = None,
        profiled: tuple[int, list[Column]] | None = None,
        words: WordsUsed | None = None,
    ) -> ReadTable:
        recipe = self.recipe_of(source.part)
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
        dated = with_dates(connection, parquet, kinds, recipe.declined) if len(kinds) <= BROAD else Dated(kinds)
        kinds, cells, notes = dated.kinds, (*cells, *dated.cells), [*notes, *dated.notes]
        if recipe.steps:
            # Few tables have steps, and what works them takes as long to load as a small file to read.
            from gumption.intake.reshape import reshaped

            kinds, shaped = reshaped(connection, parquet, kinds, recipe.steps, self.out)
            notes += shaped
            simple, profiled = False, None
        if profiled is None:
            source_read = f"read_parquet({literal(str(parquet))})"
            profiled = profile(connection, source_read, kinds, parquet.stem, declined=recipe.declined)
        rows, columns = profiled
        notes += [several_note(c) for c in columns if c.separator]
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
        columns = [c.model_copy(update={"description": said.get(c.name, "")}) for c in told_whole(columns, dated)]
        table = Table(name=parquet.stem, source=source.file, rows=rows, columns=tuple(columns), notes=tuple(notes))
        return ReadTable(table, reading, parquet)


def _unit_in(name: str) -> str | None:
    """The currency that a column's name gives in brackets: Umsatz (in €)."""
    found = re.search(r"[(\[](?:in )?(£|€|\$|GBP|EUR|USD|CHF)[)\]]", name)
    return found[1] if found else None


def _known_unit(unit: str) -> str:
    return {"£": "GBP", "€": "EUR", "$": "USD", "per cent": "%", "percent": "%"}.get(unit.lower(), unit)
