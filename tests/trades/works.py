"""Made-up files whose figures are made of several tables: what was spent of a budget, a cold store, a survey, statistics."""

from __future__ import annotations

import datetime as dt
import random
from collections.abc import Sequence

from tests.trades.making import PEOPLE, Files, file_of

R = random.Random(41)
_TODAY = dt.date(2026, 10, 31)


def _day(first: dt.date, days: int) -> dt.date:
    return first + dt.timedelta(R.randint(0, days))


def _known(day: dt.date) -> dt.date | str:
    return day if day <= _TODAY else ""


def _builders() -> Files:
    """Projects with a budget, the hours and the costs that they took, the bills, the checks; staff and their bosses."""
    teams = ["Design", "Build", "Survey", "Office"]
    staff = [
        [
            f"S{i:02d}", PEOPLE[7 * i], R.choice(["Senior", "Junior"]), teams[i % 4],
            f"S{R.randint(1, min(i - 1, 4)):02d}" if i > 1 else "", _day(dt.date(2013, 1, 1), 4000),
            R.randint(24, 72) * 1000, R.randint(1962, 2002),
        ]
        for i in range(1, 17)
    ]  # fmt: skip
    towns = ["Wexham", "Porlow", "Tinsey"]
    clients = [
        [f"C{i:03d}", f"{name} {kind}", R.choice(towns), _day(dt.date(2015, 1, 1), 3000), account, R.choice([10_000, 20_000])]
        for i, (name, kind, account) in enumerate(
            ((n, k, a) for n in ("Larch", "Peel", "Tamar", "Vint", "Yarrow") for k, a in (("Homes", "Private"), ("Council", "Council"), ("Mills", "Trade"))), 1
        )
    ]  # fmt: skip
    projects, hours, costs, invoices, checks = [], [], [], [], []
    for i in range(1, 91):
        code, opened, budget = f"P{i:03d}", _day(dt.date(2024, 1, 8), 960), R.randint(5, 80) * 500
        closed = opened + dt.timedelta(R.randint(20, 200))
        done = closed < dt.date(2026, 10, 10)
        title = f"{R.choice(['New', 'Old', 'Mill', 'Park'])} {R.choice(['Roof', 'Hall', 'Bridge', 'Shed'])} {i}"
        projects.append(
            [code, title, R.choice(clients[:13])[0], R.choice(staff[:8])[0], R.choice(["Repair", "Extension", "Fit-out"]), budget,
             R.randint(40, 400), opened, closed if done else "", "done" if done else "open"]
        )  # fmt: skip
        for _ in range(R.randint(4, 20)):
            hours.append(
                [
                    len(hours) + 1,
                    code,
                    R.choice(staff)[0],
                    opened + dt.timedelta(R.randint(0, 150)),
                    R.choice([2, 3.5, 6, 7.5]),
                    R.choice([28, 34, 45]),
                ]
            )
        for _ in range(R.randint(0, 8)):
            costs.append(
                [
                    len(costs) + 1,
                    code,
                    opened + dt.timedelta(R.randint(0, 120)),
                    R.choice(["Hale", "Corby", "Dunn"]),
                    R.choice(["timber", "stone", "paint"]),
                    R.randint(1, 60),
                    round(R.uniform(2, 90), 2),
                ]
            )
        for _ in range(R.randint(0, 3)):
            sent = opened + dt.timedelta(R.randint(10, 200))
            paid = sent + dt.timedelta(R.randint(3, 70)) if R.random() < 0.85 else None
            invoices.append(
                [
                    len(invoices) + 1,
                    code,
                    sent,
                    sent + dt.timedelta(30),
                    round(budget * R.uniform(0.2, 0.5), 2),
                    _known(paid) if paid else "",
                ]
            )
        for _ in range(R.randint(0, 5)):
            what, low, high = R.choice([("Damp", 5, 15), ("Level", -2, 2), ("Load", 100, 240)])
            value = round(R.uniform(low - (high - low) * 0.15, high + (high - low) * 0.15), 1)
            fits = low <= value <= high
            checks.append(
                [
                    len(checks) + 1,
                    code,
                    opened + dt.timedelta(R.randint(5, 150)),
                    what,
                    value,
                    low,
                    high,
                    "Y" if fits != (R.random() < 0.06) else "N",
                ]
            )
    return {
        "staff.csv": file_of(["staff_no", "name", "grade", "team", "boss_no", "started", "salary", "birth_year"], staff),
        "clients.csv": file_of(["client_no", "client", "town", "client_since", "account_type", "credit_limit"], clients),
        "projects.csv": file_of(["project_no", "title", "client_no", "lead_no", "kind", "budget", "target_hours", "opened", "closed", "status"], projects),
        "hours.csv": file_of(["entry", "project_no", "staff_no", "day", "hours", "hourly_rate"], hours),
        "costs.csv": file_of(["cost_no", "project_no", "bought_on", "supplier", "item", "quantity", "unit_price"], costs),
        "invoices.csv": file_of(["invoice_no", "project_no", "sent_on", "due_on", "amount", "paid_on"], invoices),
        "checks.csv": file_of(["check_no", "project_no", "checked_on", "check_name", "reading", "low_limit", "high_limit", "passed"], checks),
    }  # fmt: skip


def _cold_store() -> Files:
    """Lines of sales at a price less a discount, what came back of them, deliveries, counts of stock; reps with targets."""
    reps: list[Sequence[object]] = [
        [
            f"R{i}",
            PEOPLE[11 * i],
            "" if i == 1 else "R1" if i < 4 else "R2",
            _day(dt.date(2017, 1, 1), 2500),
            R.choice([9000, 22_000]),
        ]
        for i in range(1, 7)
    ]
    customers = [
        [f"K{i:03d}", f"{a} {b}", R.choice(["North", "South", "East"]), R.choice(reps)[0], R.choice(["shop", "restaurant", "school"]),
         _day(dt.date(2020, 1, 1), 2000), R.choice([14, 30, 60])]
        for i, (a, b) in enumerate(((a, b) for a in ("Blue", "Old", "Hill", "Green") for b in ("Plate", "Larder", "Deli", "Arms")), 1)
    ]  # fmt: skip
    products = []
    for i, (a, b) in enumerate(
        ((a, b) for b in ("cheese", "fish", "berries") for a in ("Smoked", "Wild", "Plain", "Soft")), 1
    ):
        cost = round(R.uniform(2, 14), 2)
        products.append([f"P{i:02d}", f"{a} {b}", b, R.choice(["Orms Dairy", "Bay Catch"]), cost, round(cost * R.uniform(1.2, 1.9), 2), R.choice([-20, 0, 2]), R.choice([4, 5, 8]), R.randint(10, 80)])  # fmt: skip
    deliveries, sales, returns = [], [], []
    for i in range(1, 301):
        p, day = R.choice(products), _day(dt.date(2025, 1, 1), 640)
        deliveries.append([i, p[0], day, R.randint(20, 300), day + dt.timedelta(R.randint(15, 120)), round(R.uniform(float(p[6]) - 2, float(p[7]) + 2), 1)])  # fmt: skip
    for i in range(1, 1201):
        p, c, day, number = R.choice(products), R.choice(customers), _day(dt.date(2025, 1, 1), 660), R.randint(1, 29)
        paid = day + dt.timedelta(R.randint(2, 90))
        sales.append([f"S{i:05d}", p[0], c[0], day, number, round(float(p[5]) * R.uniform(0.85, 1), 2), R.choice([0, 0, 5, 10]), day + dt.timedelta(int(str(c[6]))), paid if paid < dt.date(2026, 10, 25) else ""])  # fmt: skip
        if R.random() < 0.07:
            returns.append([len(returns) + 1, f"S{i:05d}", day + dt.timedelta(R.randint(1, 20)), R.randint(1, number), R.choice(["spoiled", "wrong item", "late"])])  # fmt: skip
    counts = [[p[0], dt.date(2026, month, 28), R.randint(0, 160)] for month in (7, 8, 9, 10) for p in products]
    return {
        "reps.csv": file_of(["rep_no", "rep_name", "manager_no", "hired", "monthly_target"], reps),
        "customers.csv": file_of(["customer_no", "customer", "region", "rep_no", "trade", "customer_since", "payment_days"], customers),
        "products.csv": file_of(["product_no", "product", "category", "supplier", "unit_cost", "list_price", "min_temp", "max_temp", "reorder_level"], products),
        "deliveries.csv": file_of(["delivery_no", "product_no", "received_on", "cases", "best_before", "temp_on_arrival"], deliveries),
        "sales.csv": file_of(["sale_no", "product_no", "customer_no", "sold_on", "quantity", "price_each", "discount_pct", "due_on", "paid_on"], sales),
        "returns.csv": file_of(["return_no", "sale_no", "returned_on", "quantity", "reason"], returns),
        "stock_counts.csv": file_of(["product_no", "counted_on", "on_hand"], counts),
    }  # fmt: skip


def _survey() -> Files:
    """Six statements, rated from 1 to 5 in a column each, whose meaning is told by a code book."""
    statements = [
        "I have the tools I need", "My manager listens to me", "I am proud of where I work",
        "I can finish my work in time", "I often feel tired after work", "I know what is expected of me",
    ]  # fmt: skip
    rows = [
        [f"R{i:04d}", R.choice([2025, 2026]), R.choice(["Design", "Build", "Yard"]), R.choice(["under 30", "30-44", "45-59"]),
         *(R.choice([1, 2, 3, 4, 4, 5, ""]) for _ in statements), R.randint(0, 10), R.choice(["", "Too noisy", "More breaks please"])]
        for i in range(1, 301)
    ]  # fmt: skip
    book = [
        ["reply_no", "Number of the reply"],
        ["year", "Year of the survey"],
        ["team", "Team"],
        ["age_group", "Age group"],
    ]
    book += [[f"q{i}", f"{said} (1 = not at all, 5 = fully)"] for i, said in enumerate(statements, 1)]
    book += [["recommend", "How likely to recommend us as a place to work, 0 to 10"], ["remarks", "Remarks"]]
    return {
        "replies.csv": file_of(
            ["reply_no", "year", "team", "age_group", "q1", "q2", "q3", "q4", "q5", "q6", "recommend", "remarks"], rows
        ),
        "codebook.csv": file_of(["column", "meaning"], book),
    }


def _statistics() -> Files:
    """Figures by place, sex, age and time, in codes that a file of its own spells out; places of two levels."""
    countries = [("ARD", "Ardania"), ("BEL", "Belvar"), ("COR", "Corvia"), ("DUN", "Dunmark")]
    places = [[code, name, "C", "", year] for (code, name), year in zip(countries, (1995, 1995, 2004, ""), strict=True)]
    places += [
        [f"{code}{i}", f"{name} {side}", "R", code, ""]
        for code, name in countries
        for i, side in enumerate(("North", "South"), 1)
    ]
    people, rates, nights = [], [], []
    for code, *_ in places:
        size = R.randint(300, 9000) * 1000
        for year in range(2019, 2026):
            cells = {
                (sex, age): int(size * part / 2 * R.uniform(0.95, 1.1))
                for sex in "FM"
                for age, part in (("Y0-14", 0.16), ("Y15-64", 0.64), ("Y65+", 0.2))
            }
            for sex in "FMT":
                for age in ("Y0-14", "Y15-64", "Y65+", "TOTAL"):
                    met = [n for (s, a), n in cells.items() if sex in (s, "T") and age in (a, "TOTAL")]
                    people.append([code, sex, age, year, sum(met)])
        for month in range(24):
            for origin in ("DOM", "FOR"):
                nights.append([code, f"{2024 + month // 12}-{month % 12 + 1:02d}", origin, R.randint(1000, 90_000)])
    for code, _ in countries:
        for month in range(24):
            for sex in "FMT":
                rates.append([code, sex, f"{2024 + month // 12}-{month % 12 + 1:02d}", round(R.uniform(2, 12), 1)])
    codes = [
        ["sex", "F", "Women"], ["sex", "M", "Men"], ["sex", "T", "Both sexes"], ["age", "Y0-14", "Under 15"], ["age", "Y15-64", "15 to 64"],
        ["age", "Y65+", "65 and over"], ["age", "TOTAL", "All ages"], ["origin", "DOM", "Residents"], ["origin", "FOR", "Visitors from abroad"],
        ["level", "C", "Country"], ["level", "R", "Region"],
    ]  # fmt: skip
    return {
        "geo.csv": file_of(["geo", "name", "level", "parent", "union_since"], places),
        "population.csv": file_of(["geo", "sex", "age", "year", "persons"], people),
        "unemployment.csv": file_of(["geo", "sex", "month", "rate"], rates),
        "tourism_nights.csv": file_of(["geo", "month", "origin", "nights"], nights),
        "codes.csv": file_of(["dimension", "code", "label"], codes),
    }


def _auctions() -> Files:
    """An auction house: each lot is one thing, which has a price and a buyer once it is sold."""
    sales = [
        [f"SALE{n + 1:02d}", dt.date(2024, 1, 18) + dt.timedelta(28 * n), R.choice(["Furniture", "Paintings", "Books"]),
         R.choice(["Room A", "Room B", "Online"]), R.choice(["P. Orme", "J. Quill", "S. Roe"])]
        for n in range(34)
    ]  # fmt: skip
    clients = [
        [f"C{n:03d}", f"{R.choice(PEOPLE)} {n}", R.choice(["private", "dealer", "estate"]), R.choice(["Kent", "Essex", "France"])]
        for n in range(40)
    ]  # fmt: skip
    lots = []
    for sale, _, theme, *_ in sales:
        for lot in range(1, R.randint(9, 16)):
            low = R.choice([20, 40, 60, 80, 150, 300, 800])
            state = R.choice(["sold", "sold", "sold", "unsold", "withdrawn"])
            sold = state == "sold"
            hammer = round(low * R.uniform(0.7, 2.6), -1) if sold else ""
            buyer, paid = (R.choice(clients)[0], R.choice(["yes", "yes", "no"])) if sold else ("", "")
            lots.append(
                [
                    sale,
                    lot,
                    R.choice(["Chest", "Clock", "Rug", "Print"]),
                    theme,
                    R.choice(clients)[0],
                    low,
                    hammer,
                    state,
                    buyer,
                    paid,
                ]
            )
    head = [
        "Auction No",
        "Lot",
        "Description",
        "Category",
        "Seller",
        "Low Estimate",
        "Hammer Price",
        "Status",
        "Buyer",
        "Paid",
    ]
    return {
        "Auctions.csv": file_of(["Auction No", "Date", "Theme", "Location", "Auctioneer"], sales),
        "Clients.csv": file_of(["Client ID", "Client", "Type", "Region"], clients),
        "Lots.csv": file_of(head, lots),
    }


def _blood() -> Files:
    """Sessions at which blood is given: what came of each appointment says which of them were donations."""
    donors = [[f"D{n:03d}", f"{R.choice(PEOPLE)} {n}", R.choice("MF"), R.choice(["O+", "A+", "O-"])] for n in range(90)]
    venues = [
        [f"V{n}", name, beds] for n, (name, beds) in enumerate([("Town Hall", 12), ("College", 10), ("Rugby Club", 6)])
    ]
    sessions = [[f"S{n:02d}", R.choice(venues)[0], dt.date(2024, 1, 8) + dt.timedelta(14 * n)] for n in range(70)]
    kept = []
    for session, *_ in sessions:
        for _ in range(R.randint(5, 9)):
            outcome = R.choice(["donated", "donated", "donated", "no show", "turned away"])
            volume = R.choice([450, 470, 475]) if outcome == "donated" else ""
            kept.append([f"A{len(kept):04d}", session, R.choice(donors)[0], outcome, volume])
    return {
        "donors.csv": file_of(["donor_id", "name", "sex", "blood_group"], donors),
        "venues.csv": file_of(["venue_id", "venue", "beds"], venues),
        "sessions.csv": file_of(["session_id", "venue_id", "session_date"], sessions),
        "appointments.csv": file_of(["appointment_id", "session_id", "donor_id", "outcome", "volume_ml"], kept),
    }


WORKS: dict[str, Files] = {
    "builders": _builders(),
    "coldstore": _cold_store(),
    "ratings": _survey(),
    "statistics": _statistics(),
    "auctions": _auctions(),
    "blood": _blood(),
}
