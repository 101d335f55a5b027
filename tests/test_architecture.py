"""Which part may know which, and that generated files are what they are generated from."""

from __future__ import annotations

import ast
import unittest

from gumption.server.openapi import description
from tests.support import HOME

SOURCE = HOME / "src" / "gumption"
ALLOWED = {
    "core": {"core"},
    "intake": {"core", "intake"},
    "feed": {"feed"},
    "engines": {"core", "intake", "engines"},
    "store": {"core", "store"},
    "server": {"core", "intake", "engines", "feed", "store", "server"},
    "cli": {"core", "intake", "engines", "feed", "store", "server", "cli"},
}
DRIVERS = {
    "duckdb",
    "pymysql",
    "fastapi",
    "uvicorn",
    "pyarrow",
    "pandas",
    "selenium",
    "sqlite3",
    "socket",
    "subprocess",
}


def imports(source: str) -> set[str]:
    found: set[str] = set()
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Import):
            found.update(alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
    return found


class Architecture(unittest.TestCase):
    def test_imports_run_one_way(self) -> None:
        for layer, allowed in ALLOWED.items():
            for path in (SOURCE / layer).rglob("*.py"):
                names = imports(path.read_text())
                layers = {name.split(".")[1] for name in names if name.startswith("gumption.")}
                self.assertLessEqual(layers, allowed, path)
                self.assertFalse({"tools", "tests"} & {name.split(".")[0] for name in names}, path)

    def test_no_name_is_given_twice(self) -> None:
        """A second value for a name of a module, or a method of a class, silently takes the place of the first."""
        for path in sorted(SOURCE.rglob("*.py")):
            tree = ast.parse(path.read_text(encoding="utf-8"))
            for scope in (tree, *(n for n in tree.body if isinstance(n, ast.ClassDef))):
                names = [
                    target.id
                    for node in scope.body
                    if isinstance(node, ast.Assign)
                    for target in node.targets
                    if isinstance(target, ast.Name)
                ]
                twice = {name for name in names if names.count(name) > 1}
                self.assertEqual(twice, set(), path)

    def test_the_core_knows_no_driver_and_no_clock(self) -> None:
        for path in (SOURCE / "core").rglob("*.py"):
            text = path.read_text()
            self.assertFalse(DRIVERS & {name.split(".")[0] for name in imports(text)}, path)
            for call in ("date.today(", "datetime.now(", "time.time("):
                self.assertNotIn(call, text, path)

    def test_the_front_ends_types_are_of_this_api(self) -> None:
        committed = (HOME / "web" / "openapi.json").read_text(encoding="utf-8")
        self.assertEqual(
            committed, description(), "run: python -m gumption.server.openapi > web/openapi.json, then npm run types"
        )
