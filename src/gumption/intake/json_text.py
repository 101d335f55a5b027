"""JSON files as tables: every list of objects in them is one, however deep it lies."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import TypeAlias

from gumption.core.model.catalogue import Note
from gumption.core.model.names import free_name, plural, singular
from gumption.intake.delimited import decoded
from gumption.intake.errors import UnreadableFile

_LARGE = 600_000_000
_MOST_LEVELS = 6
"""How deep objects are laid out as columns; below that a value stays JSON."""
_COMMON = ("", "id", "key", "number", "name", "code", "ref")
"""Names of keys that say nothing without what they are of."""
Item: TypeAlias = Mapping[str, object]


@dataclass(frozen=True)
class ObjectTable:
    """One list of objects as rows of text, and what the file calls it."""

    name: str
    names: tuple[str, ...]
    rows: list[list[str]]
    notes: tuple[Note, ...]


@dataclass
class _Laid:
    """Rows on their way: flat objects, and the lists of objects that stood in them."""

    flat: list[dict[str, str]] = field(default_factory=list)
    nested: dict[str, None] = field(default_factory=dict)
    """Fields that were objects."""
    below: dict[str, list[tuple[int, Item]]] = field(default_factory=dict)
    """Fields that were lists of objects: each object, with the place of the row that it stood in."""


def json_tables(path: Path, file: str, name: str) -> list[ObjectTable]:
    """Every table of a JSON file; the only list in it, or the first, is called `name`. Raises UnreadableFile."""
    if path.stat().st_size > _LARGE:
        raise UnreadableFile(file, "it is too large for JSON.", "Send it as CSV or Parquet.")
    text, _, said = decoded(path, file)
    notes: list[Note] = []
    try:
        lists = _lists(text.strip(), notes)
        found = [table for told, items in lists for table in _tables(told or name, items)]
    except RecursionError as error:
        raise UnreadableFile(file, "its JSON is nested too deeply.", "Send an array of flat objects.") from error
    if not lists:
        raise UnreadableFile(
            file, "its JSON is broken or holds no list of objects.", "Send an array of objects, or one object a line."
        )
    if not found:
        raise UnreadableFile(file, "its objects have no fields.", "Send an array of objects with values.")
    if len(found) > 1:
        notes.append(Note(act=f"{len(found)} lists of the file were read, a table each"))
    first = found[0]
    return [ObjectTable(first.name, first.names, first.rows, (*said, *notes, *first.notes)), *found[1:]]


def _lists(text: str, notes: list[Note]) -> list[tuple[str, list[Item]]]:
    """The lists of objects that a text holds, each with its name; none where it is no JSON, or holds none."""
    try:
        whole = json.loads(text)
    except ValueError:
        items = _lines(text, notes)
        return [("", items)] if items else []
    if isinstance(whole, dict):
        return _of_object(whole, notes)
    if not isinstance(whole, list) or not whole:
        return []
    if all(isinstance(i, dict) for i in whole):
        return [("", whole)]
    if all(isinstance(i, list) for i in whole) and len(whole) > 1 and all(isinstance(c, str) for c in whole[0]):
        notes.append(Note(act="Lists of cells were read as rows, the first as the header"))
        return [("", [dict(zip(whole[0], row, strict=False)) for row in whole[1:]])]
    objects: list[Item] = [i for i in whole if isinstance(i, dict)]
    left = len(whole) - len(objects)
    if len(objects) < left:
        return []
    notes.append(Note(act=f"{left} entries that are no objects were left out", rows=left, caution=True))
    return [("", objects)]


def _of_object(whole: Item, notes: list[Note]) -> list[tuple[str, list[Item]]]:
    found = dict(_inside(whole, ""))
    # Links and messages beside the one list that matters have a row or none.
    several = {way: items for way, items in found.items() if len(items) > 1} or found
    if len(several) == 1:
        way, items = next(iter(several.items()))
        notes.append(Note(act=f"The list “{way}” in the file was read"))
        return [("", items)]
    if several:
        return [(way.rpartition(".")[2], items) for way, items in several.items()]
    if len(whole) > 1 and all(isinstance(v, dict) for v in whole.values()):
        notes.append(Note(act="Each entry's own name was put in the column key"))
        entries: list[Item] = [{"key": k, **v} for k, v in whole.items() if isinstance(v, dict)]
        return [("", entries)]
    if (rows := _split(whole)) is not None:
        notes.append(Note(act="Lists of cells were read as rows under the names beside them"))
        return [("", rows)]
    columns = [v for v in whole.values() if isinstance(v, list)]
    if columns and len(columns) == len(whole) and len({len(c) for c in columns}) == 1:
        notes.append(Note(act="Lists by column were read as rows"))
        return [("", [dict(zip(whole, row, strict=True)) for row in zip(*columns, strict=True)])]
    return [("", [whole])] if whole else []


def _split(whole: Item) -> list[Item] | None:
    """The rows of an object that holds the columns' names and the rows' cells apart; None where it does not."""
    lists = [v for v in whole.values() if isinstance(v, list) and v]
    names = [v for v in lists if all(isinstance(n, str) for n in v)]
    rows = [v for v in lists if all(isinstance(r, list) for r in v)]
    if len(names) != 1 or len(rows) != 1 or any(len(row) != len(names[0]) for row in rows[0]):
        return None
    return [dict(zip(names[0], row, strict=True)) for row in rows[0]]


def _inside(whole: Item, way: str) -> Iterator[tuple[str, list[Item]]]:
    """The lists of objects inside objects, and the way to each."""
    for key, value in whole.items():
        here = f"{way}.{key}" if way else key
        if (items := _as_objects(value)) is not None:
            yield here, items
        elif isinstance(value, dict) and here.count(".") < _MOST_LEVELS:
            yield from _inside(value, here)


def _as_objects(value: object) -> list[Item] | None:
    return value if isinstance(value, list) and value and all(isinstance(i, dict) for i in value) else None


def _lines(text: str, notes: list[Note]) -> list[Item]:
    """Objects that stand one a line, as far as most lines are one."""
    items: list[Item] = []
    bad: list[str] = []
    for line in text.splitlines():
        stripped = line.strip().rstrip(",")
        if not stripped or stripped in "[]":
            continue
        try:
            item = json.loads(stripped)
        except ValueError:
            item = None
        if isinstance(item, dict):
            items.append(item)
        else:
            bad.append(line)
    if len(bad) > 0.2 * (len(items) + len(bad)):
        return []
    if bad:
        told = "line is no object and was" if len(bad) == 1 else "lines are no object and were"
        notes.append(Note(act=f"{len(bad)} {told} left out", rows=len(bad), examples=(bad[0][:80],), caution=True))
    return items


def _tables(name: str, items: Sequence[Item], *, inherits: bool = False) -> Iterator[ObjectTable]:
    """A list of objects as a table, and behind it those of the lists inside its objects.

    Objects that stood in others `inherit` the key of these as their first field.
    """
    laid = _Laid()
    for place, item in enumerate(items):
        row: dict[str, str] = {}
        _lay(item, "", place, row, laid, _MOST_LEVELS)
        laid.flat.append(row)
    names = tuple(dict.fromkeys(key for row in laid.flat for key in row))
    if names:
        yield ObjectTable(name, names, [[row.get(n, "") for n in names] for row in laid.flat], _notes(names, laid))
    # What a row was given of the one that it stood in tells it apart last.
    key = _key((*names[1:], names[0]) if inherits else names, laid.flat)
    for inner, inside in laid.below.items():
        taken = {field_name for _, item in inside for field_name in item}
        told = free_name(f"{singular(name)}_{key or 'row'}" if key in _COMMON or key in taken else key, taken)
        rows: list[Item] = [{told: laid.flat[place][key] if key else place + 1, **item} for place, item in inside]
        yield from _tables(inner, rows, inherits=True)


def _lay(item: Item, before: str, place: int, row: dict[str, str], laid: _Laid, levels: int) -> None:
    """An object's fields as cells of a row, those of objects inside it under both their names."""
    for key, value in item.items():
        name = f"{before}{key}"
        if isinstance(value, Mapping) and value and levels:
            laid.nested[name] = None
            _lay(value, f"{name}_", place, row, laid, levels - 1)
        elif (objects := _as_objects(value)) is not None:
            laid.below.setdefault(name, []).extend((place, o) for o in objects)
        else:
            row[name] = _text(value)


def _notes(names: tuple[str, ...], laid: _Laid) -> tuple[Note, ...]:
    notes = []
    if laid.nested:
        listed = sorted(laid.nested)
        notes.append(
            Note(act=f"Nested objects were laid out as columns: {', '.join(listed[:4])}", examples=tuple(listed[:3]))
        )
    if laid.below:
        notes.append(Note(act=f"Lists inside the objects are tables of their own: {', '.join(list(laid.below)[:4])}"))
    ragged = sum(len(row) < len(names) for row in laid.flat)
    if ragged:
        lack = "lacks" if ragged == 1 else "lack"
        notes.append(Note(act=f"{plural(ragged, 'object')} {lack} some of the fields; these are missing", rows=ragged))
    return tuple(notes)


def _key(names: tuple[str, ...], rows: Sequence[Mapping[str, str]]) -> str:
    """The first field that tells all rows apart, by which what stood in them can be joined to them; none where there is none."""
    for name in names:
        values = [row.get(name, "") for row in rows]
        if all(values) and len(set(values)) == len(values):
            return name
    return ""


def _text(value: object) -> str:
    match value:
        case None:
            return ""
        case dict() if not value:
            return ""
        case bool():
            return "true" if value else "false"
        case str():
            return value.strip()
        case int() | float():
            return repr(value)
        case list() if all(isinstance(v, (str, int, float)) for v in value):
            return "; ".join(map(str, value))
        case _:
            return json.dumps(value, ensure_ascii=False)
