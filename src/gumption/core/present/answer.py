"""A worked answer: what every part of the presentation reads."""

from __future__ import annotations

from dataclasses import dataclass

from gumption.core.model.types import Value
from gumption.core.plan.fields import Field, Schema
from gumption.core.plan.steps import Group, Join, Keep, Limit, Pivot, Plan, Sort, Take, Window


@dataclass(frozen=True)
class Answer:
    """The columns and rows that a plan gave."""

    plan: Plan
    typed: tuple[Schema, ...]
    """The schema after each step."""
    columns: tuple[str, ...]
    rows: list[tuple[Value, ...]]
    total: int
    """How many rows there are; more than are kept where nobody would read them all."""

    @property
    def schema(self) -> Schema:
        return self.typed[-1]

    @property
    def table(self) -> str:
        first = self.plan.steps[0]
        assert isinstance(first, Take)
        return first.table

    @property
    def group(self) -> Group | None:
        return next((s for s in reversed(self.plan.steps) if isinstance(s, Group)), None)

    @property
    def crossed(self) -> Pivot | None:
        """The step that made a cross table of it, where nothing but its order was changed behind it."""
        steps = self.plan.steps
        last = next((i for i in reversed(range(len(steps))) if isinstance(steps[i], Pivot)), None)
        if last is None or not all(isinstance(s, (Sort, Limit)) for s in steps[last + 1 :]):
            return None
        found = steps[last]
        assert isinstance(found, Pivot)
        return found

    @property
    def crossed_field(self) -> Field | None:
        """The column whose values stand as columns in a cross table."""
        crossed = self.crossed
        return None if crossed is None else self.typed[self.plan.steps.index(crossed) - 1][crossed.column]

    @property
    def labels(self) -> list[int]:
        """Places of the columns that say what a row is about."""
        if self.crossed is not None:
            return [i for i, name in enumerate(self.columns) if name in self.crossed.by]
        if self.group is not None:
            names = set(self.group.by)
            found = [i for i, name in enumerate(self.columns) if name in names]
            if found or not names:
                return found
            # Groups that are shown by another name than they were made by.
            worked = {a.name for a in self.group.aggregates}
            return [i for i, n in enumerate(self.columns) if n not in worked and not self.schema[n].type.is_number]
        return [i for i, name in enumerate(self.columns) if not self.schema[name].type.is_number]

    @property
    def numbers(self) -> list[int]:
        """Places of the columns that were worked out."""
        labels = set(self.labels)
        return [i for i, name in enumerate(self.columns) if i not in labels and self.schema[name].type.is_number]

    @property
    def added_up(self) -> int | None:
        """The place of the column that adds up from row to row, where it goes along one label; None where there is none."""
        found = next((s for s in self.plan.steps if isinstance(s, Window) and s.function == "running_total"), None)
        if found is None or found.within or found.name not in self.columns or len(self.labels) != 1:
            return None
        return self.columns.index(found.name)

    @property
    def limited(self) -> int | None:
        return next((s.rows for s in reversed(self.plan.steps) if isinstance(s, Limit)), None)

    @property
    def sorted_by(self) -> Sort | None:
        return next((s for s in reversed(self.plan.steps) if isinstance(s, Sort)), None)

    def goes_up_by(self, column: str) -> bool:
        """True where the answer goes from the lowest of a column's values up."""
        key = self.sorted_by.keys[0] if self.sorted_by is not None else None
        return key is not None and key.column == column and not key.descending

    @property
    def filtered(self) -> bool:
        return any(
            isinstance(s, Keep) or (isinstance(s, Join) and s.how in ("with", "without")) for s in self.plan.steps
        )
