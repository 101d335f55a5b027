"""Workspaces in the browser: made, gone between, named, put away, deleted; each has its address."""

from __future__ import annotations

import base64
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser.page import Page


class Shelf(Page):
    def place(self) -> str:
        """The address without what stands before its path."""
        return str(self.browser.current_url).removeprefix(self.address)

    def row(self, title: str) -> str:
        rows = self.browser.find_elements(By.CSS_SELECTOR, "section[aria-label=Workspaces] li")
        return next((e.text for e in rows if title in e.text), "")

    def test_1_a_workspace_from_nothing(self) -> None:
        self.browser.get(self.address)
        self.see("Bring in a file to begin")
        self.assertEqual(self.place(), "w/1/tables", "the one opened last, without a table yet")
        sent = "return performance.getEntriesByType('resource').filter(e => e.name.endsWith('.js'))"
        scripts = self.browser.execute_script(f"{sent}.map(e => e.encodedBodySize)")
        self.assertTrue(0 < sum(scripts) < 300_000, "what is there before anything is drawn")
        self.press("Brackenfold Vets", "header")
        self.see("new and empty", "section[aria-label=Workspaces]")
        field = self.browser.find_element(By.CSS_SELECTOR, "input[aria-label='Its name']")
        field.send_keys("Night cover", Keys.ENTER)
        self.see("Night cover", "header")
        self.assertEqual(self.place(), "w/2/tables")
        rota = Path(self.scratch) / "rota.csv"
        rota.write_text("vet,clinic,nights\n" + "".join(f"V{i},C{i % 3},{i}\n" for i in range(1, 13)))
        self.send_files(rota)
        self.see("12 rows, 3 columns", "aside")
        self.press("Ask", "nav")
        self.type_question("total nights by clinic", Keys.ENTER)
        self.see("C0 has the highest total nights, 30", "main")
        self.see("Proof", "aside[aria-label=Proof]")
        self.assertRegex(self.place(), r"^w/2/ask/\d+$")
        self.assertEqual(self.faults_of_access(), [])

    def test_2_each_has_its_address_and_its_own_tables(self) -> None:
        asked = self.place()
        self.press("Night cover", "header")
        self.see("C0 has the highest total nights, 30", "section[aria-label=Workspaces]")
        self.assertIn("hold", self.row("Night cover"))
        self.assertEqual(self.faults_of_access(), [])
        self.press("Brackenfold Vets", "section[aria-label=Workspaces]")
        self.press("Go on with it Enter", "aside")
        self.see("Bring in a file to begin")
        self.assertNotIn("rota", self.browser.find_element(By.CSS_SELECTOR, "aside[aria-label=Tables]").text)
        self.browser.back()
        self.browser.back()
        self.see("C0 has the highest total nights, 30", "main")
        self.assertEqual(self.place(), asked, "as it was, by the browser's own way back")
        self.browser.get(self.address)
        self.see("Night cover", "header")
        self.browser.get(f"{self.address}w/99/ask")
        self.see("There is no such workspace.", "[role=alert]")

    def test_3_named_copied_put_away_deleted(self) -> None:
        self.browser.get(f"{self.address}workspaces")
        self.press("Night cover", "section[aria-label=Workspaces]")
        self.press("rename", "aside")
        self.browser.find_element(By.CSS_SELECTOR, "aside input").send_keys("Nights 2026", Keys.ENTER)
        self.see("Nights 2026", "section[aria-label=Workspaces]")
        self.press("Make a copy", "aside")
        self.browser.find_element(By.CSS_SELECTOR, "aside input").send_keys("Nights, draft", Keys.ENTER)
        self.see("Nights, draft", "section[aria-label=Workspaces]")
        self.press("Nights, draft", "section[aria-label=Workspaces]")
        self.assertIn("1 table, 12 rows", self.row("Nights, draft"))
        self.press("archive", "aside")
        self.see("1 archived: Nights, draft", "section")
        self.assertEqual(self.row("Nights, draft"), "")
        self.press("Show them", "section")
        self.press("Nights, draft", "section[aria-label=Workspaces]")
        self.press("delete", "aside")
        self.press("Delete", "[role=alertdialog]")
        self.see("2 workspaces", "header")
        field = self.browser.find_element(By.CSS_SELECTOR, "input[type=search]")
        field.send_keys("rota")
        self.see("Nights 2026", "section[aria-label=Workspaces]")
        self.assertEqual(self.row("Brackenfold Vets"), "", "found by the name of a table")
        field.send_keys(Keys.ENTER)
        self.see("total nights by clinic", "aside[aria-label=Trail]")

    def test_5_pictures_that_cells_name(self) -> None:
        folder = Path(self.scratch)
        dot = base64.b64decode("R0lGODdhAQABAIAAAP///////ywAAAAAAQABAAACAkQBADs=")
        (folder / "Rex.gif").write_bytes(dot)
        (folder / "torn.gif").write_bytes(dot[3:])
        pets = folder / "pets.csv"
        pets.write_text("pet,photo\nRex,photos/rex.gif\nMax,photos/max.gif\n")
        self.browser.get(f"{self.address}workspaces")
        self.see("new and empty", "section[aria-label=Workspaces]")
        self.browser.find_element(By.CSS_SELECTOR, "input[aria-label='Its name']").send_keys("Pets", Keys.ENTER)
        self.see("Pets", "header")
        self.send_files(pets)
        self.see("2 rows, 2 columns", "aside")
        self.send_files(folder / "Rex.gif")
        self.see("Kept; cells that name it show it", "aside")
        self.send_files(folder / "torn.gif")
        self.see("What is there is no picture", "[role=alert]")
        self.press("1 picture", "aside")
        self.see("Rex.gif", "[role=dialog]")
        self.assertEqual(self.faults_of_access(), [])
        self.press("Close", "[role=dialog]")
        self.press("Ask", "nav")
        self.type_question("list pets with photo", Keys.ENTER)
        drawn = self.browser.find_element(By.CSS_SELECTOR, "[data-testid=answer-table] img[alt='photos/rex.gif']")
        width = "return arguments[0].complete && arguments[0].naturalWidth"
        WebDriverWait(self.browser, 30).until(lambda b: b.execute_script(width, drawn) == 1)
        self.see("photos/max.gif", "[data-testid=answer-table]")
        self.assertEqual(self.faults_of_access(), [])

    def test_4_saved_and_taken_up(self) -> None:
        self.browser.get(f"{self.address}workspaces")
        self.press("Nights 2026", "section[aria-label=Workspaces]")
        self.see("What it holds", "aside")
        saved = self.browser.find_element(By.LINK_TEXT, "save").get_attribute("href")
        taken = self.browser.execute_async_script(
            "const done = arguments[1];"
            "fetch(arguments[0]).then(r => r.blob()).then(body => fetch('/api/v1/workspaces/saved', {method: 'POST', body}))"
            ".then(r => r.json()).then(w => done([w.id, w.title, w.rows, w.questions]))",
            saved,
        )
        self.assertEqual(taken[1:], ["Nights 2026 (2)", 12, 1], "told apart from the one that is there")
        self.browser.get(f"{self.address}w/{taken[0]}")
        self.see("total nights by clinic", "aside[aria-label=Trail]")
        self.assertEqual(self.place(), f"w/{taken[0]}/ask")
