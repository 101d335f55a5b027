"""What a person does to a plan by hand, one thing at a time."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal, TypeAlias

from pydantic import Field

from gumption.core.editing.conditions import Known
from gumption.core.editing.draft import (
    Draft,
    History,
    Path,
    columns_before,
    inserted,
    removed,
    replaced,
    step_at,
    switched,
)
from gumption.core.editing.forms import Filled, Form, StepKind, blank_form, form_of, steps_of
from gumption.core.model.catalogue import Catalogue
from gumption.core.plan.expressions import Node
from gumption.core.plan.fields import Field as PlanField
from gumption.core.plan.fields import PlanError
from gumption.core.plan.words import step_words

_MOST_OFFERED = 60
"""Values of a column that are offered."""


class ChangeStep(Node):
    """Fill in the form of a step anew."""

    act: Literal["change"] = "change"
    path: Path
    step: StepKind
    filled: Filled


class AddStep(Node):
    """A step more, before the one at the path."""

    act: Literal["add"] = "add"
    path: Path
    step: StepKind
    filled: Filled


class RemoveStep(Node):
    """A step gone."""

    act: Literal["remove"] = "remove"
    path: Path


class SwitchStep(Node):
    """A step off, or on again."""

    act: Literal["switch"] = "switch"
    path: Path


class Undo(Node):
    """As it was before the last change."""

    act: Literal["undo"] = "undo"


class Redo(Node):
    """As it was before the last undoing."""

    act: Literal["redo"] = "redo"


Edit: TypeAlias = Annotated[ChangeStep | AddStep | RemoveStep | SwitchStep | Undo | Redo, Field(discriminator="act")]


def edited(history: History, edit: Edit, catalogue: Catalogue) -> History:
    """The plan after an edit. Raises PlanError in words for the person; nothing is changed then."""
    draft = history.now
    match edit:
        case Undo():
            return history.moved(-1)
        case Redo():
            return history.moved(1)
        case ChangeStep(path=path, step=kind, filled=filled):
            was = step_at(draft.plan, path)
            meant = steps_of(kind, filled, columns_before(draft, path, catalogue), known_in(catalogue), was)
            found = replaced(draft, path, meant.steps, meant.renamed, catalogue)
            told = _words(found, path)
        case AddStep(path=path, step=kind, filled=filled):
            meant = steps_of(kind, filled, columns_before(draft, path, catalogue), known_in(catalogue), None)
            found = inserted(draft, path, meant.steps, catalogue)
            told = _words(found, path)
        case RemoveStep(path=path):
            told = f"Without: {_words(draft, path)}"
            found = removed(draft, path, catalogue)
        case SwitchStep(path=path):
            found = switched(draft, path, catalogue)
            told = f"{'Off' if path in found.off else 'On again'}: {_words(found, path)}"
    return history.then(found.model_copy(update={"said": told}))


def _words(draft: Draft, path: Path) -> str:
    verb, rest = step_words(step_at(draft.plan, path), "rows")
    return f"{verb} {rest}"


def form_at(draft: Draft, path: Path, catalogue: Catalogue, added: StepKind | None = None) -> Form:
    """The form of the step at a path, or of one to be `added` before it. Raises PlanError where there is none."""
    before = columns_before(draft, path, catalogue)
    if added is not None:
        return blank_form(added, before, known_in(catalogue))
    form = form_of(step_at(draft.plan, path), before, known_in(catalogue))
    if form is None:
        raise PlanError("this step has no form", "switch it off, remove it, or change the plan itself")
    return form


def known_in(catalogue: Catalogue) -> Known:
    """The values that columns of the tables are known to have, the most common ones."""

    def known(field: PlanField) -> Sequence[str]:
        if field.table is None or field.column is None:
            return ()
        return catalogue.table(field.table).column(field.column).values[:_MOST_OFFERED]

    return known
