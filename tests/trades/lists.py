"""Made-up lists as people keep them in one sheet: cars for sale, goods, a club, lessons, eggs, and figures in long form."""

from __future__ import annotations

import datetime as dt
import random

from tests.trades.making import PEOPLE, Files, file_of

R = random.Random(59)
_TODAY = dt.date(2026, 10, 31)


def _day(first: dt.date, days: int) -> dt.date:
    return first + dt.timedelta(R.randint(0, days))


def _cars() -> Files:
    heads = (
        "Stock no,Make,Body,Year,Mileage,Fuel,Gearbox,Bought on,Bought for,Asking price,Sold on,Sold for,Sold by,Owners"
    )
    rows = []
    for number in range(200):
        price, came = R.randint(2500, 38000), _day(dt.date(2025, 9, 1), 400)
        gone = came + dt.timedelta(R.randint(2, 120))
        sold = R.random() < 0.6 and gone <= _TODAY
        kind = [
            R.choice(["Ford", "Kia", "Volvo"]),
            R.choice(["Hatchback", "Estate", "SUV", "Van"]),
            R.randint(2012, 2025),
        ]
        told = [R.randint(4000, 140000), R.choice(["Petrol", "Diesel", "Electric"]), R.choice(["Manual", "Automatic"])]
        paid = [gone, int(price * R.uniform(0.9, 1)), R.choice(["Lena", "Omar"])] if sold else ["", "", ""]
        rows.append([f"ST{number:04d}", *kind, *told, came, int(price * 0.85), price, *paid, R.randint(1, 4)])
    return {"Stock list.csv": file_of(heads.split(","), rows)}


def _goods() -> Files:
    heads = "Code,Product,Range,Supplier,Cost,RRP,In stock,Reorder level,Sold this year,Last sale,Discontinued"
    ranges = {"Tea": ["Assam", "Mint", "Green"], "Coffee": ["House Blend", "Decaf"], "Mugs": ["Large Mug", "Small Mug"]}
    rows: list[list[object]] = []
    for name, kinds in ranges.items():
        for kind in kinds:
            for size in ("Classic", "Gift", "Family"):
                prices = [round(R.uniform(1, 9), 2), round(R.uniform(10, 22), 2)]
                held = [R.choice([0, 3, 12, 40, 85]), R.choice([5, 10, 20]), R.randint(0, 400)]
                when = [_day(dt.date(2026, 1, 1), 300), R.choice("YNNN")]
                rows.append(
                    [f"BK{len(rows):03d}", f"{size} {kind}", name, R.choice(["Leaf", "Bean"]), *prices, *held, *when]
                )
    return {"products.csv": file_of(heads.split(","), rows)}


def _lessons() -> Files:
    heads = "#,Lesson date,Day,Slot,Class,Subject,Tutor,Student,Student type,Fee,Paid,Attendance,Level"
    classes = [("Guitar", "Music", "Ivo", 25), ("Pottery", "Art", "June", 30), ("Spanish", "Language", "Rosa", 18)]
    rows = []
    for number in range(1, 420):
        name, subject, tutor, fee = R.choice(classes)
        when = [_day(dt.date(2025, 9, 1), 425), R.choice(["Mon", "Tue", "Sat"]), R.choice(["10am", "2pm", "6pm"])]
        who = [R.choice(PEOPLE), R.choice(["Adult", "Child"]), fee, R.choice([fee, fee, 0])]
        told = [R.choice(["Present", "Present", "Absent", "Cancelled"]), R.choice(["Beginner", "Advanced"])]
        rows.append([number, *when, name, subject, tutor, *who, *told])
    return {"class bookings.csv": file_of(heads.split(","), rows)}


def _eggs() -> Files:
    heads = "Date,House,Birds,Eggs collected,Broken,Feed kg,Collected by,Weather,Deaths"
    rows = []
    for _ in range(420):
        told = [R.randint(40, 180), R.randint(0, 8), round(R.uniform(4, 20), 1), R.choice(["Hilda", "Sid"])]
        where = [
            _day(dt.date(2025, 1, 1), 665),
            R.choice(["Coop A", "Coop B", "Field pen"]),
            R.choice(["Chickens", "Ducks"]),
        ]
        rows.append([*where, *told, R.choice(["Sunny", "Wet", "Frost"]), R.choice([0, 0, 1, 2])])
    return {"egg record.csv": file_of(heads.split(","), rows)}


def _lettings() -> Files:
    heads = (
        "Address,Type,Bedrooms,Area,Landlord,Tenant,Tenancy start,Tenancy end,Monthly rent,Arrears,Furnished,EPC,Fee %"
    )
    rows = []
    for _ in range(150):
        start, rent = _day(dt.date(2021, 1, 1), 1900), R.choice([550, 650, 800, 950, 1100])
        place = [
            f"{R.randint(1, 99)} {R.choice(['High', 'Mill', 'Park'])} St",
            R.choice(["Flat", "House", "Studio", "Bungalow"]),
        ]
        who = [
            R.randint(1, 4),
            R.choice(["Norton", "Selby"]),
            R.choice(PEOPLE),
            R.choice(PEOPLE) if R.random() > 0.1 else "",
        ]
        told = [start, start + dt.timedelta(R.choice([180, 365, 730])), rent, R.choice([0, 0, rent, 2 * rent])]
        rows.append([*place, *who, *told, R.choice(["Yes", "No"]), R.choice("ABCDE"), R.choice([8, 10, 12])])
    return {"Lettings register.csv": file_of(heads.split(","), rows)}


def _local() -> Files:
    rows: list[list[object]] = []
    for area, region in (("Ashby", "North"), ("Barton", "North"), ("Carlow", "South"), ("Denby", "South")):
        size = R.randint(20_000, 300_000)
        for year in range(2015, 2025):
            grown = int(size * (1 + 0.01 * (year - 2015)))
            told = {"Population": grown, "Births": int(size * 0.011 * R.uniform(0.8, 1.1)), "Deaths": int(size * 0.01)}
            told |= {"Unemployment rate": round(R.uniform(2, 9), 1), "New homes": R.randint(50, 900)}
            rows += [[area, region, year, measure, value] for measure, value in told.items()]
    return {"local statistics.csv": file_of(["Area", "Region", "Year", "Measure", "Value"], rows)}


LISTS: dict[str, Files] = {
    "carlot": _cars(),
    "goods": _goods(),
    "lessons": _lessons(),
    "eggs": _eggs(),
    "register": _lettings(),
    "local": _local(),
}
