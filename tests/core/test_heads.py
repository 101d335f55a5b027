"""Plain questions are read as meant however the columns are headed, and with a slip in one of their words."""

from __future__ import annotations

import os
import unittest
from concurrent.futures import ProcessPoolExecutor

from gumption.core.reading.spelling import Speller, is_regular
from tools.bench.heads import Kind, Verdict, kinds, verdicts

STEP = int(os.environ.get("GUMPTION_TRADES_STEP", "2"))


def _plain(kind: Kind) -> list[Verdict]:
    return list(verdicts(kind, 1))


def _misspelled(kind: Kind) -> list[Verdict]:
    return list(verdicts(kind, 1, slips=True))


class Heads(unittest.TestCase):
    def test_most_are_read_as_meant(self) -> None:
        """Shares a little under those measured; a kind by itself may have no more than one question in three wrong."""
        for read, step, least in ((_plain, STEP, 0.895), (_misspelled, 3 * STEP, 0.86)):
            asked_of = kinds()[::step]
            with ProcessPoolExecutor(2) as pool:
                every = list(pool.map(read, asked_of))
            for kind, found in zip(asked_of, every, strict=True):
                wrong = [f"{v.heads}: {v.ask} => {v.reading}" for v in found if not v.right]
                if read is _plain:
                    self.assertLessEqual(len(wrong), len(found) / 3, f"{kind.name}: {wrong}")
            asked = [v for found in every for v in found]
            self.assertGreater(sum(v.right for v in asked) / len(asked), least, read.__name__)


class Spelling(unittest.TestCase):
    def setUp(self) -> None:
        self.speller = Speller(["motor", "flat", "sheep", "tenant"], ["under", "month", "first"], ["margin", "house"])

    def test_a_word_is_put_right_by_the_slip_that_makes_it(self) -> None:
        slips = {
            "mtoor": "motor",
            "fllats": "flats",
            "shep": "sheep",
            "mnth": "month",
            "firts": "first",
            "undr": "under",
        }
        for slip, meant in {**slips, "marign": "margin", "tenatns": "tenants", "mny": "many", "teh": "the"}.items():
            with self.subTest(slip):
                self.assertEqual(self.speller.mended(slip), meant)

    def test_what_is_near_nothing_or_several_stays(self) -> None:
        speller = Speller([], ["sale", "same", "save"], [])
        for word in ("sare", "tap", "rof", "zebra", "motor"):
            with self.subTest(word):
                self.assertIsNone(speller.mended(word))

    def test_a_word_of_the_workspace_is_nearer_than_one_that_only_asks(self) -> None:
        self.assertEqual(Speller(["stock"], ["stack"], []).mended("stck"), "stock")

    def test_a_regular_form_is_no_slip(self) -> None:
        self.assertTrue(is_regular("departments", "depart"))
        self.assertFalse(is_regular("departements", "depart"))


if __name__ == "__main__":
    unittest.main()
