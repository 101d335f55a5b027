"""Follow-ups over the demo: what each changes, steps back, and what "they" and "it" point at."""

from __future__ import annotations

import unittest

from gumption.core.reading.read import Reading
from tests.support import DEMO_DAY, demo


def conversation(*questions: str) -> list[str]:
    """How each question of a conversation is read."""
    _, reader = demo()
    reading: Reading | None = None
    said = []
    for question in questions:
        found = reader.read(question, DEMO_DAY, reading)
        reading = found.readings[0] if found.status == "answered" else None
        said.append(reading.words if reading is not None else found.problem)
    return said


def rows(*questions: str) -> list[tuple[object, ...]]:
    """The answer of the last question of a conversation."""
    opened, reader = demo()
    reading: Reading | None = None
    for question in questions:
        reading = reader.read(question, DEMO_DAY, reading).readings[0]
    assert reading is not None
    return opened.answerer.rows(reading.plan)[1]


class Changes(unittest.TestCase):
    def test_conditions_come_and_go(self) -> None:
        said = conversation(
            "number of visits at Millbeck clinic",
            "and Sandhythe?",
            "both Millbeck and Sandhythe",
            "without Millbeck",
            "how about Otter Lane in 2025",
            "all years",
            "for all clinics",
        )
        self.assertEqual(
            said,
            [
                "the number of visits, where clinic is Millbeck",
                "the number of visits, where clinic is Sandhythe",
                "the number of visits, where clinic is Millbeck or Sandhythe",
                "the number of visits, where clinic is Sandhythe",
                "the number of visits, where clinic is Otter Lane and visit date is in 2025",
                "the number of visits, where clinic is Otter Lane",
                "the number of visits",
            ],
        )

    def test_times_left_out_and_another_aggregate_used(self) -> None:
        said = conversation("average fee by month", "drop 2024", "use the median instead", "without March 2025")
        self.assertEqual(
            said,
            [
                "the average fee net, for each month",
                "the average fee net, for each month, where not (visit date is in 2024)",
                "the median fee net, for each month, where not (visit date is in 2024)",
                "the median fee net, for each month, where not (visit date is in 2024) and not (visit date is in March 2025)",
            ],
        )

    def test_time_moves(self) -> None:
        said = conversation(
            "number of visits in March 2026",
            "the previous month",
            "go back another month",
            "the same month a year ago",
            "the full year",
            "and in the second half?",
            "the following quarter",
        )
        spans = [s.removeprefix("the number of visits, where visit date is ") for s in said]
        self.assertEqual(
            spans[:6],
            [
                "in March 2026",
                "in February 2026",
                "in January 2026",
                "in January 2025",
                "in 2025",
                "from 1 Jul 2025 to 31 Dec 2025",
            ],
        )

    def test_groups_quantities_and_order(self) -> None:
        said = conversation(
            "total fee by clinic in 2025",
            "not total, median",
            "along with the highest and lowest",
            "the count, not the sum",
            "swap clinic for species",
            "as a share",
            "back to the numbers",
            "only the top 3",
            "the next 3",
            "reverse the order",
            "ungroup",
        )
        self.assertEqual(said[1], "the median fee net, for each clinic, where visit date is in 2025")
        self.assertIn("the highest fee net and the lowest fee net", said[2])
        self.assertEqual(said[3], "the number of visits, for each clinic, where visit date is in 2025")
        self.assertEqual(said[4], "the number of visits, for each species, where visit date is in 2025")
        self.assertIn("as a share of the total", said[5])
        self.assertEqual(said[6], said[4])
        self.assertTrue(said[7].endswith("highest first: the first 3"))
        self.assertIn("number 4", said[8])
        self.assertIn("lowest first", said[9])
        self.assertEqual(said[10], "the number of visits, where visit date is in 2025")

    def test_numbers_and_averages(self) -> None:
        said = conversation(
            "animals heavier than 30 kg", "how many is that?", "raise the bar to 40", "the ones that aren't"
        )
        self.assertEqual(said[2], "the number of animals, where weight kg is over 40")
        self.assertIn("not", said[3])
        over = rows("visits by clinic", "only the ones above the average")
        self.assertEqual([r[0] for r in over], ["Harrow Street", "Millbeck", "Otter Lane", "Sandhythe"])

    def test_the_last_two_held_against_each_other(self) -> None:
        said = conversation("total fee in 2025", "and 2024?", "what's the difference")
        self.assertIn("its change from visit date is in 2024 to visit date is in 2025", said[2])
        beside = rows("visits by month in 2026 at Millbeck", "compare with 2025")
        self.assertEqual(len(beside), 12)

    def test_kinds_and_flags_come_and_go(self) -> None:
        said = conversation(
            "number of visits by reason", "and species", "which attended", "and without", "remove the attended"
        )
        self.assertEqual(
            said[1:],
            [
                "the number of visits, for each reason and species",
                "the number of visits, for each reason and species, where attended is yes",
                "the number of visits, for each reason and species, where attended is no",
                "the number of visits, for each reason and species",
            ],
        )

    def test_what_one_comes_to_and_what_all_come_to(self) -> None:
        said = conversation(
            "number of visits and total fee by clinic",
            "drop the number of visits",
            "per visit",
            "total fee",
            "what's the total",
        )
        self.assertEqual(said[1], "the total fee net, for each clinic")
        self.assertEqual(said[2], "the average fee net, for each clinic")
        self.assertEqual(said[4], "the total fee net")

    def test_who_changes_what_is_told(self) -> None:
        said = conversation("number of visits by reason in 2026", "who has them")
        self.assertEqual(said[1], "each different vet name of visits, where visit date is in 2026")

    def test_steps_back(self) -> None:
        said = conversation(
            "visits by clinic", "only 2025", "by species instead", "undo", "undo", "start over", "as a share"
        )
        self.assertEqual(said[3], said[1])
        self.assertEqual(said[4], said[0])
        self.assertEqual(said[5], "The next question stands by itself.")
        first = conversation("visits by clinic", "undo", "undo")
        self.assertEqual(first[1], "There is no question before this one to go back to.")


class Pointing(unittest.TestCase):
    def test_those_of_a_ranking(self) -> None:
        five = rows("which 5 owners have the most animals")
        visits = rows("which 5 owners have the most animals", "how many visits did each of them have?")
        self.assertEqual({r[1] for r in visits}, {r[1] for r in five})
        animals = rows("which 5 owners have the most animals", "list their animals")
        self.assertEqual(len(animals), sum(r[-1] for r in five))  # type: ignore[misc]

    def test_it_is_the_one_that_came_first(self) -> None:
        ((clinic, _),) = rows("which clinic has the most visits")
        vets = rows("which clinic has the most visits", "how many vets does it have?")
        self.assertEqual(vets, rows(f"how many vets work at the {clinic} clinic"))

    def test_rows_behind_a_number(self) -> None:
        said = conversation("how many animals are cats", "who are they? with breed and weight, heaviest first")
        self.assertEqual(
            said[1], "the animals with pet name and breed, where species is Cat, by weight kg, highest first"
        )
