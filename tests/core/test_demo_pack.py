"""Every question of the demo's pack: the answer, its two workings, its words, and its Python code."""

from __future__ import annotations

import contextlib
import io
import os
import unittest
from typing import Any

import pandas as pd

from gumption.cli.answers import ask
from gumption.engines.choosing import chosen
from tests.support import DEMO, DEMO_DAY, demo, has_rows, lines

QUESTIONS = lines(DEMO / "questions.jsonl")
GOLD = {line["id"]: line for line in lines(DEMO / "gold.jsonl")}


class DemoPack(unittest.TestCase):
    def test_every_question_is_right_and_worked_twice(self) -> None:
        opened, reader = demo()
        self.assertGreaterEqual(len(QUESTIONS), 40)
        for question in QUESTIONS:
            with self.subTest(question["ask"]):
                said = ask(opened, reader, question["ask"], DEMO_DAY)
                self.assertIsNotNone(said.answered, said.understanding.problem)
                assert said.answered is not None
                self.assertEqual(said.understanding.unread, ())
                self.assertTrue(said.understanding.readings[0].words)
                accepted = GOLD[question["id"]]["accept"]
                self.assertTrue(
                    any(has_rows(said.answered.rows, a["rows"], ordered=a["ordered"]) for a in accepted),
                    said.answered.sql,
                )
                stops = [c.sentence for c in said.answered.proof.checks if c.weight == "stop"]
                self.assertEqual(stops, [])
                self.assertEqual(said.answered.proof.checks[0].sentence, "Computed twice, both ways agree")

    def test_python_code_gives_the_same_table_from_the_same_files(self) -> None:
        opened, reader = demo()
        before = os.getcwd()
        os.chdir(DEMO / "data")
        self.addCleanup(os.chdir, before)
        for question in QUESTIONS:
            with self.subTest(question["ask"]):
                plan = reader.read(question["ask"], DEMO_DAY).readings[0].plan
                answered = opened.answerer.answer(plan, DEMO_DAY)
                space: dict[str, Any] = {}
                with contextlib.redirect_stdout(io.StringIO()):
                    exec(compile(answered.python, "answer.py", "exec"), space)
                frame: pd.DataFrame = space["answer"]
                self.assertEqual(list(frame.columns), list(answered.columns))
                rows = frame.astype(object).where(frame.notna(), None).values.tolist()
                self.assertTrue(has_rows(rows, answered.rows, ordered=False), answered.python)


class Honesty(unittest.TestCase):
    def test_what_cannot_be_read_is_not_answered(self) -> None:
        opened, reader = demo()
        for question in ("", "   ", "?!", "x" * 10_000, "will it rain tomorrow", "sing me a sea shanty"):
            with self.subTest(question[:30]):
                found = chosen(reader.read(question, DEMO_DAY), opened.answerer)
                self.assertNotEqual(found.status, "answered")
                self.assertTrue(found.problem)

    def test_words_without_a_meaning_are_named(self) -> None:
        _, reader = demo()
        found = reader.read("total income by clinic roughly", DEMO_DAY)
        self.assertEqual(found.unread, ("roughly",))
        self.assertTrue(found.doubt)
        self.assertEqual([g.note for g in found.glosses if g.kind == "unread"], ["not used"])

    def test_spelling_is_mended_and_said(self) -> None:
        _, reader = demo()
        found = reader.read("average ratng by species", DEMO_DAY)
        self.assertEqual(found.unread, ())
        self.assertTrue(
            any("spelled rate" in g.note or "spelled rating" in g.note for g in found.glosses), found.glosses
        )


class FollowUps(unittest.TestCase):
    def test_edits_of_the_earlier_question(self) -> None:
        _, reader = demo()
        first = reader.read("Income by clinic", DEMO_DAY).readings[0]
        cases = {
            "only dogs": "the total fee net, for each clinic, where species is Dog",
            "just 2025": "the total fee net, for each clinic, where visit date is in 2025",
            "by month instead": "the total fee net, for each month",
        }
        for question, words in cases.items():
            with self.subTest(question):
                self.assertEqual(reader.read(question, DEMO_DAY, first).readings[0].words, words)

    def test_a_follow_up_may_rank_what_came_before(self) -> None:
        _, reader = demo()
        first = reader.read("Income by clinic", DEMO_DAY).readings[0]
        found = reader.read("top five", DEMO_DAY, first).readings[0]
        self.assertTrue(found.words.endswith("by the total fee net, highest first: the first 5"), found.words)
