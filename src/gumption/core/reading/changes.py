"""What a follow-up does to the question before as a whole: conditions dropped, time moved, order turned about."""

from __future__ import annotations

import calendar
import dataclasses
import datetime as dt
from collections.abc import Callable

from gumption.core.model.types import Role, Type
from gumption.core.reading import meaning as m
from gumption.core.reading.besides import with_their_counts
from gumption.core.reading.pieces import Changed, Counted, Measured, Noun, Shifted, Worked
from gumption.core.reading.schema import Nouns
from gumption.core.reading.times import MONTHS_IN, UNITS, months_later


def is_time(condition: m.Condition) -> bool:
    """True for a condition on when things happened, the last time there is among them."""
    last = isinstance(condition, m.Compared) and isinstance(condition.left, m.EventTime)
    return last or isinstance(condition, (m.Within, m.PartIs))


def changed(
    ask: m.Ask, change: Changed, nouns: Nouns, *, each: bool = False, before: m.Ask | None = None
) -> m.Ask | None:
    """The question with one thing done to it, `before` the one before it; None where there is nothing to do it to."""
    match change.kind:
        case "between":
            apart = _of_two_groups(ask)
            return apart if apart is not None or before is None else _between_the_two(ask, before)
        case "beside":
            return _beside(ask, change.condition)
        case "earlier":
            return _beside_earlier(ask, change.unit)
        case "every row":
            return _or_none(ask, ask.but(where=(), having=(), limit=None, skip=0))
        case "last":
            if ask.having:
                return ask.but(having=ask.having[:-1])
            return ask.but(where=ask.where[:-1]) if ask.where else None
        case "any time":
            return _without(ask, is_time)
        case "ungrouped":
            return _ungrouped(ask) if ask.groups else None
        case "unsorted":
            return ask.but(order=(), then=()) if ask.order or ask.then else None
        case "by name":
            return _by_name(ask, nouns)
        case "unlimited":
            return ask.but(limit=None, skip=0, per=0) if ask.limit is not None else ask
        case "reversed":
            return _reversed(ask)
        case "negated":
            return _negated(ask)
        case "plain":
            return _plain(ask)
        case "count of each":
            return _count_of_each(ask, nouns)
        case "count":
            counted = nouns.counted(ask.head)
            order = tuple(m.Order(counted, o.descending) for o in ask.order if o.by in ask.quantities)
            return ask.but(quantities=(counted,), shows=(), order=order)
        case "drop":
            return _dropped(ask, change.noun)
        case "all of":
            return _all_of(ask, change.noun, nouns, each=each)
        case "back in":
            return _back_in(ask, change)
        case "number":
            return _with_number(ask, change.number or 0.0)
        case "limit":
            return ask.but(limit=int(change.number or 1), skip=0) if ask.groups or ask.lists else None
        case "share":
            made = tuple(m.Along(q, "share") if not isinstance(q, m.Along) else q for q in ask.quantities)
            return ask.but(quantities=made) if ask.groups and made else None
        case "rows":
            return None
        case "known":
            gaps = tuple(m.Not(m.Missing(g.key)) for g in ask.groups if isinstance(g, m.Col))
            return _or_none(ask, ask.but(where=(*ask.where, *(c for c in gaps if c not in ask.where))))
        case "next":
            return _next(ask, change.number)
        case "place":
            if not ask.order and not (ask.groups and ask.quantities):
                return None
            order = ask.order or (m.Order(ask.quantities[0]),)
            return ask.but(order=order, limit=1, skip=int(change.number or 1) - 1)
        case "half":
            return _half(ask, int(change.number or 0))
        case "whole year":
            return _spans(ask, lambda low, _: (low.replace(month=1, day=1), low.replace(month=12, day=31)))
        case "over":
            return _over(ask, change, nouns)
        case "also":
            return _also(ask, change)
        case "against average":
            return _against_average(ask, change, nouns)
        case "moved":
            return _moved_that_way(ask, change)
        case "undo" | "reset":
            return None


def _or_none(before: m.Ask, after: m.Ask) -> m.Ask | None:
    return after if after != before else None


def _without(ask: m.Ask, drops: Callable[[m.Condition], bool]) -> m.Ask | None:
    """The question without some of its conditions."""
    return _or_none(ask, ask.but(where=tuple(c for c in ask.where if not drops(c))))


def _ungrouped(ask: m.Ask) -> m.Ask:
    plain = _plain(ask) or ask
    return plain.but(groups=(), shows=(), having=(), order=(), then=(), limit=None, skip=0, per=0, across=False)


def _by_name(ask: m.Ask, nouns: Nouns) -> m.Ask | None:
    """In the order of names; of those that a limit has left, these alone."""
    names = [s for s in ask.shows if isinstance(s, m.Col) and nouns.column(s.key).role is Role.NAME]
    name = next(iter((*names, *ask.groups)), None) if ask.groups else nouns.naming(ask.head) if ask.lists else None
    if name is None:
        return None
    order = (m.Order(name, False),)
    return ask.but(then=order) if ask.limit is not None and ask.order else ask.but(order=order)


def _reversed(ask: m.Ask) -> m.Ask | None:
    if ask.order:
        return ask.but(order=tuple(dataclasses.replace(o, descending=not o.descending) for o in ask.order))
    if ask.groups and ask.quantities:
        timed = any(isinstance(g, m.PartOf) for g in ask.groups)
        return ask.but(order=(m.Order(ask.groups[0] if timed else ask.quantities[0], timed),))
    return None


def _negated(ask: m.Ask) -> m.Ask | None:
    """Those that do not: of the last condition that says no time."""
    place = next((i for i in reversed(range(len(ask.where))) if not is_time(ask.where[i])), None)
    if place is None:
        return None
    new = m.turned(ask.where[place])
    return ask.but(where=(*ask.where[:place], new, *ask.where[place + 1 :]))


def _plain(ask: m.Ask) -> m.Ask | None:
    """Numbers again, where they stood as shares, changes or running totals."""
    quantities = []
    for quantity in ask.quantities:
        match quantity:
            case m.Along(quantity=inner):
                quantities.append(inner)
            case m.ShareOf(condition=condition, table=table, expr=None) if table is not None:
                quantities.append(m.Aggregated("count", table=table, where=condition))
            case _:
                quantities.append(quantity)
    new = tuple(dict.fromkeys(quantities))
    order = tuple(dataclasses.replace(o, by=o.by.quantity) if isinstance(o.by, m.Along) else o for o in ask.order)
    return _or_none(ask, ask.but(quantities=new, order=order))


def _is_of(node: object, noun: Noun) -> bool:
    """True for what reads the column of a noun, or any of its table's where it is a table."""
    keys = m.columns_in(node, nested=True)
    if noun.key is not None:
        return noun.key in keys
    return noun.table is not None and any(k.table == noun.table for k in keys)


def _dropped(ask: m.Ask, noun: Noun | None) -> m.Ask | None:
    if noun is None:
        return None
    groups = tuple(g for g in ask.groups if not _is_of(g, noun))
    if len(groups) < len(ask.groups):
        return ask.but(groups=groups, per=0, across=False) if groups else _ungrouped(ask)
    shows = tuple(s for s in ask.shows if not _is_of(s, noun))
    if len(shows) < len(ask.shows):
        return ask.but(shows=shows)
    counts = {q for q in ask.quantities if noun.table is not None and m.counted_in((q,)) == [noun.table]}
    gone = counts or {q for q in ask.quantities if _is_of(q, noun)}
    quantities = tuple(q for q in ask.quantities if q not in gone)
    if quantities and gone:
        return ask.but(quantities=quantities, order=tuple(o for o in ask.order if o.by not in gone))
    having = tuple(h for h in ask.having if not _is_of(h, noun))
    where = tuple(c for c in ask.where if not _is_of(c, noun))
    return _or_none(ask, ask.but(where=where, having=having))


def _all_of(ask: m.Ask, noun: Noun | None, nouns: Nouns, *, each: bool) -> m.Ask | None:
    """All species: what was said of species does not hold any more; for each where that is said."""
    if noun is None:
        return None
    free = _without(ask, lambda c: _is_of(c, noun))
    group = nouns.group(noun)
    if free is None:
        # All species together, of what was told for each: once over all.
        return _dropped(ask, noun) if group in ask.groups else None
    if each and group is not None and group not in free.groups and free.quantities:
        return free.but(groups=(*free.groups, group))
    return free


def _back_in(ask: m.Ask, change: Changed) -> m.Ask | None:
    """Values that were left out, or not among those that were taken."""
    values = change.values
    if values is None:
        return None
    where: list[m.Condition] = []
    done = False
    for c in ask.where:
        match c:
            case m.Not(item=m.Is(column=column, values=out)) if column == values.column and set(out) & set(
                values.values
            ):
                left = tuple(v for v in out if v not in values.values)
                if left:
                    where.append(m.Not(m.Is(column, left)))
                done = True
            case m.Is(column=column, values=held) if column == values.column:
                where.append(m.Is(column, tuple(dict.fromkeys((*held, *values.values)))))
                done = True
            case _:
                where.append(c)
    return ask.but(where=tuple(where)) if done else None


def _count_of_each(ask: m.Ask, nouns: Nouns) -> m.Ask | None:
    """How many there are of each of what is listed: of what it was chosen by, of each value asked for, of each kind."""
    counted = nouns.counted(ask.head)
    if not ask.lists:
        return _with_numbers(ask, counted, nouns) if ask.groups else None
    told = with_their_counts(ask, nouns.catalogue, all_of_them=True)
    if any(isinstance(s, m.Below) for s in told.shows):
        return told
    held = [c.left for c in ask.where if isinstance(c, m.Compared) and isinstance(c.left, m.Col)]
    held += [s for s in ask.shows if isinstance(s, m.Col) and nouns.column(s.key).type.is_number]
    if held:
        return ask.but(shows=tuple(dict.fromkeys((*ask.shows, *held))))
    kinds = [m.Col(c.column) for c in ask.where if isinstance(c, m.Is) and len(c.values) > 1]
    kinds += [s for s in ask.shows if isinstance(s, m.Col) and nouns.column(s.key).role is Role.CATEGORY]
    return m.Ask(ask.head, ask.where, (counted,), (kinds[0],)) if kinds else None


def _with_numbers(ask: m.Ask, counted: m.Quantity, nouns: Nouns) -> m.Ask:
    """The same groups with how many there are of each; kegs that were added up are such a number already."""
    for told in ask.quantities:
        match told:
            case m.Aggregated(function="count" | "distinct"):
                return ask
            case m.Aggregated(function="sum", expr=m.Col(key=key)) if nouns.column(key).role is Role.QUANTITY:
                return ask
            case _:
                pass
    return ask.but(quantities=(*ask.quantities, counted))


def _with_number(ask: m.Ask, number: float) -> m.Ask | None:
    """Another number where one was said: of the last comparison, or how many are shown."""
    for place in reversed(range(len(ask.having))):
        if isinstance(ask.having[place].right, m.Number):
            new = dataclasses.replace(ask.having[place], right=m.Number(number))
            return ask.but(having=(*ask.having[:place], new, *ask.having[place + 1 :]))
    for place in reversed(range(len(ask.where))):
        old = ask.where[place]
        told: m.Condition | None = None
        match old:
            case m.Compared(right=m.Number()):
                told = dataclasses.replace(old, right=m.Number(number))
            case m.Has(number=held) if held > 1 or old.op != ">=":
                told = dataclasses.replace(old, number=int(number))
            case _:
                pass
        if told is not None:
            return ask.but(where=(*ask.where[:place], told, *ask.where[place + 1 :]))
    return ask.but(limit=int(number)) if ask.limit is not None and number >= 1 else None


def _next(ask: m.Ask, number: float | None) -> m.Ask | None:
    if ask.limit is None and (after := _after_its_days(ask)) is not None:
        return after.but(limit=int(number or 1))
    if ask.limit is None or ask.per:
        return None
    return ask.but(skip=ask.skip + ask.limit, limit=int(number or ask.limit))


def _after_its_days(ask: m.Ask) -> m.Ask | None:
    """The rows that come after a day or a period, soonest first."""
    days = [c for c in ask.where if isinstance(c, m.Within) and c.high is not None]
    if not ask.lists or len(days) != 1:
        return None
    (told,) = days
    assert told.high is not None
    later = dataclasses.replace(told, low=told.high + dt.timedelta(days=1), high=None)
    return ask.but(where=tuple(later if c == told else c for c in ask.where), order=(m.Order(told.time, False),))


def _spans(ask: m.Ask, move: Callable[[dt.date, dt.date], tuple[dt.date, dt.date] | None]) -> m.Ask | None:
    """The question about another span of time, where it is about one."""
    spans = list(
        dict.fromkeys(p for p in m.parts(ask) if isinstance(p, m.Within) and p.low is not None and p.high is not None)
    )
    if len(spans) != 1:
        return None
    old = spans[0]
    assert old.low is not None and old.high is not None
    new = move(old.low, old.high)
    return m.replaced(ask, {old: m.Within(old.time, *new)}) if new is not None else None  # type: ignore[return-value]


def shifted(ask: m.Ask, shift: Shifted) -> m.Ask | None:
    """The same so many units later, or earlier below nought; each of two spans that are compared."""
    months = MONTHS_IN.get(shift.unit, 0) * shift.count
    days = 0 if months else UNITS.get(shift.unit, 0) * shift.count
    if not months and not days:
        return None

    def moved(low: dt.date, high: dt.date) -> tuple[dt.date, dt.date]:
        if days:
            step = dt.timedelta(days=days)
            return low + step, high + step
        whole = low.day == 1 and (high + dt.timedelta(days=1)).day == 1
        first = _months_on(low, months)
        if whole:
            return first, months_later(high.replace(day=1), months + 1) - dt.timedelta(days=1)
        return first, _months_on(high, months)

    spans = {p for p in m.parts(ask) if isinstance(p, m.Within) and p.low is not None and p.high is not None}
    named = {p for p in m.parts(ask) if isinstance(p, m.PartIs) and p.unit == shift.unit and len(p.numbers) == 1}
    if not spans and len(named) == 1 and shift.unit in ("month", "quarter"):
        # The month before May is April, of whichever year.
        part, most = next(iter(named)), 12 if shift.unit == "month" else 4
        step = (part.numbers[0] - 1 + shift.count) % most + 1
        return m.replaced(ask, {part: dataclasses.replace(part, numbers=(step,))})  # type: ignore[return-value]
    if not spans or len(spans) > 2:
        return None
    new: dict[object, object] = {}
    for span in spans:
        assert span.low is not None and span.high is not None
        low, high = moved(span.low, span.high)
        if shift.unit in MONTHS_IN and len(spans) == 1 and _length(span) > MONTHS_IN[shift.unit] * 31 + 1:
            # The next quarter of a year is no year.
            return None
        new[span] = m.Within(span.time, low, high)
    return m.replaced(ask, new)  # type: ignore[return-value]


def _length(span: m.Within) -> int:
    assert span.low is not None and span.high is not None
    return (span.high - span.low).days + 1


def _months_on(day: dt.date, months: int) -> dt.date:
    first = months_later(day.replace(day=1), months)
    return first.replace(day=min(day.day, calendar.monthrange(first.year, first.month)[1]))


def _half(ask: m.Ask, half: int) -> m.Ask | None:
    """A half of the year that was asked about; the other one where 0."""

    def moved(low: dt.date, high: dt.date) -> tuple[dt.date, dt.date] | None:
        if low.year != high.year:
            return None
        wanted = half or (2 if low.month <= 6 else 1)
        year = low.year
        return (
            (dt.date(year, 1, 1), dt.date(year, 6, 30)) if wanted == 1 else (dt.date(year, 7, 1), dt.date(year, 12, 31))
        )

    return _spans(ask, moved)


def _over(ask: m.Ask, change: Changed, nouns: Nouns) -> m.Ask | None:
    if not ask.quantities:
        return None
    match change.by:
        case Measured(expr=expr):
            by: m.Quantity = nouns.aggregate(expr)
            if isinstance(expr, m.Below) and expr.quantity.expr is None and expr.quantity.table is not None:
                by = nouns.counted(expr.quantity.table)
        case Worked(quantity=quantity):
            by = quantity
        case Counted(noun=Noun(table=str(table))):
            by = nouns.counted(table)
        case _:
            return None
    first = ask.quantities[0]
    if isinstance(first, m.Along):
        first = first.quantity
    if first == by and len(ask.quantities) > 1:
        first = ask.quantities[1]
    if first == by:
        # Per clinic, of clinic sessions counted, is for each clinic.
        return None
    return ask.but(quantities=(m.Combined("/", first, by),), order=(), limit=None)


def _also(ask: m.Ask, change: Changed) -> m.Ask | None:
    """Further aggregates of what is worked out."""
    first = next((q for q in ask.quantities if isinstance(q, m.Aggregated) and q.expr is not None), None)
    if first is None:
        return None
    further = [
        dataclasses.replace(first, function=f.function, percent=f.percent)  # type: ignore[arg-type]
        for f in change.functions
    ]
    return ask.but(quantities=tuple(dict.fromkeys((*ask.quantities, *further))))


def _against_average(ask: m.Ask, change: Changed, nouns: Nouns) -> m.Ask | None:
    op = change.op or ">"
    if ask.groups and ask.quantities:
        first = ask.quantities[0]
        if not isinstance(first, (m.Aggregated, m.Combined, m.ShareOf)):
            return None
        return ask.but(having=(*ask.having, m.over_average(first, op, ask.groups[0])))
    expr = ask.order[0].by if ask.order and isinstance(ask.order[0].by, m.EXPRESSIONS) else None
    expr = expr or next((s for s in ask.shows if isinstance(s, m.Col) and _is_number(s, nouns)), None)
    expr = expr or nouns.main_measure(ask.head)
    if not ask.lists or expr is None:
        return None
    return ask.but(where=(*ask.where, m.Compared(op, expr, m.Aggregated("mean", expr))))


def _is_number(column: m.Col, nouns: Nouns) -> bool:
    return nouns.column(column.key).is_measure and nouns.column(column.key).type is not Type.TEXT


def _moved_that_way(ask: m.Ask, change: Changed) -> m.Ask | None:
    """Those of which a change that is shown is up, or down."""
    moved = next((q for q in ask.quantities if isinstance(q, m.Between)), None)
    if moved is None or change.op is None:
        return None
    return ask.but(having=(*ask.having, m.Having(moved, change.op, m.Number(0.0))))


def _between_the_two(ask: m.Ask, before: m.Ask) -> m.Ask | None:
    """The last two questions, which differ in one condition, held against each other."""
    gone = [c for c in before.where if c not in ask.where]
    come = [c for c in ask.where if c not in before.where]
    if len(gone) != 1 or len(come) != 1 or (ask.quantities, ask.groups) != (before.quantities, before.groups):
        return None
    return _held_against(ask.but(where=tuple(c for c in ask.where if c not in come)), gone[0], come[0])


def _of_two_groups(ask: m.Ask) -> m.Ask | None:
    """Two values that stand one below the other, held against each other."""
    for told in ask.where:
        match told:
            case m.Is(column=column, values=(one, two)) if m.Col(column) in ask.groups and ask.quantities:
                later, base = m.Is(column, (one,)), m.Is(column, (two,))
                plain = [q for q in ask.quantities if isinstance(q, (m.Aggregated, m.ShareOf, m.Combined))]
                held = [m.Between(q, base, str(two), later, str(one)) for q in plain]
                shown = [x for b in held for x in (m.under(b.quantity, later), m.under(b.quantity, base), b)]
                groups = tuple(g for g in ask.groups if g != m.Col(column))
                where = tuple(c for c in ask.where if c != told)
                return ask.but(quantities=tuple(shown), groups=groups, where=where, order=(), limit=None)
            case _:
                pass
    return None


def _beside(ask: m.Ask, new: m.Condition | None) -> m.Ask | None:
    """The question beside another value or time of what it is about."""
    for old in ask.where:
        times = isinstance(old, m.Within) and isinstance(new, m.Within)
        parts = isinstance(old, m.PartIs) and isinstance(new, m.PartIs) and old.unit == new.unit
        values = isinstance(old, m.Is) and isinstance(new, m.Is) and old.column == new.column
        if (times or values or parts) and new != old:
            if isinstance(old, (m.Within, m.PartIs)) and isinstance(new, (m.Within, m.PartIs)):
                new = dataclasses.replace(new, time=old.time)
            assert new is not None
            return _held_against(ask.but(where=tuple(c for c in ask.where if c != old)), old, new)
    return None


def _beside_earlier(ask: m.Ask, unit: str) -> m.Ask | None:
    """The question beside the same one unit of time before."""
    earlier = shifted(ask, Shifted(unit, -1))
    times = [c for c in ask.where if isinstance(c, (m.Within, m.PartIs))]
    if earlier is None or len(times) != 1:
        return None
    before = next(c for c, old in zip(earlier.where, ask.where, strict=True) if old == times[0])
    return _held_against(ask.but(where=tuple(c for c in ask.where if c != times[0])), times[0], before)


def _begins(time: m.Within | m.PartIs) -> int | None:
    """When a time begins, as a number that orders it among others of its kind."""
    if isinstance(time, m.PartIs):
        return time.numbers[0] if len(time.numbers) == 1 else None
    return time.low.toordinal() if time.low is not None else None


def _held_against(ask: m.Ask, one: m.Condition, two: m.Condition) -> m.Ask | None:
    """Two values each by itself; of two times what changed from the earlier to the later."""
    match one, two:
        case m.Is(column=column, values=first), m.Is(column=other, values=second) if column == other:
            group = m.Col(column)
            groups = ask.groups if group in ask.groups else (*ask.groups, group)
            both = m.Is(column, tuple(dict.fromkeys((*first, *second))))
            return ask.but(where=(*ask.where, both), groups=groups, limit=None)
        case ((m.Within() | m.PartIs()), (m.Within() | m.PartIs())):
            low, after = _begins(one), _begins(two)
            if low is None or after is None or not ask.quantities:
                return None
            base, later = (one, two) if low <= after else (two, one)
            made = tuple(
                m.Between(q, base, "before", later, "after")
                for q in ask.quantities
                if isinstance(q, (m.Aggregated, m.ShareOf, m.Combined))
            )
            shown = [x for b in made for x in (m.under(b.quantity, base), m.under(b.quantity, later), b)]
            return (
                ask.but(quantities=tuple(shown), groups=tuple(m.of_any_year(g) for g in ask.groups)) if made else None
            )
        case _:
            return None
