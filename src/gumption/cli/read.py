"""`gumption read`: what the intake makes of files, without server or database."""

from __future__ import annotations

import json
import shutil
import sys
import tempfile
from pathlib import Path
from typing import Any

import duckdb

from gumption.cli.files import BadUsage
from gumption.core.model.catalogue import Table
from gumption.core.model.names import free_name, plural
from gumption.core.model.types import Type
from gumption.core.present.cells import BEGINS, NUMBER, harmless
from gumption.intake.errors import UnreadableFile
from gumption.intake.making import ReadTable
from gumption.intake.read import read_file
from gumption.intake.sql import literal, quoted


def read_files(files: list[str], form: str, out: str | None, out_format: str) -> int:
    """Read the files, print what was found, and write the cleaned tables where asked; 1 where nothing could be read."""
    target = Path(out) if out else None
    if target is not None:
        try:
            target.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise BadUsage(f"{out}: cannot be made a folder ({error.strerror}).") from error
    tables: list[tuple[str, ReadTable]] = []
    errors: list[dict[str, Any]] = []
    with tempfile.TemporaryDirectory() as scratch:
        for given in files:
            path = Path(given)
            if not path.is_file():
                errors.append({"file": given, "message": "there is no such file."})
                continue
            try:
                for found in read_file(path, path.name, Path(scratch)):
                    tables.append((free_name(found.table.name, {n for n, _ in tables}), found))
            except UnreadableFile as error:
                fields = {"found": error.found, "accepted": list(error.accepted)}
                errors.append({"file": given, "message": f"{error.problem} {error.advice}", **fields})
        if target is not None:
            for name, found in tables:
                _write(found, target / f"{name}.{out_format}", out_format)
    if form == "json":
        whole = {"tables": [_as_object(name, found) for name, found in tables], "errors": errors}
        print(json.dumps(whole, ensure_ascii=False, indent=1))
    else:
        for name, found in tables:
            print(_as_text(name, found.table, found.reading.sheet))
        for problem in errors:
            sys.stderr.write(f"gumption: {problem['file']}: {problem['message']}\n")
    return 0 if tables else 1


def _write(found: ReadTable, path: Path, out_format: str) -> None:
    if out_format == "parquet":
        shutil.copy(found.parquet, path)
        return
    cells = []
    for column in found.table.columns:
        cell = quoted(column.name)
        if column.type is Type.DURATION:
            cell = f"CAST(to_microseconds(CAST({cell} * 1000000 AS BIGINT)) AS VARCHAR)"
        elif column.type is Type.TEXT:
            runs = (
                f"regexp_matches({cell}, {literal(f'^{BEGINS}')}) AND NOT regexp_full_match({cell}, {literal(NUMBER)})"
            )
            cell = f"CASE WHEN {runs} THEN chr(39) || {cell} ELSE {cell} END"
        cells.append(f"{cell} AS {quoted(str(harmless(column.name)))}")
    with duckdb.connect() as connection:
        connection.execute(
            f"COPY (SELECT {', '.join(cells)} FROM read_parquet({literal(str(found.parquet))})) TO {literal(str(path))} (FORMAT csv, HEADER)"
        )


def _as_object(name: str, found: ReadTable) -> dict[str, Any]:
    table = found.table
    return {
        "name": name,
        "source": table.source,
        "sheet": found.reading.sheet,
        "rows": table.rows,
        "columns": [
            {"name": c.name, "type": c.type.value, "role": c.role.value, "missing": c.missing, "distinct": c.distinct}
            for c in table.columns
        ],
        "notes": [
            {"act": f"{n.act}; {n.detail}" if n.detail else n.act, "rows": n.rows, "examples": list(n.examples)}
            for n in table.notes
        ],
    }


def _as_text(name: str, table: Table, sheet: str | None) -> str:
    where = f"{table.source}, sheet {sheet}" if sheet else table.source
    lines = [f"{name}: {plural(table.rows, 'row')}, {plural(len(table.columns), 'column')}, from {where}"]
    width = max(len(c.name) for c in table.columns)
    for c in table.columns:
        unit = f" in {c.unit}" if c.unit else ""
        gaps = f", {c.missing:,} missing" if c.missing else ""
        lines.append(f"  {c.name.ljust(width)}  {c.type.value}{unit}, {c.role.value}, {c.distinct:,} different{gaps}")
    for note in table.notes:
        lines.append(f"  [{'!' if note.caution else 'ok'}] {note.act}{'; ' + note.detail if note.detail else ''}")
    return "\n".join([*lines, ""])
