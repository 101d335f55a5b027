"""Questions about the data themselves: which tables and columns there are, what they hold, how they hang together."""

from __future__ import annotations

import datetime as dt
import functools

from gumption.core.model.catalogue import Catalogue, Column, Table
from gumption.core.model.names import plural
from gumption.core.model.types import Role, Type
from gumption.core.plan.words import date_words, listed, spoken
from gumption.core.reading import lexicon
from gumption.core.reading.schema import Nouns
from gumption.core.reading.tokens import Token, stem
from gumption.core.reading.vocabulary import name_parts

_SMALL = frozenset(
    ["what", "which", "these", "all", "how", "many", "what's", "contain", "contains", "hold", "holds", "kind", "mean", "by", "whats", "ask"]
)  # fmt: skip
"""Words of such questions that are small words nowhere else."""
_COLUMNS = frozenset(
    ["column", "columns", "field", "fields", "variables", "attributes", "headings", "headers", "schema"]
)
_TABLES = frozenset(["table", "tables", "sheet", "sheets", "files", "datasets"])
_DATA = frozenset(["data", "dataset", "file", "information", "workspace", "everything"])
_TELLING = frozenset(["describe", "overview", "inside", "explain", "structure", "introduce", "begin", "start"])
_LINKS = frozenset(["connected", "linked", "related", "joined", "joins", "links", "relationships", "connect"])
_FRESH = frozenset(["fresh", "updated", "recent", "newest"])
_SPANNED = frozenset(["range", "period", "cover", "covers", "span", "spans", "timeframe", "dates"])
_GAPS = frozenset(["quality", "holes", "gaps", "blanks", "missing", "incomplete", "trust", "problems"])
_TOPICS = _COLUMNS | _TABLES | _DATA | _TELLING | _LINKS | _FRESH | _SPANNED | _GAPS
_KINDS_SHOWN = 6


def told_about(tokens: list[Token], catalogue: Catalogue, nouns: Nouns) -> str | None:
    """What the data are, where a question asks that and nothing else; None for one that asks for an answer from them."""
    words = [t.lower for t in tokens if t.kind == "word"]
    said = set(words)
    if len(words) != len([t for t in tokens if t.kind != "symbol"]):
        return None
    if words[:1] in (["as"], ["in"], ["into"], ["with"], ["just"], ["only"]):
        # As columns, just the table: how an answer is to look.
        return None
    table, left = _named_table(words, catalogue)
    asked = left & (_TABLES | _DATA | _TELLING)
    if not left <= _known_words() or {stem(w) for w in (left & _TOPICS) - {"dates"}} & _names(catalogue):
        # A farm's fields and an hotel's tables are no columns and no files.
        return None
    if left & _COLUMNS:
        return _columns(table) if table is not None else "\n\n".join(_columns(t) for t in catalogue.tables)
    if left & _LINKS and table is not None:
        return _links(catalogue, table)
    if left & _GAPS and (table is not None or left & _DATA) and "missing" not in left:
        return _gaps([table] if table is not None else list(catalogue.tables))
    if left & _FRESH and left & (_DATA | {"this"}):
        return _dated(catalogue, whole=False)
    if left & _SPANNED and left & (_DATA | {"this"}):
        return _dated(catalogue, whole=True)
    if table is not None and left & (_TELLING | {"table"}) and not {"many", "start", "begin"} & said:
        return _columns(table)
    if table is not None:
        return None
    if len(catalogue.tables) == 1 and said & {"show", "list", "give"}:
        # The rows of the only table are what is asked for.
        return None
    if asked & (_TABLES | _DATA | (_TELLING - {"inside"})) or {"can", "ask"} <= said or words[-1:] == ["here"]:
        return _tables(catalogue, nouns)
    return None


@functools.cache
def _known_words() -> frozenset[str]:
    """Every word that a question about the data may have besides the names of tables."""
    return lexicon.chatter() | lexicon.fillers() | _SMALL | _TOPICS


def _names(catalogue: Catalogue) -> set[str]:
    """The stems of the words of which tables and columns are called."""
    things: list[Table | Column] = [*catalogue.tables, *(c for t in catalogue.tables for c in t.columns)]
    return {stem(w) for thing in things for w in (*name_parts(thing.name), *thing.display.lower().split())}


def _named_table(words: list[str], catalogue: Catalogue) -> tuple[Table | None, set[str]]:
    """The table that is called by some of the words, and the words that are left."""
    said, best, own = set(words), None, frozenset[str]()
    for table in catalogue.tables:
        called = frozenset([*spoken(table.name).lower().split(), *table.display.lower().split()])
        if called <= said and len(called) > len(own):
            best, own = table, called
    return best, said - own


def _called(thing: Table | Column) -> str:
    return thing.display or spoken(thing.name)


def _tables(catalogue: Catalogue, nouns: Nouns) -> str:
    lines = [f"There {'is one table' if len(catalogue.tables) == 1 else f'are {len(catalogue.tables)} tables'} here:"]
    for table in catalogue.tables:
        time = table.time_column
        dates = f", {_called(time)} from {_span(time)}" if time is not None and time.low is not None else ""
        above = [spoken(r.other) for r in catalogue.parents(table.name)]
        joined = f", pointing at {listed(list(dict.fromkeys(above)))}" if above else ""
        lines.append(
            f"• {_called(table)}: {plural(table.rows, 'row')}, {plural(len(table.columns), 'column')}{dates}{joined}"
        )
    example = _example(catalogue, nouns)
    return "\n".join([*lines, *([example] if example else [])])


def _example(catalogue: Catalogue, nouns: Nouns) -> str:
    """A question or two that can be asked of the table with most to tell."""
    if not nouns.facts:
        return ""
    table = next((t for t in catalogue.tables if t.name == nouns.facts[0]), catalogue.tables[0])
    kinds = next((c for c in table.columns if c.role.is_category and 2 <= c.distinct <= 30), None)
    amount = next((c for c in table.columns if c.is_measure), None)
    asks = [f"how many {_called(table)}"]
    if amount is not None and kinds is not None:
        asks.append(f"average {_called(amount)} by {_called(kinds)}")
    return f"Ask for example “{'” or “'.join(asks)}”; “columns of {_called(table)}” tells what it holds."


def _columns(table: Table) -> str:
    lines = [f"{_called(table)} has {plural(table.rows, 'row')} and {plural(len(table.columns), 'column')}:"]
    return "\n".join([*lines, *(f"• {_called(c)}: {_holds(c)}" for c in table.columns)])


def _holds(column: Column) -> str:
    """What stands in a column, in a few words."""
    missing = f", missing in {column.missing:,}" if column.missing else ""
    meaning = f" ({column.description.strip().rstrip('.')})" if column.description.strip() else ""
    match column.type:
        case Type.BOOLEAN:
            return f"yes or no{missing}{meaning}"
        case Type.DATE | Type.TIMESTAMP | Type.TIME:
            return f"{_span(column)}{missing}{meaning}" if column.low is not None else f"empty{meaning}"
        case Type.TEXT if column.role in (Role.IDENTIFIER, Role.NAME):
            return f"{column.distinct:,} different, one for each row{missing}{meaning}"
        case Type.TEXT if column.role is Role.LINK:
            return f"{column.distinct:,} different, pointing at another table{missing}{meaning}"
        case Type.TEXT:
            kinds = listed([f"“{v}”" for v in column.values[:_KINDS_SHOWN]])
            more = f"{column.distinct:,} different" + (f", such as {kinds}" if kinds else "")
            return f"{more}{missing}{meaning}"
        case _:
            unit = f" {column.unit}" if column.unit else ""
            span = f"{column.low} to {column.high}{unit}" if column.low is not None else "empty"
            return f"{span}{missing}{meaning}"


def _span(column: Column) -> str:
    return f"{_day(str(column.low))} to {_day(str(column.high))}"


def _day(text: str) -> str:
    try:
        return date_words(dt.date.fromisoformat(text[:10]))
    except ValueError:
        return text[:8]


def _links(catalogue: Catalogue, table: Table) -> str:
    lines = [
        f"• each of {spoken(r.table)} has one of {spoken(r.other)}, by {spoken(r.column)}"
        for r in catalogue.relationships
        if table.name in (r.table, r.other)
    ]
    return "\n".join([f"{_called(table)} hangs together with:", *lines]) if lines else f"{_called(table)} stands alone."


def _gaps(tables: list[Table]) -> str:
    found = [
        f"• {_called(c)} of {_called(t)}: missing in {c.missing:,} of {t.rows:,}"
        for t in tables
        for c in t.columns
        if c.missing
    ]
    return "\n".join(["Values that are missing:", *found]) if found else "No value is missing."


def _dated(catalogue: Catalogue, *, whole: bool) -> str:
    """Up to when the tables tell, and from when on where the whole time is asked for."""
    lines = [
        f"• {_called(t)}: {_called(t.time_column)}"
        f"{f' from {_day(str(t.time_column.low))} to' if whole else ' up to'} {_day(str(t.time_column.high))}"
        for t in catalogue.tables
        if t.time_column is not None and t.time_column.high is not None
    ]
    head = "The dates are:" if whole else "The latest dates are:"
    return "\n".join([head, *lines]) if lines else "No table has a date."
