"""Errors as they are sent: a sentence on what is wrong, one on what to do."""

from __future__ import annotations

import errno

from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.intake.errors import UnreadableFile
from gumption.store.records import StoreError


class ApiProblem(Exception):
    """An error to send: its HTTP status, what is wrong, and what to do."""

    def __init__(self, status: int, problem: str, advice: str = "") -> None:
        self.status, self.problem, self.advice = status, problem, advice
        super().__init__(status, problem, advice)


class NoTable(KeyError):
    """A table that is not there, or not any more: another may have deleted it a moment ago."""


def capital(problem: str) -> str:
    """A problem as the beginning of a sentence."""
    return problem[:1].upper() + problem[1:]


def disk_is_full(error: BaseException) -> bool:
    """True for the system's error that there is no room."""
    return isinstance(error, OSError) and error.errno in (errno.ENOSPC, errno.EDQUOT)


def problem_of(error: Exception) -> ApiProblem | None:
    """What an error of the layers below means to the one who asked; None for one that nobody foresaw."""
    match error:
        case ApiProblem():
            return error
        case NoTable():
            return ApiProblem(404, f"There is no table {error.args[0]}.", "Reload the page to see which there are.")
        case UnreadableFile():
            return ApiProblem(422, capital(error.problem), error.advice)
        case WasStopped():
            return ApiProblem(409, str(error), "Run it again when you like.")
        case CannotAnswer():
            return ApiProblem(422, str(error))
        case StoreError():
            return ApiProblem(503, error.problem, error.advice)
        case OSError() if disk_is_full(error):
            return ApiProblem(507, "The disk is full; nothing was changed.", "Make room, then do it again.")
        case _:
            return None


class WorkBroke(Exception):
    """A piece of work ended in a fault of ours, which is in the log."""
