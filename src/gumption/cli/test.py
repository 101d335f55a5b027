"""`gumption test`: the linters, the type checks, and every unittest, ending in one line of counts."""

from __future__ import annotations

import os
import subprocess
import sys
import unittest
from fnmatch import fnmatch
from pathlib import Path

HOME = Path(os.environ.get("GUMPTION_HOME", Path(__file__).resolve().parents[3]))

LONG_STRINGS = 20_000
LONG_PLANS = 5_000
LONG_MOMENTS = 1_000
LONG_AT_ONCE = 500
LONG_REQUESTS = 2_000

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
    found = unittest.defaultTestLoader.discover(str(HOME / "tests"), top_level_dir=str(HOME))
    suite = unittest.TestSuite(t for t in _cases(found) if only is None or fnmatch(t.id(), f"*{only}*"))
    result = unittest.TextTestRunner(stream=sys.stdout, verbosity=2).run(suite)
    bad = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    skipped = len(result.skipped)
    for case, why in result.skipped:
        print(f"skipped {case.id()}: {why}")
    failed += bad
    passed += max(result.testsRun - bad - skipped, 0)
    print(f"{passed} passed, {failed} failed, {skipped} skipped")
    return 0 if failed == 0 and passed else 1


def _cases(suite: unittest.TestSuite) -> list[unittest.TestCase]:
    found: list[unittest.TestCase] = []
    for item in suite:
        if isinstance(item, unittest.TestSuite):
            found.extend(_cases(item))
        else:
            found.append(item)
    return found
