"""Where the tables stand in a grid of cells: titles above, headers of one or two rows, units, notes below, tables beside each other."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from gumption.core.model.catalogue import Note
from gumption.intake.grid import (
    Rows,
    cell_at,
    cells_between,
    column_kinds,
    filled_cells,
    first_cell,
    kind_of_cell,
    usual_width,
)
from gumption.intake.heads import (
    MOST_GROUP_ROWS,
    column_names,
    descriptions_below,
    find_header,
    is_group_row,
    is_second_header,
    joined_names,
    units_below,
)

_NOTE = re.compile(
    r"^(source|sources|quelle|notes?|nb|n\.b|footnote|generated|exported|printed|created|report|run (on|at)|as (of|at)|end of|page|"
    r"copyright|disclaimer|prepared|data (from|as|source|provided)|last (updated|refreshed)|updated|confidential|all figures|figures|"
    r"rows?( count)?:|records?:|\d[\d,]* (rows?|records?)|total (rows|records)|stand|erstellt|filters?|values?)\b|^[*†‡©#¹²]|^\(\d[\d,]* (rows?|records?)( affected)?\)|^\(\d\)|^\[\d\]|^\d\) ",
    re.I,
)


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


def _is_loose(
    rows: Rows, start: int, end: int, groups: list[list[tuple[int, int]]], segments: list[tuple[int, int]]
) -> bool:
    """True for titles and notes: a few rows with a cell or two, beside a table that is wider."""
    widest = max(usual_width(rows, s, e) for s, e in segments)
    most = max(filled_cells(rows[i]) for i in range(start, end))
    if widest <= 1:
        # A single column: only what is plainly a remark is loose.
        return bool(groups) and all(_NOTE.search(first_cell(rows[i])) for i in range(start, end))
    if most <= 1 and (end - start <= 12 or widest > 2):
        return True
    if (
        not groups
        and most < widest
        and end - start <= 8
        and sum(filled_cells(rows[i]) > 1 for i in range(start, end)) <= 1
    ):
        return True
    if most == 2 and widest > 3 and end - start <= 8:
        return not groups or all(
            _NOTE.search(first_cell(rows[i])) or kind_of_cell(first_cell(rows[i])) == "text" for i in range(start, end)
        )
    firsts = [first_cell(rows[i]) for i in range(start, end)]
    if not groups and most <= 2 and end - start <= 12 and all(f.endswith(":") for f in firsts):
        return True
    if groups and all(_NOTE.search(first_cell(rows[i])) for i in range(start, end)):
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
    head = next((i for i in range(start, min(end, start + 3)) if filled_cells(rows[i]) > 1), end)
    places = [p for p, c in enumerate(rows[head]) if c] if head < end else []
    if end - head < 3 or any(kind_of_cell(rows[head][p]) != "text" or rows[head][p].endswith(":") for p in places):
        return False
    alike = [i for i in range(head + 1, end) if sum(bool(cell_at(rows[i], p)) for p in places) > 0.5 * len(places)]
    below = column_kinds(rows, head + 1, end, places)
    typed = any(kind in ("number", "date", "code") and share >= 0.7 for kind, share in below.values())
    return typed and len(alike) >= max(2, 0.6 * (end - head - 1))


def _starts_table(rows: Rows, start: int, end: int, before: list[tuple[int, int]]) -> bool:
    """True where a run of rows has a header of its own, other than that of the table above."""
    if end - start < 2:
        return False
    first = rows[start]
    if filled_cells(first) == 1 and end - start > 2 and filled_cells(rows[start + 1]) > 1:
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
    below = column_kinds(rows, start + 1, end, places)
    differing = [p for p in places if below[p][0] in ("number", "date", "code") and below[p][1] >= 0.7]
    top, bottom = before[0][0], before[-1][1]
    above = column_kinds(rows, top + 1, bottom, places)
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
    used = [any(cell_at(rows[i], p) for i in range(top, bottom)) for p in range(width)]
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
            filled = [i for i in range(top, bottom) if any(cell_at(rows[i], p) for p in range(start, gap))]
            parts.append((start, gap, filled[0], filled[-1] + 1))
        start = gap + 1
    if any(b - a < 2 or high - low < 2 for a, b, low, high in parts):
        return whole
    ends = {high for _, _, _, high in parts}
    headers = [{c.lower() for c in rows[low][a:b] if c} for a, b, low, _ in parts]
    repeated = any(headers[i] & headers[j] for i in range(len(parts)) for j in range(i))
    titled = all(filled_cells(rows[low][a:b]) == 1 for a, b, low, _ in parts)
    return parts if len(ends) > 1 or repeated or titled else whole


def _block(
    rows: Rows, top: int, bottom: int, left: int, right: int, titles: list[tuple[int, int]], declined: frozenset[str]
) -> Block | None:
    part = [cells_between(rows[i], left, right) for i in range(top, bottom)]
    if len(part) == 1 and not any(kind_of_cell(c) in ("number", "date", "code") for c in part[0]):
        return None
    place, has_header = find_header(part)
    if "header" in declined:
        place, has_header = (
            next((i for i in range(len(part)) if filled_cells(part[i]) >= 0.5 * (right - left)), 0),
            False,
        )
    if "titles" in declined:
        place = 0
    notes: list[Note] = []
    above = [first_cell(rows[r]) for s, e in titles for r in range(s, e)]
    above += [first_cell(part[i]) for i in range(place) if any(part[i])]
    header_rows = [part[place]] if has_header else []
    second = False
    if has_header and "two_headers" not in declined:
        upper = place
        while upper and place - upper < MOST_GROUP_ROWS and is_group_row(part, upper - 1, upper):
            upper -= 1
            header_rows.insert(0, part[upper])
            if above:
                above.pop()
            second = True
        if not second and is_second_header(part, place):
            header_rows.append(part[place + 1])
            second = True
    body = place + (1 if has_header else 0)
    if second and len(header_rows) == 2 and header_rows[1] is not part[place]:
        body += 1
    units: list[str | None] = [None] * (right - left)
    if has_header and "units" not in declined and (told := units_below(part, body)) is not None:
        units, body = told, body + 1
        while body < len(part) and not any(part[body]):
            body += 1
        listed = ", ".join(dict.fromkeys(u for u in units if u))
        notes.append(Note(act="The row of units under the header was taken off", key="units", rows=1, detail=listed))
    described: list[str] = [""] * (right - left)
    if has_header and "described" not in declined and (told_words := descriptions_below(part, body)) is not None:
        described, body = told_words, body + 1
        examples = tuple(d[:80] for d in described if d)[:3]
        act = "The row under the header describes the columns and was taken off"
        notes.append(Note(act=act, key="described", rows=1, examples=examples))
    if body >= len(part):
        return None
    header = joined_names(header_rows) if has_header else [""] * (right - left)
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
    kept = [p for p in range(right - left) if header[p] or any(cell_at(r, p) for r in part[body:foot])]
    gone = right - left - len(kept)
    if gone:
        noun = "empty column was" if gone == 1 else "empty columns were"
        notes.append(Note(act=f"{gone} {noun} left out"))
    if not kept or foot <= body:
        return None
    names, name_notes = column_names([header[p] for p in kept], has_header)
    for n, p in enumerate(kept):
        if header[p] and not any(cell_at(r, p) for r in part[body:foot]) and foot - body > 1:
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


def _foot(part: list[list[str]], body: int) -> int:
    """The row behind the body: notes below it stand in one cell or two, say so, or are set apart."""
    usual = usual_width(part, body, len(part))
    end = len(part)
    if usual < 2:
        # In a single column of words a remark cannot be told from a value.
        if kind_of_cell(part[body][0]) == "text":
            return end
        while end > body + 1 and _NOTE.search(part[end - 1][0]) and len(part[end - 1][0]) > 12:
            end -= 1
        return end
    kinds = column_kinds(part, body, len(part), range(len(part[0])))
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
    texts = [first_cell(row) for row in rows if any(row)]
    many = len(texts)
    act = (
        "One line of notes below the table was left out"
        if many == 1
        else f"{many} lines of notes below the table were left out"
    )
    return Note(act=act, key="notes_below", rows=many, examples=tuple(t[:80] for t in texts[:3]))
