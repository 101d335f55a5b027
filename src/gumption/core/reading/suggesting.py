"""Questions worth asking, from what the columns are, how tables join and what the values are like.

Everything here is only a proposal in words: whoever shows one reads it first, and drops what is not surely read.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from gumption.core.model.catalogue import Catalogue, Column, Table
from gumption.core.model.types import Role
from gumption.core.plan.words import spoken
from gumption.core.reading import meaning as m
from gumption.core.reading.flow import event_time
from gumption.core.reading.schema import Nouns, tables_of

MOST_GROUPS = 40
MANY_ROWS = 200
_FILE = re.compile(r"(?i)^[a-z]+://|\.[a-z]{3,4}$")


def worth_asking_of(table: Table, catalogue: Catalogue) -> Iterator[str]:
    """Questions of one table, each of another kind, the plainest first."""
    rows = called(table)
    money = [c for c in table.columns if c.is_measure and c.role is Role.MONEY and c.role.is_summed]
    scores = [c for c in table.columns if c.is_measure and c.role in (Role.SCORE, Role.PERCENTAGE)]
    sizes = [c for c in table.columns if c.is_measure and c.role is Role.QUANTITY]
    own = categories(table)
    higher = [(parent, c) for parent in above(table, catalogue) for c in categories(parent)]
    people = [p for p in above(table, catalogue) if (n := p.naming_column) is not None and n.role is Role.NAME]
    kinds = [*own, *(c for _, c in higher)]
    main = next(iter([*money, *sizes, *scores]), None)
    # What happened is looked at over time; a list of people, places or goods is not.
    time = table.time_column
    born = time is not None and bool({"born", "birth", "dob"} & set(spoken(time.name).lower().split()))
    dated = time is not None and not born and main is not None and table.rows > MANY_ROWS
    yield f"How many {rows}?"
    if main is not None and kinds:
        yield f"{'Total' if main.role.is_summed else 'Average'} {named(main)} by {named(kinds[0])}"
    if dated:
        yield f"{rows.capitalize()} by month"
    if main is not None and main.role.is_summed and people:
        yield f"Top 5 {called(people[0])} by {named(main)}"
    if scores and len(kinds) > 1:
        yield f"Average {named(scores[0])} by {named(kinds[-1])}"
    if own:
        yield f"Share of {rows} by {named(own[-1])}"
    if main is not None and main.role.is_summed and dated and time is not None and _of_several_years(time):
        yield f"{named(main)[:1].upper()}{named(main)[1:]} this year compared with last year"
    for link in catalogue.relationships:
        if link.table == table.name and not link.one_to_one:
            yield f"Which {called(catalogue.table(link.other))} have no {rows}?"
    if scores or sizes:
        yield f"Distribution of {named([*scores, *sizes][0])}"


def beyond_figures(table: Table, catalogue: Catalogue) -> Iterator[str]:
    """Questions of one table that go beyond a figure: what stands out, what is to come, what goes with what."""
    rows = called(table)
    yield f"What stands out in {rows}?"
    measures = [c for c in table.columns if c.is_measure]
    scores = [c for c in measures if c.role is Role.SCORE]
    flags = [c for c in table.columns if c.role is Role.FLAG]
    if event_time(catalogue, table.name) is not None and table.rows > MANY_ROWS:
        yield f"Forecast {rows} for six months"
    if scores or flags:
        yield f"What goes with {named([*scores, *flags][0])}?"
    kinds = categories(table)
    if measures and kinds:
        yield f"Is there a difference in {named([*scores, *measures][0])} by {named(kinds[0])}?"
    if len(measures) > 1:
        yield f"Is there a link between {named(measures[0])} and {named(measures[1])}?"
    if table.key is not None and any(r.other == table.name for r in catalogue.relationships):
        yield f"Group the {rows}"
    yield f"Describe the {rows}"


def going_on(ask: m.Ask, nouns: Nouns) -> Iterator[str]:
    """What may be asked next of an answer, in the words of a follow-up."""
    if ask.lists:
        yield "how many are there"
        yield from (f"how many by {named(c)}" for c in _kinds(ask, nouns)[:2])
        return
    timed = [g for g in ask.groups if isinstance(g, m.PartOf)]
    along = any(isinstance(q, m.Along) for q in ask.quantities)
    dated = event_time(nouns.catalogue, ask.head) is not None
    single = len(ask.quantities) == 1 and isinstance(ask.quantities[0], m.Aggregated)
    summed = single and ask.quantities[0].function in ("sum", "count")  # type: ignore[union-attr]
    kinds = _kinds(ask, nouns)
    moved = any(isinstance(q, m.Between) for q in ask.quantities) or (single and _has_a_span(ask))
    if moved and ask.limit is None and not ask.having:
        yield "why"
    if timed and single and timed[0].unit == "month" and len(ask.groups) == 1:
        yield "forecast it for six months"
    if ask.limit is not None:
        yield "show all of them"
    if timed and single and not along:
        yield "with the change on the month before" if timed[0].unit == "month" else "as a running total"
    elif ask.groups and summed and not along and ask.limit is None:
        yield "as a share"
    if not ask.groups:
        yield from (f"by {named(c)}" for c in kinds[:2])
    elif len(ask.groups) == 1 and kinds and ask.limit is None:
        yield f"split by {named(kinds[0])}"
    if dated and not timed:
        yield "by month" if not ask.groups else "by month instead"
    if dated and not any(isinstance(c, (m.Within, m.PartIs)) for c in ask.where):
        yield "only this year"


def _has_a_span(ask: m.Ask) -> bool:
    """True for what is of one month, quarter or year, which can be held against the one before."""
    return any(isinstance(c, m.Within) and c.low is not None and c.high is not None for c in ask.where)


def _kinds(ask: m.Ask, nouns: Nouns) -> list[Column]:
    """Categories that an answer could be split by, which it is not yet."""
    table = next(iter([*tables_of(ask.quantities), *m.counted_in(ask.quantities), ask.head]), ask.head)
    catalogue = nouns.catalogue
    used = {k.column for k in m.columns_in(ask, nested=True)}
    found = [*categories(catalogue.table(table))]
    found += [c for parent in above(catalogue.table(table), catalogue) for c in categories(parent)]
    return [c for c in found if c.name not in used]


def categories(table: Table) -> list[Column]:
    """What rows are grouped by: kinds of which each has several rows, for most of a kind are no kind."""
    most = min(MOST_GROUPS, table.rows // 2)
    kinds = [c for c in table.columns if c.role.is_category and 1 < c.distinct <= most]
    return [c for c in kinds if "name" not in spoken(c.name).lower().split() and not _points_at_files(c)]


def _of_several_years(time: Column) -> bool:
    """True where the last year has one before it to be held against."""
    return str(time.low)[:4] < str(time.high)[:4]


def _points_at_files(column: Column) -> bool:
    """True where the values are names or addresses of files, such as pictures, which group nothing by themselves."""
    return bool(column.values) and all(_FILE.search(v) for v in column.values[:10])


def above(table: Table, catalogue: Catalogue) -> list[Table]:
    """The tables that rows of one belong to."""
    return [catalogue.table(link.other) for link in catalogue.parents(table.name)]


def called(table: Table) -> str:
    noun = table.display or spoken(table.name)
    return noun if noun.endswith("s") else f"{noun} rows"


def named(column: Column) -> str:
    return column.display or spoken(column.name)
