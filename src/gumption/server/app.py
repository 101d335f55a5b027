"""The HTTP API under /api/v1, and the built front end beside it."""

from __future__ import annotations

import uuid
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Annotated

from fastapi import FastAPI, Query, Request, UploadFile
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, JSONResponse
from fastapi.staticfiles import StaticFiles

from gumption.core.plan.words import spoken
from gumption.core.present.numbers import plural
from gumption.core.reading.read import Understanding
from gumption.engines.answering import Answered, CannotAnswer, json_value
from gumption.intake.sql import quoted
from gumption.server.jobs import Jobs
from gumption.server.schemas import (
    AlternativeOut,
    AnswerOut,
    AsOfIn,
    CheckOut,
    FieldOut,
    FileProgress,
    GlossOut,
    GlossResult,
    JobOut,
    Problem,
    QuestionIn,
    RowsOut,
    StepOut,
    TableOut,
    TrailOut,
    WorkspaceOut,
)
from gumption.server.workspace import Workspace
from gumption.store.records import StoreError

MOST_ROWS_SENT = 1_000
UPLOAD_LIMIT = 2_000_000_000
_CHUNK = 1 << 20


class ApiProblem(Exception):
    """An error to send: its HTTP status, what is wrong, and what to do."""

    def __init__(self, status: int, problem: str, advice: str = "") -> None:
        self.status, self.problem, self.advice = status, problem, advice
        super().__init__(problem)


@dataclass(frozen=True)
class Settings:
    """What a server is made from."""

    folder: Path
    web: Path | None
    upload_limit: int = UPLOAD_LIMIT


def _problem(status: int, problem: str, advice: str = "") -> JSONResponse:
    return JSONResponse(Problem(problem=problem, advice=advice).model_dump(), status)


def create_app(workspace: Workspace, settings: Settings) -> FastAPI:
    """The application over an open workspace."""
    jobs = Jobs(workspace)
    incoming = settings.folder / "incoming"
    incoming.mkdir(parents=True, exist_ok=True)
    for left in incoming.iterdir():
        left.unlink()

    @asynccontextmanager
    async def lifespan(_app: FastAPI) -> AsyncIterator[None]:
        yield
        jobs.close()

    app = FastAPI(
        title="Gumption",
        version="1",
        openapi_url="/api/v1/openapi.json",
        docs_url=None,
        redoc_url=None,
        lifespan=lifespan,
        responses={"default": {"model": Problem}},
    )

    @app.exception_handler(ApiProblem)
    async def api_problem(_request: Request, error: ApiProblem) -> JSONResponse:
        return _problem(error.status, error.problem, error.advice)

    @app.exception_handler(RequestValidationError)
    async def bad_request(_request: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        where = ".".join(str(p) for p in first["loc"][1:])
        return _problem(422, f"{where}: {first['msg']}.", "Mend the request and send it again.")

    @app.exception_handler(StoreError)
    async def store_down(_request: Request, error: StoreError) -> JSONResponse:
        return _problem(
            503, f"{str(error).capitalize()}.", "Try again in a moment; if it stays so, start Gumption again."
        )

    def table_named(name: str) -> TableOut:
        for stored in workspace.stored:
            if stored.table.name == name:
                slim = stored.table.model_copy(
                    update={"columns": tuple(c.model_copy(update={"values": ()}) for c in stored.table.columns)}
                )
                return TableOut(
                    table=slim, bytes=stored.bytes, seconds=stored.seconds, examples=workspace.examples(stored.table)
                )
        raise ApiProblem(404, f"There is no table {name}.", "Reload the page to see which there are.")

    @app.get("/api/v1/workspace")
    def get_workspace() -> WorkspaceOut:
        title, _ = workspace.records.workspace_settings()
        tables = [table_named(s.table.name) for s in workspace.stored]
        return WorkspaceOut(
            title=title,
            as_of=workspace.as_of(),
            rows=sum(t.table.rows for t in tables),
            tables=tables,
            relationships=list(workspace.catalogue.relationships),
            upload_limit=settings.upload_limit,
        )

    @app.put("/api/v1/workspace/as-of")
    def put_as_of(body: AsOfIn) -> WorkspaceOut:
        workspace.records.set_as_of(body.as_of)
        return get_workspace()

    @app.get("/api/v1/tables/{name}/rows")
    def get_rows(
        name: str, offset: Annotated[int, Query(ge=0)] = 0, limit: Annotated[int, Query(ge=1, le=1000)] = 200
    ) -> RowsOut:
        table = table_named(name).table
        columns, rows = workspace.answerer.engine.run(f"SELECT * FROM {quoted(name)} LIMIT {limit} OFFSET {offset}")
        return RowsOut(columns=list(columns), rows=[[json_value(v) for v in row] for row in rows], total=table.rows)

    @app.delete("/api/v1/tables/{name}", status_code=204)
    def delete_table(name: str) -> None:
        table_named(name)
        workspace.remove_table(name)

    @app.post("/api/v1/uploads")
    async def post_uploads(files: list[UploadFile]) -> JobOut:
        kept: list[tuple[Path, str]] = []
        refused: list[FileProgress] = []
        for upload in files:
            given = upload.filename or ""
            if not given or "/" in given or "\\" in given or given.startswith("."):
                refused.append(
                    _refused(given or "(no name)", "The file's name has a path in it. Rename it and send it again.")
                )
                continue
            target = incoming / uuid.uuid4().hex
            if await _save(upload, target, settings.upload_limit):
                kept.append((target, given))
            else:
                refused.append(
                    _refused(
                        given,
                        f"The file is larger than {settings.upload_limit / 1e9:.3g} GB. Send a smaller one, or start Gumption with a higher --upload-limit.",
                    )
                )
        return jobs.start(kept, refused)

    @app.get("/api/v1/jobs/{number}")
    def get_job(number: str) -> JobOut:
        job = jobs.get(number)
        if job is None:
            raise ApiProblem(404, "That upload is no longer known.", "Reload the page to see which tables there are.")
        return job

    @app.post("/api/v1/gloss")
    def post_gloss(body: QuestionIn) -> GlossResult:
        found = workspace.understand(body.question, body.follows)
        reading = found.readings[0].words if found.readings and found.status == "answered" else found.problem
        return GlossResult(glosses=_glosses(found), reading=reading, status=found.status)

    @app.post("/api/v1/questions")
    def post_question(body: QuestionIn) -> AnswerOut:
        found = workspace.understand(body.question, body.follows)
        answered, found = _answered(workspace, found, body.choice)
        summary = _summary(answered) if answered else "needs other words"
        cautions = answered.cautions if answered else 0
        if not body.question.strip():
            raise ApiProblem(422, "There is no question.", found.problem)
        number = workspace.records.add_to_trail(
            body.follows, body.question[:60_000], body.choice, found.status, cautions, summary
        )
        return _answer_out(number, body.question, body.follows, body.choice, found, answered)

    @app.get("/api/v1/trail")
    def get_trail() -> list[TrailOut]:
        return [TrailOut.model_validate(e, from_attributes=True) for e in workspace.records.trail()]

    @app.get("/api/v1/trail/{number}")
    def get_entry(number: int, twice: bool = False) -> AnswerOut:
        entry = workspace.records.trail_entry(number)
        if entry is None:
            raise ApiProblem(404, "That question is no longer in the trail.", "Reload the page.")
        found = workspace.understand(entry.question, entry.parent)
        answered, found = _answered(workspace, found, entry.choice, twice=twice)
        return _answer_out(entry.id, entry.question, entry.parent, entry.choice, found, answered)

    @app.delete("/api/v1/trail", status_code=204)
    def delete_trail() -> None:
        workspace.records.clear_trail()

    if settings.web is not None:
        _serve_web(app, settings.web)
    return app


def _refused(name: str, problem: str) -> FileProgress:
    return FileProgress(file=name[:200], status="failed", what="", share=0, problem=problem)


async def _save(upload: UploadFile, target: Path, limit: int) -> bool:
    size = 0
    with target.open("wb") as stream:
        while chunk := await upload.read(_CHUNK):
            size += len(chunk)
            if size > limit:
                break
            stream.write(chunk)
    if size > limit:
        target.unlink()
    return size <= limit


def _answered(
    workspace: Workspace, found: Understanding, choice: int, *, twice: bool = False
) -> tuple[Answered | None, Understanding]:
    if found.status != "answered":
        return None, found
    try:
        return workspace.answer(found, min(choice, len(found.readings) - 1), twice=twice), found
    except CannotAnswer as error:
        return None, Understanding("declined", problem=str(error), glosses=found.glosses, unread=found.unread)


def _summary(answered: Answered) -> str:
    if len(answered.rows) == 1 and len(answered.columns) == 1:
        value = answered.rows[0][0]
        return (
            "missing"
            if value is None
            else f"{value:,}"
            if isinstance(value, int)
            else f"{float(value):,.2f}"
            if not isinstance(value, str) and hasattr(value, "__float__")
            else str(value)
        )
    return plural(len(answered.rows), "row")


def _glosses(found: Understanding, choice: int = 0) -> list[GlossOut]:
    source = found.readings[min(choice, len(found.readings) - 1)].glosses if found.readings else found.glosses
    return [GlossOut(start=g.start, end=g.end, kind=g.kind, note=g.note) for g in source]


def _answer_out(
    number: int, question: str, follows: int | None, choice: int, found: Understanding, answered: Answered | None
) -> AnswerOut:
    choice = min(choice, max(len(found.readings) - 1, 0))
    reading = found.readings[choice] if found.readings and answered else None
    return AnswerOut(
        id=number,
        question=question,
        follows=follows,
        status=found.status,
        problem=found.problem,
        glosses=_glosses(found, choice),
        unread=list(reading.unread if reading else found.unread),
        doubt=found.doubt,
        reading=reading.words if reading else "",
        alternatives=[AlternativeOut(choice=i, reading=r.words) for i, r in enumerate(found.readings) if i != choice]
        if answered
        else [],
        finding=answered.finding if answered else "",
        fields=[
            FieldOut(name=n, label=spoken(n), type=f.type, role=f.role, unit=f.unit, scale=f.scale)
            for n in answered.columns
            if (f := answered.schema[n])
        ]
        if answered
        else [],
        rows=[[json_value(v) for v in row] for row in answered.rows[:MOST_ROWS_SENT]] if answered else [],
        total=len(answered.rows) if answered else 0,
        chart=answered.chart if answered else None,
        sql=answered.sql if answered else "",
        python=answered.python if answered else "",
        plan=answered.plan.model_dump(exclude_none=True) if answered else None,
        steps=[
            StepOut(verb=w.verb, rest=w.rest, rows_in=r.rows_in if r else None, rows_out=r.rows_out if r else None)
            for w, r in answered.proof.steps
        ]
        if answered
        else [],
        checks=[
            CheckOut(name=c.name, weight=c.weight, sentence=c.sentence, detail=c.detail) for c in answered.proof.checks
        ]
        if answered
        else [],
        seconds=answered.seconds if answered else 0,
        second_to_come=answered is not None
        and any(rows is None for _, rows in answered.proof.steps)
        and answered.proof.checks[0].weight != "stop",
    )


def _serve_web(app: FastAPI, web: Path) -> None:
    app.mount("/assets", StaticFiles(directory=web / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        if path.startswith("api/"):
            raise ApiProblem(404, f"There is nothing at /{path}.")
        return FileResponse(web / "index.html", headers={"Cache-Control": "no-cache"})
