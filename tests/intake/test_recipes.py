"""A person's word on a table: acts undone, types set, shape changed, meanings read, and what is offered."""

from __future__ import annotations

import datetime as dt
import tempfile
import unittest
import zipfile
from pathlib import Path

import pyarrow.parquet as pq

from gumption.core.model.catalogue import Table
from gumption.core.model.files import Recipe
from gumption.core.model.meaning import ColumnMeaning, TableMeaning, meant
from gumption.core.model.origin import Appended
from gumption.core.model.shape import DropRepeats, FillDown, Formula, LeaveOut, Repair, ShapeStep, Split, Unpivot
from gumption.core.model.types import Role, Type
from gumption.intake.append import appended
from gumption.intake.dictionary import dictionary_of, spelled_out
from gumption.intake.errors import UnreadableFile
from gumption.intake.guide import marks
from gumption.intake.look import look_at
from gumption.intake.making import ReadTable
from gumption.intake.read import read_file
from gumption.intake.relate import decided, join_detail, relate
from gumption.intake.suggest import suggestions

BUDGET = "clinic,line,Jan,Feb,Mar\nA,rent,1,2,3\nB,rent,4,5,6\nAll clinics,rent,5,7,9\n"


class RecipeCase(unittest.TestCase):
    def setUp(self) -> None:
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)

    def read(self, content: str, recipe: Recipe | None = None, name: str = "budget_2024.csv") -> ReadTable:
        path = self.folder / name
        path.write_text(content, encoding="utf-8")
        out = Path(tempfile.mkdtemp(dir=self.folder))
        return read_file(path, name, out, recipes={"": recipe or Recipe()})[0]

    def rows(self, found: ReadTable) -> list[dict[str, object]]:
        return list(pq.read_table(found.parquet).to_pylist())


class Undoing(RecipeCase):
    def test_each_act_can_be_undone_and_nothing_else_changes(self) -> None:
        content = "Title\nshop,on,amount,code\n" + "".join(f"S{i},0{i}/03/2024,£{i}.50,{i}\n" for i in range(1, 9))
        content += "Total,,£40.00,\n"
        whole = self.read(content)
        self.assertEqual(whole.table.rows, 8)
        keys = {n.key for n in whole.table.notes if n.key}
        self.assertLessEqual({"titles", "totals", "type:amount", "order:on"}, keys)
        kept = self.read(content, Recipe(declined=("totals",)))
        self.assertEqual((kept.table.rows, self.rows(kept)[-1]["shop"]), (9, "Total"))
        text = self.read(content, Recipe(declined=("type:amount",)))
        self.assertEqual((text.table.column("amount").type, self.rows(text)[0]["amount"]), (Type.TEXT, "£1.50"))
        self.assertEqual(text.table.column("on").type, Type.DATE)

    def test_each_file_of_an_archive_has_a_recipe_of_its_own(self) -> None:
        path = self.folder / "both.zip"
        with zipfile.ZipFile(path, "w") as archive:
            archive.writestr("one.json", '[{"n": "1"}, {"n": "2"}]')
            archive.writestr("two.json", '[{"n": "3"}, {"n": "4"}]')
        out = Path(tempfile.mkdtemp(dir=self.folder))
        found = read_file(path, "both.zip", out, recipes={"two.json": Recipe(types={"n": Type.TEXT})})
        self.assertEqual([t.reading.part for t in found], ["one.json", "two.json"])
        self.assertEqual([t.table.column("n").type for t in found], [Type.INTEGER, Type.TEXT])

    def test_day_and_month_by_a_persons_word(self) -> None:
        content = "on,n\n05/03/2024,1\n06/04/2024,2\n01/02/2024,3\n"
        asked = self.read(content)
        choices = [c for n in asked.table.notes for c in n.choices]
        self.assertEqual([(c.column, c.order) for c in choices], [("on", "month")])
        said = self.read(content, Recipe(orders={"on": "month"}))
        self.assertEqual(self.rows(said)[0]["on"], dt.date(2024, 5, 3))
        self.assertFalse([n for n in said.table.notes if n.caution])

    def test_types_by_a_persons_word(self) -> None:
        content = "code,n,at\n101,1,2024-01-05 10:00\n102,2,2024-01-06 11:00\n"
        said = self.read(content, Recipe(types={"code": Type.TEXT, "n": Type.FLOAT, "at": Type.DATE}))
        self.assertEqual([c.type for c in said.table.columns], [Type.TEXT, Type.FLOAT, Type.DATE])


class Shape(RecipeCase):
    def shaped(self, content: str, *steps: ShapeStep) -> ReadTable:
        return self.read(content, Recipe(steps=steps))

    def test_months_as_columns_become_dated_rows(self) -> None:
        table = self.read(BUDGET).table
        step = next(s.step for s in suggestions(table, []) if s.step is not None and s.step.kind == "unpivot")
        self.assertEqual(
            step, Unpivot(columns=("Jan", "Feb", "Mar"), names_to="month", values_to="amount", as_month=2024)
        )
        found = self.shaped(BUDGET, step, LeaveOut(column="clinic", values=("All clinics",)))
        self.assertEqual((found.table.rows, found.table.column("month").type), (6, Type.DATE))
        self.assertEqual(sum(int(str(r["amount"])) for r in self.rows(found)), 21)
        self.assertEqual(self.rows(found)[1]["month"], dt.date(2024, 2, 1))
        self.assertEqual([n.key for n in found.table.notes][-2:], ["step:0", "step:1"])

    def test_formulas(self) -> None:
        content = "booked,seen,fee net,cost,rating\n2024-01-01,2024-01-05,10.50,4.25,4\n2024-02-01,,3.00,0,\n"
        found = self.shaped(
            content,
            Formula(name="margin", formula="fee_net - cost"),
            Formula(name="waited", formula="days(booked, seen)"),
            Formula(name="good", formula="rating >= 4 and not missing(seen)"),
            Formula(name="ratio", formula="fee_net / cost"),
            Formula(name="rounded", formula="round(coalesce(rating, 0) / 3, 1)"),
            Formula(name="size", formula="case when fee_net > 5 then 'large' else 'small' end || '!'"),
            Formula(name="months", formula="months(booked, seen)"),
        )
        rows = self.rows(found)
        self.assertEqual(
            [(r["rounded"], r["size"], r["months"]) for r in rows], [(1.3, "large!", 0), (0, "small!", None)]
        )
        self.assertEqual([float(str(r["margin"])) for r in rows], [6.25, 3.0])
        self.assertEqual([(r["waited"], r["good"]) for r in rows], [(4, True), (None, False)])
        self.assertIsNone(rows[1]["ratio"], "division by nought is missing")
        for formula, message in (
            ("fee_net - cots", "there is no column cots"),
            ("fee_net -", "cannot be read"),
            ("read_csv('/etc/passwd')", "cannot stand in a formula|there is no function"),
            ("booked + 1", "date"),
            ("round(fee_net, cost)", "only values can stand"),
            ("split_part(fee_net, '-', 1)", "only text does"),
        ):
            with self.subTest(formula), self.assertRaisesRegex(UnreadableFile, message):
                self.shaped(content, Formula(name="x", formula=formula))

    def test_split_fill_down_repeats_and_repair(self) -> None:
        content = (
            "region,place,n\nN,Bath - Avon,1\n,York - Ridings,2\nS,Bath - Avon,3\n,Bath - Avon,3\n,Bath - Avon,3\n"
        )
        found = self.shaped(
            content,
            FillDown(column="region"),
            DropRepeats(),
            Split(column="place", separator=" - ", into=("town", "county")),
            Repair(column="town", values={"York": "YORK"}),
        )
        self.assertEqual(
            [(r["region"], r["town"], r["county"], r["n"]) for r in self.rows(found)],
            [("N", "Bath", "Avon", 1), ("N", "YORK", "Ridings", 2), ("S", "Bath", "Avon", 3)],
        )

    def test_two_things_in_a_column_are_no_folder_and_file(self) -> None:
        rows = "".join(f"Town {i % 6} - {'NS'[i % 2]},photos/p{i % 6}.png\n" for i in range(24))
        found = self.read("place,photo\n" + rows).table
        split = [s.step.column for s in suggestions(found, []) if isinstance(s.step, Split)]
        self.assertEqual(split, ["place"])

    def test_tables_one_under_the_other(self) -> None:
        one = self.read("shop,amount\nA,1\nB,2\n", name="sales_2023.csv")
        two = self.read("shop,amount\nA,3.5\nC,4\n", name="sales_2024.csv")
        offered = [s for s in suggestions(one.table, [two.table]) if s.append is not None]
        self.assertEqual(
            (offered[0].name, offered[0].append and offered[0].append.tables), ("sales", ("sales_2023", "sales_2024"))
        )
        origin = Appended(tables=("sales_2023", "sales_2024"), column="came_from")
        found = appended("sales", origin, {"sales_2023": one.parquet, "sales_2024": two.parquet}, self.folder)
        self.assertEqual([r["came_from"] for r in self.rows(found)], ["sales_2023"] * 2 + ["sales_2024"] * 2)
        self.assertEqual(sum(float(str(r["amount"])) for r in self.rows(found)), 10.5)


class Meaning(RecipeCase):
    def test_dictionaries(self) -> None:
        table = self.read("qty,zk_w2,Amt Net\n1,2,3\n4,5,6\n").table
        path = self.folder / "dictionary.csv"
        for content in (
            "column,meaning,also called\nqty,number of packs,packs; boxes\nzk_w2,second weighing,\nother,unknown,\n",
            "qty,number of packs\nzk_w2,second weighing\n",
        ):
            path.write_text(content)
            found = dictionary_of(path, "dictionary.csv", table)
            self.assertEqual(found["qty"].description, "number of packs")
            self.assertEqual(set(found), {"qty", "zk_w2"})
        path.write_text("a,b\nx,y\n")
        with self.assertRaisesRegex(UnreadableFile, "names no column"):
            dictionary_of(path, "dictionary.csv", table)

    def test_names_spelled_out(self) -> None:
        self.assertEqual(spelled_out("qty"), ("quantity", False))
        self.assertEqual(spelled_out("visitDate"), ("visit date", False))
        self.assertTrue(spelled_out("zk_w2")[1])

    def test_what_was_said_lies_over_what_was_found(self) -> None:
        table = self.read("day,seen,who,n\n2024-01-01,2024-01-02,Ada,1\n2024-01-03,2024-01-04,Bo,2\n").table
        said = TableMeaning(
            time="seen",
            naming="who",
            columns={"n": ColumnMeaning(role=Role.SCORE, aggregate="median", display="points")},
        )
        over = meant(table, said)
        self.assertEqual(
            (over.time_column.name if over.time_column else None, over.naming_column and over.naming_column.name),
            ("seen", "who"),
        )
        column = over.column("n")
        self.assertEqual((column.role, column.default_aggregate, column.synonyms), (Role.SCORE, "median", ("points",)))

    def test_a_look_and_the_guide(self) -> None:
        content = "Visits\nvisit,day,fee\n" + "".join(
            f"V{i % 40},2024-01-{1 + i % 28:02d},{i % 40}\n" for i in range(80)
        )
        found = self.read(content + "V1,2024-01-02,9000\n", name="visits.csv")
        look = look_at(found.table, found.parquet)
        self.assertIn("One row a visit: 81 rows from 1 Jan 2024 to 28 Jan 2024", look.words)
        self.assertEqual([(o.column, o.rows) for o in look.outliers], [("fee", 1)])
        marked = {m.name: m.holds for m in marks(found.table, [], [])}
        self.assertFalse(marked["One header row, then rows"])
        self.assertTrue(marked["No totals among the rows"])
        twice = self.read("a,b\n1,x\n1,x\n2,y\n", name="twice.csv")
        self.assertEqual(look_at(twice.table, twice.parquet).repeated, 1)


class Joins(RecipeCase):
    def tables(self, **contents: str) -> tuple[list[Table], dict[str, Path]]:
        found = {name: self.read(content, name=f"{name}.csv") for name, content in contents.items()}
        return [f.table for f in found.values()], {n: f.parquet for n, f in found.items()}

    def test_by_several_columns(self) -> None:
        days = [f"2024-01-{d:02d}" for d in range(1, 11)]
        tables, parquet = self.tables(
            rates="day,currency,rate\n"
            + "".join(f"{d},{c},{i}.25\n" for i, d in enumerate(days) for c in ("GBP", "EUR")),
            sales="sale,day,currency,amount\n"
            + "".join(f"X{i},{days[i % 10]},{'GBP' if i % 3 else 'EUR'},{i}.5\n" for i in range(60)),
        )
        found = relate(tables, parquet)
        self.assertEqual(
            [(r.table, r.other, r.pairs) for r in found],
            [("sales", "rates", (("day", "day"), ("currency", "currency")))],
        )

    def test_near_matches_and_a_persons_word(self) -> None:
        tables, parquet = self.tables(
            shops="shop_code,town\n" + "".join(f"S-{i:02d},Town {i}\n" for i in range(1, 9)),
            sales="sale,shop_code,amount\n"
            + "".join(f"X{i},{'s-' if i == 7 else 'S-'}{1 + i % 8:02d},{i}.5\n" for i in range(40)),
        )
        found = relate(tables, parquet)
        detail = join_detail(found[0], parquet)
        self.assertEqual((detail.near, detail.without_partner), ({"s-08": "S-08"}, (("s-08", 1),)))
        place = ("sales", ("shop_code",), "shops", ("shop_code",))
        self.assertEqual(decided(found, [], [place], tables, parquet), [])
        self.assertTrue(decided([], [place], [], tables, parquet)[0].accepted)
        back = ("shops", ("shop_code",), "sales", ("shop_code",))
        self.assertEqual(decided([], [back], [], tables, parquet), [], "a row would find several partners")
