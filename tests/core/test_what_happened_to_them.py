"""Rows and what happened to them: when and how often it did, the most of one, and what columns make of each other."""

from __future__ import annotations

import datetime as dt
import unittest

from tests import support

FILES = {
    "vans.csv": "van_id,class,year,depot\nN1,Small,2020,Port\nN2,Large,2022,Port\nN3,Large,2023,City\nN4,Small,2024,City\n",
    "hirers.csv": "hirer_id,hirer_name,birth_date,town\nH1,Ada Finch,1970-05-02,Alder\nH2,Bo Marsh,1995-08-09,Birch\n"
    "H3,Cy Reed,2000-02-03,Alder\nH4,Bo Marsh,1980-01-01,Cedar\n",
    "hires.csv": "hire_no,van_id,hirer_id,out,back,days,daily_rate,minutes,discount_pct,severity\n"
    "1,N1,H1,2024-03-01,2024-03-04,3,40,20,0,1\n2,N1,H2,2024-06-10,2024-06-20,10,40,45,10,5\n"
    "3,N2,H1,2025-01-05,2025-01-07,2,70,90,0,4\n4,N2,H3,2025-02-01,2025-02-15,14,70,15,50,2\n"
    "5,N1,H1,2025-03-03,,5,40,29,0,5\n6,N3,H4,2025-04-04,2025-04-06,2,60,31,0,3\n",
}
CLUB = {
    "members.csv": "member_no,full_name,plan\nM1,Ada Finch,Full\nM2,Bo Marsh,Student\nM3,Cy Reed,Full\n",
    "bookings.csv": "booking_ref,member_no,coach,starts,price,cancelled\n"
    "B1,M1,Ines,2025-03-01,6,N\nB2,M1,Tomas,2025-03-02,8,Y\nB3,M2,Ines,2025-03-09,9,N\nB4,M1,Ines,2025-04-01,6,Y\n"
    "B5,M3,Tomas,2025-04-02,9,N\n",
}
Rows = list[tuple[object, ...]]
ANSWERS: tuple[tuple[str, Rows], ...] = (
    # when it happened is no birthday
    ("how many hirers hired in 2024", [(2,)]),
    ("how many hirers hired a Large van in 2025", [(3,)]),
    ("how many hirers hired more than once in 2025", [(1,)]),
    ("share of hirers with more than 1 hire", [(0.25,)]),
    # the one of which there is most
    ("average daily rate of the van with the most hires", [(40,)]),
    ("hires per year for the hirer with the most hires", [(2024, 1), (2025, 2)]),
    ("who hired the most vans", [("Ada Finch", 2)]),
    ("latest hire of each hirer", [(5, "Ada Finch"), (2, "Bo Marsh"), (4, "Cy Reed"), (6, "Bo Marsh")]),
    # columns that make something together
    ("income by class", [("Small", 680), ("Large", 750)]),
    ("average age of the vans", [(3.75,)]),
    # lengths, ranges and numbers in brackets
    ("hires shorter than half an hour", [(1,), (4,), (5,)]),
    ("hires longer than a week", [(2,), (4,)]),
    ("number of severe hires (4 or 5)", [(3,)]),
    ("hires of severity 3-4", [(3,), (6,)]),
    # small words that are quoted or spelled out
    ("hirers whose name contains 'a'", [("Ada Finch",), ("Bo Marsh",), ("Bo Marsh",)]),
    ("hirers whose name starts with A", [("Ada Finch",)]),
    # more in one year than in another; several things of two
    ("vans with more hires in 2025 than in 2024", [("N2", 0, 2), ("N3", 0, 1)]),
    ("compare Port and City in hires, days and minutes", [("Port", 5, 34, 39.8), ("City", 1, 2, 31.0)]),
    ("how many Small vans and how many Large vans", [("Small", 2), ("Large", 2)]),
)


class WhatHappenedToThem(support.Asked):
    files = FILES
    day = dt.date(2026, 1, 1)

    def test_answers(self) -> None:
        self.assert_answers(ANSWERS)

    def test_what_is_out_is_not_all(self) -> None:
        """Rows below that are named and do nothing leave their words unread, where they are not a condition."""
        _, _, rows = self.asked("how many vans are on hire")
        self.assertEqual(rows, [(1,)])


if __name__ == "__main__":
    unittest.main()


class WhoDidWhat(support.Asked):
    """Those who are served are not those who work there."""

    files = CLUB
    day = dt.date(2026, 1, 1)

    def test_answers(self) -> None:
        self.assert_answers(
            (
                ("who booked the most", [("Ada Finch", 3)]),
                ("who cancelled the most", [("Ada Finch", 2)]),
                ("which coach taught the most", [("Ines", 3)]),
                ("which coach made the most", [("Ines", 21)]),
            )
        )
