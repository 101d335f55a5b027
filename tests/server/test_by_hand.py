"""Answers whose steps are changed by hand, over the API: kept, undone, followed, saved and taken elsewhere."""

from __future__ import annotations

import unittest
from typing import Any

from tests.server.opened import AT, client_of, shelf_with

BOATS = "boat,pier,length_m,crew\n" + "".join(f"B{i},{'NSE'[i % 3]}-pier,{5 + i % 9},{i % 4}\n" for i in range(60))


class ByHand(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.shelf = shelf_with(cls, {"boats.csv": BOATS})
        cls.client = client_of(cls, cls.shelf)

    def sent(self, path: str, body: dict[str, Any], status: int = 200) -> Any:
        answer = self.client.post(f"{AT}/{path}", json=body)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def given(self, path: str, status: int = 200) -> Any:
        answer = self.client.get(f"{AT}/{path}")
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def edit(self, number: int, status: int = 200, **edit: Any) -> Any:
        return self.sent(f"trail/{number}/steps", {"edit": edit}, status)

    def with_function(self, number: int, function: str) -> Any:
        """The answer with its group working out something else."""
        answer = self.given(f"trail/{number}")
        path = next(s["path"] for s in answer["steps"] if s["verb"] == "Group by")
        form = self.given(f"trail/{number}/steps/form?path={'.'.join(map(str, path))}")
        row = {**form["filled"]["rows"][0], "function": function}
        filled = {"values": form["filled"]["values"], "rows": [row]}
        return self.edit(number, act="change", path=path, step="group", filled=filled)

    def test_a_change_is_an_entry_of_its_own_and_further_ones_stay_in_it(self) -> None:
        asked = self.sent("questions", {"question": "average length by pier"})
        self.assertIsNone(asked["by_hand"])
        first = self.with_function(asked["id"], "max")
        self.assertNotEqual(first["id"], asked["id"])
        self.assertEqual((first["follows"], first["question"]), (asked["id"], asked["question"]))
        self.assertEqual([f["name"] for f in first["fields"]], ["pier", "highest_length_m"])
        self.assertEqual(first["checks"][0]["sentence"], asked["checks"][0]["sentence"])
        second = self.with_function(first["id"], "min")
        self.assertEqual(second["id"], first["id"])
        self.assertEqual(self.given(f"trail/{asked['id']}")["rows"], asked["rows"])
        line = next(e for e in self.given("trail") if e["id"] == second["id"])
        self.assertEqual(line["title"], "Group by pier: the lowest length m")
        undone = self.edit(second["id"], act="undo")
        self.assertEqual(undone["rows"], first["rows"])
        self.assertEqual((undone["by_hand"]["undo"], undone["by_hand"]["redo"]), (True, True))
        self.assertEqual(self.edit(second["id"], act="redo")["rows"], second["rows"])
        self.edit(second["id"], act="undo")
        plain = self.edit(second["id"], act="undo")
        self.assertEqual(plain["rows"], asked["rows"])
        self.assertIn("nothing to undo", self.edit(second["id"], 422, act="undo")["problem"])

    def test_steps_off_are_shown_and_each_steps_rows_can_be_seen(self) -> None:
        asked = self.sent("questions", {"question": "how many boats with more than 2 crew by pier"})
        keep = next(s["path"] for s in asked["steps"] if s["verb"] == "Keep")
        off = self.edit(asked["id"], act="switch", path=keep)
        self.assertEqual([s["path"] for s in off["steps"]], [s["path"] for s in asked["steps"]])
        self.assertEqual([s["off"] for s in off["steps"] if s["path"] == keep], [True])
        self.assertEqual(sum(row[1] for row in off["rows"]), 60)
        rows = self.given(f"trail/{asked['id']}/steps/rows?path={keep[0]}")
        self.assertEqual(
            (rows["total"], [f["name"] for f in rows["fields"]]), (15, ["boat", "pier", "length_m", "crew"])
        )
        self.assertEqual(self.given(f"trail/{off['id']}/steps/rows?path={keep[0]}")["total"], 60)

    def test_what_follows_goes_on_from_the_question(self) -> None:
        asked = self.sent("questions", {"question": "average length by pier"})
        hand = self.with_function(asked["id"], "max")
        follow = self.sent("questions", {"question": "only N-pier", "follows": hand["id"]})
        self.assertEqual([f["name"] for f in follow["fields"]], ["pier", "average_length_m"])
        self.assertIn("without what was changed by hand", follow["doubt"]["words"])
        self.assertEqual(self.given(f"trail/{follow['id']}")["doubt"], follow["doubt"])
        fresh = self.sent("questions", {"question": "average length by pier"})
        self.assertIsNone(fresh["doubt"])
        self.assertEqual(self.given(f"trail/{hand['id']}/next"), [])
        self.assertEqual(self.given(f"trail/{hand['id']}/others"), [])
        self.sent(f"trail/{hand['id']}/mark", {"right": True}, 422)

    def test_it_is_saved_copied_and_taken_elsewhere(self) -> None:
        asked = self.sent("questions", {"question": "average length by pier"})
        hand = self.with_function(asked["id"], "max")
        csv = self.client.get(f"{AT}/trail/{hand['id']}/file?form=csv").text
        self.assertEqual(csv.splitlines()[0], "pier,highest_length_m")
        self.assertEqual(self.given(f"trail/{hand['id']}/behind?row=0")["total"], 20)
        saved = self.client.get("/api/v1/workspaces/1/saved").content
        made = self.client.post("/api/v1/workspaces/saved", content=saved).json()["id"]
        copy = self.client.post("/api/v1/workspaces/1/copy", json={"title": "Again"}).json()["id"]
        for number in (made, copy):
            there = f"/api/v1/workspaces/{number}/trail"
            line = next(e for e in reversed(self.client.get(there).json()) if e["title"].startswith("Group by"))
            answer = self.client.get(f"{there}/{line['id']}").json()
            self.assertEqual((answer["rows"], answer["by_hand"]), (hand["rows"], hand["by_hand"]))

    def test_bad_edits_are_told_and_harm_nothing(self) -> None:
        asked = self.sent("questions", {"question": "average length by pier"})
        before = len(self.given("trail"))
        for edit, said in (
            ({"act": "remove", "path": [0]}, "begins with its table"),
            ({"act": "remove", "path": [40]}, "no such step"),
            ({"act": "add", "path": [1], "step": "join", "filled": {}}, "another step"),
            ({"act": "add", "path": [1], "step": "limit", "filled": {"values": {"rows": "many"}}}, "“many” is no number"),
        ):  # fmt: skip
            with self.subTest(said=said):
                self.assertIn(said, self.edit(asked["id"], 422, **edit)["problem"])
        for path in ("x", "1.", "1.2.x", "99999"):
            self.given(f"trail/{asked['id']}/steps/form?path={path}", 422)
        self.assertEqual(len(self.given("trail")), before)
        told = self.sent("questions", {"question": "what is this data about"})
        self.assertIn("no steps to change", self.edit(told["id"], 404, act="undo")["problem"])
