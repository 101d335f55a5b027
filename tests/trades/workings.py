"""Made-up files of doings with states, spans and things made: van rounds, a joinery, grants, units to let, an environment office, a nursery, allotments, a music school, a theatre."""

from __future__ import annotations

import datetime as dt
import random
from collections.abc import Callable
from functools import partial

from tests.trades.making import PEOPLE, Files, file_of

R = random.Random(77)
_TODAY = dt.date(2026, 10, 31)


def _day(first: dt.date, last: dt.date = _TODAY) -> dt.date:
    return _some_day(R, first, last)


def _some_day(chance: random.Random, first: dt.date, last: dt.date = _TODAY) -> dt.date:
    return first + dt.timedelta(chance.randrange((last - first).days + 1))


def _known(day: dt.date) -> dt.date | str:
    return day if day <= _TODAY else ""


def _moment(moment: dt.datetime) -> str:
    return moment.strftime("%Y-%m-%d %H:%M")


def _rounds() -> Files:
    """Drivers and vans of three depots, their runs with the drops on each, fills of fuel, incidents, services."""
    depots = [["D1", "Harrow Mill", "North"], ["D2", "Quayside", "East"], ["D3", "Tannery Road", "South"]]
    drivers = [
        [f"DR{i:02d}", PEOPLE[5 * i], R.choice(depots)[0], _day(dt.date(2016, 1, 1), dt.date(2025, 6, 1)),
         R.choice(["full time", "part time", "agency"]), dt.date(2026, 5, 1) if i in (3, 9) else "", R.randint(1250, 1720) / 100]
        for i in range(1, 13)
    ]  # fmt: skip
    fuels, kinds = ["Diesel", "Diesel", "Electric", "Petrol"], ["Small van", "Long van", "Lorry"]
    vans = [
        [f"V{i:02d}", R.choice(fuels), R.choice(kinds), 2017 + i % 7, R.choice(depots)[0], 600 + 300 * (i % 3)]
        for i in range(1, 11)
    ]
    named = [
        "Abbot Pharmacy",
        "Bell & Sons",
        "Corner Diner",
        "Dale Motors",
        "Elm Offices",
        "Fern Deli",
        "Gable Books",
        "Hart Optics",
    ]
    customers = [
        [f"C{i:03d}", name, R.choice(["Retail", "Pharmacy", "Garage"]), R.choice(["Standard", "Priority"]), R.choice(["Harrow", "Overton"])]
        for i, name in enumerate(named, 1)
    ]  # fmt: skip
    runs, drops = [], []
    for i in range(1, 151):
        day, km = _day(dt.date(2026, 1, 1)), R.randint(30, 220)
        runs.append(
            [
                f"R{i:04d}",
                day,
                R.choice(drivers)[0],
                R.choice(vans)[0],
                f"{R.choice([6, 7, 8]):02d}:15",
                round(km / 28 + 2 * R.random(), 1),
                km,
            ]
        )
        for stop in range(1, R.randint(3, 6)):
            state = R.choices(["Delivered", "Failed", "Returned", "Delivered late"], [78, 8, 4, 10])[0]
            promised = dt.datetime.combine(day, dt.time(R.randint(9, 17), R.randint(0, 59)))
            late = R.randint(16, 120) if state == "Delivered late" else R.randint(-40, 14)
            arrived = "" if state == "Failed" else _moment(promised + dt.timedelta(minutes=late))
            why = R.choice(["Nobody in", "Wrong address", "Refused"]) if state == "Failed" else ""
            drops.append(
                [len(drops) + 1, f"R{i:04d}", stop, R.choice(customers)[0], R.randint(1, 11), R.randint(20, 1800) / 10,
                 _moment(promised), arrived, state, why, R.randint(600, 4800) / 100]
            )  # fmt: skip
    fills = []
    for i in range(1, 101):
        litres, price = R.randint(200, 750) / 10, R.randint(1350, 1620) / 1000
        van = R.choice([v for v in vans if v[1] != "Electric"])
        fills.append([i, van[0], _day(dt.date(2026, 1, 1)), litres, price, round(litres * price, 2)])
    incidents = [
        [i, R.choice(runs)[0], R.choice(["Scrape", "Breakdown", "Fine"]), R.choice(["minor", "serious"]), R.choice([0, 60, 250, 900])]
        for i in range(1, 41)
    ]  # fmt: skip
    services = []
    for i in range(1, 31):
        booked = _day(dt.date(2025, 6, 1), dt.date(2026, 12, 20))
        done = _known(booked + dt.timedelta(R.randint(0, 4)))
        services.append(
            [
                i,
                R.choice(vans)[0],
                booked,
                done,
                R.choice(["Pit Stop", "Harbour Garage"]),
                R.randint(90, 900) if done else "",
            ]
        )
    return {
        "depots.csv": file_of(["depot_id", "depot", "region"], depots),
        "drivers.csv": file_of(["driver_id", "name", "depot_id", "started", "contract", "left_on", "hourly_rate"], drivers),
        "vehicles.csv": file_of(["vehicle_id", "fuel", "kind", "year", "depot_id", "payload_kg"], vans),
        "customers.csv": file_of(["customer_id", "customer", "sector", "service_level", "town"], customers),
        "runs.csv": file_of(["run_id", "run_date", "driver_id", "vehicle_id", "left_depot", "hours", "km"], runs),
        "drops.csv": file_of(
            ["drop_id", "run_id", "stop_no", "customer_id", "parcels", "weight_kg", "promised_at", "delivered_at", "status", "failure_reason", "charge"],
            drops,
        ),
        "fuel_fills.csv": file_of(["fill_id", "vehicle_id", "filled_on", "litres", "price_per_litre", "cost"], fills),
        "incidents.csv": file_of(["incident_id", "run_id", "type", "severity", "cost"], incidents),
        "services.csv": file_of(["service_id", "vehicle_id", "booked_for", "done_on", "garage", "cost"], services),
    }  # fmt: skip


def _joinery() -> Files:
    """Machines with targets, who may use which, orders, what was made for each, inspections, stoppages, recipes of materials."""
    machines = [
        [f"M{i}", name, line, R.choice([2009, 2014, 2018]), target]
        for i, (name, line, target) in enumerate(
            [("Panel saw", "A", 14), ("CNC router", "B", 25), ("Spray booth", "B", 20), ("Press", "C", 30), ("Sander", "C", 12)], 1
        )
    ]  # fmt: skip
    products = [
        [f"P{i:02d}", name, family, price, cost]
        for i, (name, family, price, cost) in enumerate(
            [("Oak desk", "Desks", 420, 198), ("Pine desk", "Desks", 260, 121), ("Bookcase", "Storage", 310, 150),
             ("Cafe table", "Tables", 190, 88), ("Bench", "Seating", 130, 61), ("Stool", "Seating", 75, 29)], 1
        )
    ]  # fmt: skip
    operators = [
        [f"O{i:02d}", PEOPLE[11 * i], R.choice(["Day", "Night"]), _day(dt.date(2012, 1, 1), dt.date(2025, 1, 1)), f"O0{1 + i % 2}" if i > 2 else ""]
        for i in range(1, 9)
    ]  # fmt: skip
    skills = [
        [o[0], machine[0], R.choice(["trainee", "competent", "expert"])]
        for o in operators
        for machine in machines
        if R.random() < 0.55
    ]
    buyers = ["Bright Offices", "Cobalt Schools", "Dene Hotels"]
    orders, made, checks = [], [], []
    for i in range(1, 121):
        opened, many = _day(dt.date(2026, 1, 3), dt.date(2026, 10, 20)), R.choice([5, 10, 20, 40])
        done = _known(opened + dt.timedelta(R.randint(6, 50)))
        state = "Cancelled" if i % 25 == 0 else "Finished" if done else R.choice(["In progress", "Planned", "On hold"])
        due = opened + dt.timedelta(R.randint(10, 40))
        orders.append(
            [
                f"W{i:03d}",
                R.choice(products)[0],
                R.choice(buyers),
                opened,
                due,
                many,
                state,
                "" if state == "Cancelled" else done,
            ]
        )
        for _ in range(R.randint(1, 3) if state in ("Finished", "In progress") else 0):
            good = max(1, int(many * R.uniform(0.85, 1)))
            made.append(
                [len(made) + 1, f"W{i:03d}", R.choice(machines)[0], R.choice(operators)[0], opened + dt.timedelta(R.randint(1, 5)),
                 good, many - good, round(good / 14 * R.uniform(1, 1.8), 1)]
            )  # fmt: skip
            if R.random() < 0.5:
                checks.append(
                    [len(checks) + 1, len(made), R.choice(["Pass", "Pass", "Rework", "Fail"]), R.choice(operators)[0]]
                )
    stops = [
        [i, R.choice(machines)[0], _moment(dt.datetime(2026, 1, 1) + dt.timedelta(minutes=R.randrange(430_000))), R.choice([10, 25, 60, 240]),
         R.choice(["Blade change", "Jam", "Power"]), R.choice(["Y", "N"])]
        for i in range(1, 91)
    ]  # fmt: skip
    materials = [
        ["Oak board", "m2", 38.0, 320, 100], ["Pine board", "m2", 14.5, 40, 100], ["Varnish", "litre", 9.8, 75, 50], ["Steel leg", "each", 6.2, 800, 200]
    ]  # fmt: skip
    recipe = [[p[0], material[0], R.randint(5, 80) / 10] for p in products for material in R.sample(materials, 2)]
    return {
        "machines.csv": file_of(["machine_id", "machine", "line", "installed", "target_per_hour"], machines),
        "products.csv": file_of(["product_id", "product", "family", "list_price", "standard_cost"], products),
        "operators.csv": file_of(["operator_id", "name", "shift", "joined", "supervisor_id"], operators),
        "skills.csv": file_of(["operator_id", "machine_id", "level"], skills),
        "work_orders.csv": file_of(["order_no", "product_id", "customer", "ordered_on", "due_on", "quantity", "status", "finished_on"], orders),
        "production_runs.csv": file_of(["run_id", "order_no", "machine_id", "operator_id", "run_date", "good_units", "scrap_units", "hours"], made),
        "inspections.csv": file_of(["inspection_id", "run_id", "result", "inspector_id"], checks),
        "downtime.csv": file_of(["stop_id", "machine_id", "started_at", "minutes", "reason", "planned"], stops),
        "materials.csv": file_of(["material", "unit", "unit_cost", "in_stock", "reorder_at"], materials),
        "recipe.csv": file_of(["product_id", "material", "amount"], recipe),
    }  # fmt: skip


def _grants() -> Files:
    """Funds with budgets, who applied to them and what was decided, the reviewers' scores, payments, reports due."""
    funds = [["F1", "Young People", 250_000], ["F2", "Green Spaces", 180_000], ["F3", "Arts Together", 90_000]]
    named = [
        "Ashdown Scouts",
        "Brook Choir",
        "Calder Food Hub",
        "Dorne Youth Club",
        "Eden Allotments",
        "Firth Theatre",
        "Glen Primary",
        "Holt Repair Cafe",
    ]
    bodies = [
        [f"G{i:02d}", name, R.choice(["Charity", "School", "Company"]), R.choice(["Ashdown", "Brook"]), R.choice([12_000, 45_000, 150_000])]
        for i, name in enumerate(named, 1)
    ]  # fmt: skip
    asked, scores, paid, reports = [], [], [], []
    for i in range(1, 91):
        sent, sum_ = _day(dt.date(2024, 1, 10), dt.date(2026, 10, 10)), R.choice([2000, 5000, 8000, 15_000, 30_000])
        decided = _known(sent + dt.timedelta(R.randint(25, 75)))
        state = R.choices(["Awarded", "Declined", "Withdrawn"], [50, 40, 8])[0] if decided else "Submitted"
        got = int(sum_ * R.choice([1, 1, 0.8, 0.5])) if state == "Awarded" else ""
        asked.append(
            [
                f"A{i:03d}",
                R.choice(bodies)[0],
                R.choice(funds)[0],
                sent,
                sum_,
                state,
                decided if state in ("Awarded", "Declined") else "",
                got,
            ]
        )
        scores += [
            [f"A{i:03d}", reviewer, R.randint(1, 5), R.randint(1, 5), R.choice(["fund", "do not fund"])]
            for reviewer in R.sample(["Ros Amble", "Tim Birk", "Una Croft", "Vic Dent"], 2)
        ]
        if state == "Awarded" and isinstance(decided, dt.date) and isinstance(got, int):
            day = decided + dt.timedelta(R.randint(14, 120))
            paid.append([len(paid) + 1, f"A{i:03d}", day, got, "paid" if day <= _TODAY else "scheduled"])
            due = decided + dt.timedelta(180)
            back = _known(due + dt.timedelta(R.randint(-20, 60))) if R.random() < 0.85 else ""
            reports.append([len(reports) + 1, f"A{i:03d}", due, back, R.randint(5, 400) if back else ""])
    return {
        "funds.csv": file_of(["fund_id", "fund", "budget"], funds),
        "organisations.csv": file_of(["org_id", "organisation", "type", "area", "annual_income"], bodies),
        "applications.csv": file_of(["application_id", "org_id", "fund_id", "submitted", "amount_requested", "status", "decided", "amount_awarded"], asked),
        "scores.csv": file_of(["application_id", "reviewer", "need_score", "plan_score", "advice"], scores),
        "payments.csv": file_of(["payment_id", "application_id", "pay_date", "amount", "state"], paid),
        "reports.csv": file_of(["report_id", "application_id", "due", "received", "people_helped"], reports),
    }  # fmt: skip


def _storage() -> Files:
    """Units of several sites, who rents each from when until when, the invoices, and when people came to theirs."""
    sites = [["ST1", "Canal Yard", "Ashby"], ["ST2", "Mill Lane", "Borrow"]]
    units = [
        [f"U{i:03d}", R.choice(sites)[0], R.choice([25, 50, 100]), R.choice(["ground", "first"]), R.choice(["Y", "N"])]
        for i in range(1, 31)
    ]
    customers = [
        [f"K{i:03d}", PEOPLE[3 * i], R.choice(["personal", "business"]), R.choice(["web", "walk-in", "flyer"])]
        for i in range(1, 31)
    ]
    rentals, invoices = [], []
    for unit in units:
        begun = _day(dt.date(2024, 1, 1), dt.date(2024, 9, 1))
        while begun < dt.date(2026, 10, 20):
            number, over = f"R{len(rentals) + 1:04d}", begun + dt.timedelta(R.choice([60, 120, 365, 500]))
            rate = round(unit[2] * R.uniform(0.9, 1.3), 2)
            left = _known(over)
            rentals.append(
                [
                    number,
                    unit[0],
                    R.choice(customers)[0],
                    begun,
                    left,
                    rate,
                    rate,
                    R.choice(["moved", "price", "other"]) if left else "",
                ]
            )
            month = begun.replace(day=1)
            while month < min(over, _TODAY):
                due = month + dt.timedelta(6)
                paid = _known(due + dt.timedelta(R.choice([-3, 0, 2, 9, 40]))) if R.random() > 0.05 else ""
                invoices.append([len(invoices) + 1, number, month, due, rate, paid])
                month = (month + dt.timedelta(32)).replace(day=1)
            begun = over + dt.timedelta(R.randint(3, 90))
    visits = []
    for i in range(1, 201):
        came = dt.datetime(2026, 1, 1, 8) + dt.timedelta(minutes=R.randrange(430_000))
        visits.append([i, R.choice(rentals)[0], _moment(came), _moment(came + dt.timedelta(minutes=R.randint(5, 120)))])
    return {
        "sites.csv": file_of(["site_id", "site_name", "town"], sites),
        "units.csv": file_of(["unit_id", "site_id", "sq_ft", "floor", "heated"], units),
        "customers.csv": file_of(["customer_id", "name", "customer_type", "heard_of_us"], customers),
        "rentals.csv": file_of(
            ["rental_id", "unit_id", "customer_id", "moved_in", "moved_out", "monthly_rate", "deposit", "leaving_reason"], rentals
        ),
        "invoices.csv": file_of(["invoice_id", "rental_id", "for_month", "due_date", "amount", "paid_on"], invoices),
        "visits.csv": file_of(["visit_id", "rental_id", "entered", "left_at"], visits),
    }  # fmt: skip


def _environment() -> Files:
    """Areas of regions, and of each year their waste, people and casualties; readings of the air by site and month."""
    areas = [
        [f"E{i:04d}", name, region, R.choice(["urban", "rural"]), R.randint(8000, 90_000)]
        for i, (name, region) in enumerate(
            [("Aldmoor", "North"), ("Corran", "North"), ("Dunholm", "North"), ("Eastholt", "Midlands"), ("Farrow", "Midlands"),
             ("Hythe Bay", "South"), ("Inchwater", "South")], 1
        )
    ]  # fmt: skip
    waste, people, hurt = [], [], []
    for code, name, *_ in areas:
        born = R.randint(40_000, 300_000)
        for year in range(2019, 2025):
            total = R.randint(20_000, 140_000)
            recycled = int(total * R.uniform(0.3, 0.55))
            waste.append([code, year, total, recycled, int((total - recycled) * 0.6)])
            for group, part in (("0-15", 0.19), ("16-64", 0.62), ("65+", 0.19)):
                people += [
                    [code, year, sex, group, int(born * part * share)]
                    for sex, share in (("Female", 0.51), ("Male", 0.49))
                ]
            for severity, base in (("Fatal", 4), ("Serious", 45), ("Slight", 210)):
                hurt += [
                    [name, year, severity, user, R.randint(0, base)] for user in ("Car", "Pedal cycle", "Pedestrian")
                ]
    sites = [
        [f"S{i:02d}", f"{a[1]} {kind}", a[0], kind]
        for i, (a, kind) in enumerate(zip(areas, ["Roadside", "Park"] * 3, strict=False), 1)
    ]
    air = [
        [site[0], f"{2023 + month // 12}-{month % 12 + 1:02d}-01", what, R.randint(10 * base, 20 * base) / 10, "ratified" if month < 18 else "provisional"]
        for site in sites
        for what, base in (("NO2", 20), ("PM10", 12))
        for month in range(24)
    ]  # fmt: skip
    return {
        "area_lookup.csv": file_of(["area_code", "area_name", "region", "rural_urban", "land_area_ha"], areas),
        "household_waste.csv": file_of(["area_code", "year", "total_tonnes", "recycled_tonnes", "landfill_tonnes"], waste),
        "population_estimates.csv": file_of(["area_code", "year", "sex", "age_group", "persons"], people),
        "road_casualties.csv": file_of(["area_name", "year", "severity", "road_user", "casualties"], hurt),
        "monitoring_sites.csv": file_of(["site_id", "site_name", "area_code", "site_type"], sites),
        "air_quality.csv": file_of(["site_id", "month", "pollutant", "mean_ug_m3", "status"], air),
    }  # fmt: skip


def _nursery() -> Files:
    """Plants of some species, the batches that they were raised in, the customers' orders with their lines, who sprayed what."""
    species = [
        [f"SP{i}", name, kind, price]
        for i, (name, kind, price) in enumerate(
            [("Lavender", "Herb", 4.5), ("Rosemary", "Herb", 3.8), ("Box", "Shrub", 12.0), ("Acer", "Tree", 38.0), ("Birch", "Tree", 29.0)], 1
        )
    ]  # fmt: skip
    houses = [["H1", "Glasshouse A", 900], ["H2", "Polytunnel B", 1500]]
    batches = []
    for i in range(1, 71):
        sown, seeds = _day(dt.date(2024, 1, 5), dt.date(2026, 9, 20)), R.choice([50, 100, 400])
        potted, ready = _known(sown + dt.timedelta(R.randint(20, 60))), _known(sown + dt.timedelta(R.randint(90, 260)))
        up = int(seeds * R.uniform(0.5, 0.98))
        stage = "ready" if ready else "growing on" if potted else "sown"
        batches.append(
            [
                f"B{i:03d}",
                R.choice(species)[0],
                R.choice(houses)[0],
                sown,
                seeds,
                up,
                potted,
                ready,
                up // 9 if potted else "",
                stage,
            ]
        )
    named = [
        ("Green Gate", "garden centre"),
        ("Park Dept", "council"),
        ("Ivy Landscapes", "landscaper"),
        ("Town Florist", "shop"),
    ]
    customers = [[f"C{i}", name, kind] for i, (name, kind) in enumerate(named, 1)]
    orders, lines = [], []
    for i in range(1, 91):
        asked = _day(dt.date(2025, 1, 3), dt.date(2026, 10, 28))
        wanted = asked + dt.timedelta(R.randint(3, 40))
        sent = _known(wanted + dt.timedelta(R.choice([-2, 0, 0, 3, 9])))
        paid = _known(sent + dt.timedelta(R.randint(3, 80))) if isinstance(sent, dt.date) else ""
        orders.append(
            [
                f"O{i:03d}",
                R.choice(customers)[0],
                asked,
                wanted,
                sent,
                paid,
                R.choice([0, 5, 10]),
                R.choice(["phone", "web"]),
            ]
        )
        for _ in range(R.randint(1, 3)):
            kind = R.choice(species)
            lines.append([len(lines) + 1, f"O{i:03d}", kind[0], R.choice([5, 10, 50]), kind[3]])
    sprays = [
        [i, R.choice(houses)[0], _day(dt.date(2026, 1, 1)), R.choice(["Soap", "Neem"]), R.randint(10, 90) / 10]
        for i in range(1, 41)
    ]
    return {
        "species.csv": file_of(["species_id", "species", "kind", "list_price"], species),
        "houses.csv": file_of(["house_id", "house", "capacity_trays"], houses),
        "batches.csv": file_of(
            ["batch_no", "species_id", "house_id", "sown_on", "seeds", "germinated", "potted_on", "ready_on", "lost", "stage"], batches
        ),
        "customers.csv": file_of(["customer_id", "customer", "type"], customers),
        "orders.csv": file_of(
            ["order_no", "customer_id", "ordered_on", "wanted_by", "despatched_on", "paid_on", "discount_pct", "channel"], orders
        ),
        "order_lines.csv": file_of(["line_no", "order_no", "species_id", "plants", "price_each"], lines),
        "spray_log.csv": file_of(["spray_id", "house_id", "sprayed_on", "product", "litres"], sprays),
    }  # fmt: skip


def _allotments() -> Files:
    """Sites of plots that people hold for a yearly rent: tenancies, payments towards them, inspections, a list that waits."""
    r = random.Random(78)

    day = partial(_some_day, r)
    sites = [["S1", "Mill Lane", "North", 4.2], ["S2", "Back Field", "South", 2.9], ["S3", "Canal Bank", "North", 1.8]]
    plots = [
        [
            f"{site[0][1]}{n:02d}",
            site[0],
            r.choice(["full", "half", "quarter"]),
            r.randint(60, 260),
            r.choice(["Y", "N"]),
        ]
        for site in sites
        for n in range(1, 15)
    ]
    named = [PEOPLE[7 * i % len(PEOPLE)] for i in range(30)]
    holders = [
        [
            f"H{i:02d}",
            name,
            r.choice(["Weir", "Ashby", "Cole End"]),
            day(dt.date(2012, 1, 1), dt.date(2024, 6, 1)),
            r.choice(["Y", "N"]),
        ]
        for i, name in enumerate(named, 1)
    ]
    tenancies, payments = [], []
    for n, plot in enumerate(plots[:36], 1):
        holder, began = r.choice(holders), day(dt.date(2020, 1, 1), dt.date(2025, 6, 1))
        ended: dt.date | str = day(dt.date(2025, 7, 1)) if n % 7 == 0 else ""
        rent = {"full": 84, "half": 48, "quarter": 27}[str(plot[2])]
        tenancies.append([f"T{n:03d}", plot[0], holder[0], began, ended, rent])
        for year in (2024, 2025, 2026):
            due = dt.date(year, 4, 1)
            if began <= due and (not isinstance(ended, dt.date) or due <= ended):
                paid = due + dt.timedelta(r.choice([-6, 0, 3, 12, 40, 95]))
                unpaid = year == 2026 and r.random() < 0.3
                payments.append(
                    [
                        len(payments) + 1,
                        f"T{n:03d}",
                        due,
                        rent,
                        "" if unpaid else paid,
                        "" if unpaid else r.choice(["card", "cash", "transfer"]),
                    ]
                )
    inspectors = ["Ada Moss", "Cal Quayle", "Dot Verity"]
    inspections = [
        [
            i,
            r.choice(plots)[0],
            day(dt.date(2025, 1, 5)),
            r.choice(inspectors),
            r.choice(["good", "good", "fair", "neglected"]),
            r.randint(1, 10),
        ]
        for i in range(1, 121)
    ]
    waiting = [
        [
            i,
            PEOPLE[(11 * i + 3) % len(PEOPLE)],
            r.choice(sites)[0],
            day(dt.date(2023, 1, 1)),
            r.choice(["full", "half", "quarter"]),
        ]
        for i in range(1, 26)
    ]
    return {
        "sites.csv": file_of(["site_id", "site", "side", "hectares"], sites),
        "plots.csv": file_of(["plot_no", "site_id", "size", "square_metres", "shed"], plots),
        "holders.csv": file_of(["holder_id", "holder", "town", "joined_on", "committee"], holders),
        "tenancies.csv": file_of(["tenancy_no", "plot_no", "holder_id", "began_on", "ended_on", "yearly_rent"], tenancies),
        "payments.csv": file_of(["payment_id", "tenancy_no", "due_on", "amount", "paid_on", "method"], payments),
        "inspections.csv": file_of(["inspection_id", "plot_no", "inspected_on", "inspector", "result", "score"], inspections),
        "waiting_list.csv": file_of(["place", "name", "site_id", "applied_on", "wants"], waiting),
    }  # fmt: skip


def _music() -> Files:
    """A music school: families, their pupils, lessons by teachers, bills to the families, exams, instruments on hire."""
    r = random.Random(79)

    day = partial(_some_day, r)
    families = [
        [
            f"F{i:02d}",
            PEOPLE[3 * i % len(PEOPLE)].split()[1],
            PEOPLE[3 * i % len(PEOPLE)],
            r.choice(["Ashby", "Weir End", "Cole"]),
            day(dt.date(2018, 1, 1), dt.date(2025, 9, 1)),
        ]
        for i in range(1, 41)
    ]
    teachers = [
        ["T1", "Ruth Hale", "piano", 32],
        ["T2", "Owen Bray", "violin", 35],
        ["T3", "Sal Quill", "guitar", 28],
        ["T4", "Una Frost", "piano", 33],
        ["T5", "Dev Marsh", "drums", 30],
        ["T6", "Lena Holt", "flute", 31],
    ]
    played = ["piano", "violin", "guitar", "drums", "flute"]
    pupils = [
        [
            f"P{i:02d}",
            PEOPLE[11 * i % len(PEOPLE)].split()[0],
            r.choice(families)[0],
            day(dt.date(2008, 1, 1), dt.date(2019, 1, 1)),
            r.choice(played),
            r.choice(["beginner", "grade 1-3", "grade 4-6"]),
        ]
        for i in range(1, 61)
    ]
    lessons = []
    for i in range(1, 601):
        pupil = r.choice(pupils)
        teacher = r.choice([t for t in teachers if t[2] == pupil[4]])
        outcome = r.choice(["taught", "taught", "taught", "taught", "pupil absent", "cancelled by teacher"])
        lessons.append(
            [
                i,
                pupil[0],
                teacher[0],
                day(dt.date(2025, 1, 6)),
                f"{r.randint(14, 19)}:30",
                r.choice([30, 30, 45, 60]),
                outcome,
                r.choice(["Room 1", "Room 2", "Hall"]),
            ]
        )
    bills = []
    for i in range(1, 161):
        issued = day(dt.date(2025, 1, 10))
        paid = issued + dt.timedelta(30 + r.randint(-25, 50))
        bills.append(
            [
                f"INV{i:03d}",
                r.choice(families)[0],
                issued,
                issued + dt.timedelta(30),
                r.choice([120, 160, 240, 310]),
                paid if paid <= _TODAY and r.random() > 0.1 else "",
            ]
        )
    exams = []
    for i in range(1, 71):
        mark = r.randint(85, 145)
        result = "distinction" if mark >= 130 else "merit" if mark >= 120 else "pass" if mark >= 100 else "fail"
        exams.append(
            [i, r.choice(pupils)[0], day(dt.date(2025, 3, 1)), r.choice(played[:3]), r.randint(1, 8), mark, result]
        )
    hires = []
    for i in range(1, 41):
        began = day(dt.date(2024, 9, 1))
        hires.append(
            [
                i,
                r.choice(pupils)[0],
                r.choice(["violin 1/2", "violin 3/4", "cello", "keyboard"]),
                began,
                "" if r.random() < 0.5 else _known(began + dt.timedelta(r.randint(30, 300))),
                r.choice([6, 8, 12]),
            ]
        )
    return {
        "families.csv": file_of(["family_id", "family_name", "contact", "village", "since"], families),
        "teachers.csv": file_of(["teacher_id", "teacher", "instrument", "hourly_rate"], teachers),
        "pupils.csv": file_of(["pupil_id", "first_name", "family_id", "born", "instrument", "level"], pupils),
        "lessons.csv": file_of(["lesson_id", "pupil_id", "teacher_id", "lesson_date", "start_time", "minutes", "outcome", "room"], lessons),
        "invoices.csv": file_of(["invoice_no", "family_id", "issued_on", "due_on", "amount", "paid_on"], bills),
        "exams.csv": file_of(["exam_id", "pupil_id", "exam_date", "instrument", "grade", "mark", "result"], exams),
        "instrument_hire.csv": file_of(["hire_id", "pupil_id", "item", "hired_on", "returned_on", "monthly_charge"], hires),
    }  # fmt: skip


def _theatre() -> Files:
    """A theatre of members: shows and their performances, tickets sold at so much each, who took part, what was spent."""
    r = random.Random(80)

    day = partial(_some_day, r)
    members = [
        [
            f"M{i:02d}",
            PEOPLE[5 * i % len(PEOPLE)],
            day(dt.date(2012, 1, 1), dt.date(2025, 1, 1)),
            r.choice(["full", "junior", "friend"]),
            r.choice(["Y", "Y", "N"]),
        ]
        for i in range(1, 41)
    ]
    shows = [
        ["S1", "The Winter Lock", "drama", 2400],
        ["S2", "Harbour Lights", "musical", 5200],
        ["S3", "Two Left Feet", "comedy", 1900],
        ["S4", "A Quiet Street", "drama", 2100],
        ["S5", "Puss and Bells", "pantomime", 4300],
        ["S6", "Salt", "drama", 1500],
    ]
    performances = [
        [
            6 * n + j,
            show[0],
            dt.date(2025, 2, 10) + dt.timedelta(95 * n + j),
            "14:30" if j == 2 else "19:30",
            r.choice([120, 150]),
            r.choice(["Main hall", "Studio"]),
        ]
        for n, show in enumerate(shows)
        for j in range(1, 5)
    ]
    each = {"adult": 12, "child": 6, "concession": 9}
    sales = []
    for i in range(1, 601):
        performance, kind = r.choice(performances), r.choice(["adult", "adult", "child", "concession"])
        sold = performance[2] - dt.timedelta(r.randint(0, 40))
        sales.append(
            [
                i,
                performance[0],
                kind,
                r.randint(1, 5),
                each[kind],
                sold,
                r.choice(["online", "door", "phone"]),
                "Y" if i % 19 == 0 else "N",
            ]
        )
    parts = [
        [i, r.choice(members)[0], r.choice(shows)[0], r.choice(["lead", "chorus", "crew"]), r.randint(4, 60)]
        for i in range(1, 101)
    ]
    costs = [
        [
            i,
            r.choice(shows)[0],
            r.choice(["costumes", "set", "rights", "hall hire"]),
            day(dt.date(2025, 1, 5)),
            r.randint(20, 900),
        ]
        for i in range(1, 61)
    ]
    return {
        "members.csv": file_of(["member_no", "name", "joined", "kind", "fee_paid"], members),
        "productions.csv": file_of(["show_id", "title", "genre", "budget"], shows),
        "performances.csv": file_of(["perf_id", "show_id", "date", "starts", "seats", "venue"], performances),
        "ticket_sales.csv": file_of(["sale_id", "perf_id", "band", "tickets", "price", "sold_on", "channel", "refunded"], sales),
        "cast_and_crew.csv": file_of(["id", "member_no", "show_id", "part", "rehearsal_hours"], parts),
        "costs.csv": file_of(["cost_id", "show_id", "item", "paid_on", "amount"], costs),
    }  # fmt: skip


_MADE: dict[str, Callable[[], Files]] = {
    "rounds": _rounds,
    "joinery": _joinery,
    "grants": _grants,
    "storage": _storage,
    "environment": _environment,
    "nursery": _nursery,
    "allotments": _allotments,
    "music": _music,
    "theatre": _theatre,
}
WORKINGS: dict[str, Files] = {name: build() for name, build in _MADE.items()}
