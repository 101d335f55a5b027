"""What the looks of a table tell a reading: long form, rows for each year, names in two parts, units, dates to come."""

from __future__ import annotations

import datetime as dt
import unittest

from gumption.engines.choosing import chosen
from tests import support

DAY = dt.date(2026, 9, 30)
FILES = {
    "figures.csv": "place,year,sex,indicator,value\n"
    + "".join(
        f"{place},{year},{sex},{name},{base + shift + year - 2020}\n"
        for place, base in (("Northvale", 100), ("Coast", 50), ("Moor", 70), ("All places", 220))
        for year in (2023, 2024)
        for sex, shift in (("Male", 1), ("Female", 2), ("All", 4))
        for name in ("Population", "Unemployment rate")
    ),
    "regions.csv": "region,year,births,deaths\n"
    + "".join(
        f"{region},{year},{births + 10 * (year - 2022)},{deaths}\n"
        for region, births, deaths in (("North", 400, 300), ("South", 500, 200), ("East", 300, 310))
        for year in range(2022, 2026)
    ),
    "members.csv": "member_no,First Name,Surname,born,left_on,weight_g\n"
    "M1,Ada,Pike,1950-02-01,2025-01-31,61000\nM2,Ben,Holt,2001-03-04,,82500\nM3,Cleo,Frost,1980-05-06,2027-01-31,55000\n"
    "M4,Dan,Keld,1999-07-08,,91000\nM5,Ada,Keld,1990-09-10,,64000\n",
    "loans.csv": "loan_no,member_no,lent_on,back_on\n"
    "1,M1,2026-01-05,2026-01-08\n2,M1,2026-02-10,2026-03-20\n3,M3,2026-04-01,2026-04-30\n",
}
ANSWERS: tuple[tuple[str, list[tuple[object, ...]]], ...] = (
    ("population of Coast in 2024", [(58,)]),
    ("how many regions", [(3,)]),
    ("how many members have left", [(1,)]),
    ("how many members are over 80 kg", [(2,)]),
    ("how many members never borrowed anything", [(3,)]),
    ("how many loans took more than 2 weeks", [(2,)]),
    ("members older than 60", [("M1",)]),
)


class KindsOfTables(support.Asked):
    files, day = FILES, DAY

    def test_answers(self) -> None:
        for question, expected in ANSWERS:
            with self.subTest(question):
                words, _, rows = self.asked(question)
                self.assertEqual([r[: len(expected[0])] for r in rows], expected, words)

    def test_who_has_both_names(self) -> None:
        _, columns, rows = self.asked("who is the heaviest")
        held = dict(zip(columns, rows[0], strict=True))
        self.assertEqual((held["First Name"], held["Surname"]), ("Dan", "Keld"))

    def test_a_row_for_all_is_left_out_of_its_groups(self) -> None:
        _, _, rows = self.asked("population by place in 2024")
        self.assertEqual(sorted(r[0] for r in rows), ["Coast", "Moor", "Northvale"])

    def test_bands_of_a_round_width(self) -> None:
        words, _, rows = self.asked("distribution of births")
        self.assertIn("band", words)
        self.assertEqual(sum(int(str(r[1])) for r in rows), 12)
        found = chosen(self.reader.read("births in bands of 100", DAY), self.opened.answerer)
        self.assertRegex(self.opened.answerer.answer(found.readings[0].plan, DAY).finding, r"\d+ to \d+ has the most")

    def test_what_rose_the_most(self) -> None:
        _, _, rows = self.asked("which region grew most in births from 2022 to 2025")
        self.assertEqual(len(rows), 1)


if __name__ == "__main__":
    unittest.main()
