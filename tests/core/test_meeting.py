"""Joins that cannot lie: measures at their own grain, facts that meet on shared groups, and what is refused."""

from __future__ import annotations

import datetime as dt
import unittest

from gumption.cli.files import Opened
from gumption.core.model.types import Type
from gumption.core.plan.expressions import ColumnRef, Compare, Constant
from gumption.core.reading.frame import CannotPlan, Condition, Frame, GroupKey, Having, Measure
from gumption.core.reading.planner import plan_of
from gumption.core.reading.vocabulary import ColumnKey
from tests.support import tables_for

FILES = {
    "clinics.csv": "clinic_id,town,rooms\nC1,Alder,4\nC2,Birch,6\nC3,Cedar,9\n",
    "visits.csv": "visit_id,clinic_id,day,fee\nV1,C1,2025-01-05,100\nV2,C1,2025-02-06,50\nV3,C2,2025-02-07,70\nV4,,2025-02-08,5\n",
    "lines.csv": "line_id,visit_id,medicine,dose\nL1,V1,Drops,1\nL2,V1,Pills,2\nL3,V1,Drops,3\nL4,V2,Pills,4\nL5,V3,Pills,5\n",
    "bills.csv": "bill_id,clinic_id,paid_on,amount\nB1,C1,2025-02-01,10\nB2,C3,2025-03-01,20\nB3,C3,2025-03-02,30\n",
}
TOWN = GroupKey(ColumnKey("clinics", "town"))


def total(table: str, column: str) -> Measure:
    return Measure("sum", ColumnKey(table, column))


class Meeting(unittest.TestCase):
    opened: Opened

    @classmethod
    def setUpClass(cls) -> None:
        cls.opened = tables_for(cls, FILES)

    def rows(self, frame: Frame) -> list[tuple[object, ...]]:
        answered = self.opened.answerer.answer(plan_of(frame, self.opened.catalogue), dt.date(2025, 12, 31))
        self.assertEqual(answered.proof.checks[0].sentence, "Computed twice, both ways agree", answered.sql)
        return [tuple(float(v) if hasattr(v, "as_tuple") else v for v in row) for row in answered.rows]

    def test_the_relationships_are_found(self) -> None:
        """Else the cases below would hold for want of joins."""
        found = {(r.table, r.other) for r in self.opened.catalogue.relationships}
        self.assertLessEqual({("visits", "clinics"), ("lines", "visits"), ("bills", "clinics")}, found)

    def test_two_facts_meet_on_a_shared_group(self) -> None:
        counted = Measure("count", table="visits")
        frame = Frame(measures=(total("visits", "fee"), counted, total("bills", "amount")), groups=(TOWN,))
        want = {("Alder", 150, 2, 10), ("Birch", 70, 1, None), ("Cedar", None, 0, 50), (None, 5, 1, None)}
        self.assertEqual(set(self.rows(frame)), want)

    def test_a_time_is_each_facts_own(self) -> None:
        month = GroupKey(ColumnKey("visits", "day"), "month")
        frame = Frame(measures=(total("visits", "fee"), total("bills", "amount")), groups=(month,))
        days = [dt.date(2025, n, 1) for n in (1, 2, 3)]
        self.assertEqual(self.rows(frame), [(days[0], 100, None), (days[1], 125, 10), (days[2], None, 50)])

    def test_a_parents_measure_is_not_multiplied_by_its_rows_children(self) -> None:
        """The visit of 100 has two lines of drops: it counts once there, and once under pills."""
        frame = Frame(measures=(total("visits", "fee"),), groups=(GroupKey(ColumnKey("lines", "medicine")),))
        self.assertEqual(set(self.rows(frame)), {("Drops", 100), ("Pills", 220)})
        mean = Frame(measures=(Measure("mean", ColumnKey("visits", "fee")),), groups=frame.groups)
        self.assertEqual(dict(self.rows(mean))["Pills"], 220 / 3)

    def test_measures_of_parent_and_child_are_worked_apart(self) -> None:
        frame = Frame(measures=(total("visits", "fee"), total("lines", "dose")), groups=(TOWN,))
        self.assertEqual(set(self.rows(frame)), {("Alder", 150, 10), ("Birch", 70, 5), (None, 5, None)})

    def test_what_says_nothing_about_a_table_is_refused(self) -> None:
        both = (total("visits", "fee"), total("bills", "amount"))
        drops = Compare(op="=", left=ColumnRef(name="medicine"), right=Constant(type=Type.TEXT, value="Drops"))
        cases = (
            (Frame(measures=both, groups=(GroupKey(ColumnKey("lines", "medicine")),)), "cannot be split by medicine"),
            (
                Frame(measures=both, groups=(TOWN,), conditions=(Condition(ColumnKey("lines", "medicine"), drops),)),
                "says nothing about",
            ),
            (Frame(measures=both, groups=(TOWN,), having=(Having(0, ">", 3),)), "measures of several tables"),
        )
        for frame, words in cases:
            with self.subTest(words), self.assertRaises(CannotPlan) as caught:
                plan_of(frame, self.opened.catalogue)
            self.assertIn(words, str(caught.exception))
