"""What stands before every request: foreign pages and names, bounds, faults of ours, and what goes out."""

from __future__ import annotations

import json
import logging
import time
import unittest
from typing import Any
from unittest import mock

from gumption.core.present.cells import harmless
from gumption.server.app import Settings
from gumption.server.guard import MOST_BYTES
from gumption.server.log import MOST_BYTES as MOST_LINE
from gumption.server.log import AsJson
from gumption.server.schemas import Problem
from gumption.store.records import Records
from tests.server.opened import AT, client_of, shelf_with

HOME = "http://127.0.0.1"
CELLS = "name,note\nBree,=HYPERLINK(1)\nCole,-5\nDara,@SUM(A1)\nEli,+44 20\nFay,- see below\n"


class Guarded(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        shelf = shelf_with(cls, {"notes.csv": CELLS})
        web = shelf.house.folder / "web"
        (web / "assets").mkdir(parents=True)
        (web / "index.html").write_text("<p>page")
        cls.client = client_of(cls, shelf, Settings(web, hosts=("desk.example",)))

    def refused(self, status: int, method: str, path: str, **more: Any) -> str:
        answer = self.client.request(method, path, **more)
        self.assertEqual(answer.status_code, status, answer.text)
        self.assertEqual(set(answer.json()), set(Problem.model_fields))
        return str(answer.json()["problem"])

    def test_only_our_own_page_and_names(self) -> None:
        ask: dict[str, Any] = {"json": {"question": "how many notes"}}
        self.assertIn("by this name", self.refused(421, "GET", "/", headers={"Host": "elsewhere.example"}))
        self.assertEqual(self.client.get("/", headers={"Host": "desk.example"}).status_code, 200)
        for headers in (
            {"Origin": "http://elsewhere.example"},
            {"Origin": "null"},
            {"Sec-Fetch-Site": "cross-site"},
            {"Sec-Fetch-Site": "same-site"},
        ):
            for method, path in (("POST", "questions"), ("DELETE", "contents"), ("POST", "uploads"), ("PUT", "joins")):
                self.assertIn("elsewhere", self.refused(403, method, f"{AT}/{path}", headers=headers))
        own = {"Origin": HOME, "Sec-Fetch-Site": "same-origin"}
        self.assertEqual(self.client.post(f"{AT}/questions", headers=own, **ask).status_code, 200)
        self.assertEqual(self.client.post(f"{AT}/questions", **ask).status_code, 200, "a program that is no browser")

    def test_what_goes_with_every_answer(self) -> None:
        for path in ("/", f"{AT}/trail", "/nowhere", "/api/v1/nowhere"):
            headers = self.client.get(path).headers
            policy = headers["content-security-policy"]
            self.assertIn("script-src 'self';", policy)
            self.assertIn("frame-ancestors 'none'", policy)
            self.assertEqual((headers["x-content-type-options"], headers["x-frame-options"]), ("nosniff", "DENY"))
            self.assertNotIn("server", headers)
        self.assertEqual(self.client.get("/nowhere").status_code, 404)
        self.assertIn("<p>page", self.client.get("/nowhere").text)
        for method in ("GET", "POST", "DELETE", "PATCH"):
            self.refused(404, method, "/api/v1/nowhere")
        self.refused(404, "PUT", f"{AT}/trail")

    def test_bounds_on_what_comes_in(self) -> None:
        deep: Any = {}
        for _ in range(300):
            deep = {"steps": [deep]}
        body = json.dumps({"plan": {}})[:-2] + '{"a":' * 5_000 + "1" + "}" * 5_001
        self.assertIn("at most 1 MB", self.refused(413, "POST", f"{AT}/questions", content=b"x" * (MOST_BYTES + 1)))
        pieces = (b"x" * 100_000 for _ in range(20))
        self.assertIn("at most 1 MB", self.refused(413, "POST", f"{AT}/questions", content=pieces))
        for content in (
            body,
            "{",
            '{"question": "\\ud800"}',
            '{"question": 7}',
            "[]",
            '{"question": "x", "follows": 1e99}',
        ):
            self.assertIn(
                self.client.post(
                    f"{AT}/plans" if content is body else f"{AT}/questions",
                    content=content,
                    headers={"Content-Type": "application/json"},
                ).status_code,
                (400, 422),
                content[:40],
            )
        self.refused(413, "POST", f"{AT}/questions", json={"question": "é" * 40_000})
        self.assertIn(
            "no longer", self.refused(404, "POST", f"{AT}/questions", json={"question": "x", "follows": 9_999})
        )
        self.refused(404, "POST", f"{AT}/gloss", json={"question": "x", "follows": 9_999})
        take: dict[str, Any] = {"step": "take", "table": "notes"}
        plan: dict[str, Any] = {"steps": [take]}
        for _ in range(12):
            plan = {"steps": [*plan["steps"], {"step": "append", "other": plan}]}
        for unfit in (deep, plan):
            self.refused(422, "POST", f"{AT}/plans", json={"plan": unfit})
        for day in ("0001-01-01", "9999-12-31"):
            self.refused(422, "PUT", f"{AT}/as-of", json={"as_of": day})
        for length in ("-1", "1e3", "9" * 400, ""):
            told = {
                "Tus-Resumable": "1.0.0",
                "Upload-Length": length.encode().decode("latin-1").encode("latin-1"),
                "Upload-Metadata": "filename YS5jc3Y=",
            }
            self.refused(400, "POST", f"{AT}/uploads", headers=told)
        told = {
            "Tus-Resumable": "1.0.0",
            "Upload-Length": "5",
            "Upload-Metadata": "filename YS5jc3Y=,replaces bm9uZQ==",
        }
        self.refused(404, "POST", f"{AT}/uploads", headers=told)

    def test_a_fault_of_ours_is_told_by_a_number_and_logged_without_values(self) -> None:
        with (
            mock.patch.object(Records, "trail", side_effect=KeyError("Lindqvist")),
            self.assertLogs("gumption.server.guard") as logged,
        ):
            said = self.refused(500, "GET", f"{AT}/trail")
        line = AsJson().format(logged.records[-1])
        self.assertIn(said.partition("fault ")[2].partition(")")[0], line)
        self.assertEqual(json.loads(line)["error"], "KeyError")
        self.assertIn("get_trail", line)
        self.assertNotIn("Lindqvist", line)

    def test_no_line_of_the_log_is_long(self) -> None:
        def deep(number: int) -> None:
            if number:
                deep(number - 1)
            raise ValueError("x" * 10_000)

        try:
            deep(200)
        except ValueError as error:
            record = logging.LogRecord(
                "a", logging.ERROR, "f", 1, "y" * 10_000, (), (ValueError, error, error.__traceback__)
            )
        self.assertLessEqual(len(AsJson().format(record)), MOST_LINE)

    def test_nothing_that_goes_out_runs_as_a_formula(self) -> None:
        text = self.client.get(f"{AT}/tables/notes/file").text
        for cell in ("'=HYPERLINK(1)", "'@SUM(A1)", "'- see below", ",-5", ",+44 20"):
            self.assertIn(cell, text)
        self.assertEqual([harmless(v) for v in ("\tx", "\rx", "-1,5", -3, None)], ["'\tx", "'\rx", "-1,5", -3, None])

    def test_a_person_who_has_gone_is_not_worked_for(self) -> None:
        """The work is stopped once nobody waits for it, which leaves its place to others."""
        from gumption.server import asking

        endless = "SELECT count(*) FROM range(100000000) a, range(100000000) b WHERE a.range + b.range = 7"
        with mock.patch.object(asking.Request, "is_disconnected", return_value=True):
            start = time.monotonic()
            self.refused(409, "POST", f"{AT}/sql", json={"sql": endless})
        self.assertLess(time.monotonic() - start, 5)
