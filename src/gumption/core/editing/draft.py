"""A plan while a person changes it: steps changed, added, removed and switched off, the later ones following."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, TypeAlias

from pydantic import Field

from gumption.core.editing.following import ColumnChange, follow
from gumption.core.model.catalogue import Catalogue
from gumption.core.plan.expressions import Node
from gumption.core.plan.fields import PlanError, Schema
from gumption.core.plan.steps import (
    AsOf,
    Group,
    Join,
    Keep,
    Limit,
    Pick,
    Pivot,
    Plan,
    Sort,
    Step,
    Take,
    Window,
    other_plan,
)
from gumption.core.plan.typing import schema_of, schemas
from gumption.core.plan.words import step_words

Path: TypeAlias = Annotated[tuple[Annotated[int, Field(ge=0)], ...], Field(min_length=1, max_length=20)]
"""Where a step stands: (3,) is the plan's fourth, (3, 0) the first of the plan that it brings in."""


class Draft(Node):
    """A plan with the places of the steps that are switched off."""

    plan: Plan
    off: tuple[Path, ...] = ()
    said: str = ""
    """What the last change did, for the trail."""

    def worked(self, catalogue: Catalogue) -> Plan:
        """The plan without the steps that are off. Raises PlanError where the others cannot do without them."""
        plan, left = self.plan, sorted(self.off)
        while left:
            path, *left = left
            plan = _with(plan, path, (), {}, catalogue)
            left = [_shifted(p, path, -1) for p in left if p[: len(path)] != path]
        return plan

    def path_of(self, worked: Sequence[int]) -> Path:
        """Where a step of the worked plan stands here."""
        found: tuple[int, ...] = ()
        plan = self.plan
        for place in worked:
            on = [n for n in range(len(plan.steps)) if (*found, n) not in self.off]
            found = (*found, on[place])
            plan = other_plan(plan.steps[on[place]]) or plan
        return found


class History(Node):
    """All that a plan was while it was changed, from how it came to how it is, and what was undone."""

    drafts: tuple[Draft, ...] = Field(min_length=1)
    at: int = Field(default=0, ge=0)

    @property
    def now(self) -> Draft:
        return self.drafts[self.at]

    def then(self, draft: Draft) -> History:
        """With a further change; what was undone before is forgotten."""
        return History(drafts=(*self.drafts[: self.at + 1], draft), at=self.at + 1)

    def moved(self, steps: int) -> History:
        """So many changes undone, or done again. Raises PlanError where there are none."""
        at = self.at + steps
        if not 0 <= at < len(self.drafts):
            raise PlanError("there is nothing to undo" if steps < 0 else "there is nothing to do again")
        return self.model_copy(update={"at": at})


def steps_at(plan: Plan, path: Sequence[int]) -> tuple[Step, ...]:
    """The steps among which the one at a path stands. Raises PlanError where there are none."""
    for place in path[:-1]:
        other = other_plan(plan.steps[place]) if place < len(plan.steps) else None
        if other is None:
            raise _no_step()
        plan = other
    return plan.steps


def step_at(plan: Plan, path: Sequence[int]) -> Step:
    """The step at a path. Raises PlanError where there is none."""
    steps = steps_at(plan, path)
    if path[-1] >= len(steps):
        raise _no_step()
    return steps[path[-1]]


def columns_before(draft: Draft, path: Sequence[int], catalogue: Catalogue) -> Schema:
    """The columns that a step at a path works on."""
    steps = steps_at(draft.plan, path)
    inner = _cut(draft, path[:-1], steps[: path[-1]])
    return schema_of(inner.worked(catalogue), catalogue)


def plan_up_to(draft: Draft, path: Sequence[int], catalogue: Catalogue) -> Plan:
    """The plan that ends with the step at a path: its own, or that of the plan which the step stands in."""
    step_at(draft.plan, path)
    steps = steps_at(draft.plan, path)
    return _cut(draft, path[:-1], steps[: path[-1] + 1]).worked(catalogue)


def switched(draft: Draft, path: Path, catalogue: Catalogue) -> Draft:
    """The step off where it is on, and on where it is off. Raises PlanError where the others cannot do without it."""
    _changeable(draft, path)
    off = tuple(p for p in draft.off if p != path) if path in draft.off else (*draft.off, path)
    return _without_idle(draft.model_copy(update={"off": tuple(sorted(off))}), catalogue)


def removed(draft: Draft, path: Path, catalogue: Catalogue) -> Draft:
    """Without the step. Raises PlanError where the others cannot do without it."""
    _changeable(draft, path)
    if path in draft.off:
        level = steps_at(draft.plan, path)
        plan = _put(draft.plan, path[:-1], (*level[: path[-1]], *level[path[-1] + 1 :]))
    else:
        plan = _with(draft.plan, path, (), {}, catalogue, draft.off)
    off = (_shifted(p, path, -1) for p in draft.off if p[: len(path)] != path)
    return _without_idle(Draft(plan=plan, off=tuple(off)), catalogue)


def inserted(draft: Draft, path: Path, steps: tuple[Step, ...], catalogue: Catalogue) -> Draft:
    """With more steps before the one at the path. Raises PlanError where they do not fit."""
    if path[-1] == 0 or path[-1] > len(steps_at(draft.plan, path)):
        raise _no_step()
    plan = _with(draft.plan, path, steps, {}, catalogue, draft.off, more=True)
    return _sound(Draft(plan=plan, off=tuple(_shifted(p, path, len(steps)) for p in draft.off)), catalogue)


def replaced(
    draft: Draft, path: Path, steps: tuple[Step, ...], renamed: Mapping[str, str], catalogue: Catalogue
) -> Draft:
    """With other steps in place of one, whose columns are `renamed`. Raises PlanError where they do not fit."""
    _changeable(draft, path)
    on = draft.model_copy(update={"off": tuple(p for p in draft.off if p != path)})
    plan = _with(on.plan, path, steps, renamed, catalogue, on.off)
    off = tuple(_shifted(p, path, len(steps) - 1) if p > path else p for p in on.off)
    return _sound(Draft(plan=plan, off=off), catalogue)


def _no_step() -> PlanError:
    return PlanError("there is no such step", "reload the page")


def _changeable(draft: Draft, path: Path) -> None:
    if isinstance(step_at(draft.plan, path), Take):
        raise PlanError("a plan begins with its table", "ask of another table instead")


def _without_idle(draft: Draft, catalogue: Catalogue) -> Draft:
    """The draft with steps that only arrange what is gone now switched off. Raises PlanError where others cannot go on."""
    while True:
        plan = draft.worked(catalogue)
        try:
            schemas(plan, catalogue)
        except PlanError as error:
            if error.step is None or not _only_arranges(plan.steps[error.step]):
                return _sound(draft, catalogue)
            on = [(n,) for n in range(len(draft.plan.steps)) if (n,) not in draft.off]
            draft = draft.model_copy(update={"off": tuple(sorted((*draft.off, on[error.step])))})
        else:
            return draft


def _only_arranges(step: Step) -> bool:
    """True for a step that shows, orders or chooses from what others worked out."""
    return isinstance(step, (Keep, Sort, Limit, Pick, Window))


def _sound(draft: Draft, catalogue: Catalogue) -> Draft:
    """The draft, if it can be worked; else PlanError says which step cannot go on."""
    plan = draft.worked(catalogue)
    try:
        schemas(plan, catalogue)
    except PlanError as error:
        if error.step is None:
            raise
        said = step_words(plan.steps[error.step], "rows")
        problem = f"“{said.verb} {said.rest}” could not go on: {error.problem}"
        raise PlanError(problem, "change or remove that step first") from error
    return draft


def _shifted(path: Path, at: Path, by: int) -> Path:
    """A path after a step came to, or went from, the place `at`."""
    depth = len(at) - 1
    if len(path) <= depth or path[:depth] != at[:depth] or path[depth] < at[depth]:
        return path
    return (*path[:depth], path[depth] + by, *path[depth + 1 :])


def _put(plan: Plan, path: Sequence[int], steps: tuple[Step, ...]) -> Plan:
    """The plan with other steps in the plan that the step at a path brings in; the plan's own where there is no path."""
    if not path:
        return Plan(steps=steps)
    outer = plan.steps[path[0]]
    inner = other_plan(outer)
    assert inner is not None
    changed = outer.model_copy(update={"other": _put(inner, path[1:], steps)})
    return Plan(steps=(*plan.steps[: path[0]], changed, *plan.steps[path[0] + 1 :]))


def _cut(draft: Draft, outer: Sequence[int], steps: tuple[Step, ...]) -> Draft:
    """The steps as a draft of their own, where they are the first of the plan that the step at `outer` brings in."""
    depth = len(outer)
    off = (p[depth:] for p in draft.off if p[:depth] == tuple(outer) and len(p) > depth and p[depth] < len(steps))
    return Draft(plan=Plan(steps=steps), off=tuple(off))


def _with(
    plan: Plan,
    path: Sequence[int],
    new: tuple[Step, ...],
    renamed: Mapping[str, str],
    catalogue: Catalogue,
    off: tuple[Path, ...] = (),
    *,
    more: bool = False,
) -> Plan:
    """The plan with other steps in place of the one at a path, or before it where there are to be `more`; later ones follow."""
    whole = Draft(plan=plan, off=off)
    level, place = steps_at(plan, path), path[-1]
    head, tail = level[:place], level[place if more else place + 1 :]
    after = _columns(_cut(whole, path[:-1], head), catalogue, new)
    try:
        before = _columns(_cut(whole, path[:-1], level[: place if more else place + 1]), catalogue)
    except PlanError:
        # It has nothing to work on any more; what it gave is gone all the same.
        before = [*after, *_names_given(level[place])]
    keys = new[-1].by if new and isinstance(new[-1], (Group, Pivot)) else ()
    change = ColumnChange.between(before, after, renamed, keys)
    followed, change = follow(tail, change)
    plan = _put(plan, path[:-1], (*head, *new, *followed))
    for depth in range(len(path) - 1, 0, -1):
        # What a plan that is brought in shows under another name is another name there too.
        outer = steps_at(plan, path[:depth])
        at = path[depth - 1]
        keyed = _keyed(outer[at], change)
        brings = isinstance(keyed, AsOf) or (isinstance(keyed, Join) and keyed.how in ("inner", "left"))
        followed, change = follow(outer[at + 1 :], change if brings else ColumnChange())
        plan = _put(plan, path[: depth - 1], (*outer[:at], keyed, *followed))
    return plan


def _names_given(step: Step) -> list[str]:
    """The columns that an arranging step gives names to."""
    match step:
        case Window(name=name):
            return [name]
        case Pick(columns=columns):
            return [c.name for c in columns]
        case _:
            return []


def _keyed(step: Step, change: ColumnChange) -> Step:
    """A step that brings a plan in, with the keys there under their new names."""
    on = getattr(step, "on", ())
    pairs = tuple(p.model_copy(update={"right": change.renamed.get(p.right, p.right)}) for p in on)
    return step.model_copy(update={"on": pairs}) if pairs else step


def _columns(draft: Draft, catalogue: Catalogue, more: tuple[Step, ...] = ()) -> list[str]:
    """The columns that a draft gives, with more steps behind it."""
    return list(schema_of(draft.worked(catalogue).then(*more), catalogue))
