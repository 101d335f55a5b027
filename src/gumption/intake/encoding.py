"""Which encoding a text file is in, told from its bytes."""

from __future__ import annotations

import codecs
import re
from pathlib import Path

import chardet

_CHUNK = 1 << 22
_SINGLE = ("cp1252", "cp1250", "mac_roman", "cp850", "iso8859_2", "cp852", "cp1254", "cp1257")
"""Encodings of Latin letters; of those that read a text equally well the first is taken."""
_LANGUAGES = tuple(
    map(
        frozenset,
        (
            "äöüß", "àâæçèéêëîïôœùûüÿ", "áéíñóúü", "àáâãçéêíóôõú", "åäöæøé", "áéëïóöüèê", "àçèéíïòóúü",
            "ąćęłńóśźż", "áčďéěíňóřšťúůýž", "áäčďéíľňóôŕšťúýž", "áéíóöőúüű", "ăâîşţșț", "čćđšž",
            "çğıöşüâîû", "ąčęėįšųūž", "āčēģīķļņšūž", "äõöüšž",
        ),
    )
)  # fmt: skip
"""The letters beyond ASCII that each language of Europe writes."""
_ICELANDIC = frozenset("áéíóúýþðæö")
_AT_THE_END = frozenset("àèéìòù")
"""Italian writes its own at the end of words alone."""
_WESTERN = frozenset("àáâãäåæçèéêëìíîïñòóôõöøùúûüýÿßœšž")
_MARKS = set("£€°²³½¼¾–—‘’“”…·©®µ«»§¿¡\u00a0")
_WORD = re.compile(rb"[A-Za-z\x80-\xff]{2,}")


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
    if not _is_latin(text):
        told = chardet.detect(text)["encoding"]
        if told is not None:
            return codecs.lookup(told).name
    scores = {name: _score(text, name) for name in _SINGLE}
    best = max(_SINGLE, key=lambda name: scores[name])
    return best if scores[best] > 0 else "cp1252"


def _is_latin(text: bytes) -> bool:
    """True where letters beyond ASCII stand among those of it, as no other script's do."""
    words = [word for word in _WORD.findall(text) if any(b > 127 for b in word)]
    high = sum(b > 127 for word in words for b in word)
    return bool(high <= 0.55 * sum(len(word) for word in words))


def _score(text: bytes, encoding: str) -> float:
    """How much like words of one language, and like prices, a text reads: letters among letters, signs beside digits."""
    decoded = text.decode(encoding, errors="replace")
    score = 0.0
    letters: list[tuple[str, bool]] = []
    last = len(decoded) - 1
    for place, char in enumerate(decoded):
        if ord(char) < 128:
            continue
        before = decoded[place - 1] if place else " "
        after = decoded[place + 1] if place < last else " "
        if char.isalpha() and char not in "ªº":
            inside = char.isupper() and (before.islower() or (before.isalpha() and after.islower()))
            fits = (before.isalpha() or after.isalpha()) and not inside
            score += 0 if fits else -4
            letters.append(("ı" if char == "İ" else char.lower()[0], after.isalpha()))
        elif char in "£€":
            score += 3 if after.isdigit() or before.isdigit() or after == " " or before in " (" else -1
        elif char in _MARKS and not (before.isalpha() and after.isalpha() and char not in "’·"):
            score += 1
        else:
            score -= 3
    return score + _as_one_language(letters)


def _as_one_language(letters: list[tuple[str, bool]]) -> float:
    """How well one language accounts for the letters, each with whether another stands behind it.

    Names of all of western Europe stand in one file more often than those of other parts.
    """
    known = [sum(3 if letter in language else -6 for letter, _ in letters) for language in _LANGUAGES]
    italian = sum(3 if letter in _AT_THE_END and not inside else -6 for letter, inside in letters)
    # Turkish reads as Icelandic in the encoding of the west; the fewer write the latter.
    icelandic = sum(2.9 if letter in _ICELANDIC else -6 for letter, _ in letters)
    western = sum(2 if letter in _WESTERN else -6 for letter, _ in letters)
    mixed = sum(1 if any(letter in language for language in _LANGUAGES) else -6 for letter, _ in letters)
    return max([*known, italian, icelandic, western, mixed])
