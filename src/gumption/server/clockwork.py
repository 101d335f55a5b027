"""Pages of the folio that are worked again by themselves: at their times, and when their tables have changed."""

from __future__ import annotations

import contextlib
import datetime as dt
import functools
import logging
import threading

from gumption.engines.errors import CannotAnswer
from gumption.engines.limits import Stop
from gumption.engines.printing import library
from gumption.server.folio_pages import Folio
from gumption.server.shelf import Shelf
from gumption.store.folio import FolioRecords
from gumption.store.records import StoreError, patiently

log = logging.getLogger(__name__)
_LOOK = 5.0
"""Seconds between two looks at what is due."""


class Clockwork:
    """Looks every few seconds at which pages are due, and works them."""

    def __init__(self, shelf: Shelf) -> None:
        self.shelf = shelf
        self._ended = threading.Event()
        self._stop = Stop()
        self._thread = threading.Thread(target=self._run, daemon=True)

    def start(self) -> None:
        self._thread.start()

    def close(self) -> None:
        """End; what is being worked is left."""
        self._ended.set()
        self._stop.now()

    def _run(self) -> None:
        # It is seconds in the making: who first takes a page away should not wait for it.
        with contextlib.suppress(CannotAnswer):
            library()
        while not self._ended.wait(_LOOK):
            try:
                self.tick(dt.datetime.now())
            except StoreError as error:
                # The database is watched over elsewhere, and what was due still is.
                log.warning("pages that are due could not be looked for: %s", error)
            except Exception:
                log.exception("a page that was due broke")

    def tick(self, now: dt.datetime) -> None:
        """Work what is due at a time. Raises StoreError."""
        for workspace, number in FolioRecords(self.shelf.records_of(0)).due(now):
            room = self.shelf.room(workspace)
            folio = Folio(room.workspace)
            page = folio.page(number)
            # Its next time first: a page that breaks is not to be worked again and again.
            next_at = page.schedule.next_after(now) if page.schedule is not None else None
            folio.records.set_schedule(number, page.schedule, next_at)
            # What is due is not passed over because the database was away just then.
            patiently(functools.partial(folio.work, number, "schedule", self._stop))
        for room in self.shelf.open_rooms():
            folio = Folio(room.workspace)
            for page in folio.records.pages():
                follows = page.schedule is not None and page.schedule.every == "data"
                if follows and folio.older_than(folio.records.worked(page.id, whole=False).values()):
                    folio.work(page.id, "data", self._stop)
