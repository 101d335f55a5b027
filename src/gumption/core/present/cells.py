"""Cells that go out in files other programs open."""

from __future__ import annotations

import re

from gumption.core.model.types import Value

BEGINS = r"[=+\-@\t\r]"
NUMBER = r"[+-]?[0-9.,\s']*[0-9]%?"
"""Patterns of what such a program takes for a formula, and of numbers, which it may."""
_BEGINS, _NUMBER = re.compile(BEGINS), re.compile(NUMBER)


def harmless(value: Value) -> Value:
    """The value, with an apostrophe before text that a spreadsheet program would take for a formula and run.

    https://owasp.org/www-community/attacks/CSV_Injection
    """
    if isinstance(value, str) and _BEGINS.match(value) and not _NUMBER.fullmatch(value):
        return f"'{value}"
    return value
