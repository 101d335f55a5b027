"""Pictures whose addresses stand in the data, fetched for whoever looks at them."""

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
    media = next((kind for begin, kind in _BEGIN.items() if content.startswith(begin)), None)
    if content[:4] == b"RIFF" and content[8:12] == b"WEBP":
        media = "image/webp"
    if media is None:
        raise UnreadableFile(address, "what is there is no picture.", "PNG, JPEG, GIF and WebP can be shown.")
    return Picture(content, media)
