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
            "the week before last": ("2026-10-12", "2026-10-18"),
            "in the last two weeks": ("2026-10-18", "2026-10-31"),
            "in the past fortnight": ("2026-10-18", "2026-10-31"),
            "last quarter": ("2026-07-01", "2026-09-30"),
            "this quarter": ("2026-10-01", "2026-12-31"),
            "this week": ("2026-10-26", "2026-11-01"),
            "this month": ("2026-10-01", "2026-10-31"),
            "month to date": ("2026-10-01", "2026-10-31"),
            "year to date": ("2026-01-01", "2026-10-31"),
            "so far this year": ("2026-01-01", "2026-10-31"),
            "so far this month": ("2026-10-01", "2026-10-31"),
            "last December": ("2025-12-01", "2025-12-31"),
            "last March": ("2026-03-01", "2026-03-31"),
            "next month": ("2026-11-01", "2026-11-30"),
            "next year": ("2027-01-01", "2027-12-31"),
            "next quarter": ("2027-01-01", "2027-03-31"),
            "the day before yesterday": ("2026-10-29", "2026-10-29"),
            "in H1 2025": ("2025-01-01", "2025-06-30"),
            "in the second half of 2024": ("2024-07-01", "2024-12-31"),
            "in H2 2024": ("2024-07-01", "2024-12-31"),
            "on 2025-03-05": ("2025-03-05", "2025-03-05"),
            "from 1 March 2025 onwards": ("2025-03-01", None),
            "from March 2025 on": ("2025-03-01", None),
            "up to and including March 2025": (None, "2025-03-31"),
            "between 1 Jan and 31 Mar 2025": ("2025-01-01", "2025-03-31"),
            "from Q1 2025 to Q3 2025": ("2025-01-01", "2025-09-30"),
            "over the last 12 months": ("2025-11-01", "2026-10-31"),
            "in the last 12 months": ("2025-11-01", "2026-10-31"),
            "in Jan '25": ("2025-01-01", "2025-01-31"),
            "in summer 2025": ("2025-06-01", "2025-08-31"),
            "three days ago": ("2026-10-28", "2026-10-28"),
            "in the year 2025": ("2025-01-01", "2025-12-31"),
            "during 2025": ("2025-01-01", "2025-12-31"),
            "throughout 2025": ("2025-01-01", "2025-12-31"),
            "in the last 6 months": ("2026-05-01", "2026-10-31"),
            "today": ("2026-10-31", "2026-10-31"),
            "in the month of May 2025": ("2025-05-01", "2025-05-31"),
            "between March 2025 and now": ("2025-03-01", "2026-10-31"),
            "since last March": ("2026-03-01", None),
            "since the start of the year": ("2026-01-01", None),
            "since January": ("2026-01-01", None),
            "in the last week of March 2025": ("2025-03-25", "2025-03-31"),
            "on Monday 5 January 2026": ("2026-01-05", "2026-01-05"),
            "5 Jan 2026": ("2026-01-05", "2026-01-05"),
            "January 5 2026": ("2026-01-05", "2026-01-05"),
            "from 5 to 9 January 2026": ("2026-01-05", "2026-01-09"),
            "in the first week of January 2026": ("2026-01-01", "2026-01-07"),
            "last weekend": ("2026-10-24", "2026-10-25"),
            "the month before last": ("2026-08-01", "2026-08-31"),
            "the year before last": ("2024-01-01", "2024-12-31"),
            "later than 5 March 2025": ("2025-03-06", None),
            "earlier than 5 March 2025": (None, "2025-03-04"),
            "not before 5 March 2025": ("2025-03-05", None),
            "no later than 5 March 2025": (None, "2025-03-05"),
            "by 5 March 2025": (None, "2025-03-05"),
            "for the next 30 days": ("2026-11-01", "2026-11-30"),
            "in the next 7 days": ("2026-11-01", "2026-11-07"),
            "within the next two weeks": ("2026-11-01", "2026-11-14"),
            "in the six months to June 2025": ("2025-01-01", "2025-06-30"),
            "in the year to March 2025": ("2024-04-01", "2025-03-31"),
            "12 months to September 2025": ("2024-10-01", "2025-09-30"),
            "the rest of this year": ("2026-11-01", "2026-12-31"),
            "this year so far": ("2026-01-01", "2026-10-31"),
            "the three months ending March 2025": ("2025-01-01", "2025-03-31"),
            "next June": ("2027-06-01", "2027-06-30"),
            "this weekend": ("2026-10-31", "2026-11-01"),
            "the day after tomorrow": ("2026-11-02", "2026-11-02"),
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
