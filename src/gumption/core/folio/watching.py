"""Whether what a kept answer is watched for has happened, and how that is told."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal

from pydantic import BaseModel, ConfigDict

from gumption.core.folio.page import Watch, Watched
from gumption.core.folio.working import Working
from gumption.core.model.types import Type, Value
from gumption.core.plan.fields import Field
from gumption.core.plan.words import listed
from gumption.core.present.numbers import is_share, shown

_NAMED = 3


class Seen(BaseModel):
    """What a watch saw in a working."""

    model_config = ConfigDict(frozen=True)

    met: bool
    condition: str
    """What is watched for: no-show share over 8%."""
    words: str
    """What was seen: 8.6% in Oct 2026."""


_OF: dict[Watched, str] = {"any": "", "first": "the first ", "last": "the last ", "total": "total "}


def watched(watch: Watch, working: Working) -> Seen:
    """What a watch sees in a working."""
    field = working.fields.get(watch.column)
    if field is None or not field.type.is_number:
        condition = f"{watch.column} {watch.comparison} {watch.bound:g}"
        return Seen(met=False, condition=condition, words=f"there is no figure {watch.column} any more")
    place = working.names.index(watch.column)
    whole = field.type is Type.INTEGER and watch.bound.is_integer()
    bound: Value = int(watch.bound) if whole else watch.bound if is_share(field) else Decimal(repr(watch.bound))
    condition = f"{_OF[watch.of]}{working.heads[place]} {watch.comparison} {shown(bound, field)}"
    rows = _rows(watch.of, working)
    if watch.of == "total":
        total = sum((Decimal(str(v)) for row in rows if (v := row[place]) is not None), start=Decimal(0))
        return Seen(met=_holds(total, watch), condition=condition, words=shown(total, field))
    fit = [row for row in rows if _holds(row[place], watch)]
    told = [_told(row, place, field, working) for row in (fit or rows)[:_NAMED]]
    more = len(fit) - _NAMED
    words = listed([*told, f"{more} more"] if more > 0 else told) or "there are no rows"
    if not fit and watch.of == "any" and len(rows) > 1:
        words = f"none of {len(rows)}"
    return Seen(met=bool(fit), condition=condition, words=words)


def _rows(of: Watched, working: Working) -> Sequence[Sequence[Value]]:
    rows = working.values()
    match of:
        case "first":
            return rows[:1]
        case "last":
            return rows[-1:]
        case "any" | "total":
            return rows


def _told(row: Sequence[Value], place: int, field: Field, working: Working) -> str:
    label = working.label(row) if working.labels else ""
    return f"{shown(row[place], field)}{f' in {label}' if label else ''}"


def _holds(value: Value, watch: Watch) -> bool:
    if not isinstance(value, (int, float, Decimal)):
        return False
    size, bound = Decimal(str(value)), Decimal(repr(watch.bound))
    match watch.comparison:
        case "over":
            return size > bound
        case "under":
            return size < bound
        case "at least":
            return size >= bound
        case "at most":
            return size <= bound
