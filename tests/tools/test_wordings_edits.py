"""The bank's follow-ups as meanings: how an edit is written, and what it makes of the question before."""

from __future__ import annotations

import datetime as dt
import unittest

from gumption.core.reading import meaning as m
from gumption.core.reading.meaning import ColumnKey
from tests.support import DEMO_DAY, demo
from tools.bench.wordings_edits import Edited, Step, slots_before, steps_of
from tools.bench.wordings_meanings import Filling, Meanings
from tools.bench.wordings_notation import NotWritten, parsed

SPECIES = ColumnKey("animals", "species")


def edited() -> Edited:
    opened, reader = demo()
    assert reader.nouns is not None
    filling = Filling(
        said={"value": "Dog", "value2": "Cat", "year": "2025", "n": "3"},
        tables={"rows": "visits"},
        columns={
            "cat": SPECIES,
            "measure": ColumnKey("visits", "fee_net"),
            "name": ColumnKey("visits", "visit_id"),
        },
        values={"value": "Dog", "value2": "Cat"},
        numbers={"n": 3, "year": 2025},
    )
    return Edited(Meanings(opened.catalogue, reader.nouns, DEMO_DAY, filling), filling)


class Edits(unittest.TestCase):
    def test_steps(self) -> None:
        self.assertEqual(
            steps_of("edit(replace_value {cat} ({value}, {value2}), limit {n})"),
            [Step("replace_value", "{cat} ({value}, {value2})"), Step("limit", "{n}")],
        )
        self.assertIn("{value}", slots_before("edit(same_for {value2})"))
        with self.assertRaises(NotWritten):
            steps_of("Ask(quantities=[])")

    def test_before_and_after(self) -> None:
        over = edited()
        steps = steps_of("edit(replace_value {cat} {value2})")
        before = over.before(steps)
        self.assertEqual(before.where, (m.Is(SPECIES, ("Dog",)),))
        self.assertEqual(over.after(before, steps).where, (m.Is(SPECIES, ("Cat",)),))
        ranked = steps_of("edit(order quantity asc, limit {n})")
        after = over.after(over.before(ranked), ranked)
        self.assertEqual((after.order[0].descending, after.limit), (False, 3))
        shifted = steps_of("edit(shift_time -1 year)")
        (_, span) = over.after(over.before(shifted), shifted).where
        self.assertEqual(span, m.Within(m.EventTime(), dt.date(2024, 1, 1), dt.date(2024, 12, 31)))

    def test_columns_and_order_of_listed_rows(self) -> None:
        over = edited()
        added = steps_of("edit(add_column {measure}, order {measure} desc)")
        before = over.before(added)
        self.assertTrue(before.lists)
        after = over.after(before, added)
        fee = m.Col(ColumnKey("visits", "fee_net"))
        self.assertIn(fee, after.shows)
        self.assertEqual(after.order, (m.Order(fee, True),))
        changed = steps_of("edit(as_change previous)")
        self.assertEqual(over.after(over.before(changed), changed).quantities[0].kind, "change")  # type: ignore[union-attr]

    def test_what_rows_beside_come_to_stands_on_each(self) -> None:
        over = edited()
        over.filling.tables |= {"rows": "animals", "related": "visits"}
        over.filling.columns["name"] = ColumnKey("animals", "animal_id")
        asked = over.meanings.ask(parsed("Ask(rows=Rows({rows}), show=[{name}, Count(Rows({related}))])"))
        counted = m.Below(m.Aggregated("count", table="visits"), ColumnKey("animals", "animal_id"))
        self.assertEqual(asked.shows, (m.Col(ColumnKey("animals", "animal_id")), counted))

    def test_what_is_not_told(self) -> None:
        over = edited()
        with self.assertRaises(NotWritten):
            over.before(steps_of("edit(unpivot all)"))
