"""The first questions of a hundred trades, each with the reading that somebody in that trade would expect, and no doubt.

The files are made in tests/trades; a line of a file of questions is "question => reading". In conversations.txt a line
with > follows on the one before. The long run asks all of them, the ordinary one every other
of every other trade.
"""

from __future__ import annotations

import os
import tempfile
import unittest
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from gumption.core.reading.doubts import doubt_of
from gumption.core.reading.read import Reading
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, opened_from
from tests.trades.declared import DECLARED
from tests.trades.further import FURTHER
from tests.trades.houses import HOUSES
from tests.trades.kept import KEPT
from tests.trades.lists import LISTS
from tests.trades.making import TRADES
from tests.trades.measured import MEASURED, MEASURED_SAID
from tests.trades.offices import OFFICES, SAID
from tests.trades.registers import REGISTERS
from tests.trades.services import SERVICES
from tests.trades.several import SEVERAL
from tests.trades.sheets import SHEETS
from tests.trades.workings import WORKINGS
from tests.trades.works import WORKS

PARTS = (
    TRADES,
    FURTHER,
    REGISTERS,
    OFFICES,
    MEASURED,
    LISTS,
    DECLARED,
    WORKS,
    WORKINGS,
    SERVICES,
    KEPT,
    HOUSES,
    SHEETS,
    SEVERAL,
)
FILES = {name: files for part in PARTS for name, files in part.items()}
TOLD = {**SAID, **MEASURED_SAID}
PLACE = Path(__file__).parent.parent / "trades"
STEP = int(os.environ.get("GUMPTION_TRADES_STEP", "2"))


def by_trade(name: str) -> dict[str, list[str]]:
    """The lines of a file in tests/trades below the name of each trade."""
    found: dict[str, list[str]] = {}
    for line in (PLACE / name).read_text(encoding="utf-8").splitlines():
        if line.startswith("# "):
            lines = found.setdefault(line.removeprefix("# "), [])
        else:
            lines.append(line)
    return found


def missed(trade: str) -> list[str]:
    """The questions of one trade that are read otherwise than they should be, or with a doubt."""
    found = []
    alone = (PLACE / "questions" / f"{trade}.txt").read_text(encoding="utf-8").splitlines()
    with tempfile.TemporaryDirectory() as folder:
        opened, reader = opened_from(Path(folder), FILES[trade], TOLD.get(trade))
        earlier: Reading | None = None
        for line in (*alone[::STEP], *by_trade("conversations.txt").get(trade, ())):
            question, told = line.removeprefix("> ").split(" => ")
            read = chosen(reader.read(question, DEMO_DAY, earlier if line.startswith("> ") else None), opened.answerer)
            earlier = read.readings[0] if read.readings else None
            doubt = doubt_of(read)
            words = read.readings[0].words if read.readings else read.problem
            if read.status != "answered" or words != told or (doubt is not None and doubt.loud):
                found.append(f"{question} => {words} ({read.status}{', in doubt' if doubt else ''})")
    return found


class FirstQuestions(unittest.TestCase):
    def test_each_has_a_name_of_its_own(self) -> None:
        self.assertEqual(len(FILES), sum(map(len, PARTS)))

    def test_each_is_read_as_meant(self) -> None:
        asked = list(FILES)[::STEP]
        with ProcessPoolExecutor(2) as pool:
            for trade, wrong in zip(asked, pool.map(missed, asked), strict=True):
                with self.subTest(trade):
                    self.assertEqual(wrong, [])


if __name__ == "__main__":
    unittest.main()
