"""Made-up single sheets, as they are handed on: who left, cars for sale, a till, countries year by year, accidents, loans, air."""

from __future__ import annotations

import datetime as dt
import random

from tests.trades.making import Files, file_of

R = random.Random(53)
_FIRST = dt.date(2024, 1, 1)


def _day(days: int = 900) -> dt.date:
    return _FIRST + dt.timedelta(R.randint(0, days))


def _yes(share: float = 0.5) -> str:
    return "Yes" if R.random() < share else "No"


def _subscribers() -> Files:
    """Who left, with answers that are neither yes nor no where the question does not arise."""
    rows = []
    for n in range(400):
        net = R.choice(["Fibre", "Cable", "None"])
        offered = "No internet" if net == "None" else _yes()
        term = R.choice(["Monthly", "Yearly"])
        left = "Yes" if R.random() < (0.35 if term == "Monthly" else 0.1) else "No"
        rows.append(
            [f"S{n}", R.choice(["F", "M"]), R.choice([0, 1]), R.randint(1, 70), net, offered, term, _yes(),
             round(R.uniform(10, 90), 2), left]
        )  # fmt: skip
    heads = "subscriber,sex,retired,months_with_us,internet,backup_plan,term,paper_bill,monthly_fee,churned"
    return {"subscribers.csv": file_of(heads.split(","), rows)}


def _leavers() -> Files:
    rows = [
        [n, R.randint(19, 62), _yes(0.2), R.choice(["Labs", "Sales", "Stores"]), R.choice(["School", "Degree"]),
         R.randint(1, 4), R.choice(["Chemist", "Clerk", "Porter"]), _yes(0.3), R.randint(1500, 9000), R.randint(0, 20)]
        for n in range(1, 301)
    ]  # fmt: skip
    heads = "StaffNo,Age,Attrition,Dept,Education,JobLevel,JobRole,OverTime,MonthlyPay,YearsHere"
    return {"workforce.csv": file_of(heads.split(","), rows)}


def _forecourt() -> Files:
    models = {"Fenwick": ["Dart", "Lark"], "Ostler": ["Mule", "Pony"], "Vanta": ["Volt"]}
    rows = []
    for _ in range(300):
        make = R.choice(list(models))
        rows.append(
            [make, R.choice(models[make]), R.randint(2008, 2025), R.randint(15, 380) * 100, R.randint(300, 150_000),
             R.choice(["Petrol", "Diesel", "Electric"]), R.randint(10, 35) / 10, R.randint(250, 700) / 10]
        )  # fmt: skip
    heads = "make,model,year,price,mileage,fuel,engine_size,mpg"
    return {"listings.csv": file_of(heads.split(","), rows)}


def _counter() -> Files:
    rows = []
    for n in range(300):
        cogs = round(R.uniform(4, 80) * R.randint(1, 9), 2)
        tax = round(0.05 * cogs, 2)
        rows.append([f"T{n}", R.choice("AB"), R.choice(["Food", "Garden"]), tax, round(cogs + tax, 2), cogs, _day(300)])
    return {"sales.csv": file_of(["Receipt", "Branch", "Line", "Tax 5%", "Total", "cogs", "Date"], rows)}


def _nations() -> Files:
    nations = [
        ["Aldovia", "North"],
        ["Brennland", "North"],
        ["Corvia", "South"],
        ["Dalmor", "South"],
        ["Estra", "East"],
    ]
    seats = ["Aldport", "Brenn", "Corvo", "Dalton", "Estville"]
    rows = [
        [
            name,
            year,
            (n + 2) * 1_000_000 + 20_000 * (year - 2000),
            round(R.uniform(20, 400), 1),
            round(R.uniform(1, 9), 2),
        ]
        for n, (name, _) in enumerate(nations)
        for year in range(2010, 2025)
    ]
    return {
        "countries.csv": file_of(
            ["country", "region", "capital"], [[*n, s] for n, s in zip(nations, seats, strict=True)]
        ),
        "figures.csv": file_of(["country", "year", "population", "gdp_bn", "co2_per_capita"], rows),
    }


def _roads() -> Files:
    rows = [
        [f"A{n}", _day(), f"{R.randint(0, 23):02}:{R.randint(0, 59):02}", R.choice(["North", "East"]),
         R.choice(["Slight", "Serious", "Fatal"]), R.choice(["Daylight", "Darkness - lit", "Darkness - unlit"])]
        for n in range(400)
    ]  # fmt: skip
    return {"accidents.csv": file_of(["ref", "date", "time", "district", "severity", "light"], rows)}


def _advances() -> Files:
    rows = []
    for n in range(300):
        asked, said = _day(700), R.choice(["Approved", "Approved", "Rejected", "Pending"])
        decided = "" if said == "Pending" else asked + dt.timedelta(R.randint(1, 20))
        rows.append(
            [f"L{n}", asked, R.randint(12, 90) * 1000, R.randint(420, 850), R.choice(["Car", "Home"]),
             R.randint(1, 30) * 1000, R.choice([12, 24, 36]), said, decided, _yes(0.1) if said == "Approved" else ""]
        )  # fmt: skip
    heads = "application_id,application_date,income,credit_score,purpose,loan_amount,term_months,status,decision_date,defaulted"
    return {"applications.csv": file_of(heads.split(","), rows)}


def _air() -> Files:
    rows = [
        [station, f"{_FIRST + dt.timedelta(hours=6 * n):%Y-%m-%d %H:%M}", R.randint(50, 800) / 10, R.randint(20, 350) / 10,
         R.randint(-20, 180) / 10]
        for station in ("Park", "Quay")
        for n in range(240)
    ]  # fmt: skip
    return {"readings.csv": file_of(["station", "taken_at", "NO2", "PM2.5", "air_temp"], rows)}


def _polls() -> Files:
    rows = [
        [year, seat, party, R.randint(2000, 30_000)]
        for year in (2019, 2024)
        for seat in ("Ashley", "Brookham", "Cartton")
        for party in ("Amber", "Plum", "Teal")
    ]
    return {"results.csv": file_of(["year", "constituency", "party", "votes"], rows)}


def _order_lines() -> Files:
    """Lines of orders with what each brought in and left."""
    names = [f"{first} {last}" for first in ("Ann", "Bob", "Cara") for last in ("Adams", "Brook", "Cole")]
    rows = []
    for n in range(150):
        ordered, who, region = _day(700), R.choice(names), R.choice(["West", "East"])
        sent = ordered + dt.timedelta(R.randint(0, 7))
        for product in R.sample(["Chair", "Desk", "Lamp", "Paper"], R.randint(1, 3)):
            sales = R.randint(500, 90_000) / 100
            rows.append(
                [len(rows) + 1, f"OR-{n}", ordered, sent, who, region, product, sales, R.randint(1, 9),
                 round(sales * R.uniform(-0.2, 0.4), 2)]
            )  # fmt: skip
    heads = "Row ID,Order ID,Order Date,Ship Date,Customer Name,Region,Product Name,Sales,Quantity,Profit"
    return {"orders.csv": file_of(heads.split(","), rows)}


def _queries() -> Files:
    """Tickets with when they came, were first answered and done with."""
    rows = []
    for n in range(250):
        came = dt.datetime(2026, 1, 1) + dt.timedelta(minutes=R.randint(0, 400_000))
        done = R.random() < 0.8
        rows.append(
            [f"Q{n}", f"{came:%Y-%m-%d %H:%M}", f"{came + dt.timedelta(minutes=R.randint(3, 400)):%Y-%m-%d %H:%M}",
             f"{came + dt.timedelta(hours=R.randint(5, 90)):%Y-%m-%d %H:%M}" if done else "",
             "Closed" if done else "Open", R.choice(["Low", "High"]), R.choice(["Priya", "Sam"]), R.randint(1, 5)]
        )  # fmt: skip
    heads = "ticket,created_at,first_response_at,resolved_at,status,priority,agent,csat"
    return {"tickets.csv": file_of(heads.split(","), rows)}


def _account() -> Files:
    rows, balance = [], 900.0
    for n in range(300):
        paid = n % 15 == 0
        amount = 2100.0 if paid else -R.randint(300, 12_000) / 100
        balance = round(balance + amount, 2)
        kind = "Salary" if paid else R.choice(["Groceries", "Rent", "Eating out"])
        rows.append([f"{_FIRST + dt.timedelta(2 * n):%d/%m/%Y}", R.choice(["METRO", "CAFE"]), kind, amount, balance])
    return {"transactions.csv": file_of(["Date", "Description", "Category", "Amount", "Balance"], rows)}


def _plots() -> Files:
    rows = [
        [f"{n} {R.choice(['Elm', 'Oak'])} Road", R.choice(["Detached", "Semi", "Terraced", "Flat"]), R.randint(1, 5),
         R.choice(["Freehold", "Leasehold"]), _day(), R.randint(90, 900) * 1000, R.randint(35, 220)]
        for n in range(1, 251)
    ]  # fmt: skip
    heads = ["Address", "Type", "Bedrooms", "Tenure", "Sale date", "Price", "Area sqm"]
    return {"sales.csv": file_of(heads, rows)}


def _batches() -> Files:
    rows = [
        [f"B{n:03}", R.choice(["L1", "L2"]), R.choice(["Cap", "Jar"]), _day(), (made := R.randint(800, 2000)),
         R.randint(0, made // 20), R.choice([0, 0, 12, 45])]
        for n in range(250)
    ]  # fmt: skip
    heads = "batch_no,line,product,produced_on,units_produced,units_rejected,downtime_min"
    return {"batches.csv": file_of(heads.split(","), rows)}


def _sessions() -> Files:
    rows = [
        [n, R.randint(1, 120), _day(), R.choice(["mobile", "desktop"]), R.choice(["organic", "paid"]), R.randint(1, 20),
         R.choice([0, 0, 0, 1])]
        for n in range(400)
    ]  # fmt: skip
    heads = "session_id,user_id,started,device,source,pages,converted"
    return {"sessions.csv": file_of(heads.split(","), rows)}


def _gifts() -> Files:
    givers = [[n, f"Giver {n}", R.choice(["Ely", "Wells"])] for n in range(1, 61)]
    gifts = [
        [n, R.randint(1, 55), _day(), R.choice([5, 20, 100]), R.choice(["Spring", "Winter"])] for n in range(1, 301)
    ]
    return {
        "donors.csv": file_of(["donor_id", "name", "town"], givers),
        "donations.csv": file_of(["donation_id", "donor_id", "donation_date", "amount", "campaign"], gifts),
    }


def _hours() -> Files:
    rows = [
        [R.choice(["Amy Lin", "Ben Cho"]), _day(), R.choice(["Orchid", "Basalt"]), R.choice([1, 2, 7.5]), _yes(0.7)]
        for _ in range(300)
    ]
    return {"timesheets.csv": file_of(["Employee", "Date", "Client", "Hours", "Billable"], rows)}


def _buildings() -> Files:
    rows = []
    for name, kind, area in (
        ("Alder House", "Office", 900),
        ("Birch Hall", "Depot", 4000),
        ("Cedar Court", "Office", 2500),
    ):
        for month in range(1, 13):
            power, gas = area * R.randint(4, 9), area * R.randint(2, 9)
            rows.append(
                [name, kind, area, f"2026-{month:02}", power, gas, round(power * 0.27, 2), round(gas * 0.07, 2)]
            )
    head = [
        "Building",
        "Type",
        "Floor area (m2)",
        "Month",
        "Electricity kWh",
        "Gas kWh",
        "Electricity cost",
        "Gas cost",
    ]
    return {"meter readings.csv": file_of(head, rows)}


def _classes() -> Files:
    rows = [
        [
            f"BK{n}",
            R.choice(["Yoga", "Spin", "Circuits"]),
            R.choice(["Maya", "Leo"]),
            _day(),
            f"M{R.randint(1, 60):03}",
            R.choice(["Gold", "Silver"]),
            R.choice(["Attended", "Attended", "No show", "Cancelled"]),
            R.choice([0, 6.5, 8, 9.5]),
        ]
        for n in range(400)
    ]
    head = ["Booking Ref", "Class", "Instructor", "Class Date", "Member", "Membership", "Status", "Price Paid"]
    return {"class bookings.csv": file_of(head, rows)}


SHEETS: dict[str, Files] = {
    "subscribers": _subscribers(),
    "leavers": _leavers(),
    "forecourt": _forecourt(),
    "counter": _counter(),
    "countries by year": _nations(),
    "roads": _roads(),
    "advances": _advances(),
    "air": _air(),
    "polls": _polls(),
    "lines of orders": _order_lines(),
    "queries": _queries(),
    "account": _account(),
    "plots": _plots(),
    "batches": _batches(),
    "sessions": _sessions(),
    "gifts": _gifts(),
    "hours": _hours(),
    "buildings": _buildings(),
    "studio bookings": _classes(),
}
