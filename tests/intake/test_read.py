"""Files as analysts have them, and files that are none."""

from __future__ import annotations

import datetime as dt
import tempfile
import unittest
from decimal import Decimal
from pathlib import Path
from unittest import mock

import pyarrow.parquet as pq
import xlsxwriter

from gumption.core.model.types import Role, Type
from gumption.intake.errors import UnreadableFile
from gumption.intake.making import ReadTable
from gumption.intake.read import read_file
from gumption.intake.relate import Joins, linked, relate


class IntakeCase(unittest.TestCase):
    def setUp(self) -> None:
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)
        self.out = self.folder / "out"
        self.out.mkdir()

    def read(self, content: str | bytes, name: str = "file.csv", encoding: str = "utf-8") -> ReadTable:
        path = self.folder / name
        path.write_bytes(content if isinstance(content, bytes) else content.encode(encoding))
        return read_file(path, name, self.out)[0]

    def column(self, found: ReadTable, name: str) -> list[object]:
        return list(pq.read_table(found.parquet).column(name).to_pylist())


class Reading(IntakeCase):
    def test_types(self) -> None:
        found = self.read(
            "id,name,price,ratio,on,at,ok,code\n"
            "1,Ada,1.50,0.123456,2024-01-05,2024-01-05 10:30,yes,007\n"
            "2,Bob,20.25,12.5,2024-02-06,2024-02-06 23:59,no,010\n"
            "3,,,,,,,\n"
        )
        types = {c.name: c.type for c in found.table.columns}
        want = [Type.INTEGER, Type.TEXT, Type.DECIMAL, Type.FLOAT, Type.DATE, Type.TIMESTAMP, Type.BOOLEAN, Type.TEXT]
        self.assertEqual(list(types.values()), want)
        self.assertEqual(self.column(found, "price"), [Decimal("1.50"), Decimal("20.25"), None])
        self.assertEqual(self.column(found, "at")[0], dt.datetime(2024, 1, 5, 10, 30))
        self.assertEqual(self.column(found, "code"), ["007", "010", None])
        self.assertEqual([c.missing for c in found.table.columns], [0, 1, 1, 1, 1, 1, 1, 1])

    def test_semicolons_decimal_commas_and_latin_letters(self) -> None:
        found = self.read("Ort;Betrag;Datum\nKöln;1.234,50;31.12.2023\nZürich;-7,25;01.02.2024\n", encoding="latin-1")
        self.assertEqual(self.column(found, "Ort"), ["Köln", "Zürich"])
        self.assertEqual(self.column(found, "Betrag"), [Decimal("1234.50"), Decimal("-7.25")])
        self.assertEqual(self.column(found, "Datum"), [dt.date(2023, 12, 31), dt.date(2024, 2, 1)])
        self.assertIn("Read as Windows-1252 text", [n.act for n in found.table.notes])

    def test_the_whole_column_decides_the_order_of_day_and_month(self) -> None:
        few = "\n".join(f"{d:02d}/{m:02d}/2024" for d in (1, 7, 3, 12, 5) for m in (9, 2, 4, 11))
        for last, want in (("25/03/2024", dt.date(2024, 2, 1)), ("03/25/2024", dt.date(2024, 1, 2))):
            with self.subTest(last):
                found = self.read(f"on,x\n{few.replace(chr(10), ',1' + chr(10))},1\n{last},1\n")
                self.assertEqual(self.column(found, "on")[1], want)
                self.assertFalse(any(n.caution for n in found.table.notes))
        undecided = self.read(f"on,x\n{few.replace(chr(10), ',1' + chr(10))},1\n")
        self.assertTrue(any(n.caution and "either way round" in n.act for n in undecided.table.notes))

    def test_titles_totals_and_impossible_dates_are_said(self) -> None:
        rows = "".join(f"2024-01-{1 + i % 28:02d},{i}\n" for i in range(100))
        found = self.read(f"Sales of the year\nmade by hand\nday,amount\n{rows}2024-02-31,5\nTotal,4955\n")
        acts = [n.act for n in found.table.notes]
        self.assertEqual(found.table.rows, 101)
        self.assertIn("2 title lines above the header were skipped", acts)
        self.assertIn("A “Total” row at the foot was left out", acts)
        self.assertIn("1 day value is no date, such as “2024-02-31”", acts)

    def test_money_percent_and_quoted_line_breaks(self) -> None:
        found = self.read('item,amount,share,note\na,"£1,204.50",12%,"two\nlines"\nb,£3.00,7.5%,"a ""quoted"" word"\n')
        amount, share = found.table.column("amount"), found.table.column("share")
        self.assertEqual(
            (amount.unit, amount.role, self.column(found, "amount")[0]), ("GBP", Role.MONEY, Decimal("1204.50"))
        )
        self.assertEqual((share.unit, share.role), ("%", Role.PERCENTAGE))
        self.assertEqual(self.column(found, "note"), ["two\nlines", 'a "quoted" word'])

    def test_workbook_sheets_become_tables(self) -> None:
        path = self.folder / "book.xlsx"
        book = xlsxwriter.Workbook(str(path))
        style = book.add_format({"num_format": "yyyy-mm-dd"})
        for name in ("Shops", "Sales 2024"):
            sheet = book.add_worksheet(name)
            sheet.write_row(0, 0, ["shop", "opened", "rooms"])
            for row in range(1, 4):
                sheet.write(row, 0, f"S{row}")
                sheet.write_datetime(row, 1, dt.datetime(2020, row, 1), style)
                sheet.write(row, 2, row * 2)
        book.add_worksheet("Empty")
        book.close()
        found = read_file(path, "book.xlsx", self.out)
        self.assertEqual([t.table.name for t in found], ["shops", "sales_2024"])
        self.assertEqual(self.column(found[0], "opened")[0], dt.date(2020, 1, 1))
        self.assertEqual([c.type for c in found[0].table.columns], [Type.TEXT, Type.DATE, Type.INTEGER])

    def test_relationships(self) -> None:
        sales = self.read(
            "sale_id,shop_id,amount\n" + "".join(f"{i},S{i % 4},{i}.50\n" for i in range(40)), "sales.csv"
        )
        shops = self.read("shop_id,town\nS0,Alder\nS1,Birch\nS2,Cedar\n", "shops.csv")
        found = relate([sales.table, shops.table], {"sales": sales.parquet, "shops": shops.parquet})
        self.assertEqual(len(found), 1)
        link = found[0]
        self.assertEqual(
            (link.table, link.column, link.other, link.other_column), ("sales", "shop_id", "shops", "shop_id")
        )
        self.assertEqual((link.match_rate, link.unmatched, link.one_to_one), (0.75, 10, False))

    def test_a_table_of_two_rows_is_joined_by_its_number_alone(self) -> None:
        lets = "unit_id,site_id,side\n" + "".join(f"U{i},S{1 + i % 2},{'NS'[i % 2]}\n" for i in range(30))
        units = self.read(lets, "units.csv")
        sites = self.read("site_id,side\nS1,N\nS2,S\n", "sites.csv")
        found = relate([units.table, sites.table], {"units": units.parquet, "sites": sites.parquet})
        # North and south stand in many tables, and tell nothing of whose they are.
        self.assertEqual([(r.table, r.column, r.other) for r in found], [("units", "site_id", "sites")])

    def test_what_is_made_of_other_columns_and_how_far_moments_lie_apart(self) -> None:
        rows = "".join(
            f"{10 + i}.5,{1.4 + i / 100:.2f},{round((10.5 + i) * (1.4 + i / 100), 2)},{7 * i % 50},2026-03-{1 + i % 28:02d} 09:00,2026-03-{1 + i % 28:02d} 09:{10 + i % 40}\n"
            for i in range(40)
        )
        table = self.read(f"litres,price_per_litre,cost,tip,promised,arrived\n{rows}", "fills.csv").table
        self.assertEqual({c.name: c.grows_with for c in table.columns if c.grows_with}, {"cost": "litres"})
        apart = dict(table.column("promised").lags)["arrived"]
        self.assertTrue(600 <= apart <= 3000, apart)

    def test_codes_point_at_a_table_whatever_their_column_is_called(self) -> None:
        offices = (100, 250, 300, 470, 600)
        sold = "Sales office,Quarter,Revenue\n" + "".join(
            f"{o},Q{q},{900 + o * q}\n" for q in range(1, 5) for o in offices
        )
        sales = self.read(sold, "sales.csv")
        towns = self.read("Number,Town\n" + "".join(f"{o},T{o}\n" for o in offices), "towns.csv")
        found = relate([sales.table, towns.table], {"sales": sales.parquet, "towns": towns.parquet})
        self.assertEqual([(r.column, r.other_column) for r in found], [("Sales office", "Number")])
        self.assertIs(linked(sales.table, ["Sales office"]).column("Sales office").role, Role.LINK)
        # Numbers from 1 on are among those of every list.
        counted = self.read("Rooms,Quarter\n" + "".join(f"{1 + i % 5},Q{i % 4}\n" for i in range(40)), "counted.csv")
        listed = self.read("Number,Town\n" + "".join(f"{n},T{n}\n" for n in range(1, 9)), "listed.csv")
        self.assertEqual(
            relate([counted.table, listed.table], {"counted": counted.parquet, "listed": listed.parquet}), []
        )

    def test_many_tables_of_one_shape_are_parts_and_not_joined(self) -> None:
        parts = [self.read("id,fee\n" + "".join(f"V{i},{i}.50\n" for i in range(9)), f"p{n}.csv") for n in range(4)]
        paths = {p.table.name: p.parquet for p in parts}
        joins = Joins()
        self.assertTrue(joins.of([p.table for p in parts[:3]], paths))
        self.assertEqual(joins.of([p.table for p in parts], paths), [])


class Refusals(IntakeCase):
    def test_files_that_are_no_table(self) -> None:
        locked = b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + b"\x00" * 600
        cases: list[tuple[str, bytes, str]] = [
            ("empty.csv", b"", "the file is empty"),
            ("blank.csv", b" \n\n \n", "the file is empty"),
            ("header.csv", b"a,b,c\n", "a header but no row"),
            ("picture.csv", b"\x89PNG\r\n\x1a\n" + bytes(range(256)) * 9, "not text"),
            ("photo.png", b"\x89PNG\r\n\x1a\n", "cannot be read"),
            (
                "letter.txt",
                b"Dear reader, this is a letter about nothing at all and it goes on.\nIt has no table in it anywhere, only words.\n",
                "no table could be found",
            ),
            ("broken.xlsx", b"PK\x03\x04" + b"junk" * 99, "broken"),
            ("text.xlsx", b"a,b\n1,2\n", "is none"),
            ("old.xls", locked, "broken"),
            ("locked.xlsx", locked + "EncryptedPackage".encode("utf-16-le"), "protected by a password"),
        ]
        for name, content, message in cases:
            with self.subTest(name), self.assertRaises(UnreadableFile) as caught:
                self.read(content, name)
            self.assertIn(message, str(caught.exception))
            self.assertTrue(caught.exception.advice)
            self.assertEqual(list(self.out.iterdir()), [], "a refused file leaves nothing behind")

    def test_an_empty_workbook(self) -> None:
        path = self.folder / "none.xlsx"
        xlsxwriter.Workbook(str(path)).close()
        with self.assertRaises(UnreadableFile) as caught:
            read_file(path, "none.xlsx", self.out)
        self.assertIn("no sheet has a header", str(caught.exception))


class Broad(IntakeCase):
    """Tables of very many columns, worked on a few at a time; the threshold is lowered so that narrow ones are."""

    def test_both_ways_give_the_same_table(self) -> None:
        header = "shop,day,seen,fee,note,paid,when\n"
        rows = "".join(
            f"Shop {i % 5},{1 + i % 12}/0{1 + i % 9}/2025,{13 + i % 9}/02/2025,£{i}.50,{'€' if i % 3 else '£'}{i},"
            f"{'yes' if i % 2 else 'no'},{1 + i % 9}:30\n"
            for i in range(60)
        )
        for tail in ("", ",,,,,,\n", header, "Total,,,£1770.00,,,\n", f"{header}Total,,,£1800.00,,,\n,,,,,,\n"):
            with self.subTest(tail):
                narrow = self.read(header + rows + tail, "narrow.csv")
                with mock.patch("gumption.intake.making.BROAD", 2):
                    broad = self.read(header + rows + tail, "broad.csv")
                self.assertEqual(broad.table.columns, narrow.table.columns)
                told = [[(n.act, n.rows) for n in found.table.notes] for found in (broad, narrow)]
                self.assertEqual(*map(sorted, told))
                self.assertEqual(broad.reading.dropped_rows, narrow.reading.dropped_rows)
                self.assertEqual(pq.read_table(broad.parquet).to_pylist(), pq.read_table(narrow.parquet).to_pylist())

    def test_more_columns_than_fit_at_once(self) -> None:
        width = 300
        header = ",".join(["id", *(f"m{i}" for i in range(width))])
        rows = "\n".join(",".join([f"R{r}", *(str(r * i) for i in range(width))]) for r in range(30))
        found = self.read(f"{header}\n{rows}\n", "wide.csv")
        self.assertEqual((found.table.rows, len(found.table.columns)), (30, width + 1))
        self.assertEqual({c.type.value for c in found.table.columns[1:]}, {"integer"})


class Large(IntakeCase):
    """Files that are tried in one pass; the threshold is lowered so that small ones are."""

    def setUp(self) -> None:
        super().setUp()
        patched = mock.patch("gumption.intake.read.LARGE", 1)
        patched.start()
        self.addCleanup(patched.stop)

    def test_both_ways_give_the_same_table(self) -> None:
        rows = "".join(
            f"{i},Name {i % 7} ,{i}.25,2024-01-{1 + i % 28:02d},{'true' if i % 2 else 'false'},NA\n"
            for i in range(30_000)
        )
        header = "id,name,price,day,ok,gap\n"
        for tail in (
            "",
            "x,odd,1.5,2024-01-01,true,\n",
            "30000,long,1.234567,2024-01-01,true,\n",
            ",,,,,\n",
            "Total,,99,,,\n",
            "30000,\tt,1,2024-01-01,true,\n",
        ):
            with self.subTest(tail):
                fast = self.read(header + rows + tail, "fast.csv")
                with mock.patch("gumption.intake.read.LARGE", 1 << 60):
                    slow = self.read(header + rows + tail, "slow.csv")
                self.assertEqual(
                    [(c.name, c.type, c.missing, c.values) for c in fast.table.columns],
                    [(c.name, c.type, c.missing, c.values) for c in slow.table.columns],
                )
                self.assertTrue(pq.read_table(fast.parquet).equals(pq.read_table(slow.parquet)))
