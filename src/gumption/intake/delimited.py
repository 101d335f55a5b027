"""Delimited text: its encoding, its delimiter, and where its header stands."""

from __future__ import annotations

import codecs
import csv
import io
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from charset_normalizer import from_bytes

from gumption.intake.errors import UnreadableFile

SAMPLE_BYTES = 1 << 18
_CHUNK = 1 << 22
DELIMITERS = (",", ";", "\t", "|")


@dataclass(frozen=True)
class TextShape:
    """How the text is laid out; `path` is a UTF-8 file, the original or a copy made beside it."""

    path: Path
    encoding: str
    delimiter: str
    quoted: bool
    header_row: int
    """Lines above the header."""
    header: tuple[str, ...]
    has_header: bool


def sniff(path: Path, file: str, scratch: Path) -> TextShape:
    """The layout of a text file. Raises UnreadableFile where it is no table."""
    with path.open("rb") as stream:
        sample = stream.read(SAMPLE_BYTES)
    if not sample.strip():
        raise UnreadableFile(file, "the file is empty.", "Export it again, or send another file.")
    encoding = _encoding(path, sample, file)
    if encoding != "utf-8":
        path = _as_utf8(path, encoding, scratch)
        with path.open("rb") as stream:
            sample = stream.read(SAMPLE_BYTES)
    text = codecs.getincrementaldecoder("utf-8-sig")("replace").decode(sample)
    complete = text if len(sample) < SAMPLE_BYTES else text[: text.rfind("\n") + 1] or text
    delimiter = _delimiter(complete)
    rows = list(csv.reader(io.StringIO(complete, newline=""), delimiter=delimiter))[:300]
    place = header_place(rows)
    header = tuple(rows[place])
    if len(header) < 3 and delimiter == "," and _looks_like_prose(header, rows):
        raise UnreadableFile(
            file, "no table could be found in it.", "It needs columns parted by commas, semicolons, tabs or bars."
        )
    has_header = is_header(rows, place)
    if has_header and place + 1 >= len([r for r in rows if any(c.strip() for c in r)]) and len(rows) <= place + 1:
        raise UnreadableFile(file, "there is a header but no row below it.", "Export it again with its rows.")
    return TextShape(path, encoding, delimiter, '"' in complete, place, header, has_header)


def _encoding(path: Path, sample: bytes, file: str) -> str:
    if sample.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        return "utf-16"
    if b"\x00" in sample:
        raise UnreadableFile(file, "this is not text, nor a workbook that can be read.", "Send it as CSV or XLSX.")
    decoder = codecs.getincrementaldecoder("utf-8")("strict")
    try:
        with path.open("rb") as stream:
            while chunk := stream.read(_CHUNK):
                decoder.decode(chunk)
            decoder.decode(b"", final=True)
        return "utf-8"
    except UnicodeDecodeError:
        guess = from_bytes(sample, cp_isolation=["cp1252", "iso8859_1", "mac_roman"]).best()
        return "cp1252" if guess is None or guess.encoding == "iso8859_1" else guess.encoding


def _as_utf8(path: Path, encoding: str, scratch: Path) -> Path:
    copy = scratch / f"{path.stem}.utf8.txt"
    with (
        path.open(encoding=encoding, errors="replace", newline="") as source,
        copy.open("w", encoding="utf-8", newline="") as target,
    ):
        while chunk := source.read(_CHUNK):
            target.write(chunk)
    return copy


def _delimiter(text: str) -> str:
    """The delimiter that parts most rows into the same number of fields, more than one."""
    best, best_score = ",", 0.0
    for delimiter in DELIMITERS:
        widths = Counter(len(row) for row in csv.reader(io.StringIO(text, newline=""), delimiter=delimiter) if row)
        width, rows = max(widths.items(), key=lambda pair: (pair[1] if pair[0] > 1 else 0, pair[0]))
        score = rows / sum(widths.values()) + 0.001 * width if width > 1 else 0.0
        if score > best_score + 1e-9:
            best, best_score = delimiter, score
    return best


def header_place(rows: list[list[str]]) -> int:
    """The first row as wide as most rows are: titles above are narrower."""
    filled = [sum(1 for cell in row if cell.strip()) for row in rows]
    usual = Counter(len(row) for row in rows if any(c.strip() for c in row)).most_common(1)[0][0]
    for place, row in enumerate(rows):
        if len(row) >= usual and filled[place] >= max(1, 0.6 * usual):
            return place
    return next(i for i, n in enumerate(filled) if n)


def is_header(rows: list[list[str]], place: int) -> bool:
    """True where the row names columns: no cell of it is a number or date, or none of the rows below differ in kind."""
    top = [cell.strip() for cell in rows[place]]
    return not any(_valued(cell) for cell in top if cell and not _year(cell)) and any(top)


def _valued(cell: str) -> bool:
    return cell.replace(".", "", 1).replace(",", "").replace("-", "").replace("/", "").replace(":", "").isdigit()


def _year(cell: str) -> bool:
    return cell.isdigit() and len(cell) == 4 and "1900" <= cell <= "2100"


def _looks_like_prose(header: tuple[str, ...], rows: list[list[str]]) -> bool:
    """True where the header and most lines are sentences or markup."""

    def sentence(row: Sequence[str]) -> bool:
        line = " ".join(row)
        return len(line.split()) > 6 or "<" in line or "{" in line

    filled = [row for row in rows if row]
    return sentence(header) and sum(map(sentence, filled)) > 0.5 * len(filled)
