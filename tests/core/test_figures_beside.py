"""Several figures in one question: rates and counts beside others, figures of a part beside those of the whole, and beside ranks."""

from __future__ import annotations

import datetime as dt
import json
import unittest
from pathlib import Path

from gumption.core.reading.read import QuestionReader
from tests.support import DEMO_DAY, demo, tables_for

PACKS = Path(__file__).parents[1] / "packs"
FIGURES, HELD = (Path(__file__).parent / name for name in ("figures.txt", "held.txt"))


class FiguresBeside(unittest.TestCase):
    def readers(self) -> dict[str, tuple[QuestionReader, dt.date]]:
        found = {"demo": (demo()[1], DEMO_DAY)}
        for name in ("brewery", "library", "hiring", "alarms", "marina"):
            day = dt.date.fromisoformat(json.loads((PACKS / name / "pack.json").read_text())["as_of"])
            data = {p.name: p.read_text() for p in sorted((PACKS / name / "data").iterdir())}
            found[name] = QuestionReader(tables_for(type(self), data).catalogue), day
        return found

    def test_each_is_read_as_meant(self) -> None:
        readers = self.readers()
        for line in (line for file in (FIGURES, HELD) for line in file.read_text(encoding="utf-8").splitlines()[1:]):
            name, asked = line.split(" | ")
            question, words = asked.split(" => ")
            with self.subTest(name, question=question):
                reader, day = readers[name]
                found = reader.read(question, day)
                self.assertEqual((found.readings[0].words, found.unread), (words, ()))

    def test_those_who_came_again_in_one_table(self) -> None:
        rows = "".join(
            f"2026-0{1 + i % 6}-1{i % 9},{('Ada', 'Ben', 'Cyd', 'Dot', 'Eve')[i * i % 5]},{'NS'[i % 2]},{i}.50\n"
            for i in range(40)
        )
        opened = tables_for(
            type(self), {"sales.csv": "Date,Customer,Region,Total\n" + rows + "2026-01-02,Flo,N,3.00\n"}
        )
        found = QuestionReader(opened.catalogue).read("repeat customers by region", DEMO_DAY)
        _, told = opened.answerer.rows(found.readings[0].plan)
        again: dict[str, int] = {}
        whose: dict[str, set[str]] = {}
        for line in [*rows.split(), "2026-01-02,Flo,N,3.00"]:
            _, customer, region, _ = line.split(",")
            again[customer] = again.get(customer, 0) + 1
            whose.setdefault(region, set()).add(customer)
        expected = {(region, sum(again[c] > 1 for c in customers)) for region, customers in whose.items()}
        self.assertEqual({(str(row[0]), int(str(row[1]))) for row in told}, expected)

    def test_what_is_not_there_is_told_so(self) -> None:
        rows = "".join(
            f"{i},P{i % 4},{('Monthly', 'Yearly')[i % 3 > 0]},{9 + i % 7}.50,{i % 6 + 2},{15 * (i % 3)}\n"
            for i in range(60)
        )
        head = "Sub No,Plan,Billing,Unit Price,Hours,Break (min)\n"
        reader = QuestionReader(tables_for(type(self), {"subscriptions.csv": head + rows}).catalogue)
        for question in ("refund rate by plan", "conversion rate by plan", "which plans were never refunded"):
            with self.subTest(question):
                found = reader.read(question, DEMO_DAY)
                self.assertNotIn("Price", found.readings[0].words if found.readings else "")
                self.assertTrue(found.status != "answered" or found.unread, "a word was passed over")
        for question, words in (
            ("annual vs monthly subscriptions by plan", "where Billing is Yearly or Monthly"),
            ("average unit price per hour by plan", "over the total Hours, for each Plan"),
        ):
            with self.subTest(question):
                self.assertIn(words, reader.read(question, DEMO_DAY).readings[0].words)

    def test_a_part_and_the_whole_come_to_what_each_is(self) -> None:
        opened, reader = demo()
        first = reader.read("number of no-shows and number of visits by clinic", DEMO_DAY).readings[0]
        _, rows = opened.answerer.rows(first.plan)
        missed, all_of_them = (sum(int(str(row[i])) for row in rows) for i in (1, 2))
        self.assertEqual(all_of_them, opened.catalogue.table("visits").rows)
        alone = reader.read("number of no-shows", DEMO_DAY).readings[0]
        self.assertEqual(str(opened.answerer.rows(alone.plan)[1][0][0]), str(missed))
