"""Made-up files of ordinary houses: what is bought and when it came, bikes between stations, staff, a shop, energy, cars for hire."""

from __future__ import annotations

import datetime as dt
import random

from tests.trades.making import PEOPLE, Files, file_of

R = random.Random(97)
_FIRST = dt.date(2025, 1, 1)


def _day(days: int = 660) -> dt.date:
    return _FIRST + dt.timedelta(R.randint(0, days))


def _purchasing() -> Files:
    """Orders with when they are due, and receipts with when they came."""
    suppliers = [
        [f"S{n}", f"{name} Ltd", R.choice(["UK", "France"]), R.choice([14, 30])] for n, name in enumerate("ABCDEF")
    ]
    orders, receipts = [], []
    for n in range(200):
        ordered, many, price = _day(), R.choice([10, 50, 200]), round(R.uniform(1, 40), 2)
        due, came = ordered + dt.timedelta(R.randint(5, 30)), R.random() < 0.9
        orders.append(
            [f"PO-{n}", R.choice(suppliers)[0], ordered, due, R.choice(["Fixings", "Tools"]), many, price,
             round(many * price, 2), "Received" if came else "Open", R.choice(["Amy", "Dev", "Tom"])]
        )  # fmt: skip
        if came:
            receipts.append([f"G{n}", f"PO-{n}", due + dt.timedelta(R.randint(-5, 6)), many, R.choice([0, 0, 2])])
    heads = "PO Number,Supplier ID,Order Date,Due Date,Category,Qty Ordered,Unit Price,Order Value,Status,Buyer"
    return {
        "suppliers.csv": file_of(["Supplier ID", "Supplier Name", "Country", "Payment Terms (days)"], suppliers),
        "purchase_orders.csv": file_of(heads.split(","), orders),
        "receipts.csv": file_of(["Receipt No", "PO Number", "Received Date", "Qty Received", "Qty Rejected"], receipts),
    }


def _bikes() -> Files:
    """Trips that begin at one station and end at another."""
    stations = [[n, name, R.choice(["North", "South"])] for n, name in enumerate(["Elm", "Dock", "Kiln", "Abbey"], 1)]
    trips = [
        [n, _day(), (a := R.randint(1, 4)), R.choice([x for x in range(1, 5) if x != a]), round(R.uniform(1, 9), 1)]
        for n in range(1, 400)
    ]
    return {
        "stations.csv": file_of(["station_id", "station_name", "zone"], stations),
        "trips.csv": file_of(["trip_id", "trip_date", "start_station_id", "end_station_id", "km"], trips),
    }


def _staff() -> Files:
    """People with the number of their manager, what they take off, what they are given, and how they did each year."""
    people, reviews = [], []
    for n in range(1, 61):
        boss = "" if n < 4 else R.randint(1, 9)
        people.append(
            [n, f"{PEOPLE[n % 25]} {'ABC'[n // 25]}", R.choice(["People", "Sales", "Finance"]), boss, _day(600),
             _day() if n % 9 == 0 else "", R.randint(20, 70) * 1000]
        )  # fmt: skip
        reviews += [[n, year, R.randint(1, 5)] for year in (2025, 2026) if R.random() < 0.7]
    leave = [
        [n, R.randint(1, 60), R.choice(["Annual", "Annual", "Sick"]), _day(), R.randint(1, 9)] for n in range(1, 200)
    ]
    devices = [[f"A{n}", R.choice(["Laptop", "Phone"]), _day(1200), R.randint(1, 60)] for n in range(1, 50)]
    return {
        "employees.csv": file_of(
            ["EmployeeID", "Name", "Department", "ManagerID", "HireDate", "LeaveDate", "Salary"], people
        ),
        "reviews.csv": file_of(["EmployeeID", "ReviewYear", "Score"], reviews),
        "leave_requests.csv": file_of(["RequestID", "EmployeeID", "LeaveType", "StartDate", "Days"], leave),
        "devices.csv": file_of(["asset_tag", "device_type", "warranty_until", "assigned_to"], devices),
    }


def _shop() -> Files:
    """Products with what lies in store, and the lines of orders, which are dated by their order alone."""
    products = [
        [f"K{n}", f"Thing {n}", R.choice(["Kitchen", "Textiles"]), p := R.randint(10, 90), p // 2, R.randint(0, 90)]
        for n in range(12)
    ]
    orders = [[n, _day(), R.choice(["Delivered", "Returned"])] for n in range(1, 200)]
    lines = [[R.randint(1, 199), (p := R.choice(products))[0], R.randint(1, 3), p[3]] for _ in range(400)]
    return {
        "products.csv": file_of(["sku", "product_name", "category", "price", "unit_cost", "stock_level"], products),
        "orders.csv": file_of(["order_id", "order_date", "status"], orders),
        "order_lines.csv": file_of(["order_id", "sku", "qty", "unit_price"], lines),
    }


def _meters() -> Files:
    """Two kinds of energy in columns of their own, projects with a deadline beside bills that are due, and appointments."""
    used = [
        [site, f"{year}-{month:02}", k := R.randint(1000, 9000), k // 4, g := R.randint(500, 9000), g // 9]
        for site in ("Depot", "Office", "Lab")
        for year in (2025, 2026)
        for month in range(1, 11)
    ]
    heads = ["Site", "Month", "Electricity kWh", "Electricity Cost £", "Gas kWh", "Gas Cost £"]
    projects = [[f"P{n}", f"Plan {n}", R.choice(["Active", "Completed"]), _day(900)] for n in range(20)]
    bills = [
        [f"B{n}", f"P{R.randint(0, 19)}", d := _day(), d + dt.timedelta(30), "" if n % 5 == 0 else d] for n in range(60)
    ]
    seen = [
        [n, f"PT{R.randint(1, 60)}", b := _day(), b + dt.timedelta(R.randint(0, 30)), R.choice(["Attended", "DNA"])]
        for n in range(200)
    ]
    return {
        "energy use.csv": file_of(heads, used),
        "projects.csv": file_of(["Code", "Project Name", "Status", "Deadline"], projects),
        "appointments.csv": file_of(["Appt ID", "Patient", "Booked On", "Appt Date", "Outcome"], seen),
        "invoices.csv": file_of(["Invoice No", "Code", "Invoice Date", "Due Date", "Paid Date"], bills),
    }


def _hire() -> Files:
    """Cars hired by customers, what was broken, and how each place was rated on its own days."""
    cars = [[f"R{n}", f"Model {n % 5}", R.randint(2017, 2025), R.randint(4000, 90000)] for n in range(20)]
    customers = [[n, PEOPLE[n % 25], _day(1) - dt.timedelta(R.randint(7000, 25000))] for n in range(1, 41)]
    hires, damages = [], []
    for n in range(300):
        out = _day()
        back = out + dt.timedelta(R.randint(1, 14))
        hires.append([f"H{n}", R.choice(cars)[0], R.randint(1, 40), out, back, R.randint(30, 900)])
        if n % 6 == 0:
            damages.append([n, f"H{n}", R.randint(40, 900), R.choice(["Yes", "No"])])
    looks = [[R.choice(["Airport", "City", "Dock"]), _day(), R.randint(0, 5), R.choice(["Y", "N"])] for _ in range(80)]
    return {
        "vehicles.csv": file_of(["Registration", "Model", "Year", "Mileage"], cars),
        "customers.csv": file_of(["Customer No", "Name", "Date of Birth"], customers),
        "rentals.csv": file_of(
            ["Rental No", "Registration", "Customer No", "Pick-up Date", "Returned On", "Hire Charge"], hires
        ),
        "damages.csv": file_of(["Damage ID", "Rental No", "Repair Cost", "Charged to Customer"], damages),
        "branch_checks.csv": file_of(["Branch", "Check Date", "Rating", "Follow-up Required"], looks),
    }


HOUSES: dict[str, Files] = {
    "purchasing": _purchasing(),
    "bikes": _bikes(),
    "staff": _staff(),
    "store": _shop(),
    "meters": _meters(),
    "hire": _hire(),
}
