"""Everything kept in MariaDB, by plain SQL. Errors of the driver stop here."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import pymysql
import pymysql.cursors

from gumption.core.model.catalogue import Relationship, Table
from gumption.core.model.files import FileReading
from gumption.store.private_server import Address

MIGRATIONS = Path(__file__).parent / "migrations"


class StoreError(Exception):
    """The records could not be read or written; nothing was half done."""


@dataclass(frozen=True)
class StoredTable:
    """A table as recorded: what it is, how it was read, and where its files are."""

    table: Table
    reading: FileReading
    parquet: Path
    original: Path
    bytes: int
    seconds: float


@dataclass(frozen=True)
class TrailEntry:
    """A question asked; `parent` is the one it followed."""

    id: int
    parent: int | None
    question: str
    choice: int
    status: str
    cautions: int
    summary: str


class Records:
    """One workspace's records."""

    def __init__(self, address: Address) -> None:
        self._address = address
        self.workspace = 0

    @contextmanager
    def _cursor(self) -> Iterator[pymysql.cursors.DictCursor]:
        """A cursor in one transaction, kept or undone as a whole."""
        try:
            connection = pymysql.connect(
                host=self._address.host,
                port=self._address.port,
                user=self._address.user,
                password=self._address.password,
                database=self._address.database,
                charset="utf8mb4",
                cursorclass=pymysql.cursors.DictCursor,
            )
        except pymysql.MySQLError as error:
            raise StoreError("the database cannot be reached") from error
        try:
            with connection.cursor() as cursor:
                yield cursor
            connection.commit()
        except pymysql.MySQLError as error:
            connection.rollback()
            raise StoreError("the records could not be read or written") from error
        except BaseException:
            connection.rollback()
            raise
        finally:
            connection.close()

    def migrate(self) -> list[str]:
        """Apply the numbered migrations that have not been, in order; their names."""
        done: list[str] = []
        with self._cursor() as cursor:
            cursor.execute("CREATE TABLE IF NOT EXISTS migration (name VARCHAR(100) PRIMARY KEY)")
            cursor.execute("SELECT name FROM migration")
            known = {row["name"] for row in cursor.fetchall()}
            for path in sorted(MIGRATIONS.glob("*.sql")):
                if path.name in known:
                    continue
                for statement in path.read_text().split(";\n"):
                    if statement.strip():
                        cursor.execute(statement)
                cursor.execute("INSERT INTO migration (name) VALUES (%s)", (path.name,))
                done.append(path.name)
        return done

    def open_workspace(self, title: str, as_of: dt.date | None) -> bool:
        """Use the first workspace, made with this title and day where there is none; true where it was made."""
        with self._cursor() as cursor:
            cursor.execute("SELECT id FROM workspace ORDER BY id LIMIT 1")
            row = cursor.fetchone()
            if row is not None:
                self.workspace = int(row["id"])
                return False
            cursor.execute("INSERT INTO workspace (title, as_of) VALUES (%s, %s)", (title, as_of))
            self.workspace = int(cursor.lastrowid or 0)
            return True

    def workspace_settings(self) -> tuple[str, dt.date | None]:
        """Its title and the day that counts as today, None for the real one."""
        with self._cursor() as cursor:
            cursor.execute("SELECT title, as_of FROM workspace WHERE id = %s", (self.workspace,))
            row = cursor.fetchone()
        assert row is not None
        return str(row["title"]), row["as_of"]

    def set_as_of(self, day: dt.date | None) -> None:
        with self._cursor() as cursor:
            cursor.execute("UPDATE workspace SET as_of = %s WHERE id = %s", (day, self.workspace))

    def tables(self) -> list[StoredTable]:
        """Every table, in the order they came."""
        with self._cursor() as cursor:
            cursor.execute("SELECT * FROM data_table WHERE workspace_id = %s ORDER BY id", (self.workspace,))
            rows: list[dict[str, Any]] = list(cursor.fetchall())
        return [
            StoredTable(
                Table.model_validate_json(row["description"]),
                FileReading.model_validate_json(row["reading"]),
                Path(row["parquet"]),
                Path(row["original"]),
                int(row["bytes"]),
                float(row["seconds"]),
            )
            for row in rows
        ]

    def relationships(self) -> list[Relationship]:
        with self._cursor() as cursor:
            cursor.execute(
                "SELECT description FROM relationship WHERE workspace_id = %s ORDER BY id", (self.workspace,)
            )
            return [Relationship.model_validate_json(row["description"]) for row in cursor.fetchall()]

    def replace_tables(self, tables: list[StoredTable], relationships: list[Relationship]) -> None:
        """Make these the workspace's tables and relationships, all at once."""
        with self._cursor() as cursor:
            cursor.execute("DELETE FROM data_table WHERE workspace_id = %s", (self.workspace,))
            cursor.execute("DELETE FROM relationship WHERE workspace_id = %s", (self.workspace,))
            for t in tables:
                cursor.execute(
                    "INSERT INTO data_table (workspace_id, name, description, reading, parquet, original, bytes, seconds) VALUES (%s, %s, %s, %s, %s, %s, %s, %s)",
                    (
                        self.workspace,
                        t.table.name,
                        t.table.model_dump_json(),
                        t.reading.model_dump_json(),
                        str(t.parquet),
                        str(t.original),
                        t.bytes,
                        t.seconds,
                    ),
                )
            for r in relationships:
                cursor.execute(
                    "INSERT INTO relationship (workspace_id, description) VALUES (%s, %s)",
                    (self.workspace, r.model_dump_json()),
                )

    def trail(self) -> list[TrailEntry]:
        """All questions asked, oldest first."""
        with self._cursor() as cursor:
            cursor.execute("SELECT * FROM trail_entry WHERE workspace_id = %s ORDER BY id", (self.workspace,))
            return [_entry(row) for row in cursor.fetchall()]

    def trail_entry(self, number: int) -> TrailEntry | None:
        with self._cursor() as cursor:
            cursor.execute("SELECT * FROM trail_entry WHERE workspace_id = %s AND id = %s", (self.workspace, number))
            row = cursor.fetchone()
        return None if row is None else _entry(row)

    def add_to_trail(
        self, parent: int | None, question: str, choice: int, status: str, cautions: int, summary: str
    ) -> int:
        """Record a question; its number."""
        with self._cursor() as cursor:
            cursor.execute(
                "INSERT INTO trail_entry (workspace_id, parent_id, question, choice, status, cautions, summary) VALUES (%s, %s, %s, %s, %s, %s, %s)",
                (self.workspace, parent, question, choice, status, cautions, summary[:200]),
            )
            return int(cursor.lastrowid or 0)

    def clear_trail(self) -> None:
        with self._cursor() as cursor:
            cursor.execute("DELETE FROM trail_entry WHERE workspace_id = %s", (self.workspace,))


def _entry(row: dict[str, Any]) -> TrailEntry:
    return TrailEntry(
        row["id"], row["parent_id"], row["question"], row["choice"], row["status"], row["cautions"], row["summary"]
    )
