"""What questions are read as, over the demo: one line a question, each checked by hand when it was written."""

from __future__ import annotations

import time
import unittest

from tests.support import DEMO_DAY, demo

READINGS = {
    "how many clinics are there": "the number of clinics",
    "number of vets": "the number of vets",
    "count of owners": "the number of owners",
    "how many rabbits": "the number of animals, where species is Rabbit",
    "how many siamese cats": "the number of animals, where breed is Siamese and species is Cat",
    "total cost of visits": "the total cost",
    "maximum fee": "the highest fee net",
    "minimum rating": "the lowest rating",
    "standard deviation of fee": "the standard deviation of fee net",
    "90th percentile of waiting time": "the 90th percentile of wait min",
    "median fee by reason": "the median fee net, for each reason",
    "correlation between waiting time and rating": "the correlation of wait min and rating",
    "visits in January 2026": "the visits, where visit date is in January 2026",
    "how many visits on Saturdays": "the number of visits, where visit date is on a Saturday",
    "visits between 1 March 2025 and 15 March 2025, how many": "the number of visits, where visit date is from 1 Mar 2025 to 15 Mar 2025",
    "how many visits before 2025": "the number of visits, where visit date is up to 31 Dec 2024",
    "how many owners joined in 2024": "the number of owners, where joined on is in 2024",
    "owners who joined after June 2026": "the owners, where joined on is from 1 Jul 2026 on",
    "number of animals born before 2015": "the number of animals, where born on is up to 31 Dec 2014",
    "how many visits this week": "the number of visits, where visit date is from 26 Oct 2026 to 1 Nov 2026",
    "how many visits in the past 30 days": "the number of visits, where visit date is from 2 Oct 2026 to 31 Oct 2026",
    "visits with a rating below 2": "the visits with rating, where rating is under 2",
    "visits that cost more than 300": "the visits with cost, where cost is over 300",
    "animals heavier than 40 kilos": "the animals with weight kg, where weight kg is over 40",
    "dogs with a weight over 30": "the animals with weight kg, where species is Dog and weight kg is over 30",
    "list the regions": "each different region of clinics",
    "what breeds are there": "each different breed of animals",
    "list the clinics with their town and region": "the clinics with town and region",
    "which clinics are in Dunsop": "the clinics, where town is Dunsop",
    "show the suppliers": "each different supplier of supplies",
    "clinics not in the North region": "the clinics, where region is not North",
    "animals without a weight": "the animals, where weight kg is missing",
    "visits without a rating by clinic": "the number of visits, for each clinic, where rating is missing",
    "number of visits per vet": "the number of visits, for each vet name",
    "visits by species and year": "the number of visits, for each species and year",
    "average fee by month in 2026": "the average fee net, for each month, where visit date is in 2026",
    "total spending per item": "the total amount, for each item",
    "total quantity by supplier": "the total quantity, for each supplier",
    "yearly income": "the total fee net, for each year",
    "monthly visits in 2025": "the number of visits, for each month, where visit date is in 2025",
    "income by weekday": "the total fee net, for each weekday",
    "which species has the most visits": "the number of visits, for each species, by the number of visits, highest first: the first",
    "which month had the most visits": "the number of visits, for each month, by the number of visits, highest first: the first",
    "which vet earned the most income": "the total fee net, for each vet name, by the total fee net, highest first: the first",
    "top 3 reasons by income": "the total fee net, for each reason, by the total fee net, highest first: the first 3",
    "top ten visits by waiting time": "the visits, by wait min, highest first: the first 10",
    "cheapest supplies": "the supplies, by unit price, lowest first: the first 10",
    "most expensive supplies": "the supplies, by unit price, highest first: the first 10",
    "most common reason": "the number of visits, for each reason, by the number of visits, highest first: the first",
    "least common species": "the number of animals, for each species, by the number of animals, lowest first: the first",
    "longest waiting time": "the visits, by wait min, highest first: the first",
    "best rated clinic": "the average rating, for each clinic, by the average rating, highest first: the first",
    "the five heaviest animals": "the animals, by weight kg, highest first: the first 5",
    "average rating per region, highest first": "the average rating, for each region, by the average rating, highest first",
    "clinics sorted by rooms": "the clinics, by rooms, lowest first",
    "best three reasons by income in each region": "the total fee net, for each region and reason, by the total fee net, highest first: the first 3 of each region",
    "top two vets by number of visits for every clinic": "the number of visits, for each clinic and vet name, by the number of visits, highest first: the first 2 of each clinic",
    "share of visits by clinic": "the number of visits as a share of the total, for each clinic",
    "income by clinic as a percentage of the total": "the total fee net as a share of the total, for each clinic",
    "running total of visits by month in 2025": "the number of visits as a running total, for each month, where visit date is in 2025",
    "change in income by month in 2025": "the total fee net and the change on the one before, for each month, where visit date is in 2025",
    "monthly income in 2025 and the change on the month before in percent": "the total fee net and the change on the one before in per cent, for each month, where visit date is in 2025",
    "vets with more than 1000 visits": "the vets, where there are more than 1,000 visits",
    "reasons with an average fee over 100": "the average fee net, for each reason, only where the average fee net is over 100",
    "owners with no animals": "the owners, where there are no animals",
    "clinics without vets": "the clinics, where there are no vets",
    "animals that never had a visit": "the animals, where there are no visits",
    'owners whose email contains "owner12"': "the owners, where email contains “owner12”",
    "pets named Biscuit": "the animals, where pet name is Biscuit",
    "how many visits were not attended": "the number of visits, where attended is no",
    "average happiness of vets by clinic": "the average happiness, for each clinic",
}

DECLINED = {
    "how many visits from Norway": "“Norway” does not occur in these tables.",
    "income per rating point per": None,
    "what will the weather be tomorrow": None,
}


class Readings(unittest.TestCase):
    def test_readings(self) -> None:
        _, reader = demo()
        for question, words in READINGS.items():
            with self.subTest(question):
                found = reader.read(question, DEMO_DAY)
                self.assertEqual(found.status, "answered", found.problem)
                self.assertEqual(found.readings[0].words, words)
                self.assertEqual(found.unread, ())

    def test_every_reading_is_worked_twice_alike(self) -> None:
        opened, reader = demo()
        for question in READINGS:
            with self.subTest(question):
                answered = opened.answerer.answer(reader.read(question, DEMO_DAY).readings[0].plan, DEMO_DAY)
                self.assertEqual(answered.proof.checks[0].sentence, "Computed twice, both ways agree", answered.sql)

    def test_declined_with_a_reason(self) -> None:
        _, reader = demo()
        for question, problem in DECLINED.items():
            with self.subTest(question):
                found = reader.read(question, DEMO_DAY)
                self.assertTrue(found.status == "declined" or found.doubt, found.readings[:1])
                if problem is not None:
                    self.assertEqual(found.problem, problem)

    def test_the_same_question_is_always_read_alike(self) -> None:
        _, reader = demo()
        for question in list(READINGS)[::9]:
            self.assertEqual(reader.read(question, DEMO_DAY), reader.read(question, DEMO_DAY))

    def test_a_long_question_does_not_hang(self) -> None:
        _, reader = demo()
        for words in ("fee clinic by ", "visits ", "a b c d ", "income over 100 and under 5 in 2025 "):
            with self.subTest(words):
                start = time.perf_counter()
                reader.read((words * 2000)[:1999], DEMO_DAY)
                self.assertLess(time.perf_counter() - start, 10)

    def test_glosses_cover_words_in_their_places(self) -> None:
        _, reader = demo()
        for question in READINGS:
            with self.subTest(question):
                last = 0
                for gloss in reader.read(question, DEMO_DAY).glosses:
                    self.assertGreaterEqual(gloss.start, last)
                    self.assertTrue(question[gloss.start : gloss.end].strip())
                    self.assertTrue(gloss.note)
                    last = gloss.end
