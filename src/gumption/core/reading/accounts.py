"""What statements and lists of holdings tell: money whose sign says which way it went, and things with two prices."""

from __future__ import annotations

from collections.abc import Iterator

from gumption.core.model.types import Role
from gumption.core.reading import meaning as m
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.vocabulary import Vocabulary, name_parts

_GONE_OUT = (
    "spend", "spent", "spending", "total spend", "expenses", "expense", "outgoings", "expenditure", "money out", "outlay",
    "payments", "payment", "paid", "paid out", "pay", "went out", "costs", "cost",
)  # fmt: skip
_COME_IN = (
    "income", "earned", "earn", "earnings", "money in", "receipts", "paid in", "deposits", "came in", "received", "coming in",
)  # fmt: skip
_IN_ALL = ("net", "net total", "net amount", "surplus", "saved", "left over", "what is left")


def signed_amount(vocabulary: Vocabulary, table: str) -> m.Col | None:
    """The column of a statement whose sign says whether money came in or went out, as it did on most of the rows."""
    money = [c for c in vocabulary.table(table).columns if c.role is Role.MONEY and c.role.is_summed]
    signed = [c for c in money if c.is_signed and (c.median or 0) < 0]
    return m.Col(ColumnKey(table, signed[0].name)) if len(signed) == 1 else None


def runs_on(vocabulary: Vocabulary, key: ColumnKey) -> bool:
    """True for the balance that stands beside what came in and went out."""
    column = vocabulary.column(key)
    balance = column.role is Role.SCORE and name_parts(key.column)[-1:] == ["balance"]
    return balance and any(c.role is Role.MONEY and c.is_signed for c in vocabulary.table(key.table).columns)


def _ways(moved: m.Col) -> tuple[m.Given, m.Given]:
    """What went out and what came in, of a column whose sign says which it was."""
    nought = m.Number(0.0)
    went = m.Given(m.Arithmetic("-", nought, moved), m.Compared("<", moved, nought))
    return went, m.Given(moved, m.Compared(">", moved, nought))


def by_their_sign(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """What was spent and what was earned, where the sign of one column tells them apart."""
    amount = signed_amount(vocabulary, table)
    if amount is None:
        return
    went, came = _ways(amount)
    yield from ((phrase, went, 0.98) for phrase in _GONE_OUT)
    yield from ((phrase, came, 0.98) for phrase in _COME_IN)
    yield from ((phrase, m.Aggregated("sum", amount), 0.98) for phrase in _IN_ALL)


_MOVED = frozenset(["movement", "movements", "stock", "inventory", "transaction", "transactions", "ledger"])
_STANDING = (
    "current stock", "stock", "stock level", "stock levels", "stock on hand", "on hand", "in stock", "units in stock", "inventory",
    "net movement", "net change", "net",
)  # fmt: skip
_BROUGHT_IN = (
    "stock in",
    "received",
    "units in",
    "stock received",
    "stock coming in",
    "coming in",
    "came in",
    "goods in",
)
_TAKEN_OUT = (
    "stock out",
    "issued",
    "units out",
    "stock issued",
    "went out",
    "going out",
    "total out",
    "goods out",
    "used",
)


def moved_by_their_sign(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """What is in stock by what came in and went out, where the sign of one column tells them apart."""
    if not _MOVED & {*name_parts(table)}:
        return
    many = [c for c in vocabulary.table(table).columns if c.is_measure and c.role is Role.QUANTITY]
    signed = [m.Col(ColumnKey(table, c.name)) for c in many if c.is_signed]
    if len(signed) != 1:
        return
    (moved,) = signed
    went, came = _ways(moved)
    yield from ((phrase, m.Aggregated("sum", moved), 0.96) for phrase in _STANDING)
    yield from ((phrase, came, 0.97) for phrase in _BROUGHT_IN)
    yield from ((phrase, went, 0.97) for phrase in _TAKEN_OUT)


_UNITS_HELD = frozenset(
    ["shares", "units", "bottles", "quantity", "qty", "holding", "coins", "pieces", "cases", "stock"]
)
_NOW = frozenset(["current", "now", "latest", "market", "today"])
_THEN = frozenset(["buy", "bought", "paid", "purchase", "cost", "book", "entry", "opening"])
_PRICED = frozenset(["price", "value", "worth", "cost", "quote", "paid"])
_WORTH_NOW = (
    "value", "worth", "current value", "market value", "total value", "total worth", "value now", "worth now", "valuation",
)  # fmt: skip
_PUT_IN = ("cost", "total cost", "book cost", "invested", "amount invested", "money invested", "paid", "spent", "spend")
_GAIN = (
    "profit", "gain", "gains", "profits", "total gain", "total profit", "return", "returns", "unrealised gain", "profit so far",
    "gain so far", "profit made", "growth in value",
)  # fmt: skip
_GAIN_PERCENT = (
    "return in percent", "percentage return", "percent return", "percentage gain", "return percentage", "gain in percent",
    "% return", "% gain", "return on investment", "roi",
)  # fmt: skip


def held_at_two_prices(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """What is held is worth its price now, and was bought at another: shares, bottles, coins."""
    named = [
        (ColumnKey(table, c.name), c, {*name_parts(c.name)}) for c in vocabulary.table(table).columns if c.is_measure
    ]
    many = [m.Col(k) for k, c, parts in named if c.role is Role.QUANTITY and parts & _UNITS_HELD]
    now = [m.Col(k) for k, _, parts in named if parts & _PRICED and parts & _NOW and "total" not in parts]
    then = [m.Col(k) for k, _, parts in named if parts & _PRICED and parts & _THEN and not parts & {*_NOW, "total"}]
    if not (len(many) == len(now) == len(then) == 1):
        return
    worth, paid = (m.Arithmetic("*", many[0], each[0]) for each in (now, then))
    gain = m.Arithmetic("*", many[0], m.Arithmetic("-", now[0], then[0]))
    whole = " ".join(name_parts(table))
    yield from ((phrase, worth, 0.98) for phrase in (*_WORTH_NOW, f"{whole} value", f"{whole} worth"))
    yield from ((phrase, paid, 0.98) for phrase in _PUT_IN)
    yield from ((phrase, gain, 0.98) for phrase in _GAIN)
    share = m.Combined("/", m.Aggregated("sum", gain), m.Aggregated("sum", paid), True)
    yield from ((phrase, share, 0.98) for phrase in _GAIN_PERCENT)


_MONTHLY = frozenset(["monthly", "month"])
_PAID_MONTHLY = frozenset(["price", "fee", "amount", "charge", "cost", "subscription", "plan", "rate", "payment"])
_STOPPED = frozenset(
    ["cancelled", "canceled", "ended", "end", "left", "churned", "stopped", "terminated", "cancellation"]
)
_RECURRING = ("monthly recurring revenue", "mrr", "recurring revenue", "monthly revenue", "recurring monthly revenue")


def recurring(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Quantity, float]]:
    """What comes in every month: the monthly price of those who have not left."""
    columns = [(ColumnKey(table, c.name), c, {*name_parts(c.name)}) for c in vocabulary.table(table).columns]
    prices = [k for k, c, parts in columns if c.is_measure and parts & _MONTHLY and parts & _PAID_MONTHLY]
    stopped = [k for k, c, parts in columns if c.type.is_time and c.missing and parts & _STOPPED]
    if len(prices) == len(stopped) == 1:
        coming = m.Aggregated("sum", m.Col(prices[0]), where=(m.Missing(stopped[0]),))
        yield from ((phrase, coming, 0.95) for phrase in _RECURRING)
