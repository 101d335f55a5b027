"""Prices that changed over time: what was sold is worth what the list said on the day."""

from __future__ import annotations

import datetime as dt

from tests import support

FILES = {
    "price_list.csv": "item_no,valid_from,price\n"
    "A,2024-01-01,10\nA,2025-01-01,12\nB,2024-01-01,5\nB,2024-07-01,6\nC,2024-01-01,40\nC,2025-06-01,44\n",
    "items.csv": "item_no,item\nA,Oak tray\nB,Felt mat\nC,Iron hook\n",
    "deliveries.csv": "delivery_no,delivered_on,item_no,units,shop\n"
    "D1,2024-03-01,A,2,Harbour\nD2,2025-03-01,A,3,Mill\nD3,2024-06-30,B,10,Mill\nD4,2024-07-01,B,10,Harbour\n"
    "D5,2025-09-01,C,1,Mill\n",
}


class PriceLists(support.Asked):
    files, day = FILES, dt.date(2026, 1, 31)

    def test_what_was_sold_is_worth_its_price_of_the_day(self) -> None:
        self.assertEqual(self.asked("total revenue")[2], [(2 * 10 + 3 * 12 + 10 * 5 + 10 * 6 + 44,)])
        words, _, rows = self.asked("revenue by shop")
        self.assertEqual({r[0]: r[-1] for r in rows}, {"Harbour": 80, "Mill": 36 + 50 + 44}, words)

    def test_the_price_in_force(self) -> None:
        _, columns, rows = self.asked("list the deliveries with the price in force at the time")
        held = {r[0]: r[columns.index("price then")] for r in rows}
        self.assertEqual(held, {"D1": 10, "D2": 12, "D3": 5, "D4": 6, "D5": 44})
