"""The first questions of people about files of other trades: a till, a race, trade by country, homes with short names."""

from __future__ import annotations

import datetime as dt
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

from tests import support

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


POWER = {
    "accts.csv": "acct,nm,pay_cd,opened,closed,vuln\n"
    "A1,Ada Ames,DD,2021-01-06,,1\nA2,Bo Bligh,PP,2022-03-04,2025-02-01,0\nA3,Cleo Dunn,DD,2024-05-03,,0\n"
    "A4,Dan Eke,PP,2020-05-03,2024-05-04,1\n",
    "contacts.csv": "cont,acct,dt,src,kept\n"
    + "".join(
        f"C{i},A{1 + i % 4 if i < 8 else 1},2025-0{1 + i % 9}-15,{'C' if i % 2 else 'S'},{'N' if i in (0, 4, 7) else 'K'}\n"
        for i in range(12)
    ),
    "crops.csv": "harv_yr,area,crop,yield_t_ha\n"
    + "".join(f"{y},{a},{c},{4 + i / 2}\n" for y in (2023, 2024) for a in "NS" for i, c in enumerate(("Oats", "Rye"))),
    "prices.csv": "yr,mth,crop,price_t\n"
    + "".join(
        f"{y},{mth},{c},{100 + mth + 20 * i + 50 * (y - 2023)}\n"
        for y in (2023, 2024)
        for mth in range(1, 13)
        for i, c in enumerate(("Oats", "Rye"))
    ),
}
POWER_MEANT = {
    "accts.csv": {
        "acct": "account number",
        "nm": "name of the customer",
        "pay_cd": "how they pay: DD direct debit, PP prepayment",
        "opened": "date the account was opened",
        "closed": "date it was closed, empty if it is live",
        "vuln": "1 if the customer is vulnerable",
    },
    "contacts.csv": {
        "cont": "contact number",
        "dt": "day of the contact",
        "src": "who began it: C customer, S supplier",
        "kept": "K kept, N no show",
    },
    "crops.csv": {"harv_yr": "year of harvest", "yield_t_ha": "yield in tonnes per hectare"},
    "prices.csv": {"price_t": "price per tonne in pounds", "mth": "month of the year"},
}


class Trade(support.Asked):
    """Files of one trade, opened once."""

    day = DAY

    def begins(self, answers: dict[str, Rows]) -> None:
        """Each question's rows begin with the cells that are expected, numbers to six digits."""
        for question, expected in answers.items():
            with self.subTest(question):
                words, _, rows = self.asked(question)
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
        self.begins(
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
        self.begins(
            {
                "how many ran under 2 hours": [(4.0,)],
                "average age of the women": [(round((31 + 45 + 58) / 3, 6),)],
                "which club had the most runners": [("Kelsby", 3.0)],
                "median finish time for men and for women": [("M", 7841.0), ("F", 6724.0)],
            }
        )

    def test_oldest_and_youngest_go_by_years(self) -> None:
        self.assertIn("64", str(self.asked("oldest runner")[2]))
        self.assertIn("22", str(self.asked("youngest runner")[2]))


class TradeByCountry(Trade):
    files = TRADE

    def test_rows_of_figures_are_added_up(self) -> None:
        self.begins(
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
        self.begins(
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


class Power(Trade):
    files, meant = POWER, POWER_MEANT

    def test_answers(self) -> None:
        self.begins(
            {
                "how many vulnerable customers are there": [(2.0,)],
                "customers who closed their account this year": [("Bo Bligh",)],
                "which customers contacted us more than 5 times": [("Ada Ames",)],
                "average yield of rye": [(4.5,)],
                "yield of oats by year": [(2023.0, 4.0), (2024.0, 4.0)],
                "oats price by month in 2024": [(float(month), 150.0 + month) for month in range(1, 13)],
                "change in the price of rye between 2023 and 2024": [(126.5, 176.5)],
            }
        )

    def test_the_worst_by_troubles_has_the_most(self) -> None:
        words, _, _ = self.asked("worst 2 customers by no show rate")
        self.assertIn("highest first", words)


class Marks(unittest.TestCase):
    def test_a_mark_among_numbers_is_no_number(self) -> None:
        """Official figures write a letter where a number is not told; the others stay numbers."""
        rows = "".join(f"A{i % 9},{2000 + i},{'c' if i % 8 == 0 else 100 + i}\n" for i in range(80))
        with TemporaryDirectory() as scratch:
            opened, _ = support.opened_from(Path(scratch), {"figures.csv": "area,year,offences\n" + rows})
            column = opened.catalogue.table("figures").column("offences")
            self.assertTrue(column.type.is_number)
            self.assertEqual(column.missing, 10)


del Trade

if __name__ == "__main__":
    unittest.main()
