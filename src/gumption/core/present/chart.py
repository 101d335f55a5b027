"""Which chart fits an answer, and what is said where it is not the one that was asked for."""

from __future__ import annotations

from dataclasses import dataclass, replace

from gumption.core.model.style import written
from gumption.core.model.wish import KIND_WORDS, LOOK_WORDS, ChartWish, Kind
from gumption.core.plan.expressions import Aggregate, columns_of
from gumption.core.plan.steps import Keep, Window
from gumption.core.present import marks
from gumption.core.present.answer import Answer
from gumption.core.present.figures import Figures, Numbers, arranged, figures, of_one_unit
from gumption.core.present.marks import Spec

MOST_BARS, MOST_SERIES, MOST_POINTS, MOST_SLICES = 15, 6, 800, 7
MOST_PANELS = 12
"""Lines that still get a panel each, where they are too many for one."""
MOST_WISHED = 40
"""Bars where bars were asked for, and values to a side of a heat map."""
_FILLED = 0.4
_ALWAYS_NUMBERED: tuple[Kind, ...] = ("bar", "heat", "pie", "histogram", "table")


@dataclass(frozen=True)
class Drawing:
    """A chart, if one says it better than a table or a number, and what of the wish could not be met."""

    spec: Spec | None = None
    note: str = ""
    kind: Kind | None = None


def chart(answer: Answer, wish: ChartWish | None = None) -> Drawing:
    """Bars for categories, a line for time, shades for two ways, or what was asked for where the answer allows it."""
    wished = wish or ChartWish()
    if wished.kind == "table":
        return Drawing()
    of = arranged(figures(answer), answer, wished)
    kind, note = _kind(of, answer, wished, asked=wish is not None)
    if kind is None:
        return Drawing(None, note)
    if kind == "line" and of.lines is not None and of.lines.different > MOST_SERIES:
        wished = replace(wished, looks=(*wished.looks, "panels"))
    if kind == "line" and not wished.looks and _are_two_of_their_own(of, answer):
        wished = replace(wished, looks=("two_axes",))
    spec = _drawn(of, kind, wished, answer)
    return Drawing(spec, " ".join(filter(None, (note, _unmet(of, kind, wished)))), kind)


def _are_two_of_their_own(of: Figures, answer: Answer) -> bool:
    """True for two figures over time that were both asked for and share no axis, such as a number and a rating."""
    asked = {a.name for a in _aggregates(answer)}
    over_time = len(of.labels) == 1 and of.labels[0].is_time
    both = len(of.numbers) == 2 and {n.name for n in of.numbers} <= asked
    return over_time and both and not _share_an_axis(of.numbers, answer)


def _share_an_axis(numbers: tuple[Numbers, ...], answer: Answer) -> bool:
    """True for numbers that may be held against each other: parts that add up, or the lowest and highest of one column."""
    names = {n.name for n in numbers}
    columns = {a.column for a in _aggregates(answer) if a.name in names and a.function not in ("count", "distinct")}
    of_one_column = len(columns) == 1 and names <= {a.name for a in _aggregates(answer) if a.column in columns}
    return of_one_unit(numbers) and (of_one_column or all(n.adds_up for n in numbers))


def _aggregates(answer: Answer) -> tuple[Aggregate, ...]:
    return answer.group.aggregates if answer.group is not None else ()


_MOST_GROUPED = 36
"""Bars side by side that can be told apart; more are shades."""
_OFFERED: tuple[Kind, ...] = ("bar", "line", "area", "pie", "dots", "heat", "histogram", "box")


def kinds_for(answer: Answer) -> tuple[Kind, ...]:
    """The kinds of chart that an answer can be drawn as; along a line only what has an order of its own."""
    of = figures(answer)
    own = _fitting(of, answer, asked=True)
    ordered = any(label.is_time or label.width is not None for label in of.labels)
    return tuple(
        kind
        for kind in _OFFERED
        if kind == own or (not _hinders(of, answer, kind) and (ordered or kind not in ("line", "area")))
    )


def _kind(of: Figures, answer: Answer, wish: ChartWish, *, asked: bool) -> tuple[Kind | None, str]:
    """The kind that is drawn, and why it is not the one that was asked for."""
    own = _fitting(of, answer, asked=asked)
    if wish.kind == "any" and own is not None and (wish.has("stacked") or wish.has("whole")) and len(of.labels) == 2:
        return "bar", ""
    if wish.kind == "any" or wish.kind == own:
        if own is None and asked:
            return None, _no_chart(of)
        return own, ""
    why = _hinders(of, answer, wish.kind)
    if not why:
        return wish.kind, ""
    fallback = own or _fitting(of, answer, asked=True)
    return fallback, f"{why}; {KIND_WORDS[fallback]} instead." if fallback else f"{why}."


def _are_picked_out(answer: Answer) -> bool:
    """True for periods that were kept for how they differ from the one before: between them lie others."""
    changes = {
        s.name for s in answer.plan.steps if isinstance(s, Window) and s.function in ("change", "change_percent")
    }
    return any(isinstance(s, Keep) and changes & {*columns_of(s.condition)} for s in answer.plan.steps)


def _no_chart(of: Figures) -> str:
    if of.size < 2:
        return "There is nothing to draw: the answer is one row."
    return "There is nothing to draw: the answer has no numbers." if not of.numbers else "The table says it best."


def _fitting(of: Figures, answer: Answer, *, asked: bool) -> Kind | None:
    """The kind that fits the shape; where none was asked for only if it says more than the table."""
    if _five(answer, of) and of.size <= MOST_BARS:
        return "box"
    if not of.numbers or not of.labels or of.size < 2 or len(of.labels) > 2:
        return None
    if of.ranked and not asked and (answer.sorted_by is None or answer.limited is None):
        return None
    if answer.added_up is not None and of.labels[0].width is not None:
        return "line"
    if any(x.different > 1 for x in of.labels) and len(of.labels) == 1 and of.labels[0].width is not None:
        return "histogram"
    times = any(x.is_time for x in of.labels)
    if len(of.labels) == 1:
        if times and not _are_picked_out(answer):
            return "line" if of.size <= MOST_POINTS else None
        return "bar"
    counts = [x.different for x in of.labels]
    if times and of.size <= MOST_POINTS and of.lines is not None and of.lines.different <= MOST_PANELS:
        return "line"
    if of.crossed:
        return "heat"
    if min(counts) <= MOST_SERIES and max(counts) <= 12 and counts[0] * counts[1] <= _MOST_GROUPED and not times:
        return "bar"
    # Shades say something where most of the pairs are there.
    filled = not of.ranked and of.size >= _FILLED * counts[0] * counts[1]
    return "heat" if (asked or filled) and max(counts) <= MOST_WISHED else None


def _hinders(of: Figures, answer: Answer, kind: Kind) -> str:
    """Why a kind of chart cannot be drawn of this answer; nothing where it can."""
    if kind == "map":
        return "There is no map here"
    if not of.numbers:
        return "There is nothing to draw: the answer has no numbers"
    if of.size < 2 and kind != "box":
        return "There is nothing to draw: the answer is one row"
    match kind:
        case "pie":
            if len(of.labels) != 1:
                return "A pie shows one set of parts"
            if not of.numbers[0].adds_up or min(of.numbers[0].known, default=0) < 0:
                return f"A pie shows parts of a whole, which {of.numbers[0].title} is not"
        case "dots":
            if len(of.numbers) < 2:
                return "Dots need two numbers for each row"
        case "heat":
            if len(of.labels) != 2:
                return "A heat map needs two groups"
        case "box":
            if not _five(answer, of):
                return "Boxes need the lowest, the quartiles and the highest"
        case "histogram":
            if len(of.labels) != 1 or of.labels[0].width is None:
                return "A histogram needs bands of a number"
        case "line" | "area" | "bar":
            if not of.labels:
                return "There is nothing to draw it along"
            if len(of.labels) > 2:
                return "There are too many groups for one chart"
            if len(of.labels) == 2 and min(x.different for x in of.labels) > len(marks.SERIES):
                return "There would be too many colours"
            if kind != "bar" and of.size > MOST_POINTS:
                return "There are too many points"
    return ""


def _drawn(of: Figures, kind: Kind, wish: ChartWish, answer: Answer) -> Spec | None:
    match kind:
        case "box":
            return marks.boxes(of, _five(answer, of))
        case "pie":
            return marks.pie(of, MOST_SLICES)
        case "dots":
            return marks.dots(of, wish)
        case "heat":
            return marks.heat(of, wish)
        case "histogram":
            return marks.histogram(of, wish)
        case "line" | "area":
            return marks.lines(of, wish, _together(of, wish, answer))
        case "bar" if len(of.labels) == 2:
            return marks.grouped_bars(of, wish)
        case _:
            asked = wish.kind == "bar"
            return (
                marks.bars(of, wish, MOST_WISHED if asked and not wish.has("rest") else MOST_BARS)
                if any(True for _ in of.entries())
                else None
            )


def _together(of: Figures, wish: ChartWish, answer: Answer) -> tuple[Numbers, ...]:
    """The numbers that stand in one chart: those of one unit, or two that were asked to have an axis each."""
    if len(of.labels) > 1:
        return of.numbers[:1]
    worked = of.numbers[:3]
    if wish.has("two_axes") and len(worked) > 1:
        return worked[:2]
    return worked if len(worked) == len(of.numbers) and _share_an_axis(worked, answer) else of.numbers[:1]


def _five(answer: Answer, of: Figures) -> tuple[Numbers, ...]:
    """The numbers of a box, the lowest first, where the answer has them of one column."""
    aggregates = _aggregates(answer)
    columns = {a.column for a in aggregates}
    if len(columns) != 1 or len(of.labels) > 1:
        return ()
    found = []
    for wanted in ("min", 25.0, "median", 75.0, "max"):
        name = next((a.name for a in aggregates if _is_wanted(a, wanted)), None)
        number = next((n for n in of.numbers if n.name == name), None)
        if number is None:
            return ()
        found.append(number)
    return tuple(found)


def _is_wanted(aggregate: Aggregate, wanted: str | float) -> bool:
    if isinstance(wanted, float):
        return aggregate.function == "percentile" and aggregate.percent == wanted
    return aggregate.function == wanted


def _unmet(of: Figures, kind: Kind, wish: ChartWish) -> str:
    """What was said of the look and is not seen."""
    two = len(of.labels) == 2
    met = {
        "stacked": kind in ("bar", "area") and two,
        "whole": kind in ("bar", "area") and two,
        "grouped": kind == "bar" and two,
        "panels": kind in ("line", "area") and (two or len(of.numbers) > 1),
        "upright": kind in ("bar", "histogram"),
        "lying": kind == "bar",
        "labels": kind in _ALWAYS_NUMBERED or of.size <= marks.MOST_LABELLED,
        "points": kind in ("line", "dots"),
        "log": kind in ("bar", "line", "dots", "heat", "histogram", "area"),
        "zero": kind in ("bar", "line", "dots", "histogram", "area"),
        "trend": (kind == "line" and of.labels[0].is_time) or kind == "dots",
        "average": (kind == "bar" and not two) or kind == "line",
        "ordered": kind == "bar" and not two,
        "rest": kind == "bar" and not two and of.numbers[0].adds_up,
        "two_axes": kind == "line" and len(of.numbers) > 1 and not two,
    }
    few = len(marks.sampled(of)) if kind == "dots" else of.size
    drawn = (
        f"Drawn are {written(few)} of {written(of.size)} rows, evenly taken. "
        if few < 0.9 * of.size and few > 1000
        else ""
    )
    missed = [LOOK_WORDS[look] for look in wish.looks if not met[look]]
    return drawn + (f"Not drawn here: {', '.join(missed)}." if missed else "")
