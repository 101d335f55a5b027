"""Made-up files of those who do something for others: vans and their garages, a cleaner's, a league of matches."""

from __future__ import annotations

import datetime as dt
import random

from tests.trades.making import PEOPLE, Files, file_of

R = random.Random(67)
_FIRST = dt.date(2025, 1, 1)


def _day(days: int = 660) -> dt.date:
    return _FIRST + dt.timedelta(R.randint(0, days))


def _fleet() -> Files:
    """Vans with the year that they are of, what they burnt, and what was done to them, told in parts and labour."""
    vans = [
        [f"{R.choice('ABCD')}K{R.randint(15, 24)} {R.choice('BCDF')}{n:02d}", R.choice(["Ford", "Renault"]),
         R.choice(["diesel", "electric"]), R.randint(2014, 2025), _day(900), R.choice(["Leeds", "York"])]
        for n in range(30)
    ]  # fmt: skip
    fills = []
    for _ in range(400):
        litres = round(R.uniform(15, 80), 1)
        fills.append(
            [_day(), R.choice(vans)[0], litres, round(litres * R.uniform(1.3, 1.6), 2), R.choice(["Ring Rd", "Docks"])]
        )
    jobs = []
    for n in range(120):
        began = _day()
        done = began + dt.timedelta(R.randint(1, 8))
        work = R.choice(["Full service", "Brakes", "MOT"])
        money = [round(R.uniform(1, 500), 2), round(R.uniform(40, 400), 2)]
        jobs.append(
            [f"J{n}", R.choice(vans)[0], R.choice(["Kwik", "Dale Motors"]), work, began, done if n % 20 else "", *money]
        )
    return {
        "vehicles.csv": file_of(["Registration", "Make", "Fuel", "Year", "MOT due", "Depot"], vans),
        "fuel_fills.csv": file_of(["Date", "Registration", "Litres", "Cost", "Station"], fills),
        "services.csv": file_of(
            ["Job", "Registration", "Garage", "Work done", "Booked in", "Completed", "Parts", "Labour"], jobs
        ),
    }


def _cleaners() -> Files:
    """A dry cleaner's tickets: so many of an item on each, ready by a day, and collected on another."""
    customers = [[n, PEOPLE[n % 25], R.choice(["yes", "no"])] for n in range(1, 81)]
    tickets = []
    for n in range(500):
        came = _day()
        back = came + dt.timedelta(R.randint(2, 12))
        tickets.append(
            [5000 + n, R.choice(customers)[0], came, came + dt.timedelta(3), back if n % 12 else "",
             R.choice(["suit", "shirt", "coat", "duvet"]), R.randint(1, 5), R.choice([3.5, 8, 12, 15]), R.choice(["High St", "Mall"])]
        )  # fmt: skip
    return {
        "customers.csv": file_of(["Customer ID", "Customer", "Loyalty card"], customers),
        "tickets.csv": file_of(
            ["Ticket", "Customer ID", "Dropped off", "Ready by", "Collected", "Item", "Qty", "Price each", "Shop"],
            tickets,
        ),
    }


def _league() -> Files:
    """Matches with the goals and the cards of both sides, and each goal."""
    teams = ["Ashby", "Brill", "Corley", "Denham"]
    matches, goals = [], []
    for n in range(1, 121):
        home, away = R.sample(teams, 2)
        scored = R.randint(0, 4), R.randint(0, 3)
        matches.append(
            [n, _day(), home, away, *scored, R.randint(200, 4000), R.choice(["Grey", "Amos"]), R.randint(0, 5), n % 2]
        )
        for side, many in zip((home, away), scored, strict=True):
            goals += [[len(goals) + k, n, side, R.choice(PEOPLE[:9]), R.randint(1, 94)] for k in range(many)]
    return {
        "matches.csv": file_of(
            ["match_id", "date", "home_team", "away_team", "home_goals", "away_goals", "attendance", "referee",
             "yellow_cards", "red_cards"], matches,
        ),
        "goals.csv": file_of(["goal_id", "match_id", "team", "scorer", "minute"], goals),
    }  # fmt: skip


SERVICES: dict[str, Files] = {"fleet": _fleet(), "cleaners": _cleaners(), "league": _league()}
