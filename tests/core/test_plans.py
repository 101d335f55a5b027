"""Plans: typing, both workings on data full of gaps, SQL as it reads, and errors that help."""

from __future__ import annotations

import datetime as dt
import tempfile
import unittest
from pathlib import Path

from gumption.core.code.sql import plan_sql, render
from gumption.core.evaluate.joins import JoinMultiplies
from gumption.core.evaluate.run import work
from gumption.core.model.types import Type
from gumption.core.plan.expressions import (
    Aggregate,
    AllOf,
    AnyOf,
    Arithmetic,
    Between,
    ColumnRef,
    Compare,
    Constant,
    DateDifference,
    DateFloor,
    DatePart,
    Expression,
    IsMissing,
    Negated,
    OneOf,
    TextMatch,
)
from gumption.core.plan.fields import PlanError
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
from gumption.core.plan.typing import schema_of
from gumption.core.plan.words import plan_words
from tests.support import opened_from

SALES = """id,day,shop,kind,amount,weight,count,paid
1,2024-01-05,A,Tea,10.10,1.5,3,yes
2,2024-01-31,A,tea,20.20,,4,no
3,2024-02-01,B,Coffee,-3.05,0.25,,yes
4,,B,,0.00,2.75,1,
5,2024-03-15,Z,Tea,99.99,1e3,2,no
6,2025-02-28,,Milk,,0.001,5,yes
7,2025-03-01,A,Coffee,10.10,1.5,3,no
8,2025-12-31,B,Tea,10.10,7.125,0,yes
"""
SHOPS = "shop,town,opened\nA,Alder,2001-02-03\nB,Birch,2010-11-12\nC,Cedar,2020-01-01\n"


def ref(name: str) -> ColumnRef:
    return ColumnRef(name=name)


def text(value: str) -> Constant:
    return Constant(type=Type.TEXT, value=value)


def number(value: int | float) -> Constant:
    return Constant(type=Type.INTEGER if isinstance(value, int) else Type.FLOAT, value=value)


def date(value: str) -> Constant:
    return Constant(type=Type.DATE, value=value)


TAKE = Take(table="sales")
SHOP_JOIN = Plan(
    steps=(
        Take(table="shops"),
        Pick(columns=(Picked(column="shop", name="shop_key"), Picked(column="town", name="town"))),
    )
)


class PlanCase(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.folder.cleanup)
        opened, _ = opened_from(Path(cls.folder.name), {"sales.csv": SALES, "shops.csv": SHOPS})
        cls.answerer, cls.catalogue = opened.answerer, opened.catalogue

    def agreed(self, *steps: Step) -> list[tuple[object, ...]]:
        """The rows of a plan, held to be the same from the engine and from the second working."""
        answered = self.answerer.answer(Plan(steps=(TAKE, *steps)), dt.date(2026, 1, 1))
        self.assertEqual(answered.proof.checks[0].sentence, "Computed twice, both ways agree", answered.sql)
        return list(answered.rows)

    def kept(self, condition: Expression) -> list[object]:
        return [row[0] for row in self.agreed(Keep(condition=condition), Sort(keys=(SortKey(column="id"),)))]


class Workings(PlanCase):
    def test_conditions_are_two_valued(self) -> None:
        tea = Compare(op="=", left=ref("kind"), right=text("Tea"))
        cases: list[tuple[Expression, list[int]]] = [
            (tea, [1, 5, 8]),
            (Negated(item=tea), [2, 3, 4, 6, 7]),
            (Compare(op="!=", left=ref("kind"), right=text("Tea")), [2, 3, 4, 6, 7]),
            (Compare(op=">", left=ref("amount"), right=number(10)), [1, 2, 5, 7, 8]),
            (Compare(op="=", left=ref("amount"), right=number(10.1)), [1, 7, 8]),
            (Negated(item=Compare(op=">", left=ref("amount"), right=number(10))), [3, 4, 6]),
            (Between(value=ref("day"), low=date("2024-01-31"), high=date("2024-03-15")), [2, 3, 5]),
            (OneOf(value=ref("shop"), options=(text("A"), text("Z"))), [1, 2, 5, 7]),
            (Negated(item=OneOf(value=ref("shop"), options=(text("A"), text("Z")))), [3, 4, 6, 8]),
            (TextMatch(how="contains", value=ref("kind"), pattern="EA"), [1, 2, 5, 8]),
            (TextMatch(how="starts", value=ref("kind"), pattern="co"), [3, 7]),
            (IsMissing(value=ref("weight")), [2]),
            (Negated(item=IsMissing(value=ref("kind"))), [1, 2, 3, 5, 6, 7, 8]),
            (AnyOf(items=(IsMissing(value=ref("day")), Compare(op="<", left=ref("amount"), right=number(0)))), [3, 4]),
            (
                AllOf(items=(tea, Compare(op="=", left=ref("paid"), right=Constant(type=Type.BOOLEAN, value=True)))),
                [1, 8],
            ),
            (Compare(op="=", left=DatePart(part="weekday", value=ref("day")), right=number(3)), [2, 8]),
            (
                Compare(op=">", left=Arithmetic(op="*", left=ref("amount"), right=ref("count")), right=number(30.3)),
                [2, 5],
            ),
        ]
        for condition, want in cases:
            with self.subTest(condition.model_dump_json()):
                self.assertEqual(self.kept(condition), want)

    def test_aggregates_leave_missing_values_out(self) -> None:
        aggregates = (
            Aggregate(name="rows", function="count"),
            Aggregate(name="filled", function="count", column="amount"),
            Aggregate(name="kinds", function="distinct", column="kind"),
            Aggregate(name="total", function="sum", column="amount"),
            Aggregate(name="mean", function="mean", column="amount"),
            Aggregate(name="median", function="median", column="amount"),
            Aggregate(name="first", function="min", column="day"),
            Aggregate(name="last", function="max", column="kind"),
            Aggregate(name="spread", function="deviation", column="amount"),
            Aggregate(name="p90", function="percentile", column="count", percent=90),
            Aggregate(name="r", function="correlation", column="count", other="weight"),
        )
        rows = self.agreed(Group(by=("shop",), aggregates=aggregates), Sort(keys=(SortKey(column="shop"),)))
        self.assertEqual([r[0] for r in rows], ["A", "B", "Z", None])
        self.assertEqual(float(rows[0][4]), 40.4)  # type: ignore[arg-type]
        self.assertEqual(rows[3][1:5], (1, 0, 1, None))
        whole = self.agreed(
            Keep(condition=Compare(op=">", left=ref("id"), right=number(99))), Group(aggregates=aggregates)
        )
        self.assertEqual(whole[0][:5], (0, 0, 0, None, None))

    def test_cents_add_up(self) -> None:
        rows = self.agreed(Group(aggregates=(Aggregate(name="total", function="sum", column="amount"),)))
        self.assertEqual(str(rows[0][0]), "147.44")

    def test_dates(self) -> None:
        for unit, want in (
            ("year", "2024-01-01"),
            ("quarter", "2024-01-01"),
            ("month", "2024-02-01"),
            ("week", "2024-01-29"),
            ("day", "2024-02-01"),
        ):
            rows = self.agreed(
                Derive(name="floor", expression=DateFloor(unit=unit, value=ref("day"))),
                Sort(keys=(SortKey(column="id"),)),
            )  # type: ignore[arg-type]
            self.assertEqual(str(rows[2][-1]), want, unit)
        age = DateDifference(unit="days", start=ref("day"), end=date("2025-03-01"))
        rows = self.agreed(Derive(name="age", expression=age), Sort(keys=(SortKey(column="id"),)))
        self.assertEqual([r[-1] for r in rows][:6], [421, 395, 394, None, 351, 1])

    def test_joins_and_partners(self) -> None:
        on = (KeyPair(left="shop", right="shop_key"),)
        for how, want in (("inner", 6), ("left", 8), ("with", 6), ("without", 2)):
            rows = self.agreed(Join(other=SHOP_JOIN, on=on, how=how))  # type: ignore[arg-type]
            self.assertEqual(len(rows), want, how)

    def test_a_join_that_would_double_rows_is_stopped(self) -> None:
        other = Plan(
            steps=(TAKE, Pick(columns=(Picked(column="shop", name="key"), Picked(column="amount", name="more"))))
        )
        plan = Plan(steps=(Take(table="shops"), Join(other=other, on=(KeyPair(left="shop", right="key"),))))
        with self.assertRaises(JoinMultiplies):
            work(plan, self.answerer.engine.column, self.answerer.sizes)
        self.assertEqual(self.answerer.answer(plan, dt.date(2026, 1, 1)).proof.checks[0].weight, "stop")

    def test_windows(self) -> None:
        grouped = Group(by=("shop", "kind"), aggregates=(Aggregate(name="total", function="sum", column="amount"),))
        order = (SortKey(column="kind"),)
        for function in ("share", "rank", "running_total", "change", "change_percent"):
            for within in ((), ("shop",)):
                with self.subTest(function=function, within=within):
                    window = Window(
                        name="w",
                        function=function,
                        column="total",
                        order=() if function in ("share", "rank") else order,
                        within=within,
                    )  # type: ignore[arg-type]
                    self.agreed(grouped, window, Sort(keys=(SortKey(column="shop"), SortKey(column="kind"))))

    def test_ties_are_broken_by_the_remaining_columns(self) -> None:
        rows = self.agreed(
            Pick(columns=(Picked(column="amount", name="amount"), Picked(column="id", name="id"))),
            Sort(keys=(SortKey(column="amount", descending=True),)),
            Limit(rows=4),
        )
        self.assertEqual([r[1] for r in rows], [5, 2, 1, 7])


class Typing(PlanCase):
    def test_errors_name_the_step_and_what_there_is(self) -> None:
        cases: list[tuple[tuple[Step, ...], str]] = [
            ((TAKE, Sort(keys=(SortKey(column="prize"),))), "step 2: there is no column prize; there are id, day"),
            ((Take(table="sale"),), "step 1: there is no table sale; there are sales, shops"),
            (
                (TAKE, Group(aggregates=(Aggregate(name="x", function="sum", column="kind"),))),
                "step 2: kind is text; sum needs a number",
            ),
            ((TAKE, Keep(condition=ref("amount"))), "step 2: a condition must be true or false"),
            (
                (TAKE, Keep(condition=Compare(op="=", left=ref("amount"), right=text("x")))),
                "step 2: decimal cannot be compared with text",
            ),
            (
                (TAKE, Derive(name="id", expression=ref("day"))),
                "step 2: there is already a column id; give the new one another name",
            ),
            ((TAKE, TAKE), "step 2: a plan begins with one take, and only there"),
        ]
        for steps, message in cases:
            with self.subTest(message), self.assertRaises(PlanError) as caught:
                schema_of(Plan(steps=steps), self.catalogue)
            self.assertTrue(str(caught.exception).startswith(message), str(caught.exception))

    def test_a_plan_survives_json(self) -> None:
        plan = Plan(steps=(TAKE, Keep(condition=Negated(item=IsMissing(value=ref("kind")))), Group(by=("kind",))))
        self.assertEqual(Plan.model_validate_json(plan.model_dump_json()), plan)

    def test_sql_reads_as_a_person_would_write_it(self) -> None:
        plan = Plan(
            steps=(
                TAKE,
                Keep(condition=Compare(op=">", left=ref("amount"), right=number(5))),
                Join(other=SHOP_JOIN, on=(KeyPair(left="shop", right="shop_key"),)),
                Group(by=("town",), aggregates=(Aggregate(name="total", function="sum", column="amount"),)),
                Keep(condition=Compare(op=">", left=ref("total"), right=number(20))),
                Sort(keys=(SortKey(column="total", descending=True), SortKey(column="town"))),
                Limit(rows=3),
            )
        )
        flat = " ".join(render(plan_sql(plan, self.catalogue)).split())
        self.assertEqual(
            flat,
            "/* Keep amount is more than 5 Group by town: the sum of amount Keep total is more than 20 "
            "Sort by total, highest first then town, lowest first First 3 */ "
            "SELECT s2.town, SUM(s.amount) AS total FROM sales AS s JOIN shops AS s2 ON s.shop = s2.shop WHERE s.amount > 5 "
            "GROUP BY s2.town HAVING SUM(s.amount) > 20 ORDER BY total DESC, town ASC LIMIT 3",
        )
        self.assertEqual(
            plan_words(plan),
            "the sum of amount of sales, for each town, where amount is more than 5; total is more than 20; by total, highest first then town, lowest first: the first 3",
        )
