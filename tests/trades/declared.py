"""Made-up files of which every column is declared in a line: lists, things with what happened to them, places by years."""

from __future__ import annotations

import datetime as dt
import random

from tests.trades.making import PEOPLE, Files, file_of

R = random.Random(67)
_PLACES = [
    "Aldmoor",
    "Brayford",
    "Corley",
    "Denholt",
    "Eastwell",
    "Farrow",
    "Garrick",
    "Hexley",
    "Ivymere",
    "Kelham",
    "Lorne",
    "Marlow",
]
_REGIONS = ("North", "East", "South", "West")
_Rows = list[list[object]]


def _cell(kind: str, told: list[str], row: int) -> object:
    """One cell of a declared column: a name, a number of its own, one of some, an amount, a date or a yes or no."""
    match kind:
        case "code":
            return f"{told[0]}{1000 + row}"
        case "name":
            return f"{told[row % len(told)]} {row // len(told) + 1}"
        case "person":
            return PEOPLE[row % len(PEOPLE)]
        case "one":
            return told[min(R.randrange(len(told)), R.randrange(len(told)))]
        case "number":
            low, high = float(told[0]), float(told[1])
            drawn = low + (high - low) * R.random() ** 2
            return round(drawn, 2) if "." in told[0] else int(drawn)
        case "date":
            return dt.date(2024, 1, 3) + dt.timedelta(R.randrange(1020))
        case _:
            return told[R.random() < 0.4]


def _made(declared: str, rows: int, keys: list[object] | None = None) -> tuple[list[str], _Rows]:
    """The heads and rows of "Head: kind, what it holds; …"; a column of kind key holds some of the keys given."""
    columns = [part.split(": ") for part in declared.split("; ")]
    told = [(head, kind.split(", ")[0], kind.split(", ")[1:]) for head, kind in columns]
    made = [
        [R.choice(keys or [""]) if kind == "key" else _cell(kind, values, row) for _, kind, values in told]
        for row in range(rows)
    ]
    return [head for head, _, _ in told], made


def _list(file: str, declared: str, rows: int = 120) -> Files:
    return {file: file_of(*_made(declared, rows))}


def _things(file: str, declared: str, happened: str, declared_of_it: str) -> Files:
    """Things, and what happened to five of six of them."""
    heads, rows = _made(declared, 40)
    keys = [row[0] for row in rows[: len(rows) * 5 // 6]]
    return {file: file_of(heads, rows), happened: file_of(*_made(declared_of_it, 420, keys))}


def _by_years(figures: dict[str, tuple[int, int]], *, long: bool) -> Files:
    """Figures of places by years: a table for each figure, or one row for each figure."""
    found: Files = {
        "councils.csv": file_of(["council", "region"], [[p, _REGIONS[i % 4]] for i, p in enumerate(_PLACES)])
    }
    made = [[p, y, n, R.randint(*span)] for p in _PLACES for y in range(2014, 2026) for n, span in figures.items()]
    if long:
        return found | {"indicators.csv": file_of(["council", "year", "indicator", "value"], made)}
    for name in figures:
        rows = [[p, y, value] for p, y, told, value in made if told == name]
        found[f"{name}_by_year.csv"] = file_of(["council", "year", name], rows)
    return found


DECLARED: dict[str, Files] = {
    "berths": _list(
        "Mooring list 2026.csv",
        "Boat Name: name, Wren, Kestrel, Curlew, Tern; Class: one, Sloop, Ketch, Dinghy; LOA (m): number, 4.0, 18.0; "
        "Pontoon: one, A, B, C; Annual Fee: number, 400, 3200; Paid?: flag, Y, N",
    ),
    "donors": _list(
        "blood donors.csv",
        "Donor no.: code, D; Donor: person; Blood group: one, O+, A+, B+, O-, A-; Donations: number, 1, 60; "
        "Visits 90d: number, 0, 9",
    ),
    "units": _list(
        "Units.csv",
        "Unit: name, Forge, Mill, Loft; Use: one, Office, Workshop, Storage; Area (sq ft): number, 120, 4200; "
        "Rent pa: number, 1800, 42000; Let?: flag, Y, N; EPC: one, A, B, C",
    ),
    "payslips": _list(
        "payslips.csv",
        "Emp No: code, E; Name: person; Dept: one, Stores, Fitters, Drivers; Gross: number, 1200.5, 4200; "
        "Net: number, 1000.5, 3300; O/T hrs: number, 0, 30; Grade: one, 1, 2, 3",
    ),
    "sales": _list(
        "orders.csv",
        "order_id: code, O; cust_nm: person; order_dt: date; qty: number, 1, 60; unit_price: number, 2.5, 90; "
        "tot_amt: number, 10.5, 900; sales_rep: person; GP: one, Osei, Lund",
    ),
    "chargers": _things(
        "Chargers.csv",
        "Charger ID: code, CH; Location: name, Pier, Square, Depot; Town: one, Ayle, Brock; Speed: one, Slow, Fast, Rapid",
        "Sessions.csv",
        "Charger ID: key; Session: number, 1, 900000; Started: date; Card type: one, App, Tag; kWh: number, 2.5, 70; "
        "Income: number, 1.5, 40",
    ),
    "players": _things(
        "Players.csv",
        "Player: name, Ash, Birch, Cedar, Elm; Team: one, Firsts, Colts; Position: one, Keeper, Back, Forward",
        "Appearances.csv",
        "Player: key; Match date: date; Competition: one, League, Cup; Goals: number, 0, 4; Booked: flag, Y, N",
    ),
    "holders": _things(
        "policyholders.csv",
        "policy_no: code, PL; holder: person; cover_level: one, Basic, Plus; region: one, North, South",
        "claims.csv",
        "policy_no: key; claim_ref: number, 1000, 900000; incident_date: date; cause: one, Fire, Theft; "
        "paid_out: number, 10.5, 9000; days_to_settle: number, 2, 200",
    ),
    "councils": _by_years({"people": (20000, 300000), "homes_built": (20, 900)}, long=False),
    "councils_long": _by_years(
        {"Population": (20000, 300000), "Recorded crimes": (200, 9000), "Recycling rate": (20, 70)}, long=True
    ),
}
