"""Which workspaces there are: made, named, copied, put away and deleted, by plain SQL."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from gumption.store.records import Records

_COPIED = {
    "data_table": "name, description, reading, parquet, original, bytes, seconds, recipe, meaning, origin, secret, version",
    "relationship": "description",
    "join_decision": "table_name, columns_from, other_name, columns_to, decision",
    "lesson": "kind, question, wording, shape, reading, taught_at, because",
    "term": "word, description, made_at",
}
"""What a copy of a workspace has of it, but for the trail; earlier versions and what waits stay behind."""
_ENTRY = "question, choice, status, cautions, holds, finding, summary, asked_at, reading, terms, starred, title, place, by_hand"
_PATHS = {
    "data_table": ("parquet", "original"),
    "table_version": ("parquet", "original"),
    "reading_order": ("description",),
    "replacement": ("description",),
}
"""Columns that name files by whole paths."""


@dataclass(frozen=True)
class LastQuestion:
    """The question that was asked last, and how it went."""

    question: str
    status: str
    finding: str
    """What was found, or why nothing was."""
    holds: int
    cautions: int
    asked_at: dt.datetime


@dataclass(frozen=True)
class Shelved:
    """A workspace as it stands among the others."""

    id: int
    title: str
    as_of: dt.date | None
    demo: bool
    archived: bool
    made_at: dt.datetime
    opened_at: dt.datetime
    tables: tuple[tuple[str, int], ...]
    """Their names and rows, the largest first."""
    newer_files: int
    """Files that wait to take the place of a table."""
    terms: int
    lessons: int
    questions: int
    first_asked: dt.datetime | None
    last: LastQuestion | None


class ShelfRecords:
    """Records of which workspaces there are; each one's own records are opened by its number."""

    def __init__(self, records: Records) -> None:
        self.records = records

    def all(self) -> list[Shelved]:
        """Every workspace, the one opened last first."""
        return self._shelved(None)

    def one(self, number: int) -> Shelved | None:
        """A workspace by its number, if there is one."""
        return next(iter(self._shelved(number)), None)

    def _shelved(self, number: int | None) -> list[Shelved]:
        """The workspace of that number, or all of them where none is given."""
        of = {"number": number}
        own, theirs = ("TRUE", "TRUE") if number is None else ("id = %(number)s", "workspace_id = %(number)s")
        with self.records.cursor() as cursor:
            cursor.execute(f"SELECT * FROM workspace WHERE {own} ORDER BY opened_at DESC, id DESC", of)
            workspaces = list(cursor.fetchall())
            cursor.execute(
                f"SELECT workspace_id, name, CAST(JSON_VALUE(description, '$.rows') AS UNSIGNED) AS size FROM data_table WHERE {theirs} ORDER BY size DESC, id",
                of,
            )
            tables: dict[int, list[tuple[str, int]]] = {}
            for row in cursor.fetchall():
                tables.setdefault(row["workspace_id"], []).append((row["name"], int(row["size"] or 0)))
            counts: dict[str, dict[int, int]] = {}
            for what in ("term", "lesson", "replacement"):
                cursor.execute(
                    f"SELECT workspace_id, COUNT(*) AS n FROM {what} WHERE {theirs} GROUP BY workspace_id", of
                )
                counts[what] = {r["workspace_id"]: int(r["n"]) for r in cursor.fetchall()}
            cursor.execute(
                f"SELECT workspace_id, COUNT(*) AS n, MIN(asked_at) AS first, MAX(id) AS last FROM trail_entry WHERE {theirs} GROUP BY workspace_id",
                of,
            )
            asked = {r["workspace_id"]: r for r in cursor.fetchall()}
            newest = [r["last"] for r in asked.values()]
            cursor.execute("SELECT * FROM trail_entry WHERE id IN %s", (newest or [0],))
            last = {r["workspace_id"]: r for r in cursor.fetchall()}
        return [
            Shelved(
                row["id"],
                row["title"],
                row["as_of"],
                bool(row["demo"]),
                bool(row["archived"]),
                row["made_at"],
                row["opened_at"],
                tuple(tables.get(row["id"], ())),
                counts["replacement"].get(row["id"], 0),
                counts["term"].get(row["id"], 0),
                counts["lesson"].get(row["id"], 0),
                int(asked[row["id"]]["n"]) if row["id"] in asked else 0,
                asked[row["id"]]["first"] if row["id"] in asked else None,
                _last(last.get(row["id"])),
            )
            for row in workspaces
        ]

    def exists(self, number: int) -> bool:
        with self.records.cursor() as cursor:
            return cursor.execute("SELECT 1 FROM workspace WHERE id = %s", (number,)) > 0

    def make(self, title: str, as_of: dt.date | None = None, *, demo: bool = False) -> int:
        """A new, empty workspace; its number."""
        with self.records.cursor() as cursor:
            cursor.execute("INSERT INTO workspace (title, as_of, demo) VALUES (%s, %s, %s)", (title, as_of, demo))
            return int(cursor.lastrowid or 0)

    def rename(self, number: int, title: str) -> None:
        with self.records.cursor() as cursor:
            cursor.execute("UPDATE workspace SET title = %s WHERE id = %s", (title, number))

    def archive(self, number: int, archived: bool) -> None:
        with self.records.cursor() as cursor:
            cursor.execute("UPDATE workspace SET archived = %s WHERE id = %s", (archived, number))

    def opened(self, number: int) -> None:
        """Note that somebody opened it now."""
        with self.records.cursor() as cursor:
            cursor.execute("UPDATE workspace SET opened_at = CURRENT_TIMESTAMP(3) WHERE id = %s", (number,))

    def delete(self, number: int) -> None:
        """Forget a workspace and all that is recorded of it."""
        self.records.of(number).clear()
        with self.records.cursor() as cursor:
            cursor.execute("DELETE FROM workspace WHERE id = %s", (number,))

    def copy(self, number: int, title: str, folder_of: Callable[[int], Path]) -> int:
        """A workspace with all that another has, its files in a folder of its own; its number."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "INSERT INTO workspace (title, as_of, demo) SELECT %s, as_of, FALSE FROM workspace WHERE id = %s",
                (title, number),
            )
            new = int(cursor.lastrowid or 0)
            before, after = (f"{folder_of(n)}/" for n in (number, new))
            for table, columns in _COPIED.items():
                selected = columns
                for path in _PATHS.get(table, ()):
                    selected = selected.replace(path, f"REPLACE({path}, %(before)s, %(after)s)")
                cursor.execute(
                    f"INSERT INTO {table} (workspace_id, {columns}) SELECT %(new)s, {selected} FROM {table} WHERE workspace_id = %(old)s ORDER BY id",
                    {"new": new, "old": number, "before": before, "after": after},
                )
        self.put_trail(new, self.trail_of(number))
        return new

    def trail_of(self, number: int) -> list[dict[str, Any]]:
        """All questions of a workspace as they are recorded, the oldest first."""
        with self.records.cursor() as cursor:
            cursor.execute(
                f"SELECT id, parent_id, {_ENTRY} FROM trail_entry WHERE workspace_id = %s ORDER BY id", (number,)
            )
            return list(cursor.fetchall())

    def put_trail(self, number: int, entries: list[dict[str, Any]]) -> None:
        """Record questions of another workspace under numbers of their own; each follows what it followed there."""
        names = _ENTRY.split(", ")
        if any(entry["place"] is not None for entry in entries):
            # Places were among the numbers there; here they are among each other, before whatever is asked next.
            told = sorted(entries, key=lambda e: e["id"] if e["place"] is None else e["place"])
            places = {entry["id"]: place for place, entry in enumerate(told)}
            entries = [entry | {"place": places[entry["id"]]} for entry in entries]
        numbers: dict[object, int] = {}
        with self.records.cursor() as cursor:
            for entry in entries:
                cursor.execute(
                    f"INSERT INTO trail_entry (workspace_id, parent_id, {_ENTRY}) VALUES ({', '.join(['%s'] * (2 + len(names)))})",
                    (number, numbers.get(entry["parent_id"]), *(entry[name] for name in names)),
                )
                numbers[entry["id"]] = int(cursor.lastrowid or 0)

    def files_moved(self, number: int, before: Path, after: Path) -> None:
        """Files of a workspace stand elsewhere now."""
        with self.records.cursor() as cursor:
            for table, columns in _PATHS.items():
                for column in columns:
                    cursor.execute(
                        f"UPDATE {table} SET {column} = REPLACE({column}, %s, %s) WHERE workspace_id = %s",
                        (f"{before}/", f"{after}/", number),
                    )

    def with_work(self) -> list[int]:
        """Workspaces in which something was begun that a stop of the server held up."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "SELECT workspace_id FROM upload UNION SELECT workspace_id FROM reading_order ORDER BY workspace_id"
            )
            return [int(r["workspace_id"]) for r in cursor.fetchall()]


def _last(row: dict[str, Any] | None) -> LastQuestion | None:
    if row is None:
        return None
    return LastQuestion(
        row["question"], row["status"], row["finding"] or row["summary"], row["holds"], row["cautions"], row["asked_at"]
    )
