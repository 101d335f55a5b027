"""Numbers as people read them, findings as sentences, charts by the answer's shape."""

from __future__ import annotations

import datetime as dt
import unittest
from decimal import Decimal

from gumption.core.model.names import plural
from gumption.core.model.style import Style, in_style
from gumption.core.model.types import Grain, Role, Type, Value
from gumption.core.plan.expressions import Aggregate
from gumption.core.plan.fields import Field
from gumption.core.plan.steps import Group, Plan, Take
from gumption.core.present.answer import Answer
from gumption.core.present.finding import finding
from gumption.core.present.numbers import column_cells, head, shown
from tests.support import DEMO_DAY, demo

MONEY = Field(Type.DECIMAL, Role.MONEY, 2, "GBP")
SHARE = Field(Type.FLOAT, Role.PERCENTAGE)


class Numbers(unittest.TestCase):
    def test_shown(self) -> None:
        cases = [
            (1234567, None, "1,234,567"),
            (Decimal("1204.5"), MONEY, "£1,204.50"),
            (Decimal("-3.05"), MONEY, "−£3.05"),
            (-1250, Field(Type.INTEGER, Role.MONEY, unit="GBP"), "−£1,250"),
            (-1e-12, None, "0"),
            (0.1234, SHARE, "12.3%"),
            (4.1, None, "4.1"),
            (0.00042, None, "0.00042"),
            (0.0000081, None, "0.0000081"),
            (0.042, None, "0.042"),
            (1e-17, None, "0"),
            (123456.789, None, "123,457"),
            (None, MONEY, "missing"),
            (True, None, "yes"),
            (dt.date(2026, 3, 5), None, "5 Mar 2026"),
            (dt.datetime(2026, 3, 5, 9, 7), None, "5 Mar 2026 09:07"),
            (3, Field(Type.INTEGER, Role.CATEGORY, grain=Grain.MONTH_OF_YEAR), "March"),
            (3, Field(Type.INTEGER, Role.CATEGORY), "3"),
            (2025, Field(Type.INTEGER, Role.CATEGORY, grain=Grain.YEAR_NUMBER), "2025"),
            (dt.date(2026, 4, 1), Field(Type.DATE, Role.DATE, grain=Grain.QUARTER), "Q2 2026"),
            (1, Field(Type.INTEGER, Role.QUANTITY, unit="days"), "1 day"),
            (2.5, Field(Type.FLOAT, Role.QUANTITY, unit="kg"), "2.5 kg"),
            (12.5, Field(Type.FLOAT, Role.MONEY, unit="GBP per hour"), "£12.50 per hour"),
        ]
        for value, field, text in cases:
            with self.subTest(text):
                self.assertEqual(shown(value, field), text)

    def test_cells_of_a_column_have_as_many_digits_and_its_head_the_unit(self) -> None:
        kilos = Field(Type.FLOAT, Role.QUANTITY, unit="kg")
        self.assertEqual(column_cells([2.5, 10.25, None], kilos), ["2.50", "10.25", None])
        self.assertEqual(column_cells([3.0, 4.0], kilos), ["3", "4"])
        self.assertEqual(column_cells([0.0, -0.004, 0.1], SHARE), ["0.0%", "−0.4%", "10.0%"])
        self.assertEqual(column_cells([Decimal("5.000"), Decimal("7.000")], MONEY), ["£5.00", "£7.00"])
        self.assertEqual([head("weight", kilos), head("weight_kg", kilos)], ["weight (kg)", "weight kg"])
        self.assertEqual(head("fee", MONEY), "fee")

    def test_a_readers_own_way_of_numbers_and_days(self) -> None:
        cases = [
            (Style("point"), 1234567, None, "1.234.567"),
            (Style("point"), Decimal("-1204.5"), MONEY, "−£1.204,50"),
            (Style("point"), 1200.0, None, "1.200"),
            (Style("point"), 0.1234, SHARE, "12,3%"),
            (Style("space"), 4.10, None, "4,1"),
            (Style("apostrophe"), 123456.789, None, "123’457"),
            (Style(days="day.month"), dt.date(2026, 3, 5), None, "05.03.2026"),
            (Style(days="month/day"), dt.datetime(2026, 3, 5, 9, 7), None, "03/05/2026 09:07"),
            (
                Style(days="year-month"),
                dt.date(2026, 4, 1),
                Field(Type.DATE, Role.DATE, grain=Grain.MONTH),
                "April 2026",
            ),
        ]
        for style, value, field, text in cases:
            with self.subTest(text), in_style(style):
                self.assertEqual(shown(value, field), text)
        with in_style(Style("point")):
            self.assertEqual(
                column_cells([2.5, 1010.25, None], Field(Type.FLOAT, Role.QUANTITY)), ["2,50", "1.010,25", None]
            )
            self.assertEqual(plural(1200, "row"), "1.200 rows")
        self.assertEqual(shown(1234567), "1,234,567")

    def test_plurals(self) -> None:
        self.assertEqual([plural(n, "row") for n in (0, 1, 2, 1200)], ["0 rows", "1 row", "2 rows", "1,200 rows"])
        self.assertEqual(plural(2, "day", "days"), "2 days")


class Answers(unittest.TestCase):
    def answered(self, question: str):  # type: ignore[no-untyped-def]
        opened, reader = demo()
        return opened.answerer.answer(reader.read(question, DEMO_DAY).readings[0].plan, DEMO_DAY)

    def test_findings(self) -> None:
        cases = {
            "how many owners": "The number of owners is 3,402.",
            "number of animals by species": "Dog has the most animals, ",
            "which reason has the highest average fee": "Surgery: average fee net ",
            "number of clinics by region": "North has the most clinics, 3; 3 of the 4 share the fewest, 2.",
            "list the regions": "There are 4: East, North, South and West.",
            "what share of the total fee net came from dogs": (
                "The share is 56.16%: the sum of fee net where species is Dog is 2,255,906.95 of 4,"
            ),
            "show the vets hired after 2022": "16 vets fit: ",
            "list the clinics": "There are 9 clinics: Cold Ash, ",
            "visits with a rating of more than 7": "No rows fit.",
            "the ten oldest animals with their owners": "Mungo (A12221) comes first with born on 6 Aug 2012; ",
            "show me 5 animals": "Here are 5 animals in the order of animal id.",
            "cumulative distribution of fee": "76.5% are below 100, and 92.6% below 200.",
            "cumulative distribution of rating": "69.2% are up to 4, and 100.0% up to 5.",
            "cumulative share of fee by reason": "The first 3 of 12 make up 50.6%, and the first 7 of 12 make up 87.5%.",
            "running total of fee by month": "Total fee net comes to 4,015,683.23 by October 2026.",
            "visits by year after 2024": "2025 has the most visits, 16,885; 2026, which is not whole, has ",
            "visits by year": "2025 has the most visits, 16,885; the fewest of the 2 that are whole is 2024 with ",
            "average fee of visits after 2030": "The average fee net cannot be worked out: no values are left.",
        }
        for question, start in cases.items():
            with self.subTest(question):
                self.assertTrue(self.answered(question).finding.startswith(start), self.answered(question).finding)

    def test_findings_of_groups_without_a_name_and_of_extremes_named_like_their_column(self) -> None:
        place, fee = Field(Type.TEXT, Role.CATEGORY), Field(Type.DECIMAL, Role.MONEY, 2, "GBP")
        top = Aggregate(name="fee", function="max", column="fee")
        plan = Plan(steps=(Take(table="visits"), Group(by=("place",), aggregates=(top,))))
        rows: list[tuple[Value, ...]] = [(None, Decimal(99)), ("North", Decimal(7)), ("South", Decimal(5))]
        schema = {"place": place, "fee": fee}
        told = finding(Answer(plan, (schema, schema), ("place", "fee"), rows, 3))
        self.assertEqual(
            told,
            "The maximum fee goes from £5.00 (South) to £7.00 (North); where place is missing it is £99.00.",
        )

    def test_charts_fit_the_shape(self) -> None:
        def mark(question: str) -> str | None:
            spec = self.answered(question).chart
            if spec is None:
                return None
            chosen = spec["layer"][0]["mark"] if "layer" in spec else spec["mark"]
            return str(chosen["type"])

        cases = {
            "how many owners": None,
            "list the regions": None,
            "number of animals by species": "bar",
            "visits by month in 2025": "line",
            "visits by region and month in 2025": "line",
            "number of visits by region and species": "bar",
            "average rating by vet": "point",
            "visits by vet and month": None,
        }
        for question, want in cases.items():
            with self.subTest(question):
                self.assertEqual(mark(question), want)

    def test_bars_start_at_zero(self) -> None:
        spec = self.answered("number of animals by species").chart
        self.assertTrue(spec["layer"][0]["encoding"]["x"]["scale"]["zero"])
        self.assertEqual(len(spec["data"]["values"]), 6)
