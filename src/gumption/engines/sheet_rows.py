"""Many rows for a sheet of a workbook, as XML made here: cell by cell through the library they take ten times as long."""

from __future__ import annotations

import datetime as dt
import re
import shutil
import tempfile
from collections.abc import Callable, Iterable, Sequence
from decimal import Decimal
from xml.sax.saxutils import escape

from xlsxwriter.format import Format
from xlsxwriter.utility import xl_col_to_name
from xlsxwriter.worksheet import Worksheet

from gumption.core.model.types import Type, Value

_BEFORE_FIRST = dt.date(1899, 12, 30)
"""Workbooks count days from here."""
_CONTROL = re.compile(r"[\x00-\x08\x0b-\x1f\ufffe\uffff]|_x[0-9A-Fa-f]{4}_")
_LONGEST = 32_767
_LARGEST = 2**53
_HELD = 4_000_000

Written = Callable[[Value], str]
"""The XML of a cell behind the place that it is at."""


class RowSheet(Worksheet):  # type: ignore[misc]
    """A sheet that takes rows as they come, and writes them out between those that were written one by one.

    The names with a line before them are the library's: the parts of its sheet that it writes when the workbook is closed.
    """

    dim_rowmin: int | None
    dim_rowmax: int | None

    def __init__(self) -> None:
        super().__init__()
        self._first = 0
        self._rows = tempfile.SpooledTemporaryFile(_HELD, "w+", encoding="utf-8")  # noqa: SIM115 (closed with the sheet)

    def take_rows(
        self, first: int, rows: Iterable[Sequence[Value]], kinds: Sequence[tuple[Type, Format | None]]
    ) -> int:
        """Write rows from the line `first` on, their columns of these kinds; how many there were."""
        self._first = first
        begun = [f'<c r="{xl_col_to_name(place)}' for place in range(len(kinds))]
        written = [_written(kind, form) for kind, form in kinds]
        count = 0
        for number, row in enumerate(rows, start=first + 1):
            cells = "".join(
                f'{begin}{number}"{write(value)}'
                for begin, write, value in zip(begun, written, row, strict=True)
                if value is not None
            )
            self._rows.write(f'<row r="{number}">{cells}</row>')
            count += 1
        if count:
            self._check_dimensions(first + count - 1, len(kinds) - 1)
        return count

    def _write_sheet_data(self) -> None:
        low, high = self.dim_rowmin, self.dim_rowmax
        if not self._rows.tell():
            self._rows.close()
            super()._write_sheet_data()
            return
        self._xml_start_tag("sheetData")
        self.dim_rowmin, self.dim_rowmax = 0, self._first - 1
        self._write_rows()
        self._rows.seek(0)
        shutil.copyfileobj(self._rows, self.fh)
        self._rows.close()
        self.dim_rowmin, self.dim_rowmax = self._first, high
        self._write_rows()
        self.dim_rowmin = low
        self._xml_end_tag("sheetData")


def _written(kind: Type, form: Format | None) -> Written:
    """What writes the cells of a column."""
    style = f' s="{form._get_xf_index()}"' if form is not None else ""
    text = f'{style} t="inlineStr"><is><t xml:space="preserve">'

    def told(value: Value) -> str:
        """Any value as the text that it is."""
        plain = str(value)[:_LONGEST]
        if _CONTROL.search(plain):
            plain = _CONTROL.sub(lambda found: f"_x{ord(found[0][0]):04X}_{found[0][1:]}", plain)
        return f"{text}{escape(plain)}</t></is></c>"

    def number(value: Value) -> str:
        assert isinstance(value, (int, float, Decimal))
        if not -_LARGEST < value < _LARGEST:
            return told(value)
        return f"{style}><v>{value if type(value) is int else float(value)!r}</v></c>"

    def moment(value: Value) -> str:
        match value:
            case dt.datetime() if value.year >= 1900:
                days = (value - dt.datetime.combine(_BEFORE_FIRST, dt.time())) / dt.timedelta(days=1)
                return f"{style}><v>{days!r}</v></c>"
            case dt.date() if value.year >= 1900:
                return f"{style}><v>{(value - _BEFORE_FIRST).days}</v></c>"
            case dt.time():
                seconds = (value.hour * 60 + value.minute) * 60 + value.second
                return f"{style}><v>{seconds / 86_400!r}</v></c>"
            case _:
                return told(value)

    match kind:
        case Type.TEXT:
            return told
        case Type.INTEGER | Type.DECIMAL | Type.FLOAT:
            return number
        case Type.DURATION:
            return lambda value: number(float(value) / 86_400 if isinstance(value, (int, float, Decimal)) else value)
        case Type.BOOLEAN:
            return lambda value: f'{style} t="b"><v>{int(bool(value))}</v></c>'
        case Type.DATE | Type.TIMESTAMP | Type.TIME:
            return moment
