"""The HTTP API under /api/v1, and the built front end beside it."""

from __future__ import annotations

import logging
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import dataclass
from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, JSONResponse
from fastapi.staticfiles import StaticFiles

from gumption.intake.sources import Allowed
from gumption.server.asking import ask_routes
from gumption.server.glossary import glossary_routes
from gumption.server.jobs import Jobs
from gumption.server.problems import ApiProblem
from gumption.server.schemas import AsOfIn, Problem, WorkspaceOut
from gumption.server.tables import table_out, table_routes
from gumption.server.uploads import Uploads, upload_routes
from gumption.server.workspace import Workspace
from gumption.store.records import StoreError

log = logging.getLogger(__name__)

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
        log.error("the records failed", exc_info=error)
        return _problem(503, error.problem, error.advice)

    app.include_router(upload_routes(uploads))
    app.include_router(table_routes(workspace, jobs, incoming))
    app.include_router(ask_routes(workspace))
    app.include_router(glossary_routes(workspace))

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

    if settings.web is not None:
        _serve_web(app, settings.web)
    return app


def _serve_web(app: FastAPI, web: Path) -> None:
    app.mount("/assets", StaticFiles(directory=web / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        if path.startswith("api/"):
            raise ApiProblem(404, f"There is nothing at /{path}.")
        return FileResponse(web / "index.html", headers={"Cache-Control": "no-cache"})
