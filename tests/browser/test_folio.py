"""The folio in the browser: answers kept with a key, worked again on a newer file, watched, moved, written between, shared."""

from __future__ import annotations

import urllib.request
from pathlib import Path

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.page import Page

SMALL = "shop,takings,missed\nOak,100,no\nElm,300,no\nAsh,150,yes\n"
LARGER = "shop,takings,missed\nOak,400,no\nElm,300,no\nAsh,150,yes\n"


class Folio(Page):
    def write(self, text: str) -> Path:
        path = self.folder / "till.csv"
        path.write_text(text)
        return path

    def test_1_answers_are_kept_with_a_key(self) -> None:
        self.visit("tables")
        self.send_files(self.write(SMALL))
        self.see("3 rows", "aside")
        self.visit("folio")
        self.see("Answers worth keeping", "section")
        self.press("Ask something", "section")
        for question in ("total takings by shop", "total takings"):
            self.type_question(question, Keys.SHIFT, Keys.ENTER)
            self.see(question, "[aria-label=Trail]")
            self.see("Elm has the highest" if question.endswith("shop") else "is 550", "[data-testid=finding]")
            self.see("Keep …", "[data-testid=keep-on]")
            ActionChains(self.browser).key_down(Keys.ALT).send_keys("k").key_up(Keys.ALT).perform()
            self.see("Kept on total takings by shop", "[data-testid=keep-on]")
        self.press("total takings by shop", "[data-testid=keep-on]")
        self.see("2 answers", "article")
        self.press("rename", "article")
        title = self.browser.find_element(By.CSS_SELECTOR, "article input")
        title.send_keys(Keys.CONTROL, "a")
        title.send_keys("Monday figures", Keys.ENTER)
        self.see("Monday figures", "h1")
        self.see("Monday figures", "[aria-label=Pages]")

    def test_2_it_is_worked_again_when_the_table_has_changed(self) -> None:
        self.visit("tables/till")
        self.see("replace by a newer file", "main")
        self.browser.find_element(By.CSS_SELECTOR, "input[aria-label*='newer file']").send_keys(str(self.write(LARGER)))
        self.press("Replace", "[role=dialog]")
        self.visit("folio")
        self.see("older than its tables", "[aria-label=Pages]")
        self.see("till changed", "article")
        self.browser.find_element(By.TAG_NAME, "body").send_keys("w")
        self.see("Oak rose from third to first; total rose from 550 to 850, up 54.5%.", "[data-testid=changed]")
        self.see("2 of 2 answers changed", "[data-testid=workings]")
        self.see("Oak", "[data-testid=what-changed]")
        self.press("What it says in short", "article")
        self.see("Total takings by shop: Oak rose", "[data-testid=in-short]")
        self.browser.find_elements(By.CSS_SELECTOR, "[data-testid=workings] button")[1].click()
        self.see("As it stood on", "[data-testid=earlier]")
        self.see("Elm has the highest", "[data-testid=kept]")
        self.assertEqual(self.faults_of_access(), [])
        self.press("As it stands now", "article")
        self.see("Oak has the highest", "[data-testid=kept]")

    def test_3_it_is_watched_moved_and_written_between(self) -> None:
        self.visit("folio")
        self.see("Oak has the highest", "[data-testid=kept]")
        self.browser.find_element(By.CSS_SELECTOR, "[aria-label='More of total takings by shop']").click()
        self.browser.find_element(By.XPATH, "//*[@role='menuitem'][.='Watch it …']").click()
        self.browser.find_element(By.XPATH, "//label[starts-with(., 'Number')]//input").send_keys("350", Keys.ENTER)
        self.see("Watched for total takings over 350: met, 400 in Oak.", "[data-testid=seen]")
        self.see("watch met: 400 in Oak", "[aria-label=Pages]")
        self.press("Write here, in Markdown", "article")
        self.browser.switch_to.active_element.send_keys("For **nine**.", Keys.CONTROL, Keys.ENTER)
        self.see("For nine.", ".written")
        rows = self.browser.find_elements(By.CSS_SELECTOR, "[aria-label='On this page'] li button")
        self.assertEqual(rows[2].text.split("\n")[-1], "For nine.")
        rows[2].send_keys(Keys.ALT, Keys.ARROW_UP)
        self.see("2\nFor nine.", "[aria-label='On this page'] li:nth-child(2)")
        self.assertEqual(self.faults_of_access(), [])

    def test_4_it_leaves_by_files_and_by_a_link(self) -> None:
        self.visit("folio")
        self.see("Oak has the highest", "[data-testid=kept]")
        ways = self.browser.find_elements(By.CSS_SELECTOR, "[data-testid=ways-out] a")
        self.assertEqual(len(ways), 8)
        with urllib.request.urlopen(ways[0].get_attribute("href") or "") as answer:
            self.assertEqual(answer.read(2), b"PK")
        self.press("Make a link", "aside")
        link = self.browser.find_element(By.CSS_SELECTOR, "[data-testid=links] a").get_attribute("href") or ""
        self.browser.get("about:blank")
        self.browser.get(link)
        self.see("Oak has the highest", "section")
        self.browser.find_element(By.CSS_SELECTOR, ".chart svg")
        refused = [e for e in self.browser.get_log("browser") if "Content Security Policy" in e["message"]]  # type: ignore[no-untyped-call]
        self.assertEqual(refused, [])
        self.visit("folio")
        self.press("withdraw", "[data-testid=links]")
        self.press("delete", "article")
        self.see("1 page deleted", "[aria-label=Pages]")
        self.press("show it", "[aria-label=Pages]")
        self.press("restore", "[aria-label=Pages]")
        self.see("Monday figures", "[aria-label=Pages]")
