"""A workspace as one file, and taken up again elsewhere. docs/workspace-file.md says how it is made.

Passwords of what rows are fetched from stay behind, and so do earlier versions of tables and what is under way.
"""

from __future__ import annotations

import datetime as dt
import uuid
import zipfile
from pathlib import Path
from typing import Annotated, Literal

import pyarrow as pa
import pyarrow.parquet as pq
from pydantic import BaseModel, Field, ValidationError, field_validator

from gumption.core.editing.draft import History
from gumption.core.folio.page import PageFile
from gumption.core.model.catalogue import Table
from gumption.core.model.files import FileReading, Recipe
from gumption.core.model.lesson import Lesson
from gumption.core.model.meaning import TableMeaning
from gumption.core.model.origin import Origin, Uploaded
from gumption.core.model.term import Term
from gumption.server.folio_pages import Folio
from gumption.server.pictures import Pictures
from gumption.server.problems import ApiProblem
from gumption.server.shelf import Shelf
from gumption.server.workspace import Workspace
from gumption.store.folio import FolioRecords
from gumption.store.records import JoinDecision, StoredTable

ENDING = "gumption.zip"
_MOST_JSON = 200_000_000
"""Bytes of the description in such a file."""
_CHUNK = 1 << 20


class SavedTable(BaseModel):
    """A table in a saved workspace, with the places of its files there."""

    table: Table
    reading: FileReading
    recipe: Recipe = Recipe()
    meaning: TableMeaning = TableMeaning()
    origin: Origin = Uploaded()
    seconds: float = 0.0
    rows: str
    """Its rows, as Parquet."""
    original: str
    """The file that it was read from."""


class SavedQuestion(BaseModel):
    """A question of the trail; `parent_id` is the one it followed."""

    id: int
    parent_id: int | None
    question: Annotated[str, Field(max_length=60_000)]
    choice: int | None
    status: Literal["answered", "asks", "declined", "told"]
    cautions: int
    holds: int
    finding: str
    summary: Annotated[str, Field(max_length=200)]
    asked_at: dt.datetime
    reading: str
    terms: str
    starred: bool = False
    title: Annotated[str, Field(max_length=200)] = ""
    place: float | None = None
    by_hand: str = ""

    @field_validator("by_hand")
    @classmethod
    def _is_a_history(cls, given: str) -> str:
        return History.model_validate_json(given).model_dump_json() if given else ""


class Saved(BaseModel):
    """All that a saved workspace has besides its tables' files."""

    format: Literal["gumption workspace"] = "gumption workspace"
    version: Literal[1] = 1
    title: Annotated[str, Field(min_length=1, max_length=200)]
    as_of: dt.date | None
    tables: list[SavedTable]
    joins: list[JoinDecision]
    terms: list[Term]
    lessons: list[Lesson]
    trail: list[SavedQuestion]
    folio: list[PageFile] = []
    """Its pages, without what they came to."""
    pictures: list[str] = []
    """The names of the pictures that were sent to it; each is there as `pictures/NAME`."""


def save(shelf: Shelf, workspace: Workspace, path: Path) -> None:
    """Write a workspace to one file."""
    records = workspace.records
    with workspace.unchanging(), zipfile.ZipFile(path, "w", zipfile.ZIP_STORED) as file:
        tables = []
        for number, stored in enumerate(workspace.stored, start=1):
            rows = f"tables/{number}/{stored.table.name}.parquet"
            same = stored.original == stored.parquet
            original = rows if same else f"tables/{number}/{stored.original.name}"
            file.write(stored.parquet, rows)
            if not same:
                file.write(stored.original, original, zipfile.ZIP_DEFLATED)
            tables.append(
                SavedTable(
                    table=stored.table,
                    reading=stored.reading,
                    recipe=stored.recipe,
                    meaning=stored.meaning,
                    origin=stored.origin,
                    seconds=stored.seconds,
                    rows=rows,
                    original=original,
                )
            )
        pictures = workspace.pictures.names()
        for name in pictures:
            file.write(workspace.pictures.path(name), f"pictures/{name}")
        title, as_of, _ = records.workspace_settings()
        folio = Folio(workspace)
        whole = Saved(
            title=title,
            as_of=as_of,
            tables=tables,
            joins=records.join_decisions(),
            terms=records.terms(),
            lessons=records.lessons(),
            trail=[SavedQuestion.model_validate(entry) for entry in shelf.shelved.trail_of(workspace.number)],
            folio=[folio.page_file(page.id) for page in folio.records.pages()],
            pictures=pictures,
        )
        file.writestr("workspace.json", whole.model_dump_json(indent=1), zipfile.ZIP_DEFLATED)


def take_in(shelf: Shelf, path: Path) -> int:
    """Make a workspace of a file that `save` wrote; its number. Raises ApiProblem where it is none, and changes nothing then."""
    try:
        with zipfile.ZipFile(path) as file:
            saved = _described(file)
            number = shelf.shelved.make(shelf.free_title(saved.title), saved.as_of)
            try:
                stored = [_unpacked(file, s, shelf.folder_of(number) / "tables", shelf) for s in saved.tables]
                _unpack_pictures(file, saved.pictures, shelf.folder_of(number), shelf)
                _recorded(shelf, number, saved, stored)
            except BaseException:
                shelf.delete(number)
                raise
    except (zipfile.BadZipFile, KeyError, ValidationError, pa.ArrowInvalid, EOFError, NotImplementedError) as error:
        raise ApiProblem(
            422, "This is no saved workspace, or it is broken.", "Save it again where it comes from."
        ) from error
    return number


def _described(file: zipfile.ZipFile) -> Saved:
    member = file.getinfo("workspace.json")
    if member.file_size > _MOST_JSON:
        raise ApiProblem(413, "The workspace's description is far too large.", "Save it again where it comes from.")
    return Saved.model_validate_json(file.read(member))


def _unpacked(file: zipfile.ZipFile, saved: SavedTable, tables: Path, shelf: Shelf) -> StoredTable:
    """The files of a table in a folder of their own."""
    folder = tables / uuid.uuid4().hex
    folder.mkdir(parents=True)
    parquet = folder / f"{_plain(saved.table.name)}.parquet"
    _unpack(file, saved.rows, parquet, shelf)
    here = pq.read_schema(parquet).names
    told = [c.name for c in saved.table.columns]
    if here != told or pq.read_metadata(parquet).num_rows != saved.table.rows:
        raise ApiProblem(
            422, f"The rows of {saved.table.name} are not those that are told of.", "Save it again where it comes from."
        )
    original = parquet
    if saved.original != saved.rows:
        original = folder / f"original{Path(saved.original).suffix[:10]}"
        _unpack(file, saved.original, original, shelf)
    return StoredTable(
        saved.table,
        saved.reading,
        parquet,
        original,
        original.stat().st_size,
        saved.seconds,
        saved.recipe,
        saved.meaning,
        saved.origin,
    )


def _unpack_pictures(file: zipfile.ZipFile, names: list[str], folder: Path, shelf: Shelf) -> None:
    """The pictures of a saved workspace, each looked at as one that is sent. Raises UnreadableFile."""
    pictures = Pictures(folder / "pictures")
    folder.mkdir(parents=True, exist_ok=True)
    for name in names:
        taken = folder / uuid.uuid4().hex
        _unpack(file, f"pictures/{name}", taken, shelf)
        pictures.keep(name, taken)


def _unpack(file: zipfile.ZipFile, member: str, target: Path, shelf: Shelf) -> None:
    """A file out of the archive, under a name of ours; no more of it than may be sent."""
    left = shelf.house.allowed.most_bytes
    with file.open(member) as source, target.open("wb") as out:
        while chunk := source.read(_CHUNK):
            left -= len(chunk)
            if left < 0:
                raise ApiProblem(413, "A file in it is larger than may be sent.", "Raise --upload-limit.")
            out.write(chunk)


def _plain(name: str) -> str:
    """A table's name as a file's, whatever a file from elsewhere calls it."""
    return "".join(c if c.isalnum() or c == "_" else "_" for c in name)[:100] or "table"


def _recorded(shelf: Shelf, number: int, saved: Saved, stored: list[StoredTable]) -> None:
    records = shelf.records_of(number)
    for said in saved.joins:
        records.decide_join(said)
    records.replace_tables(stored, [])
    for term in saved.terms:
        records.put_term(term)
    for lesson in saved.lessons:
        records.add_lesson(lesson)
    shelf.shelved.put_trail(number, [question.model_dump() for question in saved.trail])
    folio = FolioRecords(records)
    for page in saved.folio:
        folio.make(page.title, page.parts)
    shelf.room(number).workspace.find_joins()
