"""Where the tables stand in a grid of cells: titles above, headers of one or two rows, units, notes below, tables beside each other."""

from __future__ import annotations

import functools
import itertools
import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from operator import itemgetter

from gumption.core.model.catalogue import Note
from gumption.intake.cells import MISSING_WORDS, TYPED_MISSING
from gumption.intake.moments import read_moment
from gumption.intake.numbers import UNITS, is_code, looks_numeric

Rows = Sequence[Sequence[str]]
_LOOKED = 400
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
_NOTE = re.compile(
    r"^(source|sources|quelle|notes?|nb|n\.b|footnote|generated|exported|printed|created|report|run (on|at)|as (of|at)|end of|page|"
    r"copyright|disclaimer|prepared|data (from|as|source|provided)|last (updated|refreshed)|updated|confidential|all figures|figures|"
    r"rows?( count)?:|records?:|\d[\d,]* (rows?|records?)|total (rows|records)|stand|erstellt|filters?|values?)\b|^[*†‡©#¹²]|^\(\d[\d,]* (rows?|records?)( affected)?\)|^\(\d\)|^\[\d\]|^\d\) ",
    re.I,
)
_MOST_GROUP_ROWS = 2
"""Rows of labels over the columns' names that are joined to these."""
_BLANK = frozenset(MISSING_WORDS)


@dataclass(frozen=True)
class Block:
    """One table of a grid: its columns' names and places, and the rows of its body."""

    names: tuple[str, ...]
    places: tuple[int, ...]
    units: tuple[str | None, ...]
    header: tuple[str, ...]
    """The header's cells as they stand, for finding it again among the rows."""
    first: int
    """The first row of the body, counted from 0 in the grid."""
    last: int
    """The row behind the last one."""
    has_header: bool
    described: tuple[str, ...] = ()
    """What a row under the header said of each column; empty where there was none."""
    title: str = ""
    plain_header: bool = True
    """True for a header of one row straight above the body."""
    notes: tuple[Note, ...] = field(default=())


@functools.lru_cache(maxsize=200_000)
def kind_of_cell(cell: str) -> str:
    """number, date, text or nothing."""
    if cell in _BLANK or cell.lower() in TYPED_MISSING:
        return ""
    if looks_numeric(cell):
        return "number" if not is_code(cell) else "code"
    if cell[0].isdigit() or cell[-1].isdigit():
        if (m := read_moment(cell, "day") or read_moment(cell, "month")) is not None and m.value is not None:
            return "date"
        if read_moment(cell, "month") is not None:
            return "date"
        if re.fullmatch(r"\d{1,2}:\d{2}(:\d{2})?", cell):
            return "date"
    return "text"


def _filled(row: Sequence[str]) -> int:
    return sum(1 for c in row if c)


def _first(row: Sequence[str]) -> str:
    """The first cell that says something; empty where none does."""
    return next(filter(None, row), "")


def _cell(row: Sequence[str], place: int) -> str:
    return row[place] if place < len(row) else ""


def _slice(row: Sequence[str], left: int, right: int) -> list[str]:
    """The cells from left to right, blank where the row ends before."""
    cells = list(row[left:right])
    return cells if len(cells) == right - left else [*cells, *[""] * (right - left - len(cells))]


def blocks(rows: Rows, declined: frozenset[str] = frozenset()) -> list[Block]:
    """Every table of the grid, in the order of reading; none where no row could be a header or a body."""
    segments = _segments(rows)
    groups: list[list[tuple[int, int]]] = []
    loose: list[tuple[int, int]] = []
    for start, end in segments:
        if _is_loose(rows, start, end, groups, segments):
            loose.append((start, end))
        elif not groups or (_starts_table(rows, start, end, groups[-1]) and "tables" not in declined):
            groups.append([(start, end)])
        else:
            groups[-1].append((start, end))
    if not groups:
        groups = [[s] for s in segments[:1]] if segments else []
        loose = loose if not groups else [s for s in loose if s not in groups[0]]
    found: list[Block] = []
    for number, group in enumerate(groups):
        top, bottom = group[0][0], group[-1][1]
        titles = [s for s in loose if s[1] <= top and (number == 0 or s[0] >= groups[number - 1][-1][1])]
        for left, right, low, high in _beside(rows, top, bottom, declined):
            block = _block(rows, low, high, left, right, titles, declined)
            if block is not None:
                found.append(block)
    if found and groups:
        below = [r for s in loose if s[0] >= groups[-1][-1][1] for r in range(*s)]
        if below:
            note = _below_note([rows[r] for r in below])
            found[-1] = replace(found[-1], notes=(*found[-1].notes, note))
    return found


def _segments(rows: Rows) -> list[tuple[int, int]]:
    """Runs of rows that are not blank."""
    found: list[tuple[int, int]] = []
    start: int | None = None
    for place, row in enumerate(rows):
        blank = not any(row)
        if not blank and start is None:
            start = place
        elif blank and start is not None:
            found.append((start, place))
            start = None
    if start is not None:
        found.append((start, len(rows)))
    return found


def _usual(rows: Rows, start: int, end: int) -> int:
    counts = Counter(_filled(rows[i]) for i in range(start, min(end, start + _LOOKED)))
    return max(counts.items(), key=lambda p: (p[1] * (p[0] > 1), p[0]))[0] if counts else 0


def _is_loose(
    rows: Rows, start: int, end: int, groups: list[list[tuple[int, int]]], segments: list[tuple[int, int]]
) -> bool:
    """True for titles and notes: a few rows with a cell or two, beside a table that is wider."""
    widest = max(_usual(rows, s, e) for s, e in segments)
    most = max(_filled(rows[i]) for i in range(start, end))
    if widest <= 1:
        # A single column: only what is plainly a remark is loose.
        return bool(groups) and all(_NOTE.search(_first(rows[i])) for i in range(start, end))
    if most <= 1 and (end - start <= 12 or widest > 2):
        return True
    if not groups and most < widest and end - start <= 8 and sum(_filled(rows[i]) > 1 for i in range(start, end)) <= 1:
        return True
    if most == 2 and widest > 3 and end - start <= 8:
        return not groups or all(
            _NOTE.search(_first(rows[i])) or kind_of_cell(_first(rows[i])) == "text" for i in range(start, end)
        )
    firsts = [_first(rows[i]) for i in range(start, end)]
    if not groups and most <= 2 and end - start <= 12 and all(f.endswith(":") for f in firsts):
        return True
    if groups and all(_NOTE.search(_first(rows[i])) for i in range(start, end)):
        return most < widest
    return not groups and _is_preamble(rows, start, end, segments)


_MOST_PREAMBLE = 12
_LABEL = re.compile(
    r"(report|period|month|date|on|run (by|on)|by|for|from|to|account|iban|client|customer|name|title|subject|author|"
    r"prepared( by)?|company|team|week|year|branch|currency|konto|zeitraum|kunde|datum|firma|période|compte|periodo|cuenta)",
    re.I,
)
"""What stands before a value that tells of the whole sheet."""


def _is_preamble(rows: Rows, start: int, end: int, segments: list[tuple[int, int]]) -> bool:
    """True for a form, an address or a list of facts on the whole, above a table that has columns where it has none."""
    if end - start > _MOST_PREAMBLE or _has_columns(rows, start, end):
        return False
    if not any(s >= end and _has_columns(rows, s, e) for s, e in segments):
        return False
    filled = [[(p, c) for p, c in enumerate(rows[i]) if c] for i in range(start, end)]
    if sum(any(c.endswith(":") for _, c in row) for row in filled) >= 0.5 * len(filled):
        return True
    if len({tuple(p for p, _ in row) for row in filled}) > 1:
        return True
    # Pairs of a label and a value: the values are of several kinds, or the labels speak of the whole.
    kinds = {kind_of_cell(row[-1][1]) for row in filled}
    return len(filled[0]) == 2 and (len(kinds) > 1 or any(_LABEL.fullmatch(row[0][1]) for row in filled))


def _has_columns(rows: Rows, start: int, end: int) -> bool:
    """True where words head rows that are filled alike, over a column at least of numbers or dates."""
    head = next((i for i in range(start, min(end, start + 3)) if _filled(rows[i]) > 1), end)
    places = [p for p, c in enumerate(rows[head]) if c] if head < end else []
    if end - head < 3 or any(kind_of_cell(rows[head][p]) != "text" or rows[head][p].endswith(":") for p in places):
        return False
    alike = [i for i in range(head + 1, end) if sum(bool(_cell(rows[i], p)) for p in places) > 0.5 * len(places)]
    below = _column_kinds(rows, head + 1, end, places)
    typed = any(kind in ("number", "date", "code") and share >= 0.7 for kind, share in below.values())
    return typed and len(alike) >= max(2, 0.6 * (end - head - 1))


def _column_kinds(rows: Rows, start: int, end: int, places: Sequence[int]) -> dict[int, tuple[str, float]]:
    """For each place the commonest kind of its cells and its share."""
    step = max((end - start) // _LOOKED, 1)
    looked = range(start, end, step)
    kinds = {}
    chosen = [rows[i] for i in looked]
    narrowest = min(map(len, chosen), default=0)
    for place in places:
        cells = map(itemgetter(place), chosen) if place < narrowest else (_cell(row, place) for row in chosen)
        counts = Counter(map(kind_of_cell, cells))
        del counts[""]
        if counts:
            kind, number = counts.most_common(1)[0]
            kinds[place] = (kind, number / counts.total())
        else:
            kinds[place] = ("", 0.0)
    return kinds


class _Below:
    """What kinds the cells of each column are in some rows, counted anew only for rows that come and go."""

    def __init__(self, rows: Rows, width: int) -> None:
        self.rows, self.low, self.high = rows, 0, 0
        self.counts: list[Counter[str]] = [Counter() for _ in range(width)]

    def move(self, low: int, high: int) -> None:
        """Look at the rows from low on, before high; neither is less than it was."""
        self._count(range(self.high, high), 1)
        self._count(range(self.low, low), -1)
        self.low, self.high = low, high

    def _count(self, rows: range, by: int) -> None:
        for place in rows:
            for counts, cell in zip(self.counts, self.rows[place], strict=False):
                if kind := kind_of_cell(cell):
                    counts[kind] += by

    def typed(self) -> dict[int, str]:
        """The columns of which most cells are of one kind that is no words, and that kind."""
        found = {}
        for place, counts in enumerate(self.counts):
            whole = sum(counts.values())
            for kind in ("number", "date", "code"):
                if whole and counts[kind] >= 0.6 * whole:
                    found[place] = kind
        return found


def _starts_table(rows: Rows, start: int, end: int, before: list[tuple[int, int]]) -> bool:
    """True where a run of rows has a header of its own, other than that of the table above."""
    if end - start < 2:
        return False
    first = rows[start]
    if _filled(first) == 1 and end - start > 2 and _filled(rows[start + 1]) > 1:
        first, start = rows[start + 1], start + 1
    names = {c.lower() for c in first if c}
    if len(names) < 2:
        return False
    earlier = [{c.lower() for c in rows[i] if c} for s, e in before for i in range(s, min(e, s + 4))]
    if any(len(names & other) >= 0.8 * len(names) for other in earlier):
        return False
    if any(kind_of_cell(c) in ("number", "date") for c in first if c) or re.search(
        r"\b(sub)?total\b", first[0] or "", re.I
    ):
        return False
    places = [i for i, c in enumerate(first) if c]
    below = _column_kinds(rows, start + 1, end, places)
    differing = [p for p in places if below[p][0] in ("number", "date", "code") and below[p][1] >= 0.7]
    top, bottom = before[0][0], before[-1][1]
    above = _column_kinds(rows, top + 1, bottom, places)
    typed_above = [p for p in places if above[p][0] in ("number", "date") and above[p][1] >= 0.7]
    if differing:
        # Words where the table above has numbers start a new one; so do words over numbers in other places.
        return bool(typed_above) or bool(differing)
    if typed_above and len(places) >= 2:
        return True
    # Words all through: other columns are filled than above, on every row, and more than one blank line lies between.
    own = {tuple(p for p, c in enumerate(rows[i]) if c) for i in range(start, end)}
    before_columns = {p for i in range(top, bottom) for p, c in enumerate(rows[i]) if c}
    apart = start - bottom >= 2 and end - start >= 3
    return apart and len(own) == 1 and set(next(iter(own))) != before_columns and len(places) >= 2


def _beside(rows: Rows, top: int, bottom: int, declined: frozenset[str]) -> list[tuple[int, int, int, int]]:
    """The parts of a region: tables beside each other stand apart by a blank column, and end at other rows or repeat names."""
    width = max(len(rows[i]) for i in range(top, bottom))
    used = [any(_cell(rows[i], p) for i in range(top, bottom)) for p in range(width)]
    if not any(used):
        return []
    left, right = used.index(True), width - used[::-1].index(True)
    whole = [(left, right, top, bottom)]
    gaps = [p for p in range(left, right) if not used[p]]
    if not gaps or "tables" in declined:
        return whole
    parts: list[tuple[int, int, int, int]] = []
    start = left
    for gap in [*gaps, right]:
        if gap > start:
            filled = [i for i in range(top, bottom) if any(_cell(rows[i], p) for p in range(start, gap))]
            parts.append((start, gap, filled[0], filled[-1] + 1))
        start = gap + 1
    if any(b - a < 2 or high - low < 2 for a, b, low, high in parts):
        return whole
    ends = {high for _, _, _, high in parts}
    headers = [{c.lower() for c in rows[low][a:b] if c} for a, b, low, _ in parts]
    repeated = any(headers[i] & headers[j] for i in range(len(parts)) for j in range(i))
    titled = all(_filled(rows[low][a:b]) == 1 for a, b, low, _ in parts)
    return parts if len(ends) > 1 or repeated or titled else whole


_OF_YEAR = re.compile(r"((?:19|20)\d{2})\s*([^\d\s][^\d]*)?")


def _years_run(cells: Sequence[str]) -> int:
    """How many cells are years one after the other, each with the same unit or none; 0 where they are not."""
    found = [m for c in cells if (m := _OF_YEAR.fullmatch(c)) is not None]
    years = [int(m[1]) for m in found]
    alike = len({m[2] for m in found}) == 1
    return len(years) if len(years) >= 2 and alike and all(abs(b - a) == 1 for a, b in itertools.pairwise(years)) else 0


def _block(
    rows: Rows, top: int, bottom: int, left: int, right: int, titles: list[tuple[int, int]], declined: frozenset[str]
) -> Block | None:
    part = [_slice(rows[i], left, right) for i in range(top, bottom)]
    if len(part) == 1 and not any(kind_of_cell(c) in ("number", "date", "code") for c in part[0]):
        return None
    place, has_header = _header(part)
    if "header" in declined:
        place, has_header = next((i for i in range(len(part)) if _filled(part[i]) >= 0.5 * (right - left)), 0), False
    if "titles" in declined:
        place = 0
    notes: list[Note] = []
    above = [_first(rows[r]) for s, e in titles for r in range(s, e)]
    above += [_first(part[i]) for i in range(place) if any(part[i])]
    header_rows = [part[place]] if has_header else []
    second = False
    if has_header and "two_headers" not in declined:
        upper = place
        while upper and place - upper < _MOST_GROUP_ROWS and _is_group_row(part, upper - 1, upper):
            upper -= 1
            header_rows.insert(0, part[upper])
            if above:
                above.pop()
            second = True
        if not second and _is_second_header(part, place):
            header_rows.append(part[place + 1])
            second = True
    body = place + (1 if has_header else 0)
    if second and len(header_rows) == 2 and header_rows[1] is not part[place]:
        body += 1
    units: list[str | None] = [None] * (right - left)
    if has_header and "units" not in declined and (told := _units(part, body)) is not None:
        units, body = told, body + 1
        while body < len(part) and not any(part[body]):
            body += 1
        listed = ", ".join(dict.fromkeys(u for u in units if u))
        notes.append(Note(act="The row of units under the header was taken off", key="units", rows=1, detail=listed))
    described: list[str] = [""] * (right - left)
    if has_header and "described" not in declined and (told_words := _descriptions(part, body)) is not None:
        described, body = told_words, body + 1
        examples = tuple(d[:80] for d in described if d)[:3]
        act = "The row under the header describes the columns and was taken off"
        notes.append(Note(act=act, key="described", rows=1, examples=examples))
    if body >= len(part):
        return None
    header = _joined(header_rows) if has_header else [""] * (right - left)
    if above:
        texts = tuple(a[:80] for a in above)
        many = len(above)
        act = (
            "One title line above the header was skipped"
            if many == 1
            else f"{many} title lines above the header were skipped"
        )
        notes.insert(0, Note(act=act, key="titles", rows=many, examples=texts[:3]))
    if second:
        notes.append(
            Note(
                act=f"{'Two' if len(header_rows) == 2 else 'Three'} header rows were joined into one",
                key="two_headers",
                rows=len(header_rows),
                examples=tuple(header[:3]),
            )
        )
    ends = bottom - top
    foot = _foot(part, body) if "notes_below" not in declined else ends
    if foot < ends:
        notes.append(_below_note(part[foot:]))
    kept = [p for p in range(right - left) if header[p] or any(_cell(r, p) for r in part[body:foot])]
    gone = right - left - len(kept)
    if gone:
        noun = "empty column was" if gone == 1 else "empty columns were"
        notes.append(Note(act=f"{gone} {noun} left out"))
    if not kept or foot <= body:
        return None
    names, name_notes = column_names([header[p] for p in kept], has_header)
    for n, p in enumerate(kept):
        if header[p] and not any(_cell(r, p) for r in part[body:foot]) and foot - body > 1:
            name_notes.append(Note(act=f"{names[n]} has no value at all", column=names[n]))
    return Block(
        tuple(names),
        tuple(p + left for p in kept),
        tuple(units[p] for p in kept),
        tuple(header[p] for p in kept),
        top + body,
        top + foot,
        has_header,
        tuple(described[p] for p in kept) if any(described) else (),
        above[-1] if above else "",
        not second and not any(units) and not any(described) and gone == 0,
        (*notes, *name_notes),
    )


def _header(part: list[list[str]]) -> tuple[int, bool]:
    """The header's row and whether it is one; without a header, the first row of the body."""
    width = len(part[0])
    usual = _usual(part, 0, len(part))
    best, best_score = 0, -1e9
    candidates = range(min(len(part) - 1, 30)) if len(part) > 1 else range(1)
    below = _Below(part, width)
    for i in candidates:
        row = part[i]
        filled = _filled(row)
        if not filled or (filled == 1 < usual):
            continue
        below.move(i + 1, min(len(part), i + 120))
        score = _header_score(part, i, width, below.typed())
        if score > best_score + 1e-9:
            best, best_score = i, score
    row = part[best]
    own = [kind_of_cell(c) for c in row]
    kinds = _column_kinds(part, best + 1, len(part), range(width))
    full = next((i for i in range(len(part)) if _filled(part[i]) >= max(1, 0.6 * usual)), 0)
    if len(part) == 1:
        return 0, False
    values = sum(k in ("number", "date", "code") and kinds[p][0] == k and kinds[p][1] >= 0.5 for p, k in enumerate(own))
    values -= _years_run(row)
    words = sum(
        (k == "text" and kinds[p][0] in ("number", "date", "code") and kinds[p][1] >= 0.6)
        or (k == "date" and kinds[p][0] == "number")
        for p, k in enumerate(own)
    )
    if values > words or (values and values >= 0.4 * _filled(row)):
        return full, False
    if words or _years_run(row):
        return best, True
    if any(k in ("number", "date", "code") for k in own) and sum(k != "text" and k != "" for k in own) > 0.5 * _filled(
        row
    ):
        return full, False
    # Words over words: a header's cells do not stand again in their columns, and are of another make.
    repeated = sum(bool(c) and sum(part[i][p] == c for i in range(best + 1, len(part))) > 0 for p, c in enumerate(row))
    if repeated >= max(1, 0.5 * _filled(row)) and not all(
        sum(part[i][p] == c for p, c in enumerate(row)) >= 0.8 * len(row)
        for i in range(best + 1, len(part))
        if any(part[i][p] == c for p, c in enumerate(row))
    ):
        return full, False
    return best, True


def _header_score(part: list[list[str]], place: int, width: int, typed: dict[int, str]) -> float:
    """How much a row looks like a header; `typed` are the kinds of the columns below that are no words."""
    row = part[place]
    filled = _filled(row)
    kinds = [kind_of_cell(c) for c in row]
    over = sum(kinds[p] == "text" or (kinds[p] == "date" and kind == "number") for p, kind in typed.items())
    values = sum(k in ("number", "date", "code") for k in kinds)
    values -= _years_run(row)
    repeats = filled - len({c.lower() for c in row if c})
    score = filled / width + 0.7 * over / max(len(typed), 1) - 0.8 * values / filled - 0.3 * repeats / filled
    score -= 0.3 * any(len(c) > 60 for c in row) + 0.2 * any(c.endswith(":") for c in row if c)
    return score - 0.03 * place


def _is_group_row(part: list[list[str]], upper: int, lower: int) -> bool:
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


def _is_second_header(part: list[list[str]], place: int) -> bool:
    """True where the row below the header goes on naming: it fills gaps of it, over columns of numbers."""
    if place + 2 >= len(part) or not any(part[place + 1]):
        return False
    upper, lower = part[place], part[place + 1]
    gaps = [p for p, c in enumerate(upper) if not c]
    filled_gaps = [p for p in gaps if lower[p]]
    if not filled_gaps:
        return False
    below = _column_kinds(part, place + 2, len(part), range(len(lower)))
    for _p, c in enumerate(lower):
        if c and kind_of_cell(c) in ("number", "date", "code") and not re.fullmatch(r"(19|20)\d{2}", c):
            return False
    over = [p for p, c in enumerate(lower) if c and below[p][0] in ("number", "date", "code") and below[p][1] >= 0.6]
    return bool(over) and len(filled_gaps) >= 1 and sum(1 for p in filled_gaps if p in over) >= 0.5 * len(filled_gaps)


def _units(part: list[list[str]], body: int) -> list[str | None] | None:
    """The units that the row under the header gives; None where it is a row of the body."""
    if body + 1 >= len(part):
        return None
    row = part[body]
    cells = [c for c in row if c]
    if not cells:
        return None
    below = _column_kinds(part, body + 1, len(part), range(len(row)))
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


def _descriptions(part: list[list[str]], body: int) -> list[str] | None:
    """What the row under the header says of the columns in words; None where it is a row of the body."""
    if body + 3 >= len(part):
        return None
    row = part[body]
    below = _column_kinds(part, body + 1, len(part), range(len(row)))
    typed = [p for p in range(len(row)) if below[p][0] in ("number", "date") and below[p][1] >= 0.99]
    wordy = sum(" " in c for c in row)
    if not typed or not all(kind_of_cell(row[p]) == "text" for p in typed) or wordy < 0.5 * _filled(row):
        return None
    if any(kind_of_cell(c) in ("number", "date", "code") for c in row):
        return None
    others = [p for p, c in enumerate(row) if c and p not in typed]
    if any(part[i][p] == row[p] for i in range(body + 1, min(len(part), body + _LOOKED)) for p in others):
        return None
    return list(row)


def _joined(header_rows: list[list[str]]) -> list[str]:
    """One name for each column; a label over several columns goes before each of them."""
    if len(header_rows) == 1:
        return list(header_rows[0])
    *above, lower = header_rows
    upper = _joined(above)
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


def _foot(part: list[list[str]], body: int) -> int:
    """The row behind the body: notes below it stand in one cell or two, say so, or are set apart."""
    usual = _usual(part, body, len(part))
    end = len(part)
    if usual < 2:
        # In a single column of words a remark cannot be told from a value.
        if kind_of_cell(part[body][0]) == "text":
            return end
        while end > body + 1 and _NOTE.search(part[end - 1][0]) and len(part[end - 1][0]) > 12:
            end -= 1
        return end
    kinds = _column_kinds(part, body, len(part), range(len(part[0])))
    cut = end
    place = end - 1
    while place > body:
        row = part[place]
        filled = [p for p, c in enumerate(row) if c]
        if not filled:
            place -= 1
            continue
        text = row[filled[0]]
        kind, share = kinds[filled[0]]
        odd = kind_of_cell(text) == "text" and kind in ("number", "date", "code") and share >= 0.6
        apart = not any(part[place - 1])
        few = len(filled) <= max(1, usual // 3)
        remark = bool(_NOTE.search(text)) or len(text) > 60
        if few and usual > len(filled) and (remark or odd or apart):
            cut = place
            place -= 1
            continue
        break
    while cut > body and cut < end and not any(part[cut - 1]):
        cut -= 1
    return cut


def _below_note(rows: Sequence[Sequence[str]]) -> Note:
    texts = [_first(row) for row in rows if any(row)]
    many = len(texts)
    act = (
        "One line of notes below the table was left out"
        if many == 1
        else f"{many} lines of notes below the table were left out"
    )
    return Note(act=act, key="notes_below", rows=many, examples=tuple(t[:80] for t in texts[:3]))


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
