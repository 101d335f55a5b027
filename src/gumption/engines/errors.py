"""What can go wrong with a question on an engine, in words for a person."""

from __future__ import annotations

from gumption.core.model.fault import Fault


class CannotAnswer(Fault):
    """A plan, or a person's SQL, that the engine could not work; says what to do."""


class WasStopped(CannotAnswer):
    """The work was stopped by a person."""

    def __init__(self, why: str = "It was stopped before it was done.") -> None:
        super().__init__(why)
