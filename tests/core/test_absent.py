"""Questions about what is not in the data, of thirty trades: each is declined or asked back, and none is answered with
what is near. A line of tests/trades/absent.txt that begins with # names the trade of those below it.
"""

from __future__ import annotations

import tempfile
import unittest
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from gumption.engines.choosing import chosen
from tests.core.test_first_questions_of_trades import FILES, TOLD, by_trade
from tests.support import DEMO_DAY, opened_from


def answered(trade: str) -> list[str]:
    """The questions of one trade that are answered all the same."""
    with tempfile.TemporaryDirectory() as folder:
        opened, reader = opened_from(Path(folder), FILES[trade], TOLD.get(trade))
        found = {
            question: chosen(reader.read(question, DEMO_DAY), opened.answerer)
            for question in by_trade("absent.txt")[trade]
        }
        return [question for question, read in found.items() if read.status not in ("asks", "declined")]


class Absent(unittest.TestCase):
    def test_what_is_not_there_is_not_answered(self) -> None:
        trades = list(by_trade("absent.txt"))
        with ProcessPoolExecutor(2) as pool:
            for trade, wrong in zip(trades, pool.map(answered, trades), strict=True):
                with self.subTest(trade):
                    self.assertEqual(wrong, [])

    def test_other_rows_are_offered_in_their_place(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            opened, reader = opened_from(Path(folder), FILES["gym"])
            read = chosen(reader.read("how many accidents were there last year", DEMO_DAY), opened.answerer)
        self.assertEqual(read.problem, "Nothing here is called “accidents”. Which of these is meant, if any?")
        self.assertEqual(
            [reading.words for reading in read.readings],
            [
                "the number of visits, where Visit date is in 2025",
                "the number of classes, where Date is in 2025",
                "the number of members, where Joined is in 2025",
            ],
        )


if __name__ == "__main__":
    unittest.main()
