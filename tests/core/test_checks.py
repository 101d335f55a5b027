"""Each check, once where it holds and once where it speaks."""

from __future__ import annotations

import datetime as dt
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from gumption.core.checks.after import check_after, rows_agree
from gumption.core.checks.before import check_before, groups_many
from gumption.core.checks.check import Check
from gumption.core.evaluate.run import work
from gumption.core.model.types import Type
from gumption.core.plan.expressions import Aggregate, Between, ColumnRef, Compare, Constant
from gumption.core.plan.steps import Group, Keep, Limit, Plan, Sort, SortKey, Take
from tests.support import DEMO_DAY, demo, opened_from


def plan_of(question: str) -> Plan:
    return demo()[1].read(question, DEMO_DAY).readings[0].plan


class Checks(unittest.TestCase):
    def before(self, plan: Plan) -> list[Check]:
        return check_before(plan, demo()[0].catalogue, DEMO_DAY)

    def after(self, plan: Plan) -> list[Check]:
        opened = demo()[0]
        return check_after(plan, work(plan, opened.answerer.engine.column, opened.answerer.sizes), opened.catalogue)

    def weight(self, checks: list[Check], name: str) -> str:
        return next((c.weight for c in checks if c.name == name), "silent")

    def test_operations_fit_their_columns(self) -> None:
        def total(column: str) -> Plan:
            return Plan(
                steps=(Take(table="visits"), Group(aggregates=(Aggregate(name="t", function="sum", column=column),)))
            )

        self.assertEqual(self.weight(self.before(total("fee_net")), "operation fits"), "holds")
        self.assertEqual(self.weight(self.before(total("rating")), "operation fits"), "caution")
        self.assertEqual(self.weight(self.before(total("visit_id")), "operation fits"), "caution")

    def test_values_occur(self) -> None:
        def kept(value: str) -> Plan:
            condition = Compare(op="=", left=ColumnRef(name="species"), right=Constant(type=Type.TEXT, value=value))
            return Plan(steps=(Take(table="animals"), Keep(condition=condition)))

        self.assertEqual(self.weight(self.before(kept("Dog")), "values occur"), "holds")
        absent = next(c for c in self.before(kept("Dogg")) if c.name == "values occur")
        self.assertEqual((absent.weight, absent.detail.startswith("near it: Dog")), ("stop", True))

    def test_join_keys_fit(self) -> None:
        self.assertEqual(self.weight(self.before(plan_of("income by clinic")), "join keys fit"), "holds")
        self.assertEqual(self.weight(self.before(plan_of("visits by species")), "join keys fit"), "caution")

    def test_dates_decided(self) -> None:
        span = Between(
            value=ColumnRef(name="on"),
            low=Constant(type=Type.DATE, value="2024-03-01"),
            high=Constant(type=Type.DATE, value="2024-03-31"),
        )
        plan = Plan(steps=(Take(table="sales"), Keep(condition=span)))
        for last, want in (("01/02/2024", "caution"), ("25/02/2024", "silent")):
            with self.subTest(last), tempfile.TemporaryDirectory() as folder:
                opened, _ = opened_from(Path(folder), {"sales.csv": f"on,n\n05/03/2024,1\n06/04/2024,2\n{last},3\n"})
                self.assertEqual(self.weight(check_before(plan, opened.catalogue, DEMO_DAY), "dates decided"), want)

    def test_periods_complete(self) -> None:
        def spanned(high: str) -> Plan:
            low = Constant(type=Type.DATE, value="2026-01-01")
            span = Between(value=ColumnRef(name="visit_date"), low=low, high=Constant(type=Type.DATE, value=high))
            return Plan(steps=(Take(table="visits"), Keep(condition=span)))

        self.assertEqual(self.weight(self.before(spanned("2026-09-30")), "periods complete"), "silent")
        self.assertEqual(self.weight(self.before(spanned("2026-12-31")), "periods complete"), "caution")

    def test_rows_accounted(self) -> None:
        self.assertEqual(self.weight(self.after(plan_of("income by clinic")), "rows accounted"), "holds")
        self.assertEqual(self.weight(self.after(plan_of("how many visits by dogs")), "rows accounted"), "caution")

    def test_missing_values_counted(self) -> None:
        self.assertEqual(self.weight(self.after(plan_of("total income")), "missing values"), "silent")
        self.assertEqual(self.weight(self.after(plan_of("average rating")), "missing values"), "caution")

    def test_ties_at_the_cut(self) -> None:
        def first(rows: int) -> Plan:
            steps = (Take(table="clinics"), Sort(keys=(SortKey(column="rooms"),)), Limit(rows=rows))
            return Plan(steps=steps)

        weights = {self.weight(self.after(first(n)), "ties at the cut") for n in range(2, 9)}
        self.assertEqual(weights, {"silent", "caution"})

    def test_an_empty_result_names_its_cause(self) -> None:
        condition = Compare(op=">", left=ColumnRef(name="rooms"), right=Constant(type=Type.INTEGER, value=500))
        empty = next(
            c
            for c in self.after(Plan(steps=(Take(table="clinics"), Keep(condition=condition))))
            if c.name == "result not empty"
        )
        self.assertEqual(empty.detail, "emptied by: rooms is more than 500")

    def test_too_many_groups(self) -> None:
        self.assertEqual(groups_many(500), [])
        self.assertEqual(groups_many(501)[0].weight, "caution")

    def test_agreement_allows_rounding_only(self) -> None:
        self.assertTrue(rows_agree([(1, 0.1 + 0.2)], [(1, 0.3)]))
        self.assertTrue(rows_agree([("a", dt.datetime(2024, 1, 1))], [("a", dt.date(2024, 1, 1))]))
        self.assertFalse(rows_agree([(1, 0.3)], [(1, 0.301)]))
        self.assertFalse(rows_agree([(1,), (2,)], [(1,)]))
        self.assertFalse(rows_agree([(None,)], [(0,)]))


class LargeTables(unittest.TestCase):
    def test_the_second_working_may_follow(self) -> None:
        opened = demo()[0]
        plan = plan_of("income by clinic")
        first = opened.answerer.answer(plan, DEMO_DAY, twice=False)
        then = opened.answerer.answer(plan, DEMO_DAY)
        self.assertEqual(first.proof.checks[0].sentence, "The second working follows")
        self.assertTrue(all(rows is None for _, rows in first.proof.steps))
        self.assertEqual((first.rows, then.proof.checks[0].weight), (then.rows, "holds"))
        with mock.patch("gumption.engines.answering.TWICE_AT_ONCE", 10):
            self.assertTrue(opened.answerer.waits(plan))
        self.assertFalse(opened.answerer.waits(plan))
