"""The pieces of work that questions ask for, each over a desk; they run in processes of their own."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from pathlib import Path
from typing import Any

from gumption.core.code.dialects import DialectName
from gumption.core.editing.edits import Edit
from gumption.core.folio.working import Working
from gumption.core.model.lesson import Lesson
from gumption.core.model.term import Term
from gumption.core.model.wish import ChartWish
from gumption.core.plan.behind import rows_behind
from gumption.core.plan.document import read_plan
from gumption.core.plan.expressions import Aggregate
from gumption.core.plan.steps import Group, Plan, Sort, SortKey
from gumption.core.plan.typing import schema_of, schemas
from gumption.core.plan.words import plan_words
from gumption.core.present.csv_out import csv_pieces
from gumption.core.present.numbers import column_cells, is_measure
from gumption.core.reading.briefs import may_be_several
from gumption.core.reading.completing import leads_on
from gumption.core.reading.doubts import doubt_of
from gumption.core.reading.read import Reading, Understanding
from gumption.core.reading.rebinding import options
from gumption.core.study.studied import Study
from gumption.engines.answering import Answered
from gumption.engines.choosing import taken
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.files import write_json, write_parquet
from gumption.engines.limits import Stop
from gumption.engines.reporting import working_of
from gumption.engines.workbook import Sheet, write_workbook
from gumption.server.by_hand import by_hand_out, edited_by_hand, history_of, plan_of
from gumption.server.desk import Chain, Desk, lesson_of
from gumption.server.files_out import FileForm
from gumption.server.problems import ApiProblem
from gumption.server.schemas import (
    AlternativeOut,
    AnsweredOut,
    AnswerOut,
    AsksOut,
    BriefOut,
    CompletionOut,
    DeclinedOut,
    DialectOut,
    DoubtOut,
    GlossOut,
    GlossResult,
    OptionOut,
    PageOut,
    QuestionIn,
    RemarkOut,
    TaskOut,
    ToldOut,
    WordsIn,
    WorkedOut,
)
from gumption.server.sending import (
    MOST_ROWS_SENT,
    cells_out,
    lesson_out,
    remarks_out,
    rows_out,
    summary,
    term_out,
    worked_out,
)
from gumption.store.records import TrailEntry

MOST_REMARKS = 4
"""Things that stand out which are shown beside a table."""


@dataclass(frozen=True)
class Told:
    """A question's answer, to be recorded and sent."""

    entry: TrailEntry
    """As the trail is to keep it; its number is still to come."""
    answer: str
    """As JSON, without its number."""
    lesson: Lesson | None
    """What the person wants remembered of it."""


def gloss(desk: Desk, _stop: Stop, body: QuestionIn, chain: Chain, day: dt.date) -> GlossResult:
    """A question as it is read while it is typed. A word of which only the beginning stands there yet is waited for."""
    text = body.question.rstrip()
    found = desk.read(text, chain, day, body.terms)
    completions = desk.completer.completions(body.question)
    *before, last = text.split() or [""]
    if completions and last in found.unread:
        text = text.removesuffix(last).rstrip()
        found = desk.read(text, chain, day, body.terms) if before else Understanding("declined")
    *before, last = text.split() or [""]
    if before and last in found.unread and leads_on(last):
        # What a word leads on to is still to come: until then it says nothing, and takes nothing from what stands there.
        text = text.removesuffix(last).rstrip()
        found = desk.read(text, chain, day, body.terms)
    return GlossResult(
        glosses=[g for g in _glosses(found) if g.kind != "unread" or not leads_on(text[g.start :])],
        reading=_told(found),
        status=found.status,
        completions=[CompletionOut(**asdict(c)) for c in completions],
        several=may_be_several(body.question),
    )


def brief(desk: Desk, _stop: Stop, text: str, day: dt.date) -> BriefOut:
    """A text cut into the questions that it asks, each read and none worked yet."""
    found = desk.brief(text, day)
    tasks = [
        TaskOut(
            text=task.text,
            own=task.own,
            follows=task.follows,
            heading=task.heading,
            reading=_told(task.understanding),
            status=task.understanding.status,
            doubt=(doubt := doubt_of(task.understanding)) is not None and doubt.loud,
            unread=list(task.understanding.unread),
        )
        for task in found.tasks
    ]
    return BriefOut(tasks=tasks, shared=list(found.shared), left=list(found.left))


def answer(desk: Desk, stop: Stop, body: QuestionIn, chain: Chain, day: dt.date) -> Told:
    """A question read, chosen and worked. Raises ApiProblem where there is none, and WasStopped."""
    stop.tell("reading the question")
    found = desk.understand(body.question, chain, day, body.terms)
    if not body.question.strip():
        raise ApiProblem(422, "There is no question.", found.problem)
    found = _taken(found, body.choice)
    lesson: Lesson | None = None
    if body.remember and body.choice is not None and found.readings:
        first, *others = found.readings
        lesson = lesson_of("chosen", body.question, first)
        found = replace(found, readings=(replace(first, lesson=lesson), *others))
    answered, found = _answered(desk, found, day, stop)
    findings = _findings(desk, found, day, stop)
    entry = TrailEntry(
        0,
        body.follows,
        body.question,
        body.choice,
        found.status,
        answered.cautions if answered else 0,
        summary(answered) if answered else _REFUSED.get(found.status, "needs other words"),
        found.readings[0].words if found.readings and answered else "",
        tuple(body.terms),
        sum(check.weight == "holds" for check in answered.proof.checks) if answered else 0,
        answered.finding if answered else found.problem,
    )
    told = _answer_out(entry, found, answered, findings, bool(chain) and bool(chain[-1].by_hand))
    return Told(entry, told.model_dump_json(exclude={"id"}), lesson)


def answer_again(desk: Desk, stop: Stop, chain: Chain, day: dt.date, twice: bool, drawn: str) -> AnswerOut:
    """The last question of a chain, answered with today's data as it was read then; `drawn` says another chart, such as "bar stacked"."""
    wish = ChartWish.of(drawn) if drawn else None
    if chain[-1].by_hand:
        return by_hand_out(desk, chain[-1], history_of(desk, chain, day), day, stop, twice=twice, wish=wish)
    found = desk.understood_entry(chain, day)
    answered, found = _answered(desk, found, day, stop, twice=twice, wish=wish)
    after_hand = len(chain) > 1 and bool(chain[-2].by_hand)
    return _answer_out(chain[-1], found, answered, _findings(desk, found, day, stop), after_hand)


def write_file(desk: Desk, stop: Stop, chain: Chain, day: dt.date, path: Path, form: FileForm) -> None:
    """All rows of the last question of a chain, as it was read then, into a file. Raises ApiProblem where it has no answer."""
    plan, study = _shown_plan(desk, chain, day), _study_of(desk, chain, day)
    answered = desk.answer_plan(plan, day, stop=stop, study=study) if study is not None or form == "xlsx" else None
    schema = answered.schema if answered is not None else schema_of(plan, desk.catalogue)
    # A study's own rows are few, and whole; those of a plan are taken from the engine as they come.
    own = answered is not None and answered.has_own_rows
    rows = [answered.rows] if answered is not None and own else desk.answerer.batches(plan, stop)
    match form:
        case "csv":
            with path.open("w", encoding="utf-8", newline="") as file:
                file.writelines(csv_pieces([(n, f.type) for n, f in schema.items()], rows))
        case "json":
            write_json(path, schema, rows)
        case "parquet":
            write_parquet(path, schema, rows)
        case "xlsx":
            assert answered is not None
            proof = _proved(desk, chain, day, answered)
            write_workbook(path, [Sheet("Answer", schema, rows, answered.total, proof, answered.chart_kind)])


def write_kept(desk: Desk, stop: Stop, chain: Chain, day: dt.date, path: Path) -> str:
    """What each thing came to in the study of a chain's last question, into a CSV file, and what its column is called. Raises ApiProblem."""
    study = _study_of(desk, chain, day)
    plan = _shown_plan(desk, chain, day)
    studied = desk.answer_plan(plan, day, stop=stop, study=study).studied if study is not None else None
    if studied is None or studied.keeps is None:
        raise ApiProblem(422, "This answer has no groups to keep.", "Ask for groups first, such as “group the owners”.")
    table = studied.keeps.table
    with path.open("w", encoding="utf-8", newline="") as file:
        file.writelines(csv_pieces([(n, f.type) for n, f in table.schema.items()], [table.rows]))
    return studied.keeps.column


def _study_of(desk: Desk, chain: Chain, day: dt.date) -> Study | None:
    """What the last question of a chain asks beyond its figure; what was changed by hand is its plan's rows alone."""
    found = None if chain[-1].by_hand else desk.understood_entry(chain, day)
    return found.readings[0].study if found is not None and found.readings else None


def _proved(desk: Desk, chain: Chain, day: dt.date, answered: Answered) -> Working:
    """The last answer of a chain with what proves it, to be kept beside its rows."""
    question = chain[-1].question
    if chain[-1].by_hand:
        return working_of(answered, desk.catalogue, question=question, reading=plan_words(answered.plan))
    found = desk.understood_entry(chain, day)
    doubt = doubt_of(found)
    told = doubt.words if doubt is not None else ""
    return working_of(answered, desk.catalogue, question=question, reading=found.readings[0].words, doubt=told)


def behind(desk: Desk, stop: Stop, chain: Chain, day: dt.date, row: int, column: str) -> WorkedOut:
    """The rows that a row of an answer, or of a cross table one of its cells, was worked out from. Raises ApiProblem where there are none to show."""
    none = ApiProblem(404, "There are no rows behind this one to be shown.", "Ask for the rows themselves.")
    plan = plan_of(desk, chain, day)
    if plan is None:
        raise none
    answered = desk.answer_plan(plan, day, stop=stop)
    if not 0 <= row < len(answered.rows):
        raise none
    shown = dict(zip(answered.columns, answered.rows[row], strict=True))
    rows = rows_behind(plan, schemas(plan, desk.catalogue), shown, column)
    if rows is None:
        raise none
    return worked_out(desk.answer_plan(rows, day, stop=stop))


def page(
    desk: Desk, stop: Stop, chain: Chain, day: dt.date, offset: int, limit: int, sort: str, descending: bool
) -> PageOut:
    """Rows of the last answer of a chain, in the order of one of its columns where that is wanted. Raises ApiProblem."""
    plan = _shown_plan(desk, chain, day)
    if sort:
        plan = plan.then(Sort(keys=(SortKey(column=sort, descending=descending),)))
    schema = schema_of(plan, desk.catalogue)
    rows = desk.answerer.page(plan, offset, limit, stop)
    # Digits are alike in all of a column, so those shown first have their say in every page.
    first = desk.answerer.page(plan, 0, MOST_ROWS_SENT, stop) if offset else []
    cells = cells_out([*first, *rows], schema)[len(first) :]
    return PageOut(rows=rows_out(rows), cells=cells)


def totals(desk: Desk, stop: Stop, chain: Chain, day: dt.date) -> list[str | None]:
    """For each column of the last answer of a chain what its rows add up to; None where that means nothing. Raises ApiProblem."""
    plan, study = _shown_plan(desk, chain, day), _study_of(desk, chain, day)
    if study is not None:
        # Its columns are of both sides, or of what is to come.
        return [None] * len(desk.answer_plan(plan, day, stop=stop, study=study).columns)
    schema = schema_of(plan, desk.catalogue)
    added = [n for n, f in schema.items() if f.type.is_number and f.role.is_summed and is_measure(f)]
    # A cross table with totals has them already.
    if not added or "total_row" in schema:
        return [None] * len(schema)
    group = Group(aggregates=tuple(Aggregate(name=n, function="sum", column=n) for n in added))
    (row,) = desk.answerer.page(plan.then(group), 0, 1, stop)
    sums = dict(zip(added, row, strict=True))
    return [column_cells([sums[n]], f)[0] if n in sums else None for n, f in schema.items()]


def _shown_plan(desk: Desk, chain: Chain, day: dt.date) -> Plan:
    """The plan of an answer that is on the screen. Raises ApiProblem where there is none any more."""
    plan = plan_of(desk, chain, day)
    if plan is None:
        raise ApiProblem(404, "That question has no rows.", "Ask it in other words.")
    return plan


def others(desk: Desk, stop: Stop, chain: Chain, day: dt.date) -> list[AlternativeOut]:
    """The other readings of the last question of a chain, each with what it would answer."""
    if chain[-1].by_hand:
        return []
    found = desk.understood_entry(chain, day)
    told = _told_of(desk, found.readings[1:], day, stop)
    return [
        AlternativeOut(choice=number, reading=reading.words, finding=finding)
        for number, (reading, finding) in enumerate(zip(found.readings[1:], told, strict=True), start=1)
    ]


def next_of(desk: Desk, _stop: Stop, chain: Chain, day: dt.date) -> list[str]:
    """Follow-ups worth asking of the last question of a chain."""
    return [] if chain[-1].by_hand else desk.going_on(chain, day)


def edit(desk: Desk, stop: Stop, said: Edit, chain: Chain, day: dt.date) -> Told:
    """The last answer of a chain with its steps changed by hand. Raises PlanError, CannotAnswer, and WasStopped."""
    entry, answered = edited_by_hand(desk, stop, said, chain, day)
    return Told(entry, answered.model_dump_json(exclude={"id"}), None)


def examples(desk: Desk, _stop: Stop, table: str, day: dt.date) -> list[str]:
    """Questions worth asking of a table."""
    return desk.examples(desk.catalogue.table(table), day)


def worth_a_look(desk: Desk, stop: Stop, table: str, day: dt.date) -> list[RemarkOut]:
    """What stands out in a table, the first of it. Raises CannotAnswer, and WasStopped."""
    found = desk.reader.look(table, day)
    if found is None:
        return []
    look, plan = found
    studied = desk.answer_plan(plan, day, stop=stop, study=look).studied
    return remarks_out(studied.remarks[:MOST_REMARKS]) if studied is not None else []


def warm(desk: Desk, _stop: Stop, day: dt.date) -> None:
    """Make what is made once, so that the first question does not wait for it."""
    desk.warm(day)


def mark(desk: Desk, _stop: Stop, chain: Chain, day: dt.date, right: bool) -> Lesson:
    """What it says that the last answer of a chain was right, or wrong. Raises ApiProblem where there is none."""
    if chain[-1].by_hand:
        raise ApiProblem(
            422, "An answer changed by hand says nothing of how its question is read.", "Mark the question."
        )
    found = desk.understood_entry(chain, day)
    if not found.readings:
        raise ApiProblem(404, "There is no answer to mark.", "Ask the question again.")
    return lesson_of("right" if right else "wrong", chain[-1].question, found.readings[0])


def words(desk: Desk, _stop: Stop, body: WordsIn, chain: Chain, day: dt.date) -> list[OptionOut]:
    """What else some words of a question could mean. Raises ApiProblem where there is no word."""
    found = desk.read(body.question, chain, day, body.terms)
    reading = found.readings[0] if found.readings else None
    try:
        offered = options(desk.reader, body.question, body.start, body.end, day, reading)
    except ValueError as error:
        raise ApiProblem(422, "There is no word there.", "Choose a word of the question.") from error
    return [OptionOut(term=o.term, meaning=o.term.meaning, note=o.note) for o in offered]


def problem_of_term(desk: Desk, _stop: Stop, term: Term, day: dt.date) -> str:
    """Why a word's meaning says nothing here; empty where it does."""
    return desk.reader.problem_of(term, day)


def work_plan(desk: Desk, stop: Stop, document: dict[str, Any], day: dt.date) -> WorkedOut:
    """The answer of a plan from outside. Raises ApiProblem, CannotAnswer, WasStopped."""
    return worked_out(desk.answer_plan(_plan(desk, document), day, stop=stop))


def plan_as_sql(desk: Desk, _stop: Stop, document: dict[str, Any], dialect: DialectName) -> DialectOut:
    """A plan from outside as SQL. Raises ApiProblem."""
    return DialectOut(sql=desk.answerer.code(_plan(desk, document), dialect))


def _plan(desk: Desk, document: dict[str, Any]) -> Plan:
    return read_plan(document, desk.catalogue)


_REFUSED = {"told": "about the data", "asks": "asks which you mean"}


def _taken(found: Understanding, choice: int | None) -> Understanding:
    """The understanding once a person took one of its readings: that one first."""
    if choice is None or found.status == "told" or not found.readings:
        return found
    return taken(found, found.readings[min(choice, len(found.readings) - 1)])


def _findings(desk: Desk, found: Understanding, day: dt.date, stop: Stop) -> list[str]:
    """What each choice would answer, where a person is asked which one is meant."""
    return _told_of(desk, found.readings, day, stop) if found.status == "asks" else []


def _told_of(desk: Desk, readings: Sequence[Reading], day: dt.date, stop: Stop) -> list[str]:
    """What each reading would answer."""
    told = []
    for reading in readings:
        try:
            told.append(desk.answer_plan(reading.plan, day, stop=stop, study=reading.study).finding)
        except WasStopped:
            raise
        except CannotAnswer as error:
            told.append(str(error))
    return told


def _answered(
    desk: Desk,
    found: Understanding,
    day: dt.date,
    stop: Stop,
    *,
    twice: bool = False,
    wish: ChartWish | None = None,
) -> tuple[Answered | None, Understanding]:
    if found.status != "answered":
        return None, found
    try:
        reading = found.readings[0]
        wish = wish or reading.ask.chart
        return desk.answer_plan(reading.plan, day, stop=stop, twice=twice, wish=wish, study=reading.study), found
    except WasStopped:
        raise
    except CannotAnswer as error:
        return None, Understanding("declined", problem=str(error), glosses=found.glosses, unread=found.unread)


def _told(found: Understanding) -> str:
    """How a question is read, or why it is not."""
    if found.status == "told":
        return "a question about the data themselves"
    return found.readings[0].words if found.readings and found.status == "answered" else found.problem


def _glosses(found: Understanding) -> list[GlossOut]:
    source = found.readings[0].glosses if found.readings and found.status == "answered" else found.glosses
    return [GlossOut(start=g.start, end=g.end, kind=g.kind, note=g.note) for g in source]


def _answer_out(
    entry: TrailEntry, found: Understanding, answered: Answered | None, findings: list[str], after_hand: bool
) -> AnswerOut:
    reading = found.readings[0] if found.readings and answered else None
    # Where nothing was answered every reading is offered: to choose from, or as what is near.
    first = 1 if answered else 0
    offered = found.readings[first:]
    others = [
        AlternativeOut(choice=first + i, reading=r.words, finding=findings[i] if i < len(findings) else "")
        for i, r in enumerate(offered)
    ]
    asked: dict[str, Any] = {
        "id": entry.id,
        "question": entry.question,
        "follows": entry.parent,
        "own_terms": list(entry.terms),
        "glosses": _glosses(found),
        "unread": list(reading.unread if reading else found.unread),
        "alternatives": others,
    }
    if answered is None or reading is None:
        match found.status:
            case "asks":
                return AsksOut(**asked, problem=found.problem)
            case "told":
                return ToldOut(**asked, problem=found.problem)
            case _:
                return DeclinedOut(**asked, problem=found.problem)
    worked = worked_out(answered).model_dump() | {"reading": reading.words}
    doubt = doubt_of(found)
    doubted = None if doubt is None else DoubtOut(words=doubt.words, loud=doubt.loud)
    if after_hand and reading.follows:
        doubted = DoubtOut(
            words="It follows the question as it was asked, without what was changed by hand.", loud=True
        )
    return AnsweredOut(
        **asked,
        **worked,
        goes_on=reading.follows,
        sure=round(reading.trust, 2),
        lesson=lesson_out(reading.lesson) if reading.lesson else None,
        terms=[term_out(t) for t in reading.terms],
        doubt=doubted,
        by_hand=None,
    )
