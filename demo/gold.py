"""How the demo pack's gold was worked out: pandas on the files, apart from the program. Writes gold.jsonl."""

from __future__ import annotations

import datetime as dt
import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pandas as pd

HERE = Path(__file__).parent
DATA = HERE / "data"

visits = pd.read_csv(DATA / "visits.csv", skiprows=2)
visits["visit_date"] = pd.to_datetime(visits["visit_date"], format="%Y-%m-%d", errors="coerce")
animals = pd.read_csv(DATA / "animals.csv", parse_dates=["born_on"])
owners = pd.read_csv(DATA / "owners.csv", sep=";", encoding="latin-1")
owners["joined_on"] = pd.to_datetime(owners["joined_on"], format="%d/%m/%Y")
vets = pd.read_csv(DATA / "vets.csv", parse_dates=["hired_on"])
clinics = pd.read_csv(DATA / "clinics.csv", parse_dates=["opened_on"])
supplies = pd.read_csv(DATA / "supplies.csv").iloc[:-1]
supplies["bought_on"] = pd.to_datetime(supplies["bought_on"], format="%d/%m/%Y")
for money in ("unit_price", "amount"):
    supplies[money] = supplies[money].str.replace("£", "").str.replace(",", "").astype(float)
supplies["quantity"] = supplies["quantity"].astype(int)
full = (
    visits.merge(animals, on="animal_id", how="left")
    .merge(clinics, on="clinic_id", how="left")
    .merge(vets.drop(columns="clinic_id"), on="vet_id", how="left")
)
year, month = full.visit_date.dt.year, full.visit_date.dt.month


def by(frame: pd.DataFrame, keys: Any, column: str, how: str) -> pd.DataFrame:
    return frame.groupby(keys, dropna=False)[column].agg(how).reset_index()


def one(value: Any) -> pd.DataFrame:
    return pd.DataFrame({"value": [value]})


def counted(frame: pd.DataFrame, keys: Any) -> pd.DataFrame:
    return frame.groupby(keys, dropna=False).size().reset_index(name="rows")


def floor(frame: pd.DataFrame, unit: str, column: str = "visit_date") -> pd.Series:
    return frame[column].dt.to_period(unit).dt.start_time.rename("when")


def top(frame: pd.DataFrame, column: str, rows: int, rising: bool = False) -> pd.DataFrame:
    return frame.sort_values(column, ascending=rising).head(rows)


# id, question, level, tags, answer, ordered
Entry = tuple[str, int, str, Callable[[], pd.DataFrame], bool]
PACK: list[Entry] = [
    ("How many visits were there?", 1, "count", lambda: one(len(visits)), False),
    ("how many owners", 1, "count", lambda: one(len(owners)), False),
    ("How many different breeds do we see?", 1, "distinct", lambda: one(animals.breed.nunique()), False),
    ("average rating", 1, "mean", lambda: one(visits.rating.mean()), False),
    ("What is the total income?", 1, "sum synonym", lambda: one(visits.fee_net.sum()), False),
    ("median waiting time", 1, "median synonym", lambda: one(visits.wait_min.median()), False),
    ("highest fee", 1, "max", lambda: one(visits.fee_net.max()), False),
    ("What was the lowest unit price of supplies?", 1, "min", lambda: one(supplies.unit_price.min()), False),
    ("how many visits in 2025", 2, "time count", lambda: one(int((year == 2025).sum())), False),
    ("How many visits last month?", 2, "time count", lambda: one(int(((year == 2026) & (month == 9)).sum())), False),
    ("number of visits in March", 2, "time count", lambda: one(int((month == 3).sum())), False),
    (
        "visits since 1 July 2026, how many?",
        2,
        "time count",
        lambda: one(int((full.visit_date >= "2026-07-01").sum())),
        False,
    ),
    (
        "How many appointments were for dental?",
        2,
        "value synonym",
        lambda: one(int((visits.reason == "Dental").sum())),
        False,
    ),
    (
        "how many dogs and cats are there",
        2,
        "value or",
        lambda: one(int(animals.species.isin(["Dog", "Cat"]).sum())),
        False,
    ),
    ("How many animals are not dogs?", 2, "negation", lambda: one(int((animals.species != "Dog").sum())), False),
    (
        "how many visits excluding vaccination",
        2,
        "negation",
        lambda: one(int((visits.reason != "Vaccination").sum())),
        False,
    ),
    (
        "number of visits with a fee of more than 200",
        2,
        "compare",
        lambda: one(int((visits.fee_net > 200).sum())),
        False,
    ),
    ("How many visits had a rating of at least 4?", 2, "compare", lambda: one(int((visits.rating >= 4).sum())), False),
    (
        "visits with a waiting time between 30 and 60 minutes, how many",
        2,
        "between",
        lambda: one(int(visits.wait_min.between(30, 60).sum())),
        False,
    ),
    ("How many owners have no email?", 2, "missing", lambda: one(int(owners.email.isna().sum())), False),
    ("Income by clinic", 2, "group join synonym", lambda: by(full, "clinic", "fee_net", "sum"), False),
    (
        "income per clinic this year",
        2,
        "group join time",
        lambda: by(full[year == 2026], "clinic", "fee_net", "sum"),
        False,
    ),
    ("total income by vet", 2, "group join", lambda: by(full, "vet_name", "fee_net", "sum"), False),
    ("number of visits by reason", 2, "group", lambda: counted(visits, "reason"), False),
    ("visits per year", 2, "group time", lambda: counted(full.dropna(subset="visit_date"), year.rename("year")), False),
    (
        "Visits by month in 2025",
        2,
        "group time",
        lambda: counted(full[year == 2025], floor(full[year == 2025], "M")),
        True,
    ),
    ("total fee by quarter", 2, "group time", lambda: full.groupby(floor(full, "Q")).fee_net.sum().reset_index(), True),
    (
        "How many visits on each weekday?",
        2,
        "group time",
        lambda: counted(full, (full.visit_date.dt.day_of_week + 1).rename("weekday")),
        False,
    ),
    ("average waiting time by region", 2, "group join", lambda: by(full, "region", "wait_min", "mean"), False),
    ("number of animals by species", 2, "group", lambda: counted(animals, "species"), False),
    ("number of visits by region and species", 3, "group2 join", lambda: counted(full, ["region", "species"]), False),
    (
        "Top five clinics by income this year for dogs",
        3,
        "topn join time value",
        lambda: top(by(full[(year == 2026) & (full.species == "Dog")], "clinic", "fee_net", "sum"), "fee_net", 5),
        True,
    ),
    (
        "Which reason has the highest average fee?",
        3,
        "topn",
        lambda: top(by(visits, "reason", "fee_net", "mean"), "fee_net", 1),
        True,
    ),
    (
        "which clinic had the most visits in 2025",
        3,
        "topn join time",
        lambda: top(counted(full[year == 2025], "clinic"), "rows", 1),
        True,
    ),
    (
        "the three clinics with the fewest visits",
        3,
        "topn join",
        lambda: top(counted(full, "clinic"), "rows", 3, True),
        True,
    ),
    ("top 10 visits by fee", 2, "topn list", lambda: top(visits[["visit_id", "fee_net"]], "fee_net", 10), True),
    (
        "Which vet has the lowest average rating?",
        3,
        "topn join",
        lambda: top(by(full, "vet_name", "rating", "mean"), "rating", 1, True),
        True,
    ),
    (
        "list clinics in the North region",
        2,
        "list value",
        lambda: clinics[clinics.region == "North"][["clinic"]],
        False,
    ),
    (
        "show the vets hired after 2022 with their hire date",
        2,
        "list time",
        lambda: vets[vets.hired_on >= "2023-01-01"][["vet_name", "hired_on"]],
        False,
    ),
    ("oldest clinic", 2, "topn date", lambda: top(clinics[["clinic", "opened_on"]], "opened_on", 1, True), True),
    ("total spending by supplier", 2, "group synonym", lambda: by(supplies, "supplier", "amount", "sum"), False),
    (
        "total quantity of bandages bought in 2025",
        2,
        "value time",
        lambda: one(int(supplies[(supplies.item == "Bandages") & (supplies.bought_on.dt.year == 2025)].quantity.sum())),
        False,
    ),
    ("averge rating by speices", 3, "typo group join", lambda: by(full, "species", "rating", "mean"), False),
    (
        "income at Harrow Street in 2025 by month",
        3,
        "value join time",
        lambda: (lambda f: f.groupby(floor(f, "M")).fee_net.sum().reset_index())(
            full[(year == 2025) & (full.clinic == "Harrow Street")]
        ),
        True,
    ),
    (
        "How many dental visits did Millbeck have in 2025?",
        3,
        "value join time",
        lambda: one(int(((year == 2025) & (full.clinic == "Millbeck") & (full.reason == "Dental")).sum())),
        False,
    ),
    (
        "share of visits by reason",
        3,
        "share",
        lambda: counted(visits, "reason").assign(share=lambda f: f["rows"] / f["rows"].sum())[["reason", "share"]],
        False,
    ),
    ("reasons with more than 3000 visits", 3, "having", lambda: counted(visits, "reason").query("rows > 3000"), False),
    (
        "average fee for attended visits by reason",
        3,
        "flag group",
        lambda: by(visits[visits.attended == "yes"], "reason", "fee_net", "mean"),
        False,
    ),
]


def value(cell: Any) -> Any:
    if cell is None or cell is pd.NaT or (isinstance(cell, float) and cell != cell):
        return None
    if isinstance(cell, (pd.Timestamp, dt.date)):
        return cell.strftime("%Y-%m-%d")
    return cell.item() if hasattr(cell, "item") else cell


def main() -> None:
    questions, gold = [], []
    for number, (ask, level, tags, work, ordered) in enumerate(PACK, 1):
        frame = work()
        rows = [[value(c) for c in row] for row in frame.itertuples(index=False)]
        identity = f"d{number:02d}"
        questions.append({"id": identity, "ask": ask})
        # A row for those whose group is not known may be there or not.
        columns = [str(c) for c in frame.columns]
        known = [row for row in rows if all(cell is not None for cell in row[:-1])]
        accept = [
            {"columns": columns, "rows": kept, "ordered": ordered} for kept in (rows, known) if kept == rows or kept
        ]
        gold.append({"id": identity, "level": level, "tags": tags.split(), "accept": accept, "outcome": ["answered"]})
    for name, lines in (("questions.jsonl", questions), ("gold.jsonl", gold)):
        (HERE / name).write_text("".join(json.dumps(line, ensure_ascii=False) + "\n" for line in lines))


if __name__ == "__main__":
    main()
