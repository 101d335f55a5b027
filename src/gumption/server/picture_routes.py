"""Pictures that cells of an answer name: sent beside the data, or at an address of the outside."""

from __future__ import annotations

import functools
from typing import Annotated

from anyio import CapacityLimiter
from anyio.to_thread import run_sync
from fastapi import APIRouter, Query, Response

from gumption.intake.pictures import Picture, picture_at, picture_in
from gumption.server.problems import ApiProblem
from gumption.server.shelf import At

pictured = APIRouter(prefix="/api/v1/workspaces/{workspace}")


@pictured.get("/picture", include_in_schema=False)
async def get_picture_from_elsewhere(at: At, address: Annotated[str, Query(max_length=2_000)]) -> Response:
    """A picture whose address stands in an answer, once somebody wants to see it: the page itself loads nothing from elsewhere."""
    found = await run_sync(picture_at, address, at.jobs.allowed, limiter=_fetching())
    return _shown(found, "private, max-age=86400")


@functools.cache
def _fetching() -> CapacityLimiter:
    """So many pictures are fetched at once."""
    return CapacityLimiter(4)


@pictured.get("/pictures")
def get_pictures(at: At) -> list[str]:
    """The names of the pictures that were sent."""
    return at.workspace.pictures.names()


@pictured.get("/pictures/{name}", include_in_schema=False)
def get_picture(at: At, name: str) -> Response:
    """A picture that was sent; another may take its name, so that it is asked for anew each time."""
    try:
        found = picture_in(at.workspace.pictures.path(name), name)
    except KeyError as error:
        raise _no_picture(name) from error
    return _shown(found, "private, no-cache")


@pictured.delete("/pictures/{name}", status_code=204)
def delete_picture(at: At, name: str) -> None:
    """Delete a picture that was sent, for good."""
    try:
        with at.workspace.unchanging():
            at.workspace.pictures.remove(name)
    except KeyError as error:
        raise _no_picture(name) from error


def _no_picture(name: str) -> ApiProblem:
    return ApiProblem(404, f"There is no picture {name}.", "Reload the page to see which there are.")


def _shown(picture: Picture, kept: str) -> Response:
    return Response(picture.content, media_type=picture.media, headers={"Cache-Control": kept})
