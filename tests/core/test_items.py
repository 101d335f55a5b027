"""Cells that hold several items, such as the tags of a ticket: told from other text, and asked about one by one."""

from __future__ import annotations

import datetime as dt
import unittest

from gumption.cli.files import Opened
from gumption.core.model.types import Role
from gumption.core.reading.read import QuestionReader
from gumption.intake.several import items_of
from tests.support import tables_for

DAY = dt.date(2026, 10, 31)
TAGS = ("urgent", "urgent; parts", "parts", "urgent; parts; warranty", "warranty; urgent", "", "paint", "parts; paint")
JOBS = "job_no,site,tags,cost\n" + "".join(
    f"{1000 + i},{('North', 'South')[i % 2]},{TAGS[i % 8]},{10 + i}\n" for i in range(64)
)


def cells(*texts: str, rows: int = 6) -> list[tuple[str, int]]:
    return [(text, rows) for text in texts]


class Told(unittest.TestCase):
    def test_lists(self) -> None:
        for separator in ("; ", "|", ", ", "/", "\n"):
            pizzas = ("ham", f"ham{separator}olives", f"olives{separator}ham", f"olives{separator}corn", "corn")
            with self.subTest(separator=separator):
                found = items_of(cells(*pizzas))
                assert found is not None
                self.assertEqual(
                    (found.separator, {item for item, _ in found.kinds}),
                    (separator.strip(" "), {"ham", "olives", "corn"}),
                )

    def test_no_lists(self) -> None:
        for name, texts in {
            "towns and their states": ("Austin, TX", "Dallas, TX", "Reno, NV", "Elko, NV"),
            "last and first names": ("Okafor, Ada", "Okafor, Ben", "Lind, Ada", "Lind"),
            "things with what they are of": ("Bolt, zinc", "Bolt, steel", "Nut, zinc", "Nut", "Bolt"),
            "numbers and dates": ("1/2", "2/3", "1/3", "3", "2"),
            "whole sentences": tuple(f"came in late, said {n} was broken, left" for n in range(8)),
            "one value each": ("ham", "olives", "corn"),
            "no answer": ("N/A", "N", "A"),
        }.items():
            with self.subTest(name):
                self.assertIsNone(items_of(cells(*texts)))


class Asked(unittest.TestCase):
    opened: Opened

    @classmethod
    def setUpClass(cls) -> None:
        cls.opened = tables_for(cls, {"jobs.csv": JOBS})
        cls.reader = QuestionReader(cls.opened.catalogue)

    def rows(self, question: str) -> list[tuple[object, ...]]:
        answered = self.opened.answerer.answer(self.reader.read(question, DAY).readings[0].plan, DAY)
        self.assertEqual(answered.proof.checks[0].sentence, "Computed twice, both ways agree", answered.sql)
        return [tuple(row) for row in answered.rows]

    def test_the_column_is_of_its_items(self) -> None:
        tags = self.opened.catalogue.table("jobs").column("tags")
        self.assertEqual((tags.separator, tags.role, tags.distinct), (";", Role.CATEGORY, 4))
        self.assertEqual(tags.values, ("parts", "urgent", "paint", "warranty"))
        self.assertIn("several:tags", {n.key for n in self.opened.catalogue.table("jobs").notes})

    def test_questions(self) -> None:
        each = [("parts", 32), ("urgent", 32), ("paint", 16), ("warranty", 16)]
        for question, wanted in {
            "how many jobs are tagged urgent": [(32,)],
            "jobs by tag": sorted(each),
            "how often was each tag used, most first": each,
            "how many different tags are there": [(4,)],
            "how many jobs have no tags": [(8,)],
            "how many jobs are not tagged urgent": [(32,)],
            "how many jobs are tagged urgent and warranty": [(16,)],
            "how many jobs are both urgent and warranty": [(16,)],
            "how many jobs are tagged paint or warranty": [(32,)],
            "number of jobs by tag for urgent and paint": [("paint", 16), ("urgent", 32)],
            "how many jobs in the north are tagged paint": [(8,)],
            "average cost of warranty jobs": [(41.5,)],
        }.items():
            with self.subTest(question):
                found = self.rows(question)
                self.assertEqual(sorted(found) if "first" not in question else found, wanted)

    def test_what_is_done_is_told(self) -> None:
        found = self.reader.read("jobs tagged urgent by site", DAY).readings[0]
        self.assertEqual(found.words, "the number of jobs, for each site, where tags holds urgent")


if __name__ == "__main__":
    unittest.main()
