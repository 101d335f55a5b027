"""Tables that tell numbers of periods, bands and parts, tables in several steps, and what is asked of them."""

from __future__ import annotations

import datetime as dt
import math
import unittest

from gumption.core.plan.steps import Unpivot, all_steps
from gumption.core.reading.bands import band_of, spoken_bands, within
from gumption.core.reading.tokens import tokenise
from gumption.engines.choosing import chosen
from tests import support

DAY = dt.date(2026, 9, 30)
PLACES = (
    ("P1", "Alder", "North", "Town", 10),
    ("P2", "Birch", "North", "Village", 20),
    ("P3", "Cedar", "South", "Town", 40),
)
NUMBERS = {
    "places.csv": "place_cd,place,region,kind,km2\n" + "".join(",".join(map(str, p)) + "\n" for p in PLACES),
    "population.csv": "place_cd,yr,sex,age_grp,persons\n"
    + "".join(
        f"{code},{year},{sex},{age},{size * 100 + year - 2020 + extra}\n"
        for code, _, _, _, size in PLACES
        for year in (2023, 2024, 2025)
        for sex, extra in (("M", 1), ("F", 2))
        for age in ("0-15", "16-64", "65+")
    ),
    "housing.csv": "place_cd,tenure,2023,2024,2025\n"
    + "".join(f"{p[0]},{t},{n},{n + 1},{n + 2}\n" for p in PLACES for t, n in (("owned", 30), ("rented", 20))),
    "jobs.csv": "place_cd,qtr,vacancies\n"
    + "".join(f"{p[0]},{y}Q{q},{10 * q + p[4]}\n" for p in PLACES for y in (2024, 2025) for q in (1, 2, 3, 4)),
    "unemployment.csv": "place_cd,yr,unemployed,rate_pct\n"
    + "".join(f"{p[0]},{y},{p[4] * 30 + y - 2024},{9 - p[4] / 10 + y - 2024}\n" for p in PLACES for y in (2024, 2025)),
    "census.csv": "place,All people,Males,Females,Households,Households with no car\n"
    "Alder,900,400,500,300,60\nBirch,1000,510,490,400,100\nCedar,2100,1000,1100,900,90\n",
}
STEPS = {
    "customers.csv": "customer_id,customer_name,town\nC1,Ada Pike,Leeds\nC2,Ben Holt,York\nC3,Cy Frost,Leeds\n",
    "orders.csv": "order_no,customer_id,placed,due_on,sent_on,freight\n"
    "1,C1,2025-01-05,2025-01-10,2025-01-14,5\n2,C1,2026-02-01,2026-02-05,2026-02-04,4\n"
    "3,C2,2026-03-03,2026-03-10,2026-03-11,6\n4,C2,2026-04-04,2026-04-08,,5\n",
    "lines.csv": "line_no,order_no,product,units,amount\n"
    "1,1,Lamp,2,40\n2,1,Rug,1,60\n3,2,Lamp,1,20\n4,3,Rug,3,180\n5,4,Lamp,4,80\n6,4,Desk,1,220\n",
    "targets.csv": "town,target_hours,hours\nLeeds,100,120\nYork,80,70\n",
}
ANSWERS_OF_NUMBERS: tuple[tuple[str, list[tuple[object, ...]]], ...] = (
    ("population of Alder", [(6039,)]),
    ("under 16s in Alder in 2025", [(2013,)]),
    ("total population in the North in 2024", [(18066,)]),
    ("owned homes in 2024", [(93,)]),
    ("unemployment in Alder in 2025", [(9.0,)]),
    ("how many unemployed in Alder in 2025", [(301,)]),
    ("vacancies in the last quarter of 2025", [(190,)]),
)
SHARES = {"share of females in Birch": 49.0, "percentage of households with no car in Alder": 20.0}
ANSWERS_IN_STEPS: tuple[tuple[str, list[tuple[object, ...]]], ...] = (
    ("average order value", [(150.0,)]),
    ("customers who spent more than 200", [("Ben Holt",)]),
    ("which towns reached their target hours", [("Leeds",)]),
    ("average days late by town", [("Leeds", 1.5), ("York", 1.0)]),
    ("customers who have never placed an order", [("Cy Frost",)]),
)


class _Asked(support.Asked):
    day = DAY

    def check(self, answers: tuple[tuple[str, list[tuple[object, ...]]], ...]) -> None:
        for question, expected in answers:
            with self.subTest(question):
                words, _, rows = self.asked(question)
                self.assertEqual([r[: len(expected[0])] for r in rows], expected, words)


class Numbers(_Asked):
    files = NUMBERS

    def test_what_is_counted_stands_in_the_number(self) -> None:
        """People, not rows; of the last year where none is said; bands, quarters and years as columns."""
        self.check(ANSWERS_OF_NUMBERS)

    def test_a_part_is_told_of_its_whole(self) -> None:
        for question, percent in SHARES.items():
            with self.subTest(question):
                words, _, rows = self.asked(question)
                self.assertEqual(rows[0][0], percent, words)

    def test_years_as_columns_are_laid_out_in_the_plan(self) -> None:
        found = chosen(self.reader.read("housing by year", DAY), self.opened.answerer).readings[0]
        self.assertTrue(any(isinstance(s, Unpivot) for s in all_steps(found.plan)), found.words)
        _, rows = self.opened.answerer.rows(found.plan)
        self.assertEqual([tuple(r) for r in rows], [(2023, 150), (2024, 156), (2025, 162)])


class Steps(_Asked):
    files = STEPS

    def test_answers(self) -> None:
        """Orders are worth what their lines come to, customers spend what their orders come to."""
        self.check(ANSWERS_IN_STEPS)

    def test_some_of_what_was_counted(self) -> None:
        words, _, rows = self.asked("how many orders did each customer place, and how many of them were late")
        told = {str(r[0]): tuple(v for v in r[1:] if isinstance(v, int)) for r in rows}
        self.assertEqual(told["Ada Pike"], (2, 1), words)

    def test_rows_chosen_by_one_order_are_shown_in_another(self) -> None:
        first = chosen(self.reader.read("two largest lines by amount", DAY), self.opened.answerer).readings[0]
        then = chosen(self.reader.read("sort by product", DAY, first), self.opened.answerer).readings[0]
        _, rows = self.opened.answerer.rows(then.plan)
        self.assertEqual([str(r[0]) for r in rows], ["6", "4"], then.words)


class Bands(unittest.TestCase):
    def test_bands_as_written(self) -> None:
        told = {"0-15": (0, 15), "65+": (65, math.inf), "Under 18": (0, 17), "aged 16 to 64": (16, 64), "large": None}
        for text, band in told.items():
            self.assertEqual(band_of(text), band, text)

    def test_bands_as_spoken(self) -> None:
        bands = [(t, b) for t in ("0-15", "16-64", "65+") if (b := band_of(t)) is not None]
        for question, expected in (
            ("people over 65 in Leeds", ("65+",)),
            ("how many under 16s", ("0-15",)),
            ("those aged 16 to 64", ("16-64",)),
            ("children by town", ("0-15",)),
            ("people over 50", ()),
        ):
            found = {
                v for *_, band, leeway in spoken_bands(tokenise(question)) for v in within(band, bands, leeway=leeway)
            }
            self.assertEqual(found, set(expected), question)


if __name__ == "__main__":
    unittest.main()
