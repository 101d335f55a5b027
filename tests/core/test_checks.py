"""Each check, once where it holds or is silent and once where it speaks."""

from __future__ import annotations

import datetime as dt
import tempfile
import unittest
from decimal import Decimal
from pathlib import Path
from unittest import mock

from gumption.cli.files import Opened
from gumption.core.checks.check import Check
from gumption.core.checks.twice import check_agreement, rows_agree, rows_ordered_by
from gumption.core.checks.words import dropped_words
from gumption.core.evaluate.run import Worked, work
from gumption.core.model.types import Type, Value
from gumption.core.plan import expressions as ex
from gumption.core.plan.expressions import Aggregate, Between, ColumnRef, Compare, Constant, Expression
from gumption.core.plan.steps import (
    Derive,
    Group,
    Join,
    Keep,
    KeyPair,
    Limit,
    Pick,
    Picked,
    Plan,
    Sort,
    SortKey,
    Step,
    Take,
    Window,
)
from gumption.engines.answering import Answerer
from gumption.engines.choosing import chosen
from gumption.engines.limits import Limits
from tests.support import DEMO_DAY, demo, opened_from

STOCK = """day,shop,article,stock,sold,price,price_currency,rate
2025-01-01,North,Tea,40,3,10.00,GBP,4%
2025-01-01,North,Milk,10,1,1.00,EUR,5%
2025-01-01,South,Tea,30,0,11.00,GBP,6%
2025-01-02,North,Tea,37,2,10.00,GBP,5%
2025-01-02,South,Tea,30,4,900.00,EUR,7%
2025-02-10,South,Milk,12,4,1.10,GBP,5%
"""


def ref(name: str) -> ColumnRef:
    return ColumnRef(name=name)


def span(column: str, low: str, high: str) -> Between:
    ends = (Constant(type=Type.DATE, value=day) for day in (low, high))
    return Between(value=ref(column), low=next(ends), high=next(ends))


def group(*by: str, **aggregates: str) -> Group:
    """Aggregates are written name="function column"."""
    parts = {name: written.split() for name, written in aggregates.items()}
    made = [
        Aggregate.model_validate({"name": n, "function": p[0], "column": p[1] if p[1:] else None})
        for n, p in parts.items()
    ]
    return Group(by=by, aggregates=tuple(made))


class CheckCase(unittest.TestCase):
    opened: Opened
    day: dt.date

    def checks(self, table: str, *steps: Step) -> list[Check]:
        answered = self.opened.answerer.answer(Plan(steps=(Take(table=table), *steps)), self.day)
        return list(answered.proof.checks)

    def asked(self, question: str) -> list[Check]:
        plan = demo()[1].read(question, DEMO_DAY).readings[0].plan
        return list(self.opened.answerer.answer(plan, self.day).proof.checks)

    def weight(self, checks: list[Check], name: str) -> str:
        return next((c.weight for c in checks if c.name == name), "silent")

    def sentence(self, checks: list[Check], name: str) -> str:
        return next(f"{c.sentence}; {c.detail}" for c in checks if c.name == name)


class OverTheDemo(CheckCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.opened, cls.day = demo()[0], DEMO_DAY

    def test_operations_fit_their_columns(self) -> None:
        for column, want in (("fee_net", "holds"), ("rating", "caution"), ("visit_id", "caution")):
            self.assertEqual(
                self.weight(self.checks("visits", group(t=f"sum {column}")), "operation fits"), want, column
            )

    def test_a_cure_follows_on_and_takes_the_caution_away(self) -> None:
        opened, reader = demo()
        for question, name in (
            ("total rating by clinic", "operation fits"),
            ("visits by owner", "groups to look at"),
            ("average amount by supplier", "means are usual"),
            ("visits by year", "periods whole"),
        ):
            with self.subTest(question):
                first = chosen(reader.read(question, DEMO_DAY), opened.answerer).readings[0]
                checks = opened.answerer.answer(first.plan, DEMO_DAY).proof.checks
                cure = next(c.cure for c in checks if c.name == name and c.weight == "caution")
                then = chosen(reader.read(cure, DEMO_DAY, first), opened.answerer)
                self.assertEqual(then.status, "answered", cure)
                after = opened.answerer.answer(then.readings[0].plan, DEMO_DAY).proof.checks
                self.assertEqual([c.sentence for c in after if c.name == name and c.weight != "holds"], [], cure)

    def test_values_occur(self) -> None:
        def kept(value: str) -> list[Check]:
            condition = Compare(op="=", left=ref("species"), right=Constant(type=Type.TEXT, value=value))
            return self.checks("animals", Keep(condition=condition))

        self.assertEqual(self.weight(kept("Dog"), "values occur"), "holds")
        self.assertIn("near it: Dog", self.sentence(kept("Dogg"), "values occur"))

    def test_join_keys_fit_and_rows_stay_single(self) -> None:
        self.assertEqual(self.weight(self.asked("income by clinic"), "join keys fit"), "holds")
        self.assertEqual(self.weight(self.asked("visits by species"), "join keys fit"), "caution")
        self.assertEqual(self.weight(self.asked("income by clinic"), "rows stay single"), "holds")

    def test_a_join_is_told_by_its_own_columns_only(self) -> None:
        def joined(table: str, *before: Step, left: str, right: str) -> str:
            other = Plan(steps=(Take(table="animals"), Pick(columns=(Picked(column="animal_id", name=right),))))
            join = Join(other=other, on=(KeyPair(left=left, right=right),))
            return self.weight(self.checks(table, *before, join), "join keys fit")

        named = Pick(columns=(Picked(column="animal_id", name="patient"), Picked(column="fee_net", name="fee")))
        self.assertEqual(joined("visits", named, left="patient", right="key"), "caution")
        owned = Derive(name="their_animal_id", expression=ex.TextFunction(function="upper", value=ref("owner_id")))
        self.assertEqual(joined("owners", owned, left="their_animal_id", right="key"), "silent")

    def test_a_join_that_would_double_rows_is_stopped(self) -> None:
        picked = Pick(columns=(Picked(column="clinic_id", name="key"), Picked(column="fee_net", name="fee")))
        join = Join(other=Plan(steps=(Take(table="visits"), picked)), on=(KeyPair(left="clinic_id", right="key"),))
        self.assertEqual(self.weight(self.checks("clinics", join), "worked twice"), "stop")
        answered = self.opened.answerer.answer(Plan(steps=(Take(table="clinics"), join)), self.day, twice=False)
        self.assertIn("would double rows", answered.proof.checks[0].sentence)
        self.assertEqual(answered.finding, "A join would double rows; do not use this answer.")

    def test_periods_complete(self) -> None:
        for high, want in (("2026-09-30", "silent"), ("2026-12-31", "caution")):
            checks = self.checks("visits", Keep(condition=span("visit_date", "2026-01-01", high)))
            self.assertEqual(self.weight(checks, "periods complete"), want)

    def test_periods_whole(self) -> None:
        def along(expression: Expression, *before: Step) -> list[Check]:
            return self.checks("visits", *before, Derive(name="when", expression=expression), group("when", n="count"))

        years = ex.DatePart(part="year", value=ref("visit_date"))
        two = Keep(condition=span("visit_date", "2024-01-01", "2025-12-31"))
        self.assertIn("2026 goes up to 31 Oct 2026 only", self.sentence(along(years), "periods whole"))
        self.assertEqual(self.weight(along(years, two), "periods whole"), "holds")
        months = ex.DatePart(part="month", value=ref("visit_date"))
        self.assertIn("not every month comes equally often", self.sentence(along(months), "periods whole"))
        self.assertEqual(self.weight(along(months, two), "periods whole"), "silent")

    def test_periods_as_long(self) -> None:
        def against(high: str) -> list[Check]:
            either = ex.AnyOf(
                items=(span("visit_date", "2025-01-01", "2025-03-31"), span("visit_date", "2026-01-01", high))
            )
            return self.checks("visits", Keep(condition=either), group(n="count"))

        self.assertEqual(self.weight(against("2026-03-31"), "periods as long"), "holds")
        self.assertIn("31 days and 90 days", self.sentence(against("2026-01-31"), "periods as long"))

    def test_the_plans_that_are_brought_in_are_looked_at_too(self) -> None:
        rated = group("animal_id", total="sum rating")
        other = Plan(
            steps=(
                Take(table="visits"),
                rated,
                Pick(columns=(Picked(column="animal_id", name="key"), Picked(column="total", name="total"))),
            )
        )
        checks = self.checks("animals", Join(other=other, on=(KeyPair(left="animal_id", right="key"),), how="left"))
        self.assertEqual(self.weight(checks, "operation fits"), "caution")
        self.assertIn("rating is missing", self.sentence(checks, "missing values"))

    def test_rows_accounted(self) -> None:
        self.assertEqual(self.weight(self.asked("income by clinic"), "rows accounted"), "holds")
        self.assertEqual(self.weight(self.asked("how many visits by dogs"), "rows accounted"), "caution")

    def test_groups_add_up(self) -> None:
        grouped = group("clinic_id", n="count", total="sum fee_net")
        self.assertIn("add up to the whole", self.sentence(self.checks("visits", grouped), "groups add up"))
        cut = (grouped, Sort(keys=(SortKey(column="n"),)), Limit(rows=2))
        self.assertIn("2 of 9 groups", self.sentence(self.checks("visits", *cut), "groups add up"))
        several = self.checks("visits", group("reason", animals="distinct animal_id"))
        self.assertIn("some are in several groups", self.sentence(several, "groups add up"))

    def test_missing_values_counted(self) -> None:
        self.assertEqual(self.weight(self.asked("total income"), "missing values"), "silent")
        self.assertEqual(self.weight(self.asked("average rating"), "missing values"), "caution")

    def test_ties_at_the_cut(self) -> None:
        sort = Sort(keys=(SortKey(column="rooms"),))
        weights = {self.weight(self.checks("clinics", sort, Limit(rows=n)), "ties at the cut") for n in range(1, 9)}
        self.assertEqual(weights, {"holds", "caution"})
        both = Sort(keys=(SortKey(column="rooms"), SortKey(column="clinic")))
        renamed = Pick(columns=(Picked(column="rooms", name="size"), Picked(column="clinic", name="clinic")))
        only = Pick(columns=(Picked(column="rooms", name="rooms"),))
        for step, weight in ((renamed, "holds"), (only, "silent")):
            found = {
                self.weight(self.checks("clinics", both, step, Limit(rows=n)), "ties at the cut") for n in range(1, 9)
            }
            self.assertEqual(found, {weight})

    def test_an_empty_result_names_its_cause(self) -> None:
        def more(than: int) -> Expression:
            return Compare(op=">", left=ref("rooms"), right=Constant(type=Type.INTEGER, value=than))

        empty = self.checks("clinics", Keep(condition=ex.AllOf(items=(more(1), more(500)))))
        self.assertIn("emptied by: rooms is more than 500", self.sentence(empty, "result not empty"))
        self.assertEqual(self.weight(self.checks("clinics", Keep(condition=more(1))), "result not empty"), "silent")

    def test_too_many_groups(self) -> None:
        self.assertEqual(
            self.weight(self.checks("visits", group("animal_id", n="count")), "groups to look at"), "caution"
        )
        self.assertEqual(
            self.weight(self.checks("visits", group("clinic_id", n="count")), "groups to look at"), "silent"
        )

    def test_agreement_allows_rounding_of_floats_only(self) -> None:
        self.assertTrue(rows_agree([(1, 0.1 + 0.2)], [(1, 0.3)]))
        self.assertTrue(rows_agree([("a", dt.datetime(2024, 1, 1))], [("a", dt.date(2024, 1, 1))]))
        self.assertTrue(rows_agree([(3000000005, "b"), (3000000012, "a")], [(3000000012, "a"), (3000000005, "b")]))
        self.assertFalse(rows_agree([(1, 0.3)], [(1, 0.301)]))
        self.assertFalse(rows_agree([(1,), (2,)], [(1,)]))
        self.assertFalse(rows_agree([(None,)], [(0,)]))
        cents = Decimal("1000000000.00"), Decimal("1000000000.99")
        self.assertFalse(rows_agree([(cents[0],)], [(cents[1],)]))
        self.assertTrue(rows_agree([(Decimal("2.50"), "b"), (1, "a")], [(1, "a"), (Decimal("2.5"), "b")]))
        self.assertFalse(rows_agree([(10**18,)], [(10**18 + 1,)]))
        self.assertTrue(rows_agree([(1e18,)], [(10**18 + 1,)]))

    def test_agreement_is_of_columns_in_order_and_of_sorted_rows_in_order(self) -> None:
        counted = Plan(steps=(Take(table="visits"), group("clinic_id", n="count")))
        ordered = counted.then(Sort(keys=(SortKey(column="n", descending=True),)))
        renamed = ordered.then(
            Pick(columns=(Picked(column="n", name="visits"), Picked(column="clinic_id", name="where")))
        )
        rows: list[tuple[Value, ...]] = [("C1", 9), ("C2", 5)]
        columns = ("clinic_id", "n")

        def weight(plan: Plan, columns: tuple[str, ...], found: list[tuple[Value, ...]], worked: Worked) -> str:
            return check_agreement(columns, found, len(found), worked, plan).weight

        self.assertEqual(weight(counted, columns, rows, Worked(columns, rows[::-1], 2, ())), "holds")
        self.assertEqual(weight(ordered, columns, rows, Worked(columns, rows[::-1], 2, ())), "stop")
        self.assertEqual(weight(counted, columns, rows, Worked(("n", "clinic_id"), rows, 2, ())), "stop")
        self.assertEqual(rows_ordered_by(renamed), ("visits",))
        self.assertEqual(rows_ordered_by(renamed.then(group("where", n="count"))), ())

    def test_a_listing_of_too_many_rows_is_counted_and_cut(self) -> None:
        plan = Plan(steps=(Take(table="vets"), Sort(keys=(SortKey(column="vet_id"),))))
        with mock.patch("gumption.engines.answering.MOST_ROWS", 10):
            answered = self.opened.answerer.answer(plan, DEMO_DAY)
        self.assertEqual((len(answered.rows), answered.proof.checks[0].weight), (10, "holds"))
        self.assertEqual(answered.finding, f"{answered.total} rows, of which the first 10 are kept.")
        self.assertEqual(answered.total, self.opened.catalogue.table("vets").rows)

    def test_the_second_working_may_follow(self) -> None:
        plan = demo()[1].read("income by clinic", DEMO_DAY).readings[0].plan
        first = self.opened.answerer.answer(plan, DEMO_DAY, twice=False)
        then = self.opened.answerer.answer(plan, DEMO_DAY)
        self.assertEqual(first.proof.checks[0].sentence, "The second working follows")
        self.assertTrue(all(step.rows is None for step in first.proof.steps))
        self.assertEqual((first.rows, then.proof.checks[0].weight), (then.rows, "holds"))
        self.assertFalse(self.opened.answerer.waits(plan))
        engine = self.opened.answerer.engine
        before, engine.limits = engine.limits, Limits(twice_rows=10)
        self.addCleanup(setattr, engine, "limits", before)
        self.assertTrue(Answerer(self.opened.catalogue, engine, {}).waits(plan))


class OverStock(CheckCase):
    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        skewed = "kind,fee\n" + "".join(
            f"{'odd' if n % 2 else 'even'},{n % 7 + (5000 if n == 41 else 1)}\n" for n in range(80)
        )
        calls = "called_at,seconds\n" + "".join(f"{8 + n % 9:02d}:{n:02d},{n}\n" for n in range(40))
        files = {"stock.csv": STOCK, "fees.csv": skewed, "calls.csv": calls}
        cls.opened, _ = opened_from(Path(folder.name), files)
        cls.day = dt.date(2025, 6, 1)

    def test_dates_decided(self) -> None:
        for last, want in (("01/02/2024", "caution"), ("25/02/2024", "silent")):
            with self.subTest(last), tempfile.TemporaryDirectory() as folder:
                text = f"on,n\n05/03/2024,1\n06/04/2024,2\n{last},3\n"
                opened, _ = opened_from(Path(folder), {"sales.csv": text})
                plan = Plan(steps=(Take(table="sales"), Keep(condition=span("on", "2024-03-01", "2024-03-31"))))
                checks = list(opened.answerer.answer(plan, self.day).proof.checks)
                self.assertEqual(self.weight(checks, "dates decided"), want)

    def test_hours_of_a_time_of_day_cover_no_days(self) -> None:
        hours = Derive(name="hour", expression=ex.DatePart(part="hour", value=ref("called_at")))
        checks = self.checks("calls", hours, group("hour", n="count"))
        self.assertEqual(self.weight(checks, "worked twice"), "holds")
        self.assertEqual(self.weight(checks, "periods whole"), "silent")

    def test_total_over_a_level(self) -> None:
        one_day = Keep(condition=span("day", "2025-01-01", "2025-01-01"))
        self.assertIn(
            "counts the same things again",
            self.sentence(self.checks("stock", group(t="sum stock")), "total over a level"),
        )
        for steps in ((group("day", t="sum stock"),), (one_day, group(t="sum stock")), (group(t="sum sold"),)):
            self.assertEqual(self.weight(self.checks("stock", *steps), "total over a level"), "silent")

    def test_mixed_units(self) -> None:
        pounds = Keep(
            condition=Compare(op="=", left=ref("price_currency"), right=Constant(type=Type.TEXT, value="GBP"))
        )
        self.assertNotEqual(self.weight(self.checks("stock", group(t="sum price")), "mixed units"), "silent")
        for steps in (
            (pounds, group(t="sum price")),
            (group("price_currency", t="sum price"),),
            (group(t="sum sold"),),
        ):
            self.assertEqual(self.weight(self.checks("stock", *steps), "mixed units"), "silent")

    def test_average_of_averages(self) -> None:
        first = group("shop", each="mean sold")
        self.assertEqual(
            self.weight(self.checks("stock", first, group(m="mean each")), "average of averages"), "caution"
        )
        sums = group("shop", each="sum sold")
        self.assertEqual(self.weight(self.checks("stock", sums, group(m="mean each")), "average of averages"), "silent")

    def test_mean_of_ratios_and_divisions_by_zero(self) -> None:
        ratio = Derive(name="each", expression=ex.Arithmetic(op="/", left=ref("stock"), right=ref("sold")))
        checks = self.checks("stock", ratio, group(m="mean each"))
        self.assertEqual(self.weight(checks, "mean of ratios"), "caution")
        self.assertIn("no value on 1 row", self.sentence(checks, "divisions by zero"))
        of_sums = (
            group(a="sum stock", b="sum sold"),
            Derive(name="r", expression=ex.Arithmetic(op="/", left=ref("a"), right=ref("b"))),
        )
        self.assertEqual(self.weight(self.checks("stock", *of_sums), "mean of ratios"), "silent")
        self.assertEqual(self.weight(self.checks("stock", *of_sums), "divisions by zero"), "silent")

    def test_percentage_of_a_percentage(self) -> None:
        def change(column: str) -> list[Check]:
            window = Window(name="c", function="change_percent", column=column, order=(SortKey(column="day"),))
            return self.checks("stock", window)

        self.assertEqual(self.weight(change("rate"), "percentage of a percentage"), "caution")
        self.assertEqual(self.weight(change("sold"), "percentage of a percentage"), "silent")

    def test_means_pulled_by_extremes(self) -> None:
        self.assertIn(
            "of odd is pulled by extremes",
            self.sentence(self.checks("fees", group("kind", m="mean fee")), "means are usual"),
        )
        small = Keep(condition=Compare(op="<", left=ref("fee"), right=Constant(type=Type.INTEGER, value=100)))
        self.assertEqual(
            self.weight(self.checks("fees", small, group("kind", m="mean fee")), "means are usual"), "holds"
        )

    def test_small_groups(self) -> None:
        self.assertIn(
            "Milk (2)", self.sentence(self.checks("stock", group("article", m="mean sold")), "groups large enough")
        )
        self.assertEqual(
            self.weight(self.checks("stock", group("article", m="sum sold")), "groups large enough"), "silent"
        )
        self.assertEqual(self.weight(self.checks("fees", group("kind", m="mean fee")), "groups large enough"), "holds")
        single = self.checks("stock", group("day", "shop", "article", m="mean sold"))
        self.assertEqual(self.weight(single, "groups large enough"), "silent")

    def test_the_rows_of_each_step_and_why_they_went(self) -> None:
        more = Compare(op=">", left=ref("sold"), right=Constant(type=Type.INTEGER, value=1))
        tea = Compare(op="=", left=ref("article"), right=Constant(type=Type.TEXT, value="Tea"))
        plan = Plan(steps=(Take(table="stock"), Keep(condition=ex.AllOf(items=(tea, more)))))
        flow = work(plan, self.opened.answerer.engine.column, self.opened.answerer.sizes).flow
        self.assertEqual(
            [dropped_words(d) for d in flow[1].dropped], ["2 fail: article is Tea", "1 fails: sold is more than 1"]
        )
