"""The steps of a plan. `docs/plan-format.md` says what each means."""

from __future__ import annotations

from typing import Annotated, Literal, TypeAlias

from pydantic import Field

from gumption.core.plan.expressions import Aggregate, Expression, Node


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
    For inner and left each row must find at most one partner; the checks hold the plan to it.
    """

    step: Literal["join"] = "join"
    other: Plan
    on: tuple[KeyPair, ...] = Field(min_length=1)
    how: Literal["inner", "left", "with", "without"] = "inner"


class Group(Node):
    """One row for each different combination of the columns; without columns, one row for all."""

    step: Literal["group"] = "group"
    by: tuple[str, ...] = ()
    aggregates: tuple[Aggregate, ...] = ()


class SortKey(Node):
    """A column to order by; missing values come last either way."""

    column: str
    descending: bool = False


class Window(Node):
    """A column that looks at other rows: a share of the total, a rank, a running total, or a change.

    `rank` gives ties the same rank; `change` and `change_percent` look at the row before in `order`.
    """

    step: Literal["window"] = "window"
    name: str
    function: Literal["share", "rank", "running_total", "change", "change_percent"]
    column: str
    order: tuple[SortKey, ...] = ()
    within: tuple[str, ...] = ()


class Sort(Node):
    """Rows in order of the keys, ties by the remaining columns from left to right, ascending."""

    step: Literal["sort"] = "sort"
    keys: tuple[SortKey, ...] = Field(min_length=1)


class Limit(Node):
    """The first rows only."""

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
    Take | Keep | Derive | Join | Group | Window | Sort | Limit | Pick, Field(discriminator="step")
]


class Plan(Node):
    """Steps from a `take` onwards; each works on the rows of the one before."""

    version: Literal[1] = 1
    steps: tuple[Step, ...] = Field(min_length=1)

    def then(self, *steps: Step) -> Plan:
        """This plan with more steps behind it."""
        return Plan(steps=(*self.steps, *steps))


Join.model_rebuild()
Plan.model_rebuild()


def tables_of(plan: Plan) -> list[str]:
    """Tables a plan reads, in order, each once."""
    found: dict[str, None] = {}
    for step in plan.steps:
        if isinstance(step, Take):
            found.setdefault(step.table)
        elif isinstance(step, Join):
            found.update(dict.fromkeys(tables_of(step.other)))
    return list(found)
