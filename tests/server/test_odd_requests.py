"""Whatever is sent to any route is answered, or refused in words: nothing reaches the handler of faults of ours."""

from __future__ import annotations

import os
import random
import unittest
from typing import Any

import httpx

from gumption.engines.limits import Limits
from gumption.intake.sources import Allowed
from gumption.server.schemas import Problem
from tests.server.opened import client_of, shelf_with

REQUESTS = int(os.environ.get("GUMPTION_ODD_REQUESTS", "400"))
"""Requests over all routes together; more in the long run, which sets it."""
SALES = "sale_id,shop,day,amount\n" + "".join(f"{i},S{i % 3},2025-{1 + i % 12:02d}-05,{i}.50\n" for i in range(60))
WORDS = [
    *(
        "",
        " ",
        "sales",
        "shop",
        "amount",
        "S1",
        "how many sales by shop",
        "total amount in 2025",
        "only S1",
        "\x00",
        "null",
    ),
    *(
        "a" * 3_000,
        "' OR 1=1 --",
        "../../etc/passwd",
        "%00",
        "数据",
        "🐶" * 50,
        "\u202e",
        "1e999",
        "NaN",
        "-0",
        "{}",
        "[[",
        "<b>",
    ),
    *(
        "2025-01-01",
        "0001-01-01",
        "9999-12-31",
        "SELECT 1",
        "SELECT * FROM sales",
        "SELECT repeat('x', 100000)",
        "sum(amount)",
    ),
]
NUMBERS = [0, 1, -1, 2, 7, 10**6, 2**31 - 1, 2**31, 2**63, 2**64, -(2**63), 10**30, 0.5, 1e308, True, None]
SKIPPED = {
    ("delete", "/api/v1/workspaces/{workspace}"),
    ("delete", "/api/v1/workspaces/{workspace}/contents"),
    ("post", "/api/v1/workspaces/{workspace}/fetched"),
    ("post", "/api/v1/workspaces/demo"),
}
"""What would leave nothing to ask, what leads elsewhere, and what takes its time."""


class OddRequests(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        allowed = Allowed(most_bytes=10_000)
        shelf = shelf_with(cls, {"sales.csv": SALES, "more.csv": SALES}, Limits(seconds=5), allowed)
        cls.client = client_of(cls, shelf)
        cls.described = cls.client.get("/api/v1/openapi.json").json()

    def test_every_route_with_odd_values(self) -> None:
        self.chance = random.Random(5)
        routes = [
            (method, path, told)
            for path, methods in self.described["paths"].items()
            for method, told in methods.items()
            if (method, path) not in SKIPPED
        ]
        seen: set[int] = set()
        for turn in range(REQUESTS):
            method, path, told = routes[turn % len(routes)]
            given: dict[str, Any] = {"params": {}, "headers": {}}
            for parameter in told.get("parameters", []):
                value = self.odd(parameter.get("schema", {}), 0)
                if parameter["in"] == "path":
                    text = str(value).replace("/", "_").replace("?", "_").replace("#", "_").replace("%", "_") or "_"
                    if parameter["name"] == "workspace" and self.chance.random() < 0.9:
                        text = "1"
                    path = path.replace("{" + parameter["name"] + "}", text[:500])
                elif self.chance.random() < 0.7:
                    given["params"][parameter["name"]] = str(value)[:500]
            body = told.get("requestBody", {}).get("content", {})
            if "application/json" in body:
                given["json"] = self.odd(body["application/json"]["schema"], 0)
            elif "multipart/form-data" in body:
                given["files"] = {"file": (self.chance.choice(WORDS) or "x", self.chance.choice(WORDS).encode())}
            with self.subTest(method=method, path=path, given=given):
                try:
                    answer = self.client.request(method.upper(), path, **given)
                except (ValueError, UnicodeError, httpx.InvalidURL):
                    # What no client can send comes to no server.
                    continue
                seen.add(answer.status_code)
                self.assertLess(answer.status_code, 500, answer.text)
                if answer.status_code >= 400:
                    self.assertEqual(set(answer.json()), set(Problem.model_fields))
        self.assertLessEqual({200, 404, 422}, seen, "what fits and what does not were both met")

    def odd(self, schema: dict[str, Any], depth: int) -> Any:
        """A value that mostly has the shape asked for, with what is odd inside, and sometimes another shape."""
        chance = self.chance
        if "$ref" in schema:
            schema = self.described["components"]["schemas"][schema["$ref"].rpartition("/")[2]]
        if depth > 6 or chance.random() < 0.06:
            return chance.choice([*WORDS, *NUMBERS, [], {}, [[]], {"a": 1}])
        for key in ("anyOf", "oneOf", "allOf"):
            if key in schema:
                return self.odd(chance.choice(schema[key]), depth + 1)
        if "const" in schema:
            return schema["const"]
        if "enum" in schema:
            return chance.choice(schema["enum"])
        match schema.get("type"):
            case "object":
                wanted = schema.get("required", [])
                return {
                    name: self.odd(inner, depth + 1)
                    for name, inner in schema.get("properties", {}).items()
                    if name in wanted or chance.random() < 0.6
                } or {chance.choice(WORDS): chance.choice(WORDS)}
            case "array":
                return [self.odd(schema.get("items", {}), depth + 1) for _ in range(chance.choice([0, 1, 1, 2, 3]))]
            case "integer" | "number":
                return chance.choice(NUMBERS)
            case "boolean":
                return chance.choice([True, False])
            case "null":
                return None
            case _:
                return chance.choice(WORDS)
