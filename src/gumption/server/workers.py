"""Work on questions, in processes of its own: as many as there are cores, each with desks over the same files.

The server's own process only takes requests and keeps records, so that it answers at once however much is worked on.
"""

from __future__ import annotations

import contextlib
import functools
import itertools
import logging
import os
import threading
import time
from abc import ABC, abstractmethod
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Future, InvalidStateError, ThreadPoolExecutor
from dataclasses import dataclass, field, replace
from multiprocessing.connection import Connection
from queue import SimpleQueue
from typing import Any, Literal, TypeVar

from pydantic import BaseModel

from gumption.core.model.fault import Fault
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.limits import Stop
from gumption.server.apart import CONTEXT, begin_apart
from gumption.server.desk import Desk, Opening, Taught
from gumption.server.log import portable
from gumption.server.problems import WorkBroke

log = logging.getLogger(__name__)

SIDE_BY_SIDE = 3
"""Pieces of work that one process has under way: a long one leaves room for short ones."""
MOST_DESKS = 10
"""Workspaces that a process has a desk for; the one that was asked last longest ago makes room."""
GRACE = 5.0
"""Seconds that stopped work may take to end before its process is ended."""
_LOOK = 0.25

Kind = Literal["answer", "read"]
"""Answering may take long; reading what is typed never waits for it."""
Task = Callable[..., Any]
Result = TypeVar("Result")


class Workers(ABC):
    """Does pieces of work over the workspace's tables. What is a model comes back as its JSON."""

    @abstractmethod
    def open(self, opening: Opening) -> None:
        """From now on work over these tables."""

    @abstractmethod
    def learn(self, taught: Taught) -> None:
        """From now on read by what people say now."""

    @abstractmethod
    def submit(self, kind: Kind, stop: Stop, seconds: float, task: Task, *given: Any, near: str = "") -> Future[Any]:
        """Begin a task, called with a desk, a stop and what is given.

        Its future fails with what the task raises for a person, with WasStopped once `stop` is asked, with CannotAnswer
        after so many seconds, and with WorkBroke for a fault of ours. Tasks that are `near` each other share what is kept.
        """

    @abstractmethod
    def close(self) -> None:
        """Nothing more is asked of this workspace."""


class Here(Workers):
    """Work done in this process, for tests and small tools."""

    def __init__(self) -> None:
        self._desk = _Opened()
        self._threads = ThreadPoolExecutor(SIDE_BY_SIDE, "work")

    def open(self, opening: Opening) -> None:
        self._desk.open(opening)

    def learn(self, taught: Taught) -> None:
        self._desk.learn(taught)

    def submit(self, kind: Kind, stop: Stop, seconds: float, task: Task, *given: Any, near: str = "") -> Future[Any]:
        return self._threads.submit(_done, self._desk, stop, task, given)

    def close(self) -> None:
        self._threads.shutdown(wait=False, cancel_futures=True)


class _Opened:
    """The desk of a workspace over what was opened last, made when it is first worked at: tables may come faster than anybody asks."""

    def __init__(self) -> None:
        self._opening: Opening | None = None
        self._taught: Taught | None = None
        self._made: Opening | None = None
        self._learned: Taught | None = None
        self._desk: Desk | None = None
        self._lock = threading.Lock()

    def open(self, opening: Opening) -> None:
        self._opening, self._taught = opening, opening.taught

    def learn(self, taught: Taught) -> None:
        self._taught = taught

    def now(self) -> Desk | None:
        with self._lock:
            opening, taught = self._opening, self._taught
            if opening is not None and self._made is not opening:
                self._desk, self._made, self._learned = Desk(opening, self._desk), opening, opening.taught
            if self._desk is not None and taught is not None and self._learned is not taught:
                self._desk.learn(taught)
                self._learned = taught
            return self._desk


def _done(opened: _Opened, stop: Stop, task: Task, given: tuple[Any, ...]) -> Any:
    """A task's result as it is sent. Raises what is for a person, and WorkBroke."""
    try:
        desk = opened.now()
        assert desk is not None
        if stop.asked():
            raise WasStopped
        found = task(desk, stop, *given)
    except Fault:
        raise
    except Exception as error:
        log.exception("%s broke", task.__name__)
        raise WorkBroke from error
    return found.model_dump_json() if isinstance(found, BaseModel) else found


# -- the messages ------------------------------------------------------------------------------


@dataclass(frozen=True)
class _Open:
    workspace: int
    opening: Opening


@dataclass(frozen=True)
class _Learn:
    workspace: int
    taught: Taught


@dataclass(frozen=True)
class _PutDown:
    workspace: int


@dataclass(frozen=True)
class _Do:
    number: int
    workspace: int
    task: Task
    given: tuple[Any, ...]


@dataclass(frozen=True)
class _Halt:
    number: int


@dataclass(frozen=True)
class _Told:
    number: int
    words: str


@dataclass(frozen=True)
class _Done:
    number: int
    result: Any = None
    problem: Exception | None = None


# -- in the server's process -------------------------------------------------------------------


@dataclass
class _Pending:
    """A task under way, and what is to become of it."""

    do: _Do
    kind: Kind
    near: str
    until: float
    seconds: float
    stop: Stop
    future: Future[Any] = field(default_factory=Future)
    tried: int = 0
    halted: float | None = None
    """When it was told to stop."""


class _Process:
    """One process, and what it has to do."""

    def __init__(self, kind: Kind) -> None:
        here, there = CONTEXT.Pipe()
        self.kind: Kind = kind
        self.pipe: Connection = here
        self.tasks: dict[int, _Pending] = {}
        self.desks: OrderedDict[int, Opening] = OrderedDict()
        """What it has open for each workspace, the one used last at the end."""
        self._outgoing: SimpleQueue[object] = SimpleQueue()
        self.process = CONTEXT.Process(target=_work, args=(there,), daemon=True)
        self.process.start()
        there.close()
        threading.Thread(target=self._deliver, daemon=True).start()

    def send(self, message: object) -> None:
        """Send it after what was sent before, without waiting for it to be taken."""
        self._outgoing.put(message)

    def end(self) -> None:
        self.process.kill()
        self._outgoing.put(None)

    def _deliver(self) -> None:
        # Where it has ended, the thread that listens to it sees to what it had to do.
        with contextlib.suppress(OSError):
            while (message := self._outgoing.get()) is not None:
                self.pipe.send(message)


class Processes:
    """Work in processes that are watched: one that ends, or does not stop when told to, makes room for another."""

    def __init__(self, answering: int, reading: int = 1) -> None:
        self._lock = threading.Lock()
        self._numbers = itertools.count(1)
        self._openings: dict[int, Opening] = {}
        self._closed = threading.Event()
        counts: dict[Kind, int] = {"answer": answering, "read": reading}
        self._share = answering
        self._processes = [self._begun(kind) for kind, count in counts.items() for _ in range(count)]
        threading.Thread(target=self._watch, daemon=True).start()

    def _begun(self, kind: Kind) -> _Process:
        begun = _Process(kind)
        threading.Thread(target=self._listen, args=(begun,), daemon=True).start()
        return begun

    def of(self, workspace: int) -> Workers:
        """The workers of one workspace."""
        return _OfWorkspace(self, workspace)

    def open(self, workspace: int, opening: Opening) -> None:
        """See Workers.open."""
        # What questions may take together is shared out.
        limits = replace(opening.limits, memory_gb=opening.limits.memory_gb / self._share)
        with self._lock:
            self._openings[workspace] = replace(opening, limits=limits)

    def learn(self, workspace: int, taught: Taught) -> None:
        """See Workers.learn."""
        with self._lock:
            before = self._openings[workspace]
            after = self._openings[workspace] = replace(before, taught=taught)
            for process in self._processes:
                if process.desks.get(workspace) is before:
                    process.desks[workspace] = after
                    process.send(_Learn(workspace, taught))

    def put_down(self, workspace: int) -> None:
        """Let go of what is open for a workspace."""
        with self._lock:
            self._openings.pop(workspace, None)
            for process in self._processes:
                if process.desks.pop(workspace, None) is not None:
                    process.send(_PutDown(workspace))

    def submit(
        self, workspace: int, kind: Kind, stop: Stop, seconds: float, task: Task, given: tuple[Any, ...], near: str
    ) -> Future[Any]:
        """See Workers.submit."""
        number = next(self._numbers)
        until = time.monotonic() + seconds
        pending = _Pending(_Do(number, workspace, task, given), kind, near, until, seconds, stop)
        self._give(pending)
        stop.calling(lambda: self._halt(pending, WasStopped()))
        return pending.future

    def close(self) -> None:
        """End everything."""
        self._closed.set()
        for process in self._processes:
            process.end()

    def _give(self, pending: _Pending) -> None:
        with self._lock:
            fit = [p for p in self._processes if p.kind == pending.kind]
            least = min(len(p.tasks) for p in fit)
            # What is kept for a question is in one process; that one is taken unless it has much more to do.
            workspace = pending.do.workspace
            wanted = fit[hash((workspace, pending.near)) % len(fit)]
            chosen = wanted if len(wanted.tasks) <= least + 1 else next(p for p in fit if len(p.tasks) == least)
            chosen.tasks[pending.do.number] = pending
            pending.tried += 1
            opening = self._openings.get(workspace)
            if opening is None:
                del chosen.tasks[pending.do.number]
                _settle(
                    pending.future, problem=CannotAnswer("This workspace was closed meanwhile.", "Reload the page.")
                )
                return
            if chosen.desks.get(workspace) is not opening:
                chosen.send(_Open(workspace, opening))
                chosen.desks[workspace] = opening
            chosen.desks.move_to_end(workspace)
            if len(chosen.desks) > MOST_DESKS:
                chosen.send(_PutDown(chosen.desks.popitem(last=False)[0]))
            chosen.send(pending.do)

    def _halt(self, pending: _Pending, why: CannotAnswer) -> None:
        """Tell the work to stop; who waits for it need not wait until it has."""
        with self._lock:
            if pending.halted is not None:
                return
            pending.halted = time.monotonic()
            for process in self._processes:
                if pending.do.number in process.tasks:
                    process.send(_Halt(pending.do.number))
        _settle(pending.future, problem=why)

    def _listen(self, process: _Process) -> None:
        """Take what a process sends until it ends; then another takes its place and its work."""
        while True:
            try:
                message = process.pipe.recv()
            except (EOFError, OSError):
                break
            if isinstance(message, logging.LogRecord):
                logging.getLogger(message.name).handle(message)
            elif isinstance(message, _Told):
                with self._lock:
                    told = process.tasks.get(message.number)
                if told is not None:
                    told.stop.tell(message.words)
            elif isinstance(message, _Done):
                with self._lock:
                    pending = process.tasks.pop(message.number, None)
                if pending is not None:
                    _settle(pending.future, message.result, message.problem)
        process.process.join()
        process.end()
        if self._closed.is_set():
            return
        log.error("a process of work ended (%s); another takes its place", process.process.exitcode)
        with self._lock:
            place = self._processes.index(process)
            self._processes[place] = self._begun(process.kind)
        for pending in list(process.tasks.values()):
            if pending.tried > 1:
                _settle(pending.future, problem=CannotAnswer("Working it out took more than this machine has."))
            elif pending.halted is None:
                self._give(pending)

    def _watch(self) -> None:
        """Stop what takes too long, and end a process that does not stop."""
        while not self._closed.wait(_LOOK):
            now = time.monotonic()
            with self._lock:
                under_way = [(p, t) for p in self._processes for t in p.tasks.values()]
            for process, pending in under_way:
                if pending.halted is None and now > pending.until:
                    self._halt(pending, too_long(pending.seconds))
                elif pending.halted is not None and now > pending.halted + GRACE:
                    process.process.kill()


@dataclass(frozen=True)
class _OfWorkspace(Workers):
    """The processes as one workspace has them."""

    processes: Processes
    workspace: int

    def open(self, opening: Opening) -> None:
        self.processes.open(self.workspace, opening)

    def learn(self, taught: Taught) -> None:
        self.processes.learn(self.workspace, taught)

    def submit(self, kind: Kind, stop: Stop, seconds: float, task: Task, *given: Any, near: str = "") -> Future[Any]:
        return self.processes.submit(self.workspace, kind, stop, seconds, task, given, near)

    def close(self) -> None:
        self.processes.put_down(self.workspace)


def stoppable(threads: ThreadPoolExecutor, stop: Stop, work: Callable[[], Result]) -> Future[Result]:
    """Work in a thread, as a future that is over as soon as `stop` is asked, even where the work waits for its turn."""
    future: Future[Result] = Future()

    def do() -> None:
        if not future.done():
            try:
                _settle(future, work())
            except Exception as error:
                _settle(future, problem=error)

    threads.submit(do)
    stop.calling(lambda: _settle(future, problem=WasStopped()))
    return future


def too_long(seconds: float) -> CannotAnswer:
    """What is said of work that took more time than it may."""
    return CannotAnswer(f"It took longer than {seconds:g} seconds and was stopped.", "Ask for fewer rows or groups.")


def _settle(future: Future[Any], result: Any = None, problem: Exception | None = None) -> None:
    """Give a future its end, unless it has one."""
    with contextlib.suppress(InvalidStateError):
        if problem is not None:
            future.set_exception(problem)
        else:
            future.set_result(result)


# -- in a process of its own -------------------------------------------------------------------


class _Forwarded(logging.Handler):
    """Sends what is logged to the server, which alone writes the log."""

    def __init__(self, send: Callable[[object], None]) -> None:
        super().__init__()
        self._send = send

    def emit(self, record: logging.LogRecord) -> None:
        self._send(portable(record))


def _work(pipe: Connection) -> None:
    """Do what is sent until nobody sends any more."""
    begin_apart()
    sending = threading.Lock()

    def send(message: object) -> None:
        with sending, contextlib.suppress(OSError):
            pipe.send(message)

    logging.basicConfig(handlers=[_Forwarded(send)], level=logging.INFO, force=True)
    stops: dict[int, Stop] = {}
    opened: dict[int, _Opened] = {}

    def do(asked: _Do, desk: _Opened, stop: Stop) -> None:
        try:
            send(_Done(asked.number, _done(desk, stop, asked.task, asked.given)))
        except Exception as error:
            send(_Done(asked.number, problem=error))
        finally:
            stops.pop(asked.number, None)

    def tell(number: int, words: str) -> None:
        send(_Told(number, words))

    threads = ThreadPoolExecutor(SIDE_BY_SIDE, "work")
    while True:
        try:
            message = pipe.recv()
        except EOFError:
            os._exit(0)
        match message:
            case _Open(workspace, opening):
                opened.setdefault(workspace, _Opened()).open(opening)
            case _Learn(workspace, taught):
                opened[workspace].learn(taught)
            case _PutDown(workspace):
                del opened[workspace]
            case _Do(number, workspace):
                stops[number] = Stop(functools.partial(tell, number))
                threads.submit(do, message, opened[workspace], stops[number])
            case _Halt(number) if number in stops:
                stops[number].now()
