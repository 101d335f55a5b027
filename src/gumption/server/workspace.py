"""The open workspace: its tables in memory, its records in the store, questions answered one on another."""

from __future__ import annotations

import datetime as dt
import shutil
import threading
import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from pathlib import Path

from gumption.core.model.catalogue import Catalogue, Table
from gumption.core.model.names import free_name
from gumption.core.model.types import Role
from gumption.core.plan.words import spoken
from gumption.core.reading.frame import Frame
from gumption.core.reading.read import QuestionReader, Understanding
from gumption.engines.answering import Answered, Answerer
from gumption.engines.duck import DuckEngine
from gumption.intake.describe import described
from gumption.intake.read import read_file
from gumption.intake.relate import linked, relate
from gumption.store.records import Records, StoredTable, TrailEntry

Progress = Callable[[str, float], None]


@dataclass(frozen=True)
class _Loaded:
    catalogue: Catalogue
    stored: tuple[StoredTable, ...]
    reader: QuestionReader
    answerer: Answerer
    examples: dict[str, list[str]] = field(default_factory=dict)


class Workspace:
    """Answers come from what is loaded; a change loads anew and swaps, so that a question never sees half of one."""

    def __init__(self, records: Records, folder: Path) -> None:
        self.records = records
        self.folder = folder
        self.tables_folder = folder / "tables"
        self.tables_folder.mkdir(parents=True, exist_ok=True)
        self._changing = threading.Lock()
        self._loaded = self._load()
        self._sweep()

    @property
    def catalogue(self) -> Catalogue:
        return self._loaded.catalogue

    @property
    def stored(self) -> tuple[StoredTable, ...]:
        return self._loaded.stored

    @property
    def answerer(self) -> Answerer:
        return self._loaded.answerer

    def as_of(self) -> dt.date:
        return self.records.workspace_settings()[1] or dt.date.today()

    def _load(self) -> _Loaded:
        stored = tuple(self.records.tables())
        catalogue = Catalogue(tables=tuple(s.table for s in stored), relationships=tuple(self.records.relationships()))
        engine = DuckEngine({s.table.name: s.parquet for s in stored})
        answerer = Answerer(catalogue, engine, {s.table.name: s.reading for s in stored})
        return _Loaded(catalogue, stored, QuestionReader(catalogue), answerer)

    def _sweep(self) -> None:
        """Take away what an interrupted upload left: folders that no record names."""
        known = {s.parquet.parent for s in self._loaded.stored}
        for folder in self.tables_folder.iterdir():
            if folder not in known:
                shutil.rmtree(folder, ignore_errors=True)

    def add_file(
        self, path: Path, file: str, progress: Progress, descriptions: dict[str, object] | None = None
    ) -> list[str]:
        """Read a file into new tables; their names. Raises UnreadableFile, and then nothing has changed."""
        folder = self.tables_folder / uuid.uuid4().hex
        folder.mkdir()
        try:
            start = time.perf_counter()
            read = read_file(path, file, folder, progress)
            seconds = time.perf_counter() - start
            original = folder / f"original{Path(file).suffix.lower()}"
            shutil.move(path, original)
            with self._changing:
                taken = {s.table.name for s in self._loaded.stored}
                added: list[StoredTable] = []
                for found in read:
                    name = free_name(found.table.name, taken)
                    taken.add(name)
                    table = described(found.table.model_copy(update={"name": name}), file, descriptions or {})
                    added.append(
                        StoredTable(table, found.reading, found.parquet, original, original.stat().st_size, seconds)
                    )
                progress("Finding how tables join", 0.95)
                self._record([*self._loaded.stored, *added])
        except BaseException:
            shutil.rmtree(folder, ignore_errors=True)
            raise
        return [s.table.name for s in added]

    def remove_table(self, name: str) -> None:
        """Delete a table and its files for good."""
        with self._changing:
            gone = next(s for s in self._loaded.stored if s.table.name == name)
            kept = [s for s in self._loaded.stored if s is not gone]
            self._record(kept)
            if not any(s.parquet.parent == gone.parquet.parent for s in kept):
                shutil.rmtree(gone.parquet.parent, ignore_errors=True)

    def _record(self, stored: list[StoredTable]) -> None:
        relationships = relate([s.table for s in stored], {s.table.name: s.parquet for s in stored})
        marked = [replace(s, table=linked(s.table, relationships)) for s in stored]
        self.records.replace_tables(marked, relationships)
        self._loaded = self._load()

    # -- questions ---------------------------------------------------------------------------

    def frame_of(self, number: int | None) -> Frame | None:
        """The frame of a question of the trail, read again with those it followed."""
        chain: list[TrailEntry] = []
        while number is not None:
            entry = self.records.trail_entry(number)
            if entry is None:
                break
            chain.append(entry)
            number = entry.parent
        frame: Frame | None = None
        for entry in reversed(chain):
            understanding = self._loaded.reader.read(entry.question, self.as_of(), frame)
            if understanding.readings:
                frame = understanding.readings[min(entry.choice, len(understanding.readings) - 1)].frame
        return frame

    def understand(self, question: str, follows: int | None) -> Understanding:
        return self._loaded.reader.read(question, self.as_of(), self.frame_of(follows))

    def answer(self, understanding: Understanding, choice: int, *, twice: bool) -> Answered:
        """The answer of a reading; a large one is worked twice only where that is asked for."""
        plan = understanding.readings[choice].plan
        answerer = self._loaded.answerer
        return answerer.answer(plan, self.as_of(), twice=twice or not answerer.waits(plan))

    def examples(self, table: Table) -> list[str]:
        """Questions worth asking of a table, made from its own columns; each reads without a word left over."""
        known = self._loaded.examples
        if table.name not in known:
            known[table.name] = self._examples(table)
        return known[table.name]

    def prepare(self) -> None:
        """Make the examples of all tables now, so that the first look at them does not wait."""
        for table in self.catalogue.tables:
            self.examples(table)

    def _examples(self, table: Table) -> list[str]:
        noun = spoken(table.name)
        measures = [c for c in table.columns if c.role in (Role.MONEY, Role.SCORE) and c.type.is_number]
        categories = [c for c in table.columns if c.role.is_category and 1 < c.distinct <= 60]
        tried = [f"How many {noun}?"]
        if measures and categories:
            tried.append(
                f"Total {spoken(measures[0].name)} by {spoken(categories[0].name)}"
                if measures[0].role.is_summed
                else f"Average {spoken(measures[0].name)} by {spoken(categories[0].name)}"
            )
        scores = [c for c in measures if c.role is Role.SCORE]
        if scores:
            tried.append(
                f"Average {spoken(scores[0].name)} by {spoken(categories[-1].name)}"
                if categories
                else f"Average {spoken(scores[0].name)} of {noun}"
            )
        if table.time_column is not None:
            tried.append(f"{noun.capitalize()} by month")
        if categories:
            tried.append(f"Number of {noun} by {spoken(categories[-1].name)}")
        return [t for t in dict.fromkeys(tried) if self._reads(t)][:4]

    def _reads(self, question: str) -> bool:
        found = self._loaded.reader.read(question, self.as_of())
        return found.status == "answered" and not found.unread
