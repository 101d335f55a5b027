"""The open workspace: its tables in memory, its records in the store, questions answered one on another."""

from __future__ import annotations

import datetime as dt
import functools
import hashlib
import json
import logging
import os
import re
import shutil
import threading
import time
import uuid
from collections.abc import Mapping, Sequence
from concurrent.futures import Future
from contextlib import AbstractContextManager
from dataclasses import dataclass, field, replace
from pathlib import Path

from gumption.core.model.catalogue import Catalogue, Relationship, Table
from gumption.core.model.files import Recipe
from gumption.core.model.lesson import Lesson
from gumption.core.model.meaning import ColumnMeaning, TableMeaning, meant
from gumption.core.model.names import free_name
from gumption.core.model.origin import Appended, Origin, Uploaded
from gumption.core.model.term import Term
from gumption.engines.duck import DuckEngine
from gumption.engines.limits import Limits, Stop
from gumption.engines.pages import RowPages
from gumption.intake.describe import described
from gumption.intake.dictionary import explained
from gumption.intake.errors import UnreadableFile
from gumption.intake.look import Look, look_at
from gumption.intake.making import Progress, ReadTable
from gumption.intake.read import read_file
from gumption.intake.relate import JoinDetail, Joins, decided, join_detail, linked, measured, pointing
from gumption.intake.suggest import Suggestion, shape_of, suggestions
from gumption.server.desk import Chain, Opening, Taught
from gumption.server.pictures import Pictures
from gumption.server.problems import ApiProblem, NoTable
from gumption.server.reading_process import Read
from gumption.server.replacing import REPLACEMENTS, Replacement, changes_between, with_meaning_kept
from gumption.server.secrets import Secrets
from gumption.server.tasks import examples, warm
from gumption.server.workers import Here, Workers
from gumption.store.records import JoinDecision, Records, StoredTable, StoreError, TableVersion, Waiting, patiently

log = logging.getLogger(__name__)
MOST_FOLLOWED = 500
"""Questions that may follow one on another."""
WORTH_ASKING = "worth-asking.json"
"""The file of a workspace's folder in which its examples wait for the next time."""
_WITH_EXAMPLES = 30
"""Tables, the first ones, that questions are suggested for."""
_REST = 1.0
"""Seconds without a change after which examples are made."""
_ENDING = re.compile(r"\.[a-z0-9]{1,10}")
_PAGES_MEMORY = 0.5
"""Gigabytes for showing rows of tables."""


@dataclass(frozen=True)
class _Loaded:
    catalogue: Catalogue
    stored: tuple[StoredTable, ...]
    versions: tuple[TableVersion, ...]
    pages: RowPages
    examples: dict[str, list[str]] = field(default_factory=dict)
    looks: dict[str, Look] = field(default_factory=dict)
    offered: dict[str, tuple[tuple[str, ...], list[Suggestion]]] = field(default_factory=dict)
    """What is offered for a table beside others of its shape, by their names."""

    @functools.cached_property
    def shapes(self) -> dict[object, list[Table]]:
        """The tables of each shape."""
        found: dict[object, list[Table]] = {}
        for table in self.catalogue.tables:
            found.setdefault(shape_of(table), []).append(table)
        return found


class Workspace:
    """Answers come from what is loaded; a change loads anew and swaps, so that a question never sees half of one."""

    def __init__(
        self,
        records: Records,
        folder: Path,
        limits: Limits | None = None,
        workers: Workers | None = None,
        secrets: Secrets | None = None,
    ) -> None:
        """Questions are worked on by the workers; without any in this process. What is secret has a key in the folder
        where no other `secrets` are given."""
        self.records = records
        self.limits = limits or Limits()
        self.folder = folder
        self.workers = workers or Here()
        self.scratch = folder / "scratch"
        shutil.rmtree(self.scratch, ignore_errors=True)
        self.scratch.mkdir(parents=True)
        self.number = records.workspace
        self.title, self._as_of, self.demo = records.workspace_settings()
        self.tables_folder = folder / "tables"
        self.tables_folder.mkdir(parents=True, exist_ok=True)
        self.pictures = Pictures(folder / "pictures")
        self._changing = threading.Lock()
        self._preparing = threading.Lock()
        self._timer: threading.Timer | None = None
        self._closed = False
        self._suggesting: set[str] = set()
        self.secrets = secrets or Secrets(folder / "secret.key")
        self._filling: set[Path] = set()
        """Folders that are read into, which no record names yet."""
        self._staged = {w.id: self._replacement(w) for w in records.waiting("replacement")}
        self._worth, self._keeping = folder / WORTH_ASKING, threading.Lock()
        self._loaded = self._load()
        self._loaded.examples.update(self._examples_kept())
        shown = (r for r in self._loaded.catalogue.relationships if not r.accepted)
        self._joins = Joins([s.meant for s in self._loaded.stored], shown)
        self._sweep()

    @property
    def catalogue(self) -> Catalogue:
        return self._loaded.catalogue

    @property
    def stored(self) -> tuple[StoredTable, ...]:
        return self._loaded.stored

    @property
    def pages(self) -> RowPages:
        return self._loaded.pages

    @property
    def parquet(self) -> dict[str, Path]:
        return {s.table.name: s.parquet for s in self._loaded.stored}

    def unchanging(self) -> AbstractContextManager[object]:
        """A time in which no table comes, goes or changes."""
        return self._changing

    def as_of(self) -> dt.date:
        """The day that counts as today."""
        return self._as_of or dt.date.today()

    @property
    def fixed_day(self) -> dt.date | None:
        """The day that was said to count as today; None where the real one does."""
        return self._as_of

    def set_as_of(self, day: dt.date | None) -> None:
        """Let a day count as today, or None the real one."""
        self.records.set_as_of(day)
        self._as_of = day

    def _load(
        self,
        before: _Loaded | None = None,
        stored: tuple[StoredTable, ...] | None = None,
        relationships: tuple[Relationship, ...] = (),
        versions: tuple[TableVersion, ...] = (),
    ) -> _Loaded:
        """What is recorded, or as it is given here because it was recorded just now."""
        if stored is None:
            stored = tuple(self.records.tables())
            relationships = tuple(self.records.relationships())
            versions = tuple(self.records.versions())
        tables = _shown(stored, relationships, before)
        catalogue = Catalogue(tables=tables, relationships=relationships)
        parquet = {s.table.name: s.parquet for s in stored}
        readings = {s.table.name: s.reading for s in stored}
        self.workers.open(Opening(catalogue, parquet, readings, self._taught(), self.limits, self.scratch))
        limits = replace(self.limits, memory_gb=_PAGES_MEMORY)
        pages = RowPages(lambda: DuckEngine(parquet, limits, self.scratch))
        loaded = _Loaded(catalogue, stored, versions, pages)
        if before is not None:
            self._worth.unlink(missing_ok=True)
            # What was made of tables that have not changed is as true as it was.
            known = {t.name: t for t in before.catalogue.tables}
            same = {t.name for t in tables if (was := known.get(t.name)) is t or was == t}
            loaded.examples.update({n: e for n, e in before.examples.items() if n in same})
            loaded.looks.update({n: k for n, k in before.looks.items() if n in same})
            loaded.offered.update({n: o for n, o in before.offered.items() if n in same})
        return loaded

    def _sweep(self) -> None:
        """Take away what an interrupted change left: folders that no record names."""
        known = self._named_folders() | self._filling
        for folder in self.tables_folder.iterdir():
            if folder not in known:
                shutil.rmtree(folder, ignore_errors=True)

    def _named_folders(self) -> set[Path]:
        """Folders of tables, of their versions, and of newer files that wait."""
        known = {s.parquet.parent for s in self._loaded.stored}
        known |= {v.stored.parquet.parent for v in self._loaded.versions}
        return known | {r.folder for r in self._staged.values()}

    # -- tables in and out -------------------------------------------------------------------

    def new_folder(self) -> Path:
        """A folder for what is being read."""
        folder = self.tables_folder / uuid.uuid4().hex
        self._filling.add(folder)
        folder.mkdir()
        return folder

    def filled(self, folder: Path, *, may_be_named: bool = False) -> None:
        """Nothing more is read into a folder; it stays where a record names it, or may although nobody could see so."""
        with self._changing:
            self._filling.discard(folder)
            # Everything may have been removed after it was recorded, while it was still being filled.
            if not may_be_named and folder not in self._named_folders():
                shutil.rmtree(folder, ignore_errors=True)

    def stored_table(self, name: str) -> StoredTable:
        """The table of that name. Raises NoTable."""
        for stored in self._loaded.stored:
            if stored.table.name == name:
                return stored
        raise NoTable(name)

    def secret_of(self, stored: StoredTable) -> str | None:
        """What is needed to fetch the table again. Raises UnreadableFile where its key is gone."""
        return None if stored.secret is None else self.secrets.opened(stored.secret, stored.table.name)

    def add_file(
        self, path: Path, file: str, progress: Progress, descriptions: Mapping[str, object] | None = None
    ) -> list[str]:
        """Read a file into new tables in this process; their names. Raises UnreadableFile, and then nothing has changed."""
        folder = self.new_folder()
        try:
            start = time.perf_counter()
            read = Read(read_file(path, file, folder, progress), path, file)
            return self.keep(read, folder, Uploaded(), None, time.perf_counter() - start, descriptions)
        except BaseException:
            shutil.rmtree(folder, ignore_errors=True)
            raise
        finally:
            self.filled(folder)

    def keep(
        self,
        read: Read,
        folder: Path,
        origin: Origin,
        secret: str | None,
        seconds: float,
        descriptions: Mapping[str, object] | None = None,
        ended: str | None = None,
    ) -> list[str]:
        """Make what was read into tables of the workspace; their names. The reading of the number `ended` is done with then."""
        original = self._original(read, folder)
        size = original.stat().st_size
        sealed = None if secret is None else self.secrets.sealed(secret)
        with self._changing:
            if ended is not None and not self.records.waits(ended):
                # It was recorded when the database went away, and could not say so.
                return [s.table.name for s in self._loaded.stored if s.parquet.parent == folder]
            taken = {s.table.name for s in self._loaded.stored}
            added: list[StoredTable] = []
            for found in read.tables:
                name = free_name(found.table.name, taken)
                taken.add(name)
                table = described(found.table.model_copy(update={"name": name}), read.file, descriptions or {})
                added.append(
                    StoredTable(
                        table, found.reading, found.parquet, original, size, seconds, origin=origin, secret=sealed
                    )
                )
            self._record([*self._loaded.stored, *added], ended=ended)
        return [s.table.name for s in added]

    @staticmethod
    def _original(read: Read, folder: Path) -> Path:
        """The file that was read, kept beside its tables to be read again."""
        ending = Path(read.file).suffix.lower()
        original = folder / f"original{ending if _ENDING.fullmatch(ending) else ''}"
        if read.original.suffix == ".parquet" and any(t.parquet == read.original for t in read.tables):
            return read.original
        if original.exists():
            return original
        if read.original.parent == folder:
            read.original.rename(original)
        else:
            # Left where it is until the records are written, so that a reading cut off can be done again.
            same_file(read.original, original)
        return original

    def keep_reread(
        self, name: str, read: Read, folder: Path, recipe: Recipe, seconds: float, ended: str | None = None
    ) -> None:
        """Put a table read again by another recipe in place of what it was. Raises UnreadableFile where it is not in the file any more."""
        with self._changing:
            before = self.stored_table(name)
            found = self._part_of(read, before)
            original = folder / before.original.name
            if not original.exists():
                same_file(before.original, original)
            after = replace(
                before,
                table=with_meaning_kept(found.table.model_copy(update={"name": name}), before.table),
                reading=found.reading,
                parquet=found.parquet,
                original=original,
                recipe=recipe,
                seconds=seconds,
            )
            kept = [after if s is before else s for s in self._loaded.stored]
            for other in read.tables:
                if other is found:
                    continue
                if self._is_new_part(other, before, recipe):
                    name_there = free_name(other.table.name, {s.table.name for s in kept})
                    there = other.table.model_copy(update={"name": name_there})
                    kept.append(
                        replace(
                            after, table=there, reading=other.reading, parquet=other.parquet, meaning=TableMeaning()
                        )
                    )
                else:
                    other.parquet.unlink(missing_ok=True)
            self._record(kept, ended=ended)
            self._sweep()
        self._append_again(name)

    def _is_new_part(self, found: ReadTable, before: StoredTable, recipe: Recipe) -> bool:
        """True for a table that the file only gives since an act on the whole of it was undone, such as a hidden sheet."""
        known = {s.reading.part for s in self._loaded.stored if s.original.samefile(before.original)}
        return "hidden_sheets" in recipe.declined and found.reading.part not in known

    @staticmethod
    def _part_of(read: Read, stored: StoredTable) -> ReadTable:
        parts = {t.reading.part: t for t in read.tables}
        if stored.reading.part in parts:
            return parts[stored.reading.part]
        if len(read.tables) == 1:
            return read.tables[0]
        raise UnreadableFile(
            read.file, f"it has no part {stored.reading.part}.", f"It has {', '.join(parts)}; send the right file."
        )

    def codes_to_be_text(self, new: Sequence[str]) -> dict[str, tuple[str, ...]]:
        """Columns of numbers that are keys of text, or are pointed at by text, in or from one of the new tables."""
        with self._changing:
            return self._joins.codes_to_be_text(self.parquet, new)

    def stage(
        self,
        number: str,
        name: str,
        read: Read,
        folder: Path,
        origin: Origin,
        secret: str | None,
        seconds: float,
    ) -> None:
        """Keep a newer file for a table, by its number, until a person says yes."""
        # Its table must not go while this is recorded: what waits for one that is gone could never be told.
        with self._changing:
            before = self.stored_table(name)
            found = self._part_of(read, before)
            changes = tuple(changes_between(before.table, found.table))
            original = self._original(read, folder)
            staged = Replacement(name, read.file, original, folder, found, origin, secret, seconds, changes)
            sealed = None if secret is None else self.secrets.sealed(secret)
            described = REPLACEMENTS.dump_json(replace(staged, secret=None)).decode()
            self.records.keep_waiting("replacement", Waiting(number, described, sealed))
            self._staged[number] = staged

    def _replacement(self, waiting: Waiting) -> Replacement:
        secret = None if waiting.secret is None else self.secrets.opened(waiting.secret, "A newer file")
        return replace(REPLACEMENTS.validate_json(waiting.description), secret=secret)

    def replacements(self) -> dict[str, Replacement]:
        """Newer files that wait for a yes, by their numbers."""
        return dict(self._staged)

    def staged(self, number: str) -> Replacement | None:
        return self._staged.get(number)

    def drop_staged(self, number: str) -> None:
        """Let a newer file go unused."""
        staged = self._staged.pop(number, None)
        if staged is not None:
            self.records.drop_waiting("replacement", number)
            shutil.rmtree(staged.folder, ignore_errors=True)

    def replace_by(self, number: str) -> str:
        """Put a staged file in its table's place, the old version kept; the table's name."""
        with self._changing:
            staged = self._staged.get(number)
            if staged is None:
                raise ApiProblem(404, "That file is no longer waiting.", "Send it again.")
            before = self.stored_table(staged.table)
            versions = [v.stored.version for v in self._loaded.versions if v.stored.table.name == staged.table]
            after = replace(
                before,
                table=with_meaning_kept(staged.found.table.model_copy(update={"name": staged.table}), before.table),
                reading=staged.found.reading,
                parquet=staged.found.parquet,
                original=staged.original,
                bytes=staged.original.stat().st_size,
                seconds=staged.seconds,
                origin=staged.origin,
                secret=None if staged.secret is None else self.secrets.sealed(staged.secret),
                version=max([before.version, *versions]) + 1,
            )
            kept = [after if s is before else s for s in self._loaded.stored]
            self._record(kept, outdated=before, ended=number)
            del self._staged[number]
        self._append_again(staged.table)
        return staged.table

    def restore(self, name: str, version: int) -> None:
        """Put an earlier version back; what it replaces becomes a version in its turn."""
        with self._changing:
            before = self.stored_table(name)
            earlier = next(
                (
                    v.stored
                    for v in self._loaded.versions
                    if v.stored.table.name == name and v.stored.version == version
                ),
                None,
            )
            if earlier is None:
                raise KeyError(f"{name}, version {version}")
            after = replace(earlier, meaning=before.meaning, origin=before.origin, secret=before.secret)
            self.records.drop_version(name, version)
            self._record([after if s is before else s for s in self._loaded.stored], outdated=before)
        self._append_again(name)

    def _append_again(self, name: str) -> None:
        """Tables that were made of a changed one are marked as older than it."""
        with self._changing:
            stored = []
            for s in self._loaded.stored:
                if isinstance(s.origin, Appended) and name in s.origin.tables:
                    note = s.table.notes[0].model_copy(
                        update={"detail": f"{name} has changed since; fetch again to take it over", "caution": True}
                    )
                    s = replace(s, table=s.table.model_copy(update={"notes": (note, *s.table.notes[1:])}))
                stored.append(s)
            if any(a is not b for a, b in zip(stored, self._loaded.stored, strict=True)):
                self._record(stored)

    def remove_table(self, name: str) -> None:
        """Delete a table, its versions and its files for good."""
        with self._changing:
            gone = self.stored_table(name)
            for number in [n for n, r in self._staged.items() if r.table == name]:
                self.drop_staged(number)
            self._record([s for s in self._loaded.stored if s is not gone], gone=(name,))
            self._sweep()

    def remove_everything(self) -> None:
        """Delete every table, version, join, question and picture for good."""
        with self._changing:
            self.records.clear()
            self.pictures.remove_all()
            self._staged.clear()
            self._joins = Joins()
            self._loaded = self._load()
            self._sweep()

    def _record(
        self,
        stored: list[StoredTable],
        *,
        outdated: StoredTable | None = None,
        gone: tuple[str, ...] = (),
        ended: str | None = None,
    ) -> None:
        relationships = self._relationships(stored)
        try:
            self.records.replace_tables(
                stored,
                relationships,
                before=self._loaded.stored,
                related=self._loaded.catalogue.relationships,
                outdated=outdated,
                gone=gone,
                ended=ended,
            )
        except StoreError:
            # It may have been recorded all the same.
            self._joins = Joins()
            self._loaded = patiently(lambda: self._load(self._loaded))
            raise
        versions = self._loaded.versions
        if outdated is not None or gone:
            versions = tuple(patiently(self.records.versions))
        self._loaded = patiently(lambda: self._load(self._loaded, tuple(stored), tuple(relationships), versions))
        self.prepare()

    # -- meaning and joins -------------------------------------------------------------------

    def set_meaning(self, name: str, meaning: TableMeaning) -> None:
        """Lay what a person said over a table."""
        with self._changing:
            stored = self.stored_table(name)
            self._record([replace(s, meaning=meaning) if s is stored else s for s in self._loaded.stored])

    def add_meanings(self, name: str, columns: Mapping[str, ColumnMeaning]) -> None:
        """Add what a data dictionary says to what was said; where both speak, the dictionary is the newer."""
        said = self.stored_table(name).meaning
        merged = dict(said.columns)
        for column, new in columns.items():
            old = merged.get(column, ColumnMeaning())
            told = {k: v for k, v in new.model_dump().items() if v}
            merged[column] = ColumnMeaning.model_validate({**old.model_dump(), **told})
        self.set_meaning(name, said.model_copy(update={"columns": merged}))

    def _relationships(self, stored: list[StoredTable]) -> list[Relationship]:
        """The joins found, with what people said of them."""
        tables = [s.meant for s in stored]
        parquet = {s.table.name: s.parquet for s in stored}
        said = self.records.join_decisions()
        accepted = [(d.table, d.columns, d.other, d.other_columns) for d in said if d.decision == "accepted"]
        forbidden = [(d.table, d.columns, d.other, d.other_columns) for d in said if d.decision == "forbidden"]
        return decided(self._joins.of(tables, parquet), accepted, forbidden, tables, parquet)

    def find_joins(self) -> None:
        """Look for joins anew."""
        with self._changing:
            self._joins = Joins()
            self._record(list(self._loaded.stored))

    def decide_join(self, said: JoinDecision) -> None:
        """Accept a join, forbid it, or take back what was said. Raises UnreadableFile where it cannot be one."""
        with self._changing:
            if said.decision == "accepted":
                tables = {t.name: t for t in self.catalogue.tables}
                found = measured(tables[said.table], said.columns, tables[said.other], said.other_columns, self.parquet)
                if found is None:
                    raise UnreadableFile(
                        f"{said.table} to {said.other}",
                        f"a row of {said.table} would find more than one partner, or the types differ.",
                        f"Choose columns that tell the rows of {said.other} apart.",
                    )
            self.records.decide_join(said)
            # What was said before may have hidden what their values show.
            self._joins.forget(said.table, said.other)
            self._record(list(self._loaded.stored))

    def join_details(self, name: str) -> list[JoinDetail]:
        """Every join of a table with what does not fit."""
        parquet = self.parquet
        return [join_detail(r, parquet) for r in self.catalogue.relationships if name in (r.table, r.other)]

    def forbidden_joins(self, name: str) -> list[JoinDecision]:
        return [d for d in self.records.join_decisions() if d.decision == "forbidden" and name in (d.table, d.other)]

    def look(self, name: str) -> Look:
        """The table at a glance; measured once."""
        loaded = self._loaded
        if name not in loaded.looks:
            loaded.looks[name] = look_at(loaded.catalogue.table(name), self.stored_table(name).parquet)
        return loaded.looks[name]

    def suggestions(self, table: Table) -> list[Suggestion]:
        """What to offer for a table; an append of tables that was made is not offered again."""
        loaded = self._loaded
        alike = [t for t in loaded.shapes.get(shape_of(table), []) if t.name != table.name]
        names = tuple(t.name for t in alike)
        if table.name not in loaded.offered or loaded.offered[table.name][0] != names:
            loaded.offered[table.name] = names, suggestions(table, alike)
        offered = loaded.offered[table.name][1]
        appends = any(s.append is not None for s in offered)
        made = {s.origin.tables for s in self.stored if isinstance(s.origin, Appended)} if appends else set()
        return [s for s in offered if s.append is None or s.append.tables not in made]

    def versions(self, name: str) -> list[TableVersion]:
        return [v for v in self._loaded.versions if v.stored.table.name == name]

    # -- questions ---------------------------------------------------------------------------

    def chain(self, number: int) -> Chain:
        """A question of the trail with those that it followed, none where it is gone. Raises ApiProblem for too many."""
        found = self.records.chain(number)
        if len(found) > MOST_FOLLOWED:
            raise ApiProblem(
                422, f"More than {MOST_FOLLOWED} questions follow one on another here.", "Ask it on its own."
            )
        return tuple(found)

    def _taught(self) -> Taught:
        return Taught(tuple(self.records.lessons()), tuple(self.records.terms()))

    def teach(self, lesson: Lesson) -> Lesson:
        """Keep what a person said of a reading; what was said of the same wording before gives way."""
        kept = replace(lesson, id=self.records.add_lesson(lesson))
        self.workers.learn(self._taught())
        return kept

    def forget(self, number: int) -> bool:
        """Forget a lesson; False where there is none."""
        gone = self.records.drop_lesson(number)
        self.workers.learn(self._taught())
        return gone

    def define(self, term: Term) -> Term:
        """Keep what a word means here, in place of what it meant before."""
        kept = term.model_copy(update={"id": self.records.put_term(term)})
        self.workers.learn(self._taught())
        return kept

    def undefine(self, number: int) -> bool:
        """Take a word's meaning away; False where it has none."""
        gone = self.records.drop_term(number)
        self.workers.learn(self._taught())
        return gone

    def examples(self, table: Table) -> list[str]:
        """Questions worth asking of a table; none as long as they are still being made."""
        return self._loaded.examples.get(table.name, [])

    @property
    def preparing(self) -> bool:
        """True as long as examples of some table are still to come."""
        timer = self._timer
        return bool(self._suggesting) or (timer is not None and timer.is_alive())

    def prepare(self) -> None:
        """Make the examples of all tables that have none, once changes have come to rest."""
        with self._preparing:
            if self._closed:
                return
            if self._timer is not None:
                self._timer.cancel()
            self._timer = threading.Timer(_REST, self._prepare)
            self._timer.daemon = True
            self._timer.start()

    def close(self) -> None:
        """End what is under way; nothing is prepared any more."""
        with self._preparing:
            self._closed = True
            if self._timer is not None:
                self._timer.cancel()
        self.workers.close()

    def _prepare(self) -> None:
        with self._preparing:
            # The timer may have run out at the very moment of closing.
            if not self._closed:
                self._submit_examples()

    def _submit_examples(self) -> None:
        loaded = self._loaded
        self.workers.submit("read", Stop(), self.limits.seconds, warm, self.as_of())
        for table in loaded.catalogue.tables[:_WITH_EXAMPLES]:
            if table.name not in loaded.examples and table.name not in self._suggesting:
                self._suggesting.add(table.name)
                asked = self.workers.submit("answer", Stop(), self.limits.seconds, examples, table.name, self.as_of())
                asked.add_done_callback(functools.partial(self._keep_examples, table))
        self._keep_for_later()

    def _keep_examples(self, table: Table, asked: Future[list[str]]) -> None:
        self._suggesting.discard(table.name)
        loaded = self._loaded
        # Meanwhile it may have become another table.
        same = any(t == table for t in loaded.catalogue.tables if t.name == table.name)
        if same and not asked.cancelled() and asked.exception() is None:
            loaded.examples[table.name] = asked.result()
        self._keep_for_later()

    def _keep_for_later(self) -> None:
        """Write down the examples once all are made, so that they are there when the workspace is taken up again."""
        with self._keeping:
            if self._suggesting or self._closed:
                return
            loaded = self._loaded
            kept = json.dumps({"of": self._state(loaded), "examples": dict(loaded.examples)})
            beside = self._worth.with_suffix(".new")
            try:
                beside.write_text(kept, encoding="utf-8")
                beside.replace(self._worth)
            except OSError:
                # They can be made again.
                log.warning("examples could not be written down")

    def _examples_kept(self) -> dict[str, list[str]]:
        """Examples that were made of these very tables before the workspace was put down; none where there are no such."""
        try:
            kept = json.loads(self._worth.read_text(encoding="utf-8"))
        except (FileNotFoundError, ValueError):
            return {}
        return dict(kept["examples"]) if kept["of"] == self._state(self._loaded) else {}

    def _state(self, loaded: _Loaded) -> str:
        """What examples are made from: the tables as they are, and the year."""
        told = f"{self.as_of().year} {loaded.catalogue.model_dump_json()}"
        return hashlib.sha256(told.encode()).hexdigest()


def _shown(
    stored: Sequence[StoredTable], relationships: Sequence[Relationship], before: _Loaded | None
) -> tuple[Table, ...]:
    """The tables as questions are read against them, with what others of them say of their columns and codes.

    Those that are as they were before are the very same.
    """
    pointed = pointing(relationships)
    known = {t.name: t for t in before.catalogue.tables} if before is not None else {}
    own = [meant(linked(s.table, pointed.get(s.table.name) or ()), s.meaning) for s in stored]
    told = explained(own, {s.table.name: s.parquet for s in stored})
    return tuple(known[t.name] if known.get(t.name) == t else t for t in told)


def same_file(source: Path, target: Path) -> None:
    """The same file under another name, since files of tables are never changed; a copy where there are no links."""
    try:
        os.link(source, target)
    except OSError:
        shutil.copy(source, target)
