"""What is more or less than something else, led, came back or rose: each worked out a second time from the rows."""

from __future__ import annotations

import collections
import datetime as dt
import itertools
import random
import statistics
import unittest
from collections.abc import Iterable
from typing import NamedTuple

from gumption.core.reading.read import QuestionReader
from tests.support import DEMO_DAY, tables_for


class Visit(NamedTuple):
    number: int
    day: dt.date
    animal: int
    clinic: str
    came: bool
    fee: float


def _visits() -> list[Visit]:
    pick = random.Random(11)
    clinics = ["Ash", "Birch", "Cedar", "Dove", "Elm"]
    return [
        Visit(
            n,
            dt.date(2025, 1, 1) + dt.timedelta(days=pick.randrange(630)),
            pick.randrange(1, 41),
            pick.choices(clinics, [9, 6, 5, 3, 2])[0],
            pick.random() < 0.85,
            round(pick.uniform(20, 200), 2),
        )
        for n in range(1, 601)
    ]


VISITS = _visits()
KINDS = {animal: ("Dog", "Cat", "Rabbit")[animal % 3] for animal in range(1, 41)}


class HeldToOthers(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        rows = "".join(
            f"{v.number},{v.day},{v.animal},{v.clinic},{'yes' if v.came else 'no'},{v.fee:.2f}\n" for v in VISITS
        )
        kinds = "".join(f"{animal},P{animal},{kind}\n" for animal, kind in KINDS.items())
        cls.opened = tables_for(
            cls,
            {
                "visits.csv": "visit_id,visit_date,animal_id,clinic,attended,fee\n" + rows,
                "animals.csv": "animal_id,pet_name,species\n" + kinds,
            },
        )
        cls.reader = QuestionReader(cls.opened.catalogue)

    def answer(self, question: str) -> list[tuple[str, ...]]:
        """The answer's rows as text."""
        found = self.reader.read(question, DEMO_DAY)
        self.assertTrue(found.readings, f"{question}: {found.problem}")
        _, rows = self.opened.answerer.rows(found.readings[0].plan)
        return [tuple(str(v) for v in row) for row in rows]

    def by(self, key: str, rows: Iterable[Visit] = VISITS) -> dict[object, list[Visit]]:
        found: dict[object, list[Visit]] = collections.defaultdict(list)
        for visit in rows:
            found[getattr(visit, key)].append(visit)
        return found

    def test_more_than_the_rest(self) -> None:
        shares = {c: sum(not v.came for v in own) / len(own) for c, own in self.by("clinic").items()}
        overall = sum(not v.came for v in VISITS) / len(VISITS)
        for question, kept in (
            ("clinics with a worse no-show rate than overall", {c for c, s in shares.items() if s > overall}),
            ("clinics with a better no-show rate than overall", {c for c, s in shares.items() if s < overall}),
        ):
            self.assertEqual({row[0] for row in self.answer(question)}, kept, question)
        counts = {c: len(own) for c, own in self.by("clinic").items()}
        usual = statistics.mean(counts.values())
        for question, kept in (
            ("clinics with more visits than average", {c for c, n in counts.items() if n > usual}),
            ("clinics with fewer visits than Cedar", {c for c, n in counts.items() if n < counts["Cedar"]}),
        ):
            self.assertEqual({row[0] for row in self.answer(question)}, kept, question)

    def test_more_of_one_than_of_another(self) -> None:
        kept = set()
        for clinic, own in self.by("clinic").items():
            dogs, cats = (len({v.animal for v in own if KINDS[v.animal] == k}) for k in ("Dog", "Cat"))
            if dogs > cats:
                kept.add(clinic)
        self.assertEqual({row[0] for row in self.answer("clinics with more dogs than cats")}, kept)

    def test_so_many_for_every_hundred(self) -> None:
        told = {row[0]: float(row[1]) for row in self.answer("no-shows per 100 visits by clinic")}
        for clinic, own in self.by("clinic").items():
            self.assertAlmostEqual(told[str(clinic)], 100 * sum(not v.came for v in own) / len(own))

    def test_the_share_of_those_there_is_most_of(self) -> None:
        fees = {a: sum(v.fee for v in own) for a, own in self.by("animal").items()}
        best = sum(sorted(fees.values())[-5:]) / sum(fees.values())
        told = self.answer("how much of the fees do the five best animals bring in")
        self.assertAlmostEqual(float(told[0][0]), 100 * best, places=6)

    def test_the_second_of_each(self) -> None:
        told = {(row[1], row[2]) for row in self.answer("the second most expensive visit of each clinic")}
        second = {(c, f"{sorted(v.fee for v in own)[-2]:.2f}") for c, own in self.by("clinic").items()}
        self.assertEqual(told, second)

    def test_those_who_came_back(self) -> None:
        one, two = ({v.animal for v in VISITS if v.day.year == y and v.came} for y in (2025, 2026))
        all_one, all_two = ({v.animal for v in VISITS if v.day.year == y} for y in (2025, 2026))
        told = int(self.answer("how many animals seen in 2025 were seen again in 2026")[0][0])
        self.assertIn(told, (len(one & two), len(all_one & all_two)))
        both = {row[0] for row in self.answer("animals with visits in 2025 and again in 2026")}
        self.assertEqual(len(both), len(all_one & all_two))

    def test_periods_that_fell(self) -> None:
        months: dict[tuple[int, int], float] = collections.defaultdict(float)
        for visit in VISITS:
            months[visit.day.year, visit.day.month] += visit.fee
        order = sorted(months)
        fell = [b for a, b in itertools.pairwise(order) if months[b] < months[a]]
        told = self.answer("months in which fees fell")
        self.assertEqual([row[0][:7] for row in told], [f"{y}-{m:02}" for y, m in fell])
        of_2026 = sum(y == 2026 for y, _ in fell)
        self.assertEqual(int(self.answer("in how many months of 2026 did fees fall")[0][0]), of_2026)

    def test_how_far_each_is_from_the_average(self) -> None:
        fees = {c: sum(v.fee for v in own) for c, own in self.by("clinic").items()}
        usual = statistics.mean(fees.values())
        for row in self.answer("total fee of each clinic compared with the average"):
            self.assertAlmostEqual(float(row[3]), fees[row[0]] - usual, places=4)

    def test_those_that_lead_and_what_is_said_of_each(self) -> None:
        busiest = sorted(self.by("clinic").items(), key=lambda item: -len(item[1]))[:3]
        told = {row[0]: row[1] for row in self.answer("for the three busiest clinics, what is the most common species")}
        expected = {c: collections.Counter(KINDS[v.animal] for v in own).most_common(1)[0][0] for c, own in busiest}
        self.assertEqual(told, expected)

    def test_days_from_one_visit_to_the_next(self) -> None:
        gaps = []
        for own in self.by("animal").values():
            days = sorted(v.day for v in own)
            gaps += [(b - a).days for a, b in itertools.pairwise(days)]
        told = self.answer("average days between visits of the same animal")
        self.assertAlmostEqual(float(told[0][0]), statistics.mean(gaps), places=4)
        self.assertEqual(float(self.answer("longest gap between visits")[0][0]), max(gaps))

    def test_days_between_the_orders_of_a_customer_in_one_table(self) -> None:
        rows = "".join(f"{v.number},{v.day},{'ABCDEFGH'[v.animal % 8]}. Lee,{v.fee:.2f}\n" for v in VISITS[:200])
        opened = tables_for(type(self), {"orders.csv": "Order No,Order Date,Customer,Amount\n" + rows})
        found = QuestionReader(opened.catalogue).read("average days between orders by customer", DEMO_DAY)
        _, told = opened.answerer.rows(found.readings[0].plan)
        for customer, mean in ((str(row[0]), float(str(row[1]))) for row in told):
            days = sorted(v.day for v in VISITS[:200] if "ABCDEFGH"[v.animal % 8] == customer[0])
            gaps = [(b - a).days for a, b in itertools.pairwise(days)]
            self.assertAlmostEqual(mean, statistics.mean(gaps), places=4)
