"""Errors as they are sent: a sentence on what is wrong, one on what to do."""

from __future__ import annotations

import errno
from collections.abc import Sequence

from gumption.core.model.fault import Fault
from gumption.core.plan.fields import PlanError
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.intake.errors import UnreadableFile
from gumption.store.records import StoreError


class ApiProblem(Fault):
    """An error to send, with its HTTP status."""

    def __init__(
        self,
        status: int,
        problem: str,
        advice: str = "",
        *,
        where: str = "",
        found: object = "",
        accepted: Sequence[str] = (),
    ) -> None:
        super().__init__(problem, advice, where=where, found=found, accepted=accepted)
        self.status = status

    @classmethod
    def of(cls, status: int, fault: Fault, problem: str = "", advice: str = "") -> ApiProblem:
        """A fault with its fields, in other words where they are given."""
        said, then = capital(problem or fault.problem), advice or fault.advice
        return cls(status, said, then, where=fault.where, found=fault.found, accepted=fault.accepted)


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
            return ApiProblem.of(422, error)
        case WasStopped():
            return ApiProblem.of(409, error, advice="Run it again when you like.")
        case PlanError():
            return ApiProblem.of(422, error, f"The plan does not fit: {error}.", "Mend that step and send it again.")
        case CannotAnswer():
            return ApiProblem.of(422, error)
        case StoreError():
            return ApiProblem.of(503, error)
        case OSError() if disk_is_full(error):
            return ApiProblem(507, "The disk is full; nothing was changed.", "Make room, then do it again.")
        case _:
            return None


class WorkBroke(Exception):
    """A piece of work ended in a fault of ours, which is in the log."""
