"""Columns that a question wants as rows: measures of a list, quantities of an answer, a column for each month."""

from __future__ import annotations

import datetime as dt
import unittest

from tests import support

FILES = {
    "repairs.csv": "repair_no,shop,labour,parts\n1,Elm,40,12\n2,Elm,25,30\n3,Oak,60,5\n",
    "intake.csv": "shop,Jan 2026,Feb 2026,Mar 2026\nElm,12,14,9\nOak,4,7,6\n",
}


class ColumnsToRows(support.Asked):
    files, day = FILES, dt.date(2026, 9, 30)

    def test_measures_of_a_list(self) -> None:
        for question in (
            "turn the labour and parts columns of the repairs into rows",
            "unpivot labour and parts",
            "repairs in long format",
        ):
            with self.subTest(question):
                words, columns, rows = self.asked(question)
                self.assertEqual(columns, ["repair_no", "shop", "measure", "value"], words)
                told = {(int(str(r[0])), r[2]): int(str(r[3])) for r in rows}
                self.assertEqual((len(rows), told[2, "labour"], told[2, "parts"]), (6, 25, 30))

    def test_only_some_rows(self) -> None:
        _, _, rows = self.asked("turn the labour and parts columns of Elm repairs into rows")
        self.assertEqual([int(str(r[3])) for r in rows], [40, 12, 25, 30])

    def test_quantities_one_under_the_other(self) -> None:
        _, columns, rows = self.asked("total labour and total parts by shop, one under the other")
        self.assertEqual(columns, ["shop", "measure", "value"])
        self.assertEqual({(r[0], r[1]): int(str(r[2])) for r in rows}["Elm", "total parts"], 42)

    def test_a_column_for_each_month(self) -> None:
        for question in ("turn the month columns into rows", "the month columns should be one column"):
            with self.subTest(question):
                _, columns, rows = self.asked(question)
                self.assertEqual((columns, len(rows)), (["shop", "month", "value"], 6))


if __name__ == "__main__":
    unittest.main()
