"""Rows with the columns that are asked for, sums done with measures, ranges, states beside each other, both and neither."""

from __future__ import annotations

import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

from tests.support import DEMO_DAY, demo, opened_from, said_in_turn

LISTS = {
    "fee net and reason of every visit": "the visits with fee net and reason",
    "list of visits having columns reason, fee net only": "the visits with reason and fee net",
    "what's the species of each animal?": "the animals with species",
    "when was each visit, and what was the fee net?": "the visits with visit date and fee net",
    "every animal's breed": "the animals with breed",
    "visits along with the animal they belong to": "the visits with animal id",
    "owners with their number of animals": "the owners with the number of animals",
    "including those with none, visits for every animal": "the animals with the number of visits",
    "animals with date of first and last visit": (
        "the animals with first visit date of visits and last visit date of visits"
    ),
    "how long since the last visit, by animal": "the animals with days from last visit date of visits to today",
    "where don't fee net and cost agree": "the visits with fee net and cost, where fee net is not cost",
}
SUMS = {
    "fee net plus 20% vat": "the total fee net × 1.2",
    "fee net less 10%": "the total fee net × 0.9",
    "fee net minus 2": "the total fee net − 2",
    "average fee net plus 5": "the average fee net plus 5",
    "10% of fee net": "the total fee net × 0.1",
    "subtract cost from fee net": "the total fee net less the total cost",
    "trailing 12 months fee net": "the total fee net and its total over the last 12, for each month",
    "trailing 3 month average of fee net": "the total fee net and its moving average over 3, for each month",
    "by how much has fee net grown every year": "the total fee net and the change on the one before, for each year",
    "distribution of visits per animal": "the number of animals, for each the number of visits",
    "since when do we have visits": "the lowest visit date",
    "how much does the fee net vary": "the standard deviation of fee net",
}
RANGES = {
    "visits between 40 and 60": "the visits with fee net, where fee net is at least 40 and fee net is at most 60",
    "visits not between 40 and 60": "the visits, where fee net is under 40 or fee net is over 60",
    "40 < fee net < 60": "the visits, where fee net is over 40 and fee net is under 60",
    "visits either below 20 or above 90": "the visits, where fee net is under 20 or fee net is over 90",
    "visits in the 40 to 60 range": "the visits with fee net, where fee net is at least 40 and fee net is at most 60",
}
EITHER = {
    "attended vs not by clinic": "the number of visits, for each attended and clinic",
    "how many visits are attended and how many are not": "the number of visits, for each attended",
    "how common is Dog among the animals": "the share of animals where species is Dog",
    "one in how many animals is Cat": "the number of animals over the number of animals where species is Cat",
    "owners with Dog but not Cat": (
        "the owners, where there are animals where species is Dog and there are no animals where species is Cat"
    ),
    "owners with neither Dog nor Cat animals": "the owners, where there are no animals where species is Dog or Cat",
    "owners and animals by town": "the number of owners and the number of animals, for each town",
}
CONVERSATIONS = (
    (
        ("how many visits in June 2025", "the number of visits, where visit date is in June 2025"),
        ("make that May", "the number of visits, where visit date is in May 2025"),
        ("how did that look back in March 2026?", "the number of visits, where visit date is in March 2026"),
    ),
    (
        ("number of visits by reason", "the number of visits, for each reason"),
        ("ignore blanks", "the number of visits, for each reason, where reason is known"),
    ),
    (
        ("number of animals that are dogs", "the number of animals, where species is Dog"),
        ("can we get this for every species, not only Dog?", "the number of animals, for each species"),
    ),
)


class ListsAndSums(unittest.TestCase):
    def test_each_is_read_as_meant(self) -> None:
        _, reader = demo()
        for question, words in (LISTS | SUMS | RANGES | EITHER).items():
            with self.subTest(question):
                found = reader.read(question, DEMO_DAY)
                self.assertEqual((found.readings[0].words, found.unread), (words, ()))

    def test_what_was_asked_is_gone_on_with(self) -> None:
        _, reader = demo()
        for asked in CONVERSATIONS:
            questions, words = zip(*asked, strict=True)
            with self.subTest(questions[0]):
                self.assertEqual(said_in_turn(reader, questions), words)

    def test_where_nothing_tells_a_place_the_word_is_unread(self) -> None:
        rows = "".join(f"J{n},2025-0{n % 9 + 1}-12,{n + 2}\n" for n in range(30))
        with TemporaryDirectory() as scratch:
            _, reader = opened_from(Path(scratch), {"jobs.csv": f"job,started,hours\n{rows}"})
        self.assertIn("where", [w.lower() for w in reader.read("Where were the 2025 jobs?", DEMO_DAY).unread])


if __name__ == "__main__":
    unittest.main()
