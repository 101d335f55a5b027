"""The HTTP API over a real database: files in, questions, follow-ups, and bad input that harms nothing."""

from __future__ import annotations

import datetime as dt
import io
import json
import time
import unittest
import zipfile
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from unittest import mock

import pyarrow.parquet as pq
from python_calamine import CalamineWorkbook

from gumption.intake.sources import Allowed
from gumption.server.workspace import Workspace
from tests.server import opened
from tests.server.opened import AT, client_of, shelf_with

SALES = "sale_id,shop_id,day,amount\n" + "".join(f"{i},S{i % 3},2025-{1 + i % 12:02d}-05,{i}.50\n" for i in range(120))
SHOPS = "shop_id,shop,town\nS0,Oak,Alder\nS1,Elm,Birch\nS2,Ash,Cedar\n"


class Served(unittest.TestCase):
    """A server over a database of its own, with two tables in it."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.shelf = shelf_with(cls, {}, allowed=Allowed(most_bytes=50_000))
        cls.records, cls.folder = cls.shelf.records_of(1), cls.shelf.folder_of(1)
        cls.client = client_of(cls, cls.shelf)
        cls.send({"sales.csv": SALES, "shops.csv": SHOPS})

    def sent(self, path: str, body: dict[str, Any], status: int = 200) -> Any:
        answer = self.client.post(f"{AT}/{path}", json=body)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json() if answer.content else None

    @classmethod
    def begin(cls, name: str, content: str | bytes, replaces: str = "", announced: int | None = None) -> Any:
        """Announce a file by the tus protocol; the answer."""
        data = content.encode() if isinstance(content, str) else content
        return opened.announced(cls.client, AT, name, len(data) if announced is None else announced, replaces)

    @classmethod
    def piece(cls, place: str, offset: int, content: bytes) -> Any:
        return opened.piece_sent(cls.client, place, offset, content)

    @classmethod
    def send(cls, files: dict[str, str | bytes], replaces: str = "") -> list[dict[str, Any]]:
        """Upload files and wait until they are read; how each ended."""
        ended = []
        for name, content in files.items():
            data = content.encode() if isinstance(content, str) else content
            answer = cls.begin(name, data, replaces)
            if answer.status_code != 201:
                ended.append({"status": "failed", "problem": answer.json()["problem"]})
                continue
            place = answer.headers["Location"]
            if data:
                assert cls.piece(place, 0, data).status_code == 204
            ended.append(cls.wait(place.rsplit("/", 1)[1]))
        return ended

    @classmethod
    def wait(cls, number: str) -> dict[str, Any]:
        for _ in range(400):
            job = cls.client.get(f"{AT}/jobs/{number}").json()
            if job["status"] not in ("waiting", "reading"):
                return dict(job)
            time.sleep(0.05)
        raise AssertionError("the reading did not end")

    def workspace(self) -> dict[str, Any]:
        """The workspace without the examples, which come by themselves once changes have come to rest."""
        found = dict(self.client.get(AT).json())
        for table in found["tables"]:
            del table["examples"]
        return found

    def ask(self, question: str, follows: int | None = None, choice: int | None = None) -> dict[str, Any]:
        return dict(
            self.client.post(
                f"{AT}/questions", json={"question": question, "follows": follows, "choice": choice}
            ).json()
        )


class Api(Served):
    def test_rows_come_in_pages_and_any_order(self) -> None:
        asked = self.sent("questions", {"question": "list all sales"})
        at = f"{AT}/trail/{asked['id']}"
        first = self.client.get(f"{at}/rows?limit=50").json()
        rest = self.client.get(f"{at}/rows?offset=50&limit=1000").json()
        self.assertEqual(first["rows"] + rest["rows"], asked["rows"])
        self.assertEqual(first["cells"] + rest["cells"], asked["cells"])
        place = [f["name"] for f in asked["fields"]].index("amount")
        sorted_rows = self.client.get(f"{at}/rows?limit=200&sort=amount&descending=true").json()["rows"]
        amounts = [row[place] for row in sorted_rows]
        self.assertEqual(amounts, sorted((row[place] for row in asked["rows"]), reverse=True))
        totals = self.client.get(f"{at}/totals").json()
        self.assertEqual([t for t in totals if t is not None], [f"{sum(amounts):,.2f}"])
        self.assertEqual(self.client.get(f"{at}/rows?sort=nothing").status_code, 422)
        self.assertEqual(self.client.get(f"{at}/rows?limit=100000").status_code, 422)

    def test_a_saved_answer_has_all_rows(self) -> None:
        with mock.patch("gumption.server.sending.MOST_ROWS_SENT", 50):
            answer = self.sent("questions", {"question": "list the sales over 9"})
        self.assertEqual((len(answer["rows"]), answer["total"]), (50, 111))
        saved = self.client.get(f"{AT}/trail/{answer['id']}/file")
        self.assertEqual(len(saved.text.splitlines()), 112)
        self.assertIn("list-the-sales-over-9.csv", saved.headers["content-disposition"])
        declined = self.sent("questions", {"question": "sing me a sea shanty"})
        self.assertEqual(self.client.get(f"{AT}/trail/{declined['id']}/file").status_code, 404)
        self.assertEqual(list((self.folder / "scratch").glob("answer-*")), [])

    def test_a_plan_from_outside(self) -> None:
        group = {"step": "group", "by": ["town"], "aggregates": [{"name": "n", "function": "count"}]}
        plan = {"version": 1, "steps": [{"step": "take", "table": "shops"}, group]}
        worked = self.sent("plans", {"plan": plan})
        self.assertEqual((worked["total"], worked["checks"][0]["weight"]), (3, "holds"))
        self.assertIn("GROUP BY", self.sent("plans/sql", {"plan": plan, "dialect": "spark"})["sql"])
        refused = self.sent("plans", {"plan": {"steps": [{"step": "take", "table": "shop"}]}}, 422)
        self.assertIn("step 1: there is no table shop; there are", refused["problem"])
        limit = {"step": "limit", "rows": 3}
        refused = self.sent("plans", {"plan": {"steps": [*plan["steps"], limit]}}, 422)
        self.assertEqual(refused["where"], "steps.2", "the step at fault, for programs")
        count = {"step": "group", "by": ["town"], "aggregates": [{"name": "n", "function": "sum", "column": "twn"}]}
        refused = self.sent("plans", {"plan": {"steps": [plan["steps"][0], count]}}, 422)
        self.assertEqual((refused["where"], refused["found"]), ("steps.1", "twn"), "found in a process of work")
        self.assertIn("town", refused["accepted"])

    def test_sql_of_their_own(self) -> None:
        given = self.sent("sql", {"sql": "SELECT town, 1.5 AS half FROM shops ORDER BY town LIMIT 2"})
        self.assertEqual((given["rows"], given["whole"]), ([["Alder", 1.5], ["Birch", 1.5]], True))
        refused = self.sent("sql", {"sql": "SELECT * FROM elsewhere"}, 422)
        self.assertIn("There is no table", refused["problem"])
        self.assertEqual((refused["found"], "shops" in refused["accepted"]), ("elsewhere", True))
        self.assertIn("Only one SELECT", self.sent("sql", {"sql": "DROP TABLE shops"}, 422)["problem"])

    def test_work_is_stopped_by_its_number(self) -> None:
        endless = "SELECT count(*) FROM range(100000000) a, range(100000000) b WHERE a.range + b.range = 7"
        with ThreadPoolExecutor(1) as beside:
            running = beside.submit(self.client.post, f"{AT}/sql", json={"sql": endless, "run": "r1"})
            for _ in range(100):
                if self.client.post(f"{AT}/runs/r1/stop").status_code == 204:
                    break
                time.sleep(0.05)
            answer = running.result(timeout=5)
        self.assertEqual((answer.status_code, answer.json()["problem"]), (409, "It was stopped before it was done."))
        self.assertEqual(self.client.post(f"{AT}/runs/r1/stop").status_code, 404)
        self.assertEqual(self.client.get(f"{AT}/runs/r1").json(), {"told": None})

    def test_examples_come_by_themselves(self) -> None:
        for _ in range(200):
            tables = self.client.get(AT).json()["tables"]
            if all(t["examples"] for t in tables if t["table"]["name"] == "sales"):
                break
            time.sleep(0.1)
        asked = next(t["examples"] for t in tables if t["table"]["name"] == "sales")
        self.assertEqual(self.ask(asked[0])["status"], "answered")


class Questions(Served):
    def test_an_answer_as_a_workbook_and_as_parquet(self) -> None:
        answer = self.sent("questions", {"question": "total amount by town and month"})
        saved = self.client.get(f"{AT}/trail/{answer['id']}/file?form=xlsx")
        book = CalamineWorkbook.from_filelike(io.BytesIO(saved.content))
        head, *rows = book.get_sheet_by_name("Answer").to_python()
        self.assertEqual(head, [f["label"] for f in answer["fields"]])
        self.assertEqual([[r[0], str(r[1]), r[2]] for r in rows], answer["rows"])
        self.assertIsInstance(rows[0][1], dt.date, "a day is a day")
        proof = {line[0]: line[1] for line in book.get_sheet_by_name("Proof").to_python() if line[0]}
        self.assertEqual((proof["Question"], proof["Found"]), ("total amount by town and month", answer["finding"]))
        self.assertIn("both ways agree", proof["Checks"])
        with zipfile.ZipFile(io.BytesIO(saved.content)) as inside:
            self.assertIn("xl/tables/table1.xml", inside.namelist(), "a table of the workbook's own")
        saved = self.client.get(f"{AT}/trail/{answer['id']}/file?form=parquet")
        table = pq.read_table(io.BytesIO(saved.content))
        self.assertEqual([str(t) for t in table.schema.types], ["string", "date32[day]", "decimal128(38, 2)"])
        self.assertEqual(
            [[r[0], str(r[1]), float(r[2])] for r in zip(*table.to_pydict().values(), strict=True)], answer["rows"]
        )
        listed = self.client.get(f"{AT}/trail/{answer['id']}/file?form=json").json()
        self.assertEqual([list(r.values()) for r in listed], answer["rows"])
        self.assertEqual(list(listed[0]), [f["name"] for f in answer["fields"]])
        self.assertEqual(self.client.get(f"{AT}/trail/{answer['id']}/file?form=doc").status_code, 422)

    def test_the_rows_behind_a_row(self) -> None:
        answer = self.sent("questions", {"question": "total amount by town and month"})
        for place in (0, 7):
            rows = self.client.get(f"{AT}/trail/{answer['id']}/behind?row={place}").json()
            amounts = [f["name"] for f in rows["fields"]].index("amount")
            self.assertAlmostEqual(sum(r[amounts] for r in rows["rows"]), answer["rows"][place][2])
            self.assertEqual(rows["checks"][0]["weight"], "holds")
        alone = self.sent("questions", {"question": "how many sales"})
        for number, row in ((answer["id"], 9_999), (alone["id"], 0)):
            self.assertEqual(self.client.get(f"{AT}/trail/{number}/behind?row={row}").status_code, 404)

    def test_what_moved_a_figure_and_what_is_to_come(self) -> None:
        moved = self.sent("questions", {"question": "why did amount change in June 2025"})
        self.assertEqual((moved["chart_kind"], moved["study"]["own_rows"]), ("bridge", False))
        self.assertEqual(moved["study"]["ways"], ["shop"])
        other = self.sent("questions", {"question": "by town", "follows": moved["id"]})
        self.assertEqual((other["follows"], other["study"]["ways"][0]), (moved["id"], "town"))
        again = self.client.get(f"{AT}/trail/{other['id']}").json()
        self.assertEqual((again["finding"], again["reading"]), (other["finding"], other["reading"]))
        behind = self.client.get(f"{AT}/trail/{other['id']}/behind?row=0").json()
        self.assertGreater(behind["total"], 0)
        told = self.sent("questions", {"question": "can amount be forecast?"})
        self.assertIn("cannot be forecast" if not told["study"]["own_rows"] else "forecast at", told["finding"])
        looked = self.sent("questions", {"question": "what stands out in sales"})
        self.assertTrue(looked["study"]["own_rows"])
        saved = self.client.get(f"{AT}/trail/{looked['id']}/file?form=csv").text.splitlines()
        self.assertEqual(len(saved) - 1, len(looked["study"]["remarks"]), "what is saved is what is shown")
        beside = self.client.get(f"{AT}/tables/sales/worth").json()
        self.assertEqual(beside, looked["study"]["remarks"][: len(beside)], "beside the table stands the first of it")
        self.assertEqual(self.client.get(f"{AT}/tables/nothing/worth").json(), [])
        totals = self.client.get(f"{AT}/trail/{looked['id']}/totals").json()
        self.assertEqual(totals, [None, None])

    def test_another_chart_of_an_answer(self) -> None:
        answer = self.sent("questions", {"question": "total amount by town"})
        self.assertEqual((answer["chart_kind"], answer["chart_kinds"]), ("bar", ["bar", "pie"]))
        drawn = self.client.get(f"{AT}/trail/{answer['id']}?drawn=pie%20labels").json()
        self.assertEqual((drawn["chart_kind"], drawn["rows"], drawn["chart_note"]), ("pie", answer["rows"], ""))
        self.assertNotEqual(drawn["chart"], answer["chart"])
        along = self.sent("questions", {"question": "total amount by month"})
        self.assertEqual((along["chart_kind"], along["chart_kinds"]), ("line", ["bar", "line", "area", "pie"]))

    def test_what_was_read(self) -> None:
        found = self.workspace()
        self.assertEqual(
            sorted(t["table"]["name"] for t in found["tables"] if t["table"]["name"] in ("sales", "shops")),
            ["sales", "shops"],
        )
        self.assertIn(
            ("sales", "shop_id", "shops"), [(r["table"], r["column"], r["other"]) for r in found["relationships"]]
        )
        rows = self.client.get(f"{AT}/tables/sales/rows?offset=100&limit=50").json()
        self.assertEqual((rows["total"], len(rows["rows"]), rows["rows"][0][0]), (120, 20, 100))

    def test_questions_hang_in_a_trail(self) -> None:
        first = self.ask("total amount by shop")
        self.assertEqual(
            (first["status"], len(first["rows"]), first["checks"][0]["sentence"]),
            ("answered", 3, "Computed twice, both ways agree"),
        )
        self.assertEqual(first["chart"]["$schema"].split("/")[-1], "v6.json")
        second = self.ask("only Birch", first["id"])
        self.assertEqual([row[0] for row in second["rows"]], ["Elm"])
        trail = {e["id"]: e for e in self.client.get(f"{AT}/trail").json()}
        self.assertEqual(trail[second["id"]]["parent"], first["id"])
        again = self.client.get(f"{AT}/trail/{second['id']}").json()
        self.assertEqual((again["rows"], again["reading"]), (second["rows"], second["reading"]))

    def test_a_question_is_starred_named_and_deleted_with_what_follows_it(self) -> None:
        first = self.ask("total amount by town")
        then = self.ask("only Birch", follows=first["id"])
        beside = self.ask("how many sales")
        named = {"starred": True, "title": "  Towns "}
        self.assertEqual(self.client.put(f"{AT}/trail/{first['id']}", json=named).status_code, 204)
        trail = {e["id"]: e for e in self.client.get(f"{AT}/trail").json()}
        self.assertEqual((trail[first["id"]]["starred"], trail[first["id"]]["title"]), (True, "Towns"))
        self.assertEqual(self.client.delete(f"{AT}/trail/{first['id']}").status_code, 204)
        left = {e["id"] for e in self.client.get(f"{AT}/trail").json()}
        self.assertEqual(left & {first["id"], then["id"], beside["id"]}, {beside["id"]})
        for gone in (first, then):
            self.assertEqual(self.client.delete(f"{AT}/trail/{gone['id']}").status_code, 404)
            self.assertEqual(self.client.put(f"{AT}/trail/{gone['id']}", json=named).status_code, 404)

    def test_what_follows_on(self) -> None:
        first = self.ask("total amount by shop")
        nexts = self.client.get(f"{AT}/trail/{first['id']}/next").json()
        self.assertTrue(0 < len(nexts) <= 3)
        for follow in nexts:
            self.assertNotEqual(self.ask(follow, first["id"])["reading"], first["reading"])

    def test_a_choice_a_mark_and_their_end(self) -> None:
        marked = self.ask("amount in Cedar")
        self.assertIsNone(marked["lesson"])
        lesson = self.sent(f"trail/{marked['id']}/mark", {"right": True})
        kin = self.ask("amount in Alder")
        self.assertEqual((kin["lesson"], kin["doubt"]), (lesson, None))
        taken = self.sent("questions", {"question": "amount in Birch", "choice": 1, "remember": True})
        self.assertEqual(taken["lesson"]["kind"], "chosen")
        self.assertEqual(self.ask("amount in Cedar")["reading"].replace("Cedar", "Birch"), taken["reading"])
        again = self.client.get(f"{AT}/trail/{marked['id']}").json()
        self.assertEqual(again["reading"], marked["reading"], "what was answered stays as it was")
        held = self.client.get(f"{AT}/lessons").json()
        self.assertEqual([h["id"] for h in held], [taken["lesson"]["id"]], "the later choice took the place")
        self.assertEqual(self.client.delete(f"{AT}/lessons/{held[0]['id']}").status_code, 204)
        self.assertEqual(self.client.delete(f"{AT}/lessons/{held[0]['id']}").status_code, 404)
        self.assertIsNone(self.ask("amount in Alder")["lesson"])
        self.sent("trail/999999/mark", {"right": True}, 404)

    def test_what_is_asked_back_is_answered_in_its_place(self) -> None:
        choosing = "gumption.engines.choosing"
        with mock.patch(f"{choosing}.worth_asking", lambda _: True), mock.patch(f"{choosing}.NEAR", 9.0):
            asked = self.ask("amount in Birch")
        self.assertEqual(asked["status"], "asks")
        self.assertNotIn("rows", asked, "nothing is an answer until one is chosen")
        self.assertTrue(all(a["finding"] for a in asked["alternatives"]))
        body = {"question": asked["question"], "choice": 1, "asked_by": asked["id"]}
        taken = self.sent("questions", body)
        self.assertEqual((taken["id"], taken["status"]), (asked["id"], "answered"))
        self.assertEqual(taken["reading"], asked["alternatives"][1]["reading"])
        self.assertEqual(self.client.get(f"{AT}/trail/{asked['id']}").json()["reading"], taken["reading"])

    def test_a_word_is_given_a_meaning(self) -> None:
        refused = self.ask("footfall by town")
        self.assertEqual((refused["status"], refused["unread"]), ("declined", ["footfall"]))
        place = {"question": "footfall by town", "start": 0, "end": 8}
        counted = next(o for o in self.sent("words", place) if o["meaning"] == "number of sales")
        body = {"question": "footfall by town", "terms": [counted["term"]], "asked_by": refused["id"]}
        meant = self.sent("questions", body)
        self.assertEqual(
            (meant["id"], meant["status"], meant["terms"][0]["term"]["id"]), (refused["id"], "answered", 0)
        )
        self.assertEqual(meant["rows"], self.ask("number of sales by town")["rows"])
        after = self.ask("only Birch", meant["id"])
        self.assertIn("the number of sales", after["reading"])
        other = {"question": "footfall by town", "asked_by": meant["id"]}
        self.assertNotEqual(self.sent("questions", other)["id"], meant["id"], "what was followed stays as it is")
        self.assertEqual(self.ask("footfall by shop")["status"], "declined", "it was said for that question alone")

        kept = self.sent("terms", counted["term"])
        told = self.ask("footfall by shop")
        self.assertEqual((told["status"], told["terms"]), ("answered", [kept]))
        self.assertEqual(self.client.get(f"{AT}/terms").json(), [kept])
        self.sent("terms", {"words": ["zorn"], "text": "the frobnication"}, 422)
        self.sent("words", {"question": "footfall by town", "start": 8, "end": 9}, 422)
        self.assertEqual(self.client.delete(f"{AT}/terms/{kept['term']['id']}").status_code, 204)
        self.assertEqual(self.client.delete(f"{AT}/terms/{kept['term']['id']}").status_code, 404)
        self.assertEqual(self.ask("footfall by shop")["status"], "declined")

    def test_a_word_is_looked_at_before_it_is_kept(self) -> None:
        asked = self.sent("questions", {"question": "large sales by town"})
        large = {"words": ["large sale"], "text": "a sale whose amount is over 100"}
        looked = self.sent("terms/look", large)
        self.assertEqual(
            (looked["problem"], looked["kind"], looked["value"]), ("", "condition", "20 of 120 rows of sales")
        )
        self.assertAlmostEqual(looked["share"], 20 / 120)
        self.assertIn('"line"', json.dumps(looked["chart"]), "how many there were month by month")
        use = next(u for u in looked["uses"] if u["id"] == asked["id"])
        self.assertNotEqual(use["before"], use["after"])
        self.assertEqual({g["kind"] for g in looked["glosses"]} >= {"measure", "operation"}, True)
        self.assertIn("is not understood", self.sent("terms/look", {**large, "text": "zorbly blim"})["problem"])
        self.assertEqual(
            self.sent("terms/look", {"words": ["average sale"], "text": "average amount"})["kind"], "measure"
        )
        clash = self.sent("terms/look", {"words": ["amount"], "table": "shops"})
        self.assertIn("also the column sales.amount", clash["clashes"][0])
        kept = [
            self.sent("terms", large),
            self.sent("terms", {"words": ["takings", "till"], "table": "sales", "column": "amount", "note": "=what"}),
        ]
        again = [
            self.sent("terms/look", {"words": [w], "text": "average amount"})["clashes"] for w in ("Takings", "till")
        ]
        self.assertIn("means sales.amount so far; saved, this takes its place", again[0][0])
        self.assertIn("also means sales.amount; the word that was defined last", again[1][0])
        kinds = self.client.get(f"{AT}/terms/kinds").json()
        self.assertEqual([kinds[str(k["term"]["id"])]["kind"] for k in kept], ["condition", "other name"])
        saved = self.client.get(f"{AT}/terms/file").text
        self.assertIn("takings; till,sales,amount,,,'=what", saved)
        for one in kept:
            self.client.delete(f"{AT}/terms/{one['term']['id']}")
        taken = self.client.post(f"{AT}/terms/file", files={"file": ("words.csv", saved)}).json()
        self.assertEqual([{**t["term"], "id": 0} for t in taken], [{**k["term"], "id": 0} for k in kept])
        wrong = self.client.post(f"{AT}/terms/file", files={"file": ("words.csv", "words,text\n,x\n")})
        self.assertEqual((wrong.status_code, wrong.json()["where"]), (422, "line 2"))
        lines = "words,table,column,value,text,note\ndear,,,,a steep one,\nsteep one,,,,a sale whose amount is over 40,\nodd,sales,colour,,,\n"
        half = self.client.post(f"{AT}/terms/file", files={"file": ("words.csv", lines)})
        self.assertEqual(half.status_code, 422)
        self.assertIn("2 words taken, 1 not. odd: There is no column colour in sales.", half.json()["problem"])
        for one in self.client.get(f"{AT}/terms").json():
            self.client.delete(f"{AT}/terms/{one['term']['id']}")
        self.sent("questions", {"question": "footfall by town"})
        self.assertIn("footfall", [u["word"] for u in self.client.get(f"{AT}/terms/unread").json()])

    def test_what_is_declined_offers_what_is_near(self) -> None:
        refused = self.ask("crime per town")
        self.assertEqual((refused["status"], refused["problem"]), ("declined", "There is no “crime” in these tables."))
        near = refused["alternatives"][0]
        taken = self.ask("crime per town", choice=near["choice"])
        self.assertEqual((taken["status"], taken["reading"]), ("answered", near["reading"]))

    def test_gloss_while_typing(self) -> None:
        found = self.client.post(f"{AT}/gloss", json={"question": "total amount in Birch hopefully"}).json()
        kinds = {g["kind"]: g["note"] for g in found["glosses"]}
        self.assertEqual(kinds["value"], "shops.town = Birch")
        self.assertEqual(kinds["unread"], "not used")
        begun = self.client.post(f"{AT}/gloss", json={"question": "total amount by to"}).json()
        self.assertEqual((begun["status"], begun["reading"]), ("answered", "the total amount"))
        self.assertNotIn("unread", {g["kind"] for g in begun["glosses"]})

    def test_groups_kept_as_a_column(self) -> None:
        rows = [
            f"M{i:03},{'Oak' if i % 3 else 'Elm'},{9 + i % 2 + 40 * (i % 4 == 0)},{100 + 900 * (i % 4 == 0)}"
            for i in range(80)
        ]
        pasted = {"name": "members", "content": "member_id,club,age,spend\n" + "\n".join(rows)}
        self.wait(self.client.post(f"{AT}/pasted", json=pasted).json()["id"])
        groups = self.ask("group the members by age and spend")
        self.assertEqual(groups["study"]["keeps"]["column"], "member group")
        job = self.wait(self.client.post(f"{AT}/trail/{groups['id']}/kept").json()["id"])
        self.assertEqual((job["status"], job["tables"]), ("done", ["member_groups"]))
        counted = self.ask(groups["study"]["keeps"]["question"])
        self.assertEqual(sorted(r[1] for r in counted["rows"]), sorted(r[1] for r in groups["rows"]))
        self.assertEqual(self.client.post(f"{AT}/trail/{counted['id']}/kept").status_code, 422)
        for table in ("member_groups", "members"):
            self.client.delete(f"{AT}/tables/{table}")

    def test_a_text_of_several_questions(self) -> None:
        text = "total amount in Birch. And how many shops are there?"
        self.assertTrue(self.client.post(f"{AT}/gloss", json={"question": text}).json()["several"])
        found = self.client.post(f"{AT}/briefs", json={"question": text}).json()
        self.assertEqual(len(found["tasks"]), 2)
        self.assertIn("town is Birch", found["tasks"][0]["reading"])
        self.assertEqual(found["tasks"][1]["status"], "answered")

    def test_completions_while_typing(self) -> None:
        def completed(question: str) -> list[tuple[str, str, int]]:
            found = self.client.post(f"{AT}/gloss", json={"question": question}).json()["completions"]
            return [(c["text"], c["kind"], c["start"]) for c in found]

        self.assertIn(("amount", "column", 6), completed("total amo"))
        self.assertIn(("Birch", "value", 16), completed("total amount in bir"))
        self.assertEqual(completed("total amount "), [])
        self.assertEqual(completed("x"), [])

    def test_an_answer_is_written_as_its_reader_writes(self) -> None:
        asked = {"question": "total amount by day in March 2025"}
        plain = self.client.post(f"{AT}/questions", json=asked).json()
        own = self.client.post(f"{AT}/questions", json=asked, headers={"X-Style": "point day.month"}).json()
        self.assertEqual((plain["cells"][0], own["cells"][0]), (["5 Mar 2025", "565.00"], ["05.03.2025", "565,00"]))
        self.assertIn("565,00", own["finding"])
        self.assertEqual(own["rows"], plain["rows"])
        self.assertEqual(own["reading"], plain["reading"])
        # What was kept in one style is not given in another.
        again = self.client.get(f"{AT}/trail/{own['id']}").json()
        self.assertEqual(again["cells"][0], plain["cells"][0])
        refused = self.client.get(f"{AT}/trail/{own['id']}", headers={"X-Style": "roman words"})
        self.assertEqual(refused.status_code, 422)
        self.assertIn("X-Style is one of comma", refused.json()["advice"])

    def test_a_picture_from_inside_the_network_is_not_fetched(self) -> None:
        answer = self.client.get(f"{AT}/picture", params={"address": "http://127.0.0.1/a.png"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("inside the network", answer.json()["problem"])

    def test_bad_questions(self) -> None:
        before = len(self.client.get(f"{AT}/trail").json())
        empty = self.client.post(f"{AT}/questions", json={"question": "  "})
        self.assertEqual(empty.status_code, 422)
        self.assertIn("Type a question", empty.json()["advice"])
        self.assertEqual(len(self.client.get(f"{AT}/trail").json()), before)
        long = self.ask("why " * 2500)
        self.assertEqual(long["status"], "declined")
        self.assertIn("10,000 characters", long["problem"])
        self.assertEqual(self.ask("sing me a sea shanty")["status"], "declined")

    def test_bad_files_harm_nothing(self) -> None:
        before = self.workspace()
        cases: dict[str, tuple[str, str | bytes, str]] = {
            "empty": ("none.csv", b"", "empty"),
            "header alone": ("head.csv", "a,b\n", "no row below"),
            "no table": ("pic.csv", b"\x89PNG\r\n\x1a\n" + bytes(range(256)), "not text"),
            "broken workbook": ("book.xlsx", b"PK\x03\x04junkjunk", "broken"),
            "wrong ending": ("notes.pdf", b"%PDF-1.4", "cannot be read"),
            "a path in the name": ("../../etc/evil.csv", "a,b\n1,2\n", "path"),
            "too large": ("big.csv", "a,b\n" + "1,2\n" * 20_000, "larger than"),
        }
        for name, (file, content, message) in cases.items():
            with self.subTest(name):
                ended = self.send({file: content})
                self.assertEqual(ended[0]["status"], "failed")
                self.assertIn(message, ended[0]["problem"])
        self.assertEqual(self.workspace(), before)
        self.assertEqual(list((self.folder / "incoming").iterdir()), [])

    def test_the_same_name_twice_and_deleting(self) -> None:
        self.send({"shops.csv": SHOPS})
        names = [t["table"]["name"] for t in self.workspace()["tables"]]
        self.assertIn("shops_2", names)
        folders = len(list((self.folder / "tables").iterdir()))
        self.assertEqual(self.client.delete(f"{AT}/tables/shops_2").status_code, 204)
        self.assertEqual(len(list((self.folder / "tables").iterdir())), folders - 1)
        self.assertEqual(self.client.delete(f"{AT}/tables/shops_2").status_code, 404)

    def test_what_an_interrupted_upload_left_is_swept(self) -> None:
        stray = self.folder / "tables" / "stray"
        stray.mkdir()
        kept = Workspace(self.records, self.folder)
        self.assertFalse(stray.exists())
        self.assertTrue(all(s.parquet.exists() for s in kept.stored))

    def test_what_was_removed_while_it_was_filled_leaves_no_folder(self) -> None:
        workspace = self.shelf.room(1).workspace
        folder = workspace.new_folder()
        (folder / "rows.parquet").write_text("rows")
        workspace.filled(folder)
        self.assertFalse(folder.exists())
        self.assertTrue(all(s.parquet.exists() for s in workspace.stored))

    def test_the_day_that_counts_as_today(self) -> None:
        self.client.put(f"{AT}/as-of", json={"as_of": "2025-04-10"})
        self.assertEqual(self.ask("how many sales last month")["rows"], [[10]])
        self.client.put(f"{AT}/as-of", json={"as_of": None})
