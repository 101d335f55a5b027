"""The first questions of twenty trades, each with the reading that somebody in that trade would expect, and no doubt.

The files are made in tests/trades; a line of a file of questions is "question => reading".
"""

from __future__ import annotations

import tempfile
import unittest
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from gumption.core.reading.doubts import doubt_of
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, opened_from
from tests.trades.making import TRADES

QUESTIONS = Path(__file__).parent.parent / "trades" / "questions"


def missed(trade: str) -> list[str]:
    """The questions of one trade that are read otherwise than they should be, or with a doubt."""
    found = []
    with tempfile.TemporaryDirectory() as folder:
        opened, reader = opened_from(Path(folder), TRADES[trade])
        for line in (QUESTIONS / f"{trade}.txt").read_text(encoding="utf-8").splitlines():
            question, told = line.split(" => ")
            read = chosen(reader.read(question, DEMO_DAY), opened.answerer)
            doubt = doubt_of(read)
            words = read.readings[0].words if read.readings else read.problem
            if read.status != "answered" or words != told or (doubt is not None and doubt.loud):
                found.append(f"{question} => {words} ({read.status}{', in doubt' if doubt else ''})")
    return found


class FirstQuestions(unittest.TestCase):
    def test_each_is_read_as_meant(self) -> None:
        with ProcessPoolExecutor(2) as pool:
            for trade, wrong in zip(TRADES, pool.map(missed, TRADES), strict=True):
                with self.subTest(trade):
                    self.assertEqual(wrong, [])


if __name__ == "__main__":
    unittest.main()
