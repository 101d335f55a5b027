"""What is said of a change: the finding, how it was worked, and what must hold of it."""

from __future__ import annotations

import datetime as dt
import math

from gumption.core.checks.check import Check
from gumption.core.model.names import plural
from gumption.core.model.style import written
from gumption.core.model.types import Role, Type
from gumption.core.plan.fields import Field
from gumption.core.plan.words import day_words, listed, set_apart
from gumption.core.present.numbers import shown
from gumption.core.study.change import Change, Side
from gumption.core.study.pieces import Piece, Pieces

_FEW = 0.25
"""The share of a change below which the pieces that are named are no more than examples."""
_NOTHING = 0.005
"""The share of a figure below which its change is none to speak of."""
_SMALL = 0.1
"""Below it numbers are told with more digits."""
_DAYS_APART = 0.01
"""Two spans differ in length from this share on as far as that may move a figure."""


def change_words(change: Change) -> str:
    """How a question was understood that asks what moved a figure."""
    by = f", by {listed(list(change.way.called))}" if change.way.called else ""
    return set_apart(f"what moved {change.figure} from {change.before.name} to {change.after.name}{by}")


def amount(value: float, field: Field, *, signed: bool = False) -> str:
    """A number of a change; `signed` with its sign, a real minus."""
    size = abs(value)
    if field.role is Role.MONEY or field.type is Type.DURATION:
        text = shown(size, field)
    elif field.type is Type.INTEGER:
        text = shown(round(size), field)
    else:
        text = written(size, ",.2f" if size >= _SMALL else ",.4f")
    sign = "−" if value < 0 else "+" if signed else ""
    return f"{sign}{text}"


def change_finding(pieces: Pieces, field: Field) -> str:
    """How far the figure went, and which pieces make up most of that."""
    change, total = pieces.change, pieces.total
    figure = set_apart(change.figure.removeprefix("the ")[:1].upper() + change.figure.removeprefix("the ")[1:])
    sign = "%" if change.percent else ""
    before, after = f"{amount(pieces.before, field)}{sign}", f"{amount(pieces.after, field)}{sign}"
    if _is_nothing(pieces):
        return f"{figure} came to the same {_sides(change)}: {after}."
    relative = f" ({_percent(total / abs(pieces.before))})" if pieces.before and not change.percent else ""
    size = amount(abs(total), field) + (" points" if change.percent else "")
    went = "fell" if total < 0 else "rose"
    figure += "," if ", " in figure else ""
    first = f"{figure} {went} by {size}{relative}, from {before} {_in(change.before)} to {after} {_in(change.after)}"
    if change.after.days is None:
        # What is held against others has not gone anywhere.
        than = "lower" if total < 0 else "higher"
        first = (
            f"{figure} is {size}{relative} {than} {_in(change.after)} ({after}) than {_in(change.before)} ({before})"
        )
    if change.supposed and (change.supposed == "up") != (total > 0):
        first = f"{figure} did not {'rise' if change.supposed == 'up' else 'fall'}: it {first[len(figure) + 1 :]}"
    return f"{first}{_made_of(pieces)}."


def _is_nothing(pieces: Pieces) -> bool:
    return math.isclose(pieces.total, 0.0, abs_tol=1e-9 * max(abs(pieces.before), 1.0))


def _sides(change: Change) -> str:
    return f"{_in(change.before)} and {_in(change.after)}"


def _in(side: Side) -> str:
    if side.days is None:
        return f"at {side.name}" if side.name != "the others" else "at the others"
    return f"on {side.name}" if side.days == 1 else f"in {side.name}"


def _percent(share: float) -> str:
    size = abs(share) * 100
    return f"{written(size, '.0f' if size >= 100 else '.1f')}%"


def _made_of(pieces: Pieces) -> str:
    """The pieces that make up most of the change, and what went the other way."""
    named, total = pieces.named, pieces.total
    if len(pieces.all) < 2 or not named:
        return ""
    by = listed(list(pieces.change.way.called))
    if not pieces.change.percent and abs(total) < _NOTHING * abs(pieces.before):
        return "; that is next to nothing"
    if not pieces.stand_out:
        return f"; taken apart by {by}, no piece stands out"
    share = math.fsum(p.change for p in named) / total
    told = listed([_piece(p, pieces) for p in named])
    against = math.fsum(p.change for p in pieces.against)
    if share > 1:
        most = pieces.against[0]
        return f"; {told} alone would make up {_percent(share)} of that, but {_piece(most, pieces)} and others went the other way"
    if share < _FEW:
        return f"; it is spread over {plural(len(pieces.along), 'piece')}, of which {told} make up {_percent(share)}"
    verb = "makes" if len(named) == 1 else "make"
    others = _piece(pieces.against[0], pieces) if len(pieces.against) == 1 else f"{len(pieces.against)} others"
    rest = f", while {others} went the other way" if abs(against / total) >= 0.1 else ""
    return f"; {told} {verb} up {_percent(share)} of that{rest}"


def _piece(piece: Piece, pieces: Pieces) -> str:
    """A piece by its name, and by what moved it."""
    name = ", ".join(piece.label)
    change = pieces.change
    if change.kind == "count":
        return name
    rows = piece.rows_after - piece.rows_before
    if change.kind == "sum" and abs(piece.volume + piece.mix) >= abs(piece.rate) and rows:
        return f"{name} ({'fewer' if rows < 0 else 'more'} {change.rows})"
    if change.kind == "ratio" and abs(piece.mix) > abs(piece.rate):
        return f"{name} (a {'smaller' if rows < 0 else 'larger'} share of {change.rows})"
    return f"{name} ({'less' if piece.rate < 0 else 'more'} each)"


def method_words(change: Change) -> tuple[str, ...]:
    """How a change is taken apart, for a person who wants to do it again."""
    one, other, rows = change.before.name, change.after.name, change.rows
    against = "" if one != "the others" else " What the others come to is shared out among them."
    match change.kind:
        case "count":
            return (f"A piece is its {rows} in {other} less those in {one}.{against}",)
        case "sum":
            return (
                f"A piece is what it comes to in {other} less what it comes to in {one}.{against}",
                f"Volume: {rows} gained or lost, each at the mean of all {rows} in {one}.",
                f"Mix: what it adds that these are {rows} of a dearer or cheaper kind.",
                f"Rate: what {rows} of the same kind come to now, less what they came to.",
            )
        case "ratio":
            return (
                f"A piece is its part in the change of the whole, weighed by its share of all {rows}.{against}",
                f"Mix: its share of the {rows} grew or shrank, at its distance from the whole in {one}.",
                "Rate: its own figure changed, at the share that it has now.",
            )


def change_checks(pieces: Pieces, field: Field, day: dt.date) -> tuple[Check, ...]:
    """What must hold of a change in pieces, and what it does not say."""
    change = pieces.change
    whole = pieces.after - pieces.before
    adds_up = math.isclose(pieces.total, whole, rel_tol=1e-9, abs_tol=1e-6)
    told = amount(whole, field, signed=True)
    found = [
        Check("pieces add up", "holds", f"The pieces add up to the whole change, {told}")
        if adds_up
        else Check("pieces add up", "stop", f"The pieces do not add up to the whole change, {told}")
    ]
    if change.kind != "count":
        parts = all(math.isclose(p.volume + p.mix + p.rate, p.change, rel_tol=1e-9, abs_tol=1e-6) for p in pieces.all)
        names = "Volume, mix and rate" if change.kind == "sum" else "Mix and rate"
        found.append(
            Check("parts add up", "holds", f"{names} add up in every piece")
            if parts
            else Check("parts add up", "stop", f"{names} do not add up in every piece")
        )
    if change.after.high is not None and change.after.high > day:
        found.append(
            Check(
                "periods complete",
                "caution",
                f"{change.after.name} is not over yet",
                f"the data are taken as of {day_words(day)}",
            )
        )
    one, other = change.before.days, change.after.days
    if (
        one
        and other
        and one != other
        and abs(one - other) / one >= _DAYS_APART
        and change.kind != "ratio"
        and pieces.before
    ):
        daily = (pieces.after / other) / (pieces.before / one) - 1
        went = "fell" if daily < 0 else "rose"
        found.append(
            Check(
                "periods as long",
                "caution",
                f"{change.after.name} has {plural(other, 'day')}, {change.before.name} {one}",
                f"by the day it {went} by {_percent(daily)}",
            )
        )
    return tuple(found)
