"""Plans as documents: read from outside and held to the same rules as our own, and the JSON Schema they follow."""

from __future__ import annotations

import json
from typing import Any

from pydantic import ValidationError

from gumption.core.model.catalogue import Catalogue
from gumption.core.plan.steps import Plan
from gumption.core.plan.typing import PlanError, schemas

_MOST_STEPS = 400


def read_plan(document: str | dict[str, Any], catalogue: Catalogue) -> Plan:
    """A plan that another program made, typed against the tables. Raises PlanError that names the step and the fix."""
    try:
        plan = Plan.model_validate_json(document) if isinstance(document, str) else Plan.model_validate(document)
    except ValidationError as error:
        raise _in_words(error) from error
    except RecursionError as error:
        raise PlanError("the plan is nested too deeply to be read") from error
    if len(plan.steps) > _MOST_STEPS:
        raise PlanError(f"the plan has {len(plan.steps)} steps; at most {_MOST_STEPS} are worked")
    try:
        schemas(plan, catalogue)
    except RecursionError as error:
        raise PlanError("the plan is nested too deeply to be worked") from error
    return plan


def _in_words(error: ValidationError) -> PlanError:
    """The first fault that says something: where it is, and what would do."""
    faults = error.errors()
    fault = max(faults, key=lambda f: len(f["loc"]))
    places = fault["loc"]
    step = places[1] if len(places) > 1 and places[0] == "steps" and isinstance(places[1], int) else None
    inner = [str(p) for p in (places[2:] if step is not None else places)]
    where = f"{'.'.join(inner)}: " if inner else ""
    given = fault.get("ctx", {})
    match fault["type"]:
        case "json_invalid":
            what = f"this is no JSON: {given.get('error', '')}"
        case "missing":
            what = "this is missing; add it"
        case "extra_forbidden":
            what = "there is no such field; take it out, or see docs/plan-format.md for its name"
        case "union_tag_invalid":
            what = f"“{given.get('tag')}” is not known; there are {given.get('expected_tags', '')}"
        case "union_tag_not_found":
            what = f"its kind is missing; write {given.get('discriminator', '')} with one of the kinds in docs/plan-format.md"
        case "literal_error":
            what = f"“{fault['input']}” is not one of {given.get('expected', '')}"
        case _:
            what = f"{fault['msg'][0].lower()}{fault['msg'][1:]}"
    return PlanError(where + what, step)


def json_schema() -> str:
    """The JSON Schema of plans, generated from the types."""
    schema = Plan.model_json_schema()
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    schema["title"] = "Gumption plan, version 1"
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    print(json_schema(), end="")
