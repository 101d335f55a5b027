"""Spans of time, in the words people use for them."""

from __future__ import annotations

import datetime as dt
import unittest

from gumption.core.reading.times import Span, time_mentions
from gumption.core.reading.tokens import tokenise

DAY = dt.date(2026, 10, 31)


def day(text: str) -> dt.date:
    return dt.date.fromisoformat(text)


class Times(unittest.TestCase):
    def test_spans(self) -> None:
        cases = {
            "in 2025": ("2025-01-01", "2025-12-31"),
            "this year": ("2026-01-01", "2026-12-31"),
            "last year": ("2025-01-01", "2025-12-31"),
            "last month": ("2026-09-01", "2026-09-30"),
            "next week": ("2026-11-02", "2026-11-08"),
            "tomorrow": ("2026-11-01", "2026-11-01"),
            "ytd": ("2026-01-01", "2026-10-31"),
            "in the first half of 2025": ("2025-01-01", "2025-06-30"),
            "from January to May this year": ("2026-01-01", "2026-05-31"),
            "between 3 and 16 March 2025": ("2025-03-03", "2025-03-16"),
            "last week": ("2026-10-19", "2026-10-25"),
            "past 30 days": ("2026-10-02", "2026-10-31"),
            "since March 2024": ("2024-03-01", None),
            "since 2024-02-05": ("2024-02-05", None),
            "after 2015": ("2016-01-01", None),
            "before 2015": (None, "2014-12-31"),
            "until May 2025": (None, "2025-05-31"),
            "in March 2024": ("2024-03-01", "2024-03-31"),
            "on 5 March 2024": ("2024-03-05", "2024-03-05"),
            "between May and July 2024": ("2024-05-01", "2024-07-31"),
            "from 2021 to 2023": ("2021-01-01", "2023-12-31"),
            "in Q2 2024": ("2024-04-01", "2024-06-30"),
            "in the first quarter of 2024": ("2024-01-01", "2024-03-31"),
            "yesterday": ("2026-10-30", "2026-10-30"),
            "in the 1990s": ("1990-01-01", "1999-12-31"),
            "in the nineties": ("1990-01-01", "1999-12-31"),
            "on the 5th of March 2025": ("2025-03-05", "2025-03-05"),
            "on March 5th, 2025": ("2025-03-05", "2025-03-05"),
            "1-15 March 2025": ("2025-03-01", "2025-03-15"),
            "in 2025-03": ("2025-03-01", "2025-03-31"),
            "in 1Q25": ("2025-01-01", "2025-03-31"),
            "in quarter 3 of 2025": ("2025-07-01", "2025-09-30"),
            "in week 12 of 2025": ("2025-03-17", "2025-03-23"),
            "in the second week of March 2025": ("2025-03-08", "2025-03-14"),
            "in the last 10 days of March 2025": ("2025-03-22", "2025-03-31"),
            "in the first 3 months of 2025": ("2025-01-01", "2025-03-31"),
            "at the end of 2025": ("2025-09-01", "2025-12-31"),
            "by the end of March 2025": (None, "2025-03-31"),
            "2024 or later": ("2024-01-01", None),
            "March 2025 or earlier": (None, "2025-03-31"),
            "in March, April and May 2025": ("2025-03-01", "2025-05-31"),
            "last Monday": ("2026-10-26", "2026-10-26"),
            "since Monday": ("2026-10-26", None),
            "in the last full month": ("2026-09-01", "2026-09-30"),
            "in the same month last year": ("2025-10-01", "2025-10-31"),
            "over the last 6 months": ("2026-05-01", "2026-10-31"),
            "in the preceding year": ("2025-01-01", "2025-12-31"),
        }
        for text, (low, high) in cases.items():
            with self.subTest(text):
                found = time_mentions(tokenise(text), DAY)
                self.assertEqual(found[0].span, Span(day(low) if low else None, day(high) if high else None))

    def test_parts_of_any_year(self) -> None:
        for text, part, numbers in (
            ("in March", "month", (3,)),
            ("on Mondays", "weekday", (1,)),
            ("at weekends", "weekday", (6, 7)),
        ):
            with self.subTest(text):
                self.assertEqual(time_mentions(tokenise(text), DAY)[0].span, Span(part=part, numbers=numbers))  # type: ignore[arg-type]

    def test_a_comma_behind_a_number_is_no_part_of_it(self) -> None:
        self.assertEqual([t.text for t in tokenise("in 2024, over 1,500")], ["in", "2024", ",", "over", "1,500"])
