"""Pages of a table's rows in any order, millions of them too."""

from __future__ import annotations

import functools
import threading
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from gumption.core.evaluate.vectors import Ints
from gumption.core.model.catalogue import Table
from gumption.core.model.types import Value
from gumption.core.present.csv_out import csv_pieces
from gumption.engines.duck import DuckEngine
from gumption.intake.sql import literal, quoted

_KEPT = 6


@dataclass(frozen=True)
class View:
    """Which rows of a table, and in which order; rows that are equal there stay in the file's order."""

    table: str
    columns: tuple[str, ...]
    sort: str | None = None
    descending: bool = False
    filter: str = ""


class RowPages:
    """The places of a view's rows are found once and kept; a page then reads only its rows."""

    def __init__(self, engine: Callable[[], DuckEngine]) -> None:
        """The engine is made when the first page is wanted: with many tables that takes a while."""
        self._make = engine
        self._places: dict[View, Ints] = {}
        self._lock = threading.Lock()

    @functools.cached_property
    def _engine(self) -> DuckEngine:
        return self._make()

    def page(self, view: View, offset: int, limit: int, size: int) -> tuple[list[tuple[Value, ...]], int]:
        """Rows from `offset` on, at most `limit`, and how many the view has; the table has `size` rows."""
        cells = ", ".join(map(quoted, view.columns))
        source = self._engine.numbered(view.table)
        if view.sort is None and not view.filter:
            sql = f"SELECT {cells} FROM {source} WHERE file_row_number >= {offset} AND file_row_number < {offset + limit} ORDER BY file_row_number"
            return self._engine.run(sql)[1], size
        places = self._found(view, source)
        wanted = places[offset : offset + limit]
        if not len(wanted):
            return [], len(places)
        listed = ", ".join(map(str, wanted.tolist()))
        _, rows = self._engine.run(f"SELECT file_row_number, {cells} FROM {source} WHERE file_row_number IN ({listed})")
        by_place = {row[0]: row[1:] for row in rows}
        return [by_place[int(p)] for p in wanted], len(places)

    def as_csv(self, table: Table) -> Iterator[str]:
        """The whole table as CSV, a piece at a time."""
        cells = ", ".join(quoted(column.name) for column in table.columns)
        rows = self._engine.batches(f"SELECT {cells} FROM {quoted(table.name)}")
        return csv_pieces([(column.name, column.type) for column in table.columns], rows)

    def _found(self, view: View, source: str) -> Ints:
        with self._lock:
            if view in self._places:
                return self._places[view]
        where = ""
        if view.filter:
            pattern = view.filter.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
            tests = [f"CAST({quoted(c)} AS VARCHAR) ILIKE {literal(f'%{pattern}%')} ESCAPE '\\'" for c in view.columns]
            where = f" WHERE {' OR '.join(tests)}"
        order = ""
        if view.sort is not None:
            order = f"{quoted(view.sort)} {'DESC' if view.descending else 'ASC'} NULLS LAST, "
        places = np.asarray(
            self._engine.numbers(f"SELECT file_row_number FROM {source}{where} ORDER BY {order}file_row_number")
        )
        with self._lock:
            while len(self._places) >= _KEPT:
                self._places.pop(next(iter(self._places)))
            self._places[view] = places
        return places
