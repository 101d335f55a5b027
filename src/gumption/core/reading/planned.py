"""Plans and what came of them: a budget and what was spent, a target and what was raised, a limit and what is owed.

What came of a plan stands beside it, or is added up over the rows that belong to what was planned.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from gumption.core.model.types import Role
from gumption.core.reading import meaning as m
from gumption.core.reading.derived import SPOILED, trade
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.returns import came_in, went_out
from gumption.core.reading.tokens import stem, stems
from gumption.core.reading.vocabulary import OFFERED, Vocabulary, name_parts

_ACTUAL = stems("actual actuals spent spend achieved outturn raised good made done delivered sold result realised")
_SPENDING = stems("budget allowance allocated estimate estimated est quoted planned plan")
_EARNING = stems("target goal quota expected forecast")
_OWING = stems("limit")
_STOCKED = stems("reorder")
_IN_STOCK = stems("stock hand inventory soh")
_PERIODS = stems("monthly yearly annual weekly daily quarterly month year week day quarter")
_DRAWN_UP, _SCORED = stems("plan"), stems("score rating mark grade quality")
_SETTLED = stems("paid settled cleared received")
_LEFT_OF_PLAN = (
    "{} left", "{} is left", "{} remaining", "remaining {}", "unspent {}", "{} still to spend", "left in the {}",
    "left of the {}", "{} balance", "unused {}", "left of their {}", "{} they have left", "{} still left",
)  # fmt: skip
_USED_OF_PLAN = (
    "percentage of {} spent", "percent of {} spent", "% of {} spent", "percentage of the {} spent", "share of {} spent",
    "{} used", "percentage of {} used", "share of the {} spent", "proportion of {} spent", "{} spent so far",
)  # fmt: skip
_LASTED = frozenset(["mins", "minutes", "hours", "hrs", "days", "weeks", "time", "duration", "min", "minute", "hour"])
_OVERRUN = (
    "overspend", "overspent", "overspending", "overrun", "overruns", "cost overrun", "cost overruns", "variance",
    "budget variance", "cost variance", "amount over budget", "amount over estimate",
    "total over budget", "total over estimate", "total overspend", "difference from estimate", "difference from budget",
    "difference from plan",
)  # fmt: skip


@dataclass(frozen=True)
class Plan:
    """A plan that the question names, with what came of it, each a value of the row that has the plan."""

    planned: m.Expr
    came: m.Expr


def estimates(vocabulary: Vocabulary) -> Iterator[tuple[ColumnKey, ColumnKey]]:
    """The columns of what something was to cost or take, each with what it did, which stands beside it under the same name."""
    for table in vocabulary.catalogue.tables:
        yield from _estimates_on(vocabulary, table.name)


def asked_for_elsewhere(vocabulary: Vocabulary) -> Iterator[ColumnKey]:
    """The columns of what was asked for something, where what it went for stands in a joined table under the same name."""
    catalogue = vocabulary.catalogue
    for key, words in vocabulary.columns.items():
        wanted = {*words.parts} - OFFERED
        if wanted == {*words.parts} or not wanted or not vocabulary.column(key).is_measure:
            continue
        if any(
            other.table != key.table
            and wanted <= {*told.parts}
            and not OFFERED & {*told.parts}
            and vocabulary.column(other).role is Role.MONEY
            and catalogue.path(other.table, key.table)
            for other, told in vocabulary.columns.items()
        ):
            yield key


def is_plan(vocabulary: Vocabulary, key: ColumnKey) -> bool:
    """True for a budget, a target or a limit of something."""
    known = (_SPENDING | _EARNING | _OWING | _STOCKED) & {*vocabulary.columns[key].parts}
    return bool(known) and vocabulary.column(key).is_measure and not _is_a_score(vocabulary, key)


def _plans(vocabulary: Vocabulary, table: str) -> Iterator[ColumnKey]:
    for column in vocabulary.table(table).columns:
        key = ColumnKey(table, column.name)
        planned = (OFFERED | _STOCKED) & {*vocabulary.columns[key].parts}
        if column.is_measure and planned and not _is_a_score(vocabulary, key):
            yield key


def _is_a_score(vocabulary: Vocabulary, key: ColumnKey) -> bool:
    """True for what a plan scored, which is no plan."""
    words = {*vocabulary.columns[key].parts}
    return bool(words & _DRAWN_UP and words & _SCORED)


def _estimates_on(vocabulary: Vocabulary, table: str) -> Iterator[tuple[ColumnKey, ColumnKey]]:
    for key in _plans(vocabulary, table):
        if came := came_of(vocabulary, key):
            yield key, came


def came_of(vocabulary: Vocabulary, planned: ColumnKey) -> ColumnKey | None:
    """What stands beside a plan and says what came of it: the hours worked of the hours planned."""
    wanted = {*vocabulary.columns[planned].parts} - OFFERED
    best: tuple[int, ColumnKey] | None = None
    for column in vocabulary.table(planned.table).columns:
        key = ColumnKey(planned.table, column.name)
        words = {*vocabulary.columns[key].parts}
        if key == planned or not column.is_measure or words & OFFERED:
            continue
        fit = 2 * len(wanted & words) + len(words & _ACTUAL)
        if fit and (best is None or fit > best[0]):
            best = (fit, key)
    if best is None and not wanted:
        # A target stands beside the one number that was to reach it.
        here = ((ColumnKey(planned.table, c.name), c) for c in vocabulary.table(planned.table).columns)
        others = [k for k, c in here if k != planned and c.is_measure and not OFFERED & {*vocabulary.columns[k].parts}]
        return others[0] if len(others) == 1 else None
    return best[1] if best is not None else None


def came_below(vocabulary: Vocabulary, planned: ColumnKey) -> m.Aggregated | None:
    """What came of a plan on the rows that belong to what was planned; None where nothing there answers to it."""
    words = {*vocabulary.columns[planned].parts}
    wanted = words - OFFERED - _PERIODS
    # A target that is called nothing else is one of money.
    of_money = vocabulary.column(planned).role is Role.MONEY or not wanted - _SPENDING - _EARNING - _OWING
    catalogue = vocabulary.catalogue
    children = [r.table for r in catalogue.relationships if r.other == planned.table]
    further = [
        (len(path), t.name)
        for t in catalogue.tables
        if t.name not in children and (path := catalogue.path(t.name, planned.table))
    ]
    below = [name for _, name in sorted(further)]
    for table in dict.fromkeys(children):
        for column in vocabulary.table(table).columns:
            key = ColumnKey(table, column.name)
            if column.is_measure and column.role.is_summed and wanted & {*vocabulary.columns[key].parts}:
                return m.Aggregated("sum", m.Col(key))
        if not of_money and wanted & {*vocabulary.tables[table].parts}:
            return m.Aggregated("count", table=table)
    if words & _STOCKED:
        return next((held for t in dict.fromkeys(children) if (held := _held_on(vocabulary, t)) is not None), None)
    if not of_money:
        return None
    found: m.Aggregated | None = None
    for table in dict.fromkeys((*children, *below)):
        if words & _OWING:
            found = found or _owed_on(vocabulary, table)
        elif words & _SPENDING and not (words & _EARNING):
            spent = went_out(vocabulary, table)
            found = found or (m.Aggregated("sum", spent) if spent is not None else None)
        elif words & _EARNING:
            earned = came_in(vocabulary, table)
            found = found or (m.Aggregated("sum", earned) if earned is not None else None)
    return found


def rate_below(vocabulary: Vocabulary, planned: ColumnKey) -> m.Combined | None:
    """What came of a plan per hour, on the rows that belong to what was planned: the pieces made over the hours it took."""
    parts = name_parts(planned.column)
    if len(parts) < 2 or parts[-2] != "per":
        return None
    unit, wanted = stem(parts[-1]), {*map(stem, parts[:-2])} - OFFERED
    for table in dict.fromkeys(r.table for r in vocabulary.catalogue.relationships if r.other == planned.table):
        summed = {
            ColumnKey(table, c.name): {*vocabulary.columns[ColumnKey(table, c.name)].parts}
            for c in vocabulary.table(table).columns
            if c.is_measure and c.role.is_summed
        }
        spent = next((key for key, words in summed.items() if unit in words), None)
        made = [key for key, words in summed.items() if key != spent and not words & SPOILED]
        called = [key for key in made if wanted & summed[key]] or made
        if spent is not None and called:
            return m.Combined("/", m.Aggregated("sum", m.Col(called[0])), m.Aggregated("sum", m.Col(spent)))
    return None


def _held_on(vocabulary: Vocabulary, table: str) -> m.Aggregated | None:
    """What there was of something at the last count of it."""
    if vocabulary.catalogue.table(table).time_column is None:
        return None
    for column in vocabulary.table(table).columns:
        key = ColumnKey(table, column.name)
        if column.is_measure and _IN_STOCK & {*vocabulary.columns[key].parts}:
            return m.Aggregated("sum", m.Col(key), where=(m.at_end("max"),))
    return None


def _owed_on(vocabulary: Vocabulary, table: str) -> m.Aggregated | None:
    """What is not paid yet of the bills in a table, where the day of payment is missing on some."""
    amount = trade(vocabulary, table).revenue
    for column in vocabulary.table(table).columns:
        key = ColumnKey(table, column.name)
        if (
            amount is not None
            and column.type.is_time
            and column.missing
            and _SETTLED & {*vocabulary.columns[key].parts}
        ):
            return m.Aggregated("sum", amount, where=(m.Missing(key),))
    return None


def came(vocabulary: Vocabulary, planned: ColumnKey) -> m.Expr | None:
    """What came of a plan, as a value of each row that has the plan."""
    beside = came_of(vocabulary, planned)
    if beside is not None:
        return m.Col(beside)
    number = vocabulary.table(planned.table).key
    below = came_below(vocabulary, planned) if number is not None else None
    return m.Below(below, ColumnKey(planned.table, number.name)) if below is not None and number is not None else None


def plans(vocabulary: Vocabulary) -> Iterator[tuple[ColumnKey, m.Expr]]:
    """Every plan that something answers to, each with what came of it."""
    for table in vocabulary.tables:
        for plan in _plans(vocabulary, table):
            if is_plan(vocabulary, plan) and (value := came(vocabulary, plan)) is not None:
                yield plan, value


def overruns(
    vocabulary: Vocabulary, answered: Mapping[ColumnKey, m.Expr]
) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """By how much more things cost than they were to, what is left of a budget, and how much of it is spent.

    `answered` has the plans with what came of each.
    """
    first: dict[str, tuple[ColumnKey, m.Expr]] = {}
    for plan, spent in answered.items():
        # A budget is asked about before other plans.
        budget = stem("budget") in vocabulary.columns[plan].parts
        if plan.table not in first or (budget and stem("budget") not in vocabulary.columns[first[plan.table][0]].parts):
            first[plan.table] = plan, spent
    for was, spent in first.values():
        timed = bool(_LASTED & {*name_parts(was.column)})
        if vocabulary.column(was).role not in (Role.MONEY, Role.QUANTITY) and not timed:
            continue
        over = m.Arithmetic("-", spent, m.Col(was))
        yield from ((phrase, over, 0.95) for phrase in _OVERRUN)
        units = _LASTED & {*name_parts(was.column)}
        yield from ((f"overrun in {unit}", over, 0.97) for unit in (units | {"minutes"} if timed else units))
        left = m.Arithmetic("-", m.Col(was), spent)
        used = m.Combined("/", m.Aggregated("sum", spent), m.Aggregated("sum", m.Col(was)), True)
        for said in (p for p in name_parts(was.column) if stem(p) in OFFERED):
            yield from ((phrase.format(said), left, 0.97) for phrase in _LEFT_OF_PLAN)
            yield from ((phrase.format(said), used, 0.97) for phrase in _USED_OF_PLAN)
        yield from ((phrase, left, 0.9) for phrase in ("left to spend", "unspent", "underspend"))
