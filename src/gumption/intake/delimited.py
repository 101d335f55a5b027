"""Delimited text: its encoding, its delimiter, and its rows as cells, faults in quoting and all."""

from __future__ import annotations

import csv
import io
import re
from collections import Counter
from dataclasses import dataclass, field
from pathlib import Path

from gumption.core.model.catalogue import Note
from gumption.intake.encoding import NotText, encoding_of
from gumption.intake.errors import UnreadableFile
from gumption.intake.furniture import page_lines, page_note, without_remarks

SAMPLE_BYTES = 1 << 18
_CHUNK = 1 << 22
DELIMITERS = (",", ";", "\t", "|")
_RARE_DELIMITERS = ("^", "~", ":", "¦", "§", "\x1f", "\x01")
_ODD_SPACES = {0xA0: " ", 0x202F: " ", 0x2007: " ", 0x2009: " ", 0x3000: " "}
_NOTHINGS = dict.fromkeys((*range(9), 11, 12, *range(14, 31), 127, 8203, 8204, 8205, 65279, 173))
_ODD = re.compile("[" + "".join(re.escape(chr(c)) for c in (*_ODD_SPACES, *_NOTHINGS)) + "]")
_RULE = re.compile(r"[-=+_:~*. ]*[-=_]{2,}[-=+_:~*. ]*")
_QUOTED_BREAK = 40
"""Lines that a quoted cell may span before its first quote is taken for a stray one."""

csv.field_size_limit(1 << 27)


@dataclass(frozen=True)
class TextRows:
    """A text file's rows of trimmed cells, with what had to be done to get them."""

    rows: list[list[str]]
    encoding: str
    delimiter: str
    """One character, or "aligned" for columns that line up by spaces."""
    plain: bool
    """True where any CSV reader gets the same rows."""
    quoted: bool
    notes: tuple[Note, ...] = field(default=())


def without_odd_characters(text: str) -> tuple[str, Note | None]:
    """The text with plain spaces and no control characters, and a note where there were others."""
    found = _ODD.findall(text.lstrip("\ufeff"))
    if not found:
        return text.lstrip("\ufeff"), None
    clean = text.translate({**_ODD_SPACES, **_NOTHINGS})
    spaces = sum(ord(c) in _ODD_SPACES for c in found)
    parts = []
    if spaces:
        parts.append(f"{spaces:,} non-breaking {'space' if spaces == 1 else 'spaces'} made plain")
    if len(found) > spaces:
        other = len(found) - spaces
        parts.append(f"{other:,} invisible or control {'character' if other == 1 else 'characters'} taken away")
    return clean, Note(act=" and ".join(parts).capitalize(), about="odd characters", rows=len(found))


def decoded(path: Path, file: str) -> tuple[str, str, list[Note]]:
    """The file's text and its encoding. Raises UnreadableFile where it is no text."""
    content = path.read_bytes()
    try:
        encoding = encoding_of(path, content[:SAMPLE_BYTES])
    except NotText as error:
        raise UnreadableFile(
            file, "this is not text, nor a workbook that can be read.", "Send it as CSV or XLSX."
        ) from error
    text = content.decode("utf-8-sig" if encoding == "utf-8" else encoding, errors="replace")
    notes = []
    if encoding != "utf-8":
        notes.append(Note(act=f"Read as {encoding_words(encoding)} text"))
    lost = text.count("\ufffd")
    if lost:
        notes.append(
            Note(
                act=f"{lost:,} {'byte is' if lost == 1 else 'bytes are'} no letter in {encoding_words(encoding)}",
                caution=True,
                rows=lost,
            )
        )
    text, odd = without_odd_characters(text)
    return text, encoding, [*notes, odd] if odd else notes


def encoding_words(encoding: str) -> str:
    return {
        "cp1252": "Windows-1252",
        "mac_roman": "Mac Roman",
        "utf-16": "UTF-16",
        "utf-16-le": "UTF-16",
        "utf-16-be": "UTF-16",
        "cp850": "DOS (850)",
    }.get(encoding, encoding)


def as_utf8(path: Path, encoding: str, scratch: Path) -> Path:
    """A copy of a long file as plain UTF-8."""
    copy = scratch / "utf8.txt"
    with (
        path.open(encoding=encoding, errors="replace", newline="") as source,
        copy.open("w", encoding="utf-8", newline="") as target,
    ):
        while chunk := source.read(_CHUNK):
            target.write(chunk)
    return copy


def rows_of_text(text: str, file: str, *, cut: bool = False, declined: frozenset[str] = frozenset()) -> TextRows:
    """The rows of a text; `cut` where it is only the beginning of a longer one, which then keeps its remarks and pages.

    Acts that a person undid are `declined`. Raises UnreadableFile where it is no table.
    """
    if not text.strip():
        raise UnreadableFile(file, "the file is empty.", "Export it again, or send another file.")
    text = text.replace("\r\n", "\n").replace("\r", "\n")
    if cut:
        text = text[: text.rfind("\n") + 1] or text
    notes: list[Note] = []
    first, _, rest = text.partition("\n")
    told = re.fullmatch(r'"?sep=(.)"?', first.strip("\ufeff ").lower() if len(first) < 10 else "")
    plain = told is None
    if told is not None:
        text = rest
    if not cut:
        text, left_out = _without_furniture(text, declined)
        notes += left_out
        plain = plain and not left_out
    sample = _sample(text)
    delimiter = told[1] if told else delimiter_of(sample)
    if delimiter is None:
        aligned = _aligned(text)
        if aligned is not None:
            notes.append(Note(act="Columns were told apart by where they line up"))
            return TextRows(aligned, "utf-8", "aligned", False, False, tuple(notes))
        delimiter = " " if _parted_by_spaces(sample) else ","
    rows, faults = _parsed(text, delimiter)
    if faults:
        notes.append(
            Note(
                act=f"Faults in quoting on {len(faults):,} {'line' if len(faults) == 1 else 'lines'} were read as meant",
                rows=len(faults),
                examples=tuple(f[:80] for f in faults[:3]),
            )
        )
    ruled = [row for row in rows if any(row) and all(not c or _RULE.fullmatch(c) for c in row) and len(row) > 1]
    lined = [row for row in rows if len(row) == 1 and re.fullmatch(r"[-=+]{4,}", row[0])]
    if ruled or lined:
        rows = [row for row in rows if row not in ruled and row not in lined]
        many = len(ruled) + len(lined)
        act = "One ruled line was skipped" if many == 1 else f"{many} ruled lines were skipped"
        notes.append(Note(act=act, rows=many))
    if delimiter == "|":
        rows, edged = _without_edges(rows)
        plain = plain and not edged
    if told is not None:
        notes.append(
            Note(act="The first line only names the delimiter and was skipped", about="delimiter line", rows=1)
        )
    plain = plain and not faults and not ruled and not lined
    return TextRows(rows, "utf-8", delimiter, plain, '"' in text, tuple(notes))


def _without_furniture(text: str, declined: frozenset[str]) -> tuple[str, list[Note]]:
    notes: list[Note] = []
    if "remarks" not in declined:
        text, note = without_remarks(text, lambda rest: delimiter_of(_sample(rest)))
        notes += [note] if note is not None else []
    lines = text.split("\n")
    pages = page_lines(lines) if "pages" not in declined else set()
    if pages:
        text = "\n".join(line for place, line in enumerate(lines) if place not in pages)
        notes.append(page_note(sum(bool(lines[place].strip()) for place in pages)))
    return text, notes


def _sample(text: str) -> str:
    if len(text) <= SAMPLE_BYTES:
        return text
    head = text[:SAMPLE_BYTES]
    return head[: head.rfind("\n") + 1] or head


def delimiter_of(text: str) -> str | None:
    """The delimiter that parts most lines into the same number of whole cells; None where none does."""
    best, best_score = None, 0.0
    lines = text.splitlines()
    for delimiter in (*DELIMITERS, *_RARE_DELIMITERS):
        if delimiter not in text:
            continue
        parsed = [
            row for row in csv.reader(io.StringIO(text, newline=""), delimiter=delimiter) if any(c.strip() for c in row)
        ]
        if not parsed:
            continue
        widths = Counter(len(row) for row in parsed)
        width, rows = max(widths.items(), key=lambda pair: ((pair[0] > 1) * pair[1] * min(pair[0], 4), pair[0]))
        if width == 1:
            continue
        usual = [row for row in parsed if len(row) == width][:400]
        cells = [c for row in usual for c in row]
        rivals = set(DELIMITERS) - {delimiter, ","}
        whole = sum(not any(r in c for r in rivals) for c in cells) / len(cells)
        padded = sum(c[:1] == " " for row in usual for c in row[1:]) / max(len(cells), 1)
        if delimiter == "," and rows < sum(widths.values()) and all(c[:1] == " " for row in usual for c in row[1:]):
            # Commas that blanks follow, and not on every line, are those of running text.
            continue
        score = rows / len(parsed) * whole * (1 - 0.3 * padded) + 0.002 * min(width, 30)
        if delimiter in _RARE_DELIMITERS:
            steady = rows / len(parsed) > 0.95 and len(parsed) > 2
            score = score - 0.25 if steady else 0.0
            if delimiter == ":" and re.search(r"\d:\d\d", text):
                score = 0.0
        if (
            delimiter == ","
            and width == 2
            and all(re.search(r"\d,\d", ln) or "," not in ln for ln in lines[1:200])
            and not re.search(",", lines[0])
        ):
            score = 0.0
        if score > best_score + 1e-9:
            best, best_score = delimiter, score
    return best if best_score > 0.3 else None


def _parted_by_spaces(text: str) -> bool:
    """True where single blanks part every line into as many words, and most are numbers."""
    rows = [line.split() for line in text.splitlines() if line.strip()]
    if len(rows) < 3 or len({len(r) for r in rows}) != 1 or len(rows[0]) < 2:
        return False
    cells = [c for r in rows[1:] for c in r]
    return sum(c[:1].isdigit() or c[:1] in "-+." for c in cells) >= 0.5 * len(cells)


def _aligned(text: str) -> list[list[str]] | None:
    """Cells of columns that line up: places that are blank on every line, at least two wide."""
    lines = [line.expandtabs(8).rstrip() for line in text.split("\n")]
    body = [line for line in lines if line.strip() and not _RULE.fullmatch(line.strip())]
    if len(body) < 2:
        return None
    ruled = [line for line in lines if re.fullmatch(r"\s*-{2,}(\s+-{2,})+\s*", line)]
    if ruled:
        spans = [m.span() for m in re.finditer(r"-+", ruled[0])]
        starts = [s for s, _ in spans]
        rows = [line for line in lines if line.strip() and not _RULE.fullmatch(line.strip())]
        return [[line[a:b].strip() for a, b in zip(starts, [*starts[1:], None], strict=True)] for line in rows]
    split = [re.split(r"\s{2,}", line.strip()) for line in body]
    width = Counter(len(s) for s in split).most_common(1)[0][0]
    if not any(c.isdigit() for c in body[0]):
        # A header of words tells the columns better than rows whose cells may touch.
        width = max(width, len(split[0]))
    wide = [line for line, s in zip(body, split, strict=True) if len(s) >= max(2, width - 1)]
    if width < 2 or len(wide) < 2 or len(wide) < 0.5 * len(body):
        return None
    longest = max(map(len, wide))
    blank = [all(len(line) <= i or line[i] == " " for line in wide) for i in range(longest)]
    gaps = [m.span() for m in re.finditer(r"1+", "".join("1" if b else "0" for b in blank)) if m.start() > 0]
    inner = [g for g in gaps if g[1] < longest]
    parting = [g for g in inner if g[1] - g[0] >= 2 or len(inner) + 1 <= width]
    if len(parting) + 1 < width:
        if sum(len(s) == width for s in split) >= 0.9 * len(split):
            return split
        return None
    parted: list[list[str]] = []
    for line in body:
        # Units and other short lines may lean into a gap; each is cut at a blank of its own within it.
        cuts = [max((i for i in range(a, b) if line[i : i + 1] in ("", " ")), default=-2) + 1 for a, b in parting]
        cells = [line[a:b].strip() for a, b in zip([0, *cuts], [*cuts, None], strict=True)]
        whole = min(cuts) > 0 and sum(map(bool, cells)) > 1
        parted.append(cells if whole else [line.strip()])
    return parted


def _without_edges(rows: list[list[str]]) -> tuple[list[list[str]], bool]:
    """Rows written between bars, without the empty cells at both ends."""
    wide = [row for row in rows if len(row) > 2]
    if not wide or any(row[0] or row[-1] for row in wide):
        return rows, False
    return [row[1:-1] if len(row) > 2 else row for row in rows], True


def _parsed(text: str, delimiter: str) -> tuple[list[list[str]], list[str]]:
    """Rows of trimmed cells, and the lines whose quotes had to be read as meant."""
    if '"' not in text:
        return [[c.strip() for c in line.split(delimiter)] for line in text.split("\n")], []
    try:
        strict = csv.reader(
            io.StringIO(text, newline=""), delimiter=delimiter, strict=True, skipinitialspace=delimiter != " "
        )
        rows = [[c.strip() for c in row] for row in strict]
        widths = Counter(map(len, rows))
        # A stray quote at the start of a cell swallows lines; then the rows are not alike any more.
        swallowed = any("\n" in c and c.count("\n") > _QUOTED_BREAK for row in rows for c in row)
        bare = any(c.startswith('"') or '"' + delimiter in c for row in rows for c in row)
        if not swallowed and not (bare and len(widths) > 1):
            return rows, []
    except csv.Error:
        pass
    return _lenient(text, delimiter)


def _lenient(text: str, delimiter: str) -> tuple[list[list[str]], list[str]]:
    """Rows of a text with faulty quotes: a quote ends a cell only before a delimiter or the line's end."""
    lines = text.split("\n")
    rows: list[list[str]] = []
    faults: list[str] = []
    mark = re.escape(delimiter)
    closing = re.compile(rf'((?:[^"]|""|\\"|"(?!\s*(?:{mark}|$)))*)"\s*(?={mark}|$)', re.S)
    width = Counter(line.count(delimiter) for line in lines if line).most_common(1)[0][0] + 1
    number = 0
    while number < len(lines):
        line = lines[number]
        row, fault, complete = _cells(line, delimiter, closing)
        spanned = 0
        if not complete:
            joined = line
            for further in range(1, _QUOTED_BREAK):
                if number + further >= len(lines):
                    break
                joined += "\n" + lines[number + further]
                tried, fault_there, whole = _cells(joined, delimiter, closing)
                if whole and len(tried) <= max(width, 2):
                    row, fault, spanned, complete = tried, fault_there, further, True
                    break
                if len(tried) > width:
                    break
        if fault or not complete:
            faults.append(line)
        rows.append(row)
        number += 1 + spanned
    return rows, faults


def _cells(line: str, delimiter: str, closing: re.Pattern[str]) -> tuple[list[str], bool, bool]:
    """The cells of one line; whether its quotes had a fault; whether all quoted cells were closed."""
    cells: list[str] = []
    place, fault, complete = 0, False, True
    while True:
        start = place
        while start < len(line) and line[start] == " " and delimiter != " ":
            start += 1
        if start < len(line) and line[start] == '"':
            found = closing.match(line, start + 1)
            if found is not None:
                inner = found[1]
                bare = inner.replace('""', "").replace('\\"', "")
                fault = fault or '"' in bare or '\\"' in inner
                cells.append(inner.replace('\\"', '"').replace('""', '"').strip())
                place = found.end()
            else:
                complete = False
        if start >= len(line) or line[start] != '"' or not complete:
            end = line.find(delimiter, place)
            end = len(line) if end < 0 else end
            cell = line[place:end].strip()
            if not complete:
                cell = cell.lstrip('"') if cell.count('"') == 1 else cell
            fault = fault or '"' in cell
            cells.append(cell)
            place = end
            if not complete:
                rest = line[end:]
                return [*cells, *(c.strip() for c in rest[1:].split(delimiter))] if rest else cells, True, False
        if place >= len(line) or line[place] != delimiter:
            if place < len(line):
                end = line.find(delimiter, place)
                end = len(line) if end < 0 else end
                cells[-1] += line[place:end]
                fault, place = True, end
                if place >= len(line):
                    return cells, fault, complete
            else:
                return cells, fault, complete
        place += 1
        if place > len(line):
            return cells, fault, complete
