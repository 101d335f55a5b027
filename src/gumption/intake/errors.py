"""What can be wrong with a file, told to the person who sent it."""

from __future__ import annotations

from collections.abc import Sequence

from gumption.core.model.fault import Fault


class UnreadableFile(Fault):
    """A file that gives no table: its name, what is wrong, and what to do."""

    def __init__(
        self, file: str, problem: str, advice: str, *, found: object = "", accepted: Sequence[str] = ()
    ) -> None:
        super().__init__(problem, advice, where=file, found=found, accepted=accepted)

    @property
    def file(self) -> str:
        return self.where

    def __str__(self) -> str:
        return f"{self.file}: {super().__str__()}"
