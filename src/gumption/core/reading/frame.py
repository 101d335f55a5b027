"""What a question asks for, before it is a plan: the frame that the interpreter fills and the planner reads."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Literal

from gumption.core.plan.expressions import AggregateName, Expression
from gumption.core.reading.vocabulary import ColumnKey

Unit = Literal["year", "quarter", "month", "week", "day", "weekday", "hour", "month_of_year"]


class CannotPlan(Exception):
    """The frame asks for columns that no chain of joins brings together; says which, for a person."""


@dataclass(frozen=True)
class Measure:
    """A number to work out: an aggregate of a column, or the count of a table's rows where there is no column."""

    function: AggregateName
    column: ColumnKey | None = None
    table: str | None = None
    percent: float | None = None
    other: ColumnKey | None = None


@dataclass(frozen=True)
class GroupKey:
    """A column to group by, as it stands or by a unit of time."""

    column: ColumnKey
    unit: Unit | None = None


@dataclass(frozen=True)
class Condition:
    """A condition on a column; `expression` names the column plainly and is renamed by the planner."""

    column: ColumnKey
    expression: Expression
    negated: bool = False
    """Said as an absence (customers without visits of the kind), which matters on another table's rows."""


@dataclass(frozen=True)
class Having:
    """A condition on a worked-out number."""

    measure: int
    op: Literal["=", "<", "<=", ">", ">="]
    number: float


@dataclass(frozen=True)
class Order:
    """What to sort by: a measure by its place, or a column."""

    measure: int | None = None
    column: ColumnKey | None = None
    descending: bool = True


@dataclass(frozen=True)
class Frame:
    """A question understood: every field empty where the question is silent."""

    subject: str | None = None
    measures: tuple[Measure, ...] = ()
    groups: tuple[GroupKey, ...] = ()
    shown: tuple[ColumnKey, ...] = ()
    conditions: tuple[Condition, ...] = ()
    having: tuple[Having, ...] = ()
    presence: tuple[tuple[str, bool], ...] = ()
    """Tables in which the subject's rows must have a partner (true) or must not (false)."""
    order: Order | None = None
    limit: int | None = None
    windows: tuple[Literal["share", "running_total", "change", "change_percent", "rank"], ...] = ()
    within: int = 0
    """How many of the first groups the limit holds for each of: the top three articles in each category."""
    shown_order: Order | None = None
    """How the rows that are left after the limit are sorted, where that differs."""
    doubtful: bool = False
    """True where words of this question, or of one it follows on from, went unread."""

    def with_(self, **changes: object) -> Frame:
        return replace(self, **changes)  # type: ignore[arg-type]


def tables_of_frame(frame: Frame | None) -> tuple[str, ...]:
    """The tables a frame is about, the measured first."""
    if frame is None:
        return ()
    found = [m.column.table if m.column else m.table for m in frame.measures]
    found += [frame.subject, *(g.column.table for g in frame.groups), *(c.table for c in frame.shown)]
    return tuple(dict.fromkeys(t for t in found if t))


@dataclass
class Draft:
    """The frame while it is being filled."""

    subject: str | None = None
    measures: list[Measure] = field(default_factory=list)
    groups: list[GroupKey] = field(default_factory=list)
    shown: list[ColumnKey] = field(default_factory=list)
    conditions: list[Condition] = field(default_factory=list)
    having: list[Having] = field(default_factory=list)
    presence: list[tuple[str, bool]] = field(default_factory=list)
    order: Order | None = None
    limit: int | None = None
    windows: list[Literal["share", "running_total", "change", "change_percent", "rank"]] = field(default_factory=list)
    within: int = 0
    doubtful: bool = False

    def frozen(self) -> Frame:
        return Frame(
            self.subject,
            tuple(dict.fromkeys(self.measures)),
            tuple(dict.fromkeys(self.groups)),
            tuple(dict.fromkeys(self.shown)),
            tuple(self.conditions),
            tuple(self.having),
            tuple(dict.fromkeys(self.presence)),
            self.order,
            self.limit,
            tuple(dict.fromkeys(self.windows)),
            self.within,
            doubtful=self.doubtful,
        )
