"""What changed in a kept answer from one working to another, in a sentence and in figures."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal

from pydantic import BaseModel, ConfigDict

from gumption.core.folio.working import Working
from gumption.core.model.names import plural
from gumption.core.model.style import written
from gumption.core.model.types import Value
from gumption.core.plan.fields import Field
from gumption.core.plan.words import listed
from gumption.core.present.numbers import cell, is_share, shown

UNCHANGED = "No change."
_PLACES = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")
_MOST_LABELS = 2
_NAMED = 3
"""Rows that are named one by one; of more the rest are counted."""


class Moved(BaseModel):
    """A figure, or who leads, before and now, as people read them."""

    model_config = ConfigDict(frozen=True)

    what: str
    before: str
    now: str


class Changed(BaseModel):
    """What is different in a working from the one before."""

    model_config = ConfigDict(frozen=True)

    words: str
    figures: tuple[Moved, ...] = ()

    @property
    def anything(self) -> bool:
        """True where anything is different."""
        return self.words != UNCHANGED


def changed(before: Working, now: Working) -> Changed:
    """What is different in an answer that was worked again."""
    if [(n, f.type) for n, f in before.fields.items()] != [(n, f.type) for n, f in now.fields.items()]:
        return Changed(words=_other_columns(before, now))
    if before.rows == now.rows and before.total == now.total:
        return Changed(words=UNCHANGED)
    if before.is_one_figure and now.is_one_figure:
        return _one_figure(before, now)
    if _are_groups(before) and _are_groups(now):
        return _by_label(before, now)
    return _listing(before, now)


def _are_groups(working: Working) -> bool:
    """True for rows that are each about something of their own and have a figure, not one of them cut off."""
    if not working.measures or not 0 < len(working.labels) <= _MOST_LABELS or working.total > len(working.rows):
        return False
    labels = [working.label(row) for row in working.values()]
    return len(set(labels)) == len(labels)


def _other_columns(before: Working, now: Working) -> str:
    came = [h for n, h in zip(now.names, now.heads, strict=True) if n not in before.fields]
    went = [h for n, h in zip(before.names, before.heads, strict=True) if n not in now.fields]
    parts = [f"{listed(_few(came))} came in" if came else "", f"{listed(_few(went))} fell out" if went else ""]
    told = ", ".join(filter(None, parts)) or "their types are others"
    return f"The columns are not those of before: {told}."


def _one_figure(before: Working, now: Working) -> Changed:
    moved, words = [], []
    fields = list(now.fields.values())
    rows = before.values()[0], now.values()[0]
    for place in now.measures:
        was, is_now, field = rows[0][place], rows[1][place], fields[place]
        if was != is_now:
            words.append(f"{now.heads[place]} {_moved(was, is_now, field)}")
            moved.append(Moved(what=now.heads[place], before=shown(was, field), now=shown(is_now, field)))
    return _told(words, moved)


def _listing(before: Working, now: Working) -> Changed:
    words = [_count(before.total, now.total, "row")] if before.total != now.total else []
    if before.total == len(before.rows) and now.total == len(now.rows):
        came, went = set(now.rows) - set(before.rows), set(before.rows) - set(now.rows)
        if came or went:
            parts = [f"{written(len(came))} came in" if came else "", f"{written(len(went))} fell out" if went else ""]
            words.append(" and ".join(filter(None, parts)))
        elif not words:
            words.append("The order is another")
    figures = [Moved(what="rows", before=written(before.total), now=written(now.total))]
    return _told(words or ["Some of the rows are others"], figures if before.total != now.total else [])


def _count(was: int, is_now: int, one: str) -> str:
    more = is_now - was
    return f"{plural(is_now, one)}, {written(abs(more))} {'more' if more > 0 else 'fewer'} than before"


def _by_label(before: Working, now: Working) -> Changed:
    """What changed where each row is about something and has a figure: who leads, who came and went, what it adds up to."""
    fields = list(now.fields.values())
    measure = now.measures[0]
    field = fields[measure]
    was = {before.label(row): row[measure] for row in before.values()}
    is_now = {now.label(row): row[measure] for row in now.values()}
    over_time = any(fields[n].type.is_time or fields[n].grain is not None for n in now.labels)
    words: list[str] = []
    figures: list[Moved] = []
    name = now.heads[measure]
    ordered = not over_time and _is_ordered(list(was.values())) and _is_ordered(list(is_now.values()))
    if ordered and was and is_now:
        leader, led = next(iter(is_now)), next(iter(was))
        if leader != led:
            words.append(_rose(leader, list(was)))
            figures.append(Moved(what=f"first by {name}", before=led, now=leader))
    words += _came_and_went(list(was), list(is_now))
    same = [label for label in is_now if label in was]
    moved = [label for label in same if was[label] != is_now[label]]
    if over_time and moved:
        last = moved[-1]
        words.append(f"{last} {_moved(was[last], is_now[last], field)}")
        words.append(_others(len(moved) - 1, len(same) - 1))
        figures.append(Moved(what=f"{name}, {last}", before=shown(was[last], field), now=shown(is_now[last], field)))
    totals = _total(list(was.values())), _total(list(is_now.values()))
    adds_up = now.names[measure] in now.added and was and is_now and totals[0] != totals[1]
    if moved and not over_time and not words:
        largest = max(moved, key=lambda label: _size(was[label], is_now[label]))
        words.append(f"{largest} {_moved(was[largest], is_now[largest], field)}")
        if len(moved) > 1 and not adds_up:
            words.append(f"{plural(len(moved) - 1, 'other')} moved")
        values = shown(was[largest], field), shown(is_now[largest], field)
        figures.append(Moved(what=f"{name}, {largest}", before=values[0], now=values[1]))
    if adds_up:
        words.append(f"total {_moved(*totals, field)}")
        summed = name if name.startswith("total") else f"total {name}"
        figures.append(Moved(what=summed, before=shown(totals[0], field), now=shown(totals[1], field)))
    words = words or ["Further columns changed" if list(was) == list(is_now) else "The order is another"]
    return _told(words, figures)


def _rose(leader: str, was: Sequence[str]) -> str:
    if leader not in was:
        return f"{leader} came in first"
    place = was.index(leader)
    return f"{leader} rose from {_PLACES[place] if place < len(_PLACES) else f'place {place + 1}'} to first"


def _came_and_went(was: Sequence[str], is_now: Sequence[str]) -> list[str]:
    came = [label for label in is_now if label not in was]
    went = [label for label in was if label not in is_now]
    parts = [f"{listed(_few(came))} came in" if came else "", f"{listed(_few(went))} fell out" if went else ""]
    told = ", ".join(filter(None, parts))
    return [told] if told else []


def _others(moved: int, of: int) -> str:
    if moved == 0:
        return "no other moved" if of else ""
    return f"{plural(moved, 'other')} moved"


def _few(names: Sequence[str]) -> list[str]:
    """The first names, and how many more there are."""
    more = len(names) - _NAMED
    return [*names[:_NAMED], f"{written(more)} more"] if more > 1 else list(names)


def _is_ordered(values: Sequence[Value]) -> bool:
    """True for figures of which each is at most as large as the one before, or each at least."""
    sizes = [float(v) for v in values if isinstance(v, (int, float, Decimal))]
    return len(sizes) == len(values) and (sizes == sorted(sizes, reverse=True) or sizes == sorted(sizes))


def _total(values: Sequence[Value]) -> Value:
    numbers = [v if isinstance(v, int) else Decimal(str(v)) for v in values if isinstance(v, (int, float, Decimal))]
    return sum(numbers, start=0)


def _size(was: Value, is_now: Value) -> float:
    """How far a figure moved; one that was or is missing moved farthest."""
    if not isinstance(was, (int, float, Decimal)) or not isinstance(is_now, (int, float, Decimal)):
        return float("inf")
    return abs(float(is_now) - float(was))


def _moved(was: Value, is_now: Value, field: Field) -> str:
    """From what to what a figure moved, and by how much of it where that means something."""
    if not isinstance(was, (int, float, Decimal)) or not isinstance(is_now, (int, float, Decimal)):
        return f"was {cell(was, field)} and is {cell(is_now, field)}"
    verb = "rose" if is_now > was else "fell"
    told = f"{verb} from {shown(was, field)} to {shown(is_now, field)}"
    if is_share(field) or was == 0 or (was < 0) != (is_now < 0):
        return told
    by = float(is_now) / float(was) - 1
    share = written(100 * abs(by), ",.1f")
    return told if share == "0.0" else f"{told}, {'up' if is_now > was else 'down'} {share}%"


def _told(words: Sequence[str], figures: Sequence[Moved]) -> Changed:
    text = "; ".join(filter(None, words))
    return Changed(words=f"{text[:1].upper()}{text[1:]}.", figures=tuple(figures))
