"""Plans as documents: read from outside and held to the same rules as our own, and the JSON Schema they follow."""

from __future__ import annotations

import json
from typing import Any

from pydantic import ValidationError

from gumption.core.model.catalogue import Catalogue
from gumption.core.plan.fields import PlanError
from gumption.core.plan.steps import Plan, all_steps
from gumption.core.plan.typing import schemas

_MOST_STEPS = 400
"""Steps of a plan together with those of the plans that it brings in."""
_MOST_DEPTH, _MOST_PARTS = 100, 20_000
"""How deep a plan's document may be nested, and how many parts it may have."""


def read_plan(document: str | dict[str, Any], catalogue: Catalogue) -> Plan:
    """A plan that another program made, typed against the tables. Raises PlanError that names the step and the fix."""
    try:
        given = json.loads(document) if isinstance(document, str) else document
    except ValueError as error:
        raise PlanError(f"this is no JSON: {error}") from error
    except RecursionError as error:
        raise _too_deep() from error
    _check_size(given)
    try:
        plan = Plan.model_validate(given)
    except ValidationError as error:
        raise _in_words(error) from error
    steps = sum(1 for _ in all_steps(plan))
    if steps > _MOST_STEPS:
        raise PlanError(
            f"the plan has {steps} steps with those that it brings in",
            f"at most {_MOST_STEPS} are worked",
            found=steps,
        )
    schemas(plan, catalogue)
    return plan


def _too_deep() -> PlanError:
    return PlanError("the plan is nested too deeply", f"at most {_MOST_DEPTH} parts stand one within another")


def _check_size(document: object) -> None:
    """Raise PlanError for a document that is too deep or too large, before anything walks it by recursion."""
    waiting, parts = [(document, 0)], 0
    while waiting:
        part, depth = waiting.pop()
        parts += 1
        if depth > _MOST_DEPTH:
            raise _too_deep()
        if parts > _MOST_PARTS:
            raise PlanError("the plan is too large", f"it may have {_MOST_PARTS:,} parts")
        inner = part.values() if isinstance(part, dict) else part if isinstance(part, list) else ()
        waiting += [(item, depth + 1) for item in inner]


def _in_words(error: ValidationError) -> PlanError:
    """The first fault that says something: where it is, and what would do."""
    faults = error.errors()
    fault = max(faults, key=lambda f: len(f["loc"]))
    places = fault["loc"]
    step = places[1] if len(places) > 1 and places[0] == "steps" and isinstance(places[1], int) else None
    inner = [str(p) for p in (places[2:] if step is not None else places)]
    where = ".".join(inner)
    before = f"{where}: " if inner else ""
    given = fault.get("ctx", {})
    match fault["type"]:
        case "missing":
            return PlanError(f"{before}this is missing", "add it", step=step, where=where)
        case "extra_forbidden":
            advice = "take it out, or see docs/plan-format.md for its name"
            return PlanError(f"{before}there is no such field", advice, step=step, where=where)
        case "union_tag_invalid":
            tag, known = given["tag"], str(given["expected_tags"]).split(", ")
            return PlanError(f"{before}“{tag}” is not known", step=step, where=where, found=tag, accepted=known)
        case "union_tag_not_found":
            advice = f"write {given['discriminator']} with one of the kinds in docs/plan-format.md"
            return PlanError(f"{before}its kind is missing", advice, step=step, where=where)
        case "literal_error":
            found, listed = fault["input"], given["expected"]
            return PlanError(f"{before}“{found}” is not one of {listed}", step=step, where=where, found=found)
        case _:
            return PlanError(f"{before}{fault['msg'][0].lower()}{fault['msg'][1:]}", step=step, where=where)


def json_schema() -> str:
    """The JSON Schema of plans, generated from the types."""
    schema = Plan.model_json_schema()
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    schema["title"] = "Gumption plan, version 1"
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    print(json_schema(), end="")
