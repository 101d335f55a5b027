"""Scripts of studies: each runs over the files themselves and tells what the answer tells."""

from __future__ import annotations

import contextlib
import io
import os
import re
import unittest

from gumption.core.study.compared import Compared
from gumption.engines.choosing import chosen
from tests.support import DEMO, DEMO_DAY, demo


class Scripts(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        opened, cls.reader = demo()
        cls.answerer = opened.answerer
        cls.addClassCleanup(os.chdir, os.getcwd())
        os.chdir(DEMO / "data")

    def printed(self, question: str) -> tuple[str, str]:
        """What the script of a question prints behind its answer, and the finding."""
        first = chosen(self.reader.read(question, DEMO_DAY), self.answerer).readings[0]
        answered = self.answerer.answer(first.plan, DEMO_DAY, study=first.study)
        said = io.StringIO()
        with contextlib.redirect_stdout(said):
            exec(answered.python, {})
        return said.getvalue(), answered.finding + " ".join(answered.studied.method if answered.studied else ())

    def test_each_tells_the_same(self) -> None:
        for question, printed, told in (
            (
                "is there a difference in rating between clinics",
                r"pvalue=np\.float64\((0\.8[45]\d*)\)",
                r"give as much 85 times",
            ),
            (
                "is the fee significantly different between dogs and cats",
                r"pvalue=np\.float64\((0\.2[23]\d*)\)",
                r"23 times in 100",
            ),
            ("is the average fee different between species", r"\n(0\.\d+)\s*$", r"times in 100 \(Welch’s analysis"),
            ("does the no-show rate differ by clinic", r"\n(0\.5[0-9]\d*)\s*$", r"5[0-9] times in 100 \(chi-squared"),
            ("correlation between wait and rating", r"statistic=np\.float64\((-0\.20\d*)\)", r"correlation −0\.21"),
            ("what goes with a no-show", r"^0\.52\d*\s*$", r"\(0\.52, where 0\.50 is a guess"),
            ("what drives rating", r"^0\.03[78]\d*\s*$", r"3\.8% of how it varies"),
            (
                "what stands out in visits",
                r"deviations off: Millbeck, visits in 2025-02-01: 59\.00",
                r"Tukey’s biweight",
            ),
            ("anything odd about rating?", r"False +2798 +0 ", r"Rating is missing in 100%"),
            ("group the owners", r"\n\d +9[0-9]\d\n", r"groups: 9[0-9]\d with more visits"),
        ):
            with self.subTest(question):
                said, finding = self.printed(question)
                self.assertRegex(said, printed)
                self.assertRegex(finding, told)

    def test_what_moved_it_is_the_plans_own_script(self) -> None:
        said, finding = self.printed("why did visits fall in February 2025")
        self.assertTrue(re.search(r"Millbeck\s+-140", said), said)
        self.assertIn("fell by 118", finding)

    def test_the_kinds_of_tests(self) -> None:
        study = chosen(self.reader.read("does weight differ by species", DEMO_DAY), self.answerer).readings[0].study
        assert isinstance(study, Compared)
        self.assertIsNotNone(study.detail)
