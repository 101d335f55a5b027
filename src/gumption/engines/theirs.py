"""SQL that a person wrote: what of it may run, and its result, which is theirs and not checked."""

from __future__ import annotations

import re
from collections.abc import Collection
from dataclasses import dataclass

import duckdb
import sqlglot
from sqlglot import exp
from sqlglot.errors import SqlglotError

from gumption.core.model.types import Role, Type, Value
from gumption.core.plan.fields import Field
from gumption.engines.duck import DuckEngine
from gumption.engines.errors import CannotAnswer
from gumption.engines.limits import Stop

MOST_ROWS = 100_000
MOST_BYTES = 20_000_000
"""Characters of all cells together that a result may have."""
_SHOWN = 1_000
_FORBIDDEN = re.compile(
    r"^(read_|pg_|duckdb_|pragma_|glob$|query|getenv|current_setting|set_|nextval|sniff_|parquet_|arrow_)", re.I
)
_NOT_READING = (exp.Into, exp.Lock, exp.DML, exp.DDL, exp.Command, exp.Parameter, exp.Placeholder)
_TABLE_FUNCTIONS = {"unnest", "range", "generate_series", "explode", "explodinggenerateseries", "generateseries"}
_INTEGER = re.compile(r"U?(TINY|SMALL|BIG|HUGE)?INT(EGER)?$")
_TYPES = {
    "VARCHAR": Type.TEXT,
    "BOOLEAN": Type.BOOLEAN,
    "DATE": Type.DATE,
    "TIME": Type.TIME,
    "DOUBLE": Type.FLOAT,
    "FLOAT": Type.FLOAT,
}


@dataclass(frozen=True)
class Theirs:
    """The result of a person's SQL."""

    schema: dict[str, Field]
    rows: list[tuple[Value, ...]]
    """The first of them, to be shown."""
    total: int
    whole: bool
    """False where there were more than `total`, which is as far as they were fetched."""


def check_select(sql: str, tables: Collection[str]) -> None:
    """Let one read-only SELECT over the workspace's tables pass. Raises CannotAnswer that says what is in the way."""
    try:
        trees = [tree for tree in sqlglot.parse(sql, dialect="duckdb") if tree is not None]
    except (SqlglotError, RecursionError) as error:
        raise CannotAnswer(f"The SQL cannot be read: {_first_line(error)}") from error
    if len(trees) != 1 or not isinstance(trees[0], exp.Query):
        raise CannotAnswer("Only one SELECT can be run here.", "Nothing can be written, changed or set.")
    own = {cte.alias_or_name.lower() for cte in trees[0].find_all(exp.CTE)}
    for name in own:
        # A part that is called like a file or a list of the engine's own could stand in for it elsewhere in the query.
        if _FORBIDDEN.match(name) or not name.isidentifier():
            raise CannotAnswer(f"A part cannot be called {name}.", "Give it a plain name of your own.", found=name)
    known = {table.lower() for table in tables}
    for node in trees[0].walk():
        if isinstance(node, _NOT_READING) and not isinstance(node, exp.Query):
            raise CannotAnswer("Only reading is possible here: no INTO, no locks, no parameters.")
        if isinstance(node, exp.Table):
            _check_table(node, known | own, tables)
        elif isinstance(node, exp.Func):
            name = node.name if isinstance(node, exp.Anonymous) else node.sql_name()
            if _FORBIDDEN.match(name):
                raise CannotAnswer(f"{name} cannot be used here: it reaches beyond the workspace's tables.", found=name)


def _check_table(node: exp.Table, known: set[str], tables: Collection[str]) -> None:
    if isinstance(node.this, exp.Func):
        name = node.this.name if isinstance(node.this, exp.Anonymous) else node.this.sql_name()
        if name.lower() not in _TABLE_FUNCTIONS:
            raise _not_one_of(f"{name} cannot be read from.", name, tables)
    elif node.args.get("db") is not None or node.name.lower() not in known:
        given = node.sql(dialect="duckdb")
        raise _not_one_of(f"There is no table {given}.", given, tables)


def _not_one_of(problem: str, given: str, tables: Collection[str]) -> CannotAnswer:
    return CannotAnswer(problem, f"The tables are {', '.join(tables)}.", found=given, accepted=list(tables))


def run_theirs(sql: str, tables: Collection[str], engine: DuckEngine, stop: Stop) -> Theirs:
    """The first rows of a person's SELECT. Raises CannotAnswer."""
    check_select(sql, tables)
    try:
        columns, rows, whole = engine.run_theirs(sql, MOST_ROWS, MOST_BYTES, stop)
    except duckdb.Error as error:
        raise CannotAnswer(f"The engine does not take this: {_first_line(error)}") from error
    if not rows and not whole:
        raise CannotAnswer("Its first row alone is too large to be shown.", "Pick fewer columns, or shorten them.")
    schema: dict[str, Field] = {}
    for name, kind in columns:
        while name in schema:
            name += "_2"
        schema[name] = _field(kind)
    shown = [
        tuple(_plain(value, field) for value, field in zip(row, schema.values(), strict=True)) for row in rows[:_SHOWN]
    ]
    return Theirs(schema, shown, len(rows), whole)


def _field(kind: str) -> Field:
    if kind.startswith("DECIMAL"):
        return Field(Type.DECIMAL, Role.QUANTITY, int(kind.rstrip(")").split(",")[1]))
    if kind.startswith("TIMESTAMP"):
        return Field(Type.TIMESTAMP, Role.DATE)
    if _INTEGER.match(kind):
        return Field(Type.INTEGER, Role.QUANTITY)
    found = _TYPES.get(kind, Type.TEXT)
    return Field(found, Role.QUANTITY if found.is_number else Role.DATE if found.is_time else Role.TEXT)


def _plain(value: Value, field: Field) -> Value:
    """Lists, intervals and the like as text."""
    if value is None or (isinstance(value, float) and value != value):
        return None
    return str(value) if field.type is Type.TEXT else value


def _first_line(error: Exception) -> str:
    text = re.sub(r"\x1b\[\d*m", "", str(error)).strip().splitlines()
    return text[0][:300] if text else "no reason was given"
