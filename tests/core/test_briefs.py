"""Several questions in one text: cut, with what holds for all of them, and read."""

from __future__ import annotations

import unittest

from gumption.core.reading.briefs import Brief, brief_of, may_be_several
from tests.support import DEMO_DAY, demo

MAIL = """Hi team,

for the board meeting I need a few numbers. All for the Millbeck clinic, please.

1. Total fees this year by month
2. How many animals did we see
   in 2025?
3. Which vet had the most visits, and what was their average rating?

Thanks a lot!
Tom"""


def brief(text: str) -> Brief:
    _, reader = demo()
    return brief_of(text, reader, DEMO_DAY)


class Briefs(unittest.TestCase):
    def test_a_mail_with_tasks(self) -> None:
        found = brief(MAIL)
        self.assertEqual(
            [t.own for t in found.tasks],
            [
                "Total fees this year by month",
                "How many animals did we see in 2025?",
                "Which vet had the most visits",
                "what was their average rating?",
            ],
        )
        self.assertEqual([t.follows for t in found.tasks], [False, False, False, True])
        self.assertEqual(found.shared, ("the Millbeck clinic",))
        self.assertIn("Thanks a lot!", found.left)
        for task in found.tasks:
            self.assertEqual(task.understanding.status, "answered")
            self.assertIn("clinic is Millbeck", task.understanding.readings[0].words)

    def test_headings_hold_for_what_stands_below_them(self) -> None:
        found = brief("Millbeck clinic:\n- number of visits in 2025\nOtter Lane:\n- number of visits in 2025\n")
        words = [t.understanding.readings[0].words for t in found.tasks]
        self.assertEqual(
            words,
            [
                "the number of visits, where visit date is in 2025 and clinic is Millbeck",
                "the number of visits, where visit date is in 2025 and clinic is Otter Lane",
            ],
        )

    def test_headings_stand_over_the_first_below_them(self) -> None:
        found = brief("# Takings\n- total fee by clinic\n- average fee by species\n# Waits\n- average wait by clinic\n")
        self.assertEqual([t.heading for t in found.tasks], ["Takings", "", "Waits"])
        self.assertEqual([t.own for t in found.tasks][2], "average wait by clinic")
        self.assertNotIn("Takings", found.left)
        found = brief(
            "Visits\n- how many visits\n- visits by species\n\nFees in 2025\n1. total fee by clinic\n2. average fee\n"
        )
        self.assertEqual([t.heading for t in found.tasks], ["Visits", "", "Fees in 2025", ""])
        held = ["2025" in t.understanding.readings[0].words for t in found.tasks]
        self.assertEqual(held, [False, False, True, True])
        found = brief("Quarterly review\nAll for Millbeck in 2025\n- how many visits\n- average fee by species\n")
        self.assertEqual([t.heading for t in found.tasks], ["Quarterly review", ""])
        self.assertTrue(all("Millbeck" in t.understanding.readings[0].words for t in found.tasks))

    def test_there_points_at_what_was_answered_only_without_a_form_of_be(self) -> None:
        found = brief("Average wait by vet\nHow many visits were there last year?\nAre there visits without a fee?")
        self.assertEqual([t.follows for t in found.tasks], [False, False, False])
        found = brief("Which clinic had the most visits?\nHow many animals came there?")
        self.assertEqual([t.follows for t in found.tasks], [False, True])

    def test_two_questions_in_one_sentence(self) -> None:
        found = brief("How many visits did we have in 2025, and which clinic had the most?")
        self.assertEqual(
            [t.own for t in found.tasks], ["How many visits did we have in 2025", "which clinic had the most?"]
        )
        self.assertIn("where visit date is in 2025", found.tasks[1].understanding.readings[0].words)

    def test_what_holds_for_all(self) -> None:
        found = brief("Please use only 2025. Visits by species; fee by clinic.")
        self.assertEqual(found.shared, ("2025",))
        self.assertTrue(all("in 2025" in t.understanding.readings[0].words for t in found.tasks))
        self.assertEqual(len(found.tasks), 2)

    def test_what_holds_for_all_behind_a_greeting(self) -> None:
        tasks = "\n- visits by month in 2025\n- average fee by species\n"
        for opening in (
            "Hi, for the board pack, all for the Millbeck clinic:",
            "Morning Sam – just Millbeck please.",
            "Hello, can you do these for Monday, everything for Millbeck:",
            "Hi, for the board meeting on Thursday I need, all for Millbeck:",
        ):
            with self.subTest(opening):
                found = brief(opening + tasks)
                self.assertEqual((len(found.tasks), len(found.shared)), (2, 1))
                for task in found.tasks:
                    self.assertIn("clinic is Millbeck", task.understanding.readings[0].words)
        found = brief("Total fees by clinic, only for dogs. How many visits in 2026?")
        self.assertEqual(found.shared, (), "what is said of one question is not said of all")

    def test_one_question_stays_one(self) -> None:
        for text in (
            "total fee and cost by clinic",
            "how many visits in 2025 at clinics in the North and the South",
            "visits of dogs and cats by month, e.g. as a line.",
        ):
            with self.subTest(text):
                self.assertEqual(len(brief(text).tasks), 1)
        self.assertFalse(may_be_several("total fee by clinic and species"))

    def test_odd_texts_end(self) -> None:
        for text in (
            "",
            "\n\n",
            "?",
            "- \n- \n",
            "A. B. C. D.",
            "and what and what and what",
            "#\n##\n:",
            "-  \nfoo",
            "x" * 30_000,
        ):
            with self.subTest(text[:20]):
                self.assertLessEqual(len(brief(text).tasks), 40)
