"""Every dirty file comes out as it must: rows, types, sums, values, and a note that says what was done."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

import pyarrow.compute as pc
import pyarrow.parquet as pq

from gumption.intake.errors import UnreadableFile
from gumption.intake.making import ReadTable
from gumption.intake.read import read_file
from tests.intake.dirty_files import Case, Want, cases
from tests.intake.other_makers import archive_without_tables, other_cases


class DirtyFiles(unittest.TestCase):
    def test_all(self) -> None:
        all_cases = [*cases(), *other_cases()]
        self.assertGreaterEqual(len(all_cases), 220)
        for case in all_cases:
            with self.subTest(case.name), tempfile.TemporaryDirectory() as folder:
                path = Path(folder) / case.file
                path.write_bytes(case.content)
                out = Path(folder) / "out"
                out.mkdir()
                if not case.tables:
                    with self.assertRaisesRegex(UnreadableFile, case.note):
                        read_file(path, case.file, out)
                    continue
                self.check(case, read_file(path, case.file, out))

    def test_an_archive_without_a_table_is_an_error(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "all.zip"
            path.write_bytes(archive_without_tables())
            with self.assertRaises(UnreadableFile) as caught:
                read_file(path, "all.zip", Path(folder))
            self.assertIn("no table", caught.exception.problem)

    def check(self, case: Case, found: list[ReadTable]) -> None:
        self.assertEqual(len(found), len(case.tables), [t.table.name for t in found])
        for table, wanted in zip(found, case.tables, strict=True):
            self.check_table(table, wanted)
        said = " | ".join(f"{n.act}; {n.detail}" for t in found for n in t.table.notes)
        self.assertIn(case.note, said)
        for name, unit in case.units.items():
            self.assertEqual(found[0].table.column(name).unit, unit)

    def check_table(self, found: ReadTable, wanted: Want) -> None:
        table = found.table
        names = [c.name for c in table.columns]
        types = {c.name: c.type.value for c in table.columns}
        self.assertEqual(table.rows, wanted.rows, (names, [n.act for n in table.notes]))
        self.assertEqual({n: types.get(n) for n in wanted.types}, wanted.types, types)
        rows = pq.read_table(found.parquet)
        self.assertEqual(rows.num_rows, wanted.rows)
        for name, total in wanted.sums.items():
            self.assertIn(name, names)
            self.assertAlmostEqual(float(pc.sum(rows.column(name)).as_py() or 0), total, 6, name)
        for name, values in wanted.values.items():
            self.assertEqual(rows.column(name).to_pylist()[: len(values)], values)
