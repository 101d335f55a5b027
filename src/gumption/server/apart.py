"""One piece of work in a process of its own: bounded by the kernel, and ended at once when it is stopped."""

from __future__ import annotations

import contextlib
import ctypes
import gc
import multiprocessing
import os
import resource
import signal
from collections.abc import Callable
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any

from gumption.core.collecting import collect_seldom
from gumption.engines.limits import Stop
from gumption.server.log import frames

_PR_SET_PDEATHSIG = 1
CONTEXT = multiprocessing.get_context("forkserver")
"""Processes of their own are forked from one that has everything loaded."""
CONTEXT.set_forkserver_preload(
    # Arrow loads pandas when it is first given a list, and SciPy its tests when the first is asked for: either would take
    # each process longer than a small file.
    ["gumption.server.tasks", "gumption.server.workers", "gumption.server.reading_process", "pandas", "scipy.stats"]
)

Tell = Callable[[Any], None]


class BrokeOff(Exception):
    """The process ended without a result: it took more than it may, or was stopped."""


def apart(work: Callable[..., Any], given: tuple[Any, ...], memory: int, stop: Stop, told: Tell) -> Any:
    """The result of `work(tell, *given)`, done apart with so many bytes of address space beside what it begins with.

    What the work tells on the way comes to `told`. Raises what the work raises, and BrokeOff.
    """
    if stop.asked():
        raise BrokeOff
    here, there = CONTEXT.Pipe(duplex=False)
    process = CONTEXT.Process(target=_do, args=(there, work, given, memory), daemon=True)
    process.start()
    there.close()
    try:
        with stop.interrupting(process.kill):
            while True:
                kind, content = here.recv()
                if kind == "told":
                    told(content)
                elif kind == "done":
                    return content
                else:
                    raise content
    except EOFError as error:
        raise BrokeOff from error
    finally:
        here.close()
        process.kill()
        process.join()


def _do(pipe: Connection, work: Callable[..., Any], given: tuple[Any, ...], memory: int) -> None:
    begin_apart()
    most = memory + _address_space()
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    os.nice(5)
    # Where nobody listens any more, there is nobody to tell.
    with contextlib.suppress(BrokenPipeError):
        try:
            pipe.send(("done", work(lambda content: pipe.send(("told", content)), *given)))
        except MemoryError:
            return
        except Exception as error:
            # Frames do not go from one process to another; the log wants them.
            error.__dict__["trace"] = frames(error)
            pipe.send(("failed", error))
    pipe.close()


def begin_apart() -> None:
    """What a process of its own begins with.

    It must not outlive the server, whose next start sweeps what it left; Ctrl-C is the server's to hear.
    """
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGKILL)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    # What was loaded before it was forked stays; a look through it for garbage would copy all of it.
    gc.freeze()
    collect_seldom()


def _address_space() -> int:
    pages = int(Path("/proc/self/statm").read_text().split()[0])
    return pages * resource.getpagesize()
