"""Trades of other kinds: journeys with two places, jobs whose price grows with how many, stock with a last day, callouts."""

from __future__ import annotations

import datetime as dt
import random

from tests import support


def _lines(head: str, rows: list[tuple[object, ...]]) -> str:
    return "\n".join([head, *(",".join(map(str, row)) for row in rows)]) + "\n"


def _files() -> dict[str, str]:
    """Rows by a seeded generator: every question below is asked of names, kinds and how numbers go together."""
    chance = random.Random(3)
    places, start = ("Station", "Airport", "Docks"), dt.datetime(2026, 3, 1)
    trips, jobs, calls = [], [], []
    for number in range(1, 121):
        begun = start + dt.timedelta(minutes=chance.randrange(60 * 24 * 90))
        ended = begun + dt.timedelta(minutes=chance.randrange(5, 50))
        here, there = chance.sample(places, 2)
        trips.append((number, f"{begun:%Y-%m-%d %H:%M}", f"{ended:%Y-%m-%d %H:%M}", here, there, chance.randrange(2, 30), chance.randrange(5, 60), chance.randrange(1, 5)))  # fmt: skip
        many = chance.choice((50, 100, 250, 500, 1000))
        cost = round(many * chance.uniform(0.1, 0.3), 2)
        jobs.append((f"J{number}", chance.randrange(1, 7), f"{begun:%Y-%m-%d}", chance.choice(("leaflets", "posters")), many, cost, round(cost * chance.uniform(1.2, 1.9), 2)))  # fmt: skip
        calls.append((number, f"{begun:%d %b %Y}", f"{begun:%H:%M}", chance.choice(("Beck", "Crag", "Moss")), chance.choice(("fall", "lost")), chance.choice(("home", "hospital", "no trace")), chance.randrange(4, 20), chance.randrange(20, 300)))  # fmt: skip
    clients = [(n, f"Client {n}", chance.choice(("school", "shop"))) for n in range(1, 7)]
    days = [
        (f"{start + dt.timedelta(days=n):%Y-%m-%d}", chance.randrange(90), chance.randrange(40), chance.randrange(300))
        for n in range(100)
    ]
    harvest = [
        (sort, fruit, chance.randrange(3, 30), *(chance.randrange(50, 900) for _ in range(3)))
        for sort, fruit in (("Cox", "apple"), ("Comice", "pear"), ("Opal", "plum"))
    ]
    stock = [
        ("Beans", 12, "2026-06-10"),
        ("Rice", 80, "2027-01-01"),
        ("Soup", 3, "2026-05-20"),
        ("Tea", 9, "2026-06-25"),
    ]
    return {
        "trips.csv": _lines("trip,pickup_time,dropoff_time,from,to,km,fare,passengers", trips),
        "clients.csv": _lines("client_no,client,kind", clients),
        "jobs.csv": _lines("job,client_no,ordered,product,qty,cost,price", jobs),
        "callouts.csv": _lines("no,date,time,place,reason,outcome,team members,minutes out", calls),
        "guests.csv": _lines("date,adults,children,shop sales", days),
        "harvest.csv": _lines("sort,fruit,trees,2023 kg,2024 kg,2025 kg", harvest),
        "larder.csv": _lines("item,in_stock,best_before", stock),
    }


READ = {
    # two places of one journey, and how fast it was
    "most popular destination": "the number of trips, for each to, by the number of trips, highest first: the first",
    "average fare by origin and destination": "the average fare, for each from and to",
    "average speed of trips": "the total km over the total hours from pickup time to dropoff time",
    # how many came together
    "average party size of trips": "the average passengers",
    "average team size by reason": "the average team members, for each reason",
    "biggest team": "the callouts, by team members, highest first: the first",
    # what grows with how many there are is a total
    "profit by product": "the total price − cost, for each product",
    "total sales by client type": "the total price, for each kind",
    "repeat clients": "the number of jobs, for each client, only where the number of jobs is over 1",
    # kinds by kinds
    "outcome by reason": "the number of callouts, for each outcome and reason",
    "outcome vs reason": "the number of callouts, for each outcome and reason",
    "breakdown of outcome by place": "the number of callouts, for each outcome and place",
    "proportion of outcomes for each place": "the number of callouts as a share within the group, for each place and outcome",
    # times of day, and how long
    "night callouts": "the callouts, where time is after 22:00 or time is before 06:00",
    "evening callouts by place": "the number of callouts, for each place, where time is after 17:00",
    "average time out by place": "the average minutes out, for each place",
    # a day's guests are all of its kinds
    "guests last month": "the total adults + children, where date is in May 2026",
    "shop sales per guest": "the total shop sales over the total adults + children",
    # a figure for each year in a column of its own, beside what is told once
    "total harvest in 2025": "the total kg, where year is in 2025",
    "harvest by fruit": "the total kg, for each fruit",
    "trees by fruit": "the total trees, for each fruit",
    # rows by the number that tells them apart
    "trip 12": "the trips, where trip is 12",
    "show trips 3 to 5": "the trips, where trip is at least 3 and trip is at most 5",
    "how far was trip 12": "the total km, where trip is 12",
    "total for Client 3": "the total price, where client is Client 3",
    "what expires this month": "the larder, where best before is in June 2026",
}  # fmt: skip


def _books() -> dict[str, str]:
    """The books of a firm: what came in and went out, what it sent bills for, and faults of what it makes."""
    chance, start = random.Random(5), dt.date(2026, 3, 1)
    ledger = [
        (start + dt.timedelta(days=n), chance.choice(("in", "out")), chance.choice(("hall", "music")), n + 5)
        for n in range(80)
    ]
    bills: list[tuple[object, ...]] = []
    for number in range(60, 130):
        sent = start + dt.timedelta(days=number - 60)
        paid = chance.choice(("", sent + dt.timedelta(days=9)))
        gardener = chance.choice(("Una Fell", "Vic Garth"))
        bills.append(
            (f"B{number}", f"C{chance.randrange(6)}", sent, sent + dt.timedelta(days=30), paid, gardener, number)
        )
    kinds, versions = ("crash", "typo"), (2.0, 2.1)
    faults = [
        (f"F{n}", chance.choice(("login", "search")), chance.choice(kinds), chance.choice(versions)) for n in range(90)
    ]
    return {
        "ledger.csv": _lines("date,direction,heading,amount", list(ledger)),
        "customers.csv": _lines("customer_no,customer", [(f"C{n}", f"House {n}") for n in range(6)]),
        "bills.csv": _lines("bill,customer_no,sent,due,paid_on,gardener,amount", bills),
        "faults.csv": _lines("fault,component,kind,version", list(faults)),
    }


READ_OF_BOOKS = {
    # what came in and what went out, told by a column
    "profit by heading": "the total in (amount) less the total out (amount), for each heading",
    "money in vs money out": "the total in (amount) and the total out (amount)",
    "biggest expense": "the ledger entries, where direction is out, by amount, highest first: the first",
    # who owes is who buys, and what is owed is not paid yet
    "who owes us the most": "the total amount, for each customer no, with customer, where paid on is missing, by the total amount, highest first: the first",
    # what is given is not what is listed
    "crashes in the login component": "the faults, where kind is crash and component is login",
    "which component has the most crashes": "the number of faults, for each component, where kind is crash, by the number of faults, highest first: the first",
    "when was Una Fell paid": "the bills with paid on, where gardener is Una Fell and paid on is known",
    "faults per version": "the number of faults, for each version",
}


class Books(support.Asked):
    files, day = _books(), dt.date(2026, 6, 15)

    def test_readings(self) -> None:
        self.assert_read(READ_OF_BOOKS)


class Trades(support.Asked):
    files, day = _files(), dt.date(2026, 6, 15)

    def test_readings(self) -> None:
        self.assert_read(READ)

    def test_a_price_that_grows_with_how_many_is_a_total(self) -> None:
        table = self.opened.catalogue.table("jobs")
        self.assertEqual({c.name: c.grows_with for c in table.columns if c.grows_with}, {"cost": "qty", "price": "qty"})
