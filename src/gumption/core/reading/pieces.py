"""What the grammar builds: the pieces of which a question is put together."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, TypeAlias

from gumption.core.model.wish import ChartWish
from gumption.core.reading import meaning as m
from gumption.core.reading.meaning import ColumnKey

SEVERAL = 10
"""How many are shown of those at one end, where more than one is asked for."""


@dataclass(frozen=True)
class Noun:
    """Words that name things: the rows of a table, the values of a column, or something that nothing here is called."""

    table: str | None = None
    key: ColumnKey | None = None
    unknown: str = ""
    kinds: bool = False
    """True where kinds of them are asked for, and not they themselves."""


@dataclass(frozen=True)
class Values:
    """Values of a column that the question names; `partly` where its words are only a part of them."""

    column: ColumnKey
    values: tuple[str | int | float | bool, ...]
    partly: bool = False


@dataclass(frozen=True)
class Amount:
    """A number with its unit, told of a column and in the column's own unit."""

    expr: m.Expr
    number: float


@dataclass(frozen=True)
class Measured:
    """An expression that can be worked out over rows, or that stands on each of them.

    `verb` where only a verb points at it ("sold", "pays"), which says nothing more beside a measure that is named.
    """

    expr: m.Expr
    verb: bool = False
    function: str = ""
    """How it is said to be put together, where it is: the average fee."""


@dataclass(frozen=True)
class Axis:
    """When things count as happened: new customers are of the time of their first order, spending of when it was booked."""

    time: m.Below | m.Col


@dataclass(frozen=True)
class Statements:
    """What people rated in a survey: the column of the statements and that of their ratings."""

    statement: ColumnKey
    rating: ColumnKey
    several: bool = True
    """True where more than one is spoken of."""


@dataclass(frozen=True)
class Agreed:
    """That a rating is one of agreement, or of its opposite."""

    condition: m.Condition
    rating: ColumnKey


@dataclass(frozen=True)
class OwnLink:
    """The row of its own table that a row points at, by what it is called there: a manager, a mother."""

    own: str
    role: str
    """The same table, as what is pointed at."""
    link: ColumnKey
    name: ColumnKey
    """What they are called, in the role."""


@dataclass(frozen=True)
class Shown:
    """A column that is to stand beside what is listed: with the name, the date and the amount."""

    noun: Noun


@dataclass(frozen=True)
class Joined:
    """A measure said beside another quantity: put together as its role says.

    `each` where it is held against that of others: higher salaries are so on average, higher sales in total.
    """

    expr: m.Expr
    each: bool = False


@dataclass(frozen=True)
class Counted:
    """How many of something; `distinct` where different ones are asked for."""

    noun: Noun
    distinct: bool = False
    doings: bool = False
    """True where what happens is counted, whoever or whatever it happens to: how busy they are."""


def as_counted(said: object) -> object:
    """Things that are named are counted; whatever is measured is meant as it is."""
    return Counted(said) if isinstance(said, Noun) else said


@dataclass(frozen=True)
class Worked:
    """A quantity that the words say wholly."""

    quantity: m.Quantity


@dataclass(frozen=True)
class Function:
    """An aggregate whose column is said elsewhere, or is the table's main one."""

    function: str
    percent: float | None = None
    main: bool = False
    """True for "how much", which is of the main measure where nothing else is said."""
    beside: bool = False
    """True where it is asked for beside how many there are."""


@dataclass(frozen=True)
class Part:
    """A condition on rows."""

    condition: m.Condition
    kind: str = "value"
    """value, time, number, state, gap, related or text."""


@dataclass(frozen=True)
class Grouped:
    """For each of something; across where its values are to stand as columns."""

    by: Noun | m.Expr
    across: bool = False


@dataclass(frozen=True)
class Top:
    """The most or least of something, `number` of them; told by `by`, by how many rows there are, or by what is said elsewhere."""

    descending: bool
    number: int | None = None
    by: m.Expr | None = None
    counts: bool = False
    noun: Noun | None = None
    skip: int = 0
    typical: bool = False
    """True where it is told by what one comes to on average: the most expensive treatment is no total."""
    percent: bool = False
    """True where `number` is so many of a hundred of them."""


@dataclass(frozen=True)
class Direction:
    """Which end of the answer comes first, by what the word measures where it measures something."""

    descending: bool
    by: m.Expr | None = None


@dataclass(frozen=True)
class Sorted:
    """What to sort by, and which way."""

    by: Noun | Measured | Worked | Counted | None
    descending: bool | None = None


@dataclass(frozen=True)
class Basis:
    """What the most or the least of something is told by: the five poorest, going by income."""

    by: Measured | Worked | Counted | Ratio | Shared


@dataclass(frozen=True)
class Beside:
    """A quantity seen beside the answer's other rows: share, running, change, change_percent, rank, moving, year_before."""

    kind: str
    number: int = 1


@dataclass(frozen=True)
class Shared:
    """A share of rows or of a sum, whose condition is said elsewhere unless it is here."""

    of: Noun | Measured | None = None
    condition: m.Condition | None = None


@dataclass(frozen=True)
class OfTop:
    """The share of a sum, or of so many rows, that those make up of whom there is the most."""

    of: Measured | Noun
    top: Top
    rank: Counted | None = None
    """What there is most of with them, where it is not what they have the share of."""


@dataclass(frozen=True)
class Asking:
    """A word that asks: list, which, who, where, when."""

    what: str


@dataclass(frozen=True)
class Charted:
    """A chart that the question names, or how it is to look."""

    wish: ChartWish


@dataclass(frozen=True)
class Laid:
    """Columns that are to stand in rows: those named, or those of a table that has one for each month or year."""

    columns: tuple[m.Expr, ...]
    unit: m.Unit | None = None


@dataclass(frozen=True)
class Moment:
    """When the first or the last of those rows was that belong to each thing, or how long ago that is."""

    rows: Noun | None
    """None where it is not said what is done with each: owners that were last here."""
    end: Literal["min", "max"]
    since: bool = False
    ranks: bool = False
    """True where those come first for whom it is longest ago."""


@dataclass(frozen=True)
class Listing:
    """Rows that are listed one by one, with what is to stand beside each."""

    rows: Noun
    columns: tuple[Noun | Measured | Counted | Moment, ...]


@dataclass(frozen=True)
class Kinds:
    """The different values of columns that there are, each combination once."""

    columns: tuple[Noun, ...]


@dataclass(frozen=True)
class Ratio:
    """One quantity for each of something, or to another."""

    top: Worked | Measured | Counted | Part
    bottom: Worked | Measured | Counted | Noun | Part
    times: float = 1.0
    """For every so many of them."""


@dataclass(frozen=True)
class Held:
    """A condition on what is worked out of each group."""

    quantity: Worked | Measured | Counted | Ratio | Rated | Worth | Shared | Part | None
    op: m.Comparison
    right: float | Function | Measured | Worked | Counted | Part
    """A number, what is usual, another quantity, or one of them that is named."""
    or_below: float | None = None
    """Or below this number: outside of two."""
    judged: bool = False
    """True for better and worse: more of what is no trouble, and less of what is."""


@dataclass(frozen=True)
class Beyond:
    """More or less of what is worked out than of something that is still to be said."""

    what: Worked | Measured | Counted | Ratio | Shared | Part
    op: m.Comparison
    judged: bool = False


@dataclass(frozen=True)
class Leading:
    """Those of a kind that lead in something: the clinic with the most visits, all but the three longest boats."""

    kind: Noun
    by: Counted | Measured | None
    descending: bool
    number: int = 1
    skip: int = 0
    others: bool = False
    """True for all the others."""
    below: str | None = None
    """The table of which each must have rows of its own: clinics and their visits, but not boats with their owners."""


@dataclass(frozen=True)
class EndWas:
    """Of those whose first row of a table, or last, was such: contracts whose first payment was by card."""

    rows: Noun
    end: Literal["min", "max"]
    was: m.Condition


HowMany: TypeAlias = Literal["all", "some", "none"]


@dataclass(frozen=True)
class Bounded:
    """All, some or none of the rows of a table, where what one comes to is held against a number."""

    rows: Noun
    how: HowMany
    op: m.Comparison
    number: float


@dataclass(frozen=True)
class InEvery:
    """What a group must have rows of all of: every month, every clinic."""

    of: Noun | m.Unit
    rows: Noun | None = None
    """The rows that they have of each, where it is said which."""


@dataclass(frozen=True)
class Versus:
    """Two conditions held against each other."""

    one: m.Condition | None
    two: m.Condition | None
    implied: bool = False
    """True where the earlier time is not said, and is the one before."""


@dataclass(frozen=True)
class Rated:
    """A measure as a share of what it is out of, such as the clicks of all that was shown."""

    expr: m.Expr
    whole: m.Expr | None = None
    """What it is said to be a share of, else what it is a part of by the data."""


@dataclass(frozen=True)
class Never:
    """No rows that the verb is about belong to what is meant."""

    verb: str


@dataclass(frozen=True)
class Did:
    """What rows of a table did at a time: by a date of their own, or by rows of another table that tell of it."""

    verb: str
    table: str
    time: m.Condition


@dataclass(frozen=True)
class Lapsed:
    """Rows that the verb is about at one time, and none at another; or `again` at the other, or the share that does."""

    verb: str
    then: m.Condition
    not_then: m.Condition
    again: bool = False
    share: bool = False


@dataclass(frozen=True)
class Moved:
    """Only those whose measure rose or fell from one time to another; which times may be said elsewhere."""

    measured: Measured | Counted | None
    up: bool
    versus: Versus | None
    percent: float | None = None
    """By more than so many per cent; None for any change."""


@dataclass(frozen=True)
class Stepped:
    """Only those periods in which something rose or fell on the one before, by so many per cent where that is said."""

    up: bool
    op: m.Comparison = ">"
    percent: float | None = None


@dataclass(frozen=True)
class Shifted:
    """Another time than the one that was asked about: so many units later, or earlier below nought."""

    unit: str
    count: int = -1


Change: TypeAlias = Literal[
    "undo",
    "reset",
    "every row",
    "last",
    "any time",
    "ungrouped",
    "unsorted",
    "by name",
    "unlimited",
    "reversed",
    "negated",
    "plain",
    "count",
    "count of each",
    "drop",
    "all of",
    "back in",
    "number",
    "next",
    "place",
    "half",
    "whole year",
    "over",
    "also",
    "against average",
    "moved",
    "beside",
    "earlier",
    "between",
    "limit",
    "share",
    "rows",
    "known",
]


@dataclass(frozen=True)
class Changed:
    """What is done to the question before: a step back, a condition or group dropped, another number put in."""

    kind: Change
    noun: Noun | None = None
    number: float | None = None
    by: Measured | Worked | Counted | None = None
    values: Values | None = None
    functions: tuple[Function, ...] = ()
    op: m.Comparison | None = None
    condition: m.Condition | None = None
    """What the question before is held against."""
    unit: str = ""
    """The unit of time by which an earlier time lies before it."""


@dataclass(frozen=True)
class Some:
    """How many of what was counted meet a condition."""

    condition: m.Condition


@dataclass(frozen=True)
class Reached:
    """What was planned, held against what came of it."""

    op: m.Comparison
    planned: Measured


@dataclass(frozen=True)
class Told:
    """The unit in which lengths of time are told."""

    unit: m.LengthUnit


@dataclass(frozen=True)
class Worth:
    """What things come to: the average order value is of the totals of orders."""

    function: str
    of: Noun
    percent: float | None = None
    by: Noun | None = None
    """The column that is added up for each; None for what the rows come to."""


@dataclass(frozen=True)
class Marker:
    """A word of conversation: also, instead, only, those, same; `what` is the kind of a verb."""

    kind: str
    what: str = ""


def said_of_each(said: Noun | Part) -> m.Condition | None:
    """What a state, or the name of a column of yes and no, says of a row."""
    if isinstance(said, Part):
        return said.condition
    return m.Is(said.key, (True,)) if said.key is not None else None
