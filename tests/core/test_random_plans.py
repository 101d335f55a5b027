"""Random tables and random plans: the engine, the second working and the pandas code give the same rows.

What is drawn for a plan comes from hypothesis, so that a plan that fails is shrunk to its shortest.
"""

from __future__ import annotations

import contextlib
import datetime as dt
import io
import os
import random
import unittest
import warnings
from typing import Any

from hypothesis import HealthCheck, given, note, settings
from hypothesis.strategies import randoms

from gumption.core.checks.twice import rows_agree
from gumption.core.evaluate.run import work
from gumption.core.model.catalogue import Catalogue
from gumption.core.plan.steps import Plan
from gumption.engines.answering import Answerer
from tests.core.random_plans import Maker, tables
from tests.support import tables_for

SEED = 7
PLANS = int(os.environ.get("GUMPTION_RANDOM_PLANS", "300"))
"""More in the long run, which sets it."""
DAY = dt.date(2026, 1, 1)


def plain_rows(frame: Any) -> list[list[Any]]:
    """A frame's rows as Python values, gaps as None."""
    objects = frame.astype(object)
    return [[_plain(v) for v in row] for row in objects.where(frame.notna(), None).values.tolist()]


def _plain(value: Any) -> Any:
    if hasattr(value, "to_pydatetime"):
        value = value.to_pydatetime()
    return value.item() if hasattr(value, "item") else value


def run_script(code: str) -> list[list[Any]]:
    """The rows that a generated script leaves in `answer`."""
    space: dict[str, Any] = {}
    with contextlib.redirect_stdout(io.StringIO()), warnings.catch_warnings():
        warnings.simplefilter("ignore")
        exec(compile(code, "answer.py", "exec"), space)
    return plain_rows(space["answer"])


class RandomPlans(unittest.TestCase):
    answerer: Answerer
    catalogue: Catalogue

    @classmethod
    def setUpClass(cls) -> None:
        opened = tables_for(cls, tables(random.Random(SEED), 220))
        cls.answerer, cls.catalogue = opened.answerer, opened.catalogue

    def agree(self, plan: Plan) -> None:
        try:
            work(plan, self.answerer.engine.column, self.answerer.sizes)
        except OverflowError:
            return
        answered = self.answerer.answer(plan, DAY)
        verdict = answered.proof.checks[0]
        self.assertEqual(verdict.sentence, "Computed twice, both ways agree", f"{verdict}\n{answered.sql}")
        script = run_script(answered.python)
        self.assertTrue(rows_agree(script, answered.rows), f"pandas differs\n{answered.python}\n{answered.sql}")

    @settings(max_examples=PLANS, deadline=None, derandomize=True, database=None, suppress_health_check=[*HealthCheck])
    @given(randoms(use_true_random=False))
    def test_three_ways_agree(self, chance: random.Random) -> None:
        plan = Maker(chance, self.catalogue).plan()
        note(plan.model_dump_json(exclude_none=True))
        self.agree(plan)
