"""Names that are still free, and how many there are of a thing."""

from __future__ import annotations

import re
from collections.abc import Collection

from gumption.core.model.style import written


def free_name(base: str, taken: Collection[str]) -> str:
    """The name itself, or with the first number from 2 behind it that is not taken: visits, visits_2.

    Clinic and clinic are one name to a database.
    """
    name, copy, written = base, 2, {t.lower() for t in taken}
    while name.lower() in written:
        name, copy = f"{base}_{copy}", copy + 1
    return name


def plural(count: int, one: str, many: str | None = None) -> str:
    """1 row, 2 rows."""
    return f"{written(count)} {one if count == 1 else many or one + 's'}"


def singular(noun: str) -> str:
    """visits as visit; words that only look like plurals are left."""
    if noun.endswith("ies") and len(noun) > 4:
        return noun[:-3] + "y"
    if noun.endswith(("sses", "xes", "ches", "shes")):
        return noun[:-2]
    return noun[:-1] if noun.endswith("s") and not noun.endswith(("ss", "us", "is")) else noun


def spaced(name: str) -> str:
    """visitDate as "visit Date"; a single small letter stays with its capital, as in pH."""
    return re.sub(r"([a-z0-9]{2})([A-Z])", r"\1 \2", name)


def plain(name: str) -> str:
    """A name without case, blanks and signs, by which two ways to write it are the same."""
    return re.sub(r"[\W_]+", "", name).lower()
