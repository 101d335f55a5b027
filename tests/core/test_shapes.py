"""Ways of asking that any data can be asked in, over the demo: what they are read as, and the figures that tell it."""

from __future__ import annotations

import unittest

from gumption.core.reading.read import QuestionReader
from tests.support import DEMO_DAY, demo, tables_for

READ = {
    # periods, and how many of them
    "on how many days were there more than 80 visits": "the number of days in which the number of visits is over 80",
    "on how many days did income exceed 5,000": "the number of days in which the total fee net is over 5,000",
    "number of days with no visits": "the number of days in which the number of visits is 0",
    "how many days in 2025 had no visits": "the number of days in which the number of visits is 0, where visit date is in 2025",
    "average visits per weekday": "the average over each day of the number of visits, for each weekday",
    "income in the first three months of each year": (
        "the total fee net, for each year, where visit date is in January, February or March"
    ),
    # how many each has
    "clinics with at least 5,000 visits, and how many each had": (
        "the number of visits, for each clinic, only where the number of visits is at least 5,000"
    ),
    "which clinics had over 2,000 visits in 2025 and how many": (
        "the number of visits, for each clinic, where visit date is in 2025, only where the number of visits is over 2,000"
    ),
    "how many visits of dogs and how many of cats": "the number of visits, for each species, where species is Dog or Cat",
    # bands said one by one
    "average rating by age of the animal: under 1, 1 to 4, 5 to 9, 10 and over": (
        "the average rating, for each band of age by born on"
    ),
    "visits by wait: under 2, 2 to 5, 6 to 10, over 10": "the number of visits, for each band of wait min",
    # those that are so, and the rest
    "average fee when the wait was over 30 minutes, and when it was not": (
        "the average fee net, for each whether wait min is over 30"
    ),
    "average rating of visits with and without a wait over 20 minutes": (
        "the average rating, for each whether wait min is over 20"
    ),
    "what proportion of visits were at the weekend": "the share of visits where visit date is on a Saturday or Sunday",
    "percentage of visits at the weekend by month": (
        "the share of visits where visit date is on a Saturday or Sunday, for each month"
    ),
    # what rose and fell
    "in which month of 2025 did income rise most on the month before": (
        "the total fee net and the change on the one before, for each month, where visit date is in 2025, "
        "by the total fee net and the change on the one before, highest first: the first"
    ),
    "which month had the biggest drop in visits": (
        "the number of visits and the change on the one before, for each month, "
        "by the number of visits and the change on the one before, lowest first: the first"
    ),
    # against what is usual
    "visits with a fee more than twice the average": "the visits, where fee net is over the average fee net times 2",
    # whose rows they are
    "owners who came in 2025 but not in 2026": (
        "the owners, where there are visits where visit date is in 2025 and there are no visits where visit date is in 2026"
    ),
    "average number of visits per vet in 2025": (
        "the number of visits over the number of different vet id, where visit date is in 2025"
    ),
    "visits per 100 owners in 2025": "the number of visits over the number of owners times 100, where visit date is in 2025",
    "most common visit": "the number of visits, for each reason, by the number of visits, highest first: the first",
}
FIGURES: dict[str, object] = {
    "number of days with no visits": 147,
    "on how many days were there more than 80 visits": 47,
    "average number of visits per vet in 2025": 307.0,
    "how many days in 2025 had no visits": 52,
}


class Shapes(unittest.TestCase):
    def test_each_is_read_as_meant(self) -> None:
        _, reader = demo()
        for question, words in READ.items():
            with self.subTest(question):
                read = reader.read(question, DEMO_DAY)
                self.assertEqual(read.readings[0].words if read.readings else read.problem, words)

    def test_the_figures(self) -> None:
        opened, reader = demo()
        for question, figure in FIGURES.items():
            with self.subTest(question):
                answered = opened.answerer.answer(reader.read(question, DEMO_DAY).readings[0].plan, DEMO_DAY)
                self.assertIn("both ways agree", answered.proof.checks[0].sentence)
                self.assertEqual(answered.rows[0][0], figure)

    def test_what_lies_under_the_first_edge_is_a_band_of_its_own(self) -> None:
        opened, reader = demo()
        plan = reader.read("visits by wait: under 2, 2 to 5, 6 to 10, over 10", DEMO_DAY).readings[0].plan
        bands = {row[0] for row in opened.answerer.answer(plan, DEMO_DAY).rows}
        self.assertEqual(bands, {0.0, 2.0, 6.0, 11.0, None})


DOOR = "Date,Adults,Under 16s,Shop takings,Cafe takings,Weather\n" + "".join(
    f"2026-0{1 + i // 28}-{1 + i % 28:02d},{40 + i % 7},{10 + i % 5},{20 + i}.50,{30 + i}.25,{('Dry', 'Wet')[i % 2]}\n"
    for i in range(84)
)
FUEL = "Date,Reg,Driver,Litres,Cost,Odometer\n" + "".join(
    f"2026-0{1 + i // 28}-{1 + i % 28:02d},KX{i % 4},{('Ann', 'Ben', 'Cas')[i % 3]},{20 + i % 9}.5,{40 + i}.10,{9000 + 90 * i}\n"
    for i in range(84)
)
PUPILS = "Pupil ID,Form,Sex,How heard\n" + "".join(
    f"P{i:02d},{('7A', '7B')[i % 2]},{('M', 'F')[i // 7 % 2]},{('Flyer', 'Friend')[i % 2]}\n" for i in range(30)
)
RESULTS = "Pupil ID,Subject,Score,Out of,Grade\n" + "".join(
    f"P{i % 30:02d},{('Maths', 'English')[i // 30]},{20 + i % 37},60,{'ABC'[i % 3]}\n" for i in range(60)
)
STALL = "Date,Buyer,What,How many,Price each,Total\n" + "".join(
    f"2026-0{1 + i % 9}-{1 + i % 27:02d},{('Mart', 'Gate')[i % 2]},{('Lamb', 'Calf', 'Pig')[i % 3]},{1 + i % 9},{30 + i % 4},"
    f"{(1 + i % 9) * (30 + i % 4)}\n"
    for i in range(90)
)
LESSONS = "Lesson ID,Lesson,Weekday,Teacher\n" + "".join(
    f"L{i:02d},{('Tap', 'Spin', 'Yoga')[i % 3]},{('Mon', 'Tue', 'Sat')[i % 3]},{('Jo', 'Mia')[i % 2]}\n"
    for i in range(12)
)
PLACES = "Place ID,Lesson ID,Date,Status\n" + "".join(
    f"B{i:03d},L{i * i % 12:02d},2026-0{1 + i % 9}-{1 + i % 27:02d},{('Came', 'Cancelled')[i % 5 == 0]}\n"
    for i in range(90)
)
OF_COLUMNS = {
    "busiest teacher": ("the number of places, for each Teacher, by the number of places, highest first: the first"),
    "quietest weekday": ("the number of places, for each Weekday, by the number of places, lowest first: the first"),
    "how did the pupils hear": "the number of pupils, for each How heard",
    "which subject has the lowest average": (
        "the average Score, for each Subject, by the average Score, lowest first: the first"
    ),
    "percentage score by subject": "the total Score as a percentage of the total Out of, for each Subject",
    "who got the most A grades": (
        "the number of results, for each Pupil ID, where Grade is A, by the number of results, highest first: the first"
    ),
    "boys and girls by form": "the number of pupils, for each Sex and Form, where Sex is M or F",
    "how many lambs did we sell": "the total How many, where What is Lamb",
    "how many visitors in February": "the total Adults + Under 16s, where Date is in February",
    "total takings": "the total Shop takings + Cafe takings",
    "takings by weather": "the total Shop takings + Cafe takings, for each Weather",
    "cafe takings in January": "the total Cafe takings, where Date is in January",
    "which driver uses the most fuel": "the total Litres, for each Driver, by the total Litres, highest first: the first",
    "which reg has the highest mileage": (
        "the highest Odometer, for each Reg, by the highest Odometer, highest first: the first"
    ),
}


class Columns(unittest.TestCase):
    """Several columns that are one thing, and columns that are not added up."""

    def test_each_is_read_as_meant(self) -> None:
        opened = tables_for(
            type(self),
            {
                "door.csv": DOOR,
                "fuel log.csv": FUEL,
                "stall.csv": STALL,
                "pupils.csv": PUPILS,
                "results.csv": RESULTS,
                "lessons.csv": LESSONS,
                "places.csv": PLACES,
            },
        )
        reader = QuestionReader(opened.catalogue)
        for question, words in OF_COLUMNS.items():
            with self.subTest(question):
                read = reader.read(question, DEMO_DAY)
                self.assertEqual(read.readings[0].words if read.readings else read.problem, words)


if __name__ == "__main__":
    unittest.main()
