"""Pictures that the data name: fetched from their addresses for whoever looks at them, or sent beside the data."""

from __future__ import annotations

import dataclasses
import tempfile
from dataclasses import dataclass
from pathlib import Path

from gumption.core.model.origin import FromAddress
from gumption.intake.errors import UnreadableFile
from gumption.intake.sources import Allowed, fetch

MOST_BYTES = 5_000_000
_BEGIN = {
    b"\x89PNG\r\n\x1a\n": "image/png",
    b"\xff\xd8\xff": "image/jpeg",
    b"GIF87a": "image/gif",
    b"GIF89a": "image/gif",
}
"""What each kind of picture begins with; what a server calls it does not count."""
_ENDINGS = {".png", ".jpg", ".jpeg", ".gif", ".webp"}


@dataclass(frozen=True)
class Picture:
    content: bytes
    media: str


def picture_at(address: str, allowed: Allowed) -> Picture:
    """The picture at an address of the outside, like all that is fetched. Raises UnreadableFile."""
    with tempfile.TemporaryDirectory() as folder:
        bound = dataclasses.replace(allowed, most_bytes=MOST_BYTES)
        path, _ = fetch(FromAddress(url=address), None, Path(folder), bound, lambda _what, _share: None)
        content = path.read_bytes()
    return Picture(content, _media_of(content, address))


def is_called_as_picture(file: str) -> bool:
    """True for the name of a file that is a picture by its ending."""
    return Path(file).suffix.lower() in _ENDINGS


def picture_in(path: Path, file: str) -> Picture:
    """The picture in a file that goes by the name `file`. Raises UnreadableFile."""
    if path.stat().st_size > MOST_BYTES:
        raise UnreadableFile(file, f"the picture is larger than {MOST_BYTES // 1_000_000} MB.", "Send a smaller one.")
    content = path.read_bytes()
    return Picture(content, _media_of(content, file))


def _media_of(content: bytes, whence: str) -> str:
    """What kind of picture it is by what it begins with. Raises UnreadableFile."""
    if content[:4] == b"RIFF" and content[8:12] == b"WEBP":
        return "image/webp"
    for begin, media in _BEGIN.items():
        if content.startswith(begin):
            return media
    raise UnreadableFile(whence, "what is there is no picture.", "PNG, JPEG, GIF and WebP can be shown.")
