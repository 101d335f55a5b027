"""The HTTP API under /api/v1, and the built front end beside it."""

from __future__ import annotations

import logging
import re
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import FileResponse, JSONResponse
from fastapi.staticfiles import StaticFiles
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware

from gumption.core.model.fault import Fault
from gumption.server.asking import asked
from gumption.server.folio import kept
from gumption.server.glossary import words
from gumption.server.guard import Guard
from gumption.server.linked import linked
from gumption.server.picture_routes import pictured
from gumption.server.problems import ApiProblem, NoTable, problem_of
from gumption.server.schemas import Problem
from gumption.server.shelf import Shelf
from gumption.server.styles import Styled
from gumption.server.tables import tables
from gumption.server.upload_routes import sent
from gumption.server.workspaces import whole
from gumption.store.records import StoreError

log = logging.getLogger(__name__)


@dataclass(frozen=True)
class Settings:
    """Who is answered, and with which page."""

    web: Path | None = None
    """The folder of the built front end."""
    hosts: tuple[str, ...] = ()
    """Names besides those of the loopback that this machine is asked by."""
    frames: tuple[str, ...] = ()
    """Origins whose pages may hold ours in a frame."""


_PAGES = re.compile(r"(workspaces|w/\d{1,9}(/.*)?)?", re.S)
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


def create_app(shelf: Shelf, settings: Settings | None = None) -> FastAPI:
    """The application over the workspaces of a shelf."""
    settings = settings or Settings()

    @asynccontextmanager
    async def lifespan(_app: FastAPI) -> AsyncIterator[None]:
        yield
        shelf.close()

    app = FastAPI(
        title="Gumption",
        version="1",
        openapi_url="/api/v1/openapi.json",
        docs_url=None,
        redoc_url=None,
        lifespan=lifespan,
        responses={"default": {"model": Problem}},
    )

    app.state.shelf, app.state.ending = shelf, shelf.runs.stop_all
    app.state.frames = settings.frames
    app.add_middleware(Styled)
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

    for router in (whole, sent, tables, pictured, asked, words, kept, linked):
        app.include_router(router)

    @app.api_route("/api/{path:path}", methods=_METHODS, include_in_schema=False)
    async def nothing(path: str) -> None:
        raise HTTPException(404)

    if settings.web is not None:
        _serve_web(app, settings.web)
    return app


class _Assets(StaticFiles):
    """Parts of the page: another content has another name, so that what a browser has of them it may keep."""

    def file_response(self, *args: Any, **kwargs: Any) -> Response:
        response = super().file_response(*args, **kwargs)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return response


def _serve_web(app: FastAPI, web: Path) -> None:
    app.mount("/assets", GZipMiddleware(_Assets(directory=web / "assets"), compresslevel=6), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    async def page(path: str) -> FileResponse:
        """The page, at the addresses that it has; any other is a mistake, told as one."""
        found = 200 if _PAGES.fullmatch(path) else 404
        return FileResponse(web / "index.html", found, {"Cache-Control": "no-cache"})
