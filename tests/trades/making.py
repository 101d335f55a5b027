"""Made-up files of twenty-two trades, as people keep them: the same ones each time, for the questions that stand beside them."""

from __future__ import annotations

import csv
import datetime as dt
import io
import random
from collections.abc import Iterable, Sequence

R = random.Random(77)
Files = dict[str, str]


def file_of(head: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """One file as text."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(head)
    writer.writerows(rows)
    return out.getvalue()


def _day(first: dt.date, days: int) -> dt.date:
    return first + dt.timedelta(R.randint(0, days))


def _uk(day: dt.date) -> str:
    return day.strftime("%d/%m/%Y")


PEOPLE = [
    f"{first} {last}"
    for first in (
        "Ada",
        "Bea",
        "Cal",
        "Dot",
        "Eli",
        "Fay",
        "Gus",
        "Hal",
        "Ivy",
        "Jon",
        "Kit",
        "Lou",
        "May",
        "Ned",
        "Oda",
        "Pat",
    )
    for last in ("Marsh", "Pike", "Rowe", "Stead", "Tull", "Unwin", "Vane", "Wray")
]
OTHERS = [
    f"{first} {last}"
    for first in ("Zed", "Wim", "Tia", "Sol", "Roz", "Quin")
    for last in ("Arden", "Birch", "Crane", "Dale")
]
MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")


def _gym() -> Files:
    file_1 = file_of(
        ["Member No", "Name", "Joined", "Membership", "Monthly fee", "Status", "DOB", "Gender", "Town", "Left on"],
        [
            [
                1000 + i,
                PEOPLE[i],
                _uk(_day(dt.date(2022, 1, 1), 1600)),
                R.choice(["Off-peak", "Full", "Student", "Family"]),
                R.choice(["£25.00", "£39.00", "£19.00", "£60.00"]),
                (s := R.choice(["Active"] * 4 + ["Frozen", "Cancelled"])),
                _uk(_day(dt.date(1950, 1, 1), 20000)),
                R.choice("MF"),
                R.choice(["Ashby", "Corley", "Dunmow"]),
                _uk(_day(dt.date(2026, 1, 1), 300)) if s == "Cancelled" else "",
            ]
            for i in range(120)
        ],
    )
    file_2 = file_of(
        ["Member No", "Visit date", "In", "Out", "Area"],
        [
            [
                1000 + R.randint(0, 119),
                _uk(_day(dt.date(2026, 1, 1), 303)),
                (h := f"{R.randint(6, 20):02d}:{R.choice(['05', '20', '40'])}"),
                f"{int(h[:2]) + 1:02d}:{R.choice(['00', '10', '30'])}",
                R.choice(["Pool", "Weights", "Studio"]),
            ]
            for i in range(600)
        ],
    )
    file_3 = file_of(
        ["Class", "Instructor", "Day", "Start time", "Places", "Booked", "Attended", "Date"],
        [
            [
                R.choice(["Spin", "Yoga", "Pilates", "Boxfit"]),
                R.choice(OTHERS[:6]),
                (d := _day(dt.date(2026, 6, 1), 150)).strftime("%A"),
                R.choice(["07:00", "12:15", "18:30"]),
                (p := R.choice([12, 16, 20])),
                (b := R.randint(3, p)),
                R.randint(1, b),
                _uk(d),
            ]
            for i in range(300)
        ],
    )
    return {"Members.csv": file_1, "Visits.csv": file_2, "Classes.csv": file_3}


def _library() -> Files:
    B = [
        (f"BK{i:04d}", t)
        for i, t in enumerate(
            f"{a} {b}"
            for a in ("The Long", "A Quiet", "Last", "Under the", "Winter")
            for b in ("Road", "House", "Harvest", "Sea", "Orchard", "Letter", "Garden", "Shore")
        )
    ]
    file_1 = file_of(
        ["Book ID", "Title", "Author", "Genre", "Published", "Pages", "Copies", "Price paid"],
        [
            [
                b,
                t,
                R.choice(OTHERS[:20]),
                R.choice(["Crime", "Romance", "History", "Children's", "Science"]),
                R.randint(1950, 2025),
                R.randint(80, 700),
                R.randint(1, 6),
                round(R.uniform(4, 25), 2),
            ]
            for b, t in B
        ],
    )
    file_2 = file_of(
        ["Card", "Borrower", "Type", "Branch", "Registered"],
        [
            [
                f"C{i}",
                PEOPLE[i],
                R.choice(["Adult", "Child", "Senior"]),
                R.choice(["Central", "Northgate", "Mill Lane"]),
                _day(dt.date(2020, 1, 1), 2400),
            ]
            for i in range(90)
        ],
    )
    rows = []
    for i in range(600):
        o = _day(dt.date(2025, 1, 1), 660)
        du = o + dt.timedelta(21)
        r = o + dt.timedelta(R.randint(1, 45))
        late = max(0, (r - du).days)
        out = r > dt.date(2026, 10, 31)
        rows.append(
            [
                i + 1,
                f"C{R.randint(0, 89)}",
                R.choice(B)[0],
                o,
                du,
                "" if out else r,
                R.randint(0, 2),
                "" if out else round(late * 0.2, 2),
            ]
        )
    file_3 = file_of(["Loan", "Card", "Book ID", "Borrowed", "Due", "Returned", "Renewals", "Fine"], rows)
    return {"books.csv": file_1, "borrowers.csv": file_2, "loans.csv": file_3}


def _bakery() -> Files:
    file_1 = file_of(
        ["Date", "Shop", "Product", "Made", "Sold", "Wasted", "Unit price", "Takings"],
        [
            [
                _day(dt.date(2026, 1, 1), 303),
                R.choice(["High Street", "Station", "Market Hall"]),
                (
                    x := R.choice(
                        [
                            ("Sourdough", 3.8),
                            ("Croissant", 1.9),
                            ("Sausage Roll", 2.2),
                            ("Rye Loaf", 3.4),
                            ("Eccles Cake", 1.5),
                        ]
                    )
                )[0],
                (m := R.randint(10, 80)),
                (s := R.randint(5, m)),
                m - s,
                x[1],
                round(s * x[1], 2),
            ]
            for i in range(600)
        ],
    )
    file_2 = file_of(
        ["Name", "Shop", "Week commencing", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Rate"],
        [
            [
                PEOPLE[i % 14],
                R.choice(["High Street", "Station", "Market Hall"]),
                dt.date(2026, 8, 3) + dt.timedelta(7 * (i // 14)),
                *[R.choice([0, 4, 6, 8]) for _ in range(6)],
                R.choice([11.5, 12.2, 14]),
            ]
            for i in range(14 * 12)
        ],
    )
    return {"Daily sales.csv": file_1, "Staff hours.csv": file_2}


def _repairs() -> Files:
    file_1 = file_of(
        [
            "Job Ref",
            "Address",
            "Estate",
            "Trade",
            "Priority",
            "Raised",
            "Target",
            "Completed",
            "Contractor",
            "Est cost",
            "Actual cost",
            "Status",
            "Satisfaction (1-5)",
            "Recall",
        ],
        [
            [
                f"R-{5000 + i}",
                f"{R.randint(1, 60)} {R.choice(['Elm Court', 'Oak Rise', 'Ash Walk'])}",
                R.choice(["Northfield", "Southmead", "Westbury"]),
                R.choice(["Plumbing", "Electrical", "Joinery", "Roofing", "Heating"]),
                R.choice(["Emergency", "Urgent", "Routine"]),
                (d := _day(dt.date(2025, 4, 1), 560)),
                d + dt.timedelta(R.choice([1, 7, 28])),
                (c := "" if R.random() < 0.12 else d + dt.timedelta(R.randint(0, 50))),
                R.choice(["Brightfix", "Hale & Son", "In-house", "Kerr Ltd"]),
                R.randint(40, 900),
                "" if c == "" else R.randint(30, 1200),
                "Open" if c == "" else R.choice(["Completed", "Completed", "Closed - no access"]),
                "" if R.random() < 0.5 else R.randint(1, 5),
                R.choice(["N", "N", "N", "N", "Y"]),
            ]
            for i in range(900)
        ],
    )
    return {"jobs.csv": file_1}


def _race() -> Files:
    rows = []
    for i in range(600):
        s = R.randint(34 * 60, 80 * 60)
        rows.append(
            [
                i + 1,
                R.randint(1, 999),
                R.choice(PEOPLE),
                R.choice(["Harriers", "Valley AC", "Unattached", "Road Runners", "Tri Club"]),
                R.choice(["M", "F"]),
                R.choice(["U20", "Senior", "V40", "V50", "V60"]),
                f"0:{s // 60:02d}:{s % 60:02d}" if s < 3600 else f"1:{(s - 3600) // 60:02d}:{s % 60:02d}",
                R.choice([2023, 2024, 2025, 2026]),
                R.choice(["Y", "N"]),
            ]
        )
    file_1 = file_of(["Pos", "Bib", "Runner", "Club", "Sex", "Cat", "Time", "Year", "PB?"], rows)
    return {"results.csv": file_1}


def _calls() -> Files:
    file_1 = file_of(
        [
            "Call ID",
            "Date/Time",
            "Agent",
            "Queue",
            "Direction",
            "Duration (mm:ss)",
            "Wait secs",
            "Outcome",
            "CSAT",
            "Customer Ref",
        ],
        [
            [
                90000 + i,
                (_day(dt.date(2026, 7, 1), 120)).strftime("%d/%m/%Y")
                + f" {R.randint(8, 18):02d}:{R.randint(0, 59):02d}",
                R.choice(PEOPLE[:9]),
                R.choice(["Billing", "Sales", "Tech support"]),
                R.choice(["In", "In", "Out"]),
                f"{R.randint(0, 25)}:{R.randint(0, 59):02d}",
                R.randint(0, 400),
                R.choice(["Resolved", "Resolved", "Call back", "Escalated", "Abandoned"]),
                R.choice(["", 1, 2, 3, 4, 5]),
                f"CU{R.randint(1, 300)}",
            ]
            for i in range(600)
        ],
    )
    return {"call log.csv": file_1}


def _payables() -> Files:
    rows = []
    for _i in range(700):
        d = _day(dt.date(2025, 11, 1), 364)
        net = round(R.uniform(20, 4000), 2)
        vat = round(net * 0.2, 2)
        due = d + dt.timedelta(30)
        pd = due + dt.timedelta(R.randint(-25, 30))
        rows.append(
            [
                R.choice(["Acorn Paper", "Bolt Tools", "Cedar Fuel", "Delta Clean", "Ember Foods"]),
                f"INV{R.randint(10000, 99999)}",
                _uk(d),
                _uk(due),
                f"{net:,.2f}",
                f"{vat:,.2f}",
                f"{net + vat:,.2f}",
                _uk(pd) if pd <= dt.date(2026, 10, 31) else "",
                R.choice(["Stationery", "Fuel", "Cleaning", "Catering", "Repairs"]),
                R.choice(["Ops", "Sales", "Admin"]),
                R.choice(["J. Cole", "A. Hart", "M. Dunn"]),
            ]
        )
    file_1 = file_of(
        [
            "Supplier",
            "Invoice No.",
            "Invoice Date",
            "Due Date",
            "Net",
            "VAT",
            "Gross",
            "Date Paid",
            "Category",
            "Dept",
            "Approved By",
        ],
        rows,
    )
    return {"Purchase invoices.csv": file_1}


def _boxoffice() -> Files:
    S = [
        ("The Lantern", "Play"),
        ("Frost", "Dance"),
        ("Open Mic", "Comedy"),
        ("Swan Songs", "Music"),
        ("Tin Man", "Family"),
    ]
    file_1 = file_of(
        [
            "Booking ref",
            "Booked on",
            "Show",
            "Performance",
            "Seats",
            "Ticket type",
            "Price each",
            "Total paid",
            "Booked via",
            "Postcode area",
            "Refunded",
        ],
        [
            [
                f"B{20000 + i}",
                (p := _day(dt.date(2026, 3, 1), 240)) - dt.timedelta(R.randint(0, 60)),
                R.choice(S)[0],
                p,
                (n := R.randint(1, 6)),
                R.choice(["Adult", "Child", "Concession"]),
                (e := R.choice([8, 12, 18.5])),
                n * e,
                R.choice(["Web", "Phone", "Door"]),
                R.choice(["BN1", "BN2", "RH10"]),
                R.choice(["No"] * 9 + ["Yes"]),
            ]
            for i in range(600)
        ],
    )
    file_2 = file_of(
        ["Show", "Genre", "Capacity", "Opened", "Running time", "Director"],
        [
            [
                a,
                b,
                R.choice([120, 200, 300]),
                _day(dt.date(2026, 2, 1), 20),
                f"{R.randint(60, 170)} mins",
                R.choice(PEOPLE[:5]),
            ]
            for a, b in S
        ],
    )
    return {"bookings.csv": file_1, "shows.csv": file_2}


def _energy() -> Files:
    file_1 = file_of(
        ["Site", "Meter", "Fuel", "Year", *MONTHS, "Floor area m2"],
        [
            [
                s,
                f"{s[:2].upper()}{k}{f[0]}",
                f,
                y,
                *[R.randint(900, 9000) for _ in MONTHS],
                {"Town Hall": 4200, "Depot": 1800, "Pool": 2600, "Museum": 1500, "Library": 900}[s],
            ]
            for s in ["Town Hall", "Depot", "Pool", "Museum", "Library"]
            for k in (1, 2)
            for f in ("Electricity", "Gas")
            for y in (2024, 2025)
        ],
    )
    return {"Meter readings.csv": file_1}


def _hr() -> Files:
    rows = []
    for i in range(160):
        s = _day(dt.date(2012, 1, 1), 5300)
        lv = "" if R.random() < 0.75 else min(s + dt.timedelta(R.randint(90, 3000)), dt.date(2026, 10, 30))
        rows.append(
            [
                f"E{i:03d}",
                PEOPLE[i % 128].split()[0],
                PEOPLE[i % 128].split()[1],
                R.choice(["Finance", "IT", "Sales", "Warehouse", "HR"]),
                R.choice(["Manager", "Assistant", "Analyst", "Driver"]),
                s,
                lv,
                R.choice([21000, 24500, 31000, 42000, 55000]),
                R.choice([1.0, 1.0, 0.6, 0.8]),
                R.choice(["F", "M"]),
                R.choice(["Leeds", "York", "Hull"]),
                R.choice(["Permanent", "Permanent", "Temp"]),
                f"E{R.randint(0, 15):03d}" if i > 15 else "",
                R.randint(0, 25),
            ]
        )
    file_1 = file_of(
        [
            "Emp ID",
            "First name",
            "Surname",
            "Department",
            "Job title",
            "Start date",
            "Leaving date",
            "Salary",
            "FTE",
            "Gender",
            "Office",
            "Contract",
            "Line manager",
            "Holiday days left",
        ],
        rows,
    )
    file_2 = file_of(
        ["Emp ID", "From", "To", "Days", "Reason", "Self cert"],
        [
            [
                f"E{R.randint(0, 159):03d}",
                (d := _day(dt.date(2025, 1, 1), 640)),
                d + dt.timedelta(n := R.randint(0, 8)),
                n + 1,
                R.choice(["Sickness", "Sickness", "Compassionate", "Unpaid"]),
                R.choice(["Y", "N"]),
            ]
            for _ in range(420)
        ],
    )
    return {"employees.csv": file_1, "absence.csv": file_2}


def _deliveries() -> Files:
    file_1 = file_of(
        [
            "Drop #",
            "Date",
            "Van",
            "Driver",
            "Customer",
            "Postcode",
            "Miles",
            "Parcels",
            "Weight (kg)",
            "Planned ETA",
            "Actual arrival",
            "Signed for",
            "Failed?",
            "Fail reason",
            "Cost",
        ],
        [
            [
                i + 1,
                _uk(_day(dt.date(2026, 8, 1), 90)),
                R.choice(["V1", "V2", "V3", "V7"]),
                R.choice(["Tam", "Rik", "Joss", "Bev"]),
                R.choice(["Oak Cafe", "Hill School", "Mill Shop", "Quay Hotel", "Fern Spa"]),
                R.choice(["LS1 4AB", "LS2 9XY", "HG1 2CD"]),
                round(R.uniform(0.5, 30), 1),
                R.randint(1, 25),
                round(R.uniform(1, 300), 1),
                (_p := f"{R.randint(8, 17):02d}:{R.choice(['00', '15', '30', '45'])}"),
                f"{R.randint(8, 18):02d}:{R.randint(0, 59):02d}",
                R.choice(["Yes", "No"]),
                (f := R.choice(["", "", "", "", "Y"])),
                R.choice(["No answer", "Wrong address", "Refused"]) if f else "",
                round(R.uniform(4, 40), 2),
            ]
            for i in range(600)
        ],
    )
    return {"Deliveries Oct.csv": file_1}


def _homes() -> Files:
    file_1 = file_of(
        [
            "Address",
            "Town",
            "Type",
            "Beds",
            "Asking price",
            "Sold price",
            "Listed",
            "Sold",
            "Agent",
            "Viewings",
            "Chain free",
            "Council tax band",
            "EPC",
            "Sq ft",
        ],
        [
            [
                f"{R.randint(1, 99)} {R.choice(['High', 'Church', 'Mill', 'Park'])} {R.choice(['St', 'Rd', 'Lane'])}",
                R.choice(["Selby", "Thirsk", "Ripon"]),
                R.choice(["Terraced", "Semi", "Detached", "Flat"]),
                R.randint(1, 5),
                (a := R.randint(90, 650) * 1000),
                int(a * R.uniform(0.9, 1.05)),
                (listed := _day(dt.date(2025, 1, 1), 500)),
                listed + dt.timedelta(R.randint(10, 150)),
                R.choice(["Hobbs", "Quick & Co", "Martins"]),
                R.randint(1, 30),
                R.choice(["Yes", "No"]),
                R.choice("ABCDE"),
                R.choice("BCDE"),
                R.randint(400, 2600),
            ]
            for _ in range(700)
        ],
    )
    return {"sold homes.csv": file_1}


def _crm() -> Files:
    file_1 = file_of(
        [
            "Opp Name",
            "Account",
            "Owner",
            "Stage",
            "Value",
            "Probability",
            "Created",
            "Close date",
            "Source",
            "Next step",
        ],
        [
            [
                f"{R.choice(['New', 'Upgrade', 'Renewal'])} {i}",
                R.choice(["Aldo", "Brix", "Corvo", "Delph", "Elko", "Fenn"]),
                R.choice(PEOPLE[:7]),
                R.choice(["Lead", "Qualified", "Proposal", "Won", "Lost"]),
                R.randint(1, 90) * 500,
                R.choice([10, 25, 50, 75, 100]),
                (c := _day(dt.date(2025, 6, 1), 500)),
                c + dt.timedelta(R.randint(10, 200)),
                R.choice(["Referral", "Web", "Trade show"]),
                R.choice(["", "Call", "Send quote"]),
            ]
            for i in range(520)
        ],
    )
    return {"opportunities.csv": file_1}


def _foodbank() -> Files:
    file_1 = file_of(
        [
            "Visit date",
            "Household ref",
            "Adults",
            "Children",
            "Ward",
            "Reason for referral",
            "Referred by",
            "Parcels given",
            "Kg given",
            "First visit",
        ],
        [
            [
                _uk(_day(dt.date(2026, 1, 1), 303)),
                f"H{R.randint(1, 240)}",
                R.randint(1, 3),
                R.randint(0, 5),
                R.choice(["Eastgate", "Riverside", "Parkhill"]),
                R.choice(["Low income", "Benefit delay", "Debt", "Illness"]),
                R.choice(["GP", "School", "Council", "Self"]),
                R.randint(1, 3),
                round(R.uniform(5, 40), 1),
                R.choice(["Y", "N", "N"]),
            ]
            for _ in range(600)
        ],
    )
    return {"Food bank visits.csv": file_1}


def _dentist() -> Files:
    file_1 = file_of(
        [
            "Appt",
            "Date",
            "Time",
            "Dentist",
            "Patient",
            "NHS/Private",
            "Treatment",
            "Charge",
            "Status",
            "Booked on",
            "Duration",
        ],
        [
            [
                i + 1,
                (d := _day(dt.date(2026, 1, 5), 300)),
                f"{R.randint(9, 16)}:{R.choice(['00', '20', '40'])}",
                R.choice(["Dr Shah", "Dr Owen", "Dr Lee"]),
                R.choice(PEOPLE[:90]),
                R.choice(["NHS", "Private"]),
                R.choice(["Check-up", "Filling", "Hygienist", "Crown"]),
                R.choice([0, 26.8, 73.5, 55, 420]),
                R.choice(["Attended"] * 7 + ["DNA", "Cancelled"]),
                d - dt.timedelta(R.randint(0, 60)),
                R.choice([10, 20, 30, 60]),
            ]
            for i in range(600)
        ],
    )
    return {"appointments.csv": file_1}


def _budget() -> Files:
    file_1 = file_of(
        ["Cost centre", "Account", "Budget", "Actual YTD", "Forecast", "Owner"],
        [
            [
                cc,
                a,
                (b := R.randint(10, 90) * 1000),
                int(b * R.uniform(0.5, 1.1)),
                int(b * R.uniform(0.8, 1.2)),
                R.choice(["Kim", "Raj", "Sue"]),
            ]
            for cc in ("Marketing", "IT", "Estates", "People")
            for a in ("Salaries", "Travel", "Software", "Training", "Consultants")
        ],
    )
    return {"Budget 2026.csv": file_1}


def _cafe() -> Files:
    rows = []
    M = [
        ("Latte", "Hot drinks", 3.4),
        ("Tea", "Hot drinks", 2.1),
        ("Scone", "Cakes", 2.8),
        ("Toastie", "Lunch", 5.5),
        ("Soup", "Lunch", 4.9),
        ("Brownie", "Cakes", 3.0),
    ]
    rows = []
    o = 1
    for _ in range(400):
        d = _day(dt.date(2026, 2, 1), 272)
        t = f"{R.randint(8, 16):02d}:{R.randint(0, 59):02d}"
        n = R.randint(1, 4)
        for _ in range(n):
            m = R.choice(M)
            q = R.randint(1, 3)
            rows.append(
                [
                    f"T{o:05d}",
                    _uk(d),
                    t,
                    m[0],
                    m[1],
                    q,
                    f"{m[2]:.2f}",
                    f"{q * m[2]:.2f}",
                    R.choice(["Eat in", "Takeaway"]),
                    R.choice(["Card", "Cash"]),
                    R.choice(["Lil", "Sam", "Jo"]),
                ]
            )
        o += 1
    file_1 = file_of(
        [
            "Ticket",
            "Date",
            "Time",
            "Item",
            "Category",
            "Qty",
            "Price",
            "Line total",
            "Eat in/takeaway",
            "Paid by",
            "Server",
        ],
        rows,
    )
    return {"till transactions.csv": file_1}


def _lettings() -> Files:
    props = [f"{i} {s}" for s in ("Dale St", "Ivy Rd", "Tower Ct", "Beck Ln") for i in R.sample(range(1, 90), 10)]
    file_1 = file_of(
        [
            "Property",
            "Area",
            "Bedrooms",
            "Monthly rent",
            "Tenant",
            "Tenancy start",
            "Tenancy end",
            "Deposit held",
            "Rent paid to",
            "Arrears",
            "Managed by",
        ],
        [
            [
                p,
                R.choice(["North", "South", "Centre"]),
                R.randint(1, 4),
                (r := R.choice([650, 725, 800, 950, 1100])),
                (t := R.choice(PEOPLE) if R.random() < 0.88 else ""),
                (s := _day(dt.date(2022, 1, 1), 1500)) if t else "",
                (s + dt.timedelta(365 * R.randint(1, 5))) if t else "",
                r if t else "",
                _day(dt.date(2026, 9, 1), 60) if t else "",
                R.choice([0, 0, 0, r, r * 2]) if t else "",
                R.choice(["Hana", "Luke"]),
            ]
            for p in props
        ],
    )
    file_2 = file_of(
        ["Ref", "Property", "Reported", "Fixed", "Type", "Contractor", "Invoice", "Charged to landlord?"],
        [
            [
                f"M{i}",
                R.choice(props),
                (d := _day(dt.date(2025, 1, 1), 650)),
                d + dt.timedelta(R.randint(0, 40)) if R.random() < 0.85 else "",
                R.choice(["Boiler", "Leak", "Electrics", "Damp"]),
                R.choice(["AB Heating", "Quickplumb", "Sparx"]),
                R.randint(40, 900),
                R.choice(["Y", "N"]),
            ]
            for i in range(240)
        ],
    )
    return {"Rent roll.csv": file_1, "Maintenance.csv": file_2}


def _website() -> Files:
    file_1 = file_of(
        ["Date", "Page", "Channel", "Sessions", "Users", "Bounces", "Conversions", "Revenue", "Avg time on page (s)"],
        [
            [
                _day(dt.date(2026, 5, 1), 180),
                R.choice(["/home", "/pricing", "/blog", "/contact"]),
                R.choice(["Organic", "Paid", "Email", "Direct"]),
                (s := R.randint(20, 900)),
                int(s * R.uniform(0.6, 0.95)),
                int(s * R.uniform(0.2, 0.7)),
                (c := R.randint(0, 25)),
                round(c * R.uniform(20, 90), 2),
                R.randint(10, 240),
            ]
            for _ in range(600)
        ],
    )
    return {"Page stats.csv": file_1}


def _stockroom() -> Files:
    file_1 = file_of(
        [
            "SKU",
            "Product",
            "Supplier",
            "Category",
            "On hand",
            "Reorder at",
            "Unit cost",
            "Retail price",
            "Last counted",
            "Shelf",
        ],
        [
            [
                f"SK{i:04d}",
                f"{a} {b}",
                R.choice(["Dales Co", "Peak Ltd", "Moor & Co"]),
                R.choice(["Jam", "Cheese", "Drinks", "Gifts"]),
                R.randint(0, 80),
                R.choice([5, 10, 15]),
                (c := round(R.uniform(0.8, 9), 2)),
                round(c * R.uniform(1.2, 2.2), 2),
                _day(dt.date(2026, 6, 1), 150),
                R.choice("ABCD") + str(R.randint(1, 9)),
            ]
            for i, (a, b) in enumerate(
                (a, b)
                for a in ("Plum", "Smoked", "Ginger", "Oak", "Wild", "Honey", "Apple", "Rustic")
                for b in ("Preserve", "Cheddar", "Cordial", "Candle", "Chutney", "Fudge")
            )
        ],
    )
    return {"Inventory.csv": file_1}


def _buses() -> Files:
    file_1 = file_of(
        [
            "Service no",
            "Date",
            "Depart",
            "Route",
            "Direction",
            "Passengers",
            "Concessions",
            "Minutes late",
            "Cancelled",
            "Fares £",
            "Bus reg",
        ],
        [
            [
                i + 1,
                _day(dt.date(2026, 7, 1), 120),
                f"{R.randint(6, 22):02d}:{R.choice(['05', '25', '45'])}",
                R.choice(["1", "1A", "7", "12"]),
                R.choice(["In", "Out"]),
                (p := R.randint(0, 60)),
                R.randint(0, p),
                R.choice([0, 0, 1, 3, 6, 12, -1]),
                R.choice(["No"] * 14 + ["Yes"]),
                round(p * R.uniform(1, 2.4), 2),
                R.choice(["YX21 ABC", "YX22 DEF", "YK19 GHI"]),
            ]
            for i in range(600)
        ],
    )
    return {"Journeys.csv": file_1}


def _training() -> Files:
    file_1 = file_of(
        [
            "Booking",
            "Delegate",
            "Company",
            "Course",
            "Course date",
            "Fee",
            "Booked",
            "Attended",
            "Passed",
            "Score",
            "Feedback (1-5)",
        ],
        [
            [
                i + 1,
                R.choice(PEOPLE),
                R.choice(["Arlo plc", "Beam", "Corr", "Dunn & Co"]),
                R.choice(["First Aid", "Fire Warden", "Manual Handling"]),
                (d := _day(dt.date(2026, 1, 10), 280)),
                R.choice([95, 120, 60]),
                d - dt.timedelta(R.randint(1, 60)),
                (a := R.choice(["Y"] * 8 + ["N"])),
                R.choice(["Y", "Y", "Y", "N"]) if a == "Y" else "",
                R.randint(40, 100) if a == "Y" else "",
                R.randint(2, 5) if a == "Y" and R.random() < 0.7 else "",
            ]
            for i in range(640)
        ],
    )
    return {"Course bookings.csv": file_1}


TRADES = {
    "gym": _gym(),
    "library": _library(),
    "bakery": _bakery(),
    "repairs": _repairs(),
    "race": _race(),
    "calls": _calls(),
    "payables": _payables(),
    "boxoffice": _boxoffice(),
    "energy": _energy(),
    "hr": _hr(),
    "deliveries": _deliveries(),
    "homes": _homes(),
    "crm": _crm(),
    "foodbank": _foodbank(),
    "dentist": _dentist(),
    "budget": _budget(),
    "cafe": _cafe(),
    "lettings": _lettings(),
    "website": _website(),
    "stockroom": _stockroom(),
    "buses": _buses(),
    "training": _training(),
}
