"""Reads question packs as somebody would who knows fewer words: what a stranger's file does to the reader, made here.

The words, states and rules of the reader were learned from packs that are at hand, so that how sure it is of those
says too much of what nobody has seen. Here a share of each is forgotten before a pack is read.
"""

from __future__ import annotations

import functools
import os
import pickle
import random
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

RULES, FIRST_PHRASES, PHRASES = 0.3, 0.15, 0.7
"""How much less than words the rules, the first three phrases of an operation and its other phrases are forgotten."""


def examples_forgetting(folders: list[Path], shares: list[float]) -> list[dict[str, Any]]:
    """The questions of packs, read once for each share of what is forgotten; the same shares forget the same."""
    tasks = [(folder, share, round_) for round_, share in enumerate(shares) for folder in folders]
    with ThreadPoolExecutor(os.cpu_count()) as pool:
        return [q for found in pool.map(_examples, tasks) for q in found]


def _examples(task: tuple[Path, float, int]) -> list[dict[str, Any]]:
    """In a process of its own: what is forgotten must be gone before the grammar is built."""
    command = [sys.executable, "-m", "tools.forgetting", *map(str, task)]
    run = subprocess.run(command, stdout=subprocess.PIPE, check=True)
    found: list[dict[str, Any]] = pickle.loads(run.stdout)
    return found


def _forget(share: float, chance: random.Random) -> None:
    from gumption.core.reading import grammar, lexicon

    known = lexicon._lines
    build = grammar.Grammar.__post_init__

    def kept(parts: list[str], odds: float) -> list[str]:
        return [part for part in parts if chance.random() >= odds]

    def line_of(name: str, line: str) -> str:
        match name:
            case "concepts.txt":
                words = kept(line.split(), share)
                return " ".join(words) if len(words) > 1 else ""
            case "adjectives.txt" | "verbs.txt":
                return line if chance.random() >= share else ""
            case "states.txt" if line.startswith("@"):
                return line  # a list that other lines go by
            case "states.txt":
                said, _, patterns = line.partition(" = ")
                words, told = kept(said.split(" | "), share), kept(patterns.split(" / "), share)
                return f"{' | '.join(words)} = {' / '.join(told)}" if words and told else ""
            case "phrases.txt":
                head, _, phrases = line.partition(": ")
                first, more = phrases.split(" | ")[:3], phrases.split(" | ")[3:]
                words = kept(first, share * FIRST_PHRASES) + kept(more, share * PHRASES)
                return f"{head}: {' | '.join(words)}" if words else ""
            case _:
                return line

    @functools.wraps(known)
    def lines(name: str) -> list[str]:
        return [line for whole in known(name) if (line := line_of(name, whole))]

    def built(self: grammar.Grammar) -> None:
        self.rules = [rule for rule in self.rules if chance.random() >= share * RULES]
        build(self)

    lexicon._lines = lines
    grammar.Grammar.__post_init__ = built  # type: ignore[method-assign]


def main() -> None:
    folder, share, round_ = Path(sys.argv[1]), float(sys.argv[2]), sys.argv[3]
    _forget(share, random.Random(f"{round_}/{folder.name}"))
    from tools.train_reading import examples

    found = examples(folder)
    sys.stdout.buffer.write(pickle.dumps(found))


if __name__ == "__main__":
    main()
