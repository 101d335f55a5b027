"""Several workspaces: made, named, copied, saved and taken up again, put away, deleted; each keeps to itself."""

from __future__ import annotations

import io
import json
import time
import unittest
import zipfile
from typing import Any
from unittest import mock

from gumption.engines.limits import Limits
from gumption.intake.sources import Allowed
from gumption.server import shelf as shelves
from gumption.server.shelf import House, Shelf
from gumption.server.workers import Processes
from tests.server.opened import announced, client_of, piece_sent, shelf_with
from tests.support import DEMO

SALES = "sale_id,shop_id,amount\n" + "".join(f"{i},S{i % 3},{i}.50\n" for i in range(30))
SHOPS = "shop_id,shop,town\nS0,Oak,Alder\nS1,Elm,Birch\nS2,Ash,Cedar\n"
LONG_SALE = {"words": ["large sale"], "text": "a sale whose amount is over 20"}


class Workspaces(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.shelf = shelf_with(cls, {"sales.csv": SALES, "shops.csv": SHOPS})
        cls.client = client_of(cls, cls.shelf)

    def sent(self, method: str, path: str, body: Any = None, status: int = 200) -> Any:
        answer = self.client.request(method, f"/api/v1/workspaces{path}", json=body)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json() if answer.content else None

    def ask(self, number: int, question: str, follows: int | None = None) -> dict[str, Any]:
        told = self.sent("POST", f"/{number}/questions", {"question": question, "follows": follows})
        self.assertEqual(told["status"], "answered", told)
        return dict(told)

    def test_each_keeps_to_itself(self) -> None:
        number = self.sent("POST", "", {"title": " Night cover "})["id"]
        here = self.sent("GET", f"/{number}")
        self.assertEqual((here["title"], here["tables"], here["demo"]), ("Night cover", [], False))
        sent = self.client.post(
            f"/api/v1/workspaces/{number}/pasted", json={"name": "rota", "content": "vet,nights\nAnn,3\nBo,4\n"}
        )
        while self.sent("GET", f"/{number}/jobs/{sent.json()['id']}")["status"] in ("waiting", "reading"):
            pass
        self.assertEqual(self.ask(number, "total nights")["rows"], [[7]])
        there = self.sent("POST", f"/{number}/questions", {"question": "how many shops are there"})
        self.assertIn("Nothing here is called “shops”", there["doubt"]["words"])
        self.assertEqual(len(self.sent("GET", "/1")["tables"]), 2)
        shown = next(w for w in self.sent("GET", "") if w["id"] == number)
        self.assertEqual((shown["tables"], shown["questions"]), ([["rota", 2]], 2))
        self.assertEqual((shown["last"]["question"], shown["last"]["status"]), ("how many shops are there", "answered"))

    def test_a_copy_goes_its_own_way(self) -> None:
        first = self.ask(1, "total amount by shop")
        self.ask(1, "only Birch", first["id"])
        self.sent("POST", "/1/terms", LONG_SALE)
        copy = self.sent("POST", "/1/copy", {"title": "Test, another"})["id"]
        trail = self.sent("GET", f"/{copy}/trail")
        mine = [e for e in trail if e["question"] in ("total amount by shop", "only Birch")]
        self.assertEqual(mine[-1]["parent"], mine[-2]["id"], "what followed a question follows its copy")
        self.assertEqual(
            self.sent("GET", f"/{copy}/trail/{mine[-1]['id']}")["rows"],
            self.sent("GET", f"/1/trail/{self.sent('GET', '/1/trail')[-1]['id']}")["rows"],
        )
        self.assertEqual(self.ask(copy, "number of large sales")["rows"], [[10]])
        self.sent("DELETE", f"/{copy}/tables/shops", status=204)
        self.assertEqual(len(self.sent("GET", f"/{copy}")["tables"]), 1)
        self.assertEqual(len(self.sent("GET", "/1")["tables"]), 2)
        self.assertEqual(self.ask(1, "total amount")["rows"], [[450]])
        self.sent("DELETE", f"/{copy}", status=204)
        self.assertFalse(self.shelf.folder_of(copy).exists())
        self.assertEqual(self.ask(1, "how many shops are there")["rows"], [[3]], "its files are its own")
        self.sent("GET", f"/{copy}", status=404)
        self.sent("DELETE", f"/{copy}", status=404)

    def test_saved_and_taken_up_again(self) -> None:
        self.sent("POST", "/1/terms", LONG_SALE)
        first = self.ask(1, "number of sales by town")
        joins = self.sent("GET", "/1")["relationships"]
        saved = self.client.get("/api/v1/workspaces/1/saved")
        self.assertEqual(saved.status_code, 200)
        self.assertIn("test.gumption.zip", saved.headers["content-disposition"])
        new = self.client.post("/api/v1/workspaces/saved", content=saved.content).json()["id"]
        self.assertEqual(self.ask(new, "number of sales by town")["rows"], first["rows"])
        self.assertEqual(self.ask(new, "number of large sales")["rows"], [[10]])
        self.assertEqual(self.sent("GET", f"/{new}")["relationships"], joins)
        table = next(t for t in self.sent("GET", f"/{new}")["tables"] if t["table"]["name"] == "shops")
        job = self.sent("PUT", f"/{new}/tables/shops/recipe", {**table["recipe"], "types": {"shop": "text"}})
        while (ended := self.sent("GET", f"/{new}/jobs/{job['id']}"))["status"] in ("waiting", "reading"):
            pass
        self.assertEqual(ended["status"], "done", "the file that it was read from came with it")
        before = len(self.sent("GET", ""))
        for broken in (
            b"",
            b"PK nothing",
            saved.content[: len(saved.content) // 2],
            _without(saved.content, "shops"),
            _wrong(saved.content),
        ):
            answer = self.client.post("/api/v1/workspaces/saved", content=broken)
            self.assertEqual(answer.status_code, 422, answer.text)
        self.assertEqual(len(self.sent("GET", "")), before, "nothing is left of what could not be taken up")
        folders = {p.name for p in (self.shelf.house.folder / "workspaces").iterdir()}
        self.assertEqual(folders - {str(w["id"]) for w in self.sent("GET", "")}, set())

    def test_pictures_go_where_their_workspace_goes(self) -> None:
        number = self.sent("POST", "", {"title": "Pets"})["id"]
        dot = b"GIF87a" + bytes(20)

        def send(file: str, content: bytes) -> Any:
            place = announced(self.client, f"/api/v1/workspaces/{number}", file, len(content)).headers["location"]
            piece_sent(self.client, place, 0, content)
            while (job := self.sent("GET", f"/{number}/jobs/{place.split('/')[-1]}"))["status"] in (
                "waiting",
                "reading",
            ):
                pass
            return job

        self.assertEqual(send("Réx.GIF", dot)["status"], "done")
        self.assertIn("no picture", send("torn.png", dot[3:])["problem"])
        self.assertIn("larger than 5 MB", send("huge.gif", dot + bytes(5_000_000))["problem"])
        saved = self.client.get(f"/api/v1/workspaces/{number}/saved").content
        took = self.client.post("/api/v1/workspaces/saved", content=saved).json()
        taken = took["id"]
        self.assertEqual(took["title"], "Pets (2)")
        copied = self.sent("POST", f"/{number}/copy", {"title": "Pets, another"})["id"]
        self.sent("DELETE", f"/{number}/pictures/R%C3%A9x.GIF", status=204)
        self.sent("GET", f"/{number}/pictures/R%C3%A9x.GIF", status=404)
        self.sent("GET", f"/{number}/pictures/..%2F..", status=404)
        self.assertEqual(self.sent("GET", f"/{number}/pictures"), [])
        for other in (taken, copied):
            shown = self.client.get(f"/api/v1/workspaces/{other}/pictures/R%C3%A9x.GIF")
            self.assertEqual((shown.content, shown.headers["content-type"]), (dot, "image/gif"))
        self.sent("DELETE", f"/{copied}/contents", status=204)
        self.assertEqual(self.sent("GET", f"/{copied}/pictures"), [])
        self.assertEqual(self.sent("GET", f"/{taken}/pictures"), ["Réx.GIF"])

    def test_named_put_away_and_the_demo(self) -> None:
        number = self.sent("POST", "", {"title": "Draft"})["id"]
        self.assertEqual(self.sent("PUT", f"/{number}", {"title": "Budget 2027"})["title"], "Budget 2027")
        self.assertEqual(self.sent("GET", f"/{number}")["title"], "Budget 2027")
        self.assertTrue(self.sent("PUT", f"/{number}/archived", {"archived": True})["archived"])
        self.assertEqual(self.sent("POST", "", {"title": "budget 2027"})["title"], "budget 2027 (2)", "told apart")
        self.sent("POST", "", {"title": "   "}, 422)
        self.sent("POST", f"/{number}/demo", status=409)
        demo = self.sent("POST", "/demo")
        self.assertEqual((demo["title"], demo["demo"], demo["rows"]), ("Brackenfold Vets", True, 60_752))
        self.ask(demo["id"], "visits by clinic")
        self.sent("DELETE", f"/{demo['id']}/tables/visits", status=204)
        afresh = self.sent("POST", f"/{demo['id']}/demo")
        self.assertEqual((afresh["rows"], afresh["questions"]), (60_752, 0))
        self.sent("GET", f"/{demo['id']}", status=404)
        self.sent("PUT", f"/{number}/opened", status=204)
        self.assertEqual(self.sent("GET", "")[0]["id"], number, "the one opened last comes first")


def _without(content: bytes, table: str) -> bytes:
    """A saved workspace that lacks a table's rows."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as source, zipfile.ZipFile(out, "w") as target:
        for name in source.namelist():
            if not name.endswith(f"{table}.parquet"):
                target.writestr(name, source.read(name))
    return out.getvalue()


def _wrong(content: bytes) -> bytes:
    """A saved workspace that tells of other rows than it has."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as source, zipfile.ZipFile(out, "w") as target:
        for name in source.namelist():
            data = source.read(name)
            if name == "workspace.json":
                whole = json.loads(data)
                whole["tables"][0]["table"]["rows"] += 1
                data = json.dumps(whole).encode()
            target.writestr(name, data)
    return out.getvalue()


class ManyOpen(unittest.TestCase):
    """What is not used is put down, and taken up again where it was."""

    def test_put_down_and_taken_up(self) -> None:
        self.enterContext(mock.patch.object(shelves, "MOST_OPEN", 2))
        self.enterContext(mock.patch.object(shelves, "REST_SECONDS", 0.0))
        shelf = shelf_with(type(self), {"sales.csv": SALES})
        numbers = [1, *(shelf.copy(1, f"Copy {n}") for n in range(4))]
        client = client_of(type(self), shelf)
        for number in (*numbers, *numbers):
            told = client.post(f"/api/v1/workspaces/{number}/questions", json={"question": "total amount"}).json()
            self.assertEqual(told["rows"], [[450]])
            self.assertLessEqual(sum(shelf.open_room(n) is not None for n in numbers), 3)

    def test_questions_worth_asking_are_there_when_it_is_taken_up_again(self) -> None:
        shelf = shelf_with(type(self), {"sales.csv": SALES})
        client = client_of(type(self), shelf)

        def seen() -> dict[str, Any]:
            whole: dict[str, Any] = client.get("/api/v1/workspaces/1").json()
            return whole

        ends = time.monotonic() + 30
        while seen()["preparing"] and time.monotonic() < ends:
            time.sleep(0.05)
        made = seen()["tables"][0]["examples"]
        self.assertIn("How many sales?", made)
        shelf.put_down(1)
        self.assertEqual(seen()["tables"][0]["examples"], made)
        client.delete("/api/v1/workspaces/1/tables/sales")
        worth = shelf.folder_of(1) / shelves.WORTH_ASKING
        self.assertFalse(worth.exists() and "sales" in worth.read_text())

    def test_files_of_one_workspace_move_into_its_room(self) -> None:
        shelf = shelf_with(type(self), {"sales.csv": SALES})
        folder, before = shelf.house.folder, shelf.records_of(1).tables()[0].parquet
        shelf.close()
        for part in ("tables", "incoming"):
            (shelf.folder_of(1) / part).rename(folder / part)
        shelf.shelved.files_moved(1, shelf.folder_of(1) / "tables", folder / "tables")
        again = Shelf(shelf.records_of(0), House(folder, DEMO / "data", Limits(), Allowed()))
        self.addCleanup(again.close)
        self.assertEqual(again.room(1).workspace.stored[0].parquet, before)
        self.assertTrue(before.exists())
        self.assertFalse((folder / "tables").exists())

    def test_processes_have_desks_for_several(self) -> None:
        self.enterContext(mock.patch("gumption.server.workers.MOST_DESKS", 2))
        processes = Processes(answering=1)
        self.addCleanup(processes.close)
        given = shelf_with(type(self), {"sales.csv": SALES})
        house = House(given.house.folder, DEMO / "data", Limits(), Allowed())
        shelf = Shelf(given.records_of(0), house, processes.of)
        self.addCleanup(shelf.close)
        numbers = [1, *(shelf.copy(1, f"Copy {n}") for n in range(3))]
        shelf.room(numbers[2]).workspace.remove_table("sales")
        client = client_of(type(self), shelf)
        for number in (*numbers, *numbers):
            told = client.post(f"/api/v1/workspaces/{number}/questions", json={"question": "total amount"}).json()
            self.assertEqual(told["status"] == "answered", number != numbers[2], told)
