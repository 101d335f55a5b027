"""The glossary in the browser: a word defined from a question, seen over the data, changed, and used."""

from __future__ import annotations

from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.page import Page
from tests.support import DEMO


class Glossary(Page):
    def test_1_an_unread_word_is_defined(self) -> None:
        self.visit("tables")
        self.send_files(*(Path(DEMO / "data" / name) for name in ("visits.csv", "clinics.csv")))
        for found in ("47,634 rows", "9 rows"):
            self.see(found, "aside")
        self.visit("ask")
        self.type_question("long waits by weekday", Keys.ENTER)
        self.see("weekday", "main")
        self.visit("glossary/%2Fnew%20long%20wait")
        self.see("long wait", "h1")
        field = self.browser.find_element(By.XPATH, "//label[contains(., 'What it means')]//input")
        field.send_keys("a visit whose wait is over 30 minutes")
        self.see("3,428 of 47,634 rows of visits", "section")
        self.see("saving changes 1", "section")
        self.see("long waits by weekday", "section table")
        self.assertEqual(self.faults_of_access(), [])
        self.press("Save, and change one answer", "section")
        self.see("Conditions", "aside[aria-label=Words]")
        self.see("7.2%", "aside[aria-label=Words]")

    def test_2_it_is_changed_and_put_back_and_used(self) -> None:
        self.visit("glossary/long%20wait")
        self.see("What it means", "section")
        field = self.browser.find_element(By.XPATH, "//label[contains(., 'What it means')]//input")
        field.send_keys(*[Keys.BACKSPACE] * 10, "40 minutes")
        self.see("1,140 of 47,634 rows of visits", "section")
        self.press("Put back as saved", "section")
        self.see("3,428 of 47,634 rows of visits", "section")
        self.press("ask a question with it", "section")
        self.type_question("by clinic", Keys.ENTER)
        self.see("where wait min is over 30", "main")
        self.see("as this house says", "[data-testid=terms-used]")
        self.press("keep it as a word", "[data-testid=next]")
        self.see("A new word", "h1")
        self.browser.find_element(By.XPATH, "//label[starts-with(., 'Word')]//input").send_keys("wait table")
        self.visit("glossary/long%20wait")
        self.press("delete", "section")
        self.press("Delete", "[role=alertdialog]")
        self.see("This house’s own words", "h1")
