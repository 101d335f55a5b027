"""What a script must know that reads a file again: the words that say missing, cells of another type, blanks around them."""

from __future__ import annotations

import re
from dataclasses import dataclass

import duckdb

from gumption.core.model.types import Type
from gumption.intake.column import Kind
from gumption.intake.missing import MISSING_WORDS
from gumption.intake.sql import literal, quoted

_TAKEN_ELSEWHERE = (
    "None",
    "none",
    "nan",
    "NaN",
    "null",
    "NULL",
    "NA",
    "N/A",
    "n/a",
    "#N/A N/A",
    "-NaN",
    "-nan",
    "1.#QNAN",
)
"""Words that programs which read text take for a missing value."""


@dataclass(frozen=True)
class WordsUsed:
    """What of a file's cells a script that reads it again must know."""

    missing: tuple[str, ...]
    """The words that stand for a missing value."""
    kept: bool
    """True where a text is a word that elsewhere stands for one."""
    odd: frozenset[str]
    """Columns with cells that are of another type, and became missing."""


def words_used(connection: duckdb.DuckDBPyConnection, kinds: dict[str, Kind]) -> WordsUsed:
    """Looked up in the rows of text, whose cells stand in the order of the kinds."""
    listed = ", ".join(map(literal, (w for w in MISSING_WORDS if w)))
    elsewhere = ", ".join(map(literal, _TAKEN_ELSEWHERE))
    parts = []
    for place, kind in enumerate(kinds.values()):
        cell = quoted(f"c{place}")
        parts.append(f"list(DISTINCT {cell}) FILTER (WHERE {cell} IN ({listed}))")
        filled = f"{cell} IS NOT NULL AND {cell} NOT IN ('', {listed})"
        what = f"{cell} IN ({elsewhere})" if kind.type is Type.TEXT else f"{kind.sql} IS NULL"
        parts.append(f"count(*) FILTER (WHERE {filled} AND {what})")
    row = connection.execute(f"SELECT {', '.join(parts)} FROM raw").fetchone() or ()
    found = dict(zip(kinds, zip(row[::2], row[1::2], strict=True), strict=True))
    return WordsUsed(
        ("", *sorted({word for words, _ in found.values() for word in words or ()})),
        any(number for name, (_, number) in found.items() if kinds[name].type is Type.TEXT),
        frozenset(name for name, (_, number) in found.items() if number and kinds[name].type is not Type.TEXT),
    )


def is_padded(text: str, delimiter: str) -> bool:
    """True where a blank stands before a cell or behind it."""
    mark = re.escape(delimiter)
    return delimiter.isspace() or re.search(rf"[ \t](?:{mark}|$)|(?:^|{mark})[ \t]", text, re.M) is not None
