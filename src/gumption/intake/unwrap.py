"""Files inside files: .gz and .zip opened, with an eye on what they claim to hold."""

from __future__ import annotations

import gzip
import re
import zipfile
import zlib
from dataclasses import dataclass
from pathlib import Path, PurePosixPath

from gumption.intake.errors import UnreadableFile

MOST_UNPACKED = 8_000_000_000
_MOST_RATIO = 150
_RATIO_FROM = 200_000_000
"""Bytes from which a file that grew more than the ratio counts as a trap."""
_MOST_MEMBERS = 500
_CHUNK = 1 << 20
_SKIPPED = re.compile(r"(^|/)(__MACOSX|\.|~\$)|(^|/)(thumbs\.db|desktop\.ini)$", re.I)


@dataclass(frozen=True)
class Piece:
    """One file to be read: where it stands, and what it is called."""

    path: Path
    name: str
    member: str = ""
    """Its name within an archive of several."""


def unwrapped(path: Path, file: str, scratch: Path) -> list[Piece]:
    """The file itself, or what its wrapping holds. Raises UnreadableFile for a trap or a broken wrapping."""
    with path.open("rb") as stream:
        magic = stream.read(4)
    if magic.startswith(b"\x1f\x8b"):
        return unwrapped(_gunzipped(path, file, scratch), file.removesuffix(".gz").removesuffix(".GZ"), scratch)
    if magic == b"PK\x03\x04" and not is_workbook(path, file):
        return _members(path, file, scratch)
    return [Piece(path, file)]


def is_workbook(path: Path, file: str) -> bool:
    """True for a zip that is a workbook: its parts say so. Raises UnreadableFile where it is a trap or broken."""
    try:
        with zipfile.ZipFile(path) as archive:
            names = set(archive.namelist())
            workbook = "[Content_Types].xml" in names or "mimetype" in names or any(n.startswith("xl/") for n in names)
            if workbook:
                _refuse_traps(archive, path, file)
            return workbook
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError) as error:
        if Path(file).suffix.lower() in (".xlsx", ".xlsb", ".ods", ".xlsm"):
            raise UnreadableFile(
                file,
                "the workbook is broken or of a kind that cannot be read.",
                "Open it in your spreadsheet program and save it again as XLSX.",
            ) from error
        raise UnreadableFile(file, "the archive is broken.", "Make it again, or send the files in it.") from error


def _refuse_traps(archive: zipfile.ZipFile, path: Path, file: str) -> None:
    unpacked = sum(info.file_size for info in archive.infolist())
    if unpacked > MOST_UNPACKED or (unpacked > _RATIO_FROM and unpacked > _MOST_RATIO * path.stat().st_size):
        raise UnreadableFile(
            file,
            f"it would unpack to {unpacked / 1e9:.1f} GB, far more than such a file should.",
            "Unpack it yourself and send what you need of it.",
        )


def _gunzipped(path: Path, file: str, scratch: Path) -> Path:
    target = scratch / "gunzipped"
    size, packed = 0, max(path.stat().st_size, 1)
    try:
        with gzip.open(path, "rb") as source, target.open("wb") as out:
            while chunk := source.read(_CHUNK):
                size += len(chunk)
                if size > MOST_UNPACKED or (size > _RATIO_FROM and size > _MOST_RATIO * packed):
                    raise UnreadableFile(
                        file, "it unpacks to far more than such a file should.", "Unpack it yourself and send that."
                    )
                out.write(chunk)
    except (OSError, EOFError, zlib.error) as error:
        raise UnreadableFile(
            file, "the .gz file is broken or cut short.", "Make it again, or send it unpacked."
        ) from error
    return target


def _members(path: Path, file: str, scratch: Path) -> list[Piece]:
    folder = scratch / "members"
    folder.mkdir()
    pieces: list[Piece] = []
    try:
        with zipfile.ZipFile(path) as archive:
            _refuse_traps(archive, path, file)
            wanted = [i for i in archive.infolist() if not i.is_dir() and not _SKIPPED.search(i.filename)]
            if len(wanted) > _MOST_MEMBERS:
                advice = f"Send at most {_MOST_MEMBERS} at a time."
                raise UnreadableFile(file, f"it holds {len(wanted)} files.", advice, found=len(wanted))
            for number, info in enumerate(wanted):
                name = PurePosixPath(info.filename.replace("\\", "/")).name
                if name.lower().endswith(".zip"):
                    raise UnreadableFile(
                        file, f"it holds another archive, {name}.", "Unpack that one first.", found=name
                    )
                inside = folder / str(number)
                _extract(archive, info, inside, file)
                if name.lower().endswith(".gz"):
                    below = folder / f"{number}.d"
                    below.mkdir()
                    inside, name = _gunzipped(inside, name, below), name[:-3]
                pieces.append(Piece(inside, name, info.filename if len(wanted) > 1 else ""))
    except (zipfile.BadZipFile, zlib.error, EOFError, OSError, NotImplementedError, ValueError) as error:
        raise UnreadableFile(file, "the archive is broken.", "Make it again, or send the files in it.") from error
    except RuntimeError as error:
        raise UnreadableFile(file, "the archive is protected by a password.", "Send it without one.") from error
    if not pieces:
        raise UnreadableFile(file, "there is no file in the archive.", "Make it again.")
    return pieces


def _extract(archive: zipfile.ZipFile, info: zipfile.ZipInfo, target: Path, file: str) -> None:
    """One member, no more of it than the archive says there is."""
    size = 0
    with archive.open(info) as source, target.open("wb") as out:
        while chunk := source.read(_CHUNK):
            size += len(chunk)
            if size > info.file_size + _CHUNK:
                raise UnreadableFile(file, "a file in it is larger than it claims to be.", "Make the archive again.")
            out.write(chunk)
