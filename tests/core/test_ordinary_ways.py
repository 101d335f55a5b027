"""Ordinary ways to say conditions, lists and shares, each read to the same as its plainest form."""

from __future__ import annotations

import unittest

from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, demo

SAME = {
    "visits where fee net is at least 100": (
        "visits with a minimum fee of 100",
        "visits with fees from 100 up",
        "visits with fee => 100",
    ),
    "visits where fee net is not 0": ("visits where fee != 0", "visits where fee <> 0", "visits with a nonzero fee"),
    "animals where weight kg is over 30": ("animals heavier than 30kg", "animals weighing more than 30 kg"),
    "visits where species is not Dog": ("visits of all but dogs", "visits other than dogs", "visits of non-dogs"),
    "visits where wait min is 0": ("visits with zero waiting time",),
    "visits where fee net is over the average fee net": ("visits with a fee above average",),
    "visits where rating is 1, rating is 2 or rating is 3": ("visits with a rating of 1, 2 or 3",),
    "visits where region is North": ("visits in the North", "visits in northern clinics"),
}
READ = {
    "how many animals are there?": "the number of animals",
    "how many breeds are there": "the number of different breed",
    "percentage of visits by clinic": "the number of visits as a share of the total, for each clinic",
    "percentage of dogs among visits": "the share of visits where species is Dog",
    "visits per day on average": "the average over each day of the number of visits",
    "owners with at least two dogs": "the owners, where there are at least 2 animals where species is Dog",
    "list the distinct reasons": "each different reason of visits",
    "animals with species and weight": "the animals with species and weight kg",
    "fee and number of visits by month": "the total fee net and the number of visits, for each month",
    "how many visits from March to June 2025": "the number of visits, where visit date is from 1 Mar 2025 to 30 Jun 2025",
    # Who does a thing the most does it most often, unless the verb is of money.
    "which vet saw the most": "the number of visits, for each vet name, by the number of visits, highest first: the first",
    "which clinic made the most": "the total fee net, for each clinic, by the total fee net, highest first: the first",
    # Who came, or was seen, at a time has visits of that time, whenever they joined.
    "how many people were seen in June 2025": "the number of owners, where there are visits where attended is yes and visit date is in June 2025",
    "how many owners came last month": "the number of owners, where there are visits where attended is yes and visit date is in September 2026",
    # How busy they are is told by what happens to them.
    "how busy was Otter Lane in July": "the number of visits, where clinic is Otter Lane and visit date is in July",
    "busiest month for dogs": "the number of visits, for each month, where species is Dog, by the number of visits, highest first: the first",
    "what time of year is busiest": "the number of visits, for each month, by the number of visits, highest first: the first",
    "what percentage of appointments were missed": "the share of visits where attended is no",
    # What one costs is what they cost on average.
    "what does a dental cost": "the average cost, where reason is Dental",
    "what do we charge for a dental on average": "the average fee net, where reason is Dental",
    # How old they are goes by when they were born, whatever rows they are counted through.
    "animals older than 10 years by clinic": "the number of animals, for each clinic, where years from born on to today is over 10",
    "how many animals over 10 years old per clinic": "the number of animals, for each clinic, where years from born on to today is over 10",
    "average fee for animals 10 years or older by clinic": "the average fee net, for each clinic, where years from born on to today is at least 10",
    "clinics older than 5 years": "the clinics with years from opened on to today, where years from opened on to today is over 5",
    # One thing over another, by a word or by a sign.
    "total fee / number of visits": "the average fee net",
    "ratio of visits to clinics": "the number of visits over the number of clinics",
    "number of visits / number of vets by clinic": "the number of visits over the number of vets, for each clinic",
    "total cost / total fee by species": "the total cost over the total fee net, for each species",
    "cost over fee by clinic": "the total cost over the total fee net, for each clinic",
    "visits with cost over fee": "the visits, where cost is over fee net",
    "share of visits whose wait is over 30 minutes by clinic": "the share of visits where wait min is over 30, for each clinic",
    "income by month without March 2025": "the total fee net, for each month, where not (visit date is in March 2025)",
    # What has a pet name is a pet.
    "number of pets by species": "the number of animals, for each species",
    "how many pets did we see in 2025": "the number of animals, where there are visits where visit date is in 2025",
    "how many different pet names are there": "the number of different pet name",
    # What is bought for the house is not spent by its owners.
}


def words(question: str) -> str:
    opened, reader = demo()
    found = chosen(reader.read(question, DEMO_DAY), opened.answerer)
    return found.readings[0].words if found.status == "answered" else found.problem


class OrdinaryWays(unittest.TestCase):
    def test_the_same_condition(self) -> None:
        for plain, ways in SAME.items():
            condition = plain.partition(" where ")[2]
            for way in ways:
                with self.subTest(way):
                    self.assertTrue(words(way).endswith(f"where {condition}"), words(way))

    def test_readings(self) -> None:
        for question, expected in READ.items():
            with self.subTest(question):
                self.assertEqual(words(question), expected)

    def test_what_is_typed_is_read_alike(self) -> None:
        """While a question is typed less is tried; at its end nearly always the same comes first."""
        _, reader = demo()
        other = []
        for question in (*READ, *(way for ways in SAME.values() for way in ways)):
            typed, whole = (reader.read(question, DEMO_DAY, typed=t).readings[:1] for t in (True, False))
            other += [question] if [r.words for r in typed] != [r.words for r in whole] else []
        self.assertLessEqual(len(other), 1, other)
