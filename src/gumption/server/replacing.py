"""A newer file in a table's place: what would be different, and what waits for a person to say yes."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from pydantic import TypeAdapter

from gumption.core.model.catalogue import Table
from gumption.core.model.origin import Origin
from gumption.intake.making import ReadTable


@dataclass(frozen=True)
class Change:
    """One difference between a table and the newer file that is to take its place."""

    column: str
    what: str


@dataclass(frozen=True)
class Replacement:
    """A newer file, read and waiting for a person to say yes."""

    table: str
    file: str
    original: Path
    folder: Path
    found: ReadTable
    origin: Origin
    secret: str | None
    seconds: float
    changes: tuple[Change, ...]


REPLACEMENTS: TypeAdapter[Replacement] = TypeAdapter(Replacement)


def with_meaning_kept(table: Table, before: Table) -> Table:
    """A table read again, with the descriptions that came with its files."""
    said = {c.name: c.description for c in before.columns}
    columns = tuple(c.model_copy(update={"description": said.get(c.name, "")}) for c in table.columns)
    return table.model_copy(update={"columns": columns})


def changes_between(before: Table, after: Table) -> list[Change]:
    """What would be different: columns gone, new, and of another type."""
    old, new = {c.name: c for c in before.columns}, {c.name: c for c in after.columns}
    changes = [Change(name, "is gone") for name in old if name not in new]
    changes += [Change(name, f"is new, {new[name].type}") for name in new if name not in old]
    changes += [
        Change(name, f"was {old[name].type}, is {new[name].type}")
        for name in new
        if name in old and old[name].type is not new[name].type
    ]
    return changes
