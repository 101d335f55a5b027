"""Measures by what people call them where no column is called so: how many came together, a day's visitors, how long
and how fast, what came in and what went out."""

from __future__ import annotations

from collections.abc import Iterator

from gumption.core.model.names import spaced
from gumption.core.model.types import Role, Type
from gumption.core.reading import lexicon
from gumption.core.reading import meaning as m
from gumption.core.reading.derived import BOUGHT, admitted, is_count, own_words, time_pairs, told_by, trade
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.schema import STUFF
from gumption.core.reading.tokens import stem, stems
from gumption.core.reading.vocabulary import PERSON_WORDS, Vocabulary, name_parts

_TOGETHER = stems(
    "people persons players guests passengers pax members participants attendees visitors covers heads delegates crew team"
    " tickets walkers riders diners travellers occupants"
)
"""How many came together, by the name of its column."""
GROUPS = (
    "group", "party", "team", "family", "household", "crew", "squad", "class", "audience", "crowd", "booking",
)  # fmt: skip
"""What people come in: its size is how many they are."""
_GROUPED = stems(" ".join(GROUPS))


def figures(vocabulary: Vocabulary) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """(phrase, what it means, how sure) for every such measure."""
    # Where dates run from one to another anywhere, the time is how long that is.
    timed = any(time_pairs(vocabulary, table) for table in vocabulary.tables)
    for table in vocabulary.tables:
        yield from _admitted(vocabulary, table)
        yield from _sizes(vocabulary, table)
        yield from _present(vocabulary, table)
        yield from _spoken_of_as_rates(vocabulary, table)
        yield from _ledger(vocabulary, table)
        yield from _speeds(vocabulary, table)
        yield from _times(vocabulary, table, bare=not timed)
        yield from _stuff(vocabulary, table)
    yield from _stuff_unnamed(vocabulary)
    yield from _gone_over(vocabulary)


_TOLD_AS_RATES = (
    "unemployment",
    "employment",
    "inflation",
    "poverty",
    "mortality",
    "fertility",
    "literacy",
    "inactivity",
    "joblessness",
)
_RATE = stems("rate pct percent percentage")


def _spoken_of_as_rates(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """Unemployment is the rate, where a table tells that and how many people it is of."""
    own = set(vocabulary.tables[table].parts)
    kinds = [ColumnKey(table, c.name) for c in vocabulary.table(table).columns if c.role is Role.CATEGORY]
    if any(not vocabulary.totals(key) for key in kinds):
        # Rates of several kinds of people make none of all together.
        return
    for said in (s for s in _TOLD_AS_RATES if stem(s) in own):
        rates = [
            ColumnKey(table, c.name)
            for c in vocabulary.table(table).columns
            if c.is_measure and _RATE & (words := {stem(p) for p in name_parts(c.name)}) and words <= own | _RATE
        ]
        if len(rates) == 1:
            yield from ((phrase, m.Col(rates[0]), 1.08) for phrase in (said, f"rate of {said}", f"level of {said}"))


_PRESENT, _ABSENT = stems("present attended"), stems("absent absences absentees")


def _present(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Quantity, float]]:
    """The attendance rate, of rows that tell how many were there and how many were not."""
    counts = [
        [k for k in told_by(vocabulary, table, words) if vocabulary.column(k).role is Role.QUANTITY]
        for words in (_PRESENT, _ABSENT)
    ]
    if any(len(found) != 1 for found in counts):
        return
    there, away = (m.Aggregated("sum", m.Col(found[0])) for found in counts)
    both = m.Combined("+", there, away)
    yield from (
        (p, m.Combined("/", there, both, percent=True), 1.05) for p in ("attendance rate", "rate of attendance")
    )
    yield from ((p, m.Combined("/", away, both, percent=True), 1.05) for p in ("absence rate", "absentee rate"))


def together(vocabulary: Vocabulary, table: str) -> Iterator[tuple[ColumnKey, frozenset[str]]]:
    """The columns of a table that say how many came together, and the words of each."""
    sizes = [k for k in told_by(vocabulary, table, stems("size")) if _GROUPED & own_words(vocabulary, k)]
    for key in dict.fromkeys([*told_by(vocabulary, table, _TOGETHER), *sizes]):
        if key.table == table and vocabulary.column(key).role is Role.QUANTITY and is_count(vocabulary, key):
            yield key, own_words(vocabulary, key)


def _sizes(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """The size of a group is how many people it is of; where there is one such column, the people are those."""
    found = list(together(vocabulary, table))
    for key, words in found:
        for group in GROUPS:
            score = 0.96 if stem(group) in words else 0.86
            yield from ((phrase, m.Col(key), score) for phrase in _sizes_of(group))
    of_people = any(PERSON_WORDS & {*w.parts} for w in vocabulary.tables.values())
    if len(found) == 1 and _COME_TO & {*vocabulary.tables[table].parts} and not of_people:
        key, words = found[0]
        yield from ((phrase, m.Col(key), 0.9) for phrase in _AT_TABLE if stem(phrase) not in words)


def _sizes_of(group: str) -> tuple[str, ...]:
    return f"{group} size", f"{group} sizes", f"size of {group}", f"size of the {group}"


_ADMISSIONS = (
    "visitors", "visitor", "people", "attendance", "attendees", "admissions", "footfall", "guests", "head", "person",
)  # fmt: skip
_ABOARD = (
    "people", "persons", "individuals", "heads", "passengers", "passenger", "guests", "visitors", "participants", "attendees",
    "attendance", "pax", "customers", "tickets", "tickets sold",
)  # fmt: skip
_COME_TO = BOUGHT | stems(
    "visits admissions entries arrivals trips tours showings screenings performances sailings crossings departures shows concerts"
    " events sessions outings"
)
"""Rows on which so many people come, or go, together."""
_AT_TABLE = (
    "visitors",
    "visitor",
    "people",
    "persons",
    "individuals",
    "head",
    "heads",
    "person",
    "guests",
    "covers",
    "diners",
    "pax",
    "customer",
    "customers",
)


def _admitted(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """The visitors of a day that has so many adults and so many children are all of them together."""
    joint = admitted(vocabulary, table)
    if joint is None:
        return
    time = vocabulary.table(table).time_column
    if time is None or time.distinct < vocabulary.table(table).rows:
        # A row is of so many adults and so many children: a household, a booking, a visit.
        yield from ((phrase, joint, 1.02 if place < 4 else 0.9) for place, phrase in enumerate(_ABOARD))
        yield from ((p, joint, 0.97) for group in GROUPS for p in _sizes_of(group))
        return
    own = table.lower().replace("_", " ")
    # The rows are days, whatever they are called after.
    yield from ((phrase, joint, 1.08) for phrase in {own, own.removesuffix("s"), own.removesuffix("s") + "s"})
    yield from ((phrase, joint, 0.9) for phrase in _ADMISSIONS if phrase not in (own, own.removesuffix("s")))


_IN = frozenset(
    [
        "in",
        "income",
        "credit",
        "cr",
        "receipt",
        "receipts",
        "received",
        "inflow",
        "deposit",
        "revenue",
        "incoming",
        "paid_in",
        "money_in",
        "sale",
        "sales",
    ]
)
_OUT = frozenset(
    [
        "out",
        "expense",
        "expenses",
        "expenditure",
        "debit",
        "dr",
        "payment",
        "payments",
        "outflow",
        "withdrawal",
        "spending",
        "outgoing",
        "cost",
        "costs",
        "paid_out",
        "money_out",
        "purchase",
        "purchases",
    ]
)
_CAME_IN = (
    "income", "revenue", "takings", "earnings", "receipts", "money in", "total income", "total money in", "raised",
    "incoming", "credits", "inflows",
)  # fmt: skip
_WENT_OUT = (
    "expense", "expenses", "expenditure", "spending", "spend", "spent", "costs", "outgoings", "money out", "outgoing",
    "payments out", "debits", "outflows", "total expenses", "total spending", "total costs",
)  # fmt: skip
_LEFT = ("balance", "net", "net income", "profit", "surplus", "net position", "net amount", "net total", "left over")


def _ledger(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """What came in and what went out, where one column says which of the two the amount of a row is."""
    amounts = [c for c in vocabulary.table(table).columns if c.role is Role.MONEY and c.type.is_number]
    if len(amounts) != 1:
        return
    amount = ColumnKey(table, amounts[0].name)
    for column in vocabulary.table(table).columns:
        if column.type is not Type.TEXT or not 2 <= column.distinct <= 4:
            continue
        came = tuple(v for v in column.values if v.strip().lower().replace(" ", "_") in _IN)
        went = tuple(v for v in column.values if v.strip().lower().replace(" ", "_") in _OUT)
        if not came or not went:
            continue
        key = ColumnKey(table, column.name)
        if float(amounts[0].low or 0) < 0:
            yield from ((phrase, m.Aggregated("sum", m.Col(amount)), 0.95) for phrase in _LEFT)
            return
        gained, lost = m.Given(m.Col(amount), m.Is(key, came)), m.Given(m.Col(amount), m.Is(key, went))
        yield from ((phrase, gained, 0.97) for phrase in _CAME_IN)
        yield from ((phrase, lost, 0.97) for phrase in _WENT_OUT)
        left = m.Combined("-", m.Aggregated("sum", gained), m.Aggregated("sum", lost))
        yield from ((phrase, left, 0.95) for phrase in _LEFT)


_HOURS = stems("minutes mins hours hrs seconds secs")


def _times(vocabulary: Vocabulary, table: str, *, bare: bool) -> Iterator[tuple[str, m.Expr, float]]:
    """Minutes taken are the time taken, and where that may be said barely, the time, if no other column tells of one."""
    timed = []
    for column in vocabulary.table(table).columns:
        parts = name_parts(column.name)
        if column.is_measure and len({stem(p) for p in parts} & _HOURS) == 1:
            timed.append((m.Col(ColumnKey(table, column.name)), [p for p in parts if stem(p) not in _HOURS]))
    for column_, rest in timed:
        for phrase in (
            (f"{' '.join(rest)} time", f"time {' '.join(rest)}", f"amount of time {' '.join(rest)}") if rest else ()
        ):
            yield phrase, column_, 0.93
    if bare and len(timed) == 1:
        yield "time", timed[0][0], 0.8


_MEASURES = frozenset(
    [
        "litres", "litre", "liters", "l", "gallons", "kwh", "mwh", "kg", "kgs", "kilos", "tonnes", "tons", "t", "grams", "m3",
        "therms",
    ]
)  # fmt: skip
"""What stuff is measured in, as columns are called."""
_PRICED = stems("price")
_USED = (
    "{}", "{} used", "{} use", "{} usage", "{} consumption", "{} consumed", "amount of {}", "{} bought", "use of {}", "quantity of {}",
)  # fmt: skip


def _stuff(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr, float]]:
    """How much of it there was, of rows called after what is measured and not sold: the litres of fills of fuel."""
    called = [p for p in name_parts(table) if p in STUFF]
    told = [
        ColumnKey(table, c.name)
        for c in vocabulary.table(table).columns
        if c.is_measure and c.role.is_summed and name_parts(c.name)[-1:] and name_parts(c.name)[-1] in _MEASURES
    ]
    if len(called) == len(told) == 1 and trade(vocabulary, table).revenue is None:
        yield from ((phrase.format(called[0]), m.Col(told[0]), 0.97) for phrase in _USED)
        priced = [k for k in told_by(vocabulary, table, _PRICED) if k.table == table and k not in told]
        for key in priced[:1]:
            yield from (
                (phrase.format(called[0]), m.Col(key), 0.97) for phrase in ("{} price", "{} prices", "price of {}")
            )


_MEASURED_SO = {
    "volume": "water oil milk fuel diesel petrol beer wine juice gas",
    "weight": "coffee tea grain flour meat fish fruit sugar rice cheese food wool honey hay waste metal steel sand gravel",
    "energy": "energy electricity power gas heat",
}
"""What is measured by each kind of unit, as people speak of it."""


def _stuff_unnamed(vocabulary: Vocabulary) -> Iterator[tuple[str, m.Expr, float]]:
    """How much water was used, where one column alone is measured in such units and nothing is called water."""
    families = {w: u.family for w, u in lexicon.units().items()}
    told: dict[str, list[ColumnKey]] = {}
    for key in vocabulary.columns:
        column = vocabulary.column(key)
        units = {families[w] for w in spaced(key.column).lower().split() if w in families}
        if column.is_measure and column.role.is_summed and len(units) == 1 and "per" not in name_parts(key.column):
            told.setdefault(units.pop(), []).append(key)
    named = {p for words in (*vocabulary.columns.values(), *vocabulary.tables.values()) for p in words.parts}
    traded = [q.key for t in vocabulary.tables if isinstance(q := trade(vocabulary, t).quantity, m.Col)] if told else []
    for family, stuffs in _MEASURED_SO.items():
        keys = told.get(family, [])
        if len(keys) > 1 and len(sold := [k for k in keys if k in traded]) == 1:
            # Of green and roasted coffee, the coffee sold is what the orders are of.
            keys = sold
        for stuff in stuffs.split() if len(keys) == 1 else ():
            if stem(stuff) not in named and not vocabulary.values.get((stem(stuff),)):
                yield from ((phrase.format(stuff), m.Col(keys[0]), 0.8) for phrase in _USED)


_DISTANCE = stems("km kilometres kilometers miles mi distance metres meters")


_GONE = ("driven", "travelled", "traveled", "covered", "run", "flown", "ridden", "walked", "sailed", "operated")


def _gone_over(vocabulary: Vocabulary) -> Iterator[tuple[str, m.Expr, float]]:
    """How far all trips went whose way stands on their route: once for each trip."""
    for link in vocabulary.catalogue.relationships:
        below = vocabulary.table(link.table)
        way = next((k for k in told_by(vocabulary, link.other, _DISTANCE) if k.table == link.other), None)
        own = next((k for k in told_by(vocabulary, link.table, _DISTANCE) if k.table == link.table), None)
        if (
            way is None
            or own is not None
            or below.time_column is None
            or below.rows <= vocabulary.table(link.other).rows
        ):
            continue
        far = m.Given(m.Col(way), m.Not(m.Missing(ColumnKey(link.table, link.column))))
        units = [p for p in spaced(way.column).lower().split() if stem(p) in _DISTANCE and stem(p) != stem("distance")]
        for gone in _GONE:
            yield from (
                (f"{said} {gone}", far, 0.98) for said in ("distance", "total distance", "kilometres", "miles", *units)
            )
        return


def _speeds(vocabulary: Vocabulary, table: str) -> Iterator[tuple[str, m.Expr | m.Quantity, float]]:
    """The way that was made in the hours from first to last, where no column says how fast it was."""
    own = {p for c in vocabulary.table(table).columns for p in vocabulary.columns[ColumnKey(table, c.name)].parts}
    way = next((k for k in told_by(vocabulary, table, _DISTANCE) if k.table == table), None)
    if way is None:
        return
    yield "how far", m.Col(way), 0.9
    if {stem("speed"), stem("pace")} & own:
        return
    for first, last in time_pairs(vocabulary, table):
        if vocabulary.column(first).type is not Type.DATE:
            hours = m.Length("hours", m.Col(first), m.Col(last))
            speed = m.Combined("/", m.Aggregated("sum", m.Col(way)), m.Aggregated("sum", hours))
            yield from ((phrase, speed, 0.85) for phrase in ("speed", "average speed", "mean speed", "pace"))
            return
