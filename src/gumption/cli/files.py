"""Files given on the command line as a workspace that lasts as long as the command."""

from __future__ import annotations

import json
from dataclasses import dataclass
from pathlib import Path

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.files import Recipe
from gumption.core.model.names import free_name
from gumption.core.model.types import Type
from gumption.engines.answering import Answerer
from gumption.engines.duck import DuckEngine
from gumption.intake.describe import described
from gumption.intake.dictionary import explained
from gumption.intake.errors import UnreadableFile
from gumption.intake.making import ReadTable
from gumption.intake.read import read_file
from gumption.intake.relate import Joins, linked, pointing, relate


class BadUsage(Exception):
    """What was typed cannot be done; one line says why and what would do."""


@dataclass(frozen=True)
class Opened:
    """Tables read from files, ready for questions."""

    catalogue: Catalogue
    answerer: Answerer

    @property
    def parquet(self) -> dict[str, Path]:
        """The cleaned rows of each table."""
        return self.answerer.engine.parquet


def open_files(paths: list[str], describe: str | None, out: Path) -> Opened:
    """Read the files into Parquet in `out`, which must last as long as the questions. Raises BadUsage for a file that is not there or cannot be read."""
    descriptions: dict[str, object] = {}
    if describe is not None:
        descriptions = _descriptions(Path(describe))
    named: dict[str, ReadTable] = {}
    sources: dict[str, Path] = {}
    for given in paths:
        path = Path(given)
        if not path.is_file():
            raise BadUsage(f"{given}: there is no such file.")
        try:
            for found in read_file(path, path.name, out):
                name = free_name(found.table.name, named)
                named[name], sources[name] = found, path
        except UnreadableFile as error:
            raise BadUsage(str(error)) from error
    _with_codes_as_text(named, sources, out)
    tables = [described(r.table.model_copy(update={"name": n}), r.table.source, descriptions) for n, r in named.items()]
    parquet = {n: r.parquet for n, r in named.items()}
    tables = explained(tables, parquet)
    relationships = relate(tables, parquet)
    pointed = pointing(relationships)
    catalogue = Catalogue(
        tables=tuple(linked(t, pointed.get(t.name, ())) for t in tables), relationships=tuple(relationships)
    )
    answerer = Answerer(catalogue, DuckEngine(parquet), {n: r.reading for n, r in named.items()})
    return Opened(catalogue, answerer)


def _with_codes_as_text(named: dict[str, ReadTable], sources: dict[str, Path], out: Path) -> None:
    """Read tables again whose codes are numbers here and text in another table, so that the two meet."""
    tables = [r.table.model_copy(update={"name": n}) for n, r in named.items()]
    for name, columns in Joins(tables).codes_to_be_text({n: r.parquet for n, r in named.items()}, list(named)).items():
        part, path = named[name].reading.part, sources[name]
        recipe = Recipe(types=dict.fromkeys(columns, Type.TEXT))
        again = read_file(path, path.name, out, recipes={part: recipe})
        named[name] = next(found for found in again if found.reading.part == part)


def _descriptions(path: Path) -> dict[str, object]:
    try:
        loaded = json.loads(path.read_text(encoding="utf-8"))
    except (OSError, ValueError) as error:
        raise BadUsage(f"{path}: the descriptions must be a JSON object of column names and meanings.") from error
    if not isinstance(loaded, dict):
        raise BadUsage(f"{path}: the descriptions must be a JSON object of column names and meanings.")
    inner = loaded.get("columns")
    return inner if isinstance(inner, dict) else loaded
