"""Tables over HTTP: uploads that break off and go on, acts undone, newer files, versions, joins, meanings, rows in any order."""

from __future__ import annotations

import time
from dataclasses import replace
from typing import Any
from unittest import mock

import xlsxwriter

from gumption.core.model.origin import FromAddress
from gumption.feed.service import feed_beside
from gumption.intake.errors import UnreadableFile
from gumption.intake.sources import Allowed
from gumption.server.problems import NoTable
from gumption.server.workspace import Workspace
from tests.intake.dirty_files import book
from tests.server.opened import AT, TUS
from tests.server.test_api import SHOPS, Served

MESSY = (
    "Sales\nshop,on,amount\n"
    + "".join(f"S{i % 3},0{1 + i % 9}/03/2024,{i}.50\n" for i in range(30))
    + "Total,,450.00\n"
)


class Tables(Served):
    def table(self, name: str) -> dict[str, Any]:
        return next(t for t in self.workspace()["tables"] if t["table"]["name"] == name)

    def change(self, name: str, **recipe: Any) -> dict[str, Any]:
        whole = {**self.table(name)["recipe"], **recipe}
        job = self.client.put(f"{AT}/tables/{name}/recipe", json=whole).json()
        ended = self.wait(job["id"])
        self.assertEqual(ended["status"], "done", ended)
        return self.table(name)

    def test_an_upload_goes_on_where_it_broke_off(self) -> None:
        data = SHOPS.encode()
        place = self.begin("resumed.csv", data).headers["Location"]
        self.assertEqual(self.piece(place, 0, data[:20]).headers["Upload-Offset"], "20")
        self.assertEqual(self.piece(place, 5, data[5:]).status_code, 409)
        head = self.client.head(place, headers=TUS)
        self.assertEqual((head.headers["Upload-Offset"], head.headers["Upload-Length"]), ("20", str(len(data))))
        self.shelf.put_down(1)
        self.assertTrue(any(u.file == "resumed.csv" for u in self.records.uploads()), "a restart forgets no upload")
        self.assertEqual(self.piece(place, 20, data[20:]).status_code, 204)
        self.assertEqual(self.wait(place.rsplit("/", 1)[1])["tables"], ["resumed"])
        self.assertEqual(self.client.head(place, headers=TUS).status_code, 404)

    def test_the_protocol_is_kept(self) -> None:
        told = self.client.options(f"{AT}/uploads").headers
        self.assertEqual((told["Tus-Version"], told["Tus-Extension"]), ("1.0.0", "creation,termination"))
        self.assertEqual(self.client.post(f"{AT}/uploads").status_code, 412)
        place = self.begin("gone.csv", SHOPS).headers["Location"]
        self.assertEqual(self.client.patch(place, content=b"x", headers={**TUS, "Upload-Offset": "0"}).status_code, 415)
        self.assertEqual(self.piece(place, 0, b"x" * 5000).status_code, 413)
        self.assertEqual(self.client.delete(place, headers=TUS).status_code, 204)
        self.assertEqual(self.client.head(place, headers=TUS).status_code, 404)
        self.assertEqual(self.begin("big.csv", b"", announced=60_000).status_code, 413)

    def test_a_reading_can_be_stopped(self) -> None:
        before = self.workspace()
        job = self.client.post(f"{AT}/pasted", json={"name": "slow", "content": "a,b\n" + "1,2\n" * 400_000}).json()
        while self.client.get(f"{AT}/jobs/{job['id']}").json()["status"] == "waiting":
            time.sleep(0.01)
        self.assertEqual(self.client.delete(f"{AT}/jobs/{job['id']}").status_code, 204)
        self.assertEqual(self.wait(job["id"])["status"], "cancelled")
        self.assertEqual(self.workspace(), before)
        self.assertEqual(self.client.delete(f"{AT}/jobs/{job['id']}").status_code, 409)

    def test_acts_are_undone_and_done_again(self) -> None:
        self.send({"messy.csv": MESSY})
        self.assertEqual(self.table("messy")["table"]["rows"], 30)
        undone = self.change("messy", declined=["totals"])
        self.assertEqual(undone["table"]["rows"], 31)
        turned = self.change("messy", declined=[], orders={"on": "month"})
        column = next(c for c in turned["table"]["columns"] if c["name"] == "on")
        self.assertEqual((turned["table"]["rows"], column["high"]), (30, "2024-09-03"))
        wrong = self.client.put(
            f"{AT}/tables/messy/recipe", json={"steps": [{"kind": "fill_down", "column": "nowhere"}]}
        )
        ended = self.wait(wrong.json()["id"])
        self.assertEqual((ended["status"], self.table("messy")["table"]["rows"]), ("failed", 30))
        self.assertIn("no column nowhere", ended["problem"])
        self.client.delete(f"{AT}/tables/messy")

    def test_a_hidden_sheet_comes_in_when_its_leaving_out_is_undone(self) -> None:
        def build(workbook: xlsxwriter.Workbook) -> None:
            for name in ("Seen", "Unseen"):
                sheet = workbook.add_worksheet(name)
                for row, cells in enumerate((("a", "n"), ("x", 1), ("y", 2))):
                    sheet.write_row(row, 0, cells)
            sheet.hide()

        self.assertEqual(self.send({"two.xlsx": book(build)})[0]["tables"], ["two"])
        self.change("two", declined=["hidden_sheets"])
        self.assertEqual(self.table("unseen")["table"]["rows"], 2)
        self.change("unseen", declined=["hidden_sheets", "type:n"])
        self.assertEqual(self.table("two")["table"]["rows"], 2)
        for name in ("two", "unseen"):
            self.client.delete(f"{AT}/tables/{name}")

    def test_a_newer_file_waits_for_a_yes_and_the_old_version_comes_back(self) -> None:
        self.send({"monthly.csv": MESSY})
        self.change("monthly", steps=[{"kind": "formula", "name": "twice", "formula": "amount * 2"}])
        newer = MESSY.replace("amount", "amount,tax").replace(".50\n", ".50,1\n").replace("450.00\n", "450.00,30\n")
        ended = self.send({"newer.csv": newer.replace("Sales\n", "Sales\nof spring\n")}, replaces="monthly")[0]
        waiting = ended["replacement"]
        self.assertEqual((waiting["rows_before"], waiting["rows_after"]), (30, 30))
        self.assertEqual(waiting["changes"], [{"column": "tax", "what": "is new, integer"}])
        self.assertEqual(len(self.table("monthly")["table"]["columns"]), 4, "nothing is changed before the yes")
        self.assertEqual(self.client.post(f"{AT}/replacements/{waiting['id']}").json(), "monthly")
        after = self.table("monthly")
        self.assertEqual([c["name"] for c in after["table"]["columns"]], ["shop", "on", "amount", "tax", "twice"])
        self.assertEqual((after["version"], [v["version"] for v in after["versions"]]), (2, [1]))
        self.assertEqual(self.client.post(f"{AT}/tables/monthly/versions/1").status_code, 204)
        back = self.table("monthly")
        self.assertEqual((len(back["table"]["columns"]), [v["version"] for v in back["versions"]]), (4, [2]))
        self.assertEqual(self.client.post(f"{AT}/tables/monthly/versions/9").status_code, 404)
        refused = self.send({"other.csv": newer}, replaces="monthly")[0]["replacement"]
        self.assertEqual(self.client.delete(f"{AT}/replacements/{refused['id']}").status_code, 204)
        self.assertEqual(self.client.post(f"{AT}/replacements/{refused['id']}").status_code, 404)
        self.client.delete(f"{AT}/tables/monthly")
        self.assertEqual([v for v in self.records.versions() if v.stored.table.name == "monthly"], [])

    def test_meanings_weigh_in_questions(self) -> None:
        self.send({"odd.csv": "zk,grp,on\n" + "".join(f"{i},{'AB'[i % 2]},2025-01-0{1 + i % 9}\n" for i in range(20))})
        self.assertTrue(self.table("odd")["guesses"]["zk"]["dark"])
        said = self.client.post(
            f"{AT}/tables/odd/dictionary",
            files={"file": ("d.csv", "column,meaning,also\nzk,number of packs,packs\n")},
        )
        self.assertEqual(said.json(), ["zk"])
        self.assertEqual([r[-1] for r in self.ask("total packs by grp")["rows"]], [100, 90])
        meaning = self.table("odd")["meaning"]
        meaning["columns"]["zk"]["aggregate"] = "mean"
        meaning["synonyms"] = ["parcels"]
        self.assertEqual(self.client.put(f"{AT}/tables/odd/meaning", json=meaning).status_code, 204)
        self.assertEqual(self.ask("how many parcels")["rows"], [[20]])
        bad = self.client.post(f"{AT}/tables/odd/dictionary", files={"file": ("d.csv", "x,y\n1,2\n")})
        self.assertEqual(bad.status_code, 422)
        self.client.delete(f"{AT}/tables/odd")

    def test_what_one_file_says_of_another_is_known_once_both_are_here(self) -> None:
        """A code book and a list of codes come after the figures that they speak of, and go again."""
        figures = "k1,sector,size,hx\n" + "".join(f"{i},{'AB'[i % 2]},{'SML'[i % 3]},{i % 7}\n" for i in range(40))
        self.send({"figures.csv": figures})
        self.assertNotEqual(self.ask("total hours in farming").get("rows"), [[60]])
        self.send(
            {
                "book.csv": "column,meaning\nk1,number of the holding\nsector,sector of the holding\nsize,size of the holding\nhx,hours worked\n",
                "codes.csv": (
                    "field,code,label\nsector,A,Farming\nsector,B,Fishing\nsize,S,Small\nsize,M,Middling\nsize,L,Large\n"
                ),
            }
        )
        self.assertEqual(self.ask("total hours in farming")["rows"], [[sum(i % 7 for i in range(0, 40, 2))]])
        for name in ("book", "codes", "figures"):
            self.client.delete(f"{AT}/tables/{name}")

    def test_joins_by_a_persons_word(self) -> None:
        join = {"table": "sales", "columns": ["shop_id"], "other": "shops", "other_columns": ["shop_id"]}

        def used() -> bool:
            return any(r["table"] == "sales" and r["other"] == "shops" for r in self.workspace()["relationships"])

        self.assertTrue(used())
        self.assertEqual(self.client.put(f"{AT}/joins", json={**join, "decision": "forbidden"}).status_code, 204)
        self.assertFalse(used())
        self.assertEqual(len(self.client.get(f"{AT}/tables/sales/joins").json()["forbidden"]), 1)
        self.client.put(f"{AT}/joins", json={**join, "decision": "found"})
        self.assertTrue(used())
        back = {
            "table": "shops",
            "columns": ["shop_id"],
            "other": "sales",
            "other_columns": ["shop_id"],
            "decision": "accepted",
        }
        refused = self.client.put(f"{AT}/joins", json=back)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("more than one partner", refused.json()["problem"])

    def test_a_table_whose_password_cannot_be_opened_any_more_says_so(self) -> None:
        lost = UnreadableFile("sales", "its password cannot be opened any more.", "Connect to it anew.")
        stored = next(s for s in self.records.tables() if s.table.name == "sales")
        stored = replace(stored, origin=FromAddress(url="https://example.org/s.csv"))
        with (
            mock.patch.object(Workspace, "stored_table", return_value=stored),
            mock.patch.object(Workspace, "secret_of", side_effect=lost),
        ):
            answer = self.client.post(f"{AT}/tables/sales/fetched")
        self.assertEqual(answer.status_code, 422)
        told = {"problem": "Its password cannot be opened any more.", "advice": "Connect to it anew."}
        self.assertEqual(answer.json(), {**told, "where": "sales", "found": "", "accepted": []})

    def test_codes_that_are_text_elsewhere_are_read_as_text(self) -> None:
        codes = (1010, 2050, 3070, 4400)
        self.send({"costs.csv": "Centre code,Worth\n" + "".join(f"{c},{n}.50\n" for n in range(9) for c in codes)})
        kind = {c["name"]: c["type"] for c in self.table("costs")["table"]["columns"]}
        self.assertEqual(kind["Centre code"], "integer")
        odd = "".join(f"10X{n},Store {n}\n" for n in range(3))
        self.send({"centres.csv": "Number,Department\n" + "".join(f"{c},D{c}\n" for c in codes) + odd})
        costs = self.table("costs")
        self.assertEqual({c["name"]: c["type"] for c in costs["table"]["columns"]}["Centre code"], "text")
        told = self.client.get(f"{AT}/tables/costs/joins").json()["joins"]
        joined = [
            (j["relationship"]["column"], j["relationship"]["other"], j["relationship"]["other_column"]) for j in told
        ]
        self.assertIn(("Centre code", "centres", "Number"), joined)
        # What a person says of it holds from then on.
        self.change("costs", types={"Centre code": "integer"})
        self.send({"centres_more.csv": "Number,Head\n" + "".join(f"{c},H{c}\n" for c in codes) + "10X9,None\n" * 1})
        kind = {c["name"]: c["type"] for c in self.table("costs")["table"]["columns"]}
        self.assertEqual(kind["Centre code"], "integer")

    def test_a_table_that_is_gone_by_now_is_told_as_that(self) -> None:
        stored = next(s for s in self.records.tables() if s.table.name == "sales")
        with mock.patch.object(Workspace, "stored_table", side_effect=[stored, NoTable("sales")]):
            answer = self.client.delete(f"{AT}/tables/sales")
        self.assertEqual((answer.status_code, answer.json()["problem"]), (404, "There is no table sales."))

    def test_rows_in_any_order(self) -> None:
        def rows(**view: Any) -> dict[str, Any]:
            return dict(self.client.get(f"{AT}/tables/sales/rows", params=view).json())

        down = rows(sort="amount", descending=True, limit=3)
        self.assertEqual([r[3] for r in down["rows"]], [119.5, 118.5, 117.5])
        some = rows(filter="2025-02", sort="sale_id", limit=200)
        self.assertEqual((some["total"], [r[0] for r in some["rows"]][:2]), (10, [1, 13]))
        self.assertEqual(rows(filter="100%_")["total"], 0)
        self.assertEqual(rows(sort="nowhere").get("problem"), "sales has no column nowhere.")
        text = self.client.get(f"{AT}/tables/sales/file?form=csv").text.splitlines()
        self.assertEqual((len(text), text[1]), (121, "0,S0,2025-01-05,0.50"))

    def test_fetched_rows_and_what_is_never_sent_back(self) -> None:
        origin = {"kind": "folder", "path": "/etc/passwd"}
        job = self.client.post(f"{AT}/fetched", json={"origin": origin}).json()
        self.assertIn("No folder of this machine is open", self.wait(job["id"])["problem"])
        self.send({"part_2023.csv": SHOPS, "part_2024.csv": SHOPS})
        offered = next(s for t in self.workspace()["tables"] for s in t["suggestions"] if s["append"])
        self.assertLessEqual({"part_2023", "part_2024"}, set(offered["append"]["tables"]))
        job = self.client.post(f"{AT}/fetched", json={"origin": offered["append"], "name": offered["name"]}).json()
        made = self.wait(job["id"])["tables"][0]
        self.assertEqual(self.table(made)["table"]["rows"], 3 * len(offered["append"]["tables"]))
        for name in (made, "part_2023", "part_2024"):
            self.client.delete(f"{AT}/tables/{name}")
        stored = self.workspace_object().stored[0]
        sealed = self.workspace_object().secrets.sealed("sesame")
        self.assertNotIn("sesame", sealed)
        self.assertNotIn("secret", str(self.workspace()["tables"][0].keys()))
        self.assertNotIn(sealed, repr(stored))

    def test_a_series_by_its_code(self) -> None:
        with feed_beside() as feed, mock.patch.object(self.shelf.room(1).jobs, "allowed", Allowed(feed=feed)):
            listed = self.client.get(f"{AT}/feed", params={"about": "pet food"}).json()
            self.assertEqual([(s["code"], s["kind"]) for s in listed], [("PETFX", "index")])
            wrong = self.client.post(f"{AT}/fetched", json={"origin": {"kind": "feed", "code": "PETZ"}})
            self.assertEqual((wrong.status_code, "PETFX" in wrong.json()["advice"]), (422, True))
            job = self.client.post(f"{AT}/fetched", json={"origin": {"kind": "feed", "code": "petfx"}}).json()
            name = self.wait(job["id"])["tables"][0]
            entry = self.table(name)
            index = next(c for c in entry["table"]["columns"] if c["name"] == "PETFX")
            self.assertEqual((index["role"], index["description"]), ("score", "index: prices of pet food, 2015 = 100"))
            # What was before the tables' own first year meets nothing in them.
            self.assertEqual(entry["origin"], {"kind": "feed", "code": "PETFX", "begin": "2025-01-01"})
            again = self.client.post(f"{AT}/tables/{name}/fetched").json()
            self.assertIsNotNone(self.wait(again["id"])["replacement"])
            self.client.delete(f"{AT}/tables/{name}")
        self.assertIn("no feed of series", self.client.get(f"{AT}/feed").json()["problem"])

    def workspace_object(self) -> Workspace:
        return Workspace(self.records, self.folder)

    def test_the_guide_and_a_look(self) -> None:
        guide = self.client.get(f"{AT}/guide").json()["tables"]
        self.assertTrue(all(m["holds"] for m in guide["shops"] if m["name"] == "No totals among the rows"))
        self.assertIn("One row a sale: 120 rows", self.client.get(f"{AT}/tables/sales/look").json()["words"])

    def test_zz_everything_is_deleted_for_good(self) -> None:
        self.assertEqual(self.client.delete(f"{AT}/contents").status_code, 204)
        self.assertEqual(self.workspace()["tables"], [])
        self.assertEqual(list((self.folder / "tables").iterdir()), [])
        self.assertEqual(self.records.tables(), [])
