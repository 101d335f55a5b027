"""What came in for what went out: the return on what was spent, and what is left where the two stand in tables of their own."""

from __future__ import annotations

from collections.abc import Iterator

from gumption.core.model.types import Role
from gumption.core.plan.words import spoken
from gumption.core.reading import meaning as m
from gumption.core.reading.derived import MARGIN, PROFIT, spent_on, trade
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.tokens import stem, stems
from gumption.core.reading.vocabulary import COST_PARTS, PLANNED, Vocabulary

_RETURN = (
    "return on spend", "return on spending", "return on cost", "return on costs", "return on ad spend", "return on outlay",
    "return on the money spent", "return on money spent", "return for the money", "return on the spend", "roas",
    "return on what was spent", "return on what we spent", "return per euro", "return per pound", "return per dollar",
)  # fmt: skip
_INVESTED = ("return on investment", "roi", "rate of return")


TAKEN_BACK = stems("returns refunds credits cancellations stock inventory count counts quotes")
"""Tables whose rows brought in nothing, whatever their price."""
_HANDED_OUT = stems("awarded granted disbursed committed payout")
"""What was given to others."""
_TROUBLES = stems("complaints defects faults failures errors refusals rejections")


def went_out(vocabulary: Vocabulary, table: str) -> m.Expr | None:
    """The money that went out with the rows of a table; None where none did."""
    spent = spent_on(vocabulary, table)
    if spent is not None:
        return spent
    cost = trade(vocabulary, table).cost
    if cost is not None and not any(PLANNED & {*vocabulary.columns[k].parts} for k in m.columns_in(cost)):
        return cost
    for column in vocabulary.table(table).columns:
        words = {*vocabulary.columns[key := ColumnKey(table, column.name)].parts}
        out = words & (COST_PARTS | _HANDED_OUT) or (
            vocabulary.is_outgoing(table) and not words & {stem("price"), stem("rate")}
        )
        if column.is_measure and column.role is Role.MONEY and column.role.is_summed and out and not words & PLANNED:
            return m.Col(key)
    return None


def came_in(vocabulary: Vocabulary, table: str) -> m.Expr | None:
    """The money that came in with the rows of a table; None where none did."""
    revenue = trade(vocabulary, table).revenue
    if TAKEN_BACK & {*vocabulary.tables[table].parts}:
        return None
    if revenue is None or vocabulary.is_outgoing(table) or spent_on(vocabulary, table) is not None:
        return None
    return revenue


def in_and_out(vocabulary: Vocabulary) -> tuple[m.Expr, m.Expr] | None:
    """What came in and what went out, on the same rows or on rows of the same things; None where not both are known."""
    catalogue = vocabulary.catalogue

    def meet(one: str, other: str) -> bool:
        return any(
            catalogue.path(one, t.name) is not None and catalogue.path(other, t.name) is not None
            for t in catalogue.tables
        )

    ins = [(t, e) for t in vocabulary.tables if (e := came_in(vocabulary, t)) is not None]
    outs = [(t, e) for t in vocabulary.tables if (e := went_out(vocabulary, t)) is not None]
    # What stands on a thing, such as a salary, went out for no one of the things that meet it; beside income it did.
    pointed = {r.other for r in catalogue.relationships}
    outs = [(t, e) for t, e in outs if t not in pointed or any(t == there for there, _ in ins)]
    outs.sort(key=lambda told: spent_on(vocabulary, told[0]) is None)
    # What stands in a column came in before what is worked out.
    ins.sort(key=lambda told: not isinstance(told[1], m.Col))
    pairs = [
        (here == there, came, went) for here, came in ins for there, went in outs if came != went and meet(here, there)
    ]
    beside = [pair for pair in pairs if pair[0]] or pairs
    return beside[0][1:] if beside else None


def rates_of_return(vocabulary: Vocabulary) -> Iterator[tuple[str, m.Quantity, float]]:
    """How many of a hundred came back, or were complained of, where such rows point at what happened."""
    for link in vocabulary.catalogue.relationships:
        words = {*vocabulary.tables[link.table].parts}
        happened = vocabulary.table(link.other).time_column is not None
        if not words & (TAKEN_BACK | _TROUBLES) or not happened or vocabulary.table(link.other).key is None:
            continue
        rate = m.ShareOf((m.Has(m.Rows(link.table)),), link.other)
        called = spoken(link.table).lower().split()[-1]
        one = called.removesuffix("s")
        for phrase in (f"{one} rate", f"{called} rate", f"{one} rates", f"rate of {called}", f"percentage of {called}"):
            yield phrase, rate, 0.97


def returns(vocabulary: Vocabulary) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """(phrase, what it means, how sure): what came in for each coin that went out, and what is left of it."""
    yield from rates_of_return(vocabulary)
    pair = in_and_out(vocabulary)
    if pair is None:
        return
    came, went = (m.Aggregated("sum", side) for side in pair)
    left = m.Combined("-", came, went)
    yield from ((phrase, m.Combined("/", came, went), 0.95) for phrase in _RETURN)
    yield from ((phrase, m.Combined("/", left, went, percent=True), 0.95) for phrase in _INVESTED)
    told = {p for words in vocabulary.columns.values() for p in words.parts}
    trades = (trade(vocabulary, table) for table in vocabulary.tables)
    if not told & {stem("profit"), stem("margin")} and not any(
        t.revenue is not None and t.cost is not None for t in trades
    ):
        yield from ((phrase, left, 0.75) for phrase in PROFIT)
        yield from ((phrase, m.Combined("/", left, came, percent=True), 0.75) for phrase in MARGIN)
