"""What a chart is drawn of: the columns of an answer that say what a row is about, and its numbers."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator
from dataclasses import dataclass, replace
from decimal import Decimal

from gumption.core.model.types import Role, Type, Value
from gumption.core.model.wish import ChartWish
from gumption.core.plan.expressions import Aggregate, Bin
from gumption.core.plan.fields import Field
from gumption.core.plan.steps import Derive, Pivot
from gumption.core.plan.words import spoken
from gumption.core.present.answer import Answer
from gumption.core.present.finding import band
from gumption.core.present.numbers import cell, head, shown

_NAMING = (Role.IDENTIFIER, Role.LINK, Role.CODE)
Plain = str | int | float | bool | None


@dataclass(frozen=True)
class Labels:
    """A column that says what each row is about."""

    name: str
    values: tuple[Value, ...]
    field: Field
    width: float | None = None
    """The width of its bins, where it has any."""

    @property
    def title(self) -> str:
        return spoken(self.name)

    @property
    def is_time(self) -> bool:
        return self.field.type.is_time

    @property
    def different(self) -> int:
        return len(set(self.values))

    def text(self, row: int) -> str:
        value = self.values[row]
        if self.width is not None and isinstance(value, (int, float, Decimal)):
            return band(float(value), self.width)
        return shown(value, self.field)


@dataclass(frozen=True)
class Numbers:
    """A column of numbers; `adds_up` where parts of it make a whole, as counts and sums do."""

    name: str
    values: tuple[Value, ...]
    field: Field
    adds_up: bool

    @property
    def title(self) -> str:
        return head(self.name, self.field)

    @property
    def known(self) -> list[float]:
        return [float(v) for v in self.values if isinstance(v, (int, float, Decimal))]

    def text(self, row: int) -> str:
        return cell(self.values[row], self.field)


@dataclass(frozen=True)
class Figures:
    """An answer's labels and numbers, a row each."""

    labels: tuple[Labels, ...]
    numbers: tuple[Numbers, ...]
    size: int
    crossed: bool = False
    """True for a cross table."""
    ranked: bool = False
    """True where the first rows stand for what was asked."""
    lowest_first: bool = False
    """True where the answer goes from the lowest of its first numbers up."""
    cells: tuple[tuple[int, str], ...] = ()
    """Of a cross table: the answer's row, and its column, that each row here is of."""
    colour: str = ""
    """The label that a person chose to be told by colour."""

    def place(self, row: int) -> dict[str, Plain]:
        """Where the answer has what a mark is drawn of: its row, and of a cross table the column."""
        if not self.cells:
            return {"row": row}
        at, column = self.cells[row]
        return {"row": at, "column": column}

    @property
    def along(self) -> Labels:
        """What a line goes along: a time, or else the first label."""
        return next((x for x in self.labels if x.is_time), self.labels[0])

    @property
    def lines(self) -> Labels | None:
        """The label of which each value has a line of its own, where there is a second one."""
        return next((x for x in self.labels if x is not self.along), None) if self.labels else None

    def entries(self) -> Iterator[int]:
        """The rows of which the first number is known."""
        return (i for i in range(self.size) if self.numbers[0].values[i] is not None)


def arranged(of: Figures, answer: Answer, wish: ChartWish) -> Figures:
    """The figures with the columns that a person chose in their places: what is measured first, what tells colours last.

    Of dots the first number goes across and the second up; the third is their size.
    """
    names = answer.columns
    by_name = {n.name: n for n in of.numbers}
    chosen = [by_name.get(wish.column(part, names) or "") for part in ("across", "measure", "size")]
    if wish.kind == "dots" and len(of.numbers) > 1:
        rest = [n for n in of.numbers if n not in chosen]
        across, up, size = (n or (rest.pop(0) if rest else None) for n in chosen)
        numbers = tuple(dict.fromkeys(n for n in (across, up, size, *rest) if n is not None))
    else:
        first = [n for n in chosen[1:2] if n is not None]
        numbers = (*first, *(n for n in of.numbers if n not in first))
    colour = wish.column("colour", names) or ""
    labels = tuple(sorted(of.labels, key=lambda x: x.name == colour)) if wish.kind != "dots" else of.labels
    kept = numbers if len(numbers) == len(of.numbers) else of.numbers
    return replace(of, labels=labels, numbers=kept, colour=colour)


def figures(answer: Answer) -> Figures:
    """The figures of an answer; those of a cross table a row a cell."""
    pivot = answer.crossed
    if pivot is not None:
        return _of_cells(answer, pivot)
    widths = {
        s.name: s.expression.width
        for s in answer.plan.steps
        if isinstance(s, Derive) and isinstance(s.expression, Bin) and s.expression.width is not None
    }
    # Running numbers and codes say which row it is, and measure nothing.
    told = [i for i in answer.numbers if answer.schema[answer.columns[i]].role in _NAMING]
    labels = tuple(
        Labels(n, _values(answer, i), answer.schema[n], widths.get(n))
        for i in sorted([*answer.labels, *told])
        for n in [answer.columns[i]]
    )
    numbers = tuple(
        Numbers(n, _values(answer, i), answer.schema[n], _adds_up(answer, n))
        for i in answer.numbers
        if i not in told
        for n in [answer.columns[i]]
    )
    if answer.added_up is not None:
        # What adds up is what was asked for; what it adds up from stands in the table.
        numbers = tuple(n for n in numbers if n.name == answer.columns[answer.added_up])
    labels = _by_name(labels, len(answer.rows))
    lowest = bool(numbers) and answer.goes_up_by(numbers[0].name)
    return Figures(labels, numbers, len(answer.rows), ranked=answer.group is None, lowest_first=lowest)


def _by_name(labels: tuple[Labels, ...], size: int) -> tuple[Labels, ...]:
    """The labels without the numbers of rows that a name beside them tells apart as well: one bar a site, by its name."""
    names = [x for x in labels if x.field.role not in _NAMING and x.field.type is Type.TEXT and x.different == size > 1]
    if not names:
        return labels
    return tuple(x for x in labels if x is names[0] or x.field.role not in _NAMING or x.different != size)


def _values(answer: Answer, place: int) -> tuple[Value, ...]:
    return tuple(row[place] for row in answer.rows)


def _of_cells(answer: Answer, pivot: Pivot) -> Figures:
    across = answer.crossed_field
    assert across is not None
    places = [(answer.columns.index(c.name), _as_value(c.value.type, c.value.value)) for c in pivot.into]
    last = answer.columns.index("total_row") if pivot.totals else None
    rows = [(n, row) for n, row in enumerate(answer.rows) if last is None or not row[last]]
    cells = [(row, place, value) for _, row in rows for place, value in places]
    told = tuple((n, answer.columns[place]) for n, _ in rows for place, _ in places)
    down = tuple(
        Labels(n, tuple(row[answer.columns.index(n)] for row, _, _ in cells), answer.schema[n]) for n in pivot.by
    )
    name = pivot.aggregate.name
    field = answer.schema[pivot.into[0].name]
    values = tuple(row[place] for row, place, _ in cells)
    crossed = Labels(pivot.column, tuple(value for _, _, value in cells), across)
    number = Numbers(name, values, field, _sums(pivot.aggregate))
    return Figures((*down, crossed), (number,), len(cells), crossed=True, cells=told)


def _as_value(kind: Type, value: object) -> Value:
    if kind is Type.DATE:
        return dt.date.fromisoformat(str(value))
    return value if isinstance(value, (str, int, float, bool)) else str(value)


def _sums(aggregate: Aggregate) -> bool:
    return aggregate.function in ("count", "distinct", "sum")


def _adds_up(answer: Answer, name: str) -> bool:
    """True for counts and sums, of which parts make a whole; a share of the total is one of them."""
    aggregates = answer.group.aggregates if answer.group else ()
    found = next((a for a in aggregates if a.name == name), None)
    return _sums(found) if found is not None else name.startswith("share_of_total")


def plain(value: Value) -> Plain:
    """A value as it stands in a chart's data."""
    if isinstance(value, Decimal):
        return float(value)
    if isinstance(value, (dt.date, dt.datetime, dt.time)):
        return value.isoformat()
    return value


def of_one_unit(numbers: tuple[Numbers, ...]) -> bool:
    """True where numbers may stand on one axis."""
    kinds = {(n.field.unit, n.field.role is Role.PERCENTAGE, n.field.role is Role.MONEY) for n in numbers}
    return len(kinds) == 1
