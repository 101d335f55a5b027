"""What makes a table easy to ask about, and how a table does against it."""

from __future__ import annotations

from dataclasses import dataclass

from gumption.core.model.catalogue import Column, Relationship, Table
from gumption.core.model.names import plural
from gumption.core.model.types import Role, Type
from gumption.intake.dictionary import spelled_out
from gumption.intake.suggest import suggestions


@dataclass(frozen=True)
class Mark:
    """One line of the guide for one table."""

    name: str
    holds: bool
    words: str


def marks(table: Table, others: list[Table], relationships: list[Relationship]) -> list[Mark]:
    """The table held against each line of the guide."""
    keys = {n.key for n in table.notes}
    dark = [c.name for c in table.columns if spelled_out(c.name)[1] and not (c.description or c.display)]
    shape = [s for s in suggestions(table, others) if s.step is not None and s.step.kind == "unpivot"]
    gaps = [c.name for c in table.columns if c.missing > 0.5 * table.rows]
    mixed = [n.column for n in table.notes if n.about == "mixed currencies"]
    joined = any(table.name in (r.table, r.other) for r in relationships)
    open_questions = [n.column for n in table.notes if n.choices and n.caution]
    return [
        _mark("One header row, then rows", not keys & {"titles", "two_headers", "no_header", "units", "tables"}, "The file begins with its header.", "Lines around the header had to be taken off or joined; see what was found."),
        _mark("No totals among the rows", "totals" not in keys, "No row is the sum of others.", "Rows of totals had to be left out."),
        _mark("One row for one thing", not shape, "What is counted stands in rows.", shape[0].words if shape else ""),
        _mark("Something that tells rows apart", _tells_apart(table), "A column is different on every row.", "No column is different on every row, so repeated rows cannot be told from true ones."),
        _mark("Dates that can be read one way", not open_questions, _dates(table), f"{', '.join(open_questions)} could be read with day or month first."),
        _mark("Names that say what they mean", not dark, "Column names are words.", f"{', '.join(dark[:4])} {'needs' if len(dark) == 1 else 'need'} a word from you."),
        _mark("One unit to a column", not mixed, "No column mixes units.", f"{', '.join(mixed)} mixes currencies."),
        _mark("Few gaps", not gaps, "No column is mostly empty.", f"{', '.join(gaps[:4])} {'is' if len(gaps) == 1 else 'are'} more than half empty."),
        _mark("Joined to the rest", joined or not others, "It joins with another table." if joined else "It is the only table.", "No other table shares its values."),
    ]  # fmt: skip


def _mark(name: str, holds: bool, yes: str, no: str) -> Mark:
    return Mark(name, holds, yes if holds else no)


def _tells_apart(table: Table) -> bool:
    return any(c.role in (Role.IDENTIFIER, Role.NAME) or _unique(c, table) for c in table.columns)


def _unique(column: Column, table: Table) -> bool:
    return column.missing == 0 and column.distinct >= table.rows and column.type in (Type.TEXT, Type.INTEGER)


def _dates(table: Table) -> str:
    dates = [c for c in table.columns if c.type.is_time]
    return f"{plural(len(dates), 'column')} of dates, each plain." if dates else "There are no dates to mistake."
