"""Plans changed by hand: forms that say what a step does, edits that later steps follow, and what cannot be done."""

from __future__ import annotations

import json
import unittest
from collections.abc import Iterator

from gumption.core.editing.draft import Draft, History, columns_before, replaced
from gumption.core.editing.edits import AddStep, ChangeStep, Edit, Redo, RemoveStep, SwitchStep, Undo, edited, known_in
from gumption.core.editing.forms import Filled, Form, form_of, steps_of
from gumption.core.plan import steps as st
from gumption.core.plan.fields import PlanError
from gumption.core.plan.formula import parse_formula
from gumption.core.plan.formula_text import formula_text
from gumption.core.plan.steps import Plan, Step, Take, other_plan
from gumption.core.plan.typing import schema_of, schemas
from tests.support import DEMO, DEMO_DAY, demo

FORMULAS = (
    "fee_net - (cost - wait_min)",
    "round((fee_net - cost) / fee_net * 100, 1)",
    "visit_date >= date '2026-01-01' and not (reason in ('Check-up', 'o''clock') or missing(rating))",
    "case when wait_min > 30 then 'long' else 'short' end",
    "coalesce(rating, -1) between -3 and 2.5",
    "start_of_month(visit_date) = date '2026-03-01'",
    "days(visit_date, visit_date) + bin(wait_min, 15) ^ 2",
    "split_part(upper(reason), ' ', 1) || '!'",
)


def every_step(plan: Plan, outer: tuple[int, ...] = ()) -> Iterator[tuple[tuple[int, ...], Step]]:
    for place, step in enumerate(plan.steps):
        other = other_plan(step)
        if other is not None:
            yield from every_step(other, (*outer, place))
        yield (*outer, place), step


class Editing(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        opened, cls.reader = demo()
        cls.catalogue, cls.answerer = opened.catalogue, opened.answerer

    def plan(self, question: str) -> Plan:
        return self.reader.read(question, DEMO_DAY).readings[0].plan

    def history(self, question: str, *edits: Edit) -> History:
        history = History(drafts=(Draft(plan=self.plan(question)),))
        for edit in edits:
            history = edited(history, edit, self.catalogue)
        return history

    def place(self, history: History, kind: type[Step]) -> tuple[int, ...]:
        """Where the last step of a kind stands."""
        return next(
            (n,) for n in reversed(range(len(history.now.plan.steps))) if isinstance(history.now.plan.steps[n], kind)
        )

    def form(self, history: History, path: tuple[int, ...]) -> Form:
        step = history.now.plan.steps[path[0]]
        form = form_of(step, columns_before(history.now, path, self.catalogue), known_in(self.catalogue))
        assert form is not None
        return form

    def change(self, history: History, kind: type[Step], **changed: object) -> History:
        """The last step of a kind with other values in its form, or in the first of its rows."""
        path = self.place(history, kind)
        form = self.form(history, path)
        values = {**form.filled.values, **{k: v for k, v in changed.items() if k in form.filled.values}}
        rows = (
            [{**form.filled.rows[0], **{k: v for k, v in changed.items() if k not in values}}]
            if form.filled.rows
            else []
        )
        filled = Filled.model_validate({"values": values, "rows": [*rows, *form.filled.rows[1:]]})
        return edited(history, ChangeStep(path=path, step=form.step, filled=filled), self.catalogue)

    def rows(self, history: History) -> list[tuple[object, ...]]:
        return list(self.answerer.rows(history.now.worked(self.catalogue))[1])

    def columns(self, history: History) -> list[str]:
        return list(schema_of(history.now.worked(self.catalogue), self.catalogue))

    def test_a_form_says_all_that_its_step_does(self) -> None:
        asked = [json.loads(line)["ask"] for line in (DEMO / "questions.jsonl").read_text().splitlines()]
        known, seen = known_in(self.catalogue), 0
        for question in asked:
            found = self.reader.read(question, DEMO_DAY)
            for plan in [r.plan for r in found.readings[:1]]:
                draft = Draft(plan=plan)
                for path, step in every_step(plan):
                    if isinstance(step, Take):
                        continue
                    before = columns_before(draft, path, self.catalogue)
                    form = form_of(step, before, known)
                    if form is None:
                        self.assertIsInstance(step, (st.Append, st.AsOf), question)
                        continue
                    meant = steps_of(form.step, form.filled, before, known, step)
                    self.assertEqual(meant.steps, (step,), question)
                    same = replaced(draft, path, meant.steps, meant.renamed, self.catalogue)
                    self.assertEqual(same.plan, plan, question)
                    seen += 1
        self.assertGreater(seen, 150)

    def test_formulas_are_written_as_they_are_read(self) -> None:
        schema = schema_of(Plan(steps=(Take(table="visits"),)), self.catalogue)
        for formula in FORMULAS:
            read = parse_formula(formula, schema)
            text = formula_text(read)
            assert text is not None
            self.assertEqual(parse_formula(text, schema), read, formula)

    def test_another_aggregate_takes_its_name_with_it(self) -> None:
        first = self.history("total income by clinic, highest first")
        then = self.change(first, st.Group, function="median")
        self.assertEqual(self.columns(then), ["clinic", "median_fee_net"])
        order = next(s for s in then.now.plan.steps if isinstance(s, st.Sort))
        self.assertEqual(order.keys[0].column, "median_fee_net")
        # By hand as when it is asked for.
        asked = self.history("median fee by clinic, highest first")
        self.assertEqual(self.rows(then), self.rows(asked))

    def test_another_group_is_shown_and_one_that_went_is_not(self) -> None:
        first = self.history("average wait by reason")
        then = self.change(first, st.Group, by=["attended", "year|visit_date"])
        self.assertEqual(self.columns(then)[:2], ["attended", "visit_date_year"])
        self.assertNotIn("reason", self.columns(then))
        self.assertEqual(sum(1 for s in then.now.plan.steps if isinstance(s, st.Derive)), 1)

    def test_conditions(self) -> None:
        first = self.history("how many visits with a wait over 30 minutes")
        alone = self.rows(first)[0][0]
        more = self.change(first, st.Keep, held=">", values=["10"])
        self.assertGreater(self.rows(more)[0][0], alone)
        # A value is found as it is written in the data, and a month by its name.
        both = AddStep(
            path=(1,),
            step="keep",
            filled=Filled(
                values={"together": "any"},
                rows=(
                    {"column": "reason", "held": "=", "values": ("DENTAL",)},
                    {"column": "month|visit_date", "held": "one of", "values": ("March", "apr")},
                ),
            ),
        )
        kept = edited(first, both, self.catalogue)
        asked = self.history("visits with a wait over 30 minutes")
        table = Plan(steps=asked.now.plan.steps[:2])
        by_hand = [r for r in self.answerer.rows(table, 100_000)[1] if r[5] == "Dental" or r[1].month in (3, 4)]  # type: ignore[union-attr]
        self.assertEqual(self.rows(kept), [(len(by_hand),)])

    def test_off_and_on_again_is_as_it_was(self) -> None:
        first = self.history("top 3 clinics by income with share of the total")
        group = self.place(first, st.Group)
        off = edited(first, SwitchStep(path=group), self.catalogue)
        # What only arranged its figures is off with it, and seen to be.
        self.assertGreater(len(off.now.off), 1)
        schemas(off.now.worked(self.catalogue), self.catalogue)
        limit = edited(first, SwitchStep(path=self.place(first, st.Limit)), self.catalogue)
        self.assertGreater(len(self.rows(limit)), 3)
        again = edited(limit, SwitchStep(path=self.place(first, st.Limit)), self.catalogue)
        self.assertEqual(again.now.plan, first.now.plan)
        self.assertEqual(again.now.off, ())

    def test_a_step_goes_and_places_of_others_move(self) -> None:
        first = self.history("top 3 clinics by income with share of the total")
        share = self.place(first, st.Window)
        last = self.place(first, st.Limit)
        off = edited(first, SwitchStep(path=last), self.catalogue)
        gone = edited(off, RemoveStep(path=share), self.catalogue)
        self.assertEqual(gone.now.off, ((last[0] - 1,),))
        self.assertEqual(len(self.columns(gone)), len(self.columns(first)) - 1)

    def test_undo_and_redo_without_end(self) -> None:
        first = self.history("total income by clinic")
        changed = first
        for function in ("mean", "median", "max"):
            changed = self.change(changed, st.Group, function=function)
        back = changed
        for _ in range(3):
            back = edited(back, Undo(), self.catalogue)
        self.assertEqual(back.now, first.now)
        with self.assertRaisesRegex(PlanError, "nothing to undo"):
            edited(back, Undo(), self.catalogue)
        self.assertEqual(edited(back, Redo(), self.catalogue).now, changed.drafts[1])
        # What was undone is gone once something else is done.
        other = self.change(back, st.Group, function="min")
        with self.assertRaisesRegex(PlanError, "nothing to do again"):
            edited(other, Redo(), self.catalogue)

    def test_what_cannot_be_is_said_and_changes_nothing(self) -> None:
        first = self.history("total income by clinic in 2025")
        join = self.place(first, st.Join)
        for edit, said in (
            (SwitchStep(path=(0,)), "begins with its table"),
            (RemoveStep(path=(99,)), "no such step"),
            (SwitchStep(path=join), "“Group by clinic: the sum of fee net” could not go on: there is no column clinic"),
            (self.derived("fee_net - fees"), "there is no column fees"),
            (self.derived("reason + 1"), "text"),
            (self.derived(""), "a formula is wanted"),
            (self.kept("wait_min", ">", "long"), "“long” is no number"),
            (self.kept("wait_min", "between", "3"), "wait min is between … what"),
            (self.kept("visit_date", "=", "soon"), "“soon” is no date"),
            (AddStep(path=(1,), step="limit", filled=Filled(values={"rows": "0"})), "not a whole number"),
            (AddStep(path=(1,), step="sort", filled=Filled()), "a column to sort by is wanted"),
        ):
            with self.subTest(said=said), self.assertRaises(PlanError) as caught:
                edited(first, edit, self.catalogue)
            self.assertIn(said, str(caught.exception))

    @staticmethod
    def derived(formula: str) -> Edit:
        return AddStep(path=(1,), step="derive", filled=Filled(values={"name": "new", "formula": formula}))

    @staticmethod
    def kept(column: str, held: str, value: str) -> Edit:
        rows = ({"column": column, "held": held, "values": (value,)},)
        return AddStep(path=(1,), step="keep", filled=Filled(values={"together": "all"}, rows=rows))
