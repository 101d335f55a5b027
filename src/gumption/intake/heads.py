"""The head of a table: which row names the columns, labels over them, units and descriptions below."""

from __future__ import annotations

import itertools
import re
from collections.abc import Sequence

from gumption.core.model.catalogue import Note
from gumption.intake.grid import (
    LOOKED,
    KindsBelow,
    column_kinds,
    filled_cells,
    kind_of_cell,
    usual_width,
)
from gumption.intake.numbers import UNITS

_UNIT_WORDS = {u.lower() for u in UNITS} | {
    *(
        "£",
        "€",
        "$",
        "gbp",
        "eur",
        "usd",
        "date",
        "text",
        "number",
        "integer",
        "string",
        "yyyy-mm-dd",
        "dd/mm/yyyy",
        "no.",
        "count",
        "id",
        "code",
        "name",
        "-",
    ),
    *(
        "kilograms",
        "grams",
        "metres",
        "meters",
        "euro",
        "euros",
        "dollars",
        "pounds",
        "percent",
        "per cent",
        "celsius",
        "hh:mm",
        "y/n",
        "int",
        "float",
        "bool",
        "n",
        "#",
    ),
    *(
        "thousands",
        "millions",
        "'000",
        "000s",
        "£000",
        "£'000",
        "£m",
        "€m",
        "$m",
        "m/s",
        "kg/m2",
        "mm/dd/yyyy",
        "tonnes",
        "degc",
        "degf",
        "deg",
        "mbar",
        "hpa",
        "mb",
    ),
}


_PARTS_OF_UNITS = _UNIT_WORDS | {
    "s",
    "min",
    "h",
    "hr",
    "d",
    "l",
    "m",
    "g",
    "a",
    "v",
    "w",
    "k",
    "pa",
    "n",
    "c",
    "f",
    "kwh",
    "wh",
    "rpm",
}


_UNIT_WORDS |= {"s", "m", "l", "h", "v", "w", "kwh", "rpm"}


MOST_GROUP_ROWS = 2
"""Rows of labels over the columns' names that are joined to these."""


_OF_YEAR = re.compile(r"((?:19|20)\d{2})\s*([^\d\s][^\d]*)?")


def years_run(cells: Sequence[str]) -> int:
    """How many cells are years one after the other, each with the same unit or none; 0 where they are not."""
    found = [m for c in cells if (m := _OF_YEAR.fullmatch(c)) is not None]
    years = [int(m[1]) for m in found]
    alike = len({m[2] for m in found}) == 1
    return len(years) if len(years) >= 2 and alike and all(abs(b - a) == 1 for a, b in itertools.pairwise(years)) else 0


def find_header(part: list[list[str]]) -> tuple[int, bool]:
    """The header's row and whether it is one; without a header, the first row of the body."""
    width = len(part[0])
    usual = usual_width(part, 0, len(part))
    best, best_score = 0, -1e9
    candidates = range(min(len(part) - 1, 30)) if len(part) > 1 else range(1)
    below = KindsBelow(part, width)
    for i in candidates:
        row = part[i]
        filled = filled_cells(row)
        if not filled or (filled == 1 < usual):
            continue
        below.move(i + 1, min(len(part), i + 120))
        score = _header_score(part, i, width, below.typed())
        if score > best_score + 1e-9:
            best, best_score = i, score
    row = part[best]
    own = [kind_of_cell(c) for c in row]
    kinds = column_kinds(part, best + 1, len(part), range(width))
    full = next((i for i in range(len(part)) if filled_cells(part[i]) >= max(1, 0.6 * usual)), 0)
    if len(part) == 1:
        return 0, False
    values = sum(k in ("number", "date", "code") and kinds[p][0] == k and kinds[p][1] >= 0.5 for p, k in enumerate(own))
    values -= years_run(row)
    words = sum(
        (k == "text" and kinds[p][0] in ("number", "date", "code") and kinds[p][1] >= 0.6)
        or (k == "date" and kinds[p][0] == "number")
        for p, k in enumerate(own)
    )
    if values > words or (values and values >= 0.4 * filled_cells(row)):
        return full, False
    if words or years_run(row):
        return best, True
    if any(k in ("number", "date", "code") for k in own) and sum(
        k != "text" and k != "" for k in own
    ) > 0.5 * filled_cells(row):
        return full, False
    # Words over words: a header's cells do not stand again in their columns, and are of another make.
    repeated = sum(bool(c) and sum(part[i][p] == c for i in range(best + 1, len(part))) > 0 for p, c in enumerate(row))
    if repeated >= max(1, 0.5 * filled_cells(row)) and not all(
        sum(part[i][p] == c for p, c in enumerate(row)) >= 0.8 * len(row)
        for i in range(best + 1, len(part))
        if any(part[i][p] == c for p, c in enumerate(row))
    ):
        return full, False
    return best, True


def _header_score(part: list[list[str]], place: int, width: int, typed: dict[int, str]) -> float:
    """How much a row looks like a header; `typed` are the kinds of the columns below that are no words."""
    row = part[place]
    filled = filled_cells(row)
    kinds = [kind_of_cell(c) for c in row]
    over = sum(kinds[p] == "text" or (kinds[p] == "date" and kind == "number") for p, kind in typed.items())
    values = sum(k in ("number", "date", "code") for k in kinds)
    values -= years_run(row)
    repeats = filled - len({c.lower() for c in row if c})
    score = filled / width + 0.7 * over / max(len(typed), 1) - 0.8 * values / filled - 0.3 * repeats / filled
    score -= 0.3 * any(len(c) > 60 for c in row) + 0.2 * any(c.endswith(":") for c in row if c)
    following = part[place + 1] if place + 1 < len(part) else []
    if any(c and not row[p] for p, c in enumerate(following)) and all(
        kind_of_cell(c) == "text" for c in following if c
    ):
        # What stands below goes on naming, also where nothing is named here.
        score -= 0.2
    return score - 0.03 * place


def is_group_row(part: list[list[str]], upper: int, lower: int) -> bool:
    """True for a row of labels that each stand over several columns of the header below."""
    labels = [c for c in part[upper] if c]
    if not labels or any(c.endswith(":") for c in labels):
        return False
    names = [c.lower() for c in part[lower] if c]
    if len(names) != len(set(names)):
        return len(labels) >= 2 or (len(labels) == 1 and bool(part[upper][0] == ""))
    if len(labels) < 2 or any(len(c) > 30 for c in labels):
        return False
    fills = any(up and not low for up, low in zip(part[upper], part[lower], strict=True))
    spans = len(labels) < len(names) or fills
    worded = all(kind_of_cell(c) != "number" or re.fullmatch(r"(19|20)\d{2}", c) for c in labels)
    return (
        spans
        and worded
        and len(set(labels)) == len(labels)
        and not any(kind_of_cell(c) == "date" for c in labels[1:2])
        and _gapped(part[upper])
    )


def _gapped(row: Sequence[str]) -> bool:
    """True where a label is followed by a blank, as over merged cells."""
    return any(a and not b for a, b in zip(row, [*row[1:], "x"], strict=True)) or bool(row[-1] and not row[0])


def is_second_header(part: list[list[str]], place: int) -> bool:
    """True where the row below the header goes on naming: it fills gaps of it, over columns of numbers."""
    if place + 2 >= len(part) or not any(part[place + 1]):
        return False
    upper, lower = part[place], part[place + 1]
    gaps = [p for p, c in enumerate(upper) if not c]
    filled_gaps = [p for p in gaps if lower[p]]
    if not filled_gaps:
        return False
    below = column_kinds(part, place + 2, len(part), range(len(lower)))
    for _p, c in enumerate(lower):
        if c and kind_of_cell(c) in ("number", "date", "code") and not re.fullmatch(r"(19|20)\d{2}", c):
            return False
    over = [p for p, c in enumerate(lower) if c and below[p][0] in ("number", "date", "code") and below[p][1] >= 0.6]
    return bool(over) and len(filled_gaps) >= 1 and sum(1 for p in filled_gaps if p in over) >= 0.5 * len(filled_gaps)


def units_below(part: list[list[str]], body: int) -> list[str | None] | None:
    """The units that the row under the header gives; None where it is a row of the body."""
    if body + 1 >= len(part):
        return None
    row = part[body]
    cells = [c for c in row if c]
    if not cells:
        return None
    below = column_kinds(part, body + 1, len(part), range(len(row)))
    bare = [c.strip("()[]").lower() for c in cells]
    bracketed = all(re.fullmatch(r"\(.*\)|\[.*\]", c) for c in cells)
    if not bracketed and not all(map(_is_unit, bare)):
        return None
    typed = [
        p
        for p, c in enumerate(row)
        if c and below[p][0] in ("number", "date", "code") and kind_of_cell(c) in ("text", "")
    ]
    if not typed or (len(typed) < 0.5 * len(cells) and not bracketed):
        return None
    return [c.strip("()[]") or None for c in row]


def _is_unit(text: str) -> bool:
    """True for a unit, also one of several: l/min, kg·m/s."""
    parts = [p for p in re.split(r"[/·*×]| per ", text) if p]
    return text in _UNIT_WORDS or (len(parts) > 1 and all(p.rstrip("²³23") in _PARTS_OF_UNITS for p in parts))


def descriptions_below(part: list[list[str]], body: int) -> list[str] | None:
    """What the row under the header says of the columns in words; None where it is a row of the body."""
    if body + 3 >= len(part):
        return None
    row = part[body]
    below = column_kinds(part, body + 1, len(part), range(len(row)))
    typed = [p for p in range(len(row)) if below[p][0] in ("number", "date") and below[p][1] >= 0.99]
    wordy = sum(" " in c for c in row)
    if not typed or not all(kind_of_cell(row[p]) == "text" for p in typed) or wordy < 0.5 * filled_cells(row):
        return None
    if any(kind_of_cell(c) in ("number", "date", "code") for c in row):
        return None
    others = [p for p, c in enumerate(row) if c and p not in typed]
    if any(part[i][p] == row[p] for i in range(body + 1, min(len(part), body + LOOKED)) for p in others):
        return None
    return list(row)


def joined_names(header_rows: list[list[str]]) -> list[str]:
    """One name for each column; a label over several columns goes before each of them."""
    if len(header_rows) == 1:
        return list(header_rows[0])
    *above, lower = header_rows
    upper = joined_names(above)
    names = []
    label = ""
    for top, name in zip(upper, lower, strict=True):
        label = top or label
        if not name:
            names.append(top)
        elif top or label:
            group = top or label
            names.append(name if group.lower() == name.lower() else f"{group} {name}")
        else:
            names.append(name)
    return names


def column_names(header: Sequence[str], has_header: bool) -> tuple[list[str], list[Note]]:
    """A name for every column, each once, and notes on those that were made up."""
    names: list[str] = []
    notes: list[Note] = []
    taken: set[str] = set()
    copies: dict[str, int] = {}
    for place, cell in enumerate(header):
        given = re.sub(r"\s+", " ", cell).strip()
        given = given.lstrip("#").strip() or given if place == 0 else given
        base = given[:120] if has_header and given else f"column_{place + 1}"
        # A number that was taken stays so: the next is sought from there, however many columns are called alike.
        name = base
        while name.lower() in taken:
            copies[base] = copies.get(base, 1) + 1
            name = f"{base}_{copies[base]}"
        taken.add(name.lower())
        if has_header and name != given:
            what = "had no name" if not given else "repeats a name" if len(given) <= 120 else "has a very long name"
            notes.append(Note(act=f"Column {place + 1} {what} and is called {name}", column=name))
        names.append(name)
    if not has_header:
        notes.append(Note(act="There is no header; columns are numbered", key="no_header", caution=True))
    return names, notes
