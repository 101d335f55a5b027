"""Pages of kept answers over HTTP: worked again when their tables change, watched, mended, written out, shared, erased."""

from __future__ import annotations

import datetime as dt
import io
import json
import os
import re
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any
from unittest import mock
from xml.etree import ElementTree

import nbformat
import openpyxl
import pypdf
import sqlglot

from gumption.core.folio.page import Part
from gumption.engines.limits import Stop
from gumption.server.app import Settings
from gumption.server.clockwork import Clockwork
from gumption.server.folio_pages import Folio as Pages
from gumption.store.folio import FolioRecords, Schedule
from tests.server.opened import AT, client_of
from tests.server.test_api import Served

_ATOM = "{http://www.w3.org/2005/Atom}"


def takings(oak: int, elm: int, more: str = "", shop: str = "shop") -> str:
    """Takings of two days by shop."""
    rows = [("Oak", oak), ("Elm", elm), ("Ash", 150)]
    return (
        f"day,{shop},takings,missed\n"
        + "".join(
            f"2026-10-0{day},{name},{amount / 2:.2f},{'yes' if name == 'Ash' and day == 1 else 'no'}\n"
            for day in (1, 2)
            for name, amount in rows
        )
        + more
    )


class Folio(Served):
    def setUp(self) -> None:
        self.call("PUT", "/as-of", {"as_of": "2026-10-05"})
        self.send({"till.csv": takings(100, 300)})
        self.addCleanup(self.client.delete, f"{AT}/tables/till")

    def call(self, method: str, path: str, body: Any = None, status: int = 200) -> Any:
        answer = self.client.request(method, f"{AT}{path}", json=body)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json() if answer.content else None

    def page(self, *questions: str, title: str = "Monday figures") -> dict[str, Any]:
        """A page on which the answers of questions are kept."""
        page = self.call("POST", "/folio", {"title": title})
        for question in questions:
            entry = self.ask(question)["id"]
            page = self.call("POST", f"/folio/{page['id']}/parts", {"kind": "answer", "entry": entry})
        return dict(page)

    def folio(self) -> Pages:
        """The folio, without requests."""
        return Pages(self.shelf.room(1).workspace)

    def replaced(self, text: str) -> None:
        waiting = self.send({"newer.csv": text}, replaces="till")[0]["replacement"]
        self.client.post(f"{AT}/replacements/{waiting['id']}")

    def test_a_page_is_worked_again_and_read_as_it_stood(self) -> None:
        page = self.page("total takings by shop", "total takings", "list all rows of till")
        at = f"/folio/{page['id']}"
        self.assertEqual(page["older_than"], [])
        self.replaced(takings(400, 300, "2026-10-03,Yew,50.00,no\n"))
        self.assertEqual(self.call("GET", at)["older_than"], ["till"])
        page = self.call("POST", f"{at}/work", {})
        by_shop, total, listing = page["parts"]
        self.assertEqual(
            by_shop["changed"]["words"],
            "Oak rose from third to first; Yew came in; total rose from 550.00 to 900.00, up 63.6%.",
        )
        self.assertIn({"what": "first by total takings", "before": "Elm", "now": "Oak"}, by_shop["changed"]["figures"])
        self.assertEqual(total["changed"]["words"], "Total takings rose from 550.00 to 900.00, up 63.6%.")
        self.assertEqual(listing["changed"]["words"], "7 rows, 1 more than before; 3 came in and 2 fell out.")
        bars = by_shop["answer"]["chart"]
        self.assertEqual(
            {e["label"]: e.get("before") for e in bars["data"]["values"]},
            {"Oak": 100, "Elm": 300, "Ash": 150, "Yew": None},
        )
        self.assertEqual([layer["mark"]["type"] for layer in bars["layer"]], ["bar", "tick", "text"])
        self.assertEqual((page["older_than"], page["workings"][0]["changed"]), ([], 3))
        before = self.call("GET", f"{at}?working={page['workings'][1]['id']}")
        self.assertEqual(before["parts"][1]["answer"]["rows"], [[550.0]])
        stop = Stop()
        self.folio().work(page["id"], "asked", stop)
        self.assertEqual(stop.told, "2 of 3 answers worked")
        again = self.call("POST", f"{at}/work", {"parts": [total["id"]]})
        self.assertEqual((again["workings"][0]["answers"], again["workings"][0]["changed"]), (1, 0))

    def test_times_of_today_move_and_what_was_kept_stays_as_it_was_read(self) -> None:
        page = self.page("total takings yesterday")
        self.assertEqual(page["parts"][0]["answer"]["rows"], [[None]])
        at = f"/folio/{page['id']}"
        self.call("PUT", "/as-of", {"as_of": "2026-10-02"})
        page = self.call("POST", f"{at}/work", {})
        self.assertEqual(page["parts"][0]["answer"]["rows"], [[275.0]], "yesterday is that of the day it is worked")
        # A word of the house's own makes the question another; what was kept is worked, and the other offered.
        term = {"words": ["takings"], "text": "takings where missed is no"}
        word = self.call("POST", "/terms", term)["term"]["id"]
        self.addCleanup(self.client.delete, f"{AT}/terms/{word}")
        page = self.call("POST", f"{at}/work", {})
        part = page["parts"][0]
        self.assertIn("would be read otherwise", part["answer"]["note"])
        self.assertIn("missed", part["mend"])
        page = self.call("POST", f"{at}/parts/{part['id']}/mended")
        self.assertEqual(page["parts"][0]["answer"]["rows"], [[200.0]])

    def test_an_answer_that_no_longer_fits_says_why_and_is_mended(self) -> None:
        page = self.page("total takings by shop")
        at = f"/folio/{page['id']}"
        self.replaced(takings(100, 300, shop="branch").replace("takings", "takings", 1))
        part = self.call("POST", f"{at}/work", {})["parts"][0]
        self.assertIsNone(part["answer"])
        self.assertIn("no column shop", part["problem"])
        self.replaced(takings(100, 300, shop="shop_name"))
        part = self.call("POST", f"{at}/work", {})["parts"][0]
        self.assertEqual(part["mend"], "It seems that “shop” had become “shop_name”.")
        page = self.call("POST", f"{at}/parts/{part['id']}/mended")
        self.assertEqual(page["parts"][0]["answer"]["rows"][0], ["Elm", 300.0])
        self.assertEqual(self.call("POST", f"{at}/work", {})["parts"][0]["problem"], "")
        self.client.delete(f"{AT}/tables/till")
        self.assertIn("no table till", self.call("POST", f"{at}/work", {})["parts"][0]["problem"])
        self.send({"till.csv": takings(100, 300)})
        page = self.page("total takings by shop")
        at = f"/folio/{page['id']}"
        self.replaced(takings(120, 300))
        page = self.call("POST", f"{at}/work", {})
        self.assertEqual(
            page["parts"][0]["changed"]["words"],
            "Oak rose from 100.00 to 120.00, up 20.0%; total rose from 550.00 to 570.00, up 3.6%.",
        )

    def test_watches_are_told_in_the_folio_and_its_feed(self) -> None:
        page = self.page("share of missed by shop")
        at, part = f"/folio/{page['id']}", page["parts"][0]
        name = next(f["name"] for f in part["answer"]["fields"] if f["measures"])
        watch = {"column": name, "of": "any", "comparison": "over", "bound": 0.4}
        page = self.call("PUT", f"{at}/parts/{part['id']}", {"watch": watch})
        self.assertTrue(page["parts"][0]["seen"]["met"], page["parts"][0]["seen"])
        self.assertIn("in Ash", page["parts"][0]["seen"]["words"])
        self.call("POST", f"{at}/work", {})
        self.assertEqual(len(self.call("GET", "/folio")["pages"][-1]["met"]), 1)
        feed = ElementTree.fromstring(self.client.get(f"{AT}/folio/feed.atom").text)
        titles = [e.findtext(f"{_ATOM}title") or "" for e in feed.iter(f"{_ATOM}entry")]
        self.assertEqual(len([t for t in titles if "in Ash" in t]), 1, "told once, however often it is worked")
        page = self.call("PUT", f"{at}/parts/{part['id']}", {"unwatch": True})
        self.assertEqual((page["parts"][0]["watch"], page["met"]), (None, []))

    def test_what_stands_on_a_page_is_written_put_in_order_and_taken_off(self) -> None:
        page = self.page("total takings by shop", "total takings")
        at = f"/folio/{page['id']}"
        first = page["parts"][0]["id"]
        page = self.call("POST", f"{at}/parts", {"kind": "heading", "text": "Tills"})
        text = "For **nine** <script>x</script> [go](javascript:x) ![p](http://elsewhere/p.png)"
        page = self.call("POST", f"{at}/parts", {"kind": "text", "text": text, "after": first})
        self.assertEqual([p["kind"] for p in page["parts"]], ["answer", "text", "answer", "heading"])
        html = page["parts"][1]["html"]
        self.assertIn("<strong>nine</strong>", html)
        for loaded in ("<script", "<img", 'href="javascript'):
            self.assertNotIn(loaded, html)
        ids = [p["id"] for p in page["parts"]]
        page = self.call("PUT", f"{at}/order", {"parts": [ids[3], ids[1], ids[0]]})
        self.assertEqual([p["id"] for p in page["parts"]], [ids[3], ids[1], ids[0], ids[2]])
        page = self.call("PUT", f"{at}/parts/{ids[2]}", {"beside": True})
        self.assertTrue(page["parts"][3]["beside"])
        page = self.call("DELETE", f"{at}/parts/{ids[1]}")
        self.assertEqual(len(page["parts"]), 3)
        copy = self.call("POST", f"{at}/copy", {"title": "Another"})
        self.assertEqual([p["question"] for p in copy["parts"]], ["", "total takings by shop", "total takings"])
        self.assertEqual(copy["parts"][2]["answer"]["rows"], [[550.0]])

    def test_a_page_is_deleted_restored_and_erased(self) -> None:
        page = self.page("total takings")
        at = f"/folio/{page['id']}"
        token = self.call("POST", f"{at}/links", {"days": 2})["links"][0]["token"]
        self.call("DELETE", at, status=204)
        self.call("GET", at, status=404)
        self.assertEqual(self.client.get(f"/s/{token}").status_code, 404)
        self.assertIn(page["id"], [p["id"] for p in self.call("GET", "/folio")["deleted"]])
        self.assertEqual(self.call("POST", f"{at}/restored")["parts"][0]["answer"]["rows"], [[550.0]])
        self.call("DELETE", f"{at}?for_good=true", status=204)
        self.call("POST", f"{at}/restored", status=404)
        with self.records.cursor() as cursor:
            for table in ("folio_part", "folio_working", "folio_link"):
                cursor.execute(f"SELECT COUNT(*) AS n FROM {table} WHERE page_id = %s", (page["id"],))
                self.assertEqual((cursor.fetchone() or {})["n"], 0, table)

    def test_a_link_leads_to_the_page_alone_until_it_is_withdrawn(self) -> None:
        page = self.page("total takings by shop", "total takings")
        at = f"/folio/{page['id']}"
        link = self.call("POST", f"{at}/links", {"days": 2})["links"][0]
        shown = self.client.get(f"/s/{link['token']}")
        rules = shown.headers["content-security-policy"]
        self.assertEqual(
            (shown.status_code, "'unsafe-eval'" in rules, "script-src 'sha256-" in rules), (200, False, True)
        )
        self.assertIn("frame-ancestors 'none'", rules)
        self.assertIn("550.00", shown.text)
        one = self.call("POST", f"{at}/links", {"days": 2, "part": page["parts"][1]["id"]})["links"][1]
        self.assertNotIn("by shop", self.client.get(f"/s/{one['token']}").text)
        framed = client_of(type(self), self.shelf, Settings(frames=("https://desk.example",)))
        self.assertIn(
            "frame-ancestors https://desk.example", framed.get(f"/s/{link['token']}").headers["content-security-policy"]
        )
        self.call("DELETE", f"{at}/links/{link['token']}")
        for gone in (link["token"], "x" * 43, "x"):
            self.assertEqual(self.client.get(f"/s/{gone}").status_code, 404)
        with self.records.cursor() as cursor:
            cursor.execute("UPDATE folio_link SET ends_at = NOW() - INTERVAL 1 SECOND")
        self.assertEqual(self.client.get(f"/s/{one['token']}").status_code, 404, "it has ended")

    def test_pages_that_are_due_are_worked_by_themselves(self) -> None:
        page = self.page("total takings")
        at = f"/folio/{page['id']}"
        clockwork = Clockwork(self.shelf)
        daily = {"schedule": {"every": "day", "at": "07:00:00"}}
        due = dt.datetime.fromisoformat(self.call("PUT", f"{at}/schedule", daily)["next_at"]).replace(tzinfo=None)
        clockwork.tick(due - dt.timedelta(minutes=1))
        self.assertEqual(len(self.call("GET", at)["workings"]), 1)
        clockwork.tick(due)
        clockwork.tick(due + dt.timedelta(minutes=1))
        page = self.call("GET", at)
        self.assertEqual([w["cause"] for w in page["workings"]], ["schedule", "kept"])
        self.assertEqual(dt.datetime.fromisoformat(page["next_at"]).replace(tzinfo=None), due + dt.timedelta(days=1))
        self.call("PUT", f"{at}/schedule", {"schedule": {"every": "data"}})
        clockwork.tick(due)
        self.replaced(takings(100, 310))
        clockwork.tick(due)
        clockwork.tick(due)
        self.assertEqual([w["cause"] for w in self.call("GET", at)["workings"]], ["data", "schedule", "kept"])
        monday = Schedule(every="week", at=dt.time(9), weekday=0)
        self.assertEqual(monday.next_after(dt.datetime(2026, 10, 5, 9)), dt.datetime(2026, 10, 12, 9))

    def test_every_file_of_a_page_opens_elsewhere(self) -> None:
        page = self.page("total takings by shop", "total takings by shop and missed as a cross table", "total takings")
        at = f"{AT}/folio/{page['id']}"
        self.call("POST", f"/folio/{page['id']}/parts", {"kind": "text", "text": "For *nine*."})

        def file(form: str) -> bytes:
            answer = self.client.get(f"{at}/file?form={form}")
            self.assertEqual(answer.status_code, 200, answer.text[:300])
            return answer.content

        book = openpyxl.load_workbook(io.BytesIO(file("xlsx")))
        self.assertEqual(
            book.sheetnames, ["total takings by shop", "total takings by shop and misse", "total takings", "Proof"]
        )
        sheet = book.worksheets[0]
        self.assertEqual([c.value for c in sheet[2]], ["Elm", 300])
        self.assertEqual((sheet["B2"].number_format, len(sheet.tables), len(sheet._charts)), ("#,##0.00", 1, 1))
        proof = [row[0].value for row in book["Proof"].iter_rows() if row[0].value]
        self.assertEqual(proof[:6], ["Question", "Read as", "Found", "Steps", "Checks", "SQL"])
        printed = "".join(p.extract_text() for p in pypdf.PdfReader(io.BytesIO(file("pdf"))).pages)
        for told in ("Monday figures", "550.00", "The proof of 3 answers"):
            self.assertIn(told, printed)
        html = file("html").decode()
        self.assertLess(len(html), 1_500_000)
        self.assertEqual((html.count("data-chart="), re.search(r'(src|href)="?http', html)), (2, None))
        markdown = file("md").decode()
        self.assertIn("| Elm | 300.00 |", markdown)
        self.assertIn("For *nine*.", markdown)
        notebook = nbformat.reads(file("ipynb").decode(), as_version=4)
        nbformat.validate(notebook)
        self._works(file("py").decode(), "550")
        for cell in notebook.cells:
            if cell.cell_type == "code":
                self._works(cell.source, "")
        self.assertEqual(len(sqlglot.parse(file("sql").decode(), dialect="duckdb")), 3)
        taken = self.client.post(f"{AT}/folio/file", content=file("json")).json()
        self.assertEqual([p["kind"] for p in taken["parts"]], ["answer", "answer", "answer", "text"])
        self.assertEqual(taken["parts"][2]["answer"]["rows"], [[550.0]])
        self.assertEqual(self.client.post(f"{AT}/folio/file", content=b'{"format": "gumption page"}').status_code, 422)

    def _works(self, script: str, told: str) -> None:
        """Run a script where the file is that it names."""
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "till.csv").write_text(takings(100, 300))
            done = subprocess.run(
                [sys.executable, "-c", script], cwd=folder, capture_output=True, text=True, check=False
            )
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn(told, done.stdout)

    def test_an_answer_is_opened_again_though_its_question_is_gone(self) -> None:
        page = self.page("total takings by shop")
        at = f"/folio/{page['id']}/parts/{page['parts'][0]['id']}/opened"
        kept = self.call("POST", at)["entry"]
        self.assertEqual(self.call("GET", f"/trail/{kept}")["question"], "total takings by shop")
        self.call("DELETE", f"/trail/{kept}", status=204)
        anew = self.call("POST", at)["entry"]
        self.assertNotEqual(anew, kept)
        self.assertEqual(self.call("GET", f"/trail/{anew}")["rows"][0], ["Elm", 300.0])

    def test_steps_changed_by_hand_are_kept_and_a_page_goes_with_its_workspace(self) -> None:
        entry = self.ask("total takings by shop")["id"]
        edited = self.call("POST", f"/trail/{entry}/steps", {"edit": {"act": "remove", "path": [2]}})
        page = self.page(title="By hand")
        page = self.call("POST", f"/folio/{page['id']}/parts", {"kind": "answer", "entry": edited["id"]})
        rows = page["parts"][0]["answer"]["rows"]
        self.assertEqual(self.call("POST", f"/folio/{page['id']}/work", {})["parts"][0]["answer"]["rows"], rows)
        copied = self.client.post(f"{AT}/copy", json={"title": "Copy"}).json()["id"]
        there = self.client.get(f"/api/v1/workspaces/{copied}/folio").json()["pages"]
        last = self.client.get(f"/api/v1/workspaces/{copied}/folio/{there[-1]['id']}").json()
        self.assertEqual((last["title"], last["parts"][0]["answer"]["rows"]), ("By hand", rows))
        saved = self.client.get(f"{AT}/saved").content
        taken = self.client.post("/api/v1/workspaces/saved", content=saved).json()["id"]
        self.assertIn(
            "By hand", [p["title"] for p in self.client.get(f"/api/v1/workspaces/{taken}/folio").json()["pages"]]
        )
        for number in (copied, taken):
            self.client.delete(f"/api/v1/workspaces/{number}")
        self.assertEqual(FolioRecords(self.records.of(copied)).pages(), [])

    def test_without_a_browser_printing_says_what_to_do(self) -> None:
        page = self.page("total takings")
        with mock.patch.dict(os.environ, {"PATH": "/nowhere"}):
            told = self.client.get(f"{AT}/folio/{page['id']}/file?form=pdf")
        self.assertEqual(told.status_code, 422)
        self.assertIn("Chromium", told.json()["problem"])

    def test_a_brief_becomes_a_page(self) -> None:
        asked = [self.ask(q)["id"] for q in ("total takings", "total takings by shop")]
        page = self.call(
            "POST", "/folio/from-trail", {"title": "Brief", "entries": asked, "headings": {asked[1]: "Shops"}}
        )
        self.assertEqual(
            [p["text"] or p["question"] for p in page["parts"]], ["total takings", "Shops", "total takings by shop"]
        )

    def test_bad_requests_are_told(self) -> None:
        page = self.page("total takings")
        at = f"/folio/{page['id']}"
        self.call("GET", "/folio/99999", status=404)
        self.call("POST", f"{at}/parts", {"kind": "answer"}, status=422)
        self.call("POST", f"{at}/parts", {"kind": "answer", "entry": 999_999}, status=404)
        self.call("PUT", f"{at}/parts/999999", {"beside": True}, status=404)
        other = self.client.post("/api/v1/workspaces", json={"title": "Other"}).json()["id"]
        elsewhere = f"/api/v1/workspaces/{other}{at}/parts/{page['parts'][0]['id']}"
        self.assertEqual(self.client.put(elsewhere, json={"beside": True}).status_code, 404, "pages keep to themselves")
        self.client.delete(f"/api/v1/workspaces/{other}")
        self.call("POST", "/folio", {"title": " "}, status=422)
        with mock.patch("gumption.server.folio.MOST_PARTS", 1):
            self.call("POST", f"{at}/parts", {"kind": "text", "text": "x"}, status=422)
        declined = self.client.post(f"{AT}/questions", json={"question": "how many unicorns per wombat"}).json()
        if declined["status"] != "answered":
            self.call("POST", f"{at}/parts", {"kind": "answer", "entry": declined["id"]}, status=422)
        FolioRecords(self.records).set_part(page["id"], page["parts"][0]["id"], Part(kind="text", text=json.dumps(1)))
        self.call("POST", f"{at}/parts/{page['parts'][0]['id']}/mended", status=422)
