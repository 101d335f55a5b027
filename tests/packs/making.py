"""How packs of questions are made: data from a seed, and every answer worked out twice, by SQL and by pandas.

`python -m tests.packs.making NAME...` writes a pack's files; it fails where the two answers differ.
"""

from __future__ import annotations

import datetime as dt
import importlib
import json
import math
import sys
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import duckdb
import numpy as np
import pandas as pd

HERE = Path(__file__).parent


@dataclass(frozen=True)
class Asked:
    """A question with its answer in both ways; `after` is how many questions before it stands the one it follows."""

    ask: str
    level: int
    tags: str
    sql: str = ""
    frame: Callable[[], Any] | None = None
    also: tuple[Callable[[], Any], ...] = ()
    """Other answers that are as right: of another shape, or of another way to take the words."""
    side: bool = False
    """True where its two rows may as well stand side by side, as one row of two columns."""
    ordered: bool = False
    after: int = 0
    percent: tuple[int, ...] = ()
    optional: tuple[int, ...] = ()
    outcome: tuple[str, ...] = ("answered",)
    note: str = ""


@dataclass(frozen=True)
class Pack:
    """Tables as they are meant, as they are written to files, and the questions."""

    title: str
    about: str
    as_of: dt.date
    tables: Mapping[str, pd.DataFrame]
    questions: Sequence[Asked]
    written: Mapping[str, Callable[[pd.DataFrame], str]] = field(default_factory=dict)
    """How a table stands in its file, where that is not plain CSV: the file's name, and its text."""
    columns: Mapping[str, Any] = field(default_factory=dict)


def days(rng: np.random.Generator, first: str, last: str, many: int) -> pd.Series:
    """So many days, both ends included, in no order."""
    span = (pd.Timestamp(last) - pd.Timestamp(first)).days
    return pd.Series(pd.Timestamp(first) + pd.to_timedelta(rng.integers(0, span + 1, many), unit="D"))


def top(series: pd.Series, many: int = 1, *, rising: bool = False) -> pd.Series:
    """The first few by size."""
    return series.sort_values(ascending=rising).head(many)


def rows_of(answer: Any) -> tuple[list[str], list[list[Any]]]:
    """Columns and raw values of a frame, a series by its index, or one value."""
    if isinstance(answer, pd.Series):
        answer = answer.reset_index()
    if not isinstance(answer, pd.DataFrame):
        answer = pd.DataFrame({"value": [answer]})
    return [str(c) for c in answer.columns], [[_raw(v) for v in row] for row in answer.itertuples(index=False)]


def _raw(value: Any) -> Any:
    if isinstance(value, pd.Period):
        value = value.start_time
    if value is None or value is pd.NaT or value is pd.NA or (isinstance(value, float) and math.isnan(value)):
        return None
    if isinstance(value, (dt.datetime, dt.date)):
        text = value.isoformat()
        return text.removesuffix("T00:00:00")
    if hasattr(value, "item"):
        value = value.item()
    if isinstance(value, (bool, str, int)):
        return value
    number = float(value)
    return int(number) if number.is_integer() else number


def _alike(one: list[list[Any]], two: list[list[Any]], ordered: bool) -> bool:
    def plain(row: list[Any]) -> list[str]:
        return [f"{v:.6f}" if isinstance(v, (int, float)) and not isinstance(v, bool) else str(v) for v in row]

    rows, others = [plain(r) for r in one], [plain(r) for r in two]
    return rows == others if ordered else sorted(rows) == sorted(others)


def write(name: str) -> None:
    """Writes data, questions and gold of a pack beside its code."""
    pack: Pack = importlib.import_module(f"tests.packs.{name}.pack").PACK
    folder = HERE / name
    (folder / "data").mkdir(exist_ok=True)
    for table, frame in pack.tables.items():
        made = pack.written.get(table)
        text = made(frame) if made is not None else frame.to_csv(index=False)
        (folder / "data" / f"{table}.csv").write_text(text, encoding="utf-8")
    about = {"title": pack.title, "as_of": pack.as_of.isoformat(), "about": pack.about}
    settings = {**about, "columns": pack.columns} if pack.columns else about
    (folder / "pack.json").write_text(json.dumps(settings, indent=1) + "\n", encoding="utf-8")
    connection = duckdb.connect()
    for table, frame in pack.tables.items():
        connection.register(table, frame)
    questions, gold = [], []
    for place, asked in enumerate(pack.questions, 1):
        number = f"{name[0]}{place:02d}"
        question = {"id": number, "ask": asked.ask}
        if asked.after:
            question["after"] = f"{name[0]}{place - asked.after:02d}"
        questions.append(question)
        expected: dict[str, Any] = {"id": number, "level": asked.level, "tags": asked.tags.split(), "accept": []}
        if asked.frame is not None:
            columns, rows = rows_of(asked.frame())
            _, others = rows_of(connection.sql(asked.sql).df())
            if not _alike(rows, others, asked.ordered):
                raise SystemExit(f"{number} {asked.ask}: the two answers differ\n{rows[:5]}\n{others[:5]}")
            accepted = [(columns, rows), *(rows_of(other()) for other in asked.also)]
            if asked.side:
                accepted.append(([str(r[0]) for r in rows], [[r[-1] for r in rows]]))
            for names, found in accepted:
                told: dict[str, Any] = {"columns": names, "rows": found, "ordered": asked.ordered}
                told |= {"percent": list(asked.percent)} if asked.percent else {}
                told |= {"optional": list(asked.optional)} if asked.optional else {}
                expected["accept"].append(told)
        expected["outcome"] = list(asked.outcome)
        if asked.note:
            expected["note"] = asked.note
        gold.append(expected)
    for file, lines in (("questions.jsonl", questions), ("gold.jsonl", gold)):
        text = "\n".join(json.dumps(line, ensure_ascii=False) for line in lines)
        (folder / file).write_text(text + "\n", encoding="utf-8")
    print(f"{name}: {len(questions)} questions")


if __name__ == "__main__":
    for chosen in sys.argv[1:]:
        write(chosen)
