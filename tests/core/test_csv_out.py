"""What goes out as CSV, cell by cell."""

from __future__ import annotations

import datetime as dt
import unittest
from decimal import Decimal

from gumption.core.model.types import Type
from gumption.core.present.csv_out import csv_pieces


class CsvOut(unittest.TestCase):
    def test_cells_as_they_are_written(self) -> None:
        columns = [("=who", Type.TEXT), ("paid", Type.DECIMAL), ("here", Type.BOOLEAN), ("took", Type.DURATION)]
        first = [("@a, b", Decimal("2.50"), True, 5400.0), (None, None, None, None)]
        second = [("-3", Decimal("-1.00"), False, -61.25), (dt.date(2025, 1, 5), 10**17, True, 0.0)]
        text = "".join(csv_pieces(columns, [first, second]))
        self.assertEqual(
            text.split("\r\n"),
            [
                "'=who,paid,here,took",
                '"\'@a, b",2.50,true,1:30:00',
                ",,,",
                "-3,-1.00,false,-0:01:01.25",
                "2025-01-05,100000000000000000,true,0:00:00",
                "",
            ],
        )
        self.assertEqual("".join(csv_pieces(columns[:1], [])), "'=who\r\n")
