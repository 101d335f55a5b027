"""What stands out: planted oddities are found among the first, and clean tables are left alone."""

from __future__ import annotations

import datetime as dt
import os
import random
import tempfile
import unittest
from collections import Counter
from pathlib import Path

import numpy as np
from scipy.stats import contingency

from gumption.cli.files import open_files
from gumption.core.plan.steps import Plan, Take
from gumption.core.reading.read import QuestionReader
from gumption.core.study.differences import remarks_of_ties
from gumption.core.study.look import Look, Remark, TieProbe, worth_telling
from gumption.core.study.studied import Studied
from gumption.engines.choosing import chosen
from gumption.engines.limits import Stop
from tests.support import DEMO_DAY, demo

TABLES = int(os.environ.get("GUMPTION_LOOKS", "10"))
"""50 in the long run, which sets it."""
DAY = dt.date(2025, 12, 31)
PLANTED = ("quiet month", "busy month", "shift", "outlier", "slip", "repeats", "gaps", "difference", "together", "few")


def table(seed: int, planted: str) -> str:
    """A made-up table of two years of orders, in which nothing but what is planted stands out."""
    chance = random.Random(f"{seed} {planted}")
    depots = ["Aldgrove", "Brineham", "Corsley", "Dunmere", "Eastwold"][: chance.randint(3, 5)]
    goods = ["Timber", "Gravel", "Cement", "Slates"]
    rate = chance.uniform(45, 80)
    rows = []
    number = 0
    for month in range(24):
        year, of_year = 2024 + month // 12, month % 12 + 1
        for depot in depots:
            expected = rate
            if planted == "quiet month" and depot == depots[0] and month == 10:
                expected = 3
            if planted == "busy month" and depot == depots[1] and month == 15:
                expected = 3.2 * rate
            if planted == "shift" and depot == depots[2] and month >= 12:
                expected = 1.9 * rate
            for _ in range(max(0, round(chance.gauss(expected, expected**0.5)))):
                number += 1
                good = chance.choice(goods)
                price = chance.gauss(50, 9) + (14 if planted == "difference" and depot == depots[1] else 0)
                weight = chance.gauss(20, 4) + (0.4 * (price - 50) if planted == "together" else 0)
                missing = 0.5 if planted == "gaps" and depot == depots[0] else 0.06
                rating = "" if chance.random() < missing else str(chance.randint(1, 5))
                customer = f"C{int(400 * chance.random() ** (6 if planted == 'few' else 1)):03d}"
                day = f"{year}-{of_year:02d}-{chance.randint(1, 28):02d}"
                rows.append([f"N{number:05d}", day, depot, good, customer, f"{price:.2f}", f"{weight:.2f}", rating])
    if planted == "outlier":
        chance.choice(rows)[5] = "9400.00"
    if planted == "slip":
        for row in chance.sample([r for r in rows if r[2] == depots[0]], 3):
            row[2] = depots[0][:3] + depots[0][4:]
    if planted == "repeats":
        for row in chance.sample(rows, 30):
            number += 1
            rows.append([f"N{number:05d}", *row[1:]])
    head = "order_id,day,depot,goods,customer_id,price,weight_kg,rating"
    return "\n".join([head, *(",".join(r) for r in rows)]) + "\n"


CUSTOMERS = "customer_id,town\n" + "".join(f"C{i:03d},Town {i % 7}\n" for i in range(400))
FOUND = {
    "quiet month": "November 2024",
    "busy month": "April 2025",
    "shift": "Corsley",
    "outlier": "9,400",
    "slip": "may be meant as Aldgrove",
    "repeats": "30 rows",
    "gaps": "missing in",
    "difference": "differs by depot",
    "together": "go up together",
    "few": "top tenth of customers",
}


def stands_out(seed: int, planted: str) -> Studied:
    with tempfile.TemporaryDirectory() as folder:
        (Path(folder) / "orders.csv").write_text(table(seed, planted))
        (Path(folder) / "customers.csv").write_text(CUSTOMERS)
        paths = [str(Path(folder) / f"{n}.csv") for n in ("orders", "customers")]
        opened = open_files(paths, None, Path(folder))
        first = QuestionReader(opened.catalogue).read("what stands out in orders", DAY).readings[0]
        answered = opened.answerer.answer(first.plan, DAY, study=first.study)
        opened.answerer.engine.close()
    assert answered.studied is not None
    return answered.studied


class Planted(unittest.TestCase):
    def test_what_is_planted_is_found_and_what_is_not_is_not(self) -> None:
        missed, alarms = [], []
        for seed in range(TABLES):
            planted = PLANTED[seed % len(PLANTED)]
            first = [r.sentence for r in stands_out(seed, planted).remarks[:3]]
            if not any(FOUND[planted] in s for s in first):
                missed.append((seed, planted, first))
            clean = stands_out(seed, "nothing").remarks
            if clean:
                alarms.append((seed, [r.sentence for r in clean]))
        self.assertLessEqual(len(missed), 0.1 * TABLES, missed)
        self.assertLessEqual(len(alarms), 0.1 * TABLES, alarms)


class Ties(unittest.TestCase):
    """Two kinds that go together are told; chance, and a kind that is a part of the other, are not."""

    def _told(self, pairs: list[tuple[str, str]]) -> list[Remark]:
        counted = [(one, other, n) for (one, other), n in Counter(pairs).items()]
        return remarks_of_ties(TieProbe(Plan(steps=(Take(table="orders"),)), "depot", "good"), counted)[0]

    def test_planted_by_chance_and_parts(self) -> None:
        chance = random.Random(3)
        depots, goods = ["Aldgrove", "Brineham", "Corsley"], ["Timber", "Gravel", "Cement"]
        free = [(chance.choice(depots), chance.choice(goods)) for _ in range(600)]
        self.assertEqual(self._told(free), [])
        tied = [(d, "Gravel" if d == "Corsley" and chance.random() < 0.6 else g) for d, g in free]
        [remark] = self._told(tied)
        table = np.array([[tied.count((d, g)) for g in goods] for d in depots])
        self.assertAlmostEqual(remark.size, contingency.association(table, "cramer", correction=False), delta=0.02)
        self.assertIn("Corsley with Gravel", remark.sentence)
        self.assertEqual(self._told([(d, d[0]) for d, _ in free]), [])


class Telling(unittest.TestCase):
    def test_many_looks_ask_for_more(self) -> None:
        one = Remark("odd period", "a", "q", 0.004, 0.5, "a")
        self.assertEqual(worth_telling([one], 1), [one])
        self.assertEqual(worth_telling([one], 500), [])

    def test_the_demo(self) -> None:
        opened, reader = demo()
        for question, told in (
            ("what stands out in visits", "Millbeck in February 2025"),
            ("anything odd about rating?", "Rating is missing"),
            ("anything unusual?", "Fallow Gate begins in March 2025"),
            ("what stands out at Millbeck", "February 2025"),
            ("any outliers in wait", "The highest wait min is 120"),
            ("what is worth a look in animals", "Weight kg differs by species"),
            ("what stands out in fee net minus cost", "Fee net minus cost differs by reason"),
        ):
            with self.subTest(question):
                first = chosen(reader.read(question, DEMO_DAY), opened.answerer).readings[0]
                self.assertIsInstance(first.study, Look)
                stop = Stop()
                answered = opened.answerer.answer(first.plan, DEMO_DAY, study=first.study, stop=stop)
                assert answered.studied is not None
                self.assertRegex(stop.told, r"^looking at it, (\d+) of \1$", "it tells how far it is to its end")
                self.assertIn(told, " | ".join(r.sentence for r in answered.studied.remarks))

    def test_each_question_shows_it(self) -> None:
        opened, reader = demo()
        first = reader.read("what stands out in visits", DEMO_DAY).readings[0]
        answered = opened.answerer.answer(first.plan, DEMO_DAY, study=first.study)
        assert answered.studied is not None
        for remark in answered.studied.remarks:
            with self.subTest(remark.question):
                found = chosen(reader.read(remark.question, DEMO_DAY), opened.answerer)
                self.assertEqual((found.status, found.unread), ("answered", ()))
                self.assertTrue(opened.answerer.rows(found.readings[0].plan)[1])
