"""Made-up files that people keep for themselves: a bank's statement, what they hold, how far they ran; and call-outs."""

from __future__ import annotations

import datetime as dt
import random

from tests.trades.making import Files, file_of

R = random.Random(83)
_FIRST = dt.date(2025, 1, 1)


def _statement() -> Files:
    """What came in and went out of an account, by its sign, with the balance behind it."""
    rows: list[list[object]] = []
    balance = 2400.0
    for n in range(600):
        day = _FIRST + dt.timedelta(n)
        moved = [
            (R.choice(["Market", "Aldo"]), "Groceries", -round(R.uniform(3, 80), 2)) for _ in range(R.randint(0, 2))
        ]
        moved += [("Noodle Bar", "Eating out", -round(R.uniform(8, 60), 2))] if R.random() < 0.2 else []
        moved += [("Harper Lettings", "Rent", -850.0)] if day.day == 1 else []
        moved += [("Quill Ltd", "Salary", 2450.0)] if day.day == 28 else []
        for payee, kind, amount in moved:
            balance = round(balance + amount, 2)
            rows.append([day, payee, kind, amount, balance])
    return {"statement.csv": file_of(["Date", "Payee", "Category", "Amount", "Balance"], rows)}


def _portfolio() -> Files:
    """Shares with what each was bought at and what it is worth now, and what they paid out."""
    names = ["ABC", "BRX", "CDE", "DGL", "EVO", "GMN", "HRL", "IVY"]
    held = [
        [name, f"{name.title()} plc", R.choice(["Tech", "Energy", "Health"]), R.randint(5, 400), b := round(R.uniform(2, 90), 2),
         round(b * R.uniform(0.3, 1.9), 2), _FIRST - dt.timedelta(R.randint(0, 2000))]
        for name in names
    ]  # fmt: skip
    paid = []
    for _ in range(60):
        name, _, _, many, *_ = R.choice(held)
        each = round(R.uniform(0.01, 0.9), 3)
        paid.append([_FIRST + dt.timedelta(R.randint(0, 600)), name, each, round(each * int(str(many)), 2)])
    return {
        "holdings.csv": file_of(
            ["ticker", "company", "sector", "shares", "buy_price", "current_price", "bought_on"], held
        ),
        "dividends.csv": file_of(["paid_on", "ticker", "amount_per_share", "total"], paid),
    }


def _runs() -> Files:
    """Runs with how far each was and how long it took."""
    rows = []
    for _ in range(200):
        far = round(R.uniform(3, 30), 2)
        took = dt.timedelta(seconds=int(far * R.uniform(290, 380)))
        rows.append(
            [
                _FIRST + dt.timedelta(R.randint(0, 660)),
                R.choice(["easy", "tempo", "long"]),
                far,
                str(took),
                R.choice(["canal", "park"]),
            ]
        )
    return {"runs.csv": file_of(["date", "run_type", "distance_km", "moving_time", "route"], rows)}


def _call_outs() -> Files:
    """Fire engines called out: when the call came, when they were there, and when it was over."""
    stations = [["ST1", "Northside", 2], ["ST2", "Docks", 3], ["ST3", "Central", 4]]
    rows = []
    for n in range(300):
        called = dt.datetime(2025, 1, 1) + dt.timedelta(minutes=R.randint(0, 900_000))
        there = called + dt.timedelta(minutes=R.randint(3, 19))
        over = there + dt.timedelta(minutes=R.randint(5, 240))
        kind = R.choice(["house fire", "car fire", "false alarm", "rescue"])
        rows.append(
            [f"I{n:04d}", R.choice(stations)[0], called, there, over, kind, R.choice([0, 0, 0, 1, 2]), R.randint(1, 4)]
        )
    return {
        "stations.csv": file_of(["station_id", "station", "engines"], stations),
        "incidents.csv": file_of(
            ["incident", "station_id", "call_time", "arrived", "ended", "type", "casualties", "crews_sent"], rows
        ),
    }


KEPT: dict[str, Files] = {
    "statement": _statement(),
    "portfolio": _portfolio(),
    "runs": _runs(),
    "callouts": _call_outs(),
}
