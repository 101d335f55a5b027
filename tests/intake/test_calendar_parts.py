"""Years, months and days in columns of their own: the date put together from them, and questions asked of it."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from gumption.core.code.python import plan_python
from gumption.core.model.files import Recipe
from gumption.engines.choosing import chosen
from gumption.intake.read import read_file
from tests.support import DEMO_DAY, opened_from

MONTHS = ("January", "February", "March", "April", "May", "June", "July", "August", "September", "October")
FILES = {
    "days.csv": ("year,month,day,depot,parcels", [f"{y},{m},{d},{s},{m + d}" for y in (2023, 2024) for m in (2, 4, 7) for d in (3, 17, 29 if m > 2 else 28) for s in "NS"]),
    "meters.csv": ("Site,Year,Month,kWh", [f"{s},{y},{m},{100 + n}" for s in ("Mill", "Yard") for y in (2022, 2023) for n, m in enumerate(MONTHS)]),
    "births.csv": ("year,quarter,area,births", [f"{y},Q{q},{a},{q * 10}" for y in (2021, 2022) for q in (1, 2, 3, 4) for a in "NS"]),
    "shops.csv": ("year,week,shop,units", [f"{y},{w},{s},{w}" for y in (2022, 2023) for w in range(1, 53) for s in "AB"]),
    "orders.csv": ("order_no,order_year,order_month,birth_year,amount", [f"{n},2023,{1 + n % 12},{1950 + n},{n}" for n in range(60)]),
    "whole.csv": ("date,year,month,units", [f"{y}-{m:02d}-07,{y},{m},{m}" for y in (2022, 2023) for m in range(1, 13)]),
    "budget.csv": ("fiscal_year,fiscal_month,spent", [f"{y},{m},{m}" for y in (2022, 2023) for m in range(1, 13)]),
    "pupils.csv": ("name,year,day,mark", [f"P{n} Q,{7 + n % 5},{'Mon' if n % 2 else 'Tue'},{n}" for n in range(60)]),
}  # fmt: skip


class PartsOfDates(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        files = {name: "\n".join([head, *rows]) + "\n" for name, (head, rows) in FILES.items()}
        cls.alone = {}
        for name, text in files.items():
            place = cls.folder / Path(name).stem
            place.mkdir()
            cls.alone[name] = opened_from(place, {name: text})

    def dates(self, name: str) -> dict[str, str]:
        (table,) = self.alone[name][0].catalogue.tables
        return {c.name: f"{c.low}..{c.high} {c.distinct}" for c in table.columns if c.type.is_time}

    def test_they_make_a_date(self) -> None:
        self.assertEqual(self.dates("days.csv"), {"date": "2023-02-03..2024-07-29 18"})
        self.assertEqual(self.dates("meters.csv"), {"date": "2022-01-01..2023-10-01 20"})
        self.assertEqual(self.dates("births.csv"), {"date": "2021-01-01..2022-10-01 8"})
        self.assertEqual(self.dates("shops.csv"), {"date": "2022-01-03..2023-12-25 104"})
        self.assertEqual(self.dates("orders.csv"), {"order_date": "2023-01-01..2023-12-01 12"})

    def test_but_not_where_a_column_has_it_or_none_is_meant(self) -> None:
        self.assertEqual(self.dates("whole.csv"), {"date": "2022-01-07..2023-12-07 24"})
        self.assertEqual(self.dates("budget.csv"), {})
        self.assertEqual(self.dates("pupils.csv"), {})

    def test_it_is_told_of_and_can_be_undone(self) -> None:
        (table,) = self.alone["days.csv"][0].catalogue.tables
        (note,) = table.notes
        self.assertEqual((note.act, note.key), ("date was put together from year, month and day", "parts:date"))
        out = self.folder / "undone"
        out.mkdir()
        recipe = Recipe(declined=(note.key,))
        (undone,) = read_file(self.folder / "days" / "days.csv", "days.csv", out, recipes={"": recipe})
        self.assertEqual([c.name for c in undone.table.columns], ["year", "month", "day", "depot", "parcels"])

    def test_questions_are_asked_of_it(self) -> None:
        for name, question, words in (
            ("days.csv", "parcels by month", "the total parcels, for each month"),
            ("days.csv", "parcels on Mondays", "the total parcels, where date is on a Monday"),
            ("days.csv", "parcels in month 4", "the total parcels, where month is 4"),
            ("meters.csv", "kWh in the latest month", "the total kWh, where month is the last there is"),
            ("births.csv", "births quarter on quarter", "the total births and the change on the one before, for each quarter"),
            ("whole.csv", "units by month", "the total units, for each month"),
        ):  # fmt: skip
            opened, reader = self.alone[name]
            with self.subTest(question):
                read = chosen(reader.read(question, DEMO_DAY), opened.answerer)
                self.assertEqual(read.readings[0].words, words)

    def test_months_of_several_years_come_one_after_the_other(self) -> None:
        for name in ("days.csv", "meters.csv", "whole.csv"):
            opened, reader = self.alone[name]
            read = chosen(reader.read("how many rows by month", DEMO_DAY), opened.answerer)
            names, rows = opened.answerer.rows(read.readings[0].plan)
            self.assertEqual(names[0], "month_of_date", name)
            self.assertEqual(len(rows), {"days.csv": 6, "meters.csv": 20, "whole.csv": 24}[name], name)

    def test_the_code_puts_it_together_as_well(self) -> None:
        for name, question in (
            ("days.csv", "parcels by month"),
            ("meters.csv", "kWh by month"),
            ("births.csv", "births since April 2022"),
            ("shops.csv", "units by month"),
        ):
            opened, reader = self.alone[name]
            (reading,) = chosen(reader.read(question, DEMO_DAY), opened.answerer).readings[:1]
            code = plan_python(reading.plan, opened.catalogue, opened.answerer.readings)
            with self.subTest(question):
                script = self.folder / Path(name).stem / "script.py"
                script.write_text(code, encoding="utf-8")
                ran = subprocess.run(
                    [sys.executable, script], cwd=script.parent, capture_output=True, text=True, check=True
                )
                _, rows = opened.answerer.rows(reading.plan)
                told = [line.split()[-1] for line in ran.stdout.splitlines()[1:]]
                self.assertEqual([float(t) for t in told], [float(r[-1]) for r in rows])


if __name__ == "__main__":
    unittest.main()
