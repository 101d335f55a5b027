"""Answers as a workbook: a sheet each, with a chart of the workbook's own, and what proves them on a last one."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal
from pathlib import Path

import xlsxwriter
from xlsxwriter.utility import xl_col_to_name

from gumption.core.folio.working import Working
from gumption.core.model.types import Type, Value
from gumption.core.model.wish import Kind
from gumption.core.plan.fields import Field, Schema
from gumption.core.present.numbers import cell, currency_sign, head, is_measure, is_share
from gumption.engines.errors import CannotAnswer
from gumption.engines.files import Rows
from gumption.engines.sheet_rows import RowSheet

MOST_SHEET_ROWS = 1_048_575
"""Rows that a sheet has below its head."""
_WIDEST, _NARROWEST = 60, 8
_LOOKED_AT = 200
_MOST_CHARTED, _MOST_SERIES = 500, 12
_CHARTS: dict[Kind, dict[str, str]] = {
    "bar": {"type": "bar"},
    "line": {"type": "line"},
    "area": {"type": "area"},
    "pie": {"type": "pie"},
    "heat": {"type": "column"},
}
"""The workbook's own chart for a kind of ours; others are left to the picture of them."""
_ROUNDED = Decimal("1e-6")
"""How far apart figures may be that differ by rounding alone."""
_TOTALS = "total_row"
"""The column that marks the rows of a cross table that add up the others."""


@dataclass(frozen=True)
class Sheet:
    """An answer for a sheet of its own."""

    title: str
    """What the sheet is called, as far as a workbook can."""
    schema: Schema
    batches: Rows
    total: int
    """How many rows come."""
    proof: Working
    kind: Kind | None = None
    """How it is drawn."""
    note: str = ""
    """What a person should know before the rows."""


def write_workbook(path: Path, sheets: Sequence[Sheet]) -> None:
    """Each answer on a sheet with number formats and a chart, and on the last one what proves them. Raises CannotAnswer."""
    for sheet in sheets:
        if sheet.total > MOST_SHEET_ROWS:
            raise CannotAnswer(
                f"A sheet holds {MOST_SHEET_ROWS:,} rows.", "Save it as CSV or Parquet.", found=sheet.total
            )
    # What looks like a formula, a link or a number stays the text that it is.
    plain = {"strings_to_formulas": False, "strings_to_urls": False, "strings_to_numbers": False}
    with xlsxwriter.Workbook(str(path), plain) as book:
        names: list[str] = ["Proof"]
        for sheet in sheets:
            names.append(_free(sheet.title, names))
            _write_sheet(book, book.add_worksheet(names[-1], RowSheet), sheet)
        about = book.add_worksheet(names[0])
        about.set_column(0, 0, 18)
        about.set_column(1, 1, 110)
        label = book.add_format({"bold": True})
        lines = (line for sheet in sheets for line in (*proof_lines(sheet.proof), ("", "")))
        for place, (what, words) in enumerate(lines):
            about.write_string(place, 0, what, label if what else None)
            about.write_string(place, 1, words[:32_767])


def proof_lines(working: Working) -> Iterator[tuple[str, str]]:
    """What proves an answer, as lines to be kept beside it."""
    yield "Question", working.question
    yield "Read as", working.reading
    yield "Found", working.finding
    for what, words in (("Doubted", working.doubt), ("Note", working.note)):
        if words:
            yield what, words
    for number, step in enumerate(working.steps, start=1):
        yield "Steps" if number == 1 else "", f"{number}. {step}"
    for number, check in enumerate(working.checks):
        detail = f" ({check.detail})" if check.detail else ""
        yield "Checks" if number == 0 else "", f"{check.weight}: {check.sentence}{detail}"
    for number, line in enumerate(working.sql.splitlines()):
        yield "SQL" if number == 0 else "", line


def _free(title: str, taken: Sequence[str]) -> str:
    """A name that a sheet may have and no other has: short, and without the marks of formulas."""
    plain = " ".join(re.sub(r"[\[\]:*?/\\\x00-\x1f]", " ", title).split()).strip("'")[:31].strip() or "Answer"
    name, number = plain, 2
    while name.lower() in {t.lower() for t in taken}:
        name, number = f"{plain[:27].strip()} {number}", number + 1
    return name


def _write_sheet(book: xlsxwriter.Workbook, sheet: RowSheet, of: Sheet) -> None:
    schema = {name: field for name, field in of.schema.items() if name != _TOTALS}
    mark = list(of.schema).index(_TOTALS) if _TOTALS in of.schema else None
    heads = _heads(schema)
    bold = book.add_format({"bold": True, "bottom": 1})
    formats = [book.add_format({"num_format": shown}) if (shown := _format(f)) else None for f in schema.values()]
    first = 0
    if of.note:
        sheet.write_string(0, 0, of.note)
        first = 2
    for place, text in enumerate(heads):
        sheet.write_string(first, place, text, bold)
    begun: list[Sequence[Value]] = []
    totals: list[Sequence[Value]] = []
    sums = [Decimal(0)] * len(heads)

    def rows() -> Iterator[Sequence[Value]]:
        """The rows but those that add up the others, which come after them."""
        nonlocal sums
        for row in (row for batch in of.batches for row in batch):
            values = row
            if mark is not None:
                values = [v for place, v in enumerate(row) if place != mark]
                if row[mark]:
                    totals.append(values)
                    continue
                sums = [s + _exact(v) for s, v in zip(sums, values, strict=True)]
            if len(begun) < _MOST_CHARTED:
                begun.append(values)
            yield values

    kinds = [(field.type, form) for field, form in zip(schema.values(), formats, strict=True)]
    number = sheet.take_rows(first + 1, rows(), kinds)
    for place, text in enumerate(heads):
        longest = max((len(str(row[place])) for row in begun[:_LOOKED_AT] if row[place] is not None), default=0)
        sheet.set_column(place, place, max(len(text) + 2, min(longest + 2, _WIDEST), _NARROWEST))
    sheet.freeze_panes(first + 1, 0)
    if number:
        columns = [{"header": text} for text in heads]
        sheet.add_table(first, 0, first + number, len(heads) - 1, {"columns": columns, "style": "Table Style Light 1"})
    for place, values in enumerate(totals):
        _write_totals(book, sheet, (first + 1, first + number, first + number + 1 + place), values, schema, sums)
    if number <= _MOST_CHARTED:
        _write_chart(book, sheet, of, schema, (first, begun))


def _write_totals(
    book: xlsxwriter.Workbook,
    sheet: RowSheet,
    rows: tuple[int, int, int],
    values: Sequence[Value],
    schema: Schema,
    sums: Sequence[Decimal],
) -> None:
    """A row over all the rows from the first to the last given: where it adds them up as a formula, which follows what is changed."""
    first, last, here = rows
    for place, (value, field) in enumerate(zip(values, schema.values(), strict=True)):
        look: dict[str, object] = {"bold": True, "top": 1} | ({"num_format": form} if (form := _format(field)) else {})
        shown = book.add_format(look)
        if value is None:
            sheet.write_blank(here, place, None, shown)
        elif not isinstance(value, (int, float, Decimal)):
            sheet.write_string(here, place, cell(value, field), shown)
        elif is_measure(field) and abs(sums[place] - _exact(value)) <= _ROUNDED:
            column = xl_col_to_name(place)
            sum_of = f"=SUM({column}{first + 1}:{column}{last + 1})"
            sheet.write_formula(here, place, sum_of, shown, float(value))
        else:
            # What is no sum of the rows, such as an average over all, stays the figure that it is.
            sheet.write_number(here, place, float(value), shown)


def _exact(value: Value) -> Decimal:
    """A number as it is; nought for what is none."""
    return Decimal(str(value)) if isinstance(value, (int, float, Decimal)) else Decimal(0)


def _write_chart(
    book: xlsxwriter.Workbook,
    sheet: RowSheet,
    of: Sheet,
    schema: Schema,
    written: tuple[int, Sequence[Sequence[Value]]],
) -> None:
    """The workbook's own chart beside the rows, where each row has one name and figures that share an axis."""
    first, rows = written
    fields, heads = list(schema.values()), _heads(schema)
    labels = [n for n, f in enumerate(fields) if not is_measure(f)]
    figures = [n for n, f in enumerate(fields) if is_measure(f)]
    figures = [
        n for n in figures if (fields[n].unit, fields[n].role) == (fields[figures[0]].unit, fields[figures[0]].role)
    ]
    wanted = _CHARTS.get(of.kind) if of.kind is not None else None
    if wanted is None or len(labels) != 1 or not figures or len(rows) < 2:
        return
    label, last, name = labels[0], first + len(rows), sheet.get_name()
    chart = book.add_chart(wanted)
    for place in figures[: 1 if of.kind == "pie" else _MOST_SERIES]:
        chart.add_series(
            {
                "name": [name, first, place],
                "categories": [name, first + 1, label, last, label],
                "values": [name, first + 1, place, last, place],
                # What is shown before the chart is drawn anew.
                "categories_data": [cell(row[label], fields[label]) for row in rows],
                "values_data": [float(_exact(row[place])) for row in rows],
                "fill": {"color": "#8FB0D6"} if of.kind == "bar" and len(figures) == 1 else {},
                "gap": 40,
            }
        )
    chart.set_title({"name": of.proof.finding[:250], "name_font": {"size": 11, "bold": False}})
    if len(figures) == 1 and of.kind != "pie":
        chart.set_legend({"none": True})
        across, up = {"name": heads[label]}, {"name": heads[figures[0]]}
        chart.set_x_axis(up if of.kind == "bar" else across)
        chart.set_y_axis({**across, "reverse": True} if of.kind == "bar" else up)
    elif of.kind == "bar":
        chart.set_y_axis({"reverse": True})
    tall = min(max(320, 18 * len(rows) + 120), 900) if of.kind == "bar" else 360
    chart.set_size({"width": 640, "height": tall})
    sheet.insert_chart(first, len(heads) + 1, chart)


def _heads(schema: Schema) -> list[str]:
    """The columns' heads, each once: a table of a workbook has no two alike, whatever their capitals."""
    heads: list[str] = []
    for name, field in schema.items():
        text, number = head(name, field), 2
        while text.lower() in {h.lower() for h in heads}:
            text, number = f"{head(name, field)} {number}", number + 1
        heads.append(text)
    return heads


def _format(field: Field) -> str:
    """How a workbook shows a column; none for texts."""
    match field.type:
        case Type.DATE:
            return {"month": "mmm yyyy", "year": "yyyy"}.get(field.grain or "", "dd mmm yyyy")
        case Type.TIMESTAMP:
            return "dd mmm yyyy hh:mm"
        case Type.TIME:
            return "hh:mm:ss"
        case Type.DURATION:
            return "[h]:mm:ss"
        case Type.INTEGER | Type.DECIMAL | Type.FLOAT:
            if not is_measure(field):
                return "0"
            if is_share(field):
                return "0.0%"
            digits = "" if field.type is Type.INTEGER else ".00"
            sign = currency_sign((field.unit or "").partition(" ")[0])
            return f'"{sign}"#,##0{digits}' if sign else f"#,##0{digits}"
        case _:
            return ""
