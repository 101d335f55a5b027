"""Roles of columns, guessed from their names, types and values."""

from __future__ import annotations

import functools
import re

from gumption.core.model.catalogue import Column
from gumption.core.model.names import singular, spaced
from gumption.core.model.types import Role, Type
from gumption.intake.numbers import CURRENCIES

_RATE = frozenset({"price", "prices", "unit", "per", "each", "rrp", "msrp"})
_GUESSED = frozenset({"estimate", "estimated", "quote", "quoted", "reserve", "excess", "settlement"})
_OLDEST = 130
_MONEY = frozenset(
    [
        "fee",
        "cogs",
        "fees",
        "fare",
        "fares",
        "rental",
        "stipend",
        "subsidy",
        "levy",
        "proceeds",
        "invoiced",
        "billed",
        "price",
        "prices",
        "cost",
        "costs",
        "amount",
        "amt",
        "revenue",
        "sales",
        "turnover",
        "income",
        "salary",
        "pay",
        "wage",
        "wages",
        "budget",
        "gross",
        "profit",
        "profits",
        "spend",
        "spent",
        "spending",
        "freight",
        "refund",
        "refunds",
        "assets",
        "value",
        "marketvalue",
        "mrr",
        "net",
        "paid",
        "payment",
        "charge",
        "charges",
        "balance",
        "credit",
        "debit",
        "tax",
        "discount_amount",
        "total",
        "subtotal",
        "expense",
        "expenses",
        "earnings",
        "takings",
        "due",
        "arrears",
        "deposit",
        "rent",
        "premium",
        "premiums",
        "claimed",
        "bill",
        "bills",
        "donation",
        "donations",
        "fine",
        "fines",
        "postage",
        "commission",
        "bonus",
        "payable",
        "owed",
        "outstanding",
        "gift",
        "cash",
        "grant",
        "grants",
        "sponsorship",
        "tip",
        "tips",
        "tuition",
        "toll",
        "interest",
        "instalment",
        "installment",
        "vat",
        "gst",
        "insured",
        "surcharge",
        "payout",
        "payouts",
        "compensation",
        "valuation",
        "royalty",
        "royalties",
        "dividend",
        "dividends",
        "loan",
        "debt",
        "mortgage",
        "savings",
        "principal",
        "borrowed",
        "lent",
        "advance",
        "gratuity",
        "gratuities",
        "nbv",
    ]
)
_SCORE = frozenset(
    [
        "rating",
        "ratings",
        "stars",
        "score",
        "scores",
        "age",
        "rate",
        "ratio",
        "temp",
        "temperature",
        "percent",
        "pct",
        "share",
        "lifeexp",
        "index",
        "level",
        "grade",
        "speed",
        "mpg",
        "horsepower",
        "bhp",
        "engine_size",
        "pace",
        "humidity",
        "humid",
        "rh",
        "pressure",
        "visib",
        "wind_speed",
        "mean",
        "average",
        "avg",
        "delay",
        "lat",
        "lon",
        "latitude",
        "longitude",
        "rank",
        "pos",
        "position",
        "margin",
        "percap",
        "weight",
        "height",
        "alt",
        "altitude",
        "satisfaction",
        "effort",
        "behaviour",
        "behavior",
        "csat",
        "nps",
        "severity",
        "urgency",
        "difficulty",
        "priority",
        "likelihood",
        "duration",
        "happiness",
        "wait",
        "waiting",
        "minutes",
        "mins",
        "min",
        "mark",
        "marks",
        "exam",
        "test",
        "result",
        "maths",
        "math",
        "mathematics",
        "english",
        "science",
        "history",
        "geography",
        "reading",
        "writing",
        "spelling",
        "physics",
        "chemistry",
        "biology",
        "grammar",
        "attendance",
        "gpa",
        "handicap",
        "bmi",
        "pulse",
        "ph",
        "moisture",
        "yield",
        "depth",
        "thickness",
        "expectancy",
        "density",
        "median",
        "typical",
    ]
)
_WEIGHED_OUT = frozenset(["kg", "kgs", "kilos", "t", "tonnes", "tons", "g", "lb", "lbs", "l", "litres", "liters"])
_MEASURED_IN = _WEIGHED_OUT | frozenset(
    [
        "kilograms", "grams", "ml", "gallons", "litre", "kwh", "mwh", "gwh", "km", "miles", "metres", "m2", "m3", "sqm", "ha",
        "hectares", "acres", "hours", "hrs", "mins", "minutes", "days", "nights", "units", "pieces", "people", "persons",
        "visits", "visitors", "passengers", "trips", "weight", "volume", "distance", "area", "length", "mileage",
    ]
)  # fmt: skip
_SUMS_OF_MONEY = frozenset(
    [
        "invoices",
        "invoice",
        "bills",
        "bill",
        "payments",
        "payment",
        "receipts",
        "charges",
        "expenses",
        "donations",
        "refunds",
        "fees",
        "costs",
        "wages",
        "premiums",
    ]
)
"""What tables are called of which each row is so much money."""
_OF_ANYTHING = frozenset(["total", "gross", "net", "amount", "value"])
"""Words that are said of money as of anything else."""
_RELEASES = frozenset(["version", "release", "edition", "revision", "ver"])
_NUMBERED = frozenset(
    [
        "room",
        "floor",
        "bay",
        "aisle",
        "platform",
        "gate",
        "lane",
        "shelf",
        "zone",
        "ward",
        "terminal",
        "track",
        "grade",
        "shift",
        "line",
        "group",
        "class",
        "form",
        "set",
        "round",
        "season",
        "stage",
        "phase",
        "tier",
        "route",
        "machine",
        "table",
        "pen",
        "court",
        "district",
        "section",
        "sector",
        "team",
        "bib",
        "shirt",
        "locker",
        "plot",
        "peg",
    ]
)
"""Places and ranks that are numbered: whole numbers in columns called so tell which, not how many."""
_NUMBERED_THINGS = frozenset(
    ["centre", "center", "account", "acct", "ledger", "postcode", "zip", "extension", "phone", "till", "register", "checkout",
     "platform", "lane", "bay", "pump", "gate", "court", "pitch", "aisle", "terminal", "kiosk", "booth", "locker", "berth"]
)  # fmt: skip
_MADE = frozenset(["made", "built", "founded", "dated", "born", "published", "written", "composed", "painted"])
"""What has happened to a thing in a year that may lie far back."""
_TIME_PART = frozenset(["year", "month", "day", "hour", "minute", "week", "quarter", "weekday"])
_TIME_PART_SHORT = {"mth": 12, "mnth": 12, "mon": 12, "qtr": 4, "wk": 53, "dow": 7}
"""Short names of parts of a time, with the highest number that such a part may have."""
_IDENTIFIER = frozenset(["id", "no", "nr", "number", "key", "code", "ref", "sku", "uuid", "isbn", "identifier", "num"])
_NAME = frozenset(["name", "nm", "nme", "title", "company", "label", "fullname"])
_PRICED = frozenset(["sold", "bought", "paid", "purchased", "valued", "listed", "offered", "priced"])
"""What stands before "for" or "at" in the head of a price."""
_ASKED = frozenset(["asking", "advertised", "guide", "market"])
_PLACE = frozenset(
    [
        "city",
        "town",
        "country",
        "region",
        "county",
        "state",
        "province",
        "district",
        "village",
        "place",
        "location",
        "venue",
        "site",
        "address",
        "area",
        "suburb",
        "borough",
        "continent",
        "territory",
        "island",
        "ort",
        "stadt",
        "land",
    ]
)
_HALF_NAMES = frozenset(
    ["firstname", "forename", "forenames", "givenname", "lastname", "surname", "familyname", "secondname"]
)
_PERSON = frozenset(
    [
        "person",
        "employee",
        "manager",
        "mgr",
        "agent",
        "contact",
        "owner",
        "rep",
        "director",
        "author",
        "teacher",
        "doctor",
        "vet",
        "patient",
        "member",
        "supervisor",
        "head",
    ]
)
"""Columns of these names hold people where their values are of several words; codes of people are categories."""
_SERVED = frozenset(
    ["customer", "client", "guest", "donor", "student", "pupil", "tenant", "subscriber", "user", "borrower"]
)
_FREE = frozenset(["comment", "comments", "note", "notes", "remark", "remarks", "text"])


def parts_of(name: str) -> list[str]:
    """visitDate, visit_date and "Visit Date" as ["visit", "date"]."""
    return list(_parts_of(name))


@functools.lru_cache(maxsize=50_000)
def _parts_of(name: str) -> tuple[str, ...]:
    # Every pair of columns that could join is looked at by its names.
    return tuple(part.lower() for part in re.findall(r"[^\W\d_]+|\d+", spaced(name)))


_ADDED_UP = frozenset(
    ["worked", "spent", "hours", "overtime", "total", "played", "taught", "flown", "driven", "trained"]
)
"""Words of lengths of time that are added up; others are averaged."""
_TIME_LOGS = frozenset(
    [
        "timesheet",
        "timesheets",
        "hours",
        "time",
        "downtime",
        "overtime",
        "stoppage",
        "stoppages",
        "outage",
        "outages",
        "shifts",
        "shift",
        "rota",
        "roster",
    ]
)
"""What a table is called whose rows tell of time that somebody worked, or that was lost."""
_SAMPLES = frozenset(
    ["readings", "measurements", "observations", "samples", "sensors", "sensor", "telemetry", "observation"]
)
"""What a table is called whose rows each tell of a moment."""
_METERED = frozenset(
    ["kwh", "mwh", "wh", "gas", "electricity", "energy", "consumption", "consumed", "used", "usage", "m", "litres", "rain",
     "rainfall", "precipitation", "mm", "reading", "count", "steps", "units", "total", "kg", "amount"]
)  # fmt: skip
"""What a meter or a gauge counts, which adds up, or stands at."""
_IN_THE_AIR = re.compile(r"(no2|nox|o3|so2|pm(25|10|1)|ozone)(?![a-z]*(kg|ton|total|emission))")
"""How much of a substance there is in the air."""
_LASTING = frozenset(["time", "duration", "hrs", "mins", "minutes", "h"])
"""What a column of such a time is called."""
_SHORT_TIMES = frozenset(["min", "mins", "minute", "minutes", "sec", "secs", "second", "seconds"])
_MOST_KINDS = 30
"""Different values of a short column of text that may be kinds, however few rows there are."""
_TAKEN = frozenset(["paid", "charged", "received"])
_CONTACT = frozenset(
    ["email", "mail", "phone", "tel", "telephone", "mobile", "address", "street", "url", "link", "description"]
)


def _are_names(column: Column) -> bool:
    """True for text of a few words without digits or signs, as names are; single words begin with a capital."""
    sample = column.values[:60]
    capital = [v for v in sample if v[:1].isupper() and v[1:2].islower()]
    if not sample or (not any(" " in v for v in sample) and len(capital) < 0.9 * len(sample)):
        return False
    plain = [v for v in sample if not re.search(r"[\d@/:?!]", v) and len(v.split()) <= 5]
    return len(plain) >= 0.9 * len(sample)


def beside_its_name(column: Column, columns: list[Column], table: str) -> Role | None:
    """What a column of names is where the key of the rows is a name already and called as they are; None where it is none."""
    own = {singular(part) for part in parts_of(table)}
    words = parts_of(column.name)
    named = any(
        c.role is Role.IDENTIFIER
        and c.type is Type.TEXT
        and {singular(w) for w in parts_of(c.name)} == own
        and _are_names(c)
        for c in columns
    )
    if not named or (words and words[-1] in _NAME):
        return None
    return Role.TEXT if column.distinct > _MOST_KINDS else Role.CATEGORY


def role_of(column: Column, rows: int, first: bool, table: str) -> Role:
    """The likeliest role; the person may change it."""
    words = parts_of(column.name)
    known = set(words) | {"_".join(words), "".join(words)}
    unique = column.distinct >= rows - column.missing and column.missing == 0 and rows > 1
    match column.type:
        case Type.BOOLEAN:
            return Role.FLAG
        case Type.DATE | Type.TIMESTAMP:
            return Role.DATE
        case Type.TEXT:
            return _text_role(column, rows, words, unique, first, parts_of(table))
        case Type.TIME:
            return Role.CODE
        case Type.INTEGER | Type.DECIMAL | Type.FLOAT | Type.DURATION:
            # What a tax of 5% came to is called after its rate, and is none.
            if column.unit == "%" or "%" in re.sub(r"\d\s*%", "", column.name):
                return Role.PERCENTAGE
            # "Order no" is a number that tells apart; "households with no car" is none.
            tells = bool(words) and (words[-1] in _IDENTIFIER or words[0] in ("id", "key", "uuid"))
            if unique and column.type is Type.INTEGER and (first or tells):
                return Role.IDENTIFIER
            if column.type is Type.INTEGER and known & _IDENTIFIER and words[-1] in _IDENTIFIER:
                return Role.CODE
            counted = bool(words) and words[-1].endswith("s")
            if (
                column.type is Type.INTEGER
                and not counted
                and words
                and not known & (_SCORE | _MONEY)
                and set(words) == {p.removesuffix("s") for p in parts_of(table)}
                and parts_of(table)[-1].endswith("s")
            ):
                # The number of a flight in a table of flights tells which, not how many; a table of population is of that.
                return Role.CODE
            if words and words[-1] in _RELEASES and column.type is not Type.DURATION:
                # Version 2.1 is one of a few, and no amount.
                return Role.CODE
            if column.type is Type.INTEGER and words and words[-1] in _NUMBERED_THINGS:
                # A cost centre's number says which it is, and is no cost.
                return Role.CODE
            if column.type is Type.INTEGER and not known & _MONEY and _are_running_numbers(column, rows, first):
                return Role.CODE
            told_of = len(words) > 2 and words[-2] in ("this", "last", "per", "each", "previous", "past")
            bracketed = "(" in column.name.strip()[1:]
            if (
                column.type is Type.INTEGER
                and words
                and (words[-1] in _TIME_PART | _NUMBERED or words[0] in ("year", "yr"))
            ):
                # What was sold this year is no year, and neither is a population (mid-year).
                if not told_of and not (bracketed and parts_of(column.name.split("(")[0])[-1:] != words[-1:]):
                    return Role.CODE
            if len(words) == 2 and words[-1] in ("for", "at") and words[0] in _PRICED:
                return Role.MONEY
            if (
                column.type is Type.INTEGER
                and words
                and words[-1] in _TIME_PART_SHORT
                and 0 <= float(column.low or -1) <= float(column.high or 99) <= _TIME_PART_SHORT[words[-1]]
            ):
                return Role.CODE
            if column.type is Type.INTEGER and column.low == "0" and column.high == "1":
                return Role.FLAG
            if column.type is Type.INTEGER and _are_years(column):
                return Role.CODE
            if column.type is Type.INTEGER and re.fullmatch(r"q_?\d+[a-z]?", column.name.lower()):
                # Answers to the questions of a survey.
                return Role.SCORE
            if re.search(r"[a-zµ]/[a-z]", column.name.lower()):
                # So much of one thing in another: mg/l, km/h.
                return Role.SCORE
            if _IN_THE_AIR.match(re.sub(r"\W|_", "", column.name.lower())):
                return Role.SCORE
            sampled = bool({*parts_of(table)} & _SAMPLES) and column.type in (Type.DECIMAL, Type.FLOAT)
            if sampled and not known & (_MONEY | _METERED):
                # What a sensor read at a moment is a level, of which there is no sum.
                return Role.SCORE
            logged = bool({*parts_of(table)} & _TIME_LOGS and known & _LASTING)
            if logged and not (known - {"time", "duration", "minutes"}) & (_SCORE | _RATE | _MONEY):
                # The durations in a log of time worked are added up.
                return Role.QUANTITY
            if known & {"downtime"} and not known & _RATE:
                # What was lost is added up.
                return Role.QUANTITY
            if column.type is Type.DURATION and not known & _ADDED_UP:
                return Role.SCORE
            if column.unit in _SHORT_TIMES and not known & _ADDED_UP:
                # "155 mins" is how long one takes.
                return Role.SCORE
            if known & {"pct", "percent", "percentage"}:
                return Role.PERCENTAGE
            if known & {"age", "aged", "ages"} and float(column.high or 0) > _OLDEST:
                # So many people of an age: nobody is as old as that.
                return Role.QUANTITY
            listed = column.type is Type.INTEGER and bool({"list", "lists", "queue"} & set(words))
            if known & {"attendance"} and column.type is Type.INTEGER and float(column.high or 0) > 100:
                # So many came: more than a hundred is no rate.
                return Role.QUANTITY
            signed = bool(re.search(r"[£€$]", column.name)) and not known & _RATE
            taken = (
                column.unit in CURRENCIES or signed or known & _MONEY or (words == ["invoice"] and _are_amounts(column))
            )
            # What an estimate or a quote comes to the penny is money.
            taken = taken or (words == ["sum"] and column.type is Type.DECIMAL and column.scale == 2)
            # Fine particles are no penalties.
            taken = taken and not (words[:1] == ["fine"] and len(words) == 2 and known & _MONEY == {"fine"})
            # Total opens are so many of them.
            counted = column.type is Type.INTEGER and words[:1] == ["total"] and words[-1].endswith("s")
            taken = taken and not (
                counted and known & _MONEY == {"total"} and column.unit not in CURRENCIES and not signed
            )
            # Total tonnes are no money, and neither are net kilos or gross hectares.
            measured = bool(words) and words[-1] in _MEASURED_IN and known & _MONEY <= _OF_ANYTHING
            taken = taken and not (measured and column.unit not in CURRENCIES and not signed)
            # 3.5 of something is an amount of it, where money is told in whole ones or to the penny.
            unnamed = words in (["amount"], ["amt"]) and column.unit not in CURRENCIES and not signed
            unnamed = unnamed and not {*parts_of(table)} & _SUMS_OF_MONEY
            taken = taken and not (unnamed and column.type is Type.DECIMAL and column.scale in (1, 3))
            # In how many days a bill is to be paid is no sum of money.
            taken = taken and words[-1] not in ("days", "weeks", "months", "terms", "years")
            taken = taken or words in (["quoted"], ["quote"], ["quotation"], ["tender"], ["bid"])
            taken = taken or (bool(known & _GUESSED) and column.type is Type.DECIMAL and column.scale == 2)
            if taken and words[-1] in _TAKEN and not known & _SCORE:
                # The price paid is what was paid, and no price on a list.
                return Role.MONEY
            if known & {"weight", "tonnage"} and (
                words[-1:] in (["t"], ["tonnes"], ["tonnage"]) or words[:1] == ["net"]
            ):
                # What was carried away is weighed, and adds up.
                return Role.QUANTITY
            if words[:1] == ["total"] and words[-1:] in (["price"], ["charge"]):
                # The total price is what all of them come to.
                return Role.MONEY
            if known & _ASKED and known & {"rent", "fee"}:
                # What is asked for one is its price.
                return Role.SCORE
            if known & {"yield"} and len(words) > 1 and words[-1] in _WEIGHED_OUT:
                # So many kilos came of it.
                return Role.QUANTITY
            played = bool(known & {"minutes", "mins"}) and bool(known & _ADDED_UP)
            if words[:1] in (["days"], ["weeks"], ["months"]) and words[1:2] in (
                ["to"],
                ["until"],
                ["from"],
                ["between"],
            ):
                # The days to a decision are how long one took.
                return Role.SCORE
            if (known & _SCORE or known & _RATE) and not listed and not played:
                return Role.SCORE
            return Role.MONEY if taken else Role.QUANTITY


def _are_amounts(column: Column) -> bool:
    """True for numbers as different from one another as amounts are: the numbers of invoices have as many digits each."""
    low, high = float(column.low or 0), float(column.high or 0)
    return column.type is not Type.INTEGER or (high < 10_000 and high > 5 * max(low, 1.0))


def _are_running_numbers(column: Column, rows: int, first: bool) -> bool:
    """True for numbers given out one after the other: every one from the first to the last, far from nought."""
    if column.low is None or column.high is None or column.distinct < 30:
        return False
    low, spread = int(column.low), int(column.high) - int(column.low) + 1
    begins = low in (100, 1000, 1001, 10000, 10001) or low >= 500 or (first and low > 0)
    return begins and column.distinct >= 0.97 * spread and column.distinct * 40 >= rows


def _are_years(column: Column) -> bool:
    """True for whole numbers that can only be calendar years."""
    if column.low is None or column.high is None:
        return False
    low, high = int(column.low), int(column.high)
    made = _MADE & set(parts_of(column.name)) and low >= 1000
    return high <= 2100 and (bool(made) or (low >= 1700 and column.distinct <= 200))


def _text_role(column: Column, rows: int, words: list[str], unique: bool, first: bool, table: list[str]) -> Role:
    if column.separator:
        return Role.CATEGORY
    if set(words) & _FREE:
        return Role.TEXT
    filled = max(rows - column.missing, 1)
    if "".join(words) in _HALF_NAMES:
        # One of two names names nobody.
        return Role.TEXT if column.distinct > max(0.6 * filled, _MOST_KINDS) else Role.CATEGORY
    own = {part.removesuffix("s") for part in table}
    # A name of a check that stands on many of the checks is a kind of check.
    named = {w.removesuffix("s") for w in words[:-1]} & own and column.distinct > 0.1 * filled
    if words and words[-1] in _NAME and (column.distinct > 0.6 * filled or named):
        return Role.NAME
    told_apart = unique or column.distinct > 0.4 * filled
    if told_apart and {w.removesuffix("s") for w in words} == own and not first:
        # The school in a table of schools, even where two are called alike.
        return Role.NAME
    if (
        not first
        and own == {*words}
        and own & (_PERSON | _SERVED)
        and column.distinct > 0.1 * filled
        and _are_names(column)
    ):
        # However many customers are called alike, each row of customers is one.
        return Role.NAME
    if unique and first and any(" " in v for v in column.values[:50]) and not set(words) & _IDENTIFIER:
        # A list whose first column holds a different name on each row is a list of what is named.
        return Role.NAME
    if unique and (
        (words[-1:] and words[-1] in _IDENTIFIER) or (first and not any(" " in v for v in column.values[:50]))
    ):
        return Role.IDENTIFIER
    if unique and _are_names(column) and not set(words) & _CONTACT:
        return Role.NAME
    short = column.values and max(map(len, column.values)) <= 60
    if first and told_apart and short and sum(" " in v for v in column.values) > 0.8 * len(column.values):
        # What each row begins with says what it is, such as the address of a home, where two are called alike as well.
        return Role.NAME
    if column.distinct > max(0.6 * filled, _MOST_KINDS):
        return Role.TEXT
    if words and words[-1].removesuffix("s") in _PLACE:
        return Role.PLACE
    if words and words[-1].removesuffix("s") in _PERSON and any(" " in v for v in column.values[:20]):
        return Role.PERSON
    return Role.CATEGORY
