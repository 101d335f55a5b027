"""Several figures in one question: rates and counts beside others, and figures of a part beside those of the whole."""

from __future__ import annotations

import datetime as dt
import json
import unittest
from pathlib import Path

from gumption.core.reading.read import QuestionReader
from tests.support import DEMO_DAY, demo, tables_for

PACKS = Path(__file__).parents[1] / "packs"
BESIDE = {
    "average rating and no-show rate by clinic": "the share of visits where attended is no and the average rating, for each clinic",
    "income and no-show rate by clinic": "the share of visits where attended is no and the total fee net, for each clinic",
    "visits and average rating by clinic": "the number of visits and the average rating, for each clinic",
    "average rating and visits by clinic": "the average rating and the number of visits, for each clinic",
    "visits and average rating in 2025": "the number of visits and the average rating, where visit date is in 2025",
    "visits and owners by clinic": "the number of visits and the number of owners, for each clinic",
    "number of visits and average fee per vet": "the number of visits and the average fee net, for each vet name",
    "share of dogs and average fee by clinic": "the share of visits where species is Dog and the average fee net, for each clinic",
    "income from dogs and total income by clinic": "the total fee net where species is Dog and the total fee net, for each clinic",
    "number of no-shows and number of visits by clinic": "the number of visits where attended is no and the number of visits, for each clinic",
    "visits by dogs and visits by cats by clinic": "the number of visits where species is Dog and the number of visits where species is Cat, for each clinic",
    "visits in 2025 and visits in 2026 by clinic": "the number of visits where visit date is in 2025, the number of visits where visit date is in 2026 and its change from visit date is in 2025 to visit date is in 2026, for each clinic",
    # What is said of all, and what two kinds are, stays so.
    "dogs and cats by clinic": "the number of visits, for each species and clinic, where species is Dog or Cat",
    "dog visits and average fee by clinic": "the number of visits and the average fee net, for each clinic, where species is Dog",
    "owners and their animals": "the animals with animal id, owner id and owner name",
}
ELSEWHERE = {
    "library": {
        "loans and late loans by branch": "the number of loans and the number of loans where returned on is over due back, for each branch",
        "withdrawn copies and copies by branch": "the number of copies where withdrawn is yes and the number of copies, for each branch",
        "readers with no loans and all readers by branch": "the number of readers where there are no loans and the number of readers, for each branch",
        "late loans, returned loans and loans by branch": "the number of loans where returned on is over due back, the number of loans where returned on is known and the number of loans, for each branch",
    },
    "hiring": {
        "applications and offers by department": "the number of applications and the number of applications where Stage is Offer, for each Department",
        "hire rate and number of applications by source": "the share of applications where Stage is Hired and the number of applications, for each Source",
        "rejected and hired applications by source": "the number of applications, for each Source, where Stage is Rejected or Hired",
    },
    "alarms": {
        "false alarms and all callouts by device type": "the number of callouts where CAUSE is false alarm and the number of callouts, for each DEV TYPE",
        "average battery and number of devices by maker": "the average BATTERY PCT and the number of devices, for each MAKER",
        "unpaid amount and total amount by customer": "the total AMOUNT where PAID ON is missing and the total AMOUNT, for each NAME",
    },
    "marina": {
        "insured boats and boats by kind": "the number of boats where insured until is over today and the number of boats, for each kind",
        "overdue amount and total amount by method": "the total amount where due on is under today and paid on is missing and the total amount, for each method",
    },
}  # fmt: skip


class FiguresBeside(unittest.TestCase):
    def read(self, asked: dict[str, str], reader: QuestionReader, day: dt.date) -> None:
        for question, words in asked.items():
            with self.subTest(question):
                found = reader.read(question, day)
                self.assertEqual((found.readings[0].words, found.unread), (words, ()))

    def test_each_is_told(self) -> None:
        self.read(BESIDE, demo()[1], DEMO_DAY)

    def test_in_other_trades(self) -> None:
        for name, asked in ELSEWHERE.items():
            day = dt.date.fromisoformat(json.loads((PACKS / name / "pack.json").read_text())["as_of"])
            data = {p.name: p.read_text() for p in sorted((PACKS / name / "data").iterdir())}
            self.read(asked, QuestionReader(tables_for(type(self), data).catalogue), day)

    def test_a_part_and_the_whole_come_to_what_each_is(self) -> None:
        opened, reader = demo()
        first = reader.read("number of no-shows and number of visits by clinic", DEMO_DAY).readings[0]
        _, rows = opened.answerer.rows(first.plan)
        missed, all_of_them = (sum(int(str(row[i])) for row in rows) for i in (1, 2))
        self.assertEqual(all_of_them, opened.catalogue.table("visits").rows)
        alone = reader.read("number of no-shows", DEMO_DAY).readings[0]
        self.assertEqual(str(opened.answerer.rows(alone.plan)[1][0][0]), str(missed))
