"""A report with no server: a saved page, or a brief in Markdown, worked over files and written out."""

from __future__ import annotations

import datetime as dt
import re
import tempfile
from collections.abc import Iterator
from pathlib import Path

from pydantic import ValidationError

from gumption.cli.files import BadUsage, open_files
from gumption.core.folio.as_text import escaped
from gumption.core.folio.document import Document, Shown
from gumption.core.folio.page import Kept, PageFile, Part
from gumption.core.folio.watching import watched
from gumption.core.model.names import plural
from gumption.core.plan.words import day_words
from gumption.core.reading.briefs import brief_of
from gumption.engines.errors import CannotAnswer
from gumption.engines.limits import Limits, Stop
from gumption.server.desk import Desk, Opening, Taught
from gumption.server.files_out import PAGE_MEDIA, PageForm
from gumption.server.folio_pages import write_page
from gumption.server.folio_work import keep, mend, work_again
from gumption.store.records import TrailEntry

_TITLE = re.compile(r"^#\s+(.+)$", re.M)


def write_report(
    source: str, files: list[str], out: str, *, as_of: dt.date | None, describe: str | None
) -> tuple[int, int]:
    """Write the report; how many answers it has, and how many of them could not be worked. Raises BadUsage."""
    target = Path(out)
    form = next((f for f in PAGE_MEDIA if target.suffix.lower() == f".{f}"), None)
    if form is None:
        raise BadUsage(f"{out}: a report ends in {', '.join(f'.{f}' for f in PAGE_MEDIA)}.")
    try:
        text = Path(source).read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as error:
        raise BadUsage(f"{source}: the page or brief could not be opened ({error}).") from error
    with tempfile.TemporaryDirectory() as scratch:
        opened = open_files(files, describe, Path(scratch))
        desk = Desk(Opening(opened.catalogue, opened.parquet, opened.answerer.readings, Taught(), Limits()))
        saved = _saved(source, text)
        day = as_of or (saved.as_of if saved is not None else None) or dt.date.today()
        shown = list(_of_page(desk, saved, day) if saved is not None else _of_brief(desk, text, day))
        titled = _TITLE.search(text)
        title = saved.title if saved is not None else titled[1].strip() if titled else Path(source).stem
        answers = [s for s in shown if s.part.kind == "answer"]
        told = f"Worked for {day_words(day)}, from {plural(len(opened.catalogue.tables), 'table')}. {plural(len(answers), 'answer')}."
        page = PageFile(title=title, as_of=as_of, parts=[s.part for s in shown])
        try:
            _write(Document(title, told, tuple(shown)), page, target, form)
        except CannotAnswer as error:
            raise BadUsage(str(error)) from error
    return len(answers), sum(s.working is None for s in answers)


def _write(document: Document, page: PageFile, target: Path, form: PageForm) -> None:
    """Write it whole or not at all."""
    with tempfile.TemporaryDirectory(dir=target.resolve().parent) as beside:
        written = Path(beside) / target.name
        write_page(document, page, written, form)
        written.replace(target)


def _saved(source: str, text: str) -> PageFile | None:
    """The page that a file saved from the folio holds; None for a brief. Raises BadUsage for a broken one."""
    if not source.lower().endswith(".json"):
        return None
    try:
        return PageFile.model_validate_json(text)
    except ValidationError as error:
        raise BadUsage(f"{source}: this is no saved page, or it is broken.") from error


def _of_page(desk: Desk, page: PageFile, day: dt.date) -> Iterator[Shown]:
    """The parts of a page, its answers worked; one that no longer fits is read anew."""
    for part in page.parts:
        if part.kept is None:
            yield Shown(part)
            continue
        again = work_again(desk, Stop(), part.kept, day, {})
        if again.working is None and again.mend:
            again = mend(desk, Stop(), part.kept, day, {})
        if again.working is None:
            yield Shown(part, problem=again.problem)
            continue
        seen = watched(part.watch, again.working) if part.watch is not None else None
        yield Shown(part.model_copy(update={"kept": again.kept}), again.working, seen=seen)


def _of_brief(desk: Desk, text: str, day: dt.date) -> Iterator[Shown]:
    """The questions of a brief under their headings, each answered or with why it is not."""
    without_title = _TITLE.sub("", text, count=1)
    chain: tuple[TrailEntry, ...] = ()
    brief = brief_of(without_title, desk.reader, day)
    for task in brief.tasks:
        if task.heading:
            yield Shown(Part(kind="heading", text=task.heading))
        chain = chain if task.follows else ()
        found = desk.understand(task.text, chain, day)
        reading = found.readings[0].words if found.readings else ""
        entry = TrailEntry(0, None, task.text, None, found.status, 0, "", reading)
        chain = (*chain, entry)
        if found.status != "answered":
            yield Shown(_unanswered(task.text, day), problem=found.problem)
            continue
        try:
            worked = keep(desk, Stop(), chain, day, "", {})
        except CannotAnswer as error:
            yield Shown(_unanswered(task.text, day), problem=str(error))
            continue
        yield Shown(Part(kind="answer", kept=worked.kept), worked.working, worked.problem)
    if brief.left:
        yield Shown(Part(kind="text", text=f"Not read as questions: {escaped('; '.join(brief.left))}"))


def _unanswered(question: str, day: dt.date) -> Part:
    return Part(kind="answer", kept=Kept.unanswered(question, day))
