"""Files given on the command line as a workspace that lasts as long as the command."""

from __future__ import annotations

import json
from dataclasses import dataclass
from pathlib import Path

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.names import free_name
from gumption.engines.answering import Answerer
from gumption.engines.duck import DuckEngine
from gumption.intake.describe import described
from gumption.intake.dictionary import explained
from gumption.intake.errors import UnreadableFile
from gumption.intake.read import ReadTable, read_file
from gumption.intake.relate import linked, pointing, relate


class BadUsage(Exception):
    """What was typed cannot be done; one line says why and what would do."""


@dataclass(frozen=True)
class Opened:
    """Tables read from files, ready for questions."""

    catalogue: Catalogue
    answerer: Answerer


def open_files(paths: list[str], describe: str | None, out: Path) -> Opened:
    """Read the files into Parquet in `out`, which must last as long as the questions. Raises BadUsage for a file that is not there or cannot be read."""
    descriptions: dict[str, object] = {}
    if describe is not None:
        descriptions = _descriptions(Path(describe))
    read: list[ReadTable] = []
    for given in paths:
        path = Path(given)
        if not path.is_file():
            raise BadUsage(f"{given}: there is no such file.")
        try:
            read.extend(read_file(path, path.name, out))
        except UnreadableFile as error:
            raise BadUsage(str(error)) from error
    named: dict[str, ReadTable] = {}
    for found in read:
        named[free_name(found.table.name, named)] = found
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


def _descriptions(path: Path) -> dict[str, object]:
    try:
        loaded = json.loads(path.read_text(encoding="utf-8"))
    except (OSError, ValueError) as error:
        raise BadUsage(f"{path}: the descriptions must be a JSON object of column names and meanings.") from error
    if not isinstance(loaded, dict):
        raise BadUsage(f"{path}: the descriptions must be a JSON object of column names and meanings.")
    inner = loaded.get("columns")
    return inner if isinstance(inner, dict) else loaded
