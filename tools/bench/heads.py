"""Plain questions of files whose columns are headed as different people head them, and with a slip in a word.

heads.txt says what kinds of files there are, how each column may be headed, and what is asked of them. A variant of a
kind takes one head for each column. A question is right where its reading says all that it must, and is not declined.
"""

from __future__ import annotations

import csv
import datetime as dt
import random
import re
import tempfile
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from gumption.cli.files import open_files
from gumption.core.reading.read import QuestionReader
from gumption.engines.choosing import chosen

_KINDS = Path(__file__).parent / "heads.txt"
_DAY = dt.date(2024, 12, 31)
_SEED = 7
_FIRST = ("Ann", "Bill", "Cath", "Dev", "Ella", "Finn", "Gita", "Hugh")
_LAST = ("Moss", "Reed", "Hale", "Stone", "Frost")
_PLACES = ("Arden", "Bexley", "Corve", "Dunmore", "Elham", "Fenland")
_STREETS = ("Mill", "Oak", "High")
_LEAST_MISSPELLED = 5


@dataclass(frozen=True)
class Slot:
    """A column of a kind of file: what it may be headed, and what it holds."""

    name: str
    heads: tuple[str, ...]
    holds: str


@dataclass(frozen=True)
class Kind:
    """A kind of file, and its questions, each with what its reading must say."""

    name: str
    rows: int
    files: tuple[str, ...]
    slots: tuple[Slot, ...]
    questions: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Verdict:
    """How one question of one file was read."""

    file: str
    heads: tuple[str, ...]
    ask: str
    reading: str
    status: str
    right: bool


def kinds() -> list[Kind]:
    """The kinds of files of heads.txt."""
    found: list[Kind] = []
    for block in _KINDS.read_text(encoding="utf-8").split("\n## ")[1:]:
        title, *lines = block.strip().splitlines()
        named, files = title.split(": ")
        name, rows = named.split()
        asked = [line.split(" => ") for line in lines if " => " in line]
        slots = []
        for line in (line for line in lines if " => " not in line):
            slot, told = line.split(": ", 1)
            heads, holds = told.split(" = ")
            slots.append(Slot(slot, tuple(heads.split(" | ")), holds))
        questions = tuple((ask, must) for ask, must in asked)
        found.append(Kind(name, int(rows), tuple(files.split(" | ")), tuple(slots), questions))
    return found


def _person(number: int) -> str:
    return f"{_FIRST[number // len(_LAST) % len(_FIRST)]} {_LAST[number % len(_LAST)]}"


def _cell(holds: str, row: int, draw: random.Random, beside: dict[str, Any]) -> object:
    """One cell of a column by what it holds; `row` counts from 0, `beside` has the row's other cells by slot."""
    what, _, told = holds.partition(" ")
    match what:
        case "some":
            return "" if draw.random() < 0.3 else _cell(told, row, draw, beside)
        case "part":
            whole, low, high = told.split()
            part = beside[whole] * draw.uniform(float(low), float(high))
            return round(part) if isinstance(beside[whole], int) else round(part, 2)
        case "sum":
            return round(sum(beside[slot] for slot in told.split()), 2)
        case "later" | "earlier":
            other, low, high = told.split()
            days = dt.timedelta(days=draw.randint(int(low), int(high)))
            return beside[other] + days if what == "later" else beside[other] - days
        case "ref":
            return f"{told}{1000 + row}"
        case "some-key":
            letter, many = told.split()
            return f"{letter}{1000 + row % int(many)}"
        case "each":
            again = row // (len(_FIRST) * len(_LAST))
            return f"{_person(row)} {again}" if again else _person(row)
        case "person":
            return _person(draw.randrange(len(_FIRST) * len(_LAST)))
        case "one":
            return draw.choice(told.removeprefix("of ").split(", "))
        case "whole":
            low, high = told.split()
            return draw.randint(int(low), int(high))
        case "money":
            low, high = told.split()
            return round(draw.uniform(float(low), float(high)), 2)
        case "date":
            first, last = (int(year) for year in told.split())
            return dt.date(first, 1, 1) + dt.timedelta(days=draw.randrange(365 * (last - first + 1)))
        case "address":
            return f"{row + 1} {draw.choice(_STREETS)} Street"
        case "place":
            return _PLACES[row % len(_PLACES)]
        case "year":
            first, each = (int(n) for n in told.split())
            return first + row // each
        case _:
            raise ValueError(f"heads.txt has a column that holds {holds!r}, which is no kind of cell.")


def _row(slots: tuple[Slot, ...], row: int, draw: random.Random) -> list[object]:
    """The cells of one row; what is told by another cell comes after it, whichever column stands first."""
    cells: dict[str, Any] = {}
    names = {slot.name for slot in slots}
    told_by = {slot: names & {*slot.holds.split()[1:]} for slot in slots}
    waiting = list(slots)
    while waiting:
        slot = next(s for s in waiting if told_by[s] <= cells.keys())
        cells[slot.name] = "" if any(cells[o] == "" for o in told_by[slot]) else _cell(slot.holds, row, draw, cells)
        waiting.remove(slot)
    return [cells[slot.name] for slot in slots]


def misspelled(ask: str, draw: random.Random) -> str | None:
    """The question with one slip in one of its longer words; None where it has none."""
    words = ask.split()
    places = [i for i, w in enumerate(words) if len(w) >= _LEAST_MISSPELLED and w.isalpha()]
    if not places:
        return None
    place = draw.choice(places)
    word = words[place]
    at = draw.randrange(1, len(word) - 1)
    slips = (
        word[:at] + word[at + 1] + word[at] + word[at + 2 :],
        word[:at] + word[at + 1 :],
        word[:at] + word[at] + word[at:],
    )
    words[place] = draw.choice(slips)
    return " ".join(words) if words[place] != word else None


def _says(reading: str, must: str, heads: dict[str, str]) -> bool:
    plain = re.sub(r", with [^,]*", "", reading).lower()
    told = re.sub(r"\{(\w+)\}", lambda found: heads[found[1]], must).lower().replace("total total", "total")
    return any(all(part.strip() in plain for part in either.split("&")) for either in told.split("||"))


def verdicts(kind: Kind, variants: int, *, slips: bool = False) -> Iterator[Verdict]:
    """How the questions of some variants of a kind are read; the same every time."""
    draw = random.Random(f"{_SEED} {kind.name}")
    for _ in range(variants):
        heads = {slot.name: draw.choice(slot.heads) for slot in kind.slots}
        if len(set(heads.values())) < len(heads):
            continue
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / f"{draw.choice(kind.files)}.csv"
            with path.open("w", encoding="utf-8", newline="") as file:
                rows = csv.writer(file)
                rows.writerow(heads.values())
                rows.writerows(_row(kind.slots, row, draw) for row in range(kind.rows))
            opened = open_files([str(path)], None, Path(folder))
            reader = QuestionReader(opened.catalogue)
            for plain, must in kind.questions:
                asked: str | None = re.sub(r"\{(\w+)\}", lambda found, h=heads: h[found[1]].lower(), plain)  # type: ignore[misc]
                if slips and asked is not None:
                    asked = misspelled(asked, draw)
                if asked is None:
                    continue
                read = chosen(reader.read(asked, _DAY, None), opened.answerer)
                reading = read.readings[0].words if read.readings else read.problem
                right = read.status != "declined" and _says(reading, must, heads)
                yield Verdict(path.stem, tuple(heads.values()), asked, reading, read.status, right)


def bench_heads(variants: int, *, slips: bool) -> int:
    """Print what is read wrong and the share that is read right, for each kind and in all."""
    every: list[Verdict] = []
    for kind in kinds():
        found = list(verdicts(kind, variants, slips=slips))
        for wrong in (v for v in found if not v.right):
            print(
                f"{kind.name} [{wrong.file}: {', '.join(wrong.heads)}]\n   {wrong.ask} => {wrong.status} {wrong.reading}"
            )
        print(f"{kind.name:12} right {sum(v.right for v in found)} of {len(found)}")
        every += found
    print(
        f"in all       right {sum(v.right for v in every)} of {len(every)} ({sum(v.right for v in every) / len(every):.1%})"
    )
    return 0
