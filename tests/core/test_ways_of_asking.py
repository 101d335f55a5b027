"""Ways in which people ask: with words beside the question, for several, for how many and how much, on average."""

from __future__ import annotations

import unittest

from gumption.core.reading.asides import without_asides
from gumption.core.reading.tokens import tokenise
from tests.support import DEMO_DAY, demo

VISITS = "the number of visits, for each clinic"
MOST = "by the number of visits, highest first: the first"
ON_MONTH = (
    "the number of visits where visit date is in September 2026, the number of visits where visit date is in October 2026"
    " and its change from visit date is in September 2026 to visit date is in October 2026"
)

ASIDES = {
    "how many vets do we have": (
        "hi! quick one before the morning meeting: how many vets do we have?",
        "Morning all, just checking something - how many vets do we have",
        "how busy are we? I mean how many vets do we have?",
        "sorry if this is a stupid question, how many vets do we have?",
        "how many vets do we have? it's for the newsletter",
        "not sure how to ask this, but how many vets do we have?",
    ),
    "number of visits per clinic": (
        "good morning, my boss is asking for number of visits per clinic",
        "number of visits per clinic, need it for a report by noon",
        "I'm putting together slides for the board, can you tell me number of visits per clinic",
    ),
}
"""Questions, and the same with what is said beside them."""
KEPT = (
    "last month, how many visits?",
    "Millbeck: how many visits in 2024?",
    "I manage the Millbeck clinic, how many visits did we have?",
    "owners who asked for a newsletter",
    "visits by clinic, month and species",
)
"""Questions of which every word counts."""

READ = {
    "number and total of visits by clinic": "the number of visits and the total fee net, for each clinic",
    "visits by clinic: how many and how much": "the number of visits and the total fee net, for each clinic",
    "visits by clinic, number and average": "the number of visits and the average fee net, for each clinic",
    "how many visits were there in 2025 and what did they come to": (
        "the number of visits and the total fee net, where visit date is in 2025"
    ),
    "volume and value of visits by reason": "the number of visits and the total fee net, for each reason",
    "how many animals does an owner have on average": "the number of animals over the number of owners",
    "how many visits does the average clinic have": "the number of visits over the number of clinics",
    "what does the average owner spend": "the average over each owner id of the total fee net",
    "average number of animals an owner has": "the average number of animals of each owner id",
    "how many owners who joined before 2024 had more than 2 visits in 2025?": (
        "the number of owners, where joined on is up to 31 Dec 2023 and there are more than 2 visits where visit date is in"
        " 2025"
    ),
    "owners who joined in 2024 with no visits in 2025": (
        "the owners, where joined on is in 2024 and there are no visits where visit date is in 2025"
    ),
    "how many animals have not been seen since 2025?": (
        "the number of animals, where there are no visits where visit date is from 1 Jan 2025 on"
    ),
    "how many different vets does an owner see on average": (
        "the average over each owner id of the number of different vet id"
    ),
    "how many days after joining do owners make their first visit?": (
        "the average days from joined on to first visit date of visits"
    ),
    "compare the average fee of Dog visits with all the others": "the average fee net, for each whether species is Dog",
    "difference in average fee between cats and the rest": (
        "the average fee net where species is not Cat, the average fee net where species is Cat and its change from species"
        " is not Cat to species is Cat"
    ),
    "the ten oldest animals with their owners": (
        "the animals with animal id, pet name, owner name and born on, by born on, lowest first: the first 10"
    ),
    "visits by clinic and the total fee": "the number of visits and the total fee net, for each clinic",
    "visits that cost more than twice the average of their clinic": (
        "the visits, where cost is over (average cost of the same clinic) × 2"
    ),
    "how many vets did we have at the end of 2024": "the number of vets, where hired on is up to 31 Dec 2024",
    "owners who came in 2024 but not since": (
        "the owners, where there are visits where visit date is in 2024 and there are no visits where visit date is from 1"
        " Jan 2025 on"
    ),
    "fee range by clinic": "the lowest fee net and the highest fee net, for each clinic",
    "most common breeds": "the number of animals, for each breed, by the number of animals, highest first: the first 10",
    "most common breed": "the number of animals, for each breed, by the number of animals, highest first: the first",
    "which clinics had the most visits": f"{VISITS}, {MOST} 10",
    "which of the clinics has the most visits": f"{VISITS}, {MOST}",
    "most frequent reason for visits": f"the number of visits, for each reason, {MOST}",
    "which weekdays are busiest": f"the number of visits, for each weekday, {MOST} 10",
    "on what weekday are most visits": f"the number of visits, for each weekday, {MOST}",
    "which clinic has the most no-shows": f"{VISITS}, where attended is no, {MOST}",
    "worst clinic for no-shows": f"{VISITS}, where attended is no, {MOST}",
    "best clinic for no-shows": (f"{VISITS}, where attended is no, by the number of visits, lowest first: the first"),
    "first visit of 2025": "the visits, where visit date is in 2025, by visit date, lowest first: the first",
    "owners whose first visit was in 2025": "the owners, where first visit date of visits is in 2025",
    "fee net >= 20 & < 40": "the visits, where fee net is at least 20 and fee net is under 40",
    "visits over a quarter of a million": "the visits with fee net, where fee net is over 250,000",
    "visits over one and a half thousand": "the visits with fee net, where fee net is over 1,500",
    "fee in thousands": "the total fee net over 1,000",
    "average feenet by clinic": "the average fee net, for each clinic",
    "clinics by how many visits they have": f"{VISITS}, by the number of visits, highest first",
    "all owners except those with visits in 2025": "the owners, where there are no visits where visit date is in 2025",
    "were there more visits than last month": ON_MONTH,
    "how are visits doing compared to last month": ON_MONTH,
    "fee to date at the close of each quarter": "the total fee net as a running total, for each quarter",
    "visits by fee: under 20, 20 to 100 and over 100": "the number of visits, for each band of fee net",
    "show me 5 animals": "the animals: the first 5",
    "show me the 5 visits with the highest fee net": "the visits, by fee net, highest first: the first 5",
    "a sample of visits": "the visits: the first 10",
    "an example of a visit": "the visits: the first",
    "the first few owners": "the owners: the first 10",
    "how often do visits happen": "the average over each month of the number of visits",
    "how does Millbeck compare with everyone else on fee net": (
        "the total fee net, for each whether clinic is Millbeck"
    ),
    "how has fee net developed since 2024": (
        "the total fee net, for each month, where visit date is from 1 Jan 2024 on"
    ),
    "how does fee net differ from Monday through Sunday": "the total fee net, for each weekday",
    "how many visits come in on Mondays, on average": (
        "the average over each day of the number of visits, where visit date is on a Monday"
    ),
    "visits per 1000 of fee net by clinic": (
        "the number of visits over the total fee net times 1,000, for each clinic"
    ),
    "divide the fee net by the number of visits": "the total fee net over the number of visits",
    "visits where fee net is above the average": "the visits, where fee net is over the average fee net",
    "how many visits came to more than 60": (
        "the number of visits, where visit id is one where the total fee net is over 60"
    ),
    "visits over 60 as a percentage of all visits": "the share of visits where fee net is over 60",
    "the average month for visits": "the average over each month of the number of visits",
    "slowest month for visits in 2025": (
        "the number of visits, for each month, where visit date is in 2025, by the number of visits, lowest "
        "first: the first"
    ),
    "what's the record fee net, and which visit holds it": "the visits, by fee net, highest first: the first",
    "how has fee net built up over 2025": (
        "the total fee net as a running total, for each month, where visit date is in 2025"
    ),
    "did we have more visits in 2025 than in 2024": (
        "the number of visits where visit date is in 2024, the number of visits where visit date is in 2025 "
        "and its change from visit date is in 2024 to visit date is in 2025"
    ),
    "visits in late March 2025": "the visits, where visit date is from 21 Mar 2025 to 31 Mar 2025",
    "slice fee net by clinic": "the total fee net, for each clinic",
    "I'd like to go through each visit one by one": "the visits",
    "quartiles of fee net": "the 25th percentile of fee net, the median fee net and the 75th percentile of fee net",
    "for every visit, give me the reason and the fee net": "the visits with reason and fee net",
    "what did all the visits come to": "the total fee net",
    "visits over 60 by clinic": "the number of visits, for each clinic, where fee net is over 60",
    "more visits yesterday than the day before": (
        "the number of visits where visit date is on 29 Oct 2026, the number of visits where visit date is on 30 Oct 2026"
        " and its change from visit date is on 29 Oct 2026 to visit date is on 30 Oct 2026"
    ),
}


class WaysOfAsking(unittest.TestCase):
    def test_what_is_said_beside_a_question_is_left(self) -> None:
        _, reader = demo()
        for plain, others in ASIDES.items():
            words = reader.read(plain, DEMO_DAY).readings[0].words
            for question in others:
                with self.subTest(question):
                    found = reader.read(question, DEMO_DAY)
                    self.assertEqual((found.readings[0].words, found.unread), (words, ()))

    def test_what_is_asked_is_kept_whole(self) -> None:
        for question in KEPT:
            with self.subTest(question):
                self.assertEqual(without_asides(tokenise(question), ()), tokenise(question))

    def test_each_is_read_as_meant(self) -> None:
        _, reader = demo()
        for question, words in READ.items():
            with self.subTest(question):
                self.assertEqual(reader.read(question, DEMO_DAY).readings[0].words, words)


if __name__ == "__main__":
    unittest.main()
