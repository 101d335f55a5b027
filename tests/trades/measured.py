"""Made-up files of what is measured and published, and of a school, a studio, a farm, a ward, a hotel and projects."""

from __future__ import annotations

import datetime as dt
import math
import random

from tests.trades.making import PEOPLE, Files, file_of

R = random.Random(41)
_TODAY = dt.date(2026, 10, 31)


def _day(first: dt.date, days: int) -> dt.date:
    return first + dt.timedelta(R.randint(0, days))


def _motors() -> Files:
    makes = {"USA": ["corley", "dunmore", "harper"], "Europe": ["fiala", "vosk"], "Japan": ["tanabe", "honjo"]}
    rows = []
    for number in range(320):
        cylinders = R.choice([3, 4, 4, 4, 6, 6, 8, 8])
        weight = 1500 + cylinders * 300 + R.randint(-200, 700)
        origin = R.choices(list(makes), [6, 2, 2])[0]
        name = f"{R.choice(makes[origin])} {R.choice(['custom', 'gt', 'estate', 'deluxe'])} {number}"
        power = int(weight / 30 + R.randint(-15, 30)) if R.random() > 0.03 else ""
        mpg = max(round(55 - weight / 110 + R.uniform(-3, 3), 1), 9)
        rows.append([name, mpg, cylinders, power, weight, round(R.uniform(8, 24), 1), origin])
    return {"auto.csv": file_of(["name", "mpg", "cylinders", "horsepower", "weight", "acceleration", "origin"], rows)}


def _voyage() -> Files:
    rows = []
    for number in range(1, 500):
        ticket, sex = R.choice([1, 2, 3, 3]), R.choice(["male", "male", "female"])
        lived = {1: 0.6, 2: 0.45, 3: 0.25}[ticket] + (0.3 if sex == "female" else -0.15)
        fare = round(R.uniform(7, 90) / ticket * 2, 2)
        age = R.randint(1, 74) if R.random() > 0.2 else ""
        rows.append(
            [number, int(R.random() < lived), ticket, f"{R.choice(PEOPLE)} {number}", sex, age, fare, R.choice("SSCQ")]
        )
    return {
        "passengers.csv": file_of(["PassengerId", "Survived", "Pclass", "Name", "Sex", "Age", "Fare", "Embarked"], rows)
    }


VOYAGE_SAID = {
    "Survived": "1 if the passenger survived, 0 if not",
    "Pclass": "ticket class (1 = first, 2 = second, 3 = third)",
    "Embarked": "port where the passenger boarded: C = Corby Haven, Q = Quayford, S = Saltmouth",
}


def _quakes() -> Files:
    rows = []
    for _ in range(900):
        when = dt.datetime(2024, 1, 1) + dt.timedelta(minutes=R.randint(0, 60 * 24 * 500))
        region = R.choice(["Altmark", "Brenia", "Corvania", "Dorland", "Elstria"])
        depth, size = round(R.expovariate(1 / 40), 1), round(4 + R.expovariate(1.6), 1)
        rows.append([when.isoformat(), depth, size, R.choice(["mb", "mww", "ml"]), region])
    return {"quakes.csv": file_of(["time", "depth_km", "mag", "mag_type", "region"], rows)}


def _games() -> Files:
    rows = []
    for number in range(1, 1500):
        sport = R.choice(["Rowing", "Athletics", "Swimming", "Judo", "Fencing"])
        body = [R.randint(150, 205), R.randint(45, 110)]
        country = R.choice(["Altmark", "Brenia", "Corvania", "Dorland", "Elstria", "Fenmark"])
        medal = R.choices(["Gold", "Silver", "Bronze", ""], [1, 1, 1, 9])[0]
        year = R.choice(range(1996, 2021, 4))
        rows.append([number, R.choice(PEOPLE), R.choice("MF"), R.randint(16, 41), *body, country, year, sport, medal])
    return {
        "athletes.csv": file_of(
            ["id", "name", "sex", "age", "height", "weight", "country", "year", "sport", "medal"], rows
        )
    }


def _stations() -> Files:
    rows = []
    for station, warm in (("Harbour", 11), ("Hilltop", 7), ("Valley", 9)):
        for number in range(900):
            day = dt.date(2023, 6, 1) + dt.timedelta(number)
            middle = warm + 9 * math.sin((day.timetuple().tm_yday - 110) / 58) + R.uniform(-4, 4)
            rain, wind = round(max(0, R.uniform(-6, 14)), 1), round(R.uniform(1, 14), 1)
            sky = R.choice(["sun", "rain", "fog", "drizzle", "snow", "cloud"])
            rows.append([station, day, round(middle + 4, 1), round(middle - 4, 1), rain, wind, sky])
    return {
        "weather.csv": file_of(["station", "date", "temp_max", "temp_min", "precipitation", "wind", "weather"], rows)
    }


_WORLD = {
    "East": ["Altmark", "Brenia", "Corvania", "Dorland"], "West": ["Elstria", "Fenmark", "Gallia", "Hestia"],
    "South": ["Istria", "Jorvik", "Kesteven", "Lorrain"],
}  # fmt: skip


def _world() -> Files:
    told, energy = [], []
    for region, names in _WORLD.items():
        for name in names:
            people, income = R.randint(400_000, 90_000_000), float(R.randint(900, 52_000))
            for year in range(1995, 2024):
                people, income = int(people * R.uniform(1.0, 1.03)), income * R.uniform(0.98, 1.05)
                lives = [round(R.uniform(50, 83), 1), round(R.uniform(1.1, 6), 2), round(R.uniform(3, 120), 1)]
                told.append([name, name[:3].upper(), region, year, people, round(income, 1), *lives])
                used = round(people * income / 1e9 * R.uniform(0.1, 0.3), 2)
                energy.append([name[:3].upper(), year, used, round(R.uniform(0.2, 17), 2), round(R.uniform(1, 95), 1)])
    heads = [
        "country",
        "iso",
        "region",
        "year",
        "population",
        "gdp_per_capita",
        "life_expectancy",
        "fertility",
        "infant_mortality",
    ]
    return {
        "indicators.csv": file_of(heads, told),
        "energy.csv": file_of(["iso", "year", "energy_use_twh", "co2_per_capita", "renewables_pct"], energy),
    }


def _school() -> Files:
    heads = (
        "Pupil ID,Pupil Name,Year Group,Tutor Group,House,Gender,Date of Birth,Attendance %,Lates,Maths Grade,"
        "English Grade,Free School Meals,Support,How they travel,Tutor,Lunch,Merits"
    )
    rows = []
    for number in range(240):
        year = R.choice([7, 8, 9, 10, 11])
        born = _day(dt.date(2009, 9, 1), 1800)
        marks = [round(R.uniform(78, 100), 1), R.randint(0, 14), R.randint(1, 9), R.randint(1, 9)]
        kept = [R.choice("YNNN"), R.choice(["", "", "EAL", "SEN", "SEN"]), R.choice(["Bus", "Walk", "Car", "Cycle"])]
        tutor, lunch = R.choice(["Mr Hale", "Ms Orr", "Mrs Tate"]), R.choice(["School dinner", "Packed lunch"])
        place = [year, f"{year}{R.choice('ABC')}", R.choice(["Oak", "Ash", "Elm", "Beech"]), R.choice("MF"), born]
        rows.append([4000 + number, R.choice(PEOPLE), *place, *marks, *kept, tutor, lunch, R.randint(0, 60)])
    return {"Pupil list.csv": file_of(heads.split(","), rows)}


_SESSIONS = [
    ("Beginners Yoga", "Yoga", "Priya", "Studio 1", 16, 8.5), ("Power Yoga", "Yoga", "Priya", "Studio 1", 14, 9),
    ("Spin", "Cycling", "Marcus", "Spin Room", 20, 7), ("Zumba", "Dance", "Carla", "Hall", 30, 6.5),
    ("Ballet for Adults", "Dance", "Carla", "Studio 2", 12, 10), ("Boxfit", "Fitness", "Marcus", "Hall", 18, 8),
    ("Aqua Fit", "Swimming", "Dee", "Pool", 25, 5.5), ("Pilates", "Yoga", "Hannah", "Studio 2", 12, 9.5),
]  # fmt: skip


def _studio() -> Files:
    heads = "Session,Date,Start,Class,Type,Teacher,Room,Places,Booked,Attended,Waiting list,Price,Income,Status"
    rows: list[list[object]] = []
    for week in range(40):
        for name, kind, teacher, room, places, price in _SESSIONS:
            day = dt.date(2026, 1, 5) + dt.timedelta(7 * week + R.randint(0, 6))
            ran = R.random() > 0.05
            booked = R.randint(3, places) if ran else 0
            came = max(0, booked - R.randint(0, 4))
            start = R.choice(["07:00", "09:30", "12:15", "17:30", "18:30", "19:45"])
            waiting = R.choice([0, 0, 2, 5]) if booked == places else 0
            told = [places, booked, came, waiting, price, round(came * price, 2), "Ran" if ran else "Cancelled"]
            if day <= _TODAY:
                rows.append([len(rows) + 1, day.strftime("%d/%m/%Y"), start, name, kind, teacher, room, *told])
    return {"Class schedule 2026.csv": file_of(heads.split(","), rows)}


def _holding() -> Files:
    breeds = {"Cow": ["Angus", "Hereford"], "Sheep": ["Texel", "Lleyn"], "Pig": ["Tamworth"], "Goat": ["Boer"]}
    animals: list[list[object]] = []
    for kind, number in (("Cow", 60), ("Sheep", 140), ("Pig", 40), ("Goat", 15)):
        for _ in range(number):
            state = R.choices(["On farm", "Sold", "Died"], [7, 2, 1])[0]
            left = _day(dt.date(2025, 1, 1), 600) if state != "On farm" else ""
            seen = _day(dt.date(2025, 6, 1), 500) if R.random() > 0.15 else ""
            place = [_day(dt.date(2018, 1, 1), 3000), R.choice(["Top Field", "Long Meadow", "Barn 1", "Orchard"])]
            price = R.randint(40, 1400) if state == "Sold" else ""
            told = [R.randint(2, 700), state, price, left, seen, R.choice(["Pete", "Sally", "Ned"])]
            animals.append([f"AN{len(animals):04d}", kind, R.choice(breeds[kind]), R.choice("FFM"), *place, *told])
    fields = [
        ("Top Field", "Wheat", 22),
        ("Long Meadow", "Barley", 35),
        ("River Field", "Oats", 18),
        ("Far Field", "Wheat", 41),
    ]
    harvests = [
        [_day(dt.date(2024, 7, 1), 800), field, crop, acres, round(acres * R.uniform(1.5, 4), 1)]
        for _ in range(8)
        for field, crop, acres in fields
    ]
    whom = ["Agri Supplies", "Hill Vets", "FuelCo", "Green Seeds", "J Brown"]
    what = ["Feed", "Vet", "Fuel", "Seed", "Repairs"]
    spent = [
        [
            _day(dt.date(2025, 1, 1), 660),
            R.choice(what),
            R.choice(whom),
            round(R.uniform(20, 2500), 2),
            R.choice(["Yes", "No"]),
        ]
        for _ in range(220)
    ]
    heads = "Tag,Animal,Breed,Sex,Born,Where,Weight kg,Status,Sale price,Left on,Last checked,Looked after by"
    return {
        "animals.csv": file_of(heads.split(","), animals),
        "harvests.csv": file_of(["Harvested", "Field", "Crop", "Acres", "Tonnes"], harvests),
        "spending.csv": file_of(["Date", "What for", "Paid to", "Amount", "Receipt kept"], spent),
    }


def _hospital() -> Files:
    heads = "Adm No,Patient,Sex,Age,Specialty,Doctor,Admitted at,Discharged at,How admitted,Went to,Readmission,Area"
    rows = []
    for number in range(420):
        came = dt.datetime(2026, 1, 1) + dt.timedelta(hours=R.randint(0, 24 * 300))
        gone = came + dt.timedelta(hours=R.randint(4, 400))
        left = [
            gone.strftime("%d/%m/%Y %H:%M") if R.random() > 0.08 else "",
            R.choice(["Emergency", "Planned", "Transfer"]),
        ]
        who = [R.choice(PEOPLE), R.choice("MF"), R.randint(1, 96), R.choice(["Cardiology", "Surgery", "Maternity"])]
        told = [
            R.choice(["Home", "Care home", "Other ward", "Died"]),
            R.choice([0, 0, 0, 1]),
            R.choice(["North", "South"]),
        ]
        doctor = R.choice(["Dr Hart", "Dr Lund", "Dr Pell", "Dr Quist"])
        rows.append([70000 + number, *who, doctor, came.strftime("%d/%m/%Y %H:%M"), *left, *told])
    return {"admissions.csv": file_of(heads.split(","), rows)}


def _hotel() -> Files:
    heads = "Ref,Booked,Arrive,Depart,Nights,Guest,Country,Room type,Guests,Rate,Total,Source,Status,Breakfast,Score"
    rates = {"Single": 60, "Double": 95, "Twin": 90, "Suite": 180}
    rows = []
    for number in range(700):
        booked, nights, kind = _day(dt.date(2025, 6, 1), 500), R.randint(1, 9), R.choice(list(rates))
        arrive = booked + dt.timedelta(R.randint(0, 120))
        who = [R.choice(PEOPLE), R.choice(["UK", "France", "Germany", "Spain"]), kind, R.randint(1, 4)]
        paid = [rates[kind], rates[kind] * nights, R.choice(["Website", "Phone", "Agent"])]
        told = [R.choice(["Checked out", "Checked out", "Cancelled", "No show"]), R.choice("YN")]
        score = R.randint(1, 10) if R.random() > 0.4 else ""
        times = [booked, arrive, arrive + dt.timedelta(nights), nights]
        rows.append([f"HB{number:05d}", *times, *who, *paid, *told, score])
    return {"bookings.csv": file_of(heads.split(","), rows)}


def _projects() -> Files:
    names = ["Website revamp", "Office move", "Audit prep", "Mobile app", "Data cleanup", "Payroll switch"]
    projects: list[list[object]] = []
    for name in names:
        start = _day(dt.date(2025, 3, 1), 300)
        told = [R.randint(10, 120) * 1000, R.choice(["Green", "Amber", "Red"]), R.choice(["Active", "On hold", "Done"])]
        led = [R.choice(["Ines", "Tariq", "Lena"]), R.choice(["IT", "Finance", "HR"])]
        projects.append([len(projects) + 1, name, *led, start, start + dt.timedelta(R.randint(60, 300)), *told])
    people, tasks = ["Ana", "Bert", "Chi", "Dov", "Eva"], ["Design", "Build", "Test", "Meetings", "Admin"]
    hours = [
        [
            _day(dt.date(2025, 3, 1), 590),
            R.choice(people),
            R.choice(names),
            R.choice(tasks),
            R.choice([0.5, 1, 2, 3, 7.5]),
            R.choice(["Yes", "No"]),
        ]
        for _ in range(1200)
    ]
    return {
        "projects.csv": file_of(
            ["ID", "Project", "Manager", "Department", "Start", "Deadline", "Budget", "RAG", "State"], projects
        ),
        "timesheets.csv": file_of(["Day", "Person", "Project", "Task", "Hours", "Billable"], hours),
    }


MEASURED: dict[str, Files] = {
    "motors": _motors(),
    "voyage": _voyage(),
    "quakes": _quakes(),
    "games": _games(),
    "stations": _stations(),
    "world": _world(),
    "school": _school(),
    "studio": _studio(),
    "holding": _holding(),
    "hospital": _hospital(),
    "hotel": _hotel(),
    "projects": _projects(),
}
MEASURED_SAID = {"voyage": VOYAGE_SAID}
