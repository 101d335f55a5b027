"""Five hundred corrupted files: each ends in a table or a clear error, soon, and leaves no stray file."""

from __future__ import annotations

import io
import random
import tempfile
import time
import unittest
import zipfile
from pathlib import Path

from gumption.intake.errors import UnreadableFile
from gumption.intake.read import read_file
from tests.intake.dirty_files import book, cases

FILES = 500
LONGEST = 10.0
ENDINGS = (".csv", ".xlsx", ".json", ".parquet", ".gz", ".zip", ".xls", ".ods", ".txt", ".html")


def corrupted(chance: random.Random, content: bytes) -> bytes:
    """The bytes cut short, with some flipped, with a piece twice, or with another file's beginning."""
    found = bytearray(content)
    match chance.randrange(5):
        case 0:
            return bytes(found[: chance.randrange(len(found))])
        case 1:
            for _ in range(chance.randrange(1, 60)):
                found[chance.randrange(len(found))] = chance.randrange(256)
        case 2:
            place = chance.randrange(len(found))
            found[place:place] = found[: chance.randrange(1, 400)]
        case 3:
            place = chance.randrange(len(found))
            del found[place : place + chance.randrange(1, 200)]
        case _:
            found[: chance.randrange(1, 8)] = chance.choice(
                [b"PK\x03\x04", b"PAR1", b"\x1f\x8b\x08", b"\xd0\xcf\x11\xe0", b"[{", b"<html"]
            )
    return bytes(found)


class CorruptedFiles(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def read(self, content: bytes, name: str) -> int:
        """Rows of the tables, or 0 where there was a clear error; nothing but tables may be left."""
        out = Path(tempfile.mkdtemp(dir=self.folder))
        path = self.folder / name
        path.write_bytes(content)
        start = time.perf_counter()
        try:
            found = read_file(path, name, out)
            left = {t.parquet for t in found}
            rows = sum(t.table.rows for t in found)
            self.assertGreater(rows, 0)
        except UnreadableFile as error:
            self.assertTrue(error.problem and error.advice)
            left, rows = set(), 0
        self.assertLess(time.perf_counter() - start, LONGEST)
        self.assertEqual(set(out.iterdir()), left)
        return rows

    def test_random_damage(self) -> None:
        chance = random.Random(20261031)
        sources = cases()
        refused = 0
        for number in range(FILES):
            case = chance.choice(sources)
            name = case.file if chance.random() < 0.7 else Path(case.file).stem + chance.choice(ENDINGS)
            with self.subTest(number=number, case=case.name, name=name):
                refused += self.read(corrupted(chance, case.content), name) == 0
        self.assertGreater(refused, 20)
        self.assertLess(refused, 0.7 * FILES)

    def test_traps_are_refused(self) -> None:
        bomb = io.BytesIO()
        with (
            zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED, compresslevel=9) as archive,
            archive.open("a.csv", "w") as member,
        ):
            for _ in range(260):
                member.write(b"0" * 1_000_000)
        far = book(lambda w: w.add_worksheet("S").write_row(1_048_575, 16_380, [1, 2]) or None)
        nested = io.BytesIO()
        with zipfile.ZipFile(nested, "w") as archive:
            archive.writestr("inner.zip", bomb.getvalue()[:1000])
        traps = {
            "bomb.zip": bomb.getvalue(),
            "far.xlsx": far,
            "nested.zip": nested.getvalue(),
            "deep.json": b"[" * 100_000,
        }
        for name, content in traps.items():
            with self.subTest(name):
                self.assertEqual(self.read(content, name), 0)
