"""Made-up files of sixteen more trades: the same ones each time, for the questions that stand beside them."""

from __future__ import annotations

import datetime as dt
import random

from tests.trades.making import PEOPLE, Files, file_of

R = random.Random(778)


def _day(first: dt.date, days: int) -> dt.date:
    return first + dt.timedelta(R.randint(0, days))


def _cents(low: float, high: float) -> float:
    return round(R.uniform(low, high), 2)


def _translation() -> Files:
    people = PEOPLE[:14]
    jobs = []
    for i in range(500):
        words, rate = R.randint(2, 90) * 100, R.choice([80, 95, 110, 140])
        received = _day(dt.date(2025, 3, 1), 600)
        due = received + dt.timedelta(R.randint(3, 20))
        done = R.random() < 0.88
        jobs.append(
            [
                f"TJ{i:04d}",
                R.choice(["Arlo Pharma", "Beam Legal", "Corr Museum", "Dunn Toys", "Ember Energy"]),
                R.choice(["English", "French", "German"]),
                R.choice(["Spanish", "Polish", "Italian", "English"]),
                words,
                rate,
                round(words * rate / 1000, 2),
                R.choice(people),
                received,
                due,
                due + dt.timedelta(R.randint(-4, 5)) if done else "",
                R.choice(["Yes", "No", "No", "No"]),
                "Delivered" if done else "In progress",
                R.choice([3, 4, 5, 5, ""]),
            ]
        )
    head = [
        "Job no", "Client", "From language", "To language", "Words", "Rate per 1000 words", "Invoice amount", "Translator",
        "Received", "Due", "Delivered", "Urgent", "Status", "Client rating",
    ]  # fmt: skip
    who = [[p, R.choice(["UK", "Spain", "Poland"]), R.randint(1, 25), _cents(0.04, 0.09)] for p in people]
    return {
        "Jobs.csv": file_of(head, jobs),
        "Translators.csv": file_of(["Name", "Country", "Years experience", "Cost per word (£)"], who),
    }


def _problems() -> Files:
    wards = ["Abbey", "Canal", "Hilltop", "Mill", "Station"]
    rows = []
    for i in range(1200):
        logged, days, closed = _day(dt.date(2024, 9, 1), 780), R.randint(0, 60), R.random() < 0.85
        rows.append(
            [
                100000 + i,
                logged.strftime("%d %b %Y"),
                R.choice(["Pothole", "Street light", "Fly tipping", "Graffiti", "Blocked drain"]),
                R.choice(["Oak Rd", "Elm Ave", "High St", "Canal St", "Mill Ln"]),
                R.choice(wards),
                R.choice(["Phone", "App", "Web form", "Email"]),
                R.choice(["High", "Medium", "Low"]),
                R.choice(["Highways", "Cleansing", "Lighting"]),
                (logged + dt.timedelta(days)).strftime("%d %b %Y") if closed else "",
                days,
                R.randint(20, 1500) if R.random() < 0.7 else "",
                R.choice(["Y", "N", "N", "N", "N"]),
            ]
        )
    head = [
        "Case ID", "Logged", "Type of problem", "Street", "Ward", "Reported via", "Priority", "Team", "Closed", "Days to fix",
        "Repair cost", "Reopened?",
    ]  # fmt: skip
    parties = ["Red", "Blue", "Green", "Red", "Blue"]
    told = [
        [w, R.randint(4000, 14000), R.choice([2, 3]), round(R.uniform(1, 9), 1), p]
        for w, p in zip(wards, parties, strict=True)
    ]
    return {
        "Reported problems.csv": file_of(head, rows),
        "Wards.csv": file_of(["Ward", "Population", "Councillors", "Area (sq km)", "Party"], told),
    }


def _trees() -> Files:
    kinds = [
        ("Quercus robur", "Oak"),
        ("Fagus sylvatica", "Beech"),
        ("Acer campestre", "Maple"),
        ("Taxus baccata", "Yew"),
    ]
    rows = []
    for i in range(640):
        looked, kind = _day(dt.date(2023, 1, 1), 1350), R.choice(kinds)
        rows.append(
            [
                f"T{i:04d}",
                *kind,
                round(R.uniform(2, 28), 1),
                R.randint(15, 410),
                R.choice(["Young", "Semi-mature", "Mature", "Veteran"]),
                R.choice(["Good", "Fair", "Poor", "Dead"]),
                R.choice(["Priory Park", "West Meadow", "Cemetery", "Station Green"]),
                R.randint(1890, 2022),
                looked,
                looked + dt.timedelta(R.choice([365, 730, 1095])),
                R.choice(["TPO", "", ""]),
                R.choice(["M. Hale", "J. Roe"]),
            ]
        )
    head = [
        "Tag", "Species", "Common name", "Height m", "Trunk girth cm", "Age class", "Condition", "Park", "Planted",
        "Last inspected", "Next inspection due", "Protected", "Inspector",
    ]  # fmt: skip
    return {"Tree inventory.csv": file_of(head, rows)}


def _sailings() -> Files:
    boats = [("Heron", 12), ("Puffin", 24), ("Seal", 40)]
    rows: list[list[object]] = []
    for i in range(760):
        (boat, room), off = R.choice(boats), R.random() < 0.09
        adults, children = R.randint(0, room * 2 // 3), R.randint(0, room // 3)
        rows.append(
            [
                i + 1,
                _day(dt.date(2026, 4, 1), 210),
                R.choice(["10:00", "12:30", "15:00", "18:00"]),
                boat,
                R.choice(["Seal watching", "Harbour tour", "Island landing"]),
                R.choice(["Tam", "Isla", "Rory"]),
                room,
                "" if off else adults,
                "" if off else children,
                "" if off else adults * 18 + children * 9,
                _cents(9, 60),
                "Yes" if off else "No",
            ]
        )
    head = [
        "Sailing", "Date", "Departs", "Boat", "Trip", "Skipper", "Capacity", "Adults", "Children", "Ticket income",
        "Fuel cost", "Cancelled due to weather",
    ]  # fmt: skip
    return {"Sailings.csv": file_of(head, rows)}


def _volunteers() -> Files:
    names = PEOPLE[20:80]
    people = []
    for name in names:
        joined = _day(dt.date(2019, 1, 1), 2700)
        left = joined + dt.timedelta(R.randint(60, 900)) if R.random() < 0.2 else ""
        born, runs_out = _day(dt.date(1945, 1, 1), 20000), _day(dt.date(2026, 6, 1), 900)
        role, branch = R.choice(["Driver", "Befriender", "Shop"]), R.choice(["Ryburn", "Colne", "Calder"])
        people.append([name, joined, left, role, branch, born, R.choice("YYN"), runs_out])
    shifts = [
        [
            _day(dt.date(2026, 1, 1), 300),
            R.choice(names[:50]),
            R.choice(["Lunch club", "Transport", "Shop", "Home visit"]),
            R.choice([1, 1.5, 2, 3, 4]),
            R.randint(0, 40),
            R.choice([0, 0, _cents(1, 18)]),
        ]
        for _ in range(1500)
    ]
    head = ["Volunteer", "Joined", "Left", "Role", "Branch", "Date of birth", "DBS checked", "DBS expiry"]
    worked = ["Date", "Volunteer", "Activity", "Hours", "Miles driven", "Expenses claimed"]
    return {"People.csv": file_of(head, people), "Shifts worked.csv": file_of(worked, shifts)}


def _samples() -> Files:
    rows = []
    for i in range(900):
        river = R.choice(["Lyd", "Arn", "Wenn"])
        rows.append(
            [
                f"WS-{i:05d}",
                _day(dt.date(2024, 1, 1), 1000),
                f"{river} at {R.choice(['bridge', 'weir', 'mouth'])}",
                river,
                R.choice(["KB", "TL", "SO"]),
                round(R.uniform(6.1, 8.8), 1),
                round(R.uniform(0.5, 50), 1),
                R.randint(1, 4000),
                round(R.uniform(2, 22), 1),
                R.choice(["Pass", "Pass", "Pass", "Fail"]),
                R.choice(["North Lab", "Aqua Ltd"]),
                R.randint(2, 19),
            ]
        )
    head = [
        "Sample", "Taken on", "Site", "River", "Sampler", "pH", "Nitrate mg/l", "E. coli per 100ml", "Temp °C", "Pass/Fail",
        "Lab", "Turnaround days",
    ]  # fmt: skip
    return {"Water samples.csv": file_of(head, rows)}


def _solar() -> Files:
    sites = ["Barn roof", "School", "Town hall", "Mill", "Depot"]
    rows = []
    for day in (dt.date(2025, 1, 1) + dt.timedelta(i) for i in range(660)):
        for site in sites:
            made = round(R.uniform(2, 60) * (1 if 3 < day.month < 10 else 0.5), 1)
            sold = round(made * R.uniform(0.1, 0.7), 1)
            fault = R.choice(["", "", "", "", "", "", "Inverter", "Grid loss"])
            rows.append(
                [day, site, made, sold, round(R.uniform(0, 14), 1), R.randint(-2, 31), fault, round(sold * 0.15, 2)]
            )
    head = [
        "Reading date",
        "Site",
        "kWh generated",
        "kWh exported",
        "Sun hours",
        "Max temp (C)",
        "Fault",
        "Income from export £",
    ]
    built = []
    for site in sites:
        panels = R.randint(20, 120)
        owner = R.choice(["Council", "Co-op"])
        built.append([site, _day(dt.date(2015, 1, 1), 3000), panels, round(panels * 0.4, 1), panels * 420, owner])
    return {
        "generation log.csv": file_of(head, rows),
        "sites.csv": file_of(["Site", "Installed", "Panels", "Capacity kW", "Cost", "Owner"], built),
    }


def _podcast() -> Files:
    rows = []
    for i in range(190):
        heard, sponsor = R.randint(300, 9000), R.choice(["Oat Mill", "BrightPens", "", ""])
        rows.append(
            [
                f"{R.choice(['On', 'About', 'Why'])} {R.choice(['rain', 'mud', 'owls', 'tea', 'sheds'])} {i}",
                R.choice(["Hedge Talk", "Tin Roof", "Night Bus"]),
                _day(dt.date(2024, 1, 1), 1030),
                R.randint(18, 95),
                R.choice(["Isla", "Rory"]),
                R.choice([*PEOPLE[:30], *[""] * 20]),
                heard,
                int(heard * R.uniform(0.2, 0.6)),
                round(R.uniform(3, 5), 1),
                sponsor,
                R.choice([150, 300, 500]) if sponsor else "",
            ]
        )
    head = [
        "Episode title", "Show", "Published", "Length (mins)", "Host", "Guest", "Downloads", "Downloads first 7 days", "Rating",
        "Sponsor", "Sponsor fee",
    ]  # fmt: skip
    return {"Episodes.csv": file_of(head, rows)}


def _returns() -> Files:
    rows = [
        [
            i + 1,
            f"O{R.randint(10000, 99999)}",
            R.choice(PEOPLE),
            R.choice(["Jacket", "Boots", "Tent", "Rucksack", "Stove"]),
            R.choice(["Green", "Grey", "Red"]),
            R.choice(["Wrong size", "Faulty", "Changed mind", "Not as described"]),
            _day(dt.date(2026, 1, 1), 300),
            R.randint(1, 60),
            _cents(15, 240),
            R.choice(["As new", "Used", "Damaged"]),
            R.choice(["Yes", "No"]),
            R.choice(["Bea", "Kit", "Gus"]),
        ]
        for i in range(800)
    ]
    head = [
        "Return no", "Order no", "Customer", "Product", "Colour", "Reason", "Returned on", "Days since purchase", "Refund",
        "Condition", "Restocked", "Handled by",
    ]  # fmt: skip
    return {"Returns 2026.csv": file_of(head, rows)}


def _wards() -> Files:
    rows = []
    for i in range(1300):
        came = dt.datetime(2026, 1, 1) + dt.timedelta(minutes=R.randint(0, 430000))
        rows.append(
            [
                i + 1,
                R.randint(1000, 1700),
                R.choice(["Ash", "Beech", "Cedar", "Maple"]),
                came,
                came + dt.timedelta(hours=R.randint(4, 400)) if R.random() < 0.94 else "",
                R.randint(1, 97),
                R.choice("MF"),
                R.choice(["Fall", "Chest pain", "Hip", "Infection", "Planned"]),
                R.choice(["Dr Hale", "Dr Roe", "Miss Shaw"]),
                R.choice(["No"] * 9 + ["Yes"]),
                R.choice(["Home", "Care home", "Other hospital"]),
            ]
        )
    head = [
        "Admission ID", "Patient no", "Ward", "Admitted", "Discharged", "Age", "Sex", "Reason", "Consultant",
        "Readmitted within 30 days", "Discharge destination",
    ]  # fmt: skip
    beds = [
        ["Ash", 24, "T. Noon", 1, "Elderly"],
        ["Beech", 18, "A. Fry", 2, "Surgery"],
        ["Cedar", 30, "K. Moss", 2, "Medicine"],
        ["Maple", 12, "L. Dane", 3, "Children"],
    ]
    return {
        "Admissions.csv": file_of(head, rows),
        "Ward list.csv": file_of(["Ward", "Beds", "Sister in charge", "Floor", "Speciality"], beds),
    }


def _harvest() -> Files:
    rows = []
    for _ in range(1700):
        punnets, hours = R.randint(20, 180), R.choice([4, 6, 7.5, 8])
        rows.append(
            [
                _day(dt.date(2026, 5, 10), 150),
                R.choice(PEOPLE[:24]),
                R.choice(["Strawberries", "Raspberries", "Cherries"]),
                R.choice(["Top field", "Long acre", "Polytunnel 1", "Polytunnel 2"]),
                punnets,
                round(punnets * 0.4, 1),
                hours,
                round(hours * 12.5, 2),
                R.choice([0, 0, 0, 10, 20]),
            ]
        )
    head = ["Date", "Picker", "Crop", "Field", "Punnets picked", "Kg", "Hours worked", "Pay", "Bonus"]
    return {"Picking records.csv": file_of(head, rows)}


def _parking() -> Files:
    rows = []
    for i in range(1500):
        issued, amount, paid, asked = (
            _day(dt.date(2025, 6, 1), 510),
            R.choice([50, 70]),
            R.random() < 0.7,
            R.choice("NNNY"),
        )
        rows.append(
            [
                f"PN{i:06d}",
                issued.strftime("%d/%m/%y"),
                f"{R.randint(7, 20):02d}:{R.randint(0, 59):02d}",
                R.choice(["High St", "Dock Rd", "Abbey Ln", "Station Rd"]),
                R.choice(["No ticket displayed", "Overstayed", "Permit bay", "Double yellow"]),
                R.choice(["C101", "C102", "C107", "C110"]),
                amount,
                R.choice("YN"),
                (issued + dt.timedelta(R.randint(1, 40))).strftime("%d/%m/%y") if paid else "",
                (amount / 2 if R.random() < 0.6 else amount) if paid else "",
                asked,
                R.choice(["Upheld", "Rejected", "Pending"]) if asked == "Y" else "",
            ]
        )
    head = [
        "PCN", "Issued", "Time", "Street", "Contravention", "Officer", "Amount", "Discounted?", "Paid on", "Amount paid",
        "Appealed", "Appeal outcome",
    ]  # fmt: skip
    return {"PCNs issued.csv": file_of(head, rows)}


def _choir() -> Files:
    singers = PEOPLE[:52]
    members = [
        [
            p,
            R.choice(["Soprano", "Alto", "Tenor", "Bass"]),
            _day(dt.date(2012, 1, 1), 5200),
            R.choice([120, 120, 60, 0]),
            120,
        ]
        for p in singers
    ]
    rows: list[list[object]] = []
    for evening in range(40):
        for singer in singers:
            came = R.choice("YYYN")
            why = R.choice(["Ill", "Work", "Holiday", ""]) if came == "N" else ""
            rows.append([dt.date(2026, 1, 6) + dt.timedelta(7 * evening), singer, came, why])
    return {
        "Members.csv": file_of(["Member", "Voice part", "Joined", "Subs paid", "Subs due"], members),
        "Attendance.csv": file_of(["Rehearsal date", "Member", "Attended", "Reason for absence"], rows),
    }


def _outings() -> Files:
    outings = [
        ("Zoo", 18, "2026-05-14"),
        ("France", 320, "2026-07-01"),
        ("Theatre", 26, "2026-03-20"),
        ("Museum", 9, "2026-10-02"),
    ]
    rows: list[list[object]] = []
    for _ in range(420):
        outing, due, day = R.choice(outings)
        paid = R.choice([due, due, due / 2, 0])
        when = _day(dt.date(2026, 1, 5), 120) if paid else ""
        how = R.choice(["Card", "Cash", "Bank"]) if paid else ""
        rows.append(
            [R.choice(PEOPLE), R.choice(["7A", "7B", "8A", "8B"]), outing, day, due, paid, when, how, R.choice("YNN")]
        )
    head = ["Pupil", "Class", "Trip", "Trip date", "Amount due", "Amount paid", "Date paid", "Method", "Free meals"]
    return {"Trip payments.csv": file_of(head, rows)}


def _skihire() -> Files:
    rows: list[list[object]] = []
    for i in range(700):
        out, days, price = _day(dt.date(2025, 12, 1), 120), R.randint(1, 10), R.choice([8, 12, 18, 25])
        due = out + dt.timedelta(days)
        back = due + dt.timedelta(R.choice([0, 0, 0, 1, 2])) if R.random() < 0.9 else ""
        item, size = R.choice(["Skis", "Boots", "Helmet", "Snowboard"]), R.choice(["S", "M", "L", "XL"])
        rows.append(
            [
                f"H{i:05d}",
                R.choice(PEOPLE),
                item,
                size,
                out,
                due,
                back,
                days,
                price,
                price * days,
                R.choice(["Ola", "Per"]),
            ]
        )
    head = [
        "Hire ref",
        "Customer name",
        "Item",
        "Size",
        "Out",
        "Due back",
        "Returned",
        "Days hired",
        "Price per day",
        "Total charge",
        "Staff",
    ]
    return {"Hires.csv": file_of(head, rows)}


def _sightings() -> Files:
    rows = [
        [
            i + 1,
            _day(dt.date(2025, 3, 1), 600).strftime("%d/%m/%Y"),
            R.choice(["Robin", "Wren", "Kestrel", "Curlew", "Swift", "Lapwing"]),
            R.choice([1, 1, 2, 3, 5, 12, 40]),
            R.choice(["Mere", "Copse", "Quarry", "Fen"]),
            R.choice(PEOPLE[:12]),
            R.choice(["Woodland", "Wetland", "Farmland"]),
            R.choice(["yes", "no", "no"]),
            R.choice(["Sunny", "Cloudy", "Rain"]),
        ]
        for i in range(1100)
    ]
    head = ["Obs ID", "Date seen", "Species", "Count", "Site", "Observer", "Habitat", "Breeding?", "Weather"]
    return {"Sightings.csv": file_of(head, rows)}


FURTHER = {
    "translation": _translation(),
    "problems": _problems(),
    "trees": _trees(),
    "sailings": _sailings(),
    "volunteers": _volunteers(),
    "samples": _samples(),
    "solar": _solar(),
    "podcast": _podcast(),
    "returns": _returns(),
    "wards": _wards(),
    "harvest": _harvest(),
    "parking": _parking(),
    "choir": _choir(),
    "outings": _outings(),
    "skihire": _skihire(),
    "sightings": _sightings(),
}
