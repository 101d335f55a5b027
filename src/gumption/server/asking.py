"""Questions, plans and a person's own SQL over HTTP: what is asked, what is answered, and how it is stopped."""

from __future__ import annotations

import asyncio
import json
import time
import uuid
from concurrent.futures import ThreadPoolExecutor
from typing import Annotated, Any, TypeVar

from anyio.to_thread import run_sync
from fastapi import APIRouter, Query, Request, Response
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from gumption.engines.answering import json_value
from gumption.engines.limits import Stop
from gumption.engines.theirs import Theirs
from gumption.server import tasks
from gumption.server.desk import Chain
from gumption.server.files_out import name_of
from gumption.server.problems import ApiProblem
from gumption.server.runs import Runs
from gumption.server.schemas import (
    AnswerOut,
    BriefOut,
    DialectIn,
    DialectOut,
    GlossResult,
    LessonOut,
    MarkIn,
    OptionOut,
    PlanIn,
    QuestionIn,
    TheirSqlIn,
    TheirSqlOut,
    TrailOut,
    WordsIn,
    WorkedOut,
)
from gumption.server.tasks import Told, cells_out, fields_out, lesson_out
from gumption.server.their_process import run_theirs_apart
from gumption.server.workers import Kind, Task, stoppable
from gumption.server.workspace import Workspace

MOST_QUESTION_BYTES = 60_000
"""Bytes of a question, or of a text that asks several, as the records can hold it."""
READ_SECONDS = 10.0
"""Time for reading what is typed."""
SQL_AT_ONCE = 2
"""How many people's own SQL runs at once; the others wait."""
_GONE = 0.5
"""Seconds between two looks at whether a person still waits."""
T = TypeVar("T")


def _json(content: str) -> Response:
    return Response(content, media_type="application/json")


class Asking:
    """Work on questions for the routes: begun, waited for, and stopped with the person who waits for it."""

    def __init__(self, workspace: Workspace, runs: Runs) -> None:
        self.workspace, self.runs = workspace, runs

    async def work(self, request: Request, kind: Kind, task: Task, *given: Any, run: str = "", near: str = "") -> Any:
        """What a task gives. Raises ApiProblem where it was stopped or cannot be answered."""
        seconds = self.workspace.limits.seconds if kind == "answer" else READ_SECONDS
        with self.runs.running(run) as stop:
            future = self.workspace.workers.submit(kind, stop, seconds, task, *given, near=near)
            return await waited(request, asyncio.wrap_future(future), stop)

    async def chain(self, number: int | None) -> Chain:
        """The question that another follows, with those before it. Raises ApiProblem."""
        if number is None:
            return ()
        gone = ApiProblem(404, "The question that this follows is no longer in the trail.", "Ask it on its own.")
        return await self._chain(number, gone)

    async def entry(self, number: int) -> Chain:
        """A question of the trail, with those that it followed. Raises ApiProblem."""
        return await self._chain(
            number, ApiProblem(404, "That question is no longer in the trail.", "Reload the page.")
        )

    async def _chain(self, number: int, gone: ApiProblem) -> Chain:
        found = await run_sync(self.workspace.chain, number)
        if not found:
            raise gone
        return found


async def waited(request: Request, future: asyncio.Future[T], stop: Stop) -> T:
    """What a future gives; the work is stopped when the person who waits for it has gone."""
    while not future.done():
        await asyncio.wait((future,), timeout=_GONE)
        if not future.done() and await request.is_disconnected():
            stop.now()
    return future.result()


def _checked(body: QuestionIn | WordsIn) -> None:
    if len(body.question.encode("utf-8", "surrogatepass")) > MOST_QUESTION_BYTES:
        raise ApiProblem(413, f"A question can have {MOST_QUESTION_BYTES // 1000} kB.", "Ask less at once.")


def ask_routes(workspace: Workspace, runs: Runs) -> APIRouter:
    """The routes of the room Ask."""
    router, asking = APIRouter(prefix="/api/v1"), Asking(workspace, runs)
    sql_threads = ThreadPoolExecutor(SQL_AT_ONCE, "sql")

    @router.post("/gloss", response_model=GlossResult)
    async def post_gloss(body: QuestionIn, request: Request) -> Response:
        _checked(body)
        chain = await asking.chain(body.follows)
        return _json(await asking.work(request, "read", tasks.gloss, body, chain, workspace.as_of()))

    @router.post("/words", response_model=list[OptionOut])
    async def post_words(body: WordsIn, request: Request) -> list[OptionOut]:
        """What else some words of a question could mean, the likeliest first; the last is to leave them out."""
        _checked(body)
        chain = await asking.chain(body.follows)
        found: list[OptionOut] = await asking.work(request, "read", tasks.words, body, chain, workspace.as_of())
        return found

    @router.post("/briefs", response_model=BriefOut)
    async def post_brief(body: QuestionIn, request: Request) -> Response:
        """A text cut into the questions that it asks, each read and none worked yet."""
        _checked(body)
        return _json(await asking.work(request, "answer", tasks.brief, body.question, workspace.as_of()))

    @router.post("/questions", response_model=AnswerOut)
    async def post_question(body: QuestionIn, request: Request) -> Response:
        _checked(body)
        chain = await asking.chain(body.follows)
        told: Told = await asking.work(
            request, "answer", tasks.answer, body, chain, workspace.as_of(), run=body.run, near=body.question
        )
        answer = told.answer
        if told.lesson is not None:
            lesson = await run_sync(workspace.teach, told.lesson)
            answer = json.dumps(json.loads(answer) | {"lesson": lesson_out(lesson).model_dump()})
        number = await run_sync(workspace.records.add_to_trail, told.entry, body.asked_by)
        return _json(f'{{"id":{number},{answer[1:]}')

    @router.get("/trail")
    def get_trail(most: Annotated[int, Query(ge=1, le=100_000)] = 300) -> list[TrailOut]:
        """The questions asked last, oldest first."""
        return [TrailOut.model_validate(e, from_attributes=True) for e in workspace.records.trail(most)]

    @router.get("/trail/{number}", response_model=AnswerOut)
    async def get_entry(number: int, request: Request, twice: bool = False, run: str = "") -> Response:
        chain = await asking.entry(number)
        given = chain, workspace.as_of(), twice
        return _json(await asking.work(request, "answer", tasks.answer_again, *given, run=run, near=chain[-1].question))

    @router.get("/trail/{number}/file", include_in_schema=False)
    async def get_answer_file(number: int, request: Request) -> FileResponse:
        """All rows of an answer as CSV, however few of them are shown."""
        chain = await asking.entry(number)
        path = workspace.scratch / f"answer-{uuid.uuid4().hex}.csv"
        try:
            await asking.work(
                request, "answer", tasks.write_csv, chain, workspace.as_of(), path, near=chain[-1].question
            )
        except BaseException:
            path.unlink(missing_ok=True)
            raise
        away = BackgroundTask(path.unlink)
        return FileResponse(path, media_type="text/csv", filename=name_of(chain[-1].question, "csv"), background=away)

    @router.get("/trail/{number}/next")
    async def get_next(number: int, request: Request) -> list[str]:
        """Follow-ups worth asking of an answer; what is typed next is read where these are."""
        chain = await asking.entry(number)
        found: list[str] = await asking.work(request, "read", tasks.next_of, chain, workspace.as_of())
        return found

    @router.post("/trail/{number}/mark")
    async def post_mark(number: int, body: MarkIn, request: Request) -> LessonOut:
        """This was right, or wrong: evidence for the same wording and its near kin from now on."""
        chain = await asking.entry(number)
        lesson = await asking.work(request, "answer", tasks.mark, chain, workspace.as_of(), body.right)
        return lesson_out(await run_sync(workspace.teach, lesson))

    @router.get("/lessons")
    def get_lessons() -> list[LessonOut]:
        """All that people taught this workspace."""
        return [lesson_out(lesson) for lesson in workspace.records.lessons()]

    @router.delete("/lessons/{number}", status_code=204)
    def delete_lesson(number: int) -> None:
        if not workspace.forget(number):
            raise ApiProblem(404, "That was forgotten already.", "Reload the page.")

    @router.delete("/trail", status_code=204)
    def delete_trail() -> None:
        workspace.records.clear_trail()

    @router.post("/plans", response_model=WorkedOut)
    async def post_plan(body: PlanIn, request: Request) -> Response:
        """The answer of a plan that another program made, worked and checked like our own."""
        given = body.plan, workspace.as_of()
        return _json(await asking.work(request, "answer", tasks.work_plan, *given, run=body.run))

    @router.post("/plans/sql", response_model=DialectOut)
    async def post_plan_sql(body: DialectIn, request: Request) -> Response:
        """A plan as SQL of another dialect."""
        return _json(await asking.work(request, "answer", tasks.plan_as_sql, body.plan, body.dialect))

    @router.post("/sql")
    async def post_sql(body: TheirSqlIn, request: Request) -> TheirSqlOut:
        """One SELECT that a person wrote over the workspace's tables; the result is theirs, and not checked."""
        start = time.perf_counter()
        given = body.sql, workspace.parquet, workspace.limits, workspace.scratch
        with runs.running(body.run) as stop:
            future = stoppable(sql_threads, stop, lambda: run_theirs_apart(*given, stop))
            theirs: Theirs = await waited(request, asyncio.wrap_future(future), stop)
        return TheirSqlOut(
            fields=fields_out(theirs.schema),
            rows=[[json_value(v) for v in row] for row in theirs.rows],
            cells=cells_out(theirs.rows, theirs.schema),
            total=theirs.total,
            whole=theirs.whole,
            seconds=time.perf_counter() - start,
        )

    @router.post("/runs/{run}/stop", status_code=204)
    async def stop_run(run: str) -> None:
        if not runs.stop(run):
            raise ApiProblem(404, "That is over already.")

    return router
