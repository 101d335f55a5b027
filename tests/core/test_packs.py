"""Packs of questions of other trades: what was reached stays reached, and little is wrong without a word."""

from __future__ import annotations

import unittest
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from tools.bench.packs import run_pack

PACKS = Path(__file__).parent.parent / "packs"
REACHED = {"hiring": 40, "marina": 39, "districts": 36, "brewery": 37, "library": 32, "alarms": 33}
"""How many of the fifty questions of each are at least right."""
MOST_SILENT = 2


class Packs(unittest.TestCase):
    def test_as_many_are_right_as_were(self) -> None:
        with ProcessPoolExecutor(2) as pool:
            results = pool.map(run_pack, [PACKS / name for name in REACHED], [False] * len(REACHED))
        for (name, least), verdicts in zip(REACHED.items(), results, strict=True):
            with self.subTest(name):
                wrong = [f"{v['id']} {v['ask']}: {v['reading']}" for v in verdicts if not v["right"]]
                silent = [v["id"] for v in verdicts if v["silent"]]
                self.assertGreaterEqual(len(verdicts) - len(wrong), least, "\n".join(wrong))
                self.assertLessEqual(len(silent), MOST_SILENT, silent)


if __name__ == "__main__":
    unittest.main()
