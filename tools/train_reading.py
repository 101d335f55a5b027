"""Trains what the features of a reading weigh, and how sure it is, from question packs.

    PYTHONPATH=src python tools/train_reading.py PACK_DIR ... --out src/gumption/core/reading/weights.json

Every candidate of every question is worked, and those whose table is right by the pack's scorer are the good ones.
A log-linear model over the candidates' features is fitted by maximum likelihood with L2 towards one (a feature
weighs what it says), then a logistic model of "the first one is right" over its signs, with L2 towards nought.
Both are cross-validated by pack; the same data give the same weights.
"""

from __future__ import annotations

import argparse
import json
import logging
import os
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

import numpy as np
from scipy.optimize import minimize

from gumption.cli.bench_packs import pack_of
from gumption.cli.bench_wordings import Verdict, run_over
from gumption.core.plan.typing import PlanError, schema_of
from gumption.core.reading.assemble import word_weight
from gumption.core.reading.flow import CannotPlan
from gumption.core.reading.judgement import signs
from gumption.core.reading.lowering import plan_of
from gumption.core.reading.read import CONSIDERED, Reading
from gumption.core.reading.tokens import tokenise
from gumption.engines.answering import json_value
from gumption.engines.choosing import chosen, says_nothing
from gumption.engines.errors import CannotAnswer

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
                plan = plan_of(candidate.ask, opened.catalogue, day)
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
            unread = sum(word_weight(tokens[p]) == 1.0 for p in candidate.unread)
            candidates.append(
                {
                    "features": dict(candidate.features),
                    "right": right,
                    "empty": says_nothing(tuple(rows[:2])),
                    "unread": unread,
                    "follows": candidate.follows,
                }
            )
        words = sum(word_weight(t) == 1.0 for t in tokens)
        found.append({"pack": folder.name, "words": words, "candidates": candidates})
    return found


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


def first_of(question: dict[str, Any], weights: dict[str, float]) -> tuple[dict[str, Any], float | None] | None:
    """The candidate that would be answered, and how far behind the next one is."""
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
    rest = [s for s in scored if s is not best]
    return question["candidates"][best[1]], best[0] - rest[0][0] if rest else None


def signs_of(data: list[dict[str, Any]], weights: dict[str, float]) -> tuple[list[dict[str, float]], np.ndarray]:
    told, right = [], []
    for question in data:
        found = first_of(question, weights)
        if found is not None:
            first, gap = found
            told.append(
                signs(
                    first["features"].items(), question["words"], first["unread"], gap, first["follows"], first["empty"]
                )
            )
            right.append(first["right"])
    return told, np.array(right, float)


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


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("packs", nargs="+", type=Path)
    parser.add_argument("--out", type=Path, required=True)
    parser.add_argument("--doubt-below", type=float, default=0.7)
    parser.add_argument("--wordings", type=Path, help="a bank of wordings, from which being sure is learned as well")
    parser.add_argument("--over", nargs="*", type=Path, default=[], help="the folders whose tables fill the wordings")
    parser.add_argument("--decline-below", type=float, default=0.2)
    options = parser.parse_args()
    folders = [p.resolve() for p in options.packs if (p / "gold.jsonl").exists()]
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        data = [q for result in pool.map(examples, folders) for q in result]
    names = sorted({n for q in data for c in q["candidates"] for n in c["features"]})
    packs = sorted({q["pack"] for q in data})
    plain = sum(bool((f := first_of(q, {})) and f[0]["right"]) for q in data)
    print(f"{len(data)} questions of {len(packs)} packs; first right with every weight one: {plain}")
    held_right, sure, true = 0, [], []
    for fold in range(FOLDS):
        out = set(packs[fold::FOLDS])
        train, test = [q for q in data if q["pack"] not in out], [q for q in data if q["pack"] in out]
        weights = dict(zip(names, fit_ranking(train, names), strict=True))
        held_right += sum(bool((f := first_of(q, weights)) and f[0]["right"]) for q in test)
        model = fit_confidence(*signs_of(train, weights))
        told, right = signs_of(test, weights)
        for t, r in zip(told, right, strict=True):
            total = sum(model.get(n, 0.0) * v for n, v in t.items())
            sure.append(1 / (1 + np.exp(-total)))
            true.append(r)
    print(f"packs left out in {FOLDS} folds: first right {held_right}")
    sure_, true_ = np.array(sure), np.array(true)
    for low in (0, 0.2, 0.4, 0.6, 0.7, 0.8, 0.9):
        high = {0: 0.2, 0.2: 0.4, 0.4: 0.6, 0.6: 0.7, 0.7: 0.8, 0.8: 0.9, 0.9: 1.01}[low]
        here = (sure_ >= low) & (sure_ < high)
        if here.any():
            print(f"confidence {low:.1f} to {min(high, 1):.1f}: {here.sum()} questions, right {true_[here].mean():.0%}")
    for limit in (0.4, 0.5, 0.6, 0.7, 0.8):
        silent = ((sure_ >= limit) & (true_ == 0)).sum() / len(data)
        doubted = ((sure_ < limit) & (true_ == 1)).sum() / max(true_.sum(), 1)
        print(f"doubt below {limit:.1f}: wrong without a doubt {silent:.1%}, right ones doubted {doubted:.0%}")
    ranking = {n: round(float(w), 3) for n, w in zip(names, fit_ranking(data, names), strict=True)}
    told, right = signs_of(data, ranking)
    if options.wordings is not None:
        verdicts = [v for v in wordings(options.wordings, [p.resolve() for p in options.over]) if v.signs]
        print(
            f"{len(verdicts)} wordings, {sum(v.right for v in verdicts) / len(verdicts):.0%} of the first readings right"
        )
        told += [dict(v.signs) for v in verdicts]
        right = np.concatenate([right, [float(v.right) for v in verdicts]])
    model = fit_confidence(told, right)
    about = f"{len(data)} questions of {len(packs)} packs; {held_right} right with their packs left out"
    options.out.write_text(
        json.dumps(
            {
                "made_from": about,
                "doubt_below": options.doubt_below,
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
