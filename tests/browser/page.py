"""The real interface over a real server, in headless Chromium."""

from __future__ import annotations

import datetime as dt
import shutil
import tempfile
import threading
import unittest
from collections.abc import Callable
from pathlib import Path
from typing import Any, Self

import uvicorn
from selenium import webdriver
from selenium.common.exceptions import StaleElementReferenceException
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.by import By
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.relative_locator import RelativeBy
from selenium.webdriver.support.ui import WebDriverWait

from gumption.engines.limits import Limits
from gumption.feed.service import feed_beside
from gumption.intake.sources import Allowed
from gumption.server.app import Settings, create_app
from gumption.server.shelf import House, Shelf
from gumption.store.private_server import PrivateServer, free_port
from gumption.store.records import Records
from tests.support import DEMO, HOME

FLAGS = (
    "--headless=new --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking "
    "--disable-component-update --disable-sync --disable-dev-shm-usage --window-size=1280,800"
)
CHROMIUM, DRIVER = shutil.which("chromium"), shutil.which("chromedriver")


class Lasting(WebElement):
    """An element that is looked for again where the page was drawn anew between finding it and using it."""

    again: Callable[[], WebElement] | None = None

    def _execute(self, command: str, params: dict[str, Any] | None = None) -> Any:
        try:
            return super()._execute(command, params)  # type: ignore[no-untyped-call]
        except StaleElementReferenceException:
            if self.again is None:
                raise
            self._id = self.again().id
            return super()._execute(command, params)  # type: ignore[no-untyped-call]

    def found_by(self, again: Callable[[], WebElement]) -> Self:
        self.again = again
        return self


class Patient(webdriver.Chrome):
    """A browser that waits for one thing it is told to find, as a person does: a page is drawn after it is there."""

    _web_element_cls = Lasting

    def find_element(self, by: str | RelativeBy = By.ID, value: str | None = None) -> WebElement:
        def found() -> WebElement:
            wait = WebDriverWait(self, 30, poll_frequency=0.02)
            return wait.until(lambda _: super(Patient, self).find_element(by, value), f"{value} is not on the page")

        element = found()
        return element.found_by(found) if isinstance(element, Lasting) else element


@unittest.skipUnless(CHROMIUM and DRIVER, "chromium and chromedriver are not installed")
class Page(unittest.TestCase):
    """A server of its own whose first workspace is empty, and a browser at it."""

    @classmethod
    def setUpClass(cls) -> None:
        scratch = tempfile.TemporaryDirectory()
        cls.addClassCleanup(scratch.cleanup)
        cls.scratch = scratch.name
        folder = Path(scratch.name)
        database = PrivateServer(folder)
        cls.records_at, cls.folder, cls.port = database.start(), folder, free_port()
        cls.addClassCleanup(database.stop)
        Records(cls.records_at).migrate()
        cls.feed = cls.enterClassContext(feed_beside())
        cls.serve()
        cls.shelf.shelved.make("Brackenfold Vets", dt.date(2026, 10, 31))
        cls.addClassCleanup(cls.go_away)
        options = webdriver.ChromeOptions()
        options.binary_location = str(CHROMIUM)
        for flag in [*FLAGS.split(), f"--user-data-dir={folder / 'chromium'}"]:
            options.add_argument(flag)
        options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
        cls.browser = Patient(options=options, service=Service(str(DRIVER)))
        cls.addClassCleanup(cls.browser.quit)
        cls.address = f"http://127.0.0.1:{cls.port}/"

    @classmethod
    def serve(cls) -> None:
        """Start the server, over what an earlier one left."""
        cls.shelf = Shelf(Records(cls.records_at), House(cls.folder, DEMO / "data", Limits(), Allowed(feed=cls.feed)))
        app = create_app(cls.shelf, Settings(HOME / "web" / "dist"))
        cls.server = uvicorn.Server(uvicorn.Config(app, port=cls.port, log_level="error"))
        cls.thread = threading.Thread(target=cls.server.run, daemon=True)
        cls.thread.start()

    @classmethod
    def go_away(cls) -> None:
        """Stop the server, with the page left open."""
        cls.server.should_exit = True
        cls.thread.join(timeout=20)

    def visit(self, place: str) -> None:
        self.browser.get("about:blank")
        self.browser.get(f"{self.address}w/1/{place}")

    def see(self, text: str, within: str = "body") -> WebElement:
        """Wait until the text is on the page; the element it was looked for in."""

        def having(browser: webdriver.Chrome) -> Lasting | bool:
            return next((e for e in browser.find_elements(By.CSS_SELECTOR, within) if text in e.text), False)  # type: ignore[return-value]

        def found() -> Lasting:
            wait = WebDriverWait(self.browser, 60, poll_frequency=0.02, ignored_exceptions=[Exception])
            return wait.until(having)  # type: ignore[return-value]

        try:
            return found().found_by(found)
        except Exception as error:
            raise AssertionError(
                f"“{text}” is not in {within}: {self.browser.find_element(By.TAG_NAME, 'body').text[:1500]}"
            ) from error

    def type_question(self, text: str, *keys: str) -> None:
        field = WebDriverWait(self.browser, 60).until(lambda b: b.find_element(By.ID, "question"))
        field.send_keys(text)
        if keys:
            field.send_keys(*keys)

    def send_files(self, *paths: Path) -> None:
        WebDriverWait(self.browser, 60).until(lambda b: b.find_element(By.CSS_SELECTOR, "input[type=file]")).send_keys(
            "\n".join(map(str, paths))
        )

    def press(self, words: str, within: str = "body", place: int = 0) -> None:
        """Press the button or link that says just that."""

        def pressed(browser: webdriver.Chrome) -> bool:
            named = browser.find_elements(By.CSS_SELECTOR, f"{within} button")
            shown = [e for e in named if e.text.strip() == words and e.is_displayed()]
            if len(shown) <= place:
                return False
            shown[place].click()
            return True

        WebDriverWait(self.browser, 60, ignored_exceptions=[Exception]).until(pressed)

    def faults_of_access(self) -> list[str]:
        """What axe-core finds on the page against WCAG 2.1 A and AA."""
        self.browser.execute_script((HOME / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text())
        looked_at, found = self.browser.execute_async_script(
            "const done = arguments[0];"
            "axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa']}).then(r => done([r.passes.length, r.violations]))"
        )
        self.assertGreater(looked_at, 10)
        return [f"{v['id']}: {v['help']}: {v['nodes'][0]['html'][:160]}" for v in found]
