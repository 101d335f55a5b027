"""The style in which a request's reader has numbers and days written, on its way to where answers are made."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from starlette.datastructures import Headers
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Receive, Scope, Send

from gumption.core.model.style import DAYS, NUMBERS, Style, in_style
from gumption.server.schemas import Problem

HEADER = "x-style"


class Styled:
    """Middleware that has everything of a request written as its header X-Style says: numbers, a blank, days."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        said = Headers(scope=scope).get(HEADER, "") if scope["type"] == "http" else ""
        if not said:
            await self.app(scope, receive, send)
            return
        style = style_of(said)
        if style is None:
            advice = f"X-Style is one of {', '.join(NUMBERS)}, a blank, and one of {', '.join(DAYS)}."
            answer = JSONResponse(Problem(problem="No such style is known.", advice=advice).model_dump(), 422)
            await answer(scope, receive, send)
            return
        with in_style(style):
            await self.app(scope, receive, send)


def style_of(said: str) -> Style | None:
    """The style that a header names; None where it is not known."""
    numbers, _, days = said.partition(" ")
    if numbers not in NUMBERS or days not in DAYS:
        return None
    return Style(numbers, days)


@dataclass(frozen=True)
class InStyle:
    """A task whose result is written in a style, wherever it is done."""

    task: Callable[..., Any]
    style: Style

    @property
    def __name__(self) -> str:
        return self.task.__name__

    def __call__(self, *given: Any) -> Any:
        with in_style(self.style):
            return self.task(*given)
