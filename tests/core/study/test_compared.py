"""Whether groups differ, and how two numbers go together: held against SciPy and a published example, and asked in words."""

from __future__ import annotations

import datetime as dt
import unittest

import numpy as np
from scipy import stats

from gumption.core.model.types import Role, Type
from gumption.core.plan.fields import Field
from gumption.core.plan.steps import Plan, Take
from gumption.core.study.compared import (
    Compared,
    Group,
    by_means,
    by_ranks,
    compared_finding,
    groups_of,
    size_of,
    test_of,
)
from gumption.core.study.related import Related, related_checks, related_method, relation_of
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, demo, tables_for

PLAN = Plan(steps=(Take(table="rows"),))


class Tests(unittest.TestCase):
    def groups(self, samples: list[np.ndarray]) -> list[Group]:
        return [Group(str(i), len(s), float(s.mean()), float(s.std(ddof=1))) for i, s in enumerate(samples)]

    def table(self, samples: list[np.ndarray]) -> np.ndarray:
        values = np.unique(np.concatenate(samples))
        return np.array([[np.sum(s == v) for v in values] for s in samples], dtype=np.float64)

    def test_they_are_scipys(self) -> None:
        for seed in range(40):
            chance = np.random.default_rng(seed)
            samples = [
                np.round(chance.normal(5 + 0.3 * i, 1 + i, int(chance.integers(12, 60))))
                for i in range(int(chance.integers(2, 6)))
            ]
            found, ranked = by_means(self.groups(samples)), by_ranks(self.table(samples), "")
            if len(samples) == 2:
                self.assertAlmostEqual(found.chance, float(stats.ttest_ind(*samples, equal_var=False).pvalue), 9)
                wanted = stats.mannwhitneyu(*samples, method="asymptotic").pvalue
            else:
                from statsmodels.stats.oneway import anova_oneway

                welch = anova_oneway(samples, use_var="unequal", welch_correction=True)
                self.assertAlmostEqual(found.chance, float(welch.pvalue), 9)
                wanted = stats.kruskal(*samples).pvalue
            self.assertAlmostEqual(ranked.chance, float(wanted), 9)

    def test_a_published_example(self) -> None:
        """Student's sleep data (1908), as unpaired groups: Welch's t = -1.8608, p = 0.07939, interval -3.3655 to 0.2055."""
        one = np.array([0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0.0, 2.0])
        other = np.array([1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4])
        found = by_means(self.groups([one, other]))
        assert found.interval is not None
        self.assertEqual(
            [round(x, 4) for x in (found.statistic, found.chance, *found.interval)], [-1.8608, 0.0794, -3.3655, 0.2055]
        )

    def test_two_columns_of_kinds(self) -> None:
        """Fisher's hair and eyes of the children of Caithness (1940): chi-squared 1240.04, Cramér's V 0.277."""
        hair = ("fair", "red", "medium", "dark", "black")
        eyes = {
            "blue": (326, 38, 241, 110, 3),
            "light": (688, 116, 584, 188, 4),
            "medium": (343, 84, 909, 412, 26),
            "dark": (98, 48, 403, 681, 85),
        }
        rows = [(eye, h, n) for eye, counts in eyes.items() for h, n in zip(hair, counts, strict=True)]
        columns = ("eyes", "hair", "children")
        schema = {
            "eyes": Field(Type.TEXT, Role.CATEGORY),
            "hair": Field(Type.TEXT, Role.CATEGORY),
            "children": Field(Type.INTEGER, Role.QUANTITY),
        }
        study = Compared("tied", "the number of children", "eyes and hair", False)
        groups = groups_of(study, schema, columns, rows)
        found = test_of(study, groups, None)
        assert found is not None
        self.assertEqual([round(found.statistic, 2), round(found.explained**0.5, 3)], [1240.04, 0.277])
        told = compared_finding(study, groups, found, schema["children"])
        self.assertIn("dark with dark: 681 where 340 were to be expected", told)
        alike = groups_of(study, schema, columns, [(a, b, 50) for a in ("x", "y") for b in ("p", "q")])
        chance = test_of(study, alike, None)
        self.assertIn("no clear tie", compared_finding(study, alike, chance, schema["children"]))

    def test_sizes(self) -> None:
        self.assertEqual([size_of(x) for x in (0.005, 0.03, 0.1, 0.3)], ["negligible", "small", "medium", "large"])

    def test_a_relation(self) -> None:
        """Anscombe's first set (1973): r = 0.8164, the line 3.0001 + 0.5001 x."""
        x = [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5]
        y = [8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68]
        rows = Related("x", "y", PLAN)
        found = relation_of(rows, [(a, b, 1) for a, b in zip(x, y, strict=True)])
        assert found is not None
        self.assertIn("from 3 at nought", " ".join(related_method(rows, found)))
        large = relation_of(rows, [(a, 40_000 * b - 90_000, 1) for a, b in zip(x, y, strict=True)])
        self.assertIn("+20,000 (standard error 4,720), from 30,000 at", " ".join(related_method(rows, large)))
        told = (found.pearson, found.intercept, found.slope, found.spearman)
        self.assertEqual([round(t, 4) for t in told], [0.8164, 3.0001, 0.5001, 0.8182])
        self.assertTrue(found.low < found.pearson < found.high)
        self.assertIsNone(relation_of(rows, [(1, 2, 5), (1, 3, 2)]), "one of them does not vary")

    def test_what_rises_with_the_years_does_not_go_together_by_that(self) -> None:
        chance = np.random.default_rng(5)
        months = [dt.date(2020 + n // 12, n % 12 + 1, 1) for n in range(48)]
        wobbles = chance.normal(0, 4, (2, 48))
        rows = [(m, n + e, 2.0 * n + f) for n, (m, e, f) in enumerate(zip(months, *wobbles, strict=True))]
        study = Related("one", "other", PLAN, "month", in_time=True)
        # The order of the rows says nothing: periods follow on each other by themselves.
        found = relation_of(study, rows[::-1])
        assert found is not None and found.steps is not None
        steps = stats.pearsonr(np.diff([r[1] for r in rows]), np.diff([r[2] for r in rows])).statistic
        self.assertAlmostEqual(found.steps, steps)
        self.assertGreater(found.pearson, 0.85)
        self.assertIn("by that alone", " ".join(c.sentence for c in related_checks(study, found)))


class Asking(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        opened, cls.reader = demo()
        cls.answerer = opened.answerer

    def test_in_many_words(self) -> None:
        for question, figure, groups in (
            ("is there a difference in rating between clinics", "the average rating", "clinic"),
            ("does the no-show rate differ by clinic", "the share of visits where attended is no", "clinic"),
            ("is the fee significantly different between dogs and cats", "the average fee net", "species"),
            ("does wait depend on species", "the average wait min", "species"),
            (
                "is the difference in rating between Millbeck and Harrow Street significant",
                "the average rating",
                "clinic",
            ),
            ("do visits vary by weekday", "the number of visits", "weekday"),
        ):
            with self.subTest(question):
                study = chosen(self.reader.read(question, DEMO_DAY), self.answerer).readings[0].study
                assert isinstance(study, Compared)
                self.assertEqual((study.figure, study.groups), (figure, groups))

    def test_what_is_told(self) -> None:
        for question, told in (
            ("is there a difference in rating between clinics", "does not clearly differ by clinic"),
            ("do visits vary by weekday", "differs by weekday, a small difference"),
            ("correlation between wait and rating", "go together weakly (correlation −0.21"),
            ("correlation between number of visits and income by month", "go together strongly (correlation 0.98"),
            ("is there a link between average wait and average rating by clinic", "cannot be told from 9 clinics"),
        ):
            with self.subTest(question):
                first = chosen(self.reader.read(question, DEMO_DAY), self.answerer).readings[0]
                answered = self.answerer.answer(first.plan, DEMO_DAY, study=first.study)
                self.assertIn(told, answered.finding)
                assert answered.studied is not None
                self.assertTrue(answered.studied.method)

    def test_small_groups_go_by_ranks_and_few_shares_exactly(self) -> None:
        rows = "".join(
            f"{'A' if i < 9 else 'B'},{i * 1.5 + i % 3},{'yes' if i % 4 == 0 or i > 12 else 'no'}\n" for i in range(18)
        )
        opened = tables_for(type(self), {"trials.csv": "variety,yield_kg,sprouted\n" + rows})
        from gumption.core.reading.read import QuestionReader

        reader = QuestionReader(opened.catalogue)
        for question, test in (
            ("is there a difference in yield between varieties", "Mann-Whitney"),
            ("does the share of sprouted trials differ by variety", "Fisher"),
        ):
            with self.subTest(question):
                first = reader.read(question, DEMO_DAY).readings[0]
                answered = opened.answerer.answer(first.plan, DEMO_DAY, study=first.study)
                self.assertIn(test, answered.finding)

    def test_a_correlation_keeps_its_number(self) -> None:
        first = chosen(self.reader.read("correlation between fee and cost", DEMO_DAY), self.answerer).readings[0]
        self.assertIsInstance(first.study, Related)
        answered = self.answerer.answer(first.plan, DEMO_DAY, study=first.study)
        self.assertEqual(len(answered.rows), 1)
        self.assertAlmostEqual(float(str(answered.rows[0][0])), 0.9543, 4)
