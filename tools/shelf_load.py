"""Many workspaces at once: how long a first question takes in each, and how much memory all of it holds.

Run it against a server that was started with a data folder of its own: python -m tools.shelf_load --port 8765
"""

from __future__ import annotations

import argparse
import random
import statistics
import time
from pathlib import Path

import httpx

QUESTIONS = (
    "visits by clinic",
    "income by month",
    "average wait by species",
    "how many owners",
    "no shows by clinic in 2025",
)
BUSY, SECONDS = 10, 60.0


def memory_of(port: int) -> float:
    """Gigabytes that the server on a port and its children hold, what they share counted once."""
    parents: dict[int, int] = {}
    roots: set[int] = set()
    for process in Path("/proc").iterdir():
        if not process.name.isdecimal():
            continue
        try:
            parents[int(process.name)] = int((process / "stat").read_text().rpartition(")")[2].split()[1])
            if f"--port\0{port}\0" in (process / "cmdline").read_text():
                roots.add(int(process.name))
        except OSError:
            continue
    held = set(roots)
    while more := {child for child, parent in parents.items() if parent in held} - held:
        held |= more
    total = 0
    for number in held:
        try:
            lines = Path(f"/proc/{number}/smaps_rollup").read_text().splitlines()
        except OSError:
            continue
        total += sum(int(line.split()[1]) for line in lines if line.startswith("Pss:"))
    return total / 1e6


def main() -> None:
    """Copy the first workspace, ask in each, then in ten of them by turns."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--port", type=int, default=8765)
    options.add_argument("--workspaces", type=int, default=200)
    told = options.parse_args()
    chance, port = random.Random(1), int(told.port)
    with httpx.Client(base_url=f"http://127.0.0.1:{port}/api/v1/workspaces", timeout=120) as client:
        numbers = [1]
        while len(numbers) < told.workspaces:
            numbers.append(int(client.post("1/copy", json={"title": f"Copy {len(numbers)}"}).json()["id"]))

        def ask(number: int, question: str) -> float:
            begun = time.perf_counter()
            answer = client.post(f"{number}/questions", json={"question": question})
            assert answer.json()["status"] == "answered", answer.text
            return time.perf_counter() - begun

        first = sorted(ask(number, QUESTIONS[0]) for number in numbers)
        slow = first[int(0.95 * len(first))]
        print(
            f"first question in each: median {statistics.median(first):.2f} s, 95th {slow:.2f} s; {memory_of(port):.2f} GB"
        )
        taken, begun = [], time.monotonic()
        while time.monotonic() - begun < SECONDS:
            taken.append(ask(chance.choice(numbers[:BUSY]), chance.choice(QUESTIONS)))
        print(
            f"ten by turns: {len(taken) / SECONDS:.0f} a second, median {1000 * statistics.median(taken):.0f} ms; {memory_of(port):.2f} GB"
        )


if __name__ == "__main__":
    main()
