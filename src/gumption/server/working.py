"""Work on questions for the routes of a workspace: begun, waited for, and stopped with the person who waits for it."""

from __future__ import annotations

import asyncio
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar

from anyio.to_thread import run_sync
from fastapi import Request

from gumption.core.model.style import style_now
from gumption.engines.limits import Stop
from gumption.server.desk import Chain
from gumption.server.problems import ApiProblem
from gumption.server.runs import Runs
from gumption.server.styles import InStyle
from gumption.server.workers import Kind, Task
from gumption.server.workspace import Workspace

READ_SECONDS = 10.0
"""Time for reading what is typed."""
_GONE = 0.5
"""Seconds between two looks at whether a person still waits."""
T = TypeVar("T")


class Asking:
    """Work on questions for the routes: begun, waited for, and stopped with the person who waits for it."""

    def __init__(self, workspace: Workspace, runs: Runs, sql_threads: ThreadPoolExecutor) -> None:
        self.workspace, self.runs = workspace, runs
        self.sql_threads = sql_threads
        """Where people's own SQL waits for its turn."""

    async def work(self, request: Request, kind: Kind, task: Task, *given: Any, run: str = "", near: str = "") -> Any:
        """What a task gives. Raises ApiProblem where it was stopped or cannot be answered."""
        seconds = self.workspace.limits.seconds if kind == "answer" else READ_SECONDS
        with self.runs.running(run) as stop:
            styled = InStyle(task, style_now())
            future = self.workspace.workers.submit(kind, stop, seconds, styled, *given, near=near)
            return await waited(request, asyncio.wrap_future(future), stop)

    async def chain(self, number: int | None) -> Chain:
        """The question that another follows, with those before it. Raises ApiProblem."""
        if number is None:
            return ()
        gone = ApiProblem(404, "The question that this follows is no longer in the trail.", "Ask it on its own.")
        return await self._chain(number, gone)

    async def entry(self, number: int) -> Chain:
        """A question of the trail, with those that it followed. Raises ApiProblem."""
        return await self._chain(
            number, ApiProblem(404, "That question is no longer in the trail.", "Reload the page.")
        )

    async def _chain(self, number: int, gone: ApiProblem) -> Chain:
        found = await run_sync(self.workspace.chain, number)
        if not found:
            raise gone
        return found


async def waited(request: Request, future: asyncio.Future[T], stop: Stop) -> T:
    """What a future gives; the work is stopped when the person who waits for it has gone."""
    while not future.done():
        await asyncio.wait((future,), timeout=_GONE)
        if not future.done() and await request.is_disconnected():
            stop.now()
    return future.result()
