"""Answers as workbooks, read back by another library: values of every type, totals that add up, names, charts."""

from __future__ import annotations

import datetime as dt
import tempfile
import unittest
from decimal import Decimal
from pathlib import Path

import openpyxl

from gumption.core.model.types import Role, Type, Value
from gumption.core.plan.fields import Field
from gumption.engines.workbook import Sheet, write_workbook
from tests.core.folio.test_folio import MONEY, NAME, working

KINDS = {
    "text": Field(Type.TEXT, Role.TEXT),
    "whole": Field(Type.INTEGER, Role.QUANTITY),
    "fee": Field(Type.DECIMAL, Role.MONEY, 2, "GBP"),
    "rate": Field(Type.FLOAT, Role.PERCENTAGE),
    "day": Field(Type.DATE, Role.DATE),
    "at": Field(Type.TIMESTAMP, Role.DATE),
    "clock": Field(Type.TIME, Role.DATE),
    "lasted": Field(Type.DURATION, Role.QUANTITY),
    "kept": Field(Type.BOOLEAN, Role.FLAG),
}


class Workbooks(unittest.TestCase):
    def book(self, *sheets: Sheet) -> openpyxl.Workbook:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        path = Path(folder.name) / "answer.xlsx"
        write_workbook(path, sheets)
        return openpyxl.load_workbook(path)

    def sheet(
        self, fields: dict[str, Field], *rows: tuple[Value, ...], title: str = "Answer", **further: object
    ) -> Sheet:
        return Sheet(title, fields, [rows], len(rows), working(fields, *rows), **further)  # type: ignore[arg-type]

    def test_values_of_every_type_come_back(self) -> None:
        moment = dt.datetime(2026, 10, 31, 14, 30)
        row = ("=1+1", 7, Decimal("1234.50"), 0.25, moment.date(), moment, moment.time(), 5400.0, True)
        odd = ("<a> & \x07 _x0041_\n b ", 2**60, None, None, dt.date(1815, 6, 18), None, None, None, False)
        read = list(self.book(self.sheet(KINDS, row, odd)).worksheets[0].iter_rows(min_row=2))
        self.assertEqual(
            [c.value for c in read[0]],
            [
                "=1+1",
                7,
                1234.5,
                0.25,
                moment.replace(hour=0, minute=0),
                moment,
                moment.time(),
                dt.timedelta(minutes=90),
                True,
            ],
        )
        self.assertEqual(read[0][0].data_type, "s", "what looks like a formula stays text")
        shown = [c.number_format for c in read[0]]
        self.assertEqual(
            shown[2:8], ['"£"#,##0.00', "0.0%", "dd mmm yyyy", "dd mmm yyyy hh:mm", "hh:mm:ss", "[h]:mm:ss"]
        )
        told = [c.value for c in read[1]]
        self.assertEqual((told[1], told[2], told[4], told[8]), (str(2**60), None, "1815-06-18", False))
        self.assertEqual(openpyxl.utils.escape.unescape(str(told[0])), "<a> & \x07 _x0041_\n b ")

    def test_totals_are_formulas_where_they_are_sums(self) -> None:
        fields = {"of": NAME, "sum": MONEY, "average": MONEY, "total_row": Field(Type.BOOLEAN, Role.FLAG)}
        rows: list[tuple[Value, ...]] = [("Elm", Decimal(3), Decimal(3), False), ("Oak", Decimal(4), Decimal(5), False)]
        sheet = self.book(self.sheet(fields, *rows, (None, Decimal(7), Decimal(4), True))).worksheets[0]
        self.assertEqual([c.value for c in sheet[1]], ["of", "sum", "average"])
        self.assertEqual([c.value for c in sheet[4]], [None, "=SUM(B2:B3)", 4])
        self.assertEqual(next(iter(sheet.tables.values())).ref, "A1:C3")

    def test_names_notes_and_charts(self) -> None:
        fields = {"of": NAME, "takings": MONEY}
        rows = (("Elm", Decimal(3)), ("Oak", Decimal(4)))
        long = "takings: by shop [of the north] and further words"
        book = self.book(
            self.sheet(fields, *rows, title=long, kind="bar"),
            self.sheet(fields, *rows, title=long, note="The first 2 of 9 rows."),
            self.sheet(fields, title="Proof"),
        )
        self.assertEqual(
            book.sheetnames, ["takings by shop of the north an", "takings by shop of the nort 2", "Proof 2", "Proof"]
        )
        self.assertEqual([len(s._charts) for s in book.worksheets], [1, 0, 0, 0])
        second = book.worksheets[1]
        self.assertEqual(
            (second["A1"].value, second["A3"].value, second["A4"].value), ("The first 2 of 9 rows.", "of", "Elm")
        )
        self.assertEqual(sum(row[0].value == "Question" for row in book["Proof"].iter_rows()), 3)
