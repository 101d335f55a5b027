"""What goes with a figure or condition: the planted cause is found, held back rows tell the truth, leaks are left out."""

from __future__ import annotations

import datetime as dt
import random
import unittest
from unittest import mock

import numpy as np

from gumption.core.reading.read import QuestionReader
from gumption.core.study.goes_with import GoesWith, _ranked
from gumption.engines.answering import Answered
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, demo, tables_for

DAY = dt.date(2025, 12, 31)


def parcels(seed: int, *, telling: bool) -> str:
    """Parcels that come late by their carrier and weight, or by chance alone; what late ones cost is known afterwards."""
    chance = random.Random(seed)
    lines = ["parcel_id,sent,carrier,depot,weight_kg,late,refund"]
    for i in range(4000):
        carrier, depot = chance.choice("ABCD"), chance.choice("XYZ")
        weight = chance.uniform(1, 30)
        likely = (0.1 + 0.4 * (carrier == "C") + 0.3 * (weight > 24)) if telling else 0.2
        late = chance.random() < likely
        day = dt.date(2025, 1, 1) + dt.timedelta(days=i * 364 // 4000)
        lines.append(
            f"P{i},{day},{carrier},{depot},{weight:.1f},{'yes' if late else 'no'},{'yes' if late else chance.choice(['no', 'none'])}"
        )
    return "\n".join(lines) + "\n"


class Planted(unittest.TestCase):
    def told(self, seed: int, question: str, *, telling: bool = True) -> Answered:
        opened = tables_for(type(self), {"parcels.csv": parcels(seed, telling=telling)})
        first = QuestionReader(opened.catalogue).read(question, DAY).readings[0]
        self.assertIsInstance(first.study, GoesWith)
        return opened.answerer.answer(first.plan, DAY, study=first.study)

    def test_what_was_planted_comes_first_and_what_is_known_afterwards_is_left_out(self) -> None:
        for seed in range(3):
            answered = self.told(seed, "what goes with late parcels")
            columns = [row[0] for row in answered.rows]
            self.assertEqual(columns[:2], ["carrier", "weight kg"])
            self.assertNotIn("refund", columns)
            self.assertEqual(answered.rows[0][3], "C", "the carrier that is late most")
            self.assertIn(
                "Left out, as all that met it are alike there: refund", [c.sentence for c in answered.proof.checks]
            )

    def test_of_many_rows_numbers_are_told_in_halves(self) -> None:
        with mock.patch("gumption.core.reading.going_with._FEW_ROWS", 100):
            answered = self.told(1, "what goes with late parcels")
        weight = next(row for row in answered.rows if row[0] == "weight kg")
        self.assertEqual((weight[3], weight[5]), ("the upper half", "the lower half"))

    def test_where_nothing_tells_that_is_said(self) -> None:
        answered = self.told(1, "what goes with late parcels", telling=False)
        self.assertIn("hardly better than a guess", answered.finding)

    def test_a_number(self) -> None:
        opened, reader = demo()
        first = chosen(reader.read("what drives rating", DEMO_DAY), opened.answerer).readings[0]
        answered = opened.answerer.answer(first.plan, DEMO_DAY, study=first.study)
        self.assertEqual(answered.rows[0][0], "wait min")
        self.assertIn("no cause", [c.name for c in answered.proof.checks])

    def test_the_rank_is_the_area_under_the_curve(self) -> None:
        from sklearn.metrics import roc_auc_score

        chance = np.random.default_rng(5)
        told, met = np.round(chance.random(400), 1), chance.random(400) < 0.3
        wanted = roc_auc_score(met, told)
        self.assertAlmostEqual(_ranked(told, met.astype(float), 1.0 - met), float(wanted), 9)

    def test_in_many_words(self) -> None:
        _, reader = demo()
        for question in (
            "what goes with a no-show",
            "which factors affect the rating",
            "what does rating depend on",
            "predictors of rating",
            "what influences the fee",
            "what is related to wait",
        ):
            with self.subTest(question):
                self.assertIsInstance(reader.read(question, DEMO_DAY).readings[0].study, GoesWith)
