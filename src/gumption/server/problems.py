"""Errors as they are sent: a sentence on what is wrong, one on what to do."""

from __future__ import annotations

import errno


class ApiProblem(Exception):
    """An error to send: its HTTP status, what is wrong, and what to do."""

    def __init__(self, status: int, problem: str, advice: str = "") -> None:
        self.status, self.problem, self.advice = status, problem, advice
        super().__init__(status, problem, advice)


def disk_is_full(error: BaseException) -> bool:
    """True for the system's error that there is no room."""
    return isinstance(error, OSError) and error.errno in (errno.ENOSPC, errno.EDQUOT)


class WorkBroke(Exception):
    """A piece of work ended in a fault of ours, which is in the log."""
