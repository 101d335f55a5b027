"""Questions worth asking of tables, and what to ask next of an answer: read whole, of many kinds, never of a birthday."""

from __future__ import annotations

import unittest

from gumption.core.reading.suggesting import going_on, worth_asking_of
from gumption.engines.choosing import chosen, says_nothing
from tests.support import DEMO_DAY, demo


class Suggesting(unittest.TestCase):
    def test_what_is_worth_asking_of_visits_is_read_whole_and_has_an_answer(self) -> None:
        opened, reader = demo()
        asked = list(worth_asking_of(reader.catalogue.table("visits"), reader.catalogue))
        self.assertGreaterEqual(len(asked), 6)
        for question in asked:
            with self.subTest(question):
                found = chosen(reader.read(question, DEMO_DAY), opened.answerer)
                self.assertEqual((found.status, found.unread), ("answered", ()))
        self.assertIn("Top 5 clinics by fee net", asked)
        self.assertIn("Visits by month", asked)

    def test_no_table_is_looked_at_over_its_birthdays(self) -> None:
        _, reader = demo()
        self.assertNotIn("Animals by month", list(worth_asking_of(reader.catalogue.table("animals"), reader.catalogue)))

    def test_what_follows_on_changes_the_answer(self) -> None:
        opened, reader = demo()
        assert reader.nouns is not None
        for question in ("how many visits", "total fee by clinic", "visits by month", "top 5 vets by visits"):
            first = chosen(reader.read(question, DEMO_DAY), opened.answerer).readings[0]
            nexts = list(going_on(first.ask, reader.nouns))
            self.assertGreaterEqual(len(nexts), 2, question)
            for follow in nexts:
                with self.subTest(f"{question} > {follow}"):
                    found = chosen(reader.read(follow, DEMO_DAY, first), opened.answerer)
                    self.assertEqual((found.status, found.unread), ("answered", ()))
                    self.assertNotEqual(found.readings[0].words, first.words)
                    self.assertFalse(says_nothing(tuple(opened.answerer.rows(found.readings[0].plan)[1][:2])))


if __name__ == "__main__":
    unittest.main()
