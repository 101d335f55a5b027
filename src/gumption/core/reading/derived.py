"""Measures that no column holds but that the columns make: profit, margin, worth, wages, age, how long."""

from __future__ import annotations

import datetime as dt
import itertools
import re
from collections.abc import Iterator
from dataclasses import dataclass

from gumption.core.model.catalogue import Column
from gumption.core.model.names import singular, spaced
from gumption.core.model.types import Role, Type
from gumption.core.plan.words import spoken
from gumption.core.reading import lexicon
from gumption.core.reading import meaning as m
from gumption.core.reading.accounts import by_their_sign, held_at_two_prices, moved_by_their_sign, recurring
from gumption.core.reading.histories import history_of
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.residents import residing
from gumption.core.reading.tokens import stem, stems
from gumption.core.reading.vocabulary import (
    ASKED,
    BIRTH,
    BUYERS,
    FOR_A_HEAD,
    GENERIC_MONEY,
    INCOME_WORDS,
    OFFERED,
    PERSON_WORDS,
    PLANNED,
    Vocabulary,
    is_out_of,
    is_yearly,
    name_parts,
    word_stems,
)

_QUANTITY = stems("many quantity qty units unit pieces piece stock number count nights hours volume hand")
_AMOUNT = _QUANTITY | stems("amount amt")
_PRICE = stems("price rate fee tariff rrp msrp")
BOUGHT = stems("bookings enrolments enrollments reservations registrations tickets signups")
"""Rows of what somebody pays for, one at a time."""
_RATE = stem("rate")
_RATED = stems(
    "hourly daily weekly monthly nightly day night hour week month pay paid charge charged room unit standard base basic"
    " billing bill sale selling price per each hire rental call out labour rate list job piece word mile km"
)
"""What stands beside a rate that is a price of one."""
_COST = stems("cost costs cogs")
_DUE = stems("due billed invoiced charged owed expected payable billable")
_PAID = stems("paid received collected settled payment payments payout payouts")
_BILLED = stems("amount total fee gross bill invoice charge price value")
_PERCENT_OF = re.compile(
    r"(?P<part>[a-z ]+?) (?:in|as a|as) (?:percent|per cent|percentage|%) of (?:the |their |its )?(?P<of>[a-z ]+)"
)
_PEOPLE = stems("people persons population residents inhabitants")
_ALL = stems("all total population")
_CAPACITY = stems("places seats capacity spaces")
WHOLES = tuple(
    frozenset(line.split())
    for line in (
        "home away",
        "male female",
        "men women",
        "boys girls",
        "adult child adults children",
        "online offline store shop",
        "day night",
        "cash card",
        "domestic international overseas foreign export",
        "urban rural",
        "morning afternoon evening",
        "weekday weekend weekdays weekends",
        "new returning existing",
        "inbound outbound incoming outgoing",
        "indoor outdoor",
        "casual registered",
        "public private",
        "north south east west",
        "red white",
        "labour parts labor materials",
        "local national regional",
        "dine takeaway delivery",
    )
)
"""Words for the kinds that something falls into, each line all of it."""
_TOLD_KINDS = frozenset(kind for whole in WHOLES for kind in whole)
KINDS = frozenset(stem(kind) for whole in WHOLES for kind in whole)
AT_MOST = frozenset(["max", "maximum", "capacity", "limit"])
_OFTEN = 1.5
"""How many times as many there must be as there is room for, to have been there one after the other."""
_FILLING = stems(
    "pupils students enrolled enrolment booked occupied sold taken guests patients attendance residents used filled"
)
_SEATS = stems("tickets seats places guests people passengers pax covers heads attendees")
_LAND = stems("km2 sqkm kilometres kilometers hectares ha acres square sq area")
_PER = stems("unit per each hourly daily nightly list price rate")
_EARNED = frozenset(["commission", "royalty", "fee", "levy"])
_GROWN = stems("tonnes tons harvest harvested bushels crop")
_ACRES = stems("hectares ha acres")
_INCOME = tuple((w,) for w in INCOME_WORDS)
_WHOLE = stems("total overall full")


def is_birth(vocabulary: Vocabulary, key: ColumnKey) -> bool:
    """True for a date on which somebody was born, which is never when anything else happened."""
    return bool(BIRTH & {*vocabulary.columns[key].full})


BEGUN = stems(
    "published publication released pub installed acquired bought built made opened founded established registered launched"
    " purchased commissioned dated since planted sown minted issued hatched"
)

_OPPOSED = (
    ("exports export", "imports import", ("trade balance", "balance of trade", "net exports", "net trade", "balance")),
    ("income receipts revenue", "expenditure expense expenses spending costs payments outgoings",
     ("balance", "net income", "surplus", "net", "net position", "income less expenditure")),
    ("credit", "debit", ("balance", "net", "net movement")),
    ("inflow inflows", "outflow outflows", ("net flow", "net inflow", "balance")),
    ("births birth", "deaths death", ("natural change", "births less deaths")),
)  # fmt: skip
"""What is set against what, and what is left of it is called."""

PROFIT = (
    "profit",
    "profits",
    "gross profit",
    "gain",
    "earnings after costs",
    "profit made",
    "net profit",
    "total profit",
)
MARGIN = ("margin", "profit margin", "gross margin", "margins", "profitability")
MARKUP = ("markup", "mark-up", "mark up", "markups")
WORTH = (
    "takings",
    "earnings",
    "spend",
    "value",
    "worth",
    "order value",
    "sales",
    "revenue",
    "turnover",
    "sales value",
    "stock value",
    "value of stock",
    "value of the stock",
    "value of our stock",
    "stock worth",
    "worth of stock",
    "worth of the stock",
    "value of stock at selling price",
    "stock at selling price",
    "retail value",
    "income",
    "money",
)
AT_COST = (
    "worth at cost",
    "at cost",
    "cost value",
    "value at cost",
    "cost of goods",
    "cost of goods sold",
    "purchase value",
    "stock worth at cost",
    "value of stock at cost",
    "value of the stock at cost",
    "stock at cost",
    "stock value at cost",
    "stock value at cost price",
)
LABOUR = (
    "value of time",
    "time value",
    "value of hours",
    "cost of time",
    "time cost",
    "cost of hours",
    "labour cost",
    "labour costs",
    "labor cost",
    "labor costs",
    "cost of labour",
    "cost of labor",
    "labour",
    "labor",
    "staff cost",
    "staff costs",
)
WAGES = ("wages", "wage bill", "pay", "payroll", "wage costs")
OWED = (
    "arrears",
    "outstanding",
    "outstanding amount",
    "amount outstanding",
    "balance",
    "outstanding balance",
    "balance due",
    "amount owed",
    "shortfall",
    "debt",
    "debts",
    "unpaid amount",
    "owed",
    "owing",
)
HOW_FULL = (
    "how full",
    "occupancy",
    "occupancy rate",
    "fill rate",
    "how booked up",
    "utilisation",
    "utilization",
    "load factor",
)
AGE = (
    "age",
    "ages",
    "aged",
    "old",
    "years old",
    "yrs old",
    "year olds",
    "year-olds",
    "how old",
    "age in years",
    "years of age",
)


@dataclass(frozen=True)
class Trade:
    """What the columns of one table and those above it are in a trade; each None where there is none."""

    revenue: m.Expr | None
    cost: m.Expr | None
    price: m.Expr | None
    unit_cost: m.Expr | None
    quantity: m.Expr | None
    written: bool
    """True where the revenue stands in a column."""


def own_words(vocabulary: Vocabulary, key: ColumnKey) -> frozenset[str]:
    """The stems of a column's name and of the first words said of it."""
    words = vocabulary.columns[key]
    return frozenset((*words.full, *words.described[:4]))


def _columns(vocabulary: Vocabulary, table: str) -> Iterator[tuple[ColumnKey, Column, frozenset[str]]]:
    """The numbers of a table, then those of the tables it points at."""
    tables = [table, *(r.other for r in vocabulary.catalogue.parents(table))]
    for name in dict.fromkeys(tables):
        for column in vocabulary.table(name).columns:
            if column.type.is_number and column.role not in (Role.IDENTIFIER, Role.CODE, Role.LINK):
                key = ColumnKey(name, column.name)
                yield key, column, own_words(vocabulary, key)


def _is_so_many(vocabulary: Vocabulary, key: ColumnKey) -> bool:
    """True for a column that people call a quantity, whatever its head is: bottles, stock on hand."""
    return any(name in (("quantiti",), ("stock",)) for name in vocabulary.columns[key].synonyms)


def trade(vocabulary: Vocabulary, table: str) -> Trade:
    """The trade of a table by the names of its columns."""
    price: m.Expr | None = None
    unit_cost: m.Expr | None = None
    cost: m.Expr | None = None
    quantity: m.Expr | None = None
    revenue: m.Expr | None = None
    estimated: m.Expr | None = None
    planned: m.Expr | None = None
    budget: m.Expr | None = None
    costs: list[m.Expr] = []
    unit_of_price: str | None = None
    priced_whole = False
    of_stock = _is_of_stock(vocabulary, table)
    bought_in = {
        t for t in (table, *(r.other for r in vocabulary.catalogue.parents(table))) if _is_bought_in(vocabulary, t)
    }
    for key, column, words in _columns(vocabulary, table):
        here = key.table == table
        summed = column.role.is_summed
        head = vocabulary.columns[key].head
        parts = name_parts(key.column)
        written_for = parts[0] if here and parts[1:] == ["for"] else None
        if written_for == "sold":
            # What it was sold for is what it brought in.
            revenue = revenue or m.Col(key)
            continue
        if written_for in ("bought", "purchased"):
            costs.append(m.Col(key))
            continue
        if words & _COST and here and of_stock:
            # What a line of a stock list costs is each of them.
            unit_cost = unit_cost or m.Col(key)
            continue
        if (
            ({"buy", "buying", "purchase", "trade"} & {*parts} or key.table in bought_in)
            and words & _PRICE
            and not summed
        ):
            # What is paid for one of them is no price that they are sold at.
            unit_cost = unit_cost or m.Col(key)
            continue
        total = here and bool(column.grows_with)
        if here and parts[:1] == ["budget"]:
            budget = budget or m.Col(key)
        if words & _COST and not total and (words & _PER or not summed or not here):
            unit_cost = unit_cost or m.Col(key)
        elif words & _COST and here and words & PLANNED:
            # What a job was to cost is no cost on top of what it did cost.
            estimated = estimated or m.Col(key)
        elif words & _COST and here:
            costs.append(m.Col(key))
            if words & _WHOLE:
                cost = m.Col(key)
        elif here and column.role is Role.MONEY and stem("total") in words and words & _CHARGED_IN_ALL:
            # A total charge is what a row brings in, whatever its price and its days are.
            revenue = revenue or m.Col(key)
        elif here and summed and column.role is Role.MONEY and vocabulary.columns[key].described[:1] in _INCOME:
            revenue = revenue or m.Col(key)
        elif (words & _PRICE or "selling" in parts) and head not in GENERIC_MONEY - _PRICE:
            if words & _PRICE == {_RATE} and not words <= _RATED:
                # An unemployment rate is the price of nothing.
                continue
            if not here and "hourly" in parts and _are_paid(vocabulary, key.table):
                # What those who do the work get by the hour is no price of it.
                continue
            if isinstance(price, m.Col) and here and price.key.table == table:
                # What a house was sold for is its price, and not what was asked for it.
                asked = OFFERED & own_words(vocabulary, price.key) and not OFFERED & words
                price = m.Col(key) if asked else price
            price = price or m.Col(key)
            priced_whole = priced_whole or (total and price == m.Col(key))
        elif here and column.role is not Role.MONEY and "per" in parts:
            # An amount per share is what one of them brings, and no number of anything.
            continue
        elif {"days", "weeks", "months", "age"} & {*parts} and stem("stock") in words:
            # How long it has been in stock is no number of what is there.
            continue
        elif here and column.role is not Role.MONEY and (words & _AMOUNT or _is_so_many(vocabulary, key)):
            planned = planned or (m.Col(key) if words & PLANNED else None)
            quantity = quantity or (None if words & PLANNED else m.Col(key))
        elif here and summed and head in GENERIC_MONEY | _BROUGHT_IN | {"sale", "amount", "paid"}:
            revenue = revenue or m.Col(key)
        if m.Col(key) in (price, unit_cost):
            unit_of_price = _unit_of(parts) or unit_of_price
    # How many were to be made is asked about where nothing tells how many were.
    quantity = quantity or planned
    if unit_of_price is not None:
        # Of a price per tonne, the quantity is the tonnes; so many bags are none of a price per kilo.
        measured = _measured_in(vocabulary, table, unit_of_price, price)
        counted = isinstance(quantity, m.Col) and not {*name_parts(quantity.key.column)} & _PLAIN_QUANTITY
        quantity = measured or (None if counted and unit_of_price in _WEIGHED else quantity)
    if quantity is None and price is not None and _stands_on(price, table):
        quantity = _sold_on(vocabulary, table, price)
    if estimated is not None and not costs:
        costs.append(estimated)
    billed = billed_in_parts(vocabulary, table) if cost is None and revenue is None else None
    if billed is not None:
        return Trade(billed, None, price, unit_cost, quantity, True)
    if cost is None and costs:
        cost = m.added_up(costs)
    if (
        cost is None
        and budget is not None
        and isinstance(revenue, m.Col)
        and _MADE_FOR & own_words(vocabulary, revenue.key)
    ):
        # What a film brought in is held against what was set aside to make it.
        cost = budget
    if _is_a_recipe(vocabulary, table, price, unit_cost):
        # So much of each material in each product: what a product sells for is no price of its materials.
        price = None
    written = revenue is not None
    if revenue is None and priced_whole:
        # What grows with how many there are is the price of them all.
        revenue = price
    bought = bool(BOUGHT & {*vocabulary.tables[table].parts}) and not vocabulary.has_money(table)
    paid_for = cost is not None or bought
    if revenue is None and price is not None and quantity is None:
        # A job's price is what it brings in where nothing says how many there are; so is what a booking costs.
        each = (paid_for or _is_served(vocabulary, table) or _is_of_sales(vocabulary, table)) and _stands_on(
            price, table
        )
        if each or _is_sold_singly(vocabulary, table, price):
            revenue = price
    whole = {vocabulary.column(c.key).grows_with for c in costs if isinstance(c, m.Col)} - {""}
    costs_so_much = isinstance(quantity, m.Col) and quantity.key.column in whole
    if price is not None and unit_cost is None and (costs_so_much or (cost is None and _is_spent(vocabulary, table))):
        # What so many come to is called a cost: the price is what was paid for each.
        unit_cost, price = price, None
        if cost is None and written:
            # What an order comes to is what is spent on it.
            cost, revenue, written = revenue, None, False
    if revenue is None and price is not None and quantity is not None and not _is_work(vocabulary, table):
        revenue = m.Arithmetic("*", quantity, price)
        if (kept := _kept_of(vocabulary, table)) is not None:
            revenue = m.Arithmetic("*", revenue, kept)
    if cost is None and unit_cost is not None and quantity is not None:
        cost = m.Arithmetic("*", quantity, unit_cost)
    if not written and _THROWN_AWAY & {*vocabulary.tables[table].parts}:
        # What is thrown away brings nothing in, whatever it would have sold for.
        revenue = None
    return Trade(revenue, cost, price, unit_cost, quantity, written)


def _is_bought_in(vocabulary: Vocabulary, table: str) -> bool:
    """True for what is bought, so many of each: the prices there are paid, and not charged."""
    return any(
        c.is_measure and {"bought", "purchased"} & {*name_parts(c.name)} and c.role is not Role.MONEY
        for c in vocabulary.table(table).columns
    )


def _is_sold_singly(vocabulary: Vocabulary, table: str, price: m.Expr) -> bool:
    """True where each row is one thing, whose price stands there once it is sold: lots of an auction, homes."""
    if not isinstance(price, m.Col) or price.key.table != table or not vocabulary.column(price.key).missing:
        return False
    keys = [key for key in vocabulary.columns if key.table == table]
    named = {part for key in keys for part in name_parts(key.column)}
    return "buyer" in named or any("sold" in map(str.lower, vocabulary.column(key).values) for key in keys)


def _is_of_sales(vocabulary: Vocabulary, table: str) -> bool:
    """True for sales that each have a day and a price, and nothing that says how many were sold."""
    dated = any(c.type.is_time for c in vocabulary.table(table).columns)
    return dated and bool(_SOLD & {*vocabulary.tables[table].parts})


_SOLD = stems("sales sold")
_MADE_FOR = stems("gross box takings")
_SERVED = stems(
    "signups signup registrations appointments treatments lessons sittings consultations sessions washes haircuts deliveries consignments parcels shipments"
    " hires rentals rides callouts grooms"
)
_CLIENTS = frozenset(
    [
        "client",
        "customer",
        "patient",
        "guest",
        "pupil",
        "student",
        "member",
        "account",
        "sender",
        "hirer",
        "passenger",
        "learner",
    ]
)


def _is_served(vocabulary: Vocabulary, table: str) -> bool:
    """True for what was done for a client on a day, each at its price: appointments, treatments."""
    named = [({*name_parts(c.name)}, c.type.is_time) for c in vocabulary.table(table).columns]
    served = any(parts & _CLIENTS for parts, _ in named) and any(is_time for _, is_time in named)
    return served and bool(_SERVED & {*vocabulary.tables[table].parts})


def _sold_on(vocabulary: Vocabulary, table: str, price: m.Expr) -> m.Expr | None:
    """How many there are on lines that tell what each costs, whatever they are called: so many plants at so much each."""
    assert isinstance(price, m.Col)
    each = {"each", "unit", "per"} & {*name_parts(price.key.column)}
    columns = vocabulary.table(table).columns
    measured = [c for c in columns if c.is_measure and {*spaced(c.name).lower().split()} <= _BY_MEASURE]
    if len(measured) == 1 and price.key.table == table and _ORDERED & {*vocabulary.tables[table].parts}:
        # So many kilos of what was ordered, at such a price.
        return m.Col(ColumnKey(table, measured[0].name))
    counts = [
        ColumnKey(table, c.name)
        for c in columns
        if c.type is Type.INTEGER and c.role is Role.QUANTITY and name_parts(c.name)[-1:] not in (["days"], ["hours"])
    ]
    if len(counts) != 1:
        return None
    # What is charged for all of them takes as many amounts as there are numbers of them; what one costs may take fewer.
    asked, many = (vocabulary.column(k).distinct for k in (price.key, counts[0]))
    plain = "price" in name_parts(price.key.column) and counts[0].column.lower().endswith("s")
    own = plain and price.key.table == table and 0 < asked < many and bool(_SELLING & {*vocabulary.tables[table].parts})
    return m.Col(counts[0]) if each or own else None


_PLAIN_QUANTITY = frozenset(["quantity", "qty", "amount", "volume", "units", "many"])
_MEASURES = frozenset(w for w, u in lexicon.units().items() if u.family in ("weight", "volume", "length", "area"))
_WEIGHED = stems(" ".join(_MEASURES))
"""What things are sold by that are not counted."""
_BY_MEASURE = _MEASURES | {"sold", "ordered", "delivered", "quantity", "qty", "in"}
_TAKINGS = ("income", "revenue", "takings", "money", "turnover", "earnings")
_TOOK = (
    "did we take", "we took", "did we take in", "we took in", "have we taken", "we have taken", "did we earn", "we earned",
    "did we make", "we made", "did we bring in", "we brought in",
)  # fmt: skip
_SELLING = stems("sale sales sold ticket order purchase basket till receipt admission booking entry")
_ORDERED = stems("orders sales invoices lines items deliveries purchases transactions")


def _are_paid(vocabulary: Vocabulary, table: str) -> bool:
    """True for a table of people who work here, by what they are called."""
    called = {*vocabulary.tables[table].parts}
    return bool(called & PERSON_WORDS) and not called & BUYERS


def _is_a_recipe(vocabulary: Vocabulary, table: str, price: m.Expr | None, unit_cost: m.Expr | None) -> bool:
    """True for how much of one thing goes into another: one has a price and the other a cost, and nothing happened."""
    above = [e.key.table for e in (price, unit_cost) if isinstance(e, m.Col)]
    undated = not any(c.type.is_time for c in vocabulary.table(table).columns)
    return len({*above, table}) == 3 and undated


_BASKET = (
    "basket value",
    "basket size",
    "basket",
    "transaction value",
    "value of a basket",
    "value per basket",
    "sale value",
)
_THROWN_AWAY = stems("waste wastage wasted writeoffs spoilage shrinkage breakages damages losses discarded")


def _for_what(vocabulary: Vocabulary, table: str, found: Trade) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """What is called after what it was spent on or what was ordered: the cost of materials, the value of orders."""
    if isinstance(found.unit_cost, m.Col) and found.unit_cost.key.table != table and found.cost is not None:
        for name in _names_of(vocabulary, found.unit_cost.key.table):
            yield from ((phrase.format(name), found.cost, 0.97) for phrase in ("{} cost", "{} costs", "cost of {}"))
    wasted = found.quantity if _THROWN_AWAY & {*vocabulary.tables[table].parts} else None
    if wasted is not None:
        for name in _names_of(vocabulary, table):
            yield from (
                (p.format(name), wasted, 0.95)
                for p in ("{}", "units of {}", "amount of {}", "{} units", "quantity of {}")
            )
        yield from (
            (phrase, wasted, 0.97) for phrase in ("units wasted", "wasted units", "units thrown away", "amount wasted")
        )
        others = (t for t in vocabulary.tables if t != table and _SELLING & {*vocabulary.tables[t].parts})
        sold = [q for t in others if (q := trade(vocabulary, t).quantity) is not None]
        if len(sold) == 1:
            rate = m.Combined("/", m.Aggregated("sum", wasted), m.Aggregated("sum", sold[0]), True)
            yield from (
                (phrase, rate, 0.97)
                for phrase in ("waste rate", "wastage rate", "waste percentage", "waste ratio", "waste %")
            )
    selling = _SELLING & {*vocabulary.tables[table].parts}
    if found.revenue is not None and not found.written and selling and docket(vocabulary, table, found) is None:
        yield from ((phrase, found.revenue, 0.9) for phrase in _BASKET)
    if found.cost is not None and _THROWN_AWAY & {*vocabulary.tables[table].parts}:
        for name in _names_of(vocabulary, table):
            told = ("{} cost", "{} costs", "cost of {}", "value of {}", "{} value", "cost of the {}")
            yield from ((phrase.format(name), found.cost, 0.99) for phrase in told)
    if found.revenue is not None and not (found.written or _is_work(vocabulary, table)):
        for name in _names_of(vocabulary, table):
            yield from ((phrase.format(name), found.revenue, 0.97) for phrase in ("value of {}", "{} value"))
    yield from _at_so_much_each(vocabulary, table, found)


def _at_so_much_each(vocabulary: Vocabulary, table: str, found: Trade) -> Iterator[tuple[str, m.Expr, float]]:
    """So many seats at so much a month for each: what they cost together, in a month and in a year."""
    each, many = found.unit_cost, found.quantity
    if not isinstance(each, m.Col) or not isinstance(many, m.Col) or {each.key.table, many.key.table} != {table}:
        return
    parts = name_parts(each.key.column)
    if "per" not in parts or found.cost is None:
        return
    leads = ["", *(f"{name} " for name in _names_of(vocabulary, table))]
    costs = [f"{lead}{cost}" for lead in leads for cost in ("cost", "costs")]
    yield from ((phrase, found.cost, 0.97) for phrase in (*costs, *(f"cost of {lead.strip()}" for lead in leads[1:])))
    yield from ((f"total {lead}cost", found.cost, 0.99) for lead in leads)
    if not {"monthly", "month"} & {*parts}:
        return
    in_a_year = m.Arithmetic("*", found.cost, m.Number(12))
    for told, unit, adjectives in ((found.cost, "month", ("monthly",)), (in_a_year, "year", ("annual", "yearly"))):
        for cost in costs:
            said = [f"{cost} per {unit}", f"{cost} a {unit}", f"total {cost} per {unit}"]
            yield from (
                (phrase, told, 1.05) for phrase in (*said, *(f"{adjective} {cost}" for adjective in adjectives))
            )


def _names_of(vocabulary: Vocabulary, table: str) -> Iterator[str]:
    """What the rows of a table are called, one and many: the whole name and its last word."""
    parts = name_parts(table)
    for name in dict.fromkeys((" ".join(parts), parts[-1])) if parts else ():
        yield name
        if name.endswith("s"):
            yield name.removesuffix("s")


_TOLD_IN_PARTS = stems(
    "parts part labour labor materials material callout travel sundries fitting installation consumables"
)
_BESIDE_A_BILL = stems("paid deposit vat tax discount balance due refund refunded tip")


def billed_in_parts(vocabulary: Vocabulary, table: str) -> m.Expr | None:
    """What a job comes to, where it is told in parts alone: for parts, for labour, for travel."""
    money = [
        ColumnKey(table, c.name)
        for c in vocabulary.table(table).columns
        if c.is_measure and c.role is Role.MONEY and c.role.is_summed
    ]
    money = [k for k in money if not {*vocabulary.columns[k].parts} & _BESIDE_A_BILL]
    named = [k for k in money if {*vocabulary.columns[k].parts} & _TOLD_IN_PARTS]
    plain = all(not {*vocabulary.columns[k].parts} & (_COST | _PRICE | _WHOLE) - _TOLD_IN_PARTS for k in named)
    return m.added_up(m.Col(k) for k in named) if len(named) > 1 and named == money and plain else None


def _is_of_stock(vocabulary: Vocabulary, table: str) -> bool:
    """True for a list of goods with how many there are and what each sells for."""
    columns = [
        {*vocabulary.columns[ColumnKey(table, c.name)].full} for c in vocabulary.table(table).columns if c.is_measure
    ]
    return any(words & _IN_STOCK for words in columns) and any(words & _PRICE for words in columns)


def may_be_stock(vocabulary: Vocabulary, table: str, found: Trade) -> bool:
    """True where the quantity of a table may lie in store: it is called so, or the rows happened on no day."""
    keys = m.columns_in(found.quantity) if found.quantity is not None else []
    if any(_IN_STOCK & {*vocabulary.columns[k].parts} for k in keys):
        return True
    # The lines of an order were sold on the day of the order.
    sold_on = [r.other for r in vocabulary.catalogue.parents(table) if _SELLING & {*vocabulary.tables[r.other].parts}]
    return not any(c.type.is_time for name in (table, *sold_on) for c in vocabulary.table(name).columns)


_IN_STOCK = stems("stock hand inventory soh")
_CHARGED_IN_ALL = stems("charge price fee bill due paid")
_WORKERS = stems("staff employee employees worker workers payroll rota shift shifts wages")


def _is_work(vocabulary: Vocabulary, table: str) -> bool:
    """True for the hours of those who are paid for them: hours at a rate are a cost there, and no takings."""
    return bool(_WORKERS & set(vocabulary.tables[table].parts))


_A_TIME = {"daily": "day", "nightly": "night", "hourly": "hour", "weekly": "week", "monthly": "month"}


def _unit_of(parts: list[str]) -> str | None:
    """The stem of what a price is for: the day of a daily rate, the tonne of a price per tonne."""
    if len(parts) > 2 and parts[-2] == "per":
        return stem(parts[-1])
    return next((stem(_A_TIME[p]) for p in parts if p in _A_TIME), None)


def _unit_priced(price: m.Expr) -> str | None:
    """What a price is for by its name, such as the keg of a price per keg."""
    parts = name_parts(price.key.column) if isinstance(price, m.Col) else []
    return parts[-1] if len(parts) > 2 and parts[-2] == "per" else None


def _measured_in(vocabulary: Vocabulary, table: str, unit: str, price: m.Expr | None) -> m.Expr | None:
    """How many of a unit there are on the rows of a table: a column called so, else the days from first to last."""
    for key, _, words in _columns(vocabulary, table):
        if key.table == table and not words & (_COST | _PRICE) and vocabulary.columns[key].head == unit:
            return m.Col(key)
    pairs = time_pairs(vocabulary, table)
    if unit in (stem("day"), stem("night")) and pairs and price is not None and _stands_on(price, table):
        return m.Length("days", m.Col(pairs[0][0]), m.Col(pairs[0][1]))
    return None


_TAKEN_OFF = stems("discount rebate")


def _kept_of(vocabulary: Vocabulary, table: str) -> m.Expr | None:
    """What is left of a price once the discount in per cent on the same row is taken off."""
    for column in vocabulary.table(table).columns:
        key = ColumnKey(table, column.name)
        if column.role is Role.PERCENTAGE and column.high is not None and own_words(vocabulary, key) & _TAKEN_OFF:
            whole = m.Number(1.0 if float(column.high) <= 1 else 100.0)
            return m.Arithmetic("/", m.Arithmetic("-", whole, m.Col(key)), whole)
    return None


def _taken_off(vocabulary: Vocabulary, table: str, found: Trade) -> Iterator[tuple[str, m.Expr, float]]:
    """What the discount in per cent comes to in money."""
    kept = _kept_of(vocabulary, table)
    if kept is None or found.quantity is None or found.price is None:
        return
    assert isinstance(kept, m.Arithmetic) and isinstance(kept.left, m.Arithmetic)
    part = m.Arithmetic("/", kept.left.right, kept.right)
    amount = m.Arithmetic("*", m.Arithmetic("*", found.quantity, found.price), part)
    for phrase in ("discount amount", "total discount", "discount given", "discount in total", "discounts", "discount"):
        yield phrase, amount, 0.9 if " " in phrase else 0.8
    yield "discount given away", amount, 0.92


_SPENT_ON = stems(
    "cost costs expense expenses purchase purchases material materials supply supplies procurement spending"
)
SPENT = (
    "cost",
    "costs",
    "total cost",
    "total costs",
    "spend",
    "spent",
    "spending",
    "total spend",
    "expenses",
    "expenditure",
    "outlay",
    "amount",
    "amount spent",
    "money spent",
)


def spent_on(vocabulary: Vocabulary, table: str) -> m.Expr | None:
    """What the house paid for what a table lists: so many of each at so much."""
    found = trade(vocabulary, table)
    return found.cost if found.revenue is None and _is_spent(vocabulary, table) else None


def _is_spent(vocabulary: Vocabulary, table: str) -> bool:
    """True for lines of what the house bought, where no customer stands beside them: their price is what they cost."""
    sold = any(BUYERS & {*vocabulary.tables[r.other].parts} for r in vocabulary.catalogue.parents(table))
    named = [({*name_parts(c.name)}, c.type.is_time) for c in vocabulary.table(table).columns]
    bought = any(is_time and {"bought", "purchased"} & parts for parts, is_time in named)
    sold = sold or any({"sold", "sale", "selling"} & parts for parts, _ in named)
    dated = any(is_time for _, is_time in named)
    return dated and not sold and (bought or bool(_SPENT_ON & {*vocabulary.tables[table].parts}))


def _over_costs(vocabulary: Vocabulary) -> Iterator[tuple[str, m.Quantity, float]]:
    """What is left of what was sold after what was spent, where each is told in a table of its own."""
    sold, spent = [], []
    for table, words in vocabulary.tables.items():
        money = [m.Col(ColumnKey(table, c.name)) for c in vocabulary.table(table).columns if c.role is Role.MONEY]
        if _SPENT_ON & {*words.parts}:
            spent += money if len(money) == 1 else []
        elif (
            _SELLING & {*words.parts} and (found := trade(vocabulary, table)).revenue is not None and found.cost is None
        ):
            sold.append(found.revenue)
    if len(sold) == len(spent) == 1:
        left = m.Combined("-", m.Aggregated("sum", sold[0]), m.Aggregated("sum", spent[0]))
        yield from ((phrase, left, 0.9) for phrase in PROFIT)


def _stands_on(expr: m.Expr, table: str) -> bool:
    return isinstance(expr, m.Col) and expr.key.table == table


def derived_measures(vocabulary: Vocabulary, day: dt.date) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """(phrase, what it means, how sure) for every measure that the columns make."""
    held = {p for words in vocabulary.columns.values() for p in words.parts}
    totals = any(
        c.role is Role.MONEY and vocabulary.columns[ColumnKey(t.name, c.name)].head in GENERIC_MONEY - _COST - _PRICE
        for t in vocabulary.catalogue.tables
        # What was spent is no total of what is sold.
        if not _SPENT_ON & {*vocabulary.tables[t.name].parts}
        for c in t.columns
    )
    yield from _losses(vocabulary)
    if stem("profit") not in held:
        yield from _over_costs(vocabulary)
    trades = {table: trade(vocabulary, table) for table in vocabulary.tables}
    kept = {table for table, found in trades.items() if may_be_stock(vocabulary, table, found)}
    sold = any(isinstance(found.quantity, m.Col) for table, found in trades.items() if table not in kept)
    for table, found in trades.items():
        stocked = table in kept
        # Only a table that has a part of it itself makes the measure; what is sold elsewhere brings nothing in store.
        gains = not (stocked and sold) and stem("profit") not in held
        if found.revenue is not None and found.cost is not None and gains:
            profit: m.Expr = m.Arithmetic("-", found.revenue, found.cost)
            if isinstance(found.revenue, m.Col) and name_parts(found.revenue.key.column)[1:] == ["for"]:
                # Of what is not sold yet there is no profit.
                profit = m.Given(profit, m.Not(m.Missing(found.revenue.key)))
            yield from ((phrase, profit, 0.85) for phrase in PROFIT)
            total = m.Aggregated("sum", found.revenue)
            margin = m.Combined("/", m.Aggregated("sum", profit), total, True)
            if stem("margin") not in held:
                yield from ((phrase, margin, 0.85) for phrase in MARGIN)
        if isinstance(found.cost, m.Arithmetic) and found.cost.op == "+":
            # Several costs of one row are its total cost.
            for phrase in ("total cost", "total costs", "all costs", "overall cost", "overall costs", "cost in total"):
                yield phrase, m.Aggregated("sum", found.cost), 0.97
            yield from ((phrase, found.cost, 0.88) for phrase in ("cost", "costs"))
            yield from ((phrase, found.cost, 0.8) for phrase in ("spending", "spend", "expenses", "expenditure"))
        gain = next((k for k, c, w in _columns(vocabulary, table) if k.table == table and stem("profit") in w), None)
        if gain is not None and found.revenue is not None and stem("margin") not in held:
            rate = m.Combined("/", m.Aggregated("sum", m.Col(gain)), m.Aggregated("sum", found.revenue), True)
            yield from ((phrase, rate, 0.9) for phrase in MARGIN)
        if found.price is not None and found.unit_cost is not None and stem("profit") not in held:
            each = m.Arithmetic("-", found.price, found.unit_cost)
            yield from ((phrase, m.Arithmetic("/", each, found.unit_cost), 0.85) for phrase in MARKUP)
            unit = _unit_priced(found.price)
            for phrase in PROFIT:
                if unit is not None:
                    yield f"{phrase} per {unit}", each, 0.95
                yield phrase + " per unit", each, 0.9
                yield phrase + " each", each, 0.85
                yield "unit " + phrase, each, 0.85
            if found.quantity is None:
                yield from ((phrase, each, 0.6) for phrase in PROFIT)
        if isinstance(found.quantity, m.Col) and not stocked:
            key = found.quantity.key
            counted = key.table == table and vocabulary.column(key).type is Type.INTEGER
            yield from ((phrase, found.quantity, 0.7) for phrase in ("units", "items", "pieces") if counted)
            if counted and _SELLING & {*vocabulary.tables[table].parts}:
                yield from ((phrase, found.quantity, 0.98) for phrase in _UNITS_SOLD)
        if found.revenue is not None and found.revenue == found.price and not totals:
            income = m.Aggregated("sum", found.revenue)
            yield from ((phrase, income, 0.74) for phrase in WORTH if phrase not in ("value", "worth", "order value"))
            yield from ((phrase, found.revenue, 0.74) for phrase in ("amount", "amounts"))
        if (
            found.quantity is not None
            and found.price is not None
            and not (found.written or totals or _is_work(vocabulary, table))
            and not _THROWN_AWAY & {*vocabulary.tables[table].parts}
        ):
            worth = found.revenue or m.Arithmetic("*", found.quantity, found.price)
            # What a table of sales comes to is its sales, whatever else there is.
            sure = 0.9 if _SELLING & {*vocabulary.tables[table].parts} else 0.74
            spoken_of = [
                p
                for p in WORTH
                # What is in stock is worth something, and brings in what is sold elsewhere.
                if not (stocked and sold and not {"value", "worth", "stock"} & {*p.split()})
                and (stocked or "stock" not in p)
                and not (p == "spend" and isinstance(found.cost, m.Col))
            ]
            yield from ((p, worth, 1.1 if "stock" in p else sure) for p in spoken_of)
            yield from ((phrase, worth, 0.95) for phrase in _TOOK if sure > 0.74)
            if sure > 0.74 and len(name_parts(table)) > 1:
                # Ticket income is what the ticket sales come to.
                yield from ((f"{name_parts(table)[0]} {word}", worth, 0.97) for word in _TAKINGS)
        if found.quantity is not None and found.unit_cost is not None:
            at_cost = m.Arithmetic("*", found.quantity, found.unit_cost)
            yield from ((p, at_cost, 1.1 if "stock" in p else 0.85) for p in AT_COST if stocked or "stock" not in p)
            if stocked and found.price is None:
                # What is sold to nobody is worth what it cost.
                yield from ((p, at_cost, 1.0) for p in WORTH if "stock" in p)
            if found.cost == at_cost and _is_spent(vocabulary, table):
                yield from ((phrase, at_cost, 0.9) for phrase in SPENT)
        if found.revenue is None and isinstance(found.cost, m.Col) and found.cost.key.table == table:
            yield from ((phrase, found.cost, 0.85) for phrase in SPENT if not phrase.endswith(("cost", "costs")))
        yield from _for_what(vocabulary, table, found)
        yield from _output(vocabulary, table)
        yield from _worth_of_each(vocabulary, table, found)
        yield from _at_their_price(vocabulary, table, found)
        yield from _taken_off(vocabulary, table, found)
        yield from _named_whole(vocabulary, table)
        yield from _room(vocabulary, table)
        yield from _parts_of(vocabulary, table)
        yield from _both_kinds(vocabulary, table)
        yield from _of_energy(vocabulary, table)
        yield from _all_alike(vocabulary, table)
        yield from _of_the_most(vocabulary, table)
        yield from _balances(vocabulary, table)
        yield from by_their_sign(vocabulary, table)
        yield from held_at_two_prices(vocabulary, table)
        yield from recurring(vocabulary, table)
        yield from moved_by_their_sign(vocabulary, table)
        yield from _density(vocabulary, table)
        yield from _of_all_heads(vocabulary, table)
        yield from _yields(vocabulary, table, held)
        yield from _price_per_measure(vocabulary, table, found)
        yield from _pace(vocabulary, table, held)
        yield from _worth_of_one(vocabulary, table)
        yield from _attendance(vocabulary, table)
        yield from _commissions(vocabulary, table)
        yield from _owed(vocabulary, table, held)
        yield from _owed_on_lines(vocabulary, table, found)
        yield from _service(vocabulary, table, day)
        yield from _named_lengths(vocabulary, table)
        yield from _pipelines(vocabulary, table)
        yield from _per_docket(vocabulary, table, found)
        yield from _wages(vocabulary, table, held)
        yield from _ages(vocabulary, table, day, held)
        yield from _nights(vocabulary, table)
        yield from _come_down(vocabulary, table)
        yield from _turnout(vocabulary, table)
        yield from _after_costs(vocabulary, table)
        yield from _written(vocabulary, table)
        yield from _time_lost(vocabulary, table)
        yield from _paid_towards(vocabulary, table)
        yield from _waits(vocabulary, table)
        yield from _net_scores(vocabulary, table)
        billed = billed_in_parts(vocabulary, table)
        if billed is not None:
            yield from ((phrase, billed, 0.85) for phrase in (*WORTH, *_CALLED_A_BILL) if phrase not in PROFIT)
            for part in m.columns_in(billed):
                # The cost of labour is a part of what a job costs.
                told = " ".join(name_parts(part.column))
                yield from (
                    (f"{told} {cost}", m.Col(part), 0.98) for cost in ("cost", "costs", "charge", "charges", "bill")
                )
                yield from ((f"{cost} of {told}", m.Col(part), 0.98) for cost in ("cost", "costs"))


_CALLED_A_BILL = (
    "bill",
    "bills",
    "charge",
    "charges",
    "amount",
    "amounts",
    "total bill",
    "total charge",
    "price",
    "cost",
    "costs",
)


_RECOMMENDED = stems("recommend recommendation recommended nps promoter")
_NET_SCORES = (
    "net promoter score", "net promoter scores", "nps", "net score", "net recommend score", "net recommendation score",
    "net promoters", "promoter score", "net recommendation",
)  # fmt: skip
_PROMOTING = 9
_DETRACTING = 6


def recommendations(vocabulary: Vocabulary, table: str) -> Iterator[tuple[ColumnKey, m.Condition, m.Condition]]:
    """How likely people are to recommend, from 0 to 10, with who promotes (9 or 10) and who detracts (0 to 6)."""
    for column in vocabulary.table(table).columns:
        key = ColumnKey(table, column.name)
        words = vocabulary.columns[key]
        graded = column.type is Type.INTEGER and column.high == "10" and column.low in ("0", "1")
        if graded and _RECOMMENDED & {*words.full, *words.described}:
            rate = m.Col(key)
            promotes, detracts = (
                m.Compared(">=", rate, m.Number(_PROMOTING)),
                m.Compared("<=", rate, m.Number(_DETRACTING)),
            )
            yield key, promotes, detracts


def _net_scores(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Quantity, float]]:
    """The share of those who promote less that of those who detract, of all who said how likely they are to recommend."""
    for key, promotes, detracts in recommendations(vocabulary, table):
        said = (m.Not(m.Missing(key)),) if vocabulary.column(key).missing else ()
        share, other = (m.ShareOf((met,), table, None, said) for met in (promotes, detracts))
        yield from ((phrase, m.Combined("-", share, other), 0.97) for phrase in _NET_SCORES)


_STANDING = stems("stoppage stop downtime outage breakdown interruption standstill closure halt")
_TIME_LOST = ("downtime", "down time", "lost time", "time lost", "standing time", "time standing still", "idle time")
_LOST_IN = (
    "{} lost", "lost {}", "{} of downtime", "downtime {}", "downtime in {}", "{} down", "{} of stoppage", "{} of stoppages",
    "stopped {}", "{} stopped", "{} of outage", "{} of standstill", "{} standing still", "{} out of action",
)  # fmt: skip


_SECONDS = {"minutes": 60.0, "mins": 60.0, "min": 60.0, "hours": 3600.0, "hrs": 3600.0, "hour": 3600.0, "days": 86400.0}
"""How many seconds there are in what a column of a length of time is called after."""


def _time_lost(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Quantity, float]]:
    """How long things stood still: from when each stoppage began to when it ended, or as told on it, added up."""
    moments = [
        pair
        for pair in time_pairs(vocabulary, table)
        if all(vocabulary.column(key).type in (Type.TIMESTAMP, Type.TIME) for key in pair)
    ]
    timed = [
        (m.Col(ColumnKey(table, c.name)), _SECONDS[part])
        for c in vocabulary.table(table).columns
        for part in name_parts(c.name)
        if c.is_measure and part in _SECONDS
    ]
    if len(moments) + len(timed) != 1 or not _STANDING & set(vocabulary.tables[table].parts):
        return
    units: tuple[m.LengthUnit, ...] = ("hours", "minutes", "days")
    for unit in units:
        if timed:
            told, seconds = timed[0]
            many = _SECONDS[unit] / seconds
            lasted = m.Aggregated("sum", told if many == 1 else m.Arithmetic("/", told, m.Number(many)))
        else:
            lasted = m.Aggregated("sum", m.Length(unit, *(m.Col(key) for key in moments[0])))
        yield from ((phrase.format(unit), lasted, 0.97) for phrase in _LOST_IN)
        if unit == "hours":
            yield from ((phrase, lasted, 0.97) for phrase in _TIME_LOST)


SOUND = stems("good ok passed accepted sound usable fine")
"""What a number of those that came out well is called."""
SPOILED = stems("scrap scrapped reject rejected rejects failed bad defective defects waste wasted faulty spoiled")
_MADE = stems("output produced made manufactured produce make")
_OUTPUT = (
    "output", "production", "produced", "made", "units produced", "units made", "pieces made", "volume produced", "good output",
    "total output", "total production", "number produced", "quantity produced",
)  # fmt: skip


def _output(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Quantity, float]]:
    """What was made: what came out well, where what did not stands beside it and no column is called so."""
    measured = [
        (ColumnKey(table, c.name), {*vocabulary.columns[ColumnKey(table, c.name)].parts})
        for c in vocabulary.table(table).columns
        if c.is_measure and c.role.is_summed
    ]
    good = [key for key, parts in measured if parts & SOUND]
    if len(good) == 1 and any(p & SPOILED for _, p in measured) and not any(p & _MADE for _, p in measured):
        yield from ((phrase, m.Aggregated("sum", m.Col(good[0])), 0.95) for phrase in _OUTPUT)


_EXPECTED = frozenset(
    stem(w) for w in ["booked", "bookings", "enrolled", "registered", "invited", "expected", "signed"]
)
_PRESENT = frozenset(
    stem(w) for w in ["attended", "attendance", "present", "seen", "came", "turnout", "attendees", "showed"]
)
_STAYED_AWAY = (
    "never turned up", "did not turn up", "didn't turn up", "never came", "did not come", "didn't come", "no shows",
    "no-shows", "never showed up", "did not show up", "didn't show up", "did not attend", "didn't attend",
    "failed to attend", "failed to turn up", "missed it", "stayed away", "absentees",
)  # fmt: skip
_CAME = ("turned up", "came", "showed up", "actually came", "actually turned up", "were seen")
_DEDUCTED = frozenset(
    stem(w) for w in ["fee", "fees", "commission", "tax", "discount", "charge", "charges", "deduction"]
)


def _worth_of_each(vocabulary: Vocabulary, table: str, found: Trade) -> Iterator[tuple[str, m.Expr, float]]:
    """What those of one kind come to, where several numbers stand beside one price: the value of what was wasted."""
    if found.price is None and found.unit_cost is None:
        # What was made for an order is worth what is ordered by it.
        above = [trade(vocabulary, r.other) for r in vocabulary.catalogue.parents(table)]
        found = next((t for t in above if t.quantity is not None and t.price is not None), found)
    for each, starts, ends in (
        (found.price, ("value of", "value of the", "worth of", "price of all"), ("value", "worth")),
        (found.unit_cost, ("cost of", "cost of the"), ("cost",)),
    ):
        if each is None:
            continue
        for key, column, words in _columns(vocabulary, table):
            if key.table != table or column.role is not Role.QUANTITY or words & (_PRICE | _COST):
                continue
            worth = m.Arithmetic("*", m.Col(key), each)
            name = " ".join(name_parts(key.column))
            # What was wasted is also the waste; scrap is what the scrap units are.
            bare = re.sub(r" (?:units?|pieces|pcs|qty|quantity|count)$", "", name)
            for said in dict.fromkeys((name, name.removesuffix("d"), name.removesuffix("ed"), bare)):
                yield from ((f"{start} {said}", worth, 1.0) for start in starts)
                yield from ((f"{said} {end}", worth, 0.9) for end in ends)


def _at_their_price(
    vocabulary: Vocabulary, table: str, found: Trade
) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """What was sold at the price that was in force, where prices stand in a list with the day from which they hold."""
    catalogue = vocabulary.catalogue
    quantity = next(
        (m.Col(k) for k, c, parts in _columns(vocabulary, table) if c.is_measure and _QUANTITY & parts), None
    )
    if quantity is None or found.price is not None or catalogue.table(table).time_column is None:
        return
    for other in catalogue.tables:
        history = history_of(catalogue, other.name)
        if history is None or other.name == table or catalogue.path(table, history.link.other) is None:
            continue
        price = next((k for k, c, parts in _columns(vocabulary, other.name) if c.is_measure and _PRICE & parts), None)
        if price is not None:
            worth = m.Arithmetic("*", quantity, m.AsAt(price))
            names = (
                *WORTH,
                "revenue",
                "sales revenue",
                "turnover",
                "income",
                "sales value",
                "total value",
                "sales in money",
            )
            yield from ((phrase, worth, 0.9) for phrase in names)


def _turnout(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """Of those who were booked how many came, and how many did not, where both numbers stand on a row."""
    expected = next((k for k in told_by(vocabulary, table, _EXPECTED) if is_count(vocabulary, k)), None)
    present = next((k for k in told_by(vocabulary, table, _PRESENT) if k != expected and is_count(vocabulary, k)), None)
    if expected is None or present is None:
        return
    away = m.Aggregated("sum", m.Arithmetic("-", m.Col(expected), m.Col(present)))
    yield from ((phrase, away, 0.95) for phrase in _STAYED_AWAY)
    missed = m.Combined("/", away, m.Aggregated("sum", m.Col(expected)), True)
    yield from ((phrase, missed, 0.97) for phrase in ("no show rate", "no-show rate", "no shows rate", "absence rate"))
    yield from ((phrase, m.Aggregated("sum", m.Col(present)), 0.9) for phrase in _CAME)


def is_count(vocabulary: Vocabulary, key: ColumnKey) -> bool:
    """True for whole numbers."""
    return vocabulary.column(key).type is Type.INTEGER


def _after_costs(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """What is left after the fees, where these are of the amount on the same row."""
    money = [
        ColumnKey(table, c.name)
        for c in vocabulary.table(table).columns
        if c.is_measure and c.role is Role.MONEY and c.role.is_summed
    ]
    deducted = [k for k in money if _DEDUCTED & {*vocabulary.columns[k].parts}]
    whole = [k for k in money if k not in deducted and not (_COST | _PRICE) & {*vocabulary.columns[k].parts}]
    if len(deducted) == 1 and len(whole) == 1:
        left = m.Arithmetic("-", m.Col(whole[0]), m.Col(deducted[0]))
        for name in {vocabulary.columns[deducted[0]].head, *name_parts(deducted[0].column)}:
            for word in (name, f"{name}s"):
                yield from ((f"{start} {word}", left, 0.95) for start in ("left after", "net of", "remains after"))
                yield f"after {word}", left, 0.9


_WORTH = stems("value worth nbv")
_AS_IT_IS = stems("current book net now written")
_LOST_IN_WORTH = (
    "depreciation", "total depreciation", "loss in value", "lost in value", "loss of value", "lost value", "value lost",
    "fall in value", "drop in value", "fallen in value", "dropped in value",
)  # fmt: skip
_TAKEN_OFF_PRICE = (
    "discount", "discount from asking price", "discount on asking price", "discount off asking price", "reduction",
    "price reduction", "discount from list price", "discount off list price", "amount off", "money off",
)  # fmt: skip


def _come_down(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """What a thing has lost of its price since it was bought, and what a price came down from the one that was asked."""
    found = [(k, w) for k, c, w in _columns(vocabulary, table) if k.table == table and c.is_measure]
    priced = [
        k for k, w in found if w & (_PRICE | _COST | stems("paid sold")) and not w & (OFFERED | _WORTH | _PER - _PRICE)
    ]
    worth = [k for k, w in found if w & _WORTH and w & _AS_IT_IS]
    asked = [k for k, w in found if w & ASKED and not w & _RATED - _PRICE - OFFERED]
    if len(worth) == 1 and len(priced) == 1:
        lost = m.Arithmetic("-", m.Col(priced[0]), m.Col(worth[0]))
        yield from ((phrase, lost, 0.97) for phrase in _LOST_IN_WORTH)
    if len(asked) == 1 and len(priced) == 1 and not any(w & _TAKEN_OFF for _, w in found):
        off = m.Arithmetic("-", m.Col(asked[0]), m.Col(priced[0]))
        yield from ((phrase, off, 0.9) for phrase in _TAKEN_OFF_PRICE)


_ARRIVING = frozenset(stem(w) for w in ["arrival", "arrives", "arrive", "arr", "checkin"])
_LEAVING = frozenset(stem(w) for w in ["departure", "departs", "depart", "dep", "checkout"])
_FORMULA = re.compile(
    r"(?P<name>[a-z][a-z ]{2,30}?)\s*=\s*(?P<one>[a-z_][a-z_ ]*?)\s*"
    r"(?P<op>[-−–*/×÷+]|minus|less|times|plus|divided by|over)\s*(?P<two>[a-z_][a-z_ ]*)"
)
_SIGNS = {
    "-": "-", "−": "-", "–": "-", "minus": "-", "less": "-", "*": "*", "×": "*", "times": "*", "+": "+",
    "plus": "+", "/": "/", "÷": "/", "divided by": "/", "over": "/",
}  # fmt: skip


def _nights(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """How many nights a stay has: the days from arrival to departure, where no column says it."""
    dates = [ColumnKey(table, c.name) for c in vocabulary.table(table).columns if c.type.is_time]
    first = next((k for k in dates if _tells_of(vocabulary, k, _ARRIVING, ["check", "in"])), None)
    last = next((k for k in dates if _tells_of(vocabulary, k, _LEAVING, ["check", "out"])), None)
    told = {p for c in vocabulary.table(table).columns for p in name_parts(c.name)} & {"nights", "night", "nts"}
    if first is not None and last is not None and first != last and (not told or _are_priced(vocabulary, table)):
        stay = m.Length("days", m.Col(first), m.Col(last))
        yield from ((phrase, stay, 1.0) for phrase in ("nights", "length of stay", "length of the stay", *_NIGHTS))
        yield from ((phrase, m.Aggregated("sum", stay), 1.1) for phrase in _NIGHTS_IN_ALL)
    elif not told and not any("stay" in name_parts(c.name) for c in vocabulary.table(table).columns):
        for came, went in time_pairs(vocabulary, table):
            if {"discharge", "discharged"} & {*name_parts(went.column)} and went.table == came.table:
                stay = m.Length("days", m.Col(came), m.Col(went))
                yield from ((phrase, stay, 1.0) for phrase in _STAYS)
                return


def _are_priced(vocabulary: Vocabulary, table: str) -> bool:
    """True where nights are spoken of only in the price of one: the price per night."""
    named = (name_parts(c.name) for c in vocabulary.table(table).columns)
    return all({"per", "rate", "price"} & {*parts} for parts in named if {"nights", "night", "nts"} & {*parts})


_STAYS = (
    "stay",
    "stays",
    "length of stay",
    "length of the stay",
    "length of stays",
    "hospital stay",
    "stay length",
    "stayed",
)
_NIGHTS = ("nights stayed", "nights booked", "room nights", "bed nights")
_NIGHTS_IN_ALL = ("number of nights", "how many nights", "total nights", "total number of nights", "nights sold")


def _tells_of(vocabulary: Vocabulary, key: ColumnKey, words: frozenset[str], said: list[str]) -> bool:
    """True for a day that is called by one of some words, or by two that are said together: check in."""
    return bool(own_words(vocabulary, key) & words) or name_parts(key.column)[:2] == said


def _written(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """What a description says how to work out: nights = departure - arrival."""
    for column in vocabulary.table(table).columns:
        for clause in re.split(r"[;.\n(),]", column.description.lower()):
            found = _FORMULA.fullmatch(clause.strip())
            if found is None:
                continue
            keys = [_operand(vocabulary, table, found[part]) for part in ("one", "two")]
            one, two = keys
            if one is None or two is None or one == two:
                continue
            op = _SIGNS[found["op"]]
            kinds = [vocabulary.column(k).type for k in (one, two)]
            if all(k.is_number for k in kinds):
                yield found["name"].strip(), m.Arithmetic(op, m.Col(one), m.Col(two)), 0.97  # type: ignore[arg-type]
            elif op == "-" and all(k.is_time for k in kinds):
                yield found["name"].strip(), m.Length("days", m.Col(two), m.Col(one)), 0.97


def _operand(vocabulary: Vocabulary, table: str, words: str) -> ColumnKey | None:
    """The column of a table that some words of a formula mean."""
    plain = next((c.name for c in vocabulary.table(table).columns if c.name.lower() == words.strip()), None)
    if plain is not None:
        return ColumnKey(table, plain)
    found = vocabulary.columns_for(tuple(stem(w) for w in words.split()))
    return next((key for score, key in found if key.table == table and score >= 0.6), None)


def told_by(vocabulary: Vocabulary, table: str, ideas: frozenset[str]) -> Iterator[ColumnKey]:
    """The measures on a table's own rows that are called or described by one of some stems."""
    keys = (ColumnKey(table, c.name) for c in vocabulary.table(table).columns if c.is_measure)
    return (k for k in keys if own_words(vocabulary, k) & ideas)


def _most_of(vocabulary: Vocabulary, table: str, taken: ColumnKey) -> ColumnKey | None:
    """The column that tells how many there may be of what another counts: the most passengers, beside the passengers."""
    told = {*name_parts(taken.column)}
    keys = (ColumnKey(table, c.name) for c in vocabulary.table(table).columns if c.is_measure)
    return next((k for k in keys if k != taken and {*name_parts(k.column)} - AT_MOST == told - AT_MOST), None)


def maxima(vocabulary: Vocabulary) -> frozenset[ColumnKey]:
    """The columns that tell how many there may be at most of what another column counts."""
    counted = {
        frozenset(name_parts(k.column))
        for k in vocabulary.columns
        if vocabulary.column(k).is_measure and not _bounds(k)
    }
    return frozenset(
        k for k in vocabulary.columns if _bounds(k) and frozenset(name_parts(k.column)) - AT_MOST in counted
    )


def _bounds(key: ColumnKey) -> bool:
    return bool(AT_MOST & {*name_parts(key.column)})


def _fill_of(vocabulary: Vocabulary, table: str, places: str) -> tuple[m.Expr, ColumnKey] | None:
    """How many are there on each row of a table, and how many may be, by a column of the table that has the places."""
    counted = [k for k in told_by(vocabulary, table, _FILLING | _SEATS) if vocabulary.column(k).type is Type.INTEGER]
    for taken in counted:
        if not _bounds(taken) and (most := _most_of(vocabulary, places, taken)) is not None:
            return m.Col(taken), most
    capacity = next(told_by(vocabulary, places, _CAPACITY), None)
    if capacity is None:
        return None
    filling = told_by(vocabulary, table, _FILLING) if table == places else iter(counted)
    beside = next((k for k in filling if k != capacity), None)
    taken_in = m.Col(beside) if beside is not None else admitted(vocabulary, table)
    return (taken_in, capacity) if taken_in is not None else None


def filled_beside(vocabulary: Vocabulary, table: str) -> tuple[m.Expr, m.Col] | None:
    """How many places are taken and how many there are, where a row tells both or what it points at has the places."""
    beside = _fill_of(vocabulary, table, table)
    if beside is not None:
        return beside[0], m.Col(beside[1])
    for place in dict.fromkeys(r.other for r in vocabulary.catalogue.parents(table)):
        above = _fill_of(vocabulary, table, place)
        if above is None or not isinstance(above[0], m.Col):
            continue
        taken, most = (vocabulary.column(k).median or 0.0 for k in (above[0].key, above[1]))
        rows, places = (vocabulary.table(t).rows for t in (table, place))
        if rows * taken > _OFTEN * places * most:
            # More than ever fit at once: each row fills the places anew, as showings do those of a screen.
            return above[0], m.Col(above[1])
    return None


def _taking(vocabulary: Vocabulary, table: str) -> tuple[str | None, ColumnKey | None]:
    """The longest table of rows that point at a table, and the column that says how many places each of them takes."""
    below = [r.table for r in vocabulary.catalogue.relationships if r.other == table]
    if not below:
        return None, None
    taken = max(below, key=lambda t: vocabulary.table(t).rows)
    whole = (k for k in told_by(vocabulary, taken, _SEATS) if vocabulary.column(k).type is Type.INTEGER)
    return taken, next(whole, None)


def filled_below(vocabulary: Vocabulary, table: str) -> tuple[m.Expr, m.Col] | None:
    """How many rows point at a thing with so many places, such as the signups of a class; None where they tell of seats."""
    capacity = next(told_by(vocabulary, table, _CAPACITY), None)
    key = vocabulary.table(table).key
    taken, seats = _taking(vocabulary, table)
    if capacity is None or key is None or taken is None or seats is not None:
        return None
    if not BOUGHT & {*vocabulary.tables[taken].parts}:
        return None
    return m.Below(m.Aggregated("count", table=taken), ColumnKey(table, key.name)), m.Col(capacity)


def room_for(taken: m.Expr, places: m.Col) -> m.Expr:
    """The places that there are for those who took some, once for each row that tells how many did."""
    told = m.columns_in(taken)[0]
    return places if told.table == places.key.table else m.Given(places, m.Not(m.Missing(told)))


def _room(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Quantity | m.Expr, float]]:
    """How full things are and what room is left in them: their places, against the rows that point at them."""
    capacity = next(told_by(vocabulary, table, _CAPACITY), None)
    beside = filled_beside(vocabulary, table)
    if beside is not None:
        capacity = beside[1].key
    if capacity is None:
        return
    below = [r.table for r in vocabulary.catalogue.relationships if r.other == table]
    taken, seats = _taking(vocabulary, table)
    room = m.Aggregated("sum", m.Col(capacity) if beside is None else room_for(*beside))
    if beside is not None:
        filled = m.Aggregated("sum", beside[0])
    elif any(filled_beside(vocabulary, t) is not None for t in below):
        # What is filled again and again has no room left for good.
        return
    elif taken is not None:
        # Where a booking is of several places, these are what fills the room.
        filled = m.Aggregated("sum", m.Col(seats)) if seats is not None else m.Aggregated("count", table=taken)
    else:
        return
    part_filled = m.Combined("/", filled, room, True)
    left: m.Quantity | m.Expr = m.Combined("-", room, filled)
    if beside is not None:
        # Where both stand on a row, each has so many.
        left = m.Arithmetic("-", beside[1], beside[0])
    yield from ((p, part_filled, 0.97) for p in HOW_FULL)
    yield from ((f"average {p}", part_filled, 1.0) for p in HOW_FULL if not p.startswith("how"))
    for name in ("places", "seats", "spaces", "capacity"):
        for share in ("percentage", "share", "percent", "proportion", "%"):
            for done in ("filled", "taken", "used", "full", "sold", "occupied", "booked"):
                yield f"{share} of {name} {done}", part_filled, 0.95
                yield f"{share} of {name} were {done}", part_filled, 0.95
    places = vocabulary.columns[capacity].head
    names = {"places", "spaces", "seats", *(n for n in name_parts(capacity.column) if stem(n) == places)}
    if beside is not None:
        # Passengers who left are no seats left.
        names -= {n for key in m.columns_in(beside[0]) for n in name_parts(key.column)}
    for name in names:
        for phrase in (
            f"{name} left",
            f"free {name}",
            f"{name} free",
            f"{name} available",
            f"available {name}",
            f"remaining {name}",
            f"empty {name}",
            f"unsold {name}",
            f"spare {name}",
            f"unfilled {name}",
        ):
            yield phrase, left, 0.9


_ADMITTED = stems(
    "adult adults child children kids member members concession concessions senior seniors student students infant infants"
    " pensioners families teenagers men women boys girls under over school schools group groups pupils"
)


def admitted(vocabulary: Vocabulary, table: str) -> m.Expr | None:
    """All of them together, where a row tells of so many adults and so many children; else None."""
    columns = [c for c in vocabulary.table(table).columns if c.role is Role.QUANTITY and c.type is Type.INTEGER]
    # Under 16s and over 60s are told by their age.
    kinds = [c for c in columns if {stem(p.rstrip("0123456789s") or "over") for p in name_parts(c.name)} <= _ADMITTED]
    if len(kinds) < 2:
        return None
    return m.added_up(m.Col(ColumnKey(table, c.name)) for c in kinds)


def kinds_apart(vocabulary: Vocabulary, table: str) -> Iterator[tuple[tuple[str, ...], dict[str, ColumnKey]]]:
    """What stands in one column for each kind, home goals and away goals: what it is, and the column of each kind."""
    by_kind: dict[tuple[str, ...], dict[str, ColumnKey]] = {}
    for key in (ColumnKey(table, c.name) for c in vocabulary.table(table).columns if c.role.is_summed):
        parts = name_parts(key.column)
        for kind in _TOLD_KINDS & set(parts):
            rest = tuple(p for p in parts if p != kind)
            by_kind.setdefault(rest, {})[kind] = key
    names = {tuple(name_parts(c.name)) for c in vocabulary.table(table).columns}
    for rest, kinds in by_kind.items():
        whole = next((w for w in WHOLES if len(w & set(kinds)) == len(kinds) > 1), None)
        if whole is not None and rest and rest not in names:
            yield rest, kinds


def _both_kinds(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """The goals of a match that has home goals and away goals: what stands in one column for each kind is added up."""
    for rest, kinds in kinds_apart(vocabulary, table):
        joint = m.added_up(m.Col(k) for k in kinds.values())
        for phrase in dict.fromkeys(
            (" ".join(rest), " ".join(rest).removesuffix("s"), " ".join(rest).rstrip("s") + "s")
        ):
            yield phrase, joint, 0.97


_ENERGIES = frozenset(["electricity", "electric", "gas", "oil", "heat", "heating", "lpg", "coal", "biomass"])
_OF_ENERGY = frozenset(["kwh", "mwh", "use", "usage", "used", "consumption", "energy"])


def _of_energy(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """Energy is electricity and gas together, where each has columns of its own: what was used, and what it cost."""
    by_what: dict[tuple[str, ...], list[ColumnKey]] = {}
    for column in vocabulary.table(table).columns:
        parts = name_parts(column.name)
        if column.role.is_summed and _ENERGIES & {*parts}:
            by_what.setdefault(tuple(p for p in parts if p not in _ENERGIES), []).append(ColumnKey(table, column.name))
    for what, keys in by_what.items():
        if len(keys) < 2:
            continue
        joint = m.added_up(m.Col(k) for k in keys)
        said = [" ".join(what)] if what else []
        if _OF_ENERGY.issuperset(what):
            said += ["", "use", "usage", "used", "consumption", *(f"use in {w}" for w in what)]
        for word in dict.fromkeys(said):
            yield from ((f"{lead} {word}".strip(), joint, 1.08) for lead in ("energy", "total energy"))


def _parts_of(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """A commission in per cent of the premium as an amount: the share that a column is of another."""
    for column in vocabulary.table(table).columns:
        told = _PERCENT_OF.search(column.description.lower())
        if told is None or not column.type.is_number:
            continue
        whole = word_stems(told["of"])
        for score, key in vocabulary.columns_for(whole[:3]) or vocabulary.columns_for(whole[:1]):
            if score >= 0.7 and vocabulary.column(key).is_measure and key.column != column.name:
                part = m.Arithmetic("/", m.Col(ColumnKey(table, column.name)), m.Number(100.0))
                amount = m.Arithmetic("*", m.Col(key), part)
                yield from (
                    (phrase, amount, 0.86) for phrase in (told["part"].strip(), f"{told['part'].strip()} amount")
                )
                break


_SPENT = stems("cost costs expense expenses spending expenditure outgoings overheads")
_BROUGHT_IN = stems("takings sales revenue revenues receipts earnings income proceeds bill")


def _named_whole(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """What a table is called by, where its columns hold the parts of it: costs of labour, materials and hire."""
    found = vocabulary.table(table)
    words = name_parts(table)
    if not words or stem(words[-1]) not in _SPENT | _BROUGHT_IN:
        return
    parts = [ColumnKey(table, c.name) for c in found.columns if c.is_measure and c.role.is_summed]
    side = _SPENT if stem(words[-1]) in _SPENT else _BROUGHT_IN
    named = [k for k in parts if own_words(vocabulary, k) & (_WHOLE | side)]
    if len(parts) < 2 or named or _counts_and_prices(vocabulary, table, parts):
        return
    whole = m.added_up(m.Col(k) for k in parts)
    spent = stem(words[-1]) in _SPENT
    names = {words[-1], *(("cost", "costs", "spending", "expenses") if spent else ("takings", "sales", "revenue"))}
    for name in sorted(names):
        yield name, whole, 0.86
        yield f"all {name}", m.Aggregated("sum", whole), 0.93
        yield f"total {name}", m.Aggregated("sum", whole), 0.93
        yield f"{name} in total", m.Aggregated("sum", whole), 0.93


def _counts_and_prices(vocabulary: Vocabulary, table: str, parts: list[ColumnKey]) -> bool:
    """True where some numbers of a table say how many and others how much: these are no parts of one whole."""
    priced = any(words & _PRICE for key, _, words in _columns(vocabulary, table) if key.table == table)
    money = [vocabulary.column(k).role is Role.MONEY for k in parts]
    return priced or any(money) != all(money)


_IN_AND_OUT = (
    ("in", "out"), ("money in", "money out"), ("paid in", "paid out"), ("income", "expenditure"), ("credit", "debit"),
    ("receipts", "payments"), ("income", "expenses"), ("deposits", "withdrawals"),
)  # fmt: skip
"""The heads of two columns of which one says what came in and the other what went out."""
_LEFT_OVER = ("balance", "net", "net total", "surplus", "net position", "what is left", "net income", "closing balance")


def _balances(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Quantity, float]]:
    """What comes in less what goes out: of rows that say which they are, or in two columns beside each other."""
    beside = {
        " ".join(name_parts(c.name)): ColumnKey(table, c.name) for c in vocabulary.table(table).columns if c.is_measure
    }
    for coming, going in _IN_AND_OUT:
        if coming in beside and going in beside:
            came, went = (m.Aggregated("sum", m.Col(beside[head])) for head in (coming, going))
            yield from ((phrase, m.Combined("-", came, went), 0.95) for phrase in _LEFT_OVER)
    amount = vocabulary.weights.get(table) or next(
        (ColumnKey(table, c.name) for c in vocabulary.table(table).columns if c.is_measure and c.role is Role.MONEY),
        None,
    )
    if amount is None:
        return
    for column in vocabulary.table(table).columns:
        if column.type is not Type.TEXT or not 2 <= column.distinct <= 6:
            continue
        stems = {word_stems(v): v for v in column.values}
        for more, less, phrases in _OPPOSED:
            one = next((stems[w] for w in ((stem(p),) for p in more.split()) if w in stems), None)
            two = next((stems[w] for w in ((stem(p),) for p in less.split()) if w in stems), None)
            if one is not None and two is not None:
                key = ColumnKey(table, column.name)
                came, went = (m.Aggregated("sum", m.Col(amount), where=(m.Is(key, (v,)),)) for v in (one, two))
                yield from ((phrase, m.Combined("-", came, went), 0.9) for phrase in phrases)


def _yields(vocabulary: Vocabulary, table: str, held: set[str]) -> Iterator[tuple[str, m.Quantity, float]]:
    """What was grown on each hectare, where no column says it."""
    own = [
        (key, words) for key, column, words in _columns(vocabulary, table) if key.table == table and column.is_measure
    ]
    grown = next((k for k, w in own if w & _GROWN and not w & (_LAND | _PRICE)), None)
    land = next((k for k, w in own if w & _ACRES), None)
    if land is None and _PICKED & {*vocabulary.tables[table].parts}:
        # What was picked stands on its rows, and how large the plots are on those of the plots.
        grown = grown or next((k for k, _ in own if {*spaced(k.column).lower().split()} & _MEASURES), None)
        above = (r.other for r in vocabulary.catalogue.parents(table))
        land = next((k for t in above for k in told_by(vocabulary, t, _ACRES)), None)
    if grown is not None and land is not None and stem("yield") not in held:
        ratio = m.Combined("/", m.Aggregated("sum", m.Col(grown)), m.Aggregated("sum", m.Col(land)))
        phrases = ("yield", "yields", "average yield", *(f"yield per {w}" for w in ("hectare", "acre", "ha")))
        yield from ((phrase, ratio, 0.9 + 0.02 * phrase.count(" ")) for phrase in phrases)


_PICKED = stems("pickings harvests harvest picks crops crop yields cuts")
_ATTENDED = ("attendance", "attendance rate", "attendance percentage", "attendance figures")


def _attendance(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Quantity, float]]:
    """The share of those present, of a register that marks each as present or absent; how many come to a class."""
    came = next(
        (
            ColumnKey(table, c.name)
            for c in vocabulary.table(table).columns
            if c.type is Type.BOOLEAN and _PRESENT & {*name_parts(c.name), *(stem(p) for p in name_parts(c.name))}
        ),
        None,
    )
    held = next(
        (r.other for r in vocabulary.catalogue.parents(table) if _HELD & {*vocabulary.tables[r.other].parts}), None
    )
    if came is not None and held is not None:
        there = m.Aggregated("count", None, table, (m.Is(came, (True,)),))
        each = m.Combined("/", there, m.Aggregated("count", table=held))
        yield from ((phrase, each, 1.1) for phrase in ("average attendance", "mean attendance", "average turnout"))
    for column in vocabulary.table(table).columns:
        values = (
            {v.strip().lower(): v for v in column.values} if column.type is Type.TEXT and column.distinct < 12 else {}
        )
        if "present" in values and values.keys() & {"absent", "late", "missing"}:
            share = m.ShareOf((m.Is(ColumnKey(table, column.name), (values["present"],)),), table)
            yield from ((phrase, share, 0.97) for phrase in _ATTENDED)


_HELD = stems("classes sessions lessons events workshops meetings courses shows matches rehearsals trips")
_DEALS = stems("orders bookings sales transactions purchases tickets donations visits")
_BASKETS = ("average order value", "aov", "average basket", "average basket value", "average basket size")


def _worth_of_one(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Quantity, float]]:
    """The average value of an order, where a row tells of many: what they came to, over how many there were."""
    own = [(k, c) for k, c, _ in _columns(vocabulary, table) if k.table == table and c.is_measure]
    money = [k for k, c in own if c.role is Role.MONEY and c.role.is_summed]
    if len(money) > 1:
        # Of takings and snacks, the takings are what the tickets came to.
        money = [k for k in money if {*name_parts(k.column)} & {*_TAKINGS, "sales", "amount", "gross", "fares"}]
    told = {k: [p for p in vocabulary.columns[k].parts if p not in _SOLD_SO] for k, _ in own}
    deals = [k for k, c in own if c.role is Role.QUANTITY and told[k][-1:] and told[k][-1] in _DEALS]
    if len(money) != 1 or len(deals) != 1:
        return
    ratio = m.Combined("/", m.Aggregated("sum", m.Col(money[0])), m.Aggregated("sum", m.Col(deals[0])))
    one = singular([p for p in name_parts(deals[0].column) if stem(p) in _DEALS][-1])
    phrases = (f"average {one} value", f"average value of {one}", f"average value per {one}", f"average {one} size")
    yield from ((phrase, ratio, 1.2) for phrase in dict.fromkeys((*phrases, *(_BASKETS if one == "order" else ()))))
    priced = any(p in _PRICE for k, _ in own for p in vocabulary.columns[k].parts)
    if one in ("ticket", "admission") and not priced:
        yield from ((phrase.format(one), ratio, 1.2) for phrase in _PRICE_OF_ONE)


_UNITS_SOLD = (
    "units sold", "items sold", "pieces sold", "sold units", "quantity sold", "volume sold", "sales volume", "unit sales",
    "number sold", "number of units sold",
)  # fmt: skip
_SOLD_SO = stems("sold made issued taken number no")
_PRICE_OF_ONE = (
    "average {} price", "{} price", "average price per {}", "price per {}", "average price of a {}", "average price of {}s",
    "price of a {}", "mean {} price", "{} prices", "average {} prices",
)  # fmt: skip
_LASTED = stems("time duration minutes mins hours hrs moving elapsed taken")
_PACES = ("pace", "average pace", "mean pace", "running pace", "pace per km", "pace per mile")


def _pace(vocabulary: Vocabulary, table: str, held: set[str]) -> Iterator[tuple[str, m.Quantity, float]]:
    """The time that each kilometre took, where each row says how far and for how long."""
    own = [(k, c, w) for k, c, w in _columns(vocabulary, table) if k.table == table and c.is_measure]
    far = [k for k, c, w in own if c.role is Role.QUANTITY and w & stems("distance km miles") and not w & _LASTED]
    lasted = [k for k, c, w in own if c.type is Type.DURATION and w & _LASTED]
    if len(far) == len(lasted) == 1 and stem("pace") not in held:
        pace = m.Combined("/", m.Aggregated("sum", m.Col(lasted[0])), m.Aggregated("sum", m.Col(far[0])))
        yield from ((phrase, pace, 0.95) for phrase in _PACES)


def _price_per_measure(vocabulary: Vocabulary, table: str, found: Trade) -> Iterator[tuple[str, m.Quantity, float]]:
    """The price per litre, where each row says how many litres and what they came to."""
    money = [
        key
        for key, column, words in _columns(vocabulary, table)
        if key.table == table and column.role is Role.MONEY and not words & _BESIDE_A_BILL
    ]
    if found.price is not None or len(money) != 1:
        return
    units = lexicon.units()
    for key, column, _ in _columns(vocabulary, table):
        parts = name_parts(key.column)
        measured = key.table == table and column.role is Role.QUANTITY and parts[-1:]
        if measured and parts[-1] in units and units[parts[-1]].family != "temperature":
            ratio = m.Combined("/", m.Aggregated("sum", m.Col(money[0])), m.Aggregated("sum", m.Col(key)))
            for price in ("price", "average price", "unit price", "price paid", "average price paid"):
                yield from ((f"{price} {per} {singular(parts[-1])}", ratio, 0.97) for per in ("per", "a"))


def _paid_below(vocabulary: Vocabulary, table: str) -> ColumnKey | None:
    """The amounts of the payments that rows of a table have below them."""
    for link in vocabulary.catalogue.relationships:
        if link.other == table and _PAID & {*vocabulary.tables[link.table].parts}:
            money = (c for c in vocabulary.table(link.table).columns if c.role is Role.MONEY)
            return next((ColumnKey(link.table, c.name) for c in money), None)
    return None


def _losses(vocabulary: Vocabulary) -> Iterator[tuple[str, m.Quantity, float]]:
    """What was paid on claims, of the premiums of what they are claims on."""
    for link in vocabulary.catalogue.relationships:
        if stem("claim") not in vocabulary.tables[link.table].parts:
            continue
        paid = next(told_by(vocabulary, link.table, _PAID), None) or _paid_below(vocabulary, link.table)
        premium = next(told_by(vocabulary, link.other, stems("premium premiums")), None)
        if paid is not None and premium is not None:
            ratio = m.Combined("/", m.Aggregated("sum", m.Col(paid)), m.Aggregated("sum", m.Col(premium)))
            yield from ((phrase, ratio, 0.93) for phrase in ("loss ratio", "loss ratios", "claims ratio"))


def _commissions(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """What a percentage that stands on someone comes to, of what the rows below bring in."""
    catalogue = vocabulary.catalogue
    for column in catalogue.table(table).columns:
        words = [w for w in name_parts(column.name) if w in _EARNED]
        if not words or column.role is not Role.PERCENTAGE:
            continue
        part = m.Arithmetic("/", m.Col(ColumnKey(table, column.name)), m.Number(100.0))
        beside = next((c for c in catalogue.table(table).columns if c.role is Role.MONEY), None)
        if beside is not None:
            # The fee of so many per cent of a rent that stands beside it.
            earned = m.Arithmetic("*", m.Col(ColumnKey(table, beside.name)), part)
            said = (
                f"{words[0]} income",
                f"{words[0]}s",
                f"total {words[0]}s",
                f"{words[0]} earned",
                f"our {words[0]}s",
            )
            yield from ((phrase, earned, 0.95) for phrase in said)
        for below in (r.table for r in catalogue.relationships if r.other == table):
            found = trade(vocabulary, below).revenue or next(
                (m.Col(ColumnKey(below, c.name)) for c in catalogue.table(below).columns if c.role is Role.MONEY), None
            )
            if found is not None:
                earned = m.Arithmetic("*", found, part)
                for phrase in (f"{words[0]} earned", f"{words[0]} amount", f"total {words[0]}", f"{words[0]} paid"):
                    yield phrase, earned, 0.88


_DENSELY = (
    "population density", "density", "density of population", "densely populated", "densely settled",
    *(f"density per {unit}" for unit in ("hectare", "ha", "acre", "km2", "square kilometre", "sq km", "square mile")),
)  # fmt: skip


_NO_KINDS = stems(
    "gross net total planned actual budget budgeted target due paid owed unit min max minimum maximum first last previous"
    " estimated quoted expected average mean median list sale cost our their"
)


def _all_alike(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """What several columns of money are called alike by: shop takings and cafe takings are the takings."""
    heads: dict[str, list[m.Expr]] = {}
    for column in vocabulary.table(table).columns:
        parts = name_parts(column.name)
        if column.role is Role.MONEY and column.aggregate is None and len(parts) == 2 and parts[1] != "for":
            kinds = [] if stem(parts[0]) in _NO_KINDS else [m.Col(ColumnKey(table, column.name))]
            heads.setdefault(parts[1], []).extend(kinds or [m.Number(0.0)])
    for head, columns in heads.items():
        if len(columns) < 2 or m.Number(0.0) in columns or (stem(head),) in vocabulary.names_alone:
            continue
        whole = m.added_up(columns)
        yield from ((phrase, whole, 0.97) for phrase in (head, f"total {head}", f"all {head}", f"overall {head}"))


def _of_the_most(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Quantity, float]]:
    """What was reached of what could be: a score in per cent of the marks that a test is out of."""
    columns = [c for c in vocabulary.table(table).columns if c.type.is_number]
    most = next((c for c in columns if is_out_of(c.name)), None)
    place = columns.index(most) if most is not None else 0
    if most is None or not place or not columns[place - 1].is_measure:
        return
    reached, whole = (m.Aggregated("sum", m.Col(ColumnKey(table, c.name))) for c in (columns[place - 1], most))
    ratio = m.Combined("/", reached, whole, percent=True)
    for word in dict.fromkeys((spoken(columns[place - 1].name).lower(), "score", "mark", "marks", "result")):
        for said in ("percentage {}", "percent {}", "% {}", "{} percentage", "{} in percent", "average percentage {}"):
            yield said.format(word), ratio, 1.1


def _density(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Quantity, float]]:
    """How many people there are to each square of land, of the places that a table tells of."""
    people = vocabulary.weights.get(table)
    if people is not None and not _PEOPLE & {*own_words(vocabulary, people), *vocabulary.tables[table].parts}:
        return
    together = residing(vocabulary, table)
    elsewhere = any(residing(vocabulary, t) is not None for t in vocabulary.tables if t != table)
    if people is None and together is None and not elsewhere:
        named = [key for key, _, words in _columns(vocabulary, table) if key.table == table and words & _PEOPLE]
        people = next((k for k in named if own_words(vocabulary, k) & _ALL), named[0] if len(named) == 1 else None)
    all_there = together if people is None else m.Col(people)
    if all_there is None:
        return
    for key, column, words in _columns(vocabulary, table):
        if key != people and column.is_measure and words & _LAND and not words & _PEOPLE:
            ratio = m.Combined("/", m.Aggregated("sum", all_there), m.Aggregated("sum", m.Col(key)))
            yield from ((phrase, ratio, 0.95) for phrase in _DENSELY)
            return


def _of_all_heads(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """What stands in a table for each person, for all people there: the whole of what they produce."""
    columns = list(_columns(vocabulary, table))
    people = next(
        (k for k, c, words in columns if k.table == table and words & _PEOPLE and not words & FOR_A_HEAD), None
    )
    for key, column, words in columns if people is not None else ():
        what = [p for p in name_parts(key.column) if stem(p) not in FOR_A_HEAD and p != "per"]
        if key.table == table and column.is_measure and words & FOR_A_HEAD and what and people is not None:
            whole = m.Arithmetic("*", m.Col(key), m.Col(people))
            name = " ".join(what)
            said = (f"total {name}", f"overall {name}", f"{name} in total", f"absolute {name}", f"whole {name}")
            yield from ((phrase, whole, 1.05) for phrase in said)


def _owed(vocabulary: Vocabulary, table: str, held: set[str]) -> Iterator[tuple[str, m.Expr, float]]:
    """What was due and has not been paid."""
    due = paid = None
    for key, column, words in _columns(vocabulary, table):
        if key.table != table or not column.role.is_summed:
            continue
        if words & _DUE and not words & _PAID:
            due = due or m.Col(key)
        elif words & _PAID and not words & _DUE:
            paid = paid or m.Col(key)
    if due is None and paid is not None:
        amounts = (
            m.Col(key)
            for key, column, _ in _columns(vocabulary, table)
            if key.table == table and column.role is Role.MONEY and vocabulary.columns[key].head in _BILLED
        )
        due = next((a for a in amounts if a != paid), None)
    if due is not None and paid is not None:
        rest = m.Arithmetic("-", due, paid)
        yield from ((phrase, rest, 0.86) for phrase in OWED if not held & {stem(phrase)})
        yield from _of_what(vocabulary, table, due, paid)


def _owed_on_lines(vocabulary: Vocabulary, table: str, found: Trade) -> Iterator[tuple[str, m.Expr, float]]:
    """What the lines of orders come to that are not paid yet, where the order has the day on which it was paid."""
    if found.revenue is None or any(_PAID & own_words(vocabulary, k) for k, *_ in _columns(vocabulary, table)):
        return
    for link in vocabulary.catalogue.parents(table):
        for column in vocabulary.table(link.other).columns:
            key = ColumnKey(link.other, column.name)
            dated = column.type.is_time and column.missing and _PAID & {*vocabulary.columns[key].parts}
            if dated and DOCKETS & {*vocabulary.tables[link.other].parts}:
                rest = m.Given(found.revenue, m.Missing(key))
                yield from ((phrase, rest, 0.86) for phrase in OWED)
                return


_BILLS = stems("payment receipt invoice bill charge instalment installment collection due account ledger statement")
_ANY_MONEY = stems("amount total sum value net gross")
_TAKEN_IN = ("collected", "received", "paid", "taken in", "coming in", "came in", "that came in", "receipts")
_DID_COLLECT = tuple(
    told
    for verb, done in (("collect", "collected"), ("receive", "received"), ("take", "taken"), ("get", "got"))
    for told in (f"did we {verb}", f"have we {done}", f"we {done}", f"was {done}", f"has been {done}", f"do we {verb}")
)
_STILL_OUT = ("outstanding", "owed", "owing", "unpaid", "still due", "not yet paid", "arrears", "still owed")


def _of_what(vocabulary: Vocabulary, table: str, due: m.Col, paid: m.Col) -> Iterator[tuple[str, m.Expr, float]]:
    """What a table of payments is of: rent collected is what was paid of rent payments, and no rent in a contract."""
    own, called = vocabulary.tables[table].parts, vocabulary.columns[due.key]
    told = [
        w for w in spoken(due.key.column).split() if stem(w) not in {*_DUE, *_ANY_MONEY} and stem(w) in called.parts
    ]
    if len(own) == 2 and own[-1] in _BILLS:
        what = spoken(vocabulary.table(table).name).split()[0]
    elif len(told) == 1 and own_words(vocabulary, due.key) & _DUE:
        what = told[0]
    else:
        return
    rest = m.Arithmetic("-", due, paid)
    yield from ((f"{what} {word}", paid, 0.97) for word in (*_TAKEN_IN, *_DID_COLLECT))
    yield from ((f"{what} {word}", rest, 0.97) for word in _STILL_OUT)
    yield from ((phrase, rest, 0.97) for phrase in (f"unpaid {what}", f"outstanding {what}", f"{what} is outstanding"))
    yield from ((f"{what} {word}", due, 0.97) for word in ("due", "charged", "billed", "invoiced"))


def payment_in(vocabulary: Vocabulary, table: str) -> tuple[m.Col, ColumnKey | None] | None:
    """The one amount of a table and the day on which it is paid, where some of it still is to be; None of several amounts."""
    columns = vocabulary.table(table).columns
    money = [c for c in columns if c.role is Role.MONEY]
    days = [ColumnKey(table, c.name) for c in columns if c.type.is_time and c.missing and "paid" in name_parts(c.name)]
    if len(money) != 1:
        return None
    return m.Col(ColumnKey(table, money[0].name)), days[0] if len(days) == 1 else None


def _paid_towards(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """Rent collected is what was paid of the payments, where the rent itself stands on the tenancies that they are of."""
    amount, day = payment_in(vocabulary, table) or (None, None)
    if amount is None or day is None or not {*vocabulary.tables[table].parts} & _BILLS:
        return
    paid, rest = m.Given(amount, m.Not(m.Missing(day))), m.Given(amount, m.Missing(day))
    for link in vocabulary.catalogue.parents(table):
        for column in vocabulary.table(link.other).columns:
            head = name_parts(column.name)[-1:]
            if column.role is not Role.MONEY or not head or stem(head[0]) in _ANY_MONEY:
                continue
            what = head[0]
            yield from ((f"{what} {word}", paid, 0.97) for word in (*_TAKEN_IN, *_DID_COLLECT, "came in in"))
            yield from ((f"{what} {word}", rest, 0.97) for word in _STILL_OUT)
            yield from ((phrase, rest, 0.97) for phrase in (f"unpaid {what}", f"outstanding {what}"))


_WAITING = stems("waiting wait waitlist queue")
_ASKED_FOR = frozenset(["referred", "referral", "requested", "request", "applied"])
_SEEN_ON = frozenset(
    ["appointment", "appt", "seen", "started", "treated", "treatment", "admitted", "admission", "date", "assessed"]
)


def _waits(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """How long those on a list that waits have been on it: since their one day, until now."""
    days = [c for c in vocabulary.table(table).columns if c.type.is_time]
    if len(days) == 1 and _WAITING & {*vocabulary.tables[table].parts}:
        waited = m.Length("days", m.Col(ColumnKey(table, days[0].name)), m.Now())
        yield from ((phrase, waited, 0.97) for phrase in _WAITED)
    held = vocabulary.columns.items()
    if any(_WAITING & {*w.parts} for k, w in held if k.table == table and vocabulary.column(k).is_measure):
        return
    asked = [c for c in days if _ASKED_FOR & {*name_parts(c.name)}]
    seen = [c for c in days if _SEEN_ON & {*name_parts(c.name)} and c not in asked]
    if len(asked) == len(seen) == 1:
        # Whoever is referred waits until the day of the appointment.
        waited = m.Length("days", m.Col(ColumnKey(table, asked[0].name)), m.Col(ColumnKey(table, seen[0].name)))
        yield from ((phrase, waited, 0.97) for phrase in (*_WAITED, "waits", "waited for", "wait to be seen"))


_WAITED = (
    "been waiting", "waited", "waiting time", "waiting times", "wait", "time waited", "time waiting", "days waited",
    "days waiting", "time on the list", "time on the waiting list", "been on the list", "been on the waiting list",
)  # fmt: skip
DECIDED = stems("won lost closed cancelled rejected declined dead withdrawn hired accepted approved refused granted")
_PIPELINE = ("pipeline", "open pipeline", "pipeline value", "value of the pipeline", "live pipeline", "sales pipeline")
_WEIGHTED = (
    "weighted pipeline",
    "weighted value",
    "expected value",
    "weighted pipeline value",
    "probability weighted pipeline",
)
_LIKELY = stems("probability likelihood chance")


def undecided(vocabulary: Vocabulary, table: str) -> m.Condition | None:
    """What is neither won nor lost, where one column tells how far things are and how they ended."""
    for column in vocabulary.table(table).columns:
        if column.type is not Type.TEXT or not 3 <= column.distinct <= 12 or len(column.values) < column.distinct:
            continue
        ended = tuple(sorted(v for v in column.values if DECIDED & set(word_stems(v))))
        if 1 < len(ended) < column.distinct and {stem("won"), stem("lost")} & {s for v in ended for s in word_stems(v)}:
            return m.Not(m.Is(ColumnKey(table, column.name), ended))
    return None


def _pipelines(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """What is still to be won, and what of it is to be expected."""
    rest = undecided(vocabulary, table)
    money = [key for key, column, _ in _columns(vocabulary, table) if key.table == table and column.role is Role.MONEY]
    if rest is None or not money:
        return
    yield from ((phrase, m.Given(m.Col(money[0]), rest), 0.97) for phrase in _PIPELINE)
    for column in vocabulary.table(table).columns:
        key = ColumnKey(table, column.name)
        if column.type.is_number and own_words(vocabulary, key) & _LIKELY and column.high is not None:
            whole = m.Number(1.0 if float(column.high) <= 1 else 100.0)
            likely = m.Arithmetic("*", m.Col(money[0]), m.Arithmetic("/", m.Col(key), whole))
            yield from ((phrase, m.Given(likely, rest), 0.98) for phrase in _WEIGHTED)
            return


DOCKETS = stems("ticket order receipt invoice transaction basket bill docket cheque sale")
_DOCKET_WORDS = ("order", "transaction", "basket", "ticket", "receipt", "bill", "sale", "invoice")


def docket(vocabulary: Vocabulary, table: str, traded: Trade) -> ColumnKey | None:
    """The number of the order, ticket or receipt that several lines of a table belong to."""
    found = vocabulary.table(table)
    if traded.quantity is None or (traded.price is None and traded.revenue is None):
        return None
    for column in found.columns:
        key = ColumnKey(table, column.name)
        # Many sales have one sales rep, who is no number of theirs.
        coded = column.type is Type.TEXT and all(any(c.isdigit() for c in v) for v in column.values[:20])
        plain = coded or column.type is Type.INTEGER
        several = found.rows / 20 < column.distinct < 0.9 * found.rows
        if (
            plain
            and column.role is not Role.LINK
            and not column.is_measure
            and several
            and DOCKETS & {*vocabulary.columns[key].parts}
        ):
            return key
    return None


_DOCKET_WORTH = ("average {} value", "average {}", "average spend per {}", "average value of {}s")
_DOCKET_SIZE = ("items per {}", "average items per {}", "average {} size", "units per {}")


def _docket_above(vocabulary: Vocabulary, table: str, traded: Trade) -> ColumnKey | None:
    """The link of lines to a table of orders that tells no money itself."""
    for link in vocabulary.catalogue.parents(table):
        if (
            traded.revenue is not None
            and DOCKETS & {*vocabulary.tables[link.other].parts}
            and not vocabulary.has_money(link.other)
        ):
            return ColumnKey(table, link.column)
    return None


def _per_docket(vocabulary: Vocabulary, table: str, traded: Trade) -> Iterator[tuple[str, m.Quantity, float]]:
    """What an order comes to, and how many things are in it, where its lines stand on rows of their own."""
    key = docket(vocabulary, table, traded)
    above = key is None and (key := _docket_above(vocabulary, table, traded)) is not None
    if key is None:
        return
    orders = m.Aggregated("distinct", m.Col(key))
    if traded.revenue is not None:
        each = m.Combined("/", m.Aggregated("sum", traded.revenue), orders)
        # Orders that have no money of their own are worth what stands on their lines.
        sure = 1.15 if above else 0.99
        yield from ((pattern.format(word), each, sure) for word in _DOCKET_WORDS for pattern in _DOCKET_WORTH)
        yield from ((phrase, each, 0.97) for phrase in ("average spend per customer", "average spend per head", "aov"))
    if traded.quantity is not None:
        things = m.Combined("/", m.Aggregated("sum", traded.quantity), orders)
        yield from ((pattern.format(word), things, 0.99) for word in _DOCKET_WORDS for pattern in _DOCKET_SIZE)


_SERVICE = ("length of service", "service length", "tenure", "years of service", "length of employment", "time served")
_CAME_IN = stems("start started joined hired employed")
_WENT = stems("leaving left leave end ended termination")
EMPLOYED = stems("employee employees staff worker workers colleague colleagues people personnel team")


_REPORTED = stems("call called reported raised received logged created opened alarm requested alerted")
_NAMED_LENGTHS = (
    (
        (
            "response time",
            "response times",
            "time to respond",
            "time to arrive",
            "time to get there",
            "attendance time",
        ),
        _REPORTED,
        stems("arrived arrival attended responded response answered acknowledged replied"),
    ),
    (
        (
            "resolution time",
            "time to resolve",
            "time to fix",
            "fix time",
            "turnaround",
            "turnaround time",
            "time to close",
        ),
        _REPORTED,
        stems("resolved fixed closed completed finished ended done"),
    ),
    (
        ("time on scene", "time on site", "time at the scene", "time spent on site", "time there"),
        stems("arrived arrival attended"),
        stems("ended left departed cleared finished closed completed"),
    ),
)
"""What stretches of time are called, with the words of the columns in which they begin and end."""


def _named_lengths(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """The response time, where it stands when the call came and when somebody was there."""
    times = [ColumnKey(table, c.name) for c in vocabulary.table(table).columns if c.type is Type.TIMESTAMP]
    for phrases, starts, ends in _NAMED_LENGTHS:
        first = next((k for k in times if own_words(vocabulary, k) & starts), None)
        last = next((k for k in times if own_words(vocabulary, k) & ends and k != first), None)
        if first is not None and last is not None:
            length = m.Length(vocabulary.natural_unit(first, last), m.Col(first), m.Col(last))
            yield from ((phrase, length, 0.93) for phrase in phrases)


def _service(vocabulary: Vocabulary, table: str, day: dt.date) -> Iterator[tuple[str, m.Expr, float]]:
    """For how many years people have been here, of those who have not left."""
    if not EMPLOYED & set(vocabulary.tables[table].parts):
        return
    dates = [ColumnKey(table, c.name) for c in vocabulary.table(table).columns if c.type.is_time]
    came = next((k for k in dates if own_words(vocabulary, k) & _CAME_IN), None)
    went = next((k for k in dates if own_words(vocabulary, k) & _WENT and k != came), None)
    if came is not None:
        since: m.Expr = m.Length("years", m.Col(came), m.Today(day))
        here = m.Given(since, m.Missing(went)) if went is not None and vocabulary.column(went).missing else since
        yield from ((phrase, here, 0.97) for phrase in _SERVICE)


_FEES = ("fees", "billing", "billings", "charges", "fee income", "billable value", "fees earned")
_SALARIES = stems("salary wage wages")
_HELD_BACK = stems("increase rise change deduction tax previous last old new target band minimum maximum")
_WAGE_BILLS = tuple(
    f"{paid} {bill}" for paid in ("wage", "salary", "pay", "wages", "payroll") for bill in ("bill", "cost", "costs")
)


def _wages(vocabulary: Vocabulary, table: str, held: set[str]) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    hours = rate = None
    for key, column, words in _columns(vocabulary, table):
        called = words.union(*vocabulary.columns[key].synonyms)
        if (
            key.table == table
            and column.is_measure
            and column.role.is_summed
            and words & _SALARIES
            and not words & _HELD_BACK
        ):
            # What an employer pays in all is the salaries of all.
            yield from ((phrase, m.Aggregated("sum", m.Col(key)), 0.97) for phrase in _WAGE_BILLS)
        # The stem of "hourly" is that of the hours themselves.
        if (
            "hourly" in name_parts(key.column)
            or {stem("rate"), stem("hour")} <= words
            or (_RATE in words and words <= _RATED)
        ):
            rate = rate or m.Col(key)
        elif stem("hours") in called and key.table == table:
            hours = hours or m.Col(key)
    if hours is not None and rate is not None and not vocabulary.has_money(table):
        yield from ((phrase, m.Arithmetic("*", hours, rate), 0.85) for phrase in LABOUR)
    if hours is not None and rate is not None and not held & stems("pay wage wages salary"):
        yield from ((phrase, m.Arithmetic("*", hours, rate), 0.85) for phrase in WAGES)
    if hours is not None and rate is not None and not held & stems("fee pay wage"):
        yield from ((phrase, m.Arithmetic("*", hours, rate), 0.85) for phrase in _FEES)


def _ages(vocabulary: Vocabulary, table: str, day: dt.date, held: set[str]) -> Iterator[tuple[str, m.Expr, float]]:
    if any(stem("age") in vocabulary.columns[ColumnKey(table, c.name)].parts for c in vocabulary.table(table).columns):
        return
    for column in vocabulary.table(table).columns:
        key = ColumnKey(table, column.name)
        words = own_words(vocabulary, key)
        if stem("age") in held and not words & BIRTH:
            # Where ages stand somewhere, only those who were born have another.
            continue
        if is_yearly(column) and (born := words & BIRTH or words & BEGUN or _is_year_made(vocabulary, key)):
            since = m.Length("whole_years", m.Col(key), m.Today(day))
            yield from ((phrase, since, 0.86 if born & BIRTH else 0.8) for phrase in AGE)
        if column.type.is_time and words & (BIRTH | BEGUN):
            age = m.Length("whole_years", m.Col(key), m.Today(day))
            yield from ((phrase, age, 0.88 if words & BIRTH else 0.62) for phrase in AGE)


def tells_what_happened(vocabulary: Vocabulary, table: str) -> bool:
    """True for a table with a day on which something happened, and not only one by which something is due, or was last."""
    times = (ColumnKey(table, c.name) for c in vocabulary.table(table).columns if c.type.is_time)
    return any(not own_words(vocabulary, key) & (PROMISED | _LATEST) for key in times)


def _is_year_made(vocabulary: Vocabulary, key: ColumnKey) -> frozenset[str]:
    """The word of a column that holds each thing's one year: a list of cars with their year, and nothing that happened."""
    table = vocabulary.table(key.table)
    # A car for sale may have no name: it is a thing by its make and its model.
    makes = {p for c in table.columns for p in name_parts(c.name)} & {"make", "model", "manufacturer", "brand"}
    named = len(makes) > 1 or any(c.role in (Role.IDENTIFIER, Role.NAME) for c in table.columns)
    dated = tells_what_happened(vocabulary, key.table) or sum(is_yearly(c) for c in table.columns) > 1
    own = frozenset(name_parts(key.column)) & {"year", "model"}
    column = vocabulary.column(key)
    # What is held each year has few of them, one after the other; things were made in many.
    held_yearly = column.distinct * 25 <= table.rows and column.distinct < 8
    return own if named and not dated and not held_yearly else frozenset()


_LATEST = stems("last next latest")
_EXPIRY = stems("expiry expires")
PROMISED = stems("due estimated expected planned promised target deadline agreed scheduled eta expiry expires")


def time_pairs(vocabulary: Vocabulary, table: str) -> list[tuple[ColumnKey, ColumnKey]]:
    """Start and end of something on the rows of a table: the event's time first, then every other pair in order, those
    with a day on which something was only due last."""
    found = vocabulary.table(table)
    dates = [c for c in found.columns if c.type.is_time and not own_words(vocabulary, ColumnKey(table, c.name)) & BIRTH]
    clocks = [c for c in found.columns if c.type is Type.TIME]
    pairs = []
    for group in (dates, clocks):
        for one, other in itertools.combinations(group, 2):
            told = {p for c in (one, other) for p in own_words(vocabulary, ColumnKey(table, c.name))}
            turned = not told & PROMISED and _comes_before(other, one)
            start, end = (other, one) if turned else (one, other)
            pairs.append((ColumnKey(table, start.name), ColumnKey(table, end.name)))
    # How long something took ran to the day on which it was done, and not to that on which it was due.
    return sorted(pairs, key=lambda pair: any(_is_due(vocabulary, key) for key in pair))


def _is_due(vocabulary: Vocabulary, key: ColumnKey) -> bool:
    """True for a day by which something was to be done: the due date, complete by."""
    return bool(own_words(vocabulary, key) & PROMISED - _EXPIRY) or name_parts(key.column)[-1:] == ["by"]


def _comes_before(one: Column, other: Column) -> bool:
    """True where the data say that one date lies before another at both ends, in whichever order their columns stand."""
    if None in (one.low, one.high, other.low, other.high) or one.type is Type.TIME:
        return False
    return str(one.low)[:10] < str(other.low)[:10] and str(one.high)[:10] < str(other.high)[:10]
