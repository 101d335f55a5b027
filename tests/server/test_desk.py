"""What a desk keeps of the one before it, when tables change."""

from __future__ import annotations

import datetime as dt
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from unittest import mock

from gumption.cli.files import open_files
from gumption.core.model.term import Term
from gumption.core.reading.read import QuestionReader
from gumption.engines.answering import Answerer
from gumption.engines.errors import CannotAnswer
from gumption.engines.limits import Limits, Stop
from gumption.server.desk import Desk, Opening, Taught
from gumption.server.schemas import QuestionIn
from gumption.server.tasks import gloss
from tests.support import demo

BERTHS = "berth,pier,length_m\nB1,North,12\nB2,North,9\nB3,South,15\n"
DAY = dt.date(2026, 10, 31)


class Kept(unittest.TestCase):
    def setUp(self) -> None:
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)

    def opening(self, files: dict[str, str], before: Opening | None = None) -> Opening:
        """These files opened; a table of the opening before keeps its file where its text is the same."""
        paths = []
        for name, text in files.items():
            (self.folder / f"{name}.csv").write_text(text)
            paths.append(str(self.folder / f"{name}.csv"))
        out = Path(tempfile.mkdtemp(dir=self.folder))
        opened = open_files(paths, None, out)
        parquet = dict(opened.answerer.engine.parquet)
        if before is not None:
            parquet.update((n, p) for n, p in before.parquet.items() if parquet[n].read_bytes() == p.read_bytes())
        return Opening(opened.catalogue, parquet, dict(opened.answerer.readings), Taught(), Limits())

    def work(self, desk: Desk, question: str) -> tuple[object, int, int]:
        """The rows of a question's answer, and how often it was read and worked for it."""
        with (
            mock.patch.object(QuestionReader, "read", autospec=True, side_effect=QuestionReader.read) as read,
            mock.patch.object(Answerer, "answer", autospec=True, side_effect=Answerer.answer) as answer,
        ):
            found = desk.understand(question, (), DAY)
            rows = desk.answer_plan(found.readings[0].plan, DAY, stop=Stop()).rows
        return rows, read.call_count, answer.call_count

    def test_a_question_is_not_read_again_where_its_words_mean_what_they_did(self) -> None:
        first = self.opening({"berths": BERTHS})
        desk = Desk(first)
        lengths = "average length of berths by pier"
        rows = self.work(desk, lengths)
        self.assertEqual(rows, ([("South", 15.0), ("North", 10.5)], 1, 1))
        self.assertEqual(self.work(desk, lengths)[1:], (0, 0))

        beside = self.opening({"berths": BERTHS, "cranes": "crane,lifts_kg\nC1,500\nC2,900\n"}, first)
        unrelated = Desk(beside, desk)
        self.assertEqual(self.work(unrelated, lengths), (rows[0], 0, 0))

        sharing = self.opening({"berths": BERTHS, "ships": "ship,pier,length_m\nS1,North,80\nS2,South,70\n"}, first)
        self.assertEqual(self.work(Desk(sharing, unrelated), lengths)[1], 1, "a pier may be another table's now")

        changed = self.opening({"berths": BERTHS.replace("15", "8")}, first)
        self.assertEqual(self.work(Desk(changed, unrelated), lengths), ([("North", 10.5), ("South", 8.0)], 1, 1))

    def test_what_was_taught_is_heard(self) -> None:
        first = self.opening({"berths": BERTHS})
        desk = Desk(first)
        self.work(desk, "berths by pier")
        mole = Term(words=("mole",), table="berths", column="pier")
        taught = replace(first, taught=Taught(terms=(mole,)))
        self.assertEqual(self.work(Desk(taught, desk), "berths by pier")[1:], (1, 0), "read by what is known now")

    def test_a_table_that_goes_away_is_told_as_that(self) -> None:
        opening = self.opening({"berths": BERTHS})
        desk = Desk(opening)
        opening.parquet["berths"].unlink()
        found = desk.understand("average length by pier", (), DAY)
        with self.assertRaisesRegex(CannotAnswer, "changed or deleted"):
            desk.answer_plan(found.readings[0].plan, DAY, stop=Stop())

    def test_a_word_that_leads_on_takes_nothing_from_what_is_typed(self) -> None:
        opened, _ = demo()
        desk = Desk(Opening(opened.catalogue, dict(opened.parquet), dict(opened.answerer.readings), Taught(), Limits()))
        for typed in ("average fee", "average fee by", "average fee by cli"):
            with self.subTest(typed):
                self.assertEqual(
                    gloss(desk, Stop(), QuestionIn(question=typed), (), DAY).reading, "the average fee net"
                )


if __name__ == "__main__":
    unittest.main()
