"""Statements that are rated on one scale, a column each, read as if each rating stood on a row of its own.

The table stays as it is, and may be asked about by its columns; beside it stands one of the ratings, which names the
statement, and one of those that nobody gave. A plan made over these takes the table and lays its columns out first.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from gumption.core.model.catalogue import Catalogue, Column, Relationship, Table
from gumption.core.model.names import free_name
from gumption.core.model.types import Role, Type
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.steps import Pick, Picked, Step, Take
from gumption.core.plan.words import spoken
from gumption.core.reading import meaning as m
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.pieces import Agreed, Statements

FEWEST = 4
"""So many columns on one scale are no chance."""
_MOST_GRADES = 11
_NUMBERED = re.compile(r"(?P<start>[A-Za-z_ ]*?)[ _-]?(?P<number>\d{1,2})[a-z]?")
_SAYS_MORE = re.compile(r"\s*[;(].*$|\s+\d\s*[=–-].*$", re.DOTALL)
"""What a description says of the scale, behind the statement itself."""
_FEWEST_WORDS = 3
STATEMENT, RATING, BLANK = "statement", "rating", "blank statement"
_AGREEING = (
    "agree",
    "agrees",
    "agreed",
    "agreeing",
    "in agreement",
    "positive",
    "are positive",
    "favourable",
    "satisfied",
)
_DISAGREEING = (
    "disagree",
    "disagrees",
    "disagreed",
    "disagreeing",
    "negative",
    "are negative",
    "unfavourable",
    "dissatisfied",
)
SAID_FOR_STATEMENT = ("item", "question", "aspect", "survey item", "survey question")
SAID_FOR_RATING = ("score", "agreement", "answer")


@dataclass(frozen=True)
class Battery:
    """Columns of ratings on one scale, what each of them states, and the columns that they are laid out as."""

    table: str
    columns: tuple[str, ...]
    labels: tuple[str, ...]
    key: str
    low: int
    high: int
    blank: bool = False
    """True for the ratings that are not there."""

    def steps(self) -> tuple[Step, ...]:
        """From the table as it is to a row for each rating, or for each that is missing."""
        named = free_name("column", {self.key, STATEMENT, RATING})
        cases = tuple(
            ex.Branch(
                when=ex.Compare(op="=", left=ex.ColumnRef(name=named), right=ex.Constant(type=Type.TEXT, value=column)),
                then=ex.Constant(type=Type.TEXT, value=label),
            )
            for column, label in zip(self.columns, self.labels, strict=True)
        )
        missing: ex.Expression = ex.IsMissing(value=ex.ColumnRef(name=RATING))
        statement = BLANK if self.blank else STATEMENT
        shown = (self.key, BLANK) if self.blank else (self.key, STATEMENT, RATING)
        return (
            Take(table=self.table),
            st.Unpivot(columns=self.columns, name=named, value=RATING),
            st.Keep(condition=missing if self.blank else ex.Negated(item=missing)),
            st.Derive(name=statement, expression=ex.Case(branches=cases)),
            Pick(columns=tuple(Picked(column=c, name=c) for c in shown)),
        )


def with_batteries(catalogue: Catalogue) -> tuple[Catalogue, dict[str, Battery]]:
    """The catalogue with a table of ratings for each battery of statements, and how each is laid out, by its name."""
    tables, links = list(catalogue.tables), list(catalogue.relationships)
    taken = {t.name for t in tables}
    found: dict[str, Battery] = {}
    for table in catalogue.tables:
        battery = _battery(table)
        if battery is None:
            continue
        for blank in (False, True):
            one = Battery(battery.table, battery.columns, battery.labels, battery.key, battery.low, battery.high, blank)
            gaps = sum(table.column(c).missing for c in battery.columns)
            if blank and not gaps:
                continue
            name = free_name("blank ratings" if blank else "statement ratings", taken)
            taken.add(name)
            found[name] = one
            tables.append(_laid(table, one, name, gaps))
            links.append(
                Relationship(
                    table=name, column=one.key, other=table.name, other_column=one.key, match_rate=1.0, unmatched=0
                )
            )
    return (Catalogue(tables=tuple(tables), relationships=tuple(links)), found) if found else (catalogue, {})


def _graded(rating: m.Col, low: int, high: int) -> Iterator[tuple[tuple[str, ...], m.Condition]]:
    """The words for each side of a scale, with what they mean of a rating; none where it has no middle."""
    if not 3 <= high - low <= 6:
        return
    middle = (low + high) / 2
    above, below = m.Compared(">", rating, m.Number(middle)), m.Compared("<", rating, m.Number(middle))
    yield _AGREEING, above
    yield _DISAGREEING, below
    yield ("strongly agree", "fully agree", "agree strongly"), m.Compared("=", rating, m.Number(float(high)))
    yield ("strongly disagree", "disagree strongly"), m.Compared("=", rating, m.Number(float(low)))
    if middle.is_integer():
        yield (
            ("neither agree nor disagree", "neutral", "are neutral", "undecided"),
            m.Compared("=", rating, m.Number(middle)),
        )


def statements_of(catalogue: Catalogue, name: str) -> Statements | None:
    """The statements and their ratings of a table of such; None for any other."""
    told = [c.name for c in catalogue.table(name).columns]
    if told[1:] != [STATEMENT, RATING]:
        return None
    return Statements(ColumnKey(name, STATEMENT), ColumnKey(name, RATING))


def blanks_of(catalogue: Catalogue, name: str) -> ColumnKey | None:
    """The statements that nobody rated, in a table of such; None for any other."""
    return ColumnKey(name, BLANK) if [c.name for c in catalogue.table(name).columns][1:] == [BLANK] else None


def is_of_ratings(catalogue: Catalogue, name: str) -> bool:
    """True for a table of ratings, or of those that nobody gave."""
    told = [c.name for c in catalogue.table(name).columns]
    return told[1:] in ([STATEMENT, RATING], [BLANK])


def agreements(catalogue: Catalogue, name: str) -> Iterator[tuple[tuple[str, ...], Agreed]]:
    """(words, what they mean) for agreeing and its opposite, on the ratings of a table."""
    found = statements_of(catalogue, name)
    if found is None:
        return
    column = catalogue.table(name).column(RATING)
    rating = m.Col(found.rating)
    for phrases, condition in _graded(rating, int(column.low or 0), int(column.high or 0)):
        yield from ((tuple(phrase.split()), Agreed(condition, found.rating)) for phrase in phrases)


def _battery(table: Table) -> Battery | None:
    """The longest run of columns on one scale that are numbered alike, or whose names or descriptions are sentences."""
    if table.key is None:
        return None
    best: tuple[Column, ...] = ()
    scales: dict[tuple[str, str], list[Column]] = {}
    for column in table.columns:
        if _is_graded(column):
            scales.setdefault((str(column.low), str(column.high)), []).append(column)
    for columns in scales.values():
        for run in (*_numbered(columns), tuple(c for c in columns if _states(c))):
            if len(run) >= FEWEST and len(run) > len(best):
                best = run
    if not best:
        return None
    labels = tuple(_label(c) for c in best)
    if len(set(labels)) < len(labels):
        labels = tuple(c.name for c in best)
    low, high = int(best[0].low or 0), int(best[0].high or 0)
    return Battery(table.name, tuple(c.name for c in best), labels, table.key.name, low, high)


def _is_graded(column: Column) -> bool:
    """True for whole numbers of a short scale."""
    if column.type is not Type.INTEGER or column.low is None or column.high is None:
        return False
    low, high = int(column.low), int(column.high)
    return low in (0, 1) and 3 <= high <= 10 and column.distinct <= _MOST_GRADES and column.role is not Role.IDENTIFIER


def _numbered(columns: list[Column]) -> Iterator[tuple[Column, ...]]:
    """Columns that are called alike and numbered: q1 to q12."""
    runs: dict[str, list[Column]] = {}
    for column in columns:
        if told := _NUMBERED.fullmatch(column.name.strip()):
            runs.setdefault(told["start"].lower(), []).append(column)
    yield from (tuple(run) for run in runs.values())


def _states(column: Column) -> bool:
    """True for a column whose name is a sentence, or whose short name is said to be one."""
    return len(spoken(column.name).split()) > _FEWEST_WORDS


def _label(column: Column) -> str:
    said = _SAYS_MORE.sub("", column.description).strip()
    return said if len(said.split()) >= _FEWEST_WORDS else spoken(column.name)


def _laid(table: Table, battery: Battery, name: str, gaps: int) -> Table:
    """The table of ratings as it would be."""
    rated = [table.column(c) for c in battery.columns]
    key = table.column(battery.key).model_copy(update={"role": Role.CODE})
    statement = Column(
        name=BLANK if battery.blank else STATEMENT,
        type=Type.TEXT,
        role=Role.CATEGORY,
        distinct=len(battery.labels),
        values=battery.labels,
        synonyms=SAID_FOR_STATEMENT,
    )
    rating = Column(
        name=RATING,
        type=Type.INTEGER,
        role=Role.SCORE,
        distinct=max(c.distinct for c in rated),
        low=str(battery.low),
        high=str(battery.high),
        synonyms=SAID_FOR_RATING,
    )
    columns = (key, statement) if battery.blank else (key, statement, rating)
    rows = gaps if battery.blank else table.rows * len(rated) - gaps
    synonyms = (
        ("blanks", "blank answers", "unanswered statements", "missing answers") if battery.blank else ("ratings",)
    )
    changes = {"name": name, "rows": rows, "columns": columns, "time": None, "naming": None, "synonyms": synonyms}
    return table.model_copy(update={**changes, "display": "", "source": ""})
