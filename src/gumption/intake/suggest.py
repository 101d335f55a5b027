"""Changes of shape worth offering: months as columns, tables that belong under one another, values that are totals."""

from __future__ import annotations

import re
from collections import Counter

from pydantic import BaseModel, ConfigDict

from gumption.core.model.catalogue import Column, Table
from gumption.core.model.names import plural
from gumption.core.model.origin import Appended
from gumption.core.model.shape import FillDown, LeaveOut, ShapeStep, Split, Unpivot
from gumption.core.model.types import Type
from gumption.intake.moments import MONTHS, WHOLE_MONTHS, read_moment

_EVERYTHING = re.compile(r"^(all|alle|total|overall|gesamt|grand total)\b", re.I)
_SEPARATORS = (", ", " - ", " / ", "; ", "|", "/", "_")


class Suggestion(BaseModel):
    """Something to offer: what is seen, and the step or the new table that would mend it."""

    model_config = ConfigDict(frozen=True)

    words: str
    step: ShapeStep | None = None
    append: Appended | None = None
    name: str = ""
    """What the new table would be called."""


def suggestions(table: Table, others: list[Table]) -> list[Suggestion]:
    """What to offer for a table, beside the others of its workspace."""
    found = [s for s in (_unpivot(table), _append(table, others)) if s is not None]
    found += [s for c in table.columns if (s := _pseudo_rows(c)) is not None]
    found += [s for c in table.columns if (s := _split(c, table)) is not None]
    if (down := _fill_down(table)) is not None:
        found.append(down)
    return found


def _period(name: str) -> str | None:
    """What kind of period a column's name is: month, dated month, year."""
    plain = name.strip().lower()
    if plain in MONTHS:
        return "month"
    if re.fullmatch(r"(19|20)\d{2}", plain):
        return "year"
    moment = read_moment(name, "day")
    if moment is None or moment.value is None:
        return None
    return "dated" if moment.shape in WHOLE_MONTHS or (moment.shape == "ymd" and moment.value.day == 1) else None


def _unpivot(table: Table) -> Suggestion | None:
    kinds = {c.name: _period(c.name) for c in table.columns if c.type.is_number}
    counted = Counter(k for k in kinds.values() if k)
    if not counted:
        return None
    kind, many = counted.most_common(1)[0]
    if many < 3:
        return None
    columns = tuple(n for n, k in kinds.items() if k == kind)
    year = next((int(y) for y in re.findall(r"(?:19|20)\d{2}", f"{table.name} {table.source}")), None)
    as_month = 0 if kind == "dated" else year if kind == "month" else None
    taken = {c.name.lower() for c in table.columns if c.name not in columns}
    names_to = "year" if kind == "year" else "month"
    names_to = names_to if names_to not in taken else f"{names_to}_of_column"
    values_to = "amount" if "amount" not in taken else "value"
    noun = "Years" if kind == "year" else "Months"
    return Suggestion(
        words=f"{noun} stand as columns: {columns[0]} to {columns[-1]}. As rows they can be asked about over time.",
        step=Unpivot(columns=columns, names_to=names_to, values_to=values_to, as_month=as_month),
    )


def _append(table: Table, others: list[Table]) -> Suggestion | None:
    own = shape_of(table)
    alike = [t for t in others if shape_of(t) == own]
    names = sorted([table.name, *(t.name for t in alike if t.name != table.name)])
    if len(names) < 2 or names[0] != table.name or len(table.columns) < 2:
        return None
    stem = re.sub(r"[_\d]+$", "", names[0]) or "all"
    return Suggestion(
        words=f"{plural(len(names), 'table')} of the same columns: {', '.join(names[:4])}. As one table they can be asked about together.",
        append=Appended(tables=tuple(names), column="came_from"),
        name=f"{stem}_all" if stem in names else stem,
    )


def shape_of(table: Table) -> tuple[tuple[str, object], ...]:
    """The names and types of its columns: tables of one shape can stand one under the other."""
    return tuple((c.name.lower(), c.type.is_number or c.type) for c in table.columns)


def _pseudo_rows(column: Column) -> Suggestion | None:
    if column.type is not Type.TEXT or column.distinct > 500:
        return None
    values = tuple(v for v in column.values if _EVERYTHING.match(v) and len(v) <= 40)
    if not values or len(values) > 2 or len(column.values) < 3:
        return None
    return Suggestion(
        words=f"{column.name} has “{values[0]}” among its values. Are these rows sums of the others? Left out, nothing is counted twice.",
        step=LeaveOut(column=column.name, values=values),
    )


_FILE = re.compile(r"\.[A-Za-z][A-Za-z0-9]{1,4}$")
"""How a file's name ends; its folder and its ending are no things of their own."""


def _split(column: Column, table: Table) -> Suggestion | None:
    values = column.values[:400]
    if column.type is not Type.TEXT or len(values) < 5 or column.distinct < 5 or column.separator:
        return None
    if all(_FILE.search(v) for v in values):
        return None
    for separator in _SEPARATORS:
        counts = Counter(v.count(separator) for v in values)
        times, many = counts.most_common(1)[0]
        if times == 1 and many >= 0.97 * len(values):
            parts = [{v.split(separator)[place] for v in values if separator in v} for place in (0, 1)]
            if min(len(p) for p in parts) > 0.9 * len(values) or max(len(p) for p in parts) > 0.98 * len(values) > 20:
                continue
            into = (f"{column.name}_1", f"{column.name}_2")
            if {c.name for c in table.columns} & set(into):
                continue
            return Suggestion(
                words=f"{column.name} holds two things, such as “{values[0]}”. Split at “{separator.strip() or separator}”, each can be asked about.",
                step=Split(column=column.name, separator=separator, into=into),
            )
    return None


def _fill_down(table: Table) -> Suggestion | None:
    first = table.columns[0]
    share = first.missing / max(table.rows, 1)
    full = all(c.missing < 0.05 * table.rows for c in table.columns[1:3])
    if first.type is not Type.TEXT or not 0.3 <= share <= 0.98 or not full or first.distinct < 2:
        return None
    return Suggestion(
        words=f"{first.name} is filled in once and then left blank {plural(first.missing, 'time')}. Should blanks take the value above?",
        step=FillDown(column=first.name),
    )
