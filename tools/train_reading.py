"""Trains what the features of a reading weigh, and how sure it is, from question packs.

    PYTHONPATH=src python tools/train_reading.py PACK_DIR ... --out src/gumption/core/reading/weights.json

Every candidate of every question is worked, and those whose table is right by the pack's scorer are the good ones.
A log-linear model over the candidates' features is fitted by maximum likelihood with L2 towards one (a feature
weighs what it says), then a logistic model of "the first one is right" over its signs, with L2 towards nought, for
which the packs are read again with a share of the words and rules forgotten: it is to hold for files that nobody saw.
Both are cross-validated by pack; the same data give the same weights.
"""

from __future__ import annotations

import argparse
import itertools
import json
import logging
import os
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

import numpy as np
from scipy.optimize import minimize

from gumption.cli.files import Opened
from gumption.core.plan.fields import PlanError
from gumption.core.plan.typing import schema_of
from gumption.core.reading.flow import CannotPlan
from gumption.core.reading.judgement import signs
from gumption.core.reading.read import CONSIDERED, Reading, Understanding
from gumption.core.reading.tokens import tokenise
from gumption.engines.answering import json_value
from gumption.engines.choosing import chosen, says_nothing
from gumption.engines.errors import CannotAnswer
from tools.bench.packs import pack_of
from tools.bench.wordings import Verdict, run_over
from tools.forgetting import examples_forgetting

RANKING_PULL, CONFIDENCE_PULL = 40.0, 1.0
FOLDS = 8
WORDINGS_SHARE = 0.25


def examples(folder: Path) -> list[dict[str, Any]]:
    """The questions of a pack: each with its candidates' features, and which of them give the right table."""
    logging.disable(logging.CRITICAL)
    score, opened, reader, day, gold = pack_of(folder)
    readings: dict[str, Reading | None] = {}
    found = []
    for question in score.lines(folder / "questions.jsonl"):
        earlier = readings.get(question.get("after", ""))
        understanding = chosen(reader.read(question["ask"], day, earlier), opened.answerer)
        readings[question["id"]] = understanding.readings[0] if understanding.readings else None
        expected = gold[question["id"]]
        tokens = reader.mended(tokenise(question["ask"]))[0]
        candidates = []
        plans = set()
        for candidate in reader.candidates(tokens, day, earlier)[: 2 * CONSIDERED]:
            try:
                plan = reader.plan_of(candidate.ask, day)
                schema_of(plan, opened.catalogue)
                if plan in plans:
                    continue
                plans.add(plan)
                columns, rows = opened.answerer.rows(plan)
            except (CannotPlan, PlanError, CannotAnswer, RecursionError):
                continue
            plain = [[json_value(v) for v in row] for row in rows[:2000]]
            right = len(rows) <= 2000 and any(
                score.table_matches(a, columns, plain) for a in expected.get("accept", [])
            )
            candidates.append(
                {
                    "features": dict(candidate.features),
                    "right": right,
                    "empty": says_nothing(tuple(rows[:2])),
                }
            )
        told = sure_signs(understanding, opened, expected, score)
        found.append({"pack": folder.name, "candidates": candidates, "told": told})
    return found


def sure_signs(
    understanding: Understanding, opened: Opened, expected: dict[str, Any], score: Any
) -> tuple[dict[str, float], bool] | None:
    """What tells how sure the reading is that would be answered, and whether it is right."""
    if not understanding.readings or understanding.status == "told":
        return None
    first = understanding.readings[0]
    try:
        columns, rows = opened.answerer.rows(first.plan)
    except CannotAnswer:
        return None
    plain = [[json_value(v) for v in row] for row in rows[:2000]]
    right = len(rows) <= 2000 and any(score.table_matches(a, columns, plain) for a in expected.get("accept", []))
    return signs(first.evidence), right


def fit_ranking(data: list[dict[str, Any]], names: list[str]) -> np.ndarray:
    """Weights by which the right candidates stand out, near one where the data do not say."""
    place = {n: i for i, n in enumerate(names)}
    sets = []
    for question in data:
        good = np.array([c["right"] for c in question["candidates"]])
        if not good.any() or good.all():
            continue
        matrix = np.zeros((len(good), len(names)))
        for row, candidate in enumerate(question["candidates"]):
            for name, value in candidate["features"].items():
                matrix[row, place[name]] = value
        sets.append((matrix, good))

    def loss(weights: np.ndarray) -> tuple[float, np.ndarray]:
        total, slope = RANKING_PULL * float(((weights - 1) ** 2).sum()), 2 * RANKING_PULL * (weights - 1)
        for matrix, good in sets:
            scores = 4.0 * matrix @ weights
            scores -= scores.max()
            odds = np.exp(scores)
            every, some = odds.sum(), odds[good].sum()
            total -= float(np.log(some / every))
            slope -= 4.0 * (matrix[good].T @ (odds[good] / some) - matrix.T @ (odds / every))
        return total, slope

    return np.asarray(minimize(loss, np.ones(len(names)), jac=True, method="L-BFGS-B", options={"maxiter": 200}).x)


def first_of(question: dict[str, Any], weights: dict[str, float]) -> dict[str, Any] | None:
    """The candidate that would be answered."""
    scored = sorted(
        (
            (sum(weights.get(n, 1.0) * v for n, v in c["features"].items()), i)
            for i, c in enumerate(question["candidates"])
        ),
        key=lambda pair: (-pair[0], pair[1]),
    )
    if not scored:
        return None
    best = next((s for s in scored if not question["candidates"][s[1]]["empty"]), scored[0])
    found: dict[str, Any] = question["candidates"][best[1]]
    return found


def signs_of(data: list[dict[str, Any]]) -> tuple[list[dict[str, float]], np.ndarray]:
    told = [q["told"] for q in data if q["told"] is not None]
    return [signs_ for signs_, _ in told], np.array([float(right) for _, right in told])


def fit_confidence(told: list[dict[str, float]], right: np.ndarray) -> dict[str, float]:
    """A logistic model of being right."""
    names = sorted({n for t in told for n in t})
    matrix = np.array([[t.get(n, 0.0) for n in names] for t in told])
    pull = np.array([0.0 if n == "one" else CONFIDENCE_PULL for n in names])

    def loss(weights: np.ndarray) -> tuple[float, np.ndarray]:
        odds = matrix @ weights
        chance = 1 / (1 + np.exp(-odds))
        total = float(np.logaddexp(0, odds).sum() - (right * odds).sum() + (pull * weights**2).sum())
        return total, matrix.T @ (chance - right) + 2 * pull * weights

    fitted = minimize(loss, np.zeros(len(names)), jac=True, method="L-BFGS-B", options={"maxiter": 500}).x
    return {n: round(float(w), 4) for n, w in zip(names, fitted, strict=True)}


def wordings(bank: Path, folders: list[Path]) -> list[Verdict]:
    """The verdicts on a bank's wordings over several tables."""
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        results = pool.map(run_over, [bank] * len(folders), folders, [WORDINGS_SHARE] * len(folders))
        return [v for found in results for v in found]


def held_out(
    data: list[dict[str, Any]],
    forgotten: list[dict[str, Any]],
    names: list[str],
    others: tuple[list[dict[str, float]], np.ndarray],
) -> tuple[int, np.ndarray, np.ndarray, np.ndarray]:
    """Packs left out fold by fold: how many first readings are right, how sure each is, whether it is right and read whole."""
    packs = sorted({q["pack"] for q in data})
    first_right, sure, true, whole = 0, [], [], []
    for fold in range(FOLDS):
        out = set(packs[fold::FOLDS])
        train, test = [q for q in data if q["pack"] not in out], [q for q in data if q["pack"] in out]
        worse = [q for q in forgotten if q["pack"] not in out]
        weights = dict(zip(names, fit_ranking(train, names), strict=True))
        first_right += sum(bool((f := first_of(q, weights)) and f["right"]) for q in test)
        told, right = signs_of([*train, *worse])
        model = fit_confidence([*told, *others[0]], np.concatenate([right, others[1]]))
        told, right = signs_of(test)
        for t, r in zip(told, right, strict=True):
            total = sum(model.get(n, 0.0) * v for n, v in t.items())
            sure.append(1 / (1 + np.exp(-total)))
            true.append(r)
            whole.append(t["unread"] == 0)
    return first_right, np.array(sure), np.array(true), np.array(whole)


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("packs", nargs="+", type=Path)
    parser.add_argument("--out", type=Path, required=True)
    parser.add_argument("--silent-at-most", type=float, default=0.01, help="share of answers wrong without a doubt")
    parser.add_argument("--wordings", type=Path, help="a bank of wordings, from which being sure is learned as well")
    parser.add_argument("--over", nargs="*", type=Path, default=[], help="the folders whose tables fill the wordings")
    parser.add_argument(
        "--forgetting", nargs="*", type=float, default=[0.2, 0.3], help="shares of words to read the packs without"
    )
    parser.add_argument("--ask-below", type=float, default=0.33)
    parser.add_argument("--decline-below", type=float, default=0.15)
    options = parser.parse_args()
    folders = [p.resolve() for p in options.packs if (p / "gold.jsonl").exists()]
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        data = [q for result in pool.map(examples, folders) for q in result]
    forgotten = examples_forgetting(folders, options.forgetting)
    names = sorted({n for q in data for c in q["candidates"] for n in c["features"]})
    packs = {q["pack"] for q in data}
    plain = sum(bool((f := first_of(q, {})) and f["right"]) for q in data)
    print(f"{len(data)} questions of {len(packs)} packs; first right with every weight one: {plain}")
    found = sum(bool(q["told"] and q["told"][1]) for q in forgotten)
    print(f"with words forgotten: {found} of {len(forgotten)} right")
    others: tuple[list[dict[str, float]], np.ndarray] = ([], np.zeros(0))
    if options.wordings is not None:
        verdicts = [v for v in wordings(options.wordings, [p.resolve() for p in options.over]) if v.signs]
        others = [dict(v.signs) for v in verdicts], np.array([float(v.right) for v in verdicts])
        print(f"{len(verdicts)} wordings, {others[1].mean():.0%} of the first readings right")
    held_right, sure, true, whole = held_out(data, forgotten, names, others)
    print(f"packs left out in {FOLDS} folds: first right {held_right}")
    edges = (0, 0.2, 0.4, 0.6, 0.7, 0.8, 0.85, 0.9, 0.95, 1.01)
    for low, high in itertools.pairwise(edges):
        here = (sure >= low) & (sure < high)
        if here.any():
            print(f"confidence {low:.2f} to {min(high, 1):.2f}: {here.sum()} questions, right {true[here].mean():.0%}")
    chosen_limit = 0.99
    for limit in np.arange(0.5, 0.99, 0.01)[::-1]:
        told_sure = (sure >= limit) & whole
        silent = (told_sure & (true == 0)).sum() / len(data)
        if silent > options.silent_at_most:
            break
        chosen_limit = round(float(limit), 2)
        doubted = (~told_sure & (true == 1)).sum() / max(true.sum(), 1)
        print(
            f"doubt below {limit:.2f}: wrong without a doubt {silent:.1%}, right ones doubted {doubted:.0%}, "
            f"of those told as sure right {true[told_sure].mean():.1%}"
        )
    ranking = {n: round(float(w), 3) for n, w in zip(names, fit_ranking(data, names), strict=True)}
    told, right = signs_of([*data, *forgotten])
    model = fit_confidence([*told, *others[0]], np.concatenate([right, others[1]]))
    about = f"{len(data)} questions of {len(packs)} packs, {held_right} right with their packs left out; "
    about += f"{len(forgotten)} more read with words forgotten; {len(others[0])} wordings"
    options.out.write_text(
        json.dumps(
            {
                "made_from": about,
                "doubt_below": chosen_limit,
                "ask_below": options.ask_below,
                "decline_below": options.decline_below,
                "ranking": ranking,
                "confidence": model,
            },
            indent=1,
        )
        + "\n"
    )


if __name__ == "__main__":
    main()
