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


SHEETS: dict[str, Files] = {
    "subscribers": _subscribers(),
    "leavers": _leavers(),
    "forecourt": _forecourt(),
    "counter": _counter(),
    "indicators": _nations(),
    "roads": _roads(),
    "advances": _advances(),
    "air": _air(),
    "polls": _polls(),
}
