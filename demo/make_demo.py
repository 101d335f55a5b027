"""Makes the demo's files: Brackenfold Vets, a made-up group of nine clinics. The same seed gives the same bytes."""

from __future__ import annotations

import csv
import datetime as dt
import sys
from pathlib import Path

import numpy as np
import xlsxwriter

SEED = 20261031
FIRST, LAST = dt.date(2024, 1, 4), dt.date(2026, 10, 31)
CLINICS = (
    ("C01", "Harrow Street", "Aldermere", "North", dt.date(2009, 3, 2), 1.55),
    ("C02", "Millbeck", "Millbeck", "North", dt.date(2011, 5, 9), 1.25),
    ("C03", "Otter Lane", "Fennow", "East", dt.date(2012, 9, 17), 1.0),
    ("C04", "Sandhythe", "Sandhythe", "East", dt.date(2014, 2, 3), 0.9),
    ("C05", "Cold Ash", "Cold Ash", "West", dt.date(2015, 6, 1), 0.75),
    ("C06", "Quarry Bank", "Tarnley", "West", dt.date(2016, 10, 10), 0.7),
    ("C07", "Weir Cottage", "Aldermere", "North", dt.date(2018, 4, 23), 0.6),
    ("C08", "Lark Rise", "Dunsop", "South", dt.date(2020, 8, 3), 0.55),
    ("C09", "Fallow Gate", "Dunsop", "South", dt.date(2025, 3, 10), 0.6),
)
REASONS = {
    "Vaccination": (0.24, 36, 9),
    "Check-up": (0.19, 48, 12),
    "Dental": (0.09, 185, 62),
    "Injury": (0.08, 140, 41),
    "Skin": (0.08, 72, 19),
    "Surgery": (0.04, 420, 171),
    "Eyes": (0.05, 66, 17),
    "Stomach": (0.08, 88, 26),
    "Nail clip": (0.06, 18, 3),
    "Microchip": (0.03, 24, 8),
    "Ear infection": (0.04, 64, 18),
    "Neutering": (0.02, 160, 58),
}
BREEDS = {
    "Dog": ("Labrador", "Spaniel", "Terrier", "Whippet", "Collie", "Crossbreed"),
    "Cat": ("Shorthair", "Longhair", "Siamese", "Moggy"),
    "Rabbit": ("Lop", "Dwarf", "Rex"),
    "Guinea pig": ("Smooth", "Rosette"),
    "Bird": ("Budgerigar", "Parrot", "Canary"),
    "Tortoise": ("Spur-thighed", "Hermann"),
}
FORENAMES = [
    "Ada",
    "Bram",
    "Cleo",
    "Dilys",
    "Edmund",
    "Fern",
    "Gareth",
    "Hester",
    "Idris",
    "Juno",
    "Kit",
    "Leona",
    "Magnus",
    "Nerys",
    "Orla",
    "Perrin",
    "Quill",
    "Rhoda",
    "Silas",
    "Tamsin",
    "Una",
    "Verity",
    "Wilf",
    "Xanthe",
    "Yorick",
    "Zelda",
]
SURNAMES = [
    "Ashgrove",
    "Birkwith",
    "Calloway",
    "Dunmoor",
    "Eversleigh",
    "Fothergate",
    "Garthwaite",
    "Hollinbeck",
    "Inglesant",
    "Jarrowby",
    "Kettlewell",
    "Langstroth",
    "Merrowdale",
    "Netherby",
    "Oxenholt",
    "Penhallow",
    "Quernmore",
    "Ravensdale",
    "Skelwith",
    "Thornbarrow",
    "Underhay",
    "Vennerby",
    "Whernside",
    "Yealand",
]
PETS = [
    "Biscuit",
    "Pepper",
    "Mungo",
    "Tilly",
    "Rolo",
    "Fig",
    "Nutmeg",
    "Otis",
    "Pickle",
    "Sorrel",
    "Tansy",
    "Bramble",
    "Domino",
    "Echo",
    "Ginger",
    "Haggis",
    "Jasper",
    "Luna",
    "Mabel",
    "Noodle",
    "Ozzy",
    "Pip",
    "Rusty",
    "Socks",
    "Toffee",
    "Widget",
]
ITEMS = (
    "Vaccine doses",
    "Syringes",
    "Bandages",
    "Anaesthetic",
    "Worming tablets",
    "Flea drops",
    "Sutures",
    "Food, renal diet",
    "Microchips",
    "Gloves",
    "Dental burrs",
    "Eye drops",
)
SUPPLIERS = ("Tarnside Veterinary Supply", "Bellhouse Medical", "Greyfriars Pharma", "Northmoor Feeds")


def _write(
    path: Path,
    header: list[str],
    rows: list[list[object]],
    encoding: str = "utf-8",
    delimiter: str = ",",
    above: tuple[str, ...] = (),
) -> None:
    with path.open("w", encoding=encoding, newline="") as stream:
        for line in above:
            stream.write(line + "\r\n")
        writer = csv.writer(stream, delimiter=delimiter)
        writer.writerow(header)
        writer.writerows(rows)


def _pounds(value: float) -> str:
    return f"{value:.2f}"


def make(folder: Path) -> None:
    """Write all files into the folder."""
    folder.mkdir(parents=True, exist_ok=True)
    random = np.random.default_rng(SEED)
    _write(
        folder / "clinics.csv",
        ["clinic_id", "clinic", "town", "region", "opened_on", "rooms"],
        [[c[0], c[1], c[2], c[3], c[4].isoformat(), int(3 + 4 * c[5])] for c in CLINICS],
    )
    vets = _vets(folder, random)
    owners, owner_clinic = _owners(folder, random)
    animals = _animals(folder, random, owners, owner_clinic)
    _visits(folder, random, vets, animals)
    _supplies(folder, random)
    _budget(folder, random)


def _vets(folder: Path, random: np.random.Generator) -> dict[str, list[str]]:
    rows: list[list[object]] = []
    by_clinic: dict[str, list[str]] = {}
    number = 1
    for clinic in CLINICS:
        for _ in range(max(4, round(7.2 * clinic[5]))):
            vet = f"V{number:02d}"
            first = max(clinic[4], dt.date(2010, 1, 1))
            hired = first + dt.timedelta(days=int(random.integers(0, max(1, (dt.date(2025, 6, 1) - first).days))))
            mood = round(float(np.clip(random.normal(3.6, 0.7), 1, 5)), 1)
            name = f"{FORENAMES[(number * 7) % len(FORENAMES)]} {SURNAMES[(number * 5 + number // 24) % len(SURNAMES)]}"
            rows.append([vet, name, clinic[0], hired.isoformat(), "" if random.random() < 0.15 else mood])
            by_clinic.setdefault(clinic[0], []).append(vet)
            number += 1
    _write(folder / "vets.csv", ["vet_id", "vet_name", "clinic_id", "hired_on", "happiness"], rows)
    return by_clinic


def _owners(folder: Path, random: np.random.Generator) -> tuple[list[str], dict[str, str]]:
    rows: list[list[object]] = []
    weights = np.array([c[5] for c in CLINICS])
    homes = random.choice(len(CLINICS), size=3402, p=weights / weights.sum())
    for number in range(3402):
        clinic = CLINICS[homes[number]]
        joined = (
            FIRST - dt.timedelta(days=int(random.integers(0, 1800))) + dt.timedelta(days=int(random.integers(0, 2500)))
        )
        name = f"{FORENAMES[int(random.integers(len(FORENAMES)))]} {SURNAMES[int(random.integers(len(SURNAMES)))]}"
        rows.append(
            [
                f"O{number + 1:04d}",
                name,
                clinic[2],
                min(joined, LAST).strftime("%d/%m/%Y"),
                "" if random.random() < 0.12 else f"owner{number + 1}@brackenfold.example",
                "yes" if random.random() < 0.4 else "no",
            ]
        )
    _write(
        folder / "owners.csv",
        ["owner_id", "owner_name", "town", "joined_on", "email", "newsletter"],
        rows,
        encoding="latin-1",
        delimiter=";",
    )
    return [str(r[0]) for r in rows], {str(r[0]): CLINICS[homes[i]][0] for i, r in enumerate(rows)}


def _animals(
    folder: Path, random: np.random.Generator, owners: list[str], home: dict[str, str]
) -> dict[str, list[tuple[str, float]]]:
    rows: list[list[object]] = []
    by_clinic: dict[str, list[tuple[str, float]]] = {}
    species = list(BREEDS)
    for number in range(9114):
        kind = species[int(random.choice(len(species), p=[0.5, 0.31, 0.09, 0.04, 0.04, 0.02]))]
        owner = owners[int(random.integers(len(owners)))]
        born = LAST - dt.timedelta(days=int(random.integers(120, 5200)))
        weight = {"Dog": 19.0, "Cat": 4.4, "Rabbit": 2.2, "Guinea pig": 0.9, "Bird": 0.2, "Tortoise": 3.1}[
            kind
        ] * float(np.exp(random.normal(0, 0.25)))
        animal = f"A{12001 + number}"
        breed = BREEDS[kind][int(random.integers(len(BREEDS[kind])))]
        rows.append(
            [
                animal,
                PETS[int(random.integers(len(PETS)))],
                kind,
                breed,
                owner,
                born.isoformat(),
                "" if random.random() < 0.07 else f"{weight:.1f}",
            ]
        )
        by_clinic.setdefault(home[owner], []).append((animal, 1.3 if kind == "Dog" else 1.0))
    _write(
        folder / "animals.csv", ["animal_id", "pet_name", "species", "breed", "owner_id", "born_on", "weight_kg"], rows
    )
    return by_clinic


def _visits(
    folder: Path, random: np.random.Generator, vets: dict[str, list[str]], animals: dict[str, list[tuple[str, float]]]
) -> None:
    days = [FIRST + dt.timedelta(days=i) for i in range((LAST - FIRST).days + 1)]
    rows: list[list[object]] = []
    reasons = list(REASONS)
    base = np.array([REASONS[r][0] for r in reasons])
    number = 433_000
    for clinic in CLINICS:
        ids = np.array([a for a, _ in animals[clinic[0]]])
        pull = np.array([w for _, w in animals[clinic[0]]])
        team = vets[clinic[0]]
        for day in days:
            if day < clinic[4] or day.weekday() == 6:
                continue
            season = 1 + 0.22 * np.cos(2 * np.pi * (day.timetuple().tm_yday - 165) / 365)
            # Millbeck was flooded in February 2025 and saw hardly anyone for three weeks.
            flooded = clinic[0] == "C02" and dt.date(2025, 2, 3) <= day <= dt.date(2025, 2, 22)
            growth = 1 + 0.09 * (day - FIRST).days / 365
            mean = 6.8 * clinic[5] * season * growth * (0.45 if day.weekday() == 5 else 1) * (0.08 if flooded else 1)
            for _ in range(int(random.poisson(mean))):
                mix = base * np.where(np.array(reasons) == "Skin", 1 + 0.8 * (day.month in (5, 6, 7)), 1.0)
                reason = reasons[int(random.choice(len(reasons), p=mix / mix.sum()))]
                _, price, cost = REASONS[reason]
                raised = 1.06 if day >= dt.date(2025, 7, 1) else 1.0
                attended = random.random() > 0.055 + 0.03 * (reason == "Dental") + 0.05 * flooded
                fee = price * raised * float(np.exp(random.normal(0, 0.18))) if attended else 0.0
                wait = int(np.clip(random.gamma(2.2, 6 + 2.5 * (day.weekday() in (0, 5))), 0, 150))
                rating = int(np.clip(round(random.normal(4.35 - 0.018 * wait, 0.8)), 1, 5))
                animal = str(random.choice(ids, p=pull / pull.sum()))
                if random.random() < 0.004:
                    animal = f"A{9000 + int(random.integers(900))}"
                number += 1
                rows.append(
                    [
                        number,
                        day.isoformat(),
                        clinic[0],
                        animal,
                        team[int(random.integers(len(team)))],
                        reason,
                        _pounds(fee),
                        _pounds(cost * float(np.exp(random.normal(0, 0.1))) if attended else 0.0),
                        wait if attended else "",
                        rating if attended and random.random() > 0.26 else "",
                        "yes" if attended else "no",
                    ]
                )
    rows.sort(key=lambda r: (str(r[1]), r[0]))
    for place, row in enumerate(rows):
        row[0] = 433_001 + place
    for place in random.choice(len(rows), size=14, replace=False):
        rows[int(place)][1] = f"{str(rows[int(place)][1])[:4]}-02-31"
    _write(
        folder / "visits.csv",
        [
            "visit_id",
            "visit_date",
            "clinic_id",
            "animal_id",
            "vet_id",
            "reason",
            "fee_net",
            "cost",
            "wait_min",
            "rating",
            "attended",
        ],
        rows,
        above=("Brackenfold Vets: visits", "exported 31 Oct 2026"),
    )


def _supplies(folder: Path, random: np.random.Generator) -> None:
    rows: list[list[object]] = []
    for number in range(502):
        day = FIRST + dt.timedelta(days=int(random.integers((LAST - FIRST).days)))
        clinic = CLINICS[int(random.integers(8 if day < CLINICS[8][4] else 9))]
        quantity = int(random.integers(5, 400))
        price = float(np.exp(random.normal(1.1, 0.7)))
        cents = round(quantity * price, 2)
        rows.append(
            [
                f"P{number + 1:04d}",
                day.strftime("%d/%m/%Y"),
                clinic[0],
                ITEMS[int(random.integers(len(ITEMS)))],
                SUPPLIERS[int(random.integers(len(SUPPLIERS)))],
                quantity,
                f"£{price:.2f}",
                f"£{cents:,.2f}",
            ]
        )
    rows.sort(key=lambda r: str(r[0]))
    total = sum(float(str(r[7]).replace("£", "").replace(",", "")) for r in rows)
    rows.append(["Total", "", "", "", "", sum(int(str(r[5])) for r in rows), "", f"£{total:,.2f}"])
    _write(
        folder / "supplies.csv",
        ["purchase_no", "bought_on", "clinic_id", "item", "supplier", "quantity", "unit_price", "amount"],
        rows,
    )


def _budget(folder: Path, random: np.random.Generator) -> None:
    # A fixed creation date keeps the workbook's bytes the same from run to run.
    book = xlsxwriter.Workbook(str(folder / "budget_2026.xlsx"))
    book.set_properties({"created": dt.datetime(2026, 1, 5, tzinfo=dt.UTC)})
    sheet = book.add_worksheet("Budget")
    months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"]
    sheet.write(0, 0, "Brackenfold Vets: budget 2026, in pounds")
    for column, name in enumerate(["Clinic", "Line", *months]):
        sheet.write(2, column, name)
    totals = np.zeros(12)
    row = 3
    for clinic in CLINICS:
        for line, scale in (("Income", 13500.0), ("Staff", 6200.0), ("Supplies", 2600.0), ("Rent", 1500.0)):
            values = np.round(
                scale
                * clinic[5]
                * (1 + 0.2 * np.cos(2 * np.pi * (np.arange(12) - 5) / 12))
                * random.normal(1, 0.03, 12),
                -1,
            )
            totals += values
            sheet.write(row, 0, clinic[1])
            sheet.write(row, 1, line)
            for column, value in enumerate(values):
                sheet.write(row, 2 + column, float(value))
            row += 1
    sheet.write(row, 0, "Total")
    for column, value in enumerate(totals):
        sheet.write(row, 2 + column, float(value))
    book.close()


if __name__ == "__main__":
    make(Path(sys.argv[1]) if len(sys.argv) > 1 else Path(__file__).parent / "data")
