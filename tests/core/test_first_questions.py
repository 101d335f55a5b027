"""The first questions of people about files of other trades: a till, a race, trade by country, homes with short names."""

from __future__ import annotations

import datetime as dt
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import ClassVar

from gumption.cli.files import Opened
from gumption.core.reading.read import QuestionReader
from gumption.engines.choosing import chosen
from tests.support import opened_from

DAY = dt.date(2025, 9, 30)
Rows = list[tuple[object, ...]]

TILL = {
    "till.csv": "Receipt,Date,Item,Category,Qty,Line Total,Barista\n"
    + "".join(
        f"{20000 + i // 2},{1 + i % 28:02d}/{6 + i % 3:02d}/2025,{item},{kind},{1 + i % 3},{(1 + i % 3) * price:.2f},{who}\n"
        for i in range(120)
        for item, kind, price, who in [
            (("Latte", "Coffee", 3.0, "Ines"), ("Scone", "Cake", 2.0, "Kit"), ("Mocha", "Coffee", 4.0, "Lou"))[i % 3]
        ]
    )
}
RACE = {
    "race.csv": "Bib,Runner,Club,Sex,Age,Finish Time,Entry Fee\n"
    + "".join(
        f"{bib},{name},{club},{sex},{age},{time},25\n"
        for bib, name, club, sex, age, time in (
            (1, "Ada Orme", "Kelsby", "F", 31, "1:52:04"),
            (2, "Bo Pike", "Kelsby", "M", 64, "2:10:41"),
            (3, "Cleo Rudd", "", "F", 45, "1:39:27"),
            (4, "Dan Selby", "Marlow", "M", 22, "2:31:09"),
            (5, "Esme Tarn", "", "F", 58, "1:58:36"),
            (6, "Finn Vane", "Kelsby", "M", 37, "1:47:15"),
        )
    )
}
TRADE = {
    "trade.csv": "Year,Partner,Product,Flow,Value\n"
    + "".join(
        f"{year},{partner},{product},{flow},{start + 10 * (year - 2023) + 5 * p}\n"
        for year in (2023, 2024)
        for partner, base in (("Norland", 100), ("Vessia", 40))
        for p, product in enumerate(("Food", "Fuels"))
        for flow, start in (("Imports", base), ("Exports", base + 7))
    )
}
HOMES = {
    "dwell.csv": "uprn,addr,typ,patch\n"
    "D1,1 Mill Rd,F,NORTH\nD2,2 Oak St,H,NORTH\nD3,3 Quay Ct,F,EAST\nD4,4 Dale Rd,B,EAST\n",
    "tncy.csv": "tncy,uprn,lead_nm,st,en,yob\n"
    "T1,D1,Ada Ames,2020-01-06,,1950\nT2,D2,Bo Bligh,2019-03-04,2024-02-01,1990\nT3,D3,Cleo Dunn,2021-05-03,,1981\n",
    "repairs.csv": "job,uprn,rep_dt,tgt_dt,comp_dt,cost\n"
    "1,D1,2025-01-02,2025-01-09,2025-01-08,40\n2,D1,2025-02-03,2025-02-10,2025-02-20,60\n"
    "3,D2,2025-03-04,2025-03-11,2025-03-10,50\n4,D3,2025-09-01,2025-09-08,,\n",
}
MEANT = {
    "dwell.csv": {"uprn": "property reference", "addr": "address", "typ": "kind of home: F flat, H house, B bungalow"},
    "tncy.csv": {
        "tncy": "tenancy number",
        "lead_nm": "name of the lead tenant",
        "st": "tenancy start",
        "en": "tenancy end, empty if it is running",
        "yob": "lead tenant's year of birth",
    },
    "repairs.csv": {
        "job": "repair job number",
        "rep_dt": "date reported",
        "tgt_dt": "target date",
        "comp_dt": "date completed, empty while open",
        "cost": "cost in pounds",
    },
}


class Trade(unittest.TestCase):
    """Files of one trade, opened once."""

    files: ClassVar[dict[str, str]] = {}
    meant: ClassVar[dict[str, dict[str, str]] | None] = None
    opened: Opened
    reader: QuestionReader

    @classmethod
    def setUpClass(cls) -> None:
        scratch = TemporaryDirectory()
        cls.addClassCleanup(scratch.cleanup)
        cls.opened, cls.reader = opened_from(Path(scratch.name), cls.files, cls.meant)

    def asked(self, question: str) -> tuple[str, Rows]:
        """The words of the first reading and its rows."""
        found = chosen(self.reader.read(question, DAY), self.opened.answerer)
        self.assertEqual(found.status, "answered", f"{question}: {found.problem}")
        _, rows = self.opened.answerer.rows(found.readings[0].plan)
        return found.readings[0].words, [tuple(r) for r in rows]

    def assert_answers(self, answers: dict[str, Rows]) -> None:
        """Each question's rows begin with the cells that are expected, numbers to six digits."""
        for question, expected in answers.items():
            with self.subTest(question):
                words, rows = self.asked(question)
                shown = [tuple(_plain(v) for v in r[: len(e)]) for r, e in zip(rows, expected, strict=False)]
                self.assertEqual((len(rows), shown), (len(expected), expected), words)


def _plain(value: object) -> object:
    try:
        return round(float(str(value)), 6)
    except ValueError:
        return str(value)


class AtTheTill(Trade):
    files = TILL

    def test_answers(self) -> None:
        lines = [line.split(",") for line in TILL["till.csv"].splitlines()[1:]]
        total = sum(float(line[5]) for line in lines)
        by_month = {m: sum(float(line[5]) for line in lines if line[1][3:5] == m) for m in ("07", "08")}
        self.assert_answers(
            {
                "how much did we take in total": [(round(total, 6),)],
                "how many receipts": [(60.0,)],
                "average spend per receipt": [(round(total / 60, 6),)],
                "how many lattes did we sell": [(float(sum(int(x[4]) for x in lines if x[2] == "Latte")),)],
                "did we take more in July or August": [(round(by_month["07"], 6), round(by_month["08"], 6))],
                "share of the takings that coffee makes up": [
                    (round(100 * sum(float(x[5]) for x in lines if x[3] == "Coffee") / total, 6),)
                ],
            }
        )


class AtTheRace(Trade):
    files = RACE

    def test_answers(self) -> None:
        self.assert_answers(
            {
                "how many ran under 2 hours": [(4.0,)],
                "average age of the women": [(round((31 + 45 + 58) / 3, 6),)],
                "which club had the most runners": [("Kelsby", 3.0)],
                "median finish time for men and for women": [("M", 7841.0), ("F", 6724.0)],
            }
        )

    def test_oldest_and_youngest_go_by_years(self) -> None:
        self.assertIn("64", str(self.asked("oldest runner")[1]))
        self.assertIn("22", str(self.asked("youngest runner")[1]))


class TradeByCountry(Trade):
    files = TRADE

    def test_rows_of_figures_are_added_up(self) -> None:
        self.assert_answers(
            {
                "exports by partner in 2024": [("Norland", 239.0), ("Vessia", 119.0)],
                "trade balance in 2024": [(28.0,)],
                "how have imports from Vessia changed since 2023": [(85.0, 105.0)],
                "exports as a percentage of imports by partner in 2023": [
                    ("Vessia", round(9900 / 85, 6)),
                    ("Norland", round(21900 / 205, 6)),
                ],
            }
        )


class Homes(Trade):
    files, meant = HOMES, MEANT

    def test_answers(self) -> None:
        self.assert_answers(
            {
                "how many homes do we have": [(4.0,)],
                "empty homes": [("D2",), ("D4",)],
                "share of repairs completed on time": [(0.666667,)],
                "homes with no repairs": [("D4",)],
                "how many tenants are over 70": [(1.0,)],
                "repairs per home by patch": [("NORTH", 1.5), ("EAST", 0.5)],
                "which repairs are past their target date": [(4.0,)],
            }
        )


class Marks(unittest.TestCase):
    def test_a_mark_among_numbers_is_no_number(self) -> None:
        """Official figures write a letter where a number is not told; the others stay numbers."""
        rows = "".join(f"A{i % 9},{2000 + i},{'c' if i % 8 == 0 else 100 + i}\n" for i in range(80))
        with TemporaryDirectory() as scratch:
            opened, _ = opened_from(Path(scratch), {"figures.csv": "area,year,offences\n" + rows})
            column = opened.catalogue.table("figures").column("offences")
            self.assertTrue(column.type.is_number)
            self.assertEqual(column.missing, 10)


del Trade

if __name__ == "__main__":
    unittest.main()
