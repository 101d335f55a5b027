"""Facts of the data for and against a meaning, known before anything is worked."""

from __future__ import annotations

import dataclasses
import itertools
from collections.abc import Sequence

from gumption.core.model.catalogue import Column
from gumption.core.model.types import Role, Type
from gumption.core.reading import meaning as m
from gumption.core.reading.assemble import Candidate
from gumption.core.reading.batteries import is_of_ratings
from gumption.core.reading.derived import KINDS
from gumption.core.reading.flow import event_time, is_of_other_rows, lowest_table
from gumption.core.reading.judgement import ranked_score
from gumption.core.reading.schema import Nouns, tables_of
from gumption.core.reading.vocabulary import is_yearly, said_yes


def weighed(candidate: Candidate, nouns: Nouns) -> Candidate:
    """The candidate with what the data say of it."""
    features = dict(candidate.features)
    for name, amount in _facts(candidate.ask, nouns):
        features[name] = features.get(name, 0.0) - amount
    return dataclasses.replace(candidate, features=tuple(features.items()), score=ranked_score(features.items()))


def _is_beyond(op: str, value: float, low: float, high: float) -> bool:
    """True where a comparison leaves all of a column's values or none."""
    match op:
        case ">":
            return not low <= value < high
        case "<":
            return not low < value <= high
        case _:
            return not low <= value <= high


def _never_both(where: Sequence[m.Condition]) -> bool:
    """True where the same day of a row would have to lie in two spans that share none."""
    spans = [c for c in where if isinstance(c, m.Within) and isinstance(c.time, m.Col)]
    return any(
        one.time == other.time and (_ends_before(one, other) or _ends_before(other, one))
        for one, other in itertools.combinations(spans, 2)
    )


def _ends_before(one: m.Within, other: m.Within) -> bool:
    return one.high is not None and other.low is not None and one.high < other.low


def _shared_for_one(ask: m.Ask, nouns: Nouns) -> bool:
    """True for a meaning over what several tables share that takes only one of these."""
    shared = nouns.vocabulary.shared
    if not shared:
        return False
    taken = {*m.tables_in(ask), ask.head}
    without = ask.head in shared and any(
        (isinstance(p, m.Not) and isinstance(p.item, m.Has)) or (isinstance(p, m.Has) and (p.op, p.number) == ("=", 0))
        for p in m.parts(ask.where)
    )
    return bool(taken & shared) and len(taken - shared) < 2 and not without


def _is_one_each(quantity: object, group: m.ColumnKey, nouns: Nouns) -> bool:
    """True for how many different values there are of a column that says one thing of each group."""
    match quantity:
        case m.Aggregated(function="distinct", expr=m.Col(key=key)) if key != group and nouns.names_rows(group):
            return key.table == group.table or nouns.catalogue.path(group.table, key.table) is not None
        case _:
            return False


def _are_several(held: m.Having, group: m.ColumnKey, nouns: Nouns) -> bool:
    """True where more than one of something is asked of what has just one of it each."""
    match held:
        case m.Having(quantity=quantity, op=">" | ">=" as op, right=m.Number(value=number)):
            if number + (op == ">") <= 1:
                return False
            above = quantity.table if isinstance(quantity, m.Aggregated) and quantity.function == "count" else None
            return _is_one_each(quantity, group, nouns) or (
                above is not None and nouns.names_rows(group) and _are_above(above, group.table, nouns)
            )
        case _:
            return False


def _denies_a_time(condition: m.Condition) -> bool:
    return isinstance(condition, m.Not) and isinstance(condition.item, (m.Within, m.PartIs))


_PERIODS = {"week": 7, "month": 28, "quarter": 90, "year": 365}
"""How many days a period has at least."""


def _is_one_period(condition: m.Condition, groups: tuple[m.Expr, ...]) -> bool:
    """True for a time that is shorter than the periods by which it is asked."""
    match condition:
        case m.Within(time=time, low=low, high=high) if low is not None and high is not None:
            days = (high - low).days + 1
            return any(isinstance(g, m.PartOf) and g.of == time and days < _PERIODS.get(g.unit, 0) for g in groups)
        case _:
            return False


def _are_above(table: str, below: str, nouns: Nouns) -> bool:
    """True for what a row of the other table belongs to one of."""
    path = nouns.catalogue.path
    return table != below and path(below, table) is not None and path(table, below) is None


_SCALES = {1e3: "thousand", 1e6: "million", 1e9: "billion"}


def _has_noughts(column: Column) -> bool:
    """True for what is added up and comes to nought at least."""
    return column.role.is_summed and column.type.is_number and column.low is not None and float(column.low) == 0


def _facts(ask: m.Ask, nouns: Nouns) -> list[tuple[str, float]]:
    found: list[tuple[str, float]] = []
    denied = {p.item for p in m.parts((ask.where, ask.quantities)) if isinstance(p, m.Not)}
    # Where a value is counted once for each row that tells of another, all rows may tell of it.
    given = {x for p in m.parts(ask.quantities) if isinstance(p, m.Given) for x in m.parts(p.condition)}
    for part in m.parts((ask.where, ask.quantities)):
        match part:
            case m.Compared(left=left, right=right) if left == right:
                found.append(("held against itself", 3.0))
            case m.Compared(left=m.Below(), right=m.Col(key=key)) if key.table == ask.head in nouns.vocabulary.roles:
                # People who earn more than their managers are those whose managers are looked at, and no managers.
                found.append(("those who play a part", 0.6))
            case m.Compared(left=m.Col(key=key), right=right) if any(
                isinstance(b, m.Below) and b.key.table == key.table and nouns.names_rows(b.key) for b in m.parts(right)
            ):
                # What a visit costs is not held against the average of that one visit.
                found.append(("held against itself", 3.0))
            case m.Compared(left=m.Arithmetic() as left, right=m.Col(key=key)) if key in m.columns_in(left):
                # What so many come to is not held against how many they are.
                found.append(("held against itself", 3.0))
            case m.Compared(left=m.Col(key=one), right=m.Col(key=other)) if (
                nouns.column(one).is_measure != nouns.column(other).is_measure
            ):
                # Income from sessions is not at least as high as the number of a session.
                found.append(("held against no measure", 1.0))
            case m.Compared(op=op, left=m.Col(key=key), right=m.Number(value=value)):
                column = nouns.column(key)
                if column.type is Type.TEXT:
                    found.append(("a number in text", 1.5))
                if column.low is not None and column.high is not None and column.type.is_number:
                    low, high = float(column.low), float(column.high)
                    # Nothing is out of stock where the lowest is above nought: that answers, and is no slip.
                    if _is_beyond(op, value, low, high) and (op, value) != ("=", 0):
                        # Rents over 1 are all of them: another one is meant.
                        all_of_them = low > 1 and op in (">", ">=") and 1 <= value <= 3
                        found.append(("number beyond the column", 0.8 if all_of_them else 0.35))
                if column.role is Role.CODE and op != "=" and not is_yearly(column):
                    found.append(("more of a code", 0.4))
                if column.type is Type.INTEGER and not float(value).is_integer():
                    found.append(("broken number of whole ones", 0.2))
            case m.Combined(op="/", left=m.Aggregated(expr=m.Col(key=key)), right=m.Number(value=scale)) if (
                scale in _SCALES
                and _SCALES[scale] in f"{key.column} {nouns.column(key).unit} {nouns.column(key).description}".lower()
            ):
                # What stands in billions is told in billions as it is.
                found.append(("in thousands already", 3.0))
            case m.Aggregated(function="distinct", expr=m.Col(key=key)) if any(
                isinstance(c, m.Is) and c.column == key and len(c.values) == 1 for c in ask.where
            ):
                # Of one grade there is one grade: whoever got the most has most rows of it.
                found.append(("different ones of one", 1.5))
            case m.Aggregated(function="distinct", expr=m.Col(key=key)) if said_yes(nouns.column(key)) is not None:
                # How many have it asks for those of whom it is said, and not for how many answers there are.
                found.append(("different ones of one", 1.5))
            case m.Aggregated(function=function, expr=m.Col(key=key)):
                column = nouns.column(key)
                if function == "sum" and not column.role.is_summed:
                    found.append(("sum of what is not added up", 0.45))
                if not column.type.is_number and function in ("sum", "mean", "median", "deviation"):
                    found.append(("no number", 2.0))
            case m.Not(item=m.Missing(column=key)) | m.Missing(column=key) if (
                not nouns.column(key).missing and part not in given
            ):
                here = key.table == ask.head
                # Ratings that nobody gave stand in a table of their own.
                never = nouns.names_rows(key) or is_of_ratings(nouns.catalogue, key.table)
                found.append(("a gap where there is none", (2.2 if here else 1.2) if never else 0.8))
            case m.Missing(column=key) if part not in denied and _has_noughts(nouns.column(key)):
                # Days with no sales are those of nought, where there are such, and not those of which nothing is known.
                found.append(("a gap where there are noughts", 0.2))
            case m.Is(column=key, values=values) if (
                len(values) > 1 and len(set(values)) >= nouns.column(key).distinct and m.Col(key) not in ask.groups
            ):
                # How many men and women there are asks for each of them.
                found.append(("a condition that leaves nothing out", 0.4))
            case m.Is(column=key, values=values):
                if nouns.column(key).role is Role.TEXT and len(values) > 3:
                    found.append(("part of free text", 0.2))
            case m.Among(column=key, ask=m.Ask(having=held)) if any(_are_several(h, key, nouns) for h in held):
                # Candidates apply for more than one vacancy, and an application is for one.
                found.append(("several of what each has one of", 2.0))
            case _:
                pass
    for having in ask.having:
        match having:
            case m.Having(
                quantity=m.Aggregated(function="sum", expr=m.Col(key=key)), op=">" | ">=", right=m.Number(value=value)
            ) if (
                nouns.column(key).type.is_number
                and (least := nouns.column(key).low) is not None
                and value < float(least)
            ):
                found.append(("a total over what each is", 0.5))
            case m.Having(
                quantity=m.Aggregated(function="count", table=str(table), where=()), op="=", right=m.Number(value=0.0)
            ) if {*tables_of(ask.groups)} == {table}:
                # Of what stands in the rows of a table there is always a row.
                found.append(("none of what is grouped", 1.0))
            case m.Having(quantity=m.Aggregated(function="count"), right=m.Aggregated(expr=m.Col(key=key))) if (
                nouns.column(key).role is Role.MONEY
            ):
                # How many payments there are is no more and no less than money.
                found.append(("a count held against money", 1.5))
            case m.Having(quantity=m.Aggregated(where=(m.Is(column=key),))) if m.Col(key) in ask.groups:
                # Each value has rows of itself and none of any other.
                found.append(("a value told by itself", 2.0))
            case _:
                pass
    for has in (p for p in m.parts(ask) if isinstance(p, m.Has)):
        if any(set(tables_of(c)) == {ask.head} for c in has.rows.where if isinstance(c, m.Within)):
            # Sites that started then did so by themselves, and not by what happened at them.
            found.append(("of itself by rows below", 0.6))
        if has.number > max(nouns.catalogue.table(has.rows.table).rows, 1):
            # No district has a hundred thousand rows in a table of two hundred.
            found.append(("more rows than there are", 0.8))
        elif nouns.catalogue.path(ask.head, has.rows.table) and not nouns.catalogue.path(has.rows.table, ask.head):
            # What a row belongs to is there once: what happened to it is asked for rather.
            several = has.op in (">", ">=") and has.number + (has.op == ">") > 1
            found.append(("rows above as if below", 0.8 if several else 0.15))
    for condition in ask.where:
        states = [k.table for k in m.columns_in((condition,)) if nouns.catalogue.path(ask.head, k.table) is None]
        if states and isinstance(condition, (m.Missing, m.Not)):
            # Copies not lent since then are those of no such loan, and not of some loan before.
            found.append(("a gap in other rows", 0.6 if _denies_a_time(condition) else 0.25))
    given = {c.column for c in ask.where if isinstance(c, m.Is) and len(c.values) == 1}
    if any(isinstance(g, m.Col) and g.key in given for g in ask.groups) and not ask.quantities:
        # Crashes in the mobile component are no component.
        found.append(("lists what is given", 0.8))
    heads = {m.Col(k) for k in nouns.vocabulary.weights.values()}
    for share in (q for q in m.parts(ask.quantities) if isinstance(q, m.ShareOf)):
        if any(isinstance(c, m.Compared) and c.left in heads for c in m.parts(share.condition)):
            # The share of people over 65 is of their ages, and not of the rows that tell of more than 65 people.
            found.append(("a share of rows of numbers", 1.0))
        if share.expr is None:
            continue
        of, met = tables_of(share.expr), tables_of(share.condition)
        if any(t not in of and all(nouns.catalogue.path(one, t) is None for one in of) for t in met):
            # The share of rent that was paid on time is of what was due then, and not of what homes are let for.
            found.append(("a share by rows below", 0.8))
    for part in m.parts(ask.quantities):
        match part:
            case m.Combined(
                op="/", left=m.Aggregated(expr=m.Col(key=one)), right=m.Aggregated(expr=m.Col(key=other)), percent=False
            ) if one.table != other.table:
                # What is paid per kilo is told by what stands on the same rows, where it does.
                found.append(("a ratio across tables", 0.08))
            case _:
                pass
    if nouns.vocabulary.figures_alone.keys() & {*m.counted_in(ask.quantities)}:
        # Nobody counts the rows of a table of rates.
        found.append(("rows of figures", 1.0))
    path = nouns.catalogue.path
    if ask.quantities:
        below = [c for c in ask.where if any(path(ask.head, t) is None for t in tables_of(c))]
        found.append(("conditions on rows below", 0.12 * len(below)))
        money = {k.table for k in m.columns_in(ask.quantities) if nouns.column(k).role is Role.MONEY}
        told = {t for node in (*ask.where, *ask.groups) for t in tables_of(node)} - money
        costed = {t for t in told if any(path(t, one) for one in money)}
        if len(money) == 1 and any(nouns.main_measure(t) is not None for t in costed):
            # What was charged to the landlord is told by the invoices, and not by the rent of the home.
            found.append(("money of other rows", 0.35))
        numbers = [t for c in below for t in tables_of(c) if t in nouns.vocabulary.weights]
        # How many children are there in rural areas is no question for how many areas there are.
        found.append(("things told by rows of numbers", 0.5 * len(numbers)))
    for condition in ask.where:
        tables = tables_of(condition)
        if any(path(ask.head, t) is None and path(t, ask.head) is None for t in tables):
            bridged = lowest_table([ask.head, *tables], nouns.catalogue) is not None
            found.append(("rows beside", 0.15 if bridged else 0.5))
    of_head = [c for c in ask.where if not is_of_other_rows(c, ask.head)]
    dated = [c for c in of_head if not any(isinstance(p, m.Clock) for p in m.parts(c))]
    if any(isinstance(p, m.EventTime) for p in m.parts(tuple(dated))) and event_time(nouns.catalogue, ask.head) is None:
        found.append(("when of rows without a date", 0.3))
    along = any(isinstance(g, m.PartOf) and isinstance(g.of, m.EventTime) for g in ask.groups)
    counted = {q.table for q in ask.quantities if isinstance(q, m.Aggregated) and q.table is not None}
    if along and any(event_time(nouns.catalogue, t) is None for t in counted):
        # Of what has no date there are not so many each month.
        found.append(("over time what has no date", 0.5))
    counted |= {
        q.expr.key.table
        for q in ask.quantities
        if isinstance(q, m.Aggregated) and q.function == "sum" and isinstance(q.expr, m.Col)
    }
    if any(_is_one_period(c, ask.groups) for c in ask.where):
        # Week by week on one day: what starts on it goes on from there.
        found.append(("one period by periods", 0.5))
    for group in ask.groups:
        if isinstance(group, m.Col):
            if any(path(t, group.key.table) is None for t in counted):
                # Members by the club of a class they booked, where they have a club of their own; what was ordered by who made it.
                found.append(("counted by what stands below", 0.25))
            column = nouns.column(group.key)
            rows = nouns.catalogue.table(group.key.table).rows
            if nouns.names_rows(group.key) and counted and all(_are_above(t, group.key.table, nouns) for t in counted):
                # A loan is of one book.
                found.append(("one of each", 1.2))
            worked_below = any(isinstance(q, m.Below) for q in m.parts(ask.quantities))
            own = {
                *tables_of(ask.quantities),
                *(q.table for q in m.parts(ask.quantities) if isinstance(q, m.Aggregated) and q.table),
            }
            if (
                nouns.names_rows(group.key)
                and own <= {group.key.table}
                and ask.quantities
                and rows > 1
                and not worked_below
            ):
                counts = all(isinstance(q, m.Aggregated) and q.expr is None for q in ask.quantities)
                found.append(("groups of one", 1.45 if counts else 0.45 if ask.limit is not None else 1.0))
            if any(_is_one_each(q, group.key, nouns) for q in m.parts(ask.quantities)):
                # Of each vehicle there is one kind of fuel.
                found.append(("different ones of one", 1.5))
            if column.is_measure and column.distinct > 20:
                found.append(("groups by a measure", 0.3))
            if column.is_measure and 3 < rows <= column.distinct * 1.1:
                found.append(("groups of one", 1.0))
            if column.distinct > 300 and ask.limit is None and not ask.having:
                found.append(("many groups", 0.12))
            if column.role is Role.LINK and column.type is not Type.TEXT:
                found.append(("groups by a number that tells apart", 0.1))
    kinds = [KINDS & {*nouns.vocabulary.columns[k].parts} for k in m.columns_in(ask.groups)]
    measured = [KINDS & {*nouns.vocabulary.columns[k].parts} for k in m.columns_in(ask.quantities)]
    # Home goals go with the home team.
    crossed = any(one and two and not one & two for one in kinds for two in measured)
    found.append(("one kind by another", 0.25 * crossed))
    if ask.per and ask.limit is not None:
        # Of each order the first three pubs: an order has one.
        each = [nouns.column(g.key).role for g in ask.groups[: ask.per] if isinstance(g, m.Col)]
        found.append(("firsts of what tells apart", 0.5 * (Role.IDENTIFIER in each)))
    none = {c.item.rows.table for c in ask.where if isinstance(c, m.Not) and isinstance(c.item, m.Has)}
    # Of loans without a loan there are none.
    found.append(("none of what is counted", 2.0 * bool(counted & none)))
    found.append(("what tables share, asked of one", 0.6 * _shared_for_one(ask, nouns)))
    # How many of them there are stands beside each of those that were chosen by it.
    keys = tables_of((ask.quantities, ask.groups, tuple(s for s in ask.shows if not isinstance(s, m.Below))))
    found.append(("tables", 0.05 * max(len(keys) - 1, 0)))
    found.append(("two times of one day", 2.0 * _never_both(ask.where)))
    repeated = [k for c in ask.where for k in m.columns_in(c)]
    twice = len(repeated) - len(set(repeated))
    if twice and not any(isinstance(c, m.Compared) for c in ask.where):
        found.append(("two conditions of one column", 0.25 * twice))
    return found
