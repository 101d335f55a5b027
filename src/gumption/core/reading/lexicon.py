"""The analyst's words: what each means for a plan, whatever the data."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, TypeAlias

from gumption.core.plan.expressions import AggregateName
from gumption.core.reading.tokens import stem

OperationKind: TypeAlias = Literal[
    "aggregate",
    "count",
    "distinct",
    "compare",
    "between",
    "superlative",
    "group",
    "unit",
    "negate",
    "missing",
    "present",
    "share",
    "running",
    "change",
    "rank",
    "list",
    "order",
    "contains",
    "chart",
    "filler",
    "percent",
    "or",
]


@dataclass(frozen=True)
class Operation:
    """What an operating word asks for; `what` refines it."""

    kind: OperationKind
    what: str = ""
    descending: bool = True
    hint: tuple[str, ...] = ()
    """Concepts of columns that a word such as cheapest points at."""


def _phrases(text: str) -> list[tuple[str, ...]]:
    return [tuple(phrase.split()) for phrase in text.split("|")]


_AGGREGATES: dict[AggregateName, str] = {
    "mean": "average|avg|mean|on average|avrage|averaged",
    "sum": "total|sum of|sum|combined|overall|altogether|in total|total of|totals|adding up",
    "median": "median|typical",
    "deviation": "standard deviation|std dev|stdev|spread",
    "correlation": "correlation|correlated|correlate|correlation between|move together",
    "max": "maximum|max",
    "min": "minimum|min",
}

AGGREGATE_WORDS = {"mean": "average", "sum": "total", "deviation": "standard deviation"}
"""Aggregates that are called otherwise than in plans."""

OPERATIONS: dict[tuple[str, ...], Operation] = {}


def _put(text: str, operation: Operation) -> None:
    for phrase in _phrases(text):
        OPERATIONS[phrase] = operation


for _name, _text in _AGGREGATES.items():
    _put(_text, Operation("aggregate", _name))
_put("how many|number of|count of|count|how often|no of|volume of", Operation("count"))
_put("different|distinct|unique", Operation("distinct"))
_put(
    "more than|over|above|exceeding|greater than|higher than|larger than|bigger than|longer than|later than|better than",
    Operation("compare", ">"),
)
_put("older than", Operation("compare", ">", hint=("age",)))
_put("younger than", Operation("compare", "<", hint=("age",)))
_put("at least|minimum of|no less than|not less than|or more than", Operation("compare", ">="))
_put("less than|under|below|fewer than|lower than|smaller than|shorter than|cheaper than", Operation("compare", "<"))
_put("at most|up to|no more than|not more than|maximum of", Operation("compare", "<="))
_put("exactly|equal to|equals", Operation("compare", "="))
_put("between", Operation("between"))
_put("highest|largest|biggest|greatest|best|longest|strongest|top", Operation("superlative"))
_put(
    "lowest|smallest|worst|shortest|quietest|weakest|bottom|poorest",
    Operation("superlative", descending=False),
)
_put("cheapest|least expensive", Operation("superlative", descending=False, hint=("price", "cost")))
_put("most expensive|dearest|priciest|costliest", Operation("superlative", hint=("price", "cost")))
_put("heaviest", Operation("superlative", hint=("weight",)))
_put("lightest", Operation("superlative", descending=False, hint=("weight",)))
_put("tallest|highest up", Operation("superlative", hint=("height", "altitude")))
_put("fastest", Operation("superlative", hint=("speed",)))
_put("slowest", Operation("superlative", descending=False, hint=("speed",)))
_put("heavier than", Operation("compare", ">", hint=("weight",)))
_put("lighter than", Operation("compare", "<", hint=("weight",)))
_put("taller than", Operation("compare", ">", hint=("height", "altitude")))
_put("faster than", Operation("compare", ">", hint=("speed",)))
_put("slower than", Operation("compare", "<", hint=("speed",)))
_put("oldest|earliest|very first", Operation("superlative", descending=False, hint=("date",)))
_put("newest|latest|most recent|youngest", Operation("superlative", hint=("date",)))
_put("happiest|most satisfied", Operation("superlative", hint=("rating",)))
_put("unhappiest|least satisfied", Operation("superlative", descending=False, hint=("rating",)))
_put("richest|best paid|best-paid", Operation("superlative", hint=("salary", "revenue")))
_put("most", Operation("superlative", "most"))
_put("least|fewest", Operation("superlative", "most", descending=False))
_put(
    "most common|most frequent|most popular|commonest|busiest|most often|mostly|noisiest|commonly",
    Operation("superlative", "count"),
)
_put("least common|rarest|least popular", Operation("superlative", "count", descending=False))
_put(
    "by|per|for each|for every|each|in each|every|broken down by|split by|grouped by|across|breakdown by|depending on|according to",
    Operation("group"),
)
for _unit, _text in {
    "year": "year|years|yearly|annual|annually|year by year",
    "quarter": "quarter|quarters|quarterly|quarter by quarter",
    "month": "month|months|monthly|month by month",
    "week": "week|weeks|weekly|week by week",
    "day": "day|days|daily|day by day",
    "weekday": "weekday|weekdays|day of the week|days of the week|day of week",
    "hour": "hour|hours|hour of the day|hourly",
    "month_of_year": "month of the year|calendar month|months of the year",
}.items():
    _put(_text, Operation("unit", _unit))
_put(
    "not|excluding|except|except for|other than|leaving out|apart from|isn't|aren't|wasn't|weren't|ignoring|but not|non|didn't|did not|don't|do not",
    Operation("negate"),
)
_put("in percent|in per cent|as percent|in %|by percent|in percentage", Operation("percent"))
_put("percentile|percentiles|quantile", Operation("aggregate", "percentile"))
_put(
    "missing|unknown|blank|empty|not known|without a|without any|with no|no|without|lack|lacks|lacking|not given|never|nobody|no one|have not|has not|haven't|hasn't",
    Operation("missing"),
)
_put("has a|have a|with a known|known", Operation("present"))
_put(
    "share of|share|percentage of|proportion of|percentage|percent of|as a percentage|as a share|what share|what percentage|fraction of|share of the total|percentage of the total|as a share of the total|as a percentage of the total|share of total",
    Operation("share"),
)
_put("running total|cumulative|running sum|cumulatively", Operation("running"))
_put("percentage change|percent change|growth|change in percent|growth rate", Operation("change", "change_percent"))
_put("change|change in|change on the month before|month on month change", Operation("change", "change"))
_put("rank|ranking|ranked", Operation("rank"))
_put("list|show|show me|give me|which|what|who|display|name|find|tell me|i need|i want|where", Operation("list"))
_put("when", Operation("list", "date"))
_put("sorted by|ordered by|order by|sort by|in order of|going by", Operation("order"))
_put(
    "highest first|biggest first|largest first|descending|most first|newest first|latest first|most common first|high to low",
    Operation("order", "desc"),
)
_put(
    "lowest first|smallest first|ascending|oldest first|earliest first|cheapest first|low to high",
    Operation("order", "asc", descending=False),
)
_put("alphabetically|in alphabetical order|by name first", Operation("order", "name", descending=False))
_put(
    "contains|containing|contain|in the name|in their name|in its name|in the title|mentioning|with the word",
    Operation("contains"),
)
_put("plot|chart|graph|as a chart|as a line|bar chart|draw|line chart", Operation("chart"))
_put("or|and", Operation("or"))

FILLERS = frozenset(
    {
        "among",
        "amongst",
        "against",
        "but",
        "if",
        "while",
        "because",
        "via",
        "upon",
        "toward",
        "towards",
        "a",
        "about",
        "actually",
        "add",
        "all",
        "already",
        "also",
        "altogether",
        "an",
        "and",
        "any",
        "are",
        "as",
        "at",
        "be",
        "been",
        "being",
        "both",
        "by",
        "came",
        "can",
        "come",
        "comes",
        "could",
        "currently",
        "data",
        "did",
        "do",
        "does",
        "down",
        "each",
        "entire",
        "entries",
        "entry",
        "ever",
        "every",
        "far",
        "for",
        "from",
        "get",
        "give",
        "given",
        "go",
        "going",
        "got",
        "had",
        "happen",
        "happened",
        "has",
        "have",
        "hello",
        "here",
        "hey",
        "hi",
        "how",
        "i",
        "in",
        "instead",
        "into",
        "is",
        "it",
        "its",
        "just",
        "know",
        "let",
        "lets",
        "like",
        "list",
        "look",
        "made",
        "make",
        "makes",
        "me",
        "my",
        "need",
        "now",
        "of",
        "on",
        "one",
        "ones",
        "only",
        "or",
        "our",
        "out",
        "over",
        "overall",
        "own",
        "per",
        "please",
        "pls",
        "really",
        "record",
        "records",
        "right",
        "row",
        "rows",
        "s",
        "same",
        "see",
        "should",
        "show",
        "single",
        "so",
        "some",
        "split",
        "still",
        "table",
        "tell",
        "than",
        "thank",
        "thanks",
        "that",
        "the",
        "their",
        "them",
        "then",
        "there",
        "these",
        "they",
        "this",
        "those",
        "to",
        "too",
        "under",
        "up",
        "us",
        "value",
        "values",
        "very",
        "want",
        "was",
        "we",
        "were",
        "what",
        "what's",
        "whats",
        "which",
        "who",
        "whole",
        "whom",
        "whose",
        "will",
        "with",
        "within",
        "would",
        "you",
        "your",
    }
)
"""Words that carry no meaning of their own; leaving one out is no loss."""

_CONCEPTS = (
    "revenue turnover sales income takings earnings gross billing amount receipts fee",
    "cost expense expenditure spend spending outlay costing",
    "price fee charge tariff pricing",
    "profit gain surplus",
    "customer client buyer shopper patron",
    "employee staff worker colleague headcount people person",
    "salary pay wage compensation remuneration",
    "product article item good merchandise",
    "order purchase booking",
    "supplier vendor provider",
    "rating score satisfaction stars mark",
    "film movie picture",
    "category genre type kind class group",
    "sector industry category branch",
    "country nation",
    "city town",
    "site location office place branch",
    "manager boss supervisor head",
    "date day when time",
    "duration length runtime running",
    "quantity units pieces",
    "company firm business enterprise organisation organization corporation",
    "department division",
    "animal pet patient",
    "visit appointment consultation",
    "vet veterinarian doctor surgeon",
    "gender sex",
    "email mail e-mail address",
    "phone telephone mobile",
    "name title",
    "population inhabitants people",
    "worth value valuation",
    "agent rep representative operator",
    "ticket request case issue enquiry",
    "freight shipping delivery carriage",
    "start begin open hire join sign-up signup opened began joined started hired",
    "end close leave finish left closed ended",
    "clinic practice surgery branch",
    "supply supplies purchase stock",
    "reason cause why",
    "budget plan planned",
    "wait waiting delay late lateness",
    "distance far miles length",
    "weight heavy kilo kilos",
    "age old",
    "director directed",
    "cancelled canceled",
    "paid pay payment",
    "owner keeper holder",
    "attended attendance show shown",
)
_ABBREVIATIONS = {
    "dt": "date",
    "amt": "amount",
    "qty": "quantity",
    "prio": "priority",
    "acct": "account",
    "mgr": "manager",
    "prod": "product",
    "cust": "customer",
    "disc": "discount",
    "emp": "employee",
    "dept": "department",
    "hrs": "hours",
    "temp": "temperature",
    "dep": "departure",
    "arr": "arrival",
    "visib": "visibility",
    "precip": "precipitation",
    "humid": "humidity",
    "pct": "percent",
    "no": "number",
    "nr": "number",
    "num": "number",
    "n": "number",
    "avg": "average",
    "dob": "birth",
    "ord": "order",
    "ret": "return",
    "addr": "address",
    "tel": "telephone",
    "desc": "description",
    "cat": "category",
    "pop": "population",
    "dest": "destination",
    "orig": "origin",
    "mins": "minutes",
    "min": "minutes",
    "sched": "scheduled",
    "ctr": "center",
    "exp": "expected",
    "discont": "discontinued",
    "alt": "altitude",
    "life": "life",
    "percap": "head",
    "abs": "absence",
    "ref": "reference",
    "yr": "year",
    "wt": "weight",
}


def _concept_index() -> dict[str, frozenset[int]]:
    found: dict[str, set[int]] = {}
    for number, words in enumerate(_CONCEPTS):
        for word in words.split():
            found.setdefault(stem(word), set()).add(number)
    return {word: frozenset(numbers) for word, numbers in found.items()}


CONCEPTS = _concept_index()


def expanded(part: str) -> str:
    """An abbreviation in a column's name spelled out; other words as they are."""
    return _ABBREVIATIONS.get(part, part)


def related(one: str, other: str) -> bool:
    """True where two stems stand for one concept."""
    return one == other or bool(CONCEPTS.get(one, frozenset()) & CONCEPTS.get(other, frozenset()))


_PLACES = (
    "france:french,germany:german,spain:spanish,italy:italian,austria:austrian,switzerland:swiss,netherlands:dutch,belgium:belgian,"
    "denmark:danish,sweden:swedish,norway:norwegian,finland:finnish,poland:polish,portugal:portuguese,ireland:irish,greece:greek,"
    "hungary:hungarian,iceland:icelandic,scotland:scottish,wales:welsh,england:english,turkey:turkish,russia:russian,ukraine:ukrainian,"
    "united states:us|usa|american|u.s|america,united kingdom:uk|british|britain,canada:canadian,mexico:mexican,brazil:brazilian,"
    "argentina:argentinian,chile:chilean,china:chinese,japan:japanese,india:indian,south korea:korean,australia:australian,"
    "new zealand:kiwi,israel:israeli,egypt:egyptian,south africa:south-african,nigeria:nigerian,kenya:kenyan,europe:european,"
    "asia:asian,africa:african,oceania:oceanian,americas:american,hong kong:hongkong,singapore:singaporean,thailand:thai,"
    "vietnam:vietnamese,indonesia:indonesian,malaysia:malaysian,philippines:filipino,taiwan:taiwanese,czech republic:czech,romania:romanian"
)


def _demonyms() -> dict[str, tuple[str, ...]]:
    found: dict[str, tuple[str, ...]] = {}
    for pair in _PLACES.split(","):
        place, words = pair.split(":")
        for word in words.split("|"):
            found[word] = (*found.get(word, ()), place)
    return found


DEMONYMS = _demonyms()
"""Names of peoples and short names of countries, with the places they stand for."""
