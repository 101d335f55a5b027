"""What makes a word such as sold out or absent true of a row, and that readers leave nothing behind."""

from __future__ import annotations

import gc
import unittest
import weakref
from typing import ClassVar

from gumption.core.reading.read import QuestionReader
from tests import support


class OnSeveralLines(support.Asked):
    """Phrases that stand on several lines of the lexicon have the patterns of all."""

    files: ClassVar[dict[str, str]] = {
        "items.csv": "item,price,in_stock\nCollar,4.50,12\nLead,7.25,0\nBasket,30.00,0\nBrush,3.10,5\n",
        "lessons.csv": "lesson_no,pupil,attended\n1,Ada,yes\n2,Bo,no\n3,Cy,yes\n4,Bo,no\n5,Ada,no\n",
        "classes.csv": "class_name,booked,capacity\nPuppies,12,12\nAgility,7,10\nScent work,15,12\nRecall,3,8\n",
    }

    def test_each_table_says_it_in_its_own_way(self) -> None:
        self.assert_answers(
            [
                ("how many items are sold out", [[2]]),
                ("how many lessons were absent", [[3]]),
                ("which classes are full", [["Puppies"], ["Scent work"]]),
                ("which classes are overbooked", [["Scent work"]]),
                ("which classes have places left", [["Agility"], ["Recall"]]),
            ]
        )


class Kept(unittest.TestCase):
    def test_a_reader_that_is_let_go_takes_its_words_with_it(self) -> None:
        """A workspace gets a new reader with every change of its tables; values of the old ones may fill the memory."""
        reader = QuestionReader(support.demo()[0].catalogue)
        reader.read("overdue visits by clinic", support.DEMO_DAY)
        words = weakref.ref(reader.vocabulary)
        del reader
        gc.collect()
        self.assertIsNone(words())
