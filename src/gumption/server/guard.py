"""What stands before every request: who may ask, how much may come, what goes with each answer, and faults of ours."""

from __future__ import annotations

import asyncio
import logging
import re
import secrets
from collections.abc import Collection
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from gumption.server.schemas import Problem

log = logging.getLogger(__name__)

LOOPBACK = ("127.0.0.1", "localhost", "::1")
MOST_BYTES = 1_000_000
"""Bytes of a request's body, where no other bound is given."""
_IN = r"/api/v1/workspaces/\d+"
OTHER_BOUNDS = (
    (re.compile(rf"{_IN}/pasted"), 40_000_000),
    (re.compile(rf"{_IN}/tables/[^/]+/dictionary"), 6_000_000),
    # How long a file may be is the upload's own matter, for it goes to disk as it comes.
    (re.compile(rf"{_IN}/uploads/.*"), None),
    (re.compile(r"/api/v1/workspaces/saved"), None),
)
PIECE_SECONDS = 30.0
"""Seconds within which the next piece of a body has to come."""
_READING = ("GET", "HEAD", "OPTIONS")


class Guard:
    """Middleware around the whole application.

    Answers go only to those who ask for this machine by a name it has (`hosts`), and changes are made only for our own
    pages: a page from elsewhere that a person happens to have open can neither read here nor write. `frames` are the
    origins whose pages may hold ours in a frame.
    """

    def __init__(self, app: ASGIApp, hosts: Collection[str] = (), frames: Collection[str] = ()) -> None:
        self.app = app
        self.hosts = {h.lower() for h in (*LOOPBACK, *hosts)}
        may_frame = " ".join(frames) or "'none'"
        self.told = {
            # Styles are set on elements by the charts and by what floats over the page; scripts only come as files.
            "Content-Security-Policy": (
                "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
                "font-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'none'; "
                f"frame-ancestors {may_frame}"
            ),
            "X-Content-Type-Options": "nosniff",
            "Referrer-Policy": "no-referrer",
            "Cross-Origin-Opener-Policy": "same-origin",
            "Cross-Origin-Resource-Policy": "same-origin",
        }
        if not frames:
            self.told["X-Frame-Options"] = "DENY"

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        begun = False

        async def telling(message: Message) -> None:
            nonlocal begun
            if message["type"] == "http.response.start":
                begun = True
                headers = MutableHeaders(scope=message)
                for name, value in self.told.items():
                    headers.setdefault(name, value)
                if scope["path"].startswith("/api/"):
                    headers.setdefault("Cache-Control", "no-store")
            await send(message)

        async def refuse(status: int, problem: str, advice: str) -> None:
            answer = JSONResponse(Problem(problem=problem, advice=advice).model_dump(), status, {"Connection": "close"})
            await answer(scope, receive, telling)

        headers = Headers(scope=scope)
        if not self._is_ours(headers.get("host", "")):
            await refuse(
                421, "Gumption does not go by this name.", "Open it by its own, or start it with --host and this name."
            )
            return
        if scope["method"] not in _READING and not self._is_own_page(headers):
            await refuse(403, "This was asked by a page from elsewhere.", "Do it on Gumption's own page.")
            return
        most = next((bound for path, bound in OTHER_BOUNDS if path.fullmatch(scope["path"])), MOST_BYTES)
        announced = headers.get("content-length", "0")
        too_large = f"More was sent than can be taken here: at most {(most or 0) / 1e6:g} MB."
        if most is not None and announced.isdecimal() and (len(announced) > 15 or int(announced) > most):
            await refuse(413, too_large, "Send less, or send it as a file.")
            return
        try:
            await self.app(scope, self._bounded(receive, most, too_large), telling)
        except Exception as error:
            number = secrets.token_hex(3)
            log.error("fault %s at %s %s", number, scope["method"], _route(scope), exc_info=error)
            if begun:
                raise
            await refuse(
                500,
                f"Something went wrong that we did not foresee (fault {number}).",
                "Nothing was lost. Try it otherwise, and tell whoever runs Gumption the number: the log has more.",
            )

    def _is_ours(self, host: str) -> bool:
        try:
            return (urlsplit(f"//{host}").hostname or "").lower() in self.hosts
        except ValueError:
            return False

    def _is_own_page(self, headers: Headers) -> bool:
        """True for a request of our own page, or of a program that is no browser and says nothing of pages."""
        if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
            return False
        origin = headers.get("origin")
        return origin is None or origin.partition("://")[2].lower() == headers.get("host", "").lower()

    @staticmethod
    def _bounded(receive: Receive, most: int | None, too_large: str) -> Receive:
        """Receive as long as pieces come in time, and not more than is allowed."""
        come, more = 0, True

        async def bounded() -> Message:
            nonlocal come, more
            if not more:
                return await receive()
            try:
                message = await asyncio.wait_for(receive(), PIECE_SECONDS)
            except TimeoutError:
                return {"type": "http.disconnect"}
            come += len(message.get("body", b""))
            more = bool(message.get("more_body", False))
            if most is not None and come > most:
                raise HTTPException(413, too_large)
            return message

        return bounded


def _route(scope: Scope) -> str:
    """The route's pattern, which tells no name of a table."""
    route = scope.get("route")
    return str(getattr(route, "path", "an unknown path"))
