"""Questions about the data themselves, and those that only sound like it."""

from __future__ import annotations

import re
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

from gumption.core.reading.read import SUGGESTED_TRUST
from tests.support import DEMO_DAY, demo, opened_from


class About(unittest.TestCase):
    def test_what_there_is_is_told(self) -> None:
        """Each of these is told in words, with what it has to hold."""
        _, reader = demo()
        for question, held in (
            ("what is this data about?", "visits: 47,634 rows"),
            ("Which tables do we have", "pointing at clinics"),
            ("what columns does visits have", "attended: yes or no"),
            ("describe the animals table", "born on: 6 Aug 2012 to 2 Jul 2026"),
            ("what could I ask about visits?", "• “What stands out in visits?”"),
            ("ideas for analysis", "Of animals:"),
            ("how fresh is this data", "visit date up to 31 Oct 2026"),
            ("what dates does the data cover", "visit date from 4 Jan 2024 to 31 Oct 2026"),
            ("any gaps in the data?", "rating of visits: missing in 14,342 of 47,634"),
            ("how is visits connected", "one of clinics, by clinic id"),
            ("are there duplicates in visits?", "each has a visit id of its own"),
            ("what does rating mean?", "rating of visits: 1 to 5"),
            ("how many rows and columns are we talking about?", "visits has 47,634 rows and 11 columns"),
            ("have we data for 2023 in there?", "visits: nothing of 2023"),
            ("what is one row of visits?", "One row of visits is one visit id"),
        ):
            with self.subTest(question):
                found = reader.read(question, DEMO_DAY)
                self.assertEqual(found.status, "told")
                self.assertIn(held, found.problem)

    def test_ideas_are_questions_that_are_read_surely(self) -> None:
        _, reader = demo()
        ideas = re.findall("“(.+)”", reader.read("what could I ask about the owners?", DEMO_DAY).problem)
        self.assertGreater(len(ideas), 3)
        for question in ideas:
            with self.subTest(question):
                found = reader.read(question, DEMO_DAY)
                self.assertEqual((found.status, found.unread), ("answered", ()))
                self.assertGreaterEqual(found.readings[0].trust, SUGGESTED_TRUST)

    def test_questions_of_the_data_are_answered(self) -> None:
        _, reader = demo()
        for question in (
            "how many visits are there",
            "list the visits",
            "visits by clinic",
            "visits without a rating",
            "how many new owners start in 2025",
            "where do these owners come from",
            "mean rating",
        ):
            with self.subTest(question):
                self.assertEqual(reader.read(question, DEMO_DAY).status, "answered")

    def test_a_farms_fields_are_no_columns(self) -> None:
        with TemporaryDirectory() as scratch:
            _, reader = opened_from(
                Path(scratch), {"fields.csv": "field,crop,hectares\nLong Acre,Barley,4\nMill,Oats,7\n"}
            )
        for question in ("how many fields are there", "list the fields", "what fields do we have"):
            with self.subTest(question):
                self.assertEqual(reader.read(question, DEMO_DAY).status, "answered")


if __name__ == "__main__":
    unittest.main()
