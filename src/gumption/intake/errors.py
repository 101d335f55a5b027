"""What can be wrong with a file, told to the person who sent it."""

from __future__ import annotations


class UnreadableFile(Exception):
    """A file that gives no table: its name, what is wrong, and what to do."""

    def __init__(self, file: str, problem: str, advice: str) -> None:
        self.file, self.problem, self.advice = file, problem, advice
        super().__init__(file, problem, advice)

    def __str__(self) -> str:
        return f"{self.file}: {self.problem} {self.advice}"
