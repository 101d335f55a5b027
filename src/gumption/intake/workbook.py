"""Sheets of workbooks as grids of text; stored values only, nothing is calculated or fetched."""

from __future__ import annotations

import datetime as dt
import re
import zipfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from xml.etree import ElementTree

import python_calamine

from gumption.core.model.catalogue import Note
from gumption.intake.delimited import without_odd_characters
from gumption.intake.errors import UnreadableFile

ENDINGS = (".xlsx", ".xlsm", ".xls", ".xlsb", ".ods")
_MOST_CELLS = 60_000_000
_CHUNK = 1 << 22
_COMMON = frozenset((float, dt.date, dt.datetime))


@dataclass(frozen=True)
class Sheet:
    """A sheet as trimmed text, dates as ISO, with what was done to get it."""

    name: str
    rows: list[list[str]]
    alone: bool
    """True for the only sheet that is read."""
    shifted: bool
    """True where merged cells were filled, so that the file's own cells say less."""
    notes: tuple[Note, ...] = field(default=())


def broken(file: str) -> UnreadableFile:
    return UnreadableFile(
        file,
        "the workbook is broken or of a kind that cannot be read.",
        "Open it in your spreadsheet program and save it again as XLSX.",
    )


def sheets(path: Path, file: str, declined: frozenset[str] = frozenset()) -> Iterator[tuple[float, Sheet]]:
    """Each visible sheet with how far the reading is, 0 to 1. Raises UnreadableFile."""
    locked = UnreadableFile(file, "the workbook is protected by a password.", "Save a copy without one and send that.")
    if _is_encrypted(path):
        raise locked
    errors = _looked_over(path, file)
    try:
        workbook = python_calamine.CalamineWorkbook.from_path(str(path))
        metadata = list(workbook.sheets_metadata)
    except python_calamine.PasswordError as error:
        raise locked from error
    except UnreadableFile:
        raise
    except BaseException as error:
        if isinstance(error, (KeyboardInterrupt, SystemExit, MemoryError)):
            raise
        raise broken(file) from error
    worksheets = [m for m in metadata if m.typ == python_calamine.SheetTypeEnum.WorkSheet]
    hidden = [m.name for m in worksheets if m.visible != python_calamine.SheetVisibleEnum.Visible]
    visible = [m.name for m in worksheets if "hidden_sheets" in declined or m.name not in hidden]
    if not visible:
        visible, hidden = hidden, []
    left_out: tuple[Note, ...] = ()
    if hidden and "hidden_sheets" not in declined:
        noun = "A hidden sheet was" if len(hidden) == 1 else f"{len(hidden)} hidden sheets were"
        left_out = (
            Note(act=f"{noun} not read: {', '.join(hidden[:4])}", key="hidden_sheets", examples=tuple(hidden[:3])),
        )
    for number, name in enumerate(visible):
        yield (
            number / len(visible),
            _sheet(
                workbook,
                name,
                file,
                declined,
                errors.get(name, 0),
                left_out if number == 0 else (),
                len(visible) == 1,
            ),
        )


def _sheet(
    workbook: python_calamine.CalamineWorkbook,
    name: str,
    file: str,
    declined: frozenset[str],
    errors: int,
    left_out: tuple[Note, ...],
    alone: bool,
) -> Sheet:
    try:
        sheet = workbook.get_sheet_by_name(name)
        if sheet.total_height * max(sheet.total_width, 1) > 40 * _MOST_CELLS:
            raise _too_wide(file, name)
        cells = sheet.to_python(skip_empty_area=False)
        merged = sheet.merged_cell_ranges or []
    except UnreadableFile:
        raise
    except BaseException as error:
        # The reader is written in another language; its panics are no Exception.
        if isinstance(error, (KeyboardInterrupt, SystemExit, MemoryError)):
            raise
        raise UnreadableFile(
            file,
            f"the sheet “{name}” is broken.",
            "Open it in your spreadsheet program and save it again as XLSX.",
        ) from error
    odd = 0
    # The same numbers and dates stand often; a text made once is a text looked up after.
    known: dict[object, str] = {}
    rows: list[list[str]] = []
    for row in cells:
        texts = []
        for value in row:
            if type(value) is str:
                if value and not value.isascii():
                    value, note = without_odd_characters(value)
                    odd += note is not None
                texts.append(value.strip())
            elif type(value) in _COMMON:
                text = known.get(value)
                if text is None:
                    text = known[value] = _text(value)
                texts.append(text)
            else:
                texts.append(_text(value))
        rows.append(texts)
    notes = list(left_out)
    if odd:
        notes.append(Note(act=f"{odd:,} cells had non-breaking spaces or invisible characters, made plain", rows=odd))
    filled = 0
    if "merged" not in declined:
        filled = _fill_merged(rows, merged)
    if filled:
        notes.append(Note(act=f"{filled:,} cells of merged ranges took the value they show", key="merged", rows=filled))
    if errors:
        noun = "formula gave an error and is" if errors == 1 else "formulas gave an error and are"
        notes.append(Note(act=f"{errors:,} {noun} missing", rows=errors, caution=True))
    return Sheet(name, rows, alone, bool(filled), tuple(notes))


def _too_wide(file: str, sheet: str) -> UnreadableFile:
    return UnreadableFile(
        file,
        f"the sheet “{sheet}” claims more cells than can be read.",
        "Delete its empty rows and columns in your spreadsheet program and save it again.",
    )


def _fill_merged(rows: list[list[str]], merged: list[tuple[tuple[int, int], tuple[int, int]]]) -> int:
    """Cells merged downwards all take the value; across, only the first has it, as a title would."""
    filled = 0
    for (top, left), (bottom, right) in merged:
        if bottom == top or top >= len(rows) or left >= len(rows[top]) or not rows[top][left]:
            continue
        if bottom - top > 100_000:
            continue
        value = rows[top][left]
        # A label in the header that spans two rows is one name, not two.
        if top <= 1 and bottom - top == 1 and left == right:
            continue
        for row in range(top + 1, min(bottom + 1, len(rows))):
            if left < len(rows[row]) and not rows[row][left]:
                rows[row][left] = value
                filled += 1
    return filled


def _is_encrypted(path: Path) -> bool:
    """True for a workbook inside an encrypted container: a compound file with a stream of that name (MS-OFFCRYPTO 1.3.2)."""
    with path.open("rb") as stream:
        return stream.read(8).startswith(b"\xd0\xcf\x11\xe0") and "EncryptedPackage".encode("utf-16-le") in stream.read(
            1 << 20
        )


def _text(value: object) -> str:
    if value is None or value == "":
        return ""
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, float):
        if value.is_integer() and abs(value) < 1e15:
            return str(int(value))
        # Fifteen digits are what spreadsheets keep; more is the noise of binary fractions.
        return f"{value:.15g}"
    if isinstance(value, dt.datetime):
        return value.date().isoformat() if value.time() == dt.time() else value.isoformat(sep=" ", timespec="seconds")
    if isinstance(value, dt.timedelta):
        seconds = round(value.total_seconds())
        sign = "-" if seconds < 0 else ""
        seconds = abs(seconds)
        return f"{sign}{seconds // 3600}:{seconds // 60 % 60:02d}:{seconds % 60:02d}"
    if isinstance(value, dt.time):
        return value.isoformat(timespec="seconds")
    return str(value)


_FAR = re.compile(rb'<c r="([A-Z]{3})(\d+)"')
_ROW = re.compile(rb'<row [^>]*?r="(\d+)"')


def _looked_over(path: Path, file: str) -> dict[str, int]:
    """Formula errors by sheet, for the kinds of workbook that tell; refuses sheets that claim too many cells."""
    if not zipfile.is_zipfile(path):
        return {}
    found: dict[str, int] = {}
    try:
        with zipfile.ZipFile(path) as archive:
            for name, member in _members(archive).items():
                last, widest, errors, rest = 0, 0, 0, b""
                with archive.open(member) as stream:
                    while chunk := stream.read(_CHUNK):
                        text = rest + chunk
                        errors += text.count(b't="e"')
                        widest = max(widest, *(_column_number(m[1]) for m in _FAR.finditer(text)), 0)
                        if (place := text.rfind(b"<row ")) >= 0 and (row := _ROW.match(text, place)):
                            last = max(last, int(row[1]))
                        rest = chunk[-200:] if b't="e"' not in chunk[-200:] else b""
                if last > 1_048_576 or last * max(widest, 1) > _MOST_CELLS * 4:
                    raise _too_wide(file, name)
                found[name] = errors
    except (
        zipfile.BadZipFile,
        OSError,
        EOFError,
        NotImplementedError,
        RuntimeError,
        ElementTree.ParseError,
        ValueError,
        zlib.error,
    ) as error:
        raise broken(file) from error
    return found


def _column_number(letters: bytes) -> int:
    number = 0
    for letter in letters:
        number = 26 * number + letter - 64
    return number


def _members(archive: zipfile.ZipFile) -> dict[str, str]:
    """The parts of an XLSX file that hold sheets, by the sheet's name (ECMA-376 part 1, 18.2.20)."""
    names = set(archive.namelist())
    if "xl/workbook.xml" not in names or "xl/_rels/workbook.xml.rels" not in names:
        return {}
    relations = ElementTree.fromstring(archive.read("xl/_rels/workbook.xml.rels"))
    targets = {r.get("Id"): (r.get("Target") or "").lstrip("/") for r in relations}
    found = {}
    for sheet in ElementTree.fromstring(archive.read("xl/workbook.xml")).iter():
        if not sheet.tag.endswith("}sheet"):
            continue
        identifier = next((v for k, v in sheet.attrib.items() if k.endswith("}id")), None)
        target = targets.get(identifier, "")
        member = target if target.startswith("xl/") else f"xl/{target}"
        if member in names and target.endswith(".xml"):
            found[sheet.get("name") or ""] = member
    return found
