"""The steps of a plan. `docs/plan-format.md` says what each means."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Annotated, Literal, TypeAlias

from pydantic import Field

from gumption.core.plan.expressions import Aggregate, AllOf, ColumnRef, Compare, Constant, Expression, Node


class Take(Node):
    """All rows and columns of a table."""

    step: Literal["take"] = "take"
    table: str


class Keep(Node):
    """The rows for which a condition is true."""

    step: Literal["keep"] = "keep"
    condition: Expression


class Derive(Node):
    """A new column worked out from the others of its row."""

    step: Literal["derive"] = "derive"
    name: str
    expression: Expression


class KeyPair(Node):
    """A column here that equals a column of the joined plan."""

    left: str
    right: str


class Join(Node):
    """Rows of another plan brought beside these by equal keys; a missing key finds no partner.

    `inner` drops rows without a partner, `left` keeps them, `with` and `without` only test for one.
    For inner and left each row must find at most one partner; the checks hold the plan to it. Without
    keys the other plan is one row, a grand total say, which is brought beside every row.
    """

    step: Literal["join"] = "join"
    other: Plan
    on: tuple[KeyPair, ...] = ()
    how: Literal["inner", "left", "with", "without"] = "inner"


class AsOf(Node):
    """The row of another plan that held at a time: of those with equal keys the latest that is not after it.

    Rows for which nothing held yet stay, with missing values.
    """

    step: Literal["as_of"] = "as_of"
    other: Plan
    on: tuple[KeyPair, ...] = ()
    at: KeyPair


class Append(Node):
    """The rows of another plan behind these, columns by name; one that a side lacks is missing on its rows."""

    step: Literal["append"] = "append"
    other: Plan


class Group(Node):
    """One row for each different combination of the columns; without columns, one row for all."""

    step: Literal["group"] = "group"
    by: tuple[str, ...] = ()
    aggregates: tuple[Aggregate, ...] = ()


class PivotColumn(Node):
    """A value that gets a column of its own, and the column's name."""

    value: Constant
    name: str


class Pivot(Node):
    """A cross table: one row a combination of `by`, one column a value of `column`, an aggregate in each cell.

    `totals` adds a column for all rows of the row's group, named as the aggregate, and a last row for
    all groups, which alone has yes in the column `total_row`.
    """

    step: Literal["pivot"] = "pivot"
    by: tuple[str, ...] = Field(min_length=1)
    column: str
    into: tuple[PivotColumn, ...] = Field(min_length=1)
    aggregate: Aggregate
    totals: bool = False

    @property
    def cells(self) -> tuple[Aggregate, ...]:
        """The aggregate of each column of its own, as one that leaves all other rows out."""
        crossed = ColumnRef(name=self.column)
        found = []
        for place in self.into:
            here = Compare(op="=", left=crossed, right=place.value)
            where = here if self.aggregate.where is None else AllOf(items=(self.aggregate.where, here))
            found.append(self.aggregate.model_copy(update={"name": place.name, "where": where}))
        return tuple(found)


class Unpivot(Node):
    """Each row once for each of the columns: their names in one column, their values in another."""

    step: Literal["unpivot"] = "unpivot"
    columns: tuple[str, ...] = Field(min_length=1)
    name: str
    value: str


class Spread(Node):
    """Each row once for each of the items that a column's cell holds; a row without any stays once.

    Spaces around an item are cut off, and nothing between two separators is no item.
    """

    step: Literal["spread"] = "spread"
    column: str
    separator: str = Field(min_length=1, max_length=1)


class SortKey(Node):
    """A column to order by; missing values come last either way."""

    column: str
    descending: bool = False


WindowName: TypeAlias = Literal[
    "share",
    "rank",
    "place",
    "running_total",
    "lag",
    "lead",
    "change",
    "change_percent",
    "moving_average",
    "moving_total",
    "total",
    "average",
    "lowest",
    "highest",
    "quantile_bin",
    "width_bin",
]


class Window(Node):
    """A column that looks at other rows, those of the same `within`.

    `share` of their total; `rank`, alike for ties, and `place`, which tells ties apart by the remaining columns;
    `lag`, `lead`, `change` and `change_percent` look `back` rows along the order, or at the row whose date lies
    that many days, months or years back; `running_total`, `moving_average` and `moving_total` add up along
    the order, the last two over `rows` rows up to this one; `total`, `average`, `lowest` and `highest` are of
    all; `quantile_bin` and `width_bin` number `bins` bins of equal rows, or of equal width, from the lowest.
    """

    step: Literal["window"] = "window"
    name: str
    function: WindowName
    column: str
    order: tuple[SortKey, ...] = ()
    within: tuple[str, ...] = ()
    back: int = Field(default=1, ge=1)
    unit: Literal["row", "day", "month", "year"] = "row"
    rows: int | None = Field(default=None, ge=1)
    bins: int | None = Field(default=None, ge=2)


class Fill(Node):
    """A row for every period between the first and the last, for each combination of `within`, where there is none.

    New rows have 0 in `zeros` and missing values elsewhere. `low` and `high` set where the time line begins and ends.
    A whole number of years goes by `number`.
    """

    step: Literal["fill"] = "fill"
    column: str
    unit: Literal["year", "quarter", "month", "week", "day", "number"]
    within: tuple[str, ...] = ()
    zeros: tuple[str, ...] = ()
    low: Constant | None = None
    high: Constant | None = None


class Sort(Node):
    """Rows in order of the keys, ties by the remaining columns from left to right, ascending."""

    step: Literal["sort"] = "sort"
    keys: tuple[SortKey, ...] = Field(min_length=1)


class Limit(Node):
    """The first rows only, in the order of a sort before."""

    step: Literal["limit"] = "limit"
    rows: int = Field(ge=1)


class Picked(Node):
    """A column kept, under a name."""

    column: str
    name: str


class Pick(Node):
    """The columns kept, in their order and under their names."""

    step: Literal["pick"] = "pick"
    columns: tuple[Picked, ...] = Field(min_length=1)


Step: TypeAlias = Annotated[
    Take
    | Keep
    | Derive
    | Join
    | AsOf
    | Append
    | Group
    | Pivot
    | Unpivot
    | Spread
    | Window
    | Fill
    | Sort
    | Limit
    | Pick,
    Field(discriminator="step"),
]


class Plan(Node):
    """Steps from a `take` onwards; each works on the rows of the one before."""

    version: Literal[1] = 1
    steps: tuple[Step, ...] = Field(min_length=1)

    def then(self, *steps: Step) -> Plan:
        """This plan with more steps behind it."""
        return Plan(steps=(*self.steps, *steps))


for _step in (Join, AsOf, Append, Plan):
    _step.model_rebuild()


def other_plan(step: Step) -> Plan | None:
    """The second plan of a step that brings two together."""
    return step.other if isinstance(step, (Join, AsOf, Append)) else None


def with_taken(plan: Plan, change: Callable[[Take], tuple[Step, ...]]) -> Plan:
    """The plan with other steps for each table that it, or a plan that it brings in, takes."""
    steps: list[Step] = []
    for step in plan.steps:
        if isinstance(step, Take):
            steps += change(step)
            continue
        other = other_plan(step)
        steps.append(step if other is None else step.model_copy(update={"other": with_taken(other, change)}))
    return plan.model_copy(update={"steps": tuple(steps)})


def all_steps(plan: Plan) -> Iterator[Step]:
    """Every step, those of other plans before the step that brings them."""
    for step in plan.steps:
        other = other_plan(step)
        if other is not None:
            yield from all_steps(other)
        yield step


def tables_of(plan: Plan) -> list[str]:
    """Tables a plan reads, in order, each once."""
    return list(dict.fromkeys(step.table for step in all_steps(plan) if isinstance(step, Take)))


def is_one_row(plan: Plan) -> bool:
    """True for a plan that gives one row whatever the data: its last group has no columns to group by."""
    last = next((s for s in reversed(plan.steps) if not isinstance(s, (Derive, Pick, Window, Sort, Limit))), None)
    return isinstance(last, Group) and not last.by
