"""Made-up files of those who keep registers and publish figures: policies and claims, homes that are let, areas, indicators, gases."""

from __future__ import annotations

import datetime as dt
import random

from tests.trades.making import PEOPLE, Files, file_of

R = random.Random(41)
_TODAY = dt.date(2026, 10, 31)
_TOWNS = ["Harlow Bay", "Northby", "Castle Mere", "Eastwick", "Fernham"]


def _day(first: dt.date, days: int) -> dt.date:
    return first + dt.timedelta(R.randint(0, days))


def _policies() -> Files:
    causes = {
        "Home": ["Water leak", "Fire", "Storm"],
        "Motor": ["Collision", "Theft", "Windscreen"],
        "Pet": ["Vet fees"],
        "Travel": ["Cancellation", "Lost baggage"],
    }
    brokers = [["B1", "Ridgeway", "North", 12.5], ["B2", "Quayside", "South", 10], ["B4", "Hollin & Co", "North", 15]]
    holders = [
        [
            f"H{i:04d}",
            R.choice(PEOPLE),
            _day(dt.date(1940, 1, 1), 23_000),
            R.choice(_TOWNS),
            _day(dt.date(2015, 1, 1), 3900),
        ]
        for i in range(300)
    ]
    policies, claims = [], []
    for holder in holders:
        for _ in range(R.choice([0, 1, 1, 2, 3])):
            product, start = (
                R.choice(["Home", "Home", "Motor", "Motor", "Pet", "Travel"]),
                _day(dt.date(2022, 1, 1), 1700),
            )
            end = start + dt.timedelta(20 if product == "Travel" else 364)
            number, excess = f"P{20_000 + len(policies)}", R.choice([0, 100, 250])
            status = "lapsed" if end < _TODAY else "active"
            policies.append(
                [
                    number,
                    holder[0],
                    product,
                    start,
                    end,
                    round(R.uniform(80, 900), 2),
                    excess,
                    R.choice(brokers)[0],
                    status,
                ]
            )
            for _ in range(R.choice([0, 0, 1, 2])):
                incident = _day(start, 20 if product == "Travel" else 350)
                reported = incident + dt.timedelta(R.choice([0, 1, 3, 7, 20, 60]))
                amount, state = round(R.uniform(60, 6000), 2), R.choice(["paid", "paid", "declined", "open"])
                paid = round(max(0.0, amount - excess) * R.choice([1, 0.8]), 2) if state == "paid" else ""
                settled = reported + dt.timedelta(R.randint(2, 120)) if state != "open" else ""
                claims.append(
                    [
                        f"C{5000 + len(claims)}",
                        number,
                        incident,
                        reported,
                        R.choice(causes[product]),
                        amount,
                        paid,
                        settled,
                        state,
                        R.choice(["I. Marsh", "R. Vane", "T. Holt"]),
                    ]
                )
    return {
        "brokers.csv": file_of(["broker_id", "broker", "region", "commission_pct"], brokers),
        "holders.csv": file_of(["holder_id", "name", "date_of_birth", "town", "customer_since"], holders),
        "policies.csv": file_of(
            ["policy_no", "holder_id", "product", "start_date", "end_date", "premium", "excess", "broker_id", "status"],
            policies,
        ),
        "claims.csv": file_of(
            [
                "claim_no",
                "policy_no",
                "incident_date",
                "reported_date",
                "cause",
                "amount_claimed",
                "amount_paid",
                "settled_date",
                "status",
                "handler",
            ],
            claims,
        ),
    }


def _rentals() -> Files:
    homes = [
        [
            f"R{100 + i}",
            f"{R.randint(1, 90)} {R.choice(['Mill', 'Quay', 'Park'])} Road {i}",
            R.choice(_TOWNS),
            R.choice(["Flat", "House", "Studio"]),
            R.choice([1, 2, 3]),
            R.randint(550, 1800),
        ]
        for i in range(50)
    ]
    tenancies, payments, repairs = [], [], []
    for home in homes:
        start = _day(dt.date(2022, 1, 1), 300)
        while start < dt.date(2026, 9, 1):
            end = start + dt.timedelta(R.choice([180, 365, 540]))
            number, rent = f"T{1000 + len(tenancies)}", home[5] + R.choice([-50, 0, 25])
            tenancies.append([number, home[0], R.choice(PEOPLE), start, end, rent, rent, R.choice(["yes", "no", ""])])
            month = start.replace(day=1)
            while month <= min(end, dt.date(2026, 10, 1)):
                missed = R.random() < 0.06
                when = "" if missed else month + dt.timedelta(R.choice([0, 1, 3, 20]))
                payments.append([len(payments) + 1, number, month, rent, when, 0 if missed else rent])
                month = (month + dt.timedelta(31)).replace(day=1)
            start = end + dt.timedelta(R.choice([5, 25, 60]))
    for i in range(300):
        reported = _day(dt.date(2023, 1, 1), 1390)
        repairs.append(
            [
                7000 + i,
                R.choice(homes)[0],
                reported,
                R.choice(["Plumbing", "Heating", "Damp"]),
                R.choice(["urgent", "routine"]),
                reported + dt.timedelta(R.choice([1, 5, 21])),
                round(R.uniform(30, 900), 2),
            ]
        )
    return {
        "properties.csv": file_of(["property_id", "address", "town", "type", "bedrooms", "asking_rent"], homes),
        "tenancies.csv": file_of(
            [
                "tenancy_id",
                "property_id",
                "tenant",
                "start_date",
                "end_date",
                "monthly_rent",
                "deposit",
                "deposit_returned",
            ],
            tenancies,
        ),
        "rent_payments.csv": file_of(
            ["payment_id", "tenancy_id", "due_date", "amount_due", "paid_on", "amount_paid"], payments
        ),
        "repairs.csv": file_of(
            ["job_no", "property_id", "reported_on", "category", "priority", "completed_on", "cost"], repairs
        ),
    }


_AREAS = [
    ("Harrow", "North"), ("Tarn", "North"), ("Brock", "North"), ("Selby Vale", "South"), ("Quay", "South"),
    ("Mere", "South"), ("Dunsop", "East"), ("Ash", "East"), ("Coomb", "West"), ("Fell", "West"),
]  # fmt: skip


def _areas() -> Files:
    people, jobless, prices = [], [], []
    for i, (name, _) in enumerate(_AREAS):
        count, base = R.randint(40_000, 400_000), R.randint(140_000, 420_000)
        row: list[object] = [f"E{900 + i}", name]
        for year in range(2018, 2025):
            count = int(count * R.uniform(0.99, 1.025))
            row.append(count)
            for sex in ("Female", "Male"):
                active, rate = int(count * R.uniform(0.3, 0.33)), R.uniform(2.5, 8)
                jobless.append([f"E{900 + i}", year, sex, active, int(active * rate / 100), round(rate, 1)])
            for quarter in range(1, 5):
                prices.append([f"E{900 + i}", f"{year} Q{quarter}", base + R.randint(-9000, 9000), R.randint(90, 900)])
        people.append(row)
    areas = [[f"E{900 + i}", n, r, round(R.uniform(20, 700), 1)] for i, (n, r) in enumerate(_AREAS)]
    return {
        "areas.csv": file_of(["area_code", "area_name", "region", "land_area_km2"], areas),
        "population.csv": file_of(["Area code", "Area", *map(str, range(2018, 2025))], people),
        "unemployment.csv": file_of(
            ["area_code", "year", "sex", "economically_active", "unemployed", "unemployment_rate"], jobless
        ),
        "house_prices.csv": file_of(["area_code", "period", "median_price", "sales"], prices),
    }


def _indicators() -> Files:
    told = {
        "Life expectancy at birth": (78.0, 84.0, "Years"),
        "Smoking prevalence": (8.0, 20.0, "%"),
        "GP appointments": (40_000.0, 200_000.0, "Count"),
    }
    rows = [
        [f"E{6000 + i}", name, region, indicator, sex, year, round(R.uniform(low, high), 1), unit]
        for i, (name, region) in enumerate(_AREAS)
        for indicator, (low, high, unit) in told.items()
        for year in range(2016, 2024)
        for sex in (("Persons",) if unit == "Count" else ("Female", "Male", "Persons"))
    ]
    ranks = [[f"E{6000 + i}", round(R.uniform(10, 40), 2), R.randint(1, 10)] for i in range(len(_AREAS))]
    return {
        "health_indicators.csv": file_of(
            ["Area Code", "Area Name", "Region", "Indicator", "Sex", "Year", "Value", "Unit"], rows
        ),
        "deprivation.csv": file_of(["area_code", "imd_score", "decile"], ranks),
    }


def _gases() -> Files:
    sectors = ["Energy supply", "Business", "Transport", "Residential", "Agriculture", "Waste management"]
    rows = [
        [sector, gas, *(round(R.uniform(1, 60), 2) for _ in range(2010, 2024))]
        for sector in sectors
        for gas in ("CO2", "CH4", "N2O")
    ]
    return {"greenhouse_gas_emissions.csv": file_of(["Sector", "Gas", *map(str, range(2010, 2024))], rows)}


REGISTERS: dict[str, Files] = {
    "policies": _policies(),
    "rentals": _rentals(),
    "areas": _areas(),
    "indicators": _indicators(),
    "gases": _gases(),
}
