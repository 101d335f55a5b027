"""Two things held against each other: 2025 against 2024, dogs versus cats, how much more in May than in April."""

from __future__ import annotations

import datetime as dt

from gumption.core.reading import meaning as m
from gumption.core.reading.ends import (
    days_against,
    days_of,
    ends_of,
    over_time,
    the_next_after,
    to_the_last,
    unit_of,
)
from gumption.core.reading.grammar import Rule
from gumption.core.reading.pieces import (
    Beside,
    Counted,
    Function,
    Grouped,
    Joined,
    Marker,
    Measured,
    Moved,
    Noun,
    Part,
    Ratio,
    Shared,
    Values,
    Versus,
    Worked,
    as_counted,
    said_of_each,
)
from gumption.core.reading.rules.groups import each_of
from gumption.core.reading.rules.quantities import sums
from gumption.core.reading.times import Span, are_whole_years, in_year, months_later, span_condition


def _versus(one: Part, two: Part) -> Versus | None:
    if (
        not isinstance(one, Part)
        or not isinstance(two, Part)
        or one == two
        or one.kind != two.kind
        or one.kind not in ("time", "value")
    ):
        return None
    if len(m.times_in((one.condition, two.condition))) > 1:
        # Raised in May and completed in June is both.
        return None
    return Versus(one.condition, two.condition)


def _of_such(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Dog visits against cat visits: two kinds of the same rows."""
    rows = {p for p in parts if isinstance(p, Noun)}
    told = [p for p in parts if isinstance(p, Part)]
    found = _versus(told[0], told[-1]) if len(told) > 1 and len(rows) == 1 else None
    return (found, *rows) if found is not None else None


def _each_period(*spans: Span) -> tuple[Part, Grouped] | None:
    """2024, 2025 and 2026: each of these by itself."""
    units = {unit_of(s) for s in spans}
    unit = next(iter(units))
    if len(units) != 1 or unit is None or len(set(spans)) != len(spans):
        return None
    any_of = m.Any(tuple(m.Within(m.EventTime(), s.low, s.high) for s in spans))
    return Part(any_of, "time"), Grouped(m.PartOf(unit, m.EventTime()))


def _more_then(up: bool, parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Clinics that had more visits in one year than in another."""
    noun, told = parts[0], parts[1]
    one, two = (p for p in parts if isinstance(p, Part))
    versus = _versus(one, two)
    if not isinstance(noun, Noun) or versus is None or one.kind != "time":
        return None
    what = Counted(told) if isinstance(told, Noun) else told
    return Grouped(noun), what, Moved(None, up, versus)


def _apart_in(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How far two lie apart in what is measured."""
    one, two = (p for p in parts if isinstance(p, Part))
    versus = _versus(two, one)
    told = next(p for p in parts if isinstance(p, (Worked, Measured)))
    return (versus, told, "more") if versus is not None else None


def _from_to(one: Part, two: Part) -> Versus | None:
    """From one year to another; from January to May is a stretch of time and no change."""
    if any(isinstance(p.condition, m.PartIs) or p.kind != "time" for p in (one, two)):
        # From one place to another is a way, and no comparison.
        return None
    return _versus(two, one)


def _moved(measured: Measured | None, sign: str, span: Span) -> Moved | None:
    versus = ends_of(span) or over_time(span)
    return Moved(measured, sign == "+", versus) if versus is not None else None


def _same_part(one: Part, two: Part) -> Versus | None:
    """Some months held against the same months of another year."""
    match one.condition, two.condition:
        case m.Within(time=time, low=dt.date() as low, high=dt.date() as high), m.Within(low=start, high=end) if (
            low.year == high.year and are_whole_years(start, end)
        ):
            year = start.year if start is not None else low.year
            return _versus(one, Part(m.Within(time, in_year(low, year), in_year(high, year)), "time"))
        case _:
            return _versus(one, two)


def _same_months(of: Noun | Measured, one: Part, two: Part) -> tuple[object, ...] | None:
    """Some months of one year compared with another year are held against the same months of that."""
    versus = _same_part(one, two)
    if versus is None or one.kind != "time" or versus == _versus(one, two):
        return None
    return versus, as_counted(of)


def _which_moved(noun: Noun, sign: str, span: Span) -> tuple[Grouped, Moved] | None:
    moved = _moved(None, sign, span)
    return (Grouped(noun), moved) if moved is not None else None


def _those_that_moved(*parts: object) -> tuple[object, ...] | None:
    """Those of which something rose or fell over a time."""
    noun, *more = (p for p in parts if isinstance(p, Noun))
    said = next((p for p in parts if isinstance(p, (Measured, Counted, Worked))), None)
    said = said or next((Counted(other) for other in more), None)
    span = next(p for p in parts if isinstance(p, Span))
    moved = _moved(None, next(p for p in parts if p in ("+", "-")), span)
    return (Grouped(noun), said, moved) if moved is not None and said is not None else None


def _how_many_moved(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How many there are of which something rose or fell over a time."""
    those = _those_that_moved(*parts)
    return (Counted(Noun()), *those) if those is not None else None


def _both_moved(signs: tuple[str, str], parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Those of which one thing rose and another fell over a time."""
    noun, *more = (p for p in parts if isinstance(p, Noun))
    said = [Counted(p) if p in more else p for p in parts if isinstance(p, Measured) or p in more]
    moves = [_moved(None, sign, next(p for p in parts if isinstance(p, Span))) for sign in signs]
    if len(said) != 2 or said[0] == said[1] or None in moves:
        return None
    return Grouped(noun), *(x for pair in zip(said, moves, strict=True) for x in pair)


def _more_in(noun: Noun, what: Noun | Measured, one: Part, two: Part, up: bool) -> tuple[object, ...] | None:
    """Clinics with more visits in one year than in another."""
    versus = _versus(one, two)
    if versus is None or one.kind != "time":
        return None
    return Grouped(noun), as_counted(what), Moved(None, up, versus)


def _in_that_year(one: Part, two: Part) -> Part:
    """The first half of 2025 and 2026: of the other year its first half too."""
    match one.condition, two.condition:
        case m.Within(time=time, low=dt.date() as low, high=dt.date() as high), m.Within(
            low=dt.date() as start, high=end
        ) if (
            low.year == high.year != start.year
            and are_whole_years(start, end)
            and end is not None
            and end.year == start.year
            and not are_whole_years(low, high)
        ):
            return Part(m.Within(time, in_year(low, start.year), in_year(high, start.year)), "time")
        case _:
            return two


def _compared_in(what: object, one: Part, two: Part) -> tuple[Versus, object] | None:
    versus = _versus(_in_that_year(one, two), one)
    return (versus, as_counted(what)) if versus is not None else None


def _such_compared(values: Values, one: Part, two: Part) -> tuple[object, ...] | None:
    versus = _versus(two, one)
    if versus is None or versus.one == m.Is(values.column, values.values):
        return None
    return versus, Counted(Noun(table=values.column.table)), Part(m.Is(values.column, values.values))


def _year_on(span: Span, years: int = -1) -> Versus | None:
    """A time held against the same days of the year before; or those of the year after it against them."""
    days = days_of(span)
    if days is None:
        return None
    other = in_year(days[0], days[0].year + years), in_year(days[1], days[1].year + years)
    return days_against(days, other) if years < 0 else days_against(other, days)


def _dated_versus(day: Noun, one: Part, two: Part) -> Versus | None:
    """Sown in 2025 against sown in 2026: by the day that is said."""
    if day.key is None or {one.kind, two.kind} != {"time"}:
        return None
    when: dict[object, object] = {m.EventTime(): m.Col(day.key)}
    first, last = (Part(m.replaced(p.condition, when), "time") for p in (one, two))  # type: ignore[arg-type]
    return _versus(first, last)


def _usually_against(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """How much more the ones pay on average than the others."""
    function = next((p for p in parts if p in ("mean", "median")), None)
    held = _held_against(tuple(p for p in parts if p is not function)) if function is not None else None
    return (*held, Function(str(function))) if isinstance(held, tuple) else None


def _held_against(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether one or the other has more of something."""
    one, two = (p for p in parts if isinstance(p, Part))
    versus = _versus(one, two)
    if versus is None:
        return None
    held = (p for p in parts if isinstance(p, (Measured, Worked)))
    if "time" in (one.kind, two.kind):
        return (versus, *held)
    return (versus, *(Joined(p.expr, each=True) if isinstance(p, Measured) else p for p in held))


def _of_us(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether we spend more on the one or the other: what all of each come to."""
    one, two = (p for p in parts if isinstance(p, Part))
    versus = _versus(one, two)
    measured = next((p for p in parts if isinstance(p, Measured)), None)
    return (versus, Worked(m.in_all(measured.expr))) if versus is not None and measured is not None else None


def held_on_average(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether the one has a higher something than the other: each of them, and not all of them together."""
    averaged = tuple(Worked(m.Aggregated("mean", p.expr)) if isinstance(p, Measured) else p for p in parts)
    return _held_against(averaged)


def _such_pay_more(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether those that are so come to more than the rest, on average."""
    part = next((p for p in parts if isinstance(p, Part)), None)
    measured = next((p for p in parts if isinstance(p, Measured)), None)
    noun = next((p for p in parts if isinstance(p, Noun) and p.key is None), None)
    flag = next((p for p in parts if isinstance(p, Noun) and p.key is not None), None)
    if measured is None or (part is not None and part.kind == "time" and not isinstance(part.condition, m.PartIs)):
        return None
    group = Grouped(flag) if part is None and flag is not None else None
    if group is None and part is not None:
        condition = part.condition.item if isinstance(part.condition, m.Not) else part.condition
        flagged = isinstance(condition, m.Is) and condition.values in ((True,), (False,))
        group = Grouped(m.Col(condition.column) if flagged and isinstance(condition, m.Is) else m.Test(condition))
    if group is None:
        return None
    return (group, Worked(m.Aggregated("mean", measured.expr)), *((noun,) if noun is not None else ()))


def _how_much_more(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """By how much the one comes to more than the other."""
    held = _held_against(parts)
    return ("more", *held) if held is not None else None


def _by_what_percentage(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """By how many per cent the one comes to more than the other."""
    functions = [Function(p) for p in parts if p in ("mean", "median")]
    held = _how_much_more(tuple(p for p in parts if not isinstance(p, str)))
    return (*held, *functions, Beside("share")) if held is not None else None


def _doing_more(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether the one or the other does something more often: how many rows there are of each."""
    last = max((n for n, p in enumerate(parts) if isinstance(p, Part)), default=len(parts))
    nouns = [p for p in parts if isinstance(p, Noun) and p.table is not None]
    # What gold members do more than silver members stands between the two.
    done = [p for p in parts[:last] if isinstance(p, Noun) and p.table is not None] or nouns
    versus = _held_against(parts)
    return (*versus, Counted(done[-1])) if versus is not None and done else None


def _more_often_so(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether more of the one are so than of the other: what share of each is."""
    told = [p for p in parts if isinstance(p, Part) or (isinstance(p, Noun) and p.key is not None)]
    one, so, two = (told[0], *[p for p in told[1:-1] if isinstance(p, (Part, Noun))][-1:], told[-1])
    condition = said_of_each(so)
    if not isinstance(one, Part) or not isinstance(two, Part) or condition is None:
        return None
    versus = _versus(one, two)
    return (versus, Shared(None, condition)) if versus is not None else None


def _more_so_than_the_rest(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether seniors are more likely to leave: what share of them does, beside that of all others."""
    told = [p for p in parts if isinstance(p, Part) or (isinstance(p, Noun) and p.key is not None)]
    so, such = told[-1], next((p for p in told[:-1] if isinstance(p, Part)), None)
    condition = said_of_each(so)
    if such is None or such.kind == "time" or condition is None or such.condition == condition:
        return None
    return Shared(None, condition), Grouped(m.Test(such.condition))


_MONTHS_OF_A_SEASON = 3
_OVERALL = "overall|general|company|global|usual|total|national"


def _each_per(ratio: Ratio, parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Visits per owner, of dogs and of cats."""
    one, two = (p for p in parts if isinstance(p, Part))
    versus = _versus(one, two)
    return (ratio, versus) if versus is not None else None


_WHOSE = "where|whose|that|which the? number? of? E|T?"
_BY_SO_MUCH = "by? CMP N %|percent|pct"


def _moved_so_far(parts: tuple[object, ...]) -> Moved | None:
    """Those whose fee fell by more than a fifth from one time to another."""
    sign = next(p for p in parts if p in ("+", "-"))
    op = next(p for p in parts if p in (">", ">=", "<", "<="))
    of = next((p for p in parts if isinstance(p, Measured)), None)
    counted = next((Counted(p) for p in parts if isinstance(p, Noun)), None)
    times = [p for p in parts if isinstance(p, Part)]
    versus = None
    if len(times) == 2:
        # From one year to the next, or this year against the last.
        versus = _versus(*times[::-1]) if _comes_first(times[0], times[1]) else _versus(*times)
    number = next(p for p in parts if isinstance(p, float))
    return Moved(of or counted, sign == "+", versus, number) if op in (">", ">=") and (versus or not times) else None


def _comes_first(one: Part, other: Part) -> bool:
    """True for a time that lies before another."""
    first, last = (p.condition.low if isinstance(p.condition, m.Within) else None for p in (one, other))
    return first is not None and last is not None and first < last


def _whole_months(days: tuple[dt.date, dt.date]) -> int:
    """How many whole months there are from the first day to the last; nought where these begin or end inside one."""
    first, last = days
    whole = first.day == 1 and (last + dt.timedelta(days=1)).day == 1
    return (last.year - first.year) * 12 + last.month - first.month + 1 if whole else 0


def _is_season(days: tuple[dt.date, dt.date], months: int) -> bool:
    return months == _MONTHS_OF_A_SEASON and days[0].month % _MONTHS_OF_A_SEASON == 0


def _against_the_last(span: Span) -> Versus | None:
    """Compared to last year says this year."""
    days = days_of(span)
    months = _whole_months(days) if days is not None else 0
    if days is None or not months:
        return None
    first = months_later(days[0], 12 if _is_season(days, months) else months)
    return days_against((first, months_later(first, months) - dt.timedelta(days=1)), days)


def _on_the_one_before(span: Span) -> Versus | None:
    """A period held against the one of the same length before it."""
    days = days_of(span)
    if days is None:
        return None
    last = days[0] - dt.timedelta(days=1)
    months = _whole_months(days)
    if _is_season(days, months):
        # The summer before a summer was a year ago.
        return _year_on(span)
    first = months_later(days[0], -months) if months else last - (days[1] - days[0])
    return days_against(days, (first, last))


def _before_and_after(span: Span, other: Span | None = None) -> Grouped | None:
    """What was before a day or a period, and what has been since."""
    if span.low is None:
        return None
    return Grouped(m.Test(m.Within(m.EventTime(), span.low, None))) if other in (None, span) else None


def _on_either_side(low: Span) -> Grouped | None:
    """What was before a day that a bound says, and what came after."""
    if low.high is None or low.low is not None:
        return None
    return Grouped(m.Test(m.Within(m.EventTime(), low.high + dt.timedelta(days=1), None)))


def _times_as(parts: tuple[object, ...], turned: bool = False) -> Worked | None:
    """How many times one thing's something is another's."""
    one, two = (p for p in parts if isinstance(p, Part))
    if turned:
        one, two = two, one
    if one == two or one.kind not in ("value", "time") or one.kind != two.kind:
        return None
    measured = next((p for p in parts if isinstance(p, Measured)), None)
    noun = next((p for p in parts if isinstance(p, Noun) and p.table is not None), None)
    if measured is not None:
        sides = [m.Aggregated("sum", measured.expr, where=(p.condition,)) for p in (one, two)]
    elif noun is not None:
        sides = [m.Aggregated("count", table=noun.table, where=(p.condition,)) for p in (one, two)]
    else:
        return None
    return Worked(m.Combined("/", sides[0], sides[1]))


def _beyond_average(parts: tuple[object, ...], differing: bool = False) -> tuple[Worked, ...] | None:
    """What something comes to on average for one, for all, and how far the one lies from all."""
    part = next(p for p in parts if isinstance(p, Part))
    measured = next(p for p in parts if isinstance(p, Measured))
    if part.kind != "value":
        return None
    overall = m.Aggregated("mean", measured.expr)
    own = m.Aggregated("mean", measured.expr, where=(part.condition,))
    apart = Worked(m.Combined("-", own, overall))
    return (apart,) if differing else (Worked(own), Worked(overall), apart)


def _two_times(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What something came to at one time, held against another."""
    one, two = (Part(span_condition(p, m.EventTime()), "time") for p in parts if isinstance(p, Span))
    versus = _versus(one, two)
    of = next(p for p in parts if isinstance(p, (Measured, Noun)))
    return (versus, as_counted(of)) if versus is not None else None


def _more_of(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Which of two has more of something, whether measured or counted."""
    held = _held_against(parts)
    noun = next((p for p in parts if isinstance(p, Noun) and p.table is not None), None)
    return (*held, *((Counted(noun),) if noun is not None else ())) if held is not None else None


def _had_by_then(parts: tuple[object, ...]) -> tuple[object, ...]:
    """How many there had been by the same day of the year before."""
    span = next(p for p in parts if isinstance(p, Span))
    return next(p for p in parts if isinstance(p, Counted)), Part(span_condition(span, m.EventTime()), "time")


def _less(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """One less another: by how much it is more."""
    held = _more_of(parts)
    return (*held, "more") if held is not None else None


def _moved_to(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What gained or lost something from one time to another."""
    one, two = (p for p in parts if isinstance(p, Part))
    versus = _versus(two, one)
    noun = next(p for p in parts if isinstance(p, Noun))
    measured = next((p for p in parts if isinstance(p, Measured)), None)
    if versus is None or one.kind != "time":
        return None
    return Grouped(noun), *((measured,) if measured is not None else ()), Moved(None, "+" in parts, versus)


def _saw_change(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """What rose or fell between two times."""
    sign = next(p for p in parts if p in ("+", "-"))
    one, two = (p for p in parts if isinstance(p, Part))
    noun = next(p for p in parts if isinstance(p, Noun))
    measured = next(p for p in parts if isinstance(p, Measured))
    versus = _versus(two, one)
    if versus is None or one.kind != "time":
        return None
    return Grouped(noun), measured, Moved(None, sign == "+", versus)


def _moved_since(_: object, noun: Noun, sign: str, span: Span) -> tuple[object, ...] | None:
    versus = to_the_last(span) or the_next_after(span)
    return (Grouped(noun), Moved(None, sign == "+", versus)) if versus is not None else None


_RISING = "rising|growing|increasing"
_FALLING = "falling|declining|decreasing|shrinking|dropping"
_MORE = "more|less|higher|lower|longer|shorter|bigger|smaller"
_IS = "is|are|was|were|do|does|did"

_COMES = (
    "brings|bring|makes|make|has|have|had|earns|earn|gets|get|takes|take|gives|give|does|do|did|costs|cost|pays|pay"
)


def _more_at_one_time(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether there was more of something at one time than at another."""
    told, then = (p for p in parts if isinstance(p, Part))
    said = next(p for p in parts if isinstance(p, (Noun, Measured)))
    versus = _versus(told, then) if told.kind == "time" else None
    return (said, versus) if versus is not None else None


def _than_before(parts: tuple[object, ...]) -> tuple[object, ...] | None:
    """Whether there is more of something than at an earlier time: that time is held against the next, or the last."""
    span = parts[-1]
    versus = to_the_last(span) or the_next_after(span) if isinstance(span, Span) else None
    said = next((p for p in parts if isinstance(p, (Noun, Measured))), None)
    return (said, versus) if versus is not None and said is not None else None


RULES = (
    *(
        Rule("G", pattern, lambda *p: each_of(*(x for x in p if isinstance(x, Values))), (example,), weight=0.45)
        for pattern, example in (
            ("VERSUS V , V and|,|& V", "compare France, Spain and Italy"),
            ("V / V / V", "France / Spain / Italy"),
            ("V , V and|& V side by side", "France, Spain and Italy side by side"),
            ("V and|& V side by side", "France and Spain side by side"),
            ("V and|& V , next? to each other", "France and Spain, next to each other"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _had_by_then(p), (example,), weight=0.6)
        for pattern, example in (
            (
                "LASTYTD ,? CNT had|did we|they|you|i have|had|seen|done|taken|made|sold?",
                "this time last year, how many visits had we had",
            ),
            (
                "CNT had|did we|they|you|i have|had|seen|done|taken|made|sold? by|at|up? to? LASTYTD",
                "how many visits had we had by this time last year",
            ),
        )
    ),
    Rule("VERSUS_", "K minus|less K", lambda *p: _less(p), ("dogs minus cats",), weight=0.2),
    *(
        Rule("VERSUS_", pattern, lambda *p: _more_of(p), (example,), weight=0.45)
        for pattern, example in (
            (
                "lead|edge|advantage does|do|did|has|have? K got|have|has|hold? over|on K",
                "lead has France got over Spain",
            ),
            (
                "how far behind|ahead of? K is|are|was|were K on|in|for|with? E|T?",
                "how far behind France is Spain in visits",
            ),
            (
                "WHICH|WHO of K and|or K HAVING the? better|higher|lower|more|bigger|larger|worse|fewer|less|longer E|T",
                "which of France and Spain has the higher fee",
            ),
            (
                "WHICH is|was|are|were|has higher|lower|bigger|larger|better|worse|greater in|on|for|by E , K OR K",
                "which is higher in fee, France or Spain",
            ),
            (f"K OR K WHICH|WHO {_COMES} in? more|most|less|fewer|better E|T", "France or Spain who did more visits"),
            (
                f"K OR K , WHICH|WHO {_COMES} in? more|most|less|fewer|better E|T",
                "France or Spain, who did more visits",
            ),
            (
                f"do|does|did K {_COMES} in? more|less|fewer|better|higher E|T as|than K",
                "does France bring in more fee than Spain",
            ),
            (
                f"do|does|did K T? tend to {_COMES} in? more|less|fewer|better|higher E as|than K T?",
                "does France tend to have more fee than Spain",
            ),
            (f"K {_COMES} in? more|less|fewer|better|higher E|T as|than K", "France brings in more fee than Spain"),
            (
                "do|does|did K outdo|beat|outsell|outperform|top|exceed|surpass K on|in|for|with? E|T?",
                "did France outdo Spain on fee",
            ),
            (
                "how much|many|% do|does|did K outdo|beat|outsell|outperform|top|exceed|surpass K on|in|for|with? E|T?",
                "by how much does France beat Spain on fee",
            ),
            (
                "how do|does|did|is|are K stack|stacks|compare|compares|measure up? against|to|with K on|in|for|with? E|T?",
                "how does France stack up against Spain",
            ),
            (
                "stack|hold|put|set|line K up? against|beside|alongside|next K on|in|for|with? E|T?",
                "stack France up against Spain",
            ),
            (
                "is|are|was|were K twice|double|half as big|large|high|much as K on|in|for|with? E|T?",
                "was France twice as big as Spain on fee",
            ),
            ("put|set K beside|against|alongside K for|in|on? E|T?", "set 2024 beside 2025 for visits"),
        )
    ),
    *(
        Rule(
            "VERSUS_",
            pattern,
            lambda *p: _compared_in(
                next(x for x in p if isinstance(x, (Measured, Worked, Noun, Counted))),
                *(x for x in p if isinstance(x, Part)),
            ),
            (example,),
            weight=0.5,
        )
        for pattern, example in (
            (
                "did|has|have|do|does E|Q double|doubled|triple|tripled|treble|trebled|halve|halved between|from K and|to K",
                "did fee double from 2024 to 2025",
            ),
            ("K to|into K , what happened|changed to|with|in E|Q|T", "2024 to 2025, what happened to fee"),
            ("E|Q|T K → K", "fee 2024 → 2025"),
            ("GROWTH in|of|for? E|Q|T|CNT between|from? K to|and|on|vs|versus K", "growth in visits 2024 to 2025"),
            ("TREND of|in? E|Q|T between K and K", "evolution of fee between 2024 and 2025"),
            (
                "how far off K 's? E|Q|T were|was|are|is we|they|it? in|for? K",
                "how far off 2024 visits were we in 2025",
            ),
            (
                "in comparison|relation to|with K , how is|was|are|were K with|for|in|on the? E|Q|T",
                "in comparison to 2024, how is 2025 with the visits",
            ),
            (
                "from|between K until|till|to|and K how|what much? the? E|Q|T GREW",
                "from 2024 until 2025 how much the visits increased",
            ),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _compared_in(p[0], p[2], p[1]), (example,), weight=0.45)
        for pattern, example in (
            ("E|T up or|and down , K on|to|vs|against K", "fee up or down, 2025 on 2024"),
            (
                "E|T are|is|were|was how? much|many more|less|fewer|higher|lower in|for? K as|than in|for? K",
                "visits are how much less in 2025 than in 2024",
            ),
            ("E K over|on|upon K", "fee 2025 over 2024"),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _two_times(p), (example,), weight=0.5)
        for pattern, example in (
            (
                "how do|does|did|is|are TIME E|T compare|compares|compared|stack up? with|to|against TIME",
                "how does this month fee compare with last month",
            ),
            ("VERSUS TIME E|T with|to|against|and TIME", "compare this month fee with last month"),
            (
                "how do|does|did|is|are E|T TIME compare|compares|compared|stack up? with|to|against TIME",
                "how does fee this month compare with last month",
            ),
        )
    ),
    *(
        Rule(
            "VERSUS_",
            pattern,
            lambda *p: _on_the_one_before(next(x for x in p if isinstance(x, Span))),
            (example,),
            weight=0.45,
        )
        for pattern, example in (
            (
                "how do|does|did|is|are|was|were TIME compare|comparing|compared|stack|measure up? to|with|against|on last|previous|before",
                "how does this month compare to last",
            ),
            ("TIME VERSUS BEFOREIT", "this quarter vs last"),
            ("TIME than the? BEFOREIT", "this quarter than last"),
            ("TIME VERSUS the? one|period|time before|previous", "this quarter against the one before"),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _against_the_last(p[-1]), (example,), weight=0.3)
        for pattern, example in (
            ("compared|relative to|with PRIOR", "compared to last year"),
            ("versus|vs|against PRIOR", "against last month"),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _year_on(p[-1], 1), (example,), weight=0.5)
        for pattern, example in (
            ("VERSUS LASTYTD", "against this time last year"),
            ("TIME so? far? VERSUS LASTYTD", "this year so far vs this time last year"),
            (
                "on|than|towards|over|below|above|ahead|behind|to of? where|what? we|they|it? were|was|stood? LASTYTD",
                "ahead of this time last year",
            ),
            ("like-for-like on|to|with|against LASTYTD", "like-for-like on this time last year"),
            ("ytd|date VERSUS LASTYTD", "ytd vs this time last year"),
        )
    ),
    *(
        Rule("G", pattern, lambda *p: _before_and_after(*(x for x in p if isinstance(x, Span))), (example,), weight=0.5)
        for pattern, example in (
            ("before and|&|vs|versus after|since TIME", "before and after 5 May 2025"),
            ("before or after TIME", "before or after 2024"),
        )
    ),
    Rule(
        "G",
        "TIME and|or|vs|versus after|since it|that|then?",
        _on_either_side,
        ("before 5 May 2025 and after it",),
        weight=0.5,
    ),
    *(
        Rule("Q", pattern, lambda *p, turned=turned: _times_as(p, turned), (example,), weight=0.5)
        for pattern, turned, example in (
            (
                "K has|have|had|is|does|makes|made how many times the? E|T of|as|that? K",
                False,
                "France has how many times the fee of Spain",
            ),
            (
                "how many times as much|many T|E in|at|for|with|from? K as|than in|at|for|with|from? K",
                False,
                "how many times as many visits in 2025 as in 2024",
            ),
            (
                "how many times more|bigger|higher T|E in|at|for|with|from? K than in|at|for|with|from? K",
                False,
                "how many times more visits in 2025 than in 2024",
            ),
            (
                "K only? has|have|had|does|makes|made half|twice|double|third of? what K has|have|had|does|makes|made? in|of? T|E",
                False,
                "France has half of what Spain has in visits",
            ),
        )
    ),
    *(
        Rule("QX", pattern, lambda *p: _beyond_average(p), (example,), weight=0.5)
        for pattern, example in (
            (
                "is|are|was|were K above|below|over|under|beyond AVGOF|AGG in|on|for|by E",
                "is France above average in fee",
            ),
            ("K vs|versus|against|v AVGOF|AGG , E", "France vs average, fee"),
            ("K E vs|versus|against|v AVGOF|AGG", "France fee vs average"),
            (f"AGG of? E K VERSUS the? {_OVERALL}? AGG", "average fee in France against the overall average"),
            ("AGG of? E K VERSUS all|everyone|everybody|everything", "average fee in France compared with all"),
            (
                f"how does|do|did AGG of? E K compare to|with|against the? {_OVERALL}? AGG",
                "how does the average fee in France compare to the average",
            ),
            (
                "VERSUS the? norm|average|mean , how is|are|was|were K on|in|for|by E",
                "compared with the norm, how is France on fee",
            ),
        )
    ),
    *(
        Rule("QX", pattern, lambda *p: _beyond_average(p, differing=True), (example,), weight=0.5)
        for pattern, example in (
            (
                "how far|much above|below|over|under|off|from AVGOF|AGG is|are|was|were K on|in|for|by E",
                "how far above the average is France for fee",
            ),
            (
                "is|are|was|were|does|do K T? HAVING? a? better|higher|lower|bigger|heavier|dearer|worse|longer in|on|for? E than AVGOF|AGG",
                "does France have a higher fee than average",
            ),
        )
    ),
    *(
        Rule("MOVED", pattern, lambda *p: _moved_to(p), (example,), weight=0.5)
        for pattern, example in (
            ("WHICH C|T GREW E from|between K to|and K", "which clinics lost fee from 2024 to 2025"),
            ("WHICH C|T GREW in? E? from|between K to|and K", "which clinics lost from 2024 to 2025"),
        )
    ),
    Rule(
        "MOVED",
        "WHICH C|T is|are|was|were UPDOWN on|from|since|against|over TIME",
        _moved_since,
        ("which clinics are down on last month",),
        weight=0.5,
    ),
    *(
        Rule("MOVED", pattern, lambda *p: _saw_change(p), (example,), weight=0.55)
        for pattern, example in (
            (
                "WHICH C|T saw|had|experienced|recorded|showed|registered|suffered a|an|any? CHG in|of E between|from K and|to K",
                "which clinics saw a fall in fee between 2024 and 2025",
            ),
            (
                "C|T that|which|who|with saw|had|experienced|recorded|showed? a|an|any? CHG in|of E between|from K and|to K",
                "clinics with a fall in fee between 2024 and 2025",
            ),
            (
                "C|T saw|had|have|has|experienced|recorded|showed a|an|any? CHG in|of E between|from K and|to K",
                "clinics had a fall in fee between 2024 and 2025",
            ),
        )
    ),
    Rule("UPDOWN", "up|higher|ahead|rising|gaining", lambda: "+", ("up",), weight=0.9),
    Rule("UPDOWN", "down|lower|behind|falling|losing", lambda: "-", ("down",), weight=0.9),
    *(
        Rule("BESX", pattern, lambda *p: _such_pay_more(p), (example,), weight=0.42)
        for pattern, example in (
            (f"do|does|did|is|are T K E {_MORE}", "do visits overdue cost more"),
            (f"do|does|did|is|are T K have|has|had? a? {_MORE} E", "do visits overdue have a higher fee"),
            (f"do|does|did|is|are K E {_MORE} than the? others|rest|other", "do overdue cost more than the others"),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _such_pay_more(p), (example,), weight=0.2)
        for pattern, example in (
            (f"{_IS} the? E {_MORE} in|on|at|for|during|of|when|with K", "is the fee higher for overdue"),
            (
                f"{_IS} the? average? E {_MORE} in|on|at|for|during|of|when|with K T?",
                "is the fee higher for overdue visits",
            ),
            (f"{_IS} K E {_MORE}", "do overdue cost more"),
        )
    ),
    *(
        Rule("VERSUS_", f"TIME {link} {before}", lambda s, *_: _year_on(s), (example,), weight=0.5)
        for link in ("than", "VERSUS")
        for before, example in (
            (
                "a|one|the year earlier|before|ago|previously",
                f"May 2025 {'than' if link == 'than' else 'against'} a year earlier",
            ),
        )
    ),
    Rule(
        "MRK", "on|over|from|against the UNIT before", lambda *_: Marker("grew"), ("on the quarter before",), weight=0.1
    ),
    Rule("VERSUS_", "TIME VERSUS LASTYTD", lambda *p: _year_on(p[-1], 1), ("ytd vs ytd last year",), weight=0.9),
    *(
        Rule("G", pattern, _each_period, (example,), weight=0.5)
        for pattern, example in (
            ("in|for|over|of? TIME , TIME ,? and|& TIME", "for 2023, 2024 and 2025"),
            ("in|for|over|of? TIME , TIME , TIME ,? and|& TIME", "in 2022, 2023, 2024 and 2025"),
        )
    ),
    *(
        Rule(
            "MOVED",
            f"C|T that|who|which? E {words} K than K",
            lambda *p, u=up: _more_then(u, p),
            (f"owners who paid {words.split('|')[0]} in 2025 than in 2024",),
            weight=0.6,
        )
        for words, up in (("more", True), ("less", False))
    ),
    *(
        Rule(
            "MOVED",
            f"C|T {lead} {words} {what} K than K",
            lambda *p, u=up: _more_then(u, p),
            (f"clinics {lead.split()[-1].split('|')[0]} {words.split('|')[0]} {said} in 2025 than in 2024",),
            weight=0.6,
        )
        for lead in ("that|who|which? had|have|has|made|got|took|did|do|sold|with|having",)
        for words, up in (("more|higher|larger", True), ("fewer|less|lower|smaller", False))
        for what, said in (("T", "visits"), ("E", "fee"))
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _apart_in(p), (example,), weight=0.45)
        for pattern, example in (
            ("DIFF between of? Q of|for|in|at K and|&|to K", "difference between average fee of dogs and cats"),
            ("DIFF between of? E of|for|in|at K and|&|to K", "difference between fee of dogs and cats"),
            ("gap between of? Q of|for|in|at K and|&|to K", "gap between average fee of dogs and cats"),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _of_such(p), (example,), weight=0.3)
        for pattern, example in (
            ("K T VERSUS K T", "dog visits vs cat visits"),
            ("K T VERSUS K ones|one|those?", "dog visits vs cat ones"),
        )
    ),
    Rule(
        "VERSUS_",
        "K VERSUS with|to|against? those|ones|C|T who|that|which|with|in|at|on|from? K",
        lambda a, *p: _versus(a, p[-1]),
        ("dogs vs those with cats",),
        weight=0.3,
    ),
    *(
        Rule("BESX", pattern, lambda r, *p: _each_per(r, p), (example,), weight=0.5)
        for pattern, example in (
            ("RATIO , K VERSUS K", "visits per owner, dogs vs cats"),
            ("RATIO for|of|by K VERSUS|and|& K", "visits per owner for dogs and cats"),
        )
    ),
    Rule("VERSUS_", "K VERSUS K", lambda a, _, b: _versus(a, b), ("2025 against 2024",), weight=0.15),
    Rule("VERSUS_", "VERSUS K OR K", lambda _, a, __, b: _versus(a, b), ("compare dogs and cats",), weight=0.15),
    Rule(
        "VERSUS_", "VERSUS K with|to|against K", lambda _, a, b: _versus(a, b), ("compare 2025 with 2024",), weight=0.2
    ),
    Rule(
        "VERSUS_",
        "K VERSUS same month|months|period|quarter|quarters|week|weeks|time|days of|in|from? K",
        lambda a, _, b: _same_part(a, b),
        ("2025 against the same month of 2024",),
        weight=0.35,
    ),
    Rule(
        "VERSUS_",
        "is|are|was|were D K VERSUS K",
        lambda *p: _dated_versus(next(n for n in p if isinstance(n, Noun)), *(k for k in p if isinstance(k, Part))),
        ("were visit date in 2025 vs 2026",),
        weight=0.2,
    ),
    Rule("VERSUS_", "K than K", _versus, ("more in 2025 than in 2024",), weight=0.15),
    Rule(
        "VERSUS_",
        "K do|does|did? better|worse|more|less|higher|lower|well|badly than|as? K",
        _versus,
        ("dogs do better than cats",),
        weight=0.2,
    ),
    Rule("VERSUS_", "from K to K", _from_to, ("from 2024 to 2025",), weight=0.1),
    Rule("VERSUS_", "K to K", _from_to, ("2024 to 2025",), weight=0.0),
    Rule(
        "VERSUS_", "K and K", lambda a, b: _versus(b, a) if a.kind == "time" else None, ("2024 and 2025",), weight=0.05
    ),
    # The difference between dogs and cats is what dogs have more; between two years it is what came on top.
    Rule(
        "VERSUS_",
        "between K and K",
        lambda a, b: _versus(b, a) if a.kind == "time" else _versus(a, b),
        ("between 2024 and 2025",),
        weight=-0.05,
    ),
    Rule(
        "VERSUS_",
        "up|down|higher|lower|more|fewer|rising|falling|better|worse|changed on|than|since|over|against|compared TIME",
        lambda s: to_the_last(s) or the_next_after(s),
        ("up on last month",),
        weight=0.35,
    ),
    *(
        Rule("QX", pattern, lambda *p: _than_before(p), (example,), weight=0.5)
        for pattern, example in (
            (
                "is|are|was|were|do|did|have|has we|there? had|have|get|got|see|seen? more|fewer|less T|E than|as|to TIME",
                "were there more visits than last month",
            ),
            (
                "how is|are|was|were|do|did|does T|E doing|going|faring|looking|do|compare compared? with|to|versus|against|than TIME",
                "how are visits doing compared to last month",
            ),
            ("how do|does|did T|E compare with|to|against TIME", "how do visits compare with last month"),
        )
    ),
    *(
        Rule("QX", pattern, lambda *p: _more_at_one_time(p), (example,), weight=0.6)
        for pattern, example in (
            (
                "we|they|you|i|there? had|have|get|got|see|saw|seen|sell|sold|take|took? more|fewer|less T|E K than K",
                "did we have more visits in 2025 than in 2024",
            ),
            (
                "is|are|was|were there|it? more|fewer|less T|E K than K",
                "were there fewer visits in 2025 than in 2024",
            ),
        )
    ),
    Rule(
        "VERSUS_",
        "since TIME how NP has|have changed",
        lambda s, _: the_next_after(s),
        ("since last month how visits have changed",),
        weight=0.35,
    ),
    Rule(
        "VERSUS_",
        "change|changed since|from|on|over TIME",
        lambda s: ends_of(s) or to_the_last(s) or the_next_after(s),
        ("change since last month",),
        weight=0.35,
    ),
    Rule(
        "VERSUS_",
        "changed between|from|over? TIME",
        lambda s: ends_of(s) or to_the_last(s),
        ("changed between 2018 and 2024",),
        weight=0.35,
    ),
    Rule(
        "VERSUS_",
        "GREW in|by? percent|%|percentage between|from? K and|to|until|vs K",
        lambda _, a, b: Versus(b.condition, a.condition) if a.kind == b.kind == "time" and a != b else None,
        ("rose in percent between 2023 and 2024",),
        weight=0.5,
    ),
    Rule(
        "VERSUS_", "GREW between|from|over? TIME", lambda _, s: ends_of(s), ("rose between 2015 and 2024",), weight=0.12
    ),
    Rule(
        "VERSUS_",
        "GREW by? most|least|fastest|slowest between|from|over? TIME",
        lambda _, s: ends_of(s),
        ("grew most from 2018 to 2024",),
        weight=-0.2,
    ),
    Rule(
        "VERSUS_", "GROWTH of? between|from|over? TIME", lambda _, s: ends_of(s), ("growth 2010 to 2024",), weight=0.12
    ),
    Rule(
        "VERSUS_",
        "GROWTH in|of? E|Q between|from|over? TIME",
        lambda _, e, s: (v, e) if (v := ends_of(s)) else None,
        ("growth of fee 2010 to 2024",),
        weight=0.15,
    ),
    Rule(
        "MOVED",
        "where|whose|that|which|with E GREW TIME",
        lambda e, g, s: _moved(e, g, s),
        ("where fee fell between 2015 and 2024",),
        weight=0.45,
    ),
    Rule(
        "MOVED",
        "that|which|who GREW E between|from|over|in? TIME",
        lambda g, e, s: _moved(e, g, s),
        ("that lost fee between 2015 and 2024",),
        weight=0.55,
    ),
    *(
        Rule("MOVED", pattern, _those_that_moved, (example,), weight=0.5)
        for pattern, example in (
            ("WHICH C|T GREW E between|from|over|in|during? TIME", "which clinics lost fee since 2024"),
            (
                "C|T saw|had|have|has|experienced the|their|its? E|CNT|T GREW between|from|over|in|during? TIME",
                "clinics saw fee fall between 2024 and 2025",
            ),
            (
                "C|T where|whose E|CNT|Q has|have? GREW between|from|over|in|during? TIME",
                "clinics where fee fell over the last year",
            ),
        )
    ),
    *(
        Rule("MOVED", pattern, lambda *p: _how_many_moved(p), (example,), weight=0.6)
        for pattern, example in (
            (
                "in|for|at|of? COUNT C|T did|has|have|had the|their? E|T GREW between|from|over|in|during? TIME",
                "in how many clinics did fee fall between 2024 and 2025",
            ),
            ("COUNT C|T GREW E|T between|from|over|in|during? TIME", "how many clinics lost fee since 2024"),
        )
    ),
    *(
        Rule(
            "MOVED",
            f"C|T with|having {words} E|T|CNT between|from|over|in|during? TIME",
            lambda *p, s=sign: _those_that_moved(*p, s),
            (f"clinics with {words.split('|')[0]} fee in 2025",),
            weight=0.5,
        )
        for words, sign in ((_RISING, "+"), (_FALLING, "-"))
    ),
    *(
        Rule(
            "MOVED",
            f"C|T with|having {one} E|T and|but {other} E|T between|from|over|in|during? TIME",
            lambda *p, s=signs: _both_moved(s, p),
            (f"clinics with {one.split('|')[0]} fee but {other.split('|')[0]} cost since 2024",),
            weight=0.7,
        )
        for one, other, signs in (
            (_RISING, _FALLING, ("+", "-")),
            (_FALLING, _RISING, ("-", "+")),
            (_RISING, _RISING, ("+", "+")),
            (_FALLING, _FALLING, ("-", "-")),
        )
    ),
    Rule("MRK", "compare|comparing|contrast", lambda: Marker("compared"), ("compare",), weight=-0.2),
    Rule("MRK", ",? compared with|to|against", lambda: Marker("compared"), ("compared with",), weight=0.1),
    *(
        Rule("VERSUS_", pattern, lambda *p: _doing_more(p), (example,), weight=0.6)
        for pattern, example in (
            (f"{_IS} K or K C|T|U? T more|most|less|least often|frequently?", "do dogs or cats visited more often"),
            (
                f"{_IS} K C|T|U? T more|less often|frequently? than K C|T|U|ones|those?",
                "do dogs visited more than cats",
            ),
            (
                f"which|what|who {_IS} T more|most|less|least often|frequently? ,|: K or K",
                "which is visited more, dogs or cats",
            ),
            (
                f"WHICH ,? K or K C|T|U? {_IS}? T more|most|less|least often|frequently?",
                "which dogs or cats visited more often",
            ),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _held_against(p), (example,), weight=0.5)
        for pattern, example in (
            (
                "how do|does|did K and|& K C|T|U? compare in|on|for|by|regarding E|Q",
                "how do dogs and cats compare in fee",
            ),
            ("how do|does|did E|Q of K and|& K C|T|U? compare", "how does fee of dogs and cats compare"),
        )
    ),
    Rule("MRK", "GREW", lambda _: Marker("grew"), ("rose",), weight=-0.25),
    Rule(
        "BESX",
        "HOWMUCH|far have|has|had|did|do|does E GREW|changed|moved",
        lambda *p: (next(v for v in p if isinstance(v, Measured)), Marker("grew")),
        ("how much has the fee risen",),
        weight=0.35,
    ),
    Rule(
        "BESX",
        "HOWMUCH|far have|has|had|did|do|does E GREW|changed|moved between|from TIME",
        lambda *p: (next(v for v in p if isinstance(v, Measured)), ends) if (ends := ends_of(p[-1])) else None,
        ("how much has the fee risen from 2024 to 2025",),
        weight=0.4,
    ),
    Rule("MRK", "changed|developed|evolved|moved", lambda: Marker("grew"), ("changed",), weight=-0.25),
    Rule(
        "MOVED",
        "E GREW TIME",
        lambda e, g, s: _moved(e, g, s) if ends_of(s) else None,
        ("fee fell between 2015 and 2024",),
        weight=-0.1,
    ),
    Rule(
        "MOVED", "where|whose|that|which E GREW", lambda e, g: Moved(e, g == "+", None), ("whose fee fell",), weight=0.2
    ),
    *(
        Rule("MOVED", pattern, lambda *p: _moved_so_far(p), (example,), weight=0.8)
        for pattern, example in (
            (
                f"{_WHOSE} GREW {_BY_SO_MUCH} from|between K to|and K",
                "whose fee fell by more than 20% from 2024 to 2025",
            ),
            (
                f"{_WHOSE} GREW {_BY_SO_MUCH} in? K VERSUS|than|on to|with? K",
                "whose fee fell by over 20% in 2025 vs 2024",
            ),
            (f"{_WHOSE} GREW {_BY_SO_MUCH}", "whose fee rose by more than 10 percent"),
        )
    ),
    *(
        Rule("MOVED", pattern, lambda *p: Moved(None, p[-1] == "+", None), (example,), weight=0.5)
        for pattern, example in (
            ("only|just those|ones|the? T|C? that|which|who GREW", "only those that grew"),
            (", only|just the? T|C that|which|who GREW", ", only the clinics that fell"),
        )
    ),
    Rule(
        "MOVED",
        "that|which|who GREW TIME",
        lambda g, s: _moved(None, g, s),
        ("that fell since 2024",),
        weight=0.0,
    ),
    Rule(
        "MOVED",
        "GREW TIME",
        lambda g, s: _moved(None, g, s) if ends_of(s) else None,
        ("fell from 2024 to 2025",),
        weight=0.0,
    ),
    Rule(
        "MOVED",
        "WHICH C|T GREW between|from|over|in? TIME",
        lambda _, n, g, s: _which_moved(n, g, s),
        ("which clinics rose from 2024 to 2025",),
        weight=0.3,
    ),
    *(
        Rule(
            "VERSUS_",
            f"VERSUS {what} in|of|for|from? K and|with|to|against|, K",
            lambda _, q, a, b: _compared_in(q, a, b),
            (example,),
            weight=weight,
        )
        for what, example, weight in (
            ("E", "compare fee in 2024 and 2025", 0.4),
            ("Q", "compare average fee in 2024 and 2025", 0.4),
            ("CNT", "compare number of visits in 2024 and 2025", 0.55),
            ("T", "compare visits in 2024 and 2025", 0.4),
        )
    ),
    Rule(
        "VERSUS_",
        "VERSUS VS in|of|for|from? K and|with|to|against|, K",
        lambda _, v, a, b: _such_compared(v, a, b),
        ("compare dogs in 2024 and 2025",),
        weight=0.4,
    ),
    *(
        Rule(
            "MOVED",
            f"WHICH C|T had|have|has|did|does|do|with? {word} {what} K than K",
            lambda _, n, q, a, b, u=up: _more_in(n, q, a, b, u),
            (f"which clinics had {word.split('|')[0]} {said} in 2025 than in 2024",),
            weight=0.45,
        )
        for word, up in (("more|higher", True), ("fewer|less|lower", False))
        for what, said in (("T", "visits"), ("E", "fee"))
    ),
    *(
        Rule("VERSUS_", pattern, lambda a, _, b: _versus(a, b), (example,), weight=weight)
        for pattern, example, weight in (
            (
                "more|less|fewer|higher|lower|better|worse|busier|quieter|bigger|larger|smaller|longer|shorter|slower|faster|older|cheaper in|at|on|for|from|with? ,? K OR K",
                "more in 2025 or 2024",
                0.3,
            ),
            (
                "more|less|fewer|higher|lower|better|worse|busier|quieter|bigger|larger|smaller|longer|shorter|slower|faster|older|cheaper ,? K OR K",
                "better, dogs or cats",
                0.3,
            ),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _held_against(p), (example,), weight=0.45)
        for pattern, example in (
            (
                "does|do|did|is|are|was|were K OR K E in? more|most|less|least|better|higher",
                "does France or Spain pay more",
            ),
            (
                "does|do|did|is|are|was|were K or K VERB|W? more|most|less|least|better|worse|higher|bigger|cheaper|busier",
                "are dogs or cats more",
            ),
        )
    ),
    Rule(
        "G",
        "V VERSUS V VERSUS V",
        lambda a, _, b, __, c: each_of(a, b, c),
        ("France vs Spain vs Italy",),
        weight=0.4,
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _held_against(p), (example,), weight=0.3)
        for pattern, example in (
            (f"{_IS} E K C|T? {_MORE} than that|those? K C|T?", "are fees for dogs higher than for cats"),
            ("K E than K", "dogs pay than cats"),
            ("K E for|out|in|up|back than K", "dogs pay out than cats"),
            ("E at|in|for|of|on? K than at|in|for|of|on? K", "fee in 2025 than in 2024"),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _usually_against(p), (example,), weight=0.45)
        for pattern, example in (
            ("K E for|out|in|up|back? on? AGG than K", "dogs pay on average than cats"),
            ("K on? AGG E for|out|in|up|back? than K", "dogs on average pay than cats"),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: ("more", *d) if (d := _doing_more(p)) else None, (example,), weight=0.8)
        for pattern, example in (
            (
                f"how much|many more|fewer|less T {_IS} K C|U? have|had|has|get|got|see|make|made|bring|take? than K C|U?",
                "how many more visits do dogs have than cats",
            ),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _how_much_more(p), (example,), weight=0.4)
        for pattern, example in (
            (
                f"how much RELADJ {_IS} K C|T|U? VERB|W? than K C|T|U|ones|one|those?",
                "how much older are dogs than cats",
            ),
            (
                f"how much|many {_MORE} {_IS} K C|T|U? E than K C|T|U|ones|one|those?",
                "how much more do dogs cost than cats",
            ),
            (
                f"how much|many {_MORE} E {_IS} K C|T|U? VERB? than K C|T|U|ones|one|those?",
                "how much more fee do dogs pay than cats",
            ),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _more_often_so(p), (example,), weight=0.6)
        for pattern, example in (
            (
                f"{_IS} K C|T|U? K|F more|less often|frequently than K C|T|U|ones|those?",
                "were dogs overdue more often than cats",
            ),
            (
                f"{_IS} K C|T|U? more|less likely to be|have|get|been? K|F than K C|T|U|ones|those?",
                "are dogs more likely to be overdue than cats",
            ),
            (
                f"{_IS} K C|T|U? more|less often|frequently|likely K|F than K C|T|U|ones|those?",
                "are dogs more often overdue than cats",
            ),
        )
    ),
    *(
        Rule("BESX", pattern, lambda *p: _more_so_than_the_rest(p), (example,), weight=0.8)
        for likely, said in (("more|less likely|often|inclined|prone to|be|have|get|been?", "more likely to be"),)
        for pattern, example in (
            (f"{_IS} K T? {likely} F|STATE", f"are dogs {said} overdue"),
            (f"{_IS} T HAVING|in|on|from|who|that? K {likely} F|STATE", f"are visits of dogs {said} overdue"),
            (f"{_IS} K T? F|STATE more|less often|frequently|likely?", "are dogs overdue more often"),
            (
                f"{_IS} T HAVING|in|on|from|who|that? K F|STATE more|less often|frequently|likely?",
                "are visits of dogs overdue less",
            ),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _by_what_percentage(p), (example,), weight=0.6)
        for pattern, example in (
            (
                f"by? SHARE {_IS} K C|T|U? AGG? E {_MORE} than K C|T|U|ones|one|those?",
                "what percentage is dogs fee lower than cats",
            ),
            (
                f"by? SHARE {_IS} AGG? E {_MORE} for|in|at|of K C|T|U? than for|in|at|of? K C|T|U?",
                "what percentage is fee lower for dogs than for cats",
            ),
            (
                f"by? SHARE {_IS} K C|T|U? E {_MORE} than K C|T|U|ones|one|those?",
                "what percentage do dogs pay more than cats",
            ),
        )
    ),
    Rule(
        "VERSUS_",
        f"{_IS} K C|T|U? E {_MORE} than K C|T|U|ones|one|those?",
        lambda *p: _held_against(p),
        ("do dogs cost more than cats",),
        weight=0.4,
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: _of_us(p), (example,), weight=0.8)
        for pattern, example in (
            (
                "do|does|did we|you|they|i|people E in|out? more|less on|with|at|in|from|for|to|by? K T? than|or on|with|at|in|from|for|to|by? K T?",
                "did we pay more on dogs than on cats",
            ),
            (
                "what|which do|does|did we|you|they|i|people E in|out? more|most|less|least on|with|at|in|from|for? , K or|and K",
                "what did we pay more on, dogs or cats",
            ),
        )
    ),
    *(
        Rule("VERSUS_", pattern, lambda *p: held_on_average(p), (example,), weight=0.4)
        for pattern, example in (
            (f"{_IS} K C|T|U? RELADJ than K C|T|U|ones|one|those?", "are dogs older than cats"),
            (f"{_IS} K C|T|U? VERB|W RELADJ than K C|T|U|ones|one|those?", "do dogs live longer than cats"),
            (f"{_IS} K C|T|U? HAVING a? {_MORE} E than K C|T|U|ones|one|those?", "do dogs have a higher fee than cats"),
            (f"{_IS} K C|T|U? E {_MORE} E than K C|T|U|ones|one|those?", "do dogs pay a higher fee than cats"),
            (
                f"{_IS} E {_MORE} in|at|for|on|of K C|T|U? than K C|T|U|ones|one|those?",
                "is fee higher for dogs than cats",
            ),
        )
    ),
    *(
        Rule("Q", pattern, sums("-"), (example,), weight=0.35)
        for pattern, example in (
            (f"how much|many {_MORE} E {_IS}? than E", "how much more profit than fee"),
            (f"how much {_MORE} {_IS} E than E", "how much higher was profit than fee"),
        )
    ),
    Rule(
        "VERSUS_",
        "VERSUS E|T in|of|for? K and|with|to|against K",
        lambda _, q, a, b: _same_months(q, a, b),
        ("compare fee in q1 2025 and of 2024",),
        weight=0.5,
    ),
    Rule("VERSUS_", "K next to K", lambda a, b: _versus(a, b), ("2025 next to 2024",), weight=0.15),
    Rule("VERSUS_", "VERSUS K , K", lambda _, a, b: _versus(a, b), ("compare 2025, 2024",), weight=0.1),
    Rule(
        "VERSUS_",
        "TIME VERSUS same period|time|months|month|dates|days|stretch|quarter|week last|previous|prior year",
        lambda s, _: _year_on(s),
        ("this year vs the same period last year",),
        weight=0.4,
    ),
    Rule(
        "VERSUS_",
        "TIME VERSUS same period|time|months|month|dates|days|stretch|quarter|week a|one|the year before|earlier|ago",
        lambda s, _: _year_on(s),
        ("2025 vs the same period a year before",),
        weight=0.4,
    ),
    Rule("MORE", "INCREASE", lambda _: "change", ("how much more",)),
    Rule("MORE", "DIFF", lambda _: "change", ("difference",)),
    Rule(
        "MORE", "rise|fall|drop|growth|decline|decrease|jump|increase in|of", lambda: "change", ("rise in",), weight=0.5
    ),
)
