"""Made-up houses of several files, each declared in several.txt: longer questions are asked of them.

A house is "## name", a file "- name rows", a column "head = what it holds": ref (a number or letter and number on), pick
(a value of another column), item (each in its turn), one and most (drawn, the first the most often), each and person (names),
whole, money, date and time (between two ends), later (days after another) and part (of another); "some 0.2" before it leaves
so many cells empty.
"""

from __future__ import annotations

import datetime as dt
import random
from pathlib import Path

from tests.trades.making import Files, file_of

_DECLARED = Path(__file__).with_name("several.txt")
_FIRST = ("Ann", "Bill", "Cath", "Dev", "Ella", "Finn", "Gita", "Hugh", "Iris", "Jan", "Kofi", "Lena")
_LAST = ("Moss", "Reed", "Hale", "Stone", "Frost", "Byrne", "Okoro", "Vance")


def _person(number: int) -> str:
    name = f"{_FIRST[number % len(_FIRST)]} {_LAST[(number // len(_FIRST) + number) % len(_LAST)]}"
    return name if number < len(_FIRST) * len(_LAST) else f"{name} {number}"


def _cell(
    holds: str, row: int, draw: random.Random, beside: dict[str, object], known: dict[str, list[object]]
) -> object:
    """One cell by what its column holds; `beside` has the row's other cells, `known` the columns made so far."""
    what, _, told = holds.partition(" ")
    several = told.split(", ")
    match what:
        case "some":
            share, _, inner = told.partition(" ")
            return "" if draw.random() < float(share) else _cell(inner, row, draw, beside, known)
        case "ref":
            return int(told) + row if told.isdigit() else f"{told}{1000 + row}"
        case "pick":
            return known[told][int(draw.random() ** 1.4 * len(known[told]))]
        case "item":
            return several[row % len(several)]
        case "one":
            return draw.choice(several)
        case "most":
            return several[int(draw.random() ** 2.2 * len(several))]
        case "each":
            return _person(row)
        case "person":
            return _person(draw.randrange(int(told)))
        case "whole":
            return draw.randint(*map(int, told.split()))
        case "money":
            low, high = map(float, told.split())
            return round(draw.uniform(low, high), 2)
        case "date" | "stamp":
            low_day, high_day = map(dt.date.fromisoformat, told.split())
            day = low_day + dt.timedelta(days=draw.randrange((high_day - low_day).days + 1))
            return day if what == "date" else f"{day} {draw.randrange(6, 23):02d}:{draw.randrange(60):02d}"
        case "time":
            first, last = map(int, told.split())
            minutes = draw.randrange(first * 60, last * 60, 5)
            return f"{minutes // 60:02d}:{minutes % 60:02d}"
        case "later" | "part":
            other, low_end, high_end = told.split(" | ")
            found = beside[other]
            if isinstance(found, dt.date):
                return found + dt.timedelta(days=draw.randint(int(low_end), int(high_end)))
            if not isinstance(found, (int, float)):
                return ""
            part = found * draw.uniform(float(low_end), float(high_end))
            return round(part) if isinstance(found, int) else round(part, 2)
        case _:
            raise ValueError(f"several.txt has a column that holds {holds!r}, which is no kind of cell.")


def _made(name: str, declared: str) -> Files:
    draw = random.Random(name)
    known: dict[str, list[object]] = {}
    files: Files = {}
    for block in declared.strip().removeprefix("- ").split("\n- "):
        title, *columns = block.strip().splitlines()
        file, rows = title.rsplit(" ", 1)
        made = []
        for row in range(int(rows)):
            cells: dict[str, object] = {}
            for head, holds in (column.split(" = ", 1) for column in columns):
                cells[head] = _cell(holds, row, draw, cells, known)
            made.append(cells)
        heads = [column.split(" = ", 1)[0] for column in columns]
        known |= {f"{file}.{head}": [cells[head] for cells in made] for head in heads}
        files[f"{file}.csv"] = file_of(heads, [[cells[head] for head in heads] for cells in made])
    return files


SEVERAL = {
    block.split("\n", 1)[0]: _made(*block.split("\n", 1))
    for block in _DECLARED.read_text(encoding="utf-8").strip().removeprefix("## ").split("\n\n## ")
}
