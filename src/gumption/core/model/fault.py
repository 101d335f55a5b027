"""An error for a person: kept as fields, of which the sentence is made."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, Self, TypeVar


class Fault(Exception):
    """What is wrong, where, what was found there, what would have been accepted, and what to do.

    `problem` is a clause or a sentence. `where` is the name of a file, or a path such as steps.2.
    """

    def __init__(
        self, problem: str, advice: str = "", *, where: str = "", found: object = "", accepted: Sequence[str] = ()
    ) -> None:
        self.problem, self.advice, self.where = problem, advice, where
        self.found, self.accepted = str(found), tuple(accepted)
        super().__init__(problem, advice)

    def __str__(self) -> str:
        return f"{self.problem} {self.advice}".strip()

    def __reduce__(self) -> tuple[Callable[..., Self], tuple[type[Self], dict[str, Any]]]:
        # Faults go from process to process; what they are made from is not always what they hold.
        return _again, (type(self), self.__dict__.copy())


_F = TypeVar("_F", bound=Fault)


def _again(kind: type[_F], held: dict[str, Any]) -> _F:
    fault = kind.__new__(kind)
    Exception.__init__(fault, held["problem"], held["advice"])
    fault.__dict__.update(held)
    return fault
