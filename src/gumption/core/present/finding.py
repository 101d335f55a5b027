"""The finding: one sentence that answers."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from decimal import Decimal
from itertools import pairwise

from gumption.core.model.names import plural
from gumption.core.model.style import written
from gumption.core.model.types import Role, Type, Value
from gumption.core.plan.constants import number_constant
from gumption.core.plan.expressions import Aggregate, Arithmetic, Bin, ColumnRef
from gumption.core.plan.fields import Field
from gumption.core.plan.steps import Append, Derive, Group, Pivot, Window
from gumption.core.plan.words import aggregate_words, rows_called, set_apart, spoken
from gumption.core.present.answer import Answer
from gumption.core.present.numbers import cell, shown

InPart = Mapping[str, frozenset[dt.date | int]]
"""Periods that the rows do not fill, by the column of the answer that they stand in."""


def finding(answer: Answer, in_part: InPart | None = None) -> str:
    """What was found, in one sentence that stands by itself."""
    return set_apart(_found(answer, in_part or {}))


def _found(answer: Answer, in_part: InPart) -> str:
    if not answer.rows:
        return "No rows fit."
    if answer.total > len(answer.rows):
        return f"{plural(answer.total, 'row')}, of which the first {written(len(answer.rows))} are kept."
    group = answer.group
    if answer.crossed is not None:
        return _cells(answer, answer.crossed)
    if group is None:
        return _listing(answer)
    if not group.by:
        return _single(answer, list(group.aggregates))
    if not answer.numbers:
        if len(answer.rows) == 1:
            return f"There is one: {label(answer, 0)}."
        return f"There are {written(len(answer.rows))}: {_some([label(answer, i) for i in range(len(answer.rows))])}."
    return _groups(answer, in_part)


_YEARS = (1000, 2200)
"""Numbers that may be years, which say by themselves what they are."""


def _some(names: list[str], most: int = 4) -> str:
    if len(names) <= most:
        return ", ".join(names[:-1]) + f" and {names[-1]}" if len(names) > 1 else names[0]
    return ", ".join(names[:most]) + f" and {written(len(names) - most)} more"


def label(answer: Answer, row: int) -> str:
    """What a row is about, from its label columns."""
    shown_labels = (_called(answer, answer.columns[i], answer.rows[row][i]) for i in answer.labels[:3])
    return ", ".join(dict.fromkeys(shown_labels)) or "all"


def _opening(answer: Answer, row: int) -> str:
    """What a row is about, at the beginning of a sentence; a name is written as it is, whatever it begins with."""
    told = label(answer, row)
    first = answer.columns[answer.labels[0]] if answer.labels else ""
    return told[:1].upper() + told[1:] if first and told.startswith(spoken(first).removesuffix(" band") + " ") else told


def _called(answer: Answer, name: str, value: Value) -> str:
    """A group's value in words, with what it is a value of where it is a bare number: Rating 1, Cost 100 to 200."""
    told, number = _banded(answer, name, value), _number(value)
    if number is None or answer.schema[name].type.is_time or _YEARS[0] <= number <= _YEARS[1]:
        return told
    what = spoken(name)
    return f"{what.removesuffix(' band') if _width(answer, name) is not None else what} {told}"


def _who(answer: Answer, row: int, key: str) -> str:
    """Which row of a list it is: its name, else what tells it apart, else its first column and what that is called."""
    halves = [
        i
        for i, n in enumerate(answer.columns)
        if n != key and _is_a_name(n) and answer.schema[n].role is not Role.NAME and answer.rows[row][i] is not None
    ]
    for roles in ((Role.NAME,), (Role.IDENTIFIER, Role.LINK, Role.CODE)):
        named = [i for i, n in enumerate(answer.columns) if n != key and answer.schema[n].role in roles]
        if roles == (Role.NAME,) and halves and named and halves[0] < named[0]:
            # The animal is called Mabel, whoever owns her.
            continue
        told = [str(v) for v in dict.fromkeys(answer.rows[row][i] for i in named[:2]) if v is not None]
        if told and roles != (Role.NAME,) and halves:
            return f"{' '.join(str(answer.rows[row][i]) for i in halves[:2])} ({told[0]})"
        if told and answer.schema[answer.columns[named[0]]].type.is_number:
            # A number says little of what it is: what else is told of it stands beside it.
            texts = [i for i in answer.labels if answer.schema[answer.columns[i]].type is Type.TEXT]
            said = [str(answer.rows[row][i]) for i in texts[:1] if answer.rows[row][i] is not None]
            return ", ".join([f"{spoken(answer.columns[named[0]])} {told[0]}", *said])
        if told:
            return ", ".join(told)
    others = [i for i, n in enumerate(answer.columns) if n != key]
    texts = [i for i in others if i in answer.labels]
    if texts:
        return ", ".join(shown(answer.rows[row][i], answer.schema[answer.columns[i]]) for i in texts[:2])
    if others:
        first = answer.columns[others[0]]
        return f"{spoken(first)} {shown(answer.rows[row][others[0]], answer.schema[first])}"
    return "one row"


def _width(answer: Answer, name: str) -> float | None:
    """The width of the bins that a group is of, if it is of any."""
    for step in answer.plan.steps:
        if isinstance(step, Derive) and step.name == name and isinstance(step.expression, Bin):
            return step.expression.width
    return None


def _banded(answer: Answer, name: str, value: Value) -> str:
    """A group's value in words; a bin by both its edges."""
    width, number = _width(answer, name), _number(value)
    if width is not None and number is not None:
        return band(number, width)
    return shown(value, answer.schema[name])


def band(low: float, width: float) -> str:
    """A bin by both its edges."""
    return f"{written(low, ',.10g')} to {written(low + width, ',.10g')}"


def _share(answer: Answer, aggregates: list[Aggregate]) -> str | None:
    """A share that was worked out of a part and its whole: how many per cent, and of what."""
    known = {a.name: a for a in aggregates}
    cells = dict(zip(answer.columns, answer.rows[0], strict=True))
    for step in answer.plan.steps:
        match step:
            case Derive(
                name=name,
                expression=Arithmetic(
                    op="*", left=Arithmetic(op="/", left=ColumnRef(name=met), right=ColumnRef(name=of)), right=hundred
                ),
            ) if {met, of} <= known.keys() and {name, met, of} == cells.keys() and hundred == number_constant(100):
                part, whole = known[met], known[of]
                same = (part.function, part.column) == (whole.function, whole.column)
                share = _number(cells[name])
                if same and part.where is not None and whole.where is None and share is not None:
                    told, total = (shown(cells[n], answer.schema[n]) for n in (met, of))
                    per_cent = cell(share, answer.schema[name])
                    return f"The share is {per_cent}%: {aggregate_words(part, answer.table)} is {told} of {total}."
            case _:
                pass
    return None


def _single(answer: Answer, aggregates: list[Aggregate]) -> str:
    share = _share(answer, aggregates)
    if share is not None:
        return share
    values = answer.rows[0]
    parts = []
    worked_from = []
    for place, name in enumerate(answer.columns):
        aggregate = next((a for a in aggregates if a.name == name), None)
        if aggregate is not None and aggregate.carries:
            worked_from.append(f"{spoken(name)} {shown(values[place], answer.schema[name])}")
            continue
        phrase = aggregate_words(aggregate, answer.table) if aggregate else spoken(name)
        if aggregate and aggregate.function == "count" and aggregate.column is None and _counts_groups(answer):
            phrase = f"the number of {spoken(name)}"
        if aggregate and values[place] is None:
            parts.append(f"{phrase} cannot be worked out: no values are left")
            continue
        suffix = (
            " of " + rows_called(answer.table)
            if aggregate and aggregate.column and aggregate.function != "distinct"
            else ""
        )
        verb = "is"
        parts.append(f"{phrase}{suffix} {verb} {shown(values[place], answer.schema[name])}")
    if not parts:
        parts, worked_from = worked_from, []
    sentence = ", and ".join(parts) + (f", from {' and '.join(worked_from)}" if worked_from else "")
    return sentence[0].upper() + sentence[1:] + "."


def _counts_groups(answer: Answer) -> bool:
    """True where what is counted are groups that were worked out first, such as days, and no rows of the table."""
    return sum(isinstance(step, Group) for step in answer.plan.steps) > 1


def _listing(answer: Answer) -> str:
    count = len(answer.rows)
    noun = rows_called(answer.table)
    ordered = answer.sorted_by.keys[0] if answer.limited is not None and answer.sorted_by is not None else None
    if ordered is not None and ordered.column not in answer.columns:
        ordered = None
    numbered = ordered if ordered is not None and answer.schema[ordered.column].role is Role.IDENTIFIER else None
    if numbered is not None:
        # Nobody ranks rows by the number that tells them apart.
        ordered = None
    if count == 1 and ordered is not None and len(answer.columns) > 1:
        place, field = answer.columns.index(ordered.column), answer.schema[ordered.column]
        if answer.rows[0][place] is not None:
            end = (
                _EXTREMES[field.type.is_time, ordered.descending]
                if field.type.is_number or field.type.is_time
                else None
            )
            if end is not None:
                told = shown(answer.rows[0][place], field)
                return f"{_who(answer, 0, ordered.column)} has the {end} {spoken(ordered.column)}, {told}."
    if count == 1:
        cells = [
            f"{spoken(answer.columns[i])} {shown(v, answer.schema[answer.columns[i]])}"
            for i, v in enumerate(answer.rows[0])
        ]
        return f"One row fits: {', '.join(cells[:4])}."
    if ordered is not None:
        place, field = answer.columns.index(ordered.column), answer.schema[ordered.column]
        top, last = (shown(answer.rows[i][place], field) for i in (0, -1))
        first = _who(answer, 0, ordered.column)
        return f"{first} comes first with {spoken(ordered.column)} {top}; the last of the {written(count)} has {last}."
    naming = next((i for i in answer.labels if answer.schema[answer.columns[i]].role in _NAMING), None)
    names = [] if naming is None else [str(v) for v in dict.fromkeys(row[naming] for row in answer.rows) if v]
    told = f": {_some(names)}" if len(names) == count else ""
    if numbered is not None:
        return f"Here are {written(count)} {noun} in the order of {spoken(numbered.column)}{told}."
    return f"{written(count)} {noun} fit{told}." if answer.filtered else f"There are {written(count)} {noun}{told}."


def _is_a_name(column: str) -> bool:
    return bool({"name", "surname", "forename"} & set(spoken(column).lower().split()))


_EXTREMES = {
    (False, True): "highest",
    (False, False): "lowest",
    (True, True): "latest",
    (True, False): "earliest",
}
"""What the first of an order is called, by whether it is of times, and whether the largest comes first."""
_NAMING = (Role.NAME, Role.PERSON)
"""Roles of columns that say who or what a row is."""


_MARKS = (0.5, 0.8)
"""Where a cumulative share is read off: half of it, and four fifths."""


def _added_up(answer: Answer, place: int) -> str | None:
    """Where what adds up has come to: what lies below, how few make up most of it, or what it comes to in the end."""
    name = answer.columns[place]
    rows = [(n, i) for i, row in enumerate(answer.rows) if (n := _number(row[place])) is not None]
    known = [(n, i) for n, i in rows if _is_named(answer, i)] or rows
    if not known:
        return None
    if not name.startswith("cumulative_share"):
        last = known[-1][1]
        falls = any(b < a for (a, _), (b, _) in pairwise(known))
        told = shown(answer.rows[last][place], answer.schema[name])
        of = next(s.column for s in answer.plan.steps if isinstance(s, Window) and s.name == name)
        what = spoken(of or name)
        return None if falls else f"{what[:1].upper()}{what[1:]} comes to {told} by {label(answer, last)}."
    reached = (next((k for k, (share, _) in enumerate(known) if share >= mark), None) for mark in _MARKS)
    places = [k for k in dict.fromkeys(reached) if k is not None]
    said = [_up_to(answer, known, k, first=n == 0) for n, k in enumerate(places)]
    return f"{', and '.join(said)}." if said else None


def _up_to(answer: Answer, known: list[tuple[float, int]], place: int, *, first: bool) -> str:
    """What lies up to a place: below the upper edge of a band, up to a number, or in so many of all."""
    share, row = known[place]
    at = answer.labels[0]
    low = _number(answer.rows[row][at])
    if low is None:
        few = f"{'The' if first else 'the'} first {place + 1} of {len(known)} make up"
        return f"{few if place else f'{label(answer, row)} alone makes up'} {share:.1%}"
    width = _width(answer, answer.columns[at])
    told = f"below {written(low + width, ',.10g')}" if width is not None else f"up to {written(low, ',.10g')}"
    return f"{share:.1%} {'are ' if first else ''}{told}"


def _groups(answer: Answer, in_part: InPart) -> str:
    if answer.added_up is not None and (told := _added_up(answer, answer.added_up)) is not None:
        return told
    # What the answer is in the order of is what it was asked for.
    order = answer.sorted_by.keys[0].column if answer.sorted_by is not None else None
    place = next((p for p in answer.numbers if answer.columns[p] == order), answer.numbers[0])
    name = answer.columns[place]
    field = answer.schema[name]
    known = [(number, i) for i, row in enumerate(answer.rows) if (number := _number(row[place])) is not None]
    measure = _measured(answer, name)
    if not known:
        return f"{plural(len(answer.rows), 'group')}, none with a value for {measure}."
    ranked = [(number, i) for number, i in known if _is_named(answer, i)] or known
    lowest_first = answer.goes_up_by(name)
    top_value, top = (min if lowest_first else max)(
        ranked, key=lambda pair: (pair[0], pair[1] if lowest_first else -pair[1])
    )
    made = _made(answer, name)
    counted = made is not None and made.function in ("count", "distinct")
    adds_up = counted or (made is not None and made.function == "sum")
    least, most = ("fewest", "most") if counted else ("lowest", "highest")
    extreme, far_word = (least, most) if lowest_first else (most, least)
    if len(answer.rows) == 1:
        return f"{_opening(answer, top)}: {measure} {shown(answer.rows[top][place], field)}."
    others = [value for value, i in ranked if i != top]
    if measure.startswith(("highest ", "lowest ", "maximum ", "minimum ")) and len({value for value, _ in ranked}) > 1:
        # "The highest highest" says nothing to anybody.
        least_and_most = min(ranked), max(ranked, key=lambda pair: (pair[0], -pair[1]))
        ends = [f"{shown(answer.rows[i][place], field)} ({label(answer, i)})" for _, i in least_and_most]
        text = f"The {measure} goes from {ends[0]} to {ends[1]}"
        return f"{text}{_where_missing(answer, [i for _, i in known], len(ranked), place, field)}."
    text = f"{_opening(answer, top)} has the {extreme} {measure}, {shown(answer.rows[top][place], field)}"
    if others and others.count(top_value):
        return text + f", shared with {plural(others.count(top_value), 'other')}."
    if others:
        # What adds up over a period is the least in one that has only begun, which says nothing.
        whole = [(v, i) for v, i in ranked if adds_up and not _is_in_part(answer, i, in_part)]
        alone = len(ranked) == 2 and len(whole) == 1 and whole[0][1] == top
        if lowest_first or len(whole) < 2:
            whole = ranked
        far_value, far = (max if lowest_first else min)(whole)
        alike = sum(value == far_value for value, _ in whole)
        end = shown(answer.rows[far][place], field)
        of = f"{written(len(whole))}{' that are whole' if len(whole) < len(ranked) else ''}"
        if alone:
            text += f"; {label(answer, far)}, which is not whole, has {end}"
        elif alike > 1:
            text += f"; {written(alike)} of the {of} share the {far_word}, {end}"
        else:
            text += f"; the {far_word} of the {of} is {label(answer, far)} with {end}"
    text += _where_missing(answer, [i for _, i in known], len(ranked), place, field)
    return text + "."


def _where_missing(answer: Answer, known: list[int], named: int, place: int, field: Field) -> str:
    """What the one group that has no name comes to."""
    unnamed = [i for i in known if not _is_named(answer, i)]
    if len(unnamed) != 1 or named == len(known):
        return ""
    of = spoken(answer.columns[answer.labels[0]])
    return f"; where {of} is missing it is {shown(answer.rows[unnamed[0]][place], field)}"


def _is_in_part(answer: Answer, row: int, in_part: InPart) -> bool:
    """True for what is of a period that the rows do not fill."""
    cells = dict(zip(answer.columns, answer.rows[row], strict=True))
    return any(cells.get(name) in lacking for name, lacking in in_part.items())


def _is_named(answer: Answer, row: int) -> bool:
    """False where nobody knows what a row belongs to, which makes it no group that could be the first or the last."""
    return any(answer.rows[row][place] is not None for place in answer.labels)


_NOUNS = {"min": "minimum", "max": "maximum", "mean": "average", "median": "median", "sum": "total"}


def _made(answer: Answer, name: str) -> Aggregate | None:
    """What a column of the answer was worked out by in its groups; None for one that was made otherwise."""
    return next((a for a in (answer.group.aggregates if answer.group else ()) if a.name == name), None)


def _measured(answer: Answer, name: str) -> str:
    """What a number is, also where its aggregate is called like the column that it is of."""
    made = _made(answer, name)
    # Numbers of several tables that are brought together are carried on, and no highest of anything.
    brought = any(isinstance(s, Append) for s in answer.plan.steps)
    own = made is not None and made.column == name and not (made.carries and brought)
    noun = _NOUNS.get(made.function) if made is not None and own else None
    said = spoken(name)
    return f"{noun} {said}" if noun and not said.lower().startswith(f"{noun} ") else said


def _cells(answer: Answer, pivot: Pivot) -> str:
    """Where in a cross table the most and the least are."""
    name = pivot.aggregate.name
    totals = answer.columns.index("total_row") if pivot.totals else None
    places = {answer.columns.index(c.name): c.name for c in pivot.into}
    cells = [
        (number, f"{label(answer, i)}, {told}", answer.schema[told])
        for i, row in enumerate(answer.rows)
        if (totals is None or not row[totals]) and _is_named(answer, i)
        for place, told in places.items()
        if (number := _number(row[place])) is not None
    ]
    size = f"{plural(len(answer.rows) - (totals is not None), 'row')} by {plural(len(places), 'column')}"
    if not cells:
        return f"{size}, none with a value for {spoken(name)}."
    most, least = max(cells, key=lambda c: c[0]), min(cells, key=lambda c: c[0])
    counted = pivot.aggregate.function == "count" and pivot.aggregate.column is None
    at_most, at_least = ("most", "fewest") if counted else ("highest", "lowest")
    told = f"{at_most} {spoken(name)}" if counted else f"{spoken(name)} is {at_most}"
    text = f"{size}: {told} for {most[1]}, {shown(most[0], most[2])}"
    if most[0] == least[0]:
        return text + "."
    alike = sum(c[0] == least[0] for c in cells)
    lowest = (
        f"{shown(least[0], least[2])} in {written(alike)} of {written(len(cells))}"
        if alike > 1
        else f"{least[1]}, {shown(least[0], least[2])}"
    )
    return f"{text}; {f'the {at_least} is' if alike > 1 else f'{at_least} for'} {lowest}."


def _number(value: Value) -> float | None:
    return float(value) if isinstance(value, (int, float, Decimal)) else None
