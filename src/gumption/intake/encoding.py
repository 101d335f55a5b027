"""Which encoding a text file is in, told from its bytes."""

from __future__ import annotations

import codecs
from pathlib import Path

from charset_normalizer import from_bytes

_CHUNK = 1 << 22
_SINGLE = ("cp1252", "mac_roman", "cp850")
_LETTERS = set("àáâãäåæçèéêëìíîïñòóôõöøùúûüýÿßœšžÀÁÂÃÄÅÆÇÈÉÊËÌÍÎÏÑÒÓÔÕÖØÙÚÛÜÝŒŠŽ")
_MARKS = set("£€°²³½¼¾–—‘’“”…·©®µ«»§¿¡\u00a0")


class NotText(Exception):
    """The bytes are no text."""


def encoding_of(path: Path, sample: bytes, *, whole: bool = True) -> str:
    """The file's encoding as Python names it; "utf-8" with or without a mark in front. Raises NotText.

    Without `whole`, a file whose sample is UTF-8 is taken to be so all through.
    """
    if sample.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        return "utf-16"
    if wide := _utf16_without_mark(sample):
        return wide
    if sample.count(b"\x00") > 0.001 * len(sample) or sample[:8].startswith(
        (b"\x89PNG", b"GIF8", b"%PDF", b"\xff\xd8\xff")
    ):
        raise NotText
    decoder = codecs.getincrementaldecoder("utf-8")("strict")
    try:
        if not whole:
            decoder.decode(sample)
            return "utf-8"
        with path.open("rb") as stream:
            while chunk := stream.read(_CHUNK):
                decoder.decode(chunk)
            decoder.decode(b"", final=True)
        return "utf-8"
    except UnicodeDecodeError:
        return _other(path, sample)


def _utf16_without_mark(sample: bytes) -> str | None:
    head = sample[: 2 * (min(len(sample), 4000) // 2)]
    if len(head) < 8:
        return None
    even, odd = head[::2].count(0), head[1::2].count(0)
    half = len(head) / 2
    if odd > 0.4 * half and even < 0.05 * half:
        return "utf-16-le"
    if even > 0.4 * half and odd < 0.05 * half:
        return "utf-16-be"
    return None


def _other(path: Path, sample: bytes) -> str:
    with path.open("rb") as stream:
        around = bytearray()
        while chunk := stream.read(_CHUNK):
            # Only the lines with letters beyond ASCII tell anything.
            for line in chunk.splitlines():
                if any(b > 127 for b in line):
                    around += line[:400] + b"\n"
                if len(around) > 200_000:
                    break
            if len(around) > 200_000:
                break
    text = bytes(around) or sample
    lenient = text.decode("utf-8", errors="replace")
    high = sum(1 for c in lenient if ord(c) > 127 and c != "\ufffd")
    if high > 5 * lenient.count("\ufffd"):
        return "utf-8"
    scores = {name: _score(text, name) for name in _SINGLE}
    best = max(_SINGLE, key=lambda name: scores[name])
    if scores[best] > 0:
        return best
    guess = from_bytes(text).best()
    return "cp1252" if guess is None else guess.encoding


def _score(text: bytes, encoding: str) -> float:
    """How much like western words and prices the text reads: letters among letters, signs beside digits."""
    try:
        decoded = text.decode(encoding)
    except UnicodeDecodeError:
        decoded = text.decode(encoding, errors="replace")
    score = 0.0
    last = len(decoded) - 1
    for place, char in enumerate(decoded):
        if ord(char) < 128:
            continue
        before = decoded[place - 1] if place else " "
        after = decoded[place + 1] if place < last else " "
        if char in _LETTERS:
            fits = (before.isalpha() or after.isalpha()) and not (char.isupper() and before.islower())
            score += 3 if fits else -2
        elif char in "£€":
            score += 3 if after.isdigit() or before.isdigit() or after == " " or before in " (" else -1
        elif char in _MARKS:
            score += 1
        else:
            score -= 3
    return score
