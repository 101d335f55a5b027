"""First questions of ordinary trades: a bakery, repairs, a race, calls, staff, deliveries, deals, budgets, a league.

Each question stands with the reading that a person in that trade would expect, and no doubt.
"""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

from gumption.core.model.types import Role, Type
from gumption.core.reading.doubts import doubt_of
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, opened_from

FILES = {
    "bakery": {
        "Daily sales.csv": "Date,Shop,Product,Made,Sold,Wasted,Unit price,Takings\n"
        + "".join(
            f"2026-0{1 + i % 9}-{1 + i % 27:02d},{('Quay', 'Mill')[i % 2]},{('Rye Loaf', 'Bun', 'Tart')[i % 3]},"
            f"{20 + i % 9},{10 + i % 9},{10},{(3, 1, 2)[i % 3]}.50,{(10 + i % 9) * (3.5, 1.5, 2.5)[i % 3]}\n"
            for i in range(60)
        ),
    },
    "hours": {
        "Staff hours.csv": "Name,Shop,Week commencing,Mon,Tue,Wed,Thu,Fri,Sat,Rate\n"
        + "".join(
            f"{('Ann Pike', 'Bob Rowe', 'Cy Vale')[i % 3]},{('Quay', 'Mill')[i % 2]},2026-0{1 + i // 6}-05,8,{i % 5},4,0,8,{i % 3},11.50\n"
            for i in range(36)
        ),
    },
    "repairs": {
        "job list 2026.csv": "Job Ref,Address,Trade,Raised,Target,Completed,Contractor,Est cost,Actual cost,Status\n"
        + "".join(
            f"R-{500 + i},{i % 40} Elm Court,{('Roof', 'Gas')[i % 2]},2026-0{1 + i % 8}-03,2026-0{1 + i % 8}-10,2026-0{1 + i % 8}-{(8, 14)[i % 2]:02d},"
            f"{('Kerr', 'Hale')[i % 2]},{100 + i},{90 + 2 * i},{('Completed', 'Closed - no access', 'Completed')[i % 3]}\n"
            for i in range(90)
        ),
    },
    "race": {
        "results.csv": "Pos,Bib,Runner,Club,Sex,Cat,Time,Year\n"
        + "".join(
            f"{i + 1},{(i * 37) % 400 + 3},{'ABCDEFGH'[i % 8]}n {('Rowe', 'Vale', 'Pike')[i // 8 % 3]},{('Harriers', 'Valley')[i % 2]},{'MF'[i % 2]},"
            f"{('Senior', 'V40', 'V50')[i % 3]},0:{34 + (i * 7) % 25}:{(i * 11) % 60:02d},{2024 + i % 3}\n"
            for i in range(48)
        ),
    },
    "calls": {
        "call log.csv": "Call ID,Date/Time,Agent,Queue,Duration (mm:ss),Wait secs,Outcome\n"
        + "".join(
            f"{9000 + i},2026-0{1 + i % 9}-11 {8 + i % 10:02d}:{i % 60:02d},{('Ann Pike', 'Bob Rowe')[i % 2]},{('Sales', 'Help')[i // 2 % 2]},"
            f"{i % 26}:{(i * 7) % 60:02d},{(i * 13) % 400},{('Resolved', 'Abandoned', 'Resolved')[i % 3]}\n"
            for i in range(80)
        ),
    },
    "staff": {
        "employees.csv": "Emp ID,First name,Surname,Department,Start date,Leaving date,Salary,Line manager\n"
        + "".join(
            f"E{i:02d},{('Ann', 'Bob', 'Cy', 'Di')[i % 4]},{('Rowe', 'Vale', 'Pike')[i % 3]},{('Sales', 'IT', 'HR')[i % 3]},"
            f"20{15 + i % 12}-03-0{1 + i % 9},{'2026-05-01' if i % 9 == 4 else ''},{21000 + 500 * i},{f'E{i % 4:02d}' if i > 3 else ''}\n"
            for i in range(45)
        ),
        "absence.csv": "Emp ID,From,To,Days,Reason\n"
        + "".join(
            f"E{i % 40:02d},2026-0{1 + i % 9}-02,2026-0{1 + i % 9}-0{2 + i % 5},{1 + i % 5},{('Sickness', 'Unpaid')[i % 2]}\n"
            for i in range(70)
        ),
    },
    "drops": {
        "Deliveries Oct.csv": "Drop #,Date,Driver,Parcels,Planned ETA,Actual arrival,Signed for,Failed?\n"
        + "".join(
            f"{i + 1},2026-10-{1 + i % 28:02d},{('Tam', 'Rik', 'Joss')[i % 3]},{1 + i % 9},{9 + i % 8:02d}:30,{9 + i % 8:02d}:{(20, 45)[i % 2]},{('Yes', 'No')[i % 4 == 0]},{'Y' if i % 5 == 0 else ''}\n"
            for i in range(100)
        ),
    },
    "deals": {
        "opportunities.csv": "Opp Name,Account,Owner,Stage,Value,Probability,Created,Close date\n"
        + "".join(
            f"Deal {i},{('Aldo', 'Brix', 'Corvo')[i % 3]},{('Ann Pike', 'Bob Rowe')[i % 2]},{('Lead', 'Proposal', 'Won', 'Lost')[i % 4]},{(1 + i % 9) * 1000},"
            f"{(10, 50, 75)[i % 3]},2025-{1 + i % 12:02d}-04,2026-{1 + i % 12:02d}-20\n"
            for i in range(72)
        ),
    },
    "till": {
        "till transactions.csv": "Ticket,Date,Item,Category,Qty,Price,Line total,Server\n"
        + "".join(
            f"T{i // 2:03d},2026-0{1 + i % 9}-11,{('Latte', 'Scone', 'Soup')[i % 3]},{('Drinks', 'Cakes', 'Lunch')[i % 3]},{1 + i % 3},{(3, 2, 5)[i % 3]}.50,{(1 + i % 3) * (3.5, 2.5, 5.5)[i % 3]},{('Lil', 'Sam')[i % 2]}\n"
            for i in range(90)
        ),
    },
    "stock": {
        "Inventory.csv": "SKU,Product,Supplier,On hand,Reorder at,Unit cost,Retail price\n"
        + "".join(
            f"SK{i:03d},{('Plum', 'Oak', 'Wild')[i % 3]} {('Jam', 'Fudge', 'Cordial', 'Candle')[i // 3 % 4]},{('Dales', 'Peak')[i % 2]},{3 + 4 * i},10,{1 + i % 4}.20,{3 + i % 5}.95\n"
            for i in range(12)
        ),
    },
    "pages": {
        "Page stats.csv": "Date,Page,Channel,Sessions,Users,Bounces,Conversions,Revenue\n"
        + "".join(
            f"2026-0{5 + i % 4}-{1 + i % 27:02d},{('/home', '/pricing', '/blog')[i % 3]},{('Paid', 'Email')[i % 2]},{200 + i},{150 + i},{60 + i},{i % 9},{(i % 9) * 30}.50\n"
            for i in range(90)
        ),
    },
    "budget": {
        "Budget 2026.csv": "Cost centre,Account,Budget,Actual YTD,Owner\n"
        + "".join(
            f"{('Marketing', 'IT', 'Estates')[i % 3]},{('Travel', 'Software', 'Training', 'Fuel')[i % 4]},{1000 + 100 * i},{900 + 110 * i},{('Kim', 'Raj')[i % 2]}\n"
            for i in range(24)
        ),
    },
    "league": {
        "matches.csv": "Date,Home,Away,Home goals,Away goals,Crowd\n"
        + "".join(
            f"2026-0{1 + i % 9}-0{1 + i % 8},{('Swans', 'Kings', 'Lions', 'Boars', 'Crown')[i % 5]},{('Kings', 'Lions', 'Boars', 'Crown', 'Swans')[(i + i // 5 % 3) % 5]},{i % 4},{i % 3},{40 + i}\n"
            for i in range(40)
        ),
    },
}  # fmt: skip

READINGS = (
    ("bakery", "how many rye loaves were made in March", "the total Made, where Product is Rye Loaf and Date is in March"),
    ("bakery", "how many buns did we sell", "the total Sold, where Product is Bun"),
    ("bakery", "sales by shop", "the total Takings, for each Shop"),
    ("bakery", "value of the waste", "the total Wasted × Unit price"),
    ("hours", "total hours by shop", "the total hours, for each Shop"),
    ("hours", "hours on Saturdays", "the total hours, where weekday is Sat"),
    ("hours", "wage bill", "the total hours × Rate"),
    ("repairs", "average cost per job", "the average Actual cost"),
    ("repairs", "jobs that went over estimate", "the jobs, where Actual cost is over Est cost"),
    ("repairs", "overspend by trade", "the total Actual cost − Est cost, for each Trade"),
    ("repairs", "how many jobs were no access", "the number of jobs, where Status is Closed - no access"),
    ("race", "top 3 men", "the results with Runner, where Sex is M, by Time, lowest first: the first 3"),
    ("race", "best time by cat", "the lowest Time, for each Cat"),
    ("race", "worst time", "the results with Runner, by Time, highest first: the first"),
    ("calls", "how many calls", "the number of calls"),
    ("calls", "average call length", "the average Duration (mm:ss)"),
    ("calls", "longest wait by queue", "the highest Wait secs, for each Queue"),
    ("staff", "who started this year", "the employees with First name and Surname, where Start date is in 2026"),
    ("staff", "who reports to E03", "the employees with First name and Surname, where Line manager is E03"),
    ("staff", "average length of service", "the average years from Start date to today, where Leaving date is missing"),
    ("drops", "deliveries per driver", "the number of deliveries, for each Driver"),
    ("drops", "parcels delivered per day", "the total Parcels, for each day"),
    ("drops", "on time percentage by driver", "the share of deliveries where Actual arrival is at most Planned ETA, for each Driver"),
    ("drops", "failure rate by driver", "the share of deliveries where Failed? is yes, for each Driver"),
    ("deals", "total pipeline", "the total Value, where Stage is not Lost or Won"),
    ("deals", "won value in March 2026", "the total Value, where Stage is Won and Close date is in March 2026"),
    ("deals", "conversion rate by owner", "the share of opportunities where Stage is Won, for each Owner"),
    ("till", "how many orders", "the number of different Ticket"),
    ("till", "average order value", "the average over each Ticket of the total Line total"),
    ("till", "items per order", "the total Qty over the number of different Ticket"),
    ("till", "orders by server", "the number of different Ticket, for each Server"),
    ("till", "biggest order", "the total Line total, for each Ticket, by the total Line total, highest first: the first"),
    ("stock", "how many do we have of Plum Jam", "the total On hand, where Product is Plum Jam"),
    ("stock", "out of stock products", "the inventory with Product and On hand, where On hand is 0"),
    ("stock", "what needs reordering", "the inventory, where On hand is under Reorder at"),
    ("stock", "products under £5", "the inventory with Product and Retail price, where Retail price is under 5"),
    ("pages", "conversion rate by channel", "the total Conversions as a percentage of the total Sessions, for each Channel"),
    ("pages", "bounce rate", "the total Bounces as a percentage of the total Sessions"),
    ("budget", "total spent", "the total Actual YTD"),
    ("budget", "how much budget is left", "the total Budget − Actual YTD"),
    ("budget", "percentage of budget spent", "the total Actual YTD as a percentage of the total Budget"),
    ("budget", "variance by cost centre", "the total Actual YTD − Budget, for each Cost centre"),
    ("budget", "how much did IT spend", "the total Actual YTD, where Cost centre is IT"),
    ("league", "highest scoring match", "the matches, by Home goals + Away goals, highest first: the first"),
    ("league", "how many matches of the Swans were there", "the number of matches, where Home is Swans or Away is Swans"),
)  # fmt: skip


class OrdinaryTrades(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        scratch = tempfile.TemporaryDirectory()
        cls.addClassCleanup(scratch.cleanup)
        cls.opened = {}
        for name, files in FILES.items():
            folder = Path(scratch.name) / name
            folder.mkdir()
            cls.opened[name] = opened_from(folder, files)

    def test_readings(self) -> None:
        for where, question, told in READINGS:
            with self.subTest(f"{where}: {question}"):
                opened, reader = self.opened[where]
                found = chosen(reader.read(question, DEMO_DAY), opened.answerer)
                self.assertEqual(found.status, "answered")
                self.assertEqual(found.readings[0].words, told)

    def test_what_is_not_understood_is_never_told_as_sure(self) -> None:
        for where, question in (
            ("hours", "which shops went up"),
            ("staff", "turnover rate in 2025"),
            ("league", "league table"),
        ):
            with self.subTest(f"{where}: {question}"):
                opened, reader = self.opened[where]
                found = chosen(reader.read(question, DEMO_DAY), opened.answerer)
                doubt = doubt_of(found)
                self.assertTrue(found.status != "answered" or (doubt is not None and doubt.loud))

    def test_what_columns_are(self) -> None:
        def columns(where: str, table: str) -> dict[str, tuple[Type, Role]]:
            found = self.opened[where][0].catalogue.table(table).columns
            return {c.name: (c.type, c.role) for c in found}

        self.assertEqual(columns("calls", "call_log")["Duration (mm:ss)"][0], Type.DURATION)
        self.assertEqual(columns("race", "results")["Bib"][1], Role.CODE, "a bib tells who, not how much")
        self.assertEqual(columns("drops", "deliveries_oct")["Failed?"][0], Type.BOOLEAN, "a blank beside Y is a no")

    def test_minutes_and_seconds(self) -> None:
        opened, reader = self.opened["calls"]
        found = chosen(reader.read("average call length", DEMO_DAY), opened.answerer)
        told = opened.answerer.rows(found.readings[0].plan)[1][0][0]
        self.assertAlmostEqual(told, sum(60 * (i % 26) + (i * 7) % 60 for i in range(80)) / 80)

    def test_findings_say_which_row_it_is(self) -> None:
        for where, question, told in (
            ("race", "fastest woman", "has the lowest Time"),
            ("staff", "highest paid employee", "Ann Pike (E44) has the highest Salary, 43,000."),
            ("race", "best time by cat", "The lowest Time goes from"),
        ):
            with self.subTest(question):
                opened, reader = self.opened[where]
                found = chosen(reader.read(question, DEMO_DAY), opened.answerer)
                self.assertIn(told, opened.answerer.answer(found.readings[0].plan, DEMO_DAY).finding)


if __name__ == "__main__":
    unittest.main()
