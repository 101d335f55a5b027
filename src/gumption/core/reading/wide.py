"""Tables whose columns are years, quarters or months, read as if each of these stood on a row of its own.

The tables stay as they are: a plan made over the rows takes the table and lays its columns out first.
"""

from __future__ import annotations

import dataclasses
import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Protocol

from gumption.core.model.catalogue import Catalogue, Column, Relationship, Table
from gumption.core.model.names import free_name
from gumption.core.model.types import Role, Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.steps import Pick, Picked, Plan, Step, Take
from gumption.core.plan.words import DAY_NAMES, MONTH_NAMES, spoken
from gumption.core.reading import lexicon
from gumption.core.reading.times import are_years, financial_year

FEWEST = 3
"""So many columns of one kind of period are no chance."""
FEWEST_LABELLED = 2
"""So many, where they are called alike but for the period."""
_YEAR = re.compile(r"(?:fy|y|yr|year)?[ _-]?((?:19|20)\d{2})")
_QUARTER = re.compile(r"q([1-4])[ _/-]*((?:19|20)\d{2})|((?:19|20)\d{2})[ _/-]*q([1-4])")
_MONTH = re.compile(r"([a-z]{3,9})\.?[ _'/-]*((?:19|20)\d{2}|\d{2})?")
_DAYS = frozenset(d.lower() for d in DAY_NAMES) | frozenset(
    ["mon", "tue", "tues", "wed", "weds", "thu", "thur", "thurs", "fri", "sat", "sun"]
)
_DIGITS = re.compile(r"((?:19|20)\d{2})[-_/](0[1-9]|1[0-2])")


@dataclass(frozen=True)
class Wide:
    """A table's columns that are periods, and the columns of names and values that they are laid out as."""

    table: str
    columns: tuple[str, ...]
    period: str
    value: str
    starts: tuple[str | int, ...]
    """For each column its year, the ISO date of the first day of its month or quarter, or its name where no year is known."""
    kept: tuple[str, ...]
    unit: str

    @property
    def type(self) -> Type:
        return Type.INTEGER if self.unit == "year" else Type.DATE if self.starts != self.columns else Type.TEXT

    def steps(self) -> tuple[Step, ...]:
        """From the table as it is to its rows laid out."""
        if self.starts == self.columns:
            laid = st.Unpivot(columns=self.columns, name=self.period, value=self.value)
            shown = (*self.kept, self.period, self.value)
            return (Take(table=self.table), laid, Pick(columns=tuple(Picked(column=c, name=c) for c in shown)))
        named = free_name(f"{self.period} of column", {*self.kept, self.period, self.value})
        cases = tuple(
            ex.Branch(
                when=ex.Compare(op="=", left=ex.ColumnRef(name=named), right=ex.Constant(type=Type.TEXT, value=c)),
                then=ex.Constant(type=Type.DATE, value=f"{start}-01-01" if self.unit == "year" else start),
            )
            for c, start in zip(self.columns, self.starts, strict=True)
        )
        first_day = ex.Case(branches=cases)
        # A year is a part of a date, and no amount of 2,024.
        period = ex.DatePart(part="year", value=first_day) if self.unit == "year" else first_day
        return (
            Take(table=self.table),
            st.Unpivot(columns=self.columns, name=named, value=self.value),
            st.Derive(name=self.period, expression=period),
            Pick(columns=tuple(Picked(column=c, name=c) for c in (*self.kept, self.period, self.value))),
        )


def as_rows(catalogue: Catalogue) -> tuple[Catalogue, dict[str, Wide]]:
    """The catalogue with its wide tables as rows, and how each of these is laid out, by the name it goes by.

    A table that others point at keeps its rows, and a table of its periods stands beside it.
    """
    tables: list[Table] = []
    links = list(catalogue.relationships)
    found: dict[str, Wide] = {}
    taken = {t.name for t in catalogue.tables}
    for table in catalogue.tables:
        wide = _wide(table)
        pointing = [r for r in catalogue.relationships if r.other == table.name]
        if wide is not None and pointing and all(_points_elsewhere(r, catalogue) for r in pointing):
            # Tables that share the areas they tell of: none of them is the list of areas.
            links = [r for r in links if r not in pointing]
            pointing = []
        pointed = pointing[0].other_column if pointing else None
        if wide is not None and pointed is None:
            pointed = _told_once(table, wide)
        if wide is None:
            tables.append(table)
        elif pointed is None:
            found[table.name] = wide
            tables.append(_laid(table, wide, table.name))
        else:
            name = free_name(f"{table.name} figures", taken)
            taken.add(name)
            found[name] = dataclasses.replace(wide, kept=(pointed,))
            tables.append(table.model_copy(update={"columns": tuple(c for c in table.columns if c.name in wide.kept)}))
            tables.append(_laid(table, found[name], name))
            links.append(
                Relationship(
                    table=name, column=pointed, other=table.name, other_column=pointed, match_rate=1.0, unmatched=0
                )
            )
    if not found:
        return catalogue, {}
    return Catalogue(tables=tuple(tables), relationships=tuple(links)), found


def _told_once(table: Table, wide: Wide) -> str | None:
    """The column that tells the rows apart, where another number of each would be added up once for every period."""
    kept = [table.column(name) for name in wide.kept]
    if not any(c.is_measure for c in kept):
        return None
    names = (c for c in kept if c.distinct == table.rows and not c.missing and not c.is_measure and not c.type.is_time)
    return next((c.name for c in names), None)


def _points_elsewhere(link: Relationship, catalogue: Catalogue) -> bool:
    """True where a column points at another table as well, or its table is pointed at in turn."""
    links = catalogue.relationships
    also = any(r.other != link.other for r in links if (r.table, r.column) == (link.table, link.column))
    return also or any((r.table, r.other) == (link.other, link.table) for r in links)


class LaidOut(Protocol):
    """A table that is read in another shape than it has."""

    def steps(self) -> tuple[Step, ...]:
        """From the table as it is to its rows as they are read."""


def laid_out(plan: Plan, wide: Mapping[str, LaidOut]) -> Plan:
    """The plan over the tables as they are: what it takes of a table that is read in another shape is laid out first."""
    if not wide:
        return plan
    return st.with_taken(plan, lambda take: wide[take.table].steps() if take.table in wide else (take,))


def _wide(table: Table) -> Wide | None:
    year = next((int(y) for y in re.findall(r"(?:19|20)\d{2}", f"{table.name} {table.source}")), None)
    by_kind: dict[tuple[str, str], list[tuple[str, str | int]]] = {}
    for column in table.columns:
        told = _labelled(column.name, year) if column.type.is_number else None
        if told is not None:
            by_kind.setdefault(told[:2], []).append((column.name, told[2]))
    kinds = sorted(by_kind.items(), key=lambda pair: -len(pair[1]))
    (unit, label), told_columns = kinds[0] if kinds else (("", ""), [])
    if len(told_columns) < (FEWEST if not label else FEWEST_LABELLED):
        return None
    if len({start for _, start in told_columns}) < len(told_columns):
        return None
    if label and any(len(others) > 1 for _, others in kinds[1:]):
        # Sales and costs of each year are two figures, which cannot stand in one column.
        return None
    names = tuple(name for name, _ in told_columns)
    kept = tuple(c.name for c in table.columns if c.name not in names)
    period = free_name(unit.removesuffix(" name"), set(kept))
    plain = "amount" if table.column(names[0]).role is Role.MONEY else _told_in(table) or "value"
    value = free_name(label or plain, {*kept, period})
    return Wide(table.name, names, period, value, tuple(start for _, start in told_columns), kept, unit)


def _told_in(table: Table) -> str | None:
    """What a table of hours worked, or of rainfall in millimetres, counts by its name."""
    last = spoken(table.name).lower().split()[-1]
    return last if last in lexicon.units() and last.endswith("s") else None


def _labelled(name: str, year: int | None) -> tuple[str, str, str | int] | None:
    """The kind of period that a column is of, what else it is called, and when it begins: 2024 kg, Sales Q1 2024."""
    if (told := _period(name, year)) is not None:
        return told[0], "", told[1]
    words = re.split(r"[ _]+", name.strip())
    for width in (2, 1):
        for period, label in ((words[:width], words[width:]), (words[-width:], words[:-width])):
            told = _period(" ".join(period), year) if label else None
            if told is not None:
                return told[0], " ".join(label).strip(" -:()").lower(), told[1]
    return None


def _period(name: str, year: int | None) -> tuple[str, str | int] | None:
    """The kind of period that a column is called by, and when it begins."""
    plain = name.strip().lower()
    if found := _YEAR.fullmatch(plain):
        return "year", int(found[1])
    if are_years((name, name)):
        return "period" if financial_year(name) is None else "financial year", name
    if found := _QUARTER.fullmatch(plain):
        quarter, its_year = int(found[1] or found[4]), int(found[2] or found[3])
        return "quarter", f"{its_year:04d}-{3 * quarter - 2:02d}-01"
    if found := _DIGITS.fullmatch(plain):
        return "month", f"{found[1]}-{found[2]}-01"
    if plain.rstrip("s") in _DAYS or plain in _DAYS:
        return "weekday", name
    if found := _MONTH.fullmatch(plain):
        month = next(
            (n for n, m in enumerate(MONTH_NAMES, 1) if m.lower() == found[1] or m[:3].lower() == found[1]), None
        )
        if month is None:
            return None
        its_year = int(found[2]) + (2000 if len(found[2]) == 2 else 0) if found[2] else year or 0
        return ("month", f"{its_year:04d}-{month:02d}-01") if its_year else ("month name", name)
    return None


def _laid(table: Table, wide: Wide, name: str) -> Table:
    """The table as its rows laid out would be."""
    columns = [_repeated(table.column(c)) for c in wide.kept]
    values = [table.column(c) for c in wide.columns]
    starts = [str(s) for s in wide.starts]
    role = Role.CODE if wide.unit == "year" else Role.DATE if wide.type is Type.DATE else Role.CATEGORY
    columns.append(
        Column(
            name=wide.period,
            type=wide.type,
            role=role,
            distinct=len(starts),
            low=min(starts),
            high=max(starts),
            values=wide.columns if wide.type is Type.TEXT else (),
        )
    )
    lows = [float(c.low) for c in values if c.low is not None]
    highs = [float(c.high) for c in values if c.high is not None]
    # "Mon" alone may be a number of the month; beside Tue and Wed it is how much there was.
    values = [c for c in values if c.is_measure] or values
    widest = max(values, key=lambda c: (c.type is Type.FLOAT, c.type is Type.DECIMAL, c.scale))
    columns.append(
        widest.model_copy(
            update={
                "name": wide.value,
                "distinct": sum(c.distinct for c in values),
                "missing": sum(c.missing for c in values),
                "low": f"{min(lows):g}" if lows else None,
                "high": f"{max(highs):g}" if highs else None,
                "description": "",
                "display": "",
                # The value in a table of house prices is the house price.
                "synonyms": tuple(dict.fromkeys((table.display or spoken(table.name), *table.synonyms))),
            }
        )
    )
    changes = {"name": name, "rows": table.rows * len(starts), "columns": tuple(columns), "time": None, "naming": None}
    return table.model_copy(update=changes)


def _repeated(column: Column) -> Column:
    """A column whose values stand on several rows now: it tells no row from the others."""
    if column.role in (Role.IDENTIFIER, Role.NAME):
        return column.model_copy(update={"role": Role.CODE if column.type.is_number else Role.CATEGORY})
    if column.is_measure and column.role.is_summed:
        # The floor area that stands on each of twelve months is one area.
        return column.model_copy(update={"role": Role.SCORE})
    return column
