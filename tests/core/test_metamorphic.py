"""What must hold between answers, whatever each of them is."""

from __future__ import annotations

import datetime as dt
import itertools
import random
import re
import unittest
import zlib
from decimal import Decimal

from hypothesis import HealthCheck, given, settings
from hypothesis.strategies import randoms

from gumption.core.evaluate.run import work
from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Value
from gumption.core.plan.expressions import Aggregate, AllOf, AnyOf, Expression, Negated
from gumption.core.plan.steps import Group, Keep, Plan, Take
from gumption.core.plan.typing import schema_of
from gumption.core.reading.rules import FAMILIES
from gumption.engines.answering import Answerer
from tests.core.random_plans import Maker, tables
from tests.support import DEMO_DAY, demo, tables_for

COUNT = Group(aggregates=(Aggregate(name="n", function="count"),))
FACTS = Plan(steps=(Take(table="facts"),))
_SAID = re.compile(r"\b(total|average|mean|highest|lowest|median|sum|max|min|overall)\b")


class Conditions(unittest.TestCase):
    """Over random conditions, by both workings."""

    answerer: Answerer
    catalogue: Catalogue

    @classmethod
    def setUpClass(cls) -> None:
        opened = tables_for(cls, tables(random.Random(3), 180))
        cls.answerer, cls.catalogue = opened.answerer, opened.catalogue

    def counted(self, *conditions: Expression) -> int:
        plan = FACTS.then(*(Keep(condition=c) for c in conditions), COUNT)
        rows = work(plan, self.answerer.engine.column, self.answerer.sizes).rows
        self.assertEqual(rows, self.answerer.rows(plan)[1])
        (number,) = rows[0]
        assert isinstance(number, int)
        return number

    @settings(max_examples=60, deadline=None, derandomize=True, database=None, suppress_health_check=[*HealthCheck])
    @given(randoms(use_true_random=False))
    def test_two_conditions(self, chance: random.Random) -> None:
        maker, schema = Maker(chance, self.catalogue), schema_of(FACTS, self.catalogue)
        a, b = maker.condition(schema), maker.condition(schema)
        try:
            one, other, both = self.counted(a), self.counted(b), self.counted(a, b)
        except OverflowError:
            return
        either = self.counted(AnyOf(items=(a, b)))
        self.assertGreaterEqual(either, max(one, other))
        self.assertEqual(one + other, both + either)
        self.assertEqual(both, self.counted(b, a))
        self.assertEqual(both, self.counted(AllOf(items=(a, b))))
        self.assertEqual(self.counted(), one + self.counted(Negated(item=a)))


def figure(*questions: str) -> Value:
    """The one figure of the last of some questions of one conversation."""
    rows = answer(*questions)
    assert len(rows) == 1 and len(rows[0]) == 1, (questions, rows[:3])
    return rows[0][0]


def answer(*questions: str) -> list[tuple[Value, ...]]:
    opened, reader = demo()
    reading = None
    for question in questions:
        reading = reader.read(question, DEMO_DAY, reading).readings[0]
    assert reading is not None
    return opened.answerer.rows(reading.plan)[1]


class Questions(unittest.TestCase):
    """Over what is asked of the demo's tables."""

    def test_one_or_the_other_is_at_least_the_one(self) -> None:
        for what, (one, other) in itertools.product(
            ("how many visits for {}", "total income of {}", "how many {} are there"),
            itertools.combinations(("dogs", "cats", "rabbits"), 2),
        ):
            with self.subTest(what=what, one=one, other=other):
                alone = [figure(what.format(x)) for x in (one, other)]
                self.assertEqual(figure(what.format(f"{one} or {other}")), sum(map(Decimal, map(str, alone))))

    def test_a_sign_turns_a_comparison_round(self) -> None:
        visits = demo()[0].catalogue.table("visits")
        for column, bound in (("fee_net", 50), ("wait_min", 20), ("rating", 3), ("cost", 30)):
            whole, measure = visits.rows - visits.column(column).missing, column.partition("_")[0]
            for over, not_over in (("over", "at most"), ("at least", "less than"), (">", "<="), (">=", "<")):
                with self.subTest(measure=measure, over=over):
                    parts = [figure(f"how many visits with a {measure} {sign} {bound}") for sign in (over, not_over)]
                    self.assertEqual(sum(parts), whole)  # type: ignore[arg-type]

    def test_the_order_of_clauses_changes_nothing(self) -> None:
        clauses = ("for dogs", "in 2025", "in the North", "with a fee over 50")
        for subject in ("how many visits", "average rating of visits", "total income"):
            for chosen in itertools.combinations(clauses, 2):
                with self.subTest(subject=subject, chosen=chosen):
                    told = {figure(f"{subject} {' '.join(order)}") for order in itertools.permutations(chosen)}
                    self.assertEqual(len(told), 1)

    def test_to_say_a_total_that_is_usual_changes_nothing(self) -> None:
        """In the examples of an eighth of the rules that have a place for a measure: by their words, so that no new rule moves them."""
        _, reader = demo()

        def words(question: str) -> str:
            read = reader.read(question, DEMO_DAY)
            return read.readings[0].words if read.readings else read.problem

        rules = (rule for rules in FAMILIES.values() for rule in rules if "E" in re.split(r"[ |?]+", rule.pattern))
        examples = [e for rule in rules for e in rule.examples[:1] if re.search(r"\bfee\b", e) and not _SAID.search(e)]
        asked = [e for e in examples if zlib.crc32(e.encode()) % 8 == 0]
        other = [e for e in asked if words(e) != words(e.replace("fee", "total fee", 1))]
        # A few are of single rows, of which there is no total.
        self.assertLess(len(other), len(asked) / 6, other)

    def test_a_total_is_the_sum_of_its_groups(self) -> None:
        for measure in ("number of visits", "total income", "total cost"):
            for condition in ("", " in 2025", " for dogs"):
                whole = figure(measure + condition)
                for group in ("clinic", "region", "reason", "species", "vet"):
                    with self.subTest(measure=measure, condition=condition, group=group):
                        groups = answer(f"{measure} by {group}{condition}")
                        parts = [next(v for v in reversed(row) if not isinstance(v, (str, dt.date))) for row in groups]
                        self.assertEqual(sum(Decimal(str(v)) for v in parts if v is not None), Decimal(str(whole)))

    def test_undoing_a_condition_restores_the_count(self) -> None:
        for condition in ("only dogs", "only in 2025", "only the North", "only those with a fee over 50"):
            with self.subTest(condition):
                self.assertLess(figure("how many visits", condition), figure("how many visits"))  # type: ignore[operator]
                self.assertEqual(figure("how many visits", condition, "undo that"), figure("how many visits"))
