"""Workspaces over HTTP: which there are, and what can be done with a whole one."""

from __future__ import annotations

import uuid
from dataclasses import asdict

from anyio.to_thread import run_sync
from fastapi import APIRouter, Request
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from gumption.server.files_out import name_of
from gumption.server.problems import ApiProblem
from gumption.server.saved import ENDING, save, take_in
from gumption.server.schemas import ArchivedIn, AsOfIn, ShelvedOut, WorkspaceIn, WorkspaceOut
from gumption.server.sending import with_zone
from gumption.server.shelf import At, Room, Shelf
from gumption.server.tables import table_out
from gumption.store.shelf import Shelved

whole = APIRouter(prefix="/api/v1/workspaces")
"""The routes of whole workspaces."""


def _shelf(request: Request) -> Shelf:
    shelf: Shelf = request.app.state.shelf
    return shelf


def _out(found: Shelved) -> ShelvedOut:
    last = None if found.last is None else {**asdict(found.last), "asked_at": with_zone(found.last.asked_at)}
    times = {name: with_zone(getattr(found, name)) for name in ("made_at", "opened_at", "first_asked")}
    rows = sum(size for _, size in found.tables)
    return ShelvedOut.model_validate({**asdict(found), **times, "last": last, "rows": rows})


def _workspace_out(at: Room, shelf: Shelf) -> WorkspaceOut:
    workspace, allowed = at.workspace, shelf.house.allowed
    tables = [table_out(workspace, s) for s in workspace.stored]
    return WorkspaceOut(
        id=workspace.number,
        title=workspace.title,
        demo=workspace.demo,
        as_of=workspace.as_of(),
        rows=sum(t.table.rows for t in tables),
        tables=tables,
        preparing=workspace.preparing,
        relationships=list(workspace.catalogue.relationships),
        upload_limit=allowed.most_bytes,
        folders=[str(f) for f in allowed.folders],
    )


@whole.get("")
def get_workspaces(request: Request) -> list[ShelvedOut]:
    """Every workspace, the one opened last first."""
    return [_out(w) for w in _shelf(request).shelved.all()]


@whole.post("")
def post_workspace(body: WorkspaceIn, request: Request) -> ShelvedOut:
    """A new, empty workspace."""
    shelf = _shelf(request)
    return _out(shelf.known(shelf.shelved.make(shelf.free_title(body.title))))


@whole.post("/demo")
def post_demo(request: Request) -> ShelvedOut:
    """The demo as it was made, in a workspace of its own."""
    shelf = _shelf(request)
    return _out(shelf.known(shelf.make_demo()))


@whole.post("/saved")
async def post_saved(request: Request) -> ShelvedOut:
    """Take up a workspace that was saved as one file, which is the request's body."""
    shelf = _shelf(request)
    path = shelf.house.folder / f"saved-{uuid.uuid4().hex}"
    most, have = shelf.house.allowed.most_bytes, 0
    try:
        with path.open("wb") as stream:
            async for piece in request.stream():
                have += len(piece)
                if have > most:
                    raise ApiProblem(413, f"The file is larger than {most / 1e9:.3g} GB.", "Raise --upload-limit.")
                stream.write(piece)
        return _out(shelf.known(await run_sync(take_in, shelf, path)))
    finally:
        path.unlink(missing_ok=True)


@whole.get("/{workspace}")
def get_workspace(at: At, request: Request) -> WorkspaceOut:
    """All that is in a workspace."""
    return _workspace_out(at, _shelf(request))


@whole.put("/{workspace}/opened", status_code=204)
def put_opened(at: At, request: Request) -> None:
    """Somebody comes to a workspace now."""
    _shelf(request).shelved.opened(at.workspace.number)


@whole.put("/{workspace}")
def put_workspace(workspace: int, body: WorkspaceIn, request: Request) -> ShelvedOut:
    """Give a workspace another name."""
    shelf = _shelf(request)
    shelf.rename(workspace, body.title)
    return _out(shelf.known(workspace))


@whole.put("/{workspace}/archived")
def put_archived(workspace: int, body: ArchivedIn, request: Request) -> ShelvedOut:
    """Put a workspace away, or take it out again; nothing of it is lost."""
    shelf = _shelf(request)
    shelf.archive(workspace, body.archived)
    return _out(shelf.known(workspace))


@whole.put("/{workspace}/as-of")
def put_as_of(at: At, body: AsOfIn, request: Request) -> WorkspaceOut:
    """Let a day count as today, or the real one again."""
    at.workspace.set_as_of(body.as_of)
    return _workspace_out(at, _shelf(request))


@whole.post("/{workspace}/copy")
def post_copy(workspace: int, body: WorkspaceIn, request: Request) -> ShelvedOut:
    """All of a workspace once more, under another name."""
    shelf = _shelf(request)
    return _out(shelf.known(shelf.copy(workspace, body.title)))


@whole.post("/{workspace}/demo")
def post_demo_afresh(workspace: int, request: Request) -> ShelvedOut:
    """The demo as it was made, in place of what became of it."""
    shelf = _shelf(request)
    return _out(shelf.known(shelf.demo_afresh(workspace)))


@whole.get("/{workspace}/saved", include_in_schema=False)
def get_saved(at: At, request: Request) -> FileResponse:
    """The workspace as one file, to be taken up elsewhere."""
    path = at.workspace.scratch / f"saved-{uuid.uuid4().hex}"
    try:
        save(_shelf(request), at.workspace, path)
    except BaseException:
        path.unlink(missing_ok=True)
        raise
    name = name_of(at.workspace.title, ENDING)
    return FileResponse(path, media_type="application/zip", filename=name, background=BackgroundTask(path.unlink))


@whole.delete("/{workspace}", status_code=204)
def delete_workspace(workspace: int, request: Request) -> None:
    """Delete a workspace with all that it has, for good."""
    _shelf(request).delete(workspace)
