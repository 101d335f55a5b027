"""What expressions, aggregates, windows and joins mean at their edges, the same in every working; each case once went wrong or might."""

from __future__ import annotations

import datetime as dt
import unittest
from decimal import Decimal
from typing import Any

from gumption.cli.files import Opened
from gumption.core.checks.twice import rows_agree
from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Aggregate, ColumnRef, Constant, Expression
from gumption.core.plan.fields import PlanError
from gumption.core.plan.steps import KeyPair, Picked, Plan, SortKey, Step, Take
from gumption.core.plan.typing import schema_of
from gumption.engines.errors import CannotAnswer
from tests.core.test_random_plans import run_script
from tests.support import tables_for

ONE = "id,word,day,at,n,cents,real\n1,Ab-Cd,2024-02-29,2024-02-29 23:59:59,-7,-2.35,0.5\n"
ROWS = """id,kind,month,n,cents,word
1,A,2024-01-01,3,0.10,x
2,A,2024-02-01,1,0.20,y
3,A,2024-04-01,,0.30,y
4,B,2024-01-01,5,0.40,
5,B,2025-01-01,4,0.50,z
6,,2025-02-01,9,,x
"""
RATES = "kind,since,rate\nA,2024-01-15,1.5\nA,2024-03-01,2.5\nB,2024-06-01,3.5\n"
FINE = "id,price\n1,1000000.001\n2,2000000.002\n3,9000000000000.500\n"


def ref(name: str) -> ColumnRef:
    return ColumnRef(name=name)


def of(value: Any, kind: Type | None = None) -> Constant:
    found = kind or {int: Type.INTEGER, float: Type.FLOAT, str: Type.TEXT, bool: Type.BOOLEAN}[type(value)]
    return Constant(type=found, value=value)


def sums(op: Any, left: Expression, right: Expression) -> ex.Arithmetic:
    return ex.Arithmetic(op=op, left=left, right=right)


def day(value: str) -> Constant:
    return of(value, Type.DATE)


class Meaning(unittest.TestCase):
    opened: Opened

    @classmethod
    def setUpClass(cls) -> None:
        cls.opened = tables_for(cls, {"one.csv": ONE, "rows.csv": ROWS, "rates.csv": RATES, "fine.csv": FINE})

    def rows(self, table: str, *steps: Step) -> list[tuple[Any, ...]]:
        """The rows of a plan, the same from the engine, the second working and pandas."""
        answered = self.opened.answerer.answer(Plan(steps=(Take(table=table), *steps)), dt.date(2026, 1, 1))
        self.assertEqual(answered.proof.checks[0].sentence, "Computed twice, both ways agree", answered.sql)
        self.assertTrue(rows_agree(run_script(answered.python), answered.rows), answered.python)
        return list(answered.rows)

    def value(self, expression: Expression) -> Any:
        return self.rows("one", st.Derive(name="v", expression=expression))[0][-1]

    def test_expressions(self) -> None:
        n, cents, real, word, date = ref("n"), ref("cents"), ref("real"), ref("word"), ref("day")
        cases: list[tuple[Expression, Any]] = [
            (sums("//", n, of(2)), -3),
            (sums("%", n, of(2)), -1),
            (sums("//", n, of(0)), None),
            (sums("/", n, of(2)), -3.5),
            (sums("/", cents, of(0)), None),
            (sums("*", cents, of("1.5", Type.DECIMAL)), Decimal("-3.525")),
            (sums("^", n, of(2)), 49.0),
            (sums("^", n, of(0.5)), None),
            (sums("^", of(0), of(-1)), None),
            (ex.NumberFunction(function="round", value=cents, digits=1), Decimal("-2.4")),
            (ex.NumberFunction(function="round", value=real), 1.0),
            (ex.NumberFunction(function="floor", value=cents), Decimal(-3)),
            (ex.NumberFunction(function="ceiling", value=cents), Decimal(-2)),
            (ex.NumberFunction(function="sqrt", value=n), None),
            (ex.NumberFunction(function="ln", value=of(0)), None),
            (ex.NumberFunction(function="sign", value=cents), -1),
            (ex.Bin(value=n, width=5.0), -10.0),
            (ex.Bin(value=n, edges=(-7.0, 0.0)), -7.0),
            (ex.Bin(value=n, edges=(0.0, 10.0)), None),
            (ex.TextFunction(function="length", value=word), 5),
            (ex.TextFunction(function="upper", value=word), "AB-CD"),
            (ex.SplitPart(value=word, separator="-", part=2), "Cd"),
            (ex.SplitPart(value=word, separator="-", part=3), None),
            (ex.Slice(value=word, start=2, length=3), "b-C"),
            (ex.Replace(value=word, old="-", new=""), "AbCd"),
            (ex.Extract(value=word, pattern="([A-Z])d"), "C"),
            (ex.Extract(value=word, pattern="[0-9]"), None),
            (ex.Concatenate(parts=(word, of("!"))), "Ab-Cd!"),
            (ex.PatternMatch(value=word, pattern="^ab"), False),
            (ex.DatePart(part="week", value=date), 9),
            (ex.DatePart(part="day_of_year", value=date), 60),
            (ex.DatePart(part="fiscal_year", value=date, first_month=4), 2024),
            (ex.DatePart(part="fiscal_quarter", value=date, first_month=4), 4),
            (ex.DateFloor(unit="fiscal_year", value=date, first_month=4), dt.date(2023, 4, 1)),
            (ex.DateFloor(unit="fiscal_quarter", value=date, first_month=2), dt.date(2024, 2, 1)),
            (ex.DateFloor(unit="hour", value=ref("at")), dt.datetime(2024, 2, 29, 23)),
            (ex.DateShift(unit="years", count=1, value=date), dt.date(2025, 2, 28)),
            (ex.DateShift(unit="months", count=-12, value=date), dt.date(2023, 2, 28)),
            (ex.DateShift(unit="weeks", count=1, value=date), dt.date(2024, 3, 7)),
            (ex.DateDifference(unit="whole_years", start=date, end=day("2025-02-28")), 1),
            (ex.DateDifference(unit="whole_years", start=date, end=day("2028-02-28")), 3),
            (ex.DateDifference(unit="months", start=day("2024-01-31"), end=date), 1),
            (ex.DateDifference(unit="months", start=date, end=day("2024-01-31")), -1),
            (ex.DateDifference(unit="working_days", start=date, end=day("2024-03-04")), 2),
            (ex.DateDifference(unit="working_days", start=day("2024-03-04"), end=date), -2),
            (ex.DateDifference(unit="hours", start=date, end=ref("at")), 86399 / 3600),
            (ex.FirstKnown(items=(sums("/", n, of(0)), of(1.5))), 1.5),
            (ex.Case(branches=(ex.Branch(when=ex.IsMissing(value=n), then=of("gone")),)), None),
            (ex.Case(branches=(ex.Branch(when=of(True), then=n),), otherwise=cents), Decimal(-7)),
            # A condition is yes or no even of what is missing, also as a value.
            (ex.Compare(op=">", left=sums("/", n, of(0)), right=of(1)), False),
        ]
        for expression, want in cases:
            with self.subTest(expression.model_dump_json(exclude_none=True)):
                got = self.value(expression)
                self.assertTrue(rows_agree([(got,)], [(want,)]), f"{got} is not {want}")

    def test_exact_numbers_stay_exact(self) -> None:
        total = self.rows("fine", st.Group(aggregates=(Aggregate(name="t", function="sum", column="price"),)))
        self.assertEqual(total[0][0], Decimal("9000003000000.503"))
        product = st.Derive(name="p", expression=sums("*", ref("price"), ref("price")))
        with self.assertRaises(CannotAnswer):
            huge = st.Derive(name="q", expression=sums("*", ref("p"), ref("price")))
            self.rows("fine", product, huge, st.Group(aggregates=(Aggregate(name="t", function="sum", column="q"),)))

    def test_aggregates(self) -> None:
        def made(function: Any, column: str | None = None, **more: Any) -> Aggregate:
            return Aggregate(name=f"{function} {len(found)}", function=function, column=column, **more)

        found: list[Aggregate] = []
        large = ex.Compare(op=">", left=ref("n"), right=of(2))
        found.append(made("mode", "word"))
        found.append(made("latest", "n", other="month"))
        found.append(made("earliest", "word", other="month"))
        found.append(made("list", "word"))
        found.append(made("share", where=large))
        found.append(made("sum", "cents", where=large))
        found.append(made("weighted_mean", "cents", other="n"))
        found.append(made("slope", "cents", other="n"))
        found.append(made("variance", "n"))
        found.append(made("covariance", "n", other="n"))
        rows = self.rows(
            "rows", st.Group(by=("kind",), aggregates=tuple(found)), st.Sort(keys=(SortKey(column="kind"),))
        )
        self.assertEqual(rows[0][:6], ("A", "y", 1, "x", "x, y", 1 / 3))
        self.assertEqual((float(rows[0][6]), rows[0][7]), (0.1, (3 * 0.1 + 0.2) / 4))
        self.assertAlmostEqual(rows[0][8], -0.05)
        self.assertEqual(rows[2][:6], (None, "x", 9, "x", "x", 1.0))
        self.assertEqual(rows[2][6:], (None, None, None, None, None))

    def test_what_does_not_vary_has_no_slope(self) -> None:
        """A mean is not exact, so that rounding would make it seem to vary."""
        usual = st.Window(name="usual", function="average", column="cents")
        made = tuple(Aggregate(name=f, function=f, column="n", other="usual") for f in ("slope", "correlation"))  # type: ignore[arg-type]
        self.assertEqual(self.rows("rows", usual, st.Group(aggregates=made)), [(None, None)])
        even = Aggregate(name="even", function="variance", column="usual")
        root = st.Derive(name="log", expression=ex.NumberFunction(function="log10", value=ref("even")))
        self.assertEqual(self.rows("rows", usual, st.Group(aggregates=(even,)), root), [(0.0, None)])

    def test_text_stays_text_where_all_of_it_is_missing(self) -> None:
        none = st.Keep(condition=ex.IsMissing(value=ref("kind")))
        part = st.Derive(name="p", expression=ex.SplitPart(value=ref("kind"), separator="-", part=2))
        again = st.Derive(name="q", expression=ex.TextFunction(function="lower", value=ref("p")))
        self.assertEqual([r[-2:] for r in self.rows("rows", none, part, again)], [(None, None)])

    def test_windows_along_time(self) -> None:
        order, within = (SortKey(column="month"),), ("kind",)

        def looking(**more: Any) -> list[Any]:
            window = st.Window.model_validate({"name": "w", "column": "n", "order": order, "within": within, **more})
            return [r[-1] for r in self.rows("rows", window, st.Sort(keys=(SortKey(column="id"),)))]

        self.assertEqual(looking(function="lag"), [None, 3, 1, None, 5, None])
        self.assertEqual(looking(function="change"), [None, -2, None, None, -1, None])
        self.assertEqual(looking(function="lag", unit="month", back=2), [None, None, 1, None, None, None])
        self.assertEqual(looking(function="change_percent", unit="year"), [None, None, None, None, -0.2, None])
        self.assertEqual(looking(function="running_total"), [3, 4, 4, 5, 9, 9])
        self.assertEqual(looking(function="moving_average", rows=2), [3.0, 2.0, 1.0, 5.0, 4.5, 9.0])
        self.assertEqual(looking(function="quantile_bin", bins=2, order=(), within=()), [1, 1, None, 2, 1, 2])
        self.assertEqual(looking(function="width_bin", bins=4, order=(), within=()), [2, 1, None, 3, 2, 4])

    def test_a_year_back_wants_one_row_a_period(self) -> None:
        window = st.Window(name="w", function="lag", column="n", order=(SortKey(column="month"),), unit="year")
        plan = Plan(steps=(Take(table="rows"), window))
        self.assertEqual(self.opened.answerer.answer(plan, dt.date(2026, 1, 1)).proof.checks[0].weight, "stop")

    def test_periods_without_rows_appear(self) -> None:
        grouped = st.Group(
            by=("kind", "month"),
            aggregates=(Aggregate(name="rows", function="count"), Aggregate(name="t", function="sum", column="n")),
        )
        fill = st.Fill(
            column="month",
            unit="month",
            within=("kind",),
            zeros=("rows",),
            low=day("2024-01-01"),
            high=day("2024-04-01"),
        )
        rows = self.rows("rows", grouped, fill, st.Sort(keys=(SortKey(column="kind"), SortKey(column="month"))))
        march = next(r for r in rows if r[:2] == ("A", dt.date(2024, 3, 1)))
        self.assertEqual((len(rows), march[2:]), (14, (0, None)))

    def test_what_held_at_a_time(self) -> None:
        picked = st.Pick(columns=tuple(Picked(column=c, name=f"their {c}") for c in ("kind", "since", "rate")))
        held = st.AsOf(
            other=Plan(steps=(Take(table="rates"), picked)),
            on=(KeyPair(left="kind", right="their kind"),),
            at=KeyPair(left="month", right="their since"),
        )
        rows = self.rows("rows", held, st.Sort(keys=(SortKey(column="id"),)))
        self.assertEqual([None if r[-1] is None else float(r[-1]) for r in rows], [None, 1.5, 2.5, None, 3.5, None])

    def test_cross_tables_have_totals(self) -> None:
        into = tuple(st.PivotColumn(value=of(v), name=v) for v in ("A", "B"))
        pivot = st.Pivot(
            by=("word",),
            column="kind",
            into=into,
            aggregate=Aggregate(name="all", function="sum", column="cents"),
            totals=True,
        )
        rows = self.rows("rows", pivot, st.Sort(keys=(SortKey(column="total_row"), SortKey(column="word"))))
        self.assertEqual(
            [[None if v is None else str(v) for v in r[:4]] for r in rows[-2:]],
            [[None, None, "0.40", "0.40"], [None, "0.60", "0.90", "1.50"]],
        )

    def test_appended_rows_lack_what_the_other_side_has(self) -> None:
        other = Plan(
            steps=(
                Take(table="rates"),
                st.Pick(columns=(Picked(column="kind", name="kind"), Picked(column="rate", name="rate"))),
            )
        )
        rows = self.rows(
            "rows",
            st.Append(other=other),
            st.Group(
                by=("kind",),
                aggregates=(Aggregate(name="n", function="count"), Aggregate(name="r", function="sum", column="rate")),
            ),
            st.Sort(keys=(SortKey(column="kind"),)),
        )
        self.assertEqual(
            [(r[0], r[1], None if r[2] is None else float(r[2])) for r in rows],
            [("A", 5, 4.0), ("B", 3, 3.5), (None, 1, None)],
        )

    def test_columns_become_rows(self) -> None:
        turn = st.Unpivot(columns=("n", "cents"), name="what", value="how_much")
        rows = self.rows(
            "rows",
            turn,
            st.Group(by=("what",), aggregates=(Aggregate(name="t", function="sum", column="how_much"),)),
            st.Sort(keys=(SortKey(column="what"),)),
        )
        self.assertEqual([(r[0], float(r[1])) for r in rows], [("cents", 1.5), ("n", 22.0)])

    def test_compared_with_a_scalar(self) -> None:
        usual = Plan(
            steps=(Take(table="rows"), st.Group(aggregates=(Aggregate(name="usual", function="mean", column="n"),)))
        )
        above = st.Keep(condition=ex.Compare(op=">", left=ref("n"), right=ref("usual")))
        self.assertEqual(sorted(r[0] for r in self.rows("rows", st.Join(other=usual), above)), [4, 6])

    def test_letters_change_one_for_one(self) -> None:
        """As in the engine; Python's own capitals of ß are SS, and its last sigma of a word is another."""
        for word, small, capital in (("Straße", "straße", "STRAẞE"), ("ΟΔΟΣ", "οδοσ", "ΟΔΟΣ"), ("İda", "ida", "İDA")):
            found = [
                st.Derive(name=f, expression=ex.TextFunction(function=f, value=of(word))) for f in ("lower", "upper")
            ]  # type: ignore[arg-type]
            plan = Plan(steps=(Take(table="one"), *found))
            answered = self.opened.answerer.answer(plan, dt.date(2026, 1, 1))
            self.assertEqual((answered.rows[0][-2:], answered.proof.checks[0].weight), ((small, capital), "holds"))

    def test_decimals_compare_with_durations_by_their_fractions(self) -> None:
        over = st.Keep(condition=ex.Compare(op=">", left=ref("cents"), right=of(0.15, Type.DURATION)))
        self.assertEqual(sorted(r[0] for r in self.rows("rows", over)), [2, 3, 4, 5])

    def test_constants_are_no_places(self) -> None:
        """A number to group by is a value, which SQL would take for the place of a column."""
        steps = (
            st.Derive(name="one", expression=of(1)),
            st.Group(by=("one",), aggregates=(Aggregate(name="n", function="count"),)),
        )
        self.assertEqual(self.rows("rows", *steps), [(1, 6)])

    def test_an_order_outlives_the_steps_behind_it(self) -> None:
        steps = (
            st.Sort(keys=(SortKey(column="n", descending=True),)),
            st.Limit(rows=3),
            st.Pick(columns=(Picked(column="id", name="id"),)),
            st.Keep(condition=ex.Compare(op="!=", left=ref("id"), right=of(4))),
        )
        self.assertEqual([r[0] for r in self.rows("rows", *steps)], [6, 5])
        counted = st.Group(by=("word",), aggregates=(Aggregate(name="n", function="count"),))
        steps = (
            counted,
            st.Sort(keys=(SortKey(column="n", descending=True),)),
            st.Limit(rows=3),
            st.Pick(columns=(Picked(column="word", name="word"),)),
            st.Keep(condition=ex.Compare(op="!=", left=ref("word"), right=of("y"))),
        )
        self.assertEqual([r[0] for r in self.rows("rows", *steps)], ["x", "z"])

    def test_what_does_not_fit_is_refused_with_the_step_and_the_fix(self) -> None:
        month = SortKey(column="month")
        cases: list[tuple[Step, str]] = [
            (st.Limit(rows=3), "put a sort before the limit"),
            (st.Window(name="w", function="moving_average", column="n", order=(month,)), "need the number of rows"),
            (
                st.Window(name="w", function="lag", column="n", order=(SortKey(column="n"),), unit="year"),
                "one date to go along",
            ),
            (st.Join(other=Plan(steps=(Take(table="rates"),))), "name the columns that must be equal"),
            (st.Fill(column="n", unit="month"), "needs the first day of each"),
            (st.Derive(name="v", expression=ex.Extract(value=ref("word"), pattern="(?=a)")), "not every engine knows"),
            (st.Derive(name="v", expression=ex.FirstKnown(items=(ref("n"), ref("word")))), "must be of one type"),
            (
                st.Keep(condition=ex.Compare(op="=", left=ref("month"), right=day("31.3.2024"))),
                "dates are written 2026-03-31",
            ),
            (st.Group(aggregates=(Aggregate(name="s", function="share"),)), "the condition they meet"),
            (
                st.Pivot(
                    by=("kind",),
                    column="word",
                    into=(st.PivotColumn(value=of("x"), name="x"),),
                    aggregate=Aggregate(name="s", function="share", where=ex.IsMissing(value=ref("n"))),
                ),
                "cross a count",
            ),
        ]
        for step, words in cases:
            with self.subTest(words), self.assertRaises(PlanError) as caught:
                schema_of(Plan(steps=(Take(table="rows"), step)), self.opened.catalogue)
            self.assertIn(words, str(caught.exception))
            self.assertTrue(str(caught.exception).startswith("step 2: "))
