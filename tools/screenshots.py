"""The pictures of docs/screenshots, taken anew of a demo afresh: `python -m tools.screenshots http://127.0.0.1:8765`.

Wants Debian's chromium and chromium-driver. The demo that it makes for this is deleted again.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import httpx
from selenium import webdriver
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from gumption.server.shelf import DEMO_TITLE

OUT = Path(__file__).parent.parent / "docs" / "screenshots"
SIZE = (1280, 800)
_SETTLED = 1.5
"""Seconds after which nothing moves any more: charts are drawn, and what is below them has come."""
BRIEF = "Hi, for the board pack, all for the Millbeck clinic:\n- total fees by month in 2025\n- average wait by vet\n- how many dogs were seen last year\nThanks!"
TERMS = (
    (("long wait", "kept waiting"), "a visit whose wait is over 30 minutes"),
    (("margin",), "fee net minus cost"),
    (("no-show share",), "share of visits not attended"),
    (("senior animal",), "an animal older than 10 years"),
)
KEPT = (
    "income by clinic last week",
    "top five reasons by income last week",
    "no-show share by month since January 2025",
)


class Camera:
    """A browser at a workspace, and what it takes of it."""

    def __init__(self, address: str, workspace: int) -> None:
        options = webdriver.ChromeOptions()
        for flag in ("--headless=new", "--no-sandbox", "--disable-gpu", "--hide-scrollbars"):
            options.add_argument(flag)
        self.browser = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
        self.browser.execute_cdp_cmd(
            "Emulation.setDeviceMetricsOverride",
            {"width": SIZE[0], "height": SIZE[1], "deviceScaleFactor": 1, "mobile": False},
        )
        self.root = f"{address}/w/{workspace}"

    def visit(self, place: str, sign: str) -> None:
        """Open a room, and wait for a text in it."""
        self.browser.get("about:blank")
        self.browser.get(place if "://" in place else f"{self.root}/{place}")
        self.see(sign)

    def see(self, text: str, within: str = "body") -> None:
        """Wait for a text."""
        script = "return [...document.querySelectorAll(arguments[0])].some(e => e.innerText.includes(arguments[1]))"
        WebDriverWait(self.browser, 60).until(lambda b: b.execute_script(script, within, text), text)

    def type(self, text: str, *keys: str) -> None:
        """Type into the question."""
        WebDriverWait(self.browser, 60).until(lambda b: b.find_element(By.ID, "question")).send_keys(text, *keys)

    def ask(self, question: str, sign: str, within: str = "[data-testid=finding]") -> None:
        """Ask a question by itself, and wait for a text in its answer."""
        self.visit("ask", "Trail")
        self.type(question, Keys.ENTER)
        self.see(sign, within)

    def press(self, words: str, within: str = "body") -> None:
        """Press the button that says so."""
        script = "return [...document.querySelectorAll(arguments[0] + ' button')].find(e => e.innerText.trim() === arguments[1])"
        WebDriverWait(self.browser, 60).until(lambda b: b.execute_script(script, within, words), words).click()

    def click(self, selector: str, place: int = 0) -> None:
        """Click what a selector finds."""
        found = WebDriverWait(self.browser, 60).until(lambda b: b.find_elements(By.CSS_SELECTOR, selector))
        found[place].click()

    def paste(self, text: str) -> None:
        """Put a text into the question as if it were pasted, for Enter between its lines would ask."""
        script = "document.getElementById('question').focus(); document.execCommand('insertText', false, arguments[0])"
        self.browser.execute_script(script, text)

    def take(self, name: str) -> None:
        """Take a picture once nothing moves any more."""
        time.sleep(_SETTLED)
        self.browser.save_screenshot(str(OUT / f"{name}.png"))
        print(f"{name}.png")


def prepare(post: Callable[[str, dict[str, Any]], Any], put: Callable[[str, dict[str, Any]], Any]) -> None:
    """Words of the house, and a page of the folio that was worked a week ago and now."""
    for words, text in TERMS:
        post("/terms", {"words": words, "text": text})
    put("/as-of", {"as_of": "2026-10-24"})
    page = post("/folio", {"title": "Monday figures"})["id"]
    text = "For the call at nine. A missed visit counts as **no income**."
    post(f"/folio/{page}/parts", {"kind": "text", "text": text})
    for place, question in enumerate(KEPT):
        entry = post("/questions", {"question": question})["id"]
        told = post(f"/folio/{page}/parts", {"kind": "answer", "entry": entry, "beside": place == 1})
    last = told["parts"][-1]
    column = next(f["name"] for f in last["answer"]["fields"] if f["measures"])
    watch = {"column": column, "of": "last", "comparison": "over", "bound": 0.06}
    put(f"/folio/{page}/parts/{last['id']}", {"watch": watch})
    put("/as-of", {"as_of": "2026-10-31"})
    post(f"/folio/{page}/work", {})
    put(f"/folio/{page}/schedule", {"schedule": {"every": "week", "at": "07:00", "weekday": 0}})
    for question in ("average wait by clinic", "income by month in 2026", "visits by species this year"):
        post("/questions", {"question": question})


def take_all(camera: Camera, address: str) -> None:
    """Every picture."""
    camera.visit("folio", "Monday figures")
    camera.take("folio")
    camera.ask("top five clinics by income this year for dogs", "Harrow Street")
    camera.take("ask")
    camera.press("Edit and run")
    camera.see("Your own SQL")
    camera.take("own-sql")
    camera.ask("what could I ask about visits?", "visits", "[data-testid=told]")
    camera.take("about")
    camera.visit("ask", "Worth asking")
    camera.type("average fee by cli")
    camera.take("typing")
    camera.ask("visits by species with the years as columns, with totals", "visits")
    camera.take("cross")
    camera.ask("forecast visits for six months", "forecast")
    camera.take("forecast")
    camera.ask("what stands out in visits", "stand out")
    camera.take("look")
    camera.ask("why did income fall in February 2025", "February 2025")
    camera.take("moved")
    camera.ask("best clinic", "By which", "main")
    camera.take("choices")
    camera.ask("footfall by clinic this year", "footfall", "main")
    camera.browser.find_element(By.XPATH, "//section//button[contains(., 'footfall')]").click()
    camera.take("words")
    camera.ask("average wait by clinic for dogs", "average wait")
    camera.see("Group by", "aside[aria-label=Proof]")
    camera.browser.find_element(
        By.XPATH, "//ol[@aria-label='Steps']//*[@aria-expanded][contains(., 'Group by')]"
    ).click()
    camera.press("change", "aside[aria-label=Proof]")
    camera.take("steps")
    camera.visit("ask", "Worth asking")
    camera.paste(BRIEF)
    camera.see("3 questions", "[data-testid=brief]")
    camera.take("brief")
    camera.type("", Keys.ENTER)
    camera.see("Keep as a page", "main")
    camera.take("report")
    camera.visit("glossary/long%20wait", "rows of visits")
    camera.take("glossary")
    camera.visit("tables/visits", "What was found")
    camera.take("tables")
    camera.click("[aria-label=Columns] button", 6)
    camera.take("column")
    camera.visit("tables", "What makes a file easy to ask about")
    camera.press("What makes a file easy to ask about")
    camera.see("One header row")
    camera.take("guide")
    camera.visit(f"{address}/workspaces", "Brackenfold Vets")
    camera.take("workspaces")


def main() -> int:
    address = sys.argv[1].rstrip("/") if len(sys.argv) == 2 else "http://127.0.0.1:8765"
    api = f"{address}/api/v1/workspaces"
    with httpx.Client(timeout=300) as client:
        workspace = client.post(f"{api}/demo").json()["id"]
        # In the pictures it is the demo, and not the second of its name.
        client.put(f"{api}/{workspace}", json={"title": DEMO_TITLE}).raise_for_status()

        def sent(method: str) -> Callable[[str, dict[str, Any]], Any]:
            def send(path: str, body: dict[str, Any]) -> Any:
                answer = client.request(method, f"{api}/{workspace}{path}", json=body)
                answer.raise_for_status()
                return answer.json()

            return send

        try:
            prepare(sent("POST"), sent("PUT"))
            camera = Camera(address, workspace)
            try:
                take_all(camera, address)
            finally:
                camera.browser.quit()
        finally:
            client.delete(f"{api}/{workspace}")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
