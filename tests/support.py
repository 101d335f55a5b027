"""What the tests share: the demo opened once, small tables, and how two tables are held against each other."""

from __future__ import annotations

import atexit
import datetime as dt
import functools
import json
import os
import shutil
import tempfile
import unittest
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import Any, ClassVar

from gumption.cli.files import Opened, open_files
from gumption.core.reading.read import QuestionReader, Reading
from gumption.engines.choosing import chosen

HOME = Path(__file__).resolve().parents[1]
DEMO = HOME / "demo"
DEMO_DAY = dt.date(2026, 10, 31)


@functools.cache
def demo() -> tuple[Opened, QuestionReader]:
    """The demo's tables and a reader of questions about them."""
    out = Path(tempfile.mkdtemp())
    atexit.register(shutil.rmtree, out)
    opened = open_files([str(p) for p in sorted((DEMO / "data").iterdir())], str(DEMO / "columns.json"), out)
    return opened, QuestionReader(opened.catalogue)


def opened_from(
    folder: Path, files: dict[str, str], columns: dict[str, dict[str, str]] | None = None
) -> tuple[Opened, QuestionReader]:
    """Tables read from texts by file name, with what a person wrote about their columns."""
    for name, text in files.items():
        (folder / name).write_text(text, encoding="utf-8")
    out = folder / "tables"
    out.mkdir()
    described = None
    if columns is not None:
        described = str(folder / "columns.json")
        Path(described).write_text(json.dumps(columns), encoding="utf-8")
    opened = open_files([str(folder / name) for name in files], described, out)
    return opened, QuestionReader(opened.catalogue)


def tables_for(case: type[unittest.TestCase], files: dict[str, str]) -> Opened:
    """Tables read from texts; they last, and their folder is the working folder, as long as the tests of the class run."""
    scratch = tempfile.TemporaryDirectory()
    case.addClassCleanup(scratch.cleanup)
    opened, _ = opened_from(Path(scratch.name), files)
    case.addClassCleanup(os.chdir, os.getcwd())
    os.chdir(scratch.name)
    return opened


class Asked(unittest.TestCase):
    """Questions asked of a few files, opened once for the class."""

    files: ClassVar[dict[str, str]] = {}
    meant: ClassVar[dict[str, dict[str, str]] | None] = None
    """What a person wrote about the files' columns."""
    day: ClassVar[dt.date] = DEMO_DAY
    opened: Opened
    reader: QuestionReader

    @classmethod
    def setUpClass(cls) -> None:
        scratch = tempfile.TemporaryDirectory()
        cls.addClassCleanup(scratch.cleanup)
        cls.opened, cls.reader = opened_from(Path(scratch.name), cls.files, cls.meant)

    def asked(self, question: str) -> tuple[str, list[str], list[tuple[object, ...]]]:
        """The words of the reading that is told, the answer's columns and its rows."""
        found = chosen(self.reader.read(question, self.day), self.opened.answerer)
        self.assertEqual(found.status, "answered", f"{question}: {found.problem}")
        columns, rows = self.opened.answerer.rows(found.readings[0].plan)
        return found.readings[0].words, list(columns), [tuple(r) for r in rows]

    def assert_read(self, read: dict[str, str]) -> None:
        """Each question is read in those words, and its answer has rows."""
        for question, expected in read.items():
            with self.subTest(question):
                words, _, rows = self.asked(question)
                self.assertEqual(words, expected)
                self.assertTrue(rows)

    def assert_answers(self, answers: Iterable[tuple[str, Sequence[Sequence[object]]]]) -> None:
        """Each question has the wanted rows and no others, in any order; an answer may show more columns."""
        for question, wanted in answers:
            with self.subTest(question):
                words, _, rows = self.asked(question)
                self.assertTrue(has_rows(rows, wanted, ordered=False), f"{words}: {rows} is not {wanted}")


def lines(path: Path) -> list[dict[str, Any]]:
    return [json.loads(line) for line in path.read_text(encoding="utf-8").splitlines() if line.strip()]


def plain(value: Any) -> Any:
    """A cell for comparison: numbers rounded to nine digits, dates without an empty time."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if hasattr(value, "isoformat"):
        value = value.isoformat()
    if isinstance(value, str):
        return value.removesuffix(" 00:00:00").removesuffix("T00:00:00")
    if value is None or value != value:
        return None
    return float(f"{float(value):.9g}")


def has_rows(got: Iterable[Sequence[Any]], want: Sequence[Sequence[Any]], *, ordered: bool) -> bool:
    """True where the answer has the wanted rows, row for row; it may have more columns."""
    rows = [[plain(v) for v in row] for row in got]
    wanted = [[plain(v) for v in row] for row in want]
    if len(rows) != len(wanted):
        return False
    if not ordered:
        rows.sort(key=lambda r: sorted(map(str, r)))
        left = list(rows)
        for row in wanted:
            match = next((r for r in left if _within(row, r)), None)
            if match is None:
                return False
            left.remove(match)
        return True
    return all(_within(w, r) for w, r in zip(wanted, rows, strict=True))


def _within(wanted: list[Any], row: list[Any]) -> bool:
    left = list(row)
    for value in wanted:
        place = next((i for i, other in enumerate(left) if _same(value, other)), None)
        if place is None:
            return False
        del left[place]
    return True


def _same(one: Any, other: Any) -> bool:
    if isinstance(one, float) and isinstance(other, float):
        return abs(one - other) <= 1e-6 * max(1.0, abs(one))
    return bool(one == other)


def said_in_turn(reader: QuestionReader, questions: Sequence[str]) -> tuple[str, ...]:
    """How the questions of a conversation are read, each after the one before it."""
    told: list[str] = []
    earlier: Reading | None = None
    for question in questions:
        earlier = reader.read(question, DEMO_DAY, earlier).readings[0]
        told.append(earlier.words)
    return tuple(told)
