"""What a catalogue tells about nouns: which column names rows, what a table's main measure is, who and where."""

from __future__ import annotations

import functools
import re
from collections import Counter
from collections.abc import Iterator, Sequence

from gumption.core.model.catalogue import Column
from gumption.core.model.types import Role, Type
from gumption.core.plan.words import DAY_NAMES
from gumption.core.reading import meaning as m
from gumption.core.reading import planned as plans
from gumption.core.reading.derived import SOUND, SPOILED, billed_in_parts, docket, spent_on, trade
from gumption.core.reading.flow import event_time
from gumption.core.reading.lexicon import related
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.pieces import Noun
from gumption.core.reading.residents import residing
from gumption.core.reading.returns import came_in
from gumption.core.reading.times import are_years
from gumption.core.reading.tokens import stem
from gumption.core.reading.vocabulary import (
    BUYERS,
    COST_PARTS,
    GENERIC_MONEY,
    IN_ALL,
    NAME,
    OFFERED,
    PAID_FOR_THEM,
    PERSON_WORDS,
    PLANNED,
    Vocabulary,
    is_out_of,
    name_parts,
    word_stems,
)

KIND_ROLES = (Role.CATEGORY, Role.FLAG, Role.PLACE)
"""What columns of kinds are, of which each stands on many rows."""
_BODIES = frozenset(
    stem(w) for w in ["organisation", "organization", "company", "firm", "club", "charity", "institution", "applicant"]
)
"""What may stand for who, where no person does."""


AVERAGED = frozenset(
    stem(w)
    for w in [
        "rate", "ratio", "average", "mean", "median", "index", "expectancy", "percentage", "percent", "share", "per",
        "score", "density", "level", "temperature", "age", "prevalence", "mortality", "incidence", "proportion",
    ]
)  # fmt: skip
"""Words of figures that are averaged, not added up."""
_METERS = frozenset(stem(w) for w in ["odometer", "mileage", "meter", "reading", "counter", "clock", "milometer"])
"""Words of what only ever goes up, as it stands."""
_EVERYONE = frozenset(stem(w) for w in ["people", "persons", "population", "residents", "inhabitants", "usual"])
_ALL = frozenset(stem(w) for w in ["all", "total", "population", "overall"])
_OF_PEOPLE = frozenset(
    stem(w)
    for w in [
        "males", "females", "male", "female", "men", "women", "aged", "age", "people", "persons", "children", "born",
        "adults", "students", "employed", "unemployed", "retired", "married", "single", "residents",
    ]
)  # fmt: skip
_FORCE = frozenset(stem(w) for w in ["active", "workforce", "labour", "labor"])
_WORKING = frozenset(stem(w) for w in ["unemployed", "employed", "jobless"])
_FAR_GONE = (stem("mileage"),)
_LEAST_METERED = 3000
"""What no meter stands at for long: the mileage of one journey is less, and so is a mark in reading."""
_BOUNDS = frozenset(
    ["ci", "lci", "uci", "lcl", "ucl", "lower", "upper", "confidence", "bound", "margin", "error", "deviation", "se"]
)
"""What says how sure a number is, and is none that is asked about."""
EXTRAS = frozenset(
    stem(w)
    for w in [
        "freight",
        "shipping",
        "postage",
        "delivery",
        "tax",
        "vat",
        "discount",
        "tip",
        "gratuity",
        "handling",
        "limit",
        "extra",
        "extras",
        "surcharge",
        "supplement",
        "addon",
    ]
)
LEDGERS = frozenset(
    stem(w)
    for w in ["costs", "cost", "payments", "expenses", "spend", "spending", "budget", "income", "transactions", "charges", "fees", "ledger", "receipts", "donations", "contributions", "refunds", "grants", "bills"]
)  # fmt: skip
"""Words for tables whose rows are sums of money."""
_FLOWS = frozenset(
    stem(w)
    for w in [
        "starts",
        "completions",
        "sales",
        "births",
        "deaths",
        "new",
        "approvals",
        "permits",
        "leavers",
        "waste",
        "tonnes",
        "consumption",
        "spending",
        "income",
        "emissions",
        "use",
    ]
)
"""What happens over a time, of what stands at one."""
STUFF = frozenset(
    [
        "fuel", "water", "energy", "electricity", "power", "gas", "diesel", "petrol", "oil", "heat", "milk", "feed",
        "paper", "waste", "rain", "time", "money", "food", "wood", "grain", "data", "traffic", "material", "wool", "honey",
        "hay", "silage", "straw", "harvest", "production", "output", "yield", "manure", "fertiliser", "rainfall", "wheat", "barley", "timber", "concrete", "gravel", "downtime", "overtime",
    ]
)  # fmt: skip
"""What is measured and cannot be counted."""
_MOST_DAYS = 30
"""Ways to write the days of a week that may stand in one column."""
GROUND = frozenset(["acres", "acre", "hectares", "hectare", "ha", "area", "sqm", "m2", "capacity", "places", "spaces"])
"""What something takes place on or in, and no amount of it."""
_REORDERED = frozenset(stem(w) for w in ["reorder", "minimum", "threshold", "par"])
_IN_STOCK = frozenset(
    stem(w) for w in ["stock", "hand", "quantity", "qty", "level", "held", "available", "units", "pieces"]
)
_STOCKS = frozenset(
    stem(w)
    for w in [
        "population", "people", "persons", "inhabitants", "residents", "households", "homes", "dwellings", "housing",
        "members", "membership", "employees", "headcount", "staff", "jobs", "stock", "inventory", "claimants", "pupils",
        "students", "cattle", "livestock", "vehicles", "businesses",
    ]
)  # fmt: skip
"""What there is so much of at a time."""
_HELD = frozenset(stem(w) for w in ["stock", "hand", "inventory", "soh", "balance", "level"])
_FRACTIONS = frozenset(
    stem(w) for w in ["discount", "rate", "share", "tax", "vat", "commission", "rebate", "probability"]
)
_PRICES = frozenset(
    stem(w) for w in ["price", "prices", "rate", "rates", "wage", "wages", "salary", "index", "temperature"]
)
_PAID_BY_EACH = frozenset(
    stem(w) for w in ["salary", "wage", "premium", "rent", "fee", "fare", "price", "excess", "bonus", "pension", "bill"]
)
"""What one earns or pays: that of some is higher than that of others on average, however many there are."""
PAYING = frozenset(["pay", "pays", "paid", "spend", "spends", "spent"])
"""What customers do with money."""
_RATED = frozenset(stem(w) for w in ["satisfaction", "rating", "score", "median", "average", "index", "grade"])
_ONE_TO = re.compile(r"\b[01] to \d{1,2}\b")
"""How ratings are described."""
_FOR_ONE = re.compile(
    r"\b(?:price|rate|charge|yield|use|emissions?|tonnes|litres|kilos|kg)\b.* per (?!year|month|week|quarter|period)"
)
"""How what is told of one unit is described: a price per tonne is never added up."""
_INDICES = frozenset(stem(w) for w in ["index", "indices", "rates", "percentages", "ratios"])
"""Words for tables whose figures are never added up."""
_AVERAGES = frozenset(stem(w) for w in ["median", "mean", "average", "avg", "med"])
_WHOLES = tuple(
    stem(w)
    for w in [
        "impressions", "sent", "delivered", "recipients", "views", "sessions", "visits", "visitors", "invited", "planned", "capacity",
        "places", "seats", "made", "produced", "output", "offered", "recorded", "reported", "received", "opened", "booked", "active", "workforce", "attempts", "entries", "enrolled", "eligible", "population", "total",
    ]
)  # fmt: skip
"""Words of what a rate is out of, the likeliest first."""
_CAME = frozenset(stem(w) for w in ["attended", "attendance", "attendees", "present", "came", "showed", "turnout"])
_SIGNED_UP = tuple(stem(w) for w in ["booked", "enrolled", "registered", "invited", "signed", "expected"])
"""Of those who said that they would come, so many came, however many places there were."""
_PENALTIES = frozenset(stem(w) for w in ["fine", "fines", "penalty", "penalties", "surcharge"])
"""Money that is asked for when something went wrong."""
_LONGEST_NAME = 60
"""More letters than these are a text, and no name."""
_REFERENCES = [["reference"], ["ref"], ["number"], ["no"], ["code"], ["id"]]
"""What the head of a column ends in that says who by a number of theirs."""
_FIRST_NAME = frozenset(["firstname", "forename", "forenames", "givenname", "first", "christianname", "fname"])
_LAST_NAME = frozenset(["lastname", "surname", "familyname", "last", "secondname", "lname"])


def _is_stuff(called: Sequence[str]) -> bool:
    """True for a table called by what is measured: milk, feed bought; samples of water are counted."""
    *before, last = called or [""]
    return last in STUFF or (last.endswith(("ed", "ought", "old")) and bool(before) and before[-1] in STUFF)


def _are_weekdays(column: Column) -> bool:
    """True for a column of days of the week, written out or in short."""
    short = tuple(day.lower()[:3] for day in DAY_NAMES)
    if not 1 < column.distinct <= _MOST_DAYS:
        return False
    values = [v.strip().lower() for v in column.values]
    return len(values) > 1 and all(v.startswith(short) and len(v) <= len("wednesdays") for v in values)


class Nouns:
    """Answers about nouns, each worked out once."""

    def __init__(self, vocabulary: Vocabulary) -> None:
        self.vocabulary = vocabulary
        self.catalogue = vocabulary.catalogue
        self.dates = {ColumnKey(t.name, c.name) for t in self.catalogue.tables for c in t.columns if c.type.is_time}
        self._came_of = dict(plans.estimates(vocabulary))
        self._measures: dict[str, m.Expr | None] = {}
        self._totals: dict[ColumnKey, tuple[str, ...]] = {}
        self._with_totals: dict[str, tuple[ColumnKey, ...]] = {}
        self.residing = {t: joint for t in vocabulary.tables if (joint := residing(vocabulary, t)) is not None}
        """How many people live there, of tables that tell it in several columns."""
        self.facts = self._by_weight()

    def _by_weight(self) -> list[str]:
        """Tables, those that point at others and have most rows first: what a question is about when it does not say."""
        pointing = {t.name: sum(1 for _ in self.catalogue.parents(t.name)) for t in self.catalogue.tables}
        pointed = Counter(r.other for r in self.catalogue.relationships)
        return sorted(
            pointing,
            key=lambda n: (
                -(pointing[n] > 0 or pointed[n] == 0),
                self.catalogue.table(n).key is None,
                -self.catalogue.table(n).rows,
            ),
        )

    def column(self, key: ColumnKey) -> Column:
        return self.vocabulary.column(key)

    def naming(self, table: str) -> m.Col | None:
        """What rows of a table are called by."""
        column = self.catalogue.table(table).naming_column
        return m.Col(ColumnKey(table, column.name)) if column is not None else None

    def who_rows_are(self, table: str) -> m.Col | None:
        """What says who the rows of a table are: a name that stands on them, such as that of a pet, else a person."""
        named = (
            m.Col(ColumnKey(table, c.name))
            for c in self._texts(table)
            if self.vocabulary.columns[ColumnKey(table, c.name)].full[-1:] == (NAME,)
        )
        return self.person(table) if self.is_of_people(table) else next(named, None) or self.person(table)

    def told_by(self, table: str) -> m.Col | None:
        """What tells a row with a number to a person where nothing is called its name: the address of a property."""
        return self.catalogue.once("told by", table, lambda: self._told_by(table))

    def _told_by(self, table: str) -> m.Col | None:
        found = self.catalogue.table(table)
        if found.key is not None and self._is_called_as_its_rows(ColumnKey(table, found.key.name)):
            return None
        for column in found.columns[:4]:
            key = ColumnKey(table, column.name)
            if column == found.key or column.role is Role.IDENTIFIER or not self.tells_rows(key):
                continue
            spoken = any(" " in v or v[:1].isupper() for v in column.values[:5])
            if spoken and all(len(v) <= _LONGEST_NAME for v in column.values):
                return m.Col(key)
        return None

    def _is_called_as_its_rows(self, key: ColumnKey) -> bool:
        """True for a column of words that is called as the rows of its table are: the country of countries."""
        words = [v for v in self.column(key).values if v[:1].isupper() and v[1:2].islower()]
        same = self.vocabulary.columns[key].parts == self.vocabulary.tables[key.table].parts
        return same and 2 * len(words) > len(self.column(key).values)

    def names_rows(self, key: ColumnKey) -> bool:
        """True for a column whose every value is one row of its table."""
        table = self.catalogue.table(key.table)
        column = table.column(key.column)
        if column in (table.key, table.naming_column):
            return True
        return column.type is Type.TEXT and column.distinct >= 0.97 * (table.rows - column.missing) and table.rows > 1

    def is_amount(self, key: ColumnKey) -> bool:
        """True for a column of numbers that are measured, not told apart by."""
        column = self.column(key)
        return column.is_measure and column.distinct > 30

    def tells_rows(self, key: ColumnKey) -> bool:
        """True for such a column that does not point at rows of another table."""
        points = any(r.table == key.table and r.column == key.column for r in self.catalogue.relationships)
        return self.names_rows(key) and not points

    def is_numbered(self, key: ColumnKey) -> bool:
        """True for a column that is called as the numbers of its own rows are: Class beside Class ID."""
        number = self.catalogue.table(key.table).key
        if number is None or number.name == key.column:
            return False
        own, numbered = name_parts(key.column), name_parts(number.name)
        return len(numbered) == len(own) + 1 and numbered[:-1] == own

    @functools.cached_property
    def days_told(self) -> dict[str, Column]:
        """The column of days of the week that stands in a table."""
        return {t.name: c for t in self.catalogue.tables for c in reversed(t.columns) if _are_weekdays(c)}

    def main_measure(self, table: str) -> m.Expr | None:
        """The measure that a table is mostly asked about: its total, else its first amount."""
        if table not in self._measures:
            main = self._main_measure(table)
            # What was spent is asked about before what was to be spent.
            came = self._came_of.get(main.key) if isinstance(main, m.Col) else None
            self._measures[table] = m.Col(came) if came is not None else main
        return self._measures[table]

    def docket(self, table: str) -> ColumnKey | None:
        """The number of the order that several rows of a table belong to."""
        return self.catalogue.once(
            "docket", table, lambda: docket(self.vocabulary, table, trade(self.vocabulary, table))
        )

    def is_of_money(self, table: str, called: str = "") -> bool:
        """True for a table whose rows are sums of money: costs, payments, a budget; or are called such."""
        return self.has_money(table) and bool(LEDGERS & {*self.vocabulary.tables[table].parts, stem(called)})

    def has_total(self, table: str) -> bool:
        """True where what a row comes to stands on it, or is made of what does, and not only a part such as its freight."""
        return self.takings(table) is not None or any(
            c.is_measure and c.role is Role.MONEY and c.role.is_summed and not self._is_extra(ColumnKey(table, c.name))
            for c in self.catalogue.table(table).columns
        )

    def takings(self, table: str) -> m.Expr | None:
        """What the rows of a table brought in, in a column or made of several; None where they brought in nothing."""
        return self.catalogue.once("takings", table, lambda: came_in(self.vocabulary, table))

    def has_money(self, table: str) -> bool:
        """True where amounts of money stand on the rows of a table themselves."""
        return self.vocabulary.has_money(table)

    def _main_measure(self, table: str) -> m.Expr | None:
        head = self.vocabulary.tables[table].head

        def rank(column: Column) -> tuple[bool, bool, int, int]:
            words = self.vocabulary.columns[ColumnKey(table, column.name)]
            # Of payments it is what was paid, and not what was due.
            called = any(related(p, head) for p in words.parts)
            generic = {"total": 0, "amount": 1, "revenu": 1, "sale": 1, "gross": 2, "valu": 2, "price": 3, "net": 3}
            named = min((generic[p] for p in words.parts if p in generic), default=4)
            # What has been paid, where some has not been, is a part of what was asked for.
            settled = column.missing > 0 and stem("paid") in words.parts
            return (not called, settled, min(generic.get(words.head, 4), named), 0 if column.role.is_summed else 1)

        whole = billed_in_parts(self.vocabulary, table) or spent_on(self.vocabulary, table)
        if whole is not None:
            return whole
        rows = {*self.vocabulary.tables[table].parts}
        columns = [
            c
            for c in self.catalogue.table(table).columns
            if c.is_measure
            and c.role is Role.MONEY
            and (not _PENALTIES & {*self.vocabulary.columns[ColumnKey(table, c.name)].parts} or _PENALTIES & rows)
        ]
        # What came in is asked about before what was paid for it.
        columns = [c for c in columns if name_parts(c.name)[:1] not in (["bought"], ["purchased"])] or columns
        if not columns and self.has_money(table):
            # Loans with a fine now and then are asked about by how many there are.
            return None
        plain = [c for c in columns if not self._is_extra(ColumnKey(table, c.name))]
        if len(plain) < len(columns):
            columns = plain
        earned = [c for c in columns if not COST_PARTS & set(self.vocabulary.columns[ColumnKey(table, c.name)].parts)]
        costs_only = not any(c.is_measure and c not in columns for c in self.catalogue.table(table).columns)
        price = trade(self.vocabulary, table).price
        if columns and isinstance(price, m.Col) and price.key.table == table:
            # Of cars for sale it is the price that is asked about, and not what was paid for them.
            columns = [] if all(PAID_FOR_THEM & {*name_parts(c.name)} for c in columns) else columns
            earned = [c for c in earned if c in columns]
        if earned or (columns and (costs_only or LEDGERS & set(self.vocabulary.tables[table].parts))):
            return m.Col(ColumnKey(table, min(earned or columns, key=rank).name))
        found = trade(self.vocabulary, table)
        if found.revenue is not None:
            return found.revenue
        columns = [
            c
            for c in self.catalogue.table(table).columns
            if c.is_measure and self.vocabulary.columns[ColumnKey(table, c.name)].head in GENERIC_MONEY
        ]
        # Products under ten pounds are those that are sold for less, whatever was paid for them.
        columns = [c for c in columns if not PAID_FOR_THEM & {*name_parts(c.name)}] or columns
        columns = [c for c in columns if not self._is_extra(ColumnKey(table, c.name))] or columns
        if columns:
            return m.Col(ColumnKey(table, min(columns, key=rank).name))
        if columns := [c for c in self.catalogue.table(table).columns if c.is_measure and c.role is Role.MONEY]:
            return m.Col(ColumnKey(table, min(columns, key=rank).name))
        scores = [c for c in self.catalogue.table(table).columns if c.is_measure]
        told = [c for c in scores if not _BOUNDS & set(name_parts(c.name)) and not is_out_of(c.name)]
        # What was reached is asked about before what was to be.
        told = [c for c in told if not PLANNED & {*self.vocabulary.columns[ColumnKey(table, c.name)].parts}] or told
        sums = [c for c in told if c.role is Role.QUANTITY]
        # What was brought in is asked about before the acres that it grew on.
        sums = [c for c in sums if not GROUND & set(name_parts(c.name))] or sums
        main = next(iter(sums or told or scores), None)
        return m.Col(ColumnKey(table, main.name)) if main is not None else None

    def _is_extra(self, key: ColumnKey) -> bool:
        """True for money that comes on top of what a row comes to, or that was only planned."""
        return bool({*self.vocabulary.columns[key].full} & (EXTRAS | OFFERED))

    def is_rate(self, key: ColumnKey) -> bool:
        """True for a column that is told in per cent, or as a fraction."""
        column, words = self.column(key), self.vocabulary.columns[key]
        said = {*words.full, *words.described} & (_FRACTIONS | AVERAGED)
        return column.role is Role.PERCENTAGE or bool(said)

    def base_of(self, expr: m.Expr) -> m.Expr | None:
        """What a measure is a part of: the whole that stands beside it on the same rows, such as the number sent."""
        if not isinstance(expr, m.Col):
            return None
        whole = self.whole_of(expr.key)
        if whole is not None:
            return m.Col(whole)
        sound = self._sound_beside(expr.key)
        if sound is not None:
            return m.Arithmetic("+", m.Col(sound), expr)
        came = _CAME & {*self.vocabulary.columns[expr.key].parts}
        for wanted in (*_SIGNED_UP, *_WHOLES) if came else _WHOLES:
            for column in self.catalogue.table(expr.key.table).columns:
                key = ColumnKey(expr.key.table, column.name)
                if key != expr.key and column.is_measure and column.role.is_summed:
                    words = self.vocabulary.columns[key]
                    if wanted in (*words.parts, *words.described):
                        return m.Col(key)
        return self._largest_beside(expr.key)

    def is_spoiled(self, key: ColumnKey) -> bool:
        """True for what did not come out well, where what did stands beside it."""
        return self._sound_beside(key) is not None

    def _sound_beside(self, part: ColumnKey) -> ColumnKey | None:
        """What came out well, beside what did not: together they are all that was made, whatever was planned."""
        if not {*self.vocabulary.columns[part].parts} & SPOILED:
            return None
        for column in self.catalogue.table(part.table).columns:
            key = ColumnKey(part.table, column.name)
            if column.type.is_number and column.role.is_summed and {*self.vocabulary.columns[key].parts} & SOUND:
                return key
        return None

    def _largest_beside(self, part: ColumnKey) -> m.Expr | None:
        """The one number of the same kind on the same rows that is never smaller, as far as the ends tell."""
        own = self.column(part)
        found = [
            c
            for c in self.catalogue.table(part.table).columns
            if c.name != part.column
            and c.type is own.type is Type.INTEGER
            and c.role is Role.QUANTITY is own.role
            and None not in (c.high, own.high, c.low, own.low)
            and float(c.high or 0) >= float(own.high or 0)
            and float(c.low or 0) >= float(own.low or 0)
        ]
        return m.Col(ColumnKey(part.table, found[0].name)) if len(found) == 1 else None

    def whole_of(self, key: ColumnKey) -> ColumnKey | None:
        """The column that a column is a part of by its name and its size: households, of households without a car."""
        part = self.column(key)
        words = {*self.vocabulary.columns[key].full}
        best: tuple[tuple[bool, int], ColumnKey] | None = None
        for column in self.catalogue.table(key.table).columns:
            if column.name == key.column or not column.is_measure or column.type is not part.type:
                continue
            if None in (column.high, part.high, column.low, part.low):
                continue
            larger = float(column.high or 0) >= float(part.high or 0) and float(column.low or 0) >= float(part.low or 0)
            told = {*self.vocabulary.columns[ColumnKey(key.table, column.name)].full}
            inside = bool(told) and told < {*words, *self.vocabulary.columns[key].described}
            everyone = bool(told & _EVERYONE) and bool(told & _ALL) and bool(words & _OF_PEOPLE)
            force = bool(told & _FORCE) and bool(words & _WORKING)
            if larger and (inside or everyone or force):
                rank = ((inside or force, len(told)), ColumnKey(key.table, column.name))
                best = max(best, rank) if best is not None else rank
        return best[1] if best is not None else None

    def came_of(self, planned: m.Expr) -> m.Expr | None:
        """What stands beside a plan and says what came of it."""
        if not isinstance(planned, m.Col):
            return None
        if _REORDERED & {*self.vocabulary.columns[planned.key].full}:
            # What is reordered at so many is so by how many there are, and not by what it costs.
            here = (ColumnKey(planned.key.table, c.name) for c in self.catalogue.table(planned.key.table).columns)
            measured = (k for k in here if k != planned.key and self.column(k).is_measure)
            came = next((k for k in measured if self._is_in_stock(k)), None)
            return m.Col(came) if came is not None else None
        came = plans.came_of(self.vocabulary, planned.key)
        return m.Col(came) if came is not None else None

    def _is_in_stock(self, key: ColumnKey) -> bool:
        """True for how much there is of something: by the column's own name, or by what people call it."""
        words = self.vocabulary.columns[key]
        if {*words.full} & (COST_PARTS | _PRICES):
            # What a unit costs is no number of units.
            return False
        return bool(_IN_STOCK & {*words.full}) or (stem("stock"),) in words.synonyms

    def came_below(self, planned: m.Expr) -> m.Aggregated | m.Combined | None:
        """What came of a plan on the rows below: the hours worked of a budget of hours, what was spent of one of money."""
        if not isinstance(planned, m.Col):
            return None
        found = plans.rate_below(self.vocabulary, planned.key) or plans.came_below(self.vocabulary, planned.key)
        if found is not None:
            return found
        measures = (self.main_measure(child) for child in self.children(planned.key.table))
        main = next((e for e in measures if e is not None), None)
        below = self.aggregate(main) if main is not None else None
        return below if isinstance(below, m.Aggregated) else None

    def is_about(self, table: str, verb: str) -> bool:
        """True where a verb is what the rows of a table are about: booked of bookings, gave of gifts."""
        words = self.vocabulary.tables[table]
        return any(related(stem(verb), part) for part in (*words.parts, *words.described[:6]))

    def is_stock(self, key: ColumnKey) -> bool:
        """True for a number that stands at a time and is not added up over it: people, homes, members."""
        words = {
            *self.vocabulary.columns[key].parts,
            *self.vocabulary.columns[key].described,
            *self.vocabulary.tables[key.table].parts,
        }
        resident = key.table in self.residing and self.vocabulary.is_told_again(key.table)
        if resident and key in m.columns_in(self.residing[key.table]):
            return True
        if _HELD & {*self.vocabulary.columns[key].parts} and self._is_count_of_things(key.table):
            return True
        return self.vocabulary.weights.get(key.table) == key and bool(words & _STOCKS) and not words & _FLOWS

    def _is_count_of_things(self, table: str) -> bool:
        """True for a table that tells of each of many things once on each of several days, as a count of stock does."""
        found = self.catalogue.table(table)
        days = [c for c in found.columns if c.type is Type.DATE]
        links = [c for c in found.columns if c.role is Role.LINK]
        if found.key is not None or len(days) != 1 or len(links) != 1:
            return False
        return links[0].distinct < found.rows <= links[0].distinct * days[0].distinct

    def months_beside(self, table: str) -> m.Col | None:
        """The column of months of the year that a table has beside its column of years."""
        for column in self.catalogue.table(table).columns:
            key = ColumnKey(table, column.name)
            if self.vocabulary.columns[key].parts == ("month",) and not column.is_measure:
                return m.Col(key)
        return None

    def grain(self, table: str) -> m.Unit:
        """The periods by which the rows of a table are looked at over time when nothing is said."""
        key = event_time(self.catalogue, table)
        if key is None or self.column(key).type.is_time:
            return "month"
        text = self.column(key).type is Type.TEXT and not are_years(self.column(key).values)
        return "quarter" if text else "year"

    def counted(self, table: str) -> m.Aggregated:
        """How many there are: the rows, or what a table that only tells numbers has in its number."""
        weight = self.vocabulary.weights.get(table)
        if weight is None and _is_stuff(name_parts(table)) and (amount := self.amount_of(table)) is not None:
            return m.Aggregated("sum", amount)
        if weight is None and table in self.residing:
            return m.Aggregated("sum", self.residing[table])
        if (figure := self.vocabulary.main_figures.get(table)) is not None:
            named, held, value = figure
            return m.Aggregated("sum", m.Given(m.Col(held), m.Is(named, (value,))))
        return m.Aggregated("sum", m.Col(weight)) if weight is not None else m.Aggregated("count", table=table)

    def amount_of(self, table: str) -> m.Col | None:
        """How much of something each row of a table tells of."""
        amounts = [c for c in self.catalogue.table(table).columns if c.is_measure and c.role is Role.QUANTITY]
        # All the waste is the total of it, and no part that went to one place.
        amounts.sort(key=lambda c: (bool(GROUND & {*name_parts(c.name)}), not IN_ALL & {*name_parts(c.name)}))
        return next((m.Col(ColumnKey(table, c.name)) for c in amounts), None)

    def children(self, table: str) -> list[str]:
        """Tables whose rows point at rows of this one, the longest first."""
        found = {r.table for r in self.catalogue.relationships if r.other == table}
        return sorted(found, key=lambda n: -self.catalogue.table(n).rows)

    def person(self, table: str, *, buys: bool = True) -> m.Col | None:
        """The column of a table that says who: those who buy and pay first, or those who do the work."""

        rows = set(self.vocabulary.tables[table].parts)

        def rank(column: Column) -> tuple[bool, bool, bool]:
            parts = set(self.vocabulary.columns[ColumnKey(table, column.name)].parts)
            # The name of a project is nobody's.
            thing = parts & PERSON_WORDS == {NAME} != parts and parts - {NAME} <= rows and not self.is_of_people(table)
            coded = column.role in (Role.IDENTIFIER, Role.LINK) or name_parts(column.name)[-1:] in _REFERENCES
            return (coded, thing, bool(BUYERS & parts) is not buys)

        texts = sorted(self._texts(table), key=rank)
        if not buys:
            doing = (c for c in texts if name_parts(c.name)[-1:] in (["by"], ["to"]) and rank(c)[2] is False)
            if (doer := next((c for c in doing if holds_names(c)), None)) is not None:
                # Who closed a ticket is whoever it was assigned to.
                return m.Col(ColumnKey(table, doer.name))
        belonging = not self.is_of_people(table) and any(
            self.is_of_people(r.other) for r in self.vocabulary.catalogue.parents(table)
        )
        for column in texts:
            words = self.vocabulary.columns[ColumnKey(table, column.name)]
            if belonging and set(words.parts) & PERSON_WORDS == {NAME}:
                # The name of a boat that is somebody's is nobody's.
                continue
            if column.role is Role.PERSON or set(words.parts) & PERSON_WORDS:
                if "email" not in words.parts and "phone" not in words.parts:
                    return m.Col(ColumnKey(table, column.name))
        doers = [c for c in texts if _is_doer(c)]
        bodies = [c for c in texts if _BODIES & {*self.vocabulary.columns[ColumnKey(table, c.name)].parts}]
        # Whoever something was issued to, or is held by, has it.
        held = [c for c in texts if name_parts(c.name)[-1:] in (["to"], ["by"]) and holds_names(c)]
        return next((m.Col(ColumnKey(table, c.name)) for c in (*doers, *bodies, *held)), None)

    def is_buyer(self, column: m.Col) -> bool:
        """True for a column, or a table of them, that says who buys and pays."""
        words = {*self.vocabulary.columns[column.key].parts, *self.vocabulary.tables[column.key.table].parts}
        return bool(BUYERS & words)

    def is_of_people(self, table: str) -> bool:
        """True for a table whose rows are people: it is called after them, and has their names."""
        return bool(PERSON_WORDS & set(self.vocabulary.tables[table].parts))

    def split_name(self, table: str) -> tuple[m.Col, ...]:
        """The columns that name people in two parts, first and last; empty where a table has no such two."""
        found: list[m.Col] = []
        for wanted in (_FIRST_NAME, _LAST_NAME):
            column = next((c for c in self._texts(table) if "".join(name_parts(c.name)) in wanted), None)
            if column is None:
                return ()
            found.append(m.Col(ColumnKey(table, column.name)))
        return tuple(found)

    def place(self, table: str) -> m.Col | None:
        """The column of a table that says where."""
        return next((m.Col(ColumnKey(table, c.name)) for c in self._texts(table) if c.role is Role.PLACE), None)

    def _texts(self, table: str) -> Iterator[Column]:
        yield from (c for c in self.catalogue.table(table).columns if c.type is Type.TEXT)

    def totals(self, key: ColumnKey) -> tuple[str, ...]:
        """The values of a category that stand for all the others together."""
        if key not in self._totals:
            self._totals[key] = self.vocabulary.totals(key)
        return self._totals[key]

    def with_totals(self, table: str) -> tuple[ColumnKey, ...]:
        """The categories of a table that have a value for all of them together."""
        if table not in self._with_totals:
            keys = (ColumnKey(table, c.name) for c in self.catalogue.table(table).columns)
            self._with_totals[table] = tuple(key for key in keys if self.totals(key))
        return self._with_totals[table]

    def is_meter(self, key: ColumnKey) -> bool:
        """True for what a meter stands at: a reading, that grows with what is used."""
        column = self.column(key)
        stood = not column.type.is_number or float(column.high or 0) > _LEAST_METERED
        called = set(self.vocabulary.columns[key].parts) <= _METERS and column.aggregate is None and stood
        return called and any(c.type.is_time for c in self.catalogue.table(key.table).columns)

    def group(self, noun: Noun) -> m.Expr | None:
        """What a noun is grouped by."""
        if noun.key is not None:
            return m.Col(noun.key)
        if noun.table is None:
            return None
        if (naming := self.naming(noun.table)) is not None or self.catalogue.table(noun.table).key is not None:
            return naming
        # What is told again each month has one column that says of what.
        texts = [c for c in self._texts(noun.table) if c.role not in (Role.TEXT, Role.LINK)]
        told = len(texts) == 1 and self.vocabulary.is_told_again(noun.table)
        return m.Col(ColumnKey(noun.table, texts[0].name)) if told else None

    def aggregate(self, expr: m.Expr) -> m.Aggregated:
        """An expression put together as its role says."""
        expr = self._of_as_many(expr)
        return m.counted_below(expr) or m.Aggregated(self.function(expr), expr)  # type: ignore[arg-type]

    def _of_as_many(self, expr: m.Expr) -> m.Expr:
        """What a line came to less what one of them cost is less what as many cost as there are on it."""
        match expr:
            case m.Arithmetic(op="-", left=m.Col(key=line), right=m.Col() as each) if (
                self.column(line).role is Role.MONEY
                and (found := trade(self.vocabulary, line.table)).unit_cost == each
                and found.quantity is not None
                and found.price != m.Col(line)
            ):
                return m.Arithmetic("-", expr.left, m.Arithmetic("*", found.quantity, each))
            case _:
                return expr

    def level(self, expr: m.Expr) -> m.Aggregated:
        """An expression put together to be held against that of others: what each earns or pays is so on average."""
        told = isinstance(expr, m.Col) and set(self.vocabulary.columns[expr.key].parts) & _PAID_BY_EACH
        return m.Aggregated("mean", expr) if told else self.aggregate(expr)

    def function(self, expr: m.Expr) -> str:
        match expr:
            case m.Col(key=key):
                words = self.vocabulary.columns[key]
                column = self.column(key)
                priced = any(set(word_stems(s)) & _PRICES for s in column.synonyms)
                told = set(words.described) & _RATED or any(
                    said.search(column.description.lower()) for said in (_ONE_TO, _FOR_ONE)
                )
                said = {*words.full, *words.described[:1]}
                indexed = bool(_INDICES & set(self.vocabulary.tables[key.table].parts))
                averaged = (bool(_AVERAGES & said) or priced or indexed or bool(told)) and column.aggregate is None
                small = column.type.is_number and column.type is not Type.INTEGER and column.high is not None
                fraction = small and float(column.high or 0) <= 1.0
                shared = fraction and bool(said & _FRACTIONS) and column.aggregate is None
                if self.is_meter(key):
                    # What a meter stands at is not added up.
                    return "max"
                # How far a car for sale has gone is its own, where no day is told on which it stood so.
                averaged = averaged or (words.parts == _FAR_GONE and column.aggregate is None)
                return "mean" if averaged or shared else column.default_aggregate
            case m.AsAt(value=key):
                return self.function(m.Col(key))
            case m.Below(quantity=m.Aggregated(function="min" | "max" as end)):
                return end
            case m.Given(condition=m.Is(values=(str(value),))):
                return "mean" if set(word_stems(value)) & AVERAGED else "sum"
            case m.Given(of=of):
                return self.function(of)
            case m.Arithmetic(left=m.Col() as left, right=m.Number()):
                return self.function(left)
            case m.Arithmetic(op="*", left=left, right=right):
                return "sum"
            case m.Arithmetic(op="-", left=m.Number(value=0.0), right=right):
                return self.function(right)
            case m.Arithmetic(op="-", left=m.Col(key=key), right=right) if (
                self.function(right) == "sum" and self.vocabulary.columns[key].head == "price"
            ):
                # A job's price less what it cost is added up as its cost is.
                return "sum"
            case m.Arithmetic(left=left, right=right):
                # What is left of budgets is added up, as what was spent of each is.
                told = {
                    side.quantity.function if isinstance(side, m.Below) else self.function(side)
                    for side in (left, right)
                }
                return "mean" if "mean" in told else "sum"
            case _:
                return "mean"


def _is_doer(column: Column) -> bool:
    """True for a column named after one who does something, a sampler or an organiser, that holds full names."""
    parts = name_parts(column.name)
    return bool(parts) and len(parts[-1]) > 5 and parts[-1].endswith(("er", "or", "ist", "ian")) and holds_names(column)


def holds_names(column: Column) -> bool:
    """True for text of two or three words, each with a capital, as the full names of people are."""
    named = [v for v in column.values[:60] if len(v.split()) in (2, 3) and all(w[:1].isupper() for w in v.split())]
    return len(named) >= 0.9 * min(len(column.values), 60) and len(named) > 1


def tables_of(node: object) -> list[str]:
    """The tables whose columns a node reads, each once."""
    found = [k.table for k in m.columns_in(node)]
    return list(dict.fromkeys(found))
