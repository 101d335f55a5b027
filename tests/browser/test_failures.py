"""What a person sees when something fails: the server away, an upload cut off, a query that is stopped."""

from __future__ import annotations

import time
import unittest
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from tests.browser.page import Page
from tests.support import DEMO


class Failures(Page):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        for name in ("visits.csv", "clinics.csv"):
            cls.shelf.room(1).workspace.add_file(DEMO / "data" / name, name, lambda _what, _share: None)

    def test_1_the_server_is_away_and_what_was_typed_stays(self) -> None:
        self.visit("ask")
        self.type_question("total fee by clinic")
        self.go_away()
        self.browser.find_element(By.ID, "question").send_keys(Keys.ENTER)
        self.see("The server does not answer")
        self.assertEqual(self.browser.find_element(By.ID, "question").get_attribute("value"), "total fee by clinic")
        self.serve()
        time.sleep(0.5)
        self.browser.find_element(By.ID, "question").send_keys(Keys.ENTER)
        self.see("Read as", "section")

    def test_2_a_query_is_stopped(self) -> None:
        self.visit("ask")
        self.type_question("total fee by clinic", Keys.SHIFT, Keys.ENTER)
        self.see("Read as", "section")
        self.browser.find_element(By.XPATH, "//button[text()='Edit and run']").click()
        editor = WebDriverWait(self.browser, 60).until(lambda b: b.find_element(By.CSS_SELECTOR, ".cm-content"))
        editor.send_keys(Keys.CONTROL, "a")
        editor.send_keys("SELECT sum(a.fee * b.fee) FROM visits a, visits b, visits c", Keys.CONTROL, Keys.ENTER)
        stop = WebDriverWait(self.browser, 60).until(lambda b: b.find_element(By.XPATH, "//button[text()='Stop']"))
        stop.click()
        self.see("stopped", "[role=dialog]")

    def test_3_an_upload_goes_on_after_the_server_was_away(self) -> None:
        # many bytes to send, few rows to measure: sending is what is cut off, and measuring is no part of it
        remark = "read at the gate, nobody about, " * 32
        rows = "".join(f"{i},{i % 97},2026-01-{1 + i % 28:02d},{remark}{i}\n" for i in range(20_000))
        long = Path(self.scratch) / "readings.csv"
        long.write_text(f"reading,meter,day,remark\n{rows}")
        self.visit("tables")
        self.send_files(long)
        self.see("readings.csv")
        self.go_away()
        time.sleep(1)
        self.serve()
        self.see("20,000 rows")


if __name__ == "__main__":
    unittest.main()
