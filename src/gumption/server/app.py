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
from starlette.exceptions import HTTPException

from gumption.core.model.fault import Fault
from gumption.intake.sources import Allowed
from gumption.server.asking import ask_routes
from gumption.server.glossary import glossary_routes
from gumption.server.guard import Guard
from gumption.server.jobs import Jobs
from gumption.server.problems import ApiProblem, NoTable, problem_of
from gumption.server.runs import Runs
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
    hosts: tuple[str, ...] = ()
    """Names besides those of the loopback that this machine is asked by."""
    frames: tuple[str, ...] = ()
    """Origins whose pages may hold ours in a frame."""


_METHODS = ["GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"]
_SAID = {
    400: "The request cannot be read.",
    404: "There is nothing at this address.",
}

_SHOWN = 200
"""Characters of a wrong value that are sent back."""


def _sendable(value: object) -> str:
    """The beginning of a value as it was sent; half a pair of letters is none that could be sent back."""
    return str(value)[:_SHOWN].encode("utf-8", "replace").decode()


def _problem(told: ApiProblem) -> JSONResponse:
    return JSONResponse(Problem.model_validate(told, from_attributes=True).model_dump(), told.status)


def create_app(workspace: Workspace, settings: Settings) -> FastAPI:
    """The application over an open workspace."""
    runs = Runs()
    jobs = Jobs(workspace, Allowed(settings.folders, settings.inner_addresses, settings.upload_limit))
    incoming = settings.folder / "incoming"
    uploads = Uploads(workspace.records, jobs, incoming, settings.upload_limit)

    @asynccontextmanager
    async def lifespan(_app: FastAPI) -> AsyncIterator[None]:
        uploads.resume()
        jobs.resume()
        yield
        jobs.close()
        workspace.close()

    app = FastAPI(
        title="Gumption",
        version="1",
        openapi_url="/api/v1/openapi.json",
        docs_url=None,
        redoc_url=None,
        lifespan=lifespan,
        responses={"default": {"model": Problem}},
    )

    app.state.ending = runs.stop_all
    app.add_middleware(Guard, hosts=settings.hosts, frames=settings.frames)

    async def foreseen(_request: Request, error: Exception) -> JSONResponse:
        told = problem_of(error)
        if told is None:
            raise error
        # That the database is away is logged once, by who watches over it.
        if told.status >= 500 and not (isinstance(error, StoreError) and error.away):
            log.error("%s", told.problem, exc_info=error)
        return _problem(told)

    for kind in (Fault, NoTable, OSError):
        app.add_exception_handler(kind, foreseen)

    @app.exception_handler(RequestValidationError)
    async def bad_request(_request: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        where = ".".join(str(p) for p in first["loc"][1:])
        given = "" if isinstance(first["input"], (dict, list)) else _sendable(first["input"])
        advice = "Mend the request and send it again."
        return _problem(ApiProblem(422, f"{where}: {first['msg']}.", advice, where=where, found=given))

    @app.exception_handler(HTTPException)
    async def refused(_request: Request, error: HTTPException) -> JSONResponse:
        said = _SAID.get(error.status_code, str(error.detail))
        return _problem(ApiProblem(error.status_code, said, "Reload the page."))

    app.include_router(upload_routes(uploads))
    app.include_router(table_routes(workspace, jobs, incoming))
    app.include_router(ask_routes(workspace, runs))
    app.include_router(glossary_routes(workspace, runs))

    @app.get("/api/v1/workspace")
    def get_workspace() -> WorkspaceOut:
        tables = [table_out(workspace, s) for s in workspace.stored]
        return WorkspaceOut(
            title=workspace.title,
            as_of=workspace.as_of(),
            rows=sum(t.table.rows for t in tables),
            tables=tables,
            relationships=list(workspace.catalogue.relationships),
            upload_limit=settings.upload_limit,
            folders=[str(f) for f in settings.folders],
        )

    @app.put("/api/v1/workspace/as-of")
    def put_as_of(body: AsOfIn) -> WorkspaceOut:
        workspace.set_as_of(body.as_of)
        return get_workspace()

    @app.api_route("/api/{path:path}", methods=_METHODS, include_in_schema=False)
    async def nothing(path: str) -> None:
        raise HTTPException(404)

    if settings.web is not None:
        _serve_web(app, settings.web)
    return app


def _serve_web(app: FastAPI, web: Path) -> None:
    app.mount("/assets", StaticFiles(directory=web / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    async def page(path: str) -> FileResponse:
        """The page; where a person is in it stands behind the #, so that any other path is a mistake, told as one."""
        return FileResponse(web / "index.html", 404 if path else 200, {"Cache-Control": "no-cache"})
