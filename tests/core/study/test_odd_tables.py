"""Questions beyond a figure over tables that are hardly any: whatever is asked of them ends in an answer or a clear refusal."""

from __future__ import annotations

import datetime as dt
import logging
import unittest

from gumption.core.reading import studies
from gumption.core.reading.read import QuestionReader
from gumption.engines.choosing import chosen
from gumption.engines.errors import CannotAnswer
from tests.support import tables_for

DAY = dt.date(2025, 6, 30)
HEAD = "item,day,kind,size,cost\n"
TABLES = {
    "one row": HEAD + "a,2025-01-05,x,3,1.50\n",
    "all missing": HEAD + "a,2025-01-05,,,\nb,,,,\nc,2025-02-05,,,\n",
    "all alike": HEAD + "a,2025-01-05,x,3,1.50\n" * 40,
    "no time": "item,kind,size,cost\n" + "".join(f"i{n},{'xyz'[n % 3]},{n},{n}.50\n" for n in range(60)),
    "no numbers": "item,kind,place\n" + "".join(f"i{n},{'xyz'[n % 3]},{'pq'[n % 2]}\n" for n in range(60)),
    "to come": HEAD + "".join(f"i{n},20{26 + n % 4}-{1 + n % 12:02d}-05,{'xy'[n % 2]},{n},{n}.25\n" for n in range(90)),
    "negative": HEAD + "".join(f"i{n},2025-{1 + n % 6:02d}-05,{'xy'[n % 2]},{-n},-{n}.25\n" for n in range(90)),
    "months across": "kind," + ",".join(f"2025-{m:02d}" for m in range(1, 7)) + "\n"
    + "".join(f"k{n},{','.join(str(n * m) for m in range(1, 7))}\n" for n in range(8)),
}  # fmt: skip
FRAMES = (
    *studies.MOVED, *studies.AHEAD, *studies.DIFFERS, *studies.STANDS_OUT, *studies.GOES_WITH, *studies.ALIKE, *studies.IN_WORDS
)  # fmt: skip
OURS = (
    ("income", "cost"), ("visits", "items"), ("the average fee", "the average size"), ("a no-show", "kind x"), ("rating", "size"),
    ("owners", "items"), ("clinics", "kinds"), ("clinic", "kind"), ("Millbeck", "x"), ("dogs", "x"), ("cats", "y"), ("total fee", "total cost"),
    ("fee", "cost"), ("wait", "size"), ("weight", "size"), ("animals", "items"), ("owner", "item"),
)  # fmt: skip


class Odd(unittest.TestCase):
    def test_nothing_breaks(self) -> None:
        broken: list[str] = []
        logging.getLogger("gumption").addHandler(handler := _Faults(broken))
        self.addCleanup(logging.getLogger("gumption").removeHandler, handler)
        asked = answered = 0
        for name, text in TABLES.items():
            opened = tables_for(type(self), {"items.csv": text})
            reader = QuestionReader(opened.catalogue)
            for frame in FRAMES:
                question = frame.example
                for one, other in OURS:
                    question = question.replace(one, other)
                handler.at = f"{name}: {question}"
                found = chosen(reader.read(question, DAY), opened.answerer)
                asked += 1
                for reading in found.readings[:2]:
                    try:
                        told = opened.answerer.answer(reading.plan, DAY, study=reading.study)
                    except CannotAnswer:
                        continue
                    answered += 1
                    self.assertTrue(told.finding, handler.at)
                    self.assertNotIn("nan", told.finding.lower().split(), handler.at)
        self.assertEqual(broken, [])
        self.assertGreater(answered, asked // 4)

    def test_each_frame_fits_its_example_and_no_plain_question(self) -> None:
        for frame in FRAMES:
            with self.subTest(frame.example):
                self.assertIsNotNone(studies.wish_of(_tokens(frame.example), DAY))
        for plain in (
            "total income by clinic", "how many visits in March 2025", "which clinic has the highest income", "owners without visits",
            "visits by month", "list the vets", "average rating per vet", "show me visits in the last 6 months",
            "what is the total cost", "who has most animals", "compare income in 2024 and 2025", "top 5 owners by fee",
        ):  # fmt: skip
            with self.subTest(plain):
                self.assertIsNone(studies.wish_of(_tokens(plain), DAY))


def _tokens(question: str) -> list[studies.Token]:
    from gumption.core.reading.tokens import tokenise

    return tokenise(question)


class _Faults(logging.Handler):
    """What was logged as a fault, with the question that it came of."""

    def __init__(self, found: list[str]) -> None:
        super().__init__(logging.ERROR)
        self.found, self.at = found, ""

    def emit(self, record: logging.LogRecord) -> None:
        text = self.format(record).splitlines()
        self.found.append(f"{self.at}: {text[-1]}")
