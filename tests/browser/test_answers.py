"""Answers in the real interface: steps changed by hand, marks of charts, tables of rows, and the page by night."""

from __future__ import annotations

import time
from pathlib import Path
from typing import ClassVar

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import Select, WebDriverWait

from tests.browser.page import Page
from tests.support import DEMO

TABLE = "[data-testid=answer-table]"
STEPS = "ol[aria-label=Steps]"


class Answers(Page):
    files: ClassVar[tuple[Path, ...]] = tuple(DEMO / "data" / name for name in ("visits.csv", "clinics.csv"))

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        workspace = cls.shelf.room(1).workspace
        for path in cls.files:
            workspace.add_file(path, path.name, lambda _what, _share: None)

    def test_0_what_stands_out_in_all_tables_comes_by_itself(self) -> None:
        self.visit("ask")
        self.see("of 2 tables looked at", "[data-testid=worth-of-all]")
        self.see("is missing in 100% of those with attended: no", "[data-testid=worth-of-all]")
        self.browser.find_element(By.CSS_SELECTOR, "[data-testid=worth-of-all] li button").click()
        self.see("visits", "section")

    def ask(self, question: str) -> None:
        self.visit("ask")
        self.type_question(question, Keys.ENTER)
        self.see("Read as", "section")

    def step(self, words: str) -> None:
        """Choose the step that says this."""
        self.see(words, STEPS)
        button = next(
            e for e in self.browser.find_elements(By.CSS_SELECTOR, f"{STEPS} [aria-expanded]") if words in e.text
        )
        if button.get_attribute("aria-expanded") == "false":
            button.click()

    def choose(self, label: str, value: str) -> None:
        """Choose in the form of a step."""
        self.see(label, f"{STEPS} form")
        field = self.browser.find_element(By.XPATH, f"//ol//form//label[starts-with(., '{label}')]/select")
        Select(field).select_by_value(value)

    def column(self, place: int) -> list[str]:
        rows = self.browser.find_elements(By.CSS_SELECTOR, f"{TABLE} tbody tr:not([aria-hidden])")
        return [row.find_elements(By.TAG_NAME, "td")[place].text for row in rows]

    def marks(self) -> list[WebElement]:
        def drawn(browser: object) -> list[WebElement]:
            return self.browser.find_elements(By.CSS_SELECTOR, "[data-testid=chart] svg .mark-rect path")

        return WebDriverWait(self.browser, 30).until(drawn)

    def test_1_a_step_is_changed_and_the_change_undone(self) -> None:
        self.ask("average fee by clinic")
        self.see("average fee net", TABLE)
        self.step("Group by")
        self.press("change", STEPS)
        self.choose("What", "max")
        self.assertEqual(self.faults_of_access(), [])
        self.press("Change", STEPS)
        self.see("highest fee net", TABLE)
        self.see("Changed by hand to the highest fee net", "section")
        self.see("Group by clinic: the highest fee net", "aside[aria-label=Trail]")
        self.browser.find_element(By.TAG_NAME, "body").send_keys(Keys.ESCAPE)
        self.browser.execute_script("document.activeElement.blur()")
        ActionChains(self.browser).key_down(Keys.CONTROL).send_keys("z").key_up(Keys.CONTROL).perform()
        self.see("average fee net", TABLE)
        self.press("redo", "aside[aria-label=Proof]")
        self.see("highest fee net", TABLE)

    def test_2_a_step_is_added_and_switched_off(self) -> None:
        self.ask("visits by clinic")
        self.see("Harrow Street", TABLE)
        before = self.column(1)
        self.step("Take visits")
        self.press("add…", STEPS)
        WebDriverWait(self.browser, 10).until(lambda b: b.find_elements(By.CSS_SELECTOR, "[role=menuitem]"))[0].click()
        self.choose("Column", "wait_min")
        self.choose("How", ">")
        field = self.browser.find_element(By.CSS_SELECTOR, f"{STEPS} form input")
        field.send_keys("many", Keys.ENTER)
        self.see("“many” is no number", "[role=alert]")
        field = self.browser.find_element(By.CSS_SELECTOR, f"{STEPS} form input")
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys("30", Keys.ENTER)
        self.see("wait min is more than 30", STEPS)
        self.assertNotEqual(self.column(1), before)
        self.step("wait min is more than 30")
        self.press("off", STEPS)
        self.see("undo", "aside[aria-label=Proof]")
        WebDriverWait(self.browser, 30, ignored_exceptions=[Exception]).until(lambda _: self.column(1) == before)
        self.step("Group by")
        self.press("rows", STEPS)
        self.see("9 rows as they come out of this step", "[role=dialog]")

    def test_3_a_mark_shows_its_rows_and_narrows_the_question(self) -> None:
        self.ask("number of visits by region")
        self.see("rows", TABLE)
        name, told = self.column(0)[1], self.column(1)[1]
        ActionChains(self.browser).move_to_element(self.marks()[1]).click().perform()
        self.press("the rows behind it")
        self.see(f"{told} rows behind it", "[role=dialog]")
        self.press("Close", "[role=dialog]")
        ActionChains(self.browser).move_to_element(self.marks()[1]).click().perform()
        self.press(f"only {name}")
        self.see(f"where region is {name}", "section")
        self.assertEqual(self.column(1), [told])

    def test_4_a_span_of_time_is_drawn_and_asked(self) -> None:
        self.ask("income by month")
        chart = WebDriverWait(self.browser, 30).until(
            lambda b: b.find_elements(By.CSS_SELECTOR, "[data-testid=chart] svg")
        )[0]
        mouse = ActionChains(self.browser).move_to_element_with_offset(chart, -80, 0).click_and_hold()
        mouse.move_by_offset(60, 0).move_by_offset(60, 4).release().perform()
        span = WebDriverWait(self.browser, 30).until(
            lambda b: next((e for e in b.find_elements(By.TAG_NAME, "button") if e.text.startswith("only from")), None)
        )
        words = span.text.removeprefix("only ")
        span.click()
        self.see(f"only {words}", "aside[aria-label=Trail]")
        self.see("where visit date is from", "section")
        first, last = words.removeprefix("from ").split(" to ")
        self.see(first, TABLE)
        self.assertEqual((self.column(0)[0], self.column(0)[-1]), (first, last))

    def test_5_a_long_table_is_scrolled_sorted_and_added_up(self) -> None:
        self.ask("list all visits in 2025")
        self.see("16,885 rows", "[role=status]")
        box = self.browser.find_element(By.CSS_SELECTOR, "[aria-label='Rows of the answer']")
        self.assertLess(len(self.column(0)), 100)
        self.browser.execute_script("arguments[0].scrollTop = arguments[0].scrollHeight", box)
        WebDriverWait(self.browser, 30, ignored_exceptions=[Exception]).until(
            lambda _: self.column(0)[-1] not in ("", "…") and int(self.column(0)[-1]) > 460_000
        )
        self.press("fee net", f"{TABLE} thead")
        self.browser.execute_script("arguments[0].scrollTop = 0", box)
        fees = WebDriverWait(self.browser, 30, ignored_exceptions=[Exception]).until(
            lambda _: [float(f) for f in self.column(6)[:9]]
        )
        self.assertEqual(fees, sorted(fees, reverse=True))
        self.browser.find_element(By.CSS_SELECTOR, "[aria-label='More of fee net']").click()
        self.see("Total at the foot", "[role=menu]")
        item = next(e for e in self.browser.find_elements(By.CSS_SELECTOR, "[role=menuitem]") if "Total" in e.text)
        item.click()
        self.see("total", f"{TABLE} tfoot")
        self.assertGreater(float(self.see(".", f"{TABLE} tfoot").text.split()[1].replace(",", "")), 1_000_000)
        self.assertEqual(self.faults_of_access(), [])

    def test_6_columns_are_hidden_frozen_and_copied(self) -> None:
        self.ask("income and average wait by clinic")
        self.see("Harrow Street", TABLE)
        cells = self.browser.find_elements(By.CSS_SELECTOR, f"{TABLE} tbody tr:nth-child(-n+2) td:nth-child(-n+2)")
        self.browser.execute_script(
            "window.taken = ''; navigator.clipboard.writeText = t => { window.taken = t; return Promise.resolve(); }"
        )
        ActionChains(self.browser).click_and_hold(cells[0]).move_to_element(cells[3]).release().perform()
        box = self.browser.find_element(By.CSS_SELECTOR, "[aria-label='Rows of the answer']")
        self.browser.execute_script("arguments[0].focus()", box)
        ActionChains(self.browser).key_down(Keys.CONTROL).send_keys("c").key_up(Keys.CONTROL).perform()
        self.see("4 cells copied", "section")
        taken = [line.split("\t") for line in self.browser.execute_script("return window.taken").split("\n")]
        shown = [c.text.replace(",", "") for c in cells]
        self.assertEqual([taken[0][0], taken[1][0]], [shown[0], shown[2]])
        self.assertEqual([float(taken[0][1]), float(taken[1][1])], [float(shown[1]), float(shown[3])])
        self.browser.find_element(By.CSS_SELECTOR, "[aria-label^='More of average']").click()
        next(e for e in self.browser.find_elements(By.CSS_SELECTOR, "[role=menuitem]") if e.text == "Hide").click()
        self.see("show 1 hidden column", "section")
        self.assertEqual(len(self.browser.find_elements(By.CSS_SELECTOR, f"{TABLE} thead th")), 3)
        self.press("show 1 hidden column", "section")
        self.assertEqual(len(self.browser.find_elements(By.CSS_SELECTOR, f"{TABLE} thead th")), 4)

    def test_7_by_night_and_on_a_phone(self) -> None:
        self.ask("income by clinic")
        self.marks()
        look = self.browser.find_element(By.CSS_SELECTOR, "[aria-label^='Look:']")
        look.click()
        self.assertEqual(self.browser.execute_script("return document.documentElement.dataset.look"), "night")
        WebDriverWait(self.browser, 30).until(lambda _: self.marks()[0].get_attribute("fill") == "#8fb3f5")
        time.sleep(0.3)
        self.assertEqual(self.faults_of_access(), [])
        self.browser.set_window_size(400, 900)
        self.addCleanup(self.browser.set_window_size, 1280, 800)
        wide = "return document.scrollingElement.scrollWidth - document.scrollingElement.clientWidth"
        for place in ("ask", "tables/visits", "glossary"):
            self.visit(place)
            self.see("Brackenfold Vets", "header")
            self.assertEqual(self.browser.execute_script(wide), 0, place)
        self.assertEqual(self.faults_of_access(), [])

    def test_8_a_page_of_its_own_and_words_by_keys(self) -> None:
        self.ask("income by clinic")
        self.marks()
        self.browser.execute_script(
            "window.saved = ''; const made = URL.createObjectURL;"
            "URL.createObjectURL = b => { b.text().then(t => (window.saved = t)); return made.call(URL, b); };"
            "HTMLAnchorElement.prototype.click = () => undefined;"
        )
        self.press("Save as …", "main")
        next(e for e in self.browser.find_elements(By.CSS_SELECTOR, "[role=menuitem]") if "HTML" in e.text).click()
        page = WebDriverWait(self.browser, 30).until(lambda b: b.execute_script("return window.saved"))
        for part in ("Harrow Street", "<svg", "Take</b> visits", "Computed twice", "SELECT"):
            self.assertIn(part, page)
        alt = ActionChains(self.browser).key_down(Keys.ALT).send_keys(Keys.ARROW_RIGHT).key_up(Keys.ALT)
        alt.send_keys(Keys.ENTER).perform()
        self.see("is to mean", "[data-testid=meanings]")

    def test_9_the_walk_through_the_demo(self) -> None:
        self.visit("ask")
        self.press("Show me around")
        self.see("1 of 5", "[aria-label='A walk through the demo']")
        self.see("What was found", "aside")
        self.press("Next", "[aria-label='A walk through the demo']")
        self.press("Next", "[aria-label='A walk through the demo']")
        self.see("3 of 5", "[aria-label='A walk through the demo']")
        self.see("has the highest total fee net", "[data-testid=finding]")
        self.assertEqual(self.faults_of_access(), [])
        self.press("End the walk")

    def test_91_numbers_and_days_in_the_readers_own_way(self) -> None:
        self.ask("total fee by day in March 2025")
        self.see("1 Mar 2025", TABLE)
        self.browser.find_element(By.CSS_SELECTOR, "[title='How numbers and days are written']").click()
        for name, value in (("Numbers", "point"), ("Days", "day.month")):
            field = self.browser.find_element(By.XPATH, f"//label[starts-with(., '{name}')]/select")
            Select(field).select_by_value(value)
        self.see("01.03.2025", TABLE)
        self.assertRegex(self.column(1)[0], r"^£?\d{1,3}(\.\d{3})*,\d\d$")
        self.browser.execute_script("localStorage.removeItem('gumption style')")

    def test_92_what_moved_a_figure_is_taken_apart_another_way(self) -> None:
        self.ask("why did visits fall in February 2025")
        self.see("Millbeck", "[data-testid=finding]")
        self.see("A piece is its visits", "[data-testid=method]")
        self.assertEqual(len(self.marks()), 9, "both ends, the six largest pieces and all else")
        self.press("reason", "[data-testid=ways]")
        self.see("by reason", "section")
        self.see("reason", "[data-testid=ways] b")
        self.assertEqual(self.faults_of_access(), [])

    def test_93_what_stands_out_is_asked_by_a_click(self) -> None:
        self.ask("what stands out in visits")
        self.see("Millbeck in February 2025", "[data-testid=remarks]")
        self.press("visits by month for Millbeck", "[data-testid=remarks]")
        self.see("the number of visits, for each month, where clinic is Millbeck", "section")

    def test_94_what_is_to_come(self) -> None:
        self.ask("forecast visits for six months")
        self.see("from November 2026 to April 2027", "[data-testid=finding]")
        self.see("April 2027", TABLE)
        self.assertEqual(self.faults_of_access(), [])

    def test_z_no_error_in_the_console(self) -> None:
        bad = [e["message"] for e in self.browser.get_log("browser") if e["level"] == "SEVERE"]
        # A form that says what is wrong with it is answered by 422.
        self.assertEqual([m for m in bad if "422" not in m], [])
