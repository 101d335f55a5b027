"""Kinds, orders, places, those that lead, all and none, sides, bands, dates and what is left out, each said in several ways."""

from __future__ import annotations

import unittest

from gumption.core.reading.briefs import brief_of
from tests.support import DEMO_DAY, demo, said_in_turn

KINDS = {
    "what values can species take": "each different species of animals",
    "species without duplicates": "each different species of animals",
    "what different combinations of species and breed are there": "each different species and breed of animals",
    "what range of reasons do we have": "each different reason of visits",
}
HOW_MANY = {
    "how many reasons appear among the visits": "the number of different reason",
    "across how many reasons are our visits spread": "the number of different reason",
    "different breeds by species": "the number of different breed, for each species",
}
SORTED = {
    "visits by fee net, highest first": "the visits, by fee net, highest first",
    "newest visits first": "the visits, by visit date, highest first",
    "animals in reverse alphabetical order": "the animals, by animal id, highest first",
    "visits in date order": "the visits, by visit date, lowest first",
    "sort visits by reason then fee net descending": "the visits, by reason, lowest first, then by fee net, highest first",
    "visits by month, newest first": "the number of visits, for each month, by month, highest first",
    "fee net by reason, biggest at the bottom": "the total fee net, for each reason, by the total fee net, lowest first",
}
PLACES = {
    "which clinic came second for fee net": "the total fee net, for each clinic, by the total fee net, highest first: number 2",
    "runner-up reason by fee net": "the total fee net, for each reason, by the total fee net, highest first: number 2",
    "last but one reason by fee net": "the total fee net, for each reason, by the total fee net, lowest first: number 2",
    "reasons from best to worst, fee net": "the total fee net, for each reason, by the total fee net, highest first",
    "each year's top 3 reasons": "the total fee net, for each year and reason, by the total fee net, highest first: the first 3 of each year",
    "the 3 reasons with most visits, year for year": "the number of visits, for each year and reason, by the number of visits, highest first: the first 3 of each year",
    "first 3 visits of each animal": "the visits with animal id, by visit date, lowest first: the first 3 of each animal id",
    "the no. 1 reason per clinic": "the total fee net, for each clinic and reason, by the total fee net, highest first: the first of each clinic",
}
LED = {
    "visits of the clinic with the most visits": "the visits, where clinic id is the one of the highest number of visits",
    "animals of the owner having more animals than any other": "the animals, where owner id is the one of the highest number of animals",
    "top 2 reasons, all their visits": "the visits, where reason is among the 2 of the highest total fee net",
    "visits in clinics outside the top 3": "the visits, where not (clinic id is among the 3 of the highest number of visits)",
    "plot the top 3 reasons over time, by fee net": "the total fee net, for each month and reason, where reason is among the 3 of the highest total fee net",
    "monthly fee net of the 4 largest reasons": "the total fee net, for each month and reason, where reason is among the 4 of the highest total fee net",
    "animals whose first visit was Dental": "the animals, where of the visits the first by visit date is one where reason is Dental",
    "animals whose last visit was not attended": "the animals, where of the visits the last by visit date is one where attended is no",
}
ALL = {
    "owners whose animals are all Dog": "the owners, where there are animals where species is Dog and there are no animals where species is not Dog",
    "owners where every animal is over 10 kg": "the owners, where there are animals and there are no animals where not (weight kg is over 10)",
    "animals with no visits over 200": "the animals, where there are no visits where fee net is over 200",
    "reasons where every visit was attended": "the number of visits and the number of visits where attended is not yes, for each reason, only where the number of visits is at least 1, only where the number of visits where attended is not yes is 0",
    "reasons that don't have any Dog visits": "the number of visits where species is Dog, for each reason, only where the number of visits where species is Dog is 0",
    "clinics with visits in every month of 2025": "the number of different month of visit date, for each clinic, where visit date is in 2025, only where the number of different month of visit date is the number of different month of visit date over all",
    "clinics with both Dental and Surgery visits": "the clinics, where there are visits where reason is Dental and there are visits where reason is Surgery",
    "owners with more than 3 animals": "the owners, where there are more than 3 animals",
    "which owners had any animals born in 2024": "the owners, where born on is in 2024",
    "which clinics saw visits on a weekend": "the clinics, where there are visits where visit date is on a Saturday or Sunday",
}
SIDES = {
    "Dental : Surgery": "the number of visits, for each reason, where reason is Dental or Surgery",
    "fee net side by side for Dental and Surgery": "the total fee net, for each reason, where reason is Dental or Surgery",
    "which did better in fee net, Dental or Surgery?": "the total fee net, for each reason, where reason is Dental or Surgery, by the total fee net, highest first",
    "Dental against all the others put together": "the number of visits, for each whether reason is Dental",
    "by whether rating is filled, the number of visits": "the number of visits, for each whether rating is known",
    "visits before and after 2025": "the number of visits, for each whether visit date is from 1 Jan 2025 on",
    "above-average and below-average visits by fee net": "the number of visits, for each whether fee net is over the average fee net",
    "difference between Dental and Surgery in fee net": "the total fee net where reason is Surgery, the total fee net where reason is Dental and how much more Dental has than Surgery",
    "fee net in March 2025 vs April 2025": "the total fee net where visit date is in March 2025, the total fee net where visit date is in April 2025 and its change from visit date is in March 2025 to visit date is in April 2025",
}
BANDS = {
    "split fee net into quartiles": "the average fee net, the number of visits, the lowest fee net and the highest fee net, for each quartile of fee net",
    "visits in 5 equal-sized groups by fee net": "the average fee net, the number of visits, the lowest fee net and the highest fee net, for each quintile of fee net",
    "cut fee net at 50: visits either side": "the number of visits, for each band of fee net",
    "2025 fee net distribution, bin size 20": "the number of visits, for each band of 20 of fee net, where visit date is in 2025",
    "which fee net bands have the most visits": "the number of visits, for each band of fee net, by the number of visits, highest first",
}
WHEN = {
    "visits no earlier than 24 October 2025": "the visits, where visit date is from 24 Oct 2025 on",
    "visits no later than 5 April 2024": "the visits, where visit date is up to 5 Apr 2024",
    "pre-2025 visits by clinic": "the number of visits, for each clinic, where visit date is up to 31 Dec 2024",
    "visits 2024-2025": "the visits, where visit date is from 1 Jan 2024 to 31 Dec 2025",
    "visits from two years ago": "the visits, where visit date is in 2024",
    "past 12 mths, fee net by month": "the total fee net, for each month, where visit date is from 1 Nov 2025 to 31 Oct 2026",
    "latest complete month, fee net": "the total fee net, where visit date is in September 2026",
    "visits older than 2025": "the visits, where visit date is up to 31 Dec 2024",
    "visits from 2025 forward": "the visits, where visit date is from 1 Jan 2025 on",
}
NOT = {
    "besides Dental, how many visits did we have": "the number of visits, where reason is not Dental",
    "reason != Dental": "the visits, where reason is not Dental",
    "visits ex Dental": "the visits, where reason is not Dental",
    "fee net minus Dental": "the total fee net, where reason is not Dental",
    "aside from Dog, which species are there": "each different species of animals, where species is not Dog",
    "visits unless they're Dental": "the visits, where reason is not Dental",
}
TOGETHER = {
    "visits by clinic and fee net by reason": ("visits by clinic", "fee net by reason"),
    "Dental total fee net, Surgery average fee net": ("Dental total fee net", "Surgery average fee net"),
    "a list of clinics, and separately a count of visits in 2025": ("a list of clinics", "a count of visits in 2025"),
    "the oldest and the newest visit": ("the oldest visit", "the newest visit"),
    "I need two things: visits missing a rating, and visits missing a wait": (
        "visits missing a rating",
        "visits missing a wait",
    ),
    "for each clinic, the reason mix in percent": ("for each clinic, the reason mix in percent",),
    "visits in 2025 and over 50": ("visits in 2025 and over 50",),
    "compare visits in 2024 and visits in 2025": ("compare visits in 2024 and visits in 2025",),
}
CONVERSATIONS = (
    (
        ("visits on 1 January 2025", "the visits, where visit date is on 1 Jan 2025"),
        (
            "when is the next one",
            "the visits, where visit date is from 2 Jan 2025 on, by visit date, lowest first: the first",
        ),
    ),
    (
        ("fee net of Dental and of Surgery", "the total fee net, for each reason, where reason is Dental or Surgery"),
        (
            "by how much",
            "the total fee net where reason is Dental, the total fee net where reason is Surgery and how much more Dental has than"
            " Surgery",
        ),
    ),
    (
        ("which reasons are there", "each different reason of visits"),
        ("how many visits each", "the number of visits, for each reason"),
    ),
    (
        (
            "what is the most common reason",
            "the number of visits, for each reason, by the number of visits, highest first: the first",
        ),
        (
            "does that differ by clinic",
            "the number of visits, for each clinic and reason, by the number of visits, highest first: the first of each clinic",
        ),
    ),
    (
        ("which clinics had visits in May 2025", "the clinics, where there are visits where visit date is in May 2025"),
        ("how many each", "the clinics, where there are visits where visit date is in May 2025"),
    ),
    (
        (
            "total fee net by clinic for Dog",
            "the total fee net, for each clinic, where species is Dog",
        ),
        ("once more, this time Cat", "the total fee net, for each clinic, where species is Cat"),
        ("no filter on species any more", "the total fee net, for each clinic"),
        ("volume not value", "the number of visits, for each clinic"),
    ),
    (
        ("how many visits were Dental", "the number of visits, where reason is Dental"),
        ("how much is that on average", "the average fee net, where reason is Dental"),
    ),
)

TOLD_BY = {
    "visits / reason": "the number of visits, for each reason",
    "reason breakdown of visits": "the number of visits, for each reason",
    "which reasons had how many visits": "the number of visits, for each reason",
    "how does fee net vary with reason": "the average fee net, for each reason",
    "does total fee net differ between reasons": "the total fee net, for each reason",
    "how do visits spread over the week": "the number of visits, for each weekday",
    "reason by year, total fee net": "the total fee net, for each reason and year",
    "visits by reason within clinic": "the number of visits, for each reason and clinic",
    "pivot visits: reason rows, clinic columns": "the number of visits, for each reason (down) and clinic (across)",
    "is there a seasonal pattern in visits": "the number of visits, for each month of the year",
    "attended vs not attended": "the number of visits, for each attended",
    "attended and not, by reason": "the number of visits, for each attended and reason",
    "count and sum of fee net by clinic": "the number of visits and the total fee net, for each clinic",
    "per clinic, fee net total/avg/max": "the total fee net, the average fee net and the highest fee net, for each clinic",
    "how many visits were there and what did they come to": "the number of visits and the total fee net",
    "stacked bars: visits by clinic, coloured by reason": "the number of visits, for each clinic and reason, as bars, stacked",
    "put fee net and cost in one chart, two axes": "the total fee net and the total cost, for each month, as a chart, on two axes",
    "scatter plot, fee net over weight kg": "the visits with fee net and weight kg, as dots",
}
BEYOND = {
    "visits from £60 to £100": "the visits with fee net, where fee net is at least 60 and fee net is at most 100",
    "visits between 60 and 100 pounds": "the visits with fee net, where fee net is at least 60 and fee net is at most 100",
    "visits above average": "the visits, where fee net is over the average fee net",
    "how many visits are below average": "the number of visits, where fee net is under the average fee net",
    "split visits into above and below average fee net": "the number of visits, for each whether fee net is over the average fee net",
    "is the fee net lopsided": "the number of visits, for each band of fee net",
    "bucket visits by fee net, 50 at a time": "the number of visits, for each band of 50 of fee net",
    "no Dog please, just the rest": "the animals, where species is not Dog",
    "visits on every day but Sunday": "the visits, where not (visit date is on a Sunday)",
    "what did Dental and Surgery make together": "the total fee net, where reason is Dental or Surgery",
    "is the average fee net above 100": "the average fee net and the average fee net less 100",
    "in which months was the average fee net above 90": "the average fee net, for each month, only where the average fee net is over 90",
    "have we passed 50000 visits yet": "the number of visits and the number of visits less 50,000",
    "reasons where number of visits > 3000": "the number of visits, for each reason, only where the number of visits is over 3,000",
    "Dog minus Cat visits": "the number of visits where species is Cat, the number of visits where species is Dog and how much more Dog has than Cat",
}
OF_EACH = {
    "top 3 reasons by clinic": "the total fee net, for each clinic and reason, by the total fee net, highest first: the first 3 of each clinic",
    "for Dog and for Cat, top 3 reasons": "the total fee net, for each species and reason, where species is Dog or Cat, by the total fee net, highest first: the first 3 of each species",
    "month by month, which clinic led on visits": "the number of visits, for each month and clinic, by the number of visits, highest first: the first of each month",
    "first 4 of each clinic on fee net": "the visits with clinic, by fee net, highest first: the first 4 of each clinic",
    "no more than 3 visits per clinic, biggest ones": "the visits with clinic, by fee net, highest first: the first 3 of each clinic",
    "league table of clinics on fee net": "the total fee net with its rank, for each clinic, by the total fee net, highest first",
    "half a dozen visits with the highest fee net": "the visits, by fee net, highest first: the first 6",
    "how old is each animal": "the animals with age by born on",
    "where do most visits come from": "the number of visits, for each town, by the number of visits, highest first",
    "which clinic beats the others on fee net": "the total fee net, for each clinic, by the total fee net, highest first: the first",
    "the first one we had of the Dental visits": "the visits, where reason is Dental, by visit date, lowest first: the first",
    "Σ fee net": "the total fee net",
}
PORTIONS = {
    "how dependent on Dog are we for fee net": "the share of fee net where species is Dog",
    "out of all the fee net, what is down to Dog": "the share of fee net where species is Dog",
    "make-up of fee net by reason": "the total fee net as a share of the total, for each reason",
    "reason mix by year": "the number of visits as a share within the group, for each year and reason",
    "fee net-to-cost ratio by clinic": "the total fee net over the total cost, for each clinic",
}


class FamiliesOfWordings(unittest.TestCase):
    def test_each_is_read_as_meant(self) -> None:
        _, reader = demo()
        asked = KINDS | HOW_MANY | SORTED | PLACES | LED | ALL | SIDES | BANDS | WHEN | NOT
        for question, words in (asked | TOLD_BY | BEYOND | OF_EACH | PORTIONS).items():
            with self.subTest(question):
                found = reader.read(question, DEMO_DAY)
                self.assertEqual((found.readings[0].words, found.unread), (words, ()))

    def test_two_things_in_one_are_cut_and_one_is_not(self) -> None:
        _, reader = demo()
        for question, parts in TOGETHER.items():
            with self.subTest(question):
                self.assertEqual(tuple(t.text for t in brief_of(question, reader, DEMO_DAY).tasks), parts)

    def test_what_was_asked_is_gone_on_with(self) -> None:
        _, reader = demo()
        for asked in CONVERSATIONS:
            questions, words = zip(*asked, strict=True)
            with self.subTest(questions[0]):
                self.assertEqual(said_in_turn(reader, questions), words)

    def test_the_first_row_is_that_of_the_earliest_day(self) -> None:
        """Held against the rows by hand: those of an animal sorted by day, and the first of them."""
        opened, reader = demo()
        rows = opened.answerer.rows
        chosen = rows(reader.read("animals whose first visit was Dental", DEMO_DAY).readings[0].plan)
        _, visits = rows(reader.read("visits with animal id, visit date and reason", DEMO_DAY).readings[0].plan)
        first: dict[object, str] = {}
        for _, animal, day, _ in visits:
            if animal is not None:
                first[animal] = min(first.get(animal, "9999"), str(day))
        told = {animal for _, animal, day, reason in visits if reason == "Dental" and first.get(animal) == str(day)}
        self.assertTrue(told)
        self.assertEqual(len(chosen[1]), len(told))


if __name__ == "__main__":
    unittest.main()
