"""Files as people keep them, in trades of their own: columns called like their table, letters and numbers as names, times of day."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

from gumption.core.model.types import Role, Type
from gumption.core.reading.doubts import doubt_of
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, opened_from

LESSONS = "Lesson ID,Lesson,Level,Teacher,Lesson Date,Starts,Places,Attended\n" + "".join(
    f"{700 + i},{('Choir', 'Drums', 'Harp')[i % 3]},{('All', 'Beginner', 'Advanced', 'All')[i % 4]},"
    f"{('Ada Marsh', 'Bea Pike')[i % 2]},2026-0{1 + i % 9}-{1 + i % 27:02d},{('09:00', '17:30', '07:15')[i % 3]},12,{i % 11}\n"
    for i in range(60)
)
PUPILS = "Pupil No,Pupil,Form,Sex\n" + "".join(
    f"{i},{('Ann', 'Ben', 'Cat', 'Dan')[i % 4]} {('Rowe', 'Stead', 'Vale')[i % 3]} {chr(65 + i)}th,{7 + i % 2}{'AB'[i // 2 % 2]},{'FM'[i % 2]}\n"
    for i in range(1, 25)
)
MARKS = "Pupil No,Subject,Mark,Grade,Remark\n" + "".join(
    f"{1 + i % 24},{('Maths', 'Art')[i // 24 % 2]},{(i * 37) % 61 + 30},{'ABCD'[i % 4]},{'late' if i % 9 == 0 else ''}\n"
    for i in range(96)
)
GOATS = "Tag,Goat,Breed,Born,Sold on,Kids\n" + "".join(
    f"G{i},Goat {i},{('Saanen', 'Boer')[i % 2]},2020-0{1 + i % 8}-11,{'2025-06-01' if i % 6 == 0 else ''},{i % 4}\n"
    for i in range(20)
)
MILKINGS = "Date,Milking,Tag,Litres,Fat %\n" + "".join(
    f"2026-0{1 + i % 6}-{1 + i % 28:02d},{('AM', 'PM')[i % 2]},G{i % 20},{2 + i % 5}.{i % 10},{3 + i % 3}.{i % 10}\n"
    for i in range(200)
)

LETS = "Let Ref,Hirer,Room,Let Date,Hours,Charge,Paid so far,Guests\n" + "".join(
    f"L{i},{('Ann Rowe', 'Ben Vale', 'Cat Stead')[i % 3]},{('Main Barn', 'Loft')[i % 2]},2026-0{1 + i % 9}-12,{1 + i % 4},"
    f"{40 + 10 * (i % 4)},{(40 + 10 * (i % 4)) // (1 + i % 2)},{20 + i}\n"
    for i in range(30)
)
EXTRAS = "Let Ref,Extra,Qty\n" + "".join(f"L{i % 30},{('Chairs', 'Urn')[i % 2]},{1 + i % 3}\n" for i in range(90))

LEDGER = "Inv #,Inv Date,Cust Name,Cust #,Prod Desc,Qty,Unit £,Line Total (£),Paid?\n" + "".join(
    f"N{i},{1 + i % 28:02d}/0{1 + i % 9}/2026,{('Alder & Sons', 'Elm plc', 'Fir Group')[i % 3]},C{10 + i % 3},"
    f"{('Rope', 'Net', 'Buoy', 'Oar')[i % 4]},{1 + i % 7},£{(2, 5, 9, 4)[i % 4]}.00,£{(1 + i % 7) * (2, 5, 9, 4)[i % 4]}.00,{'YN'[i % 5 == 0]}\n"
    for i in range(80)
)


class Everyday(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        scratch = tempfile.TemporaryDirectory()
        cls.addClassCleanup(scratch.cleanup)
        cls.opened = {}
        for name, files in (
            ("lessons", {"timetable.csv": LESSONS}),
            ("school", {"pupils.csv": PUPILS, "marks.csv": MARKS}),
            ("goats", {"herd.csv": GOATS, "milkings.csv": MILKINGS}),
            ("ledger", {"sales ledger.csv": LEDGER}),
            ("barn", {"lets.csv": LETS, "extras.csv": EXTRAS}),
        ):
            folder = Path(scratch.name) / name
            folder.mkdir()
            cls.opened[name] = opened_from(folder, files)

    def read(self, where: str, question: str) -> tuple[str, list[tuple[object, ...]], bool]:
        """How a question is read, its rows, and whether it is told as sure."""
        opened, reader = self.opened[where]
        found = chosen(reader.read(question, DEMO_DAY), opened.answerer)
        self.assertEqual(found.status, "answered", question)
        doubt = doubt_of(found)
        return found.readings[0].words, opened.answerer.rows(found.readings[0].plan)[1], doubt is None or not doubt.loud

    def columns(self, where: str, table: str) -> dict[str, tuple[Type, Role, str | None]]:
        return {c.name: (c.type, c.role, c.unit) for c in self.opened[where][0].catalogue.table(table).columns}

    def test_what_columns_are(self) -> None:
        marks, milkings = self.columns("school", "marks"), self.columns("goats", "milkings")
        self.assertEqual(marks["Mark"][1], Role.SCORE, "a mark in a table of marks is no number that tells which")
        self.assertEqual(self.columns("school", "pupils")["Form"][0], Type.TEXT, "8B is no eight billion")
        self.assertEqual(milkings["Fat %"][1:], (Role.PERCENTAGE, "%"), "4.5 per cent are 4.5%")

    def test_a_class_for_all_is_one_class(self) -> None:
        for question in ("total attended", "attended by teacher", "how many lessons"):
            words, _, _ = self.read("lessons", question)
            self.assertNotIn("Level", words, question)

    def test_rows_that_are_numbered_are_what_is_counted(self) -> None:
        for question, told in (
            ("how many lessons are on the timetable", 60),
            ("how many lessons start before 9am", 20),
            ("how many different lessons are there", 3),
        ):
            _, rows, _ = self.read("lessons", question)
            self.assertEqual(rows[0][0], told, question)

    def test_times_of_day(self) -> None:
        words, _, _ = self.read("lessons", "busiest time")
        self.assertIn("for each Starts", words)
        words, rows, _ = self.read("lessons", "what time is the earliest lesson")
        self.assertIn("07:15", str([str(v) for v in rows[0]]), words)

    def test_how_many_came(self) -> None:
        words, rows, _ = self.read("lessons", "how many people came to Harp")
        self.assertEqual(words, "the total Attended, where Lesson is Harp")
        self.assertEqual(rows[0][0], sum(i % 11 for i in range(60) if i % 3 == 2))

    def test_measures_called_like_their_table(self) -> None:
        marks = [((i * 37) % 61 + 30, i // 24 % 2) for i in range(96)]
        for question, told in (("highest mark in maths", max), ("lowest mark in maths", min)):
            _, rows, _ = self.read("school", question)
            self.assertIn(told(mark for mark, art in marks if not art), rows[0], question)
        for question, told in (
            ("top 3 pupils in art", "the average Mark, for each Pupil, where Subject is Art, by the average Mark, highest first: the first 3"),
            ("did girls do better than boys in maths", "the average Mark, for each Sex, where Subject is Maths and Sex is F or M"),
        ):  # fmt: skip
            self.assertEqual(self.read("school", question)[0], told)

    def test_letters_and_numbers_as_names(self) -> None:
        for question, told in (
            ("how many A grades", 24),
            ("how many marks with grade A", 24),
            ("how many B grades", 24),
            ("how many pupils in 8A", sum(i % 2 == 1 and i // 2 % 2 == 0 for i in range(1, 25))),
        ):
            _, rows, _ = self.read("school", question)
            self.assertEqual(rows, [(told,)], question)
        # The small word stays one.
        self.assertEqual(len(self.read("school", "a list of the pupils")[1]), 24)

    def test_who_never_was_is_of_people(self) -> None:
        words, rows, _ = self.read("school", "who was never late")
        self.assertIn("the pupils, where there are no marks where Remark is late", words)
        self.assertEqual(len(rows), 24 - len({1 + i % 24 for i in range(0, 96, 9)}))

    def test_what_comes_of_a_doing(self) -> None:
        for question, told in (
            ("total milk", "the total Litres"),
            ("milk by breed", "the total Litres, for each Breed"),
            ("goats giving less than 3 litres in a milking", "where Litres is under 3"),
            ("how many milkings in May", "the number of milkings, where Date is in May"),
            ("how many goats are still on the farm", "the number of herd, where Sold on is missing"),
        ):
            self.assertTrue(self.read("goats", question)[0].endswith(told), question)

    def test_a_verb_that_nothing_is_about_is_doubted(self) -> None:
        _, _, sure = self.read("goats", "which goats have never danced")
        self.assertFalse(sure)

    def test_a_value_that_is_a_name_is_no_superlative(self) -> None:
        for question in ("hours in the Main Barn", "hours in the main barn"):
            self.assertEqual(self.read("barn", question)[0], "the total Hours, where Room is Main Barn")

    def test_what_is_owed_and_what_is_paid(self) -> None:
        due = [(40 + 10 * (i % 4), (40 + 10 * (i % 4)) // (1 + i % 2)) for i in range(30)]
        for question, told in (
            ("how much is still owed", sum(charge - paid for charge, paid in due)),
            ("how many lets are fully paid", sum(paid >= charge for charge, paid in due)),
        ):
            _, rows, _ = self.read("barn", question)
            self.assertEqual(rows, [(told,)], question)

    def test_who_came_so_often_did_so_on_rows_of_their_own(self) -> None:
        words, rows, _ = self.read("barn", "hirers who came more than 5 times")
        self.assertIn("the number of lets is over 5", words)
        self.assertEqual([row[1] for row in rows], [10, 10, 10])

    def test_heads_in_short(self) -> None:
        for question, told in (
            ("sales by customer", "the total Line Total (£), for each Cust Name"),
            ("sales by customer number", "the total Line Total (£), for each Cust #"),
            ("quantity by product", "the total Qty, for each Prod Desc"),
            ("how many units of Rope did we sell", "the total Qty, where Prod Desc is Rope"),
            (
                "which products did Elm plc buy",
                "each different Prod Desc of sales ledger entries, where Cust Name is Elm plc",
            ),
            ("how many invoices are unpaid", "the number of sales ledger entries, where Paid? is no"),
        ):
            self.assertEqual(self.read("ledger", question)[0], told, question)
