"""Relationships between tables, found by names, types and the values themselves."""

from __future__ import annotations

import functools
import itertools
import re
from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Collection, Iterable, Mapping
from pathlib import Path

import duckdb
from pydantic import BaseModel, ConfigDict

from gumption.core.model.catalogue import Column, Relationship, Table
from gumption.core.model.types import Role, Type
from gumption.intake.roles import parts_of
from gumption.intake.sql import literal, quoted

_SURE, _NAMED = 0.9, 0.5
"""Shares of different values that must find a partner: without and with a likeness of names."""
_WHOLE = 0.999
"""Share of rows that find a partner where none is lacking but by a slip."""
_FEW = 3
_MOST_LOOKS = 40
"""Pairs of columns whose rows are held against each other for codes that are numbers here and text there."""
_PARTS = 4
"""From this many tables with the same columns on, they count as parts of one, which are not joined to each other."""


class Joins:
    """Every many-to-one and one-to-one relationship between tables, as their values show it.

    What was found between tables that have not changed still holds and is not sought again, so that one table more costs
    what it itself costs.
    """

    def __init__(self, tables: Iterable[Table] = (), found: Iterable[Relationship] = ()) -> None:
        """Begin with tables whose relationships are known."""
        self._seen = {t.name: _Seen(t) for t in tables}
        self._found = list(found)

    def forget(self, *names: str) -> None:
        """Seek the relationships of these tables anew."""
        for name in names:
            self._seen.pop(name, None)

    @functools.cached_property
    def _connection(self) -> duckdb.DuckDBPyConnection:
        """For asking rows where values alone do not tell: most new tables need none."""
        return duckdb.connect()

    def of(self, tables: list[Table], parquet: dict[str, Path]) -> list[Relationship]:
        """The relationships of these tables, surest first."""
        before = self._seen
        old = {t.name for t in tables if t.name in before and before[t.name].table == t}
        self._seen = {t.name: before[t.name] if t.name in old else _Seen(t) for t in tables}
        fresh = [s for name, s in self._seen.items() if name not in old]
        known = [self._seen[t.name] for t in tables if t.name in old]
        pairs = [*itertools.product(fresh, fresh), *itertools.product(fresh, known), *itertools.product(known, fresh)]
        shapes = Counter(s.shape for s in self._seen.values())
        parts = {s.table.name: s.shape for s in self._seen.values() if shapes[s.shape] >= _PARTS}
        pairs = [(a, b) for a, b in pairs if not _are_parts(a.table.name, b.table.name, parts)]
        found: list[Relationship] = []
        for table, other in pairs:
            for key in other.keys:
                for column in table.of_type.get(key.type, ()):
                    if _meet(table, column, other, key) and _could_point(column, table.table, key, other.table):
                        measured = _measured(self._connection, table.table, column, other.table, key, parquet)
                        if measured is not None:
                            found.append(measured)
        kept = [r for r in self._found if {r.table, r.other} <= old and not _are_parts(r.table, r.other, parts)]
        best = _best([*found, *(r for r in kept if not r.also)], {t.name: t for t in tables})
        best += [r for r in kept if r.also]
        joined = {frozenset((r.table, r.other)) for r in best}
        for table, other in pairs:
            shared = table.named & other.named
            both = frozenset((table.table.name, other.table.name))
            if table is not other and 2 <= len(shared) <= 3 and both not in joined:
                names = [c.name for c in table.table.columns if (c.name, c.type) in shared]
                several = _by_several(self._connection, table.table, other.table, names, parquet)
                if several is not None:
                    best.append(several)
                    joined.add(both)
        self._found = best
        return best

    def codes_to_be_text(self, parquet: Mapping[str, Path], new: Collection[str]) -> dict[str, tuple[str, ...]]:
        """Columns of whole numbers that stand as text in another table, whose keys they are or which points at them.

        Looked at are pairs of tables of which one at least is `new`; of very many those that are called alike first.
        """
        fresh = [self._seen[name] for name in new if name in self._seen]
        others = [seen for seen in self._seen.values() if seen not in fresh]
        beside = [
            *itertools.permutations(fresh, 2),
            *itertools.product(fresh, others),
            *itertools.product(others, fresh),
        ]
        pairs = [
            (one, number, other, text)
            for one, other in beside
            for number in one.coded
            for text, digits in other.with_digits
            if _could_be_written_so(number, digits)
        ]
        pairs.sort(key=lambda p: not (_alike(p[1], p[3], p[2].table) or _alike(p[3], p[1], p[0].table)))
        found: dict[str, list[str]] = {}
        for one, number, other, text in pairs[:_MOST_LOOKS]:
            here, there = _as_text(parquet[one.table.name], number), _as_text(parquet[other.table.name], text)
            ways = [(here, there)] if text in other.keys else []
            ways += [(there, here)] if number in one.keys and text.role is not Role.TEXT else []
            if any(_share_among(self._connection, *way) >= _SURE for way in ways):
                found.setdefault(one.table.name, []).append(number.name)
        return {name: tuple(dict.fromkeys(columns)) for name, columns in found.items()}


def relate(tables: list[Table], parquet: dict[str, Path]) -> list[Relationship]:
    """Every relationship between the tables, surest first."""
    return Joins().of(tables, parquet)


def _may_be_coded(column: Column, table: Table) -> bool:
    return column.distinct >= _FEW and (column.role in (Role.CODE, Role.LINK) or _could_be_key(column, table))


def _could_be_written_so(number: Column, digits: list[int]) -> bool:
    """False where most of the numbers that stand as text lie outside of a column's."""
    if number.low is None or number.high is None:
        return False
    low, high = int(number.low), int(number.high)
    return bisect_right(digits, high) - bisect_left(digits, low) >= max(_FEW, 0.5 * len(digits))


def _as_text(parquet: Path, column: Column) -> str:
    """SQL for the different values of a column, as text."""
    cell = quoted(column.name)
    source = f"read_parquet({literal(str(parquet))})"
    return f"SELECT DISTINCT CAST({cell} AS VARCHAR) AS v FROM {source} WHERE {cell} IS NOT NULL"


def _share_among(connection: duckdb.DuckDBPyConnection, values: str, keys: str) -> float:
    """The share of some values that stand among others, where three at least do."""
    row = connection.execute(
        f"SELECT count(*), count(k.v) FROM ({values}) a LEFT JOIN ({keys}) k ON a.v = k.v"
    ).fetchone()
    return row[1] / row[0] if row and row[1] >= _FEW else 0.0


class _Seen:
    """A table with what is looked at of it for every other one, made once."""

    def __init__(self, table: Table) -> None:
        self.table = table
        self.keys = [c for c in table.columns if _could_be_key(c, table)]
        self.of_type: dict[Type, list[Column]] = {}
        for column in table.columns:
            self.of_type.setdefault(column.type, []).append(column)
        self.named = frozenset((c.name, c.type) for c in table.columns if not c.is_measure)
        """What another table may have too, so that several of them together tell its rows apart."""
        self.shape = frozenset((c.name, c.type) for c in table.columns)
        self._values: dict[str, frozenset[str]] = {}

    @functools.cached_property
    def coded(self) -> list[Column]:
        """The first columns of whole numbers that may be codes."""
        return [c for c in self.of_type.get(Type.INTEGER, ()) if _may_be_coded(c, self.table)][:_MOST_LOOKS]

    @functools.cached_property
    def with_digits(self) -> list[tuple[Column, list[int]]]:
        """The first columns of text of which some values are whole numbers, and these in order."""
        texts = ((c, [v for v in c.values if v.isdecimal() and v[0] != "0"]) for c in self.of_type.get(Type.TEXT, ()))
        return [(c, sorted(map(int, found))) for c, found in texts if len(found) >= _FEW][:_MOST_LOOKS]

    def values(self, column: Column) -> frozenset[str]:
        """The values kept of a column: a look at them spares most joins that cannot be."""
        if column.name not in self._values:
            self._values[column.name] = frozenset(column.values)
        return self._values[column.name]


def _are_parts(one: str, other: str, parts: dict[str, frozenset[tuple[str, Type]]]) -> bool:
    """True for two of many tables of one shape: these lie under each other, and not beside each other."""
    return one != other and one in parts and parts[one] == parts.get(other)


def _meet(table: _Seen, column: Column, other: _Seen, key: Column) -> bool:
    """False where the values kept of both show that they share none, or, kept whole, that they share too few."""
    if not column.values or not key.values:
        return True
    here, there = table.values(column), other.values(key)
    if here.isdisjoint(there):
        return False
    if len(here) >= column.distinct and len(there) >= key.distinct:
        shared = len(here & there)
        return shared >= 2 and shared >= _NAMED * len(here)
    return True


def measured(
    table: Table, columns: tuple[str, ...], other: Table, other_columns: tuple[str, ...], parquet: dict[str, Path]
) -> Relationship | None:
    """The relationship by those columns as its rows show it; None where a row would find more than one partner."""
    with duckdb.connect() as connection:
        return _by(connection, table, columns, other, other_columns, parquet)


def decided(
    found: list[Relationship],
    accepted: list[tuple[str, tuple[str, ...], str, tuple[str, ...]]],
    forbidden: list[tuple[str, tuple[str, ...], str, tuple[str, ...]]],
    tables: list[Table],
    parquet: dict[str, Path],
) -> list[Relationship]:
    """The relationships found, with what a person said of them: those accepted come first, those forbidden are gone."""
    known = {t.name: t for t in tables}

    def place(r: Relationship) -> tuple[str, tuple[str, ...], str, tuple[str, ...]]:
        return r.table, tuple(a for a, _ in r.pairs), r.other, tuple(b for _, b in r.pairs)

    kept = [r for r in found if place(r) not in forbidden]
    first = []
    for name, columns, other, other_columns in accepted:
        there = name in known and other in known
        if not there or not _has(known[name], columns) or not _has(known[other], other_columns):
            continue
        by_person = measured(known[name], columns, known[other], other_columns, parquet)
        if by_person is not None:
            first.append(by_person.model_copy(update={"accepted": True}))
    between = {(r.table, r.column, r.other) for r in first}
    return [*first, *(r for r in kept if (r.table, r.column, r.other) not in between)]


def _has(table: Table, columns: tuple[str, ...]) -> bool:
    return set(columns) <= {c.name for c in table.columns}


class JoinDetail(BaseModel):
    """A way to join two tables, with what does not fit."""

    model_config = ConfigDict(frozen=True)

    relationship: Relationship
    without_partner: tuple[tuple[str, int], ...]
    """Values that find no partner, commonest first, with their rows."""
    near: dict[str, str]
    """Values that differ from one of the other table's only in case, blanks, marks or leading noughts."""


def join_detail(relationship: Relationship, parquet: dict[str, Path]) -> JoinDetail:
    """Examples of rows without a partner, and values that nearly have one."""
    left, right = quoted(relationship.column), quoted(relationship.other_column)
    here = f"read_parquet({literal(str(parquet[relationship.table]))})"
    there = f"read_parquet({literal(str(parquet[relationship.other]))})"
    plain = "ltrim(regexp_replace(lower({0}), '[^a-z0-9à-ÿ]', '', 'g'), '0')"
    with duckdb.connect() as connection:
        lonely = connection.execute(
            f"SELECT CAST({left} AS VARCHAR), count(*) FROM {here} WHERE {left} IS NOT NULL AND {left} NOT IN (SELECT {right} FROM {there} WHERE {right} IS NOT NULL) "
            "GROUP BY 1 ORDER BY 2 DESC, 1 LIMIT 2000"
        ).fetchall()
        keys = connection.execute(
            f"SELECT k, min(v) FROM (SELECT {plain.format(f'CAST({right} AS VARCHAR)')} AS k, CAST({right} AS VARCHAR) AS v FROM {there} WHERE {right} IS NOT NULL) "
            "WHERE k <> '' GROUP BY k HAVING count(DISTINCT v) = 1"
        ).fetchall()
        by_plain = {str(k): str(v) for k, v in keys}
        near = {}
        if lonely:
            values = ", ".join(f"({literal(str(v))})" for v, _ in lonely)
            rows = connection.execute(f"SELECT v, {plain.format('v')} FROM (VALUES {values}) t(v)").fetchall()
            near = {str(v): by_plain[str(k)] for v, k in rows if str(k) in by_plain}
    return JoinDetail(
        relationship=relationship, without_partner=tuple((str(v), int(n)) for v, n in lonely[:8]), near=near
    )


def _by_several(
    connection: duckdb.DuckDBPyConnection, table: Table, other: Table, names: list[str], parquet: dict[str, Path]
) -> Relationship | None:
    """A relationship by two or three columns of the same names that only together tell the other table's rows apart."""
    if any(other.column(n).distinct >= other.rows for n in names):
        return None
    columns = tuple(names)
    found = _by(connection, table, columns, other, columns, parquet)
    return found if found is not None and found.match_rate >= _SURE else None


def _by(
    connection: duckdb.DuckDBPyConnection,
    table: Table,
    columns: tuple[str, ...],
    other: Table,
    other_columns: tuple[str, ...],
    parquet: dict[str, Path],
) -> Relationship | None:
    pairs = list(zip(columns, other_columns, strict=True))
    if any(table.column(a).type is not other.column(b).type for a, b in pairs):
        return None
    there = f"read_parquet({literal(str(parquet[other.name]))})"
    keys = ", ".join(quoted(b) for _, b in pairs)
    row = connection.execute(
        f"SELECT count(*) FROM (SELECT 1 FROM {there} GROUP BY {keys} HAVING count(*) > 1)"
    ).fetchone()
    if row is None or row[0]:
        return None
    on = " AND ".join(f"a.{quoted(a)} = b.{quoted(b)}" for a, b in pairs)
    present = " AND ".join(f"a.{quoted(a)} IS NOT NULL" for a, _ in pairs)
    here = f"read_parquet({literal(str(parquet[table.name]))})"
    row = connection.execute(
        f"SELECT count(*), count(b.{quoted(pairs[0][1])}), count(DISTINCT hash({', '.join(f'a.{quoted(a)}' for a, _ in pairs)})) "
        f"FROM {here} a LEFT JOIN {there} b ON {on} WHERE {present}"
    ).fetchone()
    if row is None or not row[0]:
        return None
    rows, matched, different = (int(n) for n in row)
    return Relationship(
        table=table.name,
        column=columns[0],
        other=other.name,
        other_column=other_columns[0],
        match_rate=matched / rows,
        unmatched=rows - matched,
        one_to_one=different >= rows,
        also=tuple(pairs[1:]),
    )


def pointing(relationships: Iterable[Relationship]) -> dict[str, set[str]]:
    """The columns of each table that point elsewhere."""
    found: dict[str, set[str]] = {}
    for r in relationships:
        found.setdefault(r.table, set()).add(r.column)
    return found


def linked(table: Table, pointing: Collection[str]) -> Table:
    """The table with the columns that point elsewhere marked as links."""
    if not pointing:
        return table
    columns = tuple(
        c.model_copy(update={"role": Role.LINK})
        if c.name in pointing and c.role not in (Role.IDENTIFIER, Role.NAME)
        else c
        for c in table.columns
    )
    return table.model_copy(update={"columns": columns})


def _could_be_key(column: Column, table: Table) -> bool:
    return (
        column.type in (Type.TEXT, Type.INTEGER)
        and (column.distinct >= _FEW or (column.distinct == table.rows == 2 and _numbers(column)))
        and column.distinct >= 0.999 * (table.rows - column.missing)
        and column.missing <= 0.01 * table.rows
        and (column.role.is_category or column.role in (Role.IDENTIFIER, Role.NAME, Role.CODE))
    )


def _numbers(column: Column) -> bool:
    """True for a column called a number of what the rows are: site_id, branch no."""
    parts = parts_of(column.name)
    return len(parts) > 1 and parts[-1] in _NUMBERED_BY


_NUMBERED_BY = frozenset(["id", "no", "number", "code", "key", "ref"])


def _alike(column: Column, key: Column, other: Table) -> bool:
    a, b, t = parts_of(column.name), parts_of(key.name), parts_of(other.name)
    if "".join(a) == "".join(b):
        return True
    singular = {p.rstrip("s") for p in t} | set(t)
    return bool(singular & {p.rstrip("s") for p in a})


def _is_one_of(column: Column, key: Column, other: Table) -> bool:
    """True for whole numbers called by one of what another table lists, such as from_station: which one, not how many."""
    last, rows = parts_of(column.name)[-1:], parts_of(other.name)[-1:]
    numbers = column.type is Type.INTEGER and key.role is Role.IDENTIFIER and bool(last) and bool(rows)
    if not numbers or last == rows:
        return False
    return _lie_among(column, key) and rows[0] in {last[0] + "s", last[0] + "es", last[0].removesuffix("y") + "ies"}


def _is_of_somebody(column: Column, key: Column, other: Table) -> bool:
    """True for whole numbers of whom something was done to, or by: assigned_to and approved_by, where a table lists people."""
    if column.type is not Type.INTEGER or key.role is not Role.IDENTIFIER or other.naming_column is None:
        return False
    return len(parts_of(column.name)) > 1 and parts_of(column.name)[-1] in ("to", "by") and _lie_among(column, key)


def _lie_among(column: Column, key: Column) -> bool:
    """True where whole numbers lie between the lowest and the highest of a key."""
    if column.low is None or key.low is None or column.high is None or key.high is None:
        return False
    return int(key.low) <= int(column.low) <= int(column.high) <= int(key.high)


def _is_of_its_own(column: Column, key: Column) -> bool:
    """True for whole numbers of other rows of the same table: the manager of an employee, the parent of a part."""
    return (
        column.type is Type.INTEGER and bool(_AMONG_THEMSELVES & {*parts_of(column.name)}) and _lie_among(column, key)
    )


_AMONG_THEMSELVES = frozenset(
    [
        "manager",
        "supervisor",
        "boss",
        "lead",
        "leader",
        "mentor",
        "tutor",
        "buddy",
        "sponsor",
        "referrer",
        "referred",
        "parent",
        "mother",
        "father",
        "dam",
        "sire",
        "head",
        "reports",
        "spouse",
        "partner",
        "previous",
        "original",
    ]
)
_SPARSE, _CODES = 3, 4
"""How many numbers lie between two keys at least, and how many different ones there must be, so that numbers of other
meaning do not all stand among them by chance."""


def _is_coded(column: Column, table: Table, key: Column) -> bool:
    """True for numbers that repeat and may be keys of another table, whatever they are called: 1010, 2050, never 1, 2, 3."""
    if column.type is not Type.INTEGER or key.role is not Role.IDENTIFIER or key.low is None or key.high is None:
        return False
    sparse = int(key.high) - int(key.low) + 1 >= _SPARSE * key.distinct
    return sparse and _CODES <= column.distinct <= 0.5 * table.rows


def _could_point(column: Column, table: Table, key: Column, other: Table) -> bool:
    if column.type is not key.type or column.distinct < 2:
        return False
    if key.distinct < _FEW and parts_of(column.name) != parts_of(key.name):
        # Of two sites the number must be called the same: two values are soon found elsewhere.
        return False
    # A number of the same name as a key, such as a barcode, is that key and measures nothing.
    same = table.name != other.name and key.role is Role.IDENTIFIER and parts_of(column.name) == parts_of(key.name)
    if same and column.type is Type.INTEGER:
        return True
    if table.name != other.name and (_is_one_of(column, key, other) or _is_of_somebody(column, key, other)):
        return True
    if table.name != other.name and _is_coded(column, table, key):
        return True
    if column.is_measure:
        return False
    if table.name == other.name:
        return (
            column.name != key.name
            and (column.type is Type.TEXT or _is_of_its_own(column, key))
            and key.role is Role.IDENTIFIER
            and column.distinct < 0.9 * table.rows
        )
    if column.type is Type.INTEGER:
        return _alike(column, key, other) and column.role is not Role.QUANTITY
    if column.role is not Role.TEXT or _alike(column, key, other):
        return True
    # A mother's tag is one of those of the herd, though few stand twice.
    return key.role is Role.IDENTIFIER and bool(column.values) and all(map(_CODE.fullmatch, column.values))


_CODE = re.compile(r"[A-Za-z]{0,6}[-_/.]?\d+[A-Za-z]?")
"""What tells one thing from others, as people number them."""


def _measured(
    connection: duckdb.DuckDBPyConnection,
    table: Table,
    column: Column,
    other: Table,
    key: Column,
    parquet: dict[str, Path],
) -> Relationship | None:
    left, right = quoted(column.name), quoted(key.name)
    row = connection.execute(
        f"""SELECT count(*), count(k), sum(n), sum(CASE WHEN k IS NOT NULL THEN n ELSE 0 END)
            FROM (SELECT {left} AS v, count(*) AS n FROM read_parquet({literal(str(parquet[table.name]))}) WHERE {left} IS NOT NULL GROUP BY 1) a
            LEFT JOIN (SELECT DISTINCT {right} AS k FROM read_parquet({literal(str(parquet[other.name]))}) WHERE {right} IS NOT NULL) b ON a.v = b.k"""
    ).fetchone()
    assert row is not None
    values, matched, rows, rows_matched = (int(n or 0) for n in row)
    same = parts_of(column.name) == parts_of(key.name)
    needed = _NAMED if _alike(column, key, other) and (same or not column.is_measure) else _SURE
    if column.type is Type.INTEGER and needed == _SURE and _is_coded(column, table, key):
        needed = 1.0
    if not values or matched < 2 or matched / values < needed:
        return None
    return Relationship(
        table=table.name,
        column=column.name,
        other=other.name,
        other_column=key.name,
        match_rate=rows_matched / rows,
        unmatched=rows - rows_matched,
        one_to_one=column.distinct >= table.rows - column.missing,
    )


def _best(found: list[Relationship], tables: dict[str, Table]) -> list[Relationship]:
    """For each column and each other table the surest key; a column points at one table unless it matches others as well."""
    best: dict[tuple[str, str, str], Relationship] = {}

    def sureness(r: Relationship) -> tuple[bool, float, bool]:
        key = tables[r.other].column(r.other_column)
        return (parts_of(r.column) == parts_of(r.other_column), r.match_rate, key.role is Role.IDENTIFIER)

    whole = {(r.table, r.column): (r.other, r.other_column) for r in found if r.match_rate >= _WHOLE}

    def by_chance(r: Relationship) -> bool:
        """True where only some rows find a partner among rows that themselves point at what this column is, or points at:
        half of the pupils are in a club once, and none of them belongs to it."""
        listed = whole.get((r.other, r.other_column))
        own = (r.table, r.column)
        return listed is not None and r.match_rate < _WHOLE and listed in (own, whole.get(own))

    for relationship in found:
        if by_chance(relationship):
            continue
        where = (relationship.table, relationship.column, relationship.other)
        if where not in best or sureness(relationship) > sureness(best[where]):
            best[where] = relationship
    return sorted(best.values(), key=lambda r: (r.table, *(not v for v in sureness(r)[:1]), -r.match_rate, r.column))
