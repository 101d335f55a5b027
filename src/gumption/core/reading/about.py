"""Questions about the data themselves: which tables and columns there are, what they hold, how they hang together."""

from __future__ import annotations

import datetime as dt
import functools
import itertools
from collections.abc import Callable

from gumption.core.model.catalogue import Catalogue, Column, Table
from gumption.core.model.names import plural
from gumption.core.model.types import Role, Type
from gumption.core.plan.words import date_words, listed, spoken
from gumption.core.reading import lexicon
from gumption.core.reading.schema import Nouns
from gumption.core.reading.suggesting import beyond_figures, worth_asking_of
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
_GAPS = frozenset(["quality", "holes", "gaps", "blanks", "missing", "trust", "problems"])
_MEANING = frozenset(
    ["mean", "means", "meaning", "meanings", "definition", "define", "stands", "stand", "worked", "refer"]
)
_UNIT = frozenset(["unit", "units", "measured", "currency"])
_VALUES = frozenset(["values", "value", "take", "options", "possible", "inside"])
_REPEATS = frozenset(["duplicates", "duplicate", "duplicated", "repeats", "doubles", "twice"])
_SIZE = frozenset(["rows", "columns", "records", "lines", "big", "large", "long", "size"])
_SOURCE = frozenset(["source", "sources", "come", "came", "comes", "origin"])
_EXAMPLES = frozenset(["ideas", "examples", "suggestions", "suggest", "ask", "questions", "new"])
_COVERED = frozenset(["complete", "whole", "partial", "part"])
_TOPICS = (
    _COLUMNS | _TABLES | _DATA | _TELLING | _LINKS | _FRESH | _SPANNED | _GAPS | _MEANING | _UNIT | _VALUES | _REPEATS
    | _SIZE | _SOURCE | _EXAMPLES | _COVERED
)  # fmt: skip
_AROUND = frozenset(
    ["talking", "these", "those", "there", "where", "each", "one", "when", "last", "does", "else", "every", "min", "max", "so", "on",
     "count", "getting", "numbers", "figures", "some", "first", "few", "tells", "analysis", "analyse", "analyze", "explore", "worth", "asking", "can", "if", "something", "run", "runs", "until", "till"]
)  # fmt: skip
"""Words that stand around the topic of such questions."""
_IN_WORDS = frozenset(["describe", "overview", "introduce"])
"""What the rows say is told then, and not how they are laid out."""
_KINDS_SHOWN = 6
_IDEAS, _IDEAS_OF_MANY, _TABLES_WITH_IDEAS = 8, 3, 3
_MOST_KINDS = 200


def told_about(tokens: list[Token], catalogue: Catalogue, nouns: Nouns, is_sure: Callable[[str], bool]) -> str | None:
    """What the data are, where a question asks that and nothing else; None for one that asks for an answer from them.

    `is_sure` tells whether a question that is put before the person would be read without a doubt.
    """
    words = [t.lower for t in tokens if t.kind == "word"]
    years = [int(t.number) for t in tokens if t.kind == "number" and t.number is not None and 1900 < t.number < 2200]
    said = set(words)
    if len(words) + len(years) != len([t for t in tokens if t.kind != "symbol"]):
        return None
    if words[:1] in (["as"], ["in"], ["into"], ["with"], ["just"], ["only"]):
        # As columns, just the table: how an answer is to look.
        return None
    table, column, left = _named(words, catalogue)
    if not left <= _known_words():
        return None
    if {stem(w) for w in (left & _TOPICS) - {"dates"}} & _names(catalogue):
        # A farm's fields and an hotel's tables are no columns and no files.
        return None
    if years:
        asked = table is None and column is None and left & (_DATA | _COVERED)
        return _covered(years, catalogue) if asked else None
    if column is not None:
        return _of_column(column, left, said)
    return _of_tables(table, left, words, catalogue, nouns, is_sure)


def _of_column(column: tuple[Table, Column], left: set[str], said: set[str]) -> str | None:
    """What is asked about a column: its meaning, its unit, its values or its gaps."""
    table, own = column
    meant = left & (_MEANING - {"mean"}) or ("mean" in left and {"does", "do"} & said)
    # Units by item are so many of each, and nothing that an item is measured in.
    measured = left & _UNIT if own.type.is_number and not {"by", "per", "each"} & said else set()
    asked = bool(meant or measured) and not {"average", "total", "many"} & said
    # The kinds that there are of something are listed, one a row.
    values = bool(left & {"values", "options"} and left & {"take", "possible"} and not own.role.is_category)
    values = values or {"inside", "column"} <= left
    trusted = bool(left & (_GAPS - {"missing"})) or {"tells", "column"} <= said
    if not (asked or values or trusted):
        return None
    lines = [f"{_called(own)} of {_called(table)}: {_holds(own)}."]
    if own.unit is None and left & _UNIT:
        lines.append("Nothing in the file says in what it is measured.")
    if left & _MEANING and not own.description.strip():
        lines.append("Nobody has said yet what it means; a description can be given beside the column.")
    if left & _GAPS:
        lines.append(_gaps([table.model_copy(update={"columns": (own,)})]))
    return "\n".join(lines)


def _of_tables(
    table: Table | None,
    left: set[str],
    words: list[str],
    catalogue: Catalogue,
    nouns: Nouns,
    is_sure: Callable[[str], bool],
) -> str | None:
    """What is asked about a table, or about everything that is here."""
    said = set(words)
    tables = [table] if table is not None else list(catalogue.tables)
    if left & _REPEATS and not left & _COLUMNS:
        return "\n".join(map(_repeats, tables))
    if {"one", "row"} <= said and table is not None and left & {"what", "row"}:
        return f"One row of {_called(table)} is {_grain(table)}."
    big = {"how", "big"} <= said and left <= {"how", "big", "is", "are", "the", "data", "dataset", "file", "table"}
    if big or ({"how", "many"} <= said and {"rows", "columns"} <= left):
        return "\n".join(f"{_size(t)}." for t in tables)
    if table is None and left & _SOURCE and left & (_DATA | {"numbers", "figures", "these", "this"}):
        return "\n".join(f"{_called(t)} comes from {t.source}." for t in tables)
    begins = (
        (said & {"could", "can", "should"} and said & {"analyse", "analyze", "explore"})
        or {"new", "start"} <= said
        or {"new", "begin"} <= said
        or ("ask" in said and said & {"can", "could", "should"})
    )
    if left & {"ideas", "examples", "suggestions", "suggest"} or (begins and "many" not in said):
        return _ideas(table, catalogue, nouns, is_sure)
    if left & _COLUMNS:
        return "\n\n".join(map(_columns, tables))
    if left & _LINKS and table is not None:
        return _links(catalogue, table)
    if left & _GAPS and (table is not None or left & _DATA) and "missing" not in left and not {"many", "much"} & said:
        return _gaps(tables)
    if left & _FRESH and left & (_DATA | {"this", "these"}):
        return _dated(catalogue, whole=False)
    if left & _SPANNED and left & (_DATA | {"this"}):
        return _dated(catalogue, whole=True)
    if {"from", "to", "when"} <= said and left & _DATA:
        return _dated(catalogue, whole=True)
    laid_out = left & (_TELLING | {"table"}) and not (left & _IN_WORDS and "table" not in left)
    if table is not None and laid_out and not {"many", "start", "begin"} & said:
        return _columns(table)
    if table is not None or not left <= _known_words() - _MEANING - _UNIT - _REPEATS:
        return None
    if len(catalogue.tables) == 1 and said & {"show", "list", "give"}:
        # The rows of the only table are what is asked for.
        return None
    asked = left & (_TABLES | _DATA | (_TELLING - {"inside"}))
    if asked or words[-1:] == ["here"]:
        return _tables(catalogue, nouns)
    return None


@functools.cache
def _known_words() -> frozenset[str]:
    """Every word that a question about the data may have besides the names of tables."""
    return lexicon.chatter() | lexicon.fillers() | _SMALL | _TOPICS | _AROUND


def _names(catalogue: Catalogue) -> set[str]:
    """The stems of the words of which tables, columns and kinds are called."""
    columns = [c for t in catalogue.tables for c in t.columns]
    things: list[Table | Column] = [*catalogue.tables, *columns]
    kinds = (v for c in columns if c.role.is_category and c.distinct <= _MOST_KINDS for v in c.values)
    words = (w for thing in things for w in (*name_parts(thing.name), *thing.display.lower().split()))
    return {*map(stem, words), *(stem(w) for value in kinds for w in value.lower().split())}


def _named(words: list[str], catalogue: Catalogue) -> tuple[Table | None, tuple[Table, Column] | None, set[str]]:
    """The table, or else the column, that is called by some of the words, and the words that are left."""
    said = {*words, *(w.removesuffix("s") for w in words if len(w) > 3)}
    best: tuple[Table, Column | None] | None = None
    own = frozenset[str]()
    for table in catalogue.tables:
        things: list[Table | Column] = [table, *table.columns]
        for thing in things:
            for name in (spoken(thing.name), thing.display):
                called = frozenset(name.lower().split())
                if called and called <= said and len(called) > len(own):
                    best, own = (table, thing if isinstance(thing, Column) else None), called
    left = {w for w in words if w not in own and w.removesuffix("s") not in own}
    if best is None:
        return None, None, left
    table, column = best
    return (table, None, left) if column is None else (None, (table, column), left)


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


def _ideas(table: Table | None, catalogue: Catalogue, nouns: Nouns, is_sure: Callable[[str], bool]) -> str:
    """Questions worth asking of a table, or of those with most to tell."""
    main = [catalogue.table(name) for name in nouns.facts[:_TABLES_WITH_IDEAS]]
    tables = [table] if table is not None else main or list(catalogue.tables[:_TABLES_WITH_IDEAS])
    most = _IDEAS if len(tables) == 1 else _IDEAS_OF_MANY
    parts = []
    for of in tables:
        plain = itertools.islice(
            filter(is_sure, itertools.islice(worth_asking_of(of, catalogue), 1, None)), most // 2 + 1
        )
        beyond = itertools.islice(filter(is_sure, beyond_figures(of, catalogue)), most - most // 2)
        asked = [f"• “{question}”" for question in (*plain, *beyond)]
        if asked:
            parts.append("\n".join([f"Of {_called(of)}:", *asked]))
    return "\n\n".join(["What may be worth asking:", *parts]) if parts else _tables(catalogue, nouns)


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


def _size(table: Table) -> str:
    return f"{_called(table)} has {plural(table.rows, 'row')} and {plural(len(table.columns), 'column')}"


def _columns(table: Table) -> str:
    lines = [f"{_size(table)}:"]
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


def _repeats(table: Table) -> str:
    """Whether rows of a table can be told apart."""
    if table.key is not None and table.key.tells_apart(table.rows):
        return f"No row of {_called(table)} stands twice: each has a {_called(table.key)} of its own."
    if table.key is not None:
        return (
            f"{_called(table)} has {plural(table.rows, 'row')} and {table.key.distinct:,} different "
            f"{_called(table.key)}, so some of these stand on several rows."
        )
    return f"Nothing in {_called(table)} tells its rows apart, so rows that are alike could not be told from copies."


def _grain(table: Table) -> str:
    """What one row of a table is."""
    key = table.key
    return f"one {_called(key)}" if key is not None and key.tells_apart(table.rows) else "one line of the file"


def _covered(years: list[int], catalogue: Catalogue) -> str | None:
    """Whether there is something of a year, and whether all of it."""
    lines = []
    for table in catalogue.tables:
        time = table.time_column
        if time is None or time.low is None or time.high is None:
            continue
        low, high = time.low[:10], time.high[:10]
        for year in years:
            first, last = f"{year}-01-01", f"{year}-12-31"
            if high < first or low > last:
                lines.append(f"• {_called(table)}: nothing of {year}; {_called(time)} goes from {_span(time)}")
            elif low > f"{year}-01-31" or high < f"{year}-12-01":
                begins, ends = max(low, first), min(high, last)
                lines.append(f"• {_called(table)}: of {year} only {_day(begins)} to {_day(ends)}")
            else:
                lines.append(f"• {_called(table)}: {year} from {_day(max(low, first))} to {_day(min(high, last))}")
    return "\n".join(["By the dates that there are:", *lines]) if lines else None


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
