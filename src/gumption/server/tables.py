"""Tables over HTTP: bringing rows in, looking at them, and saying what they are."""

from __future__ import annotations

import contextlib
import datetime as dt
import re
import shutil
import tempfile
import uuid
from dataclasses import asdict
from pathlib import Path
from typing import Annotated, Literal

from anyio.to_thread import run_sync
from fastapi import APIRouter, Query, Request, UploadFile
from fastapi.responses import FileResponse, StreamingResponse

from gumption.core.model.catalogue import Table
from gumption.core.model.files import Recipe
from gumption.core.model.meaning import TableMeaning
from gumption.core.model.origin import Appended, FromAddress, FromDatabase, FromFeed, Uploaded
from gumption.core.plan.fields import Field, PlanError
from gumption.core.plan.formula import parse_formula
from gumption.engines.answering import json_value
from gumption.engines.pages import View
from gumption.intake.dictionary import dictionary_of, spelled_out
from gumption.intake.feed import SeriesOfFeed, series_at, series_called
from gumption.intake.guide import marks
from gumption.intake.look import Look
from gumption.intake.roles import parts_of
from gumption.intake.sources import feed_of, without_password
from gumption.server import tasks
from gumption.server.files_out import attached
from gumption.server.jobs import Job, Order
from gumption.server.problems import ApiProblem, NoTable
from gumption.server.replacing import Replacement
from gumption.server.schemas import (
    ChangeOut,
    FetchIn,
    GuessOut,
    GuideOut,
    JobOut,
    JoinIn,
    JoinsOut,
    MarkOut,
    PastedIn,
    ReplacementOut,
    RowsOut,
    TableOut,
    VersionOut,
)
from gumption.server.shelf import At, Room
from gumption.server.workspace import Workspace
from gumption.store.records import JoinDecision, StoredTable

_DICTIONARY_LIMIT = 5_000_000
_MOST_SERIES = 200


def table_out(workspace: Workspace, stored: StoredTable) -> TableOut:
    """A table as it is sent: what was found, what was said of it, and what to offer."""
    try:
        table = workspace.catalogue.table(stored.table.name)
    except KeyError as error:
        raise NoTable(stored.table.name) from error
    guesses = {
        c.name: GuessOut(words=w, dark=d)
        for c in table.columns
        for w, d in [spelled_out(c.name)]
        if d or w != " ".join(parts_of(c.name))
    }

    def slim(whole: Table) -> Table:
        return whole.model_copy(update={"columns": tuple(c.model_copy(update={"values": ()}) for c in whole.columns)})

    return TableOut.model_validate(
        {
            "table": slim(table),
            "found": slim(stored.table),
            "bytes": stored.bytes,
            "seconds": stored.seconds,
            "examples": workspace.examples(table),
            "recipe": stored.recipe,
            "meaning": stored.meaning,
            "origin": stored.origin,
            "version": stored.version,
            "versions": [
                VersionOut(
                    version=v.stored.version,
                    source=v.stored.table.source,
                    rows=v.stored.table.rows,
                    replaced_at=v.replaced_at,
                )
                for v in workspace.versions(table.name)
            ],
            "suggestions": workspace.suggestions(table),
            "guesses": guesses,
        }
    )


def _replacement_out(number: str, staged: Replacement, workspace: Workspace) -> ReplacementOut:
    return ReplacementOut(
        id=number,
        table=staged.table,
        file=staged.file,
        rows_before=workspace.stored_table(staged.table).table.rows,
        rows_after=staged.found.table.rows,
        changes=[ChangeOut(column=c.column, what=c.what) for c in staged.changes],
        notes=list(staged.found.table.notes),
    )


tables = APIRouter(prefix="/api/v1/workspaces/{workspace}")
"""The routes that are about tables."""


def _job_out(at: Room, job: Job) -> JobOut:
    staged = at.workspace.staged(job.replacement) if job.replacement else None
    waiting = None
    if job.replacement and staged:
        # Its table may go at this very moment.
        with contextlib.suppress(NoTable):
            waiting = _replacement_out(job.replacement, staged, at.workspace)
    return JobOut.model_validate({**asdict(job), "replacement": waiting})


def _begin(at: Room, order: Order) -> JobOut:
    return _job_out(at, at.jobs.start(uuid.uuid4().hex, order))


# -- bringing in -------------------------------------------------------------------------


@tables.post("/pasted")
def post_pasted(at: At, body: PastedIn) -> JobOut:
    """Cells pasted from a spreadsheet or a web page."""
    path = at.incoming / f"pasted-{uuid.uuid4().hex}"
    path.write_text(body.content, encoding="utf-8")
    ending = ".html" if body.content.lstrip()[:1] == "<" else ".txt"
    name = re.sub(r"[\\/]", "_", body.name).strip(". ") or "pasted"
    number = uuid.uuid4().hex
    return _job_out(at, at.jobs.start(number, Order(name + ending, path, passing=True)))


@tables.post("/trail/{number}/kept", response_model=JobOut)
async def post_kept(at: At, number: int, request: Request) -> JobOut:
    """The groups that an answer put things into, as a table that joins them by their key."""
    chain = await at.asking.entry(number)
    path = at.incoming / f"kept-{uuid.uuid4().hex}"
    try:
        column: str = await at.asking.work(
            request, "answer", tasks.write_kept, chain, at.workspace.as_of(), path, near=chain[-1].question
        )
    except BaseException:
        path.unlink(missing_ok=True)
        raise
    order = Order(f"{column.replace(' ', '_')}s.csv", path, passing=True)
    return await run_sync(_begin, at, order)


@tables.post("/fetched")
def post_fetched(at: At, body: FetchIn) -> JobOut:
    """Rows from a folder, an address, a database, an object store, the feed of series, or other tables."""
    name, origin, secret = body.name, body.origin, body.secret
    if isinstance(origin, FromFeed):
        series = series_called(origin.code, feed_of(at.jobs.allowed))
        said = {series.code: f"{series.kind}: {series.name}" if series.kind else series.name}
        since = FromFeed(code=series.code, begin=origin.begin or _year_of_first(at.workspace))
        return _begin(at, Order(f"{series.code}.csv", origin=since, descriptions=said))
    if isinstance(origin, FromAddress):
        try:
            url, login = without_password(origin.url)
        except ValueError as error:
            raise ApiProblem(422, "This is no address.", "It is like https://example.org/visits.csv.") from error
        origin, secret = FromAddress(url=url), login or secret
    if isinstance(body.origin, FromDatabase):
        name = body.origin.name
    if isinstance(body.origin, Appended):
        name = "".join(c if c.isalnum() or c == "_" else "_" for c in name) or "all"
    return _begin(at, Order(name or body.origin.kind, origin=origin, secret=secret))


def _year_of_first(workspace: Workspace) -> dt.date | None:
    """The first day of the year in which the longest table begins: what was before meets nothing there."""
    dated = [t for t in workspace.catalogue.tables if t.time_column is not None and t.time_column.type.is_time]
    first = max(dated, key=lambda t: t.rows).time_column if dated else None
    return dt.date(int(first.low[:4]), 1, 1) if first is not None and first.low is not None else None


@tables.get("/feed")
def get_feed(at: At, about: Annotated[str, Query(max_length=200)] = "") -> list[SeriesOfFeed]:
    """The series that can be fetched by their code, those alone whose code or name holds the words."""
    return series_at(feed_of(at.jobs.allowed), about)[:_MOST_SERIES]


@tables.post("/tables/{name}/fetched")
def post_fetched_again(at: At, name: str) -> JobOut:
    """Fetch a table's rows again from where they came; they wait to take the table's place."""
    stored = at.workspace.stored_table(name)
    if isinstance(stored.origin, Uploaded):
        raise ApiProblem(422, f"{name} came from a file that was sent.", "Send a newer file in its place.")
    secret = at.workspace.secret_of(stored)
    return _begin(at, Order(name, origin=stored.origin, secret=secret, replaces=name))


@tables.get("/jobs")
def get_jobs(at: At) -> list[JobOut]:
    return [_job_out(at, j) for j in at.jobs.all()]


@tables.get("/jobs/{number}")
def get_job(at: At, number: str) -> JobOut:
    job = at.jobs.get(number)
    if job is None:
        raise ApiProblem(404, "That reading is no longer known.", "Reload the page to see which tables there are.")
    return _job_out(at, job)


@tables.delete("/jobs/{number}", status_code=204)
def delete_job(at: At, number: str) -> None:
    """Stop a reading; nothing of it is kept."""
    if not at.jobs.cancel(number):
        raise ApiProblem(409, "That reading has ended already.")


# -- looking -----------------------------------------------------------------------------


@tables.get("/tables/{name}/rows")
def get_rows(
    at: At,
    name: str,
    offset: Annotated[int, Query(ge=0, le=10**12)] = 0,
    limit: Annotated[int, Query(ge=1, le=1000)] = 200,
    sort: str | None = None,
    descending: bool = False,
    filter: Annotated[str, Query(max_length=200)] = "",
) -> RowsOut:
    """Rows of a table, in the file's order or sorted by a column, those alone that hold the filter's text."""
    table = at.workspace.stored_table(name).table
    names = tuple(c.name for c in table.columns)
    if sort is not None and sort not in names:
        raise ApiProblem(422, f"{name} has no column {sort}.", f"It has {', '.join(names)}.")
    view = View(name, names, sort, descending, filter.strip())
    rows, total = at.workspace.pages.page(view, offset, limit, table.rows)
    return RowsOut(columns=list(names), rows=[[json_value(v) for v in row] for row in rows], total=total)


@tables.get("/tables/{name}/look")
def get_look(at: At, name: str) -> Look:
    """Repeated rows, values far out, and the table in words."""
    at.workspace.stored_table(name)
    return at.workspace.look(name)


@tables.get("/tables/{name}/file", include_in_schema=False, response_model=None)
def get_file(at: At, name: str, form: Literal["csv", "parquet"] = "csv") -> FileResponse | StreamingResponse:
    """The cleaned table as a file."""
    stored = at.workspace.stored_table(name)
    if form == "parquet":
        return FileResponse(stored.parquet, filename=f"{name}.parquet")
    return StreamingResponse(
        at.workspace.pages.as_csv(stored.table), media_type="text/csv", headers=attached(f"{name}.csv")
    )


@tables.get("/guide")
def get_guide(at: At) -> GuideOut:
    """Every table against what makes one easy to ask about."""
    tables = list(at.workspace.catalogue.tables)
    return GuideOut(
        tables={
            t.name: [
                MarkOut(name=m.name, holds=m.holds, words=m.words)
                for m in marks(t, [o for o in tables if o is not t], list(at.workspace.catalogue.relationships))
            ]
            for t in tables
        }
    )


# -- saying what it is -------------------------------------------------------------------


@tables.put("/tables/{name}/recipe")
def put_recipe(at: At, name: str, body: Recipe) -> JobOut:
    """Read the table again by another recipe: acts undone, dates the other way round, columns laid out as rows."""
    stored = at.workspace.stored_table(name)
    if isinstance(stored.origin, Appended):
        raise ApiProblem(422, f"{name} is made of other tables.", "Change those, then fetch it again.")
    return _begin(at, Order(stored.reading.file, stored.original, rereads=name, recipe=body))


@tables.put("/tables/{name}/meaning", status_code=204)
def put_meaning(at: At, name: str, body: TableMeaning) -> None:
    """What the table and its columns mean."""
    at.workspace.stored_table(name)
    at.workspace.set_meaning(name, body)


@tables.post("/tables/{name}/dictionary")
async def post_dictionary(at: At, name: str, file: UploadFile) -> list[str]:
    """A data dictionary as a file; the columns it spoke of."""
    stored = at.workspace.stored_table(name)
    content = await file.read(_DICTIONARY_LIMIT + 1)
    if len(content) > _DICTIONARY_LIMIT:
        raise ApiProblem(413, "A data dictionary has a row for each column; this file is far too large for one.")
    folder = Path(tempfile.mkdtemp(dir=at.incoming.parent))
    try:
        path = folder / "dictionary"
        path.write_bytes(content)
        found = dictionary_of(path, Path(file.filename or "dictionary.csv").name, stored.table)
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    at.workspace.add_meanings(name, found)
    return list(found)


@tables.get("/tables/{name}/formula")
def get_formula(at: At, name: str, formula: str) -> str:
    """Whether a formula can be worked out; what type it gives."""
    table = at.workspace.catalogue.table(at.workspace.stored_table(name).table.name)
    schema = {c.name: Field(c.type, c.role, c.scale, c.unit) for c in table.columns}
    try:
        parse_formula(formula, schema)
    except PlanError as error:
        raise ApiProblem.of(422, error, f"{error.clause}.") from error
    return "ok"


# -- joins -------------------------------------------------------------------------------


@tables.get("/tables/{name}/joins")
def get_joins(at: At, name: str) -> JoinsOut:
    """How the table joins: match rates, rows without a partner, values that nearly have one."""
    at.workspace.stored_table(name)
    said = at.workspace.forbidden_joins(name)
    return JoinsOut(
        joins=at.workspace.join_details(name),
        forbidden=[
            JoinIn(table=d.table, columns=d.columns, other=d.other, other_columns=d.other_columns, decision="forbidden")
            for d in said
        ],
    )


@tables.put("/joins", status_code=204)
def put_join(at: At, body: JoinIn) -> None:
    """Use a join, forbid it, or take back what was said of it."""
    for name, columns in ((body.table, body.columns), (body.other, body.other_columns)):
        known = {c.name for c in at.workspace.stored_table(name).table.columns}
        if wrong := [c for c in columns if c not in known]:
            raise ApiProblem(422, f"{name} has no column {wrong[0]}.", f"It has {', '.join(sorted(known))}.")
    if len(body.columns) != len(body.other_columns):
        raise ApiProblem(422, "Each column needs one to be equal to.", "Choose as many columns there as here.")
    at.workspace.decide_join(JoinDecision(body.table, body.columns, body.other, body.other_columns, body.decision))


# -- versions and deleting ---------------------------------------------------------------


@tables.post("/replacements/{number}")
def post_replacement(at: At, number: str) -> str:
    """Let a newer file take its table's place; the table's name."""
    return at.workspace.replace_by(number)


@tables.delete("/replacements/{number}", status_code=204)
def delete_replacement(at: At, number: str) -> None:
    """Let a newer file go unused."""
    at.workspace.drop_staged(number)


@tables.post("/tables/{name}/versions/{version}", status_code=204)
def post_version(at: At, name: str, version: int) -> None:
    """Put an earlier version back."""
    at.workspace.stored_table(name)
    try:
        at.workspace.restore(name, version)
    except KeyError as error:
        raise ApiProblem(404, f"There is no version {version} of {name}.") from error


@tables.delete("/tables/{name}", status_code=204)
def delete_table(at: At, name: str) -> None:
    """Delete a table and everything kept of it, for good."""
    at.workspace.stored_table(name)
    at.workspace.remove_table(name)


@tables.delete("/contents", status_code=204)
def delete_everything(at: At) -> None:
    """Delete every table and question, for good; what is being read is not kept either."""
    at.jobs.cancel_all()
    at.workspace.remove_everything()
