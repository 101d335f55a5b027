"""Names and texts as DuckDB writes them."""

from __future__ import annotations


def quoted(name: str) -> str:
    """A column's name for DuckDB."""
    return '"' + name.replace('"', '""') + '"'


def literal(text: str) -> str:
    """A text literal for DuckDB."""
    return "'" + text.replace("'", "''") + "'"
