"""Plans as documents: faults of those from outside are told by step and fix, and the schema is of the types."""

from __future__ import annotations

import json
import unittest
from typing import Any

from gumption.core.model.catalogue import Catalogue, Column, Table
from gumption.core.model.types import Role, Type
from gumption.core.plan.document import json_schema, read_plan
from gumption.core.plan.fields import PlanError
from gumption.core.plan.steps import Plan
from gumption.core.plan.typing import schema_of
from tests.support import HOME


def column(name: str, kind: Type, role: Role, unit: str | None = None) -> Column:
    return Column(name=name, type=kind, role=role, unit=unit, scale=2 if kind is Type.DECIMAL else 0)


CATALOGUE = Catalogue(
    tables=(
        Table(
            name="sales",
            source="sales.csv",
            rows=3,
            columns=(
                column("shop", Type.TEXT, Role.CATEGORY),
                column("pounds", Type.DECIMAL, Role.MONEY, "GBP"),
                column("euros", Type.DECIMAL, Role.MONEY, "EUR"),
                column("pieces", Type.INTEGER, Role.QUANTITY),
            ),
        ),
    )
)


def document(*steps: dict[str, Any]) -> dict[str, Any]:
    return {"version": 1, "steps": [{"step": "take", "table": "sales"}, *steps]}


def worked(op: str, left: str, right: str) -> dict[str, Any]:
    sides = {side: {"kind": "column", "name": name} for side, name in (("left", left), ("right", right))}
    return {"step": "derive", "name": "v", "expression": {"kind": "arithmetic", "op": op, **sides}}


class Documents(unittest.TestCase):
    def test_a_plan_from_outside_is_typed_like_our_own(self) -> None:
        plan = read_plan(json.dumps(document({"step": "group", "by": ["shop"]})), CATALOGUE)
        self.assertEqual(Plan.model_validate_json(plan.model_dump_json()), plan)

    def test_faults_name_the_step_and_the_fix(self) -> None:
        cases: list[tuple[Any, str]] = [
            ("{", "this is no JSON"),
            ({"steps": []}, "steps: "),
            ({"version": 2, "steps": document()["steps"]}, "version: “2” is not one of 1"),
            (document({"step": "sieve"}), "step 2: “sieve” is not known; there are 'take', 'keep'"),
            (document({"step": "limit"}), "step 2: limit.rows: this is missing"),
            (document({"step": "limit", "rows": 3, "from": 2}), "step 2: limit.from: there is no such field"),
            (document({"step": "keep", "condition": {"kind": "like"}}), "step 2: keep.condition: “like” is not known"),
            (document({"step": "keep", "condition": {"op": "="}}), "its kind is missing"),
            (document({"step": "group", "by": ["town"]}), "step 2: there is no column town; there are shop"),
            ({"steps": [{"step": "take", "table": "sails"}]}, "step 1: there is no table sails; there are sales"),
        ]
        for given, words in cases:
            with self.subTest(words), self.assertRaises(PlanError) as caught:
                read_plan(given, CATALOGUE)
            self.assertIn(words, str(caught.exception))

    def test_units_of_arithmetic(self) -> None:
        for op, left, right, unit, role in (
            ("*", "pounds", "pieces", "GBP", Role.MONEY),
            ("/", "pounds", "pieces", "GBP", Role.SCORE),
            ("/", "pounds", "pounds", None, Role.SCORE),
            ("+", "pounds", "pounds", "GBP", Role.MONEY),
        ):
            field = schema_of(read_plan(document(worked(op, left, right)), CATALOGUE), CATALOGUE)["v"]
            self.assertEqual((field.unit, field.role), (unit, role), f"{left} {op} {right}")
        for op, right, words in (
            ("+", "euros", "do not add; convert one first"),
            ("*", "pounds", "no amount of money"),
        ):
            with self.assertRaises(PlanError) as caught:
                read_plan(document(worked(op, "pounds", right)), CATALOGUE)
            self.assertIn(words, str(caught.exception))

    def test_the_schema_is_of_the_types(self) -> None:
        written = (HOME / "docs" / "plan.schema.json").read_text(encoding="utf-8")
        self.assertEqual(written, json_schema(), "run: python -m gumption.core.plan.document > docs/plan.schema.json")
