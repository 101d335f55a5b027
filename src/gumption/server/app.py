"""The HTTP API under /api/v1, and the built front end beside it."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import dataclass
from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, JSONResponse
from fastapi.staticfiles import StaticFiles

from gumption.core.model.names import plural
from gumption.core.plan.words import spoken
from gumption.core.reading.read import Understanding
from gumption.engines.answering import Answered, json_value
from gumption.engines.errors import CannotAnswer
from gumption.intake.sources import Allowed
from gumption.server.jobs import Jobs
from gumption.server.problems import ApiProblem
from gumption.server.schemas import (
    AlternativeOut,
    AnswerOut,
    AsOfIn,
    CheckOut,
    FieldOut,
    GlossOut,
    GlossResult,
    Problem,
    QuestionIn,
    StepOut,
    TrailOut,
    WorkspaceOut,
)
from gumption.server.tables import table_out, table_routes
from gumption.server.uploads import Uploads, upload_routes
from gumption.server.workspace import Workspace
from gumption.store.records import StoreError

MOST_ROWS_SENT = 1_000
UPLOAD_LIMIT = 2_000_000_000


@dataclass(frozen=True)
class Settings:
    """What a server is made from."""

    folder: Path
    web: Path | None
    upload_limit: int = UPLOAD_LIMIT
    folders: tuple[Path, ...] = ()
    inner_addresses: bool = False


def _problem(status: int, problem: str, advice: str = "") -> JSONResponse:
    return JSONResponse(Problem(problem=problem, advice=advice).model_dump(), status)


def create_app(workspace: Workspace, settings: Settings) -> FastAPI:
    """The application over an open workspace."""
    jobs = Jobs(workspace, Allowed(settings.folders, settings.inner_addresses, settings.upload_limit))
    incoming = settings.folder / "incoming"
    uploads = Uploads(workspace.records, jobs, incoming, settings.upload_limit)

    @asynccontextmanager
    async def lifespan(_app: FastAPI) -> AsyncIterator[None]:
        uploads.resume()
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

    app.include_router(upload_routes(uploads))
    app.include_router(table_routes(workspace, jobs, incoming))

    @app.get("/api/v1/workspace")
    def get_workspace() -> WorkspaceOut:
        title, _ = workspace.records.workspace_settings()
        tables = [table_out(workspace, s) for s in workspace.stored]
        return WorkspaceOut(
            title=title,
            as_of=workspace.as_of(),
            rows=sum(t.table.rows for t in tables),
            tables=tables,
            relationships=list(workspace.catalogue.relationships),
            upload_limit=settings.upload_limit,
            folders=[str(f) for f in settings.folders],
        )

    @app.put("/api/v1/workspace/as-of")
    def put_as_of(body: AsOfIn) -> WorkspaceOut:
        workspace.records.set_as_of(body.as_of)
        return get_workspace()

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
