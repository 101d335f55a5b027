"""What a person wrote about columns, put to the tables it is about."""

from __future__ import annotations

from gumption.core.model.catalogue import Table


def described(table: Table, file: str, descriptions: dict[str, object]) -> Table:
    """The table with the meanings that a person wrote for its columns, for this file or for all."""
    own = descriptions.get(file)
    meanings = own if isinstance(own, dict) else descriptions
    columns = tuple(
        c.model_copy(update={"description": meanings[c.name]}) if isinstance(meanings.get(c.name), str) else c
        for c in table.columns
    )
    return table.model_copy(update={"columns": columns})
