"""Rows as CSV that other programs open: raw values, all of them, and nothing that such a program would run."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Iterator, Sequence
from decimal import Decimal

from gumption.core.model.types import Type, Value
from gumption.core.present.cells import harmless


def csv_pieces(columns: Sequence[tuple[str, Type]], batches: Iterable[Sequence[Sequence[Value]]]) -> Iterator[str]:
    """The text of a file, a piece for the names and one for each batch of rows.

    Missing values are empty, dates ISO, yes and no true and false, durations hours, minutes and seconds.
    """
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(harmless(name) for name, _ in columns)
    yield text.getvalue()
    lasting = [place for place, (_, kind) in enumerate(columns) if kind is Type.DURATION]
    for rows in batches:
        text = io.StringIO()
        writer = csv.writer(text)
        for row in rows:
            cells = [_cell(value) for value in row]
            for place in lasting:
                cells[place] = _lasting(row[place])
            writer.writerow(cells)
        yield text.getvalue()


def _cell(value: Value) -> Value:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "true" if value else "false"
    return harmless(value)


def _lasting(value: Value) -> str:
    """Seconds as hours, minutes and seconds, with what is less than a second behind a point."""
    if not isinstance(value, (int, float, Decimal)):
        return ""
    micros = round(abs(float(value)) * 1_000_000)
    whole, part = divmod(micros, 1_000_000)
    sign = "-" if value < 0 and micros else ""
    clock = f"{sign}{whole // 3600}:{whole // 60 % 60:02d}:{whole % 60:02d}"
    return f"{clock}.{part:06d}".rstrip("0") if part else clock
