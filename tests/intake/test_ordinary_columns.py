"""What ordinary columns of other people's files are taken for: an inventory over several trades."""

from __future__ import annotations

import datetime as dt
import random
import tempfile
import unittest
from collections.abc import Callable
from pathlib import Path

from tests.support import DEMO_DAY, opened_from

ROWS = 120
SUMMED, RATED, MONEY, KIND, FLAG, SHARE, MEASURED = "summed", "rated", "money", "kind", "flag", "share", "measured"
MEANT = {
    SUMMED: {"quantity", "money"},
    RATED: {"score", "percentage"},
    MONEY: {"money"},
    KIND: {"category", "person", "place", "code", "name", "text"},
    FLAG: {"flag", "category"},
    SHARE: {"percentage"},
    MEASURED: {"quantity"},
}
"""Roles that do what is meant; where two do, questions are answered alike."""
TRADES: dict[str, dict[str, dict[str, str]]] = {
    "lessons": {
        KIND: {"Lesson": "Piano|Drums", "Tutor": "Ada Rowe|Ben Vale", "Grade": "A|B|C", "Form": "7A|7B|8A", "Flat": "2B|14B", "Room No": "1-6", "Week": "1-52"},
        FLAG: {"Paid": "Y|N", "Showed up": "yes|no"},
        MONEY: {"Fee": "18-32", "VAT": "1.5-6.5", "Surcharge": "1-9"},
        SUMMED: {"Spaces left": "0-12", "Waiting list": "0-5"},
    },
    "marks": {
        KIND: {"House": "Red|Blue", "Shirt No": "1-30"},
        RATED: {"Mark": "20-99", "Age": "11-16", "Maths": "20-99", "Reading age": "7.1-15.9"},
        SUMMED: {"Absent days": "0-9", "Merits": "0-20"},
        SHARE: {"Attendance %": "80.1-99.9"},
    },
    "crops": {
        KIND: {"Field": "Top|Pond", "Harvest year": "2021-2026"},
        SUMMED: {"Hectares": "2.1-30.5", "Tonnes": "10.5-300.5", "Lambs born": "10-120", "Eggs": "100-900"},
        RATED: {"Yield (t/ha)": "4.1-11.9", "Soil pH": "5.1-7.9"},
        SHARE: {"Moisture %": "12.1-18.9"},
    },
    "recipes": {
        MEASURED: {"Amount": "0.5-8.5", "Total tonnes": "100-9000", "Net kg": "10-900", "Gross area": "10-900"},
        MONEY: {"Total": "100-9000", "Net": "10-900"},
    },
    "downtime": {MEASURED: {"Minutes": "10-240"}, KIND: {"Reason": "Jam|Power"}},
    "lets": {
        MONEY: {"Rent pcm": "600-2200", "Deposit": "600-2200", "Arrears": "1.5-900.5"},
        SUMMED: {"Beds": "1-5", "Sq ft": "400-2000", "Void days": "0-60", "Viewings": "0-20"},
        KIND: {"Floor": "0-6", "Year built": "1890-2020", "Postcode": "AB1 2CD|EF3 4GH"},
        SHARE: {"Commission %": "1.1-2.4"},
    },
    "payments": {
        MONEY: {"Payment": "100-900", "Tip": "1.5-12.5", "Premium": "90.5-900.5", "Sum insured": "10000-400000"},
        RATED: {"Stars": "1-5", "Pace": "4.1-6.9", "Risk score": "1-99"},
        SUMMED: {"Covers": "1-9", "Guests": "1-9", "Mileage": "1000-30000", "Steps": "2000-20000"},
        KIND: {"Table": "1-20", "Course": "Starter|Main"},
    },
}  # fmt: skip


def maker(written: str, chance: random.Random) -> Callable[[], str]:
    """A function that makes values like the ones written: of a list, or between two numbers."""
    if "|" in written or "-" not in written:
        return lambda: chance.choice(written.split("|"))
    low, high = written.split("-")
    digits = len(low.partition(".")[2])
    return lambda: (
        f"{chance.uniform(float(low), float(high)):.{digits}f}" if digits else str(chance.randint(int(low), int(high)))
    )


class OrdinaryColumns(unittest.TestCase):
    def test_each_is_taken_for_what_it_is(self) -> None:
        chance = random.Random(11)
        for table, told in TRADES.items():
            meant = {
                name: (what, maker(values, chance))
                for what, columns in told.items()
                for name, values in columns.items()
            }
            lines = [",".join(meant)] + [",".join(make() for _, make in meant.values()) for _ in range(ROWS)]
            with tempfile.TemporaryDirectory() as folder:
                opened, _ = opened_from(Path(folder), {f"{table}.csv": "\n".join(lines) + "\n"})
                for name, (what, _) in meant.items():
                    with self.subTest(table=table, column=name):
                        self.assertIn(opened.catalogue.tables[0].column(name).role.value, MEANT[what])

    def test_levels_by_day_are_averaged_and_what_a_day_brings_is_added_up(self) -> None:
        chance = random.Random(7)
        level, lines = 140.0, []
        for n in range(300):
            level *= 1 + chance.gauss(0, 0.006)
            day = dt.date(2025, 1, 1) + dt.timedelta(n)
            busy = 1.4 if day.weekday() > 4 else 1.0
            lines.append(
                f"{day},{level:.3f},{round(90 * level)},{120 * busy * chance.uniform(0.8, 1.2):.2f},{chance.randint(20, 60)}"
            )
        with tempfile.TemporaryDirectory() as folder:
            text = "Day,Copper,Stock in yard,Takings,Visitors\n" + "\n".join(lines)
            table = opened_from(Path(folder), {"days.csv": text})[0].catalogue.tables[0]
            summed = {c.name: c.default_aggregate for c in table.columns[1:]}
            self.assertEqual(summed, {"Copper": "mean", "Stock in yard": "mean", "Takings": "sum", "Visitors": "sum"})
        with tempfile.TemporaryDirectory() as folder:
            # Several rows a day are no level's.
            twice = opened_from(Path(folder), {"days.csv": text + "\n" + lines[0]})[0].catalogue.tables[0]
            self.assertEqual(twice.column("Copper").default_aggregate, "sum")

    def test_names_in_other_scripts_are_names(self) -> None:
        """What no Latin letter names is no running number of its table."""
        rows = "".join(f"{'شمال' if i % 2 else 'جنوب'},{(i * 37) % 190 + 10},{(i * 7) % 50}\n" for i in range(120))
        with tempfile.TemporaryDirectory() as folder:
            opened, reader = opened_from(Path(folder), {"زيارات.csv": f"العيادة,الرسوم,מחיר\n{rows}"})
            table = opened.catalogue.tables[0]
            for name in ("الرسوم", "מחיר"):
                self.assertTrue(table.column(name).is_measure, name)
            found = reader.read("total الرسوم by العيادة", DEMO_DAY)
            self.assertEqual(
                found.readings[0].words.replace("\u2068", "").replace("\u2069", ""),
                "the total الرسوم, for each العيادة",
            )
            told = opened.answerer.answer(found.readings[0].plan, DEMO_DAY).finding
            self.assertEqual((told.count("\u2068"), told.count("\u2069")), (3, 3), "each name stands by itself")
