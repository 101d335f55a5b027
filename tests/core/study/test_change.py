"""What moved a figure: pieces add up to the cent, the planted cause is found, and it is asked for in many ways."""

from __future__ import annotations

import itertools
import random
import unittest
from decimal import Decimal

from gumption.core.model.types import Type
from gumption.core.plan.expressions import Aggregate, ColumnRef, Compare, Constant
from gumption.core.plan.steps import Group, Keep, Plan, Take
from gumption.core.plan.typing import schema_of, schemas
from gumption.core.present.answer import Answer
from gumption.core.study.change import Change, ChangeKind, Side, Way, columns_of_change, pieces_plan
from gumption.core.study.studied import studied
from gumption.engines.answering import Answered
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, demo, tables_for

CASES = 1_000


def seeded() -> str:
    """Rows of a thousand cases, each with its own kinds, some of which stand on one side alone."""
    chance = random.Random(20261129)
    lines = ["case,side,kind,amount"]
    for case in range(CASES):
        kinds = "ABCDEFG"[: chance.randint(1, 7)]
        for _ in range(chance.randint(2, 30)):
            amount = f"{chance.choice([-1, 1, 1, 1]) * chance.randrange(1, 500_000) / 100:.2f}"
            lines.append(f"{case},{chance.choice(['before', 'after'])},{chance.choice(kinds)},{amount}")
    return "\n".join(lines)


class Adding(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.opened = tables_for(cls, {"cases.csv": seeded()})

    def change(self, case: int, kind: ChangeKind) -> Change:
        def on(side: str, name: str, function: str) -> Aggregate:
            where = Compare(op="=", left=ColumnRef(name="side"), right=Constant(type=Type.TEXT, value=side))
            column = None if function == "count" else "amount"
            return Aggregate(name=name, function=function, column=column, where=where)  # type: ignore[arg-type]

        here = Compare(op="=", left=ColumnRef(name="case"), right=Constant(type=Type.INTEGER, value=case))
        sides = ("before", "after")
        figures = [] if kind == "count" else [on(s, f"total_{s}", "sum") for s in sides]
        counts = [on(s, f"count_{s}", "count") for s in sides]
        grouped = Plan(
            steps=(
                Take(table="cases"),
                Keep(condition=here),
                Group(by=("kind",), aggregates=(*figures, *counts)),
            )
        )
        one, other = Side("before"), Side("after")
        columns = columns_of_change(kind, "rows", one, other)
        return Change(kind, "the total amount", "rows", one, other, columns, (Way(("kind",), grouped),))

    def test_pieces_add_up_in_a_thousand_cases(self) -> None:
        catalogue, answerer = self.opened.catalogue, self.opened.answerer
        whole = answerer.rows(Plan(steps=(Take(table="cases"),)))[1]
        rows: dict[int, list[tuple[str, Decimal]]] = {}
        for case, side, _, amount in whole:
            rows.setdefault(int(str(case)), []).append((str(side), Decimal(str(amount))))
        for case in range(CASES):
            kinds: tuple[ChangeKind, ...] = ("sum", "ratio", "count")
            kind = kinds[case % 3]
            change = self.change(case, kind)
            plan = pieces_plan(change, schema_of(change.way.grouped, catalogue))
            found = answerer.glance(plan, 100)
            named = list(schema_of(plan, catalogue))
            total = {n: [row[i] for row in found] for i, n in enumerate(named)}
            sides = {s: [a for side, a in rows[case] if side == s] for s in ("before", "after")}
            moved = sum(Decimal(str(v)) for v in total["change"])
            if kind == "count":
                self.assertEqual(moved, len(sides["after"]) - len(sides["before"]))
                continue
            parts = (total["volume"], total["mix"], total["rate"]) if kind == "sum" else (total["mix"], total["rate"])
            for piece, *split in zip(total["change"], *parts, strict=True):
                self.assertAlmostEqual(float(str(piece)), sum(float(str(p or 0)) for p in split), 6)
            if kind == "sum":
                self.assertEqual(moved, sum(sides["after"]) - sum(sides["before"]), "to the cent")
            elif sides["before"] and sides["after"]:
                means = [sum(sides[s]) / len(sides[s]) for s in ("before", "after")]
                self.assertAlmostEqual(float(moved), float(means[1] - means[0]), 6)

    def test_volume_mix_and_rate_are_told_apart(self) -> None:
        """Worked by hand: 10 rows at 4 and 10 at 8 before; 12 at 4 and 14 at 9 after."""
        text = "side,kind,amount\n" + "".join(
            f"{side},{kind},{amount}.00\n" * rows
            for side, kind, amount, rows in [
                ("before", "A", 4, 10),
                ("before", "B", 8, 10),
                ("after", "A", 4, 12),
                ("after", "B", 9, 14),
            ]
        )
        opened = tables_for(type(self), {"sales.csv": text})
        change = self.change(0, "sum")
        grouped = Plan(steps=(Take(table="sales"), change.way.grouped.steps[-1]))
        change = change.taken(Way(("kind",), grouped))
        plan = pieces_plan(change, schema_of(grouped, opened.catalogue))
        columns, rows = opened.answerer.rows(plan)
        by_kind = {row[0]: dict(zip(columns[1:], (float(str(v)) for v in row[1:]), strict=True)) for row in rows}
        # The mean of all before is 6: two more rows of A are 12 of volume, less 4 as A is cheaper than that.
        self.assertEqual([by_kind["A"][c] for c in ("change", "volume", "mix", "rate")], [8, 12, -4, 0])
        self.assertEqual([by_kind["B"][c] for c in ("change", "volume", "mix", "rate")], [46, 24, 8, 14])
        answer = Answer(plan, tuple(schemas(plan, opened.catalogue)), columns, rows, len(rows))
        found = studied(change, answer, DEMO_DAY, lambda _: None)
        assert found is not None
        self.assertEqual({c.weight for c in found.checks}, {"holds"})


class Asking(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        opened, cls.reader = demo()
        cls.answerer = opened.answerer

    def read(self, question: str, earlier: object = None) -> Change:
        found = chosen(self.reader.read(question, DEMO_DAY, earlier), self.answerer)  # type: ignore[arg-type]
        self.assertEqual(found.status, "answered", f"{question}: {found.problem}")
        study = found.readings[0].study
        self.assertIsInstance(study, Change, question)
        assert isinstance(study, Change)
        return study

    def test_in_many_words(self) -> None:
        for question, figure, before, after in (
            ("why did income fall in March 2025", "the total fee net", "February 2025", "March 2025"),
            (
                "what drove the drop in income from January to February 2026",
                "the total fee net",
                "January 2026",
                "February 2026",
            ),
            ("why are there more visits in 2025 than in 2024", "the number of visits", "2024", "2025"),
            ("what changed between 2024 and 2025", "the number of visits", "2024", "2025"),
            ("what's behind the rise in cost in 2025", "the total cost", "2024", "2025"),
            (
                "explain the difference in visits between Millbeck and Harrow Street",
                "the number of visits",
                "Millbeck",
                "Harrow Street",
            ),
            ("why is the average fee lower at Millbeck", "the average fee net", "the others", "Millbeck"),
            (
                "how come the average wait went up in Q1 2026",
                "the average wait min",
                "quarter 4 of 2025",
                "quarter 1 of 2026",
            ),
            ("why is income up this year", "the total fee net", "January to October 2025", "January to October 2026"),
            ("why were there so few visits in August", "the number of visits", "July 2026", "August 2026"),
        ):
            with self.subTest(question):
                study = self.read(question)
                self.assertEqual((study.figure, study.before.name, study.after.name), (figure, before, after))

    def test_the_bad_month_is_the_clinic_that_was_closed(self) -> None:
        found = self.answered("why did visits fall in February 2025")
        self.assertIn("Millbeck", found.finding)
        assert found.studied is not None and found.studied.chart is not None
        bars = found.studied.chart["data"]["values"]
        self.assertEqual((bars[0]["label"], bars[-1]["label"]), ("January\n2025", "February\n2025"))
        for one, other in itertools.pairwise(bars[1:-1]):
            self.assertAlmostEqual(one["to"], other["from"], 6, "a bridge has no gaps")
        self.assertAlmostEqual(bars[-2]["to"], bars[-1]["to"], 6)

    def test_what_did_not_happen_is_said(self) -> None:
        self.assertIn("did not fall: it rose", self.answered("why did income fall in March 2025").finding)

    def test_spans_of_different_length_and_of_another_way(self) -> None:
        first = chosen(self.reader.read("why did income rise in March 2026", DEMO_DAY), self.answerer).readings[0]
        other = self.read("by reason and clinic", first)
        self.assertEqual(other.way.called, ("reason", "clinic"))
        self.assertEqual(self.read("only dogs", first).before.name, "February 2026")
        answered = self.answerer.answer(first.plan, DEMO_DAY, study=first.study)
        said = [(c.weight, c.sentence) for c in answered.proof.checks if c.name == "periods as long"]
        self.assertEqual(said, [("caution", "March 2026 has 31 days, February 2026 28")])

    def test_a_median_is_not_taken_apart(self) -> None:
        found = self.reader.read("why did the median wait rise in 2025", DEMO_DAY)
        self.assertEqual(found.status, "declined")
        self.assertIn("median", found.problem)

    def answered(self, question: str) -> Answered:
        first = chosen(self.reader.read(question, DEMO_DAY), self.answerer).readings[0]
        return self.answerer.answer(first.plan, DEMO_DAY, study=first.study)

    def test_why_of_the_answer_before(self) -> None:
        for first, then, before, after in (
            ("income in March 2025", "why", "February 2025", "March 2025"),
            ("income 2024 vs 2025", "what's behind it", "2024", "2025"),
            ("average fee at Millbeck", "why is it lower", "the others", "Millbeck"),
            ("visits in Q1 2026", "why did it fall", "quarter 4 of 2025", "quarter 1 of 2026"),
            ("income by clinic in 2025", "why is Quarry Bank so low", "the others", "Quarry Bank"),
            ("income by month at Millbeck", "why was it lower in February 2025", "January 2025", "February 2025"),
        ):
            with self.subTest(then):
                earlier = chosen(self.reader.read(first, DEMO_DAY), self.answerer).readings[0]
                study = self.read(then, earlier)
                self.assertEqual((study.before.name, study.after.name), (before, after))
