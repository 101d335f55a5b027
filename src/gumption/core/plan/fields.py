"""What is known of a column of a step's result, and the error of a plan that cannot run."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gumption.core.model.fault import Fault
from gumption.core.model.types import Grain, Role, Type


@dataclass(frozen=True)
class Field:
    """A column of a step's result; `table` and `column` say where it came from unchanged."""

    type: Type
    role: Role
    scale: int = 0
    unit: str | None = None
    table: str | None = None
    column: str | None = None
    grain: Grain | None = None
    separator: str = ""
    """What stands between the items of cells that hold several."""


Schema = dict[str, Field]
MOST_SCALE = 18
"""Digits after the point that exact decimals may have: more leave no room before it in 64 bits."""


class PlanError(Fault):
    """A plan that cannot run: what is wrong, in which step, and what would do instead."""

    def __init__(
        self,
        problem: str,
        advice: str = "",
        *,
        step: int | None = None,
        where: str = "",
        found: object = "",
        accepted: Sequence[str] = (),
    ) -> None:
        self.step = step
        inner = [where] if where else []
        path = ".".join(inner if step is None else ["steps", str(step), *inner])
        super().__init__(problem, advice, where=path, found=found, accepted=accepted)

    @property
    def clause(self) -> str:
        """What is wrong and what would do, without the step."""
        instead = self.advice or (f"there are {', '.join(self.accepted)}" if self.accepted else "")
        return f"{self.problem}; {instead}" if instead else self.problem

    def at(self, step: int) -> PlanError:
        """The same of a plan's step; a step inside another plan has a number of its own, which would mislead there."""
        inside = "" if self.step is None else f"its other plan, step {self.step + 1}: "
        problem, inner = inside + self.problem, f"other.{self.where}" if inside else self.where
        return PlanError(problem, self.advice, step=step, where=inner, found=self.found, accepted=self.accepted)

    def __str__(self) -> str:
        return self.clause if self.step is None else f"step {self.step + 1}: {self.clause}"


def need(schema: Schema, name: str) -> Field:
    if name not in schema:
        raise PlanError(f"there is no column {name}", found=name, accepted=list(schema))
    return schema[name]


def comparable(left: Type, right: Type) -> bool:
    return left is right or (left.is_number and right.is_number) or (left.is_time and right.is_time)


def common(fields: list[Field], what: str) -> Field:
    """One type for the values of several fields: numbers widen, the rest must be alike."""
    first = fields[0]
    kinds = {f.type for f in fields}
    units = {f.unit for f in fields}
    if len({u for u in units if u}) > 1:
        raise PlanError(f"{what} are in {' and '.join(sorted(u for u in units if u))}", "convert one first")
    unit = next((u for u in units if u), None)
    role = (
        first.role
        if all(f.role is first.role for f in fields)
        else next((f.role for f in fields if f.role.is_summed), first.role)
    )
    same = {(f.table, f.column) for f in fields}
    source = (first.table, first.column) if len(same) == 1 else (None, None)
    if len(kinds) == 1:
        grain = first.grain if len({f.grain for f in fields}) == 1 else None
        return Field(first.type, role, max(f.scale for f in fields), unit, *source, grain)
    if all(k.is_number for k in kinds):
        if Type.DURATION in kinds:
            raise PlanError(f"{what} mix durations and plain numbers")
        if Type.FLOAT in kinds:
            return Field(Type.FLOAT, role, 0, unit)
        return Field(Type.DECIMAL, role, max(f.scale for f in fields), unit)
    if kinds == {Type.DATE, Type.TIMESTAMP}:
        return Field(Type.TIMESTAMP, first.role)
    raise PlanError(
        f"{what} are {' and '.join(sorted(kinds))}", "they must be of one type", found=" and ".join(sorted(kinds))
    )
