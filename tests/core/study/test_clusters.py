"""Groups that form themselves: planted ones are found, a single cloud is none, and how they are asked for."""

from __future__ import annotations

import random
import unittest
from collections import Counter
from unittest import mock

import numpy as np
from sklearn.metrics import adjusted_rand_score

from gumption.core.model.types import Role, Type
from gumption.core.plan.fields import Field
from gumption.core.reading.read import QuestionReader
from gumption.core.study.clusters import Clusters, Feature, grouped
from tests.support import DEMO_DAY, demo

FIELD = Field(Type.FLOAT, Role.QUANTITY)
STUDY = Clusters("members", (Feature("visits", FIELD), Feature("spend", FIELD), Feature("age", FIELD)))


class Forming(unittest.TestCase):
    def test_planted_groups_are_found(self) -> None:
        for seed in range(10):
            chance = random.Random(seed)
            k = chance.randint(2, 4)
            centres = [(5 + 30 * i, 100 * 4**i, 20 + 15 * ((i * 2) % 5)) for i in range(k)]
            truth = [chance.randrange(k) for _ in range(300)]
            rows = [
                (
                    i,
                    chance.gauss(centres[g][0], 2),
                    chance.gauss(centres[g][1], centres[g][1] / 10),
                    chance.gauss(centres[g][2], 2),
                )
                for i, g in enumerate(truth)
            ]
            found = grouped(STUDY, rows)
            assert found is not None and found.is_clear
            self.assertEqual(len(found.groups), k)
            self.assertGreater(adjusted_rand_score(truth, found.member), 0.95)
            self.assertEqual([g.size for g in found.groups], sorted((g.size for g in found.groups), reverse=True))

    def test_one_cloud_is_no_groups(self) -> None:
        chance = np.random.default_rng(3)
        found = grouped(STUDY, [(i, *row) for i, row in enumerate(chance.normal(50, 5, (400, 3)).tolist())])
        assert found is not None
        self.assertFalse(found.is_clear)

    def test_too_few_and_all_alike(self) -> None:
        self.assertIsNone(grouped(STUDY, [(i, 1.0, 2.0, 3.0) for i in range(10)]))
        self.assertIsNone(grouped(STUDY, [(i, 1.0, 2.0, 3.0) for i in range(100)]))


class Asking(unittest.TestCase):
    def test_in_many_words_and_what_stays_a_plain_group(self) -> None:
        _, reader = demo()
        for question, things in (
            ("group the owners", "owners"),
            ("segment animals", "animals"),
            ("cluster the owners by number of visits and total fee", "owners"),
            ("split the owners into groups", "owners"),
            ("what groups of owners are there", "owners"),
            ("group the animals by weight and age", "animals"),
            ("group the reasons", "reasons"),
            ("group the owners by town", None),
            ("group the visits by clinic and reason", None),
            ("split visits by reason", None),
            ("what types of animals are there", None),
        ):
            with self.subTest(question):
                study = reader.read(question, DEMO_DAY).readings[0].study
                self.assertEqual(study.things if isinstance(study, Clusters) else None, things)

    def test_grouped_by_a_kind_is_understood_whole(self) -> None:
        _, reader = demo()
        for question in ("group the visits by clinic", "classify visits by reason", "group sales by region"):
            with self.subTest(question):
                found = reader.read(question, DEMO_DAY)
                self.assertEqual((found.status, found.unread), ("answered", ()))
                self.assertEqual(len(found.readings[0].ask.groups), 1)

    def test_more_than_are_held_is_said(self) -> None:
        with mock.patch("gumption.core.reading.clustering.MOST_THINGS", 100):
            found = QuestionReader(demo()[1].catalogue).read("group the owners", DEMO_DAY)
        self.assertEqual((found.status, "more than 100 owners" in found.problem), ("declined", True), found.problem)

    def test_what_is_told(self) -> None:
        opened, reader = demo()
        first = reader.read("group the owners", DEMO_DAY).readings[0]
        answered = opened.answerer.answer(first.plan, DEMO_DAY, study=first.study)
        self.assertEqual(
            sum(int(str(row[1])) for row in answered.rows), answered.rows and opened.catalogue.table("owners").rows
        )
        self.assertIn("Owners fall into", answered.finding)
        assert answered.studied is not None and answered.studied.keeps is not None
        kept = answered.studied.keeps
        self.assertEqual((kept.column, kept.table.columns), ("owner group", ("owner_id", "owner_group")))
        sizes = Counter(row[1] for row in kept.table.rows)
        self.assertEqual(sorted(sizes.values(), reverse=True), [row[1] for row in answered.rows])
