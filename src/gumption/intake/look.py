"""What a person should see of a table at once: repeated rows, values far out, and the whole in a sentence or two."""

from __future__ import annotations

import datetime as dt
from pathlib import Path

import duckdb
from pydantic import BaseModel, ConfigDict

from gumption.core.model.catalogue import Table
from gumption.core.model.names import plural, singular
from gumption.core.model.types import Role
from gumption.core.plan.words import date_words, listed, spoken
from gumption.intake.sql import literal, quoted

_FENCE = 3.0
"""Interquartile ranges beyond the quartiles from which a value is far out (Tukey, Exploratory Data Analysis, 1977)."""


class Outliers(BaseModel):
    """Values of a column beyond its fences."""

    model_config = ConfigDict(frozen=True)

    column: str
    rows: int
    low: float
    high: float
    examples: tuple[float, ...]


class Look(BaseModel):
    """What a table is at a glance."""

    model_config = ConfigDict(frozen=True)

    words: str
    repeated: int
    """Rows that say in every column what another says."""
    outliers: tuple[Outliers, ...]


def look_at(table: Table, parquet: Path) -> Look:
    """Measure repeated rows and outliers of a table. Identifiers, links and codes have no outliers."""
    source = f"read_parquet({literal(str(parquet))})"
    with duckdb.connect() as connection:
        connection.execute("SET memory_limit = '1GB'")
        repeated = 0
        if not any(c.distinct >= table.rows and not c.missing and table.rows < 300_000 for c in table.columns):
            names = ", ".join(quoted(c.name) for c in table.columns)
            row = connection.execute(
                f"SELECT count(*) - count(DISTINCT key) FROM (SELECT hash({names}) AS key FROM {source})"
            ).fetchone()
            repeated = int(row[0]) if row else 0
        return Look(words=words_for(table), repeated=repeated, outliers=tuple(_outliers(connection, source, table)))


def _outliers(connection: duckdb.DuckDBPyConnection, source: str, table: Table) -> list[Outliers]:
    measures = [c for c in table.columns if c.is_measure and c.distinct > 10]
    if not measures:
        return []
    cells = [f"CAST({quoted(c.name)} AS DOUBLE)" for c in measures]
    part = "" if table.rows <= 1_000_000 else "TABLESAMPLE system(10%)"
    quartiles = connection.execute(
        f"SELECT {', '.join(f'quantile_cont({c}, [0.25, 0.75])' for c in cells)} FROM {source} {part}"
    ).fetchone()
    found = []
    for column, cell, ends in zip(measures, cells, quartiles or (), strict=False):
        if ends is None or ends[1] <= ends[0]:
            continue
        reach = _FENCE * (ends[1] - ends[0])
        low, high = ends[0] - reach, ends[1] + reach
        beyond = f"{cell} < {low!r} OR {cell} > {high!r}"
        row = connection.execute(f"SELECT count(*) FROM {source} WHERE {beyond}").fetchone()
        if row and row[0]:
            examples = connection.execute(
                f"SELECT DISTINCT {cell} FROM {source} WHERE {beyond} ORDER BY abs({cell}) DESC LIMIT 3"
            ).fetchall()
            values = tuple(float(e[0]) for e in examples)
            found.append(Outliers(column=column.name, rows=int(row[0]), low=low, high=high, examples=values))
    return found


def words_for(table: Table) -> str:
    """The table in plain words: what a row is, how many there are, over which time, and what is told of each."""
    noun = spoken(table.display or table.name)
    single = singular(noun)
    several = [c for c in table.columns if c.role is Role.LINK]
    # Only a plural tells what one row is: visits, but not budget.
    one = f"One row {'an' if single[:1] in 'aeiou' else 'a'} {single}: " if single != noun else ""
    text = f"{one}{plural(table.rows, 'row')}"
    time = table.time_column
    if time is not None and time.low and time.high:
        text += f" from {_day(time.low)} to {_day(time.high)} by {spoken(time.name)}"
    text += "."
    measures = [spoken(c.display or c.name) for c in table.columns if c.is_measure][:4]
    if measures:
        text += f" It counts {listed(measures)}."
    if several:
        text += f" It points at other tables by {listed([spoken(c.name) for c in several[:4]])}."
    return text


def _day(text: str) -> str:
    return date_words(dt.date.fromisoformat(text[:10]))
