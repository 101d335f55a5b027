"""Made-up files of offices that publish figures, let homes, insure and teach in the evening, and of a farm's two halves."""

from __future__ import annotations

import datetime as dt
import random

from tests.trades.making import PEOPLE, Files, file_of

R = random.Random(23)
_TODAY = dt.date(2026, 10, 31)
_TOWNS = ["Saltmouth", "Penrow", "Cardle", "Wenbury"]


def _day(first: dt.date, days: int) -> dt.date:
    return first + dt.timedelta(R.randint(0, days))


def _uk(day: dt.date) -> str:
    return day.strftime("%d/%m/%Y")


def _known(day: dt.date) -> dt.date | str:
    """A day that has come; what is still to come is not known yet."""
    return day if day <= _TODAY else ""


_DISTRICTS = [
    ("Aldermoor", "North", "rural"), ("Brayford", "North", "urban"), ("Cotterdale", "North", "rural"),
    ("Denholt", "Midlands", "urban"), ("Eastwell", "Midlands", "urban"), ("Farrow", "Midlands", "rural"),
    ("Garrick", "South", "urban"), ("Hexley", "South", "rural"), ("Ivybridge", "South", "urban"),
    ("Kelham", "South", "rural"), ("Lorne", "West", "rural"), ("Marlow Vale", "West", "urban"),
]  # fmt: skip


def _districts() -> Files:
    districts = [
        [f"D{i:02d}", name, region, setting, R.randint(3000, 60000)]
        for i, (name, region, setting) in enumerate(_DISTRICTS, 1)
    ]
    people, claimants, sales, schools, crimes = [], [], [], [], []
    for code, *_ in districts:
        size, price = R.randint(30_000, 300_000), R.randint(140, 420) * 1000
        for year in range(2016, 2026):
            for band, part in (("0-15", 0.19), ("16-64", 0.62), ("65+", 0.19)):
                for sex in ("Female", "Male"):
                    grown = 1 + 0.008 * (year - 2016) * R.uniform(-0.5, 2)
                    people.append([code, year, sex, band, int(size * part / 2 * grown)])
        for month in range(34):
            when = f"{2024 + month // 12}-{month % 12 + 1:02d}"
            claimants.append([code, when, int(size * R.uniform(0.01, 0.04))])
        for year in range(2019, 2026):
            for quarter in range(1, 5):
                for kind, times in (("Detached", 1.7), ("Semi-detached", 1.05), ("Terraced", 0.85), ("Flat", 0.7)):
                    median = int(price * times * (1 + 0.03 * (year - 2019)) * R.uniform(0.93, 1.07) // 500 * 500)
                    sales.append([code, f"{year} Q{quarter}", kind, R.randint(20, 400), median])
        for year in range(2022, 2026):
            for offence in ("Burglary", "Robbery", "Vehicle crime", "Violence", "Shoplifting"):
                crimes.append([code, year, offence, int(size * R.uniform(0.001, 0.012))])
    first, last = ["St ", "", "Upper ", "New "], [" Primary", " Academy", " High", " School"]
    for i in range(220):
        name = R.choice(first) + R.choice(["Ann", "Mary", "Park", "Mill", "Green", "Hill", "Oak"]) + R.choice(last)
        phase = R.choice(["Primary", "Primary", "Secondary", "Special"])
        rating = R.choice(["Outstanding", "Good", "Good", "Requires improvement", "Inadequate"])
        meals, seen = round(R.uniform(2, 48), 1), _day(dt.date(2017, 1, 1), 3400)
        sizes = R.randint(60, 1500), R.randint(60, 1600)
        schools.append([100_000 + i, name, R.choice(districts)[0], phase, *sizes, meals, rating, seen])
    return {
        "districts.csv": file_of(["code", "district", "region", "setting", "hectares"], districts),
        "population.csv": file_of(["district_code", "year", "sex", "age_group", "people"], people),
        "claimant_count.csv": file_of(["district_code", "month", "claimants"], claimants),
        "house_sales.csv": file_of(["district_code", "quarter", "type_of_home", "sales", "median_price"], sales),
        "schools.csv": file_of(
            ["urn", "school_name", "district_code", "phase", "pupils", "capacity", "pct_free_meals", "latest_rating",
             "inspected_on"],
            schools,
        ),
        "recorded_crime.csv": file_of(["district_code", "year", "offence", "offences"], crimes),
    }  # fmt: skip


_COUNTRIES = [
    ("AL", "Altmark", "North", 1995, 48000), ("BR", "Brenia", "North", 1995, 120300),
    ("CO", "Corvania", "South", 2004, 91000), ("DE", "Delmora", "South", "", 30200),
    ("EL", "Elvestan", "East", 2004, 238000), ("FA", "Farland", "North", 1973, 43000),
    ("GA", "Garonia", "South", 1986, 505000), ("HE", "Helvia", "West", "", 41300),
    ("LO", "Lorrain", "West", 1958, 547000), ("MA", "Marken", "West", 1958, 41500),
]  # fmt: skip


def _nations() -> Files:
    accounts, jobless, emitted, nights, people = [], [], [], [], []
    for code, name, *_ in _COUNTRIES:
        size = R.randint(1, 80) * 1_000_000 // 3
        income = size * R.randint(15, 60) / 1000
        for year in range(2014, 2025):
            grown = [int(size * part * (1 + 0.004 * (year - 2014) * R.uniform(-1, 2))) for part in (0.16, 0.62, 0.22)]
            people.append([name, year, *grown])
            for item, part in (("B1GQ", 1), ("P3", 0.7), ("P51G", 0.2), ("P6", 0.45), ("P7", 0.43)):
                value = round(income * part * 1.025 ** (year - 2014) * R.uniform(0.97, 1.03), 1)
                accounts.append([code, item, year, value])
        for quarter in range(24):
            for sex in "FMT":
                for age, rate in (("Y15-24", 16), ("Y25-54", 6.5), ("Y55-74", 4.5)):
                    told = round(rate * R.uniform(0.5, 1.7), 1)
                    persons = round(size * told / 400_000, 1) if R.random() > 0.01 else ":"
                    jobless.append([code, sex, age, f"{2019 + quarter // 4}-Q{quarter % 4 + 1}", told, persons])
        emitted.append([name, *(round(size / 1e6 * R.uniform(4, 11) * 0.985**k, 1) for k in range(14))])
        for month in range(36):
            for origin in ("residents", "non-residents"):
                when = f"{2022 + month // 12}-{month % 12 + 1:02d}"
                nights.append([code, when, origin, int(size * R.uniform(0.05, 0.6))])
    return {
        "countries.csv": file_of(["geo", "country", "part", "member_since", "area_km2"], _COUNTRIES),
        "national_accounts.csv": file_of(["geo", "na_item", "year", "value"], accounts),
        "unemployment.csv": file_of(["geo", "sex", "age", "quarter", "rate", "persons_k"], jobless),
        "emissions.csv": file_of(["country", *map(str, range(2010, 2024))], emitted),
        "tourist_nights.csv": file_of(["geo", "month", "origin", "nights"], nights),
        "population.csv": file_of(["country", "year", "age_0_14", "age_15_64", "age_65_plus"], people),
    }


NATIONS_SAID = {
    "national_accounts.csv": {
        "na_item": "B1GQ gross domestic product, P3 consumption, P51G investment, P6 exports, P7 imports",
        "value": "million euro at current prices",
    },
    "unemployment.csv": {
        "sex": "F women, M men, T both together",
        "age": "age group in years",
        "rate": "unemployed as per cent of the labour force",
        "persons_k": "unemployed people in thousands",
    },
    "countries.csv": {"member_since": "year in which the country joined the union, empty if it is no member"},
}


def _agency() -> Files:
    landlords = [
        [f"L{i:03d}", R.choice(PEOPLE), R.choice([8, 10, 12]), _day(dt.date(2012, 1, 1), 4800), R.choice(["yes", "no"])]
        for i in range(70)
    ]
    homes, tenancies, account, repairs, viewings = [], [], [], [], []
    for i in range(160):
        beds, street = (
            R.choice([0, 1, 1, 2, 2, 3, 4]),
            f"{R.randint(1, 120)} {R.choice(['Quay', 'Mill', 'High'])} Street",
        )
        kind, fittings = (
            R.choice(["flat", "house", "bungalow"]),
            R.choice(["furnished", "part furnished", "unfurnished"]),
        )
        rent, flag = 550 + beds * R.randint(150, 260), R.choice(["yes", "no", "no"])
        homes.append(
            [f"PR{i:04d}", street, R.choice(_TOWNS), kind, beds, fittings, R.choice(landlords)[0], rent, R.choice("BCDEF"), flag]
        )  # fmt: skip
        start = _day(dt.date(2021, 1, 1), 700)
        while start < _TODAY and R.random() < 0.9:
            end, number = start + dt.timedelta(R.choice([182, 365, 540])), f"T{2000 + len(tenancies)}"
            paid_each = round(rent * R.uniform(0.93, 1.1) / 5) * 5
            tenancies.append(
                [number, f"PR{i:04d}", R.choice(PEOPLE), start, end, _known(end), paid_each, R.randint(1, 4), R.choice(["yes", "no"])]
            )  # fmt: skip
            for month in range(0, (min(end, _TODAY) - start).days, 30):
                due = start + dt.timedelta(month)
                paid_on = due + dt.timedelta(R.choice([0, 0, 0, 0, 1, 3, 9, 24]))
                paid = paid_each if R.random() < 0.95 else R.choice([0, paid_each // 2])
                account.append([number, due, paid_each, _known(paid_on) if paid else "", paid])
            start = end + dt.timedelta(R.randint(3, 60))
    for i in range(420):
        told = _day(dt.date(2022, 1, 1), 1740)
        done = _known(told + dt.timedelta(R.randint(1, 40))) if R.random() < 0.95 else ""
        job = [R.choice(["heating", "plumbing", "electrics", "roof"]), R.choice(["emergency", "urgent", "routine"])]
        firm, cost = R.choice(["Dray & Sons", "Fixwell", "R. Olver"]), round(R.uniform(35, 900), 2) if done else ""
        repairs.append([f"J{i:05d}", R.choice(homes)[0], told, *job, firm, done, cost, R.choice(["landlord", "agent"])])
    for _ in range(500):
        ended = R.choice(["offer", "no interest", "second viewing", "did not turn up"])
        when, stars = _day(dt.date(2023, 1, 1), 1380), R.choice([1, 2, 3, 4, 5, ""])
        viewings.append([when, R.choice(homes)[0], R.choice(PEOPLE), R.choice(["Meg", "Tom", "Uma"]), ended, stars])
    return {
        "landlords.csv": file_of(["landlord_id", "landlord", "fee_pct", "with_us_since", "overseas"], landlords),
        "properties.csv": file_of(
            ["property_ref", "address", "town", "type", "beds", "furnishing", "landlord_id", "asking_rent_pcm", "epc", "parking"],
            homes,
        ),
        "tenancies.csv": file_of(
            ["tenancy", "property_ref", "lead_tenant", "start_date", "end_date", "moved_out", "rent_pcm", "occupants", "pets"],
            tenancies,
        ),
        "rent_account.csv": file_of(["tenancy", "due_date", "rent_due", "paid_date", "amount_paid"], account),
        "repairs.csv": file_of(
            ["job", "property_ref", "reported", "category", "priority", "contractor", "completed", "cost", "charged_to"], repairs
        ),
        "viewings.csv": file_of(["viewed_on", "property_ref", "applicant", "shown_by", "outcome", "stars"], viewings),
    }  # fmt: skip


def _insurer() -> Files:
    customers = [
        [f"H{i:04d}", R.choice(PEOPLE), R.choice("FM"), _day(dt.date(1938, 1, 1), 24_000), R.choice(_TOWNS),
         R.choice(["online", "broker", "phone"]), _day(dt.date(2014, 1, 1), 4200)]
        for i in range(400)
    ]  # fmt: skip
    policies, claims, payments = [], [], []
    for customer in customers:
        for _ in range(R.choice([0, 1, 1, 2, 3])):
            start, number = _day(dt.date(2022, 1, 1), 1700), f"PL{10_000 + len(policies)}"
            ended = _known(_day(start, 300)) if R.random() < 0.08 else ""
            premium, line = round(R.uniform(90, 1100), 2), R.choice(["car", "home", "travel", "pet", "van"])
            sums = R.choice([0, 100, 250, 500]), R.choice([10_000, 50_000, 250_000])
            pays = R.choice(["monthly", "annual"]), R.choice(["yes", "no"])
            end = start + dt.timedelta(365)
            policies.append([number, customer[0], line, start, end, ended, premium, *sums, *pays])
            for _ in range(R.choice([0, 0, 0, 1, 2])):
                happened = _day(start, 360)
                if happened > _TODAY:
                    continue
                told = min(happened + dt.timedelta(R.choice([0, 1, 5, 14, 45, 90])), _TODAY)
                state, claim = (
                    R.choice(["settled", "settled", "repudiated", "open", "reopened"]),
                    f"CL{len(claims):05d}",
                )
                settled = told + dt.timedelta(R.randint(3, 160)) if state == "settled" else ""
                worth = round(R.lognormvariate(6.6, 1), 2)
                peril = R.choice(["theft", "fire", "escape of water", "storm", "collision", "vet fees", "cancellation"])
                who, flag = R.choice(["J. Orme", "S. Peel", "D. Quill"]), R.choice(["yes", "no", "no"])
                claims.append([claim, number, happened, told, peril, worth, state, settled, who, flag])
                for _ in range(R.choice([1, 1, 2]) if state == "settled" else 0):
                    kind, paid = R.choice(["indemnity", "legal costs"]), told + dt.timedelta(R.randint(3, 160))
                    payments.append([len(payments) + 1, claim, paid, kind, round(worth * R.uniform(0.3, 0.6), 2)])
    return {
        "customers.csv": file_of(["cust_id", "name", "sex", "dob", "town", "source", "customer_since"], customers),
        "policies.csv": file_of(
            ["policy_no", "cust_id", "line", "inception", "expiry", "cancelled_on", "premium", "excess", "sum_insured", "pays",
             "auto_renew"],
            policies,
        ),
        "claims.csv": file_of(
            ["claim_no", "policy_no", "incident_date", "notified_date", "peril", "estimate", "status", "settled_date", "handler",
             "fraud_flag"],
            claims,
        ),
        "claim_payments.csv": file_of(["payment_id", "claim_no", "paid_date", "kind", "amount"], payments),
    }  # fmt: skip


def _nightschool() -> Files:
    courses = [
        ["ART1", "Watercolour for beginners", "Art", "Priya Nair", "Mon", "18:30", "12/01/2026", 10, 95, 12, "Studio"],
        ["ART2", "Life drawing", "Art", "Tom Hurst", "Wed", "19:00", "15/04/2026", 8, 110, 10, "Studio"],
        ["LAN1", "Spanish beginners", "Languages", "Elin Voss", "Tue", "18:00", "13/01/2026", 12, 120, 16, "Room 2"],
        ["LAN2", "Spanish improvers", "Languages", "Elin Voss", "Thu", "18:00", "16/04/2026", 12, 120, 16, "Room 2"],
        ["COM1", "Spreadsheets", "Computing", "D. Osei", "Tue", "19:00", "08/09/2026", 6, 75, 8, "IT Suite"],
        ["CRA1", "Pottery", "Craft", "A. Blake", "Thu", "13:00", "09/04/2026", 10, 140, 9, "Kiln Room"],
        ["CRA2", "Sewing", "Craft", "A. Blake", "Sat", "10:00", "12/09/2026", 8, 90, 10, "Room 1"],
        ["FIT1", "Tai chi", "Fitness", "Tom Hurst", "Mon", "09:30", "07/09/2026", 10, 60, 20, "Hall"],
    ]
    heard = ["Leaflet", "Friend", "Website", ""]
    students = [
        [f"S{i:03d}", R.choice(PEOPLE), R.randint(17, 84), R.choice(heard), R.choice(["yes", "no"])] for i in range(150)
    ]
    enrolments: list[list[object]] = []
    registers = []
    for student in students:
        for course in R.sample(courses, R.choice([0, 1, 1, 1, 2, 3])):
            begun = dt.datetime.strptime(str(course[6]), "%d/%m/%Y").date() - dt.timedelta(R.randint(0, 50))
            fee = float(str(course[8]))
            status = R.choice(["completed", "completed", "enrolled", "dropped out", "waiting list"])
            paid = fee if R.random() < 0.85 else R.choice([0.0, fee / 2])
            enrolments.append(
                [len(enrolments) + 1, student[0], course[0], _uk(begun), fee, paid, status, R.choice([5, 4, 3, ""])]
            )
    for course in courses:
        for week in range(int(str(course[7]))):
            day = dt.datetime.strptime(str(course[6]), "%d/%m/%Y").date() + dt.timedelta(7 * week)
            if day <= _TODAY:
                registers.append([course[0], _uk(day), week + 1, R.randint(5, 14), R.randint(0, 4)])
    return {
        "Courses.csv": file_of(
            ["Code", "Course", "Subject", "Tutor", "Day", "Time", "Starts", "Weeks", "Fee", "Max", "Room"], courses
        ),
        "Students.csv": file_of(["Student", "Name", "Age", "Heard from", "On benefits"], students),
        "Enrolments.csv": file_of(
            ["No", "Student", "Code", "Date", "Fee due", "Fee paid", "Status", "Rating"], enrolments
        ),
        "Registers.csv": file_of(["Code", "Date", "Week", "Present", "Absent"], registers),
    }


def _arable() -> Files:
    crops = ["wheat", "barley", "oats", "beans"]
    fields = [
        ["Long Acre", 12.4, "clay", "owned"], ["Mill Piece", 8.1, "loam", "owned"], ["Top Twenty", 20.3, "chalk", "rented"],
        ["River Meadow", 15.0, "silt", "owned"], ["Barn Close", 4.6, "loam", "rented"], ["Hundred Acre", 38.2, "clay", "owned"],
    ]  # fmt: skip
    harvest = [
        [
            year,
            name,
            R.choice(crops),
            _uk(_day(dt.date(year, 8, 1), 40)),
            round(float(str(acres)) * R.uniform(2.2, 4.1), 1),
        ]
        for year in range(2021, 2027)
        for name, acres, *_ in fields
    ]
    sold = [
        [_uk(_day(dt.date(2023, 1, 5), 1390)), R.choice(crops), R.randint(5, 60), R.randint(150, 430),
         R.choice(["Gleadow", "Openfold", "Westmill"]), R.choice("YYN")]
        for _ in range(120)
    ]  # fmt: skip
    sprayed = [
        [_uk(_day(dt.date(2025, 2, 1), 600)), R.choice(fields)[0], R.choice(["fertiliser", "fungicide", "herbicide"]),
         round(R.uniform(80, 900), 2), R.choice(["Bob", "Ian", "contractor"]), round(R.uniform(0.5, 6), 1)]
        for _ in range(130)
    ]  # fmt: skip
    ewes = [
        [f"E{i:03d}", R.choice(["Texel", "Suffolk", "Mule"]), R.randint(2019, 2025), R.choice(fields)[0],
         R.choice([0, 1, 1, 2, 2, 3]), R.choice(["keep", "keep", "cull", "sold"])]
        for i in range(140)
    ]  # fmt: skip
    return {
        "fields.csv": file_of(["Field", "Acres", "Soil", "Tenure"], fields),
        "harvest.csv": file_of(["Year", "Field", "Crop", "Cut on", "Tonnes"], harvest),
        "grain sales.csv": file_of(["Sold on", "Crop", "Tonnes", "Price/t", "Buyer", "Paid"], sold),
        "spraying.csv": file_of(["Date", "Field", "Product", "Cost", "Operator", "Hours"], sprayed),
        "ewes.csv": file_of(["Tag", "Breed", "Born", "Field", "Lambs", "Plan"], ewes),
    }


def _dairy() -> Files:
    names = ["Daisy", "Bella", "Rosie", "Clover", "Molly", "Ivy", "Hazel", "Fern", "Poppy", "Ruby"]
    herd = [
        [f"UK{4100 + i}", f"{R.choice(names)} {i}" if i > 9 else names[i], R.choice(["Holstein", "Jersey", "Ayrshire"]),
         _uk(_day(dt.date(2016, 1, 1), 3000)), R.choice(["Home Field", "Long Meadow", "Top Barn"]),
         R.choice(["milking", "milking", "dry", "sold"]), R.randint(450, 720)]
        for i in range(90)
    ]  # fmt: skip
    milk = [
        [_uk(dt.date(2026, 1, 2) + dt.timedelta(3 * day)), session, cow[0], round(R.uniform(7, 17), 1), round(R.uniform(3.4, 5.6), 2)]
        for cow in herd
        for day in range(100)
        for session in ("AM", "PM")
        if R.random() < 0.5
    ]  # fmt: skip
    seen = [
        [_uk(_day(dt.date(2025, 1, 1), 660)), R.choice(herd)[0], R.choice(["lameness", "mastitis", "calving", "check"]),
         R.choice(["Mr Holt", "Ms Vane"]), round(R.uniform(30, 240), 2)]
        for _ in range(260)
    ]  # fmt: skip
    feed = [
        [_uk(dt.date(2025, 1, 1) + dt.timedelta(30 * month)), what, R.randint(2, 30), price, supplier]
        for month in range(22)
        for what, price, supplier in (
            ("Dairy nuts", 265, "Agrimart"),
            ("Straw", 72, "Bowes"),
            ("Minerals", 410, "Bowes"),
        )
    ]
    calves = [
        [f"C{200 + i}", R.choice(herd)[0], _uk(_day(dt.date(2025, 1, 1), 660)), R.choice("MF"), R.randint(28, 48),
         R.choice(["kept", "sold", "died"]), R.choice(["", 120, 260])]
        for i in range(70)
    ]  # fmt: skip
    return {
        "herd.csv": file_of(["Tag", "Name", "Breed", "Born", "Location", "Status", "Weight kg"], herd),
        "milk.csv": file_of(["Date", "Session", "Tag", "Litres", "Fat %"], milk),
        "vet visits.csv": file_of(["Date", "Tag", "Reason", "Vet", "Cost"], seen),
        "feed bought.csv": file_of(["Date", "Feed", "Tonnes", "Price per tonne", "Supplier"], feed),
        "calves.csv": file_of(["Calf", "Mother", "Born", "Sex", "Birth weight", "Outcome", "Sale price"], calves),
    }


def _classes() -> Files:
    timetable = [
        ["Morning Flow", "Beginner", "Mina Patel", "Monday", "07:00", 60, 14, 9],
        ["Power Hour", "Advanced", "Sam Oduya", "Monday", "18:30", 60, 20, 11],
        ["Gentle Stretch", "All levels", "Lena Frost", "Tuesday", "10:00", 45, 12, 8],
        ["Spin Express", "Intermediate", "Sam Oduya", "Tuesday", "12:15", 30, 16, 8.5],
        ["Pilates Core", "Beginner", "Jo Kerr", "Wednesday", "18:00", 50, 10, 12],
        ["Lunch Yoga", "All levels", "Mina Patel", "Thursday", "12:15", 40, 14, 8],
        ["Saturday Sweat", "Intermediate", "Sam Oduya", "Saturday", "09:30", 75, 22, 13],
        ["Family Zumba", "All levels", "Lena Frost", "Sunday", "10:30", 60, 25, 6],
    ]
    members = []
    for i in range(180):
        joined = _day(dt.date(2023, 1, 1), 1380)
        left = _known(joined + dt.timedelta(R.randint(30, 900))) if R.random() < 0.35 else ""
        plan, area = (
            R.choice(["Monthly", "Annual", "Pay as you go"]),
            R.choice(["Ash Vale", "Brook End", "Clay Hill", ""]),
        )
        gone = _uk(left) if isinstance(left, dt.date) else ""
        members.append([f"M{i + 1:03d}", R.choice(PEOPLE), plan, _uk(joined), gone, R.choice("YN"), area])
    bookings = []
    for i in range(2000):
        lesson, day = R.choice(timetable), _day(dt.date(2025, 1, 6), 680)
        state = R.choice(["attended", "attended", "attended", "no-show", "cancelled", "late cancel"])
        asked = _uk(day - dt.timedelta(R.randint(0, 14)))
        state, paid = state if day <= _TODAY else "booked", lesson[7] if R.random() < 0.6 else 0
        row = [i + 1, _uk(day), lesson[0], R.choice(members)[0], asked, state, paid, R.choice(["app", "phone", "desk"])]
        bookings.append(row)
    return {
        "Timetable.csv": file_of(
            ["Class", "Level", "Instructor", "Day", "Start", "Mins", "Spaces", "Price"], timetable
        ),
        "Members.csv": file_of(["Member ID", "Name", "Plan", "Joined", "Left", "Email ok", "Area"], members),
        "Bookings.csv": file_of(
            ["Booking", "Date", "Class", "Member ID", "Booked on", "Status", "Paid", "How booked"], bookings
        ),
    }


def _forms() -> Files:
    first, last = ["Amy", "Ben", "Cara", "Dev", "Ella", "Finn"], ["Adams", "Bose", "Clark", "Diaz", "Evans", "Ford"]
    pupils = [
        [1000 + i, R.choice(first), R.choice(last), R.choice(["7A", "7B", "8A", "8B", "9A", "9B"]),
         _uk(_day(dt.date(2011, 9, 1), 1090)), R.choice("MF"), R.choice(["Yes", "No", "No"]), R.choice(["Bus", "Walk", "Car"])]
        for i in range(170)
    ]  # fmt: skip
    teachers = {
        "Maths": "Mrs Lamb",
        "English": "Mr Cole",
        "Science": "Miss Tran",
        "Art": "Mr Reed",
        "French": "Mme Roux",
    }
    marks = [
        [pupil[0], subject, term, min(100, max(5, int(R.gauss(62, 17)))), teacher]
        for pupil in pupils
        for subject, teacher in teachers.items()
        for term in ("Autumn 2025", "Spring 2026", "Summer 2026")
    ]
    absences = [
        [pupil[0], _uk(_day(dt.date(2025, 9, 8), 300)), R.choice(["Illness", "Holiday", "Unexplained"]), R.choice([0.5, 1]), R.choice("YN")]
        for pupil in pupils
        for _ in range(R.choice([0, 0, 1, 2, 3, 6]))
    ]  # fmt: skip
    clubs = [[pupil[0], R.choice(["Chess", "Choir", "Football", "Drama"])] for pupil in pupils if R.random() < 0.5]
    return {
        "pupils.csv": file_of(
            ["Pupil No", "First name", "Surname", "Form", "DOB", "Gender", "Free meals", "Travel"], pupils
        ),
        "marks.csv": file_of(["Pupil No", "Subject", "Term", "Mark", "Teacher"], marks),
        "absences.csv": file_of(["Pupil No", "Date", "Reason", "Days", "Authorised"], absences),
        "clubs.csv": file_of(["Pupil No", "Club"], clubs),
    }


OFFICES: dict[str, Files] = {
    "districts": _districts(),
    "nations": _nations(),
    "agency": _agency(),
    "insurer": _insurer(),
    "nightschool": _nightschool(),
    "arable": _arable(),
    "dairy": _dairy(),
    "classes": _classes(),
    "forms": _forms(),
}
SAID = {"nations": NATIONS_SAID}
"""What a person wrote about the columns of a trade's files."""
