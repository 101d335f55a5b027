"""What is asked back, and what people teach of their words: it holds for kin, is said, and can be forgotten."""

from __future__ import annotations

import unittest

from gumption.core.model.lesson import Lesson, LessonKind
from gumption.core.reading.learned import Lessons, shape_of
from gumption.core.reading.read import Understanding
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, demo


def read(question: str) -> Understanding:
    opened, reader = demo()
    return chosen(reader.read(question, DEMO_DAY), opened.answerer)


def taught(kind: LessonKind, question: str, place: int) -> Lesson:
    reading = read(question).readings[place]
    return Lesson(kind, question, reading.wording, shape_of(reading.ask), reading.words)


class Learned(unittest.TestCase):
    def setUp(self) -> None:
        self.addCleanup(setattr, demo()[1], "lessons", Lessons())

    def teach(self, *lessons: Lesson) -> None:
        demo()[1].lessons = Lessons(lessons)

    def test_the_best_of_something_is_asked_back(self) -> None:
        found = read("best clinic")
        self.assertEqual((found.status, found.problem), ("asks", "By which figure?"))
        self.assertGreater(len(found.readings), 1)
        self.assertEqual(read("best clinic by income").status, "answered")

    def test_a_choice_holds_for_the_same_words(self) -> None:
        lesson = taught("chosen", "best clinic", 2)
        self.teach(lesson)
        for question in ("best clinic", "show me the best clinic please"):
            found = read(question)
            self.assertEqual((found.status, found.doubt, found.readings[0].words), ("answered", False, lesson.reading))
            self.assertEqual(found.readings[0].lesson, lesson)
        self.teach()
        self.assertEqual(read("best clinic").status, "asks")

    def test_a_mark_holds_for_other_values_and_times(self) -> None:
        question = "takings at Millbeck in March 2025"
        first = read(question)
        self.assertTrue(first.readings[0].trust < 0.97)
        self.teach(taught("right", question, 0))
        kin = read("takings at Harrow Street in June 2026")
        self.assertFalse(kin.doubt)
        self.assertGreaterEqual(kin.readings[0].trust, 0.97)
        self.assertEqual(kin.readings[0].lesson and kin.readings[0].lesson.question, question)
        self.assertIsNone(read("takings by clinic").readings[0].lesson)

    def test_what_was_wrong_gives_way(self) -> None:
        before = read("income by clinic").readings[0]
        self.teach(taught("wrong", "income by clinic", 0))
        after = read("income by clinic")
        self.assertNotEqual(after.readings[0].words, before.words)


if __name__ == "__main__":
    unittest.main()
