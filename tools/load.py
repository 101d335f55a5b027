"""Many people at once: `tools/load.py URL --people 200 --seconds 30 [--pause 5] [--fresh]`.

Each asks questions of the demo one after the other, and the answers a second, their times and the errors are told.
Questions are different ones, some hundreds; with --fresh none is asked twice, so that nothing kept helps.
"""

from __future__ import annotations

import argparse
import asyncio
import itertools
import random
import statistics
import time
from collections.abc import Iterator

import httpx

MEASURES = (
    "visits", "total fees", "average fee", "highest fee", "number of animals", "average weight", "lowest fee",
    "number of owners",
)  # fmt: skip
GROUPS = ("clinic", "vet", "species", "month", "reason", "quarter", "weekday", "owner town")
TIMES = (
    "", " in 2025", " in 2026", " this year", " last year", " in March 2026", " since May 2026", " last month",
    " in Q1 2026", " in the last 90 days", " before 2026", " between January and June 2026",
)  # fmt: skip


def questions(seed: int) -> list[str]:
    """Different questions in an order of the seed's."""
    found = [f"{m} by {g}{t}" for m, g, t in itertools.product(MEASURES, GROUPS, TIMES)]
    random.Random(seed).shuffle(found)
    return found


def fresh(seed: int) -> Iterator[str]:
    """Questions without end, none of which comes twice."""
    chance = random.Random(seed)
    for number in itertools.count(1):
        yield f"{chance.choice(MEASURES)} by {chance.choice(GROUPS)} for fees over {number / 100:.2f}{chance.choice(TIMES)}"


async def person(url: str, asked: Iterator[str], until: float, pause: float, took: list[float], bad: list[str]) -> None:
    """Ask until the time is over, over a connection of one's own."""
    if pause:
        await asyncio.sleep(random.random() * pause)
    async with httpx.AsyncClient(base_url=url, timeout=120, verify=False) as client:
        while time.monotonic() < until:
            start = time.monotonic()
            try:
                answer = await client.post("/api/v1/workspaces/1/questions", json={"question": next(asked)})
                if answer.status_code != 200:
                    bad.append(f"{answer.status_code} {answer.text[:200]}")
            except httpx.HTTPError as error:
                bad.append(repr(error))
            took.append(time.monotonic() - start)
            await asyncio.sleep(pause)


async def short(client: httpx.AsyncClient, until: float, took: list[float]) -> None:
    """Short requests beside: the page and a gloss."""
    while time.monotonic() < until:
        start = time.monotonic()
        await client.get("/")
        took.append(time.monotonic() - start)
        start = time.monotonic()
        await client.post("/api/v1/workspaces/1/gloss", json={"question": "visits by clinic"})
        took.append(time.monotonic() - start)
        await asyncio.sleep(0.2)


async def load(url: str, people: int, seconds: float, pause: float, never_twice: bool) -> None:
    """Run the load and print its figures."""
    took: list[float] = []
    beside: list[float] = []
    bad: list[str] = []
    asked = fresh(1) if never_twice else itertools.cycle(questions(1))
    async with httpx.AsyncClient(base_url=url, timeout=120) as client:
        start = time.monotonic()
        until = start + seconds
        await asyncio.gather(
            *(person(url, asked, until, pause, took, bad) for _ in range(people)), short(client, until, beside)
        )
        whole = time.monotonic() - start
    cuts = statistics.quantiles(took, n=100)
    print(f"{len(took)} answers in {whole:.1f} s: {len(took) / whole:.1f} a second; {len(bad)} errors")
    print(f"seconds: median {cuts[49]:.2f}, 95th percentile {cuts[94]:.2f}, longest {max(took):.2f}")
    print(
        f"short requests beside: median {statistics.median(beside) * 1000:.0f} ms, longest {max(beside) * 1000:.0f} ms"
    )
    for line in sorted(set(bad))[:5]:
        print("error:", line)


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("url")
    parser.add_argument("--people", type=int, default=200)
    parser.add_argument("--seconds", type=float, default=30)
    parser.add_argument("--pause", type=float, default=0)
    parser.add_argument("--fresh", action="store_true")
    told = parser.parse_args()
    asyncio.run(load(told.url, told.people, told.seconds, told.pause, told.fresh))
