"""Questions that go beyond a figure, worded in many ways over several trades' data: what is asked, and of what."""

from __future__ import annotations

import datetime as dt
import json
import unittest
from pathlib import Path

from gumption.core.reading.read import QuestionReader
from gumption.core.study.change import Change
from gumption.core.study.clusters import Clusters
from gumption.core.study.compared import Compared
from gumption.core.study.forecast import Forecast
from gumption.core.study.goes_with import GoesWith
from gumption.core.study.look import Look
from gumption.core.study.related import Related
from tests.support import DEMO_DAY, demo, tables_for

KINDS = {
    "change": Change,
    "forecast": Forecast,
    "look": Look,
    "differs": Compared,
    "goes with": GoesWith,
    "alike": Clusters,
    "together": Related,
}
ASKED = Path(__file__).parent / "asked.txt"
PACKS = Path(__file__).parents[2] / "packs"
LEAST_RIGHT = 0.95


class Asked(unittest.TestCase):
    def readers(self) -> dict[str, tuple[QuestionReader, dt.date]]:
        found = {"demo": (demo()[1], DEMO_DAY)}
        for name in ("brewery", "library", "hiring", "alarms"):
            about = json.loads((PACKS / name / "pack.json").read_text())
            opened = tables_for(type(self), {p.name: p.read_text() for p in sorted((PACKS / name / "data").iterdir())})
            found[name] = QuestionReader(opened.catalogue), dt.date.fromisoformat(about["as_of"])
        return found

    def test_what_is_asked(self) -> None:
        readers = self.readers()
        lines = [line for line in ASKED.read_text().splitlines() if line and not line.startswith("#")]
        wrong = []
        for line in lines:
            name, question, kind, told = (part.strip() for part in line.split("|"))
            reader, day = readers[name]
            found = reader.read(question, day)
            first = found.readings[0] if found.readings else None
            words = first.words.lower() if first is not None else found.problem
            right = first is not None and found.status == "answered" and isinstance(first.study, KINDS[kind])
            if not right or not all(part.strip().lower() in words for part in told.split("+")):
                wrong.append(f"{name}: {question} -> {words}")
        self.assertGreaterEqual(len(lines), 60)
        self.assertLessEqual(len(wrong), (1 - LEAST_RIGHT) * len(lines), "\n".join(wrong))
