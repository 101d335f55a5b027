"""`gumption test`: the linters, the type checks, and every unittest, ending in one line of counts."""

from __future__ import annotations

import multiprocessing
import os
import subprocess
import sys
import tempfile
import unittest
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from fnmatch import fnmatch
from pathlib import Path
from typing import NamedTuple, TextIO

HOME = Path(os.environ.get("GUMPTION_HOME", Path(__file__).resolve().parents[3]))

LONG_STRINGS = 20_000
LONG_PLANS = 5_000
LONG_MOMENTS = 1_000
LONG_AT_ONCE = 500
LONG_REQUESTS = 2_000
LONG_SERIES = 200
LONG_LOOKS = 50

UNSERVED = frozenset(["core", "intake", "engines", "tools"])
"""Folders of tests that start no server."""

GATES: tuple[tuple[str, Path, tuple[str, ...]], ...] = (
    ("ruff check", HOME, (sys.executable, "-m", "ruff", "check", "src", "tests", "demo", "tools")),
    ("ruff format", HOME, (sys.executable, "-m", "ruff", "format", "--check", "-q", "src", "tests", "demo", "tools")),
    ("mypy --strict", HOME, (sys.executable, "-m", "mypy")),
    ("TypeScript types are the API's", HOME / "web", ("npm", "run", "-s", "types:check")),
    ("TypeScript check", HOME / "web", ("npm", "run", "-s", "check")),
    ("ESLint", HOME / "web", ("npm", "run", "-s", "lint")),
    ("Prettier", HOME / "web", ("npm", "run", "-s", "format:check")),
    ("Vitest", HOME / "web", ("npm", "run", "-s", "unit")),
)


def run_tests(only: str | None, *, long: bool = False) -> int:
    """Run everything, or the test modules whose names match; 0 where all passed."""
    if long:
        os.environ |= {
            "GUMPTION_RANDOM_PLANS": str(LONG_PLANS),
            "GUMPTION_ODD_STRINGS": str(LONG_STRINGS),
            "GUMPTION_MOMENTS": str(LONG_MOMENTS),
            "GUMPTION_AT_ONCE": str(LONG_AT_ONCE),
            "GUMPTION_ODD_REQUESTS": str(LONG_REQUESTS),
            "GUMPTION_SERIES": str(LONG_SERIES),
            "GUMPTION_LOOKS": str(LONG_LOOKS),
            "GUMPTION_TRADES_STEP": "1",
        }
    passed = failed = 0
    if only is None:
        for name, folder, command in GATES:
            done = subprocess.run(command, cwd=folder, capture_output=True, text=True, check=False)
            passed, failed = passed + (done.returncode == 0), failed + (done.returncode != 0)
            print(f"{'ok    ' if done.returncode == 0 else 'FAILED'} {name}", flush=True)
            if done.returncode:
                print(done.stdout + done.stderr, flush=True)
    sys.path.insert(0, str(HOME))
    if only is not None:
        counts = _run(lambda case: fnmatch(case.id(), f"*{only}*"), sys.stdout)
    else:
        # What serves and what does not, side by side: each waits a good deal, on its own.
        with (
            tempfile.NamedTemporaryFile("r", encoding="utf-8") as told,
            ProcessPoolExecutor(1, mp_context=multiprocessing.get_context("fork")) as beside,
        ):
            unserved = beside.submit(_run_unserved, told.name)
            served = _run(lambda case: not _is_unserved(case), sys.stdout)
            other = unserved.result()
            print(told.read(), flush=True)
        counts = _Counts(*(one + two for one, two in zip(served, other, strict=True)))
    passed, failed = passed + counts.passed, failed + counts.failed
    print(f"{passed} passed, {failed} failed, {counts.skipped} skipped")
    return 0 if failed == 0 and passed else 1


class _Counts(NamedTuple):
    passed: int
    failed: int
    skipped: int


def _is_unserved(case: unittest.TestCase) -> bool:
    return case.id().split(".")[1] in UNSERVED


def _run_unserved(told: str) -> _Counts:
    """The tests that need no server, told in a file."""
    with Path(told).open("w", encoding="utf-8") as stream:
        return _run(_is_unserved, stream)


def _run(wanted: Callable[[unittest.TestCase], bool], stream: TextIO) -> _Counts:
    found = unittest.defaultTestLoader.discover(str(HOME / "tests"), top_level_dir=str(HOME))
    suite = unittest.TestSuite(t for t in _cases(found) if wanted(t))
    result = unittest.TextTestRunner(stream=stream, verbosity=2).run(suite)
    bad = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    for case, why in result.skipped:
        print(f"skipped {case.id()}: {why}", file=stream)
    return _Counts(max(result.testsRun - bad - len(result.skipped), 0), bad, len(result.skipped))


def _cases(suite: unittest.TestSuite) -> list[unittest.TestCase]:
    found: list[unittest.TestCase] = []
    for item in suite:
        if isinstance(item, unittest.TestSuite):
            found.extend(_cases(item))
        else:
            found.append(item)
    return found
