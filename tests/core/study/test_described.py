"""A description: each fact is right, has a question that shows it, and the whole is short."""

from __future__ import annotations

import unittest

from gumption.core.study.described import Described
from gumption.core.study.look import Look
from gumption.engines.answering import Answered
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, demo


class Describing(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        opened, cls.reader = demo()
        cls.answerer = opened.answerer

    def answered(self, question: str) -> Answered:
        first = chosen(self.reader.read(question, DEMO_DAY), self.answerer).readings[0]
        return self.answerer.answer(first.plan, DEMO_DAY, study=first.study)

    def figure(self, question: str) -> object:
        first = chosen(self.reader.read(question, DEMO_DAY), self.answerer).readings[0]
        return self.answerer.rows(first.plan)[1][0][0]

    def test_rows_of_one_clinic(self) -> None:
        answered = self.answered("an overview of the visits at Millbeck")
        visits, fees = self.figure("how many visits at Millbeck"), self.figure("total fee at Millbeck")
        self.assertIn(f"There are {visits:,} visits for Millbeck, from 4 Jan 2024 to 31 Oct 2026", answered.finding)
        self.assertIn(f"Fee net comes to {fees:,} in all", answered.finding)
        self.assertIn("extremes pull the mean, half are below", answered.finding)
        self.assertLess(len(answered.finding.split()), 170)

    def test_a_column_and_a_table(self) -> None:
        self.assertIn(
            "Rating is 4.04 on average, between 1 and 5; 30% have none", self.answered("summarise rating").finding
        )
        answered = self.answered("tell me about the vets")
        self.assertIn("There are 55 vets", answered.finding)
        self.assertIn("Harrow Street (20%)", answered.finding)

    def test_each_fact_is_shown_by_its_question(self) -> None:
        for question in ("tell me about the vets", "an overview of the visits at Millbeck"):
            answered = self.answered(question)
            assert answered.studied is not None
            self.assertGreater(len(answered.studied.remarks), 3)
            for remark in answered.studied.remarks:
                with self.subTest(remark.question):
                    found = chosen(self.reader.read(remark.question, DEMO_DAY), self.answerer)
                    self.assertEqual((found.status, found.unread), ("answered", ()))

    def test_what_is_meant(self) -> None:
        for question, kind in (
            ("describe the visits at Millbeck", Described),
            ("describe the visits", Described),
            ("give me a short description of the animals", Described),
            ("anything unusual?", Look),
        ):
            with self.subTest(question):
                study = chosen(self.reader.read(question, DEMO_DAY), self.answerer).readings[0].study
                self.assertIsInstance(study, kind)

    def test_all_tables_are_looked_at_where_none_is_named(self) -> None:
        study = chosen(self.reader.read("anything unusual?", DEMO_DAY), self.answerer).readings[0].study
        assert isinstance(study, Look)
        self.assertGreaterEqual(len(study.further), 3)

    def test_an_answer_is_described_as_that(self) -> None:
        first = chosen(self.reader.read("income by clinic in 2025", DEMO_DAY), self.answerer).readings[0]
        for question in ("describe it", "describe this answer", "summarise the results"):
            with self.subTest(question):
                found = chosen(self.reader.read(question, DEMO_DAY, first), self.answerer)
                self.assertIsInstance(found.readings[0].study, Described)
                answered = self.answerer.answer(found.readings[0].plan, DEMO_DAY, study=found.readings[0].study)
                self.assertIn("16,885 visits, from 1 Jan 2025 to 31 Dec 2025", answered.finding)
        self.assertEqual(
            self.reader.read("describe it", DEMO_DAY).status, "told", "of all data where nothing is before"
        )
