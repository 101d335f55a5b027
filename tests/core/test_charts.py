"""Cross tables, and charts that were asked for: drawn where the answer allows it, and said where it does not."""

from __future__ import annotations

import unittest

import vl_convert

from gumption.core.model.wish import ChartWish
from gumption.core.present.marks import Spec
from gumption.core.reading.doubts import doubt_of
from gumption.core.reading.read import Reading
from gumption.engines.answering import Answered
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, demo


def asked(*questions: str) -> tuple[Reading, Answered]:
    """The last of some questions of one conversation."""
    opened, reader = demo()
    reading: Reading | None = None
    for question in questions:
        reading = reader.read(question, DEMO_DAY, reading).readings[0]
    assert reading is not None
    return reading, opened.answerer.answer(reading.plan, DEMO_DAY, wish=reading.ask.chart)


def marks(spec: Spec | None) -> list[str]:
    """The kinds of mark in a chart, which must be one that can be drawn."""
    if spec is None:
        return []
    vl_convert.vegalite_to_svg({**spec, "width": 400} if spec["width"] == "container" else spec)
    layers = spec.get("layer", [spec])
    return [layer["mark"]["type"] for layer in layers]


class CrossTables(unittest.TestCase):
    def test_one_group_down_and_one_across(self) -> None:
        cases = {
            "cross table of species and region": ("species", ["East", "North", "South", "West"]),
            "visits by clinic, with the years as columns": ("clinic", ["2024", "2025", "2026"]),
            "region across the top, species down the side": ("species", ["East", "North", "South", "West"]),
            "average rating per clinic with one column per year": ("clinic", ["2024", "2025", "2026"]),
        }
        for question, (down, across) in cases.items():
            with self.subTest(question):
                reading, answer = asked(question)
                self.assertTrue(reading.ask.across)
                self.assertEqual([*answer.columns], [down, *across])

    def test_cells_are_those_of_the_long_table(self) -> None:
        _, crossed = asked("visits by species and year as a cross table")
        _, long = asked("number of visits by species and year")
        cells = {(row[0], int(y)): n for row in crossed.rows for y, n in zip(crossed.columns[1:], row[1:], strict=True)}
        self.assertEqual({k: n for k, n in cells.items() if n}, {(a, b): n for a, b, n in long.rows})

    def test_totals(self) -> None:
        _, answer = asked("visits by species and region as a cross table with totals")
        *rows, last = answer.rows
        self.assertEqual(last[-2], sum(row[-2] for row in rows))  # type: ignore[misc]
        self.assertTrue(all(row[-2] == sum(row[1:-2]) for row in answer.rows))  # type: ignore[arg-type]

    def test_what_follows(self) -> None:
        reading, answer = asked("visits per clinic", "with the years as columns", "only dogs")
        self.assertTrue(reading.ask.across)
        self.assertEqual(answer.columns, ("clinic", "2024", "2025", "2026"))

    def test_too_many_columns_stay_rows(self) -> None:
        _, answer = asked("cross table of species and vets")
        self.assertEqual(len(answer.columns), 3)


class Charts(unittest.TestCase):
    def test_kinds_that_were_asked_for(self) -> None:
        cases = {
            "visits by species as a pie chart": "arc",
            "visits by month in 2025 as columns": "bar",
            "area chart of visits by month": "area",
            "scatter plot of fee against cost": "point",
            "heat map of visits by weekday and clinic": "rect",
            "box plot of waiting time by species": "rule",
            "histogram of fee": "bar",
            "visits by clinic and year as a line": "line",
            "visits by clinic, no chart": None,
        }
        for question, first in cases.items():
            with self.subTest(question):
                drawn = marks(asked(question)[1].chart)
                self.assertEqual(drawn[:1], [first] if first else [])

    def test_a_time_axis_has_a_tick_a_period_with_its_name(self) -> None:
        spec = asked("income by month in 2025")[1].chart
        assert spec is not None
        svg = vl_convert.vegalite_to_svg({**spec, "width": 700})
        self.assertEqual([m for m in ("Jan", "Mar", "Nov", "2025") if f">{m}</" not in svg], [])
        self.assertNotIn("Mar 15", svg)
        years = asked("income by year")[1].chart
        assert years is not None
        self.assertIn(">2025<", vl_convert.vegalite_to_svg({**years, "width": 700}))

    def test_two_groups_at_once(self) -> None:
        spec = asked("visits by month and clinic since 2024")[1].chart
        assert spec is not None
        self.assertIn("facet", spec["encoding"])
        self.assertEqual(marks(asked("number of visits by clinic and reason")[1].chart), ["rect", "text"])
        self.assertEqual(marks(asked("number of visits by owner and pet")[1].chart), [])

    def test_looks(self) -> None:
        _, trend = asked("visits by month with a trend line")
        self.assertEqual(marks(trend.chart), ["line", "line"])
        _, average = asked("total fee by clinic as a column chart with the average drawn in")
        self.assertIn("rule", marks(average.chart))
        _, stacked = asked("visits by clinic and species, stacked bars")
        assert stacked.chart is not None
        self.assertEqual(stacked.chart["layer"][0]["encoding"]["x"]["stack"], "zero")
        _, panels = asked("visits per month by region, small multiples")
        assert panels.chart is not None
        self.assertEqual(marks(panels.chart), ["line"])
        self.assertIn("facet", panels.chart["encoding"])
        _, axes = asked("fee and number of visits by month with two axes")
        assert axes.chart is not None
        self.assertEqual(axes.chart["resolve"], {"scale": {"y": "independent"}})

    def test_two_figures_over_time_share_an_axis_only_where_they_may(self) -> None:
        _, apart = asked("number of visits and average rating by month in 2025")
        assert apart.chart is not None
        self.assertEqual(apart.chart["resolve"], {"scale": {"y": "independent"}})
        self.assertEqual(marks(apart.chart), ["line", "line"])
        _, alike = asked("total fee and total cost by month in 2025")
        _, of_one = asked("lowest and highest wait by month in 2025")
        for answered in (alike, of_one):
            assert answered.chart is not None
            self.assertNotIn("resolve", answered.chart)
            self.assertEqual(len({row["series"] for row in answered.chart["data"]["values"]}), 2)

    def test_what_cannot_be_drawn_is_said(self) -> None:
        cases = {
            "average rating by clinic as a pie": "A pie shows parts of a whole, which average rating is not; bars instead.",
            "visits by clinic on a map": "There is no map here; bars instead.",
            "visits by clinic, stacked": "Not drawn here: stacked.",
        }
        for question, note in cases.items():
            with self.subTest(question):
                _, answer = asked(question)
                self.assertEqual(answer.chart_note, note)
                self.assertEqual(marks(answer.chart)[0], "bar")

    def test_a_further_wish_takes_the_place_of_what_it_rules_out(self) -> None:
        wish = ChartWish.of("bar stacked labels upright")
        self.assertEqual(wish.beside(ChartWish.of("lying")), ChartWish.of("bar stacked labels lying"))
        self.assertEqual(wish.beside(ChartWish.of("pie")), ChartWish.of("pie labels"))
        self.assertEqual(wish.beside(ChartWish.of("table")), ChartWish("table"))

    def test_wishes_in_a_conversation(self) -> None:
        reading, answer = asked("visits by month in 2025", "split by species, stacked", "as an area", "small multiples")
        self.assertEqual(reading.ask.chart, ChartWish.of("area panels"))
        self.assertEqual(len(reading.ask.groups), 2)
        self.assertEqual(marks(answer.chart), ["area"])


class PickedOut(unittest.TestCase):
    def test_no_line_leads_over_the_periods_between(self) -> None:
        _, fell = asked("months in which income fell")
        self.assertIn("bar", marks(fell.chart))
        _, every = asked("income by month")
        self.assertIn("line", marks(every.chart))

    def test_how_far_each_is_from_the_average_stands_first(self) -> None:
        _, told = asked("difference between each clinic's income and the average")
        self.assertIn("highest difference from average", told.finding)


class WhatMarksAreOf(unittest.TestCase):
    def drawn(self, question: str, wish: str) -> tuple[list[dict[str, object]], Answered]:
        """The rows of a chart's data, and the answer that it is drawn of."""
        opened, _ = demo()
        _, first = asked(question)
        answer = opened.answerer.answer(first.plan, DEMO_DAY, wish=ChartWish.of(wish))
        assert answer.chart is not None
        marks(answer.chart)
        return answer.chart["data"]["values"], answer

    def test_each_mark_says_which_row_of_the_answer_it_is_of(self) -> None:
        for question, wish, told in (
            ("visits by species", "bar", "label"),
            ("visits by species", "pie", "label"),
            ("visits by region and species", "bar", "label"),
            ("visits by region and species", "heat", "down"),
            ("income by month", "line", "at"),
            ("average fee and wait by clinic", "dots", "label"),
        ):
            with self.subTest(question=question, wish=wish):
                values, answer = self.drawn(question, wish)
                for value in values:
                    if "row" not in value:
                        self.assertIn("the other", str(value["label"]))
                        continue
                    row = ["missing" if v is None else str(v) for v in answer.rows[value["row"]]]  # type: ignore[call-overload]
                    named = str(value[told])
                    self.assertTrue(named in row or named[-4:] in row[0], f"{value} is not of {row}")

    def test_of_a_cross_table_its_cell(self) -> None:
        values, answer = self.drawn("visits by species and region as a cross table with totals", "heat")
        for value in values:
            place = answer.columns.index(str(value["column"]))
            self.assertEqual(value["value"], answer.rows[value["row"]][place])  # type: ignore[call-overload]
            self.assertEqual(value["across"], value["column"])

    def test_columns_are_put_where_a_person_wants_them(self) -> None:
        opened, reader = demo()
        question = "average fee, average weight and number of visits by breed and species"
        plan = reader.read(question, DEMO_DAY).readings[0].plan

        def drawn(wish: str) -> Spec:
            spec = opened.answerer.answer(plan, DEMO_DAY, wish=ChartWish.of(wish)).chart
            self.assertTrue(marks(spec))
            assert spec is not None
            return spec

        columns = list(opened.answerer.answer(plan, DEMO_DAY).columns)
        weight, count, kind = (columns.index(n) for n in ("average_weight_kg", "visits", "species"))
        plain, chosen = drawn("dots"), drawn(f"dots across={weight} measure={count} colour={kind}")
        across, up = (chosen["layer"][0]["encoding"][axis]["axis"]["title"] for axis in "xy")
        self.assertEqual((across, up), ("average weight kg", "visits"))
        self.assertNotEqual(plain["layer"][0]["encoding"]["x"]["axis"]["title"], across)
        species = {d["series"] for d in chosen["data"]["values"]}
        self.assertLessEqual({"Dog", "Cat", "Bird"}, species)
        bars = drawn(f"bar measure={count}")
        self.assertIn("visits", str(bars["layer"][0]["encoding"] if "layer" in bars else bars["encoding"]))
        self.assertEqual(drawn("dots measure=99"), plain, "a column that is not there changes nothing")

    def test_colour_is_of_the_group_that_was_chosen(self) -> None:
        opened, reader = demo()
        plan = reader.read("number of visits by region and species", DEMO_DAY).readings[0].plan
        told = {
            colour: {d["series"] for d in spec["data"]["values"]}
            for colour in (0, 1)
            if (spec := opened.answerer.answer(plan, DEMO_DAY, wish=ChartWish.of(f"bar colour={colour}")).chart)
        }
        self.assertIn("North", told[0])
        self.assertIn("Dog", told[1])

    def test_the_largest_first_and_the_rest_as_one(self) -> None:
        values, answer = self.drawn("number of visits by vet", "bar ordered rest")
        sizes = [v["value"] for v in values]
        self.assertEqual(sizes[:-1], sorted(sizes[:-1], reverse=True))  # type: ignore[type-var]
        self.assertEqual(values[-1]["label"], f"the other {len(answer.rows) - len(values) + 1}")
        self.assertEqual(sum(sizes), sum(row[-1] for row in answer.rows))  # type: ignore[arg-type, misc]
        _, answer = self.drawn("average weight by breed", "bar rest")
        self.assertIn("the rest as one", answer.chart_note)

    def test_one_bar_each_by_its_name_and_shares_in_per_cent(self) -> None:
        reading, answer = asked("number of visits by clinic id")
        self.assertEqual(answer.columns[:2], ("clinic_id", "clinic"), reading.words)
        values = answer.chart["data"]["values"] if answer.chart else []
        self.assertEqual([v["label"] for v in values], [row[1] for row in answer.rows])
        _, answer = asked("share of visits that are no-shows by month")
        self.assertIn("~%", str(answer.chart))


class Dots(unittest.TestCase):
    def test_dots_of_all_rows_are_no_sign_of_a_slip(self) -> None:
        opened, reader = demo()
        for question, told in (
            ("scatter plot of fee net against wait min", "the visits with fee net and wait min, as dots"),
            (
                "scatter plot of fee net against wait min, colour by reason, size by rating",
                "the visits with fee net, wait min, reason and rating, as dots",
            ),
        ):
            with self.subTest(question):
                found = chosen(reader.read(question, DEMO_DAY), opened.answerer)
                doubt = doubt_of(found)
                self.assertEqual(found.readings[0].words, told)
                self.assertFalse(doubt is not None and doubt.loud, doubt)

    def test_another_figure_by_another_group_is_drawn_as_it_fits(self) -> None:
        dots = "scatter plot of fee net against wait min"
        self.assertIsNone(asked(dots, "number of visits by clinic")[0].ask.chart)
        self.assertIsNotNone(asked("fee net by clinic as a pie", "by species")[0].ask.chart)
