"""The folio of a workspace: its pages, what they came to at each working, and links to them, by plain SQL."""

from __future__ import annotations

import datetime as dt
import secrets
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

import pymysql.cursors
from pydantic import BaseModel, TypeAdapter

from gumption.core.folio.changes import UNCHANGED, Changed
from gumption.core.folio.page import Part
from gumption.core.folio.watching import Seen
from gumption.core.folio.working import Working
from gumption.store.records import Records

Cause = Literal["kept", "asked", "data", "schedule", "mended"]
"""Why a page was worked: its answer was kept, a person wanted it, its tables changed, it was time, or it was mended."""
_TABLES: TypeAdapter[dict[str, int]] = TypeAdapter(dict[str, int])
_UNCHANGED = Changed(words=UNCHANGED)


class Schedule(BaseModel):
    """When a page is worked again by itself."""

    every: Literal["day", "week", "data"]
    """Each day, each week, or whenever a table that it is worked from has changed."""
    at: dt.time = dt.time(7)
    weekday: int = 0
    """The day of the week, of which Monday is 0."""

    def next_after(self, now: dt.datetime) -> dt.datetime | None:
        """When it is worked next, by the clock of this machine; None where no clock says so."""
        if self.every == "data":
            return None
        found = dt.datetime.combine(now.date(), self.at)
        if self.every == "week":
            found += dt.timedelta(days=(self.weekday - found.weekday()) % 7)
        step = dt.timedelta(days=7 if self.every == "week" else 1)
        return found if found > now else found + step


@dataclass(frozen=True)
class StoredPart:
    """A part of a page, by its number."""

    id: int
    part: Part


@dataclass(frozen=True)
class Page:
    """A page among the others."""

    id: int
    title: str
    schedule: Schedule | None
    next_at: dt.datetime | None
    deleted_at: dt.datetime | None


@dataclass(frozen=True)
class Worked:
    """What a part came to: its working, or why there is none, with what would mend it; and what changed."""

    part: int
    working: Working | None
    tables: dict[str, int]
    """The tables that it was worked from, and which version of each."""
    problem: str = ""
    mend: str = ""
    """How it could be kept from now on, as a sentence; empty where there is nothing to mend."""
    changed: Changed = _UNCHANGED
    seen: Seen | None = None
    worked_at: dt.datetime | None = None
    since: dt.datetime | None = None
    """When it was worked before."""


@dataclass(frozen=True)
class PageWorking:
    """A working of a page, in brief."""

    id: int
    worked_at: dt.datetime
    as_of: dt.date
    cause: Cause
    answers: int
    changed: int
    met: int
    failed: int


@dataclass(frozen=True)
class Sighting:
    """What a watch saw at one working."""

    id: int
    part: int
    page: int
    title: str
    """The page's."""
    seen: Seen
    at: dt.datetime


@dataclass(frozen=True)
class ShareLink:
    """A link by which a page, or one of its answers, is read by who has it."""

    token: str
    workspace: int
    page: int
    part: int | None
    ends_at: dt.datetime


class FolioRecords:
    """The folio of the workspace of these records."""

    def __init__(self, records: Records) -> None:
        self.records = records

    # -- pages -------------------------------------------------------------------------------

    def pages(self, *, deleted: bool = False) -> list[Page]:
        """The pages, the oldest first; or those that were deleted and can be had back."""
        kind = "IS NOT NULL" if deleted else "IS NULL"
        with self.records.cursor() as cursor:
            cursor.execute(
                f"SELECT * FROM folio_page WHERE workspace_id = %s AND deleted_at {kind} ORDER BY id",
                (self.records.workspace,),
            )
            return [_page(row) for row in cursor.fetchall()]

    def page(self, number: int) -> Page | None:
        """A page by its number, also a deleted one."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "SELECT * FROM folio_page WHERE workspace_id = %s AND id = %s", (self.records.workspace, number)
            )
            row = cursor.fetchone()
        return None if row is None else _page(row)

    def make(self, title: str, parts: Sequence[Part] = ()) -> int:
        """A new page; its number."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "INSERT INTO folio_page (workspace_id, title) VALUES (%s, %s)", (self.records.workspace, title)
            )
            number = int(cursor.lastrowid or 0)
            for place, part in enumerate(parts):
                _insert(cursor, number, place, part)
        return number

    def rename(self, number: int, title: str) -> None:
        with self.records.cursor() as cursor:
            cursor.execute("UPDATE folio_page SET title = %s WHERE id = %s", (title, number))

    def put_away(self, number: int, deleted: bool) -> None:
        """Delete a page so that it can be had back, or have it back."""
        with self.records.cursor() as cursor:
            at = "CURRENT_TIMESTAMP(3)" if deleted else "NULL"
            cursor.execute(f"UPDATE folio_page SET deleted_at = {at} WHERE id = %s", (number,))

    def drop(self, number: int) -> None:
        """Delete a page for good, with all that it ever came to."""
        with self.records.cursor() as cursor:
            cursor.execute("DELETE FROM folio_page WHERE id = %s", (number,))

    def set_schedule(self, number: int, schedule: Schedule | None, next_at: dt.datetime | None) -> None:
        """Have a page worked again by itself, or no longer."""
        told = schedule.model_dump_json() if schedule is not None else ""
        with self.records.cursor() as cursor:
            cursor.execute("UPDATE folio_page SET schedule = %s, next_at = %s WHERE id = %s", (told, next_at, number))

    def copy_to(self, other: FolioRecords, as_of: dt.date) -> None:
        """All pages with what they came to last, in the folio of another workspace, which has no links to them."""
        for page in self.pages():
            before, worked = self.parts(page.id), self.worked(page.id)
            number = other.make(page.title, [stored.part for stored in before])
            parts = zip(before, other.parts(number), strict=True)
            last = [replace(worked[old.id], part=new.id) for old, new in parts if old.id in worked]
            if last:
                other.add_working(number, as_of, "kept", last)

    # -- parts -------------------------------------------------------------------------------

    def parts(self, page: int) -> list[StoredPart]:
        """The parts of a page, in their order."""
        with self.records.cursor() as cursor:
            cursor.execute("SELECT * FROM folio_part WHERE page_id = %s ORDER BY place, id", (page,))
            return [StoredPart(row["id"], Part.model_validate_json(row["description"])) for row in cursor.fetchall()]

    def add_part(self, page: int, part: Part, after: int | None = None) -> int:
        """A part after another one, or at the end; its number."""
        with self.records.cursor() as cursor:
            cursor.execute("SELECT id FROM folio_part WHERE page_id = %s ORDER BY place, id FOR UPDATE", (page,))
            order = [int(row["id"]) for row in cursor.fetchall()]
            number = _insert(cursor, page, len(order), part)
            at = order.index(after) + 1 if after in order else len(order)
            _put_in_order(cursor, [*order[:at], number, *order[at:]])
        return number

    def set_part(self, page: int, number: int, part: Part) -> None:
        with self.records.cursor() as cursor:
            cursor.execute(
                "UPDATE folio_part SET description = %s WHERE page_id = %s AND id = %s",
                (part.model_dump_json(), page, number),
            )

    def drop_part(self, page: int, number: int) -> None:
        with self.records.cursor() as cursor:
            cursor.execute("DELETE FROM folio_part WHERE page_id = %s AND id = %s", (page, number))

    def order(self, page: int, wanted: Sequence[int]) -> None:
        """Put the parts of a page in an order; those that it does not name come after, as they were."""
        with self.records.cursor() as cursor:
            cursor.execute("SELECT id FROM folio_part WHERE page_id = %s ORDER BY place, id FOR UPDATE", (page,))
            there = [int(row["id"]) for row in cursor.fetchall()]
            named = [number for number in dict.fromkeys(wanted) if number in there]
            _put_in_order(cursor, [*named, *(n for n in there if n not in named)])

    # -- workings ----------------------------------------------------------------------------

    def add_working(self, page: int, as_of: dt.date, cause: Cause, worked: Sequence[Worked]) -> int | None:
        """Record what parts of a page came to; None where the page is gone. A part that was deleted meanwhile is left out."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "SELECT p.id FROM folio_part p JOIN folio_page f ON f.id = p.page_id WHERE f.id = %s AND f.workspace_id = %s LOCK IN SHARE MODE",
                (page, self.records.workspace),
            )
            there = {int(row["id"]) for row in cursor.fetchall()}
            if not there & {one.part for one in worked}:
                return None
            cursor.execute(
                "INSERT INTO folio_working (page_id, as_of, cause) VALUES (%s, %s, %s)", (page, as_of, cause)
            )
            number = int(cursor.lastrowid or 0)
            for one in worked:
                if one.part in there:
                    cursor.execute(
                        "INSERT INTO folio_worked (working_id, part_id, content, tables, problem, mend, changed, seen)"
                        " VALUES (%s, %s, %s, %s, %s, %s, %s, %s)",
                        (number, one.part, *_told(one)),
                    )
        return number

    def answers(self, page: int) -> int:
        """How many answers a page has."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "SELECT COUNT(*) AS n FROM folio_part WHERE page_id = %s AND JSON_VALUE(description, '$.kind') = 'answer'",
                (page,),
            )
            row = cursor.fetchone()
        assert row is not None
        return int(row["n"])

    def worked(self, page: int, up_to: int | None = None, *, whole: bool = True) -> dict[int, Worked]:
        """What each part of a page came to last, or up to a working, by the parts' numbers; without the workings where not `whole`."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "SELECT d.part_id, d.tables, d.problem, d.mend, d.changed, d.seen, w.worked_at,"
                f" {'d.content' if whole else 'NULL AS content'},"
                " (SELECT MAX(v.worked_at) FROM folio_worked e JOIN folio_working v ON v.id = e.working_id"
                "  WHERE e.part_id = d.part_id AND e.working_id < d.working_id AND e.content IS NOT NULL) AS since"
                " FROM folio_worked d JOIN folio_working w ON w.id = d.working_id JOIN ("
                " SELECT part_id, MAX(working_id) AS latest FROM folio_worked JOIN folio_working x ON x.id = working_id"
                " WHERE x.page_id = %(page)s AND (%(up_to)s IS NULL OR working_id <= %(up_to)s) GROUP BY part_id"
                ") l ON l.part_id = d.part_id AND l.latest = d.working_id",
                {"page": page, "up_to": up_to},
            )
            return {row["part_id"]: _worked(row) for row in cursor.fetchall()}

    def last_contents(self, page: int) -> dict[int, Working]:
        """The last working that there was of each part of a page, whatever went wrong since."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "SELECT d.part_id, d.content FROM folio_worked d JOIN ("
                " SELECT part_id, MAX(working_id) AS latest FROM folio_worked JOIN folio_working x ON x.id = working_id"
                " WHERE x.page_id = %s AND content IS NOT NULL GROUP BY part_id"
                ") l ON l.part_id = d.part_id AND l.latest = d.working_id",
                (page,),
            )
            return {row["part_id"]: Working.model_validate_json(row["content"]) for row in cursor.fetchall()}

    def set_seen(self, part: int, seen: Seen | None) -> None:
        """Record what a watch sees in what a part came to last."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "UPDATE folio_worked SET seen = %s WHERE part_id = %s ORDER BY working_id DESC LIMIT 1",
                (seen.model_dump_json() if seen is not None else "", part),
            )

    def sightings(self, most: int = 500) -> list[Sighting]:
        """What the watches of all pages saw, the latest first."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "SELECT d.id, d.part_id, d.seen, w.worked_at, p.id AS page, p.title FROM folio_worked d"
                " JOIN folio_working w ON w.id = d.working_id JOIN folio_page p ON p.id = w.page_id"
                " WHERE p.workspace_id = %s AND p.deleted_at IS NULL AND d.seen <> '' ORDER BY d.id DESC LIMIT %s",
                (self.records.workspace, most),
            )
            return [
                Sighting(
                    r["id"], r["part_id"], r["page"], r["title"], Seen.model_validate_json(r["seen"]), r["worked_at"]
                )
                for r in cursor.fetchall()
            ]

    def workings(self, page: int, most: int = 1_000) -> list[PageWorking]:
        """The workings of a page, the latest first."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "SELECT w.*, COUNT(d.id) AS answers, COALESCE(SUM(d.changed <> %s), 0) AS changes,"
                " COALESCE(SUM(JSON_VALUE(NULLIF(d.seen, ''), '$.met') = 1), 0) AS met, COALESCE(SUM(d.problem <> ''), 0) AS failed"
                " FROM folio_working w JOIN folio_worked d ON d.working_id = w.id WHERE w.page_id = %s"
                " GROUP BY w.id ORDER BY w.id DESC LIMIT %s",
                (_UNCHANGED.model_dump_json(), page, most),
            )
            return [
                PageWorking(
                    r["id"],
                    r["worked_at"],
                    r["as_of"],
                    r["cause"],
                    int(r["answers"]),
                    int(r["changes"]),
                    int(r["met"]),
                    int(r["failed"]),
                )
                for r in cursor.fetchall()
            ]

    # -- links -------------------------------------------------------------------------------

    def add_link(self, page: int, part: int | None, ends_at: dt.datetime) -> ShareLink:
        """A new link, which nobody can guess."""
        token = secrets.token_urlsafe(32)
        with self.records.cursor() as cursor:
            cursor.execute(
                "INSERT INTO folio_link (token, page_id, part_id, ends_at) VALUES (%s, %s, %s, %s)",
                (token, page, part, ends_at),
            )
        return ShareLink(token, self.records.workspace, page, part, ends_at)

    def links(self, page: int) -> list[ShareLink]:
        """The links to a page that have not ended, the oldest first."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "SELECT * FROM folio_link WHERE page_id = %s AND ends_at > NOW() ORDER BY made_at, token", (page,)
            )
            return [_link(row, self.records.workspace) for row in cursor.fetchall()]

    def drop_link(self, page: int, token: str) -> bool:
        """Withdraw a link; False where it was already."""
        with self.records.cursor() as cursor:
            return cursor.execute("DELETE FROM folio_link WHERE page_id = %s AND token = %s", (page, token)) > 0

    # -- of all workspaces -------------------------------------------------------------------

    def linked(self, token: str) -> ShareLink | None:
        """What a link leads to, in whichever workspace; None where it is none, has ended, or its page is deleted."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "SELECT l.*, p.workspace_id FROM folio_link l JOIN folio_page p ON p.id = l.page_id"
                " WHERE l.token = %s AND l.ends_at > NOW() AND p.deleted_at IS NULL",
                (token,),
            )
            row = cursor.fetchone()
        return None if row is None else _link(row, int(row["workspace_id"]))

    def due(self, now: dt.datetime) -> list[tuple[int, int]]:
        """Pages of all workspaces whose time has come, each with its workspace before it."""
        with self.records.cursor() as cursor:
            cursor.execute(
                "SELECT p.workspace_id, p.id FROM folio_page p JOIN workspace w ON w.id = p.workspace_id"
                " WHERE p.deleted_at IS NULL AND p.next_at <= %s AND NOT w.archived ORDER BY p.next_at, p.id",
                (now,),
            )
            return [(int(r["workspace_id"]), int(r["id"])) for r in cursor.fetchall()]


def _insert(cursor: pymysql.cursors.DictCursor, page: int, place: int, part: Part) -> int:
    cursor.execute(
        "INSERT INTO folio_part (page_id, place, description) VALUES (%s, %s, %s)",
        (page, place, part.model_dump_json()),
    )
    return int(cursor.lastrowid or 0)


def _put_in_order(cursor: pymysql.cursors.DictCursor, numbers: Sequence[int]) -> None:
    for place, number in enumerate(numbers):
        cursor.execute("UPDATE folio_part SET place = %s WHERE id = %s", (place, number))


def _page(row: dict[str, Any]) -> Page:
    schedule = Schedule.model_validate_json(row["schedule"]) if row["schedule"] else None
    return Page(row["id"], row["title"], schedule, row["next_at"], row["deleted_at"])


def _told(one: Worked) -> tuple[object, ...]:
    """The columns of what a part came to."""
    return (
        one.working.model_dump_json() if one.working is not None else None,
        _TABLES.dump_json(one.tables).decode(),
        one.problem[:10_000],
        one.mend[:10_000],
        one.changed.model_dump_json(),
        one.seen.model_dump_json() if one.seen is not None else "",
    )


def _worked(row: dict[str, Any]) -> Worked:
    return Worked(
        row["part_id"],
        Working.model_validate_json(row["content"]) if row["content"] is not None else None,
        _TABLES.validate_json(row["tables"]),
        row["problem"],
        row["mend"],
        Changed.model_validate_json(row["changed"]),
        Seen.model_validate_json(row["seen"]) if row["seen"] else None,
        row["worked_at"],
        row["since"],
    )


def _link(row: dict[str, Any], workspace: int) -> ShareLink:
    return ShareLink(row["token"], workspace, row["page_id"], row["part_id"], row["ends_at"])
