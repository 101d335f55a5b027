"""The folio over HTTP: pages of kept answers, worked again, watched, written out and shared."""

from __future__ import annotations

import asyncio
import datetime as dt
import functools
import uuid
from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace
from typing import Annotated, TypeVar

from anyio.to_thread import run_sync
from fastapi import APIRouter, Depends, Query, Request, Response
from fastapi.responses import FileResponse
from pydantic import ValidationError
from starlette.background import BackgroundTask

from gumption.core.folio.changes import UNCHANGED, Changed
from gumption.core.folio.document import html_of
from gumption.core.folio.in_short import in_short
from gumption.core.folio.page import MOST_PARTS, PageFile, Part
from gumption.core.folio.working import Working
from gumption.engines.limits import Stop
from gumption.server.files_out import PAGE_MEDIA, PageForm, name_of
from gumption.server.folio_feed import atom
from gumption.server.folio_pages import Folio, shown_part, told_of, write_page
from gumption.server.folio_schemas import (
    DeletedPageOut,
    FolioOut,
    FolioPageOut,
    FromTrailIn,
    InShortOut,
    KeptOut,
    LinkIn,
    LinkOut,
    NewPartIn,
    OpenedOut,
    OrderIn,
    PageBriefOut,
    PageTitleIn,
    PartIn,
    PartOut,
    ScheduleIn,
    WorkIn,
)
from gumption.server.problems import ApiProblem
from gumption.server.sending import fields_out, rows_out, with_zone
from gumption.server.shelf import At
from gumption.server.working import waited
from gumption.store.folio import Page, Schedule, ShareLink, StoredPart, Worked
from gumption.store.records import TrailEntry

MOST_PAGES = 1_000

kept = APIRouter(prefix="/api/v1/workspaces/{workspace}/folio")
"""The routes of the room Folio."""
T = TypeVar("T")


def _folio(at: At) -> Folio:
    return Folio(at.workspace)


In = Annotated[Folio, Depends(_folio)]
"""The folio of the workspace that a request names."""


async def _worked(request: Request, at: At, run: str, work: Callable[[Stop], T]) -> T:
    """Work done beside the requests, stopped with the person who waits for it."""
    with at.asking.runs.running(run) as stop:
        return await waited(request, asyncio.ensure_future(run_sync(work, stop)), stop)


# -- as it stands --------------------------------------------------------------------------------


def _brief(folio: Folio, page: Page, worked: dict[int, Worked], answers: int) -> PageBriefOut:
    found = list(worked.values())
    return PageBriefOut(
        id=page.id,
        title=page.title,
        answers=answers,
        worked_at=with_zone(max((w.worked_at for w in found if w.worked_at is not None), default=None)),
        older_than=folio.older_than(found),
        met=[w.seen for w in found if w.seen is not None and w.seen.met],
        failed=sum(bool(w.problem) for w in found),
        schedule=page.schedule,
        next_at=with_zone(page.next_at),
    )


def _kept_out(working: Working) -> KeptOut:
    rows = working.values()
    return KeptOut(
        reading=working.reading,
        doubt=working.doubt,
        finding=working.finding,
        fields=fields_out(working.fields),
        rows=rows_out(rows),
        cells=working.cells(),
        total=working.total,
        is_one_figure=working.is_one_figure and len(working.fields) == 1,
        chart=working.chart,
        steps=list(working.steps),
        checks=list(working.checks),
        sql=working.sql,
        note=working.note,
    )


def _part_out(stored: StoredPart, worked: Worked | None) -> PartOut:
    part = stored.part
    return PartOut(
        id=stored.id,
        kind=part.kind,
        text=part.text,
        html=html_of(part.text) if part.kind == "text" else "",
        beside=part.beside,
        question=part.kept.question if part.kept is not None else "",
        watch=part.watch,
        answer=_kept_out(worked.working) if worked is not None and worked.working is not None else None,
        problem=worked.problem if worked is not None else "It was not worked yet." if part.kept is not None else "",
        mend=worked.mend if worked is not None else "",
        changed=worked.changed if worked is not None else Changed(words=UNCHANGED),
        seen=worked.seen if worked is not None else None,
        worked_at=with_zone(worked.worked_at) if worked is not None else None,
        since=with_zone(worked.since) if worked is not None else None,
    )


def _page_out(folio: Folio, number: int, up_to: int | None = None) -> FolioPageOut:
    page = folio.page(number)
    records = folio.records
    parts, worked = records.parts(number), records.worked(number, up_to)
    workings = records.workings(number)
    answers = sum(p.part.kept is not None for p in parts)
    shown = [shown_part(p, worked.get(p.id)) for p in parts]
    return FolioPageOut(
        **_brief(folio, page, worked, answers).model_dump(),
        told=told_of(shown, list(worked.values())),
        in_short=[InShortOut(part=parts[one.place].id, sentence=one.sentence) for one in in_short(shown)],
        parts=[_part_out(p, worked.get(p.id)) for p in parts],
        workings=[replace(w, worked_at=w.worked_at.astimezone()) for w in workings],
        shown=up_to,
        links=[_link_out(link) for link in records.links(number)],
    )


def _link_out(link: ShareLink) -> LinkOut:
    return LinkOut(token=link.token, part=link.part, ends_at=link.ends_at.astimezone())


@kept.get("")
def get_folio(folio: In) -> FolioOut:
    """All pages, and how each stands."""
    pages = [
        _brief(folio, page, folio.records.worked(page.id, whole=False), folio.records.answers(page.id))
        for page in folio.records.pages()
    ]
    deleted = [
        DeletedPageOut(id=p.id, title=p.title, deleted_at=p.deleted_at.astimezone())
        for p in folio.records.pages(deleted=True)
        if p.deleted_at is not None
    ]
    return FolioOut(pages=pages, deleted=deleted)


@kept.get("/feed.atom", include_in_schema=False)
def get_feed(folio: In, request: Request) -> Response:
    """The watches that were met, as a feed for readers of news."""
    text = atom(folio.records.sightings(), folio.workspace.title, str(request.url), folio.workspace.number)
    return Response(text, media_type="application/atom+xml")


# -- pages ---------------------------------------------------------------------------------------


def _room_for_one(folio: Folio) -> None:
    if len(folio.records.pages()) >= MOST_PAGES:
        raise ApiProblem(422, f"A folio has {MOST_PAGES:,} pages at most.", "Delete one that nobody needs.")


@kept.post("")
def post_page(folio: In, body: PageTitleIn) -> FolioPageOut:
    """A new, empty page."""
    _room_for_one(folio)
    return _page_out(folio, folio.records.make(body.title))


@kept.post("/from-trail")
async def post_from_trail(at: At, folio: In, body: FromTrailIn, request: Request) -> FolioPageOut:
    """A page of answers of the trail, as a brief gives them."""
    await run_sync(_room_for_one, folio)
    number = await run_sync(folio.records.make, body.title)
    for entry in body.entries:
        chain = await at.asking.entry(entry)
        if entry in body.headings:
            await run_sync(folio.records.add_part, number, Part(kind="heading", text=body.headings[entry]))
        # An answer that the brief did not get has nothing to be kept.
        with suppress(ApiProblem):
            await _worked(request, at, "", functools.partial(folio.keep, number, chain, "", None))
    return await run_sync(_page_out, folio, number)


@kept.post("/file")
async def post_file(at: At, folio: In, request: Request) -> FolioPageOut:
    """Take up a page that was saved as a file, which is the request's body, and work it."""
    try:
        file = PageFile.model_validate_json(await request.body())
    except ValidationError as error:
        raise ApiProblem(
            422, "This is no saved page, or it is broken.", "Save it again where it comes from."
        ) from error
    await run_sync(_room_for_one, folio)
    number = await run_sync(folio.records.make, file.title, file.parts)
    await _worked(request, at, "", lambda stop: folio.work(number, "asked", stop))
    return await run_sync(_page_out, folio, number)


@kept.post("/work")
async def post_work_all(at: At, folio: In, body: WorkIn, request: Request) -> FolioOut:
    """Work every page again."""
    pages = [page.id for page in await run_sync(folio.records.pages)]

    def work(stop: Stop) -> None:
        for number in pages:
            folio.work(number, "asked", stop)

    await _worked(request, at, body.run, work)
    return await run_sync(get_folio, folio)


@kept.get("/{page}")
def get_page(folio: In, page: int, working: int | None = None) -> FolioPageOut:
    """A page as it stands, or as it stood at an earlier working."""
    return _page_out(folio, page, working)


@kept.put("/{page}")
def put_page(folio: In, page: int, body: PageTitleIn) -> FolioPageOut:
    """Give a page another title."""
    folio.page(page)
    folio.records.rename(page, body.title)
    return _page_out(folio, page)


@kept.post("/{page}/copy")
async def post_copy(at: At, folio: In, page: int, body: PageTitleIn, request: Request) -> FolioPageOut:
    """All that stands on a page once more, under another title, worked now."""
    await run_sync(_room_for_one, folio)
    await run_sync(folio.page, page)
    parts = [stored.part for stored in await run_sync(folio.records.parts, page)]
    number = await run_sync(folio.records.make, body.title, parts)
    await _worked(request, at, "", lambda stop: folio.work(number, "asked", stop))
    return await run_sync(_page_out, folio, number)


@kept.delete("/{page}", status_code=204)
def delete_page(folio: In, page: int, for_good: bool = False) -> None:
    """Delete a page so that it can be had back, or for good with all that it ever came to."""
    folio.page(page, deleted=True)
    if for_good:
        folio.records.drop(page)
    else:
        folio.records.put_away(page, True)


@kept.post("/{page}/restored")
def post_restored(folio: In, page: int) -> FolioPageOut:
    """Have a deleted page back."""
    folio.page(page, deleted=True)
    folio.records.put_away(page, False)
    return _page_out(folio, page)


@kept.put("/{page}/schedule")
def put_schedule(folio: In, page: int, body: ScheduleIn) -> FolioPageOut:
    """Have a page worked again by itself, or no longer."""
    folio.page(page)
    folio.records.set_schedule(page, body.schedule, _next(body.schedule))
    return _page_out(folio, page)


def _next(schedule: Schedule | None) -> dt.datetime | None:
    return schedule.next_after(dt.datetime.now()) if schedule is not None else None


# -- what stands on a page -----------------------------------------------------------------------


@kept.post("/{page}/parts")
async def post_part(at: At, folio: In, page: int, body: NewPartIn, request: Request) -> FolioPageOut:
    """Put a text, a heading or the answer of a question of the trail on a page."""
    await run_sync(folio.page, page)
    if len(await run_sync(folio.records.parts, page)) >= MOST_PARTS:
        raise ApiProblem(422, f"A page has {MOST_PARTS} parts at most.", "Begin another page.")
    if body.kind != "answer":
        part = Part(kind=body.kind, text=body.text)
        await run_sync(folio.records.add_part, page, part, body.after)
    else:
        if body.entry is None:
            raise ApiProblem(422, "It is not said which answer is to be kept.", "Give its number in the trail.")
        chain = await at.asking.entry(body.entry)
        number = await _worked(request, at, "", functools.partial(folio.keep, page, chain, body.drawn, body.after))
        if body.beside:
            stored = await run_sync(folio.part, page, number)
            beside = stored.part.model_copy(update={"beside": True})
            await run_sync(folio.records.set_part, page, number, beside)
    return await run_sync(_page_out, folio, page)


@kept.put("/{page}/parts/{part}")
def put_part(folio: In, page: int, part: int, body: PartIn) -> FolioPageOut:
    """Change a text, put an answer beside the one before it, or watch it."""
    stored = folio.part(page, part)
    said = {name: value for name in ("text", "beside", "watch") if (value := getattr(body, name)) is not None}
    changed = stored.part.model_copy(update=said | ({"watch": None} if body.unwatch else {}))
    folio.records.set_part(page, part, changed)
    if body.watch is not None or body.unwatch:
        folio.watch(page, part)
    return _page_out(folio, page)


@kept.delete("/{page}/parts/{part}")
def delete_part(folio: In, page: int, part: int) -> FolioPageOut:
    """Take something off a page, for good."""
    folio.part(page, part)
    folio.records.drop_part(page, part)
    return _page_out(folio, page)


@kept.put("/{page}/order")
def put_order(folio: In, page: int, body: OrderIn) -> FolioPageOut:
    """Put what stands on a page in another order."""
    folio.page(page)
    folio.records.order(page, body.parts)
    return _page_out(folio, page)


@kept.post("/{page}/work")
async def post_work(at: At, folio: In, page: int, body: WorkIn, request: Request) -> FolioPageOut:
    """Work a page again, or some of its answers, over the tables as they are now."""
    await run_sync(folio.page, page)
    only = set(body.parts) if body.parts is not None else None
    await _worked(request, at, body.run, lambda stop: folio.work(page, "asked", stop, only))
    return await run_sync(_page_out, folio, page)


@kept.post("/{page}/parts/{part}/mended")
async def post_mended(at: At, folio: In, page: int, part: int, request: Request) -> FolioPageOut:
    """Keep an answer as its question is read now."""
    await _worked(request, at, "", functools.partial(folio.mend, page, part))
    return await run_sync(_page_out, folio, page)


@kept.post("/{page}/parts/{part}/opened")
def post_opened(folio: In, page: int, part: int) -> OpenedOut:
    """A kept answer as a question of the trail, so that it can be gone on from."""
    found = folio.part(page, part).part.kept
    if found is None:
        raise ApiProblem(422, "Only an answer can be opened.", "Click one of the answers.")
    records = folio.workspace.records
    there = records.chain(found.entry)
    if there and there[-1].question == found.question:
        return OpenedOut(entry=found.entry)
    parent: int | None = None
    for asked in found.chain:
        entry = TrailEntry(
            0,
            parent,
            asked.question,
            asked.choice,
            asked.status,
            0,
            "",
            asked.reading,
            asked.terms,
            by_hand=asked.by_hand,
        )
        parent = records.add_to_trail(entry)
    assert parent is not None
    return OpenedOut(entry=parent)


# -- out -----------------------------------------------------------------------------------------


@kept.get("/{page}/file", include_in_schema=False)
def get_file(
    at: At,
    folio: In,
    page: int,
    form: PageForm = "html",
    working: int | None = None,
    part: Annotated[int | None, Query()] = None,
) -> FileResponse:
    """A page as a file, as it stands or as it stood at an earlier working; or one of its answers by itself."""
    path = at.workspace.scratch / f"page-{uuid.uuid4().hex}.{form}"
    document = folio.document(page, working, part)
    try:
        write_page(document, folio.page_file(page), path, form)
    except BaseException:
        path.unlink(missing_ok=True)
        raise
    name = name_of(document.title, "page.json" if form == "json" else form)
    return FileResponse(path, media_type=PAGE_MEDIA[form], filename=name, background=BackgroundTask(path.unlink))


@kept.post("/{page}/links")
def post_link(folio: In, page: int, body: LinkIn) -> FolioPageOut:
    """A link by which who has it reads the page, or one of its answers, until it ends."""
    folio.page(page)
    if body.part is not None:
        folio.part(page, body.part)
    folio.records.add_link(page, body.part, dt.datetime.now() + dt.timedelta(days=body.days))
    return _page_out(folio, page)


@kept.delete("/{page}/links/{token}")
def delete_link(folio: In, page: int, token: str) -> FolioPageOut:
    """Withdraw a link: from now on it leads nowhere."""
    if not folio.records.drop_link(folio.page(page).id, token):
        raise ApiProblem(404, "That link was withdrawn already.", "Reload the page.")
    return _page_out(folio, page)
