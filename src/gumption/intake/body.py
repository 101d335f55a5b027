"""Rows of a body that are no rows of the table: empty ones, repeated headers, subtotals and totals."""

from __future__ import annotations

import re

import duckdb

from gumption.core.model.catalogue import Note
from gumption.core.model.names import plural
from gumption.intake.column import Kind, cleaned
from gumption.intake.missing import MISSING_WORDS
from gumption.intake.sql import literal, quoted

_TOTAL = (
    "totals?|subtotals?|sum|summe|gesamt|totale|totales|totais|totaal|totalt|i alt|yhteensä|suma|summa|somma|soma|somme|"
    "razem|ogółem|celkem|celkom|spolu|összesen|toplam|ukupno|iš viso|kopā|kokku|итого|всего|итог|сума|разом|общо|σύνολο|"
    "合計|小計|总计|合计|小计|總計|합계|총계|소계|المجموع|סהכ|סה״כ"
)
"""What rows of totals are called, in the languages of those who send files."""
_BALANCE = (
    "(closing|final|ending|end) balance|balance (carried|brought) (forward|down)|carried (forward|over)|endsaldo|"
    "schlusssaldo|neuer (konto)?saldo|saldo final|saldo finale|saldo końcowe|nouveau solde|solde final|eindsaldo|"
    "utgående saldo|slutsaldo|uebertrag|übertrag"
)
"""What a statement ends with."""
_LABEL = (
    r"^(the )?((grand|overall|sub|sous|report|net|gross|running|end|zwischen|tussen|gesamt|del|mellan|väli|między|mezi)[ _-]?)?"
    rf"({_TOTAL}|{_BALANCE})([ :.,;()*/-].{{0,60}})?$"
    r"|^.{1,60}[ _:-](sub)?(total|totals|gesamt|summe)[: ]*$"
)
_SUMMARY = r"^(average|avg\.?|mean|median|minimum|maximum|min|max|count|std\.? ?dev\.?|mittelwert|durchschnitt)[: ]*$"
_WHOLE_LABEL = re.compile(r"^(grand |overall )?(sub)?totals?:?$", re.I)
_EVERYTHING = re.compile(r"(all|alle|tous|toutes|todos|tutti)\b", re.I)
_UNLABELLED = "(no word)"
_KINDS_OF_FIGURES = 0.2
_LIKE = 0.005
"""How near a total must come to the sum of its rows, as a share of it."""


def drop_empty(connection: duckdb.DuckDBPyConnection, raw: list[str], notes: list[Note]) -> bool:
    """Leave out rows without any value; whether there were any."""
    empty = " AND ".join(f"{cleaned(c)} IS NULL" for c in raw)
    found = connection.execute(f"SELECT count(*) FROM raw WHERE {empty}").fetchone()
    if not found or not found[0]:
        return False
    connection.execute(f"DELETE FROM raw WHERE {empty}")
    notes.append(empty_note(int(found[0])))
    return True


def empty_note(rows: int) -> Note:
    """What is said of empty rows that were left out."""
    return Note(act=f"{plural(rows, 'empty row')} {'was' if rows == 1 else 'were'} left out", rows=rows)


def drop_repeated_headers(
    connection: duckdb.DuckDBPyConnection, raw: list[str], header: tuple[str, ...], notes: list[Note]
) -> list[int]:
    """Leave out rows that say the header again; their line numbers."""
    named = [(c, h) for c, h in zip(raw, header, strict=True) if h]
    if not named:
        return []
    same = " + ".join(f"(CASE WHEN lower({quoted(c)}) = {literal(h.lower())} THEN 1 ELSE 0 END)" for c, h in named)
    needed = max(0.8 * len(named), 1)
    rows = connection.execute(f"SELECT n FROM raw WHERE {same} >= {needed} ORDER BY n").fetchall()
    if not rows:
        return []
    connection.execute(f"DELETE FROM raw WHERE {same} >= {needed}")
    notes.append(
        Note(
            act=f"The header stands again {len(rows)} {'time' if len(rows) == 1 else 'times'} among the rows and was left out there",
            key="repeated_headers",
            rows=len(rows),
        )
    )
    return [int(r[0]) for r in rows]


def set_totals_aside(connection: duckdb.DuckDBPyConnection, raw: list[str]) -> int:
    """Move rows that may be totals to a table of their own, so that they do not blur the columns' kinds; how many."""
    labels = " OR ".join(f"regexp_matches({quoted(c)}, {literal(_LABEL + '|' + _SUMMARY)}, 'i')" for c in raw[:6])
    # Most tables have no such row, and that is soon told.
    labelled = connection.execute(f"SELECT 1 FROM raw WHERE {labels} LIMIT 1").fetchone() is not None
    last = _silent_last(connection, raw)
    if not labelled and last is None:
        return 0
    cells = ", ".join(f"{cleaned(c)} AS {quoted(c)}" for c in raw)
    which = f"{labels} OR n = {last}" if last is not None else labels
    connection.execute(f"CREATE TABLE aside AS SELECT n, {cells} FROM raw WHERE {which}")
    size = connection.execute("SELECT (SELECT count(*) FROM aside), (SELECT count(*) FROM raw)").fetchone()
    assert size is not None
    if size[0] > 0.5 * size[1]:
        connection.execute("DELETE FROM aside")
        return 0
    connection.execute("DELETE FROM raw WHERE n IN (SELECT n FROM aside)")
    return int(size[0])


def _silent_last(connection: duckdb.DuckDBPyConnection, raw: list[str]) -> int | None:
    """The number of the last row where it says less than the others do, or that it is about all of them."""
    row = connection.execute(f"SELECT n, {', '.join(map(quoted, raw))} FROM raw ORDER BY n DESC LIMIT 1").fetchone()
    if row is None or len(raw) < 2:
        return None
    cells = [None if v in MISSING_WORDS else v for v in row[1:]]
    gaps = [c for c, v in zip(raw, cells, strict=True) if v is None]
    if gaps:
        usual = _filled_shares(connection, gaps)
        gaps = [c for c in gaps if usual[c] >= 0.6]
    silent = bool(gaps) or any(_EVERYTHING.match(v or "") for v in cells[:6])
    return int(row[0]) if silent else None


def judge_totals(
    connection: duckdb.DuckDBPyConnection, raw: list[str], kinds: list[Kind], notes: list[Note]
) -> list[int]:
    """Line numbers of the rows set aside that are totals; the others go back among the rows."""
    numbers = [(c, k) for c, k in zip(raw, kinds, strict=True) if k.type.is_number]
    keys = [c for c, k in zip(raw, kinds, strict=True) if not k.type.is_number]
    candidates = connection.execute(f"SELECT n, {', '.join(map(quoted, raw))} FROM aside ORDER BY n").fetchall()
    if not candidates:
        return []
    segments, whole = _sums(connection, numbers)
    own = _own_values(connection, numbers)
    usual = _filled_shares(connection, raw)
    totals: list[int] = []
    back: list[int] = []
    labels: list[str] = []
    full: dict[tuple[str, str], list[tuple[int, bool]]] = {}
    """Rows that say all that the others do, by where their word stands: figures for both sexes together, for all ages."""
    last_row = connection.execute("SELECT coalesce(max(n), 0) FROM raw").fetchone()
    assert last_row is not None
    foot = int(last_row[0])
    for row in candidates:
        n, cells = int(row[0]), dict(zip(raw, row[1:], strict=True))
        label = next(
            (c for c in cells.values() if c and (re.search(_LABEL, c, re.I) or re.search(_SUMMARY, c, re.I))), ""
        )
        label_cell = next((k for k, c in cells.items() if c == label and label), "")
        blanks = [c for c in keys if c != label_cell and cells[c] is None and usual[c] >= 0.9]
        matches = [
            c
            for c, _ in numbers
            if _near(own[n].get(c), segments.get(n, {}).get(c)) or _near(own[n].get(c), whole.get(c))
        ]
        given = [c for c, _ in numbers if own[n].get(c) is not None]
        summary = bool(label) and re.search(_SUMMARY, label, re.I) is not None
        if not label:
            # Without a word for it, the last row is a total only if it adds up all through and says less than the others.
            told = [c for c in keys if cells[c]]
            # A running number that happens to be the sum of those above is none, so that the first column alone is not enough.
            adds_up = n > foot > 0 and len(matches) >= max(0.6 * len(given), 1)
            adds_up = adds_up and any(c != raw[0] for c in matches)
            silent = [c for c in raw if cells[c] is None and usual[c] >= 0.9]
            everything = any(_EVERYTHING.match(cells[c] or "") for c in told)
            is_total = adds_up and len(told) <= 1 and (bool(silent) or everything)
        elif summary:
            is_total = n > foot and (bool(blanks) or not keys[1:])
        else:
            # A total adds up to the rows above it, or leaves blank what every other row says.
            is_total = (
                bool(matches)
                or bool(blanks)
                or (bool(_WHOLE_LABEL.match(label)) and n > foot and not (len(keys) > 1 and given and not matches))
            )
        if label and not blanks:
            full.setdefault((label_cell, label), []).append((n, is_total))
        if is_total:
            totals.append(n)
            labels.append(label or _UNLABELLED)
        else:
            back.append(n)
    for rows in full.values():
        if sum(not is_total for _, is_total in rows) >= _KINDS_OF_FIGURES * len(rows):
            # Where many such rows add up to nothing above them they are a kind of figure, and so are those that do.
            kept = {n for n, is_total in rows if is_total}
            labels = [label for n, label in zip(totals, labels, strict=True) if n not in kept]
            totals = [n for n in totals if n not in kept]
            back.extend(sorted(kept))
    if back:
        listed = ", ".join(map(str, back))
        connection.execute(f"INSERT INTO raw SELECT * FROM aside WHERE n IN ({listed})")
    if totals:
        sub = [n for n in totals if n < foot]
        if labels == [_UNLABELLED]:
            act = "A row of sums without a word for it, at the foot, was left out"
        elif len(totals) == 1:
            act = f"A “{labels[0]}” row {'among the rows' if sub else 'at the foot'} was left out"
        else:
            act = f"{len(totals)} rows of totals, such as “{labels[0]}”, were left out"
        notes.append(
            Note(
                act=act,
                key="totals",
                detail="it would have doubled every sum" if len(totals) == 1 else "they would have been counted twice",
                rows=len(totals),
                examples=tuple(dict.fromkeys(labels))[:3],
            )
        )
    return totals


def _sums(
    connection: duckdb.DuckDBPyConnection, numbers: list[tuple[str, Kind]]
) -> tuple[dict[int, dict[str, float]], dict[str, float]]:
    """For each row set aside the sums of the rows since the one before it, and the sums of all rows."""
    if not numbers:
        return {}, {}
    sums = ", ".join(f"sum(CAST({k.sql} AS DOUBLE))" for _, k in numbers)
    connection.execute(
        "CREATE OR REPLACE TEMP TABLE ends AS SELECT n AS until, lag(n, 1, -1) OVER (ORDER BY n) AS since FROM aside"
    )
    rows = connection.execute(
        f"SELECT until, {sums} FROM raw JOIN ends ON raw.n > since AND raw.n < until GROUP BY until"
    ).fetchall()
    names = [c for c, _ in numbers]
    segments = {int(r[0]): dict(zip(names, r[1:], strict=True)) for r in rows}
    whole = connection.execute(f"SELECT {sums} FROM raw").fetchone()
    return segments, dict(zip(names, whole or (), strict=False))


def _own_values(connection: duckdb.DuckDBPyConnection, numbers: list[tuple[str, Kind]]) -> dict[int, dict[str, float]]:
    if not numbers:
        rows = connection.execute("SELECT n FROM aside").fetchall()
        return {int(r[0]): {} for r in rows}
    connection.execute("ALTER TABLE raw RENAME TO body_rows")
    connection.execute("ALTER TABLE aside RENAME TO raw")
    try:
        values = ", ".join(f"CAST({k.sql} AS DOUBLE)" for _, k in numbers)
        rows = connection.execute(f"SELECT n, {values} FROM raw").fetchall()
    finally:
        connection.execute("ALTER TABLE raw RENAME TO aside")
        connection.execute("ALTER TABLE body_rows RENAME TO raw")
    return {int(r[0]): {c: v for (c, _), v in zip(numbers, r[1:], strict=True) if v is not None} for r in rows}


def _filled_shares(connection: duckdb.DuckDBPyConnection, raw: list[str]) -> dict[str, float]:
    counts = ", ".join(f"count({cleaned(c)})" for c in raw)
    row = connection.execute(f"SELECT count(*), {counts} FROM raw").fetchone()
    assert row is not None
    return {c: int(n) / max(int(row[0]), 1) for c, n in zip(raw, row[1:], strict=True)}


def _near(value: float | None, wanted: float | None) -> bool:
    if value is None or wanted is None or value == 0:
        return False
    return abs(value - wanted) <= _LIKE * abs(wanted) + 0.011
