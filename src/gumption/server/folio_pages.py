"""Pages of the folio of an open workspace: worked again, as they stand, and as files."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from concurrent.futures import Future
from dataclasses import replace
from pathlib import Path

from gumption.core.folio.as_text import as_markdown, as_notebook, as_python, as_sql
from gumption.core.folio.before import with_strokes
from gumption.core.folio.changes import changed
from gumption.core.folio.document import Document, Shown
from gumption.core.folio.page import PageFile, Part
from gumption.core.folio.watching import watched
from gumption.core.folio.working import Working
from gumption.core.model.names import plural
from gumption.core.model.style import style_now
from gumption.core.model.types import Value
from gumption.core.plan.words import day_words
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.limits import Stop
from gumption.engines.printing import page_html, write_pdf
from gumption.engines.workbook import Sheet, write_workbook
from gumption.server.desk import Chain
from gumption.server.files_out import PageForm
from gumption.server.folio_work import WorkedAgain, keep, mend, work_again
from gumption.server.problems import ApiProblem, WorkBroke
from gumption.server.styles import InStyle
from gumption.server.workers import Task
from gumption.server.workspace import Workspace
from gumption.store.folio import Cause, FolioRecords, Page, StoredPart, Worked


class Folio:
    """The folio of a workspace."""

    def __init__(self, workspace: Workspace) -> None:
        self.workspace, self.records = workspace, FolioRecords(workspace.records)

    def page(self, number: int, *, deleted: bool = False) -> Page:
        """A page. Raises ApiProblem where there is none, or only a deleted one where that is not meant."""
        found = self.records.page(number)
        if found is None or (found.deleted_at is not None and not deleted):
            raise ApiProblem(404, "That page is no longer in the folio.", "Reload the folio to see which there are.")
        return found

    def part(self, page: int, number: int) -> StoredPart:
        """A part of a page. Raises ApiProblem where it is gone."""
        found = next((p for p in self.records.parts(self.page(page).id) if p.id == number), None)
        if found is None:
            raise ApiProblem(404, "That is no longer on the page.", "Reload the page.")
        return found

    @property
    def versions(self) -> dict[str, int]:
        """Which version each table is now."""
        return {s.table.name: s.version for s in self.workspace.stored}

    def older_than(self, worked: Collection[Worked]) -> list[str]:
        """Tables that have changed, or are gone, since answers were worked from them."""
        now = self.versions
        used = {(name, version) for one in worked for name, version in one.tables.items()}
        return sorted({name for name, version in used if now.get(name) != version})

    # -- working -----------------------------------------------------------------------------

    def keep(self, page: int, chain: Chain, drawn: str, after: int | None, stop: Stop) -> int:
        """Keep the last answer of a chain on a page; its part's number. Raises ApiProblem, CannotAnswer and WasStopped."""
        found = self._done(stop, keep, chain, self.workspace.as_of(), drawn, self.versions)
        if found.working is None:
            raise ApiProblem(422, found.problem)
        kept = found.kept.model_copy(update={"entry": chain[-1].id})
        number = self.records.add_part(page, Part(kind="answer", kept=kept), after)
        worked = Worked(number, found.working, found.working.tables)
        self.records.add_working(page, self.workspace.as_of(), "kept", [worked])
        return number

    def work(self, page: int, cause: Cause, stop: Stop, only: Collection[int] | None = None) -> None:
        """Work the answers of a page again, or some of them. Raises WasStopped."""
        parts = [p for p in self.records.parts(page) if p.part.kept is not None and (only is None or p.id in only)]
        day, versions = self.workspace.as_of(), self.versions
        begun = [(p, self._begin(stop, work_again, p.part.kept, day, versions)) for p in parts]
        before = self.records.last_contents(page)
        found = []
        for done, (stored, future) in enumerate(begun):
            stop.tell(f"{done} of {plural(len(begun), 'answer')} worked")
            try:
                again = future.result()
            except WasStopped:
                raise
            except (CannotAnswer, WorkBroke) as error:
                assert stored.part.kept is not None
                again = WorkedAgain(stored.part.kept, None, str(error))
            found.append(self._held_against(stored, again, before.get(stored.id)))
        self.records.add_working(page, day, cause, found)

    def mend(self, page: int, number: int, stop: Stop) -> None:
        """Keep an answer as its question is read now. Raises ApiProblem, and WasStopped."""
        stored = self.part(page, number)
        if stored.part.kept is None:
            raise ApiProblem(422, "Only an answer can be mended.", "Change the text itself.")
        day = self.workspace.as_of()
        again = self._done(stop, mend, stored.part.kept, day, self.versions)
        self.records.set_part(page, number, stored.part.model_copy(update={"kept": again.kept}))
        before = self.records.last_contents(page)
        self.records.add_working(page, day, "mended", [self._held_against(stored, again, before.get(number))])

    def watch(self, page: int, number: int) -> None:
        """See what a part's watch says of what it came to last."""
        stored, worked = self.part(page, number), self.records.worked(page).get(number)
        if worked is not None:
            seen = None
            if stored.part.watch is not None and worked.working is not None:
                seen = watched(stored.part.watch, worked.working)
            self.records.set_seen(number, seen)

    def _held_against(self, stored: StoredPart, again: WorkedAgain, before: Working | None) -> Worked:
        """What was worked, with what is different from before and what its watch sees."""
        working, watch = again.working, stored.part.watch
        if working is None:
            tables = {n: v for n, v in self.versions.items() if before is not None and n in before.tables}
            return Worked(stored.id, None, tables, again.problem, again.mend)
        worked = Worked(stored.id, working, working.tables, mend=again.mend)
        if before is not None and (different := changed(before, working)).anything:
            drawn = working.model_copy(update={"chart": with_strokes(working, before)})
            worked = replace(worked, working=drawn, changed=different)
        return replace(worked, seen=watched(watch, working)) if watch is not None else worked

    def _begin(self, stop: Stop, task: Task, *given: object) -> Future[WorkedAgain]:
        seconds = self.workspace.limits.seconds
        # Each answer has a stop of its own: what it tells of itself is not how far the page is.
        own = Stop()
        stop.calling(own.now)
        return self.workspace.workers.submit("answer", own, seconds, InStyle(task, style_now()), *given)

    def _done(self, stop: Stop, task: Task, *given: object) -> WorkedAgain:
        return self._begin(stop, task, *given).result()

    # -- as it stands ------------------------------------------------------------------------

    def document(self, page: int, up_to: int | None = None, only: int | None = None) -> Document:
        """A page with what it came to last, or up to a working; or one of its answers by itself."""
        told = self.page(page)
        worked = self.records.worked(page, up_to)
        parts = [shown_part(p, worked.get(p.id)) for p in self.records.parts(page) if only in (None, p.id)]
        title = told.title
        if only is not None and parts:
            title = parts[0].question or title
        return Document(title, told_of(parts, list(worked.values())), tuple(parts))

    def page_file(self, page: int) -> PageFile:
        """A page as it is taken up elsewhere: what is asked on it, without what it came to."""
        parts = [p.part for p in self.records.parts(page)]
        return PageFile(title=self.page(page).title, as_of=self.workspace.fixed_day, parts=parts)


def shown_part(stored: StoredPart, worked: Worked | None) -> Shown:
    """A part of a page, and what it came to."""
    if worked is None:
        return Shown(stored.part, problem="It was not worked yet." if stored.part.kind == "answer" else "")
    since = day_words(worked.since.date()) if worked.since is not None else ""
    return Shown(stored.part, worked.working, worked.problem, since, worked.changed.words, worked.seen)


def told_of(parts: Sequence[Shown], worked: Sequence[Worked]) -> str:
    """When a page was worked, and how many answers it has."""
    answers = sum(shown.part.kind == "answer" for shown in parts)
    at = max((one.worked_at for one in worked if one.worked_at is not None), default=None)
    when = f"Worked on {at:%a} {day_words(at.date())} at {at:%H:%M}. " if at is not None else ""
    return f"{when}{plural(answers, 'answer')}."


def write_page(document: Document, file: PageFile, path: Path, form: PageForm) -> None:
    """A page as a file. Raises CannotAnswer."""
    match form:
        case "html":
            path.write_text(page_html(document), encoding="utf-8")
        case "pdf":
            write_pdf(document, path)
        case "xlsx":
            write_workbook(path, list(_sheets(document)))
        case "md":
            path.write_text(as_markdown(document), encoding="utf-8")
        case "ipynb":
            path.write_text(as_notebook(document), encoding="utf-8")
        case "py":
            path.write_text(as_python(document), encoding="utf-8")
        case "sql":
            path.write_text(as_sql(document), encoding="utf-8")
        case "json":
            path.write_text(file.model_dump_json(indent=1), encoding="utf-8")


def _sheets(document: Document) -> Iterator[Sheet]:
    for shown in document.answers:
        if shown.working is not None:
            rows: list[list[Value]] = shown.working.values()
            less = len(rows) < shown.working.total
            note = (
                f"The first {len(rows)} of {plural(shown.working.total, 'row')}; the answer itself gives all."
                if less
                else ""
            )
            kind = shown.working.kind
            yield Sheet(shown.question, shown.working.fields, [rows], len(rows), shown.working, kind, note)
