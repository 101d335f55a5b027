"""The bench of question packs: reading, answering and scoring every question, and what changed since the last run.

A pack is a folder with data/, questions.jsonl, gold.jsonl and pack.json; the scorer is score.py beside the packs.
What was read of the data is kept between runs, so that a change of the reader is seen in a minute.
"""

from __future__ import annotations

import collections
import datetime as dt
import hashlib
import importlib.util
import json
import logging
import os
import pickle
import statistics
import tempfile
import time
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

from gumption.cli.answers import as_line, ask
from gumption.cli.files import Opened, open_files
from gumption.cli.test import HOME
from gumption.core.reading.read import QuestionReader, Reading
from gumption.engines.answering import Answerer, json_value
from gumption.engines.duck import DuckEngine

KEPT = HOME / ".setup" / "bench"
INTAKE = HOME / "src" / "gumption" / "intake"


def keep(name: str, verdicts: list[dict[str, Any]]) -> None:
    """Write a run's verdicts whole, or leave those of the run before."""
    KEPT.mkdir(parents=True, exist_ok=True)
    with tempfile.NamedTemporaryFile("w", dir=KEPT, delete=False) as file:
        json.dump(verdicts, file)
    os.replace(file.name, KEPT / name)


def scorer(folder: Path) -> Any:
    spec = importlib.util.spec_from_file_location("score", folder.parent / "score.py")
    assert spec is not None and spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


def opened_pack(folder: Path, about: dict[str, Any]) -> Opened:
    """The pack's tables, read again only where the files or the intake changed."""
    digest = hashlib.sha256(json.dumps(about).encode())
    for path in [*sorted((folder / "data").iterdir()), *sorted(INTAKE.rglob("*.py"))]:
        digest.update(path.read_bytes())
    kept = KEPT / f"{folder.name}-{digest.hexdigest()[:16]}"
    index = kept / "opened.pickle"
    if not index.exists():
        kept.mkdir(parents=True, exist_ok=True)
        describe = None
        if about.get("columns"):
            describe = str(kept / "columns.json")
            Path(describe).write_text(json.dumps(about["columns"]))
        opened = open_files([str(p) for p in sorted((folder / "data").iterdir())], describe, kept)
        parquet = opened.answerer.engine.parquet
        index.write_bytes(pickle.dumps((opened.catalogue, parquet, opened.answerer.readings)))
        opened.answerer.engine.close()
    catalogue, parquet, readings = pickle.loads(index.read_bytes())
    return Opened(catalogue, Answerer(catalogue, DuckEngine(parquet), readings))


def pack_of(folder: Path) -> tuple[Any, Opened, QuestionReader, dt.date, dict[str, Any]]:
    """A pack made ready: its scorer, tables, a reader of them, the day it counts from, and the gold by question."""
    score, about = scorer(folder), json.loads((folder / "pack.json").read_text())
    opened = opened_pack(folder, about)
    gold = {g["id"]: g for g in score.lines(folder / "gold.jsonl")}
    return score, opened, QuestionReader(opened.catalogue), dt.date.fromisoformat(about["as_of"]), gold


def run_pack(folder: Path, reach: bool) -> list[dict[str, Any]]:
    """Every question of a pack with its verdict."""
    logging.disable(logging.CRITICAL)
    score, opened, reader, day, gold = pack_of(folder)
    readings: dict[str, Reading | None] = {}
    found = []
    for question in score.lines(folder / "questions.jsonl"):
        earlier = readings.get(question.get("after", ""))
        start = time.perf_counter()
        reader.read(question["ask"], day, earlier)
        seconds = time.perf_counter() - start
        said = ask(opened, reader, question["ask"], day, earlier)
        readings[question["id"]] = said.reading
        line = as_line(question["id"], said)
        expected = gold[question["id"]]
        right, in3, silent, status = score.judge(expected, line)
        verdict = {
            "pack": folder.name, "id": question["id"], "ask": question["ask"], "after": question.get("after"),
            "level": expected["level"], "tags": expected["tags"], "right": right, "in3": in3, "silent": silent,
            "status": status, "reading": said.understanding.readings[0].words if said.reading else line["reading"],
            "unread": line["unread"], "seconds": seconds, "reach": in3, "doubt": line["doubt"],
            "columns": line["columns"], "rows": len(line["rows"]), "row": line["rows"][:1],
        }  # fmt: skip
        if reach and not in3 and "answered" in expected["outcome"]:
            verdict["reach"] = _reached(opened, reader, question["ask"], day, earlier, expected, score)
        found.append(verdict)
    return found


def _reached(
    opened: Opened, reader: QuestionReader, question: str, day: dt.date, earlier: Reading | None, gold: Any, score: Any
) -> bool:
    """True where one of the first fifty candidates gives the right table."""
    from gumption.core.reading.tokens import tokenise

    tokens, _ = reader.mended(tokenise(question))
    for candidate in reader.candidates(tokens, day, earlier)[:50]:
        try:
            columns, rows = opened.answerer.rows(reader.plan_of(candidate.ask, day))
        except Exception:
            continue
        plain = [[json_value(v) for v in row] for row in rows]
        if any(score.table_matches(a, columns, plain) for a in gold["accept"]):
            return True
    return False


def _line(name: str, verdicts: list[dict[str, Any]]) -> str:
    n = len(verdicts)
    share = {key: sum(v[key] for v in verdicts) / n for key in ("right", "in3", "silent", "reach")}
    return (
        f"{name:28} n={n:<5} right {share['right']:6.1%}  in 3 {share['in3']:6.1%}  "
        f"silently wrong {share['silent']:6.1%}  reach {share['reach']:6.1%}"
    )


def bench_packs(folders: list[str], reach: bool = True) -> int:
    """Run the packs on both cores, print the totals, and what changed since the run before."""
    paths = [Path(f).resolve() for f in folders if (Path(f) / "gold.jsonl").exists()]
    begun = time.perf_counter()
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        results = list(pool.map(run_pack, paths, [reach] * len(paths)))
    verdicts = [v for result in results for v in result]
    if not verdicts:
        print("there is no pack in these folders")
        return 2
    for path, result in zip(paths, results, strict=True):
        print(_line(path.name, result))
    for level in (1, 2, 3, 4):
        if chosen := [v for v in verdicts if v["level"] == level]:
            print(_line(f"level {level}", chosen))
    tags = collections.Counter(t for v in verdicts for t in v["tags"])
    for tag, _ in tags.most_common(20):
        print(_line(f"tag {tag}", [v for v in verdicts if tag in v["tags"]]))
    print(_line("all", verdicts))
    answered = [v for v in verdicts if v["right"] and v["status"] == "answered"]
    print(f"right ones told with a doubt: {sum(v['doubt'] for v in answered) / max(len(answered), 1):.1%}")
    times = sorted(v["seconds"] for v in verdicts)
    print(
        f"reading: median {1000 * statistics.median(times):.0f} ms, 95th percentile {1000 * times[int(0.95 * len(times))]:.0f} ms, "
        f"longest {1000 * times[-1]:.0f} ms; {time.perf_counter() - begun:.0f} s in all"
    )
    _changes(verdicts)
    return 0


def _changes(verdicts: list[dict[str, Any]]) -> None:
    path = KEPT / "last.json"
    before = {(v["pack"], v["id"]): v for v in json.loads(path.read_text())} if path.exists() else {}
    for verdict in verdicts:
        known = before.get((verdict["pack"], verdict["id"]))
        if known is not None and known["right"] != verdict["right"]:
            print(f"{'+' if verdict['right'] else '-'} {verdict['pack']} {verdict['id']}: {verdict['ask']}")
    merged = {**before, **{(v["pack"], v["id"]): v for v in verdicts}}
    keep(path.name, list(merged.values()))
