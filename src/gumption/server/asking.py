"""Questions, plans and a person's own SQL over HTTP: what is asked, what is answered, and how it is stopped."""

from __future__ import annotations

import asyncio
import json
import time
import uuid
from dataclasses import replace
from typing import Annotated

from anyio.to_thread import run_sync
from fastapi import APIRouter, Query, Request, Response
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from gumption.core.editing.forms import Form, StepKind
from gumption.core.model.lesson import Lesson
from gumption.engines.theirs import Theirs
from gumption.server import by_hand, tasks
from gumption.server.files_out import MEDIA, FileForm, name_of
from gumption.server.problems import ApiProblem
from gumption.server.schemas import (
    AlternativeOut,
    AnswerOut,
    BriefOut,
    DialectIn,
    DialectOut,
    EditIn,
    GlossResult,
    LessonOut,
    MarkIn,
    OptionOut,
    PageOut,
    PlanIn,
    QuestionIn,
    RemarkOut,
    RunOut,
    TheirSqlIn,
    TheirSqlOut,
    TrailIn,
    TrailOut,
    WordsIn,
    WorkedOut,
)
from gumption.server.sending import cells_out, fields_out, lesson_out, rows_out
from gumption.server.shelf import At
from gumption.server.tasks import Told
from gumption.server.their_process import run_theirs_apart
from gumption.server.workers import stoppable
from gumption.server.working import waited

MOST_QUESTION_BYTES = 60_000
"""Bytes of a question, or of a text that asks several, as the records can hold it."""

STEP_PATH = r"^\d{1,4}(\.\d{1,4}){0,19}$"
"""Where a step stands, as an address has it."""

asked = APIRouter(prefix="/api/v1/workspaces/{workspace}")
"""The routes of the room Ask."""


def _json(content: str) -> Response:
    return Response(content, media_type="application/json")


def _checked(body: QuestionIn | WordsIn) -> None:
    if len(body.question.encode("utf-8", "surrogatepass")) > MOST_QUESTION_BYTES:
        raise ApiProblem(413, f"A question can have {MOST_QUESTION_BYTES // 1000} kB.", "Ask less at once.")


@asked.post("/gloss", response_model=GlossResult)
async def post_gloss(at: At, body: QuestionIn, request: Request) -> Response:
    _checked(body)
    chain = await at.asking.chain(body.follows)
    return _json(await at.asking.work(request, "read", tasks.gloss, body, chain, at.workspace.as_of()))


@asked.post("/words", response_model=list[OptionOut])
async def post_words(at: At, body: WordsIn, request: Request) -> list[OptionOut]:
    """What else some words of a question could mean, the likeliest first; the last is to leave them out."""
    _checked(body)
    chain = await at.asking.chain(body.follows)
    found: list[OptionOut] = await at.asking.work(request, "read", tasks.words, body, chain, at.workspace.as_of())
    return found


@asked.get("/tables/{name}/worth", response_model=list[RemarkOut])
async def get_worth(at: At, name: str, request: Request, run: str = "") -> list[RemarkOut]:
    """What stands out in a table."""
    found: list[RemarkOut] = await at.asking.work(
        request, "answer", tasks.worth_a_look, name, at.workspace.as_of(), run=run
    )
    return found


@asked.post("/briefs", response_model=BriefOut)
async def post_brief(at: At, body: QuestionIn, request: Request) -> Response:
    """A text cut into the questions that it asks, each read and none worked yet."""
    _checked(body)
    return _json(await at.asking.work(request, "answer", tasks.brief, body.question, at.workspace.as_of()))


@asked.post("/questions", response_model=AnswerOut)
async def post_question(at: At, body: QuestionIn, request: Request) -> Response:
    _checked(body)
    chain = await at.asking.chain(body.follows)
    told: Told = await at.asking.work(
        request, "answer", tasks.answer, body, chain, at.workspace.as_of(), run=body.run, near=body.question
    )
    answer = told.answer
    if told.lesson is not None:
        lesson = await run_sync(at.workspace.teach, told.lesson)
        answer = json.dumps(json.loads(answer) | {"lesson": lesson_out(lesson).model_dump()})
    number = await run_sync(at.workspace.records.add_to_trail, told.entry, body.asked_by)
    return _json(f'{{"id":{number},{answer[1:]}')


@asked.get("/trail")
def get_trail(at: At, most: Annotated[int, Query(ge=1, le=100_000)] = 300) -> list[TrailOut]:
    """The questions asked last, oldest first."""
    return [TrailOut.model_validate(e, from_attributes=True) for e in at.workspace.records.trail(most)]


@asked.get("/trail/{number}", response_model=AnswerOut)
async def get_entry(
    at: At,
    number: int,
    request: Request,
    twice: bool = False,
    drawn: Annotated[str, Query(max_length=200)] = "",
    run: str = "",
) -> Response:
    """An answer with today's data; `drawn` asks for another chart of it, a kind and how it is to look."""
    chain = await at.asking.entry(number)
    given = chain, at.workspace.as_of(), twice, drawn
    return _json(await at.asking.work(request, "answer", tasks.answer_again, *given, run=run, near=chain[-1].question))


@asked.get("/trail/{number}/file", include_in_schema=False)
async def get_answer_file(at: At, number: int, request: Request, form: FileForm = "csv") -> FileResponse:
    """All rows of an answer as a file, however few of them are shown."""
    chain = await at.asking.entry(number)
    path = at.workspace.scratch / f"answer-{uuid.uuid4().hex}.{form}"
    given = chain, at.workspace.as_of(), path, form
    try:
        await at.asking.work(request, "answer", tasks.write_file, *given, near=chain[-1].question)
    except BaseException:
        path.unlink(missing_ok=True)
        raise
    away = BackgroundTask(path.unlink)
    return FileResponse(path, media_type=MEDIA[form], filename=name_of(chain[-1].question, form), background=away)


@asked.get("/trail/{number}/rows", response_model=PageOut)
async def get_rows(
    at: At,
    number: int,
    request: Request,
    offset: Annotated[int, Query(ge=0, le=10**12)] = 0,
    limit: Annotated[int, Query(ge=1, le=1_000)] = 200,
    sort: Annotated[str, Query(max_length=1_000)] = "",
    descending: bool = False,
) -> Response:
    """Rows of an answer, in the order of one of its columns where that is wanted."""
    chain = await at.asking.entry(number)
    given = chain, at.workspace.as_of(), offset, limit, sort, descending
    return _json(await at.asking.work(request, "answer", tasks.page, *given))


@asked.get("/trail/{number}/totals")
async def get_totals(at: At, number: int, request: Request) -> list[str | None]:
    """For each column of an answer what its rows add up to; null where that means nothing."""
    chain = await at.asking.entry(number)
    found: list[str | None] = await at.asking.work(request, "answer", tasks.totals, chain, at.workspace.as_of())
    return found


@asked.get("/trail/{number}/behind", response_model=WorkedOut)
async def get_behind(
    at: At,
    number: int,
    request: Request,
    row: Annotated[int, Query(ge=0, le=1_000_000)],
    column: Annotated[str, Query(max_length=1_000)] = "",
    run: str = "",
) -> Response:
    """The rows that a row of an answer, or of a cross table the cell in one of its columns, was worked out from."""
    chain = await at.asking.entry(number)
    given = chain, at.workspace.as_of(), row, column
    return _json(await at.asking.work(request, "answer", tasks.behind, *given, run=run))


@asked.get("/trail/{number}/others")
async def get_others(at: At, number: int, request: Request) -> list[AlternativeOut]:
    """The other readings of a question, each with what it would answer."""
    chain = await at.asking.entry(number)
    found: list[AlternativeOut] = await at.asking.work(request, "answer", tasks.others, chain, at.workspace.as_of())
    return found


@asked.get("/trail/{number}/next")
async def get_next(at: At, number: int, request: Request) -> list[str]:
    """Follow-ups worth asking of an answer; what is typed next is read where these are."""
    chain = await at.asking.entry(number)
    found: list[str] = await at.asking.work(request, "read", tasks.next_of, chain, at.workspace.as_of())
    return found


@asked.get("/trail/{number}/steps/form", response_model=Form)
async def get_form(
    at: At, number: int, request: Request, path: Annotated[str, Query(pattern=STEP_PATH)], add: StepKind | None = None
) -> Response:
    """The form of an answer's step, such as 3, or 3.0 for one of the plan that it brings in; or of one to add before it."""
    chain = await at.asking.entry(number)
    given = chain, at.workspace.as_of(), tuple(map(int, path.split("."))), add
    return _json(await at.asking.work(request, "read", by_hand.step_form, *given))


@asked.get("/trail/{number}/steps/rows", response_model=WorkedOut)
async def get_step_rows(
    at: At, number: int, request: Request, path: Annotated[str, Query(pattern=STEP_PATH)], run: str = ""
) -> Response:
    """The rows as they come out of a step of an answer."""
    chain = await at.asking.entry(number)
    given = chain, at.workspace.as_of(), tuple(map(int, path.split(".")))
    return _json(await at.asking.work(request, "answer", by_hand.step_rows, *given, run=run))


@asked.post("/trail/{number}/steps", response_model=AnswerOut)
async def post_edit(at: At, number: int, body: EditIn, request: Request) -> Response:
    """The answer with its steps changed by hand: an entry of its own behind the question's, and the same one from then on."""
    chain = await at.asking.entry(number)
    told: Told = await at.asking.work(
        request, "answer", tasks.edit, body.edit, chain, at.workspace.as_of(), run=body.run
    )
    records = at.workspace.records
    if not chain[-1].by_hand:
        number = await run_sync(records.add_to_trail, told.entry)
    elif not await run_sync(records.tell_anew, number, told.entry):
        raise ApiProblem(404, "That question is no longer in the trail.", "Reload the page.")
    return _json(f'{{"id":{number},{told.answer[1:]}')


@asked.post("/trail/{number}/mark")
async def post_mark(at: At, number: int, body: MarkIn, request: Request) -> LessonOut:
    """This was right, or wrong: evidence for the same wording and its near kin from now on."""
    chain = await at.asking.entry(number)
    lesson: Lesson = await at.asking.work(request, "answer", tasks.mark, chain, at.workspace.as_of(), body.right)
    return lesson_out(await run_sync(at.workspace.teach, replace(lesson, because=body.because)))


@asked.get("/lessons")
def get_lessons(at: At) -> list[LessonOut]:
    """All that people taught this workspace."""
    return [lesson_out(lesson) for lesson in at.workspace.records.lessons()]


@asked.delete("/lessons/{number}", status_code=204)
def delete_lesson(at: At, number: int) -> None:
    if not at.workspace.forget(number):
        raise ApiProblem(404, "That was forgotten already.", "Reload the page.")


@asked.put("/trail/{number}", status_code=204)
def put_entry(at: At, number: int, body: TrailIn) -> None:
    """Star a question of the trail, call it something there, or put it elsewhere among its neighbours."""
    if not at.workspace.records.mark_entry(number, body.starred, body.title, body.place):
        raise ApiProblem(404, "That question is no longer in the trail.", "Reload the page.")


@asked.delete("/trail/{number}", status_code=204)
def delete_entry(at: At, number: int) -> None:
    """Delete a question of the trail with all that follow it, for good."""
    if not at.workspace.records.drop_entry(number):
        raise ApiProblem(404, "That question is no longer in the trail.", "Reload the page.")


@asked.delete("/trail", status_code=204)
def delete_trail(at: At) -> None:
    at.workspace.records.clear_trail()


@asked.post("/plans", response_model=WorkedOut)
async def post_plan(at: At, body: PlanIn, request: Request) -> Response:
    """The answer of a plan that another program made, worked and checked like our own."""
    given = body.plan, at.workspace.as_of()
    return _json(await at.asking.work(request, "answer", tasks.work_plan, *given, run=body.run))


@asked.post("/plans/sql", response_model=DialectOut)
async def post_plan_sql(at: At, body: DialectIn, request: Request) -> Response:
    """A plan as SQL of another dialect."""
    return _json(await at.asking.work(request, "answer", tasks.plan_as_sql, body.plan, body.dialect))


@asked.post("/sql")
async def post_sql(at: At, body: TheirSqlIn, request: Request) -> TheirSqlOut:
    """One SELECT that a person wrote over the workspace's tables; the result is theirs, and not checked."""
    start = time.perf_counter()
    given = body.sql, at.workspace.parquet, at.workspace.limits, at.workspace.scratch
    with at.asking.runs.running(body.run) as stop:
        future = stoppable(at.asking.sql_threads, stop, lambda: run_theirs_apart(*given, stop))
        theirs: Theirs = await waited(request, asyncio.wrap_future(future), stop)
    return TheirSqlOut(
        fields=fields_out(theirs.schema),
        rows=rows_out(theirs.rows),
        cells=cells_out(theirs.rows, theirs.schema),
        total=theirs.total,
        whole=theirs.whole,
        seconds=time.perf_counter() - start,
    )


@asked.get("/runs/{run}")
async def get_run(at: At, run: str) -> RunOut:
    """How far a piece of work is; that it is over by now is no mistake of who asks."""
    return RunOut(told=at.asking.runs.told(run))


@asked.post("/runs/{run}/stop", status_code=204)
async def stop_run(at: At, run: str) -> None:
    if not at.asking.runs.stop(run):
        raise ApiProblem(404, "That is over already.")
