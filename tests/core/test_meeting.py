"""Joins that cannot lie: each quantity at its own grain, facts that meet on shared groups, rows of other tables as tests."""

from __future__ import annotations

import datetime as dt
import unittest

from gumption.cli.files import Opened
from gumption.core.reading import meaning as m
from gumption.core.reading.flow import CannotPlan
from gumption.core.reading.lowering import plan_of
from gumption.core.reading.meaning import ColumnKey
from tests.support import tables_for

FILES = {
    "clinics.csv": "clinic_id,town,rooms\nC1,Alder,4\nC2,Birch,6\nC3,Cedar,9\n",
    "visits.csv": "visit_id,clinic_id,day,fee\nV1,C1,2025-01-05,100\nV2,C1,2025-02-06,50\nV3,C2,2025-02-07,70\nV4,,2025-02-08,5\n",
    "lines.csv": "line_id,visit_id,medicine,dose\nL1,V1,Drops,1\nL2,V1,Pills,2\nL3,V1,Drops,3\nL4,V2,Pills,4\nL5,V3,Pills,5\n",
    "bills.csv": "bill_id,clinic_id,paid_on,amount\nB1,C1,2025-02-01,10\nB2,C3,2025-03-01,20\nB3,C3,2025-03-02,30\n",
}
DAY = dt.date(2025, 12, 31)


def col(table: str, column: str) -> m.Col:
    return m.Col(ColumnKey(table, column))


TOWN = col("clinics", "town")
FEE, AMOUNT, DOSE = col("visits", "fee"), col("bills", "amount"), col("lines", "dose")
VISITS = m.Aggregated("count", table="visits")
DROPS = m.Is(ColumnKey("lines", "medicine"), ("Drops",))


def total(expr: m.Expr) -> m.Aggregated:
    return m.Aggregated("sum", expr)


class Meanings(unittest.TestCase):
    opened: Opened

    @classmethod
    def setUpClass(cls) -> None:
        cls.opened = tables_for(cls, FILES)

    def rows(self, ask: m.Ask) -> list[tuple[object, ...]]:
        answered = self.opened.answerer.answer(plan_of(ask, self.opened.catalogue, DAY), DAY)
        self.assertEqual(answered.proof.checks[0].sentence, "Computed twice, both ways agree", answered.sql)
        return [tuple(float(v) if hasattr(v, "as_tuple") else v for v in row) for row in answered.rows]

    def one(self, quantity: m.Quantity, *where: m.Condition, head: str = "visits") -> object:
        return self.rows(m.Ask(head, where, (quantity,)))[0][0]

    def test_the_relationships_are_found(self) -> None:
        """Else the cases below would hold for want of joins."""
        found = {(r.table, r.other) for r in self.opened.catalogue.relationships}
        self.assertLessEqual({("visits", "clinics"), ("lines", "visits"), ("bills", "clinics")}, found)

    def test_what_stands_above_counts_once_a_group_beside_what_is_counted_below(self) -> None:
        """Two visits to Alder do not double its rooms: by what each visit says of itself, and by the clinic it points at."""
        rooms = total(col("clinics", "rooms"))
        each = m.Combined("/", VISITS, rooms)
        by_clinic = self.rows(m.Ask("visits", quantities=(each,), groups=(col("visits", "clinic_id"),)))
        self.assertEqual({row[:2] for row in by_clinic if row[0]}, {("C1", 0.5), ("C2", 1 / 6)})
        by_month = m.PartOf("month", col("visits", "day"))
        told = self.rows(m.Ask("visits", quantities=(VISITS, rooms), groups=(by_month,)))
        self.assertEqual({(row[0].month, *row[1:3]) for row in told}, {(1, 1, 4), (2, 3, 10)})  # type: ignore[attr-defined]

    def test_two_facts_meet_on_a_shared_group(self) -> None:
        ask = m.Ask("visits", quantities=(total(FEE), VISITS, total(AMOUNT)), groups=(TOWN,))
        want = {("Alder", 150, 2, 10), ("Birch", 70, 1, None), ("Cedar", None, 0, 50), (None, 5, 1, None)}
        self.assertEqual(set(self.rows(ask)), want)

    def test_a_time_is_each_facts_own(self) -> None:
        month = m.PartOf("month", m.EventTime())
        ask = m.Ask("visits", quantities=(total(FEE), total(AMOUNT)), groups=(month,))
        days = [dt.date(2025, n, 1) for n in (1, 2, 3)]
        self.assertEqual(self.rows(ask), [(days[0], 100, None), (days[1], 125, 10), (days[2], None, 50)])

    def test_a_parents_measure_is_not_multiplied_by_its_rows_children(self) -> None:
        """The visit of 100 has two lines of drops: it counts once there, and once under pills."""
        medicine = col("lines", "medicine")
        ask = m.Ask("visits", quantities=(total(FEE),), groups=(medicine,))
        self.assertEqual(set(self.rows(ask)), {("Drops", 100), ("Pills", 220)})
        mean = ask.but(quantities=(m.Aggregated("mean", FEE),))
        self.assertEqual(dict(self.rows(mean))["Pills"], 220 / 3)  # type: ignore[arg-type]

    def test_measures_of_parent_and_child_are_worked_apart(self) -> None:
        ask = m.Ask("visits", quantities=(total(FEE), total(DOSE)), groups=(TOWN,))
        self.assertEqual(set(self.rows(ask)), {("Alder", 150, 10), ("Birch", 70, 5), (None, 5, None)})

    def test_conditions_below_are_tests_for_rows(self) -> None:
        self.assertEqual(self.one(total(FEE), DROPS), 100)
        self.assertEqual(self.one(VISITS, m.Not(DROPS)), 3)
        self.assertEqual(self.one(VISITS, m.Not(m.Has(m.Rows("lines")))), 1)
        self.assertEqual(self.one(VISITS, m.Has(m.Rows("lines"), ">=", 2)), 1)
        self.assertEqual(self.one(VISITS, m.Has(m.Rows("lines"), "<=", 1)), 3)
        either = m.Any((m.Has(m.Rows("lines", (DROPS,))), m.Compared(">", FEE, m.Number(60))))
        self.assertEqual(self.one(VISITS, either), 2)
        clinics = m.Aggregated("count", table="clinics")
        self.assertEqual(self.one(clinics, m.Has(m.Rows("lines", (DROPS,))), head="clinics"), 1)

    def test_a_condition_may_compare_with_a_quantity(self) -> None:
        above = m.Compared(">", FEE, m.Aggregated("mean", FEE))
        self.assertEqual(self.one(VISITS, above), 2)

    def test_shares_ratios_and_changes(self) -> None:
        self.assertEqual(self.one(m.ShareOf((m.Compared(">", FEE, m.Number(60)),), "visits")), 0.5)
        self.assertEqual(self.one(m.Combined("/", total(FEE), m.Aggregated("count", table="clinics"))), 75)
        january = m.Within(m.EventTime(), dt.date(2025, 1, 1), dt.date(2025, 1, 31))
        february = m.Within(m.EventTime(), dt.date(2025, 2, 1), dt.date(2025, 2, 28))
        self.assertEqual(self.one(m.Between(total(FEE), january, "", february, "")), 25)
        each = m.OverGroups("mean", VISITS, col("visits", "clinic_id"))
        self.assertEqual(self.one(each), 1.5)

    def test_the_first_of_each_group(self) -> None:
        ask = m.Ask(
            "lines",
            quantities=(total(DOSE),),
            groups=(TOWN, col("lines", "medicine")),
            order=(m.Order(total(DOSE)),),
            limit=1,
            per=1,
        )
        self.assertEqual({row[:3] for row in self.rows(ask)}, {("Alder", "Pills", 6), ("Birch", "Pills", 5)})

    def test_what_says_nothing_about_a_table_is_refused(self) -> None:
        ask = m.Ask("bills", quantities=(total(AMOUNT),), groups=(col("lines", "medicine"),))
        with self.assertRaises(CannotPlan) as caught:
            plan_of(ask, self.opened.catalogue, DAY)
        self.assertIn("no chain of joins", str(caught.exception))
