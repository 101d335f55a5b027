"""Questions, plans and a person's own SQL over HTTP: what is asked, what is answered, and how it is stopped."""

from __future__ import annotations

import time
from dataclasses import asdict, replace

from fastapi import APIRouter

from gumption.core.model.lesson import Lesson
from gumption.core.model.names import plural
from gumption.core.model.term import Term
from gumption.core.plan.document import read_plan
from gumption.core.plan.steps import Plan
from gumption.core.plan.typing import Field, PlanError
from gumption.core.plan.words import plan_words, spoken
from gumption.core.reading.briefs import may_be_several
from gumption.core.reading.read import Understanding
from gumption.engines.answering import Answered, json_value
from gumption.engines.choosing import taken
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.limits import Stop
from gumption.engines.theirs import run_theirs
from gumption.server.problems import ApiProblem
from gumption.server.runs import Runs
from gumption.server.schemas import (
    AlternativeOut,
    AnswerOut,
    BriefOut,
    CheckOut,
    CompletionOut,
    DialectIn,
    DialectOut,
    FieldOut,
    GlossOut,
    GlossResult,
    LessonOut,
    MarkIn,
    PlanIn,
    QuestionIn,
    StepOut,
    TaskOut,
    TermOut,
    TheirSqlIn,
    TheirSqlOut,
    TrailOut,
    WorkedOut,
)
from gumption.server.workspace import Workspace
from gumption.store.records import TrailEntry

MOST_ROWS_SENT = 1_000


def ask_routes(workspace: Workspace) -> APIRouter:
    """The routes of the room Ask."""
    router, runs = APIRouter(prefix="/api/v1"), Runs()

    @router.post("/gloss")
    def post_gloss(body: QuestionIn) -> GlossResult:
        found = workspace.read(body.question, body.follows, body.terms)
        completions = [CompletionOut(**asdict(c)) for c in workspace.completions(body.question)]
        return GlossResult(
            glosses=_glosses(found),
            reading=_told(found),
            status=found.status,
            completions=completions,
            several=may_be_several(body.question),
        )

    @router.post("/briefs")
    def post_brief(body: QuestionIn) -> BriefOut:
        """A text cut into the questions that it asks, each read and none worked yet."""
        brief = workspace.brief(body.question)
        tasks = [
            TaskOut(
                text=task.text,
                own=task.own,
                follows=task.follows,
                reading=_told(task.understanding),
                status=task.understanding.status,
                doubt=task.understanding.doubt,
                unread=list(task.understanding.unread),
            )
            for task in brief.tasks
        ]
        return BriefOut(tasks=tasks, shared=list(brief.shared), left=list(brief.left))

    @router.post("/questions")
    def post_question(body: QuestionIn) -> AnswerOut:
        found = workspace.understand(body.question, body.follows, body.terms)
        if not body.question.strip():
            raise ApiProblem(422, "There is no question.", found.problem)
        found = _taken(found, body.choice)
        if body.remember and body.choice is not None and found.readings:
            first, *others = found.readings
            lesson = workspace.teach("chosen", body.question, first)
            found = replace(found, readings=(replace(first, lesson=lesson), *others))
        with runs.running(body.run) as stop:
            answered, found = _answered(workspace, found, stop)
            findings = _findings(workspace, found, stop)
        summary = _summary(answered) if answered else _REFUSED.get(found.status, "needs other words")
        cautions = answered.cautions if answered else 0
        told = found.readings[0].words if found.readings and answered else ""
        entry = TrailEntry(
            0,
            body.follows,
            body.question[:60_000],
            body.choice,
            found.status,
            cautions,
            summary,
            told,
            tuple(body.terms),
        )
        number = workspace.records.add_to_trail(entry, body.asked_by)
        return _answer_out(replace(entry, id=number), found, answered, findings)

    @router.get("/trail")
    def get_trail() -> list[TrailOut]:
        return [TrailOut.model_validate(e, from_attributes=True) for e in workspace.records.trail()]

    @router.get("/trail/{number}")
    def get_entry(number: int, twice: bool = False, run: str = "") -> AnswerOut:
        entry = workspace.records.trail_entry(number)
        if entry is None:
            raise ApiProblem(404, "That question is no longer in the trail.", "Reload the page.")
        found = workspace.understood_entry(entry)
        with runs.running(run) as stop:
            answered, found = _answered(workspace, found, stop, twice=twice)
            findings = _findings(workspace, found, stop)
        return _answer_out(entry, found, answered, findings)

    @router.get("/trail/{number}/next")
    def get_next(number: int) -> list[str]:
        """Follow-ups worth asking of an answer."""
        entry = workspace.records.trail_entry(number)
        return [] if entry is None else workspace.going_on(entry)

    @router.post("/trail/{number}/mark")
    def post_mark(number: int, body: MarkIn) -> LessonOut:
        """This was right, or wrong: evidence for the same wording and its near kin from now on."""
        entry = workspace.records.trail_entry(number)
        found = workspace.understood_entry(entry) if entry is not None else None
        if entry is None or found is None or not found.readings:
            raise ApiProblem(404, "There is no answer to mark.", "Ask the question again.")
        return _lesson_out(workspace.teach("right" if body.right else "wrong", entry.question, found.readings[0]))

    @router.get("/lessons")
    def get_lessons() -> list[LessonOut]:
        """All that people taught this workspace."""
        return [_lesson_out(lesson) for lesson in workspace.records.lessons()]

    @router.delete("/lessons/{number}", status_code=204)
    def delete_lesson(number: int) -> None:
        if not workspace.forget(number):
            raise ApiProblem(404, "That was forgotten already.", "Reload the page.")

    @router.delete("/trail", status_code=204)
    def delete_trail() -> None:
        workspace.records.clear_trail()

    @router.post("/plans")
    def post_plan(body: PlanIn) -> WorkedOut:
        """The answer of a plan that another program made, worked and checked like our own."""
        plan = _plan(workspace, body.plan)
        with runs.running(body.run) as stop:
            try:
                return worked_out(workspace.answer_plan(plan, stop=stop))
            except CannotAnswer as error:
                raise _refused(error) from error

    @router.post("/plans/sql")
    def post_plan_sql(body: DialectIn) -> DialectOut:
        """A plan as SQL of another dialect."""
        return DialectOut(sql=workspace.answerer.code(_plan(workspace, body.plan), body.dialect))

    @router.post("/sql")
    def post_sql(body: TheirSqlIn) -> TheirSqlOut:
        """One SELECT that a person wrote over the workspace's tables; the result is theirs, and not checked."""
        start = time.perf_counter()
        names = [t.name for t in workspace.catalogue.tables]
        with runs.running(body.run) as stop:
            try:
                theirs = run_theirs(body.sql, names, workspace.answerer.engine, stop)
            except CannotAnswer as error:
                raise _refused(error) from error
        return TheirSqlOut(
            fields=_fields(theirs.schema),
            rows=[[json_value(v) for v in row] for row in theirs.rows[:MOST_ROWS_SENT]],
            total=len(theirs.rows),
            whole=theirs.whole,
            seconds=time.perf_counter() - start,
        )

    @router.post("/runs/{run}/stop", status_code=204)
    def stop_run(run: str) -> None:
        if not runs.stop(run):
            raise ApiProblem(404, "That is over already.")

    return router


def _plan(workspace: Workspace, document: dict[str, object]) -> Plan:
    try:
        return read_plan(document, workspace.catalogue)
    except PlanError as error:
        raise ApiProblem(422, f"The plan does not fit: {error}.", "Mend that step and send it again.") from error


def _refused(error: CannotAnswer) -> ApiProblem:
    if isinstance(error, WasStopped):
        return ApiProblem(409, str(error), "Run it again when you like.")
    return ApiProblem(422, str(error))


_REFUSED = {"told": "about the data", "asks": "asks which you mean"}


def _taken(found: Understanding, choice: int | None) -> Understanding:
    """The understanding once a person took one of its readings: that one first."""
    if choice is None or found.status == "told" or not found.readings:
        return found
    return taken(found, found.readings[min(choice, len(found.readings) - 1)])


def _findings(workspace: Workspace, found: Understanding, stop: Stop) -> list[str]:
    """What each choice would answer, where a person is asked which one is meant."""
    if found.status != "asks":
        return []
    told = []
    for reading in found.readings:
        try:
            told.append(workspace.answer_plan(reading.plan, stop=stop).finding)
        except WasStopped as error:
            raise _refused(error) from error
        except CannotAnswer as error:
            told.append(str(error))
    return told


def term_out(term: Term) -> TermOut:
    """A word of the house's own, as it is sent."""
    return TermOut(term=term, meaning=term.meaning)


def _lesson_out(lesson: Lesson) -> LessonOut:
    return LessonOut(id=lesson.id, kind=lesson.kind, question=lesson.question, reading=lesson.reading)


def _answered(
    workspace: Workspace, found: Understanding, stop: Stop, *, twice: bool = False
) -> tuple[Answered | None, Understanding]:
    if found.status != "answered":
        return None, found
    try:
        reading = found.readings[0]
        return workspace.answer_plan(reading.plan, stop=stop, twice=twice, wish=reading.ask.chart), found
    except WasStopped as error:
        raise _refused(error) from error
    except CannotAnswer as error:
        return None, Understanding("declined", problem=str(error), glosses=found.glosses, unread=found.unread)


def _told(found: Understanding) -> str:
    """How a question is read, or why it is not."""
    if found.status == "told":
        return "a question about the data themselves"
    return found.readings[0].words if found.readings and found.status == "answered" else found.problem


def _summary(answered: Answered) -> str:
    if len(answered.rows) == 1 and len(answered.columns) == 1:
        value = answered.rows[0][0]
        if value is None:
            return "missing"
        if isinstance(value, int):
            return f"{value:,}"
        return f"{float(value):,.2f}" if not isinstance(value, str) and hasattr(value, "__float__") else str(value)
    return plural(answered.total, "row")


def _glosses(found: Understanding) -> list[GlossOut]:
    source = found.readings[0].glosses if found.readings and found.status != "declined" else found.glosses
    return [GlossOut(start=g.start, end=g.end, kind=g.kind, note=g.note) for g in source]


def _fields(schema: dict[str, Field]) -> list[FieldOut]:
    return [
        FieldOut(name=n, label=spoken(n), type=f.type, role=f.role, unit=f.unit, scale=f.scale)
        for n, f in schema.items()
    ]


def worked_out(answered: Answered) -> WorkedOut:
    """An answer with its proof, as it is sent."""
    steps = [
        StepOut(
            verb=step.words.verb,
            rest=step.words.rest,
            depth=step.depth,
            rows_in=step.rows.rows_in if step.rows else None,
            rows_out=step.rows.rows_out if step.rows else None,
            dropped=[d.words for d in step.rows.dropped] if step.rows else [],
        )
        for step in answered.proof.steps
    ]
    checks = [
        CheckOut(name=c.name, weight=c.weight, sentence=c.sentence, detail=c.detail) for c in answered.proof.checks
    ]
    first = answered.proof.checks[0]
    return WorkedOut(
        reading=plan_words(answered.plan),
        finding=answered.finding,
        fields=_fields({n: answered.schema[n] for n in answered.columns}),
        rows=[[json_value(v) for v in row] for row in answered.rows[:MOST_ROWS_SENT]],
        total=answered.total,
        chart=answered.chart,
        chart_note=answered.chart_note,
        sql=answered.sql,
        python=answered.python,
        plan=answered.plan.model_dump(exclude_none=True),
        steps=steps,
        checks=checks,
        seconds=answered.seconds,
        second_to_come=first.sentence == "The second working follows",
    )


def _answer_out(entry: TrailEntry, found: Understanding, answered: Answered | None, findings: list[str]) -> AnswerOut:
    reading = found.readings[0] if found.readings and answered else None
    # Where nothing was answered every reading is offered: to choose from, or as what is near.
    first = 1 if answered else 0
    offered = found.readings[first:]
    others = [
        AlternativeOut(choice=first + i, reading=r.words, finding=findings[i] if i < len(findings) else "")
        for i, r in enumerate(offered)
    ]
    worked = worked_out(answered).model_dump() if answered else {}
    if reading is not None:
        worked["reading"] = reading.words
    return AnswerOut(
        id=entry.id,
        question=entry.question,
        follows=entry.parent,
        status=found.status,
        problem=found.problem,
        sure=round(reading.trust, 2) if reading else 0,
        lesson=_lesson_out(reading.lesson) if reading and reading.lesson else None,
        terms=[term_out(t) for t in (reading.terms if reading else ())],
        own_terms=list(entry.terms),
        glosses=_glosses(found),
        unread=list(reading.unread if reading else found.unread),
        doubt=found.doubt,
        alternatives=others,
        **worked,
    )
