"""The 22 queries of the TPC-H benchmark as plans: both workings give what the benchmark's own SQL gives."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

from gumption.core.checks.twice import rows_agree
from gumption.core.evaluate.run import work
from gumption.core.plan.document import read_plan
from tools.bench.tpch.data import make_tables
from tools.bench.tpch.plans import plans
from tools.bench.tpch.queries import queries

SCALE = 0.01


class Benchmark(unittest.TestCase):
    def test_both_workings_give_the_benchmarks_answers(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        opened = make_tables(Path(folder.name), SCALE)
        answerer, own = opened.answerer, queries(SCALE)
        found = plans(SCALE)
        self.assertEqual(sorted(found), list(range(1, 23)))
        for number, plan in found.items():
            with self.subTest(number=number):
                want = answerer.engine.run(own[number])[1]
                self.assertTrue(rows_agree(answerer.rows(plan)[1], want), "engine")
                self.assertTrue(rows_agree(work(plan, answerer.engine.column, answerer.sizes).rows, want), "evaluator")
                self.assertEqual(read_plan(plan.model_dump_json(exclude_none=True), opened.catalogue), plan)
