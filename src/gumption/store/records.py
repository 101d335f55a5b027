"""Everything kept in MariaDB, by plain SQL. Errors of the driver stop here."""

from __future__ import annotations

import copy
import datetime as dt
import functools
import json
import time
from collections.abc import Callable, Collection, Iterator, Sequence
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any, Literal, TypeVar

import pymysql
import pymysql.cursors
from dbutils.pooled_db import PooledDB
from pydantic import TypeAdapter
from pymysql.constants import CR, ER

from gumption.core.model.catalogue import Relationship, Table
from gumption.core.model.fault import Fault
from gumption.core.model.files import FileReading, Recipe
from gumption.core.model.lesson import Lesson
from gumption.core.model.meaning import TableMeaning, meant
from gumption.core.model.origin import Origin, Uploaded
from gumption.core.model.term import Term
from gumption.store.private_server import Address

MIGRATIONS = Path(__file__).parent / "migrations"
_CONNECTIONS = 16
_TURNS = 5
_PATIENCE, _AGAIN = 60.0, 0.2
"""Seconds to wait for a database that is being started again, and between two tries."""
_CLEARED = (
    "data_table",
    "table_version",
    "relationship",
    "join_decision",
    "upload",
    "reading_order",
    "replacement",
    "lesson",
    "term",
    "folio_page",
)
T = TypeVar("T")
_AWAY = (CR.CR_CONN_HOST_ERROR, CR.CR_CONNECTION_ERROR, CR.CR_SERVER_GONE_ERROR, CR.CR_SERVER_LOST, ER.SERVER_SHUTDOWN)
_FULL = (ER.DISK_FULL, ER.RECORD_FILE_FULL, ER.ERROR_ON_WRITE)


class StoreError(Fault):
    """The records could not be read or written; nothing was half done. Says what to do."""

    def __init__(self, problem: str, advice: str, *, away: bool = False) -> None:
        super().__init__(problem, advice)
        self.away = away
        """True where the database is not there just now; what was sent last may have been done all the same."""


@dataclass(frozen=True)
class StoredTable:
    """A table as recorded: what it is, how it was read, and where its files are."""

    table: Table
    reading: FileReading
    parquet: Path
    original: Path
    bytes: int
    seconds: float
    recipe: Recipe = field(default_factory=Recipe)
    meaning: TableMeaning = field(default_factory=TableMeaning)
    origin: Origin = field(default_factory=Uploaded)
    secret: str | None = field(default=None, repr=False)
    """What is needed to fetch it again, encrypted."""
    version: int = 1

    @functools.cached_property
    def meant(self) -> Table:
        """The table with what people said of it."""
        return meant(self.table, self.meaning)


@dataclass(frozen=True)
class TableVersion:
    """An earlier version of a table, kept to be restored."""

    stored: StoredTable
    replaced_at: dt.datetime


@dataclass(frozen=True)
class JoinDecision:
    """What a person said of a way to join: to use it, or never to."""

    table: str
    columns: tuple[str, ...]
    other: str
    other_columns: tuple[str, ...]
    decision: str


@dataclass(frozen=True)
class Upload:
    """A file being sent piece by piece; how much has come is the length of its file."""

    id: str
    file: str
    size: int
    replaces: str | None


@dataclass(frozen=True)
class Waiting:
    """Something that outlasts a stop of the server: a reading to be done, or a newer file that waits for a yes."""

    id: str
    description: str
    """As JSON, by whoever keeps it."""
    secret: str | None = field(default=None, repr=False)
    """What is needed to fetch its rows, encrypted."""


WaitingKind = Literal["reading_order", "replacement"]


@dataclass(frozen=True)
class TrailEntry:
    """A question asked; `parent` is the one it followed."""

    id: int
    parent: int | None
    question: str
    choice: int | None
    """Which reading a person took; None where the surest was given."""
    status: str
    cautions: int
    summary: str
    reading: str = ""
    """How it was read, in words."""
    terms: tuple[Term, ...] = ()
    """What a person said some of its words mean, for this question alone."""
    holds: int = 0
    """Checks that hold of its answer."""
    finding: str = ""
    """What was found, or why nothing was."""
    starred: bool = False
    title: str = ""
    """What a person calls it in the trail."""
    place: float | None = None
    """Where a person put it among those that follow the same question; where its number puts it if None."""
    by_hand: str = ""
    """Where its plan was changed by hand: the History of that as JSON, and the question is the one that it came from."""


def patiently(work: Callable[[], T]) -> T:
    """Work that must be done although the database may be away: done again until it is there. Raises StoreError."""
    deadline = time.monotonic() + _PATIENCE
    while True:
        try:
            return work()
        except StoreError as error:
            if not error.away or time.monotonic() > deadline:
                raise
            time.sleep(_AGAIN)


class Records:
    """The records of one workspace, by its number."""

    def __init__(self, address: Address, workspace: int = 0) -> None:
        self.workspace = workspace
        # Kept connections are looked at before they are given out again, so that a database started anew is no trouble.
        # It listens on the loopback alone: encryption would cost ten times what a query does, and guard nothing.
        self._pool = PooledDB(
            pymysql,
            maxcached=_CONNECTIONS,
            maxconnections=_CONNECTIONS,
            blocking=True,
            host=address.host,
            port=address.port,
            user=address.user,
            password=address.password,
            database=address.database,
            charset="utf8mb4",
            cursorclass=pymysql.cursors.DictCursor,
            connect_timeout=5,
            ssl_disabled=True,
        )

    def of(self, workspace: int) -> Records:
        """The records of another workspace, by the same connections."""
        other = copy.copy(self)
        other.workspace = workspace
        return other

    @contextmanager
    def cursor(self) -> Iterator[pymysql.cursors.DictCursor]:
        """A cursor in one transaction, kept or undone as a whole."""
        try:
            with self._pool.connection() as connection:
                # Within a transaction a lost connection is an error: one opened anew would go on with half of the work.
                connection.begin()
                try:
                    with connection.cursor() as cursor:
                        yield cursor
                    connection.commit()
                except BaseException:
                    # Where the database is gone, so is what was begun.
                    with suppress(pymysql.MySQLError):
                        connection.rollback()
                    raise
        except pymysql.MySQLError as error:
            raise _in_words(error) from error

    def _insisting(self, work: Callable[[pymysql.cursors.DictCursor], T]) -> T:
        """Work in one transaction, done again where another stood in its way and the database let that one go first."""
        for _ in range(_TURNS):
            try:
                with self.cursor() as cursor:
                    return work(cursor)
            except StoreError as error:
                cause = error.__cause__
                if not (
                    isinstance(cause, pymysql.MySQLError) and cause.args[:1] in ((ER.LOCK_DEADLOCK,), (ER.CHECKREAD,))
                ):
                    raise
                last = error
        raise last

    def migrate(self) -> list[str]:
        """Apply the numbered migrations that have not been, in order; their names."""
        done: list[str] = []
        with self.cursor() as cursor:
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

    def workspace_settings(self) -> tuple[str, dt.date | None, bool]:
        """Its title, the day that counts as today, None for the real one, and whether it is the demo."""
        with self.cursor() as cursor:
            cursor.execute("SELECT title, as_of, demo FROM workspace WHERE id = %s", (self.workspace,))
            row = cursor.fetchone()
        assert row is not None
        return str(row["title"]), row["as_of"], bool(row["demo"])

    def set_as_of(self, day: dt.date | None) -> None:
        with self.cursor() as cursor:
            cursor.execute("UPDATE workspace SET as_of = %s WHERE id = %s", (day, self.workspace))

    def tables(self) -> list[StoredTable]:
        """Every table, in the order they came."""
        with self.cursor() as cursor:
            cursor.execute("SELECT * FROM data_table WHERE workspace_id = %s ORDER BY id", (self.workspace,))
            rows: list[dict[str, Any]] = list(cursor.fetchall())
        return [_stored(row) for row in rows]

    def relationships(self) -> list[Relationship]:
        with self.cursor() as cursor:
            cursor.execute(
                "SELECT description FROM relationship WHERE workspace_id = %s ORDER BY id", (self.workspace,)
            )
            return [Relationship.model_validate_json(row["description"]) for row in cursor.fetchall()]

    def replace_tables(
        self,
        tables: list[StoredTable],
        relationships: list[Relationship],
        *,
        before: Collection[StoredTable] = (),
        related: Sequence[Relationship] = (),
        outdated: StoredTable | None = None,
        gone: tuple[str, ...] = (),
        ended: str | None = None,
    ) -> None:
        """Make these the workspace's tables and relationships, all at once; of the tables `before` and how they were
        `related`, which is recorded, only what differs is written.

        `outdated` is kept as an earlier version of its table; of the tables `gone`, no version is kept. The upload, reading
        or newer file of the number `ended` is forgotten in the same breath, so that a restart does not do it again.
        """
        with self.cursor() as cursor:
            kept = {t.table.name for t in tables}
            for name in sorted({t.table.name for t in before} - kept):
                cursor.execute("DELETE FROM data_table WHERE workspace_id = %s AND name = %s", (self.workspace, name))
            if ended is not None:
                for waiting in ("upload", "reading_order", "replacement"):
                    cursor.execute(f"DELETE FROM {waiting} WHERE id = %s", (ended,))
            for name in gone:
                cursor.execute(
                    "DELETE FROM table_version WHERE workspace_id = %s AND name = %s", (self.workspace, name)
                )
                cursor.execute(
                    "DELETE FROM join_decision WHERE workspace_id = %s AND (table_name = %s OR other_name = %s)",
                    (self.workspace, name, name),
                )
            if outdated is not None:
                cursor.execute(
                    "INSERT INTO table_version (workspace_id, name, version, description, reading, recipe, parquet, original, bytes, seconds) VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s)",
                    (self.workspace, outdated.table.name, outdated.version, *_files_of(outdated)),
                )
            same = {id(t) for t in before}
            for t in tables:
                if id(t) in same:
                    continue
                cursor.execute(
                    "INSERT INTO data_table (workspace_id, name, version, description, reading, recipe, parquet, original, bytes, seconds, meaning, origin, secret)"
                    " VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s)"
                    " ON DUPLICATE KEY UPDATE version = VALUES(version), description = VALUES(description), reading = VALUES(reading),"
                    " recipe = VALUES(recipe), parquet = VALUES(parquet), original = VALUES(original), bytes = VALUES(bytes),"
                    " seconds = VALUES(seconds), meaning = VALUES(meaning), origin = VALUES(origin), secret = VALUES(secret)",
                    (
                        self.workspace,
                        t.table.name,
                        t.version,
                        *_files_of(t),
                        t.meaning.model_dump_json(),
                        t.origin.model_dump_json(),
                        t.secret,
                    ),
                )
            if list(related) != relationships:
                cursor.execute("DELETE FROM relationship WHERE workspace_id = %s", (self.workspace,))
                cursor.executemany(
                    "INSERT INTO relationship (workspace_id, description) VALUES (%s, %s)",
                    [(self.workspace, r.model_dump_json()) for r in relationships],
                )

    def versions(self) -> list[TableVersion]:
        """Every earlier version of every table, newest first."""
        with self.cursor() as cursor:
            cursor.execute("SELECT * FROM table_version WHERE workspace_id = %s ORDER BY id DESC", (self.workspace,))
            return [TableVersion(_stored(row), row["replaced_at"]) for row in cursor.fetchall()]

    def drop_version(self, name: str, version: int) -> None:
        with self.cursor() as cursor:
            cursor.execute(
                "DELETE FROM table_version WHERE workspace_id = %s AND name = %s AND version = %s",
                (self.workspace, name, version),
            )

    def set_meaning(self, name: str, meaning: TableMeaning) -> None:
        with self.cursor() as cursor:
            cursor.execute(
                "UPDATE data_table SET meaning = %s WHERE workspace_id = %s AND name = %s",
                (meaning.model_dump_json(), self.workspace, name),
            )

    def join_decisions(self) -> list[JoinDecision]:
        with self.cursor() as cursor:
            cursor.execute("SELECT * FROM join_decision WHERE workspace_id = %s ORDER BY id", (self.workspace,))
            return [
                JoinDecision(
                    row["table_name"],
                    tuple(json.loads(row["columns_from"])),
                    row["other_name"],
                    tuple(json.loads(row["columns_to"])),
                    row["decision"],
                )
                for row in cursor.fetchall()
            ]

    def decide_join(self, said: JoinDecision) -> None:
        """Record what was said of a join in place of what was said of it before; "found" takes it back."""
        place = (self.workspace, said.table, json.dumps(said.columns), said.other, json.dumps(said.other_columns))
        with self.cursor() as cursor:
            cursor.execute(
                "DELETE FROM join_decision WHERE workspace_id = %s AND table_name = %s AND columns_from = %s AND other_name = %s AND columns_to = %s",
                place,
            )
            if said.decision != "found":
                cursor.execute(
                    "INSERT INTO join_decision (workspace_id, table_name, columns_from, other_name, columns_to, decision) VALUES (%s, %s, %s, %s, %s, %s)",
                    (*place, said.decision),
                )

    def add_upload(self, upload: Upload) -> None:
        with self.cursor() as cursor:
            cursor.execute(
                "INSERT INTO upload (id, workspace_id, file, size, replaces) VALUES (%s, %s, %s, %s, %s)",
                (upload.id, self.workspace, upload.file, upload.size, upload.replaces),
            )

    def uploads(self) -> list[Upload]:
        with self.cursor() as cursor:
            cursor.execute("SELECT * FROM upload WHERE workspace_id = %s", (self.workspace,))
            return [Upload(r["id"], r["file"], int(r["size"]), r["replaces"]) for r in cursor.fetchall()]

    def drop_upload(self, number: str) -> None:
        with self.cursor() as cursor:
            cursor.execute("DELETE FROM upload WHERE id = %s", (number,))

    def keep_waiting(self, kind: WaitingKind, waiting: Waiting) -> None:
        with self.cursor() as cursor:
            cursor.execute(
                f"REPLACE INTO {kind} (id, workspace_id, description, secret) VALUES (%s, %s, %s, %s)",
                (waiting.id, self.workspace, waiting.description, waiting.secret),
            )

    def waiting(self, kind: WaitingKind) -> list[Waiting]:
        """All that waits, oldest first."""
        with self.cursor() as cursor:
            cursor.execute(f"SELECT * FROM {kind} WHERE workspace_id = %s ORDER BY made_at, id", (self.workspace,))
            return [Waiting(r["id"], r["description"], r["secret"]) for r in cursor.fetchall()]

    def waits(self, number: str) -> bool:
        """True for an upload or a reading that has not ended."""
        with self.cursor() as cursor:
            cursor.execute(
                "SELECT 1 FROM upload WHERE id = %s UNION SELECT 1 FROM reading_order WHERE id = %s", (number, number)
            )
            return cursor.fetchone() is not None

    def drop_waiting(self, kind: WaitingKind, number: str) -> None:
        with self.cursor() as cursor:
            cursor.execute(f"DELETE FROM {kind} WHERE workspace_id = %s AND id = %s", (self.workspace, number))

    def clear(self) -> None:
        """Forget every table, join, upload and question for good."""

        def clear(cursor: pymysql.cursors.DictCursor) -> None:
            for table in _CLEARED:
                cursor.execute(f"DELETE FROM {table} WHERE workspace_id = %s", (self.workspace,))
            self._clear_trail(cursor)

        self._insisting(clear)

    def trail(self, most: int = 1_000) -> list[TrailEntry]:
        """The questions asked last, oldest first."""
        with self.cursor() as cursor:
            cursor.execute(
                "SELECT * FROM (SELECT * FROM trail_entry WHERE workspace_id = %s ORDER BY id DESC LIMIT %s) latest ORDER BY id",
                (self.workspace, most),
            )
            return [_entry(row) for row in cursor.fetchall()]

    def chain(self, number: int) -> list[TrailEntry]:
        """A question with those that it followed, the oldest first; empty where it is not there."""
        with self.cursor() as cursor:
            cursor.execute(
                "WITH RECURSIVE followed AS ("
                " SELECT id, parent_id, 0 AS back FROM trail_entry WHERE workspace_id = %s AND id = %s"
                " UNION ALL SELECT e.id, e.parent_id, back + 1 FROM trail_entry e JOIN followed f ON e.id = f.parent_id"
                ") SELECT e.* FROM trail_entry e JOIN followed f USING (id) ORDER BY f.back DESC",
                (self.workspace, number),
            )
            return [_entry(row) for row in cursor.fetchall()]

    def add_to_trail(self, entry: TrailEntry, in_place_of: int | None = None) -> int:
        """Record a question, or in place of the same one that asked back or that nothing followed yet; its number."""
        told = _told(entry)

        def add(cursor: pymysql.cursors.DictCursor) -> int:
            if in_place_of is not None and self._may_change(cursor, in_place_of, entry.question):
                self._tell_anew(cursor, in_place_of, told)
                return in_place_of
            # The question that it followed may have been deleted while this one was worked on.
            parent = entry.parent
            if parent is not None:
                cursor.execute("SELECT id FROM trail_entry WHERE id = %s LOCK IN SHARE MODE", (parent,))
                parent = parent if cursor.fetchone() else None
            row = {
                **told,
                **_made(entry),
                "workspace_id": self.workspace,
                "parent_id": parent,
                "question": entry.question,
            }
            marks = ", ".join(["%s"] * len(row))
            cursor.execute(f"INSERT INTO trail_entry ({', '.join(row)}) VALUES ({marks})", tuple(row.values()))
            return int(cursor.lastrowid or 0)

        return self._insisting(add)

    def tell_anew(self, number: int, entry: TrailEntry) -> bool:
        """Record anew how an entry was answered, whatever follows it; False where it is gone."""

        def tell(cursor: pymysql.cursors.DictCursor) -> bool:
            here = (self.workspace, number)
            cursor.execute("SELECT 1 FROM trail_entry WHERE workspace_id = %s AND id = %s FOR UPDATE", here)
            found = cursor.fetchone() is not None
            self._tell_anew(cursor, number, {**_told(entry), **_made(entry)})
            return found

        return self._insisting(tell)

    def _tell_anew(self, cursor: pymysql.cursors.DictCursor, number: int, told: dict[str, object]) -> None:
        changed = ", ".join(f"{name} = %s" for name in told)
        cursor.execute(
            f"UPDATE trail_entry SET {changed} WHERE workspace_id = %s AND id = %s",
            (*told.values(), self.workspace, number),
        )

    def _may_change(self, cursor: pymysql.cursors.DictCursor, number: int, question: str) -> bool:
        """True for an entry of that question which asked back, or which no question follows."""
        cursor.execute(
            "SELECT e.status, EXISTS (SELECT 1 FROM trail_entry c WHERE c.parent_id = e.id) AS followed"
            " FROM trail_entry e WHERE e.workspace_id = %s AND e.id = %s AND e.question = %s FOR UPDATE",
            (self.workspace, number, question),
        )
        row = cursor.fetchone()
        return row is not None and (row["status"] == "asks" or not row["followed"])

    def mark_entry(self, number: int, starred: bool, title: str, place: float | None) -> bool:
        """Star a question of the trail, call it something or put it elsewhere; False where it is gone."""
        with self.cursor() as cursor:
            here = (self.workspace, number)
            cursor.execute("SELECT 1 FROM trail_entry WHERE workspace_id = %s AND id = %s", here)
            found = cursor.fetchone() is not None
            cursor.execute(
                "UPDATE trail_entry SET starred = %s, title = %s, place = %s WHERE workspace_id = %s AND id = %s",
                (starred, title, place, *here),
            )
            return found

    def drop_entry(self, number: int) -> bool:
        """Delete a question of the trail with all that follow it, for good; False where it is gone."""

        def drop(cursor: pymysql.cursors.DictCursor) -> bool:
            cursor.execute(
                "WITH RECURSIVE gone AS ("
                " SELECT id FROM trail_entry WHERE workspace_id = %s AND id = %s"
                " UNION ALL SELECT e.id FROM trail_entry e JOIN gone g ON e.parent_id = g.id"
                ") SELECT id FROM gone ORDER BY id DESC",
                (self.workspace, number),
            )
            # The latest first: a question that follows another goes before the one it points at.
            numbers = [row["id"] for row in cursor.fetchall()]
            for each in numbers:
                cursor.execute("DELETE FROM trail_entry WHERE id = %s", (each,))
            return bool(numbers)

        return self._insisting(drop)

    def terms(self) -> list[Term]:
        """The house's own words, oldest first."""
        with self.cursor() as cursor:
            cursor.execute("SELECT * FROM term WHERE workspace_id = %s ORDER BY made_at, id", (self.workspace,))
            return [
                Term.model_validate_json(r["description"]).model_copy(update={"id": int(r["id"])})
                for r in cursor.fetchall()
            ]

    def put_term(self, term: Term) -> int:
        """Keep a term in place of the one with the same word; its number."""
        with self.cursor() as cursor:
            cursor.execute(
                "REPLACE INTO term (workspace_id, word, description) VALUES (%s, %s, %s)",
                (self.workspace, term.words[0].lower()[:200], term.model_dump_json(exclude={"id"})),
            )
            return int(cursor.lastrowid or 0)

    def drop_term(self, number: int) -> bool:
        with self.cursor() as cursor:
            return cursor.execute("DELETE FROM term WHERE workspace_id = %s AND id = %s", (self.workspace, number)) > 0

    def lessons(self) -> list[Lesson]:
        """What people taught, oldest first."""
        with self.cursor() as cursor:
            cursor.execute("SELECT * FROM lesson WHERE workspace_id = %s ORDER BY id", (self.workspace,))
            return [
                Lesson(r["kind"], r["question"], r["wording"], r["shape"], r["reading"], int(r["id"]), r["because"])
                for r in cursor.fetchall()
            ]

    def add_lesson(self, lesson: Lesson) -> int:
        """Keep a lesson; its number. What else was chosen or called right for the same wording is forgotten."""
        with self.cursor() as cursor:
            cursor.execute(
                "DELETE FROM lesson WHERE workspace_id = %s AND wording = %s AND (shape = %s OR (%s <> 'wrong' AND kind <> 'wrong'))",
                (self.workspace, lesson.wording, lesson.shape, lesson.kind),
            )
            cursor.execute(
                "INSERT INTO lesson (workspace_id, kind, question, wording, shape, reading, because) VALUES (%s, %s, %s, %s, %s, %s, %s)",
                (
                    self.workspace,
                    lesson.kind,
                    lesson.question,
                    lesson.wording,
                    lesson.shape,
                    lesson.reading,
                    lesson.because[:1_000],
                ),
            )
            return int(cursor.lastrowid or 0)

    def drop_lesson(self, number: int) -> bool:
        with self.cursor() as cursor:
            return (
                cursor.execute("DELETE FROM lesson WHERE workspace_id = %s AND id = %s", (self.workspace, number)) > 0
            )

    def clear_trail(self) -> None:
        self._insisting(self._clear_trail)

    def _clear_trail(self, cursor: pymysql.cursors.DictCursor) -> None:
        # The latest first: a question that follows another goes before the one it points at.
        cursor.execute("DELETE FROM trail_entry WHERE workspace_id = %s ORDER BY id DESC", (self.workspace,))


def _in_words(error: pymysql.MySQLError) -> StoreError:
    code = error.args[0] if error.args else None
    if code in _FULL:
        return StoreError("The disk is full; nothing was changed.", "Make room, then do it again.")
    if code in _AWAY or isinstance(error, pymysql.InterfaceError):
        return StoreError(
            "The database cannot be reached just now.",
            "It is being started again; try again in a few seconds.",
            away=True,
        )
    return StoreError(
        "The records could not be read or written.", "Try again; if it stays so, the log has the details."
    )


_ORIGIN: TypeAdapter[Origin] = TypeAdapter(Origin)
_TERMS: TypeAdapter[tuple[Term, ...]] = TypeAdapter(tuple[Term, ...])


def _files_of(stored: StoredTable) -> tuple[object, ...]:
    return (
        stored.table.model_dump_json(),
        stored.reading.model_dump_json(),
        stored.recipe.model_dump_json(),
        str(stored.parquet),
        str(stored.original),
        stored.bytes,
        stored.seconds,
    )


def _stored(row: dict[str, Any]) -> StoredTable:
    found = StoredTable(
        Table.model_validate_json(row["description"]),
        FileReading.model_validate_json(row["reading"]),
        Path(row["parquet"]),
        Path(row["original"]),
        int(row["bytes"]),
        float(row["seconds"]),
        Recipe.model_validate_json(row["recipe"]),
        version=int(row["version"]),
    )
    if "meaning" not in row:
        return found
    return replace(
        found,
        meaning=TableMeaning.model_validate_json(row["meaning"]),
        origin=_ORIGIN.validate_json(row["origin"]),
        secret=row["secret"],
    )


def _told(entry: TrailEntry) -> dict[str, object]:
    """What is recorded of how a question was answered."""
    return {
        "choice": entry.choice,
        "status": entry.status,
        "cautions": entry.cautions,
        "holds": entry.holds,
        "finding": entry.finding[:1_000],
        "summary": entry.summary[:200],
        "reading": entry.reading[:10_000],
        "terms": _TERMS.dump_json(entry.terms).decode(),
    }


def _made(entry: TrailEntry) -> dict[str, object]:
    """What is recorded of how it came about."""
    return {"title": entry.title[:200], "by_hand": entry.by_hand}


def _entry(row: dict[str, Any]) -> TrailEntry:
    return TrailEntry(
        row["id"],
        row["parent_id"],
        row["question"],
        row["choice"],
        row["status"],
        row["cautions"],
        row["summary"],
        row["reading"],
        _TERMS.validate_json(row["terms"]),
        row["holds"],
        row["finding"],
        bool(row["starred"]),
        row["title"],
        row["place"],
        row["by_hand"],
    )
